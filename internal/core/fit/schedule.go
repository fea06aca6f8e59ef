package fit

import "slices"

// A schedule says when every task runs, and on what. It grows by place and
// shrinks by remove.
type schedule struct {
	*instance
	jobs   []job
	adultT []interval   // work parts that keep an adult, unordered
	cookT  [][]held     // for each group, work parts that keep cooks
	stays  [][]stay     // for each unit, what is in it
	trial  []assignment // scratch of assign
	seen   int          // things looked at while placing, which is what takes the time
	left   int          // groups for which no room was found
	only   []int        // where set, the unit that assign must take for each use, by its place in use.units
}

// A job is where a task has been placed.
type job struct {
	placed     bool
	start      int
	cooks      int
	work, wait int
	units      []int // one for each use
	hands      []int // which cooks, from 1, once that has been decided
}

func (j *job) workEnd() int { return j.start + j.work }
func (j *job) end() int     { return j.start + j.work + j.wait }

type held struct {
	interval
	cooks, task int
}

// A stay is a task in a unit.
type stay struct {
	task         int
	enter, leave int
	places       int
	temp         int
	shut         interval // nothing enters or leaves strictly inside; empty where it may
}

type assignment struct {
	unit int
	stay stay
}

func newSchedule(p *instance) *schedule {
	s := &schedule{
		instance: p,
		jobs:     make([]job, len(p.tasks)),
		cookT:    make([][]held, len(p.cooks)),
		stays:    make([][]stay, len(p.units)),
	}
	s.reset()
	return s
}

// reset empties the schedule and keeps its memory.
func (s *schedule) reset() {
	s.left = 0
	for i := range s.jobs {
		s.jobs[i].placed = false
	}
	s.adultT = s.adultT[:0]
	for _, a := range s.away {
		s.adultT = append(s.adultT, a.interval)
	}
	for i := range s.cookT {
		s.cookT[i] = s.cookT[i][:0]
	}
	for i := range s.stays {
		s.stays[i] = s.stays[i][:0]
	}
	for n := range s.tasks {
		if s.tasks[n].begun {
			s.fix(n)
		}
	}
}

// fix places what has begun, whatever else is there.
func (s *schedule) fix(n int) {
	t := &s.tasks[n]
	s.jobs[n] = t.fixed
	j := &s.jobs[n]
	for i, u := range j.units {
		s.stay(u, s.stayOf(n, &t.uses[i], j.start, j.work))
	}
	if j.workEnd() <= s.now {
		return
	}
	span := interval{j.start, j.workEnd()}
	if j.cooks > 0 {
		s.cookT[t.group] = append(s.cookT[t.group], held{span, j.cooks, n})
	}
	if t.adult {
		s.adultT = append(s.adultT, span)
	}
}

// earliest returns the first moment from t on at which the task can run with
// the given cooks beside all that is placed, and never or later where there is
// none; s.trial then holds its units.
func (s *schedule) earliest(n, cooks, t int) int {
	task := &s.tasks[n]
	work := task.workWith(cooks)
	for {
		was := t
		t = s.workStart(t, work)
		t = s.cooksFree(task.group, cooks, t, work)
		if task.adult {
			t = s.adultFree(t, work)
		}
		if t != was {
			continue
		}
		next, ok := s.assign(n, t, work)
		if ok || next >= never {
			return next
		}
		t = next
	}
}

// cooksFree returns the first moment from t on at which the group has so many
// cooks free for the given time.
func (s *schedule) cooksFree(group, cooks, t, work int) int {
	if cooks == 0 || work == 0 {
		return t
	}
	for {
		next, used := forever, 0
		s.seen += len(s.cookT[group])
		for _, h := range s.cookT[group] {
			if h.from < t+work && t < h.to {
				next = min(next, h.to)
				used += h.cooks
			}
		}
		if used+cooks <= s.cooks[group] {
			return t
		}
		peak, seen := peakHeld(s.cookT[group], t, t+work)
		s.seen += seen
		if peak+cooks <= s.cooks[group] {
			return t
		}
		t = next
	}
}

