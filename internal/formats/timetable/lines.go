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

const (
	clockWord = `\d{1,2}(?:[:.h]\d{2}\s*(?:[ap]m)?|\s*[ap]m)`
	spanWord  = clockWord + `\s*(?:[-–—]|to|until|till)\s*` + clockWord + `|[012]\d[0-5]\d\s*[-–—]\s*[012]\d[0-5]\d\b`
	dayWord   = `(?:mon|tues?|weds?|wednes|thu(?:rs?)?|fri|sat(?:ur)?|sun)(?:days?)?`
	countWord = `\d{1,2}(?:(?:\s*[-–]\s*|\s*(?:[&+/]|and)\s*)(?:periods?\s*|lessons?\s*|p\s*)?\d{1,2}\b)?`
	namedWord = `(?:periods?|lessons?|p)\s*` + countWord
	orderWord = `\d(?:st|nd|rd|th)\s+(?:period|lesson)`
)

var (
	// said are the words of a line that say on which day or when in it a lesson is.
	said = pattern.Must(`(?i)\b(?:(` + dayWord + `)\b\.?|(` + spanWord + `|` + orderWord + `|` + namedWord + `\b|\d{1,2}[:.h]\d{2}\b))`)
	// numbered is a period that has only its number, at the beginning of what is said of a day.
	numbered = pattern.Must(`(?i)^[\s,.:/–—-]*(` + countWord + `)\s*(?:[.):,/=>→–—-]+\s*|\s|$)`)
	// ofBracket is a class with its period behind it: "9 Elm (1)".
	ofBracket = pattern.Must(`(?i)^(.*\pL.*?)\s*\((?:periods?\s*|lessons?\s*|p\s*)?(` + countWord + `)\)$`)
	// dayJoined is a day whose period stands at it: "Mon1".
	dayJoined  = pattern.Must(`(?i)\b(` + dayWord + `)(\d)`)
	ordinal    = pattern.Must(`(?i)^(\d)(?:st|nd|rd|th)\s.*`)
	double     = pattern.Must(`(?i)^(\D*)(\d{1,2})\s*(?:([-–])|[&+/]|and)\s*\D*?(\d{1,2})$`)
	commas     = pattern.Must(`\s*[,;]\s*`)
	cellsApart = pattern.Must(`\s*[\t;|,]\s*`)
	plural     = pattern.Must(`(?i)(period|lesson)s\s*`)
	// dayLetter is a line that has the days by their letters: "M1 7P", "Th3 9Q".
	dayLetter = pattern.Must(`^(M|Tu?|W|Th|F)\.?\s?(\d{1,2})\b[\s,:–—-]+(.+)$`)
	// notTaught is all of what is said of a time when nobody is taught.
	notTaught = pattern.Must(`(?i)^(?:(?:reg(?:istration)?|tutor|form|time|assembly|break|lunch|duty|briefing|meeting|ppa|staff)\b[\s.,:–-]*)+$`)
	// before and behind are what a sentence puts round a class: "I teach 9 Elm", "9 Elm have food on".
	before = pattern.Must(`(?i)^(?:(?:hi|hello|please|my|on|from|at|in|during|every|each|then|and|i|we|have|has|teach|with|for)\b[\s,:]*)+`)
	behind = pattern.Must(`(?i)(?:[\s,:]*\b(?:thanks|thank you|on|from|at|in|during|every|each|then|and|is|are|(?:have|has|do|does)(?:\s+(?:food|cookery|cooking|lessons?|it|practicals?))*))+$`)
	// aRoom is where a lesson is.
	aRoom = pattern.Must(`(?i)^(?:room\s*|rm\.?\s*)?[a-z]{1,2}\d{1,3}$|\b(?:room|kitchen|lab|studio|workshop)\b`)
)

// A part of a line is a day, when in it, or other words.
type part struct {
	day   term.Weekday
	isDay bool
	when  string
	words string
}

// told is what a line tells, in its order.
type told []part

