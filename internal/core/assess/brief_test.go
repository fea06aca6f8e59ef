package assess_test

import (
	"context"
	"fmt"
	"os"
	"slices"
	"strconv"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"freshapron/internal/core/assess"
	"freshapron/internal/core/pantry"
)

func dish(t *testing.T, id, tags string, pence float64) assess.Dish {
	t.Helper()
	d, err := assess.ReadTags(tags)
	require.NoError(t, err)
	d.ID, d.Title, d.Pence, d.Diets = id, id, pence, make([]pantry.Verdict, len(pantry.Diets))
	return d
}

// Every form of a condition: met, not met and not known, each with why.
func TestConditions(t *testing.T) {
	tart := dish(t, "tartlets", "hot, bite-sized; colours: green, gold; main: leek", 80)
	tart.Skills, tart.Allergens = []string{"Shortcrust pastry", "rub in"}, []pantry.Allergen{pantry.Milk, pantry.Wheat}
	tart.Diets[1] = pantry.Never
	dip := dish(t, "dip", "cold; colours: green; main: peas", 40)
	dip.May = []pantry.Allergen{pantry.Hazelnuts}
	bare := assess.Dish{ID: "stew", Title: "stew", Pence: 100, Unpriced: []string{"bay"}, Diets: slices.Repeat([]pantry.Verdict{pantry.Ask}, len(pantry.Diets)), Unknown: true}
	choice := func(list ...assess.Dish) assess.Choice {
		var c assess.Choice
		for _, d := range list {
			c.Dishes = append(c.Dishes, assess.Chosen{Dish: d, Portions: 4})
		}
		return c
	}
	one := choice(tart)
	one.Dishes[0].Portions = 0
	side := choice(tart, dip)
	side.Dishes[1].Side = true
	menu := choice(tart)
	menu.Papers = []string{"menu card"}
	for _, c := range []struct {
		line  string
		of    assess.Choice
		state assess.State
		why   string
	}{
		{"2 dishes", choice(tart, dip), assess.Met, "2 are chosen"},
		{"2 dishes", side, assess.NotMet, "1 is chosen"},
		{"Exactly 1 accompaniment.", side, assess.Met, "1 is chosen"},
		{"at least 1 hot", choice(tart), assess.Met, "tartlets"},
		{"1 hot", choice(dip), assess.NotMet, "none is"},
		{"1 hot", choice(dip, bare), assess.NotKnown, "stew"},
		{"at most 1 cold", choice(dip, dip), assess.NotMet, "dip"},
		{"at most 1 cold", choice(dip, bare), assess.NotKnown, "stew"},
		{"at most 1 cold", choice(tart), assess.Met, ""},
		{"at least 2 of: rub in, pastry, knife", choice(tart), assess.Met, "rub in in tartlets"},
		{"at least 2 of: rub in, knife", choice(tart), assess.NotMet, "rub in in tartlets"},
		{"at least 1 of: knife", choice(tart), assess.NotMet, "none of them"},
		{"cost at most 1.20", choice(tart, dip), assess.Met, "£1.20"},
		{"cost at most £1,19", choice(tart, dip), assess.NotMet, "£1.20"},
		{"cost at most 9", choice(bare), assess.NotKnown, "bay"},
		{"at least 2 colours", choice(tart), assess.Met, "gold and green"},
		{"3 different colours", choice(tart, dip), assess.NotMet, "only gold and green"},
		{"3 colours", choice(tart, bare), assess.NotKnown, "stew"},
		{"2 textures", choice(), assess.NotMet, "nothing is chosen"},
		{"no main ingredient twice", choice(tart, dip), assess.Met, ""},
		{"no main ingredient twice", choice(tart, tart), assess.NotMet, "leek is in tartlets and in tartlets"},
		{"no main ingredient twice", choice(tart, bare), assess.NotKnown, "stew"},
		{"no dairy", choice(tart), assess.NotMet, "tartlets"},
		{"no nuts", choice(tart), assess.Met, ""},
		{"without nuts", choice(tart, dip), assess.NotKnown, "dip"},
		{"no fish", choice(bare), assess.NotKnown, "stew"},
		{"all vegetarian", choice(tart), assess.Met, ""},
		{"all vegan", choice(tart), assess.NotMet, "tartlets is not"},
		{"all vegan", choice(bare), assess.NotKnown, "stew"},
		{"4 portions of each", choice(tart), assess.Met, ""},
		{"5 portions", choice(tart), assess.NotMet, "4 of tartlets"},
		{"5 portions", one, assess.NotKnown, "tartlets"},
		{"hand in: menu card by 2026-11-20", menu, assess.Met, ""},
		{"hand in: menu card by 2026-11-20", choice(), assess.NotMet, ""},
	} {
		b, err := assess.ReadBrief(c.line, time.UTC, nil)
		require.NoError(t, err, c.line)
		v := b.Check(c.of)[0]
		assert.Equal(t, c.state, v.State, "%s: %s", c.line, v.Why)
		assert.Contains(t, v.Why, c.why, c.line)
		assert.NotEmpty(t, v.Says)
	}
	for _, f := range assess.Forms {
		_, err := assess.ReadBrief(f, time.UTC, nil)
		assert.NoError(t, err, f)
	}
}

