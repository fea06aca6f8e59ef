package golden

import (
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
