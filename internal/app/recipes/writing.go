package recipes

import (
	"context"
	"errors"
	"fmt"
	"slices"
	"strconv"
	"strings"

	"github.com/google/uuid"

	"freshapron/internal/app/school"
	"freshapron/internal/core/measure"
	"freshapron/internal/core/pantry"
	"freshapron/internal/core/problem"
	"freshapron/internal/core/reading"
	"freshapron/internal/core/recipe"
	"freshapron/internal/core/typed"
	"freshapron/internal/core/words"
	"freshapron/internal/formats/recipetext"
	"freshapron/internal/store"
)

// A RecipeForm is a recipe in the words that somebody types.
type RecipeForm struct {
	Title, Why, Level           string
	Yield, Pieces, Piece, Each  string
	Minutes, Tin, Source        string
	Units                       string // name of a measure.System; empty is the school's
	Ingredients                 string
	Choices                     string
	Equipment, Contains, Skills string
	Checks, Words, Questions    string
	Swaps                       string
	Leftover                    string
	// Revision goes up with every button that is pressed; Typed is when, by the
	// clock of the browser, what is kept on the way was typed. Together they keep
	// an older state of the form from arriving late and replacing a newer one.
	Revision, Typed string
	Steps           []StepForm
}

// Unix returns the form with the line ends that the program knows, whatever
// the browser sends.
func (f RecipeForm) Unix() RecipeForm {
	plain := func(fields map[string]*string) {
		for _, text := range fields {
			*text = strings.ReplaceAll(*text, "\r\n", "\n")
		}
	}
	plain(f.texts())
	f.Steps = slices.Clone(f.Steps)
	for n := range f.Steps {
		plain(f.Steps[n].texts())
	}
	return f
}

// FormOf returns a recipe in the words of the form.
func FormOf(r recipe.Recipe, l school.Larder) RecipeForm {
	number := func(n int) string {
		if n == 0 {
			return ""
		}
		return strconv.Itoa(n)
	}
	f := RecipeForm{
		Title: r.Title, Why: r.Why, Level: r.Level, Yield: number(r.Yield), Pieces: r.Pieces, Piece: r.Piece, Each: number(r.Each),
		Minutes: number(r.Minutes), Source: r.Source, Units: r.Units,
		Ingredients: recipetext.IngredientsText(r.Ingredients, l.Pantry),
		Equipment:   strings.Join(r.Equipment, "\n"), Contains: strings.Join(r.Contains, ", "), Skills: strings.Join(r.Skills, ", "),
		Checks: strings.Join(r.Checks, "\n"), Leftover: strings.Join(r.Leftover, "\n"),
		Words: recipetext.ListText(r, "words", l.Pantry), Questions: recipetext.ListText(r, "questions", l.Pantry),
		Swaps: recipetext.ListText(r, "swaps", l.Pantry), Choices: recipetext.ListText(r, "choices", l.Pantry),
	}
	if r.Tin != nil {
		f.Tin = recipetext.TinLine(*r.Tin)
	}
	for _, s := range r.Steps {
		f.Steps = append(f.Steps, stepForm(s))
	}
	return f
}

// A Written is a form as it was understood.
type Written struct {
	Recipe   recipe.Recipe
	Takes    []recipe.Taking
	Problems problem.List // by the name of the field
	Findings []recipe.Finding
	Rows     []StepForm // of the steps, what is said in short and in fields the same
}

// limits of what a form may hold; far above any real recipe.
const (
	maxSteps = 300
	maxText  = 4000
	maxLines = 200
)