// A choice costs and takes what its dishes do, and is named by them.
func TestSumsOfAChoice(t *testing.T) {
	tart, dip := dish(t, "tart", "hot", 120.5), dish(t, "dip", "cold", 40)
	tart.Minutes, dip.Minutes = 35, 12.5
	c := assess.Choice{Dishes: []assess.Chosen{{Dish: tart}, {Dish: dip, Side: true}}}
	assert.InDelta(t, 160.5, c.Pence(), 1e-9)
	assert.InDelta(t, 47.5, c.Minutes(), 1e-9)
	dishes, sides := c.Titles()
	assert.Equal(t, []string{"tart"}, dishes)
	assert.Equal(t, []string{"dip"}, sides)
	assert.Zero(t, assess.Choice{}.Pence())
}

// What is no condition is said at its line, with how one is written.
func TestNoConditions(t *testing.T) {
	for line, says := range map[string]string{
		"tasty":                               "no condition that can be checked",
		"99 dishes":                           "no number from 1 to 12",
		"0 hot":                               "no number",
		"no joy":                              "“joy” is no allergen",
		"no nuts, no microwave":               "is no allergen",
		"all blue":                            "“blue” is no diet",
		"at least 4 of: a, b":                 "no number from 1 to 2",
		"hand in: a card by 2026-02-30":       "no day of the calendar",
		strings.Repeat("1 hot\n", 41):         "42 conditions",
		"cost at most lots":                   "no condition",
		"99999999999999999999 accompaniments": "no number",
	} {
		_, err := assess.ReadBrief("2 dishes\n"+line, time.UTC, nil)
		assert.ErrorContains(t, err, says, "%.30q", line)
	}
	_, err := assess.ReadBrief("2 dishes\n\ntasty", time.UTC, nil)
	assert.ErrorContains(t, err, "line 3")
	_, err = assess.ReadTags("hot; smell: good")
	assert.ErrorContains(t, err, "“smell” is none of")
}

