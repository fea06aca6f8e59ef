package lesson

import (
	"fmt"
	"slices"
	"strings"

	"freshapron/internal/core/class"
	"freshapron/internal/core/measure"
	"freshapron/internal/core/recipe"
	"freshapron/internal/core/safety"
	"freshapron/internal/core/scale"
)

// A Swap is another ingredient that a learner's bench works with.
type Swap struct {
	Learner  int64
	For, Use string // as the recipe's swap says
}

// A WayTaken is another way in which a learner does a step; Step is empty for
// what holds the whole lesson.
type WayTaken struct {
	Learner int64
	Step    string
	Way     string // id in the school's table
}

// Present returns who of the roster is there.
func (l Lesson) Present() []class.Learner {
	if len(l.Absent) == 0 {
		return l.Class.Roster
	}
	return slices.DeleteFunc(slices.Clone(l.Class.Roster), func(p class.Learner) bool { return slices.Contains(l.Absent, p.ID) })
}

// Learners returns how many are there.
func (l Lesson) Learners() int {
	if len(l.Class.Roster) == 0 {
		return l.Class.Learners
	}
	return len(l.Present())
}

// byHand returns the teams that somebody has put together, without those who
// are away; who is in none of them joins the smallest. It is nil where nobody
// has.
func (l Lesson) byHand() [][]class.Learner {
	if len(l.Teams) == 0 || len(l.Class.Roster) == 0 {
		return nil
	}
	there := map[int64]class.Learner{}
	present := l.Present()
	for _, p := range present {
		there[p.ID] = p
	}
	var out [][]class.Learner
	for _, team := range l.Teams {
		var members []class.Learner
		for _, id := range team {
			if p, ok := there[id]; ok {
				members = append(members, p)
				delete(there, id)
			}
		}
		if members != nil {
			out = append(out, members)
		}
	}
	for _, p := range present {
		if _, left := there[p.ID]; !left {
			continue
		}
		if len(out) == 0 {
			out = append(out, nil)
		}
		at := 0
		for i := range out {
			if len(out[i]) < len(out[at]) {
				at = i
			}
		}
		out[at] = append(out[at], p)
	}
	return out
}

// sizes returns how many work in each group.
func (l Lesson) sizes() []int {
	if teams := l.byHand(); teams != nil {
		var out []int
		for _, t := range teams {
			out = append(out, len(t))
		}
		return out
	}
	return scale.Groups(l.Learners(), l.GroupSize, l.Room.Benches)
}

// Dealt returns who works with whom: as somebody has put it together, or
// dealt by the class's rules. It has no groups where nobody is named.
func (l Lesson) Dealt() class.Dealt {
	if teams := l.byHand(); teams != nil {
		return class.Dealt{Groups: teams}
	}
	if len(l.Class.Roster) == 0 {
		return class.Dealt{}
	}
	return class.Deal(l.Present(), l.sizes(), l.Class.Rules)
}

// taken returns the swaps and the other ways of each bench; nil where there
// are none, so that nobody has to be dealt.
func (l Lesson) taken() (swaps [][]Swap, ways [][]WayTaken) {
	if len(l.Swaps)+len(l.OtherWays) == 0 || len(l.Class.Roster) == 0 {
		return nil, nil
	}
	for _, team := range l.Dealt().Groups {
		member := func(id int64) bool {
			return slices.ContainsFunc(team, func(p class.Learner) bool { return p.ID == id })
		}
		var s []Swap
		for _, swap := range l.Swaps {
			// Of two swaps of one ingredient the first counts: a bench makes
			// one mixture.
			if member(swap.Learner) && !slices.ContainsFunc(s, func(o Swap) bool { return o.For == swap.For }) {
				s = append(s, swap)
			}
		}
		var w []WayTaken
		for _, way := range l.OtherWays {
			if member(way.Learner) {
				w = append(w, way)
			}
		}
		swaps, ways = append(swaps, s), append(ways, w)
	}
	return swaps, ways
}

