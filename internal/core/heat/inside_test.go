package heat_test

import (
	"math"
	"testing"

	"github.com/stretchr/testify/assert"

	"freshapron/internal/core/heat"
)

// The middle after the seconds that the one-term solution gives has the
// temperature that it was asked for, where one term is enough.
func TestInsideAgreesWithSeconds(t *testing.T) {
	for _, s := range []heat.Shape{heat.Slab, heat.Cylinder, heat.Sphere} {
		for _, h := range []float64{heat.StillOven, heat.FanOven, heat.Frying, heat.Boiling} {
			seconds := heat.Seconds(s, 0.012, h, 5, 120, 180)
			assert.InDelta(t, 120, heat.Inside(s, 0.012, h, 5, 180, seconds, 0), 0.5, "shape %d, h %g", s, h)
		}
	}
}

func TestInside(t *testing.T) {
	at := func(seconds, depth float64) float64 {
		return heat.Inside(heat.Slab, 0.015, heat.FanOven, 5, 200, seconds, depth)
	}
	assert.Equal(t, 5.0, at(0, 0))
	assert.InDelta(t, 5, at(1, 0), 0.01, "the middle is cold at first")
	assert.InDelta(t, 200, at(1e6, 0), 0.01, "and hot at last")
	last := 0.0
	for minute := 1.0; minute <= 40; minute++ {
		middle := at(60*minute, 0)
		assert.Greater(t, middle, last)
		assert.Less(t, middle, at(60*minute, 0.5))
		assert.Less(t, at(60*minute, 0.5), at(60*minute, 1), "nearer the surface it is hotter: where the probe is put matters")
		last = middle
	}
	assert.Less(t, heat.Inside(heat.Slab, 0.03, heat.FanOven, 5, 200, 1200, 0), at(1200, 0), "thick pieces take longer")
}

// A cube warms in its middle sooner than a slab of the same thickness, as the
// cube of the slab's share; a long bar is a slab in two of its directions.
func TestABrickIsAProductOfSlabs(t *testing.T) {
	slab := heat.Inside(heat.Slab, 0.02, heat.Boiling, 20, 100, 600, 0)
	cube := heat.InsideBrick([3]float64{0.02, 0.02, 0.02}, [3]float64{}, heat.Boiling, 20, 100, 600)
	left := (slab - 100) / (20 - 100)
	assert.InDelta(t, 100-80*left*left*left, cube, 1e-9)
	long := heat.InsideBrick([3]float64{0.02, 0.2, 0.2}, [3]float64{}, heat.Boiling, 20, 100, 600)
	assert.InDelta(t, slab, long, 0.01)
	assert.Equal(t, 20.0, heat.InsideBrick([3]float64{0.02, 0.02, 0.02}, [3]float64{}, heat.Boiling, 20, 100, 0))
}

// From below alone a piece is half of one of twice the thickness that heats from
// both sides. Turned half way, both sides are hot, the second more; and the
// middle is colder than in a piece that heats from both sides all the time.
func TestOnAPan(t *testing.T) {
	const thick, h = 0.02, heat.Frying
	for _, up := range []float64{0.1, 0.5, 1} {
		assert.InDelta(t, heat.Inside(heat.Slab, thick, h, 8, 180, 400, 1-up), heat.OnPan(thick, h, 8, 180, 400, up, false), 0.8, "%g up", up)
	}
	at := func(up float64, turned bool) float64 { return heat.OnPan(thick, h, 8, 180, 480, up, turned) }
	assert.Greater(t, at(0.95, true), at(0.95, false)+30, "the top has been below")
	assert.Greater(t, at(0.95, true), at(0.05, true), "and is the hotter, being there now")
	assert.Less(t, at(0.5, true), heat.Inside(heat.Slab, thick/2, h, 8, 180, 480, 0))
	assert.Equal(t, 8.0, heat.OnPan(thick, h, 8, 180, 0, 0.5, true))
	assert.Equal(t, 100.0, heat.Wet(167))
	assert.Equal(t, 71.5, heat.Wet(71.5))
}

// What is there already takes no time, from whichever side, and what the surroundings never
// reach takes for ever; in between a brick has its temperature when it is said to.
func TestWhenABrickIsThere(t *testing.T) {
	brick := heat.Brick{0.01, 0.015, 0.02}
	for _, to := range []float64{5, 10} {
		assert.Zero(t, brick.Seconds(400, 10, to, 100), to)
		assert.Zero(t, heat.Seconds(heat.Slab, 0.01, 400, 10, to, 100), to)
	}
	for _, to := range []float64{100, 101} {
		assert.True(t, math.IsInf(brick.Seconds(400, 10, to, 100), 1), to)
		assert.True(t, math.IsInf(heat.Seconds(heat.Slab, 0.01, 400, 10, to, 100), 1), to)
	}
	assert.Zero(t, brick.Seconds(400, 60, 70, 20), "it cools, and was cooler than that")
	for _, to := range []float64{30, 63, 75, 95} {
		seconds := brick.Seconds(400, 10, to, 100)
		assert.InDelta(t, to, heat.InsideBrick(brick, [3]float64{}, 400, 10, 100, seconds), 0.02, to)
		if to > 60 { // the one term of Seconds holds from there on
			whole := heat.Brick{0.01, 1, 1}.Seconds(400, 10, to, 100)
			assert.InEpsilon(t, heat.Seconds(heat.Slab, 0.01, 400, 10, to, 100), whole, 0.01, "a brick without ends is a slab")
		}
	}
}
