package reading_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"freshapron/internal/core/exact"
	"freshapron/internal/core/fit"
	"freshapron/internal/core/pantry"
	"freshapron/internal/core/reading"
	"freshapron/internal/core/recipe"
)

func guessed(text string) recipe.Step {
	s := recipe.Step{Text: text}
	s.Title = recipe.ShortTitle(text)
	reading.Guess(&s, pantry.Stock())
	return s
}

// Sentences of recipes become steps of the kind that a teacher would give
// them, with hands-on and waiting minutes told apart.
func TestStepsFromSentences(t *testing.T) {
	for text, want := range map[string]struct {
		kind       fit.Kind
		work, wait string
		uses       string
	}{
		"Roast for 35 minutes.":                 {fit.Bake, "1", "35", ""},
		"Prove in a warm place for 40 minutes.": {fit.Rest, "1", "40", ""},
		"Leave to stand for 10 minutes.":        {fit.Rest, "1", "10", ""},
		"Poach for 4 minutes.":                  {fit.Cook, "1", "4", "ring"},
		"Griddle for 3 minutes on each side.":   {fit.Cook, "6", "0", "ring"},
		"Sauté the leek for 6 minutes.":         {fit.Cook, "6", "0", "ring"},
		"Melt the butter.":                      {fit.Cook, "2", "0", "ring"},
		"Measure the milk.":                     {fit.Weigh, "5", "0", ""},
		"Knead for 8 minutes.":                  {fit.Mix, "8", "0", ""},
		"Rub the fat into the flour.":           {fit.Mix, "5", "0", ""},
		"Garnish with parsley.":                 {fit.Serve, "2", "0", ""},
		"Preheat the oven to 180 °C.":           {fit.Prepare, "1/2", "0", ""},
		"Open the windows.":                     {fit.Prepare, "1", "0", ""},
	} {
		s := guessed(text)
		assert.Equal(t, want.kind, s.Kind, text)
		assert.Equal(t, want.work, s.Work.String(), "%s: work", text)
		assert.Equal(t, want.wait, s.Wait.String(), "%s: wait", text)
		used := ""
		for _, u := range s.Uses {
			used += u.Equipment
		}
		assert.Equal(t, want.uses, used, text)
		assert.Equal(t, text, s.Text)
		assert.NotEmpty(t, s.Title)
		assert.LessOrEqual(t, len([]rune(s.Title)), 48)
	}
	hot := guessed("Bake at 180 °C for 12 minutes.")
	require.Len(t, hot.Uses, 1)
	require.NotNil(t, hot.Uses[0].Temperature)
	assert.Zero(t, hot.Uses[0].Temperature.Cmp(exact.Int(180)))
}

func TestInferredSteps(t *testing.T) {
	for text, want := range map[string]struct {
		kind       fit.Kind
		work, wait float64
	}{
		"Bake for 20-25 minutes until golden.":        {fit.Bake, 1, 22.5},
		"Add the baking powder and whisk for 2 mins.": {fit.Mix, 2, 0},
		"Chill in the fridge for half an hour.":       {fit.Chill, 1, 30},
		"Simmer for 1 hour.":                          {fit.Cook, 1, 60},
		"Fry the onion for 5 minutes.":                {fit.Cook, 5, 0},
		"Chop the onions finely.":                     {fit.Cut, 4, 0},
		"Wash up and wipe down.":                      {fit.Clean, 7, 0},
		"Decorate and serve.":                         {fit.Serve, 4, 0},
	} {
		s := guessed(text)
		assert.Equal(t, want.kind, s.Kind, text)
		assert.InDelta(t, want.work, s.Work.Float(), 1e-9, "%s: %s min of work", text, s.Work)
		assert.InDelta(t, want.wait, s.Wait.Float(), 1e-9, "%s: waits %s min", text, s.Wait)
	}
}

// A bake takes the heat that the recipe heats the oven to; one that nobody
// heats is asked.
func TestMethod(t *testing.T) {
	steps, from, _, guesses := reading.Method([]string{"Heat the oven to 200°C/180°C fan/gas 6.", "Mix it.", "Bake for 20 minutes."}, nil, 0, pantry.Stock())
	require.Len(t, steps, 3)
	assert.Equal(t, []int{0, 1, 2}, from)
	assert.Equal(t, fit.Prepare, steps[0].Kind)
	assert.Equal(t, []fit.After{{Step: steps[1].ID}}, steps[2].After)
	assert.Equal(t, "200", steps[2].Uses[0].Temperature.String(), "from the step that heats the oven")
	assert.Contains(t, guesses, "“Mix it”: no minutes are given; 3 min of work is a typical figure.")
	steps, _, asks, _ := reading.Method([]string{"Bake for 20 minutes."}, nil, 0, pantry.Stock())
	assert.Empty(t, steps[0].Uses)
	assert.Equal(t, []string{"“Bake”: how hot the oven is."}, asks)
}

// Every question that the list and the method leave stands beside what was not understood,
// where whoever brings the recipe in sees it; what an amount shows by itself does not.
func TestQuestionsAreShown(t *testing.T) {
	text := "Bean pot\nServes 2\n\nIngredients\nl50 g flour\n100 g feta, leeks\n300 ml milk or 150 ml cream\n1 egg each\nflour 50, butter 50\n2 tbsp to 1 tbsp oil\n\nMethod\nFry 5.\nBake for 20 minutes."
	r, _ := read(text).Recipe()
	assert.Equal(t, []string{
		"“Fry 5”: “Fry 5.”: 5 minutes, or something else?",
		"“Bake”: how hot the oven is.",
		"“l50 g flour”: l50 is read as 150: is that right?",
		"“100 g feta, leeks”: is “leeks” another ingredient? Then it needs a line of its own.",
		"“300 ml milk or 150 ml cream”: only the first is taken: is it made with “150 ml cream”?",
		"“1 egg each”: “each”: is that all that the recipe takes?",
		"“flour 50, butter 50”: in which unit are the amounts?",
	}, r.Leftover)
}
