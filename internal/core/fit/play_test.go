package fit_test

import (
	"testing"

	"pgregory.net/rapid"

	"freshapron/internal/core/fit"
)

// a stretch of a simulated lesson in which something is kept.
type kept struct {
	from, to  float64
	amount    int
	celsius   string
	shut      [2]float64
	belongsTo int
}

// overfull reports whether the stretches keep more than there is at any moment.
func overfull(list []kept, most int) bool {
	const rounding = 1e-6
	for _, at := range list {
		used := 0
		for _, o := range list {
			if o.from <= at.from+rounding && at.from+rounding < o.to-rounding {
				used += o.amount
			}
		}
		if used > most {
			return true
		}
	}
	return false
}

// However long everything takes, a simulated lesson keeps what the plan's
// order is to keep: nobody works at two things, no shelf holds two trays, no
// oven has two temperatures, and no door opens that is to stay shut.
func TestSimulatedLessonsKeepTheRules(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		l := anyLesson.Draw(t, "lesson")
		l.Phases, l.Away = nil, nil // work pauses for phases, and an adult who overruns is late
		steps, units := fit.Play(l, rapid.Uint64().Draw(t, "seed"))
		cooks := map[int][]kept{}
		var adults []kept
		inside := make([][]kept, len(units))
		for i, s := range steps {
			if s.WorkEnd > s.Start {
				cooks[s.Group] = append(cooks[s.Group], kept{from: s.Start, to: s.WorkEnd, amount: s.Cooks})
				if s.Step.Adult != fit.NoAdult {
					adults = append(adults, kept{from: s.Start, to: s.WorkEnd, amount: 1})
				}
			}
			for k, u := range s.Step.Uses {
				stay := kept{from: s.Start, to: s.End, amount: u.Places, belongsTo: i}
				switch u.During {
				case fit.WorkPart:
					stay.to = s.WorkEnd
				case fit.WaitPart:
					stay.from = s.WorkEnd
				}
				if u.Temperature != nil {
					stay.celsius = u.Temperature.String()
				}
				if s.Step.KeepShut && s.Step.Wait.Sign() > 0 && u.During != fit.WorkPart {
					stay.shut = [2]float64{s.WorkEnd, s.End}
				}
				if stay.to > stay.from {
					inside[s.Units[k]] = append(inside[s.Units[k]], stay)
				}
			}
		}
		for g, list := range cooks {
			if overfull(list, l.Groups[g].Cooks) {
				t.Errorf("group %d has too few cooks", g)
			}
		}
		if overfull(adults, l.Adults) {
			t.Errorf("too few adults")
		}
		const rounding = 1e-6
		for u, list := range inside {
			if overfull(list, units[u].Places) {
				t.Errorf("%s is too full", units[u].Name)
			}
			for _, a := range list {
				for _, b := range list {
					if a.belongsTo == b.belongsTo {
						continue
					}
					if a.celsius != b.celsius && a.from < b.to-rounding && b.from < a.to-rounding {
						t.Errorf("%s has two temperatures", units[u].Name)
					}
					for _, moment := range []float64{b.from, b.to} {
						if a.shut[0]+rounding < moment && moment < a.shut[1]-rounding {
							t.Errorf("the door of %s opens at %.1f, to stay shut from %.1f to %.1f", units[u].Name, moment, a.shut[0], a.shut[1])
						}
					}
				}
			}
		}
	})
}
