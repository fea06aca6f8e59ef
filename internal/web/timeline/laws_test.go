package timeline_test

import (
	"fmt"
	"math"
	"testing"

	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"freshapron/internal/core/exact"
	"freshapron/internal/core/fit"
	"freshapron/internal/web/timeline"
)

// drawn makes up a lesson of a class that shares ovens, one tray or two at a
// time, and adults.
func drawn(t *rapid.T) fit.Lesson {
	minutes := func(least, most int64, what string) exact.Number {
		return exact.Int(rapid.Int64Range(least, most).Draw(t, what))
	}
	hot := exact.Int(190)
	l := fit.Lesson{Start: 9 * 60, End: 10*60 + 15, Adults: rapid.IntRange(1, 2).Draw(t, "adults"), Phases: []fit.Phase{
		{Name: "Demonstration", Minutes: minutes(1, 12, "demonstration"), Place: fit.AtStart}, {Name: "Clear down", Minutes: minutes(1, 8, "clearing"), Place: fit.AtEnd},
	}}
	oven := fit.Equipment{ID: "oven", Temperature: true, Preheat: minutes(0, 12, "preheat"), Reheat: exact.Int(4)}
	for i := range rapid.IntRange(1, 3).Draw(t, "ovens") {
		oven.Units = append(oven.Units, fit.Unit{Name: fmt.Sprintf("Oven %d", i+1), Places: 2})
	}
	l.Equipment = []fit.Equipment{oven}
	for d := range 2 {
		l.Dishes = append(l.Dishes, fit.Dish{ID: fmt.Sprintf("d%d", d), Steps: []fit.Step{
			{ID: "mix", Title: "Mix", Kind: fit.Mix, Cooks: 1, Work: minutes(1, 9, "work"), Adult: rapid.SampledFrom([]fit.Adult{fit.NoAdult, fit.Watches}).Draw(t, "adult"), Shareable: true},
			{ID: "bake", Title: "Bake", Kind: fit.Bake, Cooks: 1, Work: exact.Int(1), Wait: minutes(4, 20, "bake"), Adult: fit.NoAdult, After: []fit.After{{Step: "mix"}},
				Uses: []fit.Use{{Equipment: "oven", Places: 1 + d, Temperature: &hot, During: fit.WaitPart}}},
			{ID: "wash", Title: "Wash up", Kind: fit.Clean, Cooks: 1, Work: minutes(1, 5, "washing"), Adult: fit.NoAdult, After: []fit.After{{Step: "mix"}}},
		}})
	}
	for g := range rapid.IntRange(1, 14).Draw(t, "groups") {
		l.Groups = append(l.Groups, fit.Group{
			ID: fmt.Sprintf("g%d", g+1), Name: fmt.Sprintf("Bench %d", g+1), Cooks: rapid.IntRange(1, 3).Draw(t, "cooks"), Pace: exact.Int(1),
			Dishes: []string{fmt.Sprintf("d%d", rapid.IntRange(0, 1).Draw(t, "dish"))},
		})
	}
	return l
}

// overlap reports whether two bars cover each other by more than a hair.
func overlap(a, b timeline.Bar) bool {
	const hair = 0.25
	return a.X+hair < b.X+b.W && b.X+hair < a.X+a.W && a.Y+hair < b.Y+b.H && b.Y+hair < a.Y+a.H
}

// Whatever the lesson and however it is looked at, everything is inside the
// picture, minutes are as long everywhere, rows follow each other downwards,
// and no tray is drawn on another.
func TestLawsOfThePicture(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		l := drawn(t)
		p, err := fit.Solve(l, fit.Options{Budget: 2, Runs: 20})
		require.NoError(t, err)
		by := rapid.SampledFrom([]string{timeline.ByBench, timeline.ByEach, timeline.ByThing, "g1"}).Draw(t, "by")
		pic := timeline.Draw(l, p, timeline.Look{By: by, Step: func(r timeline.Ref) string { return "/" + r.String() }})
		require.Equal(t, by == "g1", pic.Close)
		for _, b := range pic.Bars {
			require.GreaterOrEqual(t, b.X, 0.0, b.Says)
			require.LessOrEqual(t, b.X+b.W, pic.Width+0.11, b.Says)
			require.GreaterOrEqual(t, b.Y, 0.0, b.Says)
			require.LessOrEqual(t, b.Y+b.H, pic.Height, b.Says)
			require.NotEmpty(t, b.Says)
			for _, line := range b.Label {
				require.GreaterOrEqual(t, line.X, b.X-0.11)
				require.LessOrEqual(t, line.X, b.X+b.W+0.11, "the words of a bar begin in it")
			}
		}
		for i, tick := range pic.Ticks[1:] {
			require.Greater(t, tick.X, pic.Ticks[i].X)
			if i > 0 {
				first, this := pic.Ticks[1].X-pic.Ticks[0].X, tick.X-pic.Ticks[i].X
				require.InDelta(t, first, this, 0.25, "five minutes are as long everywhere")
			}
		}
		for i, row := range pic.Rows[1:] {
			require.Greater(t, row.Label.Y, pic.Rows[i].Label.Y)
		}
		trays := bars(pic, "tray")
		for i, a := range trays {
			for _, b := range trays[i+1:] {
				require.False(t, overlap(a, b), "%s is drawn on %s", a.Says, b.Says)
			}
		}
		hands := append(bars(pic, "hands"), bars(pic, "adult")...)
		if by == timeline.ByBench || by == timeline.ByEach {
			for i, a := range hands {
				for _, b := range hands[i+1:] {
					require.False(t, a.Row == b.Row && overlap(a, b), "%s is drawn on %s", a.Says, b.Says)
				}
			}
			require.LessOrEqual(t, len(pic.Rows), len(l.Groups)+1)
			require.True(t, by == timeline.ByBench || len(pic.Rows) == len(l.Groups)+1)
		}
		require.False(t, math.IsNaN(pic.Height))
	})
}

// What a link names is read back as the same, whatever is in the names.
func TestAnyRefThereAndBack(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		part := rapid.StringMatching(`[^/]{0,12}`)
		r := timeline.Ref{Group: part.Draw(t, "group"), Dish: part.Draw(t, "dish"), Step: rapid.String().Draw(t, "step")}
		require.Equal(t, r, timeline.ParseRef(r.String()))
	})
	require.Equal(t, timeline.Ref{}, timeline.ParseRef(""))
	require.Equal(t, timeline.Ref{Group: "g1"}, timeline.ParseRef("g1"))
	require.Equal(t, timeline.Ref{Group: timeline.Unit, Dish: "oven", Step: "Oven 1/2"}, timeline.ParseRef("~unit/oven/Oven 1/2"))
}
