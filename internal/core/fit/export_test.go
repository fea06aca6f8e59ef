package fit

import "math/rand/v2"

// A PlayedStep is a step of one simulated lesson, in seconds.
type PlayedStep struct {
	Group, Cooks        int
	Step                Step
	Start, WorkEnd, End float64
	Units               []int
}

// Play plans a lesson and simulates it once.
func Play(l Lesson, seed uint64) (steps []PlayedStep, units []Unit) {
	p := compile(l)
	templates := p.templates()
	for g := range p.byGroup {
		if templates[g].impossible() {
			return nil, nil
		}
	}
	all := make([]int, len(p.byGroup))
	for g := range all {
		all[g] = g
	}
	o := search(p, templates, p.costBound(all), 2000, 0).order()
	r := o.newRun()
	r.draw(o.laws(), rand.New(rand.NewPCG(seed, 3)))
	r.play()
	for _, n := range o.placed {
		t := &o.tasks[n]
		steps = append(steps, PlayedStep{
			Group: t.group, Cooks: o.jobs[n].cooks, Step: l.Dishes[t.dish].Steps[t.step],
			Start: r.times[n][atStart], WorkEnd: r.times[n][atWorkEnd], End: r.times[n][atEnd], Units: o.jobs[n].units,
		})
	}
	for _, u := range o.units {
		units = append(units, l.Equipment[u.equipment].Units[u.index])
	}
	return steps, units
}
