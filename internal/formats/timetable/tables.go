package timetable

import (
	"cmp"
	"fmt"
	"regexp"
	"slices"
	"strings"

	"freshapron/internal/core/clock"
	"freshapron/internal/core/term"
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
	dayColumn: {"day", "weekday", "day of week"}, dateColumn: {"date", "start date"}, periodColumn: {"period", "lesson", "time", "times", "slot", "when"},
	startColumn: {"start", "begins", "from", "start time"}, endColumn: {"end", "ends", "to", "until", "end time", "finish"},
	classColumn: {"class", "group", "set", "teaching group", "subject", "class name"}, roomColumn: {"room", "location", "where"},
}

// usual are the columns of a list without headings.
var usual = []string{dayColumn, periodColumn, classColumn, roomColumn}

// readTable reads a week: a grid with the days across or down, a list with a row for
// each lesson, or a line for each. A period is a name, or times such as 10:05–11:10.
func readTable(data []byte) Week {
	var w Week
	rows, err := table.Read(data)
	if err != nil {
		w.Problems = append(w.Problems, err.Error())
		return w
	}
	if at := slices.IndexFunc(rows, func(r []string) bool { return weekdays(r) > 2 }); at >= 0 {
		w.across(rows[at:])
		return w
	}
	if down(rows) {
		w.across(turned(rows))
		return w
	}
	columns, from := usual, 0
	if found, ok := headings(rows[0]); ok {
		columns, from = found, 1
	} else if text, ok := table.Text(data); ok && !slices.ContainsFunc(rows, func(r []string) bool { return len(r) > 3 }) {
		w.lines(text)
		return w
	}
	for i, row := range rows[from:] {
		w.row(fmt.Sprintf("row %d", from+i+1), row, columns)
	}
	return w
}

func weekdays(row []string) (n int) {
	for _, c := range row {
		if _, ok := term.WeekdayOf(strings.Trim(c, ". ")); ok {
			n++
		}
	}
	return n
}

// down reports whether a table is a grid with the days down: each once in the first
// column, and a period or times at the head of every other.
func down(rows [][]string) bool {
	seen := map[term.Weekday]bool{}
	for _, r := range rows[1:] {
		day, ok := term.WeekdayOf(strings.Trim(r[0], ". "))
		if !ok || seen[day] {
			return false
		}
		seen[day] = true
	}
	return len(seen) > 1 && !slices.ContainsFunc(rows[0][1:], func(c string) bool { return c != "" && !strings.ContainsAny(c, "0123456789") })
}

func turned(rows [][]string) [][]string {
	out := make([][]string, len(rows[0]))
	for i := range out {
		for _, r := range rows {
			out[i] = append(out[i], r[i])
		}
	}
	return out
}

// across reads a grid whose first row has the days: a lesson in each cell with words.
func (w *Week) across(rows [][]string) {
	for _, row := range rows[1:] {
		period := row[0]
		for i, cell := range row {
			day, ok := term.WeekdayOf(strings.Trim(rows[0][i], ". "))
			if !ok || slices.Contains(free, strings.ToLower(strings.Trim(cell, " -–—./"))) {
				continue
			}
			w.add(Entry{Where: day.Name() + " " + period, Day: day, Period: period, Class: cell})
		}
	}
}

// free are cells of a grid in which nobody is taught.
var free = []string{"", "x", "free", "break", "lunch", "ppa", "planning", "registration", "assembly", "non-contact", "off"}

// add takes an entry, with its times where its period is such.
func (w *Week) add(e Entry) {
	if !e.Timed {
		e.Start, e.End, e.Timed = times(e.Period)
	}
	if e.Timed && e.End <= e.Start {
		w.Problems = append(w.Problems, fmt.Sprintf("%s: %s ends before it begins", e.Where, cmp.Or(e.Period, e.Start.String()+"–"+e.End.String())))
		return
	}
	w.Entries = append(w.Entries, e)
}

