package rescue_test

import (
	"fmt"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"freshapron/internal/core/exact"
	"freshapron/internal/core/fit"
	"freshapron/internal/core/fit/verify"
	"freshapron/internal/core/rescue"
)

func mins(s string) exact.Number { return exact.MustParse(s) }

func celsius(n int64) *exact.Number { c := exact.Int(n); return &c }

// class is a made-up lesson of eight benches: plaited loaves whose dough can
// be kept, at 220 °C, and a tray of roast pears at 190 °C, in three ovens.
func class() fit.Lesson {
	within := mins("10")
	l := fit.Lesson{
		Title: "Loaves and pears", Start: 9 * 60, End: 10*60 + 15, Adults: 1,
		Phases: []fit.Phase{
			{Name: "Hands and aprons", Minutes: mins("4"), Place: fit.AtStart},
			{Name: "Demonstration", Minutes: mins("9"), Place: fit.AtStart},
			{Name: "Clear down", Minutes: mins("7"), Place: fit.AtEnd},
		},
		Equipment: []fit.Equipment{{ID: "oven", Temperature: true, Preheat: mins("12"), Reheat: mins("5"), Units: []fit.Unit{
			{Name: "Oven 1", Places: 2}, {Name: "Oven 2", Places: 2}, {Name: "Oven 3", Places: 2}}}},
		Dishes: []fit.Dish{
			{ID: "loaf", Title: "Plaited loaf", Ingredients: []fit.Ingredient{{Name: "flour", PartOf: "dough"}}, Steps: []fit.Step{
				{ID: "weigh", Title: "Weigh", Kind: fit.Weigh, Work: mins("5"), Cooks: 1, Adult: fit.NoAdult},
				{ID: "knead", Title: "Knead the dough", Kind: fit.Mix, Work: mins("8"), Cooks: 1, Adult: fit.NoAdult, After: []fit.After{{Step: "weigh"}}},
				{ID: "prove", Title: "Prove", Kind: fit.Rest, Wait: mins("20"), Cooks: 1, Adult: fit.NoAdult, After: []fit.After{{Step: "knead"}},
					Hold: &fit.Hold{Where: "fridge", MaxMinutes: mins("1440")}},
				{ID: "plait", Title: "Plait", Kind: fit.Shape, Work: mins("6"), Cooks: 1, Adult: fit.NoAdult, After: []fit.After{{Step: "prove", MaxGap: &within}}},
				{ID: "bake", Title: "Bake", Kind: fit.Bake, Work: mins("1"), Wait: mins("20"), Cooks: 1, Adult: fit.NoAdult, After: []fit.After{{Step: "plait"}},
					Uses: []fit.Use{{Equipment: "oven", Places: 1, Temperature: celsius(220), During: fit.WaitPart}}},
				{ID: "cool", Title: "Cool", Kind: fit.Cool, Work: mins("1"), Wait: mins("4"), Cooks: 1, Adult: fit.NoAdult, After: []fit.After{{Step: "bake"}}},
			}},
			{ID: "pears", Title: "Roast pears", Steps: []fit.Step{
				{ID: "halve", Title: "Halve", Kind: fit.Cut, Work: mins("5"), Cooks: 1, Adult: fit.NoAdult},
				{ID: "glaze", Title: "Glaze, if there is time", Kind: fit.Prepare, Work: mins("3"), Cooks: 1, Adult: fit.NoAdult, After: []fit.After{{Step: "halve"}}},
				{ID: "roast", Title: "Roast", Kind: fit.Bake, Work: mins("1"), Wait: mins("15"), Cooks: 1, Adult: fit.Watches, After: []fit.After{{Step: "glaze"}},
					Uses: []fit.Use{{Equipment: "oven", Places: 1, Temperature: celsius(190), During: fit.WaitPart}}},
			}},
		},
	}
	for i := range 8 {
		g := fit.Group{ID: fmt.Sprintf("g%d", i+1), Name: fmt.Sprintf("Bench %d", i+1), Cooks: 2, Pace: exact.Int(1), Dishes: []string{"loaf"}}
		if i >= 5 {
			g.Dishes = []string{"pears"}
		}
		l.Groups = append(l.Groups, g)
	}
	return l
}

