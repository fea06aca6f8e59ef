package preparing

import (
	"context"
	"fmt"
	"slices"
	"strings"
	"time"

	"freshapron/internal/app/school"
	"freshapron/internal/core/measure"
	"freshapron/internal/core/problem"
	"freshapron/internal/core/supply"
	"freshapron/internal/core/typed"
	"freshapron/internal/formats/stocklist"
	"freshapron/internal/store"
)

// A Count of the store in the words of a form: what was counted, row by row, and what it is to
// become.
type Count struct {
	What, Place, UseBy, Price []string
	All                       bool // it is all there is of these, rather than on top of what the store has
}

// A CountRow is a row of a count with what it is taken for.
type CountRow struct {
	What, Place, UseBy, Price string
	Says                      string // how much of what
	Guess                     string // where how much is a guess: of what
	Has                       string // what the store has of it by its book; empty where nothing
	None                      bool   // there is none of it
	Unknown                   bool   // it is nothing of the pantry
	Wrong                     string // why it can't be taken; empty where it can
	batch                     store.Batch
}

// ReadCount reads a count of the store as somebody wrote it down, and says of each row what it is
// taken for.
func ReadCount(ctx context.Context, data []byte) ([]CountRow, error) {
	s := school.In(ctx)
	larder, err := s.Larder(ctx)
	if err != nil {
		return nil, err
	}
	rows, err := stocklist.Read(data, larder.Pantry, larder.System(), s.Today())
	if err != nil {
		return nil, problem.New("file", "%s", err)
	}
	var in Count
	for _, r := range rows {
		what, until := r.What, r.Until
		if r.None {
			what = "no " + what
		}
		if !r.UseBy.IsZero() {
			until = r.UseBy.Format(time.DateOnly)
		}
		in.What, in.Place, in.UseBy, in.Price = append(in.What, what), append(in.Place, r.Place), append(in.UseBy, until), append(in.Price, r.Price)
	}
	return rowsOf(ctx, in, larder)
}

// rowsOf says what the rows of a form are taken for. Rows without a word are left out.
func rowsOf(ctx context.Context, in Count, l school.Larder) ([]CountRow, error) {
	s := school.In(ctx)
	have, err := s.Batches(ctx)
	if err != nil {
		return nil, err
	}
	places := slices.Clone(l.Settings.Places)
	for _, b := range have {
		places = append(places, b.Place)
	}
	at := func(list []string, i int) string {
		if i < len(list) {
			return strings.Join(strings.Fields(list[i]), " ")
		}
		return ""
	}
	var out []CountRow
	for i := range in.What {
		x := CountRow{What: at(in.What, i), Place: at(in.Place, i), UseBy: at(in.UseBy, i), Price: at(in.Price, i)}
		if x.What == "" {
			continue
		}
		r := stocklist.One(x.What, l.Pantry, l.System(), s.Today())
		x.Guess, x.None, x.Unknown, x.Wrong = r.Guess, r.None, r.Item == "", r.Wrong
		x.batch = newBatch(firstOf(r.Item, r.Name), r.Amount, x.Place, l)
		if i := slices.IndexFunc(places, func(p string) bool { return strings.EqualFold(p, x.batch.Place) }); i >= 0 {
			x.batch.Place = places[i]
		}
		if x.Place != "" {
			x.Place = x.batch.Place
		}
		if x.Wrong == "" && !x.None {
			stock, _ := l.Pantry.Find(r.Item)
			x.Says = supply.Item{Stock: stock, Name: r.Name, Unit: r.Amount.Unit}.Says(r.Amount.Amount)
		}
		x.batch.UseBy = r.UseBy
		if x.UseBy != "" {
			until, ok := stocklist.Date(x.UseBy, s.Today())
			if x.batch.UseBy = until; !ok {
				x.Wrong = firstOf(x.Wrong, fmt.Sprintf("“%s” is no date such as 2026-12-03", x.UseBy))
			}
		}
		if x.Price != "" {
			var f typed.Form
			if x.batch.Pence = pence(&f, "price", x.Price); f.Problems != nil {
				x.Wrong = firstOf(x.Wrong, f.Problems[0].Says)
			}
		}
		var has []string
		for _, b := range have {
			if b.Item == x.batch.Item {
				has = append(has, supply.Round(b.Amount).String())
			}
		}
		x.Has = strings.Join(has, " and ")
		out = append(out, x)
	}
	return out, nil
}

