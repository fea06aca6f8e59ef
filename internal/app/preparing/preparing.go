// Package preparing is what is done before lessons, for all of them at once:
// what they need, what is ordered, checked in, kept, laid out and brought from
// home, and what it costs.
package preparing

import (
	"cmp"
	"context"
	"crypto/sha256"
	"fmt"
	"slices"
	"strconv"
	"strings"
	"time"

	"freshapron/internal/app/lessons"
	"freshapron/internal/app/school"
	"freshapron/internal/app/work"
	"freshapron/internal/core/exact"
	"freshapron/internal/core/lesson"
	"freshapron/internal/core/measure"
	"freshapron/internal/core/order"
	"freshapron/internal/core/supply"
	"freshapron/internal/core/term"
	"freshapron/internal/store"
)

// Ahead is how many days are ordered for, today among them.
const Ahead = 14

// A Lesson is a lesson with what it takes and how ready it is.
type Lesson struct {
	*lessons.View
	Home   store.Home
	Takes  []lesson.Take
	Booked *store.Booking
}

// Says names it: "8 Hazel, Leek tartlets".
func (l Lesson) Says() string { return l.Class.Name + ", " + l.Titles() }

// A Stretch is the days that are prepared for, with all that is known of them.
type Stretch struct {
	From, To  time.Time
	Lessons   []Lesson // of the stretch, those that are over too
	Suppliers []store.Supplier
	Products  []supply.Product
	Batches   []store.Batch
	Orders    []store.Order // that come from a week before the stretch on
	Beds      []store.Bed
	Plan      supply.Plan // of what is needed from today on and not booked
	Larder    school.Larder
}

// OrderDay turns a date into the day of an order.
func OrderDay(t time.Time) order.Day { return order.Day(t.Unix() / (24 * 60 * 60)) }

// Date turns it back.
func Date(d order.Day) time.Time { return time.Unix(int64(d)*24*60*60, 0).UTC() }

const (
	keptTakes = 400
	keptPlans = 60
)

type takesKey string

type planKey [sha256.Size]byte

// takes returns what a lesson takes, worked out anew only where the lesson or what
// is brought has changed.
func takes(s *school.School, v *lessons.View, h store.Home) []lesson.Take {
	if v.Problems != nil {
		return nil
	}
	kept := school.Keep[takesKey, []lesson.Take](s.Site, keptTakes)
	key := takesKey(homeKey(v, h))
	if t, ok := kept.Get(key); ok {
		return t
	}
	t := v.Core.Takes(h.Home)
	kept.Add(key, t)
	return t
}

// homeKey names a lesson as it stands with what is brought to it.
func homeKey(v *lessons.View, h store.Home) string {
	return fmt.Sprint(v.Key(), h.Version, h.Lines, h.Not)
}

// withHomes puts to lessons what learners bring to them.
func withHomes(ctx context.Context, views []*lessons.View) ([]Lesson, error) {
	s := school.In(ctx)
	ids := make([]int64, len(views))
	for i, v := range views {
		ids[i] = v.ID
	}
	homes, err := s.Homes(ctx, ids)
	if err != nil {
		return nil, err
	}
	booked, err := s.Bookings(ctx, ids)
	if err != nil {
		return nil, err
	}
	out := make([]Lesson, len(views))
	for i, v := range views {
		h, said := homes[v.ID]
		if !said && v.Problems == nil {
			h.Home = v.Core.UsualHome()
		}
		out[i] = Lesson{View: v, Home: h, Takes: takes(s, v, h)}
		if b, ok := booked[v.ID]; ok {
			out[i].Booked = &b
		}
	}
	return out, nil
}

// One returns a lesson with what it takes.
func One(ctx context.Context, id int64) (Lesson, error) {
	v, err := lessons.One(ctx, id)
	if err != nil {
		return Lesson{}, err
	}
	list, err := withHomes(ctx, []*lessons.View{v})
	if err != nil {
		return Lesson{}, err
	}
	return list[0], nil
}

// Load returns the days from a date on, of a week or as many as are ordered for,
// whichever is more, and the order for them from today on.
func Load(ctx context.Context, from time.Time) (*Stretch, error) {
	s := school.In(ctx)
	today := s.Today()
	st := &Stretch{From: from, To: today.AddDate(0, 0, Ahead-1)}
	if week := from.AddDate(0, 0, 6); week.After(st.To) {
		st.To = week
	}
	views, err := lessons.From(ctx, from, int(st.To.Sub(from).Hours()/24)+1)
	if err != nil {
		return nil, err
	}
	if st.Lessons, err = withHomes(ctx, views); err != nil {
		return nil, err
	}
	if st.Larder, err = s.Larder(ctx); err != nil {
		return nil, err
	}
	if st.Suppliers, err = s.Suppliers(ctx); err != nil {
		return nil, err
	}
	if st.Products, err = s.Products(ctx); err != nil {
		return nil, err
	}
	if st.Batches, err = s.Batches(ctx); err != nil {
		return nil, err
	}
	const weekBefore = 7
	if st.Orders, err = s.Orders(ctx, today.AddDate(0, 0, -weekBefore), st.To); err != nil {
		return nil, err
	}
	if st.Beds, err = s.Beds(ctx, today); err != nil {
		return nil, err
	}
	decisions, err := s.Decisions(ctx, today)
	if err != nil {
		return nil, err
	}
	terms, err := s.Terms(ctx)
	if err != nil {
		return nil, err
	}
	var year term.Year
	for _, t := range terms {
		year = append(year, t.Span)
	}
	st.Plan, err = solve(s, st.input(today, decisions, year))
	return st, err
}

