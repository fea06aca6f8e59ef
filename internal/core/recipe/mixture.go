package recipe

import (
	"fmt"
	"slices"
	"strings"

	"freshapron/internal/core/exact"
	"freshapron/internal/core/pantry"
	"freshapron/internal/core/pattern"
)

// groups of ingredients that ratios are made of, by pantry id.
var groups = map[string][]string{
	"flour":         {"self-raising-flour", "plain-flour", "strong-flour", "wholemeal-flour", "wholemeal-self-raising-flour", "strong-wholemeal-flour", "rye-flour", "gluten-free-flour", "gram-flour", "oatmeal", "oats", "spelt-flour", "brown-bread-flour", "00-flour", "cake-flour", "gf-bread-flour", "chapati-flour", "buckwheat-flour"},
	"flour or meal": {"self-raising-flour", "plain-flour", "strong-flour", "wholemeal-flour", "wholemeal-self-raising-flour", "strong-wholemeal-flour", "rye-flour", "gluten-free-flour", "gram-flour", "oatmeal", "oats", "spelt-flour", "brown-bread-flour", "00-flour", "cake-flour", "gf-bread-flour", "chapati-flour", "buckwheat-flour", "polenta", "maize-meal", "semolina", "ground-almonds", "desiccated-coconut", "coconut-flour", "rice-flour", "cornflour"},
	"solid fat":     {"butter", "baking-spread", "lard", "vegetable-fat", "vegetable-suet", "beef-suet", "block-fat"},
	"fat":           {"butter", "baking-spread", "lard", "vegetable-fat", "vegetable-suet", "beef-suet", "dripping", "ghee", "block-fat", "sunflower-spread", "coconut-oil", "rapeseed-oil", "sunflower-oil", "olive-oil"},
	"sugar":         {"caster-sugar", "granulated-sugar", "icing-sugar", "demerara-sugar", "soft-brown-sugar", "dark-brown-sugar"},
	"egg":           {"egg-small", "egg-medium", "egg-large", "egg-yolk", "egg-white"},
	"liquid":        {"water", "milk", "oat-drink", "soya-drink", "buttermilk", "vegetable-stock", "chicken-stock", "coconut-milk", "yoghurt", "soya-yoghurt", "orange-juice", "single-cream", "double-cream", "whipping-cream"},
	"powder":        {"baking-powder"},
	"soda":          {"bicarbonate"},
	"water or milk": {"water", "milk"},
	"milk":          {"milk", "lactose-free-milk", "oat-drink", "soya-drink"},
	"stock":         {"water", "vegetable-stock", "chicken-stock", "beef-stock", "lamb-stock", "fish-stock", "low-salt-stock"},
	"salt":          {"salt"},
	"chocolate":     {"dark-chocolate", "milk-chocolate", "white-chocolate"},
	"yeast":         {"fast-yeast"},
	"starch":        {"cornflour", "custard-powder"},
	"gelatine":      {"gelatine"},
	"couscous":      {"couscous", "bulgur"},
	"rice":          {"white-rice", "brown-rice"},
	"rice grains":   {"white-rice", "brown-rice", "jasmine-rice", "pudding-rice"},
}

// A Usual is a ratio of a basic mixture with the range in which it usually
// lies, by mass.
type Usual struct {
	Mixture     string
	Over, Under string // groups: fat over flour
	Low, High   float64
	words       *pattern.Pattern // of the part's or the dish's name
	needs       []string         // groups that must be there
	without     []string         // groups that must not
}

var (
	anything = pattern.Must(`.`)
	rubbed   = pattern.Must(`(?i)\brub\b`)
)

