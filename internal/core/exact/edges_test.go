package exact_test

import (
	"math"
	"math/big"
	"testing"

	"github.com/stretchr/testify/assert"

	"freshapron/internal/core/exact"
)

// At and around the numbers where the small form gives way to the large one,
// everything is as with whole fractions of any size.
func TestAtTheEdgesOfTheSmallForm(t *testing.T) {
	var parts []int64
	for _, edge := range []int64{0, 1, 2, 3, 1 << 15, 1 << 30, math.MaxInt32, 1 << 31, 1 << 32, 1 << 61, 1 << 62, math.MaxInt64} {
		for _, by := range []int64{-1, 0, 1} {
			if by > 0 && edge == math.MaxInt64 {
				continue
			}
			parts = append(parts, edge+by, -(edge + by))
		}
	}
	type both struct {
		n   exact.Number
		rat *big.Rat
	}
	var numbers []both
	for _, a := range parts {
		for _, d := range []int64{1, 2, 3, 1 << 20, math.MaxInt32, 1 << 31, math.MaxInt64} {
			numbers = append(numbers, both{exact.Frac(a, d), big.NewRat(a, d)})
		}
	}
	same := func(what string, n exact.Number, rat *big.Rat) {
		if n.String() != rat.RatString() {
			t.Fatalf("%s: %s, not %s", what, n, rat.RatString())
		}
	}
	for i, x := range numbers {
		same("itself", x.n, x.rat)
		assert.Equal(t, x.rat.Sign(), x.n.Sign())
		assert.Equal(t, x.rat.IsInt(), x.n.IsInt())
		same("abs", x.n.Abs(), new(big.Rat).Abs(x.rat))
		f, _ := x.rat.Float64()
		assert.Equal(t, f, x.n.Float())
		floor := new(big.Int).Div(x.rat.Num(), x.rat.Denom()) // rounds down, since the denominator is positive
		if floor.IsInt64() {
			assert.Equal(t, floor.Int64(), x.n.Floor())
		}
		for k := i % 7; k < len(numbers); k += 7 {
			y := numbers[k]
			same("add", x.n.Add(y.n), new(big.Rat).Add(x.rat, y.rat))
			same("sub", x.n.Sub(y.n), new(big.Rat).Sub(x.rat, y.rat))
			same("mul", x.n.Mul(y.n), new(big.Rat).Mul(x.rat, y.rat))
			if y.rat.Sign() != 0 {
				same("div", x.n.Div(y.n), new(big.Rat).Quo(x.rat, y.rat))
			}
			if x.n.Cmp(y.n) != x.rat.Cmp(y.rat) {
				t.Fatalf("%s and %s", x.n, y.n)
			}
			assert.Equal(t, x.rat.Cmp(y.rat) < 0, x.n.Less(y.n))
		}
	}
}
