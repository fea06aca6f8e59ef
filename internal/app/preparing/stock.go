package preparing

import (
	"context"
	"fmt"
	"slices"
	"strings"
	"time"

	"freshapron/internal/app/school"
	"freshapron/internal/core/exact"
	"freshapron/internal/core/measure"
	"freshapron/internal/core/problem"
	"freshapron/internal/core/recipe"
	"freshapron/internal/core/supply"
	"freshapron/internal/core/typed"
	"freshapron/internal/store"
)

// A Change of a batch, in the words of a form: what was counted, thrown away,
// moved or opened.
type Change struct {
	Version string
	Do      string // count, throw, open, move
	Amount  string // that is there now, or is thrown away
	Why     string
	Place   string
	UseBy   string
}

// ChangeBatch changes a batch and keeps what was done and why.
func ChangeBatch(ctx context.Context, id int64, c Change) error {
	s := school.In(ctx)
	b, err := s.Batch(ctx, id)
	if err != nil {
		return err
	}
	if fmt.Sprint(b.Version) != c.Version {
		return school.ErrChanged
	}
	larder, err := s.Larder(ctx)
	if err != nil {
		return err
	}
	var f typed.Form
	m := store.Movement{Was: b.Amount.Amount, Why: strings.Join(strings.Fields(c.Why), " "), Who: school.Acting(ctx).Name, At: s.Now()}
	switch c.Do {
	case "count":
		m.Kind = store.Counted
		b.Amount.Amount = amountOf(&f, "amount", c.Amount, b.Amount.Unit, larder)
	case "throw":
		m.Kind = store.Thrown
		gone := b.Amount.Amount
		if strings.TrimSpace(c.Amount) != "" {
			gone = amountOf(&f, "amount", c.Amount, b.Amount.Unit, larder)
		}
		if b.Amount.Amount.Less(gone) {
			f.Add("amount", "There are only %s of it", b.Amount)
		}
		if m.Why == "" {
			f.Add("why", "Say why it is thrown away: out of date, spoiled, left over")
		}
		b.Amount.Amount = b.Amount.Amount.Sub(gone)
	case "open":
		m.Kind = store.Opened
		b.Opened = s.Today()
		if p := product(ctx, b); p != nil && p.Opened != nil {
			if until := b.Opened.AddDate(0, 0, *p.Opened); b.UseBy.IsZero() || until.Before(b.UseBy) {
				b.UseBy = until
			}
		}
	case "move":
		m.Kind = store.Moved
		b.Place = strings.Join(strings.Fields(c.Place), " ")
		if b.Place == "" {
			f.Add("place", "Say where it is now")
		}
		if strings.TrimSpace(c.UseBy) != "" {
			b.UseBy = f.Date("use_by", c.UseBy, "2026-12-03")
		}
	default:
		return problem.New("do", "Choose what happened to it")
	}
	if f.Problems != nil {
		return f.Problems
	}
	weigh(&m, b, larder)
	return s.ChangeBatch(ctx, b, m)
}

// weigh notes what the difference that a movement makes to a batch is worth, and weighs.
func weigh(m *store.Movement, b store.Batch, l school.Larder) {
	diff := m.Was.Sub(b.Amount.Amount).Abs()
	m.Pence = b.Worth(diff)
	if i, ok := l.Pantry.Find(b.Item); ok {
		if g, ok := i.BoughtGrams(measure.Quantity{Amount: diff, Unit: b.Amount.Unit}); ok {
			m.Grams = int(g.Round())
		}
	}
}

// product is what a batch was sold as, where that is still on a list.
func product(ctx context.Context, b store.Batch) *supply.Product {
	list, err := school.In(ctx).Products(ctx)
	if err != nil {
		return nil // nobody knows how long it keeps once it is open
	}
	i := slices.IndexFunc(list, func(p supply.Product) bool { return p.Name == b.Name && p.Item == b.Item })
	if i < 0 {
		return nil
	}
	return &list[i]
}

const mostAmount = 1_000_000

// amountOf reads how much there is of something that is kept in a unit: a number
// in it, or with a unit of the same kind.
func amountOf(f *typed.Form, field, text string, unit measure.Unit, l school.Larder) exact.Number {
	if n, err := exact.Parse(strings.ReplaceAll(strings.TrimSpace(text), ",", ".")); err == nil && n.Sign() >= 0 && n.Cmp(exact.Int(mostAmount)) <= 0 {
		return n
	}
	q, name, ok := readAmount(text+" of it", l)
	in, same := q.In(unit)
	if !ok || name == "" || !same || in.Amount.Sign() < 0 || in.Amount.Cmp(exact.Int(mostAmount)) > 0 {
		f.Add(field, "“%s” is no amount in %s", strings.TrimSpace(text), firstOf(unit.Symbol, "pieces"))
	}
	return in.Amount
}

// readAmount reads "1.5 kg plain flour" as an amount of something.
func readAmount(text string, l school.Larder) (measure.Quantity, string, bool) {
	in := recipe.TakeLine(text, "", l.System(), l.Pantry).Ingredient
	return in.Quantity, firstOf(in.Pantry, in.Name), in.Given() && in.Name != ""
}

// A Goods is something that is put into the store by hand, in the words of a form.
type Goods struct {
	What  string // "1.5 kg plain flour"
	Place string
	UseBy string
	Price string // pounds for all of it
}

// AddGoods puts something into the store.
func AddGoods(ctx context.Context, g Goods) error {
	s := school.In(ctx)
	larder, err := s.Larder(ctx)
	if err != nil {
		return err
	}
	b, err := batchOf(g, larder)
	if err != nil {
		return err
	}
	_, err = s.AddBatch(ctx, b, store.Movement{Kind: store.Came, Why: "by hand", Who: school.Acting(ctx).Name, At: s.Now()})
	return err
}

