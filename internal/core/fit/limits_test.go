package fit_test

import (
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"freshapron/internal/core/fit"
	"freshapron/internal/golden"
)

// Between which limits each figure of a lesson has to lie, one that is under way too, and
// what is said beyond them.
func TestWhatALessonCanBe(t *testing.T) {
	var b strings.Builder
	for _, n := range []int{3, 9} {
		l := anyLesson.Example(n)
		p, err := fit.Solve(l, fit.Options{Budget: 4, Runs: 40})
		require.NoError(t, err)
		l = underWay(l, p).Example(n)
		spread := 0.3
		first := &l.Dishes[0].Steps[0]
		first.Spread, first.Hold = &spread, &fit.Hold{MaxMinutes: mins("20")}
		fmt.Fprintf(&b, "= any %d\n%s", n, golden.Limits(&l, func() error { return l.Check() }))
	}
	golden.Same(t, "limits.golden", b.String())
}

// As many of everything as a lesson may have, and one more.
func TestHowMuchALessonCanHave(t *testing.T) {
	minute := mins("1")
	mix := func(n int) fit.Step {
		return fit.Step{ID: fmt.Sprint("mix", n), Kind: fit.Mix, Work: minute, Cooks: 1, Adult: fit.NoAdult}
	}
	for _, x := range []struct {
		what string
		most int
		add  func(l *fit.Lesson, n int)
	}{
		{"phases", 100, func(l *fit.Lesson, n int) {
			l.Phases = append(l.Phases, fit.Phase{Name: fmt.Sprint(n), Place: fit.AtStart})
		}},
		{"adults_out", 100, func(l *fit.Lesson, n int) { l.Away = append(l.Away, fit.Away{From: minute, Minutes: minute}) }},
		{"out", 100, func(l *fit.Lesson, n int) { l.Out = append(l.Out, fit.Outage{Equipment: "oven"}) }},
		{"equipment", 100, func(l *fit.Lesson, n int) {
			l.Equipment = append(l.Equipment, fit.Equipment{ID: fmt.Sprint(n), Units: []fit.Unit{{Name: "One", Places: 1}}})
		}},
		{"units", 1000, func(l *fit.Lesson, n int) {
			l.Equipment[0].Units = append(l.Equipment[0].Units, fit.Unit{Name: fmt.Sprint(n), Places: 1})
		}},
		{"groups", 100, func(l *fit.Lesson, n int) {
			l.Groups = append(l.Groups, fit.Group{ID: fmt.Sprint(n), Cooks: 1, Pace: minute})
		}},
		{"steps", 400, func(l *fit.Lesson, n int) { l.Dishes[0].Steps = append(l.Dishes[0].Steps, mix(n)) }},
		{"after", 40, func(l *fit.Lesson, n int) {
			steps := append(l.Dishes[0].Steps, mix(n))
			steps[0].After = append(steps[0].After, fit.After{Step: steps[n].ID})
			l.Dishes[0].Steps = steps
		}},
	} {
		l := tartlets(1)
		switch x.what {
		case "phases":
			l.Phases = nil
		case "equipment":
			l.Equipment = nil
		case "units":
			l.Equipment[0].Units = nil
		case "groups":
			l.Groups = nil
		case "steps":
			l.Dishes[0].Steps = nil
		case "after":
			l.Dishes[0].Steps = []fit.Step{mix(0)}
		}
		for n := range x.most {
			x.add(&l, n+1)
		}
		said := func() string {
			if err := l.Check(); err != nil {
				return err.Error()
			}
			return ""
		}
		assert.NotContains(t, said(), "the most is", x.what)
		x.add(&l, x.most+1)
		assert.Contains(t, said(), "the most is", x.what)
	}
}
