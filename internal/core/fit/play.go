package fit

import "math/rand/v2"

// A run is one simulated lesson: how long each part takes, and when it
// happens.
type run struct {
	*order
	moments    []moment
	loose      int // from here on the moments hold each other
	ready      []readiness
	factor     []float64 // of each group
	work, wait []float64 // seconds, by task
	times      [][3]float64
	binding    []int // tie that decided the start, or −1
	laws       laws
	shared     []float64 // factor of each step
	unit       []float64 // draw of each unit
	judged     int       // how many runs are looked into
	planned    int       // equipment that is free as planned, onAdults, or nothing
}

// What stands in the place of an equipment.
const (
	nothing  = -1
	onAdults = -2 // the adults
)

func (o *order) newRun() *run {
	n := len(o.tasks)
	r := &run{
		order: o, ready: make([]readiness, n), factor: make([]float64, len(o.byGroup)),
		work: make([]float64, n), wait: make([]float64, n), times: make([][3]float64, n), binding: make([]int, n),
		unit: make([]float64, len(o.units)), planned: nothing,
	}
	r.moments, r.loose = o.moments()
	for _, n := range o.placed {
		r.ready[n] = o.readiness(n)
	}
	return r
}

// A readiness holds the moments before which a task does not start, and does
// not end its work, whoever is quick: what it enters then must be hot.
type readiness struct{ start, workEnd float64 }

func (o *order) readiness(n int) readiness {
	r := readiness{start: float64(o.floor[n])}
	for i, u := range o.jobs[n].units {
		enter, _ := o.tasks[n].uses[i].span(o.jobs[n].start, o.jobs[n].work, o.jobs[n].wait)
		hot := float64(o.units[u].opens(enter))
		if o.tasks[n].uses[i].part == WaitPart {
			r.workEnd = max(r.workEnd, hot)
		} else {
			r.start = max(r.start, hot)
		}
	}
	return r
}

// draw draws how long everything takes.
func (r *run) draw(l laws, rng *rand.Rand) {
	r.laws = l
	if r.shared == nil {
		r.shared = make([]float64, l.steps)
	}
	class := l.class.of(rng.NormFloat64())
	for i := range r.shared {
		r.shared[i] = rng.NormFloat64()
	}
	for g := range r.factor {
		r.factor[g] = class * l.group.of(rng.NormFloat64())
	}
	for u := range r.unit {
		r.unit[u] = rng.NormFloat64()
	}
	for _, n := range r.placed {
		t := &r.tasks[n]
		work, wait := r.lengths(n)
		r.work[n], r.wait[n] = 0, 0
		if work > 0 {
			r.work[n] = float64(work) * l.work[n].both(r.shared[l.step[n]], rng.NormFloat64())
			if r.lesson.Dishes[t.dish].Steps[t.step].Adult != Does {
				r.work[n] *= r.factor[t.group]
			}
		}
		if wait > 0 {
			z := rng.NormFloat64()
			if u := l.unit[n]; u >= 0 {
				r.wait[n] = float64(wait) * l.wait[n].both(r.unit[u], z)
			} else {
				r.wait[n] = float64(wait) * l.wait[n].of(z)
			}
		}
	}
}

// lengths returns how long the parts of a task are planned to be.
func (o *order) lengths(n int) (work, wait int) {
	if t := &o.tasks[n]; t.begun {
		return t.planned[0], t.planned[1]
	}
	return o.jobs[n].work, o.jobs[n].wait
}

