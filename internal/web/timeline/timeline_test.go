package timeline_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"freshapron/internal/core/exact"
	"freshapron/internal/core/fit"
	"freshapron/internal/web/timeline"
)

// queue is two benches and one shelf: two minutes of work, then a bake of ten
// minutes, one after the other, in a period of 30 with 5 at each end.
func queue(bake int64) fit.Lesson {
	c := exact.Int(200)
	return fit.Lesson{
		Start: 600, End: 630, Adults: 1,
		Phases: []fit.Phase{
			{Name: "Demonstration", Minutes: exact.Int(5), Place: fit.AtStart},
			{Name: "Clear down", Minutes: exact.Int(5), Place: fit.AtEnd},
		},
		Equipment: []fit.Equipment{
			{ID: "oven", Temperature: true, Units: []fit.Unit{{Name: "Oven 1", Places: 1}}, Preheat: exact.Int(4)},
			{ID: "ring", PerStation: true, Units: []fit.Unit{{Name: "Ring 1", Places: 1}}},
		},
		Groups: []fit.Group{
			{ID: "g1", Name: "Bench 1", Cooks: 1, Pace: exact.Int(1)},
			{ID: "g2", Name: "Bench 2", Cooks: 1, Pace: exact.Int(1)},
		},
		Dishes: []fit.Dish{{ID: "d", Steps: []fit.Step{
			{ID: "mix", Title: "Mix to a dough", Kind: fit.Mix, Work: exact.Int(2), Cooks: 1, Adult: fit.Watches,
				Uses: []fit.Use{{Equipment: "ring", Places: 1, During: fit.WorkPart}}},
			{ID: "bake", Title: "Bake", Kind: fit.Bake, Wait: exact.Int(bake), Cooks: 1, Adult: fit.NoAdult, After: []fit.After{{Step: "mix"}},
				Uses: []fit.Use{{Equipment: "oven", Places: 1, Temperature: &c, During: fit.WaitPart}}},
		}}},
	}
}

func draw(t *testing.T, l fit.Lesson) *timeline.Picture {
	t.Helper()
	p, err := fit.Solve(l, fit.Options{Budget: 5, Runs: 200})
	require.NoError(t, err)
	return timeline.Draw(l, p)
}

func bars(p *timeline.Picture, class string) []timeline.Bar {
	var out []timeline.Bar
	for _, b := range p.Bars {
		if strings.Fields(b.Class)[0] == class {
			out = append(out, b)
		}
	}
	return out
}

func TestEverythingIsDrawn(t *testing.T) {
	p := draw(t, queue(8))
	assert.Len(t, p.Bands, 2)
	assert.Len(t, bars(p, "adult"), 2, "one mix for each bench, watched")
	assert.Len(t, bars(p, "wait"), 2)
	assert.Len(t, bars(p, "tray"), 2)
	assert.Len(t, bars(p, "heat"), 1)
	assert.Len(t, p.Marks, 2)
	var rows []string
	for _, r := range p.Rows {
		rows = append(rows, r.Label.Text)
	}
	assert.Equal(t, []string{"Bench 1", "Bench 2", "Oven 1", "Rings", "All done by"}, rows)
	assert.Equal(t, "10:30", p.Bell.Label.Text)
	require.Len(t, p.Curves, 1)
	assert.Equal(t, "1 in use at 10:05", p.Curves[0].Says, "one adult watches one bench at a time")
}

// The clock runs evenly from the door to the bell, which stands at the right.
func TestTheAxisRunsToTheBell(t *testing.T) {
	p := draw(t, queue(8))
	perMinute := (p.Bell.X - p.Bands[0].X) / 30
	mix := bars(p, "adult")[0]
	assert.InDelta(t, p.Bands[0].X+5*perMinute, mix.X, 0.2)
	assert.InDelta(t, 2*perMinute, mix.W, 0.2)
	for _, tick := range p.Ticks {
		assert.LessOrEqual(t, tick.X, p.Bell.X)
		if tick.Clock.Text == "10:15" {
			assert.InDelta(t, p.Bands[0].X+15*perMinute, tick.X, 0.2)
			assert.Equal(t, "15", tick.ToBell.Text)
		}
	}
	// Trays of 8 min, the second in by 10:17, so the first by 10:09.
	require.NotNil(t, p.LastTray)
	assert.Equal(t, "first tray in by 10:09", p.LastTray.Label.Text)
	assert.InDelta(t, p.Bands[0].X+9*perMinute, p.LastTray.X, 0.2)
}

func TestWhatIsLateIsMarked(t *testing.T) {
	for _, b := range draw(t, queue(8)).Bars {
		assert.NotContains(t, b.Class, "late")
	}
	p := draw(t, queue(15))
	late := 0
	for _, b := range p.Bars {
		if strings.HasSuffix(b.Class, " late") {
			late++
			assert.Greater(t, b.X+b.W, p.Bell.X, "10:37 lies beyond the bell")
		}
	}
	assert.Equal(t, 2, late, "the second bench's wait, and its tray")
}

func TestLabelsEndInAWordThatStands(t *testing.T) {
	l := queue(8)
	for _, b := range bars(draw(t, l), "adult") {
		assert.NotEqual(t, "Mix to a", b.Label)
		assert.NotEqual(t, "Mix to", b.Label)
	}
}
