package fit_test

import (
	"fmt"
	"math/rand/v2"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"freshapron/internal/core/exact"
	"freshapron/internal/core/fit"
)

// smallPair is a bench of two cooks with six steps of whole minutes, some after others
// and some at the one ring.
func smallPair(r *rand.Rand) fit.Lesson {
	l := fit.Lesson{
		Start: 0, End: 120, Groups: []fit.Group{{ID: "g", Cooks: 2, Pace: mins("1")}},
		Equipment: []fit.Equipment{{ID: "ring", Units: []fit.Unit{{Name: "1", Places: 1}}}}, Dishes: []fit.Dish{{ID: "d"}},
	}
	for n := range 6 {
		s := step(fmt.Sprint(n), fit.Mix, exact.Int(int64(2+2*r.IntN(4))), exact.Int(int64(2*max(0, r.IntN(5)-2))))
		for before := range n {
			if r.IntN(4) == 0 {
				s.After = append(s.After, then(fmt.Sprint(before)))
			}
		}
		if r.IntN(3) == 0 {
			s.Uses = []fit.Use{{Equipment: "ring", Places: 1, During: fit.WorkPart}}
		}
		l.Dishes[0].Steps = append(l.Dishes[0].Steps, s)
	}
	return l
}

// leastApart tries every plan of a small bench, in steps of two minutes, that ends by a
// finish, and returns the least difference in work of its cooks.
func leastApart(l fit.Lesson, finish int) int {
	steps := l.Dishes[0].Steps
	starts, ends := make([]int, len(steps)), make([]int, len(steps))
	least := 1 << 30
	var try func(n int)
	try = func(n int) {
		if n == len(steps) {
			var plan []fit.StepPlan
			for i, s := range steps {
				plan = append(plan, fit.StepPlan{Dish: "d", Step: s.ID, Start: float64(starts[i]), WorkEnd: float64(starts[i]) + s.Work.Float(), Cooks: 1})
			}
			slices.SortStableFunc(plan, func(a, b fit.StepPlan) int { return int(a.Start - b.Start) })
			if f := fairest(l, plan, 2); f != nil {
				least = min(least, f[0]/60)
			}
			return
		}
		work, wait := int(steps[n].Work.Float()), int(steps[n].Wait.Float())
		from := 0
		for _, a := range steps[n].After {
			from = max(from, ends[int(a.Step[0]-'0')])
		}
		for start := from; start+work+wait <= finish; start += 2 {
			free := true
			for at := start; at < start+work && free; at += 2 {
				busy := 0
				for m := range n {
					if starts[m] <= at && at < starts[m]+int(steps[m].Work.Float()) {
						busy++
						free = free && (len(steps[m].Uses) == 0 || len(steps[n].Uses) == 0)
					}
				}
				free = free && busy < 2
			}
			if free {
				starts[n], ends[n] = start, start+work+wait
				try(n + 1)
			}
		}
	}
	try(0)
	return least
}

// Of plans that end together the one that shares the work more evenly is taken.
func TestFairestOfPlansThatEndTogether(t *testing.T) {
	r := rand.New(rand.NewPCG(7, 0))
	for n := range 40 {
		l := smallPair(r)
		p, err := fit.Solve(l, fit.Options{Runs: 1})
		require.NoError(t, err)
		steps := p.Groups[0].Steps
		var hands [][]int
		for _, s := range steps {
			hands = append(hands, s.Hands)
		}
		require.True(t, p.Optimal)
		assert.Equal(t, leastApart(l, int(p.Finish+0.5)), fairness(l, steps, hands, 2)[0]/60, n)
	}
}
