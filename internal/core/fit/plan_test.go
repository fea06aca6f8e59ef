package fit_test

import (
	"fmt"
	"math"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"freshapron/internal/core/exact"
	"freshapron/internal/core/fit"
	"freshapron/internal/core/fit/verify"
)

func mins(s string) exact.Number { return exact.MustParse(s) }

func gap(s string) *exact.Number { n := mins(s); return &n }

func celsius(n int64) *exact.Number { c := exact.Int(n); return &c }

// tartlets is the lesson that docs/formats describes: two ovens of two
// shelves, a fixed stop in the middle, benches of two cooks.
func tartlets(benches int) fit.Lesson {
	l := fit.Lesson{
		Title: "Leek tartlets with 8 Hazel", Start: 10*60 + 5, End: 11*60 + 10,
		Phases: []fit.Phase{
			{Name: "Hands, hair, aprons", Minutes: mins("5"), Place: fit.AtStart},
			{Name: "Demonstration", Minutes: mins("8"), Place: fit.AtStart},
			{Name: "Stop and look", Minutes: mins("2"), Place: fit.AtMinute, Minute: mins("35")},
			{Name: "Clear down", Minutes: mins("7"), Place: fit.AtEnd},
			{Name: "Taste and review", Minutes: mins("5"), Place: fit.AtEnd},
		},
		Adults: 2,
		Equipment: []fit.Equipment{
			{ID: "oven", Units: []fit.Unit{{Name: "Oven 1", Places: 2}, {Name: "Oven 2", Places: 2}},
				Temperature: true, Preheat: mins("12"), Reheat: mins("5")},
		},
		Dishes: []fit.Dish{{ID: "tartlets", Title: "Leek tartlets", Steps: []fit.Step{
			{ID: "weigh", Title: "Weigh out", Kind: fit.Weigh, Work: mins("5"), Cooks: 1, Shareable: true, Adult: fit.NoAdult},
			{ID: "rub", Title: "Rub in", Kind: fit.Mix, Work: mins("6"), Cooks: 1, Adult: fit.NoAdult, After: []fit.After{{Step: "weigh"}}},
			{ID: "fill", Title: "Line, fill", Kind: fit.Shape, Work: mins("8"), Cooks: 1, Adult: fit.NoAdult, After: []fit.After{{Step: "rub", MaxGap: gap("15")}}},
			{ID: "bake", Title: "Bake", Kind: fit.Bake, Work: mins("1"), Wait: mins("18"), Cooks: 1, Adult: fit.Watches,
				After: []fit.After{{Step: "fill", MaxGap: gap("5")}},
				Uses:  []fit.Use{{Equipment: "oven", Places: 1, Temperature: celsius(190), During: fit.WaitPart}}},
		}}},
	}
	for i := range benches {
		l.Groups = append(l.Groups, fit.Group{ID: fmt.Sprintf("g%d", i+1), Name: fmt.Sprintf("Bench %d", i+1), Cooks: 2, Pace: exact.Int(1)})
	}
	return l
}

func solve(t require.TestingT, l fit.Lesson) *fit.Plan {
	p, err := fit.Solve(l, fit.Options{Runs: 200, Budget: 20})
	require.NoError(t, err)
	require.Empty(t, verify.Plan(l, p))
	return p
}

// One bench: 13 min of phases, 5 min of weighing shared by two cooks take
// 5/1.8 = 2:47, 6 + 8 min of work that would meet the stop at 35 only if it
// began after 18:13, 1 min to the oven, 18 min in it.
func TestOneBench(t *testing.T) {
	p := solve(t, tartlets(1))
	assert.InDelta(t, 13+167.0/60+6+8+1+18, p.Finish, 1e-9)
	assert.InDelta(t, p.Finish, p.LowerBound, 1e-9, "the critical path is the bound")
	assert.InDelta(t, 53, p.Deadline, 1e-9)
	assert.True(t, p.Fits)
	assert.InDelta(t, 53-p.Finish, p.Slack, 1e-9)
	for _, s := range p.Groups[0].Steps {
		want := s.Start + p.Slack
		switch s.Step {
		case "bake": // a quarter of an hour more would be fine for the bell, but not for its max_gap of 5
			want = s.Start + min(p.Slack, 5)
		case "fill":
			want = 27 // it would meet the stop at 35, so it ends at 35 at the latest
		case "rub":
			want = min(27-6, s.Start+p.Slack)
		case "weigh":
			want = min(27-6-167.0/60, s.Start+p.Slack)
		}
		assert.InDelta(t, min(want, s.Start+p.Slack), s.LatestStart, 1.0/60+1e-9, s.Step)
	}
}

