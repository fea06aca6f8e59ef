// Package classes is the place of the people who are taught: classes, who is
// in them, what each needs, and the rules by which groups are dealt.
package classes

import (
	"context"
	"embed"
	"errors"
	"fmt"
	"net/http"
	"slices"
	"strconv"
	"strings"

	"github.com/go-chi/chi/v5"

	"freshapron/internal/app"
	"freshapron/internal/core/class"
	"freshapron/internal/core/problem"
	"freshapron/internal/core/staff"
	"freshapron/internal/store"
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
	r.Get("/classes", p.list)
	r.Post("/classes", p.add)
	r.Get("/classes/bring", p.bringForm)
	r.Get("/classes/bring/{list}", p.preview)
	r.Post("/classes/bring/{list}", p.mend)
	r.Post("/classes/bring/{list}/take", p.take)
	r.Get("/classes/{id}", p.show)
	r.Post("/classes/{id}", p.change)
	r.Post("/classes/{id}/staff", p.staff)
	r.Post("/classes/{id}/rules", p.rule)
	r.Post("/classes/{id}/rules/remove", p.unrule)
	r.Get("/classes/{id}/learners/new", p.learner)
	r.Post("/classes/{id}/learners/new", p.saveLearner)
	r.Get("/classes/{id}/learners/{learner}", p.learner)
	r.Post("/classes/{id}/learners/{learner}", p.saveLearner)
	r.Post("/classes/{id}/learners/{learner}/remove", p.removeLearner)
	r.Get("/classes/{id}/class.csv", p.export)
	r.Get("/classes/{id}/class.xlsx", p.export)
}

// Uploads adds the page that takes lists, for which forms may be larger.
func Uploads(r chi.Router, a *app.App, f *frame.Frame) {
	p := &place{a, f}
	r.Post("/classes/bring", p.bring)
}

type classRow struct {
	Href, Name, Age, Learners, Staff string
	Mine                             bool
}

type list struct {
	Rows    []classRow
	Fields  []frame.Field
	Problem bool
}

func (p *place) list(w http.ResponseWriter, r *http.Request) {
	p.listPage(w, r, http.StatusOK, app.ClassForm{}, nil)
}

func fields(in app.ClassForm, problems problem.List) []frame.Field {
	return []frame.Field{
		frame.Text("name", "Name", in.Name, problems), frame.Text("age", "Age in years", in.Age, problems),
		frame.Text("pace", "Pace: 1 is as recipes say", in.Pace, problems), frame.Text("learners", "How many, where nobody is named", in.Learners, problems),
	}
}

func (p *place) listPage(w http.ResponseWriter, r *http.Request, status int, in app.ClassForm, problems problem.List) {
	all, err := p.App.School.Classes(r.Context())
	if err != nil {
		p.Error(w, r, err)
		return
	}
	who, err := p.who(r.Context())
	if err != nil {
		p.Error(w, r, err)
		return
	}
	staffOf, err := p.App.School.Staff(r.Context())
	if err != nil {
		p.Error(w, r, err)
		return
	}
	data := list{Fields: fields(in, problems), Problem: problems != nil}
	for _, c := range all {
		row := classRow{Href: fmt.Sprintf("/classes/%d", c.ID), Name: c.Name, Learners: strconv.Itoa(c.Learners), Age: age(c.Age)}
		var names []string
		for _, id := range staffOf[c.ID] {
			names = append(names, who[id])
		}
		row.Staff = strings.Join(names, ", ")
		row.Mine = slices.Contains(staffOf[c.ID], app.Acting(r.Context()).ID)
		data.Rows = append(data.Rows, row)
	}
	p.Render(w, r, status, templates, "classes", frame.Page{Title: "Classes", Place: "classes", Data: data})
}

func age(years int) string {
	if years == 0 {
		return ""
	}
	return strconv.Itoa(years)
}

// who returns the names of the school's people.
func (p *place) who(ctx context.Context) (map[int64]string, error) {
	accounts, err := p.App.School.Accounts(ctx)
	out := map[int64]string{}
	for _, a := range accounts {
		out[a.ID] = a.Name
	}
	return out, err
}

