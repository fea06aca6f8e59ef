package recipe_test

import (
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"freshapron/internal/core/exact"
	"freshapron/internal/core/fit"
	"freshapron/internal/core/measure"
	"freshapron/internal/core/pantry"
	"freshapron/internal/core/recipe"
)

func ExampleParseTiming() {
	var s recipe.Step
	fmt.Println(recipe.ParseTiming("bake, 1 min, wait 18 min, after fill within 5, oven 190 °C while waiting, keep shut", &s))
	fmt.Println(s.Kind, s.Work, s.Wait, s.After[0].Step, *s.After[0].MaxGap, s.Uses[0].Equipment, *s.Uses[0].Temperature, s.KeepShut)
	fmt.Println(recipe.ParseTiming("mix, 5 mni", &s))
	// Output:
	//
	// bake 1 18 fill 5 oven 190 true
	// timing: “5 mni” is not understood; write for instance “5 min”, “wait 20 min”, “after weigh”, “oven 190 °C while waiting”, “shared”, “adult watches”
}

func number(t *rapid.T, name string) exact.Number {
	return exact.Frac(rapid.Int64Range(0, 400).Draw(t, name), 4)
}

// What Timing writes ParseTiming reads as the same step.
func TestTimingThereAndBack(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		s := recipe.Step{Step: fit.Step{Kind: rapid.SampledFrom(fit.Kinds).Draw(t, "kind"), Work: number(t, "work"), Wait: number(t, "wait"), Cooks: 1, Adult: fit.NoAdult}, WorkEach: number(t, "each")}
		switch rapid.IntRange(0, 3).Draw(t, "who") {
		case 1:
			s.Adult, s.Cooks = fit.Does, 0
		case 2:
			s.Adult, s.Cooks = fit.Watches, rapid.IntRange(1, 4).Draw(t, "cooks")
		case 3:
			s.Shareable = true
		}
		for range rapid.IntRange(0, 2).Draw(t, "after") {
			a := fit.After{Step: rapid.SampledFrom([]string{"weigh", "rub-in", "step-2"}).Draw(t, "step"), MinGap: number(t, "min")}
			if rapid.Bool().Draw(t, "max?") {
				n := number(t, "max")
				a.MaxGap = &n
			}
			s.After = append(s.After, a)
		}
		for range rapid.IntRange(0, 2).Draw(t, "uses") {
			u := fit.Use{Equipment: rapid.SampledFrom([]string{"oven", "ring", "pasta-machine"}).Draw(t, "equipment"), Places: rapid.IntRange(1, 3).Draw(t, "places"),
				During: rapid.SampledFrom([]fit.Part{fit.WholeStep, fit.WorkPart, fit.WaitPart}).Draw(t, "during")}
			if u.Equipment == "oven" {
				n := exact.Int(rapid.Int64Range(50, 260).Draw(t, "celsius"))
				u.Temperature = &n
			}
			s.Uses = append(s.Uses, u)
		}
		if rapid.Bool().Draw(t, "loads") {
			s.Pieces, s.PerLoad, s.Load = rapid.IntRange(1, 14).Draw(t, "pieces"), rapid.IntRange(1, 5).Draw(t, "per load"), number(t, "load") // a day at most
		}
		if rapid.Bool().Draw(t, "holds") {
			s.Hold = &fit.Hold{Where: rapid.SampledFrom([]string{"fridge", "cool larder"}).Draw(t, "where"), MaxMinutes: number(t, "keeps")}
		}
		if rapid.Bool().Draw(t, "spread") {
			f := float64(rapid.IntRange(1, 9).Draw(t, "spread tenths")) / 10
			s.Spread = &f
		}
		s.KeepShut = rapid.Bool().Draw(t, "shut")
		var back recipe.Step
		require.Empty(t, recipe.ParseTiming(s.Timing(), &back), s.Timing())
		assert.Equal(t, s, back, s.Timing())
	})
}

func FuzzParseTiming(f *testing.F) {
	f.Add("mix, 5 min, after weigh within 3")
	f.Add("4 in loads of 1 at 2 min, oven 190 °C while waiting")
	f.Fuzz(func(t *testing.T, text string) {
		var s recipe.Step
		if recipe.ParseTiming(text, &s) == nil {
			var back recipe.Step
			assert.Empty(t, recipe.ParseTiming(s.Timing(), &back), "what is written is read")
		}
	})
}

