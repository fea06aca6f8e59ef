package frame

import (
	"bytes"
	"io"
	"net/http"
	"sync"
	"time"
)

// mostStreams is how many streams an account or a screen may have open at once, in
// one copy of the program: more than a school has screens, and too few to wear it out.
const mostStreams = 200

// streams counts those that are open, by whose they are.
type streams struct {
	mutex sync.Mutex
	open  map[string]int
}

// enter reports whether one more may be opened.
func (s *streams) enter(whose string) bool {
	s.mutex.Lock()
	defer s.mutex.Unlock()
	if s.open == nil {
		s.open = map[string]int{}
	}
	if s.open[whose] >= mostStreams {
		return false
	}
	s.open[whose]++
	return true
}

func (s *streams) leave(whose string) {
	s.mutex.Lock()
	defer s.mutex.Unlock()
	if s.open[whose]--; s.open[whose] == 0 {
		delete(s.open, whose)
	}
}

// Stream lets a handler answer for as long as somebody looks.
func (f *Frame) Stream(w http.ResponseWriter, r *http.Request, whose string, do Handler) {
	if !f.streams.enter(whose) {
		w.Header().Set("Retry-After", "60")
		http.Error(w, "Too many of these screens are open. Close some of them.", http.StatusTooManyRequests)
		return
	}
	defer f.streams.leave(whose)
	_ = http.NewResponseController(w).SetWriteDeadline(time.Time{})
	f.Answer(w, r, do)
}

// longestStream is after how long a stream ends; the screen then asks anew.
const longestStream = 10 * time.Minute

// A Feed is what a screen is told as server-sent events.
type Feed struct {
	Heard <-chan string                          // about what there is news; empty is about everything
	Beat  time.Duration                          // after which it is told again though nothing is heard
	May   func() bool                            // whether it may still be told
	Send  func(to io.Writer, about string) error // tells about something, or about everything
}

// Tell tells a screen about everything, and then about all news, until it looks away,
// may not look any more, or has looked long enough to ask anew.
func (f Feed) Tell(w http.ResponseWriter, r *http.Request) error {
	w.Header().Set("Content-Type", "text/event-stream")
	w.Header().Set("Cache-Control", "no-store")
	w.Header().Set("X-Accel-Buffering", "no")
	var b bytes.Buffer
	send := func(about string) error {
		b.Reset()
		if err := f.Send(&b, about); err != nil {
			return err
		}
		if _, err := b.WriteTo(w); err != nil {
			return err
		}
		return http.NewResponseController(w).Flush()
	}
	if err := send(""); err != nil {
		return err
	}
	end := time.NewTimer(longestStream)
	defer end.Stop()
	beat := time.NewTicker(f.Beat)
	defer beat.Stop()
	for {
		about := ""
		select {
		case <-r.Context().Done():
			return nil
		case <-end.C:
			return nil
		case <-beat.C:
		case news, ok := <-f.Heard:
			if !ok {
				return nil
			}
			about = news
		}
		if !f.May() {
			return nil
		}
		if err := send(about); err != nil {
			return nil //nolint:nilerr // whoever looked has gone, or asks again
		}
	}
}
