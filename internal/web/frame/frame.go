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
	"github.com/google/uuid"

	"freshapron/internal/app/school"
	"freshapron/internal/core/problem"
	"freshapron/internal/core/staff"
	"freshapron/internal/web/ui"
)

//go:embed templates/*.html
var own embed.FS

// A Frame draws what is on every page, of all schools. It is safe for many
// goroutines.
type Frame struct {
	Assets  *ui.Assets
	StillIn func(*http.Request) bool // whether whoever has sent a request is still signed in
	streams streams
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
	School, Who string
	May         may
}

// may says what whoever acts may do, so that nothing is offered that would be
// refused.
type may struct{ Read, Assess, Measure, Prepare, Stock, Keep, Write, Plan, Teach, Arrange, Govern bool }

// Model returns what the templates of the frame are given with a page.
func (f *Frame) Model(r *http.Request, p Page) any {
	who := school.Acting(r.Context())
	return model{f, p, school.Name(r.Context()), who.Name, mayOf(who.Role)}
}

func mayOf(r staff.Role) may {
	return may{
		Read: r.May(staff.Read), Assess: r.May(staff.Assess), Measure: r.May(staff.Measure), Prepare: r.May(staff.Prepare), Stock: r.May(staff.Stock), Keep: r.May(staff.Keep), Write: r.May(staff.Write),
		Plan: r.May(staff.Plan), Teach: r.May(staff.Teach), Arrange: r.May(staff.Arrange), Govern: r.May(staff.Govern),
	}
}

// Press is a number for a form: what is sent with it twice is taken once.
func (model) Press() string { return uuid.NewString() }

// Parse reads the templates of a place together with the frame.
func Parse(place fs.FS) *template.Template {
	t := template.Must(template.New("").ParseFS(own, "templates/*.html"))
	return template.Must(t.ParseFS(place, "templates/*.html"))
}

// Render writes a page: the whole of it, or the part of the given name where
// htmx asks for one.
func (f *Frame) Render(w http.ResponseWriter, r *http.Request, status int, t *template.Template, part string, p Page) error {
	name := part + "-page"
	if r.Header.Get("HX-Request") == "true" && r.Header.Get("HX-History-Restore-Request") != "true" {
		name = part
	}
	var b bytes.Buffer
	if err := t.ExecuteTemplate(&b, name, f.Model(r, p)); err != nil {
		return fmt.Errorf("%w: %s: %w", errDraw, name, err)
	}
	w.Header().Set("Content-Type", "text/html; charset=utf-8")
	w.Header().Set("Cache-Control", "no-store")
	w.Header().Add("Vary", "HX-Request")
	w.WriteHeader(status)
	_, _ = b.WriteTo(w) // whoever asked may have gone
	return nil
}

// errDraw says that a template does not go with its view model: a fault of the
// program.
var errDraw = errors.New("the page could not be drawn")

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
	who := school.Acting(r.Context())
	f.trouble(w, r, http.StatusForbidden, Trouble{
		Head: "That is not yours to do",
		Says: fmt.Sprintf("%s is %s here, and this is for somebody else. The head of food can change who does what.", who.Name, who.Role.Name()),
	})
}

// Error answers for an error: what there is to know of it in words with a way
// on; a fault is in the log with the request's number.
func (f *Frame) Error(w http.ResponseWriter, r *http.Request, err error) {
	id := middleware.GetReqID(r.Context())
	var tooLarge *http.MaxBytesError
	switch {
	case r.Context().Err() != nil:
		// Whoever asked has gone on to another page: there is nobody to answer.
		slog.DebugContext(r.Context(), "request given up", "error", err, "request", id)
	case errors.Is(err, school.ErrNotFound):
		f.NotFound(w, r)
	case errors.Is(err, school.ErrNotYours):
		f.trouble(w, r, http.StatusForbidden, Trouble{
			Head: "This class is somebody else’s",
			Says: "What learners need is shown to the staff of their class only. The head of food says who belongs to a class.",
		})
	case errors.As(err, &tooLarge), errors.Is(err, errForm):
		f.trouble(w, r, http.StatusRequestEntityTooLarge, Trouble{
			Head: "That is too much for one form",
			Says: "It was not read, so nothing of it was saved. Go back, shorten what was typed and try again.",
		})
	case problem.Of(err) != nil:
		f.trouble(w, r, http.StatusUnprocessableEntity, Trouble{Head: "That can’t be", Says: problem.Sentence(problem.Of(err)[0].Says)})
	case errors.Is(err, errDraw):
		slog.ErrorContext(r.Context(), "draw", "error", err, "request", id)
		f.Panic(w, r)
	case errors.Is(err, school.ErrChanged):
		f.trouble(w, r, http.StatusConflict, Trouble{
			Head: "It is not what it was",
			Says: "It was changed in another window or by somebody else meanwhile, so this was not saved. Go back, load the page again and look it over.",
		})
	case errors.Is(err, school.ErrBusy):
		slog.WarnContext(r.Context(), "busy", "error", err, "request", id)
		w.Header().Set("Retry-After", "5")
		f.trouble(w, r, http.StatusServiceUnavailable, Trouble{
			Head:    "Somebody else is at it",
			Says:    "It took too long, so it was given up and nothing of it was saved. Go back and try again in a moment; what you typed is still there.",
			Request: id,
		})
	default:
		slog.ErrorContext(r.Context(), "request failed", "error", err, "request", id)
		f.trouble(w, r, http.StatusServiceUnavailable, Trouble{
			Head: "This did not work", Says: "The database did not answer as it should. " + unsaid(r), Request: id,
		})
	}
}

// unsaid says what is known of what was sent where something went wrong on the
// way: nothing.
func unsaid(r *http.Request) string {
	if r.Method == http.MethodGet || r.Method == http.MethodHead {
		return "Go back and try again in a moment."
	}
	return "Whether it was saved is not known: go back, look, and send it again where it was not. What you typed is still there."
}

// Panic answers for a fault of the program.
func (f *Frame) Panic(w http.ResponseWriter, r *http.Request) {
	f.trouble(w, r, http.StatusInternalServerError, Trouble{
		Head: "The program has made a mistake", Says: unsaid(r) + " The log has the details.", Request: middleware.GetReqID(r.Context()),
	})
}

func (f *Frame) trouble(w http.ResponseWriter, r *http.Request, status int, t Trouble) {
	if err := f.Render(w, r, status, errorPages, "trouble", Page{Title: t.Head, Data: t}); err != nil {
		slog.ErrorContext(r.Context(), "trouble", "error", err, "request", middleware.GetReqID(r.Context()))
		http.Error(w, t.Head+". "+t.Says, status)
	}
}

// Grow writes a page that grows while work goes on: the parts "…-open" and
// "…-close" of the templates, and between them what is added, as HTML.
func (f *Frame) Grow(w http.ResponseWriter, r *http.Request, t *template.Template, part string, p Page, do func(add func(html string))) error {
	w.Header().Set("Content-Type", "text/html; charset=utf-8")
	w.Header().Set("Cache-Control", "no-store")
	w.Header().Set("X-Accel-Buffering", "no")
	if err := t.ExecuteTemplate(w, part+"-open", f.Model(r, p)); err != nil {
		return err
	}
	flush := func() { _ = http.NewResponseController(w).Flush() }
	flush()
	do(func(html string) {
		fmt.Fprintln(w, html)
		flush()
	})
	return t.ExecuteTemplate(w, part+"-close", nil)
}
