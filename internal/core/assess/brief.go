package assess

import (
	"fmt"
	"slices"
	"strings"
	"time"

	"freshapron/internal/core/class"
	"freshapron/internal/core/measure"
	"freshapron/internal/core/pantry"
	"freshapron/internal/core/words"
)

// A Dish is what a brief looks at in a dish.
type Dish struct {
	ID, Title string
	Tags      []string            // what it is: hot, cold, starter, bite-sized, garnish …
	Of        map[string][]string // by Variety; one that is not there is not known
	Main      string              // ingredient; empty is not known
	Skills    []string
	Pence     float64           // of what one learner makes
	Unpriced  []string          // ingredients of which no price is known
	Allergens []pantry.Allergen // that it holds
	May       []pantry.Allergen // whose labels have to be read
	Unknown   bool              // something in it is not known
	Diets     []pantry.Verdict  // for each of pantry.Diets
	Minutes   float64           // of hands-on work
}

// Varieties are what a brief can ask to be different.
var Varieties = []string{"colours", "textures", "shapes", "ways of cooking"}

// A Chosen dish.
type Chosen struct {
	Dish
	Side     bool // an accompaniment
	Portions int
}

// A Choice is what a learner makes, and which papers have been handed in.
type Choice struct {
	Dishes []Chosen
	Papers []string
}

// Pence is what a choice costs, as far as prices are known.
func (c Choice) Pence() float64 {
	sum := 0.0
	for _, d := range c.Dishes {
		sum += d.Pence
	}
	return sum
}

// Minutes are those of hands-on work in a choice.
func (c Choice) Minutes() float64 {
	sum := 0.0
	for _, d := range c.Dishes {
		sum += d.Minutes
	}
	return sum
}

// Titles are those of the dishes and of the accompaniments.
func (c Choice) Titles() (dishes, sides []string) {
	for _, d := range c.Dishes {
		if d.Side {
			sides = append(sides, d.Title)
		} else {
			dishes = append(dishes, d.Title)
		}
	}
	return dishes, sides
}

// A State says whether a condition is met.
type State string

// The states.
const (
	Met      State = "met"
	NotMet   State = "not met"
	NotKnown State = "not known"
)

// A Verdict on a condition.
type Verdict struct {
	Says  string // the condition, as a sentence
	State State
	Why   string
}

// A Condition of a brief.
type Condition struct {
	Line  string // as it was written
	Says  string // as a sentence
	Paper string // that it asks to be handed in; empty where it asks for something else
	By    time.Time
	Tag   string // that nothing is known to be said of any dish by; empty for none
	check func(Choice) (State, string)
	alone func(Dish) bool // whether a dish can be chosen at all; nil where any can
	mains int             // how many dishes it asks for
	sides int             // how many accompaniments
}

// Check says how a choice stands to the condition.
func (c Condition) Check(of Choice) Verdict {
	state, why := c.check(of)
	return Verdict{c.Says, state, why}
}

// A Brief is what is asked of everybody.
type Brief []Condition

// Check says how a choice stands to each condition.
func (b Brief) Check(of Choice) []Verdict {
	out := make([]Verdict, len(b))
	for i, c := range b {
		out[i] = c.Check(of)
	}
	return out
}

// asked is how many dishes and accompaniments a brief asks for.
func (b Brief) asked() (mains, sides int) {
	for _, c := range b {
		mains, sides = max(mains, c.mains), max(sides, c.sides)
	}
	return mains, sides
}

func counted(want int, side bool) Condition {
	c := Condition{Says: words.Plural(want, "dish", "dishes"), mains: want}
	if side {
		c = Condition{Says: words.Plural(want, "accompaniment", "accompaniments"), sides: want}
	}
	c.check = func(of Choice) (State, string) {
		have := 0
		for _, d := range of.Dishes {
			if d.Side == side {
				have++
			}
		}
		return met(have == want), words.Plural(have, "is chosen", "are chosen")
	}
	return c
}

func met(yes bool) State {
	if yes {
		return Met
	}
	return NotMet
}

