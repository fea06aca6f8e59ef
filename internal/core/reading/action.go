package reading

import (
	"slices"
	"strconv"
	"strings"

	"freshapron/internal/core/duration"
	"freshapron/internal/core/exact"
	"freshapron/internal/core/fit"
	"freshapron/internal/core/pattern"
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
	asks    string // what is only supposed of it
}

var (
	preheats    = pattern.Must(`(?i)\b(?:pre-?heat|heat(?: up)?|turn on|switch on|set|put on|light|warm(?: up)?(?: the)?)\b(?: (?:the|your|an?|up|on|to|main|fan))*\s+(?:oven|ofen)\b|(?:^|^\pL+ [-–—:] )\W*ovens? (?:up |to |at |on,? |- ?)*(?:gas|mark|fan|\d{3})|\b(?:turn|switch|set|put) (?:the |your )?ovens? (?:on|to|at)\b|\boven\b[^.;]{0,12}\b(?:on|pre-?heated|hot)\b(?:\s+(?:to|at)\b|\s*$)|\b(?:heat|turn on|light|switch on)(?: up)? (?:the |your )?(?:grill|broiler|barbecue|bbq)\b|\bovens? to (?:pre-?)?heat\b|\b(?:pre-?heat|vorheizen|préchauff\w+|sätt ugnen)\b`)
	turnsHeat   = pattern.Must(`(?i)\b(?:turn(?:ing)?|reduc(?:e|ing)|lower(?:ing)?|increas(?:e|ing)|rais(?:e|ing)|drop(?:ping)?|turn it)\b[^.;]{0,30}?(?:\b(?:heat|oven|temperature|gas|down|up)\b|\bto \d{3})`)
	intoOven    = pattern.Must(`(?i)\b(?:in|into|to|inside) (?:the|a|your|an) (?:pre-?heated |hot |moderate |mod\.? |cool |slow |medium |low |very hot |fairly hot |moderately hot |warm |quick )*oven\b|^(?:mod(?:erate|\.)?|hot|slow|cool|quick|medium) oven\b|^oven(?:[^\pL\s]|\s*$|\s+(?:\d|at|for|on|fan|gas|until|till|about|approx|another|then|in|and|top|middle|bottom))|\b(?:in|into) oven\b|\bback in for \d|\bau four\b|\bim ofen\b|\bi ugnen\b`)
	outOfOven   = pattern.Must(`(?i)\b(?:from|out of) the (?:oven|grill|fridge|freezer|pan|heat)\b|\boff the (?:heat|boil)\b`)
	inFridge    = pattern.Must(`(?i)\b(?:in|into|to) (?:the |a |your )?(?:fridge|refrigerator|kühlschrank|frigo|kylen)\b|\bfridge\b|\bim kühlschrank\b|\bi kylen\b`)
	inFreezer   = pattern.Must(`(?i)\b(?:in|into|to) (?:the |a |your )?freezer\b`)
	inWave      = pattern.Must(`(?i)\bmicro(?:wave)?\b`)
	underFire   = pattern.Must(`(?i)\b(?:under|on|beneath) (?:a |the )?(?:pre-?heated |very |hot |medium |high )*(?:grill|broiler)\b`)
	onRing      = pattern.Must(`(?i)\b(?:frying pan|saucepan|skillet|wok|griddle|hob|stove|burner|over (?:a )?(?:low|medium|high|gentle|moderate|very low)|low heat|medium heat|high heat|gentle heat|pan of (?:boiling |simmering )?water|over (?:barely |gently )?(?:simmering|boiling|hot) water|boiling (?:salted )?water|double boiler|bain[- ]marie|steamer|pressure cooker|deep[- ]fryer|dutch oven)\b`)
	covered     = pattern.Must(`(?i)\b(?:covered|cover|lid(?:ded)?|boiling (?:salted )?water|simmering water|pasta|spaghetti|macaroni|penne|noodles?|rice|potatoes|lentils|quinoa|couscous|eggs in|undisturbed|slowly|without stirring|gently for (?:\d\d|an|half))\b`)
	minding     = pattern.Must(`(?i)\b(?:stirring|stir|turning|tossing|whisking|shaking|each side|per side|both sides|all over|keep moving|constantly|all the time)\b`)
	batches     = pattern.Must(`(?i)\bin (\d+|two|three|four|five|six|a couple of|several)? ?(?:small |several |smaller )?(?:batches|loads|lots|portions)(?: of (?:about )?(\d+|two|three|four|five|six|eight|ten|twelve)(?:(?:-|–| or | to )(?:\d+|two|three|four|five|six|eight))?)?\b|\b(\d+|one|two|three|four|five|six|eight|a few|a couple)(?: or (?:\d+|two|three|four|five|six|so))? at a time\b|\bbatches of (\d+|two|three|four|five|six|eight|ten|twelve)\b`)
	inPan       = pattern.Must(`(?i)\b(?:in|on) (?:a|an|the) (?:hot |dry |heavy |large |small |deep |non-stick |oiled |lightly oiled |greased |lightly greased |buttered |floured |cast-iron )*(?:pan|tawa|kadai|wok|skillet|griddle|frying pan)\b`)
	tinHeated   = pattern.Must(`(?i)\b(?:skillet|pan|tin|tray|dish|stone|baking sheet|casserole)s?\b[^.;]*\boven\b[^.;]*\b(?:while (?:it|the oven) (?:heats|warms)|to (?:heat|warm|get hot)|until (?:very )?hot)\b`)
	kettle      = pattern.Must(`(?i)\b(?:boil|fill|put on|switch on|turn on)(?: and boil)? (?:the |a |your )?kettle\b|\bkettle on\b`)
	roux        = pattern.Must(`(?i)\broux\b|\bmake (?:an? |the |your )?(?:white|cheese|b[eé]chamel|parsley) sauce\b`)
	keptWarm    = pattern.Must(`(?i)\bkeeping\b[^.]{0,24}\b(?:warm|hot)\b[^.]{0,12}\boven\b`)
	keepHot     = pattern.Must(`(?i)\bkeep\b.*\b(?:hot|warm|simmering)\b`)
	slowCooker  = pattern.Must(`(?i)\bslow[- ]cook`)
	everyWhile  = pattern.Must(`(?i)\b(?:every|each)\s+(?:\d+|half|hour|ten|fifteen|twenty|thirty)`)
	always      = pattern.Must(`(?i)\b(?:stir(?:ring)?|whisk(?:ing)?|beating)\b[^.]{0,12}\b(?:all the|constantly|continuously|continually|without stopping|throughout)\b|\bconstantly (?:stirring|whisking)\b|\bkeep stirring\b`)
	panAlone    = pattern.Must(`(?i)\b(?:pan|skillet|wok|griddle|tawa)\b`)
	roastingTin = pattern.Must(`(?i)\b(?:in|on|to|into|onto) (?:a|an|the|your|two) (?:[\pL-]+ )?(?:roasting (?:tin|tray|pan)|baking (?:tray|sheet))\b`)
	overHeat    = pattern.Must(`(?i)\bon (?:a )?low\b|\b(?:over|on) (?:a )?(?:very )?(?:low|medium|high|gentle|moderate|medium[- ](?:low|high)) (?:heat|flame)\b|\b(?:to|over|on) the (?:heat|hob|stove)\b|\bback on heat\b|\blid on, (?:low|gentle)\b|\blowest heat\b|^\W*(?:low(?:est)?|med(?:ium)?|high)(?:[- ](?:low|high))?(?: heat)? \d`)
	grillThere  = pattern.Must(`(?i)\b(?:the|a|hot) grill\b`)
	bainMarie   = pattern.Must(`(?i)\bbain[- ]marie|\bwater bath\b`)
	lowers      = pattern.Must(`(?i)\b(?:heat|temperature|oven|flame|gas)\b|\bto (?:a )?(?:low|simmer|gentle|medium)\b`)
	dryPan      = pattern.Must(`(?i)\b(?:(?:sauce|frying )?pan|skillet|hob|wok)\b`)
	takeBack    = pattern.Must(`(?i)\b(?:heat|oven|temperature|gas)\b`)
	inFat       = pattern.Must(`(?i)\b(?:in|into) (?:the |some |a little )?(?:hot (?:oil|fat|butter)|oil|butter)\b`)
	hotGrill    = pattern.Must(`(?i)^\W*(?:under (?:a |the )?)?(?:hot |high )?grill\b`)
	bareHeat    = pattern.Must(`(?i)^\W*(?:at )?(?:1[4-9]0|2[0-4]0)(?: ?°? ?C\b)?(?: ?\(?fan(?: ?1\d0)?(?: ?°? ?C)?\)?)?(?:,? ?/? ?gas(?: mark)? \d)? for \d`)
	putOn       = pattern.Must(`(?i)\b(?:put|keep)\b[^.;]*\blid on\b|\bput (?:the |some )?(?:rice|pasta|spaghetti|noodles|potatoes|spuds|eggs|veg(?:etables)?|carrots|broccoli|beans|lentils|soup|stew|sauce|curry) on(?: to \pL+)?(?: for)?\b,? \d|\bturn (?:it |the heat |the ring |the hob )*(?:right |all the way )?down (?:to )?(?:low|minimum|a simmer)\b`)
	inTin       = pattern.Must(`(?i)^\W*\d+ ?min\w* in (?:the |its |their )?(?:tins?|trays?)\b`)
	atMost      = pattern.Must(`(?i)^\s*(?:max(?:imum)?|at (?:the )?most)\b`)
	offHeat     = pattern.Must(`(?i)\boff (?:the )?(?:heat|boil|hob)\b`)
	seeds       = pattern.Must(`(?i)\b(?:seeds|nuts|almonds|cashews|hazelnuts|walnuts|spices|rice|orzo|bulgur|quinoa|oats)\b`) // which are toasted in a dry pan
	later       = pattern.Must(`(?i)^\s*(?:after|later|of (?:being|coming|leaving|the))\b`)
	ifNot       = pattern.Must(`(?i)\bif (?:not|(?:it|they)(?:'s| is| are|'re)? ?(?:not|n't|still)|needed|necessary)\b[^.]*$`)
	lessThan    = pattern.Must(`(?i)\b(?:minus|less)\s*$`) // "as the packet minus 1 min"
	lastOf      = pattern.Must(`(?i)\b(?:for|in|during|after|within) (?:the )?(?:final|last|first)\s*$`)
)

