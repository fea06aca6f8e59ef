package timetable

import (
	"cmp"
	"fmt"
	"slices"
	"strings"

	"freshapron/internal/core/pattern"
	"freshapron/internal/core/term"
	"freshapron/internal/core/words"
	"freshapron/internal/formats/roster"
	"freshapron/internal/formats/table"
)

// What a column of a list says.
const (
	dayColumn    = "day"
	dateColumn   = "date"
	periodColumn = "period"
	startColumn  = "start"
	endColumn    = "end"
	classColumn  = "class"
	roomColumn   = "room"
)

var titles = map[string][]string{
	dayColumn: {"day", "weekday", "day of week"}, dateColumn: {"date", "start date"}, periodColumn: {"period", "periods", "lesson", "lessons", "time", "times", "slot", "when"},
	startColumn: {"start", "begins", "from", "start time"}, endColumn: {"end", "ends", "to", "until", "end time", "finish"},
	classColumn: {"class", "group", "set", "teaching group", "subject", "class name", "year group", "year", "form", "course"}, roomColumn: {"room", "location", "where"},
}

// usual are the columns of a list without headings.
var usual = []string{dayColumn, periodColumn, classColumn, roomColumn}

// readTable reads a week: a grid with the days across or down, a list with a row for
// each lesson, or a line for each. A period is a name, or times such as 10:05–11:10.
func readTable(data []byte) Week {
	var w Week
	text, isText := table.Text(data)
	if isText {
		if text, w.Beside = besideText(text); w.Beside != nil {
			data = []byte(text)
		}
	}
	rows, err := table.Read(data)
	if err != nil {
		w.Problems = append(w.Problems, err.Error())
		return w
	}
	rows, beside := besideRows(withoutEmptyColumns(rows))
	w.Beside = append(w.Beside, beside...)
	for _, name := range table.Unread(data) {
		w.Beside = append(w.Beside, "all of the sheet "+name)
	}
	if takesTurns(rows) {
		w.Problems = append(w.Problems, "the weeks take turns, and one week is kept: bring in the one that comes next, and change what is otherwise on the day")
		return w
	}
	if at := slices.IndexFunc(rows, func(r []string) bool { return daysAcross(r) != nil }); at >= 0 {
		w.across(daysAcross(rows[at]), rows[at+1:])
		return w
	}
	if at := down(rows); at > 0 {
		grid := turned(append(rows[:1:1], rows[at:]...))
		w.across(daysAcross(grid[0]), grid[1:])
		return w
	}
	columns, from := usual, 0
	if found, ok := headings(rows); ok {
		columns, from = found, 1
	} else if isText && !slices.ContainsFunc(rows, func(r []string) bool { return len(r) > 3 }) {
		w.lines(text)
		return w
	}
	for i, row := range rows[from:] {
		w.row(fmt.Sprintf("row %d", from+i+1), row, columns)
	}
	return w
}

// withoutEmptyColumns leaves out the columns in which nothing stands, unless nothing stands in any.
func withoutEmptyColumns(rows [][]string) [][]string {
	if !slices.ContainsFunc(rows, func(r []string) bool { return cellsIn(r) > 0 }) {
		return rows
	}
	var out [][]string
	for _, r := range rows {
		var kept []string
		for i, c := range r {
			if slices.ContainsFunc(rows, func(r []string) bool { return r[i] != "" }) {
				kept = append(kept, c)
			}
		}
		out = append(out, kept)
	}
	return out
}

func weekdays(row []string) (n int) {
	for _, c := range row {
		if _, ok := term.WeekdayOf(strings.Trim(c, ". ")); ok {
			n++
		}
	}
	return n
}

// down returns where the days begin in a grid that has them down: each once in the first
// column, and a period or times at the head of every other, below which the times may
// stand; 0 in a table that is no such grid.
func down(rows [][]string) (at int) {
	isDay := func(r []string) bool { return weekdays(r[:1]) > 0 }
	if at = slices.IndexFunc(rows, isDay); at < 1 || at > 2 {
		return 0
	}
	seen := map[term.Weekday]bool{}
	for _, r := range rows[at:] {
		day, ok := term.WeekdayOf(strings.Trim(r[0], ". "))
		if !ok || seen[day] {
			return 0
		}
		seen[day] = true
	}
	if len(seen) < 2 || slices.ContainsFunc(rows[0][1:], func(c string) bool { return c != "" && !strings.ContainsAny(c, "0123456789") }) {
		return 0
	}
	return at
}

