package fit_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"freshapron/internal/core/exact"
	"freshapron/internal/core/fit"
	"freshapron/internal/core/problem"
)

func stepOf(t *testing.T, p *fit.Plan, group, step string) fit.StepPlan {
	t.Helper()
	for _, g := range p.Groups {
		for _, s := range g.Steps {
			if g.ID == group && s.Step == step {
				return s
			}
		}
	}
	require.Fail(t, "no such step")
	return fit.StepPlan{}
}

func TestPinLater(t *testing.T) {
	l := tartlets(2)
	l.Groups[1].Pins = []fit.Pin{{Dish: "tartlets", Step: "rub", NotBefore: gap("24.5")}}
	p := solve(t, l)
	s := stepOf(t, p, "g2", "rub")
	// From 24:30 the six minutes are over before the stop at 35.
	assert.InDelta(t, 24.5, s.Start, 1e-9)
	assert.Equal(t, fit.Wait{Minutes: s.Held.Minutes, For: "pin", Until: s.Start}, s.Held)
	assert.Less(t, p.Groups[0].Finish, p.Groups[1].Finish, "only the pinned bench is later")
}

// Five trays and four shelves: the bench that is pinned to begin early is not
// the one that waits.
func TestPinEarlier(t *testing.T) {
	l := tartlets(5)
	late := ""
	for _, g := range solve(t, l).Groups {
		for _, s := range g.Steps {
			if s.Step == "bake" && s.Start > 40 {
				late = g.ID
			}
		}
	}
	require.Equal(t, "g5", late)
	l.Groups[4].Pins = []fit.Pin{{Dish: "tartlets", Step: "bake", BeginBy: gap("34")}}
	p := solve(t, l)
	assert.LessOrEqual(t, stepOf(t, p, "g5", "bake").Start, 34.0)
	assert.Empty(t, p.LatePins)
	assert.InDelta(t, solve(t, tartlets(5)).Finish, p.Finish, 1e-9, "somebody else waits as long")
}

func TestPinThatCannotBeKept(t *testing.T) {
	l := tartlets(1)
	l.Groups[0].Pins = []fit.Pin{{Dish: "tartlets", Step: "bake", BeginBy: gap("20")}}
	p := solve(t, l)
	start := stepOf(t, p, "g1", "bake").Start
	require.Len(t, p.LatePins, 1)
	assert.Equal(t, "bake", p.LatePins[0].Step)
	assert.InDelta(t, start-20, p.LatePins[0].Minutes, 1e-9)
	assert.InDelta(t, solve(t, tartlets(1)).Finish, p.Finish, 1e-9, "it begins as soon as it can")
}

func TestPinToAnOven(t *testing.T) {
	l := tartlets(3)
	for i := range l.Groups {
		l.Groups[i].Pins = []fit.Pin{{Dish: "tartlets", Step: "bake", Units: []string{"Oven 2"}}}
	}
	p := solve(t, l)
	bakes := map[string]int{}
	for _, g := range p.Groups {
		bakes[stepOf(t, p, g.ID, "bake").Units[0].Unit]++
	}
	assert.Equal(t, map[string]int{"Oven 2": 3}, bakes)
	assert.False(t, p.Fits, "the third tray waits for a shelf of the one oven")
}

// With both adults out for ten minutes nobody may go to the oven; with one
// out the two benches go one after the other.
func TestAdultOut(t *testing.T) {
	l := tartlets(2)
	usual := stepOf(t, solve(t, l), "g1", "bake").Start
	l.Away = []fit.Away{{Adults: 2, From: exact.Int(30), Minutes: exact.Int(10)}}
	p := solve(t, l)
	assert.Less(t, usual, 40.0)
	assert.InDelta(t, 40, stepOf(t, p, "g1", "bake").Start, 1e-9)
	assert.InDelta(t, 40, stepOf(t, p, "g2", "bake").Start, 1e-9)
	assert.Equal(t, "adults", stepOf(t, p, "g1", "bake").Held.For)

	l.Away[0].Adults = 1
	p = solve(t, l)
	assert.InDelta(t, 1, stepOf(t, p, "g2", "bake").Start-stepOf(t, p, "g1", "bake").Start, 1e-9)
}

