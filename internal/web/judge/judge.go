// Package judge is the place where what was made is judged: assessed tasks from the brief
// to the results, tastings, and the words at the end of a lesson.
package judge

import (
	"embed"
	"fmt"
	"net/http"
	"slices"
	"strconv"
	"strings"

	"github.com/google/uuid"

	"freshapron/internal/app/judge"
	"freshapron/internal/app/school"
	"freshapron/internal/core/assess"
	"freshapron/internal/core/class"
	"freshapron/internal/core/problem"
	"freshapron/internal/core/staff"
	"freshapron/internal/core/words"
	"freshapron/internal/web/frame"
)

//go:embed templates/*.html
var files embed.FS

var templates = frame.Parse(files)

type place struct{ *frame.Frame }

// Routes are the pages of those who teach and mark.
func Routes(f *frame.Frame) []frame.Route {
	p := &place{f}
	return []frame.Route{
		frame.Get("/judge", staff.Assess, p.list),
		frame.Post("/judge", staff.Teach, p.create),
		frame.Get("/judge/{id}", staff.Assess, p.brief),
		frame.Post("/judge/{id}", staff.Teach, p.save),
		frame.Post("/judge/{id}/tags", staff.Teach, p.saveTags),
		frame.Get("/judge/{id}/sets", staff.Teach, p.sets),
		frame.Get("/judge/{id}/choices", staff.Assess, p.choices),
		frame.Get("/judge/{id}/choices/{learner}", staff.Teach, p.choice),
		frame.Post("/judge/{id}/choices/{learner}", staff.Teach, p.choose),
		frame.Post("/judge/{id}/plan-in", staff.Teach, p.planIn),
		frame.Get("/judge/{id}/plans/{learner}", staff.Assess, p.plan),
		frame.Upload("/judge/{id}/plans/{learner}", staff.Teach, p.savePlan),
		frame.Get("/judge/{id}/walk", staff.Assess, p.walk),
		frame.Post("/judge/{id}/walk", staff.Assess, p.tell),
		frame.Get("/judge/{id}/marks", staff.Assess, p.marks),
		frame.Get("/judge/{id}/marks/{learner}", staff.Assess, p.sheet),
		frame.Post("/judge/{id}/marks/{learner}", staff.Assess, p.mark),
		frame.Post("/judge/{id}/marks/{learner}/agree", staff.Assess, p.agree),
		frame.Get("/judge/{id}/plate/{learner}", staff.Assess, p.plate),
		frame.Upload("/judge/{id}/plate/{learner}", staff.Assess, p.photograph),
		frame.Get("/judge/{id}/results", staff.Assess, p.results),
		frame.Get("/judge/{id}/results.csv", staff.Assess, p.resultsCSV),
		frame.Get("/judge/{id}/results.xlsx", staff.Assess, p.resultsXLSX),
		frame.Get("/judge/{id}/feedback", staff.Teach, p.feedback),
		frame.Post("/judge/{id}/close", staff.Teach, p.shut),
		frame.Post("/judge/{id}/reopen", staff.Teach, p.reopen),
		frame.Get("/lessons/{id}/tasting", staff.Read, p.tasting),
		frame.Post("/lessons/{id}/tasting", staff.Teach, p.saveTasting),
		frame.Post("/lessons/{id}/tasting/tests", staff.Teach, p.addTest),
		frame.Post("/lessons/{id}/tasting/slips", staff.Measure, p.slip),
		frame.Get("/lessons/{id}/tasting/paper", staff.Read, p.slips),
		frame.Get("/lessons/{id}/tasting/wall", staff.Read, p.tastingWall),
		frame.Get("/lessons/{id}/review", staff.Teach, p.review),
		frame.Post("/lessons/{id}/review", staff.Teach, p.saveReview),
		frame.Post("/lessons/{id}/review/words", staff.Teach, p.word),
	}
}

type listPage struct {
	Tasks   []taskRow
	Lessons []frame.Option
	Form    struct{ Title, Lesson, Press string }
	Problem problem.List
	May     bool
}

type taskRow struct {
	ID                   int64
	Title, Class, When   string
	Dishes, State, Light string
}

func (p *place) list(w http.ResponseWriter, r *http.Request) error {
	m := listPage{}
	m.Form.Press = uuid.NewString()
	return p.listWith(w, r, http.StatusOK, m)
}

