package fit

import "freshapron/internal/core/exact"

// A Tray is what a step puts into a unit that has a temperature. Times are
// minutes from the door.
type Tray struct {
	Group, Dish, Step string
	Equipment, Unit   string
	Celsius           exact.Number
	In, Out           float64
	LatestIn          float64 // the last moment to put it in that still meets the deadline
}

// Trays lists the trays of a plan, group by group.
func Trays(l Lesson, p *Plan) []Tray {
	var out []Tray
	for _, g := range p.Groups {
		for _, s := range g.Steps {
			out = append(out, trays(l, g.ID, s)...)
		}
	}
	return out
}

func trays(l Lesson, group string, s StepPlan) []Tray {
	var out []Tray
	step, _ := l.Step(s.Dish, s.Step)
	for i, u := range step.Uses {
		if u.Temperature == nil || i >= len(s.Units) {
			continue
		}
		in, leave := staying(u, s)
		out = append(out, Tray{
			Group: group, Dish: s.Dish, Step: s.Step, Equipment: u.Equipment, Unit: s.Units[i].Unit, Celsius: *u.Temperature,
			In: in, Out: leave, LatestIn: in + s.LatestStart - s.Start,
		})
	}
	return out
}

// Tray returns the first tray of a step of a group, and whether it has one.
func (l Lesson) Tray(group string, s StepPlan) (Tray, bool) {
	list := trays(l, group, s)
	if len(list) == 0 {
		return Tray{}, false
	}
	return list[0], true
}
