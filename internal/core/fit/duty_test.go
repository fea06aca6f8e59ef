package fit_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"freshapron/internal/core/exact"
	"freshapron/internal/core/fit"
)

// Nobody is at two places, and every watched step has its adult.
func TestDuties(t *testing.T) {
	l := tartlets(6)
	l.Away = []fit.Away{{Adults: 1, From: exact.Int(30), Minutes: exact.Int(6)}}
	p := solve(t, l)
	duties := fit.Duties(l, p)
	require.Len(t, duties, 7)
	busy := map[int]float64{}
	out := 0
	for _, d := range duties {
		assert.GreaterOrEqual(t, d.From, busy[d.Adult]-1e-9, "adult %d", d.Adult)
		busy[d.Adult] = d.To
		if d.Group == "" {
			out++
		} else {
			assert.Equal(t, "bake", d.Step)
			assert.False(t, d.Does)
		}
	}
	assert.Equal(t, 1, out)
}

// Who is taken for a while and comes back when the next is needed is one adult; without adults there is nobody to be.
func TestDutiesOneAfterAnother(t *testing.T) {
	l := tartlets(1)
	l.Away = []fit.Away{{Adults: 1, From: exact.Int(10), Minutes: exact.Int(5)}, {Adults: 1, From: exact.Int(15), Minutes: exact.Int(5)}, {Adults: 1, From: exact.Int(12), Minutes: exact.Int(2)}}
	var adults []int
	for _, d := range fit.Duties(l, &fit.Plan{}) {
		adults = append(adults, d.Adult)
	}
	assert.Equal(t, []int{0, 1, 0}, adults)
	l.Adults, l.Away = 0, l.Away[:1]
	assert.Equal(t, 0, fit.Duties(l, &fit.Plan{})[0].Adult)
}

// The first tray of a step, where it has one.
func TestTrayOfAStep(t *testing.T) {
	l := tartlets(1)
	p := solve(t, l)
	for _, s := range p.Groups[0].Steps {
		tray, ok := l.Tray("g1", s)
		assert.Equal(t, s.Step == "bake", ok)
		if ok {
			assert.Equal(t, []any{"oven", s.WorkEnd, s.End}, []any{tray.Equipment, tray.In, tray.Out})
		}
	}
}

// A variant of a dish is that dish, and a dish is itself.
func TestVariantsOfADish(t *testing.T) {
	l := fit.Lesson{Dishes: []fit.Dish{{ID: "loaf"}, {ID: "loaf-small", Of: "loaf"}}}
	assert.Equal(t, []string{"loaf", "loaf", "bun"}, []string{l.Of("loaf"), l.Of("loaf-small"), l.Of("bun")})
}

func TestDoors(t *testing.T) {
	l := tartlets(5)
	p := solve(t, l)
	doors := fit.Doors(l, p)
	require.Len(t, doors, 2)
	inside, moves := 0, 0
	for _, d := range doors {
		assert.InDelta(t, 12, d.Ready, 1e-9)
		last := 0.0
		for _, m := range d.Moves {
			assert.GreaterOrEqual(t, m.At, last-1e-9)
			last = m.At
			assert.Equal(t, "190", m.Celsius)
			if m.In {
				inside++
				assert.GreaterOrEqual(t, m.Latest, m.At)
			} else {
				inside--
			}
			assert.LessOrEqual(t, inside, 4, "out before in: never more trays than shelves")
			moves++
		}
	}
	assert.Zero(t, inside)
	assert.Equal(t, 10, moves)
}
