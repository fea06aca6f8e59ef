package roster

import (
	"slices"
	"strconv"
	"strings"
	"unicode"

	"freshapron/internal/core/class"
	"freshapron/internal/core/pattern"
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
	text, isText := table.Text(data)
	if !isText {
		l, err := opened(data)
		for _, name := range table.Unread(data) {
			l.Rows = append(l.Rows, make([]string, len(l.Columns)))
			l.putAside(len(l.Rows)-1, "all of the sheet "+name)
		}
		return l, err
	}
	text, beside := besideNames(text)
	if len(beside) == 0 {
		return opened(data)
	}
	l, err := opened([]byte(text))
	if err != nil { // there is nothing else in it
		return opened(data)
	}
	for _, line := range beside {
		row := make([]string, len(l.Columns))
		row[max(0, slices.IndexFunc(l.Columns, Column.Names))] = line
		l.Rows = append(l.Rows, row)
	}
	return l, nil
}

// besideNames takes the lines out of a text that stand over all names or below them and are of the
// school, the term or the print-out.
func besideNames(text string) (rest string, beside []string) {
	lines := strings.Split(text, "\n")
	whole := inFull(lines)
	take := func(i int) bool {
		if strings.TrimSpace(lines[i]) == "" {
			return true
		}
		if !isBeside(lines[i], whole) || len(beside) == mostBeside {
			return false
		}
		beside = append(beside, strings.TrimSpace(separators.ReplaceAllString(lines[i], " ")))
		lines[i] = ""
		return true
	}
	first := 0
	for first < len(lines) && take(first) {
		first++
	}
	for last := len(lines) - 1; last > first && take(last); last-- {
		continue
	}
	return strings.Join(lines, "\n"), beside
}

// isBeside reports whether a line is of the school, the term or the print-out, or, where the others begin
// with two names, a sentence, and so names no learner.
func isBeside(line string, whole bool) bool {
	said := strings.TrimSpace(separators.ReplaceAllString(line, " "))
	return ofSchool.MatchString(said) || ofPrint.MatchString(said) || whole && isSentence(line)
}

// inFull reports whether most lines begin with two names.
func inFull(lines []string) bool {
	filled, whole := 0, 0
	for _, line := range lines {
		if strings.TrimSpace(line) != "" {
			filled++
		}
		if twoNames.MatchString(line) {
			whole++
		}
	}
	return 2*whole > filled
}

// isSentence reports whether a line goes on in small letters behind its first word, and not with what
// somebody needs: "Sent from my phone". Where the others have two names it is none.
func isSentence(line string) bool {
	words := strings.Fields(line)
	if len(words) < 2 || strings.ContainsAny(line, ",;\t|:()–—-") {
		return false
	}
	for _, w := range words[1:] {
		if first := []rune(w)[0]; w != strings.ToLower(w) || !unicode.IsLetter(first) && !unicode.IsDigit(first) {
			return false
		}
	}
	return len(class.Understand(strings.Join(words[1:], " ")).Needs) == 0
}

const mostBeside = 8 // lines over and below the names

var (
	twoNames   = pattern.Must(`^\W*(?:\d+\W*)?\p{Lu}[\pL'’-]+[\s,;|"]+\p{Lu}`)
	separators = pattern.Must(`[,;\t|"]+`)
	ofSchool   = pattern.Must(`(?i)^[^,;:–—-]*\b(?:school|academy|college|faculty|department)(?:[ ,:–—-]+(?:food|design|technology|and|&|nutrition|catering|art|department)\b)*\.?$`)
	ofPrint    = pattern.Must(`(?i)^(?:(?:(?:autumn|spring|summer|half)[ -]term|(?:last )?(?:updated|printed|amended|generated|exported|produced|downloaded)|end of|totals?\W*\d+|\d+ (?:learners|pupils|students|children|names|on roll|in (?:class|group|total|all))|(?:number|no\.?) on roll|page \d+|food (?:tech\w*|and nutrition|& nutrition))\b.*|confidential\b.*|end|thanks|thank you)\W*$`)
)

// opened is Open where no line stands beside the names.
func opened(data []byte) (List, error) {
	rows, err := table.Read(data)
	if err != nil {
		return List{}, err
	}
	text, isText := table.Text(data)
	if said := spelledOut(dotted.ReplaceAllString(text, "\t")); said != text {
		text = said
		if rows, err = table.Read([]byte(text)); err != nil {
			return List{}, err
		}
	}
	if told := records(text); isText && told != nil {
		rows = told
	}
	if at, columns := heading(rows); at >= 0 {
		return below(rows, at, columns), nil
	}
	if at, columns := places(rows); at >= 0 {
		return below(rows, at, columns), nil
	}
	if !isText || steady(text, rows) {
		columns := guessed(rows)
		return List{Rows: apart(rows, columns), Columns: columns}, nil
	}
	return lines(text), nil
}

