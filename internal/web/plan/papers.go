package plan

import (
	"fmt"
	"net/http"
	"net/url"
	"slices"
	"strings"

	"freshapron/internal/app/lessons"
	"freshapron/internal/app/school"
	"freshapron/internal/core/exact"
	"freshapron/internal/core/fit"
	"freshapron/internal/core/lesson"
	"freshapron/internal/core/scale"
	"freshapron/internal/core/staff"
	"freshapron/internal/web/frame"
	"freshapron/internal/web/head"
)

// A paper is what all print-outs of a lesson have in common.
type paper struct {
	head.Head
	Name   string // which of the papers it is
	Papers []link
	Ways   []link // in which they can be printed
	Sheets any
}

// papers lists the print-outs of a lesson.
func papersOf(id int64, current string) []link {
	var out []link
	for _, p := range []struct{ label, at string }{
		{"Teacher", ""}, {"Benches", "/benches"}, {"Adults", "/adults"}, {"Ovens", "/ovens"},
	} {
		out = append(out, link{p.label, p.label, fmt.Sprintf("/lessons/%d/print%s", id, p.at), p.label == current})
	}
	return out
}

func paperOf(v *lessons.View, name string, sheets any) paper {
	return paper{Head: head.Of(v), Name: name, Papers: papersOf(v.ID, name), Sheets: sheets}
}

func (p *place) paper(name, part string, sheets func(*lessons.View) any) frame.Handler {
	return withPlan(func(w http.ResponseWriter, r *http.Request, v *lessons.View) error {
		return p.Render(w, r, http.StatusOK, templates, part, frame.Page{
			Title: head.Title(name, v), Data: paperOf(v, name, sheets(v)),
		})
	})
}

// A form is how the sheets of the benches are printed: with the whole method, or
// in short; each job with a given name, or with a letter.
type form struct{ Short, Names bool }

func (f form) address(id int64) string {
	q := url.Values{}
	if f.Short {
		q.Set("form", "short")
	}
	if f.Names {
		q.Set("jobs", "names")
	}
	at := fmt.Sprintf("/lessons/%d/print/benches", id)
	if len(q) > 0 {
		at += "?" + q.Encode()
	}
	return at
}

// benches prints a sheet for each bench.
func (p *place) benches(w http.ResponseWriter, r *http.Request, v *lessons.View) error {
	q := r.URL.Query()
	f := form{Short: q.Get("form") == "short", Names: q.Get("jobs") == "names"}
	mine, err := school.Mine(r.Context(), v.Class.ID)
	if err != nil {
		return err
	}
	sheets := benchSheets(v, f)
	if mine = mine && school.May(r.Context(), staff.Teach); !mine {
		sheets = withoutNames(sheets)
	} else if slices.ContainsFunc(sheets, func(s benchSheet) bool { return len(s.Ways) > 0 }) {
		if err := lessons.SawWays(r.Context(), v); err != nil {
			return err
		}
	}
	out := paperOf(v, "Benches", sheets)
	for _, way := range []struct {
		label string
		form  form
	}{
		{"Whole method", form{false, f.Names}}, {"In short", form{true, f.Names}}, {"Jobs by letter", form{f.Short, false}}, {"Jobs by given name", form{f.Short, true}},
	} {
		if way.form.Names && !mine {
			continue
		}
		out.Ways = append(out.Ways, link{way.label, way.label, way.form.address(v.ID), way.form == f})
	}
	return p.Render(w, r, http.StatusOK, templates, "benches", frame.Page{Title: head.Title("Benches", v), Data: out})
}

// A benchSheet is what one bench works from.
type benchSheet struct {
	Name   string
	DoneBy string
	Dishes []benchDish
	Cooks  []cookSheet
	Places []string // which oven is theirs, and when
	Who    string   // the names of those who work there
	Ways   []string // other ways to do it, without saying why
	Large  bool     // in large print
}

type benchDish struct {
	Title, Makes string
	Amounts      []amountLine
}

type amountLine struct{ Amount, Name, Note string }

// A cookSheet is what one of them does.
type cookSheet struct {
	Name string
	Rows []doing
}

// A doing is a step of one cook. Whole is for the whole class.
type doing struct {
	Icon                          string
	Clock, What, LookFor, Careful string
	Method                        []string
	With, Where, Share            string
	Whole                         bool
}

