package reading

import (
	"slices"
	"strings"
	"unicode"

	"freshapron/internal/core/measure"
	"freshapron/internal/core/pattern"
	"freshapron/internal/core/setting"
	kitchen "freshapron/internal/core/words"
)

// titled takes the title: the first line that says no amount and nothing else.
func (r *reader) titled() {
	if n := r.titleOverList(); n > 0 && lessonAlone.MatchString(r.lines[0].plain()) {
		r.fact(r.lines[0])
		r.lines[0].titled, r.lines[n].titled = true, true
		r.Title, r.TitleLine = dish(r.lines[n].plain()), r.lines[n].at
		r.titleYield()
		return
	}
	named := slices.IndexFunc(r.lines[:min(headOfSheet, len(r.lines))], func(l line) bool { return l.quiet == "" && r.dishNamed(l.plain()) })
	for n, l := range r.lines[:min(max(6, named+1), len(r.lines))] {
		if l.quiet != "" {
			continue
		}
		text := l.plain()
		if n < named && !r.certain(l.item) {
			r.fact(l)
			r.lines[n].titled = true
			continue
		}
		if l.is == method { // a row of a table
			return
		}
		if at := titleMark.FindString(text); n == 0 && at != "" && digit(text[0]) { // “8B Food – Pizza wheels”
			text = strings.TrimPrefix(text, at)
			r.lines[n] = made(l, text, preface)
			l = r.lines[n]
		}
		if dated.MatchString(text) && (len(r.lines) > 2 || strings.EqualFold(firstWord(text), "page") && len(r.lines) > 1) {
			r.fact(l)
			r.lines[n].titled = true
			continue
		}
		if len(r.lines) > 2 && (termList.MatchString(text) || weekOf.MatchString(text) && !r.manyAmounts(text) && len(verbsIn(bracket.ReplaceAllString(text, ""))) == 0 && (n+1 < len(r.lines) && weekOf.MatchString(r.lines[n+1].plain()) || n > 0 && weekOf.MatchString(r.lines[n-1].plain()))) {
			r.fact(l)
			r.lines[n].titled = true
			continue
		}
		if (greeting.MatchString(text) || (asksFor.MatchString(text) || r.pleads(text)) && n < 3) && len(r.lines) > 2 {
			r.fact(l)
			r.lines[n].titled = true
			continue
		}
		if ofPeople.MatchString(text) && n > 0 { // "they are in pairs" names no dish
			continue
		}
		if n == 0 && len(r.lines) > 1 && r.lines[1].quiet == "" && namedBelow(text, r.lines[1].plain()) {
			r.fact(l)
			r.lines[n].titled = true
			continue
		}
		if m := aheadOfAll.FindStringSubmatch(text); m != nil && (n == 0 || r.lines[0].titled) && (len(r.lines)-n < 3 || r.lines[len(r.lines)-1].at == l.at) { // all of it in one line
			r.Title, r.TitleLine = m[1], l.at
			r.lines[n] = made(l, m[2], preface)
			r.titleYield()
			return
		}
		if m := aheadOfProse.FindStringSubmatch(text); m != nil && n == 0 && len(strings.Fields(m[1])) < 6 && len(verbsIn(m[1])) == 0 && ordersOf(m[2]) > 1 && !smallTalk.MatchString(m[1]) {
			r.Title, r.TitleLine = m[1], l.at
			r.lines[n] = made(l, m[2], preface)
			r.titleYield()
			return
		}
		if m := prepBehind.FindStringSubmatch(text); m != nil && n == 0 && !isYield(m[1]) {
			r.Facts = append(r.Facts, Fact{Line: l.at, Says: m[2]})
			text = m[1]
		}
		if m := ovenBehind.FindStringSubmatch(text); m != nil && n == 0 && !r.amounts(line{item: m[1]}) {
			r.Facts = append(r.Facts, Fact{Line: l.at, Says: m[2]})
			text = m[1]
		}
		if m := methodFor.FindStringSubmatch(text); m != nil && n == 0 && !ofAPart.MatchString(m[2]) && !forWhomAll.MatchString(m[2]) {
			r.Title, r.TitleLine = dish(m[2]), l.at
			r.lines[n] = made(l, m[1]+":", preface)
			r.titleYield()
			return
		}
		if m := methodFor.FindStringSubmatch(text); m != nil && n == 0 && forWhomAll.MatchString(m[2]) {
			r.fact(l)
			r.lines[n].titled = true
			continue
		}
		if m := partList.FindStringSubmatch(text); m != nil && r.manyAmounts(m[2]) {
			return
		}
		if m := planFor.FindStringSubmatch(text); m != nil {
			text = m[1] + m[2]
		}
		text = fillIn.ReplaceAllString(text, "")
		if caption.MatchString(text) || smallTalk.MatchString(text) && (sentence(text) || promised.MatchString(text)) {
			continue
		}
		if _, _, ok := headingOf(text); ok && !titleMark.MatchString(text) {
			return
		}
		if blanks.MatchString(text) && !r.amounts(l) || r.aheadTitled(n) && (ofSchool.MatchString(text) || aSchool.MatchString(text)) && r.titleFollows(n) {
			r.fact(l)
			r.lines[n].titled = true
			continue
		}
		if m := lessonOf.FindStringSubmatch(text); m != nil {
			if n == 0 && r.titleFollows(n) {
				r.fact(l)
				r.lines[n].titled = true
				continue
			}
			text = m[1]
		}
		if _, ok := yieldOf(text); ok || times.MatchString(text) && !l.hashed() && n != named {
			continue
		}
		shouts := capitals(text) && !r.known(text)
		inLetters := r.aheadTitled(n) && !(r.certain(text) && r.take(text).Reading.Unit.Dimension != measure.Count) && (n == 0 || !strings.ContainsAny(text, ",:;")) && !digit(text[0]) && !strings.ContainsAny(text, "½¼¾⅓⅔") // "one pan orzo"
		if head, rest, ok := saysMore(text); ok && n == 0 && !l.marked && !r.amounts(line{item: head}) && !r.amounts(l) {
			r.Title, r.TitleLine = dish(head), l.at
			r.lines[n].titled = true
			switch y, yields := yieldOf(servedIn.ReplaceAllString(rest, "serves $1")); {
			case yields:
				y.Line = l.at
				r.Yield = y
			case rest != "":
				r.Facts = append(r.Facts, Fact{Line: l.at, Says: rest})
			}
			if m := forPairs.FindStringSubmatch(text); m != nil {
				r.group = group{2, l, m[2] == ""}
				if strings.HasSuffix(head, text[len(m[1]):]) {
					r.Title = dish(closed(m[1]))
				}
			} else {
				r.titleYield()
			}
			return
		}
		numberOfDish := n == 0 && closedNumber.MatchString(l.text) && len(r.lines) > 1 && !r.lines[1].numbered // "1. Chicken curry"
		if l.marked && !l.hashed() && !numberOfDish || r.amounts(l) && !shouts && !inLetters && !titledYield.MatchString(text) || len([]rune(text)) > 90 || sentence(text) && len(strings.Fields(text)) > 6 && !(n == 0 && exclaims(text)) {
			return
		}
		r.Title, r.TitleLine = dish(text), l.at
		r.lines[n].titled = true
		r.titleYield()
		return
	}
}