// dotted leads the eye from a name to what is said of it.
var dotted = pattern.Must(`[ ]*(?:\.{4,}|…{2,}|_{4,}|(?:\. ){3,}\.?)[ ]*`)

// lines is the list of text with a name or several in each line. Where lines of their own
// name classes, as “8 Hazel”, each learner is in the class above.
func lines(text string) List {
	l := List{Columns: []Column{Name}}
	all := strings.Split(text, "\n")
	classes := classLines(all)
	grouped := slices.ContainsFunc(all, func(line string) bool { return place.FindString(line+".") == line+"." })
	class := ""
	for i, line := range all {
		parts := []string{line}
		switch {
		case classes[i]:
			class = strings.Trim(line, " :-–—\t\r")
		case legend(line) == nil:
			parts = people(line, grouped)
		}
		for _, one := range parts {
			if n, rest := l.again(one); n >= 0 {
				sep := " - "
				if _, note := person(l.Rows[n][0]); note != "" {
					sep = ", "
				}
				l.Rows[n][0] += sep + rest
				continue
			}
			if strings.TrimSpace(one) == "" {
				continue
			}
			row := []string{one}
			if len(classes) > 1 {
				row = append(row, "")
				if !classes[i] {
					row[1] = class
				}
			}
			l.Rows = append(l.Rows, row)
		}
	}
	if len(classes) > 1 {
		l.Columns = append(l.Columns, Class)
	}
	l.setApart()
	return l
}

// again returns the row of whom a line tells more, and what: “She has no eggs”, or “Ada has
// no eggs” where one Ada Okafor is in the list; −1 where somebody else is named.
func (l *List) again(line string) (row int, rest string) {
	first, rest, _ := strings.Cut(line, " ")
	if n := len(l.Rows); n > 0 && slices.Contains(pronouns, strings.ToLower(first)) {
		return n - 1, rest
	}
	if name, note := person(line); name != first || note == "" {
		return -1, ""
	}
	row = -1
	for i, r := range l.Rows {
		if strings.HasPrefix(r[0], first+" ") && names(r[0]) {
			if row >= 0 {
				return -1, ""
			}
			row = i
		}
	}
	return row, rest
}

// setApart puts what is noted into a column of its own where most are called by their given
// names alone, so that “Mei Ling” among them is one too.
func (l *List) setApart() {
	called := slices.DeleteFunc(column(l.Rows, 0), func(c string) bool { return !names(c) })
	if !most(called, func(c string) bool { name, _ := person(c); return !strings.Contains(name, " ") }) {
		return
	}
	l.Columns = append(l.Columns, Needs)
	l.Columns[0] = Given
	for i, r := range l.Rows {
		note := ""
		if names(r[0]) {
			r[0], note = person(r[0])
		}
		l.Rows[i] = append(r, note)
	}
}

// pronouns stand for whoever was named before.
var pronouns = strings.Fields("he she they")

var classLine = pattern.Must(`^\s*(?i:year|yr|y|class|form|group|set)?\.?\s*\d{1,2}\s*[-/.]?\s*\p{L}{1,12}\d?\s*[:–-]?\s*$`)

// classLines returns which lines name a class: a few with a number and a word, which do
// not count the learners.
func classLines(lines []string) map[int]bool {
	out := map[int]bool{}
	full, counts := 0, true
	for i, line := range lines {
		if strings.TrimSpace(line) == "" {
			continue
		}
		full++
		if classLine.MatchString(line) {
			out[i] = true
			counts = counts && strings.Trim(line, " .-/:\t\r"+letters(line)) == strconv.Itoa(len(out))
		}
	}
	if 3*len(out) > full+1 || counts {
		return nil
	}
	return out
}

// letters returns the letters of a line.
func letters(line string) string {
	return strings.Map(func(r rune) rune {
		if unicode.IsLetter(r) {
			return r
		}
		return -1
	}, line)
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
			if i+1 < len(rows) {
				if both := headedTwice(row, rows[i+1]); both != nil {
					rows[i+1] = both
					columns, _ = headings(both)
					return i + 1, columns
				}
			}
			return i, columns
		}
	}
	return -1, nil
}

