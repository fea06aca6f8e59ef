package fit

import (
	"cmp"
	"fmt"
	"runtime"
	"slices"
	"strings"
)

// A Plan says when each group does each step. Times are minutes from the
// door, whole seconds.
type Plan struct {
	Fits       bool
	Deadline   float64 // when the first end phase begins: all work has ended
	WaitsUntil float64 // when everything has ended; the Deadline, or later where end phases let waits go on
	Finish     float64 // when the last group ends
	Slack      float64 // the least that is left to either; 0 where the plan does not fit
	Overrun    float64 // the most by which either is passed; 0 where the plan fits
	LowerBound float64 // no valid plan of these groups can finish earlier
	Optimal    bool    // the finish is proved to be the least there is
	Groups     []GroupPlan
	Conflicts  []Conflict // rules that exclude each other; their groups are not in the plan
	LatePins   []LatePin  // pinned steps that begin too late, whatever is tried
	Late       []Late     // of a lesson under way: what misses a gap, or begins anew
	Idle       []Idle     // cooks with too little to do
	Chain      []Link     // the longest chain, from the door to the last group's end
	Risk       Risk
}

// A GroupPlan is the plan of one group, its steps in order of their start.
type GroupPlan struct {
	ID     string
	Finish float64
	Steps  []StepPlan
}

// A StepPlan is one step in the plan.
type StepPlan struct {
	Dish, Step          string
	Start, WorkEnd, End float64
	Cooks               int   // on the work part; 0 where an adult does it or there is none
	Hands               []int // which of the group's cooks, from 1
	Units               []UnitPlan
	LatestStart         float64 // the last moment that still meets the deadline
	Held                Wait    // what the step waited for, where it could have started sooner
	task                int     // its number in the search
}

// A UnitPlan is the unit in which a step's use is.
type UnitPlan struct {
	Equipment, Unit string
}

// A Wait says that a step stood ready and had to wait.
type Wait struct {
	Minutes float64 // since all steps before it had ended, gaps included; 0 where it did not wait
	For     string  // id of the equipment, "adults", "cooks", "phase" or "pin"
	Until   float64 // the moment the step starts
}

// A Conflict names rules that no plan of any length can keep together.
type Conflict struct {
	Groups []string // ids of the groups that can't be planned for it
	Rules  []Rule
	Says   string
}

// A Rule is a greatest gap of the lesson; or a use for which no unit is left,
// and then it has no After.
type Rule struct {
	Path       string // in the lesson file
	Dish, Step string
	After      string
	MaxGap     float64 // minutes
}

// Options bound and seed the work of Solve. The zero value is the default.
type Options struct {
	// Milliseconds that the search may take on an ordinary machine; 0 is 200,
	// and 80 of a lesson under way.
	// The search counts placements rather than the clock, so that the same
	// lesson and options always give the same plan.
	Budget     int
	Placements int    // of a task by the search; 0 is what the Budget allows
	Runs       int    // simulated lessons; 0 is 2000
	Seed       uint64 // of the search and the simulation
	// Workers is how much is done side by side, and 0 one for each processor.
	// The figures don't depend on it.
	Workers int
	// Run does the work of one worker where many plans are made side by side;
	// nil just does it. A server may run it where it holds nobody up.
	Run func(work func())
}

const (
	defaultBudget = 200
	// Somebody stands at a bench and waits.
	underWayBudget = 80
	defaultRuns    = 2000
	// placementsPerMS is how many placements the search makes in a
	// millisecond, with room to spare: see BenchmarkSolve.
	placementsPerMS = 9000
)

// Solve plans a lesson. It returns Problems where the lesson is not in order;
// otherwise there is a plan, whether or not it fits.
func Solve(l Lesson, opt Options) (*Plan, error) {
	if err := l.Check(); err != nil {
		return nil, err
	}
	if opt.Budget == 0 {
		opt.Budget = defaultBudget
		if l.Now != nil {
			opt.Budget = underWayBudget
		}
	}
	if opt.Placements == 0 {
		opt.Placements = opt.Budget * placementsPerMS
	}
	if opt.Runs == 0 {
		opt.Runs = defaultRuns
	}
	if opt.Workers == 0 {
		opt.Workers = runtime.GOMAXPROCS(0)
	}
	p := compile(l)
	templates := p.templates()
	plan := &Plan{Deadline: minutes(p.deadline), WaitsUntil: minutes(p.deadline + p.grace)}
	var able []int
	for g := range p.byGroup {
		if templates[g].impossible() {
			plan.addConflict(p, g, templates[g])
		} else {
			able = append(able, g)
		}
	}
	if len(able) == 0 {
		plan.Fits = false
		return plan, nil
	}
	known := p.costBound(able)
	best, bound := search(p, templates, known, opt.Placements, opt.Seed)
	var planned []int
	for _, g := range able {
		if templates[g].noRoom {
			plan.addNoRoom(p, g)
		} else {
			planned = append(planned, g)
		}
	}
	if len(planned) == 0 {
		return plan, nil
	}
	if len(planned) < len(able) {
		bound = p.costBound(planned)
	}
	plan.fill(best, bound.finish, opt)
	plan.Optimal = plan.LowerBound >= plan.Finish && len(plan.Conflicts) == 0
	return plan, nil
}

