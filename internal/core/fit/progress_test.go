package fit_test

import (
	"fmt"
	"math"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"freshapron/internal/core/exact"
	"freshapron/internal/core/fit"
	"freshapron/internal/core/fit/verify"
)

// cut stops a plan at a random moment and disturbs what has happened until
// then: steps that nobody has begun yet, that take longer than planned or will
// not be done any more, units that fail, details that nobody noted.
func cut(t *rapid.T, l fit.Lesson, p *fit.Plan) fit.Lesson {
	now := rapid.IntRange(0, int(p.Finish*60)+60).Draw(t, "now")
	odds := func(n int, label string) bool { return rapid.IntRange(0, n-1).Draw(t, label) == 0 }
	at := func(minute float64) exact.Number { return exact.Frac(int64(math.Round(minute*60)), 60) }
	moment := exact.Frac(int64(now), 60)
	l.Now = &moment
	past := func(minute float64) bool { return int(math.Round(minute*60)) <= now }
	for _, g := range p.Groups {
		handsKnown := odds(2, "hands known")
		for _, s := range g.Steps {
			r := fit.Progress{Group: g.ID, Dish: s.Dish, Step: s.Step, Start: at(s.Start)}
			switch {
			case odds(15, "skipped"):
				r.Skipped = true
			case !past(s.Start) || odds(10, "not begun after all"):
				continue
			default:
				cooks := s.Cooks
				r.Cooks, r.Units = &cooks, append([]fit.UnitPlan{}, s.Units...)
				if handsKnown {
					r.Hands = s.Hands
				}
				workEnd, end := at(s.WorkEnd), at(s.End)
				if past(s.WorkEnd) && !odds(10, "works on") {
					r.WorkEnd = &workEnd
				}
				if past(s.End) && r.WorkEnd != nil && !odds(6, "waits on") {
					r.End = &end
					if odds(4, "nobody noted it all") {
						r.WorkEnd, r.Cooks, r.Units, r.Hands = nil, nil, nil, nil
					}
				}
			}
			l.Progress = append(l.Progress, r)
		}
	}
	for odds(3, "a unit fails") {
		e := rapid.SampledFrom(l.Equipment).Draw(t, "equipment")
		u := rapid.SampledFrom(e.Units).Draw(t, "unit")
		o := fit.Outage{Equipment: e.ID, Unit: u.Name, Usable: rapid.Bool().Draw(t, "usable"), From: exact.Int(rapid.Int64Range(0, 70).Draw(t, "from"))}
		if !odds(4, "for good") {
			to := o.From.Add(exact.Int(rapid.Int64Range(0, 40).Draw(t, "for")))
			o.To = &to
		}
		l.Out = append(l.Out, o)
	}
	return l
}

// underWay draws a lesson that has been cut so, of which nothing that is said
// contradicts itself.
func underWay(l fit.Lesson, p *fit.Plan) *rapid.Generator[fit.Lesson] {
	return rapid.Custom(func(t *rapid.T) fit.Lesson { return cut(t, l, p) }).Filter(inOrder)
}

// Whatever has happened, the rest is planned, and validly.
func TestALessonUnderWayIsPlannedAgain(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		l := anyLesson.Draw(t, "lesson")
		p, err := fit.Solve(l, fit.Options{Runs: 20, Budget: 2})
		require.NoError(t, err)
		clashes := p.Conflicts != nil
		l = underWay(l, p).Draw(t, "under way")
		p, err = fit.Solve(l, fit.Options{Runs: 20, Budget: 2})
		require.NoError(t, err)
		require.Empty(t, verify.Plan(l, p))
		if l.Out == nil && !clashes {
			require.Empty(t, p.Conflicts, "nothing in the past makes a conflict")
		}
	})
}

func minute(s string) *exact.Number { n := mins(s); return &n }

func count(n int) *int { return &n }

func planned(t *testing.T, p *fit.Plan, group, step string) fit.StepPlan {
	t.Helper()
	for _, g := range p.Groups {
		for _, s := range g.Steps {
			if g.ID == group && s.Step == step {
				return s
			}
		}
	}
	require.Fail(t, "not in the plan", "%s/%s", group, step)
	return fit.StepPlan{}
}

