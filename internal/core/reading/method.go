package reading

import (
	"regexp"
	"slices"
	"strings"

	"freshapron/internal/core/duration"
	"freshapron/internal/core/exact"
	"freshapron/internal/core/fit"
	"freshapron/internal/core/recipe"
)

// An action is a clause with what it comes to.
type action struct {
	clause
	does    spoken
	known   bool // there is a verb, or equipment that says what is done
	said    []duration.Span
	idle    bool
	loads   *Loads
	preheat bool
	turns   bool // only changes the heat of what is in the oven
	within  *exact.Number
	minGap  exact.Number
}

var (
	preheats    = regexp.MustCompile(`(?i)\b(?:pre-?heat|heat(?: up)?|turn on|switch on|set|put on|light|warm(?: up)?(?: the)?)\b(?: (?:the|your|an?|up|on|to|main|fan))*\s+(?:oven|ofen)\b|^\W*ovens? (?:to |at |on )*(?:gas|mark|fan|\d{3})|\b(?:turn|switch|set|put) (?:the |your )?ovens? (?:on|to|at)\b|\boven\b[^.;]{0,12}\b(?:on|pre-?heated|hot)\b(?:\s+(?:to|at)\b|\s*$)|\b(?:heat|turn on|light|switch on)(?: up)? (?:the |your )?(?:grill|broiler|barbecue|bbq)\b|\bovens? to (?:pre-?)?heat\b|\b(?:pre-?heat|vorheizen|préchauff\w+|sätt ugnen)\b`)
	turnsHeat   = regexp.MustCompile(`(?i)\b(?:turn(?:ing)?|reduc(?:e|ing)|lower(?:ing)?|increas(?:e|ing)|rais(?:e|ing)|drop(?:ping)?|turn it)\b[^.;]{0,30}?(?:\b(?:heat|oven|temperature|gas|down|up)\b|\bto \d{3})`)
	intoOven    = regexp.MustCompile(`(?i)\b(?:in|into|to|inside) (?:the|a|your|an) (?:pre-?heated |hot |moderate |mod\.? |cool |slow |medium |low |very hot |fairly hot |moderately hot |warm |quick )*oven\b|^(?:mod(?:erate|\.)?|hot|slow|cool|quick|medium) oven\b|^oven\b|\bin oven\b|\bau four\b|\bim ofen\b|\bi ugnen\b`)
	outOfOven   = regexp.MustCompile(`(?i)\b(?:from|out of) the (?:oven|grill|fridge|freezer|pan|heat)\b|\boff the (?:heat|boil)\b`)
	inFridge    = regexp.MustCompile(`(?i)\b(?:in|into|to) (?:the |a |your )?(?:fridge|refrigerator|kühlschrank|frigo|kylen)\b|\bfridge\b|\bim kühlschrank\b|\bi kylen\b`)
	inFreezer   = regexp.MustCompile(`(?i)\b(?:in|into|to) (?:the |a |your )?freezer\b`)
	inWave      = regexp.MustCompile(`(?i)\bmicrowave\b`)
	underFire   = regexp.MustCompile(`(?i)\b(?:under|on|beneath) (?:a |the )?(?:pre-?heated |very |hot |medium |high )*(?:grill|broiler)\b`)
	onRing      = regexp.MustCompile(`(?i)\b(?:frying pan|saucepan|skillet|wok|griddle|hob|stove|burner|over (?:a )?(?:low|medium|high|gentle|moderate|very low)|low heat|medium heat|high heat|gentle heat|pan of (?:boiling |simmering )?water|boiling (?:salted )?water|double boiler|bain[- ]marie|steamer|pressure cooker|deep[- ]fryer|dutch oven)\b`)
	covered     = regexp.MustCompile(`(?i)\b(?:covered|cover|lid(?:ded)?|boiling (?:salted )?water|simmering water|pasta|spaghetti|macaroni|penne|noodles?|rice|potatoes|lentils|quinoa|couscous|eggs in|undisturbed|slowly|without stirring|gently for (?:\d\d|an|half))\b`)
	minding     = regexp.MustCompile(`(?i)\b(?:stirring|stir|turning|tossing|whisking|shaking|each side|per side|both sides|all over|keep moving|constantly|all the time)\b`)
	batches     = regexp.MustCompile(`(?i)\bin (\d+|two|three|four|five|six|a couple of|several)? ?(?:small |several |smaller )?(?:batches|loads|lots)(?: of (?:about )?(\d+|two|three|four|five|six|eight|ten|twelve)(?:(?:-|–| or | to )(?:\d+|two|three|four|five|six|eight))?)?\b|\b(\d+|one|two|three|four|five|six|eight|a few|a couple)(?: or (?:\d+|two|three|four|five|six|so))? at a time\b|\bbatches of (\d+|two|three|four|five|six|eight|ten|twelve)\b`)
	inPan       = regexp.MustCompile(`(?i)\b(?:in|on) (?:a|an|the) (?:hot |dry |heavy |large |small |deep |non-stick |oiled |lightly oiled |cast-iron )*(?:pan|tawa|kadai|wok|skillet|griddle|frying pan)\b`)
	keepHot     = regexp.MustCompile(`(?i)\bkeep\b.*\b(?:hot|warm|simmering)\b`)
	slowCooker  = regexp.MustCompile(`(?i)\bslow[- ]cook`)
	everyWhile  = regexp.MustCompile(`(?i)\b(?:every|each)\s+(?:\d+|half|hour|ten|fifteen|twenty|thirty)`)
	always      = regexp.MustCompile(`(?i)\b(?:stir(?:ring)?|whisk(?:ing)?|beating)\b[^.]{0,12}\b(?:all the|constantly|continuously|continually|without stopping|throughout)\b|\bconstantly (?:stirring|whisking)\b|\bkeep stirring\b`)
	panAlone    = regexp.MustCompile(`(?i)\b(?:pan|skillet|wok|griddle|tawa)\b`)
	roastingTin = regexp.MustCompile(`(?i)\b(?:in|on|to|into|onto) (?:a|an|the|your|two) (?:[\pL-]+ )?(?:roasting (?:tin|tray|pan)|baking (?:tray|sheet))\b`)
	overHeat    = regexp.MustCompile(`(?i)\b(?:over|on) (?:a )?(?:very )?(?:low|medium|high|gentle|moderate|medium[- ](?:low|high)) (?:heat|flame)\b|\b(?:to|over|on) the (?:heat|hob|stove)\b`)
	grillThere  = regexp.MustCompile(`(?i)\b(?:the|a|hot) grill\b`)
	lowers      = regexp.MustCompile(`(?i)\b(?:heat|temperature|oven|flame|gas)\b|\bto (?:a )?(?:low|simmer|gentle|medium)\b`)
	dryPan      = regexp.MustCompile(`(?i)\b(?:pan|skillet|hob|wok)\b`)
	takeBack    = regexp.MustCompile(`(?i)\b(?:heat|oven|temperature|gas)\b`)
	offHeat     = regexp.MustCompile(`(?i)\boff the (?:heat|boil|hob)\b`)
	later       = regexp.MustCompile(`(?i)^\s*(?:after|later|of (?:being|coming|leaving|the))\b`)
	lastOf      = regexp.MustCompile(`(?i)\b(?:for|in|during|after|within) the (?:final|last|first)\s*$`)
)

