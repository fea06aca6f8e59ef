package lesson

import (
	"fmt"
	"slices"
	"strings"

	"freshapron/internal/core/exact"
	"freshapron/internal/core/fit"
	"freshapron/internal/core/problem"
	"freshapron/internal/core/recipe"
	"freshapron/internal/core/rescue"
	"freshapron/internal/core/words"
)

// A Decision is a change in words.
type Decision struct {
	rescue.Change
	Says   string
	Broken string // why it no longer counts; empty where it does
}

// Decisions returns the changes in the order in which they were made.
func (l Lesson) Decisions() []Decision {
	if len(l.Changes) == 0 {
		return nil
	}
	f := l.unchanged()
	out := make([]Decision, len(l.Changes))
	for i, c := range l.Changes {
		named := l.Room.named(c)
		out[i] = Decision{Change: c, Says: named.Says(f)}
		changed, err := rescue.Apply(f, named)
		if err == nil {
			err = changed.Check()
		}
		if err != nil {
			out[i].Broken = plainly(err)
			continue
		}
		f = changed
	}
	return out
}

// plainly leaves out the path of a problem, which means nothing on a screen.
func plainly(err error) string {
	problems := problem.Of(err)
	if problems == nil {
		return err.Error()
	}
	var says []string
	for _, p := range problems {
		says = append(says, p.Says)
	}
	return strings.Join(says, "; ")
}

// With returns the lesson with a change, which may name units by name or id.
// How many work together and how many pieces each makes are the lesson's own;
// everything else is kept as a change to its plan, in place of an earlier one
// about the same thing. The error says why the lesson does not allow it.
func (l Lesson) With(changes ...rescue.Change) (Lesson, error) {
	for _, c := range changes {
		switch c.Kind {
		case rescue.Hands:
			l.GroupSize = c.Number
		case rescue.Halves:
			if !l.bothForAll() {
				return l, fmt.Errorf("there are not two dishes that every bench makes")
			}
			l.Menu = slices.Clone(l.Menu)
			for i, b := range l.Benches() {
				by := &l.Menu[i%2].By
				by.Groups = append(slices.Clone(by.Groups), b.ID)
			}
		case rescue.Instead:
			at, other := l.CourseOf(c.Dish), slices.IndexFunc(l.Others, func(r recipe.Recipe) bool { return r.ID == c.Other })
			if half, _ := l.Half(); half > 0 {
				return l, fmt.Errorf("a dish that is made over two lessons stays the same in both")
			}
			if at < 0 || other < 0 || l.CourseOf(c.Other) >= 0 {
				return l, fmt.Errorf("that dish can’t come in place of this one any more")
			}
			r := l.Others[other]
			l.Menu = slices.Clone(l.Menu)
			l.Menu[at] = Course{Recipe: r, Each: r.Each, Demo: r.Yield, By: l.Menu[at].By}
			l.Changes = slices.DeleteFunc(slices.Clone(l.Changes), func(o rescue.Change) bool { return o.Dish == c.Dish })
		case rescue.Fewer:
			at := max(0, l.CourseOf(c.Dish))
			l.Menu = slices.Clone(l.Menu)
			l.Menu[at].Each = c.Number
		default:
			before := l.Fit()
			c.Dish = before.Of(c.Dish) // all that make it, however many pieces
			changed, err := rescue.Apply(before, l.Room.named(c))
			if err != nil {
				return l, err
			}
			if err := changed.Check(); err != nil {
				return l, fmt.Errorf("%s", plainly(err))
			}
			c = l.Room.identified(c)
			if at := l.CourseOf(c.Dish); c.Kind == rescue.TwoLessons && c.Number == 2 && at >= 0 {
				l.Menu = []Course{l.Menu[at]} // the others are finished in the first
			}
			kept := slices.DeleteFunc(slices.Clone(l.Changes), func(o rescue.Change) bool { return replaces(c, o) })
			l.Changes = append(kept, c)
		}
	}
	return l, l.Check()
}

// replaces reports whether a change is another word on the same thing as one
// before it.
func replaces(c, o rescue.Change) bool {
	moment := []rescue.Kind{rescue.NotBefore, rescue.BeginBy, rescue.PinAt}
	same := c.Kind == o.Kind || slices.Contains(moment, c.Kind) && slices.Contains(moment, o.Kind)
	switch c.Kind {
	case rescue.AdultOut, rescue.OneMore, rescue.OneAdult, rescue.FewerLoads:
		return false
	}
	return same && c.Group == o.Group && c.Dish == o.Dish && c.Step == o.Step && c.Equipment == o.Equipment && c.Unit == o.Unit ||
		c.Kind == rescue.InUnit && o.Kind == c.Kind && c.Group == o.Group && c.Step == o.Step
}

