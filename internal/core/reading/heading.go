package reading

import (
	"regexp"
	"strings"
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
	words *regexp.Regexp
}{
	{list, regexp.MustCompile(`(?i)^(?:(?:the |main |your |dry |wet )?ingredients?(?: list)?(?: needed)?|(?:what )?you(?:'ll| will)?(?: also)? need|what you need|shopping list|things you need|to buy|zutaten|ingrédients?|ingredienser|ingredienti|ingredientes|ingrediënten|we need|needed|for the class|per (?:pair|pupil|learner|group)|each (?:child|pupil|learner|person|pair|group) (?:will )?needs?|for (?:each|one) (?:pupil|learner|pair|person))\b`)},
	{method, regexp.MustCompile(`(?i)^(?:(?:the )?method|steps?|(?:cooking )?directions?|(?:cooking )?instructions?|preparation|procedure|how to (?:make|do|cook)(?: it| them| this)?|what (?:to|you) do|to make(?: it| them)?|making(?: it)?|the how|zubereitung|préparation|gör så här|tillagning|preparazione|preparación|bereiding|do this|now cook|here's how|let's (?:cook|bake)|process)\b`)},
	{facts, regexp.MustCompile(`(?i)^(?:equipment|utensils|tools|kit(?: list)?|you(?:'ll| will)? need the following equipment|notes?|tips?|chef'?s notes?|cook'?s notes?|nutrition(?:al)?(?: information| facts)?|storage|variations?|substitutions?|allergens?|contains|learning|skills?|success criteria|vocabulary|health (?:and|&) safety|safety|evaluation|homework|extension|serving suggestions?|per serving|tags?|categor(?:y|ies)|comments?|reviews?|about|introduction|intro|source|did you know|questions?|science|words|checks?)\b`)},
}

// label begins a line with when it is done.
var label = regexp.MustCompile(`(?i)^(?:lesson|day|week|part|stage|session|period)\s*(?:\d+|one|two)?\s*[:–-]\s*`)

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
		if is == facts {
			r.about = strings.ToLower(strings.Trim(l.plain(), " :"))
		}
		return true
	case is == list:
		r.Headings = append(r.Headings, l.at)
		*in = list
		if y, ok := yieldOf(strings.Trim(rest, "()")); ok {
			if r.Yield.Count == 0 {
				y.Line = l.at
				r.Yield = y
			}
			return true
		}
		for _, item := range listed(rest) {
			r.ingredient(l.at, item, *part)
		}
		return true
	case is == method && !isVerb(firstWord(l.plain())):
		r.Headings = append(r.Headings, l.at)
		*in = method
		if len(strings.Fields(rest)) > 1 {
			r.say(*l, rest)
		}
		return true
	}
	return false
}

// headingOf recognises "Ingredients:", "METHOD" and "Ingredients (serves 4)".
func headingOf(text string) (is section, rest string, ok bool) {
	text = strings.TrimSpace(strings.Trim(text, "*_ "))
	for _, h := range headings {
		m := h.words.FindString(text)
		if m == "" {
			continue
		}
		rest = strings.TrimSpace(text[len(m):])
		bare := strings.TrimSpace(strings.Trim(rest, ":.-–— "))
		switch {
		case bare == "":
			return h.is, "", true
		case strings.HasPrefix(rest, ":"), strings.HasPrefix(rest, "-"), strings.HasPrefix(rest, "–"), strings.HasPrefix(rest, "("):
			return h.is, bare, true
		case len(strings.Fields(rest)) <= 3 && len(text) < 40 && (h.is == list || h.is == method) && !strings.ContainsAny(rest, ".,;") && partWords.MatchString(rest):
			return h.is, strings.TrimSpace(partWords.ReplaceAllString(rest, "")), true
		}
	}
	return 0, "", false
}

var partWords = regexp.MustCompile(`(?i)^(?:for .*|\(.*\)|serves \d+|qty|quantit(?:y|ies)|amounts?|weights?)$`)

func firstWord(s string) string { return words.FindString(s) }
