// Package preparing is the place where lessons are prepared: the week, the order,
// the store, the day of whoever prepares, lists to tick, labels, letters home and
// money.
package preparing

import (
	"embed"
	"errors"
	"fmt"
	"net/http"
	"net/url"
	"strings"
	"time"

	"freshapron/internal/app/preparing"
	"freshapron/internal/app/school"
	"freshapron/internal/core/problem"
	"freshapron/internal/core/staff"
	"freshapron/internal/web/frame"
)

//go:embed templates/*.html
var files embed.FS

var templates = frame.Parse(files)

type place struct{ *frame.Frame }

// Routes are the pages of this place.
func Routes(f *frame.Frame) []frame.Route {
	p := &place{f}
	return []frame.Route{
		frame.Get("/prepare", staff.Read, p.week),
		frame.Post("/prepare/book", staff.Stock, p.book),
		frame.Get("/prepare/order", staff.Read, p.order),
		frame.Post("/prepare/order/decide", staff.Stock, p.decide),
		frame.Post("/prepare/order/send", staff.Stock, p.send),
		frame.Get("/prepare/needs", staff.Read, p.needs),
		frame.Get("/prepare/orders/{id}", staff.Read, p.sent),
		frame.Get("/prepare/orders/{id}/order.{format}", staff.Read, p.orderFile),
		frame.Post("/prepare/orders/{id}/cancel", staff.Stock, p.cancel),
		frame.Post("/prepare/orders/{id}/check", staff.Stock, p.check),
		frame.Post("/prepare/orders/{id}/decided", staff.Teach, p.decided),
		frame.Get("/prepare/store", staff.Read, p.store),
		frame.Post("/prepare/store", staff.Stock, p.put),
		frame.Upload("/prepare/store/count", staff.Stock, p.count),
		frame.Post("/prepare/store/count/take", staff.Stock, p.takeCount),
		frame.Get("/prepare/store.{format}", staff.Read, p.storeFile),
		frame.Post("/prepare/store/{id}", staff.Stock, p.change),
		frame.Get("/prepare/day", staff.Read, p.day),
		frame.Get("/prepare/day.ics", staff.Read, p.dayCalendar),
		frame.Post("/prepare/day/job", staff.Prepare, p.job),
		frame.Get("/prepare/hours", staff.Read, p.hours),
		frame.Post("/prepare/hours", staff.Stock, p.setHours),
		frame.Get("/prepare/fetch", staff.Read, p.fetch),
		frame.Get("/prepare/print/fetch", staff.Read, p.fetchPaper),
		frame.Get("/prepare/print/day", staff.Read, p.dayPaper),
		frame.Get("/prepare/orders/{id}/print", staff.Read, p.orderPaper),
		frame.Get("/lessons/{id}/print/trays", staff.Read, p.traysPaper),
		frame.Get("/prepare/fetch.{format}", staff.Read, p.fetchFile),
		frame.Post("/prepare/ticks", staff.Prepare, p.tick),
		{Method: http.MethodGet, Path: "/prepare/stream", Action: staff.Read, Kind: frame.Streams, Do: p.stream},
		frame.Get("/prepare/left", staff.Read, p.left),
		frame.Get("/prepare/garden", staff.Read, p.garden),
		frame.Post("/prepare/garden", staff.Stock, p.saveBed),
		frame.Get("/prepare/prices", staff.Read, p.prices),
		frame.Upload("/prepare/prices", staff.Stock, p.readPrices),
		frame.Upload("/prepare/prices/take", staff.Stock, p.takePrices),
		frame.Post("/prepare/prices/item", staff.Stock, p.sayItem),
		frame.Get("/prepare/prices.{format}", staff.Read, p.pricesFile),
		frame.Get("/prepare/suppliers/{id}", staff.Read, p.supplier),
		frame.Post("/prepare/suppliers/{id}", staff.Stock, p.saveSupplier),
		frame.Get("/prepare/places", staff.Read, p.places),
		frame.Post("/prepare/places", staff.Stock, p.savePlaces),
		frame.Get("/prepare/money", staff.Plan, p.money),
		frame.Post("/prepare/money", staff.Arrange, p.limits),
		frame.Get("/prepare/money/{id}", staff.Teach, p.paying),
		frame.Post("/prepare/money/{id}", staff.Teach, p.receive),
		frame.Get("/lessons/{id}/trays", staff.Read, p.trays),
		frame.Get("/lessons/{id}/trays.{format}", staff.Read, p.traysFile),
		frame.Get("/lessons/{id}/labels", staff.Read, p.labels),
		frame.Get("/lessons/{id}/print/labels", staff.Read, p.labelSheet),
		frame.Get("/lessons/{id}/home", staff.Read, p.home),
		frame.Post("/lessons/{id}/home", staff.Teach, p.setHome),
		frame.Get("/lessons/{id}/print/letter", staff.Read, p.letter),
	}
}