func read(r *http.Request) app.ClassForm {
	return app.ClassForm{Name: r.PostFormValue("name"), Age: r.PostFormValue("age"), Pace: r.PostFormValue("pace"), Learners: r.PostFormValue("learners")}
}

func (p *place) add(w http.ResponseWriter, r *http.Request) {
	in := read(r)
	id, err := p.AddClass(r.Context(), in)
	var problems problem.List
	switch {
	case errors.As(err, &problems):
		p.listPage(w, r, http.StatusUnprocessableEntity, in, problems)
	case err != nil:
		p.Error(w, r, err)
	default:
		http.Redirect(w, r, fmt.Sprintf("/classes/%d", id), http.StatusSeeOther)
	}
}

type page struct {
	ID      int64
	Version int
	Name    string
	Count   string
	Mine    bool
	Governs bool
	Rows    []learnerRow
	Fields  []frame.Field
	Says    string // what is wrong with what was sent
	Staff   []frame.Option
	Rules   []ruleRow
	Kinds   []frame.Option
	Pick    []frame.Option
	Skills  []string
	Dealt   []dealt
	Broken  []string
	Lessons []lessonLink
}

type lessonLink struct{ Href, When, What string }

type learnerRow struct {
	Href, Name, Born, Level, Can, Notes string
	Food, Access                        []string
}

type ruleRow struct {
	At   int
	Says string
}

type dealt struct {
	Name    string
	Members string
}

func (p *place) show(w http.ResponseWriter, r *http.Request) {
	v, err := p.Class(r.Context(), frame.ID(r, "id"))
	if err != nil {
		p.Error(w, r, err)
		return
	}
	p.page(w, r, http.StatusOK, v, app.ClassForm{Name: v.Class.Name, Age: age(v.Age), Pace: v.Pace.Decimal(2), Learners: strconv.Itoa(v.Learners)}, nil, "")
}

var ruleNames = map[class.RuleKind]string{
	class.Together: "work together", class.AwayFrom: "work apart", class.OneCan: "somebody in each group can do …",
	class.Near: "near the teacher", class.SameDiet: "the same needs about food together",
}

func (p *place) page(w http.ResponseWriter, r *http.Request, status int, v app.ClassView, in app.ClassForm, problems problem.List, says string) {
	ctx := r.Context()
	accounts, err := p.App.School.Accounts(ctx)
	if err != nil {
		p.Error(w, r, err)
		return
	}
	lessons, err := p.App.School.LessonsOf(ctx, v.ID, p.Today(), 5)
	if err != nil {
		p.Error(w, r, err)
		return
	}
	data := page{ID: v.ID, Version: v.Version, Name: v.Class.Name, Mine: v.Mine, Governs: app.May(ctx, staff.Govern), Fields: fields(in, problems), Says: says}
	if len(v.Roster) > 0 {
		data.Fields = data.Fields[:3]
	}
	data.Count = fmt.Sprintf("%d learners", len(v.Roster))
	if len(v.Roster) == 0 {
		data.Count = fmt.Sprintf("%d learners, none of them named", v.Learners)
	}
	if v.Age > 0 {
		data.Count += fmt.Sprintf(", about %d years old", v.Age)
	}
	for _, l := range v.Roster {
		data.Rows = append(data.Rows, rowOf(v, l))
		n := strconv.FormatInt(l.ID, 10)
		data.Pick = append(data.Pick, frame.Option{Value: n, Label: l.Name(), ID: "pick-" + n})
		for _, c := range l.Can {
			if !slices.Contains(data.Skills, c) {
				data.Skills = append(data.Skills, c)
			}
		}
	}
	for i, rule := range v.Rules {
		if rule.Kind == class.SameDiet || v.Mine || rule.Kind == class.OneCan {
			data.Rules = append(data.Rules, ruleRow{i, rule.Says(v.Name)})
		}
	}
	for _, k := range class.RuleKinds {
		data.Kinds = append(data.Kinds, frame.Option{Value: string(k), Label: ruleNames[k]})
	}
	for _, a := range accounts {
		n := strconv.FormatInt(a.ID, 10)
		if !a.Closed {
			data.Staff = append(data.Staff, frame.Option{Value: n, Label: a.Name, Small: a.Role.Name(), Chosen: slices.Contains(v.Staff, a.ID), ID: "staff-" + n})
		}
	}
	if len(v.Roster) > 0 && v.Mine {
		deal := p.Pairs(v)
		for i, g := range deal.Groups {
			data.Dealt = append(data.Dealt, dealt{fmt.Sprintf("Bench %d", i+1), names(g)})
		}
		data.Broken = deal.Says(v.Rules, v.Name)
	}
	for _, l := range lessons {
		data.Lessons = append(data.Lessons, lessonLink{fmt.Sprintf("/lessons/%d", l.ID), l.Date.Format("Monday 2 January") + ", " + l.Period.Start.String(), l.Dish.Title})
	}
	p.Render(w, r, status, templates, "class", frame.Page{Title: v.Class.Name, Place: "classes", Data: data})
}

