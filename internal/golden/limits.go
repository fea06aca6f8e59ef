package golden

import (
	"fmt"
	"reflect"
	"regexp"
	"slices"
	"strings"

	"freshapron/internal/core/exact"
)

// Limits changes each value that v points at, one at a time, and writes where what check
// says of it becomes something else: the numbers between which it is right, how many
// elements there may be, whether texts may be empty, long or unknown. What check says of
// v as it is, is left out. Of lists the first two elements are changed. It leaves v as it
// was.
func Limits(v any, check func() error) string {
	l := limiter{check: check}
	l.usual = l.lines()
	l.walk("", reflect.ValueOf(v).Elem())
	return l.b.String()
}

type limiter struct {
	b     strings.Builder
	check func() error
	usual []string // what check says of what is not changed
}

// least and farthest are from where and up to where numbers are tried, and fullest how many
// elements.
const least, farthest, fullest = -1000, 10_000_000, 220

var (
	number = reflect.TypeOf(exact.Number{})
	figure = regexp.MustCompile(`-?\d+(?:[.,/]\d+)*`)
)

// lines are what check says, without figures, since those of what is wrong stand in it.
func (l *limiter) lines() []string {
	err := l.check()
	if err == nil {
		return nil
	}
	lines := strings.Split(figure.ReplaceAllString(err.Error(), "#"), "\n")
	slices.Sort(lines)
	return slices.Compact(lines)
}

// says is what check says now and otherwise does not: the first line, and how many others
// there are; "as usual" where that is nothing.
func (l *limiter) says() string {
	lines := l.lines()
	if slices.Equal(lines, l.usual) {
		return asUsual
	}
	lines = slices.DeleteFunc(lines, func(s string) bool { return slices.Contains(l.usual, s) })
	switch len(lines) {
	case 0:
		return "says less"
	case 1:
		return short(lines[0])
	}
	return fmt.Sprintf("%s (and %d more)", short(lines[0]), len(lines)-1)
}

const asUsual = "as usual"

func (l *limiter) walk(path string, v reflect.Value) {
	switch {
	case v.Type() == number:
		l.numbers(path, v, func(n int) reflect.Value { return reflect.ValueOf(exact.Frac(int64(n), 4)) }, " quarters")
		l.printed(path, v)
	case v.Kind() == reflect.Pointer && !v.IsNil():
		l.instead(path, v, "none", reflect.Zero(v.Type()))
		l.walk(path, v.Elem())
	case v.CanInt():
		l.numbers(path, v, func(n int) reflect.Value { return reflect.ValueOf(n).Convert(v.Type()) }, "")
	case v.CanFloat():
		l.numbers(path, v, func(n int) reflect.Value { return reflect.ValueOf(float64(n) / 4).Convert(v.Type()) }, " quarters")
	case v.Kind() == reflect.Bool:
		l.instead(path, v, "turned", reflect.ValueOf(!v.Bool()).Convert(v.Type()))
	case v.Kind() == reflect.String:
		for _, text := range []string{"", "unheard of", strings.Repeat("long ", 50)} {
			l.instead(path, v, fmt.Sprintf("%.12q", text), reflect.ValueOf(text).Convert(v.Type()))
		}
	case v.Kind() == reflect.Array:
		for i := range v.Len() {
			l.walk(fmt.Sprintf("%s[%d]", path, i), v.Index(i))
		}
	case v.Kind() == reflect.Slice && v.Len() > 0:
		for i := range min(2, v.Len()) {
			l.walk(fmt.Sprintf("%s[%d]", path, i), v.Index(i))
		}
		l.elements(path, v)
	case v.Kind() == reflect.Struct:
		for i := range v.NumField() {
			if f := v.Type().Field(i); f.IsExported() {
				l.walk(strings.TrimPrefix(path+"."+f.Name, "."), v.Field(i))
			}
		}
	}
}

// instead tries another value.
func (l *limiter) instead(path string, v reflect.Value, what string, other reflect.Value) {
	was := reflect.New(v.Type()).Elem()
	was.Set(v)
	v.Set(other)
	if says := l.says(); says != asUsual {
		fmt.Fprintf(&l.b, "%s %s: %s\n", path, what, says)
	}
	v.Set(was)
}

func (l *limiter) numbers(path string, v reflect.Value, of func(int) reflect.Value, unit string) {
	was := reflect.New(v.Type()).Elem()
	was.Set(v)
	at := func(n int) string {
		v.Set(of(n))
		return l.says()
	}
	if v.CanInt() && v.OverflowInt(farthest) {
		l.changes(path, unit, at, 0, 100)
	} else {
		l.changes(path, unit, at, least, farthest)
	}
	v.Set(was)
}

// printed writes how numbers that have no end are told of.
func (l *limiter) printed(path string, v reflect.Value) {
	was := reflect.New(v.Type()).Elem()
	was.Set(v)
	for _, n := range []int64{-1, 1, 701, 700_001} {
		v.Set(reflect.ValueOf(exact.Frac(n, 7)))
		if l.says() == asUsual {
			continue
		}
		for _, line := range strings.Split(l.check().Error(), "\n") {
			if plain := figure.ReplaceAllString(line, "#"); !slices.Contains(l.usual, plain) {
				fmt.Fprintf(&l.b, "%s at %d/7: %s\n", path, n, short(line))
				break
			}
		}
	}
	v.Set(was)
}

func (l *limiter) elements(path string, v reflect.Value) {
	was := reflect.New(v.Type()).Elem()
	was.Set(v)
	l.changes(path, " elements", func(n int) string {
		s := reflect.MakeSlice(v.Type(), 0, n)
		for i := range n {
			s = reflect.Append(s, was.Index(min(i, was.Len()-1)))
		}
		v.Set(s)
		return l.says()
	}, 0, fullest)
	v.Set(was)
}

// changes writes what is said from the least number on, and from each on from which it is
// something else.
func (l *limiter) changes(path, unit string, at func(int) string, least, most int) {
	said := at(least)
	if said != asUsual {
		fmt.Fprintf(&l.b, "%s under: %s\n", path, said)
	}
	for n := least; n < most; {
		next := min(most, step(n))
		if there := at(next); there != said {
			low, high := n, next // said holds at low, something else at high
			for high-low > 1 {
				if mid := low + (high-low)/2; at(mid) == said {
					low = mid
				} else {
					high = mid
				}
			}
			said, next = at(high), high
			fmt.Fprintf(&l.b, "%s from %d%s: %s\n", path, next, unit, said)
		}
		n = next
	}
}

// step is the next number to try: each of a few about nothing, then ever further ones.
func step(n int) int {
	switch {
	case n < -8:
		return n / 4
	case n < 12:
		return n + 1
	case n < 1000:
		return n + n/3
	}
	return 2 * n
}
