package plan

import (
	"fmt"
	"math"
	"slices"
	"strings"

	"freshapron/internal/app/lessons"
	"freshapron/internal/core/exact"
	"freshapron/internal/core/fit"
	"freshapron/internal/core/lesson"
	"freshapron/internal/core/problem"
	"freshapron/internal/core/rescue"
	"freshapron/internal/core/words"
	"freshapron/internal/web/frame"
	"freshapron/internal/web/timeline"
)

// A panel stands below the picture: it explains the step that was pressed and
// lets a teacher decide about it, or about the room where none was.
type panel struct {
	Head    string
	Says    []string
	Offers  []offer
	Problem string
	Chosen  bool
	Back    string // to the lesson without a chosen step
}

// An offer is a small form that makes one change.
type offer struct {
	ID, Action string
	Hidden     []pair
	Fields     []field
	Label      string // what it is about
	Button     string
}

type pair struct{ Name, Value string }

// A field of an offer: a number, a time of day, or a choice.
type field struct {
	Name, ID, Label, Value, Unit string
	Time                         bool
	Options                      []frame.Option
}

// panelOf explains what is chosen; what could be done about it is offered to
// those who may plan.
func panelOf(v *lessons.View, s state, problems problem.List, mayPlan bool) panel {
	p := explained(v, s, problems)
	if !mayPlan {
		p.Offers = nil
	}
	return p
}

func explained(v *lessons.View, s state, problems problem.List) panel {
	o := offers{view: v, state: s}
	p := panel{Back: s.address(v.ID, "")}
	for _, q := range problems {
		p.Problem = strings.TrimSpace(p.Problem + " " + problem.Sentence(q.Says))
	}
	if o.thing(&p) {
		return p
	}
	e, ok := fit.Explain(v.Fit, v.Plan, s.At.Group, s.At.Dish, s.At.Step)
	if !ok {
		p.Head = "In the room today"
		p.Says = []string{"Press a step in the picture to see why it is then and to decide about it."}
		p.Offers = o.room()
		return p
	}
	p.Chosen = true
	p.Head = e.Group.Label() + ": " + e.Step.Label()
	p.Says = sentences(v.Fit, e)
	p.Offers = o.step(e)
	return p
}

// sentences say what a step is, why it is then, and what hangs on it.
func sentences(l fit.Lesson, e fit.Explanation) []string {
	s := e.Plan
	var what []string
	if work := s.WorkEnd - s.Start; work > 0 {
		who := "an adult does it"
		if s.Cooks > 0 {
			who = words.Plural(s.Cooks, "cook", "cooks")
			if e.Step.Adult == fit.Watches {
				who += ", an adult watching"
			}
		}
		what = append(what, fmt.Sprintf("%s of work, %s", lesson.Minutes(work), who))
	}
	if wait := s.End - s.WorkEnd; wait > 0 {
		what = append(what, lesson.Minutes(wait)+" without hands")
	}
	text := fmt.Sprintf("%s to %s: %s", l.At(s.Start), l.At(s.End), strings.Join(what, ", then "))
	for _, u := range s.Units {
		text += ", " + u.Unit
	}
	out := []string{text + ".", because(l, e)}

	if give := s.LatestStart - s.Start; give < 0.25 {
		out = append(out, "It has nothing to give: begun later, the lesson ends later.")
	} else {
		out = append(out, fmt.Sprintf("It can begin %s later, by %s, and everybody is still done in time.", lesson.Minutes(give), l.At(s.LatestStart)))
	}
	if len(e.Waiting) > 0 {
		out = append(out, "What waits for it: "+list(waiting(l, e), 3)+".")
	}
	return out
}

