package document

import (
	"encoding/xml"
	"errors"
	"fmt"
	"strings"

	"freshapron/internal/formats/packed"
)

// slidesText reads a presentation of Office Open XML (ECMA-376, part 1): its slides in their order, each with
// its shapes as they stand in the file. What only numbers and dates the slides is left out, and what the
// speaker notes.
func slidesText(files packed.File) (string, error) {
	names, err := slidesOf(files)
	if err != nil {
		return "", err
	}
	var out strings.Builder
	for _, name := range names {
		data, err := files.Part(name)
		if err != nil {
			return "", err
		}
		links, err := files.Linked(name)
		if err != nil {
			return "", err
		}
		text, err := slideText(data, func(id string) ([]string, error) { return drawing(files, links[id]) })
		if err != nil {
			return "", err
		}
		if out.WriteString(text + "\n"); out.Len() > packed.MaxPart {
			return "", packed.ErrTooLong
		}
	}
	return out.String(), nil
}

// slideText reads a slide, whose drawings of steps drawn returns the lines of.
func slideText(data []byte, drawn func(id string) ([]string, error)) (string, error) {
	p, count := newPage(false), counter{}
	inText, furniture := false, false
	shape, at, how := 0, 0, bare
	var failed error
	skip := func(name string) bool { return name == "Fallback" || name == "fld" }
	err := packed.Walk(data, skip, func(e xml.StartElement) {
		switch e.Name.Local {
		case "sp":
			shape++
		case "ph":
			kind := packed.Attribute(e, "type")
			furniture = kind == "ftr" || kind == "sldNum" || kind == "dt"
		case "p":
			p.begin()
			at, how = 0, bare
		case "pPr":
			at = levelOf(e, "lvl")
		case "buAutoNum":
			how = autoNumbered(packed.Attribute(e, "type"), levelBefore(packed.Attribute(e, "startAt")))
		case "buChar":
			how = level{}
		case "t":
			inText = !furniture
		case "relIds":
			if drawn != nil {
				lines, err := drawn(packed.Attribute(e, "dm"))
				failed = errors.Join(failed, err)
				p.add(lines...)
			}
		default:
			p.began(e.Name.Local)
		}
	}, func(name string) {
		switch name {
		case "t":
			inText = false
		case "p":
			var l list
			l[at] = how
			p.end(count.next(fmt.Sprint(shape), at, l))
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
	return p.text(), errors.Join(err, failed)
}

// bare is a level without marks.
var bare = level{bare: true}

// autoNumbered returns a level by what a slide calls its way to number, such as "arabicPeriod".
func autoNumbered(kind string, before int) level {
	for _, as := range []struct{ kind, numbers string }{{"alphaLc", "a"}, {"alphaUc", "A"}, {"romanLc", "i"}, {"romanUc", "I"}} {
		if strings.HasPrefix(kind, as.kind) {
			return level{numbers: as.numbers, before: before}
		}
	}
	return level{numbers: "1", before: before}
}

// slidesOf returns the parts with the slides, in the order in which they are shown.
func slidesOf(files packed.File) (names []string, err error) {
	of, err := files.Linked(presentation)
	if err != nil {
		return nil, err
	}
	err = files.Elements(presentation, func(e xml.StartElement) {
		if e.Name.Local == "sldId" {
			names = append(names, of[packed.Link(e)])
		}
	})
	return names, err
}
