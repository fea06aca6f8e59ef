package fit_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"freshapron/internal/core/exact"
	"freshapron/internal/core/fit"
)

// Two trays are in an oven of two, somebody gets a third ready for it, and a
// fourth is to follow: the third is not the plan's to stop, the fourth goes in
// as the first two come out.
func TestMoreIsUnderWayThanThereIsRoomFor(t *testing.T) {
	l := fit.Lesson{
		Title: "Crowded", Start: 540, End: 660, Now: gap("10"),
		Equipment: []fit.Equipment{{ID: "oven", Units: []fit.Unit{{Name: "Oven 1", Places: 2}}}},
		Dishes: []fit.Dish{{ID: "buns", Title: "Buns", Steps: []fit.Step{{
			ID: "bake", Title: "Bake", Kind: fit.Bake, Work: mins("1"), Wait: mins("20"), Cooks: 1, Adult: fit.NoAdult,
			Uses: []fit.Use{{Equipment: "oven", Places: 1, During: fit.WaitPart}},
		}}}},
	}
	for _, id := range []string{"a", "b", "c", "d"} {
		l.Groups = append(l.Groups, fit.Group{ID: id, Cooks: 1, Pace: exact.Int(1)})
	}
	one := 1
	for group, workEnd := range map[string]*exact.Number{"a": gap("3"), "b": gap("3"), "c": nil} {
		r := fit.Progress{Group: group, Dish: "buns", Step: "bake", Cooks: &one, Start: mins("2"), WorkEnd: workEnd, Units: []fit.UnitPlan{{Equipment: "oven", Unit: "Oven 1"}}}
		if workEnd == nil {
			r.Start = mins("9.5")
		}
		l.Progress = append(l.Progress, r)
	}
	require.True(t, fit.Admitted(l))
	p := solve(t, l)
	require.Len(t, p.Groups, 4)
	assert.Equal(t, 30.5, p.Groups[2].Finish)
	assert.Equal(t, 22.0, p.Groups[3].Steps[0].Start)
	assert.Equal(t, 43.0, p.Finish)
}

// A model that ruled out a plan there is would prove what is not so: whatever
// the search has found, whether or not the lesson has begun, the model admits.
func TestTheModelAdmitsEveryPlan(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		l := anyLesson.Draw(t, "lesson")
		require.True(t, fit.Admitted(l))
		p, err := fit.Solve(l, fit.Options{Runs: 1, Budget: 1})
		require.NoError(t, err)
		require.True(t, fit.Admitted(underWay(l, p).Draw(t, "under way")))
	})
}
