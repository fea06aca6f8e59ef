package judge

import (
	"context"
	"fmt"
	"math"
	"net/http"
	"slices"
	"strings"

	"github.com/google/uuid"

	"freshapron/internal/app/judge"
	"freshapron/internal/app/school"
	"freshapron/internal/core/assess"
	"freshapron/internal/core/class"
	"freshapron/internal/core/problem"
	"freshapron/internal/web/frame"
)

type marksPage struct {
	Top
	Rows    []markRow
	Done    int
	Markers []string
	Agree   []string // how far the markers agree
	Talk    []string
	Sample  []string // for a moderator
}

type markRow struct {
	ID           int64
	Name         string
	Own          string // how far one's own marks are
	Light        string
	Others       string
	Final, Grade string
	Talk         bool
	Photograph   bool
}

// others says how far the other markers are, and nothing of what they gave.
func others(t *judge.Task, s *assess.Sheet, me int64, names map[int64]string) string {
	var out []string
	for _, m := range t.Markers {
		if m == me {
			continue
		}
		says := names[m] + " is not done"
		if s.Ready[m] {
			says = names[m] + " is done"
		}
		out = append(out, says)
	}
	return strings.Join(out, ", ")
}

func (p *place) marks(w http.ResponseWriter, r *http.Request) error {
	t, b, err := p.open(r)
	if err != nil {
		return err
	}
	names, err := judge.Names(r.Context(), t)
	if err != nil {
		return err
	}
	plates, err := judge.Plates(r.Context(), t)
	if err != nil {
		return err
	}
	me := school.Acting(r.Context()).ID
	m := marksPage{Top: topOf(t, b, "Marks", nil)}
	for _, id := range t.Markers {
		m.Markers = append(m.Markers, names[id])
	}
	for _, l := range t.Learners() {
		s := b.Sheet(l.ID)
		row := markRow{ID: l.ID, Name: l.Name(), Others: others(t, s, me, names), Photograph: slices.Contains(plates, l.ID)}
		if t.Marks {
			switch n := len(s.Marks[me]); {
			case s.Ready[me]:
				row.Own, row.Light = "done", "good"
				m.Done++
			case n > 0:
				row.Own, row.Light = fmt.Sprintf("%d of %d given", n, len(t.Scheme.Criteria)), "look"
			default:
				row.Own = "none yet"
			}
		}
		if s.Open(t.Markers) {
			o := t.Scheme.Outcome(s, t.Markers)
			if row.Talk = o.Talk; o.Final != nil {
				row.Final, row.Grade = o.Final.Decimal(2), o.Grade
			} else if o.Talk {
				m.Talk = append(m.Talk, l.Name())
			}
		}
		m.Rows = append(m.Rows, row)
	}
	m.Agree, m.Sample = agreement(t, b)
	if err := judge.Looked(r.Context(), t, "the list of marks"); err != nil {
		return err
	}
	return p.Render(w, r, http.StatusOK, templates, "marks", frame.Page{Title: "Marks: " + t.Title, Place: "judge", Data: m})
}

// mostSample is how many a moderator from outside is given.
const mostSample = 6

// agreement says how far two markers agree, on those of whom both are done.
func agreement(t *judge.Task, b judge.Book) (says, sample []string) {
	by := map[string]map[string]assess.Marks{}
	for n, m := range t.Markers {
		key := fmt.Sprint("m", n)
		by[key] = map[string]assess.Marks{}
		for _, l := range t.Learners() {
			if s := b.Sheet(l.ID); s.Open(t.Markers) {
				by[key][l.Name()] = s.Marks[m]
			}
		}
	}
	if len(t.Markers) != 2 || len(by["m0"]) == 0 {
		return nil, nil
	}
	c := t.Scheme.Compare(by)
	for _, x := range c.Criteria {
		name := x.ID
		for _, own := range t.Scheme.Criteria {
			if own.ID == x.ID {
				name = own.Name
			}
		}
		if x.N > 0 {
			says = append(says, fmt.Sprintf("%s: %s on the average, %s", name, difference(x.Mean), kappa(x)))
		}
	}
	if c.Overall.N > 0 {
		line := fmt.Sprintf("In all: %s, %s", difference(c.Overall.Mean), kappa(c.Overall))
		if !math.IsNaN(c.Overall.Low) {
			line += fmt.Sprintf(" (likely %.2f to %.2f)", c.Overall.Low, c.Overall.High)
		}
		says = append(says, line)
	}
	return says, c.Sample(mostSample)
}

func difference(v float64) string {
	switch {
	case v > 0.005:
		return fmt.Sprintf("the first gives %.2g more", v)
	case v < -0.005:
		return fmt.Sprintf("the second gives %.2g more", -v)
	}
	return "no difference"
}

