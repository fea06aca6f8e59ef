package even_test

import (
	"math"
	"testing"

	"github.com/stretchr/testify/assert"

	"freshapron/internal/core/even"
	"freshapron/internal/core/heat"
)

func cubes(sizes ...float64) []float64 {
	var out []float64
	for _, s := range sizes {
		out = append(out, s*s*s)
	}
	return out
}

// Against published tables: t of 4 degrees of freedom 2.776, χ² of 4 at 2.5 and 97.5 %
// 0.4844 and 11.143, Wilson's interval of 1 in 5.
func TestEvenness(t *testing.T) {
	e := even.Of(cubes(9, 10, 11, 10, 13), 1000)
	assert.Equal(t, 5, e.N)
	assert.InDelta(t, 10.6, e.Mean, 1e-9)
	assert.InDelta(t, math.Sqrt(9.2/4), e.SD, 1e-9)
	half := 2.776 * e.SD / math.Sqrt(5)
	assert.InDelta(t, 10.6-half, e.MeanInterval.Low, 1e-3)
	assert.InDelta(t, 10.6+half, e.MeanInterval.High, 1e-3)
	assert.InDelta(t, e.CV*math.Sqrt(4/11.143), e.CVInterval.Low, 1e-3)
	assert.InDelta(t, e.CV*math.Sqrt(4/0.4844), e.CVInterval.High, 5e-3)
	assert.InDelta(t, 0.2, e.Off, 1e-12, "one is more than a fifth off")
	assert.InDelta(t, 0.0362, e.OffInterval.Low, 1e-4)
	assert.InDelta(t, 0.6245, e.OffInterval.High, 1e-4)

	assert.Zero(t, even.Of(cubes(8, 12), 1000).Off, "a fifth is not yet off")
	assert.Equal(t, 1.0, even.Of(cubes(7.99, 12.01), 1000).Off)
	one := even.Of(cubes(10), 1000)
	assert.True(t, math.IsNaN(one.SD) && math.IsNaN(one.MeanInterval.Low) && math.IsNaN(one.CV))
	assert.Zero(t, one.Off)
	same := even.Of(cubes(10, 10, 10), 1000)
	assert.Zero(t, same.SD)
	assert.Equal(t, even.Interval{Low: 10, High: 10}, same.MeanInterval)
}

// The times are those at which the series of the middle passes the temperature.
func TestTimes(t *testing.T) {
	c := even.Cook{H: heat.Boiling, Start: 15, Around: 98, To: 85}
	pieces := []even.Piece{{14, 10, 10}, {10, 10, 10}, {20, 20, 20}}
	at := c.Times(pieces)
	for p, minutes := range map[even.Piece]float64{{10, 10, 10}: at.First, {14, 10, 10}: at.Median, {20, 20, 20}: at.Last} {
		halves := [3]float64{p[0] / 2000, p[1] / 2000, p[2] / 2000}
		assert.InDelta(t, 85, heat.InsideBrick(halves, [3]float64{}, c.H, 15, 98, minutes*60), 0.05)
	}
	assert.InDelta(t, at.Last/at.First, at.Ratio, 1e-12)
	assert.Greater(t, at.Ratio, 3.0, "twice as thick takes about four times as long")
	assert.InDelta(t, 98, at.FirstAtLast, 1)
	oven := even.Cook{H: heat.StillOven, Start: 5, Around: 200, To: 80}.Times(pieces)
	assert.LessOrEqual(t, oven.FirstAtLast, 100.0, "while it is wet")
	assert.Equal(t, at, c.Times([]even.Piece{{20, 20, 20}, {10, 10, 10}, {14, 10, 10}}), "in whatever order")
	cold := even.Cook{H: heat.FanOven, Start: 60, Around: 5, To: 8}
	assert.Greater(t, cold.Minutes(even.Piece{30, 30, 30}), cold.Minutes(even.Piece{10, 10, 10}), "cooling goes by the same law")
}

func BenchmarkTimesOf40(b *testing.B) {
	c := even.Cook{H: heat.Boiling, Start: 15, Around: 98, To: 85}
	var pieces []even.Piece
	for i := range 40 {
		pieces = append(pieces, even.Piece{8 + float64(i)/5, 10, 9 + float64(i)/7})
	}
	for b.Loop() {
		c.Times(pieces)
	}
}