func (p *place) listWith(w http.ResponseWriter, r *http.Request, status int, m listPage) error {
	ctx := r.Context()
	rows, err := judge.All(ctx)
	if err != nil {
		return err
	}
	for _, t := range rows {
		row := taskRow{ID: t.ID, Title: t.Title, Class: t.Lesson.Class.Name, When: t.Lesson.Date.Format("Monday 2 January") + ", " + t.Lesson.Period.Name, Dishes: fmt.Sprint(len(t.Lesson.Menu), " dishes"), State: "open", Light: "look"}
		if t.Shut {
			row.State, row.Light = "closed", "good"
		}
		m.Tasks = append(m.Tasks, row)
	}
	if m.May = school.May(ctx, staff.Teach); m.May {
		coming, err := judge.Practicals(ctx)
		if err != nil {
			return err
		}
		for _, l := range coming {
			id := strconv.FormatInt(l.ID, 10)
			m.Lessons = append(m.Lessons, frame.Option{Value: id, Label: l.Class.Name + ", " + l.Date.Format("Monday 2 January") + ", " + l.Period.Name + ": " + l.Titles(), Chosen: id == m.Form.Lesson})
		}
	}
	return p.Render(w, r, status, templates, "judge-list", frame.Page{Title: "Judge", Place: "judge", Data: m})
}

func (p *place) create(w http.ResponseWriter, r *http.Request) error {
	if err := frame.ParseForm(r); err != nil {
		return err
	}
	var m listPage
	m.Form.Title, m.Form.Lesson, m.Form.Press = r.PostFormValue("title"), r.PostFormValue("lesson"), r.PostFormValue("press")
	if uuid.Validate(m.Form.Press) != nil {
		m.Form.Press = uuid.NewString()
	}
	id, err := judge.New(r.Context(), m.Form.Lesson, m.Form.Title, m.Form.Press)
	if m.Problem = problem.Of(err); m.Problem != nil {
		return p.listWith(w, r, http.StatusUnprocessableEntity, m)
	}
	if err != nil {
		return err
	}
	return frame.See(w, r, fmt.Sprintf("/judge/%d", id))
}

// A Top stands above every side of a task.
type Top struct {
	ID, Lesson  int64
	Version     int
	Title       string
	Class, When string
	Sides       []frame.Side
	Mine, Marks bool
	Shut        bool
	Problems    []string
}

func (p *place) open(r *http.Request) (*judge.Task, judge.Book, error) {
	t, err := judge.Open(r.Context(), frame.ID(r, "id"))
	if err != nil {
		return nil, judge.Book{}, err
	}
	b, err := judge.BookOf(r.Context(), t)
	return t, b, err
}

// openOf is open for a page of one learner.
func (p *place) openOf(r *http.Request) (*judge.Task, judge.Book, class.Learner, error) {
	t, b, err := p.open(r)
	if err != nil {
		return nil, b, class.Learner{}, err
	}
	l, ok := t.Learner(frame.ID(r, "learner"))
	if !ok {
		return nil, b, l, school.ErrNotFound
	}
	return t, b, l, nil
}

func topOf(t *judge.Task, b judge.Book, side string, failed problem.List) Top {
	m := Top{ID: t.ID, Lesson: t.Lesson, Version: t.Version, Title: t.Title, Class: t.View.Class.Name, When: t.View.Date.Format("Monday 2 January") + ", " + t.View.Period.Name, Mine: t.Mine, Marks: t.Marks, Shut: b.Shut}
	for _, s := range []struct {
		label, at string
		mine      bool
	}{{"Brief", "", true}, {"Choices", "/choices", false}, {"Walk", "/walk", false}, {"Marks", "/marks", false}, {"Results", "/results", false}} {
		if !s.mine || t.Mine {
			m.Sides = append(m.Sides, frame.Side{Label: s.label, Href: fmt.Sprintf("/judge/%d%s", t.ID, s.at), Current: s.label == side})
		}
	}
	for _, f := range failed {
		if says := problem.Sentence(f.Says); !slices.Contains(m.Problems, says) {
			m.Problems = append(m.Problems, says)
		}
	}
	return m
}

func status(failed problem.List) int {
	if failed != nil {
		return http.StatusUnprocessableEntity
	}
	return http.StatusOK
}

type briefPage struct {
	Top
	Form      judge.Form
	Forms     string
	Asked     []askedRow
	Criteria  []criterionRow
	Roundings []frame.Option
	Markers   [][]frame.Option
	Dishes    []tagRow
	Code      string
	Address   string
	OpenSetup bool
	OpenTags  bool
	Press     string
}

type criterionRow struct {
	Name, Most, Weight, Method string
	Levels                     []string
}

// An askedRow is a condition, with what no dish is said to be; empty for none.
type askedRow struct{ Says, Unsaid string }

type tagRow struct{ ID, Title, Tags string }

func (p *place) brief(w http.ResponseWriter, r *http.Request) error {
	t, b, err := p.open(r)
	if err != nil {
		return err
	}
	if !t.Mine {
		return frame.See(w, r, fmt.Sprintf("/judge/%d/walk", t.ID))
	}
	return p.briefWith(w, r, t, b, judge.FormOf(t.Task), nil, nil)
}

