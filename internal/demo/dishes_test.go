package demo_test

import (
	"bytes"
	"os"
	"path/filepath"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"freshapron/internal/core/measure"
	"freshapron/internal/core/pantry"
	"freshapron/internal/core/recipe"
	"freshapron/internal/demo"
	"freshapron/internal/formats/recipetext"
)

// A teacher could use them tomorrow: everything in the files is understood,
// and the check has nothing to say.
func TestDishesAreInOrder(t *testing.T) {
	require.Len(t, demo.Dishes(), 14)
	paths, err := filepath.Glob("dishes/*.md")
	require.NoError(t, err)
	for _, path := range paths {
		data, err := os.ReadFile(path)
		require.NoError(t, err)
		read := recipetext.Read(string(data), measure.Metric, pantry.Stock())
		assert.Empty(t, read.Notes, path)
		r := read.Recipe
		require.NoError(t, r.Problems(), path)
		for _, f := range recipe.Check(r, pantry.Stock()) {
			assert.Fail(t, "finding", "%s: %s at %s: %s", path, f.Rule, f.Where, f.Says)
		}
		assert.NotEmpty(t, r.Why, path)
		assert.NotEmpty(t, r.Swaps, path)
		assert.True(t, slices.ContainsFunc(r.Questions, func(q recipe.Question) bool { return q.Spot }), "%s: a mistake to spot", path)
	}
}

// What is written is read back as the same recipe.
func TestMarkdownThereAndBack(t *testing.T) {
	for _, r := range append(demo.Dishes(), demo.Drafts()...) {
		var b bytes.Buffer
		require.NoError(t, recipetext.Write(&b, r, pantry.Stock()))
		back := recipetext.Read(b.String(), measure.Metric, pantry.Stock()).Recipe
		back.ID = r.ID
		for i := range r.Ingredients {
			assert.Equal(t, r.Ingredients[i], back.Ingredients[i], r.ID)
		}
		for i := range r.Steps {
			assert.Equal(t, r.Steps[i], back.Steps[i], r.ID)
		}
		r.Ingredients, back.Ingredients, r.Steps, back.Steps = nil, nil, nil, nil
		assert.Equal(t, r, back, r.ID)
	}
}

// The two drafts show most of what the check catches.
func TestDraftsAreFullOfMistakes(t *testing.T) {
	rules := map[string]bool{}
	for _, r := range demo.Drafts() {
		findings := recipe.Check(r, pantry.Stock())
		assert.GreaterOrEqual(t, len(findings), 10, r.Title)
		for _, f := range findings {
			rules[f.Rule] = true
		}
	}
	assert.GreaterOrEqual(t, len(rules), 16, "%v", rules)
}
