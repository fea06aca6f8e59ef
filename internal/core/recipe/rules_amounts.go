package recipe

import (
	"fmt"
	"slices"
	"strconv"
	"strings"
	"unicode/utf8"

	"freshapron/internal/core/duration"
	"freshapron/internal/core/exact"
	"freshapron/internal/core/fit"
	"freshapron/internal/core/measure"
	"freshapron/internal/core/pantry"
	"freshapron/internal/core/pattern"
	"freshapron/internal/core/setting"
)

func (c *checker) noYield() {
	if c.Yield < 1 {
		c.add("yield", "", "It does not say how many it serves or makes, so that nothing can be scaled.", "Add how many it serves or makes.", nil)
	}
}

func (c *checker) noIngredients() {
	if len(c.Ingredients) == 0 {
		c.add("ingredients", "", "There is no ingredient.", "Write one on each line.", nil)
	}
}

func (c *checker) noSteps() {
	if len(c.Steps) == 0 {
		c.add("steps", "", "There is no step, so that nobody can say how long it takes.", "Write the steps.", nil)
	}
}

// unknownIngredient: of what is not in the pantry nobody knows the allergens.
func (c *checker) unknownIngredient() {
	for n, i := range c.everything() {
		if _, ok := c.pantry.Find(i.Pantry); ok {
			continue
		}
		where, mend := ingredientAt(n), "Choose what it is, or add it to the pantry."
		if n >= len(c.Ingredients) {
			where = "choices"
		}
		var fix func(*Recipe)
		maybe := c.pantry.Match(i.Name).Maybe()
		if len(maybe) == 1 && n < len(c.Ingredients) {
			mend = fmt.Sprintf("Take it as %s.", maybe[0].Name)
			fix = func(r *Recipe) { r.Ingredients[n].Pantry = maybe[0].ID }
		} else if len(maybe) > 1 {
			var names []string
			for _, m := range maybe[:min(3, len(maybe))] {
				names = append(names, m.Name)
			}
			mend = fmt.Sprintf("Is it %s? Choose, or add it to the pantry.", strings.Join(names, ", or "))
		}
		c.add(where, i.Name, fmt.Sprintf("“%s” is not in the pantry: its allergens are unknown, and it can’t be turned from weight to spoons.", i.Name), mend, fix)
	}
}

func (c *checker) noAmount() {
	for n, i := range c.Ingredients {
		if i.Given() || i.Law == Surface || i.Optional {
			continue
		}
		if stock, _ := c.pantry.Find(i.Pantry); i.Law == Taste && (stock.Role != pantry.Structure || stock.ID == "") && seasoning(stock) {
			continue
		}
		c.add(ingredientAt(n), i.Name, fmt.Sprintf("“%s” has no amount: thirty learners will take thirty amounts.", i.Name), "Write how much.", nil)
	}
}

// seasoning reports whether an ingredient is one that is added to taste, or a
// film of fat.
func seasoning(i pantry.Ingredient) bool {
	return i.ID == "salt" || i.Role == pantry.Other && !i.Counted() && len(i.From) == 0
}

func (c *checker) unitMisfit() {
	for n, i := range c.Ingredients {
		stock, ok := c.pantry.Find(i.Pantry)
		if !ok || !i.Given() {
			continue
		}
		volume := i.Unit.Dimension == measure.Volume && (slices.Contains(stock.From, pantry.Raw) || slices.Contains(groups["egg"], stock.ID) || slices.Contains(wholes, stock.ID) || stock.ID == "bread")
		switch {
		case volume && (stock.Has(pantry.Raw) || stock.Counted() && !stock.Density().Known()):
			c.add(ingredientAt(n), i.Name, fmt.Sprintf("%s of %s: a spoon or a cup does not measure what is counted or weighed.", i.Quantity, i.Name),
				"Write how many, or how many grams.", nil)
		case stock.Tap(), !i.Unit.Loose() && i.Unit.ID == measure.Each.ID && !stock.Counted() && len(stock.Packs) > 0 && (stock.Pours || stock.Role == pantry.Structure):
			if !stock.Tap() {
				c.add(ingredientAt(n), i.Name, fmt.Sprintf("%s %s: how many of what? It is not counted.", i.Quantity, i.Name), "Write grams, millilitres, spoons, or the pack and its size.", nil)
			}
		}
	}
}

