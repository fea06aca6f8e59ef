// Package measure knows quantities, units and the instruments of a school
// kitchen. It reads amounts as people write them, and finds the instruction
// by which learners can measure one.
package measure

import (
	"slices"
	"strings"

	"freshapron/internal/core/exact"
)

// Dimension is what a unit measures.
type Dimension int

// The dimensions of kitchen amounts.
const (
	Count Dimension = iota
	Mass
	Volume
	Length
	Time
	Temperature
	Money
)

// A Unit of mass is exactly so many grams, one of volume so many millilitres,
// of length millimetres, of time minutes, of money pence. Units of
// temperature have a zero of their own; see [Fahrenheit].
type Unit struct {
	ID        string // unique: "tbsp-au"
	Symbol    string // as written: "tbsp"; empty for things that are counted
	Plural    string // where more than one is written differently: "cups"
	Dimension Dimension
	base      exact.Number
	zero      exact.Number // what 0 of the unit is in the base unit
}

func unit(id, symbol string, d Dimension, base string) Unit {
	return Unit{ID: id, Symbol: symbol, Dimension: d, base: exact.MustParse(base)}
}

func worded(id, one, many string, d Dimension, base string) Unit {
	u := unit(id, one, d, base)
	u.Plural = many
	return u
}

// Units, exactly. Ounce and pound are the international avoirdupois ones; the
// school ounce of 25 g is that of older school books, and is taken only where
// it is chosen. A pinch is typically a sixteenth of a teaspoon, a
// dessertspoon two teaspoons.
var (
	Each = Unit{ID: "", Dimension: Count, base: exact.Int(1)}

	Milligram   = unit("mg", "mg", Mass, "1/1000")
	Gram        = unit("g", "g", Mass, "1")
	Kilogram    = unit("kg", "kg", Mass, "1000")
	Ounce       = unit("oz", "oz", Mass, "28.349523125")
	SchoolOunce = unit("oz-school", "oz", Mass, "25")
	Pound       = unit("lb", "lb", Mass, "453.59237")
	ButterStick = worded("stick-butter", "stick", "sticks", Mass, "113.398")

	Millilitre   = unit("ml", "ml", Volume, "1")
	Centilitre   = unit("cl", "cl", Volume, "10")
	Decilitre    = unit("dl", "dl", Volume, "100")
	Litre        = unit("l", "l", Volume, "1000")
	Pinch        = worded("pinch", "pinch", "pinches", Volume, "5/16")
	Teaspoon     = unit("tsp", "tsp", Volume, "5")
	Dessertspoon = unit("dsp", "dsp", Volume, "10")
	Tablespoon   = unit("tbsp", "tbsp", Volume, "15")

	TablespoonAU = unit("tbsp-au", "tbsp", Volume, "20")
	TeaspoonUS   = unit("tsp-us", "tsp", Volume, "4.92892159375")
	TablespoonUS = unit("tbsp-us", "tbsp", Volume, "14.78676478125")

	Cup      = worded("cup", "cup", "cups", Volume, "250")
	CupUS    = worded("cup-us", "cup", "cups", Volume, "236.5882365")
	CupLabel = worded("cup-label", "cup", "cups", Volume, "240")

	FluidOunce   = unit("floz", "fl oz", Volume, "28.4130625")
	FluidOunceUS = unit("floz-us", "fl oz", Volume, "29.5735295625")
	Pint         = worded("pint", "pint", "pints", Volume, "568.26125")
	PintUS       = worded("pint-us", "pint", "pints", Volume, "473.176473")
	Quart        = worded("quart", "quart", "quarts", Volume, "1136.5225")
	QuartUS      = worded("quart-us", "quart", "quarts", Volume, "946.352946")

	Millimetre = unit("mm", "mm", Length, "1")
	Centimetre = unit("cm", "cm", Length, "10")
	Inch       = worded("in", "inch", "inches", Length, "25.4")

	Second = unit("s", "s", Time, "1/60")
	Minute = unit("min", "min", Time, "1")
	Hour   = unit("h", "h", Time, "60")

	Celsius    = unit("c", "°C", Temperature, "1")
	Fahrenheit = Unit{ID: "f", Symbol: "°F", Dimension: Temperature, base: exact.Frac(5, 9), zero: exact.Frac(-160, 9)}

	Penny = unit("p", "p", Money, "1")
)