// sides are the pages of this place, in the order of the work.
func sides(r *http.Request, current string) []frame.Side {
	var out []frame.Side
	for _, s := range []struct {
		label, href string
		may         staff.Action
	}{
		{"The week", "/prepare", staff.Read}, {"Order", "/prepare/order", staff.Read}, {"Store", "/prepare/store", staff.Read}, {"The day", "/prepare/day", staff.Read},
		{"Fetch", "/prepare/fetch", staff.Read}, {"Left over", "/prepare/left", staff.Read}, {"Garden", "/prepare/garden", staff.Read},
		{"Prices", "/prepare/prices", staff.Read}, {"Money", "/prepare/money", staff.Plan},
	} {
		if school.May(r.Context(), s.may) {
			out = append(out, frame.Side{Label: s.label, Href: s.href, Current: s.label == current})
		}
	}
	return out
}

// A page is what every page of this place shows.
type page struct {
	Sides   []frame.Side
	Head    string
	Problem string
	Said    string
	Data    any
}

// show draws a page of this place.
func (p *place) show(w http.ResponseWriter, r *http.Request, status int, part, side, head string, err error, data any) error {
	m := page{Sides: sides(r, side), Head: head, Said: r.URL.Query().Get("said"), Data: data}
	switch problems := problem.Of(err); {
	case problems != nil:
		m.Problem, status = problem.Sentence(problems[0].Says), http.StatusUnprocessableEntity
		for _, x := range problems[1:] {
			m.Problem += " " + problem.Sentence(x.Says)
		}
	case errors.Is(err, school.ErrChanged):
		m.Problem, status = "It was changed after this page was opened, in another window or by somebody else. What stands here is new: look, and do it again.", http.StatusConflict
	case err != nil:
		return err
	}
	return p.Render(w, r, status, templates, part, frame.Page{Title: head, Place: "prepare", Data: m})
}

// on reads a day from the address; today where it names none.
func on(r *http.Request, field string) time.Time {
	day, err := time.Parse(time.DateOnly, r.FormValue(field))
	if err != nil || day.Year() < 2000 || day.Year() > 2200 {
		return school.In(r.Context()).Today()
	}
	return day
}

const longDay = "Monday 2 January"

// monday is the first day of a day's week.
func monday(day time.Time) time.Time { return day.AddDate(0, 0, -(int(day.Weekday())+6)%7) }

func see(w http.ResponseWriter, r *http.Request, path string, query ...string) error {
	v := url.Values{}
	for i := 0; i+1 < len(query); i += 2 {
		if query[i+1] != "" {
			v.Set(query[i], query[i+1])
		}
	}
	if q := v.Encode(); q != "" {
		if at := strings.Index(path, "#"); at >= 0 {
			path = path[:at] + "?" + q + path[at:]
		} else {
			path += "?" + q
		}
	}
	return frame.See(w, r, path)
}

// until says when something is good until, and how near that is.
func until(t, today time.Time) (says, light string) {
	if t.IsZero() {
		return "", ""
	}
	days := int(t.Sub(today).Hours() / 24)
	switch {
	case days < 0:
		return "since " + t.Format("Mon 2 Jan"), "stop"
	case days == 0:
		return "today", "look"
	case days == 1:
		return "tomorrow", "look"
	case days < 7:
		return t.Format("Mon 2 Jan"), ""
	}
	return t.Format("2 Jan 2006"), ""
}

func lessonHref(l preparing.Lesson) string { return fmt.Sprintf("/lessons/%d", l.ID) }
