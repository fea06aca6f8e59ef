package rescue_test

import (
	"errors"
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"

	"freshapron/internal/core/clock"
	"freshapron/internal/core/exact"
	"freshapron/internal/core/fit"
	"freshapron/internal/core/lesson"
	"freshapron/internal/core/pantry"
	"freshapron/internal/core/rescue"
	"freshapron/internal/demo"
	"freshapron/internal/golden"
)

// Every way to help a lesson with each dish of the demonstration, what becomes
// of the lesson with it, and what is found to help those that need it.
func TestWhatWouldHelp(t *testing.T) {
	var b strings.Builder
	for n, r := range demo.Dishes() {
		l := lesson.Lesson{
			Date: "2026-11-26", Start: 605, End: 665 - clock.Time(n%3)*5, Phases: lesson.UsualPhases(), Menu: []lesson.Course{{Recipe: r, Each: r.Each, Demo: r.Yield}}, Pantry: pantry.Stock(),
			Class: demo.Classes()[1], Room: demo.FoodRoom(), GroupSize: 1 + n%3,
		}
		f := l.Fit()
		p, err := fit.Solve(f, fit.Options{Budget: 10, Runs: 40})
		require.NoError(t, err)
		fmt.Fprintf(&b, "= %s, %.2f, needed %t\n", r.Title, p.Finish, rescue.Needed(p))
		ways := rescue.Ways(f, p)
		for _, w := range ways {
			changed, err := rescue.Apply(f, w.Changes...)
			fmt.Fprintf(&b, "  %s %v: %q; %s\n", w.Title, err, w.Costs, digest(changed))
			for _, c := range w.Changes {
				fmt.Fprintf(&b, "    %s\n", c.Says(f))
			}
		}
		if !rescue.Needed(p) {
			continue
		}
		out := rescue.Try(rescue.Trial{Lesson: f, Plan: p, Ways: ways, Options: fit.Options{Budget: 5, Runs: 40}})
		for _, found := range out.Rescues {
			fmt.Fprintf(&b, "  found: %s, done %.3f, %.2f, fits %t, sure %t, all %.3f\n", found.Title, found.Done(), found.Finish(), found.Fits(), found.Sure(), found.AllOnTime())
		}
		for _, says := range rescue.LeversSay(f, out.Levers) {
			fmt.Fprintf(&b, "  %s\n", says)
		}
		if out.Lack != nil {
			fmt.Fprintf(&b, "  %s\n", out.Lack.Says())
		}
	}
	golden.Same(t, "help.golden", b.String())
}

// What a change may say, of each kind, and what it makes of a lesson.
func TestWhatAChangeCanBe(t *testing.T) {
	l := lesson.Lesson{
		Date: "2026-11-26", Start: 605, End: 665, Phases: lesson.UsualPhases(), Pantry: pantry.Stock(), Class: demo.Classes()[1], Room: demo.FoodRoom(), GroupSize: 2,
		Menu: []lesson.Course{{Recipe: demo.Dish("leek-tartlets"), Each: 2, Demo: 2}, {Recipe: demo.Dish("herb-scones"), Each: 2}},
	}
	f := l.Fit()
	var b strings.Builder
	for _, kind := range []rescue.Kind{
		rescue.NotBefore, rescue.BeginBy, rescue.PinAt, rescue.InUnit, rescue.UnitOut, rescue.AdultOut, rescue.Work, rescue.Wait, rescue.Pace, rescue.Cooks, rescue.Preweigh, rescue.ReadyMade, rescue.Prepared,
		rescue.DemoBefore, rescue.DemoInPieces, rescue.Hands, rescue.Halves, rescue.Fewer, rescue.Smaller, rescue.FewerLoads, rescue.HotBefore, rescue.OneMore, rescue.OneAdult, rescue.Stagger,
		rescue.OneTemperature, rescue.FinishAfter, rescue.TwoLessons, rescue.LeaveOut, rescue.Share,
	} {
		for n, step := range f.Dishes[0].Steps {
			c := rescue.Change{Kind: kind, Group: f.Groups[0].ID, Dish: f.Dishes[0].ID, Step: step.ID, Equipment: "oven", Unit: f.Equipment[0].Units[0].Name, At: exact.Int(20), Minutes: exact.Int(5), Number: 2}
			changed, err := rescue.Apply(f, c)
			fmt.Fprintf(&b, "= %s of %s: %v\n%s\n", kind, step.ID, err, digest(changed))
			b.WriteString(golden.All(changed))
			if n != 1 {
				continue
			}
			b.WriteString(golden.Limits(&c, func() error {
				changed, err := rescue.Apply(f, c)
				return errors.Join(err, changed.Check())
			}))
		}
	}
	golden.Same(t, "changes.golden", b.String())
}

// digest is what a change may have changed.
func digest(l fit.Lesson) string {
	var b strings.Builder
	fmt.Fprintf(&b, "%s–%s, %d adults, %d groups of %d", l.Start, l.End, l.Adults, len(l.Groups), l.Groups[0].Cooks)
	for _, p := range l.Phases {
		fmt.Fprintf(&b, ", %s %s", p.Name, p.Minutes)
	}
	for _, e := range l.Equipment {
		if e.Temperature {
			fmt.Fprintf(&b, ", %d %s hot after %s + %s", len(e.Units), e.ID, e.OnAt, e.Preheat)
		}
	}
	for _, d := range l.Dishes {
		for _, s := range d.Steps {
			fmt.Fprintf(&b, ", %s %s+%s", s.ID, s.Work, s.Wait)
			if s.Shareable {
				b.WriteString(" shared")
			}
			if s.Pieces > 0 {
				fmt.Fprintf(&b, " %d/%d", s.Pieces, s.PerLoad)
			}
		}
	}
	return b.String()
}