func plan(t require.TestingT, l fit.Lesson) *fit.Plan {
	p, err := fit.Solve(l, fit.Options{Budget: 10, Runs: 100})
	require.NoError(t, err)
	require.Empty(t, verify.Plan(l, p))
	return p
}

func ids(d fit.Dish) []string {
	var out []string
	for _, s := range d.Steps {
		out = append(out, s.ID)
	}
	return out
}

func TestApply(t *testing.T) {
	for name, c := range map[string]struct {
		change rescue.Change
		check  func(t *testing.T, l fit.Lesson)
	}{
		"not before": {rescue.Change{Kind: rescue.NotBefore, Group: "g2", Dish: "loaf", Step: "knead", At: mins("25")},
			func(t *testing.T, l fit.Lesson) { assert.Equal(t, "25", l.Groups[1].Pins[0].NotBefore.String()) }},
		"pinned": {rescue.Change{Kind: rescue.PinAt, Group: "g2", Step: "knead", At: mins("25")},
			func(t *testing.T, l fit.Lesson) {
				assert.Equal(t, "25", l.Groups[1].Pins[0].NotBefore.String())
				assert.Equal(t, "25", l.Groups[1].Pins[0].BeginBy.String())
			}},
		"an oven of its own": {rescue.Change{Kind: rescue.InUnit, Group: "g1", Dish: "loaf", Step: "bake", Unit: "Oven 3"},
			func(t *testing.T, l fit.Lesson) { assert.Equal(t, []string{"Oven 3"}, l.Groups[0].Pins[0].Units) }},
		"cutting between them": {rescue.Change{Kind: rescue.Share, Dish: "pears", Step: "halve"},
			func(t *testing.T, l fit.Lesson) { assert.True(t, l.Dishes[1].Steps[0].Shareable) }},
		"an oven less": {rescue.Change{Kind: rescue.UnitOut, Equipment: "oven", Unit: "Oven 2"},
			func(t *testing.T, l fit.Lesson) { assert.Len(t, l.Equipment[0].Units, 2) }},
		"an oven more": {rescue.Change{Kind: rescue.OneMore, Equipment: "oven"},
			func(t *testing.T, l fit.Lesson) {
				assert.Equal(t, fit.Unit{Name: "another oven", Places: 2}, l.Equipment[0].Units[3])
			}},
		"an adult out": {rescue.Change{Kind: rescue.AdultOut, At: mins("20"), Minutes: mins("10")},
			func(t *testing.T, l fit.Lesson) { assert.Equal(t, 1, l.Away[0].Adults) }},
		"an adult more": {rescue.Change{Kind: rescue.OneAdult}, func(t *testing.T, l fit.Lesson) { assert.Equal(t, 2, l.Adults) }},
		"minutes":       {rescue.Change{Kind: rescue.Wait, Dish: "loaf", Step: "bake", Minutes: mins("25")}, func(t *testing.T, l fit.Lesson) { assert.Equal(t, "25", l.Dishes[0].Steps[4].Wait.String()) }},
		"pace":          {rescue.Change{Kind: rescue.Pace, Minutes: mins("1.2")}, func(t *testing.T, l fit.Lesson) { assert.Equal(t, "6/5", l.Groups[7].Pace.String()) }},
		"cooks":         {rescue.Change{Kind: rescue.Cooks, Group: "g3", Number: 1}, func(t *testing.T, l fit.Lesson) { assert.Equal(t, 1, l.Groups[2].Cooks) }},
		"weighed":       {rescue.Change{Kind: rescue.Preweigh}, func(t *testing.T, l fit.Lesson) { assert.Equal(t, "1", l.Dishes[0].Steps[0].Work.String()) }},
		"ready-made": {rescue.Change{Kind: rescue.ReadyMade, Dish: "loaf", Step: "prove"},
			func(t *testing.T, l fit.Lesson) {
				assert.Equal(t, []string{"plait", "bake", "cool"}, ids(l.Dishes[0]))
				assert.Empty(t, l.Dishes[0].Steps[0].After)
			}},
		"no demonstration": {rescue.Change{Kind: rescue.DemoBefore}, func(t *testing.T, l fit.Lesson) { assert.Len(t, l.Phases, 2) }},
		"in pieces": {rescue.Change{Kind: rescue.DemoInPieces, At: mins("30")},
			func(t *testing.T, l fit.Lesson) {
				assert.Equal(t, "5", l.Phases[1].Minutes.String())
				assert.Equal(t, fit.Phase{Name: "Demonstration, second piece", Minutes: mins("4"), Place: fit.AtMinute, Minute: mins("30")}, l.Phases[3])
			}},
		"threes":     {rescue.Change{Kind: rescue.Hands, Number: 3}, func(t *testing.T, l fit.Lesson) { assert.Len(t, l.Groups, 5); assert.Equal(t, 4, l.Groups[0].Cooks) }},
		"thinner":    {rescue.Change{Kind: rescue.Smaller, Dish: "loaf", Step: "bake"}, func(t *testing.T, l fit.Lesson) { assert.Equal(t, "15", l.Dishes[0].Steps[4].Wait.String()) }},
		"hot before": {rescue.Change{Kind: rescue.HotBefore, Equipment: "oven"}, func(t *testing.T, l fit.Lesson) { assert.Equal(t, 0, l.Equipment[0].Preheat.Sign()) }},
		"staggered":  {rescue.Change{Kind: rescue.Stagger, Minutes: mins("6")}, func(t *testing.T, l fit.Lesson) { assert.Equal(t, "19", l.Groups[1].Pins[0].NotBefore.String()) }},
		"after the bell": {rescue.Change{Kind: rescue.FinishAfter, Dish: "loaf", Step: "bake"},
			func(t *testing.T, l fit.Lesson) {
				assert.Equal(t, []string{"weigh", "knead", "prove", "plait", "bake"}, ids(l.Dishes[0]))
				assert.Equal(t, 0, l.Dishes[0].Steps[4].Wait.Sign())
			}},
		"first half": {rescue.Change{Kind: rescue.TwoLessons, Dish: "loaf", Step: "prove", Number: 1}, func(t *testing.T, l fit.Lesson) {
			assert.Equal(t, []string{"weigh", "knead", "prove"}, ids(l.Dishes[0]))
		}},
		"second half": {rescue.Change{Kind: rescue.TwoLessons, Dish: "loaf", Step: "prove", Number: 2}, func(t *testing.T, l fit.Lesson) { assert.Equal(t, []string{"plait", "bake", "cool"}, ids(l.Dishes[0])) }},
		"left out": {rescue.Change{Kind: rescue.LeaveOut, Dish: "pears", Step: "glaze"},
			func(t *testing.T, l fit.Lesson) {
				assert.Equal(t, []string{"halve", "roast"}, ids(l.Dishes[1]))
				assert.Equal(t, "halve", l.Dishes[1].Steps[1].After[0].Step)
			}},
		// Both are the same at 205 °C: the loaf longer, the pears shorter.
		"one temperature": {rescue.Change{Kind: rescue.OneTemperature, Equipment: "oven"},
			func(t *testing.T, l fit.Lesson) {
				bake, roast := l.Dishes[0].Steps[4], l.Dishes[1].Steps[2]
				assert.Equal(t, "205", bake.Uses[0].Temperature.String())
				assert.Equal(t, "205", roast.Uses[0].Temperature.String())
				assert.Equal(t, 1, bake.Wait.Cmp(mins("20")))
				assert.Equal(t, -1, roast.Wait.Cmp(mins("15")))
			}},
	} {
		t.Run(name, func(t *testing.T) {
			l, before := class(), class()
			changed, err := rescue.Apply(l, c.change)
			require.NoError(t, err)
			require.NoError(t, changed.Check())
			c.check(t, changed)
			assert.Equal(t, before, l, "the lesson itself stays as it was")
			plan(t, changed)
			assert.NotEqual(t, string(c.change.Kind), c.change.Says(l))
		})
	}
}

