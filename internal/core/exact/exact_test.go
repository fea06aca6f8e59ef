package exact_test

import (
	"fmt"
	"math"
	"math/big"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"freshapron/internal/core/exact"
)

func ExampleNumber() {
	third := exact.Frac(1, 3)
	fmt.Println(third, third.Decimal(2), third.Add(third).Add(third))
	// Output: 1/3 0.33 1
}

func TestParse(t *testing.T) {
	for in, want := range map[string]string{
		"12": "12", "-0.5": "-1/2", "1.5e2": "150", "3/4": "3/4", "0.1": "1/10",
	} {
		n, err := exact.Parse(in)
		require.NoError(t, err, in)
		assert.Equal(t, want, n.String(), in)
	}
}

func TestParseRefuses(t *testing.T) {
	for _, in := range []string{"", "x", "1e999999999", "1/0", "0x10", "1_000", "NaN", "Inf",
		"11111111111111111111111111111111111111111111"} {
		_, err := exact.Parse(in)
		assert.Error(t, err, in)
	}
}

func TestRounding(t *testing.T) {
	for _, c := range []struct {
		in                 exact.Number
		floor, ceil, round int64
	}{
		{exact.Frac(5, 2), 2, 3, 3},
		{exact.Frac(-5, 2), -3, -2, -3},
		{exact.Frac(7, 3), 2, 3, 2},
		{exact.Int(4), 4, 4, 4},
		{exact.Number{}, 0, 0, 0},
	} {
		assert.Equal(t, c.floor, c.in.Floor(), "floor %s", c.in)
		assert.Equal(t, c.ceil, c.in.Ceil(), "ceil %s", c.in)
		assert.Equal(t, c.round, c.in.Round(), "round %s", c.in)
	}
	assert.Equal(t, "75/2", exact.Int(38).RoundTo(exact.Frac(5, 2)).String())
}

func TestThereAndBack(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		a := exact.Frac(rapid.Int64Range(-1e6, 1e6).Draw(t, "a"), rapid.Int64Range(1, 1000).Draw(t, "b"))
		k := exact.Frac(rapid.Int64Range(1, 1e4).Draw(t, "k"), rapid.Int64Range(1, 1000).Draw(t, "l"))
		assert.Zero(t, a.Cmp(a.Mul(k).Div(k)))
		assert.Zero(t, a.Cmp(a.Add(k).Sub(k)))
		back, err := exact.Parse(a.String())
		require.NoError(t, err)
		assert.Zero(t, a.Cmp(back))
		assert.LessOrEqual(t, exact.Int(a.Floor()).Cmp(a), 0)
		assert.GreaterOrEqual(t, exact.Int(a.Ceil()).Cmp(a), 0)
	})
}

// Small numbers are kept in two words, large ones not; both are the same
// arithmetic.
func TestAgreesWithBigRationals(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		num, den := rapid.Int64Range(-math.MaxInt64, math.MaxInt64), rapid.Int64Range(1, math.MaxInt64)
		a, b, c, d := num.Draw(t, "a"), den.Draw(t, "b"), num.Draw(t, "c"), den.Draw(t, "d")
		if rapid.Bool().Draw(t, "near the edge") {
			a, b = a>>32, b>>32|1
		}
		n, m := exact.Frac(a, b), exact.Frac(c, d)
		x, y := big.NewRat(a, b), big.NewRat(c, d)
		assert.Equal(t, new(big.Rat).Add(x, y).RatString(), n.Add(m).String())
		assert.Equal(t, new(big.Rat).Sub(x, y).RatString(), n.Sub(m).String())
		assert.Equal(t, new(big.Rat).Mul(x, y).RatString(), n.Mul(m).String())
		assert.Equal(t, x.Cmp(y), n.Cmp(m))
		assert.Equal(t, x.Sign(), n.Sign())
		if c != 0 {
			assert.Equal(t, new(big.Rat).Quo(x, y).RatString(), n.Div(m).String())
		}
		assert.Equal(t, n, n.Add(m).Sub(m), "equal numbers are equal values")
	})
}
