package fit

import (
	"slices"

	"freshapron/internal/core/constraint"
)

// A model is a lesson as numbers and rules for the constraint solver. Time
// goes in steps of the greatest common divisor of all durations.
type model struct {
	*instance
	*constraint.Solver
	step  int   // seconds
	tasks []int // those that have a start in the model: all that are planned
	in    []bool

	start, workEnd []constraint.Var   // by task; workEnd only where there are modes
	modes          [][]constraint.Var // by task: with least, least + 1, … cooks
	rooms          [][][]constraint.Lit
	pooled         map[[2]int]bool // by task and use: only how many are in the units is modelled
	choices        []choosing
	tails          []int
	finish         constraint.Var          // when all have ended
	alike          constraint.Var          // whether what is alike goes in its order
	binding        map[rule]constraint.Lit // where set, the greatest gaps hold where these are true
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

// newModel returns the model of what the schedule has placed; nil where it
// would be too large, or the lesson has something that it can't say.
func newModel(s *schedule, finish int) *model {
	var tasks []int
	for n := range s.jobs {
		if s.jobs[n].placed {
			tasks = append(tasks, n)
		}
	}
	by := func(n int) int {
		if t := &s.tasks[n]; min(t.due, t.beginBy) != forever {
			return max(min(t.due, t.beginBy), s.jobs[n].start)
		}
		return forever
	}
	return s.instance.model(tasks, finish, by, nil)
}

// model returns the model of some tasks that end by a moment, each of which
// starts by one of its own.
func (p *instance) model(tasks []int, finish int, by func(n int) int, gaps []rule) *model {
	m := &model{instance: p, Solver: constraint.New(), in: make([]bool, len(p.tasks)), tails: p.tails(), pooled: map[[2]int]bool{},
		start: make([]constraint.Var, len(p.tasks)), workEnd: make([]constraint.Var, len(p.tasks)),
		modes: make([][]constraint.Var, len(p.tasks)), rooms: make([][][]constraint.Lit, len(p.tasks))}
	m.tasks = tasks
	for _, n := range tasks {
		m.in[n] = true
	}
	m.step = p.timeStep(m.tasks)
	m.finish = m.Var(0, m.units(finish))
	m.alike = m.Var(0, 1)
	m.starts(finish, by)
	if gaps != nil {
		m.binding = map[rule]constraint.Lit{}
		for _, r := range gaps {
			m.binding[r] = constraint.Is(m.Var(0, 1))
		}
	}
	m.rules()
	m.twinsInOrder()
	m.crews()
	if len(m.choices) > mostChoices {
		return nil
	}
	m.adultsRule()
	if len(m.choices) > mostChoices || !m.equipmentRules() || len(m.choices) > mostChoices {
		return nil
	}
	return m
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

func (m *model) starts(finish int, by func(n int) int) {
	heads := m.heads()
	for _, n := range m.tasks {
		t := &m.instance.tasks[n]
		lo, hi := m.units(heads[n]), m.units(finish-m.tails[n])
		if t.begun {
			lo = m.units(t.fixed.start)
			hi = lo
		}
		if at := by(n); at != forever && !t.begun {
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
				m.follow(m.beginning(n), -m.units(l.max), m.ending(l.task), m.binding[rule{n, i}])
			}
		}
		for _, b := range m.breaks {
			if t.hasWork() {
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

// apart adds the rule that two stretches don't meet, where all conditions are
// true.
func (m *model) apart(a, b stretchOf, lag int, when ...constraint.Lit) {
	bothBegun := m.instance.tasks[a.task].begun && m.instance.tasks[b.task].begun
	if bothBegun {
		return
	}
	if len(when) == 0 {
		v := m.choose(choosing{a: a.task, b: b.task, kind: isBefore, from: a.to, to: b.from, lag: lag, both: true})
		m.follow(a.to, lag, b.from, constraint.Is(v))
		m.follow(b.to, lag, a.from, constraint.IsNot(v))
		return
	}
	lits := []constraint.Lit{m.before(a.task, b.task, a.to, b.from, lag), m.before(b.task, a.task, b.to, a.from, lag)}
	for _, w := range when {
		lits = append(lits, w.Not())
	}
	m.Clause(lits...)
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
		if len(m.choices) > mostChoices {
			return
		}
		var acts []constraint.Activity
		for i, a := range busy {
			ta := &m.instance.tasks[a]
			for mode := range ta.work {
				w := m.work(a, mode)
				acts = append(acts, w.activity())
			}
			for _, b := range busy[:i] {
				if linked(a, b) {
					continue
				}
				m.rivals(a, b, capacity)
			}
		}
		if capacity > 1 && !m.ample[g] {
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
	m.share(list, m.adults, m.away)
}

// share adds that so many of the stretches at most go on at once.
func (m *model) share(list []stretchOf, capacity int, away []awaySpan) {
	if capacity == 1 && away == nil && len(list)*len(list)/2 <= mostChoices {
		for i, a := range list {
			for _, b := range list[:i] {
				if !m.inTurn(a.task, b.task) {
					m.apart(a, b, 0)
				}
			}
		}
		return
	}
	var acts []constraint.Activity
	for i := range list {
		acts = append(acts, list[i].activity())
	}
	for _, a := range away {
		v := constraint.Moment{Var: m.Var(m.units(a.from), m.units(a.from))}
		to := v
		to.Offset = m.units(a.to - a.from)
		acts = append(acts, constraint.Activity{Start: v, End: to, Length: to.Offset, Amount: 1})
	}
	if len(acts) > capacity {
		m.Resource(capacity, acts)
	}
}

// inTurn reports whether one of two tasks waits for the other directly.
func (m *model) inTurn(a, b int) bool {
	waits := func(a, b int) bool {
		return slices.ContainsFunc(m.instance.tasks[a].before, func(l link) bool { return l.task == b })
	}
	return waits(a, b) || waits(b, a)
}

// equipmentRules adds what is in the units. It reports false where the model
// would be too large.
func (m *model) equipmentRules() bool {
	for e := range m.lesson.Equipment {
		var groups [][]int
		if m.lesson.Equipment[e].PerStation {
			groups = m.byGroup
		} else {
			groups = [][]int{m.tasks}
		}
		for _, tasks := range groups {
			if !m.equipmentRule(e, tasks) || len(m.choices) > mostChoices {
				return false
			}
		}
	}
	return true
}

func (m *model) equipmentRule(e int, tasks []int) bool {
	type user struct {
		stretchOf
		use int
	}
	var users []user
	plain, places := true, 0
	var units []int
	temp := noTemp - 1
	for _, n := range tasks {
		t := &m.instance.tasks[n]
		if !m.in[n] || t.begun && t.fixed.units == nil {
			continue
		}
		for i := range t.uses {
			u := &t.uses[i]
			if u.equipment != e {
				continue
			}
			enter, leave := m.stays(n, u)
			s := stretchOf{task: n, from: enter, to: leave, amount: u.places, temp: u.temp}
			switch u.part {
			case WorkPart:
				s.length = m.units(slices.Min(t.work))
			case WaitPart:
				s.length = m.units(t.wait)
			default:
				s.length = m.units(t.shortest())
			}
			if !t.begun {
				m.Clause(noSooner(enter, m.units(m.instance.units[u.units[0]].ready)))
			}
			if s.length == 0 && m.shuts && !t.begun {
				return false // nothing says in which unit it is for no time
			}
			if s.length == 0 || t.begun && t.fixed.end() <= m.now && u.temp == noTemp {
				continue
			}
			users = append(users, user{s, i})
			first := units == nil
			if temp == noTemp-1 {
				temp = u.temp
			}
			plain = plain && u.places <= 1 && (first || slices.Equal(units, u.units)) && u.temp == temp && !t.shut && !t.begun && !m.shuts
			for _, unit := range u.units {
				if !slices.Contains(units, unit) {
					units = append(units, unit)
				}
			}
		}
	}
	if users == nil {
		return true
	}
	for _, u := range units {
		places += m.instance.units[u].places
	}
	if plain {
		list := make([]stretchOf, len(users))
		for i := range users {
			list[i] = users[i].stretchOf
			m.pooled[[2]int{users[i].task, users[i].use}] = true
		}
		m.share(list, places, nil)
		return true
	}
	if len(users)*len(users)/2 > mostChoices {
		return false
	}
	// Which unit each is in.
	inUnit := map[int][]stretchOf{}
	rooms := make([]map[int]constraint.Lit, len(users))
	for i := range users {
		u := &users[i]
		t := &m.instance.tasks[u.task]
		rooms[i] = map[int]constraint.Lit{}
		candidates := t.uses[u.use].units
		if t.begun {
			candidates = t.fixed.units[u.use : u.use+1]
		}
		var any []constraint.Lit
		for _, unit := range candidates {
			if m.instance.units[unit].places < u.amount {
				continue
			}
			lit := constraint.Always
			if len(candidates) > 1 {
				lit = constraint.Is(m.choose(choosing{a: u.task, b: u.task, kind: isIn, n: unit, use: u.use}))
				for _, other := range any {
					m.Clause(lit.Not(), other.Not())
				}
				any = append(any, lit)
			}
			rooms[i][unit] = lit
			m.closures(u.stretchOf, unit, lit)
			in := u.stretchOf
			in.when = lit
			inUnit[unit] = append(inUnit[unit], in)
		}
		if any != nil {
			m.Clause(any...)
		}
	}
	if m.unitsAlike(units) {
		for i := range users {
			for k, unit := range units {
				if lit, ok := rooms[i][unit]; ok && k > i && lit != constraint.Always && slices.Equal(units, m.instance.tasks[users[i].task].uses[users[i].use].units) {
					m.Clause(lit.Not(), constraint.IsNot(m.alike)) // the first in the list take the first units
				}
			}
		}
	}
	for i := range users {
		for j := range i {
			m.neighbours(users[i].stretchOf, users[j].stretchOf, rooms[i], rooms[j])
		}
	}
	for _, unit := range units {
		if list := inUnit[unit]; m.instance.units[unit].places > 1 && len(list) > 1 {
			acts := make([]constraint.Activity, len(list))
			for i := range list {
				acts[i] = list[i].activity()
			}
			m.Resource(m.instance.units[unit].places, acts)
		}
	}
	return true
}

// closures keeps what has not begun out of a unit while it is out.
func (m *model) closures(s stretchOf, unit int, in constraint.Lit) {
	if m.instance.tasks[s.task].begun {
		return
	}
	for _, c := range m.instance.units[unit].out {
		before := noLater(s.to, m.units(c.from))
		if c.usable {
			before = noLater(s.from, m.units(c.from)-1)
		}
		lits := []constraint.Lit{before}
		if c.to != forever {
			lits = append(lits, noSooner(s.from, m.units(c.to)))
		}
		if in != constraint.Always {
			lits = append(lits, in.Not())
		}
		m.Clause(lits...)
	}
}

// unitsAlike reports whether the units differ in nothing, and nothing is in
// one of them or meant for it.
func (m *model) unitsAlike(units []int) bool {
	for _, n := range m.tasks {
		if m.instance.tasks[n].begun {
			return false
		}
	}
	for _, g := range m.lesson.Groups {
		if g.Pins != nil {
			return false
		}
	}
	first := m.instance.units[units[0]]
	return !m.shuts && !slices.ContainsFunc(units, func(u int) bool { return m.instance.units[u].places != first.places })
}

// neighbours adds what holds between two that may be in the same unit.
func (m *model) neighbours(a, b stretchOf, inA, inB map[int]constraint.Lit) {
	ta, tb := &m.instance.tasks[a.task], &m.instance.tasks[b.task]
	if ta.begun && tb.begun {
		return
	}
	if a.task == b.task { // two uses of one step
		for unit, in := range inA {
			other, ok := inB[unit]
			if ok && (a.temp != b.temp || a.from != b.to && b.from != a.to && a.amount+b.amount > m.instance.units[unit].places) {
				m.Clause(in.Not(), other.Not())
			}
		}
		return
	}
	var shared []int
	for unit := range inA {
		if _, ok := inB[unit]; ok {
			shared = append(shared, unit)
		}
	}
	slices.Sort(shared)
	lag := 0
	if len(shared) > 0 && a.temp != b.temp {
		lag = m.units(m.instance.units[shared[0]].reheat)
	}
	var ab, ba constraint.Lit
	ordered := false
	var doors [][2]constraint.Lit
	for _, unit := range shared {
		var when []constraint.Lit
		for _, l := range []constraint.Lit{inA[unit], inB[unit]} {
			if l != constraint.Always {
				when = append(when, l.Not())
			}
		}
		switch {
		case a.temp != b.temp || a.amount+b.amount > m.instance.units[unit].places:
			if len(when) == 0 {
				m.apart(a, b, lag)
				continue
			}
			if !ordered {
				ab, ba = m.before(a.task, b.task, a.to, b.from, lag), m.before(b.task, a.task, b.to, a.from, lag)
				ordered = true
			}
			m.Clause(append(when, ab, ba)...)
		case m.cantMeet(a, b):
			if len(when) == 0 {
				m.apart(a, b, 0)
				continue
			}
			if !ordered {
				ab, ba = m.before(a.task, b.task, a.to, b.from, 0), m.before(b.task, a.task, b.to, a.from, 0)
				ordered = true
			}
			m.Clause(append(when, ab, ba)...)
		case ta.shut || tb.shut:
			if doors == nil {
				doors = append(m.door(a, b), m.door(b, a)...)
			}
			for _, d := range doors {
				m.Clause(append(slices.Clone(when), d[0], d[1])...)
			}
		}
	}
}

// cantMeet reports whether a shut door keeps two apart that have the same
// temperature: the one behind it lasts longer than the other, or both are
// behind theirs and differ.
func (m *model) cantMeet(a, b stretchOf) bool {
	wait := func(s stretchOf) int {
		if t := &m.instance.tasks[s.task]; t.shut && s.to == m.ending(s.task) {
			return m.units(t.wait)
		}
		return 0
	}
	shutA, shutB := wait(a), wait(b)
	fixed := func(s stretchOf) bool { return m.modes[s.task] == nil || s.from == m.working(s.task) }
	if !fixed(a) || !fixed(b) {
		return false
	}
	if shutA > 0 && shutB > 0 {
		return shutA != shutB && a.length == shutA && b.length == shutB
	}
	return shutA > b.length || shutB > a.length
}

// door returns for the coming and the going of b that it is not while a's door
// is shut: before, or after.
func (m *model) door(a, b stretchOf) [][2]constraint.Lit {
	t := &m.instance.tasks[a.task]
	if !t.shut || a.to != m.ending(a.task) || t.wait == 0 {
		return nil
	}
	shut, open := m.working(a.task), m.ending(a.task)
	var out [][2]constraint.Lit
	for _, at := range []constraint.Moment{b.from, b.to} {
		out = append(out, [2]constraint.Lit{m.before(b.task, a.task, at, shut, 0), m.before(a.task, b.task, open, at, 0)})
	}
	return out
}
