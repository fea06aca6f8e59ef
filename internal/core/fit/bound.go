package fit

import "slices"

// heads returns for each task a moment before which no plan can start it: the
// longest way through the rules "after" from the door, with the breaks and
// with ovens that heat up, and with nobody else in the room; or the time that
// the group's cooks need for all the work that comes before.
func (p *instance) heads() []int {
	heads := make([]int, len(p.tasks))
	order := p.topological()
	earlier := p.related(order, func(t *task) []link { return t.before })
	for _, n := range order {
		t := &p.tasks[n]
		if t.begun {
			heads[n] = t.fixed.start
			continue
		}
		start, gap := t.release, forever
		for _, l := range t.before {
			start = max(start, heads[l.task]+p.tasks[l.task].shortest()+l.min)
			gap = min(gap, p.tasks[l.task].wait+l.min)
		}
		if busy := p.busy(t.group, earlier[n]); busy > 0 {
			// The last of that work is followed by a wait, if only its own.
			start = max(start, p.afterWorking(p.now, busy)+gap)
		}
		// With more hands a work part may slip in before a break, so the
		// least start is over all numbers of cooks.
		best := forever
		for _, work := range t.work {
			at := p.workStart(start, work)
			for _, u := range t.uses {
				ready := forever
				for _, unit := range u.units {
					ready = min(ready, p.units[unit].ready)
				}
				enter, _ := u.span(0, work, t.wait)
				at = max(at, ready-enter)
			}
			best = min(best, p.workStart(at, work))
		}
		heads[n] = best
	}
	return heads
}

// tails returns for each task the least time from its start to the end of
// the last task of its group that waits for it.
func (p *instance) tails() []int {
	tails := make([]int, len(p.tasks))
	order := p.topological()
	slices.Reverse(order)
	later := p.related(order, func(t *task) []link { return t.after })
	for _, n := range order {
		t := &p.tasks[n]
		after, gap := 0, forever
		for _, l := range t.after {
			after = max(after, l.min+tails[l.task])
			gap = min(gap, l.min)
		}
		if busy := p.busy(t.group, later[n]); busy > 0 {
			after = max(after, busy+gap)
		}
		tails[n] = t.shortest() + after
	}
	return tails
}

// topological returns the tasks with each after all that it waits for.
func (p *instance) topological() []int {
	order := make([]int, 0, len(p.tasks))
	waiting := make([]int, len(p.tasks))
	for n := range p.tasks {
		waiting[n] = len(p.tasks[n].before)
		if waiting[n] == 0 {
			order = append(order, n)
		}
	}
	for i := 0; i < len(order); i++ {
		for _, l := range p.tasks[order[i]].after {
			if waiting[l.task]--; waiting[l.task] == 0 {
				order = append(order, l.task)
			}
		}
	}
	return order
}

// A set holds tasks of one group, by their place in it.
type set []uint64

func (s set) add(i int) { s[i/64] |= 1 << (i % 64) }

func (s set) join(o set) {
	for i := range s {
		s[i] |= o[i]
	}
}

// related returns for each task all tasks that the links lead to, one after
// another. Along the order each task comes after those its links lead to.
func (p *instance) related(order []int, links func(*task) []link) []set {
	place, most := make([]int, len(p.tasks)), 0
	for _, tasks := range p.byGroup {
		for i, n := range tasks {
			place[n] = i
		}
		most = max(most, len(tasks))
	}
	words := (most + 63) / 64
	all := make(set, words*len(p.tasks))
	out := make([]set, len(p.tasks))
	for _, n := range order {
		out[n] = all[n*words : (n+1)*words]
		for _, l := range links(&p.tasks[n]) {
			out[n].add(place[l.task])
			out[n].join(out[l.task])
		}
	}
	return out
}

// busy returns the least seconds for which all cooks of the group together
// are at work on the tasks.
func (p *instance) busy(group int, tasks set) int {
	sum := 0
	for i, n := range p.byGroup[group] {
		if tasks[i/64]>>(i%64)&1 == 1 {
			sum += p.tasks[n].effort()
		}
	}
	return (sum + p.cooks[group] - 1) / p.cooks[group]
}

