// Package table reads and writes tables as people have them: pasted, as CSV
// in whatever encoding and with whatever separator, or as XLSX.
package table

import (
	"bytes"
	"encoding/csv"
	"errors"
	"fmt"
	"io"
	"slices"
	"strings"
	"unicode/utf8"

	"github.com/xuri/excelize/v2"

	"freshapron/internal/core/pattern"
	"freshapron/internal/core/words"
	"freshapron/internal/formats/document"
	"freshapron/internal/formats/packed"
)

// Limits of what is read.
const (
	MaxBytes = 10 << 20
	MaxRows  = 12_000
	maxCells = 60                                    // in a row
	widest   = 5000                                  // separators in a line, those in quotes too
	maxCell  = 500                                   // letters in a cell
	longest  = maxCells*maxCell*utf8.UTFMax + widest // bytes in a line
	maxUnzip = 32 << 20                              // bytes of a spreadsheet when it is unpacked
	maxPart  = 8 << 20                               // bytes of one of its parts in memory; a larger one goes through a file
)

// A Line is a row with the line of the file, or the row of the sheet, where it begins.
type Line struct {
	At    int
	Cells []string
}

// Lines reads a table. Rows without a word are left out; every row has as many cells as
// the widest. The error says in a sentence what is wrong.
func Lines(data []byte) ([]Line, error) {
	if len(data) > MaxBytes {
		return nil, fmt.Errorf("the file has %d MB, and at most %d MB are read: take it in parts", len(data)>>20, MaxBytes>>20)
	}
	var rows []Line
	var err error
	switch {
	case document.IsDocument(data):
		var text string
		if text, err = document.List(data); err == nil {
			rows, err = separated(text)
		}
	case isZipped(data):
		rows, err = spreadsheet(data)
	case isOther(data) != "":
		return nil, fmt.Errorf("this is %s, not a table: save the list as CSV or XLSX, or paste it", isOther(data))
	default:
		rows, err = separated(document.Decoded(data))
	}
	if err != nil {
		return nil, err
	}
	return square(rows)
}

// Read is Lines where nobody asks for the lines of the file.
func Read(data []byte) ([][]string, error) {
	lines, err := Lines(data)
	if err != nil {
		return nil, err
	}
	rows := make([][]string, len(lines))
	for i, l := range lines {
		rows[i] = l.Cells
	}
	return rows, nil
}

// Text returns the text of a file that is no spreadsheet; false for a spreadsheet.
func Text(data []byte) (string, bool) {
	if document.IsDocument(data) {
		text, err := document.List(data)
		return inOurSigns(text), err == nil
	}
	if isZipped(data) {
		return "", false
	}
	return inOurSigns(document.Decoded(data)), true
}

// IsBook reports whether a file is a workbook.
func IsBook(data []byte) bool {
	if !isZipped(data) {
		return false
	}
	files, err := packed.Open(data)
	return err == nil && files.Has(bookPart)
}

func isZipped(data []byte) bool { return bytes.HasPrefix(data, []byte(packed.Begins)) }

// isOther names what the file is instead of a table; empty where it may be one.
func isOther(data []byte) string {
	if bytes.HasPrefix(data, []byte("<!DOCTYPE")) || bytes.HasPrefix(data, []byte("<html")) {
		return "a web page"
	}
	return document.Other(data)
}

// inOurLines is a text whose lines end as ours.
func inOurLines(text string) string {
	return strings.ReplaceAll(strings.ReplaceAll(text, "\r\n", "\n"), "\r", "\n")
}

// inOurSigns is a text in our signs and lines.
func inOurSigns(text string) string {
	text = words.Plain(inOurLines(text))
	if strings.Contains(text, " \n") || strings.HasSuffix(text, " ") {
		text = atLineEnd.ReplaceAllString(text, "")
	}
	return text
}

// atLineEnd are spaces that nobody sees, and behind which a quotation mark would not close.
var atLineEnd = pattern.Must(`(?m) +$`)

