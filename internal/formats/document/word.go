package document

import (
	"encoding/xml"
	"errors"
	"slices"
	"strconv"
	"strings"
	"unicode"

	"freshapron/internal/core/pattern"
	"freshapron/internal/formats/packed"
)

// levelOf returns the level of a list, from 0 up, that an attribute gives.
func levelOf(e xml.StartElement, name string) int {
	n, _ := strconv.Atoi(packed.Attribute(e, name))
	return min(max(n, 0), mostLevels)
}

// wordText reads Office Open XML (ECMA-376, part 1): the heads of its pages, once each, and its body; its notes
// and the feet of its pages apart.
func wordText(files packed.File, table bool) (text string, below []string, err error) {
	w, err := newWord(files, table)
	if err != nil {
		return "", nil, err
	}
	heads, err := w.furniture(isHead)
	if err != nil {
		return "", nil, err
	}
	body, err := w.part("word/document.xml")
	if err != nil {
		return "", nil, err
	}
	for _, name := range []string{"word/footnotes.xml", "word/endnotes.xml"} {
		text, err := w.part(name)
		if err != nil {
			return "", nil, err
		}
		below = append(below, noted(text)...)
	}
	feet, err := w.furniture(isFoot)
	return strings.Join(append(heads, body), "\n"), append(below, feet...), err
}

// noted returns the lines of a note as they stand below the text.
func noted(text string) (lines []string) {
	for l := range strings.Lines(text) {
		if l = strings.TrimSpace(l); l != "" {
			lines = append(lines, "Note: "+l)
		}
	}
	return lines
}

const mostHeads = 3 // of a document: of its first page, of those on the left and on the right

var (
	isHead  = pattern.Must(`^word/header\d*\.xml$`)
	isFoot  = pattern.Must(`^word/footer\d*\.xml$`)
	ofPages = pattern.Must(`(?i)\bpage\b|\bof\b`)
)

// ofPage returns the lines of the heads or feet of pages that say more than which page it is, once each.
func ofPage(texts []string) (lines []string) {
	for _, text := range texts {
		for l := range strings.Lines(text) {
			l = strings.TrimSpace(l)
			if strings.ContainsFunc(ofPages.ReplaceAllString(l, ""), unicode.IsLetter) && !slices.Contains(lines, l) {
				lines = append(lines, l)
			}
		}
	}
	return lines
}

// A word is a document of Office Open XML that is being read.
type word struct {
	files  packed.File
	table  bool // it is one table
	lists  map[string]list
	styles map[string]style
}

// A style of paragraphs: its name, the style that it is like otherwise, and the list that it brings.
type style struct {
	name, like, list string
	level            int
}

func newWord(files packed.File, table bool) (*word, error) {
	w := &word{files, table, map[string]list{}, map[string]style{}}
	if err := w.readLists(); err != nil {
		return nil, err
	}
	id := ""
	err := files.Elements("word/styles.xml", func(e xml.StartElement) {
		s := w.styles[id]
		switch e.Name.Local {
		case "style":
			id, s = packed.Attribute(e, "styleId"), style{}
		case "name":
			s.name = packed.Attribute(e, "val")
		case "basedOn":
			s.like = packed.Attribute(e, "val")
		case "numId":
			s.list = packed.Attribute(e, "val")
		case "ilvl":
			s.level = levelOf(e, "val")
		default:
			return
		}
		w.styles[id] = s
	})
	return w, err
}

// readLists reads how each list by its number is marked.
func (w *word) readLists() error {
	kinds, named, alike := map[string]list{}, map[string]string{}, map[string]string{}
	kind, number, at, before := "", "", 0, 0
	return w.files.Elements("word/numbering.xml", func(e xml.StartElement) {
		set := func(change func(l *level)) {
			if number == "" {
				l := kinds[kind]
				change(&l[at])
				kinds[kind] = l
				return
			}
			l := w.lists[number]
			change(&l[at])
			w.lists[number] = l
		}
		value := packed.Attribute(e, "val")
		switch e.Name.Local {
		case "abstractNum":
			kind, number = packed.Attribute(e, "abstractNumId"), ""
		case "styleLink":
			named[value] = kind
		case "numStyleLink":
			alike[kind] = value
		case "num":
			number = packed.Attribute(e, "numId")
		case "abstractNumId":
			if as, ok := alike[value]; ok {
				value = named[as]
			}
			w.lists[number] = kinds[value]
		case "lvl", "lvlOverride":
			at, before = levelOf(e, "ilvl"), 0
		case "start":
			before = levelBefore(value)
		case "numFmt":
			set(func(l *level) { *l = numbered(value, before) })
		case "startOverride":
			set(func(l *level) { l.before = levelBefore(value) })
		}
	})
}

// levelBefore returns the number before that with which a level begins.
func levelBefore(start string) int {
	n, err := strconv.Atoi(start)
	if err != nil {
		return 0
	}
	return n - 1
}

