// Package typed reads what people type into forms, and collects what is wrong
// by the name of the field. What can't be read is the zero value, so that a
// form is read to its end and everything is said at once.
package typed

import (
	"strconv"
	"strings"
	"time"
	"unicode/utf8"

	"freshapron/internal/core/duration"
	"freshapron/internal/core/exact"
	"freshapron/internal/core/measure"
	"freshapron/internal/core/problem"
	"freshapron/internal/core/words"
)

// LongestName is how many letters a name may have.
const LongestName = 80

// A Form collects the problems of a form while it is read. The zero value is
// ready.
type Form struct{ Problems problem.List }

// Add says what is wrong with a field.
func (f *Form) Add(field, format string, args ...any) { f.Problems.Add(field, format, args...) }

// Err returns what is wrong; nil where nothing is.
func (f *Form) Err() error { return f.Problems.Err() }

// Whole reads a whole number; 0 where it is none.
func (f *Form) Whole(field, what, text string) int {
	n, err := strconv.Atoi(strings.TrimSpace(text))
	if err != nil {
		f.Add(field, "%s: “%s” is not a whole number.", what, words.Short(text))
		return 0 // and not the largest there is
	}
	return n
}

// Between reads a whole number in a range, and returns one of the range whatever was
// typed, so that nothing is made that often before the problem is seen.
func (f *Form) Between(field, what, text string, least, most int) int {
	n, err := strconv.Atoi(strings.TrimSpace(text))
	if err != nil || n < least || n > most {
		f.Add(field, "%s: “%s” is not a whole number from %d to %d.", what, words.Short(text), least, most)
		return least
	}
	return n
}

// Count reads a whole number from 1; 0 where it is none.
func (f *Form) Count(field, what, text string, most int) int {
	n := f.Whole(field, what, text)
	if n < 1 || n > most {
		if _, err := strconv.Atoi(strings.TrimSpace(text)); err == nil {
			f.Add(field, "%s: %d is not between 1 and %d.", what, n, most)
		}
		return 0
	}
	return n
}

// number reads a number with a comma or a point, or with a fraction: "1 1/2", "½".
func number(text string) (exact.Number, error) {
	n, err := exact.Parse(strings.ReplaceAll(strings.TrimSpace(text), ",", "."))
	if err == nil {
		return n, nil
	}
	if r := measure.Read(text, measure.Metric); r.Given && r.Name == "" && r.Unit == measure.Each && len(r.Doubts) == 0 && r.Low.Cmp(r.High) == 0 {
		return r.Low, nil
	}
	return n, err
}

// lasting reads how long something takes, where nothing else is said: "1 h 15", "5 mins".
func lasting(text string) (exact.Number, bool) {
	text = strings.TrimSpace(text)
	spans := duration.In(text)
	if len(spans) != 1 || spans[0].From > 0 || strings.Trim(text[spans[0].To:], ". ") != "" || spans[0].Least.Cmp(spans[0].Most) != 0 {
		return exact.Number{}, false
	}
	return spans[0].Least, true
}

// Minutes reads minutes, from 0 to a day: a number of them, or a time with its unit.
func (f *Form) Minutes(field, what, text string) exact.Number {
	const most = 24 * 60
	n, err := number(text)
	if said, ok := lasting(text); ok && err != nil {
		n, err = said, nil
	}
	switch {
	case err != nil:
		f.Add(field, "%s: “%s” is not a number of minutes.", what, words.Short(text))
	case n.Sign() < 0:
		f.Add(field, "%s: minutes can’t be less than 0.", what)
	case n.Cmp(exact.Int(most)) > 0:
		f.Add(field, "%s: %s is more than a day (%d minutes).", what, words.Short(strings.TrimSpace(text)), most)
		return exact.Number{}
	}
	return n
}

// most is beyond everything that is counted or weighed in a school's kitchen.
var most = exact.Int(1_000_000)

// Positive reads a number over 0.
func (f *Form) Positive(field, what, text string) exact.Number {
	n, err := number(text)
	if err != nil || n.Sign() <= 0 || most.Less(n) {
		f.Add(field, "%s: “%s” is not a number over 0.", what, words.Short(text))
		return exact.Number{}
	}
	return n
}

// Name reads a name; ask is what to say where there is none.
func (f *Form) Name(field, ask, text string) string {
	text = strings.TrimSpace(text)
	switch n := utf8.RuneCountInString(text); {
	case n == 0:
		f.Add(field, "%s", ask)
	case n > LongestName:
		f.Add(field, "The name is longer than %d letters.", LongestName)
	}
	return text
}

// Date reads a date as forms send it; the zero time where it is none. Example
// is a date that would do.
func (f *Form) Date(field, text, example string) time.Time {
	t, err := time.Parse(time.DateOnly, strings.TrimSpace(text))
	switch {
	case err != nil:
		f.Add(field, "“%s” is not a date such as %s.", words.Short(text), example)
	case t.Year() < 2000 || t.Year() > 2100:
		f.Add(field, "The year %d is too far away.", t.Year())
	}
	return t
}

// Rows reads the lines of a list into their parts, of which there are so many,
// with semicolons between.
func (f *Form) Rows(field, what, text string, parts int) [][]string {
	const mostLines = 200
	var out [][]string
	for i, l := range strings.Split(strings.ReplaceAll(text, "\r\n", "\n"), "\n") {
		if strings.TrimSpace(l) == "" {
			continue
		}
		row := strings.Split(l, ";")
		for k := range row {
			row[k] = strings.TrimSpace(row[k])
		}
		switch {
		case len(row) != parts || row[0] == "":
			f.Add(field, "%s, line %d: “%s” has not the %d parts that it needs, with semicolons between.", what, i+1, words.Short(l), parts)
		case utf8.RuneCountInString(l) > 3*LongestName:
			f.Add(field, "%s, line %d is too long.", what, i+1)
		case len(out) == mostLines:
			f.Add(field, "%s: more than %d lines.", what, mostLines)
			return out
		default:
			out = append(out, row)
		}
	}
	return out
}

// Choose finds what was chosen by its id.
func Choose[T any](f *Form, field, what, text string, list []T, id func(T) int64) (chosen T) {
	for _, c := range list {
		if strconv.FormatInt(id(c), 10) == text {
			return c
		}
	}
	f.Add(field, "Choose %s.", what)
	return chosen
}
