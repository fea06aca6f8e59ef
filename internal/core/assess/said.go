package assess

import (
	"cmp"
	"maps"
	"slices"
	"strings"

	"freshapron/internal/core/fit"
	"freshapron/internal/core/pantry"
	"freshapron/internal/core/pattern"
	"freshapron/internal/core/words"
)

// An act is what is done to food, as kitchens tell one from another.
type act string

// acts are the words for each act, as learners and recipes write them.
var acts = map[act]string{
	"weigh":   "weigh measure scale",
	"gather":  "collect gather fetch",
	"prepare": "prepare prep",
	"cut":     "chop cut slice dice cube shred snip julienne halve quarter trim core deseed segment strip chunk matchstick triangle wedge bite mark score",
	"peel":    "peel skin",
	"grate":   "grate zest",
	"rub":     "rub fingertip breadcrumb",
	"cream":   "cream",
	"whisk":   "whisk beat whip",
	"fold":    "fold ripple swirl",
	"mix":     "mix combine stir bind blend",
	"toss":    "toss",
	"add":     "add put pour tip",
	"knead":   "knead",
	"roll":    "roll",
	"shape":   "shape form mould divide pat cutter portion",
	"line":    "line grease greaseproof",
	"fill":    "fill spoon assemble",
	"press":   "press push flatten level squash",
	"seal":    "seal crimp pleat",
	"layer":   "layer",
	"cover":   "cover top over spread sprinkle pipe",
	"glaze":   "glaze brush eggwash",
	"fry":     "fry brown saute sweat soften soft",
	"griddle": "griddle grill toast",
	"boil":    "boil parboil poach",
	"simmer":  "simmer bubble stew",
	"cook":    "cook heat warm",
	"melt":    "melt",
	"make":    "make",
	"bake":    "bake roast oven",
	"rest":    "rest stand settle sit soak",
	"prove":   "prove proof rise",
	"chill":   "chill fridge refrigerate",
	"cool":    "cool rack",
	"drain":   "drain strain",
	"mash":    "mash crush",
	"puree":   "puree liquidise whizz blitz",
	"season":  "season taste seasoning",
	"rinse":   "wash rinse",
	"serve":   "serve plate present garnish decorate ladle pack box tub label finish",
	"fluff":   "fluff fork",
	"probe":   "probe thermometer temp temperature",
}

// kin are acts that people name for one another, by how far they do.
var kin = []struct {
	of   []act
	much float64
}{
	{[]act{"cut", "peel", "grate", "prepare"}, 0.7},
	{[]act{"weigh", "gather"}, 0.7},
	{[]act{"weigh", "prepare"}, 0.5},
	{[]act{"mix", "toss", "whisk", "fold"}, 0.7},
	{[]act{"mix", "cream", "rub", "puree", "add"}, 0.5},
	{[]act{"rub", "cream", "whisk"}, 0.3},
	{[]act{"fry", "griddle", "cook"}, 0.7},
	{[]act{"boil", "simmer"}, 0.85},
	{[]act{"boil", "simmer", "cook"}, 0.7},
	{[]act{"bake", "cook"}, 0.6},
	{[]act{"knead", "mix"}, 0.3},
	{[]act{"roll", "shape", "cut"}, 0.6},
	{[]act{"fill", "layer", "cover", "add"}, 0.6},
	{[]act{"fill", "seal", "fold", "shape", "press"}, 0.5},
	{[]act{"cover", "serve", "glaze"}, 0.4},
	{[]act{"rest", "prove", "chill"}, 0.7},
	{[]act{"rest", "chill", "cool"}, 0.4},
	{[]act{"mash", "puree"}, 0.7},
	{[]act{"drain", "mash"}, 0.4},
	{[]act{"season", "serve"}, 0.5},
	{[]act{"rinse", "rest"}, 0.3},
	{[]act{"line", "prepare"}, 0.5},
	{[]act{"boil", "simmer", "add"}, 0.4},
	{[]act{"fry", "add"}, 0.3},
	{[]act{"serve", "add"}, 0.2},
	{[]act{"make", "mix", "melt"}, 0.8},
	{[]act{"melt", "cook"}, 0.7},
	{[]act{"make", "cook"}, 0.6},
	{[]act{"make", "shape", "prepare"}, 0.5},
}

