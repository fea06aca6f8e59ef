// Package recipes is the dishes: how they are chosen, written, brought in and
// taken out, and the pantry that they are made from.
package recipes

import (
	"context"
	"errors"
	"fmt"
	"slices"
	"strings"

	"freshapron/internal/app/school"
	"freshapron/internal/core/measure"
	"freshapron/internal/core/pantry"
	"freshapron/internal/core/recipe"
	"freshapron/internal/core/shelf"
	"freshapron/internal/core/words"
	"freshapron/internal/store"
)

// A Shelf is what a search found.
type Shelf struct {
	school.Larder
	Entries []school.Entry // that answer the query
	Of      int            // dishes of the asked status in all
	Skills  []string
	Periods []int // lengths of the school's periods, in minutes
	Edits   []store.Edit
}

// Search searches the dishes of a status.
func Search(ctx context.Context, q shelf.Query, status store.Status) (Shelf, error) {
	a := school.In(ctx)
	s := Shelf{}
	var err error
	if s.Larder, err = a.Larder(ctx); err != nil {
		return s, err
	}
	all, err := a.Shelf(ctx, s.Larder)
	if err != nil {
		return s, err
	}
	all = school.OfStatus(all, status)
	s.Of = len(all)
	search := q.Search()
	skills := map[string]int{}
	for _, e := range all {
		for _, sk := range e.Facts.Skills {
			skills[sk]++
		}
		if search.Finds(e.Facts) {
			s.Entries = append(s.Entries, e)
		}
	}
	for sk := range skills {
		s.Skills = append(s.Skills, sk)
	}
	slices.Sort(s.Skills)
	periods, err := a.Periods(ctx)
	if err != nil {
		return s, err
	}
	s.Periods = lengthsOf(periods)
	s.Edits, err = a.Edits(ctx, 0)
	return s, err
}

// A Dish is a dish with everything that is worked out of it.
type Dish struct {
	store.Dish
	school.Larder
	Facts  shelf.Facts
	Family []store.Head // the versions for other levels
	Edits  []store.Edit // that somebody is writing
}

// One loads a dish.
func One(ctx context.Context, id int64) (Dish, error) {
	a := school.In(ctx)
	d := Dish{}
	var err error
	if d.Larder, err = a.Larder(ctx); err != nil {
		return d, err
	}
	if d.Dish, err = a.Dish(ctx, id); err != nil {
		return d, err
	}
	entries, err := a.Shelf(ctx, d.Larder)
	if err != nil {
		return d, err
	}
	root := d.Dish.Family
	if root == 0 {
		root = d.ID
	}
	known := slices.IndexFunc(entries, func(e school.Entry) bool { return e.ID == d.ID && e.Version == d.Version })
	if known >= 0 {
		d.Facts = entries[known].Facts
	} else { // changed between the two looks
		d.Facts = shelf.Of(d.Recipe, d.Kitchen(measure.Usual(d.System())))
	}
	for _, e := range entries {
		if e.ID != d.ID && (e.ID == root || e.Family == root) && e.Status != store.Aside {
			d.Family = append(d.Family, e.Head)
		}
	}
	d.Edits, err = a.Edits(ctx, id)
	return d, err
}

// change loads a dish, changes its recipe and saves it.
func change(ctx context.Context, id int64, f func(store.Dish, school.Larder) (store.Dish, error)) error {
	a := school.In(ctx)
	l, err := a.Larder(ctx)
	if err != nil {
		return err
	}
	d, err := a.Dish(ctx, id)
	if err != nil {
		return err
	}
	if d, err = f(d, l); err != nil {
		return err
	}
	return a.ChangeDish(ctx, d, a.Now())
}

// ErrNothingToMend says that a finding is no longer there, or has no mend.
var ErrNothingToMend = errors.New("this finding is no longer there, or can't be mended by a press")

// Mend mends a finding of a dish.
func Mend(ctx context.Context, id int64, key string) error {
	return change(ctx, id, func(d store.Dish, l school.Larder) (store.Dish, error) {
		mended, ok := recipe.Mend(d.Recipe, l.Pantry, key)
		if !ok {
			return d, ErrNothingToMend
		}
		d.Recipe = mended
		return d, nil
	})
}

