package people

import (
	"context"
	"sync"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"golang.org/x/sync/semaphore"
)

// A few go through at a time; who waits longer than is patient is told so, and
// whoever has gone away is not waited for.
func TestGate(t *testing.T) {
	g := gate{semaphore.NewWeighted(2), time.Minute}
	var mutex sync.Mutex
	inside, most := 0, 0
	var wait sync.WaitGroup
	for range 20 {
		wait.Go(func() {
			assert.NoError(t, g.through(context.Background(), func() error {
				mutex.Lock()
				inside++
				most = max(most, inside)
				mutex.Unlock()
				time.Sleep(time.Millisecond)
				mutex.Lock()
				inside--
				mutex.Unlock()
				return nil
			}))
		})
	}
	wait.Wait()
	assert.Equal(t, 2, most)

	g.patience = time.Millisecond
	held, release := make(chan bool), make(chan bool)
	for range 2 {
		wait.Go(func() { _ = g.through(context.Background(), func() error { held <- true; <-release; return nil }) })
		<-held
	}
	assert.ErrorIs(t, g.through(context.Background(), func() error { return nil }), ErrBusy)
	gone, cancel := context.WithCancel(context.Background())
	cancel()
	assert.ErrorIs(t, g.through(gone, func() error { return nil }), context.Canceled)
	close(release)
	wait.Wait()
}
