package live_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"freshapron/internal/core/fit"
	"freshapron/internal/core/live"
)

// Who waits longest comes first, whatever for.
func TestTheQueue(t *testing.T) {
	l := two()
	p := plan(t, l)
	s := live.Fold(l, p, []live.Event{at(0, live.Event{Kind: live.Opened}), at(8, live.Event{Kind: live.Check, Bench: "g2", Says: "the dough"}), at(9, live.Event{Kind: live.Help, Bench: "g1"}),
		at(11, live.Event{Kind: live.Help, Bench: "g2"})}, 12)
	var got []string
	for _, q := range s.Queue() {
		got = append(got, q.Bench+" "+string(q.Kind)+" "+q.Says)
	}
	assert.Equal(t, []string{"g2 checked the dough", "g1 helped ", "g2 helped "}, got)
	s = live.Fold(l, p, append(s.Log, at(12, live.Event{Kind: live.Helped, Bench: "g2"}), at(12, live.Event{Kind: live.Checked, Bench: "g2"})), 13)
	require.Len(t, s.Queue(), 1)
	assert.Equal(t, "g1", s.Queue()[0].Bench)
}

// Checkpoints are called as much later as the class came and phases were held.
func TestCheckpointsMoveWithTheClass(t *testing.T) {
	l := two()
	p := plan(t, l)
	planned := fit.Checkpoints(l, p)
	require.NotEmpty(t, planned)
	events := []live.Event{at(4, live.Event{Kind: live.Opened}), at(6, live.Event{Kind: live.Held, Minutes: 3})}
	s := live.Fold(l, p, events, 7)
	next, should := s.Point()
	require.NotNil(t, next)
	assert.Equal(t, planned[0].At+7, next.At)
	assert.Empty(t, should, "nothing has to be done yet")
	last := planned[len(planned)-1]
	next, should = live.Fold(l, p, events, last.At+7).Point()
	assert.Nil(t, next)
	assert.Equal(t, last.Done, should)
}

// Another plan is worth a word where it gains a minute, where minutes are missing, or
// where something is out of use; and only where somebody would do something otherwise.
func TestWhatIsWorthAWord(t *testing.T) {
	l := two()
	p := plan(t, l)
	opened := at(0, live.Event{Kind: live.Opened})
	s := live.Fold(l, p, []live.Event{opened}, 12)
	_, same, err := s.Replan(quick)
	require.NoError(t, err)
	assert.False(t, s.Better(same), "everything goes to plan")
	s = live.Fold(l, p, []live.Event{opened, at(12, live.Event{Kind: live.UnitOut, Equipment: "oven", Unit: "Oven 1"})}, 12)
	_, other, err := s.Replan(quick)
	require.NoError(t, err)
	assert.True(t, s.Better(other), "a bench has to go to the other oven")
	s = live.Fold(l, p, []live.Event{opened, at(15, live.Event{Kind: live.Behind, Bench: "g1", Minutes: 40})}, 16)
	require.Less(t, s.Left(), 0.0)
	_, other, err = s.Replan(quick)
	require.NoError(t, err)
	assert.True(t, s.Better(other))
}

// By hand: one bench says that weighing took 6 minutes, the other says nothing and is
// taken to have needed the planned 5: 5.5 on the average.
func TestWhatStepsTook(t *testing.T) {
	l := two()
	p := plan(t, l)
	s := live.Fold(l, p, []live.Event{at(0, live.Event{Kind: live.Opened}), at(11, live.Event{Kind: live.Ended, Bench: "g1", Step: "weigh"})}, 12)
	require.Len(t, s.Took(), 1)
	assert.Equal(t, live.Took{Dish: "buns", Step: "weigh", Title: "Weigh", Planned: 5, Real: 5.5, Known: 1, Assumed: 1}, s.Took()[0])
	assert.Empty(t, live.Fold(l, p, nil, 12).Took())
}

// What can't be of a lesson is refused with a word.
func TestWhatCanNotBe(t *testing.T) {
	l := two()
	p := plan(t, l)
	s := live.Fold(l, p, []live.Event{at(0, live.Event{Kind: live.Opened})}, 12)
	foreign, unknown := *p, *p
	foreign.Groups = []fit.GroupPlan{{ID: "g9"}}
	unknown.Groups = []fit.GroupPlan{{ID: "g1", Steps: []fit.StepPlan{{Dish: "buns", Step: "ice"}}}}
	for want, e := range map[string]live.Event{
		"“dance” is nothing that happens in a lesson":           {Kind: "dance"},
		"it was said -1440 minutes from the beginning":          {Kind: live.Note, At: -1440},
		"it was said 301 minutes from the beginning":            {Kind: live.Note, At: 301},
		"the lesson has no bench “g9”":                          {Kind: live.Help, Bench: "g9"},
		"Bench 1 does not make a step “ice”":                    {Kind: live.Ended, Bench: "g1", Step: "ice"},
		"-1 minutes can't be":                                   {Kind: live.Behind, Bench: "g1", Minutes: -1},
		"241 minutes can't be":                                  {Kind: live.Held, Minutes: 241},
		"-3 sharp things can't be":                              {Kind: live.Sharps, Number: -3},
		"2001 sharp things can't be":                            {Kind: live.Sharps, Number: 2001},
		"350 °C can't be":                                       {Kind: live.Temperature, Celsius: 350},
		"the room has no “Oven 3”":                              {Kind: live.UnitOut, Equipment: "oven", Unit: "Oven 3"},
		"there is no plan to follow":                            {Kind: live.Replanned},
		"the plan has a bench “g9”, the lesson has not":         {Kind: live.Replanned, Plan: &foreign},
		"the plan lets Bench 1 make “ice”, the lesson does not": {Kind: live.Replanned, Plan: &unknown},
	} {
		assert.ErrorContains(t, s.Check(e), want)
	}
	for _, e := range []live.Event{{Kind: live.Help, Bench: "g1"}, {Kind: live.Sharps, Number: 2000}, {Kind: live.Note, At: -240}, {Kind: live.Note, At: 300}, {Kind: live.Temperature, Celsius: -18},
		{Kind: live.Behind, Bench: "g1", Minutes: 240}, {Kind: live.Replanned, Plan: p}, {Kind: live.UnitOut, Equipment: "oven", Unit: "Oven 2"}, {Kind: live.Ended, Bench: "g1", Step: "bake"}} {
		assert.NoError(t, s.Check(e))
	}
	closed := live.Fold(l, p, []live.Event{at(0, live.Event{Kind: live.Opened}), at(12, live.Event{Kind: live.Closed})}, 13)
	assert.ErrorContains(t, closed.Check(live.Event{Kind: live.Help, Bench: "g1"}), "the lesson is over")
	assert.Empty(t, closed.Timers(), "nobody stands at the oven any more")
	open := closed.StillOpen()
	require.NotEmpty(t, open)
	for _, st := range open[0].Steps {
		assert.NotEqual(t, live.Over, st.Stage)
	}
	for _, kind := range []live.Kind{live.Note, live.Undone, live.Sharps} {
		assert.NoError(t, closed.Check(live.Event{Kind: kind}), "after the bell this is still said")
	}
}
