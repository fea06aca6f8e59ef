package heat_test

import (
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
