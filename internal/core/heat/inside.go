package heat

import (
	"math"
	"slices"
)

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
	return around + (from-around)*theta(s, half, h, seconds, depth)
}

// theta is the share of the difference that is left, from 1 to 0.
func theta(s Shape, half, h, seconds, depth float64) float64 {
	fo := Diffusivity * seconds / (half * half)
	sum := 0.0
	for _, l := range eigenvalues(s, h*half/Conductivity) {
		sum += coefficient(s, l) * math.Exp(-l*l*fo) * shape(s, l*depth)
	}
	return math.Min(1, math.Max(0, sum))
}

// InsideBrick is Inside for a piece with three pairs of sides, each given by
// its half thickness in metres and by where in it, from 0 in the middle to 1 at
// the surface: the product of three slabs.
func InsideBrick(halves, depths [3]float64, h, from, around, seconds float64) float64 {
	if seconds <= 0 {
		return from
	}
	left := 1.0
	for i, half := range halves {
		left *= theta(Slab, half, h, seconds, depths[i])
	}
	return around + (from-around)*left
}

// A Brick is a piece with three pairs of sides, by its half thicknesses in metres.
type Brick [3]float64

// Seconds returns how long the centre of a brick takes from one temperature to another
// in surroundings of a third, with a heat transfer of h W/(m²·K), to a ten-thousandth.
// It is infinite where the surroundings never bring it there, and 0 where it is there
// already.
func (b Brick) Seconds(h, from, to, around float64) float64 {
	wanted := (to - around) / (from - around)
	switch {
	case wanted <= 0:
		return math.Inf(1)
	case wanted >= 1:
		return 0
	}
	var series [3]series
	for i, half := range b {
		series[i] = newSeries(half, h)
	}
	left := func(seconds float64) float64 {
		out := 1.0
		for _, s := range series {
			out *= s.left(seconds)
		}
		return out
	}
	high := 1.0
	for left(high) > wanted {
		high *= 2
	}
	low := 0.0
	for high-low > 1e-4*high {
		if m := (low + high) / 2; left(m) > wanted {
			low = m
		} else {
			high = m
		}
	}
	return (low + high) / 2
}

// A series is the heat equation's for the middle of a slab.
type series struct {
	half float64
	root []float64 // λ²
	coef []float64
}

func newSeries(half, h float64) series {
	s := series{half: half}
	for _, l := range eigenvalues(Slab, h*half/Conductivity) {
		s.root, s.coef = append(s.root, l*l), append(s.coef, coefficient(Slab, l))
	}
	return s
}

// left is the share of the difference that is left after a time, from 1 to 0.
func (s series) left(seconds float64) float64 {
	fo := Diffusivity * seconds / (s.half * s.half)
	sum := 0.0
	for i, l2 := range s.root {
		sum += s.coef[i] * math.Exp(-l2*fo)
	}
	return math.Min(1, math.Max(0, sum))
}

// panCells is into how many layers a piece on a pan is cut.
const panCells = 24

// OnPan is Inside for a slab of a thickness, in metres, on a pan: it heats from
// below alone and loses nothing above. Up is where in it, from 0 on the pan to
// 1 on top, as it was laid; turned says that it lies on its other side for the
// second half of the time. The heat equation is stepped through layer by layer.
func OnPan(thick, h, from, around, seconds, up float64, turned bool) float64 {
	layer := thick / panCells
	step := 0.4 * layer * layer / Diffusivity
	steps := int(math.Ceil(seconds / step))
	if steps <= 0 {
		return from
	}
	fo := Diffusivity * (seconds / float64(steps)) / (layer * layer)
	// From the pan to the middle of the lowest layer.
	in := fo / (Conductivity/(h*layer) + 0.5)
	now, next := make([]float64, panCells), make([]float64, panCells)
	for i := range now {
		now[i] = from
	}
	flipped := false
	for k := range steps {
		if turned && !flipped && 2*k >= steps {
			slices.Reverse(now)
			flipped = true
		}
		for i := range now {
			flow := 0.0
			if i == 0 {
				flow += in * (around - now[0])
			} else {
				flow += fo * (now[i-1] - now[i])
			}
			if i+1 < panCells {
				flow += fo * (now[i+1] - now[i])
			}
			next[i] = now[i] + flow
		}
		now, next = next, now
	}
	if flipped {
		slices.Reverse(now)
	}
	at := up*panCells - 0.5
	low := min(max(int(math.Floor(at)), 0), panCells-1)
	high := min(low+1, panCells-1)
	share := min(max(at-float64(low), 0), 1)
	return now[low] + share*(now[high]-now[low])
}

// Wet returns what a probe shows in a middle that is still wet: not more than
// water boils at.
func Wet(celsius float64) float64 { return math.Min(celsius, 100) }

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
