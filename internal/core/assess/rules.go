package assess

import (
	"cmp"
	"fmt"
	"math"
	"slices"
	"strings"

	"freshapron/internal/core/fit"
	"freshapron/internal/core/words"
)

// chosen are the dishes that the group makes.
func (c *checker) chosen() []fit.Dish {
	if len(c.Groups) == 0 || len(c.Groups[0].Dishes) == 0 {
		return c.Dishes
	}
	var out []fit.Dish
	for _, d := range c.Dishes {
		if slices.Contains(c.Groups[0].Dishes, d.ID) {
			out = append(out, d)
		}
	}
	return out
}

func (c *checker) missing() {
	asked := map[string]bool{}
	for _, a := range c.out.Asks {
		for _, s := range a.Steps {
			asked[s] = true
		}
	}
	for _, d := range c.chosen() {
		for _, s := range d.Steps {
			if _, ok := c.at[d.ID+"/"+s.ID]; !ok && s.Kind != fit.Clean && !asked[s.ID] {
				c.find("missing", []int{}, s.ID, fmt.Sprintf("%s: no row says “%s”", title(d), s.Label()), fmt.Sprintf("add a row of %.0f min for it", max(1, c.workOf(s))))
			}
		}
	}
}

func title(d fit.Dish) string { return cmp.Or(d.Title, d.ID) }

// before finds what begins before what it needs is done, and what waits too long.
func (c *checker) before() {
	for _, d := range c.chosen() {
		for _, s := range d.Steps {
			sp, ok := c.at[d.ID+"/"+s.ID]
			if !ok {
				continue
			}
			for _, a := range s.After {
				need, ok := c.at[cmp.Or(a.Dish, d.ID)+"/"+a.Step]
				if !ok || need.row == sp.row {
					continue
				}
				least := need.end + a.MinGap.Float()
				of := c.steps[cmp.Or(a.Dish, d.ID)+"/"+a.Step]
				lines := []int{c.line(need), c.line(sp)}
				slices.Sort(lines)
				switch {
				case sp.start < least-slack-quarter*max(0, need.end-need.start):
					c.find("before", lines, s.ID, fmt.Sprintf("“%s” begins at %s, and “%s” is done at %s", s.Label(), c.clock(sp.start), of.Label(), c.clock(least)), "begin it at "+c.clock(least))
				case a.MaxGap != nil && sp.start > need.end+a.MaxGap.Float()+slack:
					c.find("keeps", lines, s.ID, fmt.Sprintf("“%s” waits %.0f min after “%s”, and keeps for %.0f", s.Label(), sp.start-need.end, of.Label(), a.MaxGap.Float()), "begin it by "+c.clock(need.end+a.MaxGap.Float()))
				}
			}
		}
	}
}

// hands finds more hands-on work at a moment than there are cooks. Where a plan says no
// minutes, the next row ends what may be cut short by a quarter.
func (c *checker) hands() {
	for i, a := range c.busy {
		together := []int{c.out.Rows[a.row].Line}
		until := a.to
		for _, b := range c.busy[:i] {
			end := b.to
			if c.out.Rows[b.row].Minutes == 0 {
				end -= quarter * (b.to - b.from)
			}
			if b.row != a.row && end > a.from+slack && b.to > a.from {
				together = append(together, c.out.Rows[b.row].Line)
				until = max(until, b.to)
			}
		}
		if len(together) > c.cooks() {
			slices.Sort(together)
			c.find("hands", together, c.stepOf(a.row), fmt.Sprintf("at %s there is more to do than %s can", c.clock(a.from), words.Plural(c.cooks(), "cook", "cooks")), "begin the later one at "+c.clock(c.free(a)))
		}
	}
}

func (c *checker) stepOf(row int) string {
	if s := c.out.Rows[row].Steps; len(s) > 0 {
		return s[0]
	}
	return ""
}

// free is when what goes on beside some work is over.
func (c *checker) free(a work) float64 {
	end := a.from
	for _, b := range c.busy {
		if b.row != a.row && b.from <= a.from && b.to > end {
			end = b.to
		}
	}
	return end
}

// A held is a use of equipment by a step.
type held struct {
	key      string
	span     span
	use      fit.Use
	from, to float64
}

