// Package care shows the sides of a lesson that look after its learners: who
// is there and works with whom, who can eat what, other ways to do it, the
// safety sheet, and the log of temperatures. What somebody needs is shown to
// the staff of the class only.
package care

import (
	"embed"
	"errors"
	"fmt"
	"net/http"
	"net/url"
	"slices"
	"strconv"
	"strings"

	"github.com/go-chi/chi/v5"

	"freshapron/internal/app"
	"freshapron/internal/core/class"
	"freshapron/internal/core/fit"
	"freshapron/internal/core/lesson"
	"freshapron/internal/core/pantry"
	"freshapron/internal/core/problem"
	"freshapron/internal/core/safety"
	"freshapron/internal/core/staff"
	"freshapron/internal/store"
	"freshapron/internal/web/frame"
)

//go:embed templates/*.html
var files embed.FS

var templates = frame.Parse(files)

type place struct {
	*app.App
	*frame.Frame
}

// Routes adds the pages of this place.
func Routes(r chi.Router, a *app.App, f *frame.Frame) {
	p := &place{a, f}
	r.Get("/lessons/{id}/who", p.who)
	r.Post("/lessons/{id}/who", p.setAbsent)
	r.Post("/lessons/{id}/teams", p.setTeams)
	r.Get("/lessons/{id}/food", p.food)
	r.Post("/lessons/{id}/food", p.setSwaps)
	r.Post("/lessons/{id}/food/all", p.swapAll)
	r.Get("/lessons/{id}/ways", p.ways)
	r.Post("/lessons/{id}/ways", p.setWays)
	r.Get("/lessons/{id}/safety", p.safety)
	r.Post("/lessons/{id}/safety", p.editSheet)
	r.Post("/lessons/{id}/safety/sign", p.sign)
	r.Get("/lessons/{id}/print/safety", p.printSheet)
	r.Get("/lessons/{id}/floor", p.floor)
	r.Get("/lessons/{id}/probe", p.probe)
	r.Post("/lessons/{id}/probe", p.writeDown)
}

// A top is what stands at the head of each of these pages.
type top struct {
	ID, Heading, Dish, Class, When, Room string
	Figure, Light, Bell                  string
	Version                              int
	Sides                                []frame.Side
	Problem                              string
	MayChange                            bool
}

func (p *place) top(r *http.Request, v *app.View, heading, side, wrong string, mine bool) top {
	t := top{
		ID: strconv.FormatInt(v.ID, 10), Heading: heading, Dish: v.Dish.Title, Class: v.Class.Name, Room: v.Room.Name, Bell: v.Period.End.String(),
		When:   fmt.Sprintf("%s, %s–%s", v.Date.Format("Monday 2 January"), v.Period.Start, v.Period.End),
		Figure: lesson.NoPlan, Light: string(lesson.Stop), Version: v.Version, Sides: frame.Sides(v.ID, side, mine), Problem: wrong,
		MayChange: app.May(r.Context(), staff.Plan),
	}
	if v.Problems == nil {
		t.Figure, t.Light = lesson.Left(v.Plan), string(v.Verdicts[0].Light)
	} else if t.Problem == "" {
		t.Problem = problem.Sentence(v.Problems[0].Says)
	}
	return t
}

// care loads the lesson of the address for the staff of its class; others are
// told that it is theirs.
func (p *place) care(w http.ResponseWriter, r *http.Request) (*app.Care, bool) {
	c, err := p.Care(r.Context(), frame.ID(r, "id"))
	if err != nil {
		p.fail(w, r, err)
		return nil, false
	}
	return c, true
}

// open loads the lesson of the address for whoever may read it, and tells
// whether its class is theirs.
func (p *place) open(w http.ResponseWriter, r *http.Request) (v *app.View, mine, ok bool) {
	v, err := p.Lesson(r.Context(), frame.ID(r, "id"))
	if err == nil {
		mine, err = p.Mine(r.Context(), v.Class.ID)
	}
	if err != nil {
		p.fail(w, r, err)
	}
	return v, mine, err == nil
}

