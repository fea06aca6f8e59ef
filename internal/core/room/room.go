// Package room knows what stands in a food room and where: its floor, the
// walk with a hot tray, and what is counted and kept.
package room

import (
	"container/heap"
	"fmt"
	"maps"
	"math"
	"slices"
)

// Kind of what stands on the floor.
type Kind string

// The kinds.
const (
	Bench  Kind = "bench"
	Oven   Kind = "oven"
	Sink   Kind = "sink"
	Fridge Kind = "fridge"
	Store  Kind = "store"
	Desk   Kind = "desk"
	Door   Kind = "door"
)

// Kinds lists them.
var Kinds = []Kind{Bench, Oven, Sink, Fridge, Store, Desk, Door}

// An Item stands on the floor: its corner nearest the origin and its size, in
// centimetres.
type Item struct {
	ID         string // of an oven that of its unit, of a bench "bench-3"; stays through renaming
	Kind       Kind
	Name       string // "Bench 3", "Oven 1"
	X, Y, W, H int
}

// A Floor is a room seen from above, in centimetres.
type Floor struct {
	W, H  int
	Items []Item
}

// Limits of a floor, in centimetres.
const (
	LeastFloor = 200
	MostFloor  = 3000
	leastItem  = 20
)

// Check says what can't be, in sentences.
func (f Floor) Check() []string {
	var out []string
	for _, d := range []int{f.W, f.H} {
		if d < LeastFloor || d > MostFloor {
			out = append(out, fmt.Sprintf("A side of the room is %d cm; it must be %d to %d.", d, LeastFloor, MostFloor))
		}
	}
	for i, a := range f.Items {
		switch {
		case a.W < leastItem || a.H < leastItem:
			out = append(out, fmt.Sprintf("%s is %d × %d cm; each side must be at least %d.", a.Name, a.W, a.H, leastItem))
		case a.X < 0 || a.Y < 0 || a.X+a.W > f.W || a.Y+a.H > f.H:
			out = append(out, fmt.Sprintf("%s does not stand inside the room.", a.Name))
		}
		for _, b := range f.Items[i+1:] {
			if a.X < b.X+b.W && b.X < a.X+a.W && a.Y < b.Y+b.H && b.Y < a.Y+a.H {
				out = append(out, fmt.Sprintf("%s and %s stand on the same place.", a.Name, b.Name))
			}
		}
	}
	return out
}

// Find returns what has the id.
func (f Floor) Find(id string) (Item, bool) {
	i := slices.IndexFunc(f.Items, func(i Item) bool { return i.ID == id })
	if i < 0 {
		return Item{}, false
	}
	return f.Items[i], true
}

// A Point of the floor, in centimetres.
type Point struct{ X, Y int }

// cell is the side of the squares on which somebody walks, in centimetres.
const cell = 25

// Walk returns the shortest way between two things round everything else, and
// its length in metres. There is none where something is walled in; ok is
// then false. It is a search by estimate (A*) over squares of 25 cm that
// are free of furniture.
func (f Floor) Walk(from, to Item) (way []Point, metres float64, ok bool) {
	w, h := f.W/cell, f.H/cell
	if w < 1 || h < 1 {
		return nil, 0, false
	}
	blocked := make([]bool, w*h)
	for _, i := range f.Items {
		if i.Kind == Door {
			continue
		}
		for y := i.Y / cell; y*cell < i.Y+i.H && y < h; y++ {
			for x := i.X / cell; x*cell < i.X+i.W && x < w; x++ {
				if y >= 0 && x >= 0 {
					blocked[y*w+x] = true
				}
			}
		}
	}
	target := beside(to, w, h, blocked)
	cost, came := make([]float64, w*h), make([]int, w*h)
	for i := range cost {
		cost[i], came[i] = math.Inf(1), -1
	}
	var open frontier
	for _, at := range slices.Sorted(maps.Keys(beside(from, w, h, blocked))) {
		cost[at] = 0
		heap.Push(&open, reached{at, estimate(at%w, at/w, to)})
	}
	for open.Len() > 0 {
		r := heap.Pop(&open).(reached)
		if target[r.at] {
			return f.trace(r.at, w, came), cost[r.at] * cell / 100, true
		}
		x, y := r.at%w, r.at/w
		for dy := -1; dy <= 1; dy++ {
			for dx := -1; dx <= 1; dx++ {
				nx, ny := x+dx, y+dy
				if dx == 0 && dy == 0 || nx < 0 || ny < 0 || nx >= w || ny >= h || blocked[ny*w+nx] || blocked[y*w+nx] || blocked[ny*w+x] {
					continue
				}
				if c := cost[r.at] + math.Hypot(float64(dx), float64(dy)); c < cost[ny*w+nx]-1e-9 {
					cost[ny*w+nx], came[ny*w+nx] = c, r.at
					heap.Push(&open, reached{ny*w + nx, c + estimate(nx, ny, to)})
				}
			}
		}
	}
	return nil, 0, false
}

