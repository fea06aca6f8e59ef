package frame

import "fmt"

// A Side of a lesson is one of its pages.
type Side struct {
	Label, Href string
	Current     bool
}

// Sides lists the pages of a lesson, in the order of the work. What learners
// need is for those to whom the class belongs.
func Sides(lesson int64, current string, mine bool) []Side {
	var out []Side
	for _, s := range []struct {
		label, at string
		needs     bool
	}{
		{"Plan", "", false}, {"Who", "/who", false}, {"Food", "/food", true}, {"Other ways", "/ways", true}, {"Safety", "/safety", true}, {"Floor", "/floor", false},
		{"Temperatures", "/probe", false}, {"Trays", "/trays", false}, {"Home", "/home", true}, {"Teach", "/teach", false}, {"Judge", "/tasting", true},
	} {
		if s.needs && !mine {
			continue
		}
		out = append(out, Side{s.label, fmt.Sprintf("/lessons/%d%s", lesson, s.at), s.label == current})
	}
	return out
}
