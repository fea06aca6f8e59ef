package pantry_test

import (
	"fmt"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"freshapron/internal/core/exact"
	"freshapron/internal/core/measure"
	"freshapron/internal/core/pantry"
)

func ExamplePantry_Match() {
	p := pantry.Stock()
	for _, name := range []string{"finely chopped fresh parsley", "zucchini", "coconut butter"} {
		m := p.Match(name)
		if m.Certain {
			fmt.Println(name, "is", m.Ingredient.Name)
		} else {
			fmt.Println(name, "is not certain: could be", m.Maybe()[0].Name)
		}
	}
	// Output:
	// finely chopped fresh parsley is parsley, chopped
	// zucchini is courgette
	// coconut butter is not certain: could be butter
}

func TestStock(t *testing.T) {
	p := pantry.Stock()
	list := p.List()
	require.GreaterOrEqual(t, len(list), 150)
	priced := 0
	for _, i := range list {
		assert.NotEmpty(t, i.Name)
		assert.NotEmpty(t, i.Source, i.ID)
		assert.Equal(t, i.Counted(), i.Plural != "", "%s: what is counted has a plural", i.ID)
		assert.Contains(t, pantry.Roles, i.Role, i.ID)
		for _, f := range i.Fillings {
			assert.InDelta(t, 0.7, f.Density.Float(), 0.75, "%s %s", i.ID, f.Name)
		}
		for _, a := range i.Allergens {
			assert.NotEmpty(t, pantry.Fourteen.Declare([]pantry.Allergen{a}), "%s: %s is declared", i.ID, a)
		}
		for _, tr := range i.From {
			assert.Contains(t, pantry.Traits, tr, i.ID)
		}
		if len(i.Packs) > 0 {
			priced++
		}
		m := p.Match(i.Name)
		assert.True(t, m.Certain && m.Ingredient.ID == i.ID, "%s is found by its name, not %s", i.ID, m.Ingredient.ID)
	}
	assert.Greater(t, priced, 150)
	assert.GreaterOrEqual(t, len(p.List()), 400)
	_, ok := p.Find("plutonium")
	assert.False(t, ok)
}

// What comes from milk, eggs, fish, and so on holds the allergen of it.
func TestOriginAndAllergenAgree(t *testing.T) {
	for _, i := range pantry.Stock().List() {
		for trait, allergen := range map[pantry.Trait]pantry.Allergen{
			pantry.FromMilk: pantry.Milk, pantry.FromEgg: pantry.Eggs, pantry.FromFish: pantry.Fish,
		} {
			assert.Equal(t, i.Has(trait), slices.Contains(i.Allergens, allergen), "%s: %s", i.ID, trait)
		}
		shell := slices.Contains(i.Allergens, pantry.Crustaceans) || slices.Contains(i.Allergens, pantry.Molluscs) || slices.Contains(i.May, pantry.Crustaceans)
		assert.True(t, !i.Has(pantry.Shellfish) || shell, "%s: shellfish", i.ID)
	}
}

func TestNames(t *testing.T) {
	p := pantry.Stock()
	for name, id := range map[string]string{
		"Zucchini": "courgette", "courgettes": "courgette", "plain flour": "plain-flour", "all-purpose flour": "plain-flour",
		"large eggs": "egg-large", "Eggs": "egg-medium", "garlic cloves": "garlic", "cloves": "cloves-ground", "tomatoes": "tomato",
		"tinned chopped tomatoes": "chopped-tomatoes", "unsalted butter": "butter", "fresh coriander": "coriander-leaf",
		"ground coriander": "coriander-ground", "spring onions": "spring-onion", "scallions": "spring-onion", "red onions": "red-onion",
		"creme fraiche": "creme-fraiche", "crème fraîche": "creme-fraiche", "semi-skimmed milk": "milk", "potatoes": "potato",
		"leaves of gelatine": "gelatine", "blackberries": "blackberry", "cherry tomatoes": "cherry-tomato", "boiling water": "water",
		"freshly ground black pepper": "pepper", "red pepper": "pepper-red", "lean beef mince": "beef-mince", "bay leaves": "bay-leaf",
		"soft light brown sugar": "soft-brown-sugar", "eggplants": "aubergine", "skinless boneless chicken breasts": "chicken-breast",
	} {
		m := p.Match(name)
		assert.True(t, m.Certain, name)
		assert.Equal(t, id, m.Ingredient.ID, name)
	}
	for name, likely := range map[string]string{
		"self rasing flour": "self-raising-flour", "pecan butter": "butter", "tomatos relish": "tomato", "chedar": "cheddar",
		"imitation butter": "butter", "duck eggs": "egg-medium",
	} {
		m := p.Match(name)
		assert.False(t, m.Certain, "%s is asked, not guessed", name)
		var ids []string
		for _, i := range m.Maybe() {
			ids = append(ids, i.ID)
		}
		assert.Contains(t, ids, likely, name)
	}
	for _, name := range []string{"", "unobtainium", "🍓", "<script>"} {
		m := p.Match(name)
		assert.False(t, m.Certain, name)
		assert.Empty(t, m.Maybe(), name)
	}
}

