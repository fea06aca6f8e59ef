package fit

// A chart holds what was decoded last as a graph: for each task how long it
// is at least from its start to the end of the lesson, by the rules and by who
// follows whom in each lane. From it a change of places can be judged without
// decoding it.
type chart struct {
	*decoder
	next [][]hold // who follows in each lane
	tail []int    // from the start of the task to the end of the last that hangs on it
	best []int    // scratch of estimate: starts
	in   []int    // scratch of estimate: the new order
}

func newChart(d *decoder) *chart {
	return &chart{decoder: d, next: make([][]hold, len(d.tasks)), tail: make([]int, len(d.tasks))}
}

// stay returns when a task that starts at 0 enters and leaves a resource.
func (c *chart) stay(n, resource int) (enter, leave int) {
	if unit := resource - len(c.crews) - 1; unit >= 0 {
		for i, u := range c.inside[n] {
			if u == unit {
				return c.tasks[n].uses[i].span(0, c.work[n], c.tasks[n].wait)
			}
		}
	}
	return 0, c.work[n]
}

// unreached stands for the tail of a task on which nothing hangs that counts.
const unreached = -forever

// tailBut returns the tail of a task without those who follow it in the lanes
// of one resource.
func (c *chart) tailBut(n, resource int) int {
	t := &c.tasks[n]
	length := c.work[n] + t.wait
	tail := length
	for _, l := range t.after {
		tail = max(tail, length+l.min+c.tail[l.task])
	}
	for _, f := range c.next[n] {
		if f.resource != resource {
			_, leave := c.stay(n, f.resource)
			enter, _ := c.stay(f.task, f.resource)
			tail = max(tail, leave-enter+c.tail[f.task])
		}
	}
	return tail
}

// headBut returns the first moment for a task without those whom it follows
// in the lanes of one resource.
func (c *chart) headBut(n, resource int) int {
	t := &c.tasks[n]
	head := max(t.notBefore, c.release[n])
	for _, b := range t.before {
		head = max(head, c.start[b.task]+c.work[b.task]+c.tasks[b.task].wait+b.min)
	}
	for _, f := range c.follows[n] {
		if f.resource != resource {
			_, leave := c.stay(f.task, f.resource)
			enter, _ := c.stay(n, f.resource)
			head = max(head, c.start[f.task]+leave-enter)
		}
	}
	for i, u := range c.inside[n] {
		enter, _ := t.uses[i].span(0, c.work[n], t.wait)
		head = max(head, c.units[u].ready-enter)
	}
	return head
}

// estimate returns when the lesson would end, as far as it hangs on a stretch
// of tasks that follow each other in one lane of a resource, if the task at
// place from went to the front of the stretch, or to its back. It takes the
// starts of all others as they are (Balas and Vazacopoulos, 1998).
func (c *chart) estimate(block []int, resource, from int, front bool) int {
	*c.spent += 1 + len(block)/estimateWeight
	c.in = c.in[:0]
	if front {
		c.in = append(c.in, block[from])
	}
	for i, n := range block {
		if i != from {
			c.in = append(c.in, n)
		}
	}
	if !front {
		c.in = append(c.in, block[from])
	}
	free := unreached
	for _, f := range c.follows[block[0]] {
		if f.resource == resource {
			_, leave := c.stay(f.task, resource)
			free = max(free, c.start[f.task]+leave)
		}
	}
	c.best = c.best[:0]
	for _, n := range c.in {
		enter, leave := c.stay(n, resource)
		start := c.workStart(max(c.headBut(n, resource), free-enter), c.work[n])
		c.best = append(c.best, start)
		free = start + leave
	}
	need := unreached
	for _, f := range c.next[block[len(block)-1]] {
		if f.resource == resource {
			enter, _ := c.stay(f.task, resource)
			need = max(need, c.tail[f.task]-enter)
		}
	}
	end := unreached
	for i := len(c.in) - 1; i >= 0; i-- {
		n := c.in[i]
		enter, leave := c.stay(n, resource)
		tail := max(c.tailBut(n, resource), leave+need)
		end = max(end, c.best[i]+tail)
		need = tail - enter
	}
	return end
}

// estimateWeight is how many tasks of a stretch are judged in the time of a
// placement.
const estimateWeight = 1
