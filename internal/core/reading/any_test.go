package reading_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"freshapron/internal/core/fit"
	"freshapron/internal/core/measure"
	"freshapron/internal/core/pantry"
	"freshapron/internal/core/reading"
	"freshapron/internal/core/recipe"
)

// lawful holds what is true of the reading of any text: every line is accounted
// for, steps name steps, and no time is below zero or longer than a day.
func lawful(t *testing.T, text string, r reading.Reading) {
	t.Helper()
	require.Empty(t, accounted(strings.ToValidUTF8(text, "\uFFFD"), r), "lines that stand nowhere in %q", text)
	for n, s := range r.Steps {
		require.NotEmpty(t, s.Lines)
		for _, a := range s.After {
			require.True(t, 0 <= a.Step && a.Step < len(r.Steps) && a.Step != n, "step %d after %d of %d", n, a.Step, len(r.Steps))
		}
		for _, m := range []reading.Minutes{s.Work, s.Wait} {
			require.False(t, m.Least.Sign() < 0 || m.Most.Less(m.Least))
		}
	}
	made, _ := r.Recipe()
	for _, s := range made.Steps {
		require.NotEmpty(t, s.ID)
	}
}

func FuzzRead(f *testing.F) {
	f.Add("Scones\nServes 4\n\n225 g flour\n\n1. Mix.\nBake for 1½ hours at 180C, then turn down to 160 and 45 more.")
	f.Add("ADULT: cut\r\n\r\n| a | b |\n- - -\n٣ جزر\n")
	f.Add("While it simmers, knead 10 mins\n\tl50 g sugar\n  \u2028 x")
	f.Fuzz(func(t *testing.T, text string) {
		lawful(t, text, reading.Read(text, nil, pantry.Stock()))
	})
}

// What is no recipe is not made one, and nothing of it is lost.
func TestWhatIsNoRecipe(t *testing.T) {
	for name, c := range map[string]struct {
		text               string
		ingredients, steps int // at most
	}{
		"a poem":             {"The kitchen in the morning light\nis quiet as a held-in breath,\nthe copper pans, the window bright,\nthe kettle singing under its breath.", 0, 0},
		"a shopping list":    {"2 kg potatoes\n6 eggs\n1 l milk\n500 g plain flour", 4, 0},
		"a method only":      {"Chop the onion.\nFry for 5 minutes.\nSimmer for 20 minutes.", 0, 3},
		"another language":   {"Składniki\n500 g mąki\n3 jajka\nSposób przygotowania\nZagnieć ciasto i odstaw.", 2, 1},
		"right to left":      {"عدس\n200 غرام عدس\nيطهى على نار هادئة", 1, 1},
		"one very long line": {strings.Repeat("stir and stir ", 4000), 0, 0},
		"a table":            {"a;b;c\n1;2;3\n4;5;6", 2, 1},
	} {
		r := read(c.text)
		lawful(t, c.text, r)
		assert.LessOrEqual(t, len(r.Ingredients), c.ingredients, "%s: %v", name, r.Ingredients)
		assert.LessOrEqual(t, len(r.Steps), c.steps, "%s: %v", name, r.Steps)
	}
	long := strings.Repeat("100 g flour\n", 1_200)
	lawful(t, long, read(long))
}

// What is longer than any recipe is looked into as far as one could go, and said of the rest.
func TestLongerThanAnyRecipe(t *testing.T) {
	text := "Flapjack\n1. Melt 100 g butter\n" + strings.Repeat(strings.Repeat("mix in 2 tbsp oats. ", 50)+"\n", 62)
	r := read(text)
	lawful(t, text, r)
	var beyond []int
	for _, u := range r.Unread {
		if u.Why == "the text is longer than any recipe" {
			beyond = append(beyond, u.Line)
		}
	}
	assert.Equal(t, []int{62, 63, 64}, beyond)
}

