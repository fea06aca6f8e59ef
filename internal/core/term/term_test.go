package term_test

import (
	"fmt"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"freshapron/internal/core/clock"
	"freshapron/internal/core/term"
)

func day(s string) time.Time {
	d, err := time.Parse(time.DateOnly, s)
	if err != nil {
		panic(err)
	}
	return d
}

func ExampleYear_School() {
	autumn := term.Year{{Name: "Autumn", First: day("2026-09-01"), Last: day("2026-12-18")}}
	fmt.Println(autumn.School(day("2026-11-26")), autumn.School(day("2026-12-21")))
	// Output: true false
}

func TestWeekdays(t *testing.T) {
	assert.Equal(t, "Thursday", term.Of(day("2026-11-26")).Name())
	assert.Equal(t, "Sunday", term.Of(day("2026-11-29")).Name())
	for in, want := range map[string]term.Weekday{"Mon": 0, "thursday": 3, " SU ": 6} {
		w, ok := term.WeekdayOf(in)
		assert.True(t, ok, in)
		assert.Equal(t, want, w)
	}
	for _, in := range []string{"", "T", "Lundi"} {
		_, ok := term.WeekdayOf(in)
		assert.False(t, ok, in)
	}
	assert.Equal(t, "Mon, Wed", term.Days(5).Says())
	assert.Empty(t, term.SchoolDays.Says())
}

var year = term.Year{
	{Name: "Autumn", First: day("2026-09-01"), Last: day("2026-12-18")}, {Name: "Half term", First: day("2026-10-26"), Last: day("2026-10-30"), Off: true},
	{Name: "Spring", First: day("2027-01-05"), Last: day("2027-03-26")}, {Name: "Training day", First: day("2026-11-27"), Last: day("2026-11-27"), Off: true},
}

func TestSchoolDays(t *testing.T) {
	for date, want := range map[string]bool{"2026-09-01": true, "2026-08-31": false, "2026-10-30": false, "2026-11-02": true, "2026-12-18": true, "2026-12-19": false, "2026-11-27": false} {
		assert.Equal(t, want, year.School(day(date)), date)
	}
	assert.True(t, term.Year{}.School(day("2026-08-01")), "where nobody has said, every day is")
}

func TestNextFreeLesson(t *testing.T) {
	slots := []term.Slot{{Class: 1, Room: 2, Period: 3, Day: 4}, {Class: 1, Room: 2, Period: 4, Day: 0}}
	taken := func(d time.Time, period int64) bool { return d.Equal(day("2026-11-30")) }
	free := year.Next(slots, day("2026-11-26"), taken, 3)
	require.Len(t, free, 3)
	var dates []string
	for _, f := range free {
		dates = append(dates, f.Date.Format(time.DateOnly))
	}
	assert.Equal(t, []string{"2026-12-04", "2026-12-07", "2026-12-11"}, dates, "the 27th is off, the 30th is taken")
	after := year.Next(slots, day("2026-12-18"), taken, 2)
	assert.Equal(t, "2027-01-08", after[1].Date.Format(time.DateOnly), "over the holidays")
	assert.Empty(t, year.Next(nil, day("2026-11-26"), taken, 3))
}

func period(id int64, name string, start, end clock.Time, days term.Days) term.Period {
	return term.Period{ID: id, Name: name, Start: start, End: end, Days: days}
}

func TestOverlapsAndClashes(t *testing.T) {
	periods := []term.Period{
		period(1, "P1", 540, 600, 31), period(2, "P2", 605, 665, 31), period(3, "Double", 540, 665, 31), period(4, "Late", 590, 650, 1), period(5, "Saturday", 590, 650, 32),
	}
	assert.Equal(t, []string{"P1 (09:00–10:00) and Late (09:50–10:50) overlap", "P2 (10:05–11:05) and Late (09:50–10:50) overlap"}, term.Overlaps(periods))
	name := func(id int64) string {
		return map[int64]string{1: "7 Alder", 2: "8 Hazel", 9: "Food Room", 8: "Corner"}[id]
	}
	slots := []term.Slot{{1, 9, 1, 0}, {1, 8, 3, 0}, {2, 9, 1, 1}, {1, 9, 3, 1}, {2, 8, 2, 0}}
	assert.Equal(t, []string{"7 Alder is in two places on Monday: P1 and Double", "Corner has 7 Alder and 8 Hazel on Monday: Double and P2", "Food Room has 8 Hazel and 7 Alder on Tuesday: P1 and Double"},
		term.Clashes(slots, periods, name, name))
}

