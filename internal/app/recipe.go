package app

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"slices"
	"strings"
	"time"

	"freshapron/internal/core/lesson"
	"freshapron/internal/core/measure"
	"freshapron/internal/core/pantry"
	"freshapron/internal/core/recipe"
	"freshapron/internal/core/scale"
	"freshapron/internal/core/shelf"
	"freshapron/internal/core/words"
	"freshapron/internal/store"
)

// A Larder is the school's pantry with how the school measures.
type Larder struct {
	Pantry   *pantry.Pantry
	Settings store.Settings
	key      string // changes with anything above
}

// System returns what the school's recipes mean by a cup or a spoon.
func (l Larder) System() measure.System {
	if s, ok := measure.SystemOf(l.Settings.Units); ok {
		return s
	}
	return measure.Metric
}

// Tolerances returns the school's, the usual ones where it has set none.
func (l Larder) Tolerances() pantry.Tolerances {
	t := pantry.Usual
	for own, into := range map[float64]*float64{l.Settings.Agent: &t.Agent, l.Settings.Structure: &t.Structure, l.Settings.Other: &t.Other} {
		if own > 0 {
			*into = own
		}
	}
	return t
}

// tables are what lessons of the school are planned with.
func (l Larder) tables() lesson.Tables {
	return lesson.Tables{Pantry: l.Pantry, Tolerances: l.Tolerances(), Safety: l.Settings.Book()}
}

// Declared returns the list of allergens that the school declares by.
func (l Larder) Declared() pantry.DeclaredList {
	if l.Settings.Declare == "nine" {
		return pantry.Nine
	}
	return pantry.Fourteen
}

// Kitchen returns the larder with a room's instruments.
func (l Larder) Kitchen(in measure.Instruments) scale.Kitchen {
	return scale.Kitchen{Pantry: l.Pantry, Instruments: in, Tolerances: l.Tolerances()}
}

// Larder loads the school's pantry and settings. The pantry is built anew
// only where something in it has changed.
func (a *App) Larder(ctx context.Context) (Larder, error) {
	settings, err := a.School.Settings(ctx)
	if err != nil {
		return Larder{}, err
	}
	stamp, err := a.School.PantryStamp(ctx)
	if err != nil {
		return Larder{}, err
	}
	chosen, err := json.Marshal(settings)
	if err != nil {
		return Larder{}, err
	}
	l := Larder{Settings: settings, key: string(chosen) + stamp}
	if last := a.larder.Load(); last != nil && last.key == l.key {
		return *last, nil
	}
	items, err := a.School.PantryItems(ctx)
	if err != nil {
		return Larder{}, err
	}
	own := make([]pantry.Ingredient, len(items))
	for n, i := range items {
		own[n] = i.Ingredient
	}
	l.Pantry = pantry.Stock().With(own)
	a.larder.Store(&l)
	return l, nil
}

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

// all returns all dishes with their facts, by title. The list is built anew
// only where a dish or the pantry has changed.
func (a *App) all(ctx context.Context, l Larder) ([]Entry, error) {
	stamp, err := a.School.DishStamp(ctx)
	if err != nil {
		return nil, err
	}
	key := l.key + "|" + stamp
	if last := a.stock.Load(); last != nil && last.key == key {
		return last.entries, nil
	}
	heads, err := a.School.Heads(ctx)
	if err != nil {
		return nil, err
	}
	entries, err := a.entries(ctx, l, heads)
	if err == nil {
		a.stock.Store(&stocked{key, entries})
	}
	return entries, err
}

// Warm works out the facts of all dishes, so that the first search does not
// wait for them.
func (a *App) Warm(ctx context.Context) error {
	l, err := a.Larder(ctx)
	if err == nil {
		_, err = a.all(ctx, l)
	}
	return err
}

