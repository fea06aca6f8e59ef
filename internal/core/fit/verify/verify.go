// Package verify checks a plan against the eight rules that make it valid.
//
// It shares nothing with the planner but the types of lesson and plan: it
// reads durations from the lesson anew and looks at every moment at which
// something changes. A fault in the planner therefore shows here rather than
// cancelling out.
package verify

import (
	"fmt"
	"math"
	"math/big"
	"slices"

	"freshapron/internal/core/exact"
	"freshapron/internal/core/fit"
)

// A stretch is one part of one step of one group, in seconds.
type stretch struct {
	who      string
	from, to int64
	amount   int
	begun    bool // nobody answers for it any more
}

type occupant struct {
	stretch
	owner       string // the step, so that its own uses do not disturb each other
	temperature string
	shut        [2]int64
}

type verifier struct {
	lesson   fit.Lesson
	plan     *fit.Plan
	faults   []string
	deadline int64
	waits    int64 // by when everything else has ended
	phases   [][2]int64
	cooks    map[string][]stretch
	adults   []stretch
	units    map[[3]string][]occupant // equipment, unit, group (per station)
	steps    map[[3]string]fit.StepPlan
	now      int64
	records  map[[3]string]fit.Progress
}

// Plan returns one sentence for each breach of the rules, none for a valid
// plan. The rule's number stands first.
func Plan(l fit.Lesson, p *fit.Plan) []string {
	v := rules(l, p)
	v.late()
	v.verdict()
	return v.faults
}

// rules checks what has to hold of every step, and leaves out what the plan
// says of itself.
func rules(l fit.Lesson, p *fit.Plan) *verifier {
	v := &verifier{
		lesson: l, plan: p,
		cooks:   map[string][]stretch{},
		units:   map[[3]string][]occupant{},
		steps:   map[[3]string]fit.StepPlan{},
		records: map[[3]string]fit.Progress{},
	}
	if l.Now != nil {
		v.now = up(*l.Now)
	}
	for _, r := range l.Progress {
		v.records[[3]string{r.Group, r.Dish, r.Step}] = r
	}
	v.calendar()
	v.collect()
	v.gaps()
	for _, g := range l.Groups {
		v.capacity("2", g.Name+" "+g.ID+": cooks", v.cooks[g.ID], g.Cooks)
	}
	v.hands()
	for _, a := range l.Away {
		v.adults = append(v.adults, stretch{"out of the room", down(a.From), up(a.From.Add(a.Minutes)), a.Adults, true})
	}
	v.capacity("2", "adults", v.adults, l.Adults)
	v.pins()
	for key, list := range v.units {
		v.unit(key, list)
	}
	return v
}

func (v *verifier) fault(format string, args ...any) {
	v.faults = append(v.faults, fmt.Sprintf(format, args...))
}

func up(m exact.Number) int64   { return m.Mul(exact.Int(60)).Ceil() }
func down(m exact.Number) int64 { return m.Mul(exact.Int(60)).Floor() }

// seconds reads a minute of the plan, which must be a whole second.
func (v *verifier) seconds(what string, minute float64) int64 {
	s := math.Round(minute * 60)
	if math.Abs(minute*60-s) > 0.01 {
		v.fault("0: %s is at %.6f min, no whole second", what, minute)
	}
	return int64(s)
}

func (v *verifier) calendar() {
	length := exact.Int(int64(v.lesson.End - v.lesson.Start))
	deadline, at := length, exact.Number{}
	for _, ph := range v.lesson.Phases {
		if ph.Place == fit.AtEnd {
			deadline = deadline.Sub(ph.Minutes)
		}
	}
	v.deadline = down(deadline)
	until := deadline
	for _, ph := range v.lesson.Phases {
		if ph.Place != fit.AtEnd {
			continue
		}
		if !ph.Waits {
			break
		}
		until = until.Add(ph.Minutes)
	}
	v.waits = down(until)
	for _, ph := range v.lesson.Phases {
		from := at
		switch ph.Place {
		case fit.AtEnd:
			continue
		case fit.AtMinute:
			from = ph.Minute
		case fit.AtStart:
			at = at.Add(ph.Minutes)
		}
		if ph.Minutes.Sign() > 0 {
			v.phases = append(v.phases, [2]int64{down(from), up(from.Add(ph.Minutes))})
		}
	}
	if got := v.seconds("the wait deadline", v.plan.WaitsUntil); got != v.waits {
		v.fault("7: the wait deadline is %d s, the plan says %d s", v.waits, got)
	}
	if got := v.seconds("the deadline", v.plan.Deadline); got != v.deadline {
		v.fault("7: the deadline is %d s, the plan says %d s", v.deadline, got)
	}
}

