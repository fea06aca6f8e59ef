package golden

import (
	"errors"
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
)

func TestDifference(t *testing.T) {
	for _, c := range []struct {
		a, b string
		line int
		was  string
		is   string
	}{
		{"a\nb\nc", "a\nx\nc", 2, "b", "x"},
		{"a", "a\nb", 2, "nothing", "b"},
		{"a\nb", "a", 2, "b", "nothing"},
	} {
		line, was, is, differ := difference(c.a, c.b)
		assert.True(t, differ)
		assert.Equal(t, []any{c.line, c.was, c.is}, []any{line, was, is})
	}
	_, _, _, differ := difference("a\nb", "a\nb")
	assert.False(t, differ)
}

func TestAll(t *testing.T) {
	third := 1.0 / 3
	assert.Equal(t, "  {A:<*>0.3333 b:[1 2]}\n  map[x:1 y:2]\n", All(struct {
		A *float64
		b []int
	}{&third, []int{1, 2}}, map[string]int{"y": 2, "x": 1}))
	long := strings.Repeat("a", most)
	assert.Equal(t, "  "+long+"\n", All(long))
	assert.NotEqual(t, All(long+"b"), All(long+"c"))
}

func TestLimits(t *testing.T) {
	v := struct {
		Count int
		Name  string
		List  []float64
	}{3, "a", []float64{1}}
	says := Limits(&v, func() error {
		switch {
		case v.Count < 1 || v.Count > 60:
			return fmt.Errorf("%d is not between 1 and 60", v.Count)
		case v.Name == "":
			return errors.New("no name")
		case len(v.List) > 20:
			return errors.New("too many")
		}
		return nil
	})
	assert.Contains(t, says, "Count under: # is not between # and #\nCount from 1: as usual\nCount from 61: # is not between # and #\n")
	assert.Contains(t, says, "Name \"\": no name\nList")
	assert.Contains(t, says, "List from 21 elements: too many\n")
	assert.Equal(t, 3, v.Count)
	assert.Len(t, v.List, 1)
}
