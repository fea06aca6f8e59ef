package scale

import (
	"fmt"
	"math"

	"freshapron/internal/core/pantry"
	"freshapron/internal/core/recipe"
)

// drifts is the share by which a ratio may change before it is shown.
const drifts = 0.03

// A Drift is a ratio of the recipe that rounding to what can be measured has
// changed.
type Drift struct {
	recipe.Ratio
	Measured float64 // the ratio as it is measured out
	By       float64 // share by which that differs, signed
}

// Says tells the drift in a sentence.
func (d Drift) Says() string {
	after := d.Ratio
	after.Value = d.Measured
	return fmt.Sprintf("%s has become %s in the %s: %+.0f %%.", d.Ratio.Says(), after.Says(), d.Mixture, d.By*100)
}

// Drifts returns the ratios that the instructions of the amounts change by
// more than 3 %.
func Drifts(r recipe.Recipe, amounts []Scaled) []Drift {
	wanted, measured := make([]float64, len(amounts)), make([]float64, len(amounts))
	for i, s := range amounts {
		g, ok := s.Stock.Grams(s.Exact)
		if told := s.First(); ok && s.Line.Given() && told != nil {
			wanted[i] = g.Float()
			measured[i] = wanted[i] * (1 + told.Rounding)
		}
	}
	var out []Drift
	after := recipe.Ratios(r, measured)
	for i, before := range recipe.Ratios(r, wanted) {
		if i >= len(after) || before.Value == 0 {
			continue
		}
		by := after[i].Value/before.Value - 1
		if math.Abs(by) > drifts {
			out = append(out, Drift{before, after[i].Value, by})
		}
	}
	return out
}

// Outside returns the ratios of a recipe that lie outside what is usual, so
// that a misprint is seen before anyone cooks.
func Outside(r recipe.Recipe, p *pantry.Pantry) []recipe.Ratio {
	var out []recipe.Ratio
	for _, ratio := range recipe.Ratios(r, recipe.Grams(r, p)) {
		if ratio.OutsideWhat != "" {
			out = append(out, ratio)
		}
	}
	return out
}
