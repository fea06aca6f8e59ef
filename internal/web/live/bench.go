package live

import (
	_ "embed"
	"errors"
	"fmt"
	"html/template"
	"io"
	"math"
	"net/http"
	"slices"
	"strings"

	"github.com/google/uuid"

	"github.com/go-chi/chi/v5"

	"freshapron/internal/app/lessons"
	"freshapron/internal/app/live"
	"freshapron/internal/app/school"
	"freshapron/internal/app/train"
	"freshapron/internal/core/fit"
	"freshapron/internal/core/lesson"
	core "freshapron/internal/core/live"
	"freshapron/internal/core/problem"
	"freshapron/internal/web/frame"
	"freshapron/internal/web/instrument"
)

// Benches are the screens at the benches: no account opens them but a code, and
// each opens one bench of one lesson that runs.
func Benches(site *school.Site, f *frame.Frame) func(chi.Router) {
	p := &benches{place{f}, site}
	return func(r chi.Router) {
		r.Get("/bench/worker.js", worker)
		r.Get("/bench/{code}", p.enter(p.show))
		r.Post("/bench/{code}/tell", p.enter(p.tell))
		r.Get("/bench/{code}/stream", p.enter(p.stream))
		r.Post("/bench/{code}/picture", p.enterWith(frame.MostUpload, p.photograph))
		r.Get("/bench/{code}/picture/{picture}", p.enter(p.picture))
	}
}

type benches struct {
	place
	site *school.Site
}

const mostSaid = 256 << 10 // bytes of what a bench says at once

// enter lets a bench's screen in by its code.
func (p *benches) enter(do func(w http.ResponseWriter, r *http.Request, s *live.Screen) error) http.HandlerFunc {
	return p.enterWith(mostSaid, do)
}

func (p *benches) enterWith(most int64, do func(w http.ResponseWriter, r *http.Request, s *live.Screen) error) http.HandlerFunc {
	return func(w http.ResponseWriter, r *http.Request) {
		r.Body = http.MaxBytesReader(w, r.Body, most)
		p.Answer(w, r, func(w http.ResponseWriter, r *http.Request) error {
			ctx, s, err := live.Enter(r.Context(), p.site, chi.URLParam(r, "code"))
			if errors.Is(err, live.ErrOver) {
				return p.Render(w, r, http.StatusNotFound, templates, "bench-shut", frame.Page{Title: "This screen is shut"})
			}
			if err != nil {
				return err
			}
			return do(w, r.WithContext(ctx), s)
		})
	}
}

// A benchModel is what a bench's screen shows: nothing of other benches, no need,
// no family name.
type benchModel struct {
	Code          string
	Minute        float64 // of the lesson
	Name, Dish    string
	Clock, ToBell string
	Late, Light   string
	Steps         []benchStep
	Amounts       []amount
	Timers        []timer
	Help, Check   bool
	Over, Begun   bool
	Phase         string
	Problem       string
	Stream        string
	Ways          string // in which it shows things
	Pictures      []string
	Pictured      benchStep // which a picture is of
	Press         string    // a number for it
	Live          template.HTML
}

type benchStep struct {
	Dish, Step  string
	Icon        string // of its kind
	Title, Text string
	LookFor     string
	Hazard      string
	Minutes     string
	Start       string
	Who         string
	Stage       string
	Now         bool
	Waits       bool // its wait begins with a press
	Unit        string
	Until       float64
	Amounts     []amount // that go in, of the step now
	Help        []string // who can show what it asks for, or what else does the same; of the step now
	of          string   // the recipe
}

// An amount is what a bench measures out; Dish and Step take it first.
type amount struct {
	Figure, Name string
	Drawn        template.HTML // the instrument
	Dish, Step   string
}

