package constraint

import (
	"cmp"
	"slices"
)

// A Status says how a search ended.
type Status int

// A search finds a solution, refutes the rules together with what was
// assumed, or is given up at its limit.
const (
	GivenUp Status = iota
	Found
	Refuted
)

// Solve looks for numbers that keep all rules and what is assumed. It gives up
// after so many conflicts, or where Ticks reach the limit. What it has learnt
// stays for the next time. Where the rules are refuted without what was
// assumed, Impossible reports it from then on.
func (s *Solver) Solve(assumed []Lit, conflicts, ticks int) Status {
	defer s.undo(0)
	if !s.root() {
		return Refuted
	}
	stop := s.conflicts + conflicts
	restart, run := s.conflicts+restartUnit*luby(1), 1
	for {
		if !s.propagate() {
			s.conflicts++
			switch at := s.conflictLevel(); {
			case at == 0:
				s.refuted = true
				return Refuted
			case at == 1 && len(assumed) > 0:
				return Refuted
			default:
				s.learn(at)
			}
			if s.refuted {
				return Refuted
			}
			if s.Ticks >= ticks {
				return GivenUp
			}
			continue
		}
		if s.conflicts >= stop || s.Ticks >= ticks {
			return GivenUp
		}
		if s.conflicts >= restart && len(s.levels) > 1 {
			run++
			restart = s.conflicts + restartUnit*luby(run)
			s.undo(0)
			if !s.root() {
				return Refuted
			}
			continue
		}
		if len(s.levels) == 0 && len(assumed) > 0 {
			if !s.assume(assumed) {
				return Refuted
			}
			continue
		}
		l, ok := s.branch()
		if !ok {
			for v := range s.solution {
				s.solution[v] = s.bounds[least(Var(v))]
			}
			return Found
		}
		s.decide(l)
	}
}

// assume begins a level with all that is assumed: were each a level of its
// own, most dead ends would lead back among them. It reports false where one is
// false already.
func (s *Solver) assume(assumed []Lit) bool {
	s.begin()
	for _, l := range assumed {
		if s.isFalse(l) {
			return false
		}
		s.move(l, -1, nil)
	}
	return true
}

// Impossible reports whether nothing keeps the rules.
func (s *Solver) Impossible() bool { return s.refuted }

// root propagates what is certain and forgets learnt clauses that are of
// little use. It reports false where the rules are refuted.
func (s *Solver) root() bool {
	if s.refuted {
		return false
	}
	for r := range s.resources {
		if !s.queued[r] {
			s.queued[r] = true
			s.waiting = append(s.waiting, int32(r))
		}
	}
	if !s.propagate() {
		s.refuted = true
		return false
	}
	s.settle()
	if s.learnts > keptClauses+s.conflicts/4 {
		s.forget()
	}
	return true
}

const (
	restartUnit = 100
	keptClauses = 4000
)

// luby returns the i-th number of 1 1 2 1 1 2 4 1 1 2 1 1 2 4 8 … (Luby,
// Sinclair and Zuckerman, 1993).
func luby(i int) int {
	for {
		size := 1
		for size < i+1 {
			size *= 2
		}
		if size == i+1 {
			return size / 2
		}
		i -= size/2 - 1
	}
}

// branch returns the next decision: the most active number that is not fixed,
// towards the value that it prefers. A yes or no comes before every other number:
// once all of those are decided the others mostly follow, and to try them value by value
// while they don't makes dead ends that teach next to nothing. It reports false where all
// are fixed.
func (s *Solver) branch() (Lit, bool) {
	for {
		v, ok := s.heap.pop(s)
		if !ok {
			return Lit{}, false
		}
		lo, hi := s.bounds[least(v)], -s.bounds[most(v)]
		if lo == hi {
			continue
		}
		want := s.preferred[v]
		switch {
		case hi == lo+1 && want >= hi:
			return AtLeast(v, int(hi)), true
		case want >= lo && want < hi:
			s.heap.add(s, v) // there may be more to decide below it
			return AtMost(v, int(want)), true
		default:
			return AtMost(v, int(lo)), true
		}
	}
}

