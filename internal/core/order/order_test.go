package order_test

import (
	"cmp"
	"fmt"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"freshapron/internal/core/exact"
	"freshapron/internal/core/order"
)

func day(s string) order.Day {
	d, err := order.ParseDay(s)
	if err != nil {
		panic(err)
	}
	return d
}

func n(s string) exact.Number { return exact.MustParse(s) }

func to[T any](v T) *T { return &v }

// figures are what weeks are compared by: what is missing of each item, what it
// costs and how much is bought.
type figures struct {
	short        map[string]int64
	cost, bought int64
}

func (f figures) less(g figures) bool {
	return cmp.Or(cmp.Compare(f.cost, g.cost), cmp.Compare(f.bought, g.bought)) < 0
}

// serve meets what can be met of an item's needs, trying every lot of each day
// by its date, and returns what is missing in all.
func serve(w order.Week, item string, bought map[[2]int]int64, days []order.Day, packs []order.Pack) int64 {
	type lot struct {
		from, until order.Day
		amount      int64
	}
	var lots []lot
	for _, b := range w.Stock {
		if b.Item == item {
			until := order.Day(1 << 30)
			if b.UseBy != nil {
				until = *b.UseBy
			}
			from := order.Day(0)
			if b.From != nil {
				from = *b.From
			}
			lots = append(lots, lot{from, until, b.Amount.Floor()})
		}
	}
	for at, count := range bought {
		if p := packs[at[1]]; p.Item == item {
			until := order.Day(1 << 30)
			if p.KeepsDays != nil {
				until = days[at[0]] + order.Day(*p.KeepsDays)
			}
			lots = append(lots, lot{days[at[0]], until, count * p.Amount.Floor()})
		}
	}
	slices.SortFunc(lots, func(a, b lot) int { return cmp.Compare(a.until, b.until) })
	needs := slices.Clone(w.Needs)
	slices.SortStableFunc(needs, func(a, b order.Need) int { return cmp.Compare(a.On, b.On) })
	short := int64(0)
	for _, need := range needs {
		if need.Item != item {
			continue
		}
		missing := need.Amount.Floor()
		for i := range lots {
			if lots[i].from <= need.On && need.On <= lots[i].until {
				take := min(missing, lots[i].amount)
				missing -= take
				lots[i].amount -= take
			}
		}
		short += missing
	}
	return short
}

// everyOrder goes through all orders with up to so many of each pack on each
// delivery and returns the figures of the best.
func everyOrder(w order.Week, items []string, upTo int64) *figures {
	type slot struct{ supplier, day, pack int }
	var slots []slot
	var days []order.Day
	var of []int
	for s, sup := range w.Suppliers {
		for _, d := range sup.Delivers {
			if d < w.From || d > w.To || w.Today != nil && d < *w.Today+order.Day(sup.LeadDays) {
				continue
			}
			days = append(days, d)
			of = append(of, s)
			for k, p := range w.Packs {
				if p.Supplier == sup.ID {
					slots = append(slots, slot{s, len(days) - 1, k})
				}
			}
		}
	}
	var best *figures
	counts := make([]int64, len(slots))
	var try func(i int)
	var fixedAt func(i int) int
	judge := func() {
		f := figures{short: map[string]int64{}}
		goods := make([]int64, len(days))
		bought := map[[2]int]int64{}
		for i, s := range slots {
			p := w.Packs[s.pack]
			goods[s.day] += counts[i] * p.Price.Floor()
			f.bought += counts[i] * p.Amount.Floor()
			if counts[i] > 0 {
				bought[[2]int{s.day, s.pack}] = counts[i]
			}
		}
		for d, g := range goods {
			sup := w.Suppliers[of[d]]
			if g == 0 {
				continue
			}
			if g < sup.Minimum.Floor() {
				return
			}
			f.cost += g + sup.Charge.Floor()
		}
		for _, it := range items {
			f.short[it] = serve(w, it, bought, days, w.Packs)
		}
		if best == nil {
			best = &f
			return
		}
		for _, it := range items {
			if f.short[it] > best.short[it] {
				return
			}
		}
		for _, it := range items {
			if f.short[it] < best.short[it] {
				best = &f
				return
			}
		}
		if f.less(*best) {
			best = &f
		}
	}
	fixedAt = func(i int) int {
		p := w.Packs[slots[i].pack]
		for _, f := range w.Fixed {
			if f.Supplier == p.Supplier && f.On == days[slots[i].day] && f.Item == p.Item && f.Name == p.Name {
				return f.Count
			}
		}
		return -1
	}
	try = func(i int) {
		if i == len(slots) {
			judge()
			return
		}
		most := upTo
		if m := w.Packs[slots[i].pack].Most; m != nil {
			most = min(most, int64(*m))
		}
		counts[i] = 0
		if n := fixedAt(i); n >= 0 {
			counts[i], most = int64(n), int64(n)
		}
		for ; counts[i] <= most; counts[i]++ {
			try(i + 1)
		}
		counts[i] = 0
	}
	try(0)
	return best
}

