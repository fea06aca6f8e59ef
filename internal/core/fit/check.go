package fit

import (
	"fmt"
	"slices"
	"strings"

	"freshapron/internal/core/exact"
	"freshapron/internal/core/problem"
	"freshapron/internal/core/words"
)

// Limits keep a lesson to a size that a school could have and a computer
// can plan. They are far above any real lesson.
const (
	MaxMinutes   = 24 * 60 // of one duration or gap
	MaxCount     = 1000    // of pieces, cooks, places or units
	maxSteps     = 400
	maxGroups    = 100
	maxPhases    = 100
	maxEquipment = 100
	maxUses      = 8     // things that one step holds
	maxAfter     = 40    // steps that one step waits for
	maxTasks     = 20000 // steps over all groups
)

type checker struct {
	lesson    Lesson
	problems  problem.List
	dishes    map[string]int
	equipment map[string]int
}

// Check returns a problem.List that name everything in the lesson that can be seen
// to be wrong without planning it, or nil.
func (l Lesson) Check() error {
	c := &checker{lesson: l, dishes: map[string]int{}, equipment: map[string]int{}}
	c.period()
	c.room()
	c.menu()
	c.groups()
	for i := range l.Dishes {
		c.steps(i)
	}
	if len(c.problems) == 0 {
		c.absences()
		c.pins()
		c.cycles()
		c.outages()
		c.progress()
	}
	return c.problems.Err()
}

func (c *checker) add(path, format string, args ...any) {
	c.problems = append(c.problems, problem.Problem{Path: path, Says: fmt.Sprintf(format, args...)})
}

// minutes checks a duration or a gap: from 0 to a day.
func (c *checker) minutes(path string, m exact.Number) {
	switch {
	case m.Sign() < 0:
		c.add(path, "is %s, and minutes can't be less than 0", m.Decimal(4))
	case m.Cmp(exact.Int(MaxMinutes)) > 0:
		c.add(path, "is %s, which is more than a day (%d minutes)", m.Decimal(4), MaxMinutes)
	}
}

func (c *checker) count(path string, n, least int) {
	switch {
	case n < least:
		c.add(path, "is %d; it must be at least %d", n, least)
	case n > MaxCount:
		c.add(path, "is %d; the most is %d", n, MaxCount)
	}
}

func (c *checker) period() {
	l := c.lesson
	if l.End <= l.Start {
		c.add("period.end", "the bell (%s) must come after the door (%s)", l.End, l.Start)
		return
	}
	if len(l.Phases) > maxPhases {
		c.add("phases", "%d phases; the most is %d", len(l.Phases), maxPhases)
		return
	}
	bad := len(c.problems)
	for i, p := range l.Phases {
		c.minutes(fmt.Sprintf("phases[%d].minutes", i), p.Minutes)
		if p.Waits && p.Place != AtEnd {
			c.add(fmt.Sprintf("phases[%d].waits", i), "only a phase at the end says what may go on in it; what needs no hands goes on through every other")
		}
		if p.Place == AtMinute {
			c.minutes(fmt.Sprintf("phases[%d].at_minute", i), p.Minute)
		}
	}
	if len(c.problems) > bad {
		return
	}
	spans, opening, deadline := l.layout()
	if deadline.Cmp(opening) < 0 {
		c.add("phases", "the phases at the start and the end take %s minutes, and the period has only %s",
			opening.Add(l.Minutes()).Sub(deadline).Decimal(2), l.Minutes().Decimal(2))
		return
	}
	var middle []int
	for i, s := range spans {
		if s.phase.Place != AtMinute {
			continue
		}
		path := fmt.Sprintf("phases[%d].at_minute", i)
		if s.from.Less(opening) {
			c.add(path, "minute %s lies before the phases at the start have ended (minute %s)", s.from.Decimal(2), opening.Decimal(2))
		} else if s.to.Cmp(deadline) > 0 {
			c.add(path, "this phase would end at minute %s, after the deadline at minute %s", s.to.Decimal(2), deadline.Decimal(2))
		}
		for _, j := range middle {
			if o := spans[j]; s.from.Less(o.to) && o.from.Less(s.to) {
				c.add(path, "overlaps %q (phases[%d])", o.phase.Name, j)
			}
		}
		middle = append(middle, i)
	}
}