// separated reads what is separated by commas, semicolons, tabs, bars or, where nothing
// else is, by two spaces or more.
func separated(text string) ([]Line, error) {
	text = inOurLines(text)
	if err := endless(text); err != nil {
		return nil, err
	}
	text = inOurSigns(text)
	if laid := barred(text); laid != "" {
		return cells(laid, '\t')
	}
	if !strings.ContainsAny(text, "\t;") {
		if laid := spaced(text); laid != "" {
			return cells(laid, '\t')
		}
	}
	sep := separator(text)
	rows, err := cells(text, sep)
	if err == nil && sep == '\t' && byHand(rows) {
		if laid := spaced(expanded(text)); laid != "" {
			return cells(laid, '\t')
		}
	}
	return rows, err
}

// endless says where a text has more lines, or a longer one, than any table that is read.
func endless(text string) error {
	if n := strings.Count(text, "\n"); n > MaxRows*4 {
		return tooMany(n + 1)
	}
	at := 0
	for line := range strings.Lines(text) {
		if at++; len(line) > longest {
			return fmt.Errorf("row %d has %d letters, and at most %d cells with %d letters each are read", at, utf8.RuneCountInString(line), maxCells, maxCell)
		}
	}
	return nil
}

// cells reads what a separator separates.
func cells(text string, sep rune) ([]Line, error) {
	at := 0
	for line := range strings.Lines(text) { // before cells are made of them
		if at++; strings.Count(line, string(sep)) > widest {
			return nil, fmt.Errorf("row %d has more than %d cells, and at most %d are read", at, widest, maxCells)
		}
	}
	r := csv.NewReader(strings.NewReader(text))
	r.Comma, r.FieldsPerRecord, r.LazyQuotes = sep, -1, true
	var rows []Line
	for {
		row, err := r.Read()
		if errors.Is(err, io.EOF) {
			return rows, nil
		}
		if err != nil {
			return nil, fmt.Errorf("the table can't be read: %w", err)
		}
		at, _ := r.FieldPos(0)
		rows = append(rows, Line{at, row})
	}
}

func tooMany(n int) error {
	return fmt.Errorf("there are %d rows, and at most %d are taken at once: bring them in in parts", n, MaxRows)
}

// separator finds what separates the cells: what most of the first lines have
// several of, outside quotes. The very first may be a title.
func separator(text string) rune {
	lines := strings.SplitN(text, "\n", 12)
	best, most := ',', 0
	for _, sep := range []rune{'\t', ';', ','} {
		var counts []int
		for _, l := range lines[:min(len(lines), 11)] {
			if strings.TrimSpace(l) != "" {
				counts = append(counts, outside(l, sep))
			}
		}
		if len(counts) == 0 {
			continue
		}
		first := counts[0]
		slices.Sort(counts)
		if score := 2*counts[len(counts)/2] + first; score > most {
			best, most = sep, score
		}
	}
	return best
}

func outside(line string, sep rune) int {
	n, quoted := 0, false
	for _, r := range line {
		switch {
		case r == '"':
			quoted = !quoted
		case r == sep && !quoted:
			n++
		}
	}
	return n
}

// filled leaves out rows without a word.
func filled(rows []Line) []Line {
	return slices.DeleteFunc(rows, func(row Line) bool {
		return !slices.ContainsFunc(row.Cells, func(c string) bool { return strings.TrimSpace(c) != "" })
	})
}

// narrow leaves out the empty cells at the end of a row, and refuses one that
// is too wide all the same.
func narrow(row []string, n int) ([]string, error) {
	for len(row) > 0 && strings.TrimSpace(row[len(row)-1]) == "" {
		row = row[:len(row)-1]
	}
	if len(row) > maxCells {
		return nil, fmt.Errorf("row %d has %d cells, and at most %d are read", n, len(row), maxCells)
	}
	return row, nil
}

