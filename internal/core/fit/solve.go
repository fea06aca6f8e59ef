package fit

import (
	"cmp"
	"math/rand/v2"
	"slices"

	"freshapron/internal/core/constraint"
)

// A prover makes a schedule shorter with the constraint solver, until no
// shorter one can be.
type prover struct {
	*model
	best     *schedule
	cost     cost
	at       *schedule // what parts are kept of: the best, or on a level one that ends with it
	level    bool      // schedules that end with the best are let in, to go on from
	idle     int       // parts that were searched since one brought something better
	patience int       // how many of them before it is said that none will
	dec      *decoder
	rng      *rand.Rand
	spent    *int // placements made so far, or what takes as long
	ticked   int  // of the solver's ticks, those that are in spent already
	bound    int  // seconds: no schedule ends sooner
	proved   bool
	sooner   int                  // steps of time by which the next schedule is to end sooner, at least
	parts    []int                // kinds of part, as often as they are searched
	free     [kindsOfPart]float64 // by kind of part: the share of the lesson that is free when one is searched
}

// ticksPerPlacement is how many ticks of the solver take as long as a
// placement of the decoder.
const ticksPerPlacement = 120

// modelWeight is how many placements take as long as a choice of a model.
const modelWeight = 6

// newProver returns a prover that begins with a schedule; nil where its lesson
// is too large for a model, or has something that a model can't say.
func newProver(best *schedule, bound int, spent *int, rng *rand.Rand) *prover {
	return proverOf(best, bound, spent, rng, false)
}

// proverOf returns a prover as newProver does; on a level, one that also lets in what ends
// with its best schedule.
func proverOf(best *schedule, bound int, spent *int, rng *rand.Rand, level bool) *prover {
	c := best.cost()
	horizon := c.finish
	if c.over > 0 { // work that ends sooner may be worth a later finish
		horizon *= 2
	}
	m := modelOf(best, horizon)
	if !m.build() {
		return nil
	}
	*spent += modelWeight * len(m.choices)
	v := &prover{model: m, best: best, cost: c, at: best, level: level, rng: rng, spent: spent, bound: bound, patience: manyIdle, parts: parts}
	for kind := range v.free {
		v.free[kind] = 0.3
	}
	if best.decodable() {
		v.dec = newDecoder(best.instance, spent)
	}
	v.sooner = max(1, v.gap()/8)
	v.settle()
	return v
}

// gap returns how many steps of time lie between the best schedule and what is known that
// none can go under; none where work that ends sooner is worth a later finish.
func (v *prover) gap() int {
	if v.cost.over > 0 {
		return 0
	}
	return v.units(v.cost.finish) - max(v.Min(v.finish), v.unitsUp(v.bound))
}

// shorten asks for a better schedule than the best.
func (v *prover) shorten() {
	over := 0
	if v.cost.over > 0 {
		over = v.cost.over - 1
	} else {
		v.Clause(v.endsSooner(v.strictly()))
	}
	if v.grace == 0 {
		return
	}
	for _, n := range v.tasks {
		t := &v.instance.tasks[n]
		if t.begun {
			continue
		}
		v.Clause(noLater(v.ending(n), v.units(v.deadline+v.grace+over)))
		if t.hasWork() {
			v.Clause(noLater(v.working(n), v.units(v.deadline+over)))
		}
	}
}

// endsSooner says that the finish is so many steps of time before the best.
func (v *prover) endsSooner(steps int) constraint.Lit {
	return constraint.AtMost(v.finish, v.units(v.cost.finish-1)+1-steps)
}

// strictly is the least number of steps of time by which a schedule has to end sooner to be
// let in at all.
func (v *prover) strictly() int {
	if v.level {
		return 0
	}
	return 1
}

// tell lets the solver prefer the choices of the schedule that parts are kept of.
func (v *prover) tell() {
	for i := range v.choices {
		value := 0
		if v.answer(&v.choices[i]) {
			value = 1
		}
		v.Prefer(v.choices[i].v, value)
	}
}

