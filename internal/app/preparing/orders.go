package preparing

import (
	"context"
	"crypto/sha256"
	"fmt"
	"io"
	"slices"
	"strings"
	"time"

	"github.com/google/uuid"

	"freshapron/internal/app/school"
	"freshapron/internal/core/exact"
	"freshapron/internal/core/pantry"
	"freshapron/internal/core/problem"
	"freshapron/internal/core/supply"
	"freshapron/internal/core/typed"
	"freshapron/internal/formats/table"
	"freshapron/internal/store"
)

// Stamp stands for what a delivery would bring, so that what is sent is what was
// looked at.
func Stamp(d supply.Delivery) string {
	var b strings.Builder
	fmt.Fprint(&b, d.Supplier.ID, d.On)
	for _, l := range d.Lines {
		fmt.Fprint(&b, "|", l.Product.ID, l.Count, l.Product.Pence)
	}
	return fmt.Sprintf("%x", sha256.Sum256([]byte(b.String())))[:16]
}

// mostPacks is how many of one product can be asked for on one delivery.
const mostPacks = 10_000

// Decide says how many of a product somebody wants on a day, and returns how much
// more, in pence, the plan costs with it. An empty count forgets it.
func Decide(ctx context.Context, product int64, on, count string) (more exact.Number, err error) {
	s := school.In(ctx)
	var f typed.Form
	day := f.Date("on", on, "2026-11-30")
	before, err := Load(ctx, s.Today())
	if err != nil {
		return more, err
	}
	at := slices.IndexFunc(before.Products, func(p supply.Product) bool { return p.ID == product })
	if at < 0 {
		return more, school.ErrNotFound
	}
	if strings.TrimSpace(count) == "" {
		if f.Problems == nil {
			err = s.Undecide(ctx, product, day)
		}
	} else if n := f.Between("count", "Packs", count, 0, mostPacks); f.Problems == nil {
		err = s.Decide(ctx, store.Decision{Product: product, On: day, Count: n, Who: school.Acting(ctx).Name})
	}
	if f.Problems != nil {
		return more, f.Problems
	}
	if err != nil {
		return more, err
	}
	after, err := Load(ctx, s.Today())
	if err != nil {
		return more, err
	}
	for _, d := range after.Plan.Dropped {
		if d.Product == product && Date(d.On).Equal(day) {
			if err := s.Undecide(ctx, product, day); err != nil {
				return more, err
			}
			return more, problem.New("count", "%s can't come like that: nothing comes from there on that day, or what is left does not come to the least order. It was left as it was", before.Products[at].Name)
		}
	}
	return after.Plan.Order.Total.Sub(before.Plan.Order.Total).Mul(exact.Int(100)), nil
}

// Forget takes back all that was decided for a day.
func Forget(ctx context.Context, on string) error {
	var f typed.Form
	day := f.Date("on", on, "2026-11-30")
	if f.Problems != nil {
		return f.Problems
	}
	return school.In(ctx).Undecide(ctx, 0, day)
}

// Send sends a delivery to its supplier, once for each press, where it still is
// what was looked at; otherwise it returns school.ErrChanged. The supplier is
// simulated and answers at once.
func Send(ctx context.Context, supplier int64, on, stamp, form string) (int64, error) {
	s := school.In(ctx)
	if _, err := uuid.Parse(form); err != nil {
		return 0, problem.New("form", "The form is not complete. Go back and load the page again.")
	}
	now := s.Now()
	st, err := Load(ctx, s.Today())
	if err != nil {
		return 0, err
	}
	for _, o := range st.Orders {
		if o.Form == form { // the same press again
			return o.ID, nil
		}
	}
	at := slices.IndexFunc(st.Plan.Deliveries, func(d supply.Delivery) bool {
		return d.Supplier.ID == supplier && d.On.String() == on && Stamp(d) == stamp
	})
	if at < 0 {
		return 0, school.ErrChanged
	}
	d := st.Plan.Deliveries[at]
	o := store.Order{Supplier: supplier, On: Date(d.On), Charge: d.Supplier.Charge, Answered: true, Form: form, Who: school.Acting(ctx).Name, At: now}
	answers := st.Supplier(supplier).Answers
	for _, l := range d.Lines {
		o.Lines = append(o.Lines, store.OrderLine{Product: l.Product, Count: l.Count, Answer: answer(answers, l.Product)})
	}
	id, first, err := s.SendOrder(ctx, o)
	if err == nil && first {
		err = s.Undecide(ctx, 0, Date(d.On))
	}
	return id, err
}

// answer is what a simulated supplier says to a line: accepted where it has no
// rule for it.
func answer(a store.Answers, p supply.Product) *store.Answered {
	out := &store.Answered{Out: slices.Contains(a.Out, p.Code)}
	if pence := a.Prices[p.Code]; pence > 0 && pence != p.Pence {
		out.Pence = pence
	}
	if r, ok := a.Replaced[p.Code]; ok {
		out.Replaced = &r
	}
	return out
}

