// Package timetable reads and writes the week of a school's classes, its terms
// and its days off: as CSV and as iCalendar (RFC 5545).
package timetable

import (
	"bytes"
	"fmt"
	"io"
	"strings"
	"time"

	ics "github.com/arran4/golang-ical"

	"freshapron/internal/core/clock"
	"freshapron/internal/core/term"
	"freshapron/internal/formats/roster"
)

// An Entry is a lesson of the week: by the name of its period, or by its
// times.
type Entry struct {
	Where       string // the row or the entry, for what is wrong with it
	Class, Room string // without a room, that may stand in the words of the class
	Period      string
	Start, End  clock.Time
	Timed       bool // Start and End are given
	Day         term.Weekday
}

// A Week is what was read.
type Week struct {
	Entries  []Entry
	Spans    []term.Span
	Beside   []string // what stands over the week or below it, and is of no lesson
	Problems []string
}

// mostEntries bounds what is taken at once.
const mostEntries = 5_000

// Read reads a table or iCalendar. Zone is where the school's clocks are.
func Read(data []byte, zone *time.Location) Week {
	if bytes.HasPrefix(bytes.TrimLeft(data, "\ufeff \r\n"), []byte("BEGIN:VCALENDAR")) {
		return readCalendar(data, zone)
	}
	return readTable(data)
}

// span reads a row of a term, or of days off: name, first and last day.
func (w *Week) span(where string, row []string, off bool) {
	first, err := roster.Date(row[2])
	last, err2 := roster.Date(row[3])
	if err != nil || err2 != nil || last.Before(first) {
		w.Problems = append(w.Problems, fmt.Sprintf("%s: %s to %s is no span of days", where, row[2], row[3]))
		return
	}
	w.Spans = append(w.Spans, term.Span{Name: row[1], First: first, Last: last, Off: off})
}

// readCalendar reads entries that repeat each week as lessons, and whole days
// as days off, or as terms where their name says so.
func readCalendar(data []byte, zone *time.Location) Week {
	var w Week
	c, err := ics.ParseCalendar(bytes.NewReader(data))
	if err != nil {
		w.Problems = append(w.Problems, fmt.Sprintf("the calendar can’t be read: %v", err))
		return w
	}
	events := c.Events()
	if len(events) > mostEntries {
		w.Problems = append(w.Problems, fmt.Sprintf("there are %d entries, and at most %d are taken at once", len(events), mostEntries))
		return w
	}
	for i, e := range events {
		w.event(fmt.Sprintf("entry %d", i+1), e, zone)
	}
	if len(events) == 0 {
		w.Problems = append(w.Problems, "there is no entry in the calendar")
	}
	return w
}

func (w *Week) event(where string, e *ics.VEvent, zone *time.Location) {
	text := func(p ics.ComponentProperty) string {
		if v := e.GetProperty(p); v != nil {
			return strings.TrimSpace(v.Value)
		}
		return ""
	}
	name := text(ics.ComponentPropertySummary)
	where = fmt.Sprintf("%s (%s)", where, name)
	begins := e.GetProperty(ics.ComponentPropertyDtStart)
	if begins == nil || name == "" {
		w.Problems = append(w.Problems, where+": it has no name or no beginning")
		return
	}
	if len(strings.TrimSpace(begins.Value)) == len("20260901") {
		first, err := e.GetAllDayStartAt()
		last, err2 := e.GetAllDayEndAt()
		if err2 != nil {
			last = first.AddDate(0, 0, 1)
		}
		if err != nil || !last.After(first) {
			w.Problems = append(w.Problems, where+": its days can’t be read")
			return
		}
		day := func(t time.Time) time.Time { return time.Date(t.Year(), t.Month(), t.Day(), 0, 0, 0, 0, time.UTC) }
		w.Spans = append(w.Spans, term.Span{Name: name, First: day(first), Last: day(last).AddDate(0, 0, -1), Off: isOff(name, text(ics.ComponentPropertyCategories))})
		return
	}
	start, err := e.GetStartAt()
	end, err2 := e.GetEndAt()
	if err != nil || err2 != nil || !end.After(start) {
		w.Problems = append(w.Problems, where+": its times can’t be read")
		return
	}
	rule := ruleOf(text(ics.ComponentPropertyRrule))
	if rule["FREQ"] != "WEEKLY" || rule["INTERVAL"] != "" && rule["INTERVAL"] != "1" {
		w.Problems = append(w.Problems, where+": it does not repeat each week")
		return
	}
	start, end = start.In(zone), end.In(zone)
	if start.YearDay() != end.YearDay() || start.Year() != end.Year() {
		w.Problems = append(w.Problems, where+": it goes over midnight")
		return
	}
	if really, says := end.Sub(start), minutes(end)-minutes(start); really != time.Duration(says)*time.Minute {
		w.Problems = append(w.Problems, fmt.Sprintf("%s: the clocks change while it is on: %.0f min in truth, %d by the clock", where, really.Minutes(), says))
		return
	}
	entry := Entry{
		Where: where, Class: name, Room: text(ics.ComponentPropertyLocation), Start: clock.Time(minutes(start)), End: clock.Time(minutes(end)), Timed: true,
		Day: term.Of(start),
	}
	if rule["BYDAY"] == "" {
		w.Entries = append(w.Entries, entry)
		return
	}
	for _, d := range strings.Split(rule["BYDAY"], ",") {
		var ok bool
		if entry.Day, ok = term.WeekdayOf(d); !ok {
			w.Problems = append(w.Problems, fmt.Sprintf("%s: “%s” is no weekday", where, d))
			continue
		}
		w.Entries = append(w.Entries, entry)
	}
}

