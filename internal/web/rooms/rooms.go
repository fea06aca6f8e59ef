// Package rooms is the place of the food rooms: what stands in them and where,
// what works today, and the count of sharp things.
package rooms

import (
	"embed"
	"errors"
	"fmt"
	"net/http"
	"net/url"
	"strconv"
	"strings"

	"freshapron/internal/app/lessons"
	"freshapron/internal/app/rooms"

	"freshapron/internal/app/school"
	"freshapron/internal/core/exact"
	"freshapron/internal/core/fit"
	"freshapron/internal/core/lesson"
	"freshapron/internal/core/problem"
	"freshapron/internal/core/room"
	"freshapron/internal/core/staff"
	"freshapron/internal/web/floor"
	"freshapron/internal/web/frame"
)

//go:embed templates/*.html
var files embed.FS

var templates = frame.Parse(files)

type place struct{ *frame.Frame }

// Routes are the pages of this place.
func Routes(f *frame.Frame) []frame.Route {
	p := &place{f}
	return []frame.Route{
		frame.Get("/rooms", staff.Read, p.all),
		frame.Get("/rooms/new", staff.Arrange, p.blank),
		frame.Post("/rooms/new", staff.Arrange, p.add),
		frame.Get("/rooms/{id}", staff.Read, p.show),
		frame.Get("/rooms/{id}/edit", staff.Arrange, p.edit),
		frame.Post("/rooms/{id}/edit", staff.Arrange, p.change),
		frame.Get("/rooms/{id}/floor", staff.Arrange, p.floor),
		frame.Post("/rooms/{id}/floor", staff.Arrange, p.move),
		frame.Post("/rooms/{id}/out", staff.Keep, p.out),
		frame.Post("/rooms/{id}/works", staff.Keep, p.works),
		frame.Post("/rooms/{id}/sharps", staff.Keep, p.sharps),
	}
}

type listRow struct{ Href, Name, Benches, Ovens, Learners, Out string }

type list struct {
	Rows []listRow
	May  bool
}

func (p *place) all(w http.ResponseWriter, r *http.Request) error {
	found, err := rooms.All(r.Context())
	if err != nil {
		return err
	}
	var all []int64
	for _, room := range found {
		all = append(all, room.ID)
	}
	outages, err := rooms.Outages(r.Context(), all...)
	if err != nil {
		return err
	}
	data := list{May: school.May(r.Context(), staff.Arrange)}
	for _, room := range found {
		row := listRow{
			Href: fmt.Sprintf("/rooms/%d", room.ID), Name: room.Name, Benches: strconv.Itoa(room.Benches),
			Ovens: strconv.Itoa(len(room.OvensOf())), Learners: strconv.Itoa(room.Learners),
		}
		var out []string
		for _, o := range outages {
			if o.Room == room.ID && o.On(school.In(r.Context()).Today()) {
				out = append(out, o.Says(room.UnitName(o.Unit)))
			}
		}
		row.Out = strings.Join(out, "; ")
		data.Rows = append(data.Rows, row)
	}
	return p.Render(w, r, http.StatusOK, templates, "rooms", frame.Page{Title: "Rooms", Place: "rooms", Data: data})
}

type roomPage struct {
	ID       int64
	Name     string
	Says     string
	Floor    floor.Drawing
	Outages  []outage
	Units    []frame.Option
	Affected []affected
	Asked    bool
	Ovens    []ovenRow
	Boards   []room.Board
	Sharps   []room.Thing
	Kept     []room.Thing
	Measures []string
	Expected int
	Counts   []countRow
	Problem  string
	Arranges bool
	Keeps    bool
	In       rooms.OutageForm
	Counted  string
}

var twoHundred = exact.Int(200)

type outage struct {
	ID         int64
	Says, When string
	Href       string
}

type ovenRow struct{ Name, Shelves, Kind, Runs, At200 string }

type affected struct{ Href, When, Class, Dish, Before, After, Light string }

type countRow struct {
	At, Says, Who string
	Right         bool
}

func (p *place) show(w http.ResponseWriter, r *http.Request) error {
	return p.page(w, r, http.StatusOK, rooms.OutageForm{}, "")
}