// answer returns what the schedule that parts are kept of makes of a choice.
func (v *prover) answer(c *choosing) bool {
	switch c.kind {
	case hasMode:
		return v.at.jobs[c.a].cooks == c.n
	case isIn:
		return v.at.jobs[c.a].units[c.use] == c.n
	}
	return v.moment(c.a, c.from)+c.lag <= v.moment(c.b, c.to)
}

// moment returns when a moment of a task is in it, in steps.
func (v *prover) moment(n int, m constraint.Moment) int {
	j := &v.at.jobs[n]
	if v.modes[n] != nil && m.Var == v.workEnd[n] {
		return v.units(j.workEnd()) + m.Offset
	}
	return v.units(j.start) + m.Offset
}

// adopt goes on from a schedule that was found elsewhere.
func (v *prover) adopt(s *schedule) {
	if c := s.cost(); c.less(v.cost) {
		v.best, v.cost = s, c
		v.settle()
	}
}

// settle goes on from the best schedule, and asks for a better one.
func (v *prover) settle() {
	v.at = v.best
	v.tell()
	v.shorten()
}

// certain reports whether the bound holds for every valid plan, not only for
// those that also keep what the teacher has pinned, fit, and begin as soon as
// can be what misses a gap in any case.
func (v *prover) certain() bool {
	return v.grace == 0 && v.cost.late == 0 && !slices.ContainsFunc(v.tasks, func(n int) bool {
		t := &v.instance.tasks[n]
		return t.beginBy != forever || t.due > t.startBy
	})
}

// charge adds what the solver has done to what has been spent.
func (v *prover) charge() {
	*v.spent += (v.Ticks - v.ticked) / ticksPerPlacement
	v.ticked = v.Ticks
}

// left returns the ticks up to which the solver may go on.
func (v *prover) left(stop int) int { return v.Ticks + max(0, stop-*v.spent)*ticksPerPlacement }

// search runs, and once that brings nothing begins again elsewhere, if that may help. When nothing
// does any more it goes on from whatever ends with the best schedule: an end can be reached in many
// ways, and some of them lead on. What has been learnt holds only for what ends sooner, so that takes
// a prover anew, which it returns.
func (v *prover) search(templates []template, allowance, stop int) *prover {
	if allowance >= muchTime && v.several() != nil {
		v.parts = partsAlso
	}
	if narrow := v.instance.narrowings(); narrow != nil {
		v.patience = narrowIdle
		v.run(stop)
		v.patience = manyIdle
		if v.idle >= narrowIdle && !v.proved && *v.spent < stop {
			v.elsewhere(narrow, templates, allowance, stop)
		}
	}
	v.run(stop)
	if !v.stuck() || v.proved || *v.spent >= stop {
		return v
	}
	w := proverOf(v.best, v.bound, v.spent, v.rng, true)
	w.free, w.parts = v.free, v.parts
	w.run(stop)
	return w
}

// manyIdle is how many parts in a row bring nothing before it is said that none will.
const manyIdle = 60

// stuck reports whether to go on from what only ends with the best schedule. In a small
// model what has been learnt is worth more.
func (v *prover) stuck() bool {
	return v.idle >= v.patience && len(v.choices) > smallModel && !v.level && v.grace == 0 && v.cost.late == 0
}

// run looks for better schedules until so many placements have been made: in
// turn everywhere and in parts, and from below for finishes that can be ruled
// out. It ends early where it is stuck.
func (v *prover) run(stop int) {
	whole, below := rarely{least: 1}, rarely{least: 4}
	everywhere := 1000 // conflicts
	// In a large model parts bring more.
	if len(v.choices) > smallModel {
		whole.next, below.next, everywhere = 4, 4, 200
	}
	for round := 0; *v.spent < stop && !v.proved && !v.stuck(); round++ {
		if whole.due(round) {
			whole.was(round, v.attempt(nil, 1, everywhere, stop) == constraint.Found)
		}
		for range 6 {
			if *v.spent >= stop || v.proved || v.stuck() {
				return
			}
			if v.level && v.idle > briefly && v.rng.IntN(2) == 0 {
				v.sidestep(stop)
			}
			v.idle++
			kind, sooner := v.parts[v.rng.IntN(len(v.parts))], v.sooner
			switch status := v.attempt(v.keep(v.part(kind, v.free[kind])), sooner, 100, stop); {
			case status == constraint.Found:
				v.sooner, v.idle = max(1, min(2*sooner, v.gap()/2)), 0
			case sooner > 1: // that may have been too much to ask, whatever the part
				v.sooner = sooner / 2
			case status == constraint.Refuted:
				v.free[kind] = min(1, v.free[kind]*1.05)
			default:
				v.free[kind] = max(0.05, v.free[kind]*0.95)
			}
		}
		if below.due(round) {
			bound := v.bound
			v.refute(stop)
			below.was(round, v.bound > bound)
		}
	}
}

