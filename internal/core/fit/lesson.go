// Package fit plans practical lessons: it decides when every step of every
// bench starts between the door and the bell.
//
// A [Lesson] says what there is: the period and its whole-class phases, the
// room's equipment and adults, the groups of cooks, and the dishes as steps.
// [Lesson.Check] names what is wrong with it, [Solve] turns it into a [Plan].
// In the terms of scheduling the problem is resource-constrained with minimal
// and maximal time lags, shareable work, unary and cumulative machines with
// set-up times, and a calendar of breaks; the aim is the least makespan.
//
// Solve is a function of its arguments alone: no clock, no global randomness.
package fit

import (
	"freshapron/internal/core/clock"
	"freshapron/internal/core/exact"
)

// A Lesson is everything the planner knows. Minutes are exact.
type Lesson struct {
	Title      string
	Date       string     // yyyy-mm-dd; carried along, not used
	Start, End clock.Time // the door and the bell, Start before End
	Phases     []Phase
	Adults     int // adults who may do or watch a step at the same moment
	Away       []Away
	Equipment  []Equipment
	Out        []Outage
	Groups     []Group
	Dishes     []Dish
	Spreads    *Spreads // how uneven real lessons are; nil is as usual

	// Now is the minute that a lesson under way has reached; what Progress
	// does not name starts then or later. Nil before the door.
	Now      *exact.Number
	Progress []Progress
}

// Minutes returns the length of the period.
func (l Lesson) Minutes() exact.Number { return exact.Int(int64(l.End - l.Start)) }

// Where a phase lies in the period.
type Place int

// Phases at the start follow each other from the door, phases at the end run
// up to the bell, and a fixed phase lies at its own minute between them.
const (
	AtStart Place = iota
	AtEnd
	AtMinute
)

// A Phase is a block of time in which the whole class does one thing and no
// group works.
type Phase struct {
	Name    string
	Minutes exact.Number
	Place   Place
	Minute  exact.Number // where Place is AtMinute: minutes from the door
	Waits   bool         // where Place is AtEnd: what needs no hands may go on in it
}

// Equipment is a kind of thing that steps hold while they use it.
type Equipment struct {
	ID          string
	PerStation  bool // once for each group; otherwise shared by the room
	Units       []Unit
	Temperature bool         // everything in a unit at one moment has one temperature
	OnAt        exact.Number // minute at which it is switched on
	Preheat     exact.Number // minutes from OnAt until something may enter
	Reheat      exact.Number // minutes between two temperatures
}

// A Unit is one oven, ring or blender.
type Unit struct {
	ID     string // stays through renaming; carried along, not used
	Name   string // by which plans know it; no two of an equipment share one
	Places int    // how many things it holds at once: shelves of an oven
}

// Away says that some adults are out of the room for a while.
type Away struct {
	Adults        int
	From, Minutes exact.Number // from the door, and for how long
}

// A Group cooks together at one station.
type Group struct {
	ID, Name string
	Cooks    int
	Pace     exact.Number // multiplies the group's work: 1.25 is a quarter slower
	Dishes   []string     // ids of what it makes; nil is every dish
	Pins     []Pin
}

// A Pin is what a teacher has decided about one step of one group.
type Pin struct {
	Dish, Step string
	NotBefore  *exact.Number // minute before which it does not start
	BeginBy    *exact.Number // minute by which it starts, where any plan can keep it
	Units      []string      // names of the units that it is in; those of other equipment are free
}

// A Dish is a list of steps. Ingredients are carried along for people; the
// timing does not need them.
type Dish struct {
	ID, Title   string
	Of          string // id of the dish of which this is made otherwise, or as it is; carried along, not used
	Ingredients []Ingredient
	Steps       []Step
}

// An Ingredient as the lesson file carries it.
type Ingredient struct {
	Name    string
	Amount  *exact.Number // nil where none is given
	Unit    string
	Note    string
	Scales  string // linear, whole, taste, fixed or surface; empty is linear
	PartOf  string
	Brought bool
}

// Kind says what sort of work a step is.
type Kind string

// The kinds of step.
const (
	Weigh   Kind = "weigh"
	Prepare Kind = "prepare"
	Cut     Kind = "cut"
	Mix     Kind = "mix"
	Shape   Kind = "shape"
	Cook    Kind = "cook"
	Bake    Kind = "bake"
	Chill   Kind = "chill"
	Rest    Kind = "rest"
	Cool    Kind = "cool"
	Serve   Kind = "serve"
	Clean   Kind = "clean"
)