// because says what kept the step from starting sooner.
func because(l fit.Lesson, e fit.Explanation) string {
	if e.Plan.Held.InQueue() && e.Plan.Held.Minutes >= 0.5 {
		text := fmt.Sprintf("Ready at %s, it waits %s for %s", l.At(e.Plan.Start-e.Plan.Held.Minutes), lesson.Minutes(e.Plan.Held.Minutes), lesson.Thing(e.Plan.Held.For))
		for _, r := range e.Reasons {
			if r.Why == e.Plan.Held.For && r.Group != "" {
				return text + ": " + whose(l, r, e.Group.ID) + " has it until then."
			}
		}
		return text + "."
	}
	var parts []string
	for _, r := range e.Reasons {
		switch {
		case r.Why == "phase":
			parts = append(parts, "the whole class is busy until then")
		case r.Why == "pin":
			parts = append(parts, "you have put it there")
		case r.Why == "door":
			parts = append(parts, "the door opens then")
		case r.Group == "":
			parts = append(parts, "the "+r.Why+" is hot then")
		case r.Why == "rule":
			parts = append(parts, whose(l, r, e.Group.ID)+" is done then")
		case r.Why == "cooks":
			parts = append(parts, "the cook is busy with "+whose(l, r, e.Group.ID)+" until then")
		case r.Why == "adults":
			parts = append(parts, "an adult is busy with "+whose(l, r, e.Group.ID)+" until then")
		default:
			parts = append(parts, whose(l, r, e.Group.ID)+" has the "+r.Why+" until then")
		}
	}
	if len(parts) == 0 {
		return "Sooner is not needed, or would make another bench wait."
	}
	return "Not sooner, because " + list(parts, 2) + "."
}

// whose names a step, with its bench where that is another one.
func whose(l fit.Lesson, r fit.Reason, group string) string {
	title := "“" + l.StepTitle(r.Dish, r.Step) + "”"
	if r.Group != group {
		title += " of " + l.GroupLabel(r.Group)
	}
	return title
}

func waiting(l fit.Lesson, e fit.Explanation) []string {
	var out []string
	for _, r := range e.Waiting {
		if text := whose(l, r, e.Group.ID); !slices.Contains(out, text) {
			out = append(out, text)
		}
	}
	return out
}

// list joins so many parts, and says how many more there are.
func list(parts []string, most int) string {
	if more := len(parts) - most; more > 0 {
		return strings.Join(parts[:most], ", ") + fmt.Sprintf(" and %d more", more)
	}
	if len(parts) > 1 {
		return strings.Join(parts[:len(parts)-1], ", ") + " and " + parts[len(parts)-1]
	}
	return parts[0]
}

// offers builds the small forms.
type offers struct {
	view  *lessons.View
	state state
	count int
}

// offer makes a form for a change; what is not decided yet are its fields.
func (o *offers) offer(label, button string, c rescue.Change, fields ...field) offer {
	o.count++
	f := offer{
		ID: fmt.Sprintf("offer-%d", o.count), Action: fmt.Sprintf("/lessons/%d/changes", o.view.ID),
		Label: label, Button: button, Hidden: append(o.state.hidden(o.view.Version), hiddenOf(0, c)...), Fields: fields,
	}
	for i := range f.Fields {
		f.Fields[i].ID = fmt.Sprintf("offer-%d-%d", o.count, i)
		f.Fields[i].Name = "changes[0]." + f.Fields[i].Name
	}
	return f
}

// hiddenOf writes a change as hidden fields of a form.
func hiddenOf(n int, c rescue.Change) []pair {
	at := func(name string) string { return fmt.Sprintf("changes[%d].%s", n, name) }
	var out []pair
	add := func(name, value string) {
		if value != "" {
			out = append(out, pair{at(name), value})
		}
	}
	add("kind", string(c.Kind))
	add("group", c.Group)
	add("dish", c.Dish)
	add("step", c.Step)
	add("equipment", c.Equipment)
	add("unit", c.Unit)
	add("other", c.Other)
	if c.At.Sign() != 0 {
		add("at", c.At.Decimal(4))
	}
	if c.Minutes.Sign() != 0 {
		add("minutes", c.Minutes.Decimal(4))
	}
	if c.Number != 0 {
		add("number", fmt.Sprint(c.Number))
	}
	return out
}

