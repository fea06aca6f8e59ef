package lesson_test

import (
	"fmt"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"freshapron/internal/core/exact"
	"freshapron/internal/core/fit"
	"freshapron/internal/core/fit/verify"
	"freshapron/internal/core/lesson"
	"freshapron/internal/core/problem"
	"freshapron/internal/core/recipe"
	"freshapron/internal/core/rescue"
	"freshapron/internal/demo"
)

func ExampleLesson_ReadMakers() {
	l := eight(2)
	makers, err := l.ReadMakers("benches 1, 3-4")
	fmt.Println(makers.Groups, err)
	_, err = l.ReadMakers("bench 9")
	fmt.Println(err)
	// Output:
	// [g1 g3 g4] <nil>
	// “bench 9” is neither a bench of this lesson nor a learner of 4 Finch. Write “everybody”, “benches 1, 3-5”, or names with commas between
}

func course(dish string) lesson.Course {
	r := demo.Dish(dish)
	return lesson.Course{Recipe: r, Each: r.Each}
}

// two is a lesson of twelve pairs: scones at the first nine benches, a slaw at
// the last three.
func two() lesson.Lesson {
	l := named("herb-scones", 24, 2)
	slaw := course("rainbow-slaw")
	for n := 1; n <= 12; n++ {
		id := fmt.Sprintf("g%d", n)
		if n <= 9 {
			l.Menu[0].By.Groups = append(l.Menu[0].By.Groups, id)
		} else {
			slaw.By.Groups = append(slaw.By.Groups, id)
		}
	}
	l.Menu = append(l.Menu, slaw)
	return l
}

// What only some benches make is planned, measured and bought for them alone.
func TestADishOfSomeBenches(t *testing.T) {
	l := two()
	require.NoError(t, l.Check())
	assert.Equal(t, "Herb scones and Rainbow slaw", l.Titles())
	f := l.Fit()
	require.NoError(t, f.Check())
	for i, g := range f.Groups {
		require.Len(t, g.Dishes, 1)
		assert.Equal(t, i >= 9, f.Of(g.Dishes[0]) == "rainbow-slaw", g.Name)
	}
	p, err := fit.Solve(f, quick)
	require.NoError(t, err)
	assert.Empty(t, verify.Plan(f, p))

	alone := l
	alone.Menu = []lesson.Course{l.Menu[0]}
	alone.Menu[0].By = lesson.Makers{}
	all, some := alone.Needs()[0], l.Needs()[0]
	for i := range all {
		if l.Menu[0].Recipe.Ingredients[i].Law == "" || l.Menu[0].Recipe.Ingredients[i].Law == "linear" {
			assert.Equal(t, exact.Frac(3, 4), some[i].Benches.Amount.Div(all[i].Benches.Amount), "nine of twelve benches use three quarters")
		}
	}
	for _, s := range l.BenchSheets(f, p, l.Sizes()) {
		require.Len(t, s.Dishes, 1)
		assert.Equal(t, s.Number > 9, s.Dishes[0].Title == "Rainbow slaw", s.Name)
	}
	_, _, v := plan(t, l)
	assert.Contains(t, about(v, "benches").Says, "24 learners in 12 pairs")
}

// A bench that makes two dishes does the steps of both, and titles that both
// have are told apart.
func TestTwoDishesAtABench(t *testing.T) {
	l := named("herb-scones", 8, 2)
	l.End = l.Start + 180
	l.Menu = append(l.Menu, course("rainbow-slaw"))
	require.NoError(t, l.Check())
	f, p, _ := plan(t, l)
	steps := len(l.Menu[0].Recipe.Steps) + len(l.Menu[1].Recipe.Steps)
	for _, g := range p.Groups {
		assert.Len(t, g.Steps, steps)
	}
	seen := map[string]bool{}
	for _, d := range f.Dishes {
		for _, s := range d.Steps {
			assert.False(t, seen[s.Title], s.Title)
			seen[s.Title] = true
		}
	}
	for _, s := range l.BenchSheets(f, p, l.Sizes()) {
		assert.Len(t, s.Dishes, 2)
	}
}

