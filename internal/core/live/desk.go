package live

import (
	"cmp"
	"slices"

	"freshapron/internal/core/fit"
)

// A Waiter is a bench that waits for somebody, and the kind of event that ends it.
type Waiter struct {
	Request
	Kind Kind // Helped or Checked
}

// Queue returns the benches that wait, those that wait longest first; none when the
// lesson is closed.
func (s *State) Queue() []Waiter {
	var out []Waiter
	if s.Closed {
		return nil
	}
	for _, q := range s.Helps {
		out = append(out, Waiter{q, Helped})
	}
	for _, q := range s.Checks {
		out = append(out, Waiter{q, Checked})
	}
	slices.SortStableFunc(out, func(a, b Waiter) int { return cmp.Compare(a.Since, b.Since) })
	return out
}

// A Rest is what a bench had not done.
type Rest struct {
	Name  string
	Steps []Step // begun and not ended, or to come
	All   bool   // nothing was done
}

// StillOpen returns, for each bench that has not done everything, what it has not.
func (s *State) StillOpen() []Rest {
	var out []Rest
	for _, b := range s.Benches {
		open := slices.DeleteFunc(slices.Clone(b.Steps), func(st Step) bool { return st.Stage == Over || st.Stage == NotDone })
		if len(open) > 0 {
			out = append(out, Rest{b.Name, open, len(open) == len(b.Steps)})
		}
	}
	return out
}

// Points returns the checkpoints of the plan that is followed, later by as much as
// phases have been held and skipped.
func (s *State) Points() []fit.Checkpoint {
	out := fit.Checkpoints(s.Lesson, s.Plan)
	for i := range out {
		out[i].At += s.Shift
	}
	return out
}

// Point returns the next checkpoint, nil after the last, and what everybody should
// have done by now.
func (s *State) Point() (next *fit.Checkpoint, should []fit.Milestone) {
	for _, c := range s.Points() {
		if c.At > s.Now {
			return &c, should
		}
		should = c.Done
	}
	return nil, should
}

// worthGaining is how many minutes another plan has to gain for it to be offered where
// none are missing.
const worthGaining = 1

// Better reports whether another plan is worth a word: somebody would do something
// otherwise, and it gains time, or time is missing, or something is out of use.
func (s *State) Better(p *fit.Plan) bool {
	gains := p.Deadline-p.Finish-s.Left() >= worthGaining
	return len(s.Compare(p)) > 0 && (gains || s.Left() < 0 || len(s.Out) > 0)
}

// A Took is what a step took over the benches that have ended it, waits included.
type Took struct {
	Dish, Step, Title string
	Planned, Real     float64 // minutes on the average
	Known, Assumed    int     // benches of which somebody has said that it ended, and others
}

// Took returns what steps took, in the order in which the first bench began them.
func (s *State) Took() []Took {
	var out []Took
	for _, b := range s.Benches {
		for _, st := range b.Steps {
			if st.Stage != Over {
				continue
			}
			at := slices.IndexFunc(out, func(t Took) bool { return t.Dish == st.Dish && t.Step == st.Step })
			if at < 0 {
				at = len(out)
				out = append(out, Took{Dish: st.Dish, Step: st.Step, Title: st.Title})
			}
			t := &out[at]
			if st.KnownEnd {
				t.Known++
			} else {
				t.Assumed++
			}
			n := float64(t.Known + t.Assumed)
			t.Planned += (st.Planned.End - st.Planned.Start - t.Planned) / n
			t.Real += (st.End - st.Start - t.Real) / n
		}
	}
	return out
}

// Sizes returns what was measured, of whatever bench, the last first.
func (s *State) Sizes() []string {
	var out []string
	for _, e := range slices.Backward(s.Log) {
		if e.Kind == Measured {
			out = append(out, e.Says)
		}
	}
	return out
}

// Pictures returns the events with which pictures came, of one bench or of all (""),
// the last first.
func (s *State) Pictures(bench string) []Event {
	var out []Event
	for _, e := range slices.Backward(s.Log) {
		if e.Kind == Picture && (bench == "" || e.Bench == bench) {
			out = append(out, e)
		}
	}
	return out
}
