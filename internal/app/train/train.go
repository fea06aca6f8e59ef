// Package train lets learners practise what their next lesson asks of them, without an
// account, and says to who teaches them how far they are.
package train

import (
	"context"
	"errors"
	"slices"

	"freshapron/internal/app/lessons"
	"freshapron/internal/app/school"
	"freshapron/internal/core/exact"
	"freshapron/internal/core/knife"
	"freshapron/internal/core/problem"
	core "freshapron/internal/core/train"
	"freshapron/internal/formats/taskfile"
	"freshapron/internal/store"
)

// Set sets a practice for a class from one of its lessons: on its amounts, instruments,
// ovens, times and foods, until a week after it.
func Set(ctx context.Context, class, lesson int64) (store.Practice, error) {
	s := school.In(ctx)
	v, err := lessons.One(ctx, lesson)
	if err != nil {
		return store.Practice{}, err
	}
	if v.Class.ID != class {
		return store.Practice{}, problem.New("lesson", "This lesson is of another class")
	}
	source, foods := material(v)
	data, err := taskfile.EncodeSource(source, foods)
	if err != nil {
		return store.Practice{}, err
	}
	now := s.Now()
	until := v.Date.AddDate(0, 0, 8)
	if least := now.AddDate(0, 0, 8); until.Before(least) {
		until = least
	}
	p := store.Practice{Class: class, Lesson: lesson, Title: v.Core.Titles(), Source: data, By: school.Acting(ctx).Name, At: now, Until: until}
	const attempts = 5
	for range attempts {
		if p.Code, err = school.NewCode(codeLength); err != nil {
			return p, err
		}
		if p.ID, err = s.SetPractice(ctx, p); !errors.Is(err, store.ErrTaken) {
			break
		}
	}
	return p, err
}

// material is what a lesson has to practise on.
func material(v *lessons.View) (core.Source, []string) {
	in := v.Room.Instruments
	s := core.Source{Start: v.Period.Start, Bell: v.Period.End}
	for _, x := range in.Scales {
		s.Scales = append(s.Scales, x.Division)
	}
	for _, x := range in.Jugs {
		s.Jugs = append(s.Jugs, x.Marks)
	}
	for _, size := range v.Sizes {
		s.From, s.To = size.Recipe.Yield, size.Pieces
		for _, a := range size.Amounts {
			if a.Exact.Amount.Sign() <= 0 {
				continue
			}
			q := a.Exact
			if i := a.First(); i != nil && i.Measured.Unit.Dimension == a.Exact.Unit.Dimension {
				q = i.Measured
			}
			s.Amounts = append(s.Amounts, core.Amount{Name: a.Name(), Quantity: q, Density: a.Stock.Density(), Pours: a.Stock.Pours, Tolerance: a.Tolerance, Role: string(a.Line.Role)})
		}
	}
	var foods []string
	add := func(text string) {
		if f, ok := knife.FoodNamed(text); ok && !slices.Contains(foods, f.Name) {
			foods = append(foods, f.Name)
		}
	}
	for _, c := range v.Core.Menu {
		for _, i := range c.Recipe.Ingredients {
			add(i.Name)
		}
	}
	for _, d := range v.Fit.Dishes {
		for _, step := range d.Steps {
			if w := int(step.Wait.Floor()); w > 0 {
				s.Waits = append(s.Waits, w)
			}
			for _, u := range step.Uses {
				if u.Temperature != nil && u.Temperature.Cmp(exact.Int(100)) > 0 {
					s.Ovens = append(s.Ovens, *u.Temperature)
				}
			}
		}
	}
	return s, foods
}

// Of returns the practices of a class, the last first.
func Of(ctx context.Context, class int64) ([]store.Practice, error) {
	return school.In(ctx).Practices(ctx, class)
}

// End lets nobody in to a practice any more.
func End(ctx context.Context, class, id int64) error {
	s := school.In(ctx)
	list, err := s.Practices(ctx, class)
	if err != nil {
		return err
	}
	if !slices.ContainsFunc(list, func(p store.Practice) bool { return p.ID == id }) {
		return school.ErrNotFound
	}
	return s.EndPractice(ctx, id, s.Now())
}

// Forget lets a learner choose another picture.
func Forget(ctx context.Context, class, learner int64) error {
	names, err := school.NamesOf(ctx, class)
	if err != nil {
		return err
	}
	if !slices.ContainsFunc(names, func(n school.Learner) bool { return n.ID == learner }) {
		return school.ErrNotFound
	}
	return school.In(ctx).ClearMark(ctx, learner)
}
