package fit

import (
	"cmp"
	"slices"
)

// A point is a moment in the life of a task.
type point int

const (
	atStart point = iota
	atWorkEnd
	atEnd
)

// cause says what ties two tasks together.
type cause int

const (
	byRule cause = iota
	byCook
	byAdult
	byUnit
)

// A tie keeps the order of a plan: the moment `to` of task b comes at least
// lag seconds after the moment `from` of task a.
type tie struct {
	a, b     int
	from, to point
	lag      int
	cause    cause
	unit     int // where cause is byUnit
}

// An order is a schedule without its clock times: who comes after whom, by
// rule, on each cook, on each adult and in each unit.
type order struct {
	*schedule
	placed []int // tasks in the plan, by start
	ties   []tie
	into   [][]int // ties that end at a task
	outOf  [][]int // ties that begin at a task
	floor  []int   // moment before which a task does not start, whoever is quick
	by     []int   // moment after which it does not: its adult leaves, or its unit is out from then on
	moves  int     // tasks moved while looking for last moments
}

// mostMoves bounds the search for last moments among greatest gaps. Beyond
// it, in lessons far larger than any class, a step's last moment is the
// planned one.
const mostMoves = 20_000_000

func (s *schedule) order() *order {
	o := &order{schedule: s, into: make([][]int, len(s.tasks)), outOf: make([][]int, len(s.tasks)), floor: make([]int, len(s.tasks)), by: make([]int, len(s.tasks))}
	for n := range s.jobs {
		o.by[n] = forever
		if s.jobs[n].placed {
			o.placed = append(o.placed, n)
			o.by[n] = s.unitsOpen(n)
			o.floor[n] = s.tasks[n].notBefore
		}
	}
	slices.SortStableFunc(o.placed, func(a, b int) int { return s.jobs[a].start - s.jobs[b].start })
	for _, n := range o.placed {
		for _, l := range s.tasks[n].before {
			o.tie(tie{a: l.task, b: n, from: atEnd, to: atStart, lag: l.min, cause: byRule})
		}
		for _, l := range s.tasks[n].since {
			o.tie(tie{a: l.task, b: n, from: atEnd, to: atStart, lag: l.min, cause: byRule})
		}
	}
	for g := range s.cooks {
		o.cookTies(g)
	}
	var list []seat
	for _, a := range s.away {
		list = append(list, seat{nobody, atStart, atWorkEnd, a.from, a.to, 1})
	}
	for _, n := range o.placed {
		if j := &s.jobs[n]; s.tasks[n].adult {
			list = append(list, seat{n, atStart, atWorkEnd, j.start, j.workEnd(), 1})
		}
	}
	o.lanes(list, s.adults, byAdult, 0)
	for u := range s.stays {
		o.unitTies(u)
	}
	return o
}

// cookTies ties each step to what those who do it did before, where it is known
// who does what.
func (o *order) cookTies(g int) {
	var list []seat
	named := true
	for _, h := range o.cookT[g] {
		list = append(list, seat{h.task, atStart, atWorkEnd, h.from, h.to, h.cooks})
		named = named && len(o.jobs[h.task].hands) == h.cooks
	}
	if !named {
		o.lanes(list, o.cooks[g], byCook, 0)
		return
	}
	slices.SortStableFunc(list, func(a, b seat) int { return a.start - b.start })
	last := map[int]int{} // by cook
	for i := range list {
		var after []int
		for _, hand := range o.jobs[list[i].task].hands {
			if before, ok := last[hand]; ok && !slices.Contains(after, before) {
				after = append(after, before)
				o.tie(tie{a: before, b: list[i].task, from: atWorkEnd, to: atStart, cause: byCook})
			}
			last[hand] = list[i].task
		}
	}
}

// unitsOpen returns the last start of a placed task before one of its units is
// out.
func (s *schedule) unitsOpen(n int) int {
	t, j := &s.tasks[n], &s.jobs[n]
	by := forever
	for i, u := range j.units {
		enter, leave := t.uses[i].span(0, j.work, j.wait)
		for _, c := range s.units[u].out {
			if c.from < j.start+enter || c.to <= j.start+enter {
				continue
			}
			if c.usable {
				by = min(by, c.from-enter-1)
			} else {
				by = min(by, c.from-leave)
			}
		}
	}
	return by
}

