package live_test

import (
	"fmt"
	"math"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"freshapron/internal/core/exact"
	"freshapron/internal/core/fit"
	"freshapron/internal/core/fit/verify"
	"freshapron/internal/core/live"
)

func n(i int64) exact.Number { return exact.Int(i) }

func hot() *exact.Number { c := n(200); return &c }

// two is a lesson of an hour with two benches of one cook each: five minutes to weigh,
// ten to mix, two and fifteen in one of two ovens.
func two() fit.Lesson {
	return fit.Lesson{Title: "Buns", Start: 600, End: 660, Adults: 1,
		Phases:    []fit.Phase{{Name: "Hands", Minutes: n(5), Place: fit.AtStart}, {Name: "Clear down", Minutes: n(10), Place: fit.AtEnd}},
		Equipment: []fit.Equipment{{ID: "oven", Temperature: true, Preheat: n(10), Units: []fit.Unit{{ID: "o1", Name: "Oven 1", Places: 1}, {ID: "o2", Name: "Oven 2", Places: 1}}}},
		Groups:    []fit.Group{{ID: "g1", Name: "Bench 1", Cooks: 1, Pace: n(1)}, {ID: "g2", Name: "Bench 2", Cooks: 1, Pace: n(1)}},
		Dishes: []fit.Dish{{ID: "buns", Title: "Buns", Steps: []fit.Step{
			{ID: "weigh", Title: "Weigh", Kind: fit.Weigh, Work: n(5), Cooks: 1, Adult: fit.NoAdult},
			{ID: "mix", Title: "Mix", Kind: fit.Mix, Work: n(10), Cooks: 1, Adult: fit.NoAdult, After: []fit.After{{Step: "weigh"}}},
			{ID: "bake", Title: "Bake", Kind: fit.Bake, Work: n(2), Wait: n(15), Cooks: 1, Adult: fit.NoAdult, After: []fit.After{{Step: "mix"}},
				Uses: []fit.Use{{Equipment: "oven", Places: 1, Temperature: hot(), During: fit.WaitPart}}},
		}}}}
}

func plan(t require.TestingT, l fit.Lesson) *fit.Plan {
	p, err := fit.Solve(l, fit.Options{Budget: 5, Runs: 20})
	require.NoError(t, err)
	return p
}

var count = 0

func at(minute float64, e live.Event) live.Event {
	count++
	e.ID, e.At = fmt.Sprint("e", count), minute
	return e
}

// stands prints how benches stand: for each its minutes and the steps that go on.
func stands(s *live.State) string {
	var out []string
	for _, b := range s.Benches {
		now, next := b.Next()
		text := fmt.Sprintf("%s %+.0f", b.ID, b.Late)
		if b.Known {
			text += " known"
		}
		for _, st := range now {
			word := "works at"
			if st.Stage == live.Waiting {
				word = "waits for"
			}
			text += fmt.Sprintf(", %s %s until %.0f", word, st.Step, map[bool]float64{true: st.End, false: st.WorkEnd}[st.Stage == live.Waiting])
		}
		if len(next) > 0 {
			text += fmt.Sprintf(", then %s at %.0f", next[0].Step, next[0].Start)
		}
		out = append(out, text)
	}
	return strings.Join(out, "; ")
}

