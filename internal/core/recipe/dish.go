package recipe

import (
	"freshapron/internal/core/exact"
	"freshapron/internal/core/fit"
	"freshapron/internal/core/measure"
	"freshapron/internal/core/pantry"
)

// FromDish makes a recipe of a dish of a lesson file. A dish does not say how
// many it serves; its amounts are taken as one portion.
func FromDish(d fit.Dish, sys measure.System, p *pantry.Pantry) Recipe {
	r := Recipe{ID: d.ID, Title: d.Title, Yield: 1, Piece: "portion", Pieces: "portions", Each: 1}
	if r.Title == "" {
		r.Title = d.ID
	}
	for _, c := range d.Ingredients {
		i := Ingredient{Name: c.Name, Note: c.Note, Part: c.PartOf, Law: Law(c.Scales), Brought: c.Brought}
		i.Unit = measure.Named(c.Unit, sys)
		if c.Amount != nil {
			i.Amount = simple(*c.Amount)
		}
		if m := p.MatchAs(c.Name, i.Unit); m.Certain {
			i.Pantry = m.Ingredient.ID
		}
		if i.Law == "" {
			i.Law = Linear
		}
		r.Ingredients = append(r.Ingredients, i)
	}
	for _, s := range d.Steps {
		r.Steps = append(r.Steps, Step{Step: s})
	}
	return r
}

// simple turns a third that was written with many decimals back into a third.
func simple(n exact.Number) exact.Number {
	const digits = 1e9
	if _, den := n.Ratio(); den < digits {
		return n
	}
	for den := int64(1); den <= 64; den++ {
		near := exact.Frac(n.Mul(exact.Int(den)).Round(), den)
		if near.Sub(n).Abs().Cmp(exact.Frac(1, digits)) < 0 {
			return near
		}
	}
	return n
}
