package train_test

import (
	"fmt"
	"strings"
	"testing"
	"time"

	"freshapron/internal/core/clock"
	"freshapron/internal/core/exact"
	"freshapron/internal/core/measure"
	"freshapron/internal/core/train"
	"freshapron/internal/golden"
)

// What each template asks, of an ordinary kitchen and of a lesson, with the answer, and what
// is said of answers and drawings that are a little and far off: the tests beside this say
// what is right, and this one sees any move.
func TestWhatIsAskedAndSaid(t *testing.T) {
	lesson := train.Source{
		Amounts: []train.Amount{
			{Name: "strong flour", Quantity: measure.Quantity{Amount: exact.Int(225), Unit: measure.Gram}, Role: "structure", Tolerance: 0.05, Pack: exact.Int(1500)},
			{Name: "milk", Quantity: measure.Quantity{Amount: exact.Int(125), Unit: measure.Millilitre}, Pours: true},
			{Name: "baking powder", Quantity: measure.Quantity{Amount: exact.Frac(3, 2), Unit: measure.Teaspoon}, Role: "raising agent", Tolerance: 0.1},
		},
		Scales: []exact.Number{exact.Int(5)}, Jugs: []exact.Number{exact.Int(20)}, Teaspoons: []exact.Number{exact.Int(1), exact.Frac(1, 2)},
		Ovens: []exact.Number{exact.Int(190)}, From: 4, To: 3, Start: clock.Time(605), Bell: clock.Time(670), Waits: []int{12, 25},
	}
	var b strings.Builder
	for name, from := range []train.Source{train.Usual(), lesson} {
		for _, template := range train.Templates {
			for n := range 24 {
				it, _ := train.NewItem(template, 11, n, from, nil)
				fmt.Fprintf(&b, "%d %s %d: %s\n", name, template, n, it.Ask())
				switch {
				case n > 4 && it.Task != nil:
					fmt.Fprintf(&b, "  = %+v\n", it.Task.Answer().Amount)
				case n > 4:
				case it.Task != nil:
					said(&b, *it.Task)
				case it.Do != nil:
					drawn(&b, *it.Do, it.Do.Kit(n, from))
				}
			}
			var others strings.Builder // many more, by their sum
			for n := 24; n < 160; n++ {
				it, _ := train.NewItem(template, 12, n, from, nil)
				others.WriteString(it.Ask())
				if it.Task != nil {
					said(&others, *it.Task)
				} else if it.Do != nil {
					drawn(&others, *it.Do, it.Do.Kit(n, from))
				}
			}
			b.WriteString(golden.All(others.String()))
		}
	}
	golden.Same(t, "asked.golden", b.String())
}

// said prints the answer to a task, and what is said of others.
func said(b *strings.Builder, task train.Task) {
	right := task.Answer()
	fmt.Fprintf(b, "  = %s %s %s within %.3f, %v\n", right.Amount, right.Unit, right.Name, task.Tolerance, task.Want())
	for _, by := range []exact.Number{exact.Int(1), exact.Frac(101, 100), exact.Frac(9, 10), exact.Int(10)} {
		given := right
		given.Amount = right.Amount.Mul(by)
		if right.Clock != nil {
			at := *right.Clock + clock.Time(by.Float()*6) - 6
			given.Clock = &at
		}
		fmt.Fprintf(b, "  %s: %s\n", by, verdict(task.Judge(given, nil)))
	}
}

// drawn prints what is said of a drawing with too little, enough and too much in it.
func drawn(b *strings.Builder, do train.Exercise, kit train.Kit) {
	fmt.Fprintf(b, "  %.2f %s within %.2f; %+v\n", do.Want, do.Unit, do.Tolerance, kit)
	for _, share := range []float64{0.5, 1, 1.06} {
		d := train.Drawing{Kind: do.Kind, Bowl: kit.Bowl, Zero: kit.Bowl, BowlOn: true, In: do.Want * share, Radius: kit.Radius, Eye: kit.Eye, Rests: share != 0.5}
		if len(kit.Set) > 0 {
			d.In = 0
			for left := do.Want * share; left >= kit.Set[len(kit.Set)-1] && len(d.Fillings) < 12; left -= kit.Set[0] {
				d.Fillings = append(d.Fillings, train.Fill{Size: kit.Set[0], How: []train.Heap{train.Level, train.Rounded, train.Heaped}[len(d.Fillings)%3]})
			}
		}
		fmt.Fprintf(b, "  %.2f: holds %.2f, shows %.2f, %v, %s\n", share, d.Amount(), d.Shown(kit.Resolution), d.Check(), verdict(do.Judge(d)))
	}
	forgotten := train.Drawing{Kind: do.Kind, Bowl: kit.Bowl, BowlOn: true, In: do.Want}
	fmt.Fprintf(b, "  not zeroed: %s\n", verdict(do.Judge(forgotten)))
}

func verdict(v train.Verdict) string {
	return strings.TrimSpace(fmt.Sprintf("%t %.2f %.1f %% %s %s %s", v.Right, v.Off, v.Percent, v.Says, v.Matters, v.Instead))
}

// What learners of several abilities practise, how sure they are, and what comes next.
func TestHowSureLearnersAre(t *testing.T) {
	var b strings.Builder
	from := time.Date(2026, 11, 23, 9, 0, 0, 0, time.UTC)
	for _, able := range []float64{-1, 0, 1.5} {
		tries := train.Simulated{Ability: able, Learns: 0.02}.Practise(train.Templates, 60, from, 5)
		rating := train.Rate(tries)
		at := from.Add(30 * time.Hour)
		fmt.Fprintf(&b, "able %.1f: %.4f, stuck on %q, hardest %v, next %s\n", able, rating.Learner, train.Stuck(tries), train.Hardest(tries), rating.Next(train.Templates, at, 3))
		for _, template := range train.Templates {
			fmt.Fprintf(&b, "  %s: %d tries, sure %.4f, now %.4f\n", template, rating.Tries(template), rating.Sure(template), rating.Success(template, at))
		}
	}
	golden.Same(t, "sure.golden", b.String())
}
