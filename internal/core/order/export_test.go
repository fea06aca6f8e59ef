package order

import "fmt"

// Work tells how the order for a week is searched for: how much was looked at, and what was known at the end. It
// changes with anything that the search looks at, or no longer looks at, though its orders stay the same.
func Work(w Week) string {
	if w.Check() != nil {
		return ""
	}
	m := newModel(w)
	if m.checkFixed() != nil {
		return ""
	}
	s := newSearch(m)
	s.run()
	known := 0
	for i := range s.known {
		known += len(s.known[i])
	}
	return fmt.Sprintf("looked at %d, %d kept, %d at least, %d found", s.effort, known, s.lower, s.best.cost)
}
