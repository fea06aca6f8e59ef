package fit

import (
	"math"
	"slices"
)

// A decoder turns an order of the tasks into a schedule, many thousand times
// a second. It takes the tasks one by one and gives each the first moment
// that is not before anything it shares a cook, an adult or a place with: it
// fills no gap that an earlier task has left. Every schedule in which nothing
// could start sooner in the same order is what its own order decodes to, so
// nothing is lost, and a task needs no more than a look at when each lane is
// free.
//
// A task with two uses of one equipment can't be decoded: the lanes that its
// first use takes would have to be known to the second.
type decoder struct {
	*instance
	doors []bool // by unit: some step keeps its door shut

	// What has been found, by task.
	start, work, hands []int
	inside             [][]int  // the unit of each use
	holder             []hold   // what kept it from starting sooner
	follows            [][]hold // whom it comes after in each lane that it takes
	cost               cost
	trial              []seatIn // scratch of try

	state
	crews   []lanes // by group; like helpers and the rooms' lanes a part of state.lanes
	helpers lanes   // the adults

	some    bool  // something has begun
	begun   state // before anything else is placed
	overrun int   // of what has begun

	release   []int // no start before, so that a greatest gap is kept
	releaseBy []int // the task that makes it so
	tails     []int // least time from a start to the end of its group
	spent     *int  // placements made
}

// A hold names the task that another one waits for, and the resource that
// both need.
type hold struct {
	task     int // −1 where nothing is waited for
	resource int // byRules, or a number of a crew, the adults or a unit
}

const byRules = -1

type seatIn struct {
	unit         int
	enter, leave int
}

// mostLanes is the size of the largest resource that a decoder takes: it
// looks at every lane of it for each task.
const mostLanes = 128

// doorWeight is how many comings and goings at a door can be looked at in the
// time of a placement.
const doorWeight = 32

// decodable reports whether a decoder can take the problem.
func (p *instance) decodable() bool {
	if p.adults > mostLanes || slices.Max(p.cooks) > mostLanes {
		return false
	}
	for u := range p.units {
		if p.units[u].places > mostLanes {
			return false
		}
	}
	for n := range p.tasks {
		// Who is out is one adult or another; who is at work already may be any.
		if p.tasks[n].begun && p.tasks[n].adult && p.away != nil {
			return false
		}
		uses := p.tasks[n].uses
		for i := range uses {
			for k := range i {
				if uses[i].equipment == uses[k].equipment {
					return false
				}
			}
			if len(uses[i].units) > mostLanes {
				return false
			}
		}
	}
	return true
}

func newDecoder(p *instance, spent *int) *decoder {
	d := &decoder{
		instance: p, spent: spent,
		doors: make([]bool, len(p.units)),
		start: make([]int, len(p.tasks)), work: make([]int, len(p.tasks)), hands: make([]int, len(p.tasks)),
		inside: make([][]int, len(p.tasks)), holder: make([]hold, len(p.tasks)), follows: make([][]hold, len(p.tasks)),
		state:     p.newState(),
		release:   make([]int, len(p.tasks)),
		releaseBy: make([]int, len(p.tasks)),
		tails:     p.tails(),
	}
	d.begun = p.newState()
	rest := d.lanes
	cut := func(count int) lanes {
		part := rest[:count:count]
		rest = rest[count:]
		return part
	}
	for _, cooks := range p.cooks {
		d.crews = append(d.crews, cut(cooks))
	}
	d.helpers = cut(p.adults)
	for u := range p.units {
		d.rooms[u].lanes = cut(p.units[u].places)
	}
	for n := range p.tasks {
		d.inside[n] = make([]int, len(p.tasks[n].uses))
		for i := range p.tasks[n].uses {
			if p.tasks[n].shut {
				for _, u := range p.tasks[n].uses[i].units {
					d.doors[u] = true
				}
			}
		}
	}
	d.begin()
	return d
}