// takesTurns reports whether a table is of several weeks: of a week A and a week B.
func takesTurns(rows [][]string) bool {
	seen := map[string]bool{}
	for _, r := range rows {
		for _, c := range r {
			if m := turn.FindStringSubmatch(c); m != nil {
				seen[strings.ToLower(m[1])] = true
			}
		}
	}
	return len(seen) > 1
}

var turn = pattern.Must(`(?i)^\s*(?:week|wk)\s*([ab12])\b`)

func turned(rows [][]string) [][]string {
	out := make([][]string, len(rows[0]))
	for i := range out {
		for _, r := range rows {
			out[i] = append(out[i], r[i])
		}
	}
	return out
}

// daysAcross returns the day of each column of a grid by the row at its head, −1 where it is of none; nil where
// the row is no such head, which has two days at least, and beside them what the first column is.
func daysAcross(row []string) []term.Weekday {
	out := make([]term.Weekday, len(row))
	seen := map[term.Weekday]bool{}
	others := 0
	for i, c := range row {
		c = strings.Trim(c, ". ")
		day, ok := term.WeekdayOf(c)
		switch {
		case ok:
			out[i], seen[day] = day, true
			continue
		case c != "" && i > 0:
			others++
		}
		out[i] = -1
	}
	if len(seen) > 2 || len(seen) == 2 && others == 0 {
		return out
	}
	for first := range max(0, len(row)-len(dayInitials)+1) { // “M T W T F”, “M Tu W Th F”
		letters := ""
		for _, c := range row[first : first+len(dayInitials)] {
			if c = strings.ToLower(strings.Trim(c, ". ")); c != "" && len(c) <= 2 {
				letters += c[:1]
			}
		}
		if letters != dayInitials {
			continue
		}
		for i := range row {
			out[i] = -1
			if at := i - first; at >= 0 && at < len(dayInitials) {
				out[i] = term.Weekday(at)
			}
		}
		return out
	}
	return nil
}

// dayInitials are the first letters of Monday to Friday.
const dayInitials = "mtwtf"

// across reads a grid with the days of its columns: a lesson in each cell with words, below which its room may stand.
func (w *Week) across(days []term.Weekday, rows [][]string) {
	above := map[int]int{} // by column, the entry in the row above, counted from 1
	first := slices.IndexFunc(days, func(d term.Weekday) bool { return d >= 0 })
	for _, row := range rows {
		period := row[0]
		if first > 1 {
			if span := row[0] + "–" + row[1]; isSpan(span) {
				period = span
			}
		}
		for i, cell := range row {
			if i >= len(days) || days[i] < 0 || isFree(cell) {
				delete(above, i)
				continue
			}
			if at := above[i]; period == "" && at > 0 && aRoom.MatchString(cell) {
				w.Entries[at-1].Room = cell
				continue
			}
			before := len(w.Entries)
			w.apart(Entry{Where: days[i].Name() + " " + period, Day: days[i], Period: period, Class: cell})
			if above[i] = 0; len(w.Entries) > before {
				above[i] = len(w.Entries)
			}
		}
	}
}

// isSpan reports whether a text is a time and a later one.
func isSpan(text string) bool {
	_, _, ok := times(text)
	return ok
}

// free are cells of a grid in which nobody is taught.
var free = []string{"", "nothing", "x", "free", "break", "lunch", "ppa", "planning", "registration", "assembly", "non contact", "off"}

// apart takes an entry that was found among others, unless its class has a day or a time in it: then it was not
// told from another.
func (w *Week) apart(e Entry) {
	if said.MatchString(e.Class) {
		w.Problems = append(w.Problems, fmt.Sprintf("%s: “%s” is no class: day, period, class and room are needed, each lesson on a line of its own", e.Where, words.Short(e.Class)))
		return
	}
	w.add(e)
}

