package timetable_test

import (
	"os"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"freshapron/internal/formats/timetable"
)

// Weeks as different people write them are read lesson by lesson, or something is said to
// be wrong. The second file is measured only.
func TestWeeksOfManyPeople(t *testing.T) {
	for file, least := range map[string]int{"testdata/tuned.txt": 12, "testdata/measured.txt": 10} {
		data, err := os.ReadFile(file)
		require.NoError(t, err)
		right, all := 0, 0
		for _, block := range strings.Split(string(data), "== ")[1:] {
			title, block, _ := strings.Cut(block, "\n")
			text, want, _ := strings.Cut(block, "\n--\n")
			w := timetable.Read([]byte(text), london)
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
			if is := strings.Join(got, "; "); is == strings.TrimSpace(want) && w.Problems == nil {
				right++
			} else {
				t.Logf("%s\nwant %s\ngot  %s\n%q", title, want, is, w.Problems)
			}
		}
		t.Logf("%s: %d of %d weeks", file, right, all)
		assert.GreaterOrEqual(t, right, least, file)
	}
}