// Usuals is the table of basic mixtures. Ranges are typical of school and
// household recipes.
var Usuals = []Usual{
	{"short pastry", "fat", "flour", 0.40, 0.65, pattern.Must(`(?i)pastry|pie\b|tartlet`), []string{"flour", "fat"}, []string{"yeast", "starch"}},
	{"short pastry", "liquid", "flour", 0.08, 0.35, pattern.Must(`(?i)short(?:crust)? pastry|^pastry`), []string{"flour", "fat", "liquid"}, []string{"yeast", "egg"}},
	{"puff pastry", "fat", "flour", 0.40, 1.20, pattern.Must(`(?i)\b(?:puff|flaky)\b`), []string{"flour", "fat"}, []string{"yeast", "sugar"}},
	{"choux", "water or milk", "flour", 1.5, 2.8, pattern.Must(`(?i)choux`), []string{"flour", "fat", "water or milk"}, nil},
	{"batter", "liquid", "flour", 1.5, 3.6, pattern.Must(`(?i)batter|clafoutis|popovers?`), []string{"flour", "liquid", "egg"}, nil},
	{"creamed sponge", "sugar", "flour", 0.60, 1.30, pattern.Must(`(?i)sponge|cake|pudding`), []string{"flour", "fat", "sugar", "egg"}, []string{"yeast", "chocolate"}},
	{"creamed sponge", "fat", "flour", 0.30, 1.25, pattern.Must(`(?i)sponge|cake|pudding`), []string{"flour", "fat", "sugar", "egg"}, []string{"yeast", "chocolate"}},
	{"brownies", "fat", "flour", 0.40, 2.60, pattern.Must(`(?i)\b(?:brownies?|blondies?)\b`), []string{"flour", "fat", "sugar", "egg"}, []string{"yeast"}},
	{"brownies", "sugar", "flour", 0.80, 4.20, pattern.Must(`(?i)\b(?:brownies?|blondies?)\b`), []string{"flour", "fat", "sugar", "egg"}, []string{"yeast"}},
	{"bars and biscuits", "fat", "flour", 0.20, 1.60, pattern.Must(`(?i)\b(?:bars|slices?|muffins|biscuits|fingers)\b`), []string{"flour", "fat", "sugar", "egg"}, []string{"yeast"}},
	{"bars and biscuits", "sugar", "flour", 0.20, 3.50, pattern.Must(`(?i)\b(?:bars|slices?|muffins|biscuits|fingers)\b`), []string{"flour", "fat", "sugar", "egg"}, []string{"yeast"}},
	{"egg pasta", "egg", "flour", 0.30, 0.85, pattern.Must(`(?i)\b(?:pasta|ravioli|noodles|tagliatelle|lasagne)\b`), []string{"flour", "egg"}, []string{"fat", "sugar", "liquid"}},
	{"whisked sponge", "sugar", "flour", 0.80, 1.30, pattern.Must(`(?i)sponge|roll|cake`), []string{"flour", "sugar", "egg"}, []string{"fat", "yeast"}},
	{"whisked sponge", "egg", "flour", 1.20, 2.60, pattern.Must(`(?i)sponge|roll|cake`), []string{"flour", "sugar", "egg"}, []string{"fat", "yeast"}},
	{"scone", "fat", "flour", 0.15, 0.40, pattern.Must(`(?i)scone`), []string{"flour", "fat"}, []string{"yeast"}},
	{"scone", "liquid", "flour", 0.45, 0.75, pattern.Must(`(?i)scone`), []string{"flour", "liquid"}, []string{"egg"}},
	{"yeast dough", "liquid", "flour", 0.44, 0.95, pattern.Must(`(?i).`), []string{"flour", "yeast", "liquid"}, nil},
	{"yeast dough", "salt", "flour", 0.005, 0.025, pattern.Must(`(?i).`), []string{"flour", "yeast", "salt"}, nil},
	{"yeast dough", "yeast", "flour", 0.006, 0.025, pattern.Must(`(?i).`), []string{"flour", "yeast"}, nil},
	{"biscuits", "fat", "flour", 0.12, 1.10, pattern.Must(`(?i)\bshortbread|\bbiscuits?\b`), []string{"flour", "fat"}, []string{"yeast", "egg"}},
	{"scone dough", "liquid", "flour", 0.40, 1.05, pattern.Must(`(?i)\bbiscuits\b|\bscones?\b`), []string{"flour", "fat", "liquid", "powder"}, []string{"egg", "yeast"}},
	{"cobbler", "liquid", "flour", 0.40, 1.05, pattern.Must(`(?i)\bcobbler\b`), []string{"flour", "fat", "liquid"}, []string{"egg", "yeast"}},
	{"flatbread dough", "liquid", "flour", 0.42, 1.10, pattern.Must(`(?i)\b(?:naans?|flatbreads?|rotis?|chapatis?|pittas?|farls?)\b`), []string{"flour", "liquid"}, []string{"yeast", "egg"}},
	{"soda bread", "liquid", "flour", 0.50, 1.00, pattern.Must(`(?i)\b(?:soda bread|bannock)\b`), []string{"flour", "liquid"}, []string{"yeast"}},
	{"white sauce", "flour", "liquid", 0.04, 0.18, pattern.Must(`(?i)sauce`), []string{"flour", "fat", "liquid"}, []string{"sugar", "yeast", "egg"}},
	{"white sauce", "fat", "flour", 0.70, 1.40, pattern.Must(`(?i)sauce`), []string{"flour", "fat", "liquid"}, []string{"sugar", "yeast", "egg"}},
	{"custard", "starch", "liquid", 0.025, 0.12, pattern.Must(`(?i)custard`), []string{"starch", "liquid"}, []string{"egg"}},
	{"jelly", "gelatine", "liquid", 0.010, 0.030, pattern.Must(`(?i).`), []string{"gelatine", "liquid"}, nil},
	{"couscous", "liquid", "couscous", 0.90, 2.20, pattern.Must(`(?i).`), []string{"couscous", "liquid"}, nil},
	{"rice", "liquid", "rice", 1.60, 3.20, pattern.Must(`(?i)rice`), []string{"rice", "liquid"}, nil},
	{"crumble", "fat", "flour", 0.35, 0.75, pattern.Must(`(?i)crumble`), []string{"flour", "fat"}, []string{"egg"}},
	{"crumble", "sugar", "flour", 0.25, 0.80, pattern.Must(`(?i)crumble`), []string{"flour", "sugar", "fat"}, []string{"egg"}},
	{"flapjack", "fat", "flour", 0.25, 1.30, pattern.Must(`(?i)\b(?:flapjacks?|oat bars?|granola bars?)\b`), []string{"flour", "fat"}, []string{"egg"}},
	{"flapjack", "sugar", "flour", 0.05, 1.30, pattern.Must(`(?i)\b(?:flapjacks?|oat bars?|granola bars?)\b`), []string{"flour", "sugar"}, []string{"egg"}},
	{"raising", "powder", "flour or meal", 0.004, 0.085, pattern.Must(`(?i).`), []string{"powder", "flour"}, nil},
	{"raising", "soda", "flour or meal", 0.002, 0.045, pattern.Must(`(?i).`), []string{"soda", "flour"}, []string{"yeast"}},
	{"salting", "salt", "flour or meal", 0, 0.035, pattern.Must(`(?i).`), []string{"salt", "flour"}, []string{"yeast"}},
}

