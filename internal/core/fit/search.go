package fit

import (
	"cmp"
	"math/rand/v2"
	"slices"
)

// A genome is what the search varies: which task is placed first among those
// that could be, and how many cooks share it at most.
type genome struct {
	rank  []int // lower goes first
	hands []int // most cooks on the task
}

func (g genome) clone() genome {
	return genome{slices.Clone(g.rank), slices.Clone(g.hands)}
}

// A cost orders schedules: the groups for which there is no room; how late pinned steps begin, which the teacher has
// asked for above all; the overrun; the last group's finish, then the sum of
// all. The overrun grows with the finish, and is counted only where waits may
// go on after the deadline of work.
type cost struct{ left, late, over, finish, sum int }

func (c cost) less(d cost) bool {
	if c.left != d.left {
		return c.left < d.left
	}
	if c.late != d.late {
		return c.late < d.late
	}
	if c.over != d.over {
		return c.over < d.over
	}
	return c.finish < d.finish || c.finish == d.finish && c.sum < d.sum
}

// reaches reports whether nothing that counts first can be better.
func (c cost) reaches(bound cost) bool {
	return c.left == 0 && c.late == 0 && c.over == 0 && c.finish <= bound.finish
}

// worst is the cost of what is no schedule.
var worst = cost{forever, forever, forever, forever, forever}

// build places all tasks of the groups that can be planned, in the order of
// the genome: a serial schedule generation scheme. Each task goes to the
// earliest moment that all rules allow beside what is placed already.
//
// A greatest gap can be missed when the later task finds no room in time. The
// earlier one is then taken out with all that its group placed since, and
// comes back that much later (the unscheduling step of Franck, Neumann and
// Schwindt, 2001). A group for which that does not end is placed as a whole,
// by its template.
//
// It counts its work in placements of a decoder, and gives up, reporting
// false, where that goes over the limit.
func (s *schedule) build(g genome, templates []template, limit int) (work int, ok bool) {
	s.reset()
	s.seen = 0
	inserted := 0
	waiting := make([]int, len(s.tasks)) // predecessors not placed yet
	release := make([]int, len(s.tasks)) // not before, from unscheduling
	sequence := make([][]int, len(s.byGroup))
	repairs := make([]int, len(s.byGroup))
	var open []int
	for gr, tasks := range s.ahead {
		if templates[gr].impossible() {
			continue
		}
		for _, n := range tasks {
			waiting[n] = len(s.tasks[n].before)
			if waiting[n] == 0 {
				open = append(open, n)
			}
		}
	}
	takeOut := func(gr int) {
		for _, m := range sequence[gr] {
			s.remove(m)
		}
		open = slices.DeleteFunc(open, func(m int) bool { return s.tasks[m].group == gr })
	}
	for len(open) > 0 {
		if work = inserted*buildWeight + s.seen/seenWeight; work > limit {
			return work, false
		}
		s.seen += len(open)
		at := 0
		for i, n := range open {
			if g.rank[n] < g.rank[open[at]] {
				at = i
			}
		}
		n := open[at]
		open[at] = open[len(open)-1]
		open = open[:len(open)-1]
		gr := s.tasks[n].group

		late, room := s.insert(n, g.hands[n], release[n])
		inserted++
		if !room {
			takeOut(gr)
			s.left++
			continue
		}
		if late == nil {
			sequence[gr] = append(sequence[gr], n)
			for _, l := range s.tasks[n].after {
				if waiting[l.task]--; waiting[l.task] == 0 {
					open = append(open, l.task)
				}
			}
			continue
		}

		repairs[gr]++
		if repairs[gr] > 20+2*len(s.byGroup[gr]) {
			takeOut(gr)
			if s.narrow { // a template may be in other units
				return inserted*buildWeight + s.seen/seenWeight, false
			}
			if !s.insertTemplate(s.ahead[gr], templates[gr], 0) {
				s.left++
			}
			inserted += len(s.byGroup[gr])
			continue
		}
		// Take the earlier task and all that came after it out again.
		from := slices.Index(sequence[gr], late.task)
		release[late.task] = s.jobs[late.task].start + late.by
		for _, m := range sequence[gr][from:] {
			s.remove(m)
		}
		sequence[gr] = sequence[gr][:from]
		open = slices.DeleteFunc(open, func(m int) bool { return s.tasks[m].group == gr })
		for _, m := range s.ahead[gr] {
			if s.jobs[m].placed {
				continue
			}
			waiting[m] = 0
			for _, l := range s.tasks[m].before {
				if !s.jobs[l.task].placed {
					waiting[m]++
				}
			}
			if waiting[m] == 0 {
				open = append(open, m)
			}
		}
	}
	return inserted*buildWeight + s.seen/seenWeight, true
}

