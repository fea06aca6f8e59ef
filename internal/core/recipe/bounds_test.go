package recipe_test

import (
	"fmt"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"

	"freshapron/internal/core/exact"
	"freshapron/internal/core/measure"
	"freshapron/internal/core/pantry"
	"freshapron/internal/core/recipe"
	"freshapron/internal/demo"
	"freshapron/internal/golden"
)

// edges tells at which numbers an answer turns, between points that lie far enough apart.
func edges(asks func(int) bool, points ...int) string {
	var b strings.Builder
	for n, high := range points[1:] {
		low := points[n]
		is := asks(low)
		if asks(high) == is {
			continue
		}
		for high-low > 1 {
			if mid := (low + high) / 2; asks(mid) == is {
				low = mid
			} else {
				high = mid
			}
		}
		fmt.Fprintf(&b, " %t from %d", !is, high)
	}
	return b.String()
}

// says reports whether a rule of the check has something to say of a recipe.
func says(rule string, r recipe.Recipe) bool {
	return recipe.FindingsOf(rule, r, pantry.Stock()) != nil
}

// Below which amount for ten the check asks whether something is a misprint: of what a dish is
// called after, of what is a part of it, and of the sugar in what is sweet.
func TestHowLittleIsTooLittle(t *testing.T) {
	var b strings.Builder
	for _, s := range pantry.Stock().List() {
		in := recipe.TakeLine("100 g "+s.Name, "", measure.Metric, pantry.Stock()).Ingredient
		for _, title := range []string{"Dish", "Rice, pasta, beans and potato dish", "Sponge cake"} {
			r := recipe.Recipe{Title: title, Yield: 10, Piece: "portion", Ingredients: []recipe.Ingredient{in}}
			at := edges(func(grams int) bool {
				r.Ingredients[0].Amount = exact.Int(int64(grams))
				return slices.ContainsFunc(recipe.FindingsOf("unusual-amount", r, pantry.Stock()), func(f recipe.Finding) bool { return strings.Contains(f.Says, "less than") })
			}, 1, 400)
			if at != "" {
				fmt.Fprintf(&b, "%s in a %s:%s\n", s.ID, title, at)
			}
		}
	}
	golden.Same(t, "little.golden", b.String())
}

// From how much for four on the check asks of what a dish is called after, and with how many
// pieces, in a dough, or in what is preserved.
func TestHowMuchOfWhatItIsCalledAfter(t *testing.T) {
	var b strings.Builder
	yeast := recipe.TakeLine("7 g fast yeast", "", measure.Metric, pantry.Stock()).Ingredient
	for _, s := range pantry.Stock().List() {
		in := recipe.TakeLine("100 g "+s.Name, "", measure.Metric, pantry.Stock()).Ingredient
		asks := func(r recipe.Recipe) func(int) bool {
			return func(grams int) bool {
				r.Ingredients[0].Amount = exact.Int(int64(grams))
				return slices.ContainsFunc(recipe.FindingsOf("unusual-amount", r, pantry.Stock()), func(f recipe.Finding) bool {
					return f.Where == "ingredients[0]" && strings.Contains(f.Says, "more than")
				})
			}
		}
		one := func(title, piece string, yield int, more ...recipe.Ingredient) string {
			return edges(asks(recipe.Recipe{Title: title, Yield: yield, Piece: piece, Ingredients: append([]recipe.Ingredient{in}, more...)}), 1, 30, 300, 9000)
		}
		fmt.Fprintf(&b, "%s: named%s;", s.ID, one(s.Name+" bake", "portion", 4))
		if s.ID == "salt" || s.ID == "caster-sugar" || s.ID == "plain-flour" || s.ID == "carrot" {
			for _, yield := range []int{5, 6, 7} {
				fmt.Fprintf(&b, " %d buns%s;", yield, one("Dish", "bun", yield))
			}
			for _, yield := range []int{1, 3, 4} {
				fmt.Fprintf(&b, " %d cakes%s; %d jars%s;", yield, one("Dish", "cake", yield), yield, one("Dish", "jar", yield))
			}
			fmt.Fprintf(&b, " dough%s; chutney%s; litre%s; unsaid%s;", one("Dish", "portion", 4, yeast), one("Chutney", "portion", 4), one("Dish", "litre", 1), one("Dish", "", 0))
		}
		b.WriteString("\n")
	}
	golden.Same(t, "named_portions.golden", b.String())
}

