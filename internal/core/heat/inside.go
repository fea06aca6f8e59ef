package heat

import "math"

// terms of the series are enough from the first seconds on for pieces of a
// centimetre or more.
const terms = 40

// Inside returns the temperature inside a piece after so many seconds in
// surroundings of a temperature, with a heat transfer of h W/(m²·K). Half is
// the half thickness or the radius in metres; depth is where, from 0 in the
// middle to 1 at the surface. It sums the series of which Eigenvalue gives the
// first term,
//
//	θ = Σ An·exp(−λn²·Fo)·f(λn·depth), f = cos, J0, sin(x)/x
//
// (Carslaw and Jaeger, Conduction of Heat in Solids, chapters III, VII, IX).
func Inside(s Shape, half, h, from, around, seconds, depth float64) float64 {
	if seconds <= 0 {
		return from
	}
	fo := Diffusivity * seconds / (half * half)
	theta := 0.0
	for _, l := range eigenvalues(s, h*half/Conductivity) {
		theta += coefficient(s, l) * math.Exp(-l*l*fo) * shape(s, l*depth)
	}
	return around + (from-around)*math.Min(1, math.Max(0, theta))
}

func coefficient(s Shape, l float64) float64 {
	switch s {
	case Slab:
		return 4 * math.Sin(l) / (2*l + math.Sin(2*l))
	case Cylinder:
		j0, j1 := math.J0(l), math.J1(l)
		return 2 / l * j1 / (j0*j0 + j1*j1)
	}
	return 4 * (math.Sin(l) - l*math.Cos(l)) / (2*l - math.Sin(2*l))
}

func shape(s Shape, x float64) float64 {
	switch {
	case s == Slab:
		return math.Cos(x)
	case s == Cylinder:
		return math.J0(x)
	case x == 0:
		return 1
	}
	return math.Sin(x) / x
}

// eigenvalues returns the first roots, found where a form of the equation
// without poles changes its sign.
func eigenvalues(s Shape, biot float64) []float64 {
	f := func(l float64) float64 {
		switch s {
		case Slab:
			return l*math.Sin(l) - biot*math.Cos(l)
		case Cylinder:
			return l*math.J1(l) - biot*math.J0(l)
		}
		return (1-biot)*math.Sin(l) - l*math.Cos(l)
	}
	var out []float64
	const step = 0.05
	for low := 1e-6; len(out) < terms; low += step {
		high := low + step
		if math.Signbit(f(low)) == math.Signbit(f(high)) {
			continue
		}
		a, b := low, high
		for range 50 {
			m := (a + b) / 2
			if math.Signbit(f(a)) == math.Signbit(f(m)) {
				a = m
			} else {
				b = m
			}
		}
		out = append(out, (a+b)/2)
	}
	return out
}
