package preparing

import (
	"encoding/json"
	"fmt"
	"io"
	"net/http"
	"slices"
	"strings"
	"time"

	"github.com/google/uuid"

	"freshapron/internal/app/preparing"
	"freshapron/internal/app/school"
	"freshapron/internal/core/exact"
	"freshapron/internal/core/supply"
	"freshapron/internal/core/words"
	"freshapron/internal/web/frame"
	"freshapron/internal/web/head"
)

// A tickRow is a line of a list with the form that ticks it.
type tickRow struct {
	List, Line string
	Done       bool
	Press      string // of the next tick
	By         string
	Name       string
	Amount     string
	Small      string
	Swap, Home string
	Back       string
	MayTick    bool
}

// rowsOf gives every line of a list its form.
func rowsOf(r *http.Request, ticks preparing.Ticks, list string, rows []tickRow) []tickRow {
	may := mayTick(r)
	for i := range rows {
		x := &rows[i]
		x.List, x.Press, x.MayTick, x.Back = list, uuid.NewString(), may, r.URL.RequestURI()
		x.Done, x.By = ticks.Is(list, x.Line), ticks.By(list, x.Line)
	}
	return rows
}

func mayTick(r *http.Request) bool { return school.May(r.Context(), "prepare") }

// tick takes ticks: one from a form, or several as JSON that were made a while ago.
func (p *place) tick(w http.ResponseWriter, r *http.Request) error {
	if strings.HasPrefix(r.Header.Get("Content-Type"), "application/json") {
		var list []preparing.Ticked
		if err := json.NewDecoder(r.Body).Decode(&list); err != nil {
			http.Error(w, "This is no list of ticks.", http.StatusBadRequest)
			return nil //nolint:nilerr // it has been answered
		}
		if err := preparing.Tick(r.Context(), list); err != nil {
			return err
		}
		w.WriteHeader(http.StatusNoContent)
		return nil
	}
	if err := parse(r); err != nil {
		return err
	}
	err := preparing.Tick(r.Context(), []preparing.Ticked{{List: r.PostFormValue("list"), Line: r.PostFormValue("line"), Done: r.PostFormValue("done") != "", Press: r.PostFormValue("press")}})
	if err != nil {
		return err
	}
	back := r.PostFormValue("back")
	if !strings.HasPrefix(back, "/") || strings.HasPrefix(back, "//") {
		back = "/prepare"
	}
	return frame.See(w, r, back)
}

const (
	mostLists = 40               // that one page looks at
	heartbeat = 20 * time.Second // says that the stream is alive
)

// stream tells a page how the lines of its lists stand, now and whenever one
// changes.
func (p *place) stream(w http.ResponseWriter, r *http.Request) error {
	lists := r.URL.Query()["list"]
	if len(lists) == 0 || len(lists) > mostLists {
		return school.ErrNotFound
	}
	heard, stop := school.In(r.Context()).Watch(lists...)
	defer stop()
	send := func(to io.Writer, about string) error {
		of := lists
		if about != "" {
			of = []string{about}
		}
		ticks, err := preparing.TicksOf(r.Context(), of...)
		if err != nil {
			return err
		}
		var out []map[string]any
		for list, lines := range ticks {
			for line, t := range lines {
				out = append(out, map[string]any{"list": list, "line": line, "done": t.Done, "by": t.Who})
			}
		}
		text, err := json.Marshal(out)
		if err != nil {
			return err
		}
		_, err = fmt.Fprintf(to, "event: ticks\ndata: %s\n\n", text)
		return err
	}
	return frame.Feed{Heard: heard, Beat: heartbeat, May: func() bool { return p.StillIn(r) }, Send: send}.Tell(w, r)
}

type fetchPage struct {
	Date         string
	Before, Next string
	On           string
	Places       []fetchPlace
	Pick         []tickRow // of the garden
	Lists        []string
	Left         int
}

type fetchPlace struct {
	Name string
	Rows []tickRow
}

// elsewhere is where things stand of which nobody has said it.
const elsewhere = "no place said"

