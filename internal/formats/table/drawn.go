package table

import (
	"slices"
	"strings"
	"unicode/utf8"

	"freshapron/internal/core/pattern"
)

var rule = pattern.Must(`^\|?[\s:|+=-]*-{2,}[\s:|+=-]*\|?$`)

// barred is a table drawn with bars as one of tabs, with what stands above it; empty where
// most lines have none.
func barred(text string) string {
	var out strings.Builder
	left, right, bars := framed(text)
	lines, drawn := 0, 0
	for line := range strings.Lines(text) {
		if line = strings.TrimSpace(line); line == "" || rule.MatchString(line) {
			out.WriteByte('\n') // so that every row keeps its line
			continue
		}
		lines++
		if strings.Contains(line, "|") {
			drawn++
		}
		own := bars > 0 && strings.Count(line, "|") > bars // one row alone has a frame
		if left || own {
			line = strings.TrimPrefix(line, "|")
		}
		if right || own {
			line = strings.TrimSuffix(line, "|")
		}
		cells := strings.Split(line, "|")
		for i := range cells {
			cells[i] = strings.TrimSpace(cells[i])
		}
		out.WriteString(strings.Join(cells, "\t") + "\n")
	}
	if 2*drawn <= lines {
		return ""
	}
	return out.String()
}

// framed reports whether every line with bars begins with one, and ends with one: these are round the table, and
// no first or last cell is empty. It returns how many bars the lines without a frame have at most.
func framed(text string) (left, right bool, bars int) {
	left, right = true, true
	for line := range strings.Lines(text) {
		if line = strings.TrimSpace(line); !strings.Contains(line, "|") {
			continue
		}
		begins, ends := strings.HasPrefix(line, "|"), strings.HasSuffix(line, "|")
		left, right = left && begins, right && ends
		if !begins || !ends {
			bars = max(bars, strings.Count(line, "|"))
		}
	}
	return left, right, bars
}

// placed is a cell of a line that was lined up, with where it begins.
type placed struct {
	at   int
	text string
}

var gap = pattern.Must(` {2,}`)

// placedIn parts a line where two spaces or more stand.
func placedIn(line string) []placed {
	var out []placed
	from := 0
	add := func(to int) {
		if text := strings.TrimSpace(line[from:to]); text != "" {
			out = append(out, placed{utf8.RuneCountInString(line[:from+strings.Index(line[from:to], text)]), text})
		}
	}
	for _, g := range gap.FindAllStringIndex(line, -1) {
		if g[0] == 0 || line[g[0]-1] != ',' {
			add(g[0])
			from = g[1]
		}
	}
	add(len(line))
	return out
}

// tabStop is how far apart the places are to which a tab leads where people line up with
// tabs, usually.
const tabStop = 8

// expanded is a text with its tabs as spaces.
func expanded(text string) string {
	var out strings.Builder
	at := 0
	for _, r := range text {
		switch r {
		case '\t':
			n := tabStop - at%tabStop
			out.WriteString(strings.Repeat(" ", max(n, 2)))
			at += n
			continue
		case '\n':
			at = -1
		}
		out.WriteRune(r)
		at++
	}
	return out.String()
}

// spaced is a table lined up with spaces as one of tabs; empty where most lines have no gap.
// The columns stand where the cells of the line with the most do, and where two cells of
// another line would be in one; every other cell is in the column that begins nearest to it.
func spaced(text string) string {
	var lines [][]placed
	var most []placed
	filled, gaps, tight, commas := 0, 0, true, -1
	for line := range strings.Lines(text) {
		cells := placedIn(line)
		lines = append(lines, cells)
		switch {
		case len(cells) == 0:
			continue
		case len(cells) > maxCells:
			return ""
		case len(cells) > 1:
			gaps++
		}
		filled++
		n := tightCommas(line)
		tight, commas = tight && n > 0 && (commas < 0 || n == commas), n
		if len(cells) > len(most) {
			most = cells
		}
	}
	if filled < 2 || 3*gaps < 2*filled || tight { // as many commas in each separate, whatever gaps there are
		return ""
	}
	columns := begins(most, lines)
	var out strings.Builder
	for _, cells := range lines {
		if len(cells) == 0 {
			out.WriteByte('\n')
			continue
		}
		row := make([]string, len(columns))
		for _, c := range cells {
			i := nearest(columns, c.at)
			row[i] = strings.TrimSpace(row[i] + " " + c.text)
		}
		out.WriteString(strings.Join(row, "\t") + "\n")
	}
	return out.String()
}

// tightCommas counts the commas of a line outside quotes behind which no space stands.
func tightCommas(line string) int {
	return outside(line, ',') - outside(strings.ReplaceAll(line, ", ", "\x00"), '\x00')
}

// byHand reports whether a table was lined up with as many tabs as it took: some columns
// have a heading only, and others cells only.
func byHand(rows []Line) bool {
	if len(rows) < 2 {
		return false
	}
	under := map[int]bool{}
	for _, r := range rows[1:] {
		for i, c := range r.Cells {
			under[i] = under[i] || strings.TrimSpace(c) != ""
		}
	}
	begun, bare, headless := false, false, false
	for i, c := range rows[0].Cells {
		titled := strings.TrimSpace(c) != ""
		begun = begun || titled // before the first heading stand the times of a grid
		bare = bare || titled && !under[i]
		headless = headless || begun && !titled && under[i]
	}
	return bare && headless
}

// begins returns where the columns of lines begin, from left to right.
func begins(most []placed, lines [][]placed) []int {
	var out []int
	for _, c := range most {
		out = append(out, c.at)
	}
	for _, cells := range lines {
		for i := 1; i < len(cells) && len(out) < maxCells; i++ {
			a, b := cells[i-1].at, cells[i].at
			if k := nearest(out, a); k == nearest(out, b) {
				if b-out[k] > out[k]-a { // the other of the two is the column's
					a = b
				}
				at, _ := slices.BinarySearch(out, a)
				out = slices.Insert(out, at, a)
			}
		}
	}
	return out
}

// nearest returns the column that begins nearest to a place.
func nearest(columns []int, at int) int {
	best := 0
	for i, c := range columns {
		if max(c-at, at-c) < max(columns[best]-at, at-columns[best]) {
			best = i
		}
	}
	return best
}
