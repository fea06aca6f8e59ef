package verify_test

import (
	"fmt"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"freshapron/internal/core/exact"
	"freshapron/internal/core/fit"
	"freshapron/internal/core/fit/verify"
)

func minutes(n int64) *exact.Number { m := exact.Int(n); return &m }

// pies is a lesson in which every rule has something to say: two benches of
// two cooks, two ovens, a blender, an adult at the blender, a door that stays
// shut and a stop in the middle.
func pies() fit.Lesson {
	oven := func(celsius int64) []fit.Use {
		return []fit.Use{{Equipment: "oven", Places: 1, Temperature: minutes(celsius), During: fit.WaitPart}}
	}
	return fit.Lesson{
		Title: "Pies", Start: 9 * 60, End: 11 * 60, Adults: 1,
		Phases: []fit.Phase{
			{Name: "Hands", Minutes: exact.Int(5), Place: fit.AtStart},
			{Name: "Stop", Minutes: exact.Int(2), Place: fit.AtMinute, Minute: exact.Int(30)},
			{Name: "Clear", Minutes: exact.Int(10), Place: fit.AtEnd},
		},
		Equipment: []fit.Equipment{
			{ID: "oven", Units: []fit.Unit{{Name: "Oven 1", Places: 1}, {Name: "Oven 2", Places: 2}}, Temperature: true,
				Preheat: exact.Int(10), Reheat: exact.Int(5)},
			{ID: "blender", Units: []fit.Unit{{Name: "Blender", Places: 1}}},
		},
		Groups: []fit.Group{
			{ID: "a", Name: "Bench 1", Cooks: 2, Pace: exact.Int(1)},
			{ID: "b", Name: "Bench 2", Cooks: 2, Pace: exact.Frac(5, 4)},
		},
		Dishes: []fit.Dish{{ID: "pie", Title: "Pie", Steps: []fit.Step{
			{ID: "weigh", Kind: fit.Weigh, Work: exact.Int(4), Cooks: 1, Shareable: true, Adult: fit.NoAdult},
			{ID: "blend", Kind: fit.Mix, Work: exact.Int(3), Cooks: 1, Adult: fit.Watches, After: []fit.After{{Step: "weigh"}},
				Uses: []fit.Use{{Equipment: "blender", Places: 1, During: fit.WorkPart}}},
			{ID: "line", Kind: fit.Shape, Work: exact.Int(6), Cooks: 1, Adult: fit.NoAdult, After: []fit.After{{Step: "weigh"}}},
			{ID: "bake", Kind: fit.Bake, Work: exact.Int(1), Wait: exact.Int(20), Cooks: 1, Adult: fit.NoAdult, KeepShut: true,
				After: []fit.After{{Step: "blend", MinGap: exact.Int(1)}, {Step: "line", MaxGap: minutes(40)}}, Uses: oven(180)},
			{ID: "crisp", Kind: fit.Bake, Wait: exact.Int(5), Cooks: 1, Adult: fit.NoAdult,
				After: []fit.After{{Step: "bake"}}, Uses: oven(220)},
		}}},
	}
}

func planOf(t *testing.T, l fit.Lesson) *fit.Plan {
	t.Helper()
	p, err := fit.Solve(l, fit.Options{Runs: 1, Budget: 20})
	require.NoError(t, err)
	require.Empty(t, verify.Plan(l, p))
	return p
}

// stepOf returns one step of one group in the plan, to change it.
func stepOf(t *testing.T, p *fit.Plan, group, step string) *fit.StepPlan {
	t.Helper()
	for g := range p.Groups {
		for s := range p.Groups[g].Steps {
			if p.Groups[g].ID == group && p.Groups[g].Steps[s].Step == step {
				return &p.Groups[g].Steps[s]
			}
		}
	}
	t.Fatalf("no %s of %s", step, group)
	return nil
}

func shift(s *fit.StepPlan, by float64) {
	s.Start += by
	s.WorkEnd += by
	s.End += by
	s.LatestStart += by
}

