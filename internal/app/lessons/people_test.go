package lessons_test

import (
	"context"
	"fmt"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"freshapron/internal/app/lessons"
	"freshapron/internal/app/school"
	"freshapron/internal/core/recipe"
	"freshapron/internal/demo/demotest"
)

// slaw is the demonstration's lesson of a dish with choices.
func slaw(t *testing.T, ctx context.Context) *lessons.View {
	t.Helper()
	for id := int64(1); id < 30; id++ {
		v, err := lessons.One(ctx, id)
		if err == nil && v.Core.Titles() == "Rainbow slaw" {
			return v
		}
	}
	t.Fatal("nobody makes slaw")
	return nil
}

// What a learner has chosen replaces what they had, leaves the others', and who has not
// chosen enough is still asked; what the dish does not offer is not chosen.
func TestChoosingOfADish(t *testing.T) {
	h := demotest.Enter(t)
	ctx := h.Head()
	v := slaw(t, ctx)
	dish := v.Menu[0].Dish
	require.Len(t, dish.Choices, 1)
	extras := dish.Choices[0].Options
	first, second := v.Class.Roster[0].ID, v.Class.Roster[1].ID
	of := func(v *lessons.View, learner int64) []string {
		var out []string
		for _, p := range v.Menu[0].Picks {
			if p.Learner == learner {
				out = append(out, p.Option)
			}
		}
		return out
	}
	undecided := func(v *lessons.View, learner int64) bool {
		for _, l := range v.Core.Undecided(0) {
			if l.ID == learner {
				return true
			}
		}
		return false
	}
	pick := func(v *lessons.View, learner int64, options ...int) *lessons.View {
		t.Helper()
		var list []recipe.Pick
		for _, o := range options {
			list = append(list, recipe.Pick{Option: o})
		}
		require.NoError(t, lessons.SetPicks(ctx, v.ID, version(v), dish.ID, map[int64][]recipe.Pick{learner: list}))
		return slaw(t, ctx)
	}
	v = pick(v, first, 0, 2)
	assert.Equal(t, []string{extras[0].Name, extras[2].Name}, of(v, first))
	assert.False(t, undecided(v, first))
	v = pick(v, second, 1)
	assert.Equal(t, []string{extras[0].Name, extras[2].Name}, of(v, first), "the other’s stay")
	assert.Equal(t, []string{extras[1].Name}, of(v, second))
	assert.True(t, undecided(v, second), "one of two")
	v = pick(v, first, 4, 99)
	assert.Equal(t, []string{extras[4].Name}, of(v, first), "instead of what it was")
	v = pick(v, second)
	assert.Empty(t, of(v, second))
	assert.Contains(t, h.LastNote().Says+v.Core.Titles(), "Rainbow slaw")
	require.ErrorIs(t, lessons.SetPicks(ctx, v.ID, "1", dish.ID, nil), school.ErrChanged)
	require.ErrorIs(t, lessons.SetPicks(ctx, v.ID, version(v), 1<<40, nil), school.ErrNotFound)
	require.ErrorIs(t, lessons.SetPicks(h.As("Tomas Finney"), v.ID, version(v), dish.ID, nil), school.ErrNotYours)
}

// Groups by hand hold everybody who is there, once; dealt by the rules they are as many
// as before; dealt anew they are held as they were dealt.
func TestGroupsByHandAndByRules(t *testing.T) {
	h := demotest.Enter(t)
	ctx := h.Head()
	read := func() *lessons.View {
		v, err := lessons.One(ctx, 1)
		require.NoError(t, err)
		return v
	}
	v := read()
	dealt := len(v.Benches)
	all := map[int64]string{}
	for i, l := range v.Class.Roster {
		all[l.ID] = fmt.Sprint(1 + i/3)
	}
	for says, number := range map[string]string{"“0” is not the number of a group": "0", "“many” is not": "many", "“61” is not": "61", "“” is not": ""} {
		all[v.Class.Roster[4].ID] = number
		err := lessons.SetTeams(ctx, 1, version(v), all)
		assert.ErrorContains(t, err, says)
		assert.ErrorContains(t, err, v.Class.Roster[4].Name())
	}
	all[v.Class.Roster[4].ID] = " 2 "
	require.NoError(t, lessons.SetTeams(ctx, 1, version(v), all))
	v = read()
	assert.Equal(t, (len(all)+2)/3, len(v.Benches))
	seen := map[int64]int{}
	for _, b := range v.Benches {
		for _, m := range b.Members {
			seen[m.ID]++
		}
	}
	assert.Len(t, seen, len(all))
	for _, n := range seen {
		assert.Equal(t, 1, n)
	}

	away := v.Benches[0].Members[0].ID
	require.NoError(t, lessons.SetAbsent(ctx, 1, version(v), []string{demotest.ID(away)}))
	v = read()
	rest := map[int64]string{}
	for _, l := range v.Class.Roster {
		if l.ID != away {
			rest[l.ID] = "1"
		}
	}
	require.NoError(t, lessons.SetTeams(ctx, 1, version(v), rest), "who is away is in no group")
	require.NoError(t, lessons.SetTeams(ctx, 1, version(read()), nil))
	v = read()
	assert.InDelta(t, dealt, len(v.Benches), 1)
	assert.Nil(t, v.Teams)

	require.NoError(t, lessons.DealAnew(ctx, 1, version(v)))
	v = read()
	require.NotNil(t, v.Teams)
	var held []int64
	for _, team := range v.Teams {
		held = append(held, team...)
	}
	assert.Len(t, held, len(all)-1)
	assert.NotContains(t, held, away)
	before := benches(v)
	require.NoError(t, lessons.SetAbsent(ctx, 1, version(v), nil))
	after := benches(read())
	for who, with := range before {
		assert.Subset(t, after[who], with, "they stay together")
	}
	require.ErrorIs(t, lessons.DealAnew(ctx, 1, version(v)), school.ErrChanged)
}

// benches says of each learner with whom they work.
func benches(v *lessons.View) map[int64][]int64 {
	out := map[int64][]int64{}
	for _, b := range v.Benches {
		var all []int64
		for _, m := range b.Members {
			all = append(all, m.ID)
		}
		for _, id := range all {
			out[id] = all
		}
	}
	return out
}
