// Package tree walks a JSON file that people write by hand and collects what is
// wrong with it, each thing with the path at which it stands.
package tree

import (
	"bytes"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"slices"
	"strconv"

	"freshapron/internal/core/exact"
	"freshapron/internal/core/problem"
	"freshapron/internal/core/words"
	"freshapron/internal/formats/jsonkind"
)

// maxBytes is the size of the largest file that is read.
const maxBytes = 16 << 20

// Decode reads one JSON value, numbers kept as text, and nothing after it.
func Decode(r io.Reader) (any, error) {
	data, err := io.ReadAll(io.LimitReader(r, maxBytes+1))
	if err != nil {
		return nil, err
	}
	if len(data) > maxBytes {
		return nil, problem.List{{Path: "$", Says: fmt.Sprintf("the file is over %d MB; nothing that is read here is that long", maxBytes>>20)}}
	}
	d := json.NewDecoder(bytes.NewReader(data))
	d.UseNumber()
	var v any
	if err := d.Decode(&v); err != nil {
		return nil, problem.List{{Path: "$", Says: "the file is not JSON: " + explain(err, data)}}
	}
	if _, err := d.Token(); err != io.EOF {
		return nil, problem.List{{Path: "$", Says: "the file goes on after its end, " + position(data, d.InputOffset())}}
	}
	return v, nil
}

func explain(err error, data []byte) string {
	var syntax *json.SyntaxError
	switch {
	case errors.Is(err, io.EOF):
		return "it is empty"
	case errors.Is(err, io.ErrUnexpectedEOF):
		return "it ends in the middle"
	case errors.As(err, &syntax):
		return syntax.Error() + ", " + position(data, syntax.Offset)
	}
	return err.Error()
}

func position(data []byte, offset int64) string {
	before := data[:min(int(offset), len(data))]
	line := 1 + bytes.Count(before, []byte("\n"))
	column := len(before) - bytes.LastIndexByte(before, '\n') - 1
	return fmt.Sprintf("at line %d, column %d", line, max(column, 1))
}

// A Reader collects what is wrong with a file.
type Reader struct {
	Problems problem.List
}

// Add notes a problem at a path.
func (r *Reader) Add(path, format string, args ...any) {
	r.Problems = append(r.Problems, problem.Problem{Path: path, Says: fmt.Sprintf(format, args...)})
}

// A Node is a value in the file and where it stands.
type Node struct {
	*Reader
	Path  string
	Value any
	Found bool
}

// Root is the whole file, as decoded.
func (r *Reader) Root(value any) Node { return Node{r, "$", value, true} }

// An Object is a node whose fields are taken one by one; Done reports those
// that nobody took.
type Object struct {
	Node
	Fields map[string]any // nil where it is no object
	taken  []string
}

// Object takes the node for an object; anything else is a problem.
func (n Node) Object() *Object {
	fields, ok := n.Value.(map[string]any)
	if !ok && n.Found {
		n.Add(n.Path, "is %s; it must be an object { … }", jsonkind.Of(n.Value))
	}
	return &Object{Node: n, Fields: fields}
}

// Each calls f with every element of a list.
func (n Node) Each(f func(i int, n Node)) {
	if !n.Found {
		return
	}
	list, ok := n.Value.([]any)
	if !ok {
		n.Add(n.Path, "is %s; it must be a list [ … ]", jsonkind.Of(n.Value))
		return
	}
	for i, v := range list {
		f(i, Node{n.Reader, fmt.Sprintf("%s[%d]", n.Path, i), v, true})
	}
}

// Field takes a field. A required one that is missing is a problem.
func (o *Object) Field(name string, required bool) Node {
	o.taken = append(o.taken, name)
	v, ok := o.Fields[name]
	path := name
	if o.Path != "$" {
		path = o.Path + "." + name
	}
	if !ok && required && o.Fields != nil {
		o.Add(path, "is missing")
	}
	return Node{o.Reader, path, v, ok}
}

// Has reports whether the field is there.
func (o *Object) Has(name string) bool {
	_, ok := o.Fields[name]
	return ok
}

