// Package problem says what is wrong with something that came in: where, and
// what, and how to mend it.
package problem

import (
	"errors"
	"fmt"
	"strings"
)

// A Problem is one thing that is wrong: where, as the name of a form's field
// or a JSON path into a file, and what, as a sentence that says how to mend it.
type Problem struct {
	Path string
	Says string
}

// Error prints the place and what is wrong there.
func (p Problem) Error() string { return p.Path + ": " + p.Says }

// A List is an error that names every problem of something. The zero value is
// no problem; as an error return [List.Err], since an empty List is not nil.
type List []Problem

// Error prints a problem a line.
func (l List) Error() string {
	lines := make([]string, len(l))
	for i, p := range l {
		lines[i] = p.Error()
	}
	return strings.Join(lines, "\n")
}

// Add adds a problem.
func (l *List) Add(path, format string, args ...any) {
	*l = append(*l, Problem{path, fmt.Sprintf(format, args...)})
}

// Err returns the list as an error, nil where it is empty.
func (l List) Err() error {
	if len(l) == 0 {
		return nil
	}
	return l
}

// At returns what is wrong at a place as one text of sentences.
func (l List) At(path string) string {
	var says []string
	for _, p := range l {
		if p.Path == path {
			says = append(says, Sentence(p.Says))
		}
	}
	return strings.Join(says, " ")
}

// New returns a list of one problem, as an error.
func New(path, format string, args ...any) error {
	return List{{path, fmt.Sprintf(format, args...)}}
}

// Of returns the problems that an error names; nil where it is another error
// or none.
func Of(err error) List {
	var l List
	errors.As(err, &l)
	return l
}

// Sentence makes a sentence of what a problem says.
func Sentence(s string) string {
	if s == "" {
		return s
	}
	r := []rune(s)
	s = strings.ToUpper(string(r[0])) + string(r[1:])
	if !strings.ContainsAny(s[len(s)-1:], ".?!") {
		s += "."
	}
	return s
}
