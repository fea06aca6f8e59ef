package order

import (
	"fmt"
	"maps"
	"slices"

	"freshapron/internal/core/exact"
	"freshapron/internal/core/problem"
	"freshapron/internal/core/words"
)

// The search counts in whole millionths of a unit and ten-thousandths of the
// currency; the limits keep its sums within 64 bits.
const (
	amountParts = 1_000_000
	priceParts  = 10_000
	maxAmount   = 10_000_000
	maxPrice    = 1_000_000
	maxDays     = 3660 // lead and keeping times
	maxPacks    = 1_000_000
	maxWindow   = 400
)

// Check returns a problem.List of what can't be ordered by, each with its path
// in the order file, or nil.
func (w Week) Check() error {
	c := checker{units: map[string]said{}, suppliers: map[string]int{}}
	switch {
	case w.To < w.From:
		c.Add("to", "%s is before from, %s", w.To, w.From)
	case w.To-w.From > maxWindow:
		c.Add("to", "%s is over %d days after from, %s; order a term at a time", w.To, maxWindow, w.From)
	}
	needed := map[string]exact.Number{}
	for i, n := range w.Needs {
		at := fmt.Sprintf("needs[%d]", i)
		c.item(at, n.Item, n.Unit)
		c.amount(at+".amount", n.Amount, true)
		if n.On < w.From || n.On > w.To {
			c.Add(at+".on", "%s is outside %s to %s; give what is needed within them", n.On, w.From, w.To)
		}
		needed[n.Item] = needed[n.Item].Add(n.Amount)
		if maxAmount < needed[n.Item].Floor() {
			c.Add(at+".amount", "takes the %s that are needed over %d; is the unit right?", n.Item, maxAmount)
		}
	}
	for i, b := range w.Stock {
		at := fmt.Sprintf("stock[%d]", i)
		c.item(at, b.Item, b.Unit)
		c.amount(at+".amount", b.Amount, false)
	}
	c.sellers(w.Suppliers)
	type pack struct{ item, supplier, name string }
	seen := map[pack]int{}
	for i, p := range w.Packs {
		at := fmt.Sprintf("packs[%d]", i)
		c.item(at, p.Item, p.Unit)
		c.amount(at+".amount", p.Amount, true)
		c.price(at+".price", p.Price, true)
		if p.Name == "" {
			c.Add(at+".name", "is empty; name the pack, for instance \"500 g\"")
		}
		if _, ok := c.suppliers[p.Supplier]; !ok {
			c.Add(at+".supplier", "%q is none of the suppliers%s", p.Supplier, words.DidYouMean(p.Supplier, slices.Sorted(maps.Keys(c.suppliers))))
		}
		if p.KeepsDays != nil {
			c.days(at+".keeps_days", *p.KeepsDays)
		}
		if p.Most != nil && *p.Most < 0 {
			c.Add(at+".most", "is %d; it must be 0 or more", *p.Most)
		}
		if p.Amount.Sign() > 0 && exact.Int(maxPacks).Mul(p.Amount).Less(needed[p.Item]) {
			c.Add(at+".amount", "over a million of this pack would be needed; is the unit right?")
		}
		key := pack{p.Item, p.Supplier, p.Name}
		if first, ok := seen[key]; ok && p.Name != "" {
			c.Add(at, "%s sells %s as %q in packs[%d] already; give each pack a name of its own", p.Supplier, p.Item, p.Name, first)
		} else {
			seen[key] = i
		}
	}
	for i, f := range w.Fixed {
		if _, ok := seen[pack{f.Item, f.Supplier, f.Name}]; !ok || f.Count < 0 || f.Count > maxPacks {
			c.Add(fmt.Sprintf("fixed[%d]", i), "%d of %s as %q from %s: there is no such pack, or not so many", f.Count, f.Item, f.Name, f.Supplier)
		}
	}
	return c.Err()
}

// checkFixed returns a problem.List of what was decided to come and can't.
func (m *model) checkFixed() error {
	var out problem.List
	for i, f := range m.week.Fixed {
		comes := slices.ContainsFunc(m.deliveries, func(d delivery) bool {
			return d.supplier != ordered && m.week.Suppliers[d.supplier].ID == f.Supplier && d.on == f.On
		})
		if f.Count > 0 && !comes {
			out.Add(fmt.Sprintf("fixed[%d]", i), "%s can't come from %s on %s: there is no such delivery any more, or what is left of it does not come to the least order", f.Item, f.Supplier, f.On)
		}
	}
	return out.Err()
}

// said is a unit and where it was first given.
type said struct{ unit, at string }

type checker struct {
	problem.List
	units     map[string]said
	suppliers map[string]int
}

func (c *checker) item(at, item, unit string) {
	switch first, ok := c.units[item]; {
	case item == "":
		c.Add(at+".item", "is empty; name the item")
	case unit == "":
		c.Add(at+".unit", "is empty; say what the amount is counted in, for instance \"g\"")
	case !ok:
		c.units[item] = said{unit, at}
	case first.unit != unit:
		c.Add(at+".unit", "%s is in %q here and in %q at %s; give all of one item in one unit", item, unit, first.unit, first.at)
	}
}

func (c *checker) amount(path string, n exact.Number, some bool) {
	c.number(path, n, amountParts, maxAmount, some)
}

func (c *checker) price(path string, n exact.Number, some bool) {
	c.number(path, n, priceParts, maxPrice, some)
}

// number holds a number that is above 0, or 0 as well, to what the search can
// count with.
func (c *checker) number(path string, n exact.Number, parts, most int64, some bool) {
	switch {
	case some && n.Sign() <= 0:
		c.Add(path, "is %s; it must be above 0", n.Decimal(6))
	case n.Sign() < 0:
		c.Add(path, "is %s; it must be 0 or more", n.Decimal(6))
	case exact.Int(most).Less(n):
		c.Add(path, "is %s; it can be %d at most", n.Decimal(6), most)
	case !n.Mul(exact.Int(parts)).IsInt():
		c.Add(path, "is finer than 1/%d; round it", parts)
	}
}

func (c *checker) days(path string, n int) {
	if n < 0 || n > maxDays {
		c.Add(path, "is %d; it must be 0 to %d days", n, maxDays)
	}
}

func (c *checker) sellers(list []Supplier) {
	for i, s := range list {
		at := fmt.Sprintf("suppliers[%d]", i)
		if first, ok := c.suppliers[s.ID]; ok {
			c.Add(at+".id", "%q is suppliers[%d] already", s.ID, first)
		} else {
			c.suppliers[s.ID] = i
		}
		if s.ID == "" {
			c.Add(at+".id", "is empty; name the supplier")
		}
		c.price(at+".charge", s.Charge, false)
		c.price(at+".minimum", s.Minimum, false)
		c.days(at+".lead_days", s.LeadDays)
	}
}
