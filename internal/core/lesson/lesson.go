// Package lesson puts a dish, a class, a room and a period together: who
// works at which bench, what the planner is asked, what is measured out, and
// the verdicts that a teacher reads first.
package lesson

import (
	"fmt"
	"slices"
	"strconv"

	"freshapron/internal/core/class"
	"freshapron/internal/core/clock"
	"freshapron/internal/core/exact"
	"freshapron/internal/core/fit"
	"freshapron/internal/core/measure"
	"freshapron/internal/core/pantry"
	"freshapron/internal/core/problem"
	"freshapron/internal/core/recipe"
	"freshapron/internal/core/rescue"
	"freshapron/internal/core/room"
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
	Ovens       map[string]measure.Oven // by the id of the unit
	RawBoards   int                     // boards that are only for raw meat and fish
	Sharps      int                     // sharp things that are counted out and in
	Out         []fit.Unit              // what does not work on the day; it is not in Equipment
	Outages     []string                // the same in words: "Oven 4: door does not close"
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

// A Lesson is one practical lesson as the teacher has set it up. Where its
// changes name units of the room, they name ids.
type Lesson struct {
	Date       string // yyyy-mm-dd
	Start, End clock.Time
	Phases     []fit.Phase
	Menu       []Course
	Others     []recipe.Recipe // dishes of the shelf that could be made in place of one of the menu
	Pantry     *pantry.Pantry
	Tolerances pantry.Tolerances // of the school
	Class      Class
	Room       Room
	Units      measure.System  // what the school means by a cup or a spoon; the zero value is metric
	Volume     bool            // spoons and cups come before weights
	GroupSize  int             // 1 is everyone alone
	Spare      int             // sets of a bench kept for mishaps
	Changes    []rescue.Change // what the teacher has decided in the plan
	Absent     []int64         // learners of the class's roster
	Teams      [][]int64       // who works with whom, where somebody has changed it by hand
	Swaps      []Swap
	OtherWays  []WayTaken
	Safety     safety.Book // the school's tables

	dealt *class.Dealt // of the whole roster; see Seated
}

// Tables are what every lesson of a school is planned with.
type Tables struct {
	Pantry     *pantry.Pantry
	Tolerances pantry.Tolerances
	Units      measure.System // the zero value is metric
	Volume     bool           // spoons and cups come before weights
	Safety     safety.Book
}

// With returns a lesson with the tables of its school.
func (t Tables) With(l Lesson) Lesson {
	l.Pantry, l.Tolerances, l.Units, l.Volume, l.Safety = t.Pantry, t.Tolerances, t.Units, t.Volume, t.Safety
	return l
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
	return scale.Kitchen{Pantry: l.Pantry, Instruments: l.Room.Instruments, Tolerances: l.Tolerances, Volume: l.Volume}
}

// A Bench is one group at its place. The id stays while people are away.
type Bench struct {
	ID      string // "g3"
	Name    string // "Bench 3", "Bench 3a" where two groups share it
	Label   string // of the name, what tells it from other benches: "3a"
	Number  int    // of the bench in the room
	Cooks   int
	Members []class.Learner // who is there; nil where nobody is named
	Makes   []Made          // in the order of the menu
	Swaps   []Swap          // of its learners
	Ways    []WayTaken
}

// made returns what the bench makes of a course.
func (b Bench) made(course int) (Made, bool) {
	i := slices.IndexFunc(b.Makes, func(m Made) bool { return m.Course == course })
	if i < 0 {
		return Made{}, false
	}
	return b.Makes[i], true
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
	within("spare", "Spare sets", l.Spare, 0, maxSpare)
	if len(l.Menu) == 0 {
		add("menu", "Choose a dish.")
	}
	for i, c := range l.Menu {
		at := fmt.Sprintf("menu[%d].", i)
		within(at+"each", fmt.Sprintf("%s for each learner", words.Capital(c.Recipe.Pieces)), c.Each, 1, maxEach)
		within(at+"demo", "Demonstration", c.Demo, 0, maxEach)
		if l.CourseOf(c.Recipe.ID) < i {
			add(at+"dish", "%s is on the menu twice.", c.Recipe.Title)
		}
	}
	switch n := l.Learners(); {
	case n < 1 && len(l.Class.Roster) > 0:
		add("class", "Everybody of %s is away. Say who is there.", l.Class.Name)
	case n < 1:
		add("class", "%s has no learners. Choose another class, or add learners to this one.", l.Class.Name)
	case n > l.Room.Learners:
		add("class", "%d learners don't fit: the %s has %s and is safe for %d. Split the class or take another room.",
			n, l.Room.Name, words.Plural(l.Room.Benches, "bench", "benches"), l.Room.Learners)
	case sized:
		if groups, places := l.seats(), l.Room.Benches*l.Room.PerBench; groups > places {
			add("group_size", "%d groups need %d places to work, and the %s has %d (%s of %d). Make the groups larger.",
				groups, groups, l.Room.Name, places, words.Plural(l.Room.Benches, "bench", "benches"), l.Room.PerBench)
		}
	}
	if len(problems) == 0 {
		problems = l.unmade()
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

// unmade says which courses nobody makes, and which benches make nothing.
func (l Lesson) unmade() (problems problem.List) {
	made := make([]bool, len(l.Menu))
	var idle []string
	for _, b := range l.Benches() {
		if len(b.Makes) == 0 {
			idle = append(idle, b.Name)
		}
		for _, m := range b.Makes {
			made[m.Course] = true
		}
	}
	for i, c := range l.Menu {
		if !made[i] {
			problems = append(problems, problem.Problem{Path: fmt.Sprintf("menu[%d].who", i), Says: fmt.Sprintf("Nobody who is there makes %s. Say who does, or take it off the menu.", c.Recipe.Title)})
		}
	}
	if half, _ := l.Half(); idle != nil && half != 2 { // in a second half some may have finished
		verb := "make"
		if len(idle) == 1 {
			verb = "makes"
		}
		problems = append(problems, problem.Problem{Path: "menu", Says: fmt.Sprintf("%s %s nothing. Give each bench a dish.", words.Names(idle), verb)})
	}
	return problems
}

// Benches returns the groups at their benches. Where there are more groups
// than benches, two share a bench.
func (l Lesson) Benches() []Bench {
	perBench := l.perBench()
	groups := l.groups()
	out := make([]Bench, len(groups))
	for i, g := range groups {
		b := Bench{ID: g.id(), Number: g.place/perBench + 1, Cooks: g.cooks, Members: g.members}
		b.Label = strconv.Itoa(b.Number)
		if perBench > 1 {
			b.Label += string(rune('a' + g.place%perBench))
		}
		b.Name = "Bench " + b.Label
		for n, c := range l.Menu {
			if cooks := c.cooks(g); cooks > 0 {
				b.Makes = append(b.Makes, Made{n, cooks, cooks * c.Each})
			}
		}
		b.Swaps, b.Ways = l.taken(g.members)
		out[i] = b
	}
	return out
}

// perBench returns how many groups share a bench.
func (l Lesson) perBench() int {
	return max(1, (l.seats()+l.Room.Benches-1)/max(1, l.Room.Benches))
}

// Fit returns the lesson as the planner takes it, with the changes that can
// be made to it.
func (l Lesson) Fit() fit.Lesson {
	f := l.unchanged()
	for _, c := range l.Changes {
		if changed, err := rescue.Apply(f, l.Room.named(c)); err == nil && changed.Check() == nil {
			f = changed
		}
	}
	return f
}

// unchanged is the lesson as the recipes, the class and the room make it.
// Groups that share a bench share its rings.
func (l Lesson) unchanged() fit.Lesson {
	f := fit.Lesson{
		Title: l.Titles() + " with " + l.Class.Name, Date: l.Date, Start: l.Start, End: l.End,
		Phases: l.Phases, Adults: l.Room.Adults,
	}
	share := l.perBench()
	for _, e := range l.Room.Equipment {
		if e.PerStation {
			e.Units = e.Units[:min(len(e.Units), max(1, len(e.Units)/share))]
		}
		f.Equipment = append(f.Equipment, e)
	}
	dishes := map[string]string{} // what makes a difference to the plan, to the dish
	for _, b := range l.Benches() {
		if b.Makes == nil {
			continue
		}
		g := fit.Group{ID: b.ID, Name: b.Name, Cooks: b.Cooks, Pace: l.Class.Pace}
		for _, m := range b.Makes {
			c := l.Menu[m.Course]
			swaps := of(b.Swaps, c)
			key := fmt.Sprint(m.Course, m.Pieces, l.level(b), plainSwaps(swaps), plainWays(b.Ways, c))
			if _, ok := dishes[key]; !ok {
				dish := l.adapted(b, c, l.swapped(c.Recipe, swaps)).Dish(m.Pieces)
				dish.Of = dish.ID
				taken := func(id string) bool {
					return slices.ContainsFunc(f.Dishes, func(d fit.Dish) bool { return d.ID == id })
				}
				for _, id := range []string{dish.ID, fmt.Sprintf("%s-%d", dish.Of, m.Pieces), fmt.Sprintf("%s-%d-%s", dish.Of, m.Pieces, b.ID)} {
					if dish.ID = id; !taken(id) {
						break
					}
				}
				dishes[key] = dish.ID
				f.Dishes = append(f.Dishes, dish)
			}
			g.Dishes = append(g.Dishes, dishes[key])
		}
		f.Groups = append(f.Groups, g)
	}
	tellApart(f.Dishes)
	return f
}

// tellApart adds the dish to titles of steps that several dishes of a menu
// have.
func tellApart(dishes []fit.Dish) {
	of := map[string]map[string]bool{}
	for _, d := range dishes {
		for _, s := range d.Steps {
			if of[s.Title] == nil {
				of[s.Title] = map[string]bool{}
			}
			of[s.Title][d.Of] = true
		}
	}
	for _, d := range dishes {
		for i := range d.Steps {
			if s := &d.Steps[i]; len(of[s.Title]) > 1 {
				s.Title += " (" + d.Title + ")"
			}
		}
	}
}

// NewOven returns ovens before anybody has said which there are: hot after 12
// minutes and at another temperature after 5, which is typical of electric
// ovens that are empty.
func NewOven() fit.Equipment {
	return fit.Equipment{ID: "oven", Temperature: true, Preheat: exact.Int(12), Reheat: exact.Int(5)}
}

// OvensOf lists the ovens of the room, those that are out of order too.
func (r Room) OvensOf() []room.Named {
	var out []room.Named
	for _, e := range r.Equipment {
		if e.Temperature {
			for _, u := range e.Units {
				out = append(out, room.Named{ID: u.ID, Name: u.Name})
			}
		}
	}
	for _, u := range r.Out {
		if _, oven := r.Ovens[u.ID]; oven {
			out = append(out, room.Named{ID: u.ID, Name: u.Name})
		}
	}
	return out
}

// UnitName returns the name that a unit of the room has now; its id where it is
// not there any more.
func (r Room) UnitName(id string) string { return r.named(rescue.Change{Unit: id}).Unit }

// named returns a change whose unit is named as the planner knows it.
func (r Room) named(c rescue.Change) rescue.Change {
	for _, u := range r.units() {
		if u.ID == c.Unit {
			c.Unit = u.Name
			break
		}
	}
	return c
}

// identified returns a change whose unit is named by its id.
func (r Room) identified(c rescue.Change) rescue.Change {
	for _, u := range r.units() {
		if u.Name == c.Unit {
			c.Unit = u.ID
			break
		}
	}
	return c
}

// units lists all units of the room, those that are out of order too.
func (r Room) units() []fit.Unit {
	out := slices.Clone(r.Out)
	for _, e := range r.Equipment {
		out = append(out, e.Units...)
	}
	return out
}

// Grouping says how the learners work: "24 learners in 12 pairs at 12
// benches".
func (l Lesson) Grouping() string {
	var sizes []int
	for _, g := range l.groups() {
		sizes = append(sizes, g.cooks)
	}
	slices.Sort(sizes)
	s := words.Plural(l.Learners(), "learner", "learners")
	switch {
	case len(sizes) == 0:
		return s
	case sizes[len(sizes)-1] > 1:
		var each []string
		for len(sizes) > 0 {
			n := sizes[0]
			larger, _ := slices.BinarySearch(sizes, n+1)
			each, sizes = append(each, words.Plural(larger, groupWord(n, 1), groupWord(n, 2))), sizes[larger:]
		}
		return s + " in " + words.Names(each)
	case len(sizes) == 1:
		return s + " alone"
	}
	return s + ", each alone"
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