// small numbers in words.
var smallWords = map[string]int{"one": 1, "two": 2, "three": 3, "four": 4, "five": 5, "six": 6, "eight": 8, "ten": 10, "twelve": 12, "a few": 3, "a couple": 2, "a couple of": 2, "several": 3}

func small(s string) int {
	s = strings.ToLower(s)
	if n, ok := smallWords[s]; ok {
		return n
	}
	n := 0
	for _, c := range s {
		if c < '0' || c > '9' || n > 999 {
			return 0
		}
		n = 10*n + int(c-'0')
	}
	return n
}

// preheating reports whether a text heats an oven or a grill for what comes.
func preheating(s string) bool {
	return mentions(s, "heat", "oven", "ofen", "ugn", "heiz", "chauff", "grill", "broiler", "barbecue", "bbq") && preheats.MatchString(s)
}

// act reads what a clause comes to.
func (r *reader) act(c clause) action {
	a := action{clause: c, said: c.spans}
	a.gaps()
	a.preheat = preheating(c.text) && (len(a.said) == 0 || !strings.Contains(strings.ToLower(c.text), "bake"))
	if len(c.verbs) > 0 {
		a.does, a.known = c.verbs[0], true
		if len(a.said) > 0 {
			a.does = nearest(c.verbs, a.said[0].From)
		} else {
			a.does = strongest(c.verbs)
		}
	}
	if a.preheat {
		a.does, a.known = spoken{"preheat", 0, verbs["preheat"]}, true
		a.does.work, a.said = 0.5, nil
		return a
	}
	if a.does.word == "reduce" && lowers.MatchString(c.text) && len(a.said) == 0 {
		a.does.verb = verbs["turn"]
	}
	a.turns = len(c.heats) > 0 && !a.known && len(a.said) > 0 || turnsHeat.MatchString(c.text) && takeBack.MatchString(c.text) || turnsHeat.MatchString(c.text) && len(c.heats) > 0
	if a.turns && len(c.heats) > 0 && (a.does.word == "reduce" || a.does.kind == fit.Prepare) {
		a.does, a.known = spoken{"turn", 0, verbs["turn"]}, true
	} else {
		a.place()
	}
	if strings.HasSuffix(a.does.word, "timer") {
		a.said = nil
	}
	a.idle = a.does.idle
	if slowCooker.MatchString(a.text) {
		a.does.on, a.idle = "", true
	}
	if a.does.kind == fit.Mix && everyWhile.MatchString(a.text) && len(a.said) > 0 && a.said[0].Most.Cmp(exact.Int(30)) >= 0 {
		a.does.kind, a.idle = fit.Rest, true // "fold every 30 minutes for 2 hours"
	}
	if a.does.on == "ring" && a.does.kind == fit.Cook {
		a.idle = a.idle && !always.MatchString(c.text) || !a.does.idle && r.cooksAlone(a)
	}
	a.batches(r.Yield.Count)
	return a
}

