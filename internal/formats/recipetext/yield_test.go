package recipetext_test

import (
	"fmt"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"freshapron/internal/core/measure"
	"freshapron/internal/core/pantry"
	"freshapron/internal/core/recipe"
	"freshapron/internal/formats/recipetext"
)

// Yields as recipes write them.
func TestYieldsInAnyForm(t *testing.T) {
	for text, want := range map[string]string{
		"Serves 4":                      "4 portions",
		"Serves 4-6":                    "4 portions",
		"Serves: 4 to 6 people":         "4 portions",
		"Serves four":                   "4 portions",
		"Serves 6 as a starter":         "6 portions",
		"For 4 persons":                 "4 portions",
		"Feeds 8":                       "8 portions",
		"Enough for six":                "6 portions",
		"12 servings":                   "12 portions",
		"4 portioner":                   "4 portions",
		"4 Portionen":                   "4 portions",
		"Für 4 Personen":                "4 portions",
		"Pour 6 personnes":              "6 portions",
		"Makes 8 scones":                "8 scones",
		"Makes 2 dozen":                 "24 pieces",
		"Makes about 20 small biscuits": "20 biscuits",
		"Makes a dozen muffins":         "12 muffins",
		"Makes 12-14 buns":              "12 buns",
		"Cuts into 16":                  "16 pieces",
		"Cuts into 16 slices":           "16 slices",
		"Yield: 12":                     "12 pieces",
		"Ergibt 12 Stück":               "12 stück",
		"This recipe makes 10 rolls.":   "10 rolls",
		"Makes 1 loaf":                  "1 loaves",
		"Bake for 4 minutes":            "",
		"For the topping":               "",
		"Makes a lovely lunch":          "",
	} {
		var r recipe.Recipe
		got := ""
		if recipetext.SetYield(&r, text) {
			got = fmt.Sprint(r.Yield, " ", r.Pieces)
		}
		assert.Equal(t, want, got, text)
	}
}

// A step that begins with "Tip" is a step; a tip is not.
func TestTippingIsAStep(t *testing.T) {
	read := recipetext.Read("Dough\n\nServes 2\n\nIngredients\n100 g plain flour\n\nMethod\n1. Tip the flour into a bowl.\n2. Tip: keep it dry.\n3. Chef's tip: sieve it.\nMix for 5 minutes.\n", measure.Metric, pantry.Stock())
	var titles []string
	for _, s := range read.Recipe.Steps {
		titles = append(titles, s.Title)
	}
	assert.Equal(t, []string{"Tip the flour into a bowl", "Mix for 5 minutes"}, titles)
	require.Len(t, read.Recipe.Leftover, 2)
}