// What leaves out what is about the page, the class or the lesson takes nothing that is cooked along.
func TestLeftOutWithThePage(t *testing.T) {
	for text, want := range map[string][2]int{ // ingredients, steps
		"Pie\nPastry\n200 g flour\nsalt and pepper\n\nFilling\n200 g mince\nsalt and pepper\n\nMethod\n1. Mix it.\nBack in the oven\n2. Roll out.\nBack in the oven": {6, 4},
		"Dish\n200 g flour, and\nmix well\n1 onion\nBake 10 min.":                                                                                                           {2, 1},
		"Dish\nIngredients for the class\n2 kg flour\n1 kg butter\n\nEach child needs an apron\n\nMethod\n1. Rub in.":                                                       {3, 1},
		"Dish\nFor the class:\n2 kg flour\n24 eggs\nPer pair:\n200 g flour\n2 eggs\nMethod\n1. Mix.":                                                                        {2, 1},
		"Dish\n200 g rice\n1 onion\n1 clove garlic\nMethod\nCook the onion\n- add garlic\n- stir\nBoil the rice":                                                            {3, 4},
		"Dish\n200 g rice\n1 onion\nMethod\nMake the base\n- cook the onion\n- stir\nBoil the rice":                                                                         {2, 3},
		"Dish\nIngredients\nBudget sausages 8\n200 g rice\nMethod\n1. Fry.":                                                                                                 {2, 1},
		"Scones\nPlease bring: 200 g flour, 50 g butter, 2 eggs\nMix and bake at 200 for 10 min.":                                                                           {3, 1},
		"Lesson 1: Mix 500 g flour, 7 g yeast and 300 ml water, knead 10 min\nLesson 2: shape and bake 20 min at 220":                                                       {3, 3},
		"Dish\nItem | Qty\nTea bags | 2\nSugar | 20 g\n\nMethod\n1. Boil water.":                                                                                            {2, 1},
		"Dish\n200 g flour\n1 onion\nMethod\n1. Mix.\n2. Mind the hot tray and bake 5 min more.\n3. Let me know when it is golden, then bake 10 min.\n4. Swap: bake 5 min.": {2, 4},
		"Dish\n200 g flour\n1 onion\nMethod\n1. Mix.\n2. Mind the hot tray!\n3. Take a photo":                                                                               {2, 1},
		"Dish\n2 eggs   100 g flour   50 ml milk\n0-5 min   Weigh flour   5 min\n5-10 min   Mix   5 min\nBake 10 min at 200":                                                {3, 3},
	} {
		r := read(text)
		lawful(t, text, r)
		var steps []string
		for _, s := range r.Steps {
			steps = append(steps, s.Text)
		}
		assert.Len(t, r.Ingredients, want[0], "%s", text)
		assert.Len(t, steps, want[1], "%s", text)
	}
}

// A misprint is read as the likely figure and asked, never as half of it.
func TestMisprints(t *testing.T) {
	r := read("Buns\nServes 4\nl50 g plain flour\n1OO g butter\nRub in and bake at 180 °C for 10 minutes.")
	require.Len(t, r.Ingredients, 2)
	assert.Equal(t, "150", r.Ingredients[0].Taking.Ingredient.Amount.String())
	assert.Equal(t, "100", r.Ingredients[1].Taking.Ingredient.Amount.String())
	require.Len(t, r.Unread, 2)
	assert.Equal(t, "l50 is read as 150: is that right?", r.Unread[0].Why)
}

func TestLettersForFigures(t *testing.T) {
	for line, want := range map[string]string{
		"1O g butter": "10 g butter", "12o g oats": "120 g oats", "IOO g cheese": "100 g cheese", "1.5O kg potatoes": "1.50 kg potatoes", "I tsp salt": "1 tsp salt", "2S0 g rice": "250 g rice",
	} {
		r := read("Buns\nServes 4\n" + line + "\n100 g flour\nMix and bake at 180 °C for 10 minutes.")
		want := measure.Read(want, measure.Metric).Quantity()
		assert.Equal(t, want, r.Ingredients[0].Taking.Ingredient.Quantity, line)
		assert.Contains(t, r.Unread[0].Why, "is that right?", line)
	}
	r := read("Buns\nServes 4\n2l milk\n1 l stock\nSimmer for 10 minutes.")
	assert.Empty(t, r.Unread, "litres are no figures")
}

