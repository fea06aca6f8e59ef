package store_test

import (
	"context"
	"errors"
	"math/rand/v2"
	"sync"
	"sync/atomic"
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"freshapron/internal/core/term"
	"freshapron/internal/store"
	"freshapron/internal/store/storetest"
)

// Whoever goes away in the middle of a statement does not spoil the connection
// for whoever takes it next.
func TestGivenUpStatementsSpoilNothing(t *testing.T) {
	db := storetest.Open(t)
	s := newSchool(t, db, "Quillhaven")
	fill(t, s)
	var leaving, staying sync.WaitGroup
	stop := make(chan struct{})
	for range 6 {
		leaving.Go(func() {
			for {
				select {
				case <-stop:
					return
				default:
				}
				short, cancel := context.WithTimeout(ctx, time.Duration(rand.IntN(1500))*time.Microsecond)
				_, _ = s.Classes(short)
				_ = s.InTransaction(short, func(in *store.School) error { _, err := in.Rooms(short); return err })
				cancel()
			}
		})
	}
	for range 4 {
		staying.Go(func() {
			for range 30 {
				_, err := s.Classes(ctx)
				assert.NoError(t, err)
				_, err = s.Rooms(ctx)
				assert.NoError(t, err)
			}
		})
	}
	staying.Wait()
	close(stop)
	leaving.Wait()
}

// A row that somebody holds keeps those waiting who change the same row, and
// nobody else: others read and change what they like meanwhile, and the health
// check has its answer.
func TestAHeldRowHoldsUpItsOwnAskersOnly(t *testing.T) {
	db := storetest.Open(t)
	s := newSchool(t, db, "Quillhaven")
	l := saved(t, s)
	held, release := make(chan struct{}), make(chan struct{})
	var holder, askers sync.WaitGroup
	holder.Go(func() {
		assert.NoError(t, s.InTransaction(ctx, func(in *store.School) error {
			if err := in.ChangeLesson(ctx, l, "holds it"); err != nil {
				return err
			}
			close(held)
			<-release
			return nil
		}))
	})
	<-held
	var busy atomic.Int64
	for range 40 {
		askers.Go(func() {
			if err := s.ChangeLesson(ctx, l, "waits"); errors.Is(err, store.ErrBusy) {
				busy.Add(1)
			} else {
				assert.ErrorIs(t, err, store.ErrChanged)
			}
		})
	}
	for range 20 {
		_, err := s.Classes(ctx)
		require.NoError(t, err)
		require.NoError(t, db.Ping(ctx))
		require.NoError(t, s.AddTerm(ctx, term.Span{Name: "Autumn", First: l.Date, Last: l.Date}))
	}
	assert.Zero(t, busy.Load(), "all that before any of those who wait has given up")
	askers.Wait()
	close(release)
	holder.Wait()
	assert.Positive(t, busy.Load(), "who waits too long is told so")
}

// Whoever has gone away is not waited for, and does not keep the next.
func TestTurnsOfThoseWhoHaveGone(t *testing.T) {
	db := storetest.Open(t)
	s := newSchool(t, db, "Quillhaven")
	l := saved(t, s)
	gone, cancel := context.WithCancel(ctx)
	cancel()
	assert.ErrorIs(t, s.ChangeLesson(gone, l, "nobody asks any more"), context.Canceled)
	assert.NoError(t, s.ChangeLesson(ctx, l, "somebody asks"))
}

// saved fills a school and saves the lesson.
func saved(t *testing.T, s *store.School) store.Lesson {
	t.Helper()
	l := fill(t, s)
	id, err := s.CreateLesson(ctx, l, uuid.NewString())
	require.NoError(t, err)
	l, err = s.Lesson(ctx, id)
	require.NoError(t, err)
	return l
}