// cooksAlone reports whether what is cooked on a ring needs no hands: under a
// lid, in water, or for long without a word of stirring.
func (r *reader) cooksAlone(a action) bool {
	const long = 10
	if len(a.said) == 0 || minding.MatchString(a.text) {
		return false
	}
	text := a.sentence
	most := a.said[0].Most.Float()
	switch a.does.word {
	case "cook":
		return most >= long || covered.MatchString(text)
	case "soften", "sweat", "fry", "caramelise", "heat", "warm", "reheat":
		return most >= long && (covered.MatchString(a.text) || lidOn.MatchString(text))
	}
	return false
}

// lidOn says that nobody stirs.
var lidOn = regexp.MustCompile(`(?i)\b(?:lid on|covered|with (?:the|a) lid)\b`)

// nearest is the verb that a time at a place belongs to: the last before it,
// or else the first after.
func nearest(list []spoken, at int) spoken {
	best := list[0]
	for _, v := range list {
		if v.at < at && (v.kind != fit.Prepare || best.kind == fit.Prepare) && !(best.at < at && best.idle && attending[v.word]) {
			best = v
		}
	}
	if best.at > at {
		return strongest(list)
	}
	for _, v := range list { // "20 Minuten ruhen lassen"
		if v.at > at && foreign[v.word] && strings.HasSuffix(v.word, "n") {
			return v
		}
	}
	if best.kind == fit.Prepare { // "5 minutes: knead"; "leave it 10 minutes to rise"
		for _, v := range list {
			if v.at > at && v.kind != fit.Prepare && v.kind != fit.Serve {
				return v
			}
		}
	}
	if best.word == "leave" || best.word == "set aside" || best.word == "let" {
		for _, v := range list {
			if v.at > best.at && v.idle {
				return v
			}
		}
	}
	return best
}

// strongest is the verb that says most about what a clause comes to.
func strongest(list []spoken) spoken {
	rank := func(v spoken) int {
		switch {
		case v.kind == fit.Bake:
			return 6
		case v.idle && v.word != "leave" && v.word != "set":
			return 5
		case v.kind == fit.Cook:
			return 4
		case v.idle:
			return 3
		case v.kind == fit.Prepare:
			return 0
		case v.kind == fit.Serve:
			return 1
		}
		return 2
	}
	best := list[0]
	for _, v := range list[1:] {
		if rank(v) > rank(best) {
			best = v
		}
	}
	return best
}

