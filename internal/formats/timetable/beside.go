package timetable

import (
	"slices"
	"strings"

	"freshapron/internal/core/pattern"
)

// besideText parts the lines over a table and below it that are of none of its columns from the rest, in whose
// place nothing stands; a text that is no table stays as it is.
func besideText(text string) (rest string, beside []string) {
	lines := strings.Split(text, "\n")
	for _, sep := range []string{"\t", "|", ";", ","} {
		with, written := 0, 0
		for _, l := range lines {
			if strings.TrimSpace(l) != "" {
				written++
			}
			if strings.Contains(l, sep) {
				with++
			}
		}
		if with < leastRows || 3*with < 2*written {
			continue
		}
		for _, n := range outside(len(lines), func(n int) bool { return !strings.Contains(lines[n], sep) && isRemark(lines[n]) }) {
			if l := strings.TrimSpace(lines[n]); l != "" {
				lines[n], beside = "", append(beside, l)
			}
		}
		break
	}
	return strings.Join(lines, "\n"), beside
}

// leastRows is how many rows make a table.
const leastRows = 2

// besideRows parts the rows over a table and below it that fill half of its columns at most, and of which
// none is of a lesson, from the rest.
func besideRows(rows [][]string) (rest [][]string, beside []string) {
	var filled []int
	for _, r := range rows {
		filled = append(filled, cellsIn(r))
	}
	usual := slices.Clone(filled)
	slices.Sort(usual)
	if len(usual) == 0 || usual[len(usual)/2] < leastRows {
		return rows, nil
	}
	says := func(n int) string {
		return strings.Join(slices.DeleteFunc(slices.Clone(rows[n]), func(c string) bool { return c == "" }), ", ")
	}
	gone := outside(len(rows), func(n int) bool {
		return 2*filled[n] <= max(usual[len(usual)/2], len(rows[n])) && weekdays(rows[n]) == 0 && isRemark(says(n))
	})
	for n, r := range rows {
		if slices.Contains(gone, n) {
			beside = append(beside, says(n))
		} else {
			rest = append(rest, r)
		}
	}
	return rest, beside
}

func cellsIn(row []string) (n int) {
	for _, c := range row {
		if c != "" {
			n++
		}
	}
	return n
}

// outside returns the places from the first on and from the last back, each as far as they are beside; none
// where all are.
func outside(n int, beside func(at int) bool) (out []int) {
	first := 0
	for ; first < n && beside(first); first++ {
		out = append(out, first)
	}
	if first == n {
		return nil
	}
	for last := n - 1; beside(last); last-- {
		out = append(out, last)
	}
	return out
}

// isRemark reports whether a line can be of the school rather than of a lesson: it is empty, or has several
// words or no figure, begins with neither a day nor a period, and has no day beside a figure.
func isRemark(line string) bool {
	line = strings.TrimLeft(strings.TrimSpace(line), bullets+"#")
	return line == "" || (strings.ContainsAny(line, " :") || !strings.ContainsAny(line, "0123456789")) && !ofLesson.MatchString(line) && !(aDay.MatchString(line) && strings.ContainsAny(line, "0123456789")) && !isFree(line)
}

var (
	ofLesson = pattern.Must(`(?i)^(?:` + dayWord + `\b|` + spanWord + `|` + namedWord + `\b|` + orderWord + `|\d{1,2}(?:\W|$)|(?:break|lunch|reg(?:istration)?|tutor(?: time)?|assembly|time|day|periods?)\b)`)
	aDay     = pattern.Must(`(?i)\b` + dayWord + `\b`)
)
