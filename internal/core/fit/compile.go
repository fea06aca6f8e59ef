package fit

import (
	"slices"

	"freshapron/internal/core/exact"
)

// The planner works on a compiled lesson: indices in place of names and whole
// seconds in place of minutes. Durations and least gaps round up, deadlines
// and greatest gaps round down, so that a plan that is valid here is valid in
// exact time.

// forever stands for a limit that is not there.
const forever = int(1) << 40

type instance struct {
	lesson   Lesson
	now      int        // nothing that has not begun starts before
	deadline int        // of all work
	grace    int        // seconds after it in which what needs no hands may go on
	breaks   []interval // phases before the deadline, in order of time
	adults   int
	away     []awaySpan
	dues     bool // some task has a moment to begin by
	shuts    bool // some unit is out for a while
	narrow   bool // each temperature keeps to some of the units: see narrowings
	tasks    []task
	byGroup  [][]int // task numbers of each group
	ahead    [][]int // those that have not begun
	cooks    []int   // cooks of each group
	ample    []bool  // the group has cooks for everything that can go on at once
	units    []unit  // every unit that can be held; per-station units once for each group
}

type interval struct{ from, to int } // half open, seconds

// An awaySpan is a stretch in which one of the adults, by number, is out.
type awaySpan struct {
	interval
	adult int
}

// A task is one step as one group does it.
type task struct {
	group, dish, step int
	work              []int // seconds of the work part with 1, 2, … cooks more than the least
	least             int   // fewest cooks on the work part
	wait              int
	adult             bool // an adult is there for the work part
	shut              bool
	uses              []use
	before            []link // what must end first
	after             []link // what waits for this
	notBefore         int    // pinned, or now
	beginBy           int    // pinned; forever where it is not

	// Of a lesson under way.
	begun   bool   // it runs as fixed says, and has links to nothing
	fixed   job    // where begun
	worked  bool   // its work is over
	over    bool   // all of it is
	planned [2]int // seconds of work and wait that it was to take
	since   []link // rules with what has begun, which ends or has ended
	release int    // notBefore, and what those rules and their least gaps ask
	startBy int    // what their greatest gaps ask, if any plan keeps them; forever where there are none
	due     int    // startBy, or the first moment there is
	lost    int    // where it begins anew because its unit failed: when it would have ended; 0 else
}

// workWith returns the seconds of work with the given number of cooks.
func (t *task) workWith(cooks int) int { return t.work[cooks-t.least] }

// shortest returns the least time from start to end.
func (t *task) shortest() int { return slices.Min(t.work) + t.wait }

// effort returns the least seconds of work times cooks.
func (t *task) effort() int {
	least := forever
	for i, work := range t.work {
		least = min(least, work*(t.least+i))
	}
	return least
}

// hasWork reports whether the step has a work part at all.
func (t *task) hasWork() bool { return t.work[0] > 0 }

type use struct {
	equipment int
	units     []int // candidates, numbers into instance.units
	places    int
	temp      int // index of the temperature, or noTemp
	part      Part
}

const noTemp = -1

// span returns when the use holds its unit, for a task that starts at t.
func (u *use) span(t, work, wait int) (enter, leave int) {
	switch u.part {
	case WorkPart:
		return t, t + work
	case WaitPart:
		return t + work, t + work + wait
	default:
		return t, t + work + wait
	}
}

type unit struct {
	equipment, index int
	places           int
	ready            int // nothing enters before
	reheat           int
	out              []closure
}

// A closure is a stretch in which a unit can't be used.
type closure struct {
	interval
	usable bool // what is in it at its begin may stay
}

// admits returns the first moment from enter on at which nothing of a stay of
// the given length lies in a closure; never or later where there is none.
func (u *unit) admits(enter, length int) int {
	for moved := true; moved; {
		moved = false
		for _, c := range u.out {
			if enter < c.to && c.from < enter+length && !(c.usable && enter < c.from) {
				enter, moved = c.to, true
			}
		}
	}
	return enter
}

// never is a moment that no lesson comes to.
const never = forever / 2

// A link is one rule "after": the later task starts at least min and at most
// max seconds after the other's end.
type link struct {
	task     int
	rule     int // its place in the step's list After
	min, max int // max is forever where there is none
}

func secondsUp(minutes exact.Number) int   { return int(minutes.Mul(exact.Int(60)).Ceil()) }
func secondsDown(minutes exact.Number) int { return int(minutes.Mul(exact.Int(60)).Floor()) }

