package reading

import (
	"slices"
	"strings"

	"freshapron/internal/core/duration"
	"freshapron/internal/core/fit"
	"freshapron/internal/core/pattern"
	"freshapron/internal/core/recipe"
	"freshapron/internal/core/setting"
)

// method cuts the prose into steps.
func (r *reader) method() {
	for _, f := range r.Facts { // "Oven temperature: 200 °C" over the list
		if hs := setting.Beside(f.Says, true); len(hs) == 1 && r.oven == nil && ofOvenAlone.MatchString(f.Says) {
			r.oven = &hs[0].Celsius
		}
	}
	r.said = make([][]clause, len(r.prose))
	for n, p := range r.prose {
		r.said[n] = clauses(p)
	}
	timers(r.said)
	turns(r.said)
	var list []*draft
	for n, p := range r.prose {
		drafts := r.passage(n, p)
		if p.whole {
			drafts = inOne(drafts, p)
		}
		if len(drafts) > 0 {
			drafts[0].asks = p.asks
			if k := len(list); k > 0 && list[k-1].waits && whileYou.MatchString(list[k-1].Text) {
				drafts[0].meanwhile = true
			}
		}
		list = append(list, drafts...)
	}
	for _, d := range list {
		r.Steps = append(r.Steps, r.finish(d))
	}
	r.aheadOf()
	r.unbaked()
	r.order(list)
}

// ofOvenAlone is a fact about the oven: "Oven temperature: 200 °C", "TEMP: 200C".
var ofOvenAlone = pattern.Must(`(?i)\boven\b|^\W*temp(?:erature)?\s*[:=–-]`)

// whileYou ends a wait with what is done beside it, which the next line tells: "chill while you
// make the filling", or is begun first: "rice on first - boil 10 min".
var whileYou = pattern.Must(`(?i)\b(?:while|whilst) (?:you|u|we) (?:do|make|prepare|prep|get on with|get|see to|start|are (?:doing|making)) [^.;]*[.!)]*$|^\W*(?:the )?\pL+(?: \pL+)? (?:on|in) first\b`)

// inOne makes one step of work that a plan gives so many minutes in all; what waits keeps
// them to itself.
func inOne(drafts []*draft, p passage) []*draft {
	if slices.ContainsFunc(drafts, func(d *draft) bool { return d.waits }) {
		return drafts
	}
	var first *draft
	var said []duration.Span
	for _, d := range drafts {
		for _, a := range d.actions {
			said = append(said, a.said...)
			a.said = nil
			if first == nil {
				first = d
				first.actions = nil
			}
			first.take(a)
		}
	}
	if first == nil {
		return drafts
	}
	if len(said) == 0 { // of heating the oven, and what else is done by then
		said = duration.In(p.text)
	}
	at := max(0, slices.IndexFunc(first.actions, func(a action) bool { return a.known }))
	first.actions[at].said = said
	first.said = len(said) > 0
	first.words(p)
	return []*draft{first}
}

