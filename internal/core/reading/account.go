package reading

import "slices"

func (r *reader) fact(l line) { r.Facts = append(r.Facts, Fact{l.at, l.item, r.about}) }

func (r *reader) unread(l line, why string) {
	r.Unread = append(r.Unread, Unread{l.at, l.text, why})
}

// askMark stands before what a step leaves to be asked.
const askMark = "ask: "

// check accounts for every line, and says what nobody could place.
func (r *reader) check() {
	r.inMethodAmounts()
	for _, s := range r.Steps {
		for _, a := range s.Asks {
			r.asked = append(r.asked, Unread{s.Lines[0], s.Text, askMark + a})
		}
	}
	r.Unread = append(r.Unread, r.asked...)
	seen := map[int]bool{r.TitleLine: true, r.Yield.Line: true}
	for _, at := range r.Headings {
		seen[at] = true
	}
	for _, i := range r.Ingredients {
		seen[i.Line] = true
	}
	for _, s := range r.Steps {
		for _, at := range s.Lines {
			seen[at] = true
		}
	}
	for _, f := range r.Facts {
		seen[f.Line] = true
	}
	for _, u := range r.Unread {
		seen[u.Line] = true
	}
	for _, l := range r.lines {
		if !seen[l.at] {
			r.unread(l, "it was not understood")
		}
	}
	slices.SortFunc(r.Unread, func(a, b Unread) int { return a.Line - b.Line })
	slices.SortStableFunc(r.Facts, func(a, b Fact) int { return a.Line - b.Line })
}