// How long each thing takes at least and at most before the check asks, in seconds and in minutes.
func TestHowLongIsTooLong(t *testing.T) {
	var b strings.Builder
	for _, what := range []string{
		"Bake the scones for %s at 180 °C.", "Bake the biscuits for %s at 180 °C.", "Bake the muffins for %s at 180 °C.", "Bake the terrine for %s at 180 °C.", "Bake the loaf for %s at 180 °C.",
		"Bake the meringues for %s at 110 °C.", "Bake the flapjacks for %s at 180 °C.", "Bake the cake for %s at 160 °C.", "Bake the pizza for %s at 220 °C.", "Bake the tart for %s at 180 °C.",
		"Roast the whole chicken for %s at 180 °C.", "Roast the chicken for %s at 180 °C.", "Roast the carrots for %s at 180 °C.", "Bake for %s at 180 °C.", "Bake for %s at 199 °C.", "Bake for %s at 200 °C.",
		"Boil the ravioli for %s.", "Boil the pasta for %s.", "Boil the rice for %s.", "Boil the potatoes for %s.", "Boil the eggs for %s.", "Fry for %s on each side.", "Fry for %s.", "Grill for %s.",
		"Microwave for %s.", "Knead for %s.", "Whisk for %s.", "Leave to rise for %s.", "Steam for %s.", "Simmer for %s.", "Simmer the stew for %s.",
	} {
		asks := func(unit string) func(int) bool {
			return func(n int) bool {
				return says("impossible-time", read("Dish\n200 g flour\n100 g leeks\n"+fmt.Sprintf(what, fmt.Sprintf("%d %s", n, unit))))
			}
		}
		fmt.Fprintf(&b, "%s: seconds%s, minutes%s\n", what, edges(asks("seconds"), 5, 119), edges(asks("minutes"), 2, 10, 20, 60, 700, 1500))
	}
	for _, s := range []string{"stewing beef", "brown rice", "pearl barley", "green lentils", "red lentils", "potatoes", "white rice", "chicken breast", "pork sausages", "lamb mince"} {
		for _, how := range []string{"Simmer the %s for %%d minutes.", "Stew the %s for %%d minutes until soft."} {
			text := fmt.Sprintf(how, s)
			fmt.Fprintf(&b, "%s%s\n", text, edges(func(n int) bool {
				return says("impossible-time", read("Dish\n500 g "+s+"\n1 onion\n"+fmt.Sprintf(text, n)))
			}, 1, 60, 600))
		}
	}
	golden.Same(t, "long.golden", b.String())
}

// Which numbers of pieces in a step go with which yields.
func TestWhichNumbersOfPiecesAgree(t *testing.T) {
	var b strings.Builder
	whole := demo.Dish("leek-tartlets")
	for _, what := range []string{
		"Cut into %d squares.", "Divide into %d portions.", "Shape into %d balls, then flatten each.", "Pour into %d glasses.", "Divide between %d cases.", "Cut out %d rounds.", "Cut into %d slices and halve them.", "Fill a %d-hole tin.", "Make %d patties.",
	} {
		for _, piece := range []string{"portion", "square", "bun"} {
			fmt.Fprintf(&b, "%s of %ss:", what, piece)
			for _, yield := range []int{1, 2, 3, 4, 6, 8, 12, 24} {
				wrong := ""
				for n := 2; n <= 36; n++ {
					r := whole
					r.Title, r.Yield, r.Piece, r.Pieces, r.Steps = "Dish", yield, piece, piece+"s", slices.Clone(whole.Steps[:2])
					r.Steps[0].Text, r.Steps[1].Text = fmt.Sprintf(what, n), "Bake."
					wrong += map[bool]string{true: "-", false: "+"}[says("yield-contradicts", r)]
				}
				fmt.Fprintf(&b, " %d %s;", yield, wrong)
			}
			b.WriteString("\n")
		}
	}
	golden.Same(t, "pieces.golden", b.String())
}

