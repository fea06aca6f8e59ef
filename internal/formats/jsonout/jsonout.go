// Package jsonout writes JSON for people to read as well: indented, and with
// exact numbers.
package jsonout

import (
	"encoding/json"
	"io"

	"freshapron/internal/core/exact"
)

// A Number is written whole, or with up to ten decimals.
type Number exact.Number

// MarshalJSON writes the number.
func (n Number) MarshalJSON() ([]byte, error) { return []byte(exact.Number(n).Decimal(10)), nil }

// Write writes a value and the end of a line. What stands in texts stays as it
// is: no "<" becomes an escape.
func Write(to io.Writer, v any) error {
	e := json.NewEncoder(to)
	e.SetEscapeHTML(false)
	e.SetIndent("", "  ")
	return e.Encode(v)
}