// headOfSheet is in how many lines a sheet says which dish it is for.
const headOfSheet = 8

// lessonAlone is a line that says which lesson it is, and no dish.
var lessonAlone = pattern.Must(`(?i)^(?:practical|lesson|session|week|task)\s*\d{1,2}[a-z]?\W*$`)

// titleOverList returns the place of the title that stands right over the heading of the list, below
// something else; 0 where there is none.
func (r *reader) titleOverList() int {
	for n := 1; n+1 < len(r.lines); n++ {
		l := r.lines[n]
		text := l.plain()
		_, _, heading := headingOf(text)
		if is, _, ok := headingOf(r.lines[n+1].plain()); !ok || is != list {
			continue
		}
		if l.quiet != "" || l.marked || heading || strings.HasSuffix(text, ":") || sentence(text) || len(strings.Fields(text)) > 6 || r.amounts(l) {
			return 0
		}
		return n
	}
	return 0
}

// dishNamed reports whether a line says which dish it is: "Dish: Leek tart". A name may be the
// learner's.
func (r *reader) dishNamed(text string) bool {
	if m := nameOf.FindStringSubmatch(text); m != nil {
		named := strings.Fields(strings.ToLower(m[1]))
		return isMade(named[len(named)-1]) || len(named) > 1 && r.speaksOf(m[1])
	}
	return saysDish.MatchString(text)
}

// aheadTitled reports whether nothing but lines about the lesson stand before a line.
func (r *reader) aheadTitled(n int) bool {
	return !slices.ContainsFunc(r.lines[:n], func(l line) bool { return !l.titled })
}

