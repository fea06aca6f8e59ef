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