func (c *checker) amountsDiffer() {
	for n, i := range c.Ingredients {
		for _, other := range i.Also {
			a, okA := c.inGrams(i, i.Quantity)
			b, okB := c.inGrams(i, other)
			if q, ok := other.In(i.Unit); ok {
				a, b, okA, okB = i.Amount, q.Amount, true, true
			}
			if !okA || !okB || a.Sign() == 0 || b.Sub(a).Abs().Div(a).Cmp(exact.Frac(1, 4)) <= 0 {
				continue
			}
			c.add(ingredientAt(n), i.Name, fmt.Sprintf("%s and %s of %s are not the same.", i.Quantity, other, i.Name),
				fmt.Sprintf("Keep %s.", i.Quantity), func(r *Recipe) { r.Ingredients[n].Also = nil })
			break
		}
	}
}

func (c *checker) inGrams(i Ingredient, q measure.Quantity) (exact.Number, bool) {
	stock, ok := c.pantry.Find(i.Pantry)
	if !ok {
		return exact.Number{}, false
	}
	return stock.Grams(q)
}

func (c *checker) partOfAnEgg() {
	for n, i := range c.Ingredients {
		if i.Law == Whole && i.Given() && !i.Amount.IsInt() {
			up := exact.Int(i.Amount.Ceil())
			c.add(ingredientAt(n), i.Name, fmt.Sprintf("%s %s: nobody can break a part.", i.Quantity, i.Name),
				fmt.Sprintf("Write %s, or beat it and weigh.", measure.Quantity{Amount: up, Unit: i.Unit}), func(r *Recipe) { r.Ingredients[n].Amount = up })
		}
	}
}

func (c *checker) twiceListed() {
	for n, i := range c.Ingredients {
		first := slices.IndexFunc(c.Ingredients[:n], func(o Ingredient) bool {
			return o.Part == i.Part && o.Pantry != "" && o.Pantry == i.Pantry && o.Note == i.Note
		})
		if first < 0 || c.namedSteps(i) > 1 {
			continue // some of it goes in early, some late
		}
		if colour(c.Ingredients[first].Name) != colour(i.Name) {
			continue // a red pepper and a yellow one
		}
		c.add(ingredientAt(n), i.Name, fmt.Sprintf("“%s” stands in the list twice.", i.Name), "Add the two lines up.", func(r *Recipe) {
			if q := r.Ingredients[n].Quantity; q.Unit.Dimension == r.Ingredients[first].Unit.Dimension {
				r.Ingredients[first].Quantity = r.Ingredients[first].Plus(q)
				r.Ingredients = slices.Delete(r.Ingredients, n, n+1)
			}
		})
	}
}

// colour is the colour in a name, by which kinds differ that the pantry has as one thing.
func colour(name string) string { return coloured.FindString(strings.ToLower(name)) }

var coloured = pattern.Must(`\b(?:red|yellow|green|orange)\b`)

// namedSteps counts the steps that name an ingredient, weighing apart.
func (c *checker) namedSteps(i Ingredient) (count int) {
	stock, _ := c.pantry.Find(i.Pantry)
	for _, s := range c.Steps {
		if s.Kind != fit.Weigh && namedIn(pantry.Words(s.Text), i, stock) {
			count++
		}
	}
	return count
}

// unusualRatio catches most misprints: 12 g for 120 g.
func (c *checker) unusualRatio() {
	grams := Grams(c.Recipe, c.pantry)
	found := map[string]bool{}
	for _, ratio := range append(Ratios(c.Recipe, grams), wideRatios(c.Recipe, grams)...) {
		pair := ratio.Part + fmt.Sprint(ratio.OverLines, ratio.UnderLines)
		if ratio.OutsideWhat == "" || found[pair] {
			continue
		}
		found[pair] = true
		suspects := append(slices.Clone(ratio.OverLines), ratio.UnderLines...)
		says := fmt.Sprintf("%s is unusual for %s, where %s is %s.", ratio.Says(), ratio.Mixture, ratio.Over+" : "+ratio.Under, ratio.Range())
		mend := "Look for a misprint in " + listed(names(c.Ingredients, suspects)) + "."
		var fix func(*Recipe)
		n := ratio.OverLines[0]
		if len(ratio.OverLines) == 1 {
			for _, factor := range []exact.Number{exact.Int(10), exact.Frac(1, 10)} {
				if v := ratio.Value * factor.Float(); v >= ratio.Low && v <= ratio.High {
					to := c.Ingredients[n].Times(factor)
					mend = fmt.Sprintf("If it is a misprint: %s %s.", to, c.Ingredients[n].Name)
					fix = func(r *Recipe) { r.Ingredients[n].Quantity = to }
				}
			}
		}
		c.add(ingredientAt(n), ratio.Part+" "+ratio.Mixture+" "+ratio.Over, says, mend, fix)
	}
}

