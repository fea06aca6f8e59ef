package preparing

import (
	"fmt"
	"net/http"
	"slices"
	"strconv"
	"time"

	"github.com/go-chi/chi/v5"
	"github.com/google/uuid"

	"freshapron/internal/app/preparing"
	"freshapron/internal/app/school"
	"freshapron/internal/core/exact"
	"freshapron/internal/core/measure"
	"freshapron/internal/core/pantry"
	"freshapron/internal/core/supply"
	"freshapron/internal/core/words"
	"freshapron/internal/web/frame"
)

func parse(r *http.Request) error { return frame.ParseForm(r) }

type orderPage struct {
	Until      string
	Total      string
	Proof      string
	Goods      string
	Deliveries []delivery
	Short      []shortRow
	Sent       []sentRow
	Dropped    []string
	None       bool // nobody sells anything yet
	Set        bool // something was decided
}

type delivery struct {
	Supplier, On, Day, By string
	Light                 string
	SupplierID            int64
	Lines                 []orderLine
	Against               []orderLine // of which somebody wants none
	Goods, Charge, Total  string
	Least                 string
	Stamp, Form           string
	Decided               bool
}

type orderLine struct {
	ID          string // of the field
	Product     int64
	Name, Pack  string
	Item        string
	Count       int
	Price, Each string
	Decided     bool
	For         []forWhom
	Lessons     string
	Others      []otherPack
	Left        string
}

type otherPack struct {
	Product          int64
	Name, Pack, Each string
	Supplier, On     string
	Day              string
	Count            int
}

type shortRow struct {
	What, When, Why, Who, Href string
}

type sentRow struct {
	Href, Supplier, On, Says, Light string
}

func pounds(n exact.Number) string { return measure.Price(int(n.Round())) }

func (p *place) order(w http.ResponseWriter, r *http.Request) error {
	return p.orderPage(w, r, nil)
}

func (p *place) orderPage(w http.ResponseWriter, r *http.Request, failed error) error {
	ctx := r.Context()
	today := school.In(ctx).Today()
	st, err := preparing.Load(ctx, today)
	if err != nil {
		return err
	}
	m := orderPage{Until: st.To.Format(longDay), Total: pounds(st.Plan.Order.Total.Mul(exact.Int(100))), None: len(st.Products) == 0}
	m.Proof = "No cheaper order meets as much: that is proved."
	if o := st.Plan.Order; !o.Optimal {
		m.Proof = fmt.Sprintf("It is at most %s dearer than the cheapest there can be.", pounds(o.Total.Sub(o.Bound).Mul(exact.Int(100))))
	}
	for _, d := range st.Plan.Deliveries {
		m.Deliveries = append(m.Deliveries, deliveryOf(st, d, today))
	}
	for _, c := range st.Plan.Decided {
		m.Set = true
		if c.Count > 0 {
			continue
		}
		at := slices.IndexFunc(st.Products, func(x supply.Product) bool { return x.ID == c.Product })
		for i := range m.Deliveries {
			if at >= 0 && m.Deliveries[i].Day == c.On.String() && m.Deliveries[i].SupplierID == st.Products[at].Supplier {
				m.Deliveries[i].Against = append(m.Deliveries[i].Against, orderLine{Product: c.Product, Name: st.Products[at].Name, Pack: st.Products[at].Size.String()})
			}
		}
	}
	for _, d := range st.Plan.Dropped {
		if at := slices.IndexFunc(st.Products, func(x supply.Product) bool { return x.ID == d.Product }); at >= 0 {
			m.Dropped = append(m.Dropped, fmt.Sprintf("%d × %s on %s", d.Count, st.Products[at].Name, preparing.Date(d.On).Format("Monday 2 January")))
		}
	}
	for _, g := range missing(st) {
		m.Short = append(m.Short, shortRow{words.Names(g.what), g.date.Format("Monday 2 January"), g.why, words.Names(g.who), "/prepare/needs?on=" + g.date.Format(time.DateOnly)})
	}
	for _, o := range slices.Backward(st.Orders) {
		m.Sent = append(m.Sent, sentRowOf(st, o))
	}
	return p.show(w, r, http.StatusOK, "order", "Order", "The order", failed, m)
}

