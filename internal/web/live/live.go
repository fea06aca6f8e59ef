// Package live is the place where lessons run: the desk, the wall, the walk, the
// screens at the benches, and what came of it.
package live

import (
	"bytes"
	"embed"
	"encoding/json"
	"errors"
	"fmt"
	"html/template"
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
		frame.Get("/lessons/{id}/events.jsonl", staff.Read, p.events),
		stream("/lessons/{id}/live/{view}", p.stream),
	}
}

// page is what every screen of a lesson that runs has.
type page struct {
	head.Top
	View    string
	Stream  string
	Live    template.HTML
	Failed  string
	None    bool // it has not begun
	MayRun  bool
	MayTell bool
	Mishaps []mishap
	Near    bool // it is near the time of the lesson
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

// screen draws one of the screens of those who teach.
func (p *place) screen(w http.ResponseWriter, r *http.Request, view string, failed error) error {
	ctx := r.Context()
	v, err := lessons.One(ctx, frame.ID(r, "id"))
	if err != nil {
		return err
	}
	mine, err := school.Mine(ctx, v.Class.ID)
	if err != nil {
		return err
	}
	m := page{Top: head.TopOf(r, v, "Teach", "Teach", "", mine), View: view, MayRun: school.May(ctx, staff.Teach), MayTell: school.May(ctx, staff.Prepare), Mishaps: mishaps()}
	status := http.StatusOK
	switch problems := problem.Of(failed); {
	case problems != nil:
		status, m.Failed = http.StatusUnprocessableEntity, problem.Sentence(problems[0].Says)
		if where := problems[0].Path; strings.HasPrefix(where, "line ") || strings.HasPrefix(where, "event ") {
			m.Failed = fmt.Sprintf("%s: %s%s", words.Capital(where), m.Failed, more(len(problems)-1))
		}
	case failed != nil:
		return failed
	}
	run, err := live.Of(ctx, v.ID)
	if errors.Is(err, school.ErrNotFound) {
		m.None = true
		return p.Render(w, r, status, templates, view, frame.Page{Title: head.Title("Teach", v), Place: "teach", Data: m})
	}
	if err != nil {
		return err
	}
	m.Stream = fmt.Sprintf("/lessons/%d/live/%s", v.ID, view)
	if m.Live, err = p.part(r, run, view); err != nil {
		return err
	}
	return p.Render(w, r, status, templates, view, frame.Page{Title: head.Title("Teach", v), Place: "teach", Data: m})
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
	var rehearsal *live.Rehearsal
	if r.PostFormValue("how") == "rehearse" {
		speed, err := strconv.ParseFloat(r.PostFormValue("speed"), 64)
		if err != nil || speed < 1 || speed > 60 {
			return p.screen(w, r, "desk", problem.New("speed", "A rehearsal goes at 1 to 60 times the clock"))
		}
		seed, _ := strconv.ParseUint(r.PostFormValue("seed"), 10, 64)
		rehearsal = &live.Rehearsal{Seed: seed, Mishap: r.PostFormValue("mishap"), Speed: speed}
	}
	if _, err := live.Begin(r.Context(), id, rehearsal); err != nil {
		return p.screen(w, r, "desk", err)
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
	number := func(name string) float64 {
		f, err := strconv.ParseFloat(strings.ReplaceAll(strings.TrimSpace(v.Get(name)), ",", "."), 64)
		if err != nil {
			return 0
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
	return []live.Said{s.event()}, true, nil
}

// led are the events by which a lesson is led: those who help don't say them.
var led = []core.Kind{core.Opened, core.Closed, core.Held, core.Skipped, core.Checkpoint, core.Undone}

// tell keeps what those who teach say.
func (p *place) tell(w http.ResponseWriter, r *http.Request) error {
	list, form, err := read(r)
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
	view := r.PostFormValue("view")
	if _, ok := views[view]; !ok {
		view = "desk"
	}
	if err != nil {
		return p.screen(w, r, view, err)
	}
	if view == "desk" {
		view = "teach"
	}
	return frame.See(w, r, fmt.Sprintf("/lessons/%d/%s", id, view))
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
	if err := school.In(r.Context()).ShutScreen(r.Context(), run.ID, r.PostFormValue("bench"), r.PostFormValue("do") == "shut"); err != nil {
		return err
	}
	return frame.See(w, r, fmt.Sprintf("/lessons/%d/teach#screens", id))
}

const (
	beat       = 5 * time.Second // a screen shows how old it is when it hears nothing for longer
	longestRun = 10 * time.Minute
)

// stream sends a screen what has changed, when something happens and as time goes
// on.
func (p *place) stream(w http.ResponseWriter, r *http.Request) error {
	view := chi.URLParam(r, "view")
	if _, ok := views[view]; !ok {
		return school.ErrNotFound
	}
	run, err := live.Of(r.Context(), frame.ID(r, "id"))
	if err != nil {
		return err
	}
	what := fmt.Sprint(view, school.May(r.Context(), staff.Teach), school.May(r.Context(), staff.Prepare))
	return follow(w, r, run.ID, what, func(run *live.Run) (template.HTML, error) { return p.part(r, run, view) }, nil)
}

// follow draws a screen anew whenever its run has news, and sends it where it looks
// otherwise. Screens that show the same are drawn once. The stream ends after a while; the screen then asks anew, and shows
// that it may.
func follow(w http.ResponseWriter, r *http.Request, id int64, what string, draw func(*live.Run) (template.HTML, error), may func() bool) error {
	ctx := r.Context()
	heard, stop := school.In(ctx).Watch(live.News(id))
	defer stop()
	w.Header().Set("Content-Type", "text/event-stream")
	w.Header().Set("Cache-Control", "no-store")
	w.Header().Set("X-Accel-Buffering", "no")
	last := ""
	send := func() error {
		now, moment, err := live.Shared(ctx, id)
		if err != nil {
			return err
		}
		html, err := live.Drawn(ctx, moment, what, func() (template.HTML, error) { return draw(now) })
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
		var b bytes.Buffer
		fmt.Fprintf(&b, "id: %d\nevent: state\ndata: %s\n\n", now.Seq, data)
		if _, err := b.WriteTo(w); err != nil {
			return err
		}
		return http.NewResponseController(w).Flush()
	}
	end := time.NewTimer(longestRun)
	defer end.Stop()
	tick := time.NewTicker(beat)
	defer tick.Stop()
	for {
		if err := send(); err != nil {
			return nil //nolint:nilerr // whoever looked has gone, or asks again
		}
		select {
		case <-ctx.Done():
			return nil
		case <-end.C:
			return nil
		case <-tick.C:
		case _, ok := <-heard:
			if !ok {
				return nil
			}
		}
		if may != nil && !may() {
			return nil
		}
	}
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

// more says how many more things are wrong.
func more(n int) string {
	if n == 0 {
		return ""
	}
	return fmt.Sprintf(" And %s more.", words.Plural(n, "thing", "things"))
}
