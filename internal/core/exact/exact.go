// Package exact provides rational numbers as plain values.
//
// Kitchen arithmetic divides by three all day. A Number stays exact through
// it, so that a third of a cup taken three times is a cup and a plan does not
// depend on the order in which its minutes were added.
package exact

import (
	"errors"
	"fmt"
	"math/big"
	"strings"
)

// A Number is an exact rational number. The zero value is 0. Numbers are
// immutable; every operation returns a new one.
type Number struct {
	rat *big.Rat // nil is zero; never changed once set
}

// Int returns n as a Number.
func Int(n int64) Number { return Number{big.NewRat(n, 1)} }

// Frac returns a/b. It panics when b is 0.
func Frac(a, b int64) Number { return Number{big.NewRat(a, b)} }

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
	return Number{r}, nil
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

var zero = new(big.Rat)

func (n Number) value() *big.Rat {
	if n.rat == nil {
		return zero
	}
	return n.rat
}

// Add returns n + m.
func (n Number) Add(m Number) Number { return Number{new(big.Rat).Add(n.value(), m.value())} }

// Sub returns n − m.
func (n Number) Sub(m Number) Number { return Number{new(big.Rat).Sub(n.value(), m.value())} }

// Mul returns n · m.
func (n Number) Mul(m Number) Number { return Number{new(big.Rat).Mul(n.value(), m.value())} }

// Div returns n / m. It panics when m is 0.
func (n Number) Div(m Number) Number { return Number{new(big.Rat).Quo(n.value(), m.value())} }

// Abs returns the magnitude of n.
func (n Number) Abs() Number { return Number{new(big.Rat).Abs(n.value())} }

// Cmp is negative, zero or positive as n is under, equal to or over m.
func (n Number) Cmp(m Number) int { return n.value().Cmp(m.value()) }

// Less reports whether n < m.
func (n Number) Less(m Number) bool { return n.Cmp(m) < 0 }

// Sign is −1, 0 or 1 as n is negative, zero or positive.
func (n Number) Sign() int { return n.value().Sign() }

// IsInt reports whether n is a whole number.
func (n Number) IsInt() bool { return n.value().IsInt() }

// Float returns the nearest float64.
func (n Number) Float() float64 {
	f, _ := n.value().Float64()
	return f
}

// Floor returns the greatest whole number that is not over n.
func (n Number) Floor() int64 {
	r := n.value()
	// big.Int.Div is Euclidean: with a positive denominator it is the floor.
	return new(big.Int).Div(r.Num(), r.Denom()).Int64()
}

// Ceil returns the least whole number that is not under n.
func (n Number) Ceil() int64 { return -Number{new(big.Rat).Neg(n.value())}.Floor() }

// Round returns the nearest whole number, halves away from zero.
func (n Number) Round() int64 {
	half := Frac(1, 2)
	if n.Sign() < 0 {
		return n.Sub(half).Ceil()
	}
	return n.Add(half).Floor()
}

// RoundTo returns the multiple of step nearest to n. The step is over 0.
func (n Number) RoundTo(step Number) Number {
	return Number{new(big.Rat).Mul(new(big.Rat).SetInt64(n.Div(step).Round()), step.value())}
}

// Ratio returns numerator and denominator in lowest terms, the denominator
// over 0. Both must fit an int64.
func (n Number) Ratio() (num, denom int64) {
	return n.value().Num().Int64(), n.value().Denom().Int64()
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

// String prints n as a whole number or a fraction in lowest terms.
func (n Number) String() string { return n.value().RatString() }
