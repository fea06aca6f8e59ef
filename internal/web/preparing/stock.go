package preparing

import (
	"fmt"
	"net/http"
	"slices"
	"strings"
	"time"

	"freshapron/internal/app/preparing"
	"freshapron/internal/app/school"
	"freshapron/internal/core/measure"
	"freshapron/internal/core/staff"
	"freshapron/internal/core/supply"
	"freshapron/internal/core/words"
	"freshapron/internal/web/frame"
)

type storePage struct {
	Places []storePlace
	Count  string
	Worth  string
	Names  []string // of places
	Items  []string // of the pantry
	Moves  []moveRow
	Due    []batchRow // what runs out this week
	Thrown string
	In     preparing.Goods

	Counted []preparing.CountRow // that were brought in, and are not taken yet
	All     bool                 // as all there is of them
	Pasted  string
}

// Unclear is how many rows of a count can't be taken.
func (m storePage) Unclear() string {
	n := 0
	for _, r := range m.Counted {
		if r.Wrong != "" {
			n++
		}
	}
	if n == 0 {
		return ""
	}
	return words.Plural(n, "row is", "rows are")
}

type storePlace struct {
	Name string
	Rows []batchRow
}

type batchRow struct {
	ID           int64
	Name, Amount string
	Says         string // both
	Item         string
	Until, Light string
	Opened       string
	Place        string
	Version      int
	For          string
	Unknown      bool
}

type moveRow struct{ When, What, Says, Who string }

func (p *place) store(w http.ResponseWriter, r *http.Request) error {
	return p.storePage(w, r, storePage{}, nil)
}

// storePage shows the store, with what is being put in or counted.
func (p *place) storePage(w http.ResponseWriter, r *http.Request, m storePage, failed error) error {
	ctx := r.Context()
	s := school.In(ctx)
	today := s.Today()
	st, err := preparing.Load(ctx, today)
	if err != nil {
		return err
	}
	m.Names = placesOf(st)
	worth := 0
	first := firstUses(st)
	for _, b := range st.Batches {
		row := rowOf(st, b, today)
		row.For = first[b.ID]
		worth += b.Worth(b.Amount.Amount)
		at := slices.IndexFunc(m.Places, func(x storePlace) bool { return x.Name == b.Place })
		if at < 0 {
			at = len(m.Places)
			m.Places = append(m.Places, storePlace{Name: b.Place})
		}
		m.Places[at].Rows = append(m.Places[at].Rows, row)
		if !b.UseBy.IsZero() && b.UseBy.Before(today.AddDate(0, 0, 7)) {
			m.Due = append(m.Due, row)
		}
	}
	order := func(name string) int {
		if at := slices.Index(st.Larder.Settings.Places, name); at >= 0 {
			return at
		}
		return len(st.Larder.Settings.Places)
	}
	slices.SortStableFunc(m.Places, func(a, b storePlace) int {
		if d := order(a.Name) - order(b.Name); d != 0 {
			return d
		}
		return strings.Compare(a.Name, b.Name)
	})
	m.Count, m.Worth = fmt.Sprint(len(st.Batches)), measure.Price(worth)
	for _, i := range st.Larder.Pantry.List() {
		m.Items = append(m.Items, i.Name)
	}
	const newest = 12
	moves, err := s.Movements(ctx, today.AddDate(0, 0, -14), newest)
	if err != nil {
		return err
	}
	for _, x := range moves {
		m.Moves = append(m.Moves, moveRow{s.Local(x.At).Format("Mon 2 Jan, 15:04"), x.Name, preparing.Happened(x), x.Who})
	}
	return p.show(w, r, http.StatusOK, "store", "Store", "The store", failed, m)
}

func rowOf(st *preparing.Stretch, b preparing.Batch, today time.Time) batchRow {
	row := batchRow{ID: b.ID, Name: b.Name, Amount: supply.Round(b.Amount).String(), Says: st.Says(b.Item, b.Amount), Item: b.Item, Place: b.Place, Version: b.Version}
	row.Until, row.Light = until(b.UseBy, today)
	if !b.Opened.IsZero() {
		row.Opened = "open since " + b.Opened.Format("2 Jan")
	}
	_, known := st.Larder.Pantry.Find(b.Item)
	row.Unknown = !known
	return row
}

// firstUses says for each batch of the store, by its id, what takes of it first.
func firstUses(st *preparing.Stretch) map[int64]string {
	out := map[int64]string{}
	for _, n := range st.Plan.Needs {
		for _, src := range st.Plan.SourcesOf(n) {
			if src.Batch != nil && src.Batch.From == nil && out[src.Batch.ID] == "" {
				out[src.Batch.ID] = n.Item.Says(src.Amount) + " on " + preparing.Date(n.On).Format("Mon 2")
			}
		}
	}
	return out
}

func (p *place) put(w http.ResponseWriter, r *http.Request) error {
	var g preparing.Goods
	if err := frame.Decode(r, &g); err != nil {
		return err
	}
	if err := preparing.AddGoods(r.Context(), g); err != nil {
		return p.storePage(w, r, storePage{In: g}, err)
	}
	return see(w, r, "/prepare/store", "said", "It is in the store.")
}

