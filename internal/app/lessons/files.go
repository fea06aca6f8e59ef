package lessons

import (
	"context"
	"errors"
	"fmt"
	"io"
	"strings"

	"github.com/google/uuid"

	"freshapron/internal/app/school"
	"freshapron/internal/core/fit"
	"freshapron/internal/core/fit/verify"
	"freshapron/internal/core/problem"
	"freshapron/internal/core/rescue"
	"freshapron/internal/formats/calendar"
	"freshapron/internal/formats/lessonfile"
	"freshapron/internal/store"
)

// Files returns the names of the newest files, without what is in them.
func Files(ctx context.Context) ([]store.LessonFile, error) {
	const few = 20
	return school.In(ctx).Files(ctx, few)
}

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
func BringFile(ctx context.Context, name, lesson, plan string) (string, error) {
	a := school.In(ctx)
	f := store.LessonFile{ID: uuid.NewString(), Name: strings.TrimSpace(name), Lesson: lesson, Plan: plan, CreatedAt: a.Now()}
	l, _, err := parse(f)
	if err != nil {
		return "", err
	}
	if f.Name == "" {
		f.Name = l.Title
	}
	return f.ID, a.KeepFile(ctx, f)
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

// OneFile returns a lesson file that was brought in.
func OneFile(ctx context.Context, id string) (*BroughtFile, error) {
	a := school.In(ctx)
	if uuid.Validate(id) != nil {
		return nil, school.ErrNotFound
	}
	f, err := a.File(ctx, id)
	if err != nil {
		return nil, err
	}
	out := &BroughtFile{LessonFile: f}
	if out.Fit, out.Given, err = parse(f); err != nil {
		return nil, err
	}
	if out.Plan, err = solve(a.Site, out.Fit); err != nil {
		return nil, err
	}
	if out.Given != nil {
		out.Faults = verify.Plan(out.Fit, out.Given)
		out.Fit.ShareWork(out.Given)
	}
	return out, nil
}

// WriteFile writes a lesson as a lesson file.
func WriteFile(w io.Writer, l fit.Lesson) error { return lessonfile.WriteLesson(w, l) }

// WritePlan writes a plan, with what would help as far as that is known.
func WritePlan(w io.Writer, p *fit.Plan, found []rescue.Rescue) error {
	return lessonfile.WritePlan(w, p, found)
}

// WriteCalendar writes a lesson with its checkpoints as iCalendar, and what is
// said of it.
func WriteCalendar(ctx context.Context, w io.Writer, v *View, says string) error {
	a := school.In(ctx)
	about := calendar.Lesson{UID: fmt.Sprintf("lesson-%d@fresh-apron", v.ID), Room: v.Room.Name, Stamp: a.Now(), Zone: a.Location, Says: says}
	return calendar.Write(w, about, v.Fit, v.Plan)
}
