package fit

import (
	"cmp"
	"fmt"
	"slices"

	"freshapron/internal/core/exact"
	"freshapron/internal/core/words"
)

// outages checks which units are out, and when.
func (c *checker) outages() {
	if len(c.lesson.Out) > maxPhases {
		c.add("room.out", "%d units out; the most is %d", len(c.lesson.Out), maxPhases)
		return
	}
	for i, o := range c.lesson.Out {
		path := fmt.Sprintf("room.out[%d]", i)
		e, ok := c.lesson.equipment(o.Equipment)
		if !ok {
			c.add(path+".equipment", "no equipment %q in the room%s", o.Equipment, words.DidYouMean(o.Equipment, keys(c.equipment)))
		} else if _, ok := e.unit(o.Unit); !ok {
			c.add(path+".unit", "%q has no unit %q%s", o.Equipment, o.Unit, words.DidYouMean(o.Unit, e.unitNames()))
		}
		c.minutes(path+".from_min", o.From)
		if o.To != nil {
			c.minutes(path+".to_min", *o.To)
			if o.To.Less(o.From) {
				c.add(path+".to_min", "minute %s is before minute %s, at which it fails", o.To.Decimal(4), o.From.Decimal(4))
			}
		}
	}
}

func (e Equipment) unit(name string) (Unit, bool) {
	i := slices.IndexFunc(e.Units, func(u Unit) bool { return u.Name == name })
	if i < 0 {
		return Unit{}, false
	}
	return e.Units[i], true
}

func (e Equipment) unitNames() []string {
	out := make([]string, len(e.Units))
	for i, u := range e.Units {
		out[i] = u.Name
	}
	return out
}

// A spell is a stretch for which something was kept, as it was recorded; what
// goes on has no end.
type spell struct {
	path     string
	from, to exact.Number
	amount   int
}

// stillOn is a moment after every lesson.
var stillOn = exact.Int(1 << 30)

// kept are the spells of a lesson under way by what they keep: the cooks of a
// group, one cook, the adults, or a unit.
type kept struct {
	order []keeping
	list  map[keeping][]spell
}

// A keeping names what is kept, and is said as what is in the list of faults.
type keeping struct {
	what, group, unit string // what is "cooks", "adults", or the id of an equipment
	hand              int
}

func (k *kept) add(key keeping, s spell) {
	if s.amount == 0 {
		return
	}
	if _, ok := k.list[key]; !ok {
		k.order = append(k.order, key)
	}
	k.list[key] = append(k.list[key], s)
}

// progress checks what has happened so far.
func (c *checker) progress() {
	l := c.lesson
	if l.Now == nil {
		if l.Progress != nil {
			c.add("now_min", "is missing: progress says what has happened until then")
		}
		return
	}
	bad := len(c.problems)
	c.minutes("now_min", *l.Now)
	if len(l.Progress) > maxTasks {
		c.add("progress", "%d entries; the most is %d", len(l.Progress), maxTasks)
	}
	if len(c.problems) > bad {
		return
	}
	kept := &kept{list: map[keeping][]spell{}}
	first := map[[3]string]int{}
	for i, r := range l.Progress {
		path := fmt.Sprintf("progress[%d]", i)
		group, ok := l.Group(r.Group)
		if !ok {
			c.add(path+".group", "no group %q in this lesson%s", r.Group, words.DidYouMean(r.Group, l.groupIDs()))
			continue
		}
		if _, ok := c.dishes[r.Dish]; !ok {
			c.add(path+".dish", "no dish %q in this lesson%s", r.Dish, words.DidYouMean(r.Dish, keys(c.dishes)))
			continue
		}
		if !group.makes(r.Dish) {
			c.add(path+".dish", "%q does not make the dish %q", r.Group, r.Dish)
			continue
		}
		step, ok := l.Step(r.Dish, r.Step)
		if !ok {
			c.add(path+".step", "no step %q in dish %q%s", r.Step, r.Dish, words.DidYouMean(r.Step, l.stepIDs(r.Dish)))
			continue
		}
		key := [3]string{r.Group, r.Dish, r.Step}
		if at, twice := first[key]; twice {
			c.add(path, "%q of %q is listed twice (first in progress[%d])", r.Step, r.Group, at)
			continue
		}
		first[key] = i
		if !r.Skipped {
			c.record(path, r, group, step, kept)
		}
	}
	c.crowds(kept)
}

