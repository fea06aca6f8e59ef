package train

import (
	"context"
	"errors"
	"time"

	"freshapron/internal/app/school"
	"freshapron/internal/core/problem"
	"freshapron/internal/store"
)

// codeLength is of the code that a class comes in by: of 37 bits, and it ends. A token
// is longer: it stands for somebody.
const codeLength, tokenLength = 8, 16

// ErrShut says that a code or a token lets nobody in any more.
var ErrShut = errors.New("nobody is let in by this")

// Come returns a context of whoever comes in by the code of a class, which may do
// nothing else, the practice, and who is in the class.
func Come(ctx context.Context, site *school.Site, code string) (context.Context, store.Practice, []school.Learner, error) {
	p, err := site.Store.PracticeOf(ctx, school.TypedCode(code), site.Now())
	if errors.Is(err, store.ErrNotFound) {
		return ctx, p, nil, ErrShut
	}
	if err != nil {
		return ctx, p, nil, err
	}
	s, err := site.Of(ctx, p.School)
	if err != nil {
		return ctx, p, nil, err
	}
	ctx = school.As(ctx, s, store.Account{Name: "somebody who practises"})
	names, err := school.NamesOf(ctx, p.Class)
	return ctx, p, names, err
}

// inUse is for how long after their last try somebody is taken to be still there.
const inUse = 3 * time.Minute

// A Choice is as whom somebody comes in.
type Choice struct {
	Learner int64  // of the class; 0 is nobody of it
	Picture string // the first that is chosen is theirs from then on
	Again   bool   // it is they who are in already, at another device
	Left    bool   // they cut with the left hand
}

// Choose lets somebody in, and returns the token that stands for them.
func Choose(ctx context.Context, p store.Practice, c Choice) (string, error) {
	s := school.In(ctx)
	if c.Learner != 0 {
		if err := school.IsLearner(ctx, p.Class, c.Learner, c.Picture); err != nil {
			return "", err
		}
		seen, err := s.LastSeen(ctx, c.Learner)
		if err != nil {
			return "", err
		}
		if !c.Again && s.Now().Sub(seen) < inUse {
			return "", problem.New("again", "Somebody is using this name now")
		}
	}
	token, err := school.NewCode(tokenLength)
	if err != nil {
		return "", err
	}
	return token, s.AddPractiser(ctx, store.Practiser{Token: token, Practice: p.ID, Learner: c.Learner, Seen: s.Now(), Left: c.Left})
}
