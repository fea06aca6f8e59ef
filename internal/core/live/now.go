package live

import (
	"cmp"
	"fmt"
	"math"
	"slices"

	"freshapron/internal/core/exact"
	"freshapron/internal/core/fit"
	"freshapron/internal/core/problem"
)

// seconds makes minutes exact, to the second: none before the period, where the
// planner's time begins.
func seconds(minutes float64) exact.Number {
	return exact.Frac(int64(math.Round(max(0, minutes)*60)), 60)
}

// UnderWay returns the lesson as the planner takes it from here on: what has
// happened, known or assumed, and what is out of use.
func (s *State) UnderWay() fit.Lesson { return s.underWay(true) }

// underWay leaves out of it what is only assumed to be under way, where that is
// asked for.
func (s *State) underWay(assumed bool) fit.Lesson {
	l := s.Lesson
	now := seconds(s.Now)
	l.Now, l.Progress = &now, nil
	l.Phases = slices.Clone(l.Phases)
	if first := slices.IndexFunc(l.Phases, func(p fit.Phase) bool { return p.Place == fit.AtStart }); first >= 0 && s.Shift > 0 {
		l.Phases[first].Minutes = l.Phases[first].Minutes.Add(seconds(s.Shift))
	}
	l.Out = slices.Clone(l.Out)
	for _, u := range s.Out {
		l.Out = append(l.Out, fit.Outage{Equipment: u.Equipment, Unit: u.Unit, From: seconds(s.outAt[u]), Usable: false})
	}
	if s.Adults > 0 && l.Adults > 0 {
		to := l.Minutes()
		if !math.IsNaN(s.AdultTo) && s.AdultTo > s.Now {
			to = seconds(min(s.AdultTo, to.Float()))
		}
		if (math.IsNaN(s.AdultTo) || s.AdultTo > s.Now) && now.Less(to) {
			l.Away = append(slices.Clone(l.Away), fit.Away{Adults: min(s.Adults, l.Adults), From: now, Minutes: to.Sub(now)})
		}
	}
	l.Groups = slices.Clone(l.Groups)
	for _, b := range s.Benches {
		for i := range l.Groups {
			if g := &l.Groups[i]; g.ID == b.ID {
				g.Cooks = max(g.Cooks-b.Gone, needed(l, b))
			}
		}
		for _, st := range b.Steps {
			if _, there := l.Step(st.Dish, st.Step); !there {
				continue // it has been taken out of the lesson
			}
			if p, ok := progress(b.ID, st, assumed); ok {
				l.Progress = append(l.Progress, p)
			}
		}
	}
	return l
}

// needed is how many cooks a bench must be planned with: for what goes on there, and
// for the steps that one alone can't do.
func needed(l fit.Lesson, b Bench) int {
	most := 1
	for _, st := range b.Steps {
		if step, ok := l.Step(st.Dish, st.Step); ok && st.Stage == ToCome {
			most = max(most, step.Cooks)
		}
		if st.Stage == Working || st.Stage == Waiting {
			most = max(most, st.plan.Cooks)
			for _, h := range st.plan.Hands {
				most = max(most, h)
			}
		}
	}
	return most
}

func progress(bench string, s Step, assumed bool) (fit.Progress, bool) {
	p := fit.Progress{Group: bench, Dish: s.Dish, Step: s.Step}
	switch s.Stage {
	case ToCome:
		return p, false
	case NotDone:
		p.Skipped = true
		return p, true
	}
	p.Start = seconds(s.Start)
	if s.Stage == Over {
		// What is over holds nobody any more, and when its work was over may be a guess.
		end, free := seconds(max(s.End, s.Start)), p.Start
		p.WorkEnd, p.End = &free, &end
		return p, true
	}
	if !s.KnownStart && !assumed {
		return p, false
	}
	if s.Stage == Waiting && s.WorkEnd > s.Start {
		work := seconds(s.WorkEnd)
		p.WorkEnd = &work
	}
	if s.plan.Cooks > 0 {
		cooks := s.plan.Cooks
		p.Cooks, p.Hands = &cooks, s.plan.Hands
	}
	p.Units = slices.Clone(s.plan.Units)
	return p, true
}