// begin places what has begun. It waits for nobody, and whoever waits for it
// can't change that: in the lanes it is nobody.
func (d *decoder) begin() {
	d.clear()
	d.overrun = -forever
	for n := range d.tasks {
		t := &d.tasks[n]
		if !t.begun {
			continue
		}
		d.some = true
		j := &t.fixed
		d.start[n], d.work[n], d.hands[n] = j.start, j.work, j.cooks
		d.holder[n] = hold{-1, byRules}
		d.finish[t.group] = max(d.finish[t.group], j.end())
		d.overrun = max(d.overrun, d.need(j.start, j.work, j.wait)-d.deadline)
		if j.work > 0 {
			d.crews[t.group].keep(j.cooks, j.workEnd())
		}
		if t.adult {
			d.helpers.keep(1, j.workEnd())
		}
		for i, u := range j.units {
			d.fill(n, &t.uses[i], u)
		}
	}
	d.begun.copyFrom(&d.state)
	for u := range d.rooms {
		d.begun.rooms[u].stays = slices.Clone(d.rooms[u].stays)
	}
}

// fill lets a use of what has begun take its places in a unit.
func (d *decoder) fill(n int, u *use, unit int) {
	t, r := &d.tasks[n], &d.rooms[unit]
	enter, leave := u.span(d.start[n], d.work[n], t.wait)
	if enter == leave {
		return
	}
	r.keep(u.places, leave)
	if r.used && u.temp != r.temp {
		r.from = r.leave + d.units[unit].reheat
	}
	r.temp, r.used = u.temp, true
	r.leave = max(r.leave, leave)
	if d.doors[unit] {
		st := stay{task: -1, enter: enter, leave: leave}
		if t.shut && u.part != WorkPart {
			st.shut = interval{d.start[n] + d.work[n], leave}
		}
		r.stays = append(r.stays, st)
	}
}

// repairsOf bounds how often one decoding may begin again for a greatest gap.
func (d *decoder) repairsOf() int { return 6 + 3*len(d.byGroup) }

// decode places the tasks in the order of the list. It reports false where a
// greatest gap is missed after every repair, or where the finish would come
// after the limit.
func (d *decoder) decode(l list, limit int) bool {
	clear(d.release)
	for range d.repairsOf() {
		d.reset()
		late := d.pass(l, 0, limit)
		if late == nil {
			return true
		}
		if late.by == 0 {
			break
		}
		// The earlier task of the gap comes that much later, as if it waited
		// for what the later one waits for.
		d.release[late.task] = d.start[late.task] + late.by
		d.releaseBy[late.task] = late.holder
	}
	d.cost = worst
	return false
}

// reset takes everything out but what has begun.
func (d *decoder) reset() {
	if !d.some {
		d.clear()
		return
	}
	copy(d.lanes, d.begun.lanes)
	copy(d.finish, d.begun.finish)
	for u := range d.rooms {
		r := &d.rooms[u]
		own, stays := r.lanes, append(r.stays[:0], d.begun.rooms[u].stays...)
		*r = d.begun.rooms[u]
		r.lanes, r.stays = own, stays
	}
}

func (d *decoder) clear() {
	d.lanes.clear()
	clear(d.finish)
	for u := range d.rooms {
		r := &d.rooms[u]
		*r = room{lanes: r.lanes, temp: noTemp, by: -1, last: -1, stays: r.stays[:0]}
	}
}

// missed says which task must come how much later, and after which; by is 0
// where the limit is missed instead.
type missed struct{ task, by, holder int }

// pass places the tasks of the list from the given place on.
func (d *decoder) pass(l list, from, limit int) *missed {
	for i, n := range l.order[from:] {
		m := d.insert(n, l.hands[n])
		if m == nil && d.start[n]+d.tails[n] > limit {
			m = &missed{}
		}
		if m != nil {
			*d.spent += i + 1
			return m
		}
	}
	*d.spent += len(l.order) - from
	d.cost = cost{}
	if d.dues {
		for _, n := range l.order {
			d.cost.late += d.lateness(n, d.start[n])
		}
	}
	if d.grace > 0 {
		d.cost.over = max(d.cost.over, d.overrun)
		for _, n := range l.order {
			d.cost.over = max(d.cost.over, d.need(d.start[n], d.work[n], d.tasks[n].wait)-d.deadline)
		}
	}
	for _, f := range d.finish {
		d.cost.finish = max(d.cost.finish, f)
		d.cost.sum += f
	}
	return nil
}

