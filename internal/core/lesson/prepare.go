package lesson

import (
	"cmp"
	"fmt"
	"slices"

	"freshapron/internal/core/exact"
	"freshapron/internal/core/fit"
	"freshapron/internal/core/measure"
	"freshapron/internal/core/pantry"
	"freshapron/internal/core/recipe"
	"freshapron/internal/core/words"
)

// An OvenUse is what has to be done about the ovens at one temperature.
type OvenUse struct {
	Celsius   exact.Number
	Units     []string
	On        float64 // minute at which they are switched on
	FirstTray float64 // minute at which the first tray goes in
	LastTray  float64 // last moment for the first tray that is pressed
	Trays     int
}

// Ovens returns the use of everything that has a temperature, by the first
// tray.
func Ovens(f fit.Lesson, p *fit.Plan) []OvenUse {
	var out []OvenUse
	for _, t := range fit.Trays(f, p) {
		k := slices.IndexFunc(out, func(o OvenUse) bool { return o.Celsius.Cmp(t.Celsius) == 0 })
		if k < 0 {
			k = len(out)
			out = append(out, OvenUse{Celsius: t.Celsius, On: onAt(f, t.Equipment), FirstTray: t.In, LastTray: t.LatestIn})
		}
		o := &out[k]
		o.FirstTray, o.LastTray = min(o.FirstTray, t.In), min(o.LastTray, t.LatestIn)
		o.Trays++
		if !slices.Contains(o.Units, t.Unit) {
			o.Units = append(o.Units, t.Unit)
		}
	}
	return out
}

func onAt(f fit.Lesson, equipment string) float64 {
	for _, e := range f.Equipment {
		if e.ID == equipment {
			return e.OnAt.Float()
		}
	}
	return 0
}

// Sets says how many sets of ingredients there are to lay out.
func (l Lesson) Sets() string {
	s := words.Plural(len(l.Benches()), "set", "sets")
	if slices.ContainsFunc(l.Menu, func(c Course) bool { return c.Demo > 0 }) {
		s += ", the demonstration"
	}
	if l.Spare > 0 {
		s += fmt.Sprintf(" and %d spare", l.Spare)
	}
	return s
}

// A Fetched is an ingredient with how much of it the whole lesson uses.
type Fetched struct {
	Stock pantry.Ingredient
	Name  string // of the stock, or of the line where the pantry does not know it
	Total measure.Quantity
}

// Says prints it: "2 kg self-raising flour".
func (f Fetched) Says() string {
	if f.Stock.ID == "" {
		return f.Total.String() + " " + f.Name
	}
	return f.Stock.Of(f.Total)
}

// Fetch lists what the lesson uses of each ingredient that stands in the
// store, all courses together, the most by weight first. What benches swap in
// is not among it; see Swapped.
func (l Lesson) Fetch() []Fetched {
	var out []Fetched
	add := func(line recipe.Ingredient, total measure.Quantity) {
		stock, known := l.Pantry.Find(line.Pantry)
		if stock.Tap() || !line.Given() || total.Amount.Sign() == 0 {
			return
		}
		f := Fetched{Stock: stock, Name: line.Name}
		if known {
			f.Name = stock.Name
		}
		// One ingredient can stand in several parts and dishes.
		same := slices.IndexFunc(out, func(o Fetched) bool {
			return o.Name == f.Name && o.Total.Unit.Dimension == total.Unit.Dimension
		})
		if same < 0 {
			same = len(out)
			f.Total.Unit = total.Unit
			out = append(out, f)
		}
		out[same].Total = out[same].Total.Plus(total)
	}
	for n, needs := range l.Needs() {
		for i, need := range needs {
			add(l.Menu[n].Recipe.Ingredients[i], need.Total)
		}
	}
	for _, c := range l.Chosen() {
		add(c.Line, c.Need.Total)
	}
	size := func(f Fetched) float64 {
		n := f.Total.Base().Float()
		if f.Total.Unit.Dimension == measure.Count {
			n *= f.Stock.One.Float()
		}
		return n
	}
	slices.SortStableFunc(out, func(a, b Fetched) int { return cmp.Compare(size(b), size(a)) })
	return out
}
