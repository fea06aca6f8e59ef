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
	"freshapron/internal/core/measure"
	"freshapron/internal/core/pantry"
	"freshapron/internal/core/problem"
	"freshapron/internal/core/recipe"
	"freshapron/internal/core/room"
)

// bars are made in five steps: 4 min of weighing that can be shared, 1 min
// for each piece to shape, 10 min in the oven.
var bars = recipe.Recipe{
	ID: "bars", Title: "Oat bars", Yield: 8, Piece: "bar", Pieces: "bars", Each: 2,
	Ingredients: []recipe.Ingredient{
		{Quantity: measure.Q("200", measure.Gram), Name: "plain flour", Pantry: "plain-flour", Part: "Mix", Law: recipe.Linear},
		{Quantity: measure.Q("1", measure.Gram), Name: "salt", Pantry: "salt", Part: "Mix", Law: recipe.Linear},
	},
	Steps: []recipe.Step{
		{Step: fit.Step{ID: "weigh", Title: "Weigh", Kind: fit.Weigh, Work: exact.Int(4), Cooks: 1, Shareable: true, Adult: fit.NoAdult}},
		{Step: fit.Step{ID: "shape", Title: "Shape", Kind: fit.Shape, Cooks: 1, Adult: fit.NoAdult, After: []fit.After{{Step: "weigh"}}}, WorkEach: exact.Int(1)},
		{Step: fit.Step{ID: "bake", Title: "Bake", Kind: fit.Bake, Wait: exact.Int(10), Cooks: 1, Adult: fit.NoAdult, After: []fit.After{{Step: "shape"}},
			Uses: []fit.Use{{Equipment: "oven", Places: 1, Temperature: celsius(180), During: fit.WaitPart}}}},
	},
}

func celsius(c int64) *exact.Number { n := exact.Int(c); return &n }

// small is a room of four benches with one oven of two shelves.
var small = lesson.Room{
	Name: "Small Room", Benches: 4, PerBench: 2, Learners: 10, Adults: 1,
	Equipment: []fit.Equipment{
		{ID: "oven", Temperature: true, Preheat: exact.Int(10), Units: []fit.Unit{{Name: "Oven 1", Places: 2}}},
		{ID: "ring", PerStation: true, Units: []fit.Unit{{Name: "Ring 1", Places: 1}, {Name: "Ring 2", Places: 1}}},
	},
	Instruments: measure.Instruments{Scales: []measure.Scale{{Division: exact.Int(1), Least: exact.Int(2)}}, Spoons: measure.SpoonSet},
}

func eight(size int) lesson.Lesson {
	return lesson.Lesson{
		Date: "2026-11-26", Start: 600, End: 660, Phases: lesson.UsualPhases(), Menu: []lesson.Course{{Recipe: bars, Each: 2, Demo: 8}}, Pantry: pantry.Stock(),
		Class: lesson.Class{Name: "4 Finch", Learners: 8, Pace: exact.Int(1)}, Room: small,
		GroupSize: size, Spare: 1,
	}
}

func ExampleLesson_Grouping() {
	l := eight(2)
	fmt.Println(l.Grouping())
	l.Class.Learners = 9
	fmt.Println(l.Grouping())
	// Output:
	// 8 learners in 4 pairs
	// 9 learners in 3 pairs and 1 three
}

func plan(t *testing.T, l lesson.Lesson) (fit.Lesson, *fit.Plan, []lesson.Verdict) {
	t.Helper()
	require.NoError(t, l.Check())
	f := l.Fit()
	p, err := fit.Solve(f, fit.Options{})
	require.NoError(t, err)
	require.Empty(t, verify.Plan(f, p))
	return f, p, l.Verdicts(f, p, l.Sizes())
}

func about(v []lesson.Verdict, what string) lesson.Verdict {
	return v[slices.IndexFunc(v, func(v lesson.Verdict) bool { return v.About == what })]
}

// What gives idle cooks something to do depends on how many there are, and on
// what could be shared.
func TestIdleCooksAreGivenSomething(t *testing.T) {
	l := eight(1)
	l.Menu[0].Recipe.Steps = slices.Clone(bars.Steps)
	l.Menu[0].Recipe.Steps[1].Adult = fit.Watches // of whom there is one, so that they wait
	_, _, v := plan(t, l)
	assert.Equal(t, lesson.Good, about(v, "benches").Light)
	assert.Contains(t, about(v, "benches").Says, "without work: wash up")
	l.GroupSize = 4
	_, _, v = plan(t, l)
	assert.Contains(t, about(v, "benches").Says, "Pairs would each have more to do")
	l.GroupSize = 2
	l.Menu[0].Recipe.Steps[1].Kind, l.Menu[0].Recipe.Steps[1].Title = fit.Cut, "Cut the bars"
	_, _, v = plan(t, l)
	assert.Contains(t, about(v, "benches").Says, "Share “Cut the bars”")
}

