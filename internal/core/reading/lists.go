package reading

import (
	"slices"
	"strings"

	"freshapron/internal/core/duration"
	"freshapron/internal/core/exact"
	"freshapron/internal/core/measure"
	"freshapron/internal/core/pantry"
	"freshapron/internal/core/pattern"
	"freshapron/internal/core/recipe"
	kitchen "freshapron/internal/core/words"
)

// partInLine takes a part with its list in one line: "For the sauce: 2 onions, 3 carrots".
func (r *reader) partInLine(l line, text string, in section, part *string) bool {
	m := partList.FindStringSubmatch(text)
	if m != nil && r.known(m[1]) && nameColon.MatchString(text) && len(duration.In(m[2])) == 0 && !r.certain(listed(m[2])[0]) {
		r.items(l.at, text, *part)
		return true
	}
	if m == nil || !r.manyAmounts(m[2]) && !(len(listed(m[2])) == 1 && r.certain(m[2]) && !r.certain(text)) && !(in == list && r.allKnown(listed(m[2]))) && !(in == preface && r.mostlyListed(m[2])) {
		return false
	}
	if !collects.MatchString(m[1]) {
		*part = kitchen.Capital(strings.ToLower(m[1]))
		r.addPart(*part)
	}
	r.items(l.at, m[2], *part)
	return true
}

// mostlyListed reports whether a line names things of the pantry, few of them with an amount: "onion,
// courgette, 1 tin tomatoes, basil".
func (r *reader) mostlyListed(s string) bool {
	items, known, amounts := listed(s), 0, 0
	for _, item := range items {
		t := r.take(item)
		if t.Match.Certain {
			known++
		}
		if t.Match.Certain && t.Reading.Given {
			amounts++
		}
	}
	return amounts > 0 && len(items) >= leastRun && 4*known >= 3*len(items)
}

// collects are the words over a list that name no part of the dish.
var collects = pattern.Must(`(?i)^(?:collect|get|gather|fetch|weigh|measure|bring|(?:bring )?from (?:home|school)|home|school(?: provides)?|(?:we|i) provide|provided)$`)

var partList = pattern.Must(`(?i)^(?:for )?(?:the )?([\pL][\pL ]{2,28}?)\s*(?::|=|\s[-–—]\s|\s--\s)\s*(.+[,;/+&].+)$`)

// thingEnds is a full stop between two things of a list.
var thingEnds = pattern.Must(`(\p{Ll}{3,}|\dg|\dml)\. +(\d|\p{Lu})`)

// partInside is for what the next of a list are: “…, and for the base and top: 225 g oats”.
var partInside = pattern.Must(`(?i),? (?:and )?for the [\pL ]{2,30}: `)

// items takes the ingredients of a list in one line.
func (r *reader) items(at int, s, part string) {
	s = partInside.ReplaceAllString(s, ", ")
	if stops := thingEnds.FindAllString(s, -1); len(stops) > 1 && len(stops) == strings.Count(s, ". ") && !strings.Contains(s, ",") { // "1 slice bread. 1 tomato. Herbs."
		s = thingEnds.ReplaceAllString(s, "$1, $2")
	}
	s = nameColon.ReplaceAllStringFunc(s, func(named string) string {
		if m := nameColon.FindStringSubmatch(named); r.known(m[2]) {
			return m[1] + m[2] + " " + m[3]
		}
		return named
	})
	if head, rest, _ := strings.Cut(s, ": "); len(head) < 60 && r.manyAmounts(rest) && !r.certain(head) { // "For a 20 cm tin (12 bars): oats 250 g, …"
		r.Facts = append(r.Facts, Fact{Line: at, Says: head})
		s = rest
	}
	if m := fetched.FindStringSubmatch(s); m != nil {
		if head := strings.TrimSpace(m[1]); head != "" {
			r.Facts = append(r.Facts, Fact{Line: at, Says: head})
		}
		s = s[len(m[0]):]
	}
	for _, item := range listed(s) {
		if run := runAmounts(item); len(run) > 1 && !slices.ContainsFunc(run, func(p string) bool { return !r.certain(p) }) { // "25g butter 25g flour"
			for _, p := range run {
				r.ingredient(at, p, part)
			}
			continue
		}
		if m := onePart.FindStringSubmatch(item); m != nil && r.certain(m[2]) { // "…; topping: 4 tbsp passata"
			part, item = kitchen.Capital(strings.ToLower(m[1])), m[2]
		}
		r.ingredient(at, item, part)
	}
}