// most learners who work together where that is offered to gain time.
const mostHands = 5

// Ways returns what can be tried to gain time: what the plan allows, larger
// groups, and fewer pieces for each learner.
func (l Lesson) Ways(f fit.Lesson, p *fit.Plan) []rescue.Way {
	var out []rescue.Way
	for _, w := range rescue.Ways(f, p) {
		switch w.Changes[0].Kind {
		case rescue.Hands: // the lesson has its own, with the pieces for each learner
		case rescue.Halves:
			if l.bothForAll() {
				out = append(out, w)
			}
		case rescue.FewerLoads:
			if at := l.CourseOf(f.Of(w.Changes[0].Dish)); at >= 0 && l.Menu[at].Each == 1 {
				out = append(out, w)
			}
		default:
			out = append(out, w)
		}
	}
	for _, o := range l.Others {
		if at := slices.IndexFunc(l.Menu, func(c Course) bool { return len(SharedSkills(c.Recipe, o)) > 0 }); at >= 0 {
			c := l.Menu[at].Recipe
			out = append(out, rescue.Way{
				Changes: []rescue.Change{{Kind: rescue.Instead, Dish: c.ID, Other: o.ID}},
				Title:   fmt.Sprintf("Make %s in place of %s", words.Small(o.Title), words.Small(c.Title)),
				Costs:   []string{"it practises " + words.Names(SharedSkills(c, o)) + " too", "other things to order, and another dish to make safe"},
			})
		}
	}
	more := l
	for groups := len(l.groups()); more.GroupSize < min(mostHands, l.GroupSize+2); {
		if more.GroupSize++; more.Check() != nil || len(more.groups()) >= groups {
			continue
		}
		groups = len(more.groups())
		out = append(out, rescue.Way{
			Changes: []rescue.Change{{Kind: rescue.Hands, Number: more.GroupSize}},
			Title:   fmt.Sprintf("Work in %s, with a part for each", groupWord(more.GroupSize, 2)),
			Costs:   []string{"nobody does every step", fmt.Sprintf("%d groups in place of %d", groups, len(l.groups()))},
		})
	}
	for _, c := range l.Menu {
		if c.Each > 1 {
			out = append(out, rescue.Way{
				Changes: []rescue.Change{{Kind: rescue.Fewer, Dish: c.Recipe.ID, Number: c.Each - 1}},
				Title:   fmt.Sprintf("Make %s each in place of %d", c.Recipe.Count(c.Each-1), c.Each),
				Costs:   []string{"less for each to take home"},
			})
		}
	}
	return out
}

// SharedSkills are what two dishes both practise.
func SharedSkills(a, b recipe.Recipe) []string {
	var out []string
	for _, s := range a.Skills {
		if slices.ContainsFunc(b.Skills, func(o string) bool { return strings.EqualFold(s, o) }) {
			out = append(out, s)
		}
	}
	return out
}

// bothForAll reports whether the menu is two dishes that everybody makes, at two
// benches or more.
func (l Lesson) bothForAll() bool {
	return len(l.Menu) == 2 && l.Menu[0].By.Everybody() && l.Menu[1].By.Everybody() && len(l.groups()) > 1
}

// Try plans the ways to gain time, which are the lesson's own; see rescue.Try. Another
// dish comes last, since whoever looks has chosen this one.
func (l Lesson) Try(t rescue.Trial) rescue.Outcome {
	t.Ways = l.Ways(t.Lesson, t.Plan)
	t.Build = func(changes ...rescue.Change) (fit.Lesson, error) {
		changed, err := l.With(changes...)
		if err != nil {
			return fit.Lesson{}, err
		}
		return changed.Fit(), nil
	}
	out := rescue.Try(t)
	other := func(r rescue.Rescue) int {
		return slices.IndexFunc(r.Changes, func(c rescue.Change) bool { return c.Kind == rescue.Instead })
	}
	slices.SortStableFunc(out.Rescues, func(a, b rescue.Rescue) int { return min(other(a), 0) - min(other(b), 0) })
	return out
}

// Half returns which of two lessons this is, 1 or 2, and after which step the
// dish is kept; 0 where it is whole.
func (l Lesson) Half() (half int, hold *fit.Hold) {
	_, step, change := l.stopsAfter()
	if change == nil {
		return 0, nil
	}
	return change.Number, step.Hold
}

// own reports which lines of a course are used in this lesson: not those of a part
// that is bought ready-made, and where the dish is made in two only those of this
// half.
func (l Lesson) own(course int) func(line int) bool {
	half, bought := l.ownHalf(course), l.bought(course)
	return func(line int) bool { return half(line) && !bought(line) }
}

