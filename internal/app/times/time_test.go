package times_test

import (
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"freshapron/internal/app/lessons"
	"freshapron/internal/app/school"
	"freshapron/internal/app/times"
	"freshapron/internal/core/term"
	"freshapron/internal/demo/demotest"
	"freshapron/internal/store"
)

func TestWrongTerms(t *testing.T) {
	h := demotest.Enter(t)
	ctx := h.As("Maren Holt")
	before, err := times.All(ctx)
	require.NoError(t, err)
	for _, c := range []struct {
		in   times.TermForm
		says []string
	}{
		{times.TermForm{Name: "Summer", First: "2027-04-19", Last: "2027-04-18"}, []string{"term: Summer ends before it begins."}},
		{times.TermForm{Name: " ", First: "2027-04-19", Last: "2027-07-23"}, []string{"term: Give it a name of at most 80 letters."}},
		{times.TermForm{Name: "Summer", First: "19.4.", Last: "soon"}, []string{
			"term: “19.4.” is not a date such as 2026-09-01.", "term: “soon” is not a date such as 2026-12-18.",
		}},
		{times.TermForm{Name: "Summer", First: "2027-02-30", Last: "2027-07-23"}, []string{"term: “2027-02-30” is not a date such as 2026-09-01."}},
	} {
		demotest.Says(t, times.AddTerm(ctx, c.in), c.says...)
	}
	after, err := times.All(ctx)
	require.NoError(t, err)
	assert.Equal(t, before, after)

	require.NoError(t, times.AddTerm(ctx, times.TermForm{Name: "One day", First: "2027-05-04", Last: "2027-05-04", Off: true}))
	after, err = times.All(ctx)
	require.NoError(t, err)
	assert.Len(t, after.Spans(), len(before.Spans())+1)
	year := term.Year(after.Spans())
	assert.False(t, year.School(time.Date(2027, 5, 4, 0, 0, 0, 0, time.UTC)))
}

func TestPeriods(t *testing.T) {
	h := demotest.Enter(t)
	ctx := h.As("Maren Holt")
	weekdays := []string{"0", "1", "2", "3", "4"}
	for _, c := range []struct {
		in   times.PeriodForm
		says []string
	}{
		{times.PeriodForm{Name: "Late", Start: "16:00", End: "15:00", Days: weekdays}, []string{"period: Late ends before it begins."}},
		{times.PeriodForm{Name: "Late", Start: "16:00", End: "17:00"}, []string{"period: Choose the days on which Late is."}},
		{times.PeriodForm{Name: "Late", Start: "16:00", End: "17:00", Days: []string{"7", "-1", "Monday"}}, []string{"period: Choose the days on which Late is."}},
		{times.PeriodForm{Name: "Late", Start: "4 o’clock", End: "25:00", Days: weekdays}, []string{
			"period: “4 o’clock” is no time of day such as 10:05.", "period: “25:00” is no time of day such as 11:10.",
		}},
		{times.PeriodForm{Start: "16:00", End: "17:00", Days: weekdays}, []string{"period: Give the period a name of at most 80 letters."}},
		{times.PeriodForm{Name: "Period 1", Start: "16:00", End: "17:00", Days: weekdays}, []string{"period: There is a period with this name already."}},
	} {
		demotest.Says(t, times.SavePeriod(ctx, c.in), c.says...)
	}
	assert.ErrorIs(t, times.SavePeriod(ctx, times.PeriodForm{ID: "x", Name: "Late", Start: "16:00", End: "17:00", Days: weekdays}), school.ErrNotFound)
	assert.ErrorIs(t, times.SavePeriod(ctx, times.PeriodForm{ID: "999", Name: "Late", Start: "16:00", End: "17:00", Days: weekdays}), school.ErrNotFound)

	require.NoError(t, times.SavePeriod(ctx, times.PeriodForm{Name: "Club", Start: "15:45", End: "16:45", Days: []string{"2"}}))
	tt, err := times.All(ctx)
	require.NoError(t, err)
	var club store.Period
	for _, p := range tt.Periods {
		if p.Name == "Club" {
			club = p
		}
	}
	assert.Equal(t, "Wed", club.Days.Says())
	require.NoError(t, times.SavePeriod(ctx, times.PeriodForm{ID: demotest.ID(club.ID), Name: "Club", Start: "15:45", End: "16:30", Days: []string{"2", "3"}}))
	tt, err = times.All(ctx)
	require.NoError(t, err)
	club, ok := tt.Period(club.ID)
	require.True(t, ok)
	assert.Equal(t, "16:30", club.End.String())
	_, ok = tt.Period(-1)
	assert.False(t, ok)
	assert.Empty(t, tt.ClassName(-1))
	assert.Empty(t, tt.RoomName(-1))
}

