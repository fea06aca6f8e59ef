// Package lesson puts a dish, a class, a room and a period together: who
// works at which bench, what the planner is asked, what is measured out, and
// the verdicts that a teacher reads first.
package lesson

import (
	"cmp"
	"fmt"
	"slices"

	"freshapron/internal/core/class"
	"freshapron/internal/core/clock"
	"freshapron/internal/core/exact"
	"freshapron/internal/core/fit"
	"freshapron/internal/core/measure"
	"freshapron/internal/core/pantry"
	"freshapron/internal/core/problem"
	"freshapron/internal/core/recipe"
	"freshapron/internal/core/rescue"
	"freshapron/internal/core/safety"
	"freshapron/internal/core/scale"
	"freshapron/internal/core/words"
)

// A Room is what a class finds when it comes in.
type Room struct {
	Name        string
	Benches     int
	PerBench    int // groups that can work at one bench
	Learners    int // the most for whom the room is safe
	Adults      int // who are there to do and watch steps
	Equipment   []fit.Equipment
	Instruments measure.Instruments
	Ovens       map[string]measure.Oven // by the name of the unit
	RawBoards   int                     // boards that are only for raw meat and fish
	Sharps      int                     // sharp things that are counted out and in
	Outages     []string                // what does not work on the day, in words
}

// A Class is a teaching group.
type Class struct {
	Name     string
	Learners int             // how many, where nobody is named
	Pace     exact.Number    // 1 is as the recipe says
	Age      int             // years; 0 is not said
	Roster   []class.Learner // by name; may be empty
	Rules    []class.Rule    // by which groups are dealt
}

// A Lesson is one practical lesson as the teacher has set it up.
type Lesson struct {
	Date       string // yyyy-mm-dd
	Start, End clock.Time
	Phases     []fit.Phase
	Recipe     recipe.Recipe
	Pantry     *pantry.Pantry
	Tolerances pantry.Tolerances // of the school
	Class      Class
	Room       Room
	GroupSize  int             // 1 is everyone alone
	Each       int             // pieces for each learner
	Demo       int             // pieces that the teacher makes in the demonstration
	Spare      int             // sets of a bench kept for mishaps
	Changes    []rescue.Change // what the teacher has decided in the plan
	Absent     []int64         // learners of the class's roster
	Teams      [][]int64       // who works with whom, where somebody has changed it by hand
	Swaps      []Swap
	OtherWays  []WayTaken
	Safety     safety.Book // the school's tables
}

// Tables are what every lesson of a school is planned with.
type Tables struct {
	Pantry     *pantry.Pantry
	Tolerances pantry.Tolerances
	Safety     safety.Book
}

// UsualPhases are the whole-class blocks that a new lesson begins with. The
// minutes are typical; each lesson sets its own.
func UsualPhases() []fit.Phase {
	return []fit.Phase{
		{Name: "Hands, hair, aprons", Minutes: exact.Int(5), Place: fit.AtStart},
		{Name: "Demonstration", Minutes: exact.Int(8), Place: fit.AtStart},
		{Name: "Clear down", Minutes: exact.Int(7), Place: fit.AtEnd},
		{Name: "Taste and review", Minutes: exact.Int(5), Place: fit.AtEnd},
	}
}

// Kitchen returns what the lesson's amounts are measured with.
func (l Lesson) Kitchen() scale.Kitchen {
	return scale.Kitchen{Pantry: l.Pantry, Instruments: l.Room.Instruments, Tolerances: l.Tolerances}
}

// A Bench is one group at its place.
type Bench struct {
	ID, Name string
	Number   int // of the bench in the room
	Cooks    int
	Pieces   int
	Kind     int    // of Kinds: what it makes, and how
	Swaps    []Swap // of its learners
	Ways     []WayTaken
}

// maxes of what a form can ask for; far above any real lesson.
const (
	maxGroup = 8
	maxEach  = 100
	maxSpare = 10
)

