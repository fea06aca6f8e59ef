// Package knife cuts food: solids of the shapes of vegetables, fruit, meat and bread
// by planes into pieces, with their volumes and extents; which cuts come in which
// order, what goes wrong in another, which holds they take, and other tools.
package knife

import (
	"math"

	"freshapron/internal/core/problem"
)

// A Shape of a solid.
type Shape string

// The shapes. All lie along x, from 0 to their length; y is across and z up, from the
// middle.
const (
	Cylinder      Shape = "cylinder"
	Frustum       Shape = "frustum" // the first diameter is at x = 0
	Ellipsoid     Shape = "ellipsoid"
	HalfEllipsoid Shape = "half-ellipsoid" // cut flat at z = 0, what is above is there
	Box           Shape = "box"
	Shell         Shape = "shell" // a hollow box, open at both ends of x
)

// Shapes lists them.
var Shapes = []Shape{Cylinder, Frustum, Ellipsoid, HalfEllipsoid, Box, Shell}

// A Solid is a food. Sizes are millimetres.
type Solid struct {
	Shape  Shape
	Size   [3]float64 // whole extents along x, y and z; a half-ellipsoid is half of the third high
	End    float64    // diameter at the far end of a frustum
	Wall   float64    // of a shell
	Layers int        // equal shells of a half-ellipsoid, which come apart; 0 and 1 are none
	Root   bool       // what lies within a tenth of the length at x = 0 holds together
}

// MostSize is the largest extent of a food, in millimetres; MostLayers, MostCuts and
// MostPieces bound the work.
const (
	MostSize   = 2000
	MostLayers = 20
	MostCuts   = 1000
	MostPieces = 50_000
)

// Check returns what of the solid can't be, with the path of each.
func (s Solid) Check() error {
	var out problem.List
	size := func(path string, v float64) {
		if !(v > 0 && v <= MostSize) {
			out.Add(path, "is %g; it must be above 0 and at most %d mm", v, MostSize)
		}
	}
	switch s.Shape {
	case Cylinder:
		size("length_mm", s.Size[0])
		size("diameter_mm", s.Size[1])
	case Frustum:
		size("length_mm", s.Size[0])
		size("diameter_mm[0]", s.Size[1])
		size("diameter_mm[1]", s.End)
	case Ellipsoid, HalfEllipsoid:
		for i, path := range []string{"axes_mm[0]", "axes_mm[1]", "axes_mm[2]"} {
			size(path, s.Size[i])
		}
	default:
		for i, path := range []string{"size_mm[0]", "size_mm[1]", "size_mm[2]"} {
			size(path, s.Size[i])
		}
	}
	if s.Shape == Shell {
		if most := min(s.Size[1], s.Size[2]) / 2; !(s.Wall > 0 && s.Wall < most) {
			out.Add("wall_mm", "is %g; it must be above 0 and under half of the smaller side, %g mm", s.Wall, most)
		}
	}
	if s.Layers < 0 || s.Layers > MostLayers {
		out.Add("layers", "is %d; it must be from 0 to %d", s.Layers, MostLayers)
	}
	return out.Err()
}

// from and to are the extents of the solid along an axis.
func (s Solid) from(axis int) float64 {
	switch {
	case axis == 0 || axis == 2 && s.Shape == HalfEllipsoid:
		return 0
	case axis == 2 && s.round():
		return -s.across(0) / 2
	}
	return -s.across(axis) / 2
}

func (s Solid) to(axis int) float64 {
	if axis == 0 {
		return s.Size[0]
	}
	return s.across(axis) / 2
}

// round reports whether it is turned round the x axis.
func (s Solid) round() bool { return s.Shape == Cylinder || s.Shape == Frustum }

// across is the largest width along y or z.
func (s Solid) across(axis int) float64 {
	if s.round() {
		return max(s.Size[1], s.End)
	}
	return s.Size[axis]
}

// radius is that of the section at x, as a share of the half widths ry and rz.
func (s Solid) radius(x float64) float64 {
	switch s.Shape {
	case Frustum:
		return s.width(x) / max(s.Size[1], s.End)
	case Ellipsoid, HalfEllipsoid:
		t := 2*x/s.Size[0] - 1
		return math.Sqrt(max(0, 1-t*t))
	}
	return 1
}

func (s Solid) width(x float64) float64 { return s.Size[1] + (s.End-s.Size[1])*x/s.Size[0] }

// A cell is a box between cuts.
type cell struct{ lo, hi [3]float64 }

// A Piece is what cuts leave together.
type Piece struct {
	Volume float64    // mm³
	Size   [3]float64 // extents along x, y and z
	From   [3]float64 // where it lies
}

