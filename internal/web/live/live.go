// Package live is the place where lessons run: the desk, the wall, the walk, the
// screens at the benches, and what came of it.
package live

import (
	"context"
	"embed"
	"encoding/json"
	"errors"
	"fmt"
	"html/template"
	"io"
	"net/http"
	"slices"
	"strconv"
	"strings"
	"time"

	"github.com/go-chi/chi/v5"
	"github.com/google/uuid"

	"freshapron/internal/app/lessons"
	"freshapron/internal/app/live"
	"freshapron/internal/app/school"
	core "freshapron/internal/core/live"
	"freshapron/internal/core/problem"
	"freshapron/internal/core/staff"
	"freshapron/internal/core/typed"
	"freshapron/internal/core/words"
	"freshapron/internal/web/frame"
	"freshapron/internal/web/head"
)

//go:embed templates/*.html
var files embed.FS

var templates = frame.Parse(files)

type place struct{ *frame.Frame }

// Routes are the pages of this place.
func Routes(f *frame.Frame) []frame.Route {
	p := &place{f}
	stream := func(path string, do frame.Handler) frame.Route {
		return frame.Route{Method: http.MethodGet, Path: path, Action: staff.Read, Kind: frame.Streams, Do: do}
	}
	return []frame.Route{
		frame.Get("/lessons/{id}/teach", staff.Read, p.desk),
		frame.Post("/lessons/{id}/begin", staff.Teach, p.begin),
		frame.Upload("/lessons/{id}/rehearse", staff.Teach, p.bring),
		frame.Post("/lessons/{id}/tell", staff.Prepare, p.tell),
		frame.Post("/lessons/{id}/replan", staff.Teach, p.replan),
		frame.Get("/lessons/{id}/from-now", staff.Teach, p.rescues),
		frame.Post("/lessons/{id}/from-now", staff.Teach, p.decide),
		frame.Post("/lessons/{id}/screens", staff.Teach, p.screens),
		frame.Get("/lessons/{id}/wall", staff.Read, p.wall),
		frame.Get("/lessons/{id}/show", staff.Read, p.show),
		frame.Post("/lessons/{id}/ask", staff.Teach, p.ask),
		frame.Get("/lessons/{id}/walk", staff.Read, p.walk),
		frame.Get("/lessons/{id}/after", staff.Read, p.after),
		frame.Get("/lessons/{id}/pictures/{picture}", staff.Read, p.picture),
		frame.Get("/lessons/{id}/events.jsonl", staff.Read, p.events),
		stream("/lessons/{id}/live/{view}", p.stream),
	}
}

// page is what every screen of a lesson that runs has.
type page struct {
	head.Top
	Stream  string
	Live    template.HTML
	Failed  string
	None    bool // it has not begun
	Real    bool // it has begun for real
	MayRun  bool
	Begin   beginForm
	Mishaps []mishap
}

// A beginForm is how a lesson is to be rehearsed, as it was typed.
type beginForm struct{ How, Speed, Seed, Mishap string }

// rehearsal reads the form; nil where the lesson is to begin for real.
func (f beginForm) rehearsal() (*live.Rehearsal, error) {
	if f.How != "rehearse" {
		return nil, nil
	}
	var in typed.Form
	out := &live.Rehearsal{Mishap: f.Mishap}
	var err error
	if out.Speed, err = strconv.ParseFloat(strings.TrimSpace(f.Speed), 64); err != nil || !(out.Speed >= 1 && out.Speed <= 60) {
		in.Add("speed", "Times the clock: “%s” is no number from 1 to 60", words.Short(f.Speed))
	}
	if out.Seed, err = strconv.ParseUint(strings.TrimSpace(f.Seed), 10, 64); err != nil {
		in.Add("seed", "Which class: “%s” is no whole number", words.Short(f.Seed))
	}
	if f.Mishap != "" && !slices.Contains(core.Mishaps, f.Mishap) {
		in.Add("mishap", "“%s” is nothing that can go wrong in a rehearsal", words.Short(f.Mishap))
	}
	return out, in.Problems.Err()
}

// A mishap is what can be made to go wrong in a rehearsal.
type mishap struct{ Kind, Says string }

func mishaps() []mishap {
	says := map[string]string{"late": "the class comes late", "oven": "an oven fails", "adult": "an adult is called out", "burn": "somebody gets a burn", "gone": "a learner leaves", "slow": "one bench is slow"}
	var out []mishap
	for _, kind := range core.Mishaps {
		out = append(out, mishap{kind, says[kind]})
	}
	return out
}

var views = map[string]string{"desk": "desk-live", "wall": "wall-live", "walk": "walk-live"}