// need returns the deadline that a step would just meet: its work ends by it,
// and its wait with the grace after it.
func (p *instance) need(start, work, wait int) int {
	need := start + work + wait - p.grace
	if work > 0 {
		need = max(need, start+work)
	}
	return need
}

// lastStart returns the last start of a step that meets a deadline.
func (p *instance) lastStart(deadline, work, wait int) int {
	return deadline - p.need(0, work, wait)
}

// compile turns a lesson that Check passes into an instance.
func compile(l Lesson) *instance {
	p := &instance{lesson: l, adults: l.Adults}
	if l.Now != nil {
		p.now = secondsUp(*l.Now)
	}
	spans, _, deadline := l.layout()
	p.deadline = secondsDown(deadline)
	p.grace = secondsDown(deadline.Add(l.grace())) - p.deadline
	for _, s := range spans {
		if s.phase.Place != AtEnd && s.phase.Minutes.Sign() > 0 {
			p.breaks = append(p.breaks, interval{secondsDown(s.from), secondsUp(s.to)})
		}
	}
	slices.SortFunc(p.breaks, func(a, b interval) int { return a.from - b.from })

	for _, a := range l.Away {
		span := interval{secondsDown(a.From), secondsUp(a.From.Add(a.Minutes))}
		for n := range a.Adults {
			p.away = append(p.away, awaySpan{span, p.present(span, n)})
		}
	}

	temps := map[string]int{}
	shared := make([][]int, len(l.Equipment)) // units of what the room shares
	for i, e := range l.Equipment {
		if !e.PerStation {
			shared[i] = p.addUnits(i)
		}
	}
	for g, group := range l.Groups {
		own := slices.Clone(shared)
		for i, e := range l.Equipment {
			if e.PerStation {
				own[i] = p.addUnits(i)
			}
		}
		p.addGroup(g, group, own, temps)
	}
	p.setDues()
	return p
}

func (p *instance) addUnits(equipment int) []int {
	e := p.lesson.Equipment[equipment]
	var numbers []int
	for i, u := range e.Units {
		numbers = append(numbers, len(p.units))
		unit := unit{equipment: equipment, index: i, places: u.Places}
		if e.Temperature {
			unit.ready = secondsUp(e.OnAt.Add(e.Preheat))
			unit.reheat = secondsUp(e.Reheat)
		}
		unit.out = p.lesson.closures(e.ID, u.Name)
		p.shuts = p.shuts || unit.out != nil
		p.units = append(p.units, unit)
	}
	return numbers
}

func (p *instance) addGroup(g int, group Group, units [][]int, temps map[string]int) {
	type ref struct{ dish, step string }
	number := map[ref]int{}
	records := p.lesson.records(group.ID)
	var mine []int
	for d, dish := range p.lesson.Dishes {
		if !group.makes(dish.ID) {
			continue
		}
		for s, step := range dish.Steps {
			record, known := records[[2]string{dish.ID, step.ID}]
			if record.Skipped {
				continue
			}
			number[ref{dish.ID, step.ID}] = len(p.tasks)
			mine = append(mine, len(p.tasks))
			t := p.newTask(g, d, s, units, temps)
			if known {
				p.begin(&t, record)
			}
			p.tasks = append(p.tasks, t)
		}
	}
	p.crewUnsaid(mine, records)
	for _, pin := range group.Pins {
		if n, made := number[ref{pin.Dish, pin.Step}]; made && !p.tasks[n].begun {
			p.pin(&p.tasks[n], pin)
		}
	}
	var ahead []int
	for _, n := range mine {
		t := &p.tasks[n]
		t.release = t.notBefore
		if t.begun {
			continue
		}
		ahead = append(ahead, n)
		dish := p.lesson.Dishes[t.dish]
		for k, a := range dish.Steps[t.step].After {
			from := ref{dish.ID, a.Step}
			if a.Dish != "" {
				from.dish = a.Dish
			}
			other, made := number[from]
			if !made {
				continue
			}
			l := link{task: other, rule: k, min: secondsUp(a.MinGap), max: forever}
			if a.MaxGap != nil {
				l.max = secondsDown(*a.MaxGap)
			}
			if p.tasks[other].begun {
				t.follow(l, p.tasks[other].fixed.end())
				continue
			}
			t.before = append(t.before, l)
			p.tasks[other].after = append(p.tasks[other].after, link{task: n, rule: k, min: l.min, max: l.max})
		}
	}
	p.byGroup = append(p.byGroup, mine)
	p.ahead = append(p.ahead, ahead)
	p.cooks = append(p.cooks, group.Cooks)
	p.ample = append(p.ample, len(mine) == len(ahead) && p.atOnce(mine) <= group.Cooks)
}

