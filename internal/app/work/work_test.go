package work_test

import (
	"context"
	"errors"
	"sync"
	"sync/atomic"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"freshapron/internal/app/work"
)

var ctx = context.Background()

// Twelve who ask at the same moment are answered by one who works it out.
func TestOnce(t *testing.T) {
	r := work.New(1)
	var worked atomic.Int64
	var wait sync.WaitGroup
	begun := make(chan struct{})
	for range 12 {
		wait.Go(func() {
			v, err := work.Once(r, "lesson 3", func() (int, error) {
				worked.Add(1)
				<-begun
				return 7, nil
			})
			assert.NoError(t, err)
			assert.Equal(t, 7, v)
		})
	}
	time.Sleep(20 * time.Millisecond) // all twelve have asked
	close(begun)
	wait.Wait()
	assert.EqualValues(t, 1, worked.Load())
	_, err := work.Once(r, "lesson 3", func() (int, error) { panic("spilt") })
	assert.ErrorContains(t, err, "spilt")
	_, err = work.Once(r, "lesson 3", func() (int, error) { return 0, errors.New("refused") })
	assert.ErrorContains(t, err, "refused", "an error is not kept")
}

func TestBehind(t *testing.T) {
	r := work.New(1)
	go1, kept := make(chan struct{}), atomic.Int64{}
	f := func(_ context.Context, progress func(done, all int)) (string, error) {
		progress(1, 3)
		<-go1
		progress(3, 3)
		return "found", nil
	}
	run := work.Behind(r, "a", f, func(string) { kept.Add(1) })
	assert.Same(t, run, work.Behind(r, "a", f, nil), "one run for a key")
	_, ended, err := run.Wait(ctx, time.Millisecond)
	require.NoError(t, err)
	assert.False(t, ended)
	other := work.Behind(r, "b", func(context.Context, func(int, int)) (int, error) { panic("spilt") }, nil)
	_, ended, _ = other.Wait(ctx, time.Millisecond)
	assert.False(t, ended, "it waits for its turn")
	close(go1)
	v, ended, err := run.Wait(ctx, time.Minute)
	require.NoError(t, err)
	assert.True(t, ended)
	assert.Equal(t, "found", v)
	assert.EqualValues(t, 1, kept.Load())
	done, all := run.Progress()
	assert.Equal(t, []int{3, 3}, []int{done, all})
	_, ended, err = other.Wait(ctx, time.Minute)
	assert.True(t, ended)
	assert.ErrorContains(t, err, "spilt", "a panic ends its run and nothing else")
	gone, cancel := context.WithCancel(ctx)
	cancel()
	again := work.Behind(r, "c", func(c context.Context, _ func(int, int)) (int, error) { <-c.Done(); return 0, c.Err() }, nil)
	_, ended, _ = again.Wait(gone, time.Minute)
	assert.False(t, ended, "whoever has gone away does not wait")
	require.NoError(t, r.Drain(ctx))
	_, _, err = again.Wait(ctx, time.Minute)
	assert.ErrorIs(t, err, context.Canceled, "it was told to end")
	_, _, err = work.Behind(r, "d", f, nil).Wait(ctx, time.Minute)
	assert.ErrorIs(t, err, work.ErrEnding)
}

// Draining waits no longer than it may.
func TestDrainDoesNotWaitForEver(t *testing.T) {
	r := work.New(1)
	stuck := make(chan struct{})
	defer close(stuck)
	begun := make(chan struct{})
	work.Behind(r, "stuck", func(context.Context, func(int, int)) (int, error) { close(begun); <-stuck; return 0, nil }, nil)
	<-begun
	short, cancel := context.WithTimeout(ctx, 10*time.Millisecond)
	defer cancel()
	assert.ErrorIs(t, r.Drain(short), context.DeadlineExceeded)
}

func TestPatientPanics(t *testing.T) {
	assert.PanicsWithValue(t, "spilt", func() { work.Patient(func() { panic("spilt") }) })
	n := 0
	work.Patient(func() { n++ })
	assert.Equal(t, 1, n)
}
