package recipe

import (
	"fmt"
	"slices"
	"strconv"
	"strings"

	"freshapron/internal/core/pattern"
)

var (
	divided = pattern.Must(`(?i)\b(?:divide|divided|shape|form|fold|fill|roll|mark|score|crumble|layer|share|heap|pile|pour|ladle|cut|split|make|makes|portion|scoop|slice|separate|pipe|break|spoon|drop)\w*\b[^.;]{0,40}?\b(?:into|to make|in|between|among|amongst)\s+(?:the )?(\d{1,3}\b|two|three|four|five|six|eight|nine|ten|twelve|fifteen|sixteen|eighteen|twenty|a dozen)\b\s*(?:even |equal |equally |similar |same |small |large |round |neat |individual |greased |lined |paper |serving |warm |oval |flat )*([\pL]+|[,.;]|$)`)
	stamped = pattern.Must(`(?i)\b(?:stamp|cut|punch|press)\w*(?: out)? (?:about |roughly |around |at least )?(\d{1,3})\b\s*(?:small |large |neat |equal )*(rounds?|circles?|discs?|shapes?|biscuits?|scones?|stars?|hearts?)\b|\b(?:pipe|shape|form|make|roll|spoon|drop|put|set) (?:out )?(?:about |roughly )?(\d{1,3})\s+(?:small |large |neat |equal |even |paper |muffin |cake )*(buns|balls|rolls|cases|patties|burgers|cakes|fishcakes|mounds|heaps|dollops|spoonfuls|eclairs|meringues|koftas)\b|\b(?:onto|soak|thread|on|use)\s+(\d{1,3})\s+(?:(?:wooden|metal|bamboo|soaked|small|long|large)\s+)*(skewers?|kebab sticks|lolly sticks)\b`)
	anew    = pattern.Must(`(?i)\b(?:each|every|halve|halves|half|in two|again|sandwich\w*|pairs?|batch(?:es)?|tins|trays|lids?|tops?|bases?|join|twice|times|quarters?|re-?roll|trimmings|two|2|three|3)\b`)
	holes   = pattern.Must(`(?i)\b(\d{1,2})(?:[- ](?:hole|cavity)|-cup)\b`)
	spelled = map[string]int{"two": 2, "three": 3, "four": 4, "five": 5, "six": 6, "eight": 8, "nine": 9, "ten": 10, "twelve": 12, "fifteen": 15, "sixteen": 16, "eighteen": 18, "twenty": 20, "a dozen": 12}
	served  = pattern.Must(`(?i)^(?:glass|bowl|plate|ramekin|mould|pot|dish|cup|people|portion|serving|pudding)`)
	oneEach = pattern.Must(`(?i)^(?:case|hole|mould|cup)`)
	cuts    = pattern.Must(`(?i)^(?:slice|round|square|circle|wedge|piece)`)
	parts   = pattern.Must(`(?i)^(?:with|of|to|or|by|for|in|on|per|each|at|then|more|piece|part|half|halve|batch|strip|cm|mm|stick|slice|cube|chunk|wedge|layer|time|minute|tin|third|quarter|length|round|circle|sheet|log|rope|tray|sandwich|cake tin|portion|long|thin|thick|inch|floret|dice|baton)`)
)

// yieldContradicts compares what the recipe says it makes with what its steps
// divide it into.
func (c *checker) yieldContradicts() {
	if c.Yield < 1 {
		return
	}
	for n, s := range c.Steps {
		found := divided.FindAllStringSubmatch(s.Text, -1)
		for _, m := range stamped.FindAllStringSubmatch(s.Text, -1) {
			if m[5] != "" && !strings.HasPrefix(c.Piece, "skewer") && !strings.HasPrefix(c.Piece, "kebab") {
				continue // how many to a portion is free
			}
			found = append(found, []string{m[0], m[1] + m[3] + m[5], m[2] + m[4] + m[6]})
		}
		for _, m := range found {
			if cutIn.MatchString(m[0]) { // "sausages cut in 3"
				continue
			}
			count, err := strconv.Atoi(m[1])
			if err != nil {
				count = spelled[strings.ToLower(m[1])]
			}
			word := strings.Trim(strings.ToLower(m[2]), ",.;")
			if count < 2 || c.agrees(n, count, word) {
				continue
			}
			if word == "and" {
				word = ""
			}
			c.add(stepAt(n), "yield "+s.Title, fmt.Sprintf("It makes %s, and this step makes %s.", c.Count(c.Yield), strings.TrimSpace(fmt.Sprint(count, " ", word))), "Keep one of the two numbers.", nil)
		}
		for _, m := range holes.FindAllStringSubmatch(s.Text, -1) {
			count, _ := strconv.Atoi(m[1])
			if c.Piece != "portion" && count >= 4 && (c.Yield > count && (c.Yield%count != 0 || !c.dividedAgain(n)) || c.Yield*3 < count) {
				c.add(stepAt(n), "yield "+s.Title, fmt.Sprintf("It makes %s, and the tin has %d holes.", c.Count(c.Yield), count), "Look for a misprint.", nil)
			}
		}
	}
}

// cutIn is how a thing of the list is cut, and not what it makes.
var cutIn = pattern.Must(`(?i)\bcut in \d$`)

// dividedAgain reports whether a step, the one before or one after it says that what was made is
// parted or put together once more.
func (c *checker) dividedAgain(from int) bool {
	return slices.ContainsFunc(c.Steps[max(0, from-1):], func(s Step) bool { return anew.MatchString(s.Text) })
}

// agrees reports whether a step may make so many of something, called by a word
// or not, in a recipe of this yield.
func (c *checker) agrees(at, count int, word string) bool {
	if count == c.Yield {
		return true
	}
	multiple := count%c.Yield == 0
	if c.Piece != "" && c.Piece != "piece" && strings.HasPrefix(word, strings.ToLower(strings.TrimSuffix(c.Piece, "e"))) {
		return false
	}
	if c.Piece == "portion" && word != "" && word != "and" {
		return !served.MatchString(word) || multiple && c.Yield > 2
	}
	switch {
	case oneEach.MatchString(word):
		return c.Yield%count == 0 // in batches
	case served.MatchString(word), parts.MatchString(word) && !(cuts.MatchString(word) && c.Yield >= 6):
		return true // it is not what the yield counts
	}
	// Parts of each, slices of one, or parts that are divided again.
	return multiple && c.Yield < 3 || (multiple && count <= 3*c.Yield || c.Yield%count == 0) && c.dividedAgain(at)
}
