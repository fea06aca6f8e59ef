package store_test

import (
	"database/sql"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"freshapron/internal/core/exact"
	"freshapron/internal/core/lesson"
	"freshapron/internal/core/staff"
	"freshapron/internal/store"
	"freshapron/internal/store/storetest"
)

// PostgreSQL itself keeps schools apart, whatever the application asks: every
// table with a school is closed, to the owner too, and a connection that
// speaks for one school sees no row of another.
func TestRowLevelSecurity(t *testing.T) {
	url := storetest.URL(t)
	s, err := store.Open(url)
	require.NoError(t, err)
	t.Cleanup(func() { _ = s.Close() })
	require.NoError(t, s.Migrate(ctx))
	db, err := sql.Open("pgx", url)
	require.NoError(t, err)
	t.Cleanup(func() { _ = db.Close() })
	rows, err := db.Query(`SELECT c.relname, c.relrowsecurity AND c.relforcerowsecurity FROM pg_class c
		WHERE c.relkind = 'r' AND c.relnamespace = 'public'::regnamespace AND c.relname <> 'goose_db_version'`)
	require.NoError(t, err)
	tables := 0
	for rows.Next() {
		var name string
		var closed bool
		require.NoError(t, rows.Scan(&name, &closed))
		assert.True(t, closed, "%s is open to other schools", name)
		tables++
	}
	require.NoError(t, rows.Err())
	require.Greater(t, tables, 15)

	ids := map[string]int64{}
	for _, name := range []string{"Quillhaven", "Thornby"} {
		in := newSchool(t, s, name)
		ids[name] = in.ID
		_, err := in.CreateClass(ctx, lesson.Class{Name: "7 Alder", Learners: 20, Pace: exact.Int(1)})
		require.NoError(t, err)
		_, err = in.CreateAccount(ctx, store.Account{Name: "Kit", Email: "kit@" + name + ".example", Role: staff.Head})
		require.NoError(t, err)
		require.NoError(t, in.Note(ctx, store.Note{Who: "Kit", Did: "saw", About: "needs", Says: "a test"}))
	}
	conn, err := db.Conn(ctx)
	require.NoError(t, err)
	t.Cleanup(func() { _ = conn.Close() })
	exec := func(q string, args ...any) (int64, error) {
		r, err := conn.ExecContext(ctx, q, args...)
		if err != nil {
			return 0, err
		}
		n, err := r.RowsAffected()
		require.NoError(t, err)
		return n, nil
	}
	count := func(table string) (n int) {
		require.NoError(t, conn.QueryRowContext(ctx, "SELECT count(*) FROM "+table).Scan(&n))
		return n
	}
	_, err = exec("SET ROLE freshapron_app")
	require.NoError(t, err)
	for _, table := range []string{"classes", "accounts", "schools", "audit"} {
		assert.Zero(t, count(table), "%s: who speaks for nobody sees nothing", table)
	}
	_, err = exec("SELECT set_config('freshapron.school', '0', false)")
	require.NoError(t, err)
	assert.Equal(t, 2, count("accounts"), "the door knows who has an account")
	assert.Zero(t, count("classes"), "and nothing else")

	_, err = exec("SELECT set_config('freshapron.school', $1::bigint::text, false)", ids["Quillhaven"])
	require.NoError(t, err)
	for _, table := range []string{"classes", "accounts", "schools", "audit"} {
		assert.Equal(t, 1, count(table), table)
	}
	n, err := exec("UPDATE classes SET name = 'x' WHERE school_id = $1", ids["Thornby"])
	require.NoError(t, err)
	assert.Zero(t, n)
	n, err = exec("DELETE FROM accounts WHERE school_id = $1", ids["Thornby"])
	require.NoError(t, err)
	assert.Zero(t, n)
	_, err = exec("INSERT INTO classes (school_id, name, learners, pace) VALUES ($1, 'y', 1, 1)", ids["Thornby"])
	assert.ErrorContains(t, err, "row-level security")
	_, err = exec("UPDATE classes SET school_id = $1", ids["Thornby"])
	assert.ErrorContains(t, err, "row-level security")
	_, err = exec("UPDATE audit SET says = 'nothing'")
	assert.ErrorContains(t, err, "never changed")
	_, err = exec("DELETE FROM audit")
	assert.ErrorContains(t, err, "never changed")
	_, err = exec("DROP TABLE audit")
	assert.Error(t, err)
}