// input is what the order is worked out from.
func (st *Stretch) input(today time.Time, decisions []store.Decision, year term.Year) supply.Stretch {
	in := supply.Stretch{From: OrderDay(today), To: OrderDay(st.To), Today: OrderDay(today), Pantry: st.Larder.Pantry, Products: st.Products}
	for _, l := range st.Lessons {
		if l.Booked == nil && !l.View.Date.Before(today) {
			in.Lessons = append(in.Lessons, supply.Lesson{ID: l.ID, On: OrderDay(l.View.Date), Takes: l.Takes})
		}
	}
	for _, s := range st.Suppliers {
		in.Suppliers = append(in.Suppliers, s.Supplier)
	}
	for _, b := range st.Batches {
		in.Batches = append(in.Batches, supply.Batch{ID: b.ID, Item: b.Item, Amount: b.Amount, UseBy: maybeDay(b.UseBy), Says: b.Place})
	}
	for _, b := range st.Beds {
		from := max(OrderDay(today), OrderDay(b.First))
		in.Batches = append(in.Batches, supply.Batch{Item: b.Item, Amount: b.Amount, From: &from, UseBy: maybeDay(b.Last), Says: bedSays + b.Name})
	}
	for _, o := range st.Orders {
		if o.Cancelled || o.On.Before(today) {
			continue
		}
		for _, l := range o.Lines {
			if l.Checked == nil && l.Expected() > 0 {
				in.Batches = append(in.Batches, onItsWay(o, l))
			}
		}
	}
	for _, d := range decisions {
		in.Decided = append(in.Decided, supply.Decided{Product: d.Product, On: OrderDay(d.On), Count: d.Count})
	}
	for d := in.From; d <= in.To; d++ {
		if !year.School(Date(d)) {
			in.Closed = append(in.Closed, d)
		}
	}
	return in
}

const (
	bedSays   = "bed: "
	orderSays = "order "
)

// onItsWay is a line of an order as what will be there.
func onItsWay(o store.Order, l store.OrderLine) supply.Batch {
	from := OrderDay(o.On)
	b := supply.Batch{ID: l.ID, Item: l.Product.Item, Amount: l.Product.Size.Times(exact.Int(int64(l.Expected()))), From: &from, Says: orderSays + strconv.FormatInt(o.ID, 10)}
	if l.Product.Keeps != nil {
		until := from + order.Day(*l.Product.Keeps)
		b.UseBy = &until
	}
	return b
}

func maybeDay(t time.Time) *order.Day {
	if t.IsZero() {
		return nil
	}
	d := OrderDay(t)
	return &d
}

// solve finds the order, or takes the one that was found for the same before.
func solve(s *school.School, in supply.Stretch) (supply.Plan, error) {
	kept := school.Keep[planKey, *supply.Plan](s.Site, keptPlans)
	var b strings.Builder
	fmt.Fprint(&b, in.From, in.To, in.Suppliers, in.Decided, in.Closed)
	for _, l := range in.Lessons {
		fmt.Fprint(&b, "|", l.ID, l.On)
		for _, t := range l.Takes {
			fmt.Fprint(&b, t.Place, t.Line.Pantry, t.Line.Name, t.Amount.Amount, t.Amount.Unit.ID, t.Home)
		}
	}
	day := func(d *order.Day) order.Day {
		if d == nil {
			return -1
		}
		return *d
	}
	for _, x := range in.Batches {
		fmt.Fprint(&b, "|", x.ID, x.Item, x.Amount.Amount, x.Amount.Unit.ID, day(x.From), day(x.UseBy), x.Says)
	}
	for _, p := range in.Products {
		fmt.Fprint(&b, "|", p.ID, p.Item, p.Size.Amount, p.Size.Unit.ID, p.Pence, days(p.Keeps), days(p.Most), p.Days)
	}
	key := planKey(sha256.Sum256([]byte(b.String())))
	if p, ok := kept.Get(key); ok {
		return *p, nil
	}
	p, err := work.Once(s.Site.Work, fmt.Sprintf("order %x", key), func() (supply.Plan, error) { return supply.Solve(in) })
	if err == nil {
		kept.Add(key, &p)
	}
	return p, err
}

func days(n *int) int {
	if n == nil {
		return -1
	}
	return *n
}

// Lesson returns one of the stretch.
func (st *Stretch) Lesson(id int64) (Lesson, bool) {
	i := slices.IndexFunc(st.Lessons, func(l Lesson) bool { return l.ID == id })
	if i < 0 {
		return Lesson{}, false
	}
	return st.Lessons[i], true
}

