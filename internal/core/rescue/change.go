// Package rescue holds the ways to run a lesson otherwise: what a teacher
// decides in the plan itself, and what can be tried where a lesson does not
// fit before the bell or is at risk.
//
// A [Change] is applied to a lesson with [Apply]; [Ways] lists the changes
// that a lesson allows, and [Try] plans each of them for real.
package rescue

import (
	"fmt"
	"slices"

	"freshapron/internal/core/exact"
	"freshapron/internal/core/fit"
)

// Kind says what a change does.
type Kind string

// What a teacher decides in the plan.
const (
	NotBefore Kind = "not_before" // a step of a group starts at At or later
	BeginBy   Kind = "begin_by"   // a step of a group starts at At or sooner
	PinAt     Kind = "pin_at"     // a step of a group starts at At
	InUnit    Kind = "in_unit"    // a step of a group is in Unit
	UnitOut   Kind = "unit_out"   // Unit of Equipment is not there
	AdultOut  Kind = "adult_out"  // an adult is out from At for Minutes
	Work      Kind = "work"       // the work of a step takes Minutes
	Wait      Kind = "wait"       // the wait of a step takes Minutes
	Pace      Kind = "pace"       // a group, or all, works at Minutes times the recipe's minutes
	Cooks     Kind = "cooks"      // a group has Number cooks
)

// What can be tried where a lesson does not fit.
const (
	Preweigh       Kind = "preweigh"        // the ingredients stand weighed on the benches
	ReadyMade      Kind = "ready_made"      // the part that ends with Step is bought
	Prepared       Kind = "prepared"        // the part that ends with Step is made before
	DemoBefore     Kind = "demo_before"     // the demonstration is shown at another time
	DemoInPieces   Kind = "demo_in_pieces"  // half of it is shown later, at At
	Hands          Kind = "hands"           // groups of Number cooks
	Halves         Kind = "halves"          // half of the groups make one of two dishes, half the other
	Instead        Kind = "instead"         // the dish Other is made in place of Dish; only where a shelf is known
	Fewer          Kind = "fewer"           // each learner makes Number; only where a recipe says how minutes grow with pieces
	Smaller        Kind = "smaller"         // thinner pieces, which heat through sooner
	FewerLoads     Kind = "fewer_loads"     // one load less
	HotBefore      Kind = "hot_before"      // Equipment is hot when the class comes in
	OneMore        Kind = "one_more"        // one more unit of Equipment
	OneAdult       Kind = "one_adult"       // one more adult in the room
	Stagger        Kind = "stagger"         // every second group begins Minutes later
	OneTemperature Kind = "one_temperature" // dishes that share Equipment bake at one temperature between
	FinishAfter    Kind = "finish_after"    // an adult takes the trays out after the bell
	TwoLessons     Kind = "two_lessons"     // the lesson stops after Step; Number is the half, 1 or 2
	LeaveOut       Kind = "leave_out"       // Step is left out
	Share          Kind = "share"           // the cooks of a group share Step
)

// A Change is one way in which a lesson is run otherwise. Which fields count
// depends on its kind. An empty Dish is every dish that has the step.
type Change struct {
	Kind            Kind
	Group           string
	Dish, Step      string
	Equipment, Unit string
	Other           string       // id of a dish that the lesson has not
	At              exact.Number // minutes from the door
	Minutes         exact.Number
	Number          int
}

// Apply returns the lesson with the changes made in turn. The lesson itself
// stays as it was. The error says, in words for a teacher, which change the
// lesson does not allow and why.
func Apply(l fit.Lesson, changes ...Change) (fit.Lesson, error) {
	out := clone(l)
	for _, c := range changes {
		if err := apply(&out, c); err != nil {
			return l, err
		}
	}
	return out, nil
}

func clone(l fit.Lesson) fit.Lesson {
	l.Phases, l.Away = slices.Clone(l.Phases), slices.Clone(l.Away)
	l.Equipment, l.Groups, l.Dishes = slices.Clone(l.Equipment), slices.Clone(l.Groups), slices.Clone(l.Dishes)
	for i := range l.Equipment {
		l.Equipment[i].Units = slices.Clone(l.Equipment[i].Units)
	}
	for i := range l.Groups {
		l.Groups[i].Pins = slices.Clone(l.Groups[i].Pins)
	}
	for i := range l.Dishes {
		steps := slices.Clone(l.Dishes[i].Steps)
		for k := range steps {
			steps[k].After, steps[k].Uses = slices.Clone(steps[k].After), slices.Clone(steps[k].Uses)
		}
		l.Dishes[i].Steps = steps
	}
	return l
}

func apply(l *fit.Lesson, c Change) error {
	switch c.Kind {
	case NotBefore, BeginBy, PinAt, InUnit:
		return pin(l, c)
	case UnitOut:
		return unitOut(l, c)
	case AdultOut:
		if out := max(1, c.Number); out > l.Adults {
			return fmt.Errorf("%d adults can’t go out: the lesson has %d", out, l.Adults)
		}
		l.Away = append(l.Away, fit.Away{Adults: max(1, c.Number), From: c.At, Minutes: c.Minutes})
		return nil
	case OneAdult:
		l.Adults++
		return nil
	case Work, Wait:
		return eachStep(l, c, func(s *fit.Step) {
			if c.Kind == Work {
				s.Work = c.Minutes
			} else {
				s.Wait = c.Minutes
			}
		})
	case Share:
		return share(l, c)
	case Pace:
		return eachGroup(l, c, func(g *fit.Group) { g.Pace = c.Minutes })
	case Cooks:
		return eachGroup(l, c, func(g *fit.Group) { g.Cooks = c.Number })
	case HotBefore, OneMore, OneTemperature:
		return equipped(l, c)
	case Hands:
		return regroup(l, c.Number)
	case Halves:
		return halve(l)
	case DemoBefore, DemoInPieces:
		return demonstrate(l, c)
	case Preweigh:
		return preweigh(l)
	case Stagger:
		return stagger(l, c.Minutes)
	case ReadyMade, Prepared, TwoLessons, FinishAfter, LeaveOut, Smaller, FewerLoads:
		return recut(l, c)
	}
	return fmt.Errorf("this lesson can’t be changed so: %s", c.Kind)
}

