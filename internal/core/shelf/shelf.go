// Package shelf knows the facts by which a teacher chooses a dish, and finds
// dishes by words and by facts.
package shelf

import (
	"math"
	"slices"
	"strings"

	"freshapron/internal/core/exact"
	"freshapron/internal/core/fit"
	"freshapron/internal/core/pantry"
	"freshapron/internal/core/recipe"
	"freshapron/internal/core/scale"
)

// Facts are what decides about a dish.
type Facts struct {
	Why       string
	Makes     string  // "8 scones": what a pair makes
	Each      int     // pieces for one learner
	Hands     float64 // minutes of hands-on work for a pair's share
	InAll     float64 // minutes that a pair takes when nothing keeps it waiting; 0 is not known
	Oven      bool
	Adult     bool // an adult does or watches a step
	Skills    []string
	Allergens []pantry.Allergen
	Unknown   []string         // ingredients of which nothing is known
	ToRead    []recipe.ToRead  // ingredients whose labels have to be read
	Diets     []pantry.Verdict // for each of pantry.Diets
	Pence     float64          // cost of what one learner makes
	Unpriced  []string
	Seasonal  []pantry.Season  // of the ingredients that have one
	Findings  []recipe.Finding // of the recipe check
	Open      int              // how many of them nobody has set aside
	words     string           // to search in, folded
}

// Of works out the facts of a recipe.
func Of(r recipe.Recipe, k scale.Kitchen) Facts {
	f := Facts{Why: r.Why, Makes: r.Count(2 * max(1, r.Each)), Each: max(1, r.Each), Skills: r.Skills, Diets: make([]pantry.Verdict, len(pantry.Diets))}
	pieces := 2 * max(1, r.Each)
	hands := exact.Number{}
	for _, s := range r.Dish(pieces).Steps {
		hands = hands.Add(s.Work).Add(s.Load.Mul(exact.Int(int64(s.Loads()))))
		f.Adult = f.Adult || s.Adult != fit.NoAdult
		f.Oven = f.Oven || slices.ContainsFunc(s.Uses, func(u fit.Use) bool { return u.Equipment == "oven" })
	}
	f.Hands = hands.Float()
	f.InAll, _ = r.InAllFor(2, pieces)
	f.Allergens, f.Unknown = r.Allergens(k.Pantry)
	f.ToRead = r.ToRead(k.Pantry)
	if len(r.Ingredients) == 0 {
		f.Unknown = append(f.Unknown, "everything")
	}
	for _, i := range r.Ingredients {
		stock, ok := k.Pantry.Find(i.Pantry)
		stock.Unknown = stock.Unknown || !ok
		for d, diet := range pantry.Diets {
			f.Diets[d] = max(f.Diets[d], diet.Judge(stock))
		}
		if (stock.Season != pantry.Season{}) {
			f.Seasonal = append(f.Seasonal, stock.Season)
		}
	}
	pence, unpriced := k.Cost(r, exact.Frac(int64(max(1, r.Each)), int64(max(1, r.Yield))))
	f.Pence, f.Unpriced = pence.Float(), unpriced
	f.Findings = recipe.Check(r, k.Pantry)
	f.Open = len(recipe.Open(f.Findings))
	f.words = searchable(r, k.Pantry)
	return f
}

// searchable is every word under which a dish should be found.
func searchable(r recipe.Recipe, p *pantry.Pantry) string {
	texts := []string{r.Title, r.Why, r.Level, strings.Join(r.Skills, " ")}
	for _, i := range r.Ingredients {
		stock, _ := p.Find(i.Pantry)
		texts = append(texts, i.Name, stock.Name, strings.Join(stock.Also, " "))
	}
	return " " + strings.Join(pantry.Words(strings.Join(texts, " ")), " ") + " "
}

// Suits reports whether the dish as written suits a diet without asking
// anybody.
func (f Facts) Suits(diet string) bool {
	i := slices.IndexFunc(pantry.Diets, func(d pantry.Diet) bool { return d.Name == diet })
	return i >= 0 && f.Diets[i] == pantry.Suits
}

// Without reports whether the dish is known to be free of an allergen.
func (f Facts) Without(a pantry.Allergen) bool {
	open := slices.ContainsFunc(f.ToRead, func(t recipe.ToRead) bool { return slices.Contains(t.For, a) })
	return len(f.Unknown) == 0 && !slices.Contains(f.Allergens, a) && !open
}

// InSeason reports whether everything that has a season has it in the month,
// 1 to 12.
func (f Facts) InSeason(month int) bool {
	return !slices.ContainsFunc(f.Seasonal, func(s pantry.Season) bool { return !s.Has(month) })
}

// usualPhases are the minutes of a period that go to the register, the
// demonstration, clearing and tasting; typical.
const usualPhases = 25

// Fits reports whether the dish fits a period of so many minutes beside the
// usual phases, when nobody waits for anybody.
func (f Facts) Fits(period int) bool {
	return f.InAll > 0 && math.Ceil(f.InAll) <= float64(period-usualPhases)
}

// A Query narrows the shelf down. Empty fields ask nothing.
type Query struct {
	Text    string
	Period  int    // minutes that it has to fit
	Oven    string // "yes" or "no"
	Diet    string
	Without pantry.Allergen
	Skill   string
	Pence   int // at most, for one learner
	Month   int // in season then
}

// Empty reports whether nothing is asked.
func (q Query) Empty() bool { return q == Query{} }

// A Search is a query made ready to be put to many dishes.
type Search struct {
	Query
	words []string
}

// Search folds the words of the query once.
func (q Query) Search() Search { return Search{q, pantry.Words(q.Text)} }

// Finds reports whether a dish answers the query. Every word has to begin a
// word of the dish.
func (s Search) Finds(f Facts) bool {
	for _, w := range s.words {
		if !strings.Contains(f.words, " "+w) {
			return false
		}
	}
	switch {
	case s.Period > 0 && !f.Fits(s.Period),
		s.Oven == "yes" && !f.Oven, s.Oven == "no" && f.Oven,
		s.Diet != "" && !f.Suits(s.Diet),
		s.Without != "" && !f.Without(s.Without),
		s.Skill != "" && !slices.Contains(f.Skills, s.Skill),
		s.Pence > 0 && (f.Pence > float64(s.Pence) || len(f.Unpriced) > 0),
		s.Month > 0 && !f.InSeason(s.Month):
		return false
	}
	return true
}
