package lessons

import (
	"context"
	"errors"
	"time"

	"github.com/google/uuid"

	"freshapron/internal/app/school"
	"freshapron/internal/core/clock"
	"freshapron/internal/core/lesson"
	"freshapron/internal/core/problem"
	"freshapron/internal/core/rescue"
	"freshapron/internal/core/typed"
	"freshapron/internal/store"
)

// A SecondRequest says when the second of two lessons is, in the words that
// were typed.
type SecondRequest struct{ Date, Period string }

// Split makes two lessons of one: this one stops after the step, and another
// goes on from there. It returns problem.List where the dish does not keep
// until then.
func Split(ctx context.Context, id int64, version string, c rescue.Change, when SecondRequest) error {
	a := school.In(ctx)
	l, err := current(ctx, id, version)
	if err != nil {
		return err
	}
	larder, err := a.Larder(ctx)
	if err != nil {
		return err
	}
	periods, err := a.Periods(ctx)
	if err != nil {
		return err
	}
	var f typed.Form
	period := typed.Choose(&f, "period", "a period for the second lesson", when.Period, periods, func(p store.Period) int64 { return p.ID })
	date := f.Date("date", when.Date, "2026-11-26")
	if f.Problems != nil {
		return f.Problems
	}
	c.Kind, c.Number = rescue.TwoLessons, 1
	first, did, err := decided(ctx, l, larder, []rescue.Change{c})
	if err != nil {
		return err
	}
	c.Number = 2
	second, _, err := decided(ctx, l, larder, []rescue.Change{c})
	if err != nil {
		return err
	}
	second.Date, second.Period, second.Follows, second.Spare = date, period, l.ID, 0
	for i := range second.Menu {
		second.Menu[i].Demo = 0
	}
	if between := between(a, first, second); between <= 0 {
		return problem.List{{Path: "date", Says: "The second lesson must come after the first."}}
	} else if _, hold := first.Plan(larder.Tables()).Half(); hold == nil {
		return problem.List{{Path: "change", Says: "The recipe does not say how long the dish keeps after that step."}}
	} else if ok, says := lesson.Keeps(*hold, between); !ok {
		return problem.List{{Path: "date", Says: says}}
	}
	return a.InTransaction(ctx, func(in *store.School) error {
		if err := in.ChangeLesson(ctx, first, did); err != nil {
			return err
		}
		_, err := in.CreateLesson(ctx, second, uuid.NewString())
		return err
	})
}

// between returns the minutes from the end of one lesson to the start of
// another, by the school's clocks: a change to summer time counts.
func between(a *school.School, first, second store.Lesson) int64 {
	at := func(l store.Lesson, c clock.Time) time.Time {
		return time.Date(l.Date.Year(), l.Date.Month(), l.Date.Day(), int(c)/60, int(c)%60, 0, 0, a.Location)
	}
	return int64(at(second, second.Period.Start).Sub(at(first, first.Period.End)).Minutes())
}

// Halves are the two lessons over which a dish is made.
type Halves struct {
	Other store.Lesson // the first of the two where this is the second, and the other way round
	Half  int          // which this is
	Keeps bool
	Says  string
	Apart []string // in what the two do not go together any more
}

// HalvesOf finds the other half of a lesson; nil where it is whole.
func HalvesOf(ctx context.Context, l store.Lesson) (*Halves, error) {
	a := school.In(ctx)
	half, hold := l.Plan(lesson.Tables{}).Half()
	if half == 0 {
		return nil, nil
	}
	h := &Halves{Half: half}
	var err error
	first, second := l, l
	if half == 1 {
		h.Other, err = a.Second(ctx, l.ID)
		second = h.Other
	} else {
		h.Other, err = a.Lesson(ctx, l.Follows)
		first = h.Other
	}
	if errors.Is(err, school.ErrNotFound) {
		h.Says = "The other half of this lesson is not there any more."
		return h, nil
	}
	if err != nil {
		return nil, err
	}
	h.Keeps, h.Says = lesson.Keeps(*hold, between(a, first, second))
	h.Apart = lesson.Apart(first.Plan(lesson.Tables{}), second.Plan(lesson.Tables{}))
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
