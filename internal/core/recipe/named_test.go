package recipe_test

import (
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"

	"freshapron/internal/core/measure"
	"freshapron/internal/core/pantry"
	"freshapron/internal/core/recipe"
	"freshapron/internal/demo"
	"freshapron/internal/golden"
)

// phrases name things of the pantry by their kind, by what is done with them, or together.
var phrases = []string{
	"Add the pasta.", "Stir in the noodles.", "Wash the rice.", "Beat the egg.", "Whisk the cream.", "Rub in the fat.", "Grate the cheese.", "Brown the meat.",
	"Season well.", "Sift the dry ingredients.", "Toss the fruit.", "Chop the vegetables.", "Dissolve it in the stock.", "Toast the nuts.", "Crush the seeds.",
	"Scatter over the herbs.", "Stir in the spices.", "Pour in the liquid.", "Heat the oil.", "Melt the chocolate.", "Flake the fish.", "Drain the beans.",
	"Cream with the sugar.", "Add the rest.", "Spread the sauce over it.", "Knead the dough.", "Slice the bread.", "Squeeze the juice over it.", "Decorate.", "Put everything in a bowl and mix.",
}

// Which of the phrases speak of each thing in the pantry, what of it a recipe lacks that names
// it without listing it, and what is asked where it is fried or stirred.
func TestWhatSpeaksOfEachThing(t *testing.T) {
	var b strings.Builder
	stock := pantry.Stock()
	base := demo.Dish("leek-tartlets")
	flour := recipe.TakeLine("200 g plain flour", "", measure.Metric, stock).Ingredient
	var others []recipe.Ingredient // that every recipe speaks of, so that it would of this one
	for _, line := range []string{"2 carrots", "300 g potatoes", "200 g salmon fillet"} {
		others = append(others, recipe.TakeLine(line, "", measure.Metric, stock).Ingredient)
	}
	with := func(in recipe.Ingredient, title string, texts ...string) recipe.Recipe {
		r := base.Clone()
		r.Title, r.Ingredients, r.Contains = title, []recipe.Ingredient{in}, nil
		r.Steps = r.Steps[:len(texts)]
		for n, text := range texts {
			r.Steps[n].Title, r.Steps[n].Text = text, text
		}
		return r
	}
	for _, s := range stock.List() {
		in := recipe.TakeLine("100 g "+s.Name, "", measure.Metric, stock).Ingredient
		fmt.Fprintf(&b, "%s:", s.ID)
		for n, phrase := range phrases {
			r := with(in, "Dish", phrase, "Lay the carrots, potatoes and salmon round it.")
			r.Ingredients = append(r.Ingredients, others...)
			if len(recipe.FindingsOf("unused-ingredient", r, stock)) == 0 {
				fmt.Fprintf(&b, " %d", n)
			}
		}
		b.WriteString("; lacking")
		for _, f := range recipe.FindingsOf("unlisted-ingredient", with(flour, "Dish", "Stir in the "+s.Name+".", "Serve."), stock) {
			fmt.Fprintf(&b, " %s", f.Key)
		}
		b.WriteString(";")
		for _, rule := range []string{"raw-not-cooked", "raw-hygiene", "no-probing", "deep-fat", "no-caution", "allergen-not-declared", "unit-misfit", "part-of-an-egg"} {
			for n, text := range []string{"Stir the " + s.Name + " in.", "Fry the " + s.Name + " for 5 minutes."} {
				if len(recipe.FindingsOf(rule, with(in, "Dish", text, "Serve."), stock)) > 0 {
					fmt.Fprintf(&b, " %s %d", rule, n)
				}
			}
		}
		for _, title := range []string{"Vegan dish", "Gluten-free dish", "Nut-free dish", "Vegetarian dish", "Dairy-free dish"} {
			for _, f := range recipe.FindingsOf("free-from-title", with(in, title, "Serve."), stock) {
				fmt.Fprintf(&b, " %s", f.Key)
			}
		}
		b.WriteString("\n")
	}
	golden.Same(t, "named.golden", b.String())
}

// Words that are also verbs, colours or the beginning of another thing are missed in the list
// where a step adds them, and only there.
func TestVerbsThatAreThings(t *testing.T) {
	stock := pantry.Stock()
	r := demo.Dish("leek-tartlets")
	r.Ingredients = []recipe.Ingredient{recipe.TakeLine("2 carrots", "", measure.Metric, stock).Ingredient}
	for text, lacks := range map[string]string{
		"Melt the butter in a pan.": "butter", "Stir in the mustard and season.": "mustard", "Fold in the flour.": "flour", "Add cream to taste.": "cream",
		"Serve with carrots, butter and dill.": "butter", "Add all the chocolate, then stir.": "chocolate", "Stir in the mint until it smells.": "mint",
		"Butter the tin and flour it.": "", "Cream it until light.": "", "Stir until mustard in colour.": "", "Rub it until it is like flour.": "", "Add the carrots and butter the dish.": "",
	} {
		r.Steps = r.Steps[:1]
		r.Steps[0].Title, r.Steps[0].Text, r.Steps[0].Takes = "Do it", text, nil
		var named []string
		for _, f := range recipe.FindingsOf("unlisted-ingredient", r, stock) {
			named = append(named, strings.TrimPrefix(f.Key, "unlisted-ingredient "))
		}
		if lacks == "" {
			assert.Empty(t, named, text)
		} else {
			assert.Contains(t, named, lacks, text)
		}
	}
}
