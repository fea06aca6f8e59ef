// Package roster reads and writes lists of learners: it recognises the
// columns of a table, and says of each row what it was read as and what is
// wrong with it.
package roster

import (
	"fmt"
	"slices"
	"strconv"
	"strings"
	"time"
	"unicode/utf8"

	"freshapron/internal/core/class"
	"freshapron/internal/core/pantry"
	"freshapron/internal/core/pattern"
)

// A Column is what a column of a table says.
type Column string

// The columns. Skip is one that is not read.
const (
	Skip    Column = ""
	Class   Column = "class"
	Code    Column = "code"
	Name    Column = "name" // given and family name in one
	Given   Column = "given"
	Family  Column = "family"
	Born    Column = "born"
	Level   Column = "level"
	Can     Column = "can"
	Allergy Column = "allergy"
	Diet    Column = "diet"
	Access  Column = "access"
	Needs   Column = "needs" // of any kind
	Notes   Column = "notes"
)

// Columns lists what can be read, in the order in which it is written.
var Columns = []Column{Class, Code, Given, Family, Name, Born, Level, Can, Allergy, Diet, Access, Needs, Notes}

// Label returns the heading under which a column is written.
func (c Column) Label() string {
	return map[Column]string{
		Skip: "leave out", Class: "Class", Code: "Number", Name: "Whole name", Given: "Given name", Family: "Family name", Born: "Born",
		Level: "Level", Can: "Can", Allergy: "Allergies", Diet: "Diet", Access: "Access needs", Needs: "Needs of any kind", Notes: "Notes",
	}[c]
}

// Names reports whether a column says what somebody is called.
func (c Column) Names() bool { return c == Name || c == Given || c == Family }

// Needs reports whether a column says what somebody needs.
func (c Column) Needs() bool { return c == Allergy || c == Diet || c == Access || c == Needs }

// titles are the headings of each column, in small letters.
var titles = map[Column][]string{
	Class:  {"class", "group", "teaching group", "set", "klasse"},
	Code:   {"number", "no", "code", "id", "upn", "candidate", "nr", "pupil number", "pupil no", "pupil id", "student number", "student no", "student id", "learner number", "learner id", "exam number", "school number"},
	Name:   {"name", "names", "whole name", "full name", "learner", "learners", "pupil", "pupils", "student", "students", "cook", "partner", "last first"},
	Given:  {"given name", "first name", "forename", "given", "first", "preferred name", "known as", "chosen name", "vorname", "prénom", "init", "initial", "initials"},
	Family: {"family name", "last name", "surname", "family", "last", "nachname", "nom"},
	Born:   {"born", "birthday", "date of birth", "dob", "birth date", "birthdate", "geburtsdatum"},
	Level:  {"level", "kitchen level"}, Can: {"can", "skills", "can do"},
	Allergy: {"allergies", "allergy", "allergens", "allergien"}, Diet: {"diet", "diets", "religious diet"},
	Access: {"access needs", "access", "access arrangements", "support", "send", "sen", "additional needs"}, Needs: {"needs", "needs of any kind"},
	Notes: {"notes", "note", "remarks", "comment", "comments"},
}

// forms are headings of the groups in which learners are registered: their classes where
// nothing else says them.
var forms = []string{"form", "form group", "tutor", "tutor group", "reg", "reg group", "registration", "registration group"}

// within are words that tell what a column says wherever in its heading they stand, the
// surest first.
var within = []struct {
	words  []string
	column Column
}{
	{[]string{"surname", "family"}, Family},
	{[]string{"forename", "forenames", "given", "first"}, Given},
	{[]string{"dietary", "diet", "medical", "health", "condition", "conditions", "intolerance", "intolerances", "intolerant"}, Needs},
	{[]string{"allergy", "allergies", "allergen", "allergens", "allergic"}, Allergy},
	{[]string{"birth", "dob"}, Born},
	{[]string{"adm", "admission", "candidate", "upn", "roll"}, Code},
	{[]string{"access", "send", "sen"}, Access},
	{[]string{"name"}, Name},
}

// others are words of headings of what is told of other people and things.
var others = strings.Fields("parent parents carer guardian mother father mum dad kin emergency contact teacher staff doctor gp school phone mobile email aid photo flag")

var notWord = pattern.Must(`[^\p{L}/]+`)

// plain is a heading in small letters, without figures and marks.
func plain(cell string) string {
	return strings.TrimSpace(notWord.ReplaceAllString(strings.ToLower(cell), " "))
}

