// Package care is what looks after the learners of a lesson: who can eat
// what, other ways to do it, the safety sheet, temperatures, and the school's
// tables behind them.
package care

import (
	"cmp"
	"context"
	"slices"
	"strconv"
	"strings"
	"unicode/utf8"

	"freshapron/internal/app/lessons"
	"freshapron/internal/app/school"
	"freshapron/internal/core/class"
	"freshapron/internal/core/lesson"
	"freshapron/internal/core/pantry"
	"freshapron/internal/core/recipe"
	"freshapron/internal/core/safety"
	"freshapron/internal/core/typed"
	"freshapron/internal/core/words"
	"freshapron/internal/store"
)

// A Care is a lesson with its class, as the staff of the class see it.
type Care struct {
	*lessons.View
	Who school.Class
}

// For returns a lesson with what its learners need, and notes that
// whoever acts has seen it. It returns school.ErrNotYours where they do not
// belong to the class.
func For(ctx context.Context, id int64) (*Care, error) {
	v, err := lessons.One(ctx, id)
	if err != nil {
		return nil, err
	}
	c, err := school.Own(ctx, v.Class.ID)
	if err != nil {
		return nil, err
	}
	c, err = c.Needs(ctx, school.In(ctx).School, store.Note{Lesson: id, Says: "the needs of " + c.Class.Name + " for " + v.Core.Titles()})
	return &Care{v, c}, err
}

// present returns who is there, with what they need.
func (c *Care) present() []class.Learner {
	return slices.DeleteFunc(slices.Clone(c.Who.Roster), func(l class.Learner) bool { return slices.Contains(c.Absent, l.ID) })
}

// An Eater is a learner with needs about food, and how what they make suits
// them.
type Eater struct {
	class.Learner
	Bench  string
	Dishes []Eaten
}

// Never reports whether something that they make is not for them.
func (e Eater) Never() bool {
	return slices.ContainsFunc(e.Dishes, func(d Eaten) bool { return safety.Worst(d.Left) == pantry.Never })
}

// An Eaten is how a dish suits somebody who makes it.
type Eaten struct {
	recipe.Recipe                  // as it is written
	Written       []safety.Against // of the dish as it is written
	Swaps         []SwapVerdict    // each of the recipe's swaps alone
	Best          safety.WayToEat
	Chosen        []lesson.Swap    // for them
	Left          []safety.Against // with what their bench makes
	Apart         bool
}

// A SwapVerdict is a swap of the recipe, and how the dish suits somebody with
// this swap alone.
type SwapVerdict struct {
	recipe.Swap
	Verdict pantry.Verdict
	Helps   bool // something less stands against it
}

// Eaters judges what they make for everybody who is there and has needs about
// food.
func (c *Care) Eaters() []Eater {
	var out []Eater
	for _, l := range c.present() {
		if !slices.ContainsFunc(l.Needs, func(n class.Need) bool { return n.Kind != class.Access }) {
			continue
		}
		e := Eater{Learner: l}
		bench, seated := c.bench(l.ID)
		e.Bench = bench.Name
		for n, course := range c.Core.Menu {
			made := course.Recipe
			if seated {
				size, makes := c.sizeAt(bench, n)
				if !makes {
					continue
				}
				made = size.Recipe
			}
			e.Dishes = append(e.Dishes, c.eaten(l, course.Recipe, made))
		}
		out = append(out, e)
	}
	return out
}

// eaten judges a dish as it is written and as a bench makes it.
func (c *Care) eaten(l class.Learner, r, made recipe.Recipe) Eaten {
	p := c.Larder.Pantry
	e := Eaten{Recipe: r, Written: safety.Eats(r, p, l.Needs), Apart: safety.Apart(r, p, l.Needs)}
	for _, s := range r.Swaps {
		left := safety.Eats(r.Swapped(c.Core.Take, s), p, l.Needs)
		e.Swaps = append(e.Swaps, SwapVerdict{s, safety.Worst(left), len(left) < len(e.Written)})
	}
	e.Best = safety.CanEat(r, p, l.Needs, c.Core.Take)
	for _, s := range c.Swaps {
		if s.Learner == l.ID && s.Dish == r.ID {
			e.Chosen = append(e.Chosen, s)
		}
	}
	e.Left = safety.Eats(made, p, l.Needs)
	return e
}

// bench returns the bench of a learner, and whether there is one.
func (c *Care) bench(id int64) (lesson.Bench, bool) {
	i := slices.IndexFunc(c.Benches, func(b lesson.Bench) bool {
		return slices.ContainsFunc(b.Members, func(l class.Learner) bool { return l.ID == id })
	})
	if i < 0 {
		return lesson.Bench{}, false
	}
	return c.Benches[i], true
}

