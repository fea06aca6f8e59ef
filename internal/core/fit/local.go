package fit

import (
	"cmp"
	"math/rand/v2"
	"slices"
)

// A list is what the local search varies: the order in which the tasks are
// placed, each after all that it waits for, and the most cooks on each.
type list struct{ order, hands []int }

func (l list) clone() list { return list{slices.Clone(l.order), slices.Clone(l.hands)} }

func (l list) copyFrom(m list) {
	copy(l.order, m.order)
	copy(l.hands, m.hands)
}

// list returns the order of a schedule.
func (s *schedule) list() list {
	l := list{hands: make([]int, len(s.tasks))}
	for _, n := range s.topological() {
		if s.jobs[n].placed {
			l.order = append(l.order, n)
			l.hands[n] = max(1, s.jobs[n].cooks)
		}
	}
	slices.SortStableFunc(l.order, func(a, b int) int { return cmp.Compare(s.jobs[a].start, s.jobs[b].start) })
	return l
}

// A change is one neighbour of a list: task first comes to stand before
// second, or has other hands; second is then below 0.
type change struct {
	first, second int
	hands         int
}

// local improves lists by a tabu search along the longest chain (Nowicki and
// Smutnicki, 1996): only a change to a stretch of the chain that waits for
// one resource can end the lesson sooner. Every change is decoded in full, so
// breaks, doors and several places count.
type local struct {
	*decoder
	rng        *rand.Rand
	at         []int  // place of each task in the order
	mark       []bool // scratch of reorder
	moved      []int
	gaps       bool  // some task has a greatest gap
	before     state // after the first `placed` tasks of the list
	placed     int
	tabu       map[[2]int]int // pair that may not come back in this order before a round
	next       list           // scratch of step, as candidate
	candidate  list
	changes    []change
	chainTasks []int
	chainHolds []hold
}

func newLocal(p *problem, rng *rand.Rand, spent *int) *local {
	return &local{
		decoder: newDecoder(p, spent), rng: rng, tabu: map[[2]int]int{},
		gaps: p.hasGaps(), before: p.newState(),
		at: make([]int, len(p.tasks)), mark: make([]bool, len(p.tasks)),
	}
}

// patience returns for how many rounds the search goes on without a better
// list before it starts again elsewhere: few at first, and more while that
// keeps failing, since some lessons need many small steps and some a new try.
func patience(failures int) int { return 10 + 10*(failures%20) }

// improve searches from a list until so many placements have been made, and
// returns the best list with its cost. It ends sooner where no cost can be
// less; once the finish can't be, an eighth of what is left goes into the sum.
func (s *local) improve(from list, stop int, bound cost) (list, cost) {
	here, best := from.clone(), from.clone()
	s.next, s.candidate = from.clone(), from.clone()
	if !s.decode(here, forever) {
		return best, s.cost
	}
	bestCost, proven := s.cost, false
	since, failures := 0, 0
	for round := 0; *s.spent < stop; round++ {
		if bestCost.finish <= bound.finish && !proven {
			proven = true
			stop = *s.spent + (stop-*s.spent)/8
		}
		if proven && bestCost.sum <= bound.sum {
			break
		}
		if since++; since > patience(failures) || !s.step(here, round, stop, bestCost) {
			since = 0
			failures++
			s.restart(here, best)
			continue
		}
		if s.decode(here, forever); s.cost.less(bestCost) {
			bestCost, since, failures = s.cost, 0, 0
			best.copyFrom(here)
		}
	}
	return best, bestCost
}