func kappa(a assess.Agreement) string {
	if math.IsNaN(a.Kappa) {
		return fmt.Sprintf("kappa cannot be said of %d", a.N)
	}
	return fmt.Sprintf("kappa %.2f on %d", a.Kappa, a.N)
}

// A sheetPage is one learner's: what was made, seen and asked, and the marks.
type sheetPage struct {
	Top
	Learner    int64
	Name       string
	Rows       []sheetRow
	Ready      bool
	Open       bool // all who mark are done
	Why        string
	Others     string
	Columns    []string // the markers, where it is open
	Totals     []string
	Seen       []seenRow
	Photograph bool
	Final      string
	Grade      string
	Reason     string
	Talk       bool
	Press      string
	Total, For string // of the form for what is agreed
	Before     *int64
	Next       *int64
	History    []string
}

type sheetRow struct {
	ID, Name, Most, Method string
	Levels                 []string
	Value, Was             string   // as it stands in the form, and as it is kept
	Given                  []string // by each marker, where it is open
	Apart                  bool
}

func (p *place) sheet(w http.ResponseWriter, r *http.Request) error {
	return p.sheetWith(w, r, nil, "", "", nil)
}

func (p *place) sheetWith(w http.ResponseWriter, r *http.Request, typed map[string]string, total, reason string, failed problem.List) error {
	t, b, l, err := p.openOf(r)
	if err != nil {
		return err
	}
	ctx := r.Context()
	names, err := judge.Names(ctx, t)
	if err != nil {
		return err
	}
	me := school.Acting(ctx).ID
	s := b.Sheet(l.ID)
	m := sheetPage{Top: topOf(t, b, "Marks", failed), Learner: l.ID, Name: l.Name(), Ready: s.Ready[me], Open: s.Open(t.Markers), Others: others(t, s, me, names), Seen: seenOf(t, s), Press: uuid.NewString(), Total: total, For: reason, Why: r.PostFormValue("why")}
	plates, err := judge.Plates(ctx, t)
	if err != nil {
		return err
	}
	m.Photograph = slices.Contains(plates, l.ID)
	m.Before, m.Next = beside(t, l.ID)
	for _, c := range t.Scheme.Criteria {
		row := sheetRow{ID: c.ID, Name: c.Name, Most: c.Most.Decimal(2), Method: string(c.Method), Levels: c.Levels}
		if n, ok := s.Marks[me][c.ID]; ok {
			row.Value, row.Was = n.Decimal(2), n.Decimal(2)
		}
		if v, ok := typed[c.ID]; ok {
			row.Value = v
		}
		if m.Open {
			for _, x := range t.Markers {
				given := "–"
				if n, ok := s.Marks[x][c.ID]; ok {
					given = n.Decimal(2)
				}
				row.Apart = row.Apart || len(row.Given) > 0 && row.Given[0] != given
				row.Given = append(row.Given, given)
			}
		}
		m.Rows = append(m.Rows, row)
	}
	if m.Open {
		o := t.Scheme.Outcome(s, t.Markers)
		for _, x := range t.Markers {
			m.Columns = append(m.Columns, names[x])
			total := "–"
			if o.By[x].Total != nil {
				total = strings.TrimSpace(o.By[x].Rounded.Decimal(2) + " " + o.By[x].Grade)
			}
			m.Totals = append(m.Totals, total)
		}
		m.Talk, m.Reason = o.Talk, o.Reason
		if o.Final != nil {
			m.Final, m.Grade = o.Final.Decimal(2), o.Grade
		}
	}
	m.History = history(t, b, l.ID, m.Open, me)
	if err := judge.Looked(ctx, t, "the marks of "+l.Name()); err != nil {
		return err
	}
	return p.Render(w, r, status(failed), templates, "sheet", frame.Page{Title: "Marks of " + l.Name(), Place: "judge", Data: m})
}

// history is every change of a mark with who, when and why: one's own, and everybody's
// where the sheet is open.
func history(t *judge.Task, b judge.Book, learner int64, open bool, me int64) []string {
	var out []string
	names := map[string]string{}
	for _, c := range t.Scheme.Criteria {
		names[c.ID] = c.Name
	}
	for _, r := range b.List {
		if r.Learner != learner || !open && r.Marker != me {
			continue
		}
		when := r.At.In(t.View.Date.Location()).Format("2 January 15:04")
		switch r.Kind {
		case assess.Marked:
			says := fmt.Sprintf("%s, %s: %s %s", when, r.Who, names[r.Criterion], r.Done)
			if r.Done == "" {
				says = fmt.Sprintf("%s, %s: %s taken back", when, r.Who, names[r.Criterion])
			}
			out = append(out, says+because(r.Says))
		case assess.Ready:
			out = append(out, fmt.Sprintf("%s, %s: done", when, r.Who))
		case assess.Agreed:
			out = append(out, fmt.Sprintf("%s, %s: agreed on %s%s", when, r.Who, r.Done, because(r.Says)))
		}
	}
	slices.Reverse(out)
	return out
}

