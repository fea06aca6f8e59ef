package school

import (
	"context"

	"freshapron/internal/core/measure"
	"freshapron/internal/core/shelf"
	"freshapron/internal/store"
)

// factKey names the facts of one version of a dish in one state of the
// pantry.
type factKey struct {
	dish    int64
	version int
	larder  string
}

// cachedFacts is how many dishes' facts are kept, at about 2 kB each.
const cachedFacts = 10_000

// An Entry is a dish on the shelf.
type Entry struct {
	store.Head
	Facts shelf.Facts
}

// stocked is all dishes with their facts, as they were under a key.
type stocked struct {
	key     string
	entries []Entry
}

// Shelf returns all dishes with their facts, by title. The list is built anew
// only where a dish or the pantry has changed.
func (s *School) Shelf(ctx context.Context, l Larder) ([]Entry, error) {
	now, err := s.Standing(ctx)
	if err != nil {
		return nil, err
	}
	key := l.Key + "|" + now.Dishes
	if last := s.stock.Load(); last != nil && last.key == key {
		return last.entries, nil
	}
	heads, err := s.School.Heads(ctx)
	if err != nil {
		return nil, err
	}
	entries, err := s.entries(ctx, l, heads)
	if err == nil {
		s.stock.Store(&stocked{key, entries})
	}
	return entries, err
}

// Warm works out the facts of all dishes, so that the first search does not
// wait for them.
func (s *School) Warm(ctx context.Context) error {
	l, err := s.Larder(ctx)
	if err == nil {
		_, err = s.Shelf(ctx, l)
	}
	return err
}

// OfStatus keeps the entries of a status.
func OfStatus(entries []Entry, status store.Status) []Entry {
	var out []Entry
	for _, e := range entries {
		if e.Status == status {
			out = append(out, e)
		}
	}
	return out
}

// entries returns the dishes with their facts; facts that no process has
// worked out yet are worked out here.
func (s *School) entries(ctx context.Context, l Larder, heads []store.Head) ([]Entry, error) {
	facts := Keep[factKey, *shelf.Facts](s.Site, cachedFacts)
	out := make([]Entry, len(heads))
	var missing []int64
	for n, h := range heads {
		out[n].Head = h
		known, ok := facts.Get(factKey{h.ID, h.Version, l.Key})
		if ok {
			out[n].Facts = *known
			continue
		}
		missing = append(missing, h.ID)
	}
	if len(missing) == 0 {
		return out, nil
	}
	dishes, err := s.School.DishesByID(ctx, missing)
	if err != nil {
		return nil, err
	}
	byID := map[int64]shelf.Facts{}
	kitchen := l.Kitchen(measure.Usual(l.System()))
	for _, d := range dishes {
		f := shelf.Of(d.Recipe, kitchen)
		facts.Add(factKey{d.ID, d.Version, l.Key}, &f)
		byID[d.ID] = f
	}
	for n := range out {
		if f, ok := byID[out[n].ID]; ok {
			out[n].Facts = f
		}
	}
	return out, nil
}
