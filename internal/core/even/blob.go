package even

import (
	"cmp"
	"container/heap"
	"math"
	"slices"
)

const (
	leastPiece = 2.0  // millimetres across
	pinched    = 0.72 // of the narrower of two bodies: what is thinner between them is where they touch
	plain      = 0.86 // of its hull that a piece fills
	halfFar    = 0.5  // of the way from ground to piece lies its edge
)

// blobs are the pieces: what is no ground and large enough, where it is pinched taken
// for two.
func (p *picture) blobs(mm float64) []blob {
	fillHoles(p.mask, p.w, p.h)
	var out []blob
	for _, b := range components(p.mask, p.w, p.h) {
		if float64(len(b.at))*mm*mm < leastPiece*leastPiece {
			continue
		}
		out = append(out, p.split(b, mm)...)
	}
	slices.SortStableFunc(out, func(a, b blob) int { return cmp.Or(cmp.Compare(a.y0, b.y0), cmp.Compare(a.x0, b.x0)) })
	return out
}

// fillHoles fills what is enclosed, such as a glint.
func fillHoles(mask []bool, w, h int) {
	outside := make([]bool, len(mask))
	for i, in := range mask {
		outside[i] = !in
	}
	for _, b := range components(outside, w, h) {
		if b.x0 > 0 && b.y0 > 0 && b.x1 < w-1 && b.y1 < h-1 {
			for _, at := range b.at {
				mask[at] = true
			}
		}
	}
}

// depths are how far inside the pixels of a blob lie, in pixels; two passes over the
// neighbours, with the steps of a chamfer of 5, 7 and 11 (Borgefors 1986).
func depths(b blob, w int) (depth []float32, bw, bh int) {
	bw, bh = b.x1-b.x0+3, b.y1-b.y0+3
	depth = make([]float32, bw*bh)
	const far = 1e9
	for _, n := range b.at {
		depth[(n/w-b.y0+1)*bw+n%w-b.x0+1] = far
	}
	type step struct {
		dx, dy int
		cost   float32
	}
	steps := []step{{-1, 0, 1}, {0, -1, 1}, {-1, -1, 1.4}, {1, -1, 1.4}, {-2, -1, 2.2}, {2, -1, 2.2}, {-1, -2, 2.2}, {1, -2, 2.2}}
	relax := func(x, y, sign int) {
		i := y*bw + x
		if depth[i] == 0 {
			return
		}
		for _, s := range steps {
			u, v := x+sign*s.dx, y+sign*s.dy
			d := float32(0)
			if u >= 0 && v >= 0 && u < bw && v < bh {
				d = depth[v*bw+u]
			}
			depth[i] = min(depth[i], d+s.cost)
		}
	}
	for y := range bh {
		for x := range bw {
			relax(x, y, 1)
		}
	}
	for y := bh - 1; y >= 0; y-- {
		for x := bw - 1; x >= 0; x-- {
			relax(x, y, -1)
		}
	}
	return depth, bw, bh
}

type spot struct {
	at    int
	depth float32
}

type deepest []spot

func (d deepest) Len() int           { return len(d) }
func (d deepest) Less(i, j int) bool { return d[i].depth > d[j].depth }
func (d deepest) Swap(i, j int)      { d[i], d[j] = d[j], d[i] }
func (d *deepest) Push(x any)        { *d = append(*d, x.(spot)) }
func (d *deepest) Pop() any {
	old := *d
	x := old[len(old)-1]
	*d = old[:len(old)-1]
	return x
}

// split parts a blob where it is pinched: bodies grow from its deepest places down, and
// two that meet stay two where what is between them is thin beside both.
func (p *picture) split(b blob, mm float64) []blob {
	depth, bw, bh := depths(b, p.w)
	var queue deepest
	for i, d := range depth {
		if d > 0 {
			queue = append(queue, spot{i, d})
		}
	}
	heap.Init(&queue)
	body := make([]int, len(depth)) // 0 is none
	peak := []float32{0}
	owner := []int{0}
	find := func(i int) int {
		for owner[i] != i {
			owner[i] = owner[owner[i]]
			i = owner[i]
		}
		return i
	}
	for queue.Len() > 0 {
		s := heap.Pop(&queue).(spot)
		x, y := s.at%bw, s.at/bw
		mine := 0
		for v := max(0, y-1); v <= min(bh-1, y+1); v++ {
			for u := max(0, x-1); u <= min(bw-1, x+1); u++ {
				other := body[v*bw+u]
				if other == 0 {
					continue
				}
				other = find(other)
				switch {
				case mine == 0:
					mine = other
				case mine != other:
					small, large := other, mine
					if peak[small] > peak[large] {
						small, large = large, small
					}
					if s.depth >= pinched*peak[small] || float64(peak[small])*mm < leastPiece/2 {
						owner[small] = large
						mine = large
					}
				}
			}
		}
		if mine == 0 {
			mine = len(peak)
			peak, owner = append(peak, s.depth), append(owner, mine)
		}
		body[s.at] = mine
	}
	parts := map[int]*blob{}
	var order []int
	for _, n := range b.at {
		root := find(body[(n/p.w-b.y0+1)*bw+n%p.w-b.x0+1])
		part, ok := parts[root]
		if !ok {
			part = &blob{x0: p.w, y0: p.h, x1: -1, y1: -1}
			parts[root] = part
			order = append(order, root)
		}
		part.add(n, p.w)
	}
	var out []blob
	for _, root := range order {
		part := *parts[root]
		part.split = len(order) > 1
		if float64(len(part.at))*mm*mm >= leastPiece*leastPiece {
			out = append(out, part)
		}
	}
	return out
}

