package lesson

import (
	"fmt"
	"slices"

	"freshapron/internal/core/exact"
	"freshapron/internal/core/fit"
	"freshapron/internal/core/words"
)

// An OvenUse is what has to be done about the ovens at one temperature.
type OvenUse struct {
	Celsius   exact.Number
	Units     []string
	On        float64 // minute at which they are switched on
	FirstTray float64 // minute at which the first tray goes in
	LastTray  float64 // last moment for the first tray that is pressed
	Trays     int
}

// Ovens returns the use of everything that has a temperature, by the first
// tray.
func Ovens(f fit.Lesson, p *fit.Plan) []OvenUse {
	var out []OvenUse
	for _, g := range p.Groups {
		for _, s := range g.Steps {
			step, _ := f.Step(s.Dish, s.Step)
			for i, u := range step.Uses {
				if u.Temperature == nil {
					continue
				}
				in, last := s.Start, s.LatestStart
				if u.During == fit.WaitPart {
					in, last = s.WorkEnd, s.LatestStart+s.WorkEnd-s.Start
				}
				k := slices.IndexFunc(out, func(o OvenUse) bool { return o.Celsius.Cmp(*u.Temperature) == 0 })
				if k < 0 {
					k = len(out)
					out = append(out, OvenUse{Celsius: *u.Temperature, On: onAt(f, u.Equipment), FirstTray: in, LastTray: last})
				}
				o := &out[k]
				o.FirstTray, o.LastTray = min(o.FirstTray, in), min(o.LastTray, last)
				o.Trays++
				if !slices.Contains(o.Units, s.Units[i].Unit) {
					o.Units = append(o.Units, s.Units[i].Unit)
				}
			}
		}
	}
	return out
}

func onAt(f fit.Lesson, equipment string) float64 {
	for _, e := range f.Equipment {
		if e.ID == equipment {
			return e.OnAt.Float()
		}
	}
	return 0
}

// Sets says how many sets of ingredients there are to lay out.
func (l Lesson) Sets() string {
	s := words.Plural(len(l.Benches()), "set", "sets")
	if l.Demo > 0 {
		s += ", the demonstration"
	}
	if l.Spare > 0 {
		s += fmt.Sprintf(" and %d spare", l.Spare)
	}
	return s
}
