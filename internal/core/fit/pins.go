package fit

import (
	"fmt"
	"slices"
	"strings"
)

// absences checks who is out of the room, and when.
func (c *checker) absences() {
	if len(c.lesson.Away) > maxPhases {
		c.add("room.adults_out", "%d absences; the most is %d", len(c.lesson.Away), maxPhases)
		return
	}
	for i, a := range c.lesson.Away {
		path := fmt.Sprintf("room.adults_out[%d]", i)
		c.minutes(path+".from_minute", a.From)
		c.minutes(path+".minutes", a.Minutes)
		c.count(path+".adults", a.Adults, 1)
		out := 0
		for _, b := range c.lesson.Away[:i+1] {
			if b.From.Cmp(a.From.Add(a.Minutes)) < 0 && a.From.Cmp(b.From.Add(b.Minutes)) < 0 {
				out += b.Adults
			}
		}
		if out > c.lesson.Adults {
			c.add(path+".adults", "%s out at once, and the lesson has %d", are(out, "adult"), c.lesson.Adults)
		}
	}
}

func are(n int, what string) string {
	if n == 1 {
		return "1 " + what + " is"
	}
	return fmt.Sprintf("%d %ss are", n, what)
}

// pins checks what a teacher has decided about single steps.
func (c *checker) pins() {
	for i, g := range c.lesson.Groups {
		seen := map[[2]string]bool{}
		for j, p := range g.Pins {
			path := fmt.Sprintf("groups[%d].pins[%d]", i, j)
			key := [2]string{p.Dish, p.Step}
			if seen[key] {
				c.add(path, "%q is pinned twice", p.Step)
			}
			seen[key] = true
			s, ok := c.lesson.Step(p.Dish, p.Step)
			if !ok || !g.makes(p.Dish) {
				c.add(path+".step", "this group makes no dish %q with a step %q", p.Dish, p.Step)
				continue
			}
			c.pinned(path, p, s)
		}
	}
}

func (c *checker) pinned(path string, p Pin, s Step) {
	if p.NotBefore != nil {
		c.minutes(path+".not_before", *p.NotBefore)
	}
	if p.BeginBy != nil {
		c.minutes(path+".begin_by", *p.BeginBy)
	}
	if p.NotBefore != nil && p.BeginBy != nil && p.BeginBy.Cmp(*p.NotBefore) < 0 {
		c.add(path+".begin_by", "minute %s is before minute %s, before which the step may not start", p.BeginBy.Decimal(2), p.NotBefore.Decimal(2))
	}
	for k, name := range p.Units {
		if !slices.ContainsFunc(s.Uses, func(u Use) bool {
			e, _ := c.lesson.equipment(u.Equipment)
			return slices.ContainsFunc(e.Units, func(unit Unit) bool { return unit.Name == name && unit.Places >= u.Places })
		}) {
			c.add(fmt.Sprintf("%s.units[%d]", path, k), "%q has no unit %q with room for it", s.ID, name)
		}
	}
}

// A LatePin is a pinned step that no plan that was found begins in time.
type LatePin struct {
	Group, Dish, Step string
	Minutes           float64 // how much too late
}

// latePins lists them, the latest first.
func (s *schedule) latePins() []LatePin {
	var out []LatePin
	for n := range s.jobs {
		t := &s.tasks[n]
		if by := s.jobs[n].start - t.beginBy; s.jobs[n].placed && by > 0 {
			d := s.lesson.Dishes[t.dish]
			out = append(out, LatePin{s.lesson.Groups[t.group].ID, d.ID, d.Steps[t.step].ID, minutes(by)})
		}
	}
	slices.SortStableFunc(out, func(a, b LatePin) int {
		if a.Minutes != b.Minutes {
			if a.Minutes > b.Minutes {
				return -1
			}
			return 1
		}
		return strings.Compare(a.Group, b.Group)
	})
	return out
}
