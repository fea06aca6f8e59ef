package exact_test

import (
	"fmt"
	"math"
	"math/big"
	"strings"
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

// What can be read has its ends, on both sides.
func TestHowLongANumberMayBe(t *testing.T) {
	for in, ok := range map[string]bool{
		strings.Repeat("1", 40): true, strings.Repeat("1", 41): false, "1e99": true, "1e100": false, "1E+99": true, "1e-99": true, "1e-100": false, "1e": false,
	} {
		_, err := exact.Parse(in)
		assert.Equal(t, ok, err == nil, in)
	}
	_, err := exact.Parse(strings.Repeat("1", 41))
	assert.ErrorContains(t, err, strings.Repeat("1", 40)+"…", "and is cut short in what is said of it")
	_, err = exact.Parse(strings.Repeat("x", 40))
	assert.NotContains(t, err.Error(), "…")
	assert.Panics(t, func() { exact.MustParse("x") })
	assert.NotPanics(t, func() { exact.MustParse("1/3") })
	assert.Panics(t, func() { exact.Frac(1, 0) })
	assert.Equal(t, "-1/2", exact.Frac(1, -2).String())
}

func TestSignsAndParts(t *testing.T) {
	for _, c := range []struct {
		n     string
		abs   string
		whole bool
		float float64
	}{
		{"-3/2", "3/2", false, -1.5}, {"0", "0", true, 0}, {"7", "7", true, 7}, {"-7", "7", true, -7}, {"1/3", "1/3", false, 1.0 / 3}, {"1e30", "1000000000000000000000000000000", true, 1e30},
	} {
		n := exact.MustParse(c.n)
		assert.Equal(t, c.abs, n.Abs().String())
		assert.Equal(t, c.whole, n.IsInt(), c.n)
		assert.InDelta(t, c.float, n.Float(), 1e-12*math.Abs(c.float), c.n)
		assert.False(t, n.Less(n), "%s is not under itself", c.n)
	}
	num, denom := exact.Number{}.Ratio()
	assert.Equal(t, []int64{0, 1}, []int64{num, denom})
	num, denom = exact.Frac(-6, 4).Ratio()
	assert.Equal(t, []int64{-3, 2}, []int64{num, denom})
	assert.Equal(t, "0", exact.Frac(-1, 1000).Decimal(2))
	assert.Equal(t, "-0.01", exact.Frac(-1, 100).Decimal(2))
	assert.Equal(t, "100", exact.Int(100).Decimal(0))
	assert.Equal(t, "2.50", exact.Frac(5, 2).Fixed(2))
	assert.Equal(t, int64(-1), exact.Frac(-1, 3).Floor())
	assert.Equal(t, int64(-2), exact.Int(-2).Floor())
}

// Whole numbers, parts and both, as people write them.
func TestMixed(t *testing.T) {
	for n, want := range map[string]string{"0": "0", "5": "5", "2/3": "2/3", "215/3": "71 2/3", "1.5": "1 1/2", "12345678901234567890.5": "12345678901234567890 1/2"} {
		assert.Equal(t, want, exact.MustParse(n).Mixed(), n)
	}
	num, denom := exact.Number{}.Ratio()
	assert.Equal(t, []int64{0, 1}, []int64{num, denom}, "nothing is nought over one")
}
