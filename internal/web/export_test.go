package web

import "freshapron/internal/web/frame"

// Routes returns all routes on which somebody acts.
func Routes() []frame.Route {
	var out []frame.Route
	for _, routes := range places {
		out = append(out, routes(&frame.Frame{})...)
	}
	return out
}
