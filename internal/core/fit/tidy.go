package fit

import (
	"cmp"
	"slices"
)

// tidy returns the same schedule with its names dealt out in the order of the
// room: of groups that are alike the first in the list is the first to be
// done, and of units that are alike the first is the first to be filled. The
// search finds such choices by chance; people look for the order.
func (s *schedule) tidy() *schedule {
	if s.now > 0 || s.shuts || s.lesson.Progress != nil { // nothing is alike any more
		s.hurry()
		return s
	}
	groups := s.groupOrder()
	out := newSchedule(s.instance)
	for to, from := range groups {
		for i, n := range s.byGroup[from] {
			if s.jobs[n].placed {
				j := s.jobs[n]
				j.units = slices.Clone(j.units)
				out.jobs[s.byGroup[to][i]] = j
			}
		}
	}
	// Units of a group's own station become those of the group that takes
	// the place; then like units of the room are dealt out.
	for to, from := range groups {
		if to == from {
			continue
		}
		for _, n := range s.byGroup[to] {
			j, t := &out.jobs[n], &out.tasks[n]
			for k := range j.units {
				j.units[k] = t.uses[k].units[out.units[j.units[k]].index]
			}
		}
	}
	deal := out.unitOrder()
	byStart := make([]int, 0, len(out.tasks))
	for n := range out.jobs {
		if out.jobs[n].placed {
			byStart = append(byStart, n)
		}
	}
	slices.SortStableFunc(byStart, func(a, b int) int { return out.jobs[a].start - out.jobs[b].start })
	for _, n := range byStart {
		j := &out.jobs[n]
		trial := make([]assignment, len(j.units))
		for k, u := range j.units {
			trial[k] = assignment{deal[u], out.stayOf(n, &out.tasks[n].uses[k], j.start, j.work)}
		}
		out.place(n, j.cooks, j.start, trial)
	}
	return out
}

// groupOrder returns for each group the one whose schedule it takes: among
// twins, the earlier finish, then the earlier starts, come first.
func (s *schedule) groupOrder() []int {
	order := make([]int, len(s.byGroup))
	twins := map[int][]int{}
	for g := range s.byGroup {
		first := s.twin(g)
		if first < 0 {
			first = g
		}
		twins[first] = append(twins[first], g)
	}
	for _, same := range twins {
		sorted := slices.Clone(same)
		slices.SortStableFunc(sorted, func(a, b int) int {
			if c := cmp.Compare(s.groupFinish(a), s.groupFinish(b)); c != 0 {
				return c
			}
			for i := range s.byGroup[a] {
				if c := cmp.Compare(s.jobs[s.byGroup[a][i]].start, s.jobs[s.byGroup[b][i]].start); c != 0 {
					return c
				}
			}
			return 0
		})
		for i, g := range same {
			order[g] = sorted[i]
		}
	}
	return order
}

func (s *schedule) groupFinish(g int) int {
	finish := 0
	for _, n := range s.byGroup[g] {
		if s.jobs[n].placed {
			finish = max(finish, s.jobs[n].end())
		}
	}
	return finish
}

// unitOrder returns for each unit the one that takes its place: like units of
// an equipment in the order in which they are first entered, by whom comes
// first in the list.
func (s *schedule) unitOrder() []int {
	type use struct{ enter, task int }
	first := make([]use, len(s.units))
	deal := make([]int, len(s.units))
	for u := range s.units {
		first[u], deal[u] = use{forever, len(s.tasks)}, u
	}
	for n := range s.jobs {
		j := &s.jobs[n]
		for k, u := range j.units {
			enter, _ := s.tasks[n].uses[k].span(j.start, j.work, j.wait)
			if enter < first[u].enter || enter == first[u].enter && n < first[u].task {
				first[u] = use{enter, n}
			}
		}
	}
	type alike struct{ equipment, places int }
	same := map[alike][]int{}
	for u, unit := range s.units {
		if !s.lesson.Equipment[unit.equipment].PerStation && !s.pinnedUnit(u) {
			key := alike{unit.equipment, unit.places}
			same[key] = append(same[key], u)
		}
	}
	for _, units := range same {
		sorted := slices.Clone(units)
		slices.SortStableFunc(sorted, func(a, b int) int {
			if c := cmp.Compare(first[a].enter, first[b].enter); c != 0 {
				return c
			}
			return cmp.Compare(first[a].task, first[b].task)
		})
		for i, u := range sorted {
			deal[u] = units[i]
		}
	}
	return deal
}

// pinnedUnit reports whether some step has been given this unit by name.
func (s *schedule) pinnedUnit(u int) bool {
	e := s.lesson.Equipment[s.units[u].equipment]
	for _, g := range s.lesson.Groups {
		for _, pin := range g.Pins {
			if slices.Contains(pin.Units, e.Units[s.units[u].index].Name) {
				return true
			}
		}
	}
	return false
}
