// Package order finds what to buy for a week of lessons: the packs, supplier by
// supplier and delivery by delivery, that meet every need from something that
// is still good on its day and cost least, charges and least orders counted.
//
// The answer is searched for exactly. For each item [item.cheapest] goes from
// need to need over what may be in the store with its date; over all items
// [search] tries which deliveries are to come at all. Where the search has to
// stop early the order says so, with a bound that no order can go below.
package order

import (
	"fmt"
	"time"

	"freshapron/internal/core/exact"
)

// A Day counts from 1 January 1970.
type Day int

const daySeconds = 24 * 60 * 60

// ParseDay reads a date such as 2026-11-30.
func ParseDay(s string) (Day, error) {
	t, err := time.Parse(time.DateOnly, s)
	if err != nil {
		return 0, fmt.Errorf("%q is no date such as 2026-11-30", s)
	}
	return Day(t.Unix() / daySeconds), nil
}

// String prints the date as 2026-11-30.
func (d Day) String() string {
	return time.Unix(int64(d)*daySeconds, 0).UTC().Format(time.DateOnly)
}

// A Week is what an order is worked out from. All of one item is in one unit.
type Week struct {
	From, To  Day  // the first and the last day on which something is needed or comes
	Today     *Day // where set, what can't come before it with a supplier's lead days is not counted
	Needs     []Need
	Stock     []Batch
	Suppliers []Supplier
	Packs     []Pack
	Fixed     []Fixed
}

// A Need is an amount of an item that a lesson takes on a day.
type Need struct {
	Item   string
	Amount exact.Number // over 0
	Unit   string
	On     Day
	For    string // whose need it is, for people to read
}

// A Batch is what is in the store, or has been ordered before.
type Batch struct {
	Item   string
	Amount exact.Number // 0 or more
	Unit   string
	From   *Day // the day on which it comes; nil where it is there
	UseBy  *Day // the last day on which it is good; nil where it does not go off
}

// A Supplier delivers on given days.
type Supplier struct {
	ID       string
	Delivers []Day
	Charge   exact.Number // for each delivery that comes
	Minimum  exact.Number // what the goods of a delivery come to at least, without its charge
	LeadDays int          // from ordering to delivery
}

// A Pack is what a supplier sells an item in.
type Pack struct {
	Item, Supplier, Name string

	Amount    exact.Number // over 0
	Unit      string
	Price     exact.Number // over 0
	KeepsDays *int         // from the delivery to the last day on which it is good; nil where it does not go off
	Most      *int         // how many can come on one delivery; nil for any number
}

// A Fixed is what somebody has decided about a pack: exactly so many come on a
// delivery, whatever that costs.
type Fixed struct {
	Supplier   string
	On         Day
	Item, Name string
	Count      int // 0 or more
}

// An Order is what to buy, what each need is then met from, what is left over
// and what is missing.
type Order struct {
	Total      exact.Number // prices and charges
	Bound      exact.Number // no order that meets as much costs less
	Optimal    bool         // that Total is the least there is
	Deliveries []Delivery   // by day, then as the suppliers stand in the week
	Uses       []Use        // by day, then by item as first needed
	Left       []Leftover   // by item, then by date
	Short      []Short      // by day, then by item as first needed
}

// A Delivery is what one supplier brings on one day.
type Delivery struct {
	Supplier string
	On       Day
	OrderBy  *Day // the last day to order it; nil where the week does not say which day it is
	Charge   exact.Number
	Packs    []Packs
}

// Packs are so many of one pack.
type Packs struct {
	Item, Name string

	Count int64
	Cost  exact.Number
}

// A Use is what a day's need of an item takes from one batch.
type Use struct {
	Item   string
	On     Day
	Amount exact.Number
	From   Source
}

// A Source is a batch: of the stock, by its place in the list, or of packs that
// a delivery brought.
type Source struct {
	Stock    int // where Supplier is empty
	Supplier string
	On       Day
	Name     string
}

// A Leftover is what nobody takes of an item with one date.
type Leftover struct {
	Item   string
	Amount exact.Number
	Unit   string
	UseBy  *Day
	Worth  exact.Number // at the price of the pack it came in; stock counts nothing
}

// A Short is what can't be met of a day's need.
type Short struct {
	Item   string
	On     Day
	Amount exact.Number
	Unit   string
	Why    string
}
