package taste_test

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"freshapron/internal/core/taste"
)

func TestSpreads(t *testing.T) {
	assert.Equal(t, taste.Spread{}, taste.SpreadOf(nil))
	assert.Equal(t, taste.Spread{N: 1, Mean: 4}, taste.SpreadOf([]int{4}))
	s := taste.SpreadOf([]int{1, 2, 3, 4, 5})
	assert.Equal(t, 3.0, s.Mean)
	assert.InDelta(t, 1.5811, s.SD, 1e-4, "the square root of 2.5")
}

// What to reach for, with a first amount for the batch; nothing where nothing is known.
func TestBalance(t *testing.T) {
	assert.Equal(t, "not salty enough: salt, a little at a time; begin with about 2 g. Taste again with a clean spoon", taste.Balance("salty", false, 800))
	assert.Contains(t, taste.Balance("salty", true, 0), "a little of lemon juice")
	assert.Contains(t, taste.Balance("salty", false, 10), "about 1 g", "less can't be weighed")
	assert.NotContains(t, taste.Balance("greasy", true, 500), "%")
	assert.Empty(t, taste.Balance("golden", true, 500))
	assert.Empty(t, taste.Balance("bitter", false, 500), "nobody adds bitterness")
	senses := map[string]bool{}
	for _, w := range taste.Vocabulary {
		senses[w.Sense] = true
		assert.Positive(t, w.From, w.Word)
	}
	assert.Len(t, senses, 5)
}
