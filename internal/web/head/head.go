// Package head is what stands at the head of every page and paper of a lesson.
package head

import (
	"fmt"

	"freshapron/internal/app/lessons"
	"freshapron/internal/core/fit"
	"freshapron/internal/core/lesson"
)

// A Head names a lesson and gives the figure that is read first.
type Head struct {
	ID          int64
	Version     int
	Dish        string // the dishes of the menu
	Class, Room string
	When        string // day, period and times
	Printed     string // the same with the year, for paper
	Bell        string
	Light       string
	Figure      string // minutes left or missing
	Meaning     string // of the figure
}

// Of returns the head of a lesson.
func Of(v *lessons.View) Head {
	times := fmt.Sprintf("%s, %s–%s", v.Period.Name, v.Period.Start, v.Period.End)
	h := Head{
		ID: v.ID, Version: v.Version, Dish: v.Core.Titles(), Class: v.Class.Name, Room: v.Room.Name, Bell: v.Period.End.String(),
		When: v.Date.Format("Monday 2 January") + ", " + times, Printed: v.Date.Format("Monday 2 January 2006") + ", " + times,
		Light: string(lesson.Stop), Figure: lesson.NoPlan, Meaning: "as it stands",
	}
	if v.Problems == nil {
		h.Light, h.Figure, h.Meaning = string(v.Verdicts[0].Light), lesson.Left(v.Plan), Meaning(v.Plan)
	}
	return h
}

// Title is the title of a page about a side of a lesson; the side may be empty.
func Title(side string, v *lessons.View) string {
	t := v.Core.Titles() + ", " + v.Class.Name
	if side != "" {
		t = side + ": " + t
	}
	return t
}

// Meaning says what the figure of a plan is the number of.
func Meaning(p *fit.Plan) string {
	switch {
	case p.Conflicts != nil:
		return "the recipe’s rules contradict each other"
	case !p.Fits:
		return "before everything is done"
	}
	return "after everything is done"
}