// inTurn lets the groups that can be planned work one after another, each
// when all others have ended. It is always possible, and quick.
func (s *schedule) inTurn(templates []template) {
	s.reset()
	end := s.now
	for n := range s.tasks {
		if t := &s.tasks[n]; t.begun {
			end = max(end, t.fixed.end())
		}
	}
	for _, a := range s.away {
		end = max(end, a.to)
	}
	for _, b := range s.breaks {
		end = max(end, b.to)
	}
	order := s.topological()
	for g, tasks := range s.ahead {
		switch {
		case templates[g].impossible():
			continue
		case templates[g].starts != nil:
			if !s.insertTemplate(tasks, templates[g], end) {
				s.left++
			}
		default:
			for _, n := range order {
				if s.tasks[n].group != g || s.tasks[n].begun {
					continue
				}
				if _, room := s.insert(n, s.cooks[g], end); !room {
					s.takeOut(tasks)
					s.left++
					break
				}
			}
		}
		end = max(end, s.groupFinish(g))
	}
}

// lateness says which earlier task must come later, and by how much, for a
// greatest gap to be kept.
type lateness struct{ task, by int }

// insert places a task with the number of cooks that ends it first. It places
// nothing and returns a lateness where a greatest gap would be missed, and
// reports where there is no room at any time.
func (s *schedule) insert(n, hands, release int) (late *lateness, room bool) {
	task := &s.tasks[n]
	from, latest, tight := max(release, task.release), forever, 0
	for _, l := range task.before {
		end := s.jobs[l.task].end()
		from = max(from, end+l.min)
		if l.max != forever && end+l.max < latest {
			latest, tight = end+l.max, l.task
		}
	}
	bestEnd, bestStart, bestCooks := forever, 0, 0
	var trial []assignment
	for cooks := task.least; cooks < task.least+len(task.work); cooks++ {
		if cooks > max(hands, task.least) {
			break
		}
		start := s.earliest(n, cooks, from)
		if end := start + task.workWith(cooks) + task.wait; end < bestEnd {
			bestEnd, bestStart, bestCooks = end, start, cooks
			trial = append(trial[:0], s.trial...)
		}
		if start > latest {
			// More hands would only find room later still.
			break
		}
	}
	if bestStart >= never || bestEnd == forever {
		return nil, false
	}
	if bestStart > latest {
		return &lateness{tight, bestStart - latest}, true
	}
	s.place(n, bestCooks, bestStart, trial)
	return nil, true
}

// takeOut removes those of the tasks that are placed.
func (s *schedule) takeOut(tasks []int) {
	for _, n := range tasks {
		if s.jobs[n].placed {
			s.remove(n)
		}
	}
}

// insertTemplate places a whole group as its template has it, at the earliest
// moment from the offset on at which every task finds room: at the latest,
// after everyone else, unless a unit is out for good.
func (s *schedule) insertTemplate(tasks []int, t template, offset int) bool {
	defer func() { s.only = nil }()
	for {
		moved := 0
		for i, n := range tasks {
			at := offset + t.starts[i]
			s.only = t.units[i]
			start := s.earliest(n, t.cooks[i], at)
			if start != at {
				moved = start - at
				break
			}
			s.place(n, t.cooks[i], start, slices.Clone(s.trial))
		}
		if moved == 0 {
			return true
		}
		s.takeOut(tasks)
		if offset += moved; offset >= never {
			return false
		}
	}
}

func (s *schedule) cost() cost {
	c := cost{left: s.left}
	if s.dues {
		for n := range s.jobs {
			if s.jobs[n].placed {
				c.late += s.lateness(n, s.jobs[n].start)
			}
		}
	}
	if s.grace > 0 {
		for n := range s.jobs {
			if j := &s.jobs[n]; j.placed {
				c.over = max(c.over, s.need(j.start, j.work, j.wait)-s.deadline)
			}
		}
	}
	for g := range s.byGroup {
		finish := s.groupFinish(g)
		c.finish = max(c.finish, finish)
		c.sum += finish
	}
	return c
}