// withoutUnits takes names with bare figures behind them, and asks in which unit they are:
// "flour 200, butter 100".
func (r *reader) withoutUnits(l line, part string) bool {
	items, counted := strings.Split(l.item, ","), true
	for n, item := range items {
		m := bareBehind.FindStringSubmatch(strings.TrimSpace(item))
		if m == nil || !r.known(m[1]) {
			return false
		}
		items[n] = m[2] + " " + m[1]
		counted = counted && r.take(items[n]).Match.Ingredient.Counted()
	}
	for _, item := range items {
		r.ingredient(l.at, item, part)
	}
	if !counted { // once for all of them
		r.asked = slices.DeleteFunc(r.asked, func(u Unread) bool { return u.Line == l.at && u.Why == whichUnit })
		r.asked = append(r.asked, Unread{l.at, l.item, "in which unit are the amounts?"})
	}
	return true
}

var bareBehind = pattern.Must(`^(\pL[\pL ]*?):? (\d{2,4})$`)

// nameColon is a name before its amount in a list: "flour: 200 g; butter: 100 g".
var nameColon = pattern.Must(`(^|; )(\pL[\pL ]{1,20}): (\d)`)

// fetched stands before what somebody is to bring: "bring 200g pasta, …".
var fetched = pattern.Must(`(?i)^(?:please )?(?:bring|get|buy|fetch|collect|remember)(?: in)? |^([^\d,;.:]{0,50})\b(?:its|it['’]s|takes?|uses|you need|u need|you want) `)

// runOn takes a list with nothing between its things: "FILLING 2 carrots 100g red lentils
// 1 onion". Each of them has to be known.
func (r *reader) runOn(l line, part *string) bool {
	text := l.item
	if !figure.MatchString(text) {
		return false
	}
	name := ""
	if m := partAhead.FindStringSubmatch(text); m != nil && !r.known(m[1]) && r.certain(runAmounts(m[2])[0]) {
		name, text = m[1], m[2]
	}
	pieces := runAmounts(text)
	row := len(pieces) == 1 && name != "" && r.inRow(l) // "Base 100 g flour | ½ tsp oregano"
	both := len(pieces) == 2 && r.certain(pieces[0]) && r.certain(bothAre.ReplaceAllString(pieces[1], "")) && !strings.Contains(pieces[0], ",")
	if both {
		pieces[1] = bothAre.ReplaceAllString(pieces[1], "")
	}
	if len(pieces) < 3 && !row && !both || slices.ContainsFunc(pieces, func(p string) bool { return !r.take(p).Reading.Given }) {
		return false
	}
	sure := 0
	for _, p := range pieces {
		if r.certain(p) {
			sure++
		}
	}
	if 3*sure < 2*len(pieces) {
		return false
	}
	if name != "" {
		*part = kitchen.Capital(strings.ToLower(name))
		r.addPart(*part)
	}
	for _, p := range pieces {
		r.ingredient(l.at, p, *part)
	}
	return true
}

// inRow reports whether others stand beside a line in the same line of the source.
func (r *reader) inRow(l line) bool {
	return slices.ContainsFunc(r.lines, func(o line) bool { return o.at == l.at && o.text != l.text })
}

var bothAre = pattern.Must(`(?i)\s+both\s+\pL+$`)

var (
	partAhead = pattern.Must(`^([A-Z]\pL{2,}(?: \pL+)?):? ((?:\d|[½¼¾⅓⅔]).*)$`)
	nextThing = pattern.Must(`\pL\)? +((?:\d|[½¼¾⅓⅔])[\d½¼¾⅓⅔/.]*\s?\pL)`)
)

// runAmounts cuts a text before every amount that follows a word.
func runAmounts(s string) []string {
	var out []string
	from := 0
	for _, m := range nextThing.FindAllStringSubmatchIndex(s, -1) {
		if leadsOn.MatchString(s[from:m[2]]) {
			continue
		}
		out = append(out, strings.TrimSpace(s[from:m[2]]))
		from = m[2]
	}
	out = append(out, strings.TrimSpace(s[from:]))
	for n := range out[:len(out)-1] { // "baking powder and the zest of", "2 lemons"
		if m := partOfNext.FindStringSubmatchIndex(out[n]); m != nil {
			if m[2] >= 0 {
				out[n+1] = out[n][m[2]:m[3]] + " " + out[n+1]
			}
			out[n] = out[n][:m[0]]
		}
	}
	return out
}

