package lesson

import (
	"cmp"
	"fmt"
	"slices"
	"strings"

	"freshapron/internal/core/class"
	"freshapron/internal/core/exact"
	"freshapron/internal/core/measure"
	"freshapron/internal/core/pantry"
	"freshapron/internal/core/recipe"
	"freshapron/internal/core/scale"
	"freshapron/internal/core/words"
)

// A Course is one dish of a lesson's menu.
type Course struct {
	Recipe recipe.Recipe
	Each   int // pieces for each learner who makes it
	Demo   int // pieces that the teacher makes in the demonstration
	By     Makers
	Picks  []Picked // what learners have chosen of a dish with choices
}

// Makers are who makes a course: the groups and learners that are named,
// everybody where none is.
type Makers struct {
	Groups   []string // ids of benches
	Learners []int64
}

// Everybody reports whether all make it.
func (m Makers) Everybody() bool { return len(m.Groups)+len(m.Learners) == 0 }

// A Picked is an option that a learner has chosen, by its name and that of the
// choice.
type Picked struct {
	Learner        int64
	Choice, Option string
}

// cooks counts the members of a group who make the course.
func (c Course) cooks(g group) int {
	if c.By.Everybody() || slices.Contains(c.By.Groups, g.id()) {
		return g.cooks
	}
	n := 0
	for _, m := range g.members {
		if slices.Contains(c.By.Learners, m.ID) {
			n++
		}
	}
	return n
}

// Includes reports whether a learner of a bench is among them.
func (m Makers) Includes(b Bench, learner int64) bool {
	return m.Everybody() || slices.Contains(m.Groups, b.ID) || slices.Contains(m.Learners, learner)
}

// Titles names the dishes of the menu: "Scones", "Scones and Slaw".
func (l Lesson) Titles() string {
	var out []string
	for _, c := range l.Menu {
		out = append(out, c.Recipe.Title)
	}
	return words.Names(out)
}

// CourseOf returns the place of a dish in the menu, by the recipe's id; -1
// where it is not there.
func (l Lesson) CourseOf(dish string) int {
	return slices.IndexFunc(l.Menu, func(c Course) bool { return c.Recipe.ID == dish })
}

// A Made is what a bench makes of a course.
type Made struct {
	Course int // its place in the menu
	Cooks  int // of the bench, who make it
	Pieces int
}

// picks returns how many of those who make a course at a bench have chosen
// each option, and how many have still to choose.
func (c Course) picks(b Bench) (count map[recipe.Pick]int, open int) {
	count = map[recipe.Pick]int{}
	for _, m := range b.Members {
		if !c.By.Includes(b, m.ID) {
			continue
		}
		picks := c.picksOf(m.ID)
		for _, p := range picks {
			count[p]++
		}
		if _, err := c.Recipe.Compose(picks); err != nil {
			open++
		}
	}
	return count, open
}

func (c Course) picksOf(learner int64) []recipe.Pick {
	var out []recipe.Pick
	for n, choice := range c.Recipe.Choices {
		for k, o := range choice.Options {
			if slices.Contains(c.Picks, Picked{learner, choice.Name, o.Name}) {
				out = append(out, recipe.Pick{Choice: n, Option: k})
			}
		}
	}
	return out
}

// Undecided returns who makes a course with choices and has not chosen as many
// as it asks for.
func (l Lesson) Undecided(course int) []class.Learner {
	c := l.Menu[course]
	var out []class.Learner
	for _, b := range l.Benches() {
		for _, m := range b.Members {
			if !c.By.Includes(b, m.ID) {
				continue
			}
			if _, err := c.Recipe.Compose(c.picksOf(m.ID)); err != nil {
				out = append(out, m)
			}
		}
	}
	return out
}

// A KindOfBench is what benches that make the same of a course, in the same
// way, measure out.
type KindOfBench struct {
	Course  int // its place in the menu
	Pieces  int
	Swaps   []Swap
	Recipe  recipe.Recipe // with the swaps, and after its own lines what was chosen
	Open    int           // how many at each of these benches have still to choose
	Benches []Bench
}