// beside returns the free squares that touch a thing.
func beside(i Item, w, h int, blocked []bool) map[int]bool {
	out := map[int]bool{}
	x0, y0, x1, y1 := i.X/cell, i.Y/cell, (i.X+i.W-1)/cell, (i.Y+i.H-1)/cell
	for y := y0 - 1; y <= y1+1; y++ {
		for x := x0 - 1; x <= x1+1; x++ {
			corner := (x < x0 || x > x1) && (y < y0 || y > y1)
			if x >= 0 && y >= 0 && x < w && y < h && !corner && !blocked[y*w+x] {
				out[y*w+x] = true
			}
		}
	}
	return out
}

// estimate is the way in squares to what touches a thing, as if nothing stood
// between.
func estimate(x, y int, to Item) float64 {
	off := func(at, least, most int) float64 { return float64(max(0, least-1-at, at-most-1)) }
	return math.Hypot(off(x, to.X/cell, (to.X+to.W-1)/cell), off(y, to.Y/cell, (to.Y+to.H-1)/cell))
}

func (f Floor) trace(at, w int, came []int) []Point {
	var out []Point
	for ; at >= 0; at = came[at] {
		out = append(out, Point{at%w*cell + cell/2, at/w*cell + cell/2})
	}
	slices.Reverse(out)
	// Points on a straight line say nothing.
	for i := len(out) - 2; i > 0; i-- {
		a, b, c := out[i-1], out[i], out[i+1]
		if (b.X-a.X)*(c.Y-b.Y) == (b.Y-a.Y)*(c.X-b.X) {
			out = slices.Delete(out, i, i+1)
		}
	}
	return out
}

type reached struct {
	at    int
	worth float64
}

type frontier []reached

func (f frontier) Len() int      { return len(f) }
func (f frontier) Swap(i, j int) { f[i], f[j] = f[j], f[i] }

// Less takes the first of squares that are worth the same, so that of equal ways
// it is always the same one.
func (f frontier) Less(i, j int) bool {
	return f[i].worth < f[j].worth || f[i].worth == f[j].worth && f[i].at < f[j].at
}

func (f *frontier) Push(x any) { *f = append(*f, x.(reached)) }
func (f *frontier) Pop() any {
	last := (*f)[len(*f)-1]
	*f = (*f)[:len(*f)-1]
	return last
}

// A Thing is counted and has its place.
type Thing struct {
	Name  string
	Count int
	Place string
}

// A Board is a cutting board by the school's own scheme.
type Board struct {
	Name  string // "red, striped edge"
	For   string
	Count int
}

// RawUse is what boards for raw meat and fish are for.
const RawUse = "raw meat and fish"

// Boards count those that are only for raw meat and fish.
func Boards(list []Board) int {
	n := 0
	for _, b := range list {
		if b.For == RawUse {
			n += b.Count
		}
	}
	return n
}

