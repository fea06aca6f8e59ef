package reading

import (
	"slices"
	"strconv"
	"strings"

	"freshapron/internal/core/exact"
	"freshapron/internal/core/fit"
	"freshapron/internal/core/pattern"
	"freshapron/internal/core/recipe"
)

// finish makes the step of a draft.
func (r *reader) finish(d *draft) Step {
	s := d.Step
	s.Kind = fit.Prepare
	if s.Adult == "" {
		s.Adult = fit.NoAdult
	}
	zero := exact.Number{}
	var works, waits float64
	longest := exact.Frac(-1, 1)
	best := -1.0
	seen := map[string]bool{}
	s.Work.From, s.Wait.From = recipe.Typical, recipe.Typical
	for _, a := range d.actions {
		var said exact.Number
		if a.loads != nil {
			s.Loads = a.loads
		}
		for _, span := range a.said {
			if a.loads != nil && !a.loads.NoHands {
				break
			}
			part := &s.Work
			if a.idle {
				part = &s.Wait
			}
			times := exact.Int(1)
			if a.loads != nil && a.loads.NoHands && a.loads.PerLoad > 0 && a.loads.Pieces > 0 {
				times = exact.Int(int64((a.loads.Pieces + a.loads.PerLoad - 1) / a.loads.PerLoad))
			}
			part.Least, part.Most, part.From = part.Least.Add(span.Least.Mul(times)), part.Most.Add(span.Most.Mul(times)), recipe.Said
			said = said.Add(span.Most)
		}
		if !seen[a.does.word] && a.known && !(len(a.said) > 0 && !a.idle) {
			works += a.does.work
			seen[a.does.word] = true
		}
		if a.idle && len(a.said) == 0 && a.does.wait > waits {
			waits = a.does.wait
		}
		weight := a.does.work + a.does.wait
		if a.does.on != "" {
			weight += 20
		}
		if a.known && (longest.Less(said) && said.Cmp(zero) > 0 || said.Cmp(zero) == 0 && longest.Cmp(zero) <= 0 && weight > best) {
			s.Kind, best = a.does.kind, weight
			if said.Cmp(zero) > 0 {
				longest = said
			}
		}
	}
	if s.Kind == fit.Clean {
		works = min(works, verbs["wash up"].work)
	}
	if s.Work.From == recipe.Typical {
		n := typical(min(works, 12))
		s.Work.Least, s.Work.Most = n, n
	}
	switch {
	case s.Wait.From == recipe.Typical && waits > 0:
		n := typical(waits)
		s.Wait.Least, s.Wait.Most = n, n
	case s.Wait.From == recipe.Typical:
		s.Wait.From = ""
	}
	for _, a := range d.actions {
		for _, long := range a.tooLong {
			s.Asks = append(s.Asks, "“"+long+"” is longer than a lesson can hold: is it done before?")
		}
	}
	if len(s.Asks) > 0 && s.Wait.From == recipe.Typical {
		s.Wait = Minutes{}
	}
	if d.asks != "" {
		s.Asks = append(s.Asks, d.asks)
	}
	for _, a := range d.actions {
		if a.asks != "" {
			s.Asks = append(s.Asks, a.asks)
		}
	}
	if m := bareFigure.FindStringSubmatch(s.Text); m != nil && !d.said && !strings.Contains(m[0], " at ") { // "cook at 180" is no time
		s.Asks = append(s.Asks, "“"+strings.TrimSpace(m[0])+"”: "+m[1]+" minutes, or something else?")
		s.suppose(m[1])
	}
	r.equip(&s, d)
	return s
}