func names(list []Ingredient, at []int) []string {
	var out []string
	for _, n := range at {
		out = append(out, list[n].Name)
	}
	return out
}

// nuts are the allergens that are nuts.
var nuts = []pantry.Allergen{pantry.Almonds, pantry.Hazelnuts, pantry.Walnuts, pantry.Cashews, pantry.Pecans, pantry.Brazils, pantry.Pistachios, pantry.Macadamias}

// asNote are words of notes that say nothing of which thing is meant.
var asNote = map[string]bool{"chopped": true, "sliced": true, "grated": true, "diced": true, "finely": true, "into": true, "small": true, "large": true, "fresh": true, "peeled": true,
	"halved": true, "drained": true, "about": true, "plus": true, "from": true, "each": true, "with": true, "taste": true, "serve": true, "piece": true, "half": true, "water": true, "frying": true,
	"thinly": true, "roughly": true, "melted": true, "beaten": true, "crushed": true, "softened": true, "warm": true, "cold": true, "extra": true, "dusting": true, "greasing": true}

// generic words of a step take in many ingredients at once.
func generic(text string, i Ingredient, stock pantry.Ingredient) bool {
	has := func(words ...string) bool {
		return slices.ContainsFunc(words, func(w string) bool { return begins(text, w) })
	}
	switch {
	case has("dry ingredient", "dry thing", "dry stuff", "dry in bowl", "dry in a bowl", "wet on dry", "wet into dry", "sieve dry", "sift dry", "mix dry", "the dry,", "the dry into", "the dry in one") && !stock.Pours && (stock.Role == pantry.Structure || stock.Role == pantry.Agent || seasoning(stock)):
		return true
	case has("wet ingredient", "wet stuff", "wet thing", "the wet in", "liquid") && (stock.Pours || slices.Contains(groups["egg"], stock.ID) || strings.Contains(i.Note, "mashed") || strings.Contains(i.Note, "juice")):
		return true
	case has("spice", "masalas", "powders", "season") && (seasoning(stock) && !stock.Pours || stock.ID == "salt" || has("spice") && slices.Contains(wholeSpices, stock.ID)):
		return true
	case has("marina") && strings.Contains(strings.ToLower(i.Note), "marinade"):
		return true
	case has("herb") && stock.Role == pantry.Other && stock.Place == "fridge" && stock.Keeps <= 7:
		return true
	case has("nuts") && slices.ContainsFunc(stock.Allergens, func(a pantry.Allergen) bool { return slices.Contains(nuts, a) }), has("dal", "pulses") && (strings.Contains(stock.ID, "lentil") || stock.ID == "split-peas"),
		has("sheets") && strings.Contains(stock.ID, "pastry"), has("pasta") && ofKind("pasta", stock.ID), has("noodle") && ofKind("noodle", stock.ID), has("rice") && ofKind("rice", stock.ID), has("leaves", "leaf") && (strings.Contains(stock.ID, "cabbage") || stock.ID == "lettuce" || stock.ID == "kale" || stock.ID == "salad-leaves" || stock.ID == "basil"),
		has("biscuit") && (strings.Contains(stock.ID, "biscuit") || stock.ID == "sponge-fingers"), has("icing") && stock.ID == "cocoa":
		return true
	case has("the fat", "fats", "fat and", "fat,", "fat in") && slices.Contains(groups["fat"], stock.ID):
		return true
	case has("seed", "nut") && strings.Contains(stock.ID+" ", "seeds "):
		return true
	case has("crumbs") && stock.ID == "bread", has("biscuit", "crumbs") && (strings.Contains(stock.ID, "biscuit") || strings.Contains(stock.ID, "digestive")):
		return true
	case (has("vegetables", "vegies", "veggies") || anyVeg.MatchString(text)) && vegetable(stock):
		return true
	case has("fruit", "salad") && stock.Counted() && len(stock.From) == 0:
		return true
	case has("fruit") && (dried(stock.ID) || slices.Contains(fruitInTins, stock.ID)):
		return true
	}
	return false
}

