// Package reading understands a recipe as people bring it: typed, copied, with
// headings or without, its method in prose. Every line of the source is
// accounted for, and every figure knows whether the text says it.
package reading

import (
	"strings"

	"freshapron/internal/core/exact"
	"freshapron/internal/core/fit"
	"freshapron/internal/core/measure"
	"freshapron/internal/core/pantry"
	"freshapron/internal/core/recipe"
)

// A Reading is what was understood of a text. Lines are counted from 1 in the
// source; every line that is not empty stands in at least one place.
type Reading struct {
	Title       string
	TitleLine   int // 0 where there is none
	Units       Units
	Yield       Yield
	Parts       []string
	Headings    []int
	Ingredients []Ingredient
	Steps       []Step
	Facts       []Fact
	Unread      []Unread
}

// Units is the country whose cups, spoons and pints were taken, and the signs
// in the text that decided.
type Units struct {
	Taken measure.System
	Why   string
}

// A Yield is what a recipe comes to. Count is 0 where it is not said; Most is
// 0 where it is no range.
type Yield struct {
	Count, Most int
	Piece       string
	Line        int
}

// An Ingredient is a line of the list, or an amount that the method names
// where there is no list.
type Ingredient struct {
	Line     int
	Taking   recipe.Taking
	Prepared string // what is done to it beforehand: "finely chopped"
}

// A Minutes is how long something takes; Most is Least where it is no range.
type Minutes struct {
	Least, Most exact.Number
	From        recipe.Origin
}

// Middle is what is planned with.
func (m Minutes) Middle() exact.Number { return m.Least.Add(m.Most).Div(exact.Int(2)) }

// A Use is a piece of equipment that a step holds, at a conventional
// temperature in °C where one is known. Minutes is its share of the wait where
// a bake has several settings, and 0 elsewhere.
type Use struct {
	Equipment string
	Celsius   *exact.Number
	Minutes   exact.Number
}

// Loads is cooking a few at a time. Pieces is 0 where nobody says how many
// there are. Each is for one load, both sides.
type Loads struct {
	Pieces, PerLoad int
	Each            Minutes
	NoHands         bool // trays that take turns in an oven
}

// An After names the step, by its place, that has to be over before.
type After struct {
	Step   int
	MinGap exact.Number
	MaxGap *exact.Number
}

// A Step is what a learner does next: one hands-on stretch with the wait that
// follows it.
type Step struct {
	Lines      []int
	Text       string // the source's own words
	Kind       fit.Kind
	Uses       []Use
	Adult      fit.Adult
	Work, Wait Minutes
	Loads      *Loads
	After      []After
	Prepares   string   // the name of the ingredient whose work in the list this is
	Asks       []string // what was said in a form that is not understood
}

// A Fact is a line that is neither an ingredient nor something to do.
type Fact struct {
	Line  int
	Says  string
	About string // the heading that it stands under: "equipment"
}

// An Unread line was not understood.
type Unread struct {
	Line      int
	Text, Why string
}

// maxLines and maxLooked bound what is looked into of a text, in lines and in bytes; no recipe is longer.
const maxLines, maxLooked = 1000, 60_000

// maxRunes is the longest line that is looked into; it has no more than maxBytes.
const (
	maxRunes = 2000
	maxBytes = 4 * maxRunes
)

// Read reads a recipe. The units are those of sys, or those that the signs in
// the text make likely where sys is nil. It never fails.
func Read(text string, sys *measure.System, p *pantry.Pantry) Reading {
	r := sorted(text, sys, p)
	r.method()
	r.prepare()
	r.check()
	return r.Reading
}

// sorted returns a reader that has sorted the lines of a text. Lines over the title that say whose sheet it
// is are kept beside it, unless there would be no title without them.
func sorted(text string, sys *measure.System, p *pantry.Pantry) *reader {
	lines := strings.Split(text, "\n")
	heads := headed(lines, p)
	if len(heads) == 0 {
		return sortedLines(text, sys, p)
	}
	var facts []Fact
	for _, n := range heads {
		facts = append(facts, Fact{Line: n + 1, Says: strings.TrimSpace(lines[n]), About: ofSheet})
		lines[n] = ""
	}
	r := sortedLines(strings.Join(lines, "\n"), sys, p)
	if r.Title == "" {
		return sortedLines(text, sys, p)
	}
	r.Facts = append(facts, r.Facts...)
	return r
}

func sortedLines(text string, sys *measure.System, p *pantry.Pantry) *reader {
	r := &reader{pantry: p, lines: split(text), taken: map[string]recipe.Taking{}, amounted: map[string]bool{}}
	r.Units = country(text)
	if sys != nil {
		r.Units = Units{Taken: *sys, Why: "as chosen"}
	}
	r.layOut()
	r.sort()
	return r
}

// A reader reads one text.
type reader struct {
	Reading
	pantry    *pantry.Pantry
	lines     []line
	prose     []passage     // of the method, in order
	oven      *exact.Number // that the recipe heats the oven to
	asked     []Unread      // beside what was read
	taken     map[string]recipe.Taking
	amounted  map[string]bool // which lines that were looked at are ingredients with an amount
	said      [][]clause      // of each passage
	headed    bool            // there is a heading over the list
	about     string          // the heading of the facts that are being read
	counts    bool            // steps were said that are numbered
	besideKit bool            // equipment stands to the right of the list
	signed    int             // the line in which a letter ends, from 1; 0 while there is none
	kit       bool            // the facts that are being read go on with equipment
	group     group           // who works together
	each      int             // how many pieces each gets, as the title says
	hot       bool            // a pan stands on its ring after the passage before
	wrap      wrapping        // of the lines
	wok       bool            // a pan was said to be hot, in which one thing follows another
}
