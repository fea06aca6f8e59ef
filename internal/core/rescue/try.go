package rescue

import (
	"cmp"
	"runtime"
	"slices"
	"sync/atomic"

	"freshapron/internal/core/fit"
	"freshapron/internal/core/side"
)

// A Rescue is a way that has been planned and simulated.
type Rescue struct {
	Way
	Lesson fit.Lesson
	Plan   *fit.Plan
	// Second is the plan of the second half, where the way takes two lessons.
	SecondLesson fit.Lesson
	Second       *fit.Plan
}

// Fits reports whether the lesson ends in time, or both of them.
func (r Rescue) Fits() bool { return r.Plan.Fits && (r.Second == nil || r.Second.Fits) }

// Finish returns the minute at which the last group is done: of two lessons,
// in the one in which it is later.
func (r Rescue) Finish() float64 {
	if r.Second != nil {
		return max(r.Plan.Finish, r.Second.Finish)
	}
	return r.Plan.Finish
}

// Sure reports whether the lesson needs no other rescue: both do, of two.
func (r Rescue) Sure() bool {
	return r.Fits() && r.Plan.Risk.Benches.Sure() && (r.Second == nil || r.Second.Risk.Benches.Sure())
}

// Done returns the share of the benches that are done in time on average: of
// two lessons, in the one in which fewer are.
func (r Rescue) Done() float64 {
	done := doneOf(r.Plan)
	if r.Second != nil {
		done = min(done, doneOf(r.Second))
	}
	return done
}

func doneOf(p *fit.Plan) float64 { return p.Risk.Benches.Mean / float64(max(1, p.Risk.Benches.All)) }

// AllOnTime returns the share of simulated lessons in which every group is on
// time: of two lessons, in both.
func (r Rescue) AllOnTime() float64 {
	if r.Second != nil {
		return r.Plan.Risk.AllOnTime * r.Second.Risk.AllOnTime
	}
	return r.Plan.Risk.AllOnTime
}

// Needed reports whether a plan overruns or is at risk.
func Needed(p *fit.Plan) bool { return !p.Fits || !p.Risk.Benches.Sure() }

// An Outcome is what would help a lesson.
type Outcome struct {
	Rescues []Rescue // that gain something: those that bring most benches home first
	Levers  []Lever  // what one thing more, or a shorter step, would bring; the most first
	Lack    *Lack    // where no rescue is enough: what would be
}

const (
	// worthMinutes and worthShare are what a way must gain to be listed.
	worthMinutes, worthShare = 0.5, 0.02
	// paired is how many of the best ways are tried in pairs.
	paired = 6
	// listed is how many are planned in full, and listed.
	listed = 8
	// quickBudget bounds the search of a trial that is only to be compared with
	// others; see fit.Options. What is listed is planned in full.
	quickBudget = 30
)

// A Trial is what Try works with.
type Trial struct {
	Lesson fit.Lesson
	Plan   *fit.Plan // of the lesson as it is
	Ways   []Way
	// Build returns the lesson with changes. Nil is Apply.
	Build    func(...Change) (fit.Lesson, error)
	Options  fit.Options
	Progress func(done, all int) // called as trials end; may be nil
	// Ended, once it is closed, has what is not planned yet left out: the outcome is
	// then of no use. Nil never is.
	Ended   <-chan struct{}
	workers int
}

// Try plans and simulates each way, and pairs of the best where none is
// enough. The result does not depend on how many processors there are.
func Try(t Trial) Outcome {
	if steps(t.Plan) > mostSteps {
		return Outcome{}
	}
	if t.Build == nil {
		t.Build = func(c ...Change) (fit.Lesson, error) { return Apply(t.Lesson, c...) }
	}
	if t.Options.Run == nil {
		t.Options.Run = func(work func()) { work() }
	}
	t.workers = cmp.Or(t.Options.Workers, runtime.GOMAXPROCS(0))
	t.Options.Workers = 1 // of each of the trials that go on side by side
	full := t
	t.Options = Bounded(t.Options, quickBudget)
	out := Outcome{Rescues: t.ranked(full)}
	if t.Lesson.Now != nil { // nothing more comes into a lesson that runs
		return out
	}
	out.Levers = t.levers()
	if !slices.ContainsFunc(out.Rescues, Rescue.Sure) {
		out.Lack = t.lack()
	}
	return out
}

