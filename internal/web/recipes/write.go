package recipes

import (
	"encoding/json"
	"errors"
	"fmt"
	"hash/fnv"
	"net/http"
	"net/url"
	"slices"
	"strconv"
	"strings"

	"github.com/go-chi/chi/v5"
	"github.com/google/uuid"

	"freshapron/internal/app/recipes"
	"freshapron/internal/app/school"
	"freshapron/internal/core/fit"
	"freshapron/internal/core/measure"
	"freshapron/internal/core/problem"
	"freshapron/internal/core/recipe"
	"freshapron/internal/web/frame"
)

type editModel struct {
	ID       string
	Dish     int64
	Heading  string
	Fields   map[string]frame.Field
	Steps    []stepFields
	Reading  readingModel
	Others   []editLine
	Newer    bool
	Diffs    []recipes.Difference
	Failed   bool
	Problem  string
	IsDraft  bool
	Leftover string
	Revision string
	Units    frame.Field
	Doubtful int // steps whose minutes are only typical
}

type stepFields struct {
	Number                                            int // as people count
	N                                                 int
	ID                                                string
	Title, Timing, Text, Look, Mistake, Hazard, Takes frame.Field
	First, Last                                       bool

	Was                                string
	Kind, Work, Wait, On, Heat, Who    frame.Field
	Pieces, PerLoad, Per               frame.Field
	Loads                              []frame.Field  // these three
	Before                             []frame.Option // the other steps, those that come before chosen
	BeforeSays                         string
	GuessedWork, GuessedWait, Doubtful bool
}

// A readingModel shows how the form was understood.
type readingModel struct {
	Seen     string // the state of the form that it is of
	Edit     string
	Lines    []takingModel
	Steps    []stepModel
	Findings []findingModel
	Facts    string
	Flow     *flow
	Problems []string
	Saved    string
	Behind   bool // another window has gone on with this writing
}

type takingModel struct {
	N                  int
	Line               string
	Amount, Name, Note string
	Is                 string // name in the pantry
	Law                string
	Sure               bool
	Says               []string
	Part               string
	Candidates         []frame.Option
	Laws               []frame.Option
	NewItem            string
}

// writing loads the edit of the address.
func writing(r *http.Request) (recipes.Writing, error) {
	id := chi.URLParam(r, "edit")
	if uuid.Validate(id) != nil {
		return recipes.Writing{}, school.ErrNotFound
	}
	return recipes.Open(r.Context(), id)
}

func (p *place) edit(w http.ResponseWriter, r *http.Request) error {
	wr, err := writing(r)
	if err != nil {
		return err
	}
	return p.editor(w, r, http.StatusOK, wr, nil)
}

func (p *place) editor(w http.ResponseWriter, r *http.Request, status int, wr recipes.Writing, problems problem.List) error {
	title := wr.Recipe.Title
	if title == "" {
		title = "A new dish"
	}
	return p.Render(w, r, status, templates, "edit", frame.Page{Title: "Write: " + title, Place: "recipes", Data: editOf(school.In(r.Context()), wr, problems)})
}

