package reading

import (
	"cmp"
	"slices"
	"strings"

	"freshapron/internal/core/duration"
	"freshapron/internal/core/exact"
	"freshapron/internal/core/fit"
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
	asks      string // what of it is only supposed
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

// last is what was done last in the step.
func (d *draft) last() *action { return &d.actions[len(d.actions)-1] }

// done is what was done last in the step, words that say nothing to do apart.
func (d *draft) done() *action {
	for i := len(d.actions) - 1; i >= 0; i-- {
		if d.actions[i].known {
			return &d.actions[i]
		}
	}
	return d.last()
}

// words takes the lines and the words of a step from its passage.
func (d *draft) words(p passage) {
	d.Lines = p.linesOf(d.from, d.to)
	d.Text = strings.TrimSpace(p.text[d.from:d.to])
	if d.to < len(p.text) && p.text[d.to] == ')' && strings.Count(d.Text, "(") > strings.Count(d.Text, ")") {
		d.Text += ")"
	}
}

// joined adds an action to a step where it belongs to it; it reports false where
// it begins another.
func (r *reader) joined(d *draft, a action) bool {
	switch {
	case d == nil:
		return false
	case d.turned() && a.does.kind == fit.Prepare && len(a.said) == 0 && !a.opens:
		d.take(a)
	case a.turns && r.goesOn(d, a):
		r.turn(d, a)
	case d.turned() && a.does.on == "oven" && len(a.said) > 0 && len(a.heats) == 0:
		d.heats[len(d.heats)-1].Minutes = sum(a.said)
		d.take(a)
	case joins(d, a):
		d.take(a)
	default:
		return false
	}
	return true
}

// longStep is how many letters a step has before the next sentence begins
// another.
const longStep = 150

// joins reports whether an action belongs to the hands-on stretch before it,
// or to its wait.
func joins(d *draft, a action) bool {
	last := d.last()
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
	case first == fit.Prepare && last.does.kind == fit.Prepare:
		return true
	}
	return !a.opens && first != fit.Cut && a.does.kind != fit.Cut
}

// goesInto reports whether all that a step has yet is that it goes into the oven: not for how
// long, nor how hot.
func (d *draft) goesInto() bool {
	return d.on == "oven" && !d.preheat && !d.said && !slices.ContainsFunc(d.actions, func(a action) bool { return len(a.heats) > 0 })
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
		first := cmp.Or(r.lastSet(d.passage, a.from), r.oven)
		for _, before := range d.actions {
			if len(before.heats) > 0 {
				v := before.heats[0].Celsius
				first = &v
			}
		}
		d.heats = append(d.heats, Use{Equipment: "oven", Celsius: first, Minutes: middle(d.actions)})
	}
	d.heats = append(d.heats, Use{Equipment: "oven", Celsius: celsius, Minutes: sum(a.said)})
	if len(a.said) > 0 { // "then turn down to 200 for 25 min" bakes on
		a.does, a.idle = spoken{"bake", a.does.at, verbs["bake"]}, true
	}
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