func (p *place) mark(w http.ResponseWriter, r *http.Request) error {
	if err := frame.ParseForm(r); err != nil {
		return err
	}
	t, _, err := p.open(r)
	if err != nil {
		return err
	}
	learner := frame.ID(r, "learner")
	// What stands as the page was drawn is not given again: another window may have
	// changed it meanwhile.
	given := map[string]string{}
	for name := range r.PostForm {
		id, ok := strings.CutPrefix(name, "mark-")
		if was, sent := r.PostForm["was-"+id]; ok && !(sent && was[0] == r.PostFormValue(name)) {
			given[id] = r.PostFormValue(name)
		}
	}
	err = judge.Mark(r.Context(), t, learner, r.PostFormValue("press"), given, r.PostFormValue("why"), r.PostFormValue("how") == "ready")
	if failed := problem.Of(err); failed != nil {
		return p.sheetWith(w, r, given, "", "", failed)
	}
	if err != nil {
		return err
	}
	if next := r.PostFormValue("next"); r.PostFormValue("how") == "ready" && next != "" {
		if _, after := beside(t, learner); after != nil {
			learner = *after
		}
	}
	return frame.See(w, r, fmt.Sprintf("/judge/%d/marks/%d", t.ID, learner))
}

// beside are the learners who come before and after one; nil where nobody does.
func beside(t *judge.Task, learner int64) (before, after *int64) {
	list := t.Learners()
	at := slices.IndexFunc(list, func(l class.Learner) bool { return l.ID == learner })
	if at > 0 {
		before = &list[at-1].ID
	}
	if at >= 0 && at+1 < len(list) {
		after = &list[at+1].ID
	}
	return before, after
}

func (p *place) agree(w http.ResponseWriter, r *http.Request) error {
	if err := frame.ParseForm(r); err != nil {
		return err
	}
	t, _, err := p.open(r)
	if err != nil {
		return err
	}
	learner, v := frame.ID(r, "learner"), r.PostFormValue
	err = judge.Agree(r.Context(), t, learner, v("press"), v("total"), v("reason"))
	if failed := problem.Of(err); failed != nil {
		return p.sheetWith(w, r, nil, v("total"), v("reason"), failed)
	}
	if err != nil {
		return err
	}
	return frame.See(w, r, fmt.Sprintf("/judge/%d/marks/%d", t.ID, learner))
}

func (p *place) plate(w http.ResponseWriter, r *http.Request) error {
	t, _, err := p.open(r)
	if err != nil {
		return err
	}
	jpeg, err := judge.Plate(r.Context(), t, frame.ID(r, "learner"))
	if err != nil {
		return err
	}
	w.Header().Set("Content-Type", "image/jpeg")
	w.Header().Set("Cache-Control", "private, no-cache")
	_, err = w.Write(jpeg)
	return err
}

func (p *place) photograph(w http.ResponseWriter, r *http.Request) error {
	t, _, err := p.open(r)
	if err != nil {
		return err
	}
	_, data, err := frame.Uploaded(r)
	if err != nil {
		return err
	}
	learner := frame.ID(r, "learner")
	err = judge.Photograph(r.Context(), t, learner, data)
	if failed := problem.Of(err); failed != nil {
		return p.sheetWith(w, r, nil, "", "", failed)
	}
	if err != nil {
		return err
	}
	return frame.See(w, r, fmt.Sprintf("/judge/%d/marks/%d", t.ID, learner))
}

// resultOf is a learner's result as it stands in every list.
type resultRow struct {
	ID           int64
	Name         string
	Marks        []string // of each criterion: of one marker, or the mean of two
	Total, Grade string
	State        string
	Reason       string
}

func resultsOf(t *judge.Task, b judge.Book) []resultRow {
	var out []resultRow
	for _, l := range t.Learners() {
		s := b.Sheet(l.ID)
		row := resultRow{ID: l.ID, Name: l.Name(), State: "not marked yet"}
		if s.Open(t.Markers) {
			o := t.Scheme.Outcome(s, t.Markers)
			row.State, row.Reason = "to be agreed", o.Reason
			if o.Final != nil {
				row.Total, row.Grade, row.State = o.Final.Decimal(2), o.Grade, ""
			}
			for _, c := range t.Scheme.Criteria {
				var given []string
				for _, m := range t.Markers {
					if n, ok := s.Marks[m][c.ID]; ok {
						given = append(given, n.Decimal(2))
					}
				}
				row.Marks = append(row.Marks, strings.Join(slices.Compact(given), " / "))
			}
		} else if len(s.Ready) > 0 {
			row.State = "half marked"
		}
		out = append(out, row)
	}
	return out
}

