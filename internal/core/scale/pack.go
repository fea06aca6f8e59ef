package scale

import (
	"fmt"
	"strings"

	"freshapron/internal/core/exact"
	"freshapron/internal/core/measure"
	"freshapron/internal/core/pantry"
)

// A Purchase is the packs that cover a need.
type Purchase struct {
	Packs []Bought
	Pence int
	Left  measure.Quantity // over, in the unit of the packs
}

// Bought is so many packs of one size.
type Bought struct {
	pantry.Pack
	Count int
}

// maxPacks bounds the search; a class needs fewer.
const maxPacks = 400

// Buy returns the cheapest set of packs that covers a need; of equally cheap
// ones, that which leaves least over. It reports whether there are packs whose
// size can be compared with the need.
func Buy(stock pantry.Ingredient, need measure.Quantity) (Purchase, bool) {
	want, packs, unit, ok := comparable(stock, need)
	if !ok || want.Sign() <= 0 {
		return Purchase{}, false
	}
	counts := make([]int, len(packs))
	best, found := Purchase{}, false
	var bestCounts []int
	var try func(i int, have exact.Number, pence int)
	try = func(i int, have exact.Number, pence int) {
		if found && pence > best.Pence {
			return
		}
		missing := want.Sub(have)
		if missing.Sign() <= 0 {
			left := have.Sub(want)
			if !found || pence < best.Pence || left.Less(best.Left.Amount) {
				best, found = Purchase{Pence: pence, Left: measure.Quantity{Amount: left, Unit: unit}}, true
				bestCounts = append(bestCounts[:0], counts...)
			}
			return
		}
		if i == len(packs) {
			return
		}
		size := packs[i].size
		most := int(min(maxPacks, missing.Div(size).Ceil()))
		for n := most; n >= 0; n-- {
			counts[i] = n
			try(i+1, have.Add(size.Mul(exact.Int(int64(n)))), pence+n*packs[i].Pence)
		}
		counts[i] = 0
	}
	try(0, exact.Number{}, 0)
	for i, n := range bestCounts {
		if n > 0 {
			best.Packs = append(best.Packs, Bought{packs[i].Pack, n})
		}
	}
	return best, found
}

type sized struct {
	pantry.Pack
	size exact.Number
}

// comparable brings need and packs to one measure: pieces, grams, or
// millilitres.
func comparable(stock pantry.Ingredient, need measure.Quantity) (want exact.Number, packs []sized, unit measure.Unit, ok bool) {
	for _, p := range stock.Packs {
		u := p.Size.Unit
		var size, w exact.Number
		switch {
		case u.Dimension == need.Unit.Dimension && (u.Dimension != measure.Count || u.ID == need.Unit.ID):
			size, w = p.Size.Base(), need.Base()
		default:
			g1, ok1 := stock.BoughtGrams(p.Size)
			g2, ok2 := stock.BoughtGrams(need)
			if !ok1 || !ok2 {
				continue
			}
			size, w = g1, g2
			u = measure.Gram
		}
		base := map[measure.Dimension]measure.Unit{measure.Mass: measure.Gram, measure.Volume: measure.Millilitre, measure.Count: measure.Each}[u.Dimension]
		if len(packs) > 0 && base.ID != unit.ID {
			continue
		}
		want, unit = w, base
		packs = append(packs, sized{p, size})
	}
	return want, packs, unit, len(packs) > 0
}

// Says tells what is bought: "2 × 1.5 kg bag + 1 × 500 g bag, 125 g left".
func (p Purchase) Says() string {
	var parts []string
	for _, b := range p.Packs {
		parts = append(parts, fmt.Sprintf("%d × %s", b.Count, strings.TrimSpace(b.Size.String()+" "+b.Word)))
	}
	s := strings.Join(parts, " + ")
	if p.Left.Amount.Sign() > 0 {
		s += fmt.Sprintf(", %s left", p.Left)
	}
	return s
}
