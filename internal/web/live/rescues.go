package live

import (
	"errors"
	"fmt"
	"math"
	"net/http"

	"freshapron/internal/app/lessons"
	"freshapron/internal/app/live"
	"freshapron/internal/app/school"
	"freshapron/internal/core/problem"
	"freshapron/internal/web/frame"
	"freshapron/internal/web/head"
)

// A rescuesPage is what would still help a lesson that runs.
type rescuesPage struct {
	head.Top
	Failed  string
	Now     string // how it stands
	Light   string
	Rescues []rescueRow
	Over    bool
}

type rescueRow struct {
	Title, Figure, Light string
	Done                 string
	Costs                []string
}

func (p *place) rescues(w http.ResponseWriter, r *http.Request) error {
	return p.listRescues(w, r, nil)
}

func (p *place) listRescues(w http.ResponseWriter, r *http.Request, failed error) error {
	ctx := r.Context()
	v, err := lessons.One(ctx, frame.ID(r, "id"))
	if err != nil {
		return err
	}
	mine, err := school.Mine(ctx, v.Class.ID)
	if err != nil {
		return err
	}
	m := rescuesPage{Top: head.TopOf(r, v, "What would still help", "Teach", "", mine), Over: true}
	run, err := live.Of(ctx, v.ID)
	switch {
	case errors.Is(err, school.ErrNotFound):
	case err != nil:
		return err
	default:
		m.Over = run.State.Closed || !run.State.Begun
	}
	status := http.StatusOK
	if problems := problem.Of(failed); problems != nil {
		status, m.Failed = http.StatusUnprocessableEntity, problem.Sentence(problems[0].Says)
	}
	if !m.Over {
		m.Now, m.Light = leftSays(run.State.Left())
		list, err := live.Rescues(ctx, run)
		if err != nil {
			return err
		}
		for _, x := range list {
			row := rescueRow{Title: x.Title, Costs: x.Costs, Done: x.Plan.Risk.Benches.Says("bench", "benches")}
			row.Figure, row.Light = leftSays(x.Plan.Deadline - x.Plan.Finish)
			m.Rescues = append(m.Rescues, row)
		}
	}
	return p.Render(w, r, status, templates, "rescues", frame.Page{Title: head.Title("What would still help", v), Place: "teach", Data: m})
}

func (p *place) decide(w http.ResponseWriter, r *http.Request) error {
	if err := frame.ParseForm(r); err != nil {
		return err
	}
	run, err := live.Of(r.Context(), frame.ID(r, "id"))
	if err != nil {
		return err
	}
	if err := live.Decide(r.Context(), run, r.PostFormValue("rescue")); err != nil {
		if problem.Of(err) == nil {
			return err
		}
		return p.listRescues(w, r, err)
	}
	return frame.See(w, r, fmt.Sprintf("/lessons/%d/teach", run.Run.Lesson))
}

// leftSays says how many minutes are left, or missing.
func leftSays(left float64) (says, light string) {
	if left < 0 {
		return minutes(math.Ceil(-left)) + " missing", "stop"
	}
	if left < 2 {
		light = "look"
	}
	return minutes(math.Floor(left)) + " left", light
}
