package measure_test

import (
	"fmt"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"freshapron/internal/core/exact"
	"freshapron/internal/core/measure"
)

// foodRoom has scales that show 1 g, two that show 0.1 g, the usual spoons
// and jugs marked every 25 ml.
var foodRoom = measure.Instruments{
	Scales: []measure.Scale{{Division: exact.Int(1), Least: exact.Int(2)}},
	Spoons: measure.SpoonSet,
	Jugs:   []measure.Jug{{Marks: exact.Int(25), Holds: exact.Int(1000)}},
}

func dense(s string) measure.Density { return measure.Density{Number: exact.MustParse(s)} }

func ExampleInstruments_By() {
	milk := measure.Amount{Quantity: measure.Q("37.5", measure.Millilitre), Density: dense("1.03"), Pours: true}
	spoon, _ := foodRoom.By(measure.Volume, milk)
	scale, _ := foodRoom.By(measure.Mass, milk)
	fmt.Println(spoon.Says, "or", scale.Says)
	// Output: 2½ tbsp or 39 g
}

func TestInstructions(t *testing.T) {
	for _, c := range []struct {
		name     string
		amount   measure.Amount
		by       measure.Dimension
		says     string
		rounding float64
		reading  float64
	}{
		{"37.5 ml is two and a half tablespoons", measure.Amount{Quantity: measure.Q("37.5", measure.Millilitre), Pours: true}, measure.Volume, "2½ tbsp", 0, 0.10},
		{"150 ml by the marks of the jug", measure.Amount{Quantity: measure.Q("150", measure.Millilitre), Pours: true}, measure.Volume, "150 ml", 0, 6.25 / 150},
		{"112.5 g rounds up on a 1 g scale", measure.Amount{Quantity: measure.Q("112.5", measure.Gram)}, measure.Mass, "113 g", 0.5 / 112.5, 0.5 / 113},
		{"3 g of baking powder on the scale is 17 % off", measure.Amount{Quantity: measure.Q("3", measure.Gram), Density: dense("0.9")}, measure.Mass, "3 g", 0, 0.5 / 3},
		{"… and by spoon nearer: 3.33 ml is ¾ tsp", measure.Amount{Quantity: measure.Q("3", measure.Gram), Density: dense("0.9")}, measure.Volume, "¾ tsp", 3.75/(10.0/3) - 1, 0.10},
		{"two thirds of an onion", measure.Amount{Quantity: measure.Q("2/3", measure.Each)}, measure.Count, "⅔", 0, 0.05},
		{"three eggs", measure.Amount{Quantity: measure.Q("3", measure.Each)}, measure.Count, "3", 0, 0},
	} {
		t.Run(c.name, func(t *testing.T) {
			i, ok := foodRoom.By(c.by, c.amount)
			require.True(t, ok)
			assert.Equal(t, c.says, i.Says)
			assert.InDelta(t, c.rounding, i.Rounding, 1e-9)
			assert.InDelta(t, c.reading, i.Reading, 1e-9)
		})
	}
}

func TestNoInstruction(t *testing.T) {
	for name, a := range map[string]measure.Amount{
		"0.8 g on a scale that starts at 2 g": {Quantity: measure.Q("0.8", measure.Gram)},
		"nothing":                             {Quantity: measure.Q("0", measure.Gram)},
	} {
		_, ok := foodRoom.By(measure.Mass, a)
		assert.False(t, ok, name)
	}
	_, ok := foodRoom.By(measure.Volume, measure.Amount{Quantity: measure.Q("150", measure.Gram), Density: dense("0.53")})
	assert.False(t, ok, "19 tablespoons of flour are too many to count")
	_, ok = foodRoom.By(measure.Volume, measure.Amount{Quantity: measure.Q("10", measure.Gram)})
	assert.False(t, ok, "no density, no volume")
}

