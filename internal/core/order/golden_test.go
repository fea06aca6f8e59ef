package order_test

import (
	"fmt"
	"strings"
	"testing"

	"pgregory.net/rapid"

	"freshapron/internal/core/order"
	"freshapron/internal/golden"
)

// Orders of made-up weeks, whole: the tests beside this say what is right, and this one
// sees any move.
func TestOrdersOfManyWeeks(t *testing.T) {
	var b strings.Builder
	weeks := rapid.Custom(func(t *rapid.T) order.Week {
		w, _ := smallWeeks(t)
		return w
	})
	for n := range 60 {
		w := weeks.Example(n)
		o, err := order.Solve(w)
		if err != nil {
			fmt.Fprintf(&b, "%d: %v\n", n, err)
			continue
		}
		fmt.Fprintf(&b, "%d: %s; bound %s, %t\n", n, inALine(o), o.Bound.Fixed(2), o.Optimal)
		b.WriteString(golden.All(o))
		for _, u := range o.Uses {
			fmt.Fprintf(&b, "  uses %+v\n", u)
		}
		for _, l := range o.Left {
			fmt.Fprintf(&b, "  left %+v\n", l)
		}
	}
	for n := 60; n < 1060; n += 20 { // many more, twenty in a sum
		var more []any
		for k := range 20 {
			o, err := order.Solve(weeks.Example(n + k))
			more = append(more, o, err)
		}
		b.WriteString(golden.All(more))
	}
	for n := 2000; n < 2600; n += 20 {
		var work []any
		for k := range 20 {
			work = append(work, order.Work(weeks.Example(n+k)))
		}
		b.WriteString(golden.All(work))
	}
	golden.Same(t, "weeks.golden", b.String())
}

// Orders of busy stretches, where the search does not look at everything.
func TestOrdersOfBusyWeeks(t *testing.T) {
	var b strings.Builder
	for seed := range uint64(24) {
		w := busy(seed, 4+int(seed%9), 5+int(seed), 1+int(seed%3))
		o, err := order.Solve(w)
		if err != nil {
			fmt.Fprintf(&b, "%d: %v\n", seed, err)
			continue
		}
		fmt.Fprintf(&b, "%d: %s; bound %s, %t\n%s", seed, inALine(o), o.Bound.Fixed(2), o.Optimal, golden.All(o))
		if seed%4 != 1 { // for time
			fmt.Fprintf(&b, "  %s\n", order.Work(w))
		}
	}
	golden.Same(t, "busy.golden", b.String())
}
