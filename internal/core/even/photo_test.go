package even_test

import (
	"fmt"
	"image"
	"math"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"freshapron/internal/core/drawn"
	"freshapron/internal/core/even"
)

// worst compares what was found with what was drawn: the largest share by which a
// length or width is off.
func worst(t *testing.T, s drawn.Scene, p even.Photo) float64 {
	t.Helper()
	off := 0.0
	for _, d := range s.Pieces {
		f := slices.MinFunc(p.Pieces, func(a, b even.Found) int {
			near := func(f even.Found) float64 {
				return math.Hypot(f.Centre[0]*s.MMPerPx-d.X, f.Centre[1]*s.MMPerPx-d.Y)
			}
			return int(1000 * (near(a) - near(b)))
		})
		off = max(off, math.Abs(f.Size[0]/max(d.Length, d.Wide)-1), math.Abs(f.Size[1]/min(d.Length, d.Wide)-1))
	}
	return off
}

// Boards that the thresholds were set by, and boards that they were only measured on.
func boards(measured bool) map[string]drawn.Scene {
	out := map[string]drawn.Scene{}
	seed := uint64(1)
	if measured {
		seed = 101
	}
	foods := []string{"carrot", "potato", "beetroot", "courgette", "red pepper", "aubergine"}
	grounds := []string{"white", "green", "blue", "wood", "dark"}
	for i := range 10 {
		k := seed + uint64(i)
		food, board := foods[(i+int(seed))%len(foods)], grounds[(i*3+int(seed))%len(grounds)]
		px := []int{1000, 1154, 1154, 1400}[i%4]
		turn := float64((i*37 + int(seed)*11) % 180)
		s := drawn.Board(food, board, px, px*3/4, 6+i%7*3, 10+float64(i%5)*4, 10+float64(i%3)*2, 0.15, turn, k)
		s.Grain, s.Light, s.Shadows = float64(i%4)*3, float64(i%3)*0.15, i%2 == 0
		out[fmt.Sprintf("%02d %s on %s, %d px, %.0f°", i, food, board, px, turn)] = s
	}
	return out
}

func TestPhotographs(t *testing.T) {
	for name, measured := range map[string]bool{"tuned": false, "measured only": true} {
		right, all, largest := 0, 0, 0.0
		for what, s := range boards(measured) {
			all++
			p, err := even.Measure(s.Draw(), 100)
			if !assert.NoError(t, err, what) {
				continue
			}
			assert.InEpsilon(t, s.MMPerPx, p.MMPerPx, 0.01, what)
			if len(p.Pieces) != len(s.Pieces) {
				t.Logf("%s: %d of %d", what, len(p.Pieces), len(s.Pieces))
				continue
			}
			right++
			off := worst(t, s, p)
			assert.Less(t, off, 0.04, what)
			largest = max(largest, off)
		}
		t.Logf("%s: counts right on %d of %d, sizes within %.1f %%", name, right, all, 100*largest)
		assert.GreaterOrEqual(t, right*100, 95*all, name)
	}
}

// Pieces that touch are told apart where their outline pinches, and marked; so is one
// that reaches over the edge.
func TestDoubtfulPieces(t *testing.T) {
	s := drawn.Board("carrot", "white", 1600, 1200, 12, 14, 14, 0.05, 0, 5)
	s.Pieces[0].Round, s.Pieces[1].Round = true, true
	s.Pieces[1].X, s.Pieces[1].Y = s.Pieces[0].X+13, s.Pieces[0].Y
	s.Pieces[11].X = float64(s.Wide) * s.MMPerPx
	p, err := even.Measure(s.Draw(), 100)
	require.NoError(t, err)
	require.Len(t, p.Pieces, 12)
	doubtful := 0
	for _, f := range p.Pieces {
		if f.Doubtful {
			doubtful++
		}
	}
	assert.Equal(t, 3, doubtful)
	long := s
	long.Pieces = []drawn.Piece{{X: 100, Y: 100, Length: 60, Wide: 4, Angle: 20, Colour: drawn.Foods["carrot"]}}
	p, err = even.Measure(long.Draw(), 100)
	require.NoError(t, err)
	require.Len(t, p.Pieces, 1, "a stick is one piece")
	assert.InDelta(t, 20, p.Pieces[0].Angle, 0.5)
	assert.False(t, p.Pieces[0].Doubtful)
}

func TestNoStrip(t *testing.T) {
	s := drawn.Board("carrot", "white", 1000, 800, 8, 12, 12, 0.1, 0, 5)
	s.Reference = 0
	_, err := even.Measure(s.Draw(), 100)
	assert.ErrorIs(t, err, even.ErrNoStrip)
	_, err = even.Measure(image.NewRGBA(image.Rect(0, 0, 1, 1)), 100)
	assert.ErrorIs(t, err, even.ErrNoStrip)
}

func BenchmarkPhotograph12(b *testing.B) {
	img := drawn.Board("carrot", "wood", 4000, 3000, 24, 12, 12, 0.15, 20, 3).Draw()
	for b.Loop() {
		if _, err := even.Measure(img, 100); err != nil {
			b.Fatal(err)
		}
	}
}

// The examples to try with are measured as they were drawn; on the last two it is said
// that pieces touch.
func TestExamples(t *testing.T) {
	for i, e := range drawn.Examples {
		if i%4 > 0 && i < len(drawn.Examples)-2 {
			continue // some are enough
		}
		s := e.Scene()
		p, err := even.Measure(s.Draw(), 100)
		require.NoError(t, err, e.Says)
		assert.Len(t, p.Pieces, len(s.Pieces), e.Says)
		doubtful := slices.ContainsFunc(p.Pieces, func(f even.Found) bool { return f.Doubtful })
		assert.Equal(t, i >= len(drawn.Examples)-2, doubtful, e.Says)
	}
}