// Kinds lists every kind in the order of a lesson.
var Kinds = []Kind{Weigh, Prepare, Cut, Mix, Shape, Cook, Bake, Chill, Rest, Cool, Serve, Clean}

// Adult says what an adult has to do with the work part of a step.
type Adult string

// An adult may have no part in a step, do its work, or watch the cooks do it.
const (
	NoAdult Adult = "none"
	Does    Adult = "does"
	Watches Adult = "watches"
)

// A Step is work, then a wait that follows at once.
type Step struct {
	ID, Title string
	Kind      Kind
	Work      exact.Number // hands-on minutes for one cook at pace 1
	Wait      exact.Number // minutes that need no hands
	Cooks     int          // cooks of the group on the work part; 0 where an adult does it
	Shareable bool         // the group may put 1 … all of its cooks on it
	After     []After
	Uses      []Use
	Adult     Adult
	KeepShut  bool     // nothing else enters or leaves the unit during the wait
	Spread    *float64 // standard deviation over mean of the work; nil is by kind

	// Cooking in loads: ceil(Pieces / PerLoad) loads follow Work in the same
	// work part. All three are 0 where the step has none.
	Pieces, PerLoad int
	Load            exact.Number

	Hold *Hold
}

// Loads returns how many loads the step cooks.
func (s Step) Loads() int {
	if s.PerLoad <= 0 {
		return 0
	}
	return (s.Pieces + s.PerLoad - 1) / s.PerLoad
}

// A Hold is a way to keep the dish after a step.
type Hold struct {
	Where      string
	MaxMinutes exact.Number
}

// After makes a step wait for another of the same group.
type After struct {
	Dish   string // empty is the dish of the step itself
	Step   string
	MinGap exact.Number  // at least this long after the other's end
	MaxGap *exact.Number // at most this long, where not nil
}

// Part is a part of a step.
type Part string

// The parts of a step during which equipment can be held.
const (
	WholeStep Part = "all"
	WorkPart  Part = "work"
	WaitPart  Part = "wait"
)

// A Use holds places in one unit of an equipment.
type Use struct {
	Equipment   string
	Places      int
	Temperature *exact.Number // °C; set where the equipment has temperature
	During      Part
}

// phaseSpan is a phase laid into the period, in minutes from the door.
type phaseSpan struct {
	phase    Phase
	from, to exact.Number
}

// layout lays the phases into the period: those at the start from the door
// in list order, those at the end up to the bell. It returns them with the
// end of the start phases and the deadline, the start of the first end phase.
// See grace for what may go on after that.
func (l Lesson) layout() (spans []phaseSpan, opening, deadline exact.Number) {
	deadline = l.Minutes()
	for _, p := range l.Phases {
		if p.Place == AtEnd {
			deadline = deadline.Sub(p.Minutes)
		}
	}
	endAt := deadline
	for _, p := range l.Phases {
		var from exact.Number
		switch p.Place {
		case AtStart:
			from = opening
			opening = opening.Add(p.Minutes)
		case AtEnd:
			from = endAt
			endAt = endAt.Add(p.Minutes)
		case AtMinute:
			from = p.Minute
		}
		spans = append(spans, phaseSpan{p, from, from.Add(p.Minutes)})
	}
	return spans, opening, deadline
}

// grace returns the minutes after the deadline in which what needs no hands
// may go on: the end phases that let it, up to the first that does not.
func (l Lesson) grace() exact.Number {
	var out exact.Number
	for _, p := range l.Phases {
		if p.Place == AtEnd && !p.Waits {
			break
		}
		if p.Place == AtEnd {
			out = out.Add(p.Minutes)
		}
	}
	return out
}

// A Span is a stretch of the period with a name, in minutes from the door.
type Span struct {
	Name     string
	From, To float64
	Place    Place
}

// Spans returns the phases as they lie in the period, in list order.
func (l Lesson) Spans() []Span {
	spans, _, _ := l.layout()
	out := make([]Span, len(spans))
	for i, s := range spans {
		out[i] = Span{s.phase.Name, s.from.Float(), s.to.Float(), s.phase.Place}
	}
	return out
}
