// Package timeline lays out the picture of a lesson from the door to the
// bell. It computes a view model of plain coordinates; a template draws it.
package timeline

import (
	"fmt"
	"math"
	"strings"
)

// A Picture is the view model of the drawing.
type Picture struct {
	Width, Height float64
	Bands         []Band
	Left          float64 // where the door is
	PerMinute     float64 // how wide a minute is
	Last          float64 // minute at the right edge
	Ticks         []Tick
	Rows          []Row
	Bars          []Bar
	Marks         []Mark
	Calls         []Line // the checkpoints, by number
	Curves        []Curve
	Spread        *Curve
	Bell          Line
	LastTray      *Line // the first of the last moments, on the axis
	Foot          Text  // what the lower axis counts
	Close         bool  // one bench, large
}

// A Band is a whole-class phase.
type Band struct {
	X, Y, W, H float64
	Name       string
	Lines      []Text
	Href       string // to more about it; may be empty
}

// A Text is a word or two at a place.
type Text struct {
	X, Y float64
	Text string
}

// A Tick is a moment on the axis: the clock above, the minutes to the bell
// below.
type Tick struct {
	X, Y1, Y2 float64
	Clock     Text
	ToBell    Text
	Strong    bool
}

// A Row is one bench, oven or other thing.
type Row struct {
	Label, Small Text
	RuleY        float64
	Href         string // to more about it; may be empty
}

// A Bar is a stretch of work or waiting. Class says which: "hands", "adult",
// "wait", "queue", "heat", "tray" or "out"; then "late" for what runs past the
// deadline, "chain" for the longest chain, "other" for another bench than the
// one that is looked at, "guess" for minutes that are only typical, and "chosen".
type Bar struct {
	X, Y, W, H float64
	Class      string
	Label      []Text // a line or two, as far as there is room
	Says       string // in full, for a pointer or a screen reader
	Href       string // to the explanation; empty where there is none
	Row        int
}

// A Mark is a last moment.
type Mark struct {
	X, Y1, Y2 float64
	Flag      string // SVG path of its flag
	Clock     string
	Says      string
}

// A Curve is how many things are in use, or how often a lesson ends when.
type Curve struct {
	Path   string
	Says   string
	LabelX float64
	LabelY float64
}

// A Line is upright: the bell, a last moment, or a checkpoint.
type Line struct {
	X, Y1, Y2 float64
	Label     Text
	Flag      string // SVG path of its flag
	Says      string
}

// A Ref names one step of one group, or something else that can be pressed: a
// phase by its name, a unit by its equipment and name, or the adults.
type Ref struct{ Group, Dish, Step string }

// What stands in place of a group's id for things that are no step.
const (
	Phase  = "~phase"
	Unit   = "~unit"
	Adults = "~adults"
)

// String is how a link names it.
func (r Ref) String() string { return r.Group + "/" + r.Dish + "/" + r.Step }

// ParseRef reads what String has written.
func ParseRef(s string) Ref {
	parts := strings.SplitN(s, "/", 3)
	for len(parts) < 3 {
		parts = append(parts, "")
	}
	return Ref{parts[0], parts[1], parts[2]}
}

// The ways to look at a lesson, besides one bench close up, which is named by
// its group's id.
const (
	ByBench = "bench" // those that do the same at the same times together
	ByEach  = "each"
	ByThing = "thing"
)

// A Look says what is drawn.
type Look struct {
	Width  float64                // in units of the picture; 0 is usual
	By     string                 // ByBench, ByThing, or a group's id
	Chosen Ref                    // the step that is explained beside the picture
	Step   func(r Ref) string     // the address of the explanation of a step; nil is none
	Bench  func(id string) string // the address of a bench close up; nil is none
	// Typical reports whether the minutes of work, and of waiting, of a step are
	// guesses; nil is none.
	Typical func(dish, step string) (work, wait bool)
}

// flag is the path of a small flag whose pole stands at x.
func flag(x, y float64) string { return fmt.Sprintf("M%g %gl-6 -3v6z", x, y) }

func round(v float64) float64 { return math.Round(v*10) / 10 }

// wrap breaks a name into at most two lines of so many letters; a name that
// does not fit is left to the band's title.
func wrap(name string, letters int) []string {
	if len([]rune(name)) <= letters {
		return []string{name}
	}
	words := strings.Fields(name)
	for i := range words {
		a, b := strings.Join(words[:i], " "), strings.Join(words[i:], " ")
		if a != "" && len([]rune(a)) <= letters && len([]rune(b)) <= letters {
			return []string{a, b}
		}
	}
	return nil
}

// fitting returns as many whole words as there is room for, and does not end
// in a word that only leads on to the next.
func fitting(label string, letters int) string {
	words := strings.Fields(label)
	for n := len(words); n > 0; n-- {
		if n < len(words) && n > 1 && leadsOn[words[n-1]] {
			continue
		}
		if s := strings.TrimRight(strings.Join(words[:n], " "), ","); len([]rune(s)) <= letters {
			return s
		}
	}
	return ""
}

// filling returns as many whole words as there is room for, where more lines
// follow.
func filling(label string, letters int) string {
	words := strings.Fields(label)
	for n := len(words); n > 0; n-- {
		if s := strings.Join(words[:n], " "); len([]rune(s)) <= letters {
			return s
		}
	}
	return ""
}

var leadsOn = func() map[string]bool {
	m := map[string]bool{}
	for _, w := range []string{"a", "an", "and", "at", "for", "from", "in", "into", "of", "on", "the", "then", "to", "with"} {
		m[w] = true
	}
	return m
}()

// rounding forgives the rounding of seconds to minutes.
const rounding = 1e-9
