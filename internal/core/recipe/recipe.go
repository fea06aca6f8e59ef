// Package recipe holds a dish as a teacher writes it down: what goes in, in
// which parts, and the steps small enough for learners to follow.
package recipe

import (
	"fmt"

	"freshapron/internal/core/exact"
	"freshapron/internal/core/fit"
	"freshapron/internal/core/measure"
	"freshapron/internal/core/pantry"
)

// A Recipe is one dish. Amounts and minutes are for the whole yield.
type Recipe struct {
	ID, Title   string
	Why         string // the reason to cook it: the skill it teaches
	Yield       int    // pieces that the amounts make
	Piece       string // "scone"
	Pieces      string // "scones"
	Each        int    // pieces that one learner makes by default
	Ingredients []Ingredient
	Steps       []Step
	Equipment   []string // for each bench
	Words       []Word
	Questions   []Question
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
	Linear Law = "linear"
	Whole  Law = "whole" // eggs: whole ones only
	Taste  Law = "taste" // a starting amount, not multiplied above 1
)

// An Ingredient is a line of the recipe.
type Ingredient struct {
	measure.Quantity
	Pantry string // id in the pantry
	Note   string
	Law    Law
	Part   string      // the part of the dish it belongs to
	Role   pantry.Role // what it does here, where that is not what the pantry says
}

// A Step of the recipe: a step of the planner, and what to tell learners.
type Step struct {
	fit.Step
	// WorkEach is hands-on minutes for each piece, on top of Work.
	WorkEach exact.Number
	Text     string // what to do
	LookFor  string // how to know that it is right
	Mistake  string // what can go wrong, and what then
	Hazard   string
}

// A Word of the trade or of science, explained.
type Word struct{ Word, Meaning string }

// A Question to ask while demonstrating.
type Question struct{ Ask, Answer string }

// Parts returns the parts in the order in which the ingredients name them.
func (r Recipe) Parts() []string {
	var parts []string
	seen := map[string]bool{}
	for _, i := range r.Ingredients {
		if !seen[i.Part] {
			seen[i.Part] = true
			parts = append(parts, i.Part)
		}
	}
	return parts
}

// Allergens returns the declared allergens of all ingredients, each once.
func (r Recipe) Allergens() []string {
	var out []string
	seen := map[string]bool{}
	for _, i := range r.Ingredients {
		stock, _ := pantry.Find(i.Pantry)
		for _, a := range stock.Allergens {
			if !seen[a] {
				seen[a] = true
				out = append(out, a)
			}
		}
	}
	return out
}

// Check returns fit.Problems that name what keeps the recipe from being
// scaled and planned, or nil.
func (r Recipe) Check() error {
	var problems fit.Problems
	add := func(path, format string, args ...any) {
		problems = append(problems, fit.Problem{Path: path, Says: fmt.Sprintf(format, args...)})
	}
	if r.Yield < 1 {
		add("yield", "is %d; a recipe makes at least 1 piece", r.Yield)
	}
	if r.Each < 1 {
		add("each", "is %d; a learner makes at least 1 piece", r.Each)
	}
	for i, in := range r.Ingredients {
		path := fmt.Sprintf("ingredients[%d]", i)
		if _, ok := pantry.Find(in.Pantry); !ok {
			add(path, "there is no %q in the pantry", in.Pantry)
		}
		if in.Amount.Sign() <= 0 {
			add(path, "has no amount")
		}
		if in.Law != Linear && in.Law != Whole && in.Law != Taste {
			add(path, "%q is no law of scaling", in.Law)
		}
		if in.Law == Whole && in.Unit.Dimension != measure.Count {
			add(path, "is measured, not counted, so it can't be kept whole")
		}
	}
	if len(problems) > 0 {
		return problems
	}
	return nil
}

// Dish returns the dish as the planner takes it, for a group that makes so
// many pieces: work and loads grow with the pieces, waits do not.
func (r Recipe) Dish(pieces int) fit.Dish {
	d := fit.Dish{ID: r.ID, Title: r.Title}
	for _, s := range r.Steps {
		step := s.Step
		step.Work = step.Work.Add(s.WorkEach.Mul(exact.Int(int64(pieces))))
		if step.PerLoad > 0 {
			step.Pieces = pieces
		}
		d.Steps = append(d.Steps, step)
	}
	return d
}
