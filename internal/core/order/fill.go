package order

import (
	"cmp"
	"slices"
)

// How many ways of reaching least orders are kept beside each other: a first
// pass holds the second to the cost that it found.
var mixWidths = []int{100, 1000}

// A mix is a choice of one way for each of the first items.
type mix struct {
	total
	spent  []int64 // on each delivery of the goal, up to its least order
	before *mix
	way    *bill
}

// fill finds the best order from deliveries of which every fate is decided,
// where the cheapest way of each item leaves one under its least order: other
// ways of buying the same, and more than is needed.
func (s *search) fill(fates []fate, bills []bill) {
	g := &goal{of: map[int]int{}}
	open := make([]bool, len(fates))
	charges := int64(0)
	for d, f := range fates {
		if open[d] = f == comes; !open[d] {
			continue
		}
		charges += s.deliveries[d].charge
		if least := s.deliveries[d].minimum; least > 0 {
			g.of[d] = len(g.least)
			g.least = append(g.least, least)
		}
	}
	p := part{search: s, fates: fates, bills: bills, open: open, goal: g, charges: charges, rest: make([]int64, len(bills)+1)}
	for i := len(bills) - 1; i >= 0; i-- {
		p.rest[i] = p.rest[i+1] + bills[i].lower
	}
	bound := max(s.bound(fates, bills).cost, p.subsidise())
	lower := none
	for _, width := range mixWidths {
		if bound > s.best.cost {
			return
		}
		var mixes []*mix
		if mixes, lower = p.mix(width); len(mixes) > 0 {
			s.record(fates, mixes[0].ways(len(bills)))
		}
		if lower == none {
			s.doubt(total{cost: bound}, bills)
			return
		}
	}
	s.lower = min(s.lower, max(charges+lower, bound))
}

// A part of the tries is one in which every fate is decided.
type part struct {
	*search
	fates   []fate
	bills   []bill
	open    []bool
	goal    *goal
	charges int64
	rest    []int64 // what the items from one on cost at least
}

// subsidise looks for a good order, and for a bound, by making the deliveries
// cheaper that don't reach their least order, and dearer again those that do:
// what is then spent on each, at its true price, and topped up, is an order;
// and no order costs less than the items at the lower prices and the reductions
// of all that has to be spent (a Lagrange relaxation of the least orders).
func (p *part) subsidise() int64 {
	off := make([]int64, len(p.goal.least)) // of each price, in parts of whole
	bills := p.bills
	bound := int64(0)
	for step := int64(whole / 2); step > 2; step = step * 2 / 3 {
		at := p.charges
		for i := range bills {
			at += bills[i].lower
			bills[i].cost = p.paid(i, bills[i])
		}
		for k, least := range p.goal.least {
			at += least * off[k] / whole
		}
		bound = max(bound, at)
		spent := p.spent(bills)
		p.record(p.fates, p.topUp(bills, p.goal))
		for d, k := range p.goal.of {
			if spent[d] < p.goal.least[k] {
				off[k] = min(whole, off[k]+step)
			} else {
				off[k] = max(0, off[k]-step)
			}
		}
		bills = p.reduced(off)
	}
	return bound
}

// whole is a price of which nothing is taken off.
const whole = 1024

// reduced are the cheapest ways with something off the prices of the goal's
// deliveries.
func (p *part) reduced(off []int64) []bill {
	bills := slices.Clone(p.bills)
	for i, z := range p.puzzles {
		if !p.goal.concerns(z) {
			continue
		}
		it := *z.item
		it.offers = slices.Clone(it.offers)
		for j := range it.offers {
			if k, ok := p.goal.of[it.offers[j].delivery]; ok {
				it.offers[j].price = it.offers[j].price * (whole - off[k]) / whole
			}
		}
		cheaper := *z
		cheaper.item = &it
		if b, ok := cheaper.cheapest(p.open, p.effort < maxEffort/2); ok {
			bills[i] = b
			p.effort += b.effort
		}
	}
	return bills
}

// concerns reports whether an item can be bought on a delivery of the goal.
func (g *goal) concerns(p *puzzle) bool {
	return slices.ContainsFunc(p.offers, func(o offer) bool { _, ok := g.of[o.delivery]; return ok })
}

// paid is what is paid for a way of buying an item.
func (p *part) paid(i int, b bill) int64 {
	sum := int64(0)
	for k, n := range b.counts {
		sum += n * p.puzzles[i].offers[k].price
	}
	return sum
}

