package fit

import (
	"cmp"
	"slices"
)

// queueBound returns a time before which no valid plan of the given groups
// can finish, from the queues that form when many groups do the same step.
//
// For each step, in the order in which the groups come to it, r(j) is a
// moment before which the j-th group can't start. Three rules make it grow:
// the j-th to start can't be sooner than the j-th to have ended what comes
// before (if every group's moment is later, so is the j-th smallest); where
// at most m groups are at the step at once, for d seconds or more, the j-th
// starts at least d after the (j−m)-th; and work waits for the end of a
// break. In the same way, counted back from the end of the lesson, t(k) is
// the least time that the k-th last group has still to go. The group that is
// j-th of n to start is the (n−j+1)-th last, so the lesson lasts at least
// r(j) + t(n−j+1).
func (p *instance) queueBound(groups []int, heads, tails []int) (int, *queues) {
	q := p.newQueues(groups)
	for _, c := range q.classes {
		c.forward(q, heads)
	}
	bound := 0
	for _, c := range slices.Backward(q.classes) {
		c.back(q, tails)
		n := len(c.tasks)
		for j := range n {
			bound = max(bound, c.start[j]+c.toGo[n-1-j], c.workEnd[j]+c.toGoWork[n-1-j], c.end[j]+c.toGoEnd[n-1-j])
		}
	}
	return bound, q
}

// energyBound returns the bound that the adults and each equipment of the room
// give, from the work of all steps together. The j-th group to come to a step
// keeps the resource no sooner than the queue lets it, and has no less to go
// afterwards than the (n−j+1)-th last: so every load has its own head and
// tail, and steps that come back to the same ovens count in their places.
func (q *queues) energyBound() int {
	var adults []load
	shared := map[int][]load{}
	for _, c := range q.classes {
		n := len(c.tasks)
		for j := range n {
			if c.step.adult {
				adults = append(adults, load{c.start[j], c.work, c.toGo[n-1-j] - c.work})
			}
			for i := range c.step.uses {
				u := &c.step.uses[i]
				if q.lesson.Equipment[u.equipment].PerStation {
					continue
				}
				l := load{c.start[j], c.work + c.step.wait, c.toGo[n-1-j] - c.work - c.step.wait}
				switch u.part {
				case WorkPart:
					l.amount, l.tail = c.work, c.toGo[n-1-j]-c.work
				case WaitPart:
					l = load{c.workEnd[j], c.step.wait, c.toGoWork[n-1-j] - c.step.wait}
				}
				l.amount *= u.places
				shared[u.equipment] = append(shared[u.equipment], l)
			}
		}
	}
	bound := q.energy(adults, q.adults, true)
	for e, loads := range shared {
		bound = max(bound, q.energy(loads, q.places(e), false))
	}
	return bound
}

// queues holds one class for each step that some group does, each after all
// that it waits for.
type queues struct {
	*instance
	classes []*class
	of      map[[2]int]*class
}

// A class is one step of all groups that do it.
type class struct {
	step                    *task // of the first group
	tasks                   []int
	work                    int // least seconds of work of any group
	before, after           []classLink
	start, workEnd, end     []int // no sooner, by rank
	toGo, toGoWork, toGoEnd []int // no less, by rank from the end
}

// A classLink says that all groups of a class do another step before (or
// after) it, at least so many seconds apart.
type classLink struct {
	class *class
	gap   int
}

func (p *instance) newQueues(groups []int) *queues {
	q := &queues{instance: p, of: map[[2]int]*class{}}
	able := map[int]bool{}
	for _, g := range groups {
		able[g] = true
	}
	for _, n := range p.topological() {
		t := &p.tasks[n]
		if !able[t.group] || t.begun {
			continue
		}
		key := [2]int{t.dish, t.step}
		c := q.of[key]
		if c == nil {
			c = &class{step: t, work: forever}
			q.of[key] = c
			q.classes = append(q.classes, c)
		}
		c.tasks = append(c.tasks, n)
		c.work = min(c.work, slices.Min(t.work))
	}
	for _, c := range q.classes {
		c.before = q.common(c, func(t *task) []link { return t.before })
		c.after = q.common(c, func(t *task) []link { return t.after })
		n := len(c.tasks)
		for _, list := range []*[]int{&c.start, &c.workEnd, &c.end, &c.toGo, &c.toGoWork, &c.toGoEnd} {
			*list = make([]int, n)
		}
	}
	return q
}

