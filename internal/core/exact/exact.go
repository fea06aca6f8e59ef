// Package exact provides rational numbers as plain values.
//
// Kitchen arithmetic divides by three all day. A Number stays exact through
// it, so that a third of a cup taken three times is a cup and a plan does not
// depend on the order in which its minutes were added.
package exact

import (
	"cmp"
	"errors"
	"fmt"
	"math"
	"math/big"
	"strings"
)

// A Number is an exact rational number. The zero value is 0. Numbers are
// immutable; every operation returns a new one, always in lowest terms, so
// that equal numbers are equal values unless they are too large for int64.
type Number struct {
	num, den int64    // in lowest terms, den over 0; both 0 is zero
	rat      *big.Rat // where set, the value instead: too large for num and den
}

// Int returns n as a Number.
func Int(n int64) Number { return small(n, 1) }

// Frac returns a/b. It panics when b is 0.
func Frac(a, b int64) Number {
	if b == 0 {
		panic("exact: division by zero")
	}
	if b < 0 || !fits(a) || !fits(b) {
		return of(big.NewRat(a, b))
	}
	return small(a, b)
}

// half is the bound under which products of two numbers do not overflow.
const half = 1 << 31

func fits(n int64) bool { return -half < n && n < half }

// small returns num/den in lowest terms; den is over 0.
func small(num, den int64) Number {
	if num == 0 {
		return Number{}
	}
	a, b := num, den
	if a < 0 {
		a = -a
	}
	for b != 0 {
		a, b = b, a%b
	}
	return Number{num: num / a, den: den / a}
}

// of returns a Number of a rational that nobody changes any more.
func of(r *big.Rat) Number {
	if r.Num().IsInt64() && r.Denom().IsInt64() {
		n, d := r.Num().Int64(), r.Denom().Int64()
		if n != math.MinInt64 {
			return small(n, d)
		}
	}
	return Number{rat: r}
}

// parts returns numerator and denominator where products of them are safe.
func (n Number) parts() (num, den int64, ok bool) {
	switch {
	case n.rat != nil:
		return 0, 0, false
	case n.den == 0:
		return 0, 1, true
	}
	return n.num, n.den, fits(n.num) && fits(n.den)
}

// maxDigits bounds the text that Parse takes. Amounts and minutes are short;
// without a bound a few bytes such as 1e999999999 would fill the memory.
const maxDigits = 40

var errNotNumber = errors.New("not a number")

// Parse reads a decimal number ("12", "-0.5", "1.5e2") or a fraction ("3/4").
// The text may have up to 40 characters and an exponent of up to two digits.
func Parse(s string) (Number, error) {
	if len(s) == 0 || len(s) > maxDigits {
		return Number{}, fmt.Errorf("%q: %w", abbreviate(s), errNotNumber)
	}
	if i := strings.IndexAny(s, "eE"); i >= 0 && len(strings.TrimLeft(s[i+1:], "+-")) > 2 {
		return Number{}, fmt.Errorf("%q: %w of a usable size", s, errNotNumber)
	}
	if strings.Trim(s, "0123456789+-./eE") != "" {
		return Number{}, fmt.Errorf("%q: %w", s, errNotNumber)
	}
	r, ok := new(big.Rat).SetString(s)
	if !ok {
		return Number{}, fmt.Errorf("%q: %w", s, errNotNumber)
	}
	return of(r), nil
}

// MustParse is Parse for constants in the code; it panics on bad text.
func MustParse(s string) Number {
	n, err := Parse(s)
	if err != nil {
		panic(err)
	}
	return n
}

func abbreviate(s string) string {
	if len(s) > maxDigits {
		return s[:maxDigits] + "…"
	}
	return s
}

func (n Number) value() *big.Rat {
	switch {
	case n.rat != nil:
		return n.rat
	case n.den == 0:
		return new(big.Rat)
	}
	return big.NewRat(n.num, n.den)
}

// Add returns n + m.
func (n Number) Add(m Number) Number {
	a, b, ok := n.parts()
	c, d, ok2 := m.parts()
	if ok && ok2 {
		return small(a*d+c*b, b*d)
	}
	return of(new(big.Rat).Add(n.value(), m.value()))
}

// Sub returns n − m.
func (n Number) Sub(m Number) Number { return n.Add(m.neg()) }