func (p *place) desk(w http.ResponseWriter, r *http.Request) error {
	return p.screen(w, r, "desk", nil)
}

func (p *place) wall(w http.ResponseWriter, r *http.Request) error {
	return p.screen(w, r, "wall", nil)
}

func (p *place) walk(w http.ResponseWriter, r *http.Request) error {
	return p.screen(w, r, "walk", nil)
}

// firstClass is how a lesson is rehearsed where nobody says otherwise.
var firstClass = beginForm{Speed: "10", Seed: "1"}

// screen draws one of the screens of those who teach, with what has failed.
func (p *place) screen(w http.ResponseWriter, r *http.Request, view string, failed error) error {
	return p.screenWith(w, r, view, firstClass, failed)
}

func (p *place) screenWith(w http.ResponseWriter, r *http.Request, view string, form beginForm, failed error) error {
	ctx := r.Context()
	v, err := lessons.One(ctx, frame.ID(r, "id"))
	if err != nil {
		return err
	}
	mine, err := school.Mine(ctx, v.Class.ID)
	if err != nil {
		return err
	}
	m := page{Top: head.TopOf(r, v, "Teach", "Teach", "", mine), MayRun: school.May(ctx, staff.Teach), Begin: form, Mishaps: mishaps(), Stream: fmt.Sprintf("/lessons/%d/live/%s", v.ID, view)}
	status := http.StatusOK
	switch problems := problem.Of(failed); {
	case problems != nil:
		status, m.Failed = http.StatusUnprocessableEntity, failure(problems)
	case failed != nil:
		return failed
	}
	run, err := live.Of(ctx, v.ID)
	switch {
	case errors.Is(err, school.ErrNotFound):
		m.None = true
	case err != nil:
		return err
	default:
		m.Real = run.Rehearsal == nil
		if m.Live, err = p.part(r, run, view); err != nil {
			return err
		}
	}
	return p.Render(w, r, status, templates, view, frame.Page{Title: head.Title("Teach", v), Place: "teach", Data: m})
}

// failure says the first of what is wrong, with its place in a file, and how much else.
func failure(problems problem.List) string {
	says := problem.Sentence(problems[0].Says)
	if where := problems[0].Path; strings.HasPrefix(where, "line ") || strings.HasPrefix(where, "event ") {
		says = words.Capital(where) + ": " + says
	}
	if more := len(problems) - 1; more > 0 {
		says += fmt.Sprintf(" And %s more.", words.Plural(more, "thing", "things"))
	}
	return says
}

// part draws what changes of a screen while the lesson runs.
func (p *place) part(r *http.Request, run *live.Run, view string) (template.HTML, error) {
	m, err := modelOf(r, run)
	if err != nil {
		return "", err
	}
	return frame.Fragment(templates, views[view], m)
}

func (p *place) begin(w http.ResponseWriter, r *http.Request) error {
	if err := frame.ParseForm(r); err != nil {
		return err
	}
	id := frame.ID(r, "id")
	form := beginForm{r.PostFormValue("how"), r.PostFormValue("speed"), r.PostFormValue("seed"), r.PostFormValue("mishap")}
	rehearsal, err := form.rehearsal()
	if err == nil {
		_, err = live.Begin(r.Context(), id, rehearsal)
	}
	if err != nil {
		return p.screenWith(w, r, "desk", form, err)
	}
	return frame.See(w, r, fmt.Sprintf("/lessons/%d/teach", id))
}

// bring rehearses a lesson with events from a file.
func (p *place) bring(w http.ResponseWriter, r *http.Request) error {
	_, data, err := frame.Uploaded(r)
	if err != nil {
		return p.screen(w, r, "desk", err)
	}
	id := frame.ID(r, "id")
	events, err := live.Brought(r.Context(), id, string(data))
	if err == nil {
		_, err = live.Begin(r.Context(), id, &live.Rehearsal{Speed: 1, Events: events})
	}
	if err != nil {
		return p.screen(w, r, "desk", err)
	}
	return frame.See(w, r, fmt.Sprintf("/lessons/%d/teach", id))
}

// said is an event as screens send it.
type said struct {
	ID        string    `json:"id"`
	Kind      core.Kind `json:"kind"`
	Bench     string    `json:"bench"`
	Dish      string    `json:"dish"`
	Step      string    `json:"step"`
	Equipment string    `json:"equipment"`
	Unit      string    `json:"unit"`
	Minutes   float64   `json:"minutes"`
	Celsius   float64   `json:"celsius"`
	Number    int       `json:"number"`
	Says      string    `json:"says"`
	Done      string    `json:"done"`
	Of        string    `json:"of"`
	SaidAt    time.Time `json:"said_at"`
}