// sizeAt returns what a bench makes of a course, and whether it makes it.
func (c *Care) sizeAt(b lesson.Bench, course int) (lesson.Size, bool) {
	for _, s := range c.Sizes {
		if s.Course == course && slices.ContainsFunc(s.Benches, func(o lesson.Bench) bool { return o.ID == b.ID }) {
			return s, true
		}
	}
	return lesson.Size{}, false
}

// Unsafe counts those for whom nothing makes what their bench makes safe.
func Unsafe(eaters []Eater) int {
	n := 0
	for _, e := range eaters {
		if e.Never() {
			n++
		}
	}
	return n
}

// SetSwaps says which swaps of a dish on the menu a learner's bench works with:
// by their places in the recipe's list.
func SetSwaps(ctx context.Context, id int64, version string, learner int64, dish string, chosen []string) error {
	return lessons.ChangeOwn(ctx, id, version, func(l *store.Lesson) (string, error) {
		at := slices.IndexFunc(l.Menu, func(c store.Course) bool { return c.Dish.Recipe.ID == dish })
		if at < 0 || !slices.ContainsFunc(l.Class.Roster, func(p class.Learner) bool { return p.ID == learner }) {
			return "", school.ErrNotFound
		}
		l.Swaps = slices.DeleteFunc(slices.Clone(l.Swaps), func(s lesson.Swap) bool { return s.Learner == learner && s.Dish == dish })
		for i, s := range l.Menu[at].Dish.Swaps {
			if slices.Contains(chosen, strconv.Itoa(i)) {
				l.Swaps = append(l.Swaps, lesson.Swap{Learner: learner, Dish: dish, For: s.For, Use: s.Use})
			}
		}
		return "Changed: swaps", nil
	})
}

// SwapAll takes for everybody the swaps with which they can eat the dish.
func SwapAll(ctx context.Context, id int64, version string) error {
	c, err := For(ctx, id)
	if err != nil {
		return err
	}
	return lessons.ChangeOwn(ctx, id, version, func(l *store.Lesson) (string, error) {
		l.Swaps = nil
		for _, e := range c.Eaters() {
			for _, d := range e.Dishes {
				for _, s := range d.Best.Swaps {
					l.Swaps = append(l.Swaps, lesson.Swap{Learner: e.ID, Dish: d.Recipe.ID, For: s.For, Use: s.Use})
				}
			}
		}
		return "Swaps taken for everybody who needs them", nil
	})
}

// A Helped is a learner for whom something goes beyond what they can do, with
// the ways that are offered.
type Helped struct {
	class.Learner
	Bench string
	Steps []HelpedStep
	Whole []OfferedWay
}

// A HelpedStep is a step with the other ways to do it.
type HelpedStep struct {
	Dish, ID, Title string // the dish by its recipe's id
	Dangers         []recipe.Danger
	Ways            []OfferedWay
}

// An OfferedWay is another way, and whether it was chosen.
type OfferedWay struct {
	safety.Way
	Chosen bool
}

// Helped returns for whom other ways are offered, and which.
func (c *Care) Helped() []Helped {
	var out []Helped
	book, p := c.Core.Safety, c.Larder.Pantry
	dangers := map[string][][]recipe.Danger{}
	for _, course := range c.Core.Menu {
		dangers[course.Recipe.ID] = course.Recipe.EveryDanger(p)
	}
	for _, l := range c.present() {
		taken := func(dish, step, way string) bool {
			return slices.Contains(c.OtherWays, lesson.WayTaken{Learner: l.ID, Dish: dish, Step: step, Way: way})
		}
		h := Helped{Learner: l}
		bench, seated := c.bench(l.ID)
		h.Bench = bench.Name
		apart := false
		for at, course := range c.Core.Menu {
			if _, makes := c.sizeAt(bench, at); seated && !makes {
				continue
			}
			r := course.Recipe
			apart = apart || safety.Apart(r, p, l.Needs)
			for n, s := range r.Steps {
				step := HelpedStep{Dish: r.ID, ID: s.ID, Title: s.Title, Dangers: dangers[r.ID][n]}
				if len(c.Core.Menu) > 1 {
					step.Title = r.Title + ": " + s.Title
				}
				for _, w := range book.Offers(l, s, step.Dangers) {
					step.Ways = append(step.Ways, OfferedWay{w, taken(r.ID, s.ID, w.ID)})
				}
				if step.Ways != nil {
					h.Steps = append(h.Steps, step)
				}
			}
		}
		for _, w := range book.Wholes(l) {
			if w.Apart && !apart {
				continue // nothing that they make asks for it
			}
			h.Whole = append(h.Whole, OfferedWay{w, taken("", "", w.ID)})
		}
		if h.Steps == nil && h.Whole == nil {
			continue
		}
		out = append(out, h)
	}
	// Those who need it come before those who only begin.
	slices.SortStableFunc(out, func(a, b Helped) int { return cmp.Compare(a.rank(), b.rank()) })
	return out
}

