package knife

import (
	"fmt"
	"math/rand/v2"
	"slices"

	"freshapron/internal/core/even"
	"freshapron/internal/core/problem"
	"freshapron/internal/core/words"
)

// The exercises with the knife.
const (
	HoldExercise  = "knife-hold"
	OrderExercise = "knife-order"
	CutExercise   = "knife-cut"
	CareExercise  = "knife-care"
	ToolsExercise = "knife-tools"
)

// ExerciseKinds lists them.
var ExerciseKinds = []string{HoldExercise, OrderExercise, CutExercise, CareExercise, ToolsExercise}

// An Exercise with the knife. Of choices one is right; an order is of acts; a cut is of
// the food as a solid.
type Exercise struct {
	Kind    string
	Food    Food
	Ask     string
	Choices []Choice // of hold, care and tools
	Acts    []Act    // of an order, as they are shown: not in order
	Cut     string   // of an order and a cut
	Target  [3]float64
}

// A Choice with what is to be said of it.
type Choice struct {
	ID, Says string
	Right    bool
	Why      string
	Drawn    Drawn // as what it is drawn; "" as nothing
}

// Drawn says which drawing shows a hold, or what goes wrong.
type Drawn string

// What is drawn: hands at a food, and what a food or its board does under the knife.
const (
	OverArch  Drawn = "bridge"
	AtKnuckle Drawn = "claw"
	OnBlade   Drawn = "on-blade"
	InFront   Drawn = "in-front"

	Slips  Drawn = "slips"
	Rolls  Drawn = "rolls"
	Slides Drawn = "slides"
	Uneven Drawn = "uneven"
	Stays  Drawn = "stays"
	Apart  Drawn = "apart"
)

// Exercises make an exercise of a kind and a number on one of the foods; on any where
// there are none. The same seed makes the same.
func NewExercise(kind string, seed uint64, number int, foods []Food) Exercise {
	rng := rand.New(rand.NewPCG(seed^0xb1ade, uint64(number)+1))
	if len(foods) == 0 {
		foods = Foods
	}
	pick := func(of func(Food) bool) Food {
		for _, all := range [][]Food{foods, Foods} {
			if list := slices.DeleteFunc(slices.Clone(all), func(f Food) bool { return !of(f) }); len(list) > 0 {
				return list[rng.IntN(len(list))]
			}
		}
		return Foods[0]
	}
	e := Exercise{Kind: kind}
	switch kind {
	case HoldExercise:
		e.hold(rng, pick(func(Food) bool { return true }))
	case OrderExercise:
		e.order(rng, pick(func(f Food) bool { return f.Flat != "" && slices.Contains(f.Cuts, "slices") }))
	case CutExercise:
		e.cut(rng, pick(func(f Food) bool { return slices.Contains(f.Cuts, "dice") && f.Solid.Layers < 2 }))
	case CareExercise:
		e.care(rng)
	default:
		e.tools(rng, pick(func(f Food) bool { return f.Tool != "" }))
	}
	return e
}

func (e *Exercise) shuffle(rng *rand.Rand) {
	rng.Shuffle(len(e.Choices), func(i, j int) { e.Choices[i], e.Choices[j] = e.Choices[j], e.Choices[i] })
	for i := range e.Choices {
		e.Choices[i].ID = fmt.Sprint(i)
	}
}

