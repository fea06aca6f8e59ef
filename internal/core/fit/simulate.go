package fit

import (
	"cmp"
	"fmt"
	"math"
	"math/rand/v2"
	"slices"
	"sync/atomic"

	"freshapron/internal/core/side"
)

// Risk says how likely the plan is to work in a class of people.
type Risk struct {
	Runs      int
	Benches   Benches
	AllOnTime float64 // share of the lessons in which every group meets both deadlines
	More      float64 // minutes after the deadlines by which everybody is done in 9 of 10 lessons; below 0 before them
	P90All    float64 // minute by which everything has ended in 9 of 10 lessons, waits included
	Groups    []GroupRisk
	Causes    []Cause   // of the late lessons, the most frequent first
	Finishes  []float64 // minute at which the last group ended, one for each lesson, ascending
}

// Benches says how many of the groups meet both deadlines. One without a plan
// does not.
type Benches struct {
	All          int
	Mean         float64
	AtLeast8In10 int // the most that 8 of 10 lessons reach
}

// Sure reports whether nine tenths of the groups, rounded down and at least
// one, are done in 8 of 10 lessons.
func (b Benches) Sure() bool { return b.AtLeast8In10 >= max(1, 9*b.All/10) }

// Half reports whether at least half of them are.
func (b Benches) Half() bool { return 2*b.AtLeast8In10 >= b.All }

// Figure says how many are done in time on average, "10 of 12"; of a single one
// how often it is, "93 of 100".
func (b Benches) Figure() string {
	if b.All == 1 {
		return fmt.Sprintf("%.0f of 100", 100*b.Mean)
	}
	return fmt.Sprintf("%.0f of %d", b.Mean, b.All)
}

// Says is the figure with what it counts, by the name of a group: "10 of 12
// benches are done in time", "93 of 100 times the bench is done in time".
func (b Benches) Says(one, many string) string {
	if b.All == 1 {
		return b.Figure() + " times the " + one + " is done in time"
	}
	return b.Figure() + " " + many + " are done in time"
}

// GroupRisk is the risk of one group. The percentiles are minutes from the door.
type GroupRisk struct {
	ID            string
	OnTime        float64
	P50, P80, P95 float64
}

// A Cause is a step, a piece of equipment or the adults, with the share of the
// late lessons in which the last group would have been on time had the step
// taken, or the thing been free at, its planned time.
type Cause struct {
	Kind  string // "step", "equipment" or "adults"
	Dish  string // where Kind is "step"
	ID    string
	Share float64
}

// Spreads of a lesson's own, in place of the usual: see simulate.
type Spreads struct {
	Class, Group *float64 // standard deviation over mean
}

// simulate runs the order with random durations. A work part is lognormal round
// its planned length times four factors with mean 1: one of the class, one of
// the step that all groups share which do it, one of the group, and its own. A
// wait has one of the unit that it is in and its own. The one who comes next in
// a place, on an adult and at a cook's hands is as in the plan; a step starts
// when all it is tied to has happened, and who stands ready with a tray waits
// for room. Work that meets a whole-class phase pauses for it. Nobody
// overtakes.
//
// A lesson that is far larger than any class is simulated less often than is
// usual, so that the time is bounded.
func (o *order) simulate(runs int, seed uint64, workers int) Risk {
	if runs <= defaultRuns {
		runs = min(runs, max(leastRuns, mostSteps/max(1, len(o.placed))))
	}
	laws := o.laws()
	finishes := make([][]float64, len(o.byGroup)) // by group and run
	for g := range finishes {
		finishes[g] = make([]float64, runs)
	}
	last, over := make([]float64, runs), make([]float64, runs)
	tallies := make([]tally, min(workers, runs))
	var next atomic.Int64
	side.By(len(tallies), func(worker int) {
		r := o.newRun()
		t := &tallies[worker]
		*t = r.newTally()
		for i := int(next.Add(1)) - 1; i < runs; i = int(next.Add(1)) - 1 {
			// Every lesson has random numbers of its own, so that it does
			// not matter who simulates it.
			r.draw(laws, rand.New(rand.NewPCG(seed, uint64(i)+1)))
			r.play()
			last[i], over[i] = r.end(finishes, i, t)
		}
	})
	all := o.newTally()
	for _, t := range tallies {
		all.late += t.late
		all.judged += t.judged
		for g, n := range t.onTime {
			all.onTime[g] += n
		}
		for k, n := range t.done {
			all.done[k] += n
		}
		for c, n := range t.causes {
			all.causes[c] += n
		}
	}
	return o.risk(runs, finishes, last, over, all)
}