func names(group []class.Learner) string {
	var out []string
	for _, l := range group {
		out = append(out, l.Name())
	}
	return strings.Join(out, ", ")
}

func rowOf(v app.ClassView, l class.Learner) learnerRow {
	row := learnerRow{Name: l.Name(), Level: l.Level.Name(), Can: strings.Join(l.Can, ", "), Notes: l.Notes}
	if v.Mine {
		row.Href = fmt.Sprintf("/classes/%d/learners/%d", v.ID, l.ID)
	}
	if !l.Born.IsZero() {
		row.Born = l.Born.Format("2 Jan 2006")
	}
	for _, n := range l.Needs {
		says := strings.TrimPrefix(n.Says(), string(n.Kind)+": ")
		if n.Kind == class.Access {
			row.Access = append(row.Access, says)
		} else {
			row.Food = append(row.Food, says)
		}
	}
	return row
}

// answer leads back to the class, or shows what was wrong there.
func (p *place) answer(w http.ResponseWriter, r *http.Request, err error) {
	at := frame.ID(r, "id")
	var problems problem.List
	switch {
	case err == nil:
		http.Redirect(w, r, fmt.Sprintf("/classes/%d", at), http.StatusSeeOther)
	case errors.As(err, &problems), errors.Is(err, store.ErrChanged):
		says, status := "Somebody else changed this class meanwhile. The page shows theirs; nothing of yours was saved.", http.StatusConflict
		if problems != nil {
			says, status = problems[0].Says, http.StatusUnprocessableEntity
		}
		v, err := p.Class(r.Context(), at)
		if err != nil {
			p.Error(w, r, err)
			return
		}
		in := app.ClassForm{Name: v.Class.Name, Age: age(v.Age), Pace: v.Pace.Decimal(2), Learners: strconv.Itoa(v.Learners)}
		if r.PostForm.Has("pace") {
			in = read(r)
		}
		p.page(w, r, status, v, in, problems, says)
	case errors.Is(err, app.ErrNotYours):
		p.Forbidden(w, r)
	default:
		p.Error(w, r, err)
	}
}

func (p *place) change(w http.ResponseWriter, r *http.Request) {
	p.answer(w, r, p.ChangeClass(r.Context(), frame.ID(r, "id"), r.PostFormValue("version"), read(r)))
}

func (p *place) staff(w http.ResponseWriter, r *http.Request) {
	if !p.Parsed(w, r) {
		return
	}
	p.answer(w, r, p.SetStaff(r.Context(), frame.ID(r, "id"), r.PostForm["staff"]))
}

func (p *place) rule(w http.ResponseWriter, r *http.Request) {
	if !p.Parsed(w, r) {
		return
	}
	p.answer(w, r, p.AddRule(r.Context(), frame.ID(r, "id"), app.RuleForm{Kind: r.PostFormValue("kind"), Skill: r.PostFormValue("skill"), Learners: r.PostForm["learner"]}))
}