func TestBulk(t *testing.T) {
	for want, a := range map[string]measure.Amount{
		"4 tbsp": {Quantity: measure.Q("4", measure.Tablespoon), Density: dense("0.2")},
		"45 g":   {Quantity: measure.Q("15", measure.Tablespoon), Density: dense("0.2")},
		"225 ml": {Quantity: measure.Q("15", measure.Tablespoon), Density: dense("1.03"), Pours: true},
		"70 ml":  {Quantity: measure.Q("14", measure.Teaspoon)},
		"900 g":  {Quantity: measure.Q("900", measure.Gram), Density: dense("0.5")},
	} {
		assert.Equal(t, want, a.Bulk().String())
	}
}

func TestPlus(t *testing.T) {
	assert.Equal(t, "2⅓ tbsp", measure.Q("2", measure.Tablespoon).Plus(measure.Q("1", measure.Teaspoon)).String())
	assert.Equal(t, "1.25 kg", measure.Q("250", measure.Gram).Plus(measure.Q("1", measure.Kilogram)).String())
}

func TestPrinting(t *testing.T) {
	for want, q := range map[string]measure.Quantity{
		"112.5 g":  measure.Q("112.5", measure.Gram),
		"1.35 kg":  measure.Q("1350", measure.Gram),
		"0.75 g":   measure.Q("0.75", measure.Gram),
		"1.2 l":    measure.Q("1200", measure.Millilitre),
		"⅓ tsp":    measure.Q("1/3", measure.Teaspoon),
		"1¾":       measure.Q("7/4", measure.Each),
		"0.4 tbsp": measure.Q("2/5", measure.Tablespoon),
	} {
		assert.Equal(t, want, q.String())
	}
}

func TestThereAndBack(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		from := rapid.SampledFrom(measure.Units).Draw(t, "from")
		to := rapid.SampledFrom(measure.Units).Draw(t, "to")
		q := measure.Quantity{Amount: exact.Frac(rapid.Int64Range(1, 1e6).Draw(t, "n"), rapid.Int64Range(1, 64).Draw(t, "d")), Unit: from}
		there, ok := q.In(to)
		assert.Equal(t, from.Dimension == to.Dimension && (from.Dimension != measure.Count || from.ID == to.ID), ok)
		if ok {
			back, _ := there.In(from)
			assert.Zero(t, q.Amount.Cmp(back.Amount))
		}
	})
}

// Another instrument in the drawer never makes the best instruction worse.
func TestMoreInstrumentsNeverHurt(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		a := measure.Amount{
			Quantity: measure.Quantity{Amount: exact.Frac(rapid.Int64Range(1, 2000).Draw(t, "n"), 4), Unit: measure.Gram},
			Density:  measure.Density{Number: exact.Frac(rapid.Int64Range(20, 140).Draw(t, "density"), 100)},
			Pours:    rapid.Bool().Draw(t, "pours"),
		}
		more := foodRoom
		more.Scales = append([]measure.Scale{{Division: exact.Frac(1, 10), Least: exact.Frac(1, 2)}}, foodRoom.Scales...)
		before, ok := foodRoom.Best(a)
		after, ok2 := more.Best(a)
		if ok {
			assert.True(t, ok2)
			assert.LessOrEqual(t, after.Cost(), before.Cost()+1e-9)
		}
	})
}

func TestCupsAndPacks(t *testing.T) {
	us := measure.Usual(measure.US)
	flour := measure.Amount{Quantity: measure.Q("125.391765345", measure.Gram), Density: dense("0.53")} // a customary cup of it
	i, ok := us.By(measure.Volume, flour)
	require.True(t, ok)
	assert.Equal(t, "1 cup", i.Says)
	assert.InDelta(t, 0.20, i.Error(), 1e-6, "a cup of something dry is 20 % off")

	tub := measure.Amount{Quantity: measure.Q("100", measure.Gram), Packs: []measure.PackSize{{Size: measure.Q("300", measure.Gram), Word: unitOf(t, "tub")}}}
	i, ok = foodRoom.By(measure.Count, tub)
	require.True(t, ok)
	assert.Equal(t, "a third of a 300 g tub", i.Says)
	assert.Zero(t, i.Rounding)
	tub.Quantity = measure.Q("900", measure.Gram)
	i, _ = foodRoom.By(measure.Count, tub)
	assert.Equal(t, "3 × 300 g tubs", i.Says)
	tub.Quantity = measure.Q("110", measure.Gram)
	_, ok = foodRoom.By(measure.Count, tub)
	assert.False(t, ok, "no simple part comes near")
}

