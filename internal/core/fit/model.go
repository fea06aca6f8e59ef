package fit

import (
	"slices"

	"freshapron/internal/core/constraint"
)

// A model is a lesson as numbers and rules for the constraint solver. Time
// goes in steps of the greatest common divisor of all durations and moments.
type model struct {
	*instance
	*constraint.Solver
	tasks []int // those that it is about
	in    []bool
	end   int                     // seconds by which all end
	by    func(n int) int         // seconds by which a task starts; forever where there is no such moment
	gaps  map[rule]constraint.Lit // where set, a greatest gap holds where this is true
	alone bool                    // a group has the room to itself, and no phase or absence is in its way

	step           int                // seconds
	start, workEnd []constraint.Var   // by task; workEnd only where there are modes
	modes          [][]constraint.Var // by task: with least, least + 1, … cooks
	pooled         map[[2]int]bool    // by task and use: only how many are in the units is modelled
	choices        []choosing
	tails          []int
	overfull       bool           // what has begun takes more than there is, and nobody answers for that any more
	finish         constraint.Var // when all have ended
	alike          constraint.Var // whether what is alike goes in its order
}

// A choosing is a yes or no of the model that a schedule answers.
type choosing struct {
	v    constraint.Var
	a, b int // the tasks that it is about; b is a where it is about one
	kind int
	from constraint.Moment // where kind is isBefore: this comes lag before to
	to   constraint.Moment
	lag  int
	n    int  // where kind is hasMode: the number of cooks; isIn: the unit
	use  int  // where kind is isIn
	both bool // where kind is isBefore: no says that the other comes first
}

const (
	isBefore = iota
	hasMode
	isIn
)

// mostChoices bounds the size of a model.
const mostChoices = 40_000

func (m *model) tooLarge() bool { return len(m.choices) > mostChoices }

func (p *instance) newModel(tasks []int, end int) *model {
	m := &model{
		instance: p, Solver: constraint.New(), tasks: tasks, in: make([]bool, len(p.tasks)), end: end, by: func(int) int { return forever },
		start: make([]constraint.Var, len(p.tasks)), workEnd: make([]constraint.Var, len(p.tasks)), modes: make([][]constraint.Var, len(p.tasks)),
		pooled: map[[2]int]bool{}, tails: p.tails(),
	}
	for _, n := range tasks {
		m.in[n] = true
	}
	return m
}

// modelOf is about what a schedule has placed. Nothing starts later than the
// moment by which it must, or does so in the schedule.
func modelOf(s *schedule, end int) *model {
	var tasks []int
	for n := range s.jobs {
		if s.jobs[n].placed {
			tasks = append(tasks, n)
		}
	}
	m := s.instance.newModel(tasks, end)
	m.by = func(n int) int {
		by := min(s.tasks[n].due, s.tasks[n].beginBy)
		if by != forever {
			by = max(by, s.jobs[n].start)
		}
		return by
	}
	return m
}

// aloneModel is about one group that has the room to itself and all the time
// it wants. Each of its greatest gaps may be assumed or not.
func (p *instance) aloneModel(tasks []int) *model {
	m := p.newModel(tasks, p.longest(tasks))
	m.alone = true
	m.gaps = map[rule]constraint.Lit{}
	for _, r := range p.gaps(tasks) {
		m.gaps[r] = constraint.Is(m.Var(0, 1))
	}
	return m
}

// build adds all rules. It reports false where the model would be too large, or
// the lesson has something that it can't say.
func (m *model) build() bool {
	m.step = m.timeStep(m.tasks)
	m.finish = m.Var(0, m.units(m.end))
	m.alike = m.Var(0, 1)
	m.starts()
	m.rules()
	m.twinsInOrder()
	m.crews()
	m.adultsRule()
	return !m.tooLarge() && m.equipmentRules() && !m.overfull
}

