package scale_test

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"freshapron/internal/core/exact"
	"freshapron/internal/core/measure"
	"freshapron/internal/core/pantry"
	"freshapron/internal/core/recipe"
	"freshapron/internal/core/scale"
)

// Which measure comes first is the school's choice, on every card and sheet.
func TestTold(t *testing.T) {
	for _, c := range []struct{ line, weight, volume string }{
		{"250 g plain flour", "250 g plain flour", "250 g plain flour"}, // no spoons for so much
		{"45 g honey", "45 g or 2 tbsp + ¼ tsp honey", "2 tbsp + ¼ tsp honey"},
		{"2 eggs", "2 eggs", "2 eggs"},
		{"1 egg", "1 egg", "1 egg"},
		{"200 ml semi-skimmed milk", "206 g or 200 ml semi-skimmed milk", "200 ml semi-skimmed milk"},
		{"pepper", "to taste pepper", "to taste pepper"},
	} {
		r := recipe.Recipe{Yield: 1, Ingredients: ingredients(c.line)}
		for volume, want := range map[bool]string{false: c.weight, true: c.volume} {
			k := kitchen
			k.Volume = volume
			amount, name := k.Amounts(r, 1)[0].Told()
			assert.Equal(t, want, amount+" "+name, "volume first: %t", volume)
		}
	}
}

// Within the tolerance is within it at its end.
func TestMeasurableAtTheEnd(t *testing.T) {
	s := func(rounding, tolerance float64) scale.Scaled {
		return scale.Scaled{Line: recipe.Ingredient{Quantity: measure.Q("1", measure.Gram)}, Tolerance: tolerance, ByWeight: &measure.Instruction{Rounding: rounding, Actions: 1}}
	}
	assert.True(t, s(0.1, 0.1).Measurable())
	assert.True(t, s(-0.1, 0.1).Measurable())
	assert.False(t, s(0.101, 0.1).Measurable())
	assert.False(t, scale.Scaled{Tolerance: 1}.Measurable(), "no amount is given")
}

// How many groups there are: the nearest number, halves towards larger groups.
func TestGroupsAtTheirEnds(t *testing.T) {
	for _, c := range []struct {
		learners, size, room int
		want                 []int
	}{
		{0, 2, 4, nil}, {2, 0, 4, nil}, {2, 2, 0, nil}, {1, 1, 1, []int{1}}, {1, 4, 4, []int{1}},
		{5, 2, 9, []int{3, 2}}, {7, 2, 9, []int{3, 2, 2}}, {7, 3, 9, []int{4, 3}}, {8, 3, 9, []int{3, 3, 2}}, {9, 2, 3, []int{3, 3, 3}}, {3, 1, 1, []int{1, 1, 1}},
	} {
		assert.Equal(t, c.want, scale.Groups(c.learners, c.size, c.room), "%+v", c)
	}
}

// What has no price is named, and the rest is added up.
func TestCostOfWhatIsPriced(t *testing.T) {
	r := recipe.Recipe{Yield: 1, Ingredients: append(ingredients("1 kg plain flour"), recipe.Ingredient{Name: "moon dust", Quantity: measure.Q("5", measure.Gram)})}
	flour, _ := kitchen.Pantry.Find("plain-flour")
	pence, unpriced := kitchen.Cost(r, exact.Int(2))
	want, ok := flour.Pence(measure.Q("2", measure.Kilogram))
	assert.True(t, ok)
	assert.Zero(t, want.Cmp(pence))
	assert.Equal(t, []string{"moon dust"}, unpriced)
}

// The recipe's own word follows its amount in the singular or the plural where the pantry
// has both, and stays as it is where it has not.
func TestNamesFollowTheirAmounts(t *testing.T) {
	k := scale.Kitchen{Pantry: pantry.Stock(), Tolerances: pantry.Usual}
	for line, want := range map[string][2]string{ // for one portion, for four
		"4 eggs": {"1 egg", "4 eggs"}, "4 wraps": {"1 wrap", "4 wraps"}, "4 floury potatoes": {"1 floury potato", "4 floury potatoes"}, "4 bay leaves": {"1 bay leaf", "4 bay leaves"},
		"4 chicken breast": {"1 chicken breast", "4 chicken breasts"}, "4 cod": {"1 cod", "4 cod"}, "4 salmon": {"1 salmon", "4 salmon"}, "4 large eggs": {"1 large egg", "4 large eggs"},
	} {
		r := recipe.Recipe{Yield: 4, Ingredients: []recipe.Ingredient{recipe.TakeLine(line, "", measure.Metric, k.Pantry).Ingredient}}
		var got [2]string
		for n, pieces := range []int{1, 4} {
			amount, name := k.Amounts(r, pieces)[0].Told()
			got[n] = amount + " " + name
		}
		assert.Equal(t, want, got, line)
	}
}
