package fit

import (
	"cmp"
	"math"
	"math/bits"
	"slices"
)

// An Idle cook has nothing to do for more than a third of the working time of
// its group.
type Idle struct {
	Group   string
	Cook    int     // from 1
	Minutes float64 // without work, from the group's first start to the end of its last work, phases left out
	Work    float64 // minutes of this cook
	Busiest float64 // minutes of the cook of the group with the most work
}

// mostIdle is the share of the working time above which a cook counts as idle.
const mostIdle = 1.0 / 3

// sharesTried bounds the search for fair hands in a group. It is ample for a
// bench; a group with more to do gets the best that was met, made better by
// exchanges.
const sharesTried = 4000

// sharesGivenUp bounds the search for any hands at all, where those that are
// recorded may leave none.
const sharesGivenUp = 100_000

// crewsTried is the most crews that a stint is tried with.
const crewsTried = 64

// exchangeWork bounds the exchanges in a group, in looks at a stint.
const exchangeWork = 2_000_000

// A stint is the work part of a step, in seconds.
type stint struct {
	at         int // in the plan's list
	from, to   int
	cooks      int
	dish, kind int  // by number
	said       crew // who was at it, where that is recorded
	cut        bool
}

// A crew is a set of cooks, one bit for each of the first mostCooks.
type crew uint64

const mostCooks = 64

func (c crew) numbers() []int {
	out := make([]int, 0, bits.OnesCount64(uint64(c)))
	for i := range mostCooks {
		if c&(1<<i) != 0 {
			out = append(out, i+1)
		}
	}
	return out
}

// unfairness compares assignments, lower is fairer: the difference between
// the most and the least work; the least cutting, the fewest kinds of step,
// both negated; and how often a cook changes the dish.
type unfairness [4]int

func (u unfairness) less(v unfairness) bool { return slices.Compare(u[:], v[:]) < 0 }

// sharing deals the stints of one group out to its cooks.
type sharing struct {
	stints []stint
	cooks  int
	rest   []int // seconds of stints from each on
	effort []int // the same, times cooks
	named  bool  // some crew is recorded, so no two cooks are alike

	given []crew
	load  []int // seconds of each cook
	free  []int // when each cook is free
	tries int   // so far, of the search or the exchanges
	some  bool  // crews were left out of the search
	best  []crew
	worth unfairness
}

// ShareWork says of each step which cooks of the group do it, in a plan that
// does not say so.
func (l Lesson) ShareWork(p *Plan) {
	for g := range p.Groups {
		gp := &p.Groups[g]
		group, ok := l.Group(gp.ID)
		if ok && !slices.ContainsFunc(gp.Steps, func(s StepPlan) bool { return s.Hands != nil }) {
			l.assignHands(gp, group.Cooks)
		}
	}
}

// assignHands says which cooks do each step of a group. Of the assignments to
// the same times it takes the fairest, by the order of unfairness.
func (l Lesson) assignHands(gp *GroupPlan, cooks int) {
	if cooks > mostCooks {
		gp.firstFree(cooks)
		return
	}
	s := l.sharing(gp, cooks)
	s.search(0)
	if s.best == nil { // what was recorded leaves nobody for what was not
		for i := range s.stints {
			s.stints[i].said = 0
		}
		s.named, s.tries = false, 0
		s.search(0)
	}
	if s.best == nil {
		gp.firstFree(cooks)
		return
	}
	if s.some || s.tries > sharesTried {
		s.exchange()
	}
	for i, w := range s.stints {
		gp.Steps[w.at].Hands = s.best[i].numbers()
	}
}

// firstFree gives each step to the first cooks who are free: for groups that
// are larger than a class.
func (gp *GroupPlan) firstFree(cooks int) {
	free := make([]float64, cooks)
	for i := range gp.Steps {
		s := &gp.Steps[i]
		s.Hands = make([]int, 0, s.Cooks)
		for k := 0; k < cooks && len(s.Hands) < s.Cooks; k++ {
			if free[k] <= s.Start {
				s.Hands, free[k] = append(s.Hands, k+1), s.WorkEnd
			}
		}
	}
}

