package fit

import (
	"cmp"
	"slices"

	"freshapron/internal/core/exact"
)

// Progress says how far a group has come with a step of a lesson under way.
// With an End the step is over. With a Start alone its work is going on, or
// its wait where it has no work; with a WorkEnd its wait is.
type Progress struct {
	Group, Dish, Step string
	Skipped           bool // it will not be done; nothing else is then said of it
	Cooks             *int // on the work; may be nil of what is over, and where no cook works
	Start             exact.Number
	WorkEnd, End      *exact.Number
	Units             []UnitPlan // one for each use, in order; may be nil of what is over
	Hands             []int      // which of the group's cooks, from 1; nil where it is not known
}

// underWay reports whether the step has begun and is not over.
func (r Progress) underWay() bool { return !r.Skipped && r.End == nil }

// An Outage says that a unit can't be used for a while.
type Outage struct {
	Equipment, Unit string        // of every station where the equipment is one for each
	From            exact.Number  // minutes from the door
	To              *exact.Number // nil is for good
	Usable          bool          // what is in it then may stay to its end
}

// A Late step is one that a greatest gap bound to something that has begun,
// and that starts later all the same; or one that begins anew because its unit
// has failed.
type Late struct {
	Group, Dish, Step string
	Minutes           float64 // past the gap, or past the end that it would have had
}

// records returns what is known of the steps of a group, by dish and step.
func (l Lesson) records(group string) map[[2]string]Progress {
	out := map[[2]string]Progress{}
	for _, r := range l.Progress {
		if r.Group == group {
			out[[2]string{r.Dish, r.Step}] = r
		}
	}
	return out
}

func (l Lesson) closures(equipment, unit string) []closure {
	var out []closure
	for _, o := range l.Out {
		if o.Equipment != equipment || o.Unit != unit {
			continue
		}
		c := closure{interval{secondsDown(o.From), forever}, o.Usable}
		if o.To != nil {
			c.to = secondsUp(*o.To)
		}
		out = append(out, c)
	}
	return out
}

// begin fixes the times of a task that has begun. What is under way is taken
// to end when its planned length has passed, phases left out for the work, but
// not before now. Where its unit fails before that it begins anew instead.
func (p *instance) begin(t *task, r Progress) {
	j := job{placed: true, start: secondsDown(r.Start), cooks: t.least}
	if r.Cooks != nil {
		j.cooks = *r.Cooks
	}
	work := t.work[0]
	if len(t.work) > 1 && j.cooks >= t.least && j.cooks < t.least+len(t.work) {
		work = t.workWith(j.cooks)
	}
	var workEnd, end int
	switch {
	case r.WorkEnd != nil:
		workEnd = secondsUp(*r.WorkEnd)
	case !t.hasWork():
		workEnd = j.start
	case r.End != nil:
		workEnd = max(j.start, secondsUp(*r.End)-t.wait)
	default:
		workEnd = max(p.afterWorking(j.start, work), p.now)
	}
	if r.End != nil {
		end = secondsUp(*r.End)
	} else {
		end = max(workEnd+t.wait, p.now)
	}
	j.work, j.wait = workEnd-j.start, end-workEnd
	for i, u := range r.Units {
		for _, n := range t.uses[i].units {
			if p.lesson.Equipment[p.units[n].equipment].Units[p.units[n].index].Name == u.Unit {
				j.units = append(j.units, n)
			}
		}
	}
	if r.underWay() && p.failed(t, &j) {
		t.lost = j.end()
		return
	}
	t.begun, t.fixed, t.planned = true, j, [2]int{work, t.wait}
	t.over = r.End != nil
	t.worked = t.over || r.WorkEnd != nil || !t.hasWork()
	t.work, t.wait, t.least = []int{j.work}, j.wait, j.cooks
	t.adult = t.adult && j.work > 0
	t.notBefore = j.start
}

// failed reports whether a unit of what is under way can't be used any more
// before it ends.
func (p *instance) failed(t *task, j *job) bool {
	for i, u := range j.units {
		enter, leave := t.uses[i].span(j.start, j.work, j.wait)
		for _, c := range p.units[u].out {
			from := max(c.from, p.now)
			if enter < c.to && from < c.to && from < leave && !(c.usable && enter <= from) {
				return true
			}
		}
	}
	return false
}