// TakeCount puts a count into the store, all of it or nothing. Where rows can't be taken it returns
// the rows, each with what is wrong with it.
func TakeCount(ctx context.Context, in Count) (taken int, wrong []CountRow, err error) {
	s := school.In(ctx)
	larder, err := s.Larder(ctx)
	if err != nil {
		return 0, nil, err
	}
	rows, err := rowsOf(ctx, in, larder)
	if err != nil {
		return 0, nil, err
	}
	if len(rows) == 0 || slices.ContainsFunc(rows, func(r CountRow) bool { return r.Wrong != "" }) {
		return 0, rows, nil
	}
	err = s.InTransaction(ctx, func(own *store.School) error {
		rest := rows
		if in.All {
			if rest, err = recount(ctx, own, larder, rows); err != nil {
				return err
			}
		}
		for _, r := range rest {
			if r.None {
				continue
			}
			if _, err := own.AddBatch(ctx, r.batch, asCounted(ctx, store.Came)); err != nil {
				return err
			}
		}
		return nil
	})
	return len(rows), nil, err
}

// asCounted is a movement that a count brings.
func asCounted(ctx context.Context, kind string) store.Movement {
	return store.Movement{Kind: kind, Why: "counted", Who: school.Acting(ctx).Name, At: school.In(ctx).Now()}
}

// recount sets what the store has of the counted things right, and returns the rows that are not
// among it. Where one batch of a thing was counted, and no other date, it stays that batch;
// else what was counted comes in place of all there was.
func recount(ctx context.Context, in *store.School, l school.Larder, rows []CountRow) ([]CountRow, error) {
	have, err := in.Batches(ctx)
	if err != nil {
		return nil, err
	}
	counted, kept := map[string]int{}, map[string][]store.Batch{}
	for _, r := range rows {
		counted[r.batch.Item]++
	}
	for _, b := range have {
		kept[b.Item] = append(kept[b.Item], b)
	}
	var rest []CountRow
	for _, r := range rows {
		item := r.batch.Item
		if is, ok := r.same(kept[item]); ok && counted[item] == 1 {
			if err := setRight(ctx, in, l, kept[item][0], is); err != nil {
				return nil, err
			}
			continue
		}
		for _, b := range kept[item] {
			if err := setRight(ctx, in, l, b, measure.Quantity{Unit: b.Amount.Unit}); err != nil {
				return nil, err
			}
		}
		delete(kept, item) // once
		rest = append(rest, r)
	}
	return rest, nil
}

// same reports whether a row is the one batch that there is, and how much of it there is in its unit.
func (r CountRow) same(batches []store.Batch) (is measure.Quantity, ok bool) {
	if r.None || len(batches) != 1 || !r.batch.UseBy.IsZero() && !r.batch.UseBy.Equal(batches[0].UseBy) {
		return is, false
	}
	return r.batch.Amount.In(batches[0].Amount.Unit)
}

// setRight notes how much of a batch there is, where that is not what the book says.
func setRight(ctx context.Context, in *store.School, l school.Larder, b store.Batch, is measure.Quantity) error {
	m := asCounted(ctx, store.Counted)
	m.Was = b.Amount.Amount
	if b.Amount.Amount = is.Amount; m.Was.Cmp(is.Amount) == 0 {
		return nil
	}
	weigh(&m, b, l)
	return in.ChangeBatch(ctx, b, m)
}