// Four pairs of four bars each: 13 min of phases, 4/1.8 min to weigh, 4 to
// shape, two trays at once in the oven for ten minutes, then the other two:
// 39:14 of the 48 minutes before clear down.
func TestVerdicts(t *testing.T) {
	f, p, v := plan(t, eight(2))
	assert.InDelta(t, 13+134.0/60+4+10+10, p.Finish, 1e-9)
	assert.Equal(t, "9 min left", lesson.Left(p))
	assert.Equal(t, lesson.Verdict{About: "time", Light: lesson.Good, Head: "Done by 10:39", Says: "Clear down begins at 10:48."}, v[0])
	assert.Equal(t, lesson.Verdict{About: "queue", Light: lesson.Look, Head: "2 in a queue", Says: "2 benches wait up to 8 min for an oven, from 10:21."}, v[2])
	assert.Equal(t, "1 of 2", v[3].Head)
	assert.Contains(t, v[3].Says, "Not so: salt")
	assert.Equal(t, lesson.Verdict{About: "benches", Light: lesson.Look, Head: "2 cooks idle",
		Says: "8 learners in 4 pairs, at 4 of the 4 benches. Up to 4 min without work. Give them a second part to make, or let them wash up meanwhile."}, v[4])

	ovens := lesson.Ovens(f, p)
	require.Len(t, ovens, 1)
	assert.Equal(t, 4, ovens[0].Trays)
	assert.Equal(t, "10:19", f.At(ovens[0].FirstTray))
	assert.Equal(t, "10:28", f.At(ovens[0].LastTray), "two bakes before 10:48")
}

func TestWaitsGoOnWhileTheClassClearsDown(t *testing.T) {
	l := eight(2)
	l.Phases = lesson.UsualPhases()
	l.Phases[2].Waits = true
	_, _, v := plan(t, l)
	assert.Equal(t, "Clear down begins at 10:48. What bakes may go on until 10:55.", v[0].Says)
}

func TestMissingMinutesNameTheirReason(t *testing.T) {
	l := eight(1) // eight trays, two at a time
	_, p, v := plan(t, l)
	assert.InDelta(t, 13+4+2+4*10, p.Finish, 1e-9)
	assert.Equal(t, "11 min missing", lesson.Left(p))
	assert.Equal(t, "Clear down begins at 10:48. 6 benches wait up to 30 min for an oven.", v[0].Says)
	assert.Equal(t, lesson.Stop, v[0].Light)

	l = eight(2)
	l.Class.Learners = 2
	l.Phases[1].Minutes = exact.Int(25)
	_, p, v = plan(t, l)
	assert.Equal(t, "Clear down begins at 10:48. That is tight.", v[0].Says)
	assert.Equal(t, "2 min left", lesson.Left(p), "1:46, to the half minute")
	l.Phases[1].Minutes = exact.Int(30)
	_, p, v = plan(t, l)
	assert.Equal(t, "3 min missing", lesson.Left(p))
	assert.Equal(t, "Clear down begins at 10:48. Nobody queues: one bench alone takes 16 min, and the phases leave 13 min.", v[0].Says)
}

func TestAClassOfOne(t *testing.T) {
	l := eight(4)
	l.Class.Learners = 1
	_, p, v := plan(t, l)
	assert.Equal(t, "1 learner alone, at 1 of the 4 benches.", v[4].Says)
	assert.Len(t, p.Groups, 1)
}

func TestSharedBenches(t *testing.T) {
	l := eight(1)
	benches := l.Benches()
	assert.Equal(t, "Bench 1a", benches[0].Name)
	assert.Equal(t, "Bench 4b", benches[7].Name)
	for _, e := range l.Fit().Equipment {
		if e.ID == "ring" {
			assert.Len(t, e.Units, 1, "two who share a bench share its rings")
		}
	}
}

// Nine learners by pairs are one three and three pairs: two sizes of dish,
// each with the work that its pieces take.
func TestGroupsOfTwoSizes(t *testing.T) {
	l := eight(2)
	l.Class.Learners = 9
	assert.Equal(t, 4, l.Kinds()[0].Pieces)
	assert.Equal(t, 6, l.Kinds()[1].Pieces)
	f := l.Fit()
	require.Len(t, f.Dishes, 2)
	assert.Equal(t, []string{"bars", "bars-4"}, []string{f.Dishes[0].ID, f.Dishes[1].ID})
	assert.Equal(t, "6", f.Dishes[0].Steps[1].Work.String())
	assert.Equal(t, "4", f.Dishes[1].Steps[1].Work.String())
	needs := l.Needs()[0]
	_, _, v := plan(t, l)
	assert.Equal(t, "1 of 2", about(v, "amounts").Head, "each amount counts once, whatever the sizes")
	// 6 + 3·4 bars at the benches, 8 in the demonstration, 4 spare: 30/8 · 200 g.
	assert.Equal(t, "450 g", needs[0].Benches.String())
	assert.Equal(t, "750 g", needs[0].Total.String())
	assert.Equal(t, "4 sets, the demonstration and 1 spare", l.Sets())
}

