package roster

import (
	"slices"
	"strconv"
	"strings"

	"freshapron/internal/core/class"
	"freshapron/internal/formats/table"
)

// A List is a class list laid out as a table. Nothing of what was brought is lost: a line
// that names no learner is a row too, of which Read says so.
type List struct {
	Rows    [][]string // with the headings first, where Head
	Columns []Column
	Head    bool
}

// Open lays out a class list as people keep it: a table with or without headings, which
// may stand below a title; columns set by tabs, bars or spaces; or lines of text with a
// name or several each, numbered or not, and what somebody needs behind the name. The
// error says in a sentence what is wrong with the file.
func Open(data []byte) (List, error) {
	rows, err := table.Read(data)
	if err != nil {
		return List{}, err
	}
	text, isText := table.Text(data)
	if at, columns := heading(rows); at >= 0 {
		return below(rows, at, columns), nil
	}
	if !isText || steady(text, rows) {
		return List{Rows: rows, Columns: guessed(rows)}, nil
	}
	l := List{Columns: []Column{Name}}
	for line := range strings.Lines(text) {
		for _, one := range people(line) {
			l.Rows = append(l.Rows, []string{one})
		}
	}
	return l, nil
}

// InOneClass takes forms and tutor groups for no classes: whoever is in the list is in a
// class that is known.
func (l *List) InOneClass() {
	for i, c := range l.Columns {
		if l.Head && c == Class && slices.Contains(forms, plain(l.Rows[0][i])) {
			l.Columns[i] = Skip
		}
	}
}

// headWithin is in how many rows the headings are looked for.
const headWithin = 12

// heading returns the row with the headings and what they say; −1 where there is none.
func heading(rows [][]string) (at int, columns []Column) {
	for i, row := range rows[:min(len(rows), headWithin)] {
		if columns, head := headings(row); head {
			return i, columns
		}
	}
	return -1, nil
}

// below is the table whose headings stand in a row: what stands above them comes behind.
// Where several columns name learners, as of pairs, each of them has a row.
func below(rows [][]string, at int, columns []Column) List {
	l := List{Rows: [][]string{rows[at]}, Columns: columns, Head: true}
	var named []int
	for i, c := range columns {
		switch {
		case c == Name:
			if named = append(named, i); len(named) > 1 {
				columns[i] = Skip
			}
		case c == Access && initials(rows[at+1:], i): // a letter for the kind of support says nothing to a kitchen
			columns[i] = Skip
		case c == Skip && most(column(rows[at+1:], i), isNeed): // whatever it is called
			columns[i] = Needs
		}
	}
	for _, r := range append(slices.Clone(rows[:at]), rows[at+1:]...) {
		l.Rows = append(l.Rows, r)
		for _, i := range named[min(1, len(named)):] {
			if r[i] != "" {
				one := slices.Clone(r)
				one[named[0]] = r[i]
				l.Rows = append(l.Rows, one)
			}
		}
	}
	return l
}

// initials reports whether the cells of a column are three capitals at most.
func initials(rows [][]string, j int) bool {
	return !slices.ContainsFunc(column(rows, j), func(c string) bool { return len(c) > 3 || !isCapitals(c) })
}

// steady reports whether text without headings is a table all the same: lined up, with tabs
// or semicolons in most rows, or with as many commas in each, behind which no space stands.
func steady(text string, rows [][]string) bool {
	lines, tabs, tight, commas := 0, 0, true, -1
	for line := range strings.Lines(text) {
		if line = strings.TrimSpace(line); line == "" {
			continue
		}
		lines++
		if strings.Contains(line, "\t") {
			tabs++
		}
		n := strings.Count(line, ",")
		tight = tight && n > 0 && !strings.Contains(line, ", ") && (commas < 0 || n == commas)
		commas = n
	}
	semicolons := lines > 1 && !slices.ContainsFunc(rows, func(r []string) bool { return len(r) < 2 || r[0] == "" || r[1] == "" }) && strings.Count(text, ";") >= lines
	linedUp := !strings.ContainsAny(text, ",;") && len(rows[0]) > 1
	return linedUp || 2*tabs > lines || lines > 1 && tight || semicolons
}

// guessed tells by what stands in the columns of a table without headings what they are.
func guessed(rows [][]string) []Column {
	columns := make([]Column, len(rows[0]))
	var words []int
	for j := range columns {
		cells := column(rows, j)
		all := func(ok func(string) bool) bool {
			return len(cells) > 0 && !slices.ContainsFunc(cells, func(c string) bool { return !ok(c) })
		}
		switch {
		case len(cells) == 0 || all(isSex) || numbered(cells):
		case all(func(c string) bool { _, err := Date(c); return err == nil }):
			columns[j] = Born
		case all(func(c string) bool { _, err := strconv.Atoi(c); return err == nil }):
			columns[j] = Code
		case most(cells, isName) && len(words) < 2:
			words = append(words, j)
		case slices.ContainsFunc(cells, isNeed):
			columns[j] = Needs
		}
	}
	switch {
	case len(words) == 0:
		columns[0] = Name
	case len(words) == 1 || most(column(rows, words[0]), func(c string) bool { return strings.ContainsAny(c, " ,") }):
		columns[words[0]] = Name
	default:
		columns[words[0]], columns[words[1]] = Given, Family
		if a, b := column(rows, words[0]), column(rows, words[1]); ranked(a) && !ranked(b) || most(a, isCapitals) && !most(b, isCapitals) {
			columns[words[0]], columns[words[1]] = Family, Given
		}
	}
	return columns
}

// column returns the cells of a column that are not empty.
func column(rows [][]string, j int) []string {
	var out []string
	for _, r := range rows {
		if j < len(r) && r[j] != "" {
			out = append(out, r[j])
		}
	}
	return out
}

func most(cells []string, ok func(string) bool) bool {
	n := 0
	for _, c := range cells {
		if ok(c) {
			n++
		}
	}
	return 2*n > len(cells) // false where there is none
}

// ranked reports whether so many names as can't be by chance stand by the alphabet.
func ranked(cells []string) bool {
	return len(cells) > 2 && slices.IsSortedFunc(cells, func(a, b string) int { return strings.Compare(strings.ToLower(a), strings.ToLower(b)) })
}

// numbered reports whether cells count from 1.
func numbered(cells []string) bool {
	for i, c := range cells {
		if strings.TrimRight(c, ".)") != strconv.Itoa(i+1) {
			return false
		}
	}
	return true
}

// isNeed reports whether a cell says nothing but what somebody needs.
func isNeed(c string) bool {
	is := class.Understand(c)
	return len(is.Needs) > 0 && len(is.Asks) == 0
}

func isSex(c string) bool {
	return slices.Contains([]string{"m", "f", "x", "d", "w", "nb", "male", "female", "boy", "girl"}, strings.ToLower(strings.TrimSpace(c)))
}
