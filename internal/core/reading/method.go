package reading

import (
	"freshapron/internal/core/duration"
	"freshapron/internal/core/exact"
	"freshapron/internal/core/fit"
	"freshapron/internal/core/recipe"
	"freshapron/internal/core/setting"
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
	for _, f := range r.Facts { // "Oven temperature: 200 °C" over the list
		if hs := setting.In(f.Says); len(hs) == 1 && r.oven == nil && strings.Contains(strings.ToLower(f.Says), "oven") {
			r.oven = &hs[0].Celsius
		}
	}
	r.said = make([][]clause, len(r.prose))
	for n, p := range r.prose {
		r.said[n] = clauses(p)
	}
	var list []*draft
	for n, p := range r.prose {
		drafts := r.passage(n, p)
		if p.whole {
			drafts = inOne(drafts, p)
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

// inOne makes one step of work that a plan gives so many minutes in all; what waits keeps
// them to itself.
func inOne(drafts []*draft, p passage) []*draft {
	for _, d := range drafts {
		if d.waits {
			return drafts
		}
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

// unbaked finds the bake that nobody named, and asks: the oven is hot, nothing goes into
// it, and the last minutes that are said are of nothing else.
func (r *reader) unbaked() {
	inOven := func(u Use) bool { return u.Equipment == "oven" }
	first := slices.IndexFunc(r.Steps, func(s Step) bool { return slices.ContainsFunc(s.Uses, inOven) })
	if r.oven == nil {
		return
	}
	if first < 0 {
		first = len(r.Steps)
	}
	for n := first - 1; n >= 0; n-- {
		s := &r.Steps[n]
		if first < len(r.Steps) && (n == 0 || r.Steps[n-1].Kind != fit.Shape || !timeFirst.MatchString(s.Text)) { // “25 minutes. Pierce them, back in for 3”
			continue
		}
		lasts := s.Work
		switch {
		case cooksOn.MatchString(s.Text):
			lasts = s.Wait
		case len(s.Uses) > 0 || s.Loads != nil || !ofNothing(s.Text):
			continue
		}
		if lasts.From != recipe.Said || lasts.Least.Less(exact.Int(leastBake)) {
			continue
		}
		s.Kind, s.Uses, s.Wait = fit.Bake, []Use{{Equipment: "oven", Celsius: r.oven}}, lasts
		s.Work = Minutes{Least: exact.Int(1), Most: exact.Int(1), From: recipe.Typical}
		s.Asks = append(s.Asks, "it is taken to be in the oven, since nothing else is")
		return
	}
}

// aheadOf gives a bake the minutes that stand beside the oven's heat before the first step:
// "Oven 200C, 30 mins".
func (r *reader) aheadOf() {
	for n := range r.Steps {
		s := &r.Steps[n]
		if s.Work.From != recipe.Said || len(s.Uses) > 0 || !ovenAndTime.MatchString(s.Text) {
			continue
		}
		for k := n + 1; k < len(r.Steps); k++ {
			if b := &r.Steps[k]; b.Kind == fit.Bake && b.Wait.From == recipe.Typical && len(b.Asks) == 0 {
				b.Wait = s.Work
				s.Work = Minutes{Least: exact.Frac(1, 2), Most: exact.Frac(1, 2), From: recipe.Typical}
				return
			}
		}
	}
}

var ovenAndTime = regexp.MustCompile(`(?i)^\W*(?:the )?oven\b[^.]{0,40}\d+ ?min[^.]{0,8}\.?$`)

var cooksOn = regexp.MustCompile(`(?i)^cook(?: them| it)?(?: for)?(?: about)? \d[^.]*\.?$`)

// leastBake is how many minutes a bake lasts at least.
const leastBake = 5

// ofNothing reports whether no verb says what the minutes of a step are spent on: "12
// mins. Watch them!"
func ofNothing(text string) bool {
	for _, part := range partings.Split(text, -1) {
		if len(duration.In(part)) > 0 && slices.ContainsFunc(verbsIn(part), func(v spoken) bool { return !idlers[v.word] }) {
			return false
		}
	}
	return true
}

// idlers say nothing of what happens meanwhile.
var idlers = wordSet("turn watch check put pop place slide")

var partings = regexp.MustCompile(`[.,;!]\s|\s[-–—]\s`)

// A scene is what a clause takes from those before it in the same passage.
type scene struct {
	step *draft // that goes on
	on   string // where something was last done
	slow bool   // in a slow cooker
	hot  bool   // a pan that was cooked in before stands on its ring still
}

// passage cuts one passage into steps.
func (r *reader) passage(n int, p passage) (list []*draft) {
	s := scene{hot: r.hot}
	defer func() { r.hot = s.hot }()
	label, ahead := -1, action{} // words before the first step that say nothing to do
	for k, c := range r.said[n] {
		a := r.act(c)
		if hotPan.MatchString(a.text) {
			s.hot, r.wok = true, true
		}
		timed := k+1 < len(r.said[n]) && len(r.said[n][k+1].spans) > 0 && len(r.said[n][k+1].verbs) == 0
		if !a.known && r.oven != nil && !s.hot && (timed && goesIn.MatchString(a.text) || len(a.said) > 0 && inFor.MatchString(a.text)) { // "spuds in, 50 mins"
			a.does, a.idle, a.known = spoken{"bake", a.does.at, verbs["bake"]}, true, true
		}
		if (timed || len(a.said) > 0 && foodIn.MatchString(a.text) || r.wok && a.opens && len(a.said) > 0 && (mentions(a.text, " veg") || r.known(firstWord(a.text)))) && (!a.known || edible[a.does.word] && goesIn.MatchString(a.text)) && (s.step == nil || s.step.said || s.step.on == "") && (inHotFat.MatchString(a.text) || s.hot && !elsewhere.MatchString(a.text)) { // “Rice in. 1 min”
			a.does, a.known = spoken{"cook", a.does.at, verbs["cook"]}, true
		}
		if (a.preheat || a.does.on == "oven") && len(a.heats) > 0 {
			v := a.heats[0].Celsius
			r.oven = &v
		}
		// “Press it into the tin. 20 mins, till golden”: into the oven, which is asked
		fresh := a.opens && !a.known && r.oven != nil && s.step != nil && s.step.on == "" && s.step.done().does.kind == fit.Shape && timeFirst.MatchString(a.text)
		if s.step != nil && !fresh && !a.known && len(a.said) > 0 && !a.turns && !intoOven.MatchString(a.text) && !a.onShelf() {
			s.keptHot(s.step.done(), true)
			r.again(&a, s.step.done())
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
		if s.step != nil && len(a.said) == 0 && (s.step.waits && attending[a.does.word] && nowAndThen.MatchString(a.text) || keepsOn.MatchString(a.text)) {
			s.step.to = max(s.step.to, a.to)
			s.step.words(p)
			continue
		}
		s.place(&a)
		if fresh || !r.joined(s.step, a) {
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
	if s.step == nil && label >= 0 { // nothing to do that is known
		d := &draft{passage: n, from: label}
		for _, c := range r.said[n] {
			d.take(r.act(c))
		}
		d.words(p)
		list = append(list, d)
	}
	return list
}

// nowAndThen is what is done beside a wait.
var nowAndThen = regexp.MustCompile(`(?i)\b(?:now and (?:again|then)|often|regularly|occasionally|from time to time|once or twice|sometimes|every so often)\b`)

// keepsOn goes on with what is done.
var keepsOn = regexp.MustCompile(`(?i)^\W*keep (?:(?:it|them|everything) moving|(?:on )?(?:stirring|tossing|turning|whisking|shaking))\b`)

// timeFirst begins with how long.
var timeFirst = regexp.MustCompile(`(?i)^\W*(?:about |for )?\d+(?:\s*(?:-|–|to)\s*\d+)?\s*min`)

// inFor is what joins others in the oven: "skewers in for the last 18 mins".
var inFor = regexp.MustCompile(`(?i)^\W*(?:the )?\pL+ in for (?:the |about )?(?:last |final )?\d`)

// foodIn is what goes in for a time: "pepper in for 2 mins".
var foodIn = regexp.MustCompile(`(?i)^\W*(?:the )?\pL+(?: (?:and|\+|&) \pL+)? (?:go(?:es)? )?in\b[^.]{0,8}\d`)

// goesIn is a thing that goes into what is hot.
var goesIn = regexp.MustCompile(`(?i)^\W*(?:the )?[\pL]+(?: [\pL]+)? (?:go |goes )?in\W*$`)

// again reads a time without a verb as more of what was done before it: "then 6
// minutes on medium".
func (r *reader) again(a, last *action) {
	a.does, a.known = last.does, true
	a.idle = last.idle || last.does.on == "ring" && r.cooksAlone(*a)
	if last.loads != nil && len(last.said) == 0 {
		last.loads.Each = Minutes{a.said[0].Least, a.said[0].Most, recipe.Said}
		a.said = nil
	}
}

// place reads an action where the scene says that it is done.
func (s *scene) place(a *action) {
	as := func(word string) { a.does, a.idle = spoken{word, a.does.at, verbs[word]}, true }
	if s.slow = s.slow || slowCooker.MatchString(a.text); s.slow && a.does.on == "ring" && len(a.said) > 0 {
		a.does.on, a.idle = "", true
	}
	if s.step != nil && !a.opens && a.does.on == "ring" && len(a.said) > 0 && !minding.MatchString(a.text) {
		if word := s.step.last().does.word; word == "cover" || word == "put the lid on" {
			a.idle = true
		}
	}
	if s.step != nil && s.step.on == "oven" && !s.step.preheat && a.does.word == "cook" && !onRing.MatchString(a.text) && len(a.said) > 0 {
		as("bake")
	}
	if a.does.word == "cook" && len(a.said) > 0 && (s.on == "microwave" || s.on == "grill") && !onRing.MatchString(a.text) {
		as(s.on) // "stir, then cook for another 2 minutes"
	}
	if s.step != nil && a.does.word == "cook" && slices.ContainsFunc(s.step.actions, func(b action) bool { return b.turns && len(b.heats) > 0 }) {
		as("bake")
	}
	s.keptHot(a, len(a.said) > 0)
	if a.does.on != "" {
		s.on = a.does.on
	}
	switch {
	case a.does.on == "ring" && a.does.kind == fit.Cook && !elsewhere.MatchString(a.text):
		s.hot = true
	case hotPan.MatchString(a.text):
	case !a.known && !elsewhere.MatchString(a.text), ontoPlate.MatchString(a.text): // the pan stays where it is
	case a.does.on != "", a.does.kind != fit.Mix && a.does.kind != fit.Cut && a.does.kind != fit.Prepare, elsewhere.MatchString(a.text) && !fatOff.MatchString(a.text):
		s.hot = false
	}
}

// keptHot reads what is done for a time in a pan that is on the heat as cooking:
// "add the stock, stirring, for 18 minutes".
func (s *scene) keptHot(a *action, timed bool) {
	if timed && s.hot && a.does.on == "" && panWords[a.does.word] && !elsewhere.MatchString(a.text) {
		a.does.on, a.does.kind = "ring", fit.Cook
	}
}

// panWords are done in the pan that is on the heat as well as in a bowl.
var panWords = wordSet("stir add pour tip return toss turn mix")

// elsewhere takes what is done away from the heat.
var elsewhere = regexp.MustCompile(`(?i)\b(?:bowl|basin|jug|dish|off (?:the )?(?:heat|hob|boil)|from the heat|out of the pan|transfer|drain|cool|blender|processor|tin|tray|plate|leave|hands)\b`)

// hotPan says that a pan stands on the heat.
var hotPan = regexp.MustCompile(`(?i)\b(?:hot|smoking) (?:wok|(?:frying )?pan|skillet)\b|\b(?:wok|pan|skillet) (?:really |very |smoking )?hot\b`)

// ontoPlate takes what was cooked out of a pan in which more is cooked.
var ontoPlate = regexp.MustCompile(`(?i)\b(?:out|remove|lift|set)\b[^.]{0,24}\bplate\b`)

// fatOff leaves the pan where it is.
var fatOff = regexp.MustCompile(`(?i)\bdrain (?:off|away) (?:the |any )?(?:excess |extra )?(?:fat|oil|liquid)`)

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