func (h Helped) rank() int {
	if slices.ContainsFunc(h.Needs, func(n class.Need) bool { return n.Kind == class.Access }) {
		return 0
	}
	return 1
}

// SetWays says which other ways a learner works in, whoever's each says it is.
// What is not in the lesson or the school's table is left out.
func SetWays(ctx context.Context, id int64, version string, learner int64, chosen []lesson.WayTaken) error {
	a := school.In(ctx)
	larder, err := a.Larder(ctx)
	if err != nil {
		return err
	}
	return lessons.ChangeOwn(ctx, id, version, func(l *store.Lesson) (string, error) {
		if !slices.ContainsFunc(l.Class.Roster, func(p class.Learner) bool { return p.ID == learner }) {
			return "", school.ErrNotFound
		}
		book := larder.Settings.Book()
		l.OtherWays = slices.DeleteFunc(slices.Clone(l.OtherWays), func(w lesson.WayTaken) bool { return w.Learner == learner })
		for _, w := range chosen {
			there := w.Step == "" || slices.ContainsFunc(l.Menu, func(c store.Course) bool {
				return c.Dish.Recipe.ID == w.Dish && slices.ContainsFunc(c.Dish.Steps, func(s recipe.Step) bool { return s.ID == w.Step })
			})
			if _, ok := book.Way(w.Way); ok && there {
				w.Learner = learner
				l.OtherWays = append(l.OtherWays, w)
			}
		}
		return "Changed: other ways to do it", nil
	})
}

// A Probing is a temperature as a form has it, in the words that were typed.
type Probing struct {
	Bench, Kind, Food, Celsius, Seconds string
	Press                               string // the same again is the same reading
	Simulated                           bool
}

// WriteDown judges a temperature by the school's table and writes it into the
// lesson's log, where it stays.
func WriteDown(ctx context.Context, id int64, in Probing) (store.TempReading, error) {
	a := school.In(ctx)
	l, err := a.Lesson(ctx, id)
	if err != nil {
		return store.TempReading{}, err
	}
	larder, err := a.Larder(ctx)
	if err != nil {
		return store.TempReading{}, err
	}
	region := larder.Settings.Book().Region
	var f typed.Form
	r := store.TempReading{Lesson: l.ID, Bench: strings.TrimSpace(in.Bench), Kind: in.Kind, Food: in.Food, Simulated: in.Simulated, Who: school.Acting(ctx).Name, At: a.Now()}
	if r.Celsius, err = strconv.ParseFloat(strings.ReplaceAll(strings.TrimSpace(in.Celsius), ",", "."), 64); err != nil || !(r.Celsius > -60 && r.Celsius < 350) {
		f.Add("celsius", "“%s” is no temperature in °C between −60 and 350.", words.Short(in.Celsius))
	}
	if strings.TrimSpace(in.Seconds) != "" {
		if r.Seconds = f.Whole("seconds", "How long", in.Seconds); r.Seconds < 0 || r.Seconds > 86_400 {
			f.Add("seconds", "How long: %d is not between 0 and 86 400.", r.Seconds)
		}
	}
	if n := utf8.RuneCountInString(r.Bench); n == 0 || n > typed.LongestName {
		f.Add("bench", "Say at which bench, or of what.")
	}
	switch r.Kind {
	case "core":
		if !slices.Contains(region.Foods(), r.Food) {
			f.Add("food", "Choose what was probed.")
		}
		r.Good, r.Says = region.Cooked(r.Food, r.Celsius, r.Seconds)
	case "hot", "cold":
		const minute = 60
		r.Good, r.Says = region.Kept(r.Kind == "hot", r.Celsius, r.Seconds/minute)
	default:
		f.Add("kind", "Choose what was measured.")
	}
	if f.Problems != nil {
		return r, f.Problems
	}
	return r, a.Once(ctx, in.Press, r.At, func(tx *store.School) error { return tx.AddReading(ctx, r) })
}

// Readings returns the temperatures that were written down in a lesson, the
// newest first.
func Readings(ctx context.Context, id int64) ([]store.TempReading, error) {
	return school.In(ctx).Readings(ctx, id)
}