// byKind is what a step of a kind does where its title does not say.
var byKind = map[fit.Kind][]act{
	fit.Weigh: {"weigh"}, fit.Prepare: {"prepare"}, fit.Cut: {"cut"}, fit.Mix: {"mix"}, fit.Shape: {"shape", "fill"}, fit.Cook: {"cook"}, fit.Bake: {"bake"},
	fit.Chill: {"chill"}, fit.Rest: {"rest"}, fit.Cool: {"cool"}, fit.Serve: {"serve"},
}

// sorts are things that go by a name of all of them.
var sorts = map[string]string{
	"vegetable": "onion pepper carrot courgette mushroom celery leek cabbage aubergine spinach broccoli cauliflower swede parsnip garlic bean pea sweetcorn potato tomato",
	"fruit":     "apple pear berry blackberry raspberry strawberry mango peach plum banana orange grape melon rhubarb cherry",
	"herb":      "parsley chive mint coriander basil thyme oregano rosemary sage dill", "spice": "cumin cardamom turmeric paprika ginger cinnamon nutmeg chilli masala curry",
	"meat": "mince beef pork lamb chicken turkey bacon ham sausage", "fish": "haddock salmon cod tuna mackerel prawn", "cheese": "cheddar mozzarella feta parmesan halloumi",
	"pasta": "tagliatelle spaghetti penne macaroni fusilli lasagne noodle",
	"fat":   "butter margarine lard",
}

// madeOf is what is made of what, typically.
var madeOf = map[string]string{
	"sauce": "roux butter flour milk", "custard": "milk powder sugar", "dressing": "mayonnaise yoghurt lemon oil vinegar honey mustard", "pastry": "flour fat water", "dough": "flour yeast water oil yoghurt milk",
	"crumble": "flour butter oat", "icing": "sugar water", "batter": "flour egg milk", "filling": "vegetable cheese meat",
}

var (
	// phrases and shorthand are what learners write, and what they mean.
	phrases = strings.NewReplacer(" w/up ", " washing up ", " w/", " with ", " the rest ", " ", " chick peas ", " chickpeas ", " need it ", " knead it ", " par-boil ", " parboil ", " egg wash ", " eggwash ", " knock back ", " ",
		" put together ", " assemble ", " dish up ", " serve ", " dishing up ", " serving ", " oven dish ", " dish ", " oven proof ", " ", " ovenproof ", " ", " oven gloves ", " ", " oven glove ", " ", " prep self ", " get ready ", " wash pots", " wash dishes", " washing pots", " washing dishes", " pots", " potatoes", " toms", " tomatoes", " whash ", " wash ", " wahs ", " wash ")
	shorthand = map[string]string{
		"spud": "potato", "marg": "margarine", "veg": "vegetable", "veggie": "vegetable", "vege": "vegetable", "mayo": "mayonnaise",
		"bechamel": "sauce", "roux": "sauce",
	}
	// empty are words that say nothing of what is done.
	empty = strings.Fields("the a an to of in on into onto for with until till til and or out up off down it its them my your our from at get go goes do some all is are then start begin min mins minute minutes hour " +
		"so that by each both after before when which bit one two using use ready everything more any not doesnt")
)

// nouns are things that are called by what is done with them.
var nouns = []string{"topping", "filling", "seasoning"}

// stem is a word without its ending.
func stem(w string) string {
	if slices.Contains(nouns, w) {
		return w
	}
	for _, ending := range []string{"ing", "ed", "es", "e", "s"} {
		if rest, ok := strings.CutSuffix(w, ending); ok && len(rest) >= 3 && strings.ContainsAny(rest, "aeiouy") {
			w = rest
			break
		}
	}
	if n := len(w); n > 3 && w[n-1] == w[n-2] { // chopped, rubbing
		w = w[:n-1]
	}
	return w
}

