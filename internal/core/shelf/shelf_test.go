package shelf_test

import (
	"fmt"
	"testing"

	"github.com/stretchr/testify/assert"

	"freshapron/internal/core/exact"
	"freshapron/internal/core/fit"
	"freshapron/internal/core/measure"
	"freshapron/internal/core/pantry"
	"freshapron/internal/core/recipe"
	"freshapron/internal/core/scale"
	"freshapron/internal/core/shelf"
)

func tray() recipe.Recipe {
	r := recipe.Recipe{Title: "Courgette tray", Yield: 4, Piece: "piece", Pieces: "pieces", Each: 2, Skills: []string{"claw"}}
	for _, t := range recipe.TakeLines([]string{"2 courgettes", "100 g Cheddar", "1 tbsp sunflower oil"}, measure.Metric, pantry.Stock()) {
		r.Ingredients = append(r.Ingredients, t.Ingredient)
	}
	at := exact.Int(200)
	r.Steps = []recipe.Step{
		{Step: fit.Step{ID: "slice", Title: "Slice", Kind: fit.Cut, Work: exact.Int(8), Cooks: 1, Adult: fit.NoAdult}},
		{Step: fit.Step{ID: "bake", Title: "Bake", Kind: fit.Bake, Work: exact.Int(1), Wait: exact.Int(20), Cooks: 1, Adult: fit.NoAdult,
			After: []fit.After{{Step: "slice"}}, Uses: []fit.Use{{Equipment: "oven", Places: 1, Temperature: &at, During: fit.WaitPart}}}},
	}
	return r
}

var kitchen = scale.Kitchen{Pantry: pantry.Stock(), Instruments: measure.Usual(measure.Metric)}

func ExampleQuery() {
	f := shelf.Of(tray(), kitchen)
	fmt.Println(shelf.Query{Text: "zucchini chees"}.Search().Finds(f), shelf.Query{Oven: "no"}.Search().Finds(f))
	// Output: true false
}

func TestFacts(t *testing.T) {
	f := shelf.Of(tray(), kitchen)
	assert.InDelta(t, 9, f.Hands, 1e-9)
	assert.InDelta(t, 29, f.InAll, 1e-9)
	assert.True(t, f.Oven)
	assert.False(t, f.Adult)
	assert.Equal(t, []pantry.Allergen{pantry.Milk}, f.Allergens)
	// One learner makes half: a courgette is 130/3 p, 50 g of Cheddar the
	// cheaper block, 7.5 ml of oil the cheaper bottle.
	assert.InDelta(t, 130.0/3+50.0/350*320+7.5/1000*185, f.Pence, 0.01)
}

func TestNarrowing(t *testing.T) {
	f := shelf.Of(tray(), kitchen)
	for name, c := range map[string]struct {
		query shelf.Query
		finds bool
	}{
		"nothing asked":                {shelf.Query{}, true},
		"words in any order":           {shelf.Query{Text: "tray courgettes"}, true},
		"a word that is not there":     {shelf.Query{Text: "tray rhubarb"}, false},
		"65 min less 25 is 40":         {shelf.Query{Period: 65}, true},
		"45 min less 25 is 20":         {shelf.Query{Period: 45}, false},
		"vegetarian":                   {shelf.Query{Diet: "vegetarian"}, true},
		"not vegan":                    {shelf.Query{Diet: "vegan"}, false},
		"not without milk":             {shelf.Query{Without: pantry.Milk}, false},
		"without nuts":                 {shelf.Query{Without: pantry.Walnuts}, true},
		"54 min less 25 is 29":         {shelf.Query{Period: 54}, true},
		"53 min less 25 is 28":         {shelf.Query{Period: 53}, false},
		"an oven":                      {shelf.Query{Oven: "yes"}, true},
		"no oven":                      {shelf.Query{Oven: "no"}, false},
		"another skill":                {shelf.Query{Skill: "bridge"}, false},
		"dear enough":                  {shelf.Query{Pence: 91}, true},
		"a diet that nobody knows":     {shelf.Query{Diet: "moon"}, false},
		"skill":                        {shelf.Query{Skill: "claw"}, true},
		"too dear":                     {shelf.Query{Pence: 50}, false},
		"courgettes in August":         {shelf.Query{Month: 8}, true},
		"no courgettes in January":     {shelf.Query{Month: 1}, false},
		"several things asked at once": {shelf.Query{Text: "tray", Oven: "yes", Month: 8, Pence: 200}, true},
	} {
		assert.Equal(t, c.finds, c.query.Search().Finds(f), name)
	}
}

// What says nothing of what one learner makes makes one each; what has neither steps nor
// ingredients is free of nothing, and fits nowhere.
func TestFactsOfLittle(t *testing.T) {
	r := tray()
	r.Each = 0
	f := shelf.Of(r, kitchen)
	assert.Equal(t, 1, f.Each)
	assert.Equal(t, "2 pieces", f.Makes)
	assert.InDelta(t, (130.0/3+50.0/350*320+7.5/1000*185)/2, f.Pence, 0.01)
	assert.Equal(t, "4 pieces", shelf.Of(tray(), kitchen).Makes)

	none := shelf.Of(recipe.Recipe{Title: "Nothing"}, kitchen)
	assert.Equal(t, []string{"everything"}, none.Unknown)
	assert.False(t, none.Fits(500))
	assert.True(t, shelf.Query{}.Empty())
	assert.False(t, shelf.Query{Month: 1}.Empty())

	watched := tray()
	watched.Steps[0].Adult = fit.Watches
	assert.True(t, shelf.Of(watched, kitchen).Adult)
	cold := tray()
	cold.Steps = cold.Steps[:1]
	f = shelf.Of(cold, kitchen)
	assert.False(t, f.Oven)
	assert.True(t, shelf.Query{Oven: "no"}.Search().Finds(f))
	assert.False(t, shelf.Query{Oven: "yes"}.Search().Finds(f))

	unpriced := tray()
	dust := recipe.TakeLines([]string{"100 g moon dust"}, measure.Metric, pantry.Stock())
	unpriced.Ingredients = append(unpriced.Ingredients, dust[0].Ingredient)
	assert.False(t, shelf.Query{Pence: 500}.Search().Finds(shelf.Of(unpriced, kitchen)), "what has no price may cost anything")
}

func TestWhatIsUnknownIsNotSafe(t *testing.T) {
	r := tray()
	r.Ingredients = append(r.Ingredients, recipe.Ingredient{Name: "mystery sauce"})
	f := shelf.Of(r, kitchen)
	assert.False(t, f.Without(pantry.Walnuts))
	assert.False(t, f.Suits("vegetarian"))
	assert.Equal(t, []string{"mystery sauce"}, f.Unknown)
}