// titleOf tells what a heading says of its column, and whether by all of its words.
func titleOf(cell string) (c Column, whole bool) {
	title := plain(cell)
	for _, said := range []string{title, plain(brackets.ReplaceAllString(cell, ""))} { // “Last (First)” is both
		for c, list := range titles {
			if slices.Contains(list, said) {
				return c, true
			}
		}
	}
	words := strings.FieldsFunc(title, func(r rune) bool { return r == ' ' || r == '/' })
	if len(words) > mostTitleWords || slices.ContainsFunc(words, func(x string) bool { return slices.Contains(others, x) }) {
		return Skip, false
	}
	if both := func(list []string) bool {
		return slices.ContainsFunc(words, func(x string) bool { return slices.Contains(list, x) })
	}; both(within[0].words) && both(within[1].words) {
		return Name, false
	}
	for _, w := range within {
		if slices.ContainsFunc(words, func(x string) bool { return slices.Contains(w.words, x) }) {
			return w.column, false
		}
	}
	return Skip, false
}

// mostTitleWords is of how many words a heading is at most.
const mostTitleWords = 5

// headings tells what the columns of a table are by a row of it, where that has the
// headings: one that says where the names are, and another where there is more than one.
func headings(row []string) (columns []Column, head bool) {
	columns = make([]Column, len(row))
	found, filled, known, exactly, form := map[Column]bool{}, 0, 0, false, -1
	for i, cell := range row {
		if cell == "" {
			continue
		}
		filled++
		if slices.Contains(forms, plain(cell)) {
			form, known = i, known+1
			continue
		}
		c, whole := titleOf(cell)
		exactly = exactly || whole
		if c != Skip || isNeed(cell) {
			known++
		}
		if c == Needs || c == Name && whole || found[Name] && c.Needs() || !found[c] {
			columns[i], found[c] = c, true
		}
	}
	if form >= 0 && !found[Class] {
		columns[form] = Class
	}
	for i, c := range columns {
		if c == Name && found[Given] && found[Family] { // it says the same once more
			columns[i] = Skip
		}
	}
	named := found[Name] || found[Given] || found[Family]
	return columns, named && (known > 1 || filled == 1 && exactly)
}

// A Row is a row of the table as it was read.
type Row struct {
	Line     int  // from 1, with the headings
	Aside    bool // it names no learner: a title, a total, an empty number
	Class    string
	Learner  class.Learner
	Problems []string
}

// Read reads the rows. Class is the class of those who have no column for it;
// today is the school's date.
func Read(rows [][]string, columns []Column, head bool, inClass string, today time.Time) []Row {
	var out []Row
	joined := make([]string, len(rows))
	for i, cells := range rows {
		joined[i] = strings.Join(cells, ",")
	}
	whole := inFull(joined)
	for i, cells := range rows {
		if i == 0 && head || !slices.ContainsFunc(cells, func(c string) bool { return c != "" }) {
			continue
		}
		if aside(cells, columns) || i >= len(rows)-mostBeside && isBeside(strings.Trim(joined[i], ","), whole) {
			out = append(out, Row{Line: i + 1, Aside: true})
			continue
		}
		out = append(out, one(i+1, cells, columns, inClass, today))
	}
	same := map[string]int{}
	for i := range out {
		r := &out[i]
		if r.Aside {
			continue
		}
		key := Key(r.Class, r.Learner)
		if first, ok := same[key]; ok && r.Learner.Name() != "" {
			mend := "add birthdays or the school’s numbers, so that they can be told apart, or leave one out"
			r.Problems = append(r.Problems, fmt.Sprintf("%s is in row %d already: %s", r.Learner.Name(), first, mend))
			continue
		}
		same[key] = r.Line
	}
	return out
}

// aside reports whether a row names no learner: what stands where the names are is none,
// and nothing else is told of anybody.
func aside(cells []string, columns []Column) bool {
	named, inClass := false, false
	for i, c := range cells {
		if c == "" || i >= len(columns) {
			continue
		}
		switch column := columns[i]; {
		case column.Names():
			name, _ := person(c)
			if isName(name) {
				return false
			}
			named = true
		case column == Class:
			inClass = true
		case column != Skip && column != Code:
			return false
		}
	}
	return !named || !inClass
}

// Key names a learner of a class: by the number where there is one, or by
// name and birthday.
func Key(inClass string, l class.Learner) string {
	if l.Code != "" {
		return strings.ToLower(inClass + "\x00#" + l.Code)
	}
	return strings.ToLower(inClass + "\x00" + l.Name() + "\x00" + born(l))
}

func born(l class.Learner) string {
	if l.Born.IsZero() {
		return ""
	}
	return l.Born.Format(time.DateOnly)
}

const longestName = 60