// A lesson by hand: weighing from 5 to 10, mixing to 20, into the oven at 22, out at
// 37, the deadline at 50.
func TestLessonsByHand(t *testing.T) {
	l := two()
	p := plan(t, l)
	open := at(0, live.Event{Kind: live.Opened})
	bench := func(minute float64, k live.Kind, id, step string) live.Event {
		return at(minute, live.Event{Kind: k, Bench: id, Dish: "buns", Step: step})
	}
	for name, c := range map[string]struct {
		events []live.Event
		now    float64
		want   string
		left   float64
	}{
		"before the class comes":                 {nil, 12, "g1 +0, then weigh at 5; g2 +0, then weigh at 5", 13},
		"what goes to plan needs no press":       {[]live.Event{open}, 12, "g1 +0, works at mix until 20, then bake at 20; g2 +0, works at mix until 20, then bake at 20", 13},
		"the class comes late":                   {[]live.Event{at(6, live.Event{Kind: live.Opened})}, 12, "g1 +6, works at weigh until 16, then mix at 16; g2 +6, works at weigh until 16, then mix at 16", 7},
		"a bench is late and goes on as late":    {[]live.Event{open, bench(13, live.Ended, "g1", "weigh")}, 14, "g1 +3 known, works at mix until 23, then bake at 23; g2 +0, works at mix until 20, then bake at 20", 10},
		"a bench is early":                       {[]live.Event{open, bench(8, live.Ended, "g1", "weigh")}, 9, "g1 -2 known, works at mix until 18, then bake at 18; g2 +0, works at weigh until 10, then mix at 10", 13},
		"a tray goes in":                         {[]live.Event{open, bench(25, live.Worked, "g1", "bake")}, 30, "g1 +3 known, waits for bake until 40; g2 +0, waits for bake until 37", 10},
		"and comes out":                          {[]live.Event{open, bench(25, live.Worked, "g1", "bake"), bench(41, live.Ended, "g1", "bake")}, 42, "g1 +4 known; g2 +0", 9},
		"one press at a checkpoint":              {[]live.Event{open, at(21, live.Event{Kind: live.Checkpoint}), at(21.1, live.Event{Kind: live.Behind, Bench: "g2", Minutes: 4})}, 22, "g1 +0 known, waits for bake until 37; g2 +4 known, works at mix until 24, then bake at 24", 9},
		"caught up":                              {[]live.Event{open, at(21, live.Event{Kind: live.Behind, Bench: "g2", Minutes: 4}), at(26, live.Event{Kind: live.CaughtUp, Bench: "g2"})}, 30, "g1 +0, waits for bake until 37; g2 +0 known, waits for bake until 41", 9},
		"a phase is held":                        {[]live.Event{open, at(4, live.Event{Kind: live.Held, Minutes: 3})}, 12, "g1 +3, works at weigh until 13, then mix at 13; g2 +3, works at weigh until 13, then mix at 13", 10},
		"and skipped":                            {[]live.Event{open, at(2, live.Event{Kind: live.Skipped, Minutes: 3})}, 6, "g1 -3, works at weigh until 7, then mix at 7; g2 -3, works at weigh until 7, then mix at 7", 16},
		"a step is left out":                     {[]live.Event{open, bench(11, live.LeftOut, "g1", "bake")}, 12, "g1 +0 known, works at mix until 20; g2 +0, works at mix until 20, then bake at 20", 13},
		"an undone press never was":              {[]live.Event{open, {ID: "x", At: 13, Kind: live.Ended, Bench: "g1", Dish: "buns", Step: "weigh"}, at(13.5, live.Event{Kind: live.Undone, Of: "x"})}, 14, "g1 +0, works at mix until 20, then bake at 20; g2 +0, works at mix until 20, then bake at 20", 13},
		"of another bench, or a step it has not": {[]live.Event{open, bench(13, live.Ended, "g9", "weigh"), bench(13, live.Ended, "g1", "ice")}, 14, "g1 +0, works at mix until 20, then bake at 20; g2 +0, works at mix until 20, then bake at 20", 13},
		"after the moment":                       {[]live.Event{open, bench(13, live.Ended, "g1", "weigh")}, 12, "g1 +0, works at mix until 20, then bake at 20; g2 +0, works at mix until 20, then bake at 20", 13},
	} {
		s := live.Fold(l, p, c.events, c.now)
		assert.Equal(t, c.want, stands(s), name)
		assert.InDelta(t, c.left, s.Left(), 1e-6, name)
	}
}

// An event that arrives late counts from when it was made, where that can be.
func TestWhenAnEventCounts(t *testing.T) {
	said := func(f float64) *float64 { return &f }
	for _, c := range []struct{ at, said, want float64 }{{30, 20, 20}, {30, 30, 30}, {30, 31, 30}, {200, 20, 20}, {201, 20, 201}, {30, math.NaN(), 30}} {
		assert.Equal(t, c.want, live.Event{At: c.at, Said: said(c.said)}.Time(), c)
	}
	assert.Equal(t, 30.0, live.Event{At: 30}.Time())
}

// By hand: 6 minutes for 5 of weighing and 12 for 10 of mixing are a fifth more; with
// two records the posterior is ln 1.2 × (2/0.09) / (1/0.0625 + 2/0.09) = 0.106.
func TestPace(t *testing.T) {
	l := two()
	p := plan(t, l)
	s := live.Fold(l, p, []live.Event{at(0, live.Event{Kind: live.Opened}), at(11, live.Event{Kind: live.Ended, Bench: "g1", Step: "weigh"}), at(23, live.Event{Kind: live.Ended, Bench: "g1", Step: "mix"})}, 24)
	pace := s.Pace()
	assert.Equal(t, 2, pace.Records, "what is assumed says nothing")
	assert.InDelta(t, math.Exp(0.106), pace.Factor, 0.001)
	assert.InDelta(t, 1, live.Fold(l, p, nil, 24).Pace().Factor, 1e-9)
}

