package preparing

import (
	"fmt"
	"net/http"
	"slices"
	"strconv"
	"strings"

	"freshapron/internal/app/preparing"
	"freshapron/internal/core/lesson"
	"freshapron/internal/core/recipe"
	"freshapron/internal/web/frame"
	"freshapron/internal/web/head"
)

type homePage struct {
	Top                   head.Top
	ID                    int64
	Version               int
	Lines                 []frame.Option
	Rows                  []bringRow
	Container, Note, Asks frame.Field
	Problem               string
	Text                  string
	Lists                 []string
	Brought, All          int
}

type bringRow struct {
	ID          int64
	Name, Bench string
	Brings      string
	Not         bool
	Tick, Spare tickRow
}

func (p *place) home(w http.ResponseWriter, r *http.Request) error {
	return p.homePage(w, r, nil)
}

func (p *place) homePage(w http.ResponseWriter, r *http.Request, failed error) error {
	ctx := r.Context()
	l, err := preparing.Own(ctx, frame.ID(r, "id"))
	if err != nil {
		return err
	}
	top, err := topOf(r, l, "Home")
	if err != nil {
		return err
	}
	list := preparing.HomeList(l.ID)
	ticks, err := preparing.TicksOf(ctx, list)
	if err != nil {
		return err
	}
	letter, err := preparing.LetterOf(ctx, l)
	if err != nil {
		return err
	}
	m := homePage{Top: top, ID: l.ID, Version: l.Home.Version, Text: letter.Text(), Lists: []string{list}}
	for c, course := range l.Menu {
		for n, in := range course.Dish.Ingredients {
			if stock, _ := l.Larder.Pantry.Find(in.Pantry); stock.Tap() || !in.Given() {
				continue
			}
			if slices.ContainsFunc(course.Dish.Ingredients[:n], func(o recipe.Ingredient) bool { return o.Name == in.Name }) {
				continue // it is named once, and means all of it
			}
			label := in.Name
			if len(l.Menu) > 1 {
				label += " (" + course.Dish.Title + ")"
			}
			m.Lines = append(m.Lines, frame.Option{Value: fmt.Sprintf("%d.%d", c, n), ID: fmt.Sprintf("line-%d-%d", c, n), Label: label,
				Chosen: slices.Contains(l.Home.Lines, lesson.HomeLine{Dish: course.Dish.Recipe.ID, Name: in.Name})})
		}
	}
	var brought, spare []tickRow
	all := l.Bringers()
	for _, b := range all {
		m.Rows = append(m.Rows, bringRow{ID: b.ID, Name: b.Name(), Bench: b.Bench, Brings: strings.Join(b.Brings, ", "), Not: b.Not})
		brought = append(brought, tickRow{Line: fmt.Sprintf("brought %d", b.ID), Name: b.Name() + " has brought it"})
		spare = append(spare, tickRow{Line: fmt.Sprintf("spare %d", b.ID), Name: b.Name() + " takes a spare"})
	}
	brought, spare = rowsOf(r, ticks, list, brought), rowsOf(r, ticks, list, spare)
	for i := range m.Rows {
		m.Rows[i].Tick, m.Rows[i].Spare = brought[i], spare[i]
		if m.Rows[i].Brings != "" {
			m.All++
			if brought[i].Done {
				m.Brought++
			}
		}
	}
	form := preparing.HomeForm{Container: l.Home.Container, Note: l.Home.Note}
	if l.Home.Asks > 0 {
		form.Asks = preparing.Pounds(l.Home.Asks)
	}
	if failed != nil {
		_ = frame.Decode(r, &form) // it has been read before
	}
	m.Container, m.Note, m.Asks = frame.Text("container", "The dish goes home in", form.Container, nil), frame.Text("note", "A word of your own for the letter", form.Note, nil), frame.Text("asks", "Asked of each, in pounds", form.Asks, nil)
	status, says := failure(failed)
	if failed != nil && says == "" {
		return failed
	}
	m.Problem = says
	return p.Render(w, r, status, templates, "home", frame.Page{Title: "From home, " + l.Says(), Place: "prepare", Data: m})
}

func (p *place) setHome(w http.ResponseWriter, r *http.Request) error {
	var f struct {
		Version               string
		Line                  []string
		Not                   []string
		Container, Note, Asks string
	}
	if err := frame.Decode(r, &f); err != nil {
		return err
	}
	id := frame.ID(r, "id")
	if err := preparing.SetHome(r.Context(), id, preparing.HomeForm{Version: f.Version, Lines: f.Line, Not: f.Not, Container: f.Container, Note: f.Note, Asks: f.Asks}); err != nil {
		return p.homePage(w, r, err)
	}
	return see(w, r, "/lessons/"+strconv.FormatInt(id, 10)+"/home")
}

type letterPage struct {
	ID int64
	preparing.Letter
	Slips bool
}

func (p *place) letter(w http.ResponseWriter, r *http.Request) error {
	l, err := preparing.Own(r.Context(), frame.ID(r, "id"))
	if err != nil {
		return err
	}
	letter, err := preparing.LetterOf(r.Context(), l)
	if err != nil {
		return err
	}
	return p.Render(w, r, http.StatusOK, templates, "letter", frame.Page{Title: "Letter, " + l.Says(), Data: letterPage{l.ID, letter, len(letter.ByLearner) > 0}})
}
