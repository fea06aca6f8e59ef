package classes

import (
	"errors"
	"fmt"
	"html/template"
	"net/http"
	"net/url"
	"slices"
	"strconv"
	"strings"

	"freshapron/internal/app/classes"
	"freshapron/internal/app/school"
	"freshapron/internal/core/problem"
	"freshapron/internal/web/frame"

	"github.com/go-chi/chi/v5"
)

// export sends a class as a table.
func (p *place) export(w http.ResponseWriter, r *http.Request) error {
	kind, ending := "text/csv; charset=utf-8", ".csv"
	if strings.HasSuffix(r.URL.Path, ".xlsx") {
		kind, ending = "application/vnd.openxmlformats-officedocument.spreadsheetml.sheet", ".xlsx"
	}
	list, err := classes.Export(r.Context(), frame.ID(r, "id"))
	if err != nil {
		return err
	}
	frame.Attach(w, kind, list.Name+ending)
	return list.Write(w, ending)
}

type bringPage struct {
	Class   string
	Text    string
	Problem string
	Classes []frame.Option
}

func (p *place) bringForm(w http.ResponseWriter, r *http.Request) error {
	return p.bringPage(w, r, http.StatusOK, bringPage{Class: r.URL.Query().Get("class")})
}

func (p *place) bringPage(w http.ResponseWriter, r *http.Request, status int, data bringPage) error {
	options, err := p.options(r, data.Class)
	if err != nil {
		return err
	}
	data.Classes = options
	return p.Render(w, r, status, templates, "bring", frame.Page{Title: "Bring learners in", Place: "classes", Data: data})
}

// options lists the classes into which learners can be brought.
func (p *place) options(r *http.Request, chosen string) ([]frame.Option, error) {
	all, err := classes.All(r.Context())
	out := []frame.Option{{Label: "the list says it", Chosen: chosen == "" || chosen == "0"}}
	for _, c := range all {
		n := strconv.FormatInt(c.ID, 10)
		out = append(out, frame.Option{Value: n, Label: c.Name, Chosen: n == chosen})
	}
	return out, err
}

// bring takes a list that was pasted or chosen and leads to its preview.
func (p *place) bring(w http.ResponseWriter, r *http.Request) error {
	text, data, err := frame.Uploaded(r)
	if err != nil {
		return err
	}
	in := bringPage{Class: r.PostFormValue("class"), Text: text}
	class, _ := strconv.ParseInt(in.Class, 10, 64)
	list, err := classes.BringList(r.Context(), data, class)
	var problems problem.List
	switch {
	case errors.As(err, &problems):
		in.Problem = problems[0].Says
		return p.bringPage(w, r, http.StatusUnprocessableEntity, in)
	case errors.Is(err, school.ErrNotYours):
		return school.ErrNotYours
	case err != nil:
		return err
	default:
		return frame.See(w, r, "/classes/bring/"+list)
	}
}

type previewPage struct {
	ID       string
	Says     []string
	Ready    bool
	Faulty   int
	Button   string
	Columns  []frame.Field
	Classes  []frame.Option
	Faults   []fault
	Rows     []previewRow
	More     int
	Problem  string
	NewClass string
	Asked    []fault // rows with words that are not known
	Aside    []fault // rows that name no learner
	Unread   string  // the columns of which nothing is read
}

type fault struct {
	Line  int
	Says  string
	Cells []frame.Field
}

type previewRow struct {
	Line                     int
	Class, Name, Level, Born string
	Needs                    string
	Does                     string
}

// shown is how many rows a preview shows.
const shown = 60

func (p *place) preview(w http.ResponseWriter, r *http.Request) error {
	return p.previewPage(w, r, http.StatusOK, "")
}

func (p *place) previewPage(w http.ResponseWriter, r *http.Request, status int, problem string) error {
	v, err := classes.Look(r.Context(), chi.URLParam(r, "list"))
	if err != nil {
		return err
	}
	options, err := p.options(r, strconv.FormatInt(v.Class, 10))
	if err != nil {
		return err
	}
	data := previewPage{ID: v.ID, Faulty: v.Faulty, Ready: v.Faulty == 0 && v.Added+v.Changed > 0, Classes: options, Problem: problem, NewClass: strings.Join(v.Classes, ", ")}
	for _, s := range []struct {
		n         int
		one, many string
	}{
		{v.Added, "1 learner is added", "learners are added"}, {v.Changed, "1 learner is changed", "learners are changed"},
		{v.Same, "1 is there already, just so", "are there already, just so"}, {v.Faulty, "1 row has to be mended", "rows have to be mended"},
		{v.Aside, "1 line names no learner", "lines name no learner"},
	} {
		switch {
		case s.n == 1:
			data.Says = append(data.Says, s.one)
		case s.n > 1:
			data.Says = append(data.Says, fmt.Sprintf("%d %s", s.n, s.many))
		}
	}
	data.Button = fmt.Sprintf("Bring %d in", v.Added+v.Changed)
	var unread []string
	for i, c := range v.Columns {
		name := fmt.Sprintf("column-%d", i)
		label := fmt.Sprintf("Column %d", i+1)
		if v.Head && v.Cells[0][i] != "" {
			label = v.Cells[0][i]
		}
		f := frame.Field{Name: name, ID: name, Label: label, Value: "x"}
		f.Options = append(f.Options, frame.Option{Label: classes.Skip.Label(), Chosen: c == ""})
		for _, k := range classes.Columns {
			f.Options = append(f.Options, frame.Option{Value: string(k), Label: k.Label(), Chosen: string(k) == c})
		}
		data.Columns = append(data.Columns, f)
		if filled := func(row classes.PreviewRow) bool { return !row.Aside && row.Cells[i] != "" }; c == "" && slices.ContainsFunc(v.Rows, filled) {
			unread = append(unread, "“"+label+"”")
		}
	}
	data.Unread = strings.Join(unread, ", ")
	for _, row := range v.Rows {
		if row.Aside {
			if len(data.Aside) < shown {
				data.Aside = append(data.Aside, asideOf(v, row))
			}
			continue
		}
		if row.Does == "" {
			if len(data.Faults) < shown {
				data.Faults = append(data.Faults, faultOf(v, row))
			}
			continue
		}
		if says := askedOf(row); says != "" && len(data.Asked) < shown {
			f := faultOf(v, row)
			f.Says = row.Learner.Name() + ": " + says
			data.Asked = append(data.Asked, f)
		}
		if len(data.Rows) == shown {
			data.More++
			continue
		}
		pr := previewRow{Line: row.Line, Class: row.Class, Name: row.Learner.Name(), Level: row.Learner.Level.Name(), Does: row.Does}
		var needs []string
		for _, n := range row.Said {
			if n.Helps != "" {
				n.What += " (" + n.Helps + ")"
			}
			needs = append(needs, n.What)
		}
		pr.Needs = strings.Join(needs, "; ")
		if !row.Learner.Born.IsZero() {
			pr.Born = row.Learner.Born.Format("2 Jan 2006")
		}
		data.Rows = append(data.Rows, pr)
	}
	return p.Render(w, r, status, templates, "preview", frame.Page{Title: "Bring learners in", Place: "classes", Data: data})
}