func oven(n int) []fit.UnitPlan {
	return []fit.UnitPlan{{Equipment: "oven", Unit: fmt.Sprintf("Oven %d", n)}}
}

// Three benches at minute 36, in the whole-class stop from 35 to 37: one that
// has been lining for 8 of 8 minutes before it, one that bakes, one that has
// only weighed.
func TestWhatIsUnderWayGoesOn(t *testing.T) {
	l := tartlets(3)
	l.Now = minute("36")
	l.Progress = []fit.Progress{
		{Group: "g1", Dish: "tartlets", Step: "weigh", Start: mins("13"), End: minute("16")},
		{Group: "g1", Dish: "tartlets", Step: "rub", Cooks: count(1), Start: mins("16"), WorkEnd: minute("25.5"), End: minute("25.5")},
		{Group: "g1", Dish: "tartlets", Step: "fill", Cooks: count(1), Start: mins("29"), Hands: []int{2}},
		{Group: "g2", Dish: "tartlets", Step: "weigh", Start: mins("13"), End: minute("16")},
		{Group: "g2", Dish: "tartlets", Step: "rub", Start: mins("16"), End: minute("22")},
		{Group: "g2", Dish: "tartlets", Step: "fill", Start: mins("22"), End: minute("30")},
		{Group: "g2", Dish: "tartlets", Step: "bake", Cooks: count(1), Start: mins("30"), WorkEnd: minute("31.25"), Units: oven(1)},
		{Group: "g3", Dish: "tartlets", Step: "weigh", Start: mins("13"), End: minute("20")},
	}
	p := solve(t, l)
	fill := planned(t, p, "g1", "fill")
	assert.InDelta(t, 39, fill.WorkEnd, 1e-6, "six minutes before the stop and two after it")
	assert.Equal(t, []int{2}, fill.Hands)
	assert.InDelta(t, 39, planned(t, p, "g1", "bake").Start, 1e-6)
	bake := planned(t, p, "g2", "bake")
	assert.InDelta(t, 31.25+18, bake.End, 1e-6)
	assert.InDelta(t, 30, bake.LatestStart, 1e-6)
	assert.Equal(t, oven(1), bake.Units)
	assert.InDelta(t, 37, planned(t, p, "g3", "rub").Start, 1e-6, "when the stop is over")
	assert.InDelta(t, 37+6+8+1+18, p.Finish, 1e-6)
	assert.InDelta(t, p.Finish, p.LowerBound, 1e-6)
	assert.Empty(t, p.Late)

	// Over twice as long as planned: it is taken to end now.
	l.Now = minute("50")
	l.Progress[6].End = minute("49")
	p = solve(t, l)
	assert.InDelta(t, 50, planned(t, p, "g1", "fill").End, 1e-6)
	assert.InDelta(t, 50+19-53, planned(t, p, "g1", "bake").End-p.Deadline, 1e-6)
	assert.False(t, p.Fits)
}

