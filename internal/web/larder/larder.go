// Package larder is the place where the pantry is looked through and edited,
// and where the school says how it measures.
package larder

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

	"freshapron/internal/app/recipes"
	"freshapron/internal/app/school"
	"freshapron/internal/core/pantry"
	"freshapron/internal/core/problem"
	"freshapron/internal/core/recipe"
	"freshapron/internal/core/staff"
	"freshapron/internal/core/words"
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
		frame.Get("/pantry", staff.Read, p.list),
		frame.Get("/pantry/new", staff.Stock, p.blank),
		frame.Post("/pantry/new", staff.Stock, p.add),
		frame.Get("/pantry/settings", staff.Arrange, p.settings),
		frame.Post("/pantry/settings", staff.Arrange, p.saveSettings),
		frame.Get("/pantry/{slug}", staff.Read, p.show),
		frame.Post("/pantry/{slug}", staff.Stock, p.save),
	}
}

type listModel struct {
	Text  string
	Count string
	Rows  []row
	Back  string // address of those before; empty where there are none
	On    string // and of those after
}

// shown is how many ingredients stand on a page.
const shown = 100

type row struct {
	Href, Name, Also    string
	Density, One, Packs string
	Allergens, From     string
	Keeps, Season       string
	ToRead, Label       string
	Own, Unknown        bool
}

func (p *place) list(w http.ResponseWriter, r *http.Request) error {
	l, err := school.In(r.Context()).Larder(r.Context())
	if err != nil {
		return err
	}
	items, err := recipes.PantryItems(r.Context())
	if err != nil {
		return err
	}
	q := r.URL.Query().Get("q")
	ws := pantry.Words(q)
	m := listModel{Text: q}
	all := l.Pantry.List()
	from, err := strconv.Atoi(r.URL.Query().Get("from"))
	if err != nil || from < 0 {
		from = 0
	}
	found := 0
	for _, i := range all {
		text := " " + strings.Join(pantry.Words(strings.Join(append([]string{i.Name, i.Plural, string(i.Role)}, i.Also...), " ")), " ")
		if slices.ContainsFunc(ws, func(w string) bool { return !strings.Contains(text, " "+w) }) {
			continue
		}
		if found++; found > from && len(m.Rows) < shown {
			m.Rows = append(m.Rows, rowOf(i, l, slices.ContainsFunc(items, func(o recipes.Item) bool { return o.ID == i.ID })))
		}
	}
	m.Count = fmt.Sprintf("%d of %d ingredients", found, len(all))
	at := func(n int) string {
		return "/pantry?" + url.Values{"q": {q}, "from": {strconv.Itoa(max(0, n))}}.Encode()
	}
	if from > 0 {
		m.Back = at(from - shown)
	}
	if from+shown < found {
		m.On = at(from + shown)
	}
	part := "pantry"
	if r.Header.Get("HX-Target") == "found" {
		part = "items"
	}
	return p.Render(w, r, http.StatusOK, templates, part, frame.Page{Title: "Pantry", Place: "pantry", Data: m})
}

var months = []string{"", "January", "February", "March", "April", "May", "June", "July", "August", "September", "October", "November", "December"}

func rowOf(i pantry.Ingredient, l school.Larder, own bool) row {
	rw := row{Href: "/pantry/" + url.PathEscape(i.ID), Name: i.Name, Also: strings.Join(i.Also, ", "), Own: own, Unknown: i.Unknown}
	var fills, packs, from []string
	for _, f := range i.Fillings {
		fills = append(fills, f.Name+" "+f.Density.Decimal(2))
	}
	for _, pk := range i.Packs {
		packs = append(packs, fmt.Sprintf("%s %s %dp", pk.Size, pk.Word, pk.Pence))
	}
	for _, t := range i.From {
		from = append(from, string(t))
	}
	rw.Density, rw.Packs, rw.From = strings.Join(fills, ", "), strings.Join(packs, ", "), strings.Join(from, ", ")
	if i.Counted() {
		rw.One = i.One.Decimal(1) + " g"
		if i.Bought.Sign() > 0 {
			rw.One += ", " + i.Bought.Decimal(0) + " as bought"
		}
	}
	rw.Allergens = strings.Join(l.Declared().Declare(i.Allergens), ", ")
	rw.ToRead = strings.Join(l.Declared().Declare(i.ToRead()), ", ")
	if i.Label.On != "" {
		rw.Label = fmt.Sprintf("label read %s: %s", i.Label.On, i.Label.Says)
	}
	if i.Keeps > 0 {
		rw.Keeps = fmt.Sprintf("%s, %s", i.Place, words.Plural(i.Keeps, "day", "days"))
	}
	if (i.Season != pantry.Season{}) {
		rw.Season = months[i.Season.From] + " to " + months[i.Season.To]
	}
	return rw
}

