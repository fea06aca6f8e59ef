package fit_test

import (
	"encoding/json"
	"fmt"
	"os"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"freshapron/internal/core/fit"
	"freshapron/internal/core/fit/verify"
)

// The lessons of each kind, by their seeds: those that may be looked at while
// the planner is tuned, and those that are for measuring only.
var tuned, unseen = []uint64{0, 1, 2, 3}, []uint64{5, 7}

// bestKnown are the least finishes that are known, by the title of a lesson,
// from a search of a minute and more.
func bestKnown(t testing.TB) map[string]float64 {
	data, err := os.ReadFile("testdata/hard.json")
	require.NoError(t, err)
	out := map[string]float64{}
	require.NoError(t, json.Unmarshal(data, &out))
	return out
}

// Hard lessons are planned validly and, though the machine gives the search
// only a moment, not far above the best that is known; no bound lies above it.
func TestHardLessons(t *testing.T) {
	best := bestKnown(t)
	for kind := range hardKinds {
		l := hard(kind, tuned[0])
		p, err := fit.Solve(l, fit.Options{Runs: 1, Budget: 300})
		require.NoError(t, err)
		require.Empty(t, verify.Plan(l, p))
		require.Empty(t, p.Conflicts, l.Title)
		assert.LessOrEqual(t, p.Finish, best[l.Title]*1.10, l.Title)
		assert.LessOrEqual(t, p.LowerBound, best[l.Title]+1e-6, l.Title)
	}
}

// BenchmarkHard reports how far above the best that is known the plans end, on
// the lessons that were tuned on and on those that were not: in percent, the
// mean, the worst, and the shares within 1 and 5; and of the bounds how many
// lie within 3 percent of the finish, and how many prove it.
func BenchmarkHard(b *testing.B) {
	best := bestKnown(b)
	for name, seeds := range map[string][]uint64{"tuned": tuned, "unseen": unseen} {
		for _, budget := range []int{300, 2000} {
			b.Run(fmt.Sprintf("%s/%dms", name, budget), func(b *testing.B) {
				var sum, worst, count, within1, within5, near, proved float64
				for b.Loop() {
					sum, worst, count, within1, within5, near, proved = 0, 0, 0, 0, 0, 0, 0
					for kind := range hardKinds {
						for _, seed := range seeds {
							l := hard(kind, seed)
							p, err := fit.Solve(l, fit.Options{Runs: 1, Budget: budget})
							require.NoError(b, err)
							over := 100 * (p.Finish/best[l.Title] - 1)
							count++
							sum += over
							worst = max(worst, over)
							within1 += share(over <= 1)
							within5 += share(over <= 5)
							near += share(p.Finish <= p.LowerBound*1.03)
							proved += share(p.Optimal)
						}
					}
				}
				b.ReportMetric(sum/count, "mean_%")
				b.ReportMetric(worst, "worst_%")
				b.ReportMetric(100*within1/count, "within1_%")
				b.ReportMetric(100*within5/count, "within5_%")
				b.ReportMetric(100*near/count, "bound3_%")
				b.ReportMetric(100*proved/count, "proved_%")
				b.ReportMetric(float64(b.Elapsed().Milliseconds())/float64(b.N)/count, "ms/lesson")
			})
		}
	}
}

func share(yes bool) float64 {
	if yes {
		return 1
	}
	return 0
}
