package live

import (
	"errors"
	"fmt"
	"math"
	"net/http"
	"slices"
	"strconv"
	"strings"

	"github.com/google/uuid"

	"freshapron/internal/app/lessons"
	"freshapron/internal/app/live"
	"freshapron/internal/app/school"
	"freshapron/internal/core/class"
	core "freshapron/internal/core/live"
	"freshapron/internal/core/problem"
	"freshapron/internal/core/recipe"
	"freshapron/internal/core/staff"
	"freshapron/internal/web/frame"
	"freshapron/internal/web/head"
)

// A showPage is the demonstration on the wall: step after step, with words and
// questions.
type showPage struct {
	head.Top
	Dishes             []link // of the menu, where there are several
	Which, At          int    // of the dishes, and of its steps; from 0
	Step, Steps        int    // for people to read
	Again              string
	Title, Text        string
	LookFor, Hazard    string
	Mistake            string
	Words              []recipe.Word
	Back, Next         string
	Used               string // of the demonstration's minutes
	Questions          []link
	Question           *question
	Failed             string
	MayAsk, Runs, Real bool
}

type link struct {
	Href, Says string
	Here       bool
}

type question struct {
	Number      int
	Ask, Answer string
	Spot        bool
	Whom        string // given name of who has had the fewest turns
	Learner     int64
	Other       string // address under which it is somebody else
}

// shown is what of a demonstration is on the wall.
type shown struct{ dish, step, ask, skip int }

func shownOf(r *http.Request) shown {
	n := func(name string) int {
		i, _ := strconv.Atoi(r.FormValue(name))
		return max(0, min(i, 1000))
	}
	return shown{n("dish"), n("step"), n("ask"), n("skip")}
}

func (s shown) href(id int64) string {
	return fmt.Sprintf("/lessons/%d/show?dish=%d&step=%d&ask=%d&skip=%d", id, s.dish, s.step, s.ask, s.skip)
}

func (p *place) show(w http.ResponseWriter, r *http.Request) error {
	return p.drawShow(w, r, shownOf(r), nil)
}

func (p *place) drawShow(w http.ResponseWriter, r *http.Request, at shown, failed error) error {
	ctx := r.Context()
	v, err := lessons.One(ctx, frame.ID(r, "id"))
	if err != nil {
		return err
	}
	mine, err := school.Mine(ctx, v.Class.ID)
	if err != nil {
		return err
	}
	m := showPage{Top: head.TopOf(r, v, "Show", "Teach", "", mine), MayAsk: school.May(ctx, staff.Teach)}
	status := http.StatusOK
	if problems := problem.Of(failed); problems != nil {
		status, m.Failed = http.StatusUnprocessableEntity, problem.Sentence(problems[0].Says)
	}
	run, err := live.Of(ctx, v.ID)
	switch {
	case errors.Is(err, school.ErrNotFound):
	case err != nil:
		return err
	default:
		m.Runs, m.Real = run.State.Begun && !run.State.Closed, run.Rehearsal == nil
		m.Used = usedOf(run)
	}
	m.fill(v, at)
	if m.Question != nil {
		if err := m.whom(r, v, at); err != nil {
			return err
		}
	}
	return p.Render(w, r, status, templates, "show", frame.Page{Title: head.Title("Show", v), Place: "teach", Data: m})
}

// usedOf says how many of the minutes of the phase that goes on are used.
func usedOf(run *live.Run) string {
	s := run.State
	name, until := s.Phase()
	if name == "" {
		return ""
	}
	return fmt.Sprintf("%s: %s left", name, minutes(math.Max(0, math.Ceil(until-s.Now))))
}

func (m *showPage) fill(v *lessons.View, at shown) {
	at.dish = min(at.dish, len(v.Core.Menu)-1)
	for i, c := range v.Core.Menu {
		if len(v.Core.Menu) > 1 {
			m.Dishes = append(m.Dishes, link{shown{dish: i}.href(v.ID), c.Recipe.Title, i == at.dish})
		}
	}
	r := v.Core.Menu[at.dish].Recipe
	m.Steps = len(r.Steps)
	if m.Steps > 0 {
		at.step = min(at.step, m.Steps-1)
		s := r.Steps[at.step]
		m.Step, m.Title, m.Text, m.LookFor, m.Hazard, m.Mistake = at.step+1, s.Label(), s.Text, s.LookFor, s.Hazard, s.Mistake
		text := strings.ToLower(strings.Join([]string{s.Title, s.Text, s.LookFor}, " "))
		for _, w := range r.Words {
			if strings.Contains(text, strings.ToLower(w.Word)) {
				m.Words = append(m.Words, w)
			}
		}
		if at.step > 0 {
			m.Back = shown{dish: at.dish, step: at.step - 1}.href(v.ID)
		}
		if at.step+1 < m.Steps {
			m.Next = shown{dish: at.dish, step: at.step + 1}.href(v.ID)
		}
	}
	m.Which, m.At, m.Again = at.dish, at.step, shown{dish: at.dish, step: at.step}.href(v.ID)
	for i, q := range r.Questions {
		says := fmt.Sprintf("Question %d", i+1)
		if q.Spot {
			says = "Spot the mistake"
		}
		m.Questions = append(m.Questions, link{shown{dish: at.dish, step: at.step, ask: i + 1}.href(v.ID), says, i+1 == at.ask})
		if i+1 == at.ask {
			other := at
			other.skip++
			m.Question = &question{Number: at.ask, Ask: q.Ask, Answer: q.Answer, Spot: q.Spot, Other: other.href(v.ID)}
		}
	}
}

// whom says who is asked: of those who are there, who has had the fewest turns.
func (m *showPage) whom(r *http.Request, v *lessons.View, at shown) error {
	present := v.Core.Present()
	asked, err := live.Whom(r.Context(), v.Class.ID)
	if err != nil || len(present) == 0 {
		return err
	}
	var there []int64
	for _, l := range present {
		there = append(there, l.ID)
	}
	m.Question.Learner, _ = core.Pick(there, asked, at.skip, fmt.Sprintf("%d, %d, %d", v.ID, at.dish, at.ask))
	who := present[slices.IndexFunc(present, func(l class.Learner) bool { return l.ID == m.Question.Learner })]
	m.Question.Whom = who.Given
	if slices.ContainsFunc(present, func(l class.Learner) bool { return l.ID != who.ID && l.Given == who.Given }) && who.Family != "" {
		m.Question.Whom = "one of those called " + who.Given // no family name stands on a wall
	}
	return nil
}

// ask records who was asked, and goes on.
func (p *place) ask(w http.ResponseWriter, r *http.Request) error {
	if err := frame.ParseForm(r); err != nil {
		return err
	}
	ctx := r.Context()
	at := shownOf(r)
	run, err := live.Of(ctx, frame.ID(r, "id"))
	if err != nil {
		return err
	}
	learner, _ := strconv.ParseInt(r.PostFormValue("learner"), 10, 64)
	err = live.Tell(ctx, run, school.Acting(ctx).Name, []live.Said{{ID: uuid.NewString(), Kind: core.Asked,
		Event: core.Event{Learner: learner, Says: r.PostFormValue("question"), Done: r.PostFormValue("done")}}})
	if err != nil {
		if problem.Of(err) == nil {
			return err
		}
		return p.drawShow(w, r, at, err)
	}
	at.ask, at.skip = 0, 0
	return frame.See(w, r, at.href(run.Run.Lesson))
}
