package calendar_test

import (
	"bytes"
	"strings"
	"testing"
	"time"

	ics "github.com/arran4/golang-ical"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"freshapron/internal/core/fit"
	"freshapron/internal/core/lesson"
	"freshapron/internal/core/pantry"
	"freshapron/internal/demo"
	"freshapron/internal/formats/calendar"
)

func scones(t *testing.T, date string) (fit.Lesson, *fit.Plan) {
	t.Helper()
	l := lesson.Lesson{
		Date: date, Start: 605, End: 670, Phases: lesson.UsualPhases(), Menu: []lesson.Course{{Recipe: demo.Dish("herb-scones"), Each: 4}},
		Pantry: pantry.Stock(), Tolerances: pantry.Usual, Class: demo.Classes()[1], Room: demo.FoodRoom(), GroupSize: 2,
	}.Fit()
	p, err := fit.Solve(l, fit.Options{Budget: 10, Runs: 50})
	require.NoError(t, err)
	return l, p
}

func TestWrite(t *testing.T) {
	zone, err := time.LoadLocation("Europe/London")
	require.NoError(t, err)
	for date, want := range map[string]string{
		"2026-11-26": "20261126T100500Z", // winter: the clocks show UTC
		"2026-06-11": "20260611T090500Z", // summer: an hour ahead of it
	} {
		l, p := scones(t, date)
		var out bytes.Buffer
		about := calendar.Lesson{UID: "lesson-1@example", Room: "Food Room, 1st floor; left", Says: "4 min left", Stamp: time.Unix(0, 0), Zone: zone}
		require.NoError(t, calendar.Write(&out, about, l, p))
		for _, line := range strings.Split(out.String(), "\r\n") {
			assert.LessOrEqual(t, len(line), 75, "lines are folded")
		}
		c, err := ics.ParseCalendar(bytes.NewReader(out.Bytes()))
		require.NoError(t, err)
		events := c.Events()
		points := fit.Checkpoints(l, p)
		require.Len(t, events, 1+len(points))
		assert.Equal(t, want, events[0].GetProperty(ics.ComponentPropertyDtStart).Value)
		assert.Equal(t, l.Title, events[0].GetProperty(ics.ComponentPropertySummary).Value)
		for i, point := range points {
			start, err := events[i+1].GetStartAt()
			require.NoError(t, err)
			assert.Equal(t, l.At(point.At), start.In(zone).Format("15:04"))
			assert.Len(t, events[i+1].Alarms(), 1)
		}
	}
}

func TestNoDateNoCalendar(t *testing.T) {
	l, p := scones(t, "")
	assert.ErrorContains(t, calendar.Write(&bytes.Buffer{}, calendar.Lesson{Zone: time.UTC}, l, p), "date")
}