func deliveryOf(st *preparing.Stretch, d supply.Delivery, today time.Time) delivery {
	by := preparing.Date(d.By)
	out := delivery{Supplier: d.Supplier.Name, SupplierID: d.Supplier.ID, On: preparing.Date(d.On).Format("Monday 2 January"), Day: d.On.String(), By: by.Format("Monday 2 January"), Goods: pounds(d.Goods),
		Charge: measure.Price(d.Supplier.Charge), Total: pounds(d.Goods.Add(exact.Int(int64(d.Supplier.Charge)))), Stamp: preparing.Stamp(d), Form: uuid.NewString()}
	switch {
	case by.Equal(today):
		out.By, out.Light = "today", "stop"
	case by.Equal(today.AddDate(0, 0, 1)):
		out.By, out.Light = "tomorrow", "look"
	}
	if d.Supplier.Charge == 0 {
		out.Charge = "nothing"
	}
	if d.Supplier.Least > 0 {
		out.Least = measure.Price(d.Supplier.Least)
	}
	for _, l := range d.Lines {
		x := orderLine{ID: fmt.Sprintf("count-%d-%s", l.Product.ID, d.On), Product: l.Product.ID, Name: l.Product.Name, Pack: l.Product.Size.String(), Item: l.Item.Name, Count: l.Count, Price: pounds(l.Pence), Each: measure.Price(l.Product.Pence),
			Decided: l.Decided, For: whom(st, l.For)}
		x.Lessons = words.Plural(len(x.For), "lesson", "lessons")
		out.Decided = out.Decided || l.Decided
		for _, o := range st.Products {
			if o.Item != l.Product.Item || o.ID == l.Product.ID {
				continue
			}
			x.Others = append(x.Others, otherPack{Product: o.ID, Name: o.Name, Pack: o.Size.String(), Each: measure.Price(o.Pence), Supplier: st.Supplier(o.Supplier).Name, Day: d.On.String(), Count: 1})
		}
		out.Lines = append(out.Lines, x)
	}
	return out
}

func sentRowOf(st *preparing.Stretch, o preparing.Order) sentRow {
	open, unlike, came := 0, 0, 0
	for _, l := range o.Lines {
		switch {
		case l.Open():
			unlike++
		case l.Checked != nil:
			came++
		case l.Answer != nil && (l.Answer.Out || l.Answer.Replaced != nil || l.Answer.Pence > 0):
			open++
		}
	}
	row := sentRow{Href: fmt.Sprintf("/prepare/orders/%d", o.ID), Supplier: st.Supplier(o.Supplier).Name, On: o.On.Format("Monday 2 January")}
	switch {
	case o.Cancelled:
		row.Says = "cancelled"
	case unlike > 0:
		row.Says, row.Light = "another product came: decide", "stop"
	case came == len(o.Lines):
		row.Says, row.Light = "checked in", "good"
	case came > 0:
		row.Says = fmt.Sprintf("%d of %d checked in", came, len(o.Lines))
	case open > 0:
		row.Says, row.Light = fmt.Sprintf("%s not as ordered", words.Plural(open, "line", "lines")), "look"
	default:
		row.Says = "sent and accepted"
	}
	return row
}

func number(s string) int64 {
	n, err := strconv.ParseInt(s, 10, 64)
	if err != nil {
		return 0
	}
	return n
}

func (p *place) decide(w http.ResponseWriter, r *http.Request) error {
	if err := parse(r); err != nil {
		return err
	}
	if r.PostFormValue("do") == "forget" {
		if err := preparing.Forget(r.Context(), r.PostFormValue("on")); err != nil {
			return p.orderPage(w, r, err)
		}
		return see(w, r, "/prepare/order", "said", "Planned anew: the cheapest again.")
	}
	count := r.PostFormValue("count")
	if r.PostFormValue("do") == "none" {
		count = "0"
	}
	more, err := preparing.Decide(r.Context(), number(r.PostFormValue("product")), r.PostFormValue("on"), count)
	if err != nil {
		return p.orderPage(w, r, err)
	}
	said := "Planned anew round it, at the same price."
	switch more.Sign() {
	case 1:
		said = "Planned anew round it. It costs " + pounds(more) + " more."
	case -1:
		said = "Planned anew round it. It costs " + pounds(more.Abs()) + " less."
	}
	return see(w, r, "/prepare/order", "said", said)
}

