package recipe

import (
	"slices"
	"strings"

	"freshapron/internal/core/fit"
	"freshapron/internal/core/pantry"
	"freshapron/internal/core/pattern"
)

// A Danger is what somebody can be hurt by in a step.
type Danger string

// The dangers.
const (
	Knife   Danger = "knife"
	Grater  Danger = "grater"
	HotFat  Danger = "hot_fat"
	Boiling Danger = "boiling"
	Hob     Danger = "hob"
	HotOven Danger = "hot_oven"
	Blade   Danger = "blade"
	RawMeat Danger = "raw_meat"
)

// Dangers lists them in the order of a sheet.
var Dangers = []Danger{Knife, Grater, Blade, Hob, HotFat, Boiling, HotOven, RawMeat}

// Name returns the danger in words.
func (d Danger) Name() string {
	return map[Danger]string{
		Knife: "a knife", Grater: "a grater or peeler", HotFat: "hot fat", Boiling: "boiling water and steam", Hob: "a hot ring",
		HotOven: "a hot oven", Blade: "a blade that turns", RawMeat: "raw meat or fish",
	}[d]
}

// A caution is how a danger shows in the words of a step, and the word of care
// that is offered.
type caution struct {
	danger  Danger
	does    *pattern.Pattern
	caution string
}

// in reports whether a text, in small letters, speaks of it.
func (c caution) in(lower string) bool { return c.does.MatchString(lower) }

// cautions by what a step does. What has been done, as in “the sliced leek”,
// is none. After é a pattern sees no end of a word.
var cautions = []caution{
	{Knife, pattern.Must(`\b(chop(?:s|ping)?|dic(?:e|es|ing)|slic(?:e|es|ing)|cut(?:s|ting)? (?:the|into|out|up)|halv(?:e|es|ing)|(?:sharp|vegetable|bread|cook's) kni(?:fe|ves))\b`), "Knife: bridge to halve, claw to slice, a board that does not slip."},
	{HotFat, pattern.Must(`\b(?:(?:fry|fries|frying|hot (?:oil|fat)|heat (?:the |some |a little )?(?:oil|fat)|griddle|saute)\b|sauté(?:[^e]|$))`), "Hot fat: dry food, handle to the side, never leave it."},
	{Boiling, pattern.Must(`\b(boil(?:s|ing)?|steam (?:it|them|the|for)|drain)\b`), "Steam: lift the lid away from the face; an adult drains boiling water."},
	{HotOven, pattern.Must(`\b(oven|bake|roast)\b`), "Hot oven: dry oven gloves, a clear way to the heat mat."},
	{Blade, pattern.Must(`\b(stick blender|food processor|blend)\b`), "Blades: unplugged before fingers go near; a stick blender stays under the surface."},
}

// atOven is what speaks of reaching into an oven, and not only of heating it.
var atOven = caution{HotOven, pattern.Must(`\b(?:out of|from|into|in) (?:the|a) (?:hot )?oven\b`), ""}

var grater = caution{Grater, pattern.Must(`\b(grat(?:e|ing|er)|peel(?:er|ing)?|zest)\b`), ""}

// EveryDanger returns what somebody can be hurt by in each step.
func (r Recipe) EveryDanger(p *pantry.Pantry) [][]Danger {
	out := make([][]Danger, len(r.Steps))
	for n := range r.Steps {
		out[n] = r.Dangers(n, p)
	}
	return out
}

// Dangers returns what somebody can be hurt by in the step at the place in
// the list: by its words, by what it uses, and by what is raw in it.
func (r Recipe) Dangers(n int, p *pantry.Pantry) []Danger {
	s := r.Steps[n]
	text := strings.ToLower(s.Title + ". " + s.Text)
	found := map[Danger]bool{}
	for _, c := range cautions {
		if c.danger != HotOven && c.in(text) {
			found[c.danger] = true
		}
	}
	grated := grater.in(text)
	found[Knife] = found[Knife] || s.Kind == fit.Cut && !grated
	found[Grater] = grated && s.Kind != fit.Weigh
	found[HotOven] = atOven.in(text) || s.Kind == fit.Bake
	for _, u := range s.Uses {
		switch u.Equipment {
		case "oven", "grill":
			found[HotOven] = true
		case "ring":
			found[Hob] = true
		case "blender", "processor", "mixer":
			found[Blade] = true
		}
	}
	found[RawMeat] = s.Kind != fit.Weigh && s.Kind != fit.Clean && len(r.rawIn(s, p)) > 0
	if s.Kind == fit.Weigh || s.Kind == fit.Clean || s.Kind == fit.Serve {
		found[Knife], found[HotFat], found[Boiling], found[Blade] = false, false, false, false
	}
	return slices.DeleteFunc(slices.Clone(Dangers), func(d Danger) bool { return !found[d] })
}

// rawIn returns the names of the raw meat and fish that a step speaks of, by their names or as
// "the meat" and "the fish".
func (r Recipe) rawIn(s Step, p *pantry.Pantry) []string {
	words := pantry.Words(s.wording())
	var out []string
	for _, i := range r.everything() {
		stock, _ := p.Find(i.Pantry)
		if !stock.Has(pantry.Raw) {
			continue
		}
		if slices.ContainsFunc(append(pantry.Folded(i.Name), flesh(stock)), func(w string) bool { return slices.Contains(words, w) }) {
			out = append(out, i.Name)
		}
	}
	return out
}

// Raw returns the names of the raw meat and fish of the recipe.
func (r Recipe) Raw(p *pantry.Pantry) []string {
	var names []string
	for _, i := range r.everything() {
		if stock, _ := p.Find(i.Pantry); stock.Has(pantry.Raw) {
			names = append(names, i.Name)
		}
	}
	return names
}

// Swapped returns the recipe with other ingredients in place of some: each
// swap's line is read as an ingredient of the same part. Where the recipe has
// an ingredient in several lines, the swap's amount is that of the first, and
// the others keep their own. A swap for what the recipe does not have changes
// nothing.
func (r Recipe) Swapped(take func(line, part string) Ingredient, swaps ...Swap) Recipe {
	if len(swaps) == 0 {
		return r
	}
	out := r
	out.Ingredients = slices.Clone(r.Ingredients)
	for _, s := range swaps {
		first := true
		for i, in := range r.Ingredients {
			if in.Name != s.For {
				continue
			}
			other := take(s.Use, in.Part)
			if !first {
				other.Quantity, other.Note, other.Law = in.Quantity, in.Note, in.Law
			}
			first = false
			out.Ingredients[i] = other
		}
	}
	return out
}