type itemModel struct {
	Slug, Heading string
	Action        string
	Version       int
	New           bool
	Problem       string
	Fields        map[string]frame.Field
	Role          frame.Field
	Pours         bool
	Unknown       bool
	Allergens     []frame.Option
	May           []frame.Option
	From          []frame.Option
	List          string
}

func posted(v url.Values) pantry.Form {
	return pantry.Form{
		Name: v.Get("name"), Plural: v.Get("plural"), Also: v.Get("also"), Fillings: v.Get("fillings"), One: v.Get("one"), Bought: v.Get("bought"), Packs: v.Get("packs"),
		Place: v.Get("place"), Keeps: v.Get("keeps"), Waste: v.Get("waste"), Freezes: v.Get("freezes"), Season: v.Get("season"), Source: v.Get("source"), Role: v.Get("role"),
		Pours: v.Get("pours") != "", Unknown: v.Get("unknown") != "", Allergens: v["allergen"], May: v["may"], From: v["from"],
		Label: v.Get("label"), LabelOn: v.Get("label_on"),
	}
}

func (p *place) form(w http.ResponseWriter, r *http.Request, status int, slug string, version int, f pantry.Form, problems problem.List, problem string) error {
	l, err := school.In(r.Context()).Larder(r.Context())
	if err != nil {
		return err
	}
	m := itemModel{
		Slug: slug, Heading: f.Name, Action: "/pantry/" + url.PathEscape(slug), Version: version, New: slug == "", Problem: problem,
		Pours: f.Pours, Unknown: f.Unknown, List: l.Declared().Name + ". " + l.Declared().Source, Fields: map[string]frame.Field{},
	}
	if m.New {
		m.Heading, m.Action = "A new ingredient", "/pantry/new"
	}
	for name, field := range map[string][2]string{
		"name": {"Name", f.Name}, "plural": {"More than one", f.Plural}, "also": {"Other words for it, with commas", f.Also},
		"fillings": {"Density in g/ml, as it is filled: “spooned 0.53, scooped 0.63”", f.Fillings}, "one": {"One weighs, in grams, ready to use", f.One}, "bought": {"with shell, skin and stone", f.Bought},
		"packs": {"Packs and their prices in pence: “1.5 kg bag 110, 500 g bag 60”", f.Packs}, "place": {"Where it is kept", f.Place},
		"keeps": {"Keeps, in days", f.Keeps}, "season": {"Season, as months: 9-4", f.Season}, "waste": {"Trimmed off what is bought, in %; empty: by the two weights of one", f.Waste}, "freezes": {"Can be frozen for, in days", f.Freezes}, "source": {"Where the figures come from", f.Source}, "label": {"What the packet in the cupboard says", f.Label}, "label_on": {"read on", f.LabelOn},
	} {
		m.Fields[name] = frame.Text(name, field[0], field[1], problems)
	}
	m.Role = frame.Choice("role", "In a mixture it is", f.Role, problems, []frame.Option{
		{Value: "structure", Label: "flour, fat, sugar, egg or liquid"}, {Value: "agent", Label: "a raising, setting or salting agent"}, {Value: "other", Label: "something else"},
	})
	// The longer list whatever the school declares by: it may change its mind.
	for n, a := range pantry.Fourteen.Order {
		m.Allergens = append(m.Allergens, frame.Option{Value: string(a), Label: pantry.Fourteen.Declare([]pantry.Allergen{a})[0], Chosen: slices.Contains(f.Allergens, string(a)), ID: fmt.Sprintf("allergen-%d", n)})
		m.May = append(m.May, frame.Option{Value: string(a), Label: pantry.Fourteen.Declare([]pantry.Allergen{a})[0], Chosen: slices.Contains(f.May, string(a)), ID: fmt.Sprintf("may-%d", n)})
	}
	for n, t := range pantry.Traits {
		m.From = append(m.From, frame.Option{Value: string(t), Label: string(t), Chosen: slices.Contains(f.From, string(t)), ID: fmt.Sprintf("from-%d", n)})
	}
	return p.Render(w, r, status, templates, "item", frame.Page{Title: m.Heading, Place: "pantry", Data: m})
}

