package rescue_test

import (
	"fmt"
	"hash/crc32"
	"math/rand/v2"
	"slices"
	"strings"
	"testing"

	"freshapron/internal/core/exact"
	"freshapron/internal/core/fit"
	"freshapron/internal/core/rescue"
	"freshapron/internal/golden"
)

// madeUp is a lesson with something of everything that a change can meet: dishes that wait for one
// another, some made otherwise, groups with dishes of their own and pins, ovens, holds, loads.
func madeUp(seed uint64) fit.Lesson {
	r := rand.New(rand.NewPCG(seed, 5))
	yes := func(of int) bool { return r.IntN(of) == 0 }
	minutes := func(most int) exact.Number { return exact.Frac(int64(1+r.IntN(4*most)), 4) }
	l := fit.Lesson{
		Title: "Made up", Start: 540, Adults: r.IntN(3), Phases: []fit.Phase{{Name: "Start", Minutes: minutes(6), Place: fit.AtStart}},
		Equipment: []fit.Equipment{
			{ID: "oven", Temperature: true, Preheat: exact.Int(10), Reheat: exact.Int(5)}, {ID: "ring", PerStation: true}, {ID: "blender"},
		},
	}
	l.End = l.Start + 60
	if yes(2) {
		l.Phases = append(l.Phases, fit.Phase{Name: []string{"Demonstration", "Demo of folding", "Talk"}[r.IntN(3)], Minutes: minutes(9), Place: fit.AtStart})
	}
	l.Phases = append(l.Phases, fit.Phase{Name: "Clear", Minutes: minutes(8), Place: fit.AtEnd})
	for e := range l.Equipment {
		for n := range 1 + r.IntN(3) {
			l.Equipment[e].Units = append(l.Equipment[e].Units, fit.Unit{Name: fmt.Sprintf("%s %d", l.Equipment[e].ID, n+1), Places: 1 + r.IntN(2)})
		}
	}
	dishes := 1 + r.IntN(3)
	for d := range dishes {
		dish := fit.Dish{ID: fmt.Sprintf("d%d", d), Title: fmt.Sprintf("Dish %d", d), Ingredients: []fit.Ingredient{{Name: "flour", PartOf: "pastry"}, {Name: "milk", PartOf: "white sauce"}}}
		if d > 0 && yes(3) {
			dish.Of = "d0"
		}
		for i := range 3 + r.IntN(5) {
			title := []string{"Weigh", "Make the pastry", "Rest the pastry", "Roll the pastry out", "Cook the custard", "Mix the sauce", "Chop", "Bake", "Line the tin with pastry", "Chill the jelly"}[r.IntN(10)]
			s := fit.Step{
				ID: fmt.Sprintf("s%d", i), Title: title, Kind: []fit.Kind{fit.Weigh, fit.Mix, fit.Rest, fit.Cut, fit.Cook, fit.Prepare, fit.Bake, fit.Chill, fit.Clean}[r.IntN(9)],
				Work: minutes(9), Cooks: 1, Adult: fit.NoAdult, Shareable: yes(5),
			}
			if yes(3) {
				s.Wait = minutes(20)
			}
			if i > 0 && !yes(4) {
				a := fit.After{Step: fmt.Sprintf("s%d", r.IntN(i))}
				if yes(3) {
					a.Dish = dish.ID
				}
				if yes(3) {
					a.MinGap = minutes(4)
				} else if yes(3) {
					most := minutes(20)
					a.MaxGap = &most
				}
				s.After = append(s.After, a)
			}
			if d > 0 && yes(4) {
				s.After = append(s.After, fit.After{Dish: "d0", Step: fmt.Sprintf("s%d", r.IntN(3))})
			}
			if s.Kind == fit.Bake || yes(6) {
				at := exact.Int(160 + 10*int64(r.IntN(6)))
				s.Uses = append(s.Uses, fit.Use{Equipment: "oven", Places: 1, Temperature: &at, During: fit.WaitPart})
			} else if yes(4) {
				s.Uses = append(s.Uses, fit.Use{Equipment: []string{"ring", "blender"}[r.IntN(2)], Places: 1, During: fit.WholeStep})
			}
			if s.Kind == fit.Cook && yes(2) {
				s.Pieces, s.PerLoad, s.Load = 2+r.IntN(12), 1+r.IntN(5), minutes(4)
			}
			if yes(4) {
				s.Hold = &fit.Hold{Where: []string{"fridge", "cold place"}[r.IntN(2)], MaxMinutes: exact.Int(int64(30 + r.IntN(3000)))}
			}
			if yes(8) {
				s.Adult, s.Cooks = fit.Does, 0
			}
			dish.Steps = append(dish.Steps, s)
		}
		l.Dishes = append(l.Dishes, dish)
	}
	for g := range 1 + r.IntN(6) {
		group := fit.Group{ID: fmt.Sprintf("g%d", g), Name: fmt.Sprintf("Bench %d", g+1), Cooks: 1 + r.IntN(3), Pace: exact.Frac(int64(3+r.IntN(3)), 4)}
		if dishes > 1 && yes(2) {
			group.Dishes = []string{fmt.Sprintf("d%d", r.IntN(dishes))}
		}
		if yes(3) {
			at := minutes(20)
			group.Pins = []fit.Pin{{Dish: "d0", Step: "s1", NotBefore: &at, Units: []string{"oven 1"}}, {Dish: fmt.Sprintf("d%d", dishes-1), Step: "s0", BeginBy: &at}}
		}
		l.Groups = append(l.Groups, group)
	}
	return l
}