func TestWhatCannotBeApplied(t *testing.T) {
	for want, c := range map[string]rescue.Change{
		"no bench “g9”":             {Kind: rescue.NotBefore, Group: "g9", Step: "knead"},
		"Bench 6 makes nothing":     {Kind: rescue.BeginBy, Group: "g6", Step: "knead"},
		"no Oven 9 to be in":        {Kind: rescue.InUnit, Group: "g1", Step: "bake", Unit: "Oven 9"},
		"no Oven 9 in this room":    {Kind: rescue.UnitOut, Equipment: "oven", Unit: "Oven 9"},
		"2 adults can’t go out":     {Kind: rescue.AdultOut, Number: 2},
		"no dish of this lesson":    {Kind: rescue.Work, Step: "ice"},
		"can’t be in groups of 40":  {Kind: rescue.Hands, Number: 40},
		"is no cutting":             {Kind: rescue.Share, Step: "knead"},
		"need 16 places":            {Kind: rescue.Hands, Number: 1},
		"no blender in this room":   {Kind: rescue.OneMore, Equipment: "blender"},
		"can’t be changed so: tune": {Kind: "tune"},
	} {
		_, err := rescue.Apply(class(), c)
		assert.ErrorContains(t, err, want)
	}
	l := class()
	l.Equipment[0].Units = l.Equipment[0].Units[:1]
	_, err := rescue.Apply(l, rescue.Change{Kind: rescue.UnitOut, Equipment: "oven", Unit: "Oven 1"})
	assert.ErrorContains(t, err, "the only one there is")
}