func (d *decoder) insert(n, hands int) *missed {
	t := &d.tasks[n]
	from, held := t.release, hold{-1, byRules}
	latest, tight := forever, 0
	if r := d.release[n]; r > from {
		from, held.task = r, d.releaseBy[n]
	}
	for _, b := range t.before {
		end := d.start[b.task] + d.work[b.task] + d.tasks[b.task].wait
		if end+b.min > from {
			from, held.task = end+b.min, b.task
		}
		if b.max != forever && end+b.max < latest {
			latest, tight = end+b.max, b.task
		}
	}
	best := math.MaxInt // a unit that is out for good lets nobody in before forever
	for cooks := t.least; cooks < t.least+len(t.work) && cooks <= max(hands, t.least); cooks++ {
		start, by := d.try(n, cooks, from, held)
		if end := start + t.workWith(cooks); end < best {
			best = end
			d.start[n], d.hands[n], d.work[n], d.holder[n] = start, cooks, t.workWith(cooks), by
			for i := range d.trial {
				d.inside[n][i] = d.trial[i].unit
			}
		}
	}
	start := d.start[n]
	if start >= never {
		return &missed{}
	}
	if start > latest {
		return &missed{tight, start - latest, d.holder[n].task}
	}
	d.take(n)
	g := t.group
	d.finish[g] = max(d.finish[g], start+d.work[n]+t.wait)
	return nil
}

// try returns the first moment from t on for the task with so many cooks, and
// what holds it; d.trial has the units.
func (d *decoder) try(n, cooks, t int, held hold) (int, hold) {
	task := &d.tasks[n]
	work := task.workWith(cooks)
	if work > 0 {
		if cooks > 0 && !d.ample[task.group] {
			if free, last := d.crews[task.group].ready(cooks); free > t {
				t, held = free, hold{last, task.group}
			}
		}
		if task.adult && d.away == nil {
			if free, last := d.helpers.ready(1); free > t {
				t, held = free, hold{last, len(d.crews)}
			}
		}
	}
	absences := task.adult && d.away != nil
	if len(task.uses) == 0 && !absences {
		d.trial = d.trial[:0]
		return d.workStart(t, work), held
	}
	for {
		was := t
		// A break holds nobody: whoever pushed the task into it does.
		t = d.workStart(t, work)
		if absences {
			if at, lane := d.helper(t, work); at > t {
				t, held = at, hold{d.helpers[lane].last, len(d.crews)}
			}
		}
		d.trial = d.trial[:0]
		for i := range task.uses {
			u := &task.uses[i]
			enter, leave := u.span(t, work, task.wait)
			s, last := d.choose(n, u, enter, leave-enter, t+work)
			d.trial = append(d.trial, s)
			if s.enter > enter {
				t += s.enter - enter
				held = hold{last, len(d.crews) + 1 + s.unit}
				if last < 0 {
					held.resource = byRules
				}
			}
		}
		if t == was {
			return t, held
		}
	}
}

// helper returns the first moment from t on at which an adult is there for
// the given time, and who it is: of several the one who was free last.
func (d *decoder) helper(t, work int) (int, int) {
	best, who := forever, 0
	for lane := range d.helpers {
		at := max(t, d.helpers[lane].free)
		for moved := true; moved; {
			moved = false
			for _, a := range d.away {
				if a.adult == lane && at < a.to && a.from < at+work {
					at, moved = a.to, true
				}
			}
		}
		if at < best || at == best && d.helpers[lane].free > d.helpers[who].free {
			best, who = at, lane
		}
	}
	return best, who
}

