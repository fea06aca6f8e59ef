package fit_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"freshapron/internal/core/exact"
	"freshapron/internal/core/fit"
	"freshapron/internal/core/problem"
)

func TestCheckNamesTheFault(t *testing.T) {
	for _, c := range []struct {
		name  string
		spoil func(l *fit.Lesson)
		path  string
		says  string
	}{
		{"the bell before the door", func(l *fit.Lesson) { l.End = l.Start }, "period.end", "must come after"},
		{"phases longer than the period", func(l *fit.Lesson) { l.Phases[1].Minutes = mins("60") }, "phases", "take 77 minutes, and the period has only 65"},
		{"a stop in the demonstration", func(l *fit.Lesson) { l.Phases[2].Minute = mins("10") }, "phases[2].at_minute", "before the phases at the start have ended"},
		{"a stop past the deadline", func(l *fit.Lesson) { l.Phases[2].Minute = mins("52") }, "phases[2].at_minute", "after the deadline"},
		{"two stops at once", func(l *fit.Lesson) {
			l.Phases = append(l.Phases, fit.Phase{Name: "x", Minutes: mins("2"), Place: fit.AtMinute, Minute: mins("36")})
		}, "phases[5].at_minute", `overlaps "Stop and look"`},
		{"a phase of less than nothing", func(l *fit.Lesson) { l.Phases[0].Minutes = mins("-5") }, "phases[0].minutes", "can't be less than 0"},
		{"no adult for a watched step", func(l *fit.Lesson) { l.Adults = 0 }, "dishes[0].steps[3].adult", "the room has none"},
		{"a step that waits for everything", func(l *fit.Lesson) {
			l.Dishes[0].Steps[1].After = make([]fit.After, 41)
		}, "dishes[0].steps[1].after", "waits for 41 steps; the most is 40"},
		{"no group", func(l *fit.Lesson) { l.Groups = nil }, "groups", "no group"},
		{"no dish", func(l *fit.Lesson) { l.Dishes = nil }, "dishes", "no dish"},
		{"two groups of one id", func(l *fit.Lesson) { l.Groups[1].ID = "g1" }, "groups[1].id", "used twice"},
		{"a dish that is not there", func(l *fit.Lesson) { l.Groups[0].Dishes = []string{"tartlet"} }, "groups[0].dishes[0]", `did you mean "tartlets"?`},
		{"a group of no pace", func(l *fit.Lesson) { l.Groups[0].Pace = exact.Number{} }, "groups[0].pace", "over 0"},
		{"a step that is not there", func(l *fit.Lesson) { l.Dishes[0].Steps[1].After[0].Step = "wiegh" }, "dishes[0].steps[1].after[0].step", `no step "wiegh" in this dish; did you mean "weigh"?`},
		{"a step after itself", func(l *fit.Lesson) { l.Dishes[0].Steps[1].After[0].Step = "rub" }, "dishes[0].steps[1].after[0].step", "after itself"},
		{"a circle", func(l *fit.Lesson) { l.Dishes[0].Steps[0].After = []fit.After{{Step: "fill"}} }, "dishes[0].steps[1].after[0].step", ""},
		{"max_gap under min_gap", func(l *fit.Lesson) { l.Dishes[0].Steps[3].After[0].MinGap = mins("6") }, "dishes[0].steps[3].after[0].max_gap", "under min_gap"},
		{"too many cooks", func(l *fit.Lesson) { l.Dishes[0].Steps[1].Cooks = 3 }, "dishes[0].steps[1].cooks", "has only 2"},
		{"shared by two at once", func(l *fit.Lesson) { l.Dishes[0].Steps[1].Cooks = 2; l.Dishes[0].Steps[1].Shareable = true }, "dishes[0].steps[1].shareable", "can't be shared"},
		{"a cook beside the adult who does it", func(l *fit.Lesson) { l.Dishes[0].Steps[1].Adult = fit.Does }, "dishes[0].steps[1].cooks", "no cook is needed"},
		{"an oven without its temperature", func(l *fit.Lesson) { l.Dishes[0].Steps[3].Uses[0].Temperature = nil }, "dishes[0].steps[3].uses[0].temperature_c", "is missing"},
		{"more shelves than an oven has", func(l *fit.Lesson) { l.Dishes[0].Steps[3].Uses[0].Places = 3 }, "dishes[0].steps[3].uses[0].places", "no \"oven\" has more than 2"},
		{"more at once than the room has", func(l *fit.Lesson) {
			u := l.Dishes[0].Steps[3].Uses[0]
			u.Places = 2
			l.Dishes[0].Steps[3].Uses = []fit.Use{u, u, u}
		}, "dishes[0].steps[3].uses", "more at once than the room has"},
		{"equipment that is not there", func(l *fit.Lesson) { l.Dishes[0].Steps[3].Uses[0].Equipment = "ovn" }, "dishes[0].steps[3].uses[0].equipment", `did you mean "oven"?`},
		{"loads without an end", func(l *fit.Lesson) { l.Dishes[0].Steps[1].Pieces = 4 }, "dishes[0].steps[1].pieces_per_load", "at least 1"},
	} {
		t.Run(c.name, func(t *testing.T) {
			l := tartlets(2)
			c.spoil(&l)
			var problems problem.List
			require.ErrorAs(t, l.Check(), &problems)
			if c.name == "a circle" {
				assert.Len(t, problems, 1)
				assert.Contains(t, problems[0].Says, "in a circle")
				return
			}
			found := false
			for _, p := range problems {
				if p.Path == c.path {
					found = true
					assert.Contains(t, p.Says, c.says)
				}
			}
			assert.True(t, found, "%v", problems)
			_, err := fit.Solve(l, fit.Options{})
			assert.Error(t, err, "what is not in order is not planned")
		})
	}
}

func TestCrossDishCirclesCountOnlyWhereBothAreMade(t *testing.T) {
	l := tartlets(1)
	second := l.Dishes[0]
	second.ID = "salad"
	second.Steps = []fit.Step{{ID: "wash", Kind: fit.Prepare, Work: mins("1"), Cooks: 1, Adult: fit.NoAdult,
		After: []fit.After{{Dish: "tartlets", Step: "bake"}}}}
	l.Dishes = append(l.Dishes, second)
	l.Dishes[0].Steps[0].After = []fit.After{{Dish: "salad", Step: "wash"}}
	require.Error(t, l.Check(), "one group makes both")
	l.Groups[0].Dishes = []string{"tartlets"}
	require.NoError(t, l.Check())
	p := solve(t, l)
	assert.Len(t, p.Groups[0].Steps, 4, "the rule about the other dish is ignored")
}