// Four places at 19 minutes each: the fifth bench waits for a shelf.
func TestQueueAtTheOven(t *testing.T) {
	p := solve(t, tartlets(5))
	assert.False(t, p.Fits)
	last := 0.0
	waited := 0
	for _, g := range p.Groups {
		for _, s := range g.Steps {
			if s.Step == "bake" && s.Held.For == "oven" {
				waited++
			}
		}
		last = math.Max(last, g.Finish)
	}
	assert.Equal(t, 1, waited, "four trays go in at once and one waits")
	assert.InDelta(t, 13+167.0/60+6+8+1+18+18, last, 1.01, "one bake after another")
	assert.InDelta(t, last-53, p.Overrun, 1e-9)
}

func TestSameInputSamePlan(t *testing.T) {
	l := tartlets(7)
	assert.Equal(t, solve(t, l), solve(t, l))
}

func TestConflictNamesTheRules(t *testing.T) {
	l := tartlets(2)
	l.Groups[0].Cooks = 1
	steps := &l.Dishes[0].Steps
	*steps = []fit.Step{
		{ID: "whisk", Kind: fit.Mix, Work: mins("4"), Cooks: 1, Adult: fit.NoAdult},
		{ID: "fold", Kind: fit.Mix, Work: mins("3"), Cooks: 1, Adult: fit.NoAdult, After: []fit.After{{Step: "whisk", MaxGap: gap("1")}}},
		{ID: "line", Kind: fit.Shape, Work: mins("3"), Cooks: 1, Adult: fit.NoAdult, After: []fit.After{{Step: "whisk", MaxGap: gap("2")}}},
		{ID: "tidy", Kind: fit.Clean, Work: mins("1"), Cooks: 1, Adult: fit.NoAdult, After: []fit.After{{Step: "whisk", MaxGap: gap("60")}}},
	}
	p := solve(t, l)
	require.Len(t, p.Conflicts, 1)
	assert.Equal(t, []string{"g1"}, p.Conflicts[0].Groups, "two cooks can do both at once")
	assert.Equal(t, []string{"dishes[0].steps[1].after[0].max_gap", "dishes[0].steps[2].after[0].max_gap"},
		[]string{p.Conflicts[0].Rules[0].Path, p.Conflicts[0].Rules[1].Path})
	require.Len(t, p.Groups, 1, "the other group is planned all the same")
}

// Four cooks make nine dishes that nothing ties together, for which no plan
// is found at a glance when all of it is looked at at once.
func TestManyDishesForOneBench(t *testing.T) {
	l := tartlets(1)
	l.Groups[0].Cooks = 4
	l.Dishes = nil
	for d := range int64(9) {
		id := fmt.Sprintf("d%d", d)
		at := func(s string) string { return id + s }
		shared := step(at("weigh"), fit.Weigh, exact.Int(5), exact.Int(0))
		shared.Shareable = true
		bake := step(at("bake"), fit.Bake, exact.Frac(1, 2), exact.Int(12+d), soon(at("fill"), exact.Int(5)))
		bake.Uses = []fit.Use{{Equipment: "oven", Places: 1, Temperature: celsius(180 + 10*(d%3)), During: fit.WaitPart}}
		wash := step(at("wash"), fit.Clean, exact.Int(6), exact.Int(0), then(at("fill")))
		wash.Shareable = true
		l.Dishes = append(l.Dishes, fit.Dish{ID: id, Steps: []fit.Step{
			shared,
			step(at("rub"), fit.Mix, exact.Int(6), exact.Int(0), then(at("weigh"))),
			step(at("chill"), fit.Mix, exact.Int(1), exact.Int(8), soon(at("rub"), exact.Int(10))),
			step(at("slice"), fit.Cut, exact.Int(4+d%3), exact.Int(0), then(at("weigh"))),
			step(at("fill"), fit.Shape, exact.Int(5), exact.Int(0), soon(at("chill"), exact.Int(15)), then(at("slice"))),
			bake, wash,
		}})
	}
	p := solve(t, l)
	assert.Empty(t, p.Conflicts)
	assert.Len(t, p.Groups, 1)

	l.Dishes[4].Steps[4].After[1].MaxGap = gap("1")
	l.Dishes[4].Steps[4].After[0].MaxGap = gap("0")
	l.Dishes[4].Steps[3].Work = exact.Int(20)
	l.Dishes[4].Steps[2].After = append(l.Dishes[4].Steps[2].After, soon("d4weigh", exact.Int(7)))
	p, err := fit.Solve(l, fit.Options{Runs: 200, Budget: 20})
	require.NoError(t, err)
	require.Len(t, p.Conflicts, 1)
	for _, r := range p.Conflicts[0].Rules {
		assert.Equal(t, "d4", r.Dish)
	}
	assert.Contains(t, p.Conflicts[0].Says, "no plan of any length", "what contradicts itself in one of nine is certain")
}

