package train

import (
	"fmt"
	"math/rand/v2"
	"slices"

	"freshapron/internal/core/clock"
	"freshapron/internal/core/exact"
	"freshapron/internal/core/measure"
	"freshapron/internal/core/words"
)

// An Amount that a lesson measures out.
type Amount struct {
	Name string
	measure.Quantity
	Density   measure.Density
	Pours     bool
	Tolerance float64      // share by which the dish bears to have another amount; 0 stands for usual
	Role      string       // of the recipe's: raising agent, structure, taste
	Pack      exact.Number // what it is bought in, in its unit; 0 where that is not known
}

// A Source is what tasks are made from.
type Source struct {
	Amounts     []Amount
	Scales      []exact.Number // what the room's scales show, g
	Jugs        []exact.Number // every how many millilitres its jugs are marked
	Tablespoons []exact.Number // of a tablespoon
	Teaspoons   []exact.Number // of a teaspoon
	Cups        []exact.Number // of a cup
	Ovens       []exact.Number // settings of the lesson, conventional °C
	From, To    int            // portions: the recipe's and the bench's
	Start, Bell clock.Time
	Waits       []int // minutes, of the lesson's steps
}

func numbers(list ...string) []exact.Number {
	out := make([]exact.Number, len(list))
	for i, s := range list {
		out[i] = exact.MustParse(s)
	}
	return out
}

func ints(list ...int64) []exact.Number {
	out := make([]exact.Number, len(list))
	for i, n := range list {
		out[i] = exact.Int(n)
	}
	return out
}

// Usual is an ordinary kitchen and what is measured out in it; amounts, densities and
// packs are typical.
func Usual() Source {
	q := func(name, amount string, u measure.Unit, density string, pours bool, pack int64) Amount {
		a := Amount{Name: name, Quantity: measure.Q(amount, u), Pours: pours, Pack: exact.Int(pack)}
		if density != "" {
			a.Density = measure.Density{Number: exact.MustParse(density)}
		}
		return a
	}
	return Source{
		Amounts: []Amount{
			q("plain flour", "225", measure.Gram, "0.55", false, 1500), q("butter", "75", measure.Gram, "0.95", false, 250), q("caster sugar", "60", measure.Gram, "0.85", false, 500),
			q("milk", "150", measure.Millilitre, "1.03", true, 1000), q("water", "275", measure.Millilitre, "1", true, 0), q("oil", "2", measure.Tablespoon, "0.92", true, 0),
			q("baking powder", "1.5", measure.Teaspoon, "0.9", false, 0), q("red lentils", "180", measure.Gram, "0.8", false, 500), q("honey", "2.5", measure.Tablespoon, "1.42", false, 0),
			q("grated cheese", "90", measure.Gram, "", false, 200), q("yoghurt", "120", measure.Gram, "1.03", false, 500), q("rolled oats", "110", measure.Gram, "0.4", false, 1000),
		},
		Scales: ints(1, 5), Jugs: ints(25, 50), Tablespoons: numbers("1", "1/2"), Teaspoons: numbers("1", "1/2", "1/4"), Cups: numbers("1", "1/2", "1/3", "1/4"),
		Ovens: ints(180, 190, 200, 220, 160), From: 4, To: 3, Start: 10*60 + 5, Bell: 11*60 + 10, Waits: []int{12, 18, 25, 8},
	}
}

// with fills what a source lacks with what is usual.
func (s Source) with(usual Source) Source {
	if len(s.Amounts) == 0 {
		s.Amounts = usual.Amounts
	}
	for own, other := range map[*[]exact.Number][]exact.Number{&s.Scales: usual.Scales, &s.Jugs: usual.Jugs, &s.Tablespoons: usual.Tablespoons, &s.Teaspoons: usual.Teaspoons, &s.Cups: usual.Cups, &s.Ovens: usual.Ovens} {
		if len(*own) == 0 {
			*own = other
		}
	}
	if s.From <= 0 || s.To <= 0 {
		s.From, s.To = usual.From, usual.To
	}
	if s.Bell <= s.Start {
		s.Start, s.Bell = usual.Start, usual.Bell
	}
	if len(s.Waits) == 0 {
		s.Waits = usual.Waits
	}
	return s
}

// Tasks makes so many tasks of the kinds, in turn, from a source. The same seed makes
// the same tasks.
func Tasks(kinds []Kind, count int, seed uint64, from Source) []Task {
	out := make([]Task, count)
	for i := range out {
		out[i] = Make(kinds[i%len(kinds)], seed, i, from)
	}
	return out
}