// learn turns the conflict, which is at the given level, into a clause, goes back to
// where it would have helped, and lets it.
func (s *Solver) learn(at int) {
	level := s.analyse(int32(at))
	s.inc /= activityDecay
	if s.inc > 1e100 {
		for v := range s.activity {
			s.activity[v] *= 1e-100
		}
		s.inc *= 1e-100
	}
	s.clauseInc /= clauseDecay
	if s.clauseInc > 1e20 {
		for i := range s.clauses {
			s.clauses[i].activity *= 1e-20
		}
		s.clauseInc *= 1e-20
	}
	s.undo(level)
	lits := slices.Clone(s.out)
	if len(lits) == 1 {
		if !s.move(lits[0], -1, nil) {
			s.refuted = true
		}
		return
	}
	s.move(lits[0], s.attach(clause{lits: lits, learnt: true, activity: s.clauseInc}), nil)
}

const (
	activityDecay = 0.8
	clauseDecay   = 0.999
)

// conflictLevel returns the level at which the conflict came about: it may lie below
// the one that has just begun.
func (s *Solver) conflictLevel() int {
	highest := int32(0)
	for _, l := range s.conflict {
		if e := s.madeTrue(l); e >= 0 {
			highest = max(highest, s.trail[e].level)
		}
	}
	return int(highest)
}

// analyse works back from the conflict to the first bound of its level that
// all ways to it lead through, and leaves the clause in s.out: that bound's
// opposite first, and second one of the highest level below, which it returns.
func (s *Solver) analyse(now int32) int {
	for len(s.seen) < len(s.trail) {
		s.seen = append(s.seen, false)
		s.need = append(s.need, 0)
	}
	open := 0
	var lower []int32
	add := func(l Lit) {
		e := s.madeTrue(l)
		if e < 0 || s.trail[e].level == 0 {
			return
		}
		if !s.seen[e] {
			s.seen[e], s.need[e] = true, l.k
			s.bump(number(l.bound))
			if s.trail[e].level == now {
				open++
			} else {
				lower = append(lower, e)
			}
			return
		}
		s.need[e] = max(s.need[e], l.k)
	}
	for _, l := range s.conflict {
		add(l)
	}
	at := int32(len(s.trail) - 1)
	for {
		for !s.seen[at] || s.trail[at].level != now {
			at--
		}
		if open <= 1 {
			break
		}
		s.seen[at] = false
		open--
		s.reasons(at, add)
	}
	uip := Lit{s.trail[at].bound, s.need[at]}
	s.out = append(s.out[:0], uip.Not())
	back := int32(0)
	for _, e := range lower {
		if s.covered(e) {
			continue
		}
		l := Lit{s.trail[e].bound, s.need[e]}
		if i := slices.IndexFunc(s.out, func(o Lit) bool { return o.bound == opposite(l.bound) }); i >= 0 {
			// Of two literals on one bound the stronger needs to be known.
			if s.out[i].Not().k < l.k {
				s.out[i] = l.Not()
			}
			continue
		}
		s.out = append(s.out, l.Not())
	}
	s.seen[at] = false
	for _, e := range lower {
		s.seen[e] = false
	}
	for i := 1; i < len(s.out); i++ {
		if level := s.trail[s.madeTrue(s.out[i].Not())].level; level > back {
			back = level
			s.out[1], s.out[i] = s.out[i], s.out[1]
		}
	}
	return int(back)
}

// bump makes it likelier that a number is branched on early.
func (s *Solver) bump(v Var) {
	s.activity[v] += s.inc
	s.heap.up(s, v)
}

// madeTrue returns the entry of the trail that made a literal true, or −1
// where it always was.
func (s *Solver) madeTrue(l Lit) int32 {
	if l.bound == 0 {
		return -1
	}
	e := s.last[l.bound]
	for e >= 0 && s.trail[e].old >= l.k {
		e = s.trail[e].before
	}
	return e
}

