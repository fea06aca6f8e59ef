package judge

import (
	"cmp"
	"context"
	"fmt"
	"html/template"
	"math"
	"net/http"
	"slices"
	"strconv"
	"strings"

	"freshapron/internal/app/judge"
	"freshapron/internal/app/school"
	"freshapron/internal/core/assess"
	"freshapron/internal/core/class"
	"freshapron/internal/core/fit"
	"freshapron/internal/core/problem"
	"freshapron/internal/web/frame"
)

// A planPage is a learner's own time plan, judged.
type planPage struct {
	Top
	Name     string
	To, Back string
	Entry    int
	Rows     []planRow
	Line     template.HTML
	Findings []findingRow
	Asks     []askRow
	School   []schoolRow // as the school would plan it
	Seen     []seenRow
	Finish   string
	Idle     string
	Judged   bool
	May      bool
	Text     string // that was pasted and can't be read
	Learner  bool
}

type planRow struct {
	Line                       int
	Clock, Dish, What, Minutes string
	Means, Light               string
	Guessed                    bool
	Numbers                    []int // of findings
}

type findingRow struct {
	Number           int
	Says, Mend, Rows string
}

type askRow struct {
	Line    int
	Says    string
	What    string
	Options []frame.Option
}

type schoolRow struct{ Clock, Dish, Step string }

type seenRow struct{ Clock, Who, Says, Light string }

// emptyRows are there to write in.
const emptyRows = 4

// planOf fills the page; typed are rows that came back because they can't be kept.
func planOf(ctx context.Context, t *judge.Task, b judge.Book, l class.Learner, e judge.Entry, typed []planRow, failed problem.List) planPage {
	m := planPage{Top: topOf(t, b, "Choices", failed), Name: l.Name(), Entry: e.Version}
	plan, err := judge.PlanOf(ctx, t, l.ID, e)
	for _, f := range problem.Of(err) {
		m.Problems = append(m.Problems, problem.Sentence(f.Says))
	}
	titles := map[string]string{}
	steps := map[string]string{}
	for _, d := range plan.Lesson.Dishes {
		titles[d.ID] = d.Title
		for _, s := range d.Steps {
			steps[d.ID+"/"+s.ID], steps[s.ID] = s.Title, s.Title
		}
	}
	numbers := map[int][]int{}
	for i, f := range plan.Findings {
		row := findingRow{Number: i + 1, Says: problem.Sentence(f.Says), Mend: problem.Sentence(f.Mend)}
		var at []string
		for _, n := range f.Lines {
			numbers[n] = append(numbers[n], i+1)
			at = append(at, strconv.Itoa(n-1))
		}
		row.Rows = strings.Join(at, ", ")
		m.Findings = append(m.Findings, row)
	}
	for _, r := range plan.Rows {
		row := planRow{Line: r.Line, Clock: r.Clock, Dish: r.Dish, What: r.What, Numbers: numbers[r.Line], Means: meansOf(r, steps), Guessed: r.Guessed()}
		if r.Minutes > 0 {
			row.Minutes = strconv.FormatFloat(r.Minutes, 'f', -1, 64)
		}
		m.Rows = append(m.Rows, row)
	}
	for _, f := range plan.Findings { // rows whose time can't be read are among the typed ones only
		for _, n := range f.Lines {
			if f.Rule == "row" && !slices.ContainsFunc(m.Rows, func(r planRow) bool { return r.Line == n }) {
				for _, r := range judge.RowsOf(e, plan.Lesson) {
					if r.Line == n {
						m.Rows = append(m.Rows, planRow{Line: n, Clock: r.Clock, Dish: r.Dish, What: r.What, Numbers: numbers[n]})
					}
				}
			}
		}
	}
	slices.SortStableFunc(m.Rows, func(a, b planRow) int { return a.Line - b.Line })
	for _, a := range plan.Asks {
		row := askRow{Line: a.Line, Says: problem.Sentence(a.Says)}
		for _, r := range m.Rows {
			if r.Line == a.Line {
				row.What = r.What
			}
		}
		for _, s := range a.Steps {
			row.Options = append(row.Options, frame.Option{Value: s, Label: steps[s]})
		}
		m.Asks = append(m.Asks, row)
	}
	if m.Judged = len(plan.Rows) > 0; m.Judged {
		m.Finish = plan.Lesson.At(plan.Finish)
		if plan.Idle > 0 {
			m.Idle = fmt.Sprintf("%.0f min", plan.Idle)
		}
		m.Line = lineOf(plan)
	}
	if plan.Plan != nil {
		list := slices.Clone(plan.Plan.Steps)
		slices.SortStableFunc(list, func(a, b fit.StepPlan) int { return cmp.Compare(a.Start, b.Start) })
		for _, s := range list {
			m.School = append(m.School, schoolRow{plan.Lesson.At(s.Start), titles[s.Dish], steps[s.Dish+"/"+s.Step]})
		}
	}
	m.Seen = seenOf(t, b.Sheet(l.ID))
	if typed != nil {
		m.Rows = typed
	}
	for range emptyRows {
		m.Rows = append(m.Rows, planRow{})
	}
	return m
}