func sum(text string) string { return fmt.Sprintf("%08x", crc32.ChecksumIEEE([]byte(text))) }

// What every change makes of many lessons, what it says, and what it asks before the lesson, in sums.
func TestChangesOfManyLessons(t *testing.T) {
	kinds := []rescue.Kind{
		rescue.NotBefore, rescue.BeginBy, rescue.PinAt, rescue.InUnit, rescue.UnitOut, rescue.AdultOut, rescue.Work, rescue.Wait, rescue.Pace, rescue.Cooks, rescue.Preweigh, rescue.ReadyMade, rescue.Prepared,
		rescue.DemoBefore, rescue.DemoInPieces, rescue.Hands, rescue.Halves, rescue.Instead, rescue.Fewer, rescue.Smaller, rescue.FewerLoads, rescue.HotBefore, rescue.OneMore, rescue.OneAdult, rescue.Stagger,
		rescue.OneTemperature, rescue.FinishAfter, rescue.TwoLessons, rescue.LeaveOut, rescue.Share,
	}
	sums := map[rescue.Kind]*strings.Builder{}
	for _, k := range kinds {
		sums[k] = &strings.Builder{}
	}
	var parts strings.Builder
	for seed := range uint64(16) {
		l := madeUp(seed)
		for _, d := range l.Dishes {
			for n, s := range d.Steps {
				fmt.Fprint(&parts, rescue.Shares(s))
				part, earlier := rescue.PartOf(d, s.ID), rescue.Earlier(d, s.ID)
				for _, o := range d.Steps {
					fmt.Fprint(&parts, part(o.ID), earlier(o.ID))
				}
				for i, k := range kinds {
					if (i+n+int(seed))%3 > 0 { // for time
						continue
					}
					c := rescue.Change{
						Kind: k, Dish: d.ID, Step: s.ID, Equipment: l.Equipment[n%3].ID, Unit: l.Equipment[n%3].Units[0].Name, Other: "leek-pie",
						At: exact.Frac(int64(n+1)*7, 3), Minutes: exact.Frac(int64(n)*1000+2345, 1000), Number: 1 + n%3,
					}
					if n%2 == 0 {
						c.Group = l.Groups[n%len(l.Groups)].ID
					}
					if n == 1 {
						c.Dish = ""
					}
					changed, err := rescue.Apply(l, c)
					fmt.Fprintln(sums[k], c.Says(l), err, sum(golden.All(changed)), rescue.Befores(l, []rescue.Change{c}))
				}
			}
		}
	}
	var b strings.Builder
	for _, k := range kinds {
		for n, line := range slices.Collect(slices.Chunk(strings.Split(sums[k].String(), "\n"), 25)) {
			fmt.Fprintf(&b, "%s %d: %s\n", k, n, sum(strings.Join(line, "\n")))
		}
	}
	fmt.Fprintf(&b, "parts: %s\n", sum(parts.String()))
	golden.Same(t, "many.golden", b.String())
}

// The ways that many lessons allow, each with what it costs, in sums.
func TestWaysOfManyLessons(t *testing.T) {
	var b strings.Builder
	for seed := range uint64(240) {
		l := madeUp(seed)
		if l.Check() != nil {
			continue
		}
		p, err := fit.Solve(l, fit.Options{Placements: 300, Runs: 10})
		if err != nil {
			continue
		}
		ways := rescue.Ways(l, p)
		fmt.Fprintf(&b, "%d: %d ways, %s\n", seed, len(ways), sum(golden.All(ways)))
	}
	golden.Same(t, "ways.golden", b.String())
}