var anyVeg = pattern.Must(`\bveg\b`)

// vegetable reports whether an ingredient may be called one: what is counted, or
// weighed and kept cold, and of no animal.
func vegetable(stock pantry.Ingredient) bool {
	return len(stock.From) == 0 && !stock.Pours && (stock.Counted() || stock.Role == pantry.Other && (stock.Place == "fridge" && stock.Keeps <= 21 || stock.Place == "freezer"))
}

// wholeSpices are counted, and spices all the same.
var wholeSpices = ids("cinnamon-stick cardamom star-anise bay-leaf cloves peppercorns cumin-seeds mustard-seeds fennel-seeds")

// fruitInTins is fruit that is bought by weight.
var fruitInTins = ids("pineapple melon grape mixed-berries")

// dried reports whether an ingredient is dried fruit.
func dried(id string) bool {
	return slices.Contains([]string{"raisins", "sultanas", "currants", "dried-apricots", "dates", "mixed-peel", "dried-cranberries", "dried-figs", "prunes", "mixed-fruit", "dried-mango", "dried-pineapple", "dried-apple", "banana-chips", "glace-cherries"}, id)
}

// allIn reports whether a text takes in whatever there is: "mix everything".
func allIn(text string) bool {
	return slices.ContainsFunc([]string{"all the ingredient", "all ingredient", "everything", "remaining ingredient", "rest of the ingredient", "other ingredient", "the ingredients", "put all", "mix all", "all in a", "all together", "all gently"}, func(w string) bool { return begins(text, w) }) ||
		begins(strings.ReplaceAll(text, "the rest of", ""), "the rest") || strings.HasPrefix(text, "mix to a ") // which names nothing, and means it all
}

// ofKind reports whether a word stands for all of an ingredient's kind: pasta,
// noodle or rice.
func ofKind(word, id string) bool {
	switch word {
	case "pasta":
		return slices.Contains([]string{"pasta", "spaghetti", "wholewheat-pasta", "gf-pasta", "egg-pasta", "filled-pasta", "lasagne-sheets", "orzo"}, id)
	case "noodle":
		return strings.HasSuffix(id, "noodles") || id == "udon" || id == "soba"
	case "rice":
		return strings.HasSuffix(id, "-rice")
	}
	return false
}

// partIn reports whether a text speaks of the part that an ingredient is of:
// "spread the topping".
func partIn(text string, i Ingredient) bool {
	return i.Part != "" && begins(text, strings.TrimPrefix(strings.ToLower(i.Part), "for the "))
}

// begins reports whether a word of a text, which is in small letters, begins with
// others: "nut" is in "nuts" and not in "minutes".
func begins(text, words string) bool {
	for at := 0; ; {
		i := strings.Index(text[at:], words)
		if i < 0 {
			return false
		}
		if at += i; at == 0 || !isLetter(text[at-1]) {
			return true
		}
		at += len(words)
	}
}

func isLetter(b byte) bool { return b >= 'a' && b <= 'z' || b >= utf8.RuneSelf }

// usedIn reports whether a text speaks of the ingredient.
func usedIn(text string, ws []string, i Ingredient, stock pantry.Ingredient) bool {
	return allIn(text) || generic(text, i, stock) || partIn(text, i) || namedIn(ws, i, stock)
}