// part is what of a solid of one layer lies in a cell; nothing where it is empty.
func (s Solid) part(c cell) (Piece, bool) {
	lo, hi := c.lo, c.hi
	for a := range 3 {
		lo[a], hi[a] = max(lo[a], s.from(a)), min(hi[a], s.to(a))
		if hi[a] <= lo[a] {
			return Piece{}, false
		}
	}
	if s.Shape == Box {
		return pieceOf(lo, hi, (hi[0]-lo[0])*(hi[1]-lo[1])*(hi[2]-lo[2])), true
	}
	// The section is an ellipse in y and z: in units of its half widths a circle.
	ry, rz := s.across(1)/2, s.across(2)/2
	y0, y1, z0, z1 := lo[1]/ry, hi[1]/ry, lo[2]/rz, hi[2]/rz
	near := math.Hypot(nearest(y0, y1), nearest(z0, z1)) // how far the middle is from the cell
	x0, x1, widest, ok := s.along(lo[0], hi[0], near)
	if !ok {
		return Piece{}, false
	}
	volume := ry * rz * integrate(x0, x1, func(x float64) float64 { return overlap(s.radius(x), y0, y1, z0, z1) })
	reachY := ry * math.Sqrt(max(0, widest*widest-sq(nearest(z0, z1))))
	reachZ := rz * math.Sqrt(max(0, widest*widest-sq(nearest(y0, y1))))
	lo[0], hi[0] = x0, x1
	lo[1], hi[1] = max(lo[1], -reachY), min(hi[1], reachY)
	lo[2], hi[2] = max(lo[2], -reachZ), min(hi[2], reachZ)
	if volume <= leastVolume || hi[1] <= lo[1] || hi[2] <= lo[2] {
		return Piece{}, false
	}
	return pieceOf(lo, hi, volume), true
}

// leastVolume, in mm³, is a crumb that no knife leaves.
const leastVolume = 1e-6

func pieceOf(lo, hi [3]float64, volume float64) Piece {
	return Piece{Volume: volume, Size: [3]float64{hi[0] - lo[0], hi[1] - lo[1], hi[2] - lo[2]}, From: lo}
}

func sq(v float64) float64 { return v * v }

// nearest is the smallest distance from 0 of an interval.
func nearest(lo, hi float64) float64 { return max(0, lo, -hi) }

// along narrows an interval of x to where the section reaches so far, and says how far
// it reaches at most.
func (s Solid) along(x0, x1, near float64) (from, to, widest float64, ok bool) {
	switch s.Shape {
	case Cylinder:
		return x0, x1, 1, near < 1
	case Frustum:
		a, b := s.radius(x0), s.radius(x1)
		if max(a, b) <= near {
			return 0, 0, 0, false
		}
		if min(a, b) < near { // the section reaches the cell on one side of a place
			at := x0 + (x1-x0)*(near-a)/(b-a)
			if a > b {
				x1 = at
			} else {
				x0 = at
			}
		}
		return x0, x1, max(a, b), true
	}
	if near >= 1 {
		return 0, 0, 0, false
	}
	half, middle := s.Size[0]/2*math.Sqrt(1-near*near), s.Size[0]/2
	x0, x1 = max(x0, middle-half), min(x1, middle+half)
	if x1 <= x0 {
		return 0, 0, 0, false
	}
	return x0, x1, s.radius(min(max(middle, x0), x1)), true
}

// nodes and weights of Gauss and Legendre on −1 to 1, of eight points.
var (
	nodes   = [4]float64{0.1834346424956498, 0.5255324099163290, 0.7966664774136267, 0.9602898564975363}
	weights = [4]float64{0.3626837833783620, 0.3137066458778873, 0.2223810344533745, 0.1012285362903763}
)

// integrate adds up a function, in parts that are finer towards both ends: there
// sections begin like roots.
func integrate(from, to float64, f func(float64) float64) float64 {
	cuts := [...]float64{0, 0.02, 0.1, 0.3, 0.5, 0.7, 0.9, 0.98, 1}
	sum := 0.0
	for i := 1; i < len(cuts); i++ {
		a, b := from+(to-from)*cuts[i-1], from+(to-from)*cuts[i]
		m, h := (a+b)/2, (b-a)/2
		for k, n := range nodes {
			sum += h * weights[k] * (f(m-h*n) + f(m+h*n))
		}
	}
	return sum
}

// overlap is the area of a circle round the middle in a rectangle.
func overlap(r, y0, y1, z0, z1 float64) float64 {
	return corner(r, y1, z1) - corner(r, y0, z1) - corner(r, y1, z0) + corner(r, y0, z0)
}

// corner is the area of a circle left of y and under z.
func corner(r, y, z float64) float64 {
	if r <= 0 {
		return 0
	}
	y, z = min(max(y, -r), r), min(max(z, -r), r)
	edge := math.Sqrt(r*r - z*z) // where z meets the circle
	// under is the area between two places below z, where the circle reaches above it.
	under := func(a, b float64) float64 {
		if b <= a {
			return 0
		}
		return disc(r, b) - disc(r, a) + z*(b-a)
	}
	whole := func(a, b float64) float64 {
		if b <= a {
			return 0
		}
		return 2 * (disc(r, b) - disc(r, a))
	}
	if z < 0 {
		return under(-edge, min(y, edge))
	}
	return whole(-r, min(y, -edge)) + under(-edge, min(y, edge)) + whole(edge, y)
}

// disc is the area above the middle of a circle, from its middle to a place.
func disc(r, to float64) float64 {
	to = min(max(to, -r), r)
	return (to*math.Sqrt(r*r-to*to) + r*r*math.Asin(to/r)) / 2
}
