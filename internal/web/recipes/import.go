package recipes

import (
	"errors"
	"fmt"
	"html/template"
	"net/http"
	"strings"

	"freshapron/internal/core/problem"
	"freshapron/internal/core/recipe"
	"freshapron/internal/formats/recipefile"
	"freshapron/internal/web/frame"
)

type importModel struct {
	Text    string
	Problem string
}

func (p *place) importForm(w http.ResponseWriter, r *http.Request) {
	p.Render(w, r, http.StatusOK, templates, "import", frame.Page{Title: "Bring a recipe in", Place: "recipes", Data: importModel{}})
}

// bringIn reads what was pasted or sent. One recipe is opened for completing;
// many become drafts, with the progress shown while they do.
func (p *place) bringIn(w http.ResponseWriter, r *http.Request) {
	text, data, err := frame.Upload(r)
	fail := func(says string) {
		p.Render(w, r, http.StatusUnprocessableEntity, templates, "import", frame.Page{Title: "Bring a recipe in", Place: "recipes", Data: importModel{Text: text, Problem: says}})
	}
	var tooLarge *http.MaxBytesError
	switch {
	case errors.As(err, &tooLarge):
		fail(fmt.Sprintf("The file is over %d MB; no recipe is that long. Nothing was brought in. Send a smaller part of it, or paste the recipe as text.", recipefile.MaxBytes>>20))
		return
	case err != nil:
		fail("The file could not be read. Send it again, or paste the recipe as text.")
		return
	}
	larder, err := p.Larder(r.Context())
	if err != nil {
		p.Error(w, r, err)
		return
	}
	read, err := recipefile.Parse(data, larder.System(), larder.Pantry)
	var problems problem.List
	switch {
	case errors.As(err, &problems):
		fail(says(problems))
		return
	case err != nil:
		p.Error(w, r, err)
		return
	}
	if len(read.Recipes) == 1 {
		found := read.Recipes[0]
		id, err := p.BeginEdit(r.Context(), 0, &found.Recipe)
		p.toEdit(w, r, id, err)
		return
	}
	var list []recipe.Recipe
	for _, f := range read.Recipes {
		list = append(list, f.Recipe)
	}
	p.many(w, r, list)
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
func (p *place) many(w http.ResponseWriter, r *http.Request, list []recipe.Recipe) {
	w.Header().Set("Content-Type", "text/html; charset=utf-8")
	w.Header().Set("Cache-Control", "no-store")
	w.Header().Set("X-Accel-Buffering", "no")
	page := p.Model(r, frame.Page{Title: "Bringing recipes in", Place: "recipes", Data: len(list)})
	if err := templates.ExecuteTemplate(w, "bringing-open", page); err != nil {
		return
	}
	flush := func() { _ = http.NewResponseController(w).Flush() }
	flush()
	const every = 10
	var made []string
	err := p.Import(r.Context(), list, func(n int, id int64) {
		made = append(made, fmt.Sprintf(`<li><a href="%s">%s</a></li>`, href(id), template.HTMLEscapeString(list[n-1].Title)))
		if n%every == 0 || n == len(list) {
			fmt.Fprintf(w, "<p class=\"progress\">%d of %d</p>\n", n, len(list))
			flush()
		}
	})
	if err != nil {
		fmt.Fprintf(w, "<p class=\"problem\" role=\"alert\">Nothing was brought in: %s.</p>", template.HTMLEscapeString(err.Error()))
	} else {
		fmt.Fprintf(w, "<p class=\"lead\">All %d are on the shelf as drafts.</p><ol class=\"brought\">%s</ol>", len(made), strings.Join(made, ""))
	}
	_ = templates.ExecuteTemplate(w, "bringing-close", page)
}
