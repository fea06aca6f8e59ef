package preparing

import (
	"fmt"
	"net/http"
	"slices"
	"strconv"
	"strings"
	"time"

	"freshapron/internal/app/preparing"
	"freshapron/internal/app/school"
	"freshapron/internal/core/measure"
	"freshapron/internal/core/supply"
	"freshapron/internal/core/words"
	"freshapron/internal/web/frame"
)

type pricesPage struct {
	Suppliers []supplierRow
	Products  []productRow
	Count     string
	Query     string
	Unknown   int
	Items     []string
	Preview   *previewPage
	From      string // of the suppliers
	Whose     int64  // the list is that was brought in and can't be taken
	Pasted    string
	Before    string
	Next      string
}

type supplierRow struct {
	ID                   int64
	Name, Days, Lead     string
	Least, Charge, Count string
}

type productRow struct {
	ID                                int64
	Code, Name, Pack, Price, Supplier string
	Item                              string
	Keeps, Days                       string
}

type previewPage struct {
	Supplier   string
	SupplierID int64
	Text       string
	Faulty     []previewRow
	Changed    []previewRow
	New        []previewRow
	Gone       []string
	Unread     string
	Same       int
	Counts     []string
}

type previewRow struct {
	Line       int
	Name, Pack string
	Was, Is    string
	Item       string
	Says       string
}

// shownProducts is how many products stand on a page.
const shownProducts = 100

func (p *place) prices(w http.ResponseWriter, r *http.Request) error {
	return p.pricesPage(w, r, nil, nil)
}

func (p *place) pricesPage(w http.ResponseWriter, r *http.Request, preview *previewPage, failed error) error {
	ctx := r.Context()
	s := school.In(ctx)
	suppliers, err := s.Suppliers(ctx)
	if err != nil {
		return err
	}
	products, err := s.Products(ctx)
	if err != nil {
		return err
	}
	larder, err := s.Larder(ctx)
	if err != nil {
		return err
	}
	m := pricesPage{Query: r.URL.Query().Get("q"), Preview: preview}
	if failed != nil {
		m.Whose, m.Pasted = number(r.PostFormValue("supplier")), r.PostFormValue("text")
	}
	names := map[int64]string{}
	for _, x := range suppliers {
		names[x.ID] = x.Name
		row := supplierRow{ID: x.ID, Name: x.Name, Days: days(int(x.Days)), Lead: fmt.Sprint(x.LeadDays), Least: measure.Price(x.Least), Charge: measure.Price(x.Charge)}
		n := 0
		for _, k := range products {
			if k.Supplier == x.ID {
				n++
			}
		}
		row.Count = fmt.Sprint(n)
		m.Suppliers = append(m.Suppliers, row)
	}
	from, _ := strconv.Atoi(r.URL.Query().Get("from"))
	from = max(0, from)
	found := 0
	for _, k := range products {
		if k.Item == "" {
			m.Unknown++
		}
		switch q := strings.ToLower(strings.TrimSpace(m.Query)); {
		case q == "?" && k.Item != "", q != "?" && q != "" && !strings.Contains(strings.ToLower(k.Name+" "+k.Code+" "+k.Item), q):
			continue
		}
		found++
		if found <= from || len(m.Products) >= shownProducts {
			continue
		}
		row := productRow{ID: k.ID, Code: k.Code, Name: k.Name, Pack: k.Size.String(), Price: measure.Price(k.Pence), Supplier: names[k.Supplier], Days: days(int(k.Days))}
		if i, ok := larder.Pantry.Find(k.Item); ok {
			row.Item = i.Name
		}
		if k.Keeps != nil {
			row.Keeps = words.Plural(int(*k.Keeps), "day", "days")
		}
		m.Products = append(m.Products, row)
	}
	m.Count = fmt.Sprintf("%d of %d products", found, len(products))
	turn := func(from int) string { return fmt.Sprintf("/prepare/prices?q=%s&from=%d", m.Query, from) }
	if from > 0 {
		m.Before = turn(max(0, from-shownProducts))
	}
	if found > from+shownProducts {
		m.Next = turn(from + shownProducts)
	}
	for _, i := range larder.Pantry.List() {
		m.Items = append(m.Items, i.Name)
	}
	return p.show(w, r, http.StatusOK, "prices", "Prices", "Suppliers and prices", failed, m)
}

func days(bits int) string {
	if bits == 1<<7-1 {
		return "every day"
	}
	if bits == 31 {
		return "Monday to Friday"
	}
	var out []string
	for d, name := range weekdays {
		if bits&(1<<d) != 0 {
			out = append(out, name[:3])
		}
	}
	return strings.Join(out, ", ")
}

