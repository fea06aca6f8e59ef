package app

import (
	"context"
	"errors"
	"fmt"
	"slices"
	"strconv"
	"strings"
	"sync/atomic"
	"time"

	"github.com/google/uuid"

	"freshapron/internal/core/clock"
	"freshapron/internal/core/exact"
	"freshapron/internal/core/fit"
	"freshapron/internal/core/lesson"
	"freshapron/internal/core/problem"
	"freshapron/internal/core/rescue"
	"freshapron/internal/core/words"
	"freshapron/internal/store"
)

// An Effect is what the last change of a lesson has done to its plan.
type Effect struct {
	Did    string
	Before *fit.Plan // nil where there was none
	Fit    fit.Lesson
}

// compare tells what the last change of a lesson did; nil where it has never
// been changed.
func (a *App) compare(ctx context.Context, v *View) (*Effect, error) {
	former, err := a.School.Before(ctx, v.ID)
	if errors.Is(err, store.ErrNotFound) {
		return nil, nil
	}
	if err != nil {
		return nil, err
	}
	was, err := a.view(former.Lesson, v.Larder)
	if err != nil {
		return nil, err
	}
	return &Effect{Did: former.Did, Before: was.Plan, Fit: was.Fit}, nil
}

// Decide makes changes to a lesson's plan and saves them. It returns
// problem.List where the lesson does not allow them.
func (a *App) Decide(ctx context.Context, id int64, version string, changes ...rescue.Change) error {
	if slices.ContainsFunc(changes, func(c rescue.Change) bool { return c.Kind == rescue.TwoLessons }) {
		return problem.List{{Path: "change", Says: "Choose when the second lesson is."}}
	}
	l, err := a.at(ctx, id, version)
	if err != nil {
		return err
	}
	larder, err := a.Larder(ctx)
	if err != nil {
		return err
	}
	changed, did, err := decided(l, larder, changes)
	if err != nil {
		return err
	}
	return a.School.ChangeLesson(ctx, changed, did)
}

// at loads a lesson that is still at the version given.
func (a *App) at(ctx context.Context, id int64, version string) (store.Lesson, error) {
	l, err := a.School.Lesson(ctx, id)
	if err == nil && version != strconv.Itoa(l.Version) {
		err = store.ErrChanged
	}
	return l, err
}

func decided(l store.Lesson, larder Larder, changes []rescue.Change) (store.Lesson, string, error) {
	core := l.Plan(larder.tables())
	base := core.Fit()
	changed, err := core.With(changes...)
	var problems problem.List
	switch {
	case errors.As(err, &problems):
		return l, "", problems
	case err != nil:
		return l, "", problem.List{{Path: "change", Says: err.Error()}}
	}
	l.GroupSize, l.Each, l.Changes = changed.GroupSize, changed.Each, changed.Changes
	var did []string
	for _, c := range changes {
		did = append(did, c.Says(base))
	}
	return l, strings.Join(did, "; "), nil
}

// Tried returns a lesson as it would be with changes, and saves nothing.
func (a *App) Tried(v *View, changes ...rescue.Change) (*View, error) {
	l, _, err := decided(v.Lesson, v.Larder, changes)
	if err != nil {
		return nil, err
	}
	return a.compute(l, v.Larder)
}

// Withdraw takes back one decision, by its place in the list.
func (a *App) Withdraw(ctx context.Context, id int64, version string, at int) error {
	l, err := a.at(ctx, id, version)
	if err != nil {
		return err
	}
	if at < 0 || at >= len(l.Changes) {
		return store.ErrChanged
	}
	if l.Changes[at].Kind == rescue.TwoLessons {
		return problem.List{{Path: "change", Says: "Two lessons are made one again by undoing, or by taking the second away."}}
	}
	larder, err := a.Larder(ctx)
	if err != nil {
		return err
	}
	did := "Taken back: " + l.Plan(larder.tables()).Decisions()[at].Says
	l.Changes = slices.Delete(slices.Clone(l.Changes), at, at+1)
	return a.School.ChangeLesson(ctx, l, did)
}

// Undo makes a lesson what it was before its last change.
func (a *App) Undo(ctx context.Context, id int64, version string) error {
	n, err := strconv.Atoi(version)
	if err != nil {
		return store.ErrChanged
	}
	return a.School.UndoLesson(ctx, id, n)
}

// A SecondRequest says when the second of two lessons is, in the words that
// were typed.
type SecondRequest struct{ Date, Period string }

