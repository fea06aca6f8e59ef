// Package times is the place of the school's time: terms and days off, the
// periods of each day, and the week of each class.
package times

import (
	"embed"
	"errors"
	"fmt"
	"net/http"
	"net/url"
	"strconv"

	"freshapron/internal/app/times"

	"freshapron/internal/app/school"
	"freshapron/internal/core/problem"
	"freshapron/internal/core/staff"
	"freshapron/internal/core/term"
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
		frame.Get("/times", staff.Read, p.show),
		frame.Post("/times/terms", staff.Arrange, p.addTerm),
		frame.Post("/times/terms/remove", staff.Arrange, p.removeTerm),
		frame.Post("/times/periods", staff.Arrange, p.savePeriod),
		frame.Post("/times/slots", staff.Arrange, p.addSlot),
		frame.Post("/times/slots/remove", staff.Arrange, p.removeSlot),
		frame.Get("/times/timetable.ics", staff.Read, p.calendar),
		frame.Get("/times/timetable.csv", staff.Read, p.table),
		frame.Upload("/times/bring", staff.Arrange, p.bring),
	}
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
	Term     times.TermForm
	Period   times.PeriodForm
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
	term    times.TermForm
	period  times.PeriodForm
	text    string
}

func (p *place) show(w http.ResponseWriter, r *http.Request) error {
	return p.page(w, r, form{status: http.StatusOK})
}

func dayOptions(set term.Days, prefix string) []frame.Option {
	var out []frame.Option
	for i, n := range term.Names {
		out = append(out, frame.Option{Value: strconv.Itoa(i), Label: n[:3], ID: fmt.Sprintf("%s-%d", prefix, i), Chosen: set.Has(term.Weekday(i))})
	}
	return out
}

func (p *place) page(w http.ResponseWriter, r *http.Request, f form) error {
	t, err := times.All(r.Context())
	if err != nil {
		return err
	}
	data := page{Says: r.URL.Query().Get("did"), Problem: f.problem, May: school.May(r.Context(), staff.Arrange), Term: f.term, Period: f.period, Text: f.text, DayNames: term.Names[:5]}
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
	return p.Render(w, r, f.status, templates, "times", frame.Page{Title: "Times", Place: "times", Data: data})
}

// answer leads back to the page, or shows what was wrong with what was typed.
func (p *place) answer(w http.ResponseWriter, r *http.Request, err error, did string, f form) error {
	var problems problem.List
	switch {
	case err == nil:
		return frame.See(w, r, "/times?did="+url.QueryEscape(did))
	case errors.As(err, &problems):
		f.problem, f.status = problem.Sentence(problems[0].Says), http.StatusUnprocessableEntity
		return p.page(w, r, f)
	default:
		return err
	}
}

func (p *place) addTerm(w http.ResponseWriter, r *http.Request) error {
	var in times.TermForm
	if err := frame.Decode(r, &in); err != nil {
		return err
	}
	return p.answer(w, r, times.AddTerm(r.Context(), in), in.Name+" is added.", form{term: in})
}

// A chosen is what is to be taken away.
type chosen struct{ Term, Slot int64 }

func (p *place) removeTerm(w http.ResponseWriter, r *http.Request) error {
	var in chosen
	if err := frame.Decode(r, &in); err != nil {
		return err
	}
	return p.answer(w, r, times.RemoveTerm(r.Context(), in.Term), "It is taken away.", form{})
}

func (p *place) savePeriod(w http.ResponseWriter, r *http.Request) error {
	var in times.PeriodForm
	if err := frame.Decode(r, &in); err != nil {
		return err
	}
	return p.answer(w, r, times.SavePeriod(r.Context(), in), in.Name+" is saved.", form{period: in})
}

func (p *place) addSlot(w http.ResponseWriter, r *http.Request) error {
	var in times.SlotForm
	if err := frame.Decode(r, &in); err != nil {
		return err
	}
	return p.answer(w, r, times.AddSlot(r.Context(), in), "It is in the week.", form{})
}

func (p *place) removeSlot(w http.ResponseWriter, r *http.Request) error {
	var in chosen
	if err := frame.Decode(r, &in); err != nil {
		return err
	}
	return p.answer(w, r, times.RemoveSlot(r.Context(), in.Slot), "It is out of the week.", form{})
}

func (p *place) bring(w http.ResponseWriter, r *http.Request) error {
	text, data, err := frame.Uploaded(r)
	if err != nil {
		return err
	}
	did, err := times.Bring(r.Context(), data)
	return p.answer(w, r, err, did, form{text: text})
}

func (p *place) calendar(w http.ResponseWriter, r *http.Request) error {
	frame.Attach(w, "text/calendar; charset=utf-8", "timetable.ics")
	return times.WriteCalendar(r.Context(), w)
}

func (p *place) table(w http.ResponseWriter, r *http.Request) error {
	frame.Attach(w, "text/csv; charset=utf-8", "timetable.csv")
	return times.WriteTable(r.Context(), w)
}
