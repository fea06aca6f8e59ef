package frame

import (
	"errors"
	"fmt"
	"net/http"

	"github.com/go-chi/chi/v5"

	"freshapron/internal/app/school"
	"freshapron/internal/core/staff"
)

// A Handler answers a request, or says why it can't.
type Handler func(w http.ResponseWriter, r *http.Request) error

// Kind of a route: what limits it has.
type Kind int

// The kinds.
const (
	Plain   Kind = iota // a page, or a form of one
	Uploads             // takes a file
	Streams             // goes on for as long as somebody looks
)

// Limits of the kinds: of what is sent with a request, in bytes.
const (
	maxForm = 1 << 20
	// MostUpload is the most bytes of a form with a file.
	MostUpload = 12 << 20
)

// A Route says everything about itself: what it answers to, what somebody must
// be allowed to do for it, and how.
type Route struct {
	Method, Path string
	Action       staff.Action
	Kind         Kind
	Do           Handler
	// Keeps says that the page is a function of the school's state, of who
	// looks and of the time: it is drawn once for each (see kept).
	Keeps bool
}

// Get returns a route that shows a page.
func Get(path string, action staff.Action, do Handler) Route {
	return Route{Method: http.MethodGet, Path: path, Action: action, Do: do}
}

// Keep returns a route that shows a page which is drawn anew only when something
// of the school has changed. Nothing may be noted when it is looked at, and it may
// hold no number that is good for one press.
func Keep(path string, action staff.Action, do Handler) Route {
	return Route{Method: http.MethodGet, Path: path, Action: action, Do: do, Keeps: true}
}

// Post returns a route that takes a form.
func Post(path string, action staff.Action, do Handler) Route {
	return Route{Method: http.MethodPost, Path: path, Action: action, Do: do}
}

// Upload returns a route that takes a form with a file.
func Upload(path string, action staff.Action, do Handler) Route {
	return Route{Method: http.MethodPost, Path: path, Action: action, Kind: Uploads, Do: do}
}

// Mount adds routes to a router on which somebody acts.
func (f *Frame) Mount(to chi.Router, routes []Route) {
	for _, r := range routes {
		to.MethodFunc(r.Method, r.Path, f.serve(r))
	}
}

func (f *Frame) serve(route Route) http.HandlerFunc {
	return func(w http.ResponseWriter, r *http.Request) {
		if !school.May(r.Context(), route.Action) {
			f.Forbidden(w, r)
			return
		}
		switch route.Kind {
		case Uploads:
			r.Body = http.MaxBytesReader(w, r.Body, MostUpload)
		case Streams:
			f.Stream(w, r, fmt.Sprint("account ", school.Acting(r.Context()).ID), route.Do)
			return
		default:
			r.Body = http.MaxBytesReader(w, r.Body, maxForm)
			if route.Method == http.MethodGet {
				r = r.WithContext(school.Looking(r.Context()))
			}
		}
		if route.Keeps {
			f.kept(w, r, route.Do)
			return
		}
		f.Answer(w, r, route.Do)
	}
}

// Answer lets a handler answer, and answers for it where it can't.
func (f *Frame) Answer(w http.ResponseWriter, r *http.Request, do Handler) {
	if err := do(w, r); err != nil {
		f.Error(w, r, err)
	}
}

// errForm says that a form can't be read.
var errForm = errors.New("the form can't be read")

// ParseForm reads the form of a request. It returns an error where it is too large
// or is no form.
func ParseForm(r *http.Request) error {
	err := r.ParseForm()
	var tooLarge *http.MaxBytesError
	if err != nil && !errors.As(err, &tooLarge) {
		err = errors.Join(errForm, err)
	}
	return err
}

// See leads to another address.
func See(w http.ResponseWriter, r *http.Request, to string) error {
	http.Redirect(w, r, to, http.StatusSeeOther)
	return nil
}
