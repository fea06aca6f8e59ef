// Package jsonout writes JSON for people to read as well: indented, and with
// exact numbers.
package jsonout

import (
	"encoding/json"
	"io"
	"math"
	"strconv"

	"freshapron/internal/core/exact"
)

// A Number is written whole, or with up to ten decimals.
type Number exact.Number

// MarshalJSON writes the number.
func (n Number) MarshalJSON() ([]byte, error) { return []byte(exact.Number(n).Decimal(10)), nil }

// A Rounded number is written with up to six decimals.
type Rounded float64

// MarshalJSON writes the number.
func (r Rounded) MarshalJSON() ([]byte, error) {
	const million = 1e6
	return strconv.AppendFloat(nil, math.Round(float64(r)*million)/million+0, 'f', -1, 64), nil
}

// Write writes a value and the end of a line. What stands in texts stays as it
// is: no "<" becomes an escape.
func Write(to io.Writer, v any) error {
	e := json.NewEncoder(to)
	e.SetEscapeHTML(false)
	e.SetIndent("", "  ")
	return e.Encode(v)
}