// step turns the list that was decoded last into its best neighbour. It
// reports false where there is none.
func (s *local) step(here list, round, stop int, bestCost cost) bool {
	s.findChanges(here)
	slices.SortStableFunc(s.changes, func(a, b change) int { return s.firstPlace(a) - s.firstPlace(b) })
	s.placed = -1
	nextCost, chosen := cost{forever, forever}, change{first: -1}
	for _, c := range s.changes {
		if *s.spent >= stop {
			break
		}
		*s.spent += overhead + len(here.order)/64
		s.candidate.copyFrom(here)
		if !s.apply(s.candidate, c) || !s.decodeFrom(here, s.candidate, s.firstPlace(c), nextCost.finish) {
			continue
		}
		if s.tabu[[2]int{c.first, c.second}] > round && !s.cost.less(bestCost) {
			continue
		}
		if chosen.first < 0 || s.cost.less(nextCost) || s.cost == nextCost && s.rng.IntN(2) == 0 {
			nextCost, chosen = s.cost, c
			s.next.copyFrom(s.candidate)
		}
	}
	if chosen.first < 0 {
		return false
	}
	here.copyFrom(s.next)
	s.tabu[[2]int{chosen.second, chosen.first}] = round + 4 + s.rng.IntN(4)
	return true
}

// restart goes on from the best list with a few changes at random.
func (s *local) restart(here, best list) {
	clear(s.tabu)
	here.copyFrom(best)
	s.kick(here)
	if !s.decode(here, forever) {
		here.copyFrom(best)
		s.decode(here, forever)
	}
}

// overhead is how many placements take as long as making a neighbour, its
// copy aside.
const overhead = 8

// firstPlace returns the first place of the order that a change touches.
func (s *local) firstPlace(c change) int {
	if c.hands > 0 {
		return s.at[c.first]
	}
	return s.at[c.second]
}

// decodeFrom decodes a neighbour of a list that differs from the given place
// on. Called with places that never go back, it need not place again what
// comes before.
func (s *local) decodeFrom(here, trial list, place, limit int) bool {
	if s.gaps {
		return s.decode(trial, limit)
	}
	if s.placed < 0 {
		s.reset()
		s.placed = 0
	} else {
		s.state.copyFrom(&s.before)
	}
	for _, n := range here.order[s.placed:place] {
		s.insert(n, here.hands[n])
	}
	*s.spent += place - s.placed
	s.before.copyFrom(&s.state)
	s.placed = place
	return s.pass(trial, place, limit) == nil
}

// findChanges lists the changes along the longest chain of what was decoded
// last.
func (s *local) findChanges(l list) {
	for i, n := range l.order {
		s.at[n] = i
	}
	s.changes = s.changes[:0]
	// The chain, from the end of the lesson back to the door.
	s.chainTasks, s.chainHolds = s.chainTasks[:0], s.chainHolds[:0]
	n := s.lastTask(l)
	for n >= 0 && len(s.chainTasks) <= len(l.order) {
		s.chainTasks = append(s.chainTasks, n)
		s.chainHolds = append(s.chainHolds, s.holder[n])
		n = s.holder[n].task
	}
	for i := 0; i < len(s.chainTasks); {
		// chainTasks[i…j] wait for one another at one resource.
		j := i
		for j+1 < len(s.chainTasks) && s.chainHolds[j].resource != byRules && s.chainHolds[j].resource == s.chainHolds[i].resource {
			j++
		}
		if j > i {
			s.blockChanges(s.chainTasks[i : j+1])
		}
		i = max(j, i+1)
	}
	for _, n := range s.chainTasks {
		t := &s.tasks[n]
		for hands := t.least; hands < t.least+len(t.work) && len(t.work) > 1; hands++ {
			if hands != s.hands[n] {
				s.changes = append(s.changes, change{first: n, second: -1 - hands, hands: hands})
			}
		}
	}
}

// blockChanges lists the changes within one stretch, given from its end: the
// two at either end change places.
func (s *local) blockChanges(block []int) {
	last := len(block) - 1
	s.changes = append(s.changes, change{first: block[0], second: block[1]})
	if last > 1 {
		s.changes = append(s.changes, change{first: block[last-1], second: block[last]})
	}
}

