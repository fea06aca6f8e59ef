package lesson_test

import (
	"fmt"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"freshapron/internal/core/class"
	"freshapron/internal/core/exact"
	"freshapron/internal/core/fit"
	"freshapron/internal/core/fit/verify"
	"freshapron/internal/core/lesson"
	"freshapron/internal/core/measure"
	"freshapron/internal/core/recipe"
	"freshapron/internal/core/safety"
)

func roster(n int) []class.Learner {
	out := make([]class.Learner, n)
	for i := range out {
		out[i] = class.Learner{ID: int64(i + 1), Given: fmt.Sprintf("L%d", i+1)}
	}
	return out
}

// named is a lesson whose learners have names.
func named(dish string, n, size int) lesson.Lesson {
	l := lessonOf(dish)
	l.Class.Roster, l.Class.Learners, l.GroupSize, l.Class.Age, l.Safety = roster(n), 99, size, 12, safety.Usual()
	return l
}

// A class that is all away, or has no names, has nobody to deal.
func TestNobodyIsThere(t *testing.T) {
	l := named("herb-scones", 3, 2)
	l.Absent = []int64{1, 2, 3}
	assert.Equal(t, "0 learners", l.Grouping())
	assert.Empty(t, l.DealtAnew())
	assert.Error(t, l.Check())
	l.Class.Roster, l.Class.Rules = nil, []class.Rule{{Kind: class.AwayFrom, Learners: []int64{1, 2}}}
	assert.Empty(t, l.DealtAnew())
}

func TestGroupsOfEachSizeAreCounted(t *testing.T) {
	l := named("herb-scones", 8, 2)
	l.Teams = [][]int64{{1, 2}, {3}, {4, 5}, {6, 7, 8}}
	assert.Equal(t, "8 learners in 1 learner alone, 2 pairs and 1 three", l.Grouping())
}

func TestWhoIsThere(t *testing.T) {
	l := named("herb-scones", 24, 2)
	assert.Equal(t, 24, l.Learners(), "the names count, not the number")
	l.Absent = []int64{1, 2, 3, 4, 77}
	assert.Equal(t, 20, l.Learners())
	assert.Len(t, l.Benches(), 10)
	assert.Equal(t, "20 learners in 10 pairs", l.Grouping())
	assert.Equal(t, "g3", l.Benches()[0].ID, "nobody moves up to the benches of those who are away")
	assert.Equal(t, "Bench 3", l.Benches()[0].Name)
	for _, b := range l.Benches() {
		for _, p := range b.Members {
			assert.Greater(t, p.ID, int64(4))
		}
	}
	l.Absent = []int64{1}
	assert.Equal(t, 1, l.Benches()[0].Cooks, "a gap at their bench")
	assert.Equal(t, int64(2), l.Benches()[0].Members[0].ID)
	l.Teams = l.DealtAnew()
	assert.Equal(t, []int64{2, 3, 4}, l.Teams[0], "23 in 11 pairs and a three")
	assert.Equal(t, 3, l.Benches()[0].Cooks)
	l.Teams = nil
	for _, p := range l.Class.Roster {
		l.Absent = append(l.Absent, p.ID)
	}
	assert.ErrorContains(t, l.Check(), "Everybody of 8 Hazel is away")
	l.Class.Roster = nil
	assert.Equal(t, 99, l.Learners())
	assert.Empty(t, l.Dealt().Groups)
}

func TestTeamsByHand(t *testing.T) {
	l := named("herb-scones", 7, 2)
	l.Teams = [][]int64{{1, 2, 3}, {4}, {5, 6}}
	l.Absent = []int64{4}
	d := l.Dealt()
	benches := l.Benches()
	require.Len(t, benches, 2, "a group of which nobody is there leaves its bench empty")
	assert.Equal(t, []string{"Bench 1", "Bench 3"}, []string{benches[0].Name, benches[1].Name})
	assert.Equal(t, []int64{5, 6, 7}, []int64{d.Groups[2][0].ID, d.Groups[2][1].ID, d.Groups[2][2].ID}, "whoever is in no group joins the smallest of which somebody is there")
	assert.Equal(t, 3, l.Benches()[0].Cooks)
	l.Teams = [][]int64{{88}}
	assert.Len(t, l.Dealt().Groups, 1, "groups of people who have left")
	assert.Equal(t, 6, len(l.Dealt().Groups[0]))
}

