package fit

import (
	"math"
	"slices"
)

// A Reason is why a step starts when it does and not sooner.
type Reason struct {
	// Why is "rule" for a step that comes before it, "cooks", "adults", the id
	// of an equipment, "phase", "pin", or "door".
	Why               string
	Group, Dish, Step string // whose end it waits for; empty where it is nobody's
}

// An Explanation says of one step of one group what it is, why it is then,
// and what waits for it.
type Explanation struct {
	Group   Group
	Step    Step
	Plan    StepPlan
	Reasons []Reason
	Waiting []Reason // the steps that start as soon as this one lets them, by their own reasons
}

// Explain explains a step of a plan. It reports false where the plan has no
// such step.
func Explain(l Lesson, p *Plan, group, dish, step string) (Explanation, bool) {
	g := slices.IndexFunc(l.Groups, func(g Group) bool { return g.ID == group })
	i := slices.IndexFunc(p.Groups, func(g GroupPlan) bool { return g.ID == group })
	if g < 0 || i < 0 {
		return Explanation{}, false
	}
	at := slices.IndexFunc(p.Groups[i].Steps, func(s StepPlan) bool { return s.Dish == dish && s.Step == step })
	if at < 0 {
		return Explanation{}, false
	}
	e := Explanation{Group: l.Groups[g], Plan: p.Groups[i].Steps[at]}
	e.Step, _ = l.Step(dish, step)
	e.Reasons = l.reasons(p, group, e.Plan)
	for _, o := range p.Groups {
		for _, s := range o.Steps {
			waits, _ := l.Step(s.Dish, s.Step)
			why := l.stoodInWay(o.ID, s, waits, group, e.Plan)
			if why == "" || o.ID == group && s.Dish == dish && s.Step == step {
				continue
			}
			if why == "cooks" && slices.ContainsFunc(l.reasons(p, o.ID, s), func(r Reason) bool { return r.Why == "rule" }) {
				continue
			}
			e.Waiting = append(e.Waiting, Reason{why, o.ID, s.Dish, s.Step})
		}
	}
	return e, true
}

// sameMoment is how far apart two moments of a plan may be and still be one:
// a plan counts in whole seconds.
const sameMoment = 0.5 / 60

func meets(a, b float64) bool { return math.Abs(a-b) < sameMoment }

// reasons finds whatever ends at the moment the step starts and stood in its
// way until then.
func (l Lesson) reasons(p *Plan, group string, s StepPlan) []Reason {
	var out []Reason
	step, _ := l.Step(s.Dish, s.Step)
	for _, g := range p.Groups {
		for _, o := range g.Steps {
			if o.Dish == s.Dish && o.Step == s.Step && g.ID == group {
				continue
			}
			if why := l.stoodInWay(group, s, step, g.ID, o); why != "" {
				out = append(out, Reason{why, g.ID, o.Dish, o.Step})
			}
		}
	}
	// A step that comes before it says more than a cook who is busy with it.
	if slices.ContainsFunc(out, func(r Reason) bool { return r.Why == "rule" }) {
		out = slices.DeleteFunc(out, func(r Reason) bool { return r.Why == "cooks" })
	}
	if s.WorkEnd > s.Start {
		for _, span := range l.Spans() {
			if span.Place != AtEnd && meets(span.To, s.Start) && span.To > span.From {
				out = append(out, Reason{Why: "phase"})
			}
		}
	}
	for _, g := range l.Groups {
		for _, pin := range g.Pins {
			if g.ID == group && pin.Dish == s.Dish && pin.Step == s.Step && pin.NotBefore != nil && meets(pin.NotBefore.Float(), s.Start) {
				out = append(out, Reason{Why: "pin"})
			}
		}
	}
	for i, u := range step.Uses {
		e, _ := l.equipment(u.Equipment)
		if enter, _ := staying(u, s); e.Temperature && meets(e.OnAt.Add(e.Preheat).Float(), enter) && i < len(s.Units) {
			out = append(out, Reason{Why: e.ID})
		}
	}
	if out == nil && meets(s.Start, 0) {
		out = append(out, Reason{Why: "door"})
	}
	return out
}

// staying returns when a use is in its unit.
func staying(u Use, s StepPlan) (enter, leave float64) {
	switch u.During {
	case WorkPart:
		return s.Start, s.WorkEnd
	case WaitPart:
		return s.WorkEnd, s.End
	default:
		return s.Start, s.End
	}
}

// stoodInWay says how another step kept this one from starting sooner, or
// nothing.
func (l Lesson) stoodInWay(group string, s StepPlan, step Step, other string, o StepPlan) string {
	if group == other {
		for _, a := range step.After {
			if a.Step == o.Step && (a.Dish == o.Dish || a.Dish == "" && o.Dish == s.Dish) && meets(o.End+a.MinGap.Float(), s.Start) {
				return "rule"
			}
		}
	}
	theirs, _ := l.Step(o.Dish, o.Step)
	for i, u := range step.Uses {
		e, _ := l.equipment(u.Equipment)
		for k, w := range theirs.Uses {
			if i >= len(s.Units) || k >= len(o.Units) || s.Units[i] != o.Units[k] || e.PerStation && group != other {
				continue
			}
			gap := 0.0
			if u.Temperature != nil && w.Temperature != nil && u.Temperature.Cmp(*w.Temperature) != 0 {
				gap = e.Reheat.Float()
			}
			enter, _ := staying(u, s)
			if _, leave := staying(w, o); meets(leave+gap, enter) {
				return e.ID
			}
		}
	}
	switch {
	case !meets(o.WorkEnd, s.Start) || o.WorkEnd <= o.Start || s.WorkEnd <= s.Start:
		return ""
	case step.Adult != NoAdult && theirs.Adult != NoAdult && group != other:
		return "adults"
	case group == other && s.Cooks > 0 && o.Cooks > 0:
		return "cooks"
	}
	return ""
}