// opens returns the moment from which a unit can be entered, before the given
// one: when it is hot, or can be used again.
func (u *unit) opens(enter int) int {
	at := u.ready
	for _, c := range u.out {
		if c.to <= enter {
			at = max(at, c.to)
		}
	}
	return at
}

// tie notes a tie, unless what it would hold has begun.
func (o *order) tie(t tie) {
	if o.tasks[t.b].begun {
		return
	}
	o.into[t.b] = append(o.into[t.b], len(o.ties))
	o.outOf[t.a] = append(o.outOf[t.a], len(o.ties))
	o.ties = append(o.ties, t)
}

// nobody stands in the place of a task where an adult is out of the room.
const nobody = -1

// A seat is a stretch in which a task keeps some lanes of a resource.
type seat struct {
	task       int // or nobody
	from, to   point
	start, end int
	width      int
}

// lanes lays seats into as many lanes as the resource has, each into those that
// have been free longest, and ties each to whom it follows there. It returns for
// each lane the places in the list of those who are in it, by time.
func (o *order) lanes(list []seat, count int, why cause, unit int) [][]int {
	slices.SortStableFunc(list, func(a, b seat) int { return a.start - b.start })
	type lane struct {
		free   int
		number int
	}
	lanes := make([]lane, min(count, 1+totalWidth(list)))
	in := make([][]int, len(lanes))
	for i := range lanes {
		lanes[i].number = i
	}
	for i := range list {
		s := &list[i]
		if s.end == s.start {
			continue
		}
		slices.SortFunc(lanes, func(a, b lane) int { return cmp.Or(a.free-b.free, a.number-b.number) })
		taken := 0
		for k := range lanes {
			if taken == s.width {
				break
			}
			if lanes[k].free > s.start {
				continue
			}
			number := lanes[k].number
			if before := in[number]; len(before) > 0 {
				switch last := &list[before[len(before)-1]]; {
				case last.task == s.task || s.task == nobody && last.task == nobody:
				case s.task == nobody: // the adult is out from then on
					o.by[last.task] = min(o.by[last.task], s.start-o.jobs[last.task].work)
				case last.task == nobody: // the adult is out until then
					o.floor[s.task] = max(o.floor[s.task], last.end)
				default:
					o.tie(tie{a: last.task, b: s.task, from: last.to, to: s.from, cause: why, unit: unit})
				}
			}
			in[number] = append(in[number], i)
			lanes[k].free = s.end
			taken++
		}
	}
	return in
}

func totalWidth(list []seat) int {
	n := 0
	for _, s := range list {
		n += s.width
	}
	return n
}

// unitTies ties the stays of one unit: by places, by changes of temperature
// and by doors that stay shut. What follows from the ties within a lane is
// left out.
func (o *order) unitTies(u int) {
	stays := slices.Clone(o.stays[u])
	// What is held for no time disturbs nobody.
	stays = slices.DeleteFunc(stays, func(s stay) bool { return s.enter == s.leave })
	slices.SortStableFunc(stays, func(a, b stay) int { return a.enter - b.enter })
	list := make([]seat, len(stays))
	doors := false
	for i := range stays {
		st := &stays[i]
		enter, leave := atStart, atEnd
		if j := &o.jobs[st.task]; st.enter == j.workEnd() && st.enter != j.start {
			enter = atWorkEnd
		} else if st.leave == j.workEnd() && st.leave != j.end() {
			leave = atWorkEnd
		}
		list[i] = seat{st.task, enter, leave, st.enter, st.leave, st.places}
		doors = doors || st.shut.from < st.shut.to
	}
	lanes := o.lanes(list, o.units[u].places, byUnit, u)
	o.reheatTies(u, stays, list, lanes)
	if doors {
		o.doorTies(u, stays, list, lanes)
	}
}

