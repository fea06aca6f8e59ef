package measure

import (
	"cmp"
	"fmt"
	"math"
	"slices"
	"strings"

	"freshapron/internal/core/exact"
)

// Instruments are what lies in a room's drawers to measure with.
type Instruments struct {
	Scales []Scale
	Spoons []Unit // level measures, such as ¼ tsp; see Spoon
	Cups   []Unit // a set of cups, such as ½ cup; see Spoon
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

// Spoon returns a level measure that is a part of a spoon or a cup.
func Spoon(fraction exact.Number, of Unit) Unit {
	return Unit{ID: of.ID + "*" + fraction.String(), Symbol: Mixed(fraction) + " " + of.Symbol, Dimension: Volume, base: of.base.Mul(fraction)}
}

// PartOf reports whether the measure is a part of the given spoon or cup.
func (u Unit) PartOf(whole Unit) bool {
	return u.ID == whole.ID || strings.HasPrefix(u.ID, whole.ID+"*")
}

// Over returns how many of another unit of the same dimension one u is.
func (u Unit) Over(other Unit) exact.Number { return u.base.Div(other.base) }

// SpoonSet is a usual set: 1 and ½ tbsp, 1, ½ and ¼ tsp.
var SpoonSet = spoonSet(Metric)

// CupSet is a usual set: 1, ½, ⅓ and ¼ cup.
var CupSet = cupSet(Metric)

func spoonSet(s System) []Unit {
	half, quarter := exact.Frac(1, 2), exact.Frac(1, 4)
	return []Unit{s.Tablespoon, Spoon(half, s.Tablespoon), s.Teaspoon, Spoon(half, s.Teaspoon), Spoon(quarter, s.Teaspoon)}
}

func cupSet(s System) []Unit {
	return []Unit{s.Cup, Spoon(exact.Frac(1, 2), s.Cup), Spoon(exact.Frac(1, 3), s.Cup), Spoon(exact.Frac(1, 4), s.Cup)}
}

// Usual returns what lies in the drawer of an ordinary school kitchen where
// recipes are written in the system: scales that show 1 g and are trusted
// from 2 g on, a set of spoons, jugs marked every 25 ml; cups where recipes
// are written in them.
func Usual(s System) Instruments {
	in := Instruments{
		Scales: []Scale{{Division: exact.Int(1), Least: exact.Int(2)}},
		Spoons: spoonSet(s),
		Jugs:   []Jug{{Marks: exact.Int(25), Holds: exact.Int(1000)}},
	}
	if s.Name == US.Name || s.Name == Australian.Name {
		in.Cups = cupSet(s)
	}
	return in
}

// Way is how an amount is measured.
type Way string

// The ways to measure.
const (
	ByScale Way = "scale"
	BySpoon Way = "spoon" // spoons and cups
	ByJug   Way = "jug"
	ByHand  Way = "hand" // counted, or divided by eye
	ByPack  Way = "pack" // a part of what it is bought in
)

// An Instruction says how to measure an amount and how far off that can be.
type Instruction struct {
	Says     string    // "2½ tbsp", "113 g", "1½"
	Measured Quantity  // what it comes to
	Rounding float64   // share by which it differs from the exact amount, signed
	Reading  float64   // share by which the instrument itself can be off
	Actions  int       // loads of the instrument
	By       Dimension // Mass on a scale, Volume by spoon or jug, Count by hand
	Way      Way
	Fillings []Filling // of spoons and cups, the largest first
	Jug      Jug       // that is read, by a jug
}

// A Filling is a level measure that is filled so many times.
type Filling struct {
	Of    Unit
	Times int
}

// Size is what stands on the measure: "1 tbsp", "½ tsp".
func (f Filling) Size() string {
	if strings.Contains(f.Of.ID, "*") {
		return f.Of.Symbol
	}
	return Quantity{exact.Int(1), f.Of}.String()
}

// Error is the share by which the amount can be off in all.
func (i Instruction) Error() float64 { return math.Abs(i.Rounding) + i.Reading }

// Off says how far off the instruction can be: "exact", "± 4 %".
func (i Instruction) Off() string {
	if percent := i.Error() * 100; percent >= 0.5 {
		return fmt.Sprintf("± %.0f %%", math.Round(percent))
	}
	return "exact"
}

// Reading errors of the instruments, as shares. The last two are typical.
const (
	levelSpoon  = 0.10 // of a level spoon, and of a cup filled to the brim with a liquid
	scoopedCup  = 0.20 // of a cup of something dry
	halfOfAMark = 0.25 // of a jug's mark
	halfShown   = 0.5  // of a scale's division
	byEye       = 0.05 // of a whole that is divided by eye
	pinched     = 0.25 // of a pinch
)

// An Amount is an exact quantity of something, with what is known of it that
// helps to measure it.
type Amount struct {
	Quantity
	Density Density
	Pours   bool       // a liquid, which a jug measures
	Packs   []PackSize // what it is bought in, the count left out
}

// Bulk returns the quantity as it is bought and fetched rather than measured
// out: many spoons of one thing in millilitres if it pours, or else in grams.
func (a Amount) Bulk() Quantity {
	fewSpoons := Quantity{exact.Int(4), Tablespoon}
	switch {
	case a.Unit.Dimension != Volume || !a.byFraction() || a.Base().Cmp(fewSpoons.Base()) <= 0:
		return a.Quantity
	case a.Density.Known() && !a.Pours:
		return a.Density.ToMass(a.Quantity)
	default:
		q, _ := a.In(Millilitre)
		return q
	}
}

// maxSpoons is the most spoons learners can count on.
const maxSpoons = 6

// By returns the best instruction by mass, by volume, or by count with the
// instruments of the room, and whether there is one.
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
	case d == Count && a.Unit.Dimension == Length:
		options = ruler(a.Quantity)
	case d == Count:
		options = partsOf(a)
	}
	if len(options) == 0 {
		return Instruction{}, false
	}
	return slices.MinFunc(options, worse), true
}

