package safety_test

import (
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"freshapron/internal/core/class"
	"freshapron/internal/core/exact"
	"freshapron/internal/core/fit"
	"freshapron/internal/core/measure"
	"freshapron/internal/core/pantry"
	"freshapron/internal/core/recipe"
	"freshapron/internal/core/safety"
	"freshapron/internal/demo"
)

var stock = pantry.Stock()

func take(line, part string) recipe.Ingredient {
	return recipe.TakeLine(line, part, measure.Metric, stock).Ingredient
}

func of(lines ...string) recipe.Recipe {
	r := recipe.Recipe{Title: "Test", Yield: 1, Each: 1}
	for _, l := range lines {
		r.Ingredients = append(r.Ingredients, take(l, ""))
	}
	return r
}

func ExampleRegion_Cooked() {
	uk := safety.RegionOf("uk")
	fmt.Println(uk.Cooked("everything", 72, 120))
	fmt.Println(uk.Cooked("everything", 72, 60))
	fmt.Println(uk.Cooked("everything", 167, 120))
	fmt.Println(uk.Cooked("everything", 4, 120))
	// Output:
	// true Done by the table: 70 °C for 2 min.
	// false Hot enough and not for long enough: 70 °C for 2 min. Leave it, and probe again.
	// false 167 °C is more than the middle of wet food can have: is the probe in the pan, or through? Wipe it, and probe again.
	// false 4 °C is a fridge’s temperature, not that of food on the heat. If it is kept cold, write it down as that.
}

func allergic(what string) []class.Need { return []class.Need{{Kind: class.Allergy, What: what}} }

func diet(what string) []class.Need { return []class.Need{{Kind: class.Diet, What: what}} }

// Who can eat what, ingredient by ingredient. What is unknown is never safe.
func TestEats(t *testing.T) {
	for _, c := range []struct {
		line  string
		needs []class.Need
		want  pantry.Verdict
		why   string
	}{
		{"100 g plain flour", allergic("coeliac"), pantry.Never, "contains wheat"},
		{"100 g rolled oats", allergic("coeliac"), pantry.Never, "contains oats"},
		{"100 g rice flour", allergic("coeliac"), pantry.Suits, ""},
		{"50 g butter", allergic("milk"), pantry.Never, "contains milk"},
		{"50 g butter", allergic("nuts"), pantry.Suits, ""},
		{"50 g butter", allergic("lactose intolerant"), pantry.Never, "contains milk"},
		{"50 g butter", allergic("CMPA, severe"), pantry.Never, "contains milk"},
		{"50 g butter", diet("veggie"), pantry.Suits, ""},
		{"50 g butter", allergic("asthma"), pantry.Suits, ""},
		{"50 g butter", allergic("none"), pantry.Suits, ""},
		{"50 g butter", allergic("quix"), pantry.Ask, "nobody has said what “quix” means"},
		{"300 g beef mince", diet("no beef"), pantry.Never, "beef is not no beef"},
		{"300 g cod", diet("pescatarian"), pantry.Suits, ""},
		{"300 g chicken breast", diet("pescatarian"), pantry.Never, "poultry is not pescatarian"},
		{"2 medium eggs", allergic("eggs"), pantry.Never, "contains eggs"},
		{"200 ml water", allergic("milk"), pantry.Suits, ""},
		{"1 packet dragon dust", allergic("milk"), pantry.Never, "not looked up, so it counts as unsafe"},
		{"1 packet dragon dust", diet("vegan"), pantry.Never, "not looked up, so it counts as unsafe"},
		{"1 packet dragon dust", allergic("kiwi"), pantry.Never, "not looked up, so it counts as unsafe"},
		{"2 carrots", allergic("carrot"), pantry.Never, "is carrot"},
		{"2 carrots", allergic("kiwi"), pantry.Suits, ""},
		{"1 lemon", allergic("citrus"), pantry.Never, "is citrus, or has it in it"},
		{"100 ml lemonade", allergic("citrus"), pantry.Ask, "read the packet for citrus"},
		{"2 shallots", allergic("onions"), pantry.Never, "is onion, or has it in it"},
		{"100 g gram flour", allergic("chick peas"), pantry.Never, "is chickpea, or has it in it"},
		{"200 g passata", allergic("kiwi"), pantry.Suits, ""},
		{"2 leaves of gelatine", allergic("pork"), pantry.Never, "is pork, or has it in it"},
		{"100 g beef sausage", allergic("pork"), pantry.Ask, "read the packet for pork"},
		{"100 g curry powder", allergic("cumin"), pantry.Ask, "read the packet for cumin"},
		{"200 ml water", allergic("citrus"), pantry.Suits, ""},
		{"50 g butter", diet("vegan"), pantry.Never, "is not vegan"},
		{"300 g turkey mince", diet("halal"), pantry.Ask, "ask the supplier whether it is halal"},
		{"300 g turkey mince", diet("vegetarian"), pantry.Never, "poultry is not vegetarian"},
		{"2 carrots", diet("vegan"), pantry.Suits, ""},
		{"2 carrots", diet("fruit only"), pantry.Ask, "nobody has said what “fruit only” means here"},
		{"100 g plain flour", []class.Need{{Kind: class.Access, What: "one-handed"}}, pantry.Suits, ""},
	} {
		against := safety.Eats(of(c.line), stock, c.needs)
		assert.Equal(t, c.want, safety.Worst(against), "%s for %v", c.line, c.needs)
		if c.why != "" {
			require.NotEmpty(t, against, c.line)
			assert.Contains(t, against[0].Why, c.why, c.line)
		}
	}
}

