package even

import (
	"math"
	"slices"

	"gonum.org/v1/gonum/mat"
)

// A surface is how a colour of the ground changes over the picture: it is lit from
// somewhere.
type surface [6]float64

func terms(x, y float64) [6]float64 { return [6]float64{1, x, y, x * x, x * y, y * y} }

func (s surface) at(x, y float64) float64 {
	t := terms(x, y)
	sum := 0.0
	for i, c := range s {
		sum += c * t[i]
	}
	return sum
}

const (
	rounds      = 5
	nearGround  = 45  // of 255, that a colour may be off the commonest at first
	leastSpread = 1.5 // of the ground's own grain
	beyond      = 6.0 // times the grain is no ground
	leastFar    = 15.0
	// groundSamples is of how many pixels the ground is taken.
	groundSamples = 20_000
	// A shadow is the ground with less light: so much of it at least.
	deepestShadow, brightest = 0.45, 1.06
)

// takeGround fits the ground and marks what is none of it, and not the strip.
func (p *picture) takeGround(strip line, mm float64) {
	under := p.underStrip(strip, mm)
	step := max(1, int(math.Sqrt(float64(p.w*p.h)/groundSamples)))
	type sample struct {
		x, y float64
		c    colour
	}
	var all []sample
	for y := 0; y < p.h; y += step {
		for x := 0; x < p.w; x += step {
			if !under(float64(x), float64(y)) {
				all = append(all, sample{float64(x) / float64(p.w), float64(y) / float64(p.h), p.px[y*p.w+x]})
			}
		}
	}
	const bins = 16
	var count [bins * bins * bins]int
	bin := func(c colour) int {
		return (int(c[0])*bins/256*bins+int(c[1])*bins/256)*bins + int(c[2])*bins/256
	}
	most := 0
	for _, s := range all {
		b := bin(s.c)
		if count[b]++; count[b] > count[most] {
			most = b
		}
	}
	var commonest [3]float64
	n := 0.0
	for _, s := range all {
		if bin(s.c) == most {
			n++
			for c := range 3 {
				commonest[c] += float64(s.c[c])
			}
		}
	}
	var ground [3]surface
	for c := range 3 {
		ground[c][0] = commonest[c] / max(1, n)
	}
	reach := float64(nearGround)
	for range rounds {
		var rows [][6]float64
		var values [3][]float64
		var rest []float64
		for _, s := range all {
			off := 0.0
			for c := range 3 {
				off = max(off, math.Abs(float64(s.c[c])-ground[c].at(s.x, s.y)))
			}
			if off > reach {
				continue
			}
			rest = append(rest, off)
			rows = append(rows, terms(s.x, s.y))
			for c := range 3 {
				values[c] = append(values[c], float64(s.c[c]))
			}
		}
		if len(rows) < 100 {
			break
		}
		for c := range 3 {
			if fitted, ok := fitSurface(rows, values[c]); ok {
				ground[c] = fitted
			}
		}
		reach = max(12, 4*median(rest))
	}
	p.farFrom(ground, under)
}

func fitSurface(rows [][6]float64, values []float64) (surface, bool) {
	a := mat.NewDense(len(rows), 6, nil)
	for i, r := range rows {
		a.SetRow(i, r[:])
	}
	var x mat.VecDense
	var normal mat.SymDense
	normal.SymOuterK(1, a.T())
	var right mat.VecDense
	right.MulVec(a.T(), mat.NewVecDense(len(values), values))
	var chol mat.Cholesky
	if !chol.Factorize(&normal) || chol.SolveVecTo(&x, &right) != nil {
		return surface{}, false
	}
	var s surface
	for i := range s {
		s[i] = x.AtVec(i)
	}
	return s, true
}

// farFrom measures how far each pixel is from the ground in colour, shadows left out,
// and marks what is none of it.
func (p *picture) farFrom(ground [3]surface, under func(x, y float64) bool) {
	rest := make([]colour, len(p.px)) // from the ground
	for y := range p.h {
		for x := range p.w {
			i := y*p.w + x
			if under(float64(x), float64(y)) {
				continue
			}
			var g colour
			for c := range 3 {
				g[c] = float32(ground[c].at(float64(x)/float64(p.w), float64(y)/float64(p.h)))
			}
			v := p.px[i]
			lit := (v[0]*g[0] + v[1]*g[1] + v[2]*g[2]) / max(1, g[0]*g[0]+g[1]*g[1]+g[2]*g[2])
			if lit < deepestShadow || lit > brightest {
				lit = min(max(lit, deepestShadow), brightest)
			}
			for c := range 3 {
				rest[i][c] = v[c] - lit*g[c]
			}
		}
	}
	p.far = make([]float32, len(p.px))
	for y := range p.h { // of three by three pixels: grain is not far in all of them
		for x := range p.w {
			var sum colour
			n := float32(0)
			for v := max(0, y-1); v <= min(p.h-1, y+1); v++ {
				for u := max(0, x-1); u <= min(p.w-1, x+1); u++ {
					weight := float32(1)
					if u == x && v == y {
						weight = 2
					}
					for c := range 3 {
						sum[c] += weight * rest[v*p.w+u][c]
					}
					n += weight
				}
			}
			p.far[y*p.w+x] = float32(math.Sqrt(float64(sum[0]*sum[0]+sum[1]*sum[1]+sum[2]*sum[2]))) / n
		}
	}
	var grain []float64
	for i := 0; i < len(p.far); i += 7 {
		grain = append(grain, float64(p.far[i]))
	}
	limit := float32(max(leastFar, beyond*max(leastSpread, quantile(grain, 0.3))))
	p.mask = make([]bool, len(p.far))
	for i, d := range p.far {
		p.mask[i] = d > limit
	}
}

// underStrip tells what lies under the reference strip, and just beside it.
func (p *picture) underStrip(l line, mm float64) func(x, y float64) bool {
	const beside = 2.0 // millimetres
	ux, uy := (l.x1-l.x0)/l.length, (l.y1-l.y0)/l.length
	cx, cy := (l.x0+l.x1)/2, (l.y0+l.y1)/2
	long, wide := l.length/2+(StripOver/2+beside)/mm, (StripWide/2+beside)/mm
	return func(x, y float64) bool {
		dx, dy := x-cx, y-cy
		return math.Abs(dx*ux+dy*uy) < long && math.Abs(dy*ux-dx*uy) < wide
	}
}

func median(list []float64) float64 { return quantile(list, 0.5) }

func quantile(list []float64, share float64) float64 {
	if len(list) == 0 {
		return 0
	}
	sorted := slices.Clone(list)
	slices.Sort(sorted)
	return sorted[int(share*float64(len(sorted)-1))]
}