// end notes when each group has ended in this run, and returns when the last
// has, and by how much the worse of the deadlines is passed.
func (r *run) end(finishes [][]float64, run int, t *tally) (end, over float64) {
	need, slowest := 0.0, -1
	done := 0
	for g, tasks := range r.byGroup {
		if !r.inPlan(g) {
			continue
		}
		for _, n := range tasks {
			finishes[g][run] = max(finishes[g][run], r.times[n][atEnd])
		}
		end = max(end, finishes[g][run])
		needed, last := r.needed(g)
		if needed > need {
			need, slowest = needed, last
		}
		if needed <= float64(r.deadline)+onTimeSlack {
			t.onTime[g]++
			done++
		}
	}
	t.done[done]++
	if need > float64(r.deadline)+onTimeSlack {
		t.late++
		if run < r.judged {
			t.judged++
			r.judge(slowest, t)
		}
	}
	return end, need - float64(r.deadline)
}

// needed returns the deadline that a group would just have met, and the task
// that decides it.
func (r *run) needed(g int) (need float64, last int) {
	last = -1
	for _, n := range r.byGroup[g] {
		by := r.times[n][atEnd] - float64(r.grace)
		if r.work[n] > 0 {
			by = max(by, r.times[n][atWorkEnd])
		}
		if last < 0 || by > need {
			need, last = by, n
		}
	}
	return need, last
}

// judge plays a late lesson again with each thing on the longest chain as
// planned, and notes what would have brought the last group home.
func (r *run) judge(slowest int, t *tally) {
	g := r.tasks[slowest].group
	for c, key := range r.chain(slowest, r.binding) {
		var undo []func()
		if c.Kind == "step" {
			for _, n := range r.placed {
				if r.laws.step[n] == key {
					work, wait := r.work[n], r.wait[n]
					undo = append(undo, func() { r.work[n], r.wait[n] = work, wait })
					w, a := r.lengths(n)
					r.work[n], r.wait[n] = float64(w), float64(a)
				}
			}
		} else {
			r.planned = key
		}
		r.play()
		if need, _ := r.needed(g); need <= float64(r.deadline)+onTimeSlack {
			t.causes[c]++
		}
		r.planned = nothing
		for _, f := range undo {
			f()
		}
	}
}

// A moment is an event of a run with what it is tied to.
type moment struct {
	event
	begun bool
	pulls []pull
}

// A pull is a tie as its later end sees it.
type pull struct {
	tie, task int // the tie, and the task that it comes from
	from, to  point
	lag       float64
}

// moments returns the events in an order in which every one comes after all that it is
// tied to; from the place `loose` on they hold each other. See running.
func (o *order) moments() (out []moment, loose int) {
	events, loose := o.running()
	out = make([]moment, len(events))
	for i, e := range events {
		m := moment{event: e, begun: o.tasks[e.task].begun}
		for _, k := range o.into[e.task] {
			t := &o.ties[k]
			// At its end only a tray waits inside, behind a door that stays shut.
			if !e.end || t.to == atEnd {
				m.pulls = append(m.pulls, pull{tie: k, task: t.a, from: t.from, to: t.to, lag: float64(t.lag)})
			}
		}
		out[i] = m
	}
	return out, loose
}

// lets returns when a tie lets its later end happen.
func (r *run) lets(p *pull) float64 {
	if r.planned != nothing && r.freed(&r.ties[p.tie]) {
		j := &r.jobs[p.task]
		return float64(j.start+j.offset(p.from)) + p.lag
	}
	return r.times[p.task][p.from] + p.lag
}

// freed reports whether a tie is one of those that hold as planned.
func (r *run) freed(t *tie) bool {
	if r.planned == onAdults {
		return t.cause == byAdult
	}
	return t.cause == byUnit && r.units[t.unit].equipment == r.planned
}

// play lets everything happen as soon as what it is tied to has happened.
// Two trays behind one door that stays shut go in together and come out
// together: such events hold each other, and are moved on until all ties are
// kept.
func (r *run) play() {
	clear(r.times)
	for i := range r.loose {
		r.happen(&r.moments[i])
	}
	knot := r.moments[r.loose:]
	for range knot {
		moved := false
		for i := range knot {
			was := r.times[knot[i].task]
			r.happen(&knot[i])
			moved = moved || r.times[knot[i].task] != was
		}
		if !moved {
			break
		}
	}
}

