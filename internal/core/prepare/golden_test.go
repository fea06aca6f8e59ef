package prepare_test

import (
	"errors"
	"fmt"
	"strings"
	"testing"

	"pgregory.net/rapid"

	"freshapron/internal/core/exact"
	"freshapron/internal/core/fit"
	"freshapron/internal/core/lesson"
	"freshapron/internal/core/prepare"
	"freshapron/internal/core/recipe"
	"freshapron/internal/core/rescue"
	"freshapron/internal/demo"
	"freshapron/internal/golden"
)

// The jobs of lessons, with the day that they make, and days of made-up jobs: the tests
// beside this say what is right, and this one sees any move.
func TestJobsAndDays(t *testing.T) {
	var b strings.Builder
	lists := [][]string{
		{"100 g butter, softened", "2 eggs, at room temperature", "200 g dried chickpeas, soaked overnight"},
		{"1.5 kg frozen peas, thawed", "100 ml apple juice, chilled", "200 g turkey mince", "1 lettuce, washed"},
		{"250 g raw prawns", "2 tbsp oil", "100 g puff pastry, frozen"},
		{"50 g dried apricots, soaked for 30 minutes", "raw prawns, thawed", "1 frozen turkey, thawed", "6 eggs, at room temperature"},
	}
	for n, list := range lists {
		for _, learners := range []int{1, 2, 9, 24} {
			l := made(list)
			l.Core.Class.Learners = learners
			l.Ovens = []lesson.OvenUse{{Celsius: exact.Int(int64(160 + 20*n)), Units: []string{"Oven 1", "Oven 2", "Oven 3"}[:min(3, n+1)]}}
			if n == 1 {
				l.Core.Changes = []rescue.Change{{Kind: rescue.HotBefore, Equipment: "oven"}}
			}
			jobs := prepare.Jobs(l)
			fmt.Fprintf(&b, "= %d of %d learners\n", n, learners)
			for _, j := range jobs {
				fmt.Fprintf(&b, "  %+v\n", j)
			}
			day := prepare.Plan(jobs, []prepare.Span{{From: 480, Until: 570}, {From: 660, Until: 720 + prepare.Moment(60*n)}}, prepare.Moment(470+40*n))
			fmt.Fprintf(&b, "  %s\n  %+v\n", plain(day), prepare.WantsOf(l, []prepare.Thing{{Name: "stick blenders", Count: 3}, {Name: "bowl", Count: learners}}))
		}
	}
	told := made([]string{"200 g chickpeas", "100 g butter", "1 onion"})
	for _, says := range []string{"Soak the chickpeas overnight. Chop the onion.", "Take the butter out to soften. Drain the chickpeas.", "Soften the butter."} {
		told.Core.Menu[0].Recipe.Steps = append(told.Core.Menu[0].Recipe.Steps, recipe.Step{Step: fit.Step{ID: says[:4], Title: says, Kind: fit.Mix}, Text: says})
	}
	for _, j := range prepare.Jobs(told) {
		fmt.Fprintf(&b, "told: %+v\n", j)
	}
	dish := demo.Dish("leek-tartlets")
	l := made(nil)
	l.Core.Menu = []lesson.Course{{Recipe: dish, Each: 1}}
	for _, j := range prepare.Jobs(l) {
		fmt.Fprintf(&b, "%+v\n", j)
	}
	type made struct {
		jobs  []prepare.Job
		hours []prepare.Span
	}
	many := rapid.Custom(func(t *rapid.T) made {
		jobs, hours := days(t)
		return made{jobs, hours}
	})
	for n := range 80 {
		x := many.Example(n)
		fmt.Fprintf(&b, "%d: %s\n", n, plain(prepare.Plan(x.jobs, x.hours, prepare.Moment(n%6))))
	}
	for n := 80; n < 680; n += 20 { // many more, twenty in a sum
		var more strings.Builder
		for k := range 20 {
			x := many.Example(n + k)
			more.WriteString(plain(prepare.Plan(x.jobs, x.hours, prepare.Moment(k))))
		}
		b.WriteString(golden.All(more.String()))
	}
	golden.Same(t, "jobs.golden", b.String())
}

// From when until when lessons are in each other's way, and how a day changes with each
// figure of a job.
func TestWhenThingsClash(t *testing.T) {
	wants := []prepare.Wants{
		{Lesson: 1, From: 540, Until: 600, Things: []prepare.Thing{{Name: "Bowl", Count: 6}}},
		{Lesson: 2, From: 590, Until: 650, Things: []prepare.Thing{{Name: "bowl", Count: 5}}},
		{Lesson: 3, From: 640, Until: 700, Things: []prepare.Thing{{Name: "bowl", Count: 2}, {Name: "wok", Count: 2}}},
	}
	shared := []prepare.Thing{{Name: "bowl", Count: 10}, {Name: "wok", Count: 1}}
	all := struct {
		Wants  *[]prepare.Wants
		Shared *[]prepare.Thing
	}{&wants, &shared}
	var b strings.Builder
	b.WriteString(golden.All(prepare.Clashes(shared, wants)))
	b.WriteString(golden.Limits(&all, func() error {
		var says []string
		for _, c := range prepare.Clashes(shared, wants) {
			says = append(says, fmt.Sprint(c.Thing.Name, " of lessons ", strings.ReplaceAll(fmt.Sprint(c.Lessons), " ", "/")))
		}
		return errors.New(strings.Join(says, "\n"))
	}))
	jobs := prepare.Jobs(made([]string{"100 g butter, softened", "200 g dried chickpeas, soaked overnight", "200 g turkey mince"}))
	hours := []prepare.Span{{From: 480, Until: 570}, {From: 660, Until: 720}}
	now := prepare.Moment(470)
	day := struct {
		Hands, Wait           *int
		From, Due, Until, Now *prepare.Moment
	}{&jobs[0].Hands, &jobs[0].Wait, &jobs[0].From, &jobs[0].Due, &hours[0].Until, &now}
	b.WriteString(golden.Limits(&day, func() error { return errors.New(plain(prepare.Plan(jobs, hours, now))) }))
	golden.Same(t, "clashes.golden", b.String())
}