func (l Lesson) sharing(gp *GroupPlan, cooks int) *sharing {
	var stints []stint
	dishes, kinds := map[string]int{}, map[Kind]int{}
	number := func(n, others int) int { return cmp.Or(n, others+1) }
	for at, sp := range gp.Steps {
		if sp.Cooks == 0 {
			continue
		}
		step, _ := l.Step(sp.Dish, sp.Step)
		dishes[sp.Dish] = number(dishes[sp.Dish], len(dishes))
		kinds[step.Kind] = number(kinds[step.Kind], len(kinds))
		stints = append(stints, stint{
			at: at, from: seconds(sp.Start), to: seconds(sp.WorkEnd), cooks: sp.Cooks,
			dish: dishes[sp.Dish], kind: kinds[step.Kind], cut: step.Kind == Cut, said: crewOf(sp.Hands),
		})
	}
	return newSharing(stints, cooks)
}

// newSharing is of stints by their starts.
func newSharing(stints []stint, cooks int) *sharing {
	s := &sharing{stints: stints, cooks: cooks, load: make([]int, cooks), free: make([]int, cooks)}
	s.named = slices.ContainsFunc(s.stints, func(w stint) bool { return w.said != 0 })
	n := len(s.stints)
	s.rest, s.effort, s.given = make([]int, n+1), make([]int, n+1), make([]crew, n)
	for i := n - 1; i >= 0; i-- {
		w := s.stints[i]
		s.rest[i] = s.rest[i+1] + w.to - w.from
		s.effort[i] = s.effort[i+1] + (w.to-w.from)*w.cooks
	}
	return s
}

func crewOf(hands []int) crew {
	var c crew
	for _, h := range hands {
		if h >= 1 && h <= mostCooks {
			c |= 1 << (h - 1)
		}
	}
	return c
}

func seconds(minutes float64) int { return int(math.Round(minutes * 60)) }

// search tries the crews of stint i and all after it, the least loaded first.
func (s *sharing) search(i int) {
	s.tries++
	if s.tries > sharesGivenUp || s.best != nil && (s.tries > sharesTried || s.leastDifference(i) > s.worth[0]) {
		return
	}
	if i == len(s.stints) {
		if u := s.unfairness(s.given); s.best == nil || u.less(s.worth) {
			s.best, s.worth = slices.Clone(s.given), u
		}
		return
	}
	w := s.stints[i]
	for _, c := range s.crews(w) {
		var was [mostCooks]int
		for k := range s.cooks {
			if c&(1<<k) != 0 {
				was[k] = s.free[k]
				s.free[k] = w.to
				s.load[k] += w.to - w.from
			}
		}
		s.given[i] = c
		s.search(i + 1)
		for k := range s.cooks {
			if c&(1<<k) != 0 {
				s.free[k] = was[k]
				s.load[k] -= w.to - w.from
			}
		}
	}
}

// crews returns the sets of free cooks that can take a stint, the least
// loaded first. Of cooks who have done nothing yet the first stands for all.
func (s *sharing) crews(w stint) []crew {
	if w.said != 0 {
		for k := range s.cooks {
			if w.said&(1<<k) != 0 && s.free[k] > w.from {
				return nil
			}
		}
		return []crew{w.said}
	}
	var able []int
	for k := range s.cooks {
		if s.free[k] <= w.from {
			able = append(able, k)
		}
	}
	slices.SortStableFunc(able, func(a, b int) int { return cmp.Compare(s.load[a], s.load[b]) })
	var out []crew
	var choose func(from, left int, c crew)
	choose = func(from, left int, c crew) {
		if len(out) == crewsTried {
			s.some = true
			return
		}
		if left == 0 {
			out = append(out, c)
			return
		}
		for j := from; j+left <= len(able); j++ {
			if k := able[j]; s.named || s.load[k] > 0 || j == from || s.load[able[j-1]] > 0 {
				choose(j+1, left-1, c|1<<k)
			}
		}
	}
	choose(0, w.cooks, 0)
	return out
}

