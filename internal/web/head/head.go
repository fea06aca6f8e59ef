// Package head is what stands at the head of every page and paper of a lesson.
package head

import (
	"fmt"
	"net/http"

	"freshapron/internal/app/lessons"
	"freshapron/internal/app/school"
	"freshapron/internal/core/fit"
	"freshapron/internal/core/lesson"
	"freshapron/internal/core/problem"
	"freshapron/internal/core/staff"
	"freshapron/internal/core/words"
	"freshapron/internal/web/frame"
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
	Replaced    []Link // other products that came, about which somebody has to decide
}

// A Link is something to be done about a lesson, and where.
type Link struct{ Says, Href string }

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
	for _, u := range v.Replaced {
		h.Replaced = append(h.Replaced, Link{
			fmt.Sprintf("%s came in place of %s and contains %s: nobody has decided who can eat it", u.Checked.Name, u.Product.Name, words.Names(u.Checked.Unlike)),
			fmt.Sprintf("/prepare/orders/%d", u.Order),
		})
	}
	return h
}

// A Top is what stands at the head of a side of a lesson.
type Top struct {
	Head
	Heading   string
	Sides     []frame.Side
	Problem   string
	MayChange bool
}

// TopOf returns the head of a side of a lesson, for somebody to whom the class
// belongs or not; wrong is what is wrong on the page.
func TopOf(r *http.Request, v *lessons.View, heading, side, wrong string, mine bool) Top {
	t := Top{Head: Of(v), Heading: heading, Sides: frame.Sides(v.ID, side, mine), Problem: wrong, MayChange: school.May(r.Context(), staff.Plan)}
	if v.Problems != nil && t.Problem == "" {
		t.Problem = problem.Sentence(v.Problems[0].Says)
	}
	return t
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
