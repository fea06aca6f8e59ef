package train

import (
	"cmp"
	"context"
	"errors"
	"fmt"
	"slices"
	"strings"
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

// A Name is one of those who can come in.
type Name struct {
	ID   int64
	Says string // the given name, with a number where there are several
}

// Come returns a context of whoever comes in by the code of a class, which may do
// nothing else, the practice, and who is in the class.
func Come(ctx context.Context, site *school.Site, code string) (context.Context, store.Practice, []Name, error) {
	p, err := site.Store.PracticeOf(ctx, strings.ToLower(strings.NewReplacer(" ", "", "-", "").Replace(code)), site.Now())
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
	names, err := namesOf(ctx, p.Class)
	return ctx, p, names, err
}

func namesOf(ctx context.Context, class int64) ([]Name, error) {
	c, err := school.In(ctx).Class(ctx, class)
	return namesIn(c), err
}

// namesIn are the names by which the learners of a class are known to each other.
func namesIn(c store.Class) []Name {
	count, all := map[string]int{}, map[string]int{}
	for _, l := range c.Roster {
		all[l.Given]++
	}
	var out []Name
	for _, l := range c.Roster {
		says := cmp.Or(l.Given, "Number "+l.Code)
		if all[l.Given] > 1 {
			count[l.Given]++
			says = fmt.Sprintf("%s %d", says, count[l.Given])
		}
		out = append(out, Name{l.ID, says})
	}
	slices.SortStableFunc(out, func(a, b Name) int { return cmp.Compare(a.Says, b.Says) })
	return out
}

// inUse is for how long after their last try somebody is taken to be still there.
const inUse = 3 * time.Minute

// Pictures are those of which a learner chooses one.
var Pictures = []string{"pear", "leek", "whisk", "pan", "cup", "bread", "fish", "star", "moon", "leaf", "drop", "house"}

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
		names, err := namesOf(ctx, p.Class)
		if err != nil {
			return "", err
		}
		if !slices.ContainsFunc(names, func(n Name) bool { return n.ID == c.Learner }) {
			return "", problem.New("learner", "Choose your name")
		}
		if !slices.Contains(Pictures, c.Picture) {
			return "", problem.New("picture", "Choose your picture")
		}
		if err := s.SetMark(ctx, c.Learner, c.Picture); err != nil {
			return "", err
		}
		own, err := s.Mark(ctx, c.Learner)
		if err != nil {
			return "", err
		}
		if own != c.Picture {
			return "", problem.New("picture", "That is not the picture that was chosen for this name. Try again, or ask your teacher, who can let you choose anew")
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
