package reading

import (
	"slices"
	"strings"

	"freshapron/internal/core/duration"
	"freshapron/internal/core/fit"
	"freshapron/internal/core/pattern"
	"freshapron/internal/core/setting"
	kitchen "freshapron/internal/core/words"
)

// sort says of each line what it is.
func (r *reader) sort() {
	in := preface
	part := ""
	r.titled()
	r.titledBetween()
	r.wrap = wrappingOf(r.lines)
	prose, stages := r.listless(), r.stages()
	for n := range r.lines {
		l := &r.lines[n]
		if l.titled {
			continue
		}
		if l.quiet == ruler {
			r.Headings = append(r.Headings, l.at)
			continue
		}
		if l.quiet != "" {
			r.unread(*l, l.quiet)
			continue
		}
		switch l.is {
		case list:
			r.ingredient(l.at, l.item, part)
			in = list
			continue
		case method:
			if inSequence.MatchString(l.item) {
				r.Headings = append(r.Headings, l.at)
				continue
			}
			r.say(*l, l.item)
			in = method
			continue
		case facts:
			r.fact(*l)
			continue
		}
		text := l.plain()
		if stepMark.FindString(text) == text || label.FindString(text+":") == text+":" || inSequence.MatchString(text) {
			r.Headings = append(r.Headings, l.at)
			if in != preface { // “Lesson 1” stands over a list too
				in = method
			}
			continue
		}
		if stages && n+1 < len(r.lines) && (stageHead.MatchString(l.text) || stageName.MatchString(l.text)) {
			r.Headings = append(r.Headings, l.at)
			r.Facts = append(r.Facts, Fact{Line: l.at, Says: l.text})
			if _, behind, _ := strings.Cut(text, ")"); len(duration.In(behind)) > 0 {
				r.asked = append(r.asked, Unread{l.at, l.text, "when a stage begins is not read: is it right as it follows?"})
			}
			if len(r.Ingredients) > 0 {
				in = method
			}
			continue
		}
		if forTheClass.MatchString(text) && r.listForOne() {
			r.Headings = append(r.Headings, l.at)
			in, r.about = facts, ofTheClassOnly
			continue
		}
		if bringsKit.MatchString(text) { // whatever is told above it
			r.Facts = append(r.Facts, Fact{l.at, l.item, "bringing"})
			continue
		}
		if in != facts && !isVerb(l.item) && !slices.ContainsFunc(andKnown.Split(l.item, -1), func(part string) bool { return !utensil.MatchString(part) || r.known(part) }) { // “Whisk” is work
			r.Facts = append(r.Facts, Fact{l.at, l.item, "equipment"})
			continue
		}
		if is, rest, ok := headingOf(text); ok && (rest == "" || is != facts) && len(stretches.FindAllString(rest, 3)) < 3 {
			if r.heading(l, is, rest, &in, &part) {
				r.kit = false
				continue
			}
		} else if ok && in != method {
			r.fact(*l)
			if kitHead.MatchString(text) { // which goes on below
				in, r.kit = facts, true
			}
			continue
		}
		if head, rest, more := strings.Cut(text, ". "); more && costs.MatchString(rest) { // "Serves 4. Cost approx £3.20"
			if y, ok := yieldOf(head); ok {
				r.fact(*l)
				if r.Yield.Count == 0 {
					y.Line, r.Yield = l.at, y
				}
				continue
			}
		}
		y, ok := yieldOf(text)
		if parts := strings.Split(text, " / "); !ok && len(parts) == 2 { // “Für 2 Personen / serves two”
			first, _ := yieldOf(parts[0])
			if y, ok = yieldOf(parts[1]); first.Count != y.Count {
				ok = false
			}
		}
		if !ok && in == preface {
			y, ok = r.bareYield(text)
		}
		if ok && (r.Yield.Count == 0 || in == preface) && !(in == list && r.certain(text)) { // "2 wraps" in the list are bought
			first := r.Yield.Count == 0
			if first {
				y.Line = l.at
				r.Yield = y
			}
			if first && setApart.MatchString(text) {
				r.fact(*l)
			}
			if in == method && imperative(l.item) { // "cut into 12 squares" is to be done too
				r.say(*l, l.item)
			} else if !first {
				r.fact(*l)
			}
			continue
		}
		if r.yieldBelow(n, text) {
			continue
		}
		in = r.place(n, text, in, &part, prose)
	}
	for _, l := range r.lines { // of a step it is asked there
		if l.asks != "" && !l.titled && !slices.ContainsFunc(r.prose, func(p passage) bool { return slices.Contains(p.lines, l.at) }) {
			r.asked = append(r.asked, Unread{l.at, l.text, l.asks})
		}
	}
	r.broughtTwice()
	r.titledBelow()
	r.titledAbove()
	r.asSpoken()
	r.yieldInside()
	r.forGroup()
}