func (n Number) neg() Number {
	if n.rat != nil {
		return of(new(big.Rat).Neg(n.rat))
	}
	return Number{num: -n.num, den: n.den}
}

// Mul returns n · m.
func (n Number) Mul(m Number) Number {
	a, b, ok := n.parts()
	c, d, ok2 := m.parts()
	if ok && ok2 {
		return small(a*c, b*d)
	}
	return of(new(big.Rat).Mul(n.value(), m.value()))
}

// Div returns n / m. It panics when m is 0.
func (n Number) Div(m Number) Number {
	a, b, ok := n.parts()
	c, d, ok2 := m.parts()
	if ok && ok2 && c > 0 {
		return small(a*d, b*c)
	}
	return of(new(big.Rat).Quo(n.value(), m.value()))
}

// Abs returns the magnitude of n.
func (n Number) Abs() Number {
	if n.Sign() < 0 {
		return n.neg()
	}
	return n
}

// Cmp is negative, zero or positive as n is under, equal to or over m.
func (n Number) Cmp(m Number) int {
	a, b, ok := n.parts()
	c, d, ok2 := m.parts()
	if ok && ok2 {
		return cmp.Compare(a*d, c*b)
	}
	return n.value().Cmp(m.value())
}

// Less reports whether n < m.
func (n Number) Less(m Number) bool { return n.Cmp(m) < 0 }

// Sign is −1, 0 or 1 as n is negative, zero or positive.
func (n Number) Sign() int {
	if n.rat != nil {
		return n.rat.Sign()
	}
	return cmp.Compare(n.num, 0)
}

// IsInt reports whether n is a whole number.
func (n Number) IsInt() bool {
	if n.rat != nil {
		return n.rat.IsInt()
	}
	return n.den <= 1
}

// Float returns the nearest float64.
func (n Number) Float() float64 {
	if num, den, ok := n.parts(); ok {
		return float64(num) / float64(den)
	}
	f, _ := n.value().Float64()
	return f
}

// Floor returns the greatest whole number that is not over n.
func (n Number) Floor() int64 {
	if num, den, ok := n.parts(); ok {
		whole := num / den
		if num%den < 0 {
			whole--
		}
		return whole
	}
	r := n.value()
	// big.Int.Div is Euclidean: with a positive denominator it is the floor.
	return new(big.Int).Div(r.Num(), r.Denom()).Int64()
}

// Ceil returns the least whole number that is not under n.
func (n Number) Ceil() int64 { return -n.neg().Floor() }

// Round returns the nearest whole number, halves away from zero.
func (n Number) Round() int64 {
	point5 := Frac(1, 2)
	if n.Sign() < 0 {
		return n.Sub(point5).Ceil()
	}
	return n.Add(point5).Floor()
}

// RoundTo returns the multiple of step nearest to n. The step is over 0.
func (n Number) RoundTo(step Number) Number {
	return Int(n.Div(step).Round()).Mul(step)
}

// Ratio returns numerator and denominator in lowest terms, the denominator
// over 0. Both must fit an int64.
func (n Number) Ratio() (num, denom int64) {
	if n.rat == nil {
		return n.num, max(n.den, 1)
	}
	return n.rat.Num().Int64(), n.rat.Denom().Int64()
}

// Decimal prints n with at most the given number of decimals, rounded, and
// without zeros at the end.
func (n Number) Decimal(places int) string {
	s := n.value().FloatString(places)
	if strings.Contains(s, ".") {
		s = strings.TrimRight(strings.TrimRight(s, "0"), ".")
	}
	if s == "-0" {
		return "0"
	}
	return s
}

// Fixed prints n with exactly the given number of decimals, rounded.
func (n Number) Fixed(places int) string { return n.value().FloatString(places) }

// String prints n as a whole number or a fraction in lowest terms.
func (n Number) String() string { return n.value().RatString() }

// Mixed prints n, not under 0, as a whole number, a fraction, or both: "71 2/3".
func (n Number) Mixed() string {
	r := n.value()
	whole := of(new(big.Rat).SetInt(new(big.Int).Div(r.Num(), r.Denom())))
	switch rest := n.Sub(whole); {
	case rest.Sign() == 0:
		return whole.String()
	case whole.Sign() == 0:
		return rest.String()
	default:
		return whole.String() + " " + rest.String()
	}
}
