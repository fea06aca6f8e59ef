// Package orderfile reads the order file, which says what a stretch of lessons
// needs, what is in stock and what can be bought, and writes the order for it.
// docs/formats holds their JSON Schemas.
package orderfile

import (
	"errors"
	"fmt"
	"io"
	"slices"
	"strings"

	"freshapron/internal/core/exact"
	"freshapron/internal/core/order"
	"freshapron/internal/core/problem"
	"freshapron/internal/formats/jsonout"
	"freshapron/internal/formats/tree"
)

// Names and versions of the two formats.
const (
	Format     = "fresh-apron/order"
	PlanFormat = "fresh-apron/order-plan"
	Version    = 1
)

type reader struct{ tree.Reader }

// Read reads an order file. The error is a problem.List with the path of each
// thing that is wrong, unless the reader itself fails.
func Read(from io.Reader) (order.Week, error) {
	value, err := tree.Decode(from)
	if err != nil {
		return order.Week{}, err
	}
	r := &reader{}
	root := r.Root(value).Object()
	if root.Fields == nil {
		return order.Week{}, r.Problems
	}
	w := r.week(root)
	if len(r.Problems) == 0 {
		return w, w.Check()
	}
	// Of what Check finds, that is left out which is only an echo of what the
	// reader had to fill in.
	var more problem.List
	errors.As(w.Check(), &more)
	found := r.Problems
	window := found.At("from")+found.At("to") != ""
	for _, p := range more {
		said := slices.ContainsFunc(found, func(f problem.Problem) bool { return f.Path == p.Path || strings.HasPrefix(p.Path, f.Path+".") })
		if !said && !(window && (p.Path == "to" || strings.HasSuffix(p.Path, ".on"))) {
			r.Problems = append(r.Problems, p)
		}
	}
	return order.Week{}, r.Problems
}

func (r *reader) week(o *tree.Object) order.Week {
	var w order.Week
	o.Head(Format, Version, "an order file")
	w.From, w.To = r.date(o, "from", true), r.date(o, "to", true)
	w.Today = r.maybeDate(o, "today")
	o.Field("needs", true).Each(func(_ int, n tree.Node) { w.Needs = append(w.Needs, r.need(n.Object())) })
	o.Field("stock", false).Each(func(_ int, n tree.Node) { w.Stock = append(w.Stock, r.batch(n.Object())) })
	o.Field("suppliers", false).Each(func(_ int, n tree.Node) { w.Suppliers = append(w.Suppliers, r.supplier(n.Object())) })
	o.Field("packs", false).Each(func(_ int, n tree.Node) { w.Packs = append(w.Packs, r.pack(n.Object())) })
	o.Done()
	return w
}

func (r *reader) need(o *tree.Object) order.Need {
	n := order.Need{Item: o.Text("item", true), Amount: o.Number("amount", exact.Int(1), true), Unit: o.Text("unit", true),
		On: r.date(o, "on", true), For: o.Text("for", false)}
	o.Done()
	return n
}

func (r *reader) batch(o *tree.Object) order.Batch {
	b := order.Batch{Item: o.Text("item", true), Amount: o.Number("amount", exact.Int(1), true), Unit: o.Text("unit", true), UseBy: r.maybeDate(o, "use_by")}
	o.Done()
	return b
}

func (r *reader) supplier(o *tree.Object) order.Supplier {
	s := order.Supplier{ID: o.Text("id", true), Charge: o.Number("charge", exact.Number{}, false), Minimum: o.Number("minimum", exact.Number{}, false),
		LeadDays: o.Count("lead_days", 0, false)}
	o.Field("delivers", true).Each(func(_ int, n tree.Node) {
		if d, ok := r.day(n); ok {
			s.Delivers = append(s.Delivers, d)
		}
	})
	o.Done()
	return s
}

func (r *reader) pack(o *tree.Object) order.Pack {
	p := order.Pack{Item: o.Text("item", true), Supplier: o.Text("supplier", true), Name: o.Text("name", true),
		Amount: o.Number("amount", exact.Int(1), true), Unit: o.Text("unit", true), Price: o.Number("price", exact.Int(1), true),
		KeepsDays: o.MaybeCount("keeps_days"), Most: o.MaybeCount("most")}
	o.Done()
	return p
}

func (r *reader) date(o *tree.Object, name string, required bool) order.Day {
	d, _ := r.day(o.Field(name, required))
	return d
}

func (r *reader) maybeDate(o *tree.Object, name string) *order.Day {
	n := o.Field(name, false)
	if !n.Found {
		return nil
	}
	d, _ := r.day(n)
	return &d
}

// day reads a date, and reports whether it is one.
func (r *reader) day(n tree.Node) (order.Day, bool) {
	if !n.Found {
		return 0, false
	}
	s, ok := n.Value.(string)
	if !ok {
		r.Add(n.Path, "must be a date in quotes, such as \"2026-11-30\"")
		return 0, false
	}
	d, err := order.ParseDay(s)
	if err != nil {
		r.Add(n.Path, "%s", err)
	}
	return d, err == nil
}

type number = jsonout.Number

// date writes a day, and null where there is none.
func date(d *order.Day) *string {
	if d == nil {
		return nil
	}
	s := d.String()
	return &s
}

