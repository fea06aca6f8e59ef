package recipe

import (
	"fmt"
	"slices"
	"strconv"
	"strings"

	"freshapron/internal/core/exact"
	"freshapron/internal/core/fit"
	"freshapron/internal/core/pantry"
	"freshapron/internal/core/pattern"
	"freshapron/internal/core/words"
)

var (
	shaping   = pattern.Must(`(?i)^\W*(?:\d+[.)]?\s*)?(?:then |next,? )?(?:knead|divide in(?:to)? (?:\d|two|three|four|six|eight)|roll into|roll up|(?:place|put) in \w+ \w+ and prove|plait|fold (?:in )?the (?:flour|dry)|shape|roll (?:it |the (?:dough|pastry) )?out|rub in|rub the|cut out|knock back|prove|divide the (?:dough|mixture)|crack|mix the (?:flour|dry|dough)|line the tin|fill the (?:cases|tin|pie)|form into|cream the)\b`)
	rolledUp  = pattern.Must(`(?i)\broll up\b.*\b(?:paper|jam|cream|inside|towel)\b`) // a sponge
	blindBake = pattern.Must(`(?i)\b(?:blind|toast|roast|nuts|meanwhile|potato|vegetables|onions|peppers|garlic|squash|aubergine|beetroot|chicken|sausages)\b`)
)

// bakedTooSoon catches what is baked before it is shaped.
func (c *checker) bakedTooSoon() {
	last := -1
	for n, s := range c.Steps {
		if s.Kind == fit.Bake && s.Wait.Sign() > 0 && !blindBake.MatchString(s.Text) {
			last = n
		}
	}
	if last < 0 {
		return
	}
	for n := last + 1; n < len(c.Steps); n++ {
		if s := c.Steps[n]; (s.Kind == fit.Shape || s.Kind == fit.Mix || s.Kind == fit.Rest) && shaping.MatchString(s.Text) && !rolledUp.MatchString(s.Text) {
			c.add(stepAt(n), "order "+s.Title, fmt.Sprintf("“%s” comes after “%s”, and nothing is baked after it.", s.Title, c.Steps[last].Title), "Put the steps in the order of the work.", nil)
			return
		}
	}
}

// Oven settings of household ovens, in conventional °C.
const (
	coolest = 70
	hottest = 280
)

func (c *checker) ovenOutOfRange() {
	for n, s := range c.Steps {
		for _, u := range s.Uses {
			if u.Equipment != "oven" || u.Temperature == nil {
				continue
			}
			if t := u.Temperature.Float(); t < coolest || t > hottest {
				c.add(stepAt(n), "range "+s.Title, fmt.Sprintf("%s °C: ovens go from %d to %d °C.", u.Temperature.Decimal(0), coolest, hottest), "Look for a misprint, or for Fahrenheit read as Celsius.", nil)
			}
		}
		for _, m := range wildHeat.FindAllStringSubmatch(s.Text, -1) {
			t, _ := strconv.ParseFloat(m[1], 64)
			fahrenheit := strings.HasPrefix(strings.ToLower(m[2]), "f")
			if ovenWords.MatchString(s.Text) && (!fahrenheit && (t > 300 || t < 50) || fahrenheit && (t > 575 || t < 150)) && !innerWords.MatchString(s.Text) {
				c.add(stepAt(n), "range "+s.Title, fmt.Sprintf("%s is no setting of an oven.", strings.TrimSpace(m[0])), "Look for a misprint.", nil)
			}
		}
		for _, m := range coldOven.FindAllStringSubmatch(s.Text, -1) {
			if t, _ := strconv.Atoi(m[1]); t < coolest {
				c.add(stepAt(n), "range "+s.Title, fmt.Sprintf("%d °C: ovens go from %d to %d °C.", t, coolest, hottest), "Look for a misprint.", nil)
			}
		}
		for _, m := range wildMark.FindAllStringSubmatch(s.Text, -1) {
			if mark, _ := strconv.Atoi(m[1]); mark > 9 || mark == 0 {
				c.add(stepAt(n), "mark "+s.Title, fmt.Sprintf("%s: marks go from ¼ to 9.", strings.TrimSpace(m[0])), "Look for a misprint.", nil)
			}
		}
	}
}

