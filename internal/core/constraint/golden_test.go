package constraint_test

import (
	"fmt"
	"strings"
	"testing"

	"pgregory.net/rapid"

	"freshapron/internal/core/constraint"
	"freshapron/internal/golden"
)

// The same questions are answered in the same way: with the same numbers, and
// after as many conflicts as are allowed or fewer.
func TestTheSameAnswers(t *testing.T) {
	var b strings.Builder
	riddles := rapid.Custom(randomRiddle)
	for n := range 150 {
		r := riddles.Example(n)
		for _, conflicts := range []int{0, 1, 3, 10_000} {
			s := r.solver()
			for v := range r.vars {
				s.Prefer(constraint.Var(v), (v*n)%(r.most+1))
			}
			fmt.Fprintf(&b, "%d in %d: %v", n, conflicts, s.Solve(nil, conflicts, 1<<50))
			for v := range r.vars {
				fmt.Fprintf(&b, " %d(%d)", s.Value(constraint.Var(v)), s.Min(constraint.Var(v)))
			}
			fmt.Fprintf(&b, " %t; in few ticks", s.Impossible())
			s = r.solver()
			fmt.Fprintf(&b, " %v\n", s.Solve([]constraint.Lit{constraint.AtMost(0, r.most/2)}, conflicts, 1000*(n+1)))
		}
	}
	for n := 150; n < 650; n += 50 { // many more, fifty in a sum
		var more strings.Builder
		for k := range 50 {
			r := riddles.Example(n + k)
			for _, conflicts := range []int{2, 10_000} {
				s := r.solver()
				fmt.Fprint(&more, s.Solve(nil, conflicts, 1<<50), s.Ticks)
				for v := range r.vars {
					fmt.Fprint(&more, s.Value(constraint.Var(v)), s.Min(constraint.Var(v)))
				}
			}
		}
		b.WriteString(golden.All(more.String()))
	}
	golden.Same(t, "answers.golden", b.String())
}
