// Package train makes tasks for practising to measure: on the amounts and instruments
// of a lesson, with answers that are computed from what is given and what is wanted
// alone. It judges what came out, says whether that matters for the dish, chooses what
// to practise next, and remembers how sure a learner is. Everything is the same for the
// same seed and history.
package train

import (
	"math"
	"slices"

	"freshapron/internal/core/clock"
	"freshapron/internal/core/exact"
	"freshapron/internal/core/measure"
)

// A Kind of task.
type Kind string

// The kinds.
const (
	OnScale    Kind = "scale"      // what a digital scale must show
	OnDial     Kind = "dial"       // where the needle of a scale stands
	InJug      Kind = "jug"        // what is really in a jug that is read from above
	BySpoons   Kind = "spoons"     // the fewest level fillings
	ByCups     Kind = "cups"       //
	Parts      Kind = "parts"      // which part of a pack
	OvenDial   Kind = "oven"       // °C, fan, gas, °F
	Convert    Kind = "convert"    // between units
	Fraction   Kind = "fraction"   // half of ¾
	Scaling    Kind = "scaling"    // from so many portions to others
	Ratio      Kind = "ratio"      // fat to flour kept
	Time       Kind = "time"       // back from the bell, how long until
	Instrument Kind = "instrument" // which errs least
)

// Kinds lists them.
var Kinds = []Kind{OnScale, OnDial, InJug, BySpoons, ByCups, Parts, OvenDial, Convert, Fraction, Scaling, Ratio, Time, Instrument}

// A Field is something that is given, by its name in a file.
type Field struct {
	Name  string
	Value any // exact.Number, int, bool, string, clock.Time, []exact.Number or []Tool
}

// An Answer is an amount in a unit, a time of day, or a name.
type Answer struct {
	Amount exact.Number
	Unit   string
	Clock  *clock.Time
	Name   string
}

// A Question can be answered from what is given and wanted alone.
type Question interface {
	Given() []Field
	Want() Field
	Answer() Answer
}

// A Task is a question in words.
type Task struct {
	Kind       Kind
	Ask        string
	Ingredient string // empty where it is about none
	Question
	Tolerance float64 // per cent by which an answer may be off
}

type converted struct {
	amount  exact.Number
	from    measure.Unit
	to      measure.Unit
	density exact.Number // g/ml, where mass meets volume; 0 elsewhere
}

func (q converted) Given() []Field {
	out := []Field{{"amount", q.amount}, {"unit", q.from.ID}}
	if q.density.Sign() > 0 {
		out = append(out, Field{"density_g_per_ml", q.density})
	}
	return out
}

func (q converted) Want() Field { return Field{"unit", q.to.ID} }

func (q converted) Answer() Answer {
	from := measure.Quantity{Amount: q.amount, Unit: q.from}
	d := measure.Density{Number: q.density}
	switch {
	case q.from.Dimension == measure.Mass && q.to.Dimension == measure.Volume:
		from = d.ToVolume(from)
	case q.from.Dimension == measure.Volume && q.to.Dimension == measure.Mass:
		from = d.ToMass(from)
	}
	out, _ := from.In(q.to)
	return Answer{Amount: out.Amount, Unit: q.to.ID}
}

// times is an amount that becomes another by a factor: a fraction of it, as much for
// other portions, the other side of a ratio.
type times struct {
	amount exact.Number
	unit   string
	given  []Field
	factor exact.Number
}

func (q times) Given() []Field {
	return append([]Field{{"amount", q.amount}, {"unit", q.unit}}, q.given...)
}
func (q times) Want() Field    { return Field{"unit", q.unit} }
func (q times) Answer() Answer { return Answer{Amount: q.amount.Mul(q.factor), Unit: q.unit} }

// ratio is times with its fields in another order.
type ratio struct {
	parts         [2]exact.Number
	known, wanted int
	amount        exact.Number
	unit          string
}

