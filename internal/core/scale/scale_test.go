package scale_test

import (
	"fmt"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"freshapron/internal/core/exact"
	"freshapron/internal/core/measure"
	"freshapron/internal/core/pantry"
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

func ingredients(lines ...string) []recipe.Ingredient {
	var out []recipe.Ingredient
	for _, t := range recipe.TakeLines(lines, measure.Metric, pantry.Stock()) {
		out = append(out, t.Ingredient)
	}
	return out
}

// Raised and salted, bound with egg.
var dough = recipe.Recipe{
	ID: "dough", Title: "Dough", Yield: 8, Piece: "piece", Pieces: "pieces", Each: 4,
	Ingredients: ingredients("225 g plain flour", "3 g baking powder", "1 medium egg", "¼ tsp pepper, to taste", "75 ml milk"),
}

var kitchen = scale.Kitchen{Pantry: pantry.Stock(), Instruments: measure.Instruments{
	Scales: []measure.Scale{{Division: exact.Int(1), Least: exact.Int(2)}},
	Spoons: measure.SpoonSet,
	Jugs:   []measure.Jug{{Marks: exact.Int(25), Holds: exact.Int(500)}},
}}

func ExampleKitchen_Amounts() {
	for _, s := range kitchen.Amounts(dough, 4)[:2] {
		fmt.Println(s.Exact, "→", s.Best().Says, s.Best().Off())
	}
	// Output:
	// 112.5 g → 113 g ± 1 %
	// 1.5 g → ¼ tsp ± 35 %
}

func TestHalfARecipe(t *testing.T) {
	a := kitchen.Amounts(dough, 4)
	assert.Equal(t, "113 g", a[0].Best().Says)
	assert.True(t, a[0].Measurable())

	assert.Nil(t, a[1].ByWeight, "the scale starts at 2 g")
	assert.Equal(t, "¼ tsp", a[1].ByVolume.Says)
	assert.False(t, a[1].Measurable(), "1.25 ml for 1.67 ml")

	assert.Equal(t, "½", a[2].Exact.String())
	assert.Equal(t, "1", a[2].Best().Says)
	assert.False(t, a[2].Measurable(), "a whole egg is twice as much")

	assert.Equal(t, "⅛ tsp", a[3].Exact.String())
	assert.Equal(t, "a start: taste, then add", a[3].Says)
	assert.True(t, a[3].Measurable())

	assert.Equal(t, "2½ tbsp", a[4].ByVolume.Says)
	assert.Equal(t, "39 g", a[4].ByWeight.Says)
	assert.Equal(t, "39 g", a[4].First().Says)
}

func TestFirstWhereItIsGoodEnough(t *testing.T) {
	r := recipe.Recipe{Yield: 1, Ingredients: ingredients("4.5 g baking powder", "250 g plain flour")}
	spoons := kitchen
	spoons.Volume = true
	a := spoons.Amounts(r, 1)
	// 4.5 g are 5 ml: a level teaspoon is 10 % off, a scale that shows whole
	// grams 11 % for the rounding and 10 % for half a gram.
	assert.Equal(t, "1 tsp", a[0].Best().Says, "a spoon beats a 1 g scale")
	assert.Equal(t, "250 g", a[1].First().Says, "no spoons for so much flour")
}

func TestTasteIsNotMultiplied(t *testing.T) {
	a := kitchen.Amounts(dough, 16)
	assert.Equal(t, "¼ tsp", a[3].Exact.String())
	assert.Equal(t, "2", a[2].Exact.String())
}

func TestFixedAndFilm(t *testing.T) {
	r := recipe.Recipe{Yield: 4, Ingredients: ingredients("1 l water, to boil in", "1 tsp oil, for greasing")}
	for pieces, want := range map[int][2]string{2: {"1 l", "1 tsp"}, 4: {"1 l", "1 tsp"}, 6: {"2 l", "2 tsp"}} {
		a := kitchen.Amounts(r, pieces)
		assert.Equal(t, want, [2]string{a[0].Exact.String(), a[1].Exact.String()})
	}
}

// Twelve benches of 4 and one of 6, a demonstration of 8 and a spare of 4:
// 54 pieces at the benches are 54/8 · 225 g of flour, 66 in all.
func TestClass(t *testing.T) {
	benches := []int{4, 4, 4, 4, 4, 4, 4, 4, 4, 4, 4, 4, 6}
	needs := kitchen.Class(dough, benches, []int{8, 4})
	assert.Equal(t, "1.52 kg", needs[0].Benches.String())
	assert.InDelta(t, 54.0/8*225, needs[0].Benches.Amount.Float(), 1e-9)
	assert.InDelta(t, 66.0/8*225, needs[0].Total.Amount.Float(), 1e-9)
	assert.Equal(t, "13", needs[2].Benches.String(), "each bench breaks its own egg")
	assert.Equal(t, "15", needs[2].Total.String())
}

// Scaling to any size and back gives the recipe.
func TestThereAndBack(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		pieces := int64(rapid.IntRange(1, 200).Draw(t, "pieces"))
		for i, s := range kitchen.Amounts(dough, int(pieces)) {
			if line := dough.Ingredients[i]; line.Law == recipe.Linear || line.Law == recipe.Whole {
				assert.Zero(t, s.Exact.Times(exact.Frac(8, pieces)).Amount.Cmp(line.Amount))
			}
		}
	})
}