// Check returns problem.List with the name of the form's field as path, or
// nil where the lesson can be planned.
func (l Lesson) Check() error {
	var problems problem.List
	add := func(path, format string, args ...any) {
		problems = append(problems, problem.Problem{Path: path, Says: fmt.Sprintf(format, args...)})
	}
	within := func(path, what string, n, least, most int) bool {
		if n < least || n > most {
			add(path, "%s: %d is not between %d and %d.", what, n, least, most)
			return false
		}
		return true
	}
	sized := within("group_size", "Learners in a group", l.GroupSize, 1, maxGroup)
	within("each", fmt.Sprintf("%s for each learner", words.Capital(l.Recipe.Pieces)), l.Each, 1, maxEach)
	within("demo", "Demonstration", l.Demo, 0, maxEach)
	within("spare", "Spare sets", l.Spare, 0, maxSpare)
	switch n := l.Learners(); {
	case n < 1 && len(l.Class.Roster) > 0:
		add("class", "Everybody of %s is away. Say who is there.", l.Class.Name)
	case n < 1:
		add("class", "%s has no learners. Choose another class, or add learners to this one.", l.Class.Name)
	case n > l.Room.Learners:
		add("class", "%d learners don't fit: the %s has %d benches and is safe for %d. Split the class or take another room.",
			n, l.Room.Name, l.Room.Benches, l.Room.Learners)
	case sized:
		if groups, places := len(l.sizes()), l.Room.Benches*l.Room.PerBench; groups > places {
			add("group_size", "%d groups need %d places to work, and the %s has %d (%d benches of %d). Make the groups larger.",
				groups, groups, l.Room.Name, places, l.Room.Benches, l.Room.PerBench)
		}
	}
	if len(problems) == 0 {
		if err, ok := l.unchanged().Check().(problem.List); ok {
			problems = err
		}
	}
	if problems == nil {
		return nil
	}
	return problems
}

// Benches returns the groups at their benches. Where there are more groups
// than benches, two share a bench.
func (l Lesson) Benches() []Bench {
	sizes := l.sizes()
	perBench := l.perBench()
	swaps, ways := l.taken()
	out := make([]Bench, len(sizes))
	kinds := map[string]int{}
	for i, n := range sizes {
		b := Bench{ID: fmt.Sprintf("g%d", i+1), Number: i/perBench + 1, Cooks: n, Pieces: n * l.Each}
		b.Name = fmt.Sprintf("Bench %d", b.Number)
		if perBench > 1 {
			b.Name += string(rune('a' + i%perBench))
		}
		if swaps != nil {
			b.Swaps, b.Ways = swaps[i], ways[i]
		}
		key := fmt.Sprint(b.Pieces, plainSwaps(b.Swaps), plainWays(b.Ways))
		if _, ok := kinds[key]; !ok {
			kinds[key] = len(kinds)
		}
		b.Kind = kinds[key]
		out[i] = b
	}
	return out
}

// perBench returns how many groups share a bench.
func (l Lesson) perBench() int {
	return max(1, (len(l.sizes())+l.Room.Benches-1)/l.Room.Benches)
}

// Fit returns the lesson as the planner takes it, with the changes that can
// be made to it.
func (l Lesson) Fit() fit.Lesson {
	f := l.unchanged()
	for _, c := range l.Changes {
		if changed, err := rescue.Apply(f, c); err == nil && changed.Check() == nil {
			f = changed
		}
	}
	return f
}

// unchanged is the lesson as the recipe, the class and the room make it.
// Groups that share a bench share its rings.
func (l Lesson) unchanged() fit.Lesson {
	f := fit.Lesson{
		Title: l.Recipe.Title + " with " + l.Class.Name, Date: l.Date, Start: l.Start, End: l.End,
		Phases: l.Phases, Adults: l.Room.Adults,
	}
	share := l.perBench()
	for _, e := range l.Room.Equipment {
		if e.PerStation {
			e.Units = e.Units[:max(1, len(e.Units)/share)]
		}
		f.Equipment = append(f.Equipment, e)
	}
	dishes := map[int]string{}
	for _, b := range l.Benches() {
		id, ok := dishes[b.Kind]
		if !ok {
			dish := l.adapted(b, l.swapped(b.Swaps)).Dish(b.Pieces)
			if len(dishes) > 0 { // these make more or fewer, or in another way
				dish.ID = fmt.Sprintf("%s-%d", dish.ID, b.Pieces)
				if slices.ContainsFunc(f.Dishes, func(d fit.Dish) bool { return d.ID == dish.ID }) {
					dish.ID = fmt.Sprintf("%s-%s", dish.ID, b.ID)
				}
			}
			id = dish.ID
			dishes[b.Kind] = id
			f.Dishes = append(f.Dishes, dish)
		}
		f.Groups = append(f.Groups, fit.Group{
			ID: b.ID, Name: b.Name, Cooks: b.Cooks, Pace: l.Class.Pace, Dishes: []string{id},
		})
	}
	return f
}

