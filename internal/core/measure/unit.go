// Package measure knows quantities, units and the instruments of a school
// kitchen, and finds the instruction by which learners can measure an amount.
package measure

import "freshapron/internal/core/exact"

// Dimension is what a unit measures.
type Dimension int

// The dimensions of kitchen amounts.
const (
	Count Dimension = iota
	Mass
	Volume
)

// A Unit of mass is exactly so many grams, one of volume so many millilitres.
type Unit struct {
	Symbol    string // "g", "tbsp"; empty for things that are counted
	Dimension Dimension
	base      exact.Number
}

// Units, exactly. Spoons are the metric ones of 5 and 15 ml; ounce and pound
// are the international avoirdupois ones.
var (
	Each       = Unit{"", Count, exact.Int(1)}
	Gram       = Unit{"g", Mass, exact.Int(1)}
	Kilogram   = Unit{"kg", Mass, exact.Int(1000)}
	Ounce      = Unit{"oz", Mass, exact.MustParse("28.349523125")}
	Pound      = Unit{"lb", Mass, exact.MustParse("453.59237")}
	Millilitre = Unit{"ml", Volume, exact.Int(1)}
	Decilitre  = Unit{"dl", Volume, exact.Int(100)}
	Litre      = Unit{"l", Volume, exact.Int(1000)}
	Teaspoon   = Unit{"tsp", Volume, exact.Int(5)}
	Tablespoon = Unit{"tbsp", Volume, exact.Int(15)}
)

// Units lists every unit.
var Units = []Unit{Each, Gram, Kilogram, Ounce, Pound, Millilitre, Decilitre, Litre, Teaspoon, Tablespoon}

// UnitOf returns the unit with the given symbol.
func UnitOf(symbol string) (Unit, bool) {
	for _, u := range Units {
		if u.Symbol == symbol {
			return u, true
		}
	}
	return Unit{}, false
}

// A Quantity is an exact amount with its unit.
type Quantity struct {
	Amount exact.Number
	Unit   Unit
}

// Q returns an amount of a unit; the amount is a decimal or a fraction such
// as "1/3". It panics on bad text and is meant for constants in the code.
func Q(amount string, u Unit) Quantity { return Quantity{exact.MustParse(amount), u} }

// Base returns the amount in the base unit of its dimension: grams,
// millilitres, or pieces.
func (q Quantity) Base() exact.Number { return q.Amount.Mul(q.Unit.base) }

// In returns the same quantity in another unit of the same dimension, and
// whether there is one.
func (q Quantity) In(u Unit) (Quantity, bool) {
	if q.Unit.Dimension != u.Dimension {
		return Quantity{}, false
	}
	return Quantity{q.Base().Div(u.base), u}, true
}

// Times returns the quantity multiplied by a factor.
func (q Quantity) Times(factor exact.Number) Quantity {
	return Quantity{q.Amount.Mul(factor), q.Unit}
}

// Plus returns the sum in the unit of q. Both have the same dimension.
func (q Quantity) Plus(o Quantity) Quantity {
	return Quantity{q.Amount.Add(o.Base().Div(q.Unit.base)), q.Unit}
}

// A Density is grams for each millilitre; the zero value is unknown.
type Density struct{ exact.Number }

// Known reports whether there is a density.
func (d Density) Known() bool { return d.Sign() > 0 }

// ToVolume returns the millilitres that a mass fills.
func (d Density) ToVolume(mass Quantity) Quantity {
	return Quantity{mass.Base().Div(d.Number), Millilitre}
}

// ToMass returns the grams of a volume.
func (d Density) ToMass(volume Quantity) Quantity {
	return Quantity{volume.Base().Mul(d.Number), Gram}
}