func (p *place) page(w http.ResponseWriter, r *http.Request, status int, in rooms.OutageForm, problem string) error {
	ctx := r.Context()
	rm, err := rooms.One(ctx, frame.ID(r, "id"))
	if err != nil {
		return err
	}
	outages, err := rooms.Outages(ctx, rm.ID)
	if err != nil {
		return err
	}
	counts, err := rooms.SharpCounts(ctx, rm.ID)
	if err != nil {
		return err
	}
	data := roomPage{
		ID: rm.ID, Name: rm.Name, Problem: problem, In: in, Arranges: school.May(ctx, staff.Arrange), Keeps: school.May(ctx, staff.Keep),
		Says:   fmt.Sprintf("Benches: %d, groups at each: %d; for %d learners at most; adults: %d", rm.Benches, rm.PerBench, rm.Learners, rm.Adults),
		Boards: rm.Things.Boards, Sharps: rm.Things.Sharps, Kept: rm.Things.Kept, Expected: rm.Sharps,
	}
	out := map[string]bool{}
	for _, o := range outages {
		row := outage{ID: o.ID, Says: o.Says(rm.UnitName(o.Unit)), When: "since " + o.First.Format("2 January"), Href: fmt.Sprintf("/rooms/%d?out=%d", rm.ID, o.ID)}
		if !o.Last.IsZero() {
			row.When += ", until " + o.Last.Format("2 January")
		}
		row.When += ", said by " + o.Who
		out[o.Unit] = o.On(school.In(r.Context()).Today())
		data.Outages = append(data.Outages, row)
		if asked := r.URL.Query().Get("out"); asked == strconv.FormatInt(o.ID, 10) {
			if data.Affected, err = affectedBy(r, o); err != nil {
				return err
			}
			data.Asked = true
		}
	}
	data.Floor = floor.Of(rooms.Floor(rm), nil, func(id string) bool { return out[id] })
	for _, e := range rm.Equipment {
		if e.PerStation {
			continue
		}
		for _, u := range e.Units {
			data.Units = append(data.Units, frame.Option{Value: u.ID, Label: u.Name, Chosen: u.ID == in.Unit})
			if e.Temperature {
				data.Ovens = append(data.Ovens, ovenOf(rm.Room, u))
			}
		}
	}
	for _, s := range rm.Instruments.Scales {
		data.Measures = append(data.Measures, fmt.Sprintf("a scale that shows %s g, from %s g on", s.Division.Decimal(2), s.Least.Decimal(2)))
	}
	for _, j := range rm.Instruments.Jugs {
		data.Measures = append(data.Measures, fmt.Sprintf("a jug marked every %s ml, up to %s ml", j.Marks.Decimal(0), j.Holds.Decimal(0)))
	}
	if len(rm.Instruments.Spoons) > 0 {
		data.Measures = append(data.Measures, "sets of measuring spoons")
	}
	for _, c := range counts {
		data.Counts = append(data.Counts, countRow{school.In(r.Context()).Local(c.At).Format("2 January, 15:04"), c.Says(), c.Who, c.Counted == c.Expected})
	}
	return p.Render(w, r, status, templates, "room", frame.Page{Title: rm.Name, Place: "rooms", Data: data})
}

func ovenOf(rm lesson.Room, u fit.Unit) ovenRow {
	o, known := rm.Ovens[u.ID]
	row := ovenRow{Name: u.Name, Shelves: strconv.Itoa(u.Places), Kind: "no fan", Runs: "true"}
	if o.Fan {
		row.Kind = "fan"
	}
	if n := o.RunsHot.Float(); n > 0 {
		row.Runs = fmt.Sprintf("%.0f °C hot", n)
	} else if n < 0 {
		row.Runs = fmt.Sprintf("%.0f °C cold", -n)
	}
	if known {
		row.At200 = o.Dial(twoHundred).String()
	}
	return row
}

func affectedBy(r *http.Request, o rooms.Outage) ([]affected, error) {
	list, err := lessons.AffectedBy(r.Context(), o)
	var out []affected
	for _, a := range list {
		row := affected{
			Href: fmt.Sprintf("/lessons/%d", a.ID), When: a.Date.Format("Mon 2 Jan") + ", " + a.Period.Start.String(), Class: a.Class.Name, Dish: a.Core.Titles(),
			Before: lesson.Left(a.Before), After: lesson.NoPlan, Light: string(lesson.Stop),
		}
		if a.Plan != nil {
			row.After, row.Light = lesson.Left(a.Plan), string(a.Verdicts[0].Light)
		}
		out = append(out, row)
	}
	return out, err
}

// answer leads back to the room, or shows what was wrong there.
func (p *place) answer(w http.ResponseWriter, r *http.Request, err error, in rooms.OutageForm, to string) error {
	var problems problem.List
	switch {
	case err == nil:
		return frame.See(w, r, fmt.Sprintf("/rooms/%d%s", frame.ID(r, "id"), to))
	case errors.As(err, &problems):
		return p.page(w, r, http.StatusUnprocessableEntity, in, problems[0].Says)
	default:
		return err
	}
}

