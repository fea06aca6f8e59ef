package taskfile

import (
	"encoding/json"
	"fmt"

	"freshapron/internal/core/clock"
	"freshapron/internal/core/exact"
	"freshapron/internal/core/measure"
	"freshapron/internal/core/train"
)

type sourceJSON struct {
	Amounts []amountJSON `json:"amounts"`
	Scales  []exactText  `json:"scales,omitempty"`
	Jugs    []exactText  `json:"jugs,omitempty"`
	Cups    []exactText  `json:"cups,omitempty"`
	Ovens   []exactText  `json:"ovens,omitempty"`
	From    int          `json:"from,omitempty"`
	To      int          `json:"to,omitempty"`
	Start   clock.Time   `json:"start,omitempty"`
	Bell    clock.Time   `json:"bell,omitempty"`
	Waits   []int        `json:"waits,omitempty"`
	Foods   []string     `json:"foods,omitempty"`
}

type amountJSON struct {
	Name      string    `json:"name"`
	Amount    exactText `json:"amount"`
	Unit      string    `json:"unit"`
	Density   exactText `json:"density"`
	Pack      exactText `json:"pack"`
	Pours     bool      `json:"pours,omitempty"`
	Tolerance float64   `json:"tolerance,omitempty"`
	Role      string    `json:"role,omitempty"`
}

// exactText is a number as the text of a fraction.
type exactText exact.Number

// MarshalText writes the fraction.
func (n exactText) MarshalText() ([]byte, error) { return []byte(exact.Number(n).String()), nil }

// UnmarshalText reads it.
func (n *exactText) UnmarshalText(text []byte) error {
	v, err := exact.Parse(string(text))
	*n = exactText(v)
	return err
}

func texts(list []exact.Number) []exactText {
	out := make([]exactText, len(list))
	for i, n := range list {
		out[i] = exactText(n)
	}
	return out
}

func numbers(list []exactText) []exact.Number {
	out := make([]exact.Number, len(list))
	for i, n := range list {
		out[i] = exact.Number(n)
	}
	return out
}

// EncodeSource keeps what is practised, and which foods are cut.
func EncodeSource(s train.Source, foods []string) ([]byte, error) {
	out := sourceJSON{Scales: texts(s.Scales), Jugs: texts(s.Jugs), Cups: texts(s.Cups), Ovens: texts(s.Ovens), From: s.From, To: s.To, Start: s.Start, Bell: s.Bell, Waits: s.Waits, Foods: foods}
	for _, a := range s.Amounts {
		out.Amounts = append(out.Amounts, amountJSON{a.Name, exactText(a.Amount), a.Unit.ID, exactText(a.Density.Number), exactText(a.Pack), a.Pours, a.Tolerance, a.Role})
	}
	return json.Marshal(out)
}

// DecodeSource reads what EncodeSource kept.
func DecodeSource(data []byte) (train.Source, []string, error) {
	var in sourceJSON
	if err := json.Unmarshal(data, &in); err != nil {
		return train.Source{}, nil, err
	}
	s := train.Source{Scales: numbers(in.Scales), Jugs: numbers(in.Jugs), Cups: numbers(in.Cups), Ovens: numbers(in.Ovens), From: in.From, To: in.To, Start: in.Start, Bell: in.Bell, Waits: in.Waits}
	for _, a := range in.Amounts {
		u, ok := measure.UnitOf(a.Unit)
		if !ok {
			return s, nil, fmt.Errorf("there is no unit %q", a.Unit)
		}
		s.Amounts = append(s.Amounts, train.Amount{Name: a.Name, Quantity: measure.Quantity{Amount: exact.Number(a.Amount), Unit: u}, Density: measure.Density{Number: exact.Number(a.Density)}, Pack: exact.Number(a.Pack), Pours: a.Pours, Tolerance: a.Tolerance, Role: a.Role})
	}
	return s, in.Foods, nil
}