// rarely says in which rounds to do what may be of no use: less often each time
// that it was not.
type rarely struct{ least, next, gap int }

// mostRare is the greatest number of rounds from one to the next.
const mostRare = 16

func (r *rarely) due(round int) bool { return round >= r.next }

func (r *rarely) was(round int, useful bool) {
	if useful {
		r.gap = 0
	}
	r.gap = max(r.least, min(2*r.gap, mostRare))
	r.next = round + r.gap
}

// attempt searches with part of the best schedule kept, for one that ends so many steps
// of time sooner.
func (v *prover) attempt(keep []constraint.Lit, sooner, conflicts, stop int) constraint.Status {
	assumed := append(keep, constraint.IsNot(v.alike))
	if sooner > v.strictly() {
		assumed = append(assumed, v.endsSooner(sooner))
	}
	status := v.Solve(assumed, conflicts, v.left(stop))
	v.charge()
	switch {
	case v.Impossible() || status == constraint.Refuted && len(keep) == 0 && sooner == 1:
		v.proved = true
	case status == constraint.Found:
		v.take()
		v.proved = v.Impossible()
	}
	return status
}

// refute rules out finishes from below, each half way to the best where it is
// quickly done.
func (v *prover) refute(stop int) {
	if v.cost.over > 0 {
		return
	}
	from, to := v.Min(v.finish), v.units(v.cost.finish)
	v.Clause(constraint.AtLeast(v.finish, v.unitsUp(v.bound)))
	for from < to && *v.spent < stop && !v.proved {
		try := (from + to) / 2
		status := v.Solve([]constraint.Lit{constraint.Is(v.alike), constraint.AtMost(v.finish, try)}, 200, v.left(stop))
		v.charge()
		switch {
		case v.Impossible():
			v.proved = true
			return
		case status == constraint.Found:
			v.take()
			v.proved = v.Impossible()
			to = min(to, v.units(v.cost.finish))
		case status == constraint.Refuted:
			v.Clause(constraint.AtLeast(v.finish, try+1))
			v.bound = max(v.bound, (try+1)*v.step)
			from = try + 1
			v.proved = v.Impossible()
		default:
			to = try
		}
	}
}

// take makes the solution the best schedule, if it is.
func (v *prover) take() {
	if found, c := v.found(); c.less(v.cost) {
		v.best, v.cost = found, c
	}
	v.settle()
}

// found returns the solution, or what its order decodes to where that is better.
func (v *prover) found() (*schedule, cost) {
	found := v.schedule()
	c := found.cost()
	if v.dec != nil {
		if l := found.list(); v.dec.decode(l, forever) && v.dec.cost.less(c) {
			decoded := &local{chart: &chart{decoder: v.dec}}
			return decoded.schedule(l), v.dec.cost
		}
	}
	return found, c
}

const (
	briefly    = 6    // parts that bring nothing before a step aside
	stepsAside = 0.3  // of the lesson is free for one
	sumAside   = 1.01 // of the best schedule's sum is the most
)

