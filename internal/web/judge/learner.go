package judge

import (
	"errors"
	"fmt"
	"net/http"
	"strconv"
	"strings"

	"github.com/go-chi/chi/v5"

	"freshapron/internal/app/judge"
	"freshapron/internal/app/school"
	"freshapron/internal/app/train"
	"freshapron/internal/core/problem"
	"freshapron/internal/core/words"
	"freshapron/internal/web/frame"
)

// Learners are the pages of learners: their own choice and time plan in a task, by its
// code and their picture, and the slip of a tasting at a bench. Nothing else can be
// reached from them.
func Learners(site *school.Site, f *frame.Frame) func(chi.Router) {
	p := &learners{f, site}
	at := func(r chi.Router, method, path string, most int64, do frame.Handler) {
		r.MethodFunc(method, path, func(w http.ResponseWriter, r *http.Request) {
			r.Body = http.MaxBytesReader(w, r.Body, most)
			p.Answer(w, r, do)
		})
	}
	const form = 64 << 10
	return func(r chi.Router) {
		at(r, "GET", "/task", form, p.door)
		at(r, "GET", "/task/{code}", form, p.names)
		at(r, "POST", "/task/{code}", form, p.letIn)
		at(r, "GET", "/task/at/{token}", form, p.choice)
		at(r, "POST", "/task/at/{token}", form, p.choose)
		at(r, "GET", "/task/at/{token}/plan", form, p.plan)
		at(r, "POST", "/task/at/{token}/plan", frame.MostUpload, p.savePlan)
		at(r, "GET", "/bench/{code}/taste", form, p.taste)
		at(r, "POST", "/bench/{code}/taste", form, p.tasted)
	}
}

type learners struct {
	*frame.Frame
	site *school.Site
}

type doorPage struct{ Code, Problem string }

func (p *learners) doorWith(w http.ResponseWriter, r *http.Request, status int, d doorPage) error {
	return p.Render(w, r, status, templates, "task-door", frame.Page{Title: "Your task", Data: d})
}

func (p *learners) door(w http.ResponseWriter, r *http.Request) error {
	code := strings.TrimSpace(r.URL.Query().Get("code"))
	if code == "" {
		return p.doorWith(w, r, http.StatusOK, doorPage{})
	}
	_, t, err := judge.Come(r.Context(), p.site, code)
	if errors.Is(err, judge.ErrClosed) {
		return p.shut(w, r, code)
	}
	if err != nil {
		return err
	}
	return frame.See(w, r, "/task/"+t.Code)
}

func (p *learners) shut(w http.ResponseWriter, r *http.Request, code string) error {
	return p.doorWith(w, r, http.StatusNotFound, doorPage{words.Short(code), "This code opens no task now. Look at the letters once more, or ask your teacher for the code."})
}

type namesPage struct {
	Code, Title string
	Names       []school.Learner
	Pictures    []string
	Learner     int64
	Picture     string
	Problem     string
}

func (p *learners) names(w http.ResponseWriter, r *http.Request) error {
	return p.namesWith(w, r, http.StatusOK, namesPage{})
}

func (p *learners) namesWith(w http.ResponseWriter, r *http.Request, status int, m namesPage) error {
	code := chi.URLParam(r, "code")
	ctx, t, err := judge.Come(r.Context(), p.site, code)
	if errors.Is(err, judge.ErrClosed) {
		return p.shut(w, r, code)
	}
	if err != nil {
		return err
	}
	if m.Names, err = school.NamesOf(ctx, t.View.Class.ID); err != nil {
		return err
	}
	m.Code, m.Title, m.Pictures = t.Code, t.Title, school.Pictures
	return p.Render(w, r, status, templates, "task-names", frame.Page{Title: "Who are you?", Data: m})
}

func (p *learners) letIn(w http.ResponseWriter, r *http.Request) error {
	if err := frame.ParseForm(r); err != nil {
		return err
	}
	code := chi.URLParam(r, "code")
	ctx, t, err := judge.Come(r.Context(), p.site, code)
	if errors.Is(err, judge.ErrClosed) {
		return p.shut(w, r, code)
	}
	if err != nil {
		return err
	}
	m := namesPage{Picture: r.PostFormValue("picture")}
	m.Learner, _ = strconv.ParseInt(r.PostFormValue("learner"), 10, 64)
	token, err := judge.LetIn(ctx, t, m.Learner, m.Picture)
	if failed := problem.Of(err); failed != nil {
		m.Problem = problem.Sentence(failed[0].Says)
		return p.namesWith(w, r, http.StatusUnprocessableEntity, m)
	}
	if err != nil {
		return err
	}
	return frame.See(w, r, "/task/at/"+token)
}

// enter returns the task and the learner of the token in the address; nil where it has
// been answered that it lets nobody in any more.
func (p *learners) enter(w http.ResponseWriter, r *http.Request) (*http.Request, *judge.Task, judge.Book, int64, error) {
	ctx, t, learner, err := judge.Enter(r.Context(), p.site, chi.URLParam(r, "token"))
	if errors.Is(err, judge.ErrClosed) {
		return r, nil, judge.Book{}, 0, p.doorWith(w, r, http.StatusNotFound, doorPage{Problem: "You came in too long ago, or the task is over. Come in again with its code."})
	}
	if err != nil {
		return r, nil, judge.Book{}, 0, err
	}
	b, err := judge.BookOf(ctx, t)
	return r.WithContext(ctx), t, b, learner, err
}

