package verify

import (
	"math"
	"slices"

	"freshapron/internal/core/fit"
)

// hasBegun reports whether a step of the plan had begun by now, and stays.
func (v *verifier) hasBegun(key [3]string) bool {
	for _, g := range v.lesson.Groups {
		if g.ID != key[0] {
			continue
		}
		if step, found := v.find(g, key[1], key[2]); found {
			_, begun := v.begun(g, step, v.steps[key])
			return begun
		}
	}
	return false
}

// begun returns the record of a step that has begun; false where there is
// none, or where its unit fails it, so that it begins anew.
func (v *verifier) begun(g fit.Group, s fit.Step, sp fit.StepPlan) (fit.Progress, bool) {
	r, ok := v.records[[3]string{g.ID, sp.Dish, sp.Step}]
	return r, ok && !r.Skipped && !v.failed(g, s, r)
}

// taken returns the times that a step which has begun is taken to have.
func (v *verifier) taken(g fit.Group, s fit.Step, r fit.Progress) (start, workEnd, end float64) {
	start = r.Start.Float() * 60
	cooks := 1
	if r.Cooks != nil {
		cooks = max(1, *r.Cooks)
	}
	length := float64(work(g, s, cooks))
	switch {
	case r.WorkEnd != nil:
		workEnd = r.WorkEnd.Float() * 60
	case length == 0:
		workEnd = start
	default:
		at := start
		for second := length; second > 0; {
			next := at + second
			paused := false
			for _, ph := range v.phases {
				from, to := float64(ph[0]), float64(ph[1])
				if from < next && at < to {
					second -= max(0, from-at)
					at, paused = to, true
					break
				}
			}
			if !paused {
				at, second = next, 0
			}
		}
		workEnd = max(at, float64(v.now))
	}
	end = max(workEnd+float64(up(s.Wait)), float64(v.now))
	if r.End != nil {
		end = r.End.Float() * 60
	}
	return start, workEnd, end
}

// record checks that what has begun stands in the plan as it was, or goes on
// as it must.
func (v *verifier) record(g fit.Group, s fit.Step, sp fit.StepPlan, r fit.Progress) {
	who := g.ID + "/" + sp.Dish + "/" + sp.Step
	start, workEnd, end := v.taken(g, s, r)
	near := func(what string, minute, second float64) {
		if math.Abs(minute*60-second) > 1.01 {
			v.fault("0: %s of %s is at %.2f s, recorded or expected at %.2f s", what, who, minute*60, second)
		}
	}
	near("the start", sp.Start, start)
	near("the end", sp.End, end)
	if r.End == nil || r.WorkEnd != nil {
		near("the end of work", sp.WorkEnd, workEnd)
	}
	near("the last start", sp.LatestStart, start)
	if sp.WorkEnd < sp.Start || sp.End < sp.WorkEnd-1.0/60 {
		v.fault("0: %s runs backwards", who)
	}
	if r.Cooks != nil && sp.Cooks != *r.Cooks && (sp.WorkEnd > sp.Start || r.End == nil && s.Work.Sign() > 0) {
		v.fault("0: %s has %d cooks, recorded are %d", who, sp.Cooks, *r.Cooks)
	}
	if r.Hands != nil && !slices.Equal(r.Hands, sp.Hands) {
		v.fault("0: %s has the hands %v, recorded are %v", who, sp.Hands, r.Hands)
	}
	if r.Units != nil && !slices.Equal(r.Units, sp.Units) {
		v.fault("0: %s is in %v, recorded is %v", who, sp.Units, r.Units)
		return
	}
	from, until, to := int64(math.Round(sp.Start*60)), int64(math.Round(sp.WorkEnd*60)), int64(math.Round(sp.End*60))
	if until > v.now {
		v.cooks[g.ID] = append(v.cooks[g.ID], stretch{who, from, until, sp.Cooks, true})
		if s.Adult == fit.Does || s.Adult == fit.Watches {
			v.adults = append(v.adults, stretch{who, from, until, 1, true})
		}
	}
	if len(sp.Units) == len(s.Uses) {
		v.occupy(g, s, sp, who, from, until, to, true)
	}
}

// failed reports whether a unit of a step under way is out before it ends.
func (v *verifier) failed(g fit.Group, s fit.Step, r fit.Progress) bool {
	if r.End != nil {
		return false
	}
	start, workEnd, end := v.taken(g, s, r)
	for i, u := range r.Units {
		enter, leave := start, end
		switch s.Uses[i].During {
		case fit.WorkPart:
			leave = workEnd
		case fit.WaitPart:
			enter = workEnd
		}
		for _, o := range v.lesson.Out {
			if o.Equipment != u.Equipment || o.Unit != u.Unit {
				continue
			}
			from, to := float64(max(v.now, down(o.From))), math.Inf(1)
			if o.To != nil {
				to = float64(up(*o.To))
			}
			if from < to && enter < to && from < math.Ceil(leave-0.01) && (!o.Usable || math.Floor(enter) > from) {
				return true
			}
		}
	}
	return false
}

// outages checks that nothing new is in a unit that is out.
func (v *verifier) outages(key [3]string, list []occupant) {
	for _, out := range v.lesson.Out {
		if out.Equipment != key[0] || out.Unit != key[1] {
			continue
		}
		from, to := down(out.From), int64(math.MaxInt64)
		if out.To != nil {
			to = up(*out.To)
		}
		for _, o := range list {
			if !o.begun && o.from < to && from < o.to && !(out.Usable && o.from < from) {
				v.fault("4: %s is in %v from %d s to %d s, which is out from %d s", o.who, key, o.from, o.to, from)
			}
		}
	}
}