// A load is a stretch for which a task keeps part of a resource.
type load struct {
	head   int // no plan starts it earlier
	amount int // seconds times what is kept
	tail   int // no plan ends the group sooner after the stretch
}

// costBound returns a cost that no valid plan of the given groups can go
// under: the finish of all, and the sum of what each could do alone.
func (p *instance) costBound(groups []int) cost {
	c := cost{finish: p.lowerBound(groups)}
	alone := make([]int, len(p.byGroup))
	for _, g := range groups {
		if twin := p.twin(g); twin >= 0 {
			alone[g] = alone[twin]
		} else {
			alone[g] = p.lowerBound([]int{g})
		}
		c.sum += alone[g]
	}
	return c
}

// lowerBound returns a time before which no valid plan of the given groups
// can finish. It is the greatest of
//   - the longest way through each group's steps (heads and tails),
//   - for each group's cooks, for the adults and for each equipment, the work
//     it has to do: for every set of loads that start after h and have at
//     least q to go, h + (their sum over the capacity) + q. Work parts are
//     measured in time outside the breaks,
//   - the queues of groups at the same step (queueBound),
//   - the visits to ovens that are never there together (pigeonBound).
func (p *instance) lowerBound(groups []int) int {
	heads, tails := p.heads(), p.tails()
	bound, queues := p.queueBound(groups, heads, tails)
	bound = max(bound, queues.energyBound(), p.pigeonBound(groups, heads, tails))
	for _, g := range groups {
		var hands []load
		own := map[int][]load{}
		for _, n := range p.byGroup[g] {
			t := &p.tasks[n]
			bound = max(bound, heads[n]+tails[n])
			if t.begun { // what is under way may be more than there is room for
				continue
			}
			work := slices.Min(t.work)
			if t.hasWork() && t.least > 0 {
				hands = append(hands, load{heads[n], t.effort(), tails[n] - work})
			}
			for i := range t.uses {
				u := &t.uses[i]
				enter, leave := u.span(0, work, t.wait)
				if p.lesson.Equipment[u.equipment].PerStation {
					own[u.equipment] = append(own[u.equipment], load{heads[n] + enter, (leave - enter) * u.places, tails[n] - leave})
				}
			}
		}
		bound = max(bound, p.energy(hands, p.cooks[g], true))
		for e, loads := range own {
			bound = max(bound, p.energy(loads, p.places(e), false))
		}
	}
	return bound
}

func (p *instance) places(equipment int) int {
	n := 0
	for _, u := range p.lesson.Equipment[equipment].Units {
		n += u.Places
	}
	return n
}

// energy returns the bound that one resource gives. With work set, the loads
// can't run in the breaks.
func (p *instance) energy(loads []load, capacity int, work bool) int {
	if capacity == 0 {
		return 0
	}
	slices.SortFunc(loads, func(a, b load) int { return b.tail - a.tail })
	heads := make([]int, len(loads))
	for i, l := range loads {
		heads[i] = l.head
	}
	slices.Sort(heads)
	bound := 0
	for _, head := range slices.Compact(heads) {
		sum := 0
		for _, l := range loads {
			if l.head < head {
				continue
			}
			sum += l.amount
			busy := (sum + capacity - 1) / capacity
			end := head + busy
			if work {
				end = p.afterWorking(head, busy)
			}
			bound = max(bound, end+l.tail)
		}
	}
	return bound
}

// afterWorking returns the moment at which so many seconds outside the breaks
// have passed since from.
func (p *instance) afterWorking(from, seconds int) int {
	for _, b := range p.breaks {
		if b.to <= from {
			continue
		}
		free := max(0, b.from-from)
		if seconds <= free {
			return from + seconds
		}
		seconds -= free
		from = b.to
	}
	return from + seconds
}