// One step of an hour with one cook: its length is a lognormal times two
// factors, of which the step's spread is shared out to two, so ln(length) is
// normal with variance ln(1+s²) summed over the four, and the share on time is
// the normal tail.
func TestRiskOfOneStep(t *testing.T) {
	l := tartlets(1)
	l.Phases = nil
	spread := 0.3
	l.Dishes[0].Steps = []fit.Step{{ID: "knead", Kind: fit.Mix, Work: mins("60"), Cooks: 1, Adult: fit.NoAdult, Spread: &spread}}
	p, err := fit.Solve(l, fit.Options{Runs: 40000})
	require.NoError(t, err)
	v := 2*math.Log1p(0.3*0.3/2) + math.Log1p(0.15*0.15) + math.Log1p(0.10*0.10)
	z := (math.Log(65.0/60) + v/2) / math.Sqrt(v)
	want := 0.5 * (1 + math.Erf(z/math.Sqrt2))
	assert.InDelta(t, want, p.Risk.AllOnTime, 0.01)
	assert.InDelta(t, 60*math.Exp(-v/2), p.Risk.Groups[0].P50, 0.5)
	require.NotEmpty(t, p.Risk.Causes)
	assert.Equal(t, fit.Cause{Kind: "step", Dish: "tartlets", ID: "knead", Share: 1}, p.Risk.Causes[0])
}

// Two trays, one shelf, no hands: the second ends after U·(X1 + X2), all
// lognormal with mean 1 and half of the variance w² of a bake, U that of the
// oven: E = 60 and E T² = 30²·(1+w²/2)·(2·(1+w²/2) + 2).
func TestRiskOfAQueue(t *testing.T) {
	l := tartlets(2)
	l.Phases = nil
	l.Equipment[0].Units = []fit.Unit{{Name: "Oven", Places: 1}}
	l.Equipment[0].Preheat = exact.Number{}
	l.Dishes[0].Steps = []fit.Step{{ID: "bake", Kind: fit.Bake, Wait: mins("30"), Cooks: 1, Adult: fit.NoAdult,
		Uses: []fit.Use{{Equipment: "oven", Places: 1, Temperature: celsius(180), During: fit.WaitPart}}}}
	p, err := fit.Solve(l, fit.Options{Runs: 20000})
	require.NoError(t, err)
	sum := 0.0
	for _, f := range p.Risk.Finishes {
		sum += f
	}
	assert.InDelta(t, 60, sum/20000, 0.1)
	assert.InDelta(t, 60, p.Finish, 1e-9)
	half := 1 + 0.08*0.08/2
	sd := math.Sqrt(900*half*(2*half+2) - 3600)
	assert.InDelta(t, normal(5/sd), p.Risk.AllOnTime, 0.01, "the deadline of 65 lies 5 over the mean")
	assert.Equal(t, "step", p.Risk.Causes[0].Kind, "had both trays taken 30 minutes")
	assert.InDelta(t, 1, p.Risk.Causes[0].Share, 1e-9)
	assert.Equal(t, "oven", p.Risk.Causes[1].ID, "had it been free after 30, most second trays had been out by 65")
	assert.Greater(t, p.Risk.Causes[1].Share, 0.7)
	assert.Less(t, p.Risk.Causes[1].Share, 1.0)
}

