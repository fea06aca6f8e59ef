package knife

import (
	"cmp"
	"math"
	"slices"

	"freshapron/internal/core/even"
	"freshapron/internal/core/problem"
)

// Cuts are planes across each axis, by where they cross it, in millimetres.
type Cuts [3][]float64

// Cut returns the pieces of a solid, from its end at x = 0 on; planes that miss do
// nothing. It is a problem where there would be more than MostPieces.
func (s Solid) Cut(cuts Cuts) ([]Piece, error) {
	var at [3][]float64
	cells := 1
	for a := range 3 {
		at[a] = s.planes(a, cuts[a])
		cells *= len(at[a]) - 1
	}
	layers := max(1, s.Layers)
	if s.Shape != HalfEllipsoid {
		layers = 1
	}
	if cells*layers > MostPieces {
		return nil, problem.New("cuts", "would make more than %d pieces", MostPieces)
	}
	var out, held []Piece
	for i := 1; i < len(at[0]); i++ {
		for j := 1; j < len(at[1]); j++ {
			for k := 1; k < len(at[2]); k++ {
				c := cell{[3]float64{at[0][i-1], at[1][j-1], at[2][k-1]}, [3]float64{at[0][i], at[1][j], at[2][k]}}
				if list := s.pieces(c, layers); s.Root && c.lo[0] < s.Size[0]*rootShare {
					held = append(held, list...)
				} else {
					out = append(out, list...)
				}
			}
		}
	}
	root := together(len(held), func(int, int) bool { return true }, func(i int) Piece { return held[i] })
	return append(root, out...), nil
}

// rootShare is the part of the length that the root holds together, with all that
// reaches into it: the layers meet there.
const rootShare = 0.1

// planes returns the bounds of the solid along an axis with the cuts between, in order.
func (s Solid) planes(axis int, cuts []float64) []float64 {
	lo, hi := s.from(axis), s.to(axis)
	out := []float64{lo, hi}
	for _, c := range cuts {
		if c > lo && c < hi {
			out = append(out, c)
		}
	}
	slices.Sort(out)
	return slices.Compact(out)
}

func (s Solid) pieces(c cell, layers int) []Piece {
	switch {
	case s.Shape == Shell:
		return s.walls(c)
	case layers > 1:
		var out []Piece
		for n := range layers {
			out = append(out, s.layer(c, float64(n)/float64(layers), float64(n+1)/float64(layers))...)
		}
		return out
	}
	if p, ok := s.part(c); ok {
		return []Piece{p}
	}
	return nil
}

// walls are the pieces of a hollow box in a cell: of its four walls those that meet
// hold together.
func (s Solid) walls(c cell) []Piece {
	y, z, w := s.Size[1]/2, s.Size[2]/2, s.Wall
	frame := []cell{
		{[3]float64{0, -y, z - w}, [3]float64{s.Size[0], y, z}},         // above
		{[3]float64{0, -y, -z}, [3]float64{s.Size[0], y, w - z}},        // below
		{[3]float64{0, -y, w - z}, [3]float64{s.Size[0], w - y, z - w}}, // this side
		{[3]float64{0, y - w, w - z}, [3]float64{s.Size[0], y, z - w}},  // that side
	}
	var parts []cell
	for _, f := range frame {
		empty := false
		for a := range 3 {
			f.lo[a], f.hi[a] = max(f.lo[a], c.lo[a]), min(f.hi[a], c.hi[a])
			empty = empty || f.hi[a] <= f.lo[a]
		}
		if !empty {
			parts = append(parts, f)
		}
	}
	return together(len(parts), func(i, j int) bool {
		a, b := parts[i], parts[j]
		touch, share := 0, 0
		for _, x := range []int{1, 2} {
			switch lo, hi := max(a.lo[x], b.lo[x]), min(a.hi[x], b.hi[x]); {
			case hi > lo:
				share++
			case hi == lo:
				touch++
			}
		}
		return share == 1 && touch == 1
	}, func(i int) Piece {
		p := parts[i]
		return pieceOf(p.lo, p.hi, (p.hi[0]-p.lo[0])*(p.hi[1]-p.lo[1])*(p.hi[2]-p.lo[2]))
	})
}

// together joins what holds together, and adds it up.
func together(n int, meets func(i, j int) bool, of func(i int) Piece) []Piece {
	group := make([]int, n)
	for i := range group {
		group[i] = i
	}
	for i := range n {
		for j := range i {
			if from, to := group[i], group[j]; from != to && meets(i, j) {
				for k := range group {
					if group[k] == from {
						group[k] = to
					}
				}
			}
		}
	}
	var out []Piece
	place := map[int]int{}
	for i := range n {
		at, ok := place[group[i]]
		if !ok {
			place[group[i]] = len(out)
			out = append(out, of(i))
			continue
		}
		out[at] = out[at].with(of(i))
	}
	return out
}

func (p Piece) with(q Piece) Piece {
	out := Piece{Volume: p.Volume + q.Volume}
	for a := range 3 {
		out.From[a] = min(p.From[a], q.From[a])
		out.Size[a] = max(p.From[a]+p.Size[a], q.From[a]+q.Size[a]) - out.From[a]
	}
	return out
}

// fine is into how many columns a cell of a layer is divided along x and y.
const fine = 64