func (s said) event() live.Said {
	return live.Said{ID: s.ID, Kind: s.Kind, SaidAt: s.SaidAt, Event: core.Event{Bench: s.Bench, Dish: s.Dish, Step: s.Step, Equipment: s.Equipment, Unit: s.Unit, Minutes: s.Minutes, Celsius: s.Celsius,
		Number: s.Number, Says: short(s.Says), Done: short(s.Done), Of: s.Of}}
}

// longest is how much somebody can write about an event.
const longest = 200

func short(text string) string {
	text = strings.Join(strings.Fields(text), " ")
	if runes := []rune(text); len(runes) > longest {
		return string(runes[:longest])
	}
	return text
}

// read reads what a screen says: JSON of several events, or a form of one.
func read(r *http.Request) (list []live.Said, form bool, err error) {
	if strings.HasPrefix(r.Header.Get("Content-Type"), "application/json") {
		var in []said
		if err := json.NewDecoder(r.Body).Decode(&in); err != nil {
			return nil, false, problem.New("events", "this is no list of events")
		}
		for _, s := range in {
			list = append(list, s.event())
		}
		return list, false, nil
	}
	if err := frame.ParseForm(r); err != nil {
		return nil, true, err
	}
	v := r.PostForm
	var in typed.Form
	number := func(name string) float64 {
		text := strings.TrimSpace(v.Get(name))
		if !v.Has(name) {
			return 0
		}
		f, err := strconv.ParseFloat(strings.ReplaceAll(text, ",", "."), 64)
		if err != nil {
			in.Add(name, "“%s” is no number", words.Short(text))
		}
		return f
	}
	equipment, unit, _ := strings.Cut(v.Get("unit"), "/")
	if unit == "" {
		equipment, unit = v.Get("equipment"), v.Get("unit")
	}
	s := said{ID: v.Get("id"), Kind: core.Kind(v.Get("kind")), Bench: v.Get("bench"), Dish: v.Get("dish"), Step: v.Get("step"), Equipment: equipment, Unit: unit, Minutes: number("minutes"), Celsius: number("celsius"),
		Number: int(number("number")), Says: v.Get("says"), Done: v.Get("done"), Of: v.Get("of")}
	if s.ID == "" {
		s.ID = uuid.NewString()
	}
	return []live.Said{s.event()}, true, in.Problems.Err()
}

// led are the events by which a lesson is led: those who help don't say them.
var led = []core.Kind{core.Opened, core.Closed, core.Held, core.Skipped, core.Checkpoint, core.Undone}

// tell keeps what those who teach say.
func (p *place) tell(w http.ResponseWriter, r *http.Request) error {
	list, form, err := read(r)
	if problem.Of(err) != nil && form {
		return p.screen(w, r, viewOf(r), err)
	}
	if err != nil {
		return err
	}
	id := frame.ID(r, "id")
	run, err := live.Of(r.Context(), id)
	if err != nil {
		return err
	}
	for _, s := range list {
		if s.Kind == core.Replanned {
			return problem.New("kind", "a plan is taken where it is offered")
		}
		if slices.Contains(led, s.Kind) && !school.May(r.Context(), staff.Teach) {
			p.Forbidden(w, r)
			return nil
		}
	}
	err = live.Tell(r.Context(), run, school.Acting(r.Context()).Name, list)
	if !form {
		return answer(w, err)
	}
	view := viewOf(r)
	if err != nil {
		return p.screen(w, r, view, err)
	}
	if view == "desk" {
		view = "teach"
	}
	return frame.See(w, r, fmt.Sprintf("/lessons/%d/%s", id, view))
}

// viewOf is the screen from which a form was sent.
func viewOf(r *http.Request) string {
	if view := r.PostFormValue("view"); views[view] != "" {
		return view
	}
	return "desk"
}

// answer answers a machine: quietly, with what was wrong where something was.
func answer(w http.ResponseWriter, err error) error {
	problems := problem.Of(err)
	if err != nil && problems == nil {
		return err
	}
	if problems == nil {
		w.WriteHeader(http.StatusNoContent)
		return nil
	}
	w.Header().Set("Content-Type", "application/json")
	w.WriteHeader(http.StatusUnprocessableEntity)
	return json.NewEncoder(w).Encode(problems)
}

func (p *place) replan(w http.ResponseWriter, r *http.Request) error {
	id := frame.ID(r, "id")
	run, err := live.Of(r.Context(), id)
	if err != nil {
		return err
	}
	if err := live.Take(r.Context(), run); err != nil {
		return p.screen(w, r, "desk", err)
	}
	return frame.See(w, r, fmt.Sprintf("/lessons/%d/teach", id))
}

