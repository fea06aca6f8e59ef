package timetable_test

import (
	"fmt"
	"slices"
	"strings"
	"testing"

	"freshapron/internal/formats/timetable"
	"freshapron/internal/golden"
)

// A week is read alike whatever program it comes from.
func TestHoweverWeeksAreWritten(t *testing.T) {
	cases := append(golden.Cases(t, "tuned.txt"), golden.Cases(t, "measured.txt")...)
	golden.Alike(t, cases, 97, func(data []byte) (string, bool) {
		w := timetable.Read(data, london)
		var says []string
		for _, e := range w.Entries {
			for _, e := range e.Each() {
				says = append(says, fmt.Sprintf("%s %s %t %s-%s %s", e.Day.Name(), e.Period, e.Timed, e.Start, e.End, e.Class))
			}
		}
		slices.Sort(says)
		return strings.Join(says, "; ") + fmt.Sprint(len(w.Problems)), len(w.Problems) > 0
	})
}
