package train

import (
	"fmt"
	"math"

	"freshapron/internal/core/exact"
	"freshapron/internal/core/problem"
)

// A Drawing is the state of a drawn instrument as a learner has left it. It is judged
// by what is in it.
type Drawing struct {
	Kind Kind // OnScale, OnDial, InJug, BySpoons or ByCups
	// Of a scale: what the bowl on it weighs, with which weight it shows zero, and what
	// was put in; g. The needle of a dial shows the whole.
	Bowl, Zero, In float64
	BowlOn         bool
	// Of a jug: its inner radius, mm, how the eye looks down on it, degrees, and what is
	// in it, ml. In is that, too.
	Radius, Eye float64
	Rests       bool // the surface has come to rest
	// Of spoons and cups: each filling, with how it was filled.
	Fillings []Fill
}

// A Fill is a measure that was filled.
type Fill struct {
	Size float64 // in the unit of the task
	How  Heap
}

// A Heap is how full a measure is.
type Heap string

// How full a measure is; typical: what is rounded or heaped differs widely.
const (
	Level   Heap = "level"
	Rounded Heap = "rounded"
	Heaped  Heap = "heaped"
)

var heaps = map[Heap]float64{Level: 1, Rounded: 1.5, Heaped: 2}

// mostIn bounds what a drawing can hold.
const mostIn, mostFilled = 20_000, 200

// Check returns what of a drawing can't be.
func (d Drawing) Check() error {
	for _, v := range []float64{d.Bowl, d.Zero, d.In, d.Radius} {
		if !(v >= 0 && v <= mostIn) {
			return problem.New("drawing", "%g can't be in it", v)
		}
	}
	if !(d.Eye >= -80 && d.Eye <= 80) {
		return problem.New("drawing", "nobody looks at it from %g°", d.Eye)
	}
	if len(d.Fillings) > mostFilled {
		return problem.New("drawing", "%d fillings are more than anybody counts", len(d.Fillings))
	}
	for _, f := range d.Fillings {
		if _, ok := heaps[f.How]; !ok || !(f.Size > 0 && f.Size <= 100) {
			return problem.New("drawing", "a measure can’t be filled so")
		}
	}
	return nil
}

// Amount is what is really in it, in the unit of its task.
func (d Drawing) Amount() float64 {
	if d.Kind == BySpoons || d.Kind == ByCups {
		sum := 0.0
		for _, f := range d.Fillings {
			sum += f.Size * heaps[f.How]
		}
		return sum
	}
	return d.In
}

// Shown is what the instrument shows: grams by its resolution, or millilitres as the eye
// sees them.
func (d Drawing) Shown(resolution float64) float64 {
	switch d.Kind {
	case OnScale, OnDial:
		on := d.In
		if d.BowlOn {
			on += d.Bowl
		}
		return math.Round((on-d.Zero)/resolution) * resolution
	case InJug:
		return d.In + TooHigh(d.Radius, d.Eye)
	}
	return d.Amount()
}

// An Exercise is done on a drawn instrument: so much of something is to be measured out.
type Exercise struct {
	Kind      Kind
	Amount    Amount
	Want      float64 // g, ml, or in the unit of the fillings
	Unit      string
	Tolerance float64 // per cent: what the instrument and the dish bear
	Ask       string
}

// A Kit is what an exercise is done with, before anything is in it. Weights are
// grams, volumes millilitres.
type Kit struct {
	Bowl        float64 // of a scale
	Resolution  float64 // that a scale shows, or a line of its dial
	Marks       float64 // of a jug: every how much there is one
	Holds       float64 // of a jug, or of a dial: what it can show once round
	Radius, Eye float64 // of a jug, mm, and from how high it is looked at, degrees
	Set         []float64
}

// A dial's line and what it holds, a jug's inner radius and the least that it holds; typical.
const dialLine, dialHolds, jugRadius, jugHolds = 10.0, 500.0, 42.0, 500.0

// Kit returns what the exercise of a number is done with: another bowl each time,
// and an eye from another height.
func (e Exercise) Kit(number int, from Source) Kit {
	from = from.with(Usual())
	switch e.Kind {
	case OnScale:
		return Kit{Bowl: float64(180 + 37*(number%9)), Resolution: from.Scales[0].Float()}
	case OnDial:
		return Kit{Resolution: dialLine, Holds: dialHolds}
	case InJug:
		marks := from.Jugs[0].Float()
		over := marks * math.Ceil(1.4*e.Want/marks) // so that it can be poured too full
		return Kit{Marks: marks, Holds: max(jugHolds, over), Radius: jugRadius, Eye: float64(8 + 4*(number%4))}
	}
	set := map[string][]exact.Number{"cup": from.Cups, "tbsp": from.Tablespoons, "tsp": from.Teaspoons}[e.Unit]
	var out Kit
	for _, x := range set {
		out.Set = append(out.Set, x.Float())
	}
	return out
}

// Judge says what came of an exercise, and the one thing to do otherwise: by what is in
// the drawing, and not by what was pressed.
func (e Exercise) Judge(d Drawing) Verdict {
	v := Compare(e.Want, d.Amount(), e.Unit, e.Tolerance, &e.Amount, "")
	if v.Right {
		return v
	}
	switch {
	case e.Kind == OnScale && d.Zero == 0 && d.BowlOn && math.Abs(d.In+d.Bowl-e.Want) < math.Abs(d.In-e.Want):
		v.Instead = fmt.Sprintf("The bowl, %s g, is in what the scale shows: set it to zero with the empty bowl on it.", short(d.Bowl))
	case e.Kind == OnScale && d.Zero > 0 && d.Zero < d.Bowl-1:
		v.Instead = "The scale was set to zero without the bowl: put it on first."
	case e.Kind == InJug && math.Abs(d.Eye) > 2 && math.Abs(d.Shown(1)-e.Want) < math.Abs(d.In-e.Want):
		v.Instead = fmt.Sprintf("From above the jug reads %s ml too high: bring the eye level with the line.", short(TooHigh(d.Radius, d.Eye)))
	case e.Kind == InJug && !d.Rests:
		v.Instead = "Wait until the surface has come to rest."
	case (e.Kind == BySpoons || e.Kind == ByCups) && heapedIn(d.Fillings):
		v.Instead = "A measure is level: draw the back of a knife over it."
	case v.Off > 0:
		v.Instead = "Take some out again, a little at a time."
	default:
		v.Instead = "Add more, a little at a time."
	}
	return v
}

func heapedIn(list []Fill) bool {
	for _, f := range list {
		if f.How != Level {
			return true
		}
	}
	return false
}
