package document

import (
	"archive/zip"
	"encoding/xml"
	"fmt"
	"strings"
)

// slidesText reads a presentation of Office Open XML (ECMA-376, part 1): its slides in their order, each with
// its shapes as they stand in the file. What only numbers and dates the slides is left out, and what the
// speaker notes.
func slidesText(files *zip.Reader) (string, error) {
	names, err := slidesOf(files)
	if err != nil {
		return "", err
	}
	var out strings.Builder
	for _, name := range names {
		data, err := part(files, name)
		if err != nil {
			return "", err
		}
		text, err := slideText(data)
		if err != nil {
			return "", err
		}
		if out.WriteString(text + "\n"); out.Len() > maxUnzip {
			return "", errTooLong
		}
	}
	return out.String(), nil
}

func slideText(data []byte) (string, error) {
	p, count := newPage(), counter{}
	inText, furniture := false, false
	shape, level, counted, marked := 0, 0, false, false
	skip := func(name string) bool { return name == "Fallback" || name == "fld" }
	err := walk(data, skip, func(e xml.StartElement) {
		switch e.Name.Local {
		case "sp":
			shape++
		case "ph":
			kind := attribute(e, "type")
			furniture = kind == "ftr" || kind == "sldNum" || kind == "dt"
		case "p":
			p.begin()
			level, counted, marked = 0, false, false
		case "pPr":
			level = levelOf(e, "lvl")
		case "buAutoNum":
			counted = true
		case "buChar":
			marked = true
		case "t":
			inText = !furniture
		default:
			p.began(e.Name.Local)
		}
	}, func(name string) {
		switch name {
		case "t":
			inText = false
		case "p":
			mark := ""
			if counted || marked {
				mark = count.next(fmt.Sprint(shape), level, counted)
			}
			p.end(mark)
		case "sp":
			furniture = false
			p.add("")
		default:
			p.ended(name)
		}
	}, func(s string) {
		if inText {
			p.write(s)
		}
	})
	return p.text(), err
}

// slidesOf returns the parts with the slides, in the order in which they are shown.
func slidesOf(files *zip.Reader) (names []string, err error) {
	of := map[string]string{} // parts by what the presentation calls them
	links, err := part(files, "ppt/_rels/presentation.xml.rels")
	if err != nil {
		return nil, err
	}
	none := func(string) bool { return false }
	err = walk(links, none, func(e xml.StartElement) {
		if e.Name.Local == "Relationship" {
			of[attribute(e, "Id")] = "ppt/" + strings.TrimPrefix(attribute(e, "Target"), "/ppt/")
		}
	}, func(string) {}, func(string) {})
	if err != nil {
		return nil, err
	}
	shown, err := part(files, presentation)
	if err != nil {
		return nil, err
	}
	err = walk(shown, none, func(e xml.StartElement) {
		if e.Name.Local != "sldId" {
			return
		}
		for _, a := range e.Attr { // beside its own number, which is called id too
			if a.Name.Local == "id" && a.Name.Space != "" {
				names = append(names, of[a.Value])
			}
		}
	}, func(string) {}, func(string) {})
	return names, err
}