func (p *place) screens(w http.ResponseWriter, r *http.Request) error {
	if err := frame.ParseForm(r); err != nil {
		return err
	}
	id := frame.ID(r, "id")
	run, err := live.Of(r.Context(), id)
	if err != nil {
		return err
	}
	bench := r.PostFormValue("bench")
	switch do := r.PostFormValue("do"); do {
	case "show":
		err = live.Show(r.Context(), run.ID, bench, r.PostForm["way"])
	default:
		err = live.PutOut(r.Context(), run.ID, bench, do == "shut")
	}
	if err != nil {
		return err
	}
	return frame.See(w, r, fmt.Sprintf("/lessons/%d/teach#screens", id))
}

// beat is after how long a screen is told again: it shows how old it is when it hears
// nothing for longer.
const beat = 5 * time.Second

// stream sends a screen what has changed, when something happens and as time goes on.
// When the lesson begins, or begins anew, the page is another: the screen is told so.
func (p *place) stream(w http.ResponseWriter, r *http.Request) error {
	ctx := r.Context()
	view := chi.URLParam(r, "view")
	if _, ok := views[view]; !ok {
		return school.ErrNotFound
	}
	id := frame.ID(r, "id")
	if _, err := lessons.One(ctx, id); err != nil {
		return err
	}
	run, err := live.Of(ctx, id)
	if err != nil && !errors.Is(err, school.ErrNotFound) {
		return err
	}
	about, shown := []string{live.Begins(id)}, int64(0)
	tell := func(io.Writer) error { return nil }
	if run != nil {
		shown = run.ID
		about = append(about, live.News(run.ID))
		whose := fmt.Sprint(view, school.May(ctx, staff.Teach), school.May(ctx, staff.Prepare))
		what := func() (string, error) {
			if view != "desk" {
				return whose, nil
			}
			screens, err := live.Screens(ctx, run.ID) // which are no events, by which a moment is known
			return fmt.Sprint(whose, screens), err
		}
		tell = screenOf(ctx, run.ID, what, func(run *live.Run) (template.HTML, error) { return p.part(r, run, view) })
	}
	heard, stop := school.In(ctx).Watch(about...)
	defer stop()
	return frame.Feed{Heard: heard, Beat: beat, May: func() bool { return p.StillIn(r) }, Send: func(to io.Writer, about string) error {
		if about == "" && live.Another(ctx, id, shown) { // of which the news may have been missed
			about = live.Begins(id)
		}
		if about == live.Begins(id) {
			_, err := io.WriteString(to, "event: begun\ndata: {}\n\n")
			return err
		}
		return tell(to)
	}}.Tell(w, r)
}

// screenOf tells a screen how its run stands, with what it shows where that has changed.
// Screens that show the same of one moment, by what names it, are drawn once.
func screenOf(ctx context.Context, run int64, what func() (string, error), draw func(*live.Run) (template.HTML, error)) func(to io.Writer) error {
	last := ""
	return func(to io.Writer) error {
		now, moment, err := live.Shared(ctx, run)
		if err != nil {
			return err
		}
		shows, err := what()
		if err != nil {
			return err
		}
		html, err := live.Drawn(ctx, moment, shows, func() (template.HTML, error) { return draw(now) })
		if err != nil {
			return err
		}
		message := map[string]any{"minute": now.State.Now, "speed": now.Speed(), "clock": school.In(ctx).Now().UnixMilli()}
		if text := string(html); text != last {
			last = text
			message["html"] = text
		}
		data, err := json.Marshal(message)
		if err != nil {
			return err
		}
		_, err = fmt.Fprintf(to, "id: %d\nevent: state\ndata: %s\n\n", now.Seq, data)
		return err
	}
}

// picture sends a picture that a bench has taken.
func (p *place) picture(w http.ResponseWriter, r *http.Request) error {
	run, err := live.Of(r.Context(), frame.ID(r, "id"))
	if err != nil {
		return err
	}
	return showPicture(w, r, run, "")
}

// events sends what happened as a file of events.
func (p *place) events(w http.ResponseWriter, r *http.Request) error {
	run, err := live.Of(r.Context(), frame.ID(r, "id"))
	if err != nil {
		return err
	}
	data, err := live.Log(run)
	if err != nil {
		return err
	}
	frame.Attach(w, "application/jsonl; charset=utf-8", fmt.Sprintf("lesson-%d.events.jsonl", run.Run.Lesson))
	_, err = w.Write(data)
	return err
}
