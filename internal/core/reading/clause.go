package reading

import (
	"slices"
	"strings"
	"unicode"

	"freshapron/internal/core/duration"
	"freshapron/internal/core/exact"
	"freshapron/internal/core/fit"
	"freshapron/internal/core/pattern"
	"freshapron/internal/core/setting"
)

// A passage is a stretch of the method: a line, or several that go on in the
// middle of a sentence.
type passage struct {
	text   string
	lines  []int // of the source
	starts []int // where each line begins in the text
	adult  fit.Adult
	asks   string // what of it is only supposed
	whole  bool   // the minutes at its end are of all of it
}

// linesOf returns the lines of the source that a stretch of the passage has.
func (p passage) linesOf(from, to int) []int {
	var out []int
	for n, start := range p.starts {
		end := len(p.text)
		if n+1 < len(p.starts) {
			end = p.starts[n+1]
		}
		if from < end && start < to {
			out = append(out, p.lines[n])
		}
	}
	return out
}

// A clause says one thing to do, or one more thing about it.
type clause struct {
	from, to  int
	text      string
	opens     bool // it begins a sentence
	sentence  string
	verbs     []spoken
	spans     []duration.Span // from the beginning of the clause
	heats     []setting.Setting
	tooLong   []string // times that no lesson can hold
	meanwhile bool
	timer     bool // one is set for it, and nobody stands by
	adult     fit.Adult
}

// spoken is a verb in a clause.
type spoken struct {
	word string
	at   int
	verb
}

var (
	sentenceEnd = pattern.Must(`[.!?;](?:["')\]]*)(?:\s+|$)|\s+[-–—]{1,2}>?\s+|\s*(?:→|=>|•|\|)\s*|:\s+`)
	shortened   = pattern.Must(`(?i)(?:\b(?:approx|mins?|hrs?|secs?|tsp|tbsp|oz|lb|gr|no|mod|temp|deg|reg|e\.g|i\.e|etc|st|min|max|std|ca|env|bzw|o|u)|\d)\.$`)
	joints      = pattern.Must(`(?i),\s*(?:and\s+|or\s+)?(?:then\s+)?|\s+and\s+then\s+|\s+then\s+|\s+and\s+|\s*&\s*|\s+\+\s+|\s+before\s+|\s+(?:und|dann|och|sedan|puis|et)\s+|\s+(?:while|whilst)\s+|\)\s*,?\s*`)
	wordIn      = pattern.Must(`[\pL][\pL'-]*`)
	whileHead   = pattern.Must(`(?i)^(?:\W*)(?:meanwhile|in the meantime|in the meanwhile|at the same time|during this time|while (?:you(?:'re)? )?wait(?:ing)?|in der zwischenzeit|währenddessen|inzwischen|unterdessen|under tiden|pendant ce temps|entre-temps)\b[,:]?\s*`)
	whileClause = pattern.Must(`(?i)^(?:\W*)(?:while|whilst|as)\s+(?:(?:the|your|this|that|these|those)\s+(?:[\pL-]+\s+){1,3}?|it|they|that|this|everything|[\pL-]+\s+)\s*(?:is|are|'s|simmers?|cooks?|bakes?|chills?|rests?|rises?|proves?|boils?|cools?|stands?|soaks?|roasts?|steams?|sets?|heats?|freezes?|marinates?|has|have)\b[^,:.]*[,:]\s*`)
	whileAlone  = pattern.Must(`(?i)^\W*(?:while|whilst)\s+(?:(?:the|your|this|that|these|those)\s+(?:[\pL-]+\s+){1,3}?|it|they|everything)\s*(?:is|are|'s|simmers?|cooks?|bakes?|chills?|rests?|rises?|proves?|boils?|cools?|stands?|soaks?|roasts?|steams?|sets?|freezes?|marinates?)\b[^,:.]*$|^\W*(?:while|whilst)\s+(?:baking|cooking|simmering|waiting|roasting|boiling|chilling|proving|resting|cooling)\W*$`)
	whileDoing  = pattern.Must(`(?i)^\W*(?:while|whilst)\s+(?:baking|cooking|simmering|waiting|roasting|boiling|chilling|proving|resting|cooling)[,:]?\s+`)
	whileBare   = pattern.Must(`(?i)^(?:\W*)(?:while|whilst)\s+(?:the\s+|your\s+)?(?:[\pL-]+\s+){1,2}?(?:is |are )?(?:simmer|cook|bake|chill|rest|rise|prove|boil|cool|stand|soak|roast|steam|set)(?:s|ing)?\s+`)
	whileTail   = pattern.Must(`(?i)\b(?:while|whilst)\s+(?:baking|cooking|simmering|waiting|roasting|boiling|chilling|proving|resting)\b|\b(?:while|whilst)\s+(?:(?:the|your)\s+(?:[\pL-]+\s+){1,3}?|it|they|[\pL-]+\s+)\s*(?:is|are|simmers?|cooks?|bakes?|chills?|rests?|rises?|proves?|boils?|cools?|stands?|soaks?|roasts?|steams?|sets?|freezes?|marinates?)\b`)
)

