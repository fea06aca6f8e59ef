package fit_test

import (
	"fmt"
	"math/rand/v2"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"freshapron/internal/core/exact"
	"freshapron/internal/core/fit"
	"freshapron/internal/core/fit/verify"
)

// class makes up a lesson of a whole class: benches of one to three cooks
// that make one dish of 10 to 16 steps, with shared ovens, a few rings and
// one blender, adults for what is hot, and doors that stay shut.
func class(seed uint64) fit.Lesson {
	r := rand.New(rand.NewPCG(seed, 7))
	whole := func(from, to int) exact.Number { return exact.Int(int64(from + r.IntN(to-from+1))) }
	ovens := make([]fit.Unit, 3+r.IntN(4))
	for i := range ovens {
		ovens[i] = fit.Unit{Name: fmt.Sprintf("Oven %d", i+1), Places: 1 + r.IntN(2)}
	}
	l := fit.Lesson{
		Title: "Class", Start: 9 * 60, End: 11 * 60, Adults: 1 + r.IntN(2),
		Phases: []fit.Phase{
			{Name: "Start", Minutes: exact.Int(8), Place: fit.AtStart},
			{Name: "Stop", Minutes: exact.Int(3), Place: fit.AtMinute, Minute: exact.Int(45)},
			{Name: "Clear", Minutes: exact.Int(10), Place: fit.AtEnd},
		},
		Equipment: []fit.Equipment{
			{ID: "oven", Units: ovens, Temperature: true, Preheat: exact.Int(10), Reheat: exact.Int(5)},
			{ID: "ring", Units: []fit.Unit{{Name: "Hob", Places: 8}}},
			{ID: "blender", Units: []fit.Unit{{Name: "Blender", Places: 1}}},
		},
	}
	dish := fit.Dish{ID: "dish", Title: "Dish"}
	shut := r.IntN(3) == 0
	steps := 10 + r.IntN(7)
	for i := range steps {
		s := fit.Step{ID: fmt.Sprintf("s%d", i), Title: "Step", Kind: fit.Mix, Work: whole(1, 6), Cooks: 1, Adult: fit.NoAdult}
		if i > 0 {
			s.After = []fit.After{{Step: fmt.Sprintf("s%d", max(0, i-1-r.IntN(2)))}}
		}
		switch r.IntN(7) {
		case 0:
			s.Shareable = true
		case 1:
			s.Uses = []fit.Use{{Equipment: "ring", Places: 1, During: fit.WholeStep}}
			s.Wait = whole(2, 8)
		case 2:
			s.Work, s.Adult = whole(1, 2), fit.Watches
		case 3:
			if i%3 == 0 {
				s.Work, s.Uses = exact.Int(1), []fit.Use{{Equipment: "blender", Places: 1, During: fit.WorkPart}}
			}
		}
		if i == steps-3 || i == steps-6 && r.IntN(2) == 0 {
			s = fit.Step{ID: s.ID, Title: "Bake", Kind: fit.Bake, Work: exact.Int(1), Wait: whole(10, 20), Cooks: 1, Adult: fit.NoAdult,
				KeepShut: shut, After: []fit.After{{Step: fmt.Sprintf("s%d", i-1)}},
				Uses: []fit.Use{{Equipment: "oven", Places: 1, Temperature: celsius(180), During: fit.WaitPart}}}
		}
		dish.Steps = append(dish.Steps, s)
	}
	l.Dishes = []fit.Dish{dish}
	cooks := 1 + r.IntN(2)
	for g := range 12 + r.IntN(5) {
		l.Groups = append(l.Groups, fit.Group{ID: fmt.Sprintf("g%d", g), Name: "Bench", Cooks: cooks, Pace: exact.Int(1)})
	}
	return l
}

// The plans of whole classes obey every rule and end close to what no plan
// can beat, ovens that stay shut and one adult for all included.
func TestClassesEndCloseToTheBound(t *testing.T) {
	sum := 0.0
	const lessons = 8
	for seed := range uint64(lessons) {
		l := class(seed)
		p, err := fit.Solve(l, fit.Options{Runs: 1})
		require.NoError(t, err)
		require.Empty(t, verify.Plan(l, p), "class %d", seed)
		sum += p.Finish/p.LowerBound - 1
	}
	assert.Less(t, sum/lessons, 0.04)
}

