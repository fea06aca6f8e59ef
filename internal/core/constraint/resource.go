package constraint

import (
	"cmp"
	"slices"
)

// A Moment is a number and so much after it.
type Moment struct {
	Var    Var
	Offset int
}

// An Activity keeps an amount of a resource from one moment to another, which
// come at least Length apart, where When is true.
type Activity struct {
	Start, End Moment
	Length     int
	Amount     int
	When       Lit
}

// A resource is a capacity that activities share. Its propagator is the time
// table: where what must be going on at a moment leaves no room, nothing else
// can be (Schutt, Feydy, Stuckey and Wallace, 2011).
type resource struct {
	capacity int32
	acts     []Activity
	parts    []part // scratch: what must be going on
	own      []int  // scratch: the part of each activity, or −1
	steps    []step // scratch: how much of it there is, by time
}

type part struct {
	act      int
	from, to int32
}

type step struct {
	at     int32
	amount int32 // from here on
}

// Resource adds the rule that the activities together never keep more than the
// capacity.
func (s *Solver) Resource(capacity int, acts []Activity) {
	n := int32(len(s.resources))
	r := &resource{capacity: int32(capacity), acts: acts, own: make([]int, len(acts))}
	s.resources = append(s.resources, r)
	s.queued = append(s.queued, false)
	note := func(bound int32, when Lit) {
		w := waker{n, when}
		if list := s.wakes[bound]; len(list) == 0 || list[len(list)-1] != w {
			s.wakes[bound] = append(s.wakes[bound], w)
		}
	}
	for i := range acts {
		a := &acts[i]
		note(least(a.Start.Var), a.When)
		note(most(a.Start.Var), a.When)
		note(least(a.End.Var), a.When)
		note(most(a.End.Var), a.When)
		if a.When != Always {
			note(a.When.bound, Always)
		}
	}
}

func (s *Solver) earliest(m Moment) int32 { return s.bounds[least(m.Var)] + int32(m.Offset) }
func (s *Solver) latest(m Moment) int32   { return -s.bounds[most(m.Var)] + int32(m.Offset) }

// noSooner says that a moment is at t or later, noLater that it is at t or
// sooner.
func noSooner(m Moment, t int32) Lit { return AtLeast(m.Var, int(t)-m.Offset) }
func noLater(m Moment, t int32) Lit  { return AtMost(m.Var, int(t)-m.Offset) }

func (r *resource) propagate(s *Solver) bool {
	r.parts, r.steps = r.parts[:0], r.steps[:0]
	for i := range r.acts {
		a := &r.acts[i]
		r.own[i] = -1
		if !s.isTrue(a.When) {
			continue
		}
		if from, to := s.latest(a.Start), s.earliest(a.End); from < to {
			r.own[i] = len(r.parts)
			r.parts = append(r.parts, part{i, from, to})
			r.steps = append(r.steps, step{from, int32(a.Amount)}, step{to, int32(-a.Amount)})
		}
	}
	s.Ticks += partCost * len(r.parts)
	if len(r.steps) == 0 {
		return true
	}
	slices.SortFunc(r.steps, func(a, b step) int { return cmp.Compare(a.at, b.at) })
	n, sum, peak := 0, int32(0), int32(0)
	for i, st := range r.steps {
		sum += st.amount
		if i+1 < len(r.steps) && r.steps[i+1].at == st.at {
			continue
		}
		r.steps[n] = step{st.at, sum}
		n++
		peak = max(peak, sum)
		if sum > r.capacity {
			s.conflict = r.goingOn(s.conflict[:0], -1, st.at, r.capacity+1)
			return false
		}
	}
	r.steps = r.steps[:n]
	for i := range r.acts {
		a := &r.acts[i]
		if peak+int32(a.Amount) <= r.capacity || s.isFalse(a.When) || a.Amount == 0 {
			continue
		}
		if !s.isTrue(a.When) {
			if !r.exclude(s, i) {
				return false
			}
			continue
		}
		if s.earliest(a.Start) == s.latest(a.Start) && s.earliest(a.End) == s.latest(a.End) {
			continue
		}
		if !r.pushStart(s, i) || !r.pushEnd(s, i) {
			return false
		}
	}
	return true
}

// goingOn appends the literals by which enough others are going on at t to
// take at least the given amount.
func (r *resource) goingOn(lits []Lit, but int, t, amount int32) []Lit {
	for _, p := range r.parts {
		if amount <= 0 {
			break
		}
		if p.act == but || t < p.from || p.to <= t {
			continue
		}
		a := &r.acts[p.act]
		amount -= int32(a.Amount)
		lits = append(lits, noLater(a.Start, t), noSooner(a.End, t+1))
		if a.When != Always {
			lits = append(lits, a.When)
		}
	}
	return lits
}

// others returns how much others than the activity keep at t.
func (r *resource) others(act int, t, all int32) int32 {
	if i := r.own[act]; i >= 0 && r.parts[i].from <= t && t < r.parts[i].to {
		return all - int32(r.acts[act].Amount)
	}
	return all
}

// exclude finds that an activity can't be where it would have to be.
func (r *resource) exclude(s *Solver, act int) bool {
	a := &r.acts[act]
	from, to := s.latest(a.Start), s.earliest(a.End)
	if from >= to {
		return true
	}
	for i := 0; i+1 < len(r.steps) && r.steps[i].at < to; i++ {
		t := max(r.steps[i].at, from)
		if r.steps[i+1].at <= from || r.steps[i].amount+int32(a.Amount) <= r.capacity {
			continue
		}
		lits := r.goingOn([]Lit{noLater(a.Start, t), noSooner(a.End, t+1)}, act, t, r.capacity+1-int32(a.Amount))
		return s.move(a.When.Not(), -1, lits)
	}
	return true
}

// pushStart lets an activity start later where others leave no room for it.
func (r *resource) pushStart(s *Solver, act int) bool {
	a := &r.acts[act]
	start := s.earliest(a.Start)
	for i := 0; i+1 < len(r.steps); i++ {
		from, to := r.steps[i].at, r.steps[i+1].at
		if to <= start {
			continue
		}
		if start+int32(a.Length) <= from {
			return true
		}
		if r.others(act, from, r.steps[i].amount)+int32(a.Amount) <= r.capacity {
			continue
		}
		for start < to {
			t := min(to, start+int32(a.Length)) - 1
			lits := r.goingOn([]Lit{noSooner(a.Start, t+1-int32(a.Length))}, act, t, r.capacity+1-int32(a.Amount))
			if a.When != Always {
				lits = append(lits, a.When)
			}
			if !s.move(noSooner(a.Start, t+1), -1, lits) {
				return false
			}
			start = t + 1
		}
	}
	return true
}

// pushEnd lets an activity end sooner where others leave no room for it.
func (r *resource) pushEnd(s *Solver, act int) bool {
	a := &r.acts[act]
	end := s.latest(a.End)
	for i := len(r.steps) - 2; i >= 0; i-- {
		from, to := r.steps[i].at, r.steps[i+1].at
		if end <= from {
			continue
		}
		if to <= end-int32(a.Length) {
			return true
		}
		if r.others(act, from, r.steps[i].amount)+int32(a.Amount) <= r.capacity {
			continue
		}
		for end > from {
			t := max(from, end-int32(a.Length))
			lits := r.goingOn([]Lit{noLater(a.End, t+int32(a.Length))}, act, t, r.capacity+1-int32(a.Amount))
			if a.When != Always {
				lits = append(lits, a.When)
			}
			if !s.move(noLater(a.End, t), -1, lits) {
				return false
			}
			end = t
		}
	}
	return true
}