// A later word on a step's moment counts where the two exclude each other.
func TestPinsAboutOneStep(t *testing.T) {
	by := rescue.Change{Kind: rescue.BeginBy, Group: "g1", Step: "knead", At: mins("20")}
	from := rescue.Change{Kind: rescue.NotBefore, Group: "g1", Step: "knead", At: mins("25")}
	l, err := rescue.Apply(class(), by, from)
	require.NoError(t, err)
	assert.Nil(t, l.Groups[0].Pins[0].BeginBy)
	l, err = rescue.Apply(class(), from, by)
	require.NoError(t, err)
	assert.Nil(t, l.Groups[0].Pins[0].NotBefore)
	from.At = mins("15")
	l, err = rescue.Apply(class(), from, by)
	require.NoError(t, err)
	assert.NotNil(t, l.Groups[0].Pins[0].NotBefore, "from 15 and by 20 go together")
	from.At = mins("20")
	l, err = rescue.Apply(class(), from, by)
	require.NoError(t, err)
	assert.NotNil(t, l.Groups[0].Pins[0].NotBefore, "so do both at 20")
}

// A later word on where a step is done takes the place of the one before, of the same equipment alone.
func TestUnitsOfOneStep(t *testing.T) {
	l := class()
	bake := &l.Dishes[0].Steps[4]
	bake.Uses = append(bake.Uses, fit.Use{Equipment: "probe", Places: 1, During: fit.WorkPart})
	l.Equipment = append(l.Equipment, fit.Equipment{ID: "probe", Units: []fit.Unit{{Name: "Probe 1", Places: 1}, {Name: "Probe 2", Places: 1}}})
	in := func(unit string) rescue.Change {
		return rescue.Change{Kind: rescue.InUnit, Group: "g1", Dish: "loaf", Step: "bake", Unit: unit}
	}
	l, err := rescue.Apply(l, in("Oven 3"), in("Probe 2"), in("Oven 2"))
	require.NoError(t, err)
	assert.Equal(t, []string{"Probe 2", "Oven 2"}, l.Groups[0].Pins[0].Units)
}