// Who leaves is missed from then on; where nobody is left, the rest is left out.
func TestALearnerLeaves(t *testing.T) {
	l := two()
	l.Groups[0].Cooks = 2
	p := plan(t, l)
	gone := func(minute float64) live.Event { return at(minute, live.Event{Kind: live.Gone, Bench: "g1"}) }
	events := []live.Event{at(0, live.Event{Kind: live.Opened}), gone(8)}
	s := live.Fold(l, p, events, 21)
	assert.Equal(t, 1, s.UnderWay().Groups[0].Cooks)
	assert.Equal(t, 2, l.Groups[0].Cooks, "the lesson as it began is not changed")
	under, next, err := s.Replan(quick)
	require.NoError(t, err)
	assert.Empty(t, verify.Plan(under, next))
	s = live.Fold(l, p, append(events, gone(12)), 21)
	assert.Equal(t, "g1 +0; g2 +0, works at bake until 22", stands(s), "only the mixing that had begun was finished")
	_, _, err = s.Replan(quick)
	require.NoError(t, err)
}

// What happens at the same moment counts in the order of the log.
func TestAtTheSameMoment(t *testing.T) {
	l := two()
	p := plan(t, l)
	help := live.Event{ID: "b", Seq: 8, At: 12, Kind: live.Help, Bench: "g2"}
	helped := live.Event{ID: "a", Seq: 9, At: 12, Kind: live.Helped, Bench: "g2"}
	assert.Empty(t, live.Fold(l, p, []live.Event{helped, help}, 18).Helps)
	help.Seq = 10
	assert.Len(t, live.Fold(l, p, []live.Event{helped, help}, 18).Helps, 1)
}

func TestQueuesTimersAndPhases(t *testing.T) {
	l := two()
	l.Groups[1].Cooks = 2
	p := plan(t, l)
	events := []live.Event{at(0, live.Event{Kind: live.Opened}), at(12, live.Event{Kind: live.Help, Bench: "g2"}), at(13, live.Event{Kind: live.Check, Bench: "g1", Says: "mixture"}),
		at(14, live.Event{Kind: live.UnitOut, Equipment: "oven", Unit: "Oven 1"}), at(15, live.Event{Kind: live.AdultOut, Minutes: 5}), at(16, live.Event{Kind: live.Gone, Bench: "g2"})}
	s := live.Fold(l, p, events, 18)
	require.Len(t, s.Helps, 1)
	assert.Equal(t, "mixture", s.Checks[0].Says)
	assert.Equal(t, []fit.UnitPlan{{Equipment: "oven", Unit: "Oven 1"}}, s.Out)
	assert.Equal(t, 1, s.Benches[1].Gone)
	under := s.UnderWay()
	require.NoError(t, under.Check())
	assert.Equal(t, "2", under.Away[0].Minutes.Decimal(0), "two of the five minutes are left")
	name, until := live.Fold(l, p, events, 3).Phase()
	assert.Equal(t, "Hands", name)
	assert.Equal(t, 5.0, until)
	events = append(events, at(19, live.Event{Kind: live.Helped, Bench: "g2"}), at(19, live.Event{Kind: live.Checked, Bench: "g1"}), at(19, live.Event{Kind: live.UnitBack, Equipment: "oven", Unit: "Oven 1"}))
	s = live.Fold(l, p, events, 30)
	assert.Empty(t, s.Helps)
	assert.Empty(t, s.Checks)
	assert.Empty(t, s.Out)
	require.Len(t, s.Timers(), 2)
	assert.Equal(t, 37.0, s.Timers()[0].Until)
	assert.True(t, live.Fold(l, p, events, 40).Timers()[0].Over, "it has run out, and nobody has said that it is out")
	assert.Empty(t, live.Fold(l, p, events, 43).Timers())
	for says, e := range map[string]live.Event{
		"nothing that happens": {Kind: "dance"}, "which lasts 60": {Kind: live.Note, At: 301}, "no bench “g7”": {Kind: live.Help, Bench: "g7"}, "does not make a step “ice”": {Kind: live.Ended, Bench: "g1", Dish: "buns", Step: "ice"},
		"minutes can't be": {Kind: live.Held, Minutes: -1}, "has no “Oven 9”": {Kind: live.UnitOut, Equipment: "oven", Unit: "Oven 9"},
	} {
		assert.ErrorContains(t, s.Check(e), says)
	}
	assert.NoError(t, s.Check(live.Event{Kind: live.Ended, Bench: "g1", Dish: "buns", Step: "mix", At: 300}))
	over := live.Fold(l, p, append(events, at(58, live.Event{Kind: live.Closed})), 59)
	assert.ErrorContains(t, over.Check(live.Event{Kind: live.Help, Bench: "g1"}), "the lesson is over")
	assert.NoError(t, over.Check(live.Event{Kind: live.Sharps, Number: 4}))
}