func (e *Exercise) hold(rng *rand.Rand, f Food) {
	e.Food = f
	if rng.IntN(2) == 0 || f.Flat == "" {
		e.Ask = fmt.Sprintf("You halve a %s. How do you hold it?", f.Name)
		if f.Hold == Claw {
			e.Ask = fmt.Sprintf("You slice %s. How do you hold it?", f.Name)
		}
		e.Choices = []Choice{
			{Says: "Fingers arched over it, the knife through the arch", Right: f.Hold == Bridge, Why: HoldSays[f.Hold], Drawn: OverArch},
			{Says: "Finger tips tucked in, the blade along the knuckles", Right: f.Hold == Claw, Why: HoldSays[f.Hold], Drawn: AtKnuckle},
			{Says: "Flat hand on top of the blade", Why: "A hand on the blade slips onto the edge. " + HoldSays[f.Hold], Drawn: OnBlade},
			{Says: "Finger tips in front, so that you see them", Why: "What you see in front of the blade is what you cut. " + HoldSays[f.Hold], Drawn: InFront},
		}
	} else {
		e.Ask = fmt.Sprintf("Somebody cuts %s. It rolls under the knife. What is wrong?", f.Name)
		e.Choices = []Choice{
			{Says: "It has no flat side to lie on", Right: true, Why: "First " + f.Flat + "."},
			{Says: "The knife is too sharp", Why: "A blunt knife slips more. First " + f.Flat + "."},
			{Says: "They cut too slowly", Why: "Slow is safe. First " + f.Flat + "."},
		}
	}
	e.shuffle(rng)
}

func (e *Exercise) order(rng *rand.Rand, f Food) {
	e.Food, e.Cut = f, "slices"
	if slices.Contains(f.Cuts, "dice") {
		e.Cut = "dice"
	}
	e.Ask = fmt.Sprintf("From a whole %s to %s: put it in an order that works.", f.Name, e.Cut)
	e.Acts = f.Order(e.Cut)
	for same := true; same; same = slices.EqualFunc(e.Acts, f.Order(e.Cut), func(a, b Act) bool { return a.ID == b.ID }) {
		rng.Shuffle(len(e.Acts), func(i, j int) { e.Acts[i], e.Acts[j] = e.Acts[j], e.Acts[i] })
	}
}

func (e *Exercise) cut(rng *rand.Rand, f Food) {
	edge := []float64{10, 12, 15, 20}[rng.IntN(4)]
	e.Food, e.Cut, e.Target = f, "dice", [3]float64{edge, edge, edge}
	e.Ask = fmt.Sprintf("Cut the %s into dice of %.0f mm.", f.Name, edge)
}

var cares = []Exercise{
	{Ask: "You carry a knife to the sink. How?", Choices: []Choice{
		{Says: "Point down beside the leg, edge back, and you say “knife behind you”", Right: true, Why: "Nobody can walk into an edge that points down and back."},
		{Says: "In front, point ahead, so that all can see it", Why: "Whoever turns round walks into the point. Point down beside the leg, edge back."},
		{Says: "In the apron’s pocket", Why: "It cuts through, and into you. Point down beside the leg, edge back."}}},
	{Ask: "Somebody asks for your knife. How do you pass it?", Choices: []Choice{
		{Says: "Lay it down, and they take it", Right: true, Why: "Between two hands nobody holds the edge."},
		{Says: "Handle first, holding the blade", Why: "Then the edge is in your hand when they pull. Lay it down."},
		{Says: "Slide it along the bench", Why: "It spins, and nobody knows which end comes. Lay it down."}}},
	{Ask: "The knife is to be washed. What do you do?", Choices: []Choice{
		{Says: "Wash it by itself, spine to the hand, and dry it at once", Right: true, Why: "Nobody reaches into foam onto an edge."},
		{Says: "Put it into the bowl with the other things", Why: "The next hand in the foam finds the edge. Wash it by itself."},
		{Says: "Leave it beside the sink", Why: "Somebody takes it for washed, or knocks it down. Wash it by itself."}}},
	{Ask: "A knife falls off the bench. What do you do?", Choices: []Choice{
		{Says: "Step back and let it fall", Right: true, Why: "No knife is worth a hand. Then wash it."},
		{Says: "Catch it", Why: "You may catch the edge. Step back."},
		{Says: "Stop it with the foot", Why: "Shoes are softer than steel. Step back."}}},
	{Ask: "The knife is blunt. What is true?", Choices: []Choice{
		{Says: "It slips, so it is told to the teacher and not used", Right: true, Why: "A blunt knife needs force, and force slips."},
		{Says: "It is safer, because it cuts less", Why: "It slips off the food and still cuts a hand. Tell the teacher."},
		{Says: "One presses harder", Why: "What slips under force goes far. Tell the teacher."}}},
	{Ask: "At the end of the lesson one knife is missing. What happens?", Choices: []Choice{
		{Says: "Nobody leaves until all are counted in", Right: true, Why: "A knife that is not counted in is somewhere where it must not be."},
		{Says: "It will turn up", Why: "In a bin or a bag it hurts somebody. All are counted in before anybody leaves."}}},
}