func editOf(here *school.School, wr recipes.Writing, problems problem.List) editModel {
	f := wr.Form
	m := editModel{
		ID: wr.Edit.ID, Dish: wr.Dish, Heading: wr.Recipe.Title, Reading: readingOf(here, wr), Newer: wr.Newer != nil,
		Failed: problems != nil, IsDraft: wr.Status != recipes.Ready, Leftover: f.Leftover, Revision: f.Revision, Fields: map[string]frame.Field{},
	}
	if m.Heading == "" {
		m.Heading = "A new dish"
	}
	field := func(name, label, value string) {
		m.Fields[name] = frame.Text(name, label, value, problems)
	}
	field("title", "Name of the dish", f.Title)
	field("why", "Why it is cooked: the skill it teaches", f.Why)
	field("yield", "Makes", f.Yield)
	field("pieces", "of what", f.Pieces)
	field("piece", "and one of them is a", f.Piece)
	field("each", "Each learner makes", f.Each)
	field("minutes", "Minutes it says it takes", f.Minutes)
	field("level", "Level, if it is for one", f.Level)
	field("tin", "Tin or dish, with its size", f.Tin)
	field("contains", "Declared allergens", f.Contains)
	field("skills", "Skills shown", f.Skills)
	field("source", "Where it comes from", f.Source)
	field("ingredients", "Ingredients, one to a line; a line that ends in “:” begins a part", f.Ingredients)
	field("equipment", "Equipment for a bench, one to a line", f.Equipment)
	field("checks", "Checks on the way, one to a line", f.Checks)
	field("words", "Words, each as “word: meaning”", f.Words)
	field("questions", "Questions, each as “question → answer”; begin with “Spot the mistake:” where there is one", f.Questions)
	field("swaps", "Swaps, each as “milk → 125 ml oat drink (vegan): what changes”", f.Swaps)
	field("choices", "Choices, a line “Choose 2: extras” and below it “Apple: 1 eating apple”", f.Choices)
	field("leftover", "Brought in and not understood, or only supposed; put it where it belongs, or delete it", f.Leftover)
	m.Units = frame.Choice("units", "Cups, spoons and pints are", f.Units, problems, unitOptions(wr))
	for n, s := range wr.Rows {
		at := func(name, label, value string) frame.Field {
			return frame.Field{
				Name: fmt.Sprintf("steps[%d].%s", n, name), ID: fmt.Sprintf("step-%d-%s", n, name), Label: label, Value: value,
				Problem: problems.At(fmt.Sprintf("steps[%d].%s", n, name)),
			}
		}
		m.Steps = append(m.Steps, stepFields{
			Number: n + 1, N: n, ID: s.ID, First: n == 0, Last: n == len(wr.Rows)-1,
			Title: at("title", "Title", s.Title), Timing: at("timing", "Time and things", s.Timing), Text: at("text", "What to do", s.Text),
			Look: at("look", "Look for", s.LookFor), Mistake: at("mistake", "If it goes wrong", s.Mistake), Hazard: at("hazard", "Careful", s.Hazard),
			Takes: at("takes", "Takes, where the text does not say", s.Takes),
		})
		ordinary(&m.Steps[n], s, wr.Rows, at)
		if m.Steps[n].Doubtful {
			m.Doubtful++
		}
	}
	var rest []string
	for _, pr := range problems {
		if !recipes.AtItsField(pr.Path) && m.Fields[pr.Path].Name == "" {
			rest = append(rest, problem.Sentence(pr.Says))
		}
	}
	m.Problem = strings.Join(rest, " ")
	for _, e := range wr.Others {
		m.Others = append(m.Others, editLine{Href: "/recipes/edits/" + e.ID, When: here.Ago(e.Updated)})
	}
	if wr.Newer != nil {
		m.Diffs = recipes.Differences(recipes.FormOf(wr.Newer.Recipe, wr.Larder), f)
	}
	return m
}

// unitOptions are the systems of cups and spoons that a recipe can be in.
func unitOptions(wr recipes.Writing) []frame.Option {
	says := map[string]string{"metric": "metric", "us": "those of the US", "au": "Australian", "imperial": "imperial"}
	out := []frame.Option{{Value: "", Label: "as in the school: " + says[wr.System().Name]}}
	for _, s := range measure.Systems {
		if s.Name != wr.System().Name {
			out = append(out, frame.Option{Value: s.Name, Label: says[s.Name]})
		}
	}
	return out
}

// kindSays are the kinds of step in the words of a kitchen.
var kindSays = map[fit.Kind]string{
	fit.Weigh: "weigh", fit.Prepare: "get ready", fit.Cut: "cut", fit.Mix: "mix", fit.Shape: "shape", fit.Cook: "cook", fit.Bake: "bake",
	fit.Chill: "chill", fit.Rest: "leave", fit.Cool: "cool", fit.Serve: "serve", fit.Clean: "clear up",
}

// ordinary gives a step the fields for its times and things.
func ordinary(m *stepFields, s recipes.StepForm, all []recipes.StepForm, at func(name, label, value string) frame.Field) {
	choose := func(name, label, chosen string, options []frame.Option) frame.Field {
		f := at(name, label, chosen)
		for i := range options {
			options[i].Chosen = options[i].Value == chosen
		}
		f.Options = options
		return f
	}
	var kinds []frame.Option
	for _, k := range fit.Kinds {
		kinds = append(kinds, frame.Option{Value: string(k), Label: kindSays[k]})
	}
	things := []frame.Option{{Value: "", Label: "nothing"}}
	for _, t := range recipes.Things {
		things = append(things, frame.Option{Value: t, Label: t})
	}
	switch {
	case s.On == recipes.Unsettled:
		things = append(things, frame.Option{Value: recipes.Unsettled, Label: "as it says in short"})
	case s.On != "" && !slices.Contains(recipes.Things, s.On):
		things = append(things, frame.Option{Value: s.On, Label: s.On})
	}
	m.Was = s.Was
	m.Kind, m.On = choose("kind", "What it is", s.Kind, kinds), choose("on", "On or in", s.On, things)
	m.Who = choose("who", "Who", s.Who, []frame.Option{
		{Value: string(fit.NoAdult), Label: "a cook"}, {Value: string(fit.Watches), Label: "a cook, an adult watches"}, {Value: string(fit.Does), Label: "an adult"},
	})
	m.Work, m.Wait, m.Heat = at("work", "Minutes of work", s.Work), at("wait", "Minutes of waiting", s.Wait), at("heat", "°C", s.Heat)
	m.Pieces, m.PerLoad, m.Per = at("pieces", "Pieces in loads", s.Pieces), at("perload", "so many at a time", s.PerLoad), at("per", "minutes for each load", s.Per)
	m.Loads = []frame.Field{m.Pieces, m.PerLoad, m.Per}
	m.GuessedWork, m.GuessedWait = s.Doubts()
	m.Doubtful = s.Doubtful() || m.Heat.Problem != ""
	var before []string
	for _, o := range all {
		if o.ID == "" || o.ID == s.ID {
			continue
		}
		chosen := slices.Contains(strings.Fields(s.After), o.ID)
		if chosen {
			before = append(before, o.Title)
		}
		m.Before = append(m.Before, frame.Option{Value: o.ID, Label: o.Title, Chosen: chosen, ID: fmt.Sprintf("step-%d-after-%s", m.N, o.ID)})
	}
	m.BeforeSays = strings.Join(before, "; ")
}

