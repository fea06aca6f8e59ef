package class_test

import (
	"fmt"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"freshapron/internal/core/class"
	"freshapron/internal/core/exact"
	"freshapron/internal/core/pantry"
)

func ExampleDeal() {
	learners := []class.Learner{{ID: 1, Given: "Ana"}, {ID: 2, Given: "Ben"}, {ID: 3, Given: "Cleo"}, {ID: 4, Given: "Dov"}}
	d := class.Deal(class.Alike(learners), []int{2, 2}, []class.Rule{{Kind: class.AwayFrom, Learners: []int64{1, 2}}})
	for _, g := range d.Groups {
		fmt.Println(g[0].Given, g[1].Given)
	}
	// Output:
	// Ben Cleo
	// Ana Dov
}

func day(s string) time.Time {
	d, err := time.Parse(time.DateOnly, s)
	if err != nil {
		panic(err)
	}
	return d
}

func TestAge(t *testing.T) {
	l := class.Learner{Born: day("2014-11-26")}
	for on, want := range map[string]int{"2026-11-25": 11, "2026-11-26": 12, "2014-11-25": 0, "2027-01-01": 12} {
		assert.Equal(t, want, l.Age(day(on)), on)
	}
	assert.Zero(t, class.Learner{}.Age(day("2026-11-26")))
}

func TestLevels(t *testing.T) {
	for in, want := range map[string]class.Level{"": 0, "Starting": class.Starting, " sure ": class.Sure, "2": class.Practised} {
		l, ok := class.LevelOf(in)
		assert.True(t, ok, in)
		assert.Equal(t, want, l)
	}
	_, ok := class.LevelOf("expert")
	assert.False(t, ok)
}

func TestNeeds(t *testing.T) {
	for _, word := range class.Common() {
		u := class.Understand(word)
		require.NotEmpty(t, u.Needs, word)
		assert.Empty(t, u.Asks, word)
		assert.NotEmpty(t, class.AllergensOf(u.Needs[0]), word)
	}
	assert.Contains(t, class.AllergensOf("gluten"), pantry.Barley)
	assert.Empty(t, class.AllergensOf("food:kiwi"))
	assert.Equal(t, "oyster mushroom", class.FoodOf("food:oyster-mushroom"))
	assert.Empty(t, class.FoodOf("milk"))
	assert.Equal(t, []string{"dragonfruit"}, class.Need{Kind: class.Allergy, What: "dragonfruit"}.Unclear())
	assert.Empty(t, class.Need{Kind: class.Access, What: "a stool"}.Unclear())
	assert.Equal(t, "allergy: nuts, by contact too (pen in the office)", class.Need{Kind: class.Allergy, What: "nuts", Helps: "pen in the office"}.Says())
	assert.Equal(t, "allergy: milk, when eaten", class.Need{Kind: class.Allergy, What: "milk", Severity: class.Eaten}.Says())
	assert.True(t, class.Need{Kind: class.Allergy, What: "nuts"}.Apart(), "what is not said is taken as the worst")
	assert.False(t, class.Need{Kind: class.Diet, What: "vegan"}.Apart())
}

func of(n int) []class.Learner {
	out := make([]class.Learner, n)
	for i := range out {
		out[i] = class.Learner{ID: int64(i + 1), Given: fmt.Sprintf("L%d", i+1)}
	}
	return out
}

func TestDealKeepsRulesThatCanBeKept(t *testing.T) {
	learners := of(12)
	for _, i := range []int{0, 1, 2, 3, 4} {
		learners[i].Can = []string{"claw"}
	}
	for _, i := range []int{3, 8, 11} {
		learners[i].Needs = []class.Need{{Kind: class.Diet, What: "vegan"}}
	}
	rules := []class.Rule{
		{Kind: class.Together, Learners: []int64{5, 10}}, {Kind: class.AwayFrom, Learners: []int64{1, 2}},
		{Kind: class.OneCan, Skill: "claw"}, {Kind: class.Near, Learners: []int64{10, 7}}, {Kind: class.SameDiet},
		{Kind: class.Together, Learners: []int64{99, 5}}, // 99 has left
	}
	d := class.Deal(class.Alike(learners), []int{3, 3, 3, 3}, rules)
	assert.Empty(t, d.Broken)
	at := map[int64]int{}
	for g, members := range d.Groups {
		assert.Len(t, members, 3)
		for _, l := range members {
			at[l.ID] = g
		}
	}
	assert.Equal(t, at[5], at[10])
	assert.NotEqual(t, at[1], at[2])
	assert.Zero(t, at[10])
	assert.Zero(t, at[7])
	assert.Equal(t, at[4], at[9], "three vegans fill one group")
	assert.Equal(t, at[4], at[12])
}

