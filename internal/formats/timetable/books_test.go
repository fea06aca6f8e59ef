package timetable_test

import (
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"

	"freshapron/internal/formats/timetable"
	"freshapron/internal/golden"
)

// Workbooks and documents of weeks, with merged double lessons and times that are numbers, are read lesson by
// lesson, or something is said to be wrong. Those of the second half are measured only.
func TestWorkbooksOfManyPeople(t *testing.T) {
	for half, least := range map[string]int{"tuned": 8, "measured": 7} {
		right, asked, all := 0, 0, 0
		for _, c := range golden.Files(t, "books/"+half) {
			w := timetable.Read(c.Data, london)
			if c.Title == "from-and-to-as-times.xlsx" {
				assert.Equal(t, []string{"all of the sheet Key"}, w.Beside)
			}
			got := lessonsOf(w)
			all++
			switch {
			case w.Problems != nil:
				asked++
			case slices.Equal(got, c.Want):
				right++
			}
			if half == "tuned" && (w.Problems != nil || !slices.Equal(got, c.Want)) {
				t.Logf("%s\nwant %s\ngot  %s\n%q", c.Title, strings.Join(c.Want, "; "), strings.Join(got, "; "), w.Problems)
			}
		}
		t.Logf("%s: %d of %d weeks, and %d of the others asked about", half, right, all, asked)
		assert.GreaterOrEqual(t, right, least, half)
	}
}