func (c *checker) room() {
	l := c.lesson
	if l.Adults < 0 || l.Adults > MaxCount {
		c.add("room.adults", "is %d; it must be 0 to %d", l.Adults, MaxCount)
	}
	if len(l.Equipment) > maxEquipment {
		c.add("room.equipment", "%d kinds of equipment; the most is %d", len(l.Equipment), maxEquipment)
		return
	}
	for i, e := range l.Equipment {
		path := fmt.Sprintf("room.equipment[%d]", i)
		c.id(path+".id", e.ID, c.equipment, i)
		if len(e.Units) == 0 {
			c.add(path, "has no unit: give \"units\" or a \"count\" of at least 1")
		}
		if len(e.Units) > MaxCount {
			c.add(path, "has %d units; the most is %d", len(e.Units), MaxCount)
		}
		seen := map[string]bool{}
		for j, u := range e.Units {
			c.count(fmt.Sprintf("%s.units[%d].places", path, j), u.Places, 1)
			if u.Name == "" {
				c.add(fmt.Sprintf("%s.units[%d].name", path, j), "is empty; a unit needs a name")
			} else if seen[u.Name] {
				c.add(fmt.Sprintf("%s.units[%d].name", path, j), "%q names two units", u.Name)
			}
			seen[u.Name] = true
		}
		c.minutes(path+".on_at_minute", e.OnAt)
		c.minutes(path+".preheat_minutes", e.Preheat)
		c.minutes(path+".reheat_minutes", e.Reheat)
	}
}

// id registers an identifier and reports an empty or a repeated one.
func (c *checker) id(path, id string, known map[string]int, i int) {
	if id == "" {
		c.add(path, "is empty; it needs an id")
		return
	}
	if first, ok := known[id]; ok {
		c.add(path, "%q is used twice (first at place %d of the list)", id, first)
		return
	}
	known[id] = i
}

func (c *checker) menu() {
	if len(c.lesson.Dishes) == 0 {
		c.add("dishes", "there is no dish to make")
	}
	for i, d := range c.lesson.Dishes {
		c.id(fmt.Sprintf("dishes[%d].id", i), d.ID, c.dishes, i)
		if len(d.Steps) == 0 {
			c.add(fmt.Sprintf("dishes[%d].steps", i), "the dish has no steps")
		}
		if len(d.Steps) > maxSteps {
			c.add(fmt.Sprintf("dishes[%d].steps", i), "%d steps; the most is %d", len(d.Steps), maxSteps)
		}
	}
}

func (c *checker) groups() {
	l := c.lesson
	if len(l.Groups) == 0 {
		c.add("groups", "there is no group to cook")
	}
	if len(l.Groups) > maxGroups {
		c.add("groups", "%d groups; the most is %d", len(l.Groups), maxGroups)
		return
	}
	ids := map[string]int{}
	tasks := 0
	for i, g := range l.Groups {
		path := fmt.Sprintf("groups[%d]", i)
		c.id(path+".id", g.ID, ids, i)
		c.count(path+".cooks", g.Cooks, 1)
		if g.Pace.Sign() <= 0 || g.Pace.Cmp(exact.Int(100)) > 0 {
			c.add(path+".pace", "is %s; a pace is over 0 and at most 100", g.Pace.Decimal(4))
		}
		seen := map[string]bool{}
		for j, id := range g.Dishes {
			at := fmt.Sprintf("%s.dishes[%d]", path, j)
			if _, ok := c.dishes[id]; !ok {
				c.add(at, "no dish %q in this lesson%s", id, words.DidYouMean(id, keys(c.dishes)))
			} else if seen[id] {
				c.add(at, "%q stands twice", id)
			}
			seen[id] = true
		}
		for _, d := range l.Dishes {
			if g.makes(d.ID) {
				tasks += len(d.Steps)
			}
		}
	}
	if tasks > maxTasks {
		c.add("groups", "all groups together have %d steps to do; the most is %d", tasks, maxTasks)
	}
}

func (g Group) makes(dish string) bool {
	return g.Dishes == nil || slices.Contains(g.Dishes, dish)
}

func (c *checker) steps(dish int) {
	d := c.lesson.Dishes[dish]
	known := map[string]int{}
	for i, s := range d.Steps {
		c.id(fmt.Sprintf("dishes[%d].steps[%d].id", dish, i), s.ID, known, i)
	}
	cooks := 0 // fewest cooks of a group that makes the dish
	for _, g := range c.lesson.Groups {
		if g.makes(d.ID) && (cooks == 0 || g.Cooks < cooks) {
			cooks = g.Cooks
		}
	}
	for i, s := range d.Steps {
		path := fmt.Sprintf("dishes[%d].steps[%d]", dish, i)
		c.step(path, s, cooks)
		if len(s.After) > maxAfter {
			c.add(path+".after", "waits for %d steps; the most is %d, and what the last of them wait for need not be named again", len(s.After), maxAfter)
			continue
		}
		for j, a := range s.After {
			c.after(fmt.Sprintf("%s.after[%d]", path, j), dish, i, a)
		}
		c.uses(path, s)
	}
}