func (p *place) fail(w http.ResponseWriter, r *http.Request, err error) {
	if errors.Is(err, app.ErrNotYours) {
		p.NotYours(w, r)
		return
	}
	p.Error(w, r, err)
}

// answer leads back to a side of the lesson, or shows it with what was wrong.
func (p *place) answer(w http.ResponseWriter, r *http.Request, err error, side string, show func(http.ResponseWriter, *http.Request, int, string)) {
	var problems problem.List
	switch {
	case err == nil:
		http.Redirect(w, r, fmt.Sprintf("/lessons/%d/%s", frame.ID(r, "id"), side), http.StatusSeeOther)
	case errors.As(err, &problems):
		show(w, r, http.StatusUnprocessableEntity, "Not saved. "+problem.Sentence(problems[0].Says))
	case errors.Is(err, store.ErrChanged):
		show(w, r, http.StatusConflict, "Somebody else changed this meanwhile. The page shows theirs; look it over and do it again.")
	default:
		p.fail(w, r, err)
	}
}

type whoPage struct {
	Top     top
	Named   bool
	Count   string
	Groups  []group
	Away    []person
	ByHand  bool
	Broken  []string
	Numbers []int
}

type group struct {
	Name    string
	Makes   string
	Members []person
}

type person struct {
	ID    int64
	Name  string
	Group int
}

func (p *place) who(w http.ResponseWriter, r *http.Request) { p.whoPage(w, r, http.StatusOK, "") }

func (p *place) whoPage(w http.ResponseWriter, r *http.Request, status int, problem string) {
	v, mine, ok := p.open(w, r)
	if !ok {
		return
	}
	data := whoPage{Top: p.top(r, v, "Who", "Who", problem, mine), Named: len(v.Class.Roster) > 0, ByHand: len(v.Teams) > 0}
	data.Count = fmt.Sprintf("%d of %d are there", v.Core.Learners(), max(len(v.Class.Roster), v.Core.Learners()))
	name := func(id int64) string {
		for _, l := range v.Class.Roster {
			if l.ID == id {
				return l.Name()
			}
		}
		return ""
	}
	if v.Problems == nil {
		benches := v.Core.Benches()
		for i, g := range v.Dealt.Groups {
			row := group{Name: benches[i].Name, Makes: v.Dish.Count(benches[i].Pieces)}
			for _, l := range g {
				row.Members = append(row.Members, person{l.ID, l.Name(), i + 1})
			}
			data.Groups = append(data.Groups, row)
			data.Numbers = append(data.Numbers, i+1)
		}
		data.Numbers = append(data.Numbers, len(data.Groups)+1)
		data.Broken = v.Dealt.Says(v.Class.Rules, name)
	}
	for _, id := range v.Absent {
		if n := name(id); n != "" {
			data.Away = append(data.Away, person{id, n, 0})
		}
	}
	p.Render(w, r, status, templates, "who", frame.Page{Title: "Who: " + v.Dish.Title + ", " + v.Class.Name, Place: "lesson", Data: data})
}

func (p *place) setAbsent(w http.ResponseWriter, r *http.Request) {
	if !p.Parsed(w, r) {
		return
	}
	p.answer(w, r, p.SetAbsent(r.Context(), frame.ID(r, "id"), r.PostFormValue("version"), r.PostForm["away"]), "who", p.whoPage)
}

func (p *place) setTeams(w http.ResponseWriter, r *http.Request) {
	if !p.Parsed(w, r) {
		return
	}
	var teams map[int64]string
	if r.PostFormValue("deal") == "" {
		teams = map[int64]string{}
		for name, values := range r.PostForm {
			if n, err := strconv.ParseInt(strings.TrimPrefix(name, "group-"), 10, 64); err == nil && strings.HasPrefix(name, "group-") {
				teams[n] = values[0]
			}
		}
	}
	p.answer(w, r, p.SetTeams(r.Context(), frame.ID(r, "id"), r.PostFormValue("version"), teams), "who", p.whoPage)
}

