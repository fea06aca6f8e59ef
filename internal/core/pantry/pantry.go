// Package pantry knows the ingredients of a school kitchen: how dense they
// are when they are filled in this way or that, how they are measured, which
// allergens they hold, who does not eat them, what they cost and how they keep.
//
// The shipped figures are typical ones and made-up prices; a school weighs and
// prices its own. What is unknown is never taken as safe.
package pantry

import (
	"slices"
	"strings"

	"freshapron/internal/core/exact"
	"freshapron/internal/core/measure"
)

// Role says what an ingredient does in a mixture, and with it how far its
// amount may be off.
type Role string

// The roles of ingredients.
const (
	Agent     Role = "agent"     // raises, sets or salts
	Structure Role = "structure" // flour, fat, sugar, egg and liquid of a mixture
	Other     Role = "other"     // all else
)

// Roles lists them.
var Roles = []Role{Agent, Structure, Other}

// Tolerances are the shares by which amounts may be off, by role.
type Tolerances struct{ Agent, Structure, Other float64 }

// Usual tolerances; a school sets its own.
var Usual = Tolerances{Agent: 0.10, Structure: 0.05, Other: 0.10}

// Of returns the tolerance of a role.
func (t Tolerances) Of(r Role) float64 {
	switch r {
	case Agent:
		return t.Agent
	case Structure:
		return t.Structure
	}
	return t.Other
}

// A Filling is a way to fill a spoon or a cup, and how dense the ingredient
// then lies in it.
type Filling struct {
	Name    string // spooned, scooped, packed, loose, level
	Density measure.Density
}

// A Pack is a size in which an ingredient is bought.
type Pack struct {
	Size  measure.Quantity
	Word  string // bag, tin
	Pence int
}

// An Ingredient of the pantry.
type Ingredient struct {
	ID        string
	Name      string
	Plural    string    // of what is counted
	Also      []string  // other words for it
	Fillings  []Filling // the usual one first; none where volume makes no sense
	Pours     bool      // measured in a jug
	Role      Role
	Allergens []Allergen
	May       []Allergen   // in some products of this name and not in others: the label says
	Label     Label        // what the packet in the cupboard says
	From      []Trait      // what it comes from
	One       exact.Number // grams of one, ready to use; zero where it isn't counted
	Bought    exact.Number // grams of one with shell, skin and stone; zero where that is the same
	Waste     exact.Number // the share of what is bought that is trimmed off, 0 to under 1; see Trimmed
	Packs     []Pack
	Place     string // where it is kept
	Keeps     int    // days; 0 is unknown
	Freezes   int    // days that it keeps in the freezer; 0 where it should not be frozen or nobody knows
	Season    Season
	Source    string // of density and mass
	Unknown   bool   // allergens and origin have not been looked up
}

// A Label is what somebody has read on a packet, and when: "2026-11-27".
type Label struct{ Says, On string }

// ToRead returns the allergens for which the label has to be read: products of
// this name differ, and nobody has noted what the packet says. For who needs to
// know that is not free from anything.
func (i Ingredient) ToRead() []Allergen {
	if i.Label.On != "" {
		return nil
	}
	return slices.DeleteFunc(slices.Clone(i.May), func(a Allergen) bool { return slices.Contains(i.Allergens, a) })
}

// Typical marks figures that are usual rather than measured here.
const Typical = "typical household measure; national food tables"

// Tap reports whether it comes out of the wall: nobody buys it or lays it out.
func (i Ingredient) Tap() bool { return i.ID == "water" }

// Density returns the density as it is usually filled.
func (i Ingredient) Density() measure.Density { return i.Filled("") }

// Filled returns the density in the given filling; the usual one where the
// ingredient does not know it.
func (i Ingredient) Filled(filling string) measure.Density {
	if len(i.Fillings) == 0 {
		return measure.Density{}
	}
	for _, f := range i.Fillings {
		if f.Name == filling {
			return f.Density
		}
	}
	return i.Fillings[0].Density
}

// Counted reports whether the ingredient is counted rather than measured.
func (i Ingredient) Counted() bool { return i.One.Sign() > 0 }

// Of returns the name as it follows an amount: 1 leek, 14 leeks, 2 kg flour.
func (i Ingredient) Of(q measure.Quantity) string {
	if i.Plural != "" && q.Unit.ID == measure.Each.ID && q.Amount.Cmp(exact.Int(1)) > 0 {
		return q.String() + " " + i.Plural
	}
	return q.String() + " " + i.Name
}

// Amount returns a quantity of it with what helps to measure it.
func (i Ingredient) Amount(q measure.Quantity, filling string) measure.Amount {
	a := measure.Amount{Quantity: q, Density: i.Filled(filling), Pours: i.Pours}
	for _, p := range i.Packs {
		word, ok := measure.UnitOf(p.Word)
		if !ok || word.Dimension != measure.Count {
			word = measure.Unit{Symbol: p.Word, Plural: p.Word + "s"}
		}
		a.Packs = append(a.Packs, measure.PackSize{Size: p.Size, Word: word})
	}
	return a
}

