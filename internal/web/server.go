// Package web serves the application to browsers.
package web

import (
	"context"
	"encoding/json"
	"log/slog"
	"net/http"
	"runtime/debug"
	"sync"
	"time"

	"github.com/go-chi/chi/v5"
	"github.com/go-chi/chi/v5/middleware"

	"freshapron/internal/app"
	"freshapron/internal/formats/recipefile"
	"freshapron/internal/formats/table"
	"freshapron/internal/web/care"
	"freshapron/internal/web/classes"
	"freshapron/internal/web/door"
	"freshapron/internal/web/frame"
	"freshapron/internal/web/home"
	"freshapron/internal/web/larder"
	"freshapron/internal/web/people"
	"freshapron/internal/web/plan"
	"freshapron/internal/web/recipes"
	"freshapron/internal/web/rooms"
	"freshapron/internal/web/tables"
	"freshapron/internal/web/times"
	"freshapron/internal/web/ui"
)

// maxForm is the size of the largest form that is read, in bytes.
const maxForm = 1 << 20

// maxUpload is the size of the largest file that is taken, with its form.
const maxUpload = max(recipefile.MaxBytes, table.MaxBytes) + 1<<20

// A Site is what is served: the application, its assets and where it is found.
type Site struct {
	App    *app.Site
	Assets *ui.Assets
	Ping   func(context.Context) error
	Secure bool // cookies go over TLS only
}

// Handler returns the site's routes.
func Handler(s Site) http.Handler {
	outside := &frame.Frame{Assets: s.Assets}
	sessions := door.Sessions(s.App, s.Secure)
	schools := &schools{Site: s, drawings: plan.Keep()}
	r := chi.NewRouter()
	r.Use(middleware.RequestID, logged, recovered(outside), secured(s.Secure), middleware.Compress(2, "text/html", "text/css", "text/javascript", "application/javascript", "image/svg+xml", "application/json"))
	r.Get("/healthz", health(s.Ping))
	r.Handle(ui.Path+"*", s.Assets)
	r.Group(func(r chi.Router) {
		r.Use(http.NewCrossOriginProtection().Handler, sessions.LoadAndSave)
		r.Group(func(r chi.Router) {
			r.Use(middleware.RequestSize(maxForm))
			door.Routes(r, s.App, outside, sessions)
		})
		r.Mount("/", door.SignedIn(s.App, outside, sessions)(schools))
	})
	return r
}

// schools sends each request to the routes of the school for which it acts.
// Routes are light, and made anew where they are not kept.
type schools struct {
	Site
	drawings *plan.Drawings
	routes   sync.Map // school id to http.Handler
}

// ServeHTTP is of http.Handler.
func (s *schools) ServeHTTP(w http.ResponseWriter, r *http.Request) {
	id := app.Acting(r.Context()).School
	if h, ok := s.routes.Load(id); ok {
		h.(http.Handler).ServeHTTP(w, r)
		return
	}
	a, err := s.App.Of(r.Context(), id)
	if err != nil {
		(&frame.Frame{Assets: s.Assets}).Error(w, r, err)
		return
	}
	h, _ := s.routes.LoadOrStore(id, s.school(a))
	h.(http.Handler).ServeHTTP(w, r)
}

// school returns the routes of one school.
func (s *schools) school(a *app.App) http.Handler {
	f := &frame.Frame{Assets: s.Assets, School: a.School.Name}
	r := chi.NewRouter()
	r.Group(func(r chi.Router) {
		r.Use(guarded(f), middleware.RequestSize(maxForm))
		home.Routes(r, a, f)
		plan.Routes(r, a, f, s.drawings)
		recipes.Routes(r, a, f)
		larder.Routes(r, a, f)
		people.Routes(r, a, f)
		classes.Routes(r, a, f)
		care.Routes(r, a, f)
		times.Routes(r, a, f)
		tables.Routes(r, a, f)
		rooms.Routes(r, a, f)
	})
	r.Group(func(r chi.Router) {
		r.Use(guarded(f), middleware.RequestSize(maxUpload))
		recipes.Uploads(r, a, f)
		plan.Uploads(r, a, f)
		classes.Uploads(r, a, f)
		times.Uploads(r, a, f)
	})
	r.NotFound(f.NotFound)
	r.MethodNotAllowed(f.NotFound)
	return r
}

// health answers 200 only when the database answers too.
func health(ping func(context.Context) error) http.HandlerFunc {
	return func(w http.ResponseWriter, r *http.Request) {
		ctx, cancel := context.WithTimeout(r.Context(), 2*time.Second)
		defer cancel()
		status, answer := http.StatusOK, map[string]string{"status": "ok", "database": "ok"}
		if err := ping(ctx); err != nil {
			status, answer = http.StatusServiceUnavailable, map[string]string{"status": "unavailable", "database": "does not answer"}
		}
		w.Header().Set("Content-Type", "application/json")
		w.Header().Set("Cache-Control", "no-store")
		w.WriteHeader(status)
		_ = json.NewEncoder(w).Encode(answer)
	}
}

// secured sets the headers that keep other sites and injected text harmless.
func secured(tls bool) func(http.Handler) http.Handler {
	return func(next http.Handler) http.Handler {
		return http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
			headers(w.Header(), tls)
			next.ServeHTTP(w, r)
		})
	}
}

func headers(h http.Header, tls bool) {
	if tls {
		h.Set("Strict-Transport-Security", "max-age=31536000")
	}
	h.Set("Content-Security-Policy", "default-src 'self'; img-src 'self' data:; object-src 'none'; base-uri 'none'; form-action 'self'; frame-ancestors 'none'")
	h.Set("X-Content-Type-Options", "nosniff")
	h.Set("X-Frame-Options", "DENY")
	h.Set("Referrer-Policy", "same-origin")
	h.Set("Cross-Origin-Opener-Policy", "same-origin")
	h.Set("Permissions-Policy", "camera=(), geolocation=(), microphone=()")
}

func logged(next http.Handler) http.Handler {
	return http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		began := time.Now()
		ww := middleware.NewWrapResponseWriter(w, r.ProtoMajor)
		next.ServeHTTP(ww, r)
		level := slog.LevelDebug
		if ww.Status() >= http.StatusInternalServerError {
			level = slog.LevelError
		} else if r.Method != http.MethodGet {
			level = slog.LevelInfo
		}
		slog.Log(r.Context(), level, "request", "method", r.Method, "path", r.URL.Path, "status", ww.Status(),
			"ms", time.Since(began).Milliseconds(), "bytes", ww.BytesWritten(), "request", middleware.GetReqID(r.Context()))
	})
}

// recovered turns a panic into the page that says so.
func recovered(f *frame.Frame) func(http.Handler) http.Handler {
	return func(next http.Handler) http.Handler {
		return http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
			defer func() {
				switch fault := recover(); fault {
				case nil:
				case http.ErrAbortHandler:
					panic(fault) // the server ends the connection without a word
				default:
					slog.ErrorContext(r.Context(), "panic", "fault", fault, "stack", string(debug.Stack()), "request", middleware.GetReqID(r.Context()))
					f.Panic(w, r)
				}
			}()
			next.ServeHTTP(w, r)
		})
	}
}