// nudge is by how many minutes a step is moved at one press.
const nudge = 5

// step offers what can be decided about a step: its moment, its unit, its
// minutes, and the bench.
func (o *offers) step(e fit.Explanation) []offer {
	l := o.view.Fit
	dish := l.Of(e.Plan.Dish)
	about := rescue.Change{Group: e.Group.ID, Dish: dish, Step: e.Step.ID}
	with := func(k rescue.Kind, at float64) rescue.Change {
		c := about
		c.Kind, c.At = k, exact.Frac(int64(math.Round(at*60)), 60)
		return c
	}
	s := e.Plan
	clock := field{Name: "clock", Label: "Time", Value: l.At(math.Ceil(s.Start - 1e-9)), Time: true}
	when := field{Name: "kind", Label: "When", Options: []frame.Option{
		{Value: string(rescue.NotBefore), Label: "not before"}, {Value: string(rescue.BeginBy), Label: "begin by"}, {Value: string(rescue.PinAt), Label: "exactly at"},
	}}
	out := []offer{
		o.offer("", fmt.Sprintf("%d min later", nudge), with(rescue.NotBefore, s.Start+nudge)),
		o.offer("", "Keep it here", with(rescue.PinAt, s.Start)),
		o.offer("Its moment", "Plan so", about, when, clock),
	}
	if s.Start >= nudge {
		out = slices.Insert(out, 0, o.offer("", fmt.Sprintf("%d min earlier", nudge), with(rescue.BeginBy, s.Start-nudge)))
	}
	for i, u := range s.Units {
		units := field{Name: "unit", Label: "Which", Value: u.Unit}
		for _, eq := range l.Equipment {
			if eq.ID == u.Equipment {
				for _, unit := range eq.Units {
					if unit.Places >= e.Step.Uses[i].Places {
						units.Options = append(units.Options, frame.Option{Value: unit.Name, Label: unit.Name, Chosen: unit.Name == u.Unit})
					}
				}
			}
		}
		if len(units.Options) > 1 {
			c := about
			c.Kind = rescue.InUnit
			out = append(out, o.offer("Its "+u.Equipment, "Put it there", c, units))
		}
	}
	everyBench := rescue.Change{Dish: dish, Step: e.Step.ID}
	if e.Step.Work.Sign() > 0 {
		everyBench.Kind = rescue.Work
		out = append(out, o.offer("Work, one cook, every bench", "Set", everyBench, field{Name: "minutes", Label: "Minutes of work", Value: e.Step.Work.Decimal(2), Unit: "min"}))
	}
	if rescue.Shares(e.Step) && e.Group.Cooks > 1 {
		everyBench.Kind = rescue.Share
		out = append(out, o.offer("", "Share the cutting", everyBench))
	}
	if e.Step.Wait.Sign() > 0 {
		everyBench.Kind = rescue.Wait
		out = append(out, o.offer("Wait, every bench", "Set", everyBench, field{Name: "minutes", Label: "Minutes of waiting", Value: e.Step.Wait.Decimal(2), Unit: "min"}))
	}
	bench := rescue.Change{Kind: rescue.Pace, Group: e.Group.ID}
	out = append(out, o.offer("Pace of "+e.Group.Label(), "Set", bench, field{Name: "minutes", Label: "Pace of " + e.Group.Label(), Value: e.Group.Pace.Decimal(2), Unit: "×"}))
	bench.Kind = rescue.Cooks
	return append(out, o.offer("Cooks at "+e.Group.Label(), "Set", bench, field{Name: "number", Label: "Cooks at " + e.Group.Label(), Value: fmt.Sprint(e.Group.Cooks)}))
}