// of keeps the entries of a status.
func of(entries []Entry, status store.Status) []Entry {
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
func (a *App) entries(ctx context.Context, l Larder, heads []store.Head) ([]Entry, error) {
	out := make([]Entry, len(heads))
	var missing []int64
	for n, h := range heads {
		out[n].Head = h
		facts, ok := a.facts.Get(factKey{h.ID, h.Version, l.key})
		if ok {
			out[n].Facts = *facts
			continue
		}
		missing = append(missing, h.ID)
	}
	if len(missing) == 0 {
		return out, nil
	}
	dishes, err := a.School.DishesByID(ctx, missing)
	if err != nil {
		return nil, err
	}
	byID := map[int64]shelf.Facts{}
	kitchen := l.Kitchen(measure.Usual(l.System()))
	for _, d := range dishes {
		f := shelf.Of(d.Recipe, kitchen)
		a.facts.Add(factKey{d.ID, d.Version, l.key}, &f)
		byID[d.ID] = f
	}
	for n := range out {
		if f, ok := byID[out[n].ID]; ok {
			out[n].Facts = f
		}
	}
	return out, nil
}

// A Shelf is what a search found.
type Shelf struct {
	Larder
	Entries []Entry // that answer the query
	Of      int     // dishes of the asked status in all
	Skills  []string
	Periods []int // lengths of the school's periods, in minutes
	Edits   []store.Edit
}

// Shelf searches the dishes of a status.
func (a *App) Shelf(ctx context.Context, q shelf.Query, status store.Status) (Shelf, error) {
	s := Shelf{}
	var err error
	if s.Larder, err = a.Larder(ctx); err != nil {
		return s, err
	}
	all, err := a.all(ctx, s.Larder)
	if err != nil {
		return s, err
	}
	all = of(all, status)
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
	periods, err := a.School.Periods(ctx)
	if err != nil {
		return s, err
	}
	s.Periods = lengthsOf(periods)
	s.Edits, err = a.School.Edits(ctx, 0)
	return s, err
}

// A Dish is a dish with everything that is worked out of it.
type Dish struct {
	store.Dish
	Larder
	Facts  shelf.Facts
	Family []store.Head // the versions for other levels
	Edits  []store.Edit // that somebody is writing
}

// Dish loads a dish.
func (a *App) Dish(ctx context.Context, id int64) (Dish, error) {
	d := Dish{}
	var err error
	if d.Larder, err = a.Larder(ctx); err != nil {
		return d, err
	}
	if d.Dish, err = a.School.Dish(ctx, id); err != nil {
		return d, err
	}
	entries, err := a.all(ctx, d.Larder)
	if err != nil {
		return d, err
	}
	root := d.Dish.Family
	if root == 0 {
		root = d.ID
	}
	known := slices.IndexFunc(entries, func(e Entry) bool { return e.ID == d.ID && e.Version == d.Version })
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
	d.Edits, err = a.School.Edits(ctx, id)
	return d, err
}

// change loads a dish, changes its recipe and saves it.
func (a *App) change(ctx context.Context, id int64, f func(store.Dish, Larder) (store.Dish, error)) error {
	l, err := a.Larder(ctx)
	if err != nil {
		return err
	}
	d, err := a.School.Dish(ctx, id)
	if err != nil {
		return err
	}
	if d, err = f(d, l); err != nil {
		return err
	}
	return a.School.ChangeDish(ctx, d, a.Now())
}

// ErrNothingToMend says that a finding is no longer there, or has no mend.
var ErrNothingToMend = errors.New("this finding is no longer there, or can't be mended by a press")

// Mend mends a finding of a dish.
func (a *App) Mend(ctx context.Context, id int64, key string) error {
	return a.change(ctx, id, func(d store.Dish, l Larder) (store.Dish, error) {
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
func (a *App) SetAside(ctx context.Context, id int64, key, reason string) error {
	return a.change(ctx, id, func(d store.Dish, _ Larder) (store.Dish, error) {
		d.SetAside = slices.DeleteFunc(slices.Clone(d.SetAside), func(s recipe.Aside) bool { return s.Key == key })
		if reason = strings.TrimSpace(reason); reason != "" {
			d.SetAside = append(d.SetAside, recipe.Aside{Key: key, Reason: words.Short(reason)})
		}
		return d, nil
	})
}

// Duplicate copies a dish as a draft: a new dish, or where a level is given a
// version for it.
func (a *App) Duplicate(ctx context.Context, id int64, level, form string) (int64, error) {
	d, err := a.School.Dish(ctx, id)
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
	return a.School.CreateDish(ctx, copied, store.Draft, family, form)
}

// BringBack makes an earlier version of a dish the present one.
func (a *App) BringBack(ctx context.Context, id int64, version int) error {
	versions, err := a.School.Versions(ctx, id)
	if err != nil {
		return err
	}
	at := slices.IndexFunc(versions, func(v store.Version) bool { return v.Version == version })
	if at < 0 {
		return store.ErrNotFound
	}
	return a.change(ctx, id, func(d store.Dish, _ Larder) (store.Dish, error) {
		slug := d.Recipe.ID
		d.Recipe = versions[at].Recipe
		d.Recipe.ID = slug
		return d, nil
	})
}

// Import makes drafts of recipes, one after the other, and tells after each
// how many are done.
func (a *App) Import(ctx context.Context, list []recipe.Recipe, done func(n int, id int64)) error {
	return a.School.InTransaction(ctx, func(in *store.School) error {
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

// SavePantryItem writes a change of the pantry.
func (a *App) SavePantryItem(ctx context.Context, i store.Item) error {
	return a.School.SavePantryItem(ctx, i)
}

// age says how long ago something was.
func (a *App) Ago(t time.Time) string {
	switch d := a.Now().Sub(t); {
	case d < time.Minute:
		return "just now"
	case d < time.Hour:
		return fmt.Sprintf("%d min ago", int(d.Minutes()))
	case d < 24*time.Hour:
		return "at " + t.In(a.School.Location).Format("15:04")
	default:
		return "on " + t.In(a.School.Location).Format("2 January")
	}
}