// Make makes the task of a kind and a number.
func Make(kind Kind, seed uint64, number int, from Source) Task {
	m := maker{rand.New(rand.NewPCG(seed, uint64(number)+1)), from.with(Usual())}
	t := makers[kind](m)
	t.Kind = kind
	return t
}

type maker struct {
	rng *rand.Rand
	Source
}

var makers = map[Kind]func(maker) Task{
	OnScale: maker.onScale, OnDial: maker.onDial, InJug: maker.inJug, BySpoons: maker.bySpoons, ByCups: maker.byCups, Parts: maker.parts, OvenDial: maker.oven,
	Convert: maker.convert, Fraction: maker.fraction, Scaling: maker.scaling, Ratio: maker.ratio, Time: maker.time, Instrument: maker.instrument,
}

func pick[T any](m maker, list []T) T { return list[m.rng.IntN(len(list))] }

// amount takes one of the amounts of which something holds, or a usual one where it
// holds of none.
func (m maker) amount(of func(Amount) bool) Amount {
	for _, all := range [][]Amount{m.Amounts, Usual().Amounts} {
		list := slices.DeleteFunc(slices.Clone(all), func(a Amount) bool { return !of(a) })
		if len(list) > 0 {
			return pick(m, list)
		}
	}
	panic("no usual amount will do") // makers ask for what Usual has
}

func said(n exact.Number) string { return measure.Mixed(n) }

func grams(a Amount) bool { return a.Unit.ID == "g" && a.Amount.IsInt() }

func (m maker) onScale() Task {
	a := m.amount(grams)
	res := pick(m, m.Scales)
	q := weighed{bowl: exact.Int(int64(180 + 5*m.rng.IntN(60))), tared: m.rng.IntN(2) == 0, add: a.Amount.RoundTo(res), resolution: res}
	if q.add.Sign() <= 0 {
		q.add = res
	}
	already := ""
	if m.rng.IntN(2) == 0 {
		q.already = res.Mul(exact.Int(int64(5 + m.rng.IntN(30))))
		already = fmt.Sprintf(" There are %s g of something else in it.", said(q.already))
	}
	bowl := fmt.Sprintf("A bowl of %s g stands on the scale, which shows it.", said(q.bowl))
	if q.tared {
		bowl = fmt.Sprintf("A bowl of %s g stands on the scale, and the scale was set to zero with the empty bowl.", said(q.bowl))
	}
	return Task{Ask: fmt.Sprintf("%s%s What must the scale show when %s g of %s have gone in?", bowl, already, said(q.add), a.Name), Ingredient: a.Name, Question: q}
}

func (m maker) onDial() Task {
	a := m.amount(grams)
	q := needle{division: pick(m, ints(5, 10, 20)), start: exact.Int(int64(100 * m.rng.IntN(5))), divisions: exact.Frac(int64(1+m.rng.IntN(18)), 2)}
	return Task{Ask: fmt.Sprintf("The scale for the %s has a line every %s g. The needle stands %s %s after %s g. How much is on it?", a.Name, said(q.division), said(q.divisions), many("line", q.divisions), said(q.start)), Ingredient: a.Name, Question: q}
}

func (m maker) inJug() Task {
	a := m.amount(func(a Amount) bool { return a.Pours && a.Unit.ID == "ml" })
	marks := pick(m, m.Jugs)
	q := read{reading: a.Amount.RoundTo(marks).Add(marks), radius: exact.Int(int64(35 + m.rng.IntN(16))), eye: exact.Int(int64(5 * (1 + m.rng.IntN(3))))}
	if least := 2 * TooHigh(q.radius.Float(), q.eye.Float()); q.reading.Float() < least {
		q.reading = number(least).RoundTo(marks).Add(marks)
	}
	return Task{Ask: fmt.Sprintf("From %s degrees above, the %s in a jug of %s mm inner radius seems to stand at %s ml. How much is really in it?", said(q.eye), a.Name, said(q.radius), said(q.reading)), Ingredient: a.Name, Question: q, Tolerance: 3}
}

func (m maker) bySpoons() Task {
	unit, word, set := m.spoons()
	return m.fillings(unit, word, set, 5)
}

func (m maker) spoons() (unit, word string, set []exact.Number) {
	if m.rng.IntN(2) == 0 {
		return "tbsp", "tablespoon", m.Tablespoons
	}
	return "tsp", "teaspoon", m.Teaspoons
}

