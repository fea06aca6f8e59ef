package fit_test

import (
	"fmt"
	"math/rand/v2"

	"freshapron/internal/core/exact"
	"freshapron/internal/core/fit"
)

// hardKinds are kinds of lessons that are hard to plan well: those of assessed
// tasks, of greatest gaps, of ovens that many need. Each is made up from a
// seed.
var hardKinds = []struct {
	name string
	make func(r *rand.Rand) fit.Lesson
}{
	{"pairs with gaps", pairsWithGaps},
	{"one cook assessed", func(r *rand.Rand) fit.Lesson { return singles(r, 1, 4, 1+r.IntN(2)) }},
	{"alone, two dishes", func(r *rand.Rand) fit.Lesson { return singles(r, 1, 2, 1) }},
	{"four singles", func(r *rand.Rand) fit.Lesson { return singles(r, 4, 3, 2) }},
	{"twelve singles", func(r *rand.Rand) fit.Lesson { return singles(r, 12, 3, 5) }},
	{"many singles", func(r *rand.Rand) fit.Lesson { return singles(r, 16+r.IntN(9), 2+r.IntN(2), 6) }},
	{"grill and eggs", grillAndEggs},
	{"shut doors, two temperatures", func(r *rand.Rand) fit.Lesson { return shutDoors(r, true) }},
	{"doors kept shut", func(r *rand.Rand) fit.Lesson { return shutDoors(r, false) }},
	{"adults do and watch", adultsDoAndWatch},
	{"everything at once", everythingAtOnce},
	{"a plain class", plainClass},
}

// hard returns a lesson of a kind.
func hard(kind int, seed uint64) fit.Lesson {
	l := hardKinds[kind].make(rand.New(rand.NewPCG(seed, uint64(kind)+100)))
	l.Title = fmt.Sprintf("%s %d", hardKinds[kind].name, seed)
	return l
}

func between(r *rand.Rand, from, to int) exact.Number {
	return exact.Frac(int64(2*from+r.IntN(2*(to-from)+1)), 2)
}

func step(id string, kind fit.Kind, work, wait exact.Number, after ...fit.After) fit.Step {
	return fit.Step{ID: id, Title: id, Kind: kind, Work: work, Wait: wait, Cooks: 1, Adult: fit.NoAdult, After: after}
}

func then(id string) fit.After { return fit.After{Step: id} }

func soon(id string, minutes exact.Number) fit.After { return fit.After{Step: id, MaxGap: &minutes} }

func ovens(n, places int, reheat int64) fit.Equipment {
	e := fit.Equipment{ID: "oven", Temperature: true, Preheat: exact.Int(10), Reheat: exact.Int(reheat)}
	for i := range n {
		e.Units = append(e.Units, fit.Unit{Name: fmt.Sprintf("Oven %d", i+1), Places: places})
	}
	return e
}

func things(id string, station bool, n int) fit.Equipment {
	e := fit.Equipment{ID: id, PerStation: station}
	for i := range n {
		e.Units = append(e.Units, fit.Unit{Name: fmt.Sprintf("%s %d", id, i+1), Places: 1})
	}
	return e
}

func room(adults int, groups, cooks int, equipment ...fit.Equipment) fit.Lesson {
	l := fit.Lesson{Start: 9 * 60, End: 11 * 60, Adults: adults, Equipment: equipment, Phases: []fit.Phase{
		{Name: "Start", Minutes: exact.Int(8), Place: fit.AtStart},
		{Name: "Stop", Minutes: exact.Int(3), Place: fit.AtMinute, Minute: exact.Int(45)},
		{Name: "Clear", Minutes: exact.Int(10), Place: fit.AtEnd},
	}}
	for g := range groups {
		l.Groups = append(l.Groups, fit.Group{ID: fmt.Sprintf("g%d", g), Cooks: cooks, Pace: exact.Int(1)})
	}
	return l
}

// pairsWithGaps fry what must not stand, on few rings, and eat it warm.
func pairsWithGaps(r *rand.Rand) fit.Lesson {
	l := room(1, 4+r.IntN(9), 2, things("ring", false, 3+r.IntN(3)), things("grill", false, 1+r.IntN(2)))
	d := fit.Dish{ID: "eggs", Steps: []fit.Step{
		step("chop", fit.Cut, between(r, 3, 8), exact.Int(0)),
		step("grate", fit.Prepare, between(r, 2, 5), exact.Int(0)),
		step("whisk", fit.Mix, between(r, 1, 3), exact.Int(0)),
		step("fry", fit.Cook, between(r, 4, 8), exact.Int(0), soon("whisk", between(r, 2, 5)), then("chop")),
		step("brown", fit.Cook, exact.Int(1), between(r, 2, 4), soon("fry", exact.Int(1)), then("grate")),
		step("dress", fit.Mix, between(r, 3, 6), exact.Int(0), then("chop")),
		step("plate", fit.Serve, between(r, 1, 3), exact.Int(0), soon("brown", exact.Int(2)), then("dress")),
	}}
	d.Steps[0].Shareable = true
	d.Steps[3].Uses = []fit.Use{{Equipment: "ring", Places: 1, During: fit.WholeStep}}
	d.Steps[4].Uses = []fit.Use{{Equipment: "grill", Places: 1, During: fit.WholeStep}}
	l.Dishes = []fit.Dish{d}
	return l
}

