package recipe

import (
	"strings"

	"freshapron/internal/core/duration"
	"freshapron/internal/core/exact"
	"freshapron/internal/core/fit"
	"freshapron/internal/core/pattern"
	"freshapron/internal/core/words"
)

// MinutesIn returns the durations that a text names, in minutes, a range by
// its longer end: what the bell asks about is the worst. What goes on top of the
// one before it is added to that. What is longer than any step can last is none.
func MinutesIn(text string) []exact.Number {
	var out []exact.Number
	for _, d := range duration.In(text) {
		switch n := len(out); {
		case d.Inside || d.Most.Cmp(exact.Int(fit.MaxMinutes)) > 0:
		case d.More && n > 0:
			out[n-1] = out[n-1].Add(d.Most)
		default:
			out = append(out, d.Most)
		}
	}
	return out
}

// ShortTitle is the first words of a text, up to where it breaks.
func ShortTitle(text string) string {
	text = strings.TrimSpace(text)
	for _, stop := range []string{". ", ", ", "; ", " until ", " for ", ": ", "\n"} {
		if i := strings.Index(text, stop); i > 3 {
			text = text[:i]
		}
	}
	const most = 48
	if r := []rune(text); len(r) > most {
		cut := string(r[:most])
		if i := strings.LastIndexByte(cut, ' '); i > 10 {
			cut = cut[:i]
		}
		text = cut
	}
	return words.Capital(strings.TrimRight(text, ".,;: "))
}

// heatOven is a sentence that only asks to heat the oven.
var heatOven = pattern.Must(`(?i)^\s*(?:pre-?heat|heat|turn on|set|switch on)\s+(?:the\s+|your\s+)?oven\b[^.;]*[.;]?\s*`)
