package recipes

import (
	"fmt"
	"math"
	"net/http"
	"slices"
	"strings"

	"github.com/google/uuid"

	"freshapron/internal/app/recipes"
	"freshapron/internal/app/school"
	"freshapron/internal/core/fit"
	"freshapron/internal/core/lesson"
	"freshapron/internal/core/measure"
	"freshapron/internal/core/pantry"
	"freshapron/internal/core/recipe"
	"freshapron/internal/core/words"
	"freshapron/internal/web/frame"
)

type recipeModel struct {
	ID                int64
	Title, Why, Level string
	Status            string
	Draft, Aside      bool
	Makes             string
	Verdicts          []verdict
	Parts             []partModel
	Choices           []choiceModel
	Steps             []stepModel
	Equipment, Checks []string
	Skills            string
	Words             []recipe.Word
	Questions         []recipe.Question
	Swaps             []recipe.Swap
	Findings          []findingModel
	Flow              *flow
	Family            []editLine
	Edits             []editLine
	Contains, Unknown string
	ToRead            string
	ContainsBy        string
	Diets             []dietModel
	Tin, Source       string
	Leftover          []string
	Form              string
	Version           int
}

type verdict struct{ Icon, Light, Word, Head, Says, Href string }

type partModel struct {
	Name  string
	Lines []lineModel
}

type lineModel struct{ Amount, Name, Note, Says string }

type choiceModel struct {
	Head    string
	Options []string
}

type stepModel struct {
	Number                                 int
	Title, Time, Icon                      string
	Text, LookFor, Mistake, Hazard, Detail string
	Sentences                              []string // the text, one by one
}

type findingModel struct {
	Key, ID, Where, Says, Mend, Aside string
	Mendable                          bool
}

type dietModel struct{ Name, Says string }

func (p *place) show(w http.ResponseWriter, r *http.Request) error {
	d, err := dish(r)
	if err != nil {
		return err
	}
	return p.Render(w, r, http.StatusOK, templates, "recipe", frame.Page{Title: d.Title, Place: "recipes", Data: recipeOf(school.In(r.Context()), d)})
}

func recipeOf(here *school.School, d recipes.Dish) recipeModel {
	m := recipeModel{
		ID: d.ID, Title: d.Title, Why: d.Why, Level: d.Level, Status: string(d.Status), Draft: d.Status == recipes.Draft, Aside: d.Status == recipes.Aside,
		Makes: d.Count(d.Yield), Equipment: d.Equipment, Checks: d.Checks, Skills: strings.Join(d.Skills, ", "), Words: d.Words,
		Questions: d.Questions, Swaps: d.Swaps, Flow: flowOf(d.Recipe), Source: d.Source, Leftover: d.Leftover,
		Form: uuid.NewString(), Version: d.Version, Parts: partsOf(d.Recipe), Steps: stepsOf(d.Recipe),
	}
	if d.Yield == 0 {
		m.Makes = "not said how many"
	}
	if d.Tin != nil {
		m.Tin = d.Tin.Name
	}
	known, unknown := d.Allergens(d.Pantry)
	m.Contains, m.Unknown = strings.Join(d.Declared().Declare(known), ", "), strings.Join(unknown, ", ")
	m.ToRead = recipe.LabelsSay(d.ToRead(d.Pantry))
	m.ContainsBy = d.Declared().Name + ". " + d.Declared().Source
	for i, diet := range pantry.Diets {
		says := map[pantry.Verdict]string{pantry.Suits: "yes", pantry.Ask: "ask the supplier", pantry.Never: "no"}[d.Facts.Diets[i]]
		m.Diets = append(m.Diets, dietModel{diet.Name, says})
	}
	for _, c := range d.Choices {
		cm := choiceModel{Head: fmt.Sprintf("Choose %d: %s", c.Take, c.Name)}
		for _, o := range c.Options {
			var lines []string
			for _, i := range o.Ingredients {
				lines = append(lines, i.Line())
			}
			cm.Options = append(cm.Options, o.Name+": "+strings.Join(lines, ", "))
		}
		m.Choices = append(m.Choices, cm)
	}
	for n, f := range d.Facts.Findings {
		m.Findings = append(m.Findings, findingModel{f.Key, fmt.Sprintf("finding-%d", n), place1(d.Recipe, f.Where), f.Says, f.Mend, f.Aside, f.Mendable()})
	}
	for _, h := range d.Family {
		m.Family = append(m.Family, editLine{Href: href(h.ID), Title: h.Title, When: string(h.Status)})
	}
	for _, e := range d.Edits {
		m.Edits = append(m.Edits, editLine{Href: "/recipes/edits/" + e.ID, When: here.Ago(e.Updated)})
	}
	m.Verdicts = verdicts(d)
	return m
}