type point struct{ x, y float64 }

// measure fits the smallest rectangle round a piece, whose pixels have its own label.
func (p *picture) measure(b blob, own int32, mm float64) (Found, bool) {
	inside := make([]float64, 0, len(b.at))
	for _, n := range b.at {
		inside = append(inside, float64(p.far[n]))
	}
	edge := float32(halfFar * quantile(inside, 0.7))
	var points []point
	for _, n := range b.at {
		if p.far[n] < edge {
			continue
		}
		x, y := n%p.w, n/p.w
		for _, d := range [4][2]int{{1, 0}, {-1, 0}, {0, 1}, {0, -1}} {
			u, v := x+d[0], y+d[1]
			share := 0.5 // at the edge of the picture, and where it meets another piece
			if u >= 0 && v >= 0 && u < p.w && v < p.h {
				m := v*p.w + u
				if p.far[m] >= edge && p.label[m] == own {
					continue
				}
				if p.far[m] < edge {
					share = float64((p.far[n] - edge) / (p.far[n] - p.far[m]))
				}
			}
			points = append(points, point{float64(x) + 0.5 + share*float64(d[0]), float64(y) + 0.5 + share*float64(d[1])})
		}
	}
	h := hull(points)
	if len(h) < 3 {
		return Found{}, false
	}
	r := smallest(h)
	if min(r.long, r.wide)*mm < leastPiece {
		return Found{}, false
	}
	f := Found{Size: [2]float64{r.long * mm, r.wide * mm}, Centre: [2]float64{r.centre.x * p.by, r.centre.y * p.by}, Angle: r.angle}
	f.Doubtful = b.split || b.x0 <= 0 || b.y0 <= 0 || b.x1 >= p.w-1 || b.y1 >= p.h-1 || float64(len(inside)) < plain*area(h)
	return f, true
}

// hull is the convex hull of points, by Andrew's monotone chain.
func hull(points []point) []point {
	slices.SortFunc(points, func(a, b point) int { return cmp.Or(cmp.Compare(a.x, b.x), cmp.Compare(a.y, b.y)) })
	cross := func(o, a, b point) float64 { return (a.x-o.x)*(b.y-o.y) - (a.y-o.y)*(b.x-o.x) }
	var out []point
	for range 2 {
		base := len(out)
		for _, q := range points {
			for len(out) >= base+2 && cross(out[len(out)-2], out[len(out)-1], q) <= 0 {
				out = out[:len(out)-1]
			}
			out = append(out, q)
		}
		if len(out) > 0 {
			out = out[:len(out)-1]
		}
		slices.Reverse(points)
	}
	return out
}

func area(h []point) float64 {
	sum := 0.0
	for i, a := range h {
		b := h[(i+1)%len(h)]
		sum += a.x*b.y - a.y*b.x
	}
	return math.Abs(sum) / 2
}

type rectangle struct {
	long, wide, angle float64
	centre            point
}

// smallest is the rectangle of the smallest area round a hull: one of its sides lies
// along one of the hull's (Freeman and Shapira 1975).
func smallest(h []point) rectangle {
	best, least := rectangle{}, math.Inf(1)
	for i, a := range h {
		b := h[(i+1)%len(h)]
		l := math.Hypot(b.x-a.x, b.y-a.y)
		if l == 0 {
			continue
		}
		ux, uy := (b.x-a.x)/l, (b.y-a.y)/l
		u0, u1, v0, v1 := math.Inf(1), math.Inf(-1), math.Inf(1), math.Inf(-1)
		for _, q := range h {
			u, v := q.x*ux+q.y*uy, q.y*ux-q.x*uy
			u0, u1, v0, v1 = min(u0, u), max(u1, u), min(v0, v), max(v1, v)
		}
		if s := (u1 - u0) * (v1 - v0); s < least {
			least = s
			u, v := (u0+u1)/2, (v0+v1)/2
			best = rectangle{u1 - u0, v1 - v0, math.Atan2(uy, ux) * 180 / math.Pi, point{u*ux - v*uy, u*uy + v*ux}}
		}
	}
	if best.wide > best.long {
		best.long, best.wide, best.angle = best.wide, best.long, best.angle+90
	}
	best.angle = math.Mod(math.Mod(best.angle, 180)+180, 180)
	return best
}