func (c *checker) uses(equipment string) []held {
	var out []held
	for k, sp := range c.at {
		for _, u := range c.steps[k].Uses {
			if u.Equipment != equipment {
				continue
			}
			h := held{k, sp, u, sp.start, sp.end}
			switch u.During {
			case fit.WorkPart:
				h.to = sp.workEnd
			case fit.WaitPart:
				h.from = sp.workEnd
			}
			if h.to > h.from {
				out = append(out, h)
			}
		}
	}
	slices.SortFunc(out, func(a, b held) int { return cmp.Or(cmp.Compare(a.from, b.from), cmp.Compare(a.key, b.key)) })
	return out
}

// room finds equipment that is used twice at once, and two temperatures in one oven.
func (c *checker) room() {
	for _, e := range c.Equipment {
		places := 0
		for _, u := range e.Units {
			places += max(1, u.Places)
		}
		list := c.uses(e.ID)
		for i, a := range list {
			used := max(1, a.use.Places)
			lines := []int{c.line(a.span)}
			degrees := map[string]bool{temperature(a.use): true}
			for _, b := range list[:i] {
				if b.to > a.from+slack && b.from < a.to {
					used += max(1, b.use.Places)
					lines = append(lines, c.line(b.span))
					degrees[temperature(b.use)] = true
				}
			}
			slices.Sort(lines)
			s := c.steps[a.key]
			switch {
			case used > places:
				c.find("room", slices.Compact(lines), s.ID, fmt.Sprintf("at %s the %s is wanted %d times and there is room for %d", c.clock(a.from), e.ID, used, places), "begin it when the other is done")
			case e.Temperature && len(degrees) > len(e.Units):
				c.find("room", slices.Compact(lines), s.ID, fmt.Sprintf("at %s the oven would have to have two temperatures", c.clock(a.from)), "bake one after the other")
			}
		}
	}
}

func temperature(u fit.Use) string {
	if u.Temperature == nil {
		return ""
	}
	return u.Temperature.String()
}

// heat finds what goes in before it is hot: by the learner's own “oven on”, where there
// is one, else from the beginning; and what has no time to come to another temperature.
func (c *checker) heat() {
	for _, e := range c.Equipment {
		if !e.Temperature {
			continue
		}
		on, onRow := e.OnAt.Float(), -1
		for i, r := range c.out.Rows {
			if r.Means == TurnOn && !isRing(r.What) {
				on, onRow = r.Row.At, i
				break
			}
		}
		list := c.uses(e.ID)
		for i, a := range list {
			hot := on + e.Preheat.Float()
			if a.from < hot-slack {
				lines := []int{c.line(a.span)}
				if onRow >= 0 {
					lines = append(lines, c.out.Rows[onRow].Line)
				}
				slices.Sort(lines)
				says := fmt.Sprintf("it goes in at %s, and the oven is hot at %s", c.clock(a.from), c.clock(hot))
				c.find("heat", slices.Compact(lines), c.steps[a.key].ID, says, "turn it on at "+c.clock(max(0, a.from-e.Preheat.Float())))
				continue
			}
			for _, b := range list[:i] {
				if len(e.Units) == 1 && temperature(a.use) != temperature(b.use) && b.to <= a.from+slack && a.from < b.to+e.Reheat.Float()-slack {
					c.find("heat", []int{c.line(b.span), c.line(a.span)}, c.steps[a.key].ID, fmt.Sprintf("between the two temperatures there are %.0f min, and the oven needs %.0f", a.from-b.to, e.Reheat.Float()), "put it in at "+c.clock(b.to+e.Reheat.Float()))
				}
			}
		}
	}
}

func isRing(what string) bool {
	what = strings.ToLower(what)
	return (strings.Contains(what, "ring") || strings.Contains(what, "hob")) && !strings.Contains(what, "oven")
}

func (c *checker) deadline() float64 {
	end := c.Minutes().Float()
	for _, sp := range c.Spans() {
		if sp.Place == fit.AtEnd {
			end = min(end, sp.From)
		}
	}
	return end
}

func (c *checker) late() {
	for i, r := range c.out.Rows {
		end := r.Row.At
		for _, w := range c.busy {
			if w.row == i {
				end = max(end, w.to)
			}
		}
		for _, id := range r.Steps {
			if sp := c.at[r.DishID+"/"+id]; sp.row == i {
				end = max(end, sp.end)
			}
		}
		if end > c.deadline()+slack {
			c.find("late", []int{r.Line}, c.stepOf(i), fmt.Sprintf("it ends at %s, and everything has to be done by %s", c.clock(end), c.clock(c.deadline())), fmt.Sprintf("begin it %.0f min sooner", math.Ceil(end-c.deadline())))
		}
	}
}