func TestDeclaring(t *testing.T) {
	list := []pantry.Allergen{pantry.Oats, pantry.Wheat, pantry.Almonds, pantry.Milk}
	assert.Equal(t, []string{"cereals containing gluten (wheat)", "cereals containing gluten (oats)", "milk", "nuts (almonds)"}, pantry.Fourteen.Declare(list))
	assert.Equal(t, []string{"milk", "tree nuts (almonds)", "wheat"}, pantry.Nine.Declare(list), "oats are not on the list of nine")
}

func TestDiets(t *testing.T) {
	p := pantry.Stock()
	judge := func(diet, id string) pantry.Verdict {
		i, ok := p.Find(id)
		require.True(t, ok, id)
		for _, d := range pantry.Diets {
			if d.Name == diet {
				return d.Judge(i)
			}
		}
		t.Fatal(diet)
		return 0
	}
	assert.Equal(t, pantry.Suits, judge("vegetarian", "cheddar"))
	assert.Equal(t, pantry.Never, judge("vegetarian", "parmesan"), "calves' rennet")
	assert.Equal(t, pantry.Never, judge("vegan", "honey"))
	assert.Equal(t, pantry.Ask, judge("halal", "turkey-mince"), "the supplier says")
	assert.Equal(t, pantry.Never, judge("halal", "gelatine"), "of pigs")
	assert.Equal(t, pantry.Never, judge("no pork", "back-bacon"))
	assert.Equal(t, pantry.Ask, judge("vegetarian", "filled-pasta"), "meat is in some")
	assert.Equal(t, pantry.Ask, judge("halal", "vanilla"), "most extracts are made with alcohol")
	assert.Equal(t, pantry.Suits, judge("vegan", "vanilla"))
	read, _ := p.Find("vanilla")
	read.Label = pantry.Label{Says: "water, vanilla", On: "2026-11-27"}
	assert.Equal(t, pantry.Suits, pantry.Diets[3].Judge(read), "somebody has read the packet")
	assert.Equal(t, pantry.Ask, pantry.Diets[0].Judge(pantry.Ingredient{Unknown: true}), "what is unknown is not safe")
}

func TestCost(t *testing.T) {
	p := pantry.Stock()
	pence := func(id string, q measure.Quantity) float64 {
		i, _ := p.Find(id)
		n, ok := i.Pence(q)
		require.True(t, ok, id)
		return n.Float()
	}
	assert.InDelta(t, 225.0/1500*110, pence("self-raising-flour", measure.Q("225", measure.Gram)), 1e-9, "the large bag is cheaper")
	assert.InDelta(t, 270.0/12, pence("egg-medium", measure.Q("1", measure.Each)), 1e-9)
	assert.InDelta(t, 2*170.0/1000*95, pence("onion", measure.Q("2", measure.Each)), 1e-9, "170 g each, with its skin")
	assert.InDelta(t, 95.0*5*0.43/45, pence("cumin-ground", measure.Q("1", measure.Teaspoon)), 1e-9)
	assert.Zero(t, pence("water", measure.Q("1", measure.Litre)))
}

func TestSeasons(t *testing.T) {
	s, err := pantry.ParseSeason("9-4")
	require.NoError(t, err)
	assert.True(t, s.Has(12) && s.Has(9) && s.Has(4))
	assert.False(t, s.Has(7) || s.Has(5) || s.Has(8))
	summer := pantry.Season{From: 6, To: 8}
	assert.True(t, summer.Has(6) && summer.Has(8) && pantry.Season{From: 7, To: 7}.Has(7) && pantry.Season{}.Has(1))
	assert.False(t, summer.Has(5) || summer.Has(9))
	for text, right := range map[string]bool{"1-12": true, "12-1": true, "13-1": false, "0-4": false, "4-0": false, "4-13": false, "4": false, "x-4": false} {
		_, err = pantry.ParseSeason(text)
		assert.Equal(t, right, err == nil, text)
	}
}

