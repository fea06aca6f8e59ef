package measure

import (
	"slices"
	"strings"

	"freshapron/internal/core/exact"
)

// Instruments are what lies in a room's drawers to measure with.
type Instruments struct {
	Scales []Scale
	Spoons []Unit // level measures, such as ¼ tsp; see Spoon
	Jugs   []Jug
}

// A Scale shows whole multiples of its division, in grams, and is not to be
// trusted under its least load.
type Scale struct {
	Division, Least exact.Number
}

// A Jug has a mark every so many millilitres, up to what it holds.
type Jug struct {
	Marks, Holds exact.Number
}

// Spoon returns a level measure that is a part of a tea- or tablespoon.
func Spoon(fraction exact.Number, of Unit) Unit {
	return Unit{Mixed(fraction) + " " + of.Symbol, Volume, of.base.Mul(fraction)}
}

// PartOf reports whether the spoon is named as a part of a tea- or tablespoon.
func (u Unit) PartOf(whole Unit) bool {
	return u.Symbol == whole.Symbol || strings.HasSuffix(u.Symbol, " "+whole.Symbol)
}

// In returns how many of another unit of the same dimension u is.
func (u Unit) In(other Unit) exact.Number { return u.base.Div(other.base) }

// SpoonSet is a usual set: 1 and ½ tbsp, 1, ½ and ¼ tsp.
var SpoonSet = []Unit{
	Tablespoon,
	Spoon(exact.Frac(1, 2), Tablespoon),
	Teaspoon,
	Spoon(exact.Frac(1, 2), Teaspoon),
	Spoon(exact.Frac(1, 4), Teaspoon),
}

// An Instruction says how to measure an amount and how far off that can be.
type Instruction struct {
	Says     string    // "2½ tbsp", "113 g", "1½"
	Measured Quantity  // what it comes to
	Rounding float64   // share by which it differs from the exact amount, signed
	Reading  float64   // share by which the instrument itself can be off
	Actions  int       // loads of the instrument
	By       Dimension // Mass on a scale, Volume by spoon or jug, Count by hand
}

// Error is the share by which the amount can be off in all.
func (i Instruction) Error() float64 { return max(i.Rounding, -i.Rounding) + i.Reading }

// Reading errors of the instruments, as shares.
const (
	levelSpoon  = 0.10 // of a level spoon
	halfOfAMark = 0.25 // of a jug's mark
	halfShown   = 0.5  // of a scale's division
)

// An Amount is an exact quantity of something, with what is needed to turn
// mass into volume and back.
type Amount struct {
	Quantity
	Density Density
	Pours   bool // a liquid, which a jug measures
}

// Bulk returns the quantity as it is bought and fetched rather than measured
// out: many spoons of one thing in millilitres if it pours, or else in grams.
func (a Amount) Bulk() Quantity {
	fewSpoons := Quantity{exact.Int(4), Tablespoon}
	spoons := a.Unit.PartOf(Teaspoon) || a.Unit.PartOf(Tablespoon)
	switch {
	case !spoons || a.Base().Cmp(fewSpoons.Base()) <= 0:
		return a.Quantity
	case a.Pours || !a.Density.Known():
		return Quantity{a.Base(), Millilitre}
	default:
		return a.Density.ToMass(a.Quantity)
	}
}

// maxSpoons is how many loads of a spoon learners can count on.
const maxSpoons = 6

// By returns the best instruction by mass or by volume with the instruments
// of the room, and whether there is one.
func (in Instruments) By(d Dimension, a Amount) (Instruction, bool) {
	if a.Amount.Sign() <= 0 {
		return Instruction{}, false
	}
	var options []Instruction
	switch {
	case d == Mass && a.Unit.Dimension == Mass:
		options = in.weigh(a.Quantity)
	case d == Mass && a.Unit.Dimension == Volume && a.Density.Known():
		options = in.weigh(a.Density.ToMass(a.Quantity))
	case d == Volume && a.Unit.Dimension == Volume:
		options = in.pour(a.Quantity, a.Pours)
	case d == Volume && a.Unit.Dimension == Mass && a.Density.Known():
		options = in.pour(a.Density.ToVolume(a.Quantity), a.Pours)
	case d == Count && a.Unit.Dimension == Count:
		options = count(a.Quantity)
	}
	if len(options) == 0 {
		return Instruction{}, false
	}
	return slices.MinFunc(options, worse), true
}