// add takes an entry, with its times where its period is such.
func (w *Week) add(e Entry) {
	if m := inBrackets.FindStringSubmatch(e.Class); m != nil && e.Room == "" && aRoom.MatchString(m[2]) {
		e.Class, e.Room = m[1], m[2]
	}
	if !e.Timed {
		e.Start, e.End, e.Timed = times(e.Period)
	}
	if e.Timed && e.End <= e.Start {
		w.Problems = append(w.Problems, fmt.Sprintf("%s: %s ends before it begins", e.Where, cmp.Or(e.Period, e.Start.String()+"–"+e.End.String())))
		return
	}
	if e.Each() == nil {
		w.Problems = append(w.Problems, fmt.Sprintf("%s: “%s” are no periods one after another", e.Where, e.Period))
		return
	}
	w.Entries = append(w.Entries, e)
}

// inBrackets is what stands in brackets behind a class.
var inBrackets = pattern.Must(`^(.+?)\s*[(\[]([^()\[\]]+)[)\]]$`)

// headings tells the columns of a list by their headings, where those say on which day
// which class has a lesson; the day may stand beside the period: “Mon P1”.
func headings(rows [][]string) (columns []string, ok bool) {
	columns = make([]string, len(rows[0]))
	for i, c := range rows[0] {
		c = strings.ToLower(strings.Trim(strings.Join(strings.Fields(c), " "), " .:"))
		for column, list := range titles {
			if slices.Contains(list, c) && !slices.Contains(columns, column) {
				columns[i] = column
			}
		}
	}
	on := slices.Contains(columns, dayColumn) || slices.Contains(columns, dateColumn)
	if at := slices.Index(columns, periodColumn); !on && at >= 0 {
		on = len(rows) > 1 && !slices.ContainsFunc(rows[1:], func(r []string) bool { _, _, ok := dayAndPeriod(r[at]); return !ok })
	}
	return columns, on && slices.Contains(columns, classColumn)
}

// dayAndPeriod parts “Mon P1” into its two.
func dayAndPeriod(text string) (day term.Weekday, period string, ok bool) {
	parts := partsOf(text, false)
	if len(parts) != 2 || !parts[0].isDay || parts[1].when == "" {
		return 0, "", false
	}
	return parts[0].day, parts[1].when, true
}

// row reads a row of a list: a lesson, a term or days off.
func (w *Week) row(where string, row []string, columns []string) {
	if off := strings.ToLower(row[0]); (off == "off" || off == "term") && len(row) > 3 {
		w.span(where, row, off == "off")
		return
	}
	cell := func(column string) string {
		if i := slices.Index(columns, column); i >= 0 && i < len(row) {
			return row[i]
		}
		return ""
	}
	if len(row) < len(columns) {
		w.Problems = append(w.Problems, where+": "+strings.Join(columns[:len(columns)-1], ", ")+" and "+columns[len(columns)-1]+" are needed")
		return
	}
	e := Entry{Where: where, Period: cell(periodColumn), Class: cell(classColumn), Room: cell(roomColumn)}
	if slices.Equal(columns, usual) && slices.ContainsFunc(row[1:], aDay.MatchString) { // "Monday, P1, 9 Elm, F1; Tuesday, P2, …"
		w.Problems = append(w.Problems, where+": it has several days: each lesson on a line of its own is needed")
		return
	}
	var ok bool
	if e.Day, ok = term.WeekdayOf(strings.Trim(cell(dayColumn), ". ")); !ok {
		if day, period, both := dayAndPeriod(e.Period); both && cell(dayColumn)+cell(dateColumn) == "" {
			e.Day, e.Period = day, period
			w.add(e)
			return
		}
		day, err := roster.Date(cell(dateColumn))
		if err != nil {
			w.Problems = append(w.Problems, fmt.Sprintf("%s: “%s” is no weekday", where, cell(dayColumn)+cell(dateColumn)))
			return
		}
		e.Day = term.Of(day)
	}
	if from, to := cell(startColumn), cell(endColumn); from != "" && to != "" {
		if e.Start, e.End, e.Timed = times(seconds.ReplaceAllString(from, "$1") + "-" + seconds.ReplaceAllString(to, "$1")); !e.Timed {
			w.Problems = append(w.Problems, fmt.Sprintf("%s: “%s” to “%s” are no times such as 10:05 and 11:10", where, from, to))
			return
		}
	}
	w.add(e)
}

// seconds stand behind the minutes of times in exports.
var seconds = pattern.Must(`^(\d{1,2}:\d{2}):\d{2}$`)
