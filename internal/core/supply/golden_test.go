package supply_test

import (
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"freshapron/internal/core/measure"
	"freshapron/internal/core/order"
	"freshapron/internal/core/pantry"
	"freshapron/internal/core/recipe"
	"freshapron/internal/core/supply"
	"freshapron/internal/golden"
)

// Plans of made-up stretches, whole, with what is left, not needed and could become of it:
// the tests beside this say what is right, and this one sees any move.
func TestPlansOfManyStretches(t *testing.T) {
	lines := []string{"120 g butter", "2 tbsp butter", "1 leek", "70 g leek", "3 onions", "200 ml semi-skimmed milk", "4 zorbles", "9 g butter"}
	stretches := rapid.Custom(func(t *rapid.T) supply.Stretch {
		s := dairy()
		s.Lessons = taking(t, lines, 3, 4)
		s.Today = monday + order.Day(rapid.IntRange(-5, 3).Draw(t, "today"))
		if rapid.Bool().Draw(t, "on its way") {
			s.Batches = append(s.Batches, supply.Batch{ID: 6, Item: "butter", Amount: measure.Q("300", measure.Gram), From: to(monday + 1), UseBy: to(monday + 4)})
		}
		if rapid.Bool().Draw(t, "decided") {
			s.Decided = []supply.Decided{{Product: rapid.SampledFrom([]int64{11, 12, 13, 99}).Draw(t, "product"), On: monday + order.Day(rapid.IntRange(0, 5).Draw(t, "on")), Count: rapid.IntRange(0, 2).Draw(t, "count")}}
		}
		if rapid.Bool().Draw(t, "closed") {
			s.Closed = []order.Day{monday + order.Day(rapid.IntRange(0, 2).Draw(t, "shut"))}
		}
		return s
	})
	dish := func(title string, yield, each int, line string) recipe.Recipe {
		return recipe.Recipe{ID: title, Title: title, Yield: yield, Each: each, Ingredients: []recipe.Ingredient{recipe.TakeLine(line, "", measure.Metric, pantry.Stock()).Ingredient}}
	}
	dishes := []recipe.Recipe{dish("little", 4, 2, "10 g butter"), dish("much", 4, 2, "100 g butter"), dish("leeks", 2, 1, "1 leek"), dish("bare", 0, 0, "3 g butter")}
	var b strings.Builder
	for n := range 50 {
		s := stretches.Example(n)
		p, err := supply.Solve(s)
		require.NoError(t, err)
		fmt.Fprintf(&b, "%d: needs %s; costs %s, dropped %v\n", n, says(p.Needs), p.Order.Total.Fixed(2), p.Dropped)
		b.WriteString(golden.All(p))
		for _, need := range p.Needs {
			shown := supply.Round(measure.Quantity{Amount: need.Amount, Unit: need.Item.Unit})
			fmt.Fprintf(&b, "  shown %s %s, from %d\n", shown.Amount, shown.Unit.ID, len(p.SourcesOf(need)))
		}
		for _, d := range p.Deliveries {
			fmt.Fprintf(&b, "  %s by %s, goods %s:", d.On, d.By, d.Goods)
			for _, l := range d.Lines {
				fmt.Fprintf(&b, " %d %s %s %t for %d;", l.Count, l.Product.Name, l.Pence, l.Decided, len(l.For))
			}
			b.WriteString("\n")
		}
		for _, m := range p.Short {
			fmt.Fprintf(&b, "  short %s on %s: %s\n", m.Item.Says(m.Amount), m.On, m.Why)
		}
		for _, u := range p.Unneeded() {
			fmt.Fprintf(&b, "  not needed %s of %d\n", u.Item.Says(u.Amount), u.Batch.ID)
		}
		for _, l := range p.Left {
			fmt.Fprintf(&b, "  left %s, worth %v:", l.Item.Says(l.Amount), l.Pence)
			for _, i := range l.Ideas(p.Needs, dishes, n%25) {
				fmt.Fprintf(&b, " %d %d %s %.3f %d;", i.Dish, i.Lesson, i.Uses, i.Share, i.Learners)
			}
			b.WriteString("\n")
		}
	}
	for n := 50; n < 150; n += 20 { // many more, twenty in a sum
		var more []any
		for k := range 20 {
			p, err := supply.Solve(stretches.Example(n + k))
			require.NoError(t, err)
			more = append(more, p, p.Unneeded())
			for _, l := range p.Left {
				more = append(more, l.Ideas(p.Needs, dishes, k))
			}
		}
		b.WriteString(golden.All(more))
	}
	golden.Same(t, "stretches.golden", b.String())
}
