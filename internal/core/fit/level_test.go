package fit_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"freshapron/internal/core/fit"
	"freshapron/internal/core/fit/verify"
)

// Steps aside lead from plan to plan, each valid, none of which ends later than the one
// before, nor has groups that end much later in all.
func TestStepsAside(t *testing.T) {
	l := hard(4, tuned[0])
	sum := func(p *fit.Plan) (all float64) {
		for _, g := range p.Groups {
			all += g.Finish
		}
		return all
	}
	first, on := fit.Aside(l, 60)
	require.NotEmpty(t, on)
	finish, least := first.Finish, sum(first)
	aside := 0
	for _, p := range on {
		require.Empty(t, verify.Plan(l, p))
		assert.LessOrEqual(t, p.Finish, finish)
		if p.Finish < finish {
			least = sum(p)
		}
		assert.Less(t, sum(p), 1.01*least)
		if sum(p) > least {
			aside++
		}
		finish, least = p.Finish, min(least, sum(p))
	}
	assert.Positive(t, aside, "some are no better in anything")
}
