package plan

import (
	"errors"
	"net/http"
	"slices"
	"strconv"

	"freshapron/internal/app/lessons"
	"freshapron/internal/app/school"
	"freshapron/internal/core/clock"
	"freshapron/internal/core/problem"
	"freshapron/internal/core/rescue"
	"freshapron/internal/core/staff"
	"freshapron/internal/web/frame"
)

type postedChanges struct {
	Version, By, At string
	Place           string // of a decision to take back
	lessons.SecondRequest
	Changes []lessons.ChangeRequest
}

func (p postedChanges) state() state { return stateOf(p.By, p.At) }

// mostChanges is how many changes one form makes.
const mostChanges = 4

// read returns the changes that were asked for.
func (p postedChanges) read(start clock.Time) ([]rescue.Change, error) {
	if len(p.Changes) == 0 || len(p.Changes) > mostChanges {
		return nil, problem.List{{Path: "change", Says: "Choose what to change."}}
	}
	var out []rescue.Change
	for _, c := range p.Changes {
		change, err := lessons.ReadChange(start, c)
		if err != nil {
			return nil, err
		}
		out = append(out, change)
	}
	return out, nil
}

// after answers for a change of the plan: with the lesson as it is now, or
// with the lesson as it stands and what is wrong.
func (p *place) after(w http.ResponseWriter, r *http.Request, id int64, in postedChanges, err error) error {
	problems, status := problem.Of(err), http.StatusOK
	switch {
	case problems != nil:
		status = http.StatusUnprocessableEntity
	case errors.Is(err, school.ErrChanged):
		status = http.StatusConflict
		problems = problem.List{{Path: "change", Says: "This lesson was changed after this page was opened, in another window or by somebody else. Here it is as it is now: decide again where it is still needed."}}
	case err != nil:
		return err
	case r.Header.Get("HX-Request") != "true":
		part := ""
		if in.At != "" {
			part = "/steps"
		}
		return frame.See(w, r, in.state().address(id, part)+"#timing")
	}
	v, err := lessons.One(r.Context(), id)
	if err != nil {
		return err
	}
	return p.page(w, r, status, v, trial{request: lessons.RequestOf(v.Lesson), state: in.state(), decision: problems})
}

// decide makes the changes of a form.
func (p *place) decide(w http.ResponseWriter, r *http.Request) error {
	in, v, err := asked(r)
	if err != nil {
		return err
	}
	changes, err := in.read(v.Period.Start)
	switch {
	case err != nil:
	case slices.ContainsFunc(changes, func(c rescue.Change) bool { return c.Kind == rescue.TwoLessons }):
		err = lessons.Split(r.Context(), v.ID, in.Version, changes[0], in.SecondRequest)
		if problems := problem.Of(err); problems != nil {
			return p.trying(w, r, http.StatusUnprocessableEntity, v, changes, in, problems)
		}
	default:
		err = lessons.Decide(r.Context(), v.ID, in.Version, changes...)
	}
	return p.after(w, r, v.ID, in, err)
}

// withdraw takes a decision back.
func (p *place) withdraw(w http.ResponseWriter, r *http.Request) error {
	in, v, err := asked(r)
	if err != nil {
		return err
	}
	at, err := strconv.Atoi(in.Place)
	if err != nil {
		at = -1
	}
	return p.after(w, r, v.ID, in, lessons.Withdraw(r.Context(), v.ID, in.Version, at))
}

// undo makes the lesson what it was before its last change.
func (p *place) undo(w http.ResponseWriter, r *http.Request) error {
	in, v, err := asked(r)
	if err != nil {
		return err
	}
	return p.after(w, r, v.ID, in, lessons.Undo(r.Context(), v.ID, in.Version))
}

// asked reads the form and the lesson that it is about.
func asked(r *http.Request) (in postedChanges, v *lessons.View, err error) {
	if err := frame.Decode(r, &in); err != nil {
		return in, nil, err
	}
	v, err = one(r)
	return in, v, err
}

// steps shows the lesson with one step explained, or just the explanation.
func (p *place) steps(w http.ResponseWriter, r *http.Request, v *lessons.View) error {
	s := stateOf(r.URL.Query().Get("by"), r.URL.Query().Get("at"))
	if r.Header.Get("HX-Request") == "true" {
		return p.Render(w, r, http.StatusOK, templates, "explain", frame.Page{Title: v.Core.Titles(), Data: panelOf(v, s, nil, school.May(r.Context(), staff.Plan))})
	}
	return p.page(w, r, http.StatusOK, v, trial{request: lessons.RequestOf(v.Lesson), state: s})
}
