package measure

import (
	"strconv"

	"freshapron/internal/core/exact"
)

var vulgar = map[[2]int64]string{
	{1, 2}: "½", {1, 3}: "⅓", {2, 3}: "⅔", {1, 4}: "¼", {3, 4}: "¾",
	{1, 8}: "⅛", {3, 8}: "⅜", {5, 8}: "⅝", {7, 8}: "⅞",
}

// Mixed prints a number as people write it: 2½, ⅓, 12; with one decimal
// where there is no such fraction.
func Mixed(n exact.Number) string {
	whole := n.Floor()
	num, den := n.Sub(exact.Int(whole)).Ratio()
	if num == 0 {
		return strconv.FormatInt(whole, 10)
	}
	f, ok := vulgar[[2]int64{num, den}]
	switch {
	case !ok:
		return n.Decimal(1)
	case whole == 0:
		return f
	default:
		return strconv.FormatInt(whole, 10) + f
	}
}

// String prints the quantity as a teacher would write it: 112.5 g, 1.35 kg,
// 2½ tbsp, ¾.
func (q Quantity) String() string {
	thousand := exact.Int(1000)
	switch q.Unit.Dimension {
	case Mass, Volume:
		if q.Unit == Gram && q.Amount.Cmp(thousand) >= 0 {
			return q.Amount.Div(thousand).Decimal(2) + " kg"
		}
		if q.Unit == Millilitre && q.Amount.Cmp(thousand) >= 0 {
			return q.Amount.Div(thousand).Decimal(2) + " l"
		}
		if q.Unit == Teaspoon || q.Unit == Tablespoon {
			return Mixed(q.Amount) + " " + q.Unit.Symbol
		}
		places := 1
		if q.Amount.Abs().Less(exact.Int(1)) {
			places = 2
		}
		return q.Amount.Decimal(places) + " " + q.Unit.Symbol
	default:
		return Mixed(q.Amount)
	}
}
