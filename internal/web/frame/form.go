package frame

import (
	"strings"

	"freshapron/internal/core/fit"
)

// A Field of a form, ready to show.
type Field struct {
	Name, ID, Label, Value string
	Problem                string
	Options                []Option
}

// An Option of a field.
type Option struct {
	Value, Label, Small string
	Chosen              bool
	ID                  string
}

// Find returns the problems of a field as one text.
func Find(problems fit.Problems, path string) string {
	var says []string
	for _, p := range problems {
		if p.Path == path {
			says = append(says, Sentence(p.Says))
		}
	}
	return strings.Join(says, " ")
}

// Sentence makes a sentence of a problem's text.
func Sentence(s string) string {
	if s == "" {
		return s
	}
	r := []rune(s)
	s = strings.ToUpper(string(r[0])) + string(r[1:])
	if !strings.HasSuffix(s, ".") {
		s += "."
	}
	return s
}

// Choice returns a field with options, of which the chosen one is marked.
func Choice(name, label, chosen string, problems fit.Problems, options []Option) Field {
	f := Field{Name: name, ID: name, Label: label, Value: chosen, Problem: Find(problems, name), Options: options}
	for i := range f.Options {
		f.Options[i].Chosen = f.Options[i].Value == chosen
		f.Options[i].ID = name + "-" + f.Options[i].Value
	}
	return f
}

// Text returns a field that is typed.
func Text(name, label, value string, problems fit.Problems) Field {
	return Field{Name: name, ID: name, Label: label, Value: value, Problem: Find(problems, name)}
}