func minutes(seconds int) float64 { return float64(seconds) / 60 }

func (plan *Plan) fill(s *schedule, bound int, opt Options) {
	plan.LowerBound = minutes(bound)
	need := -s.grace
	for n := range s.jobs {
		if j := &s.jobs[n]; j.placed && s.inPlan(s.tasks[n].group) {
			need = max(need, s.need(j.start, j.work, j.wait))
		}
	}
	plan.Slack = minutes(max(0, s.deadline-need))
	plan.Overrun = minutes(max(0, need-s.deadline))
	plan.Fits = need <= s.deadline && plan.Conflicts == nil
	for g, tasks := range s.byGroup {
		if s.inPlan(g) {
			gp := s.groupPlan(g, tasks)
			plan.Idle = append(plan.Idle, s.idle(gp, s.cooks[g])...)
			plan.Groups = append(plan.Groups, gp)
			plan.Finish = max(plan.Finish, gp.Finish)
		}
	}
	o := s.order()
	latest := o.latestStarts(max(s.deadline, need))
	for i := range plan.Groups {
		gp := &plan.Groups[i]
		for k := range gp.Steps {
			sp := &gp.Steps[k]
			if n := sp.task; !s.tasks[n].begun {
				sp.LatestStart, sp.Held = minutes(latest[n]), o.held(n)
			}
		}
	}
	plan.LatePins = s.latePins()
	plan.Late = s.late()
	plan.Chain = o.longestChain()
	plan.Risk = o.simulate(opt.Runs, opt.Seed, opt.Workers)
}

// groupPlan returns the plan of a group and says who does what in it.
func (s *schedule) groupPlan(g int, tasks []int) GroupPlan {
	gp := GroupPlan{ID: s.lesson.Groups[g].ID}
	records := s.lesson.records(gp.ID)
	for _, n := range tasks {
		sp := s.stepPlan(n)
		if record, ok := records[[2]string{sp.Dish, sp.Step}]; ok && s.tasks[n].begun {
			s.lesson.recorded(&sp, record)
		}
		gp.Steps = append(gp.Steps, sp)
		gp.Finish = max(gp.Finish, sp.End)
	}
	slices.SortStableFunc(gp.Steps, func(a, b StepPlan) int { return cmp.Compare(a.Start, b.Start) })
	s.lesson.assignHands(&gp, s.cooks[g])
	for i := range gp.Steps {
		s.jobs[gp.Steps[i].task].hands = gp.Steps[i].Hands
	}
	return gp
}

func (s *schedule) stepPlan(n int) StepPlan {
	t, j := &s.tasks[n], &s.jobs[n]
	dish := s.lesson.Dishes[t.dish]
	sp := StepPlan{
		Dish: dish.ID, Step: dish.Steps[t.step].ID, task: n,
		Start: minutes(j.start), WorkEnd: minutes(j.workEnd()), End: minutes(j.end()), LatestStart: minutes(j.start),
	}
	if j.work > 0 {
		sp.Cooks = j.cooks
	}
	for _, u := range j.units {
		e := s.lesson.Equipment[s.units[u].equipment]
		sp.Units = append(sp.Units, UnitPlan{e.ID, e.Units[s.units[u].index].Name})
	}
	return sp
}

