package preparing

import (
	"fmt"
	"net/http"
	"net/url"
	"slices"
	"strconv"
	"strings"
	"time"

	"rsc.io/qr"

	"freshapron/internal/app/preparing"
	"freshapron/internal/app/school"
	"freshapron/internal/core/lesson"
	"freshapron/internal/core/problem"
	"freshapron/internal/core/safety"
	"freshapron/internal/web/frame"
	"freshapron/internal/web/head"
)

// A Label is what stands on one of a sheet.
type Label struct {
	Head  string
	Lines []string
	Code  string // the address that its square code opens
}

// A Grid is a sheet of labels on A4, in millimetres. The usual ones are typical
// of sheets that are sold.
type Grid struct {
	Columns, Rows         int
	Left, Top             float64
	Width, Height, Across float64 // of a label, and between two columns
}

// Grids are the usual ones by their names.
var Grids = map[string]Grid{
	"3x7":  {3, 7, 7.2, 15.1, 63.5, 38.1, 2.5},
	"2x7":  {2, 7, 4.7, 15.1, 99.1, 38.1, 2.5},
	"4x10": {4, 10, 8, 21.5, 48.5, 25.4, 0},
}

const (
	paperWidth, paperHeight = 210, 297
	margin                  = 8
	mostColumns, mostRows   = 8, 20
)

// GridOf reads "3x7"; one that is not known is laid evenly on the sheet.
func GridOf(name string) (Grid, error) {
	if g, ok := Grids[name]; ok {
		return g, nil
	}
	c, r, _ := strings.Cut(strings.ReplaceAll(strings.ToLower(strings.TrimSpace(name)), "×", "x"), "x")
	columns, err := strconv.Atoi(strings.TrimSpace(c))
	rows, err2 := strconv.Atoi(strings.TrimSpace(r))
	if err != nil || err2 != nil || columns < 1 || columns > mostColumns || rows < 1 || rows > mostRows {
		return Grid{}, problem.New("grid", "“%s” is no grid such as 3x7: up to %d columns and %d rows", name, mostColumns, mostRows)
	}
	return Grid{columns, rows, margin, margin, float64(paperWidth-2*margin) / float64(columns), float64(paperHeight-2*margin) / float64(rows), 0}, nil
}

// A drawnLabel is a label at its place on the sheet.
type drawnLabel struct {
	X, Y, W, H   string
	Head         []drawnText
	Lines        []drawnText
	Code         string // a path
	CodeX, CodeY string
	CodeScale    string
	Says         string
}

type drawnText struct{ X, Y, Size, Text string }

type sheet struct{ Labels []drawnLabel }

func mm(f float64) string { return strconv.FormatFloat(f, 'f', 2, 64) }

// letter is how wide a letter is for its size, on the average; figures and
// capitals are wider than most.
const letter = 0.55

// wrap breaks a text into lines of a width, for letters of a size.
func wrap(text string, size, width float64) []string {
	most := max(4, int(width/(size*letter)))
	var out []string
	line := ""
	for _, word := range strings.Fields(text) {
		for len([]rune(word)) > most {
			runes := []rune(word)
			if line != "" {
				out, line = append(out, line), ""
			}
			out, word = append(out, string(runes[:most-1])+"-"), string(runes[most-1:])
		}
		if line != "" && len([]rune(line))+1+len([]rune(word)) > most {
			out, line = append(out, line), ""
		}
		line = strings.TrimSpace(line + " " + word)
	}
	return append(out, line)
}

// Sheets lays labels on sheets, the first of which has lost so many, and returns
// how high the smallest letters are, in millimetres.
func Sheets(labels []Label, g Grid, used int) (out []sheet, smallest float64, err error) {
	smallest = paperHeight
	each := g.Columns * g.Rows
	for i, l := range labels {
		at := used%each + i
		if n := at / each; n >= len(out) {
			out = append(out, sheet{})
		}
		at %= each
		d, size, err := draw(l, g, at%g.Columns, at/g.Columns)
		if err != nil {
			return nil, 0, err
		}
		smallest = min(smallest, size)
		out[len(out)-1].Labels = append(out[len(out)-1].Labels, d)
	}
	return out, smallest, nil
}

