// Package even says how even cut pieces are, how sure that is from so few, and what
// it does to cooking: when the centre of each piece is hot enough.
package even

import (
	"cmp"
	"math"
	"slices"

	"gonum.org/v1/gonum/stat"
	"gonum.org/v1/gonum/stat/distuv"

	"freshapron/internal/core/heat"
)

// A Piece is what was cut, by its three extents in millimetres, over 0.
type Piece [3]float64

// Volume in cubic millimetres, of the brick of its extents.
func (p Piece) Volume() float64 { return p[0] * p[1] * p[2] }

// Size is the edge of the cube of the same volume, in millimetres.
func Size(volume float64) float64 { return math.Cbrt(volume) }

// An Interval holds the true figure in 95 of 100 such samples.
type Interval struct{ Low, High float64 }

// Evenness of pieces by their Size. What a single piece says nothing of is NaN.
type Evenness struct {
	N            int
	Mean, SD     float64 // mm
	MeanInterval Interval
	CV           float64 // spread over mean, per cent
	CVInterval   Interval
	Off          float64 // share of the pieces that are off the target
	OffInterval  Interval
}

const (
	sure = 0.95
	// offTarget is by what share of the target's Size a piece may differ.
	offTarget = 0.20
)

// Of returns how even pieces of these volumes are, in cubic millimetres, beside a
// target. The interval of the mean is Student's, that of the spread is by chi-square,
// and that of the share is Wilson's (Wilson 1927): all hold for few pieces.
func Of(volumes []float64, target float64) Evenness {
	sizes := make([]float64, len(volumes))
	off := 0
	for i, v := range volumes {
		sizes[i] = Size(v)
		if math.Abs(sizes[i]-Size(target)) > offTarget*Size(target)*(1+1e-12) {
			off++
		}
	}
	nan := Interval{math.NaN(), math.NaN()}
	n := float64(len(sizes))
	e := Evenness{N: len(sizes), Mean: stat.Mean(sizes, nil), SD: math.NaN(), CV: math.NaN(), MeanInterval: nan, CVInterval: nan}
	e.Off, e.OffInterval = float64(off)/n, wilson(float64(off), n)
	if e.N < 2 {
		return e
	}
	e.SD = stat.StdDev(sizes, nil)
	e.CV = 100 * e.SD / e.Mean
	half := distuv.StudentsT{Sigma: 1, Nu: n - 1}.Quantile(1-(1-sure)/2) * e.SD / math.Sqrt(n)
	e.MeanInterval = Interval{e.Mean - half, e.Mean + half}
	chi := distuv.ChiSquared{K: n - 1}
	spread := func(p float64) float64 { return e.CV * math.Sqrt((n-1)/chi.Quantile(p)) }
	e.CVInterval = Interval{spread(1 - (1-sure)/2), spread((1 - sure) / 2)}
	return e
}

func wilson(hits, n float64) Interval {
	z := distuv.UnitNormal.Quantile(1 - (1-sure)/2)
	p := hits / n
	middle := (p + z*z/(2*n)) / (1 + z*z/n)
	half := z / (1 + z*z/n) * math.Sqrt(p*(1-p)/n+z*z/(4*n*n))
	return Interval{max(0, middle-half), min(1, middle+half)}
}

// A Cook is how pieces are heated: in surroundings of a temperature, with a heat
// transfer of H W/(m²·K), until their centres have come to one. To lies between Start
// and Around.
type Cook struct {
	H                 float64
	Start, Around, To float64 // °C
}

// Ways are the usual ways of heating, by their heat transfer in W/(m²·K); typical.
var Ways = map[string]float64{"simmer": heat.Boiling, "fry": heat.Frying, "fan-oven": heat.FanOven, "oven": heat.StillOven}

// Times are when pieces are done: their centres have come to the temperature.
type Times struct {
	First, Median, Last float64 // minutes
	Ratio               float64 // last over first
	FirstAtLast         float64 // °C that the first has come to when the last is done; a wet middle stays under 100
}

// Minutes returns how long the centre of a piece takes.
func (c Cook) Minutes(p Piece) float64 { return c.brick(p).Seconds(c.H, c.Start, c.To, c.Around) / 60 }

func (c Cook) brick(p Piece) heat.Brick {
	return heat.Brick{p[0] / 2000, p[1] / 2000, p[2] / 2000}
}

// Times returns when the pieces are done. There is at least one.
func (c Cook) Times(pieces []Piece) Times {
	type done struct {
		minutes float64
		piece   Piece
	}
	list := make([]done, len(pieces))
	for i, p := range pieces {
		list[i] = done{c.Minutes(p), p}
	}
	slices.SortStableFunc(list, func(a, b done) int { return cmp.Compare(a.minutes, b.minutes) })
	n := len(list)
	t := Times{First: list[0].minutes, Last: list[n-1].minutes, Median: (list[(n-1)/2].minutes + list[n/2].minutes) / 2}
	t.Ratio = t.Last / t.First
	b := c.brick(list[0].piece)
	t.FirstAtLast = heat.InsideBrick(b, [3]float64{}, c.H, c.Start, c.Around, t.Last*60)
	if c.Start < 100 && c.To <= 100 {
		t.FirstAtLast = heat.Wet(t.FirstAtLast)
	}
	return t
}