// Oven 1 fails while a tray is in it: the rest is planned anew from what is so, and
// what changes is said.
func TestReplanning(t *testing.T) {
	l := two()
	p := plan(t, l)
	events := []live.Event{at(0, live.Event{Kind: live.Opened}), at(21, live.Event{Kind: live.Behind, Bench: "g2", Minutes: 6}), at(21, live.Event{Kind: live.UnitOut, Equipment: "oven", Unit: "Oven 2"})}
	s := live.Fold(l, p, events, 22)
	_, next, err := s.Replan(fit.Options{Budget: 5, Runs: 20})
	require.NoError(t, err)
	require.Empty(t, verify.Plan(s.UnderWay(), next))
	moves := s.Compare(next)
	require.NotEmpty(t, moves)
	assert.Equal(t, "g2", moves[0].Bench)
	after := live.Fold(l, p, append(events, at(22, live.Event{Kind: live.Replanned, Plan: next})), 23)
	assert.Equal(t, next, after.Plan)
	for _, b := range after.Benches {
		for _, st := range b.Steps {
			if st.Step == "bake" {
				assert.Equal(t, "Oven 1", st.Unit)
			}
		}
	}
}

// rehearsed draws a lesson under way with more than what a simulated class says.
func rehearsed(t *rapid.T) (fit.Lesson, *fit.Plan, []live.Event) {
	l := two()
	for i := range rapid.IntRange(0, 3).Draw(t, "benches") {
		l.Groups = append(l.Groups, fit.Group{ID: fmt.Sprint("h", i), Name: fmt.Sprint("Bench ", i+3), Cooks: rapid.IntRange(1, 3).Draw(t, "cooks"), Pace: n(1)})
	}
	l.Dishes[0].Steps[1].Adult = rapid.SampledFrom([]fit.Adult{fit.NoAdult, fit.Watches}).Draw(t, "adult")
	l.Equipment[0].Units[0].Places, l.Equipment[0].Units[1].Places = rapid.IntRange(1, 3).Draw(t, "places"), 3
	p := plan(t, l)
	events := live.Rehearse(l, p, live.Script{Seed: rapid.Uint64().Draw(t, "seed"), Mishap: rapid.SampledFrom(append([]string{""}, live.Mishaps...)).Draw(t, "mishap")})
	for i := range events { // some come late
		if rapid.IntRange(0, 4).Draw(t, "late") == 0 {
			said := events[i].At
			events[i].Said, events[i].At = &said, events[i].At+rapid.Float64Range(0, 40).Draw(t, "by")
		}
	}
	if len(events) > 3 && rapid.Bool().Draw(t, "undo") {
		events = append(events, live.Event{ID: "undo", At: events[2].At + 1, Kind: live.Undone, Of: events[2].ID})
	}
	return l, p, events
}

// Whatever order events come in and however often: the state is the same; and there
// is one after every beginning of them, at every moment.
func TestTheOrderOfArrivalChangesNothing(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		l, p, events := rehearsed(t)
		now := rapid.Float64Range(-10, 80).Draw(t, "now")
		want := live.Fold(l, p, events, now)
		again := slices.Clone(events)
		for range rapid.IntRange(0, 10).Draw(t, "doubles") {
			again = append(again, rapid.SampledFrom(events).Draw(t, "double"))
		}
		again = rapid.Permutation(again).Draw(t, "order")
		got := live.Fold(l, p, again, now)
		require.Equal(t, stands(want), stands(got))
		require.Equal(t, want.Log, got.Log)
		for i := range events {
			live.Fold(l, p, events[:i], now)
		}
	})
}

// At every moment of a simulated lesson: times are in order, what is over stays over
// as the clock goes on, and the rest can be planned anew, validly.
func TestEveryMomentCanBePlannedFrom(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		l, p, events := rehearsed(t)
		now := rapid.Float64Range(0, 58).Draw(t, "now")
		s := live.Fold(l, p, events, now)
		for _, b := range s.Benches {
			for _, st := range b.Steps {
				require.LessOrEqual(t, st.Start, st.WorkEnd+1e-9, "%s %s", b.ID, st.Step)
				require.LessOrEqual(t, st.WorkEnd, st.End+1e-9)
				if st.Stage == live.Over {
					require.LessOrEqual(t, st.End, now+1e-9)
				}
				if st.Stage == live.ToCome && s.Begun {
					require.GreaterOrEqual(t, st.Start, now-1e-9)
				}
			}
		}
		if s.Closed || !s.Begun {
			return
		}
		under, next, err := s.Replan(fit.Options{Budget: 2, Runs: 5})
		require.NoError(t, err)
		require.Empty(t, verify.Plan(under, next))
	})
}