// clauses takes a passage apart.
func clauses(p passage) []clause {
	var out []clause
	from := 0
	for from < len(p.text) {
		to, next := len(p.text), len(p.text)
		for _, m := range sentenceEnd.FindAllStringIndex(p.text[from:], -1) {
			if ends, ok := endsHere(p.text, from, from+m[0], from+m[1]); ok {
				to, next = ends, from+m[1]
				break
			}
		}
		out = append(out, within(p, from, to)...)
		from = next
	}
	return out
}

// heatEnds is how hot the oven is, where it is all that is said: "200 deg. cases in tins"; ofHeat goes
// on with it.
var (
	heatEnds = pattern.Must(`(?i)^\W*(?:oven )?(?:1[3-9]|2[0-4])[05] ?deg$`)
	ofHeat   = pattern.Must(`(?i)^(?:[cf]|fan|celsius|for|or|gas|in|oven|until|till?)\b`)
)

// endsHere reports whether a sentence ends at a mark, and where its words end.
func endsHere(text string, from, at, next int) (int, bool) {
	if at+1 < len(text) && text[at+1] == ')' && next < len(text) && digit(text[next]) { // "(soak wooden ones!) 10 min"
		return 0, false
	}
	switch c := text[at]; {
	case c == '.':
		if next < len(text) && shortened.MatchString(text[from:at+1]) && !startsUpper(text[next:]) && !(figureEnds.MatchString(text[from:at]) && (orders(text[next:]) || whileHead.MatchString(text[next:]))) && !(timeEnds.MatchString(text[from:at]) && digit(text[next])) && !(heatEnds.MatchString(text[from:at]) && !ofHeat.MatchString(text[next:])) && !countEnds.MatchString(text[from:at]) {
			return 0, false
		}
		return at + 1, true
	case c == '!' || c == '?' || c == ';':
		return at + 1, true
	case c == ':': // "Lesson 1: mix"
		label := strings.TrimSpace(text[from:at])
		head, _, _ := headVerb(label)
		return at, head == "" && !mentions(label, "while", "whilst") && len(strings.Fields(label)) <= 3 && len(duration.In(label)) == 0 && adultIn(text[from:next]) == fit.NoAdult
	default: // a dash or an arrow between two things to do, not in a range
		before, after := strings.TrimSpace(text[:at]), strings.TrimSpace(text[next:])
		if before == "" || after == "" || warns.MatchString(before) || settingOnly.MatchString(after) && preheating(text[from:at]) || (digit(before[len(before)-1]) || timeEnds.MatchString(before)) && digit(after[0]) {
			return 0, false
		}
		return at, true
	}
}

