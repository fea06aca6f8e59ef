// Package recipes is the place where dishes are chosen, written, brought in
// and taken out, and where their amounts and cards are made.
package recipes

import (
	"embed"
	"errors"
	"fmt"
	"net/http"
	"strconv"
	"strings"

	"freshapron/internal/app/recipes"
	"freshapron/internal/core/staff"

	"github.com/google/uuid"

	"freshapron/internal/app/school"
	"freshapron/internal/web/frame"
)

//go:embed templates/*.html
var files embed.FS

var templates = frame.Parse(files)

type place struct{ *frame.Frame }

// Routes are the pages of this place.
func Routes(f *frame.Frame) []frame.Route {
	p := &place{f}
	routes := []frame.Route{
		frame.Get("/recipes", staff.Read, p.shelf),
		frame.Post("/recipes", staff.Write, p.begin),
		frame.Get("/recipes/import", staff.Write, p.importForm),
		frame.Upload("/recipes/import", staff.Write, p.bringIn),
		frame.Get("/recipes/edits/{edit}", staff.Write, p.edit),
		frame.Post("/recipes/edits/{edit}", staff.Write, p.save),
		frame.Post("/recipes/edits/{edit}/read", staff.Write, p.reading),
		frame.Get("/recipes/{id}", staff.Read, p.show),
		frame.Post("/recipes/{id}/edit", staff.Write, p.beginEdit),
		frame.Post("/recipes/{id}/duplicate", staff.Write, p.duplicate),
		frame.Post("/recipes/{id}/status", staff.Write, p.status),
		frame.Post("/recipes/{id}/findings", staff.Write, p.finding),
		frame.Get("/recipes/{id}/outlooks", staff.Read, p.outlooks),
		frame.Get("/recipes/{id}/versions", staff.Read, p.versions),
		frame.Post("/recipes/{id}/versions", staff.Write, p.bringBack),
		frame.Get("/recipes/{id}/amounts", staff.Read, p.amounts),
		frame.Get("/recipes/{id}/choose", staff.Read, p.compose),
		frame.Get("/recipes/{id}/card", staff.Read, p.card),
		frame.Get("/recipes/{id}/preparation", staff.Read, p.preparation),
	}
	for _, format := range recipes.Formats {
		name := "recipe." + format.Ending
		if format.Ending == "dish.json" {
			name = format.Ending
		}
		routes = append(routes, frame.Get("/recipes/{id}/"+name, staff.Read, takeOut(format)))
	}
	return routes
}

// dish loads the dish of the address.
func dish(r *http.Request) (recipes.Dish, error) {
	id := frame.ID(r, "id")
	if id == 0 { // a dish that is not there yet
		return recipes.Dish{}, school.ErrNotFound
	}
	return recipes.One(r.Context(), id)
}

func href(id int64) string { return fmt.Sprintf("/recipes/%d", id) }

// takeOut sends a dish as a file.
func takeOut(format recipes.Format) frame.Handler {
	return func(w http.ResponseWriter, r *http.Request) error {
		d, err := dish(r)
		if err != nil {
			return err
		}
		frame.Attach(w, format.Kind, fileName(d.Recipe.ID)+"."+format.Ending)
		return format.Write(w, d)
	}
}

// fileName keeps what is safe in a header and in every file system.
func fileName(slug string) string {
	slug = strings.Map(func(r rune) rune {
		if r >= 'a' && r <= 'z' || r >= '0' && r <= '9' || r == '-' {
			return r
		}
		return -1
	}, strings.ToLower(slug))
	if slug == "" {
		return "recipe"
	}
	return slug
}

// begin begins to write a new dish.
func (p *place) begin(w http.ResponseWriter, r *http.Request) error {
	id, err := recipes.BeginEdit(r.Context(), 0, nil)
	return p.toEdit(w, r, id, err)
}

func (p *place) beginEdit(w http.ResponseWriter, r *http.Request) error {
	d, err := dish(r)
	if err != nil {
		return err
	}
	id, err := recipes.BeginEdit(r.Context(), d.ID, nil)
	return p.toEdit(w, r, id, err)
}

func (p *place) toEdit(w http.ResponseWriter, r *http.Request, id string, err error) error {
	if err != nil {
		return err
	}
	return frame.See(w, r, "/recipes/edits/"+id)
}

// back leads to the dish after a change, or shows it as it is now where there
// was none.
func (p *place) back(w http.ResponseWriter, r *http.Request, id int64, err error) error {
	switch {
	case errors.Is(err, school.ErrChanged), errors.Is(err, recipes.ErrNothingToMend):
		return p.show(w, r)
	case err != nil:
		return err
	}
	return frame.See(w, r, href(id))
}

func (p *place) duplicate(w http.ResponseWriter, r *http.Request) error {
	form := r.PostFormValue("form")
	if uuid.Validate(form) != nil {
		form = uuid.NewString()
	}
	made, err := recipes.Duplicate(r.Context(), frame.ID(r, "id"), r.PostFormValue("level"), form)
	return p.back(w, r, made, err)
}

func (p *place) status(w http.ResponseWriter, r *http.Request) error {
	id := frame.ID(r, "id")
	return p.back(w, r, id, recipes.SetStatus(r.Context(), id, recipes.Status(r.PostFormValue("to"))))
}

func (p *place) finding(w http.ResponseWriter, r *http.Request) error {
	id, key := frame.ID(r, "id"), r.PostFormValue("key")
	switch r.PostFormValue("do") {
	case "mend":
		return p.back(w, r, id, recipes.Mend(r.Context(), id, key))
	case "aside":
		reason := strings.TrimSpace(r.PostFormValue("reason"))
		if reason == "" {
			reason = "looked at, and it is as it should be"
		}
		return p.back(w, r, id, recipes.SetAside(r.Context(), id, key, reason))
	default:
		return p.back(w, r, id, recipes.SetAside(r.Context(), id, key, ""))
	}
}

func (p *place) bringBack(w http.ResponseWriter, r *http.Request) error {
	version, err := strconv.Atoi(r.PostFormValue("version"))
	if err != nil {
		return school.ErrNotFound
	}
	id := frame.ID(r, "id")
	return p.back(w, r, id, recipes.BringBack(r.Context(), id, version))
}