// namedIn reports whether the words of a text name the ingredient, by its own
// name, a name of the pantry, or the word that says what it is.
func namedIn(ws []string, i Ingredient, stock pantry.Ingredient) bool {
	joined := " " + strings.Join(ws, " ") + " "
	for _, w := range pantry.Words(i.Note) { // "cut into sticks", "semolina (rava)"
		if len(w) > 3 && !asNote[w] && strings.Contains(joined, " "+w+" ") {
			return true
		}
	}
	for _, name := range append([]string{i.Name, stock.Name, stock.Plural}, stock.Also...) {
		folded := pantry.Folded(name)
		if len(folded) == 0 {
			continue
		}
		if strings.Contains(joined, " "+strings.Join(folded, " ")+" ") || strings.Contains(joined, " "+folded[len(folded)-1]+" ") {
			return true
		}
		if len(folded) == 2 && !colours[folded[0]] && strings.Contains(joined, " "+folded[0]+" ") {
			return true
		}
	}
	return false
}

// colours are first words of names that say little by themselves.
var colours = map[string]bool{
	"red": true, "white": true, "black": true, "green": true, "brown": true, "dark": true, "baking": true, "ground": true, "plain": true,
	"strong": true, "double": true, "single": true, "sweet": true, "spring": true, "dried": true, "soft": true, "vegetable": true, "golden": true,
	"self": true, "cream": true, "icing": true, "mixed": true, "rolled": true, "bread": true,
}

var (
	mixes   = pattern.Must(`\b(?:dough|pastry|mixture|batter|knead|rub|mix|combine|cream|everything|all)\b`)
	heats   = pattern.Must(`\b(?:fry|fried|saut|brown|roast|griddle|stir-fry|grease|drizzle|soften|sweat|toss|marinate|dress)\w*`)
	bases   = pattern.Must(`\b(?:dough|pastry|knead|rub|crumble)\b`)
	inWater = pattern.Must(`\b(?:boil|simmer|steam|poach|cook)\w*`)
	zests   = pattern.Must(`\b(?:zest|juice|rind|peel)\w*`)
	creams  = pattern.Must(`(?:^|[.;] ?)cream\b|\bcream together`)
	seasons = pattern.Must(`\b(?:season|taste)\w*`)
	coats   = pattern.Must(`\b(?:crumb|coat|dip|egg and|topping)\w*`)
)

// goesIn reports whether what an ingredient is for is done in the steps, though
// its name is not said: flour in a dough, oil where something is fried.
func goesIn(text string, stock pantry.Ingredient) bool {
	switch {
	case stock.ID == "salt" || stock.ID == "pepper":
		return true
	case stock.ID == "": // what is not in the pantry is asked already
		return true
	case strings.HasSuffix(stock.ID, "stock-cube"):
		return strings.Contains(text, "cube") || strings.Contains(text, "stock")
	case stock.ID == "water":
		return inWater.MatchString(text)
	case strings.Contains(stock.ID, "crumb"):
		return coats.MatchString(text) || strings.Contains(text, "crumb")
	case strings.HasSuffix(stock.ID, "berry"):
		return strings.Contains(text, "berries") || strings.Contains(text, "fruit")
	case slices.Contains(groups["fat"], stock.ID) || strings.HasSuffix(stock.ID, "oil") || strings.HasSuffix(stock.ID, "fat"):
		return heats.MatchString(text) || mixes.MatchString(text)
	case slices.Contains(groups["flour"], stock.ID):
		return bases.MatchString(text)
	case slices.Contains(groups["sugar"], stock.ID):
		return creams.MatchString(text)
	case slices.Contains(groups["egg"], stock.ID):
		return strings.Contains(text, "yolk") || strings.Contains(text, "whites") || strings.Contains(text, "glaze")
	case strings.HasSuffix(stock.ID, "pastry"):
		return strings.Contains(text, "cut out") || strings.Contains(text, "roll")
	case stock.ID == "cornflour":
		return strings.Contains(text, "flours")
	case stock.ID == "lemon" || stock.ID == "lime" || stock.ID == "orange":
		return zests.MatchString(text)
	case flesh(stock) != "":
		return strings.Contains(text, flesh(stock))
	case seasoning(stock) && !stock.Pours && stock.Role == pantry.Other && len(stock.Fillings) > 0 && stock.Density().Float() < 0.7:
		return seasons.MatchString(text) || strings.Contains(text, "spice") || strings.Contains(text, "everything")
	}
	return false
}

// flesh is what recipes call meat or fish of any kind; empty for all else.
func flesh(stock pantry.Ingredient) string {
	switch {
	case slices.ContainsFunc([]pantry.Trait{pantry.Beef, pantry.Lamb, pantry.Pork, pantry.Poultry}, func(t pantry.Trait) bool { return slices.Contains(stock.From, t) }):
		return "meat"
	case slices.Contains(stock.From, pantry.FromFish):
		return "fish"
	}
	return ""
}

