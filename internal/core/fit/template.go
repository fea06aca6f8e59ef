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
		if p.gaps(tasks) == nil {
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
		out[g] = p.alone(g)
	}
	return out
}

// gaps returns the greatest gaps among the tasks.
func (p *instance) gaps(tasks []int) []rule {
	var gaps []rule
	for _, n := range tasks {
		for i, l := range p.tasks[n].before {
			if l.max != forever {
				gaps = append(gaps, rule{n, i})
			}
		}
	}
	return gaps
}

const (
	aloneConflicts = 20_000
	aloneTicks     = 100_000_000
	// mixedTicks bounds the search for a template in which what no rule ties
	// together goes side by side, which most are found in a third of.
	mixedTicks = 3_000_000
)

// alone finds a template for a group, or which rules exclude each other.
func (p *instance) alone(g int) template {
	tasks := p.ahead[g]
	parts := p.untied(g)
	if len(parts) > 1 {
		if m := p.aloneModel(tasks); m.build() && m.keeps(p.gaps(tasks), mixedTicks) == constraint.Found {
			return m.template()
		}
	}
	whole := template{starts: make([]int, len(tasks)), cooks: make([]int, len(tasks)), units: make([][]int, len(tasks))}
	end := 0
	for _, part := range parts {
		t := p.together(part)
		if t.impossible() {
			return t
		}
		later := max(0, end-slices.Min(t.starts))
		for i, n := range part {
			at := slices.Index(tasks, n)
			whole.starts[at], whole.cooks[at], whole.units[at] = t.starts[i]+later, t.cooks[i], t.units[i]
			task, again := &p.tasks[n], 0
			for _, u := range task.uses {
				again = max(again, p.units[u.units[0]].reheat)
			}
			end = max(end, whole.starts[at]+task.workWith(t.cooks[i])+task.wait+again)
		}
	}
	return whole
}

// untied divides what is ahead of a group into what no rule ties together. What
// has begun ties all that follows.
func (p *instance) untied(g int) [][]int {
	tasks := p.ahead[g]
	if p.touched(p.lesson.Groups[g].ID) {
		return [][]int{tasks}
	}
	label := make([]int, len(p.tasks))
	for _, n := range tasks {
		label[n] = n
	}
	for _, n := range tasks {
		for _, l := range p.tasks[n].before {
			from, to := label[n], label[l.task]
			for _, m := range tasks {
				if label[m] == from {
					label[m] = to
				}
			}
		}
	}
	var parts [][]int
	at := map[int]int{}
	for _, n := range tasks {
		i, known := at[label[n]]
		if !known {
			i, at[label[n]] = len(parts), len(parts)
			parts = append(parts, nil)
		}
		parts[i] = append(parts[i], n)
	}
	return parts
}

// together finds a template of tasks that rules tie together, or which rules
// exclude each other.
func (p *instance) together(tasks []int) template {
	gaps := p.gaps(tasks)
	m := p.aloneModel(tasks)
	if !m.build() {
		return template{clash: gaps, unsure: true}
	}
	status := m.keeps(gaps, aloneTicks)
	if status == constraint.Found {
		return m.template()
	}
	// Drop every rule that the clash does not need, as far as that is soon known.
	t := template{clash: gaps, unsure: status == constraint.GivenUp}
	for i, stop := 0, m.Ticks+2*aloneTicks; i < len(t.clash) && m.Ticks < stop; {
		without := slices.Delete(slices.Clone(t.clash), i, i+1)
		if m.keeps(without, aloneTicks) != constraint.Found {
			t.clash = without
		} else {
			i++
		}
	}
	return t
}

// keeps looks for a solution in which these greatest gaps hold.
func (m *model) keeps(gaps []rule, ticks int) constraint.Status {
	var lits []constraint.Lit
	for _, r := range gaps {
		lits = append(lits, m.gaps[r])
	}
	return m.Solve(lits, aloneConflicts, m.Ticks+ticks)
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
