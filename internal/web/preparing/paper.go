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
	"freshapron/internal/core/words"
	"freshapron/internal/web/frame"
)

// A listPaper is a list on A4, to be ticked with a pencil.
type listPaper struct {
	Back, Head, Sub string
	Groups          []paperGroup
	Foot            string
	Wide            bool // its groups stand beside each other
}

type paperGroup struct {
	Name string
	Note string
	Rows []paperRow
}

type paperRow struct{ Lead, Text, Small string }

func (p *place) paper(w http.ResponseWriter, r *http.Request, m listPaper) error {
	return p.Render(w, r, http.StatusOK, templates, "list-paper", frame.Page{Title: m.Head, Data: m})
}

func paperRows(rows []tickRow) []paperRow {
	var out []paperRow
	for _, x := range rows {
		out = append(out, paperRow{x.Amount, x.Name, x.Small})
	}
	return out
}

func (p *place) fetchPaper(w http.ResponseWriter, r *http.Request) error {
	st, err := preparing.Load(r.Context(), school.In(r.Context()).Today())
	if err != nil {
		return err
	}
	day := on(r, "on")
	m := listPaper{Back: "/prepare/fetch?on=" + day.Format(time.DateOnly), Head: "Fetch for " + day.Format(longDay)}
	places, pick := fetchRows(st, day)
	if pick != nil {
		m.Groups = append(m.Groups, paperGroup{Name: "Pick in the garden", Rows: paperRows(pick)})
	}
	for _, pl := range places {
		m.Groups = append(m.Groups, paperGroup{Name: pl.Name, Rows: paperRows(pl.Rows)})
	}
	var who []string
	for _, l := range st.On(day) {
		who = append(who, l.Period.Start.String()+" "+l.Says())
	}
	m.Sub = strings.Join(who, "; ")
	return p.paper(w, r, m)
}

func (p *place) traysPaper(w http.ResponseWriter, r *http.Request) error {
	l, err := preparing.One(r.Context(), frame.ID(r, "id"))
	if err != nil {
		return err
	}
	m := listPaper{Back: fmt.Sprintf("/lessons/%d/trays", l.ID), Head: "Trays: " + l.Titles(), Wide: true,
		Sub: l.Class.Name + ", " + l.View.Date.Format(longDay) + ", " + l.Period.Start.String() + ", " + l.Room.Name}
	for _, same := range alike(traysOf(l)) {
		t := same[0]
		var names []string
		for _, s := range same {
			names = append(names, s.Row.Name)
		}
		g := paperGroup{Name: words.Numbered(names)}
		if len(same) > 1 {
			g.Name += fmt.Sprintf(": %d trays, each", len(same))
		}
		switch {
		case t.First:
			g.Note = "set up before the others, with board, tools and cloths of its own"
		case t.Swap:
			g.Note = "a tray of its own: " + t.Word
		}
		for _, x := range t.Lines {
			row := paperRow{Lead: x.Amount, Text: x.Name, Small: x.Home}
			if x.For != "" {
				row.Small = strings.TrimSpace("in place of " + x.For + " " + x.Home)
			}
			g.Rows = append(g.Rows, row)
		}
		m.Groups = append(m.Groups, g)
	}
	if l.Problems == nil {
		g := paperGroup{Name: "Equipment"}
		for _, e := range equipment(l) {
			g.Rows = append(g.Rows, paperRow{Lead: fmt.Sprint(e.count), Text: e.name})
		}
		m.Groups = append(m.Groups, g)
	}
	return p.paper(w, r, m)
}

// alike puts trays together that hold the same.
func alike(trays []tray) [][]tray {
	var out [][]tray
	for _, t := range trays {
		at := slices.IndexFunc(out, func(s []tray) bool { return s[0].First == t.First && slices.Equal(s[0].Lines, t.Lines) })
		if at < 0 {
			out = append(out, []tray{t})
		} else {
			out[at] = append(out[at], t)
		}
	}
	return out
}

func (p *place) orderPaper(w http.ResponseWriter, r *http.Request) error {
	ctx := r.Context()
	o, err := school.In(ctx).Order(ctx, frame.ID(r, "id"))
	if err != nil {
		return err
	}
	st, err := preparing.Load(ctx, school.In(ctx).Today())
	if err != nil {
		return err
	}
	m := listPaper{Back: fmt.Sprintf("/prepare/orders/%d", o.ID), Head: "Order to " + st.Supplier(o.Supplier).Name, Sub: "to come on " + o.On.Format(longDay) + "; sent by " + o.Who + ", " + school.Name(ctx)}
	var g paperGroup
	sum := o.Charge
	for _, l := range o.Lines {
		sum += l.Product.Pence * l.Count
		g.Rows = append(g.Rows, paperRow{fmt.Sprintf("%d ×", l.Count), l.Product.Name, fmt.Sprintf("%s, %s, %s", l.Product.Size, l.Product.Code, measure.Price(l.Product.Pence*l.Count))})
	}
	m.Groups = []paperGroup{g}
	m.Foot = fmt.Sprintf("Delivery %s, together %s.", measure.Price(o.Charge), measure.Price(sum))
	return p.paper(w, r, m)
}

func (p *place) dayPaper(w http.ResponseWriter, r *http.Request) error {
	d, err := preparing.DayOf(r.Context(), on(r, "on"), number(r.FormValue("who")))
	if err != nil {
		return err
	}
	m := listPaper{Back: "/prepare/day?on=" + d.Date.Format(time.DateOnly), Head: d.Date.Format(longDay), Sub: firstOf(d.Who.Name, "nobody has said when they prepare")}
	late := paperGroup{Name: "Can’t be done as it is"}
	for _, l := range d.Plan.Late {
		j := d.Plan.Jobs[l.Job]
		late.Rows = append(late.Rows, paperRow{clockOf(j.Due), j.Says, d.Lessons[j.Lesson].Says()})
	}
	if late.Rows != nil {
		m.Groups = append(m.Groups, late)
	}
	var g paperGroup
	for _, piece := range d.Plan.Pieces {
		if piece.From >= 24*60 || piece.Until <= 0 {
			continue
		}
		j := d.Plan.Jobs[piece.Job]
		row := paperRow{clockOf(piece.From), j.Says, fmt.Sprintf("%d min, %s, over by %s", piece.Until-piece.From, d.Lessons[j.Lesson].Says(), clockOf(j.Due))}
		if !slices.Contains(g.Rows, row) {
			g.Rows = append(g.Rows, row)
		}
	}
	m.Groups = append(m.Groups, g)
	return p.paper(w, r, m)
}
