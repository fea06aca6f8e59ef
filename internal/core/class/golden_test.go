package class_test

import (
	"fmt"
	"math/rand/v2"
	"strings"
	"testing"

	"freshapron/internal/core/class"
	"freshapron/internal/golden"
)

// How classes are dealt under rules of every kind, some of which can't be kept: the same
// class is dealt the same way every time.
func TestTheSameDeals(t *testing.T) {
	var b strings.Builder
	for n := range 40 {
		r := rand.New(rand.NewPCG(uint64(n), 1))
		sizes := [][]int{{2, 2, 2}, {3, 3, 2}, {4, 4}, {1, 1, 1}, {2, 2, 2, 2, 2, 1}, {5}}[n%6]
		var learners []class.Learner
		for _, size := range sizes {
			for range size {
				l := class.Learner{ID: int64(len(learners) + 1)}
				if r.IntN(3) == 0 {
					l.Can = []string{"claw"}
				}
				if what := []string{"", "", "vegan", "Milk", "milk"}[r.IntN(5)]; what != "" {
					l.Needs = []class.Need{{Kind: class.Diet, What: what}}
				}
				if r.IntN(4) == 0 {
					l.Needs = append(l.Needs, class.Need{Kind: class.Access, What: "a seat"})
				}
				learners = append(learners, l)
			}
		}
		some := func() (out []int64) {
			for range 1 + r.IntN(4) {
				out = append(out, int64(1+r.IntN(len(learners)+1)))
			}
			return out
		}
		var rules []class.Rule
		for range 1 + r.IntN(7) {
			rules = append(rules, class.Rule{Kind: class.RuleKinds[r.IntN(len(class.RuleKinds))], Learners: some(), Skill: "claw"})
		}
		d := class.Deal(class.Alike(learners), sizes, rules)
		fmt.Fprintf(&b, "= %d:", n)
		for _, g := range d.Groups {
			for _, l := range g {
				fmt.Fprintf(&b, " %d(%d)", l.ID, l.Likeness)
			}
			b.WriteString(" |")
		}
		fmt.Fprintf(&b, "\n")
		for _, says := range d.Says(rules, func(id int64) string { return strings.Repeat("x", int(id%4)) }) {
			fmt.Fprintf(&b, "  %s\n", says)
		}
	}
	golden.Same(t, "deals.golden", b.String())
}

// Words of the class list with a letter too few, too many, another, or two that changed
// places, as hurried offices type them.
func TestMisspeltWords(t *testing.T) {
	var b strings.Builder
	for _, word := range []string{"gluten", "peanuts", "vegetarian", "coeliac", "sesame", "shellfish", "halal", "lactose", "walnut", "diabetic", "eggs", "soya", "celery", "asthma", "kiwi", "wheelchair"} {
		letters := []rune(word)
		var all []string
		for n := range letters {
			all = append(all, string(letters[:n])+string(letters[n+1:]), string(letters[:n+1])+string(letters[n:]), string(letters[:n])+"x"+string(letters[n+1:]))
			if n > 0 {
				all = append(all, string(letters[:n-1])+string(letters[n])+string(letters[n-1])+string(letters[n+1:]))
			}
		}
		for _, w := range all {
			u := class.Understand(w)
			fmt.Fprintf(&b, "%s: %v %t asks %q\n", w, u.Needs, u.None, u.Asks)
		}
	}
	golden.Same(t, "misspelt.golden", b.String())
}