// Supplier returns one by its id.
func (st *Stretch) Supplier(id int64) store.Supplier {
	i := slices.IndexFunc(st.Suppliers, func(s store.Supplier) bool { return s.ID == id })
	if i < 0 {
		return store.Supplier{}
	}
	return st.Suppliers[i]
}

// On returns the lessons of a day.
func (st *Stretch) On(day time.Time) []Lesson {
	var out []Lesson
	for _, l := range st.Lessons {
		if l.View.Date.Equal(day) {
			out = append(out, l)
		}
	}
	slices.SortStableFunc(out, func(a, b Lesson) int { return cmp.Compare(a.Period.Start, b.Period.Start) })
	return out
}

// Called returns what an item is called on lists: as the pantry does, or as
// somebody has written it.
func (st *Stretch) Called(item string) string {
	if i, ok := st.Larder.Pantry.Find(item); ok {
		return i.Name
	}
	return item
}

// A Ready is how far a lesson is prepared, in figures.
type Ready struct {
	Needs               int // items that it takes
	Ordered, There      int // of them, on their way or there, and there
	Jobs, Done          int
	Trays, Laid         int
	Missing             []supply.Short
	ToOrder             int // items of which something has still to be ordered
	Replaced, Undecided int // products that came in place of others, and those about which nobody has decided
}

// Ready returns how far a lesson is prepared. Ticks are of its lists.
func (st *Stretch) Ready(l Lesson, jobs int, ticks Ticks) Ready {
	r := Ready{Missing: st.Plan.MissingOf(l.ID)}
	for _, n := range st.Plan.Needs {
		if !slices.ContainsFunc(n.Of, func(o supply.Part) bool { return o.Lesson == l.ID }) {
			continue
		}
		r.Needs++
		there, ordered := true, true
		for _, s := range st.Plan.SourcesOf(n) {
			switch {
			case s.Product != nil:
				there, ordered = false, false
			case s.Batch.From != nil && !strings.HasPrefix(s.Batch.Says, bedSays):
				there = false
			}
		}
		if slices.ContainsFunc(r.Missing, func(m supply.Short) bool { return m.Item.Key == n.Item.Key && m.On == n.On }) {
			there, ordered = false, false
		}
		if there {
			r.There++
		}
		if ordered {
			r.Ordered++
		} else {
			r.ToOrder++
		}
	}
	r.Jobs, r.Done = jobs, ticks.Done(JobsList(l.ID))
	r.Trays, r.Laid = len(supply.Trays(l.Takes, l.Benches)), ticks.Done(TraysList(l.ID))
	r.Done, r.Laid = min(r.Done, r.Jobs), min(r.Laid, r.Trays)
	for _, p := range st.Replaced() {
		if slices.Contains(p.Lessons, l.ID) {
			r.Replaced++
			if p.Line.Open() {
				r.Undecided++
			}
		}
	}
	return r
}

// A Replaced is another product that came, with the lessons that use it.
type Replaced struct {
	Order   store.Order
	Line    store.OrderLine
	Lessons []int64
}

// Replaced returns other products that came and hold an allergen that what was
// ordered does not, with the lessons from the delivery on that use the item.
func (st *Stretch) Replaced() []Replaced {
	var out []Replaced
	for _, o := range st.Orders {
		for _, l := range o.Lines {
			if l.Checked == nil || len(l.Checked.Unlike) == 0 {
				continue
			}
			r := Replaced{Order: o, Line: l}
			for _, x := range st.Lessons {
				if !x.View.Date.Before(o.On) && slices.ContainsFunc(x.Takes, func(t lesson.Take) bool { return t.Line.Pantry == l.Product.Item }) {
					r.Lessons = append(r.Lessons, x.ID)
				}
			}
			out = append(out, r)
		}
	}
	return out
}

// Costs returns what a lesson costs in pence, packs shared out: what was booked
// where it is over, else at the pantry's prices.
func (l Lesson) Costs() (pence int, unpriced []string) {
	if l.Booked != nil {
		return l.Booked.Pence, nil
	}
	if l.Problems != nil {
		return 0, nil
	}
	n, unpriced := l.Core.Cost()
	return int(n.Round()), unpriced
}

// Each is what a lesson costs for one learner.
func (l Lesson) Each() int {
	pence, _ := l.Costs()
	if n := l.Core.Learners(); n > 0 {
		return (pence + n - 1) / n
	}
	return 0
}

// Says prints a batch's amount with what it is called.
func (st *Stretch) Says(item string, q measure.Quantity) string {
	i, ok := st.Larder.Pantry.Find(item)
	if !ok {
		return supply.Round(q).String() + " " + item
	}
	return supply.Item{Stock: i, Name: i.Name, Unit: q.Unit}.Says(q.Amount)
}

// What is kept, as pages show it.
type (
	// An Order is what was sent to a supplier.
	Order = store.Order
	// An OrderLine is so many of a product in it.
	OrderLine = store.OrderLine
	// A Batch is what the store holds of one thing with one date.
	Batch = store.Batch
	// A Movement is something that happened to a batch.
	Movement = store.Movement
)
