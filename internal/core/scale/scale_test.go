package scale_test

import (
	"fmt"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"freshapron/internal/core/exact"
	"freshapron/internal/core/measure"
	"freshapron/internal/core/recipe"
	"freshapron/internal/core/scale"
)

func ExampleGroups() {
	fmt.Println(scale.Groups(26, 2, 12), scale.Groups(9, 4, 12))
	// Output: [3 3 2 2 2 2 2 2 2 2 2 2] [5 4]
}

func TestGroups(t *testing.T) {
	assert.Equal(t, []int{2, 2, 2}, scale.Groups(6, 2, 12))
	assert.Equal(t, []int{3, 2, 2}, scale.Groups(7, 2, 12), "nobody is left alone")
	assert.Equal(t, []int{4, 4, 3}, scale.Groups(11, 4, 12))
	assert.Equal(t, []int{1, 1, 1}, scale.Groups(3, 1, 2), "alone is alone; the room is told apart")
	assert.Equal(t, []int{1}, scale.Groups(1, 4, 12))
	assert.Nil(t, scale.Groups(0, 2, 12))
}

func TestGroupsHoldEveryLearner(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		learners, size := rapid.IntRange(1, 60).Draw(t, "learners"), rapid.IntRange(1, 6).Draw(t, "size")
		sum, least, most := 0, 1000, 0
		for _, n := range scale.Groups(learners, size, 12) {
			sum += n
			least, most = min(least, n), max(most, n)
		}
		assert.Equal(t, learners, sum)
		assert.LessOrEqual(t, most-least, 1)
	})
}

// Half fat to flour, raised and salted, bound with egg.
var dough = recipe.Recipe{
	ID: "dough", Yield: 8, Piece: "piece", Pieces: "pieces", Each: 4,
	Ingredients: []recipe.Ingredient{
		{Quantity: measure.Q("225", measure.Gram), Pantry: "plain-flour", Law: recipe.Linear},
		{Quantity: measure.Q("3", measure.Gram), Pantry: "baking-powder", Law: recipe.Linear},
		{Quantity: measure.Q("1", measure.Each), Pantry: "egg-medium", Law: recipe.Whole},
		{Quantity: measure.Q("1/4", measure.Teaspoon), Pantry: "pepper", Law: recipe.Taste},
		{Quantity: measure.Q("75", measure.Millilitre), Pantry: "milk", Law: recipe.Linear},
	},
}

var drawer = measure.Instruments{
	Scales: []measure.Scale{{Division: exact.Int(1), Least: exact.Int(2)}},
	Spoons: measure.SpoonSet,
	Jugs:   []measure.Jug{{Marks: exact.Int(25), Holds: exact.Int(500)}},
}

func TestHalfARecipe(t *testing.T) {
	require.NoError(t, dough.Check())
	a := scale.Amounts(dough, 4, drawer)
	assert.Equal(t, "112.5 g", a[0].Exact.String())
	assert.Equal(t, "113 g", a[0].Best().Says)
	assert.True(t, a[0].Measurable())

	assert.Equal(t, "1.5 g", a[1].Exact.String())
	assert.Nil(t, a[1].ByWeight, "the scale starts at 2 g")
	assert.Equal(t, "¼ tsp", a[1].ByVolume.Says)
	assert.False(t, a[1].Measurable(), "1.25 ml for 1.67 ml")

	assert.Equal(t, "1", a[2].Exact.String())
	assert.Equal(t, "whole ones: ½ would be exact", a[2].Says)

	assert.Equal(t, "⅛ tsp", a[3].Exact.String())
	assert.Equal(t, "a start: taste, then add", a[3].Says)

	assert.Equal(t, "2½ tbsp", a[4].ByVolume.Says)
	assert.Equal(t, "39 g", a[4].ByWeight.Says)
}

func TestTasteIsNotMultiplied(t *testing.T) {
	a := scale.Amounts(dough, 16, drawer)
	assert.Equal(t, "¼ tsp", a[3].Exact.String())
	assert.Equal(t, "2", a[2].Exact.String())
}

// Twelve benches of 4 and one of 6, a demonstration of 8 and a spare of 4:
// 54 pieces at the benches are 54/8 · 225 g of flour, 66 in all.
func TestClass(t *testing.T) {
	benches := []int{4, 4, 4, 4, 4, 4, 4, 4, 4, 4, 4, 4, 6}
	needs := scale.Class(dough, benches, []int{8, 4})
	assert.Equal(t, "1.52 kg", needs[0].Benches.String())
	assert.InDelta(t, 54.0/8*225, needs[0].Benches.Amount.Float(), 1e-9)
	assert.InDelta(t, 66.0/8*225, needs[0].Total.Amount.Float(), 1e-9)
	assert.Equal(t, "13", needs[2].Benches.String(), "each bench breaks its own egg")
	assert.Equal(t, "15", needs[2].Total.String())
}

// Scaling to any size and back gives the recipe.
func TestThereAndBack(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		pieces := rapid.IntRange(1, 200).Draw(t, "pieces")
		for i, s := range scale.Amounts(dough, pieces, drawer) {
			back := s.Linear.Times(exact.Frac(8, int64(pieces)))
			assert.Zero(t, back.Amount.Cmp(dough.Ingredients[i].Amount))
		}
	})
}

func TestRecipeCheck(t *testing.T) {
	bad := dough
	bad.Yield = 0
	bad.Ingredients = []recipe.Ingredient{{Quantity: measure.Q("0", measure.Gram), Pantry: "moon-dust", Law: recipe.Whole}}
	assert.EqualError(t, bad.Check(), `yield: is 0; a recipe makes at least 1 piece
ingredients[0]: there is no "moon-dust" in the pantry
ingredients[0]: has no amount
ingredients[0]: is measured, not counted, so it can't be kept whole`)
}