// What the school has put into its pantry itself is in no table: its packet is read for every food.
func TestTheSchoolsOwnIsRead(t *testing.T) {
	own := pantry.Ingredient{ID: "sherbet", Name: "sherbet powder", Role: pantry.Other}
	p := stock.With([]pantry.Ingredient{own})
	r := recipe.Recipe{Ingredients: []recipe.Ingredient{{Name: own.Name, Pantry: own.ID}}}
	assert.Equal(t, pantry.Ask, safety.Worst(safety.Eats(r, p, allergic("citrus"))))
	assert.Equal(t, pantry.Ask, safety.Worst(safety.Eats(r, p, allergic("kiwi"))))
}

// Every ingredient of the pantry, made unknown, is unsafe for every need about
// food.
func TestWhatIsUnknownIsNeverSafe(t *testing.T) {
	for n, i := range stock.List() {
		if i.Tap() || n%7 != 0 { // one in seven, for time
			continue
		}
		i.Unknown = true
		p := stock.With([]pantry.Ingredient{i})
		r := recipe.Recipe{Ingredients: []recipe.Ingredient{{Name: i.Name, Pantry: i.ID}}}
		for _, needs := range [][]class.Need{allergic("milk"), allergic("kiwi"), diet("vegan"), diet("halal")} {
			require.Equal(t, pantry.Never, safety.Worst(safety.Eats(r, p, needs)), "%s for %v", i.Name, needs)
		}
	}
}

func TestCanEat(t *testing.T) {
	scones := demo.Dish("herb-scones")
	vegan := safety.CanEat(scones, stock, diet("vegan"), take)
	assert.Equal(t, pantry.Suits, vegan.Verdict())
	require.Len(t, vegan.Swaps, 2)
	assert.Equal(t, "butter", vegan.Swaps[0].For)
	assert.Equal(t, "semi-skimmed milk", vegan.Swaps[1].For)
	both := safety.CanEat(scones, stock, append(diet("vegan"), allergic("coeliac")...), take)
	assert.Len(t, both.Swaps, 2)
	assert.Equal(t, pantry.Never, both.Verdict(), "oat drink is for vegans, and not for coeliacs")
	assert.Equal(t, "semi-skimmed milk", both.Left[0].Ingredient)
	tartlets := safety.CanEat(demo.Dish("leek-tartlets"), stock, allergic("milk"), take)
	assert.Equal(t, pantry.Never, tartlets.Verdict(), "no swap makes it safe, and that is said")
	nobody := safety.CanEat(scones, stock, nil, take)
	assert.Empty(t, nobody.Swaps)
	assert.Equal(t, pantry.Suits, nobody.Verdict())
	// No swap is ever offered that makes anything worse, for any dish.
	for _, r := range demo.Dishes() {
		for _, needs := range [][]class.Need{allergic("milk"), allergic("coeliac"), allergic("eggs"), allergic("nuts"), diet("vegan"), diet("halal"), diet("vegetarian")} {
			w := safety.CanEat(r, stock, needs, take)
			assert.LessOrEqual(t, w.Verdict(), safety.Worst(safety.Eats(r, stock, needs)), r.Title)
			assert.LessOrEqual(t, len(w.Left), len(safety.Eats(r, stock, needs)), r.Title)
		}
	}
}

