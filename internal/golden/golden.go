// Package golden holds what tests compute against files that somebody has
// looked at.
package golden

import (
	"flag"
	"fmt"
	"hash/crc32"
	"math"
	"os"
	"path/filepath"
	"regexp"
	"strconv"
	"strings"
	"testing"

	"github.com/davecgh/go-spew/spew"
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
	if line, w, g, differ := difference(string(want), got); differ {
		t.Errorf("%s:%d: was  %s\nis   %s\nlook at each change; if they are meant, run the test with -update", path, line, w, g)
	}
}

// difference returns the first line in which two texts differ.
func difference(a, b string) (line int, was, is string, differ bool) {
	x, y := strings.Split(a, "\n"), strings.Split(b, "\n")
	for n := range max(len(x), len(y)) {
		switch {
		case n >= len(x):
			return n + 1, "nothing", y[n], true
		case n >= len(y):
			return n + 1, x[n], "nothing", true
		case x[n] != y[n]:
			return n + 1, x[n], y[n], true
		}
	}
	return 0, "", "", false
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

// A Case is a file as somebody brings it, and what it means.
type Case struct{ Title, Text, Want string }

// Cases returns those of a corpus in the test's testdata: each begins with "== " and its
// title, and "--" stands on a line between the text and what it means.
func Cases(t testing.TB, name string) []Case {
	t.Helper()
	data, err := os.ReadFile(filepath.Join("testdata", name))
	require.NoError(t, err)
	var out []Case
	for _, block := range strings.Split(string(data), "== ")[1:] {
		var c Case
		c.Title, block, _ = strings.Cut(block, "\n")
		c.Text, c.Want, _ = strings.Cut(block, "\n--\n")
		c.Want = strings.TrimSpace(c.Want)
		out = append(out, c)
	}
	return out
}

var (
	printer = spew.ConfigState{SortKeys: true, SpewKeys: true}
	whole   = spew.ConfigState{SortKeys: true, SpewKeys: true, DisableMethods: true}
	address = regexp.MustCompile(`\(?0x[0-9a-f]{5,}(->0x[0-9a-f]+)*\)?`) // of values and functions
	long    = regexp.MustCompile(`-?\d+\.\d{5,}(e[-+]\d+)?`)
)

// most is how many characters of a value are written.
const most = 300

// All writes all that values hold, a line each, numbers to four places: for the rest of
// what is computed, where tests say of some of it what is right. Of what is long the
// beginning is written, as it prints itself, and a sum of all.
func All(values ...any) string {
	var b strings.Builder
	for _, v := range values {
		text := plain(printer, v)
		if len(text) > most {
			text = fmt.Sprintf("%s… %s", text[:most], Sum(v))
		}
		fmt.Fprintf(&b, "  %s\n", text)
	}
	return b.String()
}

// Sum stands for all that a value holds, numbers to four places.
func Sum(v any) string { return fmt.Sprintf("%08x", crc32.ChecksumIEEE([]byte(plain(whole, v)))) }

// plain is what a printer makes of a value, without addresses.
func plain(printer spew.ConfigState, v any) string {
	text := address.ReplaceAllString(printer.Sprintf("%+v", v), "")
	return long.ReplaceAllStringFunc(text, func(number string) string {
		f, _ := strconv.ParseFloat(number, 64)
		return strconv.FormatFloat(math.Round(f*1e4)/1e4, 'g', -1, 64)
	})
}

// short is a text, and of a long one the beginning and a sum of all.
func short(text string) string {
	if len(text) <= most {
		return text
	}
	return fmt.Sprintf("%s… %08x", text[:most], crc32.ChecksumIEEE([]byte(text)))
}

// A File is a file that somebody has brought, and the lines in which what it holds is written beside it.
type File struct {
	Title string
	Data  []byte
	Want  []string
}

// Files returns the files in a directory of testdata, each of which has a text of its name beside it.
func Files(t testing.TB, dir string) (files []File) {
	t.Helper()
	names, err := filepath.Glob(filepath.Join("testdata", dir, "*.*"))
	require.NoError(t, err)
	for _, name := range names {
		if filepath.Ext(name) == ".txt" {
			continue
		}
		data, err := os.ReadFile(name)
		require.NoError(t, err)
		want, err := os.ReadFile(strings.TrimSuffix(name, filepath.Ext(name)) + ".txt")
		require.NoError(t, err)
		files = append(files, File{filepath.Base(name), data, strings.Split(strings.TrimSpace(string(want)), "\n")})
	}
	require.NotEmpty(t, files, dir)
	return files
}
