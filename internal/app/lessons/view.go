// Package lessons is the lessons: set up, planned, decided about and changed.
package lessons

import (
	"bytes"
	"context"
	"crypto/sha256"
	"fmt"
	"slices"
	"time"

	"freshapron/internal/app/school"
	"freshapron/internal/app/work"
	"freshapron/internal/core/class"
	"freshapron/internal/core/fit"
	"freshapron/internal/core/lesson"
	"freshapron/internal/core/problem"
	"freshapron/internal/core/recipe"
	"freshapron/internal/core/scale"
	"freshapron/internal/formats/lessonfile"
	"freshapron/internal/store"
)

// A View is a lesson with what is computed of it: how it is planned, and what
// its benches make. Nobody's needs are in it. Where the lesson can't be
// planned, Problems say why and the rest is empty.
type View struct {
	store.Lesson
	Larder   school.Larder
	Problems problem.List
	Core     lesson.Lesson
	Fit      fit.Lesson
	Plan     *fit.Plan
	Benches  []lesson.Bench
	Sizes    []lesson.Size
	Swapped  []lesson.Swapped
	Chosen   []lesson.Chosen
	Dealt    class.Dealt    // who works with whom
	Needs    [][]scale.Need // of each course, line by line
	Verdicts []lesson.Verdict
	Replaced []store.Undecided // other products that came of what it uses, about which nobody has decided
}

const (
	// keptPlans is how many plans are kept: a term of a busy school, at about
	// 100 kB each.
	keptPlans = 300
	// keptViews is how many lessons are kept as they are seen.
	keptViews = 300
)

// Key names everything that the view is computed of.
func (v *View) Key() string {
	var menu []string
	for _, c := range v.Menu {
		menu = append(menu, fmt.Sprintf("%d.%d", c.Dish.ID, c.Dish.Version))
	}
	return fmt.Sprint(v.ID, v.Version, v.Date, menu, v.Room.ID, v.Room.Version, v.Room.Outages, v.Class.ID, v.Class.Version, v.Class.Learners, v.Period, v.Larder.Key)
}

// view returns what there is to see of a lesson, computed anew only where the
// lesson or something that it is made of has changed, and once for all who
// look at the same moment.
func view(s *school.Site, l store.Lesson, larder school.Larder) (*View, error) {
	kept := school.Keep[string, *View](s, keptViews)
	v := &View{Lesson: l, Larder: larder}
	key := v.Key()
	if v, ok := kept.Get(key); ok {
		return v, nil
	}
	return work.Once(s.Work, "view "+key, func() (*View, error) {
		if v, ok := kept.Get(key); ok { // meanwhile
			return v, nil
		}
		v, err := compute(s, l, larder)
		if err == nil {
			kept.Add(key, v)
		}
		return v, err
	})
}

// compute computes it; see view.
func compute(s *school.Site, l store.Lesson, larder school.Larder) (*View, error) {
	v := &View{Lesson: l, Core: l.Plan(larder.Tables()).Seated(), Larder: larder}
	if v.Problems = problem.Of(v.Core.Check()); v.Problems != nil {
		return v, nil
	}
	v.Fit = v.Core.Fit()
	plan, err := solve(s, v.Fit)
	if err != nil {
		return nil, err
	}
	v.Plan = plan
	v.Benches, v.Sizes, v.Dealt = v.Core.Benches(), v.Core.Sizes(), v.Core.Dealt()
	v.Needs, v.Swapped, v.Chosen = v.Core.Needs(), v.Core.Swapped(), v.Core.Chosen()
	v.Verdicts = v.Core.Verdicts(v.Fit, v.Plan, v.Sizes)
	return v, nil
}

// solve plans a lesson, or takes the plan that was made of the same before.
func solve(s *school.Site, l fit.Lesson) (*fit.Plan, error) {
	plans := school.Keep[[sha256.Size]byte, *fit.Plan](s, keptPlans)
	var file bytes.Buffer
	if err := lessonfile.WriteLesson(&file, l); err != nil {
		return nil, err
	}
	key := sha256.Sum256(file.Bytes())
	if p, ok := plans.Get(key); ok {
		return p, nil
	}
	p, err := fit.Solve(l, s.Planning)
	if err == nil {
		plans.Add(key, p)
	}
	return p, err
}

// One returns a lesson as it stands.
func One(ctx context.Context, id int64) (*View, error) {
	a := school.In(ctx)
	l, err := a.Lesson(ctx, id)
	if err != nil {
		return nil, err
	}
	larder, err := a.Larder(ctx)
	if err != nil {
		return nil, err
	}
	v, err := view(a.Site, l, larder)
	if err != nil {
		return nil, err
	}
	return withReplaced(ctx, v)
}

// withReplaced adds to a view the products that came in place of what the lesson
// uses and hold an allergen that nobody has decided about.
func withReplaced(ctx context.Context, v *View) (*View, error) {
	list, err := school.In(ctx).Undecided(ctx)
	list = slices.DeleteFunc(list, func(u store.Undecided) bool { return v.Date.Before(u.On) || !v.uses(u.Product.Item) })
	if err != nil || len(list) == 0 {
		return v, err
	}
	own := *v // what is kept is of all requests
	own.Replaced = list
	return &own, nil
}

// uses reports whether an ingredient of the pantry is in a dish of the menu, or in
// place of something in it.
func (v *View) uses(item string) bool {
	for _, c := range v.Menu {
		if slices.ContainsFunc(c.Dish.Ingredients, func(i recipe.Ingredient) bool { return i.Pantry == item }) {
			return true
		}
	}
	return slices.ContainsFunc(v.Swapped, func(s lesson.Swapped) bool { return s.Line.Pantry == item }) ||
		slices.ContainsFunc(v.Chosen, func(c lesson.Chosen) bool { return c.Line.Pantry == item })
}

// From returns the views of the lessons of so many days from a date.
func From(ctx context.Context, first time.Time, days int) ([]*View, error) {
	a := school.In(ctx)
	lessons, err := a.LessonsBetween(ctx, first, first.AddDate(0, 0, days-1))
	if err != nil {
		return nil, err
	}
	larder, err := a.Larder(ctx)
	if err != nil {
		return nil, err
	}
	out := make([]*View, len(lessons))
	for i, l := range lessons {
		if out[i], err = view(a.Site, l, larder); err != nil {
			return nil, fmt.Errorf("lesson %d: %w", l.ID, err)
		}
	}
	return out, nil
}

// Next returns the next lessons of a class.
func Next(ctx context.Context, class int64) ([]Lesson, error) {
	const few = 5
	a := school.In(ctx)
	return a.LessonsOf(ctx, class, a.Today(), few)
}

// A Lesson is a planned lesson with all that it is made of.
type Lesson = store.Lesson
