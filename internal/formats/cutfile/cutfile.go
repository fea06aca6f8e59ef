// Package cutfile reads the files of foods with their cuts and of measured pieces, and
// writes what comes of them. docs/formats holds their JSON Schemas.
package cutfile

import (
	"fmt"
	"io"
	"math"

	"freshapron/internal/core/even"
	"freshapron/internal/core/exact"
	"freshapron/internal/core/knife"
	"freshapron/internal/core/problem"
	"freshapron/internal/formats/jsonout"
	"freshapron/internal/formats/tree"
)

// Names and version of the formats.
const (
	CutFormat    = "fresh-apron/cut"
	PiecesFormat = "fresh-apron/pieces"
	Version      = 1
)

// A Task is a food, its cuts, and what its pieces are to be like, in millimetres.
type Task struct {
	Food   knife.Solid
	Cuts   knife.Cuts
	Target even.Piece
}

type reader struct{ tree.Reader }

// open reads the head of a file; the object has no fields where there is none.
func open(from io.Reader, format, what string) (*reader, *tree.Object, error) {
	value, err := tree.Decode(from)
	if err != nil {
		return nil, nil, err
	}
	r := &reader{}
	root := r.Root(value).Object()
	if root.Fields != nil {
		root.Head(format, Version, what)
	}
	return r, root, nil
}

// ReadCut reads a food with its cuts. The error is a problem.List with the path of each
// thing that is wrong, unless the reader itself fails.
func ReadCut(from io.Reader) (Task, error) {
	r, root, err := open(from, CutFormat, "a food with its cuts")
	if err != nil {
		return Task{}, err
	}
	if root.Fields == nil {
		return Task{}, r.Problems
	}
	t := Task{Food: r.food(root.Field("food", true)), Target: r.piece(root.Field("target_mm", true))}
	planes := 0
	root.Field("cuts", false).Each(func(_ int, n tree.Node) {
		o := n.Object()
		axis := o.Choice("axis", "", []string{"x", "y", "z"})
		if o.Fields != nil && !o.Has("axis") {
			o.Add(o.Path+".axis", "is missing")
		}
		o.Field("at_mm", true).Each(func(_ int, n tree.Node) {
			v := r.number(n)
			if math.Abs(v) > 2*knife.MostSize {
				n.Add(n.Path, "is %g; a cut lies within %d mm", v, 2*knife.MostSize)
			}
			planes++
			if axis != "" {
				t.Cuts[axis[0]-'x'] = append(t.Cuts[axis[0]-'x'], v)
			}
		})
		o.Done()
	})
	if planes > knife.MostCuts {
		r.Add("cuts", "are %d planes; at most %d can be cut", planes, knife.MostCuts)
	}
	root.Done()
	return t, r.Problems.Err()
}

func (r *reader) food(n tree.Node) knife.Solid {
	o := n.Object()
	if o.Fields == nil {
		return knife.Solid{}
	}
	names := make([]string, len(knife.Shapes))
	for i, s := range knife.Shapes {
		names[i] = string(s)
	}
	s := knife.Solid{Shape: knife.Shape(o.Choice("shape", "", names))}
	found := len(r.Problems)
	if !o.Has("shape") {
		r.Add(n.Path+".shape", "is missing; it must be one of %v", names)
	}
	switch s.Shape {
	case knife.Cylinder:
		s.Size[0], s.Size[1] = r.number(o.Field("length_mm", true)), r.number(o.Field("diameter_mm", true))
	case knife.Frustum:
		s.Size[0] = r.number(o.Field("length_mm", true))
		d := r.list(o.Field("diameter_mm", true), 2)
		s.Size[1], s.End = d[0], d[1]
	case knife.Ellipsoid, knife.HalfEllipsoid:
		copy(s.Size[:], r.list(o.Field("axes_mm", true), 3))
	case knife.Box, knife.Shell:
		copy(s.Size[:], r.list(o.Field("size_mm", true), 3))
	default:
		return s // its other fields are known with the shape
	}
	if s.Shape == knife.Shell {
		s.Wall = r.number(o.Field("wall_mm", true))
	}
	if s.Shape == knife.HalfEllipsoid {
		s.Layers, s.Root = o.Count("layers", 0, false), o.Flag("root")
	}
	o.Done()
	if len(r.Problems) == found {
		for _, p := range problem.Of(s.Check()) {
			r.Add(n.Path+"."+p.Path, "%s", p.Says)
		}
	}
	return s
}

