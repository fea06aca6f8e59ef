package school

import (
	"context"
	"sync"

	"freshapron/internal/store"
)

// news tells those who look at something when it changes, by whichever copy of
// the program. It is safe for many goroutines.
type news struct {
	mutex    sync.Mutex
	watchers map[*watcher]bool
}

type watcher struct {
	school int64
	about  map[string]bool
	heard  chan string
}

// longestQueue is how many changes wait for somebody who is slow; of more they
// hear that something has changed.
const longestQueue = 64

// Watch returns a channel that says about what of a school something has changed,
// empty where that is not known; it is closed when the program is about to stop.
// Stop has to be called in the end.
func (s *School) Watch(about ...string) (heard <-chan string, stop func()) {
	n := &s.Site.news
	w := &watcher{s.ID, map[string]bool{}, make(chan string, longestQueue)}
	for _, a := range about {
		w.about[a] = true
	}
	n.mutex.Lock()
	if n.watchers == nil {
		n.watchers = map[*watcher]bool{}
	}
	n.watchers[w] = true
	n.mutex.Unlock()
	s.Site.Work.Stay("news", func(ctx context.Context) {
		s.Site.Store.Listen(ctx, n.pass)
		n.end()
	})
	return w.heard, func() {
		n.mutex.Lock()
		delete(n.watchers, w)
		n.mutex.Unlock()
	}
}

// pass tells those whom a notice is for. The zero notice is for all.
func (n *news) pass(notice store.Notice) {
	n.mutex.Lock()
	defer n.mutex.Unlock()
	for w := range n.watchers {
		if notice.School != 0 && (w.school != notice.School || !w.about[notice.About]) {
			continue
		}
		select {
		case w.heard <- notice.About:
		default: // they will look when they come to what waits
		}
	}
}

func (n *news) end() {
	n.mutex.Lock()
	defer n.mutex.Unlock()
	for w := range n.watchers {
		close(w.heard)
		delete(n.watchers, w)
	}
}