// smallWeeks are weeks that a complete search can go through: no need is over
// what four packs of any size hold.
func smallWeeks(t *rapid.T) (order.Week, []string) {
	items := []string{"leeks", "flour"}[:rapid.IntRange(1, 2).Draw(t, "items")]
	w := order.Week{From: 100, To: 106}
	if rapid.Bool().Draw(t, "today known") {
		w.Today = to(order.Day(rapid.IntRange(97, 102).Draw(t, "today")))
	}
	at := func(label string) order.Day { return order.Day(rapid.IntRange(100, 106).Draw(t, label)) }
	number := func(low, high int, label string) exact.Number {
		return exact.Int(int64(rapid.IntRange(low, high).Draw(t, label)))
	}
	some := func(low, high int, label string) *int {
		if rapid.Bool().Draw(t, label+" said") {
			return to(rapid.IntRange(low, high).Draw(t, label))
		}
		return nil
	}
	slots := 0
	for _, id := range []string{"north", "south"}[:rapid.IntRange(1, 2).Draw(t, "suppliers")] {
		s := order.Supplier{ID: id, LeadDays: rapid.IntRange(0, 2).Draw(t, "lead")}
		for _, d := range rapid.SliceOfNDistinct(rapid.IntRange(100, 107), 1, 2, rapid.ID).Draw(t, "delivers") {
			s.Delivers = append(s.Delivers, order.Day(d))
		}
		if rapid.Bool().Draw(t, "charge said") {
			s.Charge = number(1, 8, "charge")
		}
		if rapid.Bool().Draw(t, "minimum said") {
			s.Minimum = number(1, 8, "minimum")
		}
		w.Suppliers = append(w.Suppliers, s)
		for _, it := range items {
			for _, name := range []string{"small", "large"}[:rapid.IntRange(0, 2).Draw(t, "sizes")] {
				if slots += len(s.Delivers); slots > 4 {
					break
				}
				w.Packs = append(w.Packs, order.Pack{Item: it, Supplier: id, Name: name, Unit: "g",
					Amount: number(2, 6, "pack"), Price: number(1, 9, "price"), KeepsDays: some(0, 5, "keeps"), Most: some(0, 3, "most")})
			}
		}
	}
	for range rapid.IntRange(1, 4).Draw(t, "needs") {
		w.Needs = append(w.Needs, order.Need{Item: rapid.SampledFrom(items).Draw(t, "item"), Unit: "g", Amount: number(1, 3, "need"), On: at("on")})
	}
	for range rapid.IntRange(0, 2).Draw(t, "stock") {
		b := order.Batch{Item: rapid.SampledFrom(items).Draw(t, "of"), Unit: "g", Amount: number(0, 3, "held")}
		if rapid.Bool().Draw(t, "dated") {
			b.UseBy = to(at("use by") - 1)
		}
		if rapid.Bool().Draw(t, "ordered") {
			b.From = to(at("comes"))
		}
		w.Stock = append(w.Stock, b)
	}
	for range rapid.IntRange(0, 2).Draw(t, "fixed") {
		if len(w.Packs) == 0 {
			break
		}
		p := rapid.SampledFrom(w.Packs).Draw(t, "fixed pack")
		s := w.Suppliers[slices.IndexFunc(w.Suppliers, func(s order.Supplier) bool { return s.ID == p.Supplier })]
		f := order.Fixed{Supplier: p.Supplier, On: rapid.SampledFrom(s.Delivers).Draw(t, "fixed on"), Item: p.Item, Name: p.Name, Count: rapid.IntRange(0, 3).Draw(t, "fixed count")}
		if !slices.ContainsFunc(w.Fixed, func(o order.Fixed) bool { o.Count = f.Count; return o == f }) {
			w.Fixed = append(w.Fixed, f)
		}
	}
	return w, items
}