// layer are the pieces of one layer in a cell: what lies in an outer and not in an inner
// half-ellipsoid, given as shares of the whole. Column by column what is there is one
// interval of height; columns that stand side by side hold together where theirs
// overlap. The volume in all is exact, and shared by what the columns hold, which no piece exceeds.
func (s Solid) layer(c cell, inner, outer float64) []Piece {
	grown := func(share float64) Solid {
		return Solid{Shape: HalfEllipsoid, Size: [3]float64{s.Size[0] * share, s.Size[1] * share, s.Size[2] * share}}
	}
	moved := func(share float64) cell { // to where a smaller one begins at x = 0
		by := s.Size[0] * (1 - share) / 2
		m := c
		m.lo[0], m.hi[0] = c.lo[0]-by, c.hi[0]-by
		return m
	}
	whole, ok := grown(outer).part(moved(outer))
	if !ok {
		return nil
	}
	lo := whole.From
	lo[0] += s.Size[0] * (1 - outer) / 2
	core, ok := Piece{}, false
	if inner > 0 {
		core, ok = grown(inner).part(moved(inner))
	}
	if !ok { // nothing is hollow here
		whole.From = lo
		return []Piece{whole}
	}
	volume := whole.Volume - core.Volume
	if volume <= leastVolume {
		return nil
	}
	dx, dy := whole.Size[0]/fine, whole.Size[1]/fine
	column := func(i, j int) (from, to float64) {
		x, y := lo[0]+(float64(i)+0.5)*dx, lo[1]+(float64(j)+0.5)*dy
		from, to = max(c.lo[2], s.height(inner, x, y)), min(c.hi[2], s.height(outer, x, y))
		return from, to
	}
	type span struct{ from, to float64 }
	var columns [fine * fine]span
	for i := range fine {
		for j := range fine {
			f, t := column(i, j)
			columns[i*fine+j] = span{f, t}
		}
	}
	var out []Piece
	var held []float64
	seen := [fine * fine]bool{}
	for at, sp := range columns {
		if seen[at] || sp.to <= sp.from {
			continue
		}
		stack := []int{at}
		seen[at] = true
		var p Piece
		first, height := true, 0.0
		for len(stack) > 0 {
			n := stack[len(stack)-1]
			stack = stack[:len(stack)-1]
			i, j, here := n/fine, n%fine, columns[n]
			height += here.to - here.from
			q := pieceOf([3]float64{lo[0] + float64(i)*dx, lo[1] + float64(j)*dy, here.from}, [3]float64{lo[0] + float64(i+1)*dx, lo[1] + float64(j+1)*dy, here.to}, 0)
			if first {
				p, first = q, false
			} else {
				p = p.with(q)
			}
			for _, d := range [4][2]int{{1, 0}, {-1, 0}, {0, 1}, {0, -1}} {
				x, y := i+d[0], j+d[1]
				if x < 0 || y < 0 || x >= fine || y >= fine || seen[x*fine+y] {
					continue
				}
				if next := columns[x*fine+y]; min(next.to, here.to) > max(next.from, here.from) {
					seen[x*fine+y] = true
					stack = append(stack, x*fine+y)
				}
			}
		}
		out, held = append(out, p), append(held, height)
	}
	sum := 0.0
	for _, h := range held {
		sum += h
	}
	kept := out[:0]
	for i, p := range out {
		if held[i] >= crumb*sum {
			p.Volume = min(volume*held[i]/sum, p.Size[0]*p.Size[1]*p.Size[2]) // of a sliver the columns' extents fall short
			kept = append(kept, p)
		}
	}
	return kept
}

// crumb is the share of a layer in a cell under which what the columns hold apart is
// their own coarseness.
const crumb = 1e-3

// height is how high the surface of the half-ellipsoid of a share lies over a place; 0
// beside it.
func (s Solid) height(share, x, y float64) float64 {
	if share <= 0 {
		return 0
	}
	u, v := (x-s.Size[0]/2)/(s.Size[0]/2*share), y/(s.Size[1]/2*share)
	return s.Size[2] / 2 * share * math.Sqrt(max(0, 1-u*u-v*v))
}

// A Result is what cutting comes to, beside what the pieces were to be.
type Result struct {
	Pieces   []Piece
	Waste    float64 // share; see Waste
	Evenness even.Evenness
}

// Result cuts, and says what it comes to beside pieces of a target.
func (s Solid) Result(cuts Cuts, target even.Piece) (Result, error) {
	list, err := s.Cut(cuts)
	if err != nil {
		return Result{}, err
	}
	return Result{list, Waste(list, target.Volume()), even.Of(volumes(list), target.Volume())}, nil
}

func volumes(list []Piece) []float64 {
	out := make([]float64, len(list))
	for i, p := range list {
		out[i] = p.Volume
	}
	return out
}

// Waste is the share of the food that lies in pieces of under half the target's volume,
// from 0 to 1.
func Waste(pieces []Piece, target float64) float64 {
	waste, all := 0.0, 0.0
	for _, p := range pieces {
		if all += p.Volume; p.Volume < target/2 {
			waste += p.Volume
		}
	}
	if all == 0 {
		return 0
	}
	return waste / all
}

// Largest sorts pieces by volume, the largest first.
func Largest(pieces []Piece) {
	slices.SortStableFunc(pieces, func(a, b Piece) int { return cmp.Compare(b.Volume, a.Volume) })
}