// meansOf says what a row is taken for.
func meansOf(r assess.ReadRow, steps map[string]string) string {
	var names []string
	for _, s := range r.Steps {
		if name := steps[r.DishID+"/"+s]; name != "" {
			names = append(names, "“"+name+"”")
		}
	}
	if means := map[assess.Meaning]string{assess.TakeOut: "takes out", assess.TurnOn: "turns on", assess.WashUp: "washes up", assess.WashHands: "washes hands"}[r.Means]; means != "" {
		names = append(names, means)
	}
	return strings.Join(names, ", ")
}

func seenOf(t *judge.Task, s *assess.Sheet) []seenRow {
	var out []seenRow
	for _, w := range s.Walk {
		row := seenRow{Clock: w.At.In(t.View.Date.Location()).Format("15:04"), Who: w.Who, Says: saysOf(w), Light: map[assess.RecordKind]string{assess.OnPlan: "good", assess.IsBehind: "look", assess.Other: "look", assess.Hygiene: "look", assess.Safety: "stop"}[w.Kind]}
		out = append(out, row)
	}
	return out
}

func saysOf(w assess.Record) string {
	switch w.Kind {
	case assess.Noted:
		return w.Says
	case assess.Question:
		return "asked “" + w.Says + "”: " + w.Done
	}
	if w.Says != "" {
		return string(w.Kind) + ": " + w.Says
	}
	return string(w.Kind)
}

// The line from the door to the bell, in units of which there are wide.
const wide, lane, above = 1000.0, 32.0, 22.0

// lineOf draws the rows of a plan where they happen, a lane for each dish, with the
// numbers of the findings above.
func lineOf(p judge.TimePlan) template.HTML {
	bell := p.Lesson.Minutes().Float()
	all := max(bell, p.Finish) // what is planned after the bell is seen to be
	x := func(minute float64) float64 { return max(0, min(1, minute/all)) * wide }
	lanes, titles := []string{}, map[string]string{}
	for _, d := range p.Lesson.Dishes {
		lanes, titles[d.ID] = append(lanes, d.ID), d.Title
	}
	high := above + lane*float64(len(lanes)+1)
	var b strings.Builder
	fmt.Fprintf(&b, `<svg class="plan-line" viewBox="-4 0 %.0f %.0f" role="img" aria-label="The plan from the door to the bell"><path class="axis" d="M0 %.0fH%.0f"/>`, wide+8, high+16, high, wide)
	for _, ph := range phasesOf(p.Lesson) {
		fmt.Fprintf(&b, `<rect class="phase" x="%.1f" y="%.0f" width="%.1f" height="%.0f"><title>%s</title></rect>`, x(ph.from), above, x(ph.to)-x(ph.from), high-above, template.HTMLEscapeString(ph.name))
	}
	step := map[string]fit.Step{}
	for _, d := range p.Lesson.Dishes {
		for _, s := range d.Steps {
			step[d.ID+"/"+s.ID] = s
		}
	}
	for _, r := range p.Rows {
		at := slices.Index(lanes, r.DishID)
		y := above + lane*float64(len(lanes))
		if at >= 0 {
			y = above + lane*float64(at)
		}
		minutes := r.Minutes
		if minutes == 0 {
			for _, s := range r.Steps {
				minutes += step[r.DishID+"/"+s].Work.Float()
			}
		}
		class := "row"
		if at < 0 {
			class = "row aside"
		}
		fmt.Fprintf(&b, `<rect class="%s" x="%.1f" y="%.1f" width="%.1f" height="%.0f"><title>%s %s</title></rect>`, class, x(r.At), y+13, max(4, x(r.At+minutes)-x(r.At)), lane-16, template.HTMLEscapeString(r.Clock), template.HTMLEscapeString(r.What))
	}
	for i, id := range lanes {
		fmt.Fprintf(&b, `<text class="lane" x="2" y="%.1f">%s</text>`, above+lane*float64(i)+9, template.HTMLEscapeString(titles[id]))
	}
	at := map[int]float64{}
	for _, r := range p.Rows {
		at[r.Line] = r.At
	}
	first, last := -1, 0
	numbered := func() { // findings at one place have one mark
		if first >= 0 {
			says := strconv.Itoa(first + 1)
			if last > first {
				says = fmt.Sprintf("%d–%d", first+1, last+1)
			}
			minute := at[p.Findings[first].Lines[0]]
			fmt.Fprintf(&b, `<path class="found" d="M%.1f %.0fV%.0f"/><text class="found-number" x="%.1f" y="13" text-anchor="middle">%s</text>`, x(minute), above-4, high, min(wide-14, max(8, x(minute))), says)
		}
	}
	const close = 26.0 // numbers would cover each other
	for i, f := range p.Findings {
		if len(f.Lines) == 0 {
			continue
		}
		minute, ok := at[f.Lines[0]]
		if !ok {
			continue
		}
		if first < 0 || math.Abs(x(minute)-x(at[p.Findings[first].Lines[0]])) > close {
			numbered()
			first = i
		}
		last = i
	}
	numbered()
	fmt.Fprintf(&b, `<path class="bell" d="M%.1f %.0fV%.0f"/><text class="tick" x="0" y="%.0f">%s</text><text class="tick" x="%.1f" y="%.0f" text-anchor="end">%s</text></svg>`, x(bell), above-8, high, high+14, p.Lesson.Start, x(bell), high+14, p.Lesson.End)
	return template.HTML(b.String()) //nolint:gosec // escaped above
}

