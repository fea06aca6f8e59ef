package reading

import (
	"freshapron/internal/core/duration"
	"freshapron/internal/core/exact"
	"freshapron/internal/core/fit"
	"freshapron/internal/core/recipe"
	"regexp"
	"slices"
	"strings"
)

// draft is a step in the making.
type draft struct {
	Step
	passage   int
	from, to  int
	on        string
	actions   []action
	said      bool // a time that is said
	waits     bool
	preheat   bool
	meanwhile bool
	heats     []Use
	within    *exact.Number
	minGap    exact.Number
}

// method cuts the prose into steps.
func (r *reader) method() {
	var list []*draft
	said := make([][]clause, len(r.prose))
	for n, p := range r.prose {
		said[n] = clauses(p)
	}
	r.said = said
	for n, p := range r.prose {
		var cur *draft
		place := ""                  // where something was last done
		slow := false                // it goes on in a slow cooker
		label, ahead := -1, action{} // words that say nothing to do yet
		for _, c := range said[n] {
			a := r.act(c)
			if a.preheat && len(a.heats) > 0 {
				v := a.heats[0].Celsius
				r.oven = &v
			}
			if !a.known && len(a.said) > 0 && cur != nil && !a.turns {
				last := cur.actions[len(cur.actions)-1]
				a.does, a.known = last.does, true // "then 6 minutes on medium"
				a.idle = last.idle || last.does.on == "ring" && r.cooksAlone(a)
				if last.loads != nil && len(last.said) == 0 {
					last.loads.Each = Minutes{a.said[0].Least, a.said[0].Most, recipe.Said}
					a.said = nil
				}
				if !cur.said {
					cur.take(a)
					cur.words(p)
					continue
				}
			}
			if slow = slow || slowCooker.MatchString(a.text); slow && a.does.on == "ring" && len(a.said) > 0 {
				a.does.on, a.idle = "", true
			}
			if cur != nil && !a.opens && a.does.on == "ring" && len(a.said) > 0 && !minding.MatchString(a.text) {
				if last := cur.actions[len(cur.actions)-1]; last.does.word == "cover" || last.does.word == "put the lid on" {
					a.idle = true
				}
			}
			if !a.known && len(a.said) == 0 && cur == nil {
				if label < 0 {
					label = a.from
				}
				ahead.meanwhile = ahead.meanwhile || a.meanwhile
				if a.adult != fit.NoAdult {
					ahead.adult = a.adult
				}
				continue
			}
			if cur != nil && cur.on == "oven" && !cur.preheat && a.does.word == "cook" && !onRing.MatchString(a.text) && len(a.said) > 0 {
				a.does, a.idle = spoken{"bake", a.does.at, verbs["bake"]}, true
			}
			if a.does.word == "cook" && len(a.said) > 0 && (place == "microwave" || place == "grill") && !onRing.MatchString(a.text) {
				a.does, a.idle = spoken{place, a.does.at, verbs[place]}, true // "stir, then cook for another 2 minutes"
			}
			if cur != nil && a.does.word == "cook" && slices.ContainsFunc(cur.actions, func(b action) bool { return b.turns && len(b.heats) > 0 }) {
				a.does, a.idle = spoken{"bake", a.does.at, verbs["bake"]}, true
			}
			if a.does.on != "" {
				place = a.does.on
			}
			switch {
			case cur != nil && cur.turned() && a.does.kind == fit.Prepare && len(a.said) == 0 && !a.opens:
				cur.take(a)
			case cur != nil && a.turns && r.goesOn(cur, a):
				r.turn(cur, a)
			case cur != nil && cur.turned() && a.does.on == "oven" && len(a.said) > 0 && len(a.heats) == 0:
				cur.heats[len(cur.heats)-1].Minutes = sum(a.said)
				cur.take(a)
			case cur != nil && joins(cur, a):
				cur.take(a)
			default:
				if label >= 0 {
					a.from, label, a.meanwhile = label, -1, a.meanwhile || ahead.meanwhile
					if a.adult == fit.NoAdult && ahead.adult != "" {
						a.adult = ahead.adult
					}
				}
				cur = &draft{passage: n, from: a.from, meanwhile: a.meanwhile, preheat: a.preheat}
				cur.take(a)
				list = append(list, cur)
			}
			cur.words(p)
		}
		if cur == nil && label >= 0 { // nothing to do that is known
			cur = &draft{passage: n, from: label}
			for _, c := range said[n] {
				cur.take(r.act(c))
			}
			cur.words(p)
			list = append(list, cur)
		}
	}
	for _, d := range list {
		r.Steps = append(r.Steps, r.finish(d))
	}
	r.order(list)
}

// words takes the lines and the words of a step from its passage.
func (d *draft) words(p passage) {
	d.Lines = p.linesOf(d.from, d.to)
	d.Text = strings.TrimSpace(p.text[d.from:d.to])
}

// goesOn reports whether a change of the oven's heat goes on with a bake.
func (r *reader) goesOn(d *draft, a action) bool {
	return d.on == "oven" && !d.preheat && (len(a.heats) > 0 || len(a.said) > 0 && a.does.on != "ring") && a.does.on != "ring"
}

