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

	"freshapron/internal/app/care"

	"freshapron/internal/app/lessons"
	"freshapron/internal/app/school"
	"freshapron/internal/core/class"
	"freshapron/internal/core/fit"
	"freshapron/internal/core/lesson"
	"freshapron/internal/core/pantry"
	"freshapron/internal/core/problem"
	"freshapron/internal/core/recipe"
	"freshapron/internal/core/safety"
	"freshapron/internal/core/staff"
	"freshapron/internal/web/frame"
	"freshapron/internal/web/head"
)

//go:embed templates/*.html
var files embed.FS

var templates = frame.Parse(files)

type place struct{ *frame.Frame }

// Routes are the pages of this place.
func Routes(f *frame.Frame) []frame.Route {
	p := &place{f}
	return []frame.Route{
		frame.Get("/lessons/{id}/who", staff.Read, p.who),
		frame.Post("/lessons/{id}/who", staff.Plan, p.setAbsent),
		frame.Post("/lessons/{id}/teams", staff.Plan, p.setTeams),
		frame.Post("/lessons/{id}/picks", staff.Plan, p.setPicks),
		frame.Get("/lessons/{id}/food", staff.Read, p.food),
		frame.Post("/lessons/{id}/food", staff.Plan, p.setSwaps),
		frame.Post("/lessons/{id}/food/all", staff.Plan, p.swapAll),
		frame.Get("/lessons/{id}/ways", staff.Read, p.ways),
		frame.Post("/lessons/{id}/ways", staff.Plan, p.setWays),
		frame.Get("/lessons/{id}/safety", staff.Read, p.safety),
		frame.Post("/lessons/{id}/safety", staff.Teach, p.editSheet),
		frame.Post("/lessons/{id}/safety/sign", staff.Teach, p.sign),
		frame.Get("/lessons/{id}/print/safety", staff.Read, p.printSheet),
		frame.Get("/lessons/{id}/floor", staff.Read, p.floor),
		frame.Get("/lessons/{id}/probe", staff.Read, p.probe),
		frame.Post("/lessons/{id}/probe", staff.Measure, p.writeDown),
	}
}

// open loads the lesson of the address for whoever may read it, and tells
// whether its class is theirs.
func open(r *http.Request) (v *lessons.View, mine bool, err error) {
	if v, err = lessons.One(r.Context(), frame.ID(r, "id")); err == nil {
		mine, err = school.Mine(r.Context(), v.Class.ID)
	}
	return v, mine, err
}

// answer leads back to a side of the lesson, or shows it with what was wrong.
func (p *place) answer(w http.ResponseWriter, r *http.Request, err error, side string, show func(http.ResponseWriter, *http.Request, int, string) error) error {
	switch problems := problem.Of(err); {
	case err == nil:
		return frame.See(w, r, fmt.Sprintf("/lessons/%d/%s", frame.ID(r, "id"), side))
	case problems != nil:
		return show(w, r, http.StatusUnprocessableEntity, "Not saved. "+problem.Sentence(problems[0].Says))
	case errors.Is(err, school.ErrChanged):
		return show(w, r, http.StatusConflict, "This was changed after the page was opened, in another window or by somebody else. The page shows it as it is now: look it over and do it again.")
	}
	return err
}

