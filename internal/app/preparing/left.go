package preparing

import (
	"context"
	"slices"

	"freshapron/internal/app/school"
	"freshapron/internal/core/recipe"
	"freshapron/internal/core/supply"
	"freshapron/internal/store"
)

// An Idea is what a left-over could become.
type Idea struct {
	supply.Idea
	Lesson *Lesson
	Dish   *school.Entry
}

// Ideas are what left-overs could become: the lessons after the stretch, and the
// dishes of the shelf.
type Ideas struct {
	ready   []school.Entry
	recipes []recipe.Recipe // of ready
	lessons []Lesson
	needs   []supply.Need // of lessons
}

// weeksLater is for how long after the stretch lessons are looked through.
const weeksLater = 6

// Ideas collects them.
func (st *Stretch) Ideas(ctx context.Context) (*Ideas, error) {
	s := school.In(ctx)
	entries, err := s.Shelf(ctx, st.Larder)
	if err != nil {
		return nil, err
	}
	i := &Ideas{}
	var ids []int64
	for _, e := range school.OfStatus(entries, store.Ready) {
		ids = append(ids, e.ID)
	}
	dishes, err := s.DishesByID(ctx, ids)
	if err != nil {
		return nil, err
	}
	for _, d := range dishes {
		at := slices.IndexFunc(entries, func(e school.Entry) bool { return e.ID == d.ID })
		i.ready, i.recipes = append(i.ready, entries[at]), append(i.recipes, d.Recipe)
	}
	if i.lessons, err = between(ctx, st.To.AddDate(0, 0, 1), st.To.AddDate(0, 0, 7*weeksLater)); err != nil {
		return nil, err
	}
	var in []supply.Lesson
	for _, l := range i.lessons {
		in = append(in, supply.Lesson{ID: l.ID, On: OrderDay(l.View.Date), Takes: l.Takes})
	}
	i.needs = supply.Merge(st.Larder.Pantry, supply.SoldOf(st.Products), in)
	return i, nil
}

// Of returns what a left-over could become for a class of so many learners: the
// best few.
func (i *Ideas) Of(l supply.Left, learners int) []Idea {
	const few = 4
	var out []Idea
	for _, found := range l.Ideas(i.needs, i.recipes, learners) {
		idea := Idea{Idea: found}
		if found.Lesson != 0 {
			at := slices.IndexFunc(i.lessons, func(x Lesson) bool { return x.ID == found.Lesson })
			idea.Lesson = &i.lessons[at]
		} else {
			idea.Dish = &i.ready[found.Dish]
		}
		if out = append(out, idea); len(out) == few {
			break
		}
	}
	return out
}
