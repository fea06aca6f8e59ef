package fit

import (
	"fmt"
	"hash/crc32"
	"math/rand/v2"
	"slices"
	"strings"

	"freshapron/internal/core/constraint"
)

// A PlayedStep is a step of one simulated lesson, in seconds.
type PlayedStep struct {
	Group, Cooks        int
	Step                Step
	Start, WorkEnd, End float64
	Units               []int
}

// Play plans a lesson and simulates it once.
func Play(l Lesson, seed uint64) (steps []PlayedStep, units []Unit) {
	p := compile(l)
	templates := p.templates()
	for g := range p.byGroup {
		if templates[g].impossible() {
			return nil, nil
		}
	}
	all := make([]int, len(p.byGroup))
	for g := range all {
		all[g] = g
	}
	s, _ := search(p, templates, p.costBound(all), 2000, 0)
	o := s.order()
	r := o.newRun()
	r.draw(o.laws(), rand.New(rand.NewPCG(seed, 3)))
	r.play()
	for _, n := range o.placed {
		t := &o.tasks[n]
		steps = append(steps, PlayedStep{
			Group: t.group, Cooks: o.jobs[n].cooks, Step: l.Dishes[t.dish].Steps[t.step],
			Start: r.times[n][atStart], WorkEnd: r.times[n][atWorkEnd], End: r.times[n][atEnd], Units: o.jobs[n].units,
		})
	}
	for _, u := range o.units {
		units = append(units, l.Equipment[u.equipment].Units[u.index])
	}
	return steps, units
}

// Postponed plans a lesson, lets each step in turn begin at its last moment,
// and returns what then becomes of the plan.
func Postponed(l Lesson) []*Plan {
	p := compile(l)
	templates := p.templates()
	var able []int
	for g := range p.byGroup {
		if !templates[g].impossible() {
			able = append(able, g)
		}
	}
	if len(able) < len(p.byGroup) {
		return nil
	}
	bound := p.costBound(able)
	s, _ := search(p, templates, bound, 2000, 0)
	o := s.order()
	need := 0
	for n := range s.jobs {
		need = max(need, s.need(s.jobs[n].start, s.jobs[n].work, s.jobs[n].wait))
	}
	limit := max(s.deadline, need)
	latest := o.latestStarts(limit)
	var out []*Plan
	for n := range s.jobs {
		starts := make([]int, len(s.jobs))
		for m := range s.jobs {
			starts[m] = s.jobs[m].start
		}
		if _, ok := o.pushed(n, latest[n], limit, starts); !ok || starts[n] != latest[n] {
			panic("a last moment that can't be kept")
		}
		moved := newSchedule(p)
		for m := range s.jobs {
			trial := make([]assignment, len(s.jobs[m].units))
			for i, u := range s.jobs[m].units {
				trial[i] = assignment{u, moved.stayOf(m, &p.tasks[m].uses[i], starts[m], s.jobs[m].work)}
			}
			moved.place(m, s.jobs[m].cooks, starts[m], trial)
		}
		plan := &Plan{Deadline: minutes(p.deadline), WaitsUntil: minutes(p.deadline + p.grace)}
		plan.fill(moved, bound.finish, Options{Runs: 1, Workers: 1})
		out = append(out, plan)
	}
	return out
}

// Admitted plans a lesson and reports whether the solver's model of it lets
// that plan be; true where there is no model.
func Admitted(l Lesson) bool {
	p := compile(l)
	templates := p.templates()
	s, _ := search(p, templates, cost{}, 2000, 0)
	if len(s.list().order) == 0 {
		return true
	}
	m := modelOf(s, s.cost().finish)
	if !m.build() {
		return true
	}
	for _, n := range m.tasks {
		at := s.jobs[n].start / m.step
		m.Clause(constraint.AtLeast(m.start[n], at))
		m.Clause(constraint.AtMost(m.start[n], at))
		if m.modes[n] != nil {
			m.Clause(constraint.Is(m.modes[n][s.jobs[n].cooks-m.instance.tasks[n].least]))
		}
	}
	return m.Solve(nil, 1000, 1<<40) == constraint.Found
}

// LeastLoad is the bound on the busiest unit that pigeonBound rests on.
func LeastLoad(first, second []int, units, places, change int) int {
	return leastLoad([2][]int{first, second}, units, places, change)
}

// StartsBothWays returns when the tasks of a lesson start in an order at random: as the
// decoder has it, and as they are laid by their claims; nothing where some resource takes
// several at a time.
func StartsBothWays(l Lesson, seed uint64) (decoded, laid []int) {
	spent := 0
	s := newLocal(compile(l), rand.New(rand.NewPCG(seed, 0)), &spent)
	if !s.sharp {
		return nil, nil
	}
	order := list{hands: make([]int, len(s.tasks))}
	for n := range s.tasks {
		order.order = append(order.order, n)
		order.hands[n] = max(1, s.tasks[n].least)
	}
	s.scatter(order.order)
	s.decode(order, forever)
	decoded = slices.Clone(s.start)
	s.layClaims(order.order)
	return decoded, slices.Clone(s.start)
}

// Grown is the schedule of a lesson that was made by adding groups, as a plan; nil where
// none was.
func Grown(l Lesson) *Plan {
	p := compile(l)
	spent := 0
	s := p.grow(p.templates(), cost{}, worst, 400_000, &spent, rand.New(rand.NewPCG(1, 0)))
	if s == nil {
		return nil
	}
	plan := &Plan{Deadline: minutes(p.deadline), WaitsUntil: minutes(p.deadline + p.grace)}
	plan.fill(s, 0, Options{Runs: 1, Workers: 1})
	return plan
}

