// Package web serves the application to browsers.
package web

import (
	"context"
	"encoding/json"
	"log/slog"
	"net/http"
	"runtime/debug"
	"time"

	"github.com/go-chi/chi/v5"
	"github.com/go-chi/chi/v5/middleware"

	"freshapron/internal/app"
	"freshapron/internal/formats/recipefile"
	"freshapron/internal/web/frame"
	"freshapron/internal/web/home"
	"freshapron/internal/web/larder"
	"freshapron/internal/web/plan"
	"freshapron/internal/web/recipes"
	"freshapron/internal/web/ui"
)

// maxForm is the size of the largest form that is read, in bytes.
const maxForm = 1 << 20

// maxUpload is the size of the largest file that is taken, with its form.
const maxUpload = recipefile.MaxBytes + 1<<20

// Handler returns the application's routes.
func Handler(a *app.App, assets *ui.Assets, ping func(context.Context) error) http.Handler {
	f := &frame.Frame{Assets: assets, School: a.School.Name}
	r := chi.NewRouter()
	r.Use(middleware.RequestID, logged, recovered(f), secured, middleware.Compress(5, "text/html", "text/css", "text/javascript", "application/javascript", "image/svg+xml", "application/json"))
	r.Get("/healthz", health(ping))
	r.Handle(ui.Path+"*", assets)
	r.Group(func(r chi.Router) {
		r.Use(http.NewCrossOriginProtection().Handler, middleware.RequestSize(maxForm))
		home.Routes(r, a, f)
		plan.Routes(r, a, f)
		recipes.Routes(r, a, f)
		larder.Routes(r, a, f)
	})
	r.Group(func(r chi.Router) {
		r.Use(http.NewCrossOriginProtection().Handler, middleware.RequestSize(maxUpload))
		recipes.Uploads(r, a, f)
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
func secured(next http.Handler) http.Handler {
	return http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		h := w.Header()
		h.Set("Content-Security-Policy", "default-src 'self'; img-src 'self' data:; object-src 'none'; base-uri 'none'; form-action 'self'; frame-ancestors 'none'")
		h.Set("X-Content-Type-Options", "nosniff")
		h.Set("X-Frame-Options", "DENY")
		h.Set("Referrer-Policy", "same-origin")
		h.Set("Cross-Origin-Opener-Policy", "same-origin")
		h.Set("Permissions-Policy", "camera=(), geolocation=(), microphone=()")
		next.ServeHTTP(w, r)
	})
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
				if fault := recover(); fault != nil && fault != http.ErrAbortHandler {
					slog.ErrorContext(r.Context(), "panic", "fault", fault, "stack", string(debug.Stack()), "request", middleware.GetReqID(r.Context()))
					f.Panic(w, r)
				}
			}()
			next.ServeHTTP(w, r)
		})
	}
}
