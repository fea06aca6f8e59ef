package demotest

import (
	"context"
	"strconv"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"freshapron/internal/app/school"
	"freshapron/internal/core/problem"
	"freshapron/internal/store"
)

// A House is a demonstration school of a test's own, in which somebody acts.
type House struct {
	*school.School
	URL string // of its database
	t   testing.TB
}

// Enter opens one, in which everybody may act at any time of a stopped clock.
func Enter(t *testing.T) House {
	t.Helper()
	t.Parallel()
	site, in, url := Open(t, nil)
	return House{site.For(in), url, t}
}

// As returns a context in which one of the demonstration's people acts.
func (h House) As(name string) context.Context {
	h.t.Helper()
	list, err := h.Site.Store.Offered(context.Background())
	require.NoError(h.t, err)
	for _, a := range list {
		if a.Name == name {
			return school.As(context.Background(), h.School, a)
		}
	}
	h.t.Fatalf("nobody is called %s", name)
	return nil
}

// Head returns a context in which the head of food acts.
func (h House) Head() context.Context { return h.As("Maren Holt") }

// At stops the clock at a time.
func (h House) At(now time.Time) { h.Site.Now = func() time.Time { return now } }

// ClassOf returns a class by its name.
func (h House) ClassOf(name string) store.Class {
	h.t.Helper()
	all, err := h.Classes(context.Background())
	require.NoError(h.t, err)
	for _, c := range all {
		if c.Name == name {
			whole, err := h.Class(context.Background(), c.ID)
			require.NoError(h.t, err)
			return whole
		}
	}
	h.t.Fatalf("there is no class %s", name)
	return store.Class{}
}

// LastNote returns the newest note of the trail.
func (h House) LastNote() store.Note {
	h.t.Helper()
	notes, _, err := h.Trail(context.Background(), "", 0, 1)
	require.NoError(h.t, err)
	require.NotEmpty(h.t, notes)
	return notes[0]
}

// Says asserts that an error is made of these problems, in any order.
func Says(t testing.TB, err error, want ...string) {
	t.Helper()
	var got []string
	for _, p := range problem.Of(err) {
		got = append(got, p.Path+": "+p.Says)
	}
	require.NotEmpty(t, got, "%v", err)
	assert.ElementsMatch(t, want, got)
}

// ID writes an id as forms do.
func ID(n int64) string { return strconv.FormatInt(n, 10) }