// By learner: the others of the bench make the other dish.
func TestADishOfSomeLearners(t *testing.T) {
	l := named("herb-scones", 4, 2)
	l.Menu[0].By.Learners = []int64{1, 3, 4}
	l.Menu = append(l.Menu, course("rainbow-slaw"))
	l.Menu[1].By.Learners = []int64{2}
	require.NoError(t, l.Check())
	b := l.Benches()
	each := l.Menu[0].Each
	assert.Equal(t, []lesson.Made{{Course: 0, Cooks: 1, Pieces: each}, {Course: 1, Cooks: 1, Pieces: l.Menu[1].Each}}, b[0].Makes)
	assert.Equal(t, []lesson.Made{{Course: 0, Cooks: 2, Pieces: 2 * each}}, b[1].Makes)
	name := l.Class.NameOf
	assert.Equal(t, "L2", l.Menu[1].By.Says(b, name))
	back, err := l.ReadMakers("l2, bench 2")
	require.NoError(t, err)
	assert.Equal(t, lesson.Makers{Groups: []string{"g2"}, Learners: []int64{2}}, back)
}

func TestMenusThatCanNotBe(t *testing.T) {
	for says, c := range map[string]struct {
		path  string
		spoil func(l *lesson.Lesson)
	}{
		"Choose a dish.":                     {"menu", func(l *lesson.Lesson) { l.Menu = nil }},
		"Rainbow slaw is on the menu twice.": {"menu[2].dish", func(l *lesson.Lesson) { l.Menu = append(l.Menu, l.Menu[1]) }},
		"Nobody who is there makes Rainbow slaw. Say who does, or take it off the menu.": {"menu[1].who", func(l *lesson.Lesson) { l.Menu[1].By.Groups = []string{"g77"}; l.Menu[0].By = lesson.Makers{} }},
		"Bench 12 makes nothing. Give each bench a dish.":                                {"menu", func(l *lesson.Lesson) { l.Menu[1].By.Groups = []string{"g10", "g11"} }},
		"Bench 11 and Bench 12 make nothing. Give each bench a dish.":                    {"menu", func(l *lesson.Lesson) { l.Menu[1].By.Groups = []string{"g10"} }},
	} {
		l := two()
		c.spoil(&l)
		assert.Equal(t, problem.List{{Path: c.path, Says: says}}, l.Check())
	}
}

// What learners choose of a dish with choices is in the amounts of their bench
// and of the class, in the cost and in the allergens; who has not chosen is
// said.
func TestChoicesCount(t *testing.T) {
	l := named("rainbow-slaw", 4, 2)
	r := l.Menu[0].Recipe
	require.Len(t, r.Choices, 1)
	choice := r.Choices[0]
	require.Equal(t, 2, choice.Take)
	pick := func(learner int64, options ...int) {
		for _, o := range options {
			l.Menu[0].Picks = append(l.Menu[0].Picks, lesson.Picked{Learner: learner, Choice: choice.Name, Option: choice.Options[o].Name})
		}
	}
	assert.Len(t, l.Undecided(0), 4)
	assert.Empty(t, l.Chosen())
	before, _ := l.Cost()
	pick(1, 0, 1)
	pick(2, 0, 2)
	pick(3, 0, 1)
	pick(4, 0)
	assert.Equal(t, int64(4), l.Undecided(0)[0].ID, "one of two is not all")
	assert.Len(t, l.Undecided(0), 1)

	first := choice.Options[0].Ingredients[0]
	perLearner := first.Quantity.Times(exact.Frac(int64(l.Menu[0].Each), int64(r.Yield)))
	chosen := l.Chosen()
	assert.Equal(t, 4, chosen[0].Learners)
	assert.Equal(t, first.Name, chosen[0].Line.Name)
	for _, k := range l.Kinds() {
		own := k.Recipe.Ingredients[len(r.Ingredients):]
		require.NotEmpty(t, own)
		at := l.Kitchen().Amounts(k.Recipe, k.Pieces)[len(r.Ingredients)]
		assert.Zero(t, at.Exact.Amount.Cmp(perLearner.Times(exact.Int(2)).Amount), "both of the bench have it")
		assert.Equal(t, k.Open > 0, k.Recipe.Choices != nil, "while somebody has still to choose, all options stand in it")
	}
	after, _ := l.Cost()
	assert.True(t, before.Less(after), "what is chosen costs")
	assert.Equal(t, 1, l.Kinds()[0].Open+l.Kinds()[1].Open)

	l.Menu[0].Picks = append(l.Menu[0].Picks, lesson.Picked{Learner: 4, Choice: choice.Name, Option: "what is not there"})
	assert.Len(t, l.Undecided(0), 1)
	pick(4, 1)
	assert.Empty(t, l.Undecided(0))
	f := l.Fit()
	assert.Len(t, f.Dishes, 1, "what is chosen takes no time of its own")
}