func readingOf(here *school.School, wr recipes.Writing) readingModel {
	m := readingModel{Seen: sum(wr.Form), Edit: wr.Edit.ID, Flow: flowOf(wr.Recipe), Steps: stepsOf(wr.Recipe), Saved: "Kept " + here.Ago(wr.Updated)}
	part := ""
	for n, t := range wr.Takes {
		tm := takingOf(n, t, wr.Larder)
		if t.Ingredient.Part != part {
			part = t.Ingredient.Part
			tm.Part = part
		}
		m.Lines = append(m.Lines, tm)
	}
	for n, f := range recipe.Open(wr.Findings) {
		m.Findings = append(m.Findings, findingModel{Key: f.Key, ID: fmt.Sprintf("finding-%d", n), Where: place1(wr.Recipe, f.Where), Says: f.Says, Mend: f.Mend})
	}
	for _, pr := range wr.Problems {
		m.Problems = append(m.Problems, problem.Sentence(pr.Says))
	}
	if inAll, ok := wr.Recipe.InAll(2); ok {
		m.Facts = fmt.Sprintf("%s min in all for a pair that makes %s.", minutes(inAll), wr.Recipe.Count(max(1, wr.Recipe.Yield)))
	}
	return m
}

// sum tells one state of a form from another.
func sum(f recipes.RecipeForm) string {
	f.Typed = ""               // when it was, not what
	says, _ := json.Marshal(f) // of texts and numbers, which can't fail
	h := fnv.New64a()
	_, _ = h.Write(says)
	return strconv.FormatUint(h.Sum64(), 36)
}

func takingOf(n int, t recipe.Taking, l school.Larder) takingModel {
	i := t.Ingredient
	m := takingModel{N: n, Line: t.Reading.Line, Name: i.Name, Note: i.Note, Law: lawSays[i.Law], Sure: !t.Unsure(), Says: append(slices.Clone(t.Reading.Problems), t.Reading.Doubts...)}
	if i.Given() {
		m.Amount = i.Quantity.String()
	}
	stock, ok := l.Pantry.Find(i.Pantry)
	if ok {
		m.Is = stock.Name
		if stock.Unknown {
			m.Says = append(m.Says, "its allergens have not been looked up")
		}
	} else if i.Name != "" {
		m.Says = append(m.Says, "not in the pantry")
		m.NewItem = "/pantry/new?" + url.Values{"name": {i.Name}}.Encode()
		m.Candidates = append(m.Candidates, frame.Option{Value: "", Label: "what is it?", Chosen: true})
		maybe := t.Match.Maybe()
		for _, c := range maybe {
			m.Candidates = append(m.Candidates, frame.Option{Value: c.ID, Label: c.Name})
		}
		if len(maybe) == 0 {
			m.Candidates = nil
		}
	}
	for _, law := range recipe.Laws {
		o := frame.Option{Value: string(law), Label: lawSays[law], Chosen: law == i.Law}
		if o.Chosen {
			o.Value = "" // as it is taken already: nothing to correct
		}
		m.Laws = append(m.Laws, o)
	}
	return m
}

// posting loads the edit of the address and reads the form that is posted.
func posting(r *http.Request) (recipes.Writing, recipes.RecipeForm, error) {
	wr, err := writing(r)
	if err != nil {
		return wr, recipes.RecipeForm{}, err
	}
	var in recipes.RecipeForm
	if err := frame.Decode(r, &in); err != nil {
		return wr, in, err
	}
	// The order of the rows is that of their numbers; a script may leave gaps.
	for n := range in.Steps {
		in.Steps[n].After = strings.Join(r.PostForm[fmt.Sprintf("steps[%d].after", n)], " ")
	}
	var rows []recipes.StepForm
	for n, row := range in.Steps {
		if r.PostForm.Has(fmt.Sprintf("steps[%d].title", n)) {
			rows = append(rows, row)
		}
	}
	in.Steps = rows
	return wr, changed(in.Unix(), r.PostForm), nil
}