func (p *place) send(w http.ResponseWriter, r *http.Request) error {
	if err := parse(r); err != nil {
		return err
	}
	id, err := preparing.Send(r.Context(), number(r.PostFormValue("supplier")), r.PostFormValue("on"), r.PostFormValue("stamp"), r.PostFormValue("form"))
	if err != nil {
		return p.orderPage(w, r, err)
	}
	return see(w, r, fmt.Sprintf("/prepare/orders/%d", id))
}

type sentPage struct {
	ID                   int64
	Supplier, On, Sent   string
	Lines                []sentLine
	Goods, Charge, Total string
	Cancelled, CanCancel bool
	Comes                bool // today or before
	Places               []string
	Allergens            []frame.Option
	Differs              int
}

type sentLine struct {
	ID                  int64
	Code, Name, Pack    string
	Count               int
	Price               string
	Answer, AnswerLight string
	Expected            int
	Checked, By         string
	Unlike              string
	Decided, DecidedBy  string
	Open                bool
	Other               string // that the supplier has announced
	OtherHas            []string
	For                 []forWhom
	UseBy               string
	Place               string
}

func (p *place) sent(w http.ResponseWriter, r *http.Request) error {
	return p.sentPage(w, r, nil)
}

func (p *place) sentPage(w http.ResponseWriter, r *http.Request, failed error) error {
	ctx := r.Context()
	s := school.In(ctx)
	o, err := s.Order(ctx, frame.ID(r, "id"))
	if err != nil {
		return err
	}
	st, err := preparing.Load(ctx, s.Today())
	if err != nil {
		return err
	}
	m := sentPage{ID: o.ID, Supplier: st.Supplier(o.Supplier).Name, On: o.On.Format(longDay), Sent: s.Local(o.At).Format("2 January, 15:04") + " by " + o.Who, Cancelled: o.Cancelled, CanCancel: !o.Cancelled, Comes: !o.On.After(s.Today()),
		Places: placesOf(st)}
	list := st.Larder.Declared()
	for n, a := range pantry.Fourteen.Order {
		m.Allergens = append(m.Allergens, frame.Option{Value: string(a), Label: pantry.Fourteen.Declare([]pantry.Allergen{a})[0], ID: strconv.Itoa(n)})
	}
	goods := 0
	for _, l := range o.Lines {
		goods += l.Price() * l.Expected()
		x := sentLine{ID: l.ID, Code: l.Product.Code, Name: l.Product.Name, Pack: l.Product.Size.String(), Count: l.Count, Price: measure.Price(l.Price() * l.Count), Expected: l.Expected(), Decided: l.Decided, DecidedBy: l.By, Open: l.Open()}
		if a := l.Answer; a != nil {
			switch {
			case a.Out:
				x.Answer, x.AnswerLight = "out of stock", "stop"
			case a.Replaced != nil:
				x.Answer, x.AnswerLight, x.Other = "replaced by "+a.Replaced.Name, "look", a.Replaced.Name
			case a.Pence > 0:
				x.Answer, x.AnswerLight = fmt.Sprintf("%s a pack, not %s", measure.Price(a.Pence), measure.Price(l.Product.Pence)), "look"
			default:
				x.Answer, x.AnswerLight = "accepted", "good"
			}
			if x.AnswerLight != "good" {
				m.Differs++
			}
		}
		if i, ok := st.Larder.Pantry.Find(l.Product.Item); ok {
			x.Place = i.Place
		}
		if l.Product.Keeps != nil {
			x.UseBy = o.On.AddDate(0, 0, *l.Product.Keeps).Format(time.DateOnly)
		}
		if c := l.Checked; c != nil {
			m.CanCancel = false
			x.Checked = fmt.Sprintf("%d came", c.Count)
			if c.Count < l.Count {
				x.Checked += fmt.Sprintf(", %d short", l.Count-c.Count)
			}
			if c.Name != "" && c.Count > 0 {
				x.Checked += ": " + c.Name
				if len(c.Allergens) > 0 {
					x.Checked += ", contains " + words.Names(declare(list, c.Allergens))
				}
			}
			x.By = c.Who + ", " + s.Local(c.At).Format("15:04")
			if c.Count > 0 {
				x.Unlike = words.Names(declare(list, c.Unlike))
			}
			for _, rep := range st.Replaced() {
				if rep.Line.ID == l.ID {
					for _, id := range rep.Lessons {
						if v, ok := st.Lesson(id); ok {
							href := lessonHref(v)
							if mine, err := school.Mine(ctx, v.Class.ID); err != nil {
								return err
							} else if mine {
								href += "/food" // who can eat it
							}
							x.For = append(x.For, forWhom{href, v.Says() + ", " + v.View.Date.Format("Mon 2"), ""})
						}
					}
				}
			}
		}
		m.Lines = append(m.Lines, x)
	}
	m.Goods, m.Charge, m.Total = measure.Price(goods), measure.Price(o.Charge), measure.Price(goods+o.Charge)
	return p.show(w, r, http.StatusOK, "sent", "Order", m.Supplier+", "+o.On.Format("Monday 2 January"), failed, m)
}