// What a density, a pack and its price can be.
func TestLimitsOfTexts(t *testing.T) {
	for text, right := range map[string]bool{"level 3": true, "level 3.01": false, "level 0": false, "level 0.001": true, "level": false} {
		_, err := pantry.ParseFillings(text)
		assert.Equal(t, right, err == nil, text)
	}
	for text, right := range map[string]bool{"1 kg bag 0": true, "1 kg bag 1000000": true, "1 kg bag 1000001": false, "1 kg bag -1": false, "0 kg bag 5": false, "6 box 150": true, "box 150": false, "1 lump bag 5": false} {
		_, err := pantry.ParsePacks(text)
		assert.Equal(t, right, err == nil, text)
	}
}

// A pack is in the unit that its word is, and else in its word, several of them with an s; names follow an amount in the plural.
func TestPacksByTheirWord(t *testing.T) {
	i := pantry.Ingredient{Name: "leaf", Plural: "leaves", Packs: []pantry.Pack{{Size: measure.Q("400", measure.Gram), Word: "tin"}, {Size: measure.Q("2", measure.Litre), Word: "churn"}, {Size: measure.Q("2", measure.Litre), Word: "cup"}}}
	var words []string
	for _, p := range i.Amount(measure.Q("1", measure.Litre), "").Packs {
		words = append(words, p.Word.Symbol+" "+p.Word.Plural)
	}
	assert.Equal(t, []string{"tin tins", "churn churns", "cup cups"}, words)
	assert.Equal(t, []string{"1 leaf", "2 leaves", "1½ leaves", "½ leaf", "3 g leaf"}, []string{
		i.Of(measure.Q("1", measure.Each)), i.Of(measure.Q("2", measure.Each)), i.Of(measure.Q("1.5", measure.Each)), i.Of(measure.Q("0.5", measure.Each)), i.Of(measure.Q("3", measure.Gram)),
	})
}

func TestSchoolsOwn(t *testing.T) {
	p := pantry.Stock().With([]pantry.Ingredient{
		{ID: "butter", Name: "farm butter", Role: pantry.Structure, Allergens: []pantry.Allergen{pantry.Milk}, Fillings: []pantry.Filling{{Name: "level", Density: measure.Density{Number: exact.Frac(9, 10)}}}},
		{ID: "lucuma", Name: "lucuma", Also: []string{"ground lucuma"}, Role: pantry.Other},
	})
	butter, _ := p.Find("butter")
	assert.Equal(t, "farm butter", butter.Name)
	assert.True(t, p.Match("ground lucuma").Certain)
	assert.False(t, pantry.Stock().Match("lucuma").Certain, "the stock itself stays as it is")
}

func TestMentioned(t *testing.T) {
	var ids []string
	for _, i := range pantry.Stock().Mentioned("Rub the butter into the self-raising flour, then stir in the spring onions and grated Cheddar.") {
		ids = append(ids, i.ID)
	}
	assert.Equal(t, []string{"butter", "self-raising-flour", "spring-onion", "cheddar"}, ids)
}

func TestTextsThereAndBack(t *testing.T) {
	for _, i := range pantry.Stock().List() {
		f, err := pantry.ParseFillings(pantry.FillingsText(i.Fillings))
		require.NoError(t, err)
		assert.Equal(t, len(i.Fillings), len(f))
		p, err := pantry.ParsePacks(pantry.PacksText(i.Packs))
		require.NoError(t, err)
		assert.Equal(t, i.Packs, p)
	}
	for _, bad := range []string{"spooned", "spooned x", "spooned -1", "spooned 30"} {
		_, err := pantry.ParseFillings(bad)
		assert.Error(t, err, bad)
	}
	for _, bad := range []string{"500 g", "500 zz bag 10", "x bag 10", "0 g bag 1", "1 g bag -1"} {
		_, err := pantry.ParsePacks(bad)
		assert.Error(t, err, bad)
	}
}