// A law is the lognormal law of a factor with mean 1.
type law struct{ mu, sigma float64 }

// of returns the factor that a draw of the standard normal stands for.
func (l law) of(z float64) float64 { return math.Exp(l.mu + l.sigma*z) }

// laws are those of the class and of the groups, and of each task: of its work,
// half of it shared and half its own, and of its wait, likewise where it is in
// a unit.
type laws struct {
	class, group law
	work, wait   []law
	step         []int // the step that a task is, by number, shared by groups
	steps        int
	unit         []int // in which a task waits, or −1
}

func (o *order) laws() laws {
	l := laws{
		class: lawOf(classSpread), group: lawOf(groupSpread),
		work: make([]law, len(o.tasks)), wait: make([]law, len(o.tasks)), step: make([]int, len(o.tasks)), unit: make([]int, len(o.tasks)),
	}
	if s := o.lesson.Spreads; s != nil {
		if s.Class != nil {
			l.class = lawOf(*s.Class)
		}
		if s.Group != nil {
			l.group = lawOf(*s.Group)
		}
	}
	numbers := map[[2]int]int{}
	for _, n := range o.placed {
		t := &o.tasks[n]
		step := o.lesson.Dishes[t.dish].Steps[t.step]
		key := [2]int{t.dish, t.step}
		if _, ok := numbers[key]; !ok {
			numbers[key] = len(numbers)
		}
		l.step[n], l.unit[n] = numbers[key], -1
		l.work[n], l.wait[n] = lawOf(workSpread(step)*math.Sqrt(0.5)), lawOf(waitSpread(step.Kind))
		for i, u := range o.jobs[n].units {
			if t.uses[i].part != WorkPart {
				l.unit[n] = u
				l.wait[n] = lawOf(waitSpread(step.Kind) * math.Sqrt(0.5))
				break
			}
		}
	}
	l.steps = len(numbers)
	return l
}

// A tally counts lessons: the late ones, in how many each group is on time,
// how many groups are, and what made the last one late in those judged.
type tally struct {
	late, judged int
	onTime       []int // by group
	done         []int // by the number of groups that are on time
	causes       map[Cause]int
}

func (o *order) newTally() tally {
	return tally{onTime: make([]int, len(o.byGroup)), done: make([]int, len(o.byGroup)+1), causes: map[Cause]int{}}
}

// judgedRuns is how many of the simulated lessons are looked into for causes.
const judgedRuns = 400

// A run is one simulated lesson: how long each part takes, and when it
// happens.
type run struct {
	*order
	events     []event
	loose      int // from here on the events hold each other
	ready      []readiness
	factor     []float64 // of each group
	work, wait []float64 // seconds, by task
	times      [][3]float64
	binding    []int // tie that decided the start, or −1
	laws       laws
	shared     []float64 // factor of each step
	unit       []float64 // draw of each unit
	planned    int       // equipment that is free as planned, onAdults, or −1
}

// onAdults stands in the place of an equipment for the adults.
const onAdults = -2

