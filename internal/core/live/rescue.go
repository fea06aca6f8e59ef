package live

import (
	"fmt"
	"slices"

	"freshapron/internal/core/fit"
	"freshapron/internal/core/rescue"
)

// Rescues returns what would still help from here, those that bring most benches home
// first: each planned and simulated from the state as it is. What has begun anywhere
// is not changed, save that benches which have not begun a step can leave it out.
func (s *State) Rescues(opt fit.Options) ([]rescue.Rescue, error) {
	l, p, err := s.Replan(opt)
	if err != nil {
		return nil, err
	}
	out := rescue.Try(rescue.Trial{Lesson: l, Plan: p, Ways: s.ways(l, p), Options: opt, Build: func(changes ...rescue.Change) (fit.Lesson, error) {
		return s.changed(l, changes)
	}})
	return out.Rescues, nil
}

// ways are those of a plan that are still possible, and to stop where the dish keeps.
func (s *State) ways(l fit.Lesson, p *fit.Plan) []rescue.Way {
	ahead := l
	ahead.Now, ahead.Progress = nil, nil
	var out []rescue.Way
	for _, w := range rescue.Ways(ahead, p) {
		c := w.Changes[0]
		if c.Kind == rescue.TwoLessons {
			w.Changes = s.after(l, c)
			w.Title = "Stop after “" + titleOf(l, c) + "” and go on in the next lesson"
		}
		if len(w.Changes) > 0 && s.possible(l, w.Changes[0]) {
			out = append(out, w)
		}
	}
	return out
}

// after leaves out all that comes after a step at which a dish keeps; nothing where
// some of it has begun, since that would not keep.
func (s *State) after(l fit.Lesson, c rescue.Change) []rescue.Change {
	var out []rescue.Change
	for _, d := range l.Dishes {
		if d.ID != c.Dish && d.Of != c.Dish {
			continue
		}
		first := rescue.Earlier(d, c.Step)
		for _, st := range d.Steps {
			if first(st.ID) || st.Kind == fit.Clean {
				continue
			}
			if s.begun(d.ID, st.ID) {
				return nil
			}
			out = append(out, rescue.Change{Kind: rescue.LeaveOut, Dish: d.ID, Step: st.ID})
		}
	}
	return out
}

// possible reports whether a change can still be made.
func (s *State) possible(l fit.Lesson, c rescue.Change) bool {
	switch c.Kind {
	case rescue.LeaveOut:
		return true
	case rescue.Share, rescue.FewerLoads, rescue.FinishAfter:
		return !s.begun(c.Dish, c.Step)
	case rescue.Smaller: // before what goes into the oven has been shaped
		step, ok := l.Step(c.Dish, c.Step)
		return ok && !s.begun(c.Dish, c.Step) && !slices.ContainsFunc(step.After, func(a fit.After) bool { return s.begun(c.Dish, a.Step) })
	}
	return false
}

// begun reports whether a bench has begun a step.
func (s *State) begun(dish, step string) bool {
	for i := range s.Benches {
		for _, st := range s.Benches[i].Steps {
			if st.Dish == dish && st.Step == step && st.Stage != ToCome {
				return true
			}
		}
	}
	return false
}

func titleOf(l fit.Lesson, c rescue.Change) string {
	if st, ok := l.Step(c.Dish, c.Step); ok {
		return st.Label()
	}
	return c.Step
}

// changed returns the lesson under way with changes. A step is left out by the
// benches that have not begun it.
func (s *State) changed(l fit.Lesson, changes []rescue.Change) (fit.Lesson, error) {
	l.Progress = slices.Clone(l.Progress)
	left := 0
	for _, c := range changes {
		if c.Kind != rescue.LeaveOut {
			var err error
			if l, err = rescue.Apply(l, c); err != nil {
				return l, err
			}
			continue
		}
		for _, b := range s.Benches {
			for _, st := range b.Steps {
				if st.Dish == c.Dish && st.Step == c.Step && st.Stage == ToCome {
					left++
					l.Progress = append(l.Progress, fit.Progress{Group: b.ID, Dish: st.Dish, Step: st.Step, Skipped: true})
				}
			}
		}
		if left == 0 {
			return l, fmt.Errorf("every bench has begun “%s”", titleOf(l, c))
		}
	}
	return l, nil
}

// change takes over what a plan that is followed changes of the lesson.
func (s *State) change(changes []rescue.Change) {
	for _, c := range changes {
		if c.Kind == rescue.LeaveOut {
			continue // which its plan shows
		}
		if l, err := rescue.Apply(s.Lesson, c); err == nil {
			s.Lesson = l
		}
	}
}
