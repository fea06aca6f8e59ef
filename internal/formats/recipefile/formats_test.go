package recipefile_test

import (
	"bytes"
	"fmt"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"freshapron/internal/core/exact"
	"freshapron/internal/core/fit"
	"freshapron/internal/core/measure"
	"freshapron/internal/core/pantry"
	"freshapron/internal/core/recipe"
	"freshapron/internal/formats/jsonld"
	"freshapron/internal/formats/recipefile"
	"freshapron/internal/formats/recipetext"
)

// anyRecipe draws a recipe of things that the pantry knows, in amounts and
// steps as people write them.
func anyRecipe(t *rapid.T) recipe.Recipe {
	pick := func(n int, what string) int { return rapid.IntRange(0, n-1).Draw(t, what) }
	stock := pantry.Stock().List()
	units := []measure.Unit{measure.Gram, measure.Kilogram, measure.Millilitre, measure.Litre, measure.Teaspoon, measure.Tablespoon, measure.Cup, measure.Ounce}
	r := recipe.Recipe{Title: "Made up " + []string{"bake", "broth", "flatbread", "crumble"}[pick(4, "title")], Yield: 1 + pick(24, "yield"), Piece: "portion", Pieces: "portions", Each: 1 + pick(4, "each")}
	used := map[string]bool{}
	for n := range 1 + pick(12, "ingredients") {
		i := stock[pick(len(stock), "ingredient")]
		if used[i.ID] || i.Unknown {
			continue
		}
		used[i.ID] = true
		law := []string{"", " {taste}", " {fixed}", " {surface}"}[pick(4, "law")]
		amount := exact.Frac(rapid.Int64Range(1, 4000).Draw(t, "amount"), []int64{1, 2, 3, 4, 8, 10}[pick(6, "parts")])
		unit := units[pick(len(units), "unit")]
		switch unit {
		case measure.Gram, measure.Millilitre:
		case measure.Kilogram, measure.Litre:
			amount = amount.Div(exact.Int(1000)) // no kitchen takes a hundred kilograms
		default:
			amount = amount.Div(exact.Int(50)) // or hundreds of cups
		}
		if i.Counted() && pick(2, "counted") == 0 {
			unit, amount = measure.Each, exact.Int(int64(1+pick(12, "count")))
		}
		part := []string{"", "Filling", "Top"}[n%3]
		line := recipe.Ingredient{Quantity: measure.Quantity{Amount: amount, Unit: unit}, Name: i.Name, Part: part}.Line()
		takes := recipetext.Ingredients("- "+line+law+"\n", measure.Metric, pantry.Stock())
		if len(takes) != 1 || takes[0].Ingredient.Pantry != i.ID || takes[0].Ingredient.Amount.Cmp(amount) != 0 {
			t.Fatalf("%q (%s %s) is read as %+v", line, amount, unit.ID, takes)
		}
		in := takes[0].Ingredient
		in.Part = part
		r.Ingredients = append(r.Ingredients, in)
	}
	for n := range 1 + pick(7, "steps") {
		kind := fit.Kinds[pick(len(fit.Kinds), "kind")]
		s := recipe.Step{Step: fit.Step{ID: fmt.Sprintf("step-%d", n), Title: fmt.Sprintf("Step number %c", 'A'+n), Kind: kind, Cooks: 1, Adult: fit.NoAdult,
			Work: exact.Frac(rapid.Int64Range(1, 40).Draw(t, "work"), 2), Wait: exact.Int(int64(pick(3, "waits") * pick(40, "wait")))}, Text: "Do it with care."}
		switch pick(6, "adult") {
		case 0:
			s.Adult = fit.Watches
		case 1:
			s.Adult, s.Cooks = fit.Does, 0
		case 2:
			s.Shareable = true
		}
		if n > 0 && pick(4, "after") > 0 {
			a := fit.After{Step: fmt.Sprintf("step-%d", pick(n, "which"))}
			if pick(3, "gap") == 0 {
				most := exact.Int(int64(1 + pick(30, "most")))
				a.MaxGap = &most
			}
			s.After = append(s.After, a)
		}
		r.Steps = append(r.Steps, s)
	}
	return r
}

// sameLines compares what a recipe is made of: amounts, things, laws, parts.
func sameLines(t require.TestingT, want, got []recipe.Ingredient, laws bool) {
	line := func(i recipe.Ingredient) string {
		s := fmt.Sprintf("%s %s %s %s", i.Amount, i.Unit.ID, i.Pantry, i.Part)
		if laws {
			s += " " + string(i.Law)
		}
		return s
	}
	var a, b []string
	for _, i := range want {
		a = append(a, line(i))
	}
	for _, i := range got {
		b = append(b, line(i))
	}
	require.ElementsMatch(t, a, b)
}

