package knife_test

import (
	"math"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"freshapron/internal/core/knife"
)

// inside reports whether a place lies in a solid of one layer; written from the words
// of the shapes, by other means than cutting.
func inside(s knife.Solid, x, y, z float64) bool {
	if x < 0 || x > s.Size[0] {
		return false
	}
	switch s.Shape {
	case knife.Cylinder:
		return 4*(y*y+z*z) <= s.Size[1]*s.Size[1]
	case knife.Frustum:
		d := s.Size[1] + (s.End-s.Size[1])*x/s.Size[0]
		return 4*(y*y+z*z) <= d*d
	case knife.Ellipsoid, knife.HalfEllipsoid:
		u, v, w := 2*x/s.Size[0]-1, 2*y/s.Size[1], 2*z/s.Size[2]
		return u*u+v*v+w*w <= 1 && (z >= 0 || s.Shape == knife.Ellipsoid)
	}
	in := 2*math.Abs(y) <= s.Size[1] && 2*math.Abs(z) <= s.Size[2]
	hollow := 2*math.Abs(y) < s.Size[1]-2*s.Wall && 2*math.Abs(z) < s.Size[2]-2*s.Wall
	return in && (s.Shape == knife.Box || !hollow)
}

func volumeOf(list []knife.Piece) float64 {
	sum := 0.0
	for _, p := range list {
		sum += p.Volume
	}
	return sum
}

func whole(s knife.Solid) float64 {
	switch x, y, z := s.Size[0], s.Size[1], s.Size[2]; s.Shape {
	case knife.Cylinder:
		return math.Pi / 4 * x * y * y
	case knife.Frustum:
		return math.Pi / 12 * x * (y*y + y*s.End + s.End*s.End)
	case knife.Ellipsoid:
		return math.Pi / 6 * x * y * z
	case knife.HalfEllipsoid:
		return math.Pi / 12 * x * y * z
	case knife.Box:
		return x * y * z
	default:
		return x * (y*z - (y-2*s.Wall)*(z-2*s.Wall))
	}
}

func solids(t *rapid.T, shapes []knife.Shape) knife.Solid {
	size := func(name string) float64 { return rapid.Float64Range(5, 200).Draw(t, name) }
	s := knife.Solid{Shape: rapid.SampledFrom(shapes).Draw(t, "shape"), Size: [3]float64{size("x"), size("y"), size("z")}, End: size("end")}
	switch s.Shape {
	case knife.Shell:
		s.Wall = min(s.Size[1], s.Size[2]) * rapid.Float64Range(0.05, 0.45).Draw(t, "wall")
	case knife.Frustum:
	default:
		s.End = 0
	}
	return s
}

func cuts(t *rapid.T, most int) knife.Cuts {
	at := func(name string) []float64 {
		return rapid.SliceOfN(rapid.Float64Range(-120, 220), 0, most).Draw(t, name)
	}
	return knife.Cuts{at("x"), at("y"), at("z")}
}

// However it is cut, the pieces come to the whole by its formula, and none is larger
// than the box that it fills.
func TestNothingIsLost(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		s := solids(t, knife.Shapes)
		if s.Shape == knife.HalfEllipsoid {
			s.Layers = rapid.IntRange(0, 4).Draw(t, "layers")
			s.Root = rapid.Bool().Draw(t, "root")
		}
		list, err := s.Cut(cuts(t, 4))
		require.NoError(t, err)
		assert.InEpsilon(t, whole(s), volumeOf(list), 1e-3)
		for _, p := range list {
			assert.LessOrEqual(t, p.Volume, p.Size[0]*p.Size[1]*p.Size[2]*(1+1e-2))
		}
	})
}

// Pieces have the volume and the extents that counting points gives.
func TestPiecesByPoints(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		s := solids(t, []knife.Shape{knife.Cylinder, knife.Frustum, knife.Ellipsoid, knife.HalfEllipsoid, knife.Box}) // of which a cell holds one piece
		list, err := s.Cut(cuts(t, 1))
		require.NoError(t, err)
		if len(list) == 0 {
			return
		}
		p := list[rapid.IntRange(0, len(list)-1).Draw(t, "piece")]
		const n = 40
		hits := 0
		var lo, hi [3]float64
		for a := range 3 {
			lo[a], hi[a] = math.Inf(1), math.Inf(-1)
		}
		for i := range n * n * n {
			at := [3]float64{float64(i%n) + 0.5, float64(i/n%n) + 0.5, float64(i/n/n) + 0.5}
			for a := range 3 {
				at[a] = p.From[a] + p.Size[a]*at[a]/n
			}
			if inside(s, at[0], at[1], at[2]) {
				hits++
				for a := range 3 {
					lo[a], hi[a] = min(lo[a], at[a]), max(hi[a], at[a])
				}
			}
		}
		if hits < n*n*n/20 {
			return // too few points say nothing
		}
		assert.InDelta(t, float64(hits)/n/n/n, p.Volume/(p.Size[0]*p.Size[1]*p.Size[2]), 0.03)
		for a := range 3 {
			assert.Greater(t, (hi[a]-lo[a])/p.Size[a], 0.75, "it reaches from side to side along %d", a)
		}
	})
}