// mix goes from item to item and keeps so many ways of buying the items so far
// that may be worth it. It returns those that reach every least order,
// cheapest first, and what is below the cost of all that were not kept.
func (p *part) mix(width int) ([]*mix, int64) {
	ceiling, lower := p.best.cost-p.charges, none
	mixes := []*mix{{spent: make([]int64, len(p.goal.least))}}
	for i, z := range p.puzzles {
		if p.effort > maxEffort/4 {
			return nil, p.rest[0]
		}
		ways := p.bills[i : i+1]
		if p.goal.concerns(z) {
			var left int64
			var effort int
			ways, left, effort = z.options(p.open, p.goal, p.bills[i].lower+ceiling-p.rest[0], width)
			if left != none {
				lower = min(lower, p.rest[0]-p.bills[i].lower+left)
			}
			p.effort += effort
		}
		var next []*mix
		for _, m := range mixes {
			for w := range ways {
				n := m.and(&ways[w], p.goal)
				if n.cost+max(p.rest[i+1], p.goal.missing(n.spent)) <= ceiling {
					next = append(next, n)
				}
			}
		}
		var dropped int64
		mixes, dropped = p.prune(next, p.rest[i+1], width)
		lower = min(lower, dropped)
	}
	return slices.DeleteFunc(mixes, func(m *mix) bool { return p.goal.missing(m.spent) > 0 }), lower
}

func (m *mix) and(way *bill, g *goal) *mix {
	n := &mix{total: total{m.cost + way.cost, m.bought + way.bought}, spent: slices.Clone(m.spent), before: m, way: way}
	for k, sp := range way.spent {
		n.spent[k] = min(g.least[k], n.spent[k]+sp)
	}
	return n
}

func (m *mix) ways(n int) []bill {
	out := make([]bill, n)
	for i := n - 1; i >= 0; i-- {
		out[i] = *m.way
		m = m.before
	}
	return out
}

// missing is what has still to be spent for all least orders.
func (g *goal) missing(spent []int64) int64 {
	sum := int64(0)
	for k, least := range g.least {
		sum += least - min(spent[k], least)
	}
	return sum
}

// prune drops the mixes that another is as good as, and where more than so many
// are left those that look dearest; the second result is below all of these.
func (p *part) prune(mixes []*mix, rest int64, width int) ([]*mix, int64) {
	byCost := func(a, b *mix) int {
		return cmp.Or(cmp.Compare(a.cost, b.cost), cmp.Compare(a.bought, b.bought), slices.Compare(b.spent, a.spent))
	}
	slices.SortStableFunc(mixes, byCost)
	kept := mixes[:0]
	p.effort += len(mixes)
next:
	for _, m := range mixes {
		for i := len(kept) - 1; i >= max(0, len(kept)-maxLook); i-- {
			p.effort++
			if covers(kept[i].spent, m.spent) {
				continue next
			}
		}
		kept = append(kept, m)
	}
	if len(kept) <= width {
		return kept, none
	}
	expected := func(m *mix) int64 { return m.cost + max(rest, p.goal.missing(m.spent)) }
	slices.SortStableFunc(kept, func(a, b *mix) int { return cmp.Compare(expected(a), expected(b)) })
	dropped := expected(kept[width])
	kept = kept[:width]
	slices.SortStableFunc(kept, byCost)
	return kept, dropped
}

// covers reports whether as much is spent everywhere.
func covers(spent, other []int64) bool {
	for i, s := range spent {
		if s < other[i] {
			return false
		}
	}
	return true
}

// topUp adds packs to the cheapest ways until every least order is reached: the
// cheapest that reaches it alone or, where none does, the dearest.
func (s *search) topUp(bills []bill, g *goal) []bill {
	bills = slices.Clone(bills)
	for d, spent := range s.spent(bills) {
		k, ok := g.of[d]
		if !ok {
			continue
		}
		for missing := g.least[k] - spent; missing > 0; {
			item, at := -1, -1
			var price int64
			for i, p := range s.puzzles {
				for j, o := range p.offers {
					if o.delivery != d || bills[i].counts[j] >= o.most {
						continue
					}
					if at < 0 || better(o.price, price, missing) {
						item, at, price = i, j, o.price
					}
				}
			}
			o := s.puzzles[item].offers[at]
			n := min(max(1, missing/o.price), o.most-bills[item].counts[at])
			b := &bills[item]
			b.counts = slices.Clone(b.counts)
			b.counts[at] += n
			b.cost += n * o.price
			b.bought += n * o.amount
			missing -= n * o.price
		}
	}
	return bills
}

// better reports whether a pack at a price is the better next one to another
// where so much is missing.
func better(price, other, missing int64) bool {
	if reaches := price >= missing; reaches != (other >= missing) {
		return reaches
	}
	if price >= missing {
		return price < other
	}
	return price > other
}
