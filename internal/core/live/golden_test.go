package live_test

import (
	"fmt"
	"strings"
	"testing"

	"freshapron/internal/core/fit"
	"freshapron/internal/core/live"
	"freshapron/internal/golden"
)

// A rehearsed lesson of each kind, event by event, and how it stands every twelve minutes:
// the tests beside this say what is right, and this one sees any move.
func TestRehearsedLessons(t *testing.T) {
	lessons := map[string]fit.Lesson{"1 of two": two(), "2 of pairs": iced()}
	pairs := two()
	for i := range pairs.Groups {
		pairs.Groups[i].Cooks = 2
	}
	pairs.Dishes[0].Steps[1].Adult = fit.Watches
	lessons["3 watched"] = pairs
	var b strings.Builder
	for _, name := range []string{"1 of two", "2 of pairs", "3 watched"} {
		l := lessons[name]
		p := plan(t, l)
		for _, mishap := range append([]string{""}, live.Mishaps...) {
			events := live.Rehearse(l, p, live.Script{Seed: 7, Mishap: mishap})
			fmt.Fprintf(&b, "= %s, %q\n", name, mishap)
			for _, e := range events {
				fmt.Fprintf(&b, "%.2f %s %s %s %s min %.2f, %d, %.0f °C, %s %q\n", e.At, e.Kind, e.Bench, e.Step, e.Unit, e.Minutes, e.Number, e.Celsius, e.Equipment, e.Says)
			}
			for now := -2.0; now <= 70; now += 12 {
				standing(&b, live.Fold(l, p, events, now))
			}
		}
	}
	golden.Same(t, "rehearsed.golden", b.String())
}

// standing prints all that is told of a moment.
func standing(b *strings.Builder, s *live.State) {
	phase, until := s.Phase()
	pace := s.Pace()
	fmt.Fprintf(b, "at %.0f: %s; left %.2f, %s until %.1f, pace %.3f of %d\n", s.Now, stands(s), s.Left(), phase, until, pace.Factor, pace.Records)
	for _, x := range s.Timers() {
		fmt.Fprintf(b, "  timer %s %s %.1f %t\n", x.Bench, x.Step.Step, x.Until, x.Over)
	}
	for _, x := range s.Took() {
		fmt.Fprintf(b, "  took %s %.2f %.2f %d %d\n", x.Step, x.Planned, x.Real, x.Known, x.Assumed)
	}
	next, should := s.Point()
	if next != nil {
		fmt.Fprintf(b, "  next %.1f %s, by now %d\n", next.At, next.Says(), len(should))
	}
	l := s.UnderWay()
	fmt.Fprintf(b, "  from %s: out %d, away %d, first phase %s\n", l.Now, len(l.Out), len(l.Away), l.Phases[0].Minutes)
	for _, x := range l.Progress {
		fmt.Fprintf(b, "  %s %s %s %t", x.Group, x.Step, x.Start, x.Skipped)
		if x.WorkEnd != nil {
			fmt.Fprintf(b, " work %s", x.WorkEnd)
		}
		if x.End != nil {
			fmt.Fprintf(b, " end %s", x.End)
		}
		if x.Cooks != nil {
			fmt.Fprintf(b, " cooks %d %v", *x.Cooks, x.Hands)
		}
		b.WriteString("\n")
	}
}