func (m maker) byCups() Task { return m.fillings("cup", "cup", m.Cups, 3) }

func (m maker) fillings(unit, word string, set []exact.Number, most int) Task {
	sum := m.reached(set, most)
	a := m.amount(func(a Amount) bool { return !a.Pours })
	var sizes []string
	for _, s := range set {
		sizes = append(sizes, said(s))
	}
	return Task{Ask: fmt.Sprintf("There are measures of %s %s. How few level fillings make %s %s of %s?", words.Names(sizes), word, said(sum), many(word, sum), a.Name), Ingredient: a.Name,
		Question: fillings{sum, unit, set}}
}

// reached is an amount that some measures of a set come to and that people write.
func (m maker) reached(set []exact.Number, most int) exact.Number {
	for {
		sum := exact.Number{}
		for range 1 + m.rng.IntN(most) {
			sum = sum.Add(pick(m, set))
		}
		if _, den := sum.Ratio(); den <= 4 {
			return sum
		}
	}
}

func many(word string, n exact.Number) string {
	if n.Cmp(exact.Int(1)) > 0 {
		return word + "s"
	}
	return word
}

func (m maker) parts() Task {
	a := m.amount(func(a Amount) bool { return a.Pack.Sign() > 0 })
	p := pick(m, []exact.Number{exact.Frac(1, 2), exact.Frac(1, 3), exact.Frac(1, 4), exact.Frac(2, 3), exact.Frac(3, 4), exact.Frac(1, 5), exact.Frac(2, 5)})
	if m.rng.IntN(2) == 0 {
		return Task{Ask: fmt.Sprintf("A pack of %s holds %s %s. How much is %s of it?", a.Name, said(a.Pack), a.Unit.ID, said(p)), Ingredient: a.Name, Question: part{pack: a.Pack, unit: a.Unit.ID, part: p}}
	}
	if !a.Pack.Mul(p).IsInt() {
		p = exact.Frac(1, 2)
	}
	q := part{need: a.Pack.Mul(p), pack: a.Pack, unit: a.Unit.ID}
	return Task{Ask: fmt.Sprintf("You need %s %s of %s, and a pack holds %s %s. Which part of the pack is that?", said(q.need), q.unit, a.Name, said(q.pack), q.unit), Ingredient: a.Name, Question: q}
}

var settings = map[string]string{"C": "°C in an oven without a fan", "fan": "°C in a fan oven", "F": "°F"}

func (m maker) oven() Task {
	c := pick(m, m.Ovens)
	ways := []string{"C", "fan", "F"}
	if g, ok := measure.CelsiusToGas(c); ok {
		if back, _ := measure.GasToCelsius(g); back.Amount.Cmp(c) == 0 {
			ways = append(ways, "gas")
		}
	}
	from := pick(m, ways)
	to := pick(m, slices.DeleteFunc(slices.Clone(ways), func(w string) bool { return w == from }))
	q := dial{dial{c, "C", from}.Answer().Amount, from, to}
	return Task{Ask: fmt.Sprintf("A recipe says %s. What is that %s?", setting(q.amount, from), asked(to)), Question: q, Tolerance: 3}
}

func asked(unit string) string {
	if unit == "gas" {
		return "as a gas mark"
	}
	return "in " + settings[unit]
}

func setting(n exact.Number, unit string) string {
	if unit == "gas" {
		return "gas mark " + said(n)
	}
	return said(n) + " " + settings[unit]
}

var conversions = [][2]measure.Unit{
	{measure.Gram, measure.Kilogram}, {measure.Kilogram, measure.Gram}, {measure.Millilitre, measure.Decilitre}, {measure.Decilitre, measure.Millilitre}, {measure.Centilitre, measure.Millilitre},
	{measure.Litre, measure.Millilitre}, {measure.Millilitre, measure.Litre}, {measure.Tablespoon, measure.Millilitre}, {measure.Tablespoon, measure.Teaspoon}, {measure.Teaspoon, measure.Tablespoon},
	{measure.Millilitre, measure.Tablespoon}, {measure.Ounce, measure.Gram}, {measure.Pound, measure.Gram}, {measure.Tablespoon, measure.Gram}, {measure.Millilitre, measure.Gram}, {measure.Gram, measure.Millilitre},
}