func TestTakingLines(t *testing.T) {
	p := pantry.Stock()
	for line, want := range map[string]struct {
		pantry string
		law    recipe.Law
		unsure bool
	}{
		"225 g self-raising flour":                {"self-raising-flour", recipe.Linear, false},
		"1 large egg":                             {"egg-large", recipe.Whole, false},
		"2 eggs, beaten":                          {"egg-medium", recipe.Whole, false},
		"salt, to taste":                          {"salt", recipe.Taste, false},
		"a pinch of salt":                         {"salt", recipe.Taste, true},
		"1 tsp pepper":                            {"pepper", recipe.Linear, false},
		"pepper, to taste":                        {"pepper", recipe.Taste, false},
		"2 peppers":                               {"pepper-red", recipe.Linear, false},
		"1 tbsp oil for frying":                   {"sunflower-oil", recipe.Surface, false},
		"1 l water, to boil in":                   {"water", recipe.Fixed, false},
		"200 g chopped tomatoes":                  {"chopped-tomatoes", recipe.Linear, false},
		"200 g tomatoes, chopped":                 {"tomato", recipe.Linear, false},
		"1 x 400 g tin red kidney beans, drained": {"kidney-beans", recipe.Linear, false},
		"50 g pecan butter":                       {"", recipe.Linear, true},
	} {
		got := recipe.TakeLine(line, "", measure.Metric, p)
		assert.Equal(t, want.pantry, got.Ingredient.Pantry, line)
		assert.Equal(t, want.law, got.Ingredient.Law, line)
		assert.Equal(t, want.unsure, got.Unsure(), line)
	}
}

// A line that is written from an ingredient reads back as the same.
func TestLineThereAndBack(t *testing.T) {
	for _, line := range []string{"225 g self-raising flour", "½ x 400 g tin chopped tomatoes", "2 eggs, beaten", "1⅓ tbsp olive oil", "0.8 g salt", "3 sprigs thyme", "butter, for greasing", "2 cm ginger, piece"} {
		first := recipe.TakeLine(line, "", measure.Metric, pantry.Stock()).Ingredient
		again := recipe.TakeLine(first.Line(), "", measure.Metric, pantry.Stock()).Ingredient
		assert.Equal(t, first, again, "%s → %s", line, first.Line())
	}
}

func TestComposing(t *testing.T) {
	r := sound()
	r.Choices = []recipe.Choice{{Name: "extras", Take: 1, Options: []recipe.Option{{Name: "Cheese", Ingredients: ingredients("40 g Cheddar")}, {Name: "Seeds", Ingredients: ingredients("1 tbsp sesame seeds")}}}}
	made, err := r.Compose([]recipe.Pick{{Choice: 0, Option: 1}})
	require.NoError(t, err)
	assert.Equal(t, "sesame seeds", made.Ingredients[len(made.Ingredients)-1].Name)
	assert.Len(t, r.Ingredients, 5, "the recipe itself stays")
	_, err = r.Compose(nil)
	assert.EqualError(t, err, "choices[0]: extras: 0 chosen, and it is 1 of 2")
	_, err = r.Compose([]recipe.Pick{{Choice: 0, Option: 0}, {Choice: 0, Option: 1}, {Choice: 5, Option: 9}})
	assert.ErrorContains(t, err, "2 chosen")
}

func TestProblems(t *testing.T) {
	r := sound()
	r.Title, r.Yield, r.Each, r.Ingredients[0].Law = " ", 0, 0, "odd"
	err := r.Problems()
	assert.ErrorContains(t, err, "title: give the dish a name")
	assert.ErrorContains(t, err, "yield: is 0; a recipe makes 1 to 1000 pieces")
	assert.ErrorContains(t, err, `ingredients[0]: "odd" is no law of scaling`)
	r = sound()
	r.Steps[0].After = []fit.After{{Step: "mix"}}
	assert.ErrorContains(t, r.Problems(), "steps[")
}

// A dish of a lesson file makes a recipe and the same dish again.
func TestDishThereAndBack(t *testing.T) {
	third := exact.MustParse("0.3333333333")
	d := fit.Dish{ID: "d", Title: "D", Ingredients: []fit.Ingredient{
		{Name: "plain flour", Amount: &third, Unit: "cup", Note: "sifted", PartOf: "Dough"},
		{Name: "eggs", Amount: ptr(exact.Int(2)), Scales: "whole", Brought: true},
		{Name: "love", Amount: ptr(exact.Int(1)), Unit: "dollop"},
		{Name: "salt", Scales: "taste"},
	}, Steps: []fit.Step{{ID: "a", Title: "A", Kind: fit.Mix, Work: exact.Int(3), Cooks: 1, Adult: fit.NoAdult, Pieces: 5, PerLoad: 2, Load: exact.Int(2)}}}
	r := recipe.FromDish(d, measure.Metric, pantry.Stock())
	assert.Equal(t, "1/3", r.Ingredients[0].Amount.String(), "a third that was written with ten decimals")
	back := r.Dish(r.Yield)
	third = exact.Frac(1, 3)
	assert.Equal(t, d, back)
	assert.Equal(t, 15, r.Dish(3).Steps[0].Pieces, "three times as much has three times the pieces")
}

