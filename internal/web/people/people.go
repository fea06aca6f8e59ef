// Package people is where a head of food says who belongs to the school's
// food room, and where everybody sees where they are signed in.
package people

import (
	"embed"
	"errors"
	"fmt"
	"net/http"
	"strconv"

	"github.com/go-chi/chi/v5"

	"freshapron/internal/app"
	"freshapron/internal/core/problem"
	"freshapron/internal/core/staff"
	"freshapron/internal/store"
	"freshapron/internal/web/frame"
)

//go:embed templates/*.html
var files embed.FS

var templates = frame.Parse(files)

type place struct {
	*app.App
	*frame.Frame
}

// Routes adds the pages of this place.
func Routes(r chi.Router, a *app.App, f *frame.Frame) {
	p := &place{a, f}
	r.Get("/people", p.list)
	r.Post("/people", p.invite)
	r.Get("/people/outbox", p.outbox)
	r.Get("/people/trail", p.trail)
	r.Get("/people/{id}", p.show)
	r.Post("/people/{id}", p.change)
	r.Post("/people/{id}/link", p.link)
	r.Get("/me", p.me)
	r.Post("/me/end", p.end)
}

type people struct {
	Rows    []row
	Fields  map[string]frame.Field
	Problem bool
	Said    string
}

type row struct {
	Href, Name, Email, Role, State string
	Closed                         bool
}

func (p *place) list(w http.ResponseWriter, r *http.Request) {
	p.page(w, r, http.StatusOK, app.Person{Role: string(staff.Teacher)}, nil)
}

func (p *place) page(w http.ResponseWriter, r *http.Request, status int, in app.Person, problems problem.List) {
	accounts, err := p.App.School.Accounts(r.Context())
	if err != nil {
		p.Error(w, r, err)
		return
	}
	data := people{Fields: fields(in, problems), Problem: problems != nil}
	if r.URL.Query().Has("sent") {
		data.Said = "A link is in the outbox."
	}
	for _, a := range accounts {
		row := row{fmt.Sprintf("/people/%d", a.ID), a.Name, a.Email, a.Role.Name(), "", a.Closed}
		switch {
		case a.Closed:
			row.State = "may not come in"
		case a.Password == "" && !p.App.School.Demonstration:
			row.State = "invited, has not set a password yet"
		}
		data.Rows = append(data.Rows, row)
	}
	p.Render(w, r, status, templates, "people", frame.Page{Title: "People", Place: "people", Data: data})
}

func fields(in app.Person, problems problem.List) map[string]frame.Field {
	var roles []frame.Option
	for _, role := range staff.Roles {
		roles = append(roles, frame.Option{Value: string(role), Label: role.Name(), Small: role.Does()})
	}
	return map[string]frame.Field{
		"name":  frame.Text("name", "Name", in.Name, problems),
		"email": frame.Text("email", "Address", in.Email, problems),
		"role":  frame.Choice("role", "Role", in.Role, problems, roles),
	}
}

func read(r *http.Request) app.Person {
	return app.Person{Name: r.PostFormValue("name"), Email: r.PostFormValue("email"), Role: r.PostFormValue("role"), Closed: r.PostFormValue("closed") != ""}
}

func (p *place) invite(w http.ResponseWriter, r *http.Request) {
	in := read(r)
	_, err := p.Invite(r.Context(), in)
	var problems problem.List
	switch {
	case errors.As(err, &problems):
		p.page(w, r, http.StatusUnprocessableEntity, in, problems)
	case err != nil:
		p.Error(w, r, err)
	default:
		http.Redirect(w, r, "/people?sent", http.StatusSeeOther)
	}
}

type person struct {
	ID           int64
	Name, Email  string
	Fields       map[string]frame.Field
	Closed, Self bool
	Sessions     []session
}

type session struct{ Token, Agent, Began, Expires string }

// account loads the account of the address, or answers that there is none.
func (p *place) account(w http.ResponseWriter, r *http.Request) (store.Account, bool) {
	id, err := strconv.ParseInt(chi.URLParam(r, "id"), 10, 64)
	if err != nil {
		p.NotFound(w, r)
		return store.Account{}, false
	}
	a, err := p.App.School.Account(r.Context(), id)
	if err != nil {
		p.Error(w, r, err)
		return a, false
	}
	return a, true
}

func (p *place) show(w http.ResponseWriter, r *http.Request) {
	if a, ok := p.account(w, r); ok {
		p.one(w, r, http.StatusOK, a, app.Person{Name: a.Name, Role: string(a.Role), Closed: a.Closed}, nil)
	}
}

