package assess_test

import (
	"math"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"

	"freshapron/internal/core/assess"
	"freshapron/internal/core/clock"
	"freshapron/internal/core/exact"
	"freshapron/internal/core/fit"
)

// A flan with leeks, fried chicken beside it and seeds that are toasted hotter, in a room
// with one oven and one ring. What is done has to be done by minute 90.
func flan() fit.Lesson {
	minutes := func(m string) *exact.Number { x := n(m); return &x }
	step := func(id, title string, kind fit.Kind, work, wait int64, after ...fit.After) fit.Step {
		return fit.Step{ID: id, Title: title, Kind: kind, Work: exact.Int(work), Wait: exact.Int(wait), Cooks: 1, After: after}
	}
	using := func(s fit.Step, uses ...fit.Use) fit.Step { s.Uses = uses; return s }
	ring := fit.Use{Equipment: "ring", Places: 1, During: fit.WholeStep}
	oven := func(degrees string) fit.Use {
		return fit.Use{Equipment: "oven", Places: 1, Temperature: minutes(degrees), During: fit.WaitPart}
	}
	return fit.Lesson{
		Start: 9 * 60, End: 9*60 + 100,
		Phases: []fit.Phase{{Name: "Clear up", Minutes: n("10"), Place: fit.AtEnd}},
		Equipment: []fit.Equipment{
			{ID: "oven", Temperature: true, Preheat: n("12"), Reheat: n("6"), Units: []fit.Unit{{Name: "oven", Places: 2}}},
			{ID: "ring", Units: []fit.Unit{{Name: "ring", Places: 1}}},
		},
		Groups: []fit.Group{{ID: "a", Cooks: 1}},
		Dishes: []fit.Dish{{ID: "flan", Title: "Flan", Steps: []fit.Step{
			step("rub", "Rub in", fit.Mix, 8, 0),
			step("rest", "Rest the pastry", fit.Rest, 0, 15, fit.After{Step: "rub"}),
			step("line", "Line the tin", fit.Shape, 8, 0, fit.After{Step: "rest"}),
			using(step("leeks", "Soften the leeks", fit.Cook, 6, 0), ring),
			using(step("bake", "Bake the flan", fit.Bake, 1, 24, fit.After{Step: "line"}, fit.After{Step: "leeks", MaxGap: minutes("16")}), oven("190")),
			step("cut", "Cut the chicken", fit.Cut, 6, 0),
			using(step("fry", "Fry the chicken and probe the middle", fit.Cook, 10, 0, fit.After{Step: "cut"}), ring),
			using(step("toast", "Toast the seeds", fit.Bake, 1, 10), oven("220")),
			step("clear", "Clear away", fit.Clean, 5, 0),
		}}},
	}
}

type plan []assess.Row

// good is a plan for the flan of which nothing is wrong. A row is known by its step, or
// by its first word.
func good() plan {
	of := func(at float64, step, what string, minutes float64) assess.Row {
		return assess.Row{At: at, Step: step, What: what, Minutes: minutes}
	}
	p := plan{
		of(5, "", "preheat the oven", 1), of(6, "rub", "rub in", 8), of(14, "rest", "rest", 0), of(15, "leeks", "leeks", 6), of(21, "cut", "cut the chicken", 6), of(27, "", "wash hands and board", 2),
		of(29, "line", "line the tin", 8), of(37, "bake", "flan in", 1), of(38, "fry", "fry, then probe", 10), of(48, "", "washing up", 10), of(62, "", "take the flan out of the oven", 1), of(69, "toast", "seeds in", 1),
	}
	for i := range p {
		p[i].Line = i + 2
	}
	return p
}

func (p plan) row(name string) *assess.Row {
	first := map[string]string{"on": "preheat the oven", "hands": "wash hands and board", "wash": "washing up", "out": "take the flan out of the oven"}
	return &p[slices.IndexFunc(p, func(r assess.Row) bool { return name == r.Step || r.What == first[name] })]
}

type change func(plan) plan

func at(name string, minute float64) change {
	return func(p plan) plan { p.row(name).At = minute; return p }
}

func takes(name string, minutes float64) change {
	return func(p plan) plan { p.row(name).Minutes = minutes; return p }
}