// share lets the cooks of a group share a step; one that they share already
// stays so.
func share(l *fit.Lesson, c Change) error {
	shared := false
	err := eachStep(l, c, func(s *fit.Step) {
		s.Shareable = s.Shareable || Shares(*s)
		shared = shared || s.Shareable
	})
	if err == nil && !shared {
		return fmt.Errorf("“%s” is no cutting that one cook does alone", c.stepTitle(*l))
	}
	return err
}

// Shares reports whether the cooks of a group can share a step that one of
// them does now: cutting, of which each takes a part.
func Shares(s fit.Step) bool {
	return s.Kind == fit.Cut && !s.Shareable && s.Cooks == 1 && s.Adult != fit.Does && s.Work.Sign() > 0
}

// is reports whether a change to one dish means this one: groups that make
// another number of pieces, or in another way, have a dish of their own.
func (c Change) is(d fit.Dish) bool { return c.Dish == "" || c.Dish == d.ID || c.Dish == d.Of }

func (c Change) find(d fit.Dish) int {
	return slices.IndexFunc(d.Steps, func(s fit.Step) bool { return s.ID == c.Step })
}

// eachStep changes the step of every dish that the change means.
func eachStep(l *fit.Lesson, c Change, change func(*fit.Step)) error {
	found := false
	for _, d := range l.Dishes {
		if i := c.find(d); i >= 0 && c.is(d) {
			change(&d.Steps[i])
			found = true
		}
	}
	if !found {
		return fmt.Errorf("no dish of this lesson has a step “%s” any more", c.Step)
	}
	return nil
}

func eachGroup(l *fit.Lesson, c Change, change func(*fit.Group)) error {
	found := false
	for i := range l.Groups {
		if c.Group == "" || c.Group == l.Groups[i].ID {
			change(&l.Groups[i])
			found = true
		}
	}
	if !found {
		return fmt.Errorf("there is no bench “%s” in this lesson any more", c.Group)
	}
	return nil
}

// pin adds to what is pinned of the step already.
func pin(l *fit.Lesson, c Change) error {
	at := slices.IndexFunc(l.Groups, func(g fit.Group) bool { return g.ID == c.Group })
	if at < 0 {
		return fmt.Errorf("there is no bench “%s” in this lesson any more", c.Group)
	}
	g := &l.Groups[at]
	dish := slices.IndexFunc(l.Dishes, func(d fit.Dish) bool {
		return (g.Dishes == nil || slices.Contains(g.Dishes, d.ID)) && c.is(d) && c.find(d) >= 0
	})
	if dish < 0 {
		return fmt.Errorf("%s makes nothing with a step “%s” any more", g.Name, c.Step)
	}
	id := l.Dishes[dish].ID
	i := slices.IndexFunc(g.Pins, func(p fit.Pin) bool { return p.Dish == id && p.Step == c.Step })
	if i < 0 {
		i = len(g.Pins)
		g.Pins = append(g.Pins, fit.Pin{Dish: id, Step: c.Step})
	}
	p, minute := &g.Pins[i], c.At
	switch c.Kind {
	case NotBefore:
		p.NotBefore = &minute
		if p.BeginBy != nil && p.BeginBy.Less(minute) {
			p.BeginBy = nil // the later wish counts
		}
	case BeginBy:
		p.BeginBy = &minute
		if p.NotBefore != nil && minute.Less(*p.NotBefore) {
			p.NotBefore = nil
		}
	case PinAt:
		p.NotBefore, p.BeginBy = &minute, &minute
	default:
		return inUnit(l, p, l.Dishes[dish].Steps[c.find(l.Dishes[dish])], c)
	}
	return nil
}

func inUnit(l *fit.Lesson, p *fit.Pin, s fit.Step, c Change) error {
	for _, e := range l.Equipment {
		if !slices.ContainsFunc(s.Uses, func(u fit.Use) bool { return u.Equipment == e.ID }) {
			continue
		}
		if !slices.ContainsFunc(e.Units, func(u fit.Unit) bool { return u.Name == c.Unit }) {
			continue
		}
		p.Units = slices.DeleteFunc(p.Units, func(name string) bool {
			return slices.ContainsFunc(e.Units, func(u fit.Unit) bool { return u.Name == name })
		})
		p.Units = append(p.Units, c.Unit)
		return nil
	}
	return fmt.Errorf("“%s” has no %s to be in", s.Title, c.Unit)
}

func unitOut(l *fit.Lesson, c Change) error {
	for i := range l.Equipment {
		e := &l.Equipment[i]
		at := slices.IndexFunc(e.Units, func(u fit.Unit) bool { return u.Name == c.Unit })
		if e.ID != c.Equipment || at < 0 {
			continue
		}
		if len(e.Units) == 1 {
			return fmt.Errorf("%s is the only one there is, so it can’t be taken out", c.Unit)
		}
		e.Units = slices.Delete(e.Units, at, at+1)
		for g := range l.Groups {
			for p := range l.Groups[g].Pins {
				pin := &l.Groups[g].Pins[p]
				pin.Units = slices.DeleteFunc(pin.Units, func(name string) bool { return name == c.Unit })
			}
		}
		return nil
	}
	return fmt.Errorf("there is no %s in this room any more", c.Unit)
}