// choose returns the unit that lets a use in first: among equals the one that
// was left last, so that the others stay free.
func (d *decoder) choose(n int, u *use, enter, length, workEnd int) (seatIn, int) {
	if len(u.units) == 1 {
		at, last := d.enter(n, u.units[0], u, enter, length, workEnd-enter)
		return seatIn{u.units[0], at, at + length}, last
	}
	best, bestLast, bestFree := seatIn{enter: forever}, -1, -1
	for _, unit := range u.units {
		if u.places > d.units[unit].places {
			continue
		}
		at, last := d.enter(n, unit, u, enter, length, workEnd-enter)
		free := d.rooms[unit].leave
		if at < best.enter || at == best.enter && free > bestFree {
			best, bestLast, bestFree = seatIn{unit, at, at + length}, last, free
		}
	}
	return best, bestLast
}

// enter returns the first moment from t on at which a use can enter a unit,
// and the task that it waits for, or −1.
func (d *decoder) enter(n, unit int, u *use, t, length, toWorkEnd int) (int, int) {
	r := &d.rooms[unit]
	last := -1
	if ready := d.units[unit].ready; ready > t {
		t = ready
	}
	if length == 0 { // what is held for no time disturbs nobody
		return d.units[unit].admits(t, 0), last
	}
	if free, by := r.ready(u.places); free > t {
		t, last = free, by
	}
	if u.temp != noTemp {
		from, by := r.from, r.by
		if r.used && u.temp != r.temp {
			from, by = r.leave+d.units[unit].reheat, r.last
		}
		if from > t {
			t, last = from, by
		}
	}
	if at := d.units[unit].admits(t, length); at > t {
		t, last = at, -1
	}
	if !d.doors[unit] {
		return t, last
	}
	for moved := true; moved; {
		moved = false
		*d.spent += len(r.stays) / doorWeight
		st := stay{enter: t, leave: t + length}
		if d.tasks[n].shut && u.part != WorkPart {
			st.shut = interval{t + toWorkEnd, t + length}
		}
		for i := range r.stays {
			o := &r.stays[i]
			at := t
			if inside(st.enter, o.shut) {
				at = max(at, o.shut.to)
			}
			if inside(st.leave, o.shut) {
				at = max(at, o.shut.to-length)
			}
			if inside(o.enter, st.shut) {
				at = max(at, t+o.enter-st.shut.from)
			}
			if inside(o.leave, st.shut) {
				at = max(at, t+o.leave-st.shut.from)
			}
			if at > t {
				t, last, moved = d.units[unit].admits(at, length), o.task, true
				break
			}
		}
	}
	return t, last
}

// take occupies what the task has been given.
func (d *decoder) take(n int) {
	t := &d.tasks[n]
	start, work := d.start[n], d.work[n]
	f := d.follows[n][:0]
	if work > 0 {
		if d.hands[n] > 0 && !d.ample[t.group] {
			f = d.crews[t.group].take(d.hands[n], start, start+work, n, t.group, f)
		}
		switch {
		case t.adult && d.away != nil:
			_, lane := d.helper(start, work)
			f = d.helpers.seize(lane, start+work, n, len(d.crews), f)
		case t.adult:
			f = d.helpers.take(1, start, start+work, n, len(d.crews), f)
		}
	}
	for i := range t.uses {
		u := &t.uses[i]
		unit := d.inside[n][i]
		r := &d.rooms[unit]
		enter, leave := u.span(start, work, t.wait)
		if leave == enter {
			continue
		}
		f = r.take(u.places, enter, leave, n, len(d.crews)+1+unit, f)
		if r.used && u.temp != r.temp {
			r.from, r.by = r.leave+d.units[unit].reheat, r.last
		}
		r.temp, r.used = u.temp, true
		if leave >= r.leave {
			r.leave, r.last = leave, n
		}
		if d.doors[unit] {
			st := stay{task: n, enter: enter, leave: leave}
			if t.shut && u.part != WorkPart {
				st.shut = interval{start + work, start + work + t.wait}
			}
			r.stays = append(r.stays, st)
		}
	}
	d.follows[n] = f
}