// Read understands a form. What it can't is in Problems; the rest is in the
// recipe all the same.
func (f RecipeForm) Read(l school.Larder) Written {
	var in typed.Form
	w := Written{}
	r := &w.Recipe
	sys := l.System()
	if chosen, ok := measure.SystemOf(f.Units); ok {
		sys, r.Units = chosen, chosen.Name
	}
	r.Title, r.Why, r.Level, r.Source = clean(f.Title), clean(f.Why), clean(f.Level), clean(f.Source)
	switch {
	case r.Title == "":
		in.Add("title", "Give the dish a name.")
	case len([]rune(r.Title)) > 200:
		in.Add("title", "The name has %d letters; 200 are the most.", len([]rune(r.Title)))
	}
	r.Yield = in.Count("yield", "It makes", f.Yield, 1000)
	r.Each = in.Count("each", "Each learner makes", f.Each, 100)
	r.Piece, r.Pieces = clean(f.Piece), clean(f.Pieces)
	if r.Pieces == "" {
		r.Pieces = "portions"
	}
	if r.Piece == "" {
		r.Piece = strings.TrimSuffix(r.Pieces, "s")
	}
	if strings.TrimSpace(f.Minutes) != "" {
		r.Minutes = in.Count("minutes", "Minutes in all", f.Minutes, recipe.MaxMinutes)
	}
	if tin := clean(f.Tin); tin != "" {
		t, ok := recipetext.ParseTin(tin)
		if r.Tin = t; !ok {
			in.Add("tin", "“%s” is no tin with a size; write for instance “sandwich tin, 18 cm across” or “oven dish, 18 × 13 cm”.", words.Short(tin))
		}
	}
	if n := strings.Count(f.Ingredients, "\n"); n > maxLines {
		in.Add("ingredients", "There are %d lines; %d are the most.", n, maxLines)
	} else {
		w.Takes = recipetext.Ingredients(f.Ingredients, sys, l.Pantry)
	}
	for _, t := range w.Takes {
		r.Ingredients = append(r.Ingredients, t.Ingredient)
		for _, p := range t.Reading.Problems {
			in.Add("ingredients", "“%s”: %s.", words.Short(t.Reading.Line), p)
		}
	}
	r.Equipment, r.Checks, r.Leftover = lines(f.Equipment), lines(f.Checks), lines(f.Leftover)
	r.Contains, r.Skills = parts(f.Contains), parts(f.Skills)
	lists := map[string]string{"words": f.Words, "questions": f.Questions, "swaps": f.Swaps, "choices": f.Choices}
	r.Leftover = append(r.Leftover, recipetext.Lists(r, lists, sys, l.Pantry)...)
	w.Rows = slices.Clone(f.Steps)
	readSteps(&in, w.Rows, r, l.Pantry)
	w.Problems = append(in.Problems, placed(r.Problems())...)
	w.Findings = recipe.Check(*r, l.Pantry)
	return w
}

// placed keeps of a recipe's problems those that the form has not named
// already in its own words.
func placed(err error) problem.List {
	var problems problem.List
	if !errors.As(err, &problems) {
		return nil
	}
	return slices.DeleteFunc(problems, func(p problem.Problem) bool { return p.Path == "title" || p.Path == "yield" || p.Path == "each" })
}

// readSteps reads the rows of the steps; empty ones are left out.
func readSteps(f *typed.Form, rows []StepForm, r *recipe.Recipe, p *pantry.Pantry) {
	if len(rows) > maxSteps {
		f.Add("steps", "There are %d steps; %d are the most.", len(rows), maxSteps)
		return
	}
	taken := map[string]bool{}
	for n, row := range rows {
		if strings.TrimSpace(row.Title+row.Text+row.Timing) == "" {
			continue
		}
		s := recipe.Step{Text: clean(row.Text), LookFor: clean(row.LookFor), Mistake: clean(row.Mistake), Hazard: clean(row.Hazard), Takes: parts(row.Takes)}
		field := fmt.Sprintf("steps[%d]", n)
		rows[n].settle(f, field)
		row.Timing = rows[n].Timing
		if len([]rune(row.Text)) > maxText {
			f.Add(field+".text", "The text has %d letters; %d are the most.", len([]rune(row.Text)), maxText)
		}
		for _, fault := range recipe.ParseTiming(row.Timing, &s) {
			f.Add(field+".timing", "%s.", words.Capital(fault.Says))
		}
		if s.Title = clean(row.Title); s.Title == "" {
			s.Title = recipe.ShortTitle(s.Text)
		}
		if strings.TrimSpace(row.Timing) == "" { // supposed from the text until somebody says
			after := s.After
			reading.Guess(&s, p)
			s.After = after
		}
		s.ID = clean(row.ID)
		if s.ID == "" || taken[s.ID] || strings.ContainsAny(s.ID, " (){}") {
			s.ID = recipe.Slug(s.Title, func(id string) bool { return taken[id] })
		}
		taken[s.ID] = true
		r.Steps = append(r.Steps, s)
	}
}

// clean folds white space and drops control characters.
func clean(s string) string {
	return strings.Join(strings.Fields(strings.Map(func(r rune) rune {
		if r < ' ' && r != '\n' && r != '\t' {
			return -1
		}
		return r
	}, s)), " ")
}

func lines(s string) []string {
	var out []string
	for line := range strings.Lines(s) {
		if line = clean(strings.TrimLeft(line, "-*• ")); line != "" {
			out = append(out, line)
		}
	}
	return out
}

func parts(s string) []string {
	var out []string
	for _, p := range strings.Split(s, ",") {
		if p = clean(p); p != "" {
			out = append(out, p)
		}
	}
	return out
}