// No order meets more, or as much at less cost, or for that buys less, than the
// one that is found, and it is what it says it is.
func TestNoOrderIsBetter(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		w, items := smallWeeks(t)
		got, err := order.Solve(w)
		// No pack holds less than 2, no item needs over 12, and no least order is over 8 at 1 a pack.
		want := everyOrder(w, items, 8)
		if err != nil {
			requireImpossible(t, w, want, err)
			return
		}
		require.True(t, got.Optimal)
		require.Equal(t, got.Total, got.Bound)
		checkBooks(t, w, got)
		short := map[string]int64{}
		for _, it := range items {
			short[it] = 0
		}
		for _, s := range got.Short {
			short[s.Item] += s.Amount.Floor()
		}
		require.Equal(t, want.short, short)
		cost, bought := got.Total, int64(0)
		for _, d := range got.Deliveries {
			for _, p := range d.Packs {
				bought += p.Count * packOf(w, p.Item, d.Supplier, p.Name).Amount.Floor()
			}
		}
		require.Equal(t, want.cost, cost.Floor())
		require.Equal(t, want.bought, bought)
	})
}

// requireImpossible holds an error to what was decided about packs: one of them is
// not to be had on its day, or no order that has it keeps to the least orders.
func requireImpossible(t require.TestingT, w order.Week, best *figures, err error) {
	require.ErrorContains(t, err, "fixed[")
	for _, f := range w.Fixed {
		s := w.Suppliers[slices.IndexFunc(w.Suppliers, func(s order.Supplier) bool { return s.ID == f.Supplier })]
		gone := f.On < w.From || f.On > w.To || w.Today != nil && f.On < *w.Today+order.Day(s.LeadDays)
		if f.Count > 0 && gone {
			return
		}
	}
	require.Nil(t, best)
}

func packOf(w order.Week, item, supplier, name string) order.Pack {
	i := slices.IndexFunc(w.Packs, func(p order.Pack) bool { return p.Item == item && p.Supplier == supplier && p.Name == name })
	return w.Packs[i]
}

