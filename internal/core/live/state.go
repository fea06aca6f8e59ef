package live

import (
	"cmp"
	"math"
	"slices"

	"freshapron/internal/core/fit"
)

// A Stage of a step at a bench.
type Stage int

// The stages.
const (
	ToCome Stage = iota
	Working
	Waiting
	Over
	NotDone // left out
)

// A Step is a step at a bench: planned, known or assumed. Times are minutes from
// the planned beginning of the period; of what has not begun they are those that
// are expected.
type Step struct {
	Dish, Step          string
	Title               string
	Stage               Stage
	Planned             fit.StepPlan // as it was planned when the lesson began
	Start, WorkEnd, End float64
	KnownStart          bool // somebody has said so
	KnownEnd            bool
	Unit                string // where its wait is, where somebody has said so or the plan has it

	plan               fit.StepPlan // as it is planned now
	fixed, worked, end bool         // its times have happened, known or assumed
}

// A Bench and how far it is.
type Bench struct {
	ID, Name string
	Steps    []Step  // by their start
	Late     float64 // minutes behind the plan that is followed; negative is ahead
	Known    bool    // somebody has said so since it last moved on
	Heard    float64 // when it was last heard of; NaN where it never was
	Gone     int     // learners who have left
}

// A Request is a bench that waits for somebody.
type Request struct {
	Bench string
	Since float64
	Says  string
	ID    string // of the event
}

// A State is a lesson at a moment.
type State struct {
	Lesson   fit.Lesson // as it began, with what has been changed since
	Plan     *fit.Plan  // that is followed
	Now      float64
	Begun    bool
	Door     float64 // when the class came in
	Closed   bool
	ClosedAt float64
	Benches  []Bench
	Helps    []Request
	Checks   []Request
	Out      []fit.UnitPlan
	Adults   int     // who are out
	AdultTo  float64 // until then; NaN until somebody says
	Sharps   int     // counted in; -1 where nobody has
	Called   int     // checkpoints
	Shift    float64 // minutes by which phases have been held and skipped
	Log      []Event // that count, by their time

	outAt   map[fit.UnitPlan]float64
	adultAt float64
}

// Fold returns the state at a moment after the events of a lesson that began with
// a plan. Events after the moment don't count yet.
func Fold(l fit.Lesson, p *fit.Plan, events []Event, now float64) *State {
	s := &State{Lesson: l, Plan: p, Now: now, Sharps: -1, AdultTo: math.NaN(), outAt: map[fit.UnitPlan]float64{}}
	for _, g := range l.Groups {
		b := Bench{ID: g.ID, Name: g.Name, Heard: math.NaN()}
		for _, gp := range p.Groups {
			if gp.ID != g.ID {
				continue
			}
			for _, sp := range gp.Steps {
				step, _ := l.Step(sp.Dish, sp.Step)
				b.Steps = append(b.Steps, Step{Dish: sp.Dish, Step: sp.Step, Title: step.Label(), Planned: sp, plan: sp, Start: sp.Start, WorkEnd: sp.WorkEnd, End: sp.End, Unit: unitOf(sp)})
			}
		}
		s.Benches = append(s.Benches, b)
	}
	for _, e := range inOrder(events) {
		if e.Time() > now {
			break
		}
		s.take(e)
	}
	if !s.Begun {
		return s
	}
	for i := range s.Benches {
		b := &s.Benches[i]
		until := now
		if s.Closed {
			until = min(until, s.ClosedAt)
		}
		b.settle(until)
		b.expect(until)
	}
	return s
}

func unitOf(sp fit.StepPlan) string {
	for _, u := range sp.Units {
		if u.Unit != "" {
			return u.Unit
		}
	}
	return ""
}

// settle fixes what is assumed to have happened by a moment, so that a later change
// of pace does not move what is past.
func (b *Bench) settle(t float64) {
	for i := range b.Steps {
		s := &b.Steps[i]
		if s.Stage == NotDone {
			continue
		}
		if !s.fixed && s.plan.Start+b.Late <= t {
			s.fixed, s.Start = true, s.plan.Start+b.Late
		}
		if !s.fixed {
			continue
		}
		if work := s.workDue(b.Late); !s.worked && work <= t {
			s.worked, s.WorkEnd = true, work
		}
		if end := s.endDue(); s.worked && !s.end && end <= t {
			s.end, s.End = true, end
		}
	}
}