type phase struct {
	from, to float64
	name     string
}

// phasesOf are the phases of the whole class, where they lie.
func phasesOf(l fit.Lesson) []phase {
	var out []phase
	from, to := 0.0, l.Minutes().Float()
	for _, p := range l.Phases {
		if m := p.Minutes.Float(); p.Place == fit.AtStart {
			out = append(out, phase{from, from + m, p.Name})
			from += m
		} else if p.Place == fit.AtMinute {
			out = append(out, phase{p.Minute.Float(), p.Minute.Float() + m, p.Name})
		}
	}
	for _, p := range slices.Backward(l.Phases) {
		if m := p.Minutes.Float(); p.Place == fit.AtEnd {
			out = append(out, phase{to - m, to, p.Name})
			to -= m
		}
	}
	return out
}

func (p *place) plan(w http.ResponseWriter, r *http.Request) error {
	return p.planWith(w, r, nil, "", nil)
}

func (p *place) planWith(w http.ResponseWriter, r *http.Request, typed []planRow, text string, failed problem.List) error {
	t, b, l, err := p.openOf(r)
	if err != nil {
		return err
	}
	entries, err := judge.Entries(r.Context(), t)
	if err != nil {
		return err
	}
	e := entries[l.ID]
	m := planOf(r.Context(), t, b, l, e, typed, failed)
	m.To, m.Back, m.May, m.Text = fmt.Sprintf("/judge/%d/plans/%d", t.ID, l.ID), fmt.Sprintf("/judge/%d/choices", t.ID), t.Mine && !b.Shut, text
	return p.Render(w, r, status(failed), templates, "time-plan", frame.Page{Title: "Time plan of " + l.Name(), Place: "judge", Data: m})
}

func (p *place) savePlan(w http.ResponseWriter, r *http.Request) error {
	t, _, err := p.open(r)
	if err != nil {
		return err
	}
	if !t.Mine {
		return school.ErrNotYours
	}
	learner := frame.ID(r, "learner")
	typed, text, err := keepPlan(r.Context(), t, learner, r)
	if failed := problem.Of(err); failed != nil {
		return p.planWith(w, r, typed, text, failed)
	}
	if err != nil {
		return err
	}
	return frame.See(w, r, fmt.Sprintf("/judge/%d/plans/%d", t.ID, learner))
}

// keepPlan keeps a plan that was typed into rows, pasted, or brought in as a file, and
// returns what was typed.
func keepPlan(ctx context.Context, t *judge.Task, learner int64, r *http.Request) ([]planRow, string, error) {
	pasted, data, err := frame.Uploaded(r)
	if err != nil {
		return nil, "", err
	}
	form := r.PostForm
	if r.MultipartForm != nil {
		form = r.MultipartForm.Value
	}
	var typed []planRow
	for i := range form["what"] {
		at := func(name string) string {
			if i < len(form[name]) {
				return form[name][i]
			}
			return ""
		}
		typed = append(typed, planRow{Clock: at("clock"), Dish: at("dish"), What: at("what"), Minutes: at("minutes")})
	}
	taken := map[int][]string{}
	for name, values := range form {
		if line, ok := strings.CutPrefix(name, "step-"); ok && values[0] != "" {
			if n, err := strconv.Atoi(line); err == nil {
				taken[n] = values
			}
		}
	}
	if len(data) == 0 {
		data = judge.TableOf(form["clock"], form["dish"], form["what"], form["minutes"])
	} else {
		taken = nil
	}
	return typed, pasted, judge.SavePlan(ctx, t, learner, r.PostFormValue("entry"), data, taken)
}
