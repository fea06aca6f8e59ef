package fit_test

import (
	"cmp"
	"fmt"
	"math"
	"math/rand/v2"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"freshapron/internal/core/clock"
	"freshapron/internal/core/exact"
	"freshapron/internal/core/fit"
)

// A second is a simulation by itself, of lessons without shut doors and
// temperatures that change: it takes the steps in the order in which the plan
// begins them and lets each begin as soon as its cooks, its adult, its place and
// what comes before it are there.
type second struct {
	lesson fit.Lesson
	steps  []secondStep
	pauses [][2]float64 // phases before the deadline
}

type secondStep struct {
	fit.StepPlan
	group        int
	own          fit.Step
	work, wait   float64 // as planned
	adult, place int     // which of them, or −1
	hot          float64 // minute from which its place can be entered
}

func secondOf(l fit.Lesson, p *fit.Plan) second {
	s := second{lesson: l}
	for _, span := range l.Spans() {
		if span.From < p.Deadline {
			s.pauses = append(s.pauses, [2]float64{span.From, span.To})
		}
	}
	for g, gp := range p.Groups {
		for _, sp := range gp.Steps {
			own, _ := l.Step(sp.Dish, sp.Step)
			s.steps = append(s.steps, secondStep{StepPlan: sp, group: g, own: own, wait: sp.End - sp.WorkEnd, work: s.worked(sp.Start, sp.WorkEnd), adult: -1, place: -1})
		}
	}
	slices.SortStableFunc(s.steps, func(a, b secondStep) int { return cmp.Compare(a.Start, b.Start) })
	// Of adults and places the one that has been free longest by the plan.
	adults := make([]float64, l.Adults)
	places := map[string][]float64{}
	names := map[string]int{}
	for i := range s.steps {
		x := &s.steps[i]
		if x.own.Adult != fit.NoAdult {
			x.adult = slices.Index(adults, slices.Min(adults))
			adults[x.adult] = x.WorkEnd
		}
	}
	byEntry := make([]*secondStep, 0, len(s.steps))
	for i := range s.steps {
		if len(s.steps[i].Units) > 0 {
			byEntry = append(byEntry, &s.steps[i])
		}
	}
	slices.SortStableFunc(byEntry, func(a, b *secondStep) int { return cmp.Compare(a.WorkEnd, b.WorkEnd) })
	for _, x := range byEntry {
		e := l.Equipment[0]
		unit := x.Units[0].Unit
		if places[unit] == nil {
			n := e.Units[slices.IndexFunc(e.Units, func(u fit.Unit) bool { return u.Name == unit })].Places
			places[unit] = make([]float64, n)
			names[unit] = 100 * (1 + len(names))
		}
		at := slices.Index(places[unit], slices.Min(places[unit]))
		places[unit][at] = x.End
		x.place, x.hot = names[unit]+at, e.OnAt.Add(e.Preheat).Float()
	}
	return s
}

// worked is how much of a stretch lies outside the pauses.
func (s second) worked(from, to float64) float64 {
	for _, p := range s.pauses {
		to -= max(0, min(to, p[1])-max(from, p[0]))
	}
	return to - from
}

// after is when work of a length ends that begins at a moment, and when it truly
// begins: it pauses in the phases.
func (s second) after(at, length float64) (begin, end float64) {
	begin = at
	for _, p := range s.pauses {
		if begin >= p[0]-1e-9 && begin < p[1] {
			begin = p[1]
		}
	}
	end = begin + length
	for _, p := range s.pauses {
		if p[0] > begin-1e-9 && p[0] < end-1e-9 {
			end += p[1] - p[0]
		}
	}
	return begin, end
}

