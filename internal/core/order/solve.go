package order

import (
	"cmp"
	"fmt"
	"slices"

	"freshapron/internal/core/exact"
)

// Solve works out the order for a week, or returns what [Week.Check] says of
// it. What can be met is met at any price; then the total of prices and
// charges is the least that was found, and for that what is bought. Equal weeks
// give equal orders.
func Solve(w Week) (Order, error) {
	if err := w.Check(); err != nil {
		return Order{}, err
	}
	m := newModel(w)
	if err := m.checkFixed(); err != nil {
		return Order{}, err
	}
	s := newSearch(m)
	s.run()
	lower := min(s.lower, s.best.cost)
	o := Order{Total: money(s.best.cost), Bound: money(lower), Optimal: lower == s.best.cost}
	o.Deliveries = s.comers()
	for i := range s.puzzles {
		s.account(i, &o)
	}
	slices.SortStableFunc(o.Uses, func(a, b Use) int { return cmp.Compare(a.On, b.On) })
	slices.SortStableFunc(o.Short, func(a, b Short) int { return cmp.Compare(a.On, b.On) })
	return o, nil
}

func money(n int64) exact.Number  { return exact.Int(n).Div(exact.Int(priceParts)) }
func amount(n int64) exact.Number { return exact.Int(n).Div(exact.Int(amountParts)) }

// comers are the deliveries of the best order.
func (s *search) comers() []Delivery {
	var out []Delivery
	for d, on := range s.deliveries {
		if on.supplier == ordered {
			continue
		}
		supplier := s.week.Suppliers[on.supplier]
		del := Delivery{Supplier: supplier.ID, On: on.on, Charge: supplier.Charge}
		if s.week.Today != nil {
			by := on.on - Day(supplier.LeadDays)
			del.OrderBy = &by
		}
		for i, p := range s.puzzles {
			for k, o := range p.offers {
				if n := s.counts[i][k]; o.delivery == d && n > 0 {
					del.Packs = append(del.Packs, Packs{p.name, s.week.Packs[o.pack].Name, n, money(n * o.price)})
				}
			}
		}
		if del.Packs != nil {
			out = append(out, del)
		}
	}
	return out
}

// account adds to the order what an item's needs are met from, what is left of
// it and what is missing.
func (s *search) account(i int, to *Order) {
	p := s.puzzles[i]
	lots := p.inStock()
	for k, o := range p.offers {
		switch n := s.counts[i][k]; {
		case n > 0 && s.deliveries[o.delivery].supplier == ordered:
			lots = append(lots, lot{amount: o.amount, from: o.on, until: o.until, in: 1, offer: -1, source: o.stock})
		case n > 0:
			lots = append(lots, lot{amount: n * o.amount, from: o.on, until: o.until, price: o.price, in: o.amount, offer: k})
		}
	}
	missing := p.serve(lots, func(n int, l *lot, a int64) {
		to.Uses = append(to.Uses, Use{p.name, p.needs[n].on, amount(a), s.source(p, l)})
	})
	for n, m := range missing {
		if m > 0 {
			to.Short = append(to.Short, Short{p.name, p.needs[n].on, amount(m), p.unit, s.why(p, p.needs[n].on)})
		}
	}
	for _, l := range lots {
		if l.amount == 0 {
			continue
		}
		worth := money(l.price).Mul(amount(l.amount)).Div(amount(l.in))
		if last := len(to.Left) - 1; last >= 0 && to.Left[last].Item == p.name && same(to.Left[last].UseBy, l.until) {
			to.Left[last].Amount = to.Left[last].Amount.Add(amount(l.amount))
			to.Left[last].Worth = to.Left[last].Worth.Add(worth)
			continue
		}
		left := Leftover{Item: p.name, Amount: amount(l.amount), Unit: p.unit, Worth: worth}
		if until := l.until; until != never {
			left.UseBy = &until
		}
		to.Left = append(to.Left, left)
	}
}

func same(d *Day, until Day) bool {
	if d == nil {
		return until == never
	}
	return *d == until
}

func (s *search) source(p *puzzle, l *lot) Source {
	if l.offer < 0 {
		return Source{Stock: l.source}
	}
	pack := s.week.Packs[p.offers[l.offer].pack]
	return Source{Supplier: pack.Supplier, On: l.from, Name: pack.Name}
}

// why says why an item can't be met in full on a day.
func (s *search) why(p *puzzle, on Day) string {
	var sellers []Supplier
	for _, sup := range s.week.Suppliers {
		if slices.ContainsFunc(s.week.Packs, func(k Pack) bool { return k.Item == p.name && k.Supplier == sup.ID && (k.Most == nil || *k.Most > 0) }) {
			sellers = append(sellers, sup)
		}
	}
	if len(sellers) == 0 {
		return "nobody sells it"
	}
	var good, spoiled *offer
	for i, o := range p.offers {
		switch {
		case o.on > on:
		case o.until < on:
			spoiled = &p.offers[i]
		default:
			good = &p.offers[i]
		}
	}
	switch {
	case good != nil:
		return "all is bought that can come by then and is still good; there are no more packs to be had"
	case spoiled != nil:
		return fmt.Sprintf("what comes on %s is good until %s only, and nothing newer comes by then", spoiled.on, spoiled.until)
	}
	return s.whyNot(p, on, sellers)
}

// whyNot says why nothing of an item comes by a day though it is sold.
func (s *search) whyNot(p *puzzle, on Day, sellers []Supplier) string {
	late, under := "", ""
	for _, sup := range sellers {
		for _, d := range sup.Delivers {
			switch {
			case d < s.week.From || d > on:
			case !s.inTime(sup, d):
				late = fmt.Sprintf("to come on %s it had to be ordered from %s by %s", d, sup.ID, d-Day(sup.LeadDays))
			case !s.canReach(sup, d):
				under = fmt.Sprintf("the packs that %s has do not come to its least order of %s", sup.ID, sup.Minimum.Fixed(2))
			}
		}
	}
	switch {
	case under != "":
		return under
	case late != "":
		return late
	case len(p.offers) > 0:
		return fmt.Sprintf("it comes on %s at the earliest", p.offers[0].on)
	}
	return fmt.Sprintf("nobody who sells it delivers between %s and %s", s.week.From, on)
}