func benchSheets(v *lessons.View, f form) []benchSheet {
	var out []benchSheet
	for _, b := range v.Core.BenchSheets(v.Fit, v.Plan, v.Sizes) {
		s := benchSheet{Name: b.Name, DoneBy: v.Fit.At(b.DoneBy), Who: strings.Join(b.Names(), ", "), Ways: b.Says, Large: b.Large}
		for _, d := range b.Dishes {
			s.Dishes = append(s.Dishes, benchDish{d.Title, d.Makes, amountLines(d.Amounts)})
		}
		for i, lane := range b.Lanes {
			c := cookSheet{Name: "What to do"}
			if len(b.Lanes) > 1 {
				c.Name = "Cook " + string(rune('A'+i))
			}
			if names := b.Names(); f.Names && len(names) == len(b.Lanes) {
				c.Name = names[i]
			}
			for _, d := range lane {
				row := doing{
					Icon: string(d.Kind), Clock: v.Fit.At(d.From), What: d.What, LookFor: d.LookFor, Careful: d.Careful,
					Share: d.Share, Where: strings.Join(d.Units, ", "), Whole: d.Whole,
				}
				if !f.Short {
					row.Method = d.Method
				}
				if d.Together {
					row.With = "together"
				}
				c.Rows = append(c.Rows, row)
			}
			s.Cooks = append(s.Cooks, c)
		}
		for _, t := range b.Trays {
			s.Places = append(s.Places, traySays(v.Fit, t))
		}
		out = append(out, s)
	}
	return out
}

// withoutNames are sheets for those to whom the class does not belong: who works where,
// and in which way, is not theirs to see.
func withoutNames(sheets []benchSheet) []benchSheet {
	out := slices.Clone(sheets)
	for i := range out {
		out[i].Who, out[i].Ways, out[i].Large = "", nil, false
		out[i].Cooks = slices.Clone(out[i].Cooks)
		for k := range out[i].Cooks {
			if len(out[i].Cooks) > 1 {
				out[i].Cooks[k].Name = "Cook " + string(rune('A'+k))
			} else {
				out[i].Cooks[k].Name = "What to do"
			}
		}
	}
	return out
}

// traySays tells when a tray goes in and comes out by the plan, and by when it
// must be in.
func traySays(l fit.Lesson, t fit.Tray) string {
	says := fmt.Sprintf("%s: in at %s for %s, out at %s", t.Unit, l.At(t.In), lesson.Minutes(t.Out-t.In), l.At(t.Out))
	if t.Out > l.Minutes().Float() {
		says += " after the bell"
	}
	if l.At(t.LatestIn) != l.At(t.In) {
		says += "; in by " + l.At(t.LatestIn) + " at the latest"
	}
	return says
}

func amountLines(amounts []scale.Scaled) []amountLine {
	var out []amountLine
	for _, a := range amounts {
		l := amountLine{Note: a.Line.Note}
		l.Amount, l.Name = a.Told()
		out = append(out, l)
	}
	return out
}

// An adultSheet is what one adult does, by the clock.
type adultSheet struct {
	Name string
	Rows []doing
}

func adultSheets(v *lessons.View) any {
	var out []adultSheet
	for n, rows := range v.Core.AdultSheets(v.Fit, v.Plan) {
		s := adultSheet{Name: "The adult in the room"}
		if v.Fit.Adults > 1 {
			s.Name = fmt.Sprintf("Adult %d", n+1)
		}
		for _, d := range rows {
			row := doing{Clock: v.Fit.At(d.From), What: d.What, Careful: d.Careful, Whole: d.Whole}
			switch {
			case d.Out:
				row.What, row.Where = "out of the room", "until "+v.Fit.At(d.To)
			case d.Call:
				row.What = "call: " + d.What
			case d.Group != "":
				row.Where = v.Fit.GroupLabel(d.Group)
				row.What = "watch “" + d.What + "”"
				if d.Adult == fit.Does {
					row.What = "do “" + d.What + "”"
				}
			}
			s.Rows = append(s.Rows, row)
		}
		out = append(out, s)
	}
	return out
}

// A doorSheet hangs on the door of an oven.
type doorSheet struct {
	Name, Celsius string
	OnAt, HotAt   string
	Set           string // what to set on this oven's dial, where it is known
	Rows          []doorRow
}

type doorRow struct {
	Clock, Way, Who, What, Celsius string
	Latest, Shut                   string
}

func doorSheets(v *lessons.View) any {
	var out []doorSheet
	for _, d := range fit.Doors(v.Fit, v.Plan) {
		s := doorSheet{Name: d.Unit, OnAt: v.Fit.At(d.On), HotAt: v.Fit.At(d.Ready), Celsius: d.Moves[0].Celsius}
		for _, m := range d.Moves {
			row := doorRow{Clock: v.Fit.At(m.At), Way: "out", Who: v.Fit.GroupLabel(m.Group), What: v.Fit.StepTitle(m.Dish, m.Step), Celsius: m.Celsius}
			if m.In {
				row.Way, row.Latest = "in", v.Fit.At(m.Latest)
			}
			if m.Shut && m.In {
				row.Shut = "then the door stays shut"
			}
			if m.Celsius != s.Celsius {
				s.Celsius = "" // each tray says its own
			}
			s.Rows = append(s.Rows, row)
		}
		if o, known := v.Room.Ovens[d.ID]; known && s.Celsius != "" {
			if c, err := exact.Parse(s.Celsius); err == nil {
				s.Set = o.Dial(c).String()
			}
		}
		out = append(out, s)
	}
	return out
}