func TestApart(t *testing.T) {
	scones := demo.Dish("herb-scones")
	contact := []class.Need{{Kind: class.Allergy, What: "milk", Severity: class.Contact}}
	assert.True(t, safety.Apart(scones, stock, contact))
	assert.False(t, safety.Apart(scones, stock, []class.Need{{Kind: class.Allergy, What: "milk", Severity: class.Eaten}}))
	assert.False(t, safety.Apart(scones, stock, allergic("fish")))
	assert.False(t, safety.Apart(scones, stock, diet("vegan")))
}

func TestDangers(t *testing.T) {
	find := func(dish, step string) []recipe.Danger {
		r := demo.Dish(dish)
		for n, s := range r.Steps {
			if s.ID == step {
				return r.Dangers(n, stock)
			}
		}
		t.Fatalf("%s has no step %s", dish, step)
		return nil
	}
	assert.Equal(t, []recipe.Danger{recipe.HotOven}, find("herb-scones", "bake"))
	assert.Contains(t, find("turkey-koftas", "grate"), recipe.Grater)
	assert.NotContains(t, find("turkey-koftas", "weigh"), recipe.RawMeat, "the mince stays in the fridge")
	for _, r := range demo.Dishes() {
		for n, s := range r.Steps {
			d := r.Dangers(n, stock)
			if s.Kind == fit.Bake {
				assert.Contains(t, d, recipe.HotOven, "%s: %s", r.Title, s.Title)
			}
		}
	}
}

// Younger classes need more of an adult, never less.
func TestWhoMayDoWhat(t *testing.T) {
	book := safety.Usual()
	rank := map[fit.Adult]int{fit.NoAdult: 0, fit.Watches: 1, fit.Does: 2}
	for _, d := range recipe.Dangers {
		last := 3
		for age := 4; age <= 18; age++ {
			now := rank[book.Adult(d, age, 0)]
			assert.LessOrEqual(t, now, last, "%s at %d", d, age)
			last = now
		}
		assert.Equal(t, fit.NoAdult, book.Adult(d, 0, 0), "of unknown ages no rule is taken")
		assert.Equal(t, fit.NoAdult, book.Adult(d, 11, 0), "seniors do it themselves under the shipped table")
	}
	assert.Equal(t, fit.Does, book.Adult(recipe.HotOven, 8, 0))
	assert.Equal(t, fit.Watches, book.Adult(recipe.HotOven, 10, 0))
	assert.Equal(t, fit.Watches, book.Adult(recipe.Knife, 8, class.Starting))
	assert.Equal(t, fit.NoAdult, book.Adult(recipe.Knife, 8, class.Sure))
	assert.Equal(t, fit.NoAdult, book.Adult(recipe.Knife, 8, 0))
}