// actOf is the act that a stem names.
var actOf = func() map[string]act {
	out := map[string]act{}
	for a, list := range acts {
		for _, w := range strings.Fields(list) {
			out[stem(w)] = a
		}
	}
	return out
}()

var likeness = func() map[[2]act]float64 {
	out := map[[2]act]float64{}
	for _, k := range kin {
		for _, a := range k.of {
			for _, b := range k.of {
				out[[2]act{a, b}] = max(out[[2]act{a, b}], k.much)
			}
		}
	}
	for a := range acts {
		out[[2]act{a, a}] = 1
	}
	return out
}()

// stemsOf lists the stems of words by a name of theirs.
func stemsOf(of map[string]string) map[string][]string {
	out := map[string][]string{}
	for name, list := range of {
		for _, w := range strings.Fields(list) {
			out[stem(name)] = append(out[stem(name)], stem(w))
		}
	}
	return out
}

var sortStems, madeStems = stemsOf(sorts), stemsOf(madeOf)

// longhand is a text with the phrases that it abbreviates written out.
func longhand(text string) string {
	return strings.TrimSpace(phrases.Replace(" " + strings.ToLower(text) + " "))
}

// stems are the words of a text that say something, without their endings.
func stems(text string) []string {
	var out []string
	for _, w := range pantry.Words(longhand(text)) {
		if long, ok := shorthand[w]; ok {
			w = long
		}
		if !slices.Contains(empty, w) && len(w) >= 3 {
			out = append(out, stem(w))
		}
	}
	return out
}

// stems are those of a text, which are asked for many times.
func (c *checker) stems(text string) []string {
	list, ok := c.stemmed[text]
	if !ok {
		list = stems(text)
		c.stemmed[text] = list
	}
	return list
}

// A meaning is what words say: what is done, and to what.
type meaning struct {
	acts   []act
	things []string
}

func (c *checker) meaning(text string) meaning {
	var m meaning
	for _, w := range c.stems(text) {
		w = c.spelt(w)
		if a, ok := actOf[w]; ok {
			m.acts = append(m.acts, a)
		} else if !slices.Contains(m.things, w) {
			m.things = append(m.things, w)
		}
	}
	if putIn.MatchString(text) {
		m.acts = append(m.acts, "bake")
	}
	if slices.Contains(m.acts, "bake") { // cooked in the oven
		m.acts = slices.DeleteFunc(m.acts, func(a act) bool { return a == "cook" })
	}
	return m
}

// putIn is what is said of what goes into the oven, without naming it.
var putIn = pattern.Must(`(?i)\b(?:put|pop|place|goes?|going)\b.*\bin\W*$`)

// spelt is the word that a stem is a misspelling of, or the stem.
func (c *checker) spelt(w string) string {
	if _, ok := actOf[w]; ok || c.known[w] || len(w) < 4 || strings.ContainsAny(w, "0123456789") {
		return w
	}
	if _, ok := c.respelt[w]; !ok {
		var alike []string
		for _, k := range c.spellings {
			if k[0] == w[0] && max(len(k), len(w))-min(len(k), len(w)) <= 1 && (len(w) > 4 || sameLetters(k, w)) {
				alike = append(alike, k)
			}
		}
		c.respelt[w] = cmp.Or(words.Nearest(w, alike), w)
	}
	return c.respelt[w]
}

// sameLetters reports whether two words differ in the order of their letters alone: a short one that
// differs otherwise, as beet and beat do, is another word.
func sameLetters(a, b string) bool {
	return slices.Equal(slices.Sorted(slices.Values([]byte(a))), slices.Sorted(slices.Values([]byte(b))))
}

// A profile is what a step does, and to what, each by how plainly its title says so.
type profile struct {
	dish   fit.Dish
	step   fit.Step
	acts   map[act]float64
	things map[string]float64
}