// singles cook alone, several dishes each, in ovens at two temperatures, and
// bring everything to the table warm.
func singles(r *rand.Rand, groups, dishes, count int) fit.Lesson {
	l := room(1, groups, 1, ovens(count, 1+r.IntN(2), 5), things("ring", true, 2), things("blender", false, 1+groups/6))
	var ends []fit.After
	for d := range dishes {
		id := fmt.Sprintf("d%d", d)
		dish := fit.Dish{ID: id}
		steps := 4 + r.IntN(3)
		for i := range steps {
			s := step(fmt.Sprintf("%s%d", id, i), fit.Mix, between(r, 1, 7), exact.Int(0))
			if i > 0 {
				s.After = []fit.After{then(fmt.Sprintf("%s%d", id, max(0, i-1-r.IntN(2))))}
			}
			switch r.IntN(5) {
			case 0:
				s.Wait = between(r, 4, 15)
			case 1:
				s.Wait = between(r, 5, 12)
				s.Uses = []fit.Use{{Equipment: "ring", Places: 1, During: fit.WholeStep}}
			case 2:
				s.Work, s.Uses = between(r, 1, 2), []fit.Use{{Equipment: "blender", Places: 1, During: fit.WorkPart}}
			}
			if i == steps-2 && d < 3 {
				s.Kind, s.Work, s.Wait = fit.Bake, exact.Int(1), between(r, 10, 22)
				s.After = []fit.After{soon(fmt.Sprintf("%s%d", id, i-1), between(r, 5, 15))}
				s.Uses = []fit.Use{{Equipment: "oven", Places: 1, Temperature: celsius(180 + 20*int64(d%2)), During: fit.WaitPart}}
			}
			dish.Steps = append(dish.Steps, s)
		}
		last := dish.Steps[len(dish.Steps)-1].ID
		if d < dishes-1 {
			most := between(r, 10, 25)
			ends = append(ends, fit.After{Dish: id, Step: last, MaxGap: &most})
		} else {
			dish.Steps = append(dish.Steps, step("serve", fit.Serve, exact.Int(2), exact.Int(0), append(ends, then(last))...))
		}
		l.Dishes = append(l.Dishes, dish)
	}
	return l
}

func grillAndEggs(r *rand.Rand) fit.Lesson {
	l := room(1, 6+r.IntN(7), 2, things("grill", false, 2+r.IntN(2)), things("ring", true, 1), ovens(2, 2, 5))
	d := fit.Dish{ID: "plate", Steps: []fit.Step{
		step("cut", fit.Cut, between(r, 4, 9), exact.Int(0)),
		step("boil", fit.Cook, exact.Int(1), between(r, 7, 11)),
		step("peel", fit.Prepare, between(r, 2, 4), exact.Int(0), then("boil")),
		step("toast", fit.Cook, between(r, 2, 4), exact.Int(0), then("cut")),
		step("sauce", fit.Cook, between(r, 4, 8), exact.Int(0), then("cut")),
		step("grill", fit.Cook, exact.Int(1), between(r, 4, 7), then("peel"), soon("toast", between(r, 2, 6)), then("sauce")),
		step("warm", fit.Bake, exact.Int(1), between(r, 4, 8), soon("grill", exact.Int(3))),
		step("serve", fit.Serve, exact.Int(2), exact.Int(0), soon("warm", exact.Int(2))),
	}}
	d.Steps[0].Shareable = true
	d.Steps[1].Uses = []fit.Use{{Equipment: "ring", Places: 1, During: fit.WholeStep}}
	d.Steps[3].Uses = []fit.Use{{Equipment: "grill", Places: 1, During: fit.WholeStep}}
	d.Steps[4].Uses = []fit.Use{{Equipment: "ring", Places: 1, During: fit.WholeStep}}
	d.Steps[5].Uses = []fit.Use{{Equipment: "grill", Places: 1, During: fit.WholeStep}}
	d.Steps[6].Uses = []fit.Use{{Equipment: "oven", Places: 1, Temperature: celsius(120), During: fit.WaitPart}}
	l.Dishes = []fit.Dish{d}
	return l
}