// checkBooks adds up an order anew: what comes and is in stock is used or left,
// what is used or missing is what is needed, nothing is used before it comes or
// after its date, every delivery keeps its supplier's rules, and the money is
// right.
func checkBooks(t require.TestingT, w order.Week, o order.Order) {
	total := exact.Int(0)
	held := map[order.Source]exact.Number{}
	until := map[order.Source]order.Day{}
	in := map[string]exact.Number{}
	for i, b := range w.Stock {
		held[order.Source{Stock: i}] = b.Amount
		in[b.Item] = in[b.Item].Add(b.Amount)
		if b.UseBy != nil {
			until[order.Source{Stock: i}] = *b.UseBy
		}
	}
	for _, d := range o.Deliveries {
		sup := w.Suppliers[slices.IndexFunc(w.Suppliers, func(s order.Supplier) bool { return s.ID == d.Supplier })]
		assert.Contains(t, sup.Delivers, d.On)
		assert.True(t, w.From <= d.On && d.On <= w.To)
		if assert.Equal(t, w.Today == nil, d.OrderBy == nil); w.Today != nil {
			assert.GreaterOrEqual(t, *d.OrderBy, *w.Today)
			assert.Equal(t, d.On, *d.OrderBy+order.Day(sup.LeadDays))
		}
		goods := exact.Int(0)
		for _, p := range d.Packs {
			pack := packOf(w, p.Item, d.Supplier, p.Name)
			assert.Equal(t, pack.Price.Mul(exact.Int(p.Count)), p.Cost)
			assert.Positive(t, p.Count)
			fixed := slices.IndexFunc(w.Fixed, func(f order.Fixed) bool { return f == order.Fixed{d.Supplier, d.On, p.Item, p.Name, int(p.Count)} })
			if pack.Most != nil && fixed < 0 {
				assert.LessOrEqual(t, p.Count, int64(*pack.Most))
			}
			goods = goods.Add(p.Cost)
			amount := pack.Amount.Mul(exact.Int(p.Count))
			in[p.Item] = in[p.Item].Add(amount)
			held[key(p.Item, d.Supplier, d.On, p.Name)] = amount
			if pack.KeepsDays != nil {
				until[key(p.Item, d.Supplier, d.On, p.Name)] = d.On + order.Day(*pack.KeepsDays)
			}
		}
		assert.False(t, goods.Less(sup.Minimum))
		total = total.Add(goods).Add(sup.Charge)
	}
	assert.Equal(t, total, o.Total)
	type on struct {
		item string
		day  order.Day
	}
	met := map[on]exact.Number{}
	out := map[string]exact.Number{}
	for _, u := range o.Uses {
		from := u.From
		if from.Supplier == "" && w.Stock[from.Stock].From != nil {
			assert.LessOrEqual(t, *w.Stock[from.Stock].From, u.On)
		}
		if from.Supplier != "" {
			assert.LessOrEqual(t, from.On, u.On)
			from = key(u.Item, from.Supplier, from.On, from.Name)
		}
		if d, ok := until[from]; ok {
			assert.LessOrEqual(t, u.On, d)
		}
		held[from] = held[from].Sub(u.Amount)
		assert.GreaterOrEqual(t, held[from].Sign(), 0)
		out[u.Item] = out[u.Item].Add(u.Amount)
		met[on{u.Item, u.On}] = met[on{u.Item, u.On}].Add(u.Amount)
	}
	for _, l := range o.Left {
		out[l.Item] = out[l.Item].Add(l.Amount)
	}
	for item, amount := range in {
		assert.Equal(t, amount, out[item], item)
	}
	for _, s := range o.Short {
		met[on{s.Item, s.On}] = met[on{s.Item, s.On}].Add(s.Amount)
		assert.NotEmpty(t, s.Why)
	}
	for _, need := range w.Needs {
		met[on{need.Item, need.On}] = met[on{need.Item, need.On}].Sub(need.Amount)
	}
	for at, rest := range met {
		assert.Zero(t, rest.Sign(), "%v", at)
	}
}

func key(item, supplier string, on order.Day, name string) order.Source {
	return order.Source{Supplier: supplier, On: on, Name: item + "/" + name}
}

// dairyWeek is a week of which the order is figured by hand.
func dairyWeek() order.Week {
	return order.Week{From: day("2026-11-30"), To: day("2026-12-11"),
		Needs: []order.Need{
			{Item: "butter", Amount: n("900"), Unit: "g", On: day("2026-12-01"), For: "8 Hazel"},
			{Item: "butter", Amount: n("300"), Unit: "g", On: day("2026-12-08"), For: "9 Rowan"}},
		Stock: []order.Batch{{Item: "butter", Amount: n("250"), Unit: "g", UseBy: to(day("2026-12-03"))}},
		Suppliers: []order.Supplier{{ID: "dairy", Delivers: []order.Day{day("2026-11-30"), day("2026-12-07"), day("2026-12-14")},
			Charge: n("3.50"), Minimum: n("5"), LeadDays: 1}},
		Packs: []order.Pack{
			{Item: "butter", Supplier: "dairy", Name: "block", Amount: n("250"), Unit: "g", Price: n("2.05"), KeepsDays: to(30), Most: to(40)},
			{Item: "cream", Supplier: "dairy", Name: "pot", Amount: n("150"), Unit: "ml", Price: n("0.80"), KeepsDays: to(5)}},
	}
}