// perAction is the share of error that one filling more is worth: four spoons
// that come 3 % nearer are not worth it.
const perAction = 0.01

// Cost weighs the error against the fillings that it takes; the best
// instruction has the least.
func (i Instruction) Cost() float64 { return i.Error() + perAction*float64(i.Actions-1) }

func worse(a, b Instruction) int { return cmp.Compare(a.Cost(), b.Cost()) }

// Best returns the instruction with the least cost, whatever the way.
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

func instruction(says string, way Way, measured, wanted Quantity, reading float64, actions int) Instruction {
	return Instruction{
		Says: says, Measured: measured, Actions: actions, By: wanted.Unit.Dimension, Way: way,
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
		out = append(out, instruction(m.String(), ByScale, m, q, halfShown*s.Division.Float()/shown.Float(), 1))
	}
	return out
}

func (in Instruments) pour(q Quantity, liquid bool) []Instruction {
	var out []Instruction
	if i, ok := in.spoons(q, liquid); ok {
		out = append(out, i)
	}
	if !liquid {
		if i, ok := in.pinches(q); ok {
			out = append(out, i)
		}
		return out
	}
	for _, j := range in.Jugs {
		read := q.Base().RoundTo(j.Marks)
		if read.Sign() <= 0 {
			continue
		}
		m := Quantity{read, Millilitre}
		fills := int(read.Div(j.Holds).Ceil())
		i := instruction(m.String(), ByJug, m, q, halfOfAMark*j.Marks.Float()*float64(fills)/read.Float(), fills)
		i.Jug = j
		out = append(out, i)
	}
	return out
}

// pinches measures what is less than the smallest spoon.
func (in Instruments) pinches(q Quantity) (Instruction, bool) {
	for _, s := range in.Spoons {
		if s.base.Cmp(q.Base()) <= 0 {
			return Instruction{}, false
		}
	}
	const mostPinches = 3
	n := q.Base().Div(Pinch.base).Round()
	if n < 1 || n > mostPinches {
		return Instruction{}, false
	}
	m := Quantity{exact.Int(n), Pinch}
	return instruction(m.String(), BySpoon, m, q, pinched, int(n)), true
}

// spoons finds the level spoons and cups that come near to q with few
// fillings. For each measure from the largest it tries none, as many
// as go in, one fewer and one more; that is enough to find thirds beside
// halves, and another measure in the drawer never takes a way away.
func (in Instruments) spoons(q Quantity, liquid bool) (Instruction, bool) {
	set := append(slices.Clone(in.Spoons), in.Cups...)
	slices.SortStableFunc(set, func(a, b Unit) int { return b.base.Cmp(a.base) })
	sizes := make([]float64, len(set))
	cup := make([]bool, len(set))
	for i, s := range set {
		sizes[i] = s.base.Float()
		cup[i] = i < len(set) && slices.ContainsFunc(in.Cups, func(c Unit) bool { return c.ID == s.ID })
	}
	want := q.Base().Float()
	counts, best := make([]int64, len(set)), []int64(nil)
	bestCost, bestActions := math.Inf(1), 0
	var try func(i int, total, dry float64, actions int)
	try = func(i int, total, dry float64, actions int) {
		if total > 0 {
			off := math.Abs(total-want) / want
			if !liquid {
				off += levelSpoon + (scoopedCup-levelSpoon)*dry/total
			} else {
				off += levelSpoon
			}
			if cost := off + perAction*float64(actions-1); cost < bestCost-1e-12 {
				bestCost, bestActions, best = cost, actions, slices.Clone(counts)
			}
		}
		if i == len(sizes) || actions == maxSpoons {
			return
		}
		fits := int64((want - total) / sizes[i])
		tried := int64(-1)
		for _, n := range [4]int64{0, fits - 1, fits, fits + 1} {
			if n <= tried || actions+int(n) > maxSpoons {
				continue
			}
			tried = n
			counts[i] = n
			more := float64(n) * sizes[i]
			scooped := 0.0
			if cup[i] {
				scooped = more
			}
			try(i+1, total+more, dry+scooped, actions+int(n))
		}
		counts[i] = 0
	}
	if want > 0 && (len(sizes) == 0 || want <= float64(maxSpoons+1)*sizes[0]) {
		try(0, 0, 0, 0)
	}
	if best == nil {
		return Instruction{}, false
	}
	total, dry := exact.Number{}, exact.Number{}
	var fillings []Filling
	for i, n := range best {
		if n > 0 {
			fillings = append(fillings, Filling{set[i], int(n)})
		}
		part := set[i].base.Mul(exact.Int(n))
		total = total.Add(part)
		if cup[i] {
			dry = dry.Add(part)
		}
	}
	reading := levelSpoon
	if !liquid {
		reading += (scoopedCup - levelSpoon) * dry.Float() / total.Float()
	}
	out := instruction(saySpoons(set, best), BySpoon, Quantity{total, Millilitre}, q, reading, bestActions)
	out.Fillings = fillings
	return out, true
}