// turn gives a bake one more setting.
func (r *reader) turn(d *draft, a action) {
	var celsius *exact.Number
	if len(a.heats) > 0 {
		v := a.heats[0].Celsius
		celsius = &v
	}
	if len(d.heats) == 0 {
		first := r.ovenAt(d)
		for _, before := range d.actions {
			if len(before.heats) > 0 {
				v := before.heats[0].Celsius
				first = &v
			}
		}
		d.heats = append(d.heats, Use{Equipment: "oven", Celsius: first, Minutes: middle(d.actions)})
	}
	d.heats = append(d.heats, Use{Equipment: "oven", Celsius: celsius, Minutes: sum(a.said)})
	d.actions = append(d.actions, a)
	d.to = max(d.to, a.to)
}

// turned reports whether the last setting of a bake has no minutes yet.
func (d *draft) turned() bool {
	return len(d.heats) > 0 && d.heats[len(d.heats)-1].Minutes.Sign() == 0
}

func sum(list []duration.Span) exact.Number {
	total := exact.Number{}
	for _, d := range list {
		total = total.Add(d.Least.Add(d.Most).Div(exact.Int(2)))
	}
	return total
}

func middle(list []action) exact.Number {
	total := exact.Number{}
	for _, a := range list {
		if a.idle {
			total = total.Add(sum(a.said))
		}
	}
	return total
}

// take adds an action to a step.
func (d *draft) take(a action) {
	d.actions = append(d.actions, a)
	d.to = max(d.to, a.to)
	d.said = d.said || len(a.said) > 0
	d.waits = d.waits || a.known && a.idle
	if a.does.on != "" {
		d.on = a.does.on
	}
	if a.adult != "" && a.adult != fit.NoAdult && d.Adult != fit.Does {
		d.Adult = a.adult
	}
	if a.within != nil {
		d.within = a.within
	}
	if a.minGap.Sign() > 0 {
		d.minGap = a.minGap
	}
}

// longStep is how many letters a step has before the next sentence begins
// another.
const longStep = 150

// joins reports whether an action belongs to the hands-on stretch before it,
// or to its wait.
func joins(d *draft, a action) bool {
	last := d.actions[len(d.actions)-1]
	switch {
	case a.meanwhile:
		return false
	case !a.known:
		return len(a.said) == 0 || !d.said
	case a.preheat != d.preheat:
		return d.preheat && !a.opens && a.does.kind == fit.Prepare
	case d.Adult != a.adult && (d.Adult == fit.Does || a.adult == fit.Does) && a.opens:
		return false
	case a.opens && d.to-d.from > longStep:
		return false
	case a.does.kind == fit.Serve || a.does.kind == fit.Clean:
		return last.does.kind == a.does.kind
	case d.waits || d.said && len(a.said) > 0:
		return d.waits && !d.said && !a.opens && a.idle && a.does.on == d.on && a.does.kind == last.does.kind ||
			d.waits && !d.said && a.idle && a.does.on == d.on && len(a.said) > 0 && !a.opens
	case d.said:
		return false
	}
	heavy := d.actions[0].does.work >= 3 || len(d.actions) > 2
	switch {
	case a.does.on != "" && a.does.on != d.on && d.on != "":
		return false
	case a.does.on != "" && d.on == "":
		return !heavy || !a.opens && last.does.kind != fit.Cut && last.does.kind != fit.Shape && last.does.word != "knead" && len(d.actions) < 2
	case a.idle:
		return !a.opens || !heavy
	case d.on != "":
		return a.does.kind == fit.Mix || a.does.kind == fit.Cook || a.does.kind == fit.Prepare && !outOfOven.MatchString(a.text)
	}
	first := d.actions[0].does.kind
	if first == fit.Prepare && len(d.actions) > 1 {
		first = d.actions[1].does.kind
	}
	loose := func(k fit.Kind) bool { return k == fit.Prepare || k == fit.Mix || k == fit.Weigh }
	switch {
	case a.does.kind == first, a.does.kind == fit.Prepare:
		return true
	case loose(first) && loose(a.does.kind):
		return true
	case first == fit.Prepare && d.actions[len(d.actions)-1].does.kind == fit.Prepare:
		return true
	}
	return !a.opens && first != fit.Cut && a.does.kind != fit.Cut
}

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
	if m := bareFigure.FindStringSubmatch(s.Text); m != nil && !d.said {
		s.Asks = append(s.Asks, "“"+strings.TrimSpace(m[0])+"”: "+m[1]+" minutes, or something else?")
	}
	r.equip(&s, d)
	return s
}

// bareFigure is a time without its unit: "bake 25".
var bareFigure = regexp.MustCompile(`(?i)\b(?:bake|cook|boil|simmer|fry|roast|chill|prove|rest|rise|grill|knead|give)\b[^.\d]{0,14}\b(\d{1,3})\s*(?:$|[.,;)]|more\b|whistles?\b)`)

// typical makes a number of a table's minutes, in halves.
func typical(f float64) exact.Number { return exact.Frac(int64(2*f+0.5), 2) }

// equip gives a step what it stands on or in.
func (r *reader) equip(s *Step, d *draft) {
	switch {
	case d.on == "" || d.preheat:
		return
	case len(d.heats) > 0:
		s.Uses = d.heats
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

// ovenAt is what the oven was last set to before a step, or the one setting
// that the recipe names anywhere; nil where nobody can tell.
func (r *reader) ovenAt(d *draft) *exact.Number {
	var last, only *exact.Number
	several := false
	for n := range r.prose {
		for _, c := range r.said[n] {
			for _, h := range c.heats {
				v := h.Celsius
				if n < d.passage || n == d.passage && c.from < d.to {
					last = &v
				}
				several = several || only != nil && only.Cmp(v) != 0
				only = &v
			}
		}
	}
	switch {
	case last != nil:
		return last
	case only != nil && !several:
		return only
	}
	return r.oven
}
