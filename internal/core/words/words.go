// Package words puts figures and names into words.
package words

import (
	"cmp"
	"fmt"
	"slices"
	"strconv"
	"strings"
	"unicode"
	"unicode/utf8"
)

// Plural prints a count with its word: "1 bench", "0 benches".
func Plural(n int, one, many string) string {
	if n == 1 {
		return "1 " + one
	}
	return fmt.Sprintf("%d %s", n, many)
}

// Capital begins a text with a capital letter.
func Capital(s string) string {
	r, n := utf8.DecodeRuneInString(s)
	if n == 0 {
		return s
	}
	return string(unicode.ToUpper(r)) + s[n:]
}

// Small begins a text with a small letter.
func Small(s string) string {
	r, n := utf8.DecodeRuneInString(s)
	if n == 0 {
		return s
	}
	return string(unicode.ToLower(r)) + s[n:]
}

// Sentences parts a text, so that somebody who reads little takes one thing at a
// time.
func Sentences(text string) []string {
	var out []string
	for _, part := range strings.SplitAfter(text, ". ") {
		if part = strings.TrimSpace(part); part != "" {
			out = append(out, part)
		}
	}
	return out
}

// Short keeps a sentence readable whatever was typed into it.
func Short(text string) string {
	const most = 40
	if utf8.RuneCountInString(text) <= most {
		return text
	}
	return string([]rune(text)[:most]) + "…"
}

// Names lists names as a sentence does: "Ada, Bo and Cy".
func Names(list []string) string {
	if len(list) < 2 {
		return strings.Join(list, "")
	}
	return strings.Join(list[:len(list)-1], ", ") + " and " + list[len(list)-1]
}

// Or lists names of which one will do: "a, b or c".
func Or(list []string) string {
	if len(list) < 2 {
		return strings.Join(list, "")
	}
	return strings.Join(list[:len(list)-1], ", ") + " or " + list[len(list)-1]
}

// Numbered prints names in order, those that differ only in the number at the
// end together: "Bench 1–4, 7, Oven 2", "Bench 1a–3b".
func Numbered(names []string) string {
	type numbered struct {
		name, letter string
		number       int // −1 where there is none
	}
	list := make([]numbered, len(names))
	for i, n := range names {
		list[i] = numbered{name: n, number: -1}
		at := strings.LastIndexByte(n, ' ')
		if at <= 0 {
			continue
		}
		digits := strings.TrimRight(n[at+1:], "abcdefghijklmnopqrstuvwxyz")
		if v, err := strconv.Atoi(digits); err == nil && v >= 0 {
			list[i] = numbered{n[:at], n[at+1+len(digits):], v}
		}
	}
	slices.SortStableFunc(list, func(a, b numbered) int {
		return cmp.Or(cmp.Compare(a.name, b.name), cmp.Compare(a.number, b.number), cmp.Compare(a.letter, b.letter))
	})
	next := func(a, b numbered) bool {
		switch {
		case a.name != b.name || len(a.letter) != len(b.letter) || len(a.letter) > 1:
			return false
		case a.letter == "" || b.letter == "a":
			return b.number == a.number+1
		}
		return b.number == a.number && b.letter[0] == a.letter[0]+1
	}
	var out strings.Builder
	for i := 0; i < len(list); i++ {
		n := list[i]
		if i > 0 {
			out.WriteString(", ")
		}
		if n.number < 0 {
			out.WriteString(n.name)
			continue
		}
		if i == 0 || list[i-1].name != n.name || list[i-1].number < 0 {
			out.WriteString(n.name + " ")
		}
		out.WriteString(strconv.Itoa(n.number) + n.letter)
		last := i
		for last+1 < len(list) && next(list[last], list[last+1]) {
			last++
		}
		if last > i+1 {
			out.WriteString("–" + strconv.Itoa(list[last].number) + list[last].letter)
			i = last
		}
	}
	return out.String()
}
