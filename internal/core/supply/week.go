package supply

import (
	"cmp"
	"fmt"
	"slices"
	"strconv"

	"freshapron/internal/core/exact"
	"freshapron/internal/core/measure"
	"freshapron/internal/core/order"
	"freshapron/internal/core/pantry"
	"freshapron/internal/core/term"
)

// A Supplier sells and delivers.
type Supplier struct {
	ID            int64
	Name          string
	Days          term.Days
	LeadDays      int // from ordering to delivery
	Least, Charge int // pence: of the goods of a delivery, and for each that comes
}

// comes reports whether a day of the week is among some.
func comes(days term.Days, on order.Day) bool {
	const thursday = 3 // 1 January 1970
	return days.Has(term.Weekday(((int(on)+thursday)%7 + 7) % 7))
}

// A Product is a pack that a supplier sells of an item.
type Product struct {
	ID, Supplier int64
	Code         string // the supplier's
	Item         string // id in the pantry; empty where nobody has said what it is
	Name         string
	Size         measure.Quantity
	Pence        int       // over 0
	Keeps        *int      // days unopened; nil where it does not go off
	Opened       *int      // days once it is opened; nil as unopened
	Days         term.Days // on which it can come
	Most         *int      // on one delivery
}

// A Batch is what is in the store, in a bed of the garden, or on its way.
type Batch struct {
	ID     int64
	Item   string // id in the pantry, or a name
	Amount measure.Quantity
	From   *order.Day // the day from which it is there; nil for now
	UseBy  *order.Day
	Says   string // where: "fridge", "bed by the wall"
}

// A Stretch is the days that are ordered for, and all that is known of them.
type Stretch struct {
	From, To, Today order.Day
	Pantry          *pantry.Pantry
	Lessons         []Lesson
	Batches         []Batch
	Suppliers       []Supplier
	Products        []Product
	Decided         []Decided
	Closed          []order.Day // on which nobody is there to take a delivery
}

// A Decided is how many of a product somebody wants on a delivery.
type Decided struct {
	Product int64
	On      order.Day
	Count   int
}

// A Plan is what is needed in a stretch and how it is met.
type Plan struct {
	Stretch
	Needs      []Need
	Order      order.Order
	Deliveries []Delivery
	Left       []Left
	Short      []Short
	Unknown    []Batch // of which the pantry does not know what they are, or how much that is
	Dropped    []Decided

	items map[string]Item
	week  order.Week
	stock []int // of the week's stock, the places in Batches
	uses  map[dayOf][]order.Use
	needs map[dayOf]int
}

// dayOf is an item on a day.
type dayOf struct {
	item string
	on   order.Day
}

// A Delivery is what to order for a day.
type Delivery struct {
	Supplier Supplier
	On       order.Day
	By       order.Day // the last day to order it
	Lines    []Line
	Goods    exact.Number // pence
}

// A Line is so many of a product.
type Line struct {
	Product Product
	Item    Item
	Count   int
	Pence   exact.Number
	Decided bool   // somebody wants as many
	For     []Part // what is met from it
}

// A Left is what nobody takes of an item.
type Left struct {
	Item   Item
	Amount exact.Number
	UseBy  *order.Day
	Pence  exact.Number // what it cost, as far as it is bought in this order
}

// A Short is what can't be had.
type Short struct {
	Item   Item
	On     order.Day
	Amount exact.Number
	Why    string
	Of     []Part
}

// SoldOf returns what products come in, by item.
func SoldOf(products []Product) Sold {
	s := Sold{}
	for _, p := range products {
		if p.Item != "" {
			s[p.Item] = append(s[p.Item], p.Size)
		}
	}
	return s
}