// place1 says where a finding is in the words of somebody who counts from one.
func place1(r recipe.Recipe, where string) string {
	var n int
	if _, err := fmt.Sscanf(where, "ingredients[%d]", &n); err == nil && n < len(r.Ingredients) {
		return r.Ingredients[n].Name
	}
	if _, err := fmt.Sscanf(where, "steps[%d]", &n); err == nil && n < len(r.Steps) {
		return fmt.Sprintf("step %d", n+1)
	}
	return map[string]string{"contains": "allergens", "minutes": "time"}[where]
}

func verdicts(d recipes.Dish) []verdict {
	f := d.Facts
	out := []verdict{}
	time := verdict{Icon: "bell", Light: "good", Word: "good", Href: "#flow"}
	time.Head = fmt.Sprintf("%s min in all", minutes(f.InAll))
	time.Says = fmt.Sprintf("%s min of work for a pair that makes %s, when nobody waits for anybody.", minutes(f.Hands), f.Makes)
	if guessed, all := d.GuessedMinutes(); guessed >= 1 {
		time.Says += " " + lesson.GuessesSay(guessed, all)
		if lesson.MostlyGuessed(guessed, all) {
			time.Light, time.Word = "look", "look here"
		}
	}
	if f.InAll == 0 {
		time = verdict{Icon: "bell", Light: "stop", Word: "stop", Head: "No time", Says: "Its steps can’t be planned yet: the check says why.", Href: "#check"}
	}
	out = append(out, time)
	open := recipe.Open(d.Facts.Findings)
	check := verdict{Icon: "check", Light: "good", Word: "good", Head: "Nothing to mend", Says: fmt.Sprintf("%d rules looked at it.", len(recipe.RuleNames())), Href: "#check"}
	if len(open) > 0 {
		check = verdict{Icon: "check", Light: "look", Word: "look here", Head: fmt.Sprintf("%d to mend", len(open)), Says: open[0].Says, Href: "#check"}
	}
	out = append(out, check)
	price := verdict{Icon: "purse", Light: "good", Word: "", Head: cost(f.Pence, len(f.Unpriced)) + " each", Says: fmt.Sprintf("for %s, packs shared out, at the pantry’s prices.", d.Count(max(1, d.Each))), Href: "#ingredients"}
	if len(f.Unpriced) > 0 {
		price.Says += " Without " + strings.Join(f.Unpriced, ", ") + "."
	}
	out = append(out, price)
	allergens := verdict{Icon: "shield", Light: "good", Word: "", Head: words.Plural(len(f.Allergens), "allergen", "allergens"), Says: words.Capital(contains(f, d.Larder)) + ".", Href: "#diet"}
	if len(f.ToRead) > 0 {
		allergens.Light, allergens.Word = "look", "read the label"
		allergens.Says += " Read the label of " + recipe.LabelsSay(f.ToRead) + "."
	}
	if len(f.Unknown) > 0 {
		allergens.Light, allergens.Word, allergens.Says = "stop", "not known", "Nothing is known of "+strings.Join(f.Unknown, ", ")+": that counts as unsafe."
	}
	out = append(out, allergens)
	needs := verdict{Icon: "oven", Light: "good", Head: "No oven", Says: "Nothing bakes.", Href: "#flow"}
	if f.Oven {
		needs.Head, needs.Says = "Oven", ovenSays(d.Recipe)
	}
	if f.Adult {
		needs.Says += " An adult has a part in it."
	}
	return append(out, needs)
}

// ovenSays tells the settings of the oven in every way of setting one.
func ovenSays(r recipe.Recipe) string {
	var out []string
	for _, s := range r.Steps {
		for _, u := range s.Uses {
			if u.Temperature == nil {
				continue
			}
			if says := measure.Settings(*u.Temperature) + "."; !slices.Contains(out, says) {
				out = append(out, says)
			}
		}
	}
	return strings.Join(out, " ")
}

func partsOf(r recipe.Recipe) []partModel {
	var out []partModel
	for _, name := range r.Parts() {
		pm := partModel{Name: name}
		for _, i := range r.Ingredients {
			if i.Part != name {
				continue
			}
			l := lineModel{Name: i.Name, Note: i.Note}
			switch {
			case i.Given() && i.Pack != nil:
				l.Amount = fmt.Sprintf("%s (%s × %s %s)", i.Quantity, measure.Mixed(i.Pack.Count), i.Pack.Size, i.Pack.Word.Symbol)
			case i.Given():
				l.Amount = i.Quantity.String()
			}
			if i.Size != "" {
				l.Name = i.Size + " " + l.Name
			}
			if i.Law != recipe.Linear && i.Law != "" {
				l.Says = lawSays[i.Law]
			}
			pm.Lines = append(pm.Lines, l)
		}
		out = append(out, pm)
	}
	return out
}

