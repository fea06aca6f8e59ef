package fit

import (
	"cmp"
	"slices"
)

// An elite is a list at which a stretch of the search ended.
type elite struct {
	list
	cost
}

// staleAfter is after how many stretches without anything better the pool is left.
const staleAfter = 60

// poolSize is how many of them are kept.
const poolSize = 10

// relink begins a stretch of the search: at random until the pool is full, and again when
// nothing better has come of it for long, else between two of the pool.
func (s *local) relink(here list, failures int) {
	s.keep()
	if failures%staleAfter == 0 {
		s.pool = s.pool[:0]
	}
	if len(s.pool) < poolSize {
		s.scatter(here.order)
	} else {
		s.between(here)
	}
	s.layClaims(here.order)
	s.run.copyFrom(here)
	s.runCost = s.cost
}

// keep takes the best of a stretch of the search into the pool, where it is none of
// those there and better than the worst of them.
func (s *local) keep() {
	if slices.ContainsFunc(s.pool, func(e elite) bool { return e.cost == s.runCost }) {
		return
	}
	if len(s.pool) < poolSize {
		s.pool = append(s.pool, elite{s.run.clone(), s.runCost})
		return
	}
	worst := 0
	for i := range s.pool {
		if s.pool[worst].cost.less(s.pool[i].cost) {
			worst = i
		}
	}
	if s.runCost.less(s.pool[worst].cost) {
		s.pool[worst].copyFrom(s.run)
		s.pool[worst].cost = s.runCost
	}
}

// scatter puts the tasks of a list into an order at random in which each comes after
// all that it waits for.
func (s *local) scatter(order []int) {
	*s.spent += 1 + len(order)/claimWeight
	for _, n := range order {
		s.mark[n] = true
	}
	waits, ready := make([]int, len(s.tasks)), []int{}
	for _, n := range order {
		for _, b := range s.tasks[n].before {
			if s.mark[b.task] {
				waits[n]++
			}
		}
		if waits[n] == 0 {
			ready = append(ready, n)
		}
	}
	clear(s.mark)
	for i := range order {
		k := s.rng.IntN(len(ready))
		n := ready[k]
		ready[k] = ready[len(ready)-1]
		ready = ready[:len(ready)-1]
		order[i] = n
		for _, a := range s.tasks[n].after {
			if waits[a.task]--; waits[a.task] == 0 {
				ready = append(ready, a.task)
			}
		}
	}
}

// between makes of here a list on the way from one of the pool to another (path
// relinking; Peng, Lü and Cheng, 2015): what comes first in both comes first.
func (s *local) between(here list) {
	a, b := s.pool[s.rng.IntN(len(s.pool))], s.pool[s.rng.IntN(len(s.pool))]
	here.copyFrom(a.list)
	far := 0.25 + 0.5*s.rng.Float64()
	for i, n := range b.order {
		s.at[n] = i
	}
	place := make([]float64, len(s.at))
	for i, n := range a.order {
		place[n] = (1-far)*float64(i) + far*float64(s.at[n])
	}
	slices.SortStableFunc(here.order, func(x, y int) int { return cmp.Compare(place[x], place[y]) })
}