// timeStep returns the greatest common divisor of all durations and moments.
func (p *instance) timeStep(tasks []int) int {
	step := 0
	add := func(values ...int) {
		for _, v := range values {
			for v != 0 {
				step, v = v, step%v
			}
		}
	}
	for _, b := range p.breaks {
		add(b.from, b.to)
	}
	for _, a := range p.away {
		add(a.from, a.to)
	}
	for _, u := range p.units {
		add(u.ready, u.reheat)
		for _, c := range u.out {
			add(c.from)
			if c.to != forever {
				add(c.to)
			}
		}
	}
	for _, n := range tasks {
		t := &p.tasks[n]
		add(t.work...)
		add(t.wait, t.release)
		if t.begun {
			add(t.fixed.start)
		}
		for _, l := range t.before {
			add(l.min)
			if l.max != forever { // it can push what is before it later
				add(l.max)
			}
		}
	}
	return max(1, step)
}

func (m *model) units(seconds int) int { return seconds / m.step }

func (m *model) unitsUp(seconds int) int { return (seconds + m.step - 1) / m.step }

// beginning, working and ending are the moments of a task.
func (m *model) beginning(n int) constraint.Moment { return constraint.Moment{Var: m.start[n]} }

func (m *model) working(n int) constraint.Moment {
	if m.modes[n] != nil {
		return constraint.Moment{Var: m.workEnd[n]}
	}
	return constraint.Moment{Var: m.start[n], Offset: m.units(m.instance.tasks[n].work[0])}
}

func (m *model) ending(n int) constraint.Moment {
	at := m.working(n)
	at.Offset += m.units(m.instance.tasks[n].wait)
	return at
}

// stays returns when a use holds its unit.
func (m *model) stays(n int, u *use) (enter, leave constraint.Moment) {
	enter, leave = m.beginning(n), m.ending(n)
	switch u.part {
	case WorkPart:
		leave = m.working(n)
	case WaitPart:
		enter = m.working(n)
	}
	return enter, leave
}

// follow adds the rule that b comes at least lag after a, where when is true.
func (m *model) follow(a constraint.Moment, lag int, b constraint.Moment, when constraint.Lit) {
	m.Arc(a.Var, a.Offset+lag-b.Offset, b.Var, when)
}

func noSooner(at constraint.Moment, t int) constraint.Lit {
	return constraint.AtLeast(at.Var, t-at.Offset)
}

func noLater(at constraint.Moment, t int) constraint.Lit {
	return constraint.AtMost(at.Var, t-at.Offset)
}

func (m *model) starts() {
	heads := m.heads()
	for _, n := range m.tasks {
		t := &m.instance.tasks[n]
		lo, hi := m.units(heads[n]), m.units(m.end-m.tails[n])
		if t.begun {
			lo = m.units(t.fixed.start)
			hi = lo
		}
		if at := m.by(n); at != forever && !t.begun {
			hi = min(hi, m.units(at))
		}
		m.start[n] = m.Var(lo, hi)
		m.Arc(m.start[n], m.units(m.tails[n]), m.finish, constraint.Always)
		if len(t.work) == 1 {
			continue
		}
		shortest, longest := m.units(slices.Min(t.work)), m.units(slices.Max(t.work))
		w := m.Var(lo+shortest, hi+longest)
		m.workEnd[n] = w
		m.Arc(m.start[n], shortest, w, constraint.Always)
		m.Arc(w, -longest, m.start[n], constraint.Always)
		var any []constraint.Lit
		for i, work := range t.work {
			mode := m.choose(choosing{a: n, b: n, kind: hasMode, n: t.least + i})
			for _, other := range m.modes[n] {
				m.Clause(constraint.IsNot(mode), constraint.IsNot(other))
			}
			m.modes[n] = append(m.modes[n], mode)
			any = append(any, constraint.Is(mode))
			m.Arc(m.start[n], m.units(work), w, constraint.Is(mode))
			m.Arc(w, -m.units(work), m.start[n], constraint.Is(mode))
		}
		m.Clause(any...)
	}
}

// twinsInOrder says that groups that are alike come in their order to the
// step at which they wait for each other longest, where alike is true. Every
// plan can be told so by changing the groups' names.
func (m *model) twinsInOrder() {
	for g, tasks := range m.byGroup {
		twin := m.lastTwin(g)
		if twin < 0 || len(tasks) == 0 || !m.in[tasks[0]] || !m.in[m.byGroup[twin][0]] {
			continue
		}
		k := m.bottleneck(tasks)
		m.Arc(m.start[m.byGroup[twin][k]], 0, m.start[tasks[k]], constraint.Is(m.alike))
	}
}

