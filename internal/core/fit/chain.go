package fit

import "slices"

// A Link is one step of the longest chain: what it waited for came just
// before it in the chain, and its end is what the next one waited for.
type Link struct {
	Group, Dish, Step string
	Start, End        float64 // minutes from the door
	// After says what ties it to the link before: "rule" for a step before it
	// in the recipe, "cooks", "adults", the id of an equipment, or "phase" where
	// a whole-class phase came between them; for the
	// first link "door", "phase", "pin", "now", "begun" for what had begun by
	// then, or the id of an equipment that heats up.
	After string
}

// longestChain follows the plan back from the task that ends last: each link
// is the one that its successor waited for until the last second.
func (o *order) longestChain() []Link {
	last, end := -1, -1
	for _, n := range o.placed {
		if e := o.jobs[n].end(); e > end {
			last, end = n, e
		}
	}
	var chain []Link
	for n := last; n >= 0 && len(chain) <= len(o.placed); {
		before, why := o.waitedFor(n)
		t := &o.tasks[n]
		d := o.lesson.Dishes[t.dish]
		chain = append(chain, Link{
			Group: o.lesson.Groups[t.group].ID, Dish: d.ID, Step: d.Steps[t.step].ID,
			Start: minutes(o.jobs[n].start), End: minutes(o.jobs[n].end()), After: why,
		})
		n = before
	}
	slices.Reverse(chain)
	return chain
}

// waitedFor returns the task whose moment comes last among those that n is
// tied to, and what ties them; −1 where n waits for nobody.
func (o *order) waitedFor(n int) (before int, why string) {
	j := &o.jobs[n]
	if o.tasks[n].begun {
		return -1, "begun"
	}
	before, why = -1, "door"
	latest := -1
	if ready := o.readyAt(n, j.work); ready > 0 {
		latest = ready
		why = "pin"
		if ready > o.floor[n] {
			why = o.heating(n)
		} else if ready == o.now {
			why = "now"
		} else if ready != o.tasks[n].notBefore {
			why = "adults"
		}
	}
	for _, k := range o.into[n] {
		tie := &o.ties[k]
		moment := o.jobs[tie.a].start + o.jobs[tie.a].offset(tie.from) + tie.lag - j.offset(tie.to)
		if tie.to == atEnd || moment <= latest {
			continue
		}
		latest, before = moment, tie.a
		switch tie.cause {
		case byRule:
			why = "rule"
		case byCook:
			why = "cooks"
		case byAdult:
			why = "adults"
		case byUnit:
			why = o.lesson.Equipment[o.units[tie.unit].equipment].ID
		}
	}
	if before < 0 && why == "door" && j.start > 0 || before >= 0 && o.workStart(latest, j.work) > latest {
		why = "phase"
	}
	return before, why
}

// heating returns the equipment that is ready last of those the task uses.
func (o *order) heating(n int) string {
	latest, id := -1, ""
	for i, u := range o.jobs[n].units {
		enter, _ := o.tasks[n].uses[i].span(0, o.jobs[n].work, o.jobs[n].wait)
		if r := o.units[u].opens(o.jobs[n].start+enter) - enter; r > latest {
			latest, id = r, o.lesson.Equipment[o.units[u].equipment].ID
		}
	}
	return id
}
