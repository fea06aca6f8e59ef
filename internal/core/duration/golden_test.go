package duration_test

import (
	"fmt"
	"strings"
	"testing"

	"freshapron/internal/core/duration"
	"freshapron/internal/golden"
)

// What is taken from every line of the corpora in which a time may stand.
func TestTheTimesOfTheCorpora(t *testing.T) {
	var b strings.Builder
	for _, line := range golden.Corpora(t) {
		for _, d := range duration.In(line) {
			fmt.Fprintf(&b, "%s to %s, inside %t, more %t: %s\n", d.Least, d.Most, d.Inside, d.More, line[d.From:d.To])
		}
	}
	golden.Same(t, "times.golden", b.String())
}

// Every number in words, and every way to put two times together.
func TestTheTimesInWords(t *testing.T) {
	var b strings.Builder
	say := func(format string, args ...any) {
		text := fmt.Sprintf(format, args...)
		fmt.Fprintf(&b, "%s:", text)
		for _, d := range duration.In(text) {
			fmt.Fprintf(&b, " %s to %s at %d-%d, inside %t, more %t;", d.Least, d.Most, d.From, d.To, d.Inside, d.More)
		}
		b.WriteString("\n")
	}
	for _, word := range strings.Fields("a an one two three four five six seven eight nine ten eleven twelve fifteen twenty thirty forty fifty sixty ninety another half couple few twenty-five thirty-five forty-five ½ ¼ ¾ 1½ 2¼") {
		for _, unit := range strings.Fields("minute minutes min mins hour hours hr hrs h day seconds sec Minuten Stunden timmar heures") {
			say("Cook for %s %s.", word, unit)
		}
		say("Cook for a %s of minutes.", word)
		say("Bake for ten minutes, then another %s.", word)
		say("%s and a half hours", word)
		say("%s and a quarter hours", word)
	}
	for _, first := range []string{"5", "10", "45", "59", "60", "90"} {
		for _, second := range []string{"5", "10", "45", "59", "60"} {
			for _, form := range []string{
				"%s to %s minutes", "%s-%s mins", "between %s and %s minutes", "%s min or %s min", "%s minutes and %s more", "%s minutes, then %s more", "%s minutes, then another %s",
				"%s hours %s", "%s hr %s min", "%s hours and %s minutes", "%sh%s", "%s hr - %s min", "%s minutes on each side, %s minutes longer", "after %s minutes turn and bake for a further %s minutes",
				"every %s minutes for %s minutes", "%s minutes %s hours", "within %s to %s minutes", "after the first %s minutes, bake %s",
			} {
				say(form, first, second)
			}
		}
	}
	for _, text := range []string{
		"half an hour", "three quarters of an hour", "a quarter of an hour", "a half hour", "an hour and a half", "a minute or two", "an hour or two", "a further minute", "a full hour", "one final minute",
		"overnight", "after overnight proving", "2 and a half hours", "1 1/2 hrs", "3-4 hours or overnight", "a good 10 minutes", "about a couple of minutes", "5 minutes per side", "2 minutes either side", "for 5", "5 more",
	} {
		say("%s", text)
	}
	golden.Same(t, "words.golden", b.String())
}