// leadsOn is before what belongs to it: "1 x 400 g tin", "1 clove or ½ tsp powder".
var leadsOn = pattern.Must(`(?i)(?:\d ?x|\bor) $`)

// partOfNext is the end of a thing that belongs to the next.
var partOfNext = pattern.Must(`(?i),?(?: and| plus)?(?: the)? ((?:grated )?(?:zest|juice|rind)(?: and (?:juice|zest))? of)$|,? and$`)

// nameFirst takes an ingredient with its amount behind it: "Potatoes - about 2lb".
func (r *reader) nameFirst(l line, part string) bool {
	m := amountBehind.FindStringSubmatch(l.item)
	if m == nil {
		m = kindBehind.FindStringSubmatch(l.item)
	}
	if m == nil {
		return false
	}
	turned := m[2] + " " + m[1]
	if t := r.take(turned); !t.Reading.Given || !t.Match.Certain {
		return false
	}
	r.ingredient(l.at, turned, part)
	return true
}

// kindBehind is "Rice: 3 cups long grain".
var kindBehind = pattern.Must(`^(\pL{3,16}):\s*((?:\d|[½¼¾⅓⅔])[^,;]*?)(?:\s*\([^)]*\))?$`)

var amountBehind = pattern.Must(`(?i)^([\pL][\pL ]{2,30}?)\s*[-–—:]\s*(?:about |approx\.? |ca\.? |~)?((?:\d|[½¼¾⅓⅔])[^,]{0,16}?)(?:\s+(?:for|per|each)\b.*)?$`)

// nutrition reports whether a line is one of a table of what a portion holds: among its
// neighbours there is one that can be nothing else.
func (r *reader) nutrition(n int) bool {
	is := func(n int) bool {
		return n >= 0 && n < len(r.lines) && r.lines[n].quiet == "" && nutrient.MatchString(r.lines[n].plain())
	}
	if !is(n) {
		return false
	}
	if strings.HasPrefix(r.about, "nutrition") {
		return true
	}
	first, last := n, n
	for is(first - 1) {
		first--
	}
	for is(last + 1) {
		last++
	}
	return slices.ContainsFunc(r.lines[first:last+1], func(l line) bool { return nothingElse.MatchString(l.plain()) })
}

var (
	nutrient    = pattern.Must(`(?i)^\W*(?:of which )?(?:energy|calories|total fat|saturated fat|trans fat|fat|saturates|cholesterol|sodium|salt|carbohydrates?|carbs|sugars?|fibre|fiber|protein)\b\s*[:=\-–—|]?\s*<?\s*\d+(?:[.,]\d+)?\s*(?:g|mg|kcals?|cals?|kj)?\b[^\pL]*(?:kcals?|kj)?\W*$`)
	nothingElse = pattern.Must(`(?i)\b(?:energy|calories|kcals?|kj|saturate[sd]|cholesterol|sodium|carbohydrates?|carbs|fib(?:re|er)|protein)\b`)
)

// eachAmount reports whether every part of a line is an ingredient with its
// amount: "4 tbsp syrup, 1 egg".
func (r *reader) eachAmount(s string) bool {
	items := listed(s)
	return len(items) > 1 && !slices.ContainsFunc(items, func(item string) bool { return !r.certain(item) })
}

// allKnown reports whether every one of several items is known, with an amount or without.
func (r *reader) allKnown(items []string) bool {
	return len(items) > 1 && !slices.ContainsFunc(items, func(item string) bool { return !r.known(item) })
}

var amountThere = pattern.Must(`(?i)(?:^|[\s(])(?:\d|[½¼¾⅓⅔]|a pinch|pinch|half an? |half \pL{3}|(?:one|two|three|four|an?) (?:small|medium|large)\b)`)

// manyAmounts reports whether a line holds several ingredients.
func (r *reader) manyAmounts(s string) bool {
	with := 0
	items := listed(s)
	if len(items) == 1 {
		items = runAmounts(s)
	}
	for _, item := range items {
		if m := perHeadOf.FindStringSubmatch(item); m != nil { // "½ lemon each"
			item = m[1]
		}
		if t := r.take(item); t.Reading.Given && (t.Reading.Unit.Dimension != measure.Count || t.Match.Certain) {
			with++
		}
	}
	return with >= 2 && 2*with >= len(items)
}

