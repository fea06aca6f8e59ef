package frame

import (
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
