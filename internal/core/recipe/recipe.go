// Package recipe holds a dish as a teacher writes it down: what goes in, in
// which parts, the steps small enough for learners to follow, and what to know
// while teaching it. It reads lines and steps as people write them, and checks
// a recipe before thirty copies of it are printed.
package recipe

import (
	"fmt"
	"slices"
	"strings"

	"freshapron/internal/core/exact"
	"freshapron/internal/core/fit"
	"freshapron/internal/core/measure"
	"freshapron/internal/core/pantry"
	"freshapron/internal/core/problem"
)

// MaxMinutes is the most that a recipe can say it takes in all: two days.
const MaxMinutes = 48 * 60

// A Recipe is one dish. Amounts and minutes are for the whole yield.
type Recipe struct {
	ID, Title   string
	Why         string // the reason to cook it: the skill it teaches
	Level       string // for whom this version is; empty for everyone
	Yield       int    // pieces that the amounts make; 0 is not said
	Piece       string // "scone"
	Pieces      string // "scones"
	Each        int    // pieces that one learner makes by default
	Minutes     int    // that the recipe says it takes in all; 0 is not said
	Tin         *Tin   // the tin or dish that the amounts fill
	Ingredients []Ingredient
	Choices     []Choice
	Steps       []Step
	Equipment   []string // for each bench
	Contains    []string // allergens that the recipe declares
	Skills      []string // shown by whoever makes it
	Checks      []string // what the teacher looks at on the way
	Words       []Word
	Questions   []Question
	Swaps       []Swap
	Source      string   // where it came from
	Units       string   // name of the measure.System of its cups and spoons; empty is the school's
	SetAside    []Aside  // findings of the check that somebody has set aside
	Leftover    []string // what was brought in with it and not understood, and what was only supposed of it
}

// Count prints a number of pieces: "1 scone", "8 scones".
func (r Recipe) Count(n int) string {
	if n == 1 {
		return "1 " + r.Piece
	}
	return fmt.Sprintf("%d %s", n, r.Pieces)
}

// Law says how an ingredient grows with the recipe.
type Law string

// The laws of scaling.
const (
	Linear  Law = "linear"
	Whole   Law = "whole"   // eggs, rolls: whole ones
	Taste   Law = "taste"   // a starting amount, not multiplied above 1
	Fixed   Law = "fixed"   // once for each vessel: water to boil in
	Surface Law = "surface" // a film on the pan: greasing, frying depth
)

// Laws lists them.
var Laws = []Law{Linear, Whole, Taste, Fixed, Surface}

// An Ingredient is a line of the recipe.
type Ingredient struct {
	measure.Quantity // 0 where the line gives no amount
	Name             string
	Pantry           string // id in the pantry; empty where it is not known what it is
	Size             string // large, heaped
	Filling          string // packed, scooped
	Note             string
	Law              Law
	Part             string      // the part of the dish it belongs to
	Role             pantry.Role // what it does here, where that is not what the pantry says
	Optional         bool
	Brought          bool               // from home
	Also             []measure.Quantity // the same amount, said otherwise in the recipe
	Pack             *measure.PackSize  // the tin of "½ x 400 g tin", of which the quantity is the contents
}

// Given reports whether there is an amount.
func (i Ingredient) Given() bool { return i.Amount.Sign() > 0 }

// Line writes the ingredient as a line that reads back as the same.
func (i Ingredient) Line() string {
	var parts []string
	switch {
	case i.Given() && i.Pack != nil:
		parts = append(parts, written(measure.Quantity{Amount: i.Pack.Count, Unit: measure.Each}), "x", written(i.Pack.Size))
		if i.Pack.Word.Symbol != "" {
			parts = append(parts, i.Pack.Word.Symbol)
		}
	case i.Given():
		parts = append(parts, written(i.Quantity))
	}
	if i.Size != "" && !strings.Contains(strings.ToLower(i.Name), i.Size) {
		parts = append(parts, i.Size)
	}
	line := strings.Join(append(parts, i.Name), " ")
	if i.Note != "" {
		line += ", " + i.Note
	}
	return line
}

// written prints a quantity exactly: no rounding, so that it reads back.
func written(q measure.Quantity) string {
	s := measure.Mixed(q.Amount)
	if back := measure.Read(s+" x", measure.Metric); back.Low.Cmp(q.Amount) != 0 {
		s = q.Amount.Decimal(6)
		if n, err := exact.Parse(s); err != nil || n.Cmp(q.Amount) != 0 {
			s = q.Amount.String()
		}
	}
	unit := q.Unit.Symbol
	if q.Unit.Plural != "" && q.Amount.Cmp(exact.Int(1)) > 0 {
		unit = q.Unit.Plural
	}
	return strings.TrimSpace(s + " " + unit)
}

