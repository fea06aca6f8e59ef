package timetable

import (
	"fmt"
	"slices"
	"strconv"
	"strings"

	"freshapron/internal/core/clock"
	"freshapron/internal/core/pattern"
	"freshapron/internal/core/term"
)

var (
	clockWord = `\d{1,2}(?:[:.]\d{2}\s*(?:[ap]m)?|\s*[ap]m)`
	dayWord   = `((?:mon|tue|wed|thu|fri|sat|sun)[a-z]*)`
	whenWord  = `(` + clockWord + `\s*(?:[-–—]|to)\s*` + clockWord + `|(?:periods?\s*|lessons?\s*|p\s*)?\d{1,2}(?:(?:[-–]|\s*(?:[&+/]|and)\s*)(?:period\s*|lesson\s*|p\s*)?\d{1,2}\b)?)`
	dayLine   = pattern.Must(`(?i)^` + dayWord + `\.?[\s,:–—-]+(.+)$`)
	dayAlone  = pattern.Must(`(?i)^#*\s*` + dayWord + `\.?\s*:?$`)
	when      = pattern.Must(`(?i)^` + whenWord + `[\s,:–—-]+(.+)$`)
	slot      = pattern.Must(`(?i)^` + dayWord + `\.?[\s,]+` + whenWord + `$`)
	classLine = pattern.Must(`^(.+?)(?:\s*:|\s+[-–—])\s+(.+)$`)
	between   = pattern.Must(`(?i)\s*[,;]\s*|\s*(?:[&+]|\band\b)\s*(` + dayWord + `)`)
	double    = pattern.Must(`(?i)^(\D*)(\d{1,2})\s*(?:([-–])|[&+/]|and)\s*\D*?(\d{1,2})$`)
	commas    = pattern.Must(`\s*[,;]\s*`)
	dayLetter = pattern.Must(`^(M|Tu?|W|Th|F)\.?\s?(\d{1,2})\b[\s,:–—-]+(.+)$`) // "M1 7P", "Th3 9Q"
	timeFirst = pattern.Must(`(?i)^(` + clockWord + `\s*(?:[-–—]|to)\s*` + clockWord + `)[\s,]+` + dayWord + `\.?[\s,:–—-]+(.+)$`)
	notTaught = pattern.Must(`(?i)^(?:` + clockWord + `(?:\s*(?:[-–—]|to)\s*` + clockWord + `)?\s*)?(?:(?:` + dayWord + `|reg(?:istration)?|tutor|form|time|assembly|break|lunch|duty|briefing|meeting|ppa|staff)\b[\s.,:–-]*)+$`)
	plural    = pattern.Must(`(?i)(period|lesson)s\s*`)
)

// bullets stand before what people list.
const bullets = "-•*–· "

// lines reads a line for each lesson, of the day, the period or times, class and room; the
// lessons of a day below its name; or a line for each class, with its days and periods.
func (w *Week) lines(text string) {
	day, inDay := term.Weekday(0), false
	letters := byLetters(text)
	lines := strings.Split(text, "\n")
	for _, n := range outside(len(lines), func(n int) bool {
		return isRemark(lines[n]) && !(letters && dayLetter.MatchString(strings.TrimSpace(lines[n])))
	}) {
		if l := strings.TrimSpace(lines[n]); l != "" && !turn.MatchString(l) {
			w.Beside = append(w.Beside, l)
		}
		lines[n] = ""
	}
	for n, line := range lines {
		n++
		if line = strings.TrimLeft(strings.TrimSpace(line), bullets); line == "" || turn.MatchString(line) {
			continue
		}
		where := fmt.Sprintf("row %d", n)
		if m := timeFirst.FindStringSubmatch(line); m != nil {
			line = m[2] + " " + m[1] + " " + m[3]
		}
		if m := dayLetter.FindStringSubmatch(line); m != nil && letters {
			line = dayOfLetter[m[1]] + " " + m[2] + " " + m[3]
		}
		on, rest := day, line
		if m := dayAlone.FindStringSubmatch(line); m != nil {
			day, inDay = w.weekday(where, m[1])
			continue
		} else if m := dayLine.FindStringSubmatch(line); m != nil {
			var ok bool
			if on, ok = w.weekday(where, m[1]); !ok {
				continue
			}
			rest = m[2]
		} else if saysSlots(line) {
			m := classLine.FindStringSubmatch(line)
			w.slots(where, m[1], m[2])
			continue
		} else if !inDay && notTaught.MatchString(line) {
			continue
		} else if !inDay {
			w.Problems = append(w.Problems, where+": day, period, class and room are needed")
			continue
		}
		for _, one := range lessons(rest) {
			at := when.FindStringSubmatch(one)
			if at == nil && notTaught.MatchString(one) {
				continue
			}
			if at == nil {
				w.Problems = append(w.Problems, fmt.Sprintf("%s: when on %s? A period or times such as 10:05–11:10 are needed", where, on.Name()))
				continue
			}
			if !isFree(at[2]) {
				w.add(Entry{Where: where, Day: on, Period: at[1], Class: at[2]})
			}
		}
	}
}

