package live_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"freshapron/internal/app/live"
	"freshapron/internal/demo/demotest"
	"freshapron/internal/store"
)

// A bench's screen shows things in the ways that were set for it and for no other; a code
// that was shut opens nothing, and opens again.
func TestWaysOfAScreen(t *testing.T) {
	h := demotest.Enter(t)
	ctx := h.Head()
	run, err := live.Of(ctx, tartlets)
	require.NoError(t, err)
	all, err := live.Screens(ctx, run.ID)
	require.NoError(t, err)
	require.NotEmpty(t, all)
	var of, other store.Screen
	for _, x := range all {
		if of.Bench == "" {
			of = x
		} else {
			other = x
		}
	}
	require.NoError(t, live.Show(ctx, run.ID, of.Bench, []string{"aloud", "large", "upside down", "large"}))
	now, err := live.Screens(ctx, run.ID)
	require.NoError(t, err)
	assert.Equal(t, []string{"large", "aloud"}, now[of.Bench].Ways, "each once, in one order, and none that there is not")
	assert.Equal(t, other.Ways, now[other.Bench].Ways)
	require.NoError(t, live.Show(ctx, run.ID, of.Bench, nil))
	x, opens := live.Opens(ctx, h.Site, of.Code)
	assert.True(t, opens)
	assert.Empty(t, x.Ways)
	assert.ErrorIs(t, live.Show(ctx, run.ID, "no bench", nil), store.ErrNotFound)

	require.NoError(t, h.ShutScreen(ctx, run.ID, of.Bench, true))
	_, opens = live.Opens(ctx, h.Site, of.Code)
	assert.False(t, opens)
	_, opens = live.Opens(ctx, h.Site, other.Code)
	assert.True(t, opens)
	require.NoError(t, h.ShutScreen(ctx, run.ID, of.Bench, false))
	_, opens = live.Opens(ctx, h.Site, of.Code)
	assert.True(t, opens)
	_, opens = live.Opens(ctx, h.Site, "nothing")
	assert.False(t, opens)
}
