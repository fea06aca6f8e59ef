// Package home shows today's lessons and what each needs.
package home

import (
	"embed"
	"fmt"
	"net/http"
	"strings"

	"freshapron/internal/app/lessons"
	"freshapron/internal/app/school"

	"freshapron/internal/core/lesson"
	"freshapron/internal/core/staff"
	"freshapron/internal/web/frame"
)

//go:embed templates/*.html
var files embed.FS

var templates = frame.Parse(files)

// daysAhead is how far the list looks.
const daysAhead = 7

type place struct{ *frame.Frame }

// Routes are the pages of this place.
func Routes(f *frame.Frame) []frame.Route {
	p := &place{f}
	return []frame.Route{frame.Keep("/", staff.Come, p.today)}
}

func (p *place) today(w http.ResponseWriter, r *http.Request) error {
	if !school.May(r.Context(), staff.Read) {
		return frame.See(w, r, "/judge") // who comes from outside only marks
	}
	here := school.In(r.Context())
	views, err := lessons.From(r.Context(), here.Today(), daysAhead)
	if err != nil {
		return err
	}
	return p.Render(w, r, http.StatusOK, templates, "today", frame.Page{Title: "Today", Place: "today", Data: modelOf(here, views)})
}

type model struct {
	Date  string
	Count string
	Today []entry
	Later []day
}

type day struct {
	Date    string
	Entries []entry
}

type entry struct {
	Href        string
	Start, End  string
	Period      string
	Class, Dish string
	Grouping    string
	Now         string // "on now", "in 12 min", "over"
	Light       string
	Figure      string
	Chance      string
	Needs       []need
}

// A need is what a lesson asks for: in a sentence, or in lines over the whole
// width.
type need struct {
	Icon, Head, Says string
	Lines            []string
}

func modelOf(a *school.School, views []*lessons.View) model {
	today := a.Today()
	m := model{Date: today.Format("Monday 2 January")}
	for _, v := range views {
		e := entryOf(a, v)
		if v.Date.Equal(today) {
			m.Today = append(m.Today, e)
			continue
		}
		date := v.Date.Format("Monday 2 January")
		if n := len(m.Later); n == 0 || m.Later[n-1].Date != date {
			m.Later = append(m.Later, day{Date: date})
		}
		last := &m.Later[len(m.Later)-1]
		last.Entries = append(last.Entries, e)
	}
	switch len(m.Today) {
	case 0:
		m.Count = "No practical lesson today"
	case 1:
		m.Count = "1 practical lesson"
	default:
		m.Count = fmt.Sprintf("%d practical lessons", len(m.Today))
	}
	return m
}

func entryOf(a *school.School, v *lessons.View) entry {
	e := entry{
		Href:  fmt.Sprintf("/lessons/%d", v.ID),
		Start: v.Period.Start.String(), End: v.Period.End.String(), Period: v.Period.Name,
		Class: v.Class.Name, Dish: v.Core.Titles(), Now: when(a, v),
	}
	if v.Problems != nil {
		e.Light, e.Figure = string(lesson.Stop), lesson.NoPlan
		e.Needs = []need{{Icon: "bench", Head: "Look at it", Says: v.Problems[0].Says}}
		return e
	}
	e.Grouping, e.Light, e.Figure = v.Core.Grouping(), string(v.Verdicts[0].Light), lesson.Left(v.Plan)
	for _, verdict := range v.Verdicts {
		if verdict.About == "chance" {
			e.Chance = verdict.Head + " end on time"
		}
	}
	e.Needs = needs(v)
	return e
}

// when tells how a lesson of today stands to the clock.
func when(a *school.School, v *lessons.View) string {
	now := a.Now().In(a.School.Location)
	if !v.Date.Equal(a.Today()) {
		return ""
	}
	minute := now.Hour()*60 + now.Minute()
	switch start, end := int(v.Period.Start), int(v.Period.End); {
	case minute >= end:
		return "over"
	case minute >= start:
		return fmt.Sprintf("on now, %d min to the bell", end-minute)
	case start-minute <= 90:
		return fmt.Sprintf("in %d min", start-minute)
	}
	return ""
}

// needs lists what has to be there: sets, ovens, and the largest amounts.
func needs(v *lessons.View) []need {
	out := []need{{Icon: "bench", Head: v.Core.Sets(), Says: "to lay out"}}
	for _, o := range lesson.Ovens(v.Fit, v.Plan) {
		word := "ovens"
		if len(o.Units) == 1 {
			word = "oven"
		}
		out = append(out, need{
			Icon: "oven",
			Head: fmt.Sprintf("%d %s at %s °C", len(o.Units), word, o.Celsius.Decimal(0)),
			Says: fmt.Sprintf("on at %s, trays in by %s", v.Fit.At(o.On), v.Fit.At(o.LastTray)),
		})
	}
	const most = 4
	var texts []string
	for _, f := range v.Core.Fetch() {
		if texts = append(texts, f.Says()); len(texts) == most {
			break
		}
	}
	if texts == nil {
		return out
	}
	head, rest := texts[0], texts[1:]
	out = append(out, need{Icon: "scale", Head: head, Says: strings.Join(rest, ", ")})
	if len(v.Swapped) > 0 {
		var lines []string
		for _, s := range v.Swapped {
			lines = append(lines, fmt.Sprintf("%s %s for %s at %s", s.Need.Total, s.Line.Name, s.For, strings.Join(s.Benches, ", ")))
		}
		out = append(out, need{Icon: "care", Head: "Swaps", Lines: lines})
	}
	return out
}
