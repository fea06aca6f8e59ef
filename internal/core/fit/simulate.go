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
		r.judged = judgedRuns(runs)
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

// both returns the product of the factors that two draws stand for.
func (l law) both(y, z float64) float64 { return math.Exp(2*l.mu + l.sigma*(y+z)) }

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

// judgedRuns is how many of the simulated lessons are looked into for causes where they
// are late: it takes as long as simulating each about ten times more.
func judgedRuns(runs int) int { return max(20, runs/5) }

const (
	mostSteps = 10_000_000 // simulated in all
	leastRuns = 100
)

// onTimeSlack forgives the rounding of sums of floating-point seconds.
const onTimeSlack = 1e-6

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
