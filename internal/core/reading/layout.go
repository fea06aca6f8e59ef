package reading

import (
	"fmt"
	"slices"
	"strconv"
	"strings"

	"freshapron/internal/core/duration"
	"freshapron/internal/core/measure"
	"freshapron/internal/core/pattern"
)

// layOut brings what people lay out in columns and by the clock into lines of one
// thing each. What a line is stays open, but where its column or the clock says it.
func (r *reader) layOut() {
	r.furniture()
	r.lookAlikes()
	r.hanging()
	for n := range r.lines {
		if r.lines[n].quiet == "" {
			if seasoning.MatchString(r.lines[n].item) {
				r.lines[n] = made(r.lines[n], "salt and pepper", preface)
			}
			for _, s := range []*string{&r.lines[n].text, &r.lines[n].item} {
				*s = bakedBehind.ReplaceAllString(untilBare.ReplaceAllString(asOrder(*s), "$1 min $2"), "${1}bake at ${2}C for $3")
			}
			if l := r.lines[n]; chosen.MatchString(l.text) {
				r.asked = append(r.asked, Unread{l.at, l.text, "all of these are in the list: which of them are chosen?"})
			}
			if l := &r.lines[n]; shared.MatchString(l.text) {
				r.asked = append(r.asked, Unread{l.at, l.text, "it is shared: how much is for one of them?"})
				l.text, l.item = shared.ReplaceAllString(l.text, ""), shared.ReplaceAllString(l.item, "")
			}
			if l := &r.lines[n]; spoonOf.MatchString(l.item) {
				l.item = r.oneSpoon(l.at, l.item)
				l.text = l.item
			}
			r.lines[n].telegraphed()
			r.lines[n].minutesAhead()
			r.lines[n].symbols()
			r.forWhom(&r.lines[n])
		}
	}
	r.forTwoOrFour()
	r.numberedWork()
	r.arrows()
	bracketed(r.lines)
	r.lines = r.counted(timed(r.tables(inline(r.sentences(r.lines)))))
}

// numberedWork puts lines that are numbered one after another into the method where most of them say what to do:
// “1. kettle on; pasta in boiling water” is no ingredient then.
func (r *reader) numberedWork() {
	for n := 0; n < len(r.lines); n++ {
		count, orders, foods := 0, 0, 0
		last := n
		for ; last < len(r.lines) && placeOf(r.lines[last]) == count+1; last++ {
			count++
			if item := r.lines[last].item; isVerb(firstWord(item)) {
				orders++
			} else if r.certain(item) {
				foods++
			}
		}
		if count < leastRun || 2*orders < count || foods > 1 {
			continue
		}
		for k := n; k < last; k++ {
			if l := &r.lines[k]; l.is == preface && l.quiet == "" && r.amounts(*l) {
				l.is = method
			}
		}
		n = last - 1
	}
}

// placeOf returns the number of a numbered line; 0 where it has none.
func placeOf(l line) int {
	if m := dotted.FindStringSubmatch(l.text); l.numbered && m != nil {
		n, _ := strconv.Atoi(m[1])
		return n
	}
	return 0
}

// lookAlikes writes figures for the letters that stand for them outside the list, where the list has
// such, and asks: "Makes l2", "bake for 2O minutes".
func (r *reader) lookAlikes() {
	wrong := 0
	for _, l := range r.lines {
		if _, _, ok := misprintIn(l.item); ok && l.quiet == "" {
			wrong++
		}
	}
	if wrong < leastRun {
		return
	}
	for n := range r.lines {
		l := &r.lines[n]
		if _, _, ok := misprintIn(l.item); ok || l.quiet != "" {
			continue
		}
		var taken []string
		for _, figure := range lookAlike.FindAllString(l.text, -1) {
			taken = append(taken, figure+" is read as "+looksLike.Replace(figure))
		}
		if taken != nil {
			l.asks = strings.Join(taken, " and ") + ": is that right?"
		}
		for _, s := range []*string{&l.text, &l.item} {
			*s = lookAlike.ReplaceAllStringFunc(*s, looksLike.Replace)
		}
	}
}

// lookAlike is a figure of letters and digits; "2l" is two litres.
var lookAlike = pattern.Must(`\b(?:[lI][\dO]+|\d+[IO][\dIO]*|\d+l\d[\dlIO]*)\b`)

