package recipe_test

import (
	"maps"
	"os"
	"slices"
	"strings"
	"sync"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"freshapron/internal/core/pantry"
	"freshapron/internal/core/reading"
	"freshapron/internal/core/recipe"
)

// claims are the rules that say that something is wrong; the others say what a
// lesson needs beside it.
var claims = []string{
	"unit-misfit", "amounts-differ", "part-of-an-egg", "twice-listed", "unusual-ratio", "unusual-amount", "yield-contradicts", "unused-ingredient", "unlisted-ingredient",
	"steps-contradict", "oven-settings-differ", "oven-out-of-range", "impossible-time", "baked-too-soon", "times-differ", "total-time-differs", "raw-not-cooked", "free-from-title",
}

// The sound recipes: those of the corpus of reading, its two halves, others that
// the check was mended by, and some that it is only measured on.
const (
	readTuned    = "../reading/testdata/tuned.txt"
	readMeasured = "../reading/testdata/measured.txt"
	written      = "testdata/sound.txt"
	blind        = "testdata/sound_measured.txt"
)

// recipesOf returns the texts of sound recipes by their titles. Those of the corpus
// that use what they do not list are left out of checked.
func recipesOf(t *testing.T, file string) (texts map[string]string, checked []string) {
	t.Helper()
	data, err := os.ReadFile(file)
	require.NoError(t, err)
	annotated := strings.HasPrefix(string(data), "===")
	texts = map[string]string{}
	for _, block := range strings.Split(string(data), "===")[btoi(annotated):] {
		head, body := "", block
		if annotated {
			head, body, _ = strings.Cut(block, "\n")
		}
		var lines []string
		for _, l := range strings.Split(strings.TrimSpace(body), "\n") {
			text, _, _ := strings.Cut(l, " ¦ ")
			lines = append(lines, text)
		}
		title := strings.TrimLeft(lines[0], "# ")
		texts[title] = strings.Join(lines, "\n")
		if !strings.HasSuffix(head, " !") {
			checked = append(checked, title)
		}
	}
	return texts, checked
}

func btoi(b bool) int {
	if b {
		return 1
	}
	return 0
}

func read(text string) recipe.Recipe {
	if known, ok := recipes.Load(text); ok {
		return known.(recipe.Recipe)
	}
	r, _ := reading.Read(text, nil, pantry.Stock()).Recipe()
	recipes.Store(text, r)
	return r
}

// findings are what the check says of a text, which several tests ask for.
func findings(text string) []recipe.Finding {
	if known, ok := checked.Load(text); ok {
		return known.([]recipe.Finding)
	}
	out := recipe.Check(read(text), pantry.Stock())
	checked.Store(text, out)
	return out
}

var checked, recipes sync.Map

// A replacing is a mistake that is made in a sound recipe: words in place of
// others, and the rules of which one should find it.
type replacing struct {
	line, title, from, to string
	rules                 []string
}

func mistakesOf(t *testing.T, file string) []replacing {
	t.Helper()
	data, err := os.ReadFile("testdata/" + file)
	require.NoError(t, err)
	var out []replacing
	for _, l := range strings.Split(strings.TrimSpace(string(data)), "\n") {
		f := strings.SplitN(l, " | ", 3)
		halves := strings.Split(strings.ReplaceAll(f[2], "⏎", "\n"), " | ")
		out = append(out, replacing{
			line: l, title: f[0], rules: strings.Split(f[1], ","),
			from: strings.Join(halves[:len(halves)/2], " | "), to: strings.Join(halves[len(halves)/2:], " | "),
		})
	}
	return out
}

// Of sound recipes nothing is claimed.
func TestSoundRecipes(t *testing.T) {
	for file, most := range map[string]float64{readTuned: 0.01, readMeasured: 0.05, written: 0.01, blind: 0.25} {
		texts, checked := recipesOf(t, file)
		wrong := 0
		for _, title := range checked {
			var said []string
			for _, f := range findings(texts[title]) {
				if slices.Contains(claims, f.Rule) {
					said = append(said, f.Rule+" "+f.Where+": "+f.Says)
				}
			}
			if len(said) > 0 {
				wrong++
				if most < 0.05 || os.Getenv("MEASURED") == "show" {
					t.Logf("%s: %s", title, strings.Join(said, " | "))
				}
			}
		}
		t.Logf("%s: %d of %d sound recipes are said to be wrong", file, wrong, len(checked))
		assert.LessOrEqual(t, float64(wrong)/float64(len(checked)), most)
	}
}

