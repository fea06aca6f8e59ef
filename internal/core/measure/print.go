package measure

import (
	"math"
	"strconv"

	"freshapron/internal/core/exact"
)

var vulgar = map[[2]int64]string{
	{1, 2}: "½", {1, 3}: "⅓", {2, 3}: "⅔", {1, 4}: "¼", {3, 4}: "¾",
	{1, 8}: "⅛", {3, 8}: "⅜", {5, 8}: "⅝", {7, 8}: "⅞",
}

// Mixed prints a number as people write it: 2½, ⅓, 12; where
// there is no such fraction with one decimal, under 1 with two.
func Mixed(n exact.Number) string {
	if n.Cmp(exact.Int(1e15)) > 0 {
		return n.Decimal(0) // a slip of the keys, which is said as it was typed
	}
	whole := n.Floor()
	num, den := n.Sub(exact.Int(whole)).Ratio()
	if num == 0 {
		return strconv.FormatInt(whole, 10)
	}
	f, ok := vulgar[[2]int64{num, den}]
	switch {
	case !ok && n.Less(exact.Int(1)):
		return n.Decimal(2)
	case !ok:
		return n.Decimal(1)
	case whole == 0:
		return f
	default:
		return strconv.FormatInt(whole, 10) + f
	}
}

// word returns the unit as it follows the amount: "cup", "cups".
func (u Unit) word(n exact.Number) string {
	if u.Plural != "" && n.Cmp(exact.Int(1)) > 0 {
		return u.Plural
	}
	return u.Symbol
}

// String prints the quantity as a teacher would write it: 112.5 g, 1.35 kg,
// 2½ tbsp, ¾, 2 sprigs, £1.20.
func (q Quantity) String() string {
	thousand := exact.Int(1000)
	switch q.Unit.ID {
	case Gram.ID:
		if q.Amount.Cmp(thousand) >= 0 {
			return q.Amount.Div(thousand).Decimal(2) + " kg"
		}
	case Millilitre.ID:
		if q.Amount.Cmp(thousand) >= 0 {
			return q.Amount.Div(thousand).Decimal(2) + " l"
		}
	case Celsius.ID, Fahrenheit.ID:
		return q.Amount.Decimal(0) + " " + q.Unit.Symbol
	case Penny.ID:
		if q.Amount.Less(exact.Int(100)) {
			return q.Amount.Decimal(0) + "p"
		}
		return "£" + exact.Frac(q.Amount.Round(), 100).Fixed(2)
	}
	switch {
	case q.Unit.Dimension == Count && q.Unit.Symbol == "":
		return Mixed(q.Amount)
	case q.Unit.Dimension == Count, q.byFraction():
		return Mixed(q.Amount) + " " + q.Unit.word(q.Amount)
	}
	places := 1
	if q.Amount.Abs().Less(exact.Int(1)) {
		places = 2
	}
	return q.Amount.Decimal(places) + " " + q.Unit.word(q.Amount)
}

// byFraction reports whether the unit is one of which people write halves
// and thirds rather than decimals.
func (q Quantity) byFraction() bool {
	switch q.Unit.Dimension {
	case Volume:
		metric := q.Unit.ID == Millilitre.ID || q.Unit.ID == Centilitre.ID || q.Unit.ID == Decilitre.ID || q.Unit.ID == Litre.ID
		return !metric
	case Mass:
		return q.Unit.ID == Pound.ID || q.Unit.ID == ButterStick.ID
	case Length:
		return q.Unit.ID == Inch.ID
	}
	return false
}

// Price prints pence, rounded half away from nothing: "£12.05", "85p", "−5p".
func Price[N int | float64](pence N) string {
	whole := int64(math.Round(float64(pence)))
	if whole < 0 {
		return "−" + Price(float64(-whole))
	}
	return Quantity{Amount: exact.Int(whole), Unit: Penny}.String()
}
