package timetable_test

import (
	"bytes"
	"slices"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"freshapron/internal/core/term"
	"freshapron/internal/formats/table"
	"freshapron/internal/formats/timetable"
)

var london = func() *time.Location {
	l, err := time.LoadLocation("Europe/London")
	if err != nil {
		panic(err)
	}
	return l
}()

func day(s string) time.Time {
	d, err := time.Parse(time.DateOnly, s)
	if err != nil {
		panic(err)
	}
	return d
}

var lessons = []timetable.Lesson{
	{UID: "slot-1", Class: "8 Hazel; set 2", Room: "Food Room", Period: term.Period{Name: "Period 2", Start: 605, End: 670}, Day: 3},
	{UID: "slot-2", Class: "7 Alder", Room: "Corner", Period: term.Period{Name: "Period 1", Start: 535, End: 600}, Day: 0},
}

var spans = []term.Span{{Name: "Autumn term", First: day("2026-09-01"), Last: day("2026-12-18")}, {Name: "Half term", First: day("2026-10-26"), Last: day("2026-10-30"), Off: true}}

// A week goes out and comes in again as it was, whenever the clocks change.
func TestThereAndBack(t *testing.T) {
	for _, from := range []string{"2026-07-01", "2026-11-26", "2026-10-22", "2027-03-24"} {
		var b bytes.Buffer
		require.NoError(t, timetable.Write(&b, lessons, spans, day(from), day(from), london))
		w := timetable.Read(b.Bytes(), london)
		require.Empty(t, w.Problems)
		require.Len(t, w.Entries, 2)
		for i, e := range w.Entries {
			assert.Equal(t, lessons[i].Class, e.Class)
			assert.Equal(t, lessons[i].Room, e.Room)
			assert.Equal(t, lessons[i].Day, e.Day, from)
			assert.Equal(t, lessons[i].Period.Start, e.Start, from)
			assert.Equal(t, lessons[i].Period.End, e.End)
		}
		assert.Equal(t, spans, w.Spans)
	}
	var b bytes.Buffer
	require.NoError(t, table.WriteCSV(&b, timetable.Rows(lessons, spans)))
	w := timetable.Read(b.Bytes(), london)
	require.Empty(t, w.Problems)
	assert.Equal(t, spans, w.Spans)
	assert.Equal(t, "Period 2", w.Entries[0].Period)
	assert.False(t, w.Entries[0].Timed)
}

func event(lines ...string) string {
	return "BEGIN:VCALENDAR\r\nVERSION:2.0\r\nBEGIN:VEVENT\r\nUID:1\r\n" + strings.Join(lines, "\r\n") + "\r\nEND:VEVENT\r\nEND:VCALENDAR\r\n"
}

func TestFaults(t *testing.T) {
	weekly := "RRULE:FREQ=WEEKLY"
	for says, text := range map[string]string{
		"it does not repeat each week":       event("SUMMARY:8 Hazel", "DTSTART:20261126T100500Z", "DTEND:20261126T111000Z"),
		"the clocks change while it is on":   event("SUMMARY:8 Hazel", "DTSTART;TZID=Europe/London:20270328T003000", "DTEND;TZID=Europe/London:20270328T023000", weekly),
		"it goes over midnight":              event("SUMMARY:8 Hazel", "DTSTART;TZID=Europe/London:20261126T233000", "DTEND;TZID=Europe/London:20261127T003000", weekly),
		"its times can’t be read":            event("SUMMARY:8 Hazel", "DTSTART:20261126T111000Z", "DTEND:20261126T100500Z", weekly),
		"it has no name or no beginning":     event("DTSTART:20261126T100500Z", weekly),
		"there is no entry in the calendar":  "BEGIN:VCALENDAR\r\nVERSION:2.0\r\nEND:VCALENDAR\r\n",
		"row 2: “Lundi” is no weekday":       "Day,Period,Class,Room\nLundi,P1,7 Alder,Food Room",
		"row 1: 11:00–10:00 ends before":     "Monday,11:00–10:00,7 Alder,Food Room",
		"is no span of days":                 "off,Snow,2026-12-02,2026-12-01",
		"row 1: day, period, class and room": "P1 on Mondays",
		"this is a picture, not a table":     "\x89PNG",
		"is no span of days ":                "term,Spring,someday,2026-12-01",
	} {
		w := timetable.Read([]byte(text), london)
		require.NotEmpty(t, w.Problems, says)
		assert.Contains(t, w.Problems[0], strings.TrimSpace(says))
		assert.Empty(t, w.Entries)
	}
}

