// Package times is the place of the school's time: terms and days off, the
// periods of each day, and the week of each class.
package times

import (
	"embed"
	"errors"
	"fmt"
	"mime"
	"net/http"
	"net/url"
	"strconv"
	"time"

	"github.com/go-chi/chi/v5"

	"freshapron/internal/app"
	"freshapron/internal/core/problem"
	"freshapron/internal/core/staff"
	"freshapron/internal/core/term"
	"freshapron/internal/formats/table"
	"freshapron/internal/formats/timetable"
	"freshapron/internal/web/frame"
)

//go:embed templates/*.html
var files embed.FS

var templates = frame.Parse(files)

type place struct {
	*app.App
	*frame.Frame
}

// Routes adds the pages of this place.
func Routes(r chi.Router, a *app.App, f *frame.Frame) {
	p := &place{a, f}
	r.Get("/times", p.show)
	r.Post("/times/terms", p.addTerm)
	r.Post("/times/terms/remove", p.removeTerm)
	r.Post("/times/periods", p.savePeriod)
	r.Post("/times/slots", p.addSlot)
	r.Post("/times/slots/remove", p.removeSlot)
	r.Get("/times/timetable.ics", p.calendar)
	r.Get("/times/timetable.csv", p.table)
}

// Uploads adds the page that takes timetables.
func Uploads(r chi.Router, a *app.App, f *frame.Frame) {
	p := &place{a, f}
	r.Post("/times/bring", p.bring)
}

type page struct {
	Terms    []termRow
	Periods  []periodRow
	Days     []frame.Option
	Week     []weekRow
	DayNames []string
	Says     string
	Problem  string
	May      bool
	Term     app.TermForm
	Period   app.PeriodForm
	Classes  []frame.Option
	Rooms    []frame.Option
	Which    []frame.Option
	Text     string
	Overlaps []string
}

type termRow struct {
	ID         int64
	Name, When string
	Off        bool
}

type periodRow struct {
	ID                     int64
	Name, Start, End, Says string
	Days                   []frame.Option
}

type weekRow struct {
	Period, When string
	Days         [][]slot
}

type slot struct {
	ID          int64
	Class, Room string
}

type form struct {
	problem string
	status  int
	term    app.TermForm
	period  app.PeriodForm
	text    string
}

func (p *place) show(w http.ResponseWriter, r *http.Request) {
	p.page(w, r, form{status: http.StatusOK})
}

func dayOptions(set term.Days, prefix string) []frame.Option {
	var out []frame.Option
	for i, n := range term.Names {
		out = append(out, frame.Option{Value: strconv.Itoa(i), Label: n[:3], ID: fmt.Sprintf("%s-%d", prefix, i), Chosen: set.Has(term.Weekday(i))})
	}
	return out
}

func (p *place) page(w http.ResponseWriter, r *http.Request, f form) {
	t, err := p.Timetable(r.Context())
	if err != nil {
		p.Error(w, r, err)
		return
	}
	data := page{Says: r.URL.Query().Get("did"), Problem: f.problem, May: app.May(r.Context(), staff.Arrange), Term: f.term, Period: f.period, Text: f.text, DayNames: term.Names[:5]}
	for _, s := range t.Terms {
		data.Terms = append(data.Terms, termRow{s.ID, s.Name, s.First.Format("Mon 2 January 2006") + " – " + s.Last.Format("Mon 2 January 2006"), s.Off})
	}
	weekend := false
	for _, s := range t.Slots {
		weekend = weekend || s.Day > 4
	}
	if weekend {
		data.DayNames = term.Names
	}
	for _, x := range t.Periods {
		n := strconv.FormatInt(x.ID, 10)
		row := periodRow{ID: x.ID, Name: x.Name, Start: x.Start.String(), End: x.End.String(), Says: x.Days.Says(), Days: dayOptions(x.Days, "days-"+n)}
		data.Periods = append(data.Periods, row)
		data.Which = append(data.Which, frame.Option{Value: n, Label: fmt.Sprintf("%s, %s–%s", x.Name, x.Start, x.End)})
		week := weekRow{Period: x.Name, When: fmt.Sprintf("%s–%s", x.Start, x.End), Days: make([][]slot, len(data.DayNames))}
		used := false
		for _, s := range t.Slots {
			if s.Period == x.ID && int(s.Day) < len(week.Days) {
				week.Days[s.Day] = append(week.Days[s.Day], slot{s.ID, t.ClassName(s.Class), t.RoomName(s.Room)})
				used = true
			}
		}
		if used {
			data.Week = append(data.Week, week)
		}
	}
	for _, c := range t.Classes {
		data.Classes = append(data.Classes, frame.Option{Value: strconv.FormatInt(c.ID, 10), Label: c.Name})
	}
	for _, c := range t.Rooms {
		data.Rooms = append(data.Rooms, frame.Option{Value: strconv.FormatInt(c.ID, 10), Label: c.Name})
	}
	data.Overlaps = term.Overlaps(t.Periods)
	data.Days = dayOptions(term.SchoolDays, "days")
	p.Render(w, r, f.status, templates, "times", frame.Page{Title: "Times", Place: "times", Data: data})
}

