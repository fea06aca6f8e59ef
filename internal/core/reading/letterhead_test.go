package reading_test

import (
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"

	"freshapron/internal/golden"
)

// Lines that schools put over their sheets: those that the reading was mended for, and those that are
// for measuring only.
var (
	headsTuned = []string{
		"Year 8 Food and Nutrition", "Oakfield Academy – Design & Technology", "Name: ____________  Class: ______", "Food Technology Department", "KS3 Food – Practical recipe booklet", "Mrs Adeyemi 8C Food",
		"Name:                         Date:", "Autumn term 2026", "Greenhill School", "Food Preparation & Nutrition Year 10", "Recipe sheet", "GCSE Food Preparation", "Miss Fenwick's recipe sheets",
		"Class: 9F  Teacher: Mrs Odu", "Lower School Cookery", "DT Food – Rotation 2", "Homework: read before Thursday", "Unit 3: Staple foods", "The Willows Special School, Independent Living", "Booklet page 7",
	}
	headsMeasured = []string{
		"St Aldate's C of E High School", "Dept of Technology", "Cookery Club – Tuesday after school", "9B / Room 14 / Mr Oyelaran", "GCSE Food: Skills lesson", "FOOD TECH @ RIVERSIDE",
		"Hospitality & Catering Level 1/2", "Term 3 Week 4", "Pupil name .......... Tutor group ......", "Resource sheet 4b", "Cover work for Ms Dang", "Design Technology Faculty | Food",
		"Practical Assessment 2", "Life skills group", "Healthy Eating unit",
	}
)

// The title of a sheet is the same under a line that says whose it is.
func TestUnderALetterhead(t *testing.T) {
	const each = 40 // recipes from one that is tried to the next
	cases := corpus(t, "tuned.txt")
	var b strings.Builder
	for _, half := range []struct {
		says  string
		heads []string
		least int // in a hundred
	}{{"mended for", headsTuned, 92}, {"measured only", headsMeasured, 88}} {
		same, all := 0, 0
		for n, head := range half.heads {
			for i := n % each; i < len(cases); i += each {
				text := strings.Join(cases[i].lines, "\n")
				plainly := read(text)
				if plainly.Title == "" {
					continue
				}
				under := read(head + "\n" + text)
				fmt.Fprintf(&b, "=== %s, %s\n%s", head, golden.Sum(under), saysOf(under, 1))
				all++
				if strings.ReplaceAll(plainly.Title, "&", "and") == strings.ReplaceAll(under.Title, "&", "and") {
					same++
				} else if half.says == "mended for" {
					t.Logf("%s: %s, and not %s", head, under.Title, plainly.Title)
				}
			}
		}
		t.Logf("%s: %d of %d titles are the same", half.says, same, all)
		assert.GreaterOrEqual(t, same*100, half.least*all, half.says)
	}
	golden.Same(t, "letterhead.golden", b.String())
}

// What says whose sheet it is stands beside the title, and is the title where there is no other.
func TestLetterheads(t *testing.T) {
	below := "\n\nIngredients\n200 g flour\n2 eggs\n\nMethod\n1. Mix all.\n2. Bake 20 min at 180C."
	for head, title := range map[string]string{
		"Greenhill School\nFood, Year 9\n\nVetkoek": "Vetkoek",
		"Practical 4":           "Practical 4",
		"Lesson 2: Ratatouille": "Ratatouille",
		"Year 8 flapjack":       "Flapjack",
		"Name of dish: Vetkoek": "Vetkoek",
		"School\nTerm 1\nYear 7 class\nRoom 3\nMr Odu\nVetkoek":                                "Mr Odu",
		"The school garden club asked us for this one and we all of us liked it very\nVetkoek": "Vetkoek",
	} {
		assert.Equal(t, title, read(head+below).Title, head)
	}
	r := read("Greenhill School\n\nVetkoek" + below)
	assert.Equal(t, "Greenhill School", r.Facts[0].Says)
	assert.Equal(t, 1, r.Facts[0].Line)
	assert.Equal(t, 3, r.TitleLine)
	assert.Equal(t, "School", read("School\nVetkoek\n2 eggs").Title, "too little below for two titles")
}