func TestClockChange(t *testing.T) {
	london, err := time.LoadLocation("Europe/London")
	require.NoError(t, err)
	says, really, crosses := term.Crosses(day("2027-03-28"), 30, 150, london)
	assert.True(t, crosses)
	assert.Equal(t, 120, says)
	assert.Equal(t, 60, really)
	_, _, crosses = term.Crosses(day("2027-03-28"), 540, 600, london)
	assert.False(t, crosses)
	_, really, crosses = term.Crosses(day("2026-10-25"), 30, 150, london)
	assert.True(t, crosses)
	assert.Equal(t, 180, really)
}

func at(s string) clock.Time {
	c, err := clock.Parse(s)
	if err != nil {
		panic(err)
	}
	return c
}

// Periods that touch don't overlap; one that holds another whole may.
func TestWherePeriodsOverlap(t *testing.T) {
	for _, c := range []struct {
		start, end string
		days       term.Days
		want       bool
	}{
		{"10:00", "11:00", 31, false}, // touches the end
		{"08:00", "09:00", 31, false}, // touches the start
		{"08:00", "09:01", 31, true},
		{"09:59", "11:00", 31, true},
		{"09:00", "10:00", 31, false}, // the same
		{"09:00", "09:30", 31, false}, // inside, from the start
		{"09:30", "10:00", 31, false}, // inside, to the end
		{"09:00", "11:00", 31, false}, // holds it, from its start
		{"08:00", "10:00", 31, false}, // holds it, to its end
		{"09:59", "11:00", 32, false}, // on another day
	} {
		a := term.Period{Name: "A", Start: at("09:00"), End: at("10:00"), Days: 31}
		b := term.Period{Name: "B", Start: at(c.start), End: at(c.end), Days: c.days}
		assert.Equal(t, c.want, len(term.Overlaps([]term.Period{a, b})) == 1, "%s to %s", c.start, c.end)
		assert.Equal(t, c.want, len(term.Overlaps([]term.Period{b, a})) == 1, "%s to %s, the other way round", c.start, c.end)
	}
	assert.True(t, term.SchoolDays.Has(0) && term.SchoolDays.Has(4))
	assert.False(t, term.SchoolDays.Has(5))
}

// A class can go from one period to the next.
func TestWhereSlotsClash(t *testing.T) {
	name := func(id int64) string { return fmt.Sprint(id) }
	for start, want := range map[string]int{"10:00": 0, "09:59": 1} {
		periods := []term.Period{{ID: 1, Start: at("09:00"), End: at("10:00")}, {ID: 2, Start: at(start), End: at("11:00")}}
		for _, order := range [][]int64{{1, 2}, {2, 1}} {
			slots := []term.Slot{{Class: 7, Room: 1, Period: order[0]}, {Class: 7, Room: 2, Period: order[1]}}
			assert.Len(t, term.Clashes(slots, periods, name, name), want, start)
		}
		unknown := []term.Slot{{Class: 7, Room: 1, Period: 1}, {Class: 7, Room: 2, Period: 99}}
		assert.Empty(t, term.Clashes(unknown, periods, name, name))
	}
}

// It looks 200 days ahead, and gives no more than it is asked for.
func TestHowFarNextLooks(t *testing.T) {
	never := func(time.Time, int64) bool { return false }
	monday := day("2026-11-23")
	slots := []term.Slot{{Class: 1, Period: 1, Day: 0}, {Class: 2, Period: 2, Day: 0}}
	assert.Len(t, term.Year(nil).Next(slots, monday, never, 3), 3)
	assert.Len(t, term.Year(nil).Next(slots, monday, never, 4), 4)
	assert.Len(t, term.Year(nil).Next(slots, monday, never, 1000), 2*29, "28 weeks and 4 days hold 29 Mondays")
	last := monday.AddDate(0, 0, 199)
	ahead := []term.Slot{{Class: 1, Period: 1, Day: term.Of(last)}}
	late := func(on time.Time, _ int64) bool { return on.Before(last) }
	assert.Len(t, term.Year(nil).Next(ahead, monday, late, 1), 1)
	assert.Empty(t, term.Year(nil).Next(ahead, monday.AddDate(0, 0, -1), late, 1))
}