// Of a range the middle plans; a bake at two settings is two steps of the
// recipe with nothing between them; guesses are marked and spread.
func TestMakingARecipe(t *testing.T) {
	read := reading.Read(`Twist
Makes 6 twists
300 g plain flour, sifted
2 onions, finely chopped

Knead for 8-12 minutes, then leave to rise for an hour.
Meanwhile, fry the onions for 5 minutes.
Bake at 220C for 15 minutes, then turn down to 180 and 20 more.
ADULT: lift out of the oven.`, nil, pantry.Stock())
	r, notes := read.Recipe()
	assert.Equal(t, "twists", r.Pieces)
	assert.Equal(t, 3, r.Each)
	var ids []string
	for _, s := range r.Steps {
		ids = append(ids, s.ID)
	}
	require.Len(t, r.Steps, 8, ids)
	sift, chop, knead, rise, fry, hot, turned, lift := r.Steps[0], r.Steps[1], r.Steps[2], r.Steps[3], r.Steps[4], r.Steps[5], r.Steps[6], r.Steps[7]
	assert.Equal(t, "10", knead.Work.String())
	assert.InDelta(t, 0.2, *knead.Spread, 1e-9)
	assert.Equal(t, recipe.Said, knead.WorkFrom)
	assert.Equal(t, "60", rise.Wait.String())
	assert.Equal(t, recipe.Typical, rise.WorkFrom)
	assert.True(t, chop.Shareable)
	assert.Contains(t, fry.After, fit.After{Step: chop.ID})
	assert.NotContains(t, fry.After, fit.After{Step: rise.ID}, "meanwhile")
	assert.Contains(t, knead.After, fit.After{Step: sift.ID}, "what nobody names goes into the first step")
	assert.Equal(t, "15", hot.Wait.String())
	assert.Equal(t, "220", hot.Uses[0].Temperature.String())
	assert.Equal(t, "20", turned.Wait.String())
	assert.Equal(t, "180", turned.Uses[0].Temperature.String())
	require.Len(t, turned.After, 1)
	assert.Equal(t, hot.ID, turned.After[0].Step)
	assert.Zero(t, turned.After[0].MaxGap.Sign(), "at once")
	assert.Equal(t, fit.Does, lift.Adult)
	assert.NoError(t, r.Problems())
	assert.NotEmpty(t, notes)

	dish := r.Dish(6)
	assert.InDelta(t, 0.5, *dish.Steps[1].Spread, 1e-9, "a guess")
	assert.InDelta(t, 0.2, *dish.Steps[2].Spread, 1e-9)
}

// The signs in the text decide whose cups are meant; who chooses is obeyed.
func TestCountries(t *testing.T) {
	for text, want := range map[string]string{
		"1 cup all-purpose flour\n1 stick butter\nBake at 350°F": "us",
		"8 oz flour\n½ pint milk\nRegulo 5":                      "imperial",
		"200 g flour\n1 cup milk\nBake at 180 °C":                "metric",
		"1 red capsicum\n1 cup rice\n180°C fan-forced":           "au",
		"8 oz / 225 g flour":                                     "metric",
		"flour and water":                                        "metric",
	} {
		assert.Equal(t, want, read(text).Units.Taken.Name, text)
	}
	r := reading.Read("1 cup all-purpose flour\n1 stick butter", &measure.Australian, pantry.Stock())
	assert.Equal(t, reading.Units{Taken: measure.Australian, Why: "as chosen"}, r.Units)
}