// startsHot is a setting and a time that stand for a bake: "180C 22 min", "180 (fan 160) for 12".
var startsHot = pattern.Must(`(?i)^\W*\d{3}\s*(?:(?:°\s*)?[CF]|°|deg(?:ree)?s?\.?(?: ?[CF])?)(?:\b|\s)\W*(?:for\s+)?\d+|^\W*(?:at )?(?:1[4-9]|2[0-4])[05] ?(?:\(?fan(?: ?1\d0)?(?: ?°? ?C)?\)?,? )?for \d+`)

// soLongAt is a time and a heat that stand for a bake: "15 mins at 220".
var soLongAt = pattern.Must(`(?i)^\W*(?:for )?\d{1,3}(?: ?(?:-|–|to) ?\d{1,3})? ?min\w*,?(?: (?:at|on|@))? (?:1[4-9]|2[0-4])[05](?: ?°? ?C)?\b`)

// deepFat is as hot as an oven, and so is sugar that browns.
var deepFat = pattern.Must(`(?i)\binto (?:the )?(?:(?:hot|deep) )*(?:oil|fat)\b|\bfat fryer\b|\bcaramel\b`)

// cookAt is a heat at which only an oven cooks: "cook at 180 for 12 minutes", "cook 180 15 mins".
var cookAt = pattern.Must(`(?i)\bcook(?:ed|ing)?\b[^.;]*\b(?:at|on) (?:(?:1[4-9]|2[0-4])[05] ?(?:°|º|degrees?|deg)? ?(?:c|celsius)?|(?:3\d|4[0-5])[05] ?(?:°|º|degrees?|deg)? ?(?:f|fahrenheit))(?:[ .,;)]|$)|^\W*cook (?:1[4-9]|2[0-4])[05] ?(?:°|º)?c?(?: fan)?,? (?:for )?\d+ ?(?:(?:-|–|to) ?\d+ ?)?min`)

// heatAndTime is a heat of ovens beside a time: "bain-marie, 140 °C 35–40 min".
var heatAndTime = pattern.Must(`(?i)\b(?:1[0-9]|2[0-4])[05] ?° ?C?,? (?:for )?\d{1,3}(?: ?(?:-|–|to) ?\d{1,3})? ?min`)

// ofOven reports whether a sentence is about an oven, which it may not name.
func ofOven(sentence string) bool {
	return setting.Oven(sentence) || !deepFat.MatchString(sentence) && slices.ContainsFunc([]*pattern.Pattern{startsHot, soLongAt, cookAt, heatAndTime}, func(form *pattern.Pattern) bool { return form.MatchString(sentence) })
}

// settingOnly is how hot an oven is to be, and nothing else: "Oven on - 210C, fan 190C".
var settingOnly = pattern.Must(`(?i)^(?:(?:\d{3}|fan|gas(?: mark)?|gm|mark|\d{1,2}|°|º|degrees?|deg|[CF]|or|/|\(|\)|,|-)\s*)+(?:[.!]|$)`)

// countEnds is the end of a sentence about so many: "cut out 8. 10-12 mins".
var countEnds = pattern.Must(`(?i)\b(?:out|into|in|makes?|about) \d{1,2}$`)

var figureEnds = pattern.Must(`(?i)(?:\d|\d\s*(?:mins?|hrs?|secs?))$`)

var timeEnds = pattern.Must(`(?i)\d\s*(?:mins?|minutes?|hrs?|hours?|h)$`)

// orders reports whether a text begins with what is to be done, as a sentence in small
// letters does.
func orders(text string) bool {
	verb, at, gerund := headVerb(text)
	return verb != "" && at == 0 && !gerund
}

func digit[T byte | rune](c T) bool { return c >= '0' && c <= '9' }

func startsUpper(s string) bool {
	for _, r := range s {
		return unicode.IsUpper(r)
	}
	return false
}

