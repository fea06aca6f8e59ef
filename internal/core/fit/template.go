package fit

import (
	"slices"

	"freshapron/internal/core/constraint"
)

// A template is a plan for one group that has the room to itself and all the
// time it wants. It exists for groups with greatest gaps: without them steps
// can always run one after the other.
type template struct {
	starts, cooks []int   // in the order of instance.byGroup
	units         [][]int // for each task and use, by its place in use.units
	clash         []rule  // where there is no such plan: the rules that exclude each other
	unsure        bool    // the search for one was cut short, so there may be a plan after all
	noRoom        bool    // a unit that it needs is out for good
}

func (t template) impossible() bool { return t.clash != nil || t.noRoom }

// A rule names one greatest gap: link number `link` of task `task`.
type rule struct{ task, link int }

// templates finds one for each group. Groups that differ in nothing that
// matters here share the work.
func (p *instance) templates() []template {
	out := make([]template, len(p.byGroup))
	for g, tasks := range p.todo {
		var gaps []rule
		for _, n := range tasks {
			for i, l := range p.tasks[n].before {
				if l.max != forever {
					gaps = append(gaps, rule{n, i})
				}
			}
		}
		if gaps == nil {
			continue
		}
		if twin := p.twin(g); twin >= 0 {
			out[g] = out[twin]
			if out[g].impossible() {
				out[g].clash = slices.Clone(out[twin].clash)
				for i := range out[g].clash {
					at := slices.Index(p.todo[twin], out[g].clash[i].task)
					out[g].clash[i].task = tasks[at]
				}
			}
			continue
		}
		lone := lone{instance: p, tasks: tasks, keep: map[rule]bool{}}
		for _, r := range gaps {
			lone.keep[r] = true
		}
		if t, ok := lone.solve(); ok {
			out[g] = t
			continue
		}
		if t, decided := p.aloneByModel(tasks, gaps); decided {
			out[g] = t
			continue
		}
		out[g].unsure = lone.cut
		// Drop every rule that the clash does not need.
		for _, r := range gaps {
			lone.keep[r] = false
			if _, ok := lone.solve(); ok {
				lone.keep[r] = true
			}
		}
		for _, r := range gaps {
			if lone.keep[r] {
				out[g].clash = append(out[g].clash, r)
			}
		}
	}
	return out
}

const (
	aloneConflicts = 20_000
	aloneTicks     = 4_000_000
)

// aloneByModel finds a template with the constraint solver, or which rules
// exclude each other. It reports false where it can do neither.
func (p *instance) aloneByModel(tasks []int, gaps []rule) (template, bool) {
	if p.shuts { // a unit that is out is not the gaps' fault
		return template{}, false
	}
	m := p.model(tasks, p.longest(tasks), func(int) int { return forever }, gaps)
	if m == nil {
		return template{}, false
	}
	holding := slices.Clone(gaps)
	try := func(rules []rule) constraint.Status {
		var lits []constraint.Lit
		for _, r := range rules {
			lits = append(lits, m.binding[r])
		}
		return m.Solve(lits, aloneConflicts, m.Ticks+aloneTicks)
	}
	switch try(holding) {
	case constraint.Found:
		return m.template(tasks), true
	case constraint.GivenUp:
		return template{}, false
	}
	var t template
	for i := 0; i < len(holding); {
		without := slices.Delete(slices.Clone(holding), i, i+1)
		if try(without) == constraint.Refuted {
			holding = without
		} else {
			i++
		}
	}
	t.clash = holding
	return t, true
}

// longest returns a time in which the tasks can be done one after the other.
func (p *instance) longest(tasks []int) int {
	end := p.now
	for _, b := range p.breaks {
		end = max(end, b.to)
	}
	for _, a := range p.away {
		end = max(end, a.to)
	}
	for _, u := range p.units {
		end = max(end, u.ready)
	}
	for _, n := range tasks {
		end = max(end, p.tasks[n].release)
	}
	for _, n := range tasks {
		t := &p.tasks[n]
		end += slices.Max(t.work) + t.wait
		for i := range t.uses {
			end += p.units[t.uses[i].units[0]].reheat
		}
		for _, l := range t.before {
			end += l.min
		}
	}
	return end
}

// template returns the solution of a model as a template.
func (m *model) template(tasks []int) template {
	in := m.unitsIn()
	t := template{}
	for _, n := range tasks {
		task := &m.instance.tasks[n]
		t.starts = append(t.starts, m.Value(m.start[n])*m.step)
		t.cooks = append(t.cooks, m.cooksOf(n))
		units := make([]int, len(task.uses))
		for i := range task.uses {
			if unit, ok := in[[2]int{n, i}]; ok {
				units[i] = slices.Index(task.uses[i].units, unit)
			}
		}
		t.units = append(t.units, units)
	}
	return t
}