// Replan plans the rest of the lesson anew from here, and returns the lesson that it
// has planned. Where what is said and assumed can't be together, as two trays in one
// place, what is only assumed to go on gives way, and then what was said: it is planned
// as still to come.
func (s *State) Replan(opt fit.Options) (fit.Lesson, *fit.Plan, error) {
	l := s.UnderWay()
	if l.Check() != nil {
		l = s.underWay(false)
	}
	for {
		at, ok := contradicts(l)
		if !ok {
			break
		}
		l.Progress = slices.Delete(l.Progress, at, at+1)
	}
	p, err := fit.Solve(l, opt)
	return l, p, err
}

// contradicts returns which entry of what has happened can't have been beside others.
func contradicts(l fit.Lesson) (at int, ok bool) {
	for _, p := range problem.Of(l.Check()) {
		if _, err := fmt.Sscanf(p.Path, "progress[%d]", &at); err == nil {
			return at, true
		}
	}
	return 0, false
}

// A Moved is what another plan would change for a bench.
type Moved struct {
	Bench, Name string
	Step        Step
	Start       float64
	Unit        string // where it changes; empty otherwise
}

// worthSaying is by how many minutes a step has to move for it to be said.
const worthSaying = 1.5

// Compare returns what a plan changes of what benches do next: for each bench the
// first step that begins otherwise or elsewhere, the most first.
func (s *State) Compare(p *fit.Plan) []Moved {
	var out []Moved
	for _, b := range s.Benches {
		for _, g := range p.Groups {
			if g.ID != b.ID {
				continue
			}
			if m, ok := moved(b, g); ok {
				out = append(out, m)
			}
		}
	}
	slices.SortStableFunc(out, func(a, b Moved) int {
		return cmp.Compare(math.Abs(b.Start-b.Step.Start), math.Abs(a.Start-a.Step.Start))
	})
	return out
}

func moved(b Bench, g fit.GroupPlan) (Moved, bool) {
	for _, st := range b.Steps {
		if st.Stage != ToCome {
			continue
		}
		for _, sp := range g.Steps {
			if sp.Dish != st.Dish || sp.Step != st.Step {
				continue
			}
			m := Moved{Bench: b.ID, Name: b.Name, Step: st, Start: sp.Start}
			if u := unitOf(sp); u != st.Unit && u != "" {
				m.Unit = u
			}
			if math.Abs(sp.Start-st.Start) >= worthSaying || m.Unit != "" {
				return m, true
			}
		}
	}
	return Moved{}, false
}

// Next returns what a bench does now, and what comes after.
func (b Bench) Next() (now, next []Step) {
	for _, s := range b.Steps {
		switch s.Stage {
		case Working, Waiting:
			now = append(now, s)
		case ToCome:
			next = append(next, s)
		}
	}
	return now, next
}

// Finish is when a bench is expected to have ended everything.
func (b Bench) Finish() float64 {
	finish := 0.0
	for _, s := range b.Steps {
		if s.Stage != NotDone {
			finish = max(finish, s.End)
		}
	}
	return finish
}

// Deadline is when all work has to have ended.
func (s *State) Deadline() float64 { return s.Plan.Deadline }

// Left is how many minutes are left after everything that is expected; negative
// where they are missing.
func (s *State) Left() float64 {
	finish := 0.0
	for _, b := range s.Benches {
		finish = max(finish, b.Finish())
	}
	return s.Deadline() - finish
}

// A Timer is a wait that goes on.
type Timer struct {
	Bench, Name string
	Step        Step
	Until       float64
	Over        bool // it has run out and nobody has said that it is done
}

// timerStays is for how many minutes a timer that has run out is still shown.
const timerStays = 5

// Timers returns the waits that go on, those that end first before the others; none
// when the lesson is closed.
func (s *State) Timers() []Timer {
	var out []Timer
	if s.Closed {
		return nil
	}
	for _, b := range s.Benches {
		for _, st := range b.Steps {
			waits := st.plan.End > st.plan.WorkEnd
			switch {
			case st.Stage == Waiting && waits:
				out = append(out, Timer{b.ID, b.Name, st, st.End, false})
			case st.Stage == Over && waits && !st.KnownEnd && s.Now-st.End <= timerStays:
				out = append(out, Timer{b.ID, b.Name, st, st.End, true})
			}
		}
	}
	slices.SortStableFunc(out, func(a, b Timer) int { return cmp.Compare(a.Until, b.Until) })
	return out
}