// A Choice is a part of a dish that each learner decides: so many of some
// options, on top of what everyone has.
type Choice struct {
	Name    string
	Take    int
	Options []Option
}

// An Option is one thing to choose.
type Option struct {
	Name        string
	Ingredients []Ingredient
}

// Origin says where a figure comes from. What was typed by hand has none: it
// was said.
type Origin string

// Where figures come from.
const (
	Said     Origin = "said"     // in the text
	Typical  Origin = "typical"  // of such a step, by a table
	Recorded Origin = "recorded" // in lessons that were taught
)

// A Step of the recipe: a step of the planner, and what to tell learners.
type Step struct {
	fit.Step
	// WorkEach is hands-on minutes for each piece, on top of Work.
	WorkEach exact.Number
	WorkFrom Origin   // of Work
	WaitFrom Origin   // of Wait
	Text     string   // what to do
	LookFor  string   // how to know that it is right
	Mistake  string   // what can go wrong, and what then
	Hazard   string   // what to be careful of
	Takes    []string // ingredients that go in, where the text does not name them
}

// A Word of the trade or of science, explained.
type Word struct{ Word, Meaning string }

// A Question to ask while demonstrating. Spot marks one that shows a mistake
// to be spotted.
type Question struct {
	Ask, Answer string
	Spot        bool
}

// A Swap is another ingredient for one of the recipe.
type Swap struct {
	For  string // name of an ingredient of the recipe
	Use  string // line to use instead
	Why  string // a diet, cost, season, what is there
	Note string // what changes with it
}

// An Aside is a finding of the check that somebody has set aside.
type Aside struct{ Key, Reason string }

// A Tin is a baking tin or dish, in centimetres. A round one has a Diameter,
// another Length and Width. Count is how many there are, for muffin tins.
type Tin struct {
	Name                    string
	Diameter, Length, Width exact.Number
	Depth                   exact.Number
	Count                   int
}

// Parts returns the parts in the order in which the ingredients name them.
func (r Recipe) Parts() []string {
	var parts []string
	for _, i := range r.Ingredients {
		if !slices.Contains(parts, i.Part) {
			parts = append(parts, i.Part)
		}
	}
	return parts
}

// everything returns the ingredients with those of all choices.
func (r Recipe) everything() []Ingredient {
	all := slices.Clone(r.Ingredients)
	for _, c := range r.Choices {
		for _, o := range c.Options {
			all = append(all, o.Ingredients...)
		}
	}
	return all
}

// Allergens returns the allergens of all ingredients, each once, and the
// names of those of which nothing is known.
func (r Recipe) Allergens(p *pantry.Pantry) (known []pantry.Allergen, unknown []string) {
	for _, i := range r.everything() {
		stock, ok := p.Find(i.Pantry)
		if !ok || stock.Unknown {
			unknown = append(unknown, i.Name)
		}
		for _, a := range stock.Allergens {
			if !slices.Contains(known, a) {
				known = append(known, a)
			}
		}
	}
	return known, unknown
}

// A ToRead is an ingredient whose label has to be read for some allergens.
type ToRead struct {
	Name string
	For  []pantry.Allergen
}

// String says it as on a sheet: "stock cube (wheat, milk)".
func (t ToRead) String() string {
	var names []string
	for _, a := range t.For {
		names = append(names, string(a))
	}
	return fmt.Sprintf("%s (%s)", t.Name, strings.Join(names, ", "))
}

// LabelsSay says which labels have to be read, in one line: "stock cube
// (milk), bread (soya)"; empty where none has to be.
func LabelsSay(list []ToRead) string {
	var out []string
	for _, t := range list {
		out = append(out, t.String())
	}
	return strings.Join(out, ", ")
}

// ToRead returns the ingredients whose labels have to be read, each once: what
// products of these names may hold is not known until somebody has.
func (r Recipe) ToRead(p *pantry.Pantry) []ToRead {
	var out []ToRead
	for _, i := range r.everything() {
		stock, _ := p.Find(i.Pantry)
		if toRead := stock.ToRead(); len(toRead) > 0 && !slices.ContainsFunc(out, func(t ToRead) bool { return t.Name == i.Name }) {
			out = append(out, ToRead{i.Name, toRead})
		}
	}
	return out
}

