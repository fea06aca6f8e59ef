package fit_test

import (
	"math"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"freshapron/internal/core/exact"
	"freshapron/internal/core/fit"
)

// moments returns the mean and the standard deviation.
func moments(values []float64) (mean, sd float64) {
	for _, v := range values {
		mean += v
	}
	mean /= float64(len(values))
	for _, v := range values {
		sd += (v - mean) * (v - mean)
	}
	return mean, math.Sqrt(sd / float64(len(values)-1))
}

// normal is the distribution function of the standard normal.
func normal(z float64) float64 { return 0.5 * (1 + math.Erf(z/math.Sqrt2)) }

// Two steps in a row share the factors F of group and class, and have noise of
// their own with 1 + v = (1 + s²/2)²: T = F·(20·X1 + 20·X2), so E T = 40 and
// E T² = (1+0.15²)(1+0.10²)·(40² + 2·20²·v).
func TestRiskOfTwoInARow(t *testing.T) {
	l := tartlets(1)
	l.Phases = nil
	s := 0.3
	step := fit.Step{Kind: fit.Mix, Work: mins("20"), Cooks: 1, Adult: fit.NoAdult, Spread: &s}
	first, second := step, step
	first.ID, second.ID, second.After = "one", "two", []fit.After{{Step: "one"}}
	l.Dishes[0].Steps = []fit.Step{first, second}
	p, err := fit.Solve(l, fit.Options{Runs: 40000})
	require.NoError(t, err)
	mean, sd := moments(p.Risk.Finishes)
	assert.InDelta(t, 40, mean, 0.15)
	v := (1+s*s/2)*(1+s*s/2) - 1
	want := math.Sqrt((1+0.15*0.15)*(1+0.1*0.1)*(40*40+2*20*20*v) - 40*40)
	assert.InDelta(t, want, sd, 0.15)
}

// Two trays in one oven whose door stays shut for both come out together,
// when the slower is done. They share the oven's factor, so for each value of
// it the share that ends in time is the square of the share for one tray.
func TestRiskBehindAShutDoor(t *testing.T) {
	l := tartlets(2)
	l.Phases = nil
	l.Start, l.End = 9*60, 9*60+32
	l.Equipment[0].Units = []fit.Unit{{Name: "Oven", Places: 2}}
	l.Equipment[0].Preheat = exact.Number{}
	l.Dishes[0].Steps = []fit.Step{{ID: "bake", Kind: fit.Bake, Wait: mins("30"), Cooks: 1, Adult: fit.NoAdult, KeepShut: true,
		Uses: []fit.Use{{Equipment: "oven", Places: 1, Temperature: celsius(200), During: fit.WaitPart}}}}
	p, err := fit.Solve(l, fit.Options{Runs: 40000})
	require.NoError(t, err)
	assert.InDelta(t, 30, p.Finish, 1e-9)
	v := math.Log1p(0.08 * 0.08 / 2)
	want := 0.0
	const steps = 2000
	for i := range steps {
		z := -5 + 10*(float64(i)+0.5)/steps
		one := normal((math.Log(32.0/30)+v)/math.Sqrt(v) - z)
		want += one * one * math.Exp(-z*z/2) / math.Sqrt(2*math.Pi) * 10 / steps
	}
	assert.InDelta(t, want, p.Risk.AllOnTime, 0.01)
	assert.InDelta(t, want, p.Risk.Groups[0].OnTime, 0.01, "each waits for the other")
}

// A lesson with doors that stay shut is about as risky as one without: what
// one run finds must not be left over for the next.
func TestRunsAreIndependent(t *testing.T) {
	l := tartlets(4)
	open, err := fit.Solve(l, fit.Options{Runs: 2000})
	require.NoError(t, err)
	l.Dishes[0].Steps[3].KeepShut = true
	shut, err := fit.Solve(l, fit.Options{Runs: 2000})
	require.NoError(t, err)
	require.InDelta(t, open.Finish, shut.Finish, 1.1)
	assert.InDelta(t, open.Risk.Groups[0].P50, shut.Risk.Groups[0].P50, 4)
	assert.Less(t, shut.Risk.Finishes[1999], 2*shut.Finish)
}

// Ten benches with one step of an hour each share the class and the step: how
// many are done is not binomial. Without what is shared it is.
func TestBenchesAreDoneTogether(t *testing.T) {
	l := tartlets(10)
	l.Phases = nil
	none, spread := 0.0, 0.2
	l.Dishes[0].Steps = []fit.Step{{ID: "knead", Kind: fit.Mix, Work: mins("60"), Cooks: 1, Adult: fit.NoAdult, Spread: &spread}}
	p, err := fit.Solve(l, fit.Options{Runs: 8000})
	require.NoError(t, err)
	one := func(v float64) float64 { return normal((math.Log(65.0/60) + v/2) / math.Sqrt(v)) }
	v := 2*math.Log1p(0.2*0.2/2) + math.Log1p(0.15*0.15) + math.Log1p(0.10*0.10)
	assert.InDelta(t, 10*one(v), p.Risk.Benches.Mean, 0.15)
	assert.Equal(t, 10, p.Risk.Benches.All)
	assert.Less(t, p.Risk.Benches.AtLeast8In10, 5, "the whole class is slow together; of ten that are not it would be 5")
	assert.Greater(t, p.Risk.AllOnTime, 0.1)

	l.Spreads = &fit.Spreads{Class: &none, Group: &none}
	l.Dishes[0].Steps[0].Adult, l.Dishes[0].Steps[0].Cooks = fit.Does, 0
	l.Adults = 10
	p, err = fit.Solve(l, fit.Options{Runs: 8000})
	require.NoError(t, err)
	assert.InDelta(t, 10*one(2*math.Log1p(0.2*0.2/2)), p.Risk.Benches.Mean, 0.15, "an adult who does it is as quick in every class")
	assert.InDelta(t, 0, p.Risk.More-(p.Risk.P90All-65), 0.01)
}

func TestWhenEnoughBenchesAreSure(t *testing.T) {
	for _, c := range []struct {
		all, reached int
		sure, half   bool
	}{
		{12, 10, true, true}, {12, 9, false, true}, {12, 6, false, true}, {12, 5, false, false},
		{10, 9, true, true}, {10, 8, false, true}, {5, 3, false, true}, {5, 2, false, false},
		{1, 1, true, true}, {1, 0, false, false},
	} {
		b := fit.Benches{All: c.all, AtLeast8In10: c.reached}
		assert.Equal(t, c.sure, b.Sure(), "%+v", c)
		assert.Equal(t, c.half, b.Half(), "%+v", c)
	}
	assert.Equal(t, "10 of 12 benches are done in time", fit.Benches{All: 12, Mean: 9.6}.Says("bench", "benches"))
	assert.Equal(t, "93 of 100 times the bench is done in time", fit.Benches{All: 1, Mean: 0.934}.Says("bench", "benches"))
}

func TestSimulationIsSeeded(t *testing.T) {
	l := tartlets(6)
	solveWith := func(seed uint64) fit.Risk {
		p, err := fit.Solve(l, fit.Options{Runs: 300, Seed: seed})
		require.NoError(t, err)
		return p.Risk
	}
	assert.Equal(t, solveWith(3), solveWith(3))
	assert.NotEqual(t, solveWith(3).Finishes, solveWith(4).Finishes)
}

func BenchmarkSimulate(b *testing.B) {
	l := tartlets(16)
	for b.Loop() {
		if _, err := fit.Solve(l, fit.Options{Placements: 1, Runs: 2000}); err != nil {
			b.Fatal(err)
		}
	}
}