// styled returns the list that a style brings, at which level, and whether it is that of a heading.
func (w *word) styled(id string) (list string, at int, heading bool) {
	name := id
	if s, ok := w.styles[id]; ok {
		name = s.name
	}
	name = strings.ToLower(name)
	heading = strings.HasPrefix(name, "heading") || name == "title"
	for range mostLevels {
		s := w.styles[id]
		if s.list != "" {
			return s.list, s.level, heading
		}
		id = s.like
	}
	return "", 0, heading
}

// furniture returns what the heads or feet of the pages say.
func (w *word) furniture(which *pattern.Pattern) ([]string, error) {
	var texts []string
	for _, f := range w.files.File {
		if !which.MatchString(f.Name) || len(texts) == mostHeads {
			continue
		}
		text, err := w.part(f.Name)
		if err != nil {
			return nil, err
		}
		if !slices.Contains(texts, text) {
			texts = append(texts, text)
		}
	}
	return ofPage(texts), nil
}

// symbols are the signs of two fonts that stand for others than their numbers.
var symbols = map[string]string{
	"Symbol F0B0": "°", "Symbol F0B4": "×", "Symbol F0B7": "•",
	"Wingdings F06F": "☐", "Wingdings F0A8": "☐", "Wingdings F071": "☐", "Wingdings F0FC": "✓", "Wingdings F0FE": "☑", "Wingdings F0E0": "→",
}

// part reads a part of the document.
func (w *word) part(name string) (string, error) {
	data, err := w.files.Part(name)
	if err != nil {
		return "", err
	}
	links, err := w.files.Linked(name)
	if err != nil {
		return "", err
	}
	p, count := newPage(w.table), counter{}
	inText, hidden := false, false
	list, level, styleID := "", 0, ""
	wide, covered := 1, false // the cell that is open
	var empty []bool          // the fields that are open: whether nobody has filled them in
	var drawn error
	skip := func(name string) bool { // what was taken out, drawn or is said a second time
		unfilled := name == "sdtContent" && len(empty) > 0 && empty[len(empty)-1]
		return unfilled || name == "Fallback" || name == "del" || name == "moveFrom" || name == "instrText" || name == "delText"
	}
	err = packed.Walk(data, skip, func(e xml.StartElement) {
		switch e.Name.Local {
		case "p":
			p.begin()
			list, level, styleID = "", 0, ""
		case "tc":
			p.beginCell()
			wide, covered = 1, false
		case "gridSpan":
			wide, _ = strconv.Atoi(packed.Attribute(e, "val"))
		case "vMerge":
			covered = packed.Attribute(e, "val") != "restart"
		case "sdt":
			empty = append(empty, false)
		case "showingPlcHdr":
			if n := len(empty); n > 0 {
				empty[n-1] = true
			}
		case "r":
			hidden = false
		case "vanish":
			hidden = packed.Attribute(e, "val") != "0" && packed.Attribute(e, "val") != "false"
		case "t":
			inText = !hidden
		case "sym":
			p.write(symbols[packed.Attribute(e, "font")+" "+strings.ToUpper(packed.Attribute(e, "char"))])
		case "tab":
			p.write("\t")
		case "noBreakHyphen":
			p.write("-")
		case "f": // a fraction of a formula
			p.write(" ")
		case "pStyle":
			styleID = packed.Attribute(e, "val")
		case "numId":
			list = packed.Attribute(e, "val")
		case "ilvl":
			level = levelOf(e, "val")
		case "relIds": // of steps that are drawn
			lines, err := drawing(w.files, links[packed.Attribute(e, "dm")])
			drawn = errors.Join(drawn, err)
			p.add(lines...)
		default:
			p.began(e.Name.Local)
		}
	}, func(name string) {
		switch name {
		case "t":
			inText = false
		case "num":
			p.write("/")
		case "tc":
			if covered {
				p.endCovered(wide)
			} else {
				p.endWide(wide)
			}
			wide, covered = 1, false
		case "sdt":
			empty = empty[:max(len(empty)-1, 0)]
		case "p":
			brought, at, heading := w.styled(styleID)
			if list == "" && brought != "" {
				list, level = brought, max(level, at)
			}
			mark := ""
			switch {
			case heading:
				p.add("")
			case list != "" && list != "0":
				mark = count.next(list, level, w.lists[list])
			case list == "" && strings.HasPrefix(styleID, "ListNumber"):
				mark = count.next(styleID, 0, ofNumbers)
			case list == "" && strings.HasPrefix(styleID, "ListBullet"):
				mark = "- "
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
	return p.text(), errors.Join(err, drawn)
}

// ofNumbers is a list all of whose levels are numbered.
var ofNumbers = func() (l list) {
	for i := range l {
		l[i] = numbered("decimal", 0)
	}
	return l
}()

// drawing returns the lines of a drawing of steps or of parts that the word processor made from a list.
func drawing(files packed.File, name string) ([]string, error) {
	data, err := files.Part(name)
	if err != nil {
		return nil, err
	}
	text, err := slideText(data, nil)
	return strings.Split(text, "\n"), err
}
