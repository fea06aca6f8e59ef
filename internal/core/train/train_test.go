package train_test

import (
	"math"
	"math/rand/v2"
	"slices"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"freshapron/internal/core/clock"
	"freshapron/internal/core/exact"
	"freshapron/internal/core/measure"
	"freshapron/internal/core/train"
)

type given map[string]any

func of(t train.Task) given {
	g := given{}
	for _, f := range t.Given() {
		g[f.Name] = f.Value
	}
	return g
}

func (g given) f(name string) float64 { return g[name].(exact.Number).Float() }

var perUnit = map[string]float64{"g": 1, "kg": 1000, "oz": 28.349523125, "lb": 453.59237, "ml": 1, "l": 1000, "cl": 10, "dl": 100, "tsp": 5, "tbsp": 15}

var gas = map[float64]float64{0.25: 110, 0.5: 130, 1: 140, 2: 150, 3: 160, 4: 180, 5: 190, 6: 200, 7: 220, 8: 230, 9: 240}

// byOtherMeans computes an answer from what is given in floating point, as the table of
// kinds says it in words.
func byOtherMeans(t train.Task) float64 {
	g, want := of(t), t.Want().Value.(string)
	switch t.Kind {
	case train.Convert:
		v := g.f("amount") * perUnit[g["unit"].(string)]
		mass := func(u string) bool { return slices.Contains([]string{"g", "kg", "oz", "lb"}, u) }
		switch from, to := mass(g["unit"].(string)), mass(want); {
		case from && !to:
			v /= g.f("density_g_per_ml")
		case !from && to:
			v *= g.f("density_g_per_ml")
		}
		return v / perUnit[want]
	case train.Fraction:
		return g.f("amount") * g.f("of")
	case train.Scaling:
		return g.f("amount") * float64(g["to"].(int)) / float64(g["from"].(int))
	case train.Ratio:
		parts := g["ratio"].([]exact.Number)
		return g.f("amount") * parts[g["wanted"].(int)].Float() / parts[g["known"].(int)].Float()
	case train.OvenDial:
		c := g.f("amount")
		switch g["unit"] {
		case "F":
			c = (c - 32) / 1.8
		case "fan":
			c += 20
		case "gas":
			c = gas[c]
		}
		switch want {
		case "F":
			return c*1.8 + 32
		case "fan":
			return c - 20
		case "gas":
			for mark, at := range gas {
				if math.Abs(at-c) < 1 {
					return mark
				}
			}
		}
		return c
	case train.OnScale:
		v := g.f("already_g") + g.f("add_g")
		if !g["tared"].(bool) {
			v += g.f("bowl_g")
		}
		return math.Round(v/g.f("resolution_g")) * g.f("resolution_g")
	case train.OnDial:
		return g.f("start_g") + g.f("division_g")*g.f("divisions")
	case train.InJug:
		r := g.f("radius_mm")
		return g.f("reading_ml") - math.Pi*r*r*r*math.Tan(g.f("eye_deg")*math.Pi/180)/1000
	case train.Parts:
		if want == "part" {
			return g.f("need") / g.f("pack")
		}
		return g.f("pack") * g.f("part")
	case train.BySpoons, train.ByCups:
		return fewest(g["amount"].(exact.Number), g["set"].([]exact.Number))
	}
	return math.NaN()
}

// fewest goes through all counts of measures in whole numbers.
func fewest(amount exact.Number, set []exact.Number) float64 {
	const common = 12
	whole := func(n exact.Number) int64 { return n.Mul(exact.Int(common)).Floor() }
	best := make([]int, whole(amount)+1)
	for i := 1; i < len(best); i++ {
		best[i] = math.MaxInt32
		for _, s := range set {
			if n := int(whole(s)); n <= i && best[i-n] < best[i]-1 {
				best[i] = best[i-n] + 1
			}
		}
	}
	return float64(best[len(best)-1])
}

