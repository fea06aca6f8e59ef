package store

import (
	"context"

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

// withRecipes fills in the recipes of the dishes of lessons, which were loaded
// without.
func (s *School) withRecipes(ctx context.Context, lessons []*Lesson) error {
	var missing []int64
	for _, l := range lessons {
		if d, ok := s.dishes.Get(dishKey{l.Dish.ID, l.Dish.Version}); ok {
			d.Status, d.Family, d.Updated = l.Dish.Status, l.Dish.Family, l.Dish.Updated
			l.Dish = d
		} else {
			missing = append(missing, l.Dish.ID)
		}
	}
	if missing == nil {
		return nil
	}
	var rows []dishRow
	if err := s.db.WithContext(ctx).Where("id IN ?", missing).Find(&rows).Error; err != nil {
		return err
	}
	for _, row := range rows {
		d, err := row.dish()
		if err != nil {
			return err
		}
		s.dishes.Add(dishKey{d.ID, d.Version}, d)
		for _, l := range lessons {
			if l.Dish.ID == d.ID {
				l.Dish = d
			}
		}
	}
	return nil
}
