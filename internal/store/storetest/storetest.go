// Package storetest gives each test a database of its own.
package storetest

import (
	"context"
	"database/sql"
	"fmt"
	"net/url"
	"os"
	"strings"
	"testing"

	"github.com/google/uuid"
	_ "github.com/jackc/pgx/v5/stdlib" // the driver "pgx"
	"github.com/stretchr/testify/require"

	"freshapron/internal/store"
)

// Variable names the URL of a PostgreSQL server on which tests may make and
// drop databases. ./test starts one and sets it.
const Variable = "FRESH_APRON_TEST_DATABASE"

// Open returns a store on a new, migrated database that goes with the test.
func Open(t testing.TB) *store.Store {
	t.Helper()
	s, err := store.Open(URL(t))
	require.NoError(t, err)
	t.Cleanup(func() { _ = s.Close() })
	require.NoError(t, s.Migrate(context.Background()))
	return s
}

// URL returns the URL of a new, empty database that goes with the test.
func URL(t testing.TB) string { return database(t, "") }

// Copy returns the URL of a new database that goes with the test and is a copy
// of another, to which nobody is connected.
func Copy(t testing.TB, of string) string {
	u, err := url.Parse(of)
	require.NoError(t, err)
	return database(t, " TEMPLATE "+strings.TrimPrefix(u.Path, "/"))
}

func database(t testing.TB, template string) string {
	t.Helper()
	server := os.Getenv(Variable)
	if server == "" {
		t.Fatalf("%s is not set: run ./test, or name a PostgreSQL server on which tests may make databases", Variable)
	}
	admin, err := sql.Open("pgx", server)
	require.NoError(t, err)
	name := "test_" + strings.ReplaceAll(uuid.NewString(), "-", "")
	_, err = admin.Exec("CREATE DATABASE " + name + template)
	require.NoError(t, err)
	t.Cleanup(func() {
		_, err := admin.Exec(fmt.Sprintf("DROP DATABASE %s WITH (FORCE)", name))
		require.NoError(t, err)
		require.NoError(t, admin.Close())
	})
	u, err := url.Parse(server)
	require.NoError(t, err)
	u.Path = "/" + name
	return u.String()
}
