package heat_test

import (
	"fmt"
	"math"
	"testing"

	"github.com/stretchr/testify/assert"
	"pgregory.net/rapid"

	"freshapron/internal/core/heat"
)

// A tin filled twice as deep takes two and a half times as long.
func ExampleTimesAsLong() {
	fmt.Printf("%.1f\n", heat.TimesAsLong(0.02, 0.04))
	// Output: 2.5
}

// The table of textbooks.
func TestEigenvalues(t *testing.T) {
	inf := math.Inf(1)
	for _, c := range []struct {
		shape      heat.Shape
		biot       float64
		lambda, a1 float64
	}{
		{heat.Slab, 1, 0.8603, 1.1191}, {heat.Cylinder, 1, 1.2558, 1.2071}, {heat.Sphere, 1, 1.5708, 1.2732},
		{heat.Slab, 10, 1.4289, 1.2620}, {heat.Cylinder, 10, 2.1795, 1.5677}, {heat.Sphere, 10, 2.8363, 1.9249},
		{heat.Slab, inf, math.Pi / 2, 4 / math.Pi}, {heat.Cylinder, inf, 2.4048, 1.6018}, {heat.Sphere, inf, math.Pi, 2},
	} {
		lambda, a1 := heat.Eigenvalue(c.shape, c.biot)
		assert.InDelta(t, c.lambda, lambda, 1e-4)
		assert.InDelta(t, c.a1, a1, 2e-4)
	}
}

func TestSeconds(t *testing.T) {
	assert.True(t, math.IsInf(heat.Seconds(heat.Slab, 0.01, heat.Boiling, 20, 75, 60), 1), "60 °C never makes 75 °C")
	// A carrot stick of 12 mm in boiling water reaches 85 °C in some minutes.
	assert.InDelta(t, 110, heat.Seconds(heat.Cylinder, 0.006, heat.Boiling, 10, 85, 100), 30)
	rapid.Check(t, func(t *rapid.T) {
		half := rapid.Float64Range(0.002, 0.05).Draw(t, "half")
		shape := rapid.SampledFrom([]heat.Shape{heat.Slab, heat.Cylinder, heat.Sphere}).Draw(t, "shape")
		small, large := heat.Seconds(shape, half, heat.FanOven, 10, 75, 180), heat.Seconds(shape, half*1.2, heat.FanOven, 10, 75, 180)
		assert.Less(t, small, large, "what is thicker takes longer")
	})
}
