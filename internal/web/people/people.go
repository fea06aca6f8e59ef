// Package people is where a head of food says who belongs to the school's
// food room, and where everybody sees where they are signed in.
package people

import (
	"bytes"
	"embed"
	"errors"
	"fmt"
	"net/http"
	"strconv"

	"freshapron/internal/app/people"
	"freshapron/internal/app/school"
	"freshapron/internal/core/problem"
	"freshapron/internal/core/staff"
	"freshapron/internal/web/frame"
)

//go:embed templates/*.html
var files embed.FS

var templates = frame.Parse(files)

type place struct{ *frame.Frame }

// Routes are the pages of this place.
func Routes(f *frame.Frame) []frame.Route {
	p := &place{f}
	return []frame.Route{
		frame.Get("/people", staff.Govern, p.all),
		frame.Post("/people", staff.Govern, p.invite),
		frame.Get("/people/outbox", staff.Govern, p.outbox),
		frame.Get("/people/trail", staff.Govern, p.trail),
		frame.Get("/people/school", staff.Govern, p.school),
		frame.Get("/people/school/copy", staff.Govern, p.copy),
		frame.Post("/people/school/remove", staff.Govern, p.remove),
		frame.Get("/people/{id}", staff.Govern, p.show),
		frame.Post("/people/{id}", staff.Govern, p.change),
		frame.Post("/people/{id}/link", staff.Govern, p.link),
		frame.Get("/me", staff.Come, p.me),
		frame.Post("/me/end", staff.Come, p.end),
	}
}

type list struct {
	Rows    []row
	Fields  map[string]frame.Field
	Problem bool
	Said    string
}

type row struct {
	Href, Name, Email, Role, State string
	Closed                         bool
}

func (p *place) all(w http.ResponseWriter, r *http.Request) error {
	return p.page(w, r, http.StatusOK, people.Person{Role: string(staff.Teacher)}, nil)
}

func (p *place) page(w http.ResponseWriter, r *http.Request, status int, in people.Person, problems problem.List) error {
	accounts, err := people.All(r.Context())
	if err != nil {
		return err
	}
	data := list{Fields: fields(in, problems), Problem: problems != nil}
	if r.URL.Query().Has("sent") {
		data.Said = "A link is in the outbox."
	}
	for _, a := range accounts {
		row := row{fmt.Sprintf("/people/%d", a.ID), a.Name, a.Email, a.Role.Name(), "", a.Closed}
		switch {
		case a.Closed:
			row.State = "may not come in"
		case people.Invited(r.Context(), a):
			row.State = "invited, has not set a password yet"
		}
		data.Rows = append(data.Rows, row)
	}
	return p.Render(w, r, status, templates, "people", frame.Page{Title: "People", Place: "people", Data: data})
}

