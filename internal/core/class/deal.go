package class

import (
	"fmt"
	"math"
	"math/rand/v2"
	"slices"
	"strings"
)

// RuleKind is what a rule of dealing asks for.
type RuleKind string

// The rules.
const (
	Together RuleKind = "together"  // these learners work in one group
	AwayFrom RuleKind = "apart"     // no two of these work in one group
	OneCan   RuleKind = "one_can"   // each group has somebody who can do a skill
	Near     RuleKind = "near"      // these work at the first benches, near the teacher
	SameDiet RuleKind = "same_diet" // those with the same need about food work together
)

// RuleKinds lists them.
var RuleKinds = []RuleKind{Together, AwayFrom, OneCan, Near, SameDiet}

// A Rule of dealing.
type Rule struct {
	Kind     RuleKind
	Learners []int64 // of Together, AwayFrom and Near
	Skill    string  // of OneCan
}

// Says prints a rule with the names that it needs.
func (r Rule) Says(name func(int64) string) string {
	var names []string
	for _, id := range r.Learners {
		if n := name(id); n != "" {
			names = append(names, n)
		}
	}
	list := strings.Join(names, ", ")
	switch r.Kind {
	case Together:
		return list + " work together"
	case AwayFrom:
		return list + " work apart"
	case OneCan:
		return "somebody in each group can do: " + r.Skill
	case Near:
		return list + " near the teacher"
	case SameDiet:
		return "the same needs about food together"
	}
	return string(r.Kind)
}

// A Dealt is how learners were dealt into groups.
type Dealt struct {
	Groups [][]Learner // near the teacher first
	// Broken says of each rule that could not be kept how often it is not;
	// the fewest that the search found.
	Broken map[int]int
}

// dealing is a search for groups that keep the rules: it begins with the
// order of the list and exchanges two learners at a time, keeping what breaks
// fewer rules and, less and less often, what does not (simulated annealing;
// Kirkpatrick, Gelatt, Vecchi, 1983). The seed is fixed, so that the same
// class is dealt the same way every time.
type dealing struct {
	learners []Learner
	sizes    []int
	rules    []Rule
	seat     []int // learner to group
	member   [][]int
	index    map[int64]int
	who      [][]int // of each rule: the learners whom it names
	can      [][]bool
	diets    [][]int // of SameDiet: learners with one need about food
	touched  [][]int // learner to the rules that a move of theirs may break
}

// exchanges bound the search; 32 learners under 20 rules take about 25 ms where they can’t all be kept.
const exchanges = 20_000

// Deal deals learners into groups of the given sizes so that as few rules as
// possible are broken. The sizes add up to the number of learners.
func Deal(learners []Learner, sizes []int, rules []Rule) Dealt {
	if len(learners) == 0 {
		return Dealt{}
	}
	d := &dealing{learners: learners, sizes: sizes, rules: rules, index: map[int64]int{}, seat: make([]int, len(learners))}
	at := 0
	for g, n := range sizes {
		for range n {
			d.seat[at] = g
			at++
		}
	}
	d.prepare()
	cost := d.total()
	best, least := slices.Clone(d.seat), cost
	rng := rand.New(rand.NewPCG(1, 2))
	const hot, cooling = 1.5, 0.9998 // from 1.5 broken rules to none
	temperature := hot
	for n := 0; n < exchanges && least > 0 && len(sizes) > 1; n++ {
		a, b := rng.IntN(len(learners)), rng.IntN(len(learners))
		if d.seat[a] == d.seat[b] {
			continue
		}
		before := d.about(a, b)
		d.seat[a], d.seat[b] = d.seat[b], d.seat[a]
		gain := d.about(a, b) - before
		temperature *= cooling
		if gain > 0 && rng.Float64() >= math.Exp(-float64(gain)/temperature) {
			d.seat[a], d.seat[b] = d.seat[b], d.seat[a]
			continue
		}
		if cost += gain; cost < least {
			least = cost
			copy(best, d.seat)
		}
	}
	copy(d.seat, best)
	out := Dealt{Groups: make([][]Learner, len(sizes)), Broken: map[int]int{}}
	for i, g := range d.seat {
		out.Groups[g] = append(out.Groups[g], learners[i])
	}
	for i := range rules {
		if n := d.broken(i); n > 0 {
			out.Broken[i] = n
		}
	}
	return out
}