// What is worked out of each change to the week, in a line: the total, what
// comes when, and what is missing.
func TestOrdersByHand(t *testing.T) {
	for name, c := range map[string]struct {
		change func(*order.Week)
		want   string
	}{
		// 650 g and 300 g: four blocks at once, one charge.
		"one delivery for both needs": {func(*order.Week) {}, "11.70; 2026-11-30 4 block"},
		// Kept for three days, the second need takes a delivery and a charge of its own,
		// and three blocks and two blocks are over and under 5.00: 4.10 needs one more block or
		// a pot of cream, 0.80, and another: 4.90 is not enough, 5.70 is.
		"a least order is reached with the cheapest": {func(w *order.Week) { w.Packs[0].KeepsDays = to(3) },
			"18.85; 2026-11-30 3 block; 2026-12-07 2 block, 2 pot"},
		"a charge of nothing, and no least order": {func(w *order.Week) {
			w.Packs[0].KeepsDays, w.Suppliers[0].Charge, w.Suppliers[0].Minimum = to(3), n("0"), n("0")
		}, "10.25; 2026-11-30 3 block; 2026-12-07 2 block"},
		"only what can still come": {func(w *order.Week) { w.Today = to(day("2026-11-30")) },
			"9.20; 2026-12-07 2 block, 2 pot; missing 650 on 2026-12-01: to come on 2026-11-30 it had to be ordered from dairy by 2026-11-29"},
		"nobody sells it": {func(w *order.Week) { w.Packs = w.Packs[1:] },
			"0.00; missing 650 on 2026-12-01: nobody sells it; missing 300 on 2026-12-08: nobody sells it"},
		"too few": {func(w *order.Week) { w.Packs[0].Most, w.Suppliers[0].Delivers = to(3), w.Suppliers[0].Delivers[:1] },
			"9.65; 2026-11-30 3 block; missing 200 on 2026-12-08: all is bought that can come by then and is still good; there are no more packs to be had"},
		"it goes off": {func(w *order.Week) {
			w.Packs[0].KeepsDays, w.Suppliers[0].Delivers = to(3), w.Suppliers[0].Delivers[:1]
		},
			"9.65; 2026-11-30 3 block; missing 300 on 2026-12-08: what comes on 2026-11-30 is good until 2026-12-03 only, and nothing newer comes by then"},
		"the least order can't be reached": {func(w *order.Week) {
			w.Packs = w.Packs[:1]
			w.Packs[0].Most = to(2)
		}, "0.00; missing 650 on 2026-12-01: the packs that dairy has do not come to its least order of 5.00; missing 300 on 2026-12-08: the packs that dairy has do not come to its least order of 5.00"},
		"too late": {func(w *order.Week) { w.Suppliers[0].Delivers = w.Suppliers[0].Delivers[1:] },
			"9.20; 2026-12-07 2 block, 2 pot; missing 650 on 2026-12-01: it comes on 2026-12-07 at the earliest"},
		"it never comes": {func(w *order.Week) { w.Suppliers[0].Delivers = w.Suppliers[0].Delivers[2:] },
			"0.00; missing 650 on 2026-12-01: nobody who sells it delivers between 2026-11-30 and 2026-12-01; missing 300 on 2026-12-08: nobody who sells it delivers between 2026-11-30 and 2026-12-08"},
		// 950 g: a box of 1000 g at the price of four blocks leaves 50 g as four blocks do; one of 960 g leaves 10 g.
		"of two at one price the one of which less is left": {func(w *order.Week) {
			w.Packs = append(w.Packs, order.Pack{Item: "butter", Supplier: "dairy", Name: "box", Amount: n("960"), Unit: "g", Price: n("8.20")})
		}, "11.70; 2026-11-30 1 box"},
	} {
		w := dairyWeek()
		c.change(&w)
		o, err := order.Solve(w)
		require.NoError(t, err, name)
		checkBooks(t, w, o)
		assert.True(t, o.Optimal, name)
		assert.Equal(t, c.want, inALine(o), name)
	}
}