// listless reports whether the text has no list: its amounts stand in prose.
func (r *reader) listless() bool {
	amounts, sentences := 0, 0
	for _, l := range r.lines {
		if l.quiet != "" || l.titled {
			continue
		}
		if is, _, ok := headingOf(l.plain()); ok && is == list {
			return false
		}
		switch {
		case strings.Count(l.item, ",") >= 2 && r.manyAmounts(l.item):
			if word, _, _ := headVerb(l.item); word == "" {
				return false
			}
		case r.amounts(l):
			amounts++
		case sentence(l.item):
			sentences++
		}
	}
	return amounts < 2 && sentences > 0
}

// sentence reports whether a line reads as prose or as an order.
func sentence(s string) bool {
	n := len(strings.Fields(s))
	word, _, _ := headVerb(s)
	return n > 4 && (strings.HasSuffix(s, ".") || strings.HasSuffix(s, "!") || strings.Contains(s, ". ") || strings.Contains(s, "! ")) || n > 14 || n > 2 && word != ""
}

// imperative reports whether a line orders something to be done by a word that
// names no food: "Cut the carrots".
func imperative(s string) bool {
	word, _, other := headVerb(s)
	return word != "" && !other && !foods[word] && sentence(s)
}

// perHead is how many one of the class gets: "2 each".
var perHead = pattern.Must(`(?i)^\d{1,2} (?:each|per (?:person|pupil|learner|student|child|head|pair|bench))\.?$`)

// ofNeeds is a reminder of what somebody can't eat.
var ofNeeds = pattern.Must(`(?i)^(?:(?:nb|note|remember|reminder|don['’]?t forget|careful|watch out)[:,!]? )*(?:that )?[\pL' ]{2,40} (?:can['’]?t|cannot|can not|mustn['’]?t|must not|isn['’]?t allowed|is not allowed)(?: to)? (?:have|eat|touch|be near)\b[^.!?]*[.!]?$`)

// ofOne says what one of the class has: "Ben has an egg allergy".
var ofOne = pattern.Must(`(?:^|[.!?,;:] )\p{Lu}[\pL'-]+(?: and \p{Lu}[\pL'-]+)? (?i:(?:has|have|is|are) (?:an? |severely |highly )?(?:[\pL-]+ ){0,2}(?:allerg(?:y|ies|ic)|intoleran(?:t|ce|ces)|c(?:o?e)?liac|diabetic)\b)`)