// Head takes the fields by which a file says what it is and in which version.
func (o *Object) Head(format string, version int, what string) {
	if f := o.Text("format", true); o.Has("format") && f != format {
		o.Add("format", "is %q; %s says %q", f, what, format)
	}
	if v := o.Count("version", version, true); v != version {
		o.Add("version", "is %d; this program reads version %d", v, version)
	}
}

// Done reports the fields that are unknown.
func (o *Object) Done() {
	var unknown []string
	for name := range o.Fields {
		if !slices.Contains(o.taken, name) {
			unknown = append(unknown, name)
		}
	}
	slices.Sort(unknown)
	for _, name := range unknown {
		path := name
		if o.Path != "$" {
			path = o.Path + "." + name
		}
		hint := ""
		if near := words.Nearest(name, o.taken); near != "" {
			hint = fmt.Sprintf("; did you mean %q?", near)
		}
		o.Add(path, "is no field that is known here%s", hint)
	}
}

// Text takes a text.
func (o *Object) Text(name string, required bool) string {
	n := o.Field(name, required)
	if !n.Found {
		return ""
	}
	s, ok := n.Value.(string)
	if !ok {
		n.Add(n.Path, "is %s; it must be a text in \"quotes\"", jsonkind.Of(n.Value))
	}
	return s
}

// Flag takes true or false; false where it is absent.
func (o *Object) Flag(name string) bool {
	n := o.Field(name, false)
	if !n.Found {
		return false
	}
	b, ok := n.Value.(bool)
	if !ok {
		n.Add(n.Path, "is %s; it must be true or false", jsonkind.Of(n.Value))
	}
	return b
}

// Number takes an optional number.
func (o *Object) Number(name string, otherwise exact.Number, required bool) exact.Number {
	n := o.Field(name, required)
	if !n.Found {
		return otherwise
	}
	text, ok := n.Value.(json.Number)
	if !ok {
		n.Add(n.Path, "is %s; it must be a number", jsonkind.Of(n.Value))
		return otherwise
	}
	v, err := exact.Parse(text.String())
	if err != nil {
		n.Add(n.Path, "%s is too long or too large a number", text)
		return otherwise
	}
	return v
}

// Maybe takes a number that may be absent.
func (o *Object) Maybe(name string, required bool) *exact.Number {
	if !o.Has(name) {
		o.Field(name, required)
		return nil
	}
	v := o.Number(name, exact.Number{}, required)
	return &v
}

// Count takes a whole number.
func (o *Object) Count(name string, otherwise int, required bool) int {
	v := o.Number(name, exact.Int(int64(otherwise)), required)
	if !v.IsInt() || v.Abs().Cmp(exact.Int(1e6)) > 0 {
		n := o.Field(name, false)
		n.Add(n.Path, "is %s; it must be a whole number", v.Decimal(4))
		return otherwise
	}
	return int(v.Floor())
}

// MaybeCount takes a whole number that may be absent.
func (o *Object) MaybeCount(name string) *int {
	if !o.Has(name) {
		o.Field(name, false)
		return nil
	}
	v := o.Count(name, 0, false)
	return &v
}

// Counts takes an optional list of whole numbers; nil where it is not there.
func (o *Object) Counts(name string) []int {
	var out []int
	if o.Has(name) {
		out = []int{}
	}
	o.Field(name, false).Each(func(_ int, n Node) {
		i, err := strconv.Atoi(fmt.Sprint(n.Value))
		if _, ok := n.Value.(json.Number); !ok || err != nil {
			n.Add(n.Path, "is %s; it must be a whole number", jsonkind.Of(n.Value))
		}
		out = append(out, i)
	})
	return out
}

// Choice takes a text that must be one of a few.
func (o *Object) Choice(name, otherwise string, known []string) string {
	n := o.Field(name, false)
	if !n.Found {
		return otherwise
	}
	s, ok := n.Value.(string)
	if ok && slices.Contains(known, s) {
		return s
	}
	given := jsonkind.Of(n.Value)
	if ok {
		given = strconv.Quote(s)
	}
	hint := ""
	if near := words.Nearest(s, known); near != "" {
		hint = fmt.Sprintf("; did you mean %q?", near)
	}
	n.Add(n.Path, "is %s; it must be one of %v%s", given, known, hint)
	return otherwise
}