// number takes a node for a number; anything else is a problem.
func (r *reader) number(n tree.Node) float64 {
	if !n.Found {
		return 0
	}
	o := tree.Object{Node: tree.Node{Reader: &tree.Reader{}, Path: "$"}, Fields: map[string]any{"v": n.Value}}
	v := o.Number("v", exact.Number{}, true)
	for _, p := range o.Problems {
		n.Add(n.Path, "%s", p.Says)
	}
	return v.Float()
}

// list takes a node for a list of so many numbers.
func (r *reader) list(n tree.Node, want int) []float64 {
	out := make([]float64, want)
	count := 0
	before := len(r.Problems)
	n.Each(func(i int, n tree.Node) {
		if v := r.number(n); i < want {
			out[i] = v
		}
		count++
	})
	if n.Found && count != want && len(r.Problems) == before {
		n.Add(n.Path, "has %d numbers; it must have %d", count, want)
	}
	return out
}

func (r *reader) piece(n tree.Node) even.Piece {
	var p even.Piece
	before := len(r.Problems)
	copy(p[:], r.list(n, 3))
	if n.Found && len(r.Problems) == before {
		for i, v := range p {
			if !(v > 0 && v <= even.MostSide) {
				n.Add(fmt.Sprintf("%s[%d]", n.Path, i), "is %g; a side of a piece is above 0 and at most %d mm", v, even.MostSide)
			}
		}
	}
	return p
}

// Pieces are measured pieces, with what they were to be like and how they are heated.
type Pieces struct {
	Food   string
	Target even.Piece
	Pieces []even.Piece
	Cook   *even.Cook // nil where nothing is said of it
}

// ReadPieces reads measured pieces, as ReadCut does.
func ReadPieces(from io.Reader) (Pieces, error) {
	r, root, err := open(from, PiecesFormat, "a file of measured pieces")
	if err != nil {
		return Pieces{}, err
	}
	if root.Fields == nil {
		return Pieces{}, r.Problems
	}
	out := Pieces{Food: root.Text("food", false), Target: r.piece(root.Field("target_mm", true))}
	list := root.Field("pieces_mm", true)
	list.Each(func(_ int, n tree.Node) { out.Pieces = append(out.Pieces, r.piece(n)) })
	switch n := len(out.Pieces); {
	case list.Found && n == 0 && len(r.Problems) == 0:
		r.Add("pieces_mm", "has no piece in it; measure at least one")
	case n > even.MostPieces:
		r.Add("pieces_mm", "has %d pieces; at most %d are counted", n, even.MostPieces)
	}
	if root.Has("cook") {
		out.Cook = r.cook(root.Field("cook", false))
	}
	root.Done()
	return out, r.Problems.Err()
}

func (r *reader) cook(n tree.Node) *even.Cook {
	o := n.Object()
	if o.Fields == nil {
		return nil
	}
	found := len(r.Problems)
	c := &even.Cook{Start: r.number(o.Field("start_c", true)), Around: r.number(o.Field("around_c", true)), To: r.number(o.Field("to_c", true))}
	way := o.Field("way", true)
	switch v := way.Value.(type) {
	case string:
		known := false
		if c.H, known = even.Ways[v]; !known {
			r.Add(way.Path, `is %q; it must be "simmer", "fry", "fan-oven", "oven" or {"h": 1500}, in W/(m²·K)`, v)
		}
	case map[string]any:
		h := way.Object()
		c.H = r.number(h.Field("h", true))
		h.Done()
	default:
		if way.Found {
			r.Add(way.Path, `must be "simmer", "fry", "fan-oven", "oven" or {"h": 1500}, in W/(m²·K)`)
		}
	}
	o.Done()
	if len(r.Problems) > found {
		return c
	}
	for _, p := range problem.Of(c.Check()) {
		if p.Path == "h" {
			p.Path = "way.h"
		}
		r.Add(n.Path+"."+p.Path, "%s", p.Says)
	}
	return c
}

