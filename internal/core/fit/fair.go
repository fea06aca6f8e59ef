package fit

import (
	"cmp"
	"slices"
)

const (
	// fairShare is the percentage of the allowance that goes into sharing the work
	// more evenly among plans that end together.
	fairShare = 3
	// fairReach is how far apart in a group's order two steps may stand that change
	// places for it.
	fairReach = 4
	// fairEnough is a difference in work, in seconds, that nobody minds.
	fairEnough = 60
)

// fairer looks among the schedules that end no later, each group and all together, for
// one in which the cooks of a group have more equal work: in turn for each group, the
// least fair first, two of its steps change places, or other hands share one, and
// what is fairer is kept. It goes on until so many placements have been made.
func (s *local) fairer(from *schedule, stop int) *schedule {
	if s.now > 0 || slices.Max(s.cooks) < 2 {
		return from
	}
	best := from.list()
	if !s.decode(best, forever) || from.cost().less(s.cost) {
		return from
	}
	least := s.cost
	at := func(n int) (start, work, cooks int) { return s.start[n], s.work[n], s.hands[n] }
	apart := make([]int, len(s.byGroup))
	var groups []int
	for g := range s.byGroup {
		if apart[g] = s.apart(g, at, s.spent); apart[g] > fairEnough {
			groups = append(groups, g)
		}
	}
	slices.SortStableFunc(groups, func(a, b int) int { return cmp.Compare(apart[b], apart[a]) })
	trial, found := best.clone(), false
	fairerYet := func() bool {
		if *s.spent >= stop || !s.decode(trial, least.finish) || least.less(s.cost) {
			return false
		}
		was, is := 0, 0 // squares, so that one bench is not fair at the cost of another
		now := make([]int, len(s.byGroup))
		for g := range s.byGroup {
			now[g] = s.apart(g, at, s.spent)
			was, is = was+apart[g]*apart[g], is+now[g]*now[g]
		}
		if is >= was && !s.cost.less(least) {
			return false
		}
		best.copyFrom(trial)
		least, apart, found = s.cost, now, true
		return true
	}
	for _, g := range groups {
		for again := true; again && apart[g] > fairEnough && *s.spent < stop; {
			again = s.fairerIn(g, best, trial, fairerYet)
		}
	}
	if found && s.decode(best, forever) {
		from = s.schedule(best)
	}
	for _, g := range groups {
		for again := true; again && *s.spent < stop; {
			again = from.later(g, s.spent)
		}
	}
	return from
}

// later lets one step of a group begin later, when another of its steps ends, where
// that holds nobody up and its cooks' work is more equal by more than nobody minds. It
// reports whether it did.
func (s *schedule) later(g int, spent *int) bool {
	at := func(n int) (start, work, cooks int) { return s.jobs[n].start, s.jobs[n].work, s.jobs[n].cooks }
	was, finish := s.apart(g, at, spent), s.groupFinish(g)
	if was <= fairEnough {
		return false
	}
	for _, n := range s.byGroup[g] {
		j := s.jobs[n]
		j.units = slices.Clone(j.units)
		if !j.placed || s.tasks[n].begun || j.cooks == 0 {
			continue
		}
		by := finish - j.work - j.wait
		for _, l := range s.tasks[n].after {
			by = min(by, s.jobs[l.task].start-l.min-j.work-j.wait)
		}
		for _, l := range s.tasks[n].before {
			if l.max != forever {
				by = min(by, s.jobs[l.task].end()+l.max)
			}
		}
		for _, m := range s.byGroup[g] {
			to := s.jobs[m].workEnd()
			if m == n || !s.jobs[m].placed || to <= j.start || to > by || s.lateness(n, to) > s.lateness(n, j.start) {
				continue
			}
			s.remove(n)
			*spent += buildWeight
			start := s.earliest(n, j.cooks, to)
			if start <= by {
				s.place(n, j.cooks, start, slices.Clone(s.trial))
				if s.apart(g, at, spent) < was-fairEnough {
					return true
				}
				s.remove(n)
			}
			s.place(n, j.cooks, j.start, s.seats(n, &j))
		}
	}
	return false
}

// fairerIn tries the changes to one group's steps; it reports whether one was taken.
func (s *local) fairerIn(g int, best, trial list, taken func() bool) bool {
	var own []int // places in the order
	for at, n := range best.order {
		s.at[n] = at
		if s.tasks[n].group == g {
			own = append(own, at)
		}
	}
	for i, a := range own {
		n := best.order[a]
		for hands := 1; hands <= s.tasks[n].least+len(s.tasks[n].work)-1; hands++ {
			if hands == best.hands[n] || hands < s.tasks[n].least {
				continue
			}
			trial.copyFrom(best)
			trial.hands[n] = hands
			if taken() {
				return true
			}
		}
		for _, b := range own[i+1 : min(len(own), i+1+fairReach)] {
			for _, pull := range []bool{true, false} {
				trial.copyFrom(best)
				if s.reorder(trial.order, a, b, pull) && taken() {
					return true
				}
			}
		}
	}
	return false
}

// apart is the least difference, in seconds, between the most and the least work of a
// group's cooks where its tasks are at those times.
func (p *instance) apart(g int, at func(n int) (start, work, cooks int), spent *int) int {
	if p.cooks[g] < 2 || p.cooks[g] > mostCooks {
		return 0
	}
	var stints []stint
	for _, n := range p.byGroup[g] {
		if start, work, cooks := at(n); work > 0 && cooks > 0 {
			stints = append(stints, stint{from: start, to: start + work, cooks: cooks})
		}
	}
	slices.SortStableFunc(stints, func(a, b stint) int { return cmp.Compare(a.from, b.from) })
	deal := newSharing(stints, p.cooks[g])
	deal.search(0)
	*spent += deal.tries / stintWeight
	if deal.best == nil {
		return deal.effort[0] // nobody knows; it is less than all of it
	}
	return deal.worth[0]
}

// stintWeight is how many stints are dealt out in the time of a placement.
const stintWeight = 2