func (p *benches) model(r *http.Request, s *live.Screen) (benchModel, error) {
	run := s.Run
	l, st := run.Lesson, run.State
	m := benchModel{Code: s.Code, Minute: st.Now, Clock: at(l, st.Now), Begun: st.Begun, Over: st.Closed, Stream: "/bench/" + s.Code + "/stream", Ways: strings.Join(s.Ways, " "), Press: uuid.NewString()}
	if to := l.Minutes().Float() - st.Now; to > 0 {
		m.ToBell = minutes(math.Ceil(to)) + " to the bell"
	}
	if name, until := st.Phase(); name != "" {
		m.Phase = name + ", until " + at(l, until)
	}
	v, err := lessons.One(r.Context(), run.Run.Lesson)
	if err != nil {
		return m, err
	}
	m.Dish = v.Core.Titles()
	at := slices.IndexFunc(st.Benches, func(b core.Bench) bool { return b.ID == s.Bench })
	if at < 0 {
		return m, school.ErrNotFound
	}
	b := st.Benches[at]
	m.Name = b.Name
	m.Late, m.Light = lateSays(b.Late)
	m.Help = slices.ContainsFunc(st.Helps, func(q core.Request) bool { return q.Bench == b.ID })
	m.Check = slices.ContainsFunc(st.Checks, func(q core.Request) bool { return q.Bench == b.ID })
	m.Amounts = amountsOf(v, b.ID)
	m.Steps = stepsOf(v, run, b)
	for i, x := range m.Steps {
		if x.Now {
			if m.Steps[i].Help, err = train.Help(r.Context(), v, b.ID, x.Title+". "+x.Text); err != nil {
				return m, err
			}
		}
		for _, a := range m.Amounts {
			if x.Now && a.Dish == x.of && (a.Step == x.Step || x.Icon == string(fit.Weigh)) {
				m.Steps[i].Amounts = append(m.Steps[i].Amounts, a)
			}
		}
	}
	for i, x := range m.Steps {
		if x.Now || i == 0 || x.Stage == "over" || x.Stage == "waiting" {
			m.Pictured = x
		}
		if x.Now {
			break
		}
	}
	for _, e := range st.Pictures(b.ID) {
		m.Pictures = append(m.Pictures, "/bench/"+s.Code+"/picture/"+e.ID)
	}
	for _, t := range st.Timers() {
		if t.Bench == b.ID {
			m.Timers = append(m.Timers, timerOf(l, t))
		}
	}
	return m, nil
}

// amountsOf are what a bench measures out, with the step of its dish that takes each.
func amountsOf(v *lessons.View, bench string) []amount {
	var out []amount
	for _, size := range v.Sizes {
		if !slices.ContainsFunc(size.Benches, func(x lesson.Bench) bool { return x.ID == bench }) {
			continue
		}
		taken := size.Recipe.TakenBy(v.Core.Pantry)
		for i, a := range size.Amounts {
			x := amount{Drawn: instrument.Of(a.Shown()), Dish: size.Recipe.ID}
			x.Figure, x.Name = a.Told()
			if n := taken[size.Lines[i]]; n >= 0 {
				x.Step = size.Recipe.Steps[n].ID
			}
			out = append(out, x)
		}
	}
	return out
}

// stepsOf are the steps of a bench with the recipe's words; the first that goes on,
// or else is to come, is the one that is shown.
func stepsOf(v *lessons.View, run *live.Run, b core.Bench) []benchStep {
	l := run.Lesson
	var out []benchStep
	current := -1
	for _, st := range b.Steps {
		x := benchStep{Dish: st.Dish, Step: st.Step, Title: st.Title, Stage: map[core.Stage]string{core.ToCome: "to-come", core.Working: "working", core.Waiting: "waiting", core.Over: "over", core.NotDone: "over"}[st.Stage],
			Start: at(l, st.Start), Minutes: minutes(math.Round(st.Planned.WorkEnd - st.Planned.Start)), Waits: st.Planned.End > st.Planned.WorkEnd && st.Planned.WorkEnd > st.Planned.Start, Unit: st.Unit, Until: st.WorkEnd}
		if st.Stage == core.Waiting {
			x.Until = st.End
		}
		if len(st.Planned.Hands) == 1 {
			x.Who = fmt.Sprintf("cook %d", st.Planned.Hands[0])
		}
		x.of = l.Of(st.Dish)
		if words := v.Core.StepOf(l, st.Dish, st.Step); words.ID != "" {
			x.Icon, x.Text, x.LookFor, x.Hazard = string(words.Kind), words.Text, words.LookFor, words.Hazard
		}
		if current < 0 && (st.Stage == core.Working || st.Stage == core.ToCome) {
			current = len(out)
			x.Now = true
		}
		out = append(out, x)
	}
	return out
}

func (p *benches) show(w http.ResponseWriter, r *http.Request, s *live.Screen) error {
	return p.draw(w, r, s, nil)
}

func (p *benches) draw(w http.ResponseWriter, r *http.Request, s *live.Screen, failed error) error {
	m, err := p.model(r, s)
	if err != nil {
		return err
	}
	status := http.StatusOK
	if problems := problem.Of(failed); problems != nil {
		status, m.Problem = http.StatusUnprocessableEntity, problem.Sentence(problems[0].Says)
	}
	if m.Live, err = frame.Fragment(templates, "bench-live", m); err != nil {
		return err
	}
	return p.Render(w, r, status, templates, "bench", frame.Page{Title: m.Name + ", " + m.Dish, Data: m})
}

