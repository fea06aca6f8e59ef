package knife_test

import (
	"fmt"
	"slices"
	"strings"
	"testing"

	"freshapron/internal/core/knife"
	"freshapron/internal/golden"
)

// What of a food can't be, of each shape.
func TestWhatASolidCanBe(t *testing.T) {
	var b strings.Builder
	for shape := range slices.Values(knife.Shapes) {
		s := knife.Solid{Shape: shape, Size: [3]float64{120, 80, 60}, End: 20, Wall: 8, Layers: 4}
		fmt.Fprintf(&b, "= shape %v\n%s", shape, golden.Limits(&s, func() error { return s.Check() }))
	}
	golden.Same(t, "limits.golden", b.String())
}
