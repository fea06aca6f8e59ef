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

	"freshapron/internal/app/classes"
	"freshapron/internal/app/lessons"
	"freshapron/internal/app/people"
	"freshapron/internal/app/school"
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

// Routes are the pages of this place.
func Routes(f *frame.Frame) []frame.Route {
	p := &place{f}
	return []frame.Route{
		frame.Get("/classes", staff.Teach, p.list),
		frame.Post("/classes", staff.Teach, p.add),
		frame.Get("/classes/bring", staff.Teach, p.bringForm),
		frame.Get("/classes/bring/{list}", staff.Teach, p.preview),
		frame.Post("/classes/bring/{list}", staff.Teach, p.mend),
		frame.Post("/classes/bring/{list}/take", staff.Teach, p.take),
		frame.Get("/classes/{id}", staff.Teach, p.show),
		frame.Post("/classes/{id}", staff.Teach, p.change),
		frame.Post("/classes/{id}/staff", staff.Govern, p.staff),
		frame.Post("/classes/{id}/rules", staff.Teach, p.rule),
		frame.Post("/classes/{id}/rules/remove", staff.Teach, p.unrule),
		frame.Get("/classes/{id}/learners/new", staff.Teach, p.learner),
		frame.Post("/classes/{id}/learners/new", staff.Teach, p.saveLearner),
		frame.Get("/classes/{id}/learners/{learner}", staff.Teach, p.learner),
		frame.Post("/classes/{id}/learners/{learner}", staff.Teach, p.saveLearner),
		frame.Post("/classes/{id}/learners/{learner}/remove", staff.Teach, p.removeLearner),
		frame.Get("/classes/{id}/learners/{learner}/data.json", staff.Teach, p.about),
		frame.Get("/classes/{id}/class.csv", staff.Teach, p.export),
		frame.Get("/classes/{id}/class.xlsx", staff.Teach, p.export),
		frame.Upload("/classes/bring", staff.Teach, p.bring),
	}
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

func (p *place) list(w http.ResponseWriter, r *http.Request) error {
	return p.listPage(w, r, http.StatusOK, classes.ClassForm{}, nil)
}

func fields(in classes.ClassForm, problems problem.List) []frame.Field {
	return []frame.Field{
		frame.Text("name", "Name", in.Name, problems), frame.Text("age", "Age in years", in.Age, problems),
		frame.Text("pace", "Pace: 1 is as recipes say", in.Pace, problems), frame.Text("learners", "How many, where nobody is named", in.Learners, problems),
	}
}

func (p *place) listPage(w http.ResponseWriter, r *http.Request, status int, in classes.ClassForm, problems problem.List) error {
	all, err := classes.All(r.Context())
	if err != nil {
		return err
	}
	names, err := who(r.Context())
	if err != nil {
		return err
	}
	staffOf, err := classes.Staff(r.Context())
	if err != nil {
		return err
	}
	data := list{Fields: fields(in, problems), Problem: problems != nil}
	for _, c := range all {
		row := classRow{Href: fmt.Sprintf("/classes/%d", c.ID), Name: c.Name, Learners: strconv.Itoa(c.Learners), Age: age(c.Age)}
		var staff []string
		for _, id := range staffOf[c.ID] {
			staff = append(staff, names[id])
		}
		row.Staff = strings.Join(staff, ", ")
		row.Mine = slices.Contains(staffOf[c.ID], school.Acting(r.Context()).ID)
		data.Rows = append(data.Rows, row)
	}
	return p.Render(w, r, status, templates, "classes", frame.Page{Title: "Classes", Place: "classes", Data: data})
}

func age(years int) string {
	if years == 0 {
		return ""
	}
	return strconv.Itoa(years)
}

// who returns the names of the school's people.
func who(ctx context.Context) (map[int64]string, error) {
	accounts, err := people.All(ctx)
	out := map[int64]string{}
	for _, a := range accounts {
		out[a.ID] = a.Name
	}
	return out, err
}

func read(r *http.Request) (classes.ClassForm, error) {
	var in classes.ClassForm
	return in, frame.Decode(r, &in)
}

func (p *place) add(w http.ResponseWriter, r *http.Request) error {
	in, err := read(r)
	if err != nil {
		return err
	}
	id, err := classes.AddClass(r.Context(), in)
	var problems problem.List
	switch {
	case errors.As(err, &problems):
		return p.listPage(w, r, http.StatusUnprocessableEntity, in, problems)
	case err != nil:
		return err
	default:
		return frame.See(w, r, fmt.Sprintf("/classes/%d", id))
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
	Asked                               bool // something about food that nobody has explained
}

type ruleRow struct {
	At   int
	Says string
}

type dealt struct {
	Name    string
	Members string
}

func (p *place) show(w http.ResponseWriter, r *http.Request) error {
	v, err := classes.One(r.Context(), frame.ID(r, "id"))
	if err != nil {
		return err
	}
	return p.page(w, r, http.StatusOK, v, classes.ClassForm{Name: v.Class.Name, Age: age(v.Age), Pace: v.Pace.Decimal(2), Learners: strconv.Itoa(v.Learners)}, nil, "")
}

var ruleNames = map[class.RuleKind]string{
	class.Together: "work together", class.AwayFrom: "work apart", class.OneCan: "somebody in each group can do …",
	class.Near: "near the teacher", class.SameDiet: "the same needs about food together",
}

func (p *place) page(w http.ResponseWriter, r *http.Request, status int, v school.Class, in classes.ClassForm, problems problem.List, says string) error {
	ctx := r.Context()
	accounts, err := people.All(ctx)
	if err != nil {
		return err
	}
	next, err := lessons.Next(ctx, v.ID)
	if err != nil {
		return err
	}
	data := page{ID: v.ID, Version: v.Version, Name: v.Class.Name, Mine: v.Mine, Governs: school.May(ctx, staff.Govern), Fields: fields(in, problems), Says: says}
	if len(v.Roster) > 0 {
		data.Fields = data.Fields[:3]
	}
	data.Count = words.Plural(len(v.Roster), "learner", "learners")
	if len(v.Roster) == 0 {
		data.Count = words.Plural(v.Learners, "learner", "learners") + ", none of them named"
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
			data.Rules = append(data.Rules, ruleRow{i, rule.Says(v.NameOf)})
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
		deal := classes.Pairs(v)
		for i, g := range deal.Groups {
			data.Dealt = append(data.Dealt, dealt{fmt.Sprintf("Bench %d", i+1), names(g)})
		}
		data.Broken = deal.Says(v.Rules, v.NameOf)
	}
	for _, l := range next {
		data.Lessons = append(data.Lessons, lessonLink{fmt.Sprintf("/lessons/%d", l.ID), l.Date.Format("Monday 2 January") + ", " + l.Period.Start.String(), l.Titles()})
	}
	return p.Render(w, r, status, templates, "class", frame.Page{Title: v.Class.Name, Place: "classes", Data: data})
}

func names(group []class.Learner) string {
	var out []string
	for _, l := range group {
		out = append(out, l.Name())
	}
	return strings.Join(out, ", ")
}

func rowOf(v school.Class, l class.Learner) learnerRow {
	row := learnerRow{Name: l.Name(), Level: l.Level.Name(), Can: strings.Join(l.Can, ", "), Notes: l.Notes}
	if v.Mine {
		row.Href = fmt.Sprintf("/classes/%d/learners/%d", v.ID, l.ID)
	}
	if !l.Born.IsZero() {
		row.Born = l.Born.Format("2 Jan 2006")
	}
	for _, n := range l.Needs {
		says := strings.TrimPrefix(n.Says(), string(n.Kind)+": ")
		if n.Unclear() != nil {
			row.Asked = true
			says = "? " + says
		}
		if n.Kind == class.Access {
			row.Access = append(row.Access, says)
		} else {
			row.Food = append(row.Food, says)
		}
	}
	return row
}

// answer leads back to the class, or shows what was wrong there.
func (p *place) answer(w http.ResponseWriter, r *http.Request, err error) error {
	at := frame.ID(r, "id")
	var problems problem.List
	switch {
	case err == nil:
		return frame.See(w, r, fmt.Sprintf("/classes/%d", at))
	case errors.As(err, &problems), errors.Is(err, school.ErrChanged):
		says, status := "This class was changed after this page was opened, in another window or by somebody else. The page shows it as it is now; nothing of yours was saved.", http.StatusConflict
		if problems != nil {
			says, status = problems[0].Says, http.StatusUnprocessableEntity
		}
		v, err := classes.One(r.Context(), at)
		if err != nil {
			return err
		}
		in := classes.ClassForm{Name: v.Class.Name, Age: age(v.Age), Pace: v.Pace.Decimal(2), Learners: strconv.Itoa(v.Learners)}
		if r.PostForm.Has("pace") {
			if in, err = read(r); err != nil {
				return err
			}
		}
		return p.page(w, r, status, v, in, problems, says)
	case errors.Is(err, school.ErrNotYours):
		return school.ErrNotYours
	default:
		return err
	}
}

func (p *place) change(w http.ResponseWriter, r *http.Request) error {
	in, err := read(r)
	if err != nil {
		return err
	}
	return p.answer(w, r, classes.ChangeClass(r.Context(), frame.ID(r, "id"), r.PostFormValue("version"), in))
}

func (p *place) staff(w http.ResponseWriter, r *http.Request) error {
	if err := frame.ParseForm(r); err != nil {
		return err
	}
	return p.answer(w, r, classes.SetStaff(r.Context(), frame.ID(r, "id"), r.PostForm["staff"]))
}

func (p *place) rule(w http.ResponseWriter, r *http.Request) error {
	var in classes.RuleForm
	if err := frame.Decode(r, &in); err != nil {
		return err
	}
	return p.answer(w, r, classes.AddRule(r.Context(), frame.ID(r, "id"), in))
}

func (p *place) unrule(w http.ResponseWriter, r *http.Request) error {
	return p.answer(w, r, classes.RemoveRule(r.Context(), frame.ID(r, "id"), r.PostFormValue("version"), r.PostFormValue("at")))
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

func (p *place) learner(w http.ResponseWriter, r *http.Request) error {
	v, l, err := find(r)
	if err != nil {
		return err
	}
	return p.learnerPage(w, r, http.StatusOK, v, l, classes.LearnerFormOf(l), "")
}

// find loads the class and the learner of the address, the zero learner where
// one is to be added.
func find(r *http.Request) (school.Class, class.Learner, error) {
	v, err := classes.One(r.Context(), frame.ID(r, "id"))
	switch {
	case err != nil:
		return v, class.Learner{}, err
	case !v.Mine:
		return v, class.Learner{}, school.ErrNotYours
	case chi.URLParam(r, "learner") == "":
		return v, class.Learner{}, nil
	}
	at := slices.IndexFunc(v.Roster, func(l class.Learner) bool { return l.ID == frame.ID(r, "learner") })
	if at < 0 {
		return v, class.Learner{}, school.ErrNotFound
	}
	return v, v.Roster[at], nil
}

func (p *place) learnerPage(w http.ResponseWriter, r *http.Request, status int, v school.Class, l class.Learner, in classes.LearnerForm, problem string) error {
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
	return p.Render(w, r, status, templates, "learner", frame.Page{Title: title, Place: "classes", Data: data})
}

func (p *place) saveLearner(w http.ResponseWriter, r *http.Request) error {
	v, l, err := find(r)
	if err != nil {
		return err
	}
	var in classes.LearnerForm
	if err := frame.Decode(r, &in); err != nil {
		return err
	}
	err = classes.SaveLearner(r.Context(), v.ID, l.ID, in)
	if problems := problem.Of(err); problems != nil {
		return p.learnerPage(w, r, http.StatusUnprocessableEntity, v, l, in, problems[0].Says)
	}
	return p.answer(w, r, err)
}

func (p *place) removeLearner(w http.ResponseWriter, r *http.Request) error {
	return p.answer(w, r, classes.RemoveLearner(r.Context(), frame.ID(r, "id"), frame.ID(r, "learner")))
}

// about gives all that is held about a learner, as a file for them or their family.
func (p *place) about(w http.ResponseWriter, r *http.Request) error {
	learner := frame.ID(r, "learner")
	held, err := classes.About(r.Context(), frame.ID(r, "id"), learner)
	if err != nil {
		return err
	}
	frame.Attach(w, "application/json", fmt.Sprintf("learner-%d.json", learner))
	_, err = w.Write(held)
	return err
}
