package recipefile_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"freshapron/internal/core/measure"
	"freshapron/internal/core/pantry"
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

func TestWhatIsNoRecipe(t *testing.T) {
	for text, says := range map[string]string{
		"":                        "$: the file is empty",
		"  \n ":                   "$: the file is empty",
		"\xff\xfe\x00x":           "$: the file is no text in UTF-8",
		"a\x00b":                  "$: the file is no text",
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