func TestCutFood(t *testing.T) {
	carrot := knife.Solid{Shape: knife.Frustum, Size: [3]float64{140, 32, 0}, End: 16}
	coins, err := carrot.Cut(knife.Cuts{{20, 40, 60, 500, -3, 20}})
	require.NoError(t, err)
	require.Len(t, coins, 4, "planes that miss, and the same again, do nothing")
	d := 32 - 16.0/7
	assert.InDelta(t, math.Pi/12*20*(32*32+32*d+d*d), coins[0].Volume, 1e-6)
	assert.InDeltaSlice(t, []float64{20, 32, 32}, coins[0].Size[:], 1e-9)

	pepper := knife.Solid{Shape: knife.Shell, Size: [3]float64{80, 70, 70}, Wall: 6}
	for _, c := range []struct {
		cuts knife.Cuts
		want int
		says string
	}{
		{knife.Cuts{}, 1, "whole"},
		{knife.Cuts{{40}, nil, nil}, 2, "two rings"},
		{knife.Cuts{nil, nil, {0}}, 2, "two halves that hold together at three walls"},
		{knife.Cuts{nil, {-10, 10}, nil}, 4, "the middle is two strips, above and below"},
		{knife.Cuts{nil, {-10, 10}, {0}}, 6, "and all of them halved: the outer two come apart too"},
	} {
		list, err := pepper.Cut(c.cuts)
		require.NoError(t, err)
		assert.Len(t, list, c.want, c.says)
	}

	onion := knife.Solid{Shape: knife.HalfEllipsoid, Size: [3]float64{80, 70, 70}, Layers: 5}
	apart, err := onion.Cut(knife.Cuts{})
	require.NoError(t, err)
	assert.Len(t, apart, 5)
	onion.Root = true
	for cuts, want := range map[*knife.Cuts]int{
		{nil, {-20, -10, 0, 10, 20}, nil}: 1, // a fan
		{{4}, {0}, nil}:                   1, // within the root
	} {
		list, err := onion.Cut(*cuts)
		require.NoError(t, err)
		assert.Len(t, list, want)
	}
	diced, err := onion.Cut(knife.Cuts{{20, 40, 60}, {-10, 10}, nil})
	require.NoError(t, err)
	assert.Greater(t, len(diced), 20, "what is cut off the root comes apart")
}

func TestWhatCanNotBeCut(t *testing.T) {
	assert.ErrorContains(t, knife.Solid{Shape: knife.Box, Size: [3]float64{0, 3000, 10}}.Check(), "size_mm[0]: is 0; it must be above 0 and at most 2000 mm")
	assert.ErrorContains(t, knife.Solid{Shape: knife.Shell, Size: [3]float64{10, 10, 10}, Wall: 5}.Check(), "wall_mm")
	assert.NoError(t, knife.Solid{Shape: knife.Cylinder, Size: [3]float64{2000, 2000, 0}}.Check())
	many := make([]float64, 300)
	for i := range many {
		many[i] = float64(i) / 4
	}
	_, err := knife.Solid{Shape: knife.Box, Size: [3]float64{100, 200, 200}}.Cut(knife.Cuts{many, many, {0}})
	assert.ErrorContains(t, err, "more than 50000 pieces")
}

func BenchmarkCut400(b *testing.B) {
	s := knife.Solid{Shape: knife.Frustum, Size: [3]float64{140, 40, 0}, End: 20}
	var c knife.Cuts
	for i := range 24 {
		c[0] = append(c[0], float64(i+1)*5.6)
	}
	c[1], c[2] = []float64{-10, 0, 10}, []float64{-10, 0, 10}
	for b.Loop() {
		list, err := s.Cut(c)
		if err != nil || len(list) < 340 {
			b.Fatal(err, len(list))
		}
	}
}

func BenchmarkCutLayers(b *testing.B) {
	s := knife.Solid{Shape: knife.HalfEllipsoid, Size: [3]float64{80, 70, 70}, Layers: 6, Root: true}
	for b.Loop() {
		if _, err := s.Cut(knife.Cuts{{10, 20, 30, 40, 50, 60, 70}, {-20, -10, 0, 10, 20}, {10, 20}}); err != nil {
			b.Fatal(err)
		}
	}
}