// mixedIn reports whether an ingredient may be in what is spoken of: in a dough,
// a batter or a mixture where one is made and not all is named; raw meat, which
// steps call by many names.
func mixedIn(text string, stock pantry.Ingredient) bool {
	return stock.Has(pantry.Raw) || (stock.Role == pantry.Structure || stock.Role == pantry.Agent) && mixes.MatchString(text)
}

// ofTheList reports whether the text of a step is work in the list: it says again what
// stands there. What begins with minutes or with a temperature is none.
func ofTheList(text string) bool {
	if !amountFirst.MatchString(text) {
		return false
	}
	spans, settings := duration.In(text), setting.In(text)
	return !(len(spans) > 0 && spans[0].From == 0 || len(settings) > 0 && settings[0].From == 0)
}

var amountFirst = pattern.Must(`^[\d½¼¾⅓⅔]`)

// A naming is how the steps speak of an ingredient.
type naming int

const (
	unnamed    naming = iota
	mixed             // it may be in what is mixed
	understood        // what it is for is done: oil where something is fried
	meant             // a word that takes in several: "the vegetables"
	byName            // by a name of its own
)

// firstFew is how many things of the list a text takes together: "combine the first 4".
func firstFew(text string) int {
	m := firstOf.FindStringSubmatch(text)
	if m == nil {
		return 0
	}
	n, err := strconv.Atoi(m[1])
	if err != nil {
		n = 2 + slices.Index([]string{"two", "three", "four", "five", "six"}, m[1])
	}
	return n
}

var firstOf = pattern.Must(`\bfirst (\d|two|three|four|five|six)\b(?: (?:ingredients?|things?|items?|in|together))?`)

func (c *checker) unusedIngredient() {
	all := strings.Builder{}
	for _, s := range c.Steps {
		if !ofTheList(s.Text) {
			all.WriteString(strings.ToLower(s.wording()) + ". ")
		}
	}
	text := all.String()
	ws := pantry.Words(text)
	namings := make([]naming, len(c.Ingredients))
	used, asked, told := 0, 0, 0
	implied := false // that a dough is made, which then is kneaded
	for n, i := range c.Ingredients {
		stock, _ := c.pantry.Find(i.Pantry)
		switch {
		case i.Law == Surface || i.Name == "" || stock.ID == "" || namedIn(c.withoutOthers(ws, n), i, stock):
			namings[n] = byName
		case n < firstFew(text) || generic(text, i, stock) || partIn(text, i):
			namings[n] = meant
		case goesIn(text, stock), i.Law == Taste && strings.Contains(text, "season"):
			namings[n] = understood
		case allIn(text) || mixedIn(text, stock):
			namings[n] = mixed
		}
		if namings[n] != unnamed {
			used++
		}
		implied = implied || namings[n] == understood && slices.Contains(groups["flour"], stock.ID) && begins(text, "knead")
		if !unasked(stock) || stock.ID == "" && namedIn(ws, i, stock) {
			asked++
			if namings[n] > understood || namings[n] == understood && !allIn(text) {
				told++
			}
		}
	}
	// Who names every other thing would have named this one too. Steps that are
	// titles only, such as "Weigh out", name hardly anything: then nothing can
	// be said.
	strict := asked >= 3 && told >= asked-1
	title := pantry.Words(c.Title)
	if !strict && 10*used < 7*len(c.Ingredients) || len(c.Steps) == 0 {
		return
	}
	for n, i := range c.Ingredients {
		stock, _ := c.pantry.Find(i.Pantry)
		if n == 0 && asked < 4 && namedIn(title, i, stock) && !stock.Has(pantry.Raw) {
			continue // it is what a short recipe speaks of all the time
		}
		if i.Law == Taste && !i.Given() && seasoning(stock) && !stock.Pours && stock.Density().Float() > 0.3 && stock.Density().Float() < 0.7 { // no leaf is as heavy, no jam as light
			continue // "pepper, nutmeg" go in without a word
		}
		if namings[n] == unnamed || strict && !implied && namings[n] == mixed {
			c.add(ingredientAt(n), i.Name, fmt.Sprintf("No step uses “%s”.", i.Name), "Say in a step when it goes in, or take it out of the list.", nil)
		}
	}
}