// A period that is moved onto another, in which the same class or room is
// taken, is refused, and stays as it was.
func TestNobodyIsInTwoPlaces(t *testing.T) {
	h := demotest.Enter(t)
	ctx := h.As("Maren Holt")
	tt, err := times.All(ctx)
	require.NoError(t, err)
	ids := func(class, room, period string) (in times.SlotForm) {
		for _, c := range tt.Classes {
			if c.Name == class {
				in.Class = demotest.ID(c.ID)
			}
		}
		for _, r := range tt.Rooms {
			if r.Name == room {
				in.Room = demotest.ID(r.ID)
			}
		}
		for _, p := range tt.Periods {
			if p.Name == period {
				in.Period = demotest.ID(p.ID)
			}
		}
		return in
	}
	// 8 Hazel has Tuesday's period 4 in the Food Room.
	same := ids("8 Hazel", "Food Room", "Period 4")
	same.Day = "1"
	require.NoError(t, times.AddSlot(ctx, same), "what is there already is no fault")
	other := ids("7 Alder", "Food Room", "Period 4")
	other.Day = "1"
	demotest.Says(t, times.AddSlot(ctx, other), "slot: Food Room has 8 Hazel in Period 4 on Tuesday already.")
	elsewhere := ids("8 Hazel", "Junior corner", "Double 4 and 5")
	elsewhere.Day = "1"
	err = times.AddSlot(ctx, elsewhere)
	require.Error(t, err)
	assert.Contains(t, err.Error(), "8 Hazel")
	assert.Contains(t, err.Error(), "Nothing was saved.")
	wrong := times.SlotForm{Class: "0", Room: "x", Period: "", Day: "8"}
	demotest.Says(t, times.AddSlot(ctx, wrong), "slot: Choose a class.", "slot: Choose a room.", "slot: Choose a period.", "slot: Choose a day.")
	sunday := ids("7 Alder", "Food Room", "Period 1")
	sunday.Day = "6"
	demotest.Says(t, times.AddSlot(ctx, sunday), "slot: Period 1 is not on Sunday.")

	// Period 1 moved to where the class of period 3 is taught by day.
	var one store.Period
	for _, p := range tt.Periods {
		if p.Name == "Period 1" {
			one = p
		}
	}
	err = times.SavePeriod(ctx, times.PeriodForm{ID: demotest.ID(one.ID), Name: "Period 1", Start: "13:30", End: "14:00", Days: []string{"0", "1", "2", "3", "4"}})
	require.Error(t, err, "on Tuesdays 9 Rowan would be in the Food Room with 8 Hazel")
	assert.Contains(t, err.Error(), "Food Room")
	after, err := times.All(ctx)
	require.NoError(t, err)
	assert.Equal(t, tt, after)
}

func TestBringingATimetableIn(t *testing.T) {
	h := demotest.Enter(t)
	ctx := h.As("Maren Holt")
	before, err := times.All(ctx)
	require.NoError(t, err)
	for file, want := range map[string][]string{
		"day,period,class,room\nMonday,Period 1,11 Yew,Food Room\n":               {"row 2: there is no class “11 Yew”"},
		"Monday,Period 9,7 Alder,Food Room\nSomeday,Period 1,7 Alder,Food Room\n": {"Row 2: “Someday” is no weekday", "row 1: there is no period “Period 9”"},
		"Monday,10:00-09:00,7 Alder,Food Room\n":                                  {"Row 1: 10:00-09:00 ends before it begins"},
		"Tuesday,Period 4,7 Alder,Food Room\n":                                    {"Row 1: Food Room has 8 Hazel in Period 4 on Tuesday already"},
		"Monday,Period 1,7 Alder\n":                                               {"Row 1: “7 Alder” names no room"},
		"Monday morning\n":                                                        {"Row 1: when on Monday?"},
		"\tMon\tTue\tWed\nP1\t11 Yew, Food Room\t\t\n":                            {"Monday P1: there is no class “11 Yew, Food Room”"},

		"off,Fair,2027-03-02,2027-03-01\n": {"Row 1: 2027-03-02 to 2027-03-01 is no span of days"},
		"Monday,Period 1,7 Alder,Attic\nMonday,Period 1,7 Alder,Cellar\n" + rows(12, "11 Yew"): {"there is no room “Attic”", "; and 6 more."},
	} {
		_, err := times.Bring(ctx, []byte(file))
		require.Error(t, err, file)
		assert.Contains(t, err.Error(), "Nothing was brought in.")
		for _, w := range want {
			assert.Contains(t, strings.ToLower(err.Error()), strings.ToLower(w), file)
		}
		after, err := times.All(ctx)
		require.NoError(t, err)
		assert.Equal(t, before, after, file)
	}

	file := "day;period;class;room\r\n\r\nWednesday;Period 1;7 alder;food room\r\nFriday;08:15–08:50;4 Finch;Junior corner\r\nMonday;Period 2;7 Alder;Food Room\r\nterm;Summer term;2027-04-19;2027-07-23\r\noff;May fair;2027-05-03;2027-05-03\r\n"
	did, err := times.Bring(ctx, []byte(file))
	require.NoError(t, err)
	assert.Equal(t, "3 lessons of the week, 2 terms and days off, 1 new period.", did)
	after, err := times.All(ctx)
	require.NoError(t, err)
	assert.Len(t, after.Slots, len(before.Slots)+2, "that of Monday was there already")
	assert.Len(t, after.Periods, len(before.Periods)+1)
	did, err = times.Bring(ctx, []byte(file))
	require.NoError(t, err)
	assert.Equal(t, "3 lessons of the week, 0 terms and days off, 0 new periods.", did)
	again, err := times.All(ctx)
	require.NoError(t, err)
	assert.Equal(t, after, again, "the same file twice changes nothing")
	assert.Len(t, after.Lessons(), len(after.Slots))
	did, err = times.Bring(ctx, []byte("Greenhill School\n\tMon\tWed\tFri\nP1\t\t7 Alder food room\t\nPage 1 of 1\n"))
	require.NoError(t, err)
	assert.Equal(t, "1 lesson of the week, 0 terms and days off, 0 new periods. Taken: “7 Alder food room” for 7 Alder. Left out, since it is no lesson: “Greenhill School” and “Page 1 of 1”.", did, "class, room and period are known in other words, which is said")
	_, err = times.Bring(ctx, []byte("Mon: 1 7 Alder, 3 8 Hazel, Food Room\n"))
	assert.ErrorContains(t, err, "there is no class “7 Alder, 3 8 Hazel, Food Room”", "of two nobody chooses")
	again, err = times.All(ctx)
	require.NoError(t, err)
	assert.Equal(t, after, again)
	did, err = times.Bring(ctx, []byte("Thu P1-2 7 Alder (food room)\n"))
	require.NoError(t, err)
	assert.Contains(t, did, "2 lessons of the week", "a double lesson is in both of its periods")
}

