package recipe_test

import (
	"fmt"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"freshapron/internal/core/exact"
	"freshapron/internal/core/fit"
	"freshapron/internal/core/measure"
	"freshapron/internal/core/pantry"
	"freshapron/internal/core/recipe"
)

func ingredients(lines ...string) []recipe.Ingredient {
	var out []recipe.Ingredient
	for _, t := range recipe.TakeLines(lines, measure.Metric, pantry.Stock()) {
		out = append(out, t.Ingredient)
	}
	return out
}

func step(id, timing, text string) recipe.Step {
	s := recipe.Step{Text: text}
	if problems := recipe.ParseTiming(timing, &s); problems != nil {
		panic(problems)
	}
	s.ID, s.Title = id, strings.ToUpper(id[:1])+id[1:]
	return s
}

// sound is a recipe about which the check has nothing to say.
func sound() recipe.Recipe {
	bake := step("bake", "bake, 1 min, wait 20 min, after mix, oven 190 °C while waiting", "Bake for 20 minutes on the baking tray until golden.")
	bake.Hazard = "Hot tray: dry oven gloves."
	return recipe.Recipe{
		ID: "squares", Title: "Turkey squares", Yield: 8, Piece: "square", Pieces: "squares", Each: 4,
		Ingredients: ingredients("200 g turkey mince", "1 onion", "50 g oats", "1 tsp paprika", "salt, to taste"),
		Steps: []recipe.Step{
			step("weigh", "weigh, 4 min", "Wash your hands. Heat the oven to 190 °C. Weigh the oats."),
			func() recipe.Step {
				s := step("chop", "cut, 6 min, after weigh", "Dice the onion with the vegetable knife.")
				s.Hazard = "Knife: claw hold. After raw turkey wash board and hands with soap."
				return s
			}(),
			step("mix", "mix, 4 min, after chop", "Mix turkey, onion, oats, paprika and salt."),
			bake,
			step("probe", "cook, 1 min, after bake", "Push the probe into the middle until it stands still."),
			step("wash", "clean, 6 min, after mix", "Wash up, then wipe the bench."),
		},
		Equipment: []string{"mixing bowl", "vegetable knife and board", "baking tray", "probe"},
		Contains:  []string{"oats"},
	}
}

func ExampleCheck() {
	r := sound()
	r.Ingredients[0].Amount = exact.Int(0)
	for _, f := range recipe.Check(r, pantry.Stock()) {
		fmt.Println(f.Where, f.Says)
	}
	// Output: ingredients[0] “turkey mince” has no amount: thirty learners will take thirty amounts.
}

func TestSoundRecipe(t *testing.T) {
	require.NoError(t, sound().Problems())
	assert.Empty(t, recipe.Check(sound(), pantry.Stock()))
	assert.GreaterOrEqual(t, len(recipe.RuleNames()), 16)
}

