package lessons

import (
	"context"
	"errors"
	"slices"
	"strconv"
	"strings"

	"freshapron/internal/app/school"
	"freshapron/internal/core/class"
	"freshapron/internal/core/clock"
	"freshapron/internal/core/exact"
	"freshapron/internal/core/fit"
	"freshapron/internal/core/problem"
	"freshapron/internal/core/rescue"
	"freshapron/internal/core/typed"
	"freshapron/internal/core/words"
	"freshapron/internal/store"
)

// An Effect is what the last change of a lesson has done to its plan.
type Effect struct {
	Did    string
	Before *fit.Plan // nil where there was none
	Fit    fit.Lesson
}

// EffectOf tells what the last change of a lesson did; nil where it has never
// been changed.
func EffectOf(ctx context.Context, v *View) (*Effect, error) {
	a := school.In(ctx)
	former, err := a.Before(ctx, v.ID)
	if errors.Is(err, school.ErrNotFound) {
		return nil, nil
	}
	if err != nil {
		return nil, err
	}
	was, err := view(a.Site, former.Lesson, v.Larder)
	if err != nil {
		return nil, err
	}
	return &Effect{Did: former.Did, Before: was.Plan, Fit: was.Fit}, nil
}

// Decide makes changes to a lesson's plan and saves them. It returns
// problem.List where the lesson does not allow them.
func Decide(ctx context.Context, id int64, version string, changes ...rescue.Change) error {
	a := school.In(ctx)
	if slices.ContainsFunc(changes, func(c rescue.Change) bool { return c.Kind == rescue.TwoLessons }) {
		return problem.List{{Path: "change", Says: "Choose when the second lesson is."}}
	}
	l, err := current(ctx, id, version)
	if err != nil {
		return err
	}
	larder, err := a.Larder(ctx)
	if err != nil {
		return err
	}
	changed, did, err := decided(ctx, l, larder, changes)
	if err != nil {
		return err
	}
	return a.ChangeLesson(ctx, changed, did)
}

// current loads a lesson that is still at the version given.
func current(ctx context.Context, id int64, version string) (store.Lesson, error) {
	a := school.In(ctx)
	l, err := a.Lesson(ctx, id)
	if err == nil && version != strconv.Itoa(l.Version) {
		err = school.ErrChanged
	}
	return l, err
}

func decided(ctx context.Context, l store.Lesson, larder school.Larder, changes []rescue.Change) (store.Lesson, string, error) {
	core := l.Plan(larder.Tables())
	var others []store.Dish
	for _, c := range changes {
		if c.Kind == rescue.Instead {
			d, err := school.In(ctx).DishCalled(ctx, c.Other)
			if errors.Is(err, school.ErrNotFound) || err == nil && d.Status != store.Ready {
				return l, "", problem.New("change", "That dish is not on the shelf any more. Choose another.")
			}
			if err != nil {
				return l, "", err
			}
			others, core.Others = append(others, d), append(core.Others, d.Recipe)
		}
	}
	base := core.Fit()
	changed, err := core.With(changes...)
	switch problems := problem.Of(err); {
	case problems != nil:
		return l, "", problems
	case err != nil:
		return l, "", problem.List{{Path: "change", Says: err.Error()}}
	}
	l = l.Take(changed, others...)
	var did []string
	for _, c := range changes {
		did = append(did, c.Says(base))
	}
	return l, strings.Join(did, "; "), nil
}

// Tried returns a lesson as it would be with changes, and saves nothing.
func Tried(ctx context.Context, v *View, changes ...rescue.Change) (*View, error) {
	l, _, err := decided(ctx, v.Lesson, v.Larder, changes)
	if err != nil {
		return nil, err
	}
	return compute(school.In(ctx).Site, l, v.Larder)
}