func (o *order) newRun() *run {
	n := len(o.tasks)
	r := &run{
		order: o, ready: make([]readiness, n), factor: make([]float64, len(o.byGroup)),
		work: make([]float64, n), wait: make([]float64, n), times: make([][3]float64, n), binding: make([]int, n),
		unit: make([]float64, len(o.units)), planned: -1,
	}
	r.events, r.loose = o.running()
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
			r.work[n] = float64(work) * l.work[n].of(r.shared[l.step[n]]) * l.work[n].of(rng.NormFloat64())
			if r.lesson.Dishes[t.dish].Steps[t.step].Adult != Does {
				r.work[n] *= r.factor[t.group]
			}
		}
		if wait > 0 {
			r.wait[n] = float64(wait) * l.wait[n].of(rng.NormFloat64())
			if u := l.unit[n]; u >= 0 {
				r.wait[n] *= l.wait[n].of(r.unit[u])
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
		if run < judgedRuns {
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
		r.planned = -1
		for _, f := range undo {
			f()
		}
	}
}

// happens returns when a tie lets its later end happen.
func (r *run) happens(tie *tie) float64 {
	free := r.planned == onAdults && tie.cause == byAdult || r.planned >= 0 && tie.cause == byUnit && r.units[tie.unit].equipment == r.planned
	if free {
		j := &r.jobs[tie.a]
		return float64(j.start + j.offset(tie.from) + tie.lag)
	}
	return r.times[tie.a][tie.from] + float64(tie.lag)
}

// play lets everything happen as soon as what it is tied to has happened.
// Two trays behind one door that stays shut go in together and come out
// together: such events hold each other, and are moved on until all ties are
// kept.
func (r *run) play() {
	clear(r.times)
	for _, e := range r.events[:r.loose] {
		r.happen(e)
	}
	for range len(r.events) - r.loose {
		moved := false
		for _, e := range r.events[r.loose:] {
			moved = r.happen(e) || moved
		}
		if !moved {
			break
		}
	}
}

// happen works out one event and reports whether it has moved.
func (r *run) happen(e event) bool {
	n := e.task
	t := &r.times[n]
	was := *t
	if r.tasks[n].begun {
		r.goOn(n, e.end)
		return *t != was
	}
	if e.end {
		t[atEnd] = t[atWorkEnd] + r.wait[n]
		for _, k := range r.into[n] {
			// A tray behind a door that stays shut waits inside.
			if tie := &r.ties[k]; tie.to == atEnd {
				t[atEnd] = max(t[atEnd], r.happens(tie))
			}
		}
		return *t != was
	}
	ready := r.ready[n]
	start, workEnd, byShelf := ready.start, ready.workEnd, -1
	r.binding[n] = -1
	for _, k := range r.into[n] {
		tie := &r.ties[k]
		switch at := r.happens(tie); {
		case tie.to == atStart && at > start:
			start, r.binding[n] = at, k
		case tie.to == atWorkEnd && at > workEnd:
			workEnd, byShelf = at, k
		}
	}
	if r.work[n] == 0 { // nobody holds what no work comes before
		start = max(start, workEnd)
	}
	t[atStart], t[atWorkEnd] = r.throughBreaks(start, r.work[n])
	if workEnd > t[atWorkEnd] || r.work[n] == 0 && workEnd >= start && byShelf >= 0 {
		t[atWorkEnd] = max(t[atWorkEnd], workEnd)
		if byShelf >= 0 {
			r.binding[n] = byShelf
		}
	}
	return *t != was
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

const (
	mostSteps = 10_000_000 // simulated in all
	leastRuns = 100
)

// onTimeSlack forgives the rounding of sums of floating-point seconds.
const onTimeSlack = 1e-6

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

func (o *order) risk(runs int, finishes [][]float64, last, over []float64, t tally) Risk {
	r := Risk{Runs: runs, Benches: Benches{All: len(o.byGroup)}, AllOnTime: float64(t.done[len(o.byGroup)]) / float64(runs)}
	reached := 0
	for k := len(t.done) - 1; k >= 0; k-- {
		r.Benches.Mean += float64(k*t.done[k]) / float64(runs)
		if reached += t.done[k]; r.Benches.AtLeast8In10 == 0 && 10*reached >= 8*runs {
			r.Benches.AtLeast8In10 = k
		}
	}
	for g, f := range finishes {
		if !o.inPlan(g) {
			continue
		}
		slices.Sort(f)
		r.Groups = append(r.Groups, GroupRisk{
			ID: o.lesson.Groups[g].ID, OnTime: float64(t.onTime[g]) / float64(runs),
			P50: percentile(f, 0.5) / 60, P80: percentile(f, 0.8) / 60, P95: percentile(f, 0.95) / 60,
		})
	}
	slices.Sort(over)
	r.More = percentile(over, 0.9) / 60
	slices.Sort(last)
	for i := range last {
		last[i] /= 60
	}
	r.Finishes, r.P90All = last, percentile(last, 0.9)
	for c, n := range t.causes {
		c.Share = float64(n) / float64(t.judged)
		r.Causes = append(r.Causes, c)
	}
	slices.SortFunc(r.Causes, func(a, b Cause) int {
		return cmp.Or(cmp.Compare(b.Share, a.Share), cmp.Compare(a.Kind, b.Kind), cmp.Compare(a.Dish, b.Dish), cmp.Compare(a.ID, b.ID))
	})
	return r
}

// inPlan reports whether the group is in the plan.
func (s *schedule) inPlan(g int) bool { return len(s.ahead[g]) == 0 || s.jobs[s.ahead[g][0]].placed }

// percentile returns the value below which the share p of the sorted values
// lies, between neighbours in proportion.
func percentile(sorted []float64, p float64) float64 {
	at := p * float64(len(sorted)-1)
	i := int(at)
	if i+1 >= len(sorted) {
		return sorted[len(sorted)-1]
	}
	return sorted[i] + (at-float64(i))*(sorted[i+1]-sorted[i])
}