func TestWaysOut(t *testing.T) {
	a := kitchen.Amounts(dough, 4)
	in := scale.Setting{Sets: 14, Pieces: 4}
	ways := kitchen.Ways(dough, a[1], in)
	require.NotEmpty(t, ways)
	// 14 · 1.5 g = 21 g on the scale.
	assert.Equal(t, "Measure 21 g once for the whole class (14 sets) and share it out evenly, about ¼ tsp each.", ways[0].Says)
	assert.Empty(t, kitchen.Ways(dough, a[0], in), "what can be measured needs no way out")
	assert.Empty(t, kitchen.Ways(dough, a[1], scale.Setting{Sets: 1, Pieces: 4}), "one set alone, and no batch that helps")

	r := dough
	r.Ingredients = ingredients("225 g plain flour", "1½ eggs")
	eggs := kitchen.Amounts(r, 8)[1]
	assert.Equal(t, "2", eggs.Best().Says)
	var says []string
	for _, w := range kitchen.Ways(r, eggs, in) {
		says = append(says, w.Says)
	}
	assert.Equal(t, []string{
		"Beat 2 medium eggs and use 75 g of it; 25 g is left over.",
		"Take 2 small eggs, 15 % off.",
		"Take 2 medium eggs, 33 % more than the recipe asks.",
		"Take 1 medium egg, 33 % less than the recipe asks.",
	}, says)
	assert.InDelta(t, 270.0/12/2, kitchen.Ways(r, eggs, in)[0].Pence.Float(), 1e-9, "half an egg is left over")
}

func TestBatchThatCanBeMeasured(t *testing.T) {
	r := recipe.Recipe{Yield: 8, Piece: "bar", Pieces: "bars", Ingredients: ingredients("200 g plain flour", "2 eggs")}
	a := kitchen.Amounts(r, 2)
	ways := kitchen.Ways(r, a[1], scale.Setting{Sets: 1, Pieces: 2})
	assert.Equal(t, "beat", ways[0].ID)
	r.Ingredients = ingredients("200 g plain flour", "2 g salt")
	ways = kitchen.Ways(r, kitchen.Amounts(r, 2)[1], scale.Setting{Sets: 1, Pieces: 2})
	require.Len(t, ways, 1)
	// Three times ½ g of salt are 1.25 ml, a level ¼ tsp.
	assert.Equal(t, "Let the bench make 6 bars instead of 2: then every amount can be measured.", ways[0].Says)
}

func TestRatioWatch(t *testing.T) {
	r := recipe.Recipe{Title: "Short pastry", Yield: 8, Piece: "tartlet", Pieces: "tartlets", Ingredients: ingredients("150 g plain flour", "75 g butter")}
	assert.Empty(t, scale.Outside(r, pantry.Stock()))
	assert.Empty(t, scale.Drifts(r, kitchen.Amounts(r, 8)))
	// For three tartlets 56.25 g and 28.125 g: 55 and 30 on a scale that shows 5 g.
	coarse := kitchen
	coarse.Instruments = measure.Instruments{Scales: []measure.Scale{{Division: exact.Int(5), Least: exact.Int(5)}}}
	drifts := scale.Drifts(r, coarse.Amounts(r, 3))
	require.Len(t, drifts, 1)
	assert.InDelta(t, (30.0/55)/0.5-1, drifts[0].By, 1e-9)
	assert.Equal(t, "short pastry", drifts[0].Mixture)
}

func TestMisprintIsOutside(t *testing.T) {
	r := recipe.Recipe{Title: "Short pastry", Yield: 8, Ingredients: ingredients("150 g plain flour", "7.5 g butter")}
	out := scale.Outside(r, pantry.Stock())
	require.Len(t, out, 1)
	assert.Equal(t, "fat : flour = 1 : 20", out[0].Says())
	assert.Equal(t, "less", out[0].OutsideWhat)
}