type planJSON struct {
	Format     string         `json:"format"`
	Version    int            `json:"version"`
	Total      number         `json:"total"`
	Optimal    bool           `json:"optimal"`
	Bound      number         `json:"bound"`
	Deliveries []deliveryJSON `json:"deliveries"`
	Uses       []useJSON      `json:"uses"`
	Left       []leftJSON     `json:"left"`
	Short      []shortJSON    `json:"short"`
}

type deliveryJSON struct {
	Supplier string      `json:"supplier"`
	On       string      `json:"on"`
	OrderBy  *string     `json:"order_by,omitempty"`
	Charge   number      `json:"charge"`
	Packs    []packsJSON `json:"packs"`
}

type packsJSON struct {
	Item  string `json:"item"`
	Name  string `json:"name"`
	Count int64  `json:"count"`
	Cost  number `json:"cost"`
}

type useJSON struct {
	Item   string `json:"item"`
	On     string `json:"on"`
	Amount number `json:"amount"`
	From   any    `json:"from"`
}

type stockJSON struct {
	Stock int `json:"stock"`
}

type boughtJSON struct {
	Supplier string `json:"supplier"`
	On       string `json:"on"`
	Name     string `json:"name"`
}

type leftJSON struct {
	Item   string  `json:"item"`
	Amount number  `json:"amount"`
	Unit   string  `json:"unit"`
	UseBy  *string `json:"use_by,omitempty"`
	Worth  number  `json:"worth"`
}

type shortJSON struct {
	Item   string `json:"item"`
	On     string `json:"on"`
	Amount number `json:"amount"`
	Unit   string `json:"unit"`
	Why    string `json:"why"`
}

// WritePlan writes an order as JSON. What left-overs are worth is rounded to
// the hundredth.
func WritePlan(to io.Writer, o order.Order) error {
	p := planJSON{Format: PlanFormat, Version: Version, Total: number(o.Total), Optimal: o.Optimal, Bound: number(o.Bound),
		Deliveries: []deliveryJSON{}, Uses: []useJSON{}, Left: []leftJSON{}, Short: []shortJSON{}}
	for _, d := range o.Deliveries {
		j := deliveryJSON{Supplier: d.Supplier, On: d.On.String(), OrderBy: date(d.OrderBy), Charge: number(d.Charge)}
		for _, k := range d.Packs {
			j.Packs = append(j.Packs, packsJSON{k.Item, k.Name, k.Count, number(k.Cost)})
		}
		p.Deliveries = append(p.Deliveries, j)
	}
	for _, u := range o.Uses {
		var from any = stockJSON{u.From.Stock}
		if u.From.Supplier != "" {
			from = boughtJSON{u.From.Supplier, u.From.On.String(), u.From.Name}
		}
		p.Uses = append(p.Uses, useJSON{u.Item, u.On.String(), number(u.Amount), from})
	}
	for _, l := range o.Left {
		p.Left = append(p.Left, leftJSON{l.Item, number(l.Amount), l.Unit, date(l.UseBy), number(l.Worth.RoundTo(exact.Frac(1, 100)))})
	}
	for _, s := range o.Short {
		p.Short = append(p.Short, shortJSON{s.Item, s.On.String(), number(s.Amount), s.Unit, s.Why})
	}
	return jsonout.Write(to, p)
}

// WriteText writes an order for people to read: what to buy, what is missing,
// what is left over.
func WriteText(to io.Writer, o order.Order) error {
	e := &printer{to: to}
	for _, s := range o.Short {
		e.line("Missing on %s: %s %s %s: %s", s.On, s.Amount.Decimal(3), s.Unit, s.Item, s.Why)
	}
	if len(o.Deliveries) == 0 {
		e.line("Nothing has to be bought.")
	}
	for _, d := range o.Deliveries {
		by := ""
		if d.OrderBy != nil {
			by = fmt.Sprintf(", to be ordered by %s", *d.OrderBy)
		}
		charge := ""
		if d.Charge.Sign() > 0 {
			charge = fmt.Sprintf(", charge %s", d.Charge.Fixed(2))
		}
		e.line("%s on %s%s%s", d.Supplier, d.On, charge, by)
		for _, k := range d.Packs {
			e.line("  %d × %s, %s: %s", k.Count, k.Item, k.Name, k.Cost.Fixed(2))
		}
	}
	proved := "no order costs less"
	if !o.Optimal {
		proved = fmt.Sprintf("no order costs less than %s", o.Bound.Fixed(2))
	}
	e.line("Total %s; %s.", o.Total.Fixed(2), proved)
	for _, l := range o.Left {
		until := ""
		if l.UseBy != nil {
			until = fmt.Sprintf(", good until %s", *l.UseBy)
		}
		e.line("Left over: %s %s %s%s", l.Amount.Decimal(3), l.Unit, l.Item, until)
	}
	return e.err
}

// A printer prints lines until one fails.
type printer struct {
	to  io.Writer
	err error
}

func (p *printer) line(format string, args ...any) {
	if p.err == nil {
		_, p.err = fmt.Fprintf(p.to, format+"\n", args...)
	}
}
