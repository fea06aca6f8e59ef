// Package live follows a lesson while it runs. What happens is a log of events;
// the state of the lesson is a fold over them, which comes out the same in
// whatever order they arrive and however often. Between events benches are
// assumed to go by the plan, as late or early as they last were known to be.
package live

import (
	"cmp"
	"math"
	"slices"
	"strings"

	"freshapron/internal/core/fit"
	"freshapron/internal/core/rescue"
)

// Kind of an event.
type Kind string

// The kinds.
const (
	Opened      Kind = "opened"      // the class is in: the lesson begins
	Held        Kind = "held"        // a phase lasts Minutes longer
	Skipped     Kind = "skipped"     // what is left of a phase, Minutes, is left out
	Begun       Kind = "begun"       // a step
	Worked      Kind = "worked"      // the work of a step is done; its wait begins, in Unit where it needs one
	Ended       Kind = "ended"       // a step
	LeftOut     Kind = "left_out"    // a step, at a bench
	Checkpoint  Kind = "checkpoint"  // called: benches that are not named behind are there
	Behind      Kind = "behind"      // a bench is Minutes late
	CaughtUp    Kind = "caught_up"   // a bench is where the plan has it
	Help        Kind = "help"        // asked for by a bench
	Helped      Kind = "helped"      //
	Check       Kind = "check"       // asked for by a bench
	Checked     Kind = "checked"     // as it should be, or again, with a word
	UnitOut     Kind = "unit_out"    // it can't be used
	UnitBack    Kind = "unit_back"   //
	AdultOut    Kind = "adult_out"   // for Minutes, 0 until back
	AdultBack   Kind = "adult_back"  //
	Temperature Kind = "temperature" // Celsius of Says
	Mishap      Kind = "mishap"      // Says is its kind, Done what was done
	Gone        Kind = "gone"        // a learner has left the bench
	Sharps      Kind = "sharps"      // Number are counted in
	Replanned   Kind = "replanned"   // Plan is followed from now on, with Changes
	Asked       Kind = "asked"       // Learner a question, Says; Done is how it was answered
	Picture     Kind = "picture"     // of what a step has made; it is kept under the event's id
	Measured    Kind = "measured"    // pieces of a bench, and how even they are
	Note        Kind = "note"        //
	Undone      Kind = "undone"      // the event Of never was
	Closed      Kind = "closed"      // the lesson is over
)

// Kinds lists them.
var Kinds = []Kind{Opened, Held, Skipped, Begun, Worked, Ended, LeftOut, Checkpoint, Behind, CaughtUp, Help, Helped, Check, Checked,
	UnitOut, UnitBack, AdultOut, AdultBack, Temperature, Mishap, Gone, Sharps, Replanned, Asked, Picture, Measured, Note, Undone, Closed}

// An Event is something that happened in a lesson. It is never changed. Times are
// minutes from the planned beginning of the period.
type Event struct {
	ID              string
	Seq             int64    // its number in the lesson's log; 0 where it has none
	At              float64  // by the clock of the server
	Said            *float64 // by the clock of the sender, where it was made before it arrived
	By              string   // who: an account, a bench, "simulated"
	Kind            Kind
	Bench           string
	Dish, Step      string
	Equipment, Unit string
	Minutes         float64
	Celsius         float64
	Number          int
	Learner         int64 // id of the school's; 0 for nobody
	Says, Done      string
	Of              string
	Plan            *fit.Plan
	Changes         []rescue.Change // of the lesson, that the plan makes
}

// longestAgo is for how long a screen may have been without a network.
const longestAgo = 180

// Time is the moment at which an event counts: when it was made, where that can be,
// else when it arrived.
func (e Event) Time() float64 {
	if e.Said == nil || math.IsNaN(*e.Said) || *e.Said > e.At || *e.Said < e.At-longestAgo {
		return e.At
	}
	return *e.Said
}

// inOrder returns the events that count, by their time: each once, without those
// that were undone. The order in which they are given makes no difference.
func inOrder(events []Event) []Event {
	out := slices.Clone(events)
	slices.SortFunc(out, func(a, b Event) int {
		return cmp.Or(cmp.Compare(a.Time(), b.Time()), cmp.Compare(a.At, b.At), cmp.Compare(a.Seq, b.Seq), strings.Compare(a.ID, b.ID), strings.Compare(string(a.Kind), string(b.Kind)))
	})
	seen := map[string]bool{}
	undone := map[string]bool{}
	for _, e := range out {
		if e.Kind == Undone {
			undone[e.Of] = true
		}
	}
	return slices.DeleteFunc(out, func(e Event) bool {
		again := seen[e.ID]
		seen[e.ID] = true
		return again || undone[e.ID] || e.Kind == Undone
	})
}
