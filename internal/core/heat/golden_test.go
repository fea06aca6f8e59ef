package heat_test

import (
	"fmt"
	"strings"
	"testing"

	"freshapron/internal/core/heat"
	"freshapron/internal/golden"
)

// Temperatures and times over the whole range of a kitchen: the tests beside
// this hold them against tables and finite differences; this one sees any move.
func TestTheRangeOfAKitchen(t *testing.T) {
	var b strings.Builder
	shapes := []heat.Shape{heat.Slab, heat.Cylinder, heat.Sphere}
	for _, s := range shapes {
		for _, biot := range []float64{0.01, 0.1, 1, 3, 10, 100, 1000} {
			lambda, a1 := heat.Eigenvalue(s, biot)
			fmt.Fprintf(&b, "%d %g: %.5f %.5f\n", s, biot, lambda, a1)
		}
		for _, half := range []float64{0.002, 0.01, 0.03} {
			for _, h := range []float64{15, 30, 400, 1500} {
				fmt.Fprintf(&b, "%d %g %g: %.1f s to 75;", s, half, h, heat.Seconds(s, half, h, 10, 75, 180))
				for _, seconds := range []float64{0, 1, 30, 300, 3000} {
					for _, depth := range []float64{0, 0.5, 1} {
						fmt.Fprintf(&b, " %.2f", heat.Inside(s, half, h, 10, 180, seconds, depth))
					}
				}
				b.WriteString("\n")
			}
		}
	}
	for _, seconds := range []float64{0, 10, 100, 1000} {
		brick := heat.InsideBrick([3]float64{0.01, 0.02, 0.03}, [3]float64{0.01, 0.02, 0.03}, 400, 10, 160, seconds)
		fmt.Fprintf(&b, "brick %g: %.3f; pan", seconds, brick)
		for _, up := range []float64{0, 0.25, 0.5, 1} {
			fmt.Fprintf(&b, " %.3f %.3f", heat.OnPan(0.02, 400, 10, 180, seconds, up, false), heat.OnPan(0.02, 400, 10, 180, seconds, up, true))
		}
		b.WriteString("\n")
	}
	for _, to := range []float64{0.5, 0.9, 1, 1.1, 2} {
		fmt.Fprintf(&b, "times %.3f\n", heat.TimesAsLong(1, to))
	}
	fmt.Fprintf(&b, "in water %g, in a pan %g, in an oven %g and %g; %g %g\n", heat.Boiling, heat.Frying, heat.FanOven, heat.StillOven, heat.Diffusivity, heat.Conductivity)
	for _, brick := range []heat.Brick{{0.005, 0.005, 0.03}, {0.01, 0.02, 0.03}, {0.03, 0.03, 0.03}} {
		for _, h := range []float64{15, 400, 1500} {
			for _, to := range []float64{5, 10, 10.001, 20, 75, 99, 100, 120} {
				fmt.Fprintf(&b, "%v %g to %g: %.6g\n", brick, h, to, brick.Seconds(h, 10, to, 100))
			}
		}
	}
	golden.Same(t, "kitchen.golden", b.String())
}
