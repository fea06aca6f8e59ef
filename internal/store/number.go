package store

import (
	"encoding/json"

	"freshapron/internal/core/exact"
)

// number stores an exact number as text, so that a third stays a third.
type number exact.Number

// MarshalJSON writes "5/2".
func (n number) MarshalJSON() ([]byte, error) { return json.Marshal(exact.Number(n).String()) }

// UnmarshalJSON reads "5/2" or "2.5".
func (n *number) UnmarshalJSON(data []byte) error {
	var text string
	if err := json.Unmarshal(data, &text); err != nil {
		return err
	}
	v, err := exact.Parse(text)
	*n = number(v)
	return err
}

func maybe(n *exact.Number) *number {
	if n == nil {
		return nil
	}
	m := number(*n)
	return &m
}

func (n *number) exact() *exact.Number {
	if n == nil {
		return nil
	}
	v := exact.Number(*n)
	return &v
}