// place puts a line where it belongs and returns the section that goes on.
func (r *reader) place(n int, text string, in section, part *string, prose bool) section {
	l := r.lines[n]
	if (ofNeeds.MatchString(text) || ofOne.MatchString(text)) && len(duration.In(text)) == 0 {
		r.unread(l, "it says what somebody can’t eat: that belongs in the class list, not in a recipe")
		return in
	}
	if in == preface && l.at > r.TitleLine && r.TitleLine > 0 && ofSchool.MatchString(text) {
		r.fact(l)
		return in
	}
	if perHead.MatchString(text) {
		r.unread(l, "it says how many each gets, and not how many it makes in all")
		return in
	}
	if caption.MatchString(text) || r.nutrition(n) || lessonAlone.MatchString(text) && in != method || r.forLearner(l, text) {
		r.fact(l)
		return in
	}
	if m := inlineList.FindStringSubmatch(text); m != nil {
		if who := forWhomIn.FindString(strings.TrimSuffix(text, m[1])); who != "" { // "You will need per student: …"
			head := made(l, who, list)
			r.forOne(&head)
		}
		r.items(l.at, m[1], *part)
		return list
	}
	if m := youWant.FindStringSubmatch(text); m != nil && !strings.Contains(m[2], ",") {
		if run := runAmounts(counts(m[2])); len(run) > 1 && !slices.ContainsFunc(run, func(p string) bool { return !r.certain(strings.TrimPrefix(p, "and ")) }) {
			if says := strings.TrimSpace(m[1]); says != "" {
				r.Facts = append(r.Facts, Fact{Line: l.at, Says: says})
			}
			for _, p := range run { // "you need one onion one carrot"
				r.ingredient(l.at, p, *part)
			}
			return list
		}
	}
	if m := youWant.FindStringSubmatch(text); m != nil && r.manyAmounts(m[2]) {
		if who := forWhomIn.FindString(strings.TrimSuffix(text, m[2])); who != "" { // "Can you put out per pair …"
			head := made(l, who, list)
			r.forOne(&head)
		}
		if says := strings.TrimSpace(m[1]); strings.Contains(says, " ") {
			r.Facts = append(r.Facts, Fact{Line: l.at, Says: says})
		}
		r.items(l.at, m[2], *part)
		return list
	}
	if len(stretches.FindAllString(text, 3)) > 2 && strings.Count(text, ";")+strings.Count(text, ",") > 1 { // a plan of the lesson in one line
		r.fact(l)
		return in
	}
	if aside.MatchString(text) && !prose || howTheyWork.MatchString(text) {
		r.fact(l)
		r.inTwos(l, text)
		return in
	}
	if m := sentIn.FindStringSubmatch(text); m != nil {
		if things := andKnown.ReplaceAllString(strings.TrimRight(m[1]+m[2], ". "), ", "); r.manyAmounts(things) || r.allKnown(listed(things)) {
			r.items(l.at, things, *part)
			return list
		}
	}
	if in != preface && r.overSteps(n) {
		r.Headings = append(r.Headings, l.at)
		return method
	}
	amount := r.amounts(l)
	word, _, _ := headVerb(l.item)
	if word == "" {
		word, _, _ = headVerb(label.ReplaceAllString(l.item, ""))
	}
	order := word != "" && len(strings.Fields(l.item)) > 1 || l.numbered && !amount && len(verbsIn(l.item)) > 0 || preheating(l.item) && !amount || adultIn(l.item) != fit.NoAdult || beside(l.item) > 0
	told := false // “Lesson: mix everything”
	if m := label.FindString(text); m != "" {
		v, _, _ := headVerb(text[len(m):])
		told = v != ""
	}
	head, _, _ := strings.Cut(text, ":")
	home := ofSchoolOnly.MatchString(text) || besideWork(text) || insteadOf.MatchString(text) || itTook.MatchString(text) || costs.MatchString(text) || atHomeOnly.MatchString(text) && !hereToo.MatchString(text)
	isFact := times.MatchString(text) && !(amount && (r.certain(l.item) || !strings.Contains(text, ":"))) && !collects.MatchString(head) && !(in == method && l.numbered && order) && !told && !(in == method && bareOven.MatchString(text) && len(duration.In(text)) > 0) || remark.MatchString(text) || keeps.MatchString(text) || home
	if isFact && !(order && in != preface && !timeOf.MatchString(text) && !remark.MatchString(text) && !keeps.MatchString(text) && !home && !strings.Contains(text[:min(16, len(text))], ":")) {
		r.fact(l)
		return in
	}
	switch in {
	case facts:
		switch {
		case r.about == ofTheClassOnly:
		case amount && r.followedByAmounts(n) && (!l.marked || len(r.Ingredients) == 0 && r.certain(l.item)):
			r.ingredient(l.at, l.item, *part)
			return list
		case l.numbered && order && !r.counts, (r.kit || kitHead.MatchString(r.about) && !l.marked) && imperative(l.item):
			r.say(l, l.item)
			return method
		}
		r.fact(l)
		return in
	case method:
		return r.inMethod(n, text, amount, order, part, prose)
	}
	if in == list && !amount && !figure.MatchString(l.item) && ordersOf(l.item) > 1 {
		r.say(l, l.item)
		return method
	}
	if m := onePart.FindStringSubmatch(text); m != nil && in == list && r.certain(m[2]) && !sentence(m[2]) {
		*part = m[1]
		r.addPart(m[1])
		r.ingredient(l.at, m[2], m[1])
		*part = ""
		return list
	}
	if m := serveWith.FindStringSubmatch(text); m != nil && in == list {
		for _, name := range strings.Split(m[2], ",") {
			r.ingredient(l.at, strings.TrimSpace(name)+", "+strings.ToLower(m[1]), *part)
		}
		return list
	}
	if m := partList.FindStringSubmatch(text); m != nil && in == list && len(duration.In(m[2])) > 0 && ordersOf(m[2]) > 0 { // "Rice first: 50 g rice, 100 ml water. Bring to the boil …"
		r.say(l, l.item)
		return method
	}
	if r.partInLine(l, text, in, part) || !amount && r.nameFirst(l, *part) {
		return list
	}
	return r.inList(n, text, in, amount, order, part, prose)
}

