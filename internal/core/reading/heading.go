package reading

import (
	"slices"
	"strconv"
	"strings"

	"freshapron/internal/core/pattern"
)

// section of a text.
type section int

const (
	preface section = iota
	list
	method
	facts
)

// headings by the words that are all of them, or begin them before a colon.
var headings = []struct {
	is    section
	words *pattern.Pattern
}{
	{facts, pattern.Must(`(?i)^you(?:'ll| will)? need (?:the following|this|these) (?:equipment|kit|tools)\b`)},
	{list, pattern.Must(`(?i)^(?:(?:weigh|measure|collect|gather)(?: out)?\s*:\s*$|(?:gather|collect)\s*$|(?:list of |the |main |your |dry |wet )?ingredients?(?: list)?(?: (?:and|&) (?:amounts?|quantit(?:y|ies)|weights?|measures?))?(?: needed| (?:i|we|you) need)?|what do (?:i|we|you) need\??|(?:what|things|stuff) (?:i|we|you)?(?:'ll| will)? ?(?:need )?to bring|bring(?: in)? from home|stuff (?:you|we|i)(?:'ll| will)? need|for \d people (?:you|we) need|ing(?:r(?:ed)?)?s?\b\.?|what to get out|get out|(?:what )?you(?:'ll| will)?(?: also)? need(?: to (?:bring|get|buy|collect|weigh out)(?: (?:in|from home))?)?|what you need|what (?:i|we) used|shopping list|commodit(?:y list|ies)|things you need|to buy|zutaten|ingrédients?|ingredienser|ingredienti|ingredientes|ingrediënten|(?:what )?(?:we|i)(?:'ll| will)? need|needed|(?:quantit(?:y|ies)|amounts?) (?:per|for each|for one) (?:pair|pupil|learner|student|child|person|group(?: of \d)?|bench)|for the class|per (?:pair|pupil|learner|group|person|student|child|bench)|each (?:child|pupil|student|learner|person|pair|group)(?: (?:will )?(?:needs?|brings?))?|for (?:each|one) (?:pupil|learner|pair|person))\b`)},
	{method, pattern.Must(`(?i)^(?:method of (?:working|work|making)|before (?:you|we) (?:start|begin|cook)|step[- ]by[- ]step(?: method)?|(?:the |my |our |cooking |preparation |recipe )?methods?(?: (?:in (?:brief|short)|summary|outline))?|how (?:you|we|i|to) (?:make|do|cook) (?:it|this|them)|how it(?:'s| is) (?:done|made)|how-to|(?:order|plan|stages|sequence) of (?:work|making|cooking)|(?:time|production|making) plan|sequence|stages?|tasks?\W*$|make it|now\W*$|meth\b\.?|jobs?|steps?|(?:cooking )?directions?|(?:cooking )?instructions?|preparation|procedure|how to(?: (?:make|do|cook)(?: it| them| this)?)?|i do|what (?:i|we|they) did|what (?:i|we)(?:['’]ll| will| am going to| are going to) do|what (?:to|you|u|they|we|i|pupils|learners|students) do|what do (?:i|we|you|they) do\??|to make(?: it| them)?|making(?: it)?|the how|zubereitung|préparation|gör så här|tillagning|preparazione|preparación|bereiding|timings?|time ?lines?|method ?/ ?timings?|do (?:this|it)(?:\s*:|$)|do this|do(?:\s*:|$)|production(?:$|\s*:)|now cook|here's how|let's (?:cook|bake|go|make it|start)|process)\b`)},
	{facts, pattern.Must(`(?i)^(?:kit list|(?:equipment|utensils|tools|kit)(?: (?:needed|from (?:the )?(?:store|prep room|cupboard|drawers?)|(?:per|for each|for one) (?:pair|pupil|learner|student|child|person|group|bench)))?|notes?|(?:top )?tips?|hygiene(?: (?:and|&) safety)?|chef'?s notes?|cook'?s notes?|nutrition(?:al)?(?: information| facts)?|storage|variations?|substitutions?|allergens?|contains|learning(?: (?:outcomes?|objectives?|intentions?|aims?|focus))?|skills?|success criteria|vocabulary|health (?:and|&) safety|h ?& ?s|safety(?: (?:points?|notes?|rules?|first|reminders?|checks?))?|evaluation|starter (?:activity|task)|how did (?:i|we|you|it|they) (?:do|go)\b\??|homework|hwk|hw|h/w|extension|plenary|serving suggestions?|per serving|tags?|categor(?:y|ies)|comments?|reviews?|about|introduction|intro|source|did you know|glossary|(?:self|peer)[- ]?assess(?:ment)?|(?:peer )?feedback|reflections?|exit ticket|targets?|questions?|science|words(?: (?:to use|bank))?|word ?bank|key (?:words|terms|skills|facts)|(?:the )?functions? of (?:the |your )?ingredients|what (?:the )?ingredients do|checks?)\b`)},
}

