package web

import (
	"log/slog"
	"net/http"

	"github.com/go-chi/chi/v5"

	"freshapron/internal/app"
	"freshapron/internal/core/staff"
	"freshapron/internal/web/frame"
)

// allowed says what somebody must be allowed to do for each route. A route
// that is not here is open to nobody.
var allowed = map[string]staff.Action{
	"GET /": staff.Read,

	"GET /lessons/new":                staff.Plan,
	"POST /lessons":                   staff.Plan,
	"GET /lessons/{id}":               staff.Read,
	"POST /lessons/{id}":              staff.Plan,
	"GET /lessons/{id}/steps":         staff.Read,
	"GET /lessons/{id}/rescues":       staff.Read,
	"GET /lessons/{id}/try":           staff.Plan,
	"POST /lessons/{id}/changes":      staff.Plan,
	"POST /lessons/{id}/withdraw":     staff.Plan,
	"POST /lessons/{id}/undo":         staff.Plan,
	"GET /lessons/{id}/print":         staff.Read,
	"GET /lessons/{id}/print/benches": staff.Read,
	"GET /lessons/{id}/print/adults":  staff.Read,
	"GET /lessons/{id}/print/ovens":   staff.Read,
	"GET /lessons/{id}/lesson.json":   staff.Read,
	"GET /lessons/{id}/plan.json":     staff.Read,
	"GET /lessons/{id}/lesson.ics":    staff.Read,
	"GET /lessons/{id}/who":           staff.Read,
	"POST /lessons/{id}/who":          staff.Plan,
	"POST /lessons/{id}/teams":        staff.Plan,
	"GET /lessons/{id}/food":          staff.Read,
	"POST /lessons/{id}/food":         staff.Plan,
	"POST /lessons/{id}/food/all":     staff.Plan,
	"GET /lessons/{id}/ways":          staff.Read,
	"POST /lessons/{id}/ways":         staff.Plan,
	"GET /lessons/{id}/safety":        staff.Read,
	"POST /lessons/{id}/safety":       staff.Teach,
	"POST /lessons/{id}/safety/sign":  staff.Teach,
	"GET /lessons/{id}/print/safety":  staff.Read,
	"GET /lessons/{id}/floor":         staff.Read,
	"GET /lessons/{id}/probe":         staff.Read,
	"POST /lessons/{id}/probe":        staff.Measure,
	"GET /files":                      staff.Read,
	"POST /files":                     staff.Plan,
	"GET /files/{file}":               staff.Read,
	"GET /files/{file}/lesson.json":   staff.Read,
	"GET /files/{file}/plan.json":     staff.Read,

	"GET /recipes":                    staff.Read,
	"POST /recipes":                   staff.Write,
	"GET /recipes/import":             staff.Write,
	"POST /recipes/import":            staff.Write,
	"GET /recipes/edits/{edit}":       staff.Write,
	"POST /recipes/edits/{edit}":      staff.Write,
	"POST /recipes/edits/{edit}/read": staff.Write,
	"GET /recipes/{id}":               staff.Read,
	"POST /recipes/{id}/edit":         staff.Write,
	"POST /recipes/{id}/duplicate":    staff.Write,
	"POST /recipes/{id}/status":       staff.Write,
	"POST /recipes/{id}/findings":     staff.Write,
	"GET /recipes/{id}/outlooks":      staff.Read,
	"GET /recipes/{id}/versions":      staff.Read,
	"POST /recipes/{id}/versions":     staff.Write,
	"GET /recipes/{id}/amounts":       staff.Read,
	"GET /recipes/{id}/choose":        staff.Read,
	"GET /recipes/{id}/card":          staff.Read,
	"GET /recipes/{id}/preparation":   staff.Read,
	"GET /recipes/{id}/recipe.jsonld": staff.Read,
	"GET /recipes/{id}/recipe.md":     staff.Read,
	"GET /recipes/{id}/dish.json":     staff.Read,

	"GET /pantry":           staff.Read,
	"GET /pantry/new":       staff.Stock,
	"POST /pantry/new":      staff.Stock,
	"GET /pantry/settings":  staff.Arrange,
	"POST /pantry/settings": staff.Arrange,
	"GET /pantry/{slug}":    staff.Read,
	"POST /pantry/{slug}":   staff.Stock,

	"GET /classes":                                 staff.Teach,
	"POST /classes":                                staff.Teach,
	"GET /classes/bring":                           staff.Teach,
	"POST /classes/bring":                          staff.Teach,
	"GET /classes/bring/{list}":                    staff.Teach,
	"POST /classes/bring/{list}":                   staff.Teach,
	"POST /classes/bring/{list}/take":              staff.Teach,
	"GET /classes/{id}":                            staff.Teach,
	"POST /classes/{id}":                           staff.Teach,
	"POST /classes/{id}/staff":                     staff.Govern,
	"POST /classes/{id}/rules":                     staff.Teach,
	"POST /classes/{id}/rules/remove":              staff.Teach,
	"GET /classes/{id}/learners/new":               staff.Teach,
	"POST /classes/{id}/learners/new":              staff.Teach,
	"GET /classes/{id}/learners/{learner}":         staff.Teach,
	"POST /classes/{id}/learners/{learner}":        staff.Teach,
	"POST /classes/{id}/learners/{learner}/remove": staff.Teach,
	"GET /classes/{id}/class.csv":                  staff.Teach,
	"GET /classes/{id}/class.xlsx":                 staff.Teach,

	"GET /rooms":              staff.Read,
	"GET /rooms/new":          staff.Arrange,
	"POST /rooms/new":         staff.Arrange,
	"GET /rooms/{id}":         staff.Read,
	"GET /rooms/{id}/edit":    staff.Arrange,
	"POST /rooms/{id}/edit":   staff.Arrange,
	"GET /rooms/{id}/floor":   staff.Arrange,
	"POST /rooms/{id}/floor":  staff.Arrange,
	"POST /rooms/{id}/out":    staff.Keep,
	"POST /rooms/{id}/works":  staff.Keep,
	"POST /rooms/{id}/sharps": staff.Keep,

	"GET /times":                staff.Read,
	"POST /times/terms":         staff.Arrange,
	"POST /times/terms/remove":  staff.Arrange,
	"POST /times/periods":       staff.Arrange,
	"POST /times/slots":         staff.Arrange,
	"POST /times/slots/remove":  staff.Arrange,
	"POST /times/bring":         staff.Arrange,
	"GET /times/timetable.ics":  staff.Read,
	"GET /times/timetable.csv":  staff.Read,
	"GET /tables":               staff.Read,
	"POST /tables/region":       staff.Arrange,
	"POST /tables/temperatures": staff.Arrange,
	"POST /tables/who":          staff.Arrange,
	"POST /tables/ways":         staff.Arrange,

	"GET /people":            staff.Govern,
	"POST /people":           staff.Govern,
	"GET /people/{id}":       staff.Govern,
	"POST /people/{id}":      staff.Govern,
	"POST /people/{id}/link": staff.Govern,
	"GET /people/outbox":     staff.Govern,
	"GET /people/trail":      staff.Govern,
	"GET /me":                staff.Read,
	"POST /me/end":           staff.Read,
}

// guarded lets through only what whoever acts may do.
func guarded(f *frame.Frame) func(http.Handler) http.Handler {
	return func(next http.Handler) http.Handler {
		return http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
			route := r.Method + " " + chi.RouteContext(r.Context()).RoutePattern()
			action, ok := allowed[route]
			if !ok {
				slog.ErrorContext(r.Context(), "nobody may", "route", route)
				f.NotFound(w, r)
				return
			}
			if !app.May(r.Context(), action) {
				f.Forbidden(w, r)
				return
			}
			next.ServeHTTP(w, r)
		})
	}
}
