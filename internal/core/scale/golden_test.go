package scale_test

import (
	"fmt"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"

	"freshapron/internal/core/exact"
	"freshapron/internal/core/measure"
	"freshapron/internal/core/pantry"
	"freshapron/internal/core/recipe"
	"freshapron/internal/core/scale"
	"freshapron/internal/demo"
	"freshapron/internal/golden"
)

// Every dish of the demonstration, for benches of many sizes, as it is measured
// in two rooms, bought and paid for.
func TestTheDishesScaled(t *testing.T) {
	var b strings.Builder
	stock := pantry.Stock()
	kitchens := []scale.Kitchen{
		{Pantry: stock, Tolerances: pantry.Usual, Instruments: demo.FoodRoom().Instruments},
		{Pantry: stock, Tolerances: pantry.Usual, Instruments: demo.JuniorCorner().Instruments, Volume: true},
	}
	for _, r := range demo.Dishes() {
		for n, k := range kitchens {
			for _, pieces := range []int{1, 3, 5, r.Yield, 3 * r.Yield} {
				pence, unpriced := k.Cost(r, exact.Frac(int64(pieces), int64(r.Yield)))
				fmt.Fprintf(&b, "= %s, %d pieces, room %d, %s p %v\n", r.Title, pieces, n+1, pence.Decimal(2), unpriced)
				amounts := k.Amounts(r, pieces)
				for _, s := range amounts {
					amount, name := s.Told()
					fmt.Fprintf(&b, "  %s %s %t", amount, name, s.Measurable())
					for _, w := range k.Ways(r, s, scale.Setting{Sets: 12, Pieces: pieces}) {
						fmt.Fprintf(&b, " | %s %s %s p %.3f", w.ID, w.Says, w.Pence.Decimal(1), w.Error)
					}
					b.WriteString("\n")
				}
				for _, d := range scale.Drifts(r, amounts) {
					fmt.Fprintf(&b, "  drift: %s\n", d.Says())
				}
			}
		}
		for _, need := range kitchens[0].Class(r, []int{1, 2, 2, 3}, []int{4}) {
			fmt.Fprintf(&b, "  class: %+v\n", need.Total)
		}
		for _, ratio := range scale.Outside(r, stock) {
			fmt.Fprintf(&b, "  outside: %s\n", ratio.Says())
		}
	}
	golden.Same(t, "dishes.golden", b.String())
}

// Lines of every law and kind, of which few stand in the dishes of the demonstration.
func TestOddLinesScaled(t *testing.T) {
	stock := pantry.Stock()
	r := recipe.Recipe{Title: "Odd", Yield: 4, Piece: "portion", Pieces: "portions", Each: 1}
	for _, l := range recipe.TakeLines([]string{
		"1 x 400 g tin chickpeas, drained", "2 x 400 g tins kidney beans, drained and rinsed", "400 g tin chopped tomatoes", "100 g chickpeas, drained", "2 tins sweetcorn, drained",
		"oil for deep frying", "1 litre oil for deep frying", "1 tbsp oil for frying", "butter for greasing", "salt to taste", "1 tsp salt to taste", "3 eggs", "1 large egg", "1/2 egg", "2 egg whites", "a knob of butter",
		"250 ml water", "200 g something unheard of", "1 onion", "2 onions", "1 bay leaf", "4 tortillas", "7 g fast action yeast", "2 pinches saffron", "1 cup rice", "3 sticks celery", "1/8 tsp cayenne", "0.4 g turmeric",
		"2 bunches coriander", "30 g coriander", "1 packet jelly", "1 block tofu", "1 lemon", "zest of 1 lemon", "1 kg potatoes", "2 cm ginger",
	}, measure.Metric, stock) {
		r.Ingredients = append(r.Ingredients, l.Ingredient)
	}
	var b strings.Builder
	for n, k := range []scale.Kitchen{
		{Pantry: stock, Tolerances: pantry.Usual, Instruments: demo.FoodRoom().Instruments},
		{Pantry: stock, Tolerances: pantry.Usual, Instruments: demo.JuniorCorner().Instruments, Volume: true},
		{Pantry: stock},
	} {
		for _, pieces := range []int{1, 2, 4, 5, 12} {
			amounts := k.Amounts(r, pieces)
			fmt.Fprintf(&b, "= %d pieces, kitchen %d\n", pieces, n+1)
			for _, s := range amounts {
				amount, name := s.Told()
				fmt.Fprintf(&b, "  %s: %s %s; %s; %t, %s", s.Line, amount, name, s.Says, s.Measurable(), s.Exact)
				for _, w := range k.Ways(r, s, scale.Setting{Sets: n, Pieces: pieces}) {
					fmt.Fprintf(&b, " | %s %s %s p %.3f", w.ID, w.Says, w.Pence.Decimal(1), w.Error)
				}
				b.WriteString("\n")
			}
			for _, d := range scale.Drifts(r, amounts) {
				fmt.Fprintf(&b, "  drift: %s\n", d.Says())
			}
		}
	}
	for _, need := range (scale.Kitchen{Pantry: stock}).Class(r, []int{1, 2, 4}, []int{3}) {
		fmt.Fprintf(&b, "class: %s, %s\n", need.Benches, need.Total)
	}
	golden.Same(t, "odd.golden", b.String())
}