// Split makes two lessons of one: this one stops after the step, and another
// goes on from there. It returns problem.List where the dish does not keep
// until then.
func (a *App) Split(ctx context.Context, id int64, version string, c rescue.Change, when SecondRequest) error {
	l, err := a.at(ctx, id, version)
	if err != nil {
		return err
	}
	larder, err := a.Larder(ctx)
	if err != nil {
		return err
	}
	periods, err := a.School.Periods(ctx)
	if err != nil {
		return err
	}
	var f form
	period := choose(&f, "period", "a period for the second lesson", when.Period, periods, func(p store.Period) int64 { return p.ID })
	date, err := time.Parse(time.DateOnly, when.Date)
	if err != nil {
		f.add("date", "“%s” is not a date such as 2026-11-26.", words.Short(when.Date))
	}
	if f.problems != nil {
		return f.problems
	}
	c.Kind, c.Number = rescue.TwoLessons, 1
	first, did, err := decided(l, larder, []rescue.Change{c})
	if err != nil {
		return err
	}
	c.Number = 2
	second, _, err := decided(l, larder, []rescue.Change{c})
	if err != nil {
		return err
	}
	second.Date, second.Period, second.Follows, second.Demo, second.Spare = date, period, l.ID, 0, 0
	if between := a.between(first, second); between <= 0 {
		return problem.List{{Path: "date", Says: "The second lesson must come after the first."}}
	} else if _, hold := first.Plan(larder.tables()).Half(); hold == nil {
		return problem.List{{Path: "change", Says: "The recipe does not say how long the dish keeps after that step."}}
	} else if ok, says := lesson.Keeps(*hold, between); !ok {
		return problem.List{{Path: "date", Says: says}}
	}
	return a.School.InTransaction(ctx, func(in *store.School) error {
		if err := in.ChangeLesson(ctx, first, did); err != nil {
			return err
		}
		_, err := in.CreateLesson(ctx, second, uuid.NewString())
		return err
	})
}

// between returns the minutes from the end of one lesson to the start of
// another, by the school's clocks: a change to summer time counts.
func (a *App) between(first, second store.Lesson) int64 {
	at := func(l store.Lesson, c clock.Time) time.Time {
		return time.Date(l.Date.Year(), l.Date.Month(), l.Date.Day(), int(c)/60, int(c)%60, 0, 0, a.School.Location)
	}
	return int64(at(second, second.Period.Start).Sub(at(first, first.Period.End)).Minutes())
}

// Halves are the two lessons over which a dish is made.
type Halves struct {
	Other store.Lesson // the first of the two where this is the second, and the other way round
	Half  int          // which this is
	Keeps bool
	Says  string
}

// halves finds the other half of a lesson; nil where it is whole.
func (a *App) halves(ctx context.Context, l store.Lesson) (*Halves, error) {
	half, hold := l.Plan(lesson.Tables{}).Half()
	if half == 0 {
		return nil, nil
	}
	h := &Halves{Half: half}
	var err error
	first, second := l, l
	if half == 1 {
		h.Other, err = a.School.Second(ctx, l.ID)
		second = h.Other
	} else {
		h.Other, err = a.School.Lesson(ctx, l.Follows)
		first = h.Other
	}
	if errors.Is(err, store.ErrNotFound) {
		h.Says = "The other half of this lesson is not there any more."
		return h, nil
	}
	if err != nil {
		return nil, err
	}
	h.Keeps, h.Says = lesson.Keeps(*hold, a.between(first, second))
	return h, nil
}

// NextDay returns the first school day after a date.
func NextDay(date time.Time) time.Time {
	for {
		date = date.AddDate(0, 0, 1)
		if d := date.Weekday(); d != time.Saturday && d != time.Sunday {
			return date
		}
	}
}

// A Trying is the search for what would help a lesson, while it goes on.
type Trying struct {
	done, all atomic.Int64
	ended     chan struct{}
	list      []rescue.Rescue
}

// Progress returns how many trials have ended, of how many.
func (t *Trying) Progress() (done, all int) { return int(t.done.Load()), int(t.all.Load()) }

// Wait waits for the end, or for so long, and returns what was found.
func (t *Trying) Wait(ctx context.Context, most time.Duration) ([]rescue.Rescue, bool) {
	timer := time.NewTimer(most)
	defer timer.Stop()
	select {
	case <-t.ended:
		return t.list, true
	case <-ctx.Done():
	case <-timer.C:
	}
	return nil, false
}

// Rescues returns the search for what would help a lesson, and begins it
// where it has not begun. It goes on whether or not anybody waits for it.
func (a *App) Rescues(v *View) *Trying {
	return a.trying(v.key(), func(progress func(done, all int)) []rescue.Rescue {
		return v.Core.Try(v.Fit, v.Plan, a.behind(), progress)
	})
}

