// Package app is what a user does, as functions: each loads from the store,
// asks the core, and saves.
package app

import (
	"bytes"
	"context"
	"crypto/sha256"
	"errors"
	"fmt"
	"strings"
	"sync/atomic"
	"time"

	"freshapron/internal/core/class"
	"freshapron/internal/core/fit"
	"freshapron/internal/core/lesson"
	"freshapron/internal/core/problem"
	"freshapron/internal/core/scale"
	"freshapron/internal/formats/lessonfile"
	"freshapron/internal/store"
)

// A Clock tells the time; tests and screenshots stop it.
type Clock func() time.Time

// An App works for one school.
type App struct {
	School *store.School
	Now    Clock
	// Planning bounds and seeds the planner; the zero value is what is usual.
	Planning fit.Options

	site *Site
	*kept
	// The pantry and the shelf as they last were: any copy of the program
	// works out the same.
	larder atomic.Pointer[Larder]
	stock  atomic.Pointer[stocked]
}

// Today returns the school's local date, as midnight UTC.
func (a *App) Today() time.Time {
	now := a.Now().In(a.School.Location)
	return time.Date(now.Year(), now.Month(), now.Day(), 0, 0, 0, 0, time.UTC)
}

// A View is a lesson with everything that is computed of it. Where the lesson
// can't be planned, Problems say why and the rest is empty.
type View struct {
	store.Lesson
	Larder   Larder
	Problems problem.List
	Core     lesson.Lesson
	Fit      fit.Lesson
	Plan     *fit.Plan
	Sizes    []Size
	Swapped  []lesson.Swapped
	Dealt    class.Dealt // who works with whom
	Needs    []scale.Need
	Verdicts []lesson.Verdict

	// Where the lesson is looked at by itself: what its last change did, and
	// the other half of one that is over two lessons.
	Effect *Effect
	Halves *Halves
	alone  bool // these two have been looked up
}

// A Size is what the benches that make the same number of pieces measure out.
type Size struct {
	lesson.KindOfBench
	Amounts []scale.Scaled
}

// view returns what there is to see of a lesson, computed anew only where the
// lesson or something that it is made of has changed.
func (a *App) view(l store.Lesson, larder Larder) (*View, error) {
	key := (&View{Lesson: l, Larder: larder}).key()
	if v, ok := a.views.Get(key); ok {
		seen := *v
		return &seen, nil
	}
	v, err := a.compute(l, larder)
	if err == nil {
		seen := *v
		a.views.Add(key, &seen)
	}
	return v, err
}

// compute computes it.
func (a *App) compute(l store.Lesson, larder Larder) (*View, error) {
	v := &View{Lesson: l, Core: l.Plan(larder.tables()), Larder: larder}
	if err := v.Core.Check(); errors.As(err, &v.Problems) {
		return v, nil
	}
	v.Fit = v.Core.Fit()
	plan, err := a.plan(v.Fit)
	if err != nil {
		return nil, err
	}
	v.Plan = plan
	var amounts [][]scale.Scaled
	for _, k := range v.Core.Kinds() {
		a := v.Core.Kitchen().Amounts(k.Recipe, k.Pieces)
		v.Sizes = append(v.Sizes, Size{k, a})
		amounts = append(amounts, a)
	}
	v.Needs, v.Swapped, v.Dealt = v.Core.Needs(), v.Core.Swapped(), v.Core.Dealt()
	v.Verdicts = v.Core.Verdicts(v.Fit, v.Plan, amounts...)
	return v, nil
}

func (a *App) plan(l fit.Lesson) (*fit.Plan, error) {
	var file bytes.Buffer
	if err := lessonfile.WriteLesson(&file, l); err != nil {
		return nil, err
	}
	key := sha256.Sum256(file.Bytes())
	if p, ok := a.plans.Get(key); ok {
		return p, nil
	}
	p, err := fit.Solve(l, a.Planning)
	if err == nil {
		a.plans.Add(key, p)
	}
	return p, err
}

// Lesson returns a lesson as it stands.
func (a *App) Lesson(ctx context.Context, id int64) (*View, error) {
	l, err := a.School.Lesson(ctx, id)
	if err != nil {
		return nil, err
	}
	larder, err := a.Larder(ctx)
	if err != nil {
		return nil, err
	}
	v, err := a.view(l, larder)
	if err != nil {
		return nil, err
	}
	if !v.alone {
		if v.Effect, err = a.compare(ctx, v); err != nil {
			return nil, err
		}
		v.alone = true
		seen := *v
		a.views.Add(v.key(), &seen)
	}
	// The other half may change without this one.
	v.Halves, err = a.halves(ctx, v.Lesson)
	return v, err
}

