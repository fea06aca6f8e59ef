package order

import (
	"cmp"
	"math"
	"math/bits"
	"slices"

	"freshapron/internal/core/exact"
)

// never is the date of what does not go off.
const never = Day(math.MaxInt32)

// none is a limit that there is not, and a cost that nothing has.
const none = int64(math.MaxInt64)

// A model is a week in whole numbers: amounts in millionths of their unit,
// prices in ten-thousandths.
type model struct {
	week       Week
	deliveries []delivery
	items      []*item // as first needed, then as first sold or in stock
}

// A delivery is a supplier's coming on a day, or what was ordered before.
type delivery struct {
	supplier int // ordered for what was ordered before
	on       Day
	charge   int64
	minimum  int64
}

// ordered stands for the supplier of what was ordered before: its deliveries
// come whatever is decided and cost nothing.
const ordered = -1

// gated reports whether it matters if the delivery comes at all.
func (d delivery) gated() bool { return d.charge > 0 || d.minimum > 0 }

// An item is what is needed of one thing, what there is of it and what can be
// had.
type item struct {
	name, unit string
	needs      []need // by day; several on a day are one
	stock      []batch
	offers     []offer // by day
}

type need struct {
	on     Day
	amount int64
}

type batch struct {
	stock  int // its place in the week's list
	amount int64
	until  Day
}

// An offer is a pack on a delivery, or a batch that was ordered before.
type offer struct {
	delivery, pack int
	stock          int // the place of the batch in the week's list

	on, until     Day
	amount, price int64
	most          int64 // none for any number
	fixed         bool  // exactly most come
}

func amountOf(n exact.Number) int64 { return n.Mul(exact.Int(amountParts)).Floor() }
func priceOf(n exact.Number) int64  { return n.Mul(exact.Int(priceParts)).Floor() }

func newModel(w Week) *model {
	m := &model{week: w}
	index := map[string]*item{}
	at := func(name, unit string) *item {
		if index[name] == nil {
			index[name] = &item{name: name, unit: unit}
			m.items = append(m.items, index[name])
		}
		return index[name]
	}
	for _, n := range w.Needs {
		it := at(n.Item, n.Unit)
		if i := slices.IndexFunc(it.needs, func(o need) bool { return o.on == n.On }); i >= 0 {
			it.needs[i].amount += amountOf(n.Amount)
		} else {
			it.needs = append(it.needs, need{n.On, amountOf(n.Amount)})
		}
	}
	for i, b := range w.Stock {
		until := never
		if b.UseBy != nil {
			until = *b.UseBy
		}
		it := at(b.Item, b.Unit)
		if b.From != nil && b.Amount.Sign() > 0 {
			m.deliveries = append(m.deliveries, delivery{supplier: ordered, on: *b.From})
			it.offers = append(it.offers, offer{delivery: len(m.deliveries) - 1, stock: i, on: *b.From, until: until, amount: amountOf(b.Amount), most: 1, fixed: true})
			continue
		}
		it.stock = append(it.stock, batch{i, amountOf(b.Amount), until})
	}
	before := len(m.deliveries)
	m.coming()
	for d := before; d < len(m.deliveries); d++ {
		on := m.deliveries[d]
		for p, pack := range w.Packs {
			if pack.Supplier != w.Suppliers[on.supplier].ID {
				continue
			}
			o := offer{delivery: d, pack: p, on: on.on, until: never, amount: amountOf(pack.Amount), price: priceOf(pack.Price), most: none}
			if pack.KeepsDays != nil {
				o.until = on.on + Day(*pack.KeepsDays)
			}
			if pack.Most != nil {
				o.most = int64(*pack.Most)
			}
			if n, ok := w.fixed(pack, on.on); ok {
				o.most, o.fixed = int64(n), true
			}
			if o.most == 0 {
				continue
			}
			it := at(pack.Item, pack.Unit)
			it.offers = append(it.offers, o)
		}
	}
	for _, it := range m.items {
		slices.SortFunc(it.needs, func(a, b need) int { return cmp.Compare(a.on, b.on) })
		slices.SortStableFunc(it.offers, func(a, b offer) int { return cmp.Compare(a.on, b.on) })
	}
	return m
}

