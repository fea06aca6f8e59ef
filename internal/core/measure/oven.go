package measure

import (
	"fmt"

	"freshapron/internal/core/exact"
)

// gasMarks gives the conventional °C for each gas mark, as cookers' tables
// print them: marks from 1 on are 250 + 25·n °F, rounded to tens.
var gasMarks = []struct {
	mark    exact.Number
	celsius int64
}{
	{exact.Frac(1, 4), 110}, {exact.Frac(1, 2), 130}, {exact.Int(1), 140}, {exact.Int(2), 150}, {exact.Int(3), 160},
	{exact.Int(4), 180}, {exact.Int(5), 190}, {exact.Int(6), 200}, {exact.Int(7), 220}, {exact.Int(8), 230}, {exact.Int(9), 240},
}

// GasToCelsius returns the conventional temperature of a gas mark from ¼ to
// 9, and whether there is such a mark.
func GasToCelsius(mark exact.Number) (Quantity, bool) {
	for _, g := range gasMarks {
		if g.mark.Cmp(mark) == 0 {
			return Quantity{exact.Int(g.celsius), Celsius}, true
		}
	}
	return Quantity{}, false
}

// CelsiusToGas returns the gas mark nearest to a conventional temperature,
// and whether one is within 10 °C of it.
func CelsiusToGas(celsius exact.Number) (exact.Number, bool) {
	best, off := exact.Number{}, exact.Int(1000)
	for _, g := range gasMarks {
		if d := exact.Int(g.celsius).Sub(celsius).Abs(); d.Less(off) {
			best, off = g.mark, d
		}
	}
	return best, off.Cmp(exact.Int(10)) <= 0
}

// An Oven says how one oven's dial differs from a conventional temperature.
type Oven struct {
	Fan      bool
	FanUnder exact.Number // °C that the fan setting lies under the conventional one; 0 is the usual 20
	RunsHot  exact.Number // °C that it is hotter than its dial says; negative where colder
}

// usualFanUnder is how far under a conventional setting a fan oven is set.
var usualFanUnder = exact.Int(20)

// Dial returns what to set on this oven's dial for a conventional
// temperature in °C.
func (o Oven) Dial(celsius exact.Number) Quantity {
	d := celsius.Sub(o.RunsHot)
	if o.Fan {
		under := o.FanUnder
		if under.Sign() == 0 {
			under = usualFanUnder
		}
		d = d.Sub(under)
	}
	return Quantity{d, Celsius}
}

// Conventional returns the conventional temperature that a dial setting is.
func (o Oven) Conventional(dial exact.Number) Quantity {
	at := exact.Int(0)
	return Quantity{dial.Sub(o.Dial(at).Amount), Celsius}
}

// Settings says a conventional temperature in every way of setting an oven:
// "220 °C, fan 200 °C, gas mark 7, 425 °F".
func Settings(celsius exact.Number) string {
	s := fmt.Sprintf("%s, fan %s", Quantity{celsius, Celsius}, Oven{Fan: true}.Dial(celsius))
	if gas, ok := CelsiusToGas(celsius); ok {
		s += ", gas mark " + Mixed(gas)
	}
	f, _ := Quantity{celsius, Celsius}.In(Fahrenheit)
	// Dials of Fahrenheit ovens have marks every 25 °F.
	return s + ", " + Quantity{f.Amount.RoundTo(exact.Int(25)), Fahrenheit}.String()
}
