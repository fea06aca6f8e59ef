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
