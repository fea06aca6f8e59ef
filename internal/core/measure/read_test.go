package measure_test

import (
	"fmt"
	"os"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"freshapron/internal/core/exact"
	"freshapron/internal/core/measure"
)

func ExampleRead() {
	r := measure.Read("½ x 400 g tin chopped tomatoes, drained", measure.Metric)
	fmt.Println(r.Quantity(), "|", r.Name, "|", r.Note, "|", r.Pack.Count, r.Pack.Word.Symbol)
	// Output: 200 g | chopped tomatoes | drained | 1/2 tin
}

// Every line of testdata/lines.txt with the reading that a teacher expects.
func TestLines(t *testing.T) {
	data, err := os.ReadFile("testdata/lines.txt")
	require.NoError(t, err)
	count := 0
	for line := range strings.Lines(string(data)) {
		line = strings.TrimSpace(line)
		if strings.HasPrefix(line, "#") {
			continue
		}
		count++
		f := strings.Split(line, "|")
		require.Len(t, f, 6, line)
		for i := range f {
			f[i] = strings.TrimSpace(f[i])
		}
		r := measure.Read(f[0], measure.Metric)
		t.Run(f[0], func(t *testing.T) {
			low, high, isRange := strings.Cut(f[1], "..")
			if !isRange {
				high = low
			}
			if assert.Equal(t, low != "", r.Given, "an amount") && r.Given {
				assert.Equal(t, exact.MustParse(low).String(), r.Low.String())
				assert.Equal(t, exact.MustParse(high).String(), r.High.String())
				assert.Equal(t, f[2], r.Unit.ID)
			}
			assert.Equal(t, f[3], r.Name, "name")
			assert.Equal(t, f[4], r.Note, "note")
			assert.Equal(t, strings.Contains(f[5], "d"), len(r.Doubts) > 0, "doubts %q", r.Doubts)
			assert.Equal(t, strings.Contains(f[5], "p"), len(r.Problems) > 0, "problems %q", r.Problems)
			assert.Equal(t, strings.Contains(f[5], "t"), r.Taste)
			assert.Equal(t, strings.Contains(f[5], "s"), r.Surface)
		})
	}
	assert.GreaterOrEqual(t, count, 250)
}

// At least 99 of 100 lines are read as expected; those that can't be read say
// so. TestLines asks for all of them.
func TestWhatCannotBeReadIsMarked(t *testing.T) {
	for _, line := range []string{"1/0 cup sugar", "0 g flour", "-200 g flour", "1000000 g flour", "99999999999999999999 eggs", "", "2"} {
		r := measure.Read(line, measure.Metric)
		assert.NotEmpty(t, r.Problems, line)
	}
	long := measure.Read(strings.Repeat("flour ", 200), measure.Metric)
	assert.Len(t, long.Problems, 1)
	assert.Contains(t, long.Problems[0], "at most 400")
}

func TestSystemsDiffer(t *testing.T) {
	for system, want := range map[string][3]float64{
		"metric": {250, 15, 568.26125}, "us": {236.5882365, 14.78676478125, 473.176473}, "au": {250, 20, 568.26125}, "imperial": {250, 15, 568.26125},
	} {
		sys, ok := measure.SystemOf(system)
		require.True(t, ok)
		for i, line := range []string{"1 cup milk", "1 tbsp milk", "1 pint milk"} {
			assert.InDelta(t, want[i], measure.Read(line, sys).Quantity().Base().Float(), 1e-9, "%s %s", system, line)
		}
	}
	_, ok := measure.SystemOf("troy")
	assert.False(t, ok)
}

func TestUnitsAreExact(t *testing.T) {
	for text, grams := range map[string]string{
		"1 oz": "28.349523125", "1 lb": "453.59237", "16 oz": "453.59237",
	} {
		q := measure.Read(text+" x", measure.Metric).Quantity()
		assert.Zero(t, q.Base().Cmp(exact.MustParse(grams)), text)
	}
	school := measure.Metric
	school.Ounces = measure.SchoolOunce
	assert.Equal(t, "200", measure.Read("8 oz flour", school).Quantity().Base().String(), "the ounce of older school books, when chosen")
	assert.Equal(t, "113.398", measure.Read("1 stick butter", measure.US).Quantity().Base().Decimal(3))
	assert.Equal(t, "28.4130625", measure.Q("1", measure.FluidOunce).Base().Decimal(7))
}

// Whatever is typed, the reader answers, keeps the words, and does not read an
// amount that it also calls a problem.
func FuzzRead(f *testing.F) {
	data, err := os.ReadFile("testdata/lines.txt")
	require.NoError(f, err)
	for line := range strings.Lines(string(data)) {
		text, _, _ := strings.Cut(line, "|")
		f.Add(strings.TrimSpace(text))
	}
	f.Fuzz(func(t *testing.T, line string) {
		for _, sys := range measure.Systems[:2] {
			r := measure.Read(line, sys)
			if r.Given {
				q := r.Quantity()
				if q.Amount.Sign() <= 0 || r.High.Less(r.Low) {
					t.Errorf("%q read as %s", line, q)
				}
				_ = q.String()
			}
			if r.Name == "" && len(r.Problems) == 0 {
				t.Errorf("%q has neither a name nor a problem", line)
			}
		}
	})
}

// A pack's word stands before or behind the name, and what it holds behind.
func TestPacksBesideTheName(t *testing.T) {
	for _, line := range []string{"tin chopped tomatoes: 400 g", "chopped tomatoes tin 400g", "Tin of chopped tomatoes – 400 g", "chopped tomatoes (400 g tin)"} {
		r := measure.Read(line, measure.Metric)
		assert.Equal(t, "400 g", r.Quantity().String(), line)
		assert.Equal(t, "chopped tomatoes", strings.ToLower(r.Name), line)
		assert.Equal(t, "tin", r.Pack.Word.Symbol, line)
	}
	assert.Equal(t, "baking tin", measure.Read("baking tin", measure.Metric).Name)
}

func TestSoManyTimesAThing(t *testing.T) {
	for line, name := range map[string]string{"2 x onions": "onions", "3 × eggs, beaten": "eggs", "½ x cucumber": "cucumber", "1 X leek": "leek"} {
		r := measure.Read(line, measure.Metric)
		assert.Equal(t, name, r.Name, line)
		assert.True(t, r.Given, line)
	}
	assert.Equal(t, "800 g", measure.Read("2 x 400 g tins tomatoes", measure.Metric).Quantity().String())
}