func (e *Exercise) care(rng *rand.Rand) {
	c := cares[rng.IntN(len(cares))]
	e.Ask, e.Choices = c.Ask, slices.Clone(c.Choices)
	e.shuffle(rng)
}

func (e *Exercise) tools(rng *rand.Rand, f Food) {
	e.Food = f
	e.Ask = fmt.Sprintf("Somebody is not ready yet to cut %s with a knife. What does the same?", f.Name)
	e.Choices = []Choice{
		{Says: words.Capital(f.Tool), Right: true, Why: "Any tool that comes to the same end is as good. Many cooks use it all their lives."},
		{Says: "A smaller knife that is just as sharp", Why: fmt.Sprintf("It is no easier to hold. Take %s.", f.Tool)},
		{Says: "Nothing: they watch", Why: fmt.Sprintf("Everybody can do it in some way. Take %s.", f.Tool)},
	}
	e.shuffle(rng)
}

// A cut that is done well leaves no more than mostWaste of the food in pieces too small
// to count, and of those that count no more than mostOff are off the target: shares.
const mostWaste, mostOff = 0.45, 0.30

// A Cutting is what came of an exercise in cutting.
type Cutting struct {
	Result
	Right       bool
	Strokes     int
	First, Last float64 // minutes until the smallest and the biggest that count are done; 0 where none counts
	Instead     string
}

// pot is how the pieces of an exercise are cooked: simmered, as vegetables are; typical.
var pot = even.Cook{H: even.Ways["simmer"], Start: 15, Around: 98, To: 85}

// Judge says what came of an exercise in cutting. It is a problem at "drawing" where
// there is no cut, or more than anybody makes.
func (e Exercise) Judge(c Cuts) (Cutting, error) {
	switch n := len(c[0]) + len(c[1]) + len(c[2]); {
	case n == 0:
		return Cutting{}, problem.New("drawing", "There is no cut yet")
	case n > mostExercise:
		return Cutting{}, problem.New("drawing", "These are more than %d cuts", mostExercise)
	}
	target := even.Piece(e.Target)
	r, err := e.Food.Solid.Result(c, target)
	if err != nil {
		return Cutting{}, err
	}
	out := Cutting{Result: r, Strokes: c.Strokes(e.Food.Solid)}
	var counts []float64
	var cubes []even.Piece
	for _, v := range volumes(r.Pieces) {
		if v >= target.Volume()/2 {
			edge := even.Size(v)
			counts, cubes = append(counts, v), append(cubes, even.Piece{edge, edge, edge})
		}
	}
	if len(counts) > 0 {
		t := pot.Times(cubes)
		out.First, out.Last = t.First, t.Last
		out.Right = even.Of(counts, target.Volume()).Off <= mostOff && r.Waste <= mostWaste
	}
	if !out.Right {
		out.Instead = fmt.Sprintf("Lay the cuts %.0f mm apart in all three directions.", e.Target[0])
	}
	return out, nil
}

// mostExercise is how many cuts an exercise takes.
const mostExercise = 200

// Chosen returns the choice of an id, and whether there is one.
func (e Exercise) Chosen(id string) (Choice, bool) {
	for _, c := range e.Choices {
		if c.ID == id {
			return c, true
		}
	}
	return Choice{}, false
}