// A wide is in what any mixture of its kind lies, whatever it is called, told by what
// the steps do. It finds misprints, and is no measure of a good mixture.
type wide struct {
	Usual
	steps  *pattern.Pattern // what the steps say; nil where that says nothing
	unless *pattern.Pattern // what they may not say
}

var wides = []wide{
	{Usual{"scone", "sugar", "flour", 0, 0.40, pattern.Must(`(?i)scone`), []string{"flour", "sugar"}, []string{"yeast"}}, nil, nil},
	{Usual{"yeast dough", "sugar", "flour", 0, 0.40, anything, []string{"flour", "yeast", "sugar"}, nil}, nil, nil},
	{Usual{"rubbed-in pastry", "fat", "flour", 0.35, 0.85, pattern.Must(`(?i)\b(?:quiches?|tarts?|tartlets?|flans?|pies?|past(?:y|ies)|turnovers?)\b`), []string{"flour", "solid fat"}, []string{"yeast", "powder"}}, rubbed, nil},
	{Usual{"cake mixture", "fat", "flour or meal", 0.12, 2.60, anything, []string{"flour or meal", "fat", "sugar", "egg"}, []string{"yeast"}}, pattern.Must(`(?i)\bbake`), pattern.Must(`(?i)\b(?:batter|whisked|thick enough to)\b`)},
	{Usual{"cake mixture", "sugar", "flour or meal", 0.03, 3.50, anything, []string{"flour or meal", "fat", "sugar", "egg"}, []string{"yeast"}}, pattern.Must(`(?i)\b(?:bake|cream)\b`), nil},
	{Usual{"sauce of stock", "flour", "stock", 0, 0.30, anything, []string{"flour", "fat", "stock"}, []string{"sugar", "yeast", "egg", "powder"}}, pattern.Must(`(?i)\b(?:simmer|boil|thicken)`), pattern.Must(`(?i)\b(?:rub|rubbed|knead|dough|dumplings?|cobbler|scones?|self[- ]raising)\b`)},
	{Usual{"sauce with a roux", "flour", "water or milk", 0, 0.30, anything, []string{"flour", "fat", "water or milk"}, []string{"yeast", "egg", "powder"}}, pattern.Must(`(?i)\b(?:stir|whisk|add|beat|sprinkle)\w*(?: in| over)? (?:the )?flour\b|\broux\b`), pattern.Must(`(?i)\b(?:rub|rubbed|knead|dough|dumplings?|cobbler|scones?)\b`)},
	{Usual{"sauce of milk", "flour", "milk", 0.03, 0.30, anything, []string{"flour", "solid fat", "milk"}, []string{"sugar", "yeast", "egg", "powder"}}, pattern.Must(`(?i)\b(?:stir|whisk|add|beat)\w*(?: in)? (?:the )?flour\b|\broux\b`), pattern.Must(`(?i)\b(?:rub|rubbed|knead|dough|dumplings?|cobbler|scones?|fritters?)\b`)},
	{Usual{"rice in stock", "stock", "rice grains", 0.90, 8.00, anything, []string{"rice grains", "stock"}, []string{"yeast"}}, pattern.Must(`(?i)\brice\b`), pattern.Must(`(?i)\b(?:boil|cook|steam|serve|fluff|drain|wash|rinse|soak)\w*\b[^.]{0,30}\brice\b|\brice on\b`)},
	{Usual{"baking", "solid fat", "flour or meal", 0, 3.50, pattern.Must(`(?i)\b(?:straws?|biscuits?|cakes?|bars?|buns?|muffins?|shortbread|scones?|pastry|pasties|pies?|tarts?|tartlets|crumble|twists|bites|puffs|rounds|fingers|oatcakes|traybake|loaf|pudding|slices?)\b`), []string{"flour or meal", "solid fat"}, nil}, nil, nil},
}

