package document

import (
	"fmt"
	"strconv"
	"strings"
)

// mostLevels is the deepest level of a list.
const mostLevels = 9

// A list says how each of its levels is marked.
type list [mostLevels + 1]level

// A level is dotted where its paragraphs have no numbers, bare where they have no mark at all.
type level struct {
	numbers string // "1", "a", "A", "i" or "I"; empty where it is dotted
	bare    bool
	before  int // the number before that of the first
}

// numberings are the ways to number of Office Open XML; of the others each is written in figures.
var numberings = map[string]string{"bullet": "", "none": "", "lowerLetter": "a", "upperLetter": "A", "lowerRoman": "i", "upperRoman": "I"}

// numbered returns a level by what Office Open XML calls its way to number.
func numbered(format string, before int) level {
	numbers, ok := numberings[format]
	if !ok {
		numbers = "1"
	}
	return level{numbers: numbers, bare: format == "none", before: before}
}

// A counter numbers the paragraphs of lists, level by level.
type counter map[string][]int

// next returns the mark of the next paragraph of a list at a level, from 0 up.
func (c counter) next(name string, at int, l list) string {
	how := l[at]
	switch {
	case how.bare:
		return ""
	case how.numbers == "":
		return "- "
	}
	counts := c[name]
	for n := len(counts); n <= at; n++ {
		counts = append(counts, l[n].before)
	}
	counts = counts[:at+1]
	counts[at]++
	c[name] = counts
	return written(counts[at], how.numbers) + ". "
}

// from lets a list go on from a number at a level.
func (c counter) from(name string, at, n int, l list) {
	if l[at].numbers == "" {
		return
	}
	c.next(name, at, l)
	c[name][at] = n - 1
}

// written returns a number in figures, as a letter, or as a Roman number while that is short.
func written(n int, as string) string {
	const letters = 26
	romans := []string{"i", "ii", "iii", "iv", "v", "vi", "vii", "viii", "ix", "x"}
	text := strconv.Itoa(n)
	switch lower := strings.ToLower(as); {
	case lower == "a" && n >= 1 && n <= letters:
		text = fmt.Sprintf("%c", 'a'+rune(n-1))
	case lower == "i" && n >= 1 && n <= len(romans):
		text = romans[n-1]
	}
	if as != strings.ToLower(as) {
		return strings.ToUpper(text)
	}
	return text
}