func TestDealSaysWhatCanNotBeKept(t *testing.T) {
	rules := []class.Rule{{Kind: class.Together, Learners: []int64{1, 2}}, {Kind: class.AwayFrom, Learners: []int64{1, 2}}, {Kind: class.OneCan, Skill: "claw"}}
	d := class.Deal(of(4), []int{2, 2}, rules)
	assert.Len(t, d.Says(rules, func(int64) string { return "x" }), 2, "one of two that contradict, and the skill that nobody has")
	assert.Equal(t, 2, d.Broken[2])
	alone := class.Deal(of(1), []int{1}, rules)
	assert.Len(t, alone.Groups, 1)
	assert.Empty(t, class.Deal(nil, nil, rules).Groups)
}

// Whatever the rules, everybody is in one group, groups have their sizes, and
// what is said to be broken is.
func TestDealIsAlwaysADeal(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		n := rapid.IntRange(1, 32).Draw(t, "learners")
		learners := of(n)
		for i := range learners {
			if rapid.Bool().Draw(t, "can") {
				learners[i].Can = []string{"claw"}
			}
			if rapid.IntRange(0, 4).Draw(t, "need") == 0 {
				learners[i].Needs = []class.Need{{Kind: class.Allergy, What: rapid.SampledFrom([]string{"milk", "eggs"}).Draw(t, "what")}}
			}
		}
		var sizes []int
		for left := n; left > 0; {
			s := rapid.IntRange(1, min(5, left)).Draw(t, "size")
			sizes = append(sizes, s)
			left -= s
		}
		var rules []class.Rule
		for range rapid.IntRange(0, 8).Draw(t, "rules") {
			rules = append(rules, class.Rule{
				Kind:     rapid.SampledFrom(class.RuleKinds).Draw(t, "kind"),
				Learners: rapid.SliceOfNDistinct(rapid.Int64Range(1, 34), 0, 4, rapid.ID).Draw(t, "who"), Skill: "claw",
			})
		}
		d := class.Deal(class.Alike(learners), sizes, rules)
		seen := map[int64]int{}
		for g, members := range d.Groups {
			require.Len(t, members, sizes[g])
			for _, l := range members {
				_, twice := seen[l.ID]
				require.False(t, twice)
				seen[l.ID] = g
			}
		}
		require.Len(t, seen, n)
		for i, r := range rules {
			if r.Kind != class.Together {
				continue
			}
			there := map[int]bool{}
			for _, id := range r.Learners {
				if g, ok := seen[id]; ok {
					there[g] = true
				}
			}
			require.Equal(t, len(there) > 1, d.Broken[i] > 0)
		}
		require.Equal(t, d, class.Deal(class.Alike(learners), sizes, rules), "dealt the same way every time")
	})
}

func BenchmarkDeal(b *testing.B) {
	learners := of(32)
	var rules []class.Rule
	for i := range 20 {
		a, c := int64(i%32+1), int64((i*7+3)%32+1)
		rules = append(rules, class.Rule{Kind: class.RuleKinds[i%5], Learners: []int64{a, c, (a+c)%32 + 1}, Skill: "claw"})
	}
	for i := range learners {
		if i%3 == 0 {
			learners[i].Can = []string{"claw"}
		}
		if i%4 == 0 {
			learners[i].Needs = []class.Need{{Kind: class.Diet, What: "vegan"}}
		}
	}
	sizes := make([]int, 16)
	for i := range sizes {
		sizes[i] = 2
	}
	for b.Loop() {
		class.Deal(class.Alike(learners), sizes, rules)
	}
}

// A pace is over 0 and at most 5.
func TestPaces(t *testing.T) {
	for pace, ok := range map[string]bool{"0": false, "-1": false, "0.01": true, "1": true, "5": true, "5.01": false} {
		says := class.CheckPace(exact.MustParse(pace))
		assert.Equal(t, ok, says == "", pace)
	}
	assert.Contains(t, class.CheckPace(exact.MustParse("5.25")), "5.25")
	assert.Equal(t, 99, class.Oldest)
}

// Three apart in groups of three can't be kept apart in two groups: one pair is
// left, and it is said how often.
func TestHowOftenARuleIsBroken(t *testing.T) {
	name := func(id int64) string { return fmt.Sprint(id) }
	apart := []class.Rule{{Kind: class.AwayFrom, Learners: []int64{1, 2, 3}}}
	d := class.Deal(of(4), []int{2, 2}, apart)
	assert.Equal(t, map[int]int{0: 1}, d.Broken)
	assert.Contains(t, d.Says(apart, name)[0], "once")
	apart[0].Learners = []int64{1, 2, 3, 4}
	d = class.Deal(of(4), []int{2, 2}, apart)
	assert.Equal(t, map[int]int{0: 2}, d.Broken)
	assert.Contains(t, d.Says(apart, name)[0], "2 times")
	// Near: as many first groups as those named fill alone.
	near := []class.Rule{{Kind: class.Near, Learners: []int64{5, 6, 7}}}
	d = class.Deal(of(8), []int{2, 2, 2, 2}, near)
	assert.Empty(t, d.Broken)
	for _, g := range d.Groups[2:] {
		for _, l := range g {
			assert.NotContains(t, near[0].Learners, l.ID)
		}
	}
	one := class.Deal(of(3), []int{3}, apart)
	assert.Equal(t, map[int]int{0: 3}, one.Broken, "with one group there is nothing to exchange")
}