// fetchRows are what a day's lessons take, by the place where it is, in the order
// in which the store is walked through.
func fetchRows(st *preparing.Stretch, day time.Time) ([]fetchPlace, []tickRow) {
	var places []fetchPlace
	var pick []tickRow
	put := func(place string, row tickRow) {
		at := slices.IndexFunc(places, func(x fetchPlace) bool { return x.Name == place })
		if at < 0 {
			at = len(places)
			places = append(places, fetchPlace{Name: place})
		}
		places[at].Rows = append(places[at].Rows, row)
	}
	for _, n := range needsOf(st, day) {
		var who []string
		for _, o := range n.Of {
			if l, ok := st.Lesson(o.Lesson); ok && !slices.Contains(who, l.Class.Name) {
				who = append(who, l.Class.Name)
			}
		}
		row := tickRow{Line: n.Item.Key, Small: words.Names(who)}
		for i, s := range st.Plan.SourcesOf(n) {
			row := row
			row.Amount, row.Name = apart(n.Item, s.Amount)
			if i > 0 {
				row.Line += fmt.Sprintf(" %d", i+1)
			}
			switch {
			case s.Product != nil:
				row.Small += ", not ordered yet"
				put(firstOf(n.Item.Stock.Place, elsewhere), row)
			case strings.HasPrefix(s.Batch.Says, "bed: "):
				row.Small = strings.TrimPrefix(s.Batch.Says, "bed: ") + ", for " + row.Small
				pick = append(pick, row)
			case strings.HasPrefix(s.Batch.Says, "order "):
				row.Small += ", from the delivery of " + preparing.Date(*s.Batch.From).Format("Monday")
				put(firstOf(n.Item.Stock.Place, elsewhere), row)
			default:
				if s.Batch.UseBy != nil {
					row.Small += ", use by " + preparing.Date(*s.Batch.UseBy).Format("2 Jan")
				}
				put(s.Batch.Says, row)
			}
		}
		for _, m := range st.Plan.Short {
			if m.Item.Key == n.Item.Key && m.On == n.On {
				row := row
				row.Line += " missing"
				row.Amount, row.Name = apart(n.Item, m.Amount)
				row.Small = "missing, for " + row.Small
				put(firstOf(n.Item.Stock.Place, elsewhere), row)
			}
		}
	}
	order := func(name string) int {
		if at := slices.Index(st.Larder.Settings.Places, name); at >= 0 {
			return at
		}
		return len(st.Larder.Settings.Places)
	}
	slices.SortStableFunc(places, func(a, b fetchPlace) int { return order(a.Name) - order(b.Name) })
	return places, pick
}

func needsOf(st *preparing.Stretch, day time.Time) []supply.Need {
	var out []supply.Need
	for _, n := range st.Plan.Needs {
		if n.On == preparing.OrderDay(day) {
			out = append(out, n)
		}
	}
	return out
}

// apart parts what an item says into the amount and the name.
func apart(i supply.Item, amount exact.Number) (figure, name string) {
	says := i.Says(amount)
	for _, name := range []string{i.Stock.Plural, i.Name} {
		if figure, ok := strings.CutSuffix(says, " "+name); ok && name != "" {
			return figure, name
		}
	}
	return says, i.Name
}

func firstOf(list ...string) string {
	for _, s := range list {
		if s != "" {
			return s
		}
	}
	return ""
}

func (p *place) fetch(w http.ResponseWriter, r *http.Request) error {
	ctx := r.Context()
	st, err := preparing.Load(ctx, school.In(ctx).Today())
	if err != nil {
		return err
	}
	day := on(r, "on")
	fetch, garden := preparing.FetchList(day), preparing.GardenList(day)
	ticks, err := preparing.TicksOf(ctx, fetch, garden)
	if err != nil {
		return err
	}
	m := fetchPage{Date: day.Format(longDay), On: day.Format(time.DateOnly), Lists: []string{fetch, garden},
		Before: "/prepare/fetch?on=" + day.AddDate(0, 0, -1).Format(time.DateOnly), Next: "/prepare/fetch?on=" + day.AddDate(0, 0, 1).Format(time.DateOnly)}
	m.Places, m.Pick = fetchRows(st, day)
	for i := range m.Places {
		m.Places[i].Rows = rowsOf(r, ticks, fetch, m.Places[i].Rows)
		for _, x := range m.Places[i].Rows {
			if !x.Done {
				m.Left++
			}
		}
	}
	m.Pick = rowsOf(r, ticks, garden, m.Pick)
	return p.show(w, r, http.StatusOK, "fetch", "Fetch", "Fetch for "+day.Format("Monday 2 January"), nil, m)
}

func (p *place) fetchFile(w http.ResponseWriter, r *http.Request) error {
	st, err := preparing.Load(r.Context(), school.In(r.Context()).Today())
	if err != nil {
		return err
	}
	day := on(r, "on")
	rows := [][]string{{"Place", "Amount", "Ingredient", "For"}}
	places, pick := fetchRows(st, day)
	if pick != nil {
		places = append(places, fetchPlace{"garden", pick})
	}
	for _, pl := range places {
		for _, x := range pl.Rows {
			rows = append(rows, []string{pl.Name, x.Amount, x.Name, x.Small})
		}
	}
	return sendTable(w, r, "fetch-"+day.Format(time.DateOnly), rows)
}

type traysPage struct {
	ID        int64
	Heading   string
	When      string
	Trays     []tray
	Things    []tickRow
	Sharps    []string
	RoomHref  string
	Lists     []string
	Apart     string
	Measured  string
	Top       head.Top
	Laid, All int
}

