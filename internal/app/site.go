package app

import (
	"context"
	"crypto/sha256"
	"sync"

	lru "github.com/hashicorp/golang-lru/v2"
	"golang.org/x/sync/semaphore"

	"freshapron/internal/core/fit"
	"freshapron/internal/core/shelf"
	"freshapron/internal/core/staff"
	"freshapron/internal/store"
)

// A Site is the application for all its schools.
type Site struct {
	Store *store.Store
	Now   Clock
	// Planning bounds and seeds the planner; the zero value is what is usual.
	Planning fit.Options
	// Address is where the site is found, for links in messages.
	Address string

	hashing gate
	kept    *kept
	mutex   sync.Mutex
	schools *lru.Cache[int64, *App]
}

// kept is what all schools' work shares: what was computed, and how much is
// computed at once. Every key names ids or versions that are one school's
// only, or the whole of what was computed from.
type kept struct {
	plans     *lru.Cache[[sha256.Size]byte, *fit.Plan]
	facts     *lru.Cache[factKey, *shelf.Facts]
	views     *lru.Cache[string, *View]
	tries     *lru.Cache[string, *Trying]
	prospects *lru.Cache[string, *Prospect]
	sheets    *lru.Cache[string, composedSheet]

	tryMutex sync.Mutex
	trySlots chan struct{} // one for each search that goes on at once
}

const (
	// cachedPlans is how many plans are kept: a term of a busy school, at
	// about 100 kB each.
	cachedPlans = 300
	// cachedViews is how many lessons are kept as they are seen.
	cachedViews = 300
	// searchesAtOnce is how many searches for rescues go on at once; each
	// uses every processor that no page needs.
	searchesAtOnce = 2
	// openSchools is how many schools' pantries and shelves are kept.
	openSchools = 300
)

// NewSite returns the application on a store.
func NewSite(s *store.Store, now Clock) *Site {
	return &Site{
		Store: s, Now: now, schools: cache[int64, *App](openSchools),
		hashing: gate{semaphore.NewWeighted(hashesAtOnce), signInPatience},
		kept: &kept{
			plans: cache[[sha256.Size]byte, *fit.Plan](cachedPlans), facts: cache[factKey, *shelf.Facts](cachedFacts),
			views: cache[string, *View](cachedViews), tries: cache[string, *Trying](cachedViews),
			prospects: cache[string, *Prospect](cachedProspects), sheets: cache[string, composedSheet](cachedViews),
			trySlots: make(chan struct{}, searchesAtOnce),
		},
	}
}

func cache[K comparable, V any](size int) *lru.Cache[K, V] {
	c, err := lru.New[K, V](size)
	if err != nil {
		panic(err) // only where the size is not over 0
	}
	return c
}

// For returns the application as a school has it.
func (s *Site) For(school *store.School) *App {
	s.mutex.Lock()
	defer s.mutex.Unlock()
	if a, ok := s.schools.Get(school.ID); ok {
		return a
	}
	a := &App{School: school, Now: s.Now, Planning: s.Planning, site: s, kept: s.kept}
	s.schools.Add(school.ID, a)
	return a
}

// Of returns the application of the school with the id.
func (s *Site) Of(ctx context.Context, school int64) (*App, error) {
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

// acting is the key of whoever asks, in a context.
type acting struct{}

// As returns a context in which an account acts.
func As(ctx context.Context, a store.Account) context.Context {
	return context.WithValue(ctx, acting{}, a)
}

// Acting returns whoever acts; the zero account where that is nobody, who may
// do nothing.
func Acting(ctx context.Context) store.Account {
	a, _ := ctx.Value(acting{}).(store.Account)
	return a
}

// May reports whether whoever acts may do something.
func May(ctx context.Context, a staff.Action) bool { return Acting(ctx).Role.May(a) }

// note adds to the audit trail what whoever acts has seen or done.
func (a *App) note(ctx context.Context, in *store.School, n store.Note) error {
	who := Acting(ctx)
	n.Account, n.Who, n.At = who.ID, who.Name, a.Now()
	return in.Note(ctx, n)
}