func fields(in people.Person, problems problem.List) map[string]frame.Field {
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

func (p *place) invite(w http.ResponseWriter, r *http.Request) error {
	var in people.Person
	if err := frame.Decode(r, &in); err != nil {
		return err
	}
	_, err := people.Invite(r.Context(), in)
	if problems := problem.Of(err); problems != nil {
		return p.page(w, r, http.StatusUnprocessableEntity, in, problems)
	}
	if err != nil {
		return err
	}
	return frame.See(w, r, "/people?sent")
}

type person struct {
	ID           int64
	Name, Email  string
	Fields       map[string]frame.Field
	Closed, Self bool
	Sessions     []session
}

type session struct{ Token, Agent, Began, Expires string }

func (p *place) show(w http.ResponseWriter, r *http.Request) error {
	a, err := people.One(r.Context(), frame.ID(r, "id"))
	if err != nil {
		return err
	}
	return p.one(w, r, http.StatusOK, a, people.Person{Name: a.Name, Role: string(a.Role), Closed: a.Closed}, nil)
}

func (p *place) one(w http.ResponseWriter, r *http.Request, status int, a people.Account, in people.Person, problems problem.List) error {
	sessions, err := sessionsOf(r, a.ID)
	if err != nil {
		return err
	}
	return p.Render(w, r, status, templates, "person", frame.Page{Title: a.Name, Place: "people", Data: person{
		ID: a.ID, Name: a.Name, Email: a.Email, Fields: fields(in, problems), Closed: in.Closed,
		Self: a.ID == school.Acting(r.Context()).ID, Sessions: sessions,
	}})
}

func sessionsOf(r *http.Request, account int64) ([]session, error) {
	list, err := people.SessionsOf(r.Context(), account)
	var out []session
	for _, s := range list {
		const moment = "Monday 2 January, 15:04"
		out = append(out, session{s.Token, people.Browser(s.Agent), school.In(r.Context()).Local(s.Began).Format(moment), school.In(r.Context()).Local(s.Expires).Format(moment)})
	}
	return out, err
}

func (p *place) change(w http.ResponseWriter, r *http.Request) error {
	a, err := people.One(r.Context(), frame.ID(r, "id"))
	if err != nil {
		return err
	}
	var in people.Person
	if err := frame.Decode(r, &in); err != nil {
		return err
	}
	err = people.ChangePerson(r.Context(), a.ID, in)
	var problems problem.List
	switch {
	case errors.As(err, &problems):
		return p.one(w, r, http.StatusUnprocessableEntity, a, in, problems)
	case err != nil:
		return err
	default:
		return frame.See(w, r, "/people")
	}
}

func (p *place) link(w http.ResponseWriter, r *http.Request) error {
	a, err := people.One(r.Context(), frame.ID(r, "id"))
	if err != nil {
		return err
	}
	if err := people.SendLink(r.Context(), a.ID); err != nil {
		return err
	}
	return frame.See(w, r, "/people?sent")
}

type message struct{ To, Subject, At, Body string }

func (p *place) outbox(w http.ResponseWriter, r *http.Request) error {
	list, err := people.Outbox(r.Context())
	if err != nil {
		return err
	}
	var data []message
	for _, m := range list {
		data = append(data, message{m.To, m.Subject, school.In(r.Context()).Local(m.At).Format("Monday 2 January, 15:04"), m.Body})
	}
	return p.Render(w, r, http.StatusOK, templates, "outbox", frame.Page{Title: "Outbox", Place: "people", Data: data})
}

type trail struct {
	Kinds []frame.Option
	Notes []note
	Next  string
}

type note struct{ At, Who, Did, About, Says string }

var kinds = []frame.Option{{Value: "", Label: "Everything"}, {Value: "needs", Label: "Needs"}, {Value: "safety", Label: "Safety papers"}, {Value: "people", Label: "People"}}

func (p *place) trail(w http.ResponseWriter, r *http.Request) error {
	about := r.URL.Query().Get("about")
	before, _ := strconv.ParseInt(r.URL.Query().Get("before"), 10, 64)
	list, next, err := people.Trail(r.Context(), about, before)
	if err != nil {
		return err
	}
	var data trail
	for _, k := range kinds {
		k.Chosen = k.Value == about
		data.Kinds = append(data.Kinds, k)
	}
	for _, n := range list {
		data.Notes = append(data.Notes, note{school.In(r.Context()).Local(n.At).Format("2 January, 15:04"), n.Who, n.Did, n.About, n.Says})
	}
	if next > 0 {
		data.Next = fmt.Sprintf("/people/trail?about=%s&before=%d", about, next)
	}
	return p.Render(w, r, http.StatusOK, templates, "trail", frame.Page{Title: "Who saw and changed what", Place: "people", Data: data})
}

type self struct {
	ID                      int64
	Name, Email, Role, Does string
	Sessions                []session
}

func (p *place) me(w http.ResponseWriter, r *http.Request) error {
	who := school.Acting(r.Context())
	sessions, err := sessionsOf(r, who.ID)
	if err != nil {
		return err
	}
	return p.Render(w, r, http.StatusOK, templates, "me", frame.Page{Title: who.Name, Data: self{who.ID, who.Name, who.Email, who.Role.Name(), who.Role.Does(), sessions}})
}

// end signs somebody out of one browser, or of all.
func (p *place) end(w http.ResponseWriter, r *http.Request) error {
	if err := people.EndSession(r.Context(), r.PostFormValue("account"), r.PostFormValue("session")); err != nil {
		return err
	}
	return frame.See(w, r, "/me")
}

type schoolPage struct{ School, Typed, Problem string }

func (p *place) school(w http.ResponseWriter, r *http.Request) error {
	return p.schoolWith(w, r, http.StatusOK, schoolPage{})
}

func (p *place) schoolWith(w http.ResponseWriter, r *http.Request, status int, m schoolPage) error {
	m.School = school.Name(r.Context())
	return p.Render(w, r, status, templates, "school", frame.Page{Title: "The whole school", Place: "people", Data: m})
}

// copy gives the whole school as a file.
func (p *place) copy(w http.ResponseWriter, r *http.Request) error {
	var b bytes.Buffer // so that what breaks off is not taken for whole
	if err := people.Copy(r.Context(), &b); err != nil {
		return err
	}
	frame.Attach(w, "application/gzip", "fresh-apron.backup")
	_, err := b.WriteTo(w)
	return err
}

func (p *place) remove(w http.ResponseWriter, r *http.Request) error {
	typed := r.PostFormValue("name")
	err := people.RemoveSchool(r.Context(), typed)
	if failed := problem.Of(err); failed != nil {
		return p.schoolWith(w, r, http.StatusUnprocessableEntity, schoolPage{Typed: typed, Problem: problem.Sentence(failed[0].Says)})
	}
	if err != nil {
		return err
	}
	return frame.See(w, r, "/signin")
}