// The same seed gives the same lesson, another another.
func TestRehearsalsAreReproducible(t *testing.T) {
	l := two()
	p := plan(t, l)
	for _, m := range append([]string{""}, live.Mishaps...) {
		a := live.Rehearse(l, p, live.Script{Seed: 4, Mishap: m})
		assert.Equal(t, a, live.Rehearse(l, p, live.Script{Seed: 4, Mishap: m}))
		assert.NotEqual(t, a, live.Rehearse(l, p, live.Script{Seed: 5, Mishap: m}))
		assert.Equal(t, live.Opened, a[0].Kind)
		s := live.Fold(l, p, a, 61)
		assert.True(t, s.Closed, m)
	}
}

// What goes wrong has consequences, and only those: each by the same lesson without it.
func TestMishapsHaveConsequences(t *testing.T) {
	l := two()
	l.Groups[1].Cooks = 2
	l.Dishes[0].Steps[2].Adult = fit.Watches
	p := plan(t, l)
	times := func(mishap string) (map[string]float64, live.Event) {
		out, wrong := map[string]float64{}, live.Event{}
		for _, e := range live.Rehearse(l, p, live.Script{Seed: 11, Mishap: mishap}) {
			switch e.Kind {
			case live.Worked, live.Ended:
				out[fmt.Sprint(e.Bench, " ", e.Step, " ", e.Kind)] = e.At
			case live.UnitOut, live.AdultOut, live.Mishap, live.Gone:
				wrong = e
			}
		}
		return out, wrong
	}
	usual, none := times("")
	assert.Empty(t, none.Kind)
	later := func(mishap string) (map[string]float64, live.Event) {
		t.Helper()
		got, wrong := times(mishap)
		for key, at := range usual {
			if at < wrong.At {
				assert.Equal(t, at, got[key], "%s: what was before it is as it was", key)
			}
			got[key] -= at
		}
		return got, wrong
	}
	oven, wrong := later("oven")
	bench := map[string]string{"Oven 1": "g1", "Oven 2": "g2"}[wrong.Unit]
	for key, by := range oven {
		assert.InDelta(t, map[bool]float64{true: 8, false: 0}[key == bench+" bake ended"], by, 0.02, key)
	}
	burn, wrong := later("burn")
	assert.Equal(t, "g1", wrong.Bench)
	assert.Positive(t, burn["g1 bake worked"], "the bench of who was burnt is later")
	assert.Zero(t, burn["g2 bake worked"])
	adult, _ := later("adult")
	assert.Positive(t, adult["g1 bake worked"], "its tray waits for the adult")
	gone, wrong := later("gone")
	assert.Equal(t, "g2", wrong.Bench)
	assert.Zero(t, gone["g1 bake ended"])
	assert.GreaterOrEqual(t, gone["g2 bake ended"], 0.0)

	alone := two()
	p = plan(t, alone)
	for _, e := range live.Rehearse(alone, p, live.Script{Seed: 11, Mishap: "gone"}) {
		if e.Bench == "g2" && e.Kind == live.Worked {
			assert.Less(t, e.At, wrong.At+10, "nobody is there to begin anything")
		}
	}
}

// Benchmarks of a lesson of 16 benches, of which half the time has gone.
func sixteen(b *testing.B) (fit.Lesson, *fit.Plan, []live.Event) {
	l := two()
	l.Groups = nil
	for i := range 16 {
		l.Groups = append(l.Groups, fit.Group{ID: fmt.Sprint("g", i), Name: fmt.Sprint("Bench ", i), Cooks: 1, Pace: n(1)})
	}
	l.Equipment[0].Units = nil
	for i := range 6 {
		l.Equipment[0].Units = append(l.Equipment[0].Units, fit.Unit{ID: fmt.Sprint("o", i), Name: fmt.Sprint("Oven ", i), Places: 3})
	}
	p := plan(b, l)
	return l, p, live.Rehearse(l, p, live.Script{Seed: 1})
}

func BenchmarkFold(b *testing.B) {
	l, p, events := sixteen(b)
	for b.Loop() {
		live.Fold(l, p, events, 30)
	}
}

func BenchmarkReplan(b *testing.B) {
	l, p, events := sixteen(b)
	s := live.Fold(l, p, events, 20)
	for b.Loop() {
		_, _, err := s.Replan(fit.Options{})
		require.NoError(b, err)
	}
}