// Problems returns problem.List that name what keeps the recipe from being
// scaled and planned, or nil. What is merely doubtful is for the check.
func (r Recipe) Problems() error {
	var problems problem.List
	add := func(path, format string, args ...any) {
		problems = append(problems, problem.Problem{Path: path, Says: fmt.Sprintf(format, args...)})
	}
	if strings.TrimSpace(r.Title) == "" {
		add("title", "give the dish a name")
	}
	if r.Yield < 1 || r.Yield > 1000 {
		add("yield", "is %d; a recipe makes 1 to 1000 pieces", r.Yield)
	}
	if r.Each < 1 || r.Each > 100 {
		add("each", "is %d; a learner makes 1 to 100 pieces", r.Each)
	}
	if len(r.Steps) == 0 {
		add("steps", "there is no step: write at least one")
	}
	for i, in := range r.Ingredients {
		if in.Law != "" && !slices.Contains(Laws, in.Law) {
			add(fmt.Sprintf("ingredients[%d]", i), "%q is no law of scaling", in.Law)
		}
	}
	if len(problems) == 0 {
		problems = append(problems, r.planProblems()...)
	}
	if len(problems) > 0 {
		return problems
	}
	return nil
}

// planProblems returns what the planner has against the steps, in a room with
// plenty of everything that they use.
func (r Recipe) planProblems() problem.List {
	problems, ok := r.lone(2).Check().(problem.List)
	if !ok {
		return nil
	}
	for i := range problems {
		problems[i].Path = strings.TrimPrefix(problems[i].Path, "dishes[0].")
	}
	return problems
}

// lone is a lesson without a bell in which one group makes the yield, in a
// room that has what the steps use.
func (r Recipe) lone(cooks int) fit.Lesson {
	l := fit.Lesson{Title: r.Title, Start: 0, End: 24*60 - 1, Adults: 1}
	for _, s := range r.Steps {
		cooks = max(cooks, s.Cooks)
		for _, u := range s.Uses {
			at := slices.IndexFunc(l.Equipment, func(e fit.Equipment) bool { return e.ID == u.Equipment })
			if at < 0 {
				at = len(l.Equipment)
				l.Equipment = append(l.Equipment, fit.Equipment{ID: u.Equipment})
			}
			e := &l.Equipment[at]
			e.Temperature = e.Temperature || u.Temperature != nil
			for len(e.Units) < 4 {
				e.Units = append(e.Units, fit.Unit{Name: fmt.Sprintf("%s %d", u.Equipment, len(e.Units)+1), Places: 4})
			}
		}
	}
	l.Groups = []fit.Group{{ID: "g1", Name: "Bench 1", Cooks: cooks, Pace: exact.Int(1)}}
	l.Dishes = []fit.Dish{r.Dish(max(1, r.Yield))}
	return l
}

// GuessedMinutes returns how many minutes of the steps are only typical, and how many
// there are in all, work and waits, for the whole yield.
func (r Recipe) GuessedMinutes() (guessed, all float64) {
	for _, s := range r.Steps {
		work := s.Work.Add(s.WorkEach.Mul(exact.Int(int64(r.Yield)))).Float()
		loads := s.Load.Mul(exact.Int(int64(s.Loads()))).Float()
		all += work + loads + s.Wait.Float()
		if s.WorkFrom == Typical {
			guessed += work
		}
		if s.WaitFrom == Typical {
			guessed += s.Wait.Float()
		}
	}
	return guessed, all
}

// guessed is the spread of work whose minutes nobody has said or recorded.
const guessed = 0.5

// Dish returns the dish as the planner takes it, for a group that makes so
// many pieces: work and loads grow with the pieces, waits do not.
func (r Recipe) Dish(pieces int) fit.Dish {
	d := fit.Dish{ID: r.ID, Title: r.Title}
	if d.ID == "" {
		d.ID = "dish"
	}
	for _, i := range r.Ingredients {
		d.Ingredients = append(d.Ingredients, i.carried())
	}
	for _, s := range r.Steps {
		step := s.Step
		if s.WorkFrom == Typical && s.Spread == nil {
			spread := guessed
			step.Spread = &spread
		}
		step.Work = step.Work.Add(s.WorkEach.Mul(exact.Int(int64(pieces))))
		if step.PerLoad > 0 && pieces != r.Yield {
			// Loads are of pieces, or of what there is of them in the yield.
			step.Pieces = max(1, int(exact.Frac(int64(s.Pieces), int64(max(1, r.Yield))).Mul(exact.Int(int64(pieces))).Ceil()))
		}
		d.Steps = append(d.Steps, step)
	}
	return d
}

// carried is the ingredient as a lesson file carries it.
func (i Ingredient) carried() fit.Ingredient {
	c := fit.Ingredient{Name: i.Name, Unit: i.Unit.Name(), Note: i.Note, Scales: string(i.Law), PartOf: i.Part, Brought: i.Brought}
	if i.Law == Linear {
		c.Scales = ""
	}
	if i.Given() {
		n := i.Amount
		c.Amount = &n
	}
	return c
}
