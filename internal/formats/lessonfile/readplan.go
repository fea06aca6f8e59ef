package lessonfile

import (
	"io"
	"slices"

	"freshapron/internal/core/exact"
	"freshapron/internal/core/fit"
)

// ReadPlan reads a plan as WritePlan writes it, as far as it can be drawn and
// checked: the groups with their steps, and the verdict. Risk and rescues are
// for whoever plans anew. The error is a problem.List with the path of each
// thing that is wrong.
func ReadPlan(from io.Reader) (*fit.Plan, error) {
	value, err := decode(from)
	if err != nil {
		return nil, err
	}
	r := &reader{}
	root := node{r, "$", value, true}.object()
	if root.fields == nil {
		return nil, r.problems
	}
	p := r.plan(root)
	if len(r.problems) > 0 {
		return nil, r.problems
	}
	return p, nil
}

func (r *reader) plan(o *object) *fit.Plan {
	if f := o.text("format", true); o.has("format") && f != PlanFormat {
		r.add("format", "is %q; a plan says %q", f, PlanFormat)
	}
	if v := o.count("version", Version, true); v != Version {
		r.add("version", "is %d; this program reads version %d", v, Version)
	}
	minutes := func(o *object, name string) float64 { return o.number(name, exact.Number{}, true).Float() }
	p := &fit.Plan{
		Fits: o.flag("fits"), Deadline: minutes(o, "deadline_min"), Finish: minutes(o, "finish_min"),
		Slack: minutes(o, "slack_min"), Overrun: minutes(o, "overrun_min"), LowerBound: minutes(o, "lower_bound_min"), Optimal: o.flag("optimal"),
	}
	p.WaitsUntil = p.Deadline
	if o.has("wait_deadline_min") {
		p.WaitsUntil = minutes(o, "wait_deadline_min")
	}
	o.field("groups", true).each(func(_ int, n node) {
		g := n.object()
		gp := fit.GroupPlan{ID: g.text("id", true), Finish: minutes(g, "finish_min")}
		g.field("steps", true).each(func(_ int, n node) {
			s := n.object()
			sp := fit.StepPlan{
				Dish: s.text("dish", true), Step: s.text("step", true),
				Start: minutes(s, "start_min"), WorkEnd: minutes(s, "work_end_min"), End: minutes(s, "end_min"),
				Cooks: s.count("cooks", 0, true), LatestStart: minutes(s, "latest_start_min"),
			}
			sp.Hands = s.counts("hands")
			s.field("units", true).each(func(_ int, n node) {
				u := n.object()
				sp.Units = append(sp.Units, fit.UnitPlan{Equipment: u.text("equipment", true), Unit: u.text("unit", true)})
				u.done()
			})
			s.done()
			gp.Steps = append(gp.Steps, sp)
		})
		g.done()
		slices.SortStableFunc(gp.Steps, func(a, b fit.StepPlan) int {
			switch {
			case a.Start < b.Start:
				return -1
			case a.Start > b.Start:
				return 1
			}
			return 0
		})
		p.Groups = append(p.Groups, gp)
	})
	o.field("conflicts", false).each(func(_ int, n node) {
		c := n.object()
		conflict := fit.Conflict{Says: c.text("says", false)}
		c.field("groups", false).each(func(_ int, n node) {
			if id, ok := n.value.(string); ok {
				conflict.Groups = append(conflict.Groups, id)
			}
		})
		c.field("rules", false)
		c.done()
		p.Conflicts = append(p.Conflicts, conflict)
	})
	o.field("late_pins", false).each(func(_ int, n node) {
		l := n.object()
		p.LatePins = append(p.LatePins, fit.LatePin{
			Group: l.text("group", true), Dish: l.text("dish", true), Step: l.text("step", true), Minutes: minutes(l, "minutes"),
		})
		l.done()
	})
	o.field("late", false).each(func(_ int, n node) {
		l := n.object()
		p.Late = append(p.Late, fit.Late{
			Group: l.text("group", true), Dish: l.text("dish", true), Step: l.text("step", true), Minutes: minutes(l, "by_min"),
		})
		l.done()
	})
	for _, name := range []string{"idle", "chain", "risk", "rescues"} {
		o.field(name, false)
	}
	o.done()
	return p
}