// answer leads back to the page, or shows what was wrong with what was typed.
func (p *place) answer(w http.ResponseWriter, r *http.Request, err error, did string, f form) {
	var problems problem.List
	switch {
	case err == nil:
		http.Redirect(w, r, "/times?did="+url.QueryEscape(did), http.StatusSeeOther)
	case errors.As(err, &problems):
		f.problem, f.status = problem.Sentence(problems[0].Says), http.StatusUnprocessableEntity
		p.page(w, r, f)
	default:
		p.Error(w, r, err)
	}
}

func (p *place) addTerm(w http.ResponseWriter, r *http.Request) {
	in := app.TermForm{Name: r.PostFormValue("name"), First: r.PostFormValue("first"), Last: r.PostFormValue("last"), Off: r.PostFormValue("off") != ""}
	p.answer(w, r, p.AddTerm(r.Context(), in), in.Name+" is added.", form{term: in})
}

func number(r *http.Request, name string) int64 {
	n, _ := strconv.ParseInt(r.PostFormValue(name), 10, 64)
	return n
}

func (p *place) removeTerm(w http.ResponseWriter, r *http.Request) {
	p.answer(w, r, p.App.School.RemoveTerm(r.Context(), number(r, "term")), "It is taken away.", form{})
}

func (p *place) savePeriod(w http.ResponseWriter, r *http.Request) {
	if !p.Parsed(w, r) {
		return
	}
	in := app.PeriodForm{ID: r.PostFormValue("id"), Name: r.PostFormValue("name"), Start: r.PostFormValue("start"), End: r.PostFormValue("end"), Days: r.PostForm["day"]}
	p.answer(w, r, p.SavePeriod(r.Context(), in), in.Name+" is saved.", form{period: in})
}

func (p *place) addSlot(w http.ResponseWriter, r *http.Request) {
	in := app.SlotForm{Class: r.PostFormValue("class"), Room: r.PostFormValue("room"), Period: r.PostFormValue("period"), Day: r.PostFormValue("day")}
	p.answer(w, r, p.AddSlot(r.Context(), in), "It is in the week.", form{})
}

func (p *place) removeSlot(w http.ResponseWriter, r *http.Request) {
	p.answer(w, r, p.App.School.RemoveSlot(r.Context(), number(r, "slot")), "It is out of the week.", form{})
}

func (p *place) bring(w http.ResponseWriter, r *http.Request) {
	text, data, err := frame.Upload(r)
	if err != nil {
		p.Error(w, r, err)
		return
	}
	did, err := p.BringTimetable(r.Context(), data)
	p.answer(w, r, err, did, form{text: text})
}

func (p *place) calendar(w http.ResponseWriter, r *http.Request) {
	t, err := p.Timetable(r.Context())
	if err != nil {
		p.Error(w, r, err)
		return
	}
	from := p.Today()
	for _, s := range t.Terms {
		if !s.Off && !s.Last.Before(p.Today()) && s.First.Before(from) {
			from = s.First
		}
	}
	w.Header().Set("Content-Type", "text/calendar; charset=utf-8")
	w.Header().Set("Content-Disposition", mime.FormatMediaType("attachment", map[string]string{"filename": "timetable.ics"}))
	_ = timetable.Write(w, t.Lessons(), t.Spans(), from, p.Now().Truncate(time.Second), p.App.School.Location)
}

func (p *place) table(w http.ResponseWriter, r *http.Request) {
	t, err := p.Timetable(r.Context())
	if err != nil {
		p.Error(w, r, err)
		return
	}
	w.Header().Set("Content-Type", "text/csv; charset=utf-8")
	w.Header().Set("Content-Disposition", mime.FormatMediaType("attachment", map[string]string{"filename": "timetable.csv"}))
	_ = table.WriteCSV(w, timetable.Rows(t.Lessons(), t.Spans()))
}