// ranked returns the ways, and pairs of them, that gain something, planned in
// full.
func (t Trial) ranked(full Trial) []Rescue {
	full.Progress = nil
	again := func(list []Rescue) []Rescue {
		ways := make([]Way, min(len(list), listed))
		for i := range ways {
			ways[i] = list[i].Way
		}
		return full.each(ways, 0, len(ways))
	}
	singles := t.gaining(again(t.gaining(t.each(t.Ways, 0, len(t.Ways)), t.Plan)), t.Plan)
	if slices.ContainsFunc(singles, Rescue.Sure) {
		return singles
	}
	tops := singles[:min(len(singles), paired)]
	var pairs []Way
	for i, a := range tops {
		for _, b := range tops[i+1:] {
			if a.Changes[0].Kind != b.Changes[0].Kind && a.Second == nil && b.Second == nil {
				pairs = append(pairs, a.With(b.Way))
			}
		}
	}
	if len(tops) == 0 {
		return singles
	}
	// A pair must beat the best of the single ways to be worth its cost.
	more := t.gaining(t.each(pairs, len(t.Ways), len(t.Ways)+len(pairs)), tops[0].Plan)
	more = t.gaining(again(more), tops[0].Plan)
	return order(append(singles, more...))
}

// Bounded returns the options with a budget of so many milliseconds at most.
func Bounded(opt fit.Options, budget int) fit.Options {
	if opt.Budget == 0 || opt.Budget > budget {
		opt.Budget = budget
	}
	return opt
}

// mostSteps is how many steps of all groups a lesson may have for its ways to
// be tried: far more than any class has.
const mostSteps = 4000

func steps(p *fit.Plan) int {
	n := 0
	for _, g := range p.Groups {
		n += len(g.Steps)
	}
	return n
}

// each plans the ways side by side.
func (t Trial) each(ways []Way, done, all int) []Rescue {
	out := make([]Rescue, len(ways))
	ended := atomic.Int64{}
	t.inParallel(len(ways), func(i int) {
		out[i] = t.one(ways[i])
		if n := int(ended.Add(1)); t.Progress != nil {
			t.Progress(done+n, all)
		}
	})
	return slices.DeleteFunc(out, func(r Rescue) bool { return r.Plan == nil })
}

// inParallel calls f with every number below n.
func (t Trial) inParallel(n int, f func(i int)) {
	next := atomic.Int64{}
	side.By(min(t.workers, n), func(int) {
		t.Options.Run(func() {
			for i := int(next.Add(1)) - 1; i < n && !t.ended(); i = int(next.Add(1)) - 1 {
				f(i)
			}
		})
	})
}

func (t Trial) ended() bool {
	select {
	case <-t.Ended:
		return true
	default:
		return false
	}
}

// one plans a way; its Plan is nil where the lesson does not allow it.
func (t Trial) one(w Way) Rescue {
	r := Rescue{Way: w}
	var err error
	if r.Lesson, err = t.Build(w.Changes...); err != nil {
		return r
	}
	plan, err := fit.Solve(r.Lesson, t.Options)
	if err != nil || plan.Conflicts != nil {
		return r
	}
	if half := slices.IndexFunc(w.Changes, func(c Change) bool { return c.Kind == TwoLessons }); half >= 0 {
		second := slices.Clone(w.Changes)
		second[half].Number = 2
		if r.SecondLesson, err = t.Build(second...); err != nil {
			return r
		}
		if r.Second, err = fit.Solve(r.SecondLesson, t.Options); err != nil || r.Second.Conflicts != nil {
			return r
		}
	}
	r.Plan = plan
	return r
}

// gaining leaves out what gains nothing over a plan. Of ways with the same
// title but for a moment it keeps the best.
func (t Trial) gaining(list []Rescue, over *fit.Plan) []Rescue {
	list = slices.DeleteFunc(list, func(r Rescue) bool {
		return r.Finish() > over.Finish-worthMinutes && r.Done() < doneOf(over)+worthShare || r.Finish() > over.Finish+worthMinutes
	})
	list = order(list)
	seen := map[Kind]bool{}
	return slices.DeleteFunc(list, func(r Rescue) bool {
		if len(r.Changes) > 1 || r.Changes[0].Kind != DemoInPieces {
			return false
		}
		again := seen[DemoInPieces]
		seen[DemoInPieces] = true
		return again
	})
}

func order(list []Rescue) []Rescue {
	slices.SortStableFunc(list, func(a, b Rescue) int {
		return cmp.Or(cmp.Compare(b.Done(), a.Done()), cmp.Compare(a.Finish(), b.Finish()))
	})
	return list
}