// hanging joins what was broken at the end of a line: a word, "sul-" over "tanas", and an ingredient
// that goes on, "2 carrots, peeled and" over "grated".
func (r *reader) hanging() {
	for n := 0; n+1 < len(r.lines); n++ {
		l, next := &r.lines[n], &r.lines[n+1]
		first, rest, _ := strings.Cut(next.text, " ")
		if l.quiet != "" || next.quiet != "" || next.gap || next.marked || isVerb(strings.ToLower(firstWord(first))) {
			continue
		}
		if m := brokenWord.FindStringSubmatch(l.text); m != nil && lowWord.MatchString(first) && !keptHyphen[strings.ToLower(m[1])] {
			l.text, l.item = strings.TrimSuffix(l.text, "-")+first, strings.TrimSuffix(l.item, "-")+first
			next.text, next.item = rest, rest
		} else if openEnd.MatchString(l.item) && lowWord.MatchString(first) && !figure.MatchString(next.text) && len(strings.Fields(next.text)) <= mostHanging && r.amounts(*l) && !r.known(next.text) {
			l.text, l.item = l.text+" "+next.text, l.item+" "+next.text
			next.text = ""
		}
		if next.text == "" {
			r.Headings = append(r.Headings, next.at) // nothing is left in it
			r.lines = slices.Delete(r.lines, n+1, n+2)
		}
	}
}

// mostHanging is how many words an ingredient goes on with.
const mostHanging = 5

var (
	brokenWord = pattern.Must(`\b(\pL{2,})-$`)
	lowWord    = pattern.Must(`^\p{Ll}{2,}\W*$`)
	openEnd    = pattern.Must(`(?i)(?:\b(?:and|or|with)|,)$`)
	keptHyphen = wordSet("self semi all extra non pre re half low full oven air long short well medium free wood fat one two three")
)

// chosen begins a line of which learners choose: “Choose THREE veg: pepper, carrot, …”.
var chosen = pattern.Must(`(?i)^\W*(?:choose|pick|select) (?:any |up to )?(?:\d|one|two|three|four)\b[^:.]{0,30}[:–-]`)

// shared says that several benches work from one: "(1 between 4)".
var shared = pattern.Must(`(?i)\s*\((?:to )?(?:1|one|share|shared)(?: (?:egg|tin|pack|it))? between (?:\d|two|three|four|pairs|tables|benches)\b[^()]*\)`)

// arrows parts what is taken from what is done with it: "175 g chocolate, 175 g butter -> melt
// together".
func (r *reader) arrows() {
	for n := 0; n < len(r.lines); n++ {
		l := r.lines[n]
		if l.quiet != "" {
			continue
		}
		m := thenDone.FindStringSubmatch(l.item)
		if m == nil || !isVerb(firstWord(m[2])) || !r.certain(m[1]) && !r.eachAmount(m[1]) {
			continue
		}
		r.lines = slices.Replace(r.lines, n, n+1, made(l, m[1], preface), made(l, m[2], method))
		n++
	}
}

var thenDone = pattern.Must(`^(.+?)\s*(?:-+>|→|=+>)\s*(\pL.*)$`)

// untilBare is a stretch of minutes without the word: "boil 15–20 until soft".
var untilBare = pattern.Must(`(?i)(\b(?:boil|simmer|bake|cook|fry|roast|steam|grill|chill|prove|rest) \d{1,2} ?[-–] ?\d{1,2}) ((?:until|till?)\b)`)

// bakedBehind is a bake of its heat and its minutes: "lay on a tray, 200c 12-15 min".
var bakedBehind = pattern.Must(`(?i)([,;] )((?:1[4-9]|2[0-4])[05]) ?c,? (?:for )?(\d{1,2}(?: ?[-–] ?\d{1,2})? ?min)`)

// telegraphed writes the minutes out where a line goes through a method in words and bare
// figures, and asks: "mix 3, knead 10, shape, prove 20, bake 220 for 12".
func (l *line) telegraphed() {
	out := func(s string) string {
		s = waitAlone.ReplaceAllString(moreAlone.ReplaceAllString(s, "$1 min $2"), "$1 min $2")
		s = backAlone.ReplaceAllString(s, "$1 for $2 min $3")
		s = lidAlone.ReplaceAllString(s, "$1 $2 min")
		s = sideAlone.ReplaceAllString(s, "$1 min $2")
		s = heatAlone.ReplaceAllString(s, "${1}Bake at ${2}C for $3 min")
		s = heatSlash.ReplaceAllString(s, "${1}Bake at ${2}C for $3")
		s = heatSlashes.ReplaceAllString(s, "Bake at ${1}C for $2 min, ")
		if len(wordAndFigure.FindAllString(s, leastRun)) >= leastRun {
			s = wordAndFigure.ReplaceAllString(heatAndFigure.ReplaceAllString(s, "$1 for $2 min"), "$1 min$2")
		}
		return heatFor.ReplaceAllString(s, "$1 min$2")
	}
	if text := out(l.text); text != l.text {
		l.asks = fmt.Sprintf("the bare figures of “%s” are read as minutes: is that right?", changed(l.text, text))
		l.text, l.item = text, out(l.item)
	}
}

