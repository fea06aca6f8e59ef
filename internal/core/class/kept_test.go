package class_test

import (
	"slices"
	"testing"

	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"freshapron/internal/core/class"
)

// kept reports whether groups keep a rule, in the words of the rule alone.
func kept(r class.Rule, groups [][]class.Learner) bool {
	at := map[int64]int{}
	for g, members := range groups {
		for _, l := range members {
			at[l.ID] = g
		}
	}
	var there []int64
	for _, id := range r.Learners {
		if _, ok := at[id]; ok {
			there = append(there, id)
		}
	}
	switch r.Kind {
	case class.Together:
		return !slices.ContainsFunc(there, func(id int64) bool { return at[id] != at[there[0]] })
	case class.AwayFrom:
		seen := map[int]bool{}
		for _, id := range there {
			if seen[at[id]] {
				return false
			}
			seen[at[id]] = true
		}
		return true
	case class.OneCan:
		return !slices.ContainsFunc(groups, func(members []class.Learner) bool {
			return !slices.ContainsFunc(members, func(l class.Learner) bool { return slices.Contains(l.Can, r.Skill) })
		})
	case class.Near:
		front, seats := 0, 0
		for front < len(groups) && seats < len(there) {
			seats += len(groups[front])
			front++
		}
		return !slices.ContainsFunc(there, func(id int64) bool { return at[id] >= front })
	}
	panic("no such rule: " + string(r.Kind))
}

func allKept(rules []class.Rule, groups [][]class.Learner) bool {
	return !slices.ContainsFunc(rules, func(r class.Rule) bool { return !kept(r, groups) })
}

// canBeKept tries every way to deal so few learners.
func canBeKept(rules []class.Rule, learners []class.Learner, sizes []int) bool {
	groups := make([][]class.Learner, len(sizes))
	var deal func(n int) bool
	deal = func(n int) bool {
		if n == len(learners) {
			return allKept(rules, groups)
		}
		for g := range groups {
			if len(groups[g]) == sizes[g] {
				continue
			}
			groups[g] = append(groups[g], learners[n])
			if deal(n + 1) {
				return true
			}
			groups[g] = groups[g][:len(groups[g])-1]
		}
		return false
	}
	return deal(0)
}

var plainKinds = []class.RuleKind{class.Together, class.AwayFrom, class.OneCan, class.Near}

func randomRules(t *rapid.T, learners, most int) []class.Rule {
	var rules []class.Rule
	for range rapid.IntRange(1, most).Draw(t, "rules") {
		rules = append(rules, class.Rule{
			Kind: rapid.SampledFrom(plainKinds).Draw(t, "kind"), Skill: "claw",
			Learners: rapid.SliceOfNDistinct(rapid.Int64Range(1, int64(learners)), 1, 3, rapid.ID).Draw(t, "who"),
		})
	}
	return rules
}

// Of few learners every way to deal them can be tried: where one keeps all
// rules, such a one is found, and where none does, that is said.
func TestWhatCanBeKeptIsKept(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		sizes := rapid.SampledFrom([][]int{{2, 2}, {2, 2, 2}, {3, 3}, {3, 2}, {2, 2, 1}, {1, 1, 1, 1}, {3, 2, 2}}).Draw(t, "sizes")
		n := 0
		for _, s := range sizes {
			n += s
		}
		learners := of(n)
		for i := range learners {
			if rapid.Bool().Draw(t, "can") {
				learners[i].Can = []string{"claw"}
			}
		}
		rules := randomRules(t, n, 4)
		d := class.Deal(learners, sizes, rules)
		possible := canBeKept(rules, learners, sizes)
		require.Equal(t, possible, allKept(rules, d.Groups))
		require.Equal(t, possible, len(d.Broken) == 0)
		for i, r := range rules {
			require.Equal(t, !kept(r, d.Groups), d.Broken[i] > 0, "rule %d is said to be as it is", i)
		}
	})
}

// Rules that a hidden deal of a whole class keeps are kept by the one that is
// found, save now and then one.
func TestHiddenDealsAreFound(t *testing.T) {
	tried, found := 0, 0
	rapid.Check(t, func(t *rapid.T) {
		learners := of(24)
		hidden := rapid.Permutation(learners).Draw(t, "hidden")
		var groups [][]class.Learner
		var sizes []int
		for i := 0; i < len(hidden); i += 2 {
			groups, sizes = append(groups, hidden[i:i+2]), append(sizes, 2)
		}
		var rules []class.Rule
		for _, r := range randomRules(t, len(learners), 24) {
			if r.Kind != class.OneCan && kept(r, groups) {
				rules = append(rules, r)
			}
		}
		d := class.Deal(learners, sizes, rules)
		tried++
		broken := 0
		for _, n := range d.Broken {
			broken += n
		}
		require.LessOrEqual(t, broken, 2)
		if broken == 0 {
			found++
		}
	})
	require.GreaterOrEqual(t, 100*found, 90*tried, "%d of %d", found, tried)
}