type foodPage struct {
	Top      top
	Swaps    []string
	Rows     []eater
	Others   int
	Says     string
	Light    string
	Declared []string
	Unknown  []string
	List     string
	Source   string
	Helps    bool // some swap helps somebody
	Apart    []string
}

type eater struct {
	ID              int64
	Name, Bench     string
	Needs           []string
	Written         cell
	Swaps           []swapCell
	Chosen          cell
	Apart, Helpless bool
}

// A cell of the grid: a word, why, and how it looks.
type cell struct {
	Word, Light string
	Why         []string
}

type swapCell struct {
	cell
	At      int
	Checked bool
	Label   string
	Helps   bool
}

func verdictCell(v pantry.Verdict, list []safety.Against) cell {
	c := cell{Word: "yes", Light: "good"}
	switch v {
	case pantry.Ask:
		c.Word, c.Light = "ask", "look"
	case pantry.Never:
		c.Word, c.Light = "no", "stop"
	}
	for _, a := range list {
		c.Why = append(c.Why, a.Why)
	}
	return c
}

func (p *place) food(w http.ResponseWriter, r *http.Request) { p.foodPage(w, r, http.StatusOK, "") }

func (p *place) foodPage(w http.ResponseWriter, r *http.Request, status int, problem string) {
	c, ok := p.care(w, r)
	if !ok {
		return
	}
	eaters := c.Eaters()
	data := foodPage{Top: p.top(r, c.View, "Who can eat what", "Food", problem, true), Others: c.Core.Learners() - len(eaters)}
	for _, s := range c.Dish.Swaps {
		data.Swaps = append(data.Swaps, s.For+" → "+s.Use)
	}
	for _, e := range eaters {
		row := eater{ID: e.ID, Name: e.Name(), Bench: e.Bench, Written: verdictCell(safety.Worst(e.Written), e.Written), Chosen: verdictCell(safety.Worst(e.Left), e.Left), Apart: e.Apart}
		for _, n := range e.Needs {
			if n.Kind != class.Access {
				row.Needs = append(row.Needs, strings.TrimPrefix(n.Says(), string(n.Kind)+": "))
			}
		}
		for i, s := range e.Swaps {
			chosen := slices.ContainsFunc(e.Chosen, func(o lesson.Swap) bool { return o.For == s.For && o.Use == s.Use })
			row.Swaps = append(row.Swaps, swapCell{verdictCell(s.Verdict, nil), i, chosen, e.Name() + ": " + s.Use, s.Helps})
		}
		data.Helps = data.Helps || len(e.Best.Swaps) > len(e.Chosen)
		row.Helpless = e.Best.Verdict() == pantry.Never
		data.Rows = append(data.Rows, row)
		if e.Apart {
			data.Apart = append(data.Apart, fmt.Sprintf("%s, %s", e.Name(), e.Bench))
		}
	}
	unsafe := app.Unsafe(eaters)
	data.Says, data.Light = "Everybody can eat what their bench makes.", string(lesson.Good)
	if unsafe > 0 {
		data.Says, data.Light = fmt.Sprintf("Not safe for %d: choose swaps, another dish, or let them make something else.", unsafe), string(lesson.Stop)
	}
	known, unknown := c.Dish.Allergens(c.Larder.Pantry)
	list := c.Larder.Declared()
	data.Declared, data.Unknown, data.List, data.Source = list.Declare(known), unknown, list.Name, list.Source
	p.Render(w, r, status, templates, "food", frame.Page{Title: "Food: " + c.Dish.Title + ", " + c.Class.Name, Place: "lesson", Data: data})
}