// peakHeld returns the most cooks in use at one moment of [from, to), and how
// many entries of the list it looked at to know.
func peakHeld(list []held, from, to int) (peak, seen int) {
	for _, at := range list {
		moment, used := max(at.from, from), 0
		if moment >= to || at.to <= from {
			continue
		}
		seen += len(list)
		for _, h := range list {
			if h.from <= moment && moment < h.to {
				used += h.cooks
			}
		}
		peak = max(peak, used)
	}
	return peak, seen
}

func (s *schedule) adultFree(t, work int) int {
	for {
		next, used := forever, 0
		s.seen += len(s.adultT)
		for _, a := range s.adultT {
			if a.from < t+work && t < a.to {
				next = min(next, a.to)
				used++
			}
		}
		if used < s.adults || peak(s.adultT, t, t+work) < s.adults {
			return t
		}
		t = next
	}
}

// peak returns the most intervals that hold at one moment of [from, to).
func peak(list []interval, from, to int) int {
	most := 0
	for _, at := range list {
		moment := max(at.from, from)
		if moment >= to || at.to <= from {
			continue
		}
		n := 0
		for _, h := range list {
			if h.from <= moment && moment < h.to {
				n++
			}
		}
		most = max(most, n)
	}
	return most
}

// assign finds a unit for each use of the task when it starts at t, and
// leaves them in s.trial. Where there is none it returns a later moment
// before which there is none either.
func (s *schedule) assign(n, t, work int) (next int, ok bool) {
	s.trial = s.trial[:0]
	task := &s.tasks[n]
	if len(task.uses) == 0 {
		return t, true
	}
	next = forever
	if s.assignFrom(n, t, work, 0, &next) {
		return t, true
	}
	return next, false
}

func (s *schedule) assignFrom(n, t, work, i int, next *int) bool {
	task := &s.tasks[n]
	if i == len(task.uses) {
		return true
	}
	u := &task.uses[i]
	st := s.stayOf(n, u, t, work)
	best, bestScore := -1, 0
	tryRest := i+1 < len(task.uses)
	units := u.units
	if s.only != nil {
		units = units[s.only[i] : s.only[i]+1]
	}
	for _, unit := range units {
		later, ok := s.admits(unit, &st)
		if !ok {
			*next = min(*next, t+later-st.enter)
			continue
		}
		if tryRest { // several uses: the first choice that leaves room for the others
			s.trial = append(s.trial, assignment{unit, st})
			if s.assignFrom(n, t, work, i+1, next) {
				return true
			}
			s.trial = s.trial[:i]
			continue
		}
		if score := s.score(unit, &st); best < 0 || score > bestScore {
			best, bestScore = unit, score
		}
	}
	if best < 0 {
		if *next <= t { // every unit is free by itself, only not together
			*next = t + 1
		}
		return false
	}
	s.trial = append(s.trial, assignment{best, st})
	return true
}

// score ranks the units that admit a stay: one that already has this
// temperature before a cold one, then the one that was left last, so that
// the others stay free for longer work.
func (s *schedule) score(unit int, st *stay) int {
	score := 0
	for i := range s.stays[unit] {
		o := &s.stays[unit][i]
		if o.temp == st.temp && st.temp != noTemp {
			score = max(score, forever)
		}
		if o.leave <= st.enter {
			score = max(score, o.leave)
		}
	}
	return score
}

func (s *schedule) stayOf(n int, u *use, t, work int) stay {
	task := &s.tasks[n]
	st := stay{task: n, places: u.places, temp: u.temp}
	st.enter, st.leave = u.span(t, work, task.wait)
	if task.shut && u.part != WorkPart {
		st.shut = interval{t + work, t + work + task.wait}
	}
	return st
}