func ptr(n exact.Number) *exact.Number { return &n }

// A figure that no kitchen has is named and not taken, at the most and one
// beyond it.
func TestTimingHasAMost(t *testing.T) {
	for _, c := range []struct{ most, beyond, says string }{
		{"1440 min", "1441 min", "more than a day"},
		{"wait 24 h", "wait 25 h", "more than a day"},
		{"1 min each", "9999999999 min each", "more than a day"},
		{"after weigh at least 1440", "after weigh at least 1441", "more than a day"},
		{"after weigh within 1440", "after weigh within 9999999999", "more than a day"},
		{"1000 in loads of 4 at 5 min", "1001 in loads of 4 at 5 min", "1000 is the most"},
		{"4 in loads of 1 at 360 min", "5 in loads of 1 at 360 min", "5 loads of 360 minutes take more than a day"},
		{"4 in loads of 1 at 1 min", "99999999999999999999 in loads of 1 at 1 min", "1000 is the most"},
		{"1000 cooks", "1001 cooks", "1000 is the most"},
		{"oven 1000 °C", "oven 1001 °C", "1000 °C is the most"},
		{"uses 1000 ring", "uses 1001 ring", "1000 is the most"},
		{"keeps 60 days in the freezer", "keeps 61 days in the freezer", "60 days is the longest"},
		{"spread 5", "spread 5.1", "a spread is 0 to 5"},
	} {
		var s recipe.Step
		assert.Empty(t, recipe.ParseTiming(c.most, &s), c.most)
		s = recipe.Step{}
		problems := recipe.ParseTiming(c.beyond+", shared", &s)
		require.Len(t, problems, 1, c.beyond)
		assert.Contains(t, problems[0].Says, c.says)
		assert.Contains(t, problems[0].Says, "“"+strings.ToLower(c.beyond)+"”", "it names the clause")
		var without recipe.Step
		recipe.ParseTiming("shared", &without)
		assert.Equal(t, without, s, "nothing of %s was taken", c.beyond)
	}
	assert.Empty(t, recipe.MinutesIn("Bake for 9999999999 minutes."))
	assert.Len(t, recipe.MinutesIn("Soak for 24 hours."), 1)
}

// Each name that is known is the same thing with its amount before and behind it, though it
// begins with a number or ends with the word of a pack.
func TestAmountsBesideEveryName(t *testing.T) {
	p := pantry.Stock()
	for _, i := range p.List() {
		for _, name := range append([]string{i.Name, i.Plural}, i.Also...) {
			if name == "" {
				continue
			}
			ahead := recipe.TakeLine("50 g "+name, "", measure.Metric, p).Ingredient
			for _, line := range []string{name + " 50 g", name + ": 50 g", name + " – 50 g", name + " (50 g)"} {
				behind := recipe.TakeLine(line, "", measure.Metric, p).Ingredient
				assert.Equal(t, []string{"50 g", ahead.Pantry}, []string{behind.Quantity.String(), behind.Pantry}, line)
			}
		}
	}
	for line, is := range map[string]string{"1.5 kg whole chicken": "whole-chicken", "1 tsp whole cumin": "cumin-seeds", "100 g block margarine": "block-fat", "five spice 2 g": "fajita-seasoning", "2 whole eggs": "egg-medium"} {
		assert.Equal(t, is, recipe.TakeLine(line, "", measure.Metric, p).Ingredient.Pantry, line)
	}
}

// Every item of the pantry is read as itself from a line that names it.
func TestLinesOfThePantry(t *testing.T) {
	p := pantry.Stock()
	for _, i := range p.List() {
		lines := []string{"100 g " + i.Name}
		if i.Counted() {
			lines = append(lines, "2 "+i.Plural)
		}
		for _, line := range lines {
			assert.Equal(t, i.ID, recipe.TakeLine(line, "", measure.Metric, p).Ingredient.Pantry, line)
		}
	}
}

