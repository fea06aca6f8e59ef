package reading

import (
	"strconv"
	"strings"

	"freshapron/internal/core/pattern"
)

const (
	unitWords = `one|two|three|four|five|six|seven|eight|nine`
	tensWords = `twenty|thirty|forty|fifty|sixty|seventy|eighty|ninety`
	upTo19    = unitWords + `|ten|eleven|twelve|thirteen|fourteen|fifteen|sixteen|seventeen|eighteen|nineteen`
	spokenOf  = `(?:grams?|g|ml|mils?|millilitres?|minutes?|mins?|seconds?|degrees?)\b`
)

var (
	// "two hundred and twenty five", "a hundred", "thirty-five"
	compound = pattern.Must(`(?i)\b(?:(` + unitWords + `|a) hundred(?: and)?(?:[ -](` + tensWords + `))?(?:[ -](` + upTo19 + `))?|(` + tensWords + `)[ -](` + unitWords + `))\b`)
	// "two fifty grams", "at one eighty"
	shortHundred = pattern.Must(`(?i)(\b(?:at|to) )?\b(` + unitWords + `) (` + tensWords + `)(?:[ -](` + unitWords + `))?\b( ` + spokenOf + `)?`)
	oneWord      = pattern.Must(`(?i)\b(?:two|three|four|five|six|seven|eight|nine|ten|eleven|twelve)\b`)
	roundTens    = pattern.Must(`(?i)\b(` + tensWords + `)( ` + spokenOf + `)`)

	spokenNumbers = func() map[string]int {
		out := map[string]int{"a": 1}
		for n, w := range strings.Split(upTo19, "|") {
			out[w] = n + 1
		}
		for n, w := range strings.Split(tensWords, "|") {
			out[w] = 10 * (n + 2)
		}
		return out
	}()
)

// counts writes the small numbers of a text that are words in digits: "one onion one carrot".
func counts(text string) string {
	return smallNumber.ReplaceAllStringFunc(text, func(s string) string { return strconv.Itoa(spokenNumbers[strings.ToLower(s)]) })
}

var smallNumber = pattern.Must(`(?i)\b(?:` + upTo19 + `)\b`)

// inDigits writes numbers of several words, as somebody says them into a telephone, in
// digits: "two hundred and twenty five grams", "bake at one eighty".
func inDigits(text string) string {
	number := func(w string) int { return spokenNumbers[strings.ToLower(w)] }
	text = shortHundred.ReplaceAllStringFunc(text, func(s string) string {
		m := shortHundred.FindStringSubmatch(s)
		if m[1] == "" && m[5] == "" {
			return s
		}
		return m[1] + strconv.Itoa(100*number(m[2])+number(m[3])+number(m[4])) + m[5]
	})
	spoken := len(compound.FindAllString(text, 2)) > 1
	text = compound.ReplaceAllStringFunc(text, func(s string) string {
		m := compound.FindStringSubmatch(s)
		return strconv.Itoa(100*number(m[1]) + number(m[2]) + number(m[3]) + number(m[4]) + number(m[5]))
	})
	if spoken { // as the rest of it is
		text = oneWord.ReplaceAllStringFunc(text, func(s string) string { return strconv.Itoa(number(s)) })
	}
	return roundTens.ReplaceAllStringFunc(text, func(s string) string {
		m := roundTens.FindStringSubmatch(s)
		return strconv.Itoa(number(m[1])) + m[2]
	})
}
