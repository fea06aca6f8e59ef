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

// A sample is off where it is further from what was meant than half a mark, and than
// chance; by hand: five marks of 1 to 5 have a mean of 3 and a standard error of 0.707.
func TestOff(t *testing.T) {
	all := taste.SpreadOf([]int{1, 2, 3, 4, 5})
	for meant, want := range map[int][2]bool{0: {}, 1: {true, true}, 2: {true, true}, 3: {}, 4: {true, false}, 5: {true, false}} {
		off, much := all.Off(meant)
		assert.Equal(t, want, [2]bool{off, off && much}, meant)
	}
	wide := taste.SpreadOf([]int{1, 5}) // a standard error of 2
	off, _ := wide.Off(2)
	assert.False(t, off, "one mark away may be chance")
	near := taste.SpreadOf([]int{3, 3, 4, 3, 3})
	off, _ = near.Off(3)
	assert.False(t, off, "0.2 of a mark is nothing")
	off, _ = taste.Spread{}.Off(3)
	assert.False(t, off, "nobody has tasted")
}

// What to reach for, with a first amount for the batch; nothing where nothing is known.
func TestBalance(t *testing.T) {
	assert.Equal(t, "not salty enough: salt, a little at a time; begin with about 2 g. Taste again with a clean spoon", taste.Balance("salty", false, 800))
	assert.Contains(t, taste.Balance("salty", true, 0), "begin with a little lemon juice")
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