// reheatTies lets each batch of one temperature wait until all of the batch
// before have left and the unit has changed: those who are last in a lane of
// the one batch are tied to those who are first in a lane of the other.
func (o *order) reheatTies(u int, stays []stay, list []seat, lanes [][]int) {
	batch := make([]int, len(stays))
	for i := 1; i < len(stays); i++ {
		batch[i] = batch[i-1]
		if stays[i].temp != stays[i-1].temp {
			batch[i]++
		}
	}
	if len(stays) == 0 || stays[0].temp == noTemp || batch[len(stays)-1] == 0 {
		return
	}
	first, last := make([][]int, len(stays)), make([][]int, len(stays)) // by batch
	add := func(to [][]int, b, i int) {
		if !slices.Contains(to[b], i) {
			to[b] = append(to[b], i)
		}
	}
	for _, lane := range lanes {
		for k, i := range lane {
			if k == 0 || batch[lane[k-1]] != batch[i] {
				add(first, batch[i], i)
			}
			if k+1 == len(lane) || batch[lane[k+1]] != batch[i] {
				add(last, batch[i], i)
			}
		}
	}
	for b := 1; b <= batch[len(stays)-1]; b++ {
		for _, before := range last[b-1] {
			for _, i := range first[b] {
				o.tie(tie{a: list[before].task, b: list[i].task, from: list[before].to, to: list[i].from, lag: o.units[u].reheat, cause: byUnit, unit: u})
			}
		}
	}
}

// doorTies keeps comings and goings on the side of a shut door on which the
// plan has them: in each lane whoever is in when the door shuts, the last
// before and the first after.
func (o *order) doorTies(u int, stays []stay, list []seat, lanes [][]int) {
	for i := range stays {
		shut := &stays[i]
		if shut.shut.from >= shut.shut.to {
			continue
		}
		seen := map[int]bool{i: true}
		for _, lane := range lanes {
			// The first in the lane who leaves after the door has shut.
			at, _ := slices.BinarySearchFunc(lane, shut.shut.from, func(k, moment int) int { return list[k].end - moment - 1 })
			for k := max(0, at-1); k < len(lane); k++ {
				other := lane[k]
				if !seen[other] {
					seen[other] = true
					st := &list[other]
					o.door(shut, st.task, st.from, st.start, u)
					o.door(shut, st.task, st.to, st.end, u)
				}
				if list[other].start >= shut.shut.to {
					break
				}
			}
		}
	}
}

// door ties the coming or going of another task to the side of the shut time
// on which the plan has it.
func (o *order) door(shut *stay, other int, at point, moment, u int) {
	if moment >= shut.shut.to {
		o.tie(tie{a: shut.task, b: other, from: atEnd, to: at, cause: byUnit, unit: u})
	} else {
		o.tie(tie{a: other, b: shut.task, from: at, to: atWorkEnd, cause: byUnit, unit: u})
	}
}

// offset returns how long after its start a job has the given point.
func (j *job) offset(p point) int {
	switch p {
	case atStart:
		return 0
	case atWorkEnd:
		return j.work
	default:
		return j.work + j.wait
	}
}

// running returns begins and ends in an order in which every moment comes
// after all that it is tied to. From the place `loose` on they hold each
// other, as two trays do behind one door that stays shut, or wait for such:
// those stand by the times of the plan.
func (o *order) running() (out []event, loose int) {
	node := func(n int, end bool) int {
		if end {
			return 2*n + 1
		}
		return 2 * n
	}
	waits := make([]int, 2*len(o.tasks))
	next := make([][]int, 2*len(o.tasks))
	add := func(a, b int) {
		next[a] = append(next[a], b)
		waits[b]++
	}
	for _, n := range o.placed {
		add(node(n, false), node(n, true))
	}
	for i := range o.ties {
		t := &o.ties[i]
		a, b := node(t.a, t.from == atEnd), node(t.b, t.to == atEnd)
		add(a, b)
	}
	ready := []int{}
	for _, n := range o.placed {
		if waits[node(n, false)] == 0 {
			ready = append(ready, node(n, false))
		}
	}
	for len(ready) > 0 {
		v := ready[0]
		ready = ready[1:]
		out = append(out, event{v / 2, v%2 == 1})
		for _, w := range next[v] {
			if waits[w]--; waits[w] == 0 {
				ready = append(ready, w)
			}
		}
	}
	loose = len(out)
	if loose == 2*len(o.placed) {
		return out, loose
	}
	seen := map[event]bool{}
	for _, e := range out {
		seen[e] = true
	}
	for _, n := range o.placed {
		for _, e := range []event{{n, false}, {n, true}} {
			if !seen[e] {
				out = append(out, e)
			}
		}
	}
	return out, loose
}
