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

	"github.com/go-chi/chi/v5"
	"github.com/google/uuid"

	"freshapron/internal/app"
	"freshapron/internal/formats/jsonld"
	"freshapron/internal/formats/lessonfile"
	"freshapron/internal/formats/recipetext"
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
	r.Get("/recipes", p.shelf)
	r.Post("/recipes", p.begin)
	r.Get("/recipes/import", p.importForm)
	r.Get("/recipes/edits/{edit}", p.edit)
	r.Post("/recipes/edits/{edit}", p.save)
	r.Post("/recipes/edits/{edit}/read", p.reading)
	r.Get("/recipes/{id}", p.show)
	r.Post("/recipes/{id}/edit", p.beginEdit)
	r.Post("/recipes/{id}/duplicate", p.duplicate)
	r.Post("/recipes/{id}/status", p.status)
	r.Post("/recipes/{id}/findings", p.finding)
	r.Get("/recipes/{id}/outlooks", p.outlooks)
	r.Get("/recipes/{id}/versions", p.versions)
	r.Post("/recipes/{id}/versions", p.bringBack)
	r.Get("/recipes/{id}/amounts", p.amounts)
	r.Get("/recipes/{id}/choose", p.compose)
	r.Get("/recipes/{id}/card", p.card)
	r.Get("/recipes/{id}/preparation", p.preparation)
	r.Get("/recipes/{id}/recipe.jsonld", p.takeOut("application/ld+json", "jsonld", func(w http.ResponseWriter, d app.Dish) error { return jsonld.Write(w, d.Recipe) }))
	r.Get("/recipes/{id}/recipe.md", p.takeOut("text/markdown; charset=utf-8", "md", func(w http.ResponseWriter, d app.Dish) error { return recipetext.Write(w, d.Recipe, d.Pantry) }))
	r.Get("/recipes/{id}/dish.json", p.takeOut("application/json", "dish.json", func(w http.ResponseWriter, d app.Dish) error {
		return lessonfile.WriteDish(w, d.Recipe.Dish(max(1, d.Yield)))
	}))
}

// Uploads adds the one page that takes files, which may be larger than forms.
func Uploads(r chi.Router, a *app.App, f *frame.Frame) {
	p := &place{a, f}
	r.Post("/recipes/import", p.bringIn)
}

// dish loads the dish of the address, or answers that there is none.
func (p *place) dish(w http.ResponseWriter, r *http.Request) (app.Dish, bool) {
	id, ok := p.id(w, r)
	if !ok {
		return app.Dish{}, false
	}
	d, err := p.Dish(r.Context(), id)
	if err != nil {
		p.Error(w, r, err)
		return d, false
	}
	return d, true
}

func (p *place) id(w http.ResponseWriter, r *http.Request) (int64, bool) {
	id, err := strconv.ParseInt(chi.URLParam(r, "id"), 10, 64)
	if err != nil || id < 1 { // 0 is a dish that is not there yet
		p.NotFound(w, r)
		return 0, false
	}
	return id, true
}

func href(id int64) string { return fmt.Sprintf("/recipes/%d", id) }

// takeOut sends a dish as a file.
func (p *place) takeOut(kind, extension string, write func(http.ResponseWriter, app.Dish) error) http.HandlerFunc {
	return func(w http.ResponseWriter, r *http.Request) {
		d, ok := p.dish(w, r)
		if !ok {
			return
		}
		w.Header().Set("Content-Type", kind)
		w.Header().Set("Content-Disposition", fmt.Sprintf(`attachment; filename="%s.%s"`, fileName(d.Recipe.ID), extension))
		_ = write(w, d)
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
func (p *place) begin(w http.ResponseWriter, r *http.Request) {
	id, err := p.BeginEdit(r.Context(), 0, nil)
	p.toEdit(w, r, id, err)
}

func (p *place) beginEdit(w http.ResponseWriter, r *http.Request) {
	dish, ok := p.id(w, r)
	if !ok {
		return
	}
	id, err := p.BeginEdit(r.Context(), dish, nil)
	p.toEdit(w, r, id, err)
}

func (p *place) toEdit(w http.ResponseWriter, r *http.Request, id string, err error) {
	if err != nil {
		p.Error(w, r, err)
		return
	}
	http.Redirect(w, r, "/recipes/edits/"+id, http.StatusSeeOther)
}

// back leads to the dish after a change, or says why there was none.
func (p *place) back(w http.ResponseWriter, r *http.Request, id int64, err error) {
	switch {
	case errors.Is(err, store.ErrChanged), errors.Is(err, app.ErrNothingToMend):
		p.show(w, r) // as it is now
	case err != nil:
		p.Error(w, r, err)
	default:
		http.Redirect(w, r, href(id), http.StatusSeeOther)
	}
}

func (p *place) duplicate(w http.ResponseWriter, r *http.Request) {
	id, ok := p.id(w, r)
	if !ok {
		return
	}
	form := r.PostFormValue("form")
	if uuid.Validate(form) != nil {
		form = uuid.NewString()
	}
	made, err := p.Duplicate(r.Context(), id, r.PostFormValue("level"), form)
	p.back(w, r, made, err)
}

func (p *place) status(w http.ResponseWriter, r *http.Request) {
	id, ok := p.id(w, r)
	if !ok {
		return
	}
	to := store.Status(r.PostFormValue("to"))
	if to != store.Ready && to != store.Draft && to != store.Aside {
		p.NotFound(w, r)
		return
	}
	p.back(w, r, id, p.App.School.SetStatus(r.Context(), id, to))
}

func (p *place) finding(w http.ResponseWriter, r *http.Request) {
	id, ok := p.id(w, r)
	if !ok {
		return
	}
	key := r.PostFormValue("key")
	switch r.PostFormValue("do") {
	case "mend":
		p.back(w, r, id, p.Mend(r.Context(), id, key))
	case "aside":
		reason := strings.TrimSpace(r.PostFormValue("reason"))
		if reason == "" {
			reason = "looked at, and it is as it should be"
		}
		p.back(w, r, id, p.SetAside(r.Context(), id, key, reason))
	default:
		p.back(w, r, id, p.SetAside(r.Context(), id, key, ""))
	}
}

func (p *place) bringBack(w http.ResponseWriter, r *http.Request) {
	id, ok := p.id(w, r)
	if !ok {
		return
	}
	version, err := strconv.Atoi(r.PostFormValue("version"))
	if err != nil {
		p.NotFound(w, r)
		return
	}
	p.back(w, r, id, p.BringBack(r.Context(), id, version))
}
