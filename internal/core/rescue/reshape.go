package rescue

import (
	"errors"
	"fmt"
	"math"
	"slices"
	"strings"

	"freshapron/internal/core/exact"
	"freshapron/internal/core/fit"
	"freshapron/internal/core/heat"
)

// collecting is how long it takes to fetch what stands weighed; typical.
var collecting = exact.Int(1)

// preweigh leaves of each weighing only the fetching.
func preweigh(l *fit.Lesson) error {
	for _, d := range l.Dishes {
		for i := range d.Steps {
			if s := &d.Steps[i]; weighs(*s) {
				s.Work = collecting
			}
		}
	}
	return nil
}

func weighs(s fit.Step) bool { return s.Kind == fit.Weigh && collecting.Less(s.Work) }

// isDemo reports whether a phase is the demonstration.
func isDemo(p fit.Phase) bool {
	return p.Place == fit.AtStart && p.Minutes.Sign() > 0 && strings.Contains(strings.ToLower(p.Name), "demo")
}

func demonstrate(l *fit.Lesson, c Change) error {
	i := slices.IndexFunc(l.Phases, isDemo)
	if i < 0 {
		return errors.New("there is no demonstration at the start of this lesson")
	}
	if c.Kind == DemoBefore {
		l.Phases = slices.Delete(l.Phases, i, i+1)
		return nil
	}
	first := exact.Int(l.Phases[i].Minutes.Div(exact.Int(2)).Ceil())
	second := l.Phases[i]
	second.Minutes = l.Phases[i].Minutes.Sub(first)
	second.Name, second.Place, second.Minute = second.Name+", second piece", fit.AtMinute, c.At
	l.Phases[i].Minutes = first
	l.Phases = append(l.Phases, second)
	return nil
}

// regroup makes groups of so many cooks of all cooks that there are, of sizes
// that differ by one at most. The first groups keep their names, and every cook
// their own pace: a group's is the mean of those in it.
func regroup(l *fit.Lesson, cooks int) error {
	var paces []exact.Number
	for _, g := range l.Groups {
		for range g.Cooks {
			paces = append(paces, g.Pace)
		}
	}
	all := len(paces)
	if cooks < 1 || cooks > all {
		return fmt.Errorf("%d cooks can’t be in groups of %d", all, cooks)
	}
	count := all / cooks
	if count > len(l.Groups) {
		return fmt.Errorf("groups of %d need %d places, and there are %d", cooks, count, len(l.Groups))
	}
	l.Groups = l.Groups[:count]
	for i := range l.Groups {
		g := &l.Groups[i]
		g.Cooks = all / count
		if i < all%count {
			g.Cooks++
		}
		var sum exact.Number
		for _, p := range paces[:g.Cooks] {
			sum = sum.Add(p)
		}
		g.Pace, paces = sum.Div(exact.Int(int64(g.Cooks))), paces[g.Cooks:]
	}
	return nil
}

// both returns the ids of the two dishes that every group makes, whatever their
// variants; ok is false where there are not just two, or some group makes one alone.
func both(l fit.Lesson) (first, second string, ok bool) {
	var of []string
	for _, d := range l.Dishes {
		if id := l.Of(d.ID); !slices.Contains(of, id) {
			of = append(of, id)
		}
	}
	if len(of) != 2 || len(l.Groups) < 2 {
		return "", "", false
	}
	for _, g := range l.Groups {
		makes := map[string]bool{}
		for _, d := range g.Dishes {
			makes[l.Of(d)] = true
		}
		if g.Dishes != nil && len(makes) < 2 {
			return "", "", false
		}
	}
	return of[0], of[1], true
}

// halve lets every second group make the second of two dishes, and the others the
// first.
func halve(l *fit.Lesson) error {
	first, second, ok := both(*l)
	if !ok {
		return errors.New("there are not two dishes that every bench makes")
	}
	for i := range l.Groups {
		g, own := &l.Groups[i], []string{first, second}[i%2]
		gone := func(dish string) bool { return l.Of(dish) != own }
		if g.Dishes == nil {
			for _, d := range l.Dishes {
				g.Dishes = append(g.Dishes, d.ID)
			}
		}
		g.Dishes = slices.DeleteFunc(slices.Clone(g.Dishes), gone)
		g.Pins = slices.DeleteFunc(g.Pins, func(p fit.Pin) bool { return gone(p.Dish) })
	}
	for i := range l.Dishes {
		for k := range l.Dishes[i].Steps {
			s := &l.Dishes[i].Steps[k] // nothing waits any more for what another bench makes
			s.After = slices.DeleteFunc(s.After, func(a fit.After) bool { return a.Dish != "" && l.Of(a.Dish) != l.Of(l.Dishes[i].ID) })
		}
	}
	return nil
}