var (
	wildHeat   = pattern.Must(`(?i)\b(\d{1,4})\s*(?:°|º|degrees?)?\s*(celsius|centigrade|fahrenheit|c|f)\b`)
	coldOven   = pattern.Must(`(?i)\b(?:bake|roast|oven)(?:[^.;\d]{0,60}\bat| (?:to|to about|at about))? (\d{1,2})\s*(?:°\s*C?|º\s*C?|degrees|C|fan)(?:[^\pL]|$)`)
	wildMark   = pattern.Must(`(?i)\bgas(?:\s*mark)?\s*(\d{1,2})\b`)
	ovenWords  = pattern.Must(`(?i)\b(?:oven|bake|roast|preheat)\b`)
	innerWords = pattern.Must(`(?i)\b(?:probe|core|centre|middle|inside|thermometer|reach|milk|water|oil)\b`)
)

var heated = pattern.Must(`(?i)\b(?:cook|fry|fries|roast|bake|grill|simmer|boil|stew|braise|poach|steam|brown|sear|griddle|barbecue|sauté|saute|in the oven|microwave|heat through|bubble|casserole)\w*\b`)

// rawNotCooked finds raw meat and fish in a recipe that heats nothing.
func (c *checker) rawNotCooked() {
	raw := c.Raw(c.pantry)
	if len(raw) == 0 || len(c.Steps) == 0 {
		return
	}
	var left []string
	for _, i := range c.everything() {
		if slices.Contains(raw, i.Name) && !c.heatedFrom(c.firstUse(i)) {
			left = append(left, i.Name)
		}
	}
	if len(left) > 0 {
		c.add("steps", "raw not cooked", fmt.Sprintf("Raw: %s. No step cooks it.", listed(left)), "Write how it is cooked, and to what temperature in the middle.", nil)
	}
}

// lectin are dried beans that make ill until they have boiled hard: beans of the kinds of
// Phaseolus vulgaris, red kidney beans worst.
var lectin = ids("dried-kidney-beans dried-black-beans dried-cannellini-beans dried-borlotti-beans")

// hardBoil is how many minutes they boil hard for at least, once they have been soaked: NHS, beans and
// pulses in your diet. The FDA's Bad Bug Book asks for 30.
const hardBoil = 10

var boilsHard = pattern.Must(`(?i)\b(?:boil(?:s|ed|ing)?|rapid(?:ly)?|pressure cook\w*)\b`)

// beansNotBoiled finds dried beans that no step boils hard for long enough.
func (c *checker) beansNotBoiled() {
	for _, i := range c.everything() {
		if !slices.Contains(lectin, i.Pantry) || len(c.Steps) == 0 || slices.ContainsFunc(c.Steps, boilsForLong) {
			continue
		}
		at := c.firstUse(i)
		c.add(stepAt(at), "beans "+i.Name, fmt.Sprintf("%s make ill until they have boiled hard for %d min; simmering and a slow cooker don’t do it. No step boils them for so long.", words.Capital(i.Name), hardBoil),
			fmt.Sprintf("Soak them for 12 hours, drain, boil hard in fresh water for %d min, then simmer until soft; or use a tin. Your local guidance may ask for longer.", hardBoil),
			func(r *Recipe) {
				s := &r.Steps[at]
				s.Hazard = strings.TrimSpace(s.Hazard + fmt.Sprintf(" Dried beans: soaked for 12 hours, drained, and boiled hard in fresh water for %d min before anything else.", hardBoil))
			})
		return
	}
}

var soaks = pattern.Must(`(?i)\bsoak(?:s|ed)?\b.*\b(?:overnight|o/n|hours?|hrs?|night before)\b`)

// soakedFromATin finds beans that the pantry takes for those of a tin, and that the method soaks.
func (c *checker) soakedFromATin() {
	for n, i := range c.Ingredients {
		stock, _ := c.pantry.Find(i.Pantry)
		dried, ok := c.pantry.Find("dried-" + i.Pantry)
		if !ok || tinned.MatchString(i.Name+", "+i.Note) || i.Unit.ID == "tin" || !slices.ContainsFunc(c.Steps, func(s Step) bool {
			return soaks.MatchString(s.Text) && namedIn(pantry.Words(s.Text), i, pantry.Ingredient{})
		}) {
			continue
		}
		c.add(ingredientAt(n), i.Name, fmt.Sprintf("It is soaked for hours, and %s is what would be bought.", stock.Name), "Take them for "+dried.Name+".",
			func(r *Recipe) { r.Ingredients[n].Pantry, r.Ingredients[n].Name = dried.ID, dried.Name })
	}
}