func says(name, what string) change {
	return func(p plan) plan { p.row(name).What = what; return p }
}

func without(name string) change {
	return func(p plan) plan {
		line := p.row(name).Line
		return slices.DeleteFunc(p, func(r assess.Row) bool { return r.Line == line })
	}
}

func both(list ...change) change {
	return func(p plan) plan {
		for _, c := range list {
			p = c(p)
		}
		return p
	}
}

func more(r assess.Row) change { return func(p plan) plan { r.Line = len(p) + 2; return append(p, r) } }

// Every rule on both sides of where it begins. People write whole minutes, so that a
// minute is forgiven, and of work a quarter.
func TestWhereTheRulesBegin(t *testing.T) {
	l := flan()
	p := assess.CheckTimePlan(l, good())
	assert.Empty(t, p.Findings)
	assert.Empty(t, p.Asks)
	assert.Equal(t, 80.0, p.Finish)
	assert.Equal(t, 6.0, p.Idle, "between the flan and the seeds")

	nobody := []string{}
	for _, c := range []struct {
		rule   string
		change change
		rows   []string // that the finding is about; nil where there is none
		says   string
	}{
		{"before", at("rest", 11), nil, "two of eight minutes' rubbing in, and one, are forgiven"},
		{"before", at("rest", 10.5), []string{"rub", "rest"}, "and no more"},
		{"before", both(at("line", 28), at("bake", 38)), nil, "a minute of 15 of rest, and their quarter"},
		{"before", at("line", 24), []string{"rest", "line"}, "the pastry has rested for ten of 15"},
		{"keeps", at("bake", 38), nil, "the leeks keep for 16, and a minute"},
		{"keeps", at("bake", 38.5), []string{"leeks", "bake"}, ""},
		{"hands", at("cut", 20), nil, "a minute beside the leeks"},
		{"hands", at("cut", 19.5), []string{"leeks", "cut"}, "two things with two hands"},
		{"hands", both(takes("leeks", 0), at("cut", 18.5)), nil, "a plan without minutes: a quarter of six is cut short by the next row"},
		{"hands", both(takes("leeks", 0), at("cut", 18)), []string{"leeks", "cut"}, ""},
		{"room", at("fry", 20), nil, "one ring, and a minute"},
		{"room", at("fry", 19.5), []string{"leeks", "fry"}, "two pans on one ring"},
		{"room", at("toast", 60), nil, "in at 61, and the flan is out at 62"},
		{"room", at("toast", 59.5), []string{"bake", "toast"}, "190 and 220 in one oven"},
		{"heat", at("on", 27), nil, "hot at 39, in at 38"},
		{"heat", at("on", 27.5), []string{"on", "bake"}, "in before it is hot"},
		{"heat", at("toast", 66), nil, "five of the six minutes from 190 to 220"},
		{"heat", at("toast", 65.5), []string{"bake", "toast"}, "too soon after the flan"},
		{"short", takes("rub", 6), nil, "three quarters of eight"},
		{"short", takes("rub", 5.9), []string{"rub"}, ""},
		{"short", takes("bake", 2), nil, "only putting it in"},
		{"short", takes("bake", 19), nil, "over three quarters of 25"},
		{"short", takes("bake", 18), []string{"bake"}, ""},
		{"short", at("out", 56), nil, "18 of 24 minutes"},
		{"short", at("out", 55.5), []string{"bake", "out"}, "pale"},
		{"late", at("toast", 80), nil, "done at 91"},
		{"late", at("toast", 80.5), []string{"toast"}, ""},
		{"wash", without("wash"), nobody, "nobody washes up"},
		{"wash", both(without("wash"), more(assess.Row{At: 48, What: "everything away", Step: "clear"})), nil, "by the recipe's own step"},
		{"safe", without("hands"), []string{"cut"}, "from raw chicken to the pastry"},
		{"safe", both(without("hands"), says("line", "wash hands, then line the tin")), nil, "at the beginning of the next"},
		{"safe", both(without("hands"), says("cut", "cut the chicken and wash hands")), nil, "in the same row"},
		{"safe", both(without("hands"), at("on", 28)), []string{"cut"}, "turning an oven on is no washing"},
		{"safe", says("fry", "fry till done"), []string{"fry"}, "the recipe has a probe"},
		{"missing", without("leeks"), nobody, ""},
		{"idle", at("toast", 71), nil, "eight minutes are nothing"},
		{"idle", at("toast", 71.5), []string{"out", "toast"}, "the seeds could be in the oven"},
		{"row", at("leeks", math.NaN()), []string{"leeks"}, "no time of day"},
		{"row", more(assess.Row{At: 70, What: "sing", Step: "song"}), []string{"song"}, "no step of the recipe"},
	} {
		changed := c.change(good())
		p := assess.CheckTimePlan(l, changed)
		i := slices.IndexFunc(p.Findings, func(f assess.Finding) bool { return f.Rule == c.rule })
		if c.rows == nil {
			assert.Equal(t, -1, i, "%s: %s: %v", c.rule, c.says, p.Findings)
			continue
		}
		if assert.NotEqual(t, -1, i, "%s: %s: %v", c.rule, c.says, p.Findings) {
			lines := []int{}
			for _, name := range c.rows {
				lines = append(lines, changed.row(name).Line)
			}
			slices.Sort(lines)
			assert.Equal(t, lines, p.Findings[i].Lines, "%s: %s", c.rule, c.says)
			assert.NotEmpty(t, p.Findings[i].Mend)
		}
	}
}

