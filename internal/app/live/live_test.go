package live_test

import (
	"strings"
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"freshapron/internal/app/lessons"
	"freshapron/internal/app/live"
	"freshapron/internal/core/exact"
	"freshapron/internal/core/fit/verify"
	core "freshapron/internal/core/live"
	"freshapron/internal/core/rescue"
	"freshapron/internal/demo/demotest"
	"freshapron/internal/formats/lessonfile"
)

const tartlets = 2

// A lesson is frozen as it stands when it begins; what is changed after that is of
// the next time.
func TestRunsAreFrozen(t *testing.T) {
	h := demotest.Enter(t)
	ctx := h.Head()
	v, err := lessons.One(ctx, tartlets)
	require.NoError(t, err)
	before, err := h.Runs(ctx, tartlets)
	require.NoError(t, err)
	_, err = live.Begin(ctx, tartlets, &live.Rehearsal{Speed: 1, Seed: 1})
	require.NoError(t, err)
	require.NoError(t, lessons.Decide(ctx, tartlets, demotest.ID(int64(v.Version)), rescue.Change{Kind: rescue.Pace, Minutes: exact.Frac(6, 5)}))
	_, err = live.Begin(ctx, tartlets, &live.Rehearsal{Speed: 1, Seed: 1})
	require.NoError(t, err)
	runs, err := h.Runs(ctx, tartlets)
	require.NoError(t, err)
	require.Len(t, runs, len(before)+2)
	assert.NotEqual(t, runs[0].Plan, runs[1].Plan)
	assert.Equal(t, "Maren Holt", runs[0].Who)
	for _, r := range runs {
		file, err := lessonfile.Read(strings.NewReader(r.File))
		require.NoError(t, err)
		plan, err := lessonfile.ReadPlan(strings.NewReader(r.Plan))
		require.NoError(t, err)
		assert.Empty(t, verify.Plan(file, plan), "the plan is of the lesson as it was")
	}
}

// The demonstration's rehearsal is under way at any time of any day.
func TestALessonIsAlwaysInFullSwing(t *testing.T) {
	h := demotest.Enter(t)
	ctx := h.Head()
	for _, later := range []time.Duration{0, 17 * time.Minute, 5 * time.Hour, 400 * 24 * time.Hour} {
		h.At(h.Now().Add(later))
		r, err := live.Of(ctx, tartlets)
		require.NoError(t, err)
		assert.GreaterOrEqual(t, r.State.Now, -1.0)
		assert.LessOrEqual(t, r.State.Now, r.Lesson.Minutes().Float()+5)
	}
}

// When benches fall behind, what still helps is offered, can be decided, and is what
// the lesson follows from then on; a decision that helps no more is refused.
func TestDecidingInTheMidstOfALesson(t *testing.T) {
	h := demotest.Enter(t)
	ctx := h.Head()
	_, err := live.Begin(ctx, tartlets, &live.Rehearsal{Speed: 1, Seed: 3})
	require.NoError(t, err)
	h.At(h.Now().Add(30 * time.Minute))
	r, err := live.Of(ctx, tartlets)
	require.NoError(t, err)
	var said []live.Said
	for _, b := range r.State.Benches {
		said = append(said, live.Said{ID: uuid.NewString(), Kind: core.Behind, Event: core.Event{Bench: b.ID, Minutes: 14}})
	}
	require.NoError(t, live.Tell(ctx, r, "Maren Holt", said))
	r, err = live.Of(ctx, tartlets)
	require.NoError(t, err)
	require.Less(t, r.State.Left(), 0.0)
	list, err := live.Rescues(ctx, r)
	require.NoError(t, err)
	require.NotEmpty(t, list)
	require.NoError(t, live.Decide(ctx, r, list[0].Title))
	after, err := live.Of(ctx, tartlets)
	require.NoError(t, err)
	assert.Greater(t, after.State.Left(), r.State.Left())
	assert.Equal(t, list[0].Title, after.State.Log[len(after.State.Log)-1].Says)
	assert.ErrorContains(t, live.Decide(ctx, after, "Begin yesterday"), "does not help any more")
}
