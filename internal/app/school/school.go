// Package school is what everything that users do shares: the schools, who
// acts, the trail, and what is kept in memory.
package school

import (
	"context"
	"reflect"
	"sync"
	"sync/atomic"
	"time"

	lru "github.com/hashicorp/golang-lru/v2"

	"freshapron/internal/app/work"
	"freshapron/internal/core/fit"
	"freshapron/internal/store"
)

// Errors that callers tell apart, beside problem.List.
var (
	// ErrNotFound says that there is no such thing in this school.
	ErrNotFound = store.ErrNotFound
	// ErrChanged says that somebody else has changed it meanwhile.
	ErrChanged = store.ErrChanged
	// ErrBusy says that it took too long; nothing was changed.
	ErrBusy = store.ErrBusy
)

// A Clock tells the time; tests and screenshots stop it.
type Clock func() time.Time

// A Site is the application for all its schools. It is safe for many
// goroutines once it is set up.
type Site struct {
	Store *store.Store
	Now   Clock
	// Planning bounds and seeds the planner; the zero value is what is usual.
	Planning fit.Options
	// Address is where the site is found, for links in messages.
	Address string
	Work    *work.Runner

	mutex   sync.Mutex
	schools *lru.Cache[int64, *School]
	memory  sync.Map // reflect.Type of a kind of memory to it; see Keep
	news    news
}

const (
	// openSchools is how many schools' pantries and shelves are kept.
	openSchools = 300
	// searchesAtOnce is how many searches for what would help go on at once;
	// each uses every processor that no page needs.
	searchesAtOnce = 2
)

// NewSite returns the application on a store.
func NewSite(s *store.Store, now Clock) *Site {
	return &Site{Store: s, Now: now, Work: work.New(searchesAtOnce), schools: cache[int64, *School](openSchools)}
}

func cache[K comparable, V any](size int) *lru.Cache[K, V] {
	c, err := lru.New[K, V](size)
	if err != nil {
		panic(err) // only where the size is not over 0
	}
	return c
}

// Keep returns the site's memory of values of a type under keys of a type, of
// which it holds so many. Every key names ids or versions that are one school's
// only, or the whole of what was computed from, so that any copy of the program
// works out the same.
func Keep[K comparable, V any](s *Site, size int) *lru.Cache[K, V] {
	kind := reflect.TypeFor[lru.Cache[K, V]]()
	if c, ok := s.memory.Load(kind); ok {
		return c.(*lru.Cache[K, V])
	}
	c, _ := s.memory.LoadOrStore(kind, cache[K, V](size))
	return c.(*lru.Cache[K, V])
}

// A School is the application as one school has it.
type School struct {
	*store.School
	Site *Site

	// The pantry and the shelf as they last were.
	larder atomic.Pointer[Larder]
	stock  atomic.Pointer[stocked]
}

// For returns the application as a school has it.
func (s *Site) For(school *store.School) *School {
	s.mutex.Lock()
	defer s.mutex.Unlock()
	if a, ok := s.schools.Get(school.ID); ok {
		return a
	}
	a := &School{School: school, Site: s}
	s.schools.Add(school.ID, a)
	return a
}

// Of returns the application of the school with the id.
func (s *Site) Of(ctx context.Context, school int64) (*School, error) {
	s.mutex.Lock()
	a, ok := s.schools.Get(school)
	s.mutex.Unlock()
	if ok {
		return a, nil
	}
	found, err := s.Store.SchoolByID(ctx, school)
	if err != nil {
		return nil, err
	}
	return s.For(found), nil
}

// Now returns the time.
func (s *School) Now() time.Time { return s.Site.Now() }

// Today returns the school's local date, as midnight UTC.
func (s *School) Today() time.Time {
	now := s.Local(s.Now())
	return time.Date(now.Year(), now.Month(), now.Day(), 0, 0, 0, 0, time.UTC)
}

// Local returns a time as the school's clocks show it.
func (s *School) Local(t time.Time) time.Time { return t.In(s.Location) }

// Ago says how long ago something was.
func (s *School) Ago(t time.Time) string {
	switch d := s.Now().Sub(t); {
	case d < time.Minute:
		return "just now"
	case d < time.Hour:
		return minutes(d) + " min ago"
	case d < 24*time.Hour:
		return "at " + s.Local(t).Format("15:04")
	default:
		return "on " + s.Local(t).Format("2 January")
	}
}
