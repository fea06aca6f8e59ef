package live_test

import (
	"fmt"
	"math/rand/v2"
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
			var others [][]live.Event // of other days, by their sum
			for seed := range uint64(30) {
				others = append(others, live.Rehearse(l, p, live.Script{Seed: 100 + seed, Mishap: mishap}))
			}
			b.WriteString(golden.All(others))
		}
	}
	golden.Same(t, "rehearsed.golden", b.String())
}

// Events as they come by chance, many of them nonsense and many at the very moment at which
// something was planned: which are refused and why, and all that is made of the others.
func TestWhateverHappens(t *testing.T) {
	watched := two()
	watched.Dishes[0].Steps[1].Adult = fit.Watches
	var b strings.Builder
	for n, l := range []fit.Lesson{two(), iced(), watched, iced(), two(), watched} {
		rng := rand.New(rand.NewPCG(uint64(n), 5))
		p := plan(t, l)
		l.Groups[0].Cooks = 1 + n%2
		other := plan(t, l)
		var events []live.Event
		for i := range 60 {
			g := p.Groups[rng.IntN(len(p.Groups))]
			st := g.Steps[rng.IntN(len(g.Steps))]
			e := live.Event{ID: fmt.Sprint(i - i%9/8), Seq: int64(i), Kind: live.Kinds[rng.IntN(len(live.Kinds))], Bench: g.ID, Dish: st.Dish, Step: st.Step, Minutes: float64(rng.IntN(6)), Number: rng.IntN(3), Celsius: float64(10 * rng.IntN(30)), Of: fmt.Sprint(rng.IntN(60))}
			e.At = []float64{st.Start, st.WorkEnd, st.End, float64(rng.IntN(60)), float64(i)}[rng.IntN(5)]
			if rng.IntN(8) == 0 {
				said := e.At + float64(rng.IntN(4)-2)
				e.Said = &said
			}
			if len(st.Units) > 0 {
				e.Equipment, e.Unit = st.Units[0].Equipment, st.Units[0].Unit
			}
			switch rng.IntN(12) {
			case 0:
				e.Bench, e.Unit = "elsewhere", "none"
			case 1:
				e.Dish, e.Step = "", "rest"
			case 2:
				e.Minutes = -1
			}
			if e.Kind == live.Replanned {
				e.Plan = other
			}
			if e.Kind == live.Closed || i == 0 {
				e.Kind, e.At, e.Said = live.Opened, float64(n-2), nil
			}
			if i == 59 {
				e = live.Event{ID: "last", Kind: live.Closed, At: 55}
			}
			events = append(events, e)
		}
		fmt.Fprintf(&b, "= %d\n", n)
		for now := -3.0; now <= 60; now += 7 {
			s := live.Fold(l, p, events, now)
			standing(&b, s)
			for _, e := range events[:20] {
				if err := s.Check(e); err != nil {
					fmt.Fprintf(&b, "  %s %s at %.1f: %v\n", e.Kind, e.Bench, e.At, err)
				}
			}
			b.WriteString(golden.All(s.Queue(), s.Sizes(), s.Door, s.Called, s.Sharps, s.Out, s.Adults, s.AdultTo, s.Better(other), s.Closed, s.ClosedAt))
			for _, bench := range s.Benches {
				fmt.Fprintf(&b, "  %s late %.2f, gone %d, known %t, heard %.1f, done %.2f\n", bench.ID, bench.Late, bench.Gone, bench.Known, bench.Heard, bench.Finish())
				for _, st := range bench.Steps {
					fmt.Fprintf(&b, "    %s %d %.2f %.2f %.2f %t %t %s\n", st.Step, st.Stage, st.Start, st.WorkEnd, st.End, st.KnownStart, st.KnownEnd, st.Unit)
				}
			}
			for _, r := range s.StillOpen() {
				fmt.Fprintf(&b, "  open at %s: %d, %t\n", r.Name, len(r.Steps), r.All)
			}
			for _, m := range s.Compare(other) {
				fmt.Fprintf(&b, "  moves %s %s to %.2f %s\n", m.Bench, m.Step.Step, m.Start, m.Unit)
			}
			for _, bench := range []string{"", s.Benches[0].ID} {
				for _, e := range s.Pictures(bench) {
					fmt.Fprintf(&b, "  picture of %s at %.1f\n", e.Bench, e.At)
				}
			}
			for _, c := range s.Points() {
				fmt.Fprintf(&b, "  point %.2f\n", c.At)
			}
		}
	}
	golden.Same(t, "whatever.golden", b.String())
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