// ruleOf parts a rule of repetition such as FREQ=WEEKLY;BYDAY=MO,TH.
func ruleOf(text string) map[string]string {
	out := map[string]string{}
	for _, part := range strings.Split(strings.ToUpper(text), ";") {
		name, value, _ := strings.Cut(part, "=")
		out[strings.TrimSpace(name)] = strings.TrimSpace(value)
	}
	return out
}

// Categories of whole days, for those who read what Write has written.
const (
	termCategory = "school term"
	offCategory  = "days off"
)

// isOff tells days off from terms: by the category that Write gives them, or
// by the name in calendars of others.
func isOff(name, category string) bool {
	switch category {
	case termCategory:
		return false
	case offCategory:
		return true
	}
	name = strings.ToLower(name)
	return !strings.Contains(name, "term") || strings.Contains(name, "half")
}

func minutes(t time.Time) int { return t.Hour()*60 + t.Minute() }

// A Lesson of a week as it is written.
type Lesson struct {
	UID         string
	Class, Room string
	Period      term.Period
	Day         term.Weekday
}

// Write writes a week as a calendar that repeats from a day on, with terms and
// days off as whole days.
func Write(to io.Writer, lessons []Lesson, spans []term.Span, from, stamp time.Time, zone *time.Location) error {
	c := ics.NewCalendarFor("Fresh Apron")
	c.SetMethod(ics.MethodPublish)
	for _, l := range lessons {
		day := from
		for term.Of(day) != l.Day {
			day = day.AddDate(0, 0, 1)
		}
		at := func(clock clock.Time) string {
			return time.Date(day.Year(), day.Month(), day.Day(), int(clock)/60, int(clock)%60, 0, 0, time.UTC).Format("20060102T150405")
		}
		e := c.AddEvent(l.UID)
		e.SetDtStampTime(stamp)
		// Local times, so that a lesson stays where it is when clocks change.
		tz := ics.WithTZID(zone.String())
		e.SetProperty(ics.ComponentPropertyDtStart, at(l.Period.Start), tz)
		e.SetProperty(ics.ComponentPropertyDtEnd, at(l.Period.End), tz)
		e.AddRrule("FREQ=WEEKLY")
		e.SetSummary(l.Class)
		e.SetLocation(l.Room)
		e.SetDescription(l.Period.Name)
	}
	for i, s := range spans {
		e := c.AddEvent(fmt.Sprintf("span-%d-%s", i, s.First.Format("20060102")))
		e.SetDtStampTime(stamp)
		e.SetAllDayStartAt(s.First)
		e.SetAllDayEndAt(s.Last.AddDate(0, 0, 1))
		e.SetSummary(s.Name)
		if s.Off {
			e.AddCategory(offCategory)
		} else {
			e.AddCategory(termCategory)
		}
	}
	return c.SerializeTo(to, ics.WithNewLine("\r\n"))
}

// Rows returns a week as a table.
func Rows(lessons []Lesson, spans []term.Span) [][]string {
	out := [][]string{{"Day", "Period", "Class", "Room"}}
	for _, l := range lessons {
		out = append(out, []string{l.Day.Name(), l.Period.Name, l.Class, l.Room})
	}
	for _, s := range spans {
		kind := "term"
		if s.Off {
			kind = "off"
		}
		out = append(out, []string{kind, s.Name, s.First.Format(time.DateOnly), s.Last.Format(time.DateOnly)})
	}
	return out
}