// Kinds returns the kinds of benches, course by course, the most frequent
// first; those that swap something come after.
func (l Lesson) Kinds() []KindOfBench {
	var out []KindOfBench
	var keys []string
	for _, b := range l.Benches() {
		for _, m := range b.Makes {
			c := l.Menu[m.Course]
			swaps := of(b.Swaps, c)
			picks, open := c.picks(b)
			key := fmt.Sprint(m.Course, m.Pieces, plainSwaps(swaps), picks, open)
			k := slices.Index(keys, key)
			if k < 0 {
				k = len(out)
				keys = append(keys, key)
				out = append(out, KindOfBench{Course: m.Course, Pieces: m.Pieces, Swaps: swaps, Open: open, Recipe: l.made(c, m, swaps, picks, open)})
			}
			out[k].Benches = append(out[k].Benches, b)
		}
	}
	slices.SortStableFunc(out, func(a, b KindOfBench) int {
		return cmp.Or(a.Course-b.Course, cmp.Compare(min(1, len(a.Swaps)), min(1, len(b.Swaps))), len(b.Benches)-len(a.Benches))
	})
	return out
}

// made returns a course as a bench makes it. Choices stay open in it while
// somebody has still to choose.
func (l Lesson) made(c Course, m Made, swaps []Swap, picks map[recipe.Pick]int, open int) recipe.Recipe {
	r := l.swapped(c.Recipe, swaps)
	if len(r.Choices) == 0 || len(l.Class.Roster) == 0 {
		return r
	}
	r.Ingredients = slices.Clone(r.Ingredients)
	for n, choice := range r.Choices {
		for k, o := range choice.Options {
			if count := picks[recipe.Pick{Choice: n, Option: k}]; count > 0 {
				r.Ingredients = append(r.Ingredients, shares(choice, o, count, m.Cooks)...)
			}
		}
	}
	if open == 0 {
		r.Choices = nil
	}
	return r
}

// shares are the lines of an option that some of the cooks of a bench have
// chosen, as the bench's whole mixture has them.
func shares(choice recipe.Choice, o recipe.Option, count, cooks int) []recipe.Ingredient {
	out := slices.Clone(o.Ingredients)
	for i := range out {
		out[i].Quantity = out[i].Quantity.Times(exact.Frac(int64(count), int64(cooks)))
		if out[i].Part == "" {
			out[i].Part = choice.Name
		}
	}
	return out
}

// A Size is what the benches of a kind measure out.
type Size struct {
	KindOfBench
	Amounts []scale.Scaled // of the lines of its recipe that are used in this lesson
	Lines   []int          // where they stand in the recipe
}

// Sizes returns what each kind of bench measures out.
func (l Lesson) Sizes() []Size {
	var out []Size
	for _, k := range l.Kinds() {
		s, own := Size{KindOfBench: k}, l.own(k.Course)
		for i, a := range l.Kitchen().Amounts(k.Recipe, k.Pieces) {
			if own(i) {
				s.Amounts, s.Lines = append(s.Amounts, a), append(s.Lines, i)
			}
		}
		out = append(out, s)
	}
	return out
}

// Needs returns, course by course, what the class uses of each line of the
// recipe, with the demonstration and the spares; a spare is a set for the most
// frequent size of bench. Benches that swap a line use none of it; see Swapped.
// What learners have chosen is not among it; see Chosen. Of a dish in two lessons a
// line of the other one comes to nothing.
func (l Lesson) Needs() [][]scale.Need {
	kinds := l.Kinds()
	out := make([][]scale.Need, len(l.Menu))
	for n, c := range l.Menu {
		var extra []int
		if c.Demo > 0 {
			extra = append(extra, c.Demo)
		}
		if first := slices.IndexFunc(kinds, func(k KindOfBench) bool { return k.Course == n }); first >= 0 {
			extra = append(extra, slices.Repeat([]int{kinds[first].Pieces}, l.Spare)...)
		}
		without := func(swapped string) (benches []int) {
			for _, k := range kinds {
				if k.Course == n && !slices.ContainsFunc(k.Swaps, func(s Swap) bool { return s.For == swapped && swapped != "" }) {
					benches = append(benches, slices.Repeat([]int{k.Pieces}, len(k.Benches))...)
				}
			}
			return benches
		}
		all := without("")
		out[n] = l.Kitchen().Class(c.Recipe, all, extra)
		for i, in := range c.Recipe.Ingredients {
			if benches := without(in.Name); len(benches) < len(all) {
				out[n][i] = l.Kitchen().Class(c.Recipe, benches, extra)[i]
			}
		}
		for i, own := 0, l.own(n); i < len(out[n]); i++ {
			if !own(i) {
				out[n][i].Benches.Amount, out[n][i].Total.Amount = exact.Number{}, exact.Number{}
			}
		}
	}
	return out
}