func TestCheckOfPinsAndAbsences(t *testing.T) {
	for name, c := range map[string]struct {
		pin  fit.Pin
		away []fit.Away
		path string
		says string
	}{
		"no such step": {pin: fit.Pin{Dish: "tartlets", Step: "ice"}, path: "groups[0].pins[0].step", says: "no dish"},
		"in the wrong order": {pin: fit.Pin{Dish: "tartlets", Step: "bake", NotBefore: gap("30"), BeginBy: gap("20")},
			path: "groups[0].pins[0].begin_by", says: "before minute 30"},
		"no such oven":  {pin: fit.Pin{Dish: "tartlets", Step: "bake", Units: []string{"Oven 9"}}, path: "groups[0].pins[0].units[0]", says: "no unit"},
		"before time":   {pin: fit.Pin{Dish: "tartlets", Step: "bake", NotBefore: gap("-1")}, path: "groups[0].pins[0].not_before", says: "less than 0"},
		"too many out":  {away: []fit.Away{{Adults: 3, Minutes: exact.Int(5)}}, path: "room.adults_out[0].adults", says: "3 adults are out at once, and the lesson has 2"},
		"nobody is out": {away: []fit.Away{{Adults: 0, Minutes: exact.Int(5)}}, path: "room.adults_out[0].adults", says: "at least 1"},
	} {
		t.Run(name, func(t *testing.T) {
			l := tartlets(1)
			l.Away = c.away
			if c.pin.Step != "" {
				l.Groups[0].Pins = []fit.Pin{c.pin}
			}
			var problems problem.List
			require.ErrorAs(t, l.Check(), &problems)
			assert.Equal(t, c.path, problems[0].Path)
			assert.Contains(t, problems[0].Says, c.says)
		})
	}
}

// The chain of five benches at four shelves: the fifth tray waits for the
// first, which waited for its own dough.
func TestLongestChain(t *testing.T) {
	p := solve(t, tartlets(5))
	var got []string
	for _, link := range p.Chain {
		got = append(got, link.After+" "+link.Step)
	}
	require.NotEmpty(t, got)
	assert.Equal(t, "oven bake", got[len(got)-1])
	assert.Equal(t, "rule bake", got[len(got)-2])
	assert.InDelta(t, p.Finish, p.Chain[len(p.Chain)-1].End, 1e-9)
	for i := 1; i < len(p.Chain); i++ {
		assert.LessOrEqual(t, p.Chain[i-1].Start, p.Chain[i].Start)
	}
}

// Two bakes behind one door that must stay shut for each, of which the second
// may wait only a minute: with one oven the rules exclude each other, and the
// plan says which; the other bench is planned.
func TestBakesThatBlockEachOther(t *testing.T) {
	l := tartlets(2)
	l.Phases = nil
	l.Equipment[0].Units = []fit.Unit{{Name: "Oven 1", Places: 2}}
	bake := func(id string, wait string) fit.Step {
		return fit.Step{ID: id, Kind: fit.Bake, Wait: mins(wait), Cooks: 1, Adult: fit.NoAdult, KeepShut: true,
			After: []fit.After{{Step: "fill", MaxGap: gap("1")}},
			Uses:  []fit.Use{{Equipment: "oven", Places: 1, Temperature: celsius(190), During: fit.WaitPart}}}
	}
	fill := fit.Step{ID: "fill", Kind: fit.Shape, Work: mins("3"), Cooks: 1, Adult: fit.NoAdult}
	l.Dishes[0].Steps = []fit.Step{fill, bake("tart", "20"), bake("crumble", "25")}
	l.Dishes = append(l.Dishes, fit.Dish{ID: "salad", Steps: []fit.Step{fill}})
	l.Groups[0].Dishes, l.Groups[1].Dishes = []string{"tartlets"}, []string{"salad"}
	p := solve(t, l)
	require.Len(t, p.Conflicts, 1)
	assert.Equal(t, []string{"g1"}, p.Conflicts[0].Groups)
	assert.Len(t, p.Conflicts[0].Rules, 2)
	assert.Contains(t, p.Conflicts[0].Says, "no plan of any length can keep these together")
	require.Len(t, p.Groups, 1)
	l.Equipment[0].Units = append(l.Equipment[0].Units, fit.Unit{Name: "Oven 2", Places: 1})
	assert.Empty(t, solve(t, l).Conflicts, "with a second oven each has its own")
}

// Absences that follow one another take one adult; those that overlap by a minute take two.
func TestAbsencesThatTouch(t *testing.T) {
	l := tartlets(2)
	l.Adults = 1
	l.Away = []fit.Away{{Adults: 1, From: mins("10"), Minutes: mins("5")}, {Adults: 1, From: mins("15"), Minutes: mins("5")}, {Adults: 1, From: mins("5"), Minutes: mins("5")}}
	assert.NoError(t, l.Check())
	l.Away[2].Minutes = mins("6")
	assert.ErrorContains(t, l.Check(), "room.adults_out[2].adults: 2 adults are out at once, and the lesson has 1")
}

// Pins that are missed are listed by how much, and by group where they are missed alike.
func TestLatePinsInOrder(t *testing.T) {
	l := tartlets(3)
	for g, by := range []string{"20", "20", "14"} {
		at := mins(by)
		l.Groups[g].Pins = []fit.Pin{{Dish: "tartlets", Step: "bake", BeginBy: &at}}
	}
	p := solve(t, l)
	var groups []string
	for _, late := range p.LatePins {
		groups = append(groups, late.Group)
	}
	assert.Equal(t, []string{"g3", "g1", "g2"}, groups)
}
