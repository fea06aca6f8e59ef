package fit

import (
	"fmt"
	"math/rand/v2"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"freshapron/internal/core/exact"
)

func TestLanes(t *testing.T) {
	l := make(lanes, 3)
	l.clear()
	l.take(1, 0, 50, 1, 0, nil)
	l.take(1, 0, 30, 2, 0, nil)
	l.take(1, 10, 40, 3, 0, nil)
	for count, want := range map[int]laneState{1: {30, 2}, 2: {40, 3}, 3: {50, 1}} {
		free, last := l.ready(count)
		assert.Equal(t, want, laneState{free, last}, "%d lanes", count)
	}
	// Of two lanes that are free by 45, the one that was left last is taken.
	l.take(1, 45, 90, 4, 0, nil)
	free, last := l.ready(1)
	assert.Equal(t, laneState{30, 2}, laneState{free, last})
	l.take(2, 50, 60, 5, 0, nil)
	free, _ = l.ready(2)
	assert.Equal(t, 60, free)
	free, last = l.ready(3)
	assert.Equal(t, laneState{90, 4}, laneState{free, last})
}

// kitchen is a lesson for the tests of the search's inner parts: benches of
// two, one oven of two shelves, a dish whose dough and filling join.
func kitchen(benches int) Lesson {
	n := exact.Int
	temp := n(200)
	l := Lesson{Start: 9 * 60, End: 11 * 60, Adults: 1,
		Phases: []Phase{{Name: "Stop", Minutes: n(3), Place: AtMinute, Minute: n(20)}},
		Equipment: []Equipment{
			{ID: "oven", Units: []Unit{{Name: "Oven 1", Places: 2}}, Temperature: true, Preheat: n(10)},
			{ID: "mixer", Units: []Unit{{Name: "Mixer 1", Places: 1}, {Name: "Mixer 2", Places: 1}}},
		},
		Dishes: []Dish{{ID: "tart", Steps: []Step{
			{ID: "dough", Kind: Mix, Work: n(6), Wait: n(10), Cooks: 1, Adult: NoAdult, Uses: []Use{{Equipment: "mixer", Places: 1, During: WorkPart}}},
			{ID: "filling", Kind: Cut, Work: n(9), Cooks: 1, Shareable: true, Adult: NoAdult},
			{ID: "line", Kind: Shape, Work: n(5), Cooks: 1, Adult: NoAdult, After: []After{{Step: "dough"}}},
			{ID: "bake", Kind: Bake, Work: n(1), Wait: n(15), Cooks: 1, Adult: Watches, After: []After{{Step: "line"}, {Step: "filling"}},
				Uses: []Use{{Equipment: "oven", Places: 1, Temperature: &temp, During: WaitPart}}},
		}}},
	}
	for g := range benches {
		l.Groups = append(l.Groups, Group{ID: fmt.Sprintf("g%d", g), Cooks: 2, Pace: n(1)})
	}
	return l
}

func searchOf(t *testing.T, benches int) (*local, list) {
	t.Helper()
	l := kitchen(benches)
	require.NoError(t, l.Check())
	p := compile(l)
	require.True(t, p.decodable())
	spent := 0
	s := newLocal(p, rand.New(rand.NewPCG(1, 2)), &spent)
	sch := newSchedule(p)
	sch.build(thumbRules(p)[0], p.templates(), forever)
	return s, sch.list()
}

// keeps reports whether each task comes after all that it waits for.
func keeps(p *instance, order []int) bool {
	for i, n := range order {
		for _, l := range p.tasks[n].before {
			if slices.Index(order, l.task) > i {
				return false
			}
		}
	}
	return true
}

// One bench by hand: the dough is mixed at once by one cook while the other
// begins the filling alone (9 min; one of two can't share with a cook who is
// at the mixer), the dough rests until 16, is lined by 21 — which the stop
// from 20 to 23 forbids, so from 23 to 28 — and goes in at 29 until 44.
func TestDecodeOneBench(t *testing.T) {
	s, l := searchOf(t, 1)
	require.True(t, s.decode(l, forever))
	at := func(step int) [2]int { return [2]int{s.start[step] / 60, s.start[step]/60 + s.work[step]/60} }
	assert.Equal(t, [2]int{0, 6}, at(0))
	assert.Equal(t, [2]int{0, 9}, at(1))
	assert.Equal(t, [2]int{23, 28}, at(2))
	assert.Equal(t, [2]int{28, 29}, at(3))
	assert.Equal(t, cost{finish: 44 * 60, sum: 44 * 60}, s.cost)
	assert.Equal(t, hold{2, byRules}, s.holder[3], "the bake waits for the lining")
	assert.Equal(t, hold{0, byRules}, s.holder[2], "the lining waits for the dough, whom the stop pushed on")
	assert.False(t, s.decode(l, 44*60-1), "no finish over the limit")
	assert.True(t, s.decode(l, 44*60))
}

