package fit_test

import (
	"fmt"
	"slices"
	"testing"

	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"freshapron/internal/core/exact"
	"freshapron/internal/core/fit"
	"freshapron/internal/core/fit/verify"
)

// A chore is a step of one group, as the slow planner of this file sees it.
type chore struct {
	group, work, wait int
	after             []int // chores of the same group, by place in the list
	oven, watched     bool
}

// A bakery is a small lesson in whole minutes: groups of one cook, an oven with
// some shelves and one adult.
type bakery struct {
	chores  []chore
	groups  int
	shelves int
}

// minutes that any plan of a bakery may take.
const horizon = 120

// earliest schedules the chores in an order, each at the first minute with
// room for it, and returns when the last ends.
func (b bakery) earliest(order []int) int {
	var cook [4][horizon]bool
	var shelf [horizon]int
	var adult [horizon]bool
	end := make([]int, len(b.chores))
	last := 0
	for _, n := range order {
		c := b.chores[n]
		at := 0
		for _, a := range c.after {
			at = max(at, end[a])
		}
		room := func() bool {
			for m := at; m < at+c.work; m++ {
				if cook[c.group][m] || c.watched && adult[m] {
					return false
				}
			}
			for m := at + c.work; c.oven && m < at+c.work+c.wait; m++ {
				if shelf[m] == b.shelves {
					return false
				}
			}
			return true
		}
		for !room() {
			at++
		}
		for m := at; m < at+c.work; m++ {
			cook[c.group][m] = true
			adult[m] = adult[m] || c.watched
		}
		for m := at + c.work; c.oven && m < at+c.work+c.wait; m++ {
			shelf[m]++
		}
		end[n] = at + c.work + c.wait
		last = max(last, end[n])
	}
	return last
}

// least tries every order: one of them gives the shortest plan there is, since
// nothing is won by waiting without need.
func (b bakery) least() int {
	best := horizon
	order := make([]int, 0, len(b.chores))
	done := make([]bool, len(b.chores))
	var try func()
	try = func() {
		if len(order) == len(b.chores) {
			best = min(best, b.earliest(order))
			return
		}
		for n, c := range b.chores {
			if done[n] || slices.ContainsFunc(c.after, func(a int) bool { return !done[a] }) {
				continue
			}
			done[n] = true
			order = append(order, n)
			try()
			order = order[:len(order)-1]
			done[n] = false
		}
	}
	try()
	return best
}

// lesson is the bakery as the planner is given it. Every group makes a dish of
// its own, since its steps are its own.
func (b bakery) lesson() fit.Lesson {
	l := fit.Lesson{Start: 9 * 60, End: 9*60 + horizon, Adults: 1, Equipment: []fit.Equipment{{ID: "oven", Units: []fit.Unit{{Name: "Oven", Places: b.shelves}}}}}
	for g := range b.groups {
		id := fmt.Sprintf("d%d", g)
		l.Groups = append(l.Groups, fit.Group{ID: fmt.Sprintf("g%d", g), Cooks: 1, Pace: exact.Int(1), Dishes: []string{id}})
		l.Dishes = append(l.Dishes, fit.Dish{ID: id})
	}
	for n, c := range b.chores {
		s := fit.Step{ID: fmt.Sprintf("s%d", n), Kind: fit.Prepare, Cooks: 1, Adult: fit.NoAdult, Work: exact.Int(int64(c.work)), Wait: exact.Int(int64(c.wait))}
		if c.oven {
			s.Uses = []fit.Use{{Equipment: "oven", Places: 1, During: fit.WaitPart}}
		}
		if c.watched {
			s.Adult = fit.Watches
		}
		for _, a := range c.after {
			s.After = append(s.After, fit.After{Step: fmt.Sprintf("s%d", a)})
		}
		l.Dishes[c.group].Steps = append(l.Dishes[c.group].Steps, s)
	}
	return l
}

func randomBakery(t *rapid.T) bakery {
	b := bakery{groups: rapid.IntRange(1, 3).Draw(t, "groups"), shelves: rapid.IntRange(1, 2).Draw(t, "shelves")}
	for g := range b.groups {
		first := len(b.chores)
		for range rapid.IntRange(1, 7/b.groups).Draw(t, "chores") {
			n := len(b.chores)
			c := chore{group: g, work: rapid.IntRange(1, 6).Draw(t, "work"), watched: rapid.IntRange(0, 3).Draw(t, "watched") == 0}
			if rapid.Bool().Draw(t, "waits") {
				c.wait = rapid.IntRange(1, 9).Draw(t, "wait")
				c.oven = rapid.IntRange(0, 2).Draw(t, "oven") > 0
			}
			if n > first && rapid.IntRange(0, 2).Draw(t, "after") > 0 {
				c.after = []int{rapid.IntRange(first, n-1).Draw(t, "which")}
			}
			b.chores = append(b.chores, c)
		}
	}
	return b
}

// Of small lessons every order can be tried: the planner finds the shortest
// plan, and its bound is never above it.
func TestSmallLessonsArePlannedBest(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		b := randomBakery(t)
		best := float64(b.least())
		l := b.lesson()
		p, err := fit.Solve(l, fit.Options{Runs: 1, Budget: 10})
		require.NoError(t, err)
		require.Empty(t, verify.Plan(l, p))
		require.InDelta(t, best, p.Finish, 1e-9)
		require.LessOrEqual(t, p.LowerBound, best+1e-9)
	})
}

// Counted by hand: two groups of one cook knead for 3 minutes and bake for 10
// on one shelf, so the second waits until minute 13 and is done at 23. With
// two shelves both are done at 13; if an adult must watch the kneading, at 16.
func TestTheSlowPlannerCounts(t *testing.T) {
	two := []chore{{group: 0, work: 3, wait: 10, oven: true}, {group: 1, work: 3, wait: 10, oven: true}}
	require.Equal(t, 23, bakery{two, 2, 1}.least())
	require.Equal(t, 13, bakery{two, 2, 2}.least())
	watched := slices.Clone(two)
	watched[0].watched, watched[1].watched = true, true
	require.Equal(t, 16, bakery{watched, 2, 2}.least())
	// While the first dish of a group bakes its cook does the second.
	require.Equal(t, 13, bakery{[]chore{{work: 3, wait: 10, oven: true}, {work: 6}}, 1, 1}.least())
	require.Equal(t, 19, bakery{[]chore{{work: 3, wait: 10, oven: true}, {work: 6, after: []int{0}}}, 1, 1}.least())
}
