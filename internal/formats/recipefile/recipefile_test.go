package recipefile_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"freshapron/internal/core/measure"
	"freshapron/internal/core/pantry"
	"freshapron/internal/formats/document/documenttest"
	"freshapron/internal/formats/recipefile"
)

func TestKinds(t *testing.T) {
	for text, kind := range map[string]string{
		`{"@type": "Recipe", "name": "x"}`:                                             "schema.org JSON-LD",
		`<script type="application/ld+json">{"@type": "Recipe", "name": "x"}</script>`: "schema.org JSON-LD",
		`{"id": "d", "steps": [{"id": "a", "work_minutes": 5}]}`:                       "dish of a lesson file",
		"\xef\xbb\xbf200 g flour\n2 eggs":                                              "text",
		"# Title\n\n## Ingredients\n- 1 egg\n":                                         "text",
	} {
		f, err := recipefile.Read(strings.NewReader(text), measure.Metric, pantry.Stock())
		require.NoError(t, err, text)
		assert.Equal(t, kind, f.Kind, text)
		assert.Len(t, f.Recipes, 1)
	}
}

// A recipe comes as a document of a word processor too: its list in one column, its method in the other.
func TestDocument(t *testing.T) {
	data := documenttest.Word(documenttest.Paragraph(`<w:pStyle w:val="Title"/>`, "Leek tart")+"<w:tbl>"+
		documenttest.Row(documenttest.Cell("Ingredients"), documenttest.Cell("Method"))+
		documenttest.Row(documenttest.Cell("1 sheet puff pastry", "2 leeks", "100 ml cream"), documenttest.Cell("Slice the leeks.", "Fry them for 8 minutes.", "Spread on the pastry and bake at 200 °C for 20 minutes."))+"</w:tbl>", "")
	f, err := recipefile.Recognise(data, measure.Metric, pantry.Stock())
	require.NoError(t, err)
	require.Len(t, f.Recipes, 1)
	r := f.Recipes[0].Recipe
	assert.Equal(t, "Leek tart", r.Title)
	assert.Len(t, r.Ingredients, 3)
	assert.Len(t, r.Steps, 4)
	assert.Empty(t, r.Leftover)
}

// Each dish of a text is a recipe; what stands above the first is kept with it.
func TestSeveralDishes(t *testing.T) {
	f, err := recipefile.Parse([]byte("Autumn booklet\n\nOat bars\n200 g oats\n100 g butter\nMelt the butter and stir in the oats.\n\nPear salad\n2 pears\n50 g walnuts\nSlice the pears and scatter with the walnuts."), measure.Metric, pantry.Stock())
	require.NoError(t, err)
	require.Len(t, f.Recipes, 2)
	assert.Equal(t, "Oat bars", f.Recipes[0].Recipe.Title)
	assert.Equal(t, []string{"Autumn booklet"}, f.Recipes[0].Recipe.Leftover)
	assert.Equal(t, "Pear salad", f.Recipes[1].Recipe.Title)
	assert.Len(t, f.Recipes[1].Recipe.Ingredients, 2)
}

func TestWhatIsNoRecipe(t *testing.T) {
	for text, says := range map[string]string{
		"":                        "$: the file is empty",
		"  \n ":                   "$: the file is empty",
		"a\x00b":                  "$: the file holds no text",
		"%PDF-1.7":                "$: this is a PDF, whose text can't be read: open it, copy the text and paste it",
		`{"a": 1}`:                `$: is neither a schema.org Recipe ("@type": "Recipe") nor a dish of a lesson file ("id" and "steps")`,
		`[1, 2]`:                  `$: is neither a schema.org Recipe ("@type": "Recipe") nor a dish of a lesson file ("id" and "steps")`,
		`{`:                       "$: is not JSON",
		`<p>hello</p>`:            "$: there is no schema.org Recipe in the page",
		`{"id": "d", "steps": 5}`: "steps: is a number; it must be a list",
		"Hello":                   "$: no line in it can be read as an ingredient or a step",
	} {
		_, err := recipefile.Read(strings.NewReader(text), measure.Metric, pantry.Stock())
		assert.ErrorContains(t, err, says, "%q", text)
	}
	_, err := recipefile.Parse(make([]byte, recipefile.MaxBytes+1), measure.Metric, pantry.Stock())
	assert.ErrorContains(t, err, "the file is over 16 MB")
}
