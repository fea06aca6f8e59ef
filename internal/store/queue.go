package store

import (
	"context"
	"sync"
)

// queues let one at a time through to what has a name. They keep nothing for
// names that nobody waits at. They are safe for many goroutines.
type queues struct {
	mutex sync.Mutex
	at    map[string]*queue
}

type queue struct {
	free  chan struct{} // holds the one that may pass
	there int           // who passes or waits
}

func newQueues() *queues { return &queues{at: map[string]*queue{}} }

// enter waits for one's turn, and returns how to leave; false where the context
// ended first.
func (q *queues) enter(ctx context.Context, name string) (leave func(), ok bool) {
	q.mutex.Lock()
	at := q.at[name]
	if at == nil {
		at = &queue{free: make(chan struct{}, 1)}
		at.free <- struct{}{}
		q.at[name] = at
	}
	at.there++
	q.mutex.Unlock()
	gone := func() {
		q.mutex.Lock()
		defer q.mutex.Unlock()
		if at.there--; at.there == 0 {
			delete(q.at, name)
		}
	}
	select {
	case <-at.free:
		return func() { at.free <- struct{}{}; gone() }, true
	case <-ctx.Done():
		gone()
		return nil, false
	}
}
