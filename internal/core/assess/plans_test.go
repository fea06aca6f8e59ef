package assess_test

import (
	"encoding/csv"
	"fmt"
	"os"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"freshapron/internal/core/assess"
	"freshapron/internal/core/fit"
	"freshapron/internal/formats/judgefile"
	"freshapron/internal/formats/lessonfile"
	"freshapron/internal/golden"
)

// Whole time plans as learners write them, of lessons whose steps are written in several ways.
// Those of the second file are measured only.
func TestPlansAsLearnersWriteThem(t *testing.T) {
	for _, half := range []struct {
		name         string
		least, wrong int // rows taken as they are meant, and taken for something else, at most
	}{{"tuned", 302, 5}, {"measured", 224, 9}} {
		t.Run(half.name, func(t *testing.T) {
			var others strings.Builder
			right, wrong, all := 0, 0, 0
			for _, w := range writtenPlans(t, half.name) {
				p := assess.CheckTimePlan(w.lesson, w.rows(t))
				for i, meant := range w.meant {
					all++
					at := slices.IndexFunc(p.Rows, func(r assess.ReadRow) bool { return r.Line == i+2 })
					if at < 0 {
						continue
					}
					asked := slices.ContainsFunc(p.Asks, func(a assess.Ask) bool { return a.Line == i+2 })
					if takenAs(p.Rows[at], asked, meant) {
						right++
						continue
					}
					if !asked {
						wrong++
					}
					fmt.Fprintf(&others, "%s => %s: %v %s\n", w.cells[i][2], meant, p.Rows[at].Steps, p.Rows[at].Means)
				}
			}
			t.Logf("%d of %d rows as they are meant, %d as something else", right, all, wrong)
			assert.GreaterOrEqual(t, right, half.least)
			assert.LessOrEqual(t, wrong, half.wrong)
			if half.name == "tuned" {
				golden.Same(t, "plans/tuned.golden", others.String())
			}
		})
	}
}

// A writtenPlan is a learner's plan with what each row is meant to say.
type writtenPlan struct {
	lesson fit.Lesson
	cells  [][]string
	meant  []string
}

func (w writtenPlan) rows(t *testing.T) []assess.Row {
	var b strings.Builder
	c := csv.NewWriter(&b)
	require.NoError(t, c.WriteAll(append([][]string{{"clock", "dish", "what"}}, w.cells...)))
	list, err := judgefile.ReadTimePlan(strings.NewReader(b.String()), w.lesson)
	require.NoError(t, err)
	return list
}

func writtenPlans(t *testing.T, half string) []writtenPlan {
	data, err := os.ReadFile("testdata/plans/" + half + ".txt")
	require.NoError(t, err)
	var out []writtenPlan
	for _, line := range strings.Split(strings.TrimSpace(string(data)), "\n") {
		if who, ok := strings.CutPrefix(line, "# "); ok {
			var n int
			var lesson string
			if _, err := fmt.Sscanf(who, "%d %s", &n, &lesson); err == nil {
				f, err := os.Open("testdata/plans/" + lesson + ".lesson.json")
				require.NoError(t, err)
				l, err := lessonfile.Read(f)
				require.NoError(t, err)
				require.NoError(t, f.Close())
				out = append(out, writtenPlan{lesson: l})
			}
			continue
		}
		row, meant, ok := strings.Cut(line, " => ")
		require.True(t, ok, line)
		cells := strings.Split(row, " | ")
		if len(cells) == 2 { // an empty dish
			cells = strings.Split(strings.Replace(row, "| |", "|  |", 1), " | ")
		}
		require.Len(t, cells, 3, line)
		w := &out[len(out)-1]
		w.cells, w.meant = append(w.cells, cells), append(w.meant, meant)
	}
	return out
}

// takenAs reports whether a row is taken as it is meant: as these steps, this besides, asked about ("?")
// or nobody's step ("-"), or one of several ("or").
func takenAs(r assess.ReadRow, asked bool, meant string) bool {
	means := []string{"on", "out", "wash", "hands"}
	for _, one := range strings.Split(meant, " or ") {
		var steps, besides []string
		for _, w := range strings.Fields(one) {
			if slices.Contains(means, w) {
				besides = append(besides, w)
			} else {
				steps = append(steps, w)
			}
		}
		own := slices.Sorted(slices.Values(r.Steps))
		if one == "wash" { // in some lessons it is a step too
			own = slices.DeleteFunc(own, func(s string) bool { return s == "wash" })
		}
		slices.Sort(steps)
		switch {
		case one == "?" && asked, one == "-" && !asked && len(own) == 0:
			return true
		case one != "?" && one != "-" && slices.Equal(own, steps) && (besides == nil || slices.Contains(besides, string(r.Means))):
			return true
		}
	}
	return false
}
