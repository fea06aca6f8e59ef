package reading_test

import (
	"sync"
	"testing"

	"github.com/stretchr/testify/assert"

	"freshapron/internal/core/pantry"
	"freshapron/internal/core/reading"
)

// read reads a text with the stock that ships. What several tests read is read once.
func read(text string) reading.Reading {
	if known, ok := readings.Load(text); ok {
		return known.(reading.Reading)
	}
	r := reading.Read(text, nil, pantry.Stock())
	readings.Store(text, r)
	return r
}

var readings sync.Map

// Three lines by the clock are a plan, two are no more than their words; stretches of
// minutes are a lesson's where they begin at the door or go on for twenty minutes, and
// amounts elsewhere.
func TestPlansByTheClock(t *testing.T) {
	const list = "Leek bake\nServes 2\n2 leeks\n50 g cheddar\n\n"
	assert.Len(t, read(list+"10:00 chop the leeks\n10:10 grate the cheddar\n10:15 bake at 190C for 20 min").Steps, 3)
	for _, s := range read(list + "10:00 chop the leeks\n10:10 grate the cheddar").Steps {
		assert.Contains(t, s.Text, "10:")
	}
	lasts := read(list + "0-5 chop the leeks\n5-9 grate the cheddar\n9-10 layer them")
	assert.Len(t, lasts.Steps, 3)
	assert.Equal(t, "5", lasts.Steps[0].Work.Middle().Decimal(1))
	assert.Equal(t, "4", lasts.Steps[1].Work.Middle().Decimal(1))
	assert.Len(t, read(list+"3-8 chop the leeks\n8-15 grate the cheddar\n15-20 layer them").Steps, 3)
	assert.Len(t, read("Root stew\nServes 2\n1-2 onions\n2-3 carrots\n3-4 potatoes\nBoil all.").Ingredients, 3)
}

// The columns of a table say what its cells are; without words over them the cell
// with the amount does. What stands in a column of care stays with its step.
func TestTables(t *testing.T) {
	r := read("Bean pot\nServes 2\nFood\tHow much\tPrep\nred onion\t1\tsliced\nkidney beans\t240 g\t\nWhat to do\tMins\tSafety\nFry the onion\t6\tdry hands\nAdd the beans and heat\t4\tprobe 75\n")
	if assert.Len(t, r.Ingredients, 2) {
		assert.Equal(t, "red-onion", r.Ingredients[0].Taking.Ingredient.Pantry)
		assert.Equal(t, "sliced", r.Ingredients[0].Taking.Ingredient.Note)
		assert.Equal(t, "240", r.Ingredients[1].Taking.Ingredient.Quantity.Amount.Decimal(0))
	}
	assert.Equal(t, []int{3, 6}, r.Headings)
	last := r.Steps[len(r.Steps)-1]
	assert.Contains(t, last.Text, "probe 75")
	assert.Empty(t, r.Unread)

	lost := read("Bean pot\nServes 2\nFood\tHow much\nred onion\t1\n\t5 g\nFry the onion.")
	assert.Len(t, lost.Unread, 1, "a row without a name is not lost")

	bare := read("Bean pot\nServes 2\nred onion | ½\nkidney beans | 240 g\nFry the onion. Add the beans.")
	assert.Len(t, bare.Ingredients, 2)
	assert.Len(t, read("Bean pot\nServes 2\n1 red onion | 240 g kidney beans\nFry the onion. Add the beans.").Ingredients, 2)
}

// What is brought to carry the food in is no food, and food in a tub is.
func TestKit(t *testing.T) {
	r := read("Dip\nServes 2\nYou need: 50 g cheddar, a tub to take it home, 1 tub zhoug relish\nMix all.")
	assert.Len(t, r.Ingredients, 2)
	if assert.NotEmpty(t, r.Facts) {
		assert.Equal(t, "a tub to take it home", r.Facts[0].Says)
	}
}

// So many of what a title names are pieces; of anything else portions.
func TestCountsInTitles(t *testing.T) {
	assert.Equal(t, "straw", read("Cheddar straws x 20\n50 g cheddar\nMix.").Yield.Piece)
	assert.Equal(t, "portion", read("Overnight oats x2\n50 g oats\nMix.").Yield.Piece)
}

// Numbers without a mark are those of steps where they go on and some begin with an
// order; not before amounts that happen to rise.
func TestBareNumbers(t *testing.T) {
	r := read("Bun\nMakes 4\n100 g plain flour\n1 oven on at 180\n2 mix the flour with water\n3 the lot into a tin\n4 bake for 20 min")
	assert.Len(t, r.Ingredients, 1)
	assert.NotContains(t, r.Steps[1].Text, "2")
	assert.Len(t, read("Stew\nServes 2\n1 onion\n2 carrots\n3 potatoes\n4 leeks\nBoil all.").Ingredients, 4)
}
