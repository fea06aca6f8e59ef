// Package plan is the place where a lesson is planned: its form, its page
// with amounts and timing, and its print-out.
package plan

import (
	"embed"
	"errors"
	"fmt"
	"html/template"
	"net/http"
	"net/url"
	"strconv"
	"strings"
	"time"

	"github.com/go-chi/chi/v5"
	"github.com/go-playground/form/v4"
	"github.com/google/uuid"
	lru "github.com/hashicorp/golang-lru/v2"

	"freshapron/internal/app"
	"freshapron/internal/core/fit"
	"freshapron/internal/core/problem"
	"freshapron/internal/formats/lessonfile"
	"freshapron/internal/store"
	"freshapron/internal/web/frame"
	"freshapron/internal/web/timeline"
)

//go:embed templates/*.html
var files embed.FS

var templates = frame.Parse(files)

type place struct {
	*app.App
	*frame.Frame
	decoder *form.Decoder
	// Drawn timings. A drawing is a function of its key, so every copy of the
	// program draws the same.
	drawn *Drawings
}

// A drawing is known by the plan, by the dish whose words stand beside it, by
// the lesson whose address its links have, and by how it is looked at.
type drawing struct {
	plan         *fit.Plan
	dish, lesson int64
	version      int
	state        state
}

// Drawings are the timings that have been drawn, of all schools.
type Drawings = lru.Cache[drawing, timingHTML]

// Keep returns a place to keep drawings.
func Keep() *Drawings {
	drawn, err := lru.New[drawing, timingHTML](keptDrawings)
	if err != nil {
		panic(err) // only where the size is not over 0
	}
	return drawn
}

// keptDrawings is how many are kept, at about 60 kB each.
const keptDrawings = 150

// A timingHTML is the picture of a lesson, and the running sheet.
type timingHTML struct{ Picture, Sheet template.HTML }

// timing draws the timing of a lesson, or takes it as it was drawn.
func (p *place) timing(v *app.View, s state) (timingHTML, error) {
	key := drawing{v.Plan, v.Dish.ID, v.ID, v.Dish.Version, s}
	if html, ok := p.drawn.Get(key); ok {
		return html, nil
	}
	var html timingHTML
	var err error
	t := timingOf(v, s)
	if html.Picture, err = frame.Fragment(templates, "timing", t); err != nil {
		return html, err
	}
	if html.Sheet, err = frame.Fragment(templates, "sheet", t); err != nil {
		return html, err
	}
	p.drawn.Add(key, html)
	return html, nil
}

// Routes adds the pages of this place.
func Routes(r chi.Router, a *app.App, f *frame.Frame, drawn *Drawings) {
	p := &place{a, f, form.NewDecoder(), drawn}
	p.decoder.SetMaxArraySize(maxRows)
	r.Get("/lessons/new", p.blank)
	r.Post("/lessons", p.create)
	r.Get("/lessons/{id}", p.show)
	r.Post("/lessons/{id}", p.change)
	r.Get("/lessons/{id}/steps", p.steps)
	r.Get("/lessons/{id}/rescues", p.rescue)
	r.Get("/lessons/{id}/try", p.try)
	r.Post("/lessons/{id}/changes", p.decide)
	r.Post("/lessons/{id}/withdraw", p.withdraw)
	r.Post("/lessons/{id}/undo", p.undo)
	r.Get("/lessons/{id}/print", p.print)
	r.Get("/lessons/{id}/print/benches", p.paper("Benches", "benches", benchSheets))
	r.Get("/lessons/{id}/print/adults", p.paper("Adults", "adults", adultSheets))
	r.Get("/lessons/{id}/print/ovens", p.paper("Ovens", "ovens", doorSheets))
	r.Get("/lessons/{id}/lesson.json", p.export)
	r.Get("/lessons/{id}/plan.json", p.exportPlan)
	r.Get("/lessons/{id}/lesson.ics", p.calendar)
	r.Get("/files", p.files)
	r.Get("/files/{file}", p.file)
	r.Get("/files/{file}/lesson.json", p.fileLesson)
	r.Get("/files/{file}/plan.json", p.filePlan)
}

// Uploads adds the pages that take files, for which forms may be larger.
func Uploads(r chi.Router, a *app.App, f *frame.Frame) {
	p := &place{App: a, Frame: f}
	r.Post("/files", p.bring)
}

// maxRows bounds the rows of a form's list.
const maxRows = 60

