package document_test

import (
	"os"
	"path/filepath"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"freshapron/internal/formats/document"
)

// Documents as different people lay them out, saved by four programs, are read line by line: as
// what they hold stands in the text beside each. Those of the second half are measured only.
func TestDocumentsOfManyPeople(t *testing.T) {
	for half, least := range map[string]int{"tuned": 201, "measured": 153} {
		files, err := filepath.Glob("testdata/" + half + "/*.*")
		require.NoError(t, err)
		kept, all, more := 0, 0, 0
		for _, file := range files {
			data, err := os.ReadFile(file)
			require.NoError(t, err)
			if filepath.Ext(file) == ".txt" {
				continue
			}
			text, err := document.Text(data)
			require.NoError(t, err, file)
			wanted, err := os.ReadFile(strings.TrimSuffix(file, filepath.Ext(file)) + ".txt")
			require.NoError(t, err)
			want, got := linesOf(string(wanted)), linesOf(text)
			same := common(want, got)
			kept, all, more = kept+same, all+len(want), more+len(got)-same
			if half == "tuned" && same < max(len(want), len(got)) {
				t.Logf("%s\n%s", file, text)
			}
		}
		t.Logf("%s: %d of %d lines, %d others", half, kept, all, more)
		assert.GreaterOrEqual(t, kept-more, least, half)
	}
}

// linesOf returns the lines of a text that hold something.
func linesOf(text string) (lines []string) {
	for l := range strings.SplitSeq(text, "\n") {
		if l = strings.TrimSpace(l); l != "" {
			lines = append(lines, l)
		}
	}
	return lines
}

// common is the length of the longest list of lines that both have in their order.
func common(a, b []string) int {
	longest := make([][]int, len(a)+1)
	longest[0] = make([]int, len(b)+1)
	for i, x := range a {
		longest[i+1] = make([]int, len(b)+1)
		for j, y := range b {
			longest[i+1][j+1] = max(longest[i][j+1], longest[i+1][j])
			if x == y {
				longest[i+1][j+1] = longest[i][j] + 1
			}
		}
	}
	return longest[len(a)][len(b)]
}