// Grams returns the mass of a quantity of it, and whether that is known.
func (i Ingredient) Grams(q measure.Quantity) (exact.Number, bool) {
	switch q.Unit.Dimension {
	case measure.Mass:
		return q.Base(), true
	case measure.Volume:
		if d := i.Density(); d.Known() {
			return d.ToMass(q).Amount, true
		}
	case measure.Count:
		if i.Counted() && (q.Unit.ID == measure.Each.ID || strings.Contains(i.Name, q.Unit.Symbol)) {
			return q.Amount.Mul(i.One), true
		}
		for _, p := range i.Packs {
			if p.Word == q.Unit.ID && p.Size.Unit.Dimension != measure.Count {
				return i.Grams(p.Size.Times(q.Amount))
			}
			if p.Word == q.Unit.ID && i.Counted() {
				return p.Size.Amount.Mul(q.Amount).Mul(i.One), true
			}
		}
	}
	return exact.Number{}, false
}

// BoughtGrams is Grams as it is bought: with shell, skin and stone.
func (i Ingredient) BoughtGrams(q measure.Quantity) (exact.Number, bool) {
	g, ok := i.Grams(q)
	if ok && q.Unit.Dimension == measure.Count && i.Bought.Sign() > 0 && i.Counted() {
		g = g.Mul(i.Bought).Div(i.One)
	}
	return g, ok
}

// Trimmed returns the share of what is bought that is trimmed off: what is said
// of it or, of what is counted, what one weighs as bought and ready to use.
func (i Ingredient) Trimmed() exact.Number {
	if i.Waste.Sign() > 0 || i.Bought.Cmp(i.One) <= 0 || !i.Counted() {
		return i.Waste
	}
	return exact.Int(1).Sub(i.One.Div(i.Bought))
}

// Pence returns what a quantity costs at the lowest price for its measure,
// packs shared out: what is used, not what is bought. It reports whether there
// is a price.
func (i Ingredient) Pence(q measure.Quantity) (exact.Number, bool) {
	if i.Tap() || q.Amount.Sign() == 0 {
		return exact.Number{}, true
	}
	best, found := exact.Number{}, false
	for _, p := range i.Packs {
		share, ok := i.share(q, p)
		if !ok {
			continue
		}
		if c := share.Mul(exact.Int(int64(p.Pence))); !found || c.Less(best) {
			best, found = c, true
		}
	}
	return best, found
}

// share returns which part of a pack, or how many packs, a quantity is.
func (i Ingredient) share(q measure.Quantity, p Pack) (exact.Number, bool) {
	if q.Unit.Dimension == p.Size.Unit.Dimension && (q.Unit.Dimension != measure.Count || q.Unit.ID == p.Size.Unit.ID) {
		return q.Base().Div(p.Size.Base()), true
	}
	have, ok := i.BoughtGrams(q)
	size, ok2 := i.BoughtGrams(p.Size)
	if !ok || !ok2 || size.Sign() == 0 {
		return exact.Number{}, false
	}
	return have.Div(size), true
}

// A Season is the months in which something grows here, 1 to 12; the zero
// value is all the year. From may be after To: 9 to 4 is over the winter.
type Season struct{ From, To int }

// Has reports whether the month, 1 to 12, is in the season.
func (s Season) Has(month int) bool {
	switch {
	case s == Season{}:
		return true
	case s.From <= s.To:
		return s.From <= month && month <= s.To
	}
	return month >= s.From || month <= s.To
}

// A Pantry is the ingredients of a school, found by id and by name.
type Pantry struct {
	list  []Ingredient
	byID  map[string]int
	names map[string]int // words of a name, folded, to the ingredient
	// others that have the same name, after the one in names
	others map[string][]int
}

// New returns a pantry of the given ingredients; of two with one id the later
// counts.
func New(list []Ingredient) *Pantry {
	p := &Pantry{byID: map[string]int{}, names: map[string]int{}, others: map[string][]int{}}
	for _, i := range list {
		if at, ok := p.byID[i.ID]; ok {
			p.list[at] = i
			continue
		}
		p.byID[i.ID] = len(p.list)
		p.list = append(p.list, i)
	}
	p.index()
	return p
}

// With returns the pantry with some ingredients changed or added.
func (p *Pantry) With(changed []Ingredient) *Pantry {
	if len(changed) == 0 {
		return p
	}
	return New(append(slices.Clone(p.list), changed...))
}

// List returns the ingredients in order of their names.
func (p *Pantry) List() []Ingredient {
	out := slices.Clone(p.list)
	slices.SortFunc(out, func(a, b Ingredient) int { return strings.Compare(strings.ToLower(a.Name), strings.ToLower(b.Name)) })
	return out
}

// Find returns the ingredient with the given id.
func (p *Pantry) Find(id string) (Ingredient, bool) {
	i, ok := p.byID[id]
	if !ok {
		return Ingredient{}, false
	}
	return p.list[i], true
}
