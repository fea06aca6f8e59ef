// Package constraint decides whether whole numbers can be found that keep a
// set of rules, by lazy clause generation (Ohrimenko, Stuckey and Codish,
// 2009): every bound that a rule moves is explained by the bounds that moved
// it, and every dead end becomes a clause that rules out more than itself.
//
// The rules are clauses of bounds, differences between two numbers that may
// hang on a bound, and resources of limited capacity. The package knows
// nothing of lessons. A Solver is a function of what it is given: no clock, no
// randomness. It may be used by one goroutine at a time.
package constraint

import (
	"math"
	"slices"
)

// A Var is a number that is sought.
type Var int32

// A Lit says that a number is at least, or at most, some value. The zero Lit
// is Always.
type Lit struct {
	bound int32 // twice the number and 2 for at least, one more for at most; 0 is always true
	k     int32 // the value; its negative for at most
}

// Always is true.
var Always = Lit{}

// AtLeast says v ≥ k.
func AtLeast(v Var, k int) Lit { return Lit{least(v), int32(k)} }

// AtMost says v ≤ k.
func AtMost(v Var, k int) Lit { return Lit{most(v), int32(-k)} }

// Is says that v, a number from 0 to 1, is 1, and IsNot that it is 0.
func Is(v Var) Lit { return AtLeast(v, 1) }

// IsNot says that v, a number from 0 to 1, is 0.
func IsNot(v Var) Lit { return AtMost(v, 0) }

// Not says the opposite. Always has none.
func (l Lit) Not() Lit { return Lit{opposite(l.bound), 1 - l.k} }

// opposite returns the other bound of the same number.
func opposite(bound int32) int32 { return bound ^ 1 }

func number(bound int32) Var { return Var(bound/2 - 1) }

func least(v Var) int32 { return 2*int32(v) + 2 }

func most(v Var) int32 { return 2*int32(v) + 3 }

// An entry of the trail says that a bound has moved, and why.
type entry struct {
	bound    int32
	old, new int32
	before   int32 // the entry before it on the same bound, or −1
	level    int32
	clause   int32 // the clause that moved it, or −1
	from, to int32 // else the bounds that moved it, in the arena
}

type clause struct {
	lits     []Lit
	learnt   bool
	activity float32
}

// A watch wakes a clause when a bound reaches k, which makes one of its
// literals false.
type watch struct {
	k       int32
	clause  int32
	blocker Lit
}

// An edge moves a bound along with another: to ≥ from + d, where a condition
// holds.
type edge struct {
	to, d int32
	when  Lit
}

// A waking says that two edges hold from the moment on at which a bound has
// reached k.
type waking struct {
	k        int32
	from, to [2]int32
	d        int32
}

// A waker says that a resource looks at a bound unless when is false.
type waker struct {
	resource int32
	when     Lit
}

// A Solver holds the rules and what has been learnt.
type Solver struct {
	bounds []int32 // by bound: the number is at least so much; the first two belong to Always
	last   []int32 // by bound: its last entry on the trail, or −1
	trail  []entry
	arena  []Lit
	levels []int32 // length of the trail when each level began
	heads  []int32 // length of the arena then
	next   int     // entry of the trail that is propagated next

	clauses []clause
	learnts int
	watches [][]watch
	edges   [][]edge
	wakings [][]waking

	resources []*resource
	wakes     [][]waker // by bound: the resources that look at it
	waiting   []int32   // resources to look at again
	queued    []bool

	conflict []Lit // what can't be true together, where something has gone wrong
	refuted  bool  // nothing keeps the rules

	// Branching.
	activity  []float64 // of what is more than a yes or no, less than any
	inc       float64
	heap      heap
	preferred []int32
	clauseInc float32

	// Analysis.
	seen []bool
	need []int32
	out  []Lit

	solution  []int32
	conflicts int
	// Ticks counts the work done, decisions, bounds moved, clauses and resources looked at,
	// in what are about nanoseconds of a 2.5 GHz processor.
	Ticks int
}

// New returns a solver without numbers and rules.
func New() *Solver {
	return &Solver{bounds: []int32{0, math.MinInt32}, last: []int32{-1, -1}, watches: make([][]watch, 2), edges: make([][]edge, 2),
		wakings: make([][]waking, 2), wakes: make([][]waker, 2), inc: 1, clauseInc: 1}
}

// Var adds a number from lo to hi.
func (s *Solver) Var(lo, hi int) Var {
	v := Var(len(s.activity))
	s.bounds = append(s.bounds, int32(lo), int32(-hi))
	s.last = append(s.last, -1, -1)
	s.watches = append(s.watches, nil, nil)
	s.edges = append(s.edges, nil, nil)
	s.wakings = append(s.wakings, nil, nil)
	s.wakes = append(s.wakes, nil, nil)
	active := 0.0
	if hi > lo+1 {
		active = math.Inf(-1)
	}
	s.activity = append(s.activity, active)
	s.preferred = append(s.preferred, int32(lo))
	s.solution = append(s.solution, int32(lo))
	s.heap.add(s, v)
	if lo > hi {
		s.refuted = true
	}
	return v
}

