package live_test

import (
	"fmt"
	"testing"

	"github.com/stretchr/testify/assert"

	"freshapron/internal/core/live"
)

// Everybody has a turn before anybody has the next, and not in the order of the list.
func TestEverybodyHasATurn(t *testing.T) {
	learners := []int64{3, 5, 8, 13, 21, 34, 55}
	asked := map[int64]int{}
	var order []int64
	for i := range 5 * len(learners) {
		id, ok := live.Pick(learners, asked, 0, fmt.Sprint("lesson 4, ", i))
		assert.True(t, ok)
		asked[id]++
		order = append(order, id)
		for _, l := range learners {
			assert.InDelta(t, i/len(learners), asked[l], 1)
		}
	}
	assert.NotEqual(t, order[:7], order[7:14])
	_, ok := live.Pick(nil, asked, 0, "")
	assert.False(t, ok, "an empty class")
	id, _ := live.Pick([]int64{3, 77}, asked, 0, "x")
	assert.Equal(t, int64(77), id, "who is new comes first")
	seen := map[int64]bool{}
	for passed := range learners {
		id, _ := live.Pick(learners, asked, passed, "y")
		seen[id] = true
	}
	assert.Len(t, seen, len(learners), "whoever is passed over, somebody else follows")
	first, _ := live.Pick(learners, asked, 0, "y")
	again, _ := live.Pick(learners, asked, len(learners), "y")
	assert.Equal(t, first, again, "and in the end the first again")
}