// ovenBehind is a title with how hot the oven is: "Date squares. Oven 180."
var ovenBehind = pattern.Must(`(?i)^(\pL[^.]{3,50})\. (oven\b[^.]{0,24})\.?$`)

// dish is the name in a line that is the title.
func dish(text string) string {
	for titleMark.MatchString(text) { // "Year 8 – Practical 4: …"
		text = titleMark.ReplaceAllString(text, "")
	}
	name := strings.TrimRight(text, " :.!")
	name = strings.TrimRight(inQuotes.ReplaceAllString(name, "$1$2"), ".!")
	return kitchen.Capital(recipeBehind.ReplaceAllString(name, "$1"))
}

// fillIn is what a sheet with gaps asks for.
var fillIn = pattern.Must(`(?i)\s*[-–—:(,]\s*(?:fill in|complete) the (?:gaps|blanks|missing words|sheet)\W*$`)

// sourceBehind is where it comes from: "Jam tarts (adapted from the booklet)".
var sourceBehind = pattern.Must(`(?i)^(.{3,60}?)\s*(?:\(((?:adapted |taken )?from [^()]+|(?:my|our) [\pL]+['’]s[^()]*)\)|[-–—] ([\pL'’ ]{2,30} (?:lesson|practical|special)))$`)

// recipeBehind is "Chicken curry recipe card".
var recipeBehind = pattern.Must(`(?i)^(.{4,}?)\s+recipe(?: card| sheet)?$`)

// namedBelow reports whether the second line names the dish, and no part of it, and says how many it makes,
// and the first does not.
func namedBelow(first, second string) bool {
	bare := slices.ContainsFunc(strings.Split(second, " / "), func(s string) bool { _, ok := yieldOf(s); return ok })
	_, _, head := headingOf(second)
	return !bare && !head && !partOfDish.MatchString(strings.TrimSpace(bracket.ReplaceAllString(second, ""))) && !saysTime.MatchString(second) && !beginsYield.MatchString(second) && titledYield.MatchString(second) && !titledYield.MatchString(first) && !soManyServed.MatchString(first) && !titleMark.MatchString(first)
}

// saysTime begins a line about the lesson, and no dish.
var saysTime = pattern.Must(`(?i)^(?:(?:about|approx|takes?|ready in|time|prep|cook|total|quantity|yield|level|cost|skills?)\b|\d+ ?(?:mins?|minutes|hours?|hrs?|h)\b)`)

// exclaims reports whether a line praises a dish in a few words, and orders nothing: "Oaty bars –
// no oven needed!"
func exclaims(text string) bool {
	word, _, _ := headVerb(text)
	return word == "" && strings.HasSuffix(text, "!") && len(strings.Fields(text)) <= 9 && !strings.ContainsAny(strings.TrimRight(text, "!"), ".!?;")
}

var ofPeople = pattern.Must(`(?i)^(?:they|we|you|i|everyone|learners|pupils|students|the class) (?:are|is|work|will|can|'re)\b`)

// withoutClass keeps with whom a dish is made beside its name.
func (r *reader) withoutClass() {
	if at := withClass.FindStringIndex(r.Title); at != nil && !howMany.MatchString(r.Title[at[0]:]) {
		r.Facts = append(r.Facts, Fact{Line: r.TitleLine, Says: strings.TrimSpace(r.Title[at[0]:])})
		r.Title = r.Title[:at[0]]
	}
}

// asSpoken takes the name of the dish out of a title that somebody says.
func (r *reader) asSpoken() {
	if m := madeToday.FindStringSubmatch(r.Title); m != nil {
		r.Title = kitchen.Capital(m[1])
	}
}

// theOne is a dish that somebody speaks of: "it's the turkey burger one".
var theOne = pattern.Must(`(?i)\bit['’]?s (?:the|that|our|my) (\pL[\pL -]{3,40}?) (?:one|recipe|thing)\b`)

// madeToday is a title out of somebody's mouth: "so today we're making a vegetable korma, it".
var madeToday = pattern.Must(`(?i)^(?:(?:so|ok(?:ay)?|right|hi),? )*(?:today,? )?(?:we(?:['’]?re| are| will be)|you(?:['’]ll| will)(?: be)?|were|i['’]?m|they(?:['’]?re| are)) (?:making|doing|cooking|baking|make|cook|bake) (?:an? |some |the )?(.{4,40}?)(?:,? (?:it|which|that))?$`)

// howMany says how many work together, which is read.
var howMany = pattern.Must(`(?i)\b(?:pairs?|twos|threes|fours|groups?|alone)\b`)

