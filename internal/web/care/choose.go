package care

import (
	"fmt"
	"net/http"
	"slices"
	"strconv"

	"freshapron/internal/app/lessons"
	"freshapron/internal/core/class"
	"freshapron/internal/core/lesson"
	"freshapron/internal/core/recipe"
	"freshapron/internal/core/words"
	"freshapron/internal/web/frame"
)

// A choosing is a dish with choices, and what each learner has chosen of it.
type choosing struct {
	Dish  int64
	Title string
	Says  string // what is to be chosen: "choose 2 of the extras"
	Open  int    // who has still to choose
	Rows  []chooser
}

type chooser struct {
	ID      int64
	Name    string
	Open    bool
	Options []pickBox
}

type pickBox struct {
	ID, Value, Label, Choice string
	Chosen                   bool
}

// choicesOf lists the dishes of the menu that have choices.
func choicesOf(v *lessons.View) []choosing {
	var out []choosing
	for at, c := range v.Menu {
		if len(c.Dish.Choices) == 0 || len(v.Class.Roster) == 0 {
			continue
		}
		ch := choosing{Dish: c.Dish.ID, Title: c.Dish.Title}
		for i, choice := range c.Dish.Choices {
			if i > 0 {
				ch.Says += ", "
			}
			ch.Says += fmt.Sprintf("%s: choose %d", words.Capital(choice.Name), choice.Take)
		}
		open := v.Core.Undecided(at)
		ch.Open = len(open)
		for _, b := range v.Benches {
			if !slices.ContainsFunc(b.Makes, func(m lesson.Made) bool { return m.Course == at }) {
				continue
			}
			for _, m := range b.Members {
				if !c.By.Includes(b, m.ID) {
					continue
				}
				row := chooser{ID: m.ID, Name: m.Name(), Open: slices.ContainsFunc(open, func(o class.Learner) bool { return o.ID == m.ID })}
				for i, choice := range c.Dish.Choices {
					for k, o := range choice.Options {
						row.Options = append(row.Options, pickBox{
							ID: fmt.Sprintf("pick-%d-%d-%d-%d", c.Dish.ID, m.ID, i, k), Value: fmt.Sprintf("%d.%d.%d", m.ID, i, k), Label: o.Name, Choice: choice.Name,
							Chosen: slices.Contains(c.Picks, lesson.Picked{Learner: m.ID, Choice: choice.Name, Option: o.Name}),
						})
					}
				}
				ch.Rows = append(ch.Rows, row)
			}
		}
		out = append(out, ch)
	}
	return out
}

// setPicks saves what learners have chosen. Everybody who stands in the form is
// named; what is ticked is "learner.choice.option".
func (p *place) setPicks(w http.ResponseWriter, r *http.Request) error {
	if err := frame.ParseForm(r); err != nil {
		return err
	}
	dish, _ := strconv.ParseInt(r.PostFormValue("dish"), 10, 64)
	picks := map[int64][]recipe.Pick{}
	for _, value := range r.PostForm["learner"] {
		if id, err := strconv.ParseInt(value, 10, 64); err == nil {
			picks[id] = nil
		}
	}
	for _, value := range r.PostForm["pick"] {
		var learner int64
		var pick recipe.Pick
		if _, err := fmt.Sscanf(value, "%d.%d.%d", &learner, &pick.Choice, &pick.Option); err == nil {
			picks[learner] = append(picks[learner], pick)
		}
	}
	return p.answer(w, r, lessons.SetPicks(r.Context(), frame.ID(r, "id"), r.PostFormValue("version"), dish, picks), "who#choices", p.whoPage)
}