// Withdraw takes back one decision, by its place in the list.
func Withdraw(ctx context.Context, id int64, version string, at int) error {
	a := school.In(ctx)
	l, err := current(ctx, id, version)
	if err != nil {
		return err
	}
	if at < 0 || at >= len(l.Changes) {
		return school.ErrChanged
	}
	if l.Changes[at].Kind == rescue.TwoLessons {
		return problem.List{{Path: "change", Says: "Two lessons are made one again by undoing, or by taking the second away."}}
	}
	larder, err := a.Larder(ctx)
	if err != nil {
		return err
	}
	did := "Taken back: " + l.Plan(larder.Tables()).Decisions()[at].Says
	l.Changes = slices.Delete(slices.Clone(l.Changes), at, at+1)
	return a.ChangeLesson(ctx, l, did)
}

// Undo makes a lesson what it was before its last change. It returns a
// problem.List where there is nothing to undo.
func Undo(ctx context.Context, id int64, version string) error {
	n, err := strconv.Atoi(version)
	if err != nil {
		return school.ErrChanged
	}
	err = school.In(ctx).UndoLesson(ctx, id, n)
	switch {
	case errors.Is(err, school.ErrNotFound):
		return problem.New("change", "There is nothing to undo.")
	case errors.Is(err, store.ErrWorkedOn):
		return problem.New("change", "The second lesson has been worked on since, and undoing would take that away. Change this lesson as it is, or the second one.")
	}
	return err
}

// ChangeRequest is a change as a form asks for it, in the words that were
// typed. Times of day are by the clock.
type ChangeRequest struct {
	Kind                               string
	Group, Dish, Step, Equipment, Unit string
	Other                              string
	At, Clock, Minutes, Number         string
}

var editable = []rescue.Kind{
	rescue.NotBefore, rescue.BeginBy, rescue.PinAt, rescue.InUnit, rescue.UnitOut, rescue.AdultOut,
	rescue.Work, rescue.Wait, rescue.Pace, rescue.Cooks,
	rescue.Preweigh, rescue.ReadyMade, rescue.Prepared, rescue.DemoBefore, rescue.DemoInPieces, rescue.Hands, rescue.Halves, rescue.Instead, rescue.Fewer,
	rescue.Smaller, rescue.FewerLoads, rescue.HotBefore, rescue.OneMore, rescue.OneAdult, rescue.Stagger, rescue.OneTemperature,
	rescue.FinishAfter, rescue.TwoLessons, rescue.LeaveOut, rescue.Share,
}

// mostCooks is how many can work together at a bench.
const mostCooks = 8

// ReadChange turns a request into a change of a lesson that begins at start.
func ReadChange(start clock.Time, r ChangeRequest) (rescue.Change, error) {
	var f typed.Form
	c := rescue.Change{
		Kind: rescue.Kind(r.Kind), Group: r.Group, Dish: r.Dish, Step: r.Step, Equipment: r.Equipment, Unit: r.Unit, Other: r.Other,
	}
	if !slices.Contains(editable, c.Kind) {
		f.Add("change", "Choose what to change.")
	}
	switch {
	case r.Clock != "":
		at, err := clock.Typed(r.Clock)
		if err != nil {
			f.Add("clock", "“%s” is no time of day such as 10:05.", words.Short(r.Clock))
		} else if at < start {
			f.Add("clock", "%s is before the door opens, at %s.", at, start)
		}
		c.At = exact.Int(int64(at - start))
	case r.At != "":
		c.At = f.Minutes("at", "Minute", r.At)
	}
	if r.Minutes != "" {
		c.Minutes = f.Minutes("minutes", "Minutes", r.Minutes)
	}
	if r.Number != "" {
		c.Number = f.Whole("number", "Number", r.Number)
	}
	if f.Problems == nil {
		within(&f, c)
	}
	if f.Problems != nil {
		return c, f.Problems
	}
	return c, nil
}

// within refuses what no lesson could want.
func within(f *typed.Form, c rescue.Change) {
	switch c.Kind {
	case rescue.Pace:
		if says := class.CheckPace(c.Minutes); says != "" {
			f.Add("minutes", "%s", says)
		}
	case rescue.Cooks, rescue.Hands:
		if c.Number < 1 || c.Number > mostCooks {
			f.Add("number", "Cooks: %d is not between 1 and %d.", c.Number, mostCooks)
		}
	case rescue.AdultOut:
		if c.Minutes.Sign() <= 0 {
			f.Add("minutes", "Say for how many minutes the adult is out.")
		}
	}
}