// sidestep turns one choice of a part round, and goes on from what comes of it where that
// ends with the best schedule.
func (v *prover) sidestep(stop int) {
	part := v.part(v.parts[v.rng.IntN(len(v.parts))], stepsAside)
	var turns []constraint.Lit
	for i := range v.choices {
		c := &v.choices[i]
		among := c.kind == isIn || c.kind == isBefore && v.instance.tasks[c.a].group != v.instance.tasks[c.b].group
		if among && (part[c.a] || part[c.b]) && v.answer(c) {
			turns = append(turns, constraint.IsNot(c.v))
		}
	}
	if len(turns) == 0 {
		return
	}
	status := v.Solve(append(v.keep(part), constraint.IsNot(v.alike), turns[v.rng.IntN(len(turns))]), 50, v.left(stop))
	v.charge()
	if status != constraint.Found {
		return
	}
	switch s, c := v.found(); {
	case c.less(v.cost):
		v.best, v.cost = s, c
		v.settle()
	case c.late == 0 && c.finish == v.cost.finish && float64(c.sum) < sumAside*float64(v.cost.sum):
		v.at = s
		v.tell()
	}
}

// schedule returns the solution as a schedule.
func (v *prover) schedule() *schedule {
	s := newSchedule(v.instance)
	in := v.unitsIn()
	for _, n := range v.inOrder() {
		t := &v.instance.tasks[n]
		if t.begun {
			continue
		}
		start, hands := v.Value(v.start[n])*v.step, v.cooksOf(n)
		trial := make([]assignment, len(t.uses))
		for i := range t.uses {
			unit, ok := in[[2]int{n, i}]
			if !ok {
				unit = t.uses[i].units[0]
			}
			trial[i] = assignment{unit, s.stayOf(n, &t.uses[i], start, t.workWith(hands))}
		}
		s.place(n, hands, start, trial)
	}
	return s
}

// inOrder returns the tasks by their start in the solution.
func (m *model) inOrder() []int {
	order := slices.Clone(m.tasks)
	slices.SortStableFunc(order, func(a, b int) int { return cmp.Compare(m.Value(m.start[a]), m.Value(m.start[b])) })
	return order
}

// cooksOf returns how many cooks a task has in the solution.
func (m *model) cooksOf(n int) int {
	for i, mode := range m.modes[n] {
		if m.Value(mode) == 1 {
			return m.instance.tasks[n].least + i
		}
	}
	return m.instance.tasks[n].least
}

// unitsIn returns the unit of each use, by task and use, where there is a
// choice. Of pooled units those who enter first take a place first.
func (m *model) unitsIn() map[[2]int]int {
	in := map[[2]int]int{}
	for _, c := range m.choices {
		if c.kind == isIn && m.Value(c.v) == 1 {
			in[[2]int{c.a, c.use}] = c.n
		}
	}
	type entering struct{ task, use, enter, leave int }
	var pooled []entering
	for _, n := range m.inOrder() {
		t := &m.instance.tasks[n]
		start, work := m.Value(m.start[n])*m.step, t.workWith(m.cooksOf(n))
		for i := range t.uses {
			if u := &t.uses[i]; m.pooled[[2]int{n, i}] {
				enter, leave := u.span(start, work, t.wait)
				pooled = append(pooled, entering{n, i, enter, leave})
			}
		}
	}
	slices.SortStableFunc(pooled, func(a, b entering) int { return cmp.Compare(a.enter, b.enter) })
	taken := map[int][]int{} // by unit: when each place is free
	for _, e := range pooled {
	search:
		for _, unit := range m.instance.tasks[e.task].uses[e.use].units {
			if taken[unit] == nil {
				taken[unit] = make([]int, m.instance.units[unit].places)
			}
			for k, free := range taken[unit] {
				if free <= e.enter {
					taken[unit][k] = e.leave
					in[[2]int{e.task, e.use}] = unit
					break search
				}
			}
		}
	}
	return in
}

// The kinds of parts that are searched while the rest keeps its order.
const (
	windowOfTime = iota
	lastGroups   // those that end last, and others
	nextGroups   // such as end one after another
	someUnits    // whatever is in some of the units of an equipment
	kindsOfPart
)

// muchTime is the allowance with which units are looked at beside groups: they bring little at first.
const muchTime = 5_000_000

