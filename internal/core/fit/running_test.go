package fit_test

import (
	"fmt"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"freshapron/internal/core/exact"
	"freshapron/internal/core/fit"
	"freshapron/internal/core/words"
)

func ExampleSolve() {
	plan, err := fit.Solve(tartlets(4), fit.Options{})
	if err != nil {
		fmt.Println(err)
		return
	}
	fmt.Printf("fits: %t, %.1f min left\n", plan.Fits, plan.Slack)
	// Output: fits: true, 3.2 min left
}

func TestNameList(t *testing.T) {
	for want, names := range map[string][]string{
		"Bench 1–4, 7":             {"Bench 3", "Bench 1", "Bench 7", "Bench 2", "Bench 4"},
		"Oven 1, 2":                {"Oven 2", "Oven 1"},
		"Bench 1a–2a":              {"Bench 2a", "Bench 1b", "Bench 1a"},
		"Bench 1a, 2b–3b":          {"Bench 2b", "Bench 3b", "Bench 1a", "Bench 3a"},
		"Bench 2, Oven 1, the hob": {"the hob", "Oven 1", "Bench 2"},
		"":                         nil,
	} {
		assert.Equal(t, want, words.Numbered(names))
	}
}

// Groups that are alike are done in the order of their benches, and fill the
// ovens in the order of their names.
func TestBenchesAndOvensAreInOrder(t *testing.T) {
	p := solve(t, tartlets(6))
	last := 0.0
	for i, g := range p.Groups {
		assert.Equal(t, fmt.Sprintf("g%d", i+1), g.ID)
		assert.GreaterOrEqual(t, g.Finish, last)
		last = g.Finish
		bake := g.Steps[len(g.Steps)-1]
		require.Equal(t, "bake", bake.Step)
		assert.Equal(t, fmt.Sprintf("Oven %d", []int{1, 1, 2, 2, 1, 1}[i]), bake.Units[0].Unit, g.ID)
	}
}

func TestRunning(t *testing.T) {
	l := tartlets(5)
	lines := fit.Running(l, solve(t, l))
	var got []string
	for _, line := range lines {
		got = append(got, fmt.Sprintf("%s %d %s | %s | %s", l.At(line.From), l.ToBell(line.From), line.What, line.Who, line.Where))
	}
	assert.Equal(t, []string{
		"10:05 65 Hands, hair, aprons | everyone | ",
		"10:10 60 Demonstration | everyone | ",
		"10:18 52 Weigh out | all 5 | ",
		"10:20 50 Rub in | all 5 | ",
		"10:26 44 Line, fill | Bench 1–4 | ",
		"10:34 36 Bake | Bench 1–4 | Oven 1, 2",
		"10:40 30 Stop and look | everyone | ",
		// The fifth tray waits for a shelf and may wait only five minutes
		// once it is filled, so it is filled later.
		"10:42 28 Line, fill | Bench 5 | ",
		"10:52 18 Bake | Bench 5 | Oven 1",
		"10:58 12 Clear down | everyone | ",
		"11:05 5 Taste and review | everyone | ",
	}, got)
}

// The last moment of each step can be kept: with that step pinned there and
// everything after it moved on, the lesson still ends in time. A step that
// starts one second later than that would be late.
func TestLatestStartIsTheLast(t *testing.T) {
	l := tartlets(1)
	l.Phases = l.Phases[:2] // no stop in the middle, the bell is the deadline
	for i := range l.Dishes[0].Steps {
		for j := range l.Dishes[0].Steps[i].After {
			l.Dishes[0].Steps[i].After[j].MaxGap = nil
		}
	}
	p := solve(t, l)
	slack := 65 - p.Finish
	require.Greater(t, slack, 1.0)
	for _, s := range p.Groups[0].Steps {
		assert.InDelta(t, slack, s.LatestStart-s.Start, 1e-9, "%s: one chain shares one slack", s.Step)
	}
}

// With one shelf and five trays the order of the plan leaves the first trays
// no more room than the last.
func TestLatestStartCountsTheQueue(t *testing.T) {
	l := tartlets(3)
	l.Phases = nil
	l.Equipment[0].Units = []fit.Unit{{Name: "Oven", Places: 1}}
	l.Dishes[0].Steps = []fit.Step{{ID: "bake", Kind: fit.Bake, Wait: mins("15"), Cooks: 1, Adult: fit.NoAdult,
		Uses: []fit.Use{{Equipment: "oven", Places: 1, Temperature: celsius(180), During: fit.WaitPart}}}}
	p := solve(t, l)
	assert.InDelta(t, 12+45, p.Finish, 1e-9)
	assert.InDelta(t, p.Finish, p.LowerBound, 1e-9, "three bakes after the oven is hot")
	for i, g := range p.Groups {
		s := g.Steps[0]
		assert.InDelta(t, 12+15*float64(i), s.Start, 1e-9)
		assert.InDelta(t, 65-15*float64(3-i), s.LatestStart, 1e-9)
	}
}