// small numbers in words.
var smallWords = map[string]int{"one": 1, "two": 2, "three": 3, "four": 4, "five": 5, "six": 6, "eight": 8, "ten": 10, "twelve": 12, "a few": 3, "a couple": 2, "a couple of": 2, "several": 3}

// small reads a small number in words or figures; 0 where it is none.
func small(s string) int {
	s = strings.ToLower(s)
	if n, ok := smallWords[s]; ok {
		return n
	}
	n, err := strconv.Atoi(s)
	if err != nil {
		return 0
	}
	return n
}

// "Oven 160 fan 25 mins" bakes, "Oven on at 160, it takes 10 mins" heats.
var (
	bareOven = pattern.Must(`(?i)^\W*(?:the )?oven\b`)
	goesOn   = pattern.Must(`(?i)\b(?:on|hot|heat\w*|pre-?heat\w*|first|before)\b`)
)

// preheating reports whether a text heats an oven or a grill for what comes.
func preheating(s string) bool { return preheats.MatchString(s) }

// heatsOven makes an action one that turns the oven on.
func (a *action) heatsOven() {
	a.preheat, a.known = true, true
	a.does = spoken{"preheat", 0, verbs["preheat"]}
	a.does.work, a.said = 0.5, nil
}

// onlyHeat is how hot the oven is, and nothing else: "200 deg."
var onlyHeat = pattern.Must(`(?i)^\W*(?:1[3-9]|2[0-4])[05] ?(?:°|deg(?:rees)?\b)\.? ?c?(?:\W*fan)?\W*$`)

