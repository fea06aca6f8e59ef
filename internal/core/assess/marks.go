// Package assess is what people judge by: marks by criterion, totals that are exact,
// grades, and how far two who mark agree. It counts and compares; people judge.
package assess

import (
	"cmp"
	"fmt"
	"maps"
	"math"
	"slices"

	"freshapron/internal/core/exact"
	"freshapron/internal/core/problem"
)

// A Criterion is what is marked.
type Criterion struct {
	ID           string
	Most, Weight exact.Number // both over 0
	Name         string       // for people; may be empty, as what follows
	Method       Method
	Levels       []string // in words, as people write them: "4-6 with a prompt"
}

// A Rounding of totals.
type Rounding string

// The roundings.
const (
	HalfUp   Rounding = "half-up"
	HalfEven Rounding = "half-even"
	Down     Rounding = "down"
	Up       Rounding = "up"
)

// Roundings lists them.
var Roundings = []Rounding{HalfUp, HalfEven, Down, Up}

// A Scheme says how marks become a total and a grade.
type Scheme struct {
	Criteria   []Criterion
	OutOf      exact.Number
	Round      Rounding
	Places     int
	Boundaries []Boundary // the highest first
	Tolerance  exact.Number
}

// A Boundary is from which rounded total on there is a grade.
type Boundary struct {
	Grade string
	From  exact.Number
}

// Marks are those of one marker for one learner, by criterion.
type Marks map[string]exact.Number

// A Result is what comes of marks.
type Result struct {
	Total   *exact.Number // nil where a criterion is missing
	Rounded exact.Number
	Grade   string   // empty below the lowest boundary
	Missing []string // criteria without a mark
}

// Check returns what of a scheme can't be, with its path.
func (s Scheme) Check() error {
	var out problem.List
	if len(s.Criteria) == 0 {
		out.Add("criteria", "are none; there must be at least one")
	}
	for i, c := range s.Criteria {
		path := fmt.Sprintf("criteria[%d]", i)
		if c.ID == "" || slices.ContainsFunc(s.Criteria[:i], func(o Criterion) bool { return o.ID == c.ID }) {
			out.Add(path+".id", "“%s” is there twice, or empty", c.ID)
		}
		if c.Most.Sign() <= 0 {
			out.Add(path+".most", "is %s; it must be above 0", c.Most.Decimal(4))
		}
		if c.Weight.Sign() <= 0 {
			out.Add(path+".weight", "is %s; it must be above 0", c.Weight.Decimal(4))
		}
	}
	if s.OutOf.Sign() <= 0 {
		out.Add("scale.out_of", "is %s; it must be above 0", s.OutOf.Decimal(4))
	}
	const mostPlaces = 6
	if s.Places < 0 || s.Places > mostPlaces {
		out.Add("scale.places", "is %d; it must be from 0 to %d", s.Places, mostPlaces)
	}
	if s.Tolerance.Sign() < 0 {
		out.Add("tolerance", "is %s; it must not be under 0", s.Tolerance.Decimal(4))
	}
	for i, b := range s.Boundaries {
		path := fmt.Sprintf("boundaries[%d]", i)
		if b.From.Sign() < 0 || s.OutOf.Less(b.From) {
			out.Add(path+".from", "is %s; it must lie from 0 to %s", b.From.Decimal(4), s.OutOf.Decimal(4))
		}
		if i > 0 && b.From.Cmp(s.Boundaries[i-1].From) >= 0 {
			out.Add(path+".from", "is %s, and the boundary before it %s; write them from the highest down", b.From.Decimal(4), s.Boundaries[i-1].From.Decimal(4))
		}
		if slices.ContainsFunc(s.Boundaries[:i], func(o Boundary) bool { return o.Grade == b.Grade }) {
			out.Add(path+".grade", "“%s” is there twice", b.Grade)
		}
	}
	return out.Err()
}

// Of returns what comes of marks: out of · Σ weight·mark ÷ Σ weight·most.
func (s Scheme) Of(m Marks) Result {
	var r Result
	sum, most := exact.Number{}, exact.Number{}
	for _, c := range s.Criteria {
		mark, ok := m[c.ID]
		if !ok {
			r.Missing = append(r.Missing, c.ID)
		}
		sum, most = sum.Add(c.Weight.Mul(mark)), most.Add(c.Weight.Mul(c.Most))
	}
	if r.Missing != nil {
		return r
	}
	total := s.OutOf.Mul(sum).Div(most)
	r.Total, r.Rounded = &total, s.rounded(total)
	r.Grade = s.grade(r.Rounded)
	return r
}

func (s Scheme) rounded(n exact.Number) exact.Number {
	unit := exact.Int(1)
	for range s.Places {
		unit = unit.Mul(exact.Int(10))
	}
	n = n.Mul(unit)
	down := exact.Int(n.Floor())
	rest := n.Sub(down)
	up := false
	switch half := rest.Cmp(exact.Frac(1, 2)); s.Round {
	case Up:
		up = rest.Sign() > 0
	case HalfEven:
		up = half > 0 || half == 0 && n.Floor()%2 != 0
	case HalfUp:
		up = half >= 0
	}
	if up {
		down = down.Add(exact.Int(1))
	}
	return down.Div(unit)
}

// An Agreement is how far two who mark agree. What cannot be said is NaN.
type Agreement struct {
	ID        string
	Mean      float64 // the first marker's less the second's
	Kappa     float64 // quadratic weighted
	Low, High float64 // its interval, of 95 in 100; of the rounded totals only
	N         int     // learners marked by both
}