// within takes a sentence apart where another verb says what to do next.
func within(p passage, from, to int) []clause {
	var out []clause
	start := from
	spans := duration.In(p.text[from:to])
	oven := ofOven(p.text[from:to])
	add := func(end int) {
		if c, ok := newClause(p, start, end, oven, shifted(spans, from)); ok {
			c.opens, c.sentence = len(out) == 0, p.text[from:to]
			out = append(out, c)
		}
	}
	sentence := p.text[from:to]
	if n := beside(sentence); n > 0 { // the joints inside are part of the subordinate clause
		sentence = strings.Repeat(" ", n) + sentence[n:]
	}
	depth := brackets(sentence)
	for _, m := range joints.FindAllStringIndex(sentence, -1) {
		joint := strings.ToLower(strings.TrimSpace(sentence[m[0]:m[1]]))
		if depth[m[0]] > 0 || from+m[1] >= to || from+m[0] <= start {
			continue
		}
		rest := sentence[m[1]:]
		head, at, gerund := headVerb(rest)
		if head == "" {
			if further.MatchString(rest) && joint != "" && !strings.HasPrefix(joint, ")") && !unended.MatchString(sentence[:m[0]]) {
				add(from + m[0])
				start = from + m[1]
			}
			continue
		}
		if (head == "tidy" || head == "dry") && leftClean.MatchString(sentence[:m[1]]) {
			continue // "leave your bench clean and tidy"
		}
		if head == "brown" && colour.MatchString(sentence[:m[1]]) {
			continue
		}
		if edible[head] && !strings.HasSuffix(joint, "then") && !article.MatchString(rest[at:]) {
			continue // "the butter and flour"
		}
		if gerund && (strings.HasPrefix(joint, ",") || attending[head] || len(duration.In(upTo(rest[at:]))) == 0) {
			continue
		}
		if strings.HasPrefix(joint, "while") || strings.HasPrefix(joint, "whilst") || joint == "before" && !gerund {
			continue
		}
		add(from + m[0])
		start = from + m[1]
	}
	add(to)
	return out
}

// leftClean says how something is to be left.
var leftClean = pattern.Must(`(?i)\b(?:leav(?:e|ing)|left|keep|is|are)\b[^.;]*\bclean,?\s+(?:(?:and|&)\s+)?$`)

// further begins a stretch that goes on in another way: "then 45 minutes at
// 160", "then into the fridge for an hour".
var further = pattern.Must(`(?i)^(?:(?:about |for )?\d+(?:\s*(?:-|–|to)\s*\d+)?\s*(?:min|minutes|mins|hours?|hrs?)\b|(?:for\s+)?(?:a\s+further|another)\s+\d|(?:in(?:to)? (?:the )?)?oven,? (?:at |on )?(?:gas (?:mark )?\d|\d{3})[^.,;]{0,12} for [^.,;]{0,12}\d ?min|(?:at )?(?:1[4-9]|2[0-4])[05] ?(?:° ?C?\b|C\b)? ?(?:\(?fan(?: ?1\d0)?(?: ?°? ?C)?\)?,? )?for \d|into the (?:oven|fridge|freezer)|in the (?:oven|fridge|freezer) for|(?:fridge|freezer) (?:overnight|(?:for )?\d)|under the grill|(?:a )?further \d+ min)`)

// unended is a range whose end is to come.
var unended = pattern.Must(`(?i)\b(?:between\s+\S+|\d\s*(?:hours?|hrs?))$`)

// attending are verbs that say how something is cooked meanwhile.
var attending = wordSet("stir turn baste shake toss whisk beat flip brush skim rotate break mash press scrape move")

// brackets returns how deep in brackets each byte stands.
func brackets(s string) []int {
	out := make([]int, len(s)+1)
	depth := 0
	for i := range len(s) {
		switch s[i] {
		case '(', '[':
			depth++
		case ')', ']':
			depth = max(0, depth-1)
		}
		out[i] = depth
	}
	if depth > 0 { // never closed
		clear(out)
	}
	return out
}

// upTo is a text up to where its sentence goes on to something else.
func upTo(s string) string {
	if i := strings.IndexAny(s, ".;"); i >= 0 {
		return s[:i]
	}
	return s
}

