package timetable_test

import (
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"

	"freshapron/internal/formats/timetable"
	"freshapron/internal/golden"
)

// Weeks as different people write them are read lesson by lesson, or something is said to
// be wrong. The second file is measured only.
func TestWeeksOfManyPeople(t *testing.T) {
	for file, least := range map[string]int{"tuned.txt": 16, "measured.txt": 10} {
		right, all := 0, 0
		for _, c := range golden.Cases(t, file) {
			w := timetable.Read([]byte(c.Text), london)
			var got []string
			var each []timetable.Entry
			for _, e := range w.Entries {
				each = append(each, e.Each()...)
			}
			for _, e := range each {
				when := e.Period
				if e.Timed {
					when = e.Start.String() + "–" + e.End.String()
				}
				got = append(got, strings.Join([]string{e.Day.Name()[:3], when, e.Class}, " "))
			}
			slices.Sort(got)
			all++
			if is := strings.Join(got, "; "); is == c.Want && w.Problems == nil {
				right++
			} else {
				t.Logf("%s\nwant %s\ngot  %s\n%q", c.Title, c.Want, is, w.Problems)
			}
		}
		t.Logf("%s: %d of %d weeks", file, right, all)
		assert.GreaterOrEqual(t, right, least, file)
	}
}