func (p *place) change(w http.ResponseWriter, r *http.Request) error {
	var c preparing.Change
	if err := frame.Decode(r, &c); err != nil {
		return err
	}
	if err := preparing.ChangeBatch(r.Context(), frame.ID(r, "id"), c); err != nil {
		return p.storePage(w, r, storePage{}, err)
	}
	return see(w, r, "/prepare/store", "said", map[string]string{"count": "Counted.", "throw": "Thrown away, and written down.", "open": "Opened: it keeps for less now.", "move": "Moved."}[c.Do])
}

// count shows what of a count that was brought in is understood.
func (p *place) count(w http.ResponseWriter, r *http.Request) error {
	_, data, err := frame.Uploaded(r)
	if err != nil {
		return err
	}
	rows, err := preparing.ReadCount(r.Context(), data)
	if err != nil {
		return p.storePage(w, r, storePage{Pasted: r.PostFormValue("text")}, err)
	}
	return p.storePage(w, r, storePage{Counted: rows, All: true}, nil)
}

// takeCount puts a count into the store as it stands in the form.
func (p *place) takeCount(w http.ResponseWriter, r *http.Request) error {
	var in preparing.Count
	if err := frame.Decode(r, &in); err != nil {
		return err
	}
	n, wrong, err := preparing.TakeCount(r.Context(), in)
	switch {
	case err != nil:
		return err
	case n == 0 && len(wrong) == 0:
		return see(w, r, "/prepare/store", "said", "Nothing was counted.")
	case n == 0:
		return p.storePage(w, r, storePage{Counted: wrong, All: in.All}, nil)
	}
	return see(w, r, "/prepare/store", "said", words.Plural(n, "thing is", "things are")+" counted.")
}

func (p *place) storeFile(w http.ResponseWriter, r *http.Request) error {
	st, err := preparing.Load(r.Context(), school.In(r.Context()).Today())
	if err != nil {
		return err
	}
	return sendTable(w, r, "store", st.StockRows())
}

type leftPage struct {
	Rows  []leftRow
	Throw []batchRow // what is past its date
}

type leftRow struct {
	What, Until, Light, Worth string
	Freeze                    string
	Ideas                     []ideaRow
}

type ideaRow struct{ Href, Says, Do string }

// left shows what nobody takes, by its date, and what it could become.
func (p *place) left(w http.ResponseWriter, r *http.Request) error {
	ctx := r.Context()
	today := school.In(ctx).Today()
	st, err := preparing.Load(ctx, today)
	if err != nil {
		return err
	}
	var m leftPage
	for _, b := range st.Batches {
		if !b.UseBy.IsZero() && b.UseBy.Before(today) {
			m.Throw = append(m.Throw, rowOf(st, b, today))
		}
	}
	left := slices.Clone(st.Plan.Left)
	slices.SortStableFunc(left, func(a, b supply.Left) int {
		switch {
		case a.UseBy == nil && b.UseBy == nil:
			return 0
		case a.UseBy == nil:
			return 1
		case b.UseBy == nil:
			return -1
		}
		return int(*a.UseBy - *b.UseBy)
	})
	ideas, err := st.Ideas(ctx)
	if err != nil {
		return err
	}
	const soon = 35 // days: what keeps longer is no left-over yet
	for _, l := range left {
		if l.UseBy == nil || preparing.Date(*l.UseBy).Before(today) || preparing.Date(*l.UseBy).After(today.AddDate(0, 0, soon)) {
			continue
		}
		row := leftRow{What: l.Item.Says(l.Amount)}
		row.Until, row.Light = until(preparing.Date(*l.UseBy), today)
		if l.Pence.Sign() > 0 {
			row.Worth = pounds(l.Pence)
		}
		if n := l.Item.Stock.Freezes; n > 0 {
			row.Freeze = "can be frozen, for " + words.Plural(n, "day", "days") + " (typical)"
		}
		const class = 24
		for _, i := range ideas.Of(l, class) {
			row.Ideas = append(row.Ideas, ideaSays(i, l, school.May(ctx, staff.Plan)))
		}
		m.Rows = append(m.Rows, row)
	}
	return p.show(w, r, http.StatusOK, "left", "Left over", "Left over", nil, m)
}

func ideaSays(i preparing.Idea, l supply.Left, plans bool) ideaRow {
	if i.Lesson != nil {
		return ideaRow{lessonHref(*i.Lesson), fmt.Sprintf("%s on %s needs %s", i.Lesson.Says(), i.Lesson.View.Date.Format("Mon 2 Jan"), l.Item.Says(i.Uses)), "Look at it"}
	}
	says := fmt.Sprintf("%s for %s uses %.0f %% of it", i.Dish.Title, words.Plural(i.Learners, "learner", "learners"), 100*i.Share)
	if !plans {
		return ideaRow{Says: says}
	}
	return ideaRow{fmt.Sprintf("/lessons/new?dish=%d&date=%s", i.Dish.ID, preparing.Date(*l.UseBy).Format(time.DateOnly)),
		says, "Plan it"}
}