// headVerb returns the verb at the head of a text, behind adverbs, where it
// stands, and whether it is in its -ing form.
func headVerb(s string) (word string, at int, gerund bool) {
	if m := whoDoes.FindStringSubmatchIndex(s); m != nil {
		if base, ok := thirdPerson(s, m[2], strings.ToLower(s[m[2]:m[3]])); ok {
			return base, m[2], false
		}
	}
	for n, m := range wordIn.FindAllStringIndex(s, 4) {
		if between := strings.TrimSpace(s[:m[0]]); n == 0 && strings.Trim(between, "(\"'*-–—") != "" {
			return "", 0, false
		}
		w := strings.ToLower(s[m[0]:m[1]])
		if base, ok := verbIn(s, m[0], w); ok {
			return base, m[0], strings.HasSuffix(w, "ing") && !strings.HasPrefix(base, w)
		}
		if !strings.HasSuffix(w, "ly") && !heads[w] && w != "in" && w != "very" {
			return "", 0, false
		}
		if strings.ContainsAny(s[:m[0]], ".;:") {
			return "", 0, false
		}
	}
	return "", 0, false
}

var determiner = pattern.Must(`(?i)^[\pL'-]+\s+(?:and\s+[\pL'-]+\s+)?(?:the|a|an|your|it|them|each|this|some|any|both|everything|two|four|off|out|up|in|into|with|w|over|on|all|together|for|to|down|\d|until|aside|well|halves|when|once|oven|tin|tray|onions?|carrots?|potato(?:es)?|apples?|peppers?|vegetables?|veg|chicken|cheese|gently|lightly|till|dough|pastry|mixture|butter|marg(?:arine)?|fats?|lard|tins?|dish(?:es)?|ramekins?|moulds?|hands|board|surface|worktop|lemons?|limes?|garlic|ginger|fillets?|bananas?|swede|parsnips?|turnips?|avocados?)`)

// article follows a verb whose word is an ingredient.
var article = pattern.Must(`(?i)^[\pL'-]+\s+(?:and (?:line|flour|sugar|base)|marg(?:arine)?|fats?|lard|the|a|an|your|it|them|each|two|both|lightly|well|generously|together|\d)\b`)

// doneTo follows a verb whose word is a thing too, and no ingredient: "grill sausages".
var doneTo = pattern.Must(`(?i)^stew w(?:ith)?\b|^(?:grill|toast|mash|season|score|roll|stack|core|stone|skin|quarter|grind|pound|crumble)\s+(?:\pL+ )?(?:sausages?|bacon|burgers?|halloumi|tomato(?:es)?|mushrooms?|aubergines?|courgettes?|corn|fish|salmon|prawns?|meat|beef|lamb|pork|steaks?|tofu|skewers?|kebabs?|koftas?|bread|breadcrumbs|buns?|baps?|rolls?|muffins?|pittas?|naans?|wraps?|tortillas?|crumpets?|slices?|nuts|almonds|hazelnuts|walnuts|cashews|seeds|spices|oats|coconut|pears?|plums?|peaches|pineapple|mangoe?s?|beans|chickpeas|biscuits?|strips?|sheets?)\b`)

// edible are the foods that recipes list.
var edible = wordSet("butter oil flour salt cream ice juice zest mince crumble mash stew batter marinade puree purée")

// verbIn reports whether the word at a place is a verb there, and its base.
func verbIn(s string, at int, w string) (string, bool) {
	for _, two := range pairs[w] { // "pressure cook", "wash up"
		if strings.HasPrefix(strings.ToLower(s[at:]), two) {
			return two, true
		}
	}
	base, ok := baseForm(w)
	if !ok {
		base, ok = thirdPerson(s, at, w)
	}
	alone := verbs[base].on != "" && strings.Trim(s, " .,!:;") == s[at:at+len(w)]
	if !ok || foods[base] && !alone && !determiner.MatchString(s[at:]) && !doneTo.MatchString(s[at:]) {
		return "", false
	}
	for _, sense := range senses[base] {
		if sense.when.MatchString(s[at:]) {
			return sense.is, sense.is != ""
		}
	}
	return base, true
}

