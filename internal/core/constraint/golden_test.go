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
	golden.Same(t, "answers.golden", b.String())
}