func portions(n int) Condition {
	return Condition{Says: words.Plural(n, "portion", "portions") + " of each", check: func(of Choice) (State, string) {
		var less []string
		for _, d := range of.Dishes {
			switch {
			case d.Portions == 0:
				return NotKnown, "how many of " + d.Title + " is not said"
			case d.Portions < n:
				less = append(less, fmt.Sprintf("%d of %s", d.Portions, d.Title))
			}
		}
		return met(less == nil && len(of.Dishes) > 0), words.Names(less)
	}}
}

func skillsOf(n int, list []string) Condition {
	return Condition{Says: fmt.Sprintf("at least %d of %s", n, words.Names(list)), check: func(of Choice) (State, string) {
		var shown, perhaps []string
		for _, s := range list {
			in := func(shows func(own string) bool) (string, bool) {
				at := slices.IndexFunc(of.Dishes, func(d Chosen) bool { return slices.ContainsFunc(d.Skills, shows) })
				if at < 0 {
					return "", false
				}
				return s + " in " + of.Dishes[at].Title, true
			}
			if says, ok := in(func(own string) bool { return within(s, own) }); ok {
				shown = append(shown, says)
			} else if says, ok := in(func(own string) bool { return within(own, s) }); ok {
				perhaps = append(perhaps, says) // "bake" may be to bake blind
			}
		}
		switch {
		case len(shown) >= n:
			return Met, words.Names(shown)
		case len(shown)+len(perhaps) >= n:
			return NotKnown, "perhaps " + words.Names(perhaps)
		case shown == nil:
			return NotMet, "none of them is shown by what is chosen"
		}
		return NotMet, words.Names(shown)
	}}
}

// within reports whether words stand in a text as words of their own.
func within(what, text string) bool {
	return strings.Contains(" "+strings.ToLower(text)+" ", " "+strings.ToLower(what)+" ")
}

func cost(pence float64) Condition {
	return Condition{Says: "costs at most " + measure.Price(pence), check: func(of Choice) (State, string) {
		sum, unpriced := of.Pence(), []string(nil)
		for _, d := range of.Dishes {
			for _, u := range d.Unpriced {
				if !slices.Contains(unpriced, u) {
					unpriced = append(unpriced, u)
				}
			}
		}
		switch {
		case sum > pence:
			return NotMet, "it costs " + measure.Price(sum)
		case unpriced != nil:
			return NotKnown, fmt.Sprintf("%s without %s, of which no price is known", measure.Price(sum), words.Names(unpriced[:min(3, len(unpriced))]))
		}
		return Met, "it costs " + measure.Price(sum)
	}}
}

func different(n int, variety string) Condition {
	return Condition{Says: fmt.Sprintf("at least %d %s", n, variety), check: func(of Choice) (State, string) {
		var have, unknown []string
		for _, d := range of.Dishes {
			own, known := d.Of[variety]
			if !known {
				unknown = append(unknown, d.Title)
			}
			for _, v := range own {
				if !slices.Contains(have, v) {
					have = append(have, v)
				}
			}
		}
		slices.Sort(have)
		switch {
		case len(have) >= n:
			return Met, words.Names(have)
		case unknown != nil:
			return NotKnown, fmt.Sprintf("of %s it is not said", words.Names(unknown))
		case have == nil:
			return NotMet, "nothing is chosen"
		}
		return NotMet, "only " + words.Names(have)
	}}
}

func mainOnce() Condition {
	return Condition{Says: "no main ingredient twice", check: func(of Choice) (State, string) {
		by, unknown := map[string]string{}, ""
		for _, d := range of.Dishes {
			switch other, twice := by[d.Main]; {
			case d.Main == "":
				unknown = d.Title
			case twice:
				return NotMet, fmt.Sprintf("%s is in %s and in %s", d.Main, other, d.Title)
			default:
				by[d.Main] = d.Title
			}
		}
		if unknown != "" {
			return NotKnown, "the main ingredient of " + unknown + " is not said"
		}
		return Met, ""
	}}
}