// SetAside sets a finding aside with a reason, or takes it up again where the
// reason is empty.
func SetAside(ctx context.Context, id int64, key, reason string) error {
	return change(ctx, id, func(d store.Dish, _ school.Larder) (store.Dish, error) {
		d.SetAside = slices.DeleteFunc(slices.Clone(d.SetAside), func(s recipe.Aside) bool { return s.Key == key })
		if reason = strings.TrimSpace(reason); reason != "" {
			d.SetAside = append(d.SetAside, recipe.Aside{Key: key, Reason: words.Short(reason)})
		}
		return d, nil
	})
}

// Duplicate copies a dish as a draft: a new dish, or where a level is given a
// version for it.
func Duplicate(ctx context.Context, id int64, level, form string) (int64, error) {
	a := school.In(ctx)
	d, err := a.Dish(ctx, id)
	if err != nil {
		return 0, err
	}
	family := int64(0)
	copied := d.Recipe
	copied.ID = ""
	if level = strings.TrimSpace(level); level != "" {
		if family = d.Family; family == 0 {
			family = d.ID
		}
		copied.Level = words.Short(level)
	} else {
		copied.Title = "Copy of " + copied.Title
	}
	return a.CreateDish(ctx, copied, store.Draft, family, form)
}

// BringBack makes an earlier version of a dish the present one.
func BringBack(ctx context.Context, id int64, version int) error {
	a := school.In(ctx)
	versions, err := a.Versions(ctx, id)
	if err != nil {
		return err
	}
	at := slices.IndexFunc(versions, func(v store.Version) bool { return v.Version == version })
	if at < 0 {
		return school.ErrNotFound
	}
	return change(ctx, id, func(d store.Dish, _ school.Larder) (store.Dish, error) {
		slug := d.Recipe.ID
		d.Recipe = versions[at].Recipe
		d.Recipe.ID = slug
		return d, nil
	})
}

// Import makes drafts of recipes, one after the other, and tells after each
// how many are done.
func Import(ctx context.Context, list []recipe.Recipe, done func(n int, id int64)) error {
	a := school.In(ctx)
	return a.InTransaction(ctx, func(in *store.School) error {
		for n, r := range list {
			id, err := in.CreateDish(ctx, r, store.Draft, 0, "")
			if err != nil {
				return fmt.Errorf("recipe %d, %s: %w", n+1, words.Short(r.Title), err)
			}
			done(n+1, id)
		}
		return nil
	})
}

// An Item is what a school has changed of the pantry, or added to it.
type Item = store.Item

// PantryItems returns what the school has changed of the pantry, or added.
func PantryItems(ctx context.Context) ([]Item, error) { return school.In(ctx).PantryItems(ctx) }

// SavePantryItem writes a change of the pantry.
func SavePantryItem(ctx context.Context, i Item) error {
	a := school.In(ctx)
	return a.SavePantryItem(ctx, i)
}

// PantryItem returns what the pantry has under an id, and the version of what
// the school has changed of it: 0 where that is nothing.
func PantryItem(ctx context.Context, id string) (pantry.Ingredient, int, error) {
	l, err := school.In(ctx).Larder(ctx)
	if err != nil {
		return pantry.Ingredient{}, 0, err
	}
	found, ok := l.Pantry.Find(id)
	if !ok {
		return found, 0, school.ErrNotFound
	}
	items, err := PantryItems(ctx)
	for _, o := range items {
		if o.ID == id {
			return found, o.Version, err
		}
	}
	return found, 0, err
}

// Settings are how a school measures, and its tables of safety.
type Settings = store.Settings

// SaveSettings writes how the school measures. Its tables of safety stay.
func SaveSettings(ctx context.Context, s Settings) error {
	return school.In(ctx).InTransaction(ctx, func(in *store.School) error {
		was, err := in.Settings(ctx)
		if err != nil {
			return err
		}
		s.Safety = was.Safety
		return in.SaveSettings(ctx, s)
	})
}

// Status of a dish on the shelf.
type Status = store.Status

// A dish is ready to be taught, a draft, or set aside.
const (
	Ready = store.Ready
	Draft = store.Draft
	Aside = store.Aside
)

// SetStatus sets a dish aside, or brings it back.
func SetStatus(ctx context.Context, id int64, to Status) error {
	if !slices.Contains([]Status{Ready, Draft, Aside}, to) {
		return school.ErrNotFound
	}
	return school.In(ctx).SetStatus(ctx, id, to)
}

// Versions returns what a dish has been, the latest first.
func Versions(ctx context.Context, id int64) ([]store.Version, error) {
	return school.In(ctx).Versions(ctx, id)
}
