package order

import (
	"cmp"
	"slices"
)

// maxEffort is how much the search looks at before it stops and says how far it
// is from proof: some seconds.
const maxEffort = 150_000_000

// A fate is what is decided of a delivery.
type fate byte

const (
	undecided fate = iota
	comes
	staysAway
)

// A search tries which deliveries are to come. Of a part of the tries it knows
// that they can't cost less than the charges of those that come and, item by
// item, the cheapest way from all that may still come; whatever is not below
// the best order so far is left out.
type search struct {
	*model
	puzzles []*puzzle
	known   []map[string]memo // by item, what was worked out for the deliveries that matter to it
	effort  int               // states of items made and compared

	found  bool
	best   total
	counts [][]int64 // of the best order, by item and offer
	lower  int64     // below every order that was given up unproved
}

type memo struct {
	bill
	ok bool
}

// A total is what orders are compared by.
type total struct{ cost, bought int64 }

func (a total) less(b total) bool {
	return cmp.Or(cmp.Compare(a.cost, b.cost), cmp.Compare(a.bought, b.bought)) < 0
}

func newSearch(m *model) *search {
	s := &search{model: m, lower: none}
	for _, it := range m.items {
		s.puzzles = append(s.puzzles, newPuzzle(it))
		s.known = append(s.known, map[string]memo{})
	}
	return s
}

// run finds the best order.
func (s *search) run() {
	fates := make([]fate, len(s.deliveries))
	for i, d := range s.deliveries {
		if !d.gated() || s.isFixed(i) {
			fates[i] = comes
		}
	}
	if bills, ok := s.solve(fates, nil); ok {
		s.explore(fates, bills)
	}
}

// isFixed reports whether something was decided to come on a delivery.
func (s *search) isFixed(delivery int) bool {
	return slices.ContainsFunc(s.items, func(it *item) bool {
		return slices.ContainsFunc(it.offers, func(o offer) bool { return o.delivery == delivery && o.fixed })
	})
}

// solve works out every item from the deliveries that may come, given what was
// found when more might; false where something can't be met.
func (s *search) solve(fates []fate, before []bill) ([]bill, bool) {
	open := make([]bool, len(fates))
	for d, f := range fates {
		open[d] = f != staysAway
	}
	bills := make([]bill, len(s.puzzles))
	for i, p := range s.puzzles {
		if before != nil && !slices.ContainsFunc(p.offers, func(o offer) bool { return !open[o.delivery] && before[i].buys(p, o.delivery) }) {
			bills[i] = before[i]
			continue
		}
		b := s.solveOne(i, open)
		if !b.ok {
			return nil, false
		}
		bills[i] = b.bill
	}
	return bills, true
}

func (s *search) solveOne(i int, open []bool) memo {
	p := s.puzzles[i]
	key := make([]byte, 0, len(p.offers))
	for k, o := range p.offers {
		if k > 0 && o.delivery == p.offers[k-1].delivery {
			continue
		}
		if open[o.delivery] {
			key = append(key, '1')
		} else {
			key = append(key, '0')
		}
	}
	if m, ok := s.known[i][string(key)]; ok {
		return m
	}
	b, ok := p.cheapest(open, s.effort < maxEffort/2)
	s.effort += b.effort
	s.known[i][string(key)] = memo{b, ok}
	return memo{b, ok}
}

// buys reports whether an item is bought on a delivery.
func (b bill) buys(p *puzzle, delivery int) bool {
	for i, o := range p.offers {
		if o.delivery == delivery && b.counts[i] > 0 {
			return true
		}
	}
	return false
}

// bound is what no order of a part of the tries is below. It is tight on the
// amount bought only where it is one on the cost of the items.
func (s *search) bound(fates []fate, bills []bill) total {
	var items total
	least := int64(0)
	charges := int64(0)
	for _, b := range bills {
		items.cost += b.lower
		items.bought += b.bought
		if b.lower < b.cost {
			items.bought = 0
		}
	}
	for d, f := range fates {
		if f == comes {
			charges += s.deliveries[d].charge
			least += s.deliveries[d].minimum
		}
	}
	if least > items.cost {
		return total{charges + least, 0}
	}
	return total{charges + items.cost, items.bought}
}

// explore goes through the tries that are left with some fates decided.
func (s *search) explore(fates []fate, bills []bill) {
	bound := s.bound(fates, bills)
	if s.found && !bound.less(s.best) {
		return
	}
	s.effort += len(s.puzzles) * len(s.deliveries) // what it takes to look at one part
	if s.effort > maxEffort && s.found {
		s.lower = min(s.lower, bound.cost)
		return
	}
	spent := s.spent(bills)
	reached := true
	branch := -1
	for d, f := range fates {
		switch {
		case f == comes:
			reached = reached && spent[d] >= s.deliveries[d].minimum
		case f == undecided && spent[d] > 0 && (branch < 0 || s.deliveries[branch].charge < s.deliveries[d].charge):
			branch = d
		}
	}
	if branch < 0 {
		if reached {
			s.record(fates, bills)
			s.doubt(bound, bills)
			return
		}
		branch = slices.Index(fates, undecided)
	}
	if branch < 0 {
		s.fill(fates, bills)
		return
	}
	with, without := slices.Clone(fates), slices.Clone(fates)
	with[branch], without[branch] = comes, staysAway
	fewer, ok := s.solve(without, bills)
	if ok && s.bound(without, fewer).less(s.bound(with, bills)) {
		s.explore(without, fewer)
		ok = false
	}
	s.explore(with, bills)
	if ok {
		s.explore(without, fewer)
	}
}

// spent is what the goods of each delivery come to.
func (s *search) spent(bills []bill) []int64 {
	out := make([]int64, len(s.deliveries))
	for i, p := range s.puzzles {
		for k, o := range p.offers {
			out[o.delivery] += bills[i].counts[k] * o.price
		}
	}
	return out
}

// doubt keeps the bound of a part of the tries where an item's way is not proved
// to be its cheapest.
func (s *search) doubt(bound total, bills []bill) {
	if slices.ContainsFunc(bills, func(b bill) bool { return b.lower < b.cost }) {
		s.lower = min(s.lower, bound.cost)
	}
}

// record takes an order where it is the best so far. A delivery that brings
// nothing does not come.
func (s *search) record(fates []fate, bills []bill) {
	var t total
	for _, b := range bills {
		t.cost += b.cost
		t.bought += b.bought
	}
	for d, goods := range s.spent(bills) {
		if fates[d] == comes && goods > 0 {
			t.cost += s.deliveries[d].charge
		}
	}
	if s.found && !t.less(s.best) {
		return
	}
	s.found, s.best, s.counts = true, t, nil
	for _, b := range bills {
		s.counts = append(s.counts, b.counts)
	}
}