// A verifier that finds nothing proves nothing: each change to a valid plan
// breaks one rule, and the verifier must say which.
func TestEveryBreachIsFound(t *testing.T) {
	for name, c := range map[string]struct {
		rule, says string
		change     func(t *testing.T, p *fit.Plan)
	}{
		"a start before the door": {"1", "before the door", func(t *testing.T, p *fit.Plan) {
			s := stepOf(t, p, "a", "weigh")
			shift(s, -s.Start-1)
		}},
		"work cut short": {"1", "the work of a/pie/line takes 360 s, not 300 s", func(t *testing.T, p *fit.Plan) {
			stepOf(t, p, "a", "line").Start++
		}},
		"a slow group at the pace of a quick one": {"1", "the work of b/pie/line takes 450 s, not 360 s", func(t *testing.T, p *fit.Plan) {
			stepOf(t, p, "b", "line").Start += 1.5
		}},
		"a bake cut short": {"1", "the wait of a/pie/bake takes 1200 s, not 1140 s", func(t *testing.T, p *fit.Plan) {
			stepOf(t, p, "a", "bake").End--
		}},
		"a third of a second": {"0", "no whole second", func(t *testing.T, p *fit.Plan) {
			shift(stepOf(t, p, "a", "line"), 1.0/180)
		}},
		"three cooks of two": {"2", "has 3 cooks", func(t *testing.T, p *fit.Plan) {
			stepOf(t, p, "a", "weigh").Cooks = 3
		}},
		"two at what one does": {"2", "has 2 cooks", func(t *testing.T, p *fit.Plan) {
			stepOf(t, p, "a", "line").Cooks = 2
		}},
		"a cook at what needs none": {"2", "has 1 cooks and needs none", func(t *testing.T, p *fit.Plan) {
			stepOf(t, p, "a", "crisp").Cooks = 1
		}},
		"cooks at two things at once": {"2", "cooks: 3 in use", func(t *testing.T, p *fit.Plan) {
			weigh, line := stepOf(t, p, "a", "weigh"), stepOf(t, p, "a", "line")
			shift(line, weigh.Start-line.Start)
		}},
		"hands that are not there": {"2", "names cook 3 of 2", func(t *testing.T, p *fit.Plan) {
			stepOf(t, p, "a", "line").Hands = []int{3}
		}},
		"one cook for two": {"2", "has 1 cooks and names 2", func(t *testing.T, p *fit.Plan) {
			stepOf(t, p, "a", "line").Hands = []int{1, 2}
		}},
		"one cook at two things at once": {"2", "a: cook 1: 2 in use", func(t *testing.T, p *fit.Plan) {
			blend, line := stepOf(t, p, "a", "blend"), stepOf(t, p, "a", "line")
			shift(line, blend.Start-line.Start)
			blend.Hands, line.Hands = []int{1}, []int{1}
		}},
		"one adult at two blenders": {"2", "adults: 2 in use", func(t *testing.T, p *fit.Plan) {
			a, b := stepOf(t, p, "a", "blend"), stepOf(t, p, "b", "blend")
			shift(b, a.Start-b.Start)
		}},
		"before what comes first": {"3", "are needed", func(t *testing.T, p *fit.Plan) {
			weigh, line := stepOf(t, p, "a", "weigh"), stepOf(t, p, "a", "line")
			shift(line, weigh.End-1.0/60-line.Start)
		}},
		"too long after": {"3", "are allowed", func(t *testing.T, p *fit.Plan) {
			line, bake := stepOf(t, p, "a", "line"), stepOf(t, p, "a", "bake")
			shift(bake, line.End+41-bake.Start)
		}},
		"two trays in one place": {"4", "in use", func(t *testing.T, p *fit.Plan) {
			for _, g := range []string{"a", "b"} {
				bake := stepOf(t, p, g, "bake")
				bake.Units[0].Unit = "Oven 1"
				shift(bake, 80-bake.Start)
			}
		}},
		"an oven that is not there": {"4", "there is no unit", func(t *testing.T, p *fit.Plan) {
			stepOf(t, p, "a", "bake").Units[0].Unit = "Oven 9"
		}},
		"the wrong kind of thing": {"4", "is of blender", func(t *testing.T, p *fit.Plan) {
			stepOf(t, p, "a", "bake").Units[0] = fit.UnitPlan{Equipment: "blender", Unit: "Blender"}
		}},
		"no oven at all": {"4", "uses 1 things and has 0 units", func(t *testing.T, p *fit.Plan) {
			stepOf(t, p, "a", "bake").Units = nil
		}},
		"into a cold oven": {"5", "it is hot at 600 s", func(t *testing.T, p *fit.Plan) {
			bake := stepOf(t, p, "a", "bake")
			shift(bake, 8-bake.Start)
		}},
		"two temperatures in one oven": {"5", "°C", func(t *testing.T, p *fit.Plan) {
			bake, crisp := stepOf(t, p, "a", "bake"), stepOf(t, p, "b", "crisp")
			bake.Units[0].Unit, crisp.Units[0].Unit = "Oven 2", "Oven 2"
			shift(crisp, bake.End+1-crisp.Start)
		}},
		"a door that is opened": {"6", "must stay shut", func(t *testing.T, p *fit.Plan) {
			a, b := stepOf(t, p, "a", "bake"), stepOf(t, p, "b", "bake")
			a.Units[0].Unit, b.Units[0].Unit = "Oven 2", "Oven 2"
			shift(b, a.Start+5-b.Start)
		}},
		"work in a whole-class phase": {"7", "meets a phase (1800–1920 s)", func(t *testing.T, p *fit.Plan) {
			line := stepOf(t, p, "b", "line")
			shift(line, 25-line.Start)
		}},
		"another deadline": {"7", "the deadline is 6600 s", func(_ *testing.T, p *fit.Plan) { p.Deadline += 5 }},
		"another finish":   {"8", "the last group finishes", func(_ *testing.T, p *fit.Plan) { p.Finish-- }},
		"fits and does not": {"8", "fits is", func(_ *testing.T, p *fit.Plan) {
			p.Fits = !p.Fits
		}},
		"slack that is not there": {"8", "slack", func(_ *testing.T, p *fit.Plan) { p.Slack += 3 }},
		"a bound over the plan":   {"0", "is over the finish", func(_ *testing.T, p *fit.Plan) { p.LowerBound = p.Finish + 1 }},
		"a last moment that is over": {"0", "at the latest", func(t *testing.T, p *fit.Plan) {
			s := stepOf(t, p, "a", "line")
			s.LatestStart = s.Start - 1
		}},
		"a step left out": {"0", "has 5 steps to do and does 4", func(_ *testing.T, p *fit.Plan) {
			p.Groups[0].Steps = p.Groups[0].Steps[:4]
		}},
		"a step done twice": {"0", "is done twice", func(_ *testing.T, p *fit.Plan) {
			p.Groups[0].Steps = append(p.Groups[0].Steps, p.Groups[0].Steps[0])
		}},
		"a step of no dish": {"0", "is not to be done", func(t *testing.T, p *fit.Plan) {
			stepOf(t, p, "a", "line").Step = "fry"
		}},
		"a group left out": {"0", "group b: in the plan false", func(_ *testing.T, p *fit.Plan) {
			p.Groups = slices.DeleteFunc(p.Groups, func(g fit.GroupPlan) bool { return g.ID == "b" })
		}},
		"a group planned twice": {"0", "is planned twice", func(_ *testing.T, p *fit.Plan) {
			p.Groups = append(p.Groups, p.Groups[0])
		}},
		"a group of nobody": {"0", "there is no group c", func(_ *testing.T, p *fit.Plan) {
			p.Groups = append(p.Groups, fit.GroupPlan{ID: "c"})
		}},
		"a group's finish": {"0", "group a finishes at", func(_ *testing.T, p *fit.Plan) { p.Groups[0].Finish++ }},
	} {
		t.Run(name, func(t *testing.T) {
			l := pies()
			p := planOf(t, l)
			c.change(t, p)
			faults := verify.Plan(l, p)
			found := slices.ContainsFunc(faults, func(f string) bool {
				return strings.HasPrefix(f, c.rule+": ") && strings.Contains(f, c.says)
			})
			assert.True(t, found, "rule %s (%s) in\n%s", c.rule, c.says, strings.Join(faults, "\n"))
		})
	}
}

