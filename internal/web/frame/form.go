package frame

import (
	"freshapron/internal/core/problem"
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

// Choice returns a field with options, of which the chosen one is marked.
func Choice(name, label, chosen string, problems problem.List, options []Option) Field {
	f := Field{Name: name, ID: name, Label: label, Value: chosen, Problem: problems.At(name), Options: options}
	for i := range f.Options {
		f.Options[i].Chosen = f.Options[i].Value == chosen
		f.Options[i].ID = name + "-" + f.Options[i].Value
	}
	return f
}

// Text returns a field that is typed.
func Text(name, label, value string, problems problem.List) Field {
	return Field{Name: name, ID: name, Label: label, Value: value, Problem: problems.At(name)}
}