// HelpFor is Rescues for a lesson that was brought in.
func (a *App) HelpFor(f *BroughtFile) *Trying {
	return a.trying(f.ID, func(progress func(done, all int)) []rescue.Rescue {
		return rescue.Try(rescue.Trial{Lesson: f.Fit, Plan: f.Plan, Ways: rescue.Ways(f.Fit, f.Plan), Options: a.behind(), Progress: progress})
	})
}

func (a *App) trying(key string, search func(progress func(done, all int)) []rescue.Rescue) *Trying {
	a.tryMutex.Lock()
	defer a.tryMutex.Unlock()
	if t, ok := a.tries.Get(key); ok {
		return t
	}
	t := &Trying{ended: make(chan struct{})}
	t.all.Store(1)
	a.tries.Add(key, t)
	go func() {
		defer close(t.ended)
		a.trySlots <- struct{}{} // a few at once would only hold each other up
		defer func() { <-a.trySlots }()
		t.list = search(func(done, all int) {
			t.all.Store(int64(all))
			t.done.Store(max(t.done.Load(), int64(done)))
		})
	}()
	return t
}

// ChangeRequest is a change as a form asks for it, in the words that were
// typed. Times of day are by the clock.
type ChangeRequest struct {
	Kind                               string
	Group, Dish, Step, Equipment, Unit string
	At, Clock, Minutes, Number         string
}

var editable = []rescue.Kind{
	rescue.NotBefore, rescue.BeginBy, rescue.PinAt, rescue.InUnit, rescue.UnitOut, rescue.AdultOut,
	rescue.Work, rescue.Wait, rescue.Pace, rescue.Cooks,
	rescue.Preweigh, rescue.ReadyMade, rescue.Prepared, rescue.DemoBefore, rescue.DemoInPieces, rescue.Hands, rescue.Fewer,
	rescue.Smaller, rescue.FewerLoads, rescue.HotBefore, rescue.OneMore, rescue.OneAdult, rescue.Stagger, rescue.OneTemperature,
	rescue.FinishAfter, rescue.TwoLessons, rescue.LeaveOut,
}

// limits of what a form can ask for, by kind.
var (
	mostPace  = exact.Int(5)
	mostCooks = 8
)

// ReadChange turns a request into a change of a lesson that begins at start.
func ReadChange(start clock.Time, r ChangeRequest) (rescue.Change, error) {
	var f form
	c := rescue.Change{
		Kind: rescue.Kind(r.Kind), Group: r.Group, Dish: r.Dish, Step: r.Step, Equipment: r.Equipment, Unit: r.Unit,
	}
	if !slices.Contains(editable, c.Kind) {
		f.add("change", "Choose what to change.")
	}
	switch {
	case r.Clock != "":
		at, err := clock.Typed(r.Clock)
		if err != nil {
			f.add("clock", "“%s” is no time of day such as 10:05.", words.Short(r.Clock))
		} else if at < start {
			f.add("clock", "%s is before the door opens, at %s.", at, start)
		}
		c.At = exact.Int(int64(at - start))
	case r.At != "":
		c.At = f.minutes("at", "Minute", r.At)
	}
	if r.Minutes != "" {
		c.Minutes = f.minutes("minutes", "Minutes", r.Minutes)
	}
	if r.Number != "" {
		c.Number = f.whole("number", "Number", r.Number)
	}
	if f.problems == nil {
		f.within(c)
	}
	if f.problems != nil {
		return c, f.problems
	}
	return c, nil
}

// within refuses what no lesson could want.
func (f *form) within(c rescue.Change) {
	switch c.Kind {
	case rescue.Pace:
		if c.Minutes.Sign() <= 0 || mostPace.Less(c.Minutes) {
			f.add("minutes", "Pace: %s is not between 0.1 and 5. 1 is as the recipe says, 1.2 a fifth slower.", c.Minutes.Decimal(2))
		}
	case rescue.Cooks, rescue.Hands:
		if c.Number < 1 || c.Number > mostCooks {
			f.add("number", "Cooks: %d is not between 1 and %d.", c.Number, mostCooks)
		}
	case rescue.AdultOut:
		if c.Minutes.Sign() <= 0 {
			f.add("minutes", "Say for how many minutes the adult is out.")
		}
	}
}

func (v *View) key() string {
	return fmt.Sprint(v.ID, v.Version, v.Date, v.Dish.ID, v.Dish.Version, v.Room.ID, v.Room.Version, v.Room.Outages, v.Class.ID, v.Class.Version, v.Class.Learners, v.Period, v.Larder.key)
}
