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

	"freshapron/internal/app/care"

	"github.com/google/uuid"
	lru "github.com/hashicorp/golang-lru/v2"

	"freshapron/internal/app/lessons"
	"freshapron/internal/app/school"
	"freshapron/internal/app/times"
	"freshapron/internal/core/fit"
	"freshapron/internal/core/problem"
	"freshapron/internal/core/staff"
	"freshapron/internal/web/frame"
	"freshapron/internal/web/head"
	"freshapron/internal/web/timeline"
)

//go:embed templates/*.html
var files embed.FS

var templates = frame.Parse(files)

type place struct {
	*frame.Frame
	// Drawn timings. A drawing is a function of its key, so every copy of the
	// program draws the same.
	drawn *lru.Cache[drawing, timingHTML]
}

// A drawing is known by the plan, by the lesson with the words of its dishes,
// and by how it is looked at.
type drawing struct {
	plan   *fit.Plan
	lesson string
	state  state
}

// keptDrawings is how many are kept, at about 60 kB each.
const keptDrawings = 150

// A timingHTML is the picture of a lesson, and the running sheet.
type timingHTML struct{ Picture, Sheet template.HTML }

// timing draws the timing of a lesson, or takes it as it was drawn.
func (p *place) timing(v *lessons.View, s state) (timingHTML, error) {
	key := drawing{v.Plan, v.Key(), s}
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

// Routes are the pages of this place.
func Routes(f *frame.Frame) []frame.Route {
	drawn, err := lru.New[drawing, timingHTML](keptDrawings)
	if err != nil {
		panic(err) // only where the size is not over 0
	}
	p := &place{f, drawn}
	return []frame.Route{
		frame.Get("/lessons/new", staff.Plan, p.blank),
		frame.Post("/lessons", staff.Plan, p.create),
		frame.Keep("/lessons/{id}", staff.Read, p.show),
		frame.Post("/lessons/{id}", staff.Plan, p.change),
		frame.Get("/lessons/{id}/steps", staff.Read, withPlan(p.steps)),
		frame.Get("/lessons/{id}/rescues", staff.Read, withPlan(p.rescue)),
		frame.Get("/lessons/{id}/try", staff.Plan, p.try),
		frame.Post("/lessons/{id}/changes", staff.Plan, p.decide),
		frame.Post("/lessons/{id}/withdraw", staff.Plan, p.withdraw),
		frame.Post("/lessons/{id}/undo", staff.Plan, p.undo),
		frame.Get("/lessons/{id}/print", staff.Read, withPlan(p.print)),
		frame.Get("/lessons/{id}/print/benches", staff.Read, withPlan(p.benches)),
		frame.Get("/lessons/{id}/print/adults", staff.Read, p.paper("Adults", "adults", adultSheets)),
		frame.Get("/lessons/{id}/print/ovens", staff.Read, p.paper("Ovens", "ovens", doorSheets)),
		frame.Get("/lessons/{id}/lesson.json", staff.Read, withPlan(export)),
		frame.Get("/lessons/{id}/plan.json", staff.Read, withPlan(exportPlan)),
		frame.Get("/lessons/{id}/lesson.ics", staff.Read, withPlan(writeCalendar)),
		frame.Get("/files", staff.Read, p.files),
		frame.Get("/files/{file}", staff.Read, p.file),
		frame.Get("/files/{file}/lesson.json", staff.Read, fileLesson),
		frame.Get("/files/{file}/plan.json", staff.Read, filePlan),
		frame.Upload("/files", staff.Plan, p.bring),
	}
}

// posted is the lesson form as it comes in. Remove is the phase that is to go,
// Drop the course.
type posted struct {
	Form, Version, Remove, Drop string
	lessons.Request
}

// request returns what is asked for: without the rows that are to go, and
// without the empty ones that stand at the end of menu and phases.
func (p posted) request() lessons.Request {
	out := p.Request
	out.Phases = nil
	for i, row := range p.Phases {
		blank := strings.TrimSpace(row.Name+row.Minutes) == "" && i == len(p.Phases)-1
		if strconv.Itoa(i) != p.Remove && !blank {
			out.Phases = append(out.Phases, row)
		}
	}
	if p.Menu == nil {
		return out
	}
	out.Menu = []lessons.CourseRequest{}
	for i, row := range p.Menu {
		if row.Dish != "" && strconv.Itoa(i) != p.Drop {
			out.Menu = append(out.Menu, row)
		}
	}
	return out
}

// blank shows the form for a new lesson. Choices may come with the address.
func (p *place) blank(w http.ResponseWriter, r *http.Request) error {
	in := posted{Form: uuid.NewString()}
	in.Date, in.GroupSize = school.In(r.Context()).Today().Format(time.DateOnly), "2"
	if err := frame.Decode(r, &in); err != nil {
		return err
	}
	if in.Room == "" {
		room, err := times.UsualRoom(r.Context())
		if err != nil {
			return err
		}
		in.Room = room
	}
	return p.form(w, r, http.StatusOK, in, nil)
}

func (p *place) form(w http.ResponseWriter, r *http.Request, status int, in posted, problems problem.List) error {
	choices, err := lessons.ToChoose(r.Context())
	if err != nil {
		return err
	}
	data := formOf(choices, in, problems)
	next, err := times.NextFree(r.Context())
	if err != nil {
		return err
	}
	for _, n := range next {
		q := url.Values{"class": {strconv.FormatInt(n.Slot.Class, 10)}, "room": {strconv.FormatInt(n.Slot.Room, 10)}, "period": {strconv.FormatInt(n.Period.ID, 10)}, "date": {n.Date.Format(time.DateOnly)}, "dish": {in.Dish}}
		data.Next = append(data.Next, nextFree{"/lessons/new?" + q.Encode(), n.Class, fmt.Sprintf("%s, %s–%s, %s", n.Date.Format("Mon 2 January"), n.Period.Start, n.Period.End, n.Room)})
	}
	return p.Render(w, r, status, templates, "new", frame.Page{Title: "Plan a lesson", Place: "plan", Data: data})
}

// create plans a lesson and leads to its page.
func (p *place) create(w http.ResponseWriter, r *http.Request) error {
	var in posted
	if err := frame.Decode(r, &in); err != nil {
		return err
	}
	if uuid.Validate(in.Form) != nil {
		in.Form = uuid.NewString()
	}
	id, err := lessons.New(r.Context(), in.request(), in.Form)
	if problems := problem.Of(err); problems != nil {
		return p.form(w, r, http.StatusUnprocessableEntity, in, problems)
	}
	if err != nil {
		return err
	}
	return frame.See(w, r, fmt.Sprintf("/lessons/%d", id))
}

// one loads the lesson of the address.
func one(r *http.Request) (*lessons.View, error) { return lessons.One(r.Context(), frame.ID(r, "id")) }

func (p *place) show(w http.ResponseWriter, r *http.Request) error {
	v, err := one(r)
	if err != nil {
		return err
	}
	return p.page(w, r, http.StatusOK, v, trial{request: lessons.RequestOf(v.Lesson), state: stateOf(r.URL.Query().Get("by"), "")})
}

// A trial is what stands in the form, which may not be what is saved.
type trial struct {
	request  lessons.Request
	problems problem.List
	changed  bool // somebody else has saved meanwhile
	state    state
	decision problem.List // what is wrong with what was decided in the plan
}

func (p *place) page(w http.ResponseWriter, r *http.Request, status int, v *lessons.View, t trial) error {
	ctx := r.Context()
	choices, err := lessons.ToChoose(ctx)
	if err != nil {
		return err
	}
	if t.state.By == "" {
		t.state.By = timeline.ByBench
	}
	mine, err := school.Mine(ctx, v.Class.ID)
	if err != nil {
		return err
	}
	safe, err := care.Safe(ctx, v, mine)
	if err != nil {
		return err
	}
	done, err := lessons.EffectOf(ctx, v)
	if err != nil {
		return err
	}
	halves, err := lessons.HalvesOf(ctx, v.Lesson)
	if err != nil {
		return err
	}
	data := pageOf(v, choices, t, school.May(ctx, staff.Plan), lessons.WantsHelp(ctx, v))
	data.Now = minuteNow(school.In(ctx), v)
	data.Effect, data.Half, data.Sides = effectOf(v, done), halfOf(halves), frame.Sides(v.ID, "Plan", mine)
	if safe != nil {
		data.Verdicts = append(data.Verdicts, verdict{
			Icon: "shield", Light: string(safe.Light), Word: wordFor[safe.Light], Head: safe.Head, Says: safe.Says, Href: fmt.Sprintf("/lessons/%d/safety", v.ID),
		})
	}
	if data.Rescue {
		lessons.Help(ctx, v) // begins while the page is on its way
	}
	if data.Planned {
		if data.Timing, err = p.timing(v, t.state); err != nil {
			return err
		}
	}
	return p.Render(w, r, status, templates, "lesson", frame.Page{Title: head.Title("", v), Place: "lesson", Data: data})
}

// minuteNow is the minute that a lesson of today has reached, counted from the
// door; empty for one of another day.
func minuteNow(s *school.School, v *lessons.View) string {
	if !v.Date.Equal(s.Today()) {
		return ""
	}
	now := s.Local(s.Now())
	minute := float64(now.Hour()*60+now.Minute()) + float64(now.Second())/60 - float64(v.Period.Start)
	return strconv.FormatFloat(minute, 'f', 2, 64)
}

// change saves the form's lesson where it can be planned; otherwise the page
// keeps what was typed beside the plan that still stands.
func (p *place) change(w http.ResponseWriter, r *http.Request) error {
	var in posted
	if err := frame.Decode(r, &in); err != nil {
		return err
	}
	now, err := one(r)
	if err != nil {
		return err
	}
	v, err := lessons.Change(r.Context(), now.ID, in.Version, in.request())
	switch problems := problem.Of(err); {
	case problems != nil:
		return p.page(w, r, http.StatusUnprocessableEntity, now, trial{request: in.request(), problems: problems})
	case errors.Is(err, school.ErrChanged):
		return p.page(w, r, http.StatusConflict, now, trial{request: in.request(), changed: true})
	case err != nil:
		return err
	case r.Header.Get("HX-Request") == "true":
		return p.page(w, r, http.StatusOK, v, trial{request: lessons.RequestOf(v.Lesson)})
	}
	return frame.See(w, r, fmt.Sprintf("/lessons/%d", v.ID))
}

// withPlan is a handler of what needs a plan; where there is none it leads to
// the page that says why.
func withPlan(do func(w http.ResponseWriter, r *http.Request, v *lessons.View) error) frame.Handler {
	return func(w http.ResponseWriter, r *http.Request) error {
		v, err := one(r)
		if err != nil {
			return err
		}
		if v.Problems != nil {
			return frame.See(w, r, fmt.Sprintf("/lessons/%d", v.ID))
		}
		return do(w, r, v)
	}
}

func (p *place) print(w http.ResponseWriter, r *http.Request, v *lessons.View) error {
	return p.Render(w, r, http.StatusOK, templates, "print", frame.Page{Title: head.Title("", v), Data: sheetOf(v)})
}

// fileName is how the files of a lesson are called.
func fileName(v *lessons.View) string { return strings.ToLower(v.Menu[0].Dish.Recipe.ID) }

// export sends the lesson as a lesson file.
func export(w http.ResponseWriter, _ *http.Request, v *lessons.View) error {
	frame.Attach(w, "application/json", fileName(v)+".lesson.json")
	return lessons.WriteFile(w, v.Fit)
}