func (m maker) convert() Task {
	u := pick(m, conversions)
	meets := u[0].Dimension != u[1].Dimension
	a := m.amount(func(a Amount) bool {
		if meets && !a.Density.Known() {
			return false
		}
		switch spoons := u[0] == measure.Tablespoon || u[0] == measure.Teaspoon; {
		case u[0].Dimension == measure.Mass:
			return a.Unit.ID == "g"
		case spoons:
			return a.Unit.ID == "tsp" || a.Unit.ID == "tbsp"
		}
		return a.Pours
	})
	q := converted{from: u[0], to: u[1], amount: m.round(u[0])}
	how := ""
	if meets {
		q.density = a.Density.Number
		how = fmt.Sprintf(" (1 ml of it weighs %s g)", q.density.Decimal(2))
	}
	tolerance := 0.0
	if u[0] == measure.Ounce || u[0] == measure.Pound {
		tolerance = 2
	}
	return Task{Ask: fmt.Sprintf("How many %s are %s of %s%s?", u[1].Symbol, measure.Quantity{Amount: q.amount, Unit: u[0]}, a.Name, how), Ingredient: a.Name, Question: q, Tolerance: tolerance}
}

// round is an amount of a unit that people meet.
func (m maker) round(u measure.Unit) exact.Number {
	n := int64(1 + m.rng.IntN(12))
	switch u {
	case measure.Gram, measure.Millilitre:
		return exact.Int(15 * n)
	case measure.Kilogram, measure.Litre:
		return exact.Frac(n, 4)
	}
	return exact.Frac(n, 2)
}

func (m maker) fraction() Task {
	of := pick(m, []exact.Number{exact.Frac(1, 2), exact.Frac(1, 3), exact.Frac(1, 4), exact.Frac(2, 3), exact.Frac(3, 4)})
	if m.rng.IntN(2) == 0 {
		cup := pick(m, []exact.Number{exact.Frac(3, 4), exact.Frac(1, 2), exact.Frac(3, 2), exact.Frac(2, 3), exact.Frac(1, 3)})
		a := m.amount(func(a Amount) bool { return !a.Pours })
		if _, den := of.Mul(cup).Ratio(); den > 6 { // of which there is no cup
			of, cup = exact.Frac(1, 2), exact.Frac(2, 3)
		}
		return Task{Ask: fmt.Sprintf("What is %s of %s cup of %s?", said(of), said(cup), a.Name), Ingredient: a.Name, Question: times{cup, "cup", []Field{{"of", of}}, of}}
	}
	a := m.amount(plain)
	return Task{Ask: fmt.Sprintf("What is %s of %s of %s?", said(of), a.Quantity, a.Name), Ingredient: a.Name, Question: times{a.Amount, a.Unit.ID, []Field{{"of", of}}, of}}
}

// plain reports whether an amount is in a unit that everybody knows.
func plain(a Amount) bool { return slices.Contains([]string{"g", "ml", "tsp", "tbsp"}, a.Unit.ID) }

func (m maker) scaling() Task {
	a := m.amount(plain)
	from, to := m.From, m.To
	if from == to || m.rng.IntN(3) == 0 {
		from = 2 + m.rng.IntN(5)
		for to = from; to == from; {
			to = 1 + m.rng.IntN(8)
		}
	}
	return Task{Ask: fmt.Sprintf("%s of %s are for %d portions. How much is it for %d?", a.Quantity, a.Name, from, to), Ingredient: a.Name,
		Question: times{a.Amount, a.Unit.ID, []Field{{"from", from}, {"to", to}}, exact.Frac(int64(to), int64(from))}}
}

func (m maker) ratio() Task {
	parts := pick(m, [][2]int64{{1, 2}, {1, 3}, {2, 3}, {1, 4}, {3, 4}, {2, 5}})
	pair := pick(m, [][2]string{{"fat", "flour"}, {"lentils", "water"}, {"oil", "vinegar"}, {"sugar", "fruit"}})
	q := ratio{parts: [2]exact.Number{exact.Int(parts[0]), exact.Int(parts[1])}, known: m.rng.IntN(2), amount: exact.Int(int64(10 * (3 + m.rng.IntN(25)))), unit: "g"}
	q.wanted = 1 - q.known
	return Task{Ask: fmt.Sprintf("%s and %s are to be %d to %d. With %s g of %s, how much %s?", words.Capital(pair[0]), pair[1], parts[0], parts[1], said(q.amount), pair[q.known], pair[q.wanted]), Ingredient: pair[q.wanted], Question: q}
}