// withoutOthers are the words of the steps without the names, of two words or
// more, of other ingredients that end or begin as this one's does: "coriander
// leaves" is no word of ground coriander.
func (c *checker) withoutOthers(ws []string, n int) []string {
	joined := " " + strings.Join(ws, " ") + " "
	mine := pantry.Words(c.Ingredients[n].Name)
	for k, other := range c.Ingredients {
		name := pantry.Words(other.Name)
		if k != n && len(mine) == 2 && len(name) > 0 && name[len(name)-1] == mine[0] && !strings.Contains(joined, " "+strings.Join(mine, " ")+" ") { // "beans" are no bean sprouts
			joined = strings.ReplaceAll(joined, " "+mine[0]+" ", " ")
		}
		if k == n || len(name) < 2 || len(mine) < 2 || slices.Equal(name, mine) || !slices.ContainsFunc(name, func(w string) bool { return slices.Contains(mine, w) }) {
			continue
		}
		joined = strings.ReplaceAll(joined, " "+strings.Join(name, " ")+" ", " ")
	}
	return strings.Fields(joined)
}

// unasked reports whether an ingredient goes in without a word in most recipes:
// salt and pepper, and the fat that something is fried in.
func unasked(stock pantry.Ingredient) bool {
	return stock.ID == "" || stock.Tap() || stock.ID == "salt" || stock.ID == "pepper" || strings.HasSuffix(stock.ID, "oil") || slices.Contains(groups["fat"], stock.ID)
}

func (c *checker) unlistedIngredient() {
	if len(c.Ingredients) == 0 { // which is said once
		return
	}
	reported := map[string]bool{}
	for n, s := range c.Steps {
		for _, m := range c.pantry.Mentioned(s.Title + ". " + s.Text + ". " + strings.Join(s.Takes, ". ")) {
			if asVerbs[m.Words] && !thing(s.Text, m.Words) || m.Tap() || unsaid[m.ID] || reported[m.ID] || c.lists(m) || aside(s.Text, m.Words) {
				continue
			}
			reported[m.ID] = true
			c.add(stepAt(n), m.Words, fmt.Sprintf("“%s” uses %s, which is not in the list of ingredients.", s.Title, m.Name),
				"Add it to the ingredients with its amount, or take it out of the step.", nil)
		}
	}
}

var pastaMade = pattern.Must(`(?i)\b(?:fresh|home-?made|egg) pasta\b`)

// lists reports whether the ingredients hold what a text mentions: the same
// ingredient, or one of which the mention is the last word.
func (c *checker) lists(m pantry.Mention) bool {
	ws := strings.Fields(m.Words)
	last := ws[len(ws)-1]
	for _, i := range c.everything() {
		if i.Pantry == m.ID {
			return true
		}
		if itself := pantry.Words(i.Name + " " + i.Note); len(ws) > 1 && !slices.ContainsFunc(ws, func(w string) bool { // "tomato puree", of tomatoes that are pureed
			return !slices.ContainsFunc(itself, func(of string) bool { return strings.HasPrefix(of, w) })
		}) {
			return true
		}
		stock, _ := c.pantry.Find(i.Pantry)
		for _, name := range append([]string{i.Name, i.Note, i.Part, stock.Name, stock.ID}, stock.Also...) {
			if slices.Contains(pantry.Words(name), last) {
				return true
			}
		}
	}
	if len(ws) > 1 && (last == "juice" || last == "zest" || last == "peel") { // "lime juice" comes out of a lime
		return c.lists(pantry.Mention{Words: strings.Join(ws[:len(ws)-1], " "), Ingredient: pantry.Ingredient{ID: "-"}})
	}
	if slices.ContainsFunc(c.everything(), func(i Ingredient) bool { return ofKind(last, i.Pantry) }) || ofKind("pasta", m.ID) && pastaMade.MatchString(c.Title) {
		return true
	}
	return slices.ContainsFunc(append([]string{c.Title}, c.Equipment...), func(t string) bool { return slices.Contains(pantry.Words(t), last) })
}