func (c *checker) step(path string, s Step, cooks int) {
	c.minutes(path+".work_minutes", s.Work)
	c.minutes(path+".wait_minutes", s.Wait)
	if !slices.Contains(Kinds, s.Kind) {
		c.add(path+".kind", "%q is no kind of step", s.Kind)
	}
	switch s.Adult {
	case Does:
		if s.Cooks != 0 {
			c.add(path+".cooks", "is %d, but an adult does this step, so no cook is needed: leave it out or make it 0", s.Cooks)
		}
		if s.Shareable {
			c.add(path+".shareable", "an adult does this step, so the cooks can't share it")
		}
	case NoAdult, Watches:
		c.count(path+".cooks", s.Cooks, 1)
		if s.Cooks > 1 && s.Shareable {
			c.add(path+".shareable", "a step that needs %d cooks at once can't be shared as well", s.Cooks)
		}
		if cooks > 0 && s.Cooks > cooks {
			c.add(path+".cooks", "needs %d cooks, and a group that makes this dish has only %d", s.Cooks, cooks)
		}
	default:
		c.add(path+".adult", "%q; an adult \"does\" or \"watches\" a step, or \"none\"", s.Adult)
	}
	if s.Adult != NoAdult && c.lesson.Adults == 0 {
		c.add(path+".adult", "needs an adult, and the room has none")
	}
	if s.Spread != nil && !(*s.Spread >= 0 && *s.Spread <= 5) {
		c.add(path+".spread", "is %g; a spread is 0 to 5", *s.Spread)
	}
	if s.Pieces != 0 || s.PerLoad != 0 || s.Load.Sign() != 0 {
		c.count(path+".pieces", s.Pieces, 1)
		c.count(path+".pieces_per_load", s.PerLoad, 1)
		c.minutes(path+".load_minutes", s.Load)
		if s.PerLoad > 0 && s.Load.Mul(exact.Int(int64(s.Loads()))).Cmp(exact.Int(MaxMinutes)) > 0 {
			c.add(path+".load_minutes", "%d loads of %s minutes take more than a day", s.Loads(), s.Load.Decimal(2))
		}
	}
	if s.Hold != nil && s.Hold.MaxMinutes.Sign() <= 0 {
		c.add(path+".hold.max_minutes", "is %s; it must be over 0", s.Hold.MaxMinutes.Decimal(2))
	}
}

func (c *checker) after(path string, dish, step int, a After) {
	other := dish
	if a.Dish != "" {
		i, ok := c.dishes[a.Dish]
		if !ok {
			c.add(path+".dish", "no dish %q in this lesson%s", a.Dish, words.DidYouMean(a.Dish, keys(c.dishes)))
			return
		}
		other = i
	}
	steps := c.lesson.Dishes[other].Steps
	at := slices.IndexFunc(steps, func(s Step) bool { return s.ID == a.Step })
	switch {
	case at < 0:
		ids := make([]string, len(steps))
		for i, s := range steps {
			ids[i] = s.ID
		}
		where := "this dish"
		if other != dish {
			where = fmt.Sprintf("dish %q", a.Dish)
		}
		c.add(path+".step", "no step %q in %s%s", a.Step, where, words.DidYouMean(a.Step, ids))
	case other == dish && at == step:
		c.add(path+".step", "%q can't come after itself", a.Step)
	}
	c.minutes(path+".min_gap", a.MinGap)
	if a.MaxGap != nil {
		c.minutes(path+".max_gap", *a.MaxGap)
		if a.MaxGap.Less(a.MinGap) {
			c.add(path+".max_gap", "%s is under min_gap (%s)", a.MaxGap.Decimal(4), a.MinGap.Decimal(4))
		}
	}
}

