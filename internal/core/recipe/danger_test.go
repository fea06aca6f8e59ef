package recipe_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"freshapron/internal/core/fit"
	"freshapron/internal/core/pantry"
	"freshapron/internal/core/reading"
	"freshapron/internal/core/recipe"
)

// What a step tells somebody to do is a danger; what has been done to an
// ingredient before is none.
func TestDangersInSentences(t *testing.T) {
	for text, want := range map[string][]recipe.Danger{
		"Dice the onion.":                             {recipe.Knife},
		"Slice the bread.":                            {recipe.Knife},
		"Cut out rounds with a cutter.":               {recipe.Knife},
		"Cut into twelve squares.":                    {recipe.Knife},
		"Halve the tomatoes with the vegetable knife": {recipe.Knife},
		"Core the pears.":                             {recipe.Knife},
		"Chopping and slicing: claw hold.":            {recipe.Knife},
		"Everybody slices half of it.":                {recipe.Knife},
		"Cutting up the melon.":                       {recipe.Knife},
		"Fetch the sharp knives.":                     {recipe.Knife},
		"Stir in the sautéed leek.":                   nil,
		"Add the diced swede.":                        nil,
		"Add the chopped onions and stir.":            nil,
		"Lay the sliced leek into the case.":          nil,
		"Put out the halved plums.":                   nil,
		"Put the cutlery out.":                        nil,
		"Grate the cheese.":                           {recipe.Grater},
		"Peel the carrots.":                           {recipe.Grater},
		"Zest the lemon.":                             {recipe.Grater},
		"Add the grated cheese.":                      nil,
		"Grease the tin.":                             nil,
		"Fry the onion gently.":                       {recipe.Hob, recipe.HotFat},
		"Sauté the garlic.":                           {recipe.Hob, recipe.HotFat},
		"Saute the garlic.":                           {recipe.Hob, recipe.HotFat},
		"Heat the oil, then soften the leeks.":        {recipe.Hob, recipe.HotFat},
		"Soften the leeks in butter.":                 {recipe.Hob},
		"Brush with oil.":                             nil,
		"Boil the potatoes.":                          {recipe.Hob, recipe.Boiling},
		"Bring a pan of water to the boil.":           {recipe.Hob, recipe.Boiling},
		"Steam for five minutes.":                     {recipe.Hob, recipe.Boiling},
		"Pour boiling water on the couscous.":         {recipe.Boiling},
		"Drain the pasta.":                            {recipe.Boiling},
		"Add boiled potatoes.":                        nil,
		"Blend until smooth.":                         {recipe.Blade},
		"Whizz it in the food processor.":             {recipe.Blade},
		"Whisk by hand.":                              nil,
		"Bake for 20 minutes.":                        {recipe.HotOven},
		"Take the tray out of the oven.":              {recipe.HotOven},
		"Heat the oven to 200 °C.":                    nil,
		"Mix with a fork.":                            nil,
	} {
		step := recipe.Step{Text: text}
		reading.Guess(&step, pantry.Stock())
		r := recipe.Recipe{Steps: []recipe.Step{step}}
		got := r.Dangers(0, pantry.Stock())
		assert.ElementsMatch(t, want, got, text)
		assert.Equal(t, [][]recipe.Danger{got}, r.EveryDanger(pantry.Stock()), text)
	}
}

// Serving and washing up with a knife in hand is not knife work; raw meat is a
// danger where it is worked with, not where it is weighed.
func TestDangersByKind(t *testing.T) {
	r := sound()
	of := func(kind fit.Kind, text string) []recipe.Danger {
		r.Steps = []recipe.Step{{Text: text}}
		r.Steps[0].Kind = kind
		return r.Dangers(0, pantry.Stock())
	}
	assert.Equal(t, []recipe.Danger{recipe.Knife}, of(fit.Prepare, "Take the sharp knife."))
	assert.Empty(t, of(fit.Clean, "Wash the sharp knife first, then the blend jug."))
	assert.Empty(t, of(fit.Serve, "Slice and drain on paper."))
	assert.Equal(t, []recipe.Danger{recipe.RawMeat}, of(fit.Mix, "Mix turkey and oats."))
	assert.Equal(t, []recipe.Danger{recipe.RawMeat}, of(fit.Shape, "Shape the meat into balls."))
	assert.Empty(t, of(fit.Shape, "Shape the fish into cakes."), "there is none in it")
	assert.Empty(t, of(fit.Weigh, "Weigh the turkey."))
	assert.Empty(t, of(fit.Mix, "Mix oats and paprika."))
	assert.Equal(t, []string{"turkey mince"}, r.Raw(pantry.Stock()))
	assert.Empty(t, recipe.Recipe{}.Raw(pantry.Stock()))
	seen := map[string]bool{}
	for _, d := range recipe.Dangers {
		require.NotEmpty(t, d.Name())
		assert.False(t, seen[d.Name()], "%s is called as another is", d)
		seen[d.Name()] = true
	}
}

// What a dish uses is a danger too, whatever its words.
func TestDangersByEquipment(t *testing.T) {
	for equipment, want := range map[string][]recipe.Danger{
		"oven": {recipe.HotOven}, "grill": {recipe.HotOven}, "ring": {recipe.Hob}, "blender": {recipe.Blade},
		"processor": {recipe.Blade}, "mixer": {recipe.Blade}, "fridge": nil, "scale": nil,
	} {
		s := recipe.Step{Text: "Do it."}
		s.Kind, s.Uses = fit.Prepare, []fit.Use{{Equipment: equipment, Places: 1}}
		assert.ElementsMatch(t, want, recipe.Recipe{Steps: []recipe.Step{s}}.Dangers(0, pantry.Stock()), equipment)
	}
}

func TestMinutesInSentences(t *testing.T) {
	for text, want := range map[string][]string{
		"Bake for 20 minutes.":                       {"20"},
		"Bake for 20-25 mins, then rest 5 min.":      {"25", "5"},
		"Simmer for 1 to 2 hours.":                   {"120"},
		"Prove for half an hour.":                    {"30"},
		"Leave for an hour.":                         {"60"},
		"Rest for ½ hour and knead for two minutes.": {"30", "2"},
		"Whisk for 30 seconds.":                      {"1/2"},
		"Boil for 1.5 hrs.":                          {"90"},
		"Boil for 1,5 hours.":                        {"90"},
		"A 10-minute rest.":                          {"10"},
		"Use 20 minted leaves and 3 hot peppers.":    nil,
		"Heat to 200 °C and cut into 12.":            nil,
		"":                                           nil,
	} {
		var got []string
		for _, n := range recipe.MinutesIn(text) {
			got = append(got, n.String())
		}
		assert.Equal(t, want, got, text)
	}
}