// changed returns the words of a long text round what differs in another, and all of a short one.
func changed(text, other string) string {
	const short, around = 90, 24
	if len(text) <= short {
		return text
	}
	from, to, end := 0, len(text), len(other)
	for from < min(to, end) && text[from] == other[from] {
		from++
	}
	for to > from && end > from && text[to-1] == other[end-1] {
		to, end = to-1, end-1
	}
	from = max(0, strings.LastIndexByte(text[:max(0, from-around)], ' ')) // whole words
	if next := strings.IndexByte(text[min(len(text), to+around):], ' '); next >= 0 {
		to = min(len(text), to+around) + next
	} else {
		to = len(text)
	}
	return strings.TrimSpace(text[from:to])
}

var (
	wordAndFigure = pattern.Must(`(?i)\b((?:mix|knead|prove|rest|bake|cook|boil|simmer|fry|chill|cool|roast|steam|grill|rise|soak|whisk|beat|cream|stand|brown|sweat|toast|blend) \d{1,2})(\s*(?:[(,;.]|$))`)
	moreAlone     = pattern.Must(`(?i)\b((?:another|a further|further) \d{1,3}) ((?:until|till?|or so)\b)`)
	waitAlone     = pattern.Must(`(?i)\b((?:prove|proof|rise|rest|chill|cool|simmer|marinate|soak|steam|stand) (?:for )?\d{1,3}) ((?:on|in|at|over|under|by|somewhere) )`)
	backAlone     = pattern.Must(`(?i)\b(back in(?: the oven)?)(?: for)? (\d{1,2}(?: ?[-–] ?\d{1,2})?) (until|till?)\b`)
	lidAlone      = pattern.Must(`(?i)\b((?:cover|lid on|covered|stand),) (\d{1,2})\.?$`)
	sideAlone     = pattern.Must(`(?i)\b((?:fry|grill|cook|brown|sear|griddle) \d{1,2}) ((?:each|a|per) side)\b`)
	heatAlone     = pattern.Must(`(?i)(^|, |; |\. |\bthen )((?:1[4-9]|2[0-4])0) for (\d{1,2}(?: ?[-–] ?\d{1,2})?)(?:\s*mins?)?\b`)
	heatSlashes   = pattern.Must(`^((?:1[4-9]|2[0-4])0) ?/ ?(\d{1,2}(?: ?[–-] ?\d{1,2})?) ?/ ?`)
	heatSlash     = pattern.Must(`(?i)^(\d{1,2}[.)] )?((?:1[4-9]|2[0-4])0) ?[/,] ?(\d{1,2}(?: ?[–-] ?\d{1,2})? ?min)`)
	heatFor       = pattern.Must(`(?i)(\b(?:to|at|oven|bake|roast|cook) (?:1[4-9]|2[0-4])[05](?: ?°?C)? for \d{1,2})(\s*(?:[.,;)]|$))`)
	heatAndFigure = pattern.Must(`(?i)\b((?:bake|roast|cook|oven) \d{3}) (?:for )?(\d{1,2})\b`)
)

// seasoning is salt and pepper, in short.
var seasoning = pattern.Must(`(?i)^(?:s ?(?:&|\+|n|and) ?p|seasoning)\.?$`)

// bracketed reads bare figures in brackets behind numbered steps as their minutes, where
// most have them: "3. Dice the cheese. (8)".
func bracketed(lines []line) {
	var at []int
	numbered := 0
	for n, l := range lines {
		if l.numbered && l.quiet == "" {
			numbered++
			if minutesBehind.MatchString(l.item) {
				at = append(at, n)
			}
		}
	}
	if len(at) < leastRun || 3*len(at) < 2*numbered {
		return
	}
	for _, n := range at {
		m := minutesBehind.FindStringSubmatch(lines[n].item)
		lines[n].item = lasting(m[1], m[2])
	}
}

var minutesBehind = pattern.Must(`^(.+?)\s*\((\d{1,2})\)$`)

