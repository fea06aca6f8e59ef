package heat_test

import (
	"math"
	"testing"

	"github.com/stretchr/testify/assert"

	"freshapron/internal/core/heat"
)

// onAGrid heats a piece on a grid of thin shells, step by short step, by
// nothing but the balance of what flows in and out of each (explicit finite
// volumes): another way to the same temperature. It returns the temperature of
// each shell, from the middle out.
func onAGrid(s heat.Shape, half, h, from, around, seconds float64) []float64 {
	const shells = 30
	dx := half / shells
	// Areas between shells and volumes, per unit of length or angle.
	area := func(r float64) float64 { return math.Pow(r, float64(s)) }
	volume := func(inner, outer float64) float64 {
		n := float64(s) + 1
		return (math.Pow(outer, n) - math.Pow(inner, n)) / n
	}
	temperature := make([]float64, shells)
	for i := range temperature {
		temperature[i] = from
	}
	step := 0.2 * dx * dx / heat.Diffusivity
	perVolume := heat.Conductivity / heat.Diffusivity // heat that a volume takes for a degree
	for at := 0.0; at < seconds; at += step {
		dt := min(step, seconds-at)
		flow := make([]float64, shells+1)
		for i := 1; i < shells; i++ {
			flow[i] = area(float64(i)*dx) * heat.Conductivity * (temperature[i] - temperature[i-1]) / dx
		}
		// From the surroundings to the middle of the last shell.
		through := 1 / (1/h + dx/2/heat.Conductivity)
		flow[shells] = area(half) * through * (around - temperature[shells-1])
		for i := range temperature {
			temperature[i] += dt * (flow[i+1] - flow[i]) / volume(float64(i)*dx, float64(i+1)*dx) / perVolume
		}
	}
	return temperature
}

// A loaf, a roll and a ball of dough in each kind of heat: the series and the
// grid agree within a degree and a half, from the middle to the crust.
func TestInsideAgreesWithAGrid(t *testing.T) {
	for _, s := range []heat.Shape{heat.Slab, heat.Cylinder, heat.Sphere} {
		for _, h := range []float64{heat.StillOven, heat.FanOven, heat.Frying, heat.Boiling} {
			for _, minutes := range []float64{2, 6, 15} {
				const half, from, around = 0.015, 8, 190
				grid := onAGrid(s, half, h, from, around, minutes*60)
				for _, i := range []int{0, 8, 15, 22, 29} {
					depth := (float64(i) + 0.5) / float64(len(grid))
					got := heat.Inside(s, half, h, from, around, minutes*60, depth)
					assert.InDelta(t, grid[i], got, 1.5, "shape %d, h %g, %g min, depth %.2f", s, h, minutes, depth)
				}
			}
		}
	}
}

// How long a piece takes to a temperature is when the grid has it.
func TestSecondsAgreeWithAGrid(t *testing.T) {
	for _, s := range []heat.Shape{heat.Slab, heat.Cylinder, heat.Sphere} {
		for _, to := range []float64{63, 75, 95} {
			const half, from, around = 0.02, 5, 180
			seconds := heat.Seconds(s, half, heat.FanOven, from, to, around)
			middle := onAGrid(s, half, heat.FanOven, from, around, seconds)[0]
			assert.InDelta(t, to, middle, 1.5, "shape %d to %g °C after %.0f s", s, to, seconds)
		}
	}
}

// Cooking in water never makes food hotter than the water, and food that is as
// hot as what is round it stays so.
func TestNothingGetsHotterThanWhatIsRoundIt(t *testing.T) {
	for _, s := range []heat.Shape{heat.Slab, heat.Cylinder, heat.Sphere} {
		for seconds := 0.0; seconds < 4000; seconds += 490 {
			for depth := 0.0; depth <= 1; depth += 0.25 {
				got := heat.Inside(s, 0.02, heat.Boiling, 5, 100, seconds, depth)
				assert.LessOrEqual(t, got, 100.0)
				assert.GreaterOrEqual(t, got, 5.0)
				assert.InDelta(t, 60, heat.Inside(s, 0.02, heat.Boiling, 60, 60, seconds, depth), 1e-9)
			}
		}
	}
	assert.Zero(t, heat.Seconds(heat.Slab, 0.02, heat.FanOven, 80, 75, 180), "what is hotter already takes no time")
}
