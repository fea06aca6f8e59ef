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
	text = boldWithin.ReplaceAllString(text, "$1$2$3$4")
	text = boldAmount.ReplaceAllString(text, "$1$2")
	text = minuteLetter.ReplaceAllString(text, "$1 minutes$2")
	text = apostrophed.ReplaceAllString(text, "${1}s")
	text = misspelt.ReplaceAllString(text, "minute$1")
	text = minuteMark.ReplaceAllString(text, "$1 minutes")
	text = stopWithin.ReplaceAllString(text, "$1$2")
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

	boldWithin   = regexp.MustCompile(`(?m)(\S[ \t]+|^[ \t]*)(?:\*\*([^*\n]+)\*\*|__([^_\n]+)__)([ \t]+\S)`)
	boldAmount   = regexp.MustCompile(`(?m)^([ \t]*(?:[-*•][ \t]+)?)\*\*((?:\d|[½¼¾⅓⅔])[^*\n]*)\*\*`)
	minuteLetter = regexp.MustCompile(`(?m)(\d)m([ .,;)]|$)`)
	apostrophed  = regexp.MustCompile(`(?i)(\d ?min)(?:['’]s\b|s['’])`)
	misspelt     = regexp.MustCompile(`(?i)\b(?:minuete?|mintue|minuite|miniute|mintute|munite)(s?)\b`)
	minuteMark   = regexp.MustCompile(`(\d) ?′`)
	stopWithin   = regexp.MustCompile(`(\d ?(?i:mins?|hrs?|secs?))\.( +(?:\(|(?:a|and|at|by|depending|each|either|if|in|longer|more|on|or|over|per|stirring|then|till|to|turning|until|with|without) ))`) // "4 min. each side"

	twoMarks  = regexp.MustCompile(`(?m)^[ \t]*(?:[-•*▪◦☐□]|\[ ?\])[ \t]*(\d{1,2}) `)             // "- 1 Mix", which says twice that it is one of a list
	parted    = regexp.MustCompile(`(?m)(?:^.{2,60};[ \t]*$\n?){3,}|(?:^.{2,60},[ \t]*$\n?){3,}`) // a list as a sentence
	atLineEnd = regexp.MustCompile(`(?m)[;,][ \t]*$`)

	gap     = regexp.MustCompile(`[^\s] +[^\s]`)
	wideGap = regexp.MustCompile(`([^\s]) {2,3}([^\s])`)
)

// leastWide is how many wide gaps make a text that a print has spread.
const leastWide = 12
