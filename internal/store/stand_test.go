package store_test

import (
	"context"
	"database/sql"
	"errors"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"freshapron/internal/core/exact"
	"freshapron/internal/core/lesson"
	"freshapron/internal/core/staff"
	"freshapron/internal/store"
	"freshapron/internal/store/storetest"
)

// uncounted are tables of which no page that is kept shows anything.
var uncounted = []string{"stands", "sessions", "presses", "audit", "outbox", "links", "ticks", "events", "pictures", "tries"}

// Whatever is changed of a school, by whichever copy of the program, its stand goes
// up: once for a transaction, and not when it comes to nothing.
func TestTheStandGoesUpWithEveryChange(t *testing.T) {
	url := storetest.URL(t)
	s, err := store.Open(url)
	require.NoError(t, err)
	t.Cleanup(func() { _ = s.Close() })
	require.NoError(t, s.Migrate(ctx))
	ours, theirs := newSchool(t, s, "Ours"), newSchool(t, s, "Theirs")
	look := func(in *store.School) func() int64 {
		id, err := in.CreateAccount(ctx, store.Account{Name: "Kit", Email: in.Name + "@x.example", Role: staff.Head})
		require.NoError(t, err)
		return func() int64 {
			a, err := s.Account(ctx, id)
			require.NoError(t, err)
			return a.Stand
		}
	}
	our, their := look(ours), look(theirs)
	was, other := our(), their()
	class := func(name string) lesson.Class { return lesson.Class{Name: name, Learners: 26, Pace: exact.Int(1)} }
	require.NoError(t, ours.InTransaction(ctx, func(in *store.School) error {
		_, err := in.CreateClass(ctx, class("7 Alder"))
		require.NoError(t, err)
		_, err = in.CreateClass(ctx, class("8 Hazel"))
		assert.Equal(t, was, our(), "nobody sees it yet")
		return err
	}))
	assert.Equal(t, was+1, our())
	_ = ours.InTransaction(ctx, func(in *store.School) error {
		_, err := in.CreateClass(ctx, class("9 Rowan"))
		return errors.Join(err, context.Canceled)
	})
	assert.Equal(t, was+1, our(), "it came to nothing")
	assert.Equal(t, other, their(), "the other school stands where it stood")

	db, err := sql.Open("pgx", url)
	require.NoError(t, err)
	t.Cleanup(func() { _ = db.Close() })
	rows, err := db.Query(`SELECT c.relname, EXISTS (SELECT FROM pg_trigger g WHERE g.tgrelid = c.oid AND g.tgname = 'changes' AND g.tginitdeferred)
		FROM pg_class c JOIN pg_attribute a ON a.attrelid = c.oid AND a.attname = 'school_id' WHERE c.relkind = 'r' AND c.relnamespace = 'public'::regnamespace`)
	require.NoError(t, err)
	for rows.Next() {
		var name string
		var counted bool
		require.NoError(t, rows.Scan(&name, &counted))
		if counted {
			assert.NotContains(t, uncounted, name)
		} else {
			assert.Contains(t, uncounted, name, "what is changed in it is on no page, or is counted")
		}
	}
	require.NoError(t, rows.Err())
}