// posted is the lesson form as it comes in.
type posted struct {
	Form      string `form:"form"`
	Version   string `form:"version"`
	Dish      string `form:"dish"`
	Class     string `form:"class"`
	Room      string `form:"room"`
	Period    string `form:"period"`
	Date      string `form:"date"`
	GroupSize string `form:"group_size"`
	Each      string `form:"each"`
	Demo      string `form:"demo"`
	Spare     string `form:"spare"`
	Remove    string `form:"remove"`
	Phases    []struct {
		Name    string `form:"name"`
		Minutes string `form:"minutes"`
		Place   string `form:"place"`
		Minute  string `form:"minute"`
	} `form:"phases"`
}

func (p posted) request() app.Request {
	r := app.Request{
		Dish: p.Dish, Class: p.Class, Room: p.Room, Period: p.Period, Date: p.Date,
		GroupSize: p.GroupSize, Each: p.Each, Demo: p.Demo, Spare: p.Spare,
	}
	for i, ph := range p.Phases {
		blank := strings.TrimSpace(ph.Name+ph.Minutes) == "" && i == len(p.Phases)-1
		if strconv.Itoa(i) != p.Remove && !blank {
			r.Phases = append(r.Phases, app.PhaseRequest(ph))
		}
	}
	return r
}

func (p *place) read(r *http.Request) (posted, error) {
	var in posted
	if err := r.ParseForm(); err != nil {
		return in, err
	}
	// What does not fit the form's shape is as good as missing.
	_ = p.decoder.Decode(&in, r.PostForm)
	return in, nil
}

// blank shows the form for a new lesson. Choices may come with the address.
func (p *place) blank(w http.ResponseWriter, r *http.Request) {
	q := r.URL.Query()
	in := posted{
		Form: uuid.NewString(), Date: p.Today().Format(time.DateOnly), GroupSize: "2",
		Dish: q.Get("dish"), Class: q.Get("class"), Period: q.Get("period"), Room: q.Get("room"),
	}
	for field, value := range map[*string]string{&in.Date: q.Get("date"), &in.GroupSize: q.Get("group_size")} {
		if value != "" {
			*field = value
		}
	}
	if in.Room == "" {
		room, err := p.UsualRoom(r.Context())
		if err != nil {
			p.Error(w, r, err)
			return
		}
		in.Room = room
	}
	p.form(w, r, http.StatusOK, in, nil)
}

func (p *place) form(w http.ResponseWriter, r *http.Request, status int, in posted, problems problem.List) {
	choices, err := p.Choices(r.Context())
	if err != nil {
		p.Error(w, r, err)
		return
	}
	data := formOf(choices, in, problems)
	next, err := p.NextFree(r.Context())
	if err != nil {
		p.Error(w, r, err)
		return
	}
	for _, n := range next {
		q := url.Values{"class": {strconv.FormatInt(n.Slot.Class, 10)}, "room": {strconv.FormatInt(n.Slot.Room, 10)}, "period": {strconv.FormatInt(n.Period.ID, 10)}, "date": {n.Date.Format(time.DateOnly)}, "dish": {in.Dish}}
		data.Next = append(data.Next, nextFree{"/lessons/new?" + q.Encode(), n.Class, fmt.Sprintf("%s, %s–%s, %s", n.Date.Format("Mon 2 January"), n.Period.Start, n.Period.End, n.Room)})
	}
	p.Render(w, r, status, templates, "new", frame.Page{Title: "Plan a lesson", Place: "plan", Data: data})
}

// create plans a lesson and leads to its page.
func (p *place) create(w http.ResponseWriter, r *http.Request) {
	in, err := p.read(r)
	if err != nil {
		p.Error(w, r, err)
		return
	}
	if uuid.Validate(in.Form) != nil {
		in.Form = uuid.NewString()
	}
	id, err := p.New(r.Context(), in.request(), in.Form)
	var problems problem.List
	switch {
	case errors.As(err, &problems):
		p.form(w, r, http.StatusUnprocessableEntity, in, problems)
	case err != nil:
		p.Error(w, r, err)
	default:
		http.Redirect(w, r, fmt.Sprintf("/lessons/%d", id), http.StatusSeeOther)
	}
}