// changed carries out what a button of the form asks: a step moved, added or
// taken out, a line taken as something else.
func changed(f recipes.RecipeForm, v url.Values) recipes.RecipeForm {
	whole := func(name string) (int, bool) {
		n, err := strconv.Atoi(v.Get(name))
		return n, err == nil
	}
	if n, ok := whole("up"); ok && n > 0 && n < len(f.Steps) {
		f.Steps[n-1], f.Steps[n] = f.Steps[n], f.Steps[n-1]
	}
	if n, ok := whole("down"); ok && n >= 0 && n < len(f.Steps)-1 {
		f.Steps[n+1], f.Steps[n] = f.Steps[n], f.Steps[n+1]
	}
	if n, ok := whole("remove"); ok && n >= 0 && n < len(f.Steps) {
		f.Steps = slices.Delete(f.Steps, n, n+1)
	}
	if v.Get("add") != "" {
		step := recipes.StepForm{}
		if last := len(f.Steps); last > 0 && f.Steps[last-1].ID != "" {
			step.Timing = "prepare, 3 min, after " + f.Steps[last-1].ID
		}
		f.Steps = append(f.Steps, step)
	}
	if n, ok := whole("correct"); ok {
		if is := v.Get(fmt.Sprintf("is[%d]", n)); is != "" {
			f.Ingredients = recipes.Correct(f.Ingredients, n, "is "+is)
		}
		if law := v.Get(fmt.Sprintf("law[%d]", n)); law != "" {
			f.Ingredients = recipes.Correct(f.Ingredients, n, law)
		}
	}
	return f
}

// reading keeps the form while it is typed and answers with how it is
// understood. Where the page shows that already, it answers with nothing: leaving a
// field would otherwise replace the button that is just being pressed.
func (p *place) reading(w http.ResponseWriter, r *http.Request) error {
	wr, form, err := posting(r)
	if err != nil {
		return err
	}
	newest, err := recipes.KeepTyping(r.Context(), wr.Edit, form)
	if err == nil {
		wr, err = recipes.Understand(r.Context(), wr, form)
	}
	if err != nil {
		return err
	}
	if newest && r.PostForm.Get("seen") == sum(wr.Form) {
		w.WriteHeader(http.StatusNoContent)
		return nil
	}
	m := readingOf(school.In(r.Context()), wr)
	m.Saved = "Kept just now"
	if !newest {
		m.Saved, m.Behind = "", true
	}
	return p.Render(w, r, http.StatusOK, templates, "reading", frame.Page{Title: wr.Recipe.Title, Place: "recipes", Data: m})
}

// save carries out the button that was pressed.
func (p *place) save(w http.ResponseWriter, r *http.Request) error {
	wr, form, err := posting(r)
	if err != nil {
		return err
	}
	kept, err := recipes.Keep(r.Context(), wr.Edit, form)
	if err == nil {
		wr, err = recipes.Open(r.Context(), kept)
	}
	if err != nil {
		return err
	}
	status := recipes.Status(r.PostForm.Get("save"))
	over := r.PostForm.Get("over") != ""
	switch {
	case r.PostForm.Get("drop") != "":
		if err := recipes.Drop(r.Context(), wr.Edit.ID); err != nil {
			return err
		}
		if wr.Dish != 0 {
			return frame.See(w, r, href(wr.Dish))
		}
		return frame.See(w, r, "/recipes")
	case r.PostForm.Get("theirs") != "" && wr.Newer != nil:
		wr.Base = wr.Newer.Version
		theirs := recipes.FormOf(wr.Newer.Recipe, wr.Larder)
		theirs.Revision = wr.Form.Revision
		id, err := recipes.Keep(r.Context(), wr.Edit, theirs)
		return p.toEdit(w, r, id, err)
	case over:
		status = wr.Status
	case status != recipes.Ready && status != recipes.Draft:
		return p.toEdit(w, r, wr.Edit.ID, nil)
	}
	dish, err := recipes.Publish(r.Context(), wr.Edit.ID, status, over)
	switch problems := problem.Of(err); {
	case problems != nil:
		return p.editor(w, r, http.StatusUnprocessableEntity, wr, problems)
	case errors.Is(err, school.ErrChanged):
		return p.editor(w, r, http.StatusConflict, wr, nil)
	case err != nil:
		return err
	}
	return frame.See(w, r, href(dish))
}
