package order

import (
	"cmp"
	"math/bits"
	"slices"
	"sort"
)

// How far the search for one item goes before it keeps only what looks best:
// each pass holds the next to the price that it found.
var widths = []int{12, 50, 4000}

const (
	maxCopies     = 5000      // of one pack, tried one by one
	maxLook       = 300       // states among which one is looked for that is as good as another
	maxItemEffort = 5_000_000 // states made and compared for one item before the last pass narrows
)

// A puzzle is one item's part of the order: what is to be met, and what can be
// bought towards it. What is in the store matters only by the last need that it
// is good for, so that goods are kept in as many classes as there are such
// needs, earliest first.
type puzzle struct {
	*item
	required []need
	sums     []int64 // sums[t] is what the first t needs take
	lasts    []int   // the last need that a class of goods is good for
	start    []int64 // by class, what the stock holds
	class    []int   // of each offer; -1 where no need can be met from it
	before   []int   // of each offer, the first need that it is there for
}

func newPuzzle(it *item) *puzzle {
	p := &puzzle{item: it, required: it.required(), sums: []int64{0}}
	for _, n := range p.required {
		p.sums = append(p.sums, p.sums[len(p.sums)-1]+n.amount)
	}
	var lasts []int
	for _, b := range it.stock {
		lasts = append(lasts, p.lastBy(b.until))
	}
	for _, o := range it.offers {
		p.before = append(p.before, sort.Search(len(p.required), func(i int) bool { return o.on <= p.required[i].on }))
		lasts = append(lasts, p.lastBy(o.until))
	}
	p.lasts = slices.Compact(slices.Sorted(slices.Values(lasts)))
	p.lasts = slices.DeleteFunc(p.lasts, func(l int) bool { return l < 0 })
	p.start = make([]int64, len(p.lasts))
	for _, b := range it.stock {
		if c := slices.Index(p.lasts, p.lastBy(b.until)); c >= 0 {
			p.start[c] += b.amount
		}
	}
	p.settle(p.start, 0)
	for i, o := range it.offers {
		class := -1
		if last := p.lastBy(o.until); last >= p.before[i] {
			class = slices.Index(p.lasts, last)
		}
		p.class = append(p.class, class)
	}
	return p
}

// lastBy is the last need on or before a day, -1 where there is none.
func (p *puzzle) lastBy(d Day) int {
	return sort.Search(len(p.required), func(i int) bool { return d < p.required[i].on }) - 1
}

// settle brings what is in the store before a need into the one form that all
// stores of the same use have: nothing that has gone off, nothing that no need
// can take, and where the needs up to one are all met, all of it in its class.
func (p *puzzle) settle(goods []int64, next int) {
	sum := int64(0)
	for c, last := range p.lasts {
		if last < next {
			goods[c] = 0
			continue
		}
		sum += goods[c]
		if room := p.sums[last+1] - p.sums[next]; sum >= room {
			clear(goods[:c])
			goods[c], sum = room, room
		}
	}
}

// A state is what may be in the store at some moment, and what was paid for it.
// After the goods by class stands what has been spent on each delivery whose
// least order is looked at, up to that least order.
type state struct {
	cost, bought int64
	held         []int64
	step         int // the last purchase, -1 for none
}

// A purchase is so many of an offer after another purchase.
type purchase struct {
	before, offer int
	count         int64
}

// A bill is what an item costs, what is bought for it, and that no way costs
// less than lower.
type bill struct {
	cost, bought, lower int64
	counts              []int64 // by offer
	spent               []int64 // by delivery of the goal, up to its least order
	effort              int     // how much had to be looked at to find it
}

// A goal are deliveries that have to reach a least order.
type goal struct {
	of    map[int]int // the place of a delivery in least
	least []int64
}

// cheapest meets what is required at the least cost, and for that with the
// least amount bought, from the deliveries that are open; false where it can't
// be met. Where it is not thorough it leaves the last pass out.
func (p *puzzle) cheapest(open []bool, thorough bool) (bill, bool) {
	best, ok := bill{}, false
	ceiling, lower, effort := none, int64(0), 0
	passes := widths
	if !thorough {
		passes = widths[:2]
	}
	for _, width := range passes {
		t := trip{puzzle: p, open: open, ceiling: ceiling, width: width, lower: none}
		if found := t.run(); len(found) > 0 {
			best, ok, ceiling = found[0], true, found[0].cost
		}
		effort += t.effort
		if lower = t.lower; lower == none {
			break
		}
	}
	best.lower, best.effort = min(best.cost, lower), effort
	return best, ok
}

