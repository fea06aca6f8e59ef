// Package golden holds what tests compute against files that somebody has
// looked at.
package golden

import (
	"flag"
	"os"
	"path/filepath"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

var update = flag.Bool("update", false, "write the golden files anew")

// Same holds got against the file of that name in the test's testdata. With
// -update it writes the file, for whoever has looked at each change and means it.
func Same(t testing.TB, name, got string) {
	t.Helper()
	path := filepath.Join("testdata", name)
	if *update {
		require.NoError(t, os.WriteFile(path, []byte(got), 0o644))
	}
	want, err := os.ReadFile(path)
	require.NoError(t, err)
	assert.Equal(t, string(want), got, "look at each change; if they are meant, run the test with -update")
}

// Corpora returns the lines of the recipes that reading is tested with, for a
// package of core.
func Corpora(t testing.TB) []string {
	t.Helper()
	var out []string
	for _, file := range []string{"tuned.txt", "measured.txt"} {
		data, err := os.ReadFile(filepath.Join("..", "reading", "testdata", file))
		require.NoError(t, err)
		for line := range strings.Lines(string(data)) {
			text, _, annotated := strings.Cut(line, " ¦ ")
			if annotated {
				out = append(out, strings.TrimSpace(text))
			}
		}
	}
	return out
}
