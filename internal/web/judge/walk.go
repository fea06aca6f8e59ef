package judge

import (
	"encoding/json"
	"fmt"
	"net/http"
	"slices"
	"strconv"
	"strings"
	"time"

	"github.com/google/uuid"

	"freshapron/internal/app/judge"
	"freshapron/internal/app/school"
	"freshapron/internal/core/assess"
	"freshapron/internal/core/problem"
	"freshapron/internal/web/frame"
)

// A walkPage is the assessor's: learners in the order of walking round, what they are at
// by their plan, and one press each.
type walkPage struct {
	Top
	Clock     string
	Now       bool // the practical is on
	Rows      []walkRow
	Questions []string
	Kinds     []string
}

type walkRow struct {
	ID              int64
	Name, Bench     string
	At, Next        string // by their own plan, or by the school's
	Last, LastLight string
	Seen            int
	Notes           []seenRow
}

func (p *place) walk(w http.ResponseWriter, r *http.Request) error { return p.walkWith(w, r, nil) }

func (p *place) walkWith(w http.ResponseWriter, r *http.Request, failed problem.List) error {
	t, b, err := p.open(r)
	if err != nil {
		return err
	}
	entries, err := judge.Entries(r.Context(), t)
	if err != nil {
		return err
	}
	in := school.In(r.Context())
	now := in.Now().In(in.Location)
	m := walkPage{Top: topOf(t, b, "Walk", failed), Questions: t.Questions, Kinds: []string{string(assess.OnPlan), string(assess.IsBehind), string(assess.Other)}, Clock: now.Format("15:04")}
	minute := float64(now.Hour()*60+now.Minute()) - float64(t.View.Period.Start)
	day := now.Format(time.DateOnly) == t.View.Date.Format(time.DateOnly)
	m.Now = day && minute >= 0 && minute <= t.View.Fit.Minutes().Float()
	for i, bench := range t.View.Benches {
		for _, l := range bench.Members {
			row := walkRow{ID: l.ID, Name: l.Name(), Bench: t.View.Benches[i].Name}
			if m.Now {
				plan, _ := judge.PlanOf(r.Context(), t, l.ID, entries[l.ID]) // one that can't be read has no rows
				row.At, row.Next = plan.Now(minute)
			}
			sheet := b.Sheet(l.ID)
			row.Notes = seenOf(t, sheet)
			row.Seen = len(row.Notes)
			if row.Seen > 0 {
				last := row.Notes[row.Seen-1]
				row.Last, row.LastLight = last.Clock+" "+last.Says, last.Light
			}
			slices.Reverse(row.Notes)
			m.Rows = append(m.Rows, row)
		}
	}
	return p.Render(w, r, status(failed), templates, "walk-round", frame.Page{Title: "Walk: " + t.Title, Place: "judge", Data: m})
}

type saidJSON struct {
	ID      string    `json:"id"`
	SaidAt  time.Time `json:"said_at"`
	Learner string    `json:"learner"`
	Kind    string    `json:"kind"`
	Says    string    `json:"says"`
	Done    string    `json:"done"`
}

// tell takes what was pressed while walking round: a form, or what a screen kept while
// there was no network.
func (p *place) tell(w http.ResponseWriter, r *http.Request) error {
	t, _, err := p.open(r)
	if err != nil {
		return err
	}
	now := school.In(r.Context()).Now()
	var list []judge.Said
	asJSON := strings.HasPrefix(r.Header.Get("Content-Type"), "application/json")
	if asJSON {
		var in []saidJSON
		if err := json.NewDecoder(r.Body).Decode(&in); err != nil {
			return problem.New("records", "This is no list of records")
		}
		for _, x := range in {
			s := judge.Said{Press: x.ID, Kind: assess.RecordKind(x.Kind), Says: x.Says, Done: x.Done}
			s.Learner, _ = strconv.ParseInt(x.Learner, 10, 64)
			if !x.SaidAt.IsZero() {
				s.Ago = now.Sub(x.SaidAt)
			}
			list = append(list, s)
		}
	} else {
		if err := frame.ParseForm(r); err != nil {
			return err
		}
		v := r.PostFormValue
		s := judge.Said{Press: uuid.NewString(), Kind: assess.RecordKind(v("kind")), Says: v("says"), Done: v("done")}
		s.Learner, _ = strconv.ParseInt(v("learner"), 10, 64)
		list = append(list, s)
	}
	err = judge.Walk(r.Context(), t, list)
	failed := problem.Of(err)
	switch {
	case failed != nil && asJSON:
		w.Header().Set("Content-Type", "application/json")
		w.WriteHeader(http.StatusUnprocessableEntity)
		return json.NewEncoder(w).Encode(failed)
	case failed != nil:
		return p.walkWith(w, r, failed)
	case err != nil:
		return err
	case asJSON:
		w.WriteHeader(http.StatusNoContent)
		return nil
	}
	return frame.See(w, r, fmt.Sprintf("/judge/%d/walk", t.ID))
}