// passage cuts one passage into steps.
func (r *reader) passage(n int, p passage) (list []*draft) {
	s := scene{hot: r.hot}
	defer func() { r.hot = s.hot }()
	label, ahead := -1, action{} // words before the first step that say nothing to do
	for k, c := range r.said[n] {
		a := r.act(c)
		if len(a.heats) == 0 && onlyHeat.MatchString(a.text) && !ofFat.MatchString(p.text) {
			a.heats = setting.Beside(a.text, true)
			a.heatsOven()
		}
		if len(a.verbs) == 0 && a.does.word == "simmer" && s.step != nil && offHeat.MatchString(s.step.Text) { // "off heat. 2 mins lid on"
			a.does = spoken{"rest", 0, verbs["rest"]}
		}
		switch {
		case !a.turns || len(a.verbs) > 0:
		case s.step == nil: // "15 min at 220" is where a bake begins
			a.turns, a.idle = false, true
			a.does = spoken{"bake", 0, verbs["bake"]}
		case s.step.goesInto(): // "into the oven - 25 mins gas 5"
			a.turns, a.known = false, false
		}
		if hotPan.MatchString(a.text) {
			s.hot, r.wok = true, true
		}
		timed := k+1 < len(r.said[n]) && len(r.said[n][k+1].spans) > 0 && len(r.said[n][k+1].verbs) == 0
		if timed || len(a.said) > 0 {
			r.goneIn(&a, s, timed)
		}
		if !a.known && len(a.said) > 0 && s.step == nil && r.oven == nil && boiled.MatchString(p.text[max(0, min(label, a.from)):a.to]) {
			a.does, a.idle, a.known = spoken{"simmer", 0, verbs["simmer"]}, true, true
			a.asks = "it is taken to be boiled, since nothing else is said"
		}
		if (a.preheat || a.does.on == "oven") && len(a.heats) > 0 {
			v := a.heats[0].Celsius
			r.oven = &v
		}
		if !a.known && s.step != nil && len(a.said) > 0 && a.said[0].More && len(s.step.done().said) == 0 {
			s.goesOn(&a, s.step.done().does.word)
		}
		// “Press it into the tin. 20 mins, till golden”: into the oven, which is asked
		fresh := !a.known && r.oven != nil && s.step != nil && s.step.on == "" && timeFirst.MatchString(a.text) && (s.step.done().does.kind == fit.Shape || r.bakesUnsaid(s.step, a))
		if s.step != nil && !fresh && !a.known && len(a.said) > 0 && !a.turns && !intoOven.MatchString(a.text) && !a.onShelf() {
			s.keptHot(s.step.done(), true)
			r.again(&a, s.step.done())
			if before := s.step.done(); before.turns && len(before.heats) > 0 && before.does.on == "" { // "turn down to 160, another 20 mins"
				a.does, a.idle = spoken{"bake", a.does.at, verbs["bake"]}, true
			}
			if !s.step.said {
				s.step.take(a)
				s.step.words(p)
				continue
			}
		}
		if s.step == nil && !a.known && len(a.said) == 0 {
			if label < 0 {
				label = a.from
			}
			ahead.meanwhile = ahead.meanwhile || a.meanwhile
			if a.adult != fit.NoAdult {
				ahead.adult = a.adult
			}
			continue
		}
		untold := s.step != nil && (len(a.said) == 0 || s.step.waits && !s.step.said)
		if untold && (s.step.waits && attending[a.does.word] && nowAndThen.MatchString(a.text) || len(a.said) == 0 && keepsOn.MatchString(a.text)) {
			if len(a.said) > 0 { // "simmer, stir now and then (23 min)"
				s.step.done().said, s.step.said = a.said, true
			}
			s.step.to = max(s.step.to, a.to)
			s.step.words(p)
			continue
		}
		if s.step != nil && s.step.said && (s.step.on != "" || s.step.waits) && len(a.said) > 0 && turnedOver.MatchString(a.text) {
			a.does, a.idle = s.step.done().does, s.step.done().idle // "grill 4 mins, turn, 4 mins"
			s.step.take(a)
			s.step.words(p)
			continue
		}
		if a.does.word == "dry" && s.step != nil && s.step.done().does.word == "wash up" { // the dishes
			a.does, a.idle = s.step.done().does, false
		}
		s.place(&a)
		if fresh || !r.joined(s.step, a) {
			a.bakesOn()
			if label >= 0 {
				a.from, label, a.meanwhile = label, -1, a.meanwhile || ahead.meanwhile
				if a.adult == fit.NoAdult && ahead.adult != "" {
					a.adult = ahead.adult
				}
			}
			s.step = &draft{passage: n, from: a.from, meanwhile: a.meanwhile, preheat: a.preheat}
			s.step.take(a)
			list = append(list, s.step)
		}
		s.step.words(p)
	}
	if label >= 0 { // nothing to do that is known
		d := &draft{passage: n, from: label}
		for _, c := range r.said[n] {
			d.take(r.act(c))
		}
		d.words(p)
		list = append(list, d)
	}
	return list
}

// bakesUnsaid reports whether minutes of their own can only be in the oven: it is hot, nobody says that
// anything is baked, and what was done last is mixed: "extras in. 20 mins."
func (r *reader) bakesUnsaid(d *draft, a action) bool {
	kind := d.done().does.kind
	bakes := func(c clause) bool {
		return slices.ContainsFunc(c.verbs, func(v spoken) bool { return v.kind == fit.Bake })
	}
	return !d.said && !d.preheat && (kind == fit.Mix || kind == fit.Prepare) && onlyMinutes.MatchString(strings.TrimSpace(a.text)) &&
		!slices.ContainsFunc(r.said, func(list []clause) bool { return slices.ContainsFunc(list, bakes) })
}

// turnedOver is done for a moment while something cooks.
var turnedOver = pattern.Must(`(?i)^\W*(?:then |and )*(?:turn|flip|stir|shake|toss|baste)(?: (?:it|them|over|once|well|again|everything))*\W*$`)

// turns gives a clause that only turns something over the minutes behind it, which it cooks
// on for: "grill 4 mins, turn, 4 mins".
func turns(said [][]clause) {
	for _, list := range said {
		for k := 1; k < len(list); k++ {
			if over, then := &list[k-1], &list[k]; len(over.spans) == 0 && len(then.spans) > 0 && len(then.verbs) == 0 && turnedOver.MatchString(over.text) {
				over.spans, then.spans = toEnd(then.spans, over.text), nil
			}
		}
	}
}

// bakesOn makes a bake of what only says how hot the oven is from now on, and for how long:
// "turn the oven down to 160 for 20 mins".
func (a *action) bakesOn() {
	if a.turns && len(a.said) > 0 && len(a.heats) > 0 && a.does.on == "" {
		a.does, a.idle = spoken{"bake", a.does.at, verbs["bake"]}, true
	}
}