// Rounds are the rounds before `until` in which something that may be of no use is done.
func Rounds(least, until int, useful func(round int) bool) (out []int) {
	r := rarely{least: least}
	for round := range until {
		if r.due(round) {
			out = append(out, round)
			r.was(round, useful(round))
		}
	}
	return out
}

// Aside plans a lesson quickly and returns the plan, and what a prover goes on from after
// each of so many steps aside that led somewhere.
func Aside(l Lesson, steps int) (first *Plan, on []*Plan) {
	p := compile(l)
	templates := p.templates()
	s, bound := search(p, templates, cost{}, 100_000, 0)
	plan := func(s *schedule) *Plan {
		out := &Plan{Deadline: minutes(p.deadline), WaitsUntil: minutes(p.deadline + p.grace)}
		out.fill(s, 0, Options{Runs: 1, Workers: 1})
		return out
	}
	spent := 0
	v := proverOf(s, bound.finish, &spent, rand.New(rand.NewPCG(1, 0)), true)
	for range steps {
		was := v.at
		if v.sidestep(1 << 40); v.at != was {
			on = append(on, plan(v.at))
		}
	}
	return plan(s), on
}

// Work tells how a lesson is searched: what each part of the search has spent by its end, and
// what it has found by then. It changes with anything that the search looks at, or no longer
// looks at, though its plans stay the same.
func Work(l Lesson, placements int) (lines []string) {
	p := compile(l)
	templates := p.templates()
	spent := 0
	say := func(part string, s *schedule, more ...any) {
		starts := make([]int, len(s.jobs))
		for n := range s.jobs {
			starts[n] = s.jobs[n].start
		}
		sum := crc32.ChecksumIEEE(fmt.Append(nil, starts))
		lines = append(lines, strings.TrimSpace(fmt.Sprintf("%s: %d spent, %v, %08x %s", part, spent, s.cost(), sum, fmt.Sprint(more...))))
	}
	rng := rand.New(rand.NewPCG(1, 0))
	best := newSchedule(p)
	for i, g := range thumbRules(p) {
		work, ok := best.build(g, templates, 1<<30)
		spent += work
		say(fmt.Sprintf("thumb %d", i), best, ok)
	}
	best.leaveOut(templates)
	start := best.list()
	if len(start.order) == 0 {
		return lines
	}
	var able []int
	for g := range p.byGroup {
		if !templates[g].impossible() {
			able = append(able, g)
		}
	}
	heads, tails := p.heads(), p.tails()
	pigeons := p.pigeonBound(able, slices.Clone(heads), slices.Clone(tails))
	queues, q := p.queueBound(able, slices.Clone(heads), slices.Clone(tails))
	lines = append(lines, fmt.Sprintf("bounds: %d, %d by visits, %d by queues and %d by their energy, in all %v; ways %08x", p.lowerBound(able), pigeons, queues,
		q.energyBound(), p.costBound(able), crc32.ChecksumIEEE(fmt.Append(nil, heads, tails))))
	if p.decodable() {
		local := newLocal(p, rng, &spent)
		found, c := local.improve(start, spent+placements, cost{})
		if c.less(best.cost()) {
			local.decode(found, forever)
			best = local.schedule(found)
		}
		say("local", best, c)
		best = newLocal(p, rng, &spent).fairer(best, spent+placements)
		say("fairer", best)
	}
	bound := p.loneBound(templates, placements, &spent)
	say("alone", best, bound)
	g := thumbRules(p)[0]
	say("wander", wander(best, newSchedule(p), templates, g, cost{}, spent+placements, spent, rng))
	if s := p.grow(templates, cost{}, worst, placements, &spent, rng); s != nil {
		say("grown", s)
	}
	for _, level := range []bool{false, true} {
		v := proverOf(best, bound, &spent, rng, level)
		if v == nil {
			break
		}
		say("model", best, len(v.choices), " ", v.step)
		v.run(spent + placements)
		for range 3 {
			v.sidestep(spent + placements)
		}
		say("solver", v.at, v.Ticks, " ", v.bound, " ", v.proved, v.free)
	}
	if v := newProver(best, bound, &spent, rng); v != nil {
		v = v.search(templates, muchTime, spent+placements)
		say("much time", v.best, v.Ticks, " ", v.bound, " ", v.proved, v.free)
	}
	return lines
}

// Narrowed returns the units that each temperature may be in, by its number, in each narrowing of a
// lesson, and what a prover of the lesson goes on from after it has begun in them; nil where there are none.
func Narrowed(l Lesson) (uses []map[int][]int, plan *Plan) {
	p := compile(l)
	templates := p.templates()
	spent := 0
	rng := rand.New(rand.NewPCG(1, 0))
	for _, q := range p.narrowings() {
		temps := map[int][]int{}
		for n := range q.tasks {
			for _, u := range q.tasks[n].uses {
				if u.temp != noTemp {
					temps[u.temp] = u.units
				}
			}
		}
		uses = append(uses, temps)
	}
	s, _ := search(p, templates, cost{}, 30_000, 0)
	v := newProver(s, 0, &spent, rng)
	if v == nil || uses == nil {
		return uses, nil
	}
	before := v.cost
	v.elsewhere(p.narrowings(), templates, 2_000_000, 2_000_000)
	if !v.cost.less(before) {
		return uses, nil
	}
	plan = &Plan{Deadline: minutes(p.deadline), WaitsUntil: minutes(p.deadline + p.grace)}
	plan.fill(v.best, 0, Options{Runs: 1, Workers: 1})
	return uses, plan
}