// forOne takes the yield that the heading of a list implies: "Per pair".
func (r *reader) forOne(l *line) {
	m := forEach.FindStringSubmatch(ingredientsFor.ReplaceAllString(strings.Trim(ruled.ReplaceAllString(l.plain(), "$1"), "[] "), ""))
	if m == nil || r.Yield.Count > 0 {
		return
	}
	r.Yield = Yield{Count: 1, Piece: "portion", Line: l.at}
	if words := strings.Fields(strings.ToLower(r.Title)); r.each > 0 && len(words) > 0 && m[2] == "" && !strings.EqualFold(m[1], "pair") && isMade(words[len(words)-1]) {
		r.Yield.Count, r.Yield.Piece = r.each, pieceOf(words[len(words)-1], r.each)
		return
	}
	if strings.EqualFold(m[1], "pair") {
		r.Yield.Count = 2
	}
	if n, err := strconv.Atoi(m[2]); err == nil {
		r.Yield.Count = n
	}
}

// forEach says for whom a list is.
var forEach = pattern.Must(`(?i)^(?:(?:quantit(?:y|ies)|amounts?) )?(?:per|for each|each|for one) (?:(pair|pupil|student|learner|child|person)\b|group of ([2-6])\b)`)

// perOne are pairs and learners without the word before: "(pairs)".
var perOne = pattern.Must(`(?i)^(?:a |one |in )?(pair|pupil|student|learner|person)s?$`)

// perSome says for whom without saying how many they are.
var perSome = pattern.Must(`(?i)^\(?(?:per|for each|each|for) (?:the )?(?:group|bench|class|team|table|dish|recipe)\)?:?$`)

// forWhomIn finds for whom a list is in the words over it.
var forWhomIn = pattern.Must(`(?i)\b(?:per|for each|each|for one) (?:pair|pupil|student|learner|child|person|group of [2-6])\b`)

// ofTheClassOnly are amounts for everybody, where there are others for one bench.
const ofTheClassOnly = "for the class"

// forTheClass stands over them.
var forTheClass = pattern.Must(`(?i)^(?:(?:order|amounts?|quantit(?:y|ies)|ingredients?|totals?|needed|shopping(?: list)?|requisition|to order)\s*[:–-]?\s*)?(?:for|per)\s+(?:the\s+)?(?:whole\s+)?class(?:\s*\(?(?:of )?\d{0,2}\)?)?\s*:?$|^(?:whole )?class (?:totals?|order|amounts?|quantit(?:y|ies))\s*:?$`)

// listForOne reports whether there is a list for one of the class.
func (r *reader) listForOne() bool {
	for n, l := range r.lines {
		if l.quiet == "" && forEach.MatchString(ingredientsFor.ReplaceAllString(strings.Trim(l.plain(), "[]() "), "")) && r.followedByAmounts(n) {
			return true
		}
	}
	return false
}

// ingredientsFor stands before for whom.
var ingredientsFor = pattern.Must(`(?i)^(?:ingredients|(?:what )?(?:you|we) need)\W+`)

// label begins a line with when it is done.
var label = pattern.Must(`(?i)^(?:(?:lesson|day|week|part|stage|session|period)\s*(?:\d+|one|two)?|l\d)\s*(?:\((?:mon|tue|wed|thu|fri)[a-z]*\))?\s*[:–-]\s*`)

