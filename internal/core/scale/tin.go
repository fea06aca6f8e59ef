package scale

import (
	"fmt"

	"freshapron/internal/core/exact"
	"freshapron/internal/core/heat"
	"freshapron/internal/core/recipe"
)

// pi is 355/113, near enough for any tin.
var pi = exact.Frac(355, 113)

// Area returns the area of the bottom of the tins in square centimetres.
func Area(t recipe.Tin) exact.Number {
	area := t.Length.Mul(t.Width)
	if t.Diameter.Sign() > 0 {
		area = pi.Mul(t.Diameter).Mul(t.Diameter).Div(exact.Int(4))
	}
	return area.Mul(exact.Int(int64(max(1, t.Count))))
}

// TinFactor returns what a recipe for one tin has to be multiplied by to
// fill another to the same depth, and whether both have a size.
func TinFactor(from, to recipe.Tin) (exact.Number, bool) {
	a, b := Area(from), Area(to)
	if a.Sign() <= 0 || b.Sign() <= 0 {
		return exact.Number{}, false
	}
	return b.Div(a), true
}

// A Fill is what happens when the amounts of a recipe go into another tin.
type Fill struct {
	Tin    recipe.Tin
	Factor exact.Number // for the same depth
	Depth  float64      // times as deep where the amounts stay
	Time   float64      // times as long it then takes to heat through
}

// Fills tells it for each of the tins at hand, for amounts that have already
// been multiplied by a factor.
func Fills(from recipe.Tin, factor exact.Number, tins []recipe.Tin) []Fill {
	var out []Fill
	for _, t := range tins {
		f, ok := TinFactor(from, t)
		if !ok {
			continue
		}
		deep := factor.Div(f).Float()
		out = append(out, Fill{Tin: t, Factor: f, Depth: deep, Time: heat.TimesAsLong(halfDepth(from), halfDepth(from)*deep)})
	}
	return out
}

// halfDepth is half the usual depth of a filling in metres: heat comes from
// above and below.
func halfDepth(t recipe.Tin) float64 {
	const usual = 0.02
	if d := t.Depth.Float(); d > 0 {
		return d / 200
	}
	return usual
}

// TinName says a tin with its size.
func TinName(t recipe.Tin) string {
	switch {
	case t.Diameter.Sign() > 0:
		return fmt.Sprintf("%s, %s cm across", t.Name, t.Diameter.Decimal(1))
	case t.Length.Sign() > 0:
		return fmt.Sprintf("%s, %s × %s cm", t.Name, t.Length.Decimal(1), t.Width.Decimal(1))
	}
	return t.Name
}

// UsualTins are what an ordinary school kitchen has.
var UsualTins = []recipe.Tin{
	{Name: "sandwich tin", Diameter: exact.Int(15)},
	{Name: "sandwich tin", Diameter: exact.Int(18)},
	{Name: "sandwich tin", Diameter: exact.Int(20)},
	{Name: "square tin", Length: exact.Int(18), Width: exact.Int(18)},
	{Name: "square tin", Length: exact.Int(20), Width: exact.Int(20)},
	{Name: "roll tin", Length: exact.Int(30), Width: exact.Int(20)},
	{Name: "oven dish", Length: exact.Int(18), Width: exact.Int(13)},
	{Name: "oven dish", Length: exact.Int(25), Width: exact.Int(18)},
	{Name: "foil tray", Length: exact.Int(14), Width: exact.Int(11)},
}
