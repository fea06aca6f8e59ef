package preparing

import (
	"context"
	"fmt"
	"slices"
	"strings"

	"freshapron/internal/app/school"
	"freshapron/internal/core/problem"
	"freshapron/internal/core/supply"
	"freshapron/internal/core/term"
	"freshapron/internal/core/typed"
	"freshapron/internal/formats/pricelist"
	"freshapron/internal/formats/table"
	"freshapron/internal/store"
)

// A PriceChange is what a row of a list would change.
type PriceChange struct {
	pricelist.Row
	Kind string // new, price, other, same, faulty
	Was  *supply.Product
}

// A Preview is what a price list would change.
type Preview struct {
	Supplier store.Supplier
	Changes  []PriceChange
	Gone     []supply.Product // that the list has not
	Unread   []string         // the other sheets of its workbook
	Text     string           // what to send to take it
	Count    map[string]int
}

// ReadPrices reads a price list of a supplier and says what it would change.
func ReadPrices(ctx context.Context, supplier int64, data []byte) (*Preview, error) {
	s := school.In(ctx)
	suppliers, err := s.Suppliers(ctx)
	if err != nil {
		return nil, err
	}
	at := slices.IndexFunc(suppliers, func(x store.Supplier) bool { return x.ID == supplier })
	if at < 0 {
		return nil, problem.New("supplier", "Choose whose list it is.")
	}
	rows, err := table.Read(data)
	if err != nil {
		return nil, problem.New("file", "%s", err)
	}
	larder, err := s.Larder(ctx)
	if err != nil {
		return nil, err
	}
	list, err := pricelist.Read(rows, larder.Pantry)
	if err != nil {
		return nil, problem.New("file", "%s", err)
	}
	known, err := s.Products(ctx)
	if err != nil {
		return nil, err
	}
	byCode := map[string]supply.Product{}
	for _, p := range known {
		if p.Supplier == supplier {
			byCode[p.Code] = p
		}
	}
	v := &Preview{Supplier: suppliers[at], Unread: table.Unread(data), Count: map[string]int{}}
	var b strings.Builder
	var keep []supply.Product
	listed := map[string]bool{}
	for _, r := range list {
		c := PriceChange{Row: r, Kind: "new"}
		listed[r.Product.Code] = true
		if was, ok := byCode[r.Product.Code]; ok {
			c.Was = &was
			if c.Product.Item == "" || r.Maybe != nil {
				c.Product.Item = was.Item // somebody has said what it is
			}
			c.Kind = kindOf(was, c.Product)
		}
		if r.Problems != nil {
			c.Kind = "faulty"
		} else {
			keep = append(keep, c.Product)
		}
		v.Count[c.Kind]++
		v.Changes = append(v.Changes, c)
	}
	for _, p := range known {
		if p.Supplier == supplier && !listed[p.Code] {
			v.Gone = append(v.Gone, p)
		}
	}
	v.Count["gone"] = len(v.Gone)
	if err := table.WriteCSV(&b, pricelist.Rows(keep)); err != nil {
		return nil, err
	}
	v.Text = b.String()
	return v, nil
}

func kindOf(was, is supply.Product) string {
	equal := func(a, b *int) bool { return days(a) == days(b) }
	switch {
	case was.Pence != is.Pence:
		return "price"
	case was.Name != is.Name || was.Item != is.Item || was.Size.Amount.Cmp(is.Size.Amount) != 0 || was.Size.Unit.ID != is.Size.Unit.ID ||
		!equal(was.Keeps, is.Keeps) || !equal(was.Opened, is.Opened) || was.Days != is.Days || !equal(was.Most, is.Most):
		return "other"
	}
	return "same"
}

// TakePrices takes over a list as ReadPrices has written it; drop takes from the
// list what it has not.
func TakePrices(ctx context.Context, supplier int64, text string, drop bool) (*Preview, error) {
	v, err := ReadPrices(ctx, supplier, []byte(text))
	if err != nil {
		return nil, err
	}
	s := school.In(ctx)
	var list []supply.Product
	for _, c := range v.Changes {
		if c.Kind != "faulty" {
			list = append(list, c.Product)
		}
	}
	return v, s.InTransaction(ctx, func(in *store.School) error {
		if err := in.SaveProducts(ctx, supplier, list); err != nil {
			return err
		}
		var gone []int64
		for _, p := range v.Gone {
			if drop {
				gone = append(gone, p.ID)
			}
		}
		if gone == nil {
			return nil
		}
		return in.DropProducts(ctx, gone)
	})
}

// SayItem says what a product is in the pantry.
func SayItem(ctx context.Context, product int64, name string) error {
	s := school.In(ctx)
	list, err := s.Products(ctx)
	if err != nil {
		return err
	}
	at := slices.IndexFunc(list, func(p supply.Product) bool { return p.ID == product })
	if at < 0 {
		return school.ErrNotFound
	}
	larder, err := s.Larder(ctx)
	if err != nil {
		return err
	}
	p := list[at]
	if p.Item = ""; strings.TrimSpace(name) != "" {
		m := larder.Pantry.MatchAs(name, p.Size.Unit)
		if !m.Certain {
			return problem.New("item", "The pantry has no “%s”. Write it as it stands there, or add it first", strings.TrimSpace(name))
		}
		p.Item = m.Ingredient.ID
	}
	return s.SaveProducts(ctx, p.Supplier, []supply.Product{p})
}