func one(line int, cells []string, columns []Column, inClass string, today time.Time) Row {
	r := Row{Line: line, Class: inClass}
	l := &r.Learner
	bad := func(format string, args ...any) { r.Problems = append(r.Problems, fmt.Sprintf(format, args...)) }
	for i, c := range columns {
		if i >= len(cells) || cells[i] == "" {
			continue
		}
		v := cells[i]
		if (c == Skip || c == Class) && len(v) > 2 && isNeed(v) { // the row has slipped aside
			l.Notes = noted(l.Notes, v)
			continue
		}
		switch c {
		case Class:
			r.Class = v
		case Code:
			l.Code = v
		case Name:
			name, note := person(v)
			l.Given, l.Family = split(name)
			if born, err := Date(note); err == nil && born.Before(today) {
				l.Born = born
			} else {
				l.Needs = append(l.Needs, ofAnyKind(note)...)
			}
		case Given:
			l.Given = part(l, v)
		case Family:
			l.Family = part(l, v)
		case Born:
			d, err := Date(v)
			switch {
			case err != nil:
				bad("“%s” is not a date such as 2014-11-26 or 26/11/2014", v)
			case d.After(today):
				bad("the birthday %s is in the future", d.Format("2 January 2006"))
			case d.Before(today.AddDate(-100, 0, 0)):
				bad("the birthday %s is more than 100 years ago", d.Format("2 January 2006"))
			default:
				l.Born = d
			}
		case Level:
			level, ok := class.LevelOf(v)
			if !ok {
				bad("“%s” is no level: starting, practised or sure", v)
			}
			l.Level = level
		case Can:
			l.Can = list(v)
		case Allergy:
			l.Needs = append(l.Needs, NeedsOf(class.Allergy, v)...)
		case Diet:
			l.Needs = append(l.Needs, NeedsOf(class.Diet, v)...)
		case Access:
			l.Needs = append(l.Needs, NeedsOf(class.Access, v)...)
		case Needs:
			l.Needs = append(l.Needs, ofAnyKind(v)...)
		case Notes:
			if isNeed(v) && !slices.ContainsFunc(columns, Column.Needs) { // nothing else tells them
				l.Needs = append(l.Needs, ofAnyKind(v)...)
			} else {
				l.Notes = noted(l.Notes, v)
			}
		}
	}
	l.Needs = carried(l.Needs)
	if l.Name() == "" {
		bad("there is no name")
	}
	for _, n := range []string{l.Given, l.Family} {
		if utf8.RuneCountInString(n) > longestName {
			bad("a name is longer than %d letters", longestName)
		}
	}
	if utf8.RuneCountInString(r.Class) > longestName {
		bad("the name of the class is longer than %d letters", longestName)
	}
	if strings.TrimSpace(r.Class) == "" {
		bad("no class is given: choose one for the list below, or say which column names it")
	}
	return r
}

// noted adds a note to others.
func noted(notes, more string) string { return strings.TrimPrefix(notes+"; "+more, "; ") }

// carried puts a pen that stands alone beside the allergy before it, for which it is carried.
func carried(needs []class.Need) []class.Need {
	var out []class.Need
	for _, n := range needs {
		if last := len(out) - 1; last >= 0 && out[last].Kind == class.Allergy && pen.MatchString(n.What) && len(class.Understand(n.What).Needs) == 0 && len(class.Understand(out[last].What+" "+n.What).Asks) == 0 {
			out[last].Helps = strings.TrimPrefix(out[last].Helps+"; "+n.What, "; ")
			continue
		}
		out = append(out, n)
	}
	return out
}

// part is a name's part without what somebody needs behind it, which is noted.
func part(l *class.Learner, cell string) string {
	name, note := person(cell)
	if len(class.Understand(note).Needs) == 0 {
		return cell
	}
	l.Needs = append(l.Needs, ofAnyKind(note)...)
	return name
}

var serial = pattern.Must(`^\d{5}(\.0*)?$`)

// Date reads a date as people and spreadsheets write it; day before month.
func Date(s string) (time.Time, error) {
	s = strings.TrimSpace(s)
	if serial.MatchString(s) { // days since 30 December 1899, as spreadsheets count
		n, err := strconv.Atoi(strings.TrimRight(strings.TrimRight(s, "0"), "."))
		if err != nil || len(s) == 5 {
			n, err = strconv.Atoi(s[:5])
		}
		return time.Date(1899, 12, 30+n, 0, 0, 0, 0, time.UTC), err
	}
	for _, layout := range []string{time.DateOnly, "2/1/2006", "2.1.2006", "2-1-2006", "2/1/06", "2.1.06", "2 January 2006", "2 Jan 2006", "2006-01-02 15:04:05", "2006-01-02T15:04:05Z"} {
		if d, err := time.Parse(layout, s); err == nil {
			return d.Truncate(24 * time.Hour), nil
		}
	}
	return time.Time{}, fmt.Errorf("no date: %q", s)
}

