package constraint_test

import (
	"testing"

	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"freshapron/internal/core/constraint"
)

// A riddle is a few numbers and rules, small enough to try everything.
type riddle struct {
	most    int
	vars    int
	clauses [][]bit
	arcs    []arc
	acts    [][]act
	room    []int
}

type bit struct {
	v, k int
	most bool
}

func (b bit) lit() constraint.Lit {
	if b.most {
		return constraint.AtMost(constraint.Var(b.v), b.k)
	}
	return constraint.AtLeast(constraint.Var(b.v), b.k)
}

func (b bit) holds(x []int) bool {
	if b.most {
		return x[b.v] <= b.k
	}
	return x[b.v] >= b.k
}

type arc struct {
	x, d, y int
	when    *bit
}

type act struct {
	start, end, length, amount int // end is the number at which it ends, or −1 for start and length
	when                       *bit
}

func randomRiddle(t *rapid.T) riddle {
	r := riddle{most: rapid.IntRange(2, 6).Draw(t, "most"), vars: rapid.IntRange(2, 5).Draw(t, "vars")}
	some := func(n int, label string) int { return rapid.IntRange(0, n-1).Draw(t, label) }
	literal := func() bit { return bit{some(r.vars, "v"), some(r.most+1, "k"), rapid.Bool().Draw(t, "most")} }
	maybe := func() *bit {
		if some(2, "when") == 0 {
			return nil
		}
		b := literal()
		return &b
	}
	for range some(5, "clauses") {
		var c []bit
		for range 1 + some(3, "lits") {
			c = append(c, literal())
		}
		r.clauses = append(r.clauses, c)
	}
	for range some(6, "arcs") {
		x, y := some(r.vars, "x"), some(r.vars, "y")
		if x != y {
			r.arcs = append(r.arcs, arc{x, some(2*r.most, "d") - r.most, y, maybe()})
		}
	}
	for range some(3, "resources") {
		var acts []act
		for range 1 + some(4, "acts") {
			a := act{some(r.vars, "start"), -1, 1 + some(4, "length"), 1 + some(2, "amount"), maybe()}
			if end := some(r.vars, "end"); end != a.start && some(3, "own end") == 0 {
				a.end = end
				r.arcs = append(r.arcs, arc{a.start, a.length, end, nil})
			}
			acts = append(acts, a)
		}
		r.acts = append(r.acts, acts)
		r.room = append(r.room, 1+some(3, "room"))
	}
	return r
}

func (r riddle) holds(x []int) bool {
	for _, c := range r.clauses {
		any := false
		for _, b := range c {
			any = any || b.holds(x)
		}
		if !any {
			return false
		}
	}
	for _, a := range r.arcs {
		if (a.when == nil || a.when.holds(x)) && x[a.y] < x[a.x]+a.d {
			return false
		}
	}
	for i, acts := range r.acts {
		for at := range 3 * r.most {
			used := 0
			for _, a := range acts {
				end := x[a.start] + a.length
				if a.end >= 0 {
					end = x[a.end]
				}
				if (a.when == nil || a.when.holds(x)) && x[a.start] <= at && at < end {
					used += a.amount
				}
			}
			if used > r.room[i] {
				return false
			}
		}
	}
	return true
}

func (r riddle) solver() *constraint.Solver {
	s := constraint.New()
	for range r.vars {
		s.Var(0, r.most)
	}
	when := func(b *bit) constraint.Lit {
		if b == nil {
			return constraint.Always
		}
		return b.lit()
	}
	for _, c := range r.clauses {
		lits := make([]constraint.Lit, len(c))
		for i, b := range c {
			lits[i] = b.lit()
		}
		s.Clause(lits...)
	}
	for _, a := range r.arcs {
		s.Arc(constraint.Var(a.x), a.d, constraint.Var(a.y), when(a.when))
	}
	for i, acts := range r.acts {
		var list []constraint.Activity
		for _, a := range acts {
			c := constraint.Activity{Start: constraint.Moment{Var: constraint.Var(a.start)}, End: constraint.Moment{Var: constraint.Var(a.start), Offset: a.length},
				Length: a.length, Amount: a.amount, When: when(a.when)}
			if a.end >= 0 {
				c.End = constraint.Moment{Var: constraint.Var(a.end)}
			}
			list = append(list, c)
		}
		s.Resource(r.room[i], list)
	}
	return s
}

// possible tries everything.
func (r riddle) possible(assumed []bit) bool {
	x := make([]int, r.vars)
	for {
		all := r.holds(x)
		for _, b := range assumed {
			all = all && b.holds(x)
		}
		if all {
			return true
		}
		i := 0
		for ; i < r.vars && x[i] == r.most; i++ {
			x[i] = 0
		}
		if i == r.vars {
			return false
		}
		x[i]++
	}
}

// What the solver finds keeps all rules, and what it refutes nothing keeps:
// with assumptions, and again after rules have been added.
func TestTheSolverIsRight(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		r := randomRiddle(t)
		s := r.solver()
		for range 4 {
			var assumed []bit
			var lits []constraint.Lit
			for range rapid.IntRange(0, 2).Draw(t, "assumed") {
				b := bit{rapid.IntRange(0, r.vars-1).Draw(t, "v"), rapid.IntRange(0, r.most).Draw(t, "k"), rapid.Bool().Draw(t, "most")}
				assumed = append(assumed, b)
				lits = append(lits, b.lit())
			}
			for v := range r.vars {
				s.Prefer(constraint.Var(v), rapid.IntRange(0, r.most).Draw(t, "preferred"))
			}
			status := s.Solve(lits, 10_000, 1<<40)
			require.Equal(t, r.possible(assumed), status == constraint.Found)
			require.NotEqual(t, constraint.GivenUp, status)
			if status != constraint.Found {
				if len(assumed) == 0 {
					require.True(t, s.Impossible())
				}
				continue
			}
			x := make([]int, r.vars)
			for v := range x {
				x[v] = s.Value(constraint.Var(v))
			}
			require.True(t, r.holds(x), "%v", x)
			for _, b := range assumed {
				require.True(t, b.holds(x))
			}
			// From now on something else.
			c := []bit{{rapid.IntRange(0, r.vars-1).Draw(t, "v"), rapid.IntRange(0, r.most).Draw(t, "k"), true}, {0, x[0] + 1, false}}
			r.clauses = append(r.clauses, c)
			s.Clause(c[0].lit(), c[1].lit())
		}
	})
}