// Words that take from a thing what it is never lead to the thing, and what has
// an item of its own is that.
func TestFreeFrom(t *testing.T) {
	p := pantry.Stock()
	for _, name := range []string{
		"dairy-free milk", "free-from flour", "egg free sponge", "milk alternative", "bread without gluten", "nut-free butter", "cheese substitute", "no-egg mayonnaise",
		"vegan honey", "chicken style chunks", "non-dairy cream", "mock turtle", "eggless mayonnaise", "imitation crab", "yoghurt alternative", "lactose-free cream",
	} {
		m := p.Match(name)
		assert.False(t, m.Certain, "%s is taken for %s", name, m.Ingredient.ID)
	}
	for name, id := range map[string]string{
		"dairy-free spread": "sunflower-spread", "vegan cheese": "vegan-cheese", "gluten free flour": "gluten-free-flour", "gluten-free pasta": "gf-pasta",
		"lactose-free milk": "lactose-free-milk", "soya milk": "soya-drink", "free-range eggs": "egg-medium", "egg-free mayonnaise": "vegan-mayo",
		"fat-free yoghurt": "yoghurt", "vegan sausages": "veggie-sausage", "greek-style yoghurt": "yoghurt", "dairy milk": "milk", "Red Wine Vinegar": "wine-vinegar",
	} {
		m := p.Match(name)
		assert.True(t, m.Certain, name)
		assert.Equal(t, id, m.Ingredient.ID, name)
	}
}

// plantHeads stand before a name and take the animal out of it.
var plantHeads = []string{"soya", "soy", "oat", "almond", "coconut", "rice", "peanut", "vegan", "dairy", "egg", "gluten", "gf", "plant", "meat", "non", "cocoa", "oyster", "butter", "bean", "veggie", "vegetarian", "corn", "shiitake", "potato", "buckwheat", "cream", "wheat"}

// otherThings are items whose names end in that of another and are not that.
var otherThings = map[string]string{
	"brazil-nuts": "mixed-nuts", "cashews": "mixed-nuts", "macadamias": "mixed-nuts", "peanuts": "mixed-nuts", "pecans": "mixed-nuts", "pine-nuts": "mixed-nuts",
	"pistachios": "mixed-nuts", "ginger-biscuits": "mixed-nuts", "gram-flour": "plain-flour", "rye-flour": "plain-flour", "lemonade": "beer", "tamari": "soy-sauce",
}

// No other word for an item loses an allergen: where the name of one item ends
// in that of another, as “smoked salmon” in “salmon”, it holds what the other
// holds, or its label has to be read for it.
func TestNoAliasLosesAnAllergen(t *testing.T) {
	list := pantry.Stock().List()
	names := func(i pantry.Ingredient) []string { return append([]string{i.Name, i.Plural}, i.Also...) }
	for _, i := range list {
		for _, alias := range names(i) {
			words := pantry.Words(alias)
			for _, other := range list {
				if other.ID == i.ID || len(other.Allergens) == 0 || otherThings[i.ID] == other.ID {
					continue
				}
				for _, name := range names(other) {
					tail := pantry.Words(name)
					if len(tail) == 0 || len(tail) >= len(words) || !slices.Equal(tail, words[len(words)-len(tail):]) {
						continue
					}
					if slices.ContainsFunc(words[:len(words)-len(tail)], func(w string) bool { return slices.Contains(plantHeads, w) }) {
						continue
					}
					for _, a := range other.Allergens {
						assert.True(t, slices.Contains(i.Allergens, a) || slices.Contains(i.May, a), "%s (%s) ends in %s of %s, which holds %s", alias, i.ID, name, other.ID, a)
					}
				}
			}
		}
	}
}

// A label that somebody has read answers what products of a name leave open.
func TestLabels(t *testing.T) {
	cube, ok := pantry.Stock().Find("stock-cube")
	require.True(t, ok)
	assert.Contains(t, cube.ToRead(), pantry.Milk)
	vegan, ok := pantry.DietOf("vegan")
	require.True(t, ok)
	assert.Equal(t, pantry.Ask, vegan.Judge(cube))
	form := pantry.FormOf(cube)
	form.Label, form.LabelOn = "contains celery", "2026-11-20"
	read, err := form.Read("stock-cube")
	require.NoError(t, err)
	assert.Empty(t, read.ToRead())
	assert.Equal(t, pantry.Suits, vegan.Judge(read))
	for on, says := range map[string]string{"soon": "“soon” is no date such as 2026-11-27", "": "give the day on which the packet was read"} {
		form.LabelOn = on
		_, err = form.Read("stock-cube")
		assert.ErrorContains(t, err, says)
	}
}