// list splits what is separated by semicolons, or by commas where there are
// none, outside parentheses.
func list(s string) []string {
	sep := ','
	if outside(s, ';') {
		sep = ';'
	}
	var out []string
	depth, from := 0, 0
	add := func(part string) {
		if part = strings.TrimSpace(part); part != "" {
			out = append(out, part)
		}
	}
	for i, r := range s {
		switch {
		case r == '(':
			depth++
		case r == ')':
			depth = max(0, depth-1)
		case r == sep && depth == 0:
			add(s[from:i])
			from = i + 1
		}
	}
	add(s[from:])
	return out
}

func outside(s string, sep rune) bool {
	depth := 0
	for _, r := range s {
		switch {
		case r == '(':
			depth++
		case r == ')':
			depth = max(0, depth-1)
		case r == sep && depth == 0:
			return true
		}
	}
	return false
}

var detail = pattern.Must(`^(.*?)\s*\((.*)\)$`)

var severities = map[string]class.Severity{
	"contact": class.Contact, "severe": class.Contact, "by contact": class.Contact, "traces": class.Contact, "anaphylaxis": class.Contact,
	"eaten": class.Eaten, "when eaten": class.Eaten, "mild": class.Eaten,
}

// ofAnyKind reads a cell that names needs of every kind: what can't be eaten is taken for
// an allergy, and so is what is not understood, which is asked about.
func ofAnyKind(cell string) []class.Need {
	var out []class.Need
	for _, part := range list(cell) {
		kind := class.Access
		ids := class.Understand(part).Needs
		for _, id := range ids {
			food := class.FoodOf(id) != ""
			if _, diet := pantry.DietOf(id); diet || food && strings.HasPrefix(strings.ToLower(part), "no ") {
				kind = class.Diet
			} else if food || class.AllergensOf(id) != nil {
				kind = class.Allergy
				break
			}
		}
		if len(ids) == 0 {
			kind = class.Allergy
			if n := len(out); n > 0 && len(class.Understand(out[n-1].What+" "+part).Asks) == 0 { // “has pen”: how it is helped
				out[n-1].Helps = strings.TrimPrefix(out[n-1].Helps+"; "+part, "; ")
				continue
			}
		}
		out = append(out, NeedsOf(kind, part)...)
	}
	return out
}

// NeedsOf reads a cell of needs of a kind: “nuts (contact; pen in the office); milk (eaten)”.
func NeedsOf(kind class.Kind, cell string) []class.Need {
	var out []class.Need
	for _, part := range list(cell) {
		if class.Understand(part).None {
			continue
		}
		n := class.Need{Kind: kind, What: part}
		if m := detail.FindStringSubmatch(part); m != nil && m[1] != "" {
			n.What = m[1]
			var helps []string
			for _, d := range strings.Split(m[2], ";") {
				d = strings.TrimSpace(d)
				if s, ok := severities[strings.ToLower(d)]; ok && kind == class.Allergy {
					n.Severity = s
				} else if d != "" {
					helps = append(helps, d)
				}
			}
			n.Helps = strings.Join(helps, "; ")
		}
		if kind != class.Access {
			n.What = strings.ToLower(n.What)
		}
		out = append(out, n)
	}
	return out
}

// written is the needs of a kind as a cell that reads back as the same.
func written(kind class.Kind, needs []class.Need) string {
	var parts []string
	for _, n := range needs {
		if n.Kind != kind {
			continue
		}
		var in []string
		if n.Severity != class.Unsaid {
			in = append(in, string(n.Severity))
		}
		if n.Helps != "" {
			in = append(in, n.Helps)
		}
		part := n.What
		if len(in) > 0 {
			part += " (" + strings.Join(in, "; ") + ")"
		}
		parts = append(parts, part)
	}
	s := strings.Join(parts, "; ")
	if len(parts) == 1 && strings.Contains(parts[0], ",") {
		s += ";" // so that the comma separates nothing
	}
	return s
}

// Write returns a class as a table with headings, with what people need where
// that is asked for.
func Write(inClass string, learners []class.Learner, needs bool) [][]string {
	columns := []Column{Class, Code, Given, Family, Born, Level, Can}
	if needs {
		columns = append(columns, Allergy, Diet, Access, Notes)
	}
	head := make([]string, len(columns))
	for i, c := range columns {
		head[i] = c.Label()
	}
	out := [][]string{head}
	for _, l := range learners {
		row := make([]string, len(columns))
		for i, c := range columns {
			row[i] = map[Column]string{
				Class: inClass, Code: l.Code, Given: l.Given, Family: l.Family, Born: born(l), Level: l.Level.Name(), Can: strings.Join(l.Can, "; "),
				Allergy: written(class.Allergy, l.Needs), Diet: written(class.Diet, l.Needs), Access: written(class.Access, l.Needs), Notes: l.Notes,
			}[c]
		}
		out = append(out, row)
	}
	return out
}
