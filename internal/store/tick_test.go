package store_test

import (
	"context"
	"database/sql"
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"freshapron/internal/store"
	"freshapron/internal/store/storetest"
)

// News comes from every copy of the program, and again after the connection was
// broken, with a word that some may have been missed.
func TestNewsOutlivesItsConnection(t *testing.T) {
	url := storetest.URL(t)
	one, err := store.Open(url)
	require.NoError(t, err)
	require.NoError(t, one.Migrate(ctx))
	two, err := store.Open(url)
	require.NoError(t, err)
	school := newSchool(t, two, "Quillhaven")
	heard := make(chan store.Notice, 10)
	listening, stop := context.WithCancel(ctx)
	ended := make(chan struct{})
	go func() { one.Listen(listening, func(n store.Notice) { heard <- n }); close(ended) }()
	next := func() store.Notice {
		select {
		case n := <-heard:
			return n
		case <-time.After(20 * time.Second):
			require.Fail(t, "nothing was heard")
			return store.Notice{}
		}
	}
	tick := func() {
		require.NoError(t, school.AddTicks(ctx, []store.Tick{{List: "fetch/2026-11-26", Line: "salt", Done: true, Who: "Kit", Made: time.Now(), At: time.Now(), Press: uuid.NewString()}}))
	}
	assert.Equal(t, store.Notice{}, next())
	tick()
	assert.Equal(t, store.Notice{School: school.ID, About: "fetch/2026-11-26"}, next())

	db, err := sql.Open("pgx", url)
	require.NoError(t, err)
	t.Cleanup(func() { _ = db.Close() })
	_, err = db.Exec("SELECT pg_terminate_backend(pid) FROM pg_stat_activity WHERE datname = current_database() AND query LIKE 'LISTEN%'")
	require.NoError(t, err)
	assert.Equal(t, store.Notice{}, next(), "some may have been missed")
	tick()
	assert.Equal(t, school.ID, next().School)
	stop()
	<-ended
	require.NoError(t, two.Close())
	require.NoError(t, one.Close())
}