// goneIn reads what goes in for a time, and has no verb: into the oven that is on, as
// "spuds in, 50 mins", or into the pan that is hot, as "Rice in. 1 min". Timed says that
// the time is a clause of its own.
func (r *reader) goneIn(a *action, s scene, timed bool) {
	said := len(a.said) > 0
	nameless := !a.known || edible[a.does.word] && goesIn.MatchString(a.text)
	begins := s.step == nil || s.step.said || s.step.on == ""
	inPan := inFat.MatchString(a.text) || s.hot && !elsewhere.MatchString(a.text)
	food := a.opens && (mentions(" "+a.text, " veg") || r.known(firstWord(a.text)))
	switch {
	case !a.known && (said || timed) && warmPlace.MatchString(a.text): // "Bowl, clingfilm, warm place 20 mins"
		a.does, a.idle, a.known = spoken{"rest", a.does.at, verbs["rest"]}, true, true
	case !a.known && (said || timed) && inAPan.MatchString(a.text): // "Heavy frying pan, medium, 3 mins each side"
		a.does, a.known = spoken{"cook", a.does.at, verbs["cook"]}, true
	case !a.known && timed && ovenShelf.MatchString(a.text): // "middle shelf, 20 minutes"
		a.does, a.idle, a.known = spoken{"bake", a.does.at, verbs["bake"]}, true, true
	case !a.known && r.oven != nil && !s.hot && (timed && goesIn.MatchString(a.text) || said && inFor.MatchString(a.text)):
		a.does, a.idle, a.known = spoken{"bake", a.does.at, verbs["bake"]}, true, true
	case nameless && begins && inPan && (timed || said && (r.wok && food || foodIn.MatchString(a.text))):
		a.does, a.known = spoken{"cook", a.does.at, verbs["cook"]}, true
	case nameless && begins && inPan && said && food:
		a.does, a.known = spoken{"cook", a.does.at, verbs["cook"]}, true
		a.asks = "it is taken to be in the pan that is hot, since nothing else is said"
	}
}

// ofFat says that degrees may be those of fat, sugar or a core, and not of the oven.
var ofFat = pattern.Must(`(?i)\b(?:oil|fat|deep[- ]?fr\w*|sugar|syrup|thermometer|probe|core)\b`)

// warmPlace is where a dough rises.
var warmPlace = pattern.Must(`(?i)\b(?:warm place|somewhere warm|airing cupboard|proving drawer|prover)\b`)

// inAPan begins with what stands on a ring.
var inAPan = pattern.Must(`(?i)^\W*(?:in )?(?:an? |the |your )?(?:(?:hot|dry|heavy|large|small|non-stick|medium) )*(?:frying pan|pan|wok|griddle|bakestone|skillet)\b`)

// boiled begins with what nearly always is: "Rice: 11 mins".
var boiled = pattern.Must(`(?i)^\W*(?:the |cook(?:ing)? )?(?:pasta|spaghetti|macaroni|penne|fusilli|tagliatelle|noodles?|(?:white |brown |basmati )?rice|(?:new )?potatoes|spuds|eggs?|lentils)\b`)

// nowAndThen is what is done beside a wait.
var nowAndThen = pattern.Must(`(?i)\b(?:now and (?:again|then)|often|regularly|occasionally|from time to time|once or twice|sometimes|every so often)\b`)

// keepsOn goes on with what is done.
var keepsOn = pattern.Must(`(?i)^\W*keep (?:(?:it|them|everything) moving|(?:on )?(?:stirring|tossing|turning|whisking|shaking))\b`)

// timeFirst begins with how long.
var timeFirst = pattern.Must(`(?i)^\W*(?:about |for )?\d+(?:\s*(?:-|–|to)\s*\d+)?\s*min`)

// inFor is what joins others in the oven: "skewers in for the last 18 mins".
var inFor = pattern.Must(`(?i)^\W*(?:the )?\pL+ in for (?:the |about )?(?:last |final )?\d`)

// foodIn is what goes in for a time: "pepper in for 2 mins".
var foodIn = pattern.Must(`(?i)^\W*(?:the )?\pL+(?: (?:and|\+|&) \pL+)? (?:go(?:es)? )?in\b[^.]{0,8}\d`)

// goesIn is a thing that goes into what is hot.
var goesIn = pattern.Must(`(?i)^\W*(?:the )?[\pL]+(?: [\pL]+)? (?:go |goes )?in\W*$`)

// again reads a time without a verb as more of what was done before it: "then 6
// minutes on medium".
func (r *reader) again(a, last *action) {
	a.does, a.known = last.does, true
	a.idle = last.idle || last.does.on == "ring" && (r.cooksAlone(*a) || lidFor.MatchString(a.text))
	if a.does.word == "cover" && a.does.on == "" { // "water over, cover, 5 min"
		a.does.kind, a.idle = fit.Rest, true
	}
	if a.does.on == "ring" && a.loads == nil { // "2 min a side, one at a time"
		a.batches(r.Yield.Count)
	}
	if last.loads != nil && len(last.said) == 0 {
		last.loads.Each = Minutes{a.said[0].Least, a.said[0].Most, recipe.Said}
		a.said = nil
	}
}