// headedTwice is the second row of headings, as “Surname, Forename” below “Name”, with those of the first where
// it has none; nil where there is no second.
func headedTwice(first, second []string) []string {
	both := slices.Clone(second)
	own := 0
	for i, cell := range second {
		if cell == "" {
			both[i] = first[i]
			continue
		}
		if c, _ := titleOf(cell); c == Skip && !isNeed(cell) && cell != first[i] {
			return nil
		}
		if cell != first[i] {
			own++
		}
	}
	if _, head := headings(both); !head || own < 2 {
		return nil
	}
	return both
}

// places returns the row whose cells are benches or tables, below each of which stand those
// who work there; −1 where there is none.
func places(rows [][]string) (at int, columns []Column) {
	for i, row := range rows[:min(len(rows), headWithin)] {
		columns = make([]Column, len(row))
		n := 0
		for j, cell := range row {
			if cell != "" && place.FindString(cell+":") == cell+":" {
				columns[j] = Name
				n++
			}
		}
		if n > 1 && !slices.ContainsFunc(row, func(c string) bool { return c != "" && place.FindString(c+":") != c+":" }) {
			return i, columns
		}
	}
	return -1, nil
}

// below is the table whose headings stand in a row: what stands above them comes behind.
// Where several columns name learners, as of pairs, each of them has a row.
func below(rows [][]string, at int, columns []Column) List {
	for i, c := range columns {
		switch {
		case c == Access && initials(rows[at+1:], i): // a letter for the kind of support says nothing to a kitchen
			columns[i] = Skip
		case c != Name && (isNeed(rows[at][i]) || pen.MatchString(rows[at][i])):
			marked(rows[at+1:], i, rows[at][i])
			fallthrough
		case c == Skip && most(column(rows[at+1:], i), isNeed): // whatever it is called
			columns[i] = Needs
		}
	}
	others := append(slices.Clone(rows[:at]), rows[at+1:]...)
	l := List{Rows: append([][]string{rows[at]}, apart(others, columns)...), Columns: columns, Head: true}
	l.setAside(rows[:at])
	return l
}

// putAside lets a row say something that is no learner, in a column behind all others that is not read.
func (l *List) putAside(n int, text string) {
	last := len(l.Columns) - 1
	says := func(r []string) bool { return r[last] != "" && r[last] != strings.Join(r, "") } // beside something else
	if l.Columns[last] != Skip || slices.ContainsFunc(l.Rows, says) {
		l.Columns = append(slices.Clone(l.Columns), Skip)
		for k, r := range l.Rows {
			l.Rows[k] = append(slices.Clone(r), "")
		}
		last++
	}
	l.Rows[n] = make([]string, last+1)
	l.Rows[n][last] = text
}

// setAside puts what stands above the headings and could be a name into a column that is not read.
func (l *List) setAside(above [][]string) {
	for i := range above {
		if row := l.Rows[i+1]; !aside(row, l.Columns) {
			l.putAside(i+1, strings.TrimSpace(strings.Join(row, " ")))
		}
	}
}

// apart gives each learner a row where several columns have whole names. Where the same
// columns stand behind each of them, those are of whoever stands before them.
func apart(rows [][]string, columns []Column) [][]string {
	var named []int
	for i, c := range columns {
		if c == Name {
			named = append(named, i)
		}
	}
	if len(named) < 2 {
		return rows
	}
	wide := named[1] - named[0]
	again := true
	for _, i := range named {
		again = again && i+wide <= len(columns) && slices.Equal(columns[i:i+wide], columns[named[0]:named[1]])
	}
	if !again {
		wide = 1
	}
	var out [][]string
	for _, r := range rows {
		out = append(out, r)
		for _, i := range named[1:] {
			if r[i] != "" {
				one := slices.Clone(r)
				copy(one[named[0]:named[0]+wide], r[i:i+wide])
				out = append(out, one)
			}
		}
	}
	for _, i := range named[1:] {
		for j := range wide {
			columns[i+j] = Skip
		}
	}
	return out
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
		case most(cells, names):
			words = append(words, j)
		case slices.ContainsFunc(cells, isNeed):
			columns[j] = Needs
		}
	}
	whole := func(c string) bool {
		name, _ := person(c)
		return strings.ContainsAny(name, " ,")
	}
	switch {
	case len(words) == 0:
		columns[0] = Name
	case !slices.ContainsFunc(words, func(j int) bool { return !most(column(rows, j), whole) }):
		for _, j := range words {
			columns[j] = Name
		}
	case len(words) == 1 || most(column(rows, words[0]), whole):
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
