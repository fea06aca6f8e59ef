package live

import (
	"bytes"
	"context"
	"errors"
	"strings"
	"time"

	"freshapron/internal/app/lessons"
	"freshapron/internal/app/school"
	"freshapron/internal/core/live"
	"freshapron/internal/core/problem"
	"freshapron/internal/formats/eventfile"
	"freshapron/internal/formats/lessonfile"
	"freshapron/internal/store"
)

// Begin freezes a lesson and its plan and begins it: for real, or as a rehearsal. Who
// begins a lesson that runs, finds it running.
func Begin(ctx context.Context, id int64, rehearsal *store.Rehearsal) (int64, error) {
	s := school.In(ctx)
	v, err := lessons.One(ctx, id)
	if err != nil {
		return 0, err
	}
	if v.Problems != nil {
		return 0, v.Problems
	}
	now := s.Now()
	door := time.Date(v.Date.Year(), v.Date.Month(), v.Date.Day(), 0, int(v.Period.Start), 0, 0, s.Location)
	until := door.Add(time.Duration(v.Fit.Minutes().Float())*time.Minute + around)
	if rehearsal != nil {
		door, until = now, now.Add(rehearsed)
	} else if d := now.Sub(door); d < -around || d > around {
		return 0, problem.New("begin", "It is not near the time of this lesson, %s, %s. Rehearse it instead, or give it another time", v.Date.Format("Monday 2 January"), v.Period.Start)
	}
	var file, plan bytes.Buffer
	if err := errors.Join(lessonfile.WriteLesson(&file, v.Fit), lessonfile.WritePlan(&plan, v.Plan, nil)); err != nil {
		return 0, err
	}
	recipes := map[string]string{}
	for _, d := range v.Fit.Dishes {
		if of := v.Fit.Of(d.ID); of != d.ID {
			recipes[d.ID] = of
		}
	}
	var run int64
	err = s.InTransaction(ctx, func(in *store.School) error {
		run, err = in.Begin(ctx, store.Run{Lesson: id, Version: v.Version, File: file.String(), Plan: plan.String(), Recipes: recipes, Who: school.Acting(ctx).Name, Began: now, Door: door, Rehearsal: rehearsal})
		if err != nil {
			return err
		}
		var screens []store.Screen
		for _, g := range v.Fit.Groups {
			code, err := school.NewCode(codeLength)
			if err != nil {
				return err
			}
			screen := store.Screen{Run: run, Bench: g.ID, Code: code, Until: until}
			if v.Core.LargePrint(g.ID) {
				screen.Ways = []string{"large"}
			}
			screens = append(screens, screen)
		}
		if err := in.AddScreens(ctx, screens); err != nil || rehearsal != nil {
			return err
		}
		line, err := eventfile.Line(live.Event{ID: "opened", Kind: live.Opened})
		if err != nil {
			return err
		}
		return in.AddEvents(ctx, run, []store.Event{{Press: "opened", At: now, Who: school.Acting(ctx).Name, Line: string(line)}})
	})
	if !errors.Is(err, store.ErrBegun) {
		return run, err
	}
	r, err := One(ctx, run)
	switch {
	case err != nil:
		return 0, err
	case rehearsal != nil:
		return 0, problem.New("begin", "This lesson has begun for real, at %s: a rehearsal would stand before it. Plan it for another day to rehearse it", r.Began.In(s.Location).Format("15:04"))
	case r.State.Closed:
		return 0, problem.New("begin", "This lesson has been closed. Where that was a mistake, take “The lesson is over” back in what happened")
	}
	return run, nil
}

// rehearsed is for how long the screens of a rehearsal open.
const rehearsed = 24 * time.Hour

// Brought reads a file of events that a lesson is to be rehearsed with. What can't be
// of the lesson is a problem, each with its line.
func Brought(ctx context.Context, id int64, text string) (string, error) {
	v, err := lessons.One(ctx, id)
	if err != nil {
		return "", err
	}
	if v.Problems != nil {
		return "", v.Problems
	}
	list, err := eventfile.Read(strings.NewReader(text))
	if err != nil {
		return "", err
	}
	if len(list) == 0 {
		return "", problem.New("file", "The file has no events in it")
	}
	var problems problem.List
	base := live.Fold(v.Fit, v.Plan, nil, 0)
	for _, e := range list {
		if err := base.Check(e); err != nil {
			problems.Add("event "+e.ID, "%s", err)
		}
	}
	if problems != nil {
		return "", problems
	}
	var b bytes.Buffer
	err = eventfile.Write(&b, list)
	return b.String(), err
}

// codeLength is of the code of a bench: of 61 bits.
const codeLength = 13
