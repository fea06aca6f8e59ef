package recipe_test

import (
	"errors"
	"fmt"
	"slices"
	"strings"
	"testing"

	"freshapron/internal/core/exact"
	"freshapron/internal/core/measure"
	"freshapron/internal/core/pantry"
	"freshapron/internal/core/recipe"
	"freshapron/internal/demo"
	"freshapron/internal/golden"
)

// found is all that the check says of a recipe, a line each.
func found(r recipe.Recipe) error {
	var says []string
	for _, f := range recipe.Check(r, pantry.Stock()) {
		says = append(says, fmt.Sprintf("%s at %s: %s %s", f.Rule, f.Where, f.Says, f.Mend))
	}
	return errors.New(strings.Join(says, "\n"))
}

// From which amounts for four on of each thing in the pantry the check asks about them, in
// a sweet and in a savoury dish.
func TestHowMuchIsTooMuch(t *testing.T) {
	var b strings.Builder
	onion := recipe.TakeLine("1 onion", "", measure.Metric, pantry.Stock()).Ingredient
	whole := demo.Dish("leek-tartlets")
	for _, s := range pantry.Stock().List() {
		r := whole
		r.Title, r.Yield, r.Steps = "Dish", 4, r.Steps[:1]
		in := recipe.TakeLine("100 g "+s.Name, "", measure.Metric, pantry.Stock()).Ingredient
		asks := func(grams int) bool {
			in.Amount = exact.Int(int64(grams))
			r.Ingredients[0] = in
			return slices.ContainsFunc(recipe.FindingsOf("unusual-amount", r, pantry.Stock()), func(f recipe.Finding) bool { return f.Where == "ingredients[0]" })
		}
		fmt.Fprintf(&b, "%s:", s.ID)
		for _, with := range [][]recipe.Ingredient{{in}, {in, onion}} {
			r.Ingredients = with
			b.WriteString(edges(asks, 1, 30, 300, 9000))
			b.WriteString(";")
			if !strings.Contains(s.ID, "sugar") && !strings.Contains(s.ID, "syrup") && !strings.Contains(s.ID, "honey") {
				break
			}
		}
		b.WriteString("\n")
	}
	golden.Same(t, "portions.golden", b.String())
}

// What the check says of a recipe where any one figure or word of it is another.
func TestWhatARecipeCanBe(t *testing.T) {
	var b strings.Builder
	for _, dish := range []string{"leek-tartlets"} {
		r := demo.Dish(dish)
		for _, step := range []int{len(r.Steps) - 2} {
			s := r.Steps[step]
			of := struct {
				Title, Piece  *string
				Yield, Each   *int
				Amount, Other *exact.Number
				Text, LookFor *string
				Cooks         *int
				Work, Wait    *exact.Number
				Temperature   *exact.Number
			}{Title: &r.Title, Piece: &r.Piece, Yield: &r.Yield, Each: &r.Each, Amount: &r.Ingredients[0].Amount, Other: &r.Ingredients[1].Amount,
				Text: &r.Steps[step].Text, LookFor: &r.Steps[step].LookFor, Cooks: &r.Steps[step].Cooks, Work: &r.Steps[step].Work, Wait: &r.Steps[step].Wait}
			if len(s.Uses) > 0 {
				of.Temperature = r.Steps[step].Uses[0].Temperature
			}
			fmt.Fprintf(&b, "= %s, %s\n%s", dish, s.ID, golden.Limits(&of, func() error { return found(r) }))
		}
	}
	golden.Same(t, "limits.golden", b.String())
}