// The search counts its steps: a seed gives the same plan again, another one
// a plan of its own, and more steps never a worse one.
func TestSeedsAndPlacements(t *testing.T) {
	l := class(4)
	plan := func(seed uint64, placements int) *fit.Plan {
		p, err := fit.Solve(l, fit.Options{Runs: 50, Seed: seed, Placements: placements})
		require.NoError(t, err)
		return p
	}
	short := plan(1, 200_000)
	assert.Equal(t, short, plan(1, 200_000))
	assert.NotEqual(t, short.Groups, plan(2, 200_000).Groups)
	assert.LessOrEqual(t, plan(1, 600_000).Finish, short.Finish)
}

// Nine benches, one oven with one shelf, 5 minutes of work before the bake of
// 20 and 10 after: the last goes in after eight others. The queue is the
// bound, so the plan is proved to be the best.
func TestBoundOfAQueue(t *testing.T) {
	l := fit.Lesson{Start: 9 * 60, End: 13 * 60, Adults: 1,
		Equipment: []fit.Equipment{{ID: "oven", Units: []fit.Unit{{Name: "Oven", Places: 1}}, Temperature: true}},
		Dishes: []fit.Dish{{ID: "d", Steps: []fit.Step{
			{ID: "mix", Kind: fit.Mix, Work: exact.Int(5), Cooks: 1, Adult: fit.NoAdult},
			{ID: "bake", Kind: fit.Bake, Wait: exact.Int(20), Adult: fit.NoAdult, Cooks: 1, After: []fit.After{{Step: "mix"}},
				Uses: []fit.Use{{Equipment: "oven", Places: 1, Temperature: celsius(180), During: fit.WaitPart}}},
			{ID: "ice", Kind: fit.Serve, Work: exact.Int(10), Cooks: 1, Adult: fit.NoAdult, After: []fit.After{{Step: "bake"}}},
		}}},
	}
	for g := range 9 {
		l.Groups = append(l.Groups, fit.Group{ID: fmt.Sprintf("g%d", g), Cooks: 1, Pace: exact.Int(1)})
	}
	p := solve(t, l)
	assert.InDelta(t, 5+9*20+10, p.Finish, 1e-9)
	assert.InDelta(t, p.Finish, p.LowerBound, 1e-9)

	// With one adult who must watch every mixing, the mixing is the queue for
	// two ovens of six shelves: 9 × 5, then a bake, then the icing.
	l.Dishes[0].Steps[0].Adult = fit.Watches
	l.Equipment[0].Units = []fit.Unit{{Name: "Oven 1", Places: 6}, {Name: "Oven 2", Places: 6}}
	p = solve(t, l)
	assert.InDelta(t, 9*5+20+10, p.Finish, 1e-9)
	assert.InDelta(t, p.Finish, p.LowerBound, 1e-9)

	// One cook does all the work of a bench, in whatever order: two steps of
	// 30 before the last one make an hour, though each could begin at once.
	l.Groups = l.Groups[:1]
	l.Dishes[0].Steps = []fit.Step{
		{ID: "peel", Kind: fit.Prepare, Work: exact.Int(30), Cooks: 1, Adult: fit.NoAdult},
		{ID: "chop", Kind: fit.Cut, Work: exact.Int(30), Cooks: 1, Adult: fit.NoAdult},
		{ID: "join", Kind: fit.Mix, Work: exact.Int(10), Wait: exact.Int(15), Cooks: 1, Adult: fit.NoAdult,
			After: []fit.After{{Step: "peel"}, {Step: "chop", MinGap: exact.Int(2)}}},
	}
	p = solve(t, l)
	assert.InDelta(t, 30+30+10+15, p.Finish, 1e-9, "chopping first hides its gap behind the peeling")
	assert.InDelta(t, p.Finish, p.LowerBound, 1e-9)
}

// BenchmarkClasses reports how far above the bound the plans of twenty
// classes end, on average and at most, in percent.
func BenchmarkClasses(b *testing.B) {
	lessons := make([]fit.Lesson, 20)
	for i := range lessons {
		lessons[i] = class(uint64(i))
	}
	var sum, worst, finish float64
	for b.Loop() {
		sum, worst, finish = 0, 0, 0
		for _, l := range lessons {
			p, err := fit.Solve(l, fit.Options{Runs: 1})
			require.NoError(b, err)
			gap := 100 * (p.Finish/p.LowerBound - 1)
			sum += gap
			finish += p.Finish
			worst = max(worst, gap)
		}
	}
	b.ReportMetric(finish/float64(len(lessons)), "mean_minutes")
	b.ReportMetric(sum/float64(len(lessons)), "mean_gap_%")
	b.ReportMetric(worst, "worst_gap_%")
	b.ReportMetric(float64(b.Elapsed().Milliseconds())/float64(b.N*len(lessons)), "ms/lesson")
}
