package lesson_test

import (
	"testing"

	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"freshapron/internal/core/exact"
	"freshapron/internal/core/lesson"
	"freshapron/internal/core/measure"
	"freshapron/internal/core/pantry"
	"freshapron/internal/core/recipe"
	"freshapron/internal/demo"
)

var shelf = []recipe.Recipe{demo.Dish("rainbow-slaw"), demo.Dish("turkey-koftas"), demo.Dish("leek-tartlets"), demo.Dish("fruit-crumble")}

// ofTheShelf makes up a lesson with a dish of the demonstration's shelf.
func ofTheShelf(t *rapid.T) lesson.Lesson {
	r := rapid.SampledFrom(shelf).Draw(t, "dish")
	size := rapid.IntRange(1, 4).Draw(t, "size")
	return lesson.Lesson{
		Date: "2026-11-26", Start: 600, End: 700, Phases: lesson.UsualPhases(), Menu: []lesson.Course{{Recipe: r, Each: rapid.IntRange(1, max(1, r.Yield)).Draw(t, "each"), Demo: rapid.IntRange(0, 2).Draw(t, "demo") * r.Yield}}, Pantry: pantry.Stock(), Tolerances: pantry.Usual,
		Class: lesson.Class{Name: "8 Hazel", Learners: rapid.IntRange(1, min(36, 24*size)).Draw(t, "learners"), Pace: exact.Int(1)}, Room: demo.FoodRoom(),
		GroupSize: size, Spare: rapid.IntRange(0, 2).Draw(t, "spare"),
	}
}

// anyOfTheShelf draws one whose groups find room.
var anyOfTheShelf = rapid.Custom(ofTheShelf).Filter(func(l lesson.Lesson) bool { return l.Check() == nil })

// Everybody is at one bench, every bench makes a piece or so for each of its
// cooks, and what the class needs is what its benches measure out together,
// with the demonstration and the spare sets on top.
func TestSumsOfALesson(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		l := anyOfTheShelf.Draw(t, "lesson")
		c := l.Menu[0]
		cooks, pieces, least, most := 0, 0, 99, 0
		for _, b := range l.Benches() {
			cooks += b.Cooks
			pieces += b.Makes[0].Pieces
			least, most = min(least, b.Cooks), max(most, b.Cooks)
			require.Equal(t, b.Cooks*c.Each, b.Makes[0].Pieces, b.Name)
		}
		require.Equal(t, l.Class.Learners, cooks)
		require.Equal(t, l.Class.Learners*c.Each, pieces)
		require.LessOrEqual(t, most-least, 1, "groups differ by one at most")

		benches := 0
		sums := make([]exact.Number, len(c.Recipe.Ingredients))
		weighed := make([]bool, len(sums))
		for _, k := range l.Kinds() {
			benches += len(k.Benches)
			for i, a := range l.Kitchen().Amounts(k.Recipe, k.Pieces) {
				g, ok := a.Stock.Grams(a.Exact)
				if !ok || a.Line.Law != recipe.Linear {
					continue
				}
				weighed[i] = true
				sums[i] = sums[i].Add(g.Mul(exact.Int(int64(len(k.Benches)))))
			}
		}
		require.Equal(t, len(l.Benches()), benches)
		spare := l.Spare * l.Kinds()[0].Pieces
		checked := 0
		for i, n := range l.Needs()[0] {
			if !weighed[i] {
				continue
			}
			in := c.Recipe.Ingredients[i]
			stock, _ := l.Pantry.Find(in.Pantry)
			grams := func(q measure.Quantity) float64 {
				g, ok := stock.Grams(q)
				require.True(t, ok)
				return g.Float()
			}
			want := sums[i].Float()
			require.InDelta(t, want, grams(n.Benches), 1e-6*want+1e-9, in.Name)
			onePiece := grams(in.Quantity) / float64(c.Recipe.Yield)
			require.InDelta(t, want+onePiece*float64(c.Demo+spare), grams(n.Total), 1e-6*want+1e-6, in.Name)
			checked++
		}
		require.Greater(t, checked, 2)
	})
}

// With nobody away and no rules, the bench of a learner does not depend on
// what is cooked.
func TestGroupsDoNotDependOnTheDish(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		l := anyOfTheShelf.Draw(t, "lesson")
		other := l
		other.Menu, other.Spare = []lesson.Course{{Recipe: shelf[0], Each: 1}}, 0
		a, b := l.Benches(), other.Benches()
		require.Len(t, b, len(a))
		for i := range a {
			require.Equal(t, a[i].Cooks, b[i].Cooks)
			require.Equal(t, a[i].Name, b[i].Name)
		}
	})
}
