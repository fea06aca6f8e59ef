package lesson_test

import (
	"fmt"
	"math/rand/v2"
	"strings"
	"testing"

	"freshapron/internal/core/clock"
	"freshapron/internal/core/fit"
	"freshapron/internal/core/lesson"
	"freshapron/internal/core/recipe"
	"freshapron/internal/core/rescue"
	"freshapron/internal/core/safety"
	"freshapron/internal/demo"
	"freshapron/internal/golden"
)

// Lessons as chance puts them together, some of which can't be: all that is made of them
// stands in a file.
func TestLessonsByChance(t *testing.T) {
	var b strings.Builder
	dishes := demo.Dishes()
	for n := range 26 {
		rng := rand.New(rand.NewPCG(uint64(n), 11))
		one := func(k int) bool { return rng.IntN(k) == 0 }
		order := rng.Perm(len(dishes))
		l := lessonOf(dishes[order[0]].ID)
		l.GroupSize, l.Spare = 1+rng.IntN(4), rng.IntN(3)
		l.Start, l.End = 540, 540+[]clock.Time{50, 60, 100}[rng.IntN(3)]
		l.Class = withNames(10 + rng.IntN(16))
		if one(3) {
			l.Class = demo.Classes()[rng.IntN(len(demo.Classes()))]
		}
		l.Menu[0].Each, l.Menu[0].Demo = 1+rng.IntN(3), rng.IntN(3)
		for k := range rng.IntN(3) {
			c := lesson.Course{Recipe: dishes[order[k+min(1, n%7)]], Each: 1 + rng.IntN(2), Demo: rng.IntN(2)}
			if one(3) {
				c.By = lesson.Makers{Groups: []string{fmt.Sprint("b", 1+rng.IntN(4))}, Learners: []int64{int64(1 + rng.IntN(9))}}
			}
			l.Menu = append(l.Menu, c)
		}
		l.Volume = one(3)
		for id := range int64(8) {
			if one(5) {
				l.Absent = append(l.Absent, id)
			}
		}
		dish := l.Menu[0].Recipe
		step := dish.Steps[rng.IntN(len(dish.Steps))].ID
		if one(3) {
			l.OtherWays = []lesson.WayTaken{{Learner: 2, Way: safety.LowVision}, {Learner: 3, Dish: dish.ID, Step: step, Way: "scissors"}, {Learner: 4, Way: "large-print"}}
		}
		if n%5 == 4 {
			l.Others = []recipe.Recipe{dishes[order[7]], dishes[order[8]]}
		}
		switch rng.IntN(6) {
		case 0:
			l.Changes = []rescue.Change{{Kind: rescue.TwoLessons, Dish: dish.ID, Step: step, Number: 1 + rng.IntN(2)}}
		case 1:
			l.Changes = []rescue.Change{{Kind: rescue.ReadyMade, Dish: dish.ID, Step: step}}
		case 2:
			l.Changes = []rescue.Change{{Kind: rescue.LeaveOut, Dish: dish.ID, Step: step}}
		}
		home := l.UsualHome()
		if in := dish.Ingredients; one(2) {
			home.Lines, home.Not = append(home.Lines, lesson.HomeLine{Dish: dish.ID, Name: in[rng.IntN(len(in))].Name}), []int64{1, 3}
		}
		fmt.Fprintf(&b, "= %d: %s\n", n, l.Titles())
		if err := l.Check(); err != nil {
			fmt.Fprintf(&b, "  %v\n", err)
			continue
		}
		half, hold := l.Half()
		guessed, all := l.Guessed()
		b.WriteString(golden.All(l.Grouping(), l.Learners(), l.Benches(), l.Kinds(), half, hold, guessed, all, lesson.MostlyGuessed(guessed, all), l.Dealt(), l.DealtAnew(), l.Decisions(), l.Before(), l.Fetch(), home))
		b.WriteString(golden.All(l.Takes(home)))
		for c := range l.Menu {
			b.WriteString(golden.All(l.Undecided(c), l.Menu[c].By.Says(l.Benches(), func(id int64) string { return fmt.Sprint("no. ", id) }), l.OneBoard(l.Menu[c]), l.Needs()[c]))
		}
		f := l.Fit()
		p, err := fit.Solve(f, fit.Options{Budget: 5, Runs: 40})
		b.WriteString(golden.All(f.Check(), f.Groups, f.Dishes, err))
		if err != nil {
			continue
		}
		for _, bench := range l.Benches() {
			fmt.Fprintln(&b, bench.ID, bench.Names(), l.LargePrint(bench.ID))
		}
		sheets, adults := l.BenchSheets(f, p, l.Sizes()), l.AdultSheets(f, p)
		b.WriteString(golden.All(sheets, adults))
		for _, o := range l.Others {
			fmt.Fprintln(&b, lesson.SharedSkills(dish, o))
		}
		for i, v := range l.Verdicts(f, p, l.Sizes()) {
			b.WriteString(golden.All(i, v))
		}
		for _, d := range f.Dishes {
			var steps []any
			for _, s := range d.Steps {
				work, wait := l.Typical(f, d.ID, s.ID)
				steps = append(steps, work, wait, l.StepOf(f, d.ID, s.ID))
			}
			b.WriteString(golden.All(steps))
		}
		outlooks, err := l.Outlooks([]int{40, 60, 100}, fit.Options{Budget: 5, Runs: 40})
		b.WriteString(golden.All(outlooks, err))
		for _, w := range l.Ways(f, p) {
			changed, err := l.With(w.Changes...)
			b.WriteString(golden.All([]any{w, err, changed.Titles(), changed.Fit()}))
		}
	}
	golden.Same(t, "chance.golden", b.String())
}
