package reading_test

import (
	"fmt"
	"os"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"freshapron/internal/core/pantry"
	"freshapron/internal/core/reading"
	"freshapron/internal/golden"
)

// Texts of several dishes come apart at each, and the parts of one dish stay together.
func TestSplitDishes(t *testing.T) {
	data, err := os.ReadFile("testdata/dishes.txt")
	require.NoError(t, err)
	right, of := map[string]int{}, map[string]int{}
	var b strings.Builder
	for _, c := range strings.Split(string(data), "=== ")[1:] {
		head, text, _ := strings.Cut(c, "\n")
		half, titles, _ := strings.Cut(head, ": ")
		want := strings.Split(titles, " | ")
		dishes, above := reading.Split(text, pantry.Stock())
		fmt.Fprintf(&b, "=== %s, above %q, first %s\n", head, above, golden.Sum(reading.ReadFirst(text, nil, pantry.Stock())))
		var got []string
		for _, d := range dishes {
			r := reading.Read(d.Text, nil, pantry.Stock())
			got = append(got, r.Title)
			fmt.Fprintf(&b, "%s: %d to %d, %s\n", d.Title, d.First, d.Last, golden.Sum(r))
		}
		of[half]++
		if strings.Join(got, " | ") == strings.Join(want, " | ") {
			right[half]++
		} else if half == "tuned" {
			t.Errorf("%q came apart as %q", want, got)
		}
	}
	t.Logf("right: tuned %d of %d, measured %d of %d", right["tuned"], of["tuned"], right["measured"], of["measured"])
	assert.GreaterOrEqual(t, right["measured"], 9)
	golden.Same(t, "dishes.golden", b.String())
}

// A text of one dish stays whole.
func TestOneDishStaysWhole(t *testing.T) {
	for n, c := range append(corpus(t, "tuned.txt"), corpus(t, "measured.txt")...) {
		if n%4 != 0 {
			continue
		}
		text := strings.Join(c.lines, "\n")
		dishes, above := reading.Split(text, pantry.Stock())
		require.Len(t, dishes, 1, "%s: %+v", c.lines[0], dishes)
		require.Equal(t, text, dishes[0].Text)
		require.Empty(t, above)
	}
}

// Of a text of several dishes the first is read; every line of the others says where it belongs.
func TestReadFirst(t *testing.T) {
	text := "Autumn booklet\n\nOat bars\n200 g oats\n100 g butter\nMelt the butter and stir in the oats.\n\nPear salad (serves 2)\n2 pears\n50 g walnuts\nSlice the pears.\nScatter with the walnuts."
	r := reading.ReadFirst(text, nil, pantry.Stock())
	assert.Equal(t, "Oat bars", r.Title)
	assert.Equal(t, 3, r.TitleLine)
	assert.Len(t, r.Ingredients, 2)
	var why []string
	for _, u := range r.Unread {
		why = append(why, fmt.Sprintf("%d %s: %s", u.Line, u.Text, u.Why))
	}
	const other = ": it belongs to another dish, “Pear salad (serves 2)”: bring that in by itself"
	assert.Equal(t, []string{
		"1 Autumn booklet: it stands above the first of several dishes",
		"8 Pear salad (serves 2)" + other, "9 2 pears" + other, "10 50 g walnuts" + other, "11 Slice the pears." + other, "12 Scatter with the walnuts." + other,
	}, why)
	whole := "Oat bars\n200 g oats\n100 g butter\nMelt the butter and stir in the oats."
	assert.Equal(t, reading.Read(whole, nil, pantry.Stock()), reading.ReadFirst(whole, nil, pantry.Stock()))
}

// What is to be brought and stands in the list of ingredients too is needed once; what stands there alone is
// needed as well, and two amounts are asked.
func TestBroughtTwice(t *testing.T) {
	r := read("Practical 3\nPlease bring:\n3 peppers\n1 onion\n1 lime\n\nFajitas\nIngredients\n2 peppers\n1 onion\n4 wraps\nMethod\n1. Slice and fry the vegetables for 6 minutes.\n2. Fill the wraps.")
	var lines []int
	for _, i := range r.Ingredients {
		lines = append(lines, i.Line)
	}
	assert.Equal(t, []int{5, 9, 10, 11}, lines)
	assert.Contains(t, r.Unread, reading.Unread{Line: 3, Text: "3 peppers", Why: "the list has “2 peppers”: which of the two is needed?"})
	assert.Contains(t, r.Unread, reading.Unread{Line: 2, Text: "Please bring:", Why: "what is to be brought stands in the list too, and is taken once: is that right?"})
	assert.Len(t, read("Fajitas\nYou need to bring\n2 peppers\n1 onion\n\nMethod\n1. Slice and fry for 6 minutes.").Ingredients, 2)
}