// twin returns an earlier group with the same dishes, cooks and pace, or −1.
// A group that has begun is nobody's twin.
func (p *instance) twin(g int) int {
	a := p.lesson.Groups[g]
	if p.touched(a.ID) {
		return -1
	}
	for h, b := range p.lesson.Groups[:g] {
		if !p.touched(b.ID) && a.Pins == nil && b.Pins == nil && a.Cooks == b.Cooks && a.Pace.Cmp(b.Pace) == 0 && (a.Dishes == nil) == (b.Dishes == nil) && slices.Equal(a.Dishes, b.Dishes) {
			return h
		}
	}
	return -1
}

// touched reports whether something is known of the progress of a group.
func (p *instance) touched(group string) bool {
	return slices.ContainsFunc(p.lesson.Progress, func(r Progress) bool { return r.Group == group })
}

// lone plans one group alone, by branching over orders. The rules are
// differences between moments of tasks; the least starts that keep them are a
// longest-path problem. Where those starts overload something, in every plan
// at least one of the tasks involved comes after another, or is in another
// unit: each way is tried in turn. The search is complete up to its limit.
type lone struct {
	*instance
	tasks []int
	keep  map[rule]bool // the greatest gaps in force
	nodes int
	cut   bool // a search was given up at its limit
}

// loneNodes bounds the branching of one search.
const loneNodes = 3000

// An arc says: start(to) ≥ start(from) + lag. Indices into lone.tasks.
type arc struct{ from, to, lag int }

type choice struct {
	cooks []int
	units [][]int // for each task and use, index into use.units
}

func (l *lone) solve() (template, bool) {
	l.nodes = 0
	for _, hands := range l.handings() {
		c := choice{cooks: hands}
		for _, n := range l.tasks {
			c.units = append(c.units, make([]int, len(l.instance.tasks[n].uses)))
		}
		if starts, units, ok := l.branch(c, l.rules(c)); ok {
			return template{starts: starts, cooks: hands, units: units}, true
		}
	}
	return template{}, false
}

// handings lists ways to share: everything by one, everything by all, and
// with up to six shared steps every mixture of the two.
func (l *lone) handings() [][]int {
	one, all := make([]int, len(l.tasks)), make([]int, len(l.tasks))
	var shared []int
	for i, n := range l.tasks {
		t := &l.instance.tasks[n]
		one[i], all[i] = t.least, t.least+len(t.work)-1
		if one[i] != all[i] {
			shared = append(shared, i)
		}
	}
	out := [][]int{one}
	if len(shared) > 0 {
		out = append(out, all)
	}
	if len(shared) <= 6 {
		for mask := 1; mask < 1<<len(shared)-1; mask++ {
			mix := slices.Clone(one)
			for b, i := range shared {
				if mask>>b&1 == 1 {
					mix[i] = all[i]
				}
			}
			out = append(out, mix)
		}
	}
	return out
}

func (l *lone) duration(c choice, i int) (work, total int) {
	t := &l.instance.tasks[l.tasks[i]]
	work = t.workWith(c.cooks[i])
	return work, work + t.wait
}

// rules returns the arcs of the rules "after".
func (l *lone) rules(c choice) []arc {
	index := map[int]int{}
	for i, n := range l.tasks {
		index[n] = i
	}
	var arcs []arc
	for i, n := range l.tasks {
		for k, b := range l.instance.tasks[n].before {
			j := index[b.task]
			_, total := l.duration(c, j)
			arcs = append(arcs, arc{j, i, total + b.min})
			if b.max != forever && l.keep[rule{n, k}] {
				arcs = append(arcs, arc{i, j, -total - b.max})
			}
		}
	}
	return arcs
}

// branch returns starts and units that keep all arcs and overload nothing.
func (l *lone) branch(c choice, arcs []arc) (starts []int, units [][]int, ok bool) {
	l.nodes++
	if l.nodes > loneNodes {
		l.cut = true
		return nil, nil, false
	}
	starts, ok = l.leastStarts(c, arcs)
	if !ok {
		return nil, nil, false
	}
	ways, moves := l.overload(c, starts)
	if ways == nil && moves == nil {
		return starts, c.units, true
	}
	for _, w := range ways {
		if starts, units, ok := l.branch(c, append(slices.Clip(arcs), w)); ok {
			return starts, units, true
		}
	}
	for _, m := range moves {
		other := slices.Clone(c.units)
		other[m.task] = slices.Clone(other[m.task])
		other[m.task][m.use] = m.to
		if starts, units, ok := l.branch(choice{c.cooks, other}, arcs); ok {
			return starts, units, true
		}
	}
	return nil, nil, false
}