// late checks what the plan says of steps that miss a gap to something that
// had begun: each is named, by how much, and could not start earlier with all
// others where they are.
func (v *verifier) late() {
	said := map[[3]string]float64{}
	for _, l := range v.plan.Late {
		said[[3]string{l.Group, l.Dish, l.Step}] = l.Minutes * 60
	}
	for key, sp := range v.steps {
		by := 0.0
		g, _ := v.lesson.Group(key[0])
		step, _ := v.find(g, key[1], key[2])
		begun := v.hasBegun(key)
		for _, a := range step.After {
			other := [3]string{key[0], key[1], a.Step}
			if a.Dish != "" {
				other[1] = a.Dish
			}
			if before, ok := v.steps[other]; ok && !begun && a.MaxGap != nil && v.hasBegun(other) {
				by = max(by, sp.Start*60-math.Ceil(before.End*60-0.01)-float64(down(*a.MaxGap)))
			}
		}
		if by > 0.01 && v.couldBeSooner(key, sp) {
			v.fault("3: %v is late and could start sooner", key)
		}
		r, known := v.records[key]
		anew := known && !begun && !r.Skipped
		if anew {
			_, _, end := v.taken(g, step, r)
			by = max(by, sp.End*60-math.Ceil(end-0.01))
		}
		got, named := said[key]
		if named != (by > 0.01 || anew) || named && math.Abs(got-by) > 1.01 {
			v.fault("3: %v is late by %.0f s, the plan says %t, %.0f s", key, by, named, got)
		}
	}
}

// couldBeSooner reports whether the step alone could be moved to an earlier
// moment, with any cooks and units. Wherever it can, it can at a moment at
// which something else begins or ends, some lag and part of it aside.
func (v *verifier) couldBeSooner(key [3]string, sp fit.StepPlan) bool {
	g, _ := v.lesson.Group(key[0])
	step, _ := v.find(g, key[1], key[2])
	start := v.seconds("a start", sp.Start)
	events := map[int64]bool{v.now: true}
	for _, o := range v.steps {
		for _, m := range []float64{o.Start, o.WorkEnd, o.End} {
			events[int64(math.Ceil(m*60-0.01))] = true
		}
	}
	for _, ph := range v.phases {
		events[ph[1]] = true
	}
	for _, a := range v.lesson.Away {
		events[up(a.From.Add(a.Minutes))] = true
	}
	for _, o := range v.lesson.Out {
		if o.To != nil {
			events[up(*o.To)] = true
		}
	}
	lags := []int64{0}
	for _, e := range v.lesson.Equipment {
		events[up(e.OnAt.Add(e.Preheat))] = true
		lags = append(lags, up(e.Reheat))
	}
	for _, a := range step.After {
		lags = append(lags, up(a.MinGap))
	}
	most := max(1, step.Cooks)
	if step.Shareable {
		most = g.Cooks
	}
	for cooks := max(1, step.Cooks); cooks <= most; cooks++ {
		length := work(g, step, cooks)
		tried := map[int64]bool{}
		for event := range events {
			for _, lag := range lags {
				for _, part := range []int64{0, length, length + up(step.Wait)} {
					t := event + lag - part
					if t < v.now || t >= start || tried[t] {
						continue
					}
					tried[t] = true
					if v.couldStart(key, sp, step, t, cooks, length) {
						return true
					}
				}
			}
		}
	}
	return false
}

func (v *verifier) couldStart(key [3]string, sp fit.StepPlan, s fit.Step, at int64, cooks int, length int64) bool {
	moved := sp
	moved.Start = float64(at) / 60
	moved.WorkEnd = float64(at+length) / 60
	moved.End = float64(at+length+up(s.Wait)) / 60
	moved.LatestStart, moved.Hands = moved.Start, nil
	if sp.Cooks > 0 {
		moved.Cooks = cooks
	}
	var units func(i int, chosen []fit.UnitPlan) bool
	units = func(i int, chosen []fit.UnitPlan) bool {
		if i < len(s.Uses) {
			for _, e := range v.lesson.Equipment {
				for _, u := range e.Units {
					if e.ID == s.Uses[i].Equipment && units(i+1, append(slices.Clone(chosen), fit.UnitPlan{Equipment: e.ID, Unit: u.Name})) {
						return true
					}
				}
			}
			return false
		}
		moved.Units = chosen
		other := *v.plan
		other.Groups = nil
		for _, gp := range v.plan.Groups {
			steps := slices.Clone(gp.Steps)
			finish := 0.0
			for i := range steps {
				steps[i].Hands = nil
				if gp.ID == key[0] && steps[i].Dish == key[1] && steps[i].Step == key[2] {
					steps[i] = moved
				}
				finish = max(finish, steps[i].End)
			}
			other.Groups = append(other.Groups, fit.GroupPlan{ID: gp.ID, Finish: finish, Steps: steps})
		}
		lesson := v.lesson
		lesson.Progress = slices.Clone(lesson.Progress)
		for i := range lesson.Progress {
			lesson.Progress[i].Hands = nil
		}
		return len(rules(lesson, &other).faults) == 0
	}
	return units(0, nil)
}
