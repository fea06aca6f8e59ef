package live

import (
	"cmp"
	"fmt"
	"math"
	"math/rand/v2"
	"slices"

	"freshapron/internal/core/fit"
)

// Mishaps are what can be made to happen in a rehearsal.
var Mishaps = []string{"late", "oven", "adult", "burn", "gone", "slow"}

// A Script is how a lesson is rehearsed.
type Script struct {
	Seed   uint64
	Mishap string // one of Mishaps; empty for none
}

// How a simulated class differs from the plan: of lessons as a whole, of benches,
// and of single steps, as shares. They are those of the simulation behind the
// chance, and typical.
const (
	classSpread  = 0.08
	benchSpread  = 0.08
	stepSpread   = 0.15
	presses      = 0.6  // of steps whose end a bench says
	asks         = 0.05 // of steps at which a bench asks for help
	helpTakes    = 1.5  // minutes
	worthBehind  = 2    // minutes from which a bench is called behind at a checkpoint
	slowBench    = 1.35
	comesLateBy  = 6.0
	adultAwayFor = 8.0
)

// Rehearse returns the events of a simulated class that goes by a plan, by their
// time: the same for the same seed.
func Rehearse(l fit.Lesson, p *fit.Plan, script Script) []Event {
	r := &rehearsal{lesson: l, plan: p, Script: script, rng: rand.New(rand.NewPCG(script.Seed, 0x5eed))}
	door := math.Round(r.rng.Float64()*90) / 60
	if script.Mishap == "late" {
		door = comesLateBy + door
	}
	r.add(door, Event{Kind: Opened})
	class := r.factor(classSpread)
	for i, g := range p.Groups {
		own := class * r.factor(benchSpread)
		if script.Mishap == "slow" && i == 0 {
			own *= slowBench
		}
		r.bench(g, door, own)
	}
	for _, c := range fit.Checkpoints(l, p) {
		r.add(c.At+door, Event{Kind: Checkpoint, Says: c.Says()})
		for _, g := range p.Groups {
			if minutes := r.late[g.ID](c.At + door); minutes >= worthBehind {
				r.add(c.At+door+0.2, Event{Kind: Behind, Bench: g.ID, Minutes: minutes})
			}
		}
	}
	r.mishap()
	cooks := 0 // with a knife each
	for _, g := range l.Groups {
		cooks += g.Cooks
	}
	r.add(l.Minutes().Float()-3, Event{Kind: Sharps, Number: cooks})
	r.add(l.Minutes().Float()+1, Event{Kind: Closed})
	slices.SortStableFunc(r.events, func(a, b Event) int { return cmp.Compare(a.At, b.At) })
	for i := range r.events {
		r.events[i].ID, r.events[i].By = fmt.Sprintf("simulated-%d-%d", script.Seed, i), "simulated"
	}
	return r.events
}

type rehearsal struct {
	Script
	lesson fit.Lesson
	plan   *fit.Plan
	rng    *rand.Rand
	events []Event
	late   map[string]func(at float64) float64 // by bench, how many minutes behind it is
}

func (r *rehearsal) factor(spread float64) float64 {
	return math.Exp(r.rng.NormFloat64()*spread - spread*spread/2)
}

func (r *rehearsal) add(at float64, e Event) {
	e.At = math.Round(at*60) / 60
	r.events = append(r.events, e)
}

// bench goes through the steps of a bench: each begins when it is planned and what
// comes before it is done, and its work takes as long as this bench takes.
func (r *rehearsal) bench(g fit.GroupPlan, door, factor float64) {
	type done struct{ planned, real float64 }
	var log []done
	free := map[int]float64{} // by hand
	ended := map[string]float64{}
	for _, s := range g.Steps {
		start := s.Start + door
		for _, h := range s.Hands {
			start = max(start, free[h])
		}
		if step, ok := r.lesson.Step(s.Dish, s.Step); ok {
			for _, a := range step.After {
				dish := a.Dish
				if dish == "" {
					dish = s.Dish
				}
				start = max(start, ended[dish+"/"+a.Step])
			}
		}
		work := (s.WorkEnd - s.Start) * factor * r.factor(stepSpread)
		if work > 0 && r.rng.Float64() < asks {
			r.add(start+work/2, Event{Kind: Help, Bench: g.ID, Says: "help"})
			work += helpTakes
			r.add(start+work/2+helpTakes, Event{Kind: Helped, Bench: g.ID})
		}
		workEnd := start + work
		end := workEnd + (s.End - s.WorkEnd)
		for _, h := range s.Hands {
			free[h] = workEnd
		}
		ended[s.Dish+"/"+s.Step] = end
		log = append(log, done{s.WorkEnd, workEnd})
		e := Event{Bench: g.ID, Dish: s.Dish, Step: s.Step}
		says := r.rng.Float64() < presses
		switch {
		case s.End > s.WorkEnd && len(s.Units) > 0: // a tray goes in
			e.Kind, e.Unit = Worked, unitOf(s)
			r.add(workEnd, e)
			e.Kind = Ended
			r.add(end+r.rng.Float64(), e)
		case says:
			e.Kind = Ended
			r.add(end, e)
		}
	}
	if r.late == nil {
		r.late = map[string]func(float64) float64{}
	}
	r.late[g.ID] = func(at float64) float64 {
		late := 0.0
		for _, d := range log {
			if d.planned+door <= at {
				late = d.real - d.planned - door
			}
		}
		return math.Round(max(0, late))
	}
}

// mishap lets what the script asks for happen, at the busiest time.
func (r *rehearsal) mishap() {
	middle := r.plan.Finish / 2
	switch r.Mishap {
	case "oven":
		for _, t := range fit.Trays(r.lesson, r.plan) {
			r.add(t.In+2, Event{Kind: UnitOut, Equipment: t.Equipment, Unit: t.Unit, Says: "went out"})
			return
		}
	case "adult":
		r.add(middle, Event{Kind: AdultOut, Minutes: adultAwayFor})
	case "burn":
		r.add(middle, Event{Kind: Mishap, Bench: r.plan.Groups[0].ID, Says: "burn", Done: "cooled for 20 minutes under running water"})
	case "gone":
		r.add(middle, Event{Kind: Gone, Bench: r.plan.Groups[len(r.plan.Groups)-1].ID, Says: "called away"})
	}
}
