package rescue

import (
	"fmt"
	"strings"

	"freshapron/internal/core/fit"
	"freshapron/internal/core/words"
)

// Says tells what a change does, in the words and names of the lesson that it
// is made to.
func (c Change) Says(l fit.Lesson) string {
	bench, step := c.bench(l), "“"+c.stepTitle(l)+"”"
	switch c.Kind {
	case NotBefore:
		return fmt.Sprintf("%s: %s not before %s", bench, step, l.At(c.At.Float()))
	case BeginBy:
		return fmt.Sprintf("%s: %s begins by %s", bench, step, l.At(c.At.Float()))
	case PinAt:
		return fmt.Sprintf("%s: %s at %s", bench, step, l.At(c.At.Float()))
	case InUnit:
		return fmt.Sprintf("%s: %s in %s", bench, step, c.Unit)
	case UnitOut:
		return c.Unit + " is out of use"
	case AdultOut:
		return fmt.Sprintf("An adult is out from %s for %s min", l.At(c.At.Float()), c.Minutes.Decimal(1))
	case Work:
		return fmt.Sprintf("%s takes %s min of work", step, c.Minutes.Decimal(2))
	case Wait:
		return fmt.Sprintf("%s waits %s min", step, c.Minutes.Decimal(2))
	case Pace:
		return fmt.Sprintf("%s: %s times the recipe’s minutes", bench, c.Minutes.Decimal(2))
	case Cooks:
		return fmt.Sprintf("%s: %s", bench, count(c.Number, "cook"))
	case Preweigh:
		return "The ingredients stand weighed on the benches"
	case ReadyMade:
		return "Ready-made, up to " + step
	case Prepared:
		return "Made by the technician, up to " + step
	case DemoBefore:
		return "The demonstration is shown before"
	case DemoInPieces:
		return "The second piece of the demonstration is at " + l.At(c.At.Float())
	case Hands:
		return fmt.Sprintf("Groups of %d", c.Number)
	case Instead:
		title := c.Dish
		for _, d := range l.Dishes {
			if c.is(d) {
				title = d.Label()
			}
		}
		return words.Capital(strings.ReplaceAll(c.Other, "-", " ")) + " in place of " + words.Small(title) // an id is made of its title
	case Halves:
		return "Every second bench makes the second dish, the others the first"
	case Fewer:
		return fmt.Sprintf("%d for each learner", c.Number)
	case Smaller:
		return step + ": pieces a fifth thinner"
	case FewerLoads:
		return step + ": one load less"
	case HotBefore:
		return "Hot before the lesson: " + c.Equipment
	case OneMore:
		return "One more " + c.Equipment
	case OneAdult:
		return "One more adult in the room"
	case Stagger:
		return fmt.Sprintf("Every second bench begins %s min later", c.Minutes.Decimal(0))
	case OneTemperature:
		return "Everything bakes at one temperature"
	case FinishAfter:
		return "An adult takes the trays out after the bell"
	case TwoLessons:
		if c.Number == 2 {
			return "The second of two lessons, from after " + step
		}
		return "The first of two lessons, up to " + step
	case LeaveOut:
		return "Without " + step
	case Share:
		return step + ": shared between the cooks"
	}
	return string(c.Kind)
}

func (c Change) bench(l fit.Lesson) string {
	if c.Group == "" {
		return "Every bench"
	}
	return l.GroupLabel(c.Group)
}

func (c Change) stepTitle(l fit.Lesson) string {
	for _, d := range l.Dishes {
		if i := c.find(d); i >= 0 && c.is(d) {
			return d.Steps[i].Label()
		}
	}
	return c.Step
}

func count(n int, what string) string {
	if n == 1 {
		return "1 " + what
	}
	return fmt.Sprintf("%d %ss", n, what)
}
