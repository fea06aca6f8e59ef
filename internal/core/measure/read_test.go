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
