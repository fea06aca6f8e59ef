package document

import (
	"encoding/xml"
	"strconv"
	"strings"

	"freshapron/internal/formats/packed"
)

// openText reads OpenDocument text (ISO/IEC 26300): the heads of its pages, once each, and its body; its notes
// and the feet of its pages apart.
func openText(files packed.File, table bool) (text string, below []string, err error) {
	o := &open{table: table, lists: map[string]list{}}
	if err := o.read(files, "styles.xml"); err != nil {
		return "", nil, err
	}
	err = o.read(files, "content.xml")
	return strings.Join(append(ofPage(o.heads), o.page.text()), "\n"), append(o.notes, ofPage(o.feet)...), err
}

// An open is an OpenDocument that is being read.
type open struct {
	*page
	lists       map[string]list // by their styles
	numbers     counter
	style       string   // of a list, whose levels are told
	nested      []string // the lists that are open, by their styles
	table       bool     // it is one table
	times       int      // that the cell stands in its row
	width       int      // in cells
	covered     int      // cells to come that are part of the one before
	fresh       bool     // the next paragraph is the first of its item
	outside     []around // of what stands apart from the text
	heads, feet []string
	notes       []string
}

// An around is what goes on behind a head, a foot or a note.
type around struct {
	page   *page
	nested []string
	fresh  bool
}

func (o *open) read(files packed.File, name string) error {
	data, err := files.Part(name)
	if err != nil {
		return err
	}
	o.page, o.numbers, o.nested = newPage(o.table), counter{}, nil
	skip := func(name string) bool {
		switch name {
		case "annotation", "tracked-changes", "note-citation", "notes", "title", "desc", "sequence-decls", "page-number", "page-count":
			return true
		}
		return false
	}
	return packed.Walk(data, skip, o.begin, o.end, func(s string) {
		o.write(strings.Join(strings.FieldsFunc(s, func(r rune) bool { return r == '\n' || r == '\r' }), " "))
	})
}

func (o *open) begin(e xml.StartElement) {
	switch e.Name.Local {
	case "list-style":
		o.style = packed.Attribute(e, "name")
	case "list-level-style-number":
		o.tell(e, level{numbers: packed.Attribute(e, "num-format"), bare: packed.Attribute(e, "num-format") == "", before: levelBefore(packed.Attribute(e, "start-value"))})
	case "list-level-style-bullet":
		o.tell(e, level{})
	case "header", "header-left", "header-first", "footer", "footer-left", "footer-first", "note":
		o.outside = append(o.outside, around{o.page, o.nested, o.fresh})
		o.page, o.nested, o.fresh = newPage(o.table), nil, false
	case "h":
		o.add("")
		o.page.begin()
	case "p":
		o.page.begin()
	case "s":
		n, err := strconv.Atoi(packed.Attribute(e, "c"))
		if err != nil {
			n = 1
		}
		o.write(strings.Repeat(" ", min(max(n, 1), 80)))
	case "tab":
		o.write("\t")
	case "line-break":
		o.write("\n")
	case "list":
		o.beginList(e)
	case "list-item":
		o.fresh = true
		if n, err := strconv.Atoi(packed.Attribute(e, "start-value")); err == nil {
			name, at := o.listNow()
			o.numbers.from(name, at, n, o.lists[name])
		}
	case "table":
		o.beginTable()
	case "table-row":
		o.beginRow()
		o.covered = 0
	case "table-cell", "covered-table-cell":
		o.beginCell()
		o.times, _ = strconv.Atoi(packed.Attribute(e, "number-columns-repeated"))
		o.width, _ = strconv.Atoi(packed.Attribute(e, "number-columns-spanned"))
	}
}

// tell says how a level of the list style that is open is marked.
func (o *open) tell(e xml.StartElement, how level) {
	l := o.lists[o.style]
	l[max(levelOf(e, "level")-1, 0)] = how
	o.lists[o.style] = l
}

func (o *open) beginList(e xml.StartElement) {
	name := packed.Attribute(e, "style-name")
	if n := len(o.nested); name == "" && n > 0 {
		name = o.nested[n-1]
	}
	if packed.Attribute(e, "continue-numbering") != "true" && packed.Attribute(e, "continue-list") == "" && len(o.nested) == 0 {
		delete(o.numbers, name)
	}
	o.nested = append(o.nested, name)
}

// listNow returns the style of the list that is open, and its level.
func (o *open) listNow() (string, int) {
	n := len(o.nested)
	if n == 0 {
		return "", 0
	}
	return o.nested[n-1], min(n-1, mostLevels)
}

func (o *open) end(name string) {
	switch name {
	case "h":
		o.page.end("")
	case "p":
		mark := ""
		if o.fresh && len(o.nested) > 0 {
			name, at := o.listNow()
			mark = o.numbers.next(name, at, o.lists[name])
		}
		o.fresh = false
		o.page.end(mark)
	case "list":
		o.nested = o.nested[:max(len(o.nested)-1, 0)]
	case "table-cell":
		if o.width > 1 {
			o.covered = o.width - 1
			o.endWide(o.width)
		} else {
			o.endCell(o.times)
		}
	case "covered-table-cell":
		beside := min(o.covered, max(o.times, 1))
		o.covered -= beside
		if above := max(o.times, 1) - beside; above > 0 {
			o.endCovered(above)
		} else {
			o.closeCell()
		}
	case "table":
		o.endTable()
	case "header", "header-left", "header-first":
		o.heads = append(o.heads, o.aside())
	case "footer", "footer-left", "footer-first":
		o.feet = append(o.feet, o.aside())
	case "note":
		o.notes = append(o.notes, noted(o.aside())...)
	}
}

// aside ends what stands apart from the text, and returns it.
func (o *open) aside() string {
	n := len(o.outside)
	if n == 0 {
		return ""
	}
	text, back := o.page.text(), o.outside[n-1]
	o.page, o.nested, o.fresh, o.outside = back.page, back.nested, back.fresh, o.outside[:n-1]
	return text
}
