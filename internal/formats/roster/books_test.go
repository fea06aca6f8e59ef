package roster_test

import (
	"os"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"freshapron/internal/formats/roster"
	"freshapron/internal/golden"
)

// Workbooks of class lists, with covers, merged cells, dates and formulas, are read learner by learner.
// Those of the second half are measured only.
func TestWorkbooksOfManyPeople(t *testing.T) {
	for half, least := range map[string]int{"tuned": 27, "measured": 19} {
		right, all, invented := 0, 0, 0
		for _, c := range golden.Files(t, "books/"+half) {
			l, err := roster.Open(c.Data)
			require.NoError(t, err, c.Title)
			l.InOneClass()
			var got []string
			for _, r := range roster.Read(l.Rows, l.Columns, l.Head, "", today) {
				if r.Aside {
					continue
				}
				line := understood(r) + "|" + r.Class
				if b := r.Learner.Born; !b.IsZero() {
					line += "|" + b.Format("2006-01-02")
				}
				got = append(got, strings.TrimRight(line, "|"))
			}
			same := 0
			for _, w := range c.Want {
				if slices.Contains(got, w) {
					same++
				}
			}
			right, all, invented = right+same, all+len(c.Want), invented+max(0, len(got)-len(c.Want))
			if half == "tuned" && !slices.Equal(got, c.Want) {
				t.Logf("%s\nwant %q\ngot  %q", c.Title, c.Want, got)
			}
		}
		t.Logf("%s: %d of %d learners, and %d made up", half, right, all, invented)
		assert.GreaterOrEqual(t, right-invented, least, half)
	}
}

// What is not read of a workbook, or stands above the headings, is a row that names nobody.
func TestWhatIsNotRead(t *testing.T) {
	data, err := os.ReadFile("testdata/books/tuned/a-sheet-for-each-class.xlsx")
	require.NoError(t, err)
	for want, list := range map[string][]byte{
		"all of the sheet 8B": data,
		"Food Mrs Vale":       []byte("Food,Mrs Vale\nName,Allergy\nInes Moor,fish\n"),
	} {
		l, err := roster.Open(list)
		require.NoError(t, err)
		var asides []string
		for _, r := range roster.Read(l.Rows, l.Columns, l.Head, "8 Alder", today) {
			if r.Aside {
				asides = append(asides, strings.Join(l.Rows[r.Line-1], ""))
			}
		}
		assert.Equal(t, []string{want}, asides)
	}
}