// headings tells the columns of a list by their headings, where those say on which day
// which class has a lesson.
func headings(row []string) (columns []string, ok bool) {
	columns = make([]string, len(row))
	for i, c := range row {
		c = strings.ToLower(strings.Trim(strings.Join(strings.Fields(c), " "), " .:"))
		for column, list := range titles {
			if slices.Contains(list, c) && !slices.Contains(columns, column) {
				columns[i] = column
			}
		}
	}
	on := slices.Contains(columns, dayColumn) || slices.Contains(columns, dateColumn)
	return columns, on && slices.Contains(columns, classColumn)
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
	var ok bool
	if e.Day, ok = term.WeekdayOf(strings.Trim(cell(dayColumn), ". ")); !ok {
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
var seconds = regexp.MustCompile(`^(\d{1,2}:\d{2}):\d{2}$`)

var (
	dayWord  = `((?:mon|tue|wed|thu|fri|sat|sun)[a-z]*)`
	whenWord = `(\d{1,2}[:.]\d{2}\s*[-–—]\s*\d{1,2}[:.]\d{2}|(?:period\s*|lesson\s*|p\s*)?\d{1,2})`
	dayLine  = regexp.MustCompile(`(?i)^[-•*]?\s*` + dayWord + `\.?[\s,:–—-]+(.+)$`)
	when     = regexp.MustCompile(`(?i)^` + whenWord + `[\s,:–—-]+(.+)$`)
	slot     = regexp.MustCompile(`(?i)^` + dayWord + `\.?[\s,]+` + whenWord + `$`)
	between  = regexp.MustCompile(`\s*(?:[,;&+]|\band\b)\s*`)
)

// lines reads a line for each lesson, of the day, the period or times, class and room; or
// one for each class, with its days and periods behind a colon.
func (w *Week) lines(text string) {
	n := 0
	for line := range strings.Lines(text) {
		n++
		if line = strings.TrimSpace(line); line == "" {
			continue
		}
		where := fmt.Sprintf("row %d", n)
		if class, slots, ok := strings.Cut(line, ": "); ok && !dayLine.MatchString(line) {
			w.slots(where, class, slots)
			continue
		}
		day := dayLine.FindStringSubmatch(line)
		if day == nil {
			w.Problems = append(w.Problems, where+": day, period, class and room are needed")
			continue
		}
		on, ok := term.WeekdayOf(day[1])
		if !ok {
			w.Problems = append(w.Problems, fmt.Sprintf("%s: “%s” is no weekday", where, day[1]))
			continue
		}
		at := when.FindStringSubmatch(day[2])
		if at == nil {
			w.Problems = append(w.Problems, fmt.Sprintf("%s: when on %s? A period or times such as 10:05–11:10 are needed", where, on.Name()))
			continue
		}
		w.add(Entry{Where: where, Day: on, Period: at[1], Class: at[2]})
	}
}

// slots reads days and periods of one class: "Mon P1, Thu P3".
func (w *Week) slots(where, class, text string) {
	for _, s := range between.Split(text, -1) {
		m := slot.FindStringSubmatch(strings.TrimSpace(s))
		if m == nil {
			w.Problems = append(w.Problems, fmt.Sprintf("%s: “%s” is no day and period such as Mon 3", where, s))
			continue
		}
		day, ok := term.WeekdayOf(m[1])
		if !ok {
			w.Problems = append(w.Problems, fmt.Sprintf("%s: “%s” is no weekday", where, m[1]))
			continue
		}
		w.add(Entry{Where: where, Day: day, Period: m[2], Class: class})
	}
}

// times reads "10:05–11:10", with whatever stroke.
func times(s string) (start, end clock.Time, ok bool) {
	a, b, found := strings.Cut(strings.NewReplacer("–", "-", "—", "-", " ", "").Replace(s), "-")
	if !found {
		return 0, 0, false
	}
	start, err := clock.Typed(a)
	end, err2 := clock.Typed(b)
	return start, end, err == nil && err2 == nil
}