func (p *place) readPrices(w http.ResponseWriter, r *http.Request) error {
	_, data, err := frame.Uploaded(r)
	if err != nil {
		return err
	}
	v, err := preparing.ReadPrices(r.Context(), number(r.PostFormValue("supplier")), data)
	if err != nil {
		return p.pricesPage(w, r, nil, err)
	}
	return p.pricesPage(w, r, previewOf(v), nil)
}

// mostShown is how many rows of each kind a preview shows; the rest is counted.
const mostShown = 200

func previewOf(v *preparing.Preview) *previewPage {
	m := &previewPage{Supplier: v.Supplier.Name, SupplierID: v.Supplier.ID, Text: v.Text, Same: v.Count["same"], Unread: words.Names(v.Unread)}
	for _, c := range v.Changes {
		row := previewRow{Line: c.Line, Name: c.Product.Name, Pack: c.Product.Size.String(), Is: measure.Price(c.Product.Pence), Item: c.Product.Item}
		if c.Product.Item == "" {
			row.Item = "not known"
			if c.Maybe != nil {
				row.Item += ": " + strings.Join(c.Maybe, " or ") + "?"
			}
		}
		if c.Was != nil {
			row.Was = measure.Price(c.Was.Pence)
		}
		switch c.Kind {
		case "faulty":
			row.Says = strings.Join(c.Problems, "; ")
			m.Faulty = append(m.Faulty, row)
		case "price", "other":
			if c.Kind == "other" {
				row.Says = "another size, name or keeping time"
			}
			if len(m.Changed) < mostShown {
				m.Changed = append(m.Changed, row)
			}
		case "new":
			if len(m.New) < mostShown {
				m.New = append(m.New, row)
			}
		}
	}
	for _, g := range v.Gone {
		if len(m.Gone) < mostShown {
			m.Gone = append(m.Gone, g.Name)
		}
	}
	for _, k := range []struct{ kind, word string }{{"new", "new"}, {"price", "at another price"}, {"other", "otherwise changed"}, {"same", "as before"}, {"faulty", "that can’t be read"}, {"gone", "no longer listed"}} {
		if n := v.Count[k.kind]; n > 0 {
			m.Counts = append(m.Counts, fmt.Sprintf("%d %s", n, k.word))
		}
	}
	return m
}

func (p *place) takePrices(w http.ResponseWriter, r *http.Request) error {
	_, data, err := frame.Uploaded(r)
	if err != nil {
		return err
	}
	v, err := preparing.TakePrices(r.Context(), number(r.PostFormValue("supplier")), string(data), r.PostFormValue("drop") != "")
	if err != nil {
		return p.pricesPage(w, r, nil, err)
	}
	return see(w, r, "/prepare/prices", "said", fmt.Sprintf("Taken over: %d lines of %s.", len(v.Changes), v.Supplier.Name))
}

func (p *place) sayItem(w http.ResponseWriter, r *http.Request) error {
	if err := parse(r); err != nil {
		return err
	}
	if err := preparing.SayItem(r.Context(), number(r.PostFormValue("product")), r.PostFormValue("item")); err != nil {
		return p.pricesPage(w, r, nil, err)
	}
	return see(w, r, "/prepare/prices", "q", r.PostFormValue("q"), "said", "Known from now on.")
}

func (p *place) pricesFile(w http.ResponseWriter, r *http.Request) error {
	list, err := school.In(r.Context()).Products(r.Context())
	if err != nil {
		return err
	}
	if id := number(r.URL.Query().Get("supplier")); id != 0 {
		list = slices.DeleteFunc(list, func(k supply.Product) bool { return k.Supplier != id })
	}
	return sendTable(w, r, "prices", preparing.PriceRows(list))
}

type supplierPage struct {
	ID     int64 // 0 for a new one
	Form   preparing.SupplierForm
	Days   []frame.Option
	Fields map[string]frame.Field
}

func (p *place) supplier(w http.ResponseWriter, r *http.Request) error {
	id := frame.ID(r, "id")
	form := preparing.SupplierForm{Days: []string{"0", "1", "2", "3", "4"}, Lead: "1"}
	if id != 0 {
		list, err := school.In(r.Context()).Suppliers(r.Context())
		if err != nil {
			return err
		}
		found := false
		for _, x := range list {
			if x.ID == id {
				form, found = preparing.FormOf(x), true
			}
		}
		if !found {
			return school.ErrNotFound
		}
	}
	return p.supplierPage(w, r, id, form, nil)
}

func (p *place) supplierPage(w http.ResponseWriter, r *http.Request, id int64, form preparing.SupplierForm, failed error) error {
	m := supplierPage{ID: id, Form: form, Fields: map[string]frame.Field{
		"name": frame.Text("name", "Name", form.Name, nil), "lead": frame.Text("lead", "Days from ordering to delivery", form.Lead, nil),
		"least": frame.Text("least", "Least order, in pounds", form.Least, nil), "charge": frame.Text("charge", "Charge of a delivery, in pounds", form.Charge, nil)}}
	for d, name := range weekdays {
		m.Days = append(m.Days, frame.Option{Value: fmt.Sprint(d), ID: fmt.Sprintf("day-%d", d), Label: name, Chosen: slices.Contains(form.Days, fmt.Sprint(d))})
	}
	head := "A new supplier"
	if id != 0 {
		head = form.Name
	}
	return p.show(w, r, http.StatusOK, "supplier", "Prices", head, failed, m)
}