// collect checks rule 1 and 7 for each step and notes what it keeps.
func (v *verifier) collect() {
	out := map[string]bool{} // groups that conflicts leave out
	for _, c := range v.plan.Conflicts {
		for _, g := range c.Groups {
			out[g] = true
		}
	}
	planned := map[string]fit.GroupPlan{}
	for _, g := range v.plan.Groups {
		if _, twice := planned[g.ID]; twice {
			v.fault("0: group %s is planned twice", g.ID)
		}
		planned[g.ID] = g
	}
	for _, g := range v.lesson.Groups {
		gp, ok := planned[g.ID]
		delete(planned, g.ID)
		if ok == out[g.ID] {
			v.fault("0: group %s: in the plan %t, in a conflict %t", g.ID, ok, out[g.ID])
		}
		if !ok {
			continue
		}
		finish := int64(0)
		count := 0
		for _, sp := range gp.Steps {
			step, found := v.find(g, sp.Dish, sp.Step)
			key := [3]string{g.ID, sp.Dish, sp.Step}
			if _, twice := v.steps[key]; !found || twice {
				v.fault("0: %v is not to be done, or is done twice", key)
				continue
			}
			v.steps[key] = sp
			if r, ok := v.begun(g, step, sp); ok {
				v.record(g, step, sp, r)
			} else {
				v.step(g, step, sp)
			}
			finish = max(finish, int64(math.Round(sp.End*60)))
		}
		for _, d := range v.lesson.Dishes {
			if g.Dishes == nil || slices.Contains(g.Dishes, d.ID) {
				count += len(d.Steps)
			}
		}
		for _, r := range v.lesson.Progress {
			if r.Group == g.ID && r.Skipped {
				count--
				if _, there := v.steps[[3]string{r.Group, r.Dish, r.Step}]; there {
					v.fault("0: %s skips %s and has it in the plan", g.ID, r.Step)
				}
			}
		}
		if count != len(gp.Steps) {
			v.fault("0: group %s has %d steps to do and does %d", g.ID, count, len(gp.Steps))
		}
		if finish != int64(math.Round(gp.Finish*60)) {
			v.fault("0: group %s finishes at %d s, the plan says %.4f min", g.ID, finish, gp.Finish)
		}
	}
	for id := range planned {
		v.fault("0: there is no group %s", id)
	}
}

// hands checks which cooks do what, where the plan says so.
func (v *verifier) hands() {
	said := false
	for _, sp := range v.steps {
		said = said || len(sp.Hands) > 0
	}
	for _, g := range v.lesson.Groups {
		at := map[int][]stretch{}
		for key, sp := range v.steps {
			if key[0] != g.ID || !said {
				continue
			}
			who := fmt.Sprintf("%s/%s/%s", key[0], key[1], key[2])
			if len(sp.Hands) != sp.Cooks {
				v.fault("2: %s has %d cooks and names %d", who, sp.Cooks, len(sp.Hands))
			}
			for i, cook := range sp.Hands {
				if cook < 1 || cook > g.Cooks || slices.Contains(sp.Hands[:i], cook) {
					v.fault("2: %s names cook %d of %d, or names one twice", who, cook, g.Cooks)
				}
				at[cook] = append(at[cook], stretch{who, int64(math.Round(sp.Start * 60)), int64(math.Round(sp.WorkEnd * 60)), 1, false})
			}
		}
		for cook, list := range at {
			v.capacity("2", fmt.Sprintf("%s: cook %d", g.ID, cook), list, 1)
		}
	}
}

func (v *verifier) find(g fit.Group, dish, step string) (fit.Step, bool) {
	if g.Dishes != nil && !slices.Contains(g.Dishes, dish) {
		return fit.Step{}, false
	}
	for _, d := range v.lesson.Dishes {
		for _, s := range d.Steps {
			if d.ID == dish && s.ID == step {
				return s, true
			}
		}
	}
	return fit.Step{}, false
}

// work returns the length of the work part as the contract defines it, in
// seconds, computed with big.Rat directly.
func work(g fit.Group, s fit.Step, cooks int) int64 {
	minutes, _ := new(big.Rat).SetString(s.Work.String())
	load, _ := new(big.Rat).SetString(s.Load.String())
	pace, _ := new(big.Rat).SetString(g.Pace.String())
	if s.Shareable && cooks > 1 {
		minutes.Quo(minutes, new(big.Rat).Add(big.NewRat(1, 1), big.NewRat(int64(8*(cooks-1)), 10)))
	}
	loads := 0
	if s.PerLoad > 0 {
		loads = int(math.Ceil(float64(s.Pieces) / float64(s.PerLoad)))
	}
	minutes.Add(minutes, load.Mul(load, big.NewRat(int64(loads), 1)))
	if s.Adult != fit.Does {
		minutes.Mul(minutes, pace)
	}
	minutes.Mul(minutes, big.NewRat(60, 1))
	n := new(big.Int).Div(minutes.Num(), minutes.Denom())
	if !minutes.IsInt() {
		n.Add(n, big.NewInt(1))
	}
	return n.Int64()
}