// partsOf parts a line into what it says of days, of when, and else. A number alone is a period where it
// begins what is said of a day that says no other time.
func partsOf(line string, inDay bool) []part {
	var out told
	ofDay := func(text string, spoken bool) { // what stands between two days
		if !spoken || !out.inBrackets(text) && !out.byNumbers(text) {
			out.byTimes(text)
		}
	}
	at, spoken := 0, inDay
	for _, m := range said.FindAllStringSubmatchIndex(line, -1) {
		if m[2] < 0 {
			continue
		}
		day, _ := term.WeekdayOf(line[m[2]:m[3]])
		ofDay(line[at:m[0]], spoken)
		timed := len(out) == 1 && out[0].when != "" // "Lesson 1 Monday - 9 Elm"
		out = append(out, part{day: day, isDay: true})
		at, spoken = m[1], !timed
	}
	ofDay(line[at:], spoken)
	return out
}

// words takes what is neither a day nor a time, without what a sentence puts round it.
func (t *told) words(text string) {
	text = trimmed(cellsApart.ReplaceAllString(text, ", "))
	if text = trimmed(behind.ReplaceAllString(before.ReplaceAllString(text, ""), "")); text != "" {
		*t = append(*t, part{words: text})
	}
}

// inBrackets takes classes with their periods behind them: "9 Elm (1), 7 Alder (3)".
func (t *told) inBrackets(text string) bool {
	pieces := commas.Split(strings.TrimLeft(text, " \t,;:–—-"), -1)
	if slices.ContainsFunc(pieces, func(p string) bool { return !ofBracket.MatchString(p) }) {
		return false
	}
	for _, p := range pieces {
		m := ofBracket.FindStringSubmatch(p)
		*t = append(*t, part{when: m[2]})
		t.words(m[1])
	}
	return true
}

// byNumbers takes lessons that begin with the number of their period, where no other time is said:
// "1 9 Elm, 3 7 Alder".
func (t *told) byNumbers(text string) bool {
	if !numbered.MatchString(text) || said.MatchString(text) {
		return false
	}
	pieces := commas.Split(text, -1)
	if slices.ContainsFunc(pieces, func(p string) bool { m := numbered.FindString(p); return m == "" || trimmed(p[len(m):]) == "" }) {
		pieces = []string{text}
	}
	for _, p := range pieces {
		m := numbered.FindStringSubmatchIndex(p)
		when, rest := sensible(p[m[2]:m[3]]), p[m[1]:]
		if when != p[m[2]:m[3]] {
			rest = p[m[2]+len(when):]
		}
		*t = append(*t, part{when: when})
		t.words(rest)
	}
	return true
}

// byTimes takes what is said by times and by periods that are called so.
func (t *told) byTimes(text string) {
	at := 0
	for _, m := range said.FindAllStringIndex(text, -1) {
		t.words(text[at:m[0]])
		when := sensible(text[m[0]:m[1]])
		*t = append(*t, part{when: strings.TrimSpace(when)})
		at = m[0] + len(when)
	}
	t.words(text[at:])
}

// sensible is a period without the number of what stands behind it: "p1 and 8 Hazel", "1/9 Elm".
func sensible(when string) string {
	if m := double.FindStringSubmatch(when); m != nil && m[3] == "" && (Entry{Period: when}).Each() == nil {
		return m[1] + m[2]
	}
	return when
}

// trimmed is a text without what only parts it from others.
func trimmed(text string) string {
	return strings.TrimRight(strings.Trim(text, " \t,;:–—-|/()=>→#*•·"), ".!")
}

// bullets stand before what people list.
const bullets = "-•*–· "