// Swaps go into the amounts of their bench and of the class, and into nobody
// else's.
func TestSwapsAreCounted(t *testing.T) {
	l := named("herb-scones", 24, 2)
	all := l.Needs()[0]
	l.Swaps = []lesson.Swap{{Learner: 5, Dish: "herb-scones", For: "self-raising flour", Use: "225 g gluten-free plain flour"}, {Learner: 6, Dish: "herb-scones", For: "self-raising flour", Use: "225 g gluten-free plain flour"}, {Learner: 99, Dish: "herb-scones", For: "butter", Use: "50 g baking spread"}}
	kinds := l.Kinds()
	require.Len(t, kinds, 2)
	assert.Len(t, kinds[0].Benches, 11)
	assert.Empty(t, kinds[0].Swaps)
	assert.Equal(t, "gluten-free plain flour", kinds[1].Recipe.Ingredients[0].Name)
	assert.Equal(t, "self-raising flour", l.Menu[0].Recipe.Ingredients[0].Name, "the recipe itself stays")
	needs := l.Needs()[0]
	less := all[0].Total.Amount.Sub(needs[0].Total.Amount)
	assert.Equal(t, exact.Int(225), less, "a bench of eight scones less")
	for i := 1; i < len(all); i++ {
		assert.Equal(t, all[i], needs[i])
	}
	swapped := l.Swapped()
	require.Len(t, swapped, 1)
	assert.Equal(t, []string{"Bench 3"}, swapped[0].Benches)
	assert.Equal(t, "225 g", swapped[0].Need.Total.String())
	f := l.Fit()
	require.NoError(t, f.Check())
	assert.Len(t, f.Dishes, 2, "the planner is told of both")
	// Milk stands in two lines: the dough's is the swap's, the brush's its own.
	milk := l
	milk.Swaps = []lesson.Swap{{Learner: 5, Dish: "herb-scones", For: "semi-skimmed milk", Use: "125 ml oat drink"}}
	var amounts []string
	for _, s := range milk.Swapped() {
		amounts = append(amounts, s.Need.Total.String()+" "+s.Line.Name)
	}
	assert.Equal(t, []string{"125 ml oat drink", "1 tbsp oat drink"}, amounts)
	l.Absent = []int64{5, 6}
	assert.Empty(t, l.Swapped(), "who is away swaps nothing")
}

func TestOtherWaysTakeTheirTime(t *testing.T) {
	l := named("rainbow-slaw", 24, 2)
	var cut string
	for _, s := range l.Menu[0].Recipe.Steps {
		if s.Kind == fit.Cut && s.Work.Add(s.WorkEach).Sign() > 0 {
			cut = s.ID
			break
		}
	}
	require.NotEmpty(t, cut)
	work := func(l lesson.Lesson, bench int) exact.Number {
		f := l.Fit()
		s, ok := f.Step(f.Groups[bench].Dishes[0], cut)
		require.True(t, ok)
		return s.Work
	}
	before := work(l, 0)
	l.OtherWays = []lesson.WayTaken{{Learner: 1, Dish: "rainbow-slaw", Step: cut, Way: "spiked-board"}, {Learner: 2, Way: "large-print"}, {Learner: 3, Dish: "rainbow-slaw", Step: cut, Way: "no such way"}}
	assert.Equal(t, before.Mul(exact.Frac(14, 10)), work(l, 0))
	assert.Equal(t, before, work(l, 5), "nobody else is slower")
	require.NoError(t, l.Check())
	l.OtherWays = []lesson.WayTaken{{Learner: 1, Dish: "rainbow-slaw", Step: cut, Way: "beside"}}
	f := l.Fit()
	s, _ := f.Step(f.Groups[0].Dishes[0], cut)
	assert.Equal(t, fit.Watches, s.Adult)
}

// cared draws a lesson of whose learners some are away, swap something or work
// otherwise, at whatever age.
var cared = rapid.Custom(func(t *rapid.T) lesson.Lesson {
	dish := rapid.SampledFrom([]string{"herb-scones", "turkey-koftas", "melon-boats", "fish-pie"}).Draw(t, "dish")
	l := named(dish, rapid.IntRange(1, 26).Draw(t, "learners"), rapid.IntRange(2, 5).Draw(t, "size"))
	l.End = l.Start + 180
	l.Class.Age = rapid.SampledFrom([]int{0, 6, 9, 10, 12, 15}).Draw(t, "age")
	id := rapid.Int64Range(1, 28)
	l.Absent = rapid.SliceOfNDistinct(id, 0, 5, rapid.ID).Draw(t, "absent")
	if rapid.Bool().Draw(t, "by hand") {
		l.Teams = [][]int64{{1, 2}, {3, 4, 5}, {6}}
	}
	for range rapid.IntRange(0, 4).Draw(t, "swaps") {
		s := rapid.SampledFrom(l.Menu[0].Recipe.Swaps).Draw(t, "swap")
		l.Swaps = append(l.Swaps, lesson.Swap{Learner: id.Draw(t, "who"), Dish: dish, For: s.For, Use: s.Use})
	}
	for range rapid.IntRange(0, 4).Draw(t, "ways") {
		w := rapid.SampledFrom(l.Safety.Ways).Draw(t, "way")
		l.OtherWays = append(l.OtherWays, lesson.WayTaken{Learner: id.Draw(t, "who"), Dish: dish, Step: rapid.SampledFrom(l.Menu[0].Recipe.Steps).Draw(t, "step").ID, Way: w.ID})
	}
	return l
})

