package golden

import (
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
)

// Beside are lines that stand over what somebody brings, or below it.
type Beside struct {
	Says        string
	Over, Under []string
	Least       int // of a hundred files, as many are to be read the same
}

// Same holds that files are read the same under each line and above each, every fourth file with each line.
// Where told, what is read otherwise is logged.
func (x Beside) Same(t *testing.T, cases []Case, told bool, read func(text string) []string) {
	t.Helper()
	same, all := 0, 0
	for n, line := range slices.Concat(x.Over, x.Under) {
		for i, c := range cases {
			if i%4 != n%4 {
				continue
			}
			text := line + "\n" + c.Text
			if n >= len(x.Over) {
				text = strings.TrimRight(c.Text, "\n") + "\n" + line
			}
			all++
			if was, is := read(c.Text), read(text); slices.Equal(was, is) {
				same++
			} else if told {
				t.Logf("%s with %q: %q, and not %q", c.Title, line, is, was)
			}
		}
	}
	t.Logf("%s: %d of %d are read the same", x.Says, same, all)
	assert.GreaterOrEqual(t, same*100, x.Least*all, x.Says)
}
