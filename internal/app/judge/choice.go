package judge

import (
	"cmp"
	"context"
	"crypto/sha256"
	"fmt"
	"slices"
	"strconv"
	"strings"
	"sync/atomic"
	"time"

	"freshapron/internal/app/lessons"
	"freshapron/internal/app/school"
	"freshapron/internal/app/work"
	"freshapron/internal/core/assess"
	"freshapron/internal/core/lesson"
	"freshapron/internal/core/problem"
	"freshapron/internal/core/shelf"
	"freshapron/internal/core/typed"
	"freshapron/internal/core/words"
	"freshapron/internal/store"
)

// A Dish that can be chosen.
type Dish struct {
	assess.Dish
	ID   int64
	Each int // pieces that a learner makes where nothing else is said
	Tags string
}

// Shelf returns the dishes that are ready, with what the task says that they are.
func Shelf(ctx context.Context, t *Task) ([]Dish, error) {
	in := school.In(ctx)
	larder, err := in.Larder(ctx)
	if err != nil {
		return nil, err
	}
	all, err := in.Shelf(ctx, larder)
	if err != nil {
		return nil, err
	}
	var out []Dish
	for _, e := range school.OfStatus(all, store.Ready) {
		id := strconv.FormatInt(e.ID, 10)
		d := Dish{Dish: factsOf(e.Facts), ID: e.ID, Each: e.Facts.Each, Tags: t.Tags[id]}
		if said, err := assess.ReadTags(d.Tags); err == nil {
			d.Dish.Tags, d.Main = said.Tags, said.Main
			for v, list := range said.Of {
				d.Of[v] = list
			}
		}
		d.Dish.ID, d.Title = id, e.Title
		out = append(out, d)
	}
	return out, nil
}

// factsOf is what a brief can know of a dish by its recipe.
func factsOf(f shelf.Facts) assess.Dish {
	d := assess.Dish{Skills: f.Skills, Pence: f.Pence, Unpriced: f.Unpriced, Allergens: f.Allergens, Unknown: len(f.Unknown) > 0, Diets: f.Diets, Minutes: f.Hands, Of: map[string][]string{}}
	for _, l := range f.ToRead {
		d.May = append(d.May, l.For...)
	}
	return d
}

// SaveTags writes what a dish is, for the conditions of the brief.
func SaveTags(ctx context.Context, id int64, version string, tags map[string]string) error {
	t, err := own(ctx, id)
	if err != nil {
		return err
	}
	next := t.Task
	next.Tags = map[string]string{}
	dishes, err := Shelf(ctx, t)
	if err != nil {
		return err
	}
	var problems problem.List
	for _, d := range dishes {
		key := d.Dish.ID
		text := strings.TrimSpace(tags[key])
		if text == "" {
			continue
		}
		if _, err := assess.ReadTags(text); err != nil {
			problems.Add("tags-"+key, "%s: %s", d.Title, err)
		}
		next.Tags[key] = text
	}
	if err := problems.Err(); err != nil {
		return err
	}
	if next.Version, err = strconv.Atoi(version); err != nil {
		return school.ErrChanged
	}
	return write(ctx, t, next, "said what the dishes of “"+t.Title+"” are")
}

// ChoiceOf lays a learner's entry out for the brief. What somebody makes other than the
// usual number of is priced by that.
func ChoiceOf(dishes []Dish, e store.Entry) assess.Choice {
	c := assess.Choice{Papers: e.Papers}
	for _, x := range e.Dishes {
		at := slices.IndexFunc(dishes, func(d Dish) bool { return d.ID == x.Dish })
		if at < 0 {
			continue // it has been set aside
		}
		d := dishes[at]
		if x.Portions > 0 { // else it is not said: the usual number
			d.Pence *= float64(x.Portions) / float64(d.Each)
		}
		c.Dishes = append(c.Dishes, assess.Chosen{Dish: d.Dish, Side: x.Side, Portions: x.Portions})
	}
	slices.SortStableFunc(c.Dishes, func(a, b assess.Chosen) int {
		if a.Side == b.Side {
			return 0
		}
		if b.Side {
			return -1
		}
		return 1
	})
	return c
}