func (p *place) saveSupplier(w http.ResponseWriter, r *http.Request) error {
	var f struct {
		Version, Name, Lead, Least, Charge string
		Day                                []string
	}
	if err := frame.Decode(r, &f); err != nil {
		return err
	}
	form := preparing.SupplierForm{Version: f.Version, Name: f.Name, Lead: f.Lead, Least: f.Least, Charge: f.Charge, Days: f.Day}
	id := frame.ID(r, "id")
	if _, err := preparing.SaveSupplier(r.Context(), id, form); err != nil {
		return p.supplierPage(w, r, id, form, err)
	}
	return see(w, r, "/prepare/prices", "said", "Saved.")
}

type gardenPage struct {
	Beds  []bedRow
	Items []string
	In    preparing.BedForm
}

type bedRow struct {
	ID                      int64
	Name, What, When, Light string
	First, Last             string
	Version                 int
	For                     []string
}

func (p *place) garden(w http.ResponseWriter, r *http.Request) error {
	return p.gardenPage(w, r, preparing.BedForm{}, nil)
}

func (p *place) gardenPage(w http.ResponseWriter, r *http.Request, in preparing.BedForm, failed error) error {
	st, err := preparing.Load(r.Context(), school.In(r.Context()).Today())
	if err != nil {
		return err
	}
	today := school.In(r.Context()).Today()
	m := gardenPage{In: in}
	for _, b := range st.Beds {
		row := bedRow{ID: b.ID, Name: b.Name, What: st.Says(b.Item, b.Amount), First: b.First.Format(time.DateOnly), Last: b.Last.Format(time.DateOnly), Version: b.Version,
			When: b.First.Format("2 January") + " to " + b.Last.Format("2 January")}
		if !today.Before(b.First) {
			row.When, row.Light = "now, until "+b.Last.Format("2 January"), "good"
		}
		for _, n := range st.Plan.Needs {
			for _, s := range st.Plan.SourcesOf(n) {
				if s.Batch != nil && s.Batch.Says == "bed: "+b.Name {
					for _, f := range whom(st, n.Of) {
						row.For = append(row.For, n.Item.Says(s.Amount)+" for "+f.Lesson)
					}
				}
			}
		}
		m.Beds = append(m.Beds, row)
	}
	for _, i := range st.Larder.Pantry.List() {
		m.Items = append(m.Items, i.Name)
	}
	return p.show(w, r, http.StatusOK, "garden", "Garden", "The garden", failed, m)
}

func (p *place) saveBed(w http.ResponseWriter, r *http.Request) error {
	if err := parse(r); err != nil {
		return err
	}
	v := r.PostForm
	if v.Get("do") == "remove" {
		if err := preparing.RemoveBed(r.Context(), number(v.Get("id"))); err != nil {
			return err
		}
		return see(w, r, "/prepare/garden", "said", "Taken off the list.")
	}
	in := preparing.BedForm{ID: v.Get("id"), Version: v.Get("version"), Name: v.Get("name"), What: v.Get("what"), First: v.Get("first"), Last: v.Get("last")}
	if err := preparing.SaveBed(r.Context(), in); err != nil {
		return p.gardenPage(w, r, in, err)
	}
	return see(w, r, "/prepare/garden", "said", "Saved.")
}

type placesPage struct{ Places, Shared string }

func (p *place) places(w http.ResponseWriter, r *http.Request) error {
	return p.placesPage(w, r, nil)
}

func (p *place) placesPage(w http.ResponseWriter, r *http.Request, failed error) error {
	larder, err := school.In(r.Context()).Larder(r.Context())
	if err != nil {
		return err
	}
	m := placesPage{Places: strings.Join(larder.Settings.Places, "\n")}
	for _, s := range larder.Settings.Shared {
		m.Shared += fmt.Sprintf("%s; %d\n", s.Name, s.Count)
	}
	if failed != nil {
		m = placesPage{r.PostFormValue("places"), r.PostFormValue("shared")}
	}
	return p.show(w, r, http.StatusOK, "places", "Store", "Places, and what rooms share", failed, m)
}

func (p *place) savePlaces(w http.ResponseWriter, r *http.Request) error {
	if err := parse(r); err != nil {
		return err
	}
	if err := preparing.SetPlaces(r.Context(), r.PostFormValue("places"), r.PostFormValue("shared")); err != nil {
		return p.placesPage(w, r, err)
	}
	return see(w, r, "/prepare/store", "said", "Saved.")
}