// worse orders instructions by their error, and by their actions where the
// errors are as good as equal.
func worse(a, b Instruction) int {
	const equal = 0.005
	switch d := a.Error() - b.Error(); {
	case d < -equal:
		return -1
	case d > equal:
		return 1
	}
	return a.Actions - b.Actions
}

// Best returns the instruction with the smallest error, whatever the way.
func (in Instruments) Best(a Amount) (Instruction, bool) {
	var options []Instruction
	for _, d := range []Dimension{Mass, Volume, Count} {
		if i, ok := in.By(d, a); ok {
			options = append(options, i)
		}
	}
	if len(options) == 0 {
		return Instruction{}, false
	}
	return slices.MinFunc(options, worse), true
}

func instruction(says string, measured, wanted Quantity, reading float64, actions int) Instruction {
	return Instruction{
		Says: says, Measured: measured, Actions: actions, By: wanted.Unit.Dimension,
		Rounding: measured.Base().Div(wanted.Base()).Sub(exact.Int(1)).Float(),
		Reading:  reading,
	}
}

func (in Instruments) weigh(q Quantity) []Instruction {
	var out []Instruction
	for _, s := range in.Scales {
		shown := q.Base().RoundTo(s.Division)
		if shown.Sign() <= 0 || q.Base().Less(s.Least) {
			continue
		}
		m := Quantity{shown, Gram}
		out = append(out, instruction(m.String(), m, q, halfShown*s.Division.Float()/shown.Float(), 1))
	}
	return out
}

func (in Instruments) pour(q Quantity, liquid bool) []Instruction {
	var out []Instruction
	if i, ok := in.spoons(q); ok {
		out = append(out, i)
	}
	if !liquid {
		return out
	}
	for _, j := range in.Jugs {
		read := q.Base().RoundTo(j.Marks)
		if read.Sign() <= 0 {
			continue
		}
		m := Quantity{read, Millilitre}
		fills := int(read.Div(j.Holds).Ceil())
		out = append(out, instruction(m.String(), m, q, halfOfAMark*j.Marks.Float()*float64(fills)/read.Float(), fills))
	}
	return out
}

// spoons finds the fewest level spoons that come nearest to q: as many of the
// largest as go in, then of the next, and the last rounded.
func (in Instruments) spoons(q Quantity) (Instruction, bool) {
	sizes := slices.Clone(in.Spoons)
	slices.SortFunc(sizes, func(a, b Unit) int { return b.base.Cmp(a.base) })
	if len(sizes) == 0 {
		return Instruction{}, false
	}
	best, found := Instruction{}, false
	for last := range sizes {
		counts := make([]int64, len(sizes))
		rest, total, actions := q.Base(), exact.Number{}, int64(0)
		for i, s := range sizes[:last+1] {
			counts[i] = rest.Div(s.base).Floor()
			if i == last {
				counts[i] = rest.Div(s.base).Round()
			}
			part := s.base.Mul(exact.Int(counts[i]))
			rest, total, actions = rest.Sub(part), total.Add(part), actions+counts[i]
		}
		if total.Sign() == 0 || actions > maxSpoons {
			continue
		}
		option := instruction(saySpoons(sizes, counts), Quantity{total, Millilitre}, q, levelSpoon, int(actions))
		if !found || worse(option, best) < 0 {
			best, found = option, true
		}
	}
	return best, found
}

// saySpoons prints counts of spoons: "2 tbsp + ½ tsp", parts of one kind of
// spoon added up: 1 tsp and ½ tsp are "1½ tsp".
func saySpoons(sizes []Unit, counts []int64) string {
	var parts []string
	for _, whole := range []Unit{Tablespoon, Teaspoon} {
		sum := exact.Number{}
		for i, s := range sizes {
			if s.PartOf(whole) {
				sum = sum.Add(s.In(whole).Mul(exact.Int(counts[i])))
			}
		}
		if sum.Sign() > 0 {
			parts = append(parts, Mixed(sum)+" "+whole.Symbol)
		}
	}
	return strings.Join(parts, " + ")
}

// count takes whole things, halves, thirds and quarters by eye.
func count(q Quantity) []Instruction {
	var out []Instruction
	for _, part := range []exact.Number{exact.Int(1), exact.Frac(1, 2), exact.Frac(1, 3), exact.Frac(1, 4)} {
		n := q.Base().RoundTo(part)
		if n.Sign() <= 0 {
			continue
		}
		m := Quantity{n, Each}
		reading := 0.0
		if !n.IsInt() {
			reading = levelSpoon * part.Float() / n.Float()
		}
		out = append(out, instruction(m.String(), m, q, reading, 1))
	}
	return out
}