func TestCheckSpeaksOfTheForm(t *testing.T) {
	for _, c := range []struct {
		name  string
		spoil func(l *lesson.Lesson)
		path  string
		says  string
	}{
		{"a class of none", func(l *lesson.Lesson) { l.Class.Learners = 0 }, "class", "4 Finch has no learners. Choose another class, or add learners to this one."},
		{"too many learners", func(l *lesson.Lesson) { l.Class.Learners = 40 }, "class", "40 learners don't fit: the Small Room has 4 benches and is safe for 10. Split the class or take another room."},
		{"too many groups", func(l *lesson.Lesson) { l.Class.Learners, l.GroupSize = 10, 1 }, "group_size", "10 groups need 10 places to work, and the Small Room has 8 (4 benches of 2). Make the groups larger."},
		{"a group of none", func(l *lesson.Lesson) { l.GroupSize = 0 }, "group_size", "Learners in a group: 0 is not between 1 and 8."},
		{"no bars", func(l *lesson.Lesson) { l.Menu[0].Each = 0 }, "menu[0].each", "Bars for each learner: 0 is not between 1 and 100."},
		{"too many spares", func(l *lesson.Lesson) { l.Spare = 11 }, "spare", "Spare sets: 11 is not between 0 and 10."},
		{"long phases", func(l *lesson.Lesson) { l.Phases[1].Minutes = exact.Int(60) }, "phases", "the phases at the start and the end take 77 minutes, and the period has only 60"},
	} {
		t.Run(c.name, func(t *testing.T) {
			l := eight(2)
			c.spoil(&l)
			assert.Equal(t, problem.List{{Path: c.path, Says: c.says}}, l.Check())
		})
	}
}

func TestMinutesAsTeachersSayThem(t *testing.T) {
	for m, want := range map[float64]string{0: "0 min", 0.4: "½ min", 1.49: "1½ min", 2.2: "2 min", 9.6: "9½ min", 12.4: "12 min"} {
		assert.Equal(t, want, lesson.Minutes(m))
	}
}

// The safety sheet is a verdict of its own: open, out of date, signed, and whatever its state, not safe for somebody.
func TestTheSafetySheetsVerdict(t *testing.T) {
	for _, x := range []struct {
		state  string
		unsafe int
		light  lesson.Light
		head   string
	}{
		{"signed", 0, lesson.Good, "Signed"}, {"open", 0, lesson.Look, "Not signed"}, {"stale", 0, lesson.Stop, "Out of date"},
		{"signed", 1, lesson.Stop, "Not safe for 1"}, {"open", 2, lesson.Stop, "Not safe for 2"},
	} {
		v := lesson.SafetyVerdict(x.state, x.unsafe)
		assert.Equal(t, []any{x.light, x.head, "safety"}, []any{v.Light, v.Head, v.About}, x)
	}
	assert.Equal(t, "what their bench makes is not for them. The safety sheet waits for a name.", lesson.SafetyVerdict("open", 1).Says)
}

// The ovens of a room are those at work and those that are out of order, and nothing else that is.
func TestOvensOfARoom(t *testing.T) {
	r := small
	r.Equipment = slices.Clone(r.Equipment)
	r.Equipment[0].Units = []fit.Unit{{ID: "o1", Name: "Oven 1", Places: 2}}
	r.Equipment[1].Units = []fit.Unit{{ID: "r1", Name: "Ring 1", Places: 1}}
	r.Out = []fit.Unit{{ID: "o2", Name: "Oven 2"}, {ID: "b1", Name: "Blender"}}
	r.Ovens = map[string]measure.Oven{"o1": {}, "o2": {}}
	assert.Equal(t, []room.Named{{ID: "o1", Name: "Oven 1"}, {ID: "o2", Name: "Oven 2"}}, r.OvensOf())
}

// How many sets of ingredients are laid out.
func TestSetsOfIngredients(t *testing.T) {
	l := eight(2)
	assert.Equal(t, "4 sets, the demonstration and 1 spare", l.Sets())
	l.Menu[0].Demo, l.Spare = 0, 2
	assert.Equal(t, "4 sets and 2 spare", l.Sets())
	l.Spare, l.GroupSize = 0, 8
	assert.Equal(t, "1 set", l.Sets())
}