// workDue is when the work of a step that has begun is expected to end: as long
// after its start as planned, or as late as the bench is, whichever is later.
func (s *Step) workDue(late float64) float64 {
	return max(s.Start+s.plan.WorkEnd-s.plan.Start, s.plan.WorkEnd+late)
}

func (s *Step) endDue() float64 { return s.WorkEnd + s.plan.End - s.plan.WorkEnd }

// expect sets the stages, and the times of what is still to come.
func (b *Bench) expect(now float64) {
	for i := range b.Steps {
		s := &b.Steps[i]
		if s.Stage == NotDone {
			continue
		}
		if !s.fixed {
			s.Start = max(now, s.plan.Start+b.Late)
		}
		if !s.worked {
			s.WorkEnd = max(now, s.workDue(b.Late))
		}
		if !s.end {
			s.End = s.endDue()
		}
		switch {
		case s.end:
			s.Stage = Over
		case s.worked:
			s.Stage = Waiting
		case s.fixed:
			s.Stage = Working
		default:
			s.Stage = ToCome
		}
	}
	slices.SortStableFunc(b.Steps, func(x, y Step) int { return cmp.Compare(x.Start, y.Start) })
}

// bench returns one by its id; nil where there is none.
func (s *State) bench(id string) *Bench {
	for i := range s.Benches {
		if s.Benches[i].ID == id {
			return &s.Benches[i]
		}
	}
	return nil
}

func (b *Bench) step(dish, step string) *Step {
	for i := range b.Steps {
		if s := &b.Steps[i]; s.Step == step && (dish == "" || s.Dish == dish) {
			return s
		}
	}
	return nil
}

// take lets an event happen. One that names what there is not, changes nothing.
func (s *State) take(e Event) {
	t := e.Time()
	s.Log = append(s.Log, e)
	switch e.Kind {
	case Opened:
		s.open(t)
	case Held, Skipped:
		minutes := e.Minutes
		if e.Kind == Skipped {
			minutes = -minutes
		}
		s.Shift += minutes
		for i := range s.Benches {
			s.Benches[i].settle(t)
			s.Benches[i].Late += minutes
		}
	case Checkpoint:
		s.Called++
		for i := range s.Benches {
			b := &s.Benches[i]
			b.settle(t)
			b.Known, b.Heard = true, t
			b.Late = min(b.Late, max(0, s.Shift)) // it is there, until somebody says that it is not
		}
	case Closed:
		s.Closed, s.ClosedAt = true, t
	case Sharps:
		s.Sharps = e.Number
	case UnitOut, UnitBack:
		s.unit(e, t)
	case AdultOut:
		s.Adults++
		s.adultAt = t
		if s.AdultTo = math.NaN(); e.Minutes > 0 {
			s.AdultTo = t + e.Minutes
		}
	case AdultBack:
		s.Adults = max(0, s.Adults-1)
	case Replanned:
		s.change(e.Changes)
		s.follow(e.Plan, t)
	default:
		if b := s.bench(e.Bench); b != nil {
			s.atBench(b, e, t)
		}
	}
}

// open begins the lesson: as late as the class came, everything is later.
func (s *State) open(t float64) {
	if s.Begun {
		return
	}
	s.Begun, s.Door = true, t
	for i := range s.Benches {
		s.Benches[i].Late = max(0, t)
	}
	s.Shift = max(0, t)
}

func (s *State) unit(e Event, t float64) {
	u := fit.UnitPlan{Equipment: e.Equipment, Unit: e.Unit}
	at := slices.Index(s.Out, u)
	switch {
	case e.Kind == UnitOut && at < 0:
		s.Out = append(s.Out, u)
		s.outAt[u] = t
	case e.Kind == UnitBack && at >= 0:
		s.Out = slices.Delete(s.Out, at, at+1)
	}
}

// follow goes on by another plan: what has begun stays as it was, and what the plan
// no longer has is left out.
func (s *State) follow(p *fit.Plan, t float64) {
	if p == nil {
		return
	}
	s.Plan, s.Shift = p, 0
	for i := range s.Benches {
		b := &s.Benches[i]
		b.settle(t)
		b.Late = 0
		for _, g := range p.Groups {
			if g.ID == b.ID {
				b.follow(g)
			}
		}
	}
}

