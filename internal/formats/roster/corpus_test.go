package roster_test

import (
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"freshapron/internal/core/class"
	"freshapron/internal/formats/roster"
	"freshapron/internal/golden"
)

// understood writes a row as the corpora do: the given name, the family name, and what the
// learner's needs mean, with a question mark where somebody is asked.
func understood(r roster.Row) string {
	var needs []string
	asks := r.Learner.Noted() != nil
	for _, n := range r.Learner.Needs {
		u := class.Understand(n.What)
		for _, id := range u.Needs {
			if !slices.Contains(needs, id) {
				needs = append(needs, id)
			}
		}
		asks = asks || len(n.Unclear()) > 0
	}
	if asks {
		needs = append(needs, "?")
	}
	return strings.Join([]string{r.Learner.Given, r.Learner.Family, strings.Join(needs, " ")}, "|")
}

// Class lists as different people keep them are read learner by learner, and lines that
// name nobody are shown as such. The second file is measured only.
func TestListsOfManyPeople(t *testing.T) {
	for file, least := range map[string]int{"tuned.txt": 265, "measured.txt": 112} {
		right, all := 0, 0
		for _, c := range golden.Cases(t, file) {
			l, err := roster.Open([]byte(c.Text))
			require.NoError(t, err, c.Title)
			l.InOneClass()
			var got, asides []string
			for _, r := range roster.Read(l.Rows, l.Columns, l.Head, "8 Hazel", today) {
				if r.Aside {
					asides = append(asides, strings.Join(l.Rows[r.Line-1], " "))
					continue
				}
				got = append(got, understood(r)+strings.Join(r.Problems, ""))
			}
			expected := strings.Split(c.Want, "\n")
			all += max(len(expected), len(got)) // whoever is made up counts as wrong
			for _, e := range expected {
				if slices.Contains(got, e) {
					right++
				}
			}
			if !slices.Equal(got, expected) {
				t.Logf("%s\nwant %q\ngot  %q\naside %q", c.Title, expected, got, asides)
			}
		}
		t.Logf("%s: %d of %d learners", file, right, all)
		assert.GreaterOrEqual(t, right, least, file)
	}
}