// stagger lets every second group begin later.
func stagger(l *fit.Lesson, by exact.Number) error {
	opening := exact.Number{}
	for _, s := range l.Phases {
		if s.Place == fit.AtStart {
			opening = opening.Add(s.Minutes)
		}
	}
	for i := 1; i < len(l.Groups); i += 2 {
		g := &l.Groups[i]
		for _, d := range l.Dishes {
			if g.Dishes != nil && !slices.Contains(g.Dishes, d.ID) {
				continue
			}
			for _, s := range d.Steps {
				if len(s.After) == 0 {
					if err := pin(l, Change{Kind: NotBefore, Group: g.ID, Dish: d.ID, Step: s.ID, At: opening.Add(by)}); err != nil {
						return err
					}
				}
			}
		}
	}
	return nil
}

func equipped(l *fit.Lesson, c Change) error {
	i := slices.IndexFunc(l.Equipment, func(e fit.Equipment) bool { return e.ID == c.Equipment })
	if i < 0 {
		return fmt.Errorf("there is no %s in this room any more", c.Equipment)
	}
	e := &l.Equipment[i]
	switch c.Kind {
	case HotBefore:
		e.OnAt, e.Preheat = exact.Number{}, exact.Number{}
	case OneMore:
		e.Units = append(e.Units, fit.Unit{Name: another(*e), Places: e.Units[0].Places})
	default:
		temps := temperatures(*l, e.ID)
		if len(temps) == 0 {
			return fmt.Errorf("no step says at what temperature it is in the %s", e.ID)
		}
		between(l, e.ID, middle(temps))
	}
	return nil
}

// another names a unit that is found for the lesson, as no other is named.
func another(e fit.Equipment) string {
	name := "another " + e.ID
	for n := 2; slices.ContainsFunc(e.Units, func(u fit.Unit) bool { return u.Name == name }); n++ {
		name = fmt.Sprintf("another %s (%d)", e.ID, n)
	}
	return name
}

// temperatures lists those at which steps use the equipment, rising.
func temperatures(l fit.Lesson, equipment string) []exact.Number {
	var out []exact.Number
	for _, d := range l.Dishes {
		for _, s := range d.Steps {
			for _, u := range s.Uses {
				if u.Equipment == equipment && u.Temperature != nil {
					out = append(out, *u.Temperature)
				}
			}
		}
	}
	slices.SortFunc(out, exact.Number.Cmp)
	return slices.CompactFunc(out, func(a, b exact.Number) bool { return a.Cmp(b) == 0 })
}

// middle is the temperature between the lowest and the highest, in steps of
// 5 °C.
func middle(temps []exact.Number) exact.Number {
	return temps[0].Add(temps[len(temps)-1]).Div(exact.Int(2)).RoundTo(exact.Int(5))
}

// between bakes everything at one temperature, each for as long as its centre then needs.
func between(l *fit.Lesson, equipment string, to exact.Number) {
	for _, d := range l.Dishes {
		for i := range d.Steps {
			s := &d.Steps[i]
			for k := range s.Uses {
				if u := &s.Uses[k]; u.Equipment == equipment && u.Temperature != nil {
					s.Wait = longer(s.Wait, atTemperature(u.Temperature.Float(), to.Float()))
					u.Temperature = &to
				}
			}
		}
	}
}

// What the estimates of heating assume: a layer of 4 cm in a fan oven that
// goes from room temperature to where starch and egg have set. Typical.
const (
	usualHalf = 0.02
	room      = 20.0
	baked     = 95.0
)

// atTemperature returns how many times as long the same piece takes at
// another oven temperature.
func atTemperature(from, to float64) float64 {
	return heat.Seconds(heat.Slab, usualHalf, heat.FanOven, room, baked, to) /
		heat.Seconds(heat.Slab, usualHalf, heat.FanOven, room, baked, from)
}

// thinner is how thick a smaller piece is.
const thinner = 0.8

// whenThinner returns how many times as long a piece of four fifths of the
// thickness takes.
func whenThinner() float64 {
	return heat.Seconds(heat.Slab, usualHalf*thinner, heat.FanOven, room, baked, 180) /
		heat.Seconds(heat.Slab, usualHalf, heat.FanOven, room, baked, 180)
}

// longer multiplies minutes, to the next half minute.
func longer(m exact.Number, factor float64) exact.Number {
	return exact.Frac(int64(math.Ceil(m.Float()*factor*2-1e-9)), 2)
}

// recut changes which steps there are, and how long the one named takes.
func recut(l *fit.Lesson, c Change) error {
	found := false
	for i := range l.Dishes {
		d := &l.Dishes[i]
		at := c.find(*d)
		if at < 0 || !c.is(*d) {
			continue
		}
		found = true
		switch c.Kind {
		case Smaller:
			d.Steps[at].Wait = longer(d.Steps[at].Wait, whenThinner())
		case FewerLoads:
			s := &d.Steps[at]
			s.Pieces = max(1, (s.Loads()-1)*s.PerLoad)
		case LeaveOut:
			leaveOut(l, i, at)
		case FinishAfter:
			s := &d.Steps[at]
			s.Wait = exact.Number{}
			remove(l, i, later(*d, c.Step))
		case TwoLessons:
			first := Earlier(*d, c.Step)
			if c.Number == 2 {
				remove(l, i, first)
			} else {
				remove(l, i, func(id string) bool { return !first(id) })
			}
		default:
			remove(l, i, PartOf(*d, c.Step))
		}
		if len(d.Steps) == 0 {
			return fmt.Errorf("nothing would be left of %s", d.Title)
		}
	}
	if !found {
		return fmt.Errorf("no dish of this lesson has a step “%s” any more", c.Step)
	}
	if c.Kind == TwoLessons && c.Number == 2 {
		keepOnly(l, c)
	}
	return nil
}