func TestTins(t *testing.T) {
	round := func(cm int64) recipe.Tin { return recipe.Tin{Name: "sandwich tin", Diameter: exact.Int(cm)} }
	f, ok := scale.TinFactor(round(18), round(20))
	require.True(t, ok)
	assert.InDelta(t, 400.0/324, f.Float(), 1e-9)
	f, ok = scale.TinFactor(round(20), recipe.Tin{Length: exact.Int(18), Width: exact.Int(18)})
	require.True(t, ok)
	assert.InDelta(t, 324/(3.14159265*100), f.Float(), 1e-6)
	_, ok = scale.TinFactor(recipe.Tin{}, round(20))
	assert.False(t, ok)
	fills := scale.Fills(round(18), exact.Int(1), []recipe.Tin{round(18), round(15)})
	require.Len(t, fills, 2)
	assert.InDelta(t, 1, fills[0].Depth, 1e-9)
	assert.InDelta(t, 1, fills[0].Time, 1e-9)
	assert.InDelta(t, 324.0/225, fills[1].Depth, 1e-9)
	assert.Greater(t, fills[1].Time, fills[1].Depth, "deeper takes longer than in proportion")
}

func TestBuying(t *testing.T) {
	flour, _ := pantry.Stock().Find("plain-flour")
	// 2.1 kg: 1.5 kg + 500 g + 500 g for 205p, or two of 1.5 kg for 190p.
	p, ok := scale.Buy(flour, measure.Q("2100", measure.Gram))
	require.True(t, ok)
	assert.Equal(t, "2 × 1.5 kg bag, 900 g left", p.Says())
	assert.Equal(t, 190, p.Pence)
	eggs, _ := pantry.Stock().Find("egg-medium")
	p, _ = scale.Buy(eggs, measure.Q("14", measure.Each))
	assert.Equal(t, "1 × 6 box + 1 × 12 box, 4 left", p.Says())
	onion, _ := pantry.Stock().Find("onion")
	p, _ = scale.Buy(onion, measure.Q("14", measure.Each)) // 14 · 170 g, with skin
	assert.Equal(t, "3 × 1 kg bag, 620 g left", p.Says())
	_, ok = scale.Buy(pantry.Ingredient{}, measure.Q("1", measure.Gram))
	assert.False(t, ok)
}

// No other set of packs is cheaper.
func TestBuyingIsCheapest(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		stock := pantry.Ingredient{}
		for range rapid.IntRange(1, 3).Draw(t, "sizes") {
			stock.Packs = append(stock.Packs, pantry.Pack{Size: measure.Quantity{Amount: exact.Int(rapid.Int64Range(1, 9).Draw(t, "size")), Unit: measure.Gram}, Word: "bag", Pence: rapid.IntRange(1, 50).Draw(t, "pence")})
		}
		need := rapid.IntRange(1, 30).Draw(t, "need")
		p, ok := scale.Buy(stock, measure.Quantity{Amount: exact.Int(int64(need)), Unit: measure.Gram})
		require.True(t, ok)
		cheapest := make([]int, need+1)
		for grams := 1; grams <= need; grams++ {
			cheapest[grams] = 1 << 30
			for _, pack := range stock.Packs {
				cheapest[grams] = min(cheapest[grams], pack.Pence+cheapest[max(0, grams-int(pack.Size.Amount.Floor()))])
			}
		}
		assert.Equal(t, cheapest[need], p.Pence)
	})
}

func TestCost(t *testing.T) {
	pence, unpriced := kitchen.Cost(dough, exact.Frac(1, 2))
	assert.Empty(t, unpriced)
	// Flour 112.5/1500·95, baking powder 1.5/170·130, a whole egg 270/12,
	// pepper ⅛ tsp · 0.47 g/ml/100·190, milk 37.5 ml of 2.272 l for 150.
	want := 112.5/1500*95 + 1.5/170*130 + 22.5 + 0.625*0.47/100*190 + 37.5/2272*150
	assert.InDelta(t, want, pence.Float(), 0.01)
}

func BenchmarkAmounts(b *testing.B) {
	var lines []string
	for i := range 25 {
		lines = append(lines, []string{"225 g plain flour", "1 tsp baking powder", "125 ml milk", "50 g butter", "1 egg"}[i%5])
	}
	r := recipe.Recipe{Title: "Scones", Yield: 8, Ingredients: ingredients(lines...)}
	for b.Loop() {
		kitchen.Amounts(r, 6)
	}
}