// What has to be at least, or at most, so long after is a gap and no wait.
func TestGaps(t *testing.T) {
	r := read("X\nServes 2\n100 g flour\n\nBake at 180 °C for 10 minutes.\nIce it at least 30 minutes after baking.\nServe no more than 20 minutes later.\nChill for at least an hour.")
	require.Len(t, r.Steps, 4)
	assert.Equal(t, "30", r.Steps[1].After[0].MinGap.String())
	assert.Empty(t, r.Steps[1].Wait.From)
	assert.Equal(t, "20", r.Steps[2].After[0].MaxGap.String())
	assert.Equal(t, "60", r.Steps[3].Wait.Least.String())
}

// Core temperatures, warm milk and hot fat set no oven.
func TestWarmthThatIsNoOven(t *testing.T) {
	for text, want := range map[string]string{
		"Heat the oven to 200C/180C fan/gas 6. Bake for 10 minutes.":    "200",
		"Bake at 180 (fan 160) for 10 minutes.":                         "180",
		"Bake at 160C fan for 10 minutes.":                              "180",
		"Bake in a moderate oven for 10 minutes.":                       "180",
		"Bake at 350°F for 10 minutes.":                                 "180",
		"Bake at Regulo 7 for 10 minutes.":                              "220",
		"Bake for 10 minutes until the middle reaches 75 °C.":           "",
		"Warm the milk to 37 °C. Bake for 10 minutes.":                  "",
		"Heat the oil to 180 °C in a deep pan. Bake it for 10 minutes.": "",
	} {
		r := read("X\nServes 2\n100 g flour\n\n" + text)
		got := ""
		for _, s := range r.Steps {
			for _, u := range s.Uses {
				if u.Equipment == "oven" && u.Celsius != nil {
					got = u.Celsius.Decimal(0)
				}
			}
		}
		assert.Equal(t, want, got, text)
	}
}

// What looks like an ingredient, a bake or a pan on the heat, and is none.
func TestNotTakenForSomethingElse(t *testing.T) {
	bars := "Oat bars\nMakes 8\n200 g oats\n100 g butter\n\n"
	for _, nutrition := range []string{
		"Energy: 250 kcal\nFat: 12 g\nSugar: 5 g\nSalt: 0.3 g", "Per portion: 250 kcal, 12 g fat, 5 g sugar", "Nutrition\nSugar: 5 g\nSalt - 0.3 g", "Protein 4 g\nof which sugars 5g\nSalt 0.3g",
	} {
		assert.Len(t, read(bars+"Stir the oats into the butter.\n\n"+nutrition).Ingredients, 2, nutrition)
		assert.Len(t, read(bars+nutrition+"\n\nStir the oats into the butter.").Ingredients, 2, nutrition)
	}
	assert.Len(t, read(bars+"Salt: 2 g\n\nStir the oats into the butter.").Ingredients, 3, "an amount behind its name")
	for step, want := range map[string]fit.Kind{
		"Put on the middle shelf for 20 minutes.":               fit.Bake,
		"Put on the middle shelf of the fridge for 20 minutes.": fit.Chill,
		"Keep on the top shelf.":                                fit.Prepare,
		"Bars in, 20 minutes.":                                  fit.Bake,
		"Butter in, mix.":                                       fit.Mix,
		"Stir in a bowl for 2 minutes.":                         fit.Mix,
	} {
		steps := read(bars + "Heat the oven to 180 °C.\n" + step).Steps
		assert.Equal(t, want, steps[len(steps)-1].Kind, step)
	}
	for pan, want := range map[string]string{
		"Stir for 2 minutes.": "ring", "Add the oats and stir in a bowl for 2 minutes.": "", "Take off the heat. Add the oats and stir for 2 minutes.": "", "Chill for 20 minutes. Stir for 2 minutes.": "",
	} {
		steps := read(bars + "Melt the butter in a pan.\n" + pan).Steps
		last, uses := steps[len(steps)-1], ""
		if len(last.Uses) > 0 {
			uses = last.Uses[0].Equipment
		}
		assert.Equal(t, want, uses, pan)
	}
}