// lines reads a line for each lesson, of the day, the period or times, class and room, in any order; the
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
		if line = strings.TrimLeft(strings.TrimSpace(line), bullets); trimmed(line) == "" || turn.MatchString(line) {
			continue
		}
		if m := dayLetter.FindStringSubmatch(line); m != nil && letters {
			line = dayOfLetter[m[1]] + " " + m[2] + " " + m[3]
		}
		switch parts := partsOf(dayJoined.ReplaceAllString(line, "$1 $2"), inDay); {
		case len(parts) == 0: // “Thanks!”
			w.Beside = append(w.Beside, line)
		case len(parts) == 1 && parts[0].isDay:
			day, inDay = parts[0].day, true
		default:
			w.line(fmt.Sprintf("row %d", n+1), parts, day, inDay)
		}
	}
}

// line takes the lessons that the parts of a line tell. Words before the first day are of every day in it, and
// what stands behind one of these is its room.
func (w *Week) line(where string, parts []part, day term.Weekday, inDay bool) {
	untaught := func(words string) bool { return isFree(words) || notTaught.MatchString(words) }
	spoken, taught := false, false
	for _, p := range parts {
		spoken, taught = spoken || p.words != "", taught || p.words != "" && !untaught(p.words)
	}
	if spoken && !taught {
		return
	}
	parts = classesBehind(parts)
	first := ""
	if parts[0].words != "" && slices.ContainsFunc(parts, func(p part) bool { return p.isDay }) {
		first, parts = parts[0].words, parts[1:]
	}
	var found []Entry
	e := Entry{Where: where, Day: day}
	whole := true
	end := func() {
		class, room := e.Class, ""
		switch {
		case class == "":
			class = first
		case first != "" && aRoom.MatchString(first) && !aRoom.MatchString(class):
			room = first
		case first != "":
			class, room = first, class
		}
		if e.Period != "" || e.Class != "" {
			whole = whole && inDay && e.Period != "" && class != ""
			found = append(found, Entry{Where: where, Day: e.Day, Period: e.Period, Class: class, Room: room})
		}
		e.Period, e.Class = "", ""
	}
	for _, p := range parts {
		switch {
		case p.isDay:
			if e.Class != "" || e.Period != "" && first != "" {
				end()
			}
			e.Day, inDay = p.day, true
		case p.when != "":
			if e.Period != "" {
				end()
			}
			e.Period = ordinal.ReplaceAllString(p.when, "$1")
		default:
			e.Class = strings.TrimSpace(e.Class + " " + p.words)
		}
	}
	end()
	if found == nil || !whole {
		w.Problems = append(w.Problems, lacks(where, e.Day, inDay && taught))
		return
	}
	for _, e := range found {
		if !untaught(e.Class) {
			w.apart(e)
		}
	}
}

// classesBehind puts each class behind its day and time where all stand before these: "9 Elm on Monday P1 and
// 8 Hazel on Tuesday P2".
func classesBehind(parts []part) []part {
	classes := 0
	for i := 0; i < len(parts); i++ {
		if parts[i].words == "" {
			continue
		}
		if classes++; i+2 >= len(parts) || !parts[i+1].isDay || parts[i+2].when == "" {
			return parts
		}
	}
	if classes < 2 {
		return parts
	}
	var out []part
	words := part{}
	for _, p := range parts {
		if p.words != "" {
			words = p
			continue
		}
		if out = append(out, p); p.when != "" {
			out = append(out, words)
		}
	}
	return out
}

// lacks says what a line does not tell.
func lacks(where string, day term.Weekday, inDay bool) string {
	if inDay {
		return fmt.Sprintf("%s: when on %s? A period or times such as 10:05–11:10 are needed", where, day.Name())
	}
	return where + ": day, period, class and room are needed"
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
	return slices.Contains(free, strings.ReplaceAll(strings.ToLower(strings.Trim(cell, " -–—./")), "-", " "))
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

// fourFigures are a time without its colon: 0855.
var fourFigures = pattern.Must(`^\d{4}$`)

// ofDay reads a time of twelve or of 24 hours.
func ofDay(s string) (clock.Time, bool) {
	s = strings.Replace(s, "h", ":", 1)
	digits := strings.TrimRight(s, "apm")
	half := s[len(digits):]
	if fourFigures.MatchString(digits) {
		digits = digits[:2] + ":" + digits[2:]
	}
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
