package lessonfile

import (
	"bytes"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"slices"
	"strconv"

	"freshapron/internal/core/exact"
	"freshapron/internal/core/fit"
	"freshapron/internal/core/problem"
	"freshapron/internal/formats/jsonkind"
)

// maxBytes is the size of the largest file that is read.
const maxBytes = 16 << 20

// decode reads one JSON value, numbers kept as text, and nothing after it.
func decode(r io.Reader) (any, error) {
	data, err := io.ReadAll(io.LimitReader(r, maxBytes+1))
	if err != nil {
		return nil, err
	}
	if len(data) > maxBytes {
		return nil, problem.List{{Path: "$", Says: fmt.Sprintf("the file is over %d MB; no lesson is that long", maxBytes>>20)}}
	}
	d := json.NewDecoder(bytes.NewReader(data))
	d.UseNumber()
	var v any
	if err := d.Decode(&v); err != nil {
		return nil, problem.List{{Path: "$", Says: "the file is not JSON: " + explain(err, data)}}
	}
	if _, err := d.Token(); err != io.EOF {
		return nil, problem.List{{Path: "$", Says: "the file goes on after the lesson has ended, " + position(data, d.InputOffset())}}
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

// reader walks a decoded file and collects what is wrong with it.
type reader struct {
	problems problem.List
}

func (r *reader) add(path, format string, args ...any) {
	r.problems = append(r.problems, problem.Problem{Path: path, Says: fmt.Sprintf(format, args...)})
}

// A node is a value in the file and where it stands.
type node struct {
	*reader
	path  string
	value any
	found bool
}

// An object is a node whose fields are taken one by one; done reports those
// that nobody took.
type object struct {
	node
	fields map[string]any
	taken  []string
}

func (n node) object() *object {
	fields, ok := n.value.(map[string]any)
	if !ok && n.found {
		n.add(n.path, "is %s; it must be an object { … }", jsonkind.Of(n.value))
	}
	return &object{node: n, fields: fields}
}

// each calls f with every element of a list.
func (n node) each(f func(i int, n node)) {
	if !n.found {
		return
	}
	list, ok := n.value.([]any)
	if !ok {
		n.add(n.path, "is %s; it must be a list [ … ]", jsonkind.Of(n.value))
		return
	}
	for i, v := range list {
		f(i, node{n.reader, fmt.Sprintf("%s[%d]", n.path, i), v, true})
	}
}

// field takes a field. A required one that is missing is a problem.
func (o *object) field(name string, required bool) node {
	o.taken = append(o.taken, name)
	v, ok := o.fields[name]
	path := name
	if o.path != "$" {
		path = o.path + "." + name
	}
	if !ok && required && o.fields != nil {
		o.add(path, "is missing")
	}
	return node{o.reader, path, v, ok}
}

func (o *object) has(name string) bool {
	_, ok := o.fields[name]
	return ok
}

// done reports the fields that are unknown.
func (o *object) done() {
	var unknown []string
	for name := range o.fields {
		if !slices.Contains(o.taken, name) {
			unknown = append(unknown, name)
		}
	}
	slices.Sort(unknown)
	for _, name := range unknown {
		path := name
		if o.path != "$" {
			path = o.path + "." + name
		}
		hint := ""
		if near := fit.Nearest(name, o.taken); near != "" {
			hint = fmt.Sprintf("; did you mean %q?", near)
		}
		o.add(path, "is no field that is known here%s", hint)
	}
}

func (o *object) text(name string, required bool) string {
	n := o.field(name, required)
	if !n.found {
		return ""
	}
	s, ok := n.value.(string)
	if !ok {
		n.add(n.path, "is %s; it must be a text in \"quotes\"", jsonkind.Of(n.value))
	}
	return s
}

func (o *object) flag(name string) bool {
	n := o.field(name, false)
	if !n.found {
		return false
	}
	b, ok := n.value.(bool)
	if !ok {
		n.add(n.path, "is %s; it must be true or false", jsonkind.Of(n.value))
	}
	return b
}

// number takes an optional number.
func (o *object) number(name string, otherwise exact.Number, required bool) exact.Number {
	n := o.field(name, required)
	if !n.found {
		return otherwise
	}
	text, ok := n.value.(json.Number)
	if !ok {
		n.add(n.path, "is %s; it must be a number", jsonkind.Of(n.value))
		return otherwise
	}
	v, err := exact.Parse(text.String())
	if err != nil {
		n.add(n.path, "%s is too long or too large a number", text)
		return otherwise
	}
	return v
}

// maybe takes a number that may be absent.
func (o *object) maybe(name string, required bool) *exact.Number {
	if !o.has(name) {
		o.field(name, required)
		return nil
	}
	v := o.number(name, exact.Number{}, required)
	return &v
}

// count takes a whole number.
func (o *object) count(name string, otherwise int, required bool) int {
	v := o.number(name, exact.Int(int64(otherwise)), required)
	if !v.IsInt() || v.Abs().Cmp(exact.Int(1e6)) > 0 {
		n := o.field(name, false)
		n.add(n.path, "is %s; it must be a whole number", v.Decimal(4))
		return otherwise
	}
	return int(v.Floor())
}

// counts takes an optional list of whole numbers; nil where it is not there.
func (o *object) counts(name string) []int {
	var out []int
	if o.has(name) {
		out = []int{}
	}
	o.field(name, false).each(func(_ int, n node) {
		i, err := strconv.Atoi(fmt.Sprint(n.value))
		if _, ok := n.value.(json.Number); !ok || err != nil {
			n.add(n.path, "is %s; it must be a whole number", jsonkind.Of(n.value))
		}
		out = append(out, i)
	})
	return out
}

// choice takes a text that must be one of a few.
func (o *object) choice(name, otherwise string, known []string) string {
	n := o.field(name, false)
	if !n.found {
		return otherwise
	}
	s, ok := n.value.(string)
	if ok && slices.Contains(known, s) {
		return s
	}
	given := jsonkind.Of(n.value)
	if ok {
		given = strconv.Quote(s)
	}
	hint := ""
	if near := fit.Nearest(s, known); near != "" {
		hint = fmt.Sprintf("; did you mean %q?", near)
	}
	n.add(n.path, "is %s; it must be one of %v%s", given, known, hint)
	return otherwise
}
