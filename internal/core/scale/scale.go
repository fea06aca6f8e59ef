// Package scale takes a recipe to benches and to a class: into how many
// groups learners fall, what each measures out and how, which ratios drift
// with the rounding, what fits the tins at hand, and what the class needs.
package scale

import (
	"fmt"
	"math"
	"slices"
	"strings"

	"freshapron/internal/core/exact"
	"freshapron/internal/core/measure"
	"freshapron/internal/core/pantry"
	"freshapron/internal/core/pattern"
	"freshapron/internal/core/recipe"
)

// Groups returns the sizes of the groups into which learners fall when they
// work in groups of the given size: the number of groups is the nearest that
// there is room for, halves towards larger groups, and sizes differ by at
// most one, larger groups first. Size 1 is everyone alone, however many.
func Groups(learners, size, room int) []int {
	if learners < 1 || size < 1 || room < 1 {
		return nil
	}
	n := learners
	if size > 1 {
		n = max(1, (2*learners+size-1)/(2*size)) // round(learners/size), halves down
		n = min(n, room)
	}
	sizes := make([]int, n)
	for i := range sizes {
		sizes[i] = learners / n
		if i < learners%n {
			sizes[i]++
		}
	}
	return sizes
}

// A Kitchen is what amounts are measured with and judged by.
type Kitchen struct {
	Pantry      *pantry.Pantry
	Instruments measure.Instruments
	Tolerances  pantry.Tolerances // the zero value is pantry.Usual
	Volume      bool              // spoons and cups come before weights
}

func (k Kitchen) tolerances() pantry.Tolerances {
	if k.Tolerances == (pantry.Tolerances{}) {
		return pantry.Usual
	}
	return k.Tolerances
}

// A Scaled ingredient is what a bench measures out.
type Scaled struct {
	Line      recipe.Ingredient
	Stock     pantry.Ingredient
	Known     bool             // the pantry knows it
	Exact     measure.Quantity // by the law; 0 where the line gives no amount
	Says      string           // what the law did, where that has to be said
	Tolerance float64          // share by which it may be off
	ByWeight  *measure.Instruction
	ByVolume  *measure.Instruction
	ByCount   *measure.Instruction // counted, or a part of a pack

	volume bool // comes first
}

// Name is what the pantry calls it, or the recipe where that is not known.
func (s Scaled) Name() string {
	if s.Known {
		return s.Stock.Name
	}
	return s.Line.Name
}

// Called is the name as it follows an amount: the recipe's own word, in the
// singular or the plural where the pantry knows it.
func (s Scaled) Called(q measure.Quantity) string {
	name := s.Line.Name
	if s.Line.Size != "" {
		name = s.Line.Size + " " + name
	}
	if !s.Known || s.Stock.Plural == "" || q.Unit.ID != measure.Each.ID {
		return name
	}
	one, many := s.Stock.Name, s.Stock.Plural
	more := q.Amount.Cmp(exact.Int(1)) > 0
	switch {
	case !slices.Equal(pantry.Words(one), pantry.Words(name)):
		return s.inNumber(name, more)
	case more:
		return many
	}
	return one
}

// inNumber puts another name of the ingredient into the singular or the plural, where the
// pantry has both: its last word in the pantry's own name, or the whole among the others
// ("egg", "eggs"). "2 cod" and "3 salmon" stay as they are.
func (s Scaled) inNumber(name string, more bool) string {
	own := s.Stock.Name
	if more {
		own = s.Stock.Plural
	}
	at := strings.LastIndex(name, " ") + 1
	if slices.Equal(pantry.Words(name[at:]), pantry.Words(lastWord(own))) {
		return name[:at] + lastWord(own)
	}
	for _, also := range s.Stock.Also {
		if slices.Equal(pantry.Words(also), pantry.Words(name)) && len(also) > len(name) == more {
			return also
		}
	}
	return name
}

func lastWord(s string) string { return s[strings.LastIndex(s, " ")+1:] }

// ways lists the instructions that there are.
func (s Scaled) ways() []*measure.Instruction {
	var out []*measure.Instruction
	for _, i := range []*measure.Instruction{s.ByWeight, s.ByVolume, s.ByCount} {
		if i != nil {
			out = append(out, i)
		}
	}
	return out
}

// equal is the difference in cost that nobody notices.
const equal = 0.005

// Best returns the instruction with the least cost, or nil.
func (s Scaled) Best() *measure.Instruction {
	var best *measure.Instruction
	for _, i := range s.ways() {
		if best == nil || i.Cost() < best.Cost()-equal {
			best = i
		}
	}
	return best
}