// Whatever the search does to an order, each task stays after what it waits
// for, every task stays in it, and the pair has changed places.
func TestReorderKeepsTheRules(t *testing.T) {
	s, l := searchOf(t, 6)
	changed := 0
	for range 4000 {
		before := slices.Clone(l.order)
		a := s.rng.IntN(len(l.order) - 1)
		b := a + 1 + s.rng.IntN(len(l.order)-a-1)
		first, second := l.order[a], l.order[b]
		if !s.reorder(l.order, a, b, s.rng.IntN(2) == 0) {
			assert.Equal(t, before, l.order, "what is refused changes nothing")
			continue
		}
		changed++
		require.True(t, keeps(s.instance, l.order))
		require.Greater(t, slices.Index(l.order, first), slices.Index(l.order, second))
		sorted := slices.Sorted(slices.Values(l.order))
		for i, n := range sorted {
			require.Equal(t, i, n)
		}
	}
	assert.Greater(t, changed, 1000)
}

func TestKickKeepsTheRules(t *testing.T) {
	s, l := searchOf(t, 5)
	for range 500 {
		s.kick(l)
		require.True(t, keeps(s.instance, l.order))
		require.Len(t, slices.Compact(slices.Sorted(slices.Values(l.order))), len(s.tasks))
		for n, hands := range l.hands {
			require.True(t, 1 <= hands && hands <= s.instance.cooks[s.tasks[n].group])
		}
	}
}

// What is decoded keeps every rule that a schedule is checked for when it
// looks for room: each task finds its own place free again.
func TestDecodedSchedulesHaveRoom(t *testing.T) {
	s, l := searchOf(t, 7)
	for range 50 {
		s.kick(l)
		require.True(t, s.decode(l, forever))
		sch := s.schedule(l)
		for n := range s.tasks {
			start, cooks := sch.jobs[n].start, sch.jobs[n].cooks
			units := slices.Clone(sch.jobs[n].units)
			sch.remove(n)
			require.Equal(t, start, sch.earliest(n, cooks, start), "task %d", n)
			trial := make([]assignment, len(units))
			for i, u := range units {
				trial[i] = assignment{u, sch.stayOf(n, &s.tasks[n].uses[i], start, s.work[n])}
			}
			sch.place(n, cooks, start, trial)
		}
	}
}

// A greatest gap makes the earlier task wait for the room that the later one
// needs: the third bench whips its cream when the whipped cream can be used.
func TestDecodeKeepsGreatestGaps(t *testing.T) {
	n := exact.Int
	most := n(2)
	l := Lesson{Start: 9 * 60, End: 11 * 60, Adults: 1,
		Equipment: []Equipment{{ID: "table", Units: []Unit{{Name: "Table", Places: 1}}}},
		Dishes: []Dish{{ID: "d", Steps: []Step{
			{ID: "whip", Kind: Mix, Work: n(3), Cooks: 1, Adult: NoAdult},
			{ID: "pipe", Kind: Shape, Work: n(10), Cooks: 1, Adult: NoAdult, After: []After{{Step: "whip", MaxGap: &most}},
				Uses: []Use{{Equipment: "table", Places: 1, During: WholeStep}}},
		}}},
	}
	for g := range 3 {
		l.Groups = append(l.Groups, Group{ID: fmt.Sprintf("g%d", g), Cooks: 1, Pace: n(1)})
	}
	p := compile(l)
	spent := 0
	d := newDecoder(p, &spent)
	order := list{order: []int{0, 2, 4, 1, 3, 5}, hands: []int{1, 1, 1, 1, 1, 1}}
	require.True(t, d.decode(order, forever))
	for g := range 3 {
		assert.Equal(t, (3+10*g)*60, d.start[2*g+1], "bench %d pipes", g)
	}
	assert.Equal(t, 0, d.start[0])
	assert.Equal(t, (3+10-2-3)*60, d.start[2], "two minutes before the table is free")
	assert.Equal(t, (3+20-2-3)*60, d.start[4])
	assert.Equal(t, 1, d.holder[2].task, "the second whips late because the first pipes")
	assert.Greater(t, spent, 6, "what is placed again is counted again")
}