func shutDoors(r *rand.Rand, two bool) fit.Lesson {
	l := room(1, 5+r.IntN(6), 1+r.IntN(2), ovens(2+r.IntN(2), 2, 6))
	d := fit.Dish{ID: "bakes", Steps: []fit.Step{
		step("weigh", fit.Weigh, between(r, 3, 6), exact.Int(0)),
		step("mix", fit.Mix, between(r, 4, 9), exact.Int(0), then("weigh")),
		step("bake", fit.Bake, exact.Int(1), between(r, 12, 20), soon("mix", between(r, 5, 10))),
		step("fill", fit.Shape, between(r, 4, 8), exact.Int(0), then("weigh")),
		step("crisp", fit.Bake, exact.Int(1), between(r, 6, 12), then("fill")),
		step("ice", fit.Serve, between(r, 3, 6), exact.Int(0), then("bake"), then("crisp")),
	}}
	d.Steps[0].Shareable = true
	for i, at := range map[int]int64{2: 190, 4: 190} {
		if two && i == 4 {
			at = 150
		}
		d.Steps[i].KeepShut = i == 2
		d.Steps[i].Uses = []fit.Use{{Equipment: "oven", Places: 1, Temperature: celsius(at), During: fit.WaitPart}}
	}
	l.Dishes = []fit.Dish{d}
	return l
}

func adultsDoAndWatch(r *rand.Rand) fit.Lesson {
	l := room(1+r.IntN(2), 6+r.IntN(5), 2, things("fryer", false, 1), ovens(2, 2, 5))
	d := fit.Dish{ID: "balls", Steps: []fit.Step{
		step("chop", fit.Cut, between(r, 4, 8), exact.Int(0)),
		step("shape", fit.Shape, between(r, 5, 10), exact.Int(0), then("chop")),
		step("drain", fit.Cook, between(r, 1, 2), exact.Int(0), then("chop")),
		step("fry", fit.Cook, between(r, 2, 4), exact.Int(0), then("shape")),
		step("bake", fit.Bake, exact.Int(1), between(r, 8, 14), then("fry")),
		step("test", fit.Cook, exact.Int(1), exact.Int(0), soon("bake", exact.Int(5))),
		step("salad", fit.Mix, between(r, 6, 12), exact.Int(0), then("drain")),
		step("serve", fit.Serve, exact.Int(2), exact.Int(0), then("test"), then("salad")),
	}}
	d.Steps[0].Shareable, d.Steps[6].Shareable = true, true
	d.Steps[2].Adult, d.Steps[2].Cooks = fit.Does, 0
	d.Steps[3].Adult, d.Steps[5].Adult = fit.Watches, fit.Watches
	d.Steps[3].Uses = []fit.Use{{Equipment: "fryer", Places: 1, During: fit.WholeStep}}
	d.Steps[4].Uses = []fit.Use{{Equipment: "oven", Places: 1, Temperature: celsius(200), During: fit.WaitPart}}
	l.Dishes = []fit.Dish{d}
	return l
}

// everythingAtOnce is four pairs with two dishes, gaps, doors, temperatures,
// loads and one adult.
func everythingAtOnce(r *rand.Rand) fit.Lesson {
	l := room(1, 3+r.IntN(4), 2, ovens(2, 1+r.IntN(2), 5), things("ring", true, 2), things("blender", false, 1))
	one := fit.Dish{ID: "one", Steps: []fit.Step{
		step("weigh", fit.Weigh, between(r, 3, 6), exact.Int(0)),
		step("knead", fit.Mix, between(r, 5, 9), exact.Int(0), then("weigh")),
		step("prove", fit.Rest, exact.Int(0), between(r, 12, 20), then("knead")),
		step("shape", fit.Shape, between(r, 4, 8), exact.Int(0), soon("prove", between(r, 4, 10))),
		step("bake", fit.Bake, exact.Int(1), between(r, 12, 18), soon("shape", between(r, 8, 15))),
		step("cool", fit.Cool, exact.Int(0), exact.Int(5), then("bake")),
	}}
	one.Steps[0].Shareable = true
	one.Steps[4].KeepShut = true
	one.Steps[4].Uses = []fit.Use{{Equipment: "oven", Places: 1, Temperature: celsius(210), During: fit.WaitPart}}
	two := fit.Dish{ID: "two", Steps: []fit.Step{
		step("peel", fit.Prepare, between(r, 4, 8), exact.Int(0)),
		step("sweat", fit.Cook, between(r, 3, 5), between(r, 5, 10), then("peel")),
		step("blend", fit.Mix, exact.Int(1), exact.Int(0), then("sweat")),
		step("roast", fit.Bake, exact.Int(1), between(r, 8, 14), then("peel")),
		step("test", fit.Cook, exact.Int(1), exact.Int(0), soon("roast", exact.Int(4)), then("blend")),
		step("serve", fit.Serve, exact.Int(3), exact.Int(0), then("test"), fit.After{Dish: "one", Step: "cool", MaxGap: gap("20")}),
	}}
	two.Steps[0].Shareable = true
	two.Steps[1].Uses = []fit.Use{{Equipment: "ring", Places: 1, During: fit.WholeStep}}
	two.Steps[2].Uses = []fit.Use{{Equipment: "blender", Places: 1, During: fit.WorkPart}}
	two.Steps[3].Uses = []fit.Use{{Equipment: "oven", Places: 1, Temperature: celsius(180), During: fit.WaitPart}}
	two.Steps[4].Adult = fit.Watches
	l.Dishes = []fit.Dish{one, two}
	return l
}

func plainClass(r *rand.Rand) fit.Lesson { return class(r.Uint64()) }