// options are all ways of meeting what is required that may be worth it for
// what they spend on the deliveries of a goal, up to a cost. The second result
// is below the cost of every way that was left out, none where none was.
func (p *puzzle) options(open []bool, g *goal, ceiling int64, width int) (ways []bill, lower int64, effort int) {
	t := trip{puzzle: p, open: open, goal: g, ceiling: ceiling, width: width, lower: none}
	ways = t.run()
	return ways, t.lower, t.effort
}

// A trip goes through the window once, from delivery to need to delivery.
type trip struct {
	*puzzle
	open    []bool
	goal    *goal // nil where no least order is looked at
	ceiling int64 // nothing that must cost more is kept
	width   int   // how many states are kept
	lower   int64 // below everything that was not kept for its number
	effort  int   // states made and compared

	// By offer, what of the fixed ones from there on is useful, and what they cost.
	sure, due []int64

	best  []int // by offer, the later or same open offer with the best price for its amount; -1 for none
	steps []purchase
	block []int64
}

func (t *trip) run() []bill {
	t.best = make([]int, len(t.offers)+1)
	t.sure, t.due = make([]int64, len(t.offers)+1), make([]int64, len(t.offers)+1)
	t.best[len(t.offers)] = -1
	for i := len(t.offers) - 1; i >= 0; i-- {
		t.best[i], t.sure[i], t.due[i] = t.best[i+1], t.sure[i+1], t.due[i+1]
		if o := t.offers[i]; o.fixed {
			t.due[i] += o.most * o.price
			if t.useful(i) {
				t.sure[i] += o.most * o.amount
			}
			continue
		}
		if b := t.best[i]; t.useful(i) && (b < 0 || compareRates(t.offers[i].price, t.offers[i].amount, t.offers[b].price, t.offers[b].amount) < 0) {
			t.best[i] = i
		}
	}
	held := t.alloc()
	copy(held, t.start)
	states := []state{{held: held, step: -1}}
	at := 0
	for next := range len(t.required) + 1 {
		for ; at < len(t.offers) && t.before[at] <= next; at++ {
			if t.useful(at) || t.counts(at) || t.offers[at].fixed {
				states = t.buy(states, at, next)
			}
		}
		if next < len(t.required) {
			states = t.meet(states, next, at)
		}
	}
	bills := make([]bill, len(states))
	for i, s := range states {
		bills[i] = t.bill(s)
	}
	return bills
}

func (t *trip) useful(offer int) bool {
	return t.class[offer] >= 0 && t.open[t.offers[offer].delivery]
}

// counts reports whether an offer counts towards a least order, needed or not.
func (t *trip) counts(offer int) bool {
	if t.goal == nil {
		return false
	}
	_, ok := t.goal.of[t.offers[offer].delivery]
	return ok
}

// alloc returns room for what one state holds.
func (t *trip) alloc() []int64 {
	n := len(t.lasts)
	if t.goal != nil {
		n += len(t.goal.least)
	}
	if len(t.block) < n {
		t.block = make([]int64, 256*max(n, 1))
	}
	out := t.block[:n:n]
	t.block = t.block[n:]
	return out
}

// toPay is below what has still to be paid for the needs from next on, given
// what is held, when offers before at are gone; false where nothing is to be
// had.
func (t *trip) toPay(held []int64, next, at int) (int64, bool) {
	open := t.sums[len(t.sums)-1] - t.sums[next] - t.sure[at]
	for _, h := range held[:len(t.lasts)] {
		open -= h
	}
	due := t.due[at]
	if open <= 0 {
		return due, true
	}
	b := t.best[at]
	if b < 0 {
		return 0, false
	}
	high, low := bits.Mul64(uint64(open), uint64(t.offers[b].price))
	if high >= uint64(t.offers[b].amount) {
		return 0, false // more than can be written
	}
	pay, rest := bits.Div64(high, low, uint64(t.offers[b].amount))
	if rest > 0 {
		pay++
	}
	return due + int64(pay), true
}

// buy adds to the states those with any number of an offer.
func (t *trip) buy(states []state, at, next int) []state {
	o := t.offers[at]
	if o.fixed {
		return t.prune(t.take(states, at, next), next, at+1)
	}
	var out []state
	keep := func(s state) {
		if pay, ok := t.toPay(s.held, next, at+1); ok && s.cost+pay <= t.ceiling {
			out = append(out, s)
		}
	}
	stride := t.stride(at, next)
	for _, s := range states {
		keep(s)
		if stride > 1 {
			pay, _ := t.toPay(s.held, next, at)
			t.lower = min(t.lower, s.cost+pay)
		}
		held := s.held
		for n := int64(0); n < o.most; {
			step := min(stride, o.most-n)
			more := t.with(held, at, next, step)
			n += step
			if slices.Equal(more, held) || s.cost+n*o.price > t.ceiling {
				break
			}
			held = more
			t.steps = append(t.steps, purchase{s.step, at, n})
			t.effort++
			keep(state{s.cost + n*o.price, s.bought + n*o.amount, held, len(t.steps) - 1})
		}
	}
	return t.prune(out, next, at+1)
}

