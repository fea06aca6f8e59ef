package plan

import (
	"errors"
	"net/http"
	"slices"
	"strconv"

	"freshapron/internal/app"
	"freshapron/internal/core/clock"
	"freshapron/internal/core/problem"
	"freshapron/internal/core/rescue"
	"freshapron/internal/store"
	"freshapron/internal/web/frame"
)

// A postedChange is a change as a form or an address says it.
type postedChange struct {
	Kind      string `form:"kind"`
	Group     string `form:"group"`
	Dish      string `form:"dish"`
	Step      string `form:"step"`
	Equipment string `form:"equipment"`
	Unit      string `form:"unit"`
	At        string `form:"at"`
	Clock     string `form:"clock"`
	Minutes   string `form:"minutes"`
	Number    string `form:"number"`
}

type postedChanges struct {
	Version string         `form:"version"`
	By      string         `form:"by"`
	At      string         `form:"at"`
	Place   string         `form:"place"` // of a decision to take back
	Date    string         `form:"date"`
	Period  string         `form:"period"`
	Changes []postedChange `form:"changes"`
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
		change, err := app.ReadChange(start, app.ChangeRequest(c))
		if err != nil {
			return nil, err
		}
		out = append(out, change)
	}
	return out, nil
}

func (p *place) posted(r *http.Request) (postedChanges, error) {
	var in postedChanges
	if err := r.ParseForm(); err != nil {
		return in, err
	}
	// What does not fit the form's shape is as good as missing.
	_ = p.decoder.Decode(&in, r.Form)
	return in, nil
}

// after answers for a change of the plan: with the lesson as it is now, or
// with the lesson as it stands and what is wrong.
func (p *place) after(w http.ResponseWriter, r *http.Request, id int64, in postedChanges, err error) {
	var problems problem.List
	status := http.StatusOK
	switch {
	case errors.As(err, &problems):
		status = http.StatusUnprocessableEntity
	case errors.Is(err, store.ErrChanged):
		status = http.StatusConflict
		problems = problem.List{{Path: "change", Says: "Somebody else changed this lesson meanwhile. This is theirs; decide again where it is still needed."}}
	case err != nil:
		p.Error(w, r, err)
		return
	case r.Header.Get("HX-Request") != "true":
		part := ""
		if in.At != "" {
			part = "/steps"
		}
		http.Redirect(w, r, in.state().address(id, part)+"#timing", http.StatusSeeOther)
		return
	}
	v, err := p.Lesson(r.Context(), id)
	if err != nil {
		p.Error(w, r, err)
		return
	}
	p.page(w, r, status, v, trial{request: app.RequestOf(v.Lesson), state: in.state(), decision: problems})
}

// decide makes the changes of a form.
func (p *place) decide(w http.ResponseWriter, r *http.Request) {
	in, v, ok := p.asked(w, r)
	if !ok {
		return
	}
	changes, err := in.read(v.Period.Start)
	switch {
	case err != nil:
	case slices.ContainsFunc(changes, func(c rescue.Change) bool { return c.Kind == rescue.TwoLessons }):
		err = p.Split(r.Context(), v.ID, in.Version, changes[0], app.SecondRequest{Date: in.Date, Period: in.Period})
		var problems problem.List
		if errors.As(err, &problems) {
			p.trying(w, r, http.StatusUnprocessableEntity, v, changes, in, problems)
			return
		}
	default:
		err = p.Decide(r.Context(), v.ID, in.Version, changes...)
	}
	p.after(w, r, v.ID, in, err)
}

// withdraw takes a decision back.
func (p *place) withdraw(w http.ResponseWriter, r *http.Request) {
	in, v, ok := p.asked(w, r)
	if !ok {
		return
	}
	at, err := strconv.Atoi(in.Place)
	if err != nil {
		at = -1
	}
	p.after(w, r, v.ID, in, p.Withdraw(r.Context(), v.ID, in.Version, at))
}

// undo makes the lesson what it was before its last change.
func (p *place) undo(w http.ResponseWriter, r *http.Request) {
	in, v, ok := p.asked(w, r)
	if !ok {
		return
	}
	err := p.Undo(r.Context(), v.ID, in.Version)
	if errors.Is(err, store.ErrNotFound) {
		err = problem.List{{Path: "change", Says: "There is nothing to undo."}}
	}
	p.after(w, r, v.ID, in, err)
}

// asked reads the form and the lesson that it is about.
func (p *place) asked(w http.ResponseWriter, r *http.Request) (postedChanges, *app.View, bool) {
	in, err := p.posted(r)
	if err != nil {
		p.Error(w, r, err)
		return in, nil, false
	}
	v, ok := p.lesson(w, r)
	return in, v, ok
}

// steps shows the lesson with one step explained, or just the explanation.
func (p *place) steps(w http.ResponseWriter, r *http.Request) {
	v, ok := p.planned(w, r)
	if !ok {
		return
	}
	s := stateOf(r.URL.Query().Get("by"), r.URL.Query().Get("at"))
	if r.Header.Get("HX-Request") == "true" {
		p.Render(w, r, http.StatusOK, templates, "explain", frame.Page{Title: v.Dish.Title, Data: panelOf(v, s, nil)})
		return
	}
	p.page(w, r, http.StatusOK, v, trial{request: app.RequestOf(v.Lesson), state: s})
}