// lastTask returns the task that ends last.
func (s *local) lastTask(l list) int {
	last, end := -1, -1
	for _, n := range l.order {
		if e := s.start[n] + s.work[n] + s.tasks[n].wait; e > end {
			last, end = n, e
		}
	}
	return last
}

// apply makes a change. It reports false where a rule forbids it.
func (s *local) apply(l list, c change) bool {
	if c.hands > 0 {
		l.hands[c.first] = c.hands
		return true
	}
	return s.reorder(l.order, s.at[c.second], s.at[c.first], true)
}

// reorder brings the task at place b before that at place a, a < b: with pull
// the later goes to the earlier, with all between that it waits for; without
// the earlier goes to the later, with all between that waits for it. It
// reports false where the later one waits for the earlier.
func (s *local) reorder(order []int, a, b int, pull bool) bool {
	span := order[a : b+1]
	s.moved = s.moved[:0]
	isMarked := func(links []link) bool {
		for _, l := range links {
			if s.mark[l.task] {
				return true
			}
		}
		return false
	}
	if pull {
		s.mark[span[len(span)-1]] = true
		for i := len(span) - 2; i >= 0; i-- {
			if isMarked(s.tasks[span[i]].after) {
				s.mark[span[i]] = true
			}
		}
	} else {
		s.mark[span[0]] = true
		for _, n := range span[1:] {
			if isMarked(s.tasks[n].before) {
				s.mark[n] = true
			}
		}
	}
	ok := s.mark[span[0]] != s.mark[span[len(span)-1]]
	for _, first := range []bool{pull, !pull} {
		for _, n := range span {
			if s.mark[n] == first {
				s.moved = append(s.moved, n)
			}
		}
	}
	for _, n := range span {
		s.mark[n] = false
	}
	if ok {
		copy(span, s.moved)
	}
	return ok
}

// kick makes a few changes at random.
func (s *local) kick(l list) {
	n := len(l.order)
	for range 6 + s.rng.IntN(10) {
		switch s.rng.IntN(4) {
		case 0, 1:
			a := s.rng.IntN(n)
			b := min(n-1, a+1+s.rng.IntN(max(1, n/4)))
			if a < b {
				s.reorder(l.order, a, b, s.rng.IntN(2) == 0)
			}
		case 2:
			t := l.order[s.rng.IntN(n)]
			l.hands[t] = 1 + s.rng.IntN(s.problem.cooks[s.tasks[t].group])
		case 3:
			s.swapGroups(l, s.tasks[l.order[s.rng.IntN(n)]].group, s.tasks[l.order[s.rng.IntN(n)]].group)
		}
	}
}

// swapGroups lets two groups with the same dishes take each other's places.
func (s *local) swapGroups(l list, a, b int) {
	one, two := s.byGroup[a], s.byGroup[b]
	if a == b || len(one) != len(two) || s.tasks[one[0]].dish != s.tasks[two[0]].dish {
		return
	}
	for i := range one {
		if s.tasks[one[i]].dish != s.tasks[two[i]].dish || s.tasks[one[i]].step != s.tasks[two[i]].step {
			return
		}
	}
	for i, n := range l.order {
		switch s.tasks[n].group {
		case a:
			l.order[i] = two[n-one[0]]
		case b:
			l.order[i] = one[n-two[0]]
		}
	}
	for i := range one {
		l.hands[one[i]], l.hands[two[i]] = l.hands[two[i]], l.hands[one[i]]
	}
}

// schedule turns what was decoded last into a schedule.
func (s *local) schedule(l list) *schedule {
	out := newSchedule(s.problem)
	for _, n := range l.order {
		t := &s.tasks[n]
		trial := make([]assignment, len(t.uses))
		for i := range t.uses {
			trial[i] = assignment{s.inside[n][i], out.stayOf(n, &t.uses[i], s.start[n], s.work[n])}
		}
		out.place(n, s.hands[n], s.start[n], trial)
	}
	return out
}
