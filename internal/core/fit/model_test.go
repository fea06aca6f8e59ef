package fit_test

import (
	"testing"

	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"freshapron/internal/core/fit"
)

// A model that ruled out a plan there is would prove what is not so: whatever
// the search has found, whether or not the lesson has begun, the model admits.
func TestTheModelAdmitsEveryPlan(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		l := anyLesson.Draw(t, "lesson")
		require.True(t, fit.Admitted(l))
		p, err := fit.Solve(l, fit.Options{Runs: 1, Budget: 1})
		require.NoError(t, err)
		require.True(t, fit.Admitted(underWay(l, p).Draw(t, "under way")))
	})
}