func learnerOf(r *http.Request) int64 {
	n, _ := strconv.ParseInt(r.PostFormValue("learner"), 10, 64)
	return n
}

func (p *place) setSwaps(w http.ResponseWriter, r *http.Request) {
	if !p.Parsed(w, r) {
		return
	}
	p.answer(w, r, p.SetSwaps(r.Context(), frame.ID(r, "id"), r.PostFormValue("version"), learnerOf(r), r.PostForm["swap"]), "food", p.foodPage)
}

func (p *place) swapAll(w http.ResponseWriter, r *http.Request) {
	p.answer(w, r, p.SwapAll(r.Context(), frame.ID(r, "id"), r.PostFormValue("version")), "food", p.foodPage)
}

type waysPage struct {
	Top  top
	Rows []helped
}

type helped struct {
	ID          int64
	Name, Bench string
	Needs       string
	Whole       []way
	Steps       []helpedStep
}

type helpedStep struct {
	Title, Dangers string
	Ways           []way
}

type way struct {
	Value, ID, Name, Small string
	Chosen                 bool
}

func wayOf(learner int64, step string, w app.OfferedWay) way {
	out := way{Value: step + " " + w.ID, ID: fmt.Sprintf("way-%d-%s-%s", learner, step, w.ID), Name: w.Name, Chosen: w.Chosen}
	switch {
	case w.Times > 1:
		out.Small = fmt.Sprintf("%g times as long", w.Times)
	case w.Times > 0 && w.Times < 1:
		out.Small = fmt.Sprintf("%.0f %% of the time", w.Times*100)
	}
	if w.Adult == fit.Does || w.Adult == fit.Watches {
		out.Small = strings.TrimPrefix(out.Small+", needs an adult", ", ")
	}
	return out
}

func (p *place) ways(w http.ResponseWriter, r *http.Request) { p.waysPage(w, r, http.StatusOK, "") }

func (p *place) waysPage(w http.ResponseWriter, r *http.Request, status int, problem string) {
	c, ok := p.care(w, r)
	if !ok {
		return
	}
	data := waysPage{Top: p.top(r, c.View, "Other ways to do it", "Other ways", problem, true)}
	for _, h := range c.Helped() {
		row := helped{ID: h.ID, Name: h.Name(), Bench: h.Bench}
		var needs []string
		for _, n := range h.Needs {
			if n.Kind == class.Access {
				needs = append(needs, strings.TrimPrefix(n.Says(), "access: "))
			}
		}
		if h.Level == class.Starting {
			needs = append(needs, "starting in the kitchen")
		}
		row.Needs = strings.Join(needs, ", ")
		for _, o := range h.Whole {
			row.Whole = append(row.Whole, wayOf(h.ID, "", o))
		}
		for _, s := range h.Steps {
			step := helpedStep{Title: s.Title}
			var dangers []string
			for _, d := range s.Dangers {
				dangers = append(dangers, d.Name())
			}
			step.Dangers = strings.Join(dangers, ", ")
			for _, o := range s.Ways {
				step.Ways = append(step.Ways, wayOf(h.ID, s.ID, o))
			}
			row.Steps = append(row.Steps, step)
		}
		data.Rows = append(data.Rows, row)
	}
	p.Render(w, r, status, templates, "ways", frame.Page{Title: "Other ways: " + c.Dish.Title + ", " + c.Class.Name, Place: "lesson", Data: data})
}

func (p *place) setWays(w http.ResponseWriter, r *http.Request) {
	if !p.Parsed(w, r) {
		return
	}
	p.answer(w, r, p.SetWays(r.Context(), frame.ID(r, "id"), r.PostFormValue("version"), learnerOf(r), r.PostForm["way"]), "ways", p.waysPage)
}

type sheetPage struct {
	Top     top
	Lines   []sheetLine
	Version int
	Seen    string
	State   string
	Says    string
	Light   string
	Stale   []string
	Decides string
	School  string
	Region  string
	Print   bool
}