// parts are the kinds as often as they are searched, and partsAlso those of a lesson with several
// units of something and with much time.
var (
	parts     = []int{windowOfTime, lastGroups, lastGroups, lastGroups, nextGroups}
	partsAlso = append(slices.Clip(parts), someUnits, someUnits)
)

// part returns which tasks are free while the rest stays as it is: of a share of the groups,
// or in a window of time; of a lone group, of some dishes or in a window.
func (v *prover) part(kind int, share float64) []bool {
	free := make([]bool, len(v.instance.tasks))
	groups := 0
	for g := range v.byGroup {
		if v.at.inPlan(g) && len(v.ahead[g]) > 0 {
			groups++
		}
	}
	switch {
	case kind == windowOfTime:
		v.freeWindow(free, share)
	case kind == someUnits:
		v.freeUnits(free, share)
	case groups > 1:
		v.freeGroups(free, share, groups, kind)
	default:
		v.freeDishes(free, share)
	}
	return free
}

// keep returns what stays as it is while a part is free.
func (v *prover) keep(free []bool) []constraint.Lit {
	var out []constraint.Lit
	for i := range v.choices {
		c := &v.choices[i]
		if free[c.a] || free[c.b] {
			continue
		}
		switch yes := v.answer(c); {
		case yes:
			out = append(out, constraint.Is(c.v))
		case c.both || c.kind != isBefore:
			out = append(out, constraint.IsNot(c.v))
		}
	}
	return out
}

func (v *prover) freeWindow(free []bool, share float64) {
	length := max(1, int(share*float64(v.cost.finish)))
	from := v.rng.IntN(max(1, v.cost.finish))
	from = max(0, min(from, v.cost.finish-length/2))
	for _, n := range v.tasks {
		j := &v.at.jobs[n]
		free[n] = j.start < from+length && from < j.end()
	}
}

// freeUnits frees whatever is in some of the units of an equipment that has several.
func (v *prover) freeUnits(free []bool, share float64) {
	several := v.several()
	e := several[v.rng.IntN(len(several))]
	units := len(v.lesson.Equipment[e].Units)
	chosen := v.rng.Perm(units)[:min(units, max(2, int(share*float64(units)+0.5)))]
	for _, n := range v.tasks {
		for _, u := range v.at.jobs[n].units {
			if unit := &v.instance.units[u]; unit.equipment == e && slices.Contains(chosen, unit.index) {
				free[n] = true
			}
		}
	}
}

// several returns the equipment that the room shares and has several units of.
func (p *instance) several() (out []int) {
	for e := range p.lesson.Equipment {
		if equipment := &p.lesson.Equipment[e]; !equipment.PerStation && len(equipment.Units) > 1 {
			out = append(out, e)
		}
	}
	return out
}

func (v *prover) freeGroups(free []bool, share float64, groups, kind int) {
	order := make([]int, 0, groups)
	for g := range v.byGroup {
		if v.at.inPlan(g) && len(v.ahead[g]) > 0 {
			order = append(order, g)
		}
	}
	slices.SortStableFunc(order, func(a, b int) int { return cmp.Compare(v.at.groupFinish(b), v.at.groupFinish(a)) })
	count := max(1, min(groups, int(share*float64(groups)+0.5)))
	if kind == nextGroups {
		order = order[v.rng.IntN(groups-count+1):]
	} else {
		// None ends sooner while one of these stays.
		last := 0
		for last < groups && v.at.groupFinish(order[last]) == v.cost.finish {
			last++
		}
		count = max(count, min(groups, last+1))
		rest := order[last:]
		v.rng.Shuffle(len(rest), func(i, j int) { rest[i], rest[j] = rest[j], rest[i] })
	}
	for _, g := range order[:count] {
		for _, n := range v.byGroup[g] {
			free[n] = true
		}
	}
}

func (v *prover) freeDishes(free []bool, share float64) {
	dishes := len(v.lesson.Dishes)
	chosen := make([]bool, dishes)
	for range max(1, int(share*float64(dishes)+0.5)) {
		chosen[v.rng.IntN(dishes)] = true
	}
	for _, n := range v.tasks {
		free[n] = chosen[v.instance.tasks[n].dish]
	}
}