// Prefer names the value that a number is tried with first.
func (s *Solver) Prefer(v Var, value int) { s.preferred[v] = int32(value) }

// Value returns the number in the last solution.
func (s *Solver) Value(v Var) int { return int(s.solution[v]) }

// Min returns the least that a number can be by what is known for certain.
func (s *Solver) Min(v Var) int { return int(s.bounds[least(v)]) }

func (s *Solver) isTrue(l Lit) bool { return s.bounds[l.bound] >= l.k }

func (s *Solver) isFalse(l Lit) bool { return s.bounds[opposite(l.bound)] >= 1-l.k }

// Clause adds the rule that one of the literals is true. It may be called
// between two searches.
func (s *Solver) Clause(lits ...Lit) {
	kept := make([]Lit, 0, len(lits))
	for _, l := range lits {
		switch {
		case s.isTrue(l):
			return
		case s.isFalse(l):
			continue
		}
		if i := slices.IndexFunc(kept, func(o Lit) bool { return o.bound == l.bound }); i >= 0 {
			kept[i].k = min(kept[i].k, l.k)
			continue
		}
		kept = append(kept, l)
	}
	switch len(kept) {
	case 0:
		s.refuted = true
	case 1:
		if !s.move(kept[0], -1, nil) {
			s.refuted = true
		}
	default:
		s.attach(clause{lits: kept})
	}
}

// Arc adds the rule y ≥ x + d, where when is true.
func (s *Solver) Arc(x Var, d int, y Var, when Lit) {
	if s.isFalse(when) {
		return
	}
	lowX, lowY := least(x), least(y)
	if s.isTrue(when) {
		when = Always
	}
	s.edges[lowX] = append(s.edges[lowX], edge{lowY, int32(d), when})
	s.edges[lowY+1] = append(s.edges[lowY+1], edge{lowX + 1, int32(d), when})
	if when != Always {
		s.wakings[when.bound] = append(s.wakings[when.bound], waking{when.k, [2]int32{lowX, lowY + 1}, [2]int32{lowY, lowX + 1}, int32(d)})
		return
	}
	if !s.move(Lit{lowY, s.bounds[lowX] + int32(d)}, -1, nil) || !s.move(Lit{lowX + 1, s.bounds[lowY+1] + int32(d)}, -1, nil) {
		s.refuted = true
	}
}

func (s *Solver) attach(c clause) int32 {
	at := int32(len(s.clauses))
	s.clauses = append(s.clauses, c)
	if c.learnt {
		s.learnts++
	}
	s.watch(at, 0)
	s.watch(at, 1)
	return at
}

func (s *Solver) watch(at int32, i int) {
	lits := s.clauses[at].lits
	off := lits[i].Not()
	s.watches[off.bound] = append(s.watches[off.bound], watch{off.k, at, lits[1-i]})
}

// move makes a literal true, with the clause or the bounds that ask for it. It
// reports false, and notes the conflict, where it is false already.
func (s *Solver) move(l Lit, by int32, because []Lit) bool {
	was := s.bounds[l.bound]
	if was >= l.k {
		return true
	}
	if other := opposite(l.bound); s.bounds[other] >= 1-l.k {
		s.conflict = append(s.conflict[:0], Lit{other, 1 - l.k})
		if by >= 0 {
			for _, o := range s.clauses[by].lits[1:] {
				s.conflict = append(s.conflict, o.Not())
			}
		} else {
			s.conflict = append(s.conflict, because...)
		}
		return false
	}
	s.Ticks += moveCost
	e := entry{bound: l.bound, old: was, new: l.k, before: s.last[l.bound], level: int32(len(s.levels)), clause: by}
	if by < 0 {
		e.from = int32(len(s.arena))
		s.arena = append(s.arena, because...)
		e.to = int32(len(s.arena))
	}
	s.last[l.bound] = int32(len(s.trail))
	s.bounds[l.bound] = l.k
	s.trail = append(s.trail, e)
	return true
}

// propagate moves every bound that the rules ask for. It reports false where
// they contradict each other.
func (s *Solver) propagate() bool {
	for {
		for s.next < len(s.trail) {
			e := s.trail[s.next]
			s.next++
			if !s.wakeClauses(e.bound) || !s.wakeEdges(e.bound, e.old) {
				return false
			}
			for _, w := range s.wakes[e.bound] {
				if !s.queued[w.resource] && !s.isFalse(w.when) {
					s.queued[w.resource] = true
					s.waiting = append(s.waiting, w.resource)
				}
			}
		}
		if len(s.waiting) == 0 {
			return true
		}
		r := s.waiting[len(s.waiting)-1]
		s.waiting = s.waiting[:len(s.waiting)-1]
		s.queued[r] = false
		if !s.resources[r].propagate(s) {
			return false
		}
	}
}

