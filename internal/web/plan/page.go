package plan

import (
	"fmt"
	"math"
	"strings"

	"freshapron/internal/app/lessons"
	"freshapron/internal/core/fit"
	"freshapron/internal/core/lesson"
	"freshapron/internal/core/measure"
	"freshapron/internal/core/problem"
	"freshapron/internal/core/rescue"
	"freshapron/internal/core/scale"
	"freshapron/internal/core/words"
	"freshapron/internal/web/frame"
	"freshapron/internal/web/timeline"
)

// A page is the view model of a lesson.
type page struct {
	ID       int64
	Version  int
	Dish     string
	Why      string
	Class    string
	When     string
	Room     string
	Light    string
	Figure   string
	Meaning  string
	Bell     string
	Verdicts []verdict

	Settings settings

	Planned  bool // what follows is there
	Tables   []table
	ClassFor string

	Timing    timingHTML
	Panel     panel
	Rescue    bool // the lesson needs a rescue
	Effect    *effect
	Decisions []decision
	Half      *half
	Undo      []pair
	Sides     []frame.Side
}

// An effect is what the last change did, in words.
type effect struct {
	Did, Says string
	Light     string
}

// A decision is something that was decided in the plan, with the way to take
// it back.
type decision struct {
	Says, Broken string
	Hidden       []pair
}

// A half says that a lesson is one of two.
type half struct {
	Says, Other, Href string
	Light, Word       string
}

// A timing is the view model of the picture and the running sheet.
type timing struct {
	TimeSays string
	Looks    []link
	Benches  []link // one close up
	Picture  *timeline.Picture
	Calls    []call
	Chain    string
	Lines    []line
}

type link struct {
	Name, Label, Href string
	Current           bool
}

// A call is a checkpoint, by its number in the picture.
type call struct {
	Number               int
	Clock, ToBell, Slack string
	Says                 string
}

func timingOf(v *lessons.View, s state) timing {
	t := timing{
		TimeSays: v.Verdicts[0].Head + ". " + v.Verdicts[0].Says,
		Picture:  timeline.Draw(v.Fit, v.Plan, s.look(v.ID)), Lines: linesOf(v), Chain: chainOf(v),
	}
	add := func(label, by string) {
		t.Looks = append(t.Looks, link{label, label, state{By: by}.address(v.ID, "") + "#timing", s.By == by})
	}
	add("All benches", timeline.ByBench)
	add("Ovens and other things", timeline.ByThing)
	for _, g := range v.Fit.Groups {
		t.Benches = append(t.Benches, link{g.Label(), strings.TrimPrefix(g.Label(), "Bench "), state{By: g.ID}.address(v.ID, "") + "#timing", s.By == g.ID})
	}
	t.Calls = callsFrom(v.Fit, v.Plan)
	return t
}

func callsFrom(l fit.Lesson, p *fit.Plan) []call {
	var out []call
	for i, c := range fit.Checkpoints(l, p) {
		out = append(out, call{
			Number: i + 1, Clock: l.At(c.At), ToBell: fmt.Sprint(l.ToBell(c.At)), Slack: lesson.Minutes(c.Slack), Says: c.Says(),
		})
	}
	return out
}

// chainOf names what decides the end: the steps of the longest chain.
func chainOf(v *lessons.View) string {
	var parts []string
	for i, l := range v.Plan.Chain {
		text := v.Fit.StepTitle(l.Dish, l.Step)
		if i == 0 || v.Plan.Chain[i-1].Group != l.Group {
			text = v.Fit.GroupLabel(l.Group) + ": " + text
		}
		if i > 0 && l.After != "rule" && l.After != "cooks" {
			text = "then, waiting for " + lesson.Thing(l.After) + ", " + text
		}
		parts = append(parts, text)
	}
	return strings.Join(parts, " → ")
}

func effectOf(v *lessons.View, done *lessons.Effect) *effect {
	if done == nil {
		return nil
	}
	e := &effect{Did: done.Did, Light: string(lesson.Good)}
	was := done.Before
	if was == nil || v.Plan == nil || len(was.Groups) == 0 || len(v.Plan.Groups) == 0 {
		return e
	}
	by := v.Plan.Finish - was.Finish
	switch {
	case math.Abs(by) < 0.25:
		e.Says = fmt.Sprintf("Done by %s as before", v.Fit.At(v.Plan.Finish))
	case by > 0:
		e.Says = fmt.Sprintf("Done by %s, %s later than before", v.Fit.At(v.Plan.Finish), lesson.Minutes(by))
		e.Light = string(lesson.Look)
	default:
		e.Says = fmt.Sprintf("Done by %s, %s sooner than before", v.Fit.At(v.Plan.Finish), lesson.Minutes(-by))
	}
	e.Says += fmt.Sprintf("; on time %.0f in 100, before %.0f.", 100*v.Plan.Risk.AllOnTime, 100*was.Risk.AllOnTime)
	return e
}