// lastTwin returns the group before this one that is alike, or −1.
func (m *model) lastTwin(g int) int {
	first := m.twin(g)
	if first < 0 {
		return -1
	}
	for h := g - 1; h > first; h-- {
		if m.twin(h) == first {
			return h
		}
	}
	return first
}

// bottleneck returns the place in a group's list of the task that keeps most
// of what the room shares.
func (m *model) bottleneck(tasks []int) int {
	best, most := 0, -1.0
	for i, n := range tasks {
		t := &m.instance.tasks[n]
		for k := range t.uses {
			u := &t.uses[k]
			if m.lesson.Equipment[u.equipment].PerStation {
				continue
			}
			enter, leave := u.span(0, slices.Min(t.work), t.wait)
			if load := float64((leave-enter)*u.places) / float64(m.places(u.equipment)); load > most {
				best, most = i, load
			}
		}
		if load := float64(slices.Min(t.work)) / float64(max(1, m.instance.adults)); t.adult && load > most {
			best, most = i, load
		}
	}
	return best
}

func (m *model) choose(c choosing) constraint.Var {
	c.v = m.Var(0, 1)
	m.choices = append(m.choices, c)
	return c.v
}

// rules adds "after", and the breaks.
func (m *model) rules() {
	for _, n := range m.tasks {
		t := &m.instance.tasks[n]
		if t.begun {
			continue
		}
		for i, l := range t.before {
			m.follow(m.ending(l.task), m.units(l.min), m.beginning(n), constraint.Always)
			if l.max != forever {
				// Always, where nothing else is said of the gap.
				m.follow(m.beginning(n), -m.units(l.max), m.ending(l.task), m.gaps[rule{n, i}])
			}
		}
		for _, b := range m.breaks {
			if t.hasWork() && !m.alone {
				m.Clause(noLater(m.working(n), m.units(b.from)), noSooner(m.beginning(n), m.units(b.to)))
			}
		}
	}
}

// before returns a literal which says that a's stretch ends lag before b's
// begins.
func (m *model) before(a, b int, end, begin constraint.Moment, lag int) constraint.Lit {
	v := m.choose(choosing{a: a, b: b, kind: isBefore, from: end, to: begin, lag: lag})
	m.follow(end, lag, begin, constraint.Is(v))
	return constraint.Is(v)
}

// apart adds the rule that two stretches don't meet.
func (m *model) apart(a, b stretchOf, lag int) {
	v := m.choose(choosing{a: a.task, b: b.task, kind: isBefore, from: a.to, to: b.from, lag: lag, both: true})
	m.follow(a.to, lag, b.from, constraint.Is(v))
	m.follow(b.to, lag, a.from, constraint.IsNot(v))
}

// A stretchOf is a part of a task that keeps something.
type stretchOf struct {
	task     int
	from, to constraint.Moment
	length   int // in steps, at least
	amount   int
	temp     int
	when     constraint.Lit
}

func (m *model) work(n, mode int) stretchOf {
	t := &m.instance.tasks[n]
	s := stretchOf{task: n, from: m.beginning(n), to: m.working(n), length: m.units(t.work[mode]), amount: t.least + mode}
	if m.modes[n] != nil {
		s.when = constraint.Is(m.modes[n][mode])
	}
	return s
}