// Compared is what comes of marks by markers.
type Compared struct {
	Learners  map[string]map[string]Result // by learner and marker
	Criteria  []Agreement
	Overall   Agreement
	TalkAbout []string
}

// Compare returns the results of all, by marker and learner, and how far the first two
// markers agree, in the order of their names.
func (s Scheme) Compare(by map[string]map[string]Marks) Compared {
	out := Compared{Learners: map[string]map[string]Result{}}
	markers := slices.Sorted(maps.Keys(by))
	for _, m := range markers {
		for learner, marks := range by[m] {
			if out.Learners[learner] == nil {
				out.Learners[learner] = map[string]Result{}
			}
			out.Learners[learner][m] = s.Of(marks)
		}
	}
	learners := slices.Sorted(maps.Keys(out.Learners))
	pairs := func(of func(marker, learner string) (exact.Number, bool)) (x, y []exact.Number) {
		if len(markers) < 2 {
			return nil, nil
		}
		for _, l := range learners {
			a, ok1 := of(markers[0], l)
			b, ok2 := of(markers[1], l)
			if ok1 && ok2 {
				x, y = append(x, a), append(y, b)
			}
		}
		return x, y
	}
	for _, c := range s.Criteria {
		x, y := pairs(func(m, l string) (exact.Number, bool) {
			v, ok := by[m][l][c.ID]
			return v, ok
		})
		a := agreement(x, y)
		a.ID = c.ID
		out.Criteria = append(out.Criteria, a)
	}
	x, y := pairs(func(m, l string) (exact.Number, bool) {
		r, ok := out.Learners[l][m]
		return r.Rounded, ok && r.Total != nil
	})
	out.Overall = agreement(x, y)
	for _, l := range learners {
		if len(markers) < 2 {
			break
		}
		a, b := out.Learners[l][markers[0]], out.Learners[l][markers[1]]
		if a.Total != nil && b.Total != nil && (s.Tolerance.Less(a.Rounded.Sub(b.Rounded).Abs()) || a.Grade != b.Grade) {
			out.TalkAbout = append(out.TalkAbout, l)
		}
	}
	return out
}

// agreement is the mean difference and Cohen's kappa with quadratic weights (Cohen
// 1968), with the interval of Fleiss, Cohen and Everitt (1969) for many pairs.
func agreement(x, y []exact.Number) Agreement {
	nan := math.NaN()
	n := len(x)
	out := Agreement{Mean: nan, Kappa: nan, Low: nan, High: nan, N: n}
	if n == 0 {
		return out
	}
	sum, off, apart := exact.Number{}, exact.Number{}, exact.Number{}
	for i := range x {
		d := x[i].Sub(y[i])
		sum, off = sum.Add(d), off.Add(d.Mul(d))
		for j := range y {
			e := x[i].Sub(y[j])
			apart = apart.Add(e.Mul(e))
		}
	}
	out.Mean = sum.Div(exact.Int(int64(n))).Float()
	if apart.Sign() == 0 {
		return out
	}
	out.Kappa = 1 - off.Mul(exact.Int(int64(n))).Div(apart).Float()
	out.Low, out.High = interval(x, y, out.Kappa)
	return out
}

// normal is how many standard errors hold 95 in 100.
const normal = 1.959963984540054

func interval(x, y []exact.Number, kappa float64) (low, high float64) {
	fx, fy := floats(x), floats(y)
	span := slices.Max(append(slices.Clone(fx), fy...)) - slices.Min(append(slices.Clone(fx), fy...))
	weight := func(a, b float64) float64 { return 1 - (a-b)*(a-b)/(span*span) }
	n := float64(len(x))
	expected := 0.0
	byX, byY := make([]float64, len(x)), make([]float64, len(x)) // mean weights of a mark
	for i, a := range fx {
		for j, b := range fy {
			w := weight(a, b)
			expected += w / n / n
			byX[i] += w / n
			byY[j] += w / n
		}
	}
	sum := 0.0
	for i := range fx {
		v := weight(fx[i], fy[i]) - (byX[i]+byY[i])*(1-kappa)
		sum += v * v / n
	}
	rest := kappa - expected*(1-kappa)
	se := math.Sqrt(max(0, sum-rest*rest) / (n * (1 - expected) * (1 - expected)))
	return max(-1, kappa-normal*se), min(1, kappa+normal*se)
}

func floats(list []exact.Number) []float64 {
	out := make([]float64, len(list))
	for i, v := range list {
		out[i] = v.Float()
	}
	return out
}

// Sample returns the learners whose work an outside moderator looks at: at most so many,
// spread evenly from the highest total to the lowest, the ends among them.
func (c Compared) Sample(most int) []string {
	type ranked struct {
		name  string
		total exact.Number
	}
	var list []ranked
	for name, by := range c.Learners {
		for _, m := range slices.Sorted(maps.Keys(by)) {
			if r := by[m]; r.Total != nil {
				list = append(list, ranked{name, *r.Total})
				break
			}
		}
	}
	slices.SortFunc(list, func(a, b ranked) int { return cmp.Or(b.total.Cmp(a.total), cmp.Compare(a.name, b.name)) })
	var out []string
	for i := range min(most, len(list)) {
		at := 0
		if k := min(most, len(list)); k > 1 {
			at = i * (len(list) - 1) / (k - 1)
		}
		out = append(out, list[at].name)
	}
	return out
}