// heading takes a line that begins a section, with what follows it; it reports
// false where the line is no heading after all.
func (r *reader) heading(l *line, is section, rest string, in *section, part *string) bool {
	switch {
	case is == facts && *in == method && rest == "" && l.marked && !l.hashed():
		return false
	case rest == "":
		r.Headings = append(r.Headings, l.at)
		*in, *part, r.about = is, "", ""
		r.headed = r.headed || is == list
		r.forOne(l)
		if is == facts {
			r.about = strings.ToLower(strings.Trim(l.plain(), " :"))
		}
		return true
	case is == list:
		r.Headings = append(r.Headings, l.at)
		r.forOne(l)
		*in = list
		if y, ok := yieldOf(strings.Trim(rest, "()")); ok {
			if r.Yield.Count == 0 {
				y.Line = l.at
				r.Yield = y
			}
			return true
		}
		if perSome.MatchString(rest) { // "Ingredients - per group"
			return true
		}
		if m := forEach.FindStringSubmatch(perOne.ReplaceAllString(strings.Trim(rest, "() "), "per $1")); m != nil { // “You need (per pair)”
			*l = made(*l, m[0], list)
			r.forOne(l)
			return true
		}
		if r.aside(rest) { // “(bring from home)”
			r.Facts = append(r.Facts, Fact{Line: l.at, Says: strings.Trim(rest, "()"), About: "needed"})
		} else {
			r.items(l.at, rest, *part)
		}
		return true
	case is == method && !isVerb(firstWord(l.plain())):
		r.Headings = append(r.Headings, l.at)
		*in = method
		if r.aside(rest) { // “(tick each one)”
			r.Facts = append(r.Facts, Fact{Line: l.at, Says: strings.Trim(rest, "()")})
		} else if len(strings.Fields(rest)) > 1 {
			r.say(*l, rest)
		}
		return true
	}
	return false
}

// aside reports whether nothing but a remark in brackets stands behind a heading, in which
// no figure is an amount: "(bring from home or pay 50p)".
func (r *reader) aside(rest string) bool {
	inner, ends := strings.CutSuffix(rest, ")")
	inner, begins := strings.CutPrefix(inner, "(")
	return begins && ends && (!figure.MatchString(inner) || !slices.ContainsFunc(listed(inner), r.certain))
}

// ruled are the dashes around "-- Ingredients --".
var ruled = pattern.Must(`^[-=~]*\s*(.+?)\s*[-=~]{2,}$`)

// headingOf recognises "Ingredients:", "METHOD" and "Ingredients (serves 4)".
func headingOf(text string) (is section, rest string, ok bool) {
	text = strings.TrimSpace(strings.Trim(ruled.ReplaceAllString(text, "$1"), "*_[] "))
	for _, h := range headings {
		m := h.words.FindString(text)
		if m == "" {
			continue
		}
		rest = strings.TrimSpace(text[len(m):])
		bare := strings.TrimSpace(strings.Trim(rest, ":.-–—!?… "))
		switch {
		case bare == "":
			return h.is, "", true
		case strings.HasPrefix(rest, ":"), strings.HasPrefix(rest, "-"), strings.HasPrefix(rest, "–"), strings.HasPrefix(rest, "("):
			return h.is, bare, true
		case len(strings.Fields(rest)) <= 3 && len(text) < 40 && (h.is == list || h.is == method) && !strings.ContainsAny(rest, ".,;") && partWords.MatchString(rest):
			if _, yields := yieldOf(bare); yields {
				return h.is, bare, true
			}
			return h.is, strings.TrimSpace(partWords.ReplaceAllString(rest, "")), true
		}
	}
	return 0, "", false
}

var partWords = pattern.Must(`(?i)^(?:for .*|(?:per|each) (?:pair|pupil|learner|student|child|person|bench|group(?: of \d)?)|\(.*\)|serves \d+|qty|quantit(?:y|ies)|amounts?|weights?)$`)

func firstWord(s string) string { return wordIn.FindString(s) }