// laterAmount reports whether a line names several things, the first of them without an amount
// and another with one: "pepper, 1 can chickpeas, drained".
func (r *reader) laterAmount(s string) bool {
	items := listed(s)
	return !r.take(s).Reading.Given && r.allKnown(items) && !amountThere.MatchString(items[0]) && slices.ContainsFunc(items[1:], r.certain)
}

// listed parts a list in one line at its commas, and at "and" before an
// amount.
func listed(s string) []string {
	s = slashAmount.ReplaceAllString(strings.TrimRight(s, ".; "), "$1 / $2")
	s = unitSlash.ReplaceAllString(s, "$1/$2")
	if len(amountEnds.FindAllString(s, 3)) > 1 || sentencesOfAmounts(s) { // “flour, 225 g. butter, 110 g.”
		s = fullStop.ReplaceAllString(s, "; ")
	}
	sep := comma
	if at := slices.IndexFunc(separators, func(mark *pattern.Pattern) bool { return mark.MatchString(s) }); at >= 0 {
		sep = separators[at]
	}
	var out []string
	for _, item := range outside(s, sep) {
		item = halfBehind.ReplaceAllString(item, "half $1$2")
		if inner := partBefore.ReplaceAllString(partAside.ReplaceAllString(item, ""), "$1"); sep == semicolon && allBegin(outside(inner, comma)) {
			out = append(out, listed(inner)...) // "6 sheets, 1 onion; sauce - 40 g butter, 40 g flour"
			continue
		}
		if whole := strings.TrimSpace(item); bothOf.MatchString(whole) || eachOf.MatchString(whole) {
			out = append(out, strings.TrimSpace(item))
			continue
		}
		for _, half := range outside(item, andAmount) {
			half = strings.TrimSpace(strings.TrimPrefix(strings.TrimSpace(half), "and "))
			if half == "" {
				continue
			}
			if len(out) > 0 && (cutSize.MatchString(half) || !amountThere.MatchString(half) && isJob(half) && !workedFood.MatchString(half)) && !strings.Contains(half, " and ") {
				out[len(out)-1] += ", " + half // "2 onions, chopped, 3 eggs"
				continue
			}
			out = append(out, half)
		}
	}
	return out
}

// sentencesOfAmounts reports whether a list has a stop behind each thing: "5 oz flour. 4 oz
// butter. ½ an egg."
func sentencesOfAmounts(s string) bool {
	parts := strings.Split(fullStop.ReplaceAllString(s, "$1\n"), "\n")
	ahead := 0
	for _, p := range parts {
		if amountAhead.MatchString(p) {
			ahead++
		}
		if len(strings.Fields(p)) > 6 {
			return false
		}
	}
	return ahead >= leastRun && 3*ahead >= 2*len(parts) && !strings.Contains(s, ",")
}

// amountEnds is an amount that stands behind its name, at the end of a sentence.
var amountEnds = pattern.Must(`(,\s*\d+(?:[.,]\d+)?\s*(?:g|gms?|gr|kg|mls?|l|oz|tsp|tbsp))\.\s+`)

// cutSize is how large something is cut.
var cutSize = pattern.Must(`(?i)^\d+(?:[.,]\d+)?\s*(?:cm|mm|inch)(?: (?:dice|cubes?|pieces?|slices?|chunks?|strips?|sticks?|batons?|rounds?)\b.*)?$`)

// workedFood is what recipes ask for as it is worked, and no work on what stands before.
var workedFood = pattern.Must(`(?i)^(?:freshly |finely )?(?:grated|ground|chopped|crushed|dried|desiccated|beaten) (?:eggs?|egg whites?|nutmeg|cheese|cheddar|parmesan|ginger|cinnamon|cumin|almonds?|nuts?|walnuts?|coconut|parsley|mint|herbs?|chives|basil|oregano|thyme|apricots?|lemon zest|orange zest|black pepper)(?: to \pL+)?$`)

// outside parts a text where a mark stands in no brackets.
func outside(s string, mark *pattern.Pattern) []string {
	var out []string
	depth := brackets(s)
	from := 0
	for _, m := range mark.FindAllStringIndex(s, -1) {
		if depth[m[0]] == 0 {
			out = append(out, s[from:m[0]])
			from = m[1]
		}
	}
	return append(out, s[from:])
}