// Which heats are no oven's, which differ from what the step or the oven before says, and how far minutes in the
// text may lie from those of the step and of the whole recipe.
func TestHowFarFiguresMayDiffer(t *testing.T) {
	var b strings.Builder
	tell := func(what string, rule string, of func(n int) recipe.Recipe, points ...int) {
		fmt.Fprintf(&b, "%s, %s:%s\n", what, rule, edges(func(n int) bool { return says(rule, of(n)) }, points...))
	}
	for _, what := range []string{"Bake at %d °C.", "Bake at %d celsius.", "Bake at %d °F.", "Roast at %d fahrenheit.", "Simmer at %d °C.", "Bake until %d °C inside.", "Heat the oven to %d°C.", "Bake at %d fan.", "Bake at gas mark %d."} {
		with := func(n int) recipe.Recipe {
			r := sound()
			r.Steps[3].Text = fmt.Sprintf(what, n)
			return r
		}
		tell(what, "oven-out-of-range", with, 0, 5, 20, 60, 100, 200, 400, 700)
		tell(what, "oven-settings-differ", with, 100, 190, 260)
		heated := func(n int) recipe.Recipe {
			r := with(n)
			r.Steps[3].Uses = nil
			return r
		}
		tell(what+" Heated to 190", "oven-settings-differ", heated, 100, 190, 260)
	}
	held := func(n int) recipe.Recipe {
		r := sound()
		at := exact.Int(int64(n))
		r.Steps[3].Uses = slices.Clone(r.Steps[3].Uses)
		r.Steps[3].Uses[0].Temperature = &at
		return r
	}
	tell("held at", "oven-out-of-range", held, 0, 190, 600)
	for _, what := range []string{"Bake for %d minutes.", "Bake for 10 minutes, then for %d minutes.", "Bake for 2 minutes, turn, bake 3 minutes, then %d minutes."} {
		for _, wait := range []int64{1, 4, 20} {
			tell(fmt.Sprintf("%s in %d", what, wait), "times-differ", func(n int) recipe.Recipe {
				r := sound()
				r.Steps[3].Text, r.Steps[3].Wait = fmt.Sprintf(what, n), exact.Int(wait)
				return r
			}, 1, 4, 10, 20, 60)
		}
	}
	for _, factor := range []int{1, 4} {
		tell(fmt.Sprintf("in all, %d times as long", factor), "total-time-differs", func(n int) recipe.Recipe {
			r := sound()
			r.Minutes = n
			for k := range r.Steps {
				r.Steps[k].Work = r.Steps[k].Work.Mul(exact.Int(int64(factor)))
			}
			return r
		}, 1, 36, 70, 110, 300)
	}
	golden.Same(t, "differ.golden", b.String())
}

// What a recipe makes at most, and how much of it each.
func TestHowManyPieces(t *testing.T) {
	problem := func(change func(r *recipe.Recipe, n int)) func(int) bool {
		return func(n int) bool {
			r := sound()
			change(&r, n)
			return r.Problems() != nil
		}
	}
	assert.Equal(t, " false from 1 true from 1001", edges(problem(func(r *recipe.Recipe, n int) { r.Yield = n }), -5, 8, 5000))
	assert.Equal(t, " false from 1 true from 101", edges(problem(func(r *recipe.Recipe, n int) { r.Each = n }), -5, 8, 5000))
}