// The best set of a small shelf is the best of all there are; of a large one, the search
// finds what meets the brief, and the same each time.
func TestSets(t *testing.T) {
	b, err := assess.ReadBrief("2 dishes\n1 accompaniment\n1 hot\n1 cold\nno main ingredient twice\nno milk", time.UTC, nil)
	require.NoError(t, err)
	shelf := []assess.Dish{
		dish(t, "a", "hot; main: leek; colours: green", 100), dish(t, "b", "cold; main: leek; colours: red", 10), dish(t, "c", "cold; main: peas; colours: red", 30),
		dish(t, "d", "hot; main: beans; colours: brown", 50), dish(t, "e", "hot; main: rice; colours: white", 20),
	}
	shelf[3].Allergens = []pantry.Allergen{pantry.Milk}
	best := assess.Search{Brief: b, Shelf: shelf, Portions: 2}.Find(context.Background())
	require.NotEmpty(t, best)
	assert.Zero(t, best[0].NotMet+best[0].NotKnown)
	var ids []string
	for _, d := range best[0].Dishes {
		assert.NotEqual(t, "d", d.ID, "what holds milk is not looked at")
		ids = append(ids, fmt.Sprint(d.ID, d.Side))
	}
	assert.Len(t, ids, 3)
	assert.Len(t, best[0].Verdicts, len(b))
	assert.Nil(t, assess.Search{Brief: b, Shelf: shelf[:2]}.Find(context.Background()), "too few dishes")

	large := many(400)
	var told int
	s := assess.Search{Brief: b, Shelf: large, Found: func([]assess.Set) { told++ }}
	found := s.Find(context.Background())
	assert.Zero(t, found[0].NotMet)
	assert.Positive(t, told)
	assert.Equal(t, found, s.Find(context.Background()))
	over, cancel := context.WithCancel(context.Background())
	cancel()
	assert.Empty(t, s.Find(over), "nobody waits any more")
}

// many dishes of all sorts.
func many(n int) []assess.Dish {
	var out []assess.Dish
	for i := range n {
		d := assess.Dish{ID: fmt.Sprintf("d%04d", i), Title: fmt.Sprintf("dish %d", i), Pence: float64(40 + i*37%160), Main: fmt.Sprint("main ", i%60), Diets: make([]pantry.Verdict, len(pantry.Diets))}
		d.Tags = []string{[]string{"hot", "cold"}[i%2], []string{"bite-sized", "starter", "sweet"}[i%3]}
		d.Of = map[string][]string{"colours": {fmt.Sprint("colour ", i%9)}, "textures": {fmt.Sprint("texture ", i%7)}}
		d.Skills = []string{fmt.Sprint("skill ", i%23)}
		if i%5 == 0 {
			d.Allergens = []pantry.Allergen{pantry.Milk}
		}
		out = append(out, d)
	}
	return out
}

// Against all sets: no other is better than the first.
func TestTheBestSet(t *testing.T) {
	b, err := assess.ReadBrief("2 dishes\n1 hot\nat least 2 colours\ncost at most 2", time.UTC, nil)
	require.NoError(t, err)
	rapid.Check(t, func(t *rapid.T) {
		var shelf []assess.Dish
		for i := range rapid.IntRange(2, 7).Draw(t, "dishes") {
			d := assess.Dish{ID: fmt.Sprint(i), Title: fmt.Sprint(i), Pence: float64(rapid.IntRange(0, 200).Draw(t, "pence")), Main: rapid.SampledFrom([]string{"", "leek", "peas"}).Draw(t, "main")}
			d.Tags = []string{rapid.SampledFrom([]string{"hot", "cold"}).Draw(t, "tag")}
			d.Of = map[string][]string{"colours": {rapid.SampledFrom([]string{"red", "green"}).Draw(t, "colour")}}
			shelf = append(shelf, d)
		}
		first := assess.Search{Brief: b, Shelf: shelf}.Find(context.Background())[0]
		for i, x := range shelf {
			for _, y := range shelf[i+1:] {
				not, unknown := 0, 0
				for _, v := range b.Check(assess.Choice{Dishes: []assess.Chosen{{Dish: x}, {Dish: y}}}) {
					if v.State == assess.NotMet {
						not++
					} else if v.State == assess.NotKnown {
						unknown++
					}
				}
				assert.LessOrEqual(t, first.NotMet, not)
				if first.NotMet == not {
					assert.LessOrEqual(t, first.NotKnown, unknown)
				}
			}
		}
	})
}

