package judge

import (
	"context"
	"errors"
	"time"

	"freshapron/internal/app/school"
	"freshapron/internal/store"
)

// ErrClosed says that a code or a token lets nobody in any more.
var ErrClosed = errors.New("nobody is let in by this")

const (
	tokenLength = 16
	// daysAfter the practical learners can still come in to read; they come in again
	// after hoursIn.
	daysAfter, hoursIn = 8, 12
)

// Come returns a context of a learner who comes in by the code of a task, and the task.
// It returns ErrClosed where there is none, or none any more.
func Come(ctx context.Context, site *school.Site, code string) (context.Context, *Task, error) {
	t, err := site.Store.TaskOf(ctx, school.TypedCode(code))
	if errors.Is(err, store.ErrNotFound) {
		return ctx, nil, ErrClosed
	}
	if err != nil {
		return ctx, nil, err
	}
	return enter(ctx, site, t.School, t.ID)
}

func enter(ctx context.Context, site *school.Site, in, task int64) (context.Context, *Task, error) {
	s, err := site.Of(ctx, in)
	if err != nil {
		return ctx, nil, err
	}
	ctx = school.As(ctx, s, store.Account{Name: "a learner"})
	row, err := s.Task(ctx, task)
	if errors.Is(err, store.ErrNotFound) {
		return ctx, nil, ErrClosed
	}
	if err != nil {
		return ctx, nil, err
	}
	t, err := read(ctx, row)
	if err == nil && s.Now().After(t.View.Date.AddDate(0, 0, daysAfter)) {
		err = ErrClosed
	}
	return ctx, t, err
}

// LetIn lets a learner in to a task by their picture, and returns the token that stands
// for them; see school.IsLearner.
func LetIn(ctx context.Context, t *Task, learner int64, picture string) (string, error) {
	if err := school.IsLearner(ctx, t.View.Class.ID, learner, picture); err != nil {
		return "", err
	}
	token, err := school.NewCode(tokenLength)
	if err != nil {
		return "", err
	}
	in := school.In(ctx)
	return token, in.AddEntrant(ctx, token, t.ID, learner, in.Now().Add(hoursIn*time.Hour))
}

// Enter returns the task and the learner of a token, and a context in which they act. It
// returns ErrClosed where it is nobody's any more.
func Enter(ctx context.Context, site *school.Site, token string) (context.Context, *Task, int64, error) {
	in, task, learner, err := site.Store.EntrantOf(ctx, token, site.Now())
	if errors.Is(err, store.ErrNotFound) {
		return ctx, nil, 0, ErrClosed
	}
	if err != nil {
		return ctx, nil, 0, err
	}
	ctx, t, err := enter(ctx, site, in, task)
	return ctx, t, learner, err
}