func (q ratio) Given() []Field {
	return []Field{{"ratio", q.parts[:]}, {"known", q.known}, {"amount", q.amount}, {"unit", q.unit}, {"wanted", q.wanted}}
}
func (q ratio) Want() Field { return Field{"unit", q.unit} }
func (q ratio) Answer() Answer {
	return Answer{Amount: q.amount.Mul(q.parts[q.wanted]).Div(q.parts[q.known]), Unit: q.unit}
}

// later is a time of day that lies some minutes before or after another.
type later struct {
	at    clock.Time
	minus bool
	by    int
}

func (q later) Given() []Field {
	name := "plus_min"
	if q.minus {
		name = "minus_min"
	}
	return []Field{{"at", q.at}, {name, q.by}}
}
func (q later) Want() Field { return Field{"unit", "clock"} }
func (q later) Answer() Answer {
	t := q.at + clock.Time(q.by)
	if q.minus {
		t = q.at - clock.Time(q.by)
	}
	return Answer{Clock: &t}
}

// between is how long from one time of day to another.
type between struct{ from, to clock.Time }

func (q between) Given() []Field { return []Field{{"from", q.from}, {"to", q.to}} }
func (q between) Want() Field    { return Field{"unit", "min"} }
func (q between) Answer() Answer {
	return Answer{Amount: exact.Int(int64(q.to - q.from)), Unit: "min"}
}

// dial is an oven's setting in another way.
type dial struct {
	amount   exact.Number
	from, to string // C, F, fan, gas
}

func (q dial) Given() []Field { return []Field{{"amount", q.amount}, {"unit", q.from}} }
func (q dial) Want() Field    { return Field{"unit", q.to} }
func (q dial) Answer() Answer {
	c := q.amount
	switch q.from {
	case "F":
		c = q.amount.Sub(exact.Int(32)).Mul(exact.Frac(5, 9))
	case "fan":
		c = measure.Oven{Fan: true}.Conventional(q.amount).Amount
	case "gas":
		g, _ := measure.GasToCelsius(q.amount)
		c = g.Amount
	}
	switch q.to {
	case "F":
		c = c.Mul(exact.Frac(9, 5)).Add(exact.Int(32))
	case "fan":
		c = measure.Oven{Fan: true}.Dial(c).Amount
	case "gas":
		c, _ = measure.CelsiusToGas(c)
	}
	return Answer{Amount: c, Unit: q.to}
}

// weighed is what a digital scale shows.
type weighed struct {
	bowl, already, add, resolution exact.Number // g
	tared                          bool
}

func (q weighed) Given() []Field {
	return []Field{{"bowl_g", q.bowl}, {"tared", q.tared}, {"already_g", q.already}, {"add_g", q.add}, {"resolution_g", q.resolution}}
}
func (q weighed) Want() Field { return Field{"unit", "g"} }
func (q weighed) Answer() Answer {
	sum := q.already.Add(q.add)
	if !q.tared {
		sum = sum.Add(q.bowl)
	}
	return Answer{Amount: sum.RoundTo(q.resolution), Unit: "g"}
}

// needle is where the needle of a scale stands.
type needle struct {
	division, start exact.Number // g
	divisions       exact.Number // it has gone on by so many, halves too
}

func (q needle) Given() []Field {
	return []Field{{"division_g", q.division}, {"divisions", q.divisions}, {"start_g", q.start}}
}
func (q needle) Want() Field { return Field{"unit", "g"} }
func (q needle) Answer() Answer {
	return Answer{Amount: q.start.Add(q.division.Mul(q.divisions)), Unit: "g"}
}

// read is what is really in a jug that is read from above: the eye's line meets the far
// wall too high by radius × tan of its angle.
type read struct{ reading, radius, eye exact.Number } // ml, mm, degrees

func (q read) Given() []Field {
	return []Field{{"reading_ml", q.reading}, {"radius_mm", q.radius}, {"eye_deg", q.eye}}
}
func (q read) Want() Field { return Field{"unit", "ml"} }
func (q read) Answer() Answer {
	return Answer{Amount: number(q.reading.Float() - TooHigh(q.radius.Float(), q.eye.Float())), Unit: "ml"}
}

