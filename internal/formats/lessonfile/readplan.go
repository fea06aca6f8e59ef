package lessonfile

import (
	"io"
	"slices"

	"freshapron/internal/core/exact"
	"freshapron/internal/core/fit"
	"freshapron/internal/formats/tree"
)

// ReadPlan reads a plan as WritePlan writes it, as far as it can be drawn and
// checked: the groups with their steps, and the verdict. Risk and rescues are
// for whoever plans anew. The error is a problem.List with the path of each
// thing that is wrong.
func ReadPlan(from io.Reader) (*fit.Plan, error) {
	value, err := tree.Decode(from)
	if err != nil {
		return nil, err
	}
	r := &reader{}
	root := r.Root(value).Object()
	if root.Fields == nil {
		return nil, r.Problems
	}
	p := r.plan(root)
	if len(r.Problems) > 0 {
		return nil, r.Problems
	}
	return p, nil
}

func (r *reader) plan(o *tree.Object) *fit.Plan {
	o.Head(PlanFormat, Version, "a plan")
	minutes := func(o *tree.Object, name string) float64 { return o.Number(name, exact.Number{}, true).Float() }
	p := &fit.Plan{
		Fits: o.Flag("fits"), Deadline: minutes(o, "deadline_min"), Finish: minutes(o, "finish_min"),
		Slack: minutes(o, "slack_min"), Overrun: minutes(o, "overrun_min"), LowerBound: minutes(o, "lower_bound_min"), Optimal: o.Flag("optimal"),
	}
	p.WaitsUntil = p.Deadline
	if o.Has("wait_deadline_min") {
		p.WaitsUntil = minutes(o, "wait_deadline_min")
	}
	o.Field("groups", true).Each(func(_ int, n tree.Node) {
		g := n.Object()
		gp := fit.GroupPlan{ID: g.Text("id", true), Finish: minutes(g, "finish_min")}
		g.Field("steps", true).Each(func(_ int, n tree.Node) {
			s := n.Object()
			sp := fit.StepPlan{
				Dish: s.Text("dish", true), Step: s.Text("step", true),
				Start: minutes(s, "start_min"), WorkEnd: minutes(s, "work_end_min"), End: minutes(s, "end_min"),
				Cooks: s.Count("cooks", 0, true), LatestStart: minutes(s, "latest_start_min"),
			}
			sp.Hands = s.Counts("hands")
			s.Field("units", true).Each(func(_ int, n tree.Node) {
				u := n.Object()
				sp.Units = append(sp.Units, fit.UnitPlan{Equipment: u.Text("equipment", true), Unit: u.Text("unit", true)})
				u.Done()
			})
			s.Done()
			gp.Steps = append(gp.Steps, sp)
		})
		g.Done()
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
	o.Field("conflicts", false).Each(func(_ int, n tree.Node) {
		c := n.Object()
		conflict := fit.Conflict{Says: c.Text("says", false)}
		c.Field("groups", false).Each(func(_ int, n tree.Node) {
			if id, ok := n.Value.(string); ok {
				conflict.Groups = append(conflict.Groups, id)
			}
		})
		c.Field("rules", false)
		c.Done()
		p.Conflicts = append(p.Conflicts, conflict)
	})
	o.Field("late_pins", false).Each(func(_ int, n tree.Node) {
		l := n.Object()
		p.LatePins = append(p.LatePins, fit.LatePin{
			Group: l.Text("group", true), Dish: l.Text("dish", true), Step: l.Text("step", true), Minutes: minutes(l, "minutes"),
		})
		l.Done()
	})
	o.Field("late", false).Each(func(_ int, n tree.Node) {
		l := n.Object()
		p.Late = append(p.Late, fit.Late{
			Group: l.Text("group", true), Dish: l.Text("dish", true), Step: l.Text("step", true), Minutes: minutes(l, "by_min"),
		})
		l.Done()
	})
	for _, name := range []string{"idle", "chain", "risk", "rescues"} {
		o.Field(name, false)
	}
	o.Done()
	return p
}
