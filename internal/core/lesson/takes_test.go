package lesson_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"freshapron/internal/core/exact"
	"freshapron/internal/core/lesson"
	"freshapron/internal/core/rescue"
	"freshapron/internal/core/scale"
	"freshapron/internal/demo"
)

// Whatever the class: what the places of a lesson take adds up to what the class
// needs, line by line, with the demonstration and the spare sets.
func TestTakesAddUpToTheNeeds(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		l := anyOfTheShelf.Draw(t, "lesson")
		r := l.Menu[0].Recipe
		sums := map[string]exact.Number{}
		places := map[string]bool{}
		for _, take := range l.Takes(lesson.Home{}) {
			sums[take.Line.Line()] = sums[take.Line.Line()].Add(take.Amount.Amount)
			places[take.Place] = true
			require.Zero(t, take.Home.Sign())
		}
		wantPlaces := len(l.Benches())
		if l.Menu[0].Demo > 0 {
			wantPlaces++
		}
		if l.Spare > 0 {
			wantPlaces++
		}
		require.Len(t, places, wantPlaces)
		want := map[string]exact.Number{}
		for _, in := range r.Ingredients {
			if !in.Given() {
				continue
			}
			add := func(pieces int) {
				want[in.Line()] = want[in.Line()].Add(scale.Used(in, exact.Frac(int64(pieces), int64(r.Yield))).Amount)
			}
			for _, b := range l.Benches() {
				add(b.Makes[0].Pieces)
			}
			if l.Menu[0].Demo > 0 {
				add(l.Menu[0].Demo)
			}
			for range l.Spare {
				add(l.Kinds()[0].Pieces)
			}
		}
		require.Equal(t, want, sums)
	})
}

// Of a line that learners bring the school gives the rest; what is swapped in at a
// bench is brought as what it stands for would be.
func TestWhatLearnersBring(t *testing.T) {
	l := eight(2)
	h := lesson.Home{Lines: []lesson.HomeLine{{Dish: "bars", Name: "plain flour"}}}
	for _, take := range l.Takes(h) {
		switch {
		case take.Line.Name == "plain flour" && take.Place != lesson.AtDemonstration && take.Place != lesson.AtSpare:
			assert.Equal(t, exact.Int(1), take.Home, take.Place)
		default:
			assert.Zero(t, take.Home.Sign(), "%s at %s", take.Line.Name, take.Place)
		}
	}
	assert.Empty(t, l.UsualHome().Lines)
	l.Menu[0].Recipe = l.Menu[0].Recipe.Clone()
	l.Menu[0].Recipe.Ingredients[0].Brought = true
	assert.Equal(t, h, l.UsualHome())
}

// What goes into a part that is bought ready-made is neither measured out nor
// bought beside it.
func TestReadyMadeIsNotBoughtTwice(t *testing.T) {
	r := demo.Dish("leek-tartlets")
	l := eight(2)
	l.Room = demo.FoodRoom()
	l.Menu = []lesson.Course{{Recipe: r, Each: r.Each, Demo: r.Yield}}
	names := func() string {
		var out []string
		for _, f := range l.Fetch() {
			out = append(out, f.Says())
		}
		return strings.Join(out, "; ")
	}
	before := names()
	require.Contains(t, before, "plain flour")
	l.Changes = []rescue.Change{{Kind: rescue.ReadyMade, Dish: "leek-tartlets", Step: "rest"}}
	after := names()
	assert.NotContains(t, after, "plain flour")
	assert.Contains(t, after, "g butter", "the filling's stays")
	assert.Contains(t, after, "leeks")
	for _, take := range l.Takes(lesson.Home{}) {
		assert.NotContains(t, take.Line.Name, "flour")
	}
	cost, _ := l.Cost()
	l.Changes = nil
	whole, _ := l.Cost()
	assert.True(t, cost.Less(whole))
}