func (c *checker) wash() {
	for _, r := range c.out.Rows {
		if r.Means == WashUp {
			return
		}
	}
	for k := range c.at {
		if c.steps[k].Kind == fit.Clean {
			return
		}
	}
	c.find("wash", []int{}, "", "no row says who washes up, and when", "add a row for washing up, where something bakes by itself")
}

// safe finds raw meat without washing after it, and a probe that the recipe has and the
// plan has not.
func (c *checker) safe() {
	for i, r := range c.out.Rows {
		if !c.raw(r) {
			continue
		}
		washed := r.says(handsWords) || r.says(washWords)
		for _, next := range c.out.Rows[i+1:] {
			if next.Means == TurnOn {
				continue
			}
			washed = washed || c.raw(next) || next.Means == WashHands || next.Means == WashUp || next.says(handsWords)
			break
		}
		if !washed {
			c.find("safe", []int{r.Line}, c.stepOf(i), "after raw meat or fish nobody washes hands and board", "add “wash hands and board with hot soapy water” after it")
			break
		}
	}
	for _, d := range c.chosen() {
		for _, s := range d.Steps {
			if !probeWords.MatchString(s.Label()+" "+s.ID) || slices.ContainsFunc(c.out.Rows, func(r ReadRow) bool { return r.says(probeWords) }) {
				continue
			}
			lines := []int{}
			if sp, ok := c.at[d.ID+"/"+s.ID]; ok {
				lines = append(lines, c.line(sp))
			}
			c.find("safe", lines, s.ID, "the recipe checks the middle with a probe, and the plan does not", "add the probe to the row in which it is cooked")
		}
	}
}

// raw reports whether a row handles raw meat or fish: it names one, or its step does, and
// it is before any heat.
func (c *checker) raw(r ReadRow) bool {
	cold := false
	for _, id := range r.Steps {
		s := c.steps[r.DishID+"/"+id]
		if usesHeat(c.Lesson, s) || s.Kind == fit.Cook || s.Kind == fit.Bake || s.Kind == fit.Serve || s.Kind == fit.Clean {
			return false
		}
		cold = cold || s.Kind == fit.Cut || s.Kind == fit.Prepare || s.Kind == fit.Shape || s.Kind == fit.Mix
	}
	if !cold {
		return false
	}
	if meats.MatchString(r.What) {
		return true
	}
	for _, id := range r.Steps {
		if meats.MatchString(c.steps[r.DishID+"/"+id].Label()) {
			return true
		}
	}
	return false
}

// idleFor, in minutes, is how long nobody minds doing nothing.
const idleFor = 8.0

// idle finds gaps with nothing to do while other work could begin.
func (c *checker) idle() {
	list := slices.Clone(c.busy)
	slices.SortStableFunc(list, func(a, b work) int { return cmp.Compare(a.from, b.from) })
	end, last := math.NaN(), -1
	for _, w := range list {
		if !math.IsNaN(end) && w.from-end > c.out.Idle {
			c.out.Idle = w.from - end
		}
		if !math.IsNaN(end) && w.from-end > idleFor {
			if s, ok := c.couldBegin(end, w.from); ok {
				lines := []int{c.out.Rows[last].Line, c.out.Rows[w.row].Line}
				slices.Sort(lines)
				c.find("idle", lines, s.ID, fmt.Sprintf("from %s to %s there is nothing to do, and “%s” could begin", c.clock(end), c.clock(w.from), s.Label()), fmt.Sprintf("begin “%s” at %s", s.Label(), c.clock(end)))
			}
		}
		if math.IsNaN(end) || w.to > end {
			end, last = w.to, w.row
		}
	}
}

// couldBegin returns a step with work that is planned after a gap and whose needs are
// done when it begins.
func (c *checker) couldBegin(from, until float64) (fit.Step, bool) {
	for _, d := range c.chosen() {
		for _, s := range d.Steps {
			sp, ok := c.at[d.ID+"/"+s.ID]
			if !ok || sp.start < until-slack || c.workOf(s) <= 0 || s.Kind == fit.Serve {
				continue
			}
			ready := true
			for _, a := range s.After {
				need, ok := c.at[cmp.Or(a.Dish, d.ID)+"/"+a.Step]
				ready = ready && (!ok || need.end+a.MinGap.Float() <= from+slack)
			}
			if ready {
				return s, true
			}
		}
	}
	return fit.Step{}, false
}
