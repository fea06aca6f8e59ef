package timeline_test

import (
	"fmt"
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

func draw(t *testing.T, l fit.Lesson, by string) *timeline.Picture {
	t.Helper()
	p, err := fit.Solve(l, fit.Options{Budget: 5, Runs: 200})
	require.NoError(t, err)
	return timeline.Draw(l, p, timeline.Look{
		By:     by,
		Chosen: timeline.Ref{Group: "g2", Dish: "d", Step: "bake"},
		Step:   func(r timeline.Ref) string { return "/" + r.String() },
		Bench:  func(id string) string { return "?by=" + id },
	})
}

func has(class, word string) bool {
	for _, w := range strings.Fields(class) {
		if w == word {
			return true
		}
	}
	return false
}

func bars(p *timeline.Picture, word string) []timeline.Bar {
	var out []timeline.Bar
	for _, b := range p.Bars {
		if has(b.Class, word) {
			out = append(out, b)
		}
	}
	return out
}

func rows(p *timeline.Picture) []string {
	var out []string
	for _, r := range p.Rows {
		out = append(out, r.Label.Text)
	}
	return out
}

func TestByBench(t *testing.T) {
	p := draw(t, queue(8), timeline.ByBench)
	assert.Len(t, p.Bands, 2)
	assert.Equal(t, []string{"Bench 1", "Bench 2", "All done by"}, rows(p))
	assert.Equal(t, "?by=g1", p.Rows[0].Href)
	assert.Equal(t, "/~phase/Demonstration/", p.Bands[0].Href)
	assert.Len(t, bars(p, "adult"), 2, "one mix for each bench, watched")
	assert.Len(t, bars(p, "wait"), 2)
	assert.Len(t, p.Marks, 2)
	assert.Equal(t, "10:30", p.Bell.Label.Text)
	// One adult for two mixes, then one shelf for two trays: somebody waits
	// for the adult, and the second tray for the oven.
	says := ""
	for _, b := range bars(p, "queue") {
		says += b.Says + "\n"
	}
	assert.Contains(t, says, "for the oven before “Bake”")
	assert.Contains(t, says, "for an adult before “Mix to a dough”")
	for _, b := range p.Bars {
		assert.NotEmpty(t, b.Href, "every step can be pressed: %s", b.Says)
		assert.Contains(t, []int{0, 1}, b.Row)
	}
	require.Len(t, bars(p, "chosen"), 1)
	assert.Contains(t, bars(p, "chosen")[0].Says, "Bench 2: Bake")
	assert.NotEmpty(t, bars(p, "chain"), "what decides the end is marked")
	assert.NotEmpty(t, p.Calls)
}

// A guess is drawn as one, and says so.
func TestGuessesAreDrawnAsGuesses(t *testing.T) {
	l := queue(8)
	p, err := fit.Solve(l, fit.Options{Budget: 5, Runs: 200})
	require.NoError(t, err)
	pic := timeline.Draw(l, p, timeline.Look{By: timeline.ByBench, Typical: func(dish, step string) (work, wait bool) { return step == "mix", step == "bake" }})
	assert.Len(t, bars(pic, "guess"), 4, "work and waits of both benches")
	for _, b := range bars(pic, "guess") {
		assert.Contains(t, b.Says, "a guess")
	}
	pic = timeline.Draw(l, p, timeline.Look{By: timeline.ByBench, Typical: func(dish, step string) (work, wait bool) { return false, step == "mix" }})
	assert.Empty(t, bars(pic, "guess"), "it has no wait")
}

func TestByThing(t *testing.T) {
	l := queue(8)
	l.Adults = 2
	l.Away = []fit.Away{{Adults: 1, From: exact.Int(6), Minutes: exact.Int(4)}}
	p := draw(t, l, timeline.ByThing)
	assert.Equal(t, []string{"Oven 1", "Rings", "Adults", "All done by"}, rows(p))
	assert.Len(t, bars(p, "tray"), 2)
	assert.Len(t, bars(p, "heat"), 1)
	assert.Equal(t, "/~unit/oven/Oven 1", p.Rows[0].Href)
	assert.Equal(t, "/~adults//", p.Rows[2].Href)
	assert.Len(t, bars(p, "adult"), 2, "what each adult watches")
	require.Len(t, bars(p, "out"), 1)
	assert.Equal(t, "An adult is out, 10:06 to 10:10", bars(p, "out")[0].Says)
	require.Len(t, p.Curves, 1)
	assert.Contains(t, p.Curves[0].Says, "in use at 10:05")
	assert.Equal(t, "/g1/d/bake", bars(p, "tray")[0].Href)
}

func TestOneBenchCloseUp(t *testing.T) {
	l := queue(8)
	l.Groups[0].Cooks = 2
	p := draw(t, l, "g1")
	assert.True(t, p.Close)
	assert.Equal(t, []string{"Cook 1", "Cook 2", "No hands", "Ring 1", "Oven 1", "All done by"}, rows(p))
	assert.Len(t, bars(p, "other"), 1, "the other bench's tray in the same oven stands back")
	mix := bars(p, "adult")[0]
	var lines []string
	for _, line := range mix.Label {
		lines = append(lines, line.Text)
	}
	assert.Equal(t, "Mix to a dough", strings.Join(lines, " "), "close up there is room for every word")
}

// The clock runs evenly from the door to the bell, which stands at the right.
func TestTheAxisRunsToTheBell(t *testing.T) {
	p := draw(t, queue(8), "")
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
	assert.Empty(t, bars(draw(t, queue(8), ""), "late"))
	late := bars(draw(t, queue(15), ""), "late")
	require.Len(t, late, 1, "the second bench's wait")
	p := draw(t, queue(15), "")
	assert.Greater(t, late[0].X+late[0].W, p.Bell.X, "10:37 lies beyond the bell")
	assert.Len(t, bars(draw(t, queue(15), timeline.ByThing), "late"), 1, "its tray")
}

// Many benches are drawn flatter, so that sixteen are seen at once.
func TestManyBenches(t *testing.T) {
	few, many := queue(8), queue(8)
	for i := range 14 {
		g := many.Groups[0]
		g.ID, g.Name = g.ID+strings.Repeat("x", i+1), "Bench"
		many.Groups = append(many.Groups, g)
	}
	one := draw(t, few, "")
	all := draw(t, many, "")
	assert.Len(t, all.Rows, 17)
	perBench := func(p *timeline.Picture) float64 { return p.Rows[1].RuleY - p.Rows[0].RuleY }
	assert.Less(t, perBench(all), perBench(one))
	assert.Less(t, all.Height, 620.0)
}

// Benches that do the same at the same times are one row, which opens into
// single ones; the one that is chosen stands for all.
func TestLikeBenchesAreFolded(t *testing.T) {
	l := queue(8)
	l.Equipment[0].Units[0].Places = 20
	l.Adults = 20
	for i := range 10 {
		g := l.Groups[1]
		g.ID, g.Name = fmt.Sprintf("h%d", i), fmt.Sprintf("Bench %d", i+3)
		l.Groups = append(l.Groups, g)
	}
	l.Equipment[1].Units = nil
	for i := range 12 {
		l.Equipment[1].Units = append(l.Equipment[1].Units, fit.Unit{Name: fmt.Sprint("ring ", i), Places: 1})
	}
	p := draw(t, l, timeline.ByBench)
	require.Len(t, p.Rows, 2, "all twelve, and when they are done")
	assert.Equal(t, "Bench 1–12", p.Rows[0].Label.Text)
	assert.Equal(t, "?by=each", p.Rows[0].Href)
	assert.Len(t, bars(p, "chosen"), 1)
	assert.Len(t, draw(t, l, timeline.ByEach).Rows, 13)
}

func TestLabelsEndInAWordThatStands(t *testing.T) {
	for _, b := range bars(draw(t, queue(8), ""), "adult") {
		for _, line := range b.Label {
			assert.NotEqual(t, "Mix to a", line.Text)
			assert.NotEqual(t, "Mix to", line.Text)
		}
	}
}

func TestRefsThereAndBack(t *testing.T) {
	r := timeline.Ref{Group: "g1", Dish: "pie", Step: "roll/out"}
	assert.Equal(t, r, timeline.ParseRef(r.String()))
	assert.Equal(t, timeline.Ref{Group: "x"}, timeline.ParseRef("x"))
}
