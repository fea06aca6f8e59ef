package train

import (
	"cmp"
	"fmt"
	"math"

	"freshapron/internal/core/exact"
)

// A Verdict is what came of a try.
type Verdict struct {
	Right   bool
	Off     float64 // in the unit of the answer; minutes of a time of day; 0 of a name
	Percent float64 // off, of the answer
	Says    string  // how far off
	Matters string  // whether that matters, and for what
	Instead string  // the one thing to do otherwise
}

// usualTolerance is the share by which most dishes bear to have another amount, in per
// cent; of what makes them rise and hold, less.
const usualTolerance = 10

// Judge compares an answer with the right one. How much the dish bears is said of the
// amount, where the task is about one.
func (t Task) Judge(given Answer, of *Amount) Verdict {
	right := t.Answer()
	switch {
	case right.Name != "":
		v := Verdict{Right: given.Name == right.Name, Says: "It is the " + right.Name + "."}
		if !v.Right {
			v.Instead = "Compare by how much each can be off: half of what a scale shows, a quarter of a jug’s mark, a tenth of a spoon, a fifth of a cup."
		}
		return v
	case right.Clock != nil:
		if given.Clock == nil {
			return Verdict{Says: "It is " + right.Clock.String() + "."}
		}
		off := float64(*given.Clock - *right.Clock)
		v := Verdict{Right: off == 0, Off: off, Says: "It is " + right.Clock.String() + "."}
		if !v.Right {
			v.Says += fmt.Sprintf(" You are %.0f min %s.", math.Abs(off), sign(off, "late", "early"))
			v.Instead = "Count the minutes to the full hour first, and then the rest."
		}
		return v
	}
	return Compare(right.Amount.Float(), given.Amount.Float(), right.Unit, t.Tolerance, of, hints[t.Kind])
}

var hints = map[Kind]string{
	OnScale: "Ask whether the scale was set to zero with the bowl on it: if not, the bowl is in what it shows.",
	OnDial:  "Ask first what one line is worth.", InJug: "From above a jug reads too high: bring the eye to the line.",
	BySpoons: "Begin with the largest measure that goes in.", ByCups: "Begin with the largest measure that goes in.",
	Parts: "Ask how often what you need goes into the pack.", OvenDial: "A fan oven is set 20 °C lower.",
	Convert:  "Ask whether there must be more or fewer of the new unit, and by how many times.",
	Fraction: "Half of something is that divided by two; a third, by three.", Scaling: "Find it for one portion first.",
	Ratio: "Find what one part is first.", Time: "Count the minutes to the full hour first, and then the rest.",
}

func sign(v float64, over, under string) string {
	if v > 0 {
		return over
	}
	return under
}

// Compare judges an amount that came out, in a unit, beside the one that was wanted,
// with a tolerance in per cent.
func Compare(want, got float64, unit string, tolerance float64, of *Amount, instead string) Verdict {
	v := Verdict{Off: got - want}
	if want != 0 {
		v.Percent = 100 * v.Off / want
	} else if v.Off != 0 {
		v.Percent = math.Inf(1)
	}
	v.Right = math.Abs(v.Percent) <= tolerance+1e-6
	if v.Right {
		v.Says = "Right."
		return v
	}
	v.Says = fmt.Sprintf("It is %s %s. You are %s %s off, %.0f %% too %s.", short(want), unit, short(math.Abs(v.Off)), unit, math.Abs(v.Percent), sign(v.Off, "much", "little"))
	v.Instead = instead
	if of != nil {
		v.Matters = of.matters(v.Percent)
	}
	return v
}

// short prints a figure with as many places as people read.
func short(v float64) string { return exact.MustParse(fmt.Sprintf("%.2f", v)).Decimal(2) }

// matters says whether so many per cent too much or little matter for the dish.
func (a Amount) matters(percent float64) string {
	bears := cmp.Or(100*a.Tolerance, usualTolerance)
	if math.Abs(percent) <= bears {
		return fmt.Sprintf("The dish bears that: with up to %.0f %% more or less %s it comes out.", bears, a.Name)
	}
	much := percent > 0
	switch {
	case a.Role == "agent" && much:
		return "That matters: with too much of it the dough rises too fast, falls, and tastes of it."
	case a.Role == "agent":
		return "That matters: with too little of it the dough does not rise."
	case a.Pours && much:
		return fmt.Sprintf("That matters: with %.0f %% more liquid it won’t hold its shape.", percent)
	case a.Pours:
		return fmt.Sprintf("That matters: with %.0f %% less liquid it gets dry and cracks.", -percent)
	case a.Role == "structure" && much:
		return "That matters: it gets dry and heavy."
	case a.Role == "structure":
		return "That matters: it has too little to hold it together."
	case much:
		return fmt.Sprintf("That can be tasted: %.0f %% too much %s.", percent, a.Name)
	}
	return fmt.Sprintf("That can be tasted: %.0f %% too little %s.", -percent, a.Name)
}