func unitOf(t *testing.T, id string) measure.Unit {
	t.Helper()
	u, ok := measure.UnitOf(id)
	require.True(t, ok)
	return u
}

func TestPinchesAndLengths(t *testing.T) {
	salt := measure.Amount{Quantity: measure.Q("0.8", measure.Gram), Density: dense("1.2")}
	i, ok := foodRoom.Best(salt)
	require.True(t, ok)
	// ⅔ ml: two pinches are 0.625 ml, ¼ tsp is 1.25.
	assert.Equal(t, "2 pinches", i.Says)
	assert.InDelta(t, 0.625/(0.8/1.2)-1, i.Rounding, 1e-9)
	ginger, ok := foodRoom.Best(measure.Amount{Quantity: measure.Q("1.8", measure.Centimetre)})
	require.True(t, ok)
	assert.Equal(t, "2 cm", ginger.Says)
	knob, _ := foodRoom.Best(measure.Amount{Quantity: measure.Q("1", unitOf(t, "knob"))})
	assert.Equal(t, "1 knob", knob.Says)
	assert.Equal(t, "exact", knob.Off(), "nobody measures a knob")
}

// Another measure in the drawer never makes the best instruction worse.
func TestMoreSpoonsNeverHurt(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		set := rapid.SliceOfNDistinct(rapid.SampledFrom(append(measure.SpoonSet[:5:5], measure.CupSet...)), 1, 5, func(u measure.Unit) string { return u.ID }).Draw(t, "set")
		extra := rapid.SampledFrom(append(measure.SpoonSet[:5:5], measure.CupSet...)).Draw(t, "extra")
		a := measure.Amount{Quantity: measure.Quantity{Amount: exact.Frac(rapid.Int64Range(1, 2000).Draw(t, "ml"), 4), Unit: measure.Millilitre}, Pours: true}
		few, many := measure.Instruments{Spoons: set}, measure.Instruments{Spoons: append(append([]measure.Unit{}, set...), extra)}
		before, ok := few.Best(a)
		if !ok {
			return
		}
		after, ok := many.Best(a)
		require.True(t, ok)
		assert.LessOrEqual(t, after.Cost(), before.Cost()+1e-9)
	})
}

// Prices are whole pence, and pounds from a hundred on.
func TestPrices(t *testing.T) {
	for pence, says := range map[float64]string{0: "0p", 0.4: "0p", 0.5: "1p", 85: "85p", 99.5: "£1.00", 100: "£1.00", 1205: "£12.05", 123456789: "£1234567.89", -5: "−5p", -120.2: "−£1.20"} {
		assert.Equal(t, says, measure.Price(pence))
	}
	assert.Equal(t, "£1.20", measure.Price(120))
}

func TestNames(t *testing.T) {
	for text, id := range map[string]string{"g": "g", "grams": "g", "tbsp-au": "tbsp-au", "Tablespoons": "tbsp", "": "", "dollop": "word:dollop", "cloves": "clove"} {
		u := measure.Named(text, measure.Metric)
		assert.Equal(t, id, u.ID, text)
		back, ok := measure.UnitOf(u.ID)
		assert.True(t, ok)
		assert.Equal(t, u, back)
	}
	assert.Equal(t, "£1.20", measure.Q("120", measure.Penny).String())
	assert.Equal(t, "85p", measure.Q("85", measure.Penny).String())
	assert.Equal(t, "2 sprigs", measure.Q("2", unitOf(t, "sprig")).String())
}