// square cleans the cells and makes every row as wide as the widest.
func square(rows []Line) ([]Line, error) {
	rows = filled(rows)
	if len(rows) == 0 {
		return nil, errors.New("there is nothing in it: paste the list, or choose another file")
	}
	if len(rows) > MaxRows+1 {
		return nil, tooMany(len(rows))
	}
	wide := 0
	for i, row := range rows {
		cells, err := narrow(row.Cells, i+1)
		if err != nil {
			return nil, err
		}
		rows[i].Cells = cells
		wide = max(wide, len(cells))
	}
	for i, row := range rows {
		cells := row.Cells
		for k, c := range cells {
			c = plain(c)
			if n := utf8.RuneCountInString(c); n > maxCell {
				return nil, fmt.Errorf("row %d, cell %d has %d letters, and at most %d are read", i+1, k+1, n, maxCell)
			}
			cells[k] = c
		}
		for len(cells) < wide {
			cells = append(cells, "")
		}
		rows[i].Cells = cells
	}
	return rows, nil
}

// plain is a cell without spaces around it, control characters, and the mark
// that keeps a spreadsheet from taking it for a formula.
func plain(c string) string {
	c = strings.ToValidUTF8(c, "�")
	c = strings.Map(func(r rune) rune {
		if r == '\n' || r == '\t' {
			return ' '
		}
		if r < ' ' || r == 0x7f || r == 0xfeff {
			return -1
		}
		return r
	}, c)
	c = strings.TrimSpace(c)
	return unmarked(c)
}

// mark keeps a spreadsheet from taking a text for a formula.
const mark = "'"

// risky reports whether a spreadsheet would take the text for a formula, were
// it not for marks before it.
func risky(c string) bool {
	c = strings.TrimLeft(c, mark)
	first, _ := utf8.DecodeRuneInString(c)
	return c != "" && strings.ContainsRune("=+-@\t\r＝＋－＠", first)
}

// unmarked takes a mark away that stands before such a text.
func unmarked(c string) string {
	if rest, ok := strings.CutPrefix(c, mark); ok && risky(rest) {
		return rest
	}
	return c
}

// WriteCSV writes a table as CSV in UTF-8 with its mark, which spreadsheets
// ask for. What looks like a formula stays text.
func WriteCSV(w io.Writer, rows [][]string) error {
	if _, err := io.WriteString(w, "\ufeff"); err != nil {
		return err
	}
	c := csv.NewWriter(w)
	for _, row := range rows {
		out := slices.Clone(row)
		for i := range out {
			if risky(out[i]) {
				out[i] = mark + out[i]
			}
		}
		if err := c.Write(out); err != nil {
			return err
		}
	}
	c.Flush()
	return c.Error()
}

// WriteXLSX writes a table as a spreadsheet with one sheet. Every cell is
// text, so nothing in it is calculated.
func WriteXLSX(w io.Writer, sheet string, rows [][]string) error {
	f := excelize.NewFile()
	defer f.Close()
	name := strings.Map(func(r rune) rune {
		if strings.ContainsRune(`:\/?*[]'`, r) {
			return ' '
		}
		return r
	}, sheet)
	const most = 31 // letters that a sheet's name may have
	if r := []rune(name); len(r) > most {
		name = string(r[:most])
	}
	if err := f.SetSheetName("Sheet1", name); err != nil {
		return err
	}
	s, err := f.NewStreamWriter(name)
	if err != nil {
		return err
	}
	for i, row := range rows {
		cells := make([]any, len(row))
		for k, c := range row {
			if unmarked(c) != c { // a mark of its own is not to be taken for one of ours
				c = mark + c
			}
			cells[k] = c
		}
		if err := s.SetRow(fmt.Sprintf("A%d", i+1), cells); err != nil {
			return err
		}
	}
	if err := s.Flush(); err != nil {
		return err
	}
	return f.Write(w)
}