// The packs that are bought for amounts from a little to a lot of everything.
func TestThePacksBought(t *testing.T) {
	var b strings.Builder
	for n, i := range pantry.Stock().List() {
		if n%5 != 0 {
			continue
		}
		for _, amount := range []string{"1", "30", "249", "250", "1000", "1001", "4321"} {
			unit := measure.Gram
			switch {
			case i.Counted():
				unit = measure.Each
			case i.Pours:
				unit = measure.Millilitre
			}
			if p, ok := scale.Buy(i, measure.Q(amount, unit)); ok {
				fmt.Fprintf(&b, "%s %s: %s, %d p, %s over\n", amount, i.ID, p.Says(), p.Pence, p.Left)
			}
		}
	}
	flour, _ := pantry.Stock().Find("plain-flour")
	for _, amount := range []string{"0", "-1"} {
		_, ok := scale.Buy(flour, measure.Q(amount, measure.Gram))
		assert.False(t, ok, "nothing is bought for %s g", amount)
	}
	golden.Same(t, "packs.golden", b.String())
}

// Tins for tins, and who is put with whom.
func TestTinsAndGroups(t *testing.T) {
	var b strings.Builder
	number := func(n int64) exact.Number { return exact.Int(n) }
	tins := []recipe.Tin{
		{Diameter: number(18), Depth: number(4)}, {Diameter: number(20), Depth: number(5)}, {Diameter: number(23), Depth: number(4)}, {Length: number(20), Width: number(20), Depth: number(4)},
		{Length: number(30), Width: number(20), Depth: number(3)}, {Diameter: number(7), Depth: number(3), Count: 12}, {Name: "loaf tin", Length: number(21), Width: number(11), Depth: number(6)},
	}
	for _, from := range tins {
		for _, to := range tins {
			factor, ok := scale.TinFactor(from, to)
			fmt.Fprintf(&b, "%s to %s: %s %t, area %s\n", scale.TinName(from), scale.TinName(to), factor.Decimal(3), ok, scale.Area(to).Decimal(2))
		}
		for _, f := range scale.Fills(from, exact.Frac(3, 2), slices.Clone(tins)) {
			fmt.Fprintf(&b, "  %s: %s, %.3f as deep, %.3f as long\n", scale.TinName(f.Tin), f.Factor.Decimal(3), f.Depth, f.Time)
		}
	}
	for _, tin := range scale.UsualTins {
		fmt.Fprintf(&b, "there is a %s of %s cm²\n", scale.TinName(tin), scale.Area(tin).Decimal(2))
	}
	for learners := range 34 {
		for size := 1; size <= 5; size++ {
			for _, room := range []int{1, 5, 12, 16} {
				fmt.Fprintf(&b, "%d by %d in %d: %v\n", learners, size, room, scale.Groups(learners, size, room))
			}
		}
	}
	golden.Same(t, "tins.golden", b.String())
}