// Such lessons can be checked, everybody has a place, and their plans keep
// every rule.
func TestCaredLessonsArePlanned(t *testing.T) {
	planned := 0
	for seed := range 30 {
		l := cared.Example(seed)
		if l.Check() != nil {
			continue // everybody is away, or there are too many groups
		}
		planned++
		learners := 0
		for _, b := range l.Benches() {
			learners += b.Cooks
		}
		require.Equal(t, l.Learners(), learners, "seed %d", seed)
		benches := 0
		for _, k := range l.Kinds() {
			benches += len(k.Benches)
		}
		require.Equal(t, len(l.Benches()), benches, "seed %d", seed)
		f := l.Fit()
		p, err := fit.Solve(f, fit.Options{Budget: 1, Runs: 10})
		require.NoError(t, err)
		require.Empty(t, verify.Plan(f, p), "seed %d", seed)
		l.Swapped()
		require.Len(t, l.Needs()[0], len(l.Menu[0].Recipe.Ingredients))
	}
	require.Greater(t, planned, 15)
}

// A swap's cup is the school's cup.
func TestSwapsInTheSchoolsUnits(t *testing.T) {
	l := named("herb-scones", 4, 2)
	metric := l.Take("1 cup oat drink", "")
	l.Units = measure.US
	us := l.Take("1 cup oat drink", "")
	assert.True(t, us.Quantity.Base().Less(metric.Quantity.Base()), "236.6 ml and 250")
}

// Who is away changes nobody's bench, whether or not benches are shared.
func TestGapsMoveNobody(t *testing.T) {
	for _, c := range []struct{ learners, size int }{{26, 2}, {14, 1}, {24, 1}, {9, 4}} {
		l := named("herb-scones", c.learners, c.size)
		was := map[int64]string{}
		for _, b := range l.Benches() {
			for _, m := range b.Members {
				was[m.ID] = b.ID + " " + b.Name
			}
		}
		for away := int64(0); away < int64(c.learners); away += 3 {
			l.Absent = []int64{away + 1, (away+1)%int64(c.learners) + 1}
			for _, b := range l.Benches() {
				for _, m := range b.Members {
					require.Equal(t, was[m.ID], b.ID+" "+b.Name, "%d of %d away", away, c.learners)
				}
			}
		}
	}
}

// What cannot be told of two ingredients is said of each once, and what stands in none of the lists is no allergen.
func TestWhatNobodyHasLookedUp(t *testing.T) {
	l := named("herb-scones", 4, 2)
	for _, name := range []string{"marvel dust", "marvel dust", "wonder paste"} {
		l.Menu[0].Recipe.Ingredients = append(l.Menu[0].Recipe.Ingredients, recipe.Ingredient{Name: name})
	}
	_, unknown := l.Allergens()
	assert.Equal(t, []string{"marvel dust", "wonder paste"}, unknown)
}

// Who is in no team joins the smallest in which somebody is there.
func TestWhoJoinsATeam(t *testing.T) {
	l := named("herb-scones", 7, 2)
	l.Teams, l.Absent = [][]int64{{1, 2}, {3}, {4, 5, 6}}, []int64{3}
	var sizes []int
	for _, b := range l.Benches() {
		sizes = append(sizes, b.Cooks)
	}
	assert.Equal(t, []int{3, 3}, sizes, "nobody joins those who are all away")
}

// Boards are shared where there are fewer for raw meat than benches, and the recipe asks for none of its own.
func TestOneBoard(t *testing.T) {
	l := named("herb-scones", 8, 2)
	for boards, shared := range map[int]bool{3: true, 4: false, 5: false} {
		l.Room.RawBoards = boards
		assert.Equal(t, shared, l.OneBoard(l.Menu[0]), boards)
	}
	l.Room.RawBoards, l.Menu[0].Recipe.Equipment = 0, []string{"Board for raw meat"}
	assert.False(t, l.OneBoard(l.Menu[0]))
	l.Menu[0].Recipe.Equipment = []string{"board", "raw"}
	assert.True(t, l.OneBoard(l.Menu[0]))
}
