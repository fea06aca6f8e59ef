package order_test

import (
	"strings"
	"testing"

	"pgregory.net/rapid"

	"freshapron/internal/core/order"
	"freshapron/internal/golden"
)

// Between which limits each figure of an order file has to lie.
func TestWhatAWeekCanBe(t *testing.T) {
	var b strings.Builder
	weeks := rapid.Custom(func(t *rapid.T) order.Week {
		w, _ := smallWeeks(t)
		return w
	})
	for _, n := range []int{4, 17} {
		w := weeks.Example(n)
		b.WriteString(golden.Limits(&w, func() error { return w.Check() }))
	}
	golden.Same(t, "limits.golden", b.String())
}