// A Swapped is an ingredient that some benches use in place of another.
type Swapped struct {
	Course  int // its place in the menu
	At      int // of the line in the recipe that it stands for
	For     string
	Line    recipe.Ingredient
	Benches []string
	Need    scale.Need
}

// Swapped returns what benches use in place of the recipe's, and how much of
// it all of them need together.
func (l Lesson) Swapped() []Swapped {
	var out []Swapped
	kinds := l.Kinds()
	for _, k := range kinds {
		for _, s := range k.Swaps {
			for at, in := range l.Menu[k.Course].Recipe.Ingredients {
				if in.Name != s.For || !l.own(k.Course)(at) {
					continue
				}
				line := k.Recipe.Ingredients[at]
				n := slices.IndexFunc(out, func(o Swapped) bool { return o.Course == k.Course && o.At == at && o.Line.Line() == line.Line() })
				if n < 0 {
					n = len(out)
					out = append(out, Swapped{Course: k.Course, At: at, For: s.For, Line: line})
				}
				for _, b := range k.Benches {
					out[n].Benches = append(out[n].Benches, b.Name)
				}
			}
		}
	}
	for i := range out {
		s := &out[i]
		var pieces []int
		r := l.Menu[s.Course].Recipe
		for _, k := range kinds {
			if k.Course == s.Course && len(k.Swaps) > 0 && k.Recipe.Ingredients[s.At].Line() == s.Line.Line() {
				r = k.Recipe
				pieces = append(pieces, slices.Repeat([]int{k.Pieces}, len(k.Benches))...)
			}
		}
		s.Need = l.Kitchen().Class(r, pieces, nil)[s.At]
	}
	return out
}

// A Chosen is a line of an option that learners have chosen, and how much of
// it all of them need together.
type Chosen struct {
	Course         int // its place in the menu
	Choice, Option string
	Line           recipe.Ingredient // for the yield of the recipe
	Learners       int
	Need           scale.Need
}

// Chosen returns what learners have chosen, option by option.
func (l Lesson) Chosen() []Chosen {
	var out []Chosen
	benches := l.Benches()
	for n, c := range l.Menu {
		for i, choice := range c.Recipe.Choices {
			for k, o := range choice.Options {
				for at, line := range o.Ingredients {
					ch := Chosen{Course: n, Choice: choice.Name, Option: o.Name, Line: line}
					sum := measure.Quantity{Unit: line.Unit}
					for _, b := range benches {
						m, ok := b.made(n)
						picks, _ := c.picks(b)
						if count := picks[recipe.Pick{Choice: i, Option: k}]; ok && count > 0 {
							share := shares(choice, o, count, m.Cooks)[at]
							used := scale.Used(share, exact.Frac(int64(m.Pieces), int64(max(1, c.Recipe.Yield))))
							sum.Amount = sum.Amount.Add(used.Amount)
							ch.Learners += count
						}
					}
					if ch.Learners > 0 {
						total := l.Kitchen().Bulk(line, sum)
						ch.Need = scale.Need{Benches: total, Total: total}
						out = append(out, ch)
					}
				}
			}
		}
	}
	return out
}

// Cost returns what the class uses up costs, in pence, packs shared out, with
// the names of what has no price.
func (l Lesson) Cost() (pence exact.Number, unpriced []string) {
	add := func(r recipe.Recipe, pieces, times int) {
		if times == 0 {
			return
		}
		p, missing := l.Kitchen().Cost(r, exact.Frac(int64(pieces), int64(max(1, r.Yield))))
		pence = pence.Add(p.Mul(exact.Int(int64(times))))
		for _, name := range missing {
			if !slices.Contains(unpriced, name) {
				unpriced = append(unpriced, name)
			}
		}
	}
	kinds := l.Kinds()
	for n, c := range l.Menu {
		r := l.part(n, c.Recipe)
		add(r, c.Demo, min(1, c.Demo))
		if first := slices.IndexFunc(kinds, func(k KindOfBench) bool { return k.Course == n }); first >= 0 {
			add(r, kinds[first].Pieces, l.Spare)
		}
	}
	for _, k := range kinds {
		add(l.part(k.Course, k.Recipe), k.Pieces, len(k.Benches))
	}
	return pence, unpriced
}

// of returns the swaps that are about a course.
func of(swaps []Swap, c Course) []Swap {
	return slices.DeleteFunc(slices.Clone(swaps), func(s Swap) bool { return s.Dish != c.Recipe.ID })
}

