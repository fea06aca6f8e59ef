package reading

import (
	"freshapron/internal/core/fit"
	"freshapron/internal/core/recipe"
)

// order lets each step follow the one before it; what is done meanwhile stands
// beside the wait that goes on, and what comes next waits for both.
func (r *reader) order(list []*draft) {
	open := []int(nil)    // what the next step follows
	beside := -1          // the step whose wait goes on while others work
	between := []int(nil) // short steps behind it: "set a timer"
	for n, d := range list {
		s := &r.Steps[n]
		switch {
		case d.meanwhile && n > 0:
			host := n - 1
			if beside >= 0 && list[n-1].passage != d.passage {
				host = beside
			} else if k := r.waiting(n); k < host {
				host, between = k, nil
				for b := k + 1; b < n; b++ {
					between = append(between, b)
				}
			}
			s.After = append([]After(nil), r.Steps[host].After...)
			for i := range s.After {
				s.After[i].MaxGap = nil
			}
			open = append([]int{host, n}, between...)
			if beside >= 0 && host == beside {
				open = []int{host, n - 1, n}
			}
			beside = host
		case beside >= 0 && n > 0 && d.passage == list[n-1].passage:
			s.After = []After{{Step: n - 1}}
			open = append([]int{beside, n}, between...)
		default:
			for _, o := range open {
				s.After = append(s.After, After{Step: o})
			}
			open, beside, between = []int{n}, -1, nil
		}
		if len(s.After) > 0 {
			last := &s.After[len(s.After)-1]
			last.MinGap, last.MaxGap = d.minGap, d.within
		}
	}
}

// waiting returns the step beside whose wait the one at a place is done: the one before
// it, or one before that where only short work stands between.
func (r *reader) waiting(n int) int {
	for k := n - 1; k >= max(0, n-3); k-- {
		switch s := r.Steps[k]; {
		case s.Wait.Most.Sign() > 0:
			return k
		case s.Kind != fit.Prepare || s.Work.From == recipe.Said:
			return n - 1
		}
	}
	return n - 1
}

// before puts steps at the head of the list and moves the places that others
// name.
func (r *reader) before(first []Step) {
	k := len(first)
	for i := range r.Steps {
		for j := range r.Steps[i].After {
			r.Steps[i].After[j].Step += k
		}
	}
	r.Steps = append(first, r.Steps...)
}

// handsOn are the kinds of step that need what is prepared.
func handsOn(k fit.Kind) bool { return k != fit.Clean && k != fit.Weigh }
