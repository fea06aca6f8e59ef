package taste_test

import (
	"math"
	"math/big"
	"testing"

	"github.com/stretchr/testify/assert"

	"freshapron/internal/core/taste"
)

// exactly sums the binomial in whole fractions.
func exactly(right, n int, num, den int64) float64 {
	p, q := big.NewRat(num, den), big.NewRat(den-num, den)
	sum := new(big.Rat)
	for i := right; i <= n; i++ {
		term := new(big.Rat).SetInt(new(big.Int).Binomial(int64(n), int64(i)))
		for range i {
			term.Mul(term, p)
		}
		for range n - i {
			term.Mul(term, q)
		}
		sum.Add(sum, term)
	}
	f, _ := sum.Float64()
	return f
}

func TestTellingApart(t *testing.T) {
	assert.InDelta(t, 0.0284, taste.Right(taste.Triangle, 13, 24), 5e-5)
	for n := range 41 {
		for right := range n + 1 {
			assert.InDelta(t, exactly(right, n, 1, 3), taste.Right(taste.Triangle, right, n), 1e-12)
			assert.InDelta(t, exactly(right, n, 1, 2), taste.Right(taste.DuoTrio, right, n), 1e-12)
			assert.InDelta(t, math.Min(1, 2*exactly(max(right, n-right), n, 1, 2)), taste.Preferred(right, n-right), 1e-12)
		}
	}
	assert.Equal(t, 1.0, taste.Preferred(5, 5))
	// Published tables of the fewest right answers at 5 in 100: triangle 24 tasters 13
	// (Roessler et al. 1978), duo-trio 20 tasters 15, paired 20 tasters 15.
	for test, c := range map[taste.Test][2]int{taste.Triangle: {24, 13}, taste.DuoTrio: {20, 15}} {
		assert.Less(t, taste.Right(test, c[1], c[0]), 0.05)
		assert.GreaterOrEqual(t, taste.Right(test, c[1]-1, c[0]), 0.05)
	}
	assert.Less(t, taste.Preferred(15, 5), 0.05)
	assert.Greater(t, taste.Preferred(14, 6), 0.05)
}

func TestTastersNeeded(t *testing.T) {
	for _, test := range []taste.Test{taste.Triangle, taste.DuoTrio, taste.Paired} {
		n := taste.Needed(test, 0.3, 0.8)
		assert.Greater(t, n, 5)
		assert.Less(t, taste.Needed(test, 0.6, 0.8), n, "a plainer difference takes fewer")
		assert.Greater(t, taste.Needed(test, 0.3, 0.95), n)
	}
	// By hand: with so many, the fewest that are no chance are reached often enough, and
	// with one fewer they are not.
	n := taste.Needed(taste.Triangle, 0.5, 0.9)
	power := func(n int) float64 {
		for right := range n + 1 {
			if exactly(right, n, 1, 3) < 0.05 {
				return exactly(right, n, 2, 3)
			}
		}
		return 0
	}
	assert.GreaterOrEqual(t, power(n), 0.9)
	for m := 1; m < n; m++ {
		assert.Less(t, power(m), 0.9)
	}
	assert.Zero(t, taste.Needed(taste.Paired, 0.001, 0.99), "more than anybody asks")
}

// Against published tables of Friedman's test: of 3 samples and 4 tasters 8.0 has p
// 0.0046, 6.5 has 0.042; of 4 samples and 3 tasters 9.0 has 0.0017, 7.4 has 0.033.
func TestFriedman(t *testing.T) {
	for _, c := range []struct {
		ranks   [][]int
		q, p, e float64
	}{
		{[][]int{{1, 2, 3}, {1, 2, 3}, {1, 2, 3}, {1, 2, 3}}, 8, 0.0046, 5e-5},
		{[][]int{{1, 2, 3}, {1, 2, 3}, {1, 2, 3}, {1, 3, 2}}, 6.5, 0.042, 5e-4},
		{[][]int{{1, 2, 3, 4}, {1, 2, 3, 4}, {1, 2, 3, 4}}, 9, 0.0017, 5e-5},
		{[][]int{{1, 2, 3, 4}, {1, 2, 3, 4}, {2, 1, 4, 3}}, 7.4, 0.033, 5e-4},
		{[][]int{{1, 2, 3}, {3, 1, 2}, {2, 3, 1}}, 0, 1, 1e-9},
	} {
		q, p, exact := taste.Friedman(c.ranks)
		assert.InDelta(t, c.q, q, 1e-9)
		assert.InDelta(t, c.p, p, c.e)
		assert.True(t, exact)
	}
	many := make([][]int, 90)
	for i := range many {
		many[i] = []int{1, 2, 3}
		if i%3 == 0 {
			many[i] = []int{2, 3, 1}
		}
	}
	_, p, exact := taste.Friedman(many)
	assert.False(t, exact)
	assert.Less(t, p, 0.01)
	eight := make([][]int, 8)
	for i := range eight {
		eight[i] = []int{1, 2, 3, 4}
	}
	_, p, exact = taste.Friedman(eight)
	assert.True(t, exact)
	assert.InDelta(t, math.Pow(1.0/24, 7), p, 1e-15, "of all ways only these")
}