// Whoever is slow stays slow in a group of another size.
func TestEveryCookKeepsTheirPace(t *testing.T) {
	l := class()
	slow := len(l.Groups) - 1
	l.Groups[slow].Pace = mins("1.5")
	changed, err := rescue.Apply(l, rescue.Change{Kind: rescue.Hands, Number: 4})
	require.NoError(t, err)
	require.Len(t, changed.Groups, 4)
	assert.Equal(t, "1", changed.Groups[0].Pace.String())
	assert.Equal(t, "5/4", changed.Groups[3].Pace.String(), "two of four take half as long again")
}

func try(t *testing.T, l fit.Lesson) []rescue.Rescue {
	p, err := fit.Solve(l, fit.Options{Runs: 500})
	require.NoError(t, err)
	return rescue.Try(rescue.Trial{Lesson: l, Plan: p, Ways: rescue.Ways(l, p), Options: fit.Options{Runs: 500, Budget: 10}}).Rescues
}

// Every rescue is a lesson of its own with a valid plan, gains something, and
// the list goes from the surest to the least sure.
func TestTry(t *testing.T) {
	l := class()
	l.End = 9*60 + 70
	p, err := fit.Solve(l, fit.Options{Runs: 500})
	require.NoError(t, err)
	require.True(t, rescue.Needed(p))
	list := try(t, l)
	require.NotEmpty(t, list)
	kinds := map[rescue.Kind]bool{}
	last := 2.0
	for _, r := range list {
		assert.Empty(t, verify.Plan(r.Lesson, r.Plan), r.Title)
		if r.Second != nil {
			assert.Empty(t, verify.Plan(r.SecondLesson, r.Second), r.Title)
		}
		assert.NotEmpty(t, r.Costs, r.Title)
		assert.LessOrEqual(t, r.Done(), last)
		last = r.Done()
		assert.True(t, r.Finish() <= p.Finish-0.5 || r.Done() >= p.Risk.Benches.Mean/float64(p.Risk.Benches.All)+0.02, r.Title)
		kinds[r.Changes[0].Kind] = true
	}
	for _, k := range []rescue.Kind{rescue.DemoBefore, rescue.Prepared, rescue.ReadyMade, rescue.TwoLessons} {
		assert.True(t, kinds[k], k)
	}
	assert.Equal(t, list, try(t, l), "the same again, whatever the processors do")
}

// Where one change is not enough, pairs of the best are tried.
func TestPairs(t *testing.T) {
	l := class()
	l.End = 9*60 + 52
	p := plan(t, l)
	ways := slices.DeleteFunc(rescue.Ways(l, p), func(w rescue.Way) bool { return w.Changes[0].Kind == rescue.TwoLessons }) // that alone would do
	list := rescue.Try(rescue.Trial{Lesson: l, Plan: p, Ways: ways, Options: fit.Options{Runs: 200, Budget: 5}}).Rescues
	at := slices.IndexFunc(list, func(r rescue.Rescue) bool { return len(r.Changes) == 2 })
	require.GreaterOrEqual(t, at, 0)
	pair := list[at]
	assert.Contains(t, pair.Title, ", and ")
	for _, r := range list {
		if len(r.Changes) == 1 && r.Changes[0] == pair.Changes[0] {
			assert.Less(t, pair.Finish(), r.Finish(), "a pair gains more than the first of the two alone")
		}
	}
}

