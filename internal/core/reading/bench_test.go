package reading_test

import (
	"os"
	"strings"
	"testing"

	"freshapron/internal/core/pantry"
	"freshapron/internal/core/reading"
)

// BenchmarkRead reads a recipe of 60 lines.
func BenchmarkRead(b *testing.B) {
	data, err := os.ReadFile("testdata/tuned.txt")
	if err != nil {
		b.Fatal(err)
	}
	var lines []string
	for _, l := range strings.Split(string(data), "\n") {
		text, means, _ := strings.Cut(l, " ¦ ")
		if (strings.HasPrefix(means, "= ") || strings.HasPrefix(means, "> ")) && len(lines) < 60 {
			lines = append(lines, text)
		}
	}
	text := strings.Join(lines, "\n")
	p := pantry.Stock()
	for b.Loop() {
		reading.Read(text, nil, p)
	}
}