// withClass is with whom, behind the name: "Bread rolls with 8A, room F2".
var withClass = pattern.Must(`\s+(?i:with|for) \d{1,2}[A-Z]{1,2}\d?\b.*$|(?i)\s+[-–—]\s+y(?:ea)?r? ?\d{1,2}\b.*$|\s*\([^()]*\b(?:we|they|yr?\d{1,2}s?|year \d+|\d+ ?min(?:ute)?s?|lessons?|double)\b[^()]*\)$`)

var closedNumber = pattern.Must(`^\d{1,2}[.)] `)

var inQuotes = pattern.Must(`^(?:"([^"]+)"|'([^']+)')$`)

var titleMark = pattern.Must(`(?i)^(?:(?:dish|recipe|course) \d of \d\s*[:–—-]\s*|from (?:the|our) [\pL ]{3,24}:\s*|(?:we are )?making\s*:\s*|(?:mon|tues?|wed|thu(?:rs?)?|fri)(?:(?:nes|rs|s)?day)?\.?,? p(?:eriods?)? ?\d(?: ?[-–/&+,] ?\d)?\s*[:,–-]?\s+|(?:(?:pupil|student|learner|recipe|task|work) ?(?:sheet|card)|check ?list)\s*\d*\s*[:–—-]\s*|lesson plan\b[^:–—-]{0,24}[:–—-]\s*|make it\s*[:–—]\s*|\d{1,2} ?[a-z]{0,2} (?:food|ft|dt|d&t|cookery|catering)\b[^–—:-]{0,16}[–—:-]\s*|how (?:to|we) make\s*[:–—-]\s*|(?:assessed|practical|demo) (?:dish|task)\s*\d*\s*[:–—-]\s*|(?:week|wk|lesson|unit|session)\s*\d+\s*:\s*|(?:week|wk)\s*\d+\s*[–—-]\s*|(?:rotation|rot|block|carousel|module) ?\d+\s*[:,–-]\s*|(?:batch|spec|cover(?: lesson| work)?)\s*:\s*|(?:product|dish|title|recipe(?: title| name)?|(?:dish |product )?name|name of (?:the )?(?:dish|product|recipe)|(?:(?:kitchen|food|cookery) )?practical)\s*(?:\d+\s*)?[:=–—]\s*|my (?:recipe|dish) is (?:called )?|task\s*(?:\d+\s*)?[:–—]\s*(?:make (?:a batch of |some |an? )?)?|recipe(?: no\.?)?(?: ?\d{1,3})?\s*[-–]\s+|recipe for (?:an? |some |the )?|recipe \d{1,3}[:.]? |(?:no\.?|unit) ?\d{1,3}\s*[:.–-]?\s+|(?:lesson|week|session) \d+ of \d+\s*[:–-]\s*|food(?: (?:tech|technology))?(?: recipe)?\s*(?:[:–]\s*|-\s+)|ks\d(?: food)?\s*[:–-]\s*|y(?:ea)?r? ?(?:7|8|9|1[0-3])\s*[:–-]?\s+|(?:7|8|9|1[0-3])(?-i:[A-Z]{1,2})\d?\s*[:–-]?\s+|today'?s (?:dish|recipe|bake|cook)\s*[:–-]\s*|what (?:i|we) (?:made|cooked|baked)\s*[:–-]\s*|what (?:(?:are|am) (?:we|i|you)|(?:we|i|you)(?: are| am|['’]re|['’]m)) (?:making|cooking|baking)(?: today)?\s*[?:]+\s*|today (?:we|i)(?:'re|'m| are| am) (?:making|cooking|baking)\s*:?\s+(?:an? |some |the )?|how (?:to|we) make (?:an? |some |the )?)`)

// aheadOfAll is a title before a recipe in one line.
var aheadOfAll = pattern.Must(`^(\p{Lu}[\pL\d '’&-]{3,50})\s*[:–—]\s+((?:\d|[½¼¾]).{40,})$`)

// aheadOfProse is a title that begins a recipe in prose: "Banana muffins. Heat the oven …".
var aheadOfProse = pattern.Must(`^(\p{Lu}[\pL '’&-]{3,50})[.:!]\s+(\p{Lu}.{60,})$`)