// TooHigh is by how many millilitres a jug of an inner radius, in millimetres, is read
// too high by an eye that looks down at an angle, in degrees.
func TooHigh(radius, eye float64) float64 {
	return math.Pi * radius * radius * radius * math.Tan(eye*math.Pi/180) / 1000
}

// number is a float as a number of up to six decimals.
func number(f float64) exact.Number {
	const million = 1_000_000
	return exact.Frac(int64(math.Round(f*million)), million)
}

// fillings is how few level measures come to an amount.
type fillings struct {
	amount exact.Number
	unit   string
	set    []exact.Number
}

func (q fillings) Given() []Field {
	return []Field{{"amount", q.amount}, {"unit", q.unit}, {"set", q.set}}
}
func (q fillings) Want() Field { return Field{"unit", "fillings"} }
func (q fillings) Answer() Answer {
	n, _ := Fewest(q.amount, q.set)
	return Answer{Amount: exact.Int(int64(n)), Unit: "fillings"}
}

// mostFillings is the most that anybody counts.
const mostFillings = 60

// Fewest returns the fewest level fillings of measures of a set that come to an amount
// exactly, and whether any do.
func Fewest(amount exact.Number, set []exact.Number) (int, bool) {
	reached := map[exact.Number]bool{{}: true}
	for n := 1; n <= mostFillings; n++ {
		next := map[exact.Number]bool{}
		for sum := range reached {
			for _, s := range set {
				switch t := sum.Add(s); t.Cmp(amount) {
				case 0:
					return n, true
				case -1:
					next[t] = true
				}
			}
		}
		reached = next
	}
	return 0, false
}

// part is which part of a pack an amount is, or how much a part of a pack is.
type part struct {
	need, pack exact.Number
	unit       string
	part       exact.Number // 0 where it is asked for
}

func (q part) Given() []Field {
	if q.part.Sign() > 0 {
		return []Field{{"pack", q.pack}, {"unit", q.unit}, {"part", q.part}}
	}
	return []Field{{"need", q.need}, {"pack", q.pack}, {"unit", q.unit}}
}

func (q part) Want() Field {
	if q.part.Sign() > 0 {
		return Field{"unit", q.unit}
	}
	return Field{"unit", "part"}
}

func (q part) Answer() Answer {
	if q.part.Sign() > 0 {
		return Answer{Amount: q.pack.Mul(q.part), Unit: q.unit}
	}
	return Answer{Amount: q.need.Div(q.pack), Unit: "part"}
}

// Tools are the instruments to choose from, where the task is which errs least.
func (t Task) Tools() []Tool {
	q, _ := t.Question.(tool)
	return q.tools
}

// A Tool is an instrument in a drawer. Its division is in the unit of the amount.
type Tool struct {
	Name, Kind string // scale, jug, spoon, cup
	Division   exact.Number
}

// tool is which instrument errs least.
type tool struct {
	amount exact.Number
	unit   string
	tools  []Tool
}

func (q tool) Given() []Field {
	return []Field{{"amount", q.amount}, {"unit", q.unit}, {"instruments", q.tools}}
}
func (q tool) Want() Field { return Field{"unit", "name"} }
func (q tool) Answer() Answer {
	return Answer{Name: slices.MinFunc(q.tools, func(a, b Tool) int { return a.err(q.amount).Cmp(b.err(q.amount)) }).Name}
}

// err is by how much an instrument can be off: half of what a scale shows, a quarter of
// a jug's mark, a tenth of spoons, a fifth of cups (see core/measure).
func (t Tool) err(amount exact.Number) exact.Number {
	switch t.Kind {
	case "scale":
		return t.Division.Mul(exact.Frac(1, 2))
	case "jug":
		return t.Division.Mul(exact.Frac(1, 4))
	case "spoon":
		return amount.Mul(exact.Frac(1, 10))
	}
	return amount.Mul(exact.Frac(1, 5))
}