// Which step takes what in: the first that names it, and of what stands in two parts the one that takes what
// stands with it there. Weighing takes nothing in.
func TestTakenBy(t *testing.T) {
	r := recipe.Recipe{
		Ingredients: ingredients("100 g plain flour", "50 g butter", "50 g butter", "2 leeks", "1 tsp paprika", "salt, to taste", "80 g brown sugar"),
		Steps: []recipe.Step{
			step("weigh", "weigh, 4 min", "Weigh the flour, the butter and the leeks."),
			step("rub", "mix, 5 min", "Rub the butter into the flour."),
			step("fry", "cook, 5 min", "Soften the leeks in the butter."),
			step("season", "mix, 1 min", "Season."),
			step("top", "mix, 1 min", "Scatter the sugar and the paprika over the leeks."),
		},
	}
	for n := range r.Ingredients {
		r.Ingredients[n].Part = map[bool]string{true: "Filling"}[n >= 2]
	}
	assert.Equal(t, []int{1, 1, 2, 2, 4, 2, 4}, r.TakenBy(pantry.Stock()))
	r.Ingredients = append(r.Ingredients, ingredients("1 lemon")...)
	r.Ingredients[7].Part = "Glaze"
	assert.Equal(t, -1, r.TakenBy(pantry.Stock())[7], "no step takes it, and nothing stands with it")
	r.Ingredients[7].Part = "Filling"
	assert.Equal(t, 2, r.TakenBy(pantry.Stock())[7], "the first step that takes what stands with it")
}

// A swap stands where its ingredient stood; where that has several lines, the others keep their amounts.
func TestSwapped(t *testing.T) {
	r := recipe.Recipe{Ingredients: ingredients("100 g butter", "50 g oats", "20 g butter, melted")}
	take := func(line, part string) recipe.Ingredient {
		return recipe.TakeLine(line, part, measure.Metric, pantry.Stock()).Ingredient
	}
	swapped := r.Swapped(take, recipe.Swap{For: "butter", Use: "80 g sunflower spread"}, recipe.Swap{For: "milk", Use: "100 ml oat drink"})
	var lines []string
	for _, i := range swapped.Ingredients {
		lines = append(lines, i.Line())
	}
	assert.Equal(t, []string{"80 g sunflower spread", "50 g oats", "20 g sunflower spread, melted"}, lines)
	assert.Equal(t, "100 g butter", r.Ingredients[0].Line(), "the recipe itself stays")
	assert.Equal(t, r, r.Swapped(take))
}

// What names a part of a list, and how its name is written.
func TestHeadings(t *testing.T) {
	for line, want := range map[string]string{
		"Pastry:": "Pastry", " for the filling ": "For the filling", "For the  glaze:": "For the  glaze", "élan:": "Élan", "x:": "X",
		"Pastry": "", ":": "", " :": "", "For 2 tarts:": "", "½ batch:": "", strings.Repeat("a", 60) + ":": "A" + strings.Repeat("a", 59), strings.Repeat("a", 61) + ":": "",
	} {
		name, ok := recipe.Heading(line)
		assert.Equal(t, want, name, line)
		assert.Equal(t, want != "", ok, line)
	}
}

// Of a pack's size behind the name: what one holds, or all of them.
func TestSizesOfPacks(t *testing.T) {
	for line, want := range map[string]string{
		"2 tins chopped tomatoes (800 g)": "2 x 400 g tin chopped tomatoes", "2 tins chopped tomatoes (400 g)": "2 x 400 g tin chopped tomatoes", "½ tin chopped tomatoes (200 g)": "½ x 400 g tin chopped tomatoes",
		"1 tin chopped tomatoes (230 g)": "1 x 230 g tin chopped tomatoes",
	} {
		got := recipe.TakeLine(line, "", measure.Metric, pantry.Stock())
		assert.Equal(t, want, got.Ingredient.Line(), line)
		assert.Empty(t, got.Reading.Doubts, line)
	}
	assert.Equal(t, []string{"is 1.25 kg what one of them holds, or all of it?"}, recipe.TakeLine("2 tins chopped tomatoes (1250 g)", "", measure.Metric, pantry.Stock()).Reading.Doubts)
}

// Amounts are written so that they read back as the same.
func TestAmountsThatAreNoFraction(t *testing.T) {
	for _, amount := range []string{"1/3", "0.123457", "2/7", "1/700", "1.000001", "1/3000001"} {
		n := exact.MustParse(amount)
		i := recipe.Ingredient{Name: "salt", Quantity: measure.Quantity{Amount: n, Unit: measure.Gram}}
		assert.Zero(t, recipe.TakeLine(i.Line(), "", measure.Metric, pantry.Stock()).Ingredient.Amount.Cmp(n), "%s → %s", amount, i.Line())
	}
}