// saysDish says which line is the title; nameOf may.
var (
	saysDish = pattern.Must(`(?i)^what (?:(?:are|am) (?:we|i|you)|(?:we|i|you)(?: are| am|['’]re|['’]m)) (?:making|cooking|baking)(?: today)?\s*[?:]+\s*\pL|^(?:dish|title|recipe|product|name of (?:the )?(?:dish|product|recipe)|dish name|product name|recipe name|recipe title)\s*[:=]\s*\pL`)
	nameOf   = pattern.Must(`(?i)^name\s*:\s*(\pL.*)$`)
)

var (
	dated     = pattern.Must(`(?i)^page \d+(?: of \d+)?$|^\(?\d{1,2}[a-z]{1,2}\d?,? (?:mon|tues?|wed|thu(?:rs?)?|fri)(?:(?:nes|rs|s)?day)?\)?$|^(?:mon|tues?|wed|thu(?:rs?)?|fri)(?:(?:nes|rs|s)?day)?,? (?:p|period|lesson)s? ?\d(?: ?[-–/&+,] ?\d)?$|^(?:date:? *)?(?:(?:mon|tues?|wed(?:nes)?|thu(?:rs)?|fri|sat(?:ur)?|sun)(?:day)?\b[ ,.]*)?(?:the )?(?:\d{1,2}(?:st|nd|rd|th)? (?:of )?(?:jan|feb|mar|apr|may|june?|july?|aug|sept?|oct|nov|dec)[a-z]*(?:,? \d{2,4})?|\d{1,2}[./-]\d{1,2}[./-]\d{2,4})$`)
	greeting  = pattern.Must(`(?i)^here you (?:go|are)\b.{0,24}$|^(?:dear|hi|hiya|hello|hey|good (?:morning|afternoon))\b(?:[^.:]{0,24}[,!.]?|[^,.:!]{0,24}[,!.] .+)$`)
	asksFor   = pattern.Must(`(?i)^(?:can|could|would|will|has|have|does|did|do|is|are|anyone|any|who|what|where|which|please)\b.*\?+$`)
	termList  = pattern.Must(`(?i)^(?:(?:autumn|spring|summer|half)[ -])?term ?\d?\b[^.:]*\b(?:list|practicals?|overview|plan|rota)$`)
	weekOf    = pattern.Must(`(?i)^(?:week|wk|lesson) ?\d{1,2}\s*[:–-]\s*\pL`)
	methodFor = pattern.Must(`(?i)^(method|instructions|directions|ingredients) (?:for|of) (?:making )?(?:the |our |my |an? |some )?(\pL[^.:,]{3,50})$`)
	ofAPart   = pattern.Must(`(?i)^(?:\pL+ )?(?:toppings?|fillings?|sauce|icing|base|glaze|dressing|marinade|pastry|dough|batter|dip|garnish|crust|crumble topping|class|group|pairs?)$`)
	politely  = pattern.Must(`(?i)\bplease\b[^.]*$`)
	finds     = pattern.Must(`(?i)^please find\b|\bplease (?:find|send|bring)\b[^\d:]*:$`)
	planFor   = pattern.Must(`(?i)^.{0,16}\b(?:plan|recipe|instructions|method|ingredients) (?:for|of) (?:the |our |my |your )?([^.:]{3,50}?)(\s*\([^()]*\))?\s*:$`)
	blanks    = pattern.Must(`_{3,}|\.{5,}|…{2,}`)
	ofSchool  = pattern.Must(`(?i)^(?:(?:food prep\w* )?(?:recipe|task) ?(?:card|sheet)(?: ?\d+)?(?: ?\([^()]*\))?$|(?:technician|practical|ingredients?|food|lesson) (?:request|requisition|order)(?: (?:form|sheet))?$|requisition(?: form)?$|(?:dish|recipe|bake|cook) of the (?:day|week|month|term)$|(?:pupil|student|learner|work) ?sheet ?\d*$|(?:food |cookery |practical )?(?:room|lab|kitchen) ?[a-z]?\d{0,3}$|practical (?:activity|task|work)|activity|worksheet|handout|food (?:tech\w*|studies)|fcs|home ec\w*|unit|topic|scheme|y(?:ea)?r? ?\d|ks\d|w(?:ee)?k \d|lesson \d)[^a-z]*(?:\b(?:rotation|block|carousel|food|tech|y(?:ea)?r? ?\d|ks\d|lesson|week|term|unit|practical|set|group|class|\d)\b[^a-z]*)*$`)
	aSchool   = pattern.Must(`(?i)^(?:y(?:ea)?r? ?\d{1,2},? )?(?:food (?:and|&) nutrition|food prep\w*(?: (?:and|&) nutrition)?|hospitality(?: (?:and|&) catering)?|catering|design (?:and|&) technology|food department|[\pL' .]{3,40} (?:school|academy|college)(?: (?:food|design|technology|catering)[\pL &]*)?)(?:\s*[-–—:]\s*(?:prac(?:tical)?|lesson|week|unit|task|recipe|session) ?\d{0,2})?$`)
	lessonOf  = pattern.Must(`(?i)^lesson\s*\d*\s*[:–-]\s*(\pL{3}.{3,})$`)
)