// bought reports which lines of a course go into a part that is bought ready-made.
func (l Lesson) bought(course int) func(line int) bool {
	r := l.Menu[course].Recipe
	var taken []int
	var parts []func(id string) bool
	for _, c := range l.Changes {
		if c.Kind == rescue.ReadyMade && c.Dish == r.ID {
			if taken == nil {
				taken = r.TakenBy(l.Pantry)
			}
			parts = append(parts, rescue.PartOf(r.Dish(1), c.Step))
		}
	}
	return func(line int) bool {
		if line >= len(taken) || taken[line] < 0 {
			return false
		}
		return slices.ContainsFunc(parts, func(in func(string) bool) bool { return in(r.Steps[taken[line]].ID) })
	}
}

// ownHalf reports which lines of a course are used in this half: all, unless the dish
// is made in two. Then the first takes what goes in up to the step after which it
// is kept, and what nobody can tell; the second takes the rest of it, and nothing
// of the other courses, which are finished in the first.
func (l Lesson) ownHalf(course int) func(line int) bool {
	_, _, split := l.stopsAfter()
	if split == nil {
		return func(int) bool { return true }
	}
	half, r := split.Number, l.Menu[course].Recipe
	if split.Dish != "" && split.Dish != r.ID || !slices.ContainsFunc(r.Steps, func(s recipe.Step) bool { return s.ID == split.Step }) {
		return func(int) bool { return half == 1 }
	}
	first, taken := rescue.Earlier(r.Dish(1), split.Step), r.TakenBy(l.Pantry)
	return func(line int) bool {
		if line >= len(taken) {
			return half == 2 // what learners have chosen, on top of what all have
		}
		step := taken[line]
		return (step < 0 || first(r.Steps[step].ID)) == (half == 1)
	}
}

// part returns a recipe with those of its lines that are used in this lesson.
func (l Lesson) part(course int, r recipe.Recipe) recipe.Recipe {
	own := l.own(course)
	all := r.Ingredients
	r.Ingredients = nil
	for i, in := range all {
		if own(i) {
			r.Ingredients = append(r.Ingredients, in)
		}
	}
	return r
}

// Keeps judges whether a dish may be kept from the end of one lesson to the
// beginning of the next, so many minutes later.
func Keeps(h fit.Hold, between int64) (bool, string) {
	most := h.MaxMinutes
	if exact.Int(between).Cmp(most) <= 0 {
		return true, fmt.Sprintf("%s in the %s; %s is the most.", rescue.Hours(exact.Int(between)), h.Where, rescue.Hours(most))
	}
	return false, fmt.Sprintf("%s in the %s is too long: %s is the most. Choose an earlier second lesson, or another step to stop at.",
		rescue.Hours(exact.Int(between)), h.Where, rescue.Hours(most))
}

// Apart says in what the two lessons of a dish do not go together any more,
// since one was changed without the other; nothing where they do.
func Apart(first, second Lesson) []string {
	c, step, stops := first.stopsAfter()
	d, after, goesOn := second.stopsAfter()
	switch {
	case stops == nil:
		return []string{"the first lesson makes the whole dish now"}
	case goesOn == nil:
		return []string{"the second lesson makes the whole dish now"}
	case c.Recipe.ID != d.Recipe.ID:
		return []string{fmt.Sprintf("the first lesson begins %s, the second goes on with %s", c.Recipe.Title, d.Recipe.Title)}
	}
	var out []string
	if step.ID != after.ID {
		out = append(out, fmt.Sprintf("the first lesson stops after “%s”, the second goes on after “%s”", step.Title, after.Title))
	}
	if first.Class.Name != second.Class.Name {
		out = append(out, fmt.Sprintf("%s begins it, %s goes on", first.Class.Name, second.Class.Name))
	}
	if a, b := len(first.groups()), len(second.groups()); a != b {
		out = append(out, fmt.Sprintf("%s it, %d go on", words.Plural(a, "group begins", "groups begin"), b))
	}
	if c.Each != d.Each {
		out = append(out, fmt.Sprintf("%s each are begun, %d finished", c.Recipe.Count(c.Each), d.Each))
	}
	return out
}

// stopsAfter returns the course that is made in two lessons, the step between
// them, and the change that says so; nil where none does.
func (l Lesson) stopsAfter() (Course, recipe.Step, *rescue.Change) {
	for i, c := range l.Changes {
		for _, course := range l.Menu {
			if c.Kind != rescue.TwoLessons || c.Dish != "" && c.Dish != course.Recipe.ID {
				continue
			}
			if at := slices.IndexFunc(course.Recipe.Steps, func(s recipe.Step) bool { return s.ID == c.Step && s.Hold != nil }); at >= 0 {
				return course, course.Recipe.Steps[at], &l.Changes[i]
			}
		}
	}
	return Course{}, recipe.Step{}, nil
}
