// Package train is where learners practise and where those who teach see how far
// they are: a practice for a class, the strip to photograph pieces with, and how even
// pieces are.
package train

import (
	"context"
	"embed"
	"errors"
	"fmt"
	"net/http"
	"strconv"
	"strings"

	"freshapron/internal/app/lessons"
	"freshapron/internal/app/school"
	"freshapron/internal/app/train"
	"freshapron/internal/core/problem"
	"freshapron/internal/core/staff"
	"freshapron/internal/core/words"
	"freshapron/internal/web/frame"
)

//go:embed templates/*.html
var files embed.FS

var templates = frame.Parse(files)

type place struct{ *frame.Frame }

// Routes are the pages of those who teach.
func Routes(f *frame.Frame) []frame.Route {
	p := &place{f}
	return []frame.Route{
		frame.Get("/classes/{id}/practice", staff.Teach, p.show),
		frame.Post("/classes/{id}/practice", staff.Teach, p.set),
		frame.Get("/classes/{id}/practice/wall", staff.Teach, p.wall),
		frame.Post("/classes/{id}/practice/end", staff.Teach, p.end),
		frame.Post("/classes/{id}/practice/forget", staff.Teach, p.forget),
		frame.Get("/classes/{id}/learners/{learner}/skills", staff.Teach, p.learner),
		frame.Post("/classes/{id}/learners/{learner}/skills", staff.Teach, p.see),
		frame.Get("/skills", staff.Read, p.graph),
		frame.Post("/skills", staff.Arrange, p.saveGraph),
		frame.Get("/even", staff.Read, p.even),
		frame.Upload("/even", staff.Read, p.measure),
		frame.Get("/even/strip", staff.Read, p.strip),
		frame.Get("/even/example/{number}", staff.Read, p.example),
		frame.Get("/classes/{id}/learners/{learner}/certificate", staff.Teach, p.certificate),
	}
}

// names of the exercises, as teachers read them.
var names = map[string]string{
	"do-scale": "weighing on the drawn scale", "do-dial": "weighing by the needle", "do-jug": "pouring to the mark", "do-spoons": "level spoons", "do-cups": "level cups",
	"knife-hold": "the hold", "knife-order": "the order of cuts", "knife-cut": "cutting alike", "knife-care": "care of knives", "knife-tools": "other tools",
	"scale": "what the scale shows", "dial": "reading the needle", "jug": "reading a jug from above", "spoons": "fewest spoons", "cups": "fewest cups", "parts": "parts of a pack", "oven": "oven settings",
	"convert": "converting", "fraction": "fractions", "scaling": "other portions", "ratio": "ratios", "time": "times", "instrument": "which instrument",
}

type page struct {
	Class   string
	ID      int64
	Mine    bool
	Lessons []lessonRow
	Current *report
	Earlier []earlier
	Failed  string
	Lacking []lackingRow
	More    []lackingRow
	All     int    // learners
	For     string // the lesson that readiness is for
	Known   bool
}

type lessonRow struct {
	ID   int64
	Says string
}

type report struct {
	ID                   int64
	Title, Code, Address string
	Until                string
	Rows                 []row
	Finished, All        int
	Others               int
	Hardest              []string
}

type row struct {
	Name, Does, Stuck string
	ID                int64
	Light             string
}

type earlier struct{ Title, Until string }

// A lackingRow is a skill that is not known of some.
type lackingRow struct {
	Skill, Step, Who, Before, Practise string
	Count                              int
}

func (p *place) show(w http.ResponseWriter, r *http.Request) error { return p.page(w, r, nil) }

func (p *place) page(w http.ResponseWriter, r *http.Request, failed error) error {
	ctx := r.Context()
	s := school.In(ctx)
	c, err := school.ClassOf(ctx, s.School, frame.ID(r, "id"))
	if err != nil {
		return err
	}
	m := page{Class: c.Class.Name, ID: c.Class.ID, Mine: c.Mine}
	status := http.StatusOK
	if problems := problem.Of(failed); problems != nil {
		status, m.Failed = http.StatusUnprocessableEntity, problem.Sentence(problems[0].Says)
	} else if failed != nil {
		return failed
	}
	if !c.Mine {
		return p.Render(w, r, status, templates, "practice", frame.Page{Title: "Practice of " + m.Class, Place: "classes", Data: m})
	}
	list, err := train.Of(ctx, m.ID)
	if err != nil {
		return err
	}
	for i, x := range list {
		if i == 0 && x.Until.After(s.Now()) {
			rep, err := train.ReportOf(ctx, x)
			if err != nil {
				return err
			}
			m.Current = reportOf(rep, r)
			continue
		}
		m.Earlier = append(m.Earlier, earlier{x.Title, x.Until.In(s.Location).Format("2 January")})
	}
	if err := p.coming(ctx, &m); err != nil {
		return err
	}
	return p.Render(w, r, status, templates, "practice", frame.Page{Title: "Practice of " + m.Class, Place: "classes", Data: m})
}

