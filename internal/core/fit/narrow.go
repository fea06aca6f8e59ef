package fit

import (
	"maps"
	"slices"
)

const (
	narrowIdle  = 20 // parts in a row that bring nothing before the search begins again elsewhere
	narrowShare = 12 // percent of the allowance for each other beginning
	narrowLocal = 5  // thousandths of it for the local search there
)

// narrowings returns the lesson with either of two temperatures kept to some of the ovens of an
// equipment, by the share of the time that its visits take, and one or three ovens for both. Where
// ovens are short the best plans change few of them, and a search that starts from a plan in which
// many change finds none: every step towards one makes the plan longer.
func (p *instance) narrowings() []*instance {
	if p.now > 0 || p.shuts || p.lesson.Progress != nil || !p.decodable() {
		return nil
	}
	var out []*instance
	for e := range p.lesson.Equipment {
		units := len(p.lesson.Equipment[e].Units)
		loads := p.loads(e)
		temps := slices.Sorted(maps.Keys(loads))
		if units < 3 || len(temps) != 2 || temps[0] == noTemp {
			continue
		}
		first, both := loads[temps[0]], loads[temps[0]]+loads[temps[1]]
		for _, mixed := range []int{1, 3} {
			if units > mixed && both > 0 {
				only := (2*units*first/both - mixed + 1) / 2 // rounded half up
				out = append(out, p.narrowed(e, temps[0], min(max(0, only), units-mixed), mixed))
			}
		}
	}
	return out
}

// loads returns how long the visits to a shared equipment take in all, by their temperatures.
func (p *instance) loads(equipment int) map[int]int {
	loads := map[int]int{}
	if p.lesson.Equipment[equipment].PerStation {
		return loads
	}
	for n := range p.tasks {
		t := &p.tasks[n]
		for i := range t.uses {
			if u := &t.uses[i]; u.equipment == equipment {
				enter, leave := u.span(0, slices.Min(t.work), t.wait)
				loads[u.temp] += leave - enter
			}
		}
	}
	return loads
}

// narrowed returns the lesson with a temperature kept to the first so many units of an equipment
// and to the mixed ones behind them, and the other to these and the rest.
func (p *instance) narrowed(equipment, temp, only, mixed int) *instance {
	q := *p
	units := len(p.lesson.Equipment[equipment].Units)
	q.narrow = true
	q.tasks = slices.Clone(p.tasks)
	for n := range q.tasks {
		t := &q.tasks[n]
		t.uses = slices.Clone(t.uses)
		for i := range t.uses {
			switch u := &t.uses[i]; {
			case u.equipment != equipment, len(u.units) < units: // another, or pinned
			case u.temp == temp:
				u.units = u.units[:only+mixed]
			default:
				u.units = u.units[only:]
			}
		}
	}
	return &q
}

// elsewhere begins again in each of some narrowings, and goes on from the best that comes of it
// where that is better.
func (v *prover) elsewhere(narrow []*instance, templates []template, allowance, stop int) {
	for _, q := range narrow {
		s := q.extend(nil, templates, allowance, v.spent)
		if s == nil {
			continue
		}
		l := newLocal(q, v.rng, v.spent)
		if found, c := l.improve(s.list(), *v.spent+allowance*narrowLocal/1000, cost{}); c.less(s.cost()) {
			l.decode(found, forever)
			s = l.schedule(found)
		}
		w := newProver(s, 0, v.spent, v.rng)
		if w == nil {
			continue
		}
		w.patience, w.parts = narrowIdle, v.parts
		w.run(min(stop, *v.spent+allowance*narrowShare/100))
		w.best.instance = v.instance
		v.adopt(w.best)
	}
}
