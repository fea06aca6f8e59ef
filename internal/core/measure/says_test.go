package measure_test

import (
	"math"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"freshapron/internal/core/exact"
	"freshapron/internal/core/measure"
)

// amounts are of mass and volume, from a pinch to a sack.
func anyAmount(t *rapid.T) measure.Quantity {
	units := []measure.Unit{measure.Gram, measure.Millilitre, measure.Teaspoon, measure.Tablespoon, measure.Cup, measure.Ounce, measure.Pound, measure.Pint, measure.FluidOunce}
	unit := rapid.SampledFrom(units).Draw(t, "unit")
	most := exact.Int(20_000).Div(measure.Quantity{Amount: exact.Int(1), Unit: unit}.Base()).Floor()
	return measure.Quantity{Amount: exact.Frac(rapid.Int64Range(1, most*8).Draw(t, "amount"), 8), Unit: unit}
}

// readBack reads an amount as an ingredient line has it.
func readBack(t require.TestingT, says string, sys measure.System) measure.Quantity {
	r := measure.Read(says+" plain flour", sys)
	require.True(t, r.Given, "%q is not read: %+v", says, r)
	require.Empty(t, r.Problems, says)
	require.Equal(t, "plain flour", r.Name, says)
	sum := r.Quantity()
	return sum
}

func near(t require.TestingT, want, got measure.Quantity, share float64, msg ...any) {
	a, b := want.Base().Float(), got.Base().Float()
	require.LessOrEqual(t, math.Abs(a-b), share*a+1e-9, msg...)
}

// An amount that is printed can be typed in again: the same dimension, and
// the same amount but for the rounding to what people write.
func TestPrintedAmountsAreRead(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		q := anyAmount(t)
		back := readBack(t, q.String(), measure.Metric)
		require.Equal(t, q.Unit.Dimension, back.Unit.Dimension, q.String())
		if q.Base().Cmp(exact.Frac(1, 2)) >= 0 {
			near(t, q, back, 0.06, "%s %s is printed as %s", q.Amount, q.Unit.ID, q)
		}
	})
}

// What learners are told to measure is what was computed, and the error that
// is shown covers the difference.
func TestInstructionsSayWhatTheyMeasure(t *testing.T) {
	for _, sys := range measure.Systems {
		drawer := measure.Usual(sys)
		rapid.Check(t, func(t *rapid.T) {
			q := anyAmount(t)
			a := measure.Amount{Quantity: q, Density: measure.Density{Number: exact.Frac(rapid.Int64Range(30, 140).Draw(t, "density"), 100)}, Pours: rapid.Bool().Draw(t, "pours")}
			for _, by := range []measure.Dimension{measure.Mass, measure.Volume} {
				i, ok := drawer.By(by, a)
				if !ok {
					continue
				}
				require.Equal(t, by, i.Measured.Unit.Dimension, i.Says)
				require.GreaterOrEqual(t, i.Actions, 1, i.Says)
				require.GreaterOrEqual(t, i.Error(), math.Abs(i.Rounding)-1e-9, i.Says)
				wanted := q
				if q.Unit.Dimension != by {
					if by == measure.Mass {
						wanted = a.Density.ToMass(q)
					} else {
						wanted = a.Density.ToVolume(q)
					}
				}
				signed := i.Measured.Base().Float()/wanted.Base().Float() - 1
				require.InDelta(t, signed, i.Rounding, 1e-6, "%s for %s", i.Says, q)
				if !strings.Contains(i.Says, "+") && !strings.Contains(i.Says, " and ") && !strings.Contains(i.Says, "×") {
					back := readBack(t, i.Says, sys)
					near(t, i.Measured, back, 0.005, "%q measures %s %s", i.Says, i.Measured.Amount, i.Measured.Unit.ID)
				}
			}
		})
	}
}

// Going from one unit to another and back loses nothing.
func TestUnitsThereAndBack(t *testing.T) {
	for _, a := range measure.Units {
		for _, b := range measure.Units {
			q := measure.Quantity{Amount: exact.Frac(7, 3), Unit: a}
			there, ok := q.In(b)
			if a.Dimension != b.Dimension || a.Dimension == measure.Count {
				continue
			}
			require.True(t, ok, "%s to %s", a.ID, b.ID)
			back, ok := there.In(a)
			require.True(t, ok)
			assert.Zero(t, back.Amount.Cmp(q.Amount), "%s to %s", a.ID, b.ID)
			assert.Zero(t, there.Base().Cmp(q.Base()), "%s to %s", a.ID, b.ID)
		}
	}
}

// A unit is found again by its id, and by the words that it is written with
// where the system takes those words for it.
func TestUnitsByTheirWords(t *testing.T) {
	for _, u := range measure.Units {
		found, ok := measure.UnitOf(u.ID)
		require.True(t, ok, u.ID)
		assert.Equal(t, u.ID, found.ID)
	}
	for words, want := range map[string]measure.Unit{
		"g": measure.Gram, "grams": measure.Gram, "gram": measure.Gram, "kg": measure.Kilogram, "kilos": measure.Kilogram, "mg": measure.Milligram,
		"ml": measure.Millilitre, "mls": measure.Millilitre, "millilitres": measure.Millilitre, "l": measure.Litre, "litre": measure.Litre, "liters": measure.Litre,
		"tsp": measure.Teaspoon, "teaspoons": measure.Teaspoon, "tbsp": measure.Tablespoon, "tablespoon": measure.Tablespoon, "tbs": measure.Tablespoon,
		"dsp": measure.Dessertspoon, "dessertspoons": measure.Dessertspoon, "pinches": measure.Pinch, "cups": measure.Cup, "oz": measure.Ounce,
		"ounces": measure.Ounce, "lb": measure.Pound, "lbs": measure.Pound, "pounds": measure.Pound, "pt": measure.Pint, "pints": measure.Pint, "cl": measure.Centilitre, "dl": measure.Decilitre,
	} {
		assert.Equal(t, want.ID, measure.Named(words, measure.Metric).ID, words)
	}
	assert.Equal(t, measure.CupUS.ID, measure.Named("cup", measure.US).ID)
	assert.Equal(t, measure.TablespoonAU.ID, measure.Named("tablespoon", measure.Australian).ID)
	assert.Equal(t, measure.PintUS.ID, measure.Named("pint", measure.US).ID)
	assert.Equal(t, measure.Pint.ID, measure.Named("pint", measure.Imperial).ID)
}

// Every whole oven temperature goes to the dial and back within the step of
// the dial, whichever the oven.
func TestDialsThereAndBack(t *testing.T) {
	for _, o := range []measure.Oven{{}, {Fan: true}, {RunsHot: exact.Int(15)}, {Fan: true, RunsHot: exact.Int(-10)}, {Fan: true, FanUnder: exact.Int(10)}} {
		for c := int64(80); c <= 250; c += 5 {
			dial := o.Dial(exact.Int(c))
			back := o.Conventional(dial.Amount)
			assert.InDelta(t, float64(c), back.Amount.Float(), 5.01, "%+v at %d °C", o, c)
		}
	}
}
