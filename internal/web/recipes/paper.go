package recipes

import (
	"fmt"
	"net/http"
	"strconv"
	"strings"

	"freshapron/internal/app/recipes"
	"freshapron/internal/app/rooms"
	"freshapron/internal/core/measure"
	"freshapron/internal/core/recipe"
	"freshapron/internal/core/words"
	"freshapron/internal/web/frame"
)

type cardModel struct {
	ID                  int64
	Title, Why          string
	Makes               string
	Short               bool
	Parts               []partModel
	Equipment           []string
	Steps               []stepModel
	Words               []recipe.Word
	Contains            string
	Unknown             string
	ToRead              string
	Key                 bool
	Pieces              int
	Blanks              []string
	Questions           []recipe.Question
	FullHref, ShortHref string
	OpenHref, KeyHref   string
}

// cardOf makes what both papers share: the amounts as a bench measures them.
func cardOf(d recipes.Dish, r *http.Request) cardModel {
	pieces := 2 * max(1, d.Each)
	if n, err := strconv.Atoi(r.URL.Query().Get("pieces")); err == nil && n >= 1 && n <= maxPieces {
		pieces = n
	}
	m := cardModel{
		ID: d.ID, Title: d.Title, Why: d.Why, Makes: d.Count(pieces), Equipment: d.Equipment, Words: d.Words, Pieces: pieces,
		Questions: d.Questions, Steps: stepsOf(d.Recipe),
	}
	instruments := measure.Usual(d.System())
	if all, err := rooms.All(r.Context()); err == nil && len(all) > 0 {
		instruments = all[0].Instruments
	}
	amounts := d.Kitchen(instruments).Amounts(d.Recipe, pieces)
	for _, name := range d.Parts() {
		part := partModel{Name: name}
		for _, s := range amounts {
			if s.Line.Part != name {
				continue
			}
			l := lineModel{Note: s.Line.Note, Says: s.Says}
			l.Amount, l.Name = s.Told()
			part.Lines = append(part.Lines, l)
		}
		m.Parts = append(m.Parts, part)
	}
	known, unknown := d.Allergens(d.Pantry)
	m.Contains, m.Unknown = strings.Join(d.Declared().Declare(known), ", "), strings.Join(unknown, ", ")
	m.ToRead = recipe.LabelsSay(d.ToRead(d.Pantry))
	return m
}

// card is the recipe for a bench: in full, or in short sentences with icons
// and large type.
func (p *place) card(w http.ResponseWriter, r *http.Request) error {
	d, err := dish(r)
	if err != nil {
		return err
	}
	m := cardOf(d, r)
	m.Short = r.URL.Query().Get("form") == "short"
	base := fmt.Sprintf("%s/card?pieces=%d&form=", href(d.ID), m.Pieces)
	m.FullHref, m.ShortHref = base+"full", base+"short"
	if m.Short {
		for i := range m.Steps {
			m.Steps[i].Sentences = words.Sentences(m.Steps[i].Text)
		}
	}
	return p.Render(w, r, http.StatusOK, templates, "card", frame.Page{Title: d.Title, Data: m})
}

// preparation is the sheet that a learner fills in before the lesson, with a
// key for the teacher.
func (p *place) preparation(w http.ResponseWriter, r *http.Request) error {
	d, err := dish(r)
	if err != nil {
		return err
	}
	m := cardOf(d, r)
	m.Key = r.URL.Query().Get("key") != ""
	base := fmt.Sprintf("%s/preparation?pieces=%d", href(d.ID), m.Pieces)
	m.OpenHref, m.KeyHref = base, base+"&key=1"
	return p.Render(w, r, http.StatusOK, templates, "preparation", frame.Page{Title: d.Title, Data: m})
}
