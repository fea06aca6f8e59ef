package fit

import (
	"cmp"
	"math"
	"math/rand/v2"
	"slices"
	"sync/atomic"

	"freshapron/internal/core/side"
)

// Risk says how likely the plan is to work in a class of people.
type Risk struct {
	Runs      int
	AllOnTime float64 // share of the lessons in which every group meets both deadlines
	Groups    []GroupRisk
	Causes    []Cause   // of the late lessons, the most frequent first
	Finishes  []float64 // minute at which the last group ended, one for each lesson, ascending
}

// GroupRisk is the risk of one group. The percentiles are minutes from the door.
type GroupRisk struct {
	ID            string
	OnTime        float64
	P50, P80, P95 float64
}

// A Cause is a step, a piece of equipment or the adults, with the share of
// the late lessons in which it stood on the longest chain.
type Cause struct {
	Kind  string // "step", "equipment" or "adults"
	Dish  string // where Kind is "step"
	ID    string
	Share float64
}

// simulate runs the order with random durations. Each work part is lognormal
// round its planned length, times a factor for the group and one for the
// class; each wait part is lognormal with a small spread. A task starts when
// all it is tied to has happened; work that meets a whole-class phase pauses
// for it.
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
	last := make([]float64, runs)
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
			last[i] = r.end(finishes, i, t)
		}
	})
	all := o.newTally()
	for _, t := range tallies {
		all.late += t.late
		for g, n := range t.onTime {
			all.onTime[g] += n
		}
		for c, n := range t.causes {
			all.causes[c] += n
		}
	}
	return o.risk(runs, finishes, last, all)
}

// A law is the lognormal law of a factor with mean 1.
type law struct{ mu, sigma float64 }

func (l law) draw(rng *rand.Rand) float64 { return math.Exp(l.mu + l.sigma*rng.NormFloat64()) }

// laws are those of the work and the wait of each task.
type laws struct{ work, wait []law }

func (o *order) laws() laws {
	l := laws{make([]law, len(o.tasks)), make([]law, len(o.tasks))}
	for _, n := range o.placed {
		step := o.lesson.Dishes[o.tasks[n].dish].Steps[o.tasks[n].step]
		l.work[n], l.wait[n] = lawOf(workSpread(step)), lawOf(waitSpread(step.Kind))
	}
	return l
}

// A tally counts late lessons, in how many of them what stood on the longest
// chain, and how often each group is on time.
type tally struct {
	late   int
	onTime []int // lessons, by group
	causes map[Cause]int
}

func (o *order) newTally() tally {
	return tally{onTime: make([]int, len(o.byGroup)), causes: map[Cause]int{}}
}

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
}