func (b *Bench) follow(g fit.GroupPlan) {
	for i := range b.Steps {
		own := &b.Steps[i]
		at := slices.IndexFunc(g.Steps, func(sp fit.StepPlan) bool { return sp.Dish == own.Dish && sp.Step == own.Step })
		switch {
		case at < 0 && !own.fixed:
			own.Stage = NotDone
		case at >= 0:
			own.plan = g.Steps[at]
			if !own.fixed {
				own.Unit = unitOf(own.plan)
			}
		}
	}
}

// atBench lets an event happen that is about one bench.
func (s *State) atBench(b *Bench, e Event, t float64) {
	b.settle(t)
	switch e.Kind {
	case Begun, Worked, Ended, LeftOut:
		b.Heard = t
		if step := b.step(e.Dish, e.Step); step != nil {
			b.moved(step, e, t)
		}
	case Behind:
		b.Known, b.Heard = true, t
		b.late(e.Minutes, t)
	case CaughtUp:
		b.Known, b.Heard, b.Late = true, t, 0
	case Help:
		b.Heard = t
		s.Helps = append(s.Helps, Request{b.ID, t, e.Says, e.ID})
	case Helped:
		s.Helps = slices.DeleteFunc(s.Helps, func(r Request) bool { return r.Bench == b.ID })
	case Check:
		b.Heard = t
		s.Checks = append(s.Checks, Request{b.ID, t, e.Says, e.ID})
	case Checked:
		s.Checks = slices.DeleteFunc(s.Checks, func(r Request) bool { return r.Bench == b.ID })
	case Gone:
		if b.Gone++; b.Gone >= s.cooks(b.ID) {
			b.leave()
		}
	}
}

// cooks is how many learners a bench began with.
func (s *State) cooks(bench string) int {
	for _, g := range s.Lesson.Groups {
		if g.ID == bench {
			return g.Cooks
		}
	}
	return 0
}

// leave leaves out what a bench has not begun: nobody is there any more.
func (b *Bench) leave() {
	for i := range b.Steps {
		if s := &b.Steps[i]; !s.fixed {
			s.Stage = NotDone
		}
	}
}

// late says by how many minutes a bench is late: what it was assumed to have ended
// within them, it has not.
func (b *Bench) late(minutes, t float64) {
	for i := range b.Steps {
		s := &b.Steps[i]
		if s.KnownEnd || s.Stage == NotDone {
			continue
		}
		start, work, end := s.plan.Start+minutes, s.plan.WorkEnd+minutes, s.plan.End+minutes
		if s.fixed && !s.KnownStart && start > t {
			s.fixed = false
		}
		if s.worked && work > t {
			s.worked = false
		}
		if s.end && end > t {
			s.end = false
		}
	}
	b.Late = minutes
}

// moved notes what a bench has said of a step, and is as late or early from then on
// as it was with it.
func (b *Bench) moved(s *Step, e Event, t float64) {
	b.Known = true
	start := func() {
		if !s.fixed {
			s.fixed, s.Start = true, t
		}
		s.Start = min(s.Start, t)
	}
	switch e.Kind {
	case LeftOut:
		s.Stage = NotDone
		return
	case Begun:
		s.fixed, s.Start, s.KnownStart, s.worked, s.end = true, t, true, false, false
		b.Late = t - s.plan.Start
	case Worked:
		start()
		s.worked, s.WorkEnd, s.end = true, t, false
		b.Late = t - s.plan.WorkEnd
	case Ended:
		start()
		if !s.worked {
			s.worked, s.WorkEnd = true, max(s.Start, min(t, s.WorkEnd))
		}
		s.WorkEnd = min(s.WorkEnd, t)
		s.end, s.End, s.KnownEnd = true, t, true
		b.Late = t - s.plan.End
	}
	if e.Unit != "" {
		s.Unit = e.Unit
	}
	after := s.plan.WorkEnd
	if e.Kind == Ended {
		after = s.plan.End
	}
	b.notBefore(after, t)
}

// notBefore takes back that steps which are planned from a minute on were assumed to
// have begun before a moment, at which what comes before them was still to end.
func (b *Bench) notBefore(planned, t float64) {
	for i := range b.Steps {
		s := &b.Steps[i]
		if s.Stage != NotDone && s.fixed && !s.KnownStart && !s.KnownEnd && s.plan.Start >= planned && s.Start < t {
			s.fixed, s.worked, s.end = false, false, false
		}
	}
}
