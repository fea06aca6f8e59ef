package fit_test

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"freshapron/internal/core/fit"
)

// Worked out by hand.
func TestTheLeastLoadOfTheBusiestOven(t *testing.T) {
	for _, c := range []struct {
		first, second         []int
		units, places, change int
		want                  int
		why                   string
	}{
		{[]int{10, 10}, []int{20, 20}, 2, 1, 0, 30, "one of each in both"},
		{[]int{10, 10}, []int{20, 20}, 2, 1, 5, 35, "one of each, and the change"},
		{[]int{10, 10}, []int{20, 20}, 2, 1, 15, 40, "each in its own oven, rather than 45"},
		{[]int{10, 10, 10}, []int{20, 20}, 2, 1, 5, 40, "each in its own oven, rather than 45"},
		{[]int{10, 10, 10, 10, 10}, nil, 2, 2, 5, 20, "three in one of them, in two rounds"},
		{[]int{30, 10, 20}, nil, 1, 2, 5, 30, "beside two of them the longest costs nothing"},
		{[]int{10}, []int{20}, 1, 4, 5, 35, "however many places, never side by side"},
	} {
		assert.Equal(t, c.want, fit.LeastLoad(c.first, c.second, c.units, c.places, c.change), c.why)
	}
}
