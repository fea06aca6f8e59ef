// Package scale takes a recipe to benches and to a class: into how many
// groups learners fall, what each measures out, and what the class needs.
package scale

import (
	"fmt"

	"freshapron/internal/core/exact"
	"freshapron/internal/core/measure"
	"freshapron/internal/core/pantry"
	"freshapron/internal/core/recipe"
)

// Groups returns the sizes of the groups into which learners fall when they
// work in groups of the given size: the number of groups is the nearest that
// there is room for, halves towards larger groups, and sizes differ by at
// most one, larger groups first. Size 1 is everyone alone, however many.
func Groups(learners, size, room int) []int {
	if learners < 1 || size < 1 || room < 1 {
		return nil
	}
	n := learners
	if size > 1 {
		n = max(1, (2*learners+size-1)/(2*size)) // round(learners/size), halves down
		n = min(n, room)
	}
	sizes := make([]int, n)
	for i := range sizes {
		sizes[i] = learners / n
		if i < learners%n {
			sizes[i]++
		}
	}
	return sizes
}

// A Scaled ingredient is what a bench measures out.
type Scaled struct {
	Line     recipe.Ingredient
	Stock    pantry.Ingredient
	Exact    measure.Quantity // by the law
	Linear   measure.Quantity // what proportion alone would give
	Says     string           // what the law did, where that has to be said
	ByWeight *measure.Instruction
	ByVolume *measure.Instruction
	ByCount  *measure.Instruction
}

// Best returns the instruction with the smallest error, or nil.
func (s Scaled) Best() *measure.Instruction {
	var best *measure.Instruction
	for _, i := range []*measure.Instruction{s.ByWeight, s.ByVolume, s.ByCount} {
		if i != nil && (best == nil || i.Error() < best.Error()-0.005) {
			best = i
		}
	}
	return best
}

// Tolerance is the share by which the amount may be off.
func (s Scaled) Tolerance() float64 {
	if s.Line.Role != "" {
		return s.Line.Role.Tolerance()
	}
	return s.Stock.Role.Tolerance()
}

// Measurable reports whether the best instruction is within the tolerance.
// What is added to taste needs no exact measure.
func (s Scaled) Measurable() bool {
	best := s.Best()
	return s.Line.Law == recipe.Taste || best != nil && best.Error() <= s.Tolerance()+1e-9
}

// Amounts scales every ingredient of the recipe to so many pieces, measured
// with the instruments of the room.
func Amounts(r recipe.Recipe, pieces int, in measure.Instruments) []Scaled {
	factor := exact.Frac(int64(pieces), int64(r.Yield))
	out := make([]Scaled, len(r.Ingredients))
	for i, line := range r.Ingredients {
		stock, _ := pantry.Find(line.Pantry)
		s := Scaled{Line: line, Stock: stock, Linear: line.Quantity.Times(factor)}
		s.Exact, s.Says = law(line, factor)
		a := measure.Amount{Quantity: s.Exact, Density: stock.Density, Pours: stock.Pours}
		s.ByWeight, s.ByVolume, s.ByCount = by(in, measure.Mass, a), by(in, measure.Volume, a), by(in, measure.Count, a)
		out[i] = s
	}
	return out
}

func by(in measure.Instruments, d measure.Dimension, a measure.Amount) *measure.Instruction {
	i, ok := in.By(d, a)
	if !ok {
		return nil
	}
	return &i
}

// law applies the law of an ingredient and says what it did where that is
// not plain proportion.
func law(line recipe.Ingredient, factor exact.Number) (measure.Quantity, string) {
	proportional := line.Quantity.Times(factor)
	switch line.Law {
	case recipe.Whole:
		n := max(1, proportional.Amount.Round())
		q := measure.Quantity{Amount: exact.Int(n), Unit: line.Unit}
		if q.Amount.Cmp(proportional.Amount) == 0 {
			return q, ""
		}
		return q, fmt.Sprintf("whole ones: %s would be exact", proportional)
	case recipe.Taste:
		if factor.Cmp(exact.Int(1)) > 0 {
			return line.Quantity, "a start, not multiplied: taste, then add"
		}
		return proportional, "a start: taste, then add"
	default:
		return proportional, ""
	}
}

// A Need is what a class uses of one ingredient.
type Need struct {
	Benches measure.Quantity // all benches together
	Total   measure.Quantity // with the demonstration and the spares
}

// Class adds up what benches of the given pieces need, and what a
// demonstration and spares of so many pieces each add.
func Class(r recipe.Recipe, benches []int, extra []int) []Need {
	needs := make([]Need, len(r.Ingredients))
	for i, line := range r.Ingredients {
		zero := measure.Quantity{Unit: line.Unit}
		needs[i] = Need{zero, zero}
	}
	add := func(pieces int, bench bool) {
		factor := exact.Frac(int64(pieces), int64(r.Yield))
		for i, line := range r.Ingredients {
			q, _ := law(line, factor)
			if bench {
				needs[i].Benches.Amount = needs[i].Benches.Amount.Add(q.Amount)
			}
			needs[i].Total.Amount = needs[i].Total.Amount.Add(q.Amount)
		}
	}
	for _, p := range benches {
		add(p, true)
	}
	for _, p := range extra {
		add(p, false)
	}
	for i, line := range r.Ingredients {
		stock, _ := pantry.Find(line.Pantry)
		needs[i].Benches = bulk(needs[i].Benches, stock)
		needs[i].Total = bulk(needs[i].Total, stock)
	}
	return needs
}

func bulk(q measure.Quantity, stock pantry.Ingredient) measure.Quantity {
	return measure.Amount{Quantity: q, Density: stock.Density, Pours: stock.Pours}.Bulk()
}