// BeginEdit begins to write: a new dish, an existing one, or a recipe that was
// brought in. It returns the id of the edit.
func BeginEdit(ctx context.Context, dish int64, brought *recipe.Recipe) (string, error) {
	a := school.In(ctx)
	l, err := a.Larder(ctx)
	if err != nil {
		return "", err
	}
	e := store.Edit{ID: uuid.NewString(), Dish: dish}
	f := RecipeForm{Yield: "4", Pieces: "portions", Piece: "portion", Each: "2", Steps: []StepForm{{}}}
	switch {
	case brought != nil:
		f = FormOf(*brought, l)
	case dish != 0:
		d, err := a.Dish(ctx, dish)
		if err != nil {
			return "", err
		}
		f, e.Base = FormOf(d.Recipe, l), d.Version
	}
	e.Title, e.Form = f.Title, f.Values()
	return e.ID, a.SaveEdit(ctx, e)
}

// A Writing is an edit with what it was understood as.
type Writing struct {
	store.Edit
	school.Larder
	Form RecipeForm
	Written
	Status store.Status // of the dish; a new one is a draft
	Newer  *store.Dish  // what somebody else has saved since it was begun
	Others []store.Edit // other windows in which the same dish is written
}

// Open loads an edit.
func Open(ctx context.Context, id string) (Writing, error) {
	a := school.In(ctx)
	w := Writing{Status: store.Draft}
	var err error
	if w.Larder, err = a.Larder(ctx); err != nil {
		return w, err
	}
	if w.Edit, err = a.Edit(ctx, id); err != nil {
		return w, err
	}
	return understand(ctx, w)
}

// Understand is the writing as it would be with another state of the form.
func Understand(ctx context.Context, w Writing, f RecipeForm) (Writing, error) {
	w.Edit.Form = f.Values()
	return understand(ctx, w)
}

func understand(ctx context.Context, w Writing) (Writing, error) {
	a := school.In(ctx)
	id := w.Edit.ID
	w.Form = formFrom(w.Edit.Form)
	w.Written = w.Form.Read(w.Larder)
	if w.Dish == 0 {
		return w, nil
	}
	d, err := a.Dish(ctx, w.Dish)
	if err != nil {
		return w, err
	}
	w.Status = d.Status
	w.Recipe.ID, w.Recipe.SetAside = d.Recipe.ID, d.SetAside
	w.Findings = recipe.Check(w.Recipe, w.Pantry)
	if d.Version != w.Base {
		w.Newer = &d
	}
	edits, err := a.Edits(ctx, w.Dish)
	w.Others = slices.DeleteFunc(edits, func(e store.Edit) bool { return e.ID == id })
	return w, err
}

// Keep keeps the state of the form after a button, so that nothing typed is
// ever lost. Where the form is not the newest, since another window has gone
// on or saved the dish meanwhile, it becomes a writing of its own. It returns
// the id under which it is kept.
func Keep(ctx context.Context, e store.Edit, f RecipeForm) (string, error) {
	err := school.In(ctx).InTransaction(ctx, func(in *store.School) error {
		kept, err := in.EditToChange(ctx, e.ID)
		gone := errors.Is(err, store.ErrNotFound)
		if err != nil && !gone {
			return err
		}
		if gone || f.Revision != formFrom(kept.Form).Revision {
			e.ID = uuid.NewString()
		}
		n, _ := strconv.Atoi(f.Revision)
		f.Revision, f.Typed = strconv.Itoa(n+1), ""
		e.Title, e.Form = clean(f.Title), f.Values()
		return in.SaveEdit(ctx, e)
	})
	return e.ID, err
}

// KeepTyping keeps the state of the form while it is typed, and reports
// whether it was the newest: what was sent before a button was pressed may
// arrive after it, and beside it.
func KeepTyping(ctx context.Context, e store.Edit, f RecipeForm) (bool, error) {
	newest := false
	err := school.In(ctx).InTransaction(ctx, func(in *store.School) error {
		row, err := in.EditToChange(ctx, e.ID)
		if err != nil {
			return err
		}
		kept := formFrom(row.Form)
		was, _ := strconv.ParseInt(kept.Typed, 10, 64)
		now, _ := strconv.ParseInt(f.Typed, 10, 64)
		if newest = f.Revision == kept.Revision && now >= was; !newest {
			return nil
		}
		e.Title, e.Form = clean(f.Title), f.Values()
		return in.SaveEdit(ctx, e)
	})
	return newest, err
}