func TestAdapt(t *testing.T) {
	book := safety.Usual()
	scones := demo.Dish("herb-scones")
	step := func(r recipe.Recipe, id string) recipe.Step {
		for _, s := range r.Steps {
			if s.ID == id {
				return s
			}
		}
		t.Fatal(id)
		return recipe.Step{}
	}
	young := book.Adapt(scones, stock, safety.Bench{Age: 8})
	assert.Equal(t, fit.Does, step(young, "bake").Adult)
	assert.Zero(t, step(young, "bake").Cooks)
	assert.Equal(t, fit.NoAdult, step(scones, "bake").Adult, "the recipe itself stays")
	assert.NoError(t, young.Problems())

	ready, _ := book.Way("ready-cut")
	quick := book.Adapt(scones, stock, safety.Bench{Age: 11, Ways: map[string][]safety.Way{"herbs": {ready}}})
	assert.Equal(t, exact.MustParse("0.6"), step(quick, "herbs").Work, "three minutes at a fifth")
	assert.Equal(t, step(scones, "rub").Work, step(quick, "rub").Work)

	// With one board, what is cut comes before raw meat; where the recipe says
	// otherwise, it stays as the recipe says.
	r := recipe.Recipe{Title: "Strips", Yield: 2, Piece: "x", Pieces: "x", Each: 1, Ingredients: []recipe.Ingredient{take("300 g chicken breast", ""), take("2 carrots", "")}}
	cut := func(id, title string, after ...fit.After) recipe.Step {
		return recipe.Step{Step: fit.Step{ID: id, Title: title, Kind: fit.Cut, Work: exact.Int(3), Cooks: 1, Adult: fit.NoAdult, After: after}, Text: title}
	}
	r.Steps = []recipe.Step{cut("meat", "Slice the chicken"), cut("veg", "Slice the carrots")}
	one := book.Adapt(r, stock, safety.Bench{Age: 12, OneBoard: true})
	assert.Equal(t, []fit.After{{Step: "veg"}}, step(one, "meat").After)
	assert.Empty(t, step(book.Adapt(r, stock, safety.Bench{Age: 12}), "meat").After)
	r.Steps = []recipe.Step{cut("meat", "Slice the chicken"), cut("veg", "Slice the carrots", fit.After{Step: "meat"})}
	assert.Empty(t, step(book.Adapt(r, stock, safety.Bench{Age: 12, OneBoard: true}), "meat").After, "no circle")
	for _, dish := range demo.Dishes() {
		for _, age := range []int{6, 12} {
			assert.NoError(t, book.Adapt(dish, stock, safety.Bench{Age: age, OneBoard: true}).Problems(), "%s at %d", dish.Title, age)
		}
	}
}

func TestOffers(t *testing.T) {
	book := safety.Usual()
	slaw := demo.Dish("rainbow-slaw")
	oneHanded := class.Learner{Needs: []class.Need{{Kind: class.Access, What: "One-handed"}}}
	at := -1
	for n := range slaw.Steps {
		for _, d := range slaw.Dangers(n, stock) {
			if d == recipe.Knife && at < 0 {
				at = n
			}
		}
	}
	require.GreaterOrEqual(t, at, 0)
	var names []string
	for _, w := range book.Offers(oneHanded, slaw.Steps[at], slaw.Dangers(at, stock)) {
		names = append(names, w.ID)
	}
	assert.Contains(t, names, "spiked-board")
	assert.NotContains(t, names, "fork", "that is for beginners")
	assert.Empty(t, book.Offers(class.Learner{Level: class.Sure}, slaw.Steps[at], slaw.Dangers(at, stock)))
	assert.NotEmpty(t, book.Offers(class.Learner{Level: class.Starting}, slaw.Steps[at], slaw.Dangers(at, stock)))
	wholes := book.Wholes(class.Learner{Needs: []class.Need{{Kind: class.Access, What: safety.LowVision}}})
	assert.Len(t, wholes, 2)
	seen := map[string]bool{}
	for _, w := range book.Ways {
		assert.False(t, seen[w.ID], w.ID)
		seen[w.ID] = true
		assert.True(t, w.Whole || len(w.Dangers)+len(w.Kinds) > 0, "%s is for nothing", w.ID)
		assert.True(t, len(w.Helps) > 0 || w.Level > 0 || w.Apart, "%s helps nobody", w.ID)
	}
}