func (d *dealing) prepare() {
	for i, l := range d.learners {
		d.index[l.ID] = i
	}
	d.touched = make([][]int, len(d.learners))
	touch := func(i, rule int) {
		if !slices.Contains(d.touched[i], rule) {
			d.touched[i] = append(d.touched[i], rule)
		}
	}
	d.who, d.can, d.diets = make([][]int, len(d.rules)), make([][]bool, len(d.rules)), make([][]int, len(d.rules))
	d.member = make([][]int, len(d.rules))
	for r, rule := range d.rules {
		for _, id := range rule.Learners {
			if i, ok := d.index[id]; ok {
				d.who[r] = append(d.who[r], i)
				touch(i, r)
			}
		}
		d.can[r] = make([]bool, len(d.learners))
		d.diets[r] = make([]int, len(d.learners))
		kinds := map[int]int{}
		for i, l := range d.learners {
			if d.can[r][i] = slices.Contains(l.Can, rule.Skill); d.can[r][i] && rule.Kind == OneCan {
				touch(i, r)
			}
			d.diets[r][i] = -1
			if rule.Kind == SameDiet && l.Likeness > 0 {
				if _, ok := kinds[l.Likeness]; !ok {
					kinds[l.Likeness] = len(kinds)
				}
				d.diets[r][i] = kinds[l.Likeness]
				touch(i, r)
			}
		}
		d.member[r] = make([]int, len(d.sizes))
	}
}

// Alike returns the learners with keys of likeness in place of their needs and
// notes: enough to deal groups by, and nothing to be read.
func Alike(learners []Learner) []Learner {
	out := slices.Clone(learners)
	keys := map[string]int{"": 0}
	for i := range out {
		l := &out[i]
		var food []string
		for _, n := range l.Needs {
			if n.Kind != Access {
				food = append(food, strings.ToLower(n.What))
			}
		}
		slices.Sort(food)
		key := strings.Join(food, "+")
		if _, ok := keys[key]; !ok {
			keys[key] = len(keys)
		}
		l.Likeness, l.Needs, l.Notes = keys[key], nil, ""
	}
	return out
}

func (d *dealing) total() int {
	sum := 0
	for r := range d.rules {
		sum += d.broken(r)
	}
	return sum
}

// about sums what is broken of the rules that an exchange of two may change.
func (d *dealing) about(a, b int) int {
	sum := 0
	for _, r := range d.touched[a] {
		sum += d.broken(r)
	}
	for _, r := range d.touched[b] {
		if !slices.Contains(d.touched[a], r) {
			sum += d.broken(r)
		}
	}
	return sum
}

// broken counts how often a rule is not kept.
func (d *dealing) broken(r int) int {
	n := 0
	switch who := d.who[r]; d.rules[r].Kind {
	case Together:
		for _, i := range who[min(1, len(who)):] {
			if d.seat[i] != d.seat[who[0]] {
				n++
			}
		}
	case AwayFrom:
		for k, i := range who {
			for _, j := range who[k+1:] {
				if d.seat[i] == d.seat[j] {
					n++
				}
			}
		}
	case Near:
		// So many first groups as there would be of these alone.
		first, room := 0, 0
		for first < len(d.sizes) && room < len(who) {
			room += d.sizes[first]
			first++
		}
		for _, i := range who {
			if d.seat[i] >= first {
				n++
			}
		}
	case OneCan:
		clear(d.member[r])
		for i, can := range d.can[r] {
			if can {
				d.member[r][d.seat[i]]++
			}
		}
		for _, have := range d.member[r] {
			if have == 0 {
				n++
			}
		}
	case SameDiet:
		n = d.scattered(r)
	}
	return n
}

// scattered counts the groups over which needs about food are spread beyond
// as few as hold them.
func (d *dealing) scattered(r int) int {
	n, most := 0, slices.Max(d.diets[r])
	for kind := range most + 1 {
		clear(d.member[r])
		count, groups := 0, 0
		for i, k := range d.diets[r] {
			if k == kind {
				count++
				if d.member[r][d.seat[i]]++; d.member[r][d.seat[i]] == 1 {
					groups++
				}
			}
		}
		n += groups - (count+slices.Max(d.sizes)-1)/slices.Max(d.sizes)
	}
	return n
}

// Says says how well the rules are kept.
func (d Dealt) Says(rules []Rule, name func(int64) string) []string {
	var out []string
	for i, r := range rules {
		if n := d.Broken[i]; n > 0 {
			times := "once"
			if n > 1 {
				times = fmt.Sprintf("%d times", n)
			}
			out = append(out, fmt.Sprintf("Not kept, %s: %s. This is the best that was found.", times, r.Says(name)))
		}
	}
	return out
}
