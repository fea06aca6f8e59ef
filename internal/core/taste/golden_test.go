package taste_test

import (
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"

	"freshapron/internal/core/taste"
	"freshapron/internal/golden"
)

// The words with the ages from which they are offered, what helps a kilogram that has too
// much or too little of each, and how many tasters notice: any change is looked at.
func TestWhatIsOffered(t *testing.T) {
	var b strings.Builder
	for _, w := range taste.Vocabulary {
		fmt.Fprintf(&b, "%s (%s) from %d, usual %t\n", w.Word, w.Sense, w.From, w.Usual)
		for _, much := range []bool{true, false} {
			if says := taste.Balance(w.Word, much, 1000); says != "" {
				fmt.Fprintf(&b, "  of 1000 g: %s\n  of what is not known: %s\n  of 10 g: %s\n", says, taste.Balance(w.Word, much, 0), taste.Balance(w.Word, much, 10))
			}
		}
	}
	for _, test := range taste.Tests {
		for _, share := range []float64{0.2, 0.5, 0.9} {
			fmt.Fprintf(&b, "%s, %g tell: %d\n", test, share, taste.Needed(test, share, 0.8))
		}
	}
	for _, ranks := range [][][]int{
		{{1, 2}, {1, 2}, {2, 1}}, {{1, 2, 3, 4, 5}, {1, 2, 3, 5, 4}}, {{1, 2, 3, 4, 5, 6}, {1, 2, 3, 5, 4, 6}},
		many(16, 4), many(17, 4), many(60, 3), many(61, 3), many(8, 5), many(9, 5), many(400, 2), many(401, 2),
	} {
		statistic, p, exact := taste.Friedman(ranks)
		fmt.Fprintf(&b, "%d of %d: %.4f %.6g %t\n", len(ranks), len(ranks[0]), statistic, p, exact)
	}
	golden.Same(t, "offered.golden", b.String())
}

// many are rankings that turn round every third time.
func many(tasters, samples int) (out [][]int) {
	for n := range tasters {
		var r []int
		for k := range samples {
			r = append(r, k+1)
		}
		if n%3 == 0 {
			r[0], r[samples-1] = r[samples-1], r[0]
		}
		out = append(out, r)
	}
	return out
}

// Half a mark away is off where tasters agree, and more than their error where they don't.
func TestHowFarOff(t *testing.T) {
	for _, c := range []struct {
		marks     []int
		meant     int
		off, much bool
	}{
		{[]int{3, 4}, 3, true, true}, {[]int{3, 3, 4}, 3, false, true}, {[]int{2, 3}, 3, true, false}, {[]int{3}, 3, false, false},
		{[]int{1, 5}, 3, false, false}, {[]int{1, 5}, 1, true, true}, {[]int{1, 5, 5}, 3, false, true}, {nil, 3, false, false}, {[]int{5}, 0, false, false},
	} {
		off, much := taste.SpreadOf(c.marks).Off(c.meant)
		assert.Equal(t, c.off, off, "%v meant %d", c.marks, c.meant)
		assert.Equal(t, c.much, much, "%v meant %d", c.marks, c.meant)
	}
}