// thing explains what was pressed where it is no step: a phase, a unit or the
// adults. It reports whether it was one.
func (o *offers) thing(p *panel) bool {
	l, at := o.view.Fit, o.state.At
	switch at.Group {
	case timeline.Phase:
		for _, s := range l.Spans() {
			if s.Name == at.Dish {
				p.Says = append(p.Says, fmt.Sprintf("%s to %s: the whole class does this, and no bench works. What bakes, rests or simmers goes on.", l.At(s.From), l.At(s.To)))
				if s.Place == fit.AtEnd {
					p.Says[len(p.Says)-1] = fmt.Sprintf("%s to %s: the whole class does this. Everything must be done before it begins.", l.At(s.From), l.At(s.To))
					if s.From < o.view.Plan.WaitsUntil {
						p.Says[len(p.Says)-1] = fmt.Sprintf("%s to %s: the whole class does this. All work must be done before it begins; what bakes or rests by itself goes on until %s.", l.At(s.From), l.At(s.To), l.At(o.view.Plan.WaitsUntil))
					}
				}
			}
		}
		p.Head = at.Dish
		p.Says = append(p.Says, "Its name, its minutes and its place are under “How it runs”.")
	case timeline.Unit:
		for _, d := range fit.Doors(l, o.view.Plan) {
			if d.Unit == at.Step && d.Equipment == at.Dish {
				p.Says = append(p.Says, fmt.Sprintf("On at %s, hot by %s.", l.At(d.On), l.At(d.Ready)))
				for _, m := range d.Moves {
					way := "out"
					if m.In {
						way = "in"
					}
					p.Says = append(p.Says, fmt.Sprintf("%s %s: %s, “%s”", l.At(m.At), way, l.GroupLabel(m.Group), l.StepTitle(m.Dish, m.Step)))
				}
			}
		}
		p.Head = at.Step
		p.Offers = []offer{o.offer("", "Take it out", rescue.Change{Kind: rescue.UnitOut, Equipment: at.Dish, Unit: at.Step})}
	case timeline.Adults:
		p.Head = "Adults in the lesson"
		p.Says = append(p.Says, words.Plural(l.Adults, "adult can", "adults can")+" do or watch a step at the same moment.")
		for _, d := range fit.Duties(l, o.view.Plan) {
			if d.Group == "" {
				p.Says = append(p.Says, fmt.Sprintf("%s to %s: out of the room", l.At(d.From), l.At(d.To)))
				continue
			}
			p.Says = append(p.Says, fmt.Sprintf("%s: “%s” of %s", l.At(d.From), l.StepTitle(d.Dish, d.Step), l.GroupLabel(d.Group)))
		}
		p.Offers = o.room()
	default:
		return false
	}
	p.Chosen = true
	return true
}

// room offers what can be decided about the room and the class.
func (o *offers) room() []offer {
	l := o.view.Fit
	var out []offer
	for _, e := range l.Equipment {
		if e.PerStation || len(e.Units) < 2 {
			continue
		}
		units := field{Name: "unit", Label: "Which " + e.ID}
		for _, u := range e.Units {
			units.Options = append(units.Options, frame.Option{Value: u.Name, Label: u.Name})
		}
		out = append(out, o.offer("Out of use: "+e.ID, "Take it out", rescue.Change{Kind: rescue.UnitOut, Equipment: e.ID}, units))
	}
	if l.Adults > 0 {
		opening := 0.0
		for _, s := range l.Spans() {
			if s.Place == fit.AtStart {
				opening = max(opening, s.To)
			}
		}
		out = append(out, o.offer("An adult is out", "Plan so", rescue.Change{Kind: rescue.AdultOut},
			field{Name: "clock", Label: "From", Value: l.At(opening + 10), Time: true},
			field{Name: "minutes", Label: "Minutes out", Value: "10", Unit: "min"}))
	}
	pace := "1"
	if len(l.Groups) > 0 {
		pace = l.Groups[0].Pace.Decimal(2)
	}
	return append(out, o.offer("Pace of every bench", "Set", rescue.Change{Kind: rescue.Pace}, field{Name: "minutes", Label: "Pace of every bench", Value: pace, Unit: "×"}))
}
