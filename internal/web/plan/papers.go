package plan

import (
	"fmt"
	"net/http"
	"slices"
	"strings"

	"freshapron/internal/app/lessons"
	"freshapron/internal/core/class"
	"freshapron/internal/core/exact"
	"freshapron/internal/core/fit"
	"freshapron/internal/core/lesson"
	"freshapron/internal/core/scale"
	"freshapron/internal/web/frame"
)

// A paper is what all print-outs of a lesson have in common.
type paper struct {
	ID                int64
	Name              string // which of the papers it is
	Dish, Class, When string
	Room, Bell        string
	Papers            []link
	Sheets            any
}

// papers lists the print-outs of a lesson.
func papersOf(id int64, current string) []link {
	var out []link
	for _, p := range []struct{ label, at string }{
		{"Teacher", ""}, {"Benches", "/benches"}, {"Adults", "/adults"}, {"Ovens", "/ovens"},
	} {
		out = append(out, link{p.label, p.label, fmt.Sprintf("/lessons/%d/print%s", id, p.at), p.label == current})
	}
	return out
}

func paperOf(v *lessons.View, name string, sheets any) paper {
	return paper{
		ID: v.ID, Name: name, Dish: v.Dish.Title, Class: v.Class.Name, Room: v.Room.Name, Bell: v.Period.End.String(),
		When:   fmt.Sprintf("%s, %s–%s", v.Date.Format("Monday 2 January 2006"), v.Period.Start, v.Period.End),
		Papers: papersOf(v.ID, name), Sheets: sheets,
	}
}

func (p *place) paper(name, part string, sheets func(*lessons.View) any) frame.Handler {
	return withPlan(func(w http.ResponseWriter, r *http.Request, v *lessons.View) error {
		return p.Render(w, r, http.StatusOK, templates, part, frame.Page{
			Title: name + ": " + v.Dish.Title + ", " + v.Class.Name, Data: paperOf(v, name, sheets(v)),
		})
	})
}

// A benchSheet is what one bench works from.
type benchSheet struct {
	Name, Makes string
	DoneBy      string
	Amounts     []amountLine
	Cooks       []cookSheet
	Places      []string // which ring and oven is theirs, and when
	Who         string   // the names of those who work there
	Ways        []string // other ways to do it, without saying why
	Large       bool     // in large print
}

type amountLine struct{ Amount, Name, Note string }

// A cookSheet is what one of them does.
type cookSheet struct {
	Name string
	Rows []doing
}

// A doing is a step of one cook. Whole is for the whole class.
type doing struct {
	Clock, What, LookFor, Careful string
	With, Where                   string
	Whole                         bool
}

func benchSheets(v *lessons.View) any {
	text := map[string]struct{ look, careful string }{}
	for _, s := range v.Dish.Steps {
		text[s.ID] = struct{ look, careful string }{s.LookFor, s.Hazard}
	}
	benches := v.Core.Benches()
	var out []benchSheet
	for _, gp := range v.Plan.Groups {
		g, _ := v.Fit.Group(gp.ID)
		s := benchSheet{Name: g.Label(), DoneBy: v.Fit.At(gp.Finish)}
		if b := slices.IndexFunc(benches, func(b lesson.Bench) bool { return b.ID == g.ID }); b >= 0 {
			s.Makes = v.Dish.Count(benches[b].Pieces)
			for _, size := range v.Sizes {
				if slices.ContainsFunc(size.Benches, func(o lesson.Bench) bool { return o.ID == g.ID }) {
					s.Amounts = amountLines(size.Amounts)
				}
			}
			s.Ways, s.Large = waysAt(v, benches[b])
			if b < len(v.Dealt.Groups) {
				s.Who = namesOf(v.Dealt.Groups[b])
			}
		}
		for i, lane := range fit.CookLanes(gp, g.Cooks) {
			c := cookSheet{Name: "What to do"}
			if g.Cooks > 1 {
				c.Name = "Cook " + string(rune('A'+i))
			}
			for _, k := range lane {
				sp := gp.Steps[k]
				d := doing{Clock: v.Fit.At(sp.Start), What: v.Fit.StepTitle(sp.Dish, sp.Step), LookFor: text[sp.Step].look, Careful: text[sp.Step].careful}
				if sp.Cooks > 1 {
					d.With = "together"
				}
				for _, u := range sp.Units {
					if d.Where != "" {
						d.Where += ", "
					}
					d.Where += u.Unit
				}
				c.Rows = append(c.Rows, d)
			}
			c.Rows = withPhases(v.Fit, c.Rows)
			s.Cooks = append(s.Cooks, c)
		}
		for _, sp := range gp.Steps {
			if step, _ := v.Fit.Step(sp.Dish, sp.Step); step.Kind == fit.Bake && len(sp.Units) > 0 {
				in := sp.LatestStart + sp.WorkEnd - sp.Start
				s.Places = append(s.Places, fmt.Sprintf("%s: in by %s, out at %s", sp.Units[0].Unit, v.Fit.At(in), v.Fit.At(sp.End)))
			}
		}
		out = append(out, s)
	}
	return out
}