// LessonsFrom returns the views of the lessons of so many days from a date.
func (a *App) LessonsFrom(ctx context.Context, first time.Time, days int) ([]*View, error) {
	lessons, err := a.School.LessonsBetween(ctx, first, first.AddDate(0, 0, days-1))
	if err != nil {
		return nil, err
	}
	larder, err := a.Larder(ctx)
	if err != nil {
		return nil, err
	}
	out := make([]*View, len(lessons))
	for i, l := range lessons {
		if out[i], err = a.view(l, larder); err != nil {
			return nil, fmt.Errorf("lesson %d: %w", l.ID, err)
		}
	}
	return out, nil
}

// Choices are what a teacher can choose from when planning.
type Choices struct {
	Dishes  []Entry // that are ready
	Classes []store.Class
	Rooms   []store.Room
	Periods []store.Period
}

// Choices loads them.
func (a *App) Choices(ctx context.Context) (Choices, error) {
	var c Choices
	larder, err := a.Larder(ctx)
	if err != nil {
		return c, err
	}
	all, err := a.all(ctx, larder)
	if err != nil {
		return c, err
	}
	c.Dishes = of(all, store.Ready)
	if c.Classes, err = a.School.Classes(ctx); err != nil {
		return c, err
	}
	if c.Rooms, err = a.School.Rooms(ctx); err != nil {
		return c, err
	}
	c.Periods, err = a.School.Periods(ctx)
	return c, err
}

// A Request is a lesson as a form asks for it, in the words that were typed.
type Request struct {
	Dish, Class, Room, Period string
	Date                      string
	GroupSize                 string
	Each, Demo, Spare         string
	Phases                    []PhaseRequest
}

// A PhaseRequest is one row of the phases.
type PhaseRequest struct {
	Name, Minutes string
	Place         string // start, end or minute
	Minute        string
}

// New plans a lesson for the first time and saves it. The form is the UUID
// of the empty form.
func (a *App) New(ctx context.Context, r Request, form string) (int64, error) {
	l, err := a.read(ctx, r, store.Lesson{Setup: store.Setup{Phases: lesson.UsualPhases()}})
	if err != nil {
		return 0, err
	}
	l.Each, l.Demo, l.Spare = l.Dish.Each, l.Dish.Yield, 1
	larder, err := a.Larder(ctx)
	if err != nil {
		return 0, err
	}
	if err := l.Plan(larder.tables()).Check(); err != nil {
		return 0, err
	}
	return a.School.CreateLesson(ctx, l, form)
}

// Change plans a lesson anew and saves it where it can be planned. It returns
// store.ErrChanged where the version is not the newest.
func (a *App) Change(ctx context.Context, id int64, version string, r Request) (*View, error) {
	l, err := a.at(ctx, id, version)
	if err != nil {
		return nil, err
	}
	did := changed(RequestOf(l), r)
	if l, err = a.read(ctx, r, l); err != nil {
		return nil, err
	}
	larder, err := a.Larder(ctx)
	if err != nil {
		return nil, err
	}
	v, err := a.compute(l, larder) // not kept: it has the version of what it replaces
	if err != nil {
		return nil, err
	}
	if v.Problems != nil {
		return nil, v.Problems
	}
	if err := a.School.ChangeLesson(ctx, l, did); err != nil {
		return nil, err
	}
	return a.Lesson(ctx, id)
}

// changed names what a form asks to be other than it is.
func changed(was, r Request) string {
	var names []string
	for _, f := range []struct{ name, was, is string }{
		{"dish", was.Dish, r.Dish}, {"class", was.Class, r.Class}, {"room", was.Room, r.Room},
		{"period", was.Period, r.Period}, {"date", was.Date, r.Date}, {"groups", was.GroupSize, r.GroupSize},
		{"pieces for each", was.Each, r.Each}, {"demonstration", was.Demo, r.Demo}, {"spare sets", was.Spare, r.Spare},
		{"phases", fmt.Sprint(was.Phases), fmt.Sprint(r.Phases)},
	} {
		if f.was != f.is {
			names = append(names, f.name)
		}
	}
	if names == nil {
		return "Planned again"
	}
	return "Changed: " + strings.Join(names, ", ")
}