func topOf(r *http.Request, l preparing.Lesson, side string) (head.Top, error) {
	mine, err := school.Mine(r.Context(), l.Class.ID)
	return head.TopOf(r, l.View, side, side, "", mine), err
}

type tray struct {
	Row    tickRow
	Lines  []supply.TrayLine
	Dishes []trayDish
	First  bool   // set up before the others
	Swap   bool   // something on it is not what the others have
	Word   string // by which trays with something of their own are told apart
}

type trayDish struct {
	Title string
	Lines []supply.TrayLine
}

// traysOf are the trays of a lesson: those that are set up apart first, then those
// with something of their own.
func traysOf(l preparing.Lesson) []tray {
	var out []tray
	for _, t := range supply.Trays(l.Takes, l.Benches) {
		x := tray{Row: tickRow{Line: t.Place, Name: t.Says}, Lines: t.Lines, Swap: t.Swapped}
		for _, w := range l.Core.OtherWays {
			x.First = x.First || w.Way == "apart" && at(l, t.Place, w.Learner)
		}
		for c, course := range l.Core.Menu {
			var lines []supply.TrayLine
			for _, line := range t.Lines {
				if line.Course == c {
					lines = append(lines, line)
				}
			}
			if lines != nil {
				title := ""
				if len(l.Core.Menu) > 1 {
					title = course.Recipe.Title
				}
				x.Dishes = append(x.Dishes, trayDish{title, lines})
			}
		}
		out = append(out, x)
	}
	slices.SortStableFunc(out, func(a, b tray) int {
		switch {
		case a.First == b.First:
			return 0
		case a.First:
			return -1
		}
		return 1
	})
	own := 0
	for i := range out {
		if out[i].Swap {
			out[i].Word = ownTrays[own%len(ownTrays)]
			own++
		}
	}
	return out
}

func at(l preparing.Lesson, place string, learner int64) bool {
	for _, b := range l.Benches {
		if b.ID == place {
			for _, m := range b.Members {
				if m.ID == learner {
					return true
				}
			}
		}
	}
	return false
}

func (p *place) trays(w http.ResponseWriter, r *http.Request) error {
	ctx := r.Context()
	l, err := preparing.One(ctx, frame.ID(r, "id"))
	if err != nil {
		return err
	}
	top, err := topOf(r, l, "Trays")
	if err != nil {
		return err
	}
	list, things := preparing.TraysList(l.ID), preparing.ThingsList(l.ID)
	ticks, err := preparing.TicksOf(ctx, list, things)
	if err != nil {
		return err
	}
	m := traysPage{ID: l.ID, Top: top, Lists: []string{list, things}, RoomHref: fmt.Sprintf("/rooms/%d#sharp-head", l.Room.ID)}
	m.Trays = traysOf(l)
	rows := make([]tickRow, len(m.Trays))
	for i, t := range m.Trays {
		rows[i] = t.Row
	}
	for i, row := range rowsOf(r, ticks, list, rows) {
		m.Trays[i].Row = row
		if row.Done {
			m.Laid++
		}
	}
	m.All = len(m.Trays)
	if l.Problems == nil {
		for _, e := range equipment(l) {
			m.Things = append(m.Things, tickRow{Line: e.name, Name: e.name, Amount: fmt.Sprint(e.count)})
		}
		m.Things = rowsOf(r, ticks, things, m.Things)
	}
	for _, s := range l.Room.Things.Sharps {
		m.Sharps = append(m.Sharps, fmt.Sprintf("%d %s, %s", s.Count, s.Name, s.Place))
	}
	return p.Render(w, r, http.StatusOK, templates, "trays", frame.Page{Title: "Trays, " + l.Says(), Place: "prepare", Data: m})
}

type thing struct {
	name  string
	count int
}

// equipment is what the benches' recipes list, one for each bench that makes them.
func equipment(l preparing.Lesson) []thing {
	var out []thing
	for _, b := range l.Benches {
		seen := map[string]bool{}
		for _, m := range b.Makes {
			for _, e := range l.Core.Menu[m.Course].Recipe.Equipment {
				if seen[e] {
					continue
				}
				seen[e] = true
				i := slices.IndexFunc(out, func(t thing) bool { return t.name == e })
				if i < 0 {
					i = len(out)
					out = append(out, thing{name: e})
				}
				out[i].count++
			}
		}
	}
	return out
}

func (p *place) traysFile(w http.ResponseWriter, r *http.Request) error {
	l, err := preparing.One(r.Context(), frame.ID(r, "id"))
	if err != nil {
		return err
	}
	rows := [][]string{{"Tray", "Amount", "Ingredient", "In place of", "From home"}}
	for _, t := range traysOf(l) {
		for _, x := range t.Lines {
			rows = append(rows, []string{t.Row.Name, x.Amount, x.Name, x.For, x.Home})
		}
	}
	return sendTable(w, r, fmt.Sprintf("trays-%d", l.ID), rows)
}