// What bakes may bake while the class clears down, where the phase says so;
// what comes after it is work again.
func TestWaitsGoOnInAnEndPhase(t *testing.T) {
	l := fit.Lesson{
		Start: 0, End: 60, Groups: []fit.Group{{ID: "g", Cooks: 1, Pace: mins("1")}},
		Phases: []fit.Phase{{Name: "Clear", Minutes: mins("10"), Place: fit.AtEnd, Waits: true}, {Name: "Taste", Minutes: mins("5"), Place: fit.AtEnd}},
		Dishes: []fit.Dish{{ID: "d", Steps: []fit.Step{
			{ID: "mix", Kind: fit.Mix, Work: mins("30"), Cooks: 1, Adult: fit.NoAdult},
			{ID: "bake", Kind: fit.Bake, Work: mins("1"), Wait: mins("22"), Cooks: 1, Adult: fit.NoAdult, After: []fit.After{{Step: "mix"}}},
		}}},
	}
	p := solve(t, l)
	assert.True(t, p.Fits)
	assert.InDelta(t, 45, p.Deadline, 1e-9)
	assert.InDelta(t, 55, p.WaitsUntil, 1e-9)
	assert.InDelta(t, 53, p.Finish, 1e-9)
	assert.InDelta(t, 2, p.Slack, 1e-9, "of 53 before 55; work is over at 31")
	assert.InDelta(t, 32, p.Groups[0].Steps[1].LatestStart, 1e-9)
	assert.Greater(t, p.Risk.AllOnTime, 0.3)

	l.Dishes[0].Steps = append(l.Dishes[0].Steps, fit.Step{ID: "cool", Kind: fit.Cool, Work: mins("1"), Cooks: 1, Adult: fit.NoAdult, After: []fit.After{{Step: "bake"}}})
	p = solve(t, l)
	assert.False(t, p.Fits)
	assert.InDelta(t, 9, p.Overrun, 1e-9, "work until 54, and 45 is the deadline")

	l.Phases[0].Waits, l.Phases[1].Waits = false, true
	p = solve(t, l)
	assert.InDelta(t, 45, p.WaitsUntil, 1e-9, "the first end phase lets nothing go on")
	l.Phases[0].Place = fit.AtStart
	l.Phases[0].Waits = true
	assert.ErrorContains(t, l.Check(), "only a phase at the end")
}

// One steamer: what is done first there ends the lesson sooner if it is the
// buns, which then set by themselves for long, and ends the work in time if it
// is the leaves, which are still to be dressed.
func TestWorkInTimeComesBeforeAnEarlyEnd(t *testing.T) {
	steam := []fit.Use{{Equipment: "steamer", Places: 1, During: fit.WaitPart}}
	l := fit.Lesson{
		Start: 0, End: 65, Groups: []fit.Group{{ID: "g", Cooks: 1, Pace: mins("1")}},
		Phases:    []fit.Phase{{Name: "Clear", Minutes: mins("40"), Place: fit.AtEnd, Waits: true}},
		Equipment: []fit.Equipment{{ID: "steamer", Units: []fit.Unit{{Name: "Steamer", Places: 1}}}},
		Dishes: []fit.Dish{{ID: "d", Steps: []fit.Step{
			{ID: "leaves", Kind: fit.Cook, Wait: mins("20"), Cooks: 1, Adult: fit.NoAdult, Uses: steam},
			{ID: "dress", Kind: fit.Mix, Work: mins("2"), Cooks: 1, Adult: fit.NoAdult, After: []fit.After{{Step: "leaves"}}},
			{ID: "buns", Kind: fit.Cook, Wait: mins("10"), Cooks: 1, Adult: fit.NoAdult, Uses: steam},
			{ID: "set", Kind: fit.Rest, Wait: mins("30"), Cooks: 1, Adult: fit.NoAdult, After: []fit.After{{Step: "buns"}}},
		}}},
	}
	p := solve(t, l)
	assert.True(t, p.Fits)
	assert.InDelta(t, 60, p.Finish, 1e-9, "20 for the leaves, 10 for the buns, 30 to set")
	assert.InDelta(t, 3, p.Slack, 1e-9, "dressed at 22 of 25")

	l.Phases[0].Waits = false
	p = solve(t, l)
	assert.InDelta(t, 40, p.Finish, 1e-9, "where all must have ended the buns go first")
}

