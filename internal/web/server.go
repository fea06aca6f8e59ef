// Package web serves the application to browsers.
package web

import (
	"context"
	"encoding/json"
	"log/slog"
	"net/http"
	"net/netip"
	"runtime/debug"
	"time"

	"github.com/go-chi/chi/v5"
	"github.com/go-chi/chi/v5/middleware"

	in "freshapron/internal/app/people"
	"freshapron/internal/app/school"
	"freshapron/internal/web/care"
	"freshapron/internal/web/classes"
	"freshapron/internal/web/door"
	"freshapron/internal/web/frame"
	"freshapron/internal/web/home"
	"freshapron/internal/web/judge"
	"freshapron/internal/web/larder"
	"freshapron/internal/web/live"
	"freshapron/internal/web/people"
	"freshapron/internal/web/plan"
	"freshapron/internal/web/preparing"
	"freshapron/internal/web/recipes"
	"freshapron/internal/web/rooms"
	"freshapron/internal/web/tables"
	"freshapron/internal/web/times"
	"freshapron/internal/web/train"
	"freshapron/internal/web/ui"
)

// A Site is what is served: the application, its assets and where it is found.
type Site struct {
	App    *school.Site
	Assets *ui.Assets
	Ping   func(context.Context) error
	Secure bool // cookies go over TLS only
	// Proxies are those whose word on where a request comes from is taken.
	Proxies []netip.Prefix
}

// places are where people work, in the order of the work.
var places = []func(*frame.Frame) []frame.Route{
	home.Routes, recipes.Routes, larder.Routes, plan.Routes, care.Routes, preparing.Routes, live.Routes, train.Routes, judge.Routes, classes.Routes, rooms.Routes, times.Routes, tables.Routes, people.Routes,
}

// Handler returns the site's routes. They are the same for all schools: for
// which one a request acts is in its context.
func Handler(s Site) http.Handler {
	f := &frame.Frame{Assets: s.Assets}
	d := door.New(in.NewDoor(s.App), f, s.Secure, s.Proxies)
	r := chi.NewRouter()
	r.Use(middleware.RequestID, logged, recovered(f), secured(s.Secure), middleware.Compress(2, "text/html", "text/css", "text/javascript", "application/javascript", "image/svg+xml", "application/json"))
	r.Get("/healthz", health(s.Ping))
	r.Handle(ui.Path+"*", s.Assets)
	r.Group(func(r chi.Router) {
		r.Use(http.NewCrossOriginProtection().Handler, d.Sessions)
		d.Routes(r)
		r.Group(live.Benches(s.App, f))
		r.Group(train.Learners(s.App, f))
		r.Group(judge.Learners(s.App, f))
		inside := chi.NewRouter()
		for _, routes := range places {
			f.Mount(inside, routes(f))
		}
		inside.NotFound(f.NotFound)
		inside.MethodNotAllowed(f.NotFound)
		r.Mount("/", d.SignedIn(inside))
	})
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