// search builds schedules until the allowance of placements is used up, and
// returns the best, and what is known that none can go under. First come the
// rules of thumb, so that there is a good schedule at once; the best of them is
// then improved. Placements are counted in place of time, so that the same
// lesson gives the same plan on every machine.
func search(p *instance, templates []template, bound cost, allowance int, seed uint64) (*schedule, cost) {
	rng := rand.New(rand.NewPCG(seed, 0))
	best, trial := newSchedule(p), newSchedule(p)
	var from genome
	bestCost := worst
	spent := 0
	enough := max(allowance, 2*len(p.tasks)*buildWeight)
	for _, g := range thumbRules(p) {
		if spent > enough {
			break
		}
		work, ok := trial.build(g, templates, enough)
		spent += work
		if c := trial.cost(); ok && c.less(bestCost) {
			best, trial = trial, best
			from, bestCost = g, c
		}
	}
	if bestCost == worst { // too large even for one of them
		best.inTurn(templates)
		bestCost = best.cost()
	}
	best.leaveOut(templates)
	if len(best.list().order) == 0 {
		return best, bound
	}
	bestCost.left = 0
	spent = min(spent, allowance/2)
	begun, left := spent, allowance-spent
	part := func(percent int) int { return begun + left*percent/100 }
	improve := func(stop int) {
		if !p.decodable() {
			return
		}
		l := newLocal(p, rng, &spent)
		if found, c := l.improve(best.list(), stop, bound); c.less(bestCost) {
			l.decode(found, forever)
			best, bestCost = l.schedule(found), c
		}
	}
	share := func() *schedule {
		if !p.decodable() {
			return best
		}
		return newLocal(p, rng, &spent).fairer(best, spent+left*fairShare/100)
	}
	improve(part(3))
	if !bestCost.reaches(bound) {
		bound.finish = max(bound.finish, p.loneBound(templates, left/kindShare, &spent))
	}
	if bestCost.reaches(bound) {
		improve(part(10))
		return share().tidy(), bound
	}
	v := newProver(best, bound.finish, &spent, rng)
	if v == nil {
		stop := allowance
		if p.hasGaps() || !p.decodable() {
			stop = part(50)
		}
		improve(stop)
		if stop < allowance && from.rank != nil {
			best = wander(best, trial, templates, from, bound, allowance, spent, rng)
		}
		return best.tidy(), bound
	}
	if len(v.choices) < smallModel {
		v.run(part(15))
		best, bestCost = v.best, v.cost
	} else if grown := p.grow(templates, bound, bestCost, left, &spent, rng); grown != nil {
		v.adopt(grown)
		best, bestCost = v.best, v.cost
	}
	if !v.proved {
		improve(spent + left*p.localShare()/100)
		v.adopt(best)
		v = v.search(templates, left, part(97-fairShare))
		best, bestCost = v.best, v.cost
	}
	if v.proved {
		v.bound = bestCost.finish
	}
	if v.certain() {
		bound.finish = max(bound.finish, v.bound)
	}
	improve(part(100 - fairShare))
	return share().tidy(), bound
}

// localShare returns what percentage of the allowance the local search has
// beside the solver: it does most where every resource takes one task at a time,
// much in plain lessons, and little where there are greatest gaps.
func (p *instance) localShare() int {
	switch {
	case p.hasGaps():
		return 3
	case p.sharp():
		return 60
	}
	return 37
}

const (
	smallModel = 1000 // choices up to which the solver is worth a try at once, and everywhere
	mostKinds  = 4    // of groups that are planned alone for a bound
	kindShare  = 60   // one part in so many of the allowance goes to each
)

// loneBound returns a time before which no plan can finish, from the kinds of
// groups: what a group alone can't do sooner it can't in company.
func (p *instance) loneBound(templates []template, allowance int, spent *int) int {
	if len(p.byGroup) < 2 || p.now > 0 || p.lesson.Progress != nil {
		return 0
	}
	bound, kinds := 0, 0
	for g := range p.byGroup {
		if templates[g].impossible() || p.twin(g) >= 0 {
			continue
		}
		if kinds++; kinds > mostKinds {
			break
		}
		l := p.lesson
		l.Groups = l.Groups[g : g+1]
		alone := compile(l)
		_, found := search(alone, alone.templates(), alone.costBound([]int{0}), allowance, 0)
		*spent += allowance / 2
		bound = max(bound, found.finish)
	}
	return bound
}

// leaveOut notes the groups for which the schedule has no room: their
// equipment is out for good, and nobody goes on looking.
func (s *schedule) leaveOut(templates []template) {
	for g, tasks := range s.ahead {
		if len(tasks) > 0 && !s.jobs[tasks[0]].placed && !templates[g].impossible() {
			templates[g] = template{noRoom: true}
		}
	}
	s.left = 0
}

