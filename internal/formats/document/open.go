package document

import (
	"archive/zip"
	"encoding/xml"
	"strconv"
	"strings"
)

// openText reads OpenDocument text (ISO/IEC 26300).
func openText(files *zip.Reader) (string, error) {
	data, err := part(files, "content.xml")
	if err != nil {
		return "", err
	}
	p, count := newPage(), counter{}
	counted := map[string]bool{} // lists by their styles, of which the first level is
	style := ""                  // whose levels are told
	var lists []string           // that are open, by their styles
	repeated := 0                // how often the cell stands in its row
	fresh := false               // the next paragraph is the first of its item
	skip := func(name string) bool {
		return name == "annotation" || name == "tracked-changes" || name == "note" || name == "title" || name == "desc" || name == "sequence-decls"
	}
	err = walk(data, skip, func(e xml.StartElement) {
		switch e.Name.Local {
		case "list-style":
			style = attribute(e, "name")
		case "list-level-style-number":
			if attribute(e, "level") == "1" && attribute(e, "num-format") != "" {
				counted[style] = true
			}
		case "h", "p":
			if e.Name.Local == "h" {
				p.add("")
			}
			p.begin()
		case "s":
			n, err := strconv.Atoi(attribute(e, "c"))
			if err != nil {
				n = 1
			}
			p.write(strings.Repeat(" ", min(max(n, 1), 80)))
		case "tab":
			p.write("\t")
		case "line-break":
			p.write("\n")
		case "list":
			name := attribute(e, "style-name")
			if name == "" && len(lists) > 0 {
				name = lists[len(lists)-1]
			}
			if attribute(e, "continue-numbering") != "true" && attribute(e, "continue-list") == "" && len(lists) == 0 {
				delete(count, name)
			}
			lists = append(lists, name)
		case "list-item":
			fresh = true
		case "table":
			p.beginTable()
		case "table-row":
			p.beginRow()
		case "table-cell":
			p.beginCell()
			repeated, _ = strconv.Atoi(attribute(e, "number-columns-repeated"))
		}
	}, func(name string) {
		switch name {
		case "h":
			p.end("")
		case "p":
			mark := ""
			if fresh && len(lists) > 0 {
				mark = count.next(lists[len(lists)-1], len(lists)-1, counted[lists[len(lists)-1]])
			}
			fresh = false
			p.end(mark)
		case "list":
			if len(lists) > 0 {
				lists = lists[:len(lists)-1]
			}
		case "table-cell":
			p.endCell(repeated)
		case "table":
			p.endTable()
		}
	}, func(s string) {
		p.write(strings.Join(strings.FieldsFunc(s, func(r rune) bool { return r == '\n' || r == '\r' }), " "))
	})
	return p.text(), err
}