// leastStarts relaxes the arcs until nothing moves; a start that still moves
// after as many rounds as there are tasks is on a circle that can't be kept.
func (l *lone) leastStarts(c choice, arcs []arc) ([]int, bool) {
	starts := make([]int, len(l.tasks))
	for i, n := range l.tasks {
		t := &l.instance.tasks[n]
		work, _ := l.duration(c, i)
		starts[i] = t.release
		for k := range t.uses {
			enter, _ := t.uses[k].span(0, work, t.wait)
			starts[i] = max(starts[i], l.units[t.uses[k].units[c.units[i][k]]].ready-enter)
		}
	}
	for range len(l.tasks) + 1 {
		moved := false
		for _, a := range arcs {
			if s := starts[a.from] + a.lag; s > starts[a.to] {
				starts[a.to], moved = s, true
			}
		}
		if !moved {
			return starts, true
		}
	}
	return nil, false
}

type move struct{ task, use, to int }

// A claim is a stretch in which a task keeps part of a resource, as offsets
// from its start.
type claim struct {
	task, use int
	from, to  int
	amount    int
	temp      int
	shut      interval
}

// overload finds the first thing that the starts overload and returns the
// arcs and the moves of which one must be taken; nothing where all is well.
func (l *lone) overload(c choice, starts []int) ([]arc, []move) {
	var cooks, adults []claim
	inUnit := map[int][]claim{}
	for i, n := range l.tasks {
		t := &l.instance.tasks[n]
		work, total := l.duration(c, i)
		if work > 0 && c.cooks[i] > 0 {
			cooks = append(cooks, claim{task: i, from: 0, to: work, amount: c.cooks[i]})
		}
		if t.adult {
			adults = append(adults, claim{task: i, from: 0, to: work, amount: 1})
		}
		for k := range t.uses {
			u := &t.uses[k]
			cl := claim{task: i, use: k, amount: u.places, temp: u.temp}
			cl.from, cl.to = u.span(0, work, t.wait)
			if cl.from == cl.to {
				continue
			}
			if t.shut && u.part != WorkPart {
				cl.shut = interval{work, total}
			}
			unit := u.units[c.units[i][k]]
			inUnit[unit] = append(inUnit[unit], cl)
		}
	}
	g := l.instance.tasks[l.tasks[0]].group
	if ways := crowd(cooks, l.instance.cooks[g], starts); ways != nil {
		return ways, nil
	}
	if ways := crowd(adults, l.adults, starts); ways != nil {
		return ways, nil
	}
	for unit := range l.units {
		claims := inUnit[unit]
		ways := crowd(claims, l.units[unit].places, starts)
		if ways == nil {
			ways = quarrel(claims, l.units[unit].reheat, starts)
		}
		if ways == nil {
			continue
		}
		var moves []move
		for _, cl := range claims {
			t := &l.instance.tasks[l.tasks[cl.task]]
			for to := c.units[cl.task][cl.use] + 1; to < len(t.uses[cl.use].units); to++ {
				moves = append(moves, move{cl.task, cl.use, to})
			}
		}
		return ways, moves
	}
	return nil, nil
}

// crowd returns the ways out of the first moment at which the claims together
// are over the capacity: one of them ends before another begins.
func crowd(claims []claim, capacity int, starts []int) []arc {
	for _, at := range claims {
		moment := starts[at.task] + at.from
		used := 0
		var there []claim
		for _, o := range claims {
			if starts[o.task]+o.from <= moment && moment < starts[o.task]+o.to {
				used += o.amount
				there = append(there, o)
			}
		}
		if used <= capacity {
			continue
		}
		ways := []arc{}
		for _, a := range there {
			for _, b := range there {
				if a.task != b.task {
					ways = append(ways, arc{a.task, b.task, a.to - b.from})
				}
			}
		}
		return ways
	}
	return nil
}

// quarrel returns the ways out of the first two claims of a unit that differ
// in temperature or open its door at the wrong moment.
func quarrel(claims []claim, reheat int, starts []int) []arc {
	for _, a := range claims {
		for _, b := range claims {
			if a.task == b.task {
				if a.temp != b.temp {
					return []arc{} // one of the two must go elsewhere
				}
				continue
			}
			sa, sb := starts[a.task], starts[b.task]
			if a.temp != b.temp && sa+a.from < sb+b.to+reheat && sb+b.from < sa+a.to+reheat {
				return []arc{
					{a.task, b.task, a.to + reheat - b.from},
					{b.task, a.task, b.to + reheat - a.from},
				}
			}
			for _, event := range []int{b.from, b.to} {
				if inside(sb+event, interval{sa + a.shut.from, sa + a.shut.to}) {
					return []arc{
						{a.task, b.task, a.shut.to - event},
						{b.task, a.task, event - a.shut.from},
					}
				}
			}
		}
	}
	return nil
}
