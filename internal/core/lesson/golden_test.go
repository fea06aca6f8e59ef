package lesson_test

import (
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"

	"freshapron/internal/core/class"
	"freshapron/internal/core/exact"
	"freshapron/internal/core/fit"
	"freshapron/internal/core/lesson"
	"freshapron/internal/core/safety"
	"freshapron/internal/demo"
	"freshapron/internal/golden"
)

// What is said of lessons with every dish of the demonstration, and printed for
// them, stands in a file.
func TestWhatIsSaidOfLessons(t *testing.T) {
	var b strings.Builder
	for n, r := range demo.Dishes() {
		l := lessonOf(r.ID)
		l.GroupSize = 1 + n%4
		l.Class = demo.Classes()[n%len(demo.Classes())]
		if n%3 == 0 {
			l.Room = demo.JuniorCorner()
		}
		tellLesson(t, &b, r.Title, l)
	}
	named := lessonOf("leek-tartlets")
	named.Class = withNames(22)
	named.Menu = append(named.Menu, lesson.Course{Recipe: demo.Dish("rainbow-slaw"), Each: 1, Demo: 2, By: lesson.Makers{Groups: []string{"b1", "b3"}, Learners: []int64{8, 9}}})
	named.Absent = []int64{4, 5}
	named.Swaps = []lesson.Swap{{Learner: 3, Dish: "leek-tartlets", For: "butter", Use: "75 g sunflower spread"}}
	named.OtherWays = []lesson.WayTaken{{Learner: 7, Dish: "leek-tartlets", Step: "leek", Way: "scissors"}, {Learner: 2, Way: safety.LowVision}}
	tellLesson(t, &b, "a named class, two dishes", named)
	golden.Same(t, "lessons.golden", b.String())
}

// withNames is a class of so many who have names, of whom some need something.
func withNames(n int) lesson.Class {
	c := lesson.Class{Name: "8 Hazel", Learners: n, Pace: exact.Frac(11, 10), Age: 12}
	for i := range n {
		c.Roster = append(c.Roster, class.Learner{ID: int64(i + 1), Given: fmt.Sprint("Learner ", i+1), Level: class.Level(i % 4)})
	}
	c.Roster[2].Needs = []class.Need{{Kind: class.Allergy, What: "milk", Severity: class.Contact}}
	c.Roster[9].Needs = []class.Need{{Kind: class.Diet, What: "vegan"}}
	return c
}

func tellLesson(t *testing.T, b *strings.Builder, title string, l lesson.Lesson) {
	t.Helper()
	say := func(format string, args ...any) { fmt.Fprintf(b, "  "+format+"\n", args...) }
	fmt.Fprintf(b, "= %s\n", title)
	if err := l.Check(); err != nil {
		say("%v", err)
		return
	}
	f := l.Fit()
	p, err := fit.Solve(f, fit.Options{Budget: 10, Runs: 100})
	require.NoError(t, err)
	sizes := l.Sizes()
	say("%s, %s, %s, %d benches, %d sizes", l.Grouping(), l.Titles(), lesson.Left(p), len(l.Benches()), len(sizes))
	for _, v := range l.Verdicts(f, p, sizes) {
		say("%s %s: %s %s", v.About, v.Light, v.Head, v.Says)
	}
	for _, q := range lesson.Queues(p) {
		say("queue %+v", q)
	}
	for _, o := range lesson.Ovens(f, p) {
		say("oven %+v", o)
	}
	for _, x := range l.Fetch() {
		say("fetch %s", x.Says())
	}
	pence, unpriced := l.Cost()
	known, unknown := l.Allergens()
	say("sets %s, %s p %v, allergens %v %v, to read %v", l.Sets(), pence.Decimal(0), unpriced, known, unknown, l.ToRead())
	for _, s := range l.Swapped() {
		say("swapped %+v", s)
	}
	for _, c := range l.Chosen() {
		say("chosen %+v", c)
	}
	for i, s := range l.BenchSheets(f, p, sizes) {
		const most = 2
		if i == most {
			break
		}
		say("sheet of %s, done by %.2f, large %t, %q", s.Name, s.DoneBy, s.Large, s.Says)
		for _, d := range s.Dishes {
			say("  %s: %s", d.Title, d.Makes)
			for _, a := range d.Amounts {
				amount, name := a.Told()
				say("    %s %s, measurable %t", amount, name, a.Measurable())
			}
		}
		for _, lane := range s.Lanes {
			for _, d := range lane {
				say("    %.2f–%.2f %s %s %s: %s (%d sentences) | %s | %s together %t whole %t call %t yours %s", d.From, d.To, d.Step, d.Kind, d.Adult, d.What, len(d.Method), d.LookFor, d.Careful, d.Together, d.Whole, d.Call, d.Share)
			}
		}
		for _, tray := range s.Trays {
			say("    tray %s %.2f %.2f %.2f", tray.Unit, tray.In, tray.Out, tray.LatestIn)
		}
	}
	for n, lane := range l.AdultSheets(f, p) {
		for _, d := range lane {
			say("adult %d %.2f–%.2f %s %s: %s", n+1, d.From, d.To, d.Group, d.Step, d.What)
		}
	}
	for _, w := range l.Ways(f, p) {
		say("way %s: %q", w.Title, w.Costs)
	}
}