// Changes name a unit by its id: renamed, it is still the one.
func TestChangesFollowARenamedUnit(t *testing.T) {
	l := lessonOf("leek-tartlets")
	l, err := l.With(rescue.Change{Kind: rescue.UnitOut, Equipment: "oven", Unit: "Oven 3"})
	require.NoError(t, err)
	assert.Equal(t, "oven-3", l.Changes[0].Unit)
	units := l.Room.Equipment[0].Units
	units[2].Name, units[3].Name = "Window oven", "Oven 3"
	assert.Equal(t, "Window oven is out of use", l.Decisions()[0].Says)
	for _, u := range l.Fit().Equipment[0].Units {
		assert.NotEqual(t, "Window oven", u.Name)
	}
	assert.Len(t, l.Fit().Equipment[0].Units, 5)
}

// The second of two lessons goes on with the dish that was kept, and with no
// other.
func TestTheSecondLessonOfAMenu(t *testing.T) {
	l := lessonOf("leek-tartlets")
	l.Menu = append(l.Menu, course("rainbow-slaw"))
	second, err := l.With(rescue.Change{Kind: rescue.TwoLessons, Dish: "leek-tartlets", Step: "rest", Number: 2})
	require.NoError(t, err)
	assert.Equal(t, "Leek tartlets", second.Titles())
	first, err := l.With(rescue.Change{Kind: rescue.TwoLessons, Dish: "leek-tartlets", Step: "rest", Number: 1})
	require.NoError(t, err)
	assert.Len(t, first.Menu, 2)
}

// What stands in the store is fetched once, whatever it is for.
func TestFetch(t *testing.T) {
	l := two()
	seen := map[string]bool{}
	for _, f := range l.Fetch() {
		assert.False(t, seen[f.Name], f.Name)
		seen[f.Name] = true
		assert.Positive(t, f.Total.Amount.Sign())
		assert.NotEmpty(t, f.Says())
	}
	assert.True(t, seen["self-raising flour"])
	assert.False(t, seen["water"], "that comes from the tap")
}

// Benches and names, as typed; what is between two benches, and the wrong way round.
func TestMakersAsTyped(t *testing.T) {
	l := two()
	l.Class.Roster[4].Given = "L4"
	for text, want := range map[string]lesson.Makers{
		" Everybody ":        {},
		"bench 3":            {Groups: []string{"g3"}},
		"3 to 5; 4, bench 1": {Groups: []string{"g3", "g4", "g5", "g1"}},
		"L2\nl 3, 2–2":       {},
		"L2\nL3, 2–2":        {Groups: []string{"g2"}, Learners: []int64{2, 3}},
	} {
		got, err := l.ReadMakers(text)
		if text == "L2\nl 3, 2–2" {
			assert.ErrorContains(t, err, "“l 3” is neither", text)
			continue
		}
		require.NoError(t, err, text)
		assert.Equal(t, want, got, text)
	}
	for text, says := range map[string]string{
		"5-3": "“5-3” is neither", "3-x": "“3-x” is neither", "x-3": "“x-3” is neither", "1-13": "“1-13” is neither", "L4": "2 learners are called “L4”: write the whole name",
	} {
		_, err := l.ReadMakers(text)
		assert.ErrorContains(t, err, says, text)
	}
}

// A bench works in the ways that its learners have asked for, each said once.
func TestWaysAtABench(t *testing.T) {
	l := named("leek-tartlets", 6, 2)
	l.OtherWays = []lesson.WayTaken{
		{Learner: 1, Dish: "leek-tartlets", Step: "leek", Way: "scissors"}, {Learner: 2, Dish: "leek-tartlets", Step: "leek", Way: "scissors"},
		{Learner: 3, Way: "large-print"}, {Learner: 5, Dish: "no-dish", Step: "leek", Way: "scissors"},
	}
	f, p, _ := plan(t, l)
	sheets := l.BenchSheets(f, p, l.Sizes())
	way, ok := l.Safety.Way("scissors")
	require.True(t, ok)
	step := l.Menu[0].Recipe.Steps[slices.IndexFunc(l.Menu[0].Recipe.Steps, func(s recipe.Step) bool { return s.ID == "leek" })]
	assert.Equal(t, []string{step.Title + ": " + way.Says}, sheets[0].Says)
	assert.False(t, sheets[0].Large)
	assert.True(t, sheets[1].Large)
	assert.Equal(t, []string{way.Says}, sheets[2].Says, "of a dish that is not made")
}