// describe notes what the steps of the chosen dishes do, and which words are known.
func (c *checker) describe() {
	c.known, c.respelt, c.stemmed = map[string]bool{}, map[string]string{}, map[string][]string{}
	for _, d := range c.chosen() {
		for _, s := range d.Steps {
			c.profiles = append(c.profiles, c.profile(d, s))
		}
		for _, w := range c.stems(d.Title) {
			c.known[w] = true
		}
		for _, i := range d.Ingredients {
			for _, w := range c.stems(i.Name) {
				c.known[w] = true
			}
		}
	}
	for _, p := range c.profiles {
		for w := range p.things {
			c.known[w] = true
		}
	}
	for _, list := range sortStems {
		for _, w := range list {
			c.known[w] = true
		}
	}
	for w := range c.known {
		if len(w) > 3 {
			c.spellings = append(c.spellings, w)
		}
	}
	for w := range actOf {
		if len(w) > 3 {
			c.spellings = append(c.spellings, w)
		}
	}
	slices.Sort(c.spellings)
}

const (
	byItsKind = 0.75 // how plainly the kind of a step says what is done, beside its title
	byItsID   = 0.7
	bySaying  = 0.6 // with a word that says little
	byItsSort = 0.8
	byMaking  = 0.5
)

func (c *checker) profile(d fit.Dish, s fit.Step) profile {
	p := profile{d, s, map[act]float64{}, map[string]float64{}}
	do := func(a act, much float64) { p.acts[a] = max(p.acts[a], much) }
	have := func(w string, much float64) { p.things[w] = max(p.things[w], much) }
	own := strings.ReplaceAll(s.Title, "("+d.Title+")", "")
	for _, w := range c.stems(own) {
		a, ok := actOf[w]
		switch {
		case !ok:
			have(w, 1)
		case slices.Contains(sayLittle, a):
			do(a, bySaying)
		default:
			do(a, 1)
		}
	}
	kind := byItsKind
	if len(p.acts) == 0 {
		kind = 1
	}
	for _, w := range c.stems(strings.ReplaceAll(s.ID, "-", " ")) {
		if a, ok := actOf[w]; ok {
			do(a, byItsID)
		} else {
			have(w, byItsID)
		}
	}
	for _, a := range byKind[s.Kind] {
		if s.Kind != fit.Serve || kind == 1 { // what else is done at the end has that kind too
			do(a, kind)
		}
	}
	if c.inOven(s) {
		do("bake", 1)
	}
	if s.Kind == fit.Weigh {
		have("ingredient", 1)
	}
	for _, w := range slices.Sorted(maps.Keys(p.things)) {
		for _, of := range sortStems[w] {
			have(of, byItsSort*p.things[w])
		}
		for _, of := range madeStems[w] {
			have(of, byMaking*p.things[w])
		}
		for _, i := range d.Ingredients {
			name := c.stems(i.Name)
			if slices.Contains(c.stems(i.PartOf), w) || slices.Contains(name, w) && p.things[w] == 1 {
				for _, of := range name {
					have(of, byMaking)
				}
			}
		}
	}
	for name, list := range sortStems {
		if slices.ContainsFunc(list, func(w string) bool { return p.things[w] == 1 }) {
			have(name, byItsSort)
		}
	}
	return p
}

// inOven reports whether a step waits in an oven.
func (c *checker) inOven(s fit.Step) bool {
	return slices.ContainsFunc(s.Uses, func(u fit.Use) bool {
		return u.Temperature != nil || strings.HasPrefix(strings.ToLower(u.Equipment), "oven")
	})
}

// sayLittle are acts that only what they are done to tells apart.
var sayLittle = []act{"add", "prepare", "gather", "make"}

// does is how far what is said is what a step does, from 0 to 1.
func (p *profile) does(said []act) float64 {
	best := 0.0
	for _, a := range said {
		for b, much := range p.acts {
			best = max(best, much*likeness[[2]act{a, b}])
		}
	}
	return best
}
