package train

import (
	"cmp"
	"fmt"
	"net/http"
	"strings"

	"github.com/google/uuid"

	"freshapron/internal/app/school"
	"freshapron/internal/app/train"
	"freshapron/internal/core/problem"
	"freshapron/internal/core/skills"
	"freshapron/internal/core/staff"
	"freshapron/internal/web/frame"
)

type skillsPage struct {
	Class, Name, Given string
	School             string
	ClassID, ID        int64
	Date               string
	Can                []skillRow
	Next               []string
	Skills             []skillOption
	Skill, Level       string
	Press              string
	Problem            string
}

type skillRow struct{ Name, Level, Why, Light string }

type skillOption struct {
	ID, Says string
	On       bool
}

// mostNext skills are said to come next.
const mostNext = 8

func (p *place) learner(w http.ResponseWriter, r *http.Request) error {
	return p.learnerWith(w, r, http.StatusOK, skillsPage{})
}

// certificate is what a learner can by themselves, to be printed and signed.
func (p *place) certificate(w http.ResponseWriter, r *http.Request) error {
	who, err := train.Learner(r.Context(), frame.ID(r, "id"), frame.ID(r, "learner"))
	if err != nil {
		return err
	}
	m := skillsPage{School: school.In(r.Context()).Name, ClassID: who.Class.ID, ID: who.ID, Name: who.Name, Given: who.Given, Date: today(r)}
	for i, s := range who.Skills.Skills {
		if who.Standings[i].Level >= skills.Can {
			m.Can = append(m.Can, skillRow{Name: s.Name})
		}
	}
	return p.Render(w, r, http.StatusOK, templates, "certificate", frame.Page{Title: "Certificate of " + m.Given, Place: "classes", Data: m})
}

func (p *place) learnerWith(w http.ResponseWriter, r *http.Request, status int, m skillsPage) error {
	who, err := train.Learner(r.Context(), frame.ID(r, "id"), frame.ID(r, "learner"))
	if err != nil {
		return err
	}
	m.Class, m.ClassID, m.Name, m.Given, m.ID, m.Press = who.Class.Name, who.Class.ID, who.Name, who.Given, who.ID, uuid.NewString()
	m.Date = today(r)
	for i, s := range who.Skills.Skills {
		m.Skills = append(m.Skills, skillOption{s.ID, s.Name, s.ID == m.Skill})
		if at := who.Standings[i]; at.Level > 0 {
			row := skillRow{Name: s.Name, Level: skills.LevelWords[at.Level], Why: why(at)}
			if at.Level > skills.Begins {
				row.Light = "good"
			}
			m.Can = append(m.Can, row)
		}
	}
	for _, s := range who.Next[:min(mostNext, len(who.Next))] {
		m.Next = append(m.Next, s.Name)
	}
	return p.Render(w, r, status, templates, "skills", frame.Page{Title: "What " + m.Given + " can", Place: "classes", Data: m})
}

type graphPage struct {
	Rows     []graphRow
	Text     string
	Problems []string
	May, Own bool
}

type graphRow struct{ Name, Young, On, Said string }

func (p *place) graph(w http.ResponseWriter, r *http.Request) error {
	return p.graphWith(w, r, "", nil)
}

func (p *place) graphWith(w http.ResponseWriter, r *http.Request, text string, failed problem.List) error {
	g, err := train.Skills(r.Context())
	if err != nil {
		return err
	}
	m := graphPage{Text: cmp.Or(text, g.Text()), May: school.May(r.Context(), staff.Arrange), Own: g.Text() != skills.Shipped.Text()}
	for _, s := range g.Skills {
		row := graphRow{Name: s.Name, Young: s.Young, Said: strings.Join(s.Said, ", ")}
		var on []string
		for _, id := range s.On {
			below, _ := g.Find(id)
			on = append(on, below.Name)
		}
		row.On = strings.Join(on, ", ")
		m.Rows = append(m.Rows, row)
	}
	status := http.StatusOK
	for _, f := range failed {
		status, m.Problems = http.StatusUnprocessableEntity, append(m.Problems, problem.Sentence(f.Says))
	}
	return p.Render(w, r, status, templates, "graph", frame.Page{Title: "Skills", Place: "classes", Data: m})
}

func (p *place) saveGraph(w http.ResponseWriter, r *http.Request) error {
	if err := frame.ParseForm(r); err != nil {
		return err
	}
	text := strings.ReplaceAll(r.PostFormValue("skills"), "\r", "")
	if r.PostFormValue("how") == "shipped" {
		text = ""
	} else if text == "" {
		text = "\n" // no skill at all, which is said
	}
	err := train.SaveSkills(r.Context(), text)
	if problems := problem.Of(err); problems != nil {
		return p.graphWith(w, r, text, problems)
	}
	if err != nil {
		return err
	}
	return frame.See(w, r, "/skills")
}

// howSays are the ways of evidence in words.
var howSays = map[skills.How]string{skills.Seen: "seen", skills.Asked: "asked", skills.Practised: "practised", skills.Measured: "measured", skills.Made: "made"}

// why says what a standing rests on, and how fresh that is.
func why(s skills.Standing) string {
	if s.Best.By == skills.OnList {
		return "on the class list"
	}
	fresh := "lately"
	switch {
	case s.Fresh < 0.5:
		fresh = "long ago: fading"
	case s.Fresh < 0.8:
		fresh = "some time ago"
	}
	says := fmt.Sprintf("%s by %s on %s, %s", howSays[s.Best.How], s.Best.By, s.Best.At.Format("2 January"), fresh)
	return strings.Replace(says, "made by a lesson", "made in a lesson", 1)
}

func (p *place) see(w http.ResponseWriter, r *http.Request) error {
	if err := frame.ParseForm(r); err != nil {
		return err
	}
	class, id := frame.ID(r, "id"), frame.ID(r, "learner")
	m := skillsPage{Skill: r.PostFormValue("skill"), Level: r.PostFormValue("level")}
	press := r.PostFormValue("press")
	if uuid.Validate(press) != nil {
		press = uuid.NewString()
	}
	err := train.See(r.Context(), class, id, m.Skill, skills.How(r.PostFormValue("how")), m.Level, press)
	if problems := problem.Of(err); problems != nil {
		m.Problem = problem.Sentence(problems[0].Says)
		return p.learnerWith(w, r, http.StatusUnprocessableEntity, m)
	}
	if err != nil {
		return err
	}
	return frame.See(w, r, fmt.Sprintf("/classes/%d/learners/%d/skills", class, id))
}

func today(r *http.Request) string {
	s := school.In(r.Context())
	return s.Now().In(s.Location).Format("2 January 2006")
}
