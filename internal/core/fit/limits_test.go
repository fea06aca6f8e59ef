package fit_test

import (
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"

	"freshapron/internal/core/fit"
	"freshapron/internal/golden"
)

// Between which limits each figure of a lesson has to lie, one that is under way too, and
// what is said beyond them.
func TestWhatALessonCanBe(t *testing.T) {
	var b strings.Builder
	for _, n := range []int{3, 9} {
		l := anyLesson.Example(n)
		p, err := fit.Solve(l, fit.Options{Budget: 4, Runs: 40})
		require.NoError(t, err)
		l = underWay(l, p).Example(n)
		fmt.Fprintf(&b, "= any %d\n%s", n, golden.Limits(&l, func() error { return l.Check() }))
	}
	golden.Same(t, "limits.golden", b.String())
}