func TestAnswers(t *testing.T) {
	for seed := range uint64(150) {
		for i, task := range train.Tasks(train.Kinds, 2*len(train.Kinds), seed, train.Source{}) {
			require.NotEmpty(t, task.Ask)
			assert.NotContains(t, task.Ask, "%!", task.Ask)
			a, g := task.Answer(), of(task)
			switch task.Kind {
			case train.Instrument:
				var names []string
				for _, x := range g["instruments"].([]train.Tool) {
					names = append(names, x.Name)
				}
				assert.Contains(t, names, a.Name)
			case train.Time:
				want := task.Want().Value
				if want == "min" {
					assert.Equal(t, int64(g["to"].(clock.Time)-g["from"].(clock.Time)), a.Amount.Floor())
					assert.Positive(t, a.Amount.Sign())
				} else if by, ok := g["minus_min"].(int); ok {
					assert.Equal(t, g["at"].(clock.Time), *a.Clock+clock.Time(by))
				} else {
					assert.Equal(t, *a.Clock, g["at"].(clock.Time)+clock.Time(g["plus_min"].(int)))
				}
			default:
				assert.InDelta(t, byOtherMeans(task), a.Amount.Float(), 1e-5, "%s: %s", task.Kind, task.Ask)
				assert.Positive(t, a.Amount.Sign(), task.Ask)
				assert.Equal(t, task.Want().Value, a.Unit)
			}
			assert.Equal(t, task, train.Make(task.Kind, seed, i, train.Source{}), "the same seed makes the same task")
			if task.Kind != train.Instrument && task.Kind != train.Time {
				assert.True(t, task.Judge(a, nil).Right, task.Ask)
			}
		}
	}
}

// Tasks are made from what the lesson has.
func TestTasksOfALesson(t *testing.T) {
	from := train.Source{
		Amounts: []train.Amount{{Name: "semolina", Quantity: measure.Q("137", measure.Gram)}}, Scales: []exact.Number{exact.Int(2)},
		Ovens: []exact.Number{exact.Int(240)}, From: 6, To: 5, Start: 780, Bell: 840, Waits: []int{7},
	}
	asks := ""
	for i := range 60 {
		for _, k := range []train.Kind{train.OnScale, train.OvenDial, train.Scaling, train.Time} {
			asks += train.Make(k, 3, i, from).Ask + "\n"
		}
	}
	for _, want := range []string{"138 g of semolina", "shows it", "240 °C", "are for 6 portions. How much is it for 5?", "the bell rings at 14:00", "for 7 minutes"} {
		assert.Contains(t, asks, want)
	}
	assert.NotContains(t, asks, "flour")
}

func TestJudging(t *testing.T) {
	milk := train.Amount{Name: "milk", Quantity: measure.Q("150", measure.Millilitre), Pours: true, Tolerance: 0.05}
	v := train.Compare(150, 180, "ml", 3, &milk, "Read it at the line.")
	assert.False(t, v.Right)
	assert.Equal(t, "It is 150 ml. You are 30 ml off, 20 % too much.", v.Says)
	assert.Equal(t, "That matters: with 20 % more liquid it won’t hold its shape.", v.Matters)
	assert.Contains(t, train.Compare(150, 156, "ml", 3, &milk, "").Matters, "The dish bears that")
	powder := train.Amount{Name: "baking powder", Role: "agent"}
	assert.Contains(t, train.Compare(5, 2, "g", 3, &powder, "").Matters, "does not rise")
	assert.True(t, train.Compare(150, 154.5, "ml", 3, &milk, "").Right)

	at := clock.Time(600)
	late := train.Make(train.Time, 1, 0, train.Source{})
	for i := 1; late.Answer().Clock == nil; i++ {
		late = train.Make(train.Time, 1, i, train.Source{})
	}
	assert.False(t, late.Judge(train.Answer{Clock: &at}, nil).Right)
	assert.Contains(t, late.Judge(train.Answer{Clock: &at}, nil).Says, late.Answer().Clock.String())
}