var (
	comma     = pattern.Must(`,`)
	semicolon = pattern.Must(`;`)
	// separators are marks that part a list in which commas part nothing, the surest first.
	separators = []*pattern.Pattern{semicolon, pattern.Must(` / `), pattern.Must(` • `), pattern.Must(` · `), pattern.Must(` \| `)}
)

// allBegin reports whether there are several pieces and each begins with an amount.
func allBegin(pieces []string) bool {
	return len(pieces) > 1 && !slices.ContainsFunc(pieces, func(p string) bool { return !amountAhead.MatchString(p) })
}

var amountAhead = pattern.Must(`(?i)^\s*(?:\d|[½¼¾⅓⅔]|an? |half |one |two |three )`)

var partAside = pattern.Must(`^\s*\pL[\pL ]{2,20} [-–—] `)

// halfBehind is a half behind its name: "apple half, grated".
var halfBehind = pattern.Must(`(?i)^\s*(\pL[\pL ]{2,16}?) half\s*((?:,.*)?)$`)

// partBefore is the name of a part before what is in it: "topping 150 ml cream".
var partBefore = pattern.Must(`(?i)^\s*(?:for the )?(?:topping|filling|sauce|icing|base|glaze|dressing|marinade|crumble|pastry|dough|batter|dip|garnish):? (\d.*)$`)

// "40 g butter/40 g flour" is two things, "100 grams/4 oz butter" one.
var (
	slashAmount = pattern.Must(`(\pL{3,})/((?:\d|[½¼¾⅓⅔]))`)
	unitSlash   = pattern.Must(`(?i)\b(grams?|ounces?|cups?|tbsp|tsp|litres?|pints?|mls|kilos?) / (\d|[½¼¾⅓⅔])`)
)

var andAmount = pattern.Must(`\s+(?:and|&|\+|plus)\s+(?:\b|$)`)

// inMethodAmounts takes the amounts that the method names where there is no
// list; where there is one, only water.
func (r *reader) inMethodAmounts() {
	have := len(r.Ingredients) > 0
	water := slices.ContainsFunc(r.Ingredients, func(i Ingredient) bool { return i.Taking.Ingredient.Pantry == "water" })
	for _, p := range r.prose {
		for _, m := range proseAmount.FindAllStringSubmatchIndex(p.text, -1) {
			item := strings.TrimSpace(p.text[m[2]:m[3]])
			t := r.take(item)
			lines := p.linesOf(m[2], m[3])
			if numberEnds.MatchString(item) { // "rest 5. Roll out"
				continue
			}
			if become.MatchString(p.text[max(0, m[2]-len(" into ")):m[2]]) && (strings.HasPrefix(item, "a ") || strings.HasPrefix(item, "an ") || t.Reading.Unit.Dimension == measure.Count) {
				continue // "beat it to a cream", "shape into 6 rolls"
			}
			if !t.Reading.Given || ofWhatIs.MatchString(item) || len(lines) == 0 || t.Reading.Unit.Dimension == measure.Length || t.Reading.Low.Cmp(exact.Int(0)) <= 0 {
				continue
			}
			if each := ofEach.FindStringSubmatch(p.text[m[2]:]); each != nil && !have {
				for _, name := range andKnown.Split(each[2], -1) {
					r.ingredient(lines[0], each[1]+" "+name, "")
				}
				continue
			}
			if t.Ingredient.Name == "each" || t.Ingredient.Name == "" { // of what was named before
				continue
			}
			isWater := t.Ingredient.Pantry == "water"
			if have && !isWater && r.unlisted(t) && saidToTake(p.text, m[2]) {
				r.asked = append(r.asked, Unread{lines[0], item, "it stands in the method and not in the list, and is taken as needed: is that right?"})
				r.Ingredients = append(r.Ingredients, Ingredient{Line: lines[0], Taking: t, Prepared: ""})
				continue
			}
			if have && (!isWater || water) || t.Reading.Unit.Dimension == measure.Count && !t.Match.Certain && !t.Reading.Unit.Loose() {
				continue
			}
			water = water || isWater
			r.Ingredients = append(r.Ingredients, Ingredient{Line: lines[0], Taking: t, Prepared: ""})
		}
		if !have {
			r.amongAmounts(p)
		}
	}
}