// common returns the links that all tasks of the class have. A task that is
// linked twice to the same step counts once.
func (q *queues) common(c *class, links func(*task) []link) []classLink {
	type found struct{ count, gap, last int }
	all := map[*class]*found{}
	var order []*class
	for _, n := range c.tasks {
		for _, l := range links(&q.tasks[n]) {
			other := q.of[[2]int{q.tasks[l.task].dish, q.tasks[l.task].step}]
			f := all[other]
			if f == nil {
				f = &found{gap: forever, last: -1}
				all[other], order = f, append(order, other)
			}
			if f.last != n {
				f.count, f.last = f.count+1, n
			}
			f.gap = min(f.gap, l.min)
		}
	}
	var out []classLink
	for _, other := range order {
		if f := all[other]; f.count == len(c.tasks) {
			out = append(out, classLink{other, f.gap})
		}
	}
	return out
}

// spacing returns how many groups can be at the given part of the step at
// once; 0 where nothing limits it.
func (q *queues) spacing(c *class, part Part) int {
	most := 0
	for i := range c.step.uses {
		u := &c.step.uses[i]
		if u.part != part || q.lesson.Equipment[u.equipment].PerStation {
			continue
		}
		slots := 0
		for _, unit := range q.lesson.Equipment[u.equipment].Units {
			slots += unit.Places / u.places
		}
		if most == 0 || slots < most {
			most = slots
		}
	}
	if part == WorkPart && c.step.adult && (most == 0 || q.adults < most) {
		most = q.adults
	}
	return most
}

// spread makes each value at least d more than the one m before it, and no
// less than the one before.
func spread(ranks []int, m, d int) {
	for j := range ranks {
		if j > 0 {
			ranks[j] = max(ranks[j], ranks[j-1])
		}
		if m > 0 && j >= m {
			ranks[j] = max(ranks[j], ranks[j-m]+d)
		}
	}
}

func (c *class) forward(q *queues, heads []int) {
	for i, n := range c.tasks {
		c.start[i] = heads[n]
	}
	slices.SortFunc(c.start, cmp.Compare)
	for _, l := range c.before {
		for j := range c.start {
			c.start[j] = max(c.start[j], l.class.end[j]+l.gap)
		}
	}
	whole, working, waiting := q.spacing(c, WholeStep), q.spacing(c, WorkPart), q.spacing(c, WaitPart)
	for j := range c.start {
		c.start[j] = q.workStart(c.start[j], c.work)
		spread(c.start[:j+1], whole, c.work+c.step.wait)
		spread(c.start[:j+1], working, c.work)
		c.start[j] = q.workStart(c.start[j], c.work)
		c.workEnd[j] = c.start[j] + c.work
	}
	spread(c.workEnd, waiting, c.step.wait)
	for j := range c.end {
		c.end[j] = c.workEnd[j] + c.step.wait
	}
}

func (c *class) back(q *queues, tails []int) {
	for i, n := range c.tasks {
		c.toGo[i], c.toGoEnd[i] = tails[n], tails[n]-q.tasks[n].shortest()
	}
	slices.SortFunc(c.toGo, cmp.Compare)
	slices.SortFunc(c.toGoEnd, cmp.Compare)
	for _, l := range c.after {
		for k := range c.toGoEnd {
			c.toGoEnd[k] = max(c.toGoEnd[k], l.class.toGo[k]+l.gap)
		}
	}
	for k := range c.toGoWork {
		c.toGoWork[k] = c.toGoEnd[k] + c.step.wait
	}
	spread(c.toGoWork, q.spacing(c, WaitPart), c.step.wait)
	for k := range c.toGo {
		c.toGo[k] = max(c.toGo[k], c.toGoWork[k]+c.work)
	}
	spread(c.toGo, q.spacing(c, WholeStep), c.work+c.step.wait)
	spread(c.toGo, q.spacing(c, WorkPart), c.work)
}
