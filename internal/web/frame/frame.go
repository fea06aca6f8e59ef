// Package frame renders pages inside the frame that all places share, and
// turns errors into pages with a way on.
package frame

import (
	"bytes"
	"embed"
	"errors"
	"fmt"
	"html/template"
	"io/fs"
	"log/slog"
	"net/http"

	"github.com/go-chi/chi/v5/middleware"

	"freshapron/internal/app"
	"freshapron/internal/core/staff"
	"freshapron/internal/store"
	"freshapron/internal/web/ui"
)

//go:embed templates/*.html
var own embed.FS

// A Frame knows what is on every page.
type Frame struct {
	Assets *ui.Assets
	School string
}

// A Page is what a place shows: a title, the template that draws it and its
// view model.
type Page struct {
	Title string
	Place string // the place of the work that is marked in the head
	Data  any
}

type model struct {
	*Frame
	Page
	Who string
	May may
}

// may says which places whoever acts is shown.
type may struct{ Plan, Teach, Govern bool }

// Model returns what the templates of the frame are given with a page.
func (f *Frame) Model(r *http.Request, p Page) any {
	who := app.Acting(r.Context())
	return model{f, p, who.Name, may{who.Role.May(staff.Plan), who.Role.May(staff.Teach), who.Role.May(staff.Govern)}}
}

// Parse reads the templates of a place together with the frame.
func Parse(place fs.FS) *template.Template {
	t := template.Must(template.New("").ParseFS(own, "templates/*.html"))
	return template.Must(t.ParseFS(place, "templates/*.html"))
}

// Render writes a page: the whole of it, or the part of the given name where
// htmx asks for one.
func (f *Frame) Render(w http.ResponseWriter, r *http.Request, status int, t *template.Template, part string, p Page) {
	name := part + "-page"
	if r.Header.Get("HX-Request") == "true" && r.Header.Get("HX-History-Restore-Request") != "true" {
		name = part
	}
	var b bytes.Buffer
	if err := t.ExecuteTemplate(&b, name, f.Model(r, p)); err != nil {
		slog.ErrorContext(r.Context(), "render", "template", name, "error", err, "request", middleware.GetReqID(r.Context()))
		http.Error(w, "The page could not be drawn.", http.StatusInternalServerError)
		return
	}
	w.Header().Set("Content-Type", "text/html; charset=utf-8")
	w.Header().Set("Cache-Control", "no-store")
	w.Header().Add("Vary", "HX-Request")
	w.WriteHeader(status)
	_, _ = b.WriteTo(w)
}

// Fragment draws a part of a page for keeping. It is safe as HTML because the
// template has escaped what it was given.
func Fragment(t *template.Template, part string, data any) (template.HTML, error) {
	var b bytes.Buffer
	err := t.ExecuteTemplate(&b, part, data)
	return template.HTML(b.String()), err //nolint:gosec // escaped by the template
}

// Trouble is the view model of an error page.
type Trouble struct {
	Head, Says string
	Request    string
}

var errorPages = Parse(own)

// NotFound answers for an address at which there is nothing.
func (f *Frame) NotFound(w http.ResponseWriter, r *http.Request) {
	f.trouble(w, r, http.StatusNotFound, Trouble{
		Head: "There is nothing at this address",
		Says: fmt.Sprintf("No page here has the address %s. It may have been mistyped, or what it showed was taken away.", r.URL.Path),
	})
}

// Forbidden answers for what whoever acts may not do.
func (f *Frame) Forbidden(w http.ResponseWriter, r *http.Request) {
	who := app.Acting(r.Context())
	f.trouble(w, r, http.StatusForbidden, Trouble{
		Head: "That is not yours to do",
		Says: fmt.Sprintf("%s is %s here, and this is for somebody else. The head of food can change who does what.", who.Name, who.Role.Name()),
	})
}

// NotYours answers where whoever acts does not belong to the class.
func (f *Frame) NotYours(w http.ResponseWriter, r *http.Request) {
	f.trouble(w, r, http.StatusForbidden, Trouble{
		Head: "This class is somebody else’s",
		Says: "What learners need is shown to the staff of their class only. The head of food says who belongs to a class.",
	})
}

// Error answers for an error: not found, or a fault that is in the log.
func (f *Frame) Error(w http.ResponseWriter, r *http.Request, err error) {
	id := middleware.GetReqID(r.Context())
	var tooLarge *http.MaxBytesError
	switch {
	case r.Context().Err() != nil:
		// Whoever asked has gone on to another page: there is nobody to answer.
		slog.DebugContext(r.Context(), "request given up", "error", err, "request", id)
	case errors.Is(err, store.ErrNotFound):
		f.NotFound(w, r)
	case errors.As(err, &tooLarge):
		f.tooLarge(w, r)
	default:
		slog.ErrorContext(r.Context(), "request failed", "error", err, "request", id)
		f.trouble(w, r, http.StatusServiceUnavailable, Trouble{
			Head:    "This did not work",
			Says:    "The database did not answer as it should. Nothing was changed. Go back and try again in a moment; what you typed is still there.",
			Request: id,
		})
	}
}

func (f *Frame) tooLarge(w http.ResponseWriter, r *http.Request) {
	f.trouble(w, r, http.StatusRequestEntityTooLarge, Trouble{
		Head: "That is too much for one form",
		Says: "Nothing was saved. Go back, shorten what was typed and try again.",
	})
}

// Panic answers for a fault of the program.
func (f *Frame) Panic(w http.ResponseWriter, r *http.Request) {
	f.trouble(w, r, http.StatusInternalServerError, Trouble{
		Head:    "The program has made a mistake",
		Says:    "Nothing was changed. Go back and try another way; the log has the details.",
		Request: middleware.GetReqID(r.Context()),
	})
}

func (f *Frame) trouble(w http.ResponseWriter, r *http.Request, status int, t Trouble) {
	f.Render(w, r, status, errorPages, "trouble", Page{Title: t.Head, Data: t})
}