type whoPage struct {
	Top     head.Top
	Named   bool
	Count   string
	Groups  []group
	Away    []person
	ByHand  bool
	Class   int64 // 0 where whoever looks does not belong to it
	Broken  []string
	Numbers []int
	Choices []choosing
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

func (p *place) who(w http.ResponseWriter, r *http.Request) error {
	return p.whoPage(w, r, http.StatusOK, "")
}

func (p *place) whoPage(w http.ResponseWriter, r *http.Request, status int, problem string) error {
	v, mine, err := open(r)
	if err != nil {
		return err
	}
	data := whoPage{Top: head.TopOf(r, v, "Who", "Who", problem, mine), Named: len(v.Class.Roster) > 0, ByHand: len(v.Teams) > 0}
	if mine && school.May(r.Context(), staff.Teach) {
		data.Class = v.Class.ID
	}
	data.Count = fmt.Sprintf("%d of %d are there", v.Core.Learners(), max(len(v.Class.Roster), v.Core.Learners()))
	if v.Problems == nil {
		// Groups are numbered by their places, those too of which nobody is there.
		for i, g := range v.Dealt.Groups {
			data.Numbers = append(data.Numbers, i+1)
			b := slices.IndexFunc(v.Benches, func(b lesson.Bench) bool {
				return slices.ContainsFunc(b.Members, func(m class.Learner) bool {
					return slices.ContainsFunc(g, func(l class.Learner) bool { return l.ID == m.ID })
				})
			})
			if b < 0 {
				continue
			}
			row := group{Name: v.Benches[b].Name, Makes: makes(v, v.Benches[b])}
			for _, l := range v.Benches[b].Members {
				row.Members = append(row.Members, person{l.ID, l.Name(), i + 1})
			}
			data.Groups = append(data.Groups, row)
		}
		data.Numbers = append(data.Numbers, len(data.Numbers)+1)
		data.Broken = v.Dealt.Says(v.Class.Rules, v.Class.NameOf)
		data.Choices = choicesOf(v)
	}
	for _, id := range v.Absent {
		if n := v.Class.NameOf(id); n != "" {
			data.Away = append(data.Away, person{id, n, 0})
		}
	}
	return p.Render(w, r, status, templates, "who", frame.Page{Title: head.Title("Who", v), Place: "lesson", Data: data})
}

// makes says what a bench makes: "8 scones", "4 portions of chilli and 8 scones".
func makes(v *lessons.View, b lesson.Bench) string {
	var out []string
	for _, m := range b.Makes {
		r := v.Core.Menu[m.Course].Recipe
		says := r.Count(m.Pieces)
		if len(v.Core.Menu) > 1 {
			says = r.Title + ", " + says
		}
		out = append(out, says)
	}
	return strings.Join(out, "; ")
}

func (p *place) setAbsent(w http.ResponseWriter, r *http.Request) error {
	if err := frame.ParseForm(r); err != nil {
		return err
	}
	return p.answer(w, r, lessons.SetAbsent(r.Context(), frame.ID(r, "id"), r.PostFormValue("version"), r.PostForm["away"]), "who", p.whoPage)
}

func (p *place) setTeams(w http.ResponseWriter, r *http.Request) error {
	if err := frame.ParseForm(r); err != nil {
		return err
	}
	var teams map[int64]string
	if r.PostFormValue("anew") != "" {
		return p.answer(w, r, lessons.DealAnew(r.Context(), frame.ID(r, "id"), r.PostFormValue("version")), "who", p.whoPage)
	}
	if r.PostFormValue("deal") == "" {
		teams = map[int64]string{}
		for name, values := range r.PostForm {
			if n, err := strconv.ParseInt(strings.TrimPrefix(name, "group-"), 10, 64); err == nil && strings.HasPrefix(name, "group-") {
				teams[n] = values[0]
			}
		}
	}
	return p.answer(w, r, lessons.SetTeams(r.Context(), frame.ID(r, "id"), r.PostFormValue("version"), teams), "who", p.whoPage)
}

type foodPage struct {
	Top      head.Top
	Dishes   []eatenDish
	Others   int
	Says     string
	Light    string
	Declared []string
	Unknown  []string
	ToRead   string
	List     string
	Source   string
	Helps    bool // some swap helps somebody
	Apart    []string
}

// An eatenDish is a dish of the menu with those whom it may not suit.
type eatenDish struct {
	ID, Title string // the title where there are several
	Swaps     []string
	Rows      []eater
}

type eater struct {
	ID              int64
	Form            string // id of the form of their swaps
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

func (p *place) food(w http.ResponseWriter, r *http.Request) error {
	return p.foodPage(w, r, http.StatusOK, "")
}

func (p *place) foodPage(w http.ResponseWriter, r *http.Request, status int, problem string) error {
	c, err := care.For(r.Context(), frame.ID(r, "id"))
	if err != nil {
		return err
	}
	eaters := c.Eaters()
	data := foodPage{Top: head.TopOf(r, c.View, "Who can eat what", "Food", problem, true), Others: c.Core.Learners() - len(eaters)}
	for _, course := range c.Core.Menu {
		dish := eatenDish{ID: course.Recipe.ID}
		if len(c.Core.Menu) > 1 {
			dish.Title = course.Recipe.Title
		}
		for _, s := range course.Recipe.Swaps {
			dish.Swaps = append(dish.Swaps, s.For+" → "+s.Use)
		}
		for _, e := range eaters {
			for _, d := range e.Dishes {
				if d.Recipe.ID != dish.ID {
					continue
				}
				dish.Rows = append(dish.Rows, eaterOf(e, d))
				data.Helps = data.Helps || len(d.Best.Swaps) > len(d.Chosen)
				if says := fmt.Sprintf("%s, %s", e.Name(), e.Bench); d.Apart && !slices.Contains(data.Apart, says) {
					data.Apart = append(data.Apart, says)
				}
			}
		}
		if dish.Rows != nil {
			data.Dishes = append(data.Dishes, dish)
		}
	}
	unsafe := care.Unsafe(eaters)
	data.Says, data.Light = "Everybody can eat what their bench makes.", string(lesson.Good)
	if unsafe > 0 {
		data.Says, data.Light = fmt.Sprintf("Not safe for %d: choose swaps, another dish, or let them make something else.", unsafe), string(lesson.Stop)
	}
	known, unknown := c.Core.Allergens()
	list := c.Larder.Declared()
	data.Declared, data.Unknown, data.List, data.Source = list.Declare(known), unknown, list.Name, list.Source
	data.ToRead = recipe.LabelsSay(c.Core.ToRead())
	return p.Render(w, r, status, templates, "food", frame.Page{Title: head.Title("Food", c.View), Place: "lesson", Data: data})
}

// eaterOf shows how a dish suits a learner.
func eaterOf(e care.Eater, d care.Eaten) eater {
	row := eater{
		ID: e.ID, Form: fmt.Sprintf("swaps-%d-%s", e.ID, d.Recipe.ID), Name: e.Name(), Bench: e.Bench, Apart: d.Apart, Helpless: d.Best.Verdict() == pantry.Never,
		Written: verdictCell(safety.Worst(d.Written), d.Written), Chosen: verdictCell(safety.Worst(d.Left), d.Left),
	}
	for _, n := range e.Needs {
		if n.Kind != class.Access {
			row.Needs = append(row.Needs, strings.TrimPrefix(n.Says(), string(n.Kind)+": "))
		}
	}
	for i, s := range d.Swaps {
		chosen := slices.ContainsFunc(d.Chosen, func(o lesson.Swap) bool { return o.For == s.For && o.Use == s.Use })
		row.Swaps = append(row.Swaps, swapCell{verdictCell(s.Verdict, nil), i, chosen, e.Name() + ": " + s.Use, s.Helps})
	}
	return row
}

func learnerOf(r *http.Request) int64 {
	n, _ := strconv.ParseInt(r.PostFormValue("learner"), 10, 64)
	return n
}

func (p *place) setSwaps(w http.ResponseWriter, r *http.Request) error {
	if err := frame.ParseForm(r); err != nil {
		return err
	}
	return p.answer(w, r, care.SetSwaps(r.Context(), frame.ID(r, "id"), r.PostFormValue("version"), learnerOf(r), r.PostFormValue("dish"), r.PostForm["swap"]), "food", p.foodPage)
}

func (p *place) swapAll(w http.ResponseWriter, r *http.Request) error {
	return p.answer(w, r, care.SwapAll(r.Context(), frame.ID(r, "id"), r.PostFormValue("version")), "food", p.foodPage)
}

type waysPage struct {
	Top  head.Top
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

func wayOf(learner int64, dish, step string, w care.OfferedWay) way {
	out := way{Value: dish + " " + step + " " + w.ID, ID: fmt.Sprintf("way-%d-%s-%s-%s", learner, dish, step, w.ID), Name: w.Name, Chosen: w.Chosen}
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

func (p *place) ways(w http.ResponseWriter, r *http.Request) error {
	return p.waysPage(w, r, http.StatusOK, "")
}

func (p *place) waysPage(w http.ResponseWriter, r *http.Request, status int, problem string) error {
	c, err := care.For(r.Context(), frame.ID(r, "id"))
	if err != nil {
		return err
	}
	data := waysPage{Top: head.TopOf(r, c.View, "Other ways to do it", "Other ways", problem, true)}
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
			row.Whole = append(row.Whole, wayOf(h.ID, "", "", o))
		}
		for _, s := range h.Steps {
			step := helpedStep{Title: s.Title}
			var dangers []string
			for _, d := range s.Dangers {
				dangers = append(dangers, d.Name())
			}
			step.Dangers = strings.Join(dangers, ", ")
			for _, o := range s.Ways {
				step.Ways = append(step.Ways, wayOf(h.ID, s.Dish, s.ID, o))
			}
			row.Steps = append(row.Steps, step)
		}
		data.Rows = append(data.Rows, row)
	}
	return p.Render(w, r, status, templates, "ways", frame.Page{Title: head.Title("Other ways", c.View), Place: "lesson", Data: data})
}

func (p *place) setWays(w http.ResponseWriter, r *http.Request) error {
	if err := frame.ParseForm(r); err != nil {
		return err
	}
	var chosen []lesson.WayTaken
	for _, value := range r.PostForm["way"] { // dish, step and way, as wayOf writes them
		if parts := strings.Split(value, " "); len(parts) == 3 {
			chosen = append(chosen, lesson.WayTaken{Dish: parts[0], Step: parts[1], Way: parts[2]})
		}
	}
	return p.answer(w, r, care.SetWays(r.Context(), frame.ID(r, "id"), r.PostFormValue("version"), learnerOf(r), chosen), "ways", p.waysPage)
}

type sheetPage struct {
	Top     head.Top
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

func sheetOf(r *http.Request, c *care.Care, problem string) (sheetPage, error) {
	s, err := care.SheetOf(r.Context(), c)
	if err != nil {
		return sheetPage{}, err
	}
	region := c.Core.Safety.Region
	data := sheetPage{
		Top: head.TopOf(r, c.View, "Safety sheet", "Safety", problem, true), Version: s.Version, Seen: s.Seen(), State: s.State(), Stale: s.Stale, Decides: safety.Decides,
		School: school.In(r.Context()).Name, Region: fmt.Sprintf("Temperatures and times: %s. %s. As known in %s.", region.Name, region.Source, region.Looked),
	}
	for i, l := range s.Lines {
		data.Lines = append(data.Lines, sheetLine{l, i, s.Edited[l.Key], strings.HasPrefix(l.Key, "own:")})
	}
	switch data.State {
	case "open":
		data.Says, data.Light = "Not signed yet.", string(lesson.Look)
	case "stale":
		data.Says = fmt.Sprintf("Signed by %s on %s, and no longer as it was signed.", s.Signed.Who, school.In(r.Context()).Local(s.Signed.At).Format("2 January, 15:04"))
		data.Light = string(lesson.Stop)
	default:
		data.Says, data.Light = fmt.Sprintf("Signed by %s on %s.", s.Signed.Who, school.In(r.Context()).Local(s.Signed.At).Format("2 January, 15:04")), string(lesson.Good)
	}
	return data, nil
}

func (p *place) safety(w http.ResponseWriter, r *http.Request) error {
	return p.sheetPage(w, r, http.StatusOK, "")
}

func (p *place) sheetPage(w http.ResponseWriter, r *http.Request, status int, problem string) error {
	c, err := care.For(r.Context(), frame.ID(r, "id"))
	if err != nil {
		return err
	}
	data, err := sheetOf(r, c, problem)
	if err != nil {
		return err
	}
	return p.Render(w, r, status, templates, "safety", frame.Page{Title: head.Title("Safety", c.View), Place: "lesson", Data: data})
}

func (p *place) printSheet(w http.ResponseWriter, r *http.Request) error {
	c, err := care.For(r.Context(), frame.ID(r, "id"))
	if err != nil {
		return err
	}
	data, err := sheetOf(r, c, "")
	if err != nil {
		return err
	}
	return p.Render(w, r, http.StatusOK, templates, "safety-paper", frame.Page{Title: head.Title("Safety sheet", c.View), Data: data})
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

func (p *place) editSheet(w http.ResponseWriter, r *http.Request) error {
	if err := frame.ParseForm(r); err != nil {
		return err
	}
	c, err := care.For(r.Context(), frame.ID(r, "id"))
	if err != nil {
		return err
	}
	return p.answer(w, r, care.EditSheet(r.Context(), c, r.PostFormValue("version"), editsOf(r.PostForm)), "safety", p.sheetPage)
}

func (p *place) sign(w http.ResponseWriter, r *http.Request) error {
	c, err := care.For(r.Context(), frame.ID(r, "id"))
	if err != nil {
		return err
	}
	return p.answer(w, r, care.SignSheet(r.Context(), c, r.PostFormValue("seen")), "safety", p.sheetPage)
}
