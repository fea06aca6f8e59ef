// Package storetest gives each test a database of its own.
package storetest

import (
	"context"
	"database/sql"
	"errors"
	"fmt"
	"net/url"
	"os"
	"strings"
	"sync"
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
	s, err := store.Open(Copy(t, Template(t, "migrated", func(*store.Store) error { return nil })))
	require.NoError(t, err)
	t.Cleanup(func() { _ = s.Close() })
	return s
}

var (
	mutex     sync.Mutex
	templates = map[string]func() (string, error){}
)

// Laid names the environment variable with the URL of a database in which ./test has laid
// the demonstration already, so that not every package does it again.
const Laid = "FRESH_APRON_TEST_DEMONSTRATION"

// Template returns the URL of a migrated database to copy, which is filled
// once for all tests that ask for the same name. It goes with the server.
func Template(t testing.TB, name string, fill func(*store.Store) error) string {
	t.Helper()
	mutex.Lock()
	if templates[name] == nil {
		templates[name] = sync.OnceValues(func() (string, error) {
			url, _, err := create("")
			if err != nil {
				return "", err
			}
			s, err := store.Open(url)
			if err != nil {
				return "", err
			}
			defer s.Close() //nolint:errcheck // nothing is written after
			if err := s.Migrate(context.Background()); err != nil {
				return "", err
			}
			return url, fill(s)
		})
	}
	made := templates[name]
	mutex.Unlock()
	url, err := made()
	require.NoError(t, err)
	return url
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
	url, drop, err := create(template)
	require.NoError(t, err)
	t.Cleanup(func() { require.NoError(t, drop()) })
	return url
}

// create makes a database on the server for tests, and returns its URL and
// what drops it.
func create(template string) (address string, drop func() error, err error) {
	server := os.Getenv(Variable)
	if server == "" {
		return "", nil, fmt.Errorf("%s is not set: run ./test, or name a PostgreSQL server on which tests may make databases", Variable)
	}
	u, err := url.Parse(server)
	if err != nil {
		return "", nil, err
	}
	admin, err := sql.Open("pgx", server)
	if err != nil {
		return "", nil, err
	}
	name := "test_" + strings.ReplaceAll(uuid.NewString(), "-", "")
	if _, err := admin.Exec("CREATE DATABASE " + name + template); err != nil {
		return "", nil, errors.Join(err, admin.Close())
	}
	u.Path = "/" + name
	return u.String(), func() error {
		_, err := admin.Exec(fmt.Sprintf("DROP DATABASE %s WITH (FORCE)", name))
		return errors.Join(err, admin.Close())
	}, nil
}