// Each of the realistic mistakes of the tables, made in a sound recipe, is found
// by one of the rules that are named. The second table is only measured: what it
// misses is shown with MEASURED=show.
func TestMistakes(t *testing.T) {
	all := map[string]string{}
	for _, file := range []string{readTuned, readMeasured, written, blind} {
		texts, _ := recipesOf(t, file)
		maps.Copy(all, texts)
	}
	for file, least := range map[string]float64{"mistakes.txt": 0.95, "mistakes_measured.txt": 0} {
		found, count := 0, 0
		for _, m := range mistakesOf(t, file) {
			text, ok := all[m.title]
			require.True(t, ok && strings.Contains(text, m.from), m.line)
			count++
			said := findings(strings.Replace(text, m.from, m.to, 1))
			if slices.ContainsFunc(said, func(x recipe.Finding) bool { return slices.Contains(m.rules, x.Rule) }) {
				found++
			} else if least > 0 || os.Getenv("MEASURED") == "show" {
				t.Log("not found: " + m.line)
			}
		}
		t.Logf("%s: %d of %d mistakes are found", file, found, count)
		assert.GreaterOrEqual(t, float64(found)/float64(count), least)
	}
}

// Meat for stewing is said to be tough after the minutes that the recipe gives,
// stood by or left alone; a guessed minute is not among them.
func TestStewsOfMinutes(t *testing.T) {
	for step, want := range map[string]string{
		"Fry the beef and onion for 12 minutes.":                          "12 min on the heat in all: stewing beef is hard until it has cooked for 30 min or more.",
		"Add the beef and onion to the stock and simmer for 20 minutes.":  "20 min on the heat in all: stewing beef is hard until it has cooked for 30 min or more.",
		"Add the beef and onion to the stock and simmer for 120 minutes.": "",
		"Pressure cook the beef and onion for 20 minutes.":                "",
	} {
		got := ""
		for _, f := range findings("Beef stew\nServes 4\n500 g stewing beef\n1 onion, sliced\n400 ml beef stock\n" + step + "\nSeason and serve.") {
			if f.Rule == "impossible-time" {
				got = f.Says
			}
		}
		assert.Equal(t, want, got, step)
	}
}

// What is too little, too much for its kind of dish, or too short on the heat is said
// just beyond the figure, and not at it.
func TestBothSidesOfAPortion(t *testing.T) {
	for _, c := range []struct{ title, line, at, beyond, rule string }{
		{"Beef pan", "%s beef mince", "72 g", "71 g", "unusual-amount"},
		{"Beef pan", "%s chopped tomatoes", "84 g", "83 g", "unusual-amount"},
		{"Beef pan", "%s sugar", "128 g", "129 g", "unusual-amount"},
		{"Plum fool", "%s caster sugar", "6.4 g", "6.3 g", "unusual-amount"},
		{"Pilau rice", "%s basmati rice", "72 g", "71 g", "unusual-amount"},
		{"Garlic greens", "%s garlic", "160 g", "161 g", "unusual-amount"},
		{"Beef pan", "%s garlic", "60 g", "61 g", "unusual-amount"},
	} {
		said := func(amount string) bool {
			text := c.title + "\nServes 4\n" + strings.ReplaceAll(c.line, "%s", amount) + "\n1 onion\n\nCook everything for 40 minutes.\nServe."
			if c.title == "Plum fool" {
				text = strings.Replace(text, "1 onion", "500 g plums", 1)
			}
			return slices.ContainsFunc(findings(text), func(f recipe.Finding) bool { return f.Rule == c.rule && f.Where == "ingredients[0]" })
		}
		assert.False(t, said(c.at), "%s: %s of %s", c.title, c.at, c.line)
		assert.True(t, said(c.beyond), "%s: %s of %s", c.title, c.beyond, c.line)
	}
	for minutes, want := range map[string]bool{"8": false, "7": true} {
		got := slices.ContainsFunc(findings("Dal\nServes 4\n250 g red lentils\n1 onion\n\nSimmer the lentils and the onion for "+minutes+" minutes.\nServe."), func(f recipe.Finding) bool { return f.Rule == "impossible-time" })
		assert.Equal(t, want, got, minutes)
	}
}