func (p *place) blank(w http.ResponseWriter, r *http.Request) error {
	return p.form(w, r, http.StatusOK, "", 0, pantry.Form{Name: r.URL.Query().Get("name"), Role: string(pantry.Other), Unknown: true}, nil, "")
}

func (p *place) add(w http.ResponseWriter, r *http.Request) error {
	if err := frame.ParseForm(r); err != nil {
		return err
	}
	l, err := school.In(r.Context()).Larder(r.Context())
	if err != nil {
		return err
	}
	f := posted(r.PostForm)
	if m := l.Pantry.Match(f.Name); m.Certain {
		return p.form(w, r, http.StatusUnprocessableEntity, "", 0, f, problem.List{{Path: "name", Says: fmt.Sprintf("the pantry has %s already, and this name means it", m.Ingredient.Name)}}, "")
	}
	i, err := f.Read(recipe.Slug(f.Name, func(id string) bool { _, taken := l.Pantry.Find(id); return taken }))
	return p.keep(w, r, "", 0, f, i, err)
}

// item loads the item of the address and its version; 0 where the school has
// not touched it yet.
func item(r *http.Request) (pantry.Ingredient, int, error) {
	slug, err := url.PathUnescape(chi.URLParam(r, "slug"))
	if err != nil {
		return pantry.Ingredient{}, 0, school.ErrNotFound
	}
	return recipes.PantryItem(r.Context(), slug)
}

func (p *place) show(w http.ResponseWriter, r *http.Request) error {
	i, version, err := item(r)
	if err != nil {
		return err
	}
	return p.form(w, r, http.StatusOK, i.ID, version, pantry.FormOf(i), nil, "")
}

func (p *place) save(w http.ResponseWriter, r *http.Request) error {
	now, _, err := item(r)
	if err != nil {
		return err
	}
	if err := frame.ParseForm(r); err != nil {
		return err
	}
	version, err := strconv.Atoi(r.PostForm.Get("version"))
	if err != nil {
		version = -1
	}
	f := posted(r.PostForm)
	i, err := f.Read(now.ID)
	return p.keep(w, r, now.ID, version, f, i, err)
}

// keep writes the ingredient, or shows the form again with what was typed.
func (p *place) keep(w http.ResponseWriter, r *http.Request, slug string, version int, f pantry.Form, i pantry.Ingredient, err error) error {
	if problems := problem.Of(err); problems != nil {
		return p.form(w, r, http.StatusUnprocessableEntity, slug, version, f, problems, "Not saved; what you typed is kept.")
	}
	err = recipes.SavePantryItem(r.Context(), recipes.Item{Ingredient: i, Version: version})
	if errors.Is(err, school.ErrChanged) {
		_, newest, err := recipes.PantryItem(r.Context(), i.ID)
		if err != nil {
			return err
		}
		return p.form(w, r, http.StatusConflict, slug, newest, f, nil, "This ingredient was changed after this page was opened, in another window or by somebody else. The form keeps yours; save again to put it over that.")
	}
	if err != nil {
		return err
	}
	return frame.See(w, r, "/pantry?q="+url.QueryEscape(i.Name))
}

type settingsModel struct {
	Units, First, Declare   frame.Field
	Agent, Structure, Other frame.Field
	Problem                 string
	Sources                 []string
}