func decisionsOf(v *lessons.View, s state) []decision {
	var out []decision
	for i, d := range v.Core.Decisions() {
		out = append(out, decision{d.Says, d.Broken, append(s.hidden(v.Version), pair{"place", fmt.Sprint(i)})})
	}
	for _, late := range v.Plan.LatePins {
		out = append(out, decision{
			Says:   fmt.Sprintf("%s: “%s”", v.Fit.GroupLabel(late.Group), v.Fit.StepTitle(late.Dish, late.Step)),
			Broken: fmt.Sprintf("no plan was found that begins it in time: %s too late", lesson.Minutes(late.Minutes)),
		})
	}
	return out
}

func halfOf(h *lessons.Halves) *half {
	if h == nil {
		return nil
	}
	out := &half{Says: h.Says, Light: string(lesson.Stop)}
	if h.Keeps {
		out.Light = string(lesson.Good)
	}
	out.Word = wordFor[lesson.Light(out.Light)]
	if h.Other.ID != 0 {
		which := "The second lesson"
		if h.Half == 2 {
			which = "The first lesson"
		}
		out.Other = fmt.Sprintf("%s: %s, %s", which, h.Other.Date.Format("Monday 2 January"), h.Other.Period.Name)
		out.Href = fmt.Sprintf("/lessons/%d", h.Other.ID)
	}
	return out
}

type verdict struct {
	Icon        string
	Light, Word string
	Head, Says  string
	Href        string
}

// wordFor a light, so that the colour does not speak alone.
var wordFor = map[lesson.Light]string{lesson.Good: "good", lesson.Look: "look here", lesson.Stop: "stop"}

var placeOf = map[string]string{"time": "#timing", "chance": "#timing", "queue": "#timing", "amounts": "#amounts", "benches": "#settings"}

var iconOf = map[string]string{"time": "bell", "chance": "spread", "queue": "oven", "amounts": "scale", "benches": "bench"}

// A settings is the form beside the lesson.
type settings struct {
	choiceFields
	Each, Demo, Spare frame.Field
	Phases            []phaseRow
	PhasesProblem     string
	Problem           string
	Changed           []string // what somebody else's version says
	IsChanged         bool
	Failed            bool // what is typed is not what the plan shows
}

type phaseRow struct {
	Index                        int
	Name, Minutes, Place, Minute frame.Field
	New                          bool
}

func pageOf(v *lessons.View, c lessons.Choices, t trial) page {
	p := page{
		ID: v.ID, Version: v.Version, Dish: v.Dish.Title, Why: v.Dish.Why, Class: v.Class.Name,
		When: fmt.Sprintf("%s, %s, %s–%s", v.Date.Format("Monday 2 January"), v.Period.Name, v.Period.Start, v.Period.End),
		Room: v.Room.Name,
		Bell: v.Period.End.String(),
	}
	if v.Problems != nil {
		if t.problems == nil {
			t.problems = v.Problems
		}
		p.Light, p.Figure, p.Meaning = string(lesson.Stop), lesson.NoPlan, "as it stands"
		p.Settings = settingsOf(v, c, t)
		return p
	}
	p.Light, p.Figure, p.Meaning = string(v.Verdicts[0].Light), lesson.Left(v.Plan), meaning(v.Plan)
	p.Settings = settingsOf(v, c, t)
	p.Planned = true
	for _, judged := range v.Verdicts {
		p.Verdicts = append(p.Verdicts, verdict{
			Icon: iconOf[judged.About], Light: string(judged.Light), Word: wordFor[judged.Light], Head: judged.Head, Says: judged.Says, Href: placeOf[judged.About],
		})
	}
	p.Tables, p.ClassFor = tablesOf(v)
	p.Panel = panelOf(v, t.state, t.decision)
	p.Rescue = len(v.Plan.Groups) > 0 && rescue.Needed(v.Plan)
	p.Decisions = decisionsOf(v, t.state)
	p.Undo = t.state.hidden(v.Version)
	return p
}

