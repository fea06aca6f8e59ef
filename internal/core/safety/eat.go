package safety

import (
	"cmp"
	"fmt"
	"slices"
	"strings"

	"freshapron/internal/core/class"
	"freshapron/internal/core/pantry"
	"freshapron/internal/core/recipe"
)

// An Against is an ingredient that somebody can't eat, or of which nobody
// knows.
type Against struct {
	Ingredient string
	Need       class.Need
	Verdict    pantry.Verdict // Ask or Never
	Why        string
}

// Eats tells what of a recipe stands against somebody's needs. What has not
// been looked up counts as unsafe.
func Eats(r recipe.Recipe, p *pantry.Pantry, needs []class.Need) []Against {
	var out []Against
	for _, n := range needs {
		if n.Kind == class.Access {
			continue
		}
		means := class.Understand(n.What)
		for _, in := range all(r) {
			stock, ok := p.Find(in.Pantry)
			if !ok {
				stock = pantry.Ingredient{Name: in.Name, Unknown: true}
			}
			v, why := judge(means, stock, in.Name)
			if a := (Against{in.Name, n, v, why}); v != pantry.Suits && !slices.Contains(out, a) {
				out = append(out, a)
			}
		}
	}
	return out
}

// all returns the ingredients with those of all choices.
func all(r recipe.Recipe) []recipe.Ingredient {
	out := slices.Clone(r.Ingredients)
	for _, c := range r.Choices {
		for _, o := range c.Options {
			out = append(out, o.Ingredients...)
		}
	}
	return out
}

// judge tells whether an ingredient suits what somebody needs, and why not: the
// worst of all that an entry means. Words that nobody has explained are asked
// of every ingredient.
func judge(means class.Understood, i pantry.Ingredient, called string) (pantry.Verdict, string) {
	if i.Tap() {
		return pantry.Suits, ""
	}
	worst, why := pantry.Suits, ""
	take := func(v pantry.Verdict, says string) {
		if v > worst {
			worst, why = v, says
		}
	}
	for _, need := range means.Needs {
		take(against(need, i, called))
	}
	for _, words := range means.Asks {
		if isCalled(words, i, called) {
			take(pantry.Never, fmt.Sprintf("%s: is %s", called, words))
		}
		if i.Unknown {
			take(pantry.Never, fmt.Sprintf("%s: not looked up, so it counts as unsafe", called))
		}
		take(pantry.Ask, fmt.Sprintf("%s: nobody has said what “%s” means here", called, words))
	}
	return worst, why
}

// against judges an ingredient against one need; see class.Understand.
func against(need string, i pantry.Ingredient, called string) (pantry.Verdict, string) {
	if d, ok := pantry.DietOf(need); ok {
		return judgeDiet(d, i, called)
	}
	food, held := class.FoodOf(need), pantry.Suits
	if food != "" {
		held = i.Holds(food)
	}
	allergens := class.AllergensOf(need)
	for _, a := range i.Allergens {
		if slices.Contains(allergens, a) {
			return pantry.Never, fmt.Sprintf("%s: contains %s", called, a)
		}
	}
	for _, a := range i.ToRead() {
		if slices.Contains(allergens, a) && !i.Unknown {
			return pantry.Ask, fmt.Sprintf("%s: read the label for %s", called, a)
		}
	}
	switch {
	case allergens == nil && food == "": // not about food
		return pantry.Suits, ""
	case food != "" && isCalled(food, i, called):
		return pantry.Never, fmt.Sprintf("%s: is %s", called, food)
	case held == pantry.Never:
		return pantry.Never, fmt.Sprintf("%s: is %s, or has it in it", called, food)
	case i.Unknown:
		return pantry.Never, fmt.Sprintf("%s: not looked up, so it counts as unsafe", called)
	case held == pantry.Ask || food != "" && made(i):
		return pantry.Ask, fmt.Sprintf("%s: read the packet for %s", called, food)
	}
	return pantry.Suits, ""
}

// isCalled reports whether an ingredient is named by all the words.
func isCalled(words string, i pantry.Ingredient, called string) bool {
	folded := pantry.Folded(words)
	names := append(pantry.Folded(i.Name), pantry.Folded(called)...)
	return len(folded) > 0 && !slices.ContainsFunc(folded, func(w string) bool { return !slices.Contains(names, w) })
}

// made reports whether an ingredient is made of several, so that its name
// does not say what is in it.
func made(i pantry.Ingredient) bool {
	return slices.ContainsFunc(ofSeveral, func(w string) bool { return strings.Contains(i.Name, w) })
}

