// Package demotest gives each test a demonstration school of its own.
package demotest

import (
	"context"
	"os"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"freshapron/internal/app/school"
	"freshapron/internal/core/fit"
	"freshapron/internal/demo"
	"freshapron/internal/store"
	"freshapron/internal/store/storetest"
)

// Nine is when the tests take place: a Thursday at nine, in the first period
// of the demonstration.
var Nine = time.Date(2026, 11, 26, 9, 0, 0, 0, time.UTC)

// Thursday is the day on which the demonstration is laid.
func Thursday(*time.Location) time.Time { return Nine.Truncate(24 * time.Hour) }

// Open returns the application with a demonstration school of its own, where
// it is always nine, and the URL of its database. Watch, where it is not nil,
// is told of every statement.
func Open(t testing.TB, watch store.Watcher) (*school.Site, *store.School, string) {
	t.Helper()
	ctx := context.Background()
	laid := os.Getenv(storetest.Laid)
	if laid == "" {
		laid = storetest.Template(t, "demonstration", func(s *store.Store) error {
			_, err := demo.Open(ctx, s, Thursday)
			return err
		})
	}
	url := storetest.Copy(t, laid)
	s, err := store.OpenWatched(url, watch)
	require.NoError(t, err)
	t.Cleanup(func() { _ = s.Close() })
	in, err := demo.Open(ctx, s, Thursday)
	require.NoError(t, err)
	site := school.NewSite(s, func() time.Time { return Nine })
	// Quicker than usual, since the race detector makes planning slow; the
	// demonstration's lessons are planned as well with less.
	site.Planning = fit.Options{Budget: 5, Runs: 60}
	t.Cleanup(func() { Drain(t, site) })
	return site, in, url
}

// Drain ends what goes on behind the pages of a site.
func Drain(t testing.TB, site *school.Site) {
	t.Helper()
	ctx, cancel := context.WithTimeout(context.Background(), 2*time.Minute)
	defer cancel()
	assert.NoError(t, site.Work.Drain(ctx))
}