func (p *place) briefWith(w http.ResponseWriter, r *http.Request, t *judge.Task, b judge.Book, form judge.Form, tags map[string]string, failed problem.List) error {
	m := briefPage{Top: topOf(t, b, "Brief", failed), Form: form, Forms: strings.Join(assess.Forms, "\n"), Code: t.Code[:3] + " " + t.Code[3:6] + " " + t.Code[6:], Address: r.Host + "/task", Press: uuid.NewString(), OpenSetup: failed != nil && tags == nil, OpenTags: tags != nil}
	for _, c := range t.Brief {
		m.Asked = append(m.Asked, askedRow{words.Capital(c.Says), c.Tag})
	}
	for _, c := range t.Scheme.Criteria {
		m.Criteria = append(m.Criteria, criterionRow{c.Name, c.Most.Decimal(2), c.Weight.Decimal(2), string(c.Method), c.Levels})
	}
	for _, x := range assess.Roundings {
		m.Roundings = append(m.Roundings, frame.Option{Value: string(x), Label: map[assess.Rounding]string{assess.HalfUp: "half up", assess.HalfEven: "half to even", assess.Down: "down", assess.Up: "up"}[x], Chosen: string(x) == form.Round})
	}
	people, err := judge.Staff(r.Context())
	if err != nil {
		return err
	}
	for n := range 2 {
		chosen := ""
		if n < len(form.Markers) {
			chosen = form.Markers[n]
		}
		options := []frame.Option{{Value: "", Label: "nobody", Chosen: chosen == ""}}
		for _, a := range people {
			id := strconv.FormatInt(a.ID, 10)
			options = append(options, frame.Option{Value: id, Label: a.Name + ", " + a.Role.Name(), Chosen: id == chosen})
		}
		m.Markers = append(m.Markers, options)
	}
	dishes, err := judge.Shelf(r.Context(), t)
	if err != nil {
		return err
	}
	for _, d := range dishes {
		row := tagRow{d.Dish.ID, d.Title, d.Tags}
		if tags != nil {
			row.Tags = tags[row.ID]
		}
		m.Dishes = append(m.Dishes, row)
	}
	return p.Render(w, r, status(failed), templates, "brief", frame.Page{Title: "Brief: " + t.Title, Place: "judge", Data: m})
}

func (p *place) save(w http.ResponseWriter, r *http.Request) error {
	if err := frame.ParseForm(r); err != nil {
		return err
	}
	t, b, err := p.open(r)
	if err != nil {
		return err
	}
	v := r.PostFormValue
	form := judge.Form{Title: v("title"), Brief: v("brief"), Criteria: v("criteria"), OutOf: v("out_of"), Round: v("round"), Boundaries: v("boundaries"), Tolerance: v("tolerance"), Questions: v("questions"), Markers: r.PostForm["markers"]}
	err = judge.Save(r.Context(), t.ID, v("version"), form)
	if failed := problem.Of(err); failed != nil {
		return p.briefWith(w, r, t, b, form, nil, failed)
	}
	if err != nil {
		return err
	}
	return frame.See(w, r, fmt.Sprintf("/judge/%d", t.ID))
}

func (p *place) saveTags(w http.ResponseWriter, r *http.Request) error {
	if err := frame.ParseForm(r); err != nil {
		return err
	}
	t, b, err := p.open(r)
	if err != nil {
		return err
	}
	tags := map[string]string{}
	for name := range r.PostForm {
		if id, ok := strings.CutPrefix(name, "tags-"); ok {
			tags[id] = r.PostFormValue(name)
		}
	}
	err = judge.SaveTags(r.Context(), t.ID, r.PostFormValue("version"), tags)
	if failed := problem.Of(err); failed != nil {
		return p.briefWith(w, r, t, b, judge.FormOf(t.Task), tags, failed)
	}
	if err != nil {
		return err
	}
	return frame.See(w, r, fmt.Sprintf("/judge/%d", t.ID))
}

func (p *place) shut(w http.ResponseWriter, r *http.Request) error   { return p.shutOr(w, r, true) }
func (p *place) reopen(w http.ResponseWriter, r *http.Request) error { return p.shutOr(w, r, false) }

func (p *place) shutOr(w http.ResponseWriter, r *http.Request, shut bool) error {
	if err := frame.ParseForm(r); err != nil {
		return err
	}
	id := frame.ID(r, "id")
	err := judge.Shut(r.Context(), id, r.PostFormValue("press"), shut, r.PostFormValue("why"))
	if failed := problem.Of(err); failed != nil {
		return p.resultsWith(w, r, failed)
	}
	if err != nil {
		return err
	}
	return frame.See(w, r, fmt.Sprintf("/judge/%d/results", id))
}