// A SupplierForm is a supplier in the words of a form.
type SupplierForm struct {
	Version                   string
	Name, Lead, Least, Charge string
	Days                      []string // 0 is Monday
}

// FormOf returns a supplier in the words of the form.
func FormOf(s store.Supplier) SupplierForm {
	f := SupplierForm{Version: fmt.Sprint(s.Version), Name: s.Name, Lead: fmt.Sprint(s.LeadDays), Least: Pounds(s.Least), Charge: Pounds(s.Charge)}
	for d := range 7 {
		if s.Days.Has(term.Weekday(d)) {
			f.Days = append(f.Days, fmt.Sprint(d))
		}
	}
	return f
}

const mostLead = 60

// SaveSupplier adds a supplier, where the id is 0, or changes one.
func SaveSupplier(ctx context.Context, id int64, in SupplierForm) (int64, error) {
	s := school.In(ctx)
	var f typed.Form
	row := store.Supplier{}
	list, err := s.Suppliers(ctx)
	if err != nil {
		return 0, err
	}
	row.ID = id
	row.Name = f.Name("name", "Give the supplier a name.", in.Name)
	for _, x := range list {
		if x.ID == id {
			row.Answers = x.Answers
		} else if strings.EqualFold(x.Name, row.Name) {
			f.Add("name", "%s is there already", x.Name)
		}
	}
	if id != 0 && !slices.ContainsFunc(list, func(x store.Supplier) bool { return x.ID == id }) {
		return 0, school.ErrNotFound
	}
	row.LeadDays = f.Between("lead", "Days from ordering to delivery", firstOf(strings.TrimSpace(in.Lead), "0"), 0, mostLead)
	row.Least, row.Charge = pence(&f, "least", firstOf(strings.TrimSpace(in.Least), "0")), pence(&f, "charge", firstOf(strings.TrimSpace(in.Charge), "0"))
	for _, d := range in.Days {
		var n int
		if _, err := fmt.Sscan(d, &n); err == nil && n >= 0 && n < 7 {
			row.Days |= 1 << n
		}
	}
	if row.Days == 0 {
		f.Add("days", "Say on which days they deliver")
	}
	if f.Problems != nil {
		return 0, f.Problems
	}
	_, _ = fmt.Sscan(in.Version, &row.Version) // what is no number is no version that there is
	return s.SaveSupplier(ctx, row)
}

// A BedForm is a bed in the words of a form.
type BedForm struct {
	ID, Version             string
	Name, What, First, Last string
}

// SaveBed adds a bed of the garden or changes one.
func SaveBed(ctx context.Context, in BedForm) error {
	s := school.In(ctx)
	larder, err := s.Larder(ctx)
	if err != nil {
		return err
	}
	var f typed.Form
	b := store.Bed{Name: f.Name("name", "Give the bed a name.", in.Name), First: f.Date("first", in.First, "2026-11-30"), Last: f.Date("last", in.Last, "2026-12-18")}
	_, _ = fmt.Sscan(in.ID, &b.ID)
	_, _ = fmt.Sscan(in.Version, &b.Version)
	q, item, ok := readAmount(in.What, larder)
	if i, known := larder.Pantry.Find(item); !ok || !known || q.Amount.Sign() <= 0 {
		f.Add("what", "“%s” is no amount of something in the pantry, such as “2 kg kale”", strings.TrimSpace(in.What))
	} else {
		b.Item = i.ID
	}
	b.Amount = q
	if f.Problems == nil && b.Last.Before(b.First) {
		f.Add("last", "That is before the first day")
	}
	if f.Problems != nil {
		return f.Problems
	}
	return s.SaveBed(ctx, b)
}

// RemoveBed takes a bed off the list.
func RemoveBed(ctx context.Context, id int64) error { return school.In(ctx).RemoveBed(ctx, id) }

// SetPlaces writes the places of the store in the order in which they are walked
// past, and what rooms share: "stick blenders; 3", a line each.
func SetPlaces(ctx context.Context, places, shared string) error {
	s := school.In(ctx)
	settings, err := s.Settings(ctx)
	if err != nil {
		return err
	}
	var f typed.Form
	settings.Places, settings.Shared = nil, nil
	const most = 60
	for _, row := range f.Rows("places", "Places", places, 1) {
		settings.Places = append(settings.Places, row[0])
	}
	for _, row := range f.Rows("shared", "Shared things", shared, 2) {
		settings.Shared = append(settings.Shared, store.Shared{Name: row[0], Count: f.Between("shared", row[0], row[1], 1, mostPacks)})
	}
	if len(settings.Places) > most || len(settings.Shared) > most {
		f.Add("places", "%d are the most", most)
	}
	if f.Problems != nil {
		return f.Problems
	}
	return s.SaveSettings(ctx, settings)
}

// PriceRows writes products as a table that ReadPrices reads.
func PriceRows(list []supply.Product) [][]string { return pricelist.Rows(list) }
