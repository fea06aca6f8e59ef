// Package pattern is regexp for many expressions on short texts: most of them
// don't match, and for most of those a look at the letters of the text says so.
//
// A Pattern finds exactly what the regular expression of the same words finds.
// From the expression it knows pieces of text of which every match holds at
// least one; a text in which none of them can be is not searched.
package pattern

import (
	"regexp"
	"sync"
)

// A Pattern is a regular expression. It is safe for many goroutines.
type Pattern struct {
	text string
	once sync.Once
	expr *regexp.Regexp
	need []pieces // each of them in every match
}

var (
	mutex sync.Mutex
	made  []*Pattern
)

// Must returns the pattern of an expression in the syntax of regexp, which is compiled when it is
// first used: a program has a thousand of them, and most of its commands use few. It panics then
// where it is wrong.
func Must(expr string) *Pattern {
	p := &Pattern{text: expr}
	mutex.Lock()
	defer mutex.Unlock()
	made = append(made, p)
	return p
}

// Ready compiles all patterns that were made so far, so that nobody who uses one waits for it. It
// panics where one is wrong.
func Ready() {
	mutex.Lock()
	all := made
	mutex.Unlock()
	for _, p := range all {
		p.compiled()
	}
}

func (p *Pattern) compiled() *regexp.Regexp {
	p.once.Do(func() {
		p.expr = regexp.MustCompile(p.text)
		for _, texts := range needed(p.text) {
			p.need = append(p.need, piecesOf(texts))
		}
	})
	return p.expr
}

// String returns the expression.
func (p *Pattern) String() string { return p.text }

// MatchString reports whether the text holds a match, as regexp does.
func (p *Pattern) MatchString(text string) bool { return p.may(text) && p.expr.MatchString(text) }

// FindString returns the first match, or nothing, as regexp does.
func (p *Pattern) FindString(text string) string {
	if !p.may(text) {
		return ""
	}
	return p.expr.FindString(text)
}

// FindStringIndex returns where the first match begins and ends, in bytes; nil where there is none.
func (p *Pattern) FindStringIndex(text string) []int {
	if !p.may(text) {
		return nil
	}
	return p.expr.FindStringIndex(text)
}

// FindStringSubmatch returns the first match and its groups; nil where there is none.
func (p *Pattern) FindStringSubmatch(text string) []string {
	if !p.may(text) {
		return nil
	}
	return p.expr.FindStringSubmatch(text)
}

// FindStringSubmatchIndex returns where the first match and its groups begin and end, in bytes; nil
// where there is none.
func (p *Pattern) FindStringSubmatchIndex(text string) []int {
	if !p.may(text) {
		return nil
	}
	return p.expr.FindStringSubmatchIndex(text)
}

// FindAllString returns the first n matches, or all where n is negative.
func (p *Pattern) FindAllString(text string, n int) []string {
	if !p.may(text) {
		return nil
	}
	return p.expr.FindAllString(text, n)
}

// FindAllStringIndex returns where the first n matches, or all where n is negative, begin and end.
func (p *Pattern) FindAllStringIndex(text string, n int) [][]int {
	if !p.may(text) {
		return nil
	}
	return p.expr.FindAllStringIndex(text, n)
}

// FindAllStringSubmatch returns the first n matches, or all where n is negative, with their groups.
func (p *Pattern) FindAllStringSubmatch(text string, n int) [][]string {
	if !p.may(text) {
		return nil
	}
	return p.expr.FindAllStringSubmatch(text, n)
}

// FindAllStringSubmatchIndex returns where the first n matches, or all where n is negative, and their
// groups begin and end.
func (p *Pattern) FindAllStringSubmatchIndex(text string, n int) [][]int {
	if !p.may(text) {
		return nil
	}
	return p.expr.FindAllStringSubmatchIndex(text, n)
}

// ReplaceAllString returns the text with its matches replaced, in which $1 stands for the first group.
func (p *Pattern) ReplaceAllString(text, with string) string {
	if !p.may(text) {
		return text
	}
	return p.expr.ReplaceAllString(text, with)
}

// ReplaceAllStringFunc returns the text with its matches replaced by what a function makes of them.
func (p *Pattern) ReplaceAllStringFunc(text string, with func(string) string) string {
	if !p.may(text) {
		return text
	}
	return p.expr.ReplaceAllStringFunc(text, with)
}

// SubexpNames returns the names of the groups, the first of them of the whole: "".
func (p *Pattern) SubexpNames() []string { return p.compiled().SubexpNames() }

// Split returns what lies between the matches, in at most n pieces; in all where n is negative.
func (p *Pattern) Split(text string, n int) []string { return p.compiled().Split(text, n) }

// may reports whether the text can hold a match at all.
func (p *Pattern) may(text string) bool {
	p.compiled()
	if len(p.need) == 0 {
		return true
	}
	var in letters
	if !in.look(text) {
		return true
	}
	for _, any := range p.need {
		if !in.hold(any) {
			return false
		}
	}
	return true
}