// Solve finds the cheapest order for a stretch. What was decided and can't come
// any more is dropped, and said.
func Solve(s Stretch) (Plan, error) {
	sold := SoldOf(s.Products)
	p := Plan{Stretch: s, Needs: Merge(s.Pantry, sold, s.Lessons), items: map[string]Item{}}
	p.week = order.Week{From: s.From, To: s.To, Today: &s.Today}
	for _, n := range p.Needs {
		p.items[n.Item.Key] = n.Item
		p.week.Needs = append(p.week.Needs, order.Need{Item: n.Item.Key, Amount: thousandths(n.Amount), Unit: unitName(n.Item.Unit), On: n.On})
	}
	p.batches(sold)
	p.sellers()
	p.decide()
	var err error
	if p.Order, err = order.Solve(p.week); err != nil && len(p.week.Fixed) > 0 {
		// Together they leave a delivery under its least order: the plan is made
		// without them, and says so.
		p.Dropped, p.week.Fixed = append(p.Dropped, s.Decided...), p.closedFor()
		p.Order, err = order.Solve(p.week)
	}
	if err != nil {
		return p, fmt.Errorf("order: %w", err)
	}
	p.read()
	return p, nil
}

// thousandths rounds up to what the order can count with.
func thousandths(n exact.Number) exact.Number { return exact.Frac(n.Mul(exact.Int(1000)).Ceil(), 1000) }

func unitName(u measure.Unit) string { return cmp.Or(u.ID, "piece") }

func (p *Plan) batches(sold Sold) {
	for n, b := range p.Batches {
		i, ok := p.items[b.Item]
		if !ok {
			i = ItemOf(p.Pantry, b.Item, sold)
		}
		amount, ok := i.Whole(b.Amount)
		if i.Stock.ID == "" || !ok {
			p.Unknown = append(p.Unknown, b)
			continue
		}
		p.items[i.Key] = i
		p.stock = append(p.stock, n)
		amount = exact.Frac(amount.Mul(exact.Int(1000)).Floor(), 1000)
		p.week.Stock = append(p.week.Stock, order.Batch{Item: i.Key, Amount: amount, Unit: unitName(i.Unit), From: b.From, UseBy: b.UseBy})
	}
}

func (p *Plan) sellers() {
	for _, s := range p.Suppliers {
		out := order.Supplier{ID: strconv.FormatInt(s.ID, 10), Charge: exact.Frac(int64(s.Charge), 100), Minimum: exact.Frac(int64(s.Least), 100), LeadDays: s.LeadDays}
		for d := p.From; d <= p.To; d++ {
			if comes(s.Days, d) && !slices.Contains(p.Closed, d) {
				out.Delivers = append(out.Delivers, d)
			}
		}
		p.week.Suppliers = append(p.week.Suppliers, out)
	}
	for _, k := range p.Products {
		i, needed := p.items[k.Item]
		if !needed || k.Pence <= 0 {
			continue
		}
		size, ok := i.Whole(k.Size)
		size = exact.Frac(size.Mul(exact.Int(1000)).Floor(), 1000)
		if !ok || size.Sign() <= 0 {
			continue
		}
		p.week.Packs = append(p.week.Packs, order.Pack{Item: i.Key, Supplier: strconv.FormatInt(k.Supplier, 10), Name: strconv.FormatInt(k.ID, 10),
			Amount: size, Unit: unitName(i.Unit), Price: exact.Frac(int64(k.Pence), 100), KeepsDays: k.Keeps, Most: k.Most})
	}
}

// product returns a product by the name of its pack.
func (p *Plan) product(name string) Product {
	i := slices.IndexFunc(p.Products, func(k Product) bool { return strconv.FormatInt(k.ID, 10) == name })
	return p.Products[i]
}

// closedFor are the days on which products don't come though their suppliers do.
func (p *Plan) closedFor() []order.Fixed {
	var out []order.Fixed
	for _, k := range p.week.Packs {
		days := p.product(k.Name).Days
		for _, s := range p.week.Suppliers {
			for _, d := range s.Delivers {
				if s.ID == k.Supplier && !comes(days, d) {
					out = append(out, order.Fixed{Supplier: k.Supplier, On: d, Item: k.Item, Name: k.Name})
				}
			}
		}
	}
	return out
}