// thirdPerson is the base form of what somebody who is named does: "Sam washes the grapes".
func thirdPerson(s string, at int, w string) (string, bool) {
	if !somebody.MatchString(s[:at]) || !determiner.MatchString(s[at:]) {
		return "", false
	}
	for _, base := range []string{strings.TrimSuffix(w, "s"), strings.TrimSuffix(w, "es")} {
		if _, ok := verbs[base]; ok && !foods[base] {
			return base, true
		}
	}
	return "", false
}

// who does a thing, where a line begins with it.
const who = `^\W*(?:\p{Lu}\p{Ll}+|(?i:he|she|everyone|everybody|someone|one(?: person| pupil)?|the other|(?:your )?partner(?: [a-d1-4])?|pupil [a-d1-4]|learner [a-d1-4]|cook [a-d1-4]|(?:the |a )?(?:teacher|technician|grown[- ]?up|adult)))\s+`

var (
	somebody = pattern.Must(who + `$`)
	whoDoes  = pattern.Must(who + `(\p{Ll}+s) `)
)

// colour stands before a "brown" that is none: "crisp and brown".
var colour = pattern.Must(`(?i)\b(?:crisp|golden|melted|risen|puffed|bubbling|hot|soft|firm|set|cooked|done) (?:and|&)\s*$`)

// pairs are the verbs of two words by their first.
var pairs = func() map[string][]string {
	m := map[string][]string{}
	for w := range verbs {
		if first, _, ok := strings.Cut(w, " "); ok {
			m[first] = append(m[first], w)
		}
	}
	return m
}()

var toTheBoil = pattern.Must(`(?i)\b(?:to|on) (?:(?:the|a) )?(?:rolling |gentle |full |rapid )?(boil|simmer)\b`)

// shifted moves times to where the sentence begins in its passage.
func shifted(list []duration.Span, by int) []duration.Span {
	out := slices.Clone(list)
	for i := range out {
		out[i].From, out[i].To = out[i].From+by, out[i].To+by
	}
	return out
}

// newClause reads a stretch of a passage; ok is false where it is empty.
func newClause(p passage, from, to int, oven bool, spans []duration.Span) (clause, bool) {
	for from < to && strings.ContainsRune(" ,;:.-)", rune(p.text[from])) {
		from++
	}
	for from < to && p.text[to-1] == ' ' {
		to--
	}
	if from >= to {
		return clause{}, false
	}
	c := clause{from: from, to: to, text: p.text[from:to], adult: p.adult}
	body := c.text
	if n := beside(body); n > 0 {
		c.meanwhile = true
		body = strings.Repeat(" ", n) + body[n:]
	}
	if at := alsoTail.FindStringSubmatchIndex(body); at != nil {
		c.meanwhile = true
		body = body[:at[2]] + strings.Repeat(" ", len(body)-at[2])
	}
	if at := whileIn(body); at != nil && strings.TrimSpace(body[:at[0]]) != "" {
		c.meanwhile = true
		body = body[:at[0]] + strings.Repeat(" ", len(body)-at[0])
	}
	if a := adultIn(c.text); a != fit.NoAdult && c.adult != fit.Does {
		c.adult = a
	}
	if !forbids.MatchString(body) {
		c.verbs = verbsIn(body)
	}
	c.verbs = withoutAside(body, c.verbs, spans, from)
	c.heats = setting.Beside(c.text, oven)
	for _, d := range spans {
		if d.From < from || d.To > to || strings.TrimSpace(body[d.From-from:min(d.To-from, len(body))]) == "" {
			continue
		}
		d.From, d.To = d.From-from, d.To-from
		if inTotal.MatchString(body[d.To:]) {
			continue // "45 min total" is not what this takes
		}
		night := strings.EqualFold(body[d.From:d.To], "overnight") // which is better, or for whoever has it
		if len(c.spans) > 0 && (night || otherwise.MatchString(body[c.spans[len(c.spans)-1].To:d.From])) {
			continue // "3 hours, or overnight": the first is taken
		}
		if !d.Inside && d.Most.Cmp(exact.Int(fit.MaxMinutes)) > 0 {
			c.tooLong = append(c.tooLong, strings.TrimSpace(body[d.From:d.To]))
		}
		if !d.Inside && d.Most.Cmp(exact.Int(fit.MaxMinutes)) <= 0 {
			c.spans = append(c.spans, d)
		}
	}
	return c, true
}