// unlisted reports whether the list has nothing of a thing that is known, under this name or another.
func (r *reader) unlisted(t recipe.Taking) bool {
	counted := t.Reading.Unit.ID == measure.Each.ID
	if !t.Match.Certain || !t.Reading.Given || counted && (!t.Match.Ingredient.Counted() || !t.Reading.Low.IsInt() || breads.MatchString(t.Reading.Name)) {
		return false
	}
	name := pantry.Folded(t.Match.Ingredient.Name)
	return !slices.ContainsFunc(r.Ingredients, func(i Ingredient) bool {
		listed := pantry.Folded(i.Taking.Ingredient.Name + " " + i.Taking.Match.Ingredient.Name + " " + i.Taking.Reading.Line)
		return i.Taking.Ingredient.Pantry == t.Ingredient.Pantry || slices.ContainsFunc(name, func(w string) bool { return slices.Contains(listed, w) })
	})
}

var numberEnds = pattern.Must(`^\d+\.\s+\pL`)

// breads are what a recipe makes more often than takes.
var breads = pattern.Must(`(?i)\b(?:flatbreads?|wraps?|tortillas?|naans?|pittas?|rolls?|buns?|baps?|scones?)$`)

// saidToTake reports whether the sentence round an amount tells to do something with it, and not only
// in some case: "if it is too dry add 1 tbsp milk".
func saidToTake(text string, at int) bool {
	from := strings.LastIndexAny(text[:at], ".!?;") + 1
	to := len(text)
	if end := strings.IndexAny(text[at:], ".!?;"); end >= 0 {
		to = at + end
	}
	return len(verbsIn(text[from:to])) > 0 && !inSomeCase.MatchString(text[from:at])
}

var inSomeCase = pattern.Must(`(?i)\b(?:if|or|could|can|may|might|unless|optional(?:ly)?|instead)\b`)

// amongAmounts takes what a sentence names without an amount among others that have one: "add
// 300 g rice, 1 tsp curry powder, bay leaf and 400 ml water".
func (r *reader) amongAmounts(p passage) {
	from := 0
	for _, sentence := range strings.SplitAfter(p.text, ". ") {
		if len(proseAmount.FindAllStringIndex(sentence, 2)) > 1 {
			for _, part := range andKnown.Split(strings.TrimRight(sentence, ". "), -1) {
				t := r.take(part)
				if figure.MatchString(part) || len(strings.Fields(part)) > 3 || t.Reading.Given || !t.Match.Certain ||
					slices.ContainsFunc(r.Ingredients, func(i Ingredient) bool { return i.Taking.Ingredient.Pantry == t.Ingredient.Pantry }) {
					continue
				}
				r.ingredient(p.linesOf(from, from+len(sentence))[0], part, "")
			}
		}
		from += len(sentence)
	}
}

// become stands before what something turns into.
var become = pattern.Must(`(?i)\b(?:to|into|like|as) $`)

// ofWhatIs is some of what is there already: "a cup of the water".
var ofWhatIs = pattern.Must(`(?i)\bof (?:the|its|that|this)\b`)

// ofEach is "half a teaspoon each of turmeric, chilli powder and salt" in prose.
var ofEach = pattern.Must(`(?i)^((?:\d|[½¼]|an? |half |one )[^,.]{0,18}?) each(?: of)? ((?:[\pL]+(?: \pL+)?, )*\pL+(?: \pL+)? and \pL+)`)

var proseAmount = pattern.Must(`(?i)(?:^|[\s(,])((?:(?:(?:\d{1,2} ?x ?)?\d+(?:[.,/]\d+)?(?:\s*\d/\d)?\s*[½¼¾⅓⅔]?|[½¼¾⅓⅔]|half an?|a|an|one|two|three|four|five|six|seven|eight|nine|ten|eleven|twelve|sixteen)(?:\s*(?:-|–|to)\s*\d+)?\s*(?:g|gms?|gr|kg|kgs|mls?|l|cl|dl|oz|lbs?|ounces?|pounds?|kilos?|fl oz|pints?|cups?|tsp|tbsp|teaspoons?|tablespoons?|dsp|dessertspoons?|pinch(?:es)?|knob|handful|tins?|cans?|cloves?|litres?|grams?)?\.?\s+(?:of\s+)?(?:[\pL][\pL'-]*)(?:\s+[\pL][\pL'-]*){0,3}?))(?:$|[.,;:!?)]|\s*[(+&]|\s+\d|\s+(?:and|into|in|w|with|to|on|until|over|for|then|or|plus|from|together|at|through|by|is|are|onto|well|until|till?|gently|if)\b)`)
