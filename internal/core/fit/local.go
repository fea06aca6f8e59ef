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
		if s.jobs[n].placed && !s.tasks[n].begun {
			l.order = append(l.order, n)
			l.hands[n] = max(1, s.jobs[n].cooks)
		}
	}
	slices.SortStableFunc(l.order, func(a, b int) int { return cmp.Compare(s.jobs[a].start, s.jobs[b].start) })
	return l
}

// A change is one neighbour of a list: task first comes to stand before (or,
// with after set, second comes to stand after first), or task first has other
// hands; second is then below 0.
type change struct {
	first, second int
	after         bool // second goes to first, rather than first to second
	hands         int
	estimate      int
}

// local improves lists by a tabu search along the longest chain (Nowicki and
// Smutnicki, 1996): only a change to a stretch of the chain that waits for
// one resource can end the lesson sooner. What a change would do is estimated
// (see chart.estimate); the one that promises most is decoded in full, so
// breaks, doors and several places count.
type local struct {
	*chart
	rng             *rand.Rand
	at              []int  // place of each task in the order
	mark            []bool // scratch of reorder
	moved           []int
	gaps            bool  // some task has a greatest gap
	sharp           bool  // estimates are as good as decoding
	wide            bool  // more changes are tried
	before          state // after the first `placed` tasks of the list
	placed          int
	kept, keptBy    []int          // releases of the list, while a neighbour is decoded in full
	tabu            map[[2]int]int // pair that may not come back in this order before a round
	next, candidate list           // scratch of bestDecoded
	changes         []change
	chain           []int
	holds           []hold
	run             list // the best since the search last began elsewhere
	runCost         cost
	pool            []elite
	quick           quick // where the search is sharp
	free, last      []int // by resource: when it is free, and of whom
}

func newLocal(p *instance, rng *rand.Rand, spent *int) *local {
	s := &local{
		chart: newChart(newDecoder(p, spent)), rng: rng, tabu: map[[2]int]int{},
		gaps: p.hasGaps(), sharp: p.sharp(), before: p.newState(),
		kept: make([]int, len(p.tasks)), keptBy: make([]int, len(p.tasks)),
		at: make([]int, len(p.tasks)), mark: make([]bool, len(p.tasks)),
	}
	if s.sharp {
		s.claimAll()
	}
	return s
}

// sharp reports whether every resource of the problem takes one task at a
// time, and nothing else comes between them.
func (p *instance) sharp() bool {
	if p.breaks != nil || p.dues || p.grace > 0 || p.now > 0 || p.shuts || p.hasGaps() {
		return false
	}
	for g, cooks := range p.cooks {
		if cooks > 1 && !p.ample[g] {
			return false
		}
	}
	for u := range p.units {
		if p.units[u].places > 1 || p.units[u].out != nil || p.lesson.Equipment[p.units[u].equipment].Temperature {
			return false
		}
	}
	for n := range p.tasks {
		if p.tasks[n].adult && p.adults > 1 || len(p.tasks[n].work) > 1 {
			return false
		}
		for _, u := range p.tasks[n].uses {
			if len(u.units) > 1 || u.part == WaitPart && p.tasks[n].hasWork() {
				return false
			}
		}
	}
	return true
}

// patience returns for how many rounds the search goes on without a better
// list before it starts again elsewhere: few at first, and more while that
// keeps failing, since some lessons need many small steps and some a new try.
// Rounds are quick where changes need not be decoded.
func (s *local) patience(failures int) int {
	if s.sharp {
		return 3000
	}
	return 10 + 10*(failures%20)
}

// tenure returns for how many rounds a pair may not come back.
func (s *local) tenure() int {
	if s.sharp {
		return 8 + s.rng.IntN(8)
	}
	return 4 + s.rng.IntN(4)
}

