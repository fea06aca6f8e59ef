package reading_test

import (
	"fmt"
	"hash/crc32"
	"os"
	"regexp"
	"slices"
	"strings"
	"testing"
	"unicode"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"freshapron/internal/core/pantry"
	"freshapron/internal/core/reading"
	"freshapron/internal/golden"
)

// A tear is what can become of a sheet on its way to us.
type tear struct {
	name string
	of   func(s, next sample) []string
}

var (
	anyMinutes = regexp.MustCompile(`(?i)\(?(?:for )?(?:about )?\d+(?:\s?[-–]\s?\d+)?\s?(?:minutes|minute|mins|min|hours|hour|hrs|hr|h)\b\)?`)
	anyHeat    = regexp.MustCompile(`\d+\s?(?:°\s?[CF]?|[CF]\b)`)
	anyFigure  = regexp.MustCompile(`[\d½¼¾⅓⅔]+\s?`)
)

// without leaves out the lines that mean one of these.
func without(roles string) func(s, next sample) []string {
	return func(s, _ sample) []string {
		var out []string
		for n, l := range s.lines {
			if s.means[n] == "" || !strings.Contains(roles, s.means[n][:1]) {
				out = append(out, l)
			}
		}
		return out
	}
}

// eachLine changes every line.
func eachLine(of func(string) string) func(s, next sample) []string {
	return func(s, _ sample) []string {
		var out []string
		for _, l := range s.lines {
			out = append(out, of(l))
		}
		return out
	}
}

var tears = []tear{
	{"no title", without("t")}, {"no list", without("=")}, {"no method", without(">")}, {"no headings", without("hp")}, {"the list and the method alone", without("thpfuy?")},
	{"no minutes", eachLine(func(l string) string { return anyMinutes.ReplaceAllString(l, "") })},
	{"no heats", eachLine(func(l string) string { return anyHeat.ReplaceAllString(l, "") })},
	{"no figures", eachLine(func(l string) string { return anyFigure.ReplaceAllString(l, "") })},
	{"first words", eachLine(func(l string) string { return strings.Join(strings.Fields(l)[:min(3, len(strings.Fields(l)))], " ") })},
	{"first half", func(s, _ sample) []string { return s.lines[:len(s.lines)/2] }},
	{"second half", func(s, _ sample) []string { return s.lines[len(s.lines)/2:] }},
	{"upside down", func(s, _ sample) []string {
		out := slices.Clone(s.lines)
		slices.Reverse(out)
		return out
	}},
	{"each line twice", func(s, _ sample) []string {
		var out []string
		for _, l := range s.lines {
			out = append(out, l, l)
		}
		return out
	}},
	{"line by line with the next", func(s, next sample) []string {
		var out []string
		for n := range max(len(s.lines), len(next.lines)) {
			out = append(out, s.lines[min(n, len(s.lines)-1)], next.lines[min(n, len(next.lines)-1)])
		}
		return out
	}},
	{"the list of the next", func(s, next sample) []string { return append(without(">")(next, s), without("t=")(s, next)...) }},
	{"all in one line", func(s, _ sample) []string { return []string{strings.Join(s.lines, " ")} }},
	{"lines joined by twos", func(s, _ sample) []string {
		var out []string
		for n := 0; n < len(s.lines); n += 2 {
			out = append(out, strings.Join(s.lines[n:min(n+2, len(s.lines))], " "))
		}
		return out
	}},
	{"lines broken in two", eachLine(func(l string) string {
		words := strings.Fields(l)
		return strings.Join(words[:len(words)/2], " ") + "\n" + strings.Join(words[len(words)/2:], " ")
	})},
}

// sheets are the whole sheets as departments have them, and texts of several dishes; of their lines nothing more
// is known.
func sheets(t *testing.T) (out []sample) {
	for _, file := range []string{"testdata/sheets.txt", "testdata/dishes.txt"} {
		data, err := os.ReadFile(file)
		require.NoError(t, err)
		for _, sheet := range strings.Split(strings.TrimPrefix(strings.TrimSpace(string(data)), "=== "), "\n=== ") {
			lines := strings.Split(sheet, "\n")
			out = append(out, sample{lines: lines[1:], means: make([]string, len(lines)-1)})
		}
	}
	return out
}

// lost returns the lines that stand nowhere though something is written on them.
func lost(text string, r reading.Reading) (out []string) {
	lines := strings.Split(text, "\n")
	for _, at := range accounted(text, r) {
		if strings.ContainsFunc(lines[at-1], func(r rune) bool { return unicode.IsLetter(r) || unicode.IsDigit(r) }) {
			out = append(out, lines[at-1])
		}
	}
	return out
}

// chance is a number that a text always has.
func chance(text string) int { return int(crc32.ChecksumIEEE([]byte(text))) }

// Of what has been torn, stuck together or copied in pieces no line is lost. How it is read stands in a file,
// each tear on sheets of its own, which their words choose, so that a new sheet changes nothing for the others.
func TestTornSheets(t *testing.T) {
	const each = 11 // of so many sheets one is torn
	cases := slices.Concat(sheets(t), corpus(t, "tuned.txt"), corpus(t, "measured.txt"))
	var b strings.Builder
	for n, torn := range tears {
		fmt.Fprintf(&b, "=== %s\n", torn.name)
		for i, c := range cases {
			if chance(strings.Join(c.lines, "\n"))%each != n%each {
				continue
			}
			text := strings.Join(torn.of(c, cases[(i+1)%len(cases)]), "\n")
			r := read(text)
			assert.Empty(t, lost(text, r), "%s: %s", torn.name, text)
			fmt.Fprintf(&b, "%s: %d of the list, %d steps, %d facts, %d not understood, %s\n", r.Title, len(r.Ingredients), len(r.Steps), len(r.Facts), len(r.Unread), golden.Sum(r))
		}
	}
	golden.Same(t, "torn.golden", b.String())
}

// A line that stands where it does not belong is not lost: over the list, in it, below it, within the method, and
// alone.
func TestLinesOutOfPlace(t *testing.T) {
	const each = 4 // of so many lines one is tried
	places := []string{
		"Dish\n%s\nIngredients\n200 g flour\n300 g sugar\nMethod\nMix.\nBake for 20 minutes at 180 °C.",
		"Dish\nIngredients\n200 g flour\n%s\n300 g sugar\nMethod\nMix.\nBake for 20 minutes at 180 °C.",
		"Dish\n200 g flour\n300 g sugar\n%s\nMix.\nBake for 20 minutes at 180 °C.",
		"Dish\n200 g flour\n300 g sugar\n1. Mix.\n2. %s\n3. Bake for 20 minutes at 180 °C.",
		"%s\nServes 4\n• 200 g flour\n• 300 g sugar\nMix. Bake for 20 minutes at 180 °C.",
		"%s",
	}
	data, err := os.ReadFile("testdata/lines.txt")
	require.NoError(t, err)
	var b strings.Builder
	for _, c := range slices.Concat(corpus(t, "tuned.txt"), corpus(t, "measured.txt"), sheets(t), []sample{{lines: strings.Split(string(data), "\n")}}) {
		for _, l := range c.lines {
			n := chance(l)
			if n%each != 0 || strings.TrimSpace(l) == "" {
				continue
			}
			text := strings.Replace(places[n/each%len(places)], "%s", l, 1)
			r := reading.Read(text, nil, pantry.Stock())
			assert.Empty(t, lost(text, r), text)
			fmt.Fprintf(&b, "%.60s: %s\n", l, golden.Sum(r))
		}
	}
	golden.Same(t, "places.golden", b.String())
}
