package recipes

import (
	"fmt"
	"math"
	"net/http"
	"net/url"
	"slices"
	"strconv"
	"strings"
	"time"

	"freshapron/internal/app/recipes"
	"freshapron/internal/app/school"

	"freshapron/internal/core/measure"
	"freshapron/internal/core/pantry"
	"freshapron/internal/core/shelf"
	"freshapron/internal/core/words"
	"freshapron/internal/web/frame"
)

// firstRows is how many dishes a page shows at first.
const firstRows = 40

type shelfModel struct {
	Text, Pence string
	Choices     []selectField
	Found       string
	Rows        []shelfRow
	Periods     []int
	More        string
	Tabs        []tab
	Status      string
	Edits       []editLine
	Empty       bool // nothing was asked, and nothing is there
}

type selectField struct {
	Name, Label string
	Options     []frame.Option
}

type tab struct {
	Label, Href string
	Here        bool
}

type editLine struct{ Href, Title, When string }

type shelfRow struct {
	Href, Title, Why string
	Hands, InAll     string
	Fits             []fitting
	Needs            []string
	Cost             string
	Contains         string
	Suits            string
	Season           string
	Open             string
}

type fitting struct {
	Period int
	Fits   bool
}

func (p *place) shelf(w http.ResponseWriter, r *http.Request) error {
	q, status := queryOf(r.URL.Query(), school.In(r.Context()).Today())
	s, err := recipes.Search(r.Context(), q, status)
	if err != nil {
		return err
	}
	part := "shelf"
	if r.Header.Get("HX-Target") == "found" {
		part = "found"
	}
	return p.Render(w, r, http.StatusOK, templates, part, frame.Page{Title: "Recipes", Place: "recipes", Data: shelfOf(school.In(r.Context()), s, q, status, r.URL.Query())})
}

func queryOf(v url.Values, today time.Time) (shelf.Query, recipes.Status) {
	whole := func(name string) int {
		n, err := strconv.Atoi(strings.TrimSpace(v.Get(name)))
		if err != nil || n < 0 {
			return 0
		}
		return n
	}
	q := shelf.Query{
		Text: v.Get("q"), Period: whole("period"), Oven: v.Get("oven"), Diet: v.Get("diet"),
		Without: pantry.Allergen(v.Get("without")), Skill: v.Get("skill"), Pence: whole("pence"),
	}
	if v.Get("season") == "now" {
		q.Month = int(today.Month())
	}
	status := recipes.Status(v.Get("status"))
	if status != recipes.Draft && status != recipes.Aside {
		status = recipes.Ready
	}
	return q, status
}

func shelfOf(here *school.School, s recipes.Shelf, q shelf.Query, status recipes.Status, v url.Values) shelfModel {
	m := shelfModel{Text: q.Text, Periods: s.Periods, Status: string(status), Empty: s.Of == 0 && q.Empty()}
	if q.Pence > 0 {
		m.Pence = strconv.Itoa(q.Pence)
	}
	m.Choices = choicesOf(s, q)
	show := firstRows
	if n, err := strconv.Atoi(v.Get("show")); err == nil && n > show {
		show = n
	}
	for _, e := range s.Entries[:min(show, len(s.Entries))] {
		m.Rows = append(m.Rows, rowOf(e, s, here.Today()))
	}
	m.Found = fmt.Sprintf("%d of %s", len(s.Entries), words.Plural(s.Of, "dish", "dishes"))
	if q.Empty() {
		m.Found = words.Plural(s.Of, "dish", "dishes")
	}
	if show < len(s.Entries) {
		more := url.Values{}
		for k := range v {
			more.Set(k, v.Get(k))
		}
		more.Set("show", strconv.Itoa(show+5*firstRows))
		m.More = "/recipes?" + more.Encode()
	}
	for _, t := range []struct {
		status recipes.Status
		label  string
	}{{recipes.Ready, "Ready"}, {recipes.Draft, "Drafts"}, {recipes.Aside, "Set aside"}} {
		m.Tabs = append(m.Tabs, tab{t.label, "/recipes?status=" + string(t.status), t.status == status})
	}
	for _, e := range s.Edits[:min(5, len(s.Edits))] {
		title := e.Title
		if title == "" {
			title = "A dish without a name"
		}
		m.Edits = append(m.Edits, editLine{"/recipes/edits/" + e.ID, title, here.Ago(e.Updated)})
	}
	return m
}