// largePrint is the way that makes a bench's sheet larger.
const largePrint = "large-print"

// waysAt says in which other ways a bench works, without saying for whom.
func waysAt(v *lessons.View, b lesson.Bench) (says []string, large bool) {
	for _, taken := range b.Ways {
		w, ok := v.Core.Safety.Way(taken.Way)
		large = large || taken.Way == largePrint
		if !ok || w.Says == "" {
			continue
		}
		line := w.Says
		for _, s := range v.Dish.Steps {
			if s.ID == taken.Step {
				line = s.Title + ": " + w.Says
			}
		}
		if !slices.Contains(says, line) {
			says = append(says, line)
		}
	}
	return says, large
}

// namesOf lists a group by its members' given names, and whole ones where two
// share one.
func namesOf(group []class.Learner) string {
	count := map[string]int{}
	for _, l := range group {
		count[l.Given]++
	}
	var out []string
	for _, l := range group {
		if l.Given == "" || count[l.Given] > 1 {
			out = append(out, l.Name())
		} else {
			out = append(out, l.Given)
		}
	}
	return strings.Join(out, ", ")
}

// withPhases sets the whole-class phases among what a cook does.
func withPhases(l fit.Lesson, rows []doing) []doing {
	for _, s := range l.Spans() {
		if s.To > s.From {
			rows = append(rows, doing{Clock: l.At(s.From), What: s.Name, Whole: true})
		}
	}
	slices.SortStableFunc(rows, func(a, b doing) int {
		switch {
		case a.Clock < b.Clock:
			return -1
		case a.Clock > b.Clock:
			return 1
		}
		return 0
	})
	return rows
}

func amountLines(amounts []scale.Scaled) []amountLine {
	var out []amountLine
	for _, a := range amounts {
		l := amountLine{Amount: "to taste", Name: a.Called(a.Exact), Note: a.Line.Note}
		if best := a.Best(); best != nil {
			l.Amount = best.Says
		} else if a.Line.Given() {
			l.Amount = a.Exact.String()
		}
		out = append(out, l)
	}
	return out
}

// An adultSheet is what one adult does, by the clock.
type adultSheet struct {
	Name string
	Rows []doing
}

func adultSheets(v *lessons.View) any {
	var out []adultSheet
	careful := map[string]string{}
	for _, s := range v.Dish.Steps {
		careful[s.ID] = s.Hazard
	}
	for n := range v.Fit.Adults {
		s := adultSheet{Name: "The adult in the room"}
		if v.Fit.Adults > 1 {
			s.Name = fmt.Sprintf("Adult %d", n+1)
		}
		for _, d := range fit.Duties(v.Fit, v.Plan) {
			if d.Adult != n {
				continue
			}
			row := doing{Clock: v.Fit.At(d.From), What: "out of the room", Where: "until " + v.Fit.At(d.To)}
			if d.Group != "" {
				does := "watch"
				if d.Does {
					does = "do"
				}
				row = doing{Clock: v.Fit.At(d.From), What: does + " “" + v.Fit.StepTitle(d.Dish, d.Step) + "”", Where: v.Fit.GroupLabel(d.Group), Careful: careful[d.Step]}
			}
			s.Rows = append(s.Rows, row)
		}
		for _, c := range fit.Checkpoints(v.Fit, v.Plan) {
			s.Rows = append(s.Rows, doing{Clock: v.Fit.At(c.At), What: "call: " + c.Says()})
		}
		s.Rows = withPhases(v.Fit, s.Rows)
		out = append(out, s)
	}
	return out
}

// A doorSheet hangs on the door of an oven.
type doorSheet struct {
	Name, Celsius string
	OnAt, HotAt   string
	Set           string // what to set on this oven's dial, where it is known
	Rows          []doorRow
}

type doorRow struct {
	Clock, Way, Who, What, Celsius string
	Latest, Shut                   string
}

func doorSheets(v *lessons.View) any {
	var out []doorSheet
	for _, d := range fit.Doors(v.Fit, v.Plan) {
		s := doorSheet{Name: d.Unit, OnAt: v.Fit.At(d.On), HotAt: v.Fit.At(d.Ready), Celsius: d.Moves[0].Celsius}
		for _, m := range d.Moves {
			row := doorRow{Clock: v.Fit.At(m.At), Way: "out", Who: v.Fit.GroupLabel(m.Group), What: v.Fit.StepTitle(m.Dish, m.Step), Celsius: m.Celsius}
			if m.In {
				row.Way, row.Latest = "in", v.Fit.At(m.Latest)
			}
			if m.Shut && m.In {
				row.Shut = "then the door stays shut"
			}
			if m.Celsius != s.Celsius {
				s.Celsius = "" // each tray says its own
			}
			s.Rows = append(s.Rows, row)
		}
		if o, known := v.Room.Ovens[d.Unit]; known && s.Celsius != "" {
			if c, err := exact.Parse(s.Celsius); err == nil {
				s.Set = o.Dial(c).String()
			}
		}
		out = append(out, s)
	}
	return out
}
