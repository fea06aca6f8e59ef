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
	sure := map[string]int{"measured.txt": 4} // three of which name classes that no school has
	for file, least := range map[string]int{"tuned.txt": 66, "measured.txt": 17} {
		right, asked, all := 0, 0, 0
		for _, c := range golden.Cases(t, file) {
			w := timetable.Read([]byte(c.Text), london)
			got := lessonsOf(w)
			all++
			if is := strings.Join(got, "; "); is == c.Want && w.Problems == nil {
				right++
			} else if w.Problems != nil {
				asked++
			} else {
				if file == "tuned.txt" {
					t.Logf("%s\nwant %s\ngot  %s\n%q", c.Title, c.Want, is, w.Problems)
				}
			}
		}
		t.Logf("%s: %d of %d weeks, and %d of the others asked about", file, right, all, asked)
		assert.GreaterOrEqual(t, right+asked, all-sure[file], "%s: never sure and wrong", file)
		assert.GreaterOrEqual(t, right, least, file)
	}
}

// lessonsOf returns the lessons of a week in order.
func lessonsOf(w timetable.Week) (lessons []string) {
	for _, entry := range w.Entries {
		for _, e := range entry.Each() {
			when := e.Period
			if e.Timed {
				when = e.Start.String() + "–" + e.End.String()
			}
			lessons = append(lessons, strings.Join([]string{e.Day.Name()[:3], when, e.Class}, " "))
		}
	}
	slices.Sort(lessons)
	return lessons
}
