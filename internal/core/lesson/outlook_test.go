package lesson_test

import (
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"freshapron/internal/core/clock"
	"freshapron/internal/core/exact"
	"freshapron/internal/core/fit"
	"freshapron/internal/core/lesson"
	"freshapron/internal/core/pantry"
	"freshapron/internal/core/recipe"
	"freshapron/internal/core/rescue"
	"freshapron/internal/demo"
)

// lessonOf is a lesson of the demonstration school in its second period.
func lessonOf(dish string) lesson.Lesson {
	r := demo.Dish(dish)
	return lesson.Lesson{
		Date: "2026-11-26", Start: 605, End: 670, Phases: lesson.UsualPhases(), Menu: []lesson.Course{{Recipe: r, Each: r.Each, Demo: r.Yield}}, Pantry: pantry.Stock(),
		Tolerances: pantry.Usual, Class: demo.Classes()[1], Room: demo.FoodRoom(), GroupSize: 2, Spare: 1,
	}
}

var quick = fit.Options{Budget: 20, Runs: 500}

// The outlook for a length of period is the plan of a lesson in such a period.
func TestOutlooksArePlans(t *testing.T) {
	for _, dish := range []string{"herb-scones", "leek-tartlets", "bean-chilli"} {
		l := lessonOf(dish)
		found, err := l.Outlooks([]int{50, 65, 130}, quick)
		require.NoError(t, err)
		require.Len(t, found, 3)
		for i, o := range found {
			in := l
			in.End = in.Start + clock.Time(o.Period)
			p, err := fit.Solve(in.Fit(), quick)
			require.NoError(t, err)
			assert.InDelta(t, p.Slack-p.Overrun, o.Left, 1e-6, "%s in %d min", dish, o.Period)
			assert.InDelta(t, p.Risk.AllOnTime, o.Chance, 1e-9)
			if i > 0 {
				assert.InDelta(t, found[i-1].Left+float64(o.Period-found[i-1].Period), o.Left, 1e-9)
			}
		}
	}
	l := lessonOf("herb-scones")
	l.Class.Learners = 0
	_, err := l.Outlooks([]int{65}, quick)
	assert.Error(t, err)
}

func TestWithAndDecisions(t *testing.T) {
	l := lessonOf("leek-tartlets")
	at := func(k rescue.Kind, minute string) rescue.Change {
		return rescue.Change{Kind: k, Group: "g3", Dish: "leek-tartlets", Step: "roll", At: exact.MustParse(minute)}
	}
	l, err := l.With(at(rescue.NotBefore, "30"))
	require.NoError(t, err)
	l, err = l.With(at(rescue.BeginBy, "28"))
	require.NoError(t, err)
	require.Len(t, l.Changes, 1, "a later word on the same step counts")
	assert.Equal(t, "Bench 3: “Roll, cut and line the tin” begins by 10:33", l.Decisions()[0].Says)

	l, err = l.With(rescue.Change{Kind: rescue.Hands, Number: 3}, rescue.Change{Kind: rescue.Fewer, Number: 3})
	require.NoError(t, err)
	assert.Equal(t, 3, l.GroupSize)
	assert.Equal(t, 3, l.Menu[0].Each)
	assert.Len(t, l.Changes, 1, "these are the lesson's own")
	assert.Len(t, l.Fit().Groups, 8)

	_, err = l.With(rescue.Change{Kind: rescue.UnitOut, Equipment: "oven", Unit: "Oven 9"})
	assert.ErrorContains(t, err, "no Oven 9")
	_, err = l.With(rescue.Change{Kind: rescue.Hands, Number: 30})
	assert.Error(t, err, "no group is so large")

	// What no longer applies is said, and the lesson is planned without it.
	l.GroupSize, l.Class.Learners = 4, 8
	d := l.Decisions()
	assert.Contains(t, d[0].Broken, "no bench “g3”")
	assert.Empty(t, l.Fit().Groups[0].Pins)
	require.NoError(t, l.Check())
}

