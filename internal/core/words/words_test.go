package words_test

import (
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"

	"freshapron/internal/core/words"
)

func ExampleNumbered() {
	fmt.Println(words.Numbered([]string{"Bench 3", "Bench 1", "Bench 2", "Oven 2", "Bench 7"}))
	// Output: Bench 1–3, 7, Oven 2
}

func TestWords(t *testing.T) {
	assert.Equal(t, "1 bench", words.Plural(1, "bench", "benches"))
	assert.Equal(t, "0 benches", words.Plural(0, "bench", "benches"))
	assert.Equal(t, "2 benches", words.Plural(2, "bench", "benches"))
	for in, want := range map[string]string{"": "", "a": "A", "éclair": "Éclair", "Oven": "Oven", "½ tsp": "½ tsp"} {
		assert.Equal(t, want, words.Capital(in))
	}
	assert.Equal(t, strings.Repeat("é", 40), words.Short(strings.Repeat("é", 40)))
	assert.Equal(t, strings.Repeat("é", 40)+"…", words.Short(strings.Repeat("é", 41)))
	assert.Equal(t, "", words.Names(nil))
	assert.Equal(t, "Ada", words.Names([]string{"Ada"}))
	assert.Equal(t, "Ada, Bo and Cy", words.Names([]string{"Ada", "Bo", "Cy"}))
}

// What differs only in the number at the end is put together, and nothing else.
func TestNumbered(t *testing.T) {
	for _, c := range []struct {
		in   []string
		want string
	}{
		{nil, ""},
		{[]string{"Oven 1"}, "Oven 1"},
		{[]string{"Oven 1", "Oven 2"}, "Oven 1, 2"},
		{[]string{"Oven 0", "Oven 1", "Oven 2"}, "Oven 0–2"},
		{[]string{"Oven 2", "Oven 1", "Oven 3", "Oven 5"}, "Oven 1–3, 5"},
		{[]string{"Oven 1", "Oven 2", "Oven 3", "Oven 4", "Oven 6", "Oven 7", "Oven 8"}, "Oven 1–4, 6–8"},
		{[]string{"Bench 1", "Oven 2", "Oven 3"}, "Bench 1, Oven 2, 3"},
		{[]string{"Window oven", "Oven 1"}, "Oven 1, Window oven"},
		{[]string{"Oven", "Oven 1"}, "Oven, Oven 1"},
		{[]string{"Oven", "Oven"}, "Oven, Oven"},
		{[]string{"Oven -1", "Oven 1"}, "Oven 1, Oven -1"},
		{[]string{" 4"}, " 4"},
		{[]string{"4"}, "4"},
		{[]string{"Bench 1a", "Bench 1b", "Bench 2a"}, "Bench 1a–2a"},
		{[]string{"Bench 1a", "Bench 1b", "Bench 2b"}, "Bench 1a, 1b, 2b"},
		{[]string{"Bench 1a", "Bench 1c", "Bench 2a", "Bench 2b", "Bench 3a"}, "Bench 1a, 1c–3a"},
		{[]string{"Bench 1", "Bench 1a", "Bench 2"}, "Bench 1, 1a, 2"},
		{[]string{"Bench 1ab", "Bench 2ab", "Bench 3ab"}, "Bench 1ab, 2ab, 3ab"},
		{[]string{"Bench 1", "Bench 3", "Bench 5"}, "Bench 1, 3, 5"},
	} {
		assert.Equal(t, c.want, words.Numbered(c.in), "%q", c.in)
	}
}

func TestNamesOfTwo(t *testing.T) {
	assert.Equal(t, "Ada and Bo", words.Names([]string{"Ada", "Bo"}))
	assert.Empty(t, words.Capital(""))
}

func TestSentences(t *testing.T) {
	assert.Equal(t, []string{"Melt the butter.", "Stir in 1.5 l of milk.", "Simmer"}, words.Sentences("Melt the butter.  Stir in 1.5 l of milk. Simmer"))
	assert.Empty(t, words.Sentences(" "))
}

func TestNearest(t *testing.T) {
	known := []string{"weigh", "bake", "cool"}
	assert.Equal(t, "weigh", words.Nearest("wiegh", known))
	assert.Equal(t, "weigh", words.Nearest("Weigh", known))
	assert.Empty(t, words.Nearest("marinate", known))
}
