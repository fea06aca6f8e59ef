package fit

import (
	"cmp"
	"math"
	"math/rand/v2"
	"slices"
)

// Risk says how likely the plan is to work in a class of people.
type Risk struct {
	Runs      int
	AllOnTime float64 // share of the lessons in which every group meets the deadline
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
func (o *order) simulate(runs int, seed uint64) Risk {
	rng := rand.New(rand.NewPCG(seed, 1))
	events := o.running()
	type law struct{ mu, sigma float64 }
	work, wait := make([]law, len(o.tasks)), make([]law, len(o.tasks))
	for _, n := range o.placed {
		step := o.lesson.Dishes[o.tasks[n].dish].Steps[o.tasks[n].step]
		m, s := logOf(workSpread(step))
		work[n] = law{m, s}
		m, s = logOf(waitSpread(step.Kind))
		wait[n] = law{m, s}
	}
	groupMu, groupSigma := logOf(groupSpread)
	classMu, classSigma := logOf(classSpread)
	deadline := float64(o.deadline)

	times := make([][3]float64, len(o.tasks)) // by point
	binding := make([]int, len(o.tasks))      // tie that decided the start, or −1
	factor := make([]float64, len(o.byGroup))
	finishes := make([][]float64, len(o.byGroup))
	last := make([]float64, 0, runs)
	tally := map[Cause]int{}
	late := 0
	for range runs {
		class := math.Exp(classMu + classSigma*rng.NormFloat64())
		for g := range factor {
			factor[g] = class * math.Exp(groupMu+groupSigma*rng.NormFloat64())
		}
		for _, e := range events {
			n := e.task
			j, t := &o.jobs[n], &times[n]
			if e.end {
				t[atEnd] = t[atWorkEnd]
				if j.wait > 0 {
					t[atEnd] += float64(j.wait) * math.Exp(wait[n].mu+wait[n].sigma*rng.NormFloat64())
				}
				for _, k := range o.into[n] {
					// A tray behind a door that stays shut waits inside.
					if tie := &o.ties[k]; tie.to == atEnd {
						t[atEnd] = max(t[atEnd], times[tie.a][tie.from]+float64(tie.lag))
					}
				}
				continue
			}
			length := 0.0
			if j.work > 0 {
				length = float64(j.work) * factor[o.tasks[n].group] * math.Exp(work[n].mu+work[n].sigma*rng.NormFloat64())
			}
			start := float64(o.readyAt(n, j.work))
			binding[n] = -1
			for _, k := range o.into[n] {
				tie := &o.ties[k]
				if tie.to == atEnd {
					continue
				}
				at := times[tie.a][tie.from] + float64(tie.lag)
				if tie.to == atWorkEnd {
					at -= length
				}
				if at > start {
					start, binding[n] = at, k
				}
			}
			t[atStart], t[atWorkEnd] = o.throughBreaks(start, length)
		}

		end, slowest := 0.0, -1
		for g, tasks := range o.byGroup {
			finish := 0.0
			for _, n := range tasks {
				if !o.jobs[n].placed {
					continue
				}
				if f := times[n][atEnd]; f > finish {
					finish = f
					if f > end {
						end, slowest = f, n
					}
				}
			}
			finishes[g] = append(finishes[g], finish)
		}
		last = append(last, end)
		if end > deadline+onTimeSlack {
			late++
			for c := range o.chain(slowest, binding) {
				tally[c]++
			}
		}
	}
	return o.risk(runs, finishes, last, tally, late)
}

// onTimeSlack forgives the rounding of sums of floating-point seconds.
const onTimeSlack = 1e-6

// readyAt returns the moment before which a task can't start because its
// ovens heat up.
func (o *order) readyAt(n, work int) int {
	ready := 0
	for i, u := range o.jobs[n].units {
		enter, _ := o.tasks[n].uses[i].span(0, work, o.jobs[n].wait)
		ready = max(ready, o.units[u].ready-enter)
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

func (o *order) risk(runs int, finishes [][]float64, last []float64, tally map[Cause]int, late int) Risk {
	r := Risk{Runs: runs, AllOnTime: 1 - float64(late)/float64(runs)}
	for g, f := range finishes {
		if !o.planned(g) {
			continue
		}
		slices.Sort(f)
		on, _ := slices.BinarySearch(f, float64(o.deadline)+2*onTimeSlack)
		r.Groups = append(r.Groups, GroupRisk{
			ID: o.lesson.Groups[g].ID, OnTime: float64(on) / float64(runs),
			P50: percentile(f, 0.5) / 60, P80: percentile(f, 0.8) / 60, P95: percentile(f, 0.95) / 60,
		})
	}
	slices.Sort(last)
	for i := range last {
		last[i] /= 60
	}
	r.Finishes = last
	for c, n := range tally {
		c.Share = float64(n) / float64(late)
		r.Causes = append(r.Causes, c)
	}
	slices.SortFunc(r.Causes, func(a, b Cause) int {
		return cmp.Or(cmp.Compare(b.Share, a.Share), cmp.Compare(a.Kind, b.Kind), cmp.Compare(a.Dish, b.Dish), cmp.Compare(a.ID, b.ID))
	})
	return r
}

// planned reports whether the group is in the plan.
func (o *order) planned(g int) bool { return o.jobs[o.byGroup[g][0]].placed }

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
