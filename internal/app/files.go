package app

import (
	"context"
	"errors"
	"fmt"
	"strings"

	"github.com/google/uuid"

	"freshapron/internal/core/fit"
	"freshapron/internal/core/fit/verify"
	"freshapron/internal/core/problem"
	"freshapron/internal/formats/lessonfile"
	"freshapron/internal/store"
)

// A BroughtFile is a lesson file that somebody has brought in, planned.
type BroughtFile struct {
	store.LessonFile
	Fit   fit.Lesson
	Plan  *fit.Plan // as the planner has it
	Given *fit.Plan // the plan that came along; nil where none did
	// Faults are the rules that the plan that came along breaks.
	Faults []string
}

// BringFile keeps a lesson file, and the plan that came along if it is not
// empty. It returns problem.List that name what is wrong with either.
func (a *App) BringFile(ctx context.Context, name, lesson, plan string) (string, error) {
	f := store.LessonFile{ID: uuid.NewString(), Name: strings.TrimSpace(name), Lesson: lesson, Plan: plan, CreatedAt: a.Now()}
	l, _, err := parse(f)
	if err != nil {
		return "", err
	}
	if f.Name == "" {
		f.Name = l.Title
	}
	return f.ID, a.School.KeepFile(ctx, f)
}

func parse(f store.LessonFile) (fit.Lesson, *fit.Plan, error) {
	l, err := lessonfile.Read(strings.NewReader(f.Lesson))
	if err != nil {
		return l, nil, named("lesson", err)
	}
	if strings.TrimSpace(f.Plan) == "" {
		return l, nil, nil
	}
	p, err := lessonfile.ReadPlan(strings.NewReader(f.Plan))
	return l, p, named("plan", err)
}

// named says of which of two files the problems are.
func named(file string, err error) error {
	var problems problem.List
	if !errors.As(err, &problems) {
		return err
	}
	out := make(problem.List, len(problems))
	for i, p := range problems {
		out[i] = problem.Problem{Path: file, Says: fmt.Sprintf("%s: %s", p.Path, p.Says)}
	}
	return out
}

// File returns a lesson file that was brought in.
func (a *App) File(ctx context.Context, id string) (*BroughtFile, error) {
	if uuid.Validate(id) != nil {
		return nil, store.ErrNotFound
	}
	f, err := a.School.File(ctx, id)
	if err != nil {
		return nil, err
	}
	out := &BroughtFile{LessonFile: f}
	if out.Fit, out.Given, err = parse(f); err != nil {
		return nil, err
	}
	if out.Plan, err = a.plan(out.Fit); err != nil {
		return nil, err
	}
	if out.Given != nil {
		out.Faults = verify.Plan(out.Fit, out.Given)
	}
	return out, nil
}