// A Ratio is one of the table as a recipe has it.
type Ratio struct {
	Usual
	Part        string
	Value       float64
	OverLines   []int // ingredients
	UnderLines  []int
	OutsideWhat string // how it lies outside its range; empty where inside
}

// Says prints the ratio as a teacher writes it: "fat : flour = 1 : 2".
func (r Ratio) Says() string { return fmt.Sprintf("%s : %s = %s", r.Over, r.Under, share(r.Value)) }

// poured are yeast batters.
var poured = pattern.Must(`(?i)crumpet|pikelet|batter|blini|muffin|waffle|starter|sponge`)

// notShort are pastries of another kind, and what is thickened.
var notShort = pattern.Must(`(?i)choux|puff|filo|flaky|sauce|hot[- ]water`)

// share prints a ratio as 1 : n or n : 1, whichever is over one.
func share(v float64) string {
	one := func(f float64) string {
		if f >= 10 {
			return fmt.Sprintf("%.0f", f)
		}
		return exact.MustParse(fmt.Sprintf("%.2f", f)).Decimal(2)
	}
	switch {
	case v <= 0:
		return "0"
	case v < 1:
		return "1 : " + one(1/v)
	}
	return one(v) + " : 1"
}

// Grams are the masses of the lines of a recipe; 0 where one is not known.
func Grams(r Recipe, p *pantry.Pantry) []float64 {
	out := make([]float64, len(r.Ingredients))
	for n, i := range r.Ingredients {
		stock, ok := p.Find(i.Pantry)
		if !ok || !i.Given() {
			continue
		}
		if g, ok := stock.Grams(i.Quantity); ok {
			out[n] = g.Float()
		}
	}
	return out
}