// sentIn stands before what families send in, and what the school adds: "Please send your child in
// with: 1 potato, …", "We will supply curry paste, oil and rice".
var sentIn = pattern.Must(`(?i)^(?:please )?(?:send|bring|provide)\b[^:\d]{0,50}:\s*(.+)$|^(?:we|i|school|the school)(?: will|'ll|’ll)? (?:supply|provide|supplies|provides) (.+)$`)

// bringsKit says what to bring to take the food home in.
var bringsKit = pattern.Must(`(?i)^(?:please |remember to |you(?:'ll| will)? (?:also )?need (?:to )?)?(?:bring|remember|don['’]?t forget|you need)(?: in)?:? (?:an?|your|some|the) (?:[\pL-]+ ){0,2}(?:containers?|tubs?|box|tupperware|lunch ?box|foil dish|dish|apron|tea ?towel|tray|bag)(?: (?:to|for) [^.]*)?[.!]*$`)

// onePart is a part of the dish of one thing: "Glaze: 1 tbsp golden syrup".
var onePart = pattern.Must(`^(?i:for (?:the )?)?(\pL{3,16}(?: \pL{3,16})?)\s*:\s*((?:\d|[½¼¾]|an? )[^,;&+]{3,50})$`)

// serveWith is what is served beside: "To serve: soured cream, lime wedges".
var serveWith = pattern.Must(`(?i)^(to (?:serve|garnish|finish|decorate))\s*[:–-]\s*([\pL' -]+(?:,[\pL' -]+)*)\.?$`)

// ordersOf counts the sentences of a text that order something.
func ordersOf(text string) (n int) {
	for _, s := range strings.Split(fullStop.ReplaceAllString(text, "$1\n"), "\n") {
		if word, _, _ := headVerb(s); word != "" && !edible[word] {
			n++
		}
	}
	return n
}

// followedByAmounts reports whether the next line is one of a list too.
func (r *reader) followedByAmounts(n int) bool {
	return n+1 < len(r.lines) && r.lines[n+1].quiet == "" && r.amounts(r.lines[n+1])
}

// inMethod places a line of the method: something to do, the heading of a
// part, or a list that begins again.
func (r *reader) inMethod(n int, text string, amount, order bool, part *string, prose bool) section {
	l := r.lines[n]
	if name, ok := r.partOf(n, text); ok {
		r.Headings = append(r.Headings, l.at)
		*part = name
		if r.followedByAmounts(n) {
			r.addPart(name)
			return list
		}
		return method
	}
	if amount && !order && !prose && !sentence(l.item) && (l.gap || r.followedByAmounts(n)) && !l.numbered {
		r.ingredient(l.at, l.item, *part)
		return list
	}
	if !order && !amount && r.closes(n) {
		r.fact(l)
		return method
	}
	if !order && smallTalk.MatchString(l.item) && len(duration.In(l.item)) == 0 && len(r.prose) > 0 && l.gap && !l.marked {
		r.fact(l)
		return method
	}
	r.say(l, l.item)
	return method
}

// behindColon reports whether what to do stands behind a colon: "salsa first: mix
// everything".
func behindColon(item string) bool {
	_, behind, _ := strings.Cut(item, ": ")
	return isVerb(firstWord(behind))
}

// behindComma reports whether what to do stands behind a comma: "pasta + milk in a pan, bring to
// simmer".
func behindComma(item string) bool {
	parts := strings.Split(item, ", ")
	return slices.ContainsFunc(parts[1:], func(p string) bool {
		word, at, _ := headVerb(p)
		return word != "" && at == 0 && !edible[word] && !foods[word] && len(strings.Fields(p)) > 2 && !isJob(p)
	})
}

// mostlyKnown reports whether the parts of a line are things of their own: all of them are
// known, or of three and more two, and none of the others says how one is worked.
func (r *reader) mostlyKnown(parts []string) bool {
	known := 0
	for _, p := range parts {
		p = strings.TrimSpace(p)
		switch {
		case r.take(p).Match.Certain:
			known++
		case len(parts) < 3 || p == "" || isJob(p) || len(strings.Fields(p)) > 3:
			return false
		}
	}
	return known >= 2
}

