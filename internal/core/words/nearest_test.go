package words_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"

	"freshapron/internal/core/words"
)

// A letter that is missing, too much, another, or in its neighbour's place is one step,
// at either end; a third of the letters may be wrong, and one always.
func TestTheNearestWord(t *testing.T) {
	for word, want := range map[string]string{
		"rub": "rib", "ib": "rib", "ri": "rib", "xrib": "rib", "ribx": "rib", "irb": "rib", "rbi": "rib", "RIB": "rib",
		"rab": "rib", "zzz": "", "": "", "rabs": "",
		"whsik": "whisk", "wihks": "", "hwisk": "whisk",
	} {
		assert.Equal(t, want, words.Nearest(word, []string{"rib", "whisk"}), word)
	}
	assert.Equal(t, "bake", words.Nearest("bakes", []string{"bank", "bake", "baked"}), "the first of those that are as near")
	assert.Equal(t, "baked", words.Nearest("baked", []string{"bake", "baked"}))
	assert.Equal(t, "grated carrots", words.Nearest("grated carots x", []string{"grated carrots"}))
	long := strings.Repeat("a", 64)
	assert.Equal(t, long, words.Nearest(long[:60], []string{long}))
	assert.Empty(t, words.Nearest(long+"a", []string{long}), "nobody means what is longer")
	assert.Empty(t, words.Nearest(long, []string{long + "a"}))
	assert.Equal(t, `; did you mean "rib"?`, words.DidYouMean("rub", []string{"rib"}))
	assert.Empty(t, words.DidYouMean("steam", []string{"rib"}))
}

func TestPuttingIntoWords(t *testing.T) {
	assert.Equal(t, []string{"Rub in.", "Roll 2.5 cm thick.", "Cut"}, words.Sentences("Rub in. Roll 2.5 cm thick.  Cut"))
	assert.Empty(t, words.Sentences("  "))
	assert.Equal(t, "éclair", words.Small("Éclair"))
	assert.Empty(t, words.Small(""))
	assert.Equal(t, "", words.Or(nil))
	assert.Equal(t, "a", words.Or([]string{"a"}))
	assert.Equal(t, "a or b", words.Or([]string{"a", "b"}))
	assert.Equal(t, "a, b or c", words.Or([]string{"a", "b", "c"}))
	assert.Equal(t, "Ada and Bo", words.Names([]string{"Ada", "Bo"}))
}
