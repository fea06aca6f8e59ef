package recipetext_test

import (
	"bytes"
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"freshapron/internal/core/fit"
	"freshapron/internal/core/measure"
	"freshapron/internal/core/pantry"
	"freshapron/internal/core/recipe"
	"freshapron/internal/formats/recipetext"
)

func read(text string) recipetext.Reading {
	return recipetext.Read(text, measure.Metric, pantry.Stock())
}

func ExampleRead() {
	r := read("Oat bars\nServes 8\n\n200 g oats\n100g butter\n\nMelt the butter. Stir in the oats and bake at 180C for 25 minutes until golden.")
	steps := r.Recipe.Steps
	fmt.Println(r.Recipe.Title, r.Recipe.Yield, len(r.Recipe.Ingredients), steps[len(steps)-1].Wait)
	// Output: Oat bars 8 2 25
}

func TestPlainText(t *testing.T) {
	r := read(`Simple scones
A bake for beginners.
Serves 4

INGREDIENTS
8 oz / 225 g self-raising flour
50g butter
For the top:
1 tbsp milk

Method:
1. Heat the oven to 220C.
2. Rub the butter into the flour.
Step 3: Bake for 12-15 minutes.

Tip: eat them warm`)
	assert.Equal(t, "Simple scones", r.Recipe.Title)
	assert.Equal(t, "A bake for beginners", r.Recipe.Why)
	assert.Equal(t, 4, r.Recipe.Yield)
	require.Len(t, r.Recipe.Ingredients, 3)
	assert.Equal(t, "Top", r.Recipe.Ingredients[2].Part)
	require.Len(t, r.Recipe.Steps, 3)
	assert.Equal(t, "Bake for 12-15 minutes.", r.Recipe.Steps[2].Text)
	assert.Equal(t, "27/2", r.Recipe.Steps[2].Wait.String(), "the middle of what is said")
	assert.Equal(t, "220", r.Recipe.Steps[2].Uses[0].Temperature.String())
	assert.Equal(t, []string{"Tip: eat them warm"}, r.Recipe.Leftover)
	assert.Contains(t, strings.Join(r.Notes, "\n"), "Not understood, kept as it is: “Tip: eat them warm”")
}

func TestYields(t *testing.T) {
	for text, want := range map[string]string{
		"Serves 4": "4 portion portions", "serves: 6 people": "6 portion portions", "Makes 12 buns": "12 bun buns", "Makes 8 loaves (loaf)": "8 loaf loaves",
		"Makes about 20": "20 piece pieces", "Portions: 3": "3 portion portions", "For 2 people": "2 portion portions", "Yield: 1 cake": "1 cake cakes",
	} {
		var r recipe.Recipe
		assert.True(t, recipetext.SetYield(&r, text), text)
		assert.Equal(t, want, fmt.Sprint(r.Yield, " ", r.Piece, " ", r.Pieces), text)
	}
	var r recipe.Recipe
	for _, text := range []string{"", "a crowd", "Serves many", "Makes it easy"} {
		assert.False(t, recipetext.SetYield(&r, text), text)
	}
}

func TestMarkdownOfOthers(t *testing.T) {
	r := read("# Quick dal\n\n**Serves:** 2\n\n## Ingredients\n* 100 g red lentils\n* 1 onion\n\n## Directions\n1. Chop the onion.\n2. Simmer everything for 20 minutes.\n\n## Nutrition\nlots")
	assert.Equal(t, "Quick dal", r.Recipe.Title)
	assert.Equal(t, 2, r.Recipe.Yield)
	require.Len(t, r.Recipe.Steps, 2)
	assert.Equal(t, []fit.After{{Step: r.Recipe.Steps[0].ID}}, r.Recipe.Steps[1].After, "one after the other until somebody says otherwise")
	assert.Equal(t, []string{"lots"}, r.Recipe.Leftover)
}

