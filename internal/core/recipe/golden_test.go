package recipe_test

import (
	"fmt"
	"maps"
	"slices"
	"strings"
	"testing"

	"freshapron/internal/core/pantry"
	"freshapron/internal/core/recipe"
	"freshapron/internal/demo"
	"freshapron/internal/golden"
)

// Which rules find something in every recipe of the corpora, all that is said of
// some, and what is left of those when all is mended that can be by a press.
func TestWhatTheCheckFinds(t *testing.T) {
	const every = 10 // of which all is said
	var b strings.Builder
	for _, file := range []string{readTuned, readMeasured, written, blind} {
		texts, titles := recipesOf(t, file)
		for n, title := range titles {
			found := findings(texts[title])
			fmt.Fprintf(&b, "= %s:", title)
			for _, f := range found {
				fmt.Fprintf(&b, " %s@%s", f.Rule, f.Where)
			}
			b.WriteString("\n")
			if n%every != 0 {
				continue
			}
			r := read(texts[title])
			for _, f := range found {
				fmt.Fprintf(&b, "  %s: %s %s %t\n", f.Key, f.Says, f.Mend, f.Mendable())
				r, _ = recipe.Mend(r, pantry.Stock(), f.Key)
			}
			fmt.Fprintf(&b, "  left: %d\n", len(recipe.Check(r, pantry.Stock())))
		}
	}
	golden.Same(t, "found.golden", b.String())
}

// What is said of each mistake that is made in a sound recipe.
func TestWhatIsSaidOfMistakes(t *testing.T) {
	var b strings.Builder
	all := map[string]string{}
	for _, file := range []string{readTuned, readMeasured, written, blind} {
		texts, _ := recipesOf(t, file)
		maps.Copy(all, texts)
	}
	for _, file := range []string{"mistakes.txt", "mistakes_measured.txt"} {
		for _, m := range mistakesOf(t, file) {
			fmt.Fprintf(&b, "- %s\n", m.line)
			for _, f := range findings(strings.Replace(all[m.title], m.from, m.to, 1)) {
				if slices.Contains(claims, f.Rule) {
					fmt.Fprintf(&b, "  %s at %s: %s %s\n", f.Rule, f.Where, f.Says, f.Mend)
				}
			}
		}
	}
	golden.Same(t, "mistakes.golden", b.String())
}

// What is computed of every recipe of the corpora and of the demonstration.
func TestWhatIsComputedOfRecipes(t *testing.T) {
	var b strings.Builder
	var recipes []recipe.Recipe
	for _, file := range []string{readTuned, readMeasured, written, blind} {
		texts, titles := recipesOf(t, file)
		for _, title := range titles {
			recipes = append(recipes, read(texts[title]))
		}
	}
	for _, r := range append(recipes, append(demo.Dishes(), demo.Drafts()...)...) {
		guessed, of := r.GuessedMinutes()
		fmt.Fprintf(&b, "= %s: %s, %.2f of %.2f guessed, raw %q, parts %q\n", r.Title, r.Count(max(1, r.Yield)), guessed, of, r.Raw(pantry.Stock()), r.Parts())
		grams := recipe.Grams(r, pantry.Stock())
		for _, ratio := range recipe.Ratios(r, grams) {
			fmt.Fprintf(&b, "  %s %s: %s, usual %s %s\n", ratio.Part, ratio.Mixture, ratio.Says(), ratio.Range(), ratio.OutsideWhat)
		}
		for n, i := range r.Ingredients {
			fmt.Fprintf(&b, "  %s | %.2f g %s\n", i.Line(), grams[n], i.Law)
		}
		dangers := r.EveryDanger(pantry.Stock())
		for n, s := range r.Steps {
			fmt.Fprintf(&b, "  %s: %s, %v\n", s.ID, s.Timing(), dangers[n])
		}
		known, unknown := r.Allergens(pantry.Stock())
		b.WriteString(golden.All(known, unknown, r.ToRead(pantry.Stock()), r.Problems(), r.Dish(1), r.Dish(7), r.TakenBy(pantry.Stock())))
	}
	golden.Same(t, "recipes.golden", b.String())
}
