package store_test

import (
	"context"
	"testing"
	"time"

	"github.com/alexedwards/scs/v2"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"freshapron/internal/core/staff"
	"freshapron/internal/store"
	"freshapron/internal/store/storetest"
)

// A session is known until it ends, belongs to its account alone, and is gone
// when it is ended there or anywhere else.
func TestSessionsOfAnAccount(t *testing.T) {
	ctx := context.Background()
	s := storetest.Open(t)
	school, err := s.CreateSchool(ctx, "Thornby School", "Europe/London")
	require.NoError(t, err)
	account := func(name string) int64 {
		id, err := school.CreateAccount(ctx, store.Account{Name: name, Email: name + "@thornby.example", Role: staff.Teacher, CreatedAt: time.Unix(0, 0)})
		require.NoError(t, err)
		return id
	}
	ilsa, pia := account("Ilsa"), account("Pia")
	now := time.Date(2026, 11, 26, 9, 0, 0, 0, time.UTC)
	sessions := store.Sessions{Store: s, Now: func() time.Time { return now }}
	data := func(school, account int64, agent string, began time.Time) []byte {
		b, err := scs.GobCodec{}.Encode(now.Add(time.Hour), map[string]any{
			store.SessionSchool: school, store.SessionAccount: account, store.SessionAgent: agent, store.SessionBegan: began.Unix(),
		})
		require.NoError(t, err)
		return b
	}
	commit := func(token string, account int64, began time.Time) {
		require.NoError(t, sessions.Commit(token, data(school.ID, account, "browser of "+token, began), now.Add(time.Hour)))
	}
	commit("one", ilsa, now)
	commit("two", ilsa, now.Add(time.Minute))
	commit("three", pia, now)

	_, found, err := sessions.Find("one")
	require.NoError(t, err)
	assert.True(t, found)
	_, found, err = sessions.Find("four")
	require.NoError(t, err)
	assert.False(t, found)

	list, err := school.SessionsOf(ctx, ilsa, now)
	require.NoError(t, err)
	require.Len(t, list, 2)
	assert.Equal(t, "two", list[0].Token, "the newest first")
	assert.Equal(t, "browser of two", list[0].Agent)

	require.NoError(t, school.EndSessions(ctx, ilsa, "three"), "that of somebody else is not hers to end")
	_, found, _ = sessions.Find("three")
	assert.True(t, found)
	require.NoError(t, school.EndSessions(ctx, ilsa, "one"))
	_, found, _ = sessions.Find("one")
	assert.False(t, found)
	require.NoError(t, school.EndSessions(ctx, ilsa, ""))
	list, err = school.SessionsOf(ctx, ilsa, now)
	require.NoError(t, err)
	assert.Empty(t, list)

	other, err := s.CreateSchool(ctx, "Another School", "Europe/London")
	require.NoError(t, err)
	require.NoError(t, other.EndSessions(ctx, pia, ""), "another school ends nothing here")
	none, err := other.SessionsOf(ctx, pia, now)
	require.NoError(t, err)
	assert.Empty(t, none)
	_, found, _ = sessions.Find("three")
	assert.True(t, found)

	require.NoError(t, sessions.Commit("three", data(school.ID, 0, "", now), now.Add(time.Hour)))
	_, found, _ = sessions.Find("three")
	assert.False(t, found, "a session that belongs to nobody is not kept")

	commit("late", pia, now)
	now = now.Add(time.Hour)
	_, found, _ = sessions.Find("late")
	assert.False(t, found, "it ends by itself")
	require.NoError(t, sessions.Delete("whatever"), "and is then swept out")
	list, err = school.SessionsOf(ctx, pia, now.Add(-2*time.Hour))
	require.NoError(t, err)
	assert.Empty(t, list)
	assert.Error(t, sessions.Commit("bad", []byte("no session"), now))
}