// Each rule finds what it is for and nothing else, and its mend mends it.
func TestRules(t *testing.T) {
	pastry := func(lines ...string) func(*recipe.Recipe) {
		return func(r *recipe.Recipe) {
			r.Title = "Pastry squares"
			r.Ingredients = ingredients(lines...)
			r.Steps[2].Text = "Mix everything."
			r.Contains = []string{"wheat", "milk", "eggs", "oats", "cereals containing gluten"}
		}
	}
	for _, c := range []struct {
		rule  string
		spoil func(*recipe.Recipe)
		where string
		says  string
		mends bool
	}{
		{"no-yield", func(r *recipe.Recipe) { r.Yield = 0 }, "yield", "does not say how many", false},
		{"no-ingredients", func(r *recipe.Recipe) { r.Ingredients = nil }, "ingredients", "no ingredient", false},
		{"no-steps", func(r *recipe.Recipe) { r.Steps = nil; r.Ingredients = ingredients("50 g oats"); r.Equipment = nil }, "steps", "no step", false},
		{"unknown-ingredient", func(r *recipe.Recipe) { r.Ingredients[2].Pantry, r.Ingredients[2].Name = "", "oatz" }, "ingredients[2]", "not in the pantry", true},
		{"no-amount", func(r *recipe.Recipe) { r.Ingredients[2].Amount = exact.Number{} }, "ingredients[2]", "no amount", false},
		{"unit-misfit", func(r *recipe.Recipe) {
			r.Ingredients = append(r.Ingredients, ingredients("2 cups of eggs")...)
			r.Contains = []string{"oats", "eggs"}
			r.Steps[2].Text += " Add the eggs."
		}, "ingredients[5]", "does not measure what is counted", false},
		{"amounts-differ", func(r *recipe.Recipe) { r.Ingredients[2] = ingredients("8 oz / 50 g oats")[0] }, "ingredients[2]", "are not the same", true},
		{"part-of-an-egg", func(r *recipe.Recipe) {
			r.Ingredients = append(r.Ingredients, ingredients("1½ eggs")...)
			r.Contains = []string{"oats", "eggs"}
			r.Steps[2].Text += " Add the egg."
		}, "ingredients[5]", "nobody can break a part", true},
		{"twice-listed", func(r *recipe.Recipe) { r.Ingredients = append(r.Ingredients, ingredients("20 g oats")...) }, "ingredients[5]", "twice", true},
		{"unusual-ratio", pastry("200 g turkey mince", "120 g plain flour", "6 g butter"), "ingredients[2]", "fat : flour = 1 : 20 is unusual for short pastry", true},
		{"unused-ingredient", func(r *recipe.Recipe) { r.Steps[2].Text = "Mix turkey, onion, oats and salt." }, "ingredients[3]", "No step uses “paprika”", false},
		{"unlisted-ingredient", func(r *recipe.Recipe) { r.Steps[2].Text += " Stir in the cheddar." }, "steps[2]", "uses Cheddar, grated, which is not in the list", false},
		{"steps-contradict", func(r *recipe.Recipe) { r.Steps[2].After = []fit.After{{Step: "wash"}} }, "steps[5].after[0]", "planner can’t use this", false},
		{"oven-settings-differ", func(r *recipe.Recipe) {
			r.Steps[3].Text = "Bake for 20 minutes on the baking tray at 190 °C, gas mark 3, until golden."
		}, "steps[3]", "gas mark 3 is about 160 °C", false},
		{"oven-no-temperature", func(r *recipe.Recipe) { r.Steps[3].Uses = nil }, "steps[3]", "how hot the oven is", false},
		{"oven-not-heated", func(r *recipe.Recipe) { r.Steps[0].Text = "Wash your hands. Weigh the oats." }, "steps[0]", "heated before it is needed", true},
		{"times-differ", func(r *recipe.Recipe) { r.Steps[3].Wait = exact.Int(10) }, "steps[3]", "says 20 min, the step waits 10 min", true},
		{"total-time-differs", func(r *recipe.Recipe) { r.Minutes = 15 }, "minutes", "says 15 min in all, and its steps take a pair 36 min", true},
		{"no-probing", func(r *recipe.Recipe) { r.Steps = slices.Delete(r.Steps, 4, 5) }, "steps[3]", "No step checks the middle with a probe", true},
		{"no-probing", func(r *recipe.Recipe) {
			r.Steps[4].Title, r.Steps[4].Text = "Wait", "Wait for at least 75 seconds, in the middle of the board."
		}, "steps[4]", "No step checks the middle with a probe", true},
		{"raw-hygiene", func(r *recipe.Recipe) { r.Steps[1].Hazard = "Knife: claw hold." }, "steps[2]", "get clean afterwards", true},
		{"no-end-sign", func(r *recipe.Recipe) { r.Steps[3].Text = "Bake for 20 minutes on the baking tray." }, "steps[3]", "what to look for", false},
		{"no-caution", func(r *recipe.Recipe) { r.Steps[3].Hazard = "" }, "steps[3]", "a hot oven in it and no word of care", true},
		{"equipment-missing", func(r *recipe.Recipe) { r.Equipment = slices.Delete(r.Equipment, 2, 3) }, "steps[3]", "asks for a baking tray", true},
		{"no-hand-washing", func(r *recipe.Recipe) { r.Steps[0].Text = "Heat the oven to 190 °C. Weigh the oats." }, "steps[0]", "hands washed", true},
		{"no-clearing", func(r *recipe.Recipe) { r.Steps = r.Steps[:5] }, "steps", "clears up", true},
		{"allergen-not-declared", func(r *recipe.Recipe) { r.Contains = nil }, "contains", "does not declare oats", true},
	} {
		t.Run(c.rule, func(t *testing.T) {
			r := sound()
			c.spoil(&r)
			found := recipe.Check(r, pantry.Stock())
			at := slices.IndexFunc(found, func(f recipe.Finding) bool { return f.Rule == c.rule })
			require.GreaterOrEqual(t, at, 0, "%v", found)
			f := found[at]
			assert.Equal(t, c.where, f.Where)
			assert.Contains(t, f.Says, c.says)
			assert.NotEmpty(t, f.Mend)
			assert.Equal(t, c.mends, f.Mendable())
			if !c.mends {
				return
			}
			mended, ok := recipe.Mend(r, pantry.Stock(), f.Key)
			require.True(t, ok)
			assert.False(t, slices.ContainsFunc(recipe.Check(mended, pantry.Stock()), func(g recipe.Finding) bool { return g.Key == f.Key }), "mended")
			assert.Len(t, recipe.Check(r, pantry.Stock()), len(found), "the recipe itself is not changed")
		})
	}
}