func (o *order) newRun() *run {
	n := len(o.tasks)
	r := &run{
		order: o, ready: make([]readiness, n), factor: make([]float64, len(o.byGroup)),
		work: make([]float64, n), wait: make([]float64, n), times: make([][3]float64, n), binding: make([]int, n),
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
	class := lawOf(classSpread).draw(rng)
	group := lawOf(groupSpread)
	for g := range r.factor {
		r.factor[g] = class * group.draw(rng)
	}
	for _, n := range r.placed {
		work, wait := r.jobs[n].work, r.jobs[n].wait
		if r.tasks[n].begun {
			work, wait = r.tasks[n].planned[0], r.tasks[n].planned[1]
		}
		r.work[n], r.wait[n] = 0, 0
		if work > 0 {
			r.work[n] = float64(work) * r.factor[r.tasks[n].group] * l.work[n].draw(rng)
		}
		if wait > 0 {
			r.wait[n] = float64(wait) * l.wait[n].draw(rng)
		}
	}
}

// end notes when each group has ended in this run, and returns when the last
// has.
func (r *run) end(finishes [][]float64, run int, t *tally) float64 {
	end, need, slowest := 0.0, 0.0, -1
	for g, tasks := range r.byGroup {
		needed := 0.0
		for _, n := range tasks {
			if !r.jobs[n].placed {
				continue
			}
			f := r.times[n][atEnd]
			finishes[g][run] = max(finishes[g][run], f)
			end = max(end, f)
			by := f - float64(r.grace)
			if r.jobs[n].work > 0 {
				by = max(by, r.times[n][atWorkEnd])
			}
			needed = max(needed, by)
			if by > need {
				need, slowest = by, n
			}
		}
		if needed <= float64(r.deadline)+onTimeSlack {
			t.onTime[g]++
		}
	}
	if need > float64(r.deadline)+onTimeSlack {
		t.late++
		for c := range r.chain(slowest, r.binding) {
			t.causes[c]++
		}
	}
	return end
}

// play lets everything happen as soon as what it is tied to has happened.
// Two trays behind one door that stays shut go in together and come out
// together: such events hold each other, and are moved on until all ties are
// kept.
func (r *run) play() {
	clear(r.times)
	for _, e := range r.events[:r.loose] {
		r.happen(e, false)
	}
	for range len(r.events) - r.loose {
		moved := false
		for _, e := range r.events[r.loose:] {
			moved = r.happen(e, true) || moved
		}
		if !moved {
			break
		}
	}
}

// happen works out one event and reports whether it has moved.
func (r *run) happen(e event, loose bool) bool {
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
				t[atEnd] = max(t[atEnd], r.times[tie.a][tie.from]+float64(tie.lag))
			}
		}
		return *t != was
	}
	ready := r.ready[n]
	start, workEnd := ready.start, ready.workEnd
	r.binding[n] = -1
	for _, k := range r.into[n] {
		tie := &r.ties[k]
		at := r.times[tie.a][tie.from] + float64(tie.lag)
		switch {
		case tie.to == atStart && at > start:
			start, r.binding[n] = at, k
		case tie.to == atWorkEnd && at > workEnd:
			workEnd = at
			if at-r.work[n] > start {
				r.binding[n] = k
			}
		}
	}
	// Work begins no sooner than it must to end when the shelf is free. Where
	// two hold each other it begins, and whoever stands ready with a tray
	// waits for the other.
	if !loose || r.work[n] == 0 {
		start = max(start, workEnd-r.work[n])
	}
	t[atStart], t[atWorkEnd] = r.throughBreaks(start, r.work[n])
	t[atWorkEnd] = max(t[atWorkEnd], workEnd)
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
// task n.
func (o *order) chain(n int, binding []int) map[Cause]bool {
	out := map[Cause]bool{}
	for range len(o.placed) {
		dish := o.lesson.Dishes[o.tasks[n].dish]
		out[Cause{Kind: "step", Dish: dish.ID, ID: dish.Steps[o.tasks[n].step].ID}] = true
		if binding[n] < 0 {
			break
		}
		tie := &o.ties[binding[n]]
		switch tie.cause {
		case byUnit:
			out[Cause{Kind: "equipment", ID: o.lesson.Equipment[o.units[tie.unit].equipment].ID}] = true
		case byAdult:
			out[Cause{Kind: "adults", ID: "adults"}] = true
		}
		n = tie.a
	}
	return out
}

func (o *order) risk(runs int, finishes [][]float64, last []float64, t tally) Risk {
	r := Risk{Runs: runs, AllOnTime: 1 - float64(t.late)/float64(runs)}
	for g, f := range finishes {
		if !o.planned(g) {
			continue
		}
		slices.Sort(f)
		r.Groups = append(r.Groups, GroupRisk{
			ID: o.lesson.Groups[g].ID, OnTime: float64(t.onTime[g]) / float64(runs),
			P50: percentile(f, 0.5) / 60, P80: percentile(f, 0.8) / 60, P95: percentile(f, 0.95) / 60,
		})
	}
	slices.Sort(last)
	for i := range last {
		last[i] /= 60
	}
	r.Finishes = last
	for c, n := range t.causes {
		c.Share = float64(n) / float64(t.late)
		r.Causes = append(r.Causes, c)
	}
	slices.SortFunc(r.Causes, func(a, b Cause) int {
		return cmp.Or(cmp.Compare(b.Share, a.Share), cmp.Compare(a.Kind, b.Kind), cmp.Compare(a.Dish, b.Dish), cmp.Compare(a.ID, b.ID))
	})
	return r
}

// planned reports whether the group is in the plan.
func (s *schedule) planned(g int) bool { return len(s.todo[g]) == 0 || s.jobs[s.todo[g][0]].placed }

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