func plainSwaps(list []Swap) string {
	var out []string
	for _, s := range list {
		out = append(out, s.For+"→"+s.Use)
	}
	slices.Sort(out)
	return strings.Join(out, "|")
}

func plainWays(list []WayTaken) string {
	var out []string
	for _, w := range list {
		if w.Step != "" {
			out = append(out, w.Step+":"+w.Way)
		}
	}
	slices.Sort(out)
	return strings.Join(out, "|")
}

// Take reads the line of a swap as an ingredient.
func (l Lesson) Take(line, part string) recipe.Ingredient {
	return recipe.TakeLine(line, part, measure.Metric, l.Pantry).Ingredient
}

// swapped returns the recipe with the swaps of a bench.
func (l Lesson) swapped(swaps []Swap) recipe.Recipe {
	var list []recipe.Swap
	for _, s := range swaps {
		list = append(list, recipe.Swap{For: s.For, Use: s.Use})
	}
	if l.Pantry == nil {
		return l.Recipe
	}
	return l.Recipe.Swapped(l.Take, list...)
}

// OneBoard reports whether vegetables and raw meat share boards: the room has
// fewer for raw meat than there are groups, and the recipe asks for none of
// its own.
func (l Lesson) OneBoard() bool {
	for _, e := range l.Recipe.Equipment {
		if low := strings.ToLower(e); strings.Contains(low, "board") && strings.Contains(low, "raw") {
			return false
		}
	}
	return l.Room.RawBoards < len(l.sizes())
}

// adapted returns what a bench makes, by the school's tables and in its own
// ways.
func (l Lesson) adapted(b Bench, r recipe.Recipe) recipe.Recipe {
	if l.Pantry == nil {
		return r
	}
	at := safety.Bench{Age: l.Class.Age, Level: l.level(b), Ways: map[string][]safety.Way{}, OneBoard: len(l.Safety.Who) > 0 && l.OneBoard()}
	for _, w := range b.Ways {
		if way, ok := l.Safety.Way(w.Way); ok && w.Step != "" {
			at.Ways[w.Step] = append(at.Ways[w.Step], way)
		}
	}
	return l.Safety.Adapt(r, l.Pantry, at)
}

// level returns the level of the surest at a bench, 0 where that is not known
// or nobody's level matters.
func (l Lesson) level(b Bench) class.Level {
	if !slices.ContainsFunc(l.Safety.Who, func(r safety.WhoRule) bool { return r.Level > 0 && l.Class.Age > 0 && l.Class.Age < r.Under }) {
		return 0
	}
	var n int
	if _, err := fmt.Sscanf(b.ID, "g%d", &n); err != nil {
		return 0
	}
	groups := l.Dealt().Groups
	if n < 1 || n > len(groups) {
		return 0
	}
	most := class.Level(0)
	for _, p := range groups[n-1] {
		if p.Level == 0 {
			return 0
		}
		most = max(most, p.Level)
	}
	return most
}

// A Swapped is an ingredient that some benches use in place of another.
type Swapped struct {
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
	for _, k := range l.Kinds() {
		for _, s := range k.Swaps {
			for at, in := range l.Recipe.Ingredients {
				if in.Name != s.For {
					continue
				}
				n := slices.IndexFunc(out, func(o Swapped) bool { return o.At == at && o.Line.Line() == k.Recipe.Ingredients[at].Line() })
				if n < 0 {
					n = len(out)
					out = append(out, Swapped{At: at, For: s.For, Line: k.Recipe.Ingredients[at]})
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
		r := l.Recipe
		for _, k := range l.Kinds() {
			if k.Recipe.Ingredients[s.At].Line() == s.Line.Line() && len(k.Swaps) > 0 {
				r = k.Recipe
				pieces = append(pieces, slices.Repeat([]int{k.Pieces}, len(k.Benches))...)
			}
		}
		s.Need = l.Kitchen().Class(r, pieces, nil)[s.At]
	}
	return out
}
