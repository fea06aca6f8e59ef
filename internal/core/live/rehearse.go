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
	burnTakes    = 5.0 // minutes that the bench does nothing else
	movingTakes  = 8.0 // minutes that a tray is in the oven longer where it has to be moved to another
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
	r.mishap(door)
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
	cooks := 0 // with a knife each
	for _, g := range l.Groups {
		cooks += g.Cooks
	}
	r.add(l.Minutes().Float()-3, Event{Kind: Sharps, Number: cooks})
	r.close(l.Minutes().Float() + 1)
	slices.SortStableFunc(r.events, func(a, b Event) int { return cmp.Compare(a.At, b.At) })
	for i := range r.events {
		r.events[i].ID, r.events[i].By = fmt.Sprintf("simulated-%d-%d", script.Seed, i), "simulated"
	}
	return r.events
}

// close ends the lesson: nobody presses anything after that.
func (r *rehearsal) close(at float64) {
	r.events = slices.DeleteFunc(r.events, func(e Event) bool { return e.At > at })
	r.add(at, Event{Kind: Closed})
}

type rehearsal struct {
	Script
	lesson fit.Lesson
	plan   *fit.Plan
	rng    *rand.Rand
	events []Event
	late   map[string]func(at float64) float64 // by bench, how many minutes behind it is
	wrong  Event                               // what the script makes happen, with its minute
}

func (r *rehearsal) factor(spread float64) float64 {
	return math.Exp(r.rng.NormFloat64()*spread - spread*spread/2)
}

func (r *rehearsal) add(at float64, e Event) {
	e.At = math.Round(at*60) / 60
	r.events = append(r.events, e)
}

// The simulated probe is put in when a tray has come out, after so many minutes, and
// reads from probeLeast °C on.
const probed, probeLeast, probeSpread = 0.5, 78, 18

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
		step, _ := r.lesson.Step(s.Dish, s.Step)
		for _, a := range step.After {
			start = max(start, ended[cmp.Or(a.Dish, s.Dish)+"/"+a.Step])
		}
		start = r.held(g, step, start)
		if r.left(g, start) {
			break
		}
		work := (s.WorkEnd - s.Start) * factor * r.factor(stepSpread) * r.share(g, start)
		if work > 0 && r.rng.Float64() < asks {
			r.add(start+work/2, Event{Kind: Help, Bench: g.ID, Says: "help"})
			work += helpTakes
			r.add(start+work/2+helpTakes, Event{Kind: Helped, Bench: g.ID})
		}
		workEnd := start + work
		end := workEnd + (s.End - s.WorkEnd)
		if r.wrong.Kind == UnitOut && s.End > s.WorkEnd && unitOf(s) == r.wrong.Unit && end > r.wrong.At {
			end += movingTakes
		}
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
			out := end + r.rng.Float64()
			r.add(out, e)
			r.add(out+probed, Event{Kind: Temperature, Bench: g.ID, Celsius: math.Round(probeLeast + probeSpread*r.rng.Float64()), Says: "in the middle"})
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
func (r *rehearsal) mishap(door float64) {
	first, last := r.plan.Groups[0].ID, r.plan.Groups[len(r.plan.Groups)-1].ID
	r.wrong = Event{At: math.Round(60*(door+r.plan.Finish/2)) / 60}
	switch r.Mishap {
	case "oven":
		trays := fit.Trays(r.lesson, r.plan)
		if len(trays) == 0 {
			return
		}
		t := slices.MinFunc(trays, func(a, b fit.Tray) int { return cmp.Compare(a.In, b.In) })
		r.wrong = Event{At: door + t.In + 2, Kind: UnitOut, Equipment: t.Equipment, Unit: t.Unit, Says: "went out"}
	case "adult":
		r.wrong.Kind, r.wrong.Minutes = AdultOut, adultAwayFor
	case "burn":
		r.wrong.Kind, r.wrong.Bench, r.wrong.Says, r.wrong.Done = Mishap, first, "burn", "cooled for 20 minutes under running water"
	case "gone":
		r.wrong.Kind, r.wrong.Bench, r.wrong.Says = Gone, last, "called away"
	default:
		return
	}
	r.add(r.wrong.At, r.wrong)
}

// held returns when a step begins that would begin at a minute: who has been burnt
// does nothing else at first, and what needs an adult waits for one who is out.
func (r *rehearsal) held(g fit.GroupPlan, step fit.Step, start float64) float64 {
	to := r.wrong.At
	switch {
	case r.wrong.Kind == Mishap && r.wrong.Bench == g.ID:
		to += burnTakes
	case r.wrong.Kind == AdultOut && step.Adult != fit.NoAdult && r.lesson.Adults < 2:
		to += r.wrong.Minutes
	}
	if start >= r.wrong.At {
		return max(start, to)
	}
	return start
}

// left reports whether nobody is at a bench any more.
func (r *rehearsal) left(g fit.GroupPlan, at float64) bool {
	return r.wrong.Kind == Gone && r.wrong.Bench == g.ID && at >= r.wrong.At && r.cooks(g) == 1
}

// share is by how much longer work takes where one of several has gone.
func (r *rehearsal) share(g fit.GroupPlan, at float64) float64 {
	if n := r.cooks(g); r.wrong.Kind == Gone && r.wrong.Bench == g.ID && at >= r.wrong.At && n > 1 {
		return float64(n) / float64(n-1)
	}
	return 1
}

func (r *rehearsal) cooks(g fit.GroupPlan) int {
	for _, x := range r.lesson.Groups {
		if x.ID == g.ID {
			return x.Cooks
		}
	}
	return 1
}