// componentHead names a part of an assessed dish.
var componentHead = pattern.Must(`(?i)^(?:component|part|layer|stage) ?\d? ?[-–—]? ?[\pL ]{0,24}$`)

// inList places a line before the method: an ingredient, the heading of a
// part, a reason, or the first thing to do.
func (r *reader) inList(n int, text string, in section, amount, order bool, part *string, prose bool) section {
	l := r.lines[n]
	if name, ok := r.partOf(n, text); ok && !amount {
		r.Headings = append(r.Headings, l.at)
		*part = name
		r.addPart(name)
		return list
	}
	parted := sentencesOfAmounts(l.item) || strings.Count(l.item, ";") >= 2 || strings.Count(l.item, " / ") >= 2 || strings.Count(l.item, " + ") >= 2 || strings.Count(l.item, " • ")+strings.Count(l.item, " · ") >= 1
	if parts := strings.Split(l.item, ","); in == list && len(parts) > 1 && !figure.MatchString(l.item) && !imperative(l.item) && r.mostlyKnown(parts) {
		for _, name := range parts { // “salt, nutmeg”
			r.ingredient(l.at, strings.TrimSpace(name), *part)
		}
		return list
	}
	if in == list && !figure.MatchString(l.item) && !strings.Contains(l.item, ",") && r.severalKnown(l.item) {
		for _, name := range andKnown.Split(l.item, -1) {
			if use := behindAll.FindString(l.item); !strings.HasSuffix(name, use) { // "coriander + lime wedges to finish"
				name += "," + use
			}
			r.ingredient(l.at, name, *part)
		}
		return list
	}
	if head, rest, _ := strings.Cut(l.item, ": "); in == list && len(r.Ingredients) > 0 && componentHead.MatchString(head) && r.eachAmount(rest) {
		r.items(l.at, rest, *part)
		return list
	}
	each := strings.Count(l.item, ",") == 1 && r.eachAmount(l.item)
	many := (strings.Count(l.item, ",") >= 2 || parted) && r.manyAmounts(l.item) || each || in == list && r.laterAmount(l.item)
	switch {
	case r.misprinted(l, *part), in == list && r.withoutUnits(l, *part):
		return list
	case in == list && !l.numbered && eggWash.MatchString(l.item): // which is what to do anywhere else
		r.ingredient(l.at, l.item, *part)
		return list
	case many && (!order || each) && (!prose || parted || r.eachAmount(l.item)):
		r.items(l.at, l.item, *part)
		return list
	case in != method && r.runOn(l, part):
		return list
	case amount && !(l.numbered && order && sentence(l.item)):
		r.ingredient(l.at, l.item, *part)
		return list
	case in == list && !amount && !r.known(l.item) && len(r.Ingredients) > 1 && (behindColon(l.item) || behindComma(l.item)):
		r.say(l, l.item)
		return method
	case in == list && partOfFruit.MatchString(l.item) && r.known(partOfFruit.FindStringSubmatch(l.item)[3]): // "juice 1 lime"
		r.ingredient(l.at, l.item, *part)
		return list
	case in == list && l.numbered && !amount && !r.known(l.item) && len(strings.Fields(l.item)) > 2:
		r.say(l, l.item)
		return method
	case order && (len(strings.Fields(l.item)) > 2 || in == list) && (!r.known(l.item) || imperative(l.item)):
		r.say(l, l.item)
		return method
	case in == list && len(duration.In(l.item)) > 0 && (len(verbsIn(l.item)) > 0 || intoOven.MatchString(l.item) || inFridge.MatchString(l.item)) && !r.known(l.item):
		r.say(l, l.item)
		return method
	case in == list && onlyHot.MatchString(l.item):
		r.say(l, l.item)
		return method
	case in == list && sentence(l.item) && (len(duration.In(l.item)) > 0 || len(setting.In(l.item)) > 0 || len(verbsIn(l.item)) > 1):
		r.say(l, l.item)
		return method
	case in == list && (r.known(l.item) || len(strings.Fields(l.item)) <= 7 && !sentence(l.item) && (r.headed || r.speaksOf(l.item))):
		r.ingredient(l.at, l.item, *part)
		return list
	case in == preface && prose && len(verbsIn(l.item)) > 0 && !smallTalk.MatchString(l.item):
		r.say(l, l.item)
		return method
	case in == preface && len(r.Ingredients) == 0 && r.known(l.item) && r.followedByAmounts(n):
		r.ingredient(l.at, l.item, *part)
		return list
	}
	if in == preface && r.TitleLine > 0 && (sentence(l.item) || len(strings.Fields(l.item)) > 3 || smallTalk.MatchString(l.item)) && r.cooks() && !weighs.MatchString(l.item) {
		r.fact(l)
		return in
	}
	if in == preface && len(strings.Fields(l.item)) <= 4 && (len(duration.In(l.item)) > 0 || len(setting.In(l.item)) > 0) { // "30 min", "oven 220"
		r.fact(l)
		return in
	}
	r.unread(l, "it is neither an ingredient nor something to do")
	return in
}