// lesson loads the lesson of the address, or answers that there is none.
func (p *place) lesson(w http.ResponseWriter, r *http.Request) (*app.View, bool) {
	id, err := strconv.ParseInt(chi.URLParam(r, "id"), 10, 64)
	if err != nil {
		p.NotFound(w, r)
		return nil, false
	}
	v, err := p.Lesson(r.Context(), id)
	if err != nil {
		p.Error(w, r, err)
		return nil, false
	}
	return v, true
}

func (p *place) show(w http.ResponseWriter, r *http.Request) {
	if v, ok := p.lesson(w, r); ok {
		s := stateOf(r.URL.Query().Get("by"), "")
		p.page(w, r, http.StatusOK, v, trial{request: app.RequestOf(v.Lesson), state: s})
	}
}

// A trial is what stands in the form, which may not be what is saved.
type trial struct {
	request  app.Request
	problems problem.List
	changed  bool // somebody else has saved meanwhile
	state    state
	decision problem.List // what is wrong with what was decided in the plan
}

func (p *place) page(w http.ResponseWriter, r *http.Request, status int, v *app.View, t trial) {
	choices, err := p.Choices(r.Context())
	if err != nil {
		p.Error(w, r, err)
		return
	}
	if t.state.By == "" {
		t.state.By = timeline.ByBench
	}
	data := pageOf(v, choices, t)
	safe, err := p.Safe(r.Context(), v)
	if err != nil {
		p.Error(w, r, err)
		return
	}
	mine, err := p.Mine(r.Context(), v.Class.ID)
	if err != nil {
		p.Error(w, r, err)
		return
	}
	data.Sides = frame.Sides(v.ID, "Plan", mine)
	if safe != nil {
		data.Verdicts = append(data.Verdicts, verdict{
			Icon: "shield", Light: string(safe.Light), Word: wordFor[safe.Light], Head: safe.Head, Says: safe.Says, Href: fmt.Sprintf("/lessons/%d/safety", v.ID),
		})
	}
	if data.Rescue {
		p.Rescues(v) // begins while the page is on its way
	}
	if data.Planned {
		if data.Timing, err = p.timing(v, t.state); err != nil {
			p.Error(w, r, err)
			return
		}
	}
	p.Render(w, r, status, templates, "lesson", frame.Page{Title: v.Dish.Title + ", " + v.Class.Name, Place: "lesson", Data: data})
}

// change saves the form's lesson where it can be planned; otherwise the page
// keeps what was typed beside the plan that still stands.
func (p *place) change(w http.ResponseWriter, r *http.Request) {
	in, err := p.read(r)
	if err != nil {
		p.Error(w, r, err)
		return
	}
	now, ok := p.lesson(w, r)
	if !ok {
		return
	}
	v, err := p.Change(r.Context(), now.ID, in.Version, in.request())
	var problems problem.List
	switch {
	case errors.As(err, &problems):
		p.page(w, r, http.StatusUnprocessableEntity, now, trial{request: in.request(), problems: problems})
	case errors.Is(err, store.ErrChanged):
		p.page(w, r, http.StatusConflict, now, trial{request: in.request(), changed: true})
	case err != nil:
		p.Error(w, r, err)
	case r.Header.Get("HX-Request") == "true":
		p.page(w, r, http.StatusOK, v, trial{request: app.RequestOf(v.Lesson)})
	default:
		http.Redirect(w, r, fmt.Sprintf("/lessons/%d", v.ID), http.StatusSeeOther)
	}
}

// planned loads the lesson of the address for what needs a plan; where there
// is none it leads to the page that says why.
func (p *place) planned(w http.ResponseWriter, r *http.Request) (*app.View, bool) {
	v, ok := p.lesson(w, r)
	if ok && v.Problems != nil {
		http.Redirect(w, r, fmt.Sprintf("/lessons/%d", v.ID), http.StatusSeeOther)
		return nil, false
	}
	return v, ok
}

func (p *place) print(w http.ResponseWriter, r *http.Request) {
	if v, ok := p.planned(w, r); ok {
		p.Render(w, r, http.StatusOK, templates, "print", frame.Page{
			Title: v.Dish.Title + ", " + v.Class.Name, Data: sheetOf(v),
		})
	}
}

// export sends the lesson as a lesson file.
func (p *place) export(w http.ResponseWriter, r *http.Request) {
	v, ok := p.planned(w, r)
	if !ok {
		return
	}
	attach(w, "application/json", strings.ToLower(v.Dish.Recipe.ID)+".lesson.json")
	_ = lessonfile.WriteLesson(w, v.Fit)
}
