package store

import (
	"context"
	"slices"
	"sync"
	"sync/atomic"

	lru "github.com/hashicorp/golang-lru/v2"

	"freshapron/internal/core/class"
)

// A Standing is what a school has chosen, with stamps that tell in what state
// its things are: one question to the database in place of reading them all.
type Standing struct {
	Settings Settings
	Pantry   string // changes whenever PantryItems would
	Dishes   string // changes whenever Heads would

	classes, rooms, periods, outages, undecided string
}

type standingRow struct {
	Settings                                         Settings `gorm:"serializer:json"`
	Pantry, Dishes, Classes, Rooms, Periods, Outages string
	Undecided                                        string
}

// TableName of the schools.
func (standingRow) TableName() string { return "schools" }

// Classes and rooms have versions that go up with every change; of periods and
// outages, which are few, every word counts.
const stamps = `settings,
	(SELECT concat_ws(' ', count(*), sum(version), max(updated_at)) FROM pantry_items WHERE school_id = schools.id) AS pantry,
	(SELECT concat_ws(' ', count(*), sum(version), max(updated_at), count(*) FILTER (WHERE status = 'ready'), count(*) FILTER (WHERE status = 'draft'))
		FROM dishes WHERE school_id = schools.id) AS dishes,
	(SELECT concat_ws(' ', count(*), sum(version)) FROM classes WHERE school_id = schools.id) AS classes,
	(SELECT concat_ws(' ', count(*), sum(version)) FROM rooms WHERE school_id = schools.id) AS rooms,
	(SELECT concat_ws(' ', count(*), sum(hashtextextended(p::text, 0))) FROM periods p WHERE school_id = schools.id) AS periods,
	(SELECT concat_ws(' ', count(*), sum(hashtextextended(o::text, 0))) FROM outages o WHERE school_id = schools.id) AS outages,
	(SELECT concat_ws(' ', count(*), sum(id)) FROM order_lines WHERE school_id = schools.id AND unlike AND decided = '') AS undecided`

// Standing asks for it; in a context of Remember once.
func (s *School) Standing(ctx context.Context) (Standing, error) {
	memo, _ := ctx.Value(remembering{}).(*memo)
	if memo == nil || s.inside {
		return s.standing(ctx)
	}
	memo.mutex.Lock()
	defer memo.mutex.Unlock()
	if memo.standing == nil || memo.school != s.ID {
		now, err := s.standing(ctx)
		if err != nil {
			return now, err
		}
		memo.school, memo.standing = s.ID, &now
	}
	return *memo.standing, nil
}

func (s *School) standing(ctx context.Context) (Standing, error) {
	var row standingRow
	err := s.db.WithContext(ctx).Select(stamps).Where("id = ?", s.ID).Take(&row).Error
	return Standing{row.Settings, row.Pantry, row.Dishes, row.Classes, row.Rooms, row.Periods, row.Outages, row.Undecided}, translate(err)
}

type remembering struct{}

type memo struct {
	mutex    sync.Mutex
	school   int64
	standing *Standing
}

// Remember returns a context in which a school's standing is asked for once. It
// is for a request that changes nothing and does not last.
func Remember(ctx context.Context) context.Context {
	return context.WithValue(ctx, remembering{}, &memo{})
}

// A memory holds lists of a school as they last were, under their stamps. It is
// safe for many goroutines.
type memory struct {
	classes atomic.Pointer[listed[Class]]
	rooms   atomic.Pointer[listed[Room]]
	periods atomic.Pointer[listed[Period]]
	outages atomic.Pointer[listed[Outage]]
	// Products that came in place of others.
	undecided atomic.Pointer[listed[Undecided]]
	heads     atomic.Pointer[listed[Head]]
}

type listed[T any] struct {
	stamp string
	list  []T
}

// remembered returns a list as it was kept under a stamp, or loads and keeps
// it. A transaction sees what nobody else does yet, and keeps nothing.
func remembered[T any](ctx context.Context, s *School, at *atomic.Pointer[listed[T]], stamp func(Standing) string, load func() ([]T, error)) ([]T, error) {
	if s.inside {
		return load()
	}
	now, err := s.Standing(ctx)
	if err != nil {
		return nil, err
	}
	if kept := at.Load(); kept != nil && kept.stamp == stamp(now) {
		return slices.Clone(kept.list), nil
	}
	list, err := load()
	if err != nil {
		return nil, err
	}
	at.Store(&listed[T]{stamp(now), list})
	return slices.Clone(list), nil
}

// A rosterKey names the learners of one version of a class.
type rosterKey struct {
	class   int64
	version int
}

type rosterCache = lru.Cache[rosterKey, []class.Learner]

// keptRosters is how many classes' learners are kept, at about 10 kB each.
const keptRosters = 2_000

// byID finds each by its id.
func byID[T any](list []T, id func(T) int64) map[int64]T {
	out := map[int64]T{}
	for _, t := range list {
		out[id(t)] = t
	}
	return out
}
