package constraint_test

import (
	"fmt"
	"math/rand/v2"
	"strings"
	"testing"

	"freshapron/internal/core/constraint"
	"freshapron/internal/golden"
)

// Made-up workshops, of which ever shorter plans are asked for: the search takes the same
// way each time, to the last entry that it looks at.
func TestTheSameSearch(t *testing.T) {
	var b strings.Builder
	for n, size := range []struct{ jobs, machines, places, conflicts int }{{4, 3, 1, 4000}, {5, 4, 2, 4000}, {6, 6, 1, 9000}, {8, 4, 3, 3000}, {9, 5, 1, 9000}, {10, 7, 1, 14000}} {
		rng := rand.New(rand.NewPCG(uint64(n), 7))
		s := constraint.New()
		end := s.Var(0, 400)
		acts := make([][]constraint.Activity, size.machines)
		for j := range size.jobs {
			before := constraint.Var(-1)
			for k, m := range rng.Perm(size.machines) {
				length := 1 + rng.IntN(9)
				start, stop := s.Var(0, 400), s.Var(0, 400)
				s.Arc(start, length, stop, constraint.Always)
				s.Arc(stop, -length-rng.IntN(3), start, constraint.Always)
				s.Arc(stop, 0, end, constraint.Always)
				if before >= 0 {
					s.Arc(before, rng.IntN(2), start, constraint.Always)
				}
				a := constraint.Activity{Start: constraint.Moment{Var: start}, End: constraint.Moment{Var: stop}, Length: length, Amount: 1 + rng.IntN(size.places), When: constraint.Always}
				if (j+k)%4 == 0 && m+1 < size.machines { // it may be at the next one as well
					here := s.Var(0, 1)
					a.When = constraint.Is(here)
					next := a
					next.When = constraint.IsNot(here)
					acts[m+1] = append(acts[m+1], next)
				}
				acts[m] = append(acts[m], a)
				before = stop
			}
		}
		for _, a := range acts {
			s.Resource(size.places, a)
		}
		for range 40 {
			status := s.Solve(nil, size.conflicts, 500_000_000)
			fmt.Fprintf(&b, "%v %d from %d, %d ticks\n", status, s.Value(end), s.Min(end), s.Ticks)
			if status != constraint.Found {
				break
			}
			for v := range end {
				s.Prefer(v, s.Value(v))
			}
			s.Clause(constraint.AtMost(end, s.Value(end)-1))
		}
	}
	golden.Same(t, "searches.golden", b.String())
}
