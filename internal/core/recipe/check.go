package recipe

import (
	"fmt"
	"slices"
	"strings"

	"freshapron/internal/core/exact"
	"freshapron/internal/core/pantry"
)

// A Finding of the recipe check: where, what and why, and how to mend it.
type Finding struct {
	Rule  string // "unused-ingredient"
	Where string // "ingredients[3]", "steps[2]", "yield"
	Says  string
	Mend  string
	Key   string // of the rule and what it is about, whatever its place in the list
	Aside string // the reason for which somebody has set it aside
	fix   func(*Recipe)
}

// Mendable reports whether the mend can be made by a press.
func (f Finding) Mendable() bool { return f.fix != nil }

// A checker collects what the rules find.
type checker struct {
	Recipe
	pantry *pantry.Pantry
	rule   string
	found  []Finding
	said   [][]exact.Number // by each step's text, in minutes; see minutesIn
}

// minutesIn is MinutesIn of the text of a step, read once.
func (c *checker) minutesIn(n int) []exact.Number {
	if c.said == nil {
		c.said = make([][]exact.Number, len(c.Steps))
		for k, s := range c.Steps {
			c.said[k] = MinutesIn(s.Text)
		}
	}
	return c.said[n]
}

// add reports a finding about a subject at a place.
func (c *checker) add(where, subject, says, mend string, fix func(*Recipe)) {
	c.found = append(c.found, Finding{Rule: c.rule, Where: where, Says: says, Mend: mend, Key: c.rule + " " + strings.ToLower(subject), fix: fix})
}

// Rules of the check, in the order in which a recipe is read.
var rules = []struct {
	name string
	run  func(*checker)
}{
	{"no-yield", (*checker).noYield},
	{"no-ingredients", (*checker).noIngredients},
	{"no-steps", (*checker).noSteps},
	{"unknown-ingredient", (*checker).unknownIngredient},
	{"no-amount", (*checker).noAmount},
	{"unit-misfit", (*checker).unitMisfit},
	{"amounts-differ", (*checker).amountsDiffer},
	{"part-of-an-egg", (*checker).partOfAnEgg},
	{"twice-listed", (*checker).twiceListed},
	{"unusual-ratio", (*checker).unusualRatio},
	{"unusual-amount", (*checker).unusualAmount},
	{"yield-contradicts", (*checker).yieldContradicts},
	{"unused-ingredient", (*checker).unusedIngredient},
	{"unlisted-ingredient", (*checker).unlistedIngredient},
	{"steps-contradict", (*checker).stepsContradict},
	{"oven-settings-differ", (*checker).ovenSettingsDiffer},
	{"oven-out-of-range", (*checker).ovenOutOfRange},
	{"impossible-time", (*checker).impossibleTime},
	{"baked-too-soon", (*checker).bakedTooSoon},
	{"oven-no-temperature", (*checker).ovenNoTemperature},
	{"oven-not-heated", (*checker).ovenNotHeated},
	{"times-differ", (*checker).timesDiffer},
	{"total-time-differs", (*checker).totalTimeDiffers},
	{"raw-not-cooked", (*checker).rawNotCooked},
	{"soaked-from-a-tin", (*checker).soakedFromATin},
	{"beans-not-boiled", (*checker).beansNotBoiled},
	{"deep-fat", (*checker).deepFat},
	{"free-from-title", (*checker).freeFromTitle},
	{"no-probing", (*checker).noProbing},
	{"raw-hygiene", (*checker).rawHygiene},
	{"no-end-sign", (*checker).noEndSign},
	{"no-caution", (*checker).noCaution},
	{"equipment-missing", (*checker).equipmentMissing},
	{"no-hand-washing", (*checker).noHandWashing},
	{"no-clearing", (*checker).noClearing},
	{"allergen-not-declared", (*checker).allergenNotDeclared},
}

// RuleNames lists the rules of the check.
func RuleNames() []string {
	var out []string
	for _, r := range rules {
		out = append(out, r.name)
	}
	return out
}

// Check reads a recipe as a colleague would who has to teach it tomorrow, and
// returns what is wrong or missing. Findings that were set aside stay in the
// list with their reason.
func Check(r Recipe, p *pantry.Pantry) []Finding {
	c := &checker{Recipe: r, pantry: p}
	for _, rule := range rules {
		c.rule = rule.name
		rule.run(c)
	}
	for i := range c.found {
		f := &c.found[i]
		if at := slices.IndexFunc(r.SetAside, func(a Aside) bool { return a.Key == f.Key }); at >= 0 {
			f.Aside = r.SetAside[at].Reason
		}
	}
	return c.found
}

// Open returns the findings that nobody has set aside.
func Open(findings []Finding) []Finding {
	return slices.DeleteFunc(slices.Clone(findings), func(f Finding) bool { return f.Aside != "" })
}

// Mend returns the recipe with the finding of the given key mended, and
// whether there was one that can be mended.
func Mend(r Recipe, p *pantry.Pantry, key string) (Recipe, bool) {
	for _, f := range Check(r, p) {
		if f.Key == key && f.fix != nil {
			mended := r.Clone()
			f.fix(&mended)
			return mended, true
		}
	}
	return r, false
}

// Clone returns a copy whose lists can be changed.
func (r Recipe) Clone() Recipe {
	r.Ingredients = slices.Clone(r.Ingredients)
	r.Steps = slices.Clone(r.Steps)
	r.Equipment = slices.Clone(r.Equipment)
	r.Contains = slices.Clone(r.Contains)
	r.SetAside = slices.Clone(r.SetAside)
	return r
}

func ingredientAt(n int) string { return fmt.Sprintf("ingredients[%d]", n) }
func stepAt(n int) string       { return fmt.Sprintf("steps[%d]", n) }

// wording returns all that a step says.
func (s Step) wording() string {
	return strings.Join([]string{s.Title, s.Text, s.LookFor, s.Mistake, s.Hazard, strings.Join(s.Takes, ", ")}, ". ")
}

// listed joins names: "a, b and c".
func listed(names []string) string {
	if len(names) < 2 {
		return strings.Join(names, "")
	}
	return strings.Join(names[:len(names)-1], ", ") + " and " + names[len(names)-1]
}
