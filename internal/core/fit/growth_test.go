package fit_test

import (
	"fmt"
	"testing"

	"github.com/stretchr/testify/require"

	"freshapron/internal/core/exact"
	"freshapron/internal/core/fit"
)

// grown is a lesson of a chosen size: every fifth step bakes in one of eight
// ovens, the others are work at the bench.
func grown(benches, steps int) fit.Lesson {
	l := fit.Lesson{Start: 8 * 60, End: 18 * 60, Adults: 2, Equipment: []fit.Equipment{{ID: "oven", Temperature: true}}}
	for i := range 8 {
		l.Equipment[0].Units = append(l.Equipment[0].Units, fit.Unit{Name: fmt.Sprintf("Oven %d", i+1), Places: 2})
	}
	d := fit.Dish{ID: "d"}
	for i := range steps {
		s := fit.Step{ID: fmt.Sprintf("s%d", i), Kind: fit.Mix, Work: exact.Int(int64(2 + i%3)), Cooks: 1, Adult: fit.NoAdult}
		if i%5 == 4 {
			s.Kind, s.Wait = fit.Bake, exact.Int(12)
			s.Uses = []fit.Use{{Equipment: "oven", Places: 1, Temperature: celsius(180), During: fit.WaitPart}}
		}
		if i > 1 {
			s.After = []fit.After{{Step: fmt.Sprintf("s%d", i-2)}}
		}
		d.Steps = append(d.Steps, s)
	}
	l.Dishes = []fit.Dish{d}
	for g := range benches {
		l.Groups = append(l.Groups, fit.Group{ID: fmt.Sprintf("g%d", g), Cooks: 2, Pace: exact.Int(1)})
	}
	return l
}

// BenchmarkGrowth measures a whole plan with its 2,000 simulated lessons.
func BenchmarkGrowth(b *testing.B) {
	for _, benches := range []int{1, 4, 16, 64} {
		for _, steps := range []int{5, 15, 60} {
			b.Run(fmt.Sprintf("benches=%d/steps=%d", benches, steps), func(b *testing.B) {
				l := grown(benches, steps)
				for b.Loop() {
					p, err := fit.Solve(l, fit.Options{})
					require.NoError(b, err)
					b.ReportMetric(100*(p.Finish/p.LowerBound-1), "gap_%")
				}
			})
		}
	}
}
