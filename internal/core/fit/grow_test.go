package fit_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"freshapron/internal/core/fit"
	"freshapron/internal/core/fit/verify"
)

// A lesson that grew from a few groups has all of them, validly; small lessons, and those
// without greatest gaps, do not grow.
func TestGrowing(t *testing.T) {
	for kind, grows := range map[int]bool{4: true, 3: false, 11: false} {
		l := hard(kind, tuned[1])
		p := fit.Grown(l)
		if !grows {
			assert.Nil(t, p, l.Title)
			continue
		}
		require.NotNil(t, p, l.Title)
		assert.Len(t, p.Groups, len(l.Groups))
		assert.Empty(t, verify.Plan(l, p))
		assert.Less(t, p.Finish, 1.5*bestKnown(t)[l.Title])
	}
}

// What brings nothing is done ever more rarely, at most every sixteen rounds, and as often
// as before once it brings something.
func TestRarely(t *testing.T) {
	never := func(int) bool { return false }
	assert.Equal(t, []int{0, 1, 3, 7, 15, 31, 47}, fit.Rounds(1, 60, never))
	assert.Equal(t, []int{0, 4, 12, 28, 44}, fit.Rounds(4, 60, never))
	assert.Equal(t, []int{0, 1, 3, 4, 6, 10}, fit.Rounds(1, 12, func(round int) bool { return round == 3 }))
}
