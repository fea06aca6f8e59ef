package plan

import (
	"fmt"
	"net/http"
	"net/url"
	"slices"
	"strconv"
	"time"

	"freshapron/internal/app/lessons"
	"freshapron/internal/app/school"
	"freshapron/internal/core/fit"
	"freshapron/internal/core/lesson"
	"freshapron/internal/core/problem"
	"freshapron/internal/core/rescue"
	"freshapron/internal/core/staff"
	"freshapron/internal/web/frame"
	"freshapron/internal/web/timeline"
)

// patience is how long the page waits for the search for rescues before it
// says how far that is.
const patience = 400 * time.Millisecond

// longestTry is how long it waits where the browser can't ask again.
const longestTry = 20 * time.Second

// A rescues is the view model of what would help.
type rescues struct {
	ID        int64
	Dish      string
	Wait      bool // it is not ready: ask again
	Done, All int
	Best      []rescueRow
	More      []rescueRow
	Head      string
	Lack      string   // what would be enough, where nothing is
	Levers    []string // what one thing more, or a shorter step, would bring
}

type rescueRow struct {
	Title        string
	DoneBy, Left string
	Chance       string
	Costs        []string
	Fits         bool
	Href         string // to look at it before deciding
	Do           *offer // nil where more has to be said first
	Choose       bool   // it can be looked at and decided
}

// shown is how many rescues stand open; the others are one press away.
const shown = 3

// rescue shows what would help, or how far the search for it is.
func (p *place) rescue(w http.ResponseWriter, r *http.Request, v *lessons.View) error {
	most := patience
	if r.Header.Get("HX-Request") != "true" {
		most = longestTry
	}
	search := lessons.Help(r.Context(), v)
	found, ended, err := search.Wait(r.Context(), most)
	if err != nil {
		return err
	}
	out := rescuesOf(v, found, school.May(r.Context(), staff.Plan))
	out.Wait = !ended
	out.Done, out.All = search.Progress()
	return p.Render(w, r, http.StatusOK, templates, "rescues", frame.Page{Title: "What would help: " + v.Core.Titles(), Place: "lesson", Data: out})
}

func rescuesOf(v *lessons.View, found rescue.Outcome, mayPlan bool) rescues {
	out := rescues{ID: v.ID, Dish: v.Core.Titles(), Head: "What would help", Levers: rescue.LeversSay(v.Fit, found.Levers)}
	if found.Lack != nil {
		out.Lack = found.Lack.Says()
	}
	var rows []rescueRow
	for _, f := range found.Rescues {
		rows = append(rows, rescueRowOf(v, f, mayPlan))
	}
	out.Best, out.More = rows[:min(shown, len(rows))], rows[min(shown, len(rows)):]
	return out
}

func rescueRowOf(v *lessons.View, f rescue.Rescue, mayPlan bool) rescueRow {
	o := offers{view: v, state: stateOf("", "")}
	row := rescueRow{
		Title: f.Title, DoneBy: v.Fit.At(f.Finish()), Left: leftOf(f), Fits: f.Fits(),
		Chance: benchesDone(f), Costs: f.Costs, Href: tryAddress(v.ID, f.Changes), Choose: mayPlan,
	}
	if f.Second == nil && mayPlan {
		do := o.offer("", "Do it", f.Changes[0])
		for i, c := range f.Changes[1:] {
			do.Hidden = append(do.Hidden, hiddenOf(i+1, c)...)
		}
		row.Do = &do
	}
	return row
}

// benchesDone says how many benches are in time: of two lessons, in the one in
// which fewer are.
func benchesDone(f rescue.Rescue) string {
	if f.Second != nil && f.Second.Risk.Benches.Mean < f.Plan.Risk.Benches.Mean {
		return f.Second.Risk.Benches.Figure()
	}
	return f.Plan.Risk.Benches.Figure()
}

// leftOf says the minutes left, or missing: of two lessons, in the tighter.
func leftOf(f rescue.Rescue) string {
	if f.Second != nil && f.Second.Slack-f.Second.Overrun < f.Plan.Slack-f.Plan.Overrun {
		return lesson.Left(f.Second)
	}
	return lesson.Left(f.Plan)
}

func tryAddress(id int64, changes []rescue.Change) string {
	a := fmt.Sprintf("/lessons/%d/try?", id)
	for i, c := range changes {
		for k, h := range hiddenOf(i, c) {
			if i+k > 0 {
				a += "&"
			}
			a += h.Name + "=" + url.QueryEscape(h.Value)
		}
	}
	return a
}

// try shows a lesson as it would be with changes, beside what it is.
func (p *place) try(w http.ResponseWriter, r *http.Request) error {
	in, v, err := asked(r)
	if err != nil {
		return err
	}
	changes, err := in.read(v.Period.Start)
	if problem.Of(err) != nil || v.Problems != nil {
		return frame.See(w, r, fmt.Sprintf("/lessons/%d", v.ID))
	}
	return p.trying(w, r, http.StatusOK, v, changes, in, nil)
}