// A conflict excuses a group from the plan, and only that group.
func TestConflictsExcuse(t *testing.T) {
	l := pies()
	p := planOf(t, l)
	p.Groups = slices.DeleteFunc(p.Groups, func(g fit.GroupPlan) bool { return g.ID == "b" })
	p.Conflicts = []fit.Conflict{{Groups: []string{"b"}}}
	finish := p.Groups[0].Finish
	p.Finish, p.Slack, p.Overrun, p.Fits, p.LowerBound = finish, max(0, p.Deadline-finish), max(0, finish-p.Deadline), false, 0
	assert.Empty(t, verify.Plan(l, p))
	p.Conflicts[0].Groups = []string{"a", "b"}
	assert.NotEmpty(t, verify.Plan(l, p), "group a is in the plan and in a conflict")
}

func ExamplePlan() {
	l := fit.Lesson{
		Start: 600, End: 640,
		Groups: []fit.Group{{ID: "g1", Cooks: 1, Pace: exact.Int(1)}},
		Dishes: []fit.Dish{{ID: "toast", Steps: []fit.Step{{ID: "slice", Kind: fit.Cut, Work: exact.Int(3), Cooks: 1, Adult: fit.NoAdult}}}},
	}
	p, err := fit.Solve(l, fit.Options{Budget: 1, Runs: 1})
	fmt.Println(err, len(verify.Plan(l, p)))
	p.Groups[0].Steps[0].WorkEnd-- // too soon
	fmt.Println(len(verify.Plan(l, p)) > 0)
	// Output:
	// <nil> 0
	// true
}