var lawSays = map[recipe.Law]string{
	recipe.Linear: "grows with the recipe", recipe.Whole: "whole ones", recipe.Taste: "to taste", recipe.Fixed: "once for each pan", recipe.Surface: "a film on the pan",
}

func stepsOf(r recipe.Recipe) []stepModel {
	var out []stepModel
	for n, s := range r.Steps {
		out = append(out, stepModel{
			Number: n + 1, Title: s.Title, Time: timeSays(s), Icon: string(s.Kind), Text: s.Text, LookFor: s.LookFor, Mistake: s.Mistake, Hazard: s.Hazard,
			Detail: detailSays(r, s),
		})
	}
	return out
}

// timeSays tells a step's minutes: "5 min", "1 min, then 18 min by itself".
func timeSays(s recipe.Step) string {
	var parts []string
	typical := func(o recipe.Origin, text string) string {
		if o == recipe.Typical {
			return "about " + text + " (typical)"
		}
		return text
	}
	if s.Work.Sign() > 0 {
		parts = append(parts, typical(s.WorkFrom, measure.Mixed(s.Work)+" min"))
	}
	if s.WorkEach.Sign() > 0 {
		parts = append(parts, measure.Mixed(s.WorkEach)+" min for each")
	}
	if s.PerLoad > 0 {
		parts = append(parts, fmt.Sprintf("%d in loads of %d, %s min each load", s.Pieces, s.PerLoad, s.Load.Decimal(1)))
	}
	text := strings.Join(parts, " and ")
	if s.Wait.Sign() > 0 {
		if text != "" {
			text += ", then "
		}
		text += typical(s.WaitFrom, measure.Mixed(s.Wait)+" min") + " by itself"
	}
	return text
}

// detailSays tells what a step waits for and uses.
func detailSays(r recipe.Recipe, s recipe.Step) string {
	var parts []string
	for _, a := range s.After {
		title := a.Step
		for _, t := range r.Steps {
			if t.ID == a.Step {
				title = t.Title
			}
		}
		text := "after “" + title + "”"
		if a.MaxGap != nil {
			text += fmt.Sprintf(" within %s min", a.MaxGap.Decimal(1))
		}
		if a.MinGap.Sign() > 0 {
			text += fmt.Sprintf(" and at least %s min", a.MinGap.Decimal(1))
		}
		parts = append(parts, text)
	}
	for _, u := range s.Uses {
		text := u.Equipment
		if u.Temperature != nil {
			text += " at " + u.Temperature.Decimal(0) + " °C"
		}
		parts = append(parts, text)
	}
	if s.Shareable {
		parts = append(parts, "can be shared")
	}
	if s.KeepShut {
		parts = append(parts, "the door stays shut")
	}
	switch s.Adult {
	case fit.Does:
		parts = append(parts, "an adult does it")
	case fit.Watches:
		parts = append(parts, "an adult watches")
	}
	if s.Hold != nil {
		parts = append(parts, fmt.Sprintf("then it keeps %s h in the %s", hours(s.Hold.MaxMinutes.Float()), s.Hold.Where))
	}
	return strings.Join(parts, "; ")
}

func hours(minutes float64) string { return trim(math.Round(minutes/6) / 10) }

type versionsModel struct {
	ID       int64
	Title    string
	Now      int
	Versions []versionModel
}

type versionModel struct {
	Number int
	When   string
	Title  string
	Says   []string
}

// versions shows what a dish has been, each with what the next one changed.
func (p *place) versions(w http.ResponseWriter, r *http.Request) error {
	d, err := dish(r)
	if err != nil {
		return err
	}
	list, err := recipes.Versions(r.Context(), d.ID)
	if err != nil {
		return err
	}
	m := versionsModel{ID: d.ID, Title: d.Title, Now: d.Version}
	next := recipes.FormOf(d.Recipe, d.Larder)
	for _, v := range list {
		form := recipes.FormOf(v.Recipe, d.Larder)
		vm := versionModel{Number: v.Version, When: school.In(r.Context()).Ago(v.Saved), Title: v.Title}
		for _, diff := range recipes.Differences(form, next) {
			vm.Says = append(vm.Says, diff.Field)
		}
		m.Versions = append(m.Versions, vm)
		next = form
	}
	return p.Render(w, r, http.StatusOK, templates, "versions", frame.Page{Title: "Versions of " + d.Title, Place: "recipes", Data: m})
}