// Phase returns the block that the class is in, as it is held and skipped, and when
// it ends; an empty name where benches work.
func (s *State) Phase() (name string, until float64) {
	bell := s.Lesson.Minutes().Float()
	for _, sp := range s.Lesson.Spans() {
		from, to := sp.From, sp.To
		if sp.Place == fit.AtStart {
			if sp.From > 0 {
				from += s.Shift
			} else {
				from += s.Door
			}
			to += s.Shift
		}
		if from <= s.Now && s.Now < min(to, bell) {
			return sp.Name, to
		}
	}
	return "", s.Deadline()
}

// around is for how many minutes before and after the period something is still said.
const around = 240

// mostSharps is more than any room has.
const mostSharps = 2000

// Check returns why an event can't be of this lesson, or nil.
func (s *State) Check(e Event) error {
	bell := s.Lesson.Minutes().Float()
	b := s.bench(e.Bench)
	switch {
	case !slices.Contains(Kinds, e.Kind):
		return fmt.Errorf("“%s” is nothing that happens in a lesson", e.Kind)
	case e.At < -around || e.At > bell+around:
		return fmt.Errorf("it was said %.0f minutes from the beginning of the lesson, which lasts %.0f", e.At, bell)
	case s.Closed && e.Kind != Note && e.Kind != Undone && e.Kind != Sharps && e.Kind != Picture:
		return fmt.Errorf("the lesson is over")
	case slices.Contains([]Kind{Begun, Worked, Ended, LeftOut, Behind, CaughtUp, Help, Helped, Check, Checked, Gone, Picture, Measured}, e.Kind) && b == nil:
		return fmt.Errorf("the lesson has no bench “%s”", e.Bench)
	case slices.Contains([]Kind{Begun, Worked, Ended, LeftOut, Picture}, e.Kind) && b.step(e.Dish, e.Step) == nil:
		return fmt.Errorf("%s does not make a step “%s”", b.Name, e.Step)
	case !(e.Minutes >= 0 && e.Minutes <= around):
		return fmt.Errorf("%.0f minutes can't be", e.Minutes)
	case e.Number < 0 || e.Number > mostSharps:
		return fmt.Errorf("%d sharp things can't be", e.Number)
	case e.Kind == Temperature && !(e.Celsius > -60 && e.Celsius < 350):
		return fmt.Errorf("%.0f °C can't be", e.Celsius)
	case e.Kind == UnitOut && !slices.ContainsFunc(s.Lesson.Equipment, func(q fit.Equipment) bool {
		return q.ID == e.Equipment && slices.ContainsFunc(q.Units, func(u fit.Unit) bool { return u.Name == e.Unit })
	}):
		return fmt.Errorf("the room has no “%s”", e.Unit)
	case e.Kind == Replanned:
		return s.checkPlan(e.Plan)
	}
	return nil
}

// checkPlan returns why a plan can't be followed in this lesson.
func (s *State) checkPlan(p *fit.Plan) error {
	if p == nil {
		return fmt.Errorf("there is no plan to follow")
	}
	for _, g := range p.Groups {
		b := s.bench(g.ID)
		if b == nil {
			return fmt.Errorf("the plan has a bench “%s”, the lesson has not", g.ID)
		}
		for _, st := range g.Steps {
			if b.step(st.Dish, st.Step) == nil {
				return fmt.Errorf("the plan lets %s make “%s”, the lesson does not", b.Name, st.Step)
			}
		}
	}
	return nil
}

// leastWork is the planned work, in minutes, from which what a step took says something
// of the pace, and leastReal what it took at least: a bench that presses twice in a row
// has forgotten the first.
const leastWork, leastReal = 2, 0.5

// Pace returns how fast the class works by the steps of which benches have said that
// they ended, waits left out.
func (s *State) Pace() fit.Pace {
	var records []fit.Record
	for _, b := range s.Benches {
		for _, st := range b.Steps {
			p := st.Planned
			if st.Stage == Over && st.KnownEnd && p.End == p.WorkEnd && p.WorkEnd-p.Start >= leastWork && st.End-st.Start >= leastReal {
				records = append(records, fit.Record{Planned: p.WorkEnd - p.Start, Real: st.End - st.Start})
			}
		}
	}
	return fit.Calibrate(records)
}