// Things that are counted by a word of their own: 2 sprigs, 1 tin. They have
// no mass until an ingredient or a pack gives them one.
var counted = []Unit{
	worded("bag", "bag", "bags", Count, "1"),
	worded("ball", "ball", "balls", Count, "1"),
	worded("bar", "bar", "bars", Count, "1"),
	worded("block", "block", "blocks", Count, "1"),
	worded("bottle", "bottle", "bottles", Count, "1"),
	worded("box", "box", "boxes", Count, "1"),
	worded("bulb", "bulb", "bulbs", Count, "1"),
	worded("bunch", "bunch", "bunches", Count, "1"),
	worded("carton", "carton", "cartons", Count, "1"),
	worded("clove", "clove", "cloves", Count, "1"),
	worded("cube", "cube", "cubes", Count, "1"),
	worded("dash", "dash", "dashes", Count, "1"),
	worded("drizzle", "drizzle", "drizzles", Count, "1"),
	worded("sprinkling", "sprinkling", "sprinklings", Count, "1"),
	worded("drop", "drop", "drops", Count, "1"),
	worded("fillet", "fillet", "fillets", Count, "1"),
	worded("glass", "glass", "glasses", Count, "1"),
	worded("grating", "grating", "gratings", Count, "1"),
	worded("grind", "grind", "grinds", Count, "1"),
	worded("handful", "handful", "handfuls", Count, "1"),
	worded("head", "head", "heads", Count, "1"),
	worded("jar", "jar", "jars", Count, "1"),
	worded("knob", "knob", "knobs", Count, "1"),
	worded("leaf", "leaf", "leaves", Count, "1"),
	worded("loaf", "loaf", "loaves", Count, "1"),
	worded("mug", "mug", "mugs", Count, "1"),
	worded("packet", "packet", "packets", Count, "1"),
	worded("piece", "piece", "pieces", Count, "1"),
	worded("pod", "pod", "pods", Count, "1"),
	worded("pot", "pot", "pots", Count, "1"),
	worded("punnet", "punnet", "punnets", Count, "1"),
	worded("rasher", "rasher", "rashers", Count, "1"),
	worded("sachet", "sachet", "sachets", Count, "1"),
	worded("sheet", "sheet", "sheets", Count, "1"),
	worded("slice", "slice", "slices", Count, "1"),
	worded("spoon", "spoon", "spoons", Count, "1"),
	worded("splash", "splash", "splashes", Count, "1"),
	worded("sprig", "sprig", "sprigs", Count, "1"),
	worded("squeeze", "squeeze", "squeezes", Count, "1"),
	worded("stalk", "stalk", "stalks", Count, "1"),
	worded("stick", "stick", "sticks", Count, "1"),
	worded("strip", "strip", "strips", Count, "1"),
	worded("teacup", "teacup", "teacups", Count, "1"),
	worded("thumb", "thumb", "thumbs", Count, "1"),
	worded("tin", "tin", "tins", Count, "1"),
	worded("tub", "tub", "tubs", Count, "1"),
	worded("tube", "tube", "tubes", Count, "1"),
}

// loose are units that nobody measures: how much they are is the cook's hand.
var loose = []string{"pinch", "dash", "drizzle", "drop", "grating", "grind", "handful", "knob", "splash", "sprinkling", "squeeze", "thumb"}

// Loose reports whether the unit is a word for "a little" rather than a
// measure.
func (u Unit) Loose() bool { return slices.Contains(loose, u.ID) }

// Units lists every unit.
var Units = append([]Unit{
	Each, Milligram, Gram, Kilogram, Ounce, SchoolOunce, Pound, ButterStick,
	Millilitre, Centilitre, Decilitre, Litre, Pinch, Teaspoon, Dessertspoon, Tablespoon,
	TablespoonAU, TeaspoonUS, TablespoonUS, Cup, CupUS, CupLabel,
	FluidOunce, FluidOunceUS, Pint, PintUS, Quart, QuartUS,
	Millimetre, Centimetre, Inch, Second, Minute, Hour, Celsius, Fahrenheit, Penny,
}, counted...)

var byID = func() map[string]Unit {
	m := make(map[string]Unit, len(Units))
	for _, u := range Units {
		m[u.ID] = u
	}
	return m
}()

// wordID begins the id of a unit that is only a word.
const wordID = "word:"