func (s *Solver) wakeClauses(bound int32) bool {
	list := s.watches[bound]
	bounds := s.bounds // no call below makes it longer, and it is looked at more than anything else
	now := bounds[bound]
	visit := perThousand * min(s.learnts, farApart) / 1000
	kept := 0
	for i := 0; i < len(list); i++ {
		w := list[i]
		if w.k > now || bounds[w.blocker.bound] >= w.blocker.k {
			list[kept] = w
			kept++
			continue
		}
		s.Ticks += visit
		c := &s.clauses[w.clause]
		if c.lits[0].bound == opposite(bound) {
			c.lits[0], c.lits[1] = c.lits[1], c.lits[0]
		}
		first := c.lits[0]
		w.blocker = first
		if s.isTrue(first) {
			list[kept] = w
			kept++
			continue
		}
		found := false
		for k := 2; k < len(c.lits); k++ {
			s.Ticks += literalCost
			if !s.isFalse(c.lits[k]) {
				c.lits[1], c.lits[k] = c.lits[k], c.lits[1]
				s.watch(w.clause, 1)
				found = true
				break
			}
		}
		if found {
			continue
		}
		list[kept] = w
		kept++
		if !s.move(first, w.clause, nil) {
			// The clause itself is what fails, its first literal included.
			copy(list[kept:], list[i+1:])
			s.watches[bound] = list[:kept+len(list)-i-1]
			return false
		}
	}
	s.watches[bound] = list[:kept]
	return true
}

// What takes how many ticks: fitted to what the planner's hard lessons took in a third of a
// second to two and a half, the least of several times, which they tell to a tenth or
// seldom a quarter. What is not counted goes along with one of these. To look at a clause
// takes the longer the more have been learnt, until they lie too far apart anyway.
const (
	moveCost     = 127
	partCost     = 144 // of a resource, each time that it is looked at
	decisionCost = 754
	literalCost  = 9
	farApart     = 3000 // clauses
	perThousand  = 16   // learnt clauses, to look at one
)

func (s *Solver) wakeEdges(bound, old int32) bool {
	bounds := s.bounds
	now := bounds[bound]
	list := s.edges[bound]
	for i := range list {
		e := &list[i]
		asked := now + e.d
		if asked <= bounds[e.to] { // so it is, whether or not the rule holds
			continue
		}
		other := opposite(e.to)
		switch k := bounds[other]; {
		case bounds[e.when.bound] >= e.when.k:
			if !s.moveAlong(bound, now, e.to, e.d, e.when) {
				return false
			}
		case asked+k > 0 && !s.isFalse(e.when):
			if !s.move(e.when.Not(), -1, []Lit{{bound, 1 - e.d - k}, {other, k}}) {
				return false
			}
		}
	}
	for i := range s.wakings[bound] {
		w := &s.wakings[bound][i]
		if w.k <= old || w.k > now {
			continue
		}
		for side := range w.from {
			at := s.bounds[w.from[side]]
			if at+w.d > s.bounds[w.to[side]] && !s.moveAlong(w.from[side], at, w.to[side], w.d, Lit{bound, w.k}) {
				return false
			}
		}
	}
	return true
}

func (s *Solver) moveAlong(from, at, to, d int32, when Lit) bool {
	because := [2]Lit{{from, at}, when}
	if when == Always {
		return s.move(Lit{to, at + d}, -1, because[:1])
	}
	return s.move(Lit{to, at + d}, -1, because[:])
}

// undo takes back everything above a level.
func (s *Solver) undo(level int) {
	if len(s.levels) <= level {
		return
	}
	keep := int(s.levels[level])
	for i := len(s.trail) - 1; i >= keep; i-- {
		e := &s.trail[i]
		s.bounds[e.bound] = e.old
		s.last[e.bound] = e.before
		s.heap.add(s, number(e.bound))
	}
	s.trail = s.trail[:keep]
	s.arena = s.arena[:s.heads[level]]
	s.levels = s.levels[:level]
	s.heads = s.heads[:level]
	s.next = keep
	for _, r := range s.waiting {
		s.queued[r] = false
	}
	s.waiting = s.waiting[:0]
}

func (s *Solver) decide(l Lit) {
	s.Ticks += decisionCost
	s.begin()
	s.move(l, -1, nil)
}

// begin begins a level.
func (s *Solver) begin() {
	s.levels = append(s.levels, int32(len(s.trail)))
	s.heads = append(s.heads, int32(len(s.arena)))
}

// settle forgets why what is certain is so.
func (s *Solver) settle() {
	for i := range s.trail {
		s.last[s.trail[i].bound] = -1
	}
	s.trail, s.arena, s.next = s.trail[:0], s.arena[:0], 0
}
