// Package taskfile writes tasks for practising as data with their answers.
// docs/formats holds the JSON Schema.
package taskfile

import (
	"bytes"
	"encoding/json"
	"fmt"
	"io"

	"freshapron/internal/core/clock"
	"freshapron/internal/core/exact"
	"freshapron/internal/core/fit"
	"freshapron/internal/core/measure"
	"freshapron/internal/core/train"
	"freshapron/internal/core/words"
	"freshapron/internal/formats/jsonout"
)

// fields keep their order in a file.
type fields []train.Field

// MarshalJSON writes them as an object.
func (f fields) MarshalJSON() ([]byte, error) {
	var b bytes.Buffer
	b.WriteByte('{')
	for i, x := range f {
		if i > 0 {
			b.WriteByte(',')
		}
		name, err := json.Marshal(x.Name)
		if err != nil {
			return nil, err
		}
		v, err := json.Marshal(value(x.Value))
		if err != nil {
			return nil, err
		}
		b.Write(name)
		b.WriteByte(':')
		b.Write(v)
	}
	b.WriteByte('}')
	return b.Bytes(), nil
}

// value is what stands in a file for something given: amounts are numbers, or fractions
// as text where no decimal is exact.
func value(v any) any {
	switch v := v.(type) {
	case exact.Number:
		return amount(v)
	case []exact.Number:
		out := make([]any, len(v))
		for i, n := range v {
			out[i] = amount(n)
		}
		return out
	case clock.Time:
		return v.String()
	case []train.Tool:
		out := make([]any, len(v))
		for i, t := range v {
			out[i] = fields{{Name: "name", Value: t.Name}, {Name: "kind", Value: t.Kind}, {Name: "division", Value: t.Division}}
		}
		return out
	}
	return v
}

// decimals are written where they are exact within so many places.
const decimals = 10

func amount(n exact.Number) any {
	text := n.Decimal(decimals)
	if back, err := exact.Parse(text); err == nil && back.Cmp(n) == 0 {
		return json.Number(text)
	}
	return n.Mixed()
}

func answer(a train.Answer) fields {
	switch {
	case a.Clock != nil:
		return fields{{Name: "clock", Value: *a.Clock}}
	case a.Name != "":
		return fields{{Name: "name", Value: a.Name}}
	}
	return fields{{Name: "amount", Value: a.Amount}, {Name: "unit", Value: a.Unit}}
}

type taskJSON struct {
	Kind       train.Kind `json:"kind"`
	Ask        string     `json:"ask"`
	Ingredient string     `json:"ingredient,omitempty"`
	Given      fields     `json:"given"`
	Want       fields     `json:"want"`
	Answer     fields     `json:"answer"`
	Tolerance  float64    `json:"tolerance_percent"`
}

// Write writes tasks as JSON.
func Write(to io.Writer, tasks []train.Task) error {
	list := make([]taskJSON, len(tasks))
	for i, t := range tasks {
		list[i] = taskJSON{t.Kind, t.Ask, t.Ingredient, t.Given(), fields{t.Want()}, answer(t.Answer()), t.Tolerance}
	}
	return jsonout.Write(to, map[string]any{"tasks": list})
}

// WriteText writes tasks for people, each with its answer.
func WriteText(to io.Writer, tasks []train.Task) error {
	for i, t := range tasks {
		if _, err := fmt.Fprintf(to, "%d. %s\n   %s\n", i+1, t.Ask, Says(t.Answer())); err != nil {
			return err
		}
	}
	return nil
}

// Says is an answer in words.
func Says(a train.Answer) string {
	switch {
	case a.Clock != nil:
		return a.Clock.String()
	case a.Name != "":
		return a.Name
	case a.Unit == "part":
		return measure.Mixed(a.Amount) + " of it"
	case a.Unit == "fillings":
		return words.Plural(int(a.Amount.Floor()), "filling", "fillings")
	}
	if u, ok := measure.UnitOf(a.Unit); ok {
		return measure.Quantity{Amount: a.Amount, Unit: u}.String()
	}
	return measure.Mixed(a.Amount) + " " + a.Unit
}

// Source is what a lesson file has to practise on: its amounts, settings, times and
// waits.
func Source(l fit.Lesson) train.Source {
	s := train.Source{Start: l.Start, Bell: l.End}
	for _, d := range l.Dishes {
		for _, i := range d.Ingredients {
			u, ok := measure.UnitOf(i.Unit)
			if i.Amount == nil || !ok || i.Unit == "" || i.Amount.Sign() <= 0 {
				continue
			}
			pours := u.Dimension == measure.Volume && u.ID != "tsp" && u.ID != "tbsp"
			s.Amounts = append(s.Amounts, train.Amount{Name: i.Name, Quantity: measure.Quantity{Amount: *i.Amount, Unit: u}, Pours: pours})
		}
		for _, step := range d.Steps {
			for _, use := range step.Uses {
				if use.Temperature != nil && use.Temperature.Sign() > 0 {
					s.Ovens = append(s.Ovens, *use.Temperature)
				}
			}
			if w := int(step.Wait.Floor()); w > 0 {
				s.Waits = append(s.Waits, w)
			}
		}
	}
	return s
}