func (p *place) settingsForm(w http.ResponseWriter, r *http.Request, status int, v url.Values, problems problem.List) error {
	choice := func(name, label string, options ...frame.Option) frame.Field {
		return frame.Choice(name, label, v.Get(name), problems, options)
	}
	m := settingsModel{
		Units: choice("units", "A cup, a spoon and a pint are", frame.Option{Value: "metric", Label: "metric: cup 250 ml, tablespoon 15 ml"}, frame.Option{Value: "us", Label: "US customary: cup 236.6 ml, tablespoon 14.8 ml"},
			frame.Option{Value: "au", Label: "Australian: cup 250 ml, tablespoon 20 ml"}, frame.Option{Value: "imperial", Label: "imperial: pint 568 ml, tablespoon 15 ml"}),
		First:     choice("first", "Learners measure", frame.Option{Value: "weight", Label: "by weight first"}, frame.Option{Value: "volume", Label: "by spoons and cups first"}, frame.Option{Value: "both", Label: "both side by side"}),
		Declare:   choice("declare", "Allergens are declared by", frame.Option{Value: "fourteen", Label: "the list of fourteen"}, frame.Option{Value: "nine", Label: "the list of nine"}),
		Agent:     frame.Text("agent", "Raising, setting and salting agents may be off by, in %", v.Get("agent"), problems),
		Structure: frame.Text("structure", "Flour, fat, sugar, egg and liquid, in %", v.Get("structure"), problems),
		Other:     frame.Text("other", "The rest, in %", v.Get("other"), problems),
		Sources:   []string{pantry.Fourteen.Name + ": " + pantry.Fourteen.Source, pantry.Nine.Name + ": " + pantry.Nine.Source},
	}
	if problems != nil {
		m.Problem = "Not saved; what you typed is kept."
	}
	return p.Render(w, r, status, templates, "settings", frame.Page{Title: "How this school measures", Place: "pantry", Data: m})
}

func (p *place) settings(w http.ResponseWriter, r *http.Request) error {
	l, err := school.In(r.Context()).Larder(r.Context())
	if err != nil {
		return err
	}
	t := l.Tolerances()
	or := func(value, otherwise string) string {
		if value == "" {
			return otherwise
		}
		return value
	}
	percent := func(f float64) string { return strconv.FormatFloat(f*100, 'f', -1, 64) }
	return p.settingsForm(w, r, http.StatusOK, url.Values{
		"units": {or(l.Settings.Units, "metric")}, "first": {or(l.Settings.First, "weight")}, "declare": {or(l.Settings.Declare, "fourteen")},
		"agent": {percent(t.Agent)}, "structure": {percent(t.Structure)}, "other": {percent(t.Other)},
	}, nil)
}

func (p *place) saveSettings(w http.ResponseWriter, r *http.Request) error {
	if err := frame.ParseForm(r); err != nil {
		return err
	}
	v := r.PostForm
	var problems problem.List
	share := func(name string) float64 {
		n, err := strconv.ParseFloat(strings.ReplaceAll(strings.TrimSpace(v.Get(name)), ",", "."), 64)
		if err != nil || !(n >= 1 && n <= 50) {
			problems = append(problems, problem.Problem{Path: name, Says: fmt.Sprintf("“%s” is not a number between 1 and 50", v.Get(name))})
		}
		return n / 100
	}
	oneOf := func(name string, known ...string) string {
		if !slices.Contains(known, v.Get(name)) {
			problems = append(problems, problem.Problem{Path: name, Says: "choose one"})
		}
		return v.Get(name)
	}
	s := recipes.Settings{
		Units: oneOf("units", "metric", "us", "au", "imperial"), First: oneOf("first", "weight", "volume", "both"), Declare: oneOf("declare", "fourteen", "nine"),
		Agent: share("agent"), Structure: share("structure"), Other: share("other"),
	}
	if problems != nil {
		return p.settingsForm(w, r, http.StatusUnprocessableEntity, v, problems)
	}
	if err := recipes.SaveSettings(r.Context(), s); err != nil {
		return err
	}
	return frame.See(w, r, "/pantry")
}