// crews adds what the cooks of each group can do at once.
func (m *model) crews() {
	order := m.topological()
	earlier := m.related(order, func(t *task) []link { return t.before })
	place := make([]int, len(m.instance.tasks))
	for g, tasks := range m.byGroup {
		for i, n := range tasks {
			place[n] = i
		}
		linked := func(a, b int) bool {
			return earlier[a][place[b]/64]>>(place[b]%64)&1 == 1 || earlier[b][place[a]/64]>>(place[a]%64)&1 == 1
		}
		var busy []int
		for _, n := range tasks {
			t := &m.instance.tasks[n]
			if m.in[n] && t.hasWork() && t.least > 0 && !(t.begun && t.fixed.workEnd() <= m.now) {
				busy = append(busy, n)
			}
		}
		capacity := m.cooks[g]
		paired := !m.alone || len(busy)*len(busy) < mostChoices
		var acts []constraint.Activity
		for i, a := range busy {
			ta := &m.instance.tasks[a]
			for mode := range ta.work {
				w := m.work(a, mode)
				acts = append(acts, w.activity())
			}
			for _, b := range busy[:i] {
				if paired && !linked(a, b) && !m.tooLarge() {
					m.rivals(a, b, capacity)
				}
			}
		}
		if !paired || capacity > 1 && !m.ample[g] {
			m.Resource(capacity, acts)
		}
	}
}

func (s *stretchOf) activity() constraint.Activity {
	return constraint.Activity{Start: s.from, End: s.to, Length: s.length, Amount: s.amount, When: s.when}
}

// rivals keeps two tasks of a group apart where they need more cooks than
// there are.
func (m *model) rivals(a, b, capacity int) {
	ta, tb := &m.instance.tasks[a], &m.instance.tasks[b]
	most := ta.least + len(ta.work) + tb.least + len(tb.work) - 2
	switch {
	case most <= capacity || ta.begun && tb.begun:
	case ta.least+tb.least > capacity:
		whole := func(n int) stretchOf { return stretchOf{task: n, from: m.beginning(n), to: m.working(n)} }
		m.apart(whole(a), whole(b), 0)
	default:
		ab := m.before(a, b, m.working(a), m.beginning(b), 0)
		ba := m.before(b, a, m.working(b), m.beginning(a), 0)
		for i := range ta.work {
			for j := range tb.work {
				if ta.least+i+tb.least+j <= capacity {
					continue
				}
				lits := []constraint.Lit{ab, ba}
				if m.modes[a] != nil {
					lits = append(lits, constraint.IsNot(m.modes[a][i]))
				}
				if m.modes[b] != nil {
					lits = append(lits, constraint.IsNot(m.modes[b][j]))
				}
				m.Clause(lits...)
			}
		}
	}
}

// adultsRule adds what the adults can do at once.
func (m *model) adultsRule() {
	var list []stretchOf
	for _, n := range m.tasks {
		if t := &m.instance.tasks[n]; t.adult && !(t.begun && t.fixed.workEnd() <= m.now) {
			list = append(list, stretchOf{task: n, from: m.beginning(n), to: m.working(n), length: m.units(slices.Min(t.work)), amount: 1})
		}
	}
	away := m.away
	if m.alone {
		away = nil
	}
	m.share(list, m.adults, away)
}

// share adds that so many of the stretches at most go on at once.
func (m *model) share(list []stretchOf, capacity int, away []awaySpan) {
	if capacity == 1 && away == nil && len(list)*len(list)/2 <= mostChoices {
		for i, a := range list {
			for _, b := range list[:i] {
				if !m.inTurn(a.task, b.task) && !m.bothBegun(a, b) {
					m.apart(a, b, 0)
				}
			}
		}
		return
	}
	var acts []constraint.Activity
	var fixed []held
	for i, s := range list {
		acts = append(acts, list[i].activity())
		if m.instance.tasks[s.task].begun {
			fixed = append(fixed, held{interval{m.Min(s.from.Var) + s.from.Offset, m.Min(s.to.Var) + s.to.Offset}, s.amount, s.task})
		}
	}
	for _, a := range away {
		fixed = append(fixed, held{interval{m.units(a.from), m.units(a.to)}, 1, nobody})
		v := constraint.Moment{Var: m.Var(m.units(a.from), m.units(a.from))}
		to := v
		to.Offset = m.units(a.to - a.from)
		acts = append(acts, constraint.Activity{Start: v, End: to, Length: to.Offset, Amount: 1})
	}
	if peak, _ := peakHeld(fixed, 0, forever); peak > capacity {
		m.overfull = true
	}
	if len(acts) > 1 {
		m.Resource(capacity, acts)
	}
}