// A menu of two dishes for everybody can be halved: every second bench makes one of
// them, and half as much is bought of each.
func TestHalves(t *testing.T) {
	l := lessonOf("leek-tartlets")
	l.Menu = append(l.Menu, lessonOf("herb-scones").Menu...)
	f := l.Fit()
	p, err := fit.Solve(f, quick)
	require.NoError(t, err)
	require.True(t, slices.ContainsFunc(l.Ways(f, p), func(w rescue.Way) bool { return w.Changes[0].Kind == rescue.Halves }))
	halved, err := l.With(rescue.Change{Kind: rescue.Halves})
	require.NoError(t, err)
	for n, b := range halved.Benches() {
		require.Len(t, b.Makes, 1)
		assert.Equal(t, n%2, b.Makes[0].Course)
	}
	_, err = halved.With(rescue.Change{Kind: rescue.Halves})
	assert.ErrorContains(t, err, "two dishes")
}

// Of two lessons neither takes another dish for itself.
func TestAnotherDish(t *testing.T) {
	l := lessonOf("leek-tartlets")
	l.Others = []recipe.Recipe{demo.Dish("herb-scones")}
	instead := rescue.Change{Kind: rescue.Instead, Dish: "leek-tartlets", Other: "herb-scones"}
	other, err := l.With(instead)
	require.NoError(t, err)
	assert.Equal(t, "Herb scones", other.Titles())
	half, err := l.With(rescue.Change{Kind: rescue.TwoLessons, Dish: "leek-tartlets", Step: "rest", Number: 1})
	require.NoError(t, err)
	_, err = half.With(instead)
	assert.ErrorContains(t, err, "stays the same in both")
	two := l
	two.Menu = append(slices.Clone(l.Menu), lessonOf("herb-scones").Menu...)
	for name, c := range map[string]struct {
		l      lesson.Lesson
		change rescue.Change
	}{
		"a dish that is not on the menu":  {l, rescue.Change{Kind: rescue.Instead, Dish: "bean-chilli", Other: "herb-scones"}},
		"another that nobody offers":      {l, rescue.Change{Kind: rescue.Instead, Dish: "leek-tartlets", Other: "bean-chilli"}},
		"another that is on the menu too": {two, rescue.Change{Kind: rescue.Instead, Dish: "leek-tartlets", Other: "herb-scones"}},
	} {
		_, err := c.l.With(c.change)
		assert.EqualError(t, err, "that dish can’t come in place of this one any more", name)
	}
}

// A later change takes the place of one that says something else of the same thing, and of no other.
func TestChangesThatTakeThePlaceOfOthers(t *testing.T) {
	l := lessonOf("leek-tartlets")
	in := func(group, unit string) rescue.Change {
		return rescue.Change{Kind: rescue.InUnit, Group: group, Dish: "leek-tartlets", Step: "bake", Unit: unit}
	}
	begin := func(k rescue.Kind, group, step, minute string) rescue.Change {
		return rescue.Change{Kind: k, Group: group, Dish: "leek-tartlets", Step: step, At: exact.MustParse(minute)}
	}
	work := func(step, minutes string) rescue.Change {
		return rescue.Change{Kind: rescue.Work, Dish: "leek-tartlets", Step: step, Minutes: exact.MustParse(minutes)}
	}
	out := rescue.Change{Kind: rescue.AdultOut, Number: 1, At: exact.MustParse("20"), Minutes: exact.MustParse("2")}
	for name, x := range map[string]struct {
		changes []rescue.Change
		left    int
	}{
		"one oven after another":     {[]rescue.Change{in("g1", "Oven 1"), in("g1", "Oven 2")}, 1},
		"two benches' ovens":         {[]rescue.Change{in("g1", "Oven 1"), in("g2", "Oven 1")}, 2},
		"an oven and a moment":       {[]rescue.Change{in("g1", "Oven 1"), begin(rescue.NotBefore, "g1", "bake", "30")}, 2},
		"two moments of one step":    {[]rescue.Change{begin(rescue.PinAt, "g1", "roll", "30"), begin(rescue.NotBefore, "g1", "roll", "31")}, 1},
		"the moments of two steps":   {[]rescue.Change{begin(rescue.NotBefore, "g1", "roll", "30"), begin(rescue.NotBefore, "g1", "bake", "31")}, 2},
		"the moments of two benches": {[]rescue.Change{begin(rescue.NotBefore, "g1", "roll", "30"), begin(rescue.NotBefore, "g2", "roll", "31")}, 2},
		"a step's minutes twice":     {[]rescue.Change{work("roll", "6"), work("roll", "7")}, 1},
		"the minutes of two steps":   {[]rescue.Change{work("roll", "6"), work("rub", "7")}, 2},
		"an adult twice":             {[]rescue.Change{out, {Kind: rescue.AdultOut, Number: 1, At: exact.MustParse("30"), Minutes: exact.MustParse("2")}}, 2},
	} {
		with, err := l.With(x.changes...)
		require.NoError(t, err, name)
		assert.Len(t, with.Changes, x.left, name)
	}
}

