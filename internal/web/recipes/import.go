package recipes

import (
	"errors"
	"fmt"
	"html/template"
	"net/http"
	"strings"

	"freshapron/internal/app/recipes"
	"freshapron/internal/core/problem"
	"freshapron/internal/core/recipe"
	"freshapron/internal/web/frame"
)

type importModel struct {
	Text    string
	Problem string
}

func (p *place) importForm(w http.ResponseWriter, r *http.Request) error {
	return p.Render(w, r, http.StatusOK, templates, "import", frame.Page{Title: "Bring a recipe in", Place: "recipes", Data: importModel{}})
}

// bringIn reads what was pasted or sent. One recipe is opened for completing;
// many become drafts, with the progress shown while they do.
func (p *place) bringIn(w http.ResponseWriter, r *http.Request) error {
	text, data, err := frame.Uploaded(r)
	fail := func(says string) error {
		return p.Render(w, r, http.StatusUnprocessableEntity, templates, "import", frame.Page{Title: "Bring a recipe in", Place: "recipes", Data: importModel{Text: text, Problem: says}})
	}
	var tooLarge *http.MaxBytesError
	switch {
	case errors.As(err, &tooLarge):
		return fail(fmt.Sprintf("The file is over %d MB; no recipe is that long. Nothing was brought in. Send a smaller part of it, or paste the recipe as text.", recipes.MaxBytes>>20))
	case err != nil:
		return fail("The file could not be read. Send it again, or paste the recipe as text.")
	}
	list, err := recipes.ReadFile(r.Context(), data)
	if problems := problem.Of(err); problems != nil {
		return fail(says(problems))
	}
	if err != nil {
		return err
	}
	if len(list) == 1 {
		id, err := recipes.BeginEdit(r.Context(), 0, &list[0])
		return p.toEdit(w, r, id, err)
	}
	return p.many(w, r, list)
}

// says tells problems with their places, in sentences.
func says(problems problem.List) string {
	var out []string
	for _, pr := range problems {
		text := problem.Sentence(pr.Says)
		if pr.Path != "$" {
			text = pr.Path + ": " + pr.Says + "."
		}
		out = append(out, text)
	}
	return strings.Join(out, " ")
}

// many brings in a file of recipes. The page grows while they are written.
func (p *place) many(w http.ResponseWriter, r *http.Request, list []recipe.Recipe) error {
	return p.Grow(w, r, templates, "bringing", frame.Page{Title: "Bringing recipes in", Place: "recipes", Data: len(list)}, func(add func(html string)) {
		const every = 10
		var made []string
		err := recipes.Import(r.Context(), list, func(n int, id int64) {
			made = append(made, fmt.Sprintf(`<li><a href="%s">%s</a></li>`, href(id), template.HTMLEscapeString(list[n-1].Title)))
			if n%every == 0 || n == len(list) {
				add(fmt.Sprintf("<p class=\"progress\">%d of %d</p>", n, len(list)))
			}
		})
		if err != nil {
			add(fmt.Sprintf("<p class=\"problem\" role=\"alert\">Nothing was brought in: %s.</p>", template.HTMLEscapeString(err.Error())))
			return
		}
		add(fmt.Sprintf("<p class=\"lead\">All %d are on the shelf as drafts.</p><ol class=\"brought\">%s</ol>", len(made), strings.Join(made, "")))
	})
}