func batchOf(g Goods, l school.Larder) (store.Batch, error) {
	var f typed.Form
	q, item, ok := readAmount(g.What, l)
	if !ok || q.Amount.Sign() <= 0 || q.Amount.Cmp(exact.Int(mostAmount)) > 0 {
		f.Add("what", "“%s” is no amount of something, such as “1.5 kg plain flour” or “6 eggs”", strings.TrimSpace(g.What))
	}
	b := newBatch(item, q, g.Place, l)
	if strings.TrimSpace(g.UseBy) != "" {
		b.UseBy = f.Date("use_by", g.UseBy, "2026-12-03")
	}
	if strings.TrimSpace(g.Price) != "" {
		b.Pence = pence(&f, "price", g.Price)
	}
	return b, f.Err()
}

// newBatch is so much of an item, by its id in the pantry or its name, where it was put or usually stands.
func newBatch(item string, q measure.Quantity, place string, l school.Larder) store.Batch {
	b := store.Batch{Item: item, Name: item, Amount: q, Whole: q.Amount, Place: strings.Join(strings.Fields(place), " ")}
	if i, known := l.Pantry.Find(item); known {
		b.Name, b.Place = i.Name, firstOf(b.Place, i.Place)
	}
	b.Place = firstOf(b.Place, "store")
	return b
}

const mostPence = 1_000_000

// pence reads a price in pounds: "2.05", "£2.05", "85p".
func pence(f *typed.Form, field, text string) int {
	t := strings.ToLower(strings.TrimSpace(text))
	scale := int64(100)
	if rest, ok := strings.CutSuffix(t, "p"); ok {
		t, scale = strings.TrimSpace(rest), 1
	}
	n, err := exact.Parse(strings.ReplaceAll(strings.TrimPrefix(t, "£"), ",", "."))
	n = n.Mul(exact.Int(scale))
	if err != nil || n.Sign() < 0 || n.Cmp(exact.Int(mostPence)) > 0 {
		f.Add(field, "“%s” is no price such as 2.05", strings.TrimSpace(text))
		return 0
	}
	return int(n.Round())
}

// Book takes from the store what a lesson that is over has used, by its plan: from
// what goes off first. It returns school.ErrChanged where that has been done.
func Book(ctx context.Context, id int64) error {
	s := school.In(ctx)
	l, err := One(ctx, id)
	if err != nil {
		return err
	}
	if !l.Over(s.Local(s.Now())) {
		return problem.New("lesson", "%s is not over yet: what it uses is booked after the bell", l.Says())
	}
	batches, err := s.Batches(ctx)
	if err != nil {
		return err
	}
	products, err := s.Products(ctx)
	if err != nil {
		return err
	}
	b := store.Booking{Lesson: id, Who: school.Acting(ctx).Name, At: s.Now()}
	b.Pence, _ = l.Costs()
	needs := supply.Merge(l.Larder.Pantry, supply.SoldOf(products), []supply.Lesson{{ID: id, On: OrderDay(l.View.Date), Takes: l.Takes}})
	var used []store.Batch
	var moves []store.Movement
	for _, n := range needs {
		left := n.Amount
		for i := range batches {
			x := &batches[i]
			if x.Item != n.Item.Key || left.Sign() == 0 || !x.UseBy.IsZero() && x.UseBy.Before(l.View.Date) {
				continue
			}
			there, ok := n.Item.Whole(x.Amount)
			if !ok || there.Sign() == 0 {
				continue
			}
			share := exact.Int(1)
			if left.Less(there) {
				share = left.Div(there)
			}
			was := x.Amount.Amount
			x.Amount.Amount = was.Mul(exact.Int(1).Sub(share))
			left = left.Sub(there.Mul(share))
			used = append(used, *x)
			moves = append(moves, store.Movement{Kind: store.Used, Was: was, Pence: x.Worth(was.Sub(x.Amount.Amount)), Why: l.Says(), Lesson: id, Who: b.Who, At: b.At})
		}
	}
	return s.Book(ctx, b, used, moves)
}

// Wasted is what runs out before any lesson of the stretch would use it: the part
// of a batch that nobody takes.
func (st *Stretch) Wasted(by time.Time) []supply.Left {
	var out []supply.Left
	for _, l := range st.Plan.Left {
		if l.UseBy != nil && !Date(*l.UseBy).After(by) {
			out = append(out, l)
		}
	}
	return out
}

// StockRows returns the store as a table.
func (st *Stretch) StockRows() [][]string {
	rows := [][]string{{"Item", "Amount", "Unit", "Place", "Use by", "Opened", "Worth"}}
	date := func(t time.Time) string {
		if t.IsZero() {
			return ""
		}
		return t.Format(time.DateOnly)
	}
	for _, b := range st.Batches {
		rows = append(rows, []string{b.Name, b.Amount.Amount.Decimal(3), b.Amount.Unit.Symbol, b.Place, date(b.UseBy), date(b.Opened), Pounds(b.Worth(b.Amount.Amount))})
	}
	return rows
}

// Happened says what a movement was.
func Happened(m Movement) string {
	diff := m.Was.Sub(m.Is).Abs().Decimal(2)
	switch m.Kind {
	case store.Came:
		return "came: " + m.Why
	case store.Counted:
		return fmt.Sprintf("counted: %s, not %s", m.Is.Decimal(2), m.Was.Decimal(2))
	case store.Used:
		return diff + " used: " + m.Why
	case store.Thrown:
		return fmt.Sprintf("%s thrown away, %s: %s", diff, measure.Price(m.Pence), m.Why)
	case store.Opened:
		return "opened"
	}
	return "moved"
}