func TestWaysOfALesson(t *testing.T) {
	l := lessonOf("leek-tartlets")
	f := l.Fit()
	p, err := fit.Solve(f, quick)
	require.NoError(t, err)
	kinds := map[rescue.Kind]rescue.Way{}
	var groups []string
	for _, w := range l.Ways(f, p) {
		kinds[w.Changes[0].Kind] = w
		if w.Changes[0].Kind == rescue.Hands {
			groups = append(groups, w.Title)
		}
	}
	assert.Equal(t, []string{"Work in threes, with a part for each", "Work in fours, with a part for each"}, groups)
	assert.NotContains(t, kinds, rescue.Halves)
	assert.Equal(t, "Make 3 tartlets each in place of 4", kinds[rescue.Fewer].Title)
	assert.NotContains(t, kinds, rescue.FewerLoads)
	assert.Equal(t, "Use ready-made pastry", kinds[rescue.ReadyMade].Title)
	for _, r := range l.Try(rescue.Trial{Lesson: f, Plan: p, Options: quick}).Rescues {
		for _, c := range r.Changes {
			assert.NotEqual(t, rescue.Kind(""), c.Kind)
		}
		assert.NotNil(t, r.Plan)
	}
}

func TestKeeps(t *testing.T) {
	h := fit.Hold{Where: "fridge", MaxMinutes: exact.MustParse("1440")}
	ok, says := lesson.Keeps(h, 1440)
	assert.True(t, ok)
	assert.Equal(t, "24 h in the fridge; 24 h is the most.", says)
	ok, says = lesson.Keeps(h, 1441)
	assert.False(t, ok)
	assert.Contains(t, says, "is too long")
	l := lessonOf("leek-tartlets")
	half, _ := l.Half()
	assert.Zero(t, half)
	l, err := l.With(rescue.Change{Kind: rescue.TwoLessons, Dish: "leek-tartlets", Step: "rest", Number: 2})
	require.NoError(t, err)
	half, hold := l.Half()
	assert.Equal(t, 2, half)
	assert.Equal(t, "fridge", hold.Where)
}

// A verdict says how much of it stands on guesses, and is not good where more
// than a third does.
func TestGuesses(t *testing.T) {
	judged := func(guess int) (lesson.Lesson, []lesson.Verdict) {
		l := lessonOf("melon-boats")
		r := l.Menu[0].Recipe.Clone()
		for n := range r.Steps {
			r.Steps[n].Work, r.Steps[n].Wait, r.Steps[n].WorkEach, r.Steps[n].PerLoad = exact.Int(3), exact.Number{}, exact.Number{}, 0
			r.Steps[n].Adult, r.Steps[n].Uses, r.Steps[n].Cooks = fit.NoAdult, nil, 1
			if n < guess {
				r.Steps[n].WorkFrom = recipe.Typical
			}
		}
		r.Steps = r.Steps[:6]
		l.Menu[0].Recipe = r
		f := l.Fit()
		p, err := fit.Solve(f, quick)
		require.NoError(t, err)
		return l, l.Verdicts(f, p, nil)
	}
	l, sure := judged(0)
	assert.Equal(t, lesson.Good, sure[0].Light)
	assert.NotContains(t, sure[1].Says, "guesses")
	guessed, all := l.Guessed()
	assert.Zero(t, guessed)
	assert.InDelta(t, 18, all, 1e-9)
	_, third := judged(2)
	assert.Equal(t, lesson.Good, third[0].Light, "a third, and no more")
	assert.Contains(t, third[1].Says, "6 of 18 minutes are guesses")
	_, more := judged(3)
	assert.Equal(t, lesson.Look, more[0].Light)
	assert.Contains(t, more[2].Says, "guessed minutes", "why it is not good")

	l, _ = judged(1)
	f := l.Fit()
	work, wait := l.Typical(f, f.Dishes[0].ID, f.Dishes[0].Steps[0].ID)
	assert.True(t, work && !wait)
	work, wait = l.Typical(f, f.Dishes[0].ID, f.Dishes[0].Steps[1].ID)
	assert.False(t, work || wait)
}

