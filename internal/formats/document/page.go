package document

import "strings"

// A page collects the lines of a document. Paragraphs may stand in cells, and in one another, as those of
// a frame do.
type page struct {
	spread bool    // what stands in one cell over several stands in each of them
	cells  []cell  // those that are open, within one another; the first is the document
	tables []table // those that are open
	paras  []*strings.Builder
}

type cell []string // its lines

// A table is its rows, while they are few; of a long one the first are lines already.
type table struct {
	rows  [][]cell
	lines []string
	long  bool
	above []cell // the row before
	own   int    // cells of the row now, however wide they are
}

func newPage(spread bool) *page { return &page{spread: spread, cells: []cell{nil}} }

// text returns what was collected.
func (p *page) text() string { return strings.Trim(strings.Join(p.cells[0], "\n"), "\n") + "\n" }

func (p *page) begin() { p.paras = append(p.paras, &strings.Builder{}) }

// write adds to the paragraph; what stands in none is no text.
func (p *page) write(s string) {
	if n := len(p.paras); n > 0 {
		p.paras[n-1].WriteString(s)
	}
}

// end ends the paragraph, whose list puts a mark before it.
func (p *page) end(mark string) {
	n := len(p.paras)
	if n == 0 {
		return
	}
	text := strings.TrimSpace(p.paras[n-1].String())
	p.paras = p.paras[:n-1]
	if text != "" {
		text = mark + text
	}
	p.add(strings.Split(text, "\n")...)
}

// add adds lines to the cell that is open.
func (p *page) add(lines ...string) {
	at := len(p.cells) - 1
	p.cells[at] = append(p.cells[at], lines...)
}

// began and ended do what the elements of Office Open XML ask for that mean the same in text and on slides.
func (p *page) began(name string) {
	switch name {
	case "br", "cr":
		p.write("\n")
	case "tbl":
		p.beginTable()
	case "tr":
		p.beginRow()
	case "tc":
		p.beginCell()
	}
}

func (p *page) ended(name string) {
	switch name {
	case "tc":
		p.endCell(1)
	case "tbl":
		p.endTable()
	}
}

func (p *page) beginTable() { p.tables = append(p.tables, table{}) }

func (p *page) beginRow() {
	if n := len(p.tables); n > 0 {
		t := &p.tables[n-1]
		t.endRow()
		if len(t.rows) >= fewRows {
			t.settle()
		}
		t.rows = append(t.rows, nil)
	}
}

// endRow ends the last row. A cell that is all there is in it is a title, however wide.
func (t *table) endRow() {
	n := len(t.rows) - 1
	if n < 0 {
		return
	}
	t.above = t.rows[n]
	if t.own == 1 {
		t.rows[n] = t.rows[n][:1]
	}
	t.own = 0
}

// settle makes lines of the rows so far.
func (t *table) settle() {
	for _, row := range t.rows {
		if line := rowOf(row); line != "" {
			t.lines = append(t.lines, line)
		}
	}
	t.rows, t.long = nil, true
}

func (p *page) beginCell() { p.cells = append(p.cells, nil) }

// endCell ends the cell, which stands so many times in its row.
func (p *page) endCell(times int) {
	if c, t := p.closeCell(); t != nil {
		t.own += max(times, 1)
		t.put(c.trimmed(), times)
	}
}

// endWide ends a cell that is as wide as so many.
func (p *page) endWide(width int) {
	c, t := p.closeCell()
	if t == nil {
		return
	}
	if t.own++; !p.spread {
		width = 1
	}
	t.put(c.trimmed(), width)
}

// endCovered ends a cell that is part of one in the row above.
func (p *page) endCovered(times int) {
	_, t := p.closeCell()
	if t == nil {
		return
	}
	t.own++
	for range max(times, 1) {
		at := len(t.rows[len(t.rows)-1])
		if p.spread && at < len(t.above) {
			t.put(t.above[at], 1)
		} else {
			t.put(nil, 1)
		}
	}
}

// closeCell closes the cell, and returns it with its table; nil where it is in none.
func (p *page) closeCell() (cell, *table) {
	n := len(p.cells) - 1
	if n == 0 || len(p.tables) == 0 {
		return nil, nil
	}
	c := p.cells[n]
	p.cells = p.cells[:n]
	t := &p.tables[len(p.tables)-1]
	if len(t.rows) == 0 {
		return nil, nil
	}
	return c, t
}

// put puts a cell into the last row.
func (t *table) put(c cell, times int) {
	row := &t.rows[len(t.rows)-1]
	for range min(max(times, 1), mostCells-len(*row)) {
		*row = append(*row, c)
	}
}

// endTable adds what the table says: row by row, or column by column where it only lays the page out.
func (p *page) endTable() {
	n := len(p.tables) - 1
	if n < 0 {
		return
	}
	t := &p.tables[n]
	p.tables = p.tables[:n]
	t.endRow()
	if !t.long && t.laysOut() {
		p.add(t.columns()...)
		return
	}
	t.settle()
	p.add("")
	p.add(t.lines...)
	p.add("")
}

const (
	mostCells = 61 // of a row: one more than a table may have, so that whoever reads one says so
	fewRows   = 3  // of a table that only lays out: its heads, its columns, a line below
	manyLines = 3  // in a cell of it
)

// laysOut reports whether a table has a list in one column and the method in another, rather than rows.
func (t *table) laysOut() bool {
	for _, row := range t.rows {
		for _, c := range row {
			if len(c) >= manyLines {
				return true
			}
		}
	}
	return false
}

// columns returns the lines of each column, one behind the other. A row that goes across the table ends
// those above it.
func (t *table) columns() (lines []string) {
	width := t.width()
	var above [][]cell
	end := func() {
		for k := range width {
			lines = append(lines, "")
			for _, row := range above {
				if k < len(row) {
					lines = append(lines, row[k]...)
				}
			}
		}
		above = nil
	}
	for _, row := range t.rows {
		if len(row) > 1 || width == 1 {
			above = append(above, row)
			continue
		}
		end()
		for _, c := range row {
			lines = append(lines, c...)
		}
	}
	end()
	return append(lines, "")
}

func (t *table) width() (width int) {
	for _, row := range t.rows {
		width = max(width, len(row))
	}
	return width
}

// rowOf returns a row in a line.
func rowOf(row []cell) string {
	var out []string
	filled := 0
	for _, c := range row {
		text := ""
		for _, l := range c {
			switch {
			case l == "":
				continue
			case text == "":
			case strings.ContainsAny(text[len(text)-1:], ".,;:!?"):
				text += " "
			default:
				text += ". "
			}
			text += strings.ReplaceAll(l, "|", "/")
		}
		if text != "" {
			filled++
		}
		out = append(out, text)
	}
	switch filled {
	case 0:
		return ""
	case 1: // a head across the table
		return strings.TrimSpace(strings.Join(out, ""))
	}
	for out[len(out)-1] == "" {
		out = out[:len(out)-1]
	}
	return strings.Join(out, " | ")
}

// trimmed leaves out the empty lines about the cell's text.
func (c cell) trimmed() cell {
	for len(c) > 0 && c[0] == "" {
		c = c[1:]
	}
	for len(c) > 0 && c[len(c)-1] == "" {
		c = c[:len(c)-1]
	}
	return c
}