func TestWhatCannotBeDecoded(t *testing.T) {
	l := kitchen(1)
	use := l.Dishes[0].Steps[0].Uses[0]
	l.Dishes[0].Steps[0].Uses = append(l.Dishes[0].Steps[0].Uses, use)
	assert.False(t, compile(l).decodable(), "two mixers for one step")
	p, err := Solve(l, Options{Runs: 1, Budget: 2})
	require.NoError(t, err, "it is planned all the same")
	require.Len(t, p.Groups, 1)

	for what, change := range map[string]func(l *Lesson){
		"adults": func(l *Lesson) { l.Adults = 200 },
		"cooks":  func(l *Lesson) { l.Groups[0].Cooks = 200 },
		"places": func(l *Lesson) { l.Equipment[1].Units[0].Places = 900 },
		"units": func(l *Lesson) {
			for i := range 900 {
				l.Equipment[1].Units = append(l.Equipment[1].Units, Unit{Name: fmt.Sprintf("Spare %d", i), Places: 1})
			}
		},
	} {
		l := kitchen(2)
		change(&l)
		require.NoError(t, l.Check(), what)
		assert.False(t, compile(l).decodable(), what)
		p, err := Solve(l, Options{Runs: 1, Budget: 2})
		require.NoError(t, err, what)
		require.Len(t, p.Groups, 2, what)
	}
}

func TestSpread(t *testing.T) {
	ranks := []int{5, 3, 3, 40, 0}
	spread(ranks, 2, 10)
	assert.Equal(t, []int{5, 5, 15, 40, 40}, ranks)
	spread(ranks, 0, 99)
	assert.Equal(t, []int{5, 5, 15, 40, 40}, ranks, "nothing limits it")
}

// The queue's bound by hand: three benches, one mixer each two at a time, the
// oven of two shelves. The third dough starts at 6, so lines from 23 to 28
// as all do; bakes are watched by one adult: 28, 29, 30, and the third waits
// for a shelf until 44: in at 44, out at 59.
func TestQueueBoundByHand(t *testing.T) {
	p := compile(kitchen(3))
	assert.Equal(t, 59*60, p.lowerBound([]int{0, 1, 2}))
	assert.Equal(t, 44*60, p.lowerBound([]int{0}))
	assert.Equal(t, 45*60, p.lowerBound([]int{0, 1}), "the adult sees one tray in after the other")
}

// A step that names another dish's step twice still waits for it in half of
// the groups only: the others make no such dish, and the bound may not count
// them in. Bench 2 makes the pie alone and is done after 5 minutes; bench 1
// boils for an hour first.
func TestQueuesCountAGroupOnce(t *testing.T) {
	n := exact.Int
	l := Lesson{Start: 9 * 60, End: 12 * 60, Adults: 1,
		Dishes: []Dish{
			{ID: "stock", Steps: []Step{{ID: "boil", Kind: Cook, Work: n(60), Cooks: 1, Adult: NoAdult}}},
			{ID: "pie", Steps: []Step{{ID: "fill", Kind: Shape, Work: n(5), Cooks: 1, Adult: NoAdult,
				After: []After{{Dish: "stock", Step: "boil"}, {Dish: "stock", Step: "boil", MinGap: n(1)}}}}},
		},
		Groups: []Group{{ID: "g1", Cooks: 1, Pace: n(1)}, {ID: "g2", Cooks: 1, Pace: n(1), Dishes: []string{"pie"}}},
	}
	require.NoError(t, l.Check())
	p := compile(l)
	q := p.newQueues([]int{0, 1})
	for _, c := range q.classes {
		assert.Empty(t, c.before, "what one of two groups waits for is not common")
	}
	assert.Equal(t, 66*60, p.lowerBound([]int{0, 1}))
	assert.Equal(t, 5*60, p.lowerBound([]int{1}))
}