// ofSeveral are words in the names of what is made of several things.
var ofSeveral = strings.Split("sauce, stock, spread, paste, mix, bread, sausage, mayonnaise, meat-free, flakes, cereal, drink, yoghurt, jam, curry, masala, seasoning, chutney, pickle, pesto, salsa, "+
	"ketchup, harissa, houmous, falafel, burger, pudding, biscuit, cake, muesli, chocolate, custard, jelly, marshmallow, marzipan, pastry, pizza, gravy, salami, chorizo, "+
	"frankfurter, cordial, lemonade, filled, stuffing, mincemeat, sprinkles, finger, baked, bagel, brioche, croissant, crumpet, muffin, tortilla, taco, crisps, chips, "+
	"mycoprotein, alternative, ready-to-roll, icing, gnocchi, extract, spray, replacer, curd, granules, seafood stick, suet, cracker, processed, bouillon, salad cream, "+
	"ice cream", ", ")

func judgeDiet(d pantry.Diet, i pantry.Ingredient, called string) (pantry.Verdict, string) {
	v := d.Judge(i)
	switch {
	case v == pantry.Suits:
		return v, ""
	case i.Unknown:
		return pantry.Never, fmt.Sprintf("%s: not looked up, so it counts as unsafe", called)
	case v == pantry.Ask && len(i.ToRead()) > 0 && !slices.ContainsFunc(i.From, func(t pantry.Trait) bool { return slices.Contains(d.Ask, t) }):
		return v, fmt.Sprintf("%s: read the label, whether it is %s", called, d.Name)
	case v == pantry.Ask:
		return v, fmt.Sprintf("%s: ask the supplier whether it is %s", called, d.Name)
	}
	var from []string
	for _, t := range i.From {
		if slices.Contains(d.Never, t) {
			from = append(from, string(t))
		}
	}
	return v, fmt.Sprintf("%s: %s is not %s", called, strings.Join(from, ", "), d.Name)
}

// Worst returns the worst verdict of what stands against somebody.
func Worst(list []Against) pantry.Verdict {
	v := pantry.Suits
	for _, a := range list {
		v = max(v, a.Verdict)
	}
	return v
}

// A WayToEat is the fewest swaps with which somebody can eat a dish, and what
// still stands against it.
type WayToEat struct {
	Swaps []recipe.Swap
	Left  []Against
}

// Verdict tells whether somebody can then eat it.
func (w WayToEat) Verdict() pantry.Verdict { return Worst(w.Left) }

// CanEat looks for swaps of the recipe with which somebody can eat it. Swaps
// of different ingredients don't depend on each other, so each is chosen for
// itself: the first with which nothing, or least, stands against it.
func CanEat(r recipe.Recipe, p *pantry.Pantry, needs []class.Need, take func(line, part string) recipe.Ingredient) WayToEat {
	var w WayToEat
	seen := map[string]bool{}
	for _, a := range Eats(r, p, needs) {
		if seen[a.Ingredient] {
			continue
		}
		seen[a.Ingredient] = true
		now := len(Eats(only(r, a.Ingredient), p, needs))
		best, verdict := recipe.Swap{}, Worst(Eats(only(r, a.Ingredient), p, needs))
		for _, s := range r.Swaps {
			if s.For != a.Ingredient {
				continue
			}
			in := take(s.Use, "")
			after := Eats(recipe.Recipe{Ingredients: []recipe.Ingredient{in}}, p, needs)
			if c := cmp.Or(cmp.Compare(Worst(after), verdict), cmp.Compare(len(after), now)); c < 0 {
				best, verdict, now = s, Worst(after), len(after)
			}
		}
		if best.Use != "" {
			w.Swaps = append(w.Swaps, best)
		}
	}
	w.Left = Eats(r.Swapped(take, w.Swaps...), p, needs)
	return w
}

// only returns a recipe of the one ingredient.
func only(r recipe.Recipe, name string) recipe.Recipe {
	return recipe.Recipe{Ingredients: slices.DeleteFunc(all(r), func(i recipe.Ingredient) bool { return i.Name != name })}
}

// Apart reports whether somebody's needs ask for a bench, tools and an order
// of work of their own for a dish: an allergy to traces, and a class that
// works with what it is to.
func Apart(r recipe.Recipe, p *pantry.Pantry, needs []class.Need) bool {
	for _, n := range needs {
		if n.Apart() && len(Eats(r, p, []class.Need{n})) > 0 {
			return true
		}
	}
	return false
}