// minutesAhead takes the minutes that stand in brackets before a step for those of all of it:
// "Step 1 (5 min): Peel and chop the potatoes".
func (l *line) minutesAhead() {
	m := minutesFirst.FindStringSubmatch(l.item)
	if m == nil || len(verbsIn(m[2])) == 0 && beside(m[2]) == 0 {
		return
	}
	first, rest := m[2], ""
	if at := besideBehind.FindStringIndex(m[2]); at != nil { // which goes on in these minutes
		first, rest = m[2][:at[0]], m[2][at[0]+1:]
	}
	if step := lasting(first, m[1]); step != first {
		*l = made(*l, step+rest, method)
		l.whole = rest == ""
	}
}

var besideBehind = pattern.Must(`(?i)[.;,] (?:meanwhile|in the meantime|while|whilst)\b`)

var minutesFirst = pattern.Must(`(?i)^\((\d{1,3}(?: ?[-–] ?\d{1,3})? ?(?:minutes|mins?|m))\)\s*[:.–-]?\s*(\pL.*)$`)

// forWhom takes "(each child) 4 strawberries · 4 grapes" apart.
func (r *reader) forWhom(l *line) {
	m := whomAhead.FindStringSubmatch(l.text)
	if m == nil {
		return
	}
	head := made(*l, m[1], preface)
	r.forOne(&head)
	*l = made(*l, m[2], preface)
}

var whomAhead = pattern.Must(`(?i)^\(((?:each|per|for each) (?:pair|pupil|student|learner|child|person))\)\s*(.+)$`)

// symbols turns a list whose things are the names of pictures: "[potato] 2  [leek] 1".
func (l *line) symbols() {
	if len(symbol.FindAllString(l.text, 3)) < 3 {
		return
	}
	*l = made(*l, strings.TrimRight(symbol.ReplaceAllString(l.text, "$2 $1; "), "; "), preface)
}

var symbol = pattern.Must(`\[([\pL ]{3,24})\]\s*((?:\d|[½¼])[^\[]*)`)

// sentences takes a message apart that holds the list in one of its sentences: "The
// recipe: 200 g flour, 40 g butter, 125 ml milk. Makes 6. Rub in …"
func (r *reader) sentences(lines []line) []line {
	if len(lines) > longMessage {
		return lines
	}
	var out []line
	for _, l := range lines {
		if l.quiet != "" || l.marked {
			out = append(out, l)
			continue
		}
		parts := strings.Split(fullStop.ReplaceAllString(l.text, "$1\n"), "\n")
		listed := slices.ContainsFunc(parts, func(p string) bool {
			_, behind, _ := strings.Cut(p, ": ")
			if m := youWant.FindStringSubmatch(strings.TrimRight(p, ". ")); m != nil {
				behind = m[2]
			}
			return strings.Count(behind, ",") >= 2 && r.manyAmounts(behind)
		})
		if !listed {
			out = append(out, l)
			continue
		}
		for _, p := range parts {
			if p = strings.TrimSpace(p); p != "" {
				out = append(out, made(l, p, preface))
			}
		}
	}
	return out
}

// forTwoOrFour leaves the first of two amounts, where several lines of a list have one for each
// of two numbers of people, and asks: "Salmon fillets 2 / 4".
func (r *reader) forTwoOrFour() {
	var both []int
	for n, l := range r.lines {
		if l.quiet == "" && ofBoth.MatchString(l.text) {
			both = append(both, n)
		}
	}
	if len(both) < leastRun {
		return
	}
	first := r.lines[both[0]]
	r.asked = append(r.asked, Unread{first.at, first.text, "of two amounts the first is taken, here and below: is that right?"})
	for _, n := range both {
		for _, s := range []*string{&r.lines[n].text, &r.lines[n].item} {
			*s = ofBoth.ReplaceAllString(*s, "$1 $2")
		}
	}
}

var ofBoth = pattern.Must(`(?i)^(\pL.*?) ((?:\d+(?:[.,]\d+)?|[½¼¾])(?: ?(?:g|kg|ml|l|tsp|tbsp|oz|cloves?|tins?))?) / (?:\d+(?:[.,]\d+)?|[½¼¾])(?: ?(?:g|kg|ml|l|tsp|tbsp|oz|cloves?|tins?))?$`)

// longMessage is how many lines a message has at most that is looked through so.
const longMessage = 20

var fullStop = pattern.Must(`([.!?]+)\s+`)

