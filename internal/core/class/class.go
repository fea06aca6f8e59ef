// Package class holds who is in a teaching group, what each needs and can do,
// and deals them into groups by rules.
package class

import (
	"fmt"
	"strings"
	"time"

	"freshapron/internal/core/exact"
	"freshapron/internal/core/pantry"
)

// Level is how sure somebody is in the kitchen; 0 is not said.
type Level int

// The levels.
const (
	Starting Level = iota + 1
	Practised
	Sure
)

// Levels lists them.
var Levels = []Level{Starting, Practised, Sure}

// Name returns the level in a word; empty where it is not said.
func (l Level) Name() string {
	return map[Level]string{Starting: "starting", Practised: "practised", Sure: "sure"}[l]
}

// LevelOf reads a level by its name or number; 0 where it is neither.
func LevelOf(s string) (Level, bool) {
	s = strings.ToLower(strings.TrimSpace(s))
	for i, l := range Levels {
		if s == l.Name() || s == string(rune('1'+i)) {
			return l, true
		}
	}
	return 0, s == ""
}

// Oldest is the greatest age that anybody in a class has.
const Oldest = 99

// A Learner of a class.
type Learner struct {
	ID            int64
	Code          string // the school's own number; may be empty
	Given, Family string
	Born          time.Time // the zero time where it is not said
	Level         Level
	Can           []string // skills that others can lean on
	Notes         string
	Needs         []Need // empty where whoever asks may not see them
	Likeness      int    // the same for those who eat the same, over 0; 0 is everything, or not known. See Alike
}

// Name returns the whole name.
func (l Learner) Name() string { return strings.TrimSpace(l.Given + " " + l.Family) }

// Age returns the age in years on a day; 0 where the birthday is not known.
func (l Learner) Age(on time.Time) int {
	if l.Born.IsZero() || on.Before(l.Born) {
		return 0
	}
	years := on.Year() - l.Born.Year()
	if on.Month() < l.Born.Month() || on.Month() == l.Born.Month() && on.Day() < l.Born.Day() {
		years--
	}
	return years
}

// Kind of a need.
type Kind string

// The kinds.
const (
	Allergy Kind = "allergy" // must not eat, perhaps not touch
	Diet    Kind = "diet"    // does not eat
	Access  Kind = "access"  // works in another way
)

// Kinds lists them.
var Kinds = []Kind{Allergy, Diet, Access}

// Severity of an allergy.
type Severity string

// How severe an allergy is. Of what is not said, the worst is taken.
const (
	Unsaid  Severity = ""
	Eaten   Severity = "eaten"   // a reaction to what is eaten
	Contact Severity = "contact" // to traces and touch: apart from everything else
)

// A Need is what somebody can't eat, or can't do in the usual way.
type Need struct {
	Kind     Kind
	What     string
	Severity Severity // of an allergy
	Helps    string   // what helps, in the words of those who know
}

// Says prints a need as a line: "allergy: nuts, by contact too".
func (n Need) Says() string {
	s := string(n.Kind) + ": " + n.What
	switch {
	case n.Kind != Allergy:
	case n.Severity == Eaten:
		s += ", when eaten"
	default:
		s += ", by contact too"
	}
	if n.Helps != "" {
		s += " (" + n.Helps + ")"
	}
	return s
}

// Apart reports whether the need asks for a bench, tools and an order of work
// apart from the others.
func (n Need) Apart() bool { return n.Kind == Allergy && n.Severity != Eaten }

// Common lists what people are often allergic to, in a word each.
func Common() []string {
	return []string{"coeliac", "wheat", "milk", "eggs", "nuts", "peanuts", "fish", "shellfish", "molluscs", "soya", "sesame", "celery", "mustard", "lupin", "sulphites"}
}

// allergens are those of the pantry behind the needs that are allergens.
var allergens = map[string][]pantry.Allergen{
	"gluten": {pantry.Wheat, pantry.Rye, pantry.Barley, pantry.Oats}, "milk": {pantry.Milk}, "eggs": {pantry.Eggs}, "peanuts": {pantry.Peanuts}, "fish": {pantry.Fish},
	"nuts":        {pantry.Almonds, pantry.Hazelnuts, pantry.Walnuts, pantry.Cashews, pantry.Pecans, pantry.Brazils, pantry.Pistachios, pantry.Macadamias},
	"crustaceans": {pantry.Crustaceans}, "molluscs": {pantry.Molluscs}, "soybeans": {pantry.Soya}, "sesame": {pantry.Sesame}, "celery": {pantry.Celery},
	"mustard": {pantry.Mustard}, "lupin": {pantry.Lupin}, "sulphites": {pantry.Sulphites},
}

// AllergensOf returns the allergens of the pantry behind a need that Understand
// gives; none where it is no allergen.
func AllergensOf(need string) []pantry.Allergen { return allergens[need] }

// FoodOf returns the food of a need such as "food:kiwi", in words; empty where
// it is none.
func FoodOf(need string) string {
	food, ok := strings.CutPrefix(need, "food:")
	if !ok {
		return ""
	}
	return strings.ReplaceAll(food, "-", " ")
}

// Unclear returns the words of a need about food that nobody has explained: until
// somebody does, whoever has it is asked before they eat.
func (n Need) Unclear() []string {
	if n.Kind == Access {
		return nil
	}
	return Understand(n.What).Asks
}

// IsCalled reports whether the need is what the words say, whatever their
// case.
func (n Need) IsCalled(what string) bool {
	return strings.EqualFold(strings.TrimSpace(n.What), strings.TrimSpace(what))
}

// CheckPace says what is wrong with a pace, by which the work of a class or a
// bench is multiplied; empty where it can be.
func CheckPace(pace exact.Number) string {
	if pace.Sign() <= 0 || pace.Cmp(exact.Int(5)) > 0 {
		return fmt.Sprintf("Pace: %s is not between 0.1 and 5. 1 is as the recipe says, 1.2 a fifth slower.", pace.Decimal(2))
	}
	return ""
}
