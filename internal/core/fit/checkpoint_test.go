package fit_test

import (
	"math"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"freshapron/internal/core/fit"
)

// The bake is what everything hangs on: by the first minute at which all
// trays are in, nothing may be later.
func TestCheckpoints(t *testing.T) {
	l := tartlets(4)
	p := solve(t, l)
	points := fit.Checkpoints(l, p)
	require.NotEmpty(t, points)
	assert.LessOrEqual(t, len(points), 5)
	pressed := points[0]
	for i, c := range points {
		assert.InDelta(t, math.Round(c.At), c.At, 1e-9, "a whole minute to call")
		assert.NotEmpty(t, c.Begun)
		if i > 0 {
			assert.Greater(t, c.At, points[i-1].At)
		}
		if c.Slack < pressed.Slack {
			pressed = c
		}
		for _, m := range c.Begun {
			for _, g := range p.Groups {
				assert.LessOrEqual(t, stepOf(t, p, g.ID, m.Step).Start, c.At, "every bench has begun %s", m.Step)
			}
		}
		for _, m := range c.Done {
			for _, g := range p.Groups {
				assert.LessOrEqual(t, stepOf(t, p, g.ID, m.Step).End, c.At, "every bench has done %s", m.Step)
			}
		}
	}
	assert.Equal(t, "bake", points[len(points)-1].Begun[0].Step)
	assert.Empty(t, fit.Checkpoints(l, &fit.Plan{}))
}

func TestCalibrate(t *testing.T) {
	none := fit.Calibrate(nil)
	assert.InDelta(t, 1, none.Factor, 1e-12)
	assert.InDelta(t, math.Exp(-1.28155*0.25), none.Low, 1e-4)
	// One record of twice the time: ln 2/0.09 over 1/0.0625 + 1/0.09.
	one := fit.Calibrate([]fit.Record{{Planned: 10, Real: 20}})
	assert.InDelta(t, math.Exp(math.Log(2)/0.09/(16+1/0.09)), one.Factor, 1e-9)
	// Nine records of 1.2 come close to 1.2, and the range closes in.
	var nine []fit.Record
	for range 9 {
		nine = append(nine, fit.Record{Planned: 5, Real: 6})
	}
	p := fit.Calibrate(append(nine, fit.Record{Planned: 5}, fit.Record{Real: 5}, fit.Record{Planned: math.Inf(1), Real: 5}, fit.Record{Planned: 5, Real: math.Inf(1)}))
	assert.Equal(t, 9, p.Records, "what was not timed does not count")
	assert.InDelta(t, 1.17, p.Factor, 0.005)
	assert.Less(t, p.High-p.Low, one.High-one.Low)
	assert.Less(t, p.Low, 1.2)
	assert.Greater(t, p.High, 1.2)
}