// improve searches from a list until so many placements have been made, and
// returns the best list with its cost. It ends sooner where no cost can be
// less; once the finish can't be, an eighth of what is left goes into the sum.
func (s *local) improve(from list, stop int, bound cost) (list, cost) {
	here, best := from.clone(), from.clone()
	s.next, s.candidate, s.run = from.clone(), from.clone(), from.clone()
	if !s.decode(here, forever) {
		return best, s.cost
	}
	bestCost, proven := s.cost, false
	s.runCost = s.cost
	since, failures := 0, 0
	for round := 0; *s.spent < stop; round++ {
		if bestCost.reaches(bound) && !proven {
			proven = true
			stop = *s.spent + (stop-*s.spent)/8
		}
		if proven && bestCost.sum <= bound.sum {
			break
		}
		if since++; since > s.patience(failures) || !s.step(here, round, stop, bestCost) {
			since = 0
			failures++
			s.wide = !s.sharp && failures%2 == 1
			s.restart(here, best, failures)
			continue
		}
		if s.sharp && s.cost.less(s.runCost) {
			s.runCost = s.cost
			s.run.copyFrom(here)
		}
		if s.cost.less(bestCost) {
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
	c := change{first: -1}
	if s.sharp {
		c = s.mostPromising(round, bestCost)
		if c.first >= 0 && !s.apply(here, c) {
			return false
		}
	} else {
		c = s.bestDecoded(here, round, stop, bestCost)
	}
	if c.first < 0 {
		return false
	}
	s.tabu[[2]int{c.second, c.first}] = round + s.tenure()
	if s.sharp {
		s.layClaims(here.order)
		return true
	}
	return s.decode(here, forever)
}

// mostPromising returns the change with the least estimate that is not
// forbidden, or could lead to a better list than any yet.
func (s *local) mostPromising(round int, bestCost cost) change {
	chosen := change{first: -1}
	for _, c := range s.changes {
		if s.tabu[[2]int{c.first, c.second}] > round && c.estimate >= bestCost.finish {
			continue
		}
		if chosen.first < 0 || c.estimate < chosen.estimate || c.estimate == chosen.estimate && s.rng.IntN(2) == 0 {
			chosen = c
		}
	}
	return chosen
}

// bestDecoded decodes every change and makes the best.
func (s *local) bestDecoded(here list, round, stop int, bestCost cost) change {
	slices.SortStableFunc(s.changes, func(a, b change) int { return s.firstPlace(a) - s.firstPlace(b) })
	s.placed = -1
	nextCost, chosen := worst, change{first: -1}
	for _, c := range s.changes {
		if *s.spent >= stop {
			break
		}
		*s.spent += overhead + len(here.order)/64
		s.candidate.copyFrom(here)
		if !s.apply(s.candidate, c) || !s.decodeFrom(here, s.candidate, s.firstPlace(c), s.limit(nextCost)) {
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
	if chosen.first >= 0 {
		here.copyFrom(s.next)
	}
	return chosen
}

// limit returns the finish that a neighbour must not go over to be better than
// the best so far. A pinned step that begins sooner is worth a later finish,
// and so is work that ends sooner where waits may go on.
func (s *local) limit(best cost) int {
	if s.dues || best.over > 0 {
		return forever
	}
	return best.finish
}

// restart goes on elsewhere: from the best list with a change at random, or, where
// lists are laid quickly, from the pool.
func (s *local) restart(here, best list, failures int) {
	clear(s.tabu)
	if s.sharp {
		s.relink(here, failures)
		return
	}
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
//
// What had to come later in the list for greatest gaps comes later in the
// neighbour, too. Where that does not do, it is decoded in full.
func (s *local) decodeFrom(here, trial list, place, limit int) bool {
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
	m := s.pass(trial, place, limit)
	if m == nil || m.by == 0 || !s.gaps {
		return m == nil
	}
	copy(s.kept, s.release)
	copy(s.keptBy, s.releaseBy)
	ok := s.decode(trial, limit)
	copy(s.release, s.kept)
	copy(s.releaseBy, s.keptBy)
	return ok
}

// findChanges lists the changes along the longest chain of what was decoded
// last, each with its estimate.
func (s *local) findChanges(l list) {
	if s.sharp {
		s.byStart(l.order)
		s.drawClaims(l.order)
	}
	for i, n := range l.order {
		s.at[n] = i
	}
	s.changes = s.changes[:0]
	// The chain, from the end of the lesson back to the door.
	s.chain, s.holds = s.chain[:0], s.holds[:0]
	n := s.lastTask(l)
	for n >= 0 && len(s.chain) <= len(l.order) {
		s.chain = append(s.chain, n)
		s.holds = append(s.holds, s.holder[n])
		n = s.holder[n].task
	}
	// The other way round, from the door on.
	slices.Reverse(s.chain)
	slices.Reverse(s.holds)
	for i := 1; i < len(s.chain); {
		if s.holds[i].resource == byRules {
			i++
			continue
		}
		// chain[i-1…j] wait for one another at one resource.
		j := i
		for j+1 < len(s.chain) && s.holds[j+1].resource == s.holds[i].resource {
			j++
		}
		s.blockChanges(s.chain[i-1:j+1], s.holds[i].resource)
		i = j + 1
	}
	for _, n := range s.chain {
		t := &s.tasks[n]
		for hands := t.least; hands < t.least+len(t.work) && len(t.work) > 1; hands++ {
			if hands != s.hands[n] {
				e := s.start[n] + t.workWith(hands) + s.tail[n] - s.work[n]
				s.changes = append(s.changes, change{first: n, second: -1 - hands, hands: hands, estimate: e})
			}
		}
	}
}

// byStart sorts an order by the starts that were decoded; it is almost sorted
// already. Between two tasks that follow each other at a resource there is
// then nothing that waits for the first, so that they can change places
// without a change for anybody else.
func (s *local) byStart(order []int) {
	for i := 1; i < len(order); i++ {
		n := order[i]
		k := i
		for k > 0 && s.start[order[k-1]] > s.start[n] {
			order[k] = order[k-1]
			k--
		}
		order[k] = n
	}
}

// blockChanges lists the changes within one stretch, in the order of time: the
// two at either end change places, and on every other try any task goes to
// either end.
func (s *local) blockChanges(block []int, resource int) {
	last := len(block) - 1
	toBack := func(i, to int) {
		s.changes = append(s.changes, change{
			first: block[to], second: block[i], after: s.sharp, estimate: s.guess(block[i:to+1], resource, 0, false),
		})
	}
	toBack(last-1, last)
	if last > 1 {
		toBack(0, 1)
	}
	if !s.wide {
		return
	}
	for i := range last - 1 {
		s.changes = append(s.changes, change{
			first: block[last], second: block[i], after: true, estimate: s.guess(block[i:], resource, 0, false),
		})
	}
	for i := 2; i <= last; i++ {
		s.changes = append(s.changes, change{first: block[i], second: block[0], estimate: s.guess(block[:i+1], resource, i, true)})
	}
}

// guess estimates where estimates are used.
func (s *local) guess(block []int, resource, from int, front bool) int {
	if !s.sharp {
		return 0
	}
	return s.estimate(block, resource, from, front)
}

// lastTask returns the task that decides the cost: the one that ends last, or
// the pinned one that begins too late by the most.
func (s *local) lastTask(l list) int {
	last, end := -1, -1
	if s.cost.late > 0 {
		for _, n := range l.order {
			if late := s.lateness(n, s.start[n]); late > end {
				last, end = n, late
			}
		}
		return last
	}
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
	return s.reorder(l.order, s.at[c.second], s.at[c.first], !c.after)
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
			l.hands[t] = 1 + s.rng.IntN(s.instance.cooks[s.tasks[t].group])
		case 3:
			s.swapGroups(l, s.tasks[l.order[s.rng.IntN(n)]].group, s.tasks[l.order[s.rng.IntN(n)]].group)
		}
	}
}

// swapGroups lets two groups with the same dishes take each other's places.
func (s *local) swapGroups(l list, a, b int) {
	one, two := s.byGroup[a], s.byGroup[b]
	if a == b || len(one) != len(two) || len(one) != len(s.ahead[a]) || len(two) != len(s.ahead[b]) || s.tasks[one[0]].dish != s.tasks[two[0]].dish {
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
	out := newSchedule(s.instance)
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