// leastDifference is a bound on the difference in work, whatever is done with
// the stints from i on.
func (s *sharing) leastDifference(i int) int {
	most, least, sum := slices.Max(s.load), slices.Min(s.load), s.effort[i]
	for _, l := range s.load {
		sum += l
	}
	out := max(0, sum/s.cooks-least-s.rest[i]) // the one with the least can't get more than all of it
	if s.cooks > 1 {
		out = max(out, most-(sum-most)/(s.cooks-1)) // and the others share what the busiest leaves
	}
	return out
}

func (s *sharing) unfairness(given []crew) unfairness {
	worst := unfairness{0, math.MinInt, math.MinInt, 0}
	most, least := 0, forever
	for k := range s.cooks {
		load, cut, kinds, dish, changes := 0, 0, uint64(0), 0, 0
		for i, w := range s.stints {
			if given[i]&(1<<k) == 0 {
				continue
			}
			load += w.to - w.from
			kinds |= 1 << w.kind
			if w.cut {
				cut += w.to - w.from
			}
			if dish != 0 && dish != w.dish {
				changes++
			}
			dish = w.dish
		}
		most, least = max(most, load), min(least, load)
		worst[1] = max(worst[1], -cut)
		worst[2] = max(worst[2], -bits.OnesCount64(kinds))
		worst[3] += changes
	}
	worst[0] = most - least
	return worst
}

// exchange makes the best assignment fairer by handing a stint to another
// cook, alone or for one of that cook's, until nothing helps.
func (s *sharing) exchange() {
	s.tries = 0
	for again := true; again && s.tries < exchangeWork; {
		again = false
		for i := range s.stints {
			for a := range s.cooks {
				for b := range s.cooks {
					again = s.swap(i, -1, a, b) || again
					for j := range i {
						again = s.swap(i, j, a, b) || again
					}
				}
			}
		}
	}
}

// swap hands stint i from cook a to cook b, and stint j from b to a where
// there is one, if that can be and is fairer.
func (s *sharing) swap(i, j, a, b int) bool {
	trial := s.best
	has := func(n, cook int) bool { return trial[n]&(1<<cook) != 0 }
	if s.tries >= exchangeWork || s.stints[i].said != 0 || j >= 0 && s.stints[j].said != 0 || !has(i, a) || has(i, b) || j >= 0 && (!has(j, b) || has(j, a)) {
		return false
	}
	trial = slices.Clone(trial)
	trial[i] ^= 1<<a | 1<<b
	if j >= 0 {
		trial[j] ^= 1<<a | 1<<b
	}
	if s.clashes(trial, i) || j >= 0 && s.clashes(trial, j) {
		return false
	}
	s.tries += len(trial) * s.cooks
	u := s.unfairness(trial)
	if !u.less(s.worth) {
		return false
	}
	s.best, s.worth = trial, u
	return true
}

func (s *sharing) clashes(given []crew, i int) bool {
	for j, w := range s.stints {
		if j != i && given[j]&given[i] != 0 && w.from < s.stints[i].to && s.stints[i].from < w.to {
			return true
		}
	}
	return false
}

// idle returns the cooks of a group who have too little to do.
func (p *instance) idle(gp GroupPlan, cooks int) []Idle {
	from, to := forever, 0
	work := make([]int, cooks)
	for _, sp := range gp.Steps {
		from = min(from, seconds(sp.Start))
		if sp.Cooks > 0 {
			to = max(to, seconds(sp.WorkEnd))
		}
		for _, h := range sp.Hands {
			work[h-1] += seconds(sp.WorkEnd) - seconds(sp.Start)
		}
	}
	open := to - from
	for _, b := range p.breaks {
		open -= max(0, min(b.to, to)-max(b.from, from))
	}
	var out []Idle
	for k, w := range work {
		if idle := open - w; float64(idle) > mostIdle*float64(open) {
			out = append(out, Idle{gp.ID, k + 1, minutes(idle), minutes(w), minutes(slices.Max(work))})
		}
	}
	return out
}