// rows are lines of a timetable for a class that is not there.
func rows(n int, class string) string {
	return strings.Repeat("Monday,Period 1,"+class+",Food Room\n", n)
}

// The next free lesson of a class is the first of its week on which there is
// school and for which nothing is planned.
func TestNextFreeLessons(t *testing.T) {
	h := demotest.Enter(t)
	ctx := h.As("Maren Holt")
	list, err := times.NextFree(ctx)
	require.NoError(t, err)
	require.NotEmpty(t, list)
	tt, err := times.All(ctx)
	require.NoError(t, err)
	planned, err := h.School.Planned(ctx, h.Today(), h.Today().AddDate(0, 0, 120))
	require.NoError(t, err)
	year := term.Year(tt.Spans())
	for i, n := range list {
		assert.False(t, n.Date.Before(h.Today()))
		assert.True(t, year.School(n.Date), n.Date)
		assert.True(t, i == 0 || !n.Date.Before(list[i-1].Date), "in the order of their days")
		inWeek := false
		for _, s := range tt.Slots {
			inWeek = inWeek || tt.ClassName(s.Class) == n.Class && s.Period == n.Period.ID && s.Day == term.Of(n.Date)
		}
		assert.True(t, inWeek, "%s has no place on %s", n.Class, n.Date)
		for _, p := range planned {
			assert.False(t, tt.ClassName(p.Class) == n.Class && p.Period == n.Period.ID && p.Date.Equal(n.Date), "%s is taken", n.Date)
		}
	}
	none, err := times.NextFree(h.As("Tomas Finney"))
	require.NoError(t, err)
	assert.Empty(t, none, "a technician has no classes")
}

func TestUsualRooms(t *testing.T) {
	h := demotest.Enter(t)
	for name, want := range map[string]string{"Maren Holt": "Food Room", "Nell Carver": "Junior corner", "Tomas Finney": "Food Room"} {
		got, err := times.UsualRoom(h.As(name))
		require.NoError(t, err)
		tt, err := times.All(h.As(name))
		require.NoError(t, err)
		found := ""
		for _, r := range tt.Rooms {
			if demotest.ID(r.ID) == got {
				found = r.Name
			}
		}
		assert.Equal(t, want, found, name)
	}
}

// Lessons can't lie over a change of the clocks, or on a day that is none.
func TestLessonsOverAChangeOfTheClocks(t *testing.T) {
	h := demotest.Enter(t)
	ctx := h.As("Maren Holt")
	require.NoError(t, times.SavePeriod(ctx, times.PeriodForm{Name: "Night baking", Start: "00:30", End: "02:30", Days: []string{"6"}}))
	tt, err := times.All(ctx)
	require.NoError(t, err)
	v, err := lessons.One(ctx, 1)
	require.NoError(t, err)
	r := lessons.RequestOf(v.Lesson)
	for _, p := range tt.Periods {
		if p.Name == "Night baking" {
			r.Period = demotest.ID(p.ID)
		}
	}
	r.Date = "2027-03-28" // summer time begins at one
	_, err = lessons.New(ctx, r, "5a4f3c1e-0b2d-4c6e-8f9a-1b2c3d4e5f99")
	require.Error(t, err)
	assert.Contains(t, err.Error(), "60")
	assert.Contains(t, err.Error(), "120")
	for _, date := range []string{"2027-02-29", "28 March", "", "20270328"} {
		r.Date = date
		_, err = lessons.New(ctx, r, "5a4f3c1e-0b2d-4c6e-8f9a-1b2c3d4e5f98")
		require.Error(t, err, date)
		assert.Contains(t, err.Error(), "date")
	}
}