// play plays one lesson and returns how many groups are done in time.
func (s second) play(r *rand.Rand, deadline float64) (done int) {
	lognormal := func(spread float64) float64 {
		v := math.Log1p(spread * spread)
		return math.Exp(math.Sqrt(v)*r.NormFloat64() - v/2)
	}
	spread := func(x secondStep) (work, wait float64) {
		work, ok := map[fit.Kind]float64{fit.Weigh: 0.25, fit.Mix: 0.25, fit.Shape: 0.35, fit.Cut: 0.35, fit.Bake: 0.2, fit.Cook: 0.2, fit.Clean: 0.3}[x.own.Kind]
		if !ok {
			panic(x.own.Kind)
		}
		if x.own.Kind == fit.Bake {
			return work, 0.08
		}
		return work, 0.05
	}
	class := lognormal(0.15)
	groups := make([]float64, len(s.lesson.Groups))
	for g := range groups {
		groups[g] = class * lognormal(0.10)
	}
	shared, units := map[string]float64{}, map[string]float64{}
	ends := map[string]float64{}  // of steps
	cooks := map[[2]int]float64{} // free from
	adults := map[int]float64{}   // free from
	places := map[int]float64{}   // free from
	late := make([]bool, len(groups))
	for _, x := range s.steps {
		ws, as := spread(x)
		key := x.Dish + "/" + x.Step
		if _, ok := shared[key]; !ok {
			shared[key] = lognormal(ws * math.Sqrt(0.5))
		}
		work := x.work * groups[x.group] * shared[key] * lognormal(ws*math.Sqrt(0.5))
		wait := x.wait
		if x.place >= 0 {
			unit := x.Units[0].Unit
			if _, ok := units[unit]; !ok {
				units[unit] = lognormal(as * math.Sqrt(0.5))
			}
			wait *= units[unit] * lognormal(as*math.Sqrt(0.5))
		} else if wait > 0 {
			wait *= lognormal(as)
		}
		at := 0.0
		for _, a := range x.own.After {
			at = max(at, ends[fmt.Sprint(x.group, "/", x.Dish, "/", a.Step)]+a.MinGap.Float())
		}
		for _, h := range x.Hands {
			at = max(at, cooks[[2]int{x.group, h}])
		}
		if x.adult >= 0 {
			at = max(at, adults[x.adult])
		}
		workEnd := at
		if x.work > 0 {
			_, workEnd = s.after(at, work)
		}
		if x.place >= 0 { // who holds the tray waits for room
			workEnd = max(workEnd, places[x.place], x.hot)
			places[x.place] = workEnd + wait
		}
		for _, h := range x.Hands {
			cooks[[2]int{x.group, h}] = workEnd
		}
		if x.adult >= 0 {
			adults[x.adult] = workEnd
		}
		ends[fmt.Sprint(x.group, "/", x.Dish, "/", x.Step)] = workEnd + wait
		late[x.group] = late[x.group] || workEnd+wait > deadline+1e-9
	}
	for _, l := range late {
		if !l {
			done++
		}
	}
	return done
}

// Two simulations that share nothing but the paper they are written from agree
// within a point.
func TestASecondSimulationAgrees(t *testing.T) {
	for _, benches := range []int{1, 5} {
		l := tartlets(benches)
		for g := range l.Groups {
			l.Groups[g].Pace = exact.Frac(int64(20+g%3), 20)
		}
		p, err := fit.Solve(l, fit.Options{Budget: 5, Runs: 1})
		require.NoError(t, err)
		const ending, spare = 12, 2 // minutes of the phases at the end, and such that neither all lessons nor none are in time
		l.End = l.Start + clock.Time(math.Ceil(p.Finish)) + ending + spare
		p, err = fit.Solve(l, fit.Options{Budget: 20, Runs: 20_000})
		require.NoError(t, err)
		s, r := secondOf(l, p), rand.New(rand.NewPCG(5, uint64(benches)))
		const runs = 20_000
		all, sum := 0, 0
		for range runs {
			done := s.play(r, p.Deadline)
			sum += done
			if done == benches {
				all++
			}
		}
		t.Logf("%d benches: all on time %.4f and %.4f, benches %.4f and %.4f", benches, float64(all)/runs, p.Risk.AllOnTime, float64(sum)/runs, p.Risk.Benches.Mean)
		assert.InDelta(t, float64(all)/runs, p.Risk.AllOnTime, 0.01, "%d benches, all on time", benches)
		assert.InDelta(t, float64(sum)/runs/float64(benches), p.Risk.Benches.Mean/float64(benches), 0.01, "%d benches, share that is done", benches)
		assert.Greater(t, p.Risk.AllOnTime, 0.1)
		assert.Less(t, p.Risk.AllOnTime, 0.9)
	}
}
