package school

import (
	"context"
	"errors"
	"slices"

	"freshapron/internal/store"
)

// ErrNotYours says that somebody does not belong to a class.
var ErrNotYours = errors.New("the class is somebody else's")

// A Class is a class as whoever acts may see it.
type Class struct {
	store.Class
	Staff []int64 // accounts
	Mine  bool    // whoever acts is one of them
}

// ClassOf returns a class without what its learners need.
func ClassOf(ctx context.Context, in *store.School, id int64) (Class, error) {
	c, err := in.Class(ctx, id)
	if err != nil {
		return Class{}, err
	}
	v := Class{Class: c}
	v.Staff, err = in.StaffOf(ctx, id)
	v.Mine = slices.Contains(v.Staff, Acting(ctx).ID)
	return v, err
}

// Own returns a class that whoever acts may change, without what its learners
// need. It returns ErrNotYours where they do not belong to it.
func Own(ctx context.Context, id int64) (Class, error) {
	v, err := ClassOf(ctx, In(ctx).School, id)
	if err == nil && !v.Mine {
		err = ErrNotYours
	}
	return v, err
}

// Needs fills in what the learners of a class need and what is noted of them,
// and notes in the trail that whoever acts has seen it, as a note says that is
// given. There is no other way to it.
func (c Class) Needs(ctx context.Context, in *store.School, seen store.Note) (Class, error) {
	var err error
	if c.Class, err = in.WithNeeds(ctx, c.Class); err != nil {
		return c, err
	}
	seen.Did, seen.About, seen.Class = "saw", "needs", c.ID
	return c, Note(ctx, in, seen)
}