// pleads reports whether a line asks something of whoever reads it that is not about food: "Pop these in
// the folder please".
func (r *reader) pleads(text string) bool {
	if !politely.MatchString(text) || figures.MatchString(text) || len(setting.In(text)) > 0 {
		return false
	}
	return finds.MatchString(text) || !r.speaksOf(text) && !ofHands.MatchString(text)
}

var (
	figures = pattern.Must(`(?i)\d ?(?:g|kg|ml|l|tsp|tbsp|x|eggs?|tins?)\b`)
	ofHands = pattern.Must(`(?i)\b(?:wash|hands?|soak|oven|weigh)\b`)
)

// bracket is a bracket and what stands in it.
var bracket = pattern.Must(`\([^()]*\)[?*]?`)

// titleFollows reports whether the line behind one is short enough for a title and nothing else.
func (r *reader) titleFollows(n int) bool {
	for n+2 < len(r.lines) && r.lines[n+1].quiet == ruler {
		n++
	}
	if len(r.lines) < n+2 || r.lines[n+1].quiet != "" || r.lines[n+1].marked || r.lines[n+1].is == method {
		return false
	}
	next := r.lines[n+1]
	text := next.plain()
	_, _, head := headingOf(text)
	amounts := r.amounts(made(next, bracket.ReplaceAllString(text, ""), preface))
	return !head && !times.MatchString(text) && (!amounts || timesBehind.MatchString(text)) && len(strings.Fields(bracket.ReplaceAllString(text, ""))) <= 7 && (!sentence(text) || titledYield.MatchString(text) || strings.HasSuffix(text, "!"))
}

// timesBehind is how many of a dish are made: "bean burgers x4".
var timesBehind = pattern.Must(`(?i)^\pL[\pL &]{4,40} ?x ?\d{1,2}$`)

// saysMore parts a first line that is too long for a title: "Seeded bread - adapted for
// our group. One loaf, cuts into 10."
func saysMore(text string) (head, rest string, ok bool) {
	if !titleMark.MatchString(text) && len(strings.Fields(text)) <= 6 || len([]rune(text)) > 200 {
		return "", "", false
	}
	if at := titleMark.FindStringIndex(text); at != nil && len(strings.Fields(text)) <= 10 {
		return strings.TrimRight(text, ". "), "", true
	}
	at := headEnd.FindStringIndex(text)
	if at == nil || strings.Count(text[:at[0]], "(") > strings.Count(text[:at[0]], ")") {
		return "", "", false
	}
	head, rest = text[:at[0]], text[at[1]:]
	most := 6 // words, and more where it says for how many
	if _, yields := yieldOf(servedIn.ReplaceAllString(rest, "serves $1")); yields && !talks.MatchString(head) {
		most = 14
	}
	return head, rest, len(strings.Fields(head)) <= most && !imperative(head) && !smallTalk.MatchString(head) && (!strings.Contains(head, ",") || titledYield.MatchString(head)) && unicode.IsUpper([]rune(head)[0]) && strings.ContainsAny(rest, ".,0123456789")
}

// servedIn is a number of bowls beside a title, which says how many it is for.
var servedIn = pattern.Must(`(?i)^(\d{1,2} (?:bowls|plates|mugs))$`)

// talks is what somebody says of a dish rather than its name.
var talks = pattern.Must(`(?i)\b(?:I|I'm|we|you|my|our|here|here['’]s|this|these)\b`)

var headEnd = pattern.Must(`\. | [-–—] `)

// titledBetween takes a title in bold or behind a hash that stands below the list, or that
// says how many it makes.
func (r *reader) titledBetween() {
	if r.Title != "" {
		return
	}
	for n, l := range r.lines {
		if l.quiet != "" || l.is != preface || n == 0 {
			continue
		}
		if m := titledCount.FindStringSubmatch(l.plain()); m != nil && isMade(m[2]) && !r.known(l.plain()) { // "Fairy cakes - 12"
			r.Title, r.TitleLine = l.plain(), l.at
			r.lines[n].titled = true
			r.titleYield()
			return
		}
		m := boldLine.FindStringSubmatch(l.text)
		if m == nil {
			continue
		}
		title := m[1] + m[2]
		if _, _, ok := headingOf(title); ok || partHead.MatchString(title) || r.amounts(made(l, title, preface)) && !titledYield.MatchString(title) {
			continue
		}
		r.Title, r.TitleLine = title, l.at
		r.lines[n].titled = true
		r.titleYield()
		return
	}
}

