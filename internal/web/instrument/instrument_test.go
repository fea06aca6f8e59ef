package instrument_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"freshapron/internal/core/exact"
	"freshapron/internal/core/measure"
	"freshapron/internal/web/instrument"
)

// What is drawn is what the instruction says: the figure of the scale, the fillings of
// the spoons, and a surface as high in the jug as the mark.
func TestDrawings(t *testing.T) {
	in := measure.Usual(measure.Metric)
	in.Jugs = []measure.Jug{{Marks: exact.Int(50), Holds: exact.Int(500)}}
	of := func(d measure.Dimension, amount string, unit measure.Unit) string {
		i, ok := in.By(d, measure.Amount{Quantity: measure.Q(amount, unit), Pours: true})
		require.True(t, ok)
		return string(instrument.Of(&i))
	}
	assert.Contains(t, of(measure.Mass, "113", measure.Gram), `aria-label="On the scale: 113 g"`)
	assert.Contains(t, of(measure.Volume, "2.5", measure.Tablespoon), "1 tbsp, filled 2 times, ½ tbsp, filled 1 time")
	jug := of(measure.Volume, "250", measure.Millilitre)
	assert.Contains(t, jug, `y="43"`, "half full")
	assert.Equal(t, 10, strings.Count(jug, `class="graduation"`))
	assert.Contains(t, of(measure.Volume, "750", measure.Millilitre), "to the mark 750 ml")
	assert.Contains(t, of(measure.Volume, "750", measure.Millilitre), `y="43"`, "the second filling is half a jug")
	half, ok := in.By(measure.Count, measure.Amount{Quantity: measure.Quantity{Amount: exact.Frac(1, 2), Unit: measure.Each}})
	require.True(t, ok)
	assert.Empty(t, instrument.Of(&half))
	assert.Empty(t, instrument.Of(nil))
}