var inTotal = pattern.Must(`(?i)^ (?:(?:in )?(?:total|altogether|all told)|left|to go|remaining)\b`)

// withoutAside leaves out the verbs in brackets where a time stands outside them and no verb
// does, "25 min (toss halfway)", or one that says what the time is of: "Shape into 8 (soak the
// skewers first), 10 min".
func withoutAside(body string, verbs []spoken, spans []duration.Span, from int) []spoken {
	depth := brackets(body)
	outside := func(at int) bool { return at >= 0 && at < len(body) && depth[at] == 0 }
	if !slices.ContainsFunc(spans, func(d duration.Span) bool { return outside(d.From - from) }) {
		return verbs
	}
	out := slices.DeleteFunc(slices.Clone(verbs), func(v spoken) bool { return !outside(v.at) })
	if len(out) == 0 || slices.ContainsFunc(out, func(v spoken) bool { return v.kind != fit.Prepare }) {
		return out
	}
	return verbs
}

// alsoTail says at the end that something else goes on: "wash up meanwhile".
var alsoTail = pattern.Must(`(?i)\pL,? ((?:in the )?(?:meanwhile|meantime))\W*$`)

// warns ends with a word behind which a danger is named.
var warns = pattern.Must(`(?i)\b(?:careful|caution|beware|warning|watch out|take care)$`)

// forbids begins what is not to be done, or a danger: "don't let it boil", "careful - steam".
var forbids = pattern.Must(`(?i)^\W*(?:be |take )?(?:careful|caution|beware|warning|watch out|care)\b|(?i)^\W*(?:(?:but|and|please|just) )?(?:do not|don'?t|don’t|never|avoid) \pL`)

var determiners = wordSet("the a an of your this for with in")

// letting reports whether what was found says that something is let be.
func letting(list []spoken) bool {
	return len(list) > 0 && slices.Contains([]string{"let", "leave", "allow", "put"}, list[len(list)-1].word)
}

var otherwise = pattern.Must(`(?i)^[\s,(]*(?:or|or even|or ideally|or preferably|or better|ideally|preferably|or up to|up to|or until|or for up to|or by)\s*(?:by machine\s*)?(?:for\s+)?$`)

// mentions reports whether a text has one of some words in it, as itself or as part of another.
func mentions(s string, words ...string) bool {
	low := strings.ToLower(s)
	return slices.ContainsFunc(words, func(w string) bool { return strings.Contains(low, w) })
}

// whileIn is where the end of a text says what goes on meanwhile.
func whileIn(s string) []int { return whileTail.FindStringIndex(s) }

// beside returns how much of the beginning of a text says that it is done
// while something else goes on.
func beside(s string) int {
	for _, form := range []*pattern.Pattern{whileBare, whileDoing} { // "While the rice cooks slice the pepper"
		if m := form.FindString(s); m != "" {
			if head, _, _ := headVerb(s[len(m):]); head != "" {
				return len(m)
			}
		}
	}
	if whileAlone.MatchString(s) && !stillSo.MatchString(s) {
		return len(s)
	}
	if m := whileHead.FindString(s); m != "" {
		return len(m)
	}
	if stillSo.MatchString(s) { // it is over
		return 0
	}
	return len(whileClause.FindString(s))
}

// stillSo says how a thing is when what follows is done: "whilst the bread is still hot".
var stillSo = pattern.Must(`(?i)^\W*(?:while|whilst|as) [^,.]*\b(?:hot|warm|cold|soft|wet|moist)\b`)