// behindAll is what all of several things are for.
var behindAll = pattern.Must(`(?i) (?:to (?:serve|garnish|finish|decorate|taste))$`)

// onlyHot begins with how hot an oven is.
var onlyHot = pattern.Must(`(?i)^\W*(?:oven\b\W*(?:to |at |on )?(?:\d|gas)|gas (?:mark )?\d|\d{3} ?(?:°|deg|[cf]\b))`)

// weighs is an amount in words that are no ingredient: they are asked about.
var weighs = pattern.Must(`(?i)\b\d+\s?(?:g|kg|ml|cups?|tsp|tbsp|oz)\b`)

// cooks reports whether the text has amounts at all, so that prose before them
// is an introduction.
func (r *reader) cooks() bool {
	return slices.ContainsFunc(r.lines, func(l line) bool { return l.quiet == "" && r.amounts(l) })
}

// partOf recognises the heading of a part: "For the topping:", "TOPPING", and
// "Topping" between lists.
func (r *reader) partOf(n int, text string) (string, bool) {
	l := r.lines[n]
	trimmed := strings.TrimSpace(strings.Trim(text, "*_ "))
	if name := ofLesson.ReplaceAllString(trimmed, ""); capitals(name) {
		trimmed = name
	}
	trimmed = soManyOfPart.ReplaceAllString(trimmed, "$1")
	if len(trimmed) > 50 || l.numbered {
		return "", false
	}
	if eggWash.MatchString(trimmed) && n+1 < len(r.lines) && !strings.Contains(strings.ToLower(r.lines[n+1].item), "egg") { // an ingredient, and not what stands over its own
		return "", false
	}
	if m := partHead.FindStringSubmatch(trimmed); m != nil && !strings.ContainsAny(m[1], ".,0123456789") {
		return kitchen.Capital(m[1]), true
	}
	name, colon := strings.CutSuffix(trimmed, ":")
	if strings.ContainsAny(name, "0123456789½¼¾⅓⅔.,;!?") || name == "" {
		return "", false
	}
	short := len(strings.Fields(name)) <= 4
	inTitle := l.gap && !l.marked && len(r.Ingredients) > 0 && r.followedByAmounts(n) && strings.Contains(strings.ToLower(r.Title), strings.ToLower(name))
	switch {
	case inTitle: // "Dhal with flatbreads", and what is in the flatbreads
		return kitchen.Capital(name), true
	case colon && short, l.hashed(), emphasis.MatchString(l.item) && short:
		return kitchen.Capital(strings.ToLower(name)), true
	case capitals(name) && short && (!r.known(name) || (l.gap || len(r.Ingredients) > 2) && r.followedByAmounts(n) && !capitals(r.lines[n+1].item)): // "SHORTCRUST", and what is in it
		return kitchen.Capital(strings.ToLower(name)), true
	case short && !l.marked && !r.known(name) && r.followedByAmounts(n) && len(strings.Fields(name)) <= 3 && (l.gap || strings.HasPrefix(strings.ToLower(name), "the ") || len(strings.Fields(name)) <= 2) && (len(r.Ingredients) > 0 || r.TitleLine > 0 && len(strings.Fields(name)) <= 2):
		return kitchen.Capital(name), true
	}
	return "", false
}

// ofLesson says behind the name of a part when it is done: "FILLING (lesson 2 - 60 min)".
var ofLesson = pattern.Must(`(?i)\s*\((?:lesson|week|part|day|session) ?\d[^()]*\)$`)

// soManyOfPart is the name of a part with how many it makes: "Chapattis (makes 4)".
var soManyOfPart = pattern.Must(`(?i)^(\pL[\pL -]{2,30}) \((?:makes|serves) \d{1,2}\)$`)

func (r *reader) addPart(name string) {
	if !slices.Contains(r.Parts, name) {
		r.Parts = append(r.Parts, name)
	}
}
