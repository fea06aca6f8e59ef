package reading

import (
	"strings"

	"freshapron/internal/core/pattern"
)

// asOrder puts what somebody tells to have done, "first I boiled the pasta", into the order that
// it comes to: "first boil the pasta". Other lines stay, as does a sentence that is to be ended.
func asOrder(text string) string {
	if !tells.MatchString(text) || blanks.MatchString(text) {
		return text
	}
	text = tells.ReplaceAllStringFunc(text, func(s string) string {
		m := tells.FindStringSubmatch(s)
		if base, ok := ofPast(m[3]); ok {
			return m[1] + m[2] + base
		}
		return s
	})
	return toldOn.ReplaceAllStringFunc(text, func(s string) string {
		m := toldOn.FindStringSubmatch(s)
		if base, ok := ofPast(m[2]); ok {
			return m[1] + base + m[3]
		}
		return s
	})
}

var (
	tells = pattern.Must(`(?i)(^|[,.;] |\b(?:then|and|so|next|first|boiling|baking|cooking|meanwhile|that) )(?:i|we) ((?:also |then |just |carefully |quickly |gently |finely )?)(\pL+)`)
	// toldOn is what was done after that, which has no word for who did it.
	toldOn = pattern.Must(`(?i)(\b(?:and|then)(?: then)? |, )(\pL+)( (?:the|it|them|a|an|in|out|up|on|into|off|for|until|with|some|all|down|over|together|my|our)\b)`)
)

// pasts are the forms that are not made by "ed".
var pasts = map[string]string{"made": "make", "put": "put", "cut": "cut", "took": "take", "ran": "run", "left": "leave", "beat": "beat", "spread": "spread", "set": "set", "let": "let",
	"brought": "bring", "gave": "give", "kept": "keep", "got": "get", "shook": "shake", "ground": "grind", "froze": "freeze", "broke": "break", "used": "use"}

// ofPast is the base form of a verb of the table in the past; ok is false where it is none.
func ofPast(w string) (string, bool) {
	w = strings.ToLower(w)
	if base, ok := pasts[w]; ok {
		return base, true
	}
	stem, ok := strings.CutSuffix(w, "ed")
	if !ok || len(stem) < 2 {
		return "", false
	}
	try := []string{stem + "e", stem}
	if n := len(stem); n > 2 && stem[n-1] == stem[n-2] {
		try = append(try, stem[:n-1])
	}
	if strings.HasSuffix(stem, "i") {
		try = append(try, stem[:len(stem)-1]+"y")
	}
	for _, t := range try {
		if _, ok := verbs[t]; ok {
			return t, true
		}
	}
	return "", false
}
