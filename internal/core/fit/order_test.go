package fit_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"pgregory.net/rapid"

	"freshapron/internal/core/exact"
	"freshapron/internal/core/fit"
	"freshapron/internal/core/fit/verify"
)

// alone is a lesson of an hour for one cook.
func alone(steps ...fit.Step) fit.Lesson {
	for i := range steps {
		steps[i].Kind, steps[i].Cooks, steps[i].Adult = fit.Mix, 1, fit.NoAdult
	}
	return fit.Lesson{End: 60, Groups: []fit.Group{{ID: "g", Cooks: 1, Pace: exact.Int(1)}}, Dishes: []fit.Dish{{ID: "d", Steps: steps}}}
}

// The soaking that must not end long before the mixing can begin later, too.
func TestTheOtherEndOfAGapMovesToo(t *testing.T) {
	p := solve(t, alone(
		fit.Step{ID: "chop", Work: mins("10")},
		fit.Step{ID: "soak", Wait: mins("5")},
		fit.Step{ID: "mix", Work: mins("5"), After: []fit.After{{Step: "chop"}, {Step: "soak", MaxGap: gap("2")}}},
	))
	assert.InDelta(t, 45, planned(t, p, "g", "chop").LatestStart, 1e-9)
}

// Half an hour after the end of the rest is beyond the whole-class stop.
func TestLastMomentsBeyondAPhase(t *testing.T) {
	l := alone(
		fit.Step{ID: "rest", Wait: mins("5")},
		fit.Step{ID: "shape", Work: mins("4"), After: []fit.After{{Step: "rest", MaxGap: gap("30")}}},
	)
	l.Phases = []fit.Phase{{Name: "Stop", Minutes: mins("20"), Place: fit.AtMinute, Minute: mins("12")}}
	p := solve(t, l)
	assert.InDelta(t, 35, planned(t, p, "g", "shape").LatestStart, 1e-9)
	assert.Equal(t, "rule", p.Chain[1].After)

	// A stop in the way of the work is what delays it.
	l.Phases[0].Minute, l.Phases[0].Minutes = mins("6"), mins("3")
	p = solve(t, l)
	assert.InDelta(t, 9, planned(t, p, "g", "shape").Start, 1e-9)
	assert.Equal(t, "phase", p.Chain[1].After)
	assert.Equal(t, "rest", p.Chain[0].Step)
}

// Whatever step begins at its last moment, with all that has to move along,
// the plan is valid and ends no later than it may.
func TestLastMomentsCanBeKept(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		l := anyLesson.Draw(t, "lesson")
		for _, p := range fit.Postponed(l) {
			for _, fault := range verify.Plan(l, p) {
				t.Errorf("%s", fault)
			}
		}
	})
}
