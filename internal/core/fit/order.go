package fit

import (
	"cmp"
	"math"
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

// latestStarts returns for each placed task the last moment at which it can
// start so that all groups still end by the limit: what comes before it
// stays, everything else may move later in the same order.
func (o *order) latestStarts(limit int) []int {
	limits, gaps := o.backward(limit), o.hasGaps()
	latest := make([]int, len(o.tasks))
	starts := make([]int, len(o.tasks))
	for n := range o.jobs {
		starts[n] = o.jobs[n].start
	}
	for _, n := range o.placed {
		now := o.jobs[n].start
		latest[n] = now
		if o.tasks[n].begun || o.moves > mostMoves {
			continue
		}
		// The backward limit is right unless a greatest gap is in the way.
		if !gaps {
			latest[n] = max(now, o.workBefore(limits[n], o.jobs[n].work))
			continue
		}
		// What can start at or after a moment can do so at or after every sooner one.
		good, bad := now, o.workBefore(limits[n], o.jobs[n].work)+1
		for try := bad - 1; bad-good > 1 || try > good; try = (good + bad) / 2 {
			if at := o.startFrom(n, try, limit, starts); at != never {
				good, latest[n] = try, at
			} else {
				bad = try
			}
			if bad-good <= 1 {
				break
			}
		}
	}
	return latest
}

// workBefore returns the last moment up to t at which work of the given
// length overlaps no break.
func (o *order) workBefore(t, work int) int {
	if work == 0 {
		return t
	}
	for _, b := range slices.Backward(o.breaks) {
		if t < b.to && b.from < t+work {
			t = b.from - work
		}
	}
	return t
}

// backward returns for each placed task the last start that the ties alone
// allow.
func (o *order) backward(limit int) []int {
	late := make([]int, len(o.tasks))
	for _, n := range o.placed {
		late[n] = min(o.lastStart(limit, o.jobs[n].work, o.jobs[n].wait), max(min(o.by[n], o.tasks[n].startBy), o.jobs[n].start))
		if o.tasks[n].begun {
			late[n] = o.jobs[n].start
		}
	}
	// Ties go forward in time, save a few between tasks that share an oven
	// with its door shut, so a few rounds settle it.
	for range len(o.placed) + 1 {
		moved := false
		for _, n := range slices.Backward(o.placed) {
			for _, k := range o.outOf[n] {
				t := &o.ties[k]
				to := o.workBefore(late[t.b], o.jobs[t.b].work)
				l := to + o.jobs[t.b].offset(t.to) - t.lag - o.jobs[n].offset(t.from)
				if l < late[n] {
					late[n], moved = l, true
				}
			}
		}
		if !moved {
			break
		}
	}
	for _, n := range o.placed {
		late[n] = max(late[n], o.jobs[n].start)
	}
	return late
}

// startFrom returns the first moment from t on at which task n can start when
// all that comes after it is pushed later only as far as needed, and with it
// the other ends of greatest gaps; never where there is none. The starts are
// left as they were.
func (o *order) startFrom(n, t, limit int, starts []int) int {
	moved, ok := o.pushed(n, t, limit, starts)
	at := starts[n]
	for _, m := range moved {
		starts[m] = o.jobs[m].start
	}
	if !ok {
		return never
	}
	return at
}

// pushed does so, and returns which tasks have moved.
func (o *order) pushed(n, t, limit int, starts []int) (moved []int, ok bool) {
	var ancestors []bool
	push := func(m, at int) {
		if at > starts[m] {
			starts[m] = o.workStart(at, o.jobs[m].work)
			moved = append(moved, m)
		}
	}
	push(n, t)
	for i := 0; i < len(moved); i++ {
		if i > 50*len(o.placed) {
			return moved, false
		}
		m := moved[i]
		o.moves++
		j := &o.jobs[m]
		if o.need(starts[m], j.work, j.wait) > limit || starts[m] > max(min(o.by[m], o.tasks[m].startBy), j.start) {
			return moved, false
		}
		for _, k := range o.outOf[m] {
			tie := &o.ties[k]
			push(tie.b, starts[m]+j.offset(tie.from)+tie.lag-o.jobs[tie.b].offset(tie.to))
		}
		for _, l := range o.tasks[m].before {
			at := starts[m] - l.max - o.jobs[l.task].work - o.jobs[l.task].wait
			if l.max == forever || at <= starts[l.task] {
				continue
			}
			if ancestors == nil {
				ancestors = o.ancestors(n)
			}
			if ancestors[l.task] {
				return moved, false
			}
			push(l.task, at)
		}
	}
	return moved, true
}

// ancestors returns what comes before a task, one after another.
func (o *order) ancestors(n int) []bool {
	out := make([]bool, len(o.tasks))
	queue := []int{n}
	for len(queue) > 0 {
		m := queue[len(queue)-1]
		queue = queue[:len(queue)-1]
		for _, k := range o.into[m] {
			if a := o.ties[k].a; !out[a] {
				out[a] = true
				queue = append(queue, a)
			}
		}
	}
	out[n] = false
	return out
}

// step of the running order: begin or end of a task.
type event struct {
	task int
	end  bool
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

// Spreads of the work and the wait part by kind: standard deviation over mean.
// Typical figures; a step may carry its own for the work part.
func workSpread(s Step) float64 {
	if s.Spread != nil {
		return *s.Spread
	}
	switch s.Kind {
	case Prepare, Cut, Shape:
		return 0.35
	case Clean, Serve:
		return 0.3
	case Cook, Bake:
		return 0.2
	default:
		return 0.25
	}
}

func waitSpread(k Kind) float64 {
	if k == Bake {
		return 0.08
	}
	return 0.05
}

const (
	classSpread = 0.15
	groupSpread = 0.10
)

// lawOf returns the lognormal law with mean 1 and the given standard
// deviation: σ² = ln(1 + s²), μ = −σ²/2.
func lawOf(spread float64) law {
	v := math.Log1p(spread * spread)
	return law{-v / 2, math.Sqrt(v)}
}