// What a rule says depends on the lesson too.
func TestRulesOfALesson(t *testing.T) {
	rules := func(l fit.Lesson, p plan) []string {
		out := []string{}
		for _, f := range assess.CheckTimePlan(l, p).Findings {
			out = append(out, f.Rule)
		}
		return out
	}
	l := flan()
	l.Groups[0].Cooks = 2
	assert.Empty(t, rules(l, at("cut", 16)(good())), "two cooks have four hands")
	assert.Contains(t, rules(l, both(at("cut", 16), at("rub", 12))(good())), "hands", "but not six")

	l = flan()
	l.Groups[0].Cooks, l.Dishes[0].Steps[0].Shareable = 2, true
	assert.NotContains(t, rules(l, takes("rub", 3)(good())), "short", "two share eight minutes, and a quarter is forgiven")

	l = flan()
	l.Equipment[0].OnAt = n("27.5")
	assert.Contains(t, rules(l, without("on")(good())), "heat", "the room turns the oven on")
	assert.NotContains(t, rules(l, at("on", 20)(good())), "heat", "unless the learner does")

	l = flan()
	l.Equipment[0].Units = append(l.Equipment[0].Units, fit.Unit{Name: "other", Places: 2})
	assert.NotContains(t, rules(l, at("toast", 59.5)(good())), "room", "two ovens have two temperatures")

	l = flan()
	l.Dishes[0].Steps[7].After = []fit.After{{Step: "bake", MinGap: n("6")}}
	assert.NotContains(t, rules(l, at("toast", 72)(good())), "idle", "it has to wait for the flan")

	l = flan()
	l.End = clock.Time(9*60 + 85)
	assert.Contains(t, rules(l, good()), "late")
}

// What an adult does leaves the learner's hands free; a row with the title of a step is
// that step, whatever it sounds like.
func TestWhatAnAdultDoes(t *testing.T) {
	l := flan()
	rows := []assess.Row{{Line: 2, At: 0, What: "Rub in", Step: "rub"}, {Line: 3, At: 1, What: "Cut the chicken", Step: "cut"}}
	hands := func() bool {
		return slices.ContainsFunc(assess.CheckTimePlan(l, rows).Findings, func(f assess.Finding) bool { return f.Rule == "hands" })
	}
	assert.True(t, hands())
	l.Dishes[0].Steps[5].Adult = fit.Watches
	assert.True(t, hands(), "who is watched works")
	l.Dishes[0].Steps[5].Adult = fit.Does
	assert.False(t, hands())
	l.Dishes[0].Steps[0].Title = "Wash hands and rub in"
	read := assess.CheckTimePlan(l, []assess.Row{{Line: 2, At: 0, What: "wash hands and rub in"}}).Rows
	assert.Equal(t, []string{"rub"}, read[0].Steps)
	assert.Equal(t, assess.WashHands, read[0].Means)
}