// act reads what a clause comes to.
func (r *reader) act(c clause) action {
	a := action{clause: c, said: c.spans}
	a.gaps()
	a.preheat = preheating(c.text) && (len(a.said) == 0 || !strings.Contains(strings.ToLower(c.text), "bake") && (!bareOven.MatchString(c.text) || goesOn.MatchString(c.text)))
	if len(c.verbs) > 0 {
		a.does, a.known = c.verbs[0], true
		if len(a.said) > 0 {
			a.does = nearest(c.verbs, a.said[0].From)
		} else {
			a.does = strongest(c.verbs)
		}
	}
	if a.preheat {
		a.heatsOven()
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
	if c.timer && (a.does.on == "ring" && verbs[a.does.word].on == "" || a.does.on == "" && lidOn.MatchString(c.text)) {
		a.does = spoken{"simmer", a.does.at, verbs["simmer"]}
	}
	a.idle = a.does.idle || a.does.on == "ring" && lidFor.MatchString(a.text)
	if slowCooker.MatchString(a.text) {
		a.does.on, a.idle = "", true
	}
	if a.does.word == "cover" && len(a.said) > 0 && a.does.on == "" { // "pour the stock on, cover 5 min"
		a.does.kind, a.idle = fit.Rest, true
	}
	if a.does.kind == fit.Mix && everyWhile.MatchString(a.text) && len(a.said) > 0 && a.said[0].Most.Cmp(exact.Int(30)) >= 0 {
		a.does.kind, a.idle = fit.Rest, true // "fold every 30 minutes for 2 hours"
	}
	if a.does.on == "ring" && a.does.kind == fit.Cook {
		a.idle = a.idle && !always.MatchString(c.text) || !a.does.idle && r.cooksAlone(a)
	}
	if a.does.on != "" { // eggs that are beaten in one at a time are no batches
		a.batches(r.Yield.Count)
	}
	return a
}

// cooksAlone reports whether what is cooked on a ring needs no hands: under a
// lid, in water, or for long without a word of stirring.
func (r *reader) cooksAlone(a action) bool {
	const long = 10
	if len(a.said) == 0 || minding.MatchString(a.text) || strings.Contains(strings.ToLower(a.sentence), ", stirring,") {
		return false
	}
	text := a.sentence
	most := a.said[0].Most.Float()
	switch a.does.word {
	case "cook":
		return most >= long || most > 1 && covered.MatchString(text)
	case "soften", "sweat", "fry", "caramelise", "heat", "warm", "reheat":
		return most >= long && (undisturbed.MatchString(a.text) || lidOn.MatchString(text))
	}
	return false
}

// inBoiling is where pasta goes.
var inBoiling = pattern.Must(`(?i)\b(?:to|in|into) (?:(?:an?|the|your|large|big|pan|saucepan|pot|of|fast|rapidly|gently|salted) )*(?:boiling|simmering)(?: salted)? (?:water|stock)\b`)

// stirredIn is dissolved in water that has boiled, or swells in it, off the heat.
var stirredIn = pattern.Must(`(?i)\b(?:dissolve|jelly|gelatine|cubes?|yeast|couscous|bulgur|coffee|tea)\b`)

// stayWarm is no baking: until the rest is done.
var stayWarm = pattern.Must(`(?i)\bkeep (?:it |them |these )?(?:warm|hot)\b`)

// lidOn says that nobody stirs, and undisturbed so does of what is fried.
var (
	lidOn       = pattern.Must(`(?i)\b(?:lid on|covered|with (?:the|a) lid)\b`)
	undisturbed = pattern.Must(`(?i)\b(?:covered?|lid(?:ded)?|undisturbed|slowly|without stirring)\b`)
)

// lidFor is a time under a lid: "sausages back, lid on 15 min".
var lidFor = pattern.Must(`(?i)\blid on,? (?:for )?(?:about )?\d`)

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

// onShelf reports whether something is on a shelf for a time, and not a cold one.
func (a *action) onShelf() bool {
	return len(a.said) > 0 && ovenShelf.MatchString(a.text) && !mentions(strings.ToLower(a.text), "fridge", "freez", "cupboard")
}

var ovenShelf = pattern.Must(`(?i)\b(?:top|upper|middle|centre|lower|bottom) shelf\b`)

// place takes where something is done from the words that name a place.
func (a *action) place() {
	light := !a.known || a.does.kind == fit.Prepare || a.does.kind == fit.Mix || a.does.kind == fit.Shape || a.does.word == "leave" || a.does.word == "cook" || a.does.word == "set"
	out := outOfOven.MatchString(a.text)
	if keptWarm.MatchString(a.text) || tinHeated.MatchString(a.text) { // the oven does nothing to it
		out, a.heats = true, nil
	}
	as := func(word string) {
		at := a.does.at
		a.does, a.known = spoken{word, at, verbs[word]}, true
	}
	switch {
	case (kettle.MatchString(a.text) || a.does.word == "boil" && kettle.MatchString(a.sentence)) && len(a.said) == 0:
		a.does, a.known, a.idle = spoken{"boil", a.does.at, verb{fit.Prepare, "", true, 1, 3}}, true, true
	case inWave.MatchString(a.text) && (light || a.does.kind == fit.Cook || a.does.kind == fit.Weigh):
		as("microwave")
	case (intoOven.MatchString(a.text) || a.onShelf()) && !out && (light || a.does.on == "ring" && a.does.word != "simmer"):
		as("bake")
		a.does.work = 1
		if stayWarm.MatchString(a.text) {
			a.does.wait = 5
		}
	case light && len(a.said) > 0 && inBoiling.MatchString(a.text) && !stirredIn.MatchString(a.text):
		as("boil")
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
	case len(a.heats) > 0 && bainMarie.MatchString(a.text):
		as("bake")
	case a.does.word == "toast" && intoOven.MatchString(a.text):
		as("bake")
	case a.does.on == "ring" && a.does.word != "simmer" && a.does.word != "boil" && grillThere.MatchString(a.sentence):
		as("grill")
	case a.does.word == "toast" && (dryPan.MatchString(a.text) || seeds.MatchString(a.text)):
		a.does.on = "ring"
	case a.does.word == "braise" && intoOven.MatchString(a.text):
		as("bake")
	case roux.MatchString(a.text) && a.does.on == "" && !a.does.idle:
		as("fry")
	case !a.known && panAlone.MatchString(a.text) && len(a.said) > 0:
		as("fry")
	case !a.known && (len(a.heats) > 0 || bareHeat.MatchString(a.text)):
		as("bake")
	case !a.known && len(a.said) > 0 && inFat.MatchString(a.text):
		as("fry")
	case !a.known && len(a.said) > 0 && inTin.MatchString(a.text):
		as("rest")
	case !a.known && len(a.said) > 0 && lidOn.MatchString(a.text):
		as("simmer")
	case !a.known && len(a.said) > 0 && hotGrill.MatchString(a.text):
		as("grill")
	case !a.known && len(a.said) > 0 && overHeat.MatchString(a.text):
		as("simmer")
	case a.does.word == "cook" && (roastingTin.MatchString(a.sentence) || len(a.heats) > 0) && !onRing.MatchString(a.text):
		as("bake")
	case a.does.on == "oven" && inPan.MatchString(a.text) && !intoOven.MatchString(a.text) && len(a.heats) == 0:
		as("fry")
	case keepHot.MatchString(a.text) && onRing.MatchString(a.text):
		as("heat")
	case (a.does.kind == fit.Mix || a.does.word == "return" || a.does.word == "put" || a.does.word == "place") && !out && (overHeat.MatchString(a.text) || onRing.MatchString(a.text) && len(a.said) > 0):
		a.does.on, a.does.kind = "ring", fit.Cook
	case a.does.word == "leave" && overHeat.MatchString(a.text), a.does.kind == fit.Prepare && len(a.said) > 0 && putOn.MatchString(a.text) && !out:
		as("simmer")
	case a.does.word == "dry" && len(a.said) == 0:
		as("pat dry")
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
		case atMost.MatchString(a.text[d.To:]), ifNot.MatchString(a.text[:d.From]), lessThan.MatchString(a.text[:d.From]):
		case strings.Contains(before, "within"), strings.Contains(before, "inside"), strings.Contains(before, "no more than") && later.MatchString(a.text[d.To:]):
			n := d.Most
			a.within = &n
		case strings.Contains(before, "at least") && later.MatchString(a.text[d.To:]), strings.HasPrefix(a.text[d.To:], " later"):
			a.minGap = d.Least
		case lastOf.MatchString(a.text[:d.From]) && !inFor.MatchString(a.text), strings.Contains(strings.ToLower(a.text[d.To:]), " ago") || strings.HasPrefix(strings.TrimSpace(strings.ToLower(a.text[d.To:])), "before") && !strings.HasSuffix(strings.ToLower(strings.TrimSpace(a.text[:d.From])), "for") && !a.waiting():
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
