package school

import (
	"cmp"
	"context"
	"fmt"
	"slices"
	"strings"

	"freshapron/internal/core/problem"
	"freshapron/internal/store"
)

// A Learner is one of those who can come in by the code of a class.
type Learner struct {
	ID   int64
	Says string // the given name, with a number where there are several
}

// NamesOf returns the names of a class; see NamesIn.
func NamesOf(ctx context.Context, class int64) ([]Learner, error) {
	c, err := In(ctx).Class(ctx, class)
	return NamesIn(c), err
}

// NamesIn are the names by which the learners of a class are known to each other.
func NamesIn(c store.Class) []Learner {
	count, all := map[string]int{}, map[string]int{}
	for _, l := range c.Roster {
		all[l.Given]++
	}
	var out []Learner
	for _, l := range c.Roster {
		says := cmp.Or(l.Given, "Number "+l.Code)
		if all[l.Given] > 1 {
			count[l.Given]++
			says = fmt.Sprintf("%s %d", says, count[l.Given])
		}
		out = append(out, Learner{l.ID, says})
	}
	slices.SortStableFunc(out, func(a, b Learner) int { return cmp.Compare(a.Says, b.Says) })
	return out
}

// Pictures are those of which a learner chooses one.
var Pictures = []string{"pear", "leek", "whisk", "pan", "cup", "bread", "fish", "star", "moon", "leaf", "drop", "house"}

// IsLearner says whether somebody who comes in is the learner of a class whose name they
// choose: by their picture, which is theirs from the first time on. It is a problem at
// "learner" or "picture" where they are not.
func IsLearner(ctx context.Context, class, learner int64, picture string) error {
	names, err := NamesOf(ctx, class)
	if err != nil {
		return err
	}
	if !slices.ContainsFunc(names, func(n Learner) bool { return n.ID == learner }) {
		return problem.New("learner", "Choose your name")
	}
	if !slices.Contains(Pictures, picture) {
		return problem.New("picture", "Choose your picture")
	}
	s := In(ctx)
	if err := s.SetMark(ctx, learner, picture); err != nil {
		return err
	}
	own, err := s.Mark(ctx, learner)
	if err == nil && own != picture {
		err = problem.New("picture", "That is not the picture that was chosen for this name. Try again, or ask your teacher, who can let you choose anew")
	}
	return err
}

// TypedCode is a code as it was typed, without what people put between its letters.
func TypedCode(text string) string {
	return strings.ToLower(strings.NewReplacer(" ", "", "-", "").Replace(text))
}