// held says what kept a task from starting when its own rules would have let
// it: the tie that ends last, an oven that heats up, or a phase.
func (o *order) held(n int) Wait {
	j := &o.jobs[n]
	if o.tasks[n].begun {
		return Wait{}
	}
	free := o.now
	for _, l := range o.tasks[n].since {
		free = max(free, o.jobs[l.task].end()+l.min)
	}
	for _, l := range o.tasks[n].before {
		free = max(free, o.jobs[l.task].end()+l.min)
	}
	if j.start <= free {
		return Wait{}
	}
	w := Wait{Minutes: minutes(j.start - free), Until: minutes(j.start), For: "phase"}
	at := free
	if f := o.floor[n]; f > at {
		at, w.For = f, "adults"
		if f == o.tasks[n].notBefore {
			w.For = "pin"
		}
	}
	for i, u := range j.units {
		enter, _ := o.tasks[n].uses[i].span(0, j.work, j.wait)
		if r := o.units[u].opens(j.start+enter) - enter; r > at {
			at, w.For = r, o.lesson.Equipment[o.units[u].equipment].ID
		}
	}
	for _, k := range o.into[n] {
		tie := &o.ties[k]
		moment := o.jobs[tie.a].start + o.jobs[tie.a].offset(tie.from) + tie.lag - j.offset(tie.to)
		if tie.cause == byRule || moment <= at {
			continue
		}
		at = moment
		switch tie.cause {
		case byCook:
			w.For = "cooks"
		case byAdult:
			w.For = "adults"
		case byUnit:
			w.For = o.lesson.Equipment[o.units[tie.unit].equipment].ID
		}
	}
	return w
}

// addConflict names the clash of a group, once for all groups with the same.
func (plan *Plan) addConflict(p *instance, g int, t template) {
	var c Conflict
	var parts []string
	for _, r := range t.clash {
		task := &p.tasks[r.task]
		dish := p.lesson.Dishes[task.dish]
		step := dish.Steps[task.step]
		k := task.before[r.link].rule
		a := step.After[k]
		rule := Rule{
			Path: fmt.Sprintf("dishes[%d].steps[%d].after[%d].max_gap", task.dish, task.step, k),
			Dish: dish.ID, Step: step.ID, After: a.Step, MaxGap: a.MaxGap.Float(),
		}
		c.Rules = append(c.Rules, rule)
		parts = append(parts, fmt.Sprintf("“%s” must start at most %s min after “%s” ends",
			p.lesson.StepTitle(dish.ID, step.ID), a.MaxGap.Decimal(2), p.lesson.StepTitle(cmp.Or(a.Dish, dish.ID), a.Step)))
	}
	for i := range plan.Conflicts {
		if slices.Equal(plan.Conflicts[i].Rules, c.Rules) {
			plan.Conflicts[i].Groups = append(plan.Conflicts[i].Groups, p.lesson.Groups[g].ID)
			return
		}
	}
	c.Groups = []string{p.lesson.Groups[g].ID}
	what := map[bool]string{true: "this", false: "these together"}[len(parts) == 1]
	if t.unsure {
		c.Says = strings.Join(parts, ", and ") + ": no plan was found that keeps " + what
	} else {
		c.Says = strings.Join(parts, ", and ") + ": no plan of any length can keep " + what
	}
	plan.Conflicts = append(plan.Conflicts, c)
}

// addNoRoom names the first step of a group that finds no unit any more, once
// for all groups with the same.
func (plan *Plan) addNoRoom(p *instance, g int) {
	var c Conflict
	for _, n := range p.ahead[g] {
		t := &p.tasks[n]
		d := p.lesson.Dishes[t.dish]
		for k, u := range t.uses {
			if slices.ContainsFunc(u.units, func(unit int) bool { return p.units[unit].lasting(u.places) }) {
				continue
			}
			id := p.lesson.Equipment[u.equipment].ID
			c.Rules = append(c.Rules, Rule{Path: fmt.Sprintf("dishes[%d].steps[%d].uses[%d]", t.dish, t.step, k), Dish: d.ID, Step: d.Steps[t.step].ID})
			c.Says = fmt.Sprintf("“%s” finds no %s any more: every one with room for it is out for good", d.Steps[t.step].Label(), id)
			break
		}
		if c.Rules != nil {
			break
		}
	}
	if c.Rules == nil {
		c.Says = "no room is left for all that is to be done: equipment is out for good"
	}
	for i := range plan.Conflicts {
		if slices.Equal(plan.Conflicts[i].Rules, c.Rules) {
			plan.Conflicts[i].Groups = append(plan.Conflicts[i].Groups, p.lesson.Groups[g].ID)
			return
		}
	}
	c.Groups = []string{p.lesson.Groups[g].ID}
	plan.Conflicts = append(plan.Conflicts, c)
}

// lasting reports whether a unit has so many places and is never out for good.
func (u *unit) lasting(places int) bool {
	return u.places >= places && !slices.ContainsFunc(u.out, func(c closure) bool { return c.to == forever })
}