// Of a dish in two lessons each half needs, buys and measures its own part.
func TestEachHalfTakesItsOwn(t *testing.T) {
	whole := lessonOf("leek-tartlets")
	fetched := func(l lesson.Lesson) (list []string) {
		for _, f := range l.Fetch() {
			list = append(list, f.Says())
		}
		return list
	}
	var cost exact.Number
	for half, want := range map[int][]string{
		1: {"2.1 kg plain flour", "1.05 kg butter", "3½ tsp salt"},
		2: {"14 leeks", "140 g butter", "840 ml semi-skimmed milk", "14 medium eggs", "560 g Cheddar, grated", "3½ tsp mustard powder"},
	} {
		l, err := whole.With(rescue.Change{Kind: rescue.TwoLessons, Dish: "leek-tartlets", Step: "rest", Number: half})
		require.NoError(t, err)
		assert.ElementsMatch(t, want, fetched(l), "half %d", half)
		for _, size := range l.Sizes() {
			assert.Len(t, size.Amounts, len(size.Lines))
			for i, a := range size.Amounts {
				assert.Equal(t, whole.Menu[0].Recipe.Ingredients[size.Lines[i]].Name, a.Line.Name)
			}
		}
		pence, _ := l.Cost()
		cost = cost.Add(pence)
		known, _ := l.Allergens()
		assert.Contains(t, known, pantry.Eggs, "whoever eats it in the end")
	}
	all, _ := whole.Cost()
	assert.Equal(t, all.Decimal(3), cost.Decimal(3), "the halves cost what the whole does")
}

// Two halves of which one was changed without the other say in what they do not
// go together.
func TestHalvesThatWereChangedAgainstEachOther(t *testing.T) {
	half := func(number int, step string) lesson.Lesson {
		l, err := lessonOf("leek-tartlets").With(rescue.Change{Kind: rescue.TwoLessons, Dish: "leek-tartlets", Step: step, Number: number})
		require.NoError(t, err)
		return l
	}
	assert.Empty(t, lesson.Apart(half(1, "rest"), half(2, "rest")))
	for want, change := range map[string]func(first, second *lesson.Lesson){
		"8 Hazel begins it, 9 Rowan goes on":         func(_, l *lesson.Lesson) { l.Class.Name = "9 Rowan" },
		"12 groups begin it, 8 go on":                func(_, l *lesson.Lesson) { l.GroupSize = 3 },
		"4 tartlets each are begun, 2 finished":      func(_, l *lesson.Lesson) { l.Menu[0].Each = 2 },
		"the first lesson makes the whole dish now":  func(l, _ *lesson.Lesson) { l.Changes = nil },
		"the second lesson makes the whole dish now": func(_, l *lesson.Lesson) { l.Changes = nil },
		"the first lesson begins Leek tartlets, the second goes on with Herb scones": func(_, l *lesson.Lesson) {
			l.Menu[0].Recipe.ID, l.Menu[0].Recipe.Title, l.Changes[0].Dish = "herb-scones", "Herb scones", "herb-scones"
		},
	} {
		first, second := half(1, "rest"), half(2, "rest")
		second.Menu = slices.Clone(second.Menu)
		change(&first, &second)
		assert.Equal(t, []string{want}, lesson.Apart(first, second))
	}
}