// First returns the instruction that is told: of the dimension that the kitchen
// has first, and the best one where that is not good enough: a scale that
// can't be trusted with so little, or spoons that come to another amount.
// Whoever prefers spoons and cups has taken into account how unevenly they are
// filled. It is nil where nothing measures it.
func (s Scaled) First() *measure.Instruction {
	preferred := s.ByWeight
	if s.volume || s.Stock.Tap() && s.ByVolume != nil { // nobody weighs water, least of all boiling

		preferred = s.ByVolume
	}
	if s.ByCount != nil && (s.Exact.Unit.Dimension == measure.Count || s.drained()) {
		preferred = s.ByCount
	}
	if s.drained() && preferred == s.ByCount {
		return preferred
	}
	if preferred == nil {
		return s.Best()
	}
	off := preferred.Error()
	if s.volume {
		off = math.Abs(preferred.Rounding)
	}
	if off <= s.Tolerance+1e-9 {
		return preferred
	}
	return s.Best()
}

// drained reports whether the amount is that of unopened tins, of which what is
// drained is used: the figure in grams would be weighed out of another thing.
func (s Scaled) drained() bool {
	return s.Line.Pack != nil && s.ByCount != nil && strings.Contains(strings.ToLower(s.Line.Note), "drain")
}

// drainedShare is what is left of the contents of a tin of beans or vegetables
// when it is drained; typical of the tins of schools' suppliers.
var drainedShare = exact.Frac(3, 5)

// Shown returns the instruction by which an amount is drawn: that which is told, but
// for a liquid that of the jug, since few weigh one, however much nearer that is. It
// is nil where nothing measures it.
func (s Scaled) Shown() *measure.Instruction {
	i := s.First()
	if i != nil && s.Stock.Pours && i.By == measure.Mass && s.ByVolume != nil {
		return s.ByVolume
	}
	return i
}

// Told returns the amount and the name as they stand on a card or a bench's
// sheet.
func (s Scaled) Told() (amount, name string) {
	i := s.First()
	switch {
	case i != nil:
		amount = i.Says
		if by := s.Shown(); by != i {
			amount += " or " + by.Says
		}
		return amount, s.Called(i.Measured)
	case s.Line.Given():
		return s.Exact.String(), s.Called(s.Exact)
	}
	return "to taste", s.Called(s.Exact)
}

// Measurable reports whether the best instruction is within the tolerance.
// What is added to taste, or as a film, needs no exact measure.
func (s Scaled) Measurable() bool {
	switch s.Line.Law {
	case recipe.Taste, recipe.Surface:
		return true
	}
	if !s.Line.Given() {
		return false
	}
	best := s.Best()
	return best != nil && best.Error() <= s.Tolerance+1e-9
}

// Amounts scales every ingredient of the recipe to so many pieces, measured
// with what is in the kitchen.
func (k Kitchen) Amounts(r recipe.Recipe, pieces int) []Scaled {
	return k.By(r, exact.Frac(int64(pieces), int64(max(1, r.Yield))))
}

// By scales every ingredient by a factor, over 0.
func (k Kitchen) By(r recipe.Recipe, factor exact.Number) []Scaled {
	out := make([]Scaled, len(r.Ingredients))
	for i, line := range r.Ingredients {
		out[i] = k.scaled(line, factor)
	}
	return out
}

func (k Kitchen) scaled(line recipe.Ingredient, factor exact.Number) Scaled {
	stock, known := k.Pantry.Find(line.Pantry)
	s := Scaled{Line: line, Stock: stock, Known: known, volume: k.Volume}
	role := line.Role
	if role == "" {
		role = stock.Role
	}
	s.Tolerance = k.tolerances().Of(role)
	s.Exact, s.Says = law(line, factor)
	if !line.Given() {
		return s
	}
	a := stock.Amount(s.Exact, line.Filling)
	if line.Pack != nil {
		a.Packs = append([]measure.PackSize{*line.Pack}, a.Packs...)
	}
	s.ByWeight, s.ByVolume, s.ByCount = k.by(measure.Mass, a), k.by(measure.Volume, a), k.by(measure.Count, a)
	if line.Law == recipe.Whole {
		s.ByCount = wholes(s.Exact)
		s.Says = ""
	}
	if s.drained() {
		g := measure.Quantity{Amount: s.Exact.Amount.Mul(drainedShare), Unit: s.Exact.Unit}
		s.Says = fmt.Sprintf("the size is of the whole tin: drained, about %s (typical)", g)
		s.ByWeight, s.ByVolume = nil, nil
	}
	return s
}

