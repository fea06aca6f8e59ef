package judge

import (
	"context"
	"encoding/json"
	"slices"
	"strconv"
	"strings"
	"unicode/utf8"

	"github.com/google/uuid"

	"freshapron/internal/app/lessons"
	"freshapron/internal/app/school"
	"freshapron/internal/core/class"
	"freshapron/internal/core/problem"
	"freshapron/internal/store"
)

// A Review is the small form of judging, for every lesson: what was to be learned, how one
// knows, and what is changed next time.
type Review struct {
	Version int    `json:"-"`
	Learn   string `json:"learn,omitempty"`
	Know    string `json:"know,omitempty"`
	Next    string `json:"next,omitempty"`
}

// Standings are the words that a learner can be given with one press.
var Standings = []string{"got there", "nearly there", "needs another go"}

// A Word that a learner was given in a lesson.
type Word struct{ Standing, Says, Who string }

type wordDoc struct {
	Standing string `json:"standing,omitempty"`
	Says     string `json:"says,omitempty"`
}

// ReviewOf returns the review of a lesson of one's own class and the last word that each
// learner was given.
func ReviewOf(ctx context.Context, lesson int64) (*lessons.View, Review, map[int64]Word, error) {
	v, err := mine(ctx, lesson)
	if err != nil {
		return nil, Review{}, nil, err
	}
	var r Review
	if r.Version, err = school.In(ctx).ReviewOf(ctx, lesson, store.Review, &r); err != nil {
		return nil, r, nil, err
	}
	list, err := school.In(ctx).Records(ctx, store.AboutReview(lesson))
	said := map[int64]Word{}
	for _, x := range list {
		var d wordDoc
		if json.Unmarshal(x.Doc, &d) != nil {
			continue // of another release
		}
		w := said[x.Learner]
		w.Who = x.Who
		if d.Standing != "" {
			w.Standing = d.Standing
		}
		if d.Says != "" {
			w.Says = d.Says
		}
		said[x.Learner] = w
	}
	return v, r, said, err
}

// SaveReview writes the review of a lesson over a version.
func SaveReview(ctx context.Context, lesson int64, version string, r Review) error {
	if _, err := mine(ctx, lesson); err != nil {
		return err
	}
	var problems problem.List
	for _, f := range []struct{ name, text string }{{"learn", r.Learn}, {"know", r.Know}, {"next", r.Next}} {
		if utf8.RuneCountInString(f.text) > longestReview {
			problems.Add(f.name, "It is longer than %d letters", longestReview)
		}
	}
	if err := problems.Err(); err != nil {
		return err
	}
	n, err := strconv.Atoi(version)
	if err != nil {
		return school.ErrChanged
	}
	return school.In(ctx).SaveReview(ctx, lesson, store.Review, n, r)
}

const longestReview = 2000

// GiveWord keeps a word for a learner of a lesson. What arrives twice counts once.
func GiveWord(ctx context.Context, lesson, learner int64, press, standing, says string) error {
	v, err := mine(ctx, lesson)
	if err != nil {
		return err
	}
	says = strings.TrimSpace(says)
	switch {
	case !slices.ContainsFunc(v.Class.Roster, func(l class.Learner) bool { return l.ID == learner }):
		return school.ErrNotFound
	case uuid.Validate(press) != nil:
		return problem.New("press", "The form has no number of its own. Load the page again")
	case standing == "" && says == "":
		return problem.New("says", "Press a word, or write one")
	case standing != "" && !slices.Contains(Standings, standing):
		return problem.New("standing", "Press one of: %s", strings.Join(Standings, ", "))
	case utf8.RuneCountInString(says) > longestNote:
		return problem.New("says", "The word is longer than %d letters", longestNote)
	}
	text, err := json.Marshal(wordDoc{standing, says})
	if err != nil {
		return err
	}
	in, who := school.In(ctx), school.Acting(ctx)
	return in.AddRecords(ctx, store.AboutReview(lesson), store.Record{Press: press, At: in.Now(), Account: who.ID, Who: who.Name, Learner: learner, Doc: text})
}