// decide hands on what somebody wants, as far as it can still come.
func (p *Plan) decide() {
	p.week.Fixed = p.closedFor()
	for _, d := range p.Decided {
		at := slices.IndexFunc(p.week.Packs, func(k order.Pack) bool { return k.Name == strconv.FormatInt(d.Product, 10) })
		if at < 0 {
			p.Dropped = append(p.Dropped, d)
			continue
		}
		pack := p.week.Packs[at]
		s := p.week.Suppliers[slices.IndexFunc(p.week.Suppliers, func(s order.Supplier) bool { return s.ID == pack.Supplier })]
		inTime := slices.Contains(s.Delivers, d.On) && d.On >= p.Today+order.Day(s.LeadDays) && comes(p.product(pack.Name).Days, d.On)
		switch {
		case inTime:
			p.week.Fixed = append(p.week.Fixed, order.Fixed{Supplier: pack.Supplier, On: d.On, Item: pack.Item, Name: pack.Name, Count: d.Count})
		case d.Count > 0:
			p.Dropped = append(p.Dropped, d)
		}
	}
}

// read turns the order back into what people know: deliveries with products, and
// behind every line the benches that it is for.
func (p *Plan) read() {
	p.uses, p.needs = map[dayOf][]order.Use{}, map[dayOf]int{}
	for _, u := range p.Order.Uses {
		p.uses[dayOf{u.Item, u.On}] = append(p.uses[dayOf{u.Item, u.On}], u)
	}
	for i, n := range p.Needs {
		p.needs[dayOf{n.Item.Key, n.On}] = i
	}
	for _, d := range p.Order.Deliveries {
		s := p.Suppliers[slices.IndexFunc(p.Suppliers, func(s Supplier) bool { return strconv.FormatInt(s.ID, 10) == d.Supplier })]
		out := Delivery{Supplier: s, On: d.On, By: *d.OrderBy}
		for _, k := range d.Packs {
			l := Line{Product: p.product(k.Name), Item: p.items[k.Item], Count: int(k.Count), Pence: k.Cost.Mul(exact.Int(100))}
			l.Decided = slices.ContainsFunc(p.Decided, func(c Decided) bool { return c.Product == l.Product.ID && c.On == d.On })
			for _, u := range p.Order.Uses {
				if u.Item == k.Item && u.From.Supplier == d.Supplier && u.From.On == d.On && u.From.Name == k.Name {
					l.For = append(l.For, p.of(k.Item, u.On)...)
				}
			}
			out.Goods = out.Goods.Add(l.Pence)
			out.Lines = append(out.Lines, l)
		}
		slices.SortStableFunc(out.Lines, func(a, b Line) int { return cmp.Compare(a.Product.Name, b.Product.Name) })
		p.Deliveries = append(p.Deliveries, out)
	}
	for _, l := range p.Order.Left {
		p.Left = append(p.Left, Left{p.items[l.Item], l.Amount, l.UseBy, l.Worth.Mul(exact.Int(100))})
	}
	for _, s := range p.Order.Short {
		p.Short = append(p.Short, Short{p.items[s.Item], s.On, s.Amount, s.Why, p.of(s.Item, s.On)})
	}
}

// of are the places of lessons that take an item on a day.
func (p *Plan) of(item string, on order.Day) []Part {
	if i, ok := p.needs[dayOf{item, on}]; ok {
		return p.Needs[i].Of
	}
	return nil
}

// A Source is where a day's need of an item comes from.
type Source struct {
	Amount  exact.Number
	Batch   *Batch   // of the store, the garden or on its way
	Product *Product // to be ordered
	On      order.Day
}

// SourcesOf returns where a need is met from.
func (p *Plan) SourcesOf(n Need) []Source {
	var out []Source
	for _, u := range p.uses[dayOf{n.Item.Key, n.On}] {
		s := Source{Amount: u.Amount, On: u.From.On}
		if u.From.Supplier == "" {
			s.Batch = &p.Batches[p.stock[u.From.Stock]]
		} else {
			k := p.product(u.From.Name)
			s.Product = &k
		}
		out = append(out, s)
	}
	return out
}

// MissingOf returns what is short for a lesson, item by item.
func (p *Plan) MissingOf(lesson int64) []Short {
	var out []Short
	for _, s := range p.Short {
		if slices.ContainsFunc(s.Of, func(o Part) bool { return o.Lesson == lesson }) {
			out = append(out, s)
		}
	}
	return out
}