// saySpoons prints counts of measures: "2 tbsp + ½ tsp", parts of one kind
// added up: 1 tsp and ½ tsp are "1½ tsp".
func saySpoons(sizes []Unit, counts []int64) string {
	var parts []string
	last, sum := Unit{}, exact.Number{}
	flush := func() {
		if sum.Sign() > 0 {
			parts = append(parts, Quantity{sum, last}.String())
		}
		sum = exact.Number{}
	}
	for i, s := range sizes {
		id, _, _ := strings.Cut(s.ID, "*")
		whole, _ := UnitOf(id)
		more := s.Over(whole).Mul(exact.Int(counts[i]))
		// ½ and ⅓ cup have no sum that people write.
		if _, den := sum.Add(more).Ratio(); id != last.ID || den > 4 {
			flush()
		}
		last, sum = whole, sum.Add(more)
	}
	flush()
	return strings.Join(parts, " + ")
}

// count takes whole things, halves, thirds and quarters by eye. What is no
// measure, such as a knob, is taken as it is said.
func count(q Quantity) []Instruction {
	if q.Unit.Loose() {
		return []Instruction{instruction(q.String(), ByHand, q, q, 0, 1)}
	}
	var out []Instruction
	for _, part := range []exact.Number{exact.Int(1), exact.Frac(1, 2), exact.Frac(1, 3), exact.Frac(1, 4)} {
		n := q.Base().RoundTo(part)
		if n.Sign() <= 0 {
			continue
		}
		m := Quantity{n, q.Unit}
		reading := 0.0
		if !n.IsInt() {
			reading = levelSpoon * part.Float() / n.Float()
		}
		out = append(out, instruction(m.String(), ByHand, m, q, reading, 1))
	}
	return out
}

// ruler measures a length to the next half centimetre.
func ruler(q Quantity) []Instruction {
	step := exact.Int(5)
	n := q.Base().RoundTo(step)
	if n.Sign() == 0 {
		n = step
	}
	m, _ := Quantity{n, Millimetre}.In(Centimetre)
	return []Instruction{instruction(m.String(), ByHand, m, q, halfShown/n.Float(), 1)}
}

// partsOf takes a part of a pack by eye, where a simple part comes near: a
// third of a tub, 1½ tins.
func partsOf(a Amount) []Instruction {
	const near, most, largest = 0.02, 4, 600 // packs; grams or millilitres that one divides by eye
	var out []Instruction
	for _, p := range a.Packs {
		size := p.Size.Base()
		if p.Size.Unit.Dimension != a.Unit.Dimension || size.Cmp(exact.Int(largest)) > 0 {
			continue
		}
		for _, part := range []exact.Number{exact.Int(1), exact.Frac(1, 2), exact.Frac(1, 3), exact.Frac(1, 4)} {
			n := a.Base().Div(size).RoundTo(part)
			if n.Sign() <= 0 || n.Cmp(exact.Int(most)) > 0 {
				continue
			}
			m := Quantity{n.Mul(p.Size.Amount), p.Size.Unit}
			reading := 0.0
			if !n.IsInt() {
				reading = byEye
			}
			i := instruction(sayPack(n, p), ByPack, m, a.Quantity, reading, int(n.Ceil()))
			i.By = Count
			if math.Abs(i.Rounding) <= near {
				out = append(out, i)
				break
			}
		}
	}
	return out
}

var partWords = map[string]string{"1/2": "half", "1/3": "a third", "2/3": "two thirds", "1/4": "a quarter", "3/4": "three quarters"}

func sayPack(n exact.Number, p PackSize) string {
	word := p.Word.Symbol
	if word == "" {
		word = "pack"
	}
	if part, ok := partWords[n.String()]; ok {
		return fmt.Sprintf("%s of a %s %s", part, p.Size, word)
	}
	if n.Cmp(exact.Int(1)) > 0 {
		word = p.Word.word(n)
	}
	return fmt.Sprintf("%s × %s %s", Mixed(n), p.Size, word)
}