// What is written as Markdown is read back with every amount, law, part, step
// and rule of time.
func TestAnyRecipeThroughMarkdown(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		r := anyRecipe(t)
		var b bytes.Buffer
		require.NoError(t, recipetext.Write(&b, r, pantry.Stock()))
		f, err := recipefile.Parse(b.Bytes(), measure.Metric, pantry.Stock())
		require.NoError(t, err)
		require.Len(t, f.Recipes, 1)
		back := f.Recipes[0].Recipe
		require.Equal(t, r.Title, back.Title)
		require.Equal(t, r.Yield, back.Yield)
		require.Equal(t, r.Each, back.Each)
		sameLines(t, r.Ingredients, back.Ingredients, true)
		require.Len(t, back.Steps, len(r.Steps), b.String())
		for i, s := range r.Steps {
			g := back.Steps[i]
			require.Equal(t, []any{s.Title, s.Kind, s.Adult, s.Cooks, s.Shareable, s.Text}, []any{g.Title, g.Kind, g.Adult, g.Cooks, g.Shareable, g.Text}, b.String())
			require.Zero(t, s.Work.Cmp(g.Work), "work of %s\n%s", s.ID, b.String())
			require.Zero(t, s.Wait.Cmp(g.Wait), "wait of %s\n%s", s.ID, b.String())
			require.Len(t, g.After, len(s.After), b.String())
			for k, a := range s.After {
				require.Equal(t, a.MaxGap == nil, g.After[k].MaxGap == nil)
				if a.MaxGap != nil {
					require.Zero(t, a.MaxGap.Cmp(*g.After[k].MaxGap))
				}
			}
		}
	})
}

// The words of other programs carry less, but the amounts and the method.
func TestAnyRecipeThroughJSONLD(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		r := anyRecipe(t)
		for i := range r.Ingredients {
			r.Ingredients[i].Part = ""
		}
		var b bytes.Buffer
		require.NoError(t, jsonld.Write(&b, r))
		f, err := recipefile.Parse(b.Bytes(), measure.Metric, pantry.Stock())
		require.NoError(t, err)
		require.Len(t, f.Recipes, 1)
		back := f.Recipes[0].Recipe
		require.Equal(t, r.Title, back.Title)
		require.Equal(t, r.Yield, back.Yield)
		sameLines(t, r.Ingredients, back.Ingredients, false)
		back.Steps = slices.DeleteFunc(back.Steps, func(s recipe.Step) bool { return strings.HasPrefix(s.Title, "Prepare the ") }) // work in the list
		require.Len(t, back.Steps, len(r.Steps))
		for i, s := range r.Steps {
			require.Equal(t, s.Text, back.Steps[i].Text)
		}
	})
}

// However a file is cut short, it is read as far as it goes or refused with
// words: nothing is made up and nothing breaks.
func TestFilesCutShort(t *testing.T) {
	markdown := "# Bake\n\n- Makes: 4 portions (portion)\n\n## Ingredients\n\n- 200 g plain flour\n- 50 g butter\n\n## Method\n\n### 1. Mix {#mix}\n\n_mix, 5 min_\n\nMix it.\n"
	json := `{"@context": "https://schema.org", "@type": "Recipe", "name": "Bake", "recipeIngredient": ["200 g plain flour"], "recipeInstructions": "Mix it."}`
	for _, whole := range []string{markdown, json, strings.ReplaceAll(markdown, "\n", "\r\n"), "\ufeff" + markdown} {
		for n := range len(whole) {
			f, err := recipefile.Parse([]byte(whole[:n]), measure.Metric, pantry.Stock())
			if err != nil {
				assert.NotEmpty(t, err.Error())
				continue
			}
			for _, found := range f.Recipes {
				for _, i := range found.Recipe.Ingredients {
					assert.Contains(t, []string{"0", "2", "20", "200", "5", "50"}, i.Amount.String(), "cut at %d", n)
				}
			}
		}
	}
}

// Windows' line ends, a byte order mark, tabs and no last line end change
// nothing.
func TestTheSameFileOtherwiseWritten(t *testing.T) {
	text := "Scones\nServes 4\n\nIngredients\n225 g self-raising flour\n50 g butter\n150 ml milk\n\nMethod\n1. Rub in.\n2. Bake for 12 minutes.\n"
	parse := func(s string) recipe.Recipe {
		f, err := recipefile.Parse([]byte(s), measure.Metric, pantry.Stock())
		require.NoError(t, err)
		return f.Recipes[0].Recipe
	}
	want := parse(text)
	require.Len(t, want.Ingredients, 3)
	require.Len(t, want.Steps, 2)
	for name, s := range map[string]string{
		"line ends":    strings.ReplaceAll(text, "\n", "\r\n"),
		"old Mac":      strings.ReplaceAll(text, "\n", "\r"),
		"mark":         "\ufeff" + text,
		"no end":       strings.TrimSpace(text),
		"blank lines":  "\n\n" + strings.ReplaceAll(text, "\n\n", "\n\n\n\n") + "\n\n",
		"hard spaces":  strings.ReplaceAll(text, " g ", "\u00a0g "),
		"trailing":     strings.ReplaceAll(text, "\n", "  \n"),
		"bullets":      strings.NewReplacer("225", "• 225", "50 g", "– 50 g", "150 ml", "* 150 ml").Replace(text),
		"upper case":   strings.NewReplacer("Ingredients", "INGREDIENTS", "Method", "METHOD:").Replace(text),
		"other method": strings.NewReplacer("1. Rub", "1) Rub", "2. Bake", "2) Bake").Replace(text),
	} {
		assert.Equal(t, want, parse(s), name)
	}
}