// titledAbove takes for the title what nobody understood over the list and is short enough, and asks:
// "here's the one I use with my class" is not.
func (r *reader) titledAbove() {
	if r.Title != "" {
		return
	}
	if len(r.Ingredients) == 0 { // they stand in the prose
		r.titledInWords()
		return
	}
	fits := func(at int, text string) bool {
		text = strings.Trim(text, `"'“”‘’`)
		return at < r.Ingredients[0].Line && at > r.TitleLine && text != "" && !times.MatchString(text) && len(strings.Fields(text)) <= 8 && !sentence(text) && !smallTalk.MatchString(text) && !greeting.MatchString(text) && !dated.MatchString(text) &&
			unicode.IsUpper([]rune(text)[0]) && !strings.ContainsAny(text, ".?!,=|_") && !strings.HasSuffix(text, ":")
	}
	for _, u := range r.Unread {
		if fits(u.Line, u.Text) {
			r.Title, r.TitleLine = dish(u.Text), u.Line
		}
	}
	for _, f := range r.Facts {
		if f.About == "" && fits(f.Line, f.Says) {
			r.Title, r.TitleLine = dish(f.Says), f.Line
		}
	}
	if r.Title == "" {
		r.titledInWords()
		return
	}
	r.asked = append(r.asked, Unread{r.TitleLine, r.Title, "it is read as the title, since it stands over the list: is that right?"})
	r.Unread = slices.DeleteFunc(r.Unread, func(u Unread) bool { return u.Line == r.TitleLine })
	r.Facts = slices.DeleteFunc(r.Facts, func(f Fact) bool { return f.Line == r.TitleLine })
	r.titleYield()
}

// titledInWords takes the title out of a sentence over the list that says what it is for, and asks.
func (r *reader) titledInWords() {
	try := func(at int, text string) bool {
		if len(text) > maxRunes || len(r.Ingredients) > 0 && at > r.Ingredients[0].Line || len(r.Ingredients) == 0 && at > headLines {
			return false
		}
		for _, form := range saysTitle {
			m := form.FindStringSubmatch(text)
			if m == nil {
				continue
			}
			name := strings.TrimSpace(forClass.ReplaceAllString(m[1], ""))
			if len(strings.Fields(name)) == 0 || len(strings.Fields(name)) > 6 || noDish.MatchString(name) || figure.MatchString(name) {
				continue
			}
			r.Title, r.TitleLine = kitchen.Capital(name), at
			r.asked = append(r.asked, Unread{at, text, "“" + r.Title + "” is read as the title: is that right?"})
			return true
		}
		return false
	}
	for _, f := range r.Facts {
		if try(f.Line, f.Says) {
			return
		}
	}
	for _, u := range r.Unread {
		if try(u.Line, u.Text) {
			return
		}
	}
	for _, p := range r.prose {
		if p.lines[0] > headLines || try(p.lines[0], p.text) {
			return
		}
	}
}

// promised begins a letter, and no title.
var promised = pattern.Must(`(?i)^as promised\b`)