// inline takes a method apart that numbers its steps within a line: "1.Oven to 220. 2.Put
// the sausages in a tin. 3. Slice the apples."
func inline(lines []line) []line {
	var out []line
	for _, l := range lines {
		if l.quiet != "" {
			out = append(out, l)
			continue
		}
		var cuts []int
		for _, m := range innerNumber.FindAllStringSubmatchIndex(l.text, -1) {
			if l.text[m[2]:m[3]] == strconv.Itoa(len(cuts)+1) {
				cuts = append(cuts, m[2])
			}
		}
		if len(cuts) < leastRun {
			out = append(out, l)
			continue
		}
		if before := strings.TrimSpace(l.text[:cuts[0]]); before != "" {
			out = append(out, made(l, before, preface))
		}
		for n, at := range cuts {
			until := len(l.text)
			if n+1 < len(cuts) {
				until = cuts[n+1]
			}
			out = append(out, made(l, closeDot.ReplaceAllString(strings.TrimSpace(l.text[at:until]), "$1 $2"), preface))
		}
	}
	return out
}

var innerNumber = pattern.Must(`(?:^|[.!?;:)]\s*|\s)(\d{1,2})[.)]\s?\pL\pL`)

// counted finds lines that are numbered without a mark behind: "1 Rinse rice", "2 Salmon
// on the tray", "3 Build bowls".
func (r *reader) counted(lines []line) []line {
	var run []int
	orders, things := 0, 0
	end := func() {
		if len(run) >= leastRun && orders > 0 && things == 0 {
			for _, n := range run {
				l := &lines[n]
				l.item, l.marked, l.numbered = numberedBare.FindStringSubmatch(l.text)[2], true, true
			}
		}
		run, orders, things = nil, 0, 0
	}
	for n, l := range lines {
		m := numberedBare.FindStringSubmatch(l.text)
		if m == nil || l.quiet != "" || l.is != preface {
			continue // what goes on in a line of its own breaks no numbering
		}
		if m[1] != strconv.Itoa(len(run)+1) {
			end()
		}
		if m[1] == strconv.Itoa(len(run)+1) {
			run = append(run, n)
			if isVerb(firstWord(m[2])) || preheating(m[2]) {
				orders++
			}
			if r.certain(l.text) {
				things++
			}
		}
	}
	end()
	return lines
}

var numberedBare = pattern.Must(`^(\d{1,2}) (\pL+[ ,!].*|\d+(?: ?[-–] ?\d+)? ?min(?:ute)?s?\b.*)$`)

var figure = pattern.Must(`[\d½¼¾⅓⅔]`)

// certain reports whether words are an ingredient of the pantry with its amount.
func (r *reader) certain(item string) bool {
	t := r.take(item)
	return t.Reading.Given && t.Match.Certain
}

// measured reports whether words are an ingredient with a weight or a volume, or one of
// the pantry that is counted.
func (r *reader) measured(item string) bool {
	t := r.take(item)
	return t.Reading.Given && (t.Match.Certain || t.Reading.Unit.Dimension == measure.Mass || t.Reading.Unit.Dimension == measure.Volume)
}

// made is a line of the source in other words; in is the section that it belongs to,
// preface where that is open.
func made(l line, text string, in section) line {
	l.text, l.item, l.marked, l.numbered, l.is = text, text, false, false, in
	if in == preface {
		l.unmark()
	}
	return l
}

// waitsFirst begins a row of which the minutes are waited, whatever else is done then.
var waitsFirst = pattern.Must(`(?i)^(?:prove|proof|rise|chill|rest|cool|bake|simmer|freeze|marinate|soak)\b`)

// onTheWay is what is done while something waits.
var onTheWay = pattern.Must(`(?i)^(?:turn|stir|flip|check|baste|shake|covered|uncovered|lid|until|till)\b`)

// lasting is a step with the minutes that a column gives it, where it says none itself.
func lasting(step, time string) string {
	if time == "" || len(duration.In(step)) > 0 {
		return step
	}
	if first, rest, more := strings.Cut(step, ". "); more && waitsFirst.MatchString(first) { // “Prove. Wash up”
		return strings.TrimSuffix(lasting(first, time), ".") + ". " + rest
	}
	if first, rest, more := strings.Cut(step, ", "); more && waitsFirst.MatchString(first) && onTheWay.MatchString(rest) { // “bake, turn once”
		return strings.TrimSuffix(lasting(first, time), ".") + ", " + rest
	}
	if _, err := strconv.Atoi(time); err == nil {
		time += " min"
	}
	if len(duration.In(time)) == 0 || clocked.MatchString(time+" A") {
		return step
	}
	return strings.TrimRight(step, ". ") + " (" + time + ")."
}