// randomLesson draws a lesson of any shape that Check lets through.
func randomLesson(t *rapid.T) fit.Lesson {
	pick := func(n int, label string) int { return rapid.IntRange(0, n-1).Draw(t, label) }
	length := func(most int64, label string) exact.Number {
		return exact.Frac(rapid.Int64Range(0, most*3).Draw(t, label), 3)
	}
	l := fit.Lesson{Start: 9 * 60, End: 9*60 + 70, Adults: 1 + pick(2, "adults")}
	for i := range pick(4, "phases") {
		p := fit.Phase{Name: fmt.Sprint(i), Minutes: length(8, "phase"), Place: fit.Place(pick(2, "place"))}
		p.Waits = p.Place == fit.AtEnd && pick(2, "lets waits go on") == 0
		l.Phases = append(l.Phases, p)
	}
	if pick(2, "stop") == 0 {
		l.Phases = append(l.Phases, fit.Phase{Name: "stop", Minutes: mins("2"), Place: fit.AtMinute, Minute: mins("25")})
	}
	l.Equipment = []fit.Equipment{
		{ID: "oven", Temperature: true, Preheat: length(10, "preheat"), Reheat: length(5, "reheat")},
		{ID: "ring", PerStation: true, Units: []fit.Unit{{Name: "ring 1", Places: 1}, {Name: "ring 2", Places: 1}}},
		{ID: "blender", Units: []fit.Unit{{Name: "blender 1", Places: 1}}},
	}
	for i := range 1 + pick(3, "ovens") {
		l.Equipment[0].Units = append(l.Equipment[0].Units, fit.Unit{Name: fmt.Sprintf("Oven %d", i+1), Places: 1 + pick(2, "shelves")})
	}
	for d := range 1 + pick(2, "dishes") {
		dish := fit.Dish{ID: fmt.Sprintf("d%d", d)}
		for i := range 2 + pick(6, "steps") {
			s := fit.Step{ID: fmt.Sprintf("s%d", i), Kind: fit.Kinds[pick(len(fit.Kinds), "kind")], Cooks: 1, Adult: fit.NoAdult,
				Work: length(9, "work"), KeepShut: pick(4, "shut") == 0, Shareable: pick(3, "share") == 0}
			switch pick(6, "adult") {
			case 0:
				s.Adult, s.Cooks, s.Shareable = fit.Does, 0, false
			case 1:
				s.Adult = fit.Watches
			}
			if pick(2, "waits") == 0 {
				s.Wait = length(15, "wait")
			}
			if pick(6, "loads") == 0 {
				s.Pieces, s.PerLoad, s.Load = 1+pick(7, "pieces"), 1+pick(3, "per load"), length(3, "load")
			}
			switch pick(5, "uses") {
			case 0, 1:
				s.Uses = append(s.Uses, fit.Use{Equipment: "oven", Places: 1, Temperature: celsius(180 + 10*int64(pick(2, "°C"))),
					During: []fit.Part{fit.WaitPart, fit.WaitPart, fit.WholeStep}[pick(3, "during")]})
			case 2:
				s.Uses = append(s.Uses, fit.Use{Equipment: "ring", Places: 1, During: fit.WholeStep})
			case 3:
				s.Uses = append(s.Uses, fit.Use{Equipment: "blender", Places: 1, During: fit.WorkPart})
			}
			if i > 0 && pick(4, "after") > 0 {
				a := fit.After{Step: fmt.Sprintf("s%d", pick(i, "which")), MinGap: length(2, "min gap")}
				if pick(3, "max gap") == 0 {
					most := a.MinGap.Add(length(10, "more"))
					a.MaxGap = &most
				}
				s.After = append(s.After, a)
			}
			if d > 0 && i == 0 && pick(2, "across") == 0 {
				for range 1 + pick(2, "twice") {
					s.After = append(s.After, fit.After{Dish: "d0", Step: "s1", MinGap: length(2, "across gap")})
				}
			}
			dish.Steps = append(dish.Steps, s)
		}
		l.Dishes = append(l.Dishes, dish)
	}
	for g := range 1 + pick(5, "groups") {
		group := fit.Group{ID: fmt.Sprintf("g%d", g), Cooks: 1 + pick(3, "cooks"), Pace: exact.Frac(int64(4+pick(3, "pace")), 5)}
		if pick(3, "choice") == 0 {
			group.Dishes = []string{"d0"}
		}
		for range pick(4, "pinned") / 2 {
			group.Pins = append(group.Pins, randomPin(t, l))
		}
		l.Groups = append(l.Groups, group)
	}
	for range pick(3, "away") / 2 {
		l.Away = append(l.Away, fit.Away{Adults: 1, From: length(40, "away from"), Minutes: length(20, "away for")})
	}
	return l
}