// A misprint of ten times is named with the figure that was meant.
func TestDriedBeansBoilHard(t *testing.T) {
	for text, safe := range map[string]bool{
		"Boil the beans hard for 10 minutes, then simmer for 50 minutes.": true,
		"Drain. Boil rapidly for 12 min.":                                 true,
		"Pressure cook the beans for 20 minutes.":                         true,
		"Boil the beans for 9 minutes, then bake.":                        false,
		"Simmer the beans for 60 minutes.":                                false,
		"Soak overnight, then boil the beans until soft.":                 false,
		"Put the beans in the slow cooker for 8 hours.":                   false,
	} {
		r := sound()
		r.Ingredients = append(r.Ingredients, ingredients("100 g dried kidney beans")...)
		r.Steps[1].Text += " " + text
		found := slices.DeleteFunc(recipe.Check(r, pantry.Stock()), func(f recipe.Finding) bool { return f.Rule != "beans-not-boiled" })
		if safe {
			assert.Empty(t, found, text)
			continue
		}
		require.Len(t, found, 1, text)
		assert.Equal(t, "steps[1]", found[0].Where, text)
		mended, ok := recipe.Mend(r, pantry.Stock(), found[0].Key)
		require.True(t, ok, text)
		assert.Contains(t, mended.Steps[1].Hazard, "boiled hard in fresh water for 10 min")
		for _, f := range recipe.Check(mended, pantry.Stock()) {
			assert.NotEqual(t, "beans-not-boiled", f.Rule, text)
		}
	}
	soaked := sound()
	soaked.Ingredients = append(soaked.Ingredients, ingredients("100 g kidney beans")...)
	soaked.Steps[1].Text += " Soak the beans overnight."
	mended, ok := recipe.Mend(soaked, pantry.Stock(), "soaked-from-a-tin kidney beans")
	require.True(t, ok)
	assert.Equal(t, "dried-kidney-beans", mended.Ingredients[5].Pantry)
	soaked.Ingredients[5].Note = "drained"
	_, ok = recipe.Mend(soaked, pantry.Stock(), "soaked-from-a-tin kidney beans")
	assert.False(t, ok, "nobody soaks those")

	tinned := sound()
	tinned.Ingredients = append(tinned.Ingredients, ingredients("1 tin kidney beans", "100 g dried chickpeas")...)
	for _, f := range recipe.Check(tinned, pantry.Stock()) {
		assert.NotEqual(t, "beans-not-boiled", f.Rule)
	}
}

func TestMisprintIsNamed(t *testing.T) {
	r := sound()
	r.Title = "Pastry squares"
	r.Ingredients = ingredients("120 g plain flour", "6 g butter")
	for _, f := range recipe.Check(r, pantry.Stock()) {
		if f.Rule == "unusual-ratio" {
			assert.Equal(t, "If it is a misprint: 60 g butter.", f.Mend)
			return
		}
	}
	t.Fatal("not found")
}

func TestSettingAside(t *testing.T) {
	r := sound()
	r.Contains = nil
	key := recipe.Check(r, pantry.Stock())[0].Key
	r.SetAside = []recipe.Aside{{Key: key, Reason: "on a card of its own"}}
	found := recipe.Check(r, pantry.Stock())
	require.Len(t, found, 1)
	assert.Equal(t, "on a card of its own", found[0].Aside)
	assert.Empty(t, recipe.Open(found))
	r.Ingredients = append(ingredients("1 tbsp sesame seeds"), r.Ingredients...)
	r.Steps[2].Text += " Add the sesame seeds."
	assert.NotEmpty(t, recipe.Open(recipe.Check(r, pantry.Stock())), "another allergen is another finding")
}