// led are the last words of what leads to an order without a comma, as leads has it: "once the
// onions are soft add the mince", "in a large bowl mix the flour".
var (
	led   = wordSet("soft hot boiling melted golden done cooked ready cool cold brown browned thick tender risen heat bowl pan saucepan jug knife fork spoon whisk board tin tray wok dish oil butter mixer processor blender cutter pin scissors brush that batches hands")
	leads = pattern.Must(`(?i)^\W*(?:with (?:damp|wet|wetted|floured|oiled|clean) hands|(?:once|when|as soon as) [^,;.]*|off the heat|after that|in batches|in (?:[\pL-]+ )?(?:bowl|jug|pan|saucepan|wok|mixer|processor|blender)|(?:in|on|using|with|over) (?:an?|the|your|another) [^,;.]{3,40}) $`)
)

// waits are verbs wherever a time follows them, as soLong has it: "shape into patties chill 10 min".
var waits = wordSet("chill rest prove bake simmer")

var soLong = pattern.Must(`(?i)^ (?:for )?(?:about )?\d+(?: ?(?:-|–|to) ?\d+)? ?min`)

// verbsIn finds the verbs of a clause, in order.
func verbsIn(s string) []spoken {
	var out []spoken
	before, earlier := "", ""
	end := 0
	for _, m := range wordIn.FindAllStringIndex(s, -1) {
		w := strings.ToLower(s[m[0]:m[1]])
		base, ok := verbIn(s, m[0], w)
		gap := strings.TrimSpace(s[end:m[0]])
		head := before == "" || heads[before] || strings.HasSuffix(before, "ly") || strings.ContainsAny(gap, ",:(–—-")
		head = head || led[before] && leads.MatchString(s[:m[0]]) || ok && waits[base] && before != "the" && soLong.MatchString(s[m[1]:])
		noun := before == "to" && (w == "taste" || w == "serve" || w == "finish" || w == "garnish" || w == "decorate" || w == "cover" || w == "coat" || w == "dust" || w == "make" || w == "use" || w == "form" || w == "combine" || w == "brown")
		if (before == "should" || before == "must" || before == "will") && earlier != "" && !heads[earlier] { // “the edges should set”
			ok = false
		}
		if earlier == "before" && (before == "you" || before == "we" || before == "they") && len(duration.In(s[m[1]:])) == 0 && len(setting.In(s[m[1]:])) == 0 {
			ok = false // “clean up before you leave”
		}
		if edible[base] && len(out) > 0 && !article.MatchString(s[m[0]:]) {
			ok = false
		}
		if !head && (verbs[base].idle || verbs[base].kind == fit.Cook && base != "warm" && base != "brown" && base != "heat") && letting(out) && !determiners[before] {
			head = true // "let the lamb rest"
		}
		if base == "brown" && colour.MatchString(s[:m[0]]) { // "puffed & brown"
			ok = false
		}
		_, order := verbs[w] // in the form of an order, whatever it stands for
		if ok && out == nil && strings.HasSuffix(w, "s") && somebody.MatchString(s[:m[0]]) {
			order, head = true, true
		}
		if ok && (head && !noun || foreign[w]) && (order || strings.HasPrefix(base, w) || len(duration.In(s[m[1]:])) > 0 && (len(out) == 0 || !attending[base])) {
			out = append(out, spoken{base, m[0], verbs[base]})
		}
		earlier, before, end = before, w, m[1]
	}
	if m := toTheBoil.FindStringSubmatchIndex(s); m != nil {
		w := strings.ToLower(s[m[2]:m[3]])
		v := verbs[w]
		v.wait = 4 // to come to the boil
		out = append(out, spoken{w, m[0], v})
	}
	for i := range out {
		for k := i; k > 0 && out[k].at < out[k-1].at; k-- {
			out[k], out[k-1] = out[k-1], out[k]
		}
	}
	return out
}
