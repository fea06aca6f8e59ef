package scale

import (
	"fmt"

	"freshapron/internal/core/exact"
	"freshapron/internal/core/measure"
	"freshapron/internal/core/recipe"
)

// A WayOut is a way to get an amount right that can't be measured as it is.
type WayOut struct {
	ID    string // "class", "batch", "beat", "up", "down", "other-size"
	Says  string
	Pence exact.Number // what it costs beyond the exact amount; 0 where nothing is left over
	Error float64      // share by which it may still be off
}

// A Setting is what surrounds the amounts of one bench.
type Setting struct {
	Sets   int // sets that are laid out: benches, demonstration and spares
	Pieces int // that the bench makes
}

// Ways returns the ways out for one line, the best first; none where it can be
// measured.
func (k Kitchen) Ways(r recipe.Recipe, s Scaled, in Setting) []WayOut {
	if !s.Line.Given() || s.Measurable() {
		return nil
	}
	if s.Line.Law == recipe.Whole {
		return k.eggWays(s)
	}
	var out []WayOut
	if w, ok := k.forTheClass(s, in); ok {
		out = append(out, w)
	}
	if w, ok := k.batch(r, in); ok {
		out = append(out, w)
	}
	return out
}

// forTheClass weighs once for everyone and shares out by spoon.
func (k Kitchen) forTheClass(s Scaled, in Setting) (WayOut, bool) {
	if in.Sets < 2 {
		return WayOut{}, false
	}
	total := s.Stock.Amount(s.Exact.Times(exact.Int(int64(in.Sets))), s.Line.Filling)
	weighed, ok := k.Instruments.Best(total)
	if !ok || weighed.Error() > s.Tolerance {
		return WayOut{}, false
	}
	says := fmt.Sprintf("Measure %s once for the whole class (%d sets) and share it out evenly", weighed.Says, in.Sets)
	if s.ByVolume != nil {
		says += fmt.Sprintf(", about %s each", s.ByVolume.Says)
	}
	return WayOut{ID: "class", Says: says + ".", Error: weighed.Error()}, true
}

// batch looks for the nearest larger batch in which every amount can be
// measured.
func (k Kitchen) batch(r recipe.Recipe, in Setting) (WayOut, bool) {
	if r.Yield < 1 || in.Pieces < 1 {
		return WayOut{}, false
	}
	for _, part := range []exact.Number{exact.Frac(5, 4), exact.Frac(3, 2), exact.Int(2), exact.Int(3)} {
		pieces := exact.Int(int64(in.Pieces)).Mul(part)
		if !pieces.IsInt() {
			continue
		}
		fine := true
		for _, s := range k.Amounts(r, int(pieces.Floor())) {
			fine = fine && s.Measurable()
		}
		if fine {
			return WayOut{
				ID:   "batch",
				Says: fmt.Sprintf("Let the bench make %s instead of %d: then every amount can be measured.", r.Count(int(pieces.Floor())), in.Pieces),
			}, true
		}
	}
	return WayOut{}, false
}

// eggWays prices the choices where part of a whole thing is wanted.
func (k Kitchen) eggWays(s Scaled) []WayOut {
	var out []WayOut
	priced := func(n exact.Number) exact.Number {
		have, _ := s.Stock.Pence(measure.Quantity{Amount: n, Unit: s.Exact.Unit})
		want, _ := s.Stock.Pence(s.Exact)
		return have.Sub(want)
	}
	up, down := exact.Int(s.Exact.Amount.Ceil()), exact.Int(s.Exact.Amount.Floor())
	if s.Stock.Counted() && isEgg(s.Stock.ID) {
		grams := s.Exact.Amount.Mul(s.Stock.One)
		if i, ok := k.Instruments.By(measure.Mass, measure.Amount{Quantity: measure.Quantity{Amount: grams, Unit: measure.Gram}}); ok {
			left := measure.Quantity{Amount: up.Mul(s.Stock.One).Sub(grams), Unit: measure.Gram}
			out = append(out, WayOut{
				ID: "beat", Error: i.Error(), Pence: priced(up),
				Says: fmt.Sprintf("Beat %s and use %s of it; %s is left over.", s.Stock.Of(measure.Quantity{Amount: up, Unit: s.Exact.Unit}), i.Says, left),
			})
		}
		if w, ok := k.otherSize(s, grams); ok {
			out = append(out, w)
		}
	}
	round := func(id string, n exact.Number) {
		q := measure.Quantity{Amount: n, Unit: s.Exact.Unit}
		off := n.Div(s.Exact.Amount).Sub(exact.Int(1))
		more := "more"
		if off.Sign() < 0 {
			more = "less"
		}
		w := WayOut{ID: id, Error: off.Abs().Float(), Says: fmt.Sprintf("Take %s, %.0f %% %s than the recipe asks.", s.Stock.Of(q), off.Abs().Float()*100, more)}
		if off.Sign() > 0 {
			w.Pence = priced(n)
		}
		out = append(out, w)
	}
	round("up", up)
	if down.Sign() > 0 {
		round("down", down)
	}
	return out
}

func isEgg(id string) bool { return id == "egg-small" || id == "egg-medium" || id == "egg-large" }

// otherSize looks for whole eggs of another size that come near.
func (k Kitchen) otherSize(s Scaled, grams exact.Number) (WayOut, bool) {
	for _, id := range []string{"egg-small", "egg-medium", "egg-large"} {
		egg, ok := k.Pantry.Find(id)
		if !ok || id == s.Stock.ID || !egg.Counted() {
			continue
		}
		n := exact.Int(grams.Div(egg.One).Round())
		if n.Sign() == 0 {
			continue
		}
		off := n.Mul(egg.One).Div(grams).Sub(exact.Int(1)).Float()
		const near = 0.15
		if off > -near && off < near {
			return WayOut{ID: "other-size", Error: max(off, -off), Says: fmt.Sprintf("Take %s, %.0f %% off.", egg.Of(measure.Quantity{Amount: n, Unit: measure.Each}), 100*max(off, -off))}, true
		}
	}
	return WayOut{}, false
}