func (l Lesson) groupIDs() []string {
	out := make([]string, len(l.Groups))
	for i, g := range l.Groups {
		out[i] = g.ID
	}
	return out
}

func (l Lesson) stepIDs(dish string) []string {
	var out []string
	for _, d := range l.Dishes {
		for _, s := range d.Steps {
			if d.ID == dish {
				out = append(out, s.ID)
			}
		}
	}
	return out
}

// record checks one entry and notes what the step keeps.
func (c *checker) record(path string, r Progress, group Group, step Step, kept *kept) {
	if !c.moments(path, r, step) {
		return
	}
	works := step.Work.Sign() > 0 || step.Loads() > 0 && step.Load.Sign() > 0
	handy := works && step.Adult != Does
	switch {
	case r.Cooks == nil:
		if r.underWay() && handy {
			c.add(path+".cooks", "is missing: %q is under way, so somebody is or was at it", r.Step)
		}
	case *r.Cooks < 0 || *r.Cooks > group.Cooks:
		c.add(path+".cooks", "is %d; %q has %d", *r.Cooks, r.Group, group.Cooks)
	case *r.Cooks == 0 && handy:
		c.add(path+".cooks", "is 0, and somebody has to work at %q", r.Step)
	case *r.Cooks > 0 && !handy:
		c.add(path+".cooks", "is %d, and no cook works at %q", *r.Cooks, r.Step)
	}
	c.namedHands(path, r, group)
	working := stillOn
	switch {
	case !works:
		working = r.Start
	case r.WorkEnd != nil:
		working = *r.WorkEnd
	case r.End != nil && step.Wait.Sign() == 0:
		working = *r.End
	case r.End != nil: // nobody noted when the work was over
		working = r.Start
	}
	if handy && r.Cooks != nil {
		kept.add(keeping{what: "cooks", group: r.Group}, spell{path + ".cooks", r.Start, working, *r.Cooks})
		for k, h := range r.Hands {
			kept.add(keeping{what: "cooks", group: r.Group, hand: h}, spell{fmt.Sprintf("%s.hands[%d]", path, k), r.Start, working, 1})
		}
	}
	if works && step.Adult != NoAdult {
		kept.add(keeping{what: "adults"}, spell{path, r.Start, working, 1})
	}
	c.recordUnits(path, r, step, works, kept)
}

// moments checks the times of an entry.
func (c *checker) moments(path string, r Progress, step Step) bool {
	bad := len(c.problems)
	now := *c.lesson.Now
	moment := func(field string, m *exact.Number) {
		if m == nil {
			return
		}
		c.minutes(path+"."+field, *m)
		if now.Less(*m) {
			c.add(path+"."+field, "minute %s is after minute %s, which is now", m.Decimal(4), now.Decimal(4))
		}
	}
	moment("start_min", &r.Start)
	moment("work_end_min", r.WorkEnd)
	moment("end_min", r.End)
	if r.WorkEnd != nil && r.WorkEnd.Less(r.Start) {
		c.add(path+".work_end_min", "minute %s is before minute %s, at which %q began", r.WorkEnd.Decimal(4), r.Start.Decimal(4), step.ID)
	}
	if r.End != nil && r.End.Less(r.Start) {
		c.add(path+".end_min", "minute %s is before minute %s, at which %q began", r.End.Decimal(4), r.Start.Decimal(4), step.ID)
	} else if r.End != nil && r.WorkEnd != nil && r.End.Less(*r.WorkEnd) {
		c.add(path+".end_min", "minute %s is before minute %s, at which its work ended", r.End.Decimal(4), r.WorkEnd.Decimal(4))
	}
	return len(c.problems) == bad
}

func (c *checker) namedHands(path string, r Progress, group Group) {
	if r.Hands == nil {
		return
	}
	if r.Cooks != nil && len(r.Hands) != *r.Cooks {
		c.add(path+".hands", "names %d, and cooks is %d", len(r.Hands), *r.Cooks)
	}
	for k, h := range r.Hands {
		at := fmt.Sprintf("%s.hands[%d]", path, k)
		if h < 1 || h > group.Cooks {
			c.add(at, "is %d; the cooks of %q are 1 to %d", h, r.Group, group.Cooks)
		} else if slices.Contains(r.Hands[:k], h) {
			c.add(at, "%d stands twice", h)
		}
	}
}