// A KindOfBench is what benches that make the same, in the same way, measure
// out.
type KindOfBench struct {
	Pieces  int
	Swaps   []Swap
	Recipe  recipe.Recipe // with the swaps
	Benches []Bench
}

// Kinds returns the kinds of benches, the most frequent first; those that
// swap something come after.
func (l Lesson) Kinds() []KindOfBench {
	var out []KindOfBench
	for _, b := range l.Benches() {
		k := slices.IndexFunc(out, func(k KindOfBench) bool {
			return k.Pieces == b.Pieces && plainSwaps(k.Swaps) == plainSwaps(b.Swaps)
		})
		if k < 0 {
			k = len(out)
			out = append(out, KindOfBench{Pieces: b.Pieces, Swaps: b.Swaps, Recipe: l.swapped(b.Swaps)})
		}
		out[k].Benches = append(out[k].Benches, b)
	}
	slices.SortStableFunc(out, func(a, b KindOfBench) int {
		return cmp.Or(cmp.Compare(min(1, len(a.Swaps)), min(1, len(b.Swaps))), len(b.Benches)-len(a.Benches))
	})
	return out
}

// Needs returns what the class uses of each line of the recipe, with the
// demonstration and the spares; a spare is a set for the most frequent size of
// bench. Benches that swap a line use none of it; see Swapped.
func (l Lesson) Needs() []scale.Need {
	kinds := l.Kinds()
	var extra []int
	if l.Demo > 0 {
		extra = append(extra, l.Demo)
	}
	extra = append(extra, slices.Repeat([]int{kinds[0].Pieces}, l.Spare)...)
	without := func(swapped string) (benches []int) {
		for _, k := range kinds {
			if swapped == "" || !slices.ContainsFunc(k.Swaps, func(s Swap) bool { return s.For == swapped }) {
				benches = append(benches, slices.Repeat([]int{k.Pieces}, len(k.Benches))...)
			}
		}
		return benches
	}
	out := l.Kitchen().Class(l.Recipe, without(""), extra)
	for i, in := range l.Recipe.Ingredients {
		if benches := without(in.Name); len(benches) < len(l.sizes()) {
			out[i] = l.Kitchen().Class(l.Recipe, benches, extra)[i]
		}
	}
	return out
}

// Grouping says how the learners work: "24 learners in 12 pairs at 12
// benches".
func (l Lesson) Grouping() string {
	sizes := l.sizes()
	least, most := slices.Min(sizes), slices.Max(sizes)
	s := words.Plural(l.Learners(), "learner", "learners")
	switch {
	case most == 1 && len(sizes) == 1:
		return s + " alone"
	case most == 1:
		return s + ", each alone"
	case least == most:
		return fmt.Sprintf("%s in %s", s, words.Plural(len(sizes), groupWord(most, 1), groupWord(most, 2)))
	default:
		more := 0
		for _, n := range sizes {
			if n == most {
				more++
			}
		}
		rest := len(sizes) - more
		return fmt.Sprintf("%s in %s and %s", s,
			words.Plural(rest, groupWord(least, 1), groupWord(least, 2)), words.Plural(more, groupWord(most, 1), groupWord(most, 2)))
	}
}

func groupWord(size, count int) string {
	word := map[int]string{1: "learner alone", 2: "pair", 3: "three", 4: "four", 5: "five"}[size]
	switch {
	case word == "":
		word = fmt.Sprintf("group of %d", size)
		if count > 1 {
			word = fmt.Sprintf("groups of %d", size)
		}
	case count > 1 && size == 1:
		word = "learners alone"
	case count > 1:
		word += "s"
	}
	return word
}