// A tried is the view model of a lesson as it would be.
type tried struct {
	ID         int64
	Dish       string
	Lead       string
	Says       []string
	Costs      []string
	Rows       []compared
	Pictures   []triedPicture
	Do         offer
	Problem    string
	Impossible string // why it can't be
}

type compared struct{ What, Is, Would string }

type triedPicture struct {
	Head    string
	Picture *timeline.Picture
}

func (p *place) trying(w http.ResponseWriter, r *http.Request, status int, v *lessons.View, changes []rescue.Change, in postedChanges, problems problem.List) error {
	out := tried{
		ID: v.ID, Dish: v.Core.Titles(),
		Lead: fmt.Sprintf("%s, %s, %s–%s", v.Class.Name, v.Date.Format("Monday 2 January"), v.Period.Start, v.Period.End),
	}
	for _, q := range problems {
		out.Problem += problem.Sentence(q.Says) + " "
	}
	for _, c := range changes {
		out.Says = append(out.Says, c.Says(v.Fit))
	}
	would, err := lessons.Tried(r.Context(), v, changes...)
	switch refused := problem.Of(err); {
	case refused != nil:
		out.Impossible = problem.Sentence(refused[0].Says)
	case err != nil:
		return err
	default:
		two := slices.IndexFunc(changes, func(c rescue.Change) bool { return c.Kind == rescue.TwoLessons })
		first := triedPicture{"As it would be", timeline.Draw(would.Fit, would.Plan, timeline.Look{})}
		out.Rows = compare(v.Fit, v.Plan, would.Fit, would.Plan)
		o := offers{view: v, state: in.state()}
		out.Do = o.offer("", "Do it", changes[0])
		for i, c := range changes[1:] {
			out.Do.Hidden = append(out.Do.Hidden, hiddenOf(i+1, c)...)
		}
		out.Pictures = []triedPicture{first}
		if two >= 0 {
			out.Pictures[0].Head = "The first lesson, as it would be"
			half := slices.Clone(changes)
			half[two].Number = 2
			second, err := lessons.Tried(r.Context(), v, half...)
			if err != nil {
				return err
			}
			out.Pictures = append(out.Pictures, triedPicture{"The second lesson", timeline.Draw(second.Fit, second.Plan, timeline.Look{})})
			out.Do.Fields, err = secondFields(r, v, in)
			if err != nil {
				return err
			}
			out.Do.Label, out.Do.Button = "The second lesson is on", "Make it two lessons"
		}
	}
	for _, known := range found(r, v) {
		if slices.Equal(known.Changes, changes) {
			out.Says, out.Costs = []string{known.Title}, known.Costs
		}
	}
	return p.Render(w, r, status, templates, "try", frame.Page{Title: "Try: " + v.Core.Titles(), Place: "lesson", Data: out})
}

// found returns the rescues of a lesson as far as they have been found.
func found(r *http.Request, v *lessons.View) []rescue.Rescue {
	if !lessons.WantsHelp(r.Context(), v) {
		return nil
	}
	const glance = time.Millisecond
	help, _, _ := lessons.Help(r.Context(), v).Wait(r.Context(), glance)
	return help.Rescues
}

// secondFields ask when the second of two lessons is.
func secondFields(r *http.Request, v *lessons.View, in postedChanges) ([]field, error) {
	choices, err := lessons.ToChoose(r.Context())
	if err != nil {
		return nil, err
	}
	period := field{Name: "period", ID: "second-period", Label: "Period"}
	for _, c := range choices.Periods {
		id := strconv.FormatInt(c.ID, 10)
		period.Options = append(period.Options, frame.Option{
			Value: id, Label: fmt.Sprintf("%s, %s–%s", c.Name, c.Start, c.End), Chosen: id == in.Period || in.Period == "" && c.ID == v.Period.ID,
		})
	}
	date := field{Name: "date", ID: "second-date", Label: "Date", Value: in.Date}
	if date.Value == "" {
		date.Value = lessons.NextDay(v.Date).Format(time.DateOnly)
	}
	return []field{date, period}, nil
}

// compare puts the figures of two plans of a lesson side by side.
func compare(isFit fit.Lesson, is *fit.Plan, wouldFit fit.Lesson, would *fit.Plan) []compared {
	queue := func(p *fit.Plan) string {
		q := lesson.Queues(p)
		if len(q) == 0 {
			return "none"
		}
		return fmt.Sprintf("%s for %s", lesson.Minutes(q[0].Longest), lesson.Thing(q[0].For))
	}
	tray := func(l fit.Lesson, p *fit.Plan) string {
		ovens := lesson.Ovens(l, p)
		if len(ovens) == 0 {
			return "none"
		}
		return l.At(ovens[0].LastTray)
	}
	return []compared{
		{"Minutes", lesson.Left(is), lesson.Left(would)},
		{"Done by", isFit.At(is.Finish), wouldFit.At(would.Finish)},
		{"Benches in time", is.Risk.Benches.Figure(), would.Risk.Benches.Figure()},
		{"Longest queue", queue(is), queue(would)},
		{"First tray in by", tray(isFit, is), tray(wouldFit, would)},
		{"Groups", fmt.Sprint(len(is.Groups)), fmt.Sprint(len(would.Groups))},
	}
}