// without reads what must not be in a dish, in the words in which needs are read.
func without(what string) (Condition, error) {
	meant := class.Understand(what)
	var list []pantry.Allergen
	all := len(meant.Needs) > 0 && len(meant.Asks) == 0
	for _, need := range meant.Needs {
		own := class.AllergensOf(need)
		list, all = append(list, own...), all && len(own) > 0
	}
	if !all {
		return Condition{}, fmt.Errorf("“%s” is no allergen that dishes are looked through for", words.Short(what))
	}
	among := func(of []pantry.Allergen) bool {
		return slices.ContainsFunc(list, func(a pantry.Allergen) bool { return slices.Contains(of, a) })
	}
	has := func(d Dish) bool { return among(d.Allergens) }
	return Condition{Says: "without " + what, alone: func(d Dish) bool { return !has(d) }, check: func(of Choice) (State, string) {
		var with, unknown []string
		for _, d := range of.Dishes {
			if has(d.Dish) {
				with = append(with, d.Title)
			} else if d.Unknown || among(d.May) {
				unknown = append(unknown, d.Title)
			}
		}
		switch {
		case with != nil:
			return NotMet, "it is in " + words.Names(with)
		case unknown != nil:
			return NotKnown, "labels of " + words.Names(unknown) + " have to be read"
		}
		return Met, ""
	}}, nil
}

func diet(name string) (Condition, error) {
	at := slices.IndexFunc(pantry.Diets, func(d pantry.Diet) bool { return d.Name == name })
	if at < 0 {
		var names []string
		for _, d := range pantry.Diets {
			names = append(names, d.Name)
		}
		return Condition{}, fmt.Errorf("“%s” is no diet that dishes are looked through for: %s are", words.Short(name), words.Names(names))
	}
	says := "all " + name
	if what, ok := strings.CutPrefix(name, "no "); ok {
		says = "without " + what
	}
	return Condition{Says: says, alone: func(d Dish) bool { return d.Diets[at] != pantry.Never }, check: func(of Choice) (State, string) {
		var not, ask []string
		for _, d := range of.Dishes {
			switch d.Diets[at] {
			case pantry.Suits:
			case pantry.Never:
				not = append(not, d.Title)
			default:
				ask = append(ask, d.Title)
			}
		}
		switch {
		case not != nil:
			return NotMet, words.Names(not) + " is not"
		case ask != nil:
			return NotKnown, "of " + words.Names(ask) + " it is not known"
		}
		return Met, ""
	}}, nil
}

func paper(name string, by time.Time) Condition {
	return Condition{Says: fmt.Sprintf("the %s is handed in by %s", name, by.Format("2 January")), Paper: name, By: by, check: func(of Choice) (State, string) {
		return met(slices.Contains(of.Papers, name)), ""
	}}
}

// unsaid asks for what no dish is said to be.
func unsaid(says, tag string) Condition {
	return Condition{Says: says, Tag: tag, check: func(Choice) (State, string) {
		return NotKnown, fmt.Sprintf("no dish is said to be “%s”", tag)
	}}
}

func tagged(n int, most bool, tag string) Condition {
	says, enough := "at least", func(have int) bool { return have >= n }
	if most {
		says, enough = "at most", func(have int) bool { return have <= n }
	}
	return Condition{Says: fmt.Sprintf("%s %d %s", says, n, tag), check: func(of Choice) (State, string) {
		var are, unknown []string
		for _, d := range of.Dishes {
			switch {
			case slices.Contains(d.Tags, tag):
				are = append(are, d.Title)
			case len(d.Tags) == 0:
				unknown = append(unknown, d.Title)
			}
		}
		least, best := len(are), len(are)+len(unknown)
		switch {
		case enough(least) && enough(best):
			return Met, words.Names(are)
		case !enough(least) && !enough(best):
			if are == nil {
				return NotMet, "none is"
			}
			return NotMet, words.Names(are)
		}
		return NotKnown, "what " + words.Names(unknown) + " is is not said"
	}}
}
