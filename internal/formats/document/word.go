package document

import (
	"archive/zip"
	"bytes"
	"encoding/xml"
	"errors"
	"io"
	"slices"
	"strconv"
	"strings"
	"unicode"

	"freshapron/internal/core/pattern"
)

// errDamaged is what is said of XML that can't be read.
var errDamaged = errors.New("the document is damaged: open it, copy the text and paste it")

// mostLevels is the deepest level of a list.
const mostLevels = 9

// attribute returns an attribute of an element by its name without the space that it is in.
func attribute(e xml.StartElement, name string) string {
	for _, a := range e.Attr {
		if a.Name.Local == name {
			return a.Value
		}
	}
	return ""
}

// levelOf returns the level of a list, from 0 up, that an attribute gives.
func levelOf(e xml.StartElement, name string) int {
	n, _ := strconv.Atoi(attribute(e, name))
	return min(max(n, 0), mostLevels)
}

// walk calls functions for each element that begins and ends and for the letters within, and leaves out
// the elements that skip names.
func walk(data []byte, skip func(name string) bool, begin func(e xml.StartElement), end func(name string), letters func(s string)) error {
	d := xml.NewDecoder(bytes.NewReader(data))
	for {
		token, err := d.Token()
		if err == io.EOF {
			return nil
		}
		if err != nil {
			return errDamaged
		}
		switch t := token.(type) {
		case xml.StartElement:
			if skip(t.Name.Local) {
				if d.Skip() != nil {
					return errDamaged
				}
				continue
			}
			begin(t)
		case xml.EndElement:
			end(t.Name.Local)
		case xml.CharData:
			letters(string(t))
		}
	}
}

// wordText reads Office Open XML (ECMA-376, part 1): the heads of its pages, once each, and its body. What
// stands at the foot of a page says nothing of a dish.
func wordText(files *zip.Reader) (string, error) {
	counts, err := countedLists(files)
	if err != nil {
		return "", err
	}
	var texts []string
	for _, f := range files.File {
		if !isHead.MatchString(f.Name) || len(texts) == mostHeads {
			continue
		}
		text, err := wordPart(files, f.Name, counts)
		if err != nil {
			return "", err
		}
		if text = strings.TrimSpace(text); strings.ContainsFunc(ofPages.ReplaceAllString(text, ""), unicode.IsLetter) && !slices.Contains(texts, text) {
			texts = append(texts, text)
		}
	}
	body, err := wordPart(files, "word/document.xml", counts)
	return strings.Join(append(texts, body), "\n"), err
}

const mostHeads = 3 // of a document: of its first page, of those on the left and on the right

var (
	isHead  = pattern.Must(`^word/header\d*\.xml$`)
	ofPages = pattern.Must(`(?i)\bpage\b|\bof\b`)
)

// wordPart reads a part of such a document, of whose lists it is known which levels are counted.
func wordPart(files *zip.Reader, name string, counts map[string][mostLevels + 1]bool) (string, error) {
	data, err := part(files, name)
	if err != nil {
		return "", err
	}
	p, count := newPage(), counter{}
	inText := false
	list, level, style := "", 0, ""
	skip := func(name string) bool { // what was taken out, drawn or is said a second time
		return name == "Fallback" || name == "del" || name == "moveFrom" || name == "instrText" || name == "delText"
	}
	err = walk(data, skip, func(e xml.StartElement) {
		switch e.Name.Local {
		case "p":
			p.begin()
			list, level, style = "", 0, ""
		case "t":
			inText = true
		case "tab":
			p.write("\t")
		case "noBreakHyphen":
			p.write("-")
		case "f": // a fraction of a formula
			p.write(" ")
		case "pStyle":
			style = attribute(e, "val")
		case "numId":
			list = attribute(e, "val")
		case "ilvl":
			level = levelOf(e, "val")
		default:
			p.began(e.Name.Local)
		}
	}, func(name string) {
		switch name {
		case "t":
			inText = false
		case "num":
			p.write("/")
		case "p":
			mark := ""
			switch {
			case list != "" && list != "0":
				mark = count.next(list, level, counts[list][level])
			case list == "" && strings.HasPrefix(style, "ListNumber"):
				mark = count.next(style, 0, true)
			case list == "" && strings.HasPrefix(style, "ListBullet"):
				mark = "- "
			}
			if strings.HasPrefix(style, "Heading") || style == "Title" {
				p.add("")
				mark = ""
			}
			p.end(mark)
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

// countedLists says of each list by its number which of its levels are counted, rather than dotted.
func countedLists(files *zip.Reader) (map[string][mostLevels + 1]bool, error) {
	data, err := part(files, "word/numbering.xml")
	if err != nil {
		return nil, err
	}
	kinds, of := map[string][mostLevels + 1]bool{}, map[string]string{}
	kind, number, level := "", "", 0
	err = walk(data, func(string) bool { return false }, func(e xml.StartElement) {
		switch e.Name.Local {
		case "abstractNum":
			kind = attribute(e, "abstractNumId")
		case "lvl":
			level = levelOf(e, "ilvl")
		case "numFmt":
			levels := kinds[kind]
			levels[level] = attribute(e, "val") != "bullet" && attribute(e, "val") != "none"
			kinds[kind] = levels
		case "num":
			number = attribute(e, "numId")
		case "abstractNumId":
			of[number] = attribute(e, "val")
		}
	}, func(string) {}, func(string) {})
	lists := map[string][mostLevels + 1]bool{}
	for number, kind := range of {
		lists[number] = kinds[kind]
	}
	return lists, err
}