// Four trays of twenty minutes go through an oven of one place, one after the
// other: 85 minutes with the five before them, where there are 60.
func TestWhatOneThingMoreWouldBring(t *testing.T) {
	exactly := 0.0
	l := fit.Lesson{
		Title: "One oven", Start: 540, End: 600, Spreads: &fit.Spreads{Class: &exactly, Group: &exactly},
		Equipment: []fit.Equipment{{ID: "oven", Units: []fit.Unit{{Name: "Oven", Places: 1}}}},
		Dishes: []fit.Dish{{ID: "buns", Title: "Buns", Steps: []fit.Step{
			{ID: "shape", Title: "Shape", Kind: fit.Shape, Work: mins("5"), Cooks: 1, Adult: fit.NoAdult, Spread: &exactly},
			{ID: "bake", Title: "Bake", Kind: fit.Bake, Wait: mins("20"), Cooks: 1, Adult: fit.NoAdult, Spread: &exactly, After: []fit.After{{Step: "shape"}},
				Uses: []fit.Use{{Equipment: "oven", Places: 1, During: fit.WaitPart}}},
		}}},
	}
	for i := range 4 {
		l.Groups = append(l.Groups, fit.Group{ID: fmt.Sprint("g", i), Cooks: 1, Pace: exact.Int(1)})
	}
	p := plan(t, l)
	require.Equal(t, 85.0, p.Finish)
	out := rescue.Try(rescue.Trial{Lesson: l, Plan: p, Options: fit.Options{Runs: 100}})
	assert.Empty(t, out.Rescues)
	gains := map[string]float64{}
	for _, v := range out.Levers {
		gains[v.Equipment+v.Step] = v.Minutes
	}
	assert.Equal(t, map[string]float64{"oven": 40, "bake": 40, "shape": 5}, gains, "two rounds in place of four; four rounds of ten minutes; nothing to shape")
	assert.Equal(t, []string{
		"One oven more would bring 40 min.",
		"Of all steps “Bake”, made 10 min shorter, would help most: 40 min.",
	}, rescue.LeversSay(l, out.Levers))
	require.NotNil(t, out.Lack)
	assert.InDelta(t, 25+6.5, out.Lack.Minutes, 1.5, "the sum of four rounds has a deviation of 5 min, of which 1.28 cover 9 in 10")
	assert.Equal(t, "oven", out.Lack.Equipment)
	assert.Equal(t, 1, out.Lack.Units)
	l.End -= 18 // two rounds no longer fit: each needs an oven
	out = rescue.Try(rescue.Trial{Lesson: l, Plan: plan(t, l), Options: fit.Options{Runs: 100}})
	assert.Equal(t, 3, out.Lack.Units)
	assert.Equal(t, "Nothing that was tried is enough by itself or in pairs. What would be: 25 min more, or 1 oven more.",
		rescue.Lack{Minutes: 25, Equipment: "oven", Units: 1}.Says())
	assert.Contains(t, rescue.Lack{Minutes: 9, Equipment: "oven", Units: 3, Adults: 2}.Says(), "9 min more, or 3 ovens more, or 2 adults more.")
}

// A lesson that has time to spare needs no rescue, and progress counts up.
func TestProgressAndNeed(t *testing.T) {
	l := class()
	l.End = 9*60 + 180
	p := plan(t, l)
	assert.False(t, rescue.Needed(p))
	seen := make(chan [2]int, 1000)
	rescue.Try(rescue.Trial{Lesson: l, Plan: p, Ways: rescue.Ways(l, p), Options: fit.Options{Runs: 20, Budget: 1},
		Progress: func(done, all int) { seen <- [2]int{done, all} }})
	close(seen)
	most := 0
	for s := range seen {
		assert.LessOrEqual(t, s[0], s[1])
		most = max(most, s[0])
	}
	assert.Equal(t, len(rescue.Ways(l, p)), most)
	ended := make(chan struct{})
	close(ended)
	rescue.Try(rescue.Trial{Lesson: l, Plan: p, Ways: rescue.Ways(l, p), Ended: ended,
		Progress: func(int, int) { assert.Fail(t, "something was planned after nobody needs it any more") }})
}

