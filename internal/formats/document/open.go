package document

import (
	"archive/zip"
	"encoding/xml"
	"strconv"
	"strings"
)

// openText reads OpenDocument text (ISO/IEC 26300): the heads of its pages, once each, and its body; its notes
// and the feet of its pages apart.
func openText(files *zip.Reader) (text string, below []string, err error) {
	o := &open{lists: map[string]list{}}
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
	repeated    int      // how often the cell stands in its row
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

func (o *open) read(files *zip.Reader, name string) error {
	data, err := part(files, name)
	if err != nil {
		return err
	}
	o.page, o.numbers, o.nested = newPage(), counter{}, nil
	skip := func(name string) bool {
		switch name {
		case "annotation", "tracked-changes", "note-citation", "notes", "title", "desc", "sequence-decls", "page-number", "page-count":
			return true
		}
		return false
	}
	return walk(data, skip, o.begin, o.end, func(s string) {
		o.write(strings.Join(strings.FieldsFunc(s, func(r rune) bool { return r == '\n' || r == '\r' }), " "))
	})
}

func (o *open) begin(e xml.StartElement) {
	switch e.Name.Local {
	case "list-style":
		o.style = attribute(e, "name")
	case "list-level-style-number":
		o.tell(e, level{numbers: attribute(e, "num-format"), bare: attribute(e, "num-format") == "", before: levelBefore(attribute(e, "start-value"))})
	case "list-level-style-bullet":
		o.tell(e, level{})
	case "header", "header-left", "header-first", "footer", "footer-left", "footer-first", "note":
		o.outside = append(o.outside, around{o.page, o.nested, o.fresh})
		o.page, o.nested, o.fresh = newPage(), nil, false
	case "h":
		o.add("")
		o.page.begin()
	case "p":
		o.page.begin()
	case "s":
		n, err := strconv.Atoi(attribute(e, "c"))
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
		if n, err := strconv.Atoi(attribute(e, "start-value")); err == nil {
			name, at := o.listNow()
			o.numbers.from(name, at, n, o.lists[name])
		}
	case "table":
		o.beginTable()
	case "table-row":
		o.beginRow()
	case "table-cell":
		o.beginCell()
		o.repeated, _ = strconv.Atoi(attribute(e, "number-columns-repeated"))
	}
}

// tell says how a level of the list style that is open is marked.
func (o *open) tell(e xml.StartElement, how level) {
	l := o.lists[o.style]
	l[max(levelOf(e, "level")-1, 0)] = how
	o.lists[o.style] = l
}

func (o *open) beginList(e xml.StartElement) {
	name := attribute(e, "style-name")
	if n := len(o.nested); name == "" && n > 0 {
		name = o.nested[n-1]
	}
	if attribute(e, "continue-numbering") != "true" && attribute(e, "continue-list") == "" && len(o.nested) == 0 {
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
		o.endCell(o.repeated)
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