// draw returns a label and how high its letters are.
func draw(l Label, g Grid, column, row int) (drawnLabel, float64, error) {
	const pad, most = 2.5, 4.6
	x, y := g.Left+float64(column)*(g.Width+g.Across), g.Top+float64(row)*g.Height
	d := drawnLabel{X: mm(x), Y: mm(y), W: mm(g.Width), H: mm(g.Height), Says: l.Head + ". " + strings.Join(l.Lines, ". ")}
	side := min(16, g.Height-2*pad, g.Width/4)
	code, err := qr.Encode(l.Code, qr.M)
	if err != nil {
		return d, 0, fmt.Errorf("a code for %s: %w", l.Code, err)
	}
	var path strings.Builder
	for cy := range code.Size {
		for cx := 0; cx < code.Size; cx++ {
			from := cx
			for cx < code.Size && code.Black(cx, cy) {
				cx++
			}
			if cx > from {
				fmt.Fprintf(&path, "M%d %dh%dv1h-%dz", from, cy, cx-from, cx-from)
			}
		}
	}
	d.Code, d.CodeX, d.CodeY, d.CodeScale = path.String(), mm(x+g.Width-pad-side), mm(y+g.Height-pad-side), strconv.FormatFloat(side/float64(code.Size), 'f', 4, 64)
	// Letters are as large as they can be for everything to fit: over the code to
	// the whole width, beside it to what it leaves.
	for size := most; ; size -= 0.2 {
		d.Head, d.Lines = nil, nil
		line := y + pad
		ok := true
		put := func(into *[]drawnText, text string, size float64) {
			for rest := text; rest != ""; {
				width := g.Width - 2*pad
				if line+size*1.4 > y+g.Height-pad-side {
					width -= side + 1
				}
				lines := wrap(rest, size, width)
				line += size * 1.2
				*into = append(*into, drawnText{mm(x + pad), mm(line - size*0.2), mm(size), lines[0]})
				rest = strings.TrimSpace(strings.TrimPrefix(rest, strings.TrimSuffix(lines[0], "-")))
				if len(lines) == 1 {
					rest = ""
				}
			}
			ok = ok && line <= y+g.Height-pad+0.5
		}
		put(&d.Head, l.Head, size*1.25)
		for _, text := range l.Lines {
			put(&d.Lines, text, size)
		}
		const least = 1.7
		if ok || size <= least {
			return d, size, nil
		}
	}
}

// readable is the least height of letters that is read without stooping, in
// millimetres; typical.
const readable = 2.1

// ownTrays are the words by which trays with something of their own are told
// apart.
var ownTrays = []string{"amber", "blue", "copper", "green", "indigo", "lemon", "mint", "plum", "rose", "slate", "teal", "white"}

// A labelForm is what somebody asks labels for.
type labelForm struct {
	Kind, Grid, Used   string
	Made, Until, Where string // of what is kept
	EatBy, Heat        string // of what goes home
}

type labelsPage struct {
	Top                                   head.Top
	ID                                    int64
	Kind, Grid                            frame.Field
	Used, Made, Until, Where, EatBy, Heat frame.Field
	Note, Small                           string
	Href                                  string
	Count                                 int
	Problem                               string
}

func readLabels(r *http.Request, l preparing.Lesson) labelForm {
	v := r.URL.Query()
	f := labelForm{Kind: firstOf(v.Get("kind"), "trays"), Grid: firstOf(v.Get("grid"), "3x7"), Used: firstOf(v.Get("used"), "0"), Made: v.Get("made"), Until: v.Get("until"), Where: v.Get("where"), EatBy: v.Get("eat_by"), Heat: v.Get("heat")}
	if v.Has("kind") {
		return f
	}
	f.Made = l.View.Date.Format("2 January")
	if h, minutes := holdOf(l); h != "" {
		f.Where = h
		f.Until = l.View.Date.Add(time.Duration(int(l.Period.End)+minutes) * time.Minute).Format("Mon 2 January, 15:04")
	}
	if core := l.Core.Safety.Region.Core; len(core) > 0 {
		f.Heat = heat(core)
	}
	return f
}

// heat is the hottest of a region's ways to heat through: the quickest.
func heat(rules []safety.CoreRule) string {
	best := slices.MaxFunc(rules, func(a, b safety.CoreRule) int { return int(a.Celsius - b.Celsius) })
	return best.Says()
}

// holdOf is where and for how long the dish keeps: after the step at which the
// lesson stops, else after its last step that says so.
func holdOf(l preparing.Lesson) (where string, minutes int) {
	for _, c := range l.Core.Menu {
		for _, s := range c.Recipe.Steps {
			if s.Hold != nil {
				where, minutes = s.Hold.Where, int(s.Hold.MaxMinutes.Ceil())
			}
		}
	}
	return where, minutes
}

