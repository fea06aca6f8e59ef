package assess

import (
	"cmp"
	"context"
	"math/rand/v2"
	"slices"
)

// A Set of dishes that was found for a brief: those of a choice, the dishes first.
type Set struct {
	Dishes   []Chosen
	Verdicts []Verdict
	NotMet   int     // conditions
	NotKnown int     //
	Balance  float64 // the more, the more different and the cheaper; see balance
}

// better reports which of two sets is to be shown first.
func better(a, b Set) int {
	return cmp.Or(cmp.Compare(a.NotMet, b.NotMet), cmp.Compare(a.NotKnown, b.NotKnown), cmp.Compare(b.Balance, a.Balance), slices.CompareFunc(a.Dishes, b.Dishes, func(x, y Chosen) int { return cmp.Compare(x.ID, y.ID) }))
}

const (
	// mostSets that are shown.
	mostSets = 5
	// fewEnough choices are looked at one by one; of more the search goes by swapping
	// one dish after the other, from so many beginnings.
	fewEnough, beginnings = 200_000, 24
)

// A Search for sets of dishes that meet a brief.
type Search struct {
	Brief    Brief
	Shelf    []Dish
	Portions int      // of each; 0 is not said
	Papers   []string // that have been handed in
	Seed     uint64
	Found    func(best []Set) // is told whenever a better one is found; may be nil
}

// Find returns the sets found, the best first: all conditions met before some, known
// before not known, then the best balance. Where there are few enough choices the first
// is the best there is; the same search finds the same. It returns what it has where the
// context ends.
func (s Search) Find(ctx context.Context) []Set {
	mains, sides := s.Brief.asked()
	if mains == 0 {
		mains = 1
	}
	shelf := slices.DeleteFunc(slices.Clone(s.Shelf), func(d Dish) bool {
		return slices.ContainsFunc(s.Brief, func(c Condition) bool { return c.alone != nil && !c.alone(d) })
	})
	slices.SortFunc(shelf, func(a, b Dish) int { return cmp.Compare(a.ID, b.ID) })
	if len(shelf) < mains+sides {
		return nil
	}
	f := &finder{Search: s, shelf: shelf, mains: mains, places: mains + sides}
	if choices(len(shelf), mains, fewEnough)*choices(len(shelf)-mains, sides, fewEnough) <= fewEnough {
		f.all(ctx, make([]int, 0, f.places))
	} else {
		f.swap(ctx)
	}
	return f.best
}

// choices is how many ways there are to choose k of n; most where there are more.
func choices(n, k, most int) int {
	out := 1
	for i := range k {
		if out = out * (n - i) / (i + 1); out > most {
			return most + 1
		}
	}
	return out
}

type finder struct {
	Search
	shelf  []Dish
	mains  int
	places int
	best   []Set
}

// set judges a choice of places of the shelf, the dishes first.
func (f *finder) set(at []int) Set {
	x := Set{Dishes: make([]Chosen, len(at))}
	for i, n := range at {
		x.Dishes[i] = Chosen{Dish: f.shelf[n], Side: i >= f.mains, Portions: f.Portions}
	}
	of := Choice{x.Dishes, f.Papers}
	for _, c := range f.Brief {
		if c.Paper != "" {
			continue // what is handed in does not hang on the dishes
		}
		switch state, _ := c.check(of); state {
		case NotMet:
			x.NotMet++
		case NotKnown:
			x.NotKnown++
		}
	}
	x.Balance = balance(x.Dishes)
	return x
}

// balance is how different dishes are: what they are made of and how, what they look and
// feel like; less what they cost, a pound as much as half a difference.
func balance(list []Chosen) float64 {
	sum, seen := 0.0, map[string]bool{}
	count := func(of string, values ...string) {
		for _, v := range values {
			if key := of + "/" + v; v != "" && !seen[key] {
				seen[key] = true
				sum++
			}
		}
	}
	for _, d := range list {
		count("main", d.Main)
		for _, v := range Varieties {
			count(v, d.Of[v]...)
		}
		sum -= d.Pence / 200
	}
	return sum
}

// keep adds a set to the best, where it is one of them.
func (f *finder) keep(x Set) {
	same := func(o Set) bool {
		if len(o.Dishes) != len(x.Dishes) {
			return false
		}
		for _, d := range o.Dishes {
			if !slices.ContainsFunc(x.Dishes, func(e Chosen) bool { return e.ID == d.ID && e.Side == d.Side }) {
				return false
			}
		}
		return true
	}
	if len(f.best) == mostSets && better(f.best[mostSets-1], x) <= 0 || slices.ContainsFunc(f.best, same) {
		return
	}
	x.Verdicts = f.Brief.Check(Choice{x.Dishes, f.Papers})
	f.best = append(f.best, x)
	slices.SortStableFunc(f.best, better)
	f.best = f.best[:min(mostSets, len(f.best))]
	if f.Found != nil {
		f.Found(slices.Clone(f.best))
	}
}

// all goes through all choices.
func (f *finder) all(ctx context.Context, at []int) {
	if ctx.Err() != nil {
		return
	}
	if len(at) == f.places {
		f.keep(f.set(at))
		return
	}
	from := 0
	if n := len(at); n > 0 && n != f.mains {
		from = at[n-1] + 1 // what is chosen in another order is the same
	}
	for n := from; n < len(f.shelf); n++ {
		if !slices.Contains(at, n) {
			f.all(ctx, append(at, n))
		}
	}
}

// swap goes from beginnings by chance to sets that no other dish in one place betters.
func (f *finder) swap(ctx context.Context) {
	rng := rand.New(rand.NewPCG(f.Seed, 0x5e7))
	for range beginnings {
		at := rng.Perm(len(f.shelf))[:f.places]
		now := f.set(at)
		for moved := true; moved; {
			moved = false
			for place := range at {
				was, best, to := at[place], now, at[place]
				for n := range f.shelf {
					if ctx.Err() != nil {
						return
					}
					if slices.Contains(at, n) && n != was {
						continue
					}
					at[place] = n
					if x := f.set(at); better(x, best) < 0 {
						best, to = x, n
					}
				}
				if at[place] = to; to != was {
					now, moved = best, true
				}
			}
			f.keep(now)
		}
	}
}