// A gap of 5 minutes since minute 30 can't be kept at minute 36: the bake is
// late, and starts as soon as the only shelf is free.
func TestAGapThatIsMissedAlready(t *testing.T) {
	l := tartlets(2)
	l.Equipment[0].Units = []fit.Unit{{Name: "Oven 1", Places: 1}}
	l.Now = minute("38")
	done := func(group, step, from, to string) fit.Progress {
		return fit.Progress{Group: group, Dish: "tartlets", Step: step, Start: mins(from), End: minute(to)}
	}
	l.Progress = []fit.Progress{
		done("g1", "weigh", "13", "16"), done("g1", "rub", "16", "22"), done("g1", "fill", "22", "30"),
		done("g2", "weigh", "13", "16"), done("g2", "rub", "16", "22"), done("g2", "fill", "22", "30"),
		{Group: "g2", Dish: "tartlets", Step: "bake", Cooks: count(1), Start: mins("30"), WorkEnd: minute("31"), Units: oven(1)},
	}
	p := solve(t, l)
	bake := planned(t, p, "g1", "bake")
	assert.InDelta(t, 31+18, bake.WorkEnd, 1e-6)
	assert.Equal(t, []fit.Late{{Group: "g1", Dish: "tartlets", Step: "bake", Minutes: 48 - 35}}, p.Late)
	assert.InDelta(t, bake.Start, bake.LatestStart, 1e-6)

	// The oven fails: nothing can bake any more, and the plan says what.
	l.Out = []fit.Outage{{Equipment: "oven", Unit: "Oven 1", From: mins("38")}}
	p = solve(t, l)
	require.Len(t, p.Conflicts, 1)
	assert.Equal(t, []string{"g1", "g2"}, p.Conflicts[0].Groups)
	assert.Equal(t, "dishes[0].steps[3].uses[0]", p.Conflicts[0].Rules[0].Path)

	// With the heat off and the door shut, what is in it stays.
	l.Out[0].Usable = true
	p = solve(t, l)
	assert.Equal(t, []string{"g1"}, p.Conflicts[0].Groups)
	assert.InDelta(t, 49, planned(t, p, "g2", "bake").End, 1e-6)

	// There is a second oven, not yet hot: the tray begins anew in it.
	l.Out[0].Usable = false
	l.Equipment[0].Units = append(l.Equipment[0].Units, fit.Unit{Name: "Oven 2", Places: 2})
	p = solve(t, l)
	assert.Empty(t, p.Conflicts)
	again := planned(t, p, "g2", "bake")
	assert.Equal(t, oven(2), again.Units)
	assert.InDelta(t, 38, again.Start, 1e-6)
	require.Len(t, p.Late, 2)
	assert.Equal(t, fit.Late{Group: "g2", Dish: "tartlets", Step: "bake", Minutes: 57 - 49}, p.Late[0])

	// What will not be done any more holds nobody up.
	l.Progress[6] = fit.Progress{Group: "g2", Dish: "tartlets", Step: "bake", Skipped: true}
	p = solve(t, l)
	assert.Len(t, p.Groups[1].Steps, 3)
	assert.Len(t, p.Late, 1)
}

// BenchmarkUnderWay plans the rest of a lesson of sixteen benches, in which
// every bench has fallen behind by another few minutes.
func BenchmarkUnderWay(b *testing.B) {
	for _, l := range []fit.Lesson{grown(16, 15), class(3), class(7)} {
		p, err := fit.Solve(l, fit.Options{Runs: 1})
		require.NoError(b, err)
		now := exact.Int(int64(p.Finish / 2))
		l.Now = &now
		for i, g := range p.Groups {
			for _, s := range g.Steps {
				behind := exact.Int(int64(i % 4))
				at := func(m float64) exact.Number { return exact.Frac(int64(math.Round(m*60)), 60).Add(behind) }
				r := fit.Progress{Group: g.ID, Dish: s.Dish, Step: s.Step, Start: at(s.Start), Cooks: &s.Cooks, Units: append([]fit.UnitPlan{}, s.Units...)}
				if workEnd := at(s.WorkEnd); !now.Less(workEnd) {
					r.WorkEnd = &workEnd
				}
				if end := at(s.End); !now.Less(end) {
					r.End = &end
				}
				if !now.Less(r.Start) {
					l.Progress = append(l.Progress, r)
				}
			}
		}
		if l.Check() != nil { // two behind by different minutes may meet at an oven
			continue
		}
		b.Run(fmt.Sprintf("benches=%d", len(l.Groups)), func(b *testing.B) {
			for b.Loop() {
				_, err := fit.Solve(l, fit.Options{})
				require.NoError(b, err)
			}
		})
	}
}

