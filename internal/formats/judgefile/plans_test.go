package judgefile_test

import (
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"

	"freshapron/internal/core/fit"
	"freshapron/internal/formats/judgefile"
	"freshapron/internal/golden"
)

// Time plans as different learners and departments lay them out. The second file is for measuring only.
func TestTimePlansAsTheyAreLaidOut(t *testing.T) {
	l := fit.Lesson{Start: 10*60 + 5, End: 11*60 + 10, Groups: toast.Groups, Dishes: []fit.Dish{{ID: "tartlets", Title: "Leek tartlets"}, {ID: "slaw", Title: "Rainbow slaw"}}}
	for file, least := range map[string]int{"tuned.txt": 14, "measured.txt": 8} {
		right, refused, all := 0, 0, 0
		for _, c := range golden.Cases(t, file) {
			rows, err := judgefile.TakeTimePlan(strings.NewReader(c.Text), l)
			var got []string
			for _, r := range rows {
				dish, minutes := r.Dish, fmt.Sprint(r.Minutes)
				if dish == "" {
					dish = "-"
				}
				if r.Minutes == 0 {
					minutes = "-"
				}
				got = append(got, fmt.Sprintf("%g %s | %s | %s", r.At, dish, r.What, minutes))
			}
			all++
			switch is := strings.Join(got, "; "); {
			case is == c.Want && err == nil:
				right++
			case err != nil:
				refused++
				fallthrough
			default:
				if file == "tuned.txt" {
					t.Logf("%s\nwant %s\ngot  %s %v", c.Title, c.Want, is, err)
				}
			}
		}
		t.Logf("%s: %d of %d plans, %d refused", file, right, all, refused)
		assert.GreaterOrEqual(t, right, least, file)
	}
}
