package fit

import (
	"cmp"
	"slices"
)

// A Duty is one turn of an adult: at a step, or out of the room.
type Duty struct {
	Adult             int // which of them, from 0
	From, To          float64
	Group, Dish, Step string // empty where the adult is out
	Does              bool   // does the work, rather than watching
}

// Duties lists what each adult has to do, by time. Turns are dealt out so
// that each goes to an adult who is free.
func Duties(l Lesson, p *Plan) []Duty {
	var out []Duty
	for _, g := range p.Groups {
		for _, s := range g.Steps {
			if step, _ := l.Step(s.Dish, s.Step); step.Adult != NoAdult && s.WorkEnd > s.Start {
				out = append(out, Duty{From: s.Start, To: s.WorkEnd, Group: g.ID, Dish: s.Dish, Step: s.Step, Does: step.Adult == Does})
			}
		}
	}
	for _, a := range l.Away {
		for range a.Adults {
			out = append(out, Duty{From: a.From.Float(), To: a.From.Add(a.Minutes).Float()})
		}
	}
	slices.SortStableFunc(out, func(a, b Duty) int { return cmp.Or(cmp.Compare(a.From, b.From), cmp.Compare(a.Group, b.Group)) })
	free := make([]float64, l.Adults)
	for i := range out {
		out[i].Adult = max(0, slices.IndexFunc(free, func(f float64) bool { return f <= out[i].From+sameMoment }))
		if len(free) > 0 {
			free[out[i].Adult] = out[i].To
		}
	}
	return out
}

// A Door is one unit that has a temperature, with all that goes in and out.
type Door struct {
	Equipment, Unit string
	ID              string  // of the unit, where the lesson has one
	On, Ready       float64 // switched on, and hot
	Moves           []Move
}

// A Move opens the door.
type Move struct {
	At                float64
	In                bool
	Latest            float64 // for what goes in: the last moment
	Group, Dish, Step string
	Celsius           string
	Shut              bool // from here until it comes out the door stays shut
}

// Doors lists the units with a temperature that the plan uses, in the order
// of the room.
func Doors(l Lesson, p *Plan) []Door {
	var out []Door
	trays := Trays(l, p)
	for _, e := range l.Equipment {
		if !e.Temperature || e.PerStation {
			continue
		}
		for _, u := range e.Units {
			d := Door{Equipment: e.ID, ID: u.ID, Unit: u.Name, On: e.OnAt.Float(), Ready: e.OnAt.Add(e.Preheat).Float()}
			for _, t := range trays {
				if t.Equipment == e.ID && t.Unit == u.Name {
					d.moves(l, t)
				}
			}
			if len(d.Moves) == 0 {
				continue
			}
			slices.SortStableFunc(d.Moves, func(a, b Move) int {
				if !meets(a.At, b.At) {
					return cmp.Compare(a.At, b.At)
				}
				return goesIn(a) - goesIn(b) // out before in
			})
			out = append(out, d)
		}
	}
	return out
}

func goesIn(m Move) int {
	if m.In {
		return 1
	}
	return 0
}

func (d *Door) moves(l Lesson, t Tray) {
	step, _ := l.Step(t.Dish, t.Step)
	m := Move{Group: t.Group, Dish: t.Dish, Step: t.Step, Shut: step.KeepShut, Celsius: t.Celsius.Decimal(0)}
	m.At, m.In, m.Latest = t.In, true, t.LatestIn
	d.Moves = append(d.Moves, m)
	m.At, m.In, m.Latest = t.Out, false, 0
	d.Moves = append(d.Moves, m)
}