func (p *place) unrule(w http.ResponseWriter, r *http.Request) {
	p.answer(w, r, p.RemoveRule(r.Context(), frame.ID(r, "id"), r.PostFormValue("version"), r.PostFormValue("at")))
}

type learnerPage struct {
	Class   int64
	ID      int64
	Name    string
	In      string
	Problem string
	Fields  map[string]frame.Field
	Common  []string
}

func (p *place) learner(w http.ResponseWriter, r *http.Request) {
	v, l, ok := p.find(w, r)
	if !ok {
		return
	}
	p.learnerPage(w, r, http.StatusOK, v, l, app.LearnerFormOf(l), "")
}

// find loads the class and the learner of the address, the zero learner where
// one is to be added.
func (p *place) find(w http.ResponseWriter, r *http.Request) (app.ClassView, class.Learner, bool) {
	v, err := p.Class(r.Context(), frame.ID(r, "id"))
	if err != nil {
		p.Error(w, r, err)
		return v, class.Learner{}, false
	}
	if !v.Mine {
		p.Forbidden(w, r)
		return v, class.Learner{}, false
	}
	if chi.URLParam(r, "learner") == "" {
		return v, class.Learner{}, true
	}
	at := slices.IndexFunc(v.Roster, func(l class.Learner) bool { return l.ID == frame.ID(r, "learner") })
	if at < 0 {
		p.NotFound(w, r)
		return v, class.Learner{}, false
	}
	return v, v.Roster[at], true
}

func (p *place) learnerPage(w http.ResponseWriter, r *http.Request, status int, v app.ClassView, l class.Learner, in app.LearnerForm, problem string) {
	data := learnerPage{Class: v.ID, ID: l.ID, Name: l.Name(), In: v.Class.Name, Problem: problem, Common: class.Common()}
	var levels []frame.Option
	levels = append(levels, frame.Option{Label: "not said"})
	for _, level := range class.Levels {
		levels = append(levels, frame.Option{Value: level.Name(), Label: level.Name()})
	}
	data.Fields = map[string]frame.Field{
		"given": frame.Text("given", "Given name", in.Given, nil), "family": frame.Text("family", "Family name", in.Family, nil),
		"code": frame.Text("code", "The school’s number", in.Code, nil), "born": frame.Text("born", "Born", in.Born, nil),
		"level": frame.Choice("level", "Level in the kitchen", in.Level, nil, levels), "can": frame.Text("can", "Can do, so that others can lean on it", in.Can, nil),
		"allergies": frame.Text("allergies", "Allergies", in.Allergies, nil), "diet": frame.Text("diet", "Diet", in.Diet, nil),
		"access": frame.Text("access", "Access needs", in.Access, nil), "notes": frame.Text("notes", "Notes", in.Notes, nil),
	}
	title := l.Name()
	if title == "" {
		title = "A learner of " + v.Class.Name
	}
	p.Render(w, r, status, templates, "learner", frame.Page{Title: title, Place: "classes", Data: data})
}

func (p *place) saveLearner(w http.ResponseWriter, r *http.Request) {
	v, l, ok := p.find(w, r)
	if !ok {
		return
	}
	g := r.PostFormValue
	in := app.LearnerForm{
		Code: g("code"), Given: g("given"), Family: g("family"), Born: g("born"), Level: g("level"), Can: g("can"),
		Allergies: g("allergies"), Diet: g("diet"), Access: g("access"), Notes: g("notes"),
	}
	err := p.SaveLearner(r.Context(), v.ID, l.ID, in)
	var problems problem.List
	if errors.As(err, &problems) {
		p.learnerPage(w, r, http.StatusUnprocessableEntity, v, l, in, problems[0].Says)
		return
	}
	p.answer(w, r, err)
}

func (p *place) removeLearner(w http.ResponseWriter, r *http.Request) {
	p.answer(w, r, p.RemoveLearner(r.Context(), frame.ID(r, "id"), frame.ID(r, "learner")))
}