// UnitOf returns the unit with the given id.
func UnitOf(id string) (Unit, bool) {
	if word, ok := strings.CutPrefix(id, wordID); ok && word != "" {
		return Unit{ID: id, Symbol: word, Dimension: Count, base: exact.Int(1)}, true
	}
	u, ok := byID[id]
	return u, ok
}

// Name returns the word by which Named finds the unit.
func (u Unit) Name() string { return strings.TrimPrefix(u.ID, wordID) }

// Named returns the unit that a text names, in whatever way people write it;
// a word that is no unit becomes one that things are counted by.
func Named(text string, sys System) Unit {
	text = strings.TrimSpace(text)
	if u, ok := byID[text]; ok {
		return sys.unit(u)
	}
	l := &liner{sys: sys}
	if u, rest, ok := l.unit(text); ok && rest == "" {
		return u
	}
	u, _ := UnitOf(wordID + text)
	return u
}

// A System says which of the measures that share a name are meant.
type System struct {
	Name                            string
	Cup, Tablespoon, Teaspoon       Unit
	FluidOunce, Pint, Quart, Ounces Unit
}

// The systems that recipes are written in.
var (
	Metric     = System{"metric", Cup, Tablespoon, Teaspoon, FluidOunce, Pint, Quart, Ounce}
	US         = System{"us", CupUS, TablespoonUS, TeaspoonUS, FluidOunceUS, PintUS, QuartUS, Ounce}
	Australian = System{"au", Cup, TablespoonAU, Teaspoon, FluidOunce, Pint, Quart, Ounce}
	Imperial   = System{"imperial", Cup, Tablespoon, Teaspoon, FluidOunce, Pint, Quart, Ounce}
)

// Systems lists them.
var Systems = []System{Metric, US, Australian, Imperial}

// SystemOf returns the system of the given name.
func SystemOf(name string) (System, bool) {
	for _, s := range Systems {
		if s.Name == name {
			return s, true
		}
	}
	return System{}, false
}

// unit returns what the system means by a unit that has several sizes.
func (s System) unit(u Unit) Unit {
	switch u.ID {
	case Cup.ID:
		return s.Cup
	case Tablespoon.ID:
		return s.Tablespoon
	case Teaspoon.ID:
		return s.Teaspoon
	case FluidOunce.ID:
		return s.FluidOunce
	case Pint.ID:
		return s.Pint
	case Quart.ID:
		return s.Quart
	case Ounce.ID:
		return s.Ounces
	}
	return u
}

// A Quantity is an exact amount with its unit.
type Quantity struct {
	Amount exact.Number
	Unit   Unit
}

// Q returns an amount of a unit; the amount is a decimal or a fraction such
// as "1/3". It panics on bad text and is meant for constants in the code.
func Q(amount string, u Unit) Quantity { return Quantity{exact.MustParse(amount), u} }

// Base returns the amount in the base unit of its dimension: grams,
// millilitres, millimetres, minutes, °C, pence, or pieces.
func (q Quantity) Base() exact.Number { return q.Amount.Mul(q.Unit.base).Add(q.Unit.zero) }

// In returns the same quantity in another unit of the same dimension, and
// whether there is one. Things counted by different words are different.
func (q Quantity) In(u Unit) (Quantity, bool) {
	if q.Unit.Dimension != u.Dimension || u.Dimension == Count && q.Unit.ID != u.ID {
		return Quantity{}, false
	}
	return Quantity{q.Base().Sub(u.zero).Div(u.base), u}, true
}

// Times returns the quantity multiplied by a factor.
func (q Quantity) Times(factor exact.Number) Quantity {
	return Quantity{q.Amount.Mul(factor), q.Unit}
}

// Plus returns the sum in the unit of q. Both have the same dimension.
func (q Quantity) Plus(o Quantity) Quantity {
	return Quantity{q.Amount.Add(o.Base().Div(q.Unit.base)), q.Unit}
}

// A Density is grams for each millilitre; the zero value is unknown.
type Density struct{ exact.Number }

// Known reports whether there is a density.
func (d Density) Known() bool { return d.Sign() > 0 }

// ToVolume returns the millilitres that a mass fills.
func (d Density) ToVolume(mass Quantity) Quantity {
	return Quantity{mass.Base().Div(d.Number), Millilitre}
}

// ToMass returns the grams of a volume.
func (d Density) ToMass(volume Quantity) Quantity {
	return Quantity{volume.Base().Mul(d.Number), Gram}
}
