package web

import (
	"net/http"

	"github.com/go-chi/chi/v5"

	"freshapron/internal/app"
	"freshapron/internal/web/plan"
)

// Allowed is what the guard knows.
var Allowed = allowed

// SchoolRoutes returns the routes of a school, to be walked.
func SchoolRoutes(s Site, a *app.App) chi.Routes {
	return (&schools{Site: s, drawings: plan.Keep()}).school(a).(interface {
		http.Handler
		chi.Routes
	})
}