func choicesOf(s recipes.Shelf, q shelf.Query) []selectField {
	options := func(chosen string, pairs ...string) []frame.Option {
		var out []frame.Option
		for i := 0; i < len(pairs); i += 2 {
			out = append(out, frame.Option{Value: pairs[i], Label: pairs[i+1], Chosen: pairs[i] == chosen})
		}
		return out
	}
	periods := []string{"", "any length"}
	for _, n := range s.Periods {
		periods = append(periods, strconv.Itoa(n), fmt.Sprintf("fits %d min", n))
	}
	period := ""
	if q.Period > 0 {
		period = strconv.Itoa(q.Period)
	}
	diets := []string{"", "everyone"}
	for _, d := range pantry.Diets {
		diets = append(diets, d.Name, d.Name)
	}
	without := []string{"", "—"}
	for _, a := range s.Declared().Order {
		without = append(without, string(a), "no "+string(a))
	}
	skills := []string{"", "any"}
	for _, sk := range s.Skills {
		skills = append(skills, sk, sk)
	}
	season := ""
	if q.Month > 0 {
		season = "now"
	}
	return []selectField{
		{"period", "Period", options(period, periods...)},
		{"oven", "Oven", options(q.Oven, "", "either way", "no", "no oven", "yes", "with the oven")},
		{"diet", "Suits", options(q.Diet, diets...)},
		{"without", "Without", options(string(q.Without), without...)},
		{"skill", "Skill", options(q.Skill, skills...)},
		{"season", "Season", options(season, "", "any", "now", "all of it in season now")},
	}
}

func rowOf(e school.Entry, s recipes.Shelf, today time.Time) shelfRow {
	f := e.Facts
	row := shelfRow{
		Href: href(e.ID), Title: e.Title, Why: f.Why, Hands: minutes(f.Hands), InAll: minutes(f.InAll),
		Cost: cost(f.Pence, len(f.Unpriced)), Contains: contains(f, s.Larder), Suits: suits(f),
	}
	if f.InAll == 0 {
		row.InAll = "–"
	}
	for _, n := range s.Periods {
		row.Fits = append(row.Fits, fitting{n, f.Fits(n)})
	}
	if f.Oven {
		row.Needs = append(row.Needs, "oven")
	}
	if f.Adult {
		row.Needs = append(row.Needs, "adult")
	}
	if !f.InSeason(int(today.Month())) {
		row.Season = "not all in season"
	}
	if f.Open > 0 {
		row.Open = fmt.Sprintf("%d to mend", f.Open)
	}
	return row
}

func minutes(m float64) string { return fmt.Sprintf("%d", int(math.Ceil(m-1e-9))) }

func cost(pence float64, unpriced int) string {
	s := measure.Price(pence)
	if unpriced > 0 {
		s = "over " + s
	}
	return s
}

func contains(f shelf.Facts, l school.Larder) string {
	var short []string
	for _, a := range l.Declared().Order {
		if slices.Contains(f.Allergens, a) {
			short = append(short, string(a))
		}
	}
	switch {
	case len(f.Unknown) > 0:
		short = append(short, fmt.Sprintf("%d unknown", len(f.Unknown)))
	case len(short) == 0:
		return "none declared"
	}
	return strings.Join(short, ", ")
}

func suits(f shelf.Facts) string {
	var out []string
	for _, d := range pantry.Diets {
		if f.Suits(d.Name) {
			out = append(out, d.Name)
		}
	}
	switch {
	case slices.Contains(out, "vegan"):
		out = []string{"vegan"}
	case slices.Contains(out, "vegetarian"):
		out = []string{"vegetarian"}
	}
	return strings.Join(out, ", ")
}