// atOnce returns how many cooks a group's tasks can keep at the same moment,
// or more: of a dish whose steps follow each other one by one the most that
// one of them takes, of another dish all together.
func (p *instance) atOnce(tasks []int) int {
	all := 0
	for i := 0; i < len(tasks); {
		most, sum, chain := 0, 0, true
		dish := p.tasks[tasks[i]].dish
		first := i
		for ; i < len(tasks) && p.tasks[tasks[i]].dish == dish; i++ {
			t := &p.tasks[tasks[i]]
			cooks := t.least + len(t.work) - 1
			most, sum = max(most, cooks), sum+cooks
			chain = chain && (i == first || slices.ContainsFunc(t.before, func(l link) bool { return l.task == tasks[i-1] }))
		}
		if chain {
			all += most
		} else {
			all += sum
		}
	}
	return all
}

// present returns the number of an adult who is in the room for the whole of
// the span, or one of those that there are where nobody is.
func (p *instance) present(span interval, otherwise int) int {
	for n := range p.adults {
		if !slices.ContainsFunc(p.away, func(a awaySpan) bool { return a.adult == n && a.from < span.to && span.from < a.to }) {
			return n
		}
	}
	return otherwise
}

func (p *instance) pin(t *task, pin Pin) {
	if pin.NotBefore != nil {
		t.notBefore = max(t.notBefore, secondsUp(*pin.NotBefore))
	}
	if pin.BeginBy != nil {
		t.beginBy, p.dues = secondsDown(*pin.BeginBy), true
	}
	for i := range t.uses {
		var named []int
		for _, u := range t.uses[i].units {
			if slices.Contains(pin.Units, p.lesson.Equipment[p.units[u].equipment].Units[p.units[u].index].Name) {
				named = append(named, u)
			}
		}
		if named != nil {
			t.uses[i].units = named
		}
	}
}

// extraHand is the part of a full share that each further cook adds to a
// shared step: two cooks are 1.8 times as quick as one.
var extraHand = exact.Frac(4, 5)

func (p *instance) newTask(g, d, s int, units [][]int, temps map[string]int) task {
	group, step := p.lesson.Groups[g], p.lesson.Dishes[d].Steps[s]
	pace := group.Pace
	if step.Adult == Does {
		pace = exact.Int(1)
	}
	loads := step.Load.Mul(exact.Int(int64(step.Loads())))
	t := task{group: g, dish: d, step: s, least: step.Cooks, wait: secondsUp(step.Wait), shut: step.KeepShut,
		notBefore: p.now, beginBy: forever, startBy: forever, due: forever}
	most := step.Cooks
	if step.Shareable {
		most = group.Cooks
	}
	for n := step.Cooks; n <= most; n++ {
		work := step.Work
		if n > step.Cooks {
			work = work.Div(exact.Int(1).Add(extraHand.Mul(exact.Int(int64(n - 1)))))
		}
		t.work = append(t.work, secondsUp(work.Add(loads).Mul(pace)))
	}
	if !t.hasWork() {
		t.least, t.work = 0, t.work[:1]
	}
	t.adult = step.Adult != NoAdult && t.hasWork()
	for _, u := range step.Uses {
		e := slices.IndexFunc(p.lesson.Equipment, func(e Equipment) bool { return e.ID == u.Equipment })
		c := use{equipment: e, units: units[e], places: u.Places, temp: noTemp, part: u.During}
		if u.Temperature != nil {
			key := u.Temperature.String()
			if _, ok := temps[key]; !ok {
				temps[key] = len(temps)
			}
			c.temp = temps[key]
		}
		t.uses = append(t.uses, c)
	}
	return t
}

// workStart returns the first moment from t on at which work of the given
// length overlaps no break.
func (p *instance) workStart(t, work int) int {
	if work == 0 {
		return t
	}
	for _, b := range p.breaks {
		if t < b.to && b.from < t+work {
			t = b.to
		}
	}
	return t
}