// crewUnsaid gives what is over, and of which nobody said how many worked on
// it, no more cooks than the other steps of the group left free.
func (p *instance) crewUnsaid(tasks []int, records map[[2]string]Progress) {
	unsaid := func(n int) bool {
		t := &p.tasks[n]
		d := p.lesson.Dishes[t.dish]
		return t.begun && records[[2]string{d.ID, d.Steps[t.step].ID}].Cooks == nil
	}
	var known []held
	note := func(n int) {
		if j := &p.tasks[n].fixed; j.work > 0 {
			known = append(known, held{interval{j.start, j.workEnd()}, j.cooks, n})
		}
	}
	for _, n := range tasks {
		if p.tasks[n].begun && !unsaid(n) {
			note(n)
		}
	}
	for _, n := range tasks {
		if !unsaid(n) {
			continue
		}
		t := &p.tasks[n]
		j := &t.fixed
		used, _ := peakHeld(known, j.start, j.workEnd())
		j.cooks = max(0, min(j.cooks, p.lesson.Groups[t.group].Cooks-used))
		t.least = j.cooks
		note(n)
	}
}

// follow notes a rule with something that ends, or has ended, at the given
// moment.
func (t *task) follow(l link, end int) {
	t.since = append(t.since, l)
	t.release = max(t.release, end+l.min)
	if l.max != forever {
		t.startBy = min(t.startBy, end+l.max)
	}
}

// setDues says by when steps must start that a greatest gap ties to something
// that has begun. A gap that can't be kept any more asks for the first moment
// that there is.
func (p *instance) setDues() {
	var heads []int
	for n := range p.tasks {
		t := &p.tasks[n]
		if t.startBy == forever {
			continue
		}
		if heads == nil {
			heads = p.heads()
		}
		t.due, p.dues = max(t.startBy, heads[n]), true
	}
}

// gapWeight is how much worse it is to miss a greatest gap than a moment that
// the teacher has pinned.
const gapWeight = 100

// lateness returns what a start costs before everything else.
func (p *instance) lateness(n, start int) int {
	t := &p.tasks[n]
	return max(0, start-t.beginBy) + gapWeight*max(0, start-t.due)
}

// hurry lets every step that misses a gap with something that has begun start
// as soon as it can with all other steps where they are.
func (s *schedule) hurry() {
	if s.lesson.Progress == nil {
		return
	}
	for moved := true; moved; {
		moved = false
		for n := range s.jobs {
			if t := &s.tasks[n]; s.jobs[n].placed && !t.begun && s.jobs[n].start > t.startBy {
				moved = s.pull(n) || moved
			}
		}
	}
}

// pull moves a placed task to the first moment that the other tasks leave it,
// and reports whether that is sooner.
func (s *schedule) pull(n int) bool {
	t, was := &s.tasks[n], s.jobs[n]
	was.units = slices.Clone(was.units)
	s.remove(n)
	best, bestCooks := was.start, was.cooks
	trial := s.seats(n, &was)
	for cooks := t.least; cooks < t.least+len(t.work); cooks++ {
		length := t.workWith(cooks) + t.wait
		from, by := t.release, forever
		for _, l := range t.before {
			from = max(from, s.jobs[l.task].end()+l.min)
		}
		for _, l := range t.after {
			by = min(by, s.jobs[l.task].start-l.min-length)
			if l.max != forever {
				from = max(from, s.jobs[l.task].start-l.max-length)
			}
		}
		if start := s.earliest(n, cooks, from); start < best && start <= by {
			best, bestCooks = start, cooks
			trial = append(trial[:0], s.trial...)
		}
	}
	s.place(n, bestCooks, best, trial)
	return best < was.start
}

// late lists the steps that miss such a gap, or begin anew, the latest first.
func (s *schedule) late() []Late {
	var out []Late
	for n := range s.jobs {
		t, j := &s.tasks[n], &s.jobs[n]
		if !j.placed || t.begun || j.start <= t.startBy && t.lost == 0 {
			continue
		}
		by := max(0, j.start-t.startBy)
		if t.lost > 0 {
			by = max(by, j.end()-t.lost)
		}
		d := s.lesson.Dishes[t.dish]
		out = append(out, Late{s.lesson.Groups[t.group].ID, d.ID, d.Steps[t.step].ID, minutes(by)})
	}
	slices.SortStableFunc(out, func(a, b Late) int { return cmp.Compare(b.Minutes, a.Minutes) })
	return out
}

// recorded puts what was recorded of a step in the place of what the planner
// counts with, which is in whole seconds.
func (l Lesson) recorded(sp *StepPlan, r Progress) {
	sp.Start, sp.LatestStart = r.Start.Float(), r.Start.Float()
	if r.WorkEnd != nil {
		sp.WorkEnd = r.WorkEnd.Float()
	}
	if r.End != nil {
		sp.End = r.End.Float()
	}
	sp.WorkEnd = max(sp.Start, sp.WorkEnd)
	if step, _ := l.Step(sp.Dish, sp.Step); step.Work.Sign() == 0 && step.Loads() == 0 {
		sp.WorkEnd = sp.Start
	}
	if r.End != nil {
		sp.WorkEnd = min(sp.WorkEnd, sp.End)
	}
	sp.Hands = r.Hands
}
