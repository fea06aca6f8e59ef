package prepare

import (
	"slices"
	"strings"

	"freshapron/internal/core/lesson"
	"freshapron/internal/core/pantry"
)

// A Thing is something of which rooms share so many.
type Thing struct {
	Name  string
	Count int
}

// Wants is what a lesson takes of the things that rooms share while it lasts.
type Wants struct {
	Lesson      int64
	From, Until Moment
	Things      []Thing
}

// A Clash is a thing that lessons at the same time want more of than there is.
type Clash struct {
	Thing       Thing
	Wanted      int
	Lessons     []int64
	From, Until Moment // of the overlap
}

// WantsOf returns what a lesson takes of shared things: one of each for every
// bench whose dish lists it, as many as there are at most, since benches can take
// turns.
func WantsOf(l Lesson, shared []Thing) Wants {
	w := Wants{Lesson: l.ID, From: l.Start, Until: l.End}
	for _, s := range shared {
		n := 0
		for _, b := range l.Core.Benches() {
			if slices.ContainsFunc(b.Makes, func(m lesson.Made) bool { return lists(l.Core.Menu[m.Course].Recipe.Equipment, s.Name) }) {
				n++
			}
		}
		if n > 0 {
			w.Things = append(w.Things, Thing{s.Name, min(n, s.Count)})
		}
	}
	return w
}

// lists reports whether a list of equipment has a thing, by its words.
func lists(equipment []string, name string) bool {
	want := pantry.Words(name)
	for _, e := range equipment {
		have := pantry.Words(e)
		if len(want) > 0 && !slices.ContainsFunc(want, func(w string) bool { return !slices.Contains(have, w) }) {
			return true
		}
	}
	return false
}

// Clashes returns, by time, what lessons that overlap want more of than there is.
func Clashes(shared []Thing, wants []Wants) []Clash {
	var out []Clash
	for _, s := range shared {
		for i, a := range wants {
			n := a.of(s.Name)
			if n == 0 {
				continue
			}
			c := Clash{Thing: s, Wanted: n, Lessons: []int64{a.Lesson}, From: a.From, Until: a.Until}
			for _, b := range wants[i+1:] {
				if m := b.of(s.Name); m > 0 && b.From < c.Until && c.From < b.Until {
					c.Wanted += m
					c.Lessons = append(c.Lessons, b.Lesson)
					c.From, c.Until = max(c.From, b.From), min(c.Until, b.Until)
				}
			}
			if c.Wanted > s.Count && len(c.Lessons) > 1 {
				out = append(out, c)
			}
		}
	}
	slices.SortStableFunc(out, func(a, b Clash) int { return int(a.From - b.From) })
	return out
}

func (w Wants) of(name string) int {
	for _, t := range w.Things {
		if strings.EqualFold(t.Name, name) {
			return t.Count
		}
	}
	return 0
}