// Cancel takes an order back of which nothing has come yet.
func Cancel(ctx context.Context, id int64) error { return school.In(ctx).CancelOrder(ctx, id) }

// An Arrival is what somebody says that came of a line, in the words of a form.
type Arrival struct {
	Count     string
	Name      string   // of another product; empty for the one that was ordered
	Allergens []string // of another product, as its label says
	Read      bool     // the label was read
	UseBy     string
	Place     string
}

// CheckIn writes down what came of a line and puts it into the store. Of another
// product somebody must have read the label.
func CheckIn(ctx context.Context, orderID, line int64, a Arrival) error {
	s := school.In(ctx)
	o, err := s.Order(ctx, orderID)
	if err != nil {
		return err
	}
	at := slices.IndexFunc(o.Lines, func(l store.OrderLine) bool { return l.ID == line })
	if at < 0 {
		return school.ErrNotFound
	}
	l := o.Lines[at]
	switch {
	case o.Cancelled:
		return problem.New("count", "This order was cancelled. What came all the same is put into the store by hand, or sent back")
	case l.Checked != nil:
		return school.ErrChanged
	}
	larder, err := s.Larder(ctx)
	if err != nil {
		return err
	}
	var f typed.Form
	c := store.Checked{Count: f.Between("count", "Packs that came", a.Count, 0, mostPacks), Who: school.Acting(ctx).Name, At: s.Now()}
	c.Name = strings.Join(strings.Fields(a.Name), " ")
	item, known := larder.Pantry.Find(l.Product.Item)
	if c.Name != "" && c.Count > 0 {
		if !a.Read {
			f.Add("read", "Read the label of %s and tick what it contains: it may not be what the lessons count on", c.Name)
		}
		for _, al := range pantry.Fourteen.Order {
			if slices.Contains(a.Allergens, string(al)) {
				c.Allergens = append(c.Allergens, string(al))
				if !known || !slices.Contains(item.Allergens, al) {
					c.Unlike = append(c.Unlike, string(al))
				}
			}
		}
	}
	until := time.Time{}
	if strings.TrimSpace(a.UseBy) != "" {
		until = f.Date("use_by", a.UseBy, "2026-12-03")
		c.UseBy = until.Format(time.DateOnly)
	} else if l.Product.Keeps != nil {
		until = o.On.AddDate(0, 0, *l.Product.Keeps)
	}
	if f.Problems != nil {
		return f.Problems
	}
	amount := l.Product.Size.Times(exact.Int(int64(c.Count)))
	b := store.Batch{Item: firstOf(l.Product.Item, l.Product.Name), Name: firstOf(c.Name, l.Product.Name), Amount: amount, Whole: amount.Amount, Pence: l.Price() * c.Count,
		Place: firstOf(strings.TrimSpace(a.Place), item.Place, "store"), UseBy: until}
	return s.CheckIn(ctx, line, c, b)
}

func firstOf(list ...string) string {
	for _, s := range list {
		if s != "" {
			return s
		}
	}
	return ""
}

// longestWord is how much somebody may write about a decision.
const longestWord = 300

// DecideLine writes down what becomes of another product that came.
func DecideLine(ctx context.Context, line int64, says string) error {
	says = strings.Join(strings.Fields(says), " ")
	switch n := len([]rune(says)); {
	case n == 0:
		return problem.New("says", "Say what was decided: who may eat it, what is used in its place")
	case n > longestWord:
		return problem.New("says", "That has %d letters; %d are the most", n, longestWord)
	}
	return school.In(ctx).DecideLine(ctx, line, says, school.Acting(ctx).Name)
}

// Rows returns an order as a table, as suppliers take it.
func Rows(o store.Order) [][]string {
	rows := [][]string{{"Code", "Product", "Pack", "Packs", "Price of a pack", "Price"}}
	for _, l := range o.Lines {
		rows = append(rows, []string{l.Product.Code, l.Product.Name, l.Product.Size.String(), fmt.Sprint(l.Count), Pounds(l.Product.Pence), Pounds(l.Product.Pence * l.Count)})
	}
	return rows
}

// Pounds prints pence without a sign, as tables have them: "12.05".
func Pounds(pence int) string { return exact.Frac(int64(pence), 100).Fixed(2) }

// WriteCSV writes a table as CSV.
func WriteCSV(w io.Writer, rows [][]string) error { return table.WriteCSV(w, rows) }

// WriteXLSX writes a table as a spreadsheet.
func WriteXLSX(w io.Writer, rows [][]string) error { return table.WriteXLSX(w, "List", rows) }
