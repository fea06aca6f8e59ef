package store

import (
	"context"
	"slices"

	lru "github.com/hashicorp/golang-lru/v2"
)

// A dishKey names one version of a dish; it never changes.
type dishKey struct {
	id      int64
	version int
}

// A dishCache keeps dishes as they were read, so that a recipe is not read
// again with every lesson in which it is cooked.
type dishCache = lru.Cache[dishKey, Dish]

// keptDishes is how many versions of dishes are kept, at about 20 kB each.
const keptDishes = 2_000

// withDishes fills in the dishes on the menus of lessons, of which the ids are
// known.
func (s *School) withDishes(ctx context.Context, lessons []*Lesson) error {
	var ids []int64
	for _, l := range lessons {
		for _, c := range l.Menu {
			if !slices.Contains(ids, c.Dish.ID) {
				ids = append(ids, c.Dish.ID)
			}
		}
	}
	if ids == nil {
		return nil
	}
	all, err := s.Heads(ctx)
	if err != nil {
		return err
	}
	heads := byID(all, func(h Head) int64 { return h.ID })
	found := map[int64]Dish{}
	var missing []int64
	for _, id := range ids {
		h := heads[id]
		if d, ok := s.dishes.Get(dishKey{id, h.Version}); ok {
			d.Status, d.Family, d.Updated = h.Status, h.Family, h.Updated
			found[id] = d
		} else {
			missing = append(missing, id)
		}
	}
	if missing != nil {
		dishes, err := s.DishesByID(ctx, missing)
		if err != nil {
			return err
		}
		for _, d := range dishes {
			s.dishes.Add(dishKey{d.ID, d.Version}, d)
			found[d.ID] = d
		}
	}
	for _, l := range lessons {
		for i := range l.Menu {
			l.Menu[i].Dish = found[l.Menu[i].Dish.ID]
		}
	}
	return nil
}