// A ChoiceForm is what was pressed for a dish: "", "dish" or "side", and how many.
type ChoiceForm struct{ As, Portions string }

const mostPortions, mostDishes = 100, 12

// Choose keeps what a learner makes and which papers they have handed in, over the
// version that the page was drawn of.
func Choose(ctx context.Context, t *Task, learner int64, version string, form map[int64]ChoiceForm, papers []string) error {
	e, err := entryOf(ctx, t, learner, version)
	if err != nil {
		return err
	}
	dishes, err := Shelf(ctx, t)
	if err != nil {
		return err
	}
	var f typed.Form
	e.Dishes, e.Papers = nil, nil
	for _, d := range dishes {
		x, ok := form[d.ID]
		if !ok || x.As == "" {
			continue
		}
		n := f.Between(fmt.Sprintf("portions-%d", d.ID), "Portions of "+d.Title, cmp.Or(x.Portions, "1"), 1, mostPortions)
		e.Dishes = append(e.Dishes, store.EntryDish{Dish: d.ID, Side: x.As == "side", Portions: n})
	}
	if len(e.Dishes) > mostDishes {
		f.Add("dishes", "%d are chosen, and %d are the most", len(e.Dishes), mostDishes)
	}
	for _, c := range t.Brief {
		if c.Paper != "" && slices.Contains(papers, c.Paper) {
			e.Papers = append(e.Papers, c.Paper)
		}
	}
	if err := f.Err(); err != nil {
		return err
	}
	return school.In(ctx).SaveEntry(ctx, t.ID, e)
}

// ChooseOwn is Choose for a learner: which papers were handed in is not theirs to say.
func ChooseOwn(ctx context.Context, t *Task, learner int64, version string, form map[int64]ChoiceForm) error {
	all, err := school.In(ctx).Entries(ctx, t.ID)
	if err != nil {
		return err
	}
	return Choose(ctx, t, learner, version, form, all[learner].Papers)
}

// entryOf returns the entry of a learner of the task at a version. It returns ErrChanged
// of the school where that is not the newest, or where the task is closed.
func entryOf(ctx context.Context, t *Task, learner int64, version string) (store.Entry, error) {
	if _, ok := t.Learner(learner); !ok {
		return store.Entry{}, school.ErrNotFound
	}
	all, err := school.In(ctx).Entries(ctx, t.ID)
	if err != nil {
		return store.Entry{}, err
	}
	b, err := BookOf(ctx, t)
	if err != nil {
		return store.Entry{}, err
	}
	if b.Shut {
		return store.Entry{}, errShut
	}
	e := all[learner]
	e.Learner = learner
	if strconv.Itoa(e.Version) != version {
		return e, school.ErrChanged
	}
	return e, nil
}

// A Search for sets of dishes goes on behind the pages; see assess.Search.
type Search struct {
	run  *work.Run[[]assess.Set]
	best atomic.Pointer[[]assess.Set] // so far
}

// So returns the sets that were found so far, and whether these are all, after waiting
// for the end for a moment.
func (s *Search) So(ctx context.Context) (found []assess.Set, all bool, err error) {
	const moment = 700 * time.Millisecond
	found, all, err = s.run.Wait(ctx, moment)
	if best := s.best.Load(); !all && best != nil {
		found = *best
	}
	return found, all, err
}

const keptSearches = 100

// Propose returns the search for sets of dishes that meet the brief, and begins it where
// it has not begun. It goes on whether or not anybody waits for it.
func Propose(ctx context.Context, t *Task) (*Search, error) {
	dishes, err := Shelf(ctx, t)
	if err != nil {
		return nil, err
	}
	s := assess.Search{Brief: t.Brief, Seed: uint64(t.ID), Shelf: make([]assess.Dish, len(dishes))}
	for i, d := range dishes {
		s.Shelf[i] = d.Dish
	}
	site := school.In(ctx).Site
	key := fmt.Sprintf("sets %d %d %d %x", t.School, t.ID, t.Version, sha256.Sum256(fmt.Append(nil, s.Shelf)))
	kept := school.Keep[string, *Search](site, keptSearches)
	if found, ok := kept.Get(key); ok && !found.run.Failed() {
		return found, nil
	}
	begun := &Search{}
	s.Found = func(best []assess.Set) { begun.best.Store(&best) }
	begun.run = work.Behind(site.Work, key, func(ctx context.Context, _ func(done, all int)) ([]assess.Set, error) {
		return s.Find(ctx), nil
	}, nil)
	kept.Add(key, begun)
	return begun, nil
}

