package plan

import (
	"fmt"
	"math"
	"strings"

	"freshapron/internal/app/lessons"
	"freshapron/internal/core/fit"
	"freshapron/internal/core/lesson"
	"freshapron/internal/web/frame"
	"freshapron/internal/web/head"
	"freshapron/internal/web/timeline"
)

// A page is the view model of a lesson.
type page struct {
	head.Head
	Verdicts []verdict

	Settings settings
	MayPlan  bool // whoever reads it may change it

	Planned  bool // what follows is there
	Tables   []table
	ClassFor string

	Now       string // minute of the lesson, of one today; empty otherwise
	Timing    timingHTML
	Panel     panel
	Rescue    bool // what would help is searched for
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
	Guesses  bool // some minutes are only typical
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

// typicalOf tells which minutes of a lesson's steps are guesses.
func typicalOf(v *lessons.View) func(dish, step string) (work, wait bool) {
	return func(dish, step string) (work, wait bool) { return v.Core.Typical(v.Fit, dish, step) }
}

func timingOf(v *lessons.View, s state) timing {
	look := s.look(v.ID)
	look.Typical = typicalOf(v)
	guessed, _ := v.Core.Guessed()
	t := timing{
		Guesses:  guessed >= 1,
		TimeSays: v.Verdicts[0].Head + ". " + v.Verdicts[0].Says,
		Picture:  timeline.Draw(v.Fit, v.Plan, look), Lines: linesOf(v), Chain: chainOf(v),
	}
	add := func(label, by string) {
		t.Looks = append(t.Looks, link{label, label, state{By: by}.address(v.ID, "") + "#timing", s.By == by})
	}
	add("All benches", timeline.ByBench)
	if len(v.Fit.Groups) > 1 {
		add("Each bench", timeline.ByEach)
	}
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
	e.Says += fmt.Sprintf("; %s, before %s.", v.Plan.Risk.Benches.Says("bench", "benches"), was.Risk.Benches.Figure())
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
	switch {
	case h.Keeps && h.Apart == nil:
		out.Light = string(lesson.Good)
	case h.Keeps:
		out.Light = string(lesson.Look)
	}
	if h.Apart != nil {
		out.Says += " The two don’t go together any more: " + strings.Join(h.Apart, "; ") + "."
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

func pageOf(v *lessons.View, c lessons.Choices, t trial, mayPlan, help bool) page {
	p := page{
		Head:    head.Of(v),
		MayPlan: mayPlan,
	}
	p.Settings = settingsOf(v, c, t)
	if p.Planned = v.Problems == nil; !p.Planned {
		return p
	}
	for _, judged := range v.Verdicts {
		p.Verdicts = append(p.Verdicts, verdict{
			Icon: iconOf[judged.About], Light: string(judged.Light), Word: wordFor[judged.Light], Head: judged.Head, Says: judged.Says, Href: placeOf[judged.About],
		})
	}
	p.Tables, p.ClassFor = tablesOf(v)
	p.Panel = panelOf(v, t.state, t.decision, mayPlan)
	if p.Rescue = help; help {
		for i := range p.Verdicts { // what would help stands behind what is wrong
			if about := v.Verdicts[i].About; about == "time" || about == "chance" {
				p.Verdicts[i].Href = "#rescues"
			}
		}
	}
	p.Decisions = decisionsOf(v, t.state)
	if !mayPlan {
		for i := range p.Decisions {
			p.Decisions[i].Hidden = nil
		}
	}
	p.Undo = t.state.hidden(v.Version)
	return p
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
	return linesFrom(v.Fit, v.Plan, func(dish, step string) string { return v.Core.StepOf(v.Fit, dish, step).LookFor })
}

// linesFrom writes the running sheet, with what to look for at a step.
func linesFrom(f fit.Lesson, p *fit.Plan, lookFor func(dish, step string) string) []line {
	var out []line
	for _, l := range fit.Running(f, p) {
		m := line{
			Clock: f.At(l.From), Until: f.At(l.To), ToBell: fmt.Sprint(f.ToBell(l.From)),
			What: l.What, Who: l.Who, Where: l.Where, Phase: l.Phase,
		}
		if !l.Phase {
			m.Latest, m.LookFor = f.At(l.Latest), lookFor(l.Dish, l.Step)
		}
		out = append(out, m)
	}
	return out
}
