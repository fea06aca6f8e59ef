package live_test

import (
	"strings"
	"testing"

	"freshapron/internal/core/live"
	"freshapron/internal/golden"
)

// What of an event can't be, of each kind.
func TestWhatAnEventCanBe(t *testing.T) {
	l := two()
	p := plan(t, l)
	var b strings.Builder
	for _, closed := range []bool{false, true} {
		events := []live.Event{at(0, live.Event{Kind: live.Opened})}
		if closed {
			events = append(events, at(40, live.Event{Kind: live.Closed}))
		}
		s := live.Fold(l, p, events, 45)
		for _, kind := range live.Kinds {
			e := live.Event{ID: "x", At: 45, Kind: kind, Bench: "g1", Dish: l.Dishes[0].ID, Step: "mix", Equipment: "oven", Unit: "Oven 1", Minutes: 2, Number: 3, Celsius: 70}
			if kind == live.Replanned {
				e.Plan = p
				p.Groups, p.Chain = p.Groups[:1], nil
				p.Groups[0].Steps = p.Groups[0].Steps[:1]
			}
			b.WriteString("= " + string(kind) + "\n" + golden.Limits(&e, func() error { return s.Check(e) }))
		}
	}
	golden.Same(t, "limits.golden", b.String())
}