func (p *place) out(w http.ResponseWriter, r *http.Request) error {
	var in rooms.OutageForm
	if err := frame.Decode(r, &in); err != nil {
		return err
	}
	made, err := rooms.AddOutage(r.Context(), frame.ID(r, "id"), in)
	return p.answer(w, r, err, in, fmt.Sprintf("?out=%d", made))
}

func (p *place) works(w http.ResponseWriter, r *http.Request) error {
	n, _ := strconv.ParseInt(r.PostFormValue("outage"), 10, 64)
	return p.answer(w, r, rooms.EndOutage(r.Context(), n), rooms.OutageForm{}, "")
}

func (p *place) sharps(w http.ResponseWriter, r *http.Request) error {
	return p.answer(w, r, rooms.CountSharps(r.Context(), frame.ID(r, "id"), r.PostFormValue("press"), r.PostFormValue("way"), r.PostFormValue("counted")), rooms.OutageForm{}, "")
}

type formPage struct {
	Heading, Action string
	Version         int
	Problem         string
	F               map[string]frame.Field
	Spoons          bool
}

func (p *place) formPage(w http.ResponseWriter, r *http.Request, status int, heading, action string, version int, in rooms.RoomForm, problems problem.List, says string) error {
	t := func(name, label, value string) frame.Field { return frame.Text(name, label, value, problems) }
	data := formPage{Heading: heading, Action: action, Version: version, Problem: says, Spoons: in.Spoons, F: map[string]frame.Field{
		"name": t("name", "Name", in.Name), "benches": t("benches", "Benches", in.Benches), "per_bench": t("per_bench", "Groups at a bench", in.PerBench),
		"learners": t("learners", "Learners at most", in.Learners), "adults": t("adults", "Adults in a lesson", in.Adults), "rings": t("rings", "Rings at each bench", in.Rings),
		"ovens": t("ovens", "Ovens: name; shelves; fan or still; °C that it runs hot", in.Ovens), "shared": t("shared", "Shared things that benches wait for: kind; name; how many at once", in.Shared),
		"scales": t("scales", "Scales: g that it shows; least g that it weighs", in.Scales), "jugs": t("jugs", "Jugs: ml between marks; ml that it holds", in.Jugs),
		"boards": t("boards", "Boards, by the school’s own scheme: name; for what; how many", in.Boards),
		"sharps": t("sharps", "Sharp things that are counted: name; where they are kept; how many", in.Sharps), "kept": t("kept", "Equipment: name; where it is kept; how many", in.Kept),
	}}
	if problems != nil && says == "" {
		data.Problem = "Not saved. What is marked has to be mended."
	}
	return p.Render(w, r, status, templates, "room-form", frame.Page{Title: heading, Place: "rooms", Data: data})
}

func (p *place) blank(w http.ResponseWriter, r *http.Request) error {
	in := rooms.RoomForm{Benches: "8", PerBench: "2", Learners: "24", Adults: "1", Rings: "2", Ovens: "Oven 1; 2; fan; 0\n", Scales: "1; 2\n", Jugs: "25; 1000\n", Spoons: true}
	return p.formPage(w, r, http.StatusOK, "Add a room", "/rooms/new", 0, in, nil, "")
}

func (p *place) add(w http.ResponseWriter, r *http.Request) error {
	var in rooms.RoomForm
	if err := frame.Decode(r, &in); err != nil {
		return err
	}
	made, err := rooms.AddRoom(r.Context(), in)
	var problems problem.List
	switch {
	case errors.As(err, &problems):
		return p.formPage(w, r, http.StatusUnprocessableEntity, "Add a room", "/rooms/new", 0, in, problems, "")
	case err != nil:
		return err
	default:
		return frame.See(w, r, fmt.Sprintf("/rooms/%d", made))
	}
}

func (p *place) edit(w http.ResponseWriter, r *http.Request) error {
	rm, err := rooms.One(r.Context(), frame.ID(r, "id"))
	if err != nil {
		return err
	}
	return p.formPage(w, r, http.StatusOK, rm.Name, r.URL.Path, rm.Version, rooms.RoomFormOf(rm), nil, "")
}