func TestTimingThatIsNotUnderstood(t *testing.T) {
	r := read("# X\n\n- Makes: 1 x (x)\n\n## Method\n\n### 1. Mix {#mix}\n\n_mix, five minutes_\n\nMix it.\n")
	require.Len(t, r.Notes, 1)
	assert.Contains(t, r.Notes[0], "“five minutes” is not understood")
}

func TestTins(t *testing.T) {
	for _, text := range []string{"sandwich tin, 18 cm across", "oven dish, 18 × 13 cm", "roll tin, 30 × 20 cm, 2.5 cm deep", "muffin tin, 7 cm across, 3 cm deep, 12 of them"} {
		tin, ok := recipetext.ParseTin(text)
		require.True(t, ok, text)
		assert.Equal(t, text, recipetext.TinLine(*tin))
	}
	_, ok := recipetext.ParseTin("a big tin")
	assert.False(t, ok)
}

func TestCorrecting(t *testing.T) {
	text := "Dough:\n- 200 g plian flour\n\n- 50 g butter {taste}\n"
	text = recipetext.Correct(text, 0, "is plain-flour")
	text = recipetext.Correct(text, 1, "fixed")
	text = recipetext.Correct(text, 9, "taste")
	assert.Equal(t, "Dough:\n- 200 g plian flour {is plain-flour}\n\n- 50 g butter {fixed}\n", text)
	takes := recipetext.Ingredients(text, measure.Metric, pantry.Stock())
	require.Len(t, takes, 2)
	assert.Equal(t, "plain-flour", takes[0].Ingredient.Pantry)
	assert.False(t, takes[0].Unsure())
	assert.Equal(t, recipe.Fixed, takes[1].Ingredient.Law)
}

func TestLists(t *testing.T) {
	var r recipe.Recipe
	left := recipetext.Lists(&r, map[string]string{
		"words": "Roux: fat and flour\nnonsense", "questions": "Why? → Because.\nSpot the mistake: I burn it → Lower the heat",
		"swaps": "milk -> 100 ml oat drink (vegan): thinner\nno arrow", "choices": "Choose 2: extras\nApple: 1 apple; 1 tsp sugar\nhm",
	}, measure.Metric, pantry.Stock())
	assert.ElementsMatch(t, []string{"nonsense", "no arrow", "hm"}, left)
	assert.Equal(t, []recipe.Question{{Ask: "Why?", Answer: "Because."}, {Ask: "I burn it", Answer: "Lower the heat", Spot: true}}, r.Questions)
	assert.Equal(t, recipe.Swap{For: "milk", Use: "100 ml oat drink", Why: "vegan", Note: "thinner"}, r.Swaps[0])
	require.Len(t, r.Choices, 1)
	assert.Len(t, r.Choices[0].Options[0].Ingredients, 2)
	for name, want := range map[string]string{"words": "**Roux**: fat and flour", "swaps": "milk → 100 ml oat drink (vegan): thinner"} {
		assert.Equal(t, want, recipetext.ListText(r, name, pantry.Stock()))
	}
}

// Whatever is pasted, nothing is lost: every word is somewhere in the recipe
// or in what was not understood; and what is written is read.
func FuzzRead(f *testing.F) {
	f.Add("Scones\nServes 4\n\nIngredients\n225 g flour\n\nMethod\n1. Mix.")
	f.Add("# A\n\n## Choose 1: x\n- **B**: 1 egg\n\n## Method\n### Mix {#mix}\n_mix, 5 min_\n")
	f.Fuzz(func(t *testing.T, text string) {
		r := read(text).Recipe
		var b bytes.Buffer
		if err := recipetext.Write(&b, r, pantry.Stock()); err != nil {
			t.Fatal(err)
		}
		again := read(b.String()).Recipe
		if len(again.Ingredients) != len(r.Ingredients) && r.Title != "" {
			t.Errorf("%d ingredients became %d\n%s", len(r.Ingredients), len(again.Ingredients), b.String())
		}
	})
}