// labelsOf are the labels of a lesson. Nothing about any learner stands on one.
func labelsOf(r *http.Request, l preparing.Lesson, f labelForm) []Label {
	site := school.In(r.Context()).Site.Address
	blank := func(word, text string) string {
		if text == "" {
			return word + ": ______________"
		}
		return word + ": " + text
	}
	var out []Label
	switch f.Kind {
	case "kept":
		for _, b := range l.Benches {
			out = append(out, Label{l.Class.Name + ", " + b.Name, []string{l.Titles(), blank("Made", f.Made), blank("Keep until", f.Until), blank("Where", f.Where)}, fmt.Sprintf("%s/lessons/%d", site, l.ID)})
		}
	case "home":
		for _, b := range l.Benches {
			own := l
			own.Takes = slices.DeleteFunc(slices.Clone(l.Takes), func(t lesson.Take) bool { return t.Place != b.ID })
			contains, read := preparing.Declared(own)
			lines := []string{"Contains: " + firstOf(strings.Join(contains, ", "), "none of the declared allergens")}
			if len(read) > 0 {
				lines = append(lines, "By the product also: "+strings.Join(read, ", "))
			}
			lines = append(lines, blank("Eat by", f.EatBy), blank("Heat to", f.Heat))
			for range b.Cooks {
				out = append(out, Label{made(l, b), lines, fmt.Sprintf("%s/lessons/%d", site, l.ID)})
			}
		}
	default:
		for _, t := range traysOf(l) {
			var brought []string
			for _, x := range t.Lines {
				if x.Home != "" {
					brought = append(brought, x.Name)
				}
			}
			lines := []string{l.Titles(), l.Class.Name + ", " + l.View.Date.Format("Mon 2 Jan") + ", " + l.Period.Start.String()}
			if t.Swap {
				lines = append(lines, "Tray of its own: "+t.Word)
			}
			if brought != nil {
				lines = append(lines, "Missing, comes from home: "+strings.Join(brought, ", "))
			}
			out = append(out, Label{t.Row.Name, lines, fmt.Sprintf("%s/lessons/%d/trays", site, l.ID)})
		}
	}
	return out
}

// made names what a bench makes.
func made(l preparing.Lesson, b lesson.Bench) string {
	var out []string
	for _, m := range b.Makes {
		out = append(out, l.Core.Menu[m.Course].Recipe.Title)
	}
	return strings.Join(out, ", ")
}

func (p *place) labels(w http.ResponseWriter, r *http.Request) error {
	l, err := preparing.One(r.Context(), frame.ID(r, "id"))
	if err != nil {
		return err
	}
	top, err := topOf(r, l, "Trays")
	if err != nil {
		return err
	}
	top.Heading = "Labels"
	f := readLabels(r, l)
	g, failed := GridOf(f.Grid)
	labels := labelsOf(r, l, f)
	m := labelsPage{Top: top, ID: l.ID, Count: len(labels),
		Kind: frame.Choice("kind", "Labels for", f.Kind, nil, []frame.Option{{Value: "trays", Label: "trays", Small: "one for each tray"}, {Value: "kept", Label: "what is kept", Small: "one for each bench"}, {Value: "home", Label: "what goes home", Small: "one for each learner"}}),
		Grid: frame.Text("grid", "Columns × rows of the sheet", f.Grid, problem.Of(failed)), Used: frame.Text("used", "Labels gone from the first sheet", f.Used, nil),
		Made: frame.Text("made", "Made on", f.Made, nil), Until: frame.Text("until", "Keep until", f.Until, nil), Where: frame.Text("where", "Where", f.Where, nil),
		EatBy: frame.Text("eat_by", "Eat by", f.EatBy, nil), Heat: frame.Text("heat", "Heat to", f.Heat, nil)}
	if failed == nil {
		_, smallest, err := Sheets(labels, g, 0)
		if err != nil {
			return err
		}
		if smallest < readable {
			m.Small = fmt.Sprintf("On labels of this size some letters are only %.1f mm high: take fewer to a sheet.", smallest)
		}
	}
	if where, _ := holdOf(l); where != "" {
		m.Note = "Where and how long it keeps is what the recipe says after its last step at which it can stand; your school’s rules come first."
	}
	v := url.Values{"kind": {f.Kind}, "grid": {f.Grid}, "used": {f.Used}, "made": {f.Made}, "until": {f.Until}, "where": {f.Where}, "eat_by": {f.EatBy}, "heat": {f.Heat}}
	m.Href = fmt.Sprintf("/lessons/%d/print/labels?%s", l.ID, v.Encode())
	return p.Render(w, r, http.StatusOK, templates, "labels", frame.Page{Title: "Labels, " + l.Says(), Place: "prepare", Data: m})
}

type sheetsPage struct {
	ID     int64
	Back   string
	Sheets []sheet
	Count  int
}

func (p *place) labelSheet(w http.ResponseWriter, r *http.Request) error {
	l, err := preparing.One(r.Context(), frame.ID(r, "id"))
	if err != nil {
		return err
	}
	f := readLabels(r, l)
	g, err := GridOf(f.Grid)
	if err != nil {
		return err
	}
	used, err := strconv.Atoi(strings.TrimSpace(f.Used))
	if err != nil || used < 0 || used >= g.Columns*g.Rows {
		return problem.New("used", "“%s” is not between 0 and %d, the labels of a sheet less one", f.Used, g.Columns*g.Rows-1)
	}
	labels := labelsOf(r, l, f)
	sheets, _, err := Sheets(labels, g, used)
	if err != nil {
		return err
	}
	back := fmt.Sprintf("/lessons/%d/labels?%s", l.ID, r.URL.RawQuery)
	return p.Render(w, r, http.StatusOK, templates, "sheets", frame.Page{Title: "Labels, " + l.Says(), Data: sheetsPage{l.ID, back, sheets, len(labels)}})
}