func TestTemperaturesDoNotMix(t *testing.T) {
	l := tartlets(2)
	l.Phases = nil
	l.Equipment[0].Units = l.Equipment[0].Units[:1]
	hot := l.Dishes[0]
	bake := func(c int64) []fit.Step {
		return []fit.Step{{ID: "bake", Kind: fit.Bake, Wait: mins("10"), Cooks: 1, Adult: fit.NoAdult,
			Uses: []fit.Use{{Equipment: "oven", Places: 1, Temperature: celsius(c), During: fit.WaitPart}}}}
	}
	l.Dishes[0].Steps = bake(180)
	hot.ID, hot.Steps = "hot", bake(220)
	l.Dishes = append(l.Dishes, hot)
	l.Groups[0].Dishes, l.Groups[1].Dishes = []string{"tartlets"}, []string{"hot"}
	p := solve(t, l)
	assert.InDelta(t, 12+10+5+10, p.Finish, 1e-9, "two shelves are free, but the oven has one temperature")
}

// A door that stays shut keeps the second tray out though a shelf is free.
func TestADoorThatStaysShut(t *testing.T) {
	l := tartlets(2)
	l.Phases = nil
	l.Equipment[0].Units = l.Equipment[0].Units[:1]
	l.Dishes[0].Steps = []fit.Step{
		{ID: "whisk", Kind: fit.Mix, Work: mins("12"), Cooks: 1, Adult: fit.NoAdult},
		{ID: "bake", Kind: fit.Bake, Wait: mins("10"), Cooks: 1, Adult: fit.NoAdult, KeepShut: true, After: []fit.After{{Step: "whisk"}},
			Uses: []fit.Use{{Equipment: "oven", Places: 1, Temperature: celsius(180), During: fit.WaitPart}}},
	}
	p := solve(t, l)
	assert.InDelta(t, 22, p.Finish, 1e-9, "both go in at the same moment")
	l.Groups[1].Pace = exact.Frac(3, 2) // six minutes behind
	p = solve(t, l)
	assert.InDelta(t, 18+10, p.Finish, 1e-9, "the first waits six minutes, so that one opening serves both")
	l.Groups[1].Pace = exact.Int(2) // twelve minutes behind
	p = solve(t, l)
	assert.InDelta(t, 24+10, p.Finish, 1e-9, "the first is out before the second comes")
	assert.InDelta(t, 22, p.Groups[0].Finish, 1e-9)
}

// One adult fries for three benches, one after the other, at her own pace.
func TestOneAdult(t *testing.T) {
	l := tartlets(3)
	l.Phases, l.Adults = nil, 1
	for i := range l.Groups {
		l.Groups[i].Pace = exact.Int(2)
	}
	l.Dishes[0].Steps = []fit.Step{{ID: "fry", Kind: fit.Cook, Work: mins("4"), Adult: fit.Does}}
	p := solve(t, l)
	assert.InDelta(t, 12, p.Finish, 1e-9)
	assert.Zero(t, p.Groups[0].Steps[0].Cooks)
	assert.Equal(t, "adults", p.Groups[2].Steps[0].Held.For)
	assert.InDelta(t, 8, p.Groups[2].Steps[0].Held.Minutes, 1e-9)
}

// Ten pieces, four to a pan: three loads of two minutes after one of mixing,
// at three quarters of the speed: 7 · 4/3 = 9⅓ min.
func TestLoads(t *testing.T) {
	l := tartlets(1)
	l.Phases = nil
	l.Groups[0].Pace = exact.Frac(4, 3)
	l.Dishes[0].Steps = []fit.Step{{ID: "griddle", Kind: fit.Cook, Work: mins("1"), Cooks: 1, Adult: fit.NoAdult, Shareable: true,
		Pieces: 10, PerLoad: 4, Load: mins("2")}}
	p := solve(t, l)
	s := p.Groups[0].Steps[0]
	assert.Equal(t, 2, s.Cooks, "sharing shortens the work, not the loads")
	assert.InDelta(t, 525.0/60, s.End, 1e-9, "(1/1.8 + 6) · 4/3 min are 524.4 s, up to the next second")
}