type resultsPage struct {
	Top
	Criteria []criterionRow
	Rows     []resultRow
	Spread   []gradeRow
	Missing  int
	OutOf    string
	Press    string
	Why      string
}

type gradeRow struct {
	Grade string
	Count int
	Wide  int // per cent of the widest
}

func (p *place) results(w http.ResponseWriter, r *http.Request) error {
	return p.resultsWith(w, r, nil)
}

func (p *place) resultsWith(w http.ResponseWriter, r *http.Request, failed problem.List) error {
	t, b, err := p.open(r)
	if err != nil {
		return err
	}
	m := resultsPage{Top: topOf(t, b, "Results", failed), Rows: resultsOf(t, b), OutOf: t.Scheme.OutOf.Decimal(2), Press: uuid.NewString(), Why: r.PostFormValue("why")}
	for _, c := range t.Scheme.Criteria {
		m.Criteria = append(m.Criteria, criterionRow{Name: c.Name, Most: c.Most.Decimal(2)})
	}
	count := map[string]int{}
	for _, x := range m.Rows {
		if x.Total == "" {
			m.Missing++
		} else {
			count[x.Grade]++
		}
	}
	widest := 1
	for _, n := range count {
		widest = max(widest, n)
	}
	for _, g := range t.Scheme.Boundaries {
		m.Spread = append(m.Spread, gradeRow{g.Grade, count[g.Grade], 100 * count[g.Grade] / widest})
	}
	if n := count[""]; n > 0 {
		m.Spread = append(m.Spread, gradeRow{"below", n, 100 * n / widest})
	}
	if err := looked(r.Context(), t); err != nil {
		return err
	}
	return p.Render(w, r, status(failed), templates, "results", frame.Page{Title: "Results: " + t.Title, Place: "judge", Data: m})
}

func looked(ctx context.Context, t *judge.Task) error { return judge.Looked(ctx, t, "the results") }

// table is the results with a heading, for files.
func (p *place) table(r *http.Request) (*judge.Task, []judge.ResultLine, error) {
	t, b, err := p.open(r)
	if err != nil {
		return nil, nil, err
	}
	head := []string{"learner"}
	for _, c := range t.Scheme.Criteria {
		head = append(head, c.Name)
	}
	lines := []judge.ResultLine{append(head, "total", "grade", "state", "reason")}
	for _, x := range resultsOf(t, b) {
		line := judge.ResultLine{x.Name}
		for i := range t.Scheme.Criteria {
			cell := ""
			if i < len(x.Marks) {
				cell = x.Marks[i]
			}
			line = append(line, cell)
		}
		lines = append(lines, append(line, x.Total, x.Grade, x.State, x.Reason))
	}
	return t, lines, looked(r.Context(), t)
}

func (p *place) resultsCSV(w http.ResponseWriter, r *http.Request) error {
	t, lines, err := p.table(r)
	if err != nil {
		return err
	}
	frame.Attach(w, "text/csv; charset=utf-8", fmt.Sprintf("results-%d.csv", t.ID))
	return judge.WriteCSV(w, lines)
}

func (p *place) resultsXLSX(w http.ResponseWriter, r *http.Request) error {
	t, lines, err := p.table(r)
	if err != nil {
		return err
	}
	frame.Attach(w, "application/vnd.openxmlformats-officedocument.spreadsheetml.sheet", fmt.Sprintf("results-%d.xlsx", t.ID))
	return judge.WriteXLSX(w, "Results", lines)
}

type feedbackPage struct {
	Top
	School string
	Sheets []feedbackSheet
}

type feedbackSheet struct {
	Name, Total, Grade string
	Well, Next         []string
	Heard              []string
}

func (p *place) feedback(w http.ResponseWriter, r *http.Request) error {
	t, b, err := p.open(r)
	if err != nil {
		return err
	}
	if !t.Mine {
		return school.ErrNotYours
	}
	m := feedbackPage{Top: topOf(t, b, "Results", nil), School: school.Name(r.Context())}
	for _, l := range t.Learners() {
		s := b.Sheet(l.ID)
		o := t.Scheme.Outcome(s, t.Markers)
		if o.Final == nil {
			continue
		}
		x := feedbackSheet{Name: l.Name(), Total: o.Final.Decimal(2), Grade: o.Grade}
		x.Well, x.Next = t.Scheme.Feedback(s, t.Markers)
		for _, seen := range s.Walk {
			if seen.Kind == assess.Noted {
				x.Heard = append(x.Heard, seen.Says)
			}
		}
		m.Sheets = append(m.Sheets, x)
	}
	if err := judge.Looked(r.Context(), t, "the feedback sheets"); err != nil {
		return err
	}
	return p.Render(w, r, http.StatusOK, templates, "feedback", frame.Page{Title: "Feedback: " + t.Title, Place: "judge", Data: m})
}
