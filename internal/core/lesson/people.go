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
	Dish     string // id of the recipe
	For, Use string // as the recipe's swap says
}

// A WayTaken is another way in which a learner does a step; Dish and Step are
// empty for what holds the whole lesson.
type WayTaken struct {
	Learner int64
	Dish    string // id of the recipe
	Step    string
	Way     string // id in the school's table
}

// NameOf returns the name of a learner of the class; empty where there is none.
func (c Class) NameOf(id int64) string {
	for _, l := range c.Roster {
		if l.ID == id {
			return l.Name()
		}
	}
	return ""
}

// Present returns who of the roster is there.
func (l Lesson) Present() []class.Learner {
	return l.without(l.Class.Roster)
}

// Learners returns how many are there.
func (l Lesson) Learners() int {
	if len(l.Class.Roster) == 0 {
		return l.Class.Learners
	}
	return len(l.Present())
}

// byHand returns the teams that somebody has put together; who is there and in
// none of them joins the smallest. It is nil where nobody has.
func (l Lesson) byHand() [][]class.Learner {
	if len(l.Teams) == 0 || len(l.Class.Roster) == 0 {
		return nil
	}
	left := map[int64]class.Learner{}
	for _, p := range l.Class.Roster {
		left[p.ID] = p
	}
	var out [][]class.Learner
	for _, team := range l.Teams {
		var members []class.Learner
		for _, id := range team {
			if p, ok := left[id]; ok {
				members = append(members, p)
				delete(left, id)
			}
		}
		out = append(out, members)
	}
	there := func(team []class.Learner) int { return len(l.without(team)) }
	for _, p := range l.Present() {
		if _, ok := left[p.ID]; !ok {
			continue
		}
		smallest := -1
		for i := range out {
			if n := there(out[i]); n > 0 && (smallest < 0 || n < there(out[smallest])) {
				smallest = i
			}
		}
		if smallest < 0 {
			smallest = 0
		}
		out[smallest] = append(out[smallest], p)
	}
	return out
}

// without returns a team without those who are away.
func (l Lesson) without(team []class.Learner) []class.Learner {
	if len(l.Absent) == 0 {
		return team
	}
	return slices.DeleteFunc(slices.Clone(team), func(p class.Learner) bool { return slices.Contains(l.Absent, p.ID) })
}

// Dealt returns who works with whom, those who are away among them: as
// somebody has put it together, or dealt by the class's rules. It has no groups
// where nobody is named.
func (l Lesson) Dealt() class.Dealt {
	if teams := l.byHand(); teams != nil {
		return class.Dealt{Groups: teams}
	}
	sizes := scale.Groups(len(l.Class.Roster), l.GroupSize, l.Room.Benches)
	if sizes == nil {
		return class.Dealt{}
	}
	if l.dealt != nil && slices.EqualFunc(l.dealt.Groups, sizes, func(g []class.Learner, n int) bool { return len(g) == n }) {
		return *l.dealt
	}
	return class.Deal(l.Class.Roster, sizes, l.Class.Rules)
}

// Seated returns the lesson with its learners dealt once and for all: for a
// lesson of which much is asked.
func (l Lesson) Seated() Lesson {
	dealt := l.Dealt()
	l.dealt = &dealt
	return l
}

// DealtAnew returns teams of those who are there, dealt by the class's rules.
func (l Lesson) DealtAnew() [][]int64 {
	present := l.Present()
	var out [][]int64
	for _, g := range class.Deal(present, scale.Groups(len(present), l.GroupSize, l.Room.Benches), l.Class.Rules).Groups {
		var team []int64
		for _, p := range g {
			team = append(team, p.ID)
		}
		out = append(out, team)
	}
	return out
}

// A group is who works together, at one of the places at benches. Those who
// are away leave a gap: nobody else moves.
type group struct {
	place   int // from 0
	cooks   int
	members []class.Learner // nil where nobody is named
}

func (g group) id() string { return fmt.Sprintf("g%d", g.place+1) }

// groups returns the groups of which somebody is there.
func (l Lesson) groups() []group {
	var out []group
	if len(l.Class.Roster) == 0 {
		for i, n := range scale.Groups(l.Class.Learners, l.GroupSize, l.Room.Benches) {
			out = append(out, group{place: i, cooks: n})
		}
		return out
	}
	for i, team := range l.Dealt().Groups {
		if there := l.without(team); len(there) > 0 {
			out = append(out, group{i, len(there), there})
		}
	}
	return out
}

// seats counts the places at benches that groups have, those too of which nobody
// is there: who is away changes nobody's bench.
func (l Lesson) seats() int {
	if len(l.Class.Roster) == 0 {
		return len(l.groups())
	}
	return len(l.Dealt().Groups)
}

// taken returns the swaps and the other ways of those at a bench.
func (l Lesson) taken(members []class.Learner) (swaps []Swap, ways []WayTaken) {
	member := func(id int64) bool {
		return slices.ContainsFunc(members, func(p class.Learner) bool { return p.ID == id })
	}
	for _, s := range l.Swaps {
		// Of two swaps of one ingredient the first counts: a bench makes
		// one mixture.
		if member(s.Learner) && !slices.ContainsFunc(swaps, func(o Swap) bool { return o.For == s.For && o.Dish == s.Dish }) {
			swaps = append(swaps, s)
		}
	}
	for _, w := range l.OtherWays {
		if member(w.Learner) {
			ways = append(ways, w)
		}
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

func plainWays(list []WayTaken, c Course) string {
	var out []string
	for _, w := range list {
		if w.Step != "" && w.Dish == c.Recipe.ID {
			out = append(out, w.Step+":"+w.Way)
		}
	}
	slices.Sort(out)
	return strings.Join(out, "|")
}

// Take reads the line of a swap as an ingredient.
func (l Lesson) Take(line, part string) recipe.Ingredient {
	units := l.Units
	if units.Name == "" {
		units = measure.Metric
	}
	return recipe.TakeLine(line, part, units, l.Pantry).Ingredient
}

// swapped returns a recipe with the swaps of a bench.
func (l Lesson) swapped(r recipe.Recipe, swaps []Swap) recipe.Recipe {
	if l.Pantry == nil {
		return r
	}
	var list []recipe.Swap
	for _, s := range swaps {
		list = append(list, recipe.Swap{For: s.For, Use: s.Use})
	}
	return r.Swapped(l.Take, list...)
}

// OneBoard reports whether vegetables and raw meat share boards in a course:
// the room has fewer for raw meat than there are groups, and the recipe asks
// for none of its own.
func (l Lesson) OneBoard(c Course) bool {
	for _, e := range c.Recipe.Equipment {
		if low := strings.ToLower(e); strings.Contains(low, "board") && strings.Contains(low, "raw") {
			return false
		}
	}
	return l.Room.RawBoards < len(l.groups())
}

// adapted returns what a bench makes of a course, by the school's tables and
// in its own ways.
func (l Lesson) adapted(b Bench, c Course, r recipe.Recipe) recipe.Recipe {
	if l.Pantry == nil {
		return r
	}
	at := safety.Bench{Age: l.Class.Age, Level: l.level(b), Ways: map[string][]safety.Way{}, OneBoard: len(l.Safety.Who) > 0 && l.OneBoard(c)}
	for _, w := range b.Ways {
		if way, ok := l.Safety.Way(w.Way); ok && w.Step != "" && w.Dish == c.Recipe.ID {
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
	most := class.Level(0)
	for _, p := range b.Members {
		if p.Level == 0 {
			return 0
		}
		most = max(most, p.Level)
	}
	return most
}