func (k Kitchen) by(d measure.Dimension, a measure.Amount) *measure.Instruction {
	i, ok := k.Instruments.By(d, a)
	if !ok {
		return nil
	}
	return &i
}

// wholes takes the nearest whole number, at least one.
func wholes(q measure.Quantity) *measure.Instruction {
	m := measure.Quantity{Amount: exact.Int(max(1, q.Amount.Round())), Unit: q.Unit}
	return &measure.Instruction{
		Says: m.String(), Measured: m, Actions: 1, By: measure.Count, Way: measure.ByHand,
		Rounding: m.Amount.Div(q.Amount).Sub(exact.Int(1)).Float(),
	}
}

var deep = pattern.Must(`(?i)\bdeep\b`)

// law applies the law of an ingredient and says what it did where that is
// not plain proportion.
func law(line recipe.Ingredient, factor exact.Number) (measure.Quantity, string) {
	proportional := line.Quantity.Times(factor)
	one := exact.Int(1)
	switch line.Law {
	case recipe.Taste:
		switch {
		case !line.Given():
			return line.Quantity, "to taste"
		case factor.Cmp(one) > 0:
			return line.Quantity, "a start, not multiplied: taste, then add"
		}
		return proportional, "a start: taste, then add"
	case recipe.Fixed, recipe.Surface:
		vessels := exact.Int(factor.Ceil())
		says := "once for each pan"
		switch {
		case line.Law == recipe.Surface && deep.MatchString(line.Name+" "+line.Note):
			says = "deep fat: a third of the pan and no more, 8 cm deep in a fryer; an adult fries"
		case line.Law == recipe.Surface:
			says = "enough for a film on the pan"
		}
		if vessels.Cmp(one) > 0 {
			says += fmt.Sprintf(": %d of them", vessels.Floor())
		}
		return line.Quantity.Times(vessels), says
	}
	return proportional, ""
}

// Used is what a bench really uses up of a line by the factor: whole ones of
// what is taken whole.
func Used(line recipe.Ingredient, factor exact.Number) measure.Quantity {
	q, _ := law(line, factor)
	if line.Law == recipe.Whole && line.Given() {
		return wholes(q).Measured
	}
	return q
}

// A Need is what a class uses of one ingredient.
type Need struct {
	Benches measure.Quantity // all benches together
	Total   measure.Quantity // with the demonstration and the spares
}

// Class adds up what benches of the given pieces need, and what a
// demonstration and spares of so many pieces each add.
func (k Kitchen) Class(r recipe.Recipe, benches []int, extra []int) []Need {
	needs := make([]Need, len(r.Ingredients))
	for i, line := range r.Ingredients {
		zero := measure.Quantity{Unit: line.Unit}
		needs[i] = Need{zero, zero}
	}
	add := func(pieces int, bench bool) {
		factor := exact.Frac(int64(pieces), int64(max(1, r.Yield)))
		for i, line := range r.Ingredients {
			q := Used(line, factor)
			if bench {
				needs[i].Benches.Amount = needs[i].Benches.Amount.Add(q.Amount)
			}
			needs[i].Total.Amount = needs[i].Total.Amount.Add(q.Amount)
		}
	}
	for _, p := range benches {
		add(p, true)
	}
	for _, p := range extra {
		add(p, false)
	}
	for i, line := range r.Ingredients {
		needs[i] = Need{k.Bulk(line, needs[i].Benches), k.Bulk(line, needs[i].Total)}
	}
	return needs
}

// Bulk returns an amount of a line as it is fetched for a whole class.
func (k Kitchen) Bulk(line recipe.Ingredient, q measure.Quantity) measure.Quantity {
	stock, _ := k.Pantry.Find(line.Pantry)
	return stock.Amount(q, "").Bulk()
}

// Cost returns what a recipe's amounts cost by the factor, in pence, packs
// shared out, with the names of what has no price.
func (k Kitchen) Cost(r recipe.Recipe, factor exact.Number) (pence exact.Number, unpriced []string) {
	for _, line := range r.Ingredients {
		if !line.Given() {
			continue
		}
		stock, ok := k.Pantry.Find(line.Pantry)
		c, priced := stock.Pence(Used(line, factor))
		if !ok || !priced {
			unpriced = append(unpriced, line.Name)
			continue
		}
		pence = pence.Add(c)
	}
	return pence, unpriced
}
