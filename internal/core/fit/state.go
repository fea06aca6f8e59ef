package fit

// A state is what is taken after some tasks have been placed.
type state struct {
	lanes  lanes
	rooms  []room // by unit
	finish []int  // by group
}

func (s *state) copyFrom(o *state) {
	copy(s.lanes, o.lanes)
	copy(s.rooms, o.rooms)
	copy(s.finish, o.finish)
}

type laneState struct{ free, last int }

// lanes are the places of one resource, each free from a moment on.
type lanes []laneState

// A room is a unit in which tasks stay.
type room struct {
	lanes
	temp  int  // of the last batch
	from  int  // when that batch could begin
	by    int  // the task that the batch had to wait for
	leave int  // when all have left
	last  int  // who leaves then
	used  bool // some task has been in it
	stays []stay
}

func (p *instance) newState() state {
	count := p.adults
	for _, cooks := range p.cooks {
		count += cooks
	}
	for u := range p.units {
		count += p.units[u].places
	}
	return state{make(lanes, count), make([]room, len(p.units)), make([]int, len(p.byGroup))}
}

// keep occupies the lanes that are free first until the given moment, whether
// or not they are free.
func (l lanes) keep(count, to int) {
	for range min(count, len(l)) {
		first := 0
		for i := range l {
			if l[i].free < l[first].free {
				first = i
			}
		}
		l[first].free = max(l[first].free, to)
	}
}

func (l lanes) clear() {
	for i := range l {
		l[i] = laneState{0, -1}
	}
}

// ready returns when so many lanes are free, and the task that leaves the
// last of them.
func (l lanes) ready(count int) (free, last int) {
	if len(l) == 1 {
		return l[0].free, l[0].last
	}
	if count == 1 {
		best := l[0]
		for _, x := range l[1:] {
			if x.free < best.free {
				best = x
			}
		}
		return best.free, best.last
	}
	// The count-th smallest: the least moment at which so many are free.
	best := laneState{forever, -1}
	for _, x := range l {
		if x.free >= best.free {
			continue
		}
		n := 0
		for _, y := range l {
			if y.free <= x.free {
				n++
			}
		}
		if n >= count {
			best = x
		}
	}
	return best.free, best.last
}

// take occupies those lanes that were left last before the start, and adds
// whom the task follows there.
func (l lanes) take(count, from, to, task, resource int, follows []hold) []hold {
	for range count {
		best := -1
		for i := range l {
			if l[i].free <= from && (best < 0 || l[i].free > l[best].free) {
				best = i
			}
		}
		follows = l.seize(best, to, task, resource, follows)
	}
	return follows
}

func (l lanes) seize(lane, to, task, resource int, follows []hold) []hold {
	if last := l[lane].last; last >= 0 && last != task {
		follows = append(follows, hold{last, resource})
	}
	l[lane] = laneState{to, task}
	return follows
}