func FuzzRead(f *testing.F) {
	f.Add([]byte(event("SUMMARY:8 Hazel", "DTSTART:20261126T100500Z", "DTEND:20261126T111000Z", "RRULE:FREQ=WEEKLY")))
	f.Add([]byte("Monday,10:05-11:10,8 Hazel,Food Room"))
	f.Add([]byte("Mon P1 9 Elm\nthanks and\n9 Elm (Tue 2), 7 Alder on Wed period 3\nMONDAY\n1) 8H\n"))
	f.Add([]byte(",M,T,W,T,F\n1,9 Elm,,F1,,\n"))
	f.Fuzz(func(t *testing.T, data []byte) {
		for _, e := range timetable.Read(data, london).Entries {
			if e.Day < 0 || e.Day > 6 || e.Timed && e.End <= e.Start {
				t.Fatalf("%+v", e)
			}
		}
	})
}

// A week as people write it: a grid with the days across or down, a list under headings of
// their own, an export by dates, a line for each lesson.
func TestWeeksAsTheyAreWritten(t *testing.T) {
	const grid = "Mon 1 9 Elm; Mon 3 7 Alder; Tue 2 8 Hazel, Food Room"
	const timed = "Tue 10:05–11:10 9 Elm; Wed 11:30–12:35 7 Alder"
	for text, want := range map[string]string{
		"\tMon\tTues\tWed\n1\t9 Elm\t\t-\n2\t\t8 Hazel, Food Room\t\n3\t7 Alder\t\t\n":                                                                                       grid,
		"Week of the kitchen\n\nPeriod,Monday,Tuesday,Wednesday,Thursday,Friday\n1,9 Elm,,,,\n2,,\"8 Hazel, Food Room\",,,\n3,7 Alder,,,,\n":                                 grid,
		"Day\t1\t2\t3\nMon\t9 Elm\t\t7 Alder\nTue\t\t8 Hazel, Food Room\t\n":                                                                                                 grid,
		"Class,Day,Period\n9 Elm,Monday,1\n7 Alder,Mon.,3\n\"8 Hazel, Food Room\",Tuesday,2\n":                                                                               grid,
		"Monday 1 9 Elm\n- Mon 3: 7 Alder\nTues, 2 8 Hazel, Food Room\n":                                                                                                     grid,
		"Date,Start,End,Group\n01/12/2026,10:05,11:10,9 Elm\n02/12/2026,11.30,12.35,7 Alder\n":                                                                               timed,
		"\"Subject\",\"Start Date\",\"Start Time\",\"End Time\"\n\"9 Elm\",\"01/12/2026\",\"10:05:00\",\"11:10:00\"\n\"7 Alder\",\"02/12/2026\",\"11:30:00\",\"12:35:00\"\n": timed,
		"Tuesday 10:05 - 11:10 9 Elm\nWed 11.30-12.35 7 Alder\n":                                                                                                             timed,
	} {
		w := timetable.Read([]byte(text), london)
		require.Empty(t, w.Problems, text)
		var got []string
		for _, e := range w.Entries {
			when := e.Period
			if e.Timed {
				when = e.Start.String() + "–" + e.End.String()
			}
			got = append(got, strings.Join([]string{e.Day.Name()[:3], when, e.Class}, " "))
		}
		slices.Sort(got)
		assert.Equal(t, want, strings.Join(got, "; "), text)
	}
	for text, says := range map[string]string{
		"Week A\nMon 1 9 Elm\nWeek B\nTue 2 9 Elm\n": "the weeks take turns, and one week is kept: bring in the one that comes next, and change what is otherwise on the day",
		"9 Elm\n":                     "row 1: day, period, class and room are needed",
		"Mon P3-1 9 Elm\n":            "row 1: “P3-1” are no periods one after another",
		"Tuesday after lunch 9 Elm\n": "row 1: when on Tuesday? A period or times such as 10:05–11:10 are needed",
		"Day,Class,Start,End\nMon,9 Elm,late,later\n": "row 2: “late” to “later” are no times such as 10:05 and 11:10",
		"Day,Class,Period\nsoon,9 Elm,1\n":            "row 2: “soon” is no weekday",
		"\tMon\tTue\tWed\n11:00-10:00\t9 Elm\t\t\n":   "Monday 11:00-10:00: 11:00-10:00 ends before it begins",
	} {
		w := timetable.Read([]byte(text), london)
		assert.Equal(t, says, w.Problems[0], text)
	}
}

// What can't be a lesson is passed over; what may be one is asked about, and a room is no day.
func TestWhatIsNoLesson(t *testing.T) {
	w := timetable.Read([]byte("08:40 Reg\nMon break duty\nMon P1 9 Elm\nMon lunch club\n"), london)
	assert.Len(t, w.Entries, 1)
	assert.Len(t, w.Problems, 1, "a club may be taught")
	w = timetable.Read([]byte("F1 7 Alder\nF2 9 Elm\n"), london)
	assert.Empty(t, w.Entries, "F1 and F2 are rooms as likely as Fridays")
	assert.Len(t, w.Problems, 2)
}