// What is in the drawing counts, and what went wrong is named.
func TestDrawings(t *testing.T) {
	flour := train.Exercise{Kind: train.OnScale, Amount: train.Amount{Name: "flour"}, Want: 225, Unit: "g", Tolerance: 1}
	bowl := train.Drawing{Kind: train.OnScale, Bowl: 310, BowlOn: true, Zero: 310, In: 225}
	assert.Equal(t, 225.0, bowl.Shown(1))
	assert.True(t, flour.Judge(bowl).Right)
	bowl.Zero, bowl.In = 0, 0
	assert.Equal(t, 310.0, bowl.Shown(5))
	forgotten := train.Drawing{Kind: train.OnScale, Bowl: 100, BowlOn: true, In: 125}
	assert.Contains(t, flour.Judge(forgotten).Instead, "set it to zero with the empty bowl on it")
	assert.Contains(t, flour.Judge(train.Drawing{Kind: train.OnScale, BowlOn: true, Bowl: 200, Zero: 20, In: 100}).Instead, "put it on first")

	milk := train.Exercise{Kind: train.InJug, Amount: train.Amount{Name: "milk", Pours: true}, Want: 300, Unit: "ml", Tolerance: 2}
	high := train.TooHigh(40, 15)
	assert.InDelta(t, math.Pi*1600*40*math.Tan(math.Pi/12)/1000, high, 1e-9)
	from := train.Drawing{Kind: train.InJug, Radius: 40, Eye: 15, In: 300 - high, Rests: true}
	assert.InDelta(t, 300, from.Shown(1), 1e-9)
	assert.Contains(t, milk.Judge(from).Instead, "bring the eye level")
	assert.True(t, milk.Judge(train.Drawing{Kind: train.InJug, Radius: 40, In: 303}).Right)

	spoons := train.Exercise{Kind: train.BySpoons, Want: 2.5, Unit: "tbsp", Tolerance: 1}
	level := []train.Fill{{Size: 1, How: train.Level}, {Size: 1, How: train.Level}, {Size: 0.5, How: train.Level}}
	assert.True(t, spoons.Judge(train.Drawing{Kind: train.BySpoons, Fillings: level}).Right)
	level[0].How = train.Heaped
	assert.Contains(t, spoons.Judge(train.Drawing{Kind: train.BySpoons, Fillings: level}).Instead, "back of a knife")

	for _, d := range []train.Drawing{{In: -1}, {In: 1e9}, {Eye: 89}, {In: math.NaN()}, {Fillings: make([]train.Fill, 300)}, {Fillings: []train.Fill{{Size: 1, How: "full"}}}} {
		assert.Error(t, d.Check())
	}
}

// An exercise can be done with its kit, however much a lesson wants of something.
func TestKits(t *testing.T) {
	heavy := train.Source{Amounts: []train.Amount{{Name: "potatoes", Quantity: measure.Q("1200", measure.Gram)}, {Name: "stock", Pours: true, Quantity: measure.Q("1400", measure.Millilitre)}}}
	for _, k := range train.Exercises {
		for i := range 40 {
			for _, from := range []train.Source{{}, heavy} {
				e := train.Do(k, 1, i, from)
				kit := e.Kit(i, from)
				assert.Greater(t, e.Want, 0.0)
				assert.NotEmpty(t, e.Ask)
				within := e.Want * e.Tolerance / 100
				assert.Positive(t, within)
				switch k {
				case train.OnScale:
					assert.Positive(t, kit.Bowl)
					assert.LessOrEqual(t, kit.Resolution/2, within, "%s can’t be weighed so exactly", e.Ask)
				case train.OnDial:
					assert.Less(t, e.Want+within, kit.Holds, "the needle goes round for %s", e.Ask)
				case train.InJug:
					assert.Greater(t, kit.Holds, e.Want+within, "it can’t be poured too full: %s", e.Ask)
					assert.Zero(t, math.Mod(kit.Holds, kit.Marks))
					assert.Positive(t, kit.Eye)
				default:
					assert.NotEmpty(t, kit.Set)
				}
			}
		}
	}
}

// learner is somebody who gets right what they know: guessers get a quarter.
type learner func(template string, n int, rng *rand.Rand) bool

func practise(l learner, n int) (train.Rating, []train.Try) {
	rng := rand.New(rand.NewPCG(7, 7))
	at := time.Date(2026, 11, 2, 9, 0, 0, 0, time.UTC)
	var templates []string
	for _, k := range train.Kinds {
		templates = append(templates, string(k))
	}
	var tries []train.Try
	for i := range n {
		next := train.Rate(tries).Next(templates, at, 3)
		tries = append(tries, train.Try{Template: next, At: at, Right: l(next, i, rng)})
		at = at.Add(time.Minute)
		if i%20 == 19 {
			at = at.Add(24 * time.Hour)
		}
	}
	return train.Rate(tries), tries
}

