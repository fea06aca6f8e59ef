package table

import (
	"bytes"
	"encoding/xml"
	"errors"
	"slices"
	"strconv"
	"strings"
	"unicode/utf8"

	"github.com/xuri/excelize/v2"

	"freshapron/internal/core/pattern"
	"freshapron/internal/formats/packed"
)

// errNoBook is what is said of a spreadsheet that can't be read.
var errNoBook = errors.New("this is no XLSX file, or it is damaged: save the list anew as XLSX or CSV")

// bookPart is the part that a workbook has.
const bookPart = "xl/workbook.xml"

// A workbook is a spreadsheet that is open.
type workbook struct {
	*excelize.File
	parts packed.File
	paths map[string]string // of the sheets
}

func openBook(data []byte) (*workbook, error) {
	f, err := excelize.OpenReader(bytes.NewReader(data), excelize.Options{UnzipSizeLimit: maxUnzip, UnzipXMLSizeLimit: maxPart,
		ShortDatePattern: "yyyy-mm-dd", LongDatePattern: "yyyy-mm-dd", LongTimePattern: "hh:mm"})
	if err != nil {
		return nil, errNoBook
	}
	parts, err := packed.Open(data)
	if err != nil {
		return nil, errNoBook
	}
	links, err := parts.Linked(bookPart)
	if err != nil {
		return nil, errNoBook
	}
	b := &workbook{f, parts, map[string]string{}}
	err = parts.Elements(bookPart, func(e xml.StartElement) {
		if e.Name.Local == "sheet" {
			b.paths[packed.Attribute(e, "name")] = links[packed.Link(e)]
		}
	})
	return b, err
}

// A sheet is what one of a workbook holds.
type sheet struct {
	name  string
	lines []Line
	rows  int // those that make a table
}

// Rows that make a table: more than a cover has, and at least.
const (
	manyRows = 3
	someRows = 2
)

// spreadsheet reads the first sheet that can be seen and holds a table, rather than a cover or nothing. What a
// formula last gave is taken; nothing is calculated.
func spreadsheet(data []byte) ([]Line, error) {
	b, err := openBook(data)
	if err != nil {
		return nil, err
	}
	defer b.Close() //nolint:errcheck // it is only read
	s, _, err := b.sheets()
	return s.lines, err
}

// Unread names the other sheets of a workbook that hold tables too, of which only one is read.
func Unread(data []byte) (names []string) {
	if !isZipped(data) {
		return nil
	}
	b, err := openBook(data)
	if err != nil {
		return nil
	}
	defer b.Close() //nolint:errcheck // it is only read
	if len(b.visible()) < 2 {
		return nil
	}
	_, others, err := b.sheets()
	if err != nil {
		return nil
	}
	for _, s := range others {
		if s.rows >= someRows {
			names = append(names, s.name)
		}
	}
	return names
}

// visible names the sheets that can be seen.
func (b *workbook) visible() []string {
	return slices.DeleteFunc(b.GetSheetList(), func(name string) bool {
		seen, err := b.GetSheetVisible(name)
		return err != nil || !seen
	})
}

// sheets reads the sheets, and parts the one that is taken from the others.
func (b *workbook) sheets() (taken sheet, others []sheet, err error) {
	var all []sheet
	for _, name := range b.visible() {
		lines, err := b.lines(name)
		if err != nil {
			return sheet{}, nil, err
		}
		if s := (sheet{name, lines, tableRows(lines)}); len(filled(slices.Clone(lines))) > 0 {
			all = append(all, s)
		}
	}
	at := slices.IndexFunc(all, func(s sheet) bool { return s.rows >= manyRows })
	if at < 0 {
		for i, s := range all {
			if at < 0 || s.rows > all[at].rows {
				at = i
			}
		}
	}
	if at < 0 {
		return sheet{}, nil, nil
	}
	return all[at], slices.Delete(slices.Clone(all), at, at+1), nil
}

// tableRows counts the rows of several cells; of a single column those that may be names.
func tableRows(lines []Line) int {
	const nameLength, names = 40, 4
	several, short := 0, 0
	for _, l := range lines {
		n, longest := 0, 0
		for _, c := range l.Cells {
			if c = strings.TrimSpace(c); c != "" {
				n++
				longest = max(longest, utf8.RuneCountInString(c))
			}
		}
		switch {
		case n > 1:
			several++
		case n == 1 && longest <= nameLength:
			short++
		}
	}
	if several == 0 && short >= names {
		return short
	}
	return several
}