// Ratios recognises the basic mixtures among the parts of a recipe whose
// lines have the given masses.
func Ratios(r Recipe, grams []float64) []Ratio { return ratiosOf(r, grams, Usuals) }

// wideRatios are those of the wides that go with what the steps do.
func wideRatios(r Recipe, grams []float64) []Ratio {
	var text strings.Builder
	for _, s := range r.Steps {
		text.WriteString(s.Text + "\n")
	}
	var table []Usual
	for _, w := range wides {
		if (w.steps == nil || w.steps.MatchString(text.String())) && (w.unless == nil || !w.unless.MatchString(text.String())) {
			table = append(table, w.Usual)
		}
	}
	return ratiosOf(r, grams, table)
}

// onTop says that some of the same goes on, round or under a mixture, and not into it.
var onTop = pattern.Must(`(?i)\b(?:for|to) (?:the )?(?:cross(?:es)?|dust(?:ing)?|roll(?:ing)?(?: out)?|coat(?:ing)?|glaz(?:e|ing)|greas(?:e|ing)|fry(?:ing)?|decorate|sprinkle|top(?:ping)?|icing|finish)\b`)

func ratiosOf(r Recipe, grams []float64, table []Usual) []Ratio {
	var out []Ratio
	for _, part := range r.Parts() {
		lines := map[string][]int{}
		sums := map[string]float64{}
		for n, i := range r.Ingredients {
			if i.Part != part || i.Law == Taste || i.Law == Surface || i.Law == Fixed || grams[n] == 0 || onTop.MatchString(i.Name+", "+i.Note) {
				continue
			}
			if i.Pantry == "icing-sugar" && slices.ContainsFunc(r.Ingredients, func(o Ingredient) bool {
				return o.Part == part && o.Pantry != i.Pantry && slices.Contains(groups["sugar"], o.Pantry)
			}) {
				continue // it goes on top
			}
			for group, ids := range groups {
				if slices.Contains(ids, i.Pantry) && i.Role != pantry.Other {
					lines[group] = append(lines[group], n)
					sums[group] += grams[n]
				}
			}
		}
		name := r.Title
		if part != "" {
			name = part
			if len(r.Parts()) == 1 {
				name += " " + r.Title
			}
		}
		for _, u := range table {
			if !u.words.MatchString(name) ||
				slices.ContainsFunc(u.needs, func(g string) bool { return sums[g] == 0 }) ||
				slices.ContainsFunc(u.without, func(g string) bool { return sums[g] > 0 }) {
				continue
			}
			if u.Mixture == "crumble" && u.Over == "sugar" && part == "" && len(lines["sugar"]) > 1 { // one of them sweetens the fruit
				continue
			}
			if u.Mixture == "creamed sponge" && slices.ContainsFunc(r.Steps, func(s Step) bool { return rubbed.MatchString(s.Text) }) {
				continue
			}
			if u.Mixture == "yeast dough" && poured.MatchString(name+" "+r.Title) {
				continue
			}
			if u.Mixture == "short pastry" && (notShort.MatchString(name) || sums["liquid"] > 0.6*sums["flour"]) {
				continue
			}
			found := Ratio{Usual: u, Part: part, Value: sums[u.Over] / sums[u.Under], OverLines: lines[u.Over], UnderLines: lines[u.Under]}
			switch {
			case found.Value < u.Low:
				found.OutsideWhat = "less"
			case found.Value > u.High:
				found.OutsideWhat = "more"
			}
			out = append(out, found)
		}
	}
	return out
}

// Range says the usual range of the ratio.
func (u Usual) Range() string {
	if u.Low == 0 {
		return "up to " + share(u.High)
	}
	return share(u.Low) + " to " + share(u.High)
}