func (v *verifier) step(g fit.Group, s fit.Step, sp fit.StepPlan) {
	who := fmt.Sprintf("%s/%s/%s", g.ID, sp.Dish, sp.Step)
	start, workEnd, end := v.seconds(who, sp.Start), v.seconds(who, sp.WorkEnd), v.seconds(who, sp.End)
	if start < v.now {
		v.fault("1: %s starts at %d s, before the door or before now", who, start)
	}
	if want := work(g, s, max(sp.Cooks, 1)); workEnd-start != want {
		v.fault("1: the work of %s takes %d s, not %d s", who, want, workEnd-start)
	}
	if want := up(s.Wait); end-workEnd != want {
		v.fault("1: the wait of %s takes %d s, not %d s", who, want, end-workEnd)
	}
	switch {
	case workEnd == start || s.Adult == fit.Does:
		if sp.Cooks != 0 {
			v.fault("2: %s has %d cooks and needs none", who, sp.Cooks)
		}
	case s.Shareable && (sp.Cooks < 1 || sp.Cooks > g.Cooks), !s.Shareable && sp.Cooks != s.Cooks:
		v.fault("2: %s has %d cooks", who, sp.Cooks)
	}
	if workEnd > start {
		v.cooks[g.ID] = append(v.cooks[g.ID], stretch{who, start, workEnd, sp.Cooks, false})
		if s.Adult == fit.Does || s.Adult == fit.Watches {
			v.adults = append(v.adults, stretch{who, start, workEnd, 1, false})
		}
		for _, ph := range v.phases {
			if start < ph[1] && ph[0] < workEnd {
				v.fault("7: the work of %s meets a phase (%d–%d s)", who, ph[0], ph[1])
			}
		}
	}
	if len(sp.Units) != len(s.Uses) {
		v.fault("4: %s uses %d things and has %d units", who, len(s.Uses), len(sp.Units))
		return
	}
	if late := v.seconds(who, sp.LatestStart); late < start {
		v.fault("0: %s could start at %d s at the latest, and starts at %d s", who, late, start)
	}
	v.occupy(g, s, sp, who, start, workEnd, end, false)
}

// occupy notes the units that a step is in.
func (v *verifier) occupy(g fit.Group, s fit.Step, sp fit.StepPlan, who string, start, workEnd, end int64, begun bool) {
	for i, u := range s.Uses {
		if sp.Units[i].Equipment != u.Equipment {
			v.fault("4: use %d of %s is of %s", i, who, sp.Units[i].Equipment)
		}
		o := occupant{stretch: stretch{who, start, end, u.Places, begun}, owner: who}
		if u.During == fit.WorkPart {
			o.to = workEnd
		}
		if u.During == fit.WaitPart {
			o.from = workEnd
		}
		if s.KeepShut && u.During != fit.WorkPart {
			o.shut = [2]int64{workEnd, end}
		}
		if u.Temperature != nil {
			o.temperature = u.Temperature.String()
		}
		key := [3]string{u.Equipment, sp.Units[i].Unit, ""}
		for _, e := range v.lesson.Equipment {
			if e.ID == u.Equipment && e.PerStation {
				key[2] = g.ID
			}
		}
		v.units[key] = append(v.units[key], o)
	}
}

func (v *verifier) gaps() {
	for key, sp := range v.steps {
		if v.hasBegun(key) {
			continue
		}
		var group fit.Group
		for _, g := range v.lesson.Groups {
			if g.ID == key[0] {
				group = g
			}
		}
		step, _ := v.find(group, key[1], key[2])
		for _, a := range step.After {
			other := [3]string{key[0], key[1], a.Step}
			if a.Dish != "" {
				other[1] = a.Dish
			}
			before, ok := v.steps[other]
			if !ok {
				continue // a dish that this group does not make
			}
			gap := v.seconds("a start", sp.Start) - int64(math.Ceil(before.End*60-0.01))
			if gap < up(a.MinGap) {
				v.fault("3: %v comes %d s after %v, at least %d s are needed", key, gap, other, up(a.MinGap))
			}
			if a.MaxGap != nil && gap > down(*a.MaxGap) && !v.hasBegun(other) {
				v.fault("3: %v comes %d s after %v, at most %d s are allowed", key, gap, other, down(*a.MaxGap))
			}
		}
	}
}

func (v *verifier) capacity(rule, what string, list []stretch, most int) {
	for _, at := range list {
		used, bound := 0, false
		for _, o := range list {
			if o.from <= at.from && at.from < o.to {
				used += o.amount
				bound = bound || !o.begun
			}
		}
		if used > most && bound {
			v.fault("%s: %s: %d in use at %d s, there are %d (%s)", rule, what, used, at.from, most, at.who)
		}
	}
}