// Publish saves what was written as the dish, a draft or ready, and forgets
// the edit. It returns the problems that keep it from that, or
// school.ErrChanged where somebody else has saved the dish meanwhile and over
// is not set.
func Publish(ctx context.Context, id string, status store.Status, over bool) (int64, error) {
	a := school.In(ctx)
	w, err := Open(ctx, id)
	if err != nil {
		return 0, err
	}
	problems := w.Problems
	if status == store.Draft { // it may have any fault but having no name, and what it would lose
		problems = slices.DeleteFunc(slices.Clone(problems), func(p problem.Problem) bool { return p.Path != "title" && !ordinary.MatchString(p.Path) })
	}
	if len(problems) > 0 {
		return 0, problems
	}
	if w.Newer != nil && !over {
		return 0, school.ErrChanged
	}
	dish := w.Dish
	err = a.InTransaction(ctx, func(in *store.School) error {
		if dish == 0 {
			if dish, err = in.CreateDish(ctx, w.Recipe, status, 0, w.Edit.ID); err != nil {
				return err
			}
			return in.DropEdit(ctx, id)
		}
		d, err := in.Dish(ctx, dish)
		if err != nil {
			return err
		}
		if d.Version != w.Base && !over {
			return school.ErrChanged
		}
		d.Recipe, d.Status = w.Recipe, status
		if err := in.ChangeDish(ctx, d, a.Now()); err != nil {
			return err
		}
		return in.DropEdit(ctx, id)
	})
	return dish, err
}

// Values returns the form as it is kept.
func (f RecipeForm) Values() map[string][]string {
	m := map[string][]string{}
	for name, value := range f.texts() {
		m[name] = []string{*value}
	}
	for n := range f.Steps {
		for name, value := range f.Steps[n].texts() {
			m[fmt.Sprintf("steps[%d].%s", n, name)] = []string{*value}
		}
	}
	m["count"] = []string{strconv.Itoa(len(f.Steps))}
	return m
}

func formFrom(m map[string][]string) RecipeForm {
	f := RecipeForm{}
	get := func(name string) string {
		if v := m[name]; len(v) > 0 {
			return v[0]
		}
		return ""
	}
	for name, value := range f.texts() {
		*value = get(name)
	}
	count, _ := strconv.Atoi(get("count"))
	f.Steps = make([]StepForm, min(max(count, 0), 10*maxSteps))
	for n := range f.Steps {
		for name, value := range f.Steps[n].texts() {
			*value = get(fmt.Sprintf("steps[%d].%s", n, name))
		}
	}
	return f
}

// texts returns the fields of the form by their names.
func (f *RecipeForm) texts() map[string]*string {
	return map[string]*string{
		"title": &f.Title, "why": &f.Why, "level": &f.Level, "yield": &f.Yield, "pieces": &f.Pieces, "piece": &f.Piece, "each": &f.Each,
		"minutes": &f.Minutes, "tin": &f.Tin, "units": &f.Units, "source": &f.Source, "ingredients": &f.Ingredients, "choices": &f.Choices,
		"equipment": &f.Equipment, "contains": &f.Contains, "skills": &f.Skills, "checks": &f.Checks, "words": &f.Words,
		"questions": &f.Questions, "swaps": &f.Swaps, "leftover": &f.Leftover, "revision": &f.Revision, "typed": &f.Typed,
	}
}

func (s *StepForm) texts() map[string]*string {
	return map[string]*string{
		"id": &s.ID, "title": &s.Title, "timing": &s.Timing, "text": &s.Text, "look": &s.LookFor, "mistake": &s.Mistake, "hazard": &s.Hazard, "takes": &s.Takes,
		"was": &s.Was, "kind": &s.Kind, "work": &s.Work, "wait": &s.Wait, "on": &s.On, "heat": &s.Heat, "who": &s.Who, "after": &s.After,
		"pieces": &s.Pieces, "perload": &s.PerLoad, "per": &s.Per, "sure": &s.Sure,
	}
}

// Differences tells, field by field, where two forms differ.
func Differences(a, b RecipeForm) []Difference {
	var out []Difference
	add := func(field, x, y string) {
		if strings.TrimSpace(x) != strings.TrimSpace(y) {
			out = append(out, Difference{field, x, y})
		}
	}
	for _, name := range []string{"title", "why", "level", "yield", "pieces", "each", "minutes", "tin", "ingredients", "choices", "equipment", "contains", "skills", "checks", "words", "questions", "swaps"} {
		add(name, *a.texts()[name], *b.texts()[name])
	}
	for n := range max(len(a.Steps), len(b.Steps)) {
		var x, y StepForm
		if n < len(a.Steps) {
			x = a.Steps[n]
		}
		if n < len(b.Steps) {
			y = b.Steps[n]
		}
		add(fmt.Sprintf("step %d", n+1), x.words(), y.words())
	}
	return out
}

func (s StepForm) words() string {
	return strings.TrimSpace(strings.Join([]string{s.Title, s.Timing, s.Text, s.LookFor, s.Mistake, s.Hazard}, "\n"))
}

// A Difference between two states of a form.
type Difference struct{ Field, Theirs, Mine string }

// Drop forgets what is being written.
func Drop(ctx context.Context, id string) error { return school.In(ctx).DropEdit(ctx, id) }