// Whatever is changed, and in whatever order, the lesson that comes out is in
// order or is refused with a reason, and plans.
func TestChangesInAnyOrder(t *testing.T) {
	base := class()
	all := rescue.Ways(base, plan(t, base))
	rapid.Check(t, func(t *rapid.T) {
		l := base
		for range rapid.IntRange(1, 5).Draw(t, "changes") {
			way := rapid.SampledFrom(all).Draw(t, "way")
			changed, err := rescue.Apply(l, way.Changes...)
			if err != nil {
				assert.NotEmpty(t, err.Error())
				continue
			}
			if changed.Check() == nil {
				l = changed
			}
		}
		p, err := fit.Solve(l, fit.Options{Budget: 1, Runs: 5})
		require.NoError(t, err)
		assert.Empty(t, verify.Plan(l, p))
	})
}

// titles are those of the ways of a kind.
func titles(t *testing.T, l fit.Lesson, kind rescue.Kind) (out []string) {
	for _, w := range rescue.Ways(l, plan(t, l)) {
		if w.Changes[0].Kind == kind {
			out = append(out, w.Title)
		}
	}
	return out
}

// Where every bench makes both of two dishes, each may make one of them.
func TestHalves(t *testing.T) {
	l := class()
	assert.Empty(t, titles(t, l, rescue.Halves), "each makes one already")
	for i := range l.Groups {
		l.Groups[i].Dishes = nil
	}
	l.Dishes[1].Steps[0].After = []fit.After{{Dish: "loaf", Step: "knead"}}
	assert.Equal(t, []string{"Half of the benches make plaited loaf, the other half roast pears"}, titles(t, l, rescue.Halves))
	halved, err := rescue.Apply(l, rescue.Change{Kind: rescue.Halves})
	require.NoError(t, err)
	require.NoError(t, halved.Check())
	assert.Equal(t, []string{"loaf"}, halved.Groups[0].Dishes)
	assert.Equal(t, []string{"pears"}, halved.Groups[1].Dishes)
	assert.Empty(t, halved.Dishes[1].Steps[0].After)
	l.Groups = l.Groups[:1]
	assert.Empty(t, titles(t, l, rescue.Halves), "one bench has no halves")
}

// Five loaves, after the bell: at once in six places, in two turns in three, not where
// they may not stand, nor in five turns in one.
func TestAfterTheBellInTurns(t *testing.T) {
	l := class()
	assert.Contains(t, titles(t, l, rescue.FinishAfter), "Let an adult take the trays out after the bell")
	for i := range l.Equipment[0].Units {
		l.Equipment[0].Units[i].Places = 1
	}
	assert.Contains(t, titles(t, l, rescue.FinishAfter), "Let an adult bake the trays after the bell, in 2 turns of 3")
	soon := mins("5")
	l.Dishes[0].Steps[4].After[0].MaxGap = &soon
	assert.Equal(t, []string{"Let an adult take the trays out after the bell"}, titles(t, l, rescue.FinishAfter), "the pears only")
	l.Dishes[0].Steps[4].After[0].MaxGap = nil
	l.Equipment[0].Units = l.Equipment[0].Units[:1]
	assert.NotContains(t, fmt.Sprint(titles(t, l, rescue.FinishAfter)), "5 turns")
}

// Shops sell a sauce, whether or not it may be kept here; of what is done with it they
// know nothing.
func TestReadyMade(t *testing.T) {
	l := class()
	l.Dishes[1].Steps[1].Title, l.Dishes[1].Steps[1].Kind = "Make the sauce", fit.Cook
	assert.Contains(t, titles(t, l, rescue.ReadyMade), "Use ready-made sauce")
	l.Dishes[1].Steps[1].Title = "Pour the sauce over"
	assert.NotContains(t, titles(t, l, rescue.ReadyMade), "Use ready-made sauce")
}

func ExampleTry() {
	l := class()
	l.End = 9*60 + 70
	p, err := fit.Solve(l, fit.Options{})
	if err != nil {
		fmt.Println(err)
		return
	}
	best := rescue.Try(rescue.Trial{Lesson: l, Plan: p, Ways: rescue.Ways(l, p)}).Rescues[0]
	fmt.Println(p.Fits, rescue.Needed(p), best.Fits())
	// Output: false true true
}