func (v *verifier) unit(key [3]string, list []occupant) {
	places, ready, reheat, known, hot := 0, int64(0), int64(0), false, false
	for _, e := range v.lesson.Equipment {
		for _, u := range e.Units {
			if e.ID == key[0] && u.Name == key[1] {
				places, known, hot = u.Places, true, e.Temperature
				ready, reheat = up(e.OnAt.Add(e.Preheat)), up(e.Reheat)
			}
		}
	}
	if !known {
		v.fault("4: there is no unit %v", key)
		return
	}
	var stretches []stretch
	for _, o := range list {
		stretches = append(stretches, o.stretch)
	}
	v.capacity("4", fmt.Sprint(key), stretches, places)
	v.outages(key, list)
	for _, a := range list {
		if hot && a.from < ready && !a.begun {
			v.fault("5: %s enters %v at %d s, it is hot at %d s", a.who, key, a.from, ready)
		}
		for _, b := range list {
			if a.owner == b.owner || a.from == a.to || b.from == b.to || a.begun && b.begun {
				continue // what is held for no time disturbs nobody
			}
			if hot && a.temperature != b.temperature && a.from <= b.from && b.from < a.to+reheat {
				v.fault("5: %s (%s °C) enters %v at %d s; %s (%s °C) leaves at %d s", b.who, b.temperature, key, b.from, a.who, a.temperature, a.to)
			}
			for _, moment := range []int64{b.from, b.to} {
				if a.shut[0] < moment && moment < a.shut[1] {
					v.fault("6: %s opens %v at %d s while %s must stay shut (%d–%d s)", b.who, key, moment, a.who, a.shut[0], a.shut[1])
				}
			}
		}
	}
}

func (v *verifier) verdict() {
	finish, over := int64(0), int64(math.MinInt32) // by which the worse of the deadlines is passed
	for _, sp := range v.steps {
		end, workEnd := int64(math.Ceil(sp.End*60-0.01)), int64(math.Ceil(sp.WorkEnd*60-0.01))
		finish, over = max(finish, end), max(over, end-v.waits)
		if sp.WorkEnd > sp.Start {
			over = max(over, workEnd-v.deadline)
		}
	}
	if len(v.steps) == 0 {
		over = -v.waits
	}
	p := v.plan
	if got := int64(math.Ceil(p.Finish*60 - 0.01)); got != finish {
		v.fault("8: the last group finishes at %d s, the plan says %d s", finish, got)
	}
	if want := over <= 0 && len(p.Conflicts) == 0; p.Fits != want {
		v.fault("8: fits is %t", p.Fits)
	}
	if len(p.Groups) > 0 {
		if v.seconds("the slack", p.Slack) != max(0, -over) || v.seconds("the overrun", p.Overrun) != max(0, over) {
			v.fault("8: slack %.4f and overrun %.4f where it is over by %d s", p.Slack, p.Overrun, over)
		}
	}
	if v.seconds("the bound", p.LowerBound) > finish {
		v.fault("0: the bound of %.4f min is over the finish of %d s", p.LowerBound, finish)
	}
}

// pins checks what the teacher has decided: nothing before its moment, and in
// the units named. A moment to begin by may be missed, if the plan says so.
func (v *verifier) pins() {
	late := map[[3]string]bool{}
	for _, p := range v.plan.LatePins {
		late[[3]string{p.Group, p.Dish, p.Step}] = true
	}
	for _, g := range v.lesson.Groups {
		for _, p := range g.Pins {
			key := [3]string{g.ID, p.Dish, p.Step}
			sp, ok := v.steps[key]
			if !ok || v.hasBegun(key) {
				continue
			}
			start := v.seconds("a start", sp.Start)
			if p.NotBefore != nil && start < up(*p.NotBefore) {
				v.fault("9: %v starts at %d s, it is pinned to %d s or later", key, start, up(*p.NotBefore))
			}
			if p.BeginBy != nil && (start > down(*p.BeginBy)) != late[key] {
				v.fault("9: %v starts at %d s, was to begin by %d s, and the plan calls it late: %t", key, start, down(*p.BeginBy), late[key])
			}
			for _, u := range sp.Units {
				for _, e := range v.lesson.Equipment {
					if e.ID == u.Equipment && !slices.Contains(p.Units, u.Unit) &&
						slices.ContainsFunc(e.Units, func(o fit.Unit) bool { return slices.Contains(p.Units, o.Name) }) {
						v.fault("9: %v is in %s, it is pinned to %v", key, u.Unit, p.Units)
					}
				}
			}
		}
	}
}