type sheetLine struct {
	safety.Line
	N      int
	Edited bool
	Own    bool
}

func (p *place) sheetOf(r *http.Request, c *app.Care, problem string) (sheetPage, error) {
	s, err := p.Sheet(r.Context(), c)
	if err != nil {
		return sheetPage{}, err
	}
	region := c.Core.Safety.Region
	data := sheetPage{
		Top: p.top(r, c.View, "Safety sheet", "Safety", problem, true), Version: s.Version, Seen: s.Seen(), State: s.State(), Stale: s.Stale, Decides: safety.Decides,
		School: p.App.School.Name, Region: fmt.Sprintf("Temperatures and times: %s. %s. As known in %s.", region.Name, region.Source, region.Looked),
	}
	for i, l := range s.Lines {
		data.Lines = append(data.Lines, sheetLine{l, i, s.Edited[l.Key], strings.HasPrefix(l.Key, "own:")})
	}
	switch data.State {
	case "open":
		data.Says, data.Light = "Not signed yet.", string(lesson.Look)
	case "stale":
		data.Says = fmt.Sprintf("Signed by %s on %s, and no longer as it was signed.", s.Signed.Who, p.Local(s.Signed.At).Format("2 January, 15:04"))
		data.Light = string(lesson.Stop)
	default:
		data.Says, data.Light = fmt.Sprintf("Signed by %s on %s.", s.Signed.Who, p.Local(s.Signed.At).Format("2 January, 15:04")), string(lesson.Good)
	}
	return data, nil
}

func (p *place) safety(w http.ResponseWriter, r *http.Request) { p.sheetPage(w, r, http.StatusOK, "") }

func (p *place) sheetPage(w http.ResponseWriter, r *http.Request, status int, problem string) {
	c, ok := p.care(w, r)
	if !ok {
		return
	}
	data, err := p.sheetOf(r, c, problem)
	if err != nil {
		p.fail(w, r, err)
		return
	}
	p.Render(w, r, status, templates, "safety", frame.Page{Title: "Safety: " + c.Dish.Title + ", " + c.Class.Name, Place: "lesson", Data: data})
}

func (p *place) printSheet(w http.ResponseWriter, r *http.Request) {
	c, ok := p.care(w, r)
	if !ok {
		return
	}
	data, err := p.sheetOf(r, c, "")
	if err != nil {
		p.fail(w, r, err)
		return
	}
	p.Render(w, r, http.StatusOK, templates, "safety-paper", frame.Page{Title: "Safety sheet: " + c.Dish.Title + ", " + c.Class.Name, Data: data})
}

// editsOf reads the lines of the sheet as they were typed.
func editsOf(form url.Values) []safety.Line {
	var out []safety.Line
	for i := 0; form.Has(fmt.Sprintf("key-%d", i)); i++ {
		g := func(part string) string { return strings.TrimSpace(form.Get(fmt.Sprintf("%s-%d", part, i))) }
		l := safety.Line{Key: g("key"), Done: g("done"), Adult: g("adult"), Left: g("left")}
		if strings.HasPrefix(l.Key, "own:") {
			l.Hazard, l.Who, l.Because = g("hazard"), g("who"), "the teacher"
		}
		out = append(out, l)
	}
	return out
}

func (p *place) editSheet(w http.ResponseWriter, r *http.Request) {
	if !p.Parsed(w, r) {
		return
	}
	c, ok := p.care(w, r)
	if !ok {
		return
	}
	p.answer(w, r, p.EditSheet(r.Context(), c, r.PostFormValue("version"), editsOf(r.PostForm)), "safety", p.sheetPage)
}

func (p *place) sign(w http.ResponseWriter, r *http.Request) {
	c, ok := p.care(w, r)
	if !ok {
		return
	}
	p.answer(w, r, p.SignSheet(r.Context(), c, r.PostFormValue("seen")), "safety", p.sheetPage)
}
