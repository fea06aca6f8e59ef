package jsonld_test

import (
	"bytes"
	"encoding/json"
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"freshapron/internal/core/fit"
	"freshapron/internal/core/measure"
	"freshapron/internal/core/pantry"
	"freshapron/internal/formats/jsonld"
)

func read(t *testing.T, text string) []jsonld.Found {
	t.Helper()
	found, err := jsonld.Read([]byte(text), measure.Metric, pantry.Stock())
	require.NoError(t, err)
	return found
}

const bake = `{
  "@context": "https://schema.org", "@type": ["Thing", "Recipe"], "name": "Leek &amp; potato bake", "description": "<p>A <b>test</b>.</p>",
  "recipeYield": ["4", "4 servings"], "totalTime": "PT1H10M", "author": {"@type": "Person", "name": "A. Cook"}, "url": "https://recipes.example/bake",
  "recipeIngredient": ["For the base:", "500g potatoes", "2 leeks", "For the top:", "30 g Cheddar", "some love"],
  "recipeInstructions": [
    {"@type": "HowToSection", "name": "Base", "itemListElement": [
      {"@type": "HowToStep", "text": "Preheat the oven to 200&deg;C/180&deg;C fan/gas 6."},
      {"@type": "HowToStep", "name": "Slice", "text": "Slice the potatoes and leeks thinly."}]},
    {"@type": "HowToStep", "text": "Bake for 45 minutes until golden."}],
  "tool": [{"@type": "HowToTool", "name": "oven dish"}], "recipeCuisine": "British", "nutrition": {"calories": "300"}, "image": "x.png"}`

func ExampleMinutes() {
	n, ok := jsonld.Minutes("PT1H30M")
	fmt.Println(n, ok)
	// Output: 90 true
}

func TestRecipe(t *testing.T) {
	r := read(t, bake)[0].Recipe
	assert.Equal(t, "Leek & potato bake", r.Title)
	assert.Equal(t, "A test .", r.Why)
	assert.Equal(t, 4, r.Yield)
	assert.Equal(t, 70, r.Minutes)
	assert.Equal(t, []string{"oven dish"}, r.Equipment)
	assert.Equal(t, "A. Cook, https://recipes.example/bake", r.Source)
	require.Len(t, r.Ingredients, 4)
	assert.Equal(t, "For the base", r.Ingredients[1].Part)
	assert.Equal(t, "For the top", r.Ingredients[2].Part)
	require.Len(t, r.Steps, 3)
	assert.Equal(t, "Slice", r.Steps[1].Title)
	assert.Equal(t, fit.Bake, r.Steps[2].Kind)
	assert.Equal(t, "45", r.Steps[2].Wait.String())
	assert.Equal(t, "200", r.Steps[2].Uses[0].Temperature.String())
	assert.Equal(t, []string{`nutrition: {"calories":"300"}`, "recipeCuisine: British"}, r.Leftover, "kept, not dropped")
}

func TestWhereRecipesStand(t *testing.T) {
	assert.Len(t, read(t, "["+bake+","+bake+"]"), 2, "a list")
	assert.Len(t, read(t, `{"@context": "https://schema.org", "@graph": [{"@type": "WebPage"}, `+bake+`]}`), 1, "a graph")
	page := `<!doctype html><html><head><script>alert(1)</script><script type="application/ld+json">` + bake + `</script></head><body>Hello</body></html>`
	assert.Len(t, read(t, page), 1, "a saved page")
	_, err := jsonld.Read([]byte("<html><p>no recipe</p></html>"), measure.Metric, pantry.Stock())
	assert.ErrorIs(t, err, jsonld.ErrNone)
	_, err = jsonld.Read([]byte(`{"@type": "Recipe",`), measure.Metric, pantry.Stock())
	assert.ErrorContains(t, err, "is not JSON")
	_, err = jsonld.Read([]byte(`<script type="application/ld+json">{]</script>`), measure.Metric, pantry.Stock())
	assert.ErrorContains(t, err, "script[0]: is not JSON")
}

func TestWrongTypesAreNamed(t *testing.T) {
	f := read(t, `{"@type": "Recipe", "name": 5, "recipeYield": {"a": 1}, "recipeIngredient": [1, "2 eggs", null], "recipeInstructions": 7, "totalTime": "soon"}`)[0]
	assert.Equal(t, "5", f.Recipe.Title)
	require.Len(t, f.Recipe.Ingredients, 1)
	var says []string
	for _, p := range f.Problems {
		says = append(says, p.Error())
	}
	assert.Equal(t, []string{
		"name: is a number; it is taken as the text 5",
		"recipeYield: is an object; it must be a list of texts",
		"recipeIngredient[0]: is a number; it must be a text",
		"recipeIngredient[2]: is null; it must be a text",
		"recipeInstructions: is a number; it must be a text or a HowToStep",
		`totalTime: "soon" is no duration such as PT45M`,
	}, says)
}

