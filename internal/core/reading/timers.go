package reading

import (
	"slices"
	"strings"

	"freshapron/internal/core/duration"
	"freshapron/internal/core/pattern"
)

// timerOn tells somebody to look at a clock.
var timerOn = pattern.Must(`(?i)^(?:set|start) (?:(?:an?|the|your|their|our|up) )*(?:(?:oven|kitchen) )?(?:timers?|alarms?|clocks?|stopwatch(?:es)?)\b`)

// timers gives what goes in without a time the minutes for which a timer is set behind it, or
// else right before it: "into the oven at 180. Set the timer for 12 minutes".
func timers(said [][]clause) {
	var before *clause
	var set []duration.Span // by a timer with nothing before it
	for n := range said {
		for k := range said[n] {
			c := &said[n][k]
			if len(c.verbs) == 0 || !strings.HasSuffix(c.verbs[0].word, "timer") {
				if set != nil && len(c.spans) == 0 && c.isTimed() {
					c.spans, c.timer = toEnd(set, c.text), true
				}
				before, set = c, nil
				continue
			}
			if next := k + 1; next < len(said[n]) && len(c.spans) == 0 && len(said[n][next].verbs) == 0 { // "set timers - 20 mins"
				c.spans, said[n][next].spans = toEnd(said[n][next].spans, c.text), nil
			}
			if before != nil && len(before.spans) == 0 && len(c.spans) > 0 && before.isTimed() {
				before.spans, before.timer = toEnd(c.spans, before.text), true
			} else if before == nil || !before.isTimed() {
				set = c.spans
			}
			before = nil
		}
	}
}

// isTimed reports whether a timer is for what a clause says: it is where something is hot or waits.
func (c *clause) isTimed() bool {
	hot := slices.ContainsFunc([]*pattern.Pattern{intoOven, onRing, overHeat, lidOn}, func(place *pattern.Pattern) bool { return place.MatchString(c.text) })
	return !preheating(c.text) && (hot || mentions(c.text, "boiling") || slices.ContainsFunc(c.verbs, func(v spoken) bool { return v.idle || v.on != "" }))
}

// toEnd moves times to the end of a text.
func toEnd(spans []duration.Span, text string) []duration.Span {
	out := slices.Clone(spans)
	for i := range out {
		out[i].From, out[i].To = len(text), len(text)
	}
	return out
}