// saysSlots reports whether a line is of a class: "9 Elm: Mon P1, Thu P3".
func saysSlots(line string) bool {
	m := classLine.FindStringSubmatch(line)
	return m != nil && slot.MatchString(between.Split(m[2], 2)[0])
}

// byLetters reports whether lines begin with the letters of several days; one letter alone may be
// that of a room: "F2 7A".
func byLetters(text string) bool {
	days := map[string]bool{}
	for line := range strings.Lines(text) {
		if m := dayLetter.FindStringSubmatch(strings.TrimLeft(strings.TrimSpace(line), bullets)); m != nil {
			days[dayOfLetter[m[1]]] = true
		}
	}
	return len(days) > 1
}

var dayOfLetter = map[string]string{"M": "Mon", "T": "Tue", "Tu": "Tue", "W": "Wed", "Th": "Thu", "F": "Fri"}

// lessons parts what stands behind a day into its lessons: "1 9 Elm, 3 7 Alder".
func lessons(text string) []string {
	parts := commas.Split(text, -1)
	if slices.ContainsFunc(parts, func(p string) bool { return !when.MatchString(p) }) {
		return []string{text}
	}
	return parts
}

// weekday reads the name of a day, or says that it is none.
func (w *Week) weekday(where, name string) (term.Weekday, bool) {
	day, ok := term.WeekdayOf(name)
	if !ok {
		w.Problems = append(w.Problems, fmt.Sprintf("%s: “%s” is no weekday", where, name))
	}
	return day, ok
}

// slots reads days and periods of one class: "Mon P1, Thu P3".
func (w *Week) slots(where, class, text string) {
	for _, s := range strings.Split(between.ReplaceAllString(text, ", $1"), ",") {
		m := slot.FindStringSubmatch(strings.TrimSpace(s))
		if m == nil {
			w.Problems = append(w.Problems, fmt.Sprintf("%s: “%s” is no day and period such as Mon 3", where, strings.TrimSpace(s)))
			continue
		}
		if day, ok := w.weekday(where, m[1]); ok {
			w.add(Entry{Where: where, Day: day, Period: m[2], Class: class})
		}
	}
}

// Each returns the lesson in each of the periods that "P1-2" or "3 and 4" are, for schools
// that call no period so.
func (e Entry) Each() []Entry {
	m := double.FindStringSubmatch(e.Period)
	if m == nil || e.Timed {
		return []Entry{e}
	}
	first, _ := strconv.Atoi(m[2])
	last, _ := strconv.Atoi(m[4])
	if last <= first || last-first >= mostInARow {
		return nil
	}
	name := plural.ReplaceAllString(m[1], "$1 ")
	var out []Entry
	for n := first; n <= last; n++ {
		if n > first && n < last && m[3] == "" { // “1 and 3”
			continue
		}
		e.Period = name + strconv.Itoa(n)
		out = append(out, e)
	}
	return out
}

// mostInARow is of how many periods one lesson is at most.
const mostInARow = 3

// isFree reports whether nobody is taught by the words of a cell.
func isFree(cell string) bool {
	return slices.Contains(free, strings.ToLower(strings.Trim(cell, " -–—./")))
}

// earliest is before which hour no lesson begins: "1.20" is in the afternoon.
const earliest = 7 * 60

// times reads "10:05–11:10" and "1.20pm to 2.25pm", with whatever stroke.
func times(s string) (start, end clock.Time, ok bool) {
	a, b, found := strings.Cut(strings.NewReplacer("–", "-", "—", "-", "to", "-", " ", "").Replace(strings.ToLower(s)), "-")
	if !found {
		return 0, 0, false
	}
	start, ok = ofDay(a)
	end, ok2 := ofDay(b)
	return start, end, ok && ok2
}

// ofDay reads a time of twelve or of 24 hours.
func ofDay(s string) (clock.Time, bool) {
	digits := strings.TrimRight(s, "apm")
	half := s[len(digits):]
	if half != "" && !strings.ContainsAny(digits, ":.") {
		digits += ":00"
	}
	t, err := clock.Typed(digits)
	if err != nil {
		return 0, false
	}
	noon := clock.Time(12 * 60)
	switch {
	case half == "am" && t >= noon:
		t -= noon
	case half == "pm" && t < noon, half == "" && t < earliest:
		t += noon
	}
	return t, true
}
