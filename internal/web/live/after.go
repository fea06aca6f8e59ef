package live

import (
	"errors"
	"fmt"
	"math"
	"net/http"

	"freshapron/internal/app/lessons"
	"freshapron/internal/app/live"
	"freshapron/internal/app/school"
	core "freshapron/internal/core/live"
	"freshapron/internal/core/words"
	"freshapron/internal/web/frame"
	"freshapron/internal/web/head"
)

// An afterPage is planned against real, on the line from door to bell.
type afterPage struct {
	head.Top
	None      bool
	Rehearsal bool
	Benches   []afterBench
	Steps     []afterStep
	Log       []logRow
	Pictures  []pictureRow
	Width     float64
	Bell      float64
	Ticks     []mark
	Pace      string // of the class, by what benches have said
	ClassID   int64
}

type afterBench struct {
	Name          string
	Planned, Real []bar
	Finish        string
	Late          string
	Light         string
}

type bar struct {
	X, W  float64
	Title string
	Class string // known or assumed
}

// An afterStep is what a step took over all benches.
type afterStep struct {
	Title          string
	Planned, Real  string
	Known, Assumed int
}

const afterWidth = 1000

func (p *place) after(w http.ResponseWriter, r *http.Request) error {
	ctx := r.Context()
	v, err := lessons.One(ctx, frame.ID(r, "id"))
	if err != nil {
		return err
	}
	mine, err := school.Mine(ctx, v.Class.ID)
	if err != nil {
		return err
	}
	m := afterPage{ClassID: v.Class.ID, Top: head.TopOf(r, v, "Planned and real", "Teach", "", mine), Width: afterWidth}
	run, err := live.Of(ctx, v.ID)
	switch {
	case errors.Is(err, school.ErrNotFound):
		m.None = true
	case err != nil:
		return err
	default:
		m.fill(run)
	}
	return p.Render(w, r, http.StatusOK, templates, "after", frame.Page{Title: head.Title("Planned and real", v), Place: "teach", Data: m})
}

func (m *afterPage) fill(run *live.Run) {
	l, s := run.Lesson, run.State
	m.Rehearsal = run.Rehearsal != nil
	bell := l.Minutes().Float()
	x := func(minute float64) float64 { return math.Round(afterWidth * min(1.1, max(0, minute/bell)) / 1.1) }
	m.Bell = x(bell)
	if pace := s.Pace(); pace.Records > 0 {
		m.Pace = fmt.Sprintf("The class worked at %.2f times the planned minutes, likely between %.2f and %.2f: from %s that benches said.",
			pace.Factor, pace.Low, pace.High, words.Plural(pace.Records, "time", "times"))
	}
	for t := 0.0; t <= bell; t += 10 {
		m.Ticks = append(m.Ticks, mark{x(t), x(t), l.At(t)})
	}
	for _, b := range s.Benches {
		row := afterBench{Name: b.Name, Finish: l.At(b.Finish())}
		row.Late, row.Light = lateSays(b.Late)
		for _, st := range b.Steps {
			row.Planned = append(row.Planned, bar{x(st.Planned.Start), max(2, x(st.Planned.End)-x(st.Planned.Start)), st.Title, "planned"})
			if st.Stage == core.ToCome || st.Stage == core.NotDone {
				continue
			}
			class := "assumed"
			if st.KnownEnd || st.KnownStart {
				class = "known"
			}
			end := min(st.End, s.Now)
			row.Real = append(row.Real, bar{x(st.Start), max(2, x(end)-x(st.Start)), st.Title, class})
		}
		m.Benches = append(m.Benches, row)
	}
	for _, t := range s.Took() {
		m.Steps = append(m.Steps, afterStep{t.Title, minutes(math.Round(t.Planned)), minutes(math.Round(t.Real)), t.Known, t.Assumed})
	}
	m.Pictures = picturesOf(l, s, m.ID)
	for _, e := range s.Log {
		m.Log = append(m.Log, logRow{At: l.At(e.Time()), Says: live.Sentence(l, e)})
	}
}
