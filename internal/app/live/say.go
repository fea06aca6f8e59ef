package live

import (
	"context"
	"errors"
	"fmt"
	"strings"
	"time"
	"unicode"

	"github.com/google/uuid"

	"freshapron/internal/app/school"
	"freshapron/internal/core/live"
	"freshapron/internal/core/problem"
	"freshapron/internal/formats/eventfile"
	"freshapron/internal/store"
)

// Said is an event as a screen sends it.
type Said struct {
	ID   string
	Kind live.Kind
	live.Event
	SaidAt time.Time // zero for now
}

// Tell keeps what a screen says. What can't be of this lesson is refused with a
// problem; of several the rest is kept.
func Tell(ctx context.Context, r *Run, who string, list []Said) error {
	s := school.In(ctx)
	now := s.Now()
	_, from, speed := clock(r.Run, r.Lesson, now)
	var out []store.Event
	var problems problem.List
	for i, x := range list {
		e := x.Event
		e.ID, e.Kind, e.By = x.ID, x.Kind, who
		for _, text := range []*string{&e.Bench, &e.Dish, &e.Step, &e.Equipment, &e.Unit, &e.Says, &e.Done, &e.Of} {
			*text = printable(*text)
		}
		if _, err := uuid.Parse(e.ID); err != nil {
			problems.Add(fmt.Sprintf("events[%d].id", i), "it has no number of its own")
			continue
		}
		e.At = now.Sub(from).Minutes() * speed
		if err := r.State.Check(e); err != nil {
			problems.Add(fmt.Sprintf("events[%d]", i), "%s", err)
			continue
		}
		e.At, e.Said = 0, nil
		line, err := eventfile.Line(e)
		if err != nil {
			return err
		}
		said := x.SaidAt
		if said.After(now) || said.Before(now.Add(-around)) {
			said = time.Time{}
		}
		out = append(out, store.Event{Press: e.ID, At: now, Said: said, Who: who, Line: string(line)})
	}
	if err := s.AddEvents(ctx, r.ID, out); err != nil {
		return err
	}
	return problems.Err()
}

// mostText is the longest that somebody writes into an event, in letters.
const mostText = 2000

// printable drops what is no text: a database takes no NUL.
func printable(text string) string {
	out := []rune(strings.Map(func(r rune) rune {
		if unicode.IsControl(r) && r != '\n' || r == unicode.ReplacementChar {
			return -1
		}
		return r
	}, strings.ToValidUTF8(text, "")))
	return string(out[:min(len(out), mostText)])
}

// Record adds what was written down elsewhere, at a bench of a name, to the log of a
// lesson that runs for real; to no other.
func Record(ctx context.Context, lesson int64, press, bench string, e live.Event) error {
	r, err := Of(ctx, lesson)
	if errors.Is(err, school.ErrNotFound) {
		return nil
	}
	if err != nil {
		return err
	}
	if r.Rehearsal != nil || !r.State.Begun || r.State.Closed {
		return nil
	}
	if uuid.Validate(press) != nil {
		press = uuid.NewString()
	}
	e.Unit = bench // in its own words, where it is none of the lesson's
	for _, b := range r.State.Benches {
		if strings.EqualFold(b.Name, bench) {
			e.Bench, e.Unit = b.ID, ""
		}
	}
	return Tell(ctx, r, school.Acting(ctx).Name, []Said{{ID: press, Kind: e.Kind, Event: e}})
}

// Whom returns how often each learner of a class has been asked in its lessons.
func Whom(ctx context.Context, class int64) (map[int64]int, error) {
	lines, err := school.In(ctx).Asked(ctx, class)
	if err != nil {
		return nil, err
	}
	var list []live.Event
	undone := map[string]bool{}
	for _, l := range lines {
		e, err := eventfile.Event([]byte(l))
		if err != nil {
			return nil, err
		}
		list = append(list, e)
		undone[e.Of] = true
	}
	out := map[int64]int{}
	for _, e := range list {
		if e.Kind == live.Asked && !undone[e.ID] {
			out[e.Learner]++
		}
	}
	return out, nil
}