// Somebody who always guesses and somebody who learns are found, and one who can do
// all but one thing is given that.
func TestRatings(t *testing.T) {
	guesser, tries := practise(func(string, int, *rand.Rand) bool { return false }, 60)
	assert.Less(t, guesser.Sure("scaling"), 0.2)
	learns, _ := practise(func(_ string, n int, rng *rand.Rand) bool { return rng.Float64() < 0.3+float64(n)/80 }, 120)
	assert.Greater(t, learns.Sure("scaling"), 0.75)
	assert.Greater(t, learns.Learner, guesser.Learner+1)
	seen := map[string]bool{}
	for i, x := range tries {
		seen[x.Template] = true
		if i > 0 {
			assert.NotEqual(t, tries[i-1].Template, x.Template, "never the same twice")
		}
	}
	assert.GreaterOrEqual(t, len(seen), 4)
	one, done := practise(func(k string, _ int, _ *rand.Rand) bool { return k != "ratio" }, 150)
	assert.Less(t, one.Sure("ratio"), one.Sure("scaling")-0.2)
	count := map[string]int{}
	for _, x := range done {
		count[x.Template]++
	}
	assert.Greater(t, count["ratio"], 4, "what is not sure comes again")
}

func TestForgetting(t *testing.T) {
	at := time.Date(2026, 11, 2, 9, 0, 0, 0, time.UTC)
	var tries []train.Try
	for i := range 6 {
		tries = append(tries, train.Try{Template: "jug", At: at.Add(time.Duration(i) * 24 * time.Hour), Right: true})
	}
	last := tries[5].At
	r := train.Rate(tries)
	assert.Greater(t, r.Success("jug", last), r.Success("jug", last.Add(60*24*time.Hour)))
	short := train.Rate(tries[:1])
	lost := func(r train.Rating, from time.Time) float64 {
		return r.Success("jug", from) - r.Success("jug", from.Add(5*24*time.Hour))
	}
	assert.Less(t, lost(r, last)/r.Success("jug", last), lost(short, at)/short.Success("jug", at)+0.05, "what was practised more is kept longer")
	assert.Equal(t, 6, r.Tries("jug"))
	assert.Equal(t, train.Rate(tries), train.Rate(slices.Clone(tries)))
}

func TestFewest(t *testing.T) {
	set := []exact.Number{exact.Int(1), exact.Frac(1, 2), exact.Frac(1, 3)}
	for amount, want := range map[string]int{"5/2": 3, "2/3": 2, "5/6": 2, "1": 1} {
		n, ok := train.Fewest(exact.MustParse(amount), set)
		require.True(t, ok)
		assert.Equal(t, want, n, amount)
	}
	_, ok := train.Fewest(exact.MustParse("1/7"), set)
	assert.False(t, ok)
}

func BenchmarkNextTask(b *testing.B) {
	_, tries := practise(func(_ string, n int, _ *rand.Rand) bool { return n%3 > 0 }, 300)
	var templates []string
	for _, k := range train.Kinds {
		templates = append(templates, string(k))
	}
	for b.Loop() {
		train.Rate(tries).Next(templates, tries[299].At, 1)
	}
}

// Of simulated learners the better one is found to be better.
func TestSimulatedLearners(t *testing.T) {
	at := time.Date(2026, 11, 2, 9, 0, 0, 0, time.UTC)
	templates := []string{"scale", "jug", "ratio", "time", "spoons"}
	weak := train.Simulated{Ability: -1}.Practise(templates, 80, at, 5)
	strong := train.Simulated{Ability: 2, Learns: 0.01}.Practise(templates, 80, at, 5)
	assert.Greater(t, train.Rate(strong).Learner, train.Rate(weak).Learner+1)
	assert.Equal(t, weak, train.Simulated{Ability: -1}.Practise(templates, 80, at, 5))
}