// benchSays are the kinds of events that a bench may send.
var benchSays = []core.Kind{core.Begun, core.Worked, core.Ended, core.Help, core.Check, core.Undone}

func (p *benches) tell(w http.ResponseWriter, r *http.Request, s *live.Screen) error {
	list, form, err := read(r)
	if problem.Of(err) != nil && form {
		return p.draw(w, r, s, err)
	}
	if err != nil {
		return err
	}
	var own []live.Said
	var problems problem.List
	for i, x := range list {
		x.Event.Bench = s.Bench
		switch {
		case !slices.Contains(benchSays, x.Kind):
			problems.Add(fmt.Sprintf("events[%d].kind", i), "that is not for a bench to say")
		case x.Kind == core.Undone && !slices.ContainsFunc(s.Run.Events, func(e core.Event) bool { return e.ID == x.Event.Of && e.Bench == s.Bench }):
			problems.Add(fmt.Sprintf("events[%d].of", i), "only what this bench has said can be taken back here")
		default:
			own = append(own, x)
		}
	}
	err = live.Tell(r.Context(), s.Run, "bench "+s.Bench, own)
	if err == nil {
		err = problems.Err()
	}
	if !form {
		return answer(w, err)
	}
	if err != nil {
		if problem.Of(err) == nil {
			return err
		}
		return p.draw(w, r, s, err)
	}
	return frame.See(w, r, "/bench/"+s.Code)
}

func (p *benches) stream(w http.ResponseWriter, r *http.Request, s *live.Screen) error {
	p.Stream(w, r, "bench "+s.Code, func(w http.ResponseWriter, r *http.Request) error {
		ctx := r.Context()
		heard, stop := school.In(ctx).Watch(live.News(s.Run.ID), live.Begins(s.Run.Run.Lesson))
		defer stop()
		tell := screenOf(ctx, s.Run.ID, func() (string, error) { return "bench " + s.Bench, nil }, func(run *live.Run) (template.HTML, error) {
			own := *s
			own.Run = run
			m, err := p.model(r, &own)
			if err != nil {
				return "", err
			}
			return frame.Fragment(templates, "bench-live", m)
		})
		shown := s.Ways
		may := func() bool {
			x, opens := live.Opens(ctx, p.site, s.Code)
			s.Screen = x
			return opens
		}
		return frame.Feed{Heard: heard, Beat: beat, May: may, Send: func(to io.Writer, _ string) error {
			if !slices.Equal(s.Ways, shown) {
				shown = s.Ways
				fmt.Fprintf(to, "event: ways\ndata: %s\n\n", strings.Join(shown, " "))
			}
			return tell(to)
		}}.Tell(w, r)
	})
	return nil
}

//go:embed worker.js
var workerScript []byte

// worker is the script that shows a bench's page without a network.
func worker(w http.ResponseWriter, _ *http.Request) {
	w.Header().Set("Content-Type", "text/javascript; charset=utf-8")
	w.Header().Set("Cache-Control", "no-cache")
	_, _ = w.Write(workerScript)
}

// photograph keeps a picture of what the bench has made.
func (p *benches) photograph(w http.ResponseWriter, r *http.Request, s *live.Screen) error {
	_, data, err := frame.Uploaded(r)
	if tooLarge := new(http.MaxBytesError); errors.As(err, &tooLarge) {
		err = problem.New("file", "The picture is larger than %d MB. Take a smaller one", tooLarge.Limit>>20)
	}
	if err == nil {
		err = live.Photograph(r.Context(), s.Run, r.PostFormValue("id"), s.Bench, r.PostFormValue("dish"), r.PostFormValue("step"), data)
	}
	if r.Header.Get("Accept") == "application/json" {
		return answer(w, err)
	}
	if problem.Of(err) != nil {
		return p.draw(w, r, s, err)
	}
	if err != nil {
		return err
	}
	return frame.See(w, r, "/bench/"+s.Code)
}

func (p *benches) picture(w http.ResponseWriter, r *http.Request, s *live.Screen) error {
	return showPicture(w, r, s.Run, s.Bench)
}

// showPicture sends a picture of a bench, or of any ("").
func showPicture(w http.ResponseWriter, r *http.Request, run *live.Run, bench string) error {
	data, err := live.PictureOf(r.Context(), run, chi.URLParam(r, "picture"), bench)
	if err != nil {
		return err
	}
	w.Header().Set("Content-Type", "image/jpeg")
	w.Header().Set("Cache-Control", "private, max-age=3600")
	_, err = w.Write(data)
	return err
}