// take adds to the states what comes of a fixed offer.
func (t *trip) take(states []state, at, next int) []state {
	o := t.offers[at]
	out := make([]state, 0, len(states))
	for _, s := range states {
		t.steps = append(t.steps, purchase{s.step, at, o.most})
		t.effort++
		s.held, s.step = t.with(s.held, at, next, o.most), len(t.steps)-1
		s.cost += o.most * o.price
		s.bought += o.most * o.amount
		if pay, ok := t.toPay(s.held, next, at+1); ok && s.cost+pay <= t.ceiling {
			out = append(out, s)
		}
	}
	return out
}

// stride is by how many of an offer the search goes: one by one, unless that
// takes too long.
func (t *trip) stride(at, next int) int64 {
	o := t.offers[at]
	copies := int64(0)
	if t.useful(at) {
		copies = (t.sums[len(t.sums)-1] - t.sums[next]) / o.amount
	}
	if t.counts(at) {
		copies = max(copies, t.goal.least[t.goal.of[o.delivery]]/o.price)
	}
	return 1 + min(copies, o.most)/maxCopies
}

// with is what is held after so many of an offer more.
func (t *trip) with(held []int64, at, next int, n int64) []int64 {
	o := t.offers[at]
	more := t.alloc()
	copy(more, held)
	if t.useful(at) {
		more[t.class[at]] += n * o.amount
		t.settle(more[:len(t.lasts)], next)
	}
	if t.counts(at) {
		g := t.goal.of[o.delivery]
		more[len(t.lasts)+g] = min(t.goal.least[g], held[len(t.lasts)+g]+n*o.price)
	}
	return more
}

// meet takes a need from every state, from what goes off first, and drops the
// states that have too little.
func (t *trip) meet(states []state, next, at int) []state {
	out := states[:0]
	for _, s := range states {
		held := t.alloc()
		copy(held, s.held)
		amount := t.required[next].amount
		for c := range t.lasts {
			take := min(held[c], amount)
			held[c] -= take
			amount -= take
		}
		if amount > 0 {
			continue
		}
		s.held = held
		if _, ok := t.toPay(held, next+1, at); ok {
			out = append(out, s)
		}
	}
	return t.prune(out, next+1, at)
}

// prune drops the states that another is as good as in everything, and where
// too many are left, those that look dearest.
func (t *trip) prune(states []state, after, at int) []state {
	slices.SortStableFunc(states, func(a, b state) int {
		return cmp.Or(cmp.Compare(a.cost, b.cost), cmp.Compare(a.bought, b.bought), slices.Compare(b.held, a.held))
	})
	kept := states[:0]
next:
	for _, s := range states {
		for i := len(kept) - 1; i >= max(0, len(kept)-maxLook); i-- {
			t.effort++
			if t.covers(kept[i].held, s.held) {
				continue next
			}
		}
		kept = append(kept, s)
	}
	if t.effort > maxItemEffort {
		t.width = min(t.width, widths[1])
	}
	if len(kept) <= t.width {
		return kept
	}
	expected := func(s state) int64 {
		pay, _ := t.toPay(s.held, after, at)
		return s.cost + pay
	}
	richest := slices.MaxFunc(kept, func(a, b state) int { return t.compareHeld(a.held, b.held) })
	slices.SortStableFunc(kept, func(a, b state) int { return cmp.Compare(expected(a), expected(b)) })
	t.lower = min(t.lower, expected(kept[t.width]))
	return append(kept[:t.width], richest)
}

// compareHeld compares stores by what is good for longest, then by what is good
// for shorter. The largest is the one with everything bought, from which every
// need can be met.
func (t *trip) compareHeld(a, b []int64) int {
	for c := len(t.lasts) - 1; c >= 0; c-- {
		if d := cmp.Compare(a[c], b[c]); d != 0 {
			return d
		}
	}
	return 0
}

// covers reports whether what is held can stand in for another store: as much
// of every date or later, and as much spent.
func (t *trip) covers(held, other []int64) bool {
	sum := int64(0)
	for c := len(t.lasts) - 1; c >= 0; c-- {
		if sum += held[c] - other[c]; sum < 0 {
			return false
		}
	}
	for g := len(t.lasts); g < len(held); g++ {
		if held[g] < other[g] {
			return false
		}
	}
	return true
}

func (t *trip) bill(s state) bill {
	b := bill{cost: s.cost, bought: s.bought, lower: s.cost, counts: make([]int64, len(t.offers)), spent: s.held[len(t.lasts):]}
	for i := s.step; i >= 0; i = t.steps[i].before {
		b.counts[t.steps[i].offer] = t.steps[i].count
	}
	return b
}