// place takes where something is done from the words that name a place.
func (a *action) place() {
	light := !a.known || a.does.kind == fit.Prepare || a.does.kind == fit.Mix || a.does.kind == fit.Shape || a.does.word == "leave" || a.does.word == "cook" || a.does.word == "set"
	out := outOfOven.MatchString(a.text)
	as := func(word string) {
		at := a.does.at
		a.does, a.known = spoken{word, at, verbs[word]}, true
	}
	switch {
	case inWave.MatchString(a.text) && (light || a.does.kind == fit.Cook || a.does.kind == fit.Weigh):
		as("microwave")
	case intoOven.MatchString(a.text) && !out && (light || a.does.on == "ring" && a.does.word != "simmer"):
		as("bake")
		a.does.work = 1
	case inFreezer.MatchString(a.text) && !out && (light || a.does.idle):
		as("freeze")
	case inFridge.MatchString(a.text) && !out && (a.does.idle || light && a.does.kind != fit.Mix):
		kind := a.does.kind
		as("chill")
		if kind == fit.Rest {
			a.does.kind = kind
		}
	case underFire.MatchString(a.text) && (light || a.does.kind == fit.Cook):
		as("grill")
	case out && a.does.on == "ring" && offHeat.MatchString(a.text) && a.does.idle:
		as("rest")
	case a.does.word == "toast" && intoOven.MatchString(a.text):
		as("bake")
	case a.does.on == "ring" && a.does.word != "simmer" && a.does.word != "boil" && grillThere.MatchString(a.sentence):
		as("grill")
	case a.does.word == "toast" && dryPan.MatchString(a.text):
		a.does.on = "ring"
	case a.does.word == "braise" && intoOven.MatchString(a.text):
		as("bake")
	case !a.known && panAlone.MatchString(a.text) && len(a.said) > 0:
		as("fry")
	case !a.known && len(a.heats) > 0:
		as("bake")
	case a.does.word == "cook" && (roastingTin.MatchString(a.sentence) || len(a.heats) > 0) && !onRing.MatchString(a.text):
		as("bake")
	case a.does.on == "oven" && inPan.MatchString(a.text) && !intoOven.MatchString(a.text) && len(a.heats) == 0:
		as("fry")
	case keepHot.MatchString(a.text) && onRing.MatchString(a.text):
		as("heat")
	case a.does.on == "" && (a.does.kind == fit.Mix || a.does.word == "return" || a.does.word == "put") && !out && (overHeat.MatchString(a.text) || onRing.MatchString(a.text) && len(a.said) > 0):
		a.does.on, a.does.kind = "ring", fit.Cook
	case a.does.word == "set" && inFridge.MatchString(a.text):
		a.does.on = "fridge"
	}
}

// gaps takes "within 10 minutes" out of what lasts.
func (a *action) gaps() {
	var kept []duration.Span
	for _, d := range a.said {
		before := strings.ToLower(a.text[max(0, d.From-14):d.From] + a.text[d.From:d.To])
		switch {
		case strings.Contains(before, "within"), strings.Contains(before, "no more than") && later.MatchString(a.text[d.To:]):
			n := d.Most
			a.within = &n
		case strings.Contains(before, "at least") && later.MatchString(a.text[d.To:]):
			a.minGap = d.Least
		case lastOf.MatchString(a.text[:d.From]), strings.Contains(strings.ToLower(a.text[d.To:]), " ago") || strings.HasPrefix(strings.TrimSpace(strings.ToLower(a.text[d.To:])), "before") && !strings.HasSuffix(strings.ToLower(strings.TrimSpace(a.text[:d.From])), "for") && !a.waiting():
		default:
			kept = append(kept, d)
		}
	}
	a.said = kept
}

// waiting reports whether the clause's verb is one of waiting.
func (a *action) waiting() bool {
	return slices.ContainsFunc(a.verbs, func(v spoken) bool { return v.idle })
}

// batches reads cooking a few at a time.
func (a *action) batches(pieces int) {
	m := batches.FindStringSubmatch(a.text)
	if m == nil {
		return
	}
	l := &Loads{NoHands: a.does.on == "oven"}
	per := 0
	for _, g := range []string{m[2], m[3], m[4]} {
		if g != "" {
			per = small(g)
		}
	}
	if n := small(m[1]); n > 0 && per == 0 && pieces > 0 {
		per = (pieces + n - 1) / n
	} else if n > 0 && per > 0 && pieces == 0 {
		pieces = n * per
	}
	l.Pieces, l.PerLoad = pieces, per
	if len(a.said) > 0 {
		d := a.said[0]
		l.Each = Minutes{d.Least, d.Most, recipe.Said}
	} else {
		n := exact.Int(4) // typical of a panful
		l.Each = Minutes{n, n, recipe.Typical}
	}
	a.loads = l
}

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
