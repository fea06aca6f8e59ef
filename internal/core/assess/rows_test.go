package assess_test

import (
	"fmt"
	"os"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"

	"freshapron/internal/core/assess"
	"freshapron/internal/golden"
)

// Single rows of time plans as learners write them, each with the dish in its column, if
// any: which steps are meant, what else it means, or what is asked.
func TestRowsAsLearnersWriteThem(t *testing.T) {
	data, err := os.ReadFile("testdata/rows.txt")
	require.NoError(t, err)
	l := table(t)
	var b strings.Builder
	for _, line := range strings.Split(strings.Trim(string(data), "\n"), "\n") {
		dish, what, _ := strings.Cut(line, " | ")
		row := assess.Row{Line: 2, At: 10, Clock: "09:10", Dish: dish, What: what}
		row.What, row.Step, _ = strings.Cut(what, " # ")
		p := assess.CheckTimePlan(l, []assess.Row{row})
		r := p.Rows[0]
		fmt.Fprintf(&b, "%s: %s %v %.2f %s", line, r.DishID, r.Steps, r.Sure, r.Means)
		for _, a := range p.Asks {
			fmt.Fprintf(&b, "; asks %v %s", a.Steps, a.Says)
		}
		for _, f := range p.Findings {
			if f.Rule == "row" {
				fmt.Fprintf(&b, "; %s", f.Says)
			}
		}
		b.WriteString("\n")
	}
	golden.Same(t, "rows.golden", b.String())
}