func meaning(p *fit.Plan) string {
	switch {
	case p.Conflicts != nil:
		return "the recipe’s rules contradict each other"
	case !p.Fits:
		return "before everything is done"
	}
	return "after everything is done"
}

func settingsOf(v *lessons.View, c lessons.Choices, t trial) settings {
	r, problems := t.request, t.problems
	s := settings{
		choiceFields: choicesOf(c, r, problems),
		Each:         frame.Text("each", words.Capital(v.Dish.Pieces)+" for each learner", r.Each, problems),
		Demo:         frame.Text("demo", words.Capital(v.Dish.Pieces)+" in the demonstration", r.Demo, problems),
		Spare:        frame.Text("spare", "Spare sets", r.Spare, problems),
		Failed:       problems != nil || t.changed,
		IsChanged:    t.changed,
	}
	shown := []string{"dish", "class", "room", "period", "group_size", "date", "each", "demo", "spare", "phases"}
	rows := append(r.Phases[:len(r.Phases):len(r.Phases)], lessons.PhaseRequest{Place: "start"})
	for i, row := range rows {
		path := fmt.Sprintf("phases[%d]", i)
		last := i == len(rows)-1
		s.Phases = append(s.Phases, phaseRowOf(i, path, row, last, problems))
		shown = append(shown, path+".name", path+".minutes", path+".at_minute", path+".place")
	}
	s.PhasesProblem = problems.At("phases")
	s.Problem = rest(problems, shown)
	if t.changed {
		s.Changed = differences(lessons.RequestOf(v.Lesson), r, s)
	}
	return s
}

func phaseRowOf(i int, path string, row lessons.PhaseRequest, last bool, problems problem.List) phaseRow {
	name := fmt.Sprintf("phases[%d]", i)
	label := "Phase " + fmt.Sprint(i+1)
	if last {
		label = "New phase"
	}
	f := func(key, what, value, at string) frame.Field {
		return frame.Field{Name: name + "." + key, ID: fmt.Sprintf("phase-%d-%s", i, key), Label: label + ": " + what, Value: value, Problem: problems.At(path + at)}
	}
	place := f("place", "when", row.Place, ".place")
	for _, o := range []frame.Option{{Value: "start", Label: "from the door"}, {Value: "minute", Label: "at minute"}, {Value: "end", Label: "up to the bell"}} {
		o.Chosen = o.Value == row.Place
		place.Options = append(place.Options, o)
	}
	return phaseRow{
		Index: i, New: last, Place: place,
		Name: f("name", "name", row.Name, ".name"), Minutes: f("minutes", "minutes", row.Minutes, ".minutes"),
		Minute: f("minute", "starts at minute", row.Minute, ".at_minute"),
	}
}

// differences tells, field by field, what the saved lesson says where the
// form says otherwise.
func differences(saved, typed lessons.Request, s settings) []string {
	var out []string
	label := func(f frame.Field, value string) string {
		for _, o := range f.Options {
			if o.Value == value {
				return o.Label
			}
		}
		return value
	}
	for _, d := range []struct {
		field        frame.Field
		saved, typed string
	}{
		{s.Dish, saved.Dish, typed.Dish},
		{s.Class, saved.Class, typed.Class},
		{s.Room, saved.Room, typed.Room},
		{s.Period, saved.Period, typed.Period},
		{s.Date, saved.Date, typed.Date},
		{s.GroupSize, saved.GroupSize, typed.GroupSize},
		{s.Each, saved.Each, typed.Each},
		{s.Demo, saved.Demo, typed.Demo},
		{s.Spare, saved.Spare, typed.Spare},
	} {
		if d.saved != d.typed {
			out = append(out, fmt.Sprintf("%s is now “%s”, you have “%s”", d.field.Label, label(d.field, d.saved), label(d.field, d.typed)))
		}
	}
	if fmt.Sprint(saved.Phases) != fmt.Sprint(typed.Phases) {
		out = append(out, "The phases differ: "+phasesInWords(saved.Phases))
	}
	return out
}

func phasesInWords(rows []lessons.PhaseRequest) string {
	var parts []string
	for _, p := range rows {
		parts = append(parts, fmt.Sprintf("%s %s min", p.Name, p.Minutes))
	}
	return "they are now " + strings.Join(parts, ", ")
}

// A table is the amounts for benches that make the same number of pieces.
type table struct {
	Head  string
	Count string
	Class bool // the first table has the class beside it
	Parts []part
}

type part struct {
	Name string
	Rows []row
}