func (c *checker) uses(path string, s Step) {
	if len(s.Uses) > maxUses {
		c.add(path+".uses", "a step can use at most %d things", maxUses)
		return
	}
	fine := true
	for j, u := range s.Uses {
		at := fmt.Sprintf("%s.uses[%d]", path, j)
		i, ok := c.equipment[u.Equipment]
		if !ok {
			c.add(at+".equipment", "no equipment %q in the room%s", u.Equipment, words.DidYouMean(u.Equipment, keys(c.equipment)))
			fine = false
			continue
		}
		e := c.lesson.Equipment[i]
		c.count(at+".places", u.Places, 1)
		most := 0
		for _, unit := range e.Units {
			most = max(most, unit.Places)
		}
		if u.Places > most {
			c.add(at+".places", "needs %d places in one unit, and no %q has more than %d", u.Places, u.Equipment, most)
			fine = false
		}
		if u.During != WholeStep && u.During != WorkPart && u.During != WaitPart {
			c.add(at+".during", "%q; equipment is held during \"work\", \"wait\" or \"all\"", u.During)
			fine = false
		}
		switch {
		case e.Temperature && u.Temperature == nil:
			c.add(at+".temperature_c", "is missing: %q has a temperature", u.Equipment)
			fine = false
		case !e.Temperature && u.Temperature != nil:
			c.add(at+".temperature_c", "%q has no temperature to set", u.Equipment)
		case u.Temperature != nil && u.Temperature.Abs().Cmp(exact.Int(1000)) > 0:
			c.add(at+".temperature_c", "%s °C is beyond any kitchen", u.Temperature.Decimal(1))
		}
	}
	if fine && len(s.Uses) > 1 && !c.fitsEmptyRoom(s) {
		c.add(path+".uses", "this step holds more at once than the room has, even when it is empty")
	}
}

// fitsEmptyRoom reports whether all that a step holds at one moment finds
// room when nobody else is there.
func (c *checker) fitsEmptyRoom(s Step) bool {
	type slot struct{ equipment, unit int }
	held := map[slot][]Use{}
	together := func(a, b Use) bool {
		return a.During == b.During || a.During == WholeStep || b.During == WholeStep
	}
	var place func(j int) bool
	place = func(j int) bool {
		if j == len(s.Uses) {
			return true
		}
		u := s.Uses[j]
		e := c.equipment[u.Equipment]
		tried := map[int]bool{} // sizes of empty units: one of each size is enough
		for k, unit := range c.lesson.Equipment[e].Units {
			at := slot{e, k}
			if len(held[at]) == 0 {
				if tried[unit.Places] {
					continue
				}
				tried[unit.Places] = true
			}
			free, same := unit.Places, true
			for _, o := range held[at] {
				if together(o, u) {
					free -= o.Places
				}
				// Within one step there is no time to change a temperature.
				same = same && (u.Temperature == nil || u.Temperature.Cmp(*o.Temperature) == 0)
			}
			if free < u.Places || !same {
				continue
			}
			held[at] = append(held[at], u)
			if place(j + 1) {
				return true
			}
			held[at] = held[at][:len(held[at])-1]
		}
		return false
	}
	return place(0)
}

// cycles reports steps that wait for themselves, within a dish or across the
// dishes that one group makes.
func (c *checker) cycles() {
	reported := map[string]bool{}
	for _, g := range c.lesson.Groups {
		c.cyclesAmong(g.makes, reported)
	}
	for _, d := range c.lesson.Dishes { // also those that nobody makes
		c.cyclesAmong(func(id string) bool { return id == d.ID }, reported)
	}
}

func (c *checker) cyclesAmong(made func(dish string) bool, reported map[string]bool) {
	type ref struct{ dish, step int }
	const onPath, done = 1, 2
	state := map[ref]int{}
	var path []ref
	var visit func(r ref)
	visit = func(r ref) {
		state[r] = onPath
		path = append(path, r)
		for j, a := range c.lesson.Dishes[r.dish].Steps[r.step].After {
			d := r.dish
			if a.Dish != "" {
				d = c.dishes[a.Dish]
			}
			if !made(c.lesson.Dishes[d].ID) {
				continue
			}
			next := ref{d, slices.IndexFunc(c.lesson.Dishes[d].Steps, func(s Step) bool { return s.ID == a.Step })}
			switch state[next] {
			case 0:
				visit(next)
			case onPath:
				var names []string
				for _, p := range path[slices.Index(path, next):] {
					names = append(names, c.lesson.Dishes[p.dish].Steps[p.step].ID)
				}
				at := fmt.Sprintf("dishes[%d].steps[%d].after[%d]", r.dish, r.step, j)
				if !reported[at] {
					reported[at] = true
					slices.Reverse(names)
					c.add(at, "the steps wait for each other in a circle: %s → %s", strings.Join(names, " → "), names[0])
				}
			}
		}
		path = path[:len(path)-1]
		state[r] = done
	}
	for d := range c.lesson.Dishes {
		if !made(c.lesson.Dishes[d].ID) {
			continue
		}
		for s := range c.lesson.Dishes[d].Steps {
			if r := (ref{d, s}); state[r] == 0 {
				visit(r)
			}
		}
	}
}

func keys(m map[string]int) []string {
	out := make([]string, 0, len(m))
	for k := range m {
		out = append(out, k)
	}
	slices.Sort(out)
	return out
}