// mostComing is how many of the next lessons a practice is offered for.
const mostComing = 4

// coming are the next lessons of the class, and who is not ready for the first.
func (p *place) coming(ctx context.Context, m *page) error {
	all, err := lessons.Next(ctx, m.ID)
	if err != nil {
		return err
	}
	for i, l := range all[:min(mostComing, len(all))] {
		var titles []string
		for _, c := range l.Menu {
			titles = append(titles, c.Dish.Recipe.Title)
		}
		m.Lessons = append(m.Lessons, lessonRow{l.ID, words.Names(titles) + ", " + l.Date.Format("Monday 2 January")})
		if i > 0 {
			continue
		}
		v, err := lessons.One(ctx, l.ID)
		if err != nil {
			return err
		}
		m.For = v.Core.Titles()
		ready, err := train.Ready(ctx, v)
		if err != nil {
			return err
		}
		m.Known, m.All = ready.Known, len(ready.Names)
		for i, l := range ready.Lacking {
			var who, before []string
			for _, n := range l.Who {
				who = append(who, ready.Names[n])
			}
			for _, s := range l.Before {
				before = append(before, words.Small(s.Name))
			}
			row := lackingRow{l.Skill.Name, l.Step, some(who), words.Names(before), names[l.Practise], len(who)}
			if i < mostLacking {
				m.Lacking = append(m.Lacking, row)
			} else {
				m.More = append(m.More, row)
			}
		}
	}
	return nil
}

// mostLacking skills are shown at once, and mostNames of whom.
const mostLacking, mostNames = 6, 6

func some(list []string) string {
	if len(list) > mostNames {
		return strings.Join(list[:mostNames], ", ") + fmt.Sprintf(" and %d more", len(list)-mostNames)
	}
	return words.Names(list)
}

// mostHard exercises are named.
const mostHard = 3

func reportOf(rep train.Report, r *http.Request) *report {
	s := school.In(r.Context())
	out := &report{ID: rep.ID, Title: rep.Title, Code: rep.Code[:4] + " " + rep.Code[4:], Address: r.Host + "/practise", Until: rep.Until.In(s.Location).Format("Monday 2 January"), Finished: rep.Finished, All: len(rep.Rows), Others: rep.Others}
	for _, x := range rep.Rows {
		line := row{Name: x.Name, ID: x.ID, Does: "not yet"}
		if x.Tries > 0 {
			line.Does, line.Light = fmt.Sprintf("%d of %d right", x.Right, x.Tries), "look"
			if x.Tries >= train.Enough {
				line.Light = "good"
			}
		}
		line.Stuck = names[x.Stuck]
		out.Rows = append(out.Rows, line)
	}
	for i, h := range rep.Hardest {
		if i == mostHard {
			break
		}
		out.Hardest = append(out.Hardest, fmt.Sprintf("%s (%d of %d wrong)", names[h.Template], h.Wrong, h.Tries))
	}
	return out
}

// own is the class of the address, of those who teach it.
func own(r *http.Request) (int64, error) {
	c, err := school.Own(r.Context(), frame.ID(r, "id"))
	return c.Class.ID, err
}

func (p *place) set(w http.ResponseWriter, r *http.Request) error {
	id, err := own(r)
	if err != nil {
		return err
	}
	lesson, _ := strconv.ParseInt(r.PostFormValue("lesson"), 10, 64)
	_, err = train.Set(r.Context(), id, lesson)
	if errors.Is(err, school.ErrNotFound) {
		err = problem.New("lesson", "This lesson is not there any more. Choose another")
	}
	if err != nil {
		return p.page(w, r, err)
	}
	return frame.See(w, r, fmt.Sprintf("/classes/%d/practice", id))
}

func (p *place) end(w http.ResponseWriter, r *http.Request) error {
	id, err := own(r)
	if err != nil {
		return err
	}
	which, _ := strconv.ParseInt(r.PostFormValue("practice"), 10, 64)
	if err := train.End(r.Context(), id, which); err != nil {
		return err
	}
	return frame.See(w, r, fmt.Sprintf("/classes/%d/practice", id))
}

func (p *place) forget(w http.ResponseWriter, r *http.Request) error {
	id, err := own(r)
	if err != nil {
		return err
	}
	who, _ := strconv.ParseInt(r.PostFormValue("learner"), 10, 64)
	if err := train.Forget(r.Context(), id, who); err != nil {
		return err
	}
	return frame.See(w, r, fmt.Sprintf("/classes/%d/practice", id))
}