// PlanIn puts what learners have chosen on the menu of the task's lesson, each dish made
// by those who have chosen it, everybody alone, and returns what can't be done. Those who
// have chosen nothing make nothing.
func PlanIn(ctx context.Context, id int64) error {
	t, err := own(ctx, id)
	if err != nil {
		return err
	}
	entries, err := school.In(ctx).Entries(ctx, t.ID)
	if err != nil {
		return err
	}
	dishes, err := Shelf(ctx, t)
	if err != nil {
		return err
	}
	var ids []int64
	courses := map[int64]*store.Course{}
	for _, l := range t.Learners() {
		for _, x := range entries[l.ID].Dishes {
			c := courses[x.Dish]
			if c == nil {
				if !slices.ContainsFunc(dishes, func(d Dish) bool { return d.ID == x.Dish }) {
					continue
				}
				c = &store.Course{By: lesson.Makers{}}
				courses[x.Dish] = c
				ids = append(ids, x.Dish)
			}
			c.By.Learners = append(c.By.Learners, l.ID)
			c.Each = max(c.Each, x.Portions)
		}
	}
	if len(ids) == 0 {
		return problem.New("choices", "Nobody has chosen anything yet")
	}
	slices.Sort(ids)
	full, err := school.In(ctx).DishesByID(ctx, ids)
	if err != nil {
		return err
	}
	return lessons.ChangeOwn(ctx, t.Lesson, strconv.Itoa(t.View.Version), func(l *store.Lesson) (string, error) {
		l.Menu, l.GroupSize, l.Teams, l.Changes = nil, 1, nil, nil
		for _, d := range full {
			c := courses[d.ID]
			c.Dish = d
			l.Menu = append(l.Menu, *c)
		}
		var away []int64
		for _, p := range l.Class.Roster {
			if len(entries[p.ID].Dishes) == 0 {
				away = append(away, p.ID)
			}
		}
		if len(away) > 0 {
			var names []string
			for _, id := range away {
				names = append(names, l.Class.NameOf(id))
			}
			l.Absent = away
			return "Menu of “" + t.Title + "”, without " + words.Names(names), nil
		}
		return "Menu of “" + t.Title + "”", nil
	})
}

// benchOf returns the place of the group of a learner in the lesson's plan; −1 where they
// have none.
func benchOf(v *lessons.View, learner int64) int {
	return slices.IndexFunc(v.Benches, func(b lesson.Bench) bool {
		for _, m := range b.Members {
			if m.ID == learner {
				return true
			}
		}
		return false
	})
}

// Finishes returns at which minute each learner is done by the plan, of those whose
// choice is on the lesson's menu as it stands.
func Finishes(t *Task, entries map[int64]store.Entry) map[int64]float64 {
	out := map[int64]float64{}
	if t.View.Plan == nil {
		return out
	}
	for _, l := range t.Learners() {
		at := benchOf(t.View, l.ID)
		if at < 0 || !planned(t.View, t.View.Benches[at], entries[l.ID]) {
			continue
		}
		if g, ok := groupOf(t.View, t.View.Benches[at].ID); ok {
			out[l.ID] = g.Finish
		}
	}
	return out
}

// planned reports whether a bench makes what is chosen, and nothing else.
func planned(v *lessons.View, b lesson.Bench, e store.Entry) bool {
	if len(b.Makes) != len(e.Dishes) {
		return false
	}
	for _, m := range b.Makes {
		if !slices.ContainsFunc(e.Dishes, func(x store.EntryDish) bool { return x.Dish == v.Menu[m.Course].Dish.ID }) {
			return false
		}
	}
	return true
}