// Everything that can be wrong with what was recorded, at its path.
func TestFaultsOfProgress(t *testing.T) {
	sound := func() fit.Lesson {
		l := tartlets(2)
		l.Now = minute("40")
		l.Progress = []fit.Progress{
			{Group: "g1", Dish: "tartlets", Step: "weigh", Cooks: count(2), Start: mins("13"), WorkEnd: minute("19.25"), End: minute("19.25")},
			{Group: "g1", Dish: "tartlets", Step: "rub", Cooks: count(1), Hands: []int{1}, Start: mins("19.25")},
			{Group: "g2", Dish: "tartlets", Step: "bake", Cooks: count(1), Start: mins("29"), WorkEnd: minute("30"), Units: oven(1)},
		}
		return l
	}
	require.NoError(t, sound().Check())
	for _, c := range []struct {
		path  string
		spoil func(l *fit.Lesson)
	}{
		{"now_min", func(l *fit.Lesson) { l.Now = nil }},
		{"now_min", func(l *fit.Lesson) { l.Now = minute("-1") }},
		{"progress[0].group", func(l *fit.Lesson) { l.Progress[0].Group = "g7" }},
		{"progress[0].dish", func(l *fit.Lesson) { l.Progress[0].Dish = "scones" }},
		{"progress[1].step", func(l *fit.Lesson) { l.Progress[1].Step = "rubb" }},
		{"progress[2]", func(l *fit.Lesson) { l.Progress[2] = l.Progress[1] }},
		{"progress[0].end_min", func(l *fit.Lesson) { l.Progress[0].End = minute("40.1") }},
		{"progress[1].start_min", func(l *fit.Lesson) { l.Progress[1].Start = mins("41") }},
		{"progress[2].work_end_min", func(l *fit.Lesson) { l.Progress[2].WorkEnd = minute("28") }},
		{"progress[0].end_min", func(l *fit.Lesson) { l.Progress[0].End = minute("12") }},
		{"progress[0].end_min", func(l *fit.Lesson) { l.Progress[0].End = minute("19") }},
		{"progress[1].cooks", func(l *fit.Lesson) { l.Progress[1].Cooks = nil }},
		{"progress[1].cooks", func(l *fit.Lesson) { l.Progress[1].Cooks, l.Progress[1].Hands = count(3), nil }},
		{"progress[1].hands", func(l *fit.Lesson) { l.Progress[1].Hands = []int{1, 2} }},
		{"progress[1].hands[0]", func(l *fit.Lesson) { l.Progress[1].Hands = []int{3} }},
		{"progress[2].units", func(l *fit.Lesson) { l.Progress[2].Units = nil }},
		{"progress[2].units[0].unit", func(l *fit.Lesson) { l.Progress[2].Units = oven(3) }},
		{"progress[2].units[0].equipment", func(l *fit.Lesson) { l.Progress[2].Units = []fit.UnitPlan{{Equipment: "hob", Unit: "Oven 1"}} }},
		{"progress[3].cooks", func(l *fit.Lesson) { // the cook who rubs in, and two who line
			l.Progress = append(l.Progress, fit.Progress{Group: "g1", Dish: "tartlets", Step: "fill", Cooks: count(2), Start: mins("40")})
		}},
		{"progress[3].hands[0]", func(l *fit.Lesson) {
			l.Progress = append(l.Progress, fit.Progress{Group: "g1", Dish: "tartlets", Step: "fill", Cooks: count(1), Hands: []int{1}, Start: mins("30")})
		}},
		{"progress[3].units[0].unit", func(l *fit.Lesson) { // one tray is in the only shelf
			l.Equipment[0].Units[0].Places = 1
			l.Progress = append(l.Progress, fit.Progress{Group: "g1", Dish: "tartlets", Step: "bake", Cooks: count(1), Start: mins("35"), WorkEnd: minute("36"), Units: oven(1)})
		}},
		{"progress[3]", func(l *fit.Lesson) { // one adult for two bakes
			l.Adults = 1
			l.Progress[2].WorkEnd = nil
			l.Progress = append(l.Progress, fit.Progress{Group: "g1", Dish: "tartlets", Step: "bake", Cooks: count(1), Start: mins("40"), Units: oven(2)})
		}},
		{"room.out[0].equipment", func(l *fit.Lesson) { l.Out = []fit.Outage{{Equipment: "hob", Unit: "Oven 1"}} }},
		{"room.out[0].unit", func(l *fit.Lesson) { l.Out = []fit.Outage{{Equipment: "oven", Unit: "Oven 9"}} }},
		{"room.out[0].to_min", func(l *fit.Lesson) {
			l.Out = []fit.Outage{{Equipment: "oven", Unit: "Oven 1", From: mins("9"), To: minute("8")}}
		}},
	} {
		l := sound()
		c.spoil(&l)
		assert.ErrorContains(t, l.Check(), c.path+":", c.path)
	}
}