func TestInstructionsAsOneText(t *testing.T) {
	f := read(t, `{"@type": "Recipe", "name": "x", "recipeInstructions": "Wash your hands.<br>Mix the flour and the butter until it looks like crumbs.<br/>Bake for 20 minutes."}`)[0]
	assert.Len(t, f.Recipe.Steps, 3)
	long := strings.Repeat("Stir the sauce slowly with a wooden spoon until it is quite smooth and thick. ", 6)
	f = read(t, `{"@type": "Recipe", "name": "x", "recipeInstructions": "`+long+`"}`)[0]
	assert.Len(t, f.Recipe.Steps, 3, "a text without lines is parted at its sentences, two to a step")
}

func TestScriptsStayText(t *testing.T) {
	f := read(t, `{"@type": "Recipe", "name": "<script>alert(1)</script>", "recipeIngredient": ["100 g <img src=x onerror=alert(1)> flour"]}`)[0]
	assert.Equal(t, "<script>alert(1)</script>", f.Recipe.Title, "shown as it is, by templates that escape it")
}

// What is written is read as the same ingredients and steps.
func TestThereAndBack(t *testing.T) {
	r := read(t, bake)[0].Recipe
	var b bytes.Buffer
	require.NoError(t, jsonld.Write(&b, r))
	assert.True(t, json.Valid(b.Bytes()))
	back := read(t, b.String())[0].Recipe
	assert.Equal(t, r.Title, back.Title)
	assert.Equal(t, r.Yield, back.Yield)
	assert.Equal(t, r.Ingredients, back.Ingredients)
	require.Len(t, back.Steps, len(r.Steps))
	for i := range r.Steps {
		assert.Equal(t, r.Steps[i].Title, back.Steps[i].Title)
		assert.Equal(t, r.Steps[i].Text, back.Steps[i].Text)
		assert.Zero(t, r.Steps[i].Wait.Cmp(back.Steps[i].Wait))
	}
}

func TestDurations(t *testing.T) {
	for text, want := range map[string]string{"PT45M": "45", "PT1H": "60", "P0DT1H5M": "65", "P1D": "1440", "PT30S": "1/2", "pt20m": "20"} {
		n, ok := jsonld.Minutes(text)
		assert.True(t, ok, text)
		assert.Equal(t, want, n.String(), text)
	}
	for _, text := range []string{"", "45", "PT", "P", "an hour"} {
		_, ok := jsonld.Minutes(text)
		assert.False(t, ok, text)
	}
}

func FuzzRead(f *testing.F) {
	f.Add(bake)
	f.Add(`[{"@type":"Recipe","recipeIngredient":"1 egg"}]`)
	f.Add(`<script type="application/ld+json">{"@type":"Recipe"}</script>`)
	f.Fuzz(func(_ *testing.T, text string) {
		found, err := jsonld.Read([]byte(text), measure.Metric, pantry.Stock())
		if err == nil && len(found) == 0 {
			panic("neither a recipe nor an error")
		}
	})
}

// A recipe with more parts than anybody cooks is read up to its most, and says so.
func TestMorePartsThanAreRead(t *testing.T) {
	many := strings.TrimSuffix(strings.Repeat(`"100 g flour",`, 450), ",")
	steps := strings.TrimSuffix(strings.Repeat(`"Mix it.",`, 450), ",")
	found, err := jsonld.Read([]byte(`{"@type": "Recipe", "name": "x", "recipeIngredient": [`+many+`], "recipeInstructions": [`+steps+`]}`), measure.System{}, pantry.Stock())
	require.NoError(t, err)
	assert.Len(t, found[0].Recipe.Ingredients, 400)
	assert.Contains(t, fmt.Sprint(found[0].Problems), "from number 401 on they are left out")
	assert.Len(t, found[0].Problems, 2)
}

// What is asked about the file's words, and a field that is not as it should be, stand beside what was not understood.
func TestWhatIsAskedIsKept(t *testing.T) {
	found, err := jsonld.Read([]byte(`{"@type": "Recipe", "name": "Seeded loaf", "recipeYield": "1 loaf (about 12 slices of bread, more or less)", "tool": 5, "recipeIngredient": ["500 g strong flour"], "recipeInstructions": ["Bake for 30 minutes."]}`), measure.Metric, pantry.Stock())
	require.NoError(t, err)
	require.Len(t, found, 1)
	assert.Contains(t, found[0].Recipe.Leftover, "“Bake”: how hot the oven is.")
	assert.Contains(t, strings.Join(found[0].Recipe.Leftover, "\n"), "tool: ")
	assert.Subset(t, found[0].Notes, []string{"“Bake”: how hot the oven is."})
}
