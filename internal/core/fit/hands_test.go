package fit_test

import (
	"fmt"
	"math"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"freshapron/internal/core/fit"
)

// fairness of an assignment, in the order in which it counts, lower is
// better: the spread of work, the least cutting and the fewest kinds negated,
// the changes of dish.
func fairness(l fit.Lesson, steps []fit.StepPlan, hands [][]int, cooks int) []int {
	loads, cuts, kinds, changes := []int(nil), []int(nil), []int(nil), 0
	for cook := 1; cook <= cooks; cook++ {
		load, cut, dishes, of := 0, 0, []string(nil), map[fit.Kind]bool{}
		for i, s := range steps {
			if !slices.Contains(hands[i], cook) {
				continue
			}
			step, _ := l.Step(s.Dish, s.Step)
			length := int(math.Round((s.WorkEnd - s.Start) * 60))
			load += length
			of[step.Kind] = true
			if step.Kind == fit.Cut {
				cut += length
			}
			dishes = append(dishes, s.Dish)
		}
		loads, cuts, kinds = append(loads, load), append(cuts, cut), append(kinds, len(of))
		changes += max(0, len(slices.Compact(dishes))-1)
	}
	return []int{slices.Max(loads) - slices.Min(loads), -slices.Min(cuts), -slices.Min(kinds), changes}
}

// fairest tries every assignment of cooks to the steps.
func fairest(l fit.Lesson, steps []fit.StepPlan, cooks int) []int {
	var best []int
	hands := make([][]int, len(steps))
	var try func(i int)
	try = func(i int) {
		if i == len(steps) {
			if f := fairness(l, steps, hands, cooks); best == nil || slices.Compare(f, best) < 0 {
				best = f
			}
			return
		}
		for set := range 1 << cooks {
			hands[i] = nil
			for k := range cooks {
				if set&(1<<k) != 0 {
					hands[i] = append(hands[i], k+1)
				}
			}
			free := len(hands[i]) == steps[i].Cooks
			for j := range i {
				busy := steps[j].WorkEnd > steps[i].Start+1e-9
				free = free && !(busy && slices.ContainsFunc(hands[i], func(k int) bool { return slices.Contains(hands[j], k) }))
			}
			if free {
				try(i + 1)
			}
		}
	}
	try(0)
	return best
}

func TestHandsAreTheFairest(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		l := anyLesson.Draw(t, "lesson")
		p, err := fit.Solve(l, fit.Options{Runs: 1, Placements: 200})
		require.NoError(t, err)
		for _, gp := range p.Groups {
			g, _ := l.Group(gp.ID)
			steps := slices.DeleteFunc(slices.Clone(gp.Steps), func(s fit.StepPlan) bool { return s.Cooks == 0 })
			if len(steps) > 8 || g.Cooks > 3 {
				continue
			}
			hands := make([][]int, len(steps))
			for i, s := range steps {
				hands[i] = s.Hands
			}
			require.Equal(t, fairest(l, steps, g.Cooks), fairness(l, steps, hands, g.Cooks))
		}
	})
}

// A bench with a great many steps is past what can be tried: its hands are
// still valid and nearly even, whatever the number of cooks.
func TestHandsOfLargeGroups(t *testing.T) {
	for _, cooks := range []int{2, 5, 12, 70} {
		l := fit.Lesson{Start: 0, End: 600, Groups: []fit.Group{{ID: "g", Cooks: cooks, Pace: mins("1")}}, Dishes: []fit.Dish{{ID: "d"}}}
		for i := range 60 {
			l.Dishes[0].Steps = append(l.Dishes[0].Steps, fit.Step{
				ID: fmt.Sprint(i), Kind: fit.Cut, Work: mins(fmt.Sprint(2 + i*7%5)), Cooks: 1 + i%2, Adult: fit.NoAdult,
			})
		}
		p, err := fit.Solve(l, fit.Options{Runs: 1, Budget: 20})
		require.NoError(t, err)
		var hands [][]int
		for _, s := range p.Groups[0].Steps {
			require.Len(t, s.Hands, s.Cooks)
			hands = append(hands, s.Hands)
		}
		if cooks < 70 {
			assert.LessOrEqual(t, fairness(l, p.Groups[0].Steps, hands, cooks)[0], 120, "%d cooks: within two minutes", cooks)
		}
	}
}

// Two cooks weigh together for 5/1.8 min and one of them rubs in for 6: the
// other is idle for 6 of 8¾ min, the phases left out.
func TestIdleCooks(t *testing.T) {
	l := fit.Lesson{
		Start: 0, End: 60,
		Phases: []fit.Phase{{Name: "Stop", Minutes: mins("2"), Place: fit.AtMinute, Minute: mins("4")}},
		Groups: []fit.Group{{ID: "g", Cooks: 2, Pace: mins("1")}},
		Dishes: []fit.Dish{{ID: "d", Steps: []fit.Step{
			{ID: "weigh", Kind: fit.Weigh, Work: mins("5"), Cooks: 1, Shareable: true, Adult: fit.NoAdult},
			{ID: "rub", Kind: fit.Mix, Work: mins("6"), Cooks: 1, Adult: fit.NoAdult, After: []fit.After{{Step: "weigh"}}},
			{ID: "rest", Kind: fit.Rest, Wait: mins("20"), Cooks: 1, Adult: fit.NoAdult, After: []fit.After{{Step: "rub"}}},
		}}},
	}
	p, err := fit.Solve(l, fit.Options{Runs: 1})
	require.NoError(t, err)
	require.Len(t, p.Idle, 1)
	assert.Equal(t, "g", p.Idle[0].Group)
	assert.Equal(t, 2, p.Idle[0].Cook)
	assert.Greater(t, p.Idle[0].Minutes, 6.0)

	l.Dishes[0].Steps[1].Shareable = true
	p, err = fit.Solve(l, fit.Options{Runs: 1})
	require.NoError(t, err)
	assert.Empty(t, p.Idle)
}

// A plan from elsewhere that says nothing of hands gets the hands that it would have been given; one
// that says something keeps it.
func TestHandsOfAPlanFromElsewhere(t *testing.T) {
	for n := range 12 {
		l := anyLesson.Example(n)
		p, err := fit.Solve(l, fit.Options{Runs: 1, Placements: 200})
		require.NoError(t, err)
		var given, dealt [][]int
		for _, g := range p.Groups {
			for i := range g.Steps {
				given = append(given, g.Steps[i].Hands)
				g.Steps[i].Hands = nil
			}
		}
		l.ShareWork(p)
		for _, g := range p.Groups {
			for i := range g.Steps {
				dealt = append(dealt, g.Steps[i].Hands)
			}
		}
		assert.Equal(t, given, dealt, n)
	}
	l := tartlets(1)
	p := solve(t, l)
	p.Groups[0].Steps[0].Hands = []int{2}
	p.Groups[0].Steps[1].Hands = nil
	l.ShareWork(p)
	assert.Equal(t, []int{2}, p.Groups[0].Steps[0].Hands)
	assert.Nil(t, p.Groups[0].Steps[1].Hands)
}