func BenchmarkFind2000(b *testing.B) {
	brief, err := assess.ReadBrief("3 dishes\n2 accompaniments\nat least 2 hot\nat least 2 cold\nat least 2 bite-sized\nat least 3 of: skill 1, skill 4, skill 9, skill 12\ncost at most 4.20\nat least 4 colours\nat least 4 textures\nno main ingredient twice\nno milk\nall vegetarian", time.UTC, nil)
	if err != nil {
		b.Fatal(err)
	}
	shelf := many(2000)
	for b.Loop() {
		began := time.Now()
		first := time.Duration(0)
		s := assess.Search{Brief: brief, Shelf: shelf, Portions: 4, Found: func([]assess.Set) {
			if first == 0 {
				first = time.Since(began)
			}
		}}
		best := s.Find(context.Background())
		b.ReportMetric(first.Seconds(), "s/first")
		b.ReportMetric(float64(best[0].NotMet+best[0].NotKnown), "unmet")
	}
}

// Conditions as twenty people write them are read, or are said not to be; none is taken
// for another. Of those of every second the words were not chosen by.
func TestBriefsAsPeopleWriteThem(t *testing.T) {
	file, err := os.ReadFile("testdata/briefs.txt")
	require.NoError(t, err)
	halves := [2]struct{ right, refused, misread int }{}
	who := 0
	for _, line := range strings.Split(strings.TrimSpace(string(file)), "\n") {
		if number, ok := strings.CutPrefix(line, "# "); ok {
			if n, err := strconv.Atoi(number); err == nil {
				who = n
			}
			continue
		}
		text, want, ok := strings.Cut(line, " => ")
		require.True(t, ok, line)
		got := "?"
		if b, err := assess.ReadBrief(text, time.UTC, nil); err == nil && b[0].Tag == "" {
			var says []string
			for _, c := range b {
				says = append(says, c.Says)
			}
			got = strings.Join(says, " and ")
		}
		half := &halves[(who+1)%2]
		switch {
		case got == want:
			half.right++
		case got == "?":
			half.refused++
			t.Logf("%d: not read: %s", who, text)
		default:
			half.misread++
			t.Errorf("%d: “%s” was taken for “%s”", who, text, got)
		}
	}
	for i, name := range []string{"tuned", "measured only"} {
		h := halves[i]
		t.Logf("%s: %d as meant, %d refused though they could be read, %d misread", name, h.right, h.refused, h.misread)
		assert.Greater(t, h.right, []int{151, 57}[i], name)
	}
}

// What no dish is said to be is asked for in vain, and says so.
func TestWhatNoDishIsSaidToBe(t *testing.T) {
	one := assess.Choice{Dishes: []assess.Chosen{{Dish: dish(t, "wraps", "hot, wrap", 80)}}}
	for line, want := range map[string]struct {
		state assess.State
		why   string
	}{
		"2 courses":            {assess.NotKnown, "no dish is said to be “courses”"},
		"at most 3 crunchy":    {assess.NotKnown, "no dish is said to be “crunchy”"},
		"at least 1 wrap":      {assess.Met, "wraps"},
		"2 wraps":              {assess.NotMet, "wraps"},
		"at least 1 hot wraps": {assess.NotKnown, "“hot wraps”"},
	} {
		b, err := assess.ReadBrief(line, time.UTC, []string{"hot", "wrap"})
		require.NoError(t, err, line)
		v := b.Check(one)[0]
		assert.Equal(t, want.state, v.State, line)
		assert.Contains(t, v.Why, want.why, line)
	}
}

// A skill that only may be the one that is asked is not counted as shown.
func TestSkillsThatOnlyMayBeShown(t *testing.T) {
	d := dish(t, "tart", "", 80)
	d.Skills = []string{"bake", "rolling out thinly"}
	one := assess.Choice{Dishes: []assess.Chosen{{Dish: d}}}
	for line, want := range map[string]assess.State{
		"at least 1 of: bake blind":              assess.NotKnown,
		"at least 1 of: bake blind, rolling out": assess.Met,
		"at least 2 of: bake blind, rolling out": assess.NotKnown,
		"at least 1 of: roll":                    assess.NotMet,
		"at least 2 of: roll, bake":              assess.NotMet,
	} {
		b, err := assess.ReadBrief(line, time.UTC, nil)
		require.NoError(t, err, line)
		v := b.Check(one)[0]
		assert.Equal(t, want, v.State, "%s: %s", line, v.Why)
	}
}