func TestRegions(t *testing.T) {
	for _, r := range safety.Regions {
		assert.NotEmpty(t, r.Source, r.Name)
		assert.NotEmpty(t, r.Looked)
		assert.Less(t, r.Cold, r.Hot)
		for _, food := range r.Foods() {
			last := false
			for c := 40.0; c <= 100; c++ { // hotter is never worse
				ok, says := r.Cooked(food, c, 60)
				assert.False(t, last && !ok, "%s: %s at %g", r.Name, food, c)
				assert.NotEmpty(t, says)
				last = ok
			}
			ok, _ := r.Cooked(food, 30, 1_000_000)
			assert.False(t, ok, "nothing is done at 30 °C")
			ok, _ = r.Cooked(food, 85, 600)
			assert.True(t, ok)
		}
		ok, says := r.Cooked("moon cheese", 90, 600)
		assert.False(t, ok, "what the table does not know is not done")
		assert.Contains(t, says, "no rule")
	}
	uk := safety.RegionOf("uk")
	for _, c := range []struct {
		celsius float64
		seconds int
		ok      bool
	}{{60, 2700, true}, {60, 2699, false}, {65, 600, true}, {70, 119, false}, {75, 30, true}, {80, 6, true}, {80, 5, false}} {
		ok, _ := uk.Cooked("everything", c.celsius, c.seconds)
		assert.Equal(t, c.ok, ok, "%g °C for %d s", c.celsius, c.seconds)
	}
	for _, celsius := range []float64{101.1, 101, 8.1, 8} {
		_, says := uk.Cooked("everything", celsius, 3600)
		assert.Equal(t, celsius == 101.1, strings.Contains(says, "wet food"), "%g °C", celsius)
		assert.Equal(t, celsius == 8, strings.Contains(says, "fridge"), "%g °C", celsius)
	}
	assert.Equal(t, uk.ID, safety.RegionOf("nowhere").ID)
}

func TestKept(t *testing.T) {
	uk := safety.RegionOf("uk")
	for _, c := range []struct {
		hot     bool
		celsius float64
		minutes int
		ok      bool
	}{{true, 63, 0, true}, {true, 62, 120, true}, {true, 62, 121, false}, {false, 8, 9999, true}, {false, 9, 240, true}, {false, 9, 241, false}} {
		ok, _ := uk.Kept(c.hot, c.celsius, c.minutes)
		assert.Equal(t, c.ok, ok, "%v", c)
	}
}

func TestCompose(t *testing.T) {
	on := safety.On{
		Recipes: []recipe.Recipe{demo.Dish("turkey-koftas")}, Pantry: stock, Book: safety.Usual(), Class: "9 Rowan", Learners: 22, Age: 13, Room: "Food Room", Benches: 11, Sharps: 60,
		Needs: []safety.Touched{{What: "milk", In: "Turkey koftas", Learners: 2, Apart: true, Unsafe: true}}, Helps: []string{safety.OneHand}, Hold: "Kept in the fridge", Outages: []string{"Oven 4: door"},
	}
	lines := safety.Compose(on)
	byKey := map[string]safety.Line{}
	for _, l := range lines {
		_, twice := byKey[l.Key]
		assert.False(t, twice, l.Key)
		byKey[l.Key] = l
		for _, text := range []string{l.Hazard, l.Who, l.Done, l.Adult, l.Left, l.Because} {
			assert.NotEmpty(t, text, l.Key)
		}
	}
	for key, says := range map[string]string{
		"hygiene": "20 s", "grater": "Top to bottom", "raw_meat": "hot soapy water", "core": "70 °C for 2 min", "need:milk": "tools and cloths of their own", "access": "Other ways",
		"sharps": "60 sharp things", "hold": "within 90 min", "outages": "Oven 4", "hot_fat": "never left alone",
	} {
		assert.Contains(t, byKey[key].Done, says, key)
	}
	assert.Contains(t, byKey["need:milk"].Left, "NOT SAFE")
	on.OneBoard = true
	for _, l := range safety.Compose(on) {
		if l.Key == "raw_meat" {
			assert.True(t, strings.HasPrefix(l.Done, "One board for both"))
		}
	}
	slaw := safety.On{Recipes: []recipe.Recipe{demo.Dish("rainbow-slaw")}, Pantry: stock, Book: safety.Usual(), Class: "8 Hazel", Learners: 24, Room: "Food Room", Benches: 12}
	for _, l := range safety.Compose(slaw) {
		assert.NotContains(t, []string{"core", "hot_oven", "raw_meat", "hold", "sharps", "outages", "access"}, l.Key, "a dish without heat or meat")
	}
}