// keepOnly leaves the dish that goes on in a second lesson: the others are
// finished in the first.
func keepOnly(l *fit.Lesson, c Change) {
	gone := func(id string) bool {
		return slices.ContainsFunc(l.Dishes, func(d fit.Dish) bool { return d.ID == id && !c.is(d) })
	}
	for i := range l.Groups {
		g := &l.Groups[i]
		if g.Dishes != nil {
			g.Dishes = slices.DeleteFunc(slices.Clone(g.Dishes), gone)
		}
		g.Pins = slices.DeleteFunc(g.Pins, func(p fit.Pin) bool { return gone(p.Dish) })
	}
	l.Groups = slices.DeleteFunc(l.Groups, func(g fit.Group) bool { return g.Dishes != nil && len(g.Dishes) == 0 })
	l.Dishes = slices.DeleteFunc(l.Dishes, func(d fit.Dish) bool { return !c.is(d) })
}

// Earlier returns the step and all that it waits for, of its own dish: of a dish
// in two lessons, what is done in the first.
func Earlier(d fit.Dish, step string) func(id string) bool {
	set := map[string]bool{step: true}
	for range d.Steps {
		for _, s := range d.Steps {
			if !set[s.ID] {
				continue
			}
			for _, a := range s.After {
				if a.Dish == "" || a.Dish == d.ID {
					set[a.Step] = true
				}
			}
		}
	}
	return func(id string) bool { return set[id] }
}

// later returns all steps of the dish that wait for the step.
func later(d fit.Dish, step string) func(id string) bool {
	set := map[string]bool{}
	for range d.Steps {
		for _, s := range d.Steps {
			for _, a := range s.After {
				if (a.Dish == "" || a.Dish == d.ID) && (a.Step == step || set[a.Step]) {
					set[s.ID] = true
				}
			}
		}
	}
	return func(id string) bool { return set[id] }
}

// PartOf returns the step and, of all that it waits for, those steps that
// nothing else waits for.
func PartOf(d fit.Dish, step string) func(id string) bool {
	before := Earlier(d, step)
	set := map[string]bool{step: true}
	for range d.Steps {
		for _, s := range d.Steps {
			if !before(s.ID) || set[s.ID] {
				continue
			}
			mine, waits := true, false
			for _, o := range d.Steps {
				for _, a := range o.After {
					if (a.Dish == "" || a.Dish == d.ID) && a.Step == s.ID {
						waits = true
						mine = mine && set[o.ID]
					}
				}
			}
			if mine && waits {
				set[s.ID] = true
			}
		}
	}
	return func(id string) bool { return set[id] }
}

// remove takes steps out of a dish, with the rules and pins that name them.
func remove(l *fit.Lesson, dish int, gone func(id string) bool) {
	d := &l.Dishes[dish]
	d.Steps = slices.DeleteFunc(d.Steps, func(s fit.Step) bool { return gone(s.ID) })
	for i := range l.Dishes {
		for k := range l.Dishes[i].Steps {
			s := &l.Dishes[i].Steps[k]
			s.After = slices.DeleteFunc(s.After, func(a fit.After) bool {
				return gone(a.Step) && (a.Dish == d.ID || a.Dish == "" && i == dish)
			})
		}
	}
	for i := range l.Groups {
		l.Groups[i].Pins = slices.DeleteFunc(l.Groups[i].Pins, func(p fit.Pin) bool { return p.Dish == d.ID && gone(p.Step) })
	}
}

// leaveOut takes one step out; what waited for it waits for what it waited
// for.
func leaveOut(l *fit.Lesson, dish, at int) {
	out := l.Dishes[dish].Steps[at]
	for i := range l.Dishes {
		for k := range l.Dishes[i].Steps {
			s := &l.Dishes[i].Steps[k]
			if slices.ContainsFunc(s.After, func(a fit.After) bool {
				return a.Step == out.ID && (a.Dish == l.Dishes[dish].ID || a.Dish == "" && i == dish)
			}) {
				for _, a := range out.After {
					if a.Dish == "" && i != dish {
						a.Dish = l.Dishes[dish].ID
					}
					s.After = append(s.After, fit.After{Dish: a.Dish, Step: a.Step, MinGap: a.MinGap})
				}
			}
		}
	}
	remove(l, dish, func(id string) bool { return id == out.ID })
}