// happen works out one moment.
func (r *run) happen(m *moment) {
	n := m.task
	t := &r.times[n]
	switch {
	case m.begun:
		r.goOn(n, m.end)
		return
	case m.end:
		t[atEnd] = t[atWorkEnd] + r.wait[n]
		for i := range m.pulls {
			t[atEnd] = max(t[atEnd], r.lets(&m.pulls[i]))
		}
		return
	}
	ready := &r.ready[n]
	start, workEnd, byShelf := ready.start, ready.workEnd, -1
	binding := -1
	for i := range m.pulls {
		p := &m.pulls[i]
		switch at := r.lets(p); {
		case p.to == atStart && at > start:
			start, binding = at, p.tie
		case p.to == atWorkEnd && at > workEnd:
			workEnd, byShelf = at, p.tie
		}
	}
	work := r.work[n]
	if work == 0 { // nobody holds what no work comes before
		start = max(start, workEnd)
	}
	t[atStart], t[atWorkEnd] = r.throughBreaks(start, work)
	if workEnd > t[atWorkEnd] || work == 0 && workEnd >= start && byShelf >= 0 {
		t[atWorkEnd] = max(t[atWorkEnd], workEnd)
		if byShelf >= 0 {
			binding = byShelf
		}
	}
	r.binding[n] = binding
}

// goOn works out a moment of what has begun: what is recorded stays, and what
// is not over takes its whole length, but ends now at the soonest.
func (r *run) goOn(n int, end bool) {
	t, at := &r.tasks[n], &r.times[n]
	j, now := &t.fixed, float64(r.now)
	switch {
	case end && t.over:
		at[atEnd] = float64(j.end())
	case end:
		at[atEnd] = max(at[atWorkEnd]+r.wait[n], now)
	case t.worked:
		at[atStart], at[atWorkEnd] = float64(j.start), float64(j.workEnd())
	default:
		at[atStart] = float64(j.start)
		_, to := r.throughBreaks(at[atStart], r.work[n])
		at[atWorkEnd] = max(to, now)
	}
	if !end {
		r.binding[n] = -1
	}
}

// readyAt returns the moment before which a task can't start because its
// ovens heat up, an adult is out or the teacher has pinned it.
func (o *order) readyAt(n, work int) int {
	ready := o.floor[n]
	for i, u := range o.jobs[n].units {
		enter, _ := o.tasks[n].uses[i].span(0, work, o.jobs[n].wait)
		ready = max(ready, o.units[u].opens(o.jobs[n].start+enter)-enter)
	}
	return ready
}

// throughBreaks starts work at the first moment outside a break and carries
// it on after each break that it meets.
func (o *order) throughBreaks(start, length float64) (from, to float64) {
	from, to = start, start+length
	if length == 0 {
		return from, to
	}
	for _, b := range o.breaks {
		begin, end := float64(b.from), float64(b.to)
		switch {
		case end <= from || to <= begin:
		case begin <= from:
			to += end - from
			from = end
		default:
			to += end - begin
		}
	}
	return from, to
}

// chain returns the steps and resources on the longest chain that ends with
// task n, each with its number: of the step, or of the equipment.
func (r *run) chain(n int, binding []int) map[Cause]int {
	out := map[Cause]int{}
	for range len(r.placed) {
		dish := r.lesson.Dishes[r.tasks[n].dish]
		out[Cause{Kind: "step", Dish: dish.ID, ID: dish.Steps[r.tasks[n].step].ID}] = r.laws.step[n]
		if binding[n] < 0 {
			break
		}
		tie := &r.ties[binding[n]]
		switch tie.cause {
		case byUnit:
			e := r.units[tie.unit].equipment
			out[Cause{Kind: "equipment", ID: r.lesson.Equipment[e].ID}] = e
		case byAdult:
			out[Cause{Kind: "adults", ID: "adults"}] = onAdults
		}
		n = tie.a
	}
	return out
}
