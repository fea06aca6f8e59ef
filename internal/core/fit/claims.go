package fit

// A claim is what a task takes of a resource that takes one at a time, counted from the
// task's start.
type claim struct{ resource, enter, leave int }

// A due is a task that another waits for, and how long after its start at least.
type due struct{ task, lag int }

// quick is what laying a list by its claims looks at, close together: for each task the
// first moment, how long it is, what it waits for and what it takes.
type quick struct {
	release, length []int
	dues            []due
	claims          []claim
	dueAt, claimAt  []int // where those of a task begin; of one more where they end
}

// claimAll notes which resources each task takes, and when.
func (s *local) claimAll() {
	resources := len(s.crews) + 1 + len(s.units)
	s.free, s.last = make([]int, resources), make([]int, resources)
	q := &s.quick
	for n := range s.tasks {
		t := &s.tasks[n]
		work := t.workWith(t.least)
		q.release, q.length = append(q.release, t.release), append(q.length, work+t.wait)
		q.dueAt, q.claimAt = append(q.dueAt, len(q.dues)), append(q.claimAt, len(q.claims))
		for _, b := range t.before {
			of := &s.tasks[b.task]
			q.dues = append(q.dues, due{b.task, of.workWith(of.least) + of.wait + b.min})
		}
		if work > 0 && t.least > 0 && !s.ample[t.group] {
			q.claims = append(q.claims, claim{t.group, 0, work})
		}
		if work > 0 && t.adult {
			q.claims = append(q.claims, claim{len(s.crews), 0, work})
		}
		for i := range t.uses {
			if enter, leave := t.uses[i].span(0, work, t.wait); leave > enter {
				q.claims = append(q.claims, claim{len(s.crews) + 1 + t.uses[i].units[0], enter, leave})
			}
		}
	}
	q.dueAt, q.claimAt = append(q.dueAt, len(q.dues)), append(q.claimAt, len(q.claims))
}

func (q *quick) duesOf(n int) []due     { return q.dues[q.dueAt[n]:q.dueAt[n+1]] }
func (q *quick) claimsOf(n int) []claim { return q.claims[q.claimAt[n]:q.claimAt[n+1]] }

// claimWeight is how many tasks are laid by their claims in the time of a placement.
const claimWeight = 2

// layClaims is decode where every resource takes one task at a time: each starts when all
// that it takes is free.
func (s *local) layClaims(order []int) {
	*s.spent += 1 + len(order)/claimWeight
	clear(s.free)
	for u := range s.units {
		s.free[len(s.crews)+1+u] = s.units[u].ready
	}
	for r := range s.last {
		s.last[r] = -1
	}
	clear(s.finish)
	for _, n := range order {
		start, by := s.quick.release[n], hold{-1, byRules}
		for _, d := range s.quick.duesOf(n) {
			if at := s.start[d.task] + d.lag; at > start {
				start, by = at, hold{d.task, byRules}
			}
		}
		claims := s.quick.claimsOf(n)
		f := s.follows[n][:0]
		for _, c := range claims {
			who := s.last[c.resource]
			if at := s.free[c.resource] - c.enter; at > start {
				if start, by = at, (hold{who, c.resource}); who < 0 {
					by.resource = byRules
				}
			}
			if who >= 0 {
				f = append(f, hold{who, c.resource})
			}
		}
		for _, c := range claims {
			s.free[c.resource], s.last[c.resource] = start+c.leave, n
		}
		s.follows[n], s.start[n], s.holder[n] = f, start, by
		g := s.tasks[n].group
		s.finish[g] = max(s.finish[g], start+s.quick.length[n])
	}
	s.cost = cost{}
	for _, f := range s.finish {
		s.cost.finish = max(s.cost.finish, f)
		s.cost.sum += f
	}
}

// drawClaims draws the chart of a list that was laid by its claims.
func (s *local) drawClaims(order []int) {
	*s.spent += 1 + len(order)/claimWeight
	for _, n := range order {
		s.tail[n] = s.quick.length[n]
		s.chart.next[n] = s.chart.next[n][:0]
		for _, f := range s.follows[n] {
			s.chart.next[f.task] = append(s.chart.next[f.task], hold{n, f.resource})
		}
	}
	for r := range s.free {
		s.free[r] = unreached // from when the next enters to the end
	}
	for i := len(order) - 1; i >= 0; i-- {
		n := order[i]
		tail, claims := s.tail[n], s.quick.claimsOf(n)
		for _, c := range claims {
			tail = max(tail, c.leave+s.free[c.resource])
		}
		for _, c := range claims {
			s.free[c.resource] = tail - c.enter
		}
		s.tail[n] = tail
		for _, d := range s.quick.duesOf(n) {
			s.tail[d.task] = max(s.tail[d.task], d.lag+tail)
		}
	}
}