// anyLesson draws a lesson that is in order.
var anyLesson = rapid.Custom(randomLesson).Filter(inOrder)

func inOrder(l fit.Lesson) bool { return l.Check() == nil }

// randomPin pins a step of the first dish: to a moment, by a moment, or to
// the last unit of what it uses first.
func randomPin(t *rapid.T, l fit.Lesson) fit.Pin {
	step := rapid.SampledFrom(l.Dishes[0].Steps).Draw(t, "pinned step")
	pin := fit.Pin{Dish: "d0", Step: step.ID}
	at := exact.Frac(rapid.Int64Range(0, 150).Draw(t, "pinned to"), 3)
	if kind := rapid.IntRange(0, 3).Draw(t, "pin"); kind > 0 {
		pin.NotBefore = &at
		if kind == 2 {
			pin.BeginBy = &at
		}
	} else {
		pin.BeginBy = &at
	}
	for _, u := range step.Uses {
		for _, e := range l.Equipment {
			if e.ID == u.Equipment && rapid.Bool().Draw(t, "by name") {
				pin.Units = append(pin.Units, e.Units[len(e.Units)-1].Name)
			}
		}
	}
	return pin
}

// Every plan obeys all eight rules, finishes no sooner than its bound, and
// the last moments it names can be kept.
func TestEveryPlanIsValid(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		l := anyLesson.Draw(t, "lesson")
		p, err := fit.Solve(l, fit.Options{Runs: 20, Budget: 5})
		require.NoError(t, err)
		for _, fault := range verify.Plan(l, p) {
			t.Errorf("%s", fault)
		}
	})
}

func BenchmarkSolve(b *testing.B) {
	for _, benches := range []int{1, 12, 16} {
		b.Run(fmt.Sprintf("benches=%d", benches), func(b *testing.B) {
			l := tartlets(benches)
			for b.Loop() {
				if _, err := fit.Solve(l, fit.Options{}); err != nil {
					b.Fatal(err)
				}
			}
		})
	}
}

// A lesson in which everything waits for one adult takes the rules of thumb
// too long to build: it is planned all the same, and well.
func TestPlanningWithoutRulesOfThumb(t *testing.T) {
	l := tartlets(1)
	l.Phases, l.Adults, l.End = nil, 1, l.Start+900
	step := fit.Step{Kind: fit.Cook, Work: mins("1"), Cooks: 1, Adult: fit.Watches}
	var steps []fit.Step
	for i := range 20 {
		s := step
		s.ID = fmt.Sprintf("s%d", i)
		if i > 0 {
			s.After = []fit.After{{Step: fmt.Sprintf("s%d", i-1)}}
		}
		steps = append(steps, s)
	}
	l.Dishes[0].Steps = steps
	for i := range 29 {
		l.Groups = append(l.Groups, fit.Group{ID: fmt.Sprintf("h%d", i), Cooks: 1, Pace: exact.Int(1)})
	}
	l.Away = []fit.Away{{Adults: 1, From: exact.Int(5), Minutes: exact.Int(5)}}
	p, err := fit.Solve(l, fit.Options{Placements: 1, Runs: 10})
	require.NoError(t, err)
	assert.Empty(t, verify.Plan(l, p))
	p, err = fit.Solve(l, fit.Options{Budget: 50, Runs: 10})
	require.NoError(t, err)
	assert.Empty(t, verify.Plan(l, p))
	assert.LessOrEqual(t, p.Finish, 610.0, "one after another without a gap")
}