// Count adds things up.
func Count(list []Thing) int {
	n := 0
	for _, t := range list {
		n += t.Count
	}
	return n
}

// BenchID is the id of the bench with a number.
func BenchID(number int) string { return fmt.Sprintf("bench-%d", number) }

// A Named is something with an id and the name that it has now.
type Named struct{ ID, Name string }

// Usual lays a room out: benches in rows with ovens along the far wall, the
// sinks at the sides and the desk near the door.
func Usual(benches int, ovens []Named) Floor {
	const w, bench, depth = 1200, 180, 100
	f := Floor{W: w}
	perRow := max(1, min(4, benches))
	rows := (benches + perRow - 1) / perRow
	f.H = 330 + rows*(depth+110)
	for i, o := range ovens {
		f.Items = append(f.Items, Item{o.ID, Oven, o.Name, 150 + i*(900/max(1, len(ovens))), 0, 70, 60})
	}
	for i := range benches {
		f.Items = append(f.Items, Item{BenchID(i + 1), Bench, fmt.Sprintf("Bench %d", i+1), 130 + i%perRow*(940/perRow), 170 + i/perRow*(depth+110), bench, depth})
	}
	f.Items = append(f.Items,
		Item{"sink-1", Sink, "Sink 1", 0, f.H/2 - 60, 60, 120}, Item{"sink-2", Sink, "Sink 2", w - 60, f.H/2 - 60, 60, 120},
		Item{"fridge", Fridge, "Fridge", w - 95, 0, 95, 70}, Item{"desk", Desk, "Demonstration", w/2 - 100, f.H - 110, 200, 70}, Item{"door", Door, "Door", 20, f.H - 20, 100, 20})
	return f
}

// Fitted returns the floor with a bench for each of so many and each of the
// ovens under its name: what is new is put where there is room, what is gone is
// taken away. The zero Floor is laid out as is usual.
func (f Floor) Fitted(benches int, ovens []Named) Floor {
	usual := Usual(benches, ovens)
	if f.W == 0 {
		return usual
	}
	out := Floor{W: f.W, H: f.H}
	for _, i := range f.Items {
		now, there := usual.Find(i.ID)
		if i.Kind == Bench || i.Kind == Oven {
			if !there {
				continue
			}
			i.Name = now.Name
		}
		out.Items = append(out.Items, i)
	}
	for _, i := range usual.Items {
		if _, there := out.Find(i.ID); !there && (i.Kind == Bench || i.Kind == Oven) {
			out = out.placed(i)
		}
	}
	return out
}

// Kept tells which of a list of names each of a new list is: its place in the
// old one, or -1 for what is new. A name that is there still is the same thing.
// Between two that are, what was renamed is told by its place, where as many
// stand there as stood there before.
func Kept(was, is []string) []int {
	out := make([]int, len(is))
	for i := range out {
		out[i] = slices.Index(was, is[i])
	}
	// The anchors must keep their order for what is between them to have one.
	from, old := 0, 0
	for i := 0; i <= len(is); i++ {
		if i < len(is) && out[i] < old {
			continue
		}
		next := len(was)
		if i < len(is) {
			next = out[i]
		}
		if i-from == next-old {
			for k := from; k < i; k++ {
				if at := old + k - from; out[k] < 0 && !slices.Contains(is, was[at]) {
					out[k] = at
				}
			}
		}
		from, old = i+1, next+1
	}
	return out
}

// placed puts a thing where there is room, and makes the room longer where
// there is none.
func (f Floor) placed(i Item) Floor {
	for ; ; f.H += i.H + 4*cell {
		for y := cell; y+i.H <= f.H; y += cell {
			for x := cell; x+i.W <= f.W; x += cell {
				i.X, i.Y = x, y
				with := Floor{f.W, f.H, append(slices.Clone(f.Items), i)}
				if len(with.Check()) == 0 || f.H >= MostFloor {
					return with
				}
			}
		}
	}
}
