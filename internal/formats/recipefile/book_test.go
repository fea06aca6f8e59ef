package recipefile_test

import (
	"bytes"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"github.com/xuri/excelize/v2"

	"freshapron/internal/core/measure"
	"freshapron/internal/core/pantry"
	"freshapron/internal/formats/recipefile"
)

// A recipe in a workbook is its rows; where an empty column parts the list from the method, one comes behind
// the other.
func TestWorkbooks(t *testing.T) {
	for says, rows := range map[string][][]any{
		"below":  {{"Leek crumble"}, {"Serves", 2}, {}, {"Ingredient", "Quantity", "Unit"}, {"leeks", 2}, {"oats", 100, "g"}, {"butter", 50, "g"}, {"Method"}, {1, "Slice the leeks."}, {2, "Rub in the butter and oats."}, {3, "Bake at 180°C for 25 minutes."}},
		"beside": {{"Leek crumble"}, {"Serves 2"}, {"Ingredients", "", "", "Method"}, {2, "leeks", "", "1. Slice the leeks."}, {"100g", "oats", "", "2. Rub in the butter and oats."}, {"50g", "butter", "", "3. Bake at 180°C for 25 minutes."}},
		"spaced": {{"Leek crumble"}, {"Serves 2"}, {"2", "", "leeks"}, {"100g", "", "oats"}, {"50g", "", "butter"}, {"Slice the leeks."}, {"Rub in the butter and oats."}, {"Bake at 180°C for 25 minutes."}},
	} {
		f := excelize.NewFile()
		for n, cells := range rows {
			cell, err := excelize.CoordinatesToCellName(1, n+1)
			require.NoError(t, err)
			require.NoError(t, f.SetSheetRow("Sheet1", cell, &cells))
		}
		var b bytes.Buffer
		require.NoError(t, f.Write(&b))
		read, err := recipefile.Parse(b.Bytes(), measure.Metric, pantry.Stock())
		require.NoError(t, err, says)
		require.Len(t, read.Recipes, 1, says)
		r := read.Recipes[0].Recipe
		assert.Equal(t, "Leek crumble", r.Title, says)
		assert.Equal(t, 2, r.Yield, says)
		var items, steps []string
		for _, i := range r.Ingredients {
			items = append(items, i.Pantry)
		}
		for _, s := range r.Steps {
			steps = append(steps, string(s.Kind))
		}
		assert.Equal(t, []string{"leek", "oats", "butter"}, items, says)
		assert.Equal(t, []string{"cut", "mix", "bake"}, steps, says)
	}
	_, err := recipefile.Text([]byte("PK\x03\x04"))
	assert.ErrorContains(t, err, "the file is damaged")
}