// Says names who makes a course: "everybody", "benches 1, 3", "Ada Lund".
func (m Makers) Says(benches []Bench, name func(int64) string) string {
	if m.Everybody() {
		return "everybody"
	}
	var numbers, names []string
	for _, id := range m.Groups {
		for _, b := range benches {
			if b.ID == id {
				numbers = append(numbers, b.Label)
			}
		}
	}
	for _, id := range m.Learners {
		if n := name(id); n != "" {
			names = append(names, n)
		}
	}
	var parts []string
	switch len(numbers) {
	case 0:
	case 1:
		parts = append(parts, "bench "+numbers[0])
	default:
		parts = append(parts, "benches "+strings.Join(numbers, ", "))
	}
	return strings.Join(append(parts, names...), ", ")
}

// ReadMakers reads who makes a course, as somebody has typed it: "everybody",
// "benches 1, 3-5", "Ada Lund, bench 2". The error says what it can't place.
func (l Lesson) ReadMakers(text string) (Makers, error) {
	var out Makers
	text = strings.TrimSpace(text)
	if text == "" || strings.EqualFold(text, "everybody") {
		return out, nil
	}
	benches := l.Benches()
	for part := range strings.FieldsFuncSeq(text, func(r rune) bool { return r == ',' || r == ';' || r == '\n' }) {
		part = strings.Join(strings.Fields(part), " ")
		low := strings.ToLower(part)
		for _, word := range []string{"benches ", "bench "} {
			low = strings.TrimPrefix(low, word)
		}
		from, to := benchBetween(benches, low)
		if from >= 0 {
			for _, b := range benches[from : to+1] {
				if !slices.Contains(out.Groups, b.ID) {
					out.Groups = append(out.Groups, b.ID)
				}
			}
			continue
		}
		var found []int64
		for _, p := range l.Class.Roster {
			if strings.EqualFold(p.Name(), part) || strings.EqualFold(p.Given, part) {
				found = append(found, p.ID)
			}
		}
		switch len(found) {
		case 0:
			return out, fmt.Errorf("“%s” is neither a bench of this lesson nor a learner of %s. Write “everybody”, “benches 1, 3-5”, or names with commas between", words.Short(part), l.Class.Name)
		case 1:
			out.Learners = append(out.Learners, found[0])
		default:
			return out, fmt.Errorf("%d learners are called “%s”: write the whole name", len(found), words.Short(part))
		}
	}
	return out, nil
}

// benchBetween returns the places of the first and the last bench that "3" or
// "3-5" names; -1 where it names none.
func benchBetween(benches []Bench, text string) (from, to int) {
	at := func(label string) int {
		return slices.IndexFunc(benches, func(b Bench) bool { return strings.EqualFold(b.Label, strings.TrimSpace(label)) })
	}
	first, last, ok := strings.Cut(strings.NewReplacer("–", "-", " to ", "-").Replace(text), "-")
	if from = at(first); !ok {
		return from, from
	}
	if to = at(last); from < 0 || to < from {
		return -1, -1
	}
	return from, to
}

// everything returns all that is made in the lesson, with what benches swap in and
// what learners have chosen.
func (l Lesson) everything() []recipe.Recipe {
	var recipes []recipe.Recipe
	for _, c := range l.Menu {
		recipes = append(recipes, c.Recipe)
	}
	for _, k := range l.Kinds() {
		recipes = append(recipes, k.Recipe)
	}
	return recipes
}

// ToRead returns the ingredients of all that is made in the lesson whose labels
// have to be read, each once.
func (l Lesson) ToRead() []recipe.ToRead {
	var out []recipe.ToRead
	for _, r := range l.everything() {
		for _, t := range r.ToRead(l.Pantry) {
			if !slices.ContainsFunc(out, func(o recipe.ToRead) bool { return o.Name == t.Name }) {
				out = append(out, t)
			}
		}
	}
	return out
}

// Allergens returns the allergens of all that is made in the lesson, each once,
// and the names of what nobody has looked up.
func (l Lesson) Allergens() (known []pantry.Allergen, unknown []string) {
	for _, r := range l.everything() {
		more, doubts := r.Allergens(l.Pantry)
		for _, a := range more {
			if !slices.Contains(known, a) {
				known = append(known, a)
			}
		}
		for _, name := range doubts {
			if !slices.Contains(unknown, name) {
				unknown = append(unknown, name)
			}
		}
	}
	return known, unknown
}