type row struct {
	Name, Note     string
	Exact          string
	Weight, Volume measured
	Says           string
	Warning        string
	Benches, Total string
}

// A measured amount with how far off it can be. Best marks the nearest of
// the ways to measure.
type measured struct {
	Says, Off string
	About     string // "about " where even this is not near enough
	Best      bool
}

func tablesOf(v *lessons.View) ([]table, string) {
	var out []table
	for i, size := range v.Sizes {
		t := table{Head: "One bench: " + v.Dish.Count(size.Pieces), Class: i == 0}
		if len(size.Swaps) > 0 {
			t.Head, t.Count = benchNames(size.Benches)+", with swaps: "+v.Dish.Count(size.Pieces), swapsOf(size.Swaps)
		} else if len(v.Sizes) > 1 {
			t.Count = fmt.Sprintf("%d of the %d benches", len(size.Benches), len(v.Core.Benches()))
		}
		for _, name := range v.Dish.Parts() {
			p := part{Name: name}
			for k, a := range size.Amounts {
				if a.Line.Part == name {
					p.Rows = append(p.Rows, rowOf(a, v.Needs[k]))
				}
			}
			t.Parts = append(t.Parts, p)
		}
		out = append(out, t)
	}
	return out, v.Core.Sets()
}

// benchNames lists benches: "Bench 3", "Bench 3, Bench 7".
func benchNames(benches []lesson.Bench) string {
	var names []string
	for _, b := range benches {
		names = append(names, b.Name)
	}
	return strings.Join(names, ", ")
}

func swapsOf(list []lesson.Swap) string {
	var out []string
	for _, s := range list {
		out = append(out, s.Use+" for "+s.For)
	}
	return strings.Join(out, ", ")
}

func rowOf(a scale.Scaled, n scale.Need) row {
	best := nearest(a)
	r := row{
		Name: a.Called(a.Exact), Note: a.Line.Note, Exact: a.Exact.String(), Says: a.Says,
		Weight: measuredOf(a.ByWeight, best), Volume: measuredOf(a.ByVolume, best),
		Benches: n.Benches.String(), Total: n.Total.String(),
	}
	if a.ByCount != nil && a.Exact.Unit.Dimension == measure.Count {
		r.Weight = measuredOf(a.ByCount, best)
	}
	if !a.Measurable() {
		r.Warning = warning(a)
		r.Weight.About, r.Volume.About = "about ", "about "
	}
	return r
}

// nearest returns the best of the ways that have a column: by weight or count
// and by volume, but not by a part of a pack.
func nearest(a scale.Scaled) *measure.Instruction {
	if a.Exact.Unit.Dimension != measure.Count {
		a.ByCount = nil
	}
	return a.Best()
}

func measuredOf(i, best *measure.Instruction) measured {
	if i == nil {
		return measured{}
	}
	m := measured{Says: i.Says, Best: i == best}
	if percent := i.Error() * 100; percent >= 0.5 {
		m.Off = fmt.Sprintf("± %d %%", int(math.Round(percent)))
	}
	return m
}

// warning says how far off an amount is that can't be measured well, and the
// way out.
func warning(a scale.Scaled) string {
	limit := fmt.Sprintf("%.0f %%", a.Tolerance*100)
	if best := a.Best(); best != nil {
		return fmt.Sprintf("At best ± %.0f %%, and %s is the limit: weigh it once for the whole class and share it out.", best.Error()*100, limit)
	}
	return "Nothing in this room measures so little: weigh it once for the whole class and share it out."
}

// A line of the running sheet, ready to show.
type line struct {
	Clock, Until, ToBell string
	What, Who, Where     string
	Latest               string
	LookFor              string
	Phase                bool
}

func linesOf(v *lessons.View) []line {
	lookFor := map[string]string{}
	for _, s := range v.Dish.Steps {
		lookFor[s.ID] = s.LookFor
	}
	return linesFrom(v.Fit, v.Plan, lookFor)
}

// linesFrom writes the running sheet, with what to look for by step.
func linesFrom(f fit.Lesson, p *fit.Plan, lookFor map[string]string) []line {
	var out []line
	for _, l := range fit.Running(f, p) {
		m := line{
			Clock: f.At(l.From), Until: f.At(l.To), ToBell: fmt.Sprint(f.ToBell(l.From)),
			What: l.What, Who: l.Who, Where: l.Where, Phase: l.Phase, LookFor: lookFor[l.Step],
		}
		if !l.Phase {
			m.Latest = f.At(l.Latest)
		}
		out = append(out, m)
	}
	return out
}