// fixed is how many of a pack were decided to come on a day.
func (w Week) fixed(p Pack, on Day) (int, bool) {
	i := slices.IndexFunc(w.Fixed, func(f Fixed) bool {
		return f.Supplier == p.Supplier && f.On == on && f.Item == p.Item && f.Name == p.Name
	})
	if i < 0 {
		return 0, false
	}
	return w.Fixed[i].Count, true
}

// coming collects the deliveries that can be had, by day: those within the
// week, not before what is ordered today can come, whose least order can be
// reached.
func (m *model) coming() {
	var out []delivery
	for i, s := range m.week.Suppliers {
		days := slices.Compact(slices.Sorted(slices.Values(s.Delivers)))
		for _, on := range days {
			if m.inTime(s, on) && m.canReach(s, on) {
				out = append(out, delivery{i, on, priceOf(s.Charge), priceOf(s.Minimum)})
			}
		}
	}
	slices.SortStableFunc(out, func(a, b delivery) int { return cmp.Compare(a.on, b.on) })
	m.deliveries = append(m.deliveries, out...)
}

func (m *model) inTime(s Supplier, on Day) bool {
	return m.week.From <= on && on <= m.week.To && (m.week.Today == nil || *m.week.Today+Day(s.LeadDays) <= on)
}

// canReach reports whether a supplier's packs can come to its least order on a
// day.
func (m *model) canReach(s Supplier, on Day) bool {
	var most exact.Number
	for _, p := range m.week.Packs {
		n, fixed := m.week.fixed(p, on)
		switch {
		case p.Supplier != s.ID:
		case fixed:
			most = most.Add(p.Price.Mul(exact.Int(int64(n))))
		case p.Most == nil:
			return true
		default:
			most = most.Add(p.Price.Mul(exact.Int(int64(*p.Most))))
		}
	}
	return most.Sign() > 0 && !most.Less(s.Minimum)
}

// A lot is an amount with a date, and what stands behind it.
type lot struct {
	amount        int64
	from, until   Day
	price, in     int64 // what in of it cost; stock cost nothing
	offer, source int   // the offer, or -1 and the batch of the stock
}

// compareRates compares a of b with c of d, all of them 0 or more, b and d over 0.
func compareRates(a, b, c, d int64) int {
	high, low := bits.Mul64(uint64(a), uint64(d))
	high2, low2 := bits.Mul64(uint64(c), uint64(b))
	return cmp.Or(cmp.Compare(high, high2), cmp.Compare(low, low2))
}

// serve meets the item's needs from lots, each day's from what goes off first,
// then from what is cheaper, and tells take of each amount. It returns what
// is missing of each need. No other way of serving meets more, over all days
// or up to any one of them.
func (it *item) serve(lots []lot, take func(need int, l *lot, amount int64)) []int64 {
	slices.SortStableFunc(lots, func(a, b lot) int {
		return cmp.Or(cmp.Compare(a.until, b.until), compareRates(a.price, a.in, b.price, b.in), cmp.Compare(a.from, b.from))
	})
	missing := make([]int64, len(it.needs))
	for i, n := range it.needs {
		missing[i] = n.amount
		for j := range lots {
			l := &lots[j]
			if n.on < l.from || l.until < n.on || l.amount == 0 || missing[i] == 0 {
				continue
			}
			amount := min(l.amount, missing[i])
			l.amount -= amount
			missing[i] -= amount
			if take != nil {
				take(i, l, amount)
			}
		}
	}
	return missing
}

func (it *item) inStock() []lot {
	var out []lot
	for _, b := range it.stock {
		out = append(out, lot{amount: b.amount, from: -never, until: b.until, in: 1, offer: -1, source: b.stock})
	}
	return out
}

// required is what of each need can be met at all: with everything bought that
// can come.
func (it *item) required() []need {
	all := int64(0)
	for _, n := range it.needs {
		all += n.amount
	}
	lots := it.inStock()
	for i, o := range it.offers {
		amount := all
		if o.fixed || o.most <= all/o.amount {
			amount = o.most * o.amount
		}
		lots = append(lots, lot{amount: amount, from: o.on, until: o.until, price: o.price, in: o.amount, offer: i})
	}
	missing := it.serve(lots, nil)
	var out []need
	for i, n := range it.needs {
		if n.amount > missing[i] {
			out = append(out, need{n.on, n.amount - missing[i]})
		}
	}
	return out
}