// lines reads a sheet. Numbers are as they are kept, and days and hours as they are shown; what is one cell over
// several stands in each of them.
func (b *workbook) lines(name string) ([]Line, error) {
	kept, err := b.Rows(name)
	if err != nil {
		return nil, nil // a chart has no rows
	}
	shown, err := b.Rows(name)
	if err != nil {
		return nil, nil
	}
	damaged := errors.New("the spreadsheet is damaged: save the list anew as XLSX or CSV")
	var out []Line
	for kept.Next() && shown.Next() {
		row, err := kept.Columns(excelize.Options{RawCellValue: true})
		if err != nil {
			return nil, damaged
		}
		// A cell far to the right makes a row of thousands: it is looked at
		// before the next is read, and what is kept of it is its own.
		if row, err = narrow(row, len(out)+1); err != nil {
			return nil, err
		}
		looks, err := shown.Columns()
		if err != nil {
			return nil, damaged
		}
		cells := make([]string, len(row))
		for i, c := range row {
			cells[i] = c
			if i < len(looks) {
				cells[i] = cellOf(c, looks[i])
			}
		}
		if out = append(out, Line{len(out) + 1, cells}); len(out) > MaxRows*4 {
			return nil, tooMany(len(out))
		}
	}
	b.spread(name, out)
	return out, nil
}

var (
	moment   = pattern.Must(`(?i)^\d{1,4}[-/. ]\d{1,2}[-/. ]\d{2,4}\b|^\d{1,2}:\d{2}\b|\b(?:jan|feb|mar|apr|may|june?|july?|aug|sept?|oct|nov|dec)[a-z]*\b`)
	midnight = pattern.Must(`(?i)^(.*\d{4}.*?)[ T,]+(?:0?0:00(?::00)?|12:00(?::00)? am)$`)
	seconds  = pattern.Must(`^(\d{1,2}:\d{2}):\d{2}\b`)
)

const mostSure = 15 // digits of a number

// cellOf returns a cell by what is kept of it and how it is shown.
func cellOf(kept, shown string) string {
	number, err := strconv.ParseFloat(kept, 64)
	switch {
	case err != nil:
		return kept
	case shown == "TRUE" || shown == "FALSE":
		return shown
	case shown != kept && moment.MatchString(shown):
		return seconds.ReplaceAllString(midnight.ReplaceAllString(shown, "$1"), "$1")
	case len(kept) > mostSure && !strings.ContainsAny(kept, "eE"): // 2.4900000000000002
		return strconv.FormatFloat(number, 'g', mostSure, 64)
	}
	return kept
}

// spread puts what is one cell over several into each of them, but for a title, beside which there is nothing.
func (b *workbook) spread(name string, lines []Line) {
	data, err := b.parts.Part(b.paths[name])
	if err != nil { // too long for a list of people
		return
	}
	_, ranges, _ := bytes.Cut(data, []byte("mergeCells"))
	for _, m := range merged.FindAllStringSubmatch(string(ranges), -1) {
		x1, y1, err1 := excelize.CellNameToCoordinates(m[1])
		x2, y2, err2 := excelize.CellNameToCoordinates(m[2])
		if err1 != nil || err2 != nil || y1 > len(lines) || x1 > len(lines[y1-1].Cells) {
			continue
		}
		cells := lines[y1-1].Cells
		says := cells[x1-1]
		if x2 = min(x2, maxCells); x2 > x1 && !slices.ContainsFunc(slices.Concat(cells[:x1-1], cells[min(x2, len(cells)):]), func(c string) bool { return strings.TrimSpace(c) != "" }) {
			x2 = x1
		}
		for y := y1; y <= min(y2, len(lines)); y++ {
			l := &lines[y-1]
			for len(l.Cells) < x2 {
				l.Cells = append(l.Cells, "")
			}
			for x := x1; x <= x2; x++ {
				l.Cells[x-1] = says
			}
		}
	}
}

var merged = pattern.Must(`mergeCell [^>]*?ref="([A-Z]+\d+):([A-Z]+\d+)"`)
