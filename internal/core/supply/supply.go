// Package supply goes from what lessons take to what has to be there: merged by
// item over all lessons, with what is trimmed off, and traceable both ways; and
// from that, the stock, the garden and what suppliers sell, to an order.
package supply

import (
	"cmp"
	"slices"
	"strings"

	"freshapron/internal/core/exact"
	"freshapron/internal/core/lesson"
	"freshapron/internal/core/measure"
	"freshapron/internal/core/order"
	"freshapron/internal/core/pantry"
)

// A Lesson is a lesson for which something has to be there.
type Lesson struct {
	ID    int64
	On    order.Day
	Takes []lesson.Take
}

// An Item is something that is kept, bought and needed, in one unit.
type Item struct {
	Key   string            // the pantry's id; a name with its unit where amounts can't be put together
	Stock pantry.Ingredient // zero where the pantry does not know it
	Name  string
	Unit  measure.Unit // grams, millilitres, or what it is counted in
}

// Says prints an amount of the item: "1.2 kg plain flour", "3 leeks".
func (i Item) Says(amount exact.Number) string {
	q := measure.Quantity{Amount: amount, Unit: i.Unit}
	if i.Stock.ID == "" {
		return Round(q).String() + " " + i.Name
	}
	if i.Unit.Dimension != measure.Count && i.Stock.Plural != "" {
		return Round(q).String() + " " + i.Stock.Plural
	}
	return i.Stock.Of(Round(q))
}

// Round makes an amount as a list shows it: whole grams and millilitres, tens of
// them from 1000 on, quarters of what is counted, never less than it is.
func Round(q measure.Quantity) measure.Quantity {
	up := func(step exact.Number) { q.Amount = exact.Int(q.Amount.Div(step).Ceil()).Mul(step) }
	thousand := exact.Int(1000)
	for _, u := range []measure.Unit{measure.Gram, measure.Millilitre} { // kilograms are kept too
		if in, ok := q.In(u); ok {
			q = in
		}
	}
	switch {
	case q.Unit.Dimension == measure.Count:
		up(exact.Frac(1, 4))
	case q.Amount.Less(thousand):
		up(exact.Int(1))
	default:
		up(exact.Int(10)) // printed as kilograms or litres with two places
	}
	return q
}

// A Part is what one place of a lesson adds to a need.
type Part struct {
	Lesson int64
	lesson.Take
	Adds exact.Number // in the item's unit, with what is trimmed off and without what comes from home
}

// A Need is what all lessons of a day take of an item.
type Need struct {
	Item   Item
	On     order.Day
	Amount exact.Number // to have, in the item's unit
	Of     []Part
}

// Sold returns what items are sold in, by the pantry's id: by that they are
// counted.
type Sold map[string][]measure.Quantity

// unitOf is the unit in which all of an ingredient is put together: grams where a
// pack is sold by weight, pieces where all are counted, millilitres where all
// are poured.
func unitOf(in pantry.Ingredient, sold []measure.Quantity) measure.Unit {
	for _, p := range in.Packs {
		if len(sold) == 0 || in.Counted() {
			sold = append(slices.Clone(sold), p.Size)
		}
	}
	unit := measure.Unit{ID: "?"}
	for _, q := range sold {
		own := base(q.Unit)
		if unit.ID == "?" {
			unit = own
		}
		if own.ID != unit.ID {
			return measure.Gram
		}
	}
	switch {
	case unit.ID != "?":
		return unit
	case in.Counted():
		return measure.Each
	case in.Pours:
		return measure.Millilitre
	}
	return measure.Gram
}

// base is the unit in which amounts of a dimension are added up.
func base(u measure.Unit) measure.Unit {
	switch u.Dimension {
	case measure.Mass:
		return measure.Gram
	case measure.Volume:
		return measure.Millilitre
	}
	return u
}

