package fit

import "slices"

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
