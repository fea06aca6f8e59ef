package reading

import "strings"

// Split parts a text of several recipes, such as a menu, into one text for each;
// a text of one recipe is returned as it is. A recipe begins at its title: the
// first line after the method of the one before that leads to a list, or to how
// many it serves.
func Split(text string) []string {
	lines := strings.Split(ends.Replace(text), "\n")
	marks := marksOf(lines, func(s string) bool {
		is, _, ok := headingOf(s)
		return ok && is == list
	})
	if len(marks) < 2 {
		marks = marksOf(lines, func(s string) bool {
			_, ok := yieldOf(s)
			return ok
		})
	}
	if len(marks) < 2 {
		return []string{text}
	}
	starts := []int{0}
	for _, m := range marks[1:] {
		at := m
		for at > 0 && !saysWhat(lines[at-1]) {
			at--
		}
		for at < m && strings.TrimSpace(lines[at]) == "" {
			at++
		}
		if at < m && at > starts[len(starts)-1] {
			starts = append(starts, at)
		}
	}
	var out []string
	for n, from := range starts {
		to := len(lines)
		if n+1 < len(starts) {
			to = starts[n+1]
		}
		out = append(out, strings.Trim(strings.Join(lines[from:to], "\n"), "\n"))
	}
	return out
}

// marksOf returns the lines that begin the list of a recipe by a test.
func marksOf(lines []string, is func(string) bool) []int {
	var out []int
	for n, l := range lines {
		if l = strings.TrimSpace(l); l != "" && len(l) < 80 && is((line{item: l, text: l}).plain()) {
			out = append(out, n)
		}
	}
	return out
}

// saysWhat reports whether a line is one of a method.
func saysWhat(s string) bool {
	l := line{text: strings.TrimSpace(s), item: strings.TrimSpace(s)}
	if l.text == "" {
		return false
	}
	l.unmark()
	word, _, _ := headVerb(l.item)
	return word != "" && len(strings.Fields(l.item)) > 1 || sentence(l.item)
}