// buildWeight is how many placements of a decoder take as long as one that
// looks for gaps.
const buildWeight = 60

// seenWeight is how many things can be looked at in the time of a placement.
const seenWeight = 40

func (p *instance) hasGaps() bool {
	for n := range p.tasks {
		for _, l := range p.tasks[n].before {
			if l.max != forever {
				return true
			}
		}
	}
	return false
}

// wander makes small changes to a genome, kept when they do no harm, so that
// it can go on where all is alike; the plan itself changes only for a better
// one. Once the finish has reached the bound no plan can be better in what
// counts first, and the sum is then only polished for an eighth of what is
// left.
func wander(best, trial *schedule, templates []template, here genome, bound cost, allowance, spent int, rng *rand.Rand) *schedule {
	p := best.instance
	bestCost := best.cost()
	hereCost := bestCost
	if bestCost.reaches(bound) {
		allowance = spent + (allowance-spent)/8
	}
	for spent < allowance && bound.less(bestCost) {
		g := here.clone()
		g.vary(p, rng)
		work, ok := trial.build(g, templates, allowance-spent)
		spent += work
		if !ok {
			break
		}
		c := trial.cost()
		if !hereCost.less(c) {
			here, hereCost = g, c
		}
		if c.less(bestCost) {
			best, trial = trial, best
			bestCost = c
		}
	}
	return best
}

// thumbRules returns the genomes that are tried first: the task with the
// longest way to go first, with all hands or with one; each group in turn;
// and the order of the recipe.
func thumbRules(p *instance) []genome {
	tails := p.tails()
	rank := func(key func(n int) (int, int)) []int {
		order := make([]int, len(p.tasks))
		for n := range order {
			order[n] = n
		}
		slices.SortStableFunc(order, func(a, b int) int {
			a1, a2 := key(a)
			b1, b2 := key(b)
			return cmp.Or(cmp.Compare(a1, b1), cmp.Compare(a2, b2))
		})
		ranks := make([]int, len(order))
		for r, n := range order {
			ranks[n] = r
		}
		return ranks
	}
	pinned := p.pressing()
	longest := rank(func(n int) (int, int) { return -tails[n], n })
	inTurn := rank(func(n int) (int, int) { return p.tasks[n].group, -tails[n] })
	recipe := rank(func(n int) (int, int) { return p.tasks[n].step, p.tasks[n].group })
	most := slices.Max(p.cooks)
	var out []genome
	for _, hands := range []int{most, 1} {
		h := slices.Repeat([]int{hands}, len(p.tasks))
		rules := [][]int{longest, inTurn, recipe}
		if p.dues {
			rules = append(rules, rank(func(n int) (int, int) { return pinned[n], -tails[n] }))
		}
		for _, r := range rules {
			out = append(out, genome{r, h})
		}
		if most == 1 {
			break
		}
	}
	return out
}

// pressing returns for each task the moment by which it must begin for every
// pinned step to begin in time.
func (p *instance) pressing() []int {
	by := make([]int, len(p.tasks))
	order := p.topological()
	slices.Reverse(order)
	for _, n := range order {
		by[n] = min(p.tasks[n].beginBy, p.tasks[n].due)
		for _, l := range p.tasks[n].after {
			if by[l.task] != forever {
				by[n] = min(by[n], by[l.task]-l.min-p.tasks[n].shortest())
			}
		}
	}
	return by
}

// vary makes one to three small changes.
func (g genome) vary(p *instance, rng *rand.Rand) {
	n := len(g.rank)
	for range 1 + rng.IntN(3) {
		a := rng.IntN(n)
		switch rng.IntN(4) {
		case 0: // let a task go elsewhere in the order
			to := rng.IntN(n)
			was := g.rank[a]
			for i, r := range g.rank {
				switch {
				case was < r && r <= to:
					g.rank[i]--
				case to <= r && r < was:
					g.rank[i]++
				}
			}
			g.rank[a] = to
		case 1: // swap two tasks
			b := rng.IntN(n)
			g.rank[a], g.rank[b] = g.rank[b], g.rank[a]
		case 2: // swap two groups, so that they queue in another order
			one, two := p.byGroup[p.tasks[a].group], p.byGroup[rng.IntN(len(p.byGroup))]
			for i := range min(len(one), len(two)) {
				g.rank[one[i]], g.rank[two[i]] = g.rank[two[i]], g.rank[one[i]]
			}
		case 3: // share a task among more or fewer
			g.hands[a] = 1 + rng.IntN(p.cooks[p.tasks[a].group])
		}
	}
}
