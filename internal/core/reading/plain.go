package reading

import (
	"regexp"
	"strings"

	"freshapron/internal/core/words"
)

// plain writes the signs of other keyboards, programs and prints as ours. Lines stay where
// they are.
func plain(text string) string {
	if strings.Contains(text, "<") {
		text = listTag.ReplaceAllString(text, "- ")
		text = cellTag.ReplaceAllString(text, " ")
		text = tag.ReplaceAllString(text, "")
	}
	text = words.Plain(text)
	text = joined.ReplaceAllStringFunc(text, func(parted string) string {
		if strings.HasSuffix(parted, " oz") { // fluid ounces
			return parted
		}
		return strings.Replace(parted, " ", "", 1)
	})
	text = boldWithin.ReplaceAllString(text, "$1$2$3$4")
	text = boldMark.ReplaceAllString(text, "$1$2")
	text = boldAmount.ReplaceAllString(text, "$1$2")
	text = minuteLetter.ReplaceAllString(text, "$1 minutes$2")
	text = apostrophed.ReplaceAllString(text, "${1}s")
	text = misspelt.ReplaceAllString(text, "minute$1")
	text = minuteMark.ReplaceAllString(text, "$1 minutes")
	text = stopWithin.ReplaceAllString(text, "$1$2")
	text = braced.ReplaceAllString(text, "")
	text = halfBehind.ReplaceAllString(text, "$1 ½ $2")
	text = slideMark.ReplaceAllString(text, "")
	text = ofFlour.ReplaceAllString(text, "$1")
	text = unitStop.ReplaceAllString(text, "$1 ")
	text = andAHalf.ReplaceAllString(text, "1½ ${1}s")
	text = approxBehind.ReplaceAllString(text, "${1}about $2")
	text = countedProve.ReplaceAllString(text, "$1 ")
	text = eitherMinutes.ReplaceAllStringFunc(text, func(s string) string {
		m := eitherMinutes.FindStringSubmatch(s)
		if m[2][0] != m[1][0]+1 {
			return s
		}
		return m[1] + "-" + m[2] + m[3]
	})
	text = ishBehind.ReplaceAllString(text, "about $1")
	text = ovenLine.ReplaceAllString(text, "$1 $2")
	text = atSign.ReplaceAllString(text, "at $1")
	text = thenDown.ReplaceAllString(text, "$1 turn $2 to $3")
	text = inDigits(abbreviated.Replace(text))
	if wide := len(wideGap.FindAllString(text, -1)); wide >= leastWide && wide > len(gap.FindAllString(text, -1))*3/4 {
		for range 2 { // each takes a sign on both sides, and some words are one sign
			text = wideGap.ReplaceAllString(text, "$1 $2")
		}
	}
	if two := twoMarks.FindAllStringSubmatch(text, 3); len(two) == 3 && two[0][1] == "1" && two[2][1] == "3" {
		text = twoMarks.ReplaceAllString(text, "$1 ")
	}
	return parted.ReplaceAllStringFunc(text, func(run string) string { return atLineEnd.ReplaceAllString(run, "") })
}

