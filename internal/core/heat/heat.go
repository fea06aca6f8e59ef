// Package heat estimates how long food takes to heat through.
//
// A piece of food is a slab, a cylinder or a sphere in surroundings of one
// temperature. The centre follows the one-term solution of the heat equation,
//
//	θ = (T − T∞)/(T0 − T∞) = A1·exp(−λ1²·Fo), Fo = α·t/L², Bi = h·L/k,
//
// with L the half thickness or the radius, which holds for Fo over 0.2
// (Incropera, Fundamentals of Heat and Mass Transfer, on transient conduction).
package heat

import "math"

// Usual values for food and for heat transfer; typical, for orientation.
const (
	Diffusivity  = 1.4e-7 // m²/s
	Conductivity = 0.5    // W/(m·K)

	Boiling   = 1500.0 // W/(m²·K): in boiling or simmering water
	Frying    = 400.0
	FanOven   = 30.0
	StillOven = 15.0
)

// Shape of a piece.
type Shape int

// The shapes; a Slab is heated from both sides.
const (
	Slab Shape = iota
	Cylinder
	Sphere
)

// Eigenvalue returns λ1 and A1 of the one-term solution for a Biot number
// over 0; infinity is a surface at the temperature of its surroundings.
func Eigenvalue(s Shape, biot float64) (lambda, a1 float64) {
	limit := map[Shape]float64{Slab: math.Pi / 2, Cylinder: 2.404825557695773, Sphere: math.Pi}[s]
	lambda = limit
	if !math.IsInf(biot, 1) {
		low, high := 1e-9, limit-1e-12
		for range 200 {
			lambda = (low + high) / 2
			if characteristic(s, lambda) < biot {
				low = lambda
			} else {
				high = lambda
			}
		}
	}
	return lambda, coefficient(s, lambda)
}

// characteristic is the left side of the equation for λ1, which grows with
// λ from 0 to infinity.
func characteristic(s Shape, l float64) float64 {
	switch s {
	case Slab:
		return l * math.Tan(l)
	case Cylinder:
		return l * math.J1(l) / math.J0(l)
	}
	return 1 - l/math.Tan(l)
}

// Seconds returns how long the centre of a piece of half thickness or radius
// half, in metres, takes from one temperature to another in surroundings of a
// third, with a heat transfer of h W/(m²·K). It is infinite where the
// surroundings are not hot enough, and 0 where the piece is there already.
func Seconds(s Shape, half, h, from, to, around float64) float64 {
	theta := (to - around) / (from - around)
	switch {
	case theta <= 0:
		return math.Inf(1)
	case theta >= 1:
		return 0
	}
	lambda, a1 := Eigenvalue(s, h*half/Conductivity)
	fo := math.Log(a1/theta) / (lambda * lambda)
	return max(0, fo) * half * half / Diffusivity
}

// TimesAsLong returns how many times as long a layer in a still oven takes to
// heat through when its half depth, in metres, changes from one to another:
// from 20 to 90 °C at 180 °C.
func TimesAsLong(from, to float64) float64 {
	return Seconds(Slab, to, StillOven, 20, 90, 180) / Seconds(Slab, from, StillOven, 20, 90, 180)
}