type number = jsonout.Rounded

type evenJSON struct {
	N            int        `json:"n"`
	Mean         number     `json:"mean_mm"`
	MeanInterval *[2]number `json:"mean_interval_mm"`
	SD           *number    `json:"sd_mm"`
	CV           *number    `json:"cv_percent"`
	CVInterval   *[2]number `json:"cv_interval_percent"`
	Off          offJSON    `json:"off_target"`
	Minutes      *timesJSON `json:"minutes,omitempty"`
	Ratio        *number    `json:"time_ratio,omitempty"`
	FirstAtLast  *number    `json:"first_c_at_last,omitempty"`
}

type offJSON struct {
	Share    number    `json:"share"`
	Interval [2]number `json:"interval"`
}

type timesJSON struct {
	First  number `json:"first"`
	Median number `json:"median"`
	Last   number `json:"last"`
}

func evenness(e even.Evenness) evenJSON {
	maybe := func(v float64) *number {
		if math.IsNaN(v) {
			return nil
		}
		n := number(v)
		return &n
	}
	both := func(i even.Interval) *[2]number {
		if math.IsNaN(i.Low) {
			return nil
		}
		return &[2]number{number(i.Low), number(i.High)}
	}
	return evenJSON{N: e.N, Mean: number(e.Mean), MeanInterval: both(e.MeanInterval), SD: maybe(e.SD), CV: maybe(e.CV), CVInterval: both(e.CVInterval),
		Off: offJSON{number(e.Off), *both(e.OffInterval)}}
}

type cutJSON struct {
	Pieces   []pieceJSON `json:"pieces"`
	Count    int         `json:"count"`
	Waste    number      `json:"waste_percent"`
	Evenness evenJSON    `json:"evenness"`
}

type pieceJSON struct {
	Volume number    `json:"volume_mm3"`
	Size   [3]number `json:"size_mm"`
}

// Do cuts.
func (t Task) Do() (knife.Result, error) { return t.Food.Result(t.Cuts, t.Target) }

// WriteCut writes what came of it as JSON.
func WriteCut(to io.Writer, c knife.Result) error {
	out := cutJSON{Pieces: []pieceJSON{}, Count: len(c.Pieces), Waste: number(100 * c.Waste), Evenness: evenness(c.Evenness)}
	for _, p := range c.Pieces {
		out.Pieces = append(out.Pieces, pieceJSON{number(p.Volume), [3]number{number(p.Size[0]), number(p.Size[1]), number(p.Size[2])}})
	}
	return jsonout.Write(to, out)
}

// Evenness returns how even the pieces are.
func (p Pieces) Evenness() even.Evenness {
	volumes := make([]float64, len(p.Pieces))
	for i, x := range p.Pieces {
		volumes[i] = x.Volume()
	}
	return even.Of(volumes, p.Target.Volume())
}

func (p Pieces) json() evenJSON {
	out := evenness(p.Evenness())
	if p.Cook != nil {
		t := p.Cook.Times(p.Pieces)
		ratio, first := number(t.Ratio), number(t.FirstAtLast)
		out.Minutes, out.Ratio, out.FirstAtLast = &timesJSON{number(t.First), number(t.Median), number(t.Last)}, &ratio, &first
	}
	return out
}

// WriteEven writes how even pieces are as JSON.
func WriteEven(to io.Writer, p Pieces) error { return jsonout.Write(to, p.json()) }