func (p *place) one(w http.ResponseWriter, r *http.Request, status int, a store.Account, in app.Person, problems problem.List) {
	sessions, err := p.sessionsOf(r, a.ID)
	if err != nil {
		p.Error(w, r, err)
		return
	}
	p.Render(w, r, status, templates, "person", frame.Page{Title: a.Name, Place: "people", Data: person{
		ID: a.ID, Name: a.Name, Email: a.Email, Fields: fields(in, problems), Closed: in.Closed,
		Self: a.ID == app.Acting(r.Context()).ID, Sessions: sessions,
	}})
}

func (p *place) sessionsOf(r *http.Request, account int64) ([]session, error) {
	list, err := p.SessionsOf(r.Context(), account)
	var out []session
	for _, s := range list {
		const moment = "Monday 2 January, 15:04"
		out = append(out, session{s.Token, app.Browser(s.Agent), p.Local(s.Began).Format(moment), p.Local(s.Expires).Format(moment)})
	}
	return out, err
}

func (p *place) change(w http.ResponseWriter, r *http.Request) {
	a, ok := p.account(w, r)
	if !ok {
		return
	}
	in := read(r)
	err := p.ChangePerson(r.Context(), a.ID, in)
	var problems problem.List
	switch {
	case errors.As(err, &problems):
		p.one(w, r, http.StatusUnprocessableEntity, a, in, problems)
	case err != nil:
		p.Error(w, r, err)
	default:
		http.Redirect(w, r, "/people", http.StatusSeeOther)
	}
}

func (p *place) link(w http.ResponseWriter, r *http.Request) {
	a, ok := p.account(w, r)
	if !ok {
		return
	}
	if err := p.SendLink(r.Context(), a.ID); err != nil {
		p.Error(w, r, err)
		return
	}
	http.Redirect(w, r, "/people?sent", http.StatusSeeOther)
}

type message struct{ To, Subject, At, Body string }

func (p *place) outbox(w http.ResponseWriter, r *http.Request) {
	const most = 50
	list, err := p.App.School.Outbox(r.Context(), most)
	if err != nil {
		p.Error(w, r, err)
		return
	}
	var data []message
	for _, m := range list {
		data = append(data, message{m.To, m.Subject, p.Local(m.At).Format("Monday 2 January, 15:04"), m.Body})
	}
	p.Render(w, r, http.StatusOK, templates, "outbox", frame.Page{Title: "Outbox", Place: "people", Data: data})
}

type trail struct {
	Kinds []frame.Option
	Notes []note
	Next  string
}

type note struct{ At, Who, Did, About, Says string }

var kinds = []frame.Option{{Value: "", Label: "Everything"}, {Value: "needs", Label: "Needs"}, {Value: "safety", Label: "Safety papers"}, {Value: "people", Label: "People"}}

func (p *place) trail(w http.ResponseWriter, r *http.Request) {
	about := r.URL.Query().Get("about")
	before, _ := strconv.ParseInt(r.URL.Query().Get("before"), 10, 64)
	const most = 50
	list, next, err := p.App.School.Trail(r.Context(), about, before, most)
	if err != nil {
		p.Error(w, r, err)
		return
	}
	var data trail
	for _, k := range kinds {
		k.Chosen = k.Value == about
		data.Kinds = append(data.Kinds, k)
	}
	for _, n := range list {
		data.Notes = append(data.Notes, note{p.Local(n.At).Format("2 January, 15:04"), n.Who, n.Did, n.About, n.Says})
	}
	if next > 0 {
		data.Next = fmt.Sprintf("/people/trail?about=%s&before=%d", about, next)
	}
	p.Render(w, r, http.StatusOK, templates, "trail", frame.Page{Title: "Who saw and changed what", Place: "people", Data: data})
}

type self struct {
	ID                      int64
	Name, Email, Role, Does string
	Sessions                []session
}

func (p *place) me(w http.ResponseWriter, r *http.Request) {
	who := app.Acting(r.Context())
	sessions, err := p.sessionsOf(r, who.ID)
	if err != nil {
		p.Error(w, r, err)
		return
	}
	p.Render(w, r, http.StatusOK, templates, "me", frame.Page{Title: who.Name, Data: self{who.ID, who.Name, who.Email, who.Role.Name(), who.Role.Does(), sessions}})
}

// end signs somebody out of one browser, or of all.
func (p *place) end(w http.ResponseWriter, r *http.Request) {
	if err := p.EndSession(r.Context(), r.PostFormValue("account"), r.PostFormValue("session")); err != nil {
		p.Error(w, r, err)
		return
	}
	http.Redirect(w, r, "/me", http.StatusSeeOther)
}
