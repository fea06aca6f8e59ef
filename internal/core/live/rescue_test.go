package live_test

import (
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"freshapron/internal/core/fit"
	"freshapron/internal/core/live"
	"freshapron/internal/core/rescue"
)

var quick = fit.Options{Budget: 2, Runs: 20}

func titles(list []rescue.Rescue) []string {
	var out []string
	for _, r := range list {
		out = append(out, r.Title)
	}
	return out
}

// iced is the lesson of two benches with a quarter of an hour of decoration after the
// oven, and a mixture that keeps.
func iced() fit.Lesson {
	l := two()
	steps := l.Dishes[0].Steps
	steps[1].Hold = &fit.Hold{MaxMinutes: n(600), Where: "fridge"}
	l.Dishes[0].Steps = append(steps, fit.Step{ID: "ice", Title: "Decorate, if there is time", Kind: fit.Shape, Work: n(12), Cooks: 1, Adult: fit.NoAdult, After: []fit.After{{Step: "bake"}}})
	return l
}

// By hand: with 15 minutes lost by minute 30 the buns are out at 52, and iced at 64:
// too late for a deadline at 50. Without the icing 2 minutes are missing; without the
// bench watching the oven, none.
func TestRescuesByHand(t *testing.T) {
	l := iced()
	p := plan(t, l)
	events := []live.Event{at(0, live.Event{Kind: live.Opened}), at(29, live.Event{Kind: live.Behind, Bench: "g1", Minutes: 15}), at(29, live.Event{Kind: live.Behind, Bench: "g2", Minutes: 15})}
	s := live.Fold(l, p, events, 30)
	require.Less(t, s.Left(), 0.0)
	list, err := s.Rescues(quick)
	require.NoError(t, err)
	all := titles(list)
	for _, want := range []string{"Leave out “Decorate, if there is time”", "Let an adult take the trays out after the bell", "Stop after “Mix” and go on in the next lesson"} {
		assert.Contains(t, all, want)
	}
	assert.NotContains(t, all, "Use one more oven", "nothing more comes into a lesson that runs")
	after := list[slices.Index(all, "Let an adult take the trays out after the bell")]
	assert.True(t, after.Fits())
	stop := list[slices.Index(all, "Stop after “Mix” and go on in the next lesson")]
	assert.True(t, stop.Fits())
	for _, r := range []rescue.Rescue{after, stop} {
		taken := append(slices.Clone(events), at(30, live.Event{Kind: live.Replanned, Plan: r.Plan, Changes: r.Changes, Says: r.Title}))
		now := live.Fold(l, p, taken, 31)
		assert.GreaterOrEqual(t, now.Left(), 0.0, r.Title)
		for _, b := range now.Benches {
			assert.Equal(t, live.NotDone, b.Steps[slices.IndexFunc(b.Steps, func(st live.Step) bool { return st.Step == "ice" })].Stage, r.Title)
		}
		_, again, err := now.Replan(quick)
		require.NoError(t, err)
		assert.True(t, again.Fits, "what has been decided stays so: "+r.Title)
		undone := live.Fold(l, p, append(taken, at(31, live.Event{Kind: live.Undone, Of: taken[len(taken)-1].ID})), 31)
		assert.Less(t, undone.Left(), 0.0, "and can be taken back")
	}

	// Where one bench has begun to decorate, the other still can leave it out; nobody
	// stops after what is past.
	late := append(slices.Clone(events), at(29.5, live.Event{Kind: live.CaughtUp, Bench: "g1"}))
	s = live.Fold(l, p, late, 41)
	list, err = s.Rescues(quick)
	require.NoError(t, err)
	assert.Contains(t, titles(list), "Leave out “Decorate, if there is time”")
	assert.NotContains(t, titles(list), "Stop after “Mix” and go on in the next lesson")
	assert.NotContains(t, titles(list), "Let an adult take the trays out after the bell", "one bench has its tray in the oven")
}

// Whatever has happened, what is offered can be followed, and no bench loses what it
// has begun.
func TestRescuesCanBeTaken(t *testing.T) {
	l := iced()
	p := plan(t, l)
	rapid.Check(t, func(t *rapid.T) {
		now := rapid.Float64Range(1, 58).Draw(t, "now")
		events := []live.Event{at(0, live.Event{Kind: live.Opened})}
		for _, g := range l.Groups {
			events = append(events, at(rapid.Float64Range(0, now).Draw(t, "at"), live.Event{Kind: live.Behind, Bench: g.ID, Minutes: float64(rapid.IntRange(0, 25).Draw(t, "late"))}))
		}
		s := live.Fold(l, p, events, now)
		list, err := s.Rescues(fit.Options{Budget: 1, Runs: 5})
		require.NoError(t, err)
		for _, r := range list {
			taken := live.Fold(l, p, append(slices.Clone(events), at(now, live.Event{Kind: live.Replanned, Plan: r.Plan, Changes: r.Changes})), now)
			for i, b := range s.Benches {
				for _, st := range b.Steps {
					if st.Stage == live.ToCome {
						continue
					}
					k := slices.IndexFunc(taken.Benches[i].Steps, func(o live.Step) bool { return o.Step == st.Step })
					assert.Equal(t, st.Start, taken.Benches[i].Steps[k].Start, "%s: %s %s", r.Title, b.ID, st.Step)
				}
			}
			_, _, err := taken.Replan(fit.Options{Budget: 1, Runs: 1})
			require.NoError(t, err, r.Title)
		}
	})
}

// What goes into the oven can be made thinner until the first bench shapes it, the step before
// the oven.
func TestThinnerBeforeItIsShaped(t *testing.T) {
	l := iced()
	p := plan(t, l)
	offered := func(now float64) bool {
		var events []live.Event
		for _, g := range l.Groups {
			events = append(events, at(1, live.Event{Kind: live.Behind, Bench: g.ID, Minutes: 15}))
		}
		s := live.Fold(l, p, append(events, at(0, live.Event{Kind: live.Opened})), now)
		list, err := s.Rescues(quick)
		require.NoError(t, err)
		return slices.ContainsFunc(list, func(r rescue.Rescue) bool {
			return slices.ContainsFunc(r.Changes, func(c rescue.Change) bool { return c.Kind == rescue.Smaller })
		})
	}
	assert.True(t, offered(22), "they weigh until 25")
	assert.False(t, offered(27), "they mix")
	assert.False(t, offered(39), "it is in the oven")
}