// recordUnits checks the units of an entry: required while the step is under
// way, and in the order of its uses.
func (c *checker) recordUnits(path string, r Progress, step Step, works bool, kept *kept) {
	if r.Units == nil && !r.underWay() {
		return
	}
	if len(r.Units) != len(step.Uses) {
		if r.Units == nil {
			c.add(path+".units", "is missing: %q is under way and uses %d", r.Step, len(step.Uses))
		} else {
			c.add(path+".units", "names %d, and %q uses %d", len(r.Units), r.Step, len(step.Uses))
		}
		return
	}
	for k, u := range r.Units {
		at := fmt.Sprintf("%s.units[%d]", path, k)
		use := step.Uses[k]
		if u.Equipment != use.Equipment {
			c.add(at+".equipment", "is %q, and use %d of %q is of %q", u.Equipment, k+1, r.Step, use.Equipment)
			continue
		}
		e, _ := c.lesson.equipment(u.Equipment)
		unit, ok := e.unit(u.Unit)
		if !ok {
			c.add(at+".unit", "%q has no unit %q%s", u.Equipment, u.Unit, words.DidYouMean(u.Unit, e.unitNames()))
			continue
		}
		if unit.Places < use.Places {
			c.add(at+".unit", "%q has room for %d, and %q takes %d", u.Unit, unit.Places, r.Step, use.Places)
			continue
		}
		from, to, known := r.held(use.During, works)
		if !known {
			continue
		}
		key := keeping{what: u.Equipment, unit: u.Unit}
		if e.PerStation {
			key.group = r.Group
		}
		kept.add(key, spell{at + ".unit", from, to, use.Places})
	}
}

// held returns from when to when a part of the step lasted, as far as that is
// recorded; it reports false where it is not, or has not begun.
func (r Progress) held(part Part, works bool) (from, to exact.Number, known bool) {
	from, to = r.Start, stillOn
	if r.End != nil {
		to = *r.End
	}
	workEnd := r.WorkEnd
	if !works {
		workEnd = &r.Start
	}
	switch {
	case part == WholeStep:
		return from, to, true
	case workEnd == nil && part == WorkPart && r.End == nil:
		return from, stillOn, true
	case workEnd == nil:
		return from, to, false
	case part == WorkPart:
		return from, *workEnd, true
	default:
		return *workEnd, to, true
	}
}

// crowds finds where more was kept at one moment than there is, once for each
// thing, at the entry that came last.
func (c *checker) crowds(kept *kept) {
	type change struct {
		at     exact.Number
		amount int
		path   string
	}
	for _, key := range kept.order {
		var changes []change
		for _, s := range kept.list[key] {
			if s.from.Less(s.to) {
				changes = append(changes, change{s.from, s.amount, s.path}, change{s.to, -s.amount, s.path})
			}
		}
		slices.SortStableFunc(changes, func(a, b change) int {
			return cmp.Or(a.at.Cmp(b.at), cmp.Compare(min(a.amount, 0), min(b.amount, 0))) // who leaves makes room first
		})
		most, what := c.most(key)
		used := 0
		for _, ch := range changes {
			if used += ch.amount; used > most {
				c.add(ch.path, "makes %d %s at minute %s, and there %s %d", used, what, ch.at.Decimal(4), isAre(most), most)
				break
			}
		}
	}
}

func isAre(n int) string {
	if n == 1 {
		return "is"
	}
	return "are"
}

// most returns how many of something there are, and what they are called.
func (c *checker) most(key keeping) (int, string) {
	switch {
	case key.hand > 0:
		return 1, fmt.Sprintf("works of cook %d of %q", key.hand, key.group)
	case key.what == "cooks" && key.unit == "":
		g, _ := c.lesson.Group(key.group)
		return g.Cooks, fmt.Sprintf("cooks of %q at work", key.group)
	case key.what == "adults" && key.unit == "":
		return c.lesson.Adults, "adults at work"
	}
	e, _ := c.lesson.equipment(key.what)
	u, _ := e.unit(key.unit)
	return u.Places, fmt.Sprintf("places of %q taken", key.unit)
}