func (p *place) change(w http.ResponseWriter, r *http.Request) error {
	var in rooms.RoomForm
	if err := frame.Decode(r, &in); err != nil {
		return err
	}
	err := rooms.ChangeRoom(r.Context(), frame.ID(r, "id"), r.PostFormValue("version"), in)
	var problems problem.List
	switch {
	case err == nil:
		return frame.See(w, r, fmt.Sprintf("/rooms/%d", frame.ID(r, "id")))
	case errors.As(err, &problems):
		version, _ := strconv.Atoi(r.PostFormValue("version"))
		return p.formPage(w, r, http.StatusUnprocessableEntity, in.Name, r.URL.Path, version, in, problems, "")
	case errors.Is(err, school.ErrChanged):
		rm, err := rooms.One(r.Context(), frame.ID(r, "id"))
		if err != nil {
			return err
		}
		return p.formPage(w, r, http.StatusConflict, in.Name, r.URL.Path, rm.Version, in, nil, "This room was changed after this page was opened, in another window or by somebody else. The form keeps yours; saving it again puts it over that.")
	default:
		return err
	}
}

type floorPage struct {
	ID      int64
	Name    string
	Version int
	Floor   floor.Drawing
	Rows    []floorRow
	Problem string
	Kinds   []room.Kind
}

type floorRow struct {
	N     int
	ID    string
	Kind  string
	Name  string
	Sizes []frame.Field
}

func (p *place) floor(w http.ResponseWriter, r *http.Request) error {
	rm, err := rooms.One(r.Context(), frame.ID(r, "id"))
	if err != nil {
		return err
	}
	return p.floorPage(w, r, http.StatusOK, rm, rooms.Floor(rm), rm.Version, "")
}

func (p *place) floorPage(w http.ResponseWriter, r *http.Request, status int, rm rooms.Room, f room.Floor, version int, problem string) error {
	data := floorPage{ID: rm.ID, Name: rm.Name, Version: version, Floor: floor.Of(f, nil, nil), Problem: problem, Kinds: room.Kinds}
	for n, i := range f.Items {
		row := floorRow{N: n, ID: i.ID, Kind: string(i.Kind), Name: i.Name}
		for _, s := range []struct {
			name, label string
			v           int
		}{{"x", "from the left", i.X}, {"y", "from the top", i.Y}, {"w", "wide", i.W}, {"h", "deep", i.H}} {
			field := fmt.Sprintf("%s-%d", s.name, n)
			row.Sizes = append(row.Sizes, frame.Field{Name: field, ID: field, Label: i.Name + ": " + s.label + ", cm", Value: strconv.Itoa(s.v)})
		}
		data.Rows = append(data.Rows, row)
	}
	return p.Render(w, r, status, templates, "floor", frame.Page{Title: "Floor of " + rm.Name, Place: "rooms", Data: data})
}

// floorOf reads a floor as it was typed or moved. What can't be read counts
// as nought, which the check then names.
func floorOf(form url.Values) room.Floor {
	n := func(name string) int {
		v, err := strconv.Atoi(strings.TrimSpace(form.Get(name)))
		if err != nil || v < -10_000 || v > 10_000 {
			return 0
		}
		return v
	}
	const most = 200
	f := room.Floor{W: n("width"), H: n("height")}
	for i := 0; i < most && form.Has(fmt.Sprintf("x-%d", i)); i++ {
		at := func(s string) string { return fmt.Sprintf("%s-%d", s, i) }
		f.Items = append(f.Items, room.Item{ID: form.Get(at("id")), Kind: room.Kind(form.Get(at("kind"))), Name: form.Get(at("name")), X: n(at("x")), Y: n(at("y")), W: n(at("w")), H: n(at("h"))})
	}
	return f
}

func (p *place) move(w http.ResponseWriter, r *http.Request) error {
	if err := frame.ParseForm(r); err != nil {
		return err
	}
	rm, err := rooms.One(r.Context(), frame.ID(r, "id"))
	if err != nil {
		return err
	}
	f := floorOf(r.PostForm)
	if r.PostForm.Has("usual") {
		f = room.Usual(rm.Benches, rm.OvensOf())
	}
	err = rooms.MoveFloor(r.Context(), rm.ID, r.PostFormValue("version"), f)
	var problems problem.List
	switch {
	case err == nil:
		return frame.See(w, r, fmt.Sprintf("/rooms/%d", rm.ID))
	case errors.As(err, &problems):
		return p.floorPage(w, r, http.StatusUnprocessableEntity, rm, f, rm.Version, "Not saved. "+problems[0].Says)
	case errors.Is(err, school.ErrChanged):
		return p.floorPage(w, r, http.StatusConflict, rm, f, rm.Version, "This room was changed after this page was opened, in another window or by somebody else. The drawing keeps yours; saving it again puts it over that.")
	default:
		return err
	}
}