var (
	// saysTitle are sentences that say what a list is for: "the one I use for beany enchiladas -
	// makes 4", "so for the lemon traybake you want", "cheese pasties, each bench gets:"
	saysTitle = []*pattern.Pattern{
		theOne,
		pattern.Must(`(?i)\brecipe\b[^.:,]{0,24}\bis (?:called )?(?:the |a |an |some )?(\pL[\pL' &-]{3,40}?)(?:[.,:!–—-]|$)`),
		pattern.Must(`(?i)\b(?:recipe|one|sheet|method|card|ingredients|list|version)\b[^.:]{0,40}\bfor (?:the |a |an |some |our |my |your )?(\pL[\pL' &-]{3,40}?)(?:\s+[-–—(]|,|[.:!]|$)`),
		pattern.Must(`(?i)^(?:(?:ok(?:ay)?|right|so|now|well),? )*for (?:the |a |an |some |our |my |your )?(\pL[\pL' &-]{3,40}?)(?: (?:you|u|we|they|i|each|everyone)\b|,|$)`),
		pattern.Must(`(?i)\bas promised,? (?:here(?:['’]s| is) )?(?:the |my |our |a |an |some )?(\pL[\pL' &-]{3,40}?)(?: recipe)?(?: \(|[.,:!–—-]|$)`),
		pattern.Must(`(?i)^to make (?:my |our |the |a |an |some )?(\pL[\pL' &-]{3,40}?) (?:you|we|i|take|soak|first)\b`),
		pattern.Must(`^(\pL[\pL' &-]{3,40}?) \((?:for|serves|makes) \d+[^)]*\)$`),
		pattern.Must(`(?i)\b(?:for|with) \d{1,2} ?[a-z]{1,2}\d?\b[^.:]*\bit['’]?s (?:the |a |an |some |our )?(\pL[\pL' &-]{3,40}?)(?: (?:on|with|for|next|tomorrow|today|this|in)\b|[.,:!–—]|$)`),
		pattern.Must(`(?i)\bhere(?:['’]s| is| are) (?:the |my |our |a |an |some )(\pL[\pL' &-]{3,40}?)(?: recipe)?[:.!]?$`),
		pattern.Must(`(?i)(?:^|[,.!] )([^,.!]{4,50}), (?:each|every|per) (?:bench|pair|pupil|learner|student|child|group)\b`),
		pattern.Must(`(?i)\b(?:we(?:'ll| will) (?:make|cook|bake|do)|(?:we(?:'re| are| will be|'ll be)?|i'm|they(?:'re| are)?|class(?: is)?|will be|are|is) (?:making|doing|cooking|baking)) (?:the |a |an |some |our |my )?(\pL[\pL' &-]{3,40}?)(?: \(| (?:on|with|for|next|tomorrow|today|this|in)\b|[,.:!–—-]|$)`),
	}
	// forClass is when and with whom, in front of the name.
	forClass = pattern.Must(`(?i)^(?:(?:tmrw|tomorrow|today|for|with|on|the|period \d|p\d|lesson \d|mon|tue|tues|wed|thu|thurs|fri|monday|tuesday|wednesday|thursday|friday|\d{1,2} ?[a-z]{1,2}\d?|y(?:ea)?r? ?\d{1,2}s?)[,:]? )+`)
	noDish   = pattern.Must(`(?i)^(?:y(?:ea)?r?\s?\d|the class|class|you|us|me|them|pairs?|people|two|three|four|six|eight|tomorrow|today|next|this|(?:mon|tues|wednes|thurs|fri)day|ks\d|lesson|everyone|each|half|one|a while|ages|years|cooking|baking)\b`)
)

var boldLine = pattern.Must(`^(?:\*\*([^*]{3,60})\*\*|#{1,3} (.{3,60}))$`)

// titledBelow takes a title that stands under everything: "Title: Guacamole".
func (r *reader) titledBelow() {
	for _, l := range r.lines {
		if m := titledLater.FindStringSubmatch(l.text); m != nil && r.Title == "" {
			r.Title, r.TitleLine = m[1], l.at
			r.Facts = slices.DeleteFunc(r.Facts, func(f Fact) bool { return f.Line == l.at })
			r.prose = slices.DeleteFunc(r.prose, func(p passage) bool { return len(p.lines) == 1 && p.lines[0] == l.at })
		}
	}
}

var titledLater = pattern.Must(`(?i)^(?:title|recipe name|name of (?:the )?dish)\s*[:–]\s*(\pL.{2,60})$`)

func isYield(text string) bool {
	_, ok := yieldOf(text)
	return ok
}

// beginsYield is a line that says how much it makes, and so is no title.
var beginsYield = pattern.Must(`(?i)^(?:makes|serves|yields|feeds)\b`)

// forWhomAll is for whom a list is, rather than of what: “Ingredients for the class (8 groups)”.
var forWhomAll = pattern.Must(`(?i)^(?:whole )?(?:class|group|pair|pupil|learner|student|bench|table|team|each|everyone|\d)`)

// prepBehind are the times behind a title: “Bean chilli (serves 4) prep 15 cook 40”.
var prepBehind = pattern.Must(`(?i)^(\pL.{2,70}?)[ ,|–-]+((?:prep(?:aration)?|cook(?:ing)?)(?: time)?:? ?\d{1,3}(?: ?min\w*)?[ ,;/|+&-]*(?:(?:and )?(?:cook(?:ing)?|bak(?:e|ing)|total)(?: time)?:? ?\d{1,3}(?: ?min\w*)?)?)$`)