func (p *learners) choice(w http.ResponseWriter, r *http.Request) error {
	return p.choiceWith(w, r, false, nil)
}

func (p *learners) choiceWith(w http.ResponseWriter, r *http.Request, typed bool, failed problem.List) error {
	r, t, b, learner, err := p.enter(w, r)
	if t == nil || err != nil {
		return err
	}
	l, ok := t.Learner(learner)
	if !ok {
		return school.ErrNotFound
	}
	values := r.URL.Query()
	if typed {
		values = r.PostForm
	}
	m, err := choosingOf(r.Context(), t, b, l, true, values, failed)
	if err != nil {
		return err
	}
	m.Name = l.Given
	m.To = "/task/at/" + chi.URLParam(r, "token")
	m.Back = m.To + "/plan"
	return p.Render(w, r, status(failed), templates, part(r, "own-choice"), frame.Page{Title: t.Title, Data: m})
}

func (p *learners) choose(w http.ResponseWriter, r *http.Request) error {
	if err := frame.ParseForm(r); err != nil {
		return err
	}
	r, t, _, learner, err := p.enter(w, r)
	if t == nil || err != nil {
		return err
	}
	form, _, _ := formOf(r.PostForm)
	err = judge.ChooseOwn(r.Context(), t, learner, r.PostFormValue("entry"), form)
	if failed := problem.Of(err); failed != nil {
		return p.choiceWith(w, r, true, failed)
	}
	if err != nil {
		return err
	}
	return frame.See(w, r, "/task/at/"+chi.URLParam(r, "token"))
}

func (p *learners) plan(w http.ResponseWriter, r *http.Request) error {
	return p.planWith(w, r, nil, "", nil)
}

func (p *learners) planWith(w http.ResponseWriter, r *http.Request, typed []planRow, text string, failed problem.List) error {
	r, t, b, learner, err := p.enter(w, r)
	if t == nil || err != nil {
		return err
	}
	l, ok := t.Learner(learner)
	if !ok {
		return school.ErrNotFound
	}
	entries, err := judge.Entries(r.Context(), t)
	if err != nil {
		return err
	}
	m := planOf(r.Context(), t, b, l, entries[learner], typed, failed)
	m.Seen, m.School = nil, nil // what was seen is the assessors', and the plan is to be the learner's own
	m.Learner, m.Name, m.May, m.Text = true, l.Given, !b.Shut, text
	m.Back = "/task/at/" + chi.URLParam(r, "token")
	m.To = m.Back + "/plan"
	return p.Render(w, r, status(failed), templates, "own-plan", frame.Page{Title: t.Title, Data: m})
}

func (p *learners) savePlan(w http.ResponseWriter, r *http.Request) error {
	r, t, _, learner, err := p.enter(w, r)
	if t == nil || err != nil {
		return err
	}
	typed, text, err := keepPlan(r.Context(), t, learner, r)
	if failed := problem.Of(err); failed != nil {
		return p.planWith(w, r, typed, text, failed)
	}
	if err != nil {
		return err
	}
	return frame.See(w, r, "/task/at/"+chi.URLParam(r, "token")+"/plan")
}

type tastePage struct {
	Code, Bench, Dish string
	Slip              slipForm
	Thanks, Rehearsed bool
}

func (p *learners) taste(w http.ResponseWriter, r *http.Request) error {
	return p.tasteWith(w, r, http.StatusOK, "")
}

func (p *learners) tasteWith(w http.ResponseWriter, r *http.Request, status int, failed string) error {
	code := chi.URLParam(r, "code")
	ctx, b, err := train.AtBench(r.Context(), p.site, code)
	if errors.Is(err, train.ErrShut) {
		return frame.See(w, r, "/bench/"+code)
	}
	if err != nil {
		return err
	}
	t, err := judge.TastingOf(ctx, b.View)
	if err != nil {
		return err
	}
	m := tastePage{Rehearsed: b.Rehearsed, Code: b.Code, Bench: b.Name, Dish: b.View.Core.Titles(), Slip: slipOf(b.View, t, fmt.Sprintf("/bench/%s/taste", b.Code), r, failed), Thanks: r.URL.Query().Has("thanks")}
	return p.Render(w, r, status, templates, "bench-taste", frame.Page{Title: "Taste", Data: m})
}

func (p *learners) tasted(w http.ResponseWriter, r *http.Request) error {
	if err := frame.ParseForm(r); err != nil {
		return err
	}
	code := chi.URLParam(r, "code")
	ctx, b, err := train.AtBench(r.Context(), p.site, code)
	if errors.Is(err, train.ErrShut) {
		return frame.See(w, r, "/bench/"+code)
	}
	if err != nil {
		return err
	}
	if !b.Rehearsed {
		err = keepSlip(ctx, b.View, r)
	}
	if failed := problem.Of(err); failed != nil {
		return p.tasteWith(w, r, http.StatusUnprocessableEntity, problem.Sentence(failed[0].Says))
	}
	if err != nil {
		return err
	}
	return frame.See(w, r, "/bench/"+code+"/taste?thanks")
}