// admits reports whether a stay can be in the unit beside all that is there.
// If not it returns a later moment of entering before which it can't.
func (s *schedule) admits(unit int, st *stay) (later int, ok bool) {
	u := &s.units[unit]
	if st.enter < u.ready {
		return u.ready, false
	}
	if at := u.admits(st.enter, st.leave-st.enter); at > st.enter {
		return at, false
	}
	length := st.leave - st.enter
	if length == 0 { // what is held for no time disturbs nobody
		return st.enter, true
	}
	later = st.enter
	used, firstLeave := st.places, forever
	check := func(o *stay) {
		if o.task == st.task { // another use of the same step, in the same unit
			if o.enter < st.leave && st.enter < o.leave {
				used += o.places
			}
			if o.temp != st.temp {
				later = max(later, st.enter+1)
			}
			return
		}
		if o.temp != st.temp && st.enter < o.leave+u.reheat && o.enter < st.leave+u.reheat {
			later = max(later, o.leave+u.reheat)
		}
		if inside(st.enter, o.shut) {
			later = max(later, o.shut.to)
		}
		if inside(st.leave, o.shut) {
			later = max(later, o.shut.to-length)
		}
		if inside(o.enter, st.shut) {
			later = max(later, st.enter+o.enter-st.shut.from)
		}
		if inside(o.leave, st.shut) {
			later = max(later, st.enter+o.leave-st.shut.from)
		}
		if o.enter < st.leave && st.enter < o.leave {
			used += o.places
			firstLeave = min(firstLeave, o.leave)
		}
	}
	s.seen += len(s.stays[unit])
	for i := range s.stays[unit] {
		check(&s.stays[unit][i])
	}
	for i := range s.trial {
		if s.trial[i].unit == unit {
			check(&s.trial[i].stay)
		}
	}
	if used > u.places && s.peakPlaces(unit, st)+st.places > u.places {
		if firstLeave == forever {
			firstLeave = st.enter + 1
		}
		later = max(later, firstLeave)
	}
	return later, later == st.enter
}

func inside(t int, shut interval) bool { return shut.from < t && t < shut.to }

// peakPlaces returns the most places of the unit in use at one moment of the
// stay, by others.
func (s *schedule) peakPlaces(unit int, st *stay) int {
	peak := 0
	at := func(moment int) {
		if moment < st.enter || moment >= st.leave {
			return
		}
		used := 0
		s.seen += len(s.stays[unit])
		count := func(o *stay) {
			if o.enter <= moment && moment < o.leave {
				used += o.places
			}
		}
		for i := range s.stays[unit] {
			count(&s.stays[unit][i])
		}
		for i := range s.trial {
			if s.trial[i].unit == unit {
				count(&s.trial[i].stay)
			}
		}
		peak = max(peak, used)
	}
	at(st.enter)
	for i := range s.stays[unit] {
		at(s.stays[unit][i].enter)
	}
	for i := range s.trial {
		if s.trial[i].unit == unit {
			at(s.trial[i].stay.enter)
		}
	}
	return peak
}

// place puts the task where earliest has just found room for it.
func (s *schedule) place(n, cooks, start int, trial []assignment) {
	task := &s.tasks[n]
	j := &s.jobs[n]
	j.placed, j.start, j.cooks = true, start, cooks
	j.work, j.wait = task.workWith(cooks), task.wait
	j.units = j.units[:0]
	for _, a := range trial {
		j.units = append(j.units, a.unit)
		s.stay(a.unit, a.stay)
	}
	if j.work == 0 {
		return
	}
	span := interval{start, j.workEnd()}
	if cooks > 0 {
		s.cookT[task.group] = append(s.cookT[task.group], held{span, cooks, n})
	}
	if task.adult {
		s.adultT = append(s.adultT, span)
	}
}

// seats are the places of a task where it was.
func (s *schedule) seats(n int, was *job) []assignment {
	out := make([]assignment, len(was.units))
	for i, u := range was.units {
		out[i] = assignment{u, s.stayOf(n, &s.tasks[n].uses[i], was.start, was.work)}
	}
	return out
}

func (s *schedule) stay(unit int, st stay) {
	if st.enter < st.leave {
		s.stays[unit] = append(s.stays[unit], st)
	}
}

// remove takes a placed task out again.
func (s *schedule) remove(n int) {
	task, j := &s.tasks[n], &s.jobs[n]
	j.placed = false
	for _, unit := range j.units {
		s.stays[unit] = slices.DeleteFunc(s.stays[unit], func(o stay) bool { return o.task == n })
	}
	s.cookT[task.group] = slices.DeleteFunc(s.cookT[task.group], func(h held) bool { return h.task == n })
	if task.adult {
		if i := slices.Index(s.adultT, interval{j.start, j.workEnd()}); i >= 0 {
			s.adultT = slices.Delete(s.adultT, i, i+1)
		}
	}
}
