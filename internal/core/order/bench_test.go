package order_test

import (
	"fmt"
	"math/rand/v2"
	"testing"

	"github.com/stretchr/testify/require"

	"freshapron/internal/core/exact"
	"freshapron/internal/core/order"
)

// busy is a made-up stretch of lessons: every item is sold by one supplier or
// two, in three sizes with the larger a little cheaper for what they hold, and
// keeps from two days to for ever.
func busy(seed uint64, lessons, items, weeks int) order.Week {
	r := rand.New(rand.NewPCG(seed, 1))
	w := order.Week{From: 100, To: order.Day(99 + 7*weeks)}
	for s := range 2 {
		sup := order.Supplier{ID: fmt.Sprint("supplier ", s), Charge: exact.Frac(int64(250+r.IntN(400)), 100), Minimum: exact.Int(int64(10 + r.IntN(30)))}
		for week := range max(weeks, 2) {
			sup.Delivers = append(sup.Delivers, min(order.Day(100+7*week+2*s), w.To))
			if weeks == 1 && week == 1 {
				sup.Delivers[1] = order.Day(103 + s)
			}
		}
		w.Suppliers = append(w.Suppliers, sup)
	}
	for i := range items {
		name := fmt.Sprint("item ", i)
		base := 100 + 25*r.IntN(12)
		unit := 0.002 + 0.01*r.Float64()
		keeps := []int{2, 3, 5, 7, 14, 30, -1, -1}[r.IntN(8)]
		first := r.IntN(2)
		for s := range 2 {
			if s != first && r.IntN(3) > 0 {
				continue
			}
			for size := range 3 {
				amount := base * []int{1, 2, 5}[size]
				p := order.Pack{Item: name, Supplier: w.Suppliers[s].ID, Name: fmt.Sprint(amount, " g"), Unit: "g", Amount: exact.Int(int64(amount)),
					Price: exact.Frac(int64(1+100*unit*float64(amount)*(1-0.06*float64(size))*(0.9+0.2*r.Float64())), 100)}
				if keeps >= 0 {
					p.KeepsDays = to(keeps)
				}
				w.Packs = append(w.Packs, p)
			}
		}
		if r.IntN(3) == 0 {
			w.Stock = append(w.Stock, order.Batch{Item: name, Unit: "g", Amount: exact.Int(int64(10 * r.IntN(60))), UseBy: to(order.Day(100 + r.IntN(10)))})
		}
	}
	for l := range lessons {
		on := order.Day(101 + 7*(l%weeks) + r.IntN(5))
		for range 10 {
			w.Needs = append(w.Needs, order.Need{Item: fmt.Sprint("item ", r.IntN(items)), Unit: "g", Amount: exact.Int(int64(5 * (4 + r.IntN(160)))), On: min(on, w.To), For: fmt.Sprint("lesson ", l)})
		}
	}
	return w
}

// benchmark works out made-up stretches one after the other, and tells how many
// are proved and the widest gap of the others.
func benchmark(b *testing.B, first uint64, lessons, items, weeks int) {
	proved, all, widest := 0, 0, 0.0
	for b.Loop() {
		o, err := order.Solve(busy(first+uint64(all%20), lessons, items, weeks))
		require.NoError(b, err)
		all++
		if o.Optimal {
			proved++
		}
		widest = max(widest, 100*o.Total.Sub(o.Bound).Div(o.Bound).Float())
	}
	b.ReportMetric(100*float64(proved)/float64(all), "%proved")
	b.ReportMetric(widest, "%gap")
}

func BenchmarkWeek(b *testing.B)  { benchmark(b, 0, 30, 120, 2) }
func BenchmarkTerm(b *testing.B)  { benchmark(b, 0, 200, 120, 12) }
func BenchmarkTight(b *testing.B) { benchmark(b, 0, 30, 12, 1) }

// On stretches that nothing was chosen by.
func BenchmarkUnseenWeek(b *testing.B)  { benchmark(b, 1000, 30, 120, 2) }
func BenchmarkUnseenTerm(b *testing.B)  { benchmark(b, 1000, 200, 120, 12) }
func BenchmarkUnseenTight(b *testing.B) { benchmark(b, 1000, 30, 12, 1) }