func inALine(o order.Order) string {
	out := o.Total.Fixed(2)
	for _, d := range o.Deliveries {
		var packs []string
		for _, p := range d.Packs {
			packs = append(packs, fmt.Sprint(p.Count, " ", p.Name))
		}
		out += "; " + d.On.String() + " " + strings.Join(packs, ", ")
	}
	for _, s := range o.Short {
		out += "; missing " + s.Amount.Decimal(3) + " on " + s.On.String() + ": " + s.Why
	}
	return out
}

// What is left is put together by item and date; it is worth what it cost, and
// stock, gone off or not, nothing.
func TestLeftOver(t *testing.T) {
	w := dairyWeek()
	w.Stock = append(w.Stock,
		order.Batch{Item: "butter", Amount: n("80"), Unit: "g", UseBy: to(day("2026-11-20"))},
		order.Batch{Item: "rice", Amount: n("0"), Unit: "g"}, order.Batch{Item: "salt", Amount: n("1.5"), Unit: "kg"})
	o, err := order.Solve(w)
	require.NoError(t, err)
	assert.Equal(t, []order.Leftover{
		{Item: "butter", Amount: n("80"), Unit: "g", UseBy: to(day("2026-11-20"))},
		{Item: "butter", Amount: n("50"), Unit: "g", UseBy: to(day("2026-12-30")), Worth: n("0.41")},
		{Item: "salt", Amount: n("1.5"), Unit: "kg"}}, o.Left)
	assert.Equal(t, []order.Use{
		{Item: "butter", On: day("2026-12-01"), Amount: n("250"), From: order.Source{Stock: 0}},
		{Item: "butter", On: day("2026-12-01"), Amount: n("650"), From: order.Source{Supplier: "dairy", On: day("2026-11-30"), Name: "block"}},
		{Item: "butter", On: day("2026-12-08"), Amount: n("300"), From: order.Source{Supplier: "dairy", On: day("2026-11-30"), Name: "block"}}}, o.Uses)
}

// Large weeks are valid, and say how far they are from proof where they are not
// proved: a term, least orders far over what is needed, and packs by the gram.
func TestLargeWeeks(t *testing.T) {
	wide := busy(1, 30, 60, 2)
	for i := range wide.Suppliers {
		wide.Suppliers[i].Minimum = n("250")
	}
	fine := order.Week{From: 100, To: 106, Suppliers: []order.Supplier{{ID: "mill", Delivers: []order.Day{100, 103}, Charge: n("1")}},
		Needs: []order.Need{{Item: "flour", Unit: "g", Amount: n("21234.5"), On: 101}, {Item: "flour", Unit: "g", Amount: n("18000"), On: 105}},
		Packs: []order.Pack{{Item: "flour", Supplier: "mill", Name: "scoop", Unit: "g", Amount: n("1"), Price: n("0.003")},
			{Item: "flour", Supplier: "mill", Name: "sack", Unit: "g", Amount: n("12500"), Price: n("21")}}}
	for name, w := range map[string]order.Week{"week": busy(2, 30, 120, 2), "least orders": wide, "by the gram": fine} {
		o, err := order.Solve(w)
		require.NoError(t, err, name)
		checkBooks(t, w, o)
		assert.False(t, o.Total.Less(o.Bound), name)
		assert.Equal(t, o.Optimal, o.Total.Cmp(o.Bound) == 0, name)
		assert.Less(t, o.Total.Float(), 1.05*o.Bound.Float(), name)
	}
}
