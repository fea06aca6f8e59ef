package reading_test

import (
	"fmt"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"

	"freshapron/internal/golden"
)

// A furnishing is what schools put on a sheet beside its recipe, and where: behind the title, behind
// the list, or below all.
type furnishing struct{ behind, text string }

var (
	furnishTuned = []furnishing{
		{"title", "Learning objectives\n- I can rub fat into flour\n- I can use the oven safely"},
		{"title", "LO: To be able to weigh accurately and work hygienically"},
		{"title", "WALT: work safely with heat\nWILF: even pieces, a clean bench"},
		{"title", "All must: follow the recipe.\nMost should: work independently.\nSome could: present it with a garnish."},
		{"title", "Skills: weighing, rubbing in, shaping, use of the oven"},
		{"title", "Remember to bring a named container to take your food home."},
		{"title", "Please bring your ingredients in a labelled bag, ready weighed."},
		{"title", "Time: 1 hour   Difficulty: easy   Cost: £1.20"},
		{"title", "Allergens: see label"},
		{"title", "Key words: aerate, gelatinise, shortening"},
		{"list", "Equipment\nMixing bowl\nWooden spoon\nBaking tray\nOven gloves"},
		{"list", "Safety: hot oven! Use oven gloves and close the door behind you."},
		{"list", "Optional: bring something to decorate it with."},
		{"list", "You will also need a container, an apron and a tea towel."},
		{"below", "Evaluation\nWhat went well?\nEven better if:\nHow did it taste?"},
		{"below", "Questions\n1. Why do we rest it?\n2. Which food group is it in?\n3. What could you change?"},
		{"below", "Homework: write up your evaluation, due next lesson."},
		{"below", "Star rating: * * * * *\nAppearance ___ Taste ___ Texture ___"},
		{"below", "Challenge: can you make it healthier?"},
		{"below", "Storage: keep in the fridge and eat within 2 days. Reheat until piping hot."},
		{"below", "© Food department 2024"},
		{"below", "Nutrition per portion: energy 320 kcal, fat 12 g, salt 0.8 g"},
		{"title", "Aim: to explore how yeast works"},
		{"title", "By the end you should be able to use a knife safely."},
		{"title", "Success criteria:\n- Same size\n- Golden\n- Clean bench"},
		{"title", "This week's focus is teamwork."},
		{"title", "Don't forget: apron, container, £1."},
		{"title", "Suitable for beginners."},
		{"title", "What you will learn: how gluten forms"},
		{"list", "Kit: bowl, scales, tray"},
		{"list", "HYGIENE: wash hands, apron on, hair tied back"},
		{"list", "Get out: bowl, scales, sieve"},
		{"list", "NB tell your teacher about allergies."},
		{"list", "Utensils needed - rolling pin, cutter, baking sheet"},
		{"below", "What did you learn? Write two sentences."},
		{"below", "Extension: design a label for your product."},
		{"below", "Self-assess: red / amber / green"},
		{"below", "Teacher signature ______ Date ______"},
		{"below", "Did you know? Bread is very old."},
		{"below", "Peer feedback: two stars and a wish"},
		{"below", "Next time I would ..."},
		{"below", "My target for next lesson is ______"},
		{"below", "Taste test: score each from 1 to 5"},
		{"below", "Complete your evaluation sheet and stick it in your book."},
		{"below", "Photo of my finished dish:"},
		{"below", "Glossary\nAerate: to add air\nKnead: to work a dough"},
	}
	furnishMeasured = []furnishing{
		{"title", "Aim: to understand how a raising agent works"},
		{"title", "By the end of this lesson you will have made and evaluated your dish."},
		{"title", "Success criteria\n* Even size\n* Golden brown\n* Left on time"},
		{"title", "Today's focus is knife safety: bridge and claw."},
		{"title", "Don't forget your container and £1 towards ingredients!"},
		{"title", "Level of skill: medium. Suitable for Year 8."},
		{"list", "Kit list: chopping board, knife, saucepan, colander"},
		{"list", "HYGIENE - hands washed, apron on, nails clean, jewellery off"},
		{"list", "Things to get out: bowl, scales, sieve, tray"},
		{"list", "NB Please tell your teacher about any allergies before you begin."},
		{"below", "How did it go? Write three sentences about your practical."},
		{"below", "Extension task: find out where the main ingredient is grown."},
		{"below", "Self assessment: green / amber / red"},
		{"below", "Did you know? The first recipe was written on clay."},
		{"below", "Peer comment: I liked ... Next time ..."},
	}
)

// furnished puts something on the sheet of a recipe, and says at which line; false where its place is not told.
func (s sample) furnished(f furnishing) (text string, line int, ok bool) {
	at := -1
	for n, means := range s.means {
		switch role := means[:min(1, len(means))]; {
		case f.behind == "title" && role == "t" && at < 0, f.behind == "list" && role == "=":
			at = n + 1
		}
	}
	if f.behind == "below" {
		at = len(s.lines)
	}
	if at < 0 || f.behind == "list" && at == len(s.lines) {
		return "", 0, false
	}
	return strings.Join(slices.Insert(slices.Clone(s.lines), at, "", f.text, ""), "\n"), at + 2, true
}

// A recipe is the same whatever else stands on its sheet; the golden file has how what else stands there is read,
// and a sum of the whole reading.
func TestFurnishedSheets(t *testing.T) {
	const each = 70 // recipes from one that is tried to the next
	cases := corpus(t, "tuned.txt")
	var b strings.Builder
	for _, half := range []struct {
		says        string
		furnishings []furnishing
		least       int // in a hundred
	}{{"mended for", furnishTuned, 91}, {"measured only", furnishMeasured, 92}} {
		same, asked, all := 0, 0, 0
		for n, f := range half.furnishings {
			for i := n % each; i < len(cases); i += each {
				text, at, ok := cases[i].furnished(f)
				if !ok {
					continue
				}
				plainly, asks := meant(read(strings.Join(cases[i].lines, "\n")))
				r := read(text)
				says, now := meant(r)
				fmt.Fprintf(&b, "=== %s, %s\n", cases[i].lines[0], golden.Sum(r))
				for n, l := range strings.Split(f.text, "\n") {
					fmt.Fprintf(&b, "%s\n%s", l, saysOf(r, at+n))
				}
				all++
				switch {
				case slices.Equal(plainly, says):
					same++
				case now > asks:
					asked++
				}
			}
		}
		t.Logf("%s: %d of %d are read the same, and of the others %d are asked more", half.says, same, all, asked)
		assert.GreaterOrEqual(t, same*100, half.least*all, half.says)
	}
	golden.Same(t, "furnished.golden", b.String())
}
