package fit

import (
	"cmp"
	"math/rand/v2"
	"slices"
)

const (
	growGroups = 6    // fewer are planned as well at once
	growStages = 6    // in which groups are added
	growShare  = 4    // percent of the allowance for each
	growFrom   = 1.05 // above the bound by which the plan at hand may be better already
)

// grow plans a few groups as well as can be, adds some more behind them, and
// plans those again, until all are in: a lesson of many cooks who each have to
// bring several things to the table at once begins better so than from a rule of
// thumb. It returns nil where that promises little, or a part is too large.
func (p *instance) grow(templates []template, bound, best cost, allowance int, spent *int, rng *rand.Rand) *schedule {
	groups := len(p.byGroup)
	if groups < growGroups || p.now > 0 || !p.hasGaps() || float64(best.finish) < growFrom*float64(bound.finish) {
		return nil
	}
	var at *schedule
	for stage := 1; ; stage++ {
		some := slices.Clone(templates)
		for g := (groups*stage + growStages - 1) / growStages; g < groups; g++ {
			some[g] = template{noRoom: true}
		}
		s := p.extend(at, some, allowance, spent)
		if s == nil || stage == growStages {
			return s
		}
		v := newProver(s, 0, spent, rng)
		if v == nil {
			return nil
		}
		v.run(*spent + allowance*growShare/100)
		at = v.best
	}
}

// extend places what a schedule has in its order, and behind it the other groups
// that can be planned, by the rule of thumb that ends them first; nil where
// that takes too long.
func (p *instance) extend(s *schedule, templates []template, allowance int, spent *int) *schedule {
	var best *schedule
	for _, g := range thumbRules(p) {
		if s != nil {
			g = g.behind(s)
		}
		next := newSchedule(p)
		work, ok := next.build(g, templates, allowance/growStages)
		*spent += work
		if ok && (best == nil || next.cost().less(best.cost())) {
			best = next
		}
	}
	return best
}

// behind returns the genome with all that a schedule has placed first, as it is there.
func (g genome) behind(s *schedule) genome {
	g = g.clone()
	order := make([]int, len(g.rank))
	for n, r := range g.rank {
		order[r] = n
	}
	key := func(n int) int {
		if s.jobs[n].placed {
			return s.jobs[n].start
		}
		return forever
	}
	slices.SortStableFunc(order, func(a, b int) int { return cmp.Compare(key(a), key(b)) })
	for r, n := range order {
		g.rank[n] = r
		if s.jobs[n].placed {
			g.hands[n] = max(1, s.jobs[n].cooks)
		}
	}
	return g
}