// reasons calls f with each literal that moved the bound of an entry.
func (s *Solver) reasons(at int32, f func(Lit)) {
	e := &s.trail[at]
	if e.clause < 0 {
		for i := e.from; i < e.to; i++ {
			f(s.arena[i])
		}
		return
	}
	c := &s.clauses[e.clause]
	if c.learnt {
		c.activity += s.clauseInc
	}
	for _, l := range c.lits {
		if l.bound != e.bound {
			f(l.Not())
		}
	}
}

// covered reports whether the other literals of the clause that is being
// learnt imply this one.
func (s *Solver) covered(at int32) bool {
	e := &s.trail[at]
	if e.clause < 0 && e.from == e.to {
		return false // a decision
	}
	all := true
	s.reasons(at, func(l Lit) {
		o := s.madeTrue(l)
		all = all && (o < 0 || s.trail[o].level == 0 || s.seen[o] && s.need[o] >= l.k)
	})
	return all
}

// forget drops the half of the learnt clauses that have helped least. No clause
// may be the reason of an entry then.
func (s *Solver) forget() {
	var learnt []float32
	for i := range s.clauses {
		if c := &s.clauses[i]; c.learnt && len(c.lits) > 2 {
			learnt = append(learnt, c.activity)
		}
	}
	slices.SortFunc(learnt, func(a, b float32) int { return cmp.Compare(a, b) })
	if len(learnt) == 0 {
		return
	}
	least := learnt[len(learnt)/2]
	kept := s.clauses[:0]
	s.learnts = 0
	for i := range s.watches {
		s.watches[i] = s.watches[i][:0]
	}
	for _, c := range s.clauses {
		if c.learnt && len(c.lits) > 2 && c.activity < least || slices.ContainsFunc(c.lits, s.isTrue) {
			continue
		}
		c.lits = slices.DeleteFunc(c.lits, s.isFalse)
		kept = append(kept, c)
	}
	s.clauses = kept
	for i := range s.clauses {
		if s.clauses[i].learnt {
			s.learnts++
		}
		s.watch(int32(i), 0)
		s.watch(int32(i), 1)
	}
}

// A heap keeps the numbers by activity, the most active first.
type heap struct {
	list []Var
	at   []int32 // place in the list, or −1
}

func (h *heap) add(s *Solver, v Var) {
	for int(v) >= len(h.at) {
		h.at = append(h.at, -1)
	}
	if h.at[v] >= 0 {
		return
	}
	h.at[v] = int32(len(h.list))
	h.list = append(h.list, v)
	h.up(s, v)
}

// up moves a number that has become more active.
func (h *heap) up(s *Solver, v Var) {
	i := h.at[v]
	if i < 0 {
		return
	}
	for i > 0 {
		parent := (i - 1) / 2
		if s.activity[h.list[parent]] >= s.activity[v] {
			break
		}
		h.put(i, h.list[parent])
		i = parent
	}
	h.put(i, v)
}

func (h *heap) put(i int32, v Var) {
	h.list[i] = v
	h.at[v] = i
}

func (h *heap) pop(s *Solver) (Var, bool) {
	if len(h.list) == 0 {
		return 0, false
	}
	top := h.list[0]
	last := h.list[len(h.list)-1]
	h.list = h.list[:len(h.list)-1]
	h.at[top] = -1
	n := int32(len(h.list))
	if n == 0 {
		return top, true
	}
	i := int32(0)
	for {
		child := 2*i + 1
		if child >= n {
			break
		}
		if child+1 < n && s.activity[h.list[child+1]] > s.activity[h.list[child]] {
			child++
		}
		if s.activity[h.list[child]] <= s.activity[last] {
			break
		}
		h.put(i, h.list[child])
		i = child
	}
	h.put(i, last)
	return top, true
}
