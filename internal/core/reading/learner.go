package reading

import (
	"strings"

	"freshapron/internal/core/duration"
	"freshapron/internal/core/pattern"
	"freshapron/internal/core/setting"
)

// forLearner reports whether a line is for the learner's head, pen or bag, rather than for the pan: a
// question, a form to fill in, what a portion holds, what to bring it all in, or the end of a letter home.
func (r *reader) forLearner(l line, text string) bool {
	if regards.MatchString(text) {
		r.signed = l.at
		return true
	}
	if asked.MatchString(text) || energy.MatchString(text) && !r.amounts(l) && !imperative(l.item) || ofLetter.MatchString(text) || servedAtHome.MatchString(text) {
		return true
	}
	if besideBook.MatchString(text) && len(setting.In(text)) == 0 || ofPen.MatchString(text) && !tidies.MatchString(text) && !r.speaksOf(text) && len(duration.In(text)) == 0 && len(setting.In(text)) == 0 {
		return true
	}
	word, _, _ := headVerb(l.item)
	if r.signed > 0 && l.at <= r.signed+linesOfName && word == "" && len(strings.Fields(text)) <= headWords/2 && !r.amounts(l) {
		return true
	}
	switch {
	case r.amounts(l):
		return false
	case brings.MatchString(text):
		return !r.speaksOf(text) && !figure.MatchString(text) && !toHeat.MatchString(text)
	}
	return word == "" && (blanks.MatchString(text) && (ofWhoWrites.MatchString(text) || !r.speaksOf(text)) || rating.MatchString(text))
}

const linesOfName = 3 // at most below the regards: who it is, and what of the school

var (
	// asked is a question: "Why do we rest it?"
	asked = pattern.Must(`(?i)^(?:q\d*[.:)]? ?)?(?:why|what|which|how|when|where|who|can|could|did|do|does|is|are|was|were|would|should|have|has)\b[^.!?]*\?+$`)
	// besideBook begins what is to be thought of or written down, whatever it goes on with.
	besideBook = pattern.Must(`(?i)^\W*(?:did you know|glossary|key ?(?:words?|terms?|skills?|facts?)|vocab\w*|(?:peer|self)[- ]?(?:comments?|feedback|assess\w*|evaluat\w*|mark\w*)|evaluat(?:e|ion)|(?:my |your )?targets?|next time|extension|star rating|taste test|photo\w*|(?:teacher|parent|learner|pupil|student)(?:['’]?s)? (?:signature|comments?)|my (?:finished|evaluation)|how did (?:i|you|we|it)|(?:adapt|learn|think|extend|vary|discuss|reflect|review|afl|sen|eal)\s*:.*|(?:one|two|three|\d) things? (?:i|we|you|that|to))(?:\b|$)`)
	// ofPen are words of what is to be written down.
	ofPen = pattern.Must(`(?i)\b(?:evaluat\w+|feedback|targets?|sentences?|exercise books?|(?:in|into) your books?|worksheets?|signatures?|signed|write|(?:draw|sketch) (?:an?|the|your) (?:\pL+ )?(?:diagrams?|pictures?|plan|graph|table|labels?|design|poster)|score (?:each|it|them|out|from)|amber|learnt|learned|learn|homework)\b|^\W*next lesson\b|\b(?:change|improve|better|differently)\b[^.]{0,24}\bnext lesson\b`)
	// ofLetter are sentences of a letter home, and how it ends.
	ofLetter = pattern.Must(`(?i)^(?:if (?:you|your child) (?:have|has|are|is) (?:any|unable|not able)\b|(?:we|i) (?:would )?ask for (?:a |an )?(?:voluntary |small )?(?:contribution|donation)|please (?:let (?:us|me) know|contact|(?:sign and )?return (?:the|this|your) (?:\pL+ )?(?:slip|form|letter))\b|(?:many )?thanks? (?:you )?for your\b)`)
	regards  = pattern.Must(`(?i)^(?:(?:(?:kind|best|warm|many)(?:est)? )?(?:regards|wishes)|yours (?:sincerely|faithfully|truly)|many thanks)\W*$`)
	// servedAtHome is what is served elsewhere: "rice to serve (at home)".
	servedAtHome = pattern.Must(`(?i)\bto serve\b.*\bat home\W*$`)
	// tidies is work, whatever is to be written beside it: "wash up, wipe down, evaluate".
	tidies = pattern.Must(`(?i)\b(?:wash|wip|dry|clear|clean|tid|tast|eat|serv)(?:e|es|ed|y|ies|ied|ying|ing|s)?\b`)
	// energy is what a portion holds: "Nutrition per portion: energy 320 kcal".
	energy = pattern.Must(`(?i)\d ?(?:kcal|kj|cal(?:orie)?s)\b`)
	// rating is to be ringed or coloured in: "Star rating: * * * * *".
	rating = pattern.Must(`(?:[*★☆○□☐] ?){3,}$|(?i)\b(?:rating|score|mark) ?(?:out of|/) ?\d`)
	// ofWhoWrites begins a sentence to end: "I worked well with ____".
	ofWhoWrites = pattern.Must(`(?i)^(?:i|we|my|our)\b`)
	// toHeat is no asking: "Bring a large pan to the boil".
	toHeat = pattern.Must(`(?i)\b(?:boil|simmer|heat|temperature|together)\b`)
	// brings asks for what is no food: "Please bring your ingredients in a labelled bag".
	brings = pattern.Must(`(?i)^(?:optional(?:ly)?:? )?(?:please |remember (?:to |your )?|don['’]?t forget (?:to |your )?)*bring (?:in |an?\b|your|some|something|enough|ingredients|from|money|£)`)
)