// suppose takes a bare figure, or one to another, for the minutes that nobody gives, where it can be.
func (s *Step) suppose(figure string) {
	least, most, ok := strings.Cut(strings.ReplaceAll(figure, "–", "-"), "-")
	from, _ := strconv.Atoi(strings.TrimSpace(least))
	to := from
	if ok {
		to, _ = strconv.Atoi(strings.TrimSpace(most))
	}
	if from < leastSupposed || to < from || to > mostSupposed {
		return
	}
	minutes := Minutes{Least: exact.Int(int64(from)), Most: exact.Int(int64(to)), From: recipe.Typical}
	switch {
	case s.Wait.From == recipe.Typical:
		s.Wait = minutes
	case s.Wait.From == "" && s.Work.From == recipe.Typical:
		s.Work = minutes
	}
}

// Between these a bare figure is taken for minutes.
const leastSupposed, mostSupposed = 2, 120

// bareFigure is a time without its unit: "bake 25", "bake at 200 for 15".
var bareFigure = pattern.Must(`(?i)\b(?:oven for|at \d{3}(?: ?°? ?[CF]\b)?(?: fan)? for|boiling (?:salted )?water\b[^.\d]{0,20}\bfor|bake|cook|boil|simmer|fry|roast|chill|prove|rest|rise|grill|knead|give|leave(?: (?:it|on|for|them))?|sit|stand|cool|soak|marinate|whisk|beat|steam|sweat|soften|toast)\b[^.\d]{0,14}\b(\d{1,3}(?:\s?[-–]\s?\d{1,3})?)\s*(?:$|[.,;)]|before\b|more\b|whistles?\b|(?:with )?lid\b|(?:un)?covered\b|until\b|till?\b|(?:then|and|drain|mash|cool|stir|add|turn|serve)\b)`)

// typical makes a number of a table's minutes, in halves.
func typical(f float64) exact.Number { return exact.Frac(int64(2*f+0.5), 2) }

// equip gives a step what it stands on or in.
func (r *reader) equip(s *Step, d *draft) {
	switch {
	case d.on == "" || d.preheat:
		return
	case len(d.heats) > 0:
		s.Uses = d.heats
		if d.heats[0].Celsius == nil {
			s.Asks = append(s.Asks, "how hot the oven is at first")
		}
		return
	}
	u := Use{Equipment: d.on}
	if d.on == "oven" {
		for _, a := range d.actions {
			for n, h := range a.heats {
				v := h.Celsius
				if u.Celsius == nil {
					u.Celsius = &v
					continue
				}
				if n > 0 && len(a.said) > 1 && len(s.Uses) == 0 { // "15 minutes at 220, 45 at 160" in one breath
					s.Uses = append(s.Uses, Use{Equipment: "oven", Celsius: u.Celsius, Minutes: sum(a.said[:1])}, Use{Equipment: "oven", Celsius: &v, Minutes: sum(a.said[1:])})
				}
			}
		}
		if len(s.Uses) > 0 {
			return
		}
		if u.Celsius == nil {
			u.Celsius = r.ovenAt(d)
		}
		if u.Celsius == nil {
			s.Asks = append(s.Asks, "how hot the oven is")
		}
	}
	s.Uses = []Use{u}
}

// lastSet is the last setting of the oven that the method says before a place in a passage; nil
// where there is none.
func (r *reader) lastSet(passage, at int) *exact.Number {
	for n := passage; n >= 0; n-- {
		for _, c := range slices.Backward(r.said[n]) {
			if len(c.heats) > 0 && (n < passage || c.from < at) {
				v := c.heats[len(c.heats)-1].Celsius
				return &v
			}
		}
	}
	return nil
}

// ovenAt is what the oven was last set to before a step, or the one setting
// that the recipe names anywhere; nil where nobody can tell.
func (r *reader) ovenAt(d *draft) *exact.Number {
	if last := r.lastSet(d.passage, d.to); last != nil {
		return last
	}
	var only *exact.Number
	several := false
	for n := range r.prose {
		for _, c := range r.said[n] {
			for _, h := range c.heats {
				v := h.Celsius
				several = several || only != nil && only.Cmp(v) != 0
				only = &v
			}
		}
	}
	if only != nil && !several {
		return only
	}
	return r.oven
}
