package lesson

import (
	"slices"

	"freshapron/internal/core/exact"
	"freshapron/internal/core/measure"
	"freshapron/internal/core/recipe"
	"freshapron/internal/core/rescue"
	"freshapron/internal/core/scale"
)

// The places of a lesson that take ingredients and are no bench.
const (
	AtDemonstration = "demonstration"
	AtSpare         = "spare"
)

// A Take is what one place of a lesson uses of one line of a recipe.
type Take struct {
	Course int    // its place in the menu
	Place  string // id of a bench, AtDemonstration or AtSpare
	Says   string // "Bench 3", "Demonstration"
	Line   recipe.Ingredient
	For    string           // the line of the recipe that it stands in for; empty where it is the recipe's own
	Amount measure.Quantity // over 0
	Home   exact.Number     // the share that learners of the bench bring
	Told   string           // the amount as the bench measures it out
}

// Home says what learners bring from home.
type Home struct {
	Lines []HomeLine
	Not   []int64 // learners who bring nothing
}

// A HomeLine is an ingredient of a dish on the menu, by the dish's id and the name
// that the recipe gives it.
type HomeLine struct{ Dish, Name string }

// UsualHome are the lines that the recipes say are brought.
func (l Lesson) UsualHome() (h Home) {
	for _, c := range l.Menu {
		for _, in := range c.Recipe.Ingredients {
			if in.Brought {
				h.Lines = append(h.Lines, HomeLine{c.Recipe.ID, in.Name})
			}
		}
	}
	return h
}

// brings returns the share of a line that those at a bench bring.
func (h Home) brings(b Bench, dish string, name, stands string) exact.Number {
	if !slices.Contains(h.Lines, HomeLine{dish, name}) && (stands == "" || !slices.Contains(h.Lines, HomeLine{dish, stands})) || b.Cooks == 0 {
		return exact.Number{}
	}
	bring := b.Cooks
	for _, m := range b.Members {
		if slices.Contains(h.Not, m.ID) {
			bring--
		}
	}
	return exact.Frac(int64(bring), int64(b.Cooks))
}

// Takes returns what every bench, the demonstration and the spare sets use,
// course by course and line by line. Together they are what Needs, Swapped and
// Chosen add up.
func (l Lesson) Takes(h Home) []Take {
	var out []Take
	add := func(t Take, in recipe.Ingredient, pieces, of int) {
		t.Line, t.Amount = in, scale.Used(in, exact.Frac(int64(pieces), int64(max(1, of))))
		if in.Given() && t.Amount.Amount.Sign() > 0 {
			out = append(out, t)
		}
	}
	first := map[int]bool{}
	for _, size := range l.Sizes() {
		c := l.Menu[size.Course]
		own := l.own(size.Course)
		for _, b := range size.Benches {
			for n, i := range size.Lines {
				in := size.Recipe.Ingredients[i]
				t := Take{Course: size.Course, Place: b.ID, Says: b.Name}
				t.Told, _ = size.Amounts[n].Told()
				if i < len(c.Recipe.Ingredients) && c.Recipe.Ingredients[i].Line() != in.Line() {
					t.For = c.Recipe.Ingredients[i].Name
				}
				t.Home = h.brings(b, c.Recipe.ID, in.Name, t.For)
				add(t, in, size.Pieces, size.Recipe.Yield)
			}
		}
		if first[size.Course] {
			continue
		}
		first[size.Course] = true
		for i, in := range c.Recipe.Ingredients {
			if !own(i) {
				continue
			}
			if c.Demo > 0 {
				add(Take{Course: size.Course, Place: AtDemonstration, Says: "Demonstration"}, in, c.Demo, c.Recipe.Yield)
			}
			for range l.Spare {
				add(Take{Course: size.Course, Place: AtSpare, Says: "Spare"}, in, size.Pieces, c.Recipe.Yield)
			}
		}
	}
	return out
}

// Before returns what rescues that were chosen ask for before the lesson.
func (l Lesson) Before() []rescue.Before {
	return rescue.Befores(l.unchanged(), l.Changes)
}
