package fit

import (
	"slices"

	"freshapron/internal/core/constraint"
)

// A template is a plan for one group that has the room to itself and all the
// time it wants. It exists for groups with greatest gaps: without them steps
// can always run one after the other.
type template struct {
	starts, cooks []int   // in the order of instance.byGroup
	units         [][]int // for each task and use, by its place in use.units
	clash         []rule  // where there is no such plan: the rules that exclude each other
	unsure        bool    // the search for one was cut short, so there may be a plan after all
	noRoom        bool    // a unit that it needs is out for good
}

func (t template) impossible() bool { return t.clash != nil || t.noRoom }

// A rule names one greatest gap: link number `link` of task `task`.
type rule struct{ task, link int }

// templates finds one for each group. Groups that differ in nothing that
// matters here share the work.
func (p *instance) templates() []template {
	out := make([]template, len(p.byGroup))
	for g, tasks := range p.ahead {
		var gaps []rule
		for _, n := range tasks {
			for i, l := range p.tasks[n].before {
				if l.max != forever {
					gaps = append(gaps, rule{n, i})
				}
			}
		}
		if gaps == nil {
			continue
		}
		if twin := p.twin(g); twin >= 0 {
			out[g] = out[twin]
			if out[g].impossible() {
				out[g].clash = slices.Clone(out[twin].clash)
				for i := range out[g].clash {
					at := slices.Index(p.ahead[twin], out[g].clash[i].task)
					out[g].clash[i].task = tasks[at]
				}
			}
			continue
		}
		out[g] = p.alone(tasks, gaps)
	}
	return out
}

const (
	aloneConflicts = 20_000
	aloneTicks     = 100_000_000
)

// alone finds a template with the constraint solver, or which rules exclude
// each other.
func (p *instance) alone(tasks []int, gaps []rule) template {
	m := p.aloneModel(tasks, gaps)
	if !m.build() {
		return template{clash: gaps, unsure: true}
	}
	try := func(rules []rule) constraint.Status {
		var lits []constraint.Lit
		for _, r := range rules {
			lits = append(lits, m.gaps[r])
		}
		return m.Solve(lits, aloneConflicts, m.Ticks+aloneTicks)
	}
	status := try(gaps)
	if status == constraint.Found {
		return m.template()
	}
	// Drop every rule that the clash does not need.
	t := template{clash: slices.Clone(gaps), unsure: status == constraint.GivenUp}
	for i := 0; i < len(t.clash); {
		without := slices.Delete(slices.Clone(t.clash), i, i+1)
		if try(without) != constraint.Found {
			t.clash = without
		} else {
			i++
		}
	}
	return t
}

// longest returns a time by which the tasks can be done one after the other, once
// all phases are over, if they can be done at all.
func (p *instance) longest(tasks []int) int {
	end := p.now
	for _, b := range p.breaks {
		end = max(end, b.to)
	}
	for _, u := range p.units {
		end = max(end, u.ready)
	}
	for _, n := range tasks {
		end = max(end, p.tasks[n].release)
	}
	for _, n := range tasks {
		t := &p.tasks[n]
		end += slices.Max(t.work) + t.wait
		for i := range t.uses {
			end += p.units[t.uses[i].units[0]].reheat
		}
		for _, l := range t.before {
			end += l.min
		}
	}
	return end
}

// template returns the solution of a model as a template.
func (m *model) template() template {
	in := m.unitsIn()
	t := template{}
	for _, n := range m.tasks {
		task := &m.instance.tasks[n]
		t.starts = append(t.starts, m.Value(m.start[n])*m.step)
		t.cooks = append(t.cooks, m.cooksOf(n))
		units := make([]int, len(task.uses))
		for i := range task.uses {
			if unit, ok := in[[2]int{n, i}]; ok {
				units[i] = slices.Index(task.uses[i].units, unit)
			}
		}
		t.units = append(t.units, units)
	}
	return t
}

// twin returns an earlier group with the same dishes, cooks and pace, or −1.
// A group that has begun is nobody's twin.
func (p *instance) twin(g int) int {
	a := p.lesson.Groups[g]
	if p.touched(a.ID) {
		return -1
	}
	for h, b := range p.lesson.Groups[:g] {
		if !p.touched(b.ID) && a.Pins == nil && b.Pins == nil && a.Cooks == b.Cooks && a.Pace.Cmp(b.Pace) == 0 && (a.Dishes == nil) == (b.Dishes == nil) && slices.Equal(a.Dishes, b.Dishes) {
			return h
		}
	}
	return -1
}

// touched reports whether something is known of the progress of a group.
func (p *instance) touched(group string) bool {
	return slices.ContainsFunc(p.lesson.Progress, func(r Progress) bool { return r.Group == group })
}
