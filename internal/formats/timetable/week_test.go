package timetable_test

import (
	"bytes"
	"fmt"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"freshapron/internal/core/clock"
	"freshapron/internal/core/term"
	"freshapron/internal/formats/table"
	"freshapron/internal/formats/timetable"
)

// An entry on several days of the week is a lesson on each.
func TestSeveralDays(t *testing.T) {
	text := func(rule string) []byte {
		return []byte(event("SUMMARY:8 Hazel", "LOCATION:Food Room", "DTSTART;TZID=Europe/London:20261130T100500", "DTEND;TZID=Europe/London:20261130T111000", "RRULE:"+rule))
	}
	for rule, want := range map[string][]term.Weekday{
		"FREQ=WEEKLY":                           {0},
		"FREQ=WEEKLY;BYDAY=MO":                  {0},
		"FREQ=WEEKLY;BYDAY=MO,TH":               {0, 3},
		"FREQ=WEEKLY;INTERVAL=1;BYDAY=WE,FR,MO": {2, 4, 0},
		"freq=weekly;byday=tu":                  {1},
	} {
		w := timetable.Read(text(rule), london)
		require.Empty(t, w.Problems, rule)
		var got []term.Weekday
		for _, e := range w.Entries {
			got = append(got, e.Day)
			assert.Equal(t, "10:05", e.Start.String())
			assert.Equal(t, "Food Room", e.Room)
		}
		assert.Equal(t, want, got, rule)
	}
	for _, rule := range []string{"FREQ=DAILY", "FREQ=WEEKLY;INTERVAL=2", "FREQ=WEEKLY;INTERVAL=10", "FREQ=MONTHLY;INTERVAL=1", "INTERVAL=1"} {
		w := timetable.Read(text(rule), london)
		require.Len(t, w.Problems, 1, rule)
		assert.Contains(t, w.Problems[0], "does not repeat each week")
		assert.Empty(t, w.Entries)
	}
	odd := timetable.Read(text("FREQ=WEEKLY;BYDAY=MO,1TU"), london)
	assert.Contains(t, odd.Problems[0], "“1TU” is no weekday")
}

// Whole days of other calendars are terms where they say so.
func TestWholeDays(t *testing.T) {
	for name, off := range map[string]bool{"Spring term": false, "SUMMER TERM": false, "Half term": true, "Autumn half-term": true, "Inset day": true, "Snow": true} {
		w := timetable.Read([]byte(event("SUMMARY:"+name, "DTSTART;VALUE=DATE:20270301", "DTEND;VALUE=DATE:20270304")), london)
		require.Empty(t, w.Problems)
		require.Len(t, w.Spans, 1)
		assert.Equal(t, off, w.Spans[0].Off, name)
		assert.Equal(t, "2027-03-03", w.Spans[0].Last.Format("2006-01-02"), "the end of a calendar's day is the next")
	}
	one := timetable.Read([]byte(event("SUMMARY:Fair", "DTSTART;VALUE=DATE:20270301")), london)
	require.Len(t, one.Spans, 1)
	assert.Equal(t, one.Spans[0].First, one.Spans[0].Last)
	none := timetable.Read([]byte(event("SUMMARY:Fair", "DTSTART;VALUE=DATE:20270301", "DTEND;VALUE=DATE:20270228")), london)
	assert.Contains(t, none.Problems[0], "its days can’t be read")
}

// Any week goes out as a calendar and as a table, whatever its names, and
// comes in again as it was.
func TestAnyWeekThereAndBack(t *testing.T) {
	name := rapid.StringMatching(`[A-Za-z0-9ÄÖéß"';,:\\=+@-][A-Za-z0-9ÄÖéß"';,:\\ =+@-]{0,20}[A-Za-z0-9]`)
	rapid.Check(t, func(t *rapid.T) {
		var lessons []timetable.Lesson
		for i := range rapid.IntRange(1, 5).Draw(t, "lessons") {
			start := clock.Time(rapid.IntRange(7*60, 17*60).Draw(t, "start"))
			p := term.Period{Name: name.Draw(t, "period") + " x", Start: start, End: start + clock.Time(rapid.IntRange(5, 120).Draw(t, "minutes"))}
			lessons = append(lessons, timetable.Lesson{
				UID: fmt.Sprint("u", i), Class: name.Draw(t, "class"), Room: name.Draw(t, "room"), Period: p, Day: term.Weekday(rapid.IntRange(0, 6).Draw(t, "day")),
			})
		}
		var spans []term.Span
		for range rapid.IntRange(0, 3).Draw(t, "spans") {
			first := day("2026-09-01").AddDate(0, 0, rapid.IntRange(0, 300).Draw(t, "first"))
			spans = append(spans, term.Span{Name: name.Draw(t, "name"), First: first, Last: first.AddDate(0, 0, rapid.IntRange(0, 60).Draw(t, "days")), Off: rapid.Bool().Draw(t, "off")})
		}
		var calendar, csv bytes.Buffer
		from := day("2026-01-01").AddDate(0, 0, rapid.IntRange(0, 400).Draw(t, "from"))
		require.NoError(t, timetable.Write(&calendar, lessons, spans, from, from, london))
		require.NoError(t, table.WriteCSV(&csv, timetable.Rows(lessons, spans)))

		w := timetable.Read(calendar.Bytes(), london)
		require.Empty(t, w.Problems, calendar.String())
		require.Len(t, w.Entries, len(lessons))
		for i, e := range w.Entries {
			require.Equal(t, lessons[i].Class, e.Class)
			require.Equal(t, lessons[i].Room, e.Room)
			require.Equal(t, lessons[i].Day, e.Day)
			require.Equal(t, lessons[i].Period.Start, e.Start)
			require.Equal(t, lessons[i].Period.End, e.End)
		}
		require.Equal(t, spans, w.Spans, "terms stay terms, whatever they are called")

		w = timetable.Read(csv.Bytes(), london)
		require.Empty(t, w.Problems, csv.String())
		require.Len(t, w.Entries, len(lessons))
		for i, e := range w.Entries {
			require.Equal(t, lessons[i].Class, e.Class)
			require.Equal(t, lessons[i].Room, e.Room)
			require.Equal(t, lessons[i].Period.Name, e.Period)
		}
		require.Equal(t, spans, w.Spans)
	})
}

func TestTooManyEntries(t *testing.T) {
	var b bytes.Buffer
	b.WriteString("BEGIN:VCALENDAR\r\nVERSION:2.0\r\n")
	for i := range 5_001 {
		fmt.Fprintf(&b, "BEGIN:VEVENT\r\nUID:%d\r\nSUMMARY:x\r\nEND:VEVENT\r\n", i)
	}
	b.WriteString("END:VCALENDAR\r\n")
	w := timetable.Read(b.Bytes(), london)
	require.Len(t, w.Problems, 1)
	assert.Contains(t, w.Problems[0], "5001 entries, and at most 5000")
}
