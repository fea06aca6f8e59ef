package golden

import (
	"fmt"
	"hash/crc32"
	"regexp"
	"strings"
	"testing"
	"unicode/utf16"

	"github.com/stretchr/testify/assert"
)

// manners are how another program, or somebody else, would have written the same table or
// list. What a text has not, it is not rewritten in.
var manners = []struct {
	name  string
	write func(text string) string
}{
	{"lines of another system", func(s string) string { return strings.ReplaceAll(s, "\n", "\r\n") }},
	{"lines of an old system", func(s string) string { return strings.ReplaceAll(s, "\n", "\r") }},
	{"a mark of its bytes", func(s string) string { return "\ufeff" + s }},
	{"two bytes a letter", func(s string) string {
		var b strings.Builder
		b.WriteString("\xff\xfe")
		for _, u := range utf16.Encode([]rune(s)) {
			b.Write([]byte{byte(u), byte(u >> 8)})
		}
		return b.String()
	}},
	{"quoted mail", func(s string) string { return "> " + strings.ReplaceAll(s, "\n", "\n> ") }},
	{"spaces behind", func(s string) string { return strings.ReplaceAll(s, "\n", "   \n") }},
	{"empty lines before and behind", func(s string) string { return "\n\n" + s + "\n\n\n" }},
	{"spaces that don't break", func(s string) string { return strings.ReplaceAll(s, " ", "\u00a0") }},
	{"an empty line after each", func(s string) string { return strings.ReplaceAll(s, "\n", "\n\n") }},
	{"capitals", strings.ToUpper},
	{"small letters", strings.ToLower},
	{"printed quotes", func(s string) string { return strings.ReplaceAll(s, "'", "’") }},
	{"long dashes", func(s string) string { return strings.ReplaceAll(s, " - ", " — ") }},
	{"tabs for commas", ifEven(func(s string) string { return regexp.MustCompile(`, ?`).ReplaceAllString(s, "\t") })},
	{"semicolons for commas", ifEven(func(s string) string { return strings.ReplaceAll(s, ",", ";") })},
	{"commas for tabs", ifNone(",;|\"", func(s string) string { return strings.ReplaceAll(s, "\t", ",") })},
	{"semicolons for tabs", ifNone(";|\"", func(s string) string { return strings.ReplaceAll(s, "\t", ";") })},
	{"bars for tabs", ifNone("|", func(s string) string { return strings.ReplaceAll(s, "\t", " | ") })},
	{"bars around", func(s string) string {
		if !strings.Contains(s, "\t") || strings.Contains(s, "|") {
			return s
		}
		return "| " + strings.NewReplacer("\t", " | ", "\n", " |\n| ").Replace(s) + " |"
	}},
	{"quoted cells", ifNone("\"", func(s string) string {
		if !strings.Contains(s, "\t") {
			return s
		}
		return `"` + strings.NewReplacer("\t", "\"\t\"", "\n", "\"\n\"").Replace(s) + `"`
	})},
	{"an empty column behind", func(s string) string {
		if !strings.Contains(s, "\t") {
			return s
		}
		return strings.ReplaceAll(s, "\n", "\t\n") + "\t"
	}},
	{"an empty column before", func(s string) string {
		if !strings.Contains(s, "\t") {
			return s
		}
		return "\t" + strings.ReplaceAll(s, "\n", "\n\t")
	}},
}

func ifNone(of string, write func(string) string) func(string) string {
	return func(s string) string {
		if strings.ContainsAny(s, of) {
			return s
		}
		return write(s)
	}
}

// ifEven rewrites what has as many commas in each line, several: a table.
func ifEven(write func(string) string) func(string) string {
	return ifNone("\t;|\"", func(s string) string {
		lines := strings.Split(s, "\n")
		for _, l := range lines {
			if n := strings.Count(l, ","); n < 2 || n != strings.Count(lines[0], ",") {
				return s
			}
		}
		return write(s)
	})
}

// Alike holds how cases are read against how they are read as somebody else would have
// written them, in a file, and that at least so many in a hundred are read the same. What is
// read says whether somebody is asked or told, too.
func Alike(t testing.TB, cases []Case, least int, read func(data []byte) (says string, asks bool)) {
	t.Helper()
	var b strings.Builder
	right, all := 0, 0
	for _, m := range manners {
		alike, asked, count := 0, 0, 0
		sum := crc32.NewIEEE()
		for _, c := range cases {
			text := m.write(c.Text)
			if text == c.Text {
				continue
			}
			was, _ := read([]byte(c.Text))
			is, asks := read([]byte(text))
			count++
			fmt.Fprint(sum, is)
			switch {
			case strings.EqualFold(was, strings.ReplaceAll(is, "’", "'")):
				alike++
				continue
			case asks:
				asked++
			}
			t.Logf("%s: %s\nwas %s\nis  %s", m.name, c.Title, was, is)
		}
		right, all = right+alike, all+count
		fmt.Fprintf(&b, "%-32s %3d of %3d alike, %d asked; %08x\n", m.name, alike, count, asked, sum.Sum32())
	}
	t.Logf("%d of %d alike", right, all)
	assert.GreaterOrEqual(t, right*100, all*least)
	Same(t, "however.golden", b.String())
}