// boilsForLong reports whether a step boils, and says for how long: long enough for beans. The
// hours that they soak are none of it.
func boilsForLong(s Step) bool {
	return slices.ContainsFunc(strings.FieldsFunc(s.wording(), func(r rune) bool { return r == '.' || r == ';' }), func(sentence string) bool {
		return boilsHard.MatchString(sentence) && slices.ContainsFunc(MinutesIn(sentence), func(m exact.Number) bool {
			return !m.Less(exact.Int(hardBoil)) && m.Less(exact.Int(soakedFor))
		})
	})
}

// soakedFor is from how many minutes on a time is that of soaking.
const soakedFor = 4 * 60

// firstUse is the first step that names an ingredient; the first of all where
// none does.
func (c *checker) firstUse(i Ingredient) int {
	stock, _ := c.pantry.Find(i.Pantry)
	return max(0, slices.IndexFunc(c.Steps, func(s Step) bool {
		text := strings.ToLower(s.wording())
		return usedIn(text, pantry.Words(text), i, stock) || goesIn(text, stock)
	}))
}

// heatedFrom reports whether a step from one on cooks.
func (c *checker) heatedFrom(n int) bool {
	return slices.ContainsFunc(c.Steps[n:], func(s Step) bool {
		return s.Kind == fit.Bake || heated.MatchString(s.Text)
	})
}

var deepFat = pattern.Must(`(?i)\bdeep[- ]?(?:fat|fry|fri\w+)\b|\bfryer\b`)

func (c *checker) deepFat() {
	for n, s := range c.Steps {
		if deepFat.MatchString(s.Text) && s.Adult != fit.Does {
			c.add(stepAt(n), "deep fat "+s.Title, fmt.Sprintf("“%s” deep-fries: fat at 180 °C burns badly and can catch fire.", s.Title),
				"Let an adult do it in a fryer with a thermostat, a third full; or shallow-fry or bake it.", func(r *Recipe) { r.Steps[n].Adult, r.Steps[n].Cooks = fit.Does, 0 })
			return
		}
	}
}

// freeFrom are what a title can promise, and what then may not be in it.
var freeFrom = []struct {
	title     *pattern.Pattern
	says      string
	allergens []pantry.Allergen
	diet      string
}{
	{pattern.Must(`(?i)\b(?:gluten[- ]free|coeliac|wheat[- ]free)\b`), "gluten-free", []pantry.Allergen{pantry.Wheat, pantry.Rye, pantry.Barley}, ""},
	{pattern.Must(`(?i)\b(?:dairy|milk|lactose)[- ]free\b`), "dairy-free", []pantry.Allergen{pantry.Milk}, ""},
	{pattern.Must(`(?i)\b(?:egg[- ]free|eggless)\b`), "egg-free", []pantry.Allergen{pantry.Eggs}, ""},
	{pattern.Must(`(?i)\bnut[- ]free\b`), "nut-free", []pantry.Allergen{pantry.Almonds, pantry.Hazelnuts, pantry.Walnuts, pantry.Cashews, pantry.Pecans, pantry.Brazils, pantry.Pistachios, pantry.Macadamias, pantry.Peanuts}, ""},
	{pattern.Must(`(?i)\b(?:soya?|soy)[- ]free\b`), "soya-free", []pantry.Allergen{pantry.Soya}, ""},
	{pattern.Must(`(?i)\bvegan\b`), "vegan", nil, "vegan"},
	{pattern.Must(`(?i)\b(?:vegetarian|veggie|meat[- ]free|meatless)\b`), "vegetarian", nil, "vegetarian"},
}

// freeFromTitle holds a title to its promise.
func (c *checker) freeFromTitle() {
	for _, f := range freeFrom {
		if !f.title.MatchString(c.Title + ". " + c.Why) {
			continue
		}
		diet, _ := pantry.DietOf(f.diet)
		for n, i := range c.Ingredients {
			stock, ok := c.pantry.Find(i.Pantry)
			holds := slices.ContainsFunc(stock.Allergens, func(a pantry.Allergen) bool { return slices.Contains(f.allergens, a) })
			if !ok || !holds && (f.diet == "" || diet.Judge(stock) != pantry.Never) {
				continue
			}
			c.add(ingredientAt(n), "promise "+i.Name, fmt.Sprintf("It is called %s, and %s is not.", f.says, i.Name), "Use another ingredient, or another name for the dish.", nil)
		}
	}
}