// in turns a quantity of an ingredient into the unit; false where nothing says
// how.
func in(i pantry.Ingredient, q measure.Quantity, unit measure.Unit, grams func(measure.Quantity) (exact.Number, bool)) (exact.Number, bool) {
	if base(q.Unit).ID == unit.ID {
		if q.Unit.Dimension == measure.Count {
			return q.Amount, true
		}
		return q.Base(), true
	}
	g, ok := grams(q)
	if !ok {
		return exact.Number{}, false
	}
	switch {
	case unit.Dimension == measure.Mass:
		return g, true
	case unit.Dimension == measure.Volume && i.Density().Known():
		return i.Density().ToVolume(measure.Quantity{Amount: g, Unit: measure.Gram}).Base(), true
	case unit.ID == measure.Each.ID && i.Counted():
		return g.Div(i.One), true
	}
	one, ok := grams(measure.Quantity{Amount: exact.Int(1), Unit: unit})
	if !ok || one.Sign() == 0 {
		return exact.Number{}, false
	}
	return g.Div(one), true
}

// Whole turns what is bought or in the store, with shell and skin, into the
// item's unit.
func (i Item) Whole(q measure.Quantity) (exact.Number, bool) {
	return in(i.Stock, q, i.Unit, i.Stock.BoughtGrams)
}

// used turns what a recipe uses into what has to be bought for it.
func (i Item) used(q measure.Quantity) (exact.Number, bool) {
	if q.Unit.Dimension == measure.Count {
		return i.Whole(q) // what one weighs as bought has its trimming in it
	}
	n, ok := in(i.Stock, q, i.Unit, i.Stock.Grams)
	if whole := exact.Int(1).Sub(i.Stock.Trimmed()); ok && i.Unit.Dimension != measure.Count {
		n = n.Div(whole)
	}
	return n, ok
}

// ItemOf returns the item that a name of the pantry stands for.
func ItemOf(p *pantry.Pantry, id string, sold Sold) Item {
	stock, ok := p.Find(id)
	if !ok {
		return Item{Key: id, Name: id, Unit: measure.Each}
	}
	return Item{Key: id, Stock: stock, Name: stock.Name, Unit: unitOf(stock, sold[id])}
}

// Merge puts together what lessons take, by day and item, in the order of the
// days and then of names. What comes out of the tap is nobody's need.
func Merge(p *pantry.Pantry, sold Sold, lessons []Lesson) []Need {
	type key struct {
		item string
		on   order.Day
	}
	at := map[key]int{}
	var out []Need
	for _, l := range lessons {
		for _, t := range l.Takes {
			item, adds, ok := itemFor(p, sold, t)
			if !ok {
				continue
			}
			adds = adds.Mul(exact.Int(1).Sub(t.Home))
			k := key{item.Key, l.On}
			n, found := at[k]
			if !found {
				n = len(out)
				at[k] = n
				out = append(out, Need{Item: item, On: l.On})
			}
			out[n].Amount = out[n].Amount.Add(adds)
			out[n].Of = append(out[n].Of, Part{l.ID, t, adds})
		}
	}
	out = slices.DeleteFunc(out, func(n Need) bool { return n.Amount.Sign() == 0 })
	slices.SortStableFunc(out, func(a, b Need) int {
		return cmp.Or(cmp.Compare(a.On, b.On), strings.Compare(strings.ToLower(a.Item.Name), strings.ToLower(b.Item.Name)))
	})
	return out
}

// itemFor returns the item that is taken and how much of it has to be bought;
// false for what nobody buys.
func itemFor(p *pantry.Pantry, sold Sold, t lesson.Take) (Item, exact.Number, bool) {
	stock, known := p.Find(t.Line.Pantry)
	if known && stock.Tap() {
		return Item{}, exact.Number{}, false
	}
	if known {
		i := ItemOf(p, stock.ID, sold)
		if n, ok := i.used(t.Amount); ok {
			return i, n, true
		}
	}
	// It is sold by one measure and used by another, and nothing says how they
	// go together: it stands by itself, in its own.
	own := Item{Stock: stock, Name: t.Line.Name, Unit: base(t.Amount.Unit)}
	if known {
		own.Name = stock.Name
	}
	own.Key = strings.ToLower(own.Name) + " by " + cmp.Or(own.Unit.Symbol, "piece")
	n := t.Amount.Amount
	if own.Unit.Dimension != measure.Count {
		n = t.Amount.Base()
	}
	return own, n, true
}

// Apart reports whether an item stands by itself because its amounts can't be put
// together with what is sold.
func (i Item) Apart() bool { return i.Stock.ID == "" || i.Key != i.Stock.ID }