func (m maker) time() Task {
	wait := pick(m, m.Waits)
	switch m.rng.IntN(3) {
	case 0:
		by := wait + 2 + m.rng.IntN(8)
		return Task{Ask: fmt.Sprintf("It must be out and cool %d minutes after it goes in, and the bell rings at %s. When must it go in at the latest?", by, m.Bell), Question: later{m.Bell, true, by}}
	case 1:
		at := m.Start + clock.Time(5+m.rng.IntN(max(1, int(m.Bell-m.Start)-10)))
		return Task{Ask: fmt.Sprintf("It goes in at %s for %d minutes. When does it come out?", at, wait), Question: later{at, false, wait}}
	}
	at := m.Start + clock.Time(m.rng.IntN(max(1, int(m.Bell-m.Start)-5)))
	return Task{Ask: fmt.Sprintf("It is %s, and the bell rings at %s. How many minutes are left?", at, m.Bell), Question: between{at, m.Bell}}
}

func (m maker) instrument() Task {
	scale, jug := pick(m, m.Scales), pick(m, m.Jugs)
	amount := pick(m, numbers("3", "5", "7", "12", "40", "90", "150"))
	q := tool{amount: amount, unit: "g", tools: []Tool{{"teaspoon", "spoon", exact.Int(5)}, {"cup", "cup", exact.Int(120)}}}
	what := pick(m, []string{"salt", "yeast", "baking powder", "sugar", "flour"})
	if m.rng.IntN(3) == 0 {
		q.unit, what = "ml", pick(m, []string{"milk", "oil", "water"})
		q.tools = append(q.tools, Tool{fmt.Sprintf("jug with a mark every %s ml", said(jug)), "jug", jug})
	} else {
		q.tools = append(q.tools, Tool{fmt.Sprintf("scale that shows %s g", said(scale)), "scale", scale})
		if m.rng.IntN(2) == 0 {
			q.tools = append(q.tools, Tool{"scale that shows 0.1 g", "scale", exact.Frac(1, 10)})
		}
	}
	m.rng.Shuffle(len(q.tools), func(i, j int) { q.tools[i], q.tools[j] = q.tools[j], q.tools[i] })
	var names []string
	for _, t := range q.tools {
		names = append(names, t.Name)
	}
	return Task{Ask: fmt.Sprintf("Which of these errs least for %s %s of %s: %s?", said(amount), q.unit, what, words.Or(names)), Ingredient: what, Question: q}
}

// Exercises are the kinds that can be done on a drawn instrument.
var Exercises = []Kind{OnScale, OnDial, InJug, BySpoons, ByCups}

// Do makes the exercise of a kind and a number.
func Do(kind Kind, seed uint64, number int, from Source) Exercise {
	m := maker{rand.New(rand.NewPCG(seed^0x5eed, uint64(number)+1)), from.with(Usual())}
	e := Exercise{Kind: kind}
	percent := func(instrument float64) float64 {
		bears := 100 * e.Amount.Tolerance
		if bears == 0 {
			bears = usualTolerance
		}
		return max(min(bears, usualTolerance/2), 100*instrument/e.Want)
	}
	switch kind {
	case OnScale, OnDial:
		e.Amount = m.amount(func(a Amount) bool { return grams(a) && (kind == OnScale || a.Amount.Float() < dialHolds) })
		e.Unit, e.Want = "g", e.Amount.Amount.Float()
		e.Tolerance = percent(m.Scales[0].Float())
		if kind == OnDial {
			e.Tolerance = percent(5)
		}
		e.Ask = fmt.Sprintf("Weigh %s of %s into the bowl.", e.Amount.Quantity, e.Amount.Name)
	case InJug:
		e.Amount = m.amount(func(a Amount) bool { return a.Pours && a.Unit.ID == "ml" })
		e.Unit, e.Want = "ml", e.Amount.Amount.Float()
		e.Tolerance = percent(m.Jugs[0].Float() / 4)
		e.Ask = fmt.Sprintf("Pour %s of %s into the jug.", e.Amount.Quantity, e.Amount.Name)
	default:
		unit, _, set := m.spoons()
		if kind == ByCups {
			set, unit = m.Cups, "cup"
		}
		sum := m.reached(set, 3)
		e.Amount = m.amount(func(a Amount) bool {
			spooned := a.Unit.ID == "tsp" || a.Unit.ID == "tbsp"
			return !a.Pours && spooned == (kind == BySpoons)
		})
		e.Unit, e.Want, e.Tolerance = unit, sum.Float(), 0.5
		e.Ask = fmt.Sprintf("Measure %s %s of %s with as few fillings as you can.", said(sum), unit, e.Amount.Name)
	}
	return e
}
