// Package roster reads and writes lists of learners: it recognises the
// columns of a table, and says of each row what it was read as and what is
// wrong with it.
package roster

import (
	"fmt"
	"regexp"
	"slices"
	"strconv"
	"strings"
	"time"
	"unicode/utf8"

	"freshapron/internal/core/class"
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
	Notes   Column = "notes"
)

// Columns lists what can be read, in the order in which it is written.
var Columns = []Column{Class, Code, Given, Family, Name, Born, Level, Can, Allergy, Diet, Access, Notes}

// Label returns the heading under which a column is written.
func (c Column) Label() string {
	return map[Column]string{
		Skip: "leave out", Class: "Class", Code: "Number", Name: "Whole name", Given: "Given name", Family: "Family name", Born: "Born",
		Level: "Level", Can: "Can", Allergy: "Allergies", Diet: "Diet", Access: "Access needs", Notes: "Notes",
	}[c]
}

var headings = map[Column][]string{
	Class: {"class", "group", "form", "teaching group", "set"},
	Code:  {"number", "no", "code", "id", "admission number", "admission no", "upn", "pupil number"},
	Name:  {"name", "whole name", "full name", "learner", "pupil", "student", "learner name", "pupil name", "student name"},
	Given: {"given name", "first name", "forename", "given", "first", "preferred name"}, Family: {"family name", "last name", "surname", "family", "last"},
	Born:  {"born", "birthday", "date of birth", "dob", "birth date"},
	Level: {"level", "kitchen level"}, Can: {"can", "skills", "can do"},
	Allergy: {"allergies", "allergy", "allergens"}, Diet: {"diet", "diets", "dietary", "dietary needs", "religious diet"},
	Access: {"access needs", "access", "support", "send", "additional needs"}, Notes: {"notes", "note", "remarks", "comment", "comments"},
}

// Recognise tells what the columns of a table are by its first row. Where
// that row has no headings, names are looked for by how many columns there
// are, and head is false.
func Recognise(rows [][]string) (columns []Column, head bool) {
	first := rows[0]
	columns = make([]Column, len(first))
	found := map[Column]bool{}
	for i, cell := range first {
		word := strings.ToLower(strings.Trim(strings.Join(strings.Fields(cell), " "), " .:"))
		for c, words := range headings {
			if slices.Contains(words, word) && !found[c] {
				columns[i], found[c] = c, true
			}
		}
	}
	if found[Name] || found[Given] || found[Family] {
		return columns, true
	}
	clear(columns)
	switch {
	case len(first) == 1:
		columns[0] = Name
	case len(first) > 1:
		columns[0], columns[1] = Given, Family
	}
	return columns, false
}

// A Row is a row of the table as it was read.
type Row struct {
	Line     int // from 1, with the headings
	Class    string
	Learner  class.Learner
	Problems []string
}

// Read reads the rows. Class is the class of those who have no column for it;
// today is the school's date.
func Read(rows [][]string, columns []Column, head bool, inClass string, today time.Time) []Row {
	var out []Row
	for i, cells := range rows {
		if i == 0 && head || !slices.ContainsFunc(cells, func(c string) bool { return c != "" }) {
			continue
		}
		out = append(out, one(i+1, cells, columns, inClass, today))
	}
	same := map[string]int{}
	for i := range out {
		r := &out[i]
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
		switch c {
		case Class:
			r.Class = v
		case Code:
			l.Code = v
		case Name:
			l.Given, l.Family = split(v)
		case Given:
			l.Given = v
		case Family:
			l.Family = v
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
			l.Needs = append(l.Needs, Needs(class.Allergy, v)...)
		case Diet:
			l.Needs = append(l.Needs, Needs(class.Diet, v)...)
		case Access:
			l.Needs = append(l.Needs, Needs(class.Access, v)...)
		case Notes:
			l.Notes = v
		}
	}
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
		bad("no class is given: choose one above, or name a column")
	}
	return r
}

// split parts a whole name: "Okafor, Ada" or "Ada Okafor".
func split(name string) (given, family string) {
	if f, g, ok := strings.Cut(name, ","); ok {
		return strings.TrimSpace(g), strings.TrimSpace(f)
	}
	words := strings.Fields(name)
	if len(words) < 2 {
		return name, ""
	}
	return strings.Join(words[:len(words)-1], " "), words[len(words)-1]
}

var serial = regexp.MustCompile(`^\d{5}(\.0*)?$`)

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
	for _, layout := range []string{time.DateOnly, "2/1/2006", "2.1.2006", "2-1-2006", "2 January 2006", "2 Jan 2006", "2006-01-02 15:04:05", "2006-01-02T15:04:05Z"} {
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

var detail = regexp.MustCompile(`^(.*?)\s*\((.*)\)$`)

var severities = map[string]class.Severity{
	"contact": class.Contact, "severe": class.Contact, "by contact": class.Contact, "traces": class.Contact, "anaphylaxis": class.Contact,
	"eaten": class.Eaten, "when eaten": class.Eaten, "mild": class.Eaten,
}

// Needs reads a cell of needs: “nuts (contact; pen in the office); milk (eaten)”.
func Needs(kind class.Kind, cell string) []class.Need {
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
