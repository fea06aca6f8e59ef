package train

import (
	"context"
	"errors"
	"slices"
	"strings"
	"time"

	"freshapron/internal/app/school"
	"freshapron/internal/core/knife"
	"freshapron/internal/core/skills"
	core "freshapron/internal/core/train"
	"freshapron/internal/formats/taskfile"
	"freshapron/internal/store"
)

// A Session is somebody who practises, or a whole class.
type Session struct {
	store.Practiser
	Of        store.Practice
	Source    core.Source
	Foods     []knife.Food
	Tries     []core.Try
	rating    core.Rating
	templates []string
}

// Enter returns the session of a token, and a context in which it acts.
func Enter(ctx context.Context, site *school.Site, token string) (context.Context, *Session, error) {
	who, of, err := site.Store.PractiserOf(ctx, token, site.Now())
	if errors.Is(err, store.ErrNotFound) {
		return ctx, nil, ErrShut
	}
	if err != nil {
		return ctx, nil, err
	}
	in, err := site.Of(ctx, who.School)
	if err != nil {
		return ctx, nil, err
	}
	ctx = school.As(ctx, in, store.Account{Name: "somebody who practises"})
	s := &Session{Practiser: who, Of: of}
	if err := s.load(ctx); err != nil {
		return ctx, nil, err
	}
	if s.Tries, err = in.TriesOf(ctx, who); err != nil {
		return ctx, nil, err
	}
	s.rating = core.Rate(s.Tries)
	return ctx, s, nil
}

// ForClass returns a session of the whole class in the practice that is set for it; nil
// where none is.
func ForClass(ctx context.Context, class int64) (*Session, error) {
	in := school.In(ctx)
	list, err := in.Practices(ctx, class)
	if err != nil || len(list) == 0 || !list[0].Until.After(in.Now()) {
		return nil, err
	}
	s := &Session{Of: list[0]}
	return s, s.load(ctx)
}

// load reads what is practised, and by whom.
func (s *Session) load(ctx context.Context) error {
	source, foods, err := taskfile.DecodeSource(s.Of.Source)
	if err != nil {
		return err
	}
	s.Source = source
	for _, name := range foods {
		if f, ok := knife.FoodNamed(name); ok {
			s.Foods = append(s.Foods, f)
		}
	}
	classes, err := school.In(ctx).Classes(ctx)
	for _, c := range classes {
		if c.ID == s.Of.Class {
			s.templates = core.For(c.Age)
		}
	}
	return err
}

// Next returns what is to be done next.
func (s *Session) Next(now time.Time) core.Item {
	it, _ := s.Item(s.rating.Next(s.templates, now, uint64(s.Of.ID)), len(s.Tries))
	return it
}

// Item returns the exercise of a template and a number; ok is false where there is no
// such template.
func (s *Session) Item(template string, number int) (core.Item, bool) {
	return core.NewItem(template, uint64(s.Of.ID), number, s.Source, s.Foods)
}

// Try keeps how somebody did, with the evidence for the skills that the exercise
// practises where they are sure of it.
func Try(ctx context.Context, s *Session, it core.Item, press string, v core.Verdict) error {
	in := school.In(ctx)
	t := core.Try{Template: it.Template, At: in.Now(), Right: v.Right}
	var of []skills.Evidence
	if s.Learner != 0 && v.Right {
		rating := core.Rate(append(slices.Clone(s.Tries), t))
		g, err := Skills(ctx)
		if err != nil {
			return err
		}
		of = g.ByPractice(strings.TrimPrefix(it.Template, core.Drawn), rating.Sure(it.Template), rating.Tries(it.Template), t.At)
	}
	return in.AddTry(ctx, store.Try{Token: s.Token, Press: press, Try: t, Percent: v.Percent}, s.Learner, of)
}

// Says is an answer in words.
func Says(a core.Answer) string { return taskfile.Says(a) }