func declare(list pantry.DeclaredList, names []string) []string {
	var out []pantry.Allergen
	for _, n := range names {
		out = append(out, pantry.Allergen(n))
	}
	return list.Declare(out)
}

func placesOf(st *preparing.Stretch) []string {
	out := slices.Clone(st.Larder.Settings.Places)
	for _, b := range st.Batches {
		if !slices.Contains(out, b.Place) {
			out = append(out, b.Place)
		}
	}
	return out
}

func (p *place) cancel(w http.ResponseWriter, r *http.Request) error {
	id := frame.ID(r, "id")
	if err := preparing.Cancel(r.Context(), id); err != nil {
		return p.sentPage(w, r, err)
	}
	return see(w, r, fmt.Sprintf("/prepare/orders/%d", id), "said", "Cancelled. What it would have brought is planned for anew.")
}

func (p *place) check(w http.ResponseWriter, r *http.Request) error {
	var f struct {
		Line, Count, Name, UseBy, Place string
		Allergen                        []string
		Read                            string
	}
	if err := frame.Decode(r, &f); err != nil {
		return err
	}
	id := frame.ID(r, "id")
	err := preparing.CheckIn(r.Context(), id, number(f.Line), preparing.Arrival{Count: f.Count, Name: f.Name, Allergens: f.Allergen, Read: f.Read != "", UseBy: f.UseBy, Place: f.Place})
	if err != nil {
		return p.sentPage(w, r, err)
	}
	return see(w, r, fmt.Sprintf("/prepare/orders/%d#lines", id))
}

func (p *place) decided(w http.ResponseWriter, r *http.Request) error {
	if err := parse(r); err != nil {
		return err
	}
	id := frame.ID(r, "id")
	o, err := school.In(r.Context()).Order(r.Context(), id)
	if err != nil {
		return err
	}
	line := number(r.PostFormValue("line"))
	if !slices.ContainsFunc(o.Lines, func(l preparing.OrderLine) bool { return l.ID == line }) {
		return school.ErrNotFound
	}
	if err := preparing.DecideLine(r.Context(), line, r.PostFormValue("says")); err != nil {
		return p.sentPage(w, r, err)
	}
	return see(w, r, fmt.Sprintf("/prepare/orders/%d", id), "said", "Decided.")
}

// orderFile sends an order as CSV or XLSX, as its supplier gets it.
func (p *place) orderFile(w http.ResponseWriter, r *http.Request) error {
	o, err := school.In(r.Context()).Order(r.Context(), frame.ID(r, "id"))
	if err != nil {
		return err
	}
	return sendTable(w, r, fmt.Sprintf("order-%d", o.ID), preparing.Rows(o))
}

// sendTable sends a table in the format of the address.
func sendTable(w http.ResponseWriter, r *http.Request, name string, rows [][]string) error {
	switch chi.URLParam(r, "format") {
	case "csv":
		frame.Attach(w, "text/csv; charset=utf-8", name+".csv")
		return preparing.WriteCSV(w, rows)
	case "xlsx":
		frame.Attach(w, "application/vnd.openxmlformats-officedocument.spreadsheetml.sheet", name+".xlsx")
		return preparing.WriteXLSX(w, rows)
	}
	return school.ErrNotFound
}