// askedOf says what has to be asked about a learner: words that are not known,
// and what only the notes say. Empty where nothing has.
func askedOf(row classes.PreviewRow) string {
	var says []string
	if asks := row.Asks(); asks != nil {
		says = append(says, "“"+strings.Join(asks, "”, “")+"”")
	}
	if noted := row.Learner.Noted(); noted != nil {
		says = append(says, "the notes speak of "+strings.ReplaceAll(strings.Join(noted, ", "), "food:", "")+", and no column does")
	}
	return strings.Join(says, "; ")
}

func faultOf(v classes.Preview, row classes.PreviewRow) fault {
	f := fault{Line: row.Line, Says: strings.Join(row.Problems, "; ")}
	for i, c := range row.Cells {
		if v.Columns[i] == "" {
			continue
		}
		f.Cells = append(f.Cells, cellOf(v, row.Line, i, c))
	}
	return f
}

func cellOf(v classes.Preview, line, column int, text string) frame.Field {
	name := fmt.Sprintf("cell-%d-%d", line, column)
	label := classes.Column(v.Columns[column]).Label()
	if v.Head && v.Cells[0][column] != "" { // as the list itself has it
		label = v.Cells[0][column]
	}
	return frame.Field{Name: name, ID: name, Value: text, Label: label}
}

// asideOf is a row that names no learner, with fields that can name one.
func asideOf(v classes.Preview, row classes.PreviewRow) fault {
	f := fault{Line: row.Line, Says: strings.Join(strings.Fields(strings.Join(row.Cells, " ")), " ")}
	for i, c := range row.Cells {
		if classes.Column(v.Columns[i]).Names() {
			f.Cells = append(f.Cells, cellOf(v, row.Line, i, c))
		}
	}
	return f
}

// mend writes what the columns are and what was typed into faulty rows.
func (p *place) mend(w http.ResponseWriter, r *http.Request) error {
	if err := frame.ParseForm(r); err != nil {
		return err
	}
	columns, cells := mended(r.PostForm)
	class, _ := strconv.ParseInt(r.PostFormValue("class"), 10, 64)
	list := chi.URLParam(r, "list")
	if err := classes.MendList(r.Context(), list, columns, class, cells); err != nil {
		return err
	}
	return frame.See(w, r, "/classes/bring/"+list)
}

func mended(form url.Values) (columns []string, cells map[[2]int]string) {
	cells = map[[2]int]string{}
	for i := 0; form.Has(fmt.Sprintf("column-%d", i)); i++ {
		columns = append(columns, form.Get(fmt.Sprintf("column-%d", i)))
	}
	for name := range form {
		var line, column int
		if n, _ := fmt.Sscanf(name, "cell-%d-%d", &line, &column); n == 2 {
			cells[[2]int{line, column}] = form.Get(name)
		}
	}
	return columns, cells
}

// take brings the list in. The page grows while it is written.
func (p *place) take(w http.ResponseWriter, r *http.Request) error {
	list := chi.URLParam(r, "list")
	v, err := classes.Look(r.Context(), list)
	if err != nil {
		return err
	}
	if v.Faulty > 0 {
		return p.previewPage(w, r, http.StatusUnprocessableEntity, "Nothing was brought in: the rows below have to be mended first.")
	}
	return p.Grow(w, r, templates, "taking", frame.Page{Title: "Bringing learners in", Place: "classes"}, func(add func(html string)) {
		v, err := classes.TakeList(r.Context(), list, func(n, of int) { add(fmt.Sprintf("<p class=\"progress\">%d of %d</p>", n, of)) })
		if err != nil {
			add(fmt.Sprintf("<p class=\"problem\" role=\"alert\">Nothing was brought in: %s</p>", template.HTMLEscapeString(err.Error())))
			return
		}
		add(fmt.Sprintf("<p class=\"lead\">%d added, %d changed, %d as they were.</p>", v.Added, v.Changed, v.Same))
	})
}