var (
	listTag = regexp.MustCompile(`(?i)<li(?: [^<>]*)?>`)
	cellTag = regexp.MustCompile(`(?i)</?(?:br|div|p|td|th|tr)(?: [^<>]*)?/?>`)
	tag     = regexp.MustCompile(`(?i)</?(?:a|b|body|em|h[1-6]|html|i|li|ol|section|span|strong|sub|sup|table|tbody|u|ul)(?: [^<>]*)?/?>`)

	// joined are the joined letters of a print that a scanner has parted: "fl our", "fi nely"
	joined = regexp.MustCompile(`\b(?:[Ff]i|[Ff]l) \p{Ll}{2,}`)

	boldWithin   = regexp.MustCompile(`(?m)(\S[ \t]+|^[ \t]*)(?:\*\*([^*\n]+)\*\*|__([^_\n]+)__)([ \t]+\S)`)
	boldMark     = regexp.MustCompile(`(?m)^[ \t]*\*\*([-•] +)([^*\n]+)\*\*`) // the mark is bold too
	boldAmount   = regexp.MustCompile(`(?m)^([ \t]*(?:[-*•][ \t]+)?)\*\*((?:\d|[½¼¾⅓⅔])[^*\n]*)\*\*`)
	minuteLetter = regexp.MustCompile(`(?m)(\d)m([ .,;)]|$)`)
	apostrophed  = regexp.MustCompile(`(?i)(\d ?min)(?:['’]s\b|s['’])`)
	misspelt     = regexp.MustCompile(`(?i)\b(?:minuete?|mintue|minuite|miniute|mintute|munite)(s?)\b`)
	minuteMark   = regexp.MustCompile(`(\d) ?′`)
	stopWithin   = regexp.MustCompile(`(\d ?(?i:mins?|hrs?|secs?))\.( +(?:\(|(?:a|and|at|by|depending|each|either|if|in|longer|more|on|or|over|per|stirring|then|till|to|turning|until|with|without) ))`) // "4 min. each side"

	twoMarks  = regexp.MustCompile(`(?m)^[ \t]*(?:[-•*▪◦☐□]|\[ ?\])[ \t]*(\d{1,2}) `)             // "- 1 Mix", which says twice that it is one of a list
	parted    = regexp.MustCompile(`(?m)(?:^.{2,60};[ \t]*$\n?){3,}|(?:^.{2,60},[ \t]*$\n?){3,}`) // a list as a sentence
	atLineEnd = regexp.MustCompile(`(?m)[;,][ \t]*$`)

	braced        = regexp.MustCompile(`(?m)[ \t]*\}[ \t]*\pL*[,;.]?[ \t]*$`)                                                                           // "onion 250 g } mirepoix"
	halfBehind    = regexp.MustCompile(`(?im)^([ \t]*\pL[\pL ]{2,20}) half (?:an? )?((?:tsp|tbsp|teaspoon|tablespoon|tin|can|cup|pint|pack)s?)[ \t]*$`) // "salt half tsp"
	slideMark     = regexp.MustCompile(`(?im)^[ \t]*slide \d{1,2}\s*[:.–-]\s*`)
	ofFlour       = regexp.MustCompile(`(?im)(\d ?(?:g|kg|ml|l|gms?|gr\.?|grams?))[ ,–-]*\(?\d{1,3}(?:[.,]\d+)? ?%\)?[ \t]*$`) // "water 560 g 56%"
	unitStop      = regexp.MustCompile(`(?i)((?:\d|[½¼¾]) ?(?:oz|lbs?|tsp|tbsp|dsp|pt))\. +`)                                  // "5 oz. flour"
	andAHalf      = regexp.MustCompile(`(?i)\ban? (pint|pound|litre|kilo|cup|teaspoon|tablespoon|ounce) (?:and|&) a half\b`)
	approxBehind  = regexp.MustCompile(`(?im)^([ \t]*(?:[-*•][ \t]*)?)((?:\d|[½¼¾⅓⅔])[^.\n]*?),? \(?approx(?:imately|\.)?\)?[ \t]*$`) // "400 ml buttermilk approx."
	countedProve  = regexp.MustCompile(`(?i)\b(?:1st|first|2nd|second|final) (prove|proof|rise|bake)\s*[:–-]\s*`)                     // "1st prove: 1 hour"
	eitherMinutes = regexp.MustCompile(`\b([2-8])/([3-9])( ?min)`)                                                                    // "3/4 mins" is no three quarters
	ishBehind     = regexp.MustCompile(`(?i)\b(\d{1,3}) ?-?ish\b`)
	ovenLine      = regexp.MustCompile(`(?im)^([ \t]*(?:\d{1,2}[.)][ \t]*)?oven)[ \t]*[:–-][ \t]*(\d.*\d ?min.*)$`) // "Oven: 190 °C, 25 mins"
	atSign        = regexp.MustCompile(`@ ?(\d{2,3}\b)`)                                                            // "15 min @220"
	thenDown      = regexp.MustCompile(`(?i)\b(then|and) (down|up) to (\d{3})\b`)
	abbreviated   = strings.NewReplacer("S.R. ", "SR ", "s.r. ", "SR ", "abt. ", "about ", "Abt. ", "About ", " abt ", " about ")

	gap     = regexp.MustCompile(`[^\s] +[^\s]`)
	wideGap = regexp.MustCompile(`([^\s]) {2,3}([^\s])`)
)

// leastWide is how many wide gaps make a text that a print has spread.
const leastWide = 12
