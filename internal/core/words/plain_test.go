package words_test

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"freshapron/internal/core/words"
)

func TestPlain(t *testing.T) {
	for text, want := range map[string]string{
		"200\u00a0g\u202fplain ﬂour": "200 g plain flour", "O&#39;Dowd &amp; &frac12;": "O'Dowd & ½", "180℃": "180°C", "bak\u00ading": "baking",
		"> a\n> b\n>\n> c": "a\nb\n\nc", "> a": "a", "a\n> b\nc": "a\n> b\nc", ">> a\n> > b": "a\nb", "a &#10; b": "a   b", "R&D; x": "R&D; x",
	} {
		assert.Equal(t, want, words.Plain(text))
	}
}
