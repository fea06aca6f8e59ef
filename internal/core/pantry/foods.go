package pantry

import (
	_ "embed"
	"encoding/csv"
	"slices"
	"strings"
	"sync"
)

// What of the stock is or holds a food that no list of allergens has, and what may hold it, where its name does
// not say so: lemons are citrus, passata is tomato, curry powder may hold cumin. Typical of
// products sold under these names; the packet decides.
//
//go:embed foods.csv
var foodsCSV string

type holding struct{ holds, may []string }

var foods = sync.OnceValue(func() map[string]holding {
	rows, err := csv.NewReader(strings.NewReader(foodsCSV)).ReadAll()
	if err != nil {
		panic("foods.csv: " + err.Error())
	}
	out := map[string]holding{}
	for _, row := range rows[1:] {
		for food := range strings.SplitSeq(row[0], "|") {
			out[food] = holding{strings.Fields(row[1]), strings.Fields(row[2])}
		}
	}
	return out
})

// Holds tells whether the ingredient goes with somebody who can't have a food, beyond what their names say:
// Never where it is or holds the food; Ask where the packet has to be read, as of what is the school's own,
// which no table knows.
func (i Ingredient) Holds(food string) Verdict {
	f := foods()[food]
	_, shipped := Stock().Find(i.ID)
	switch {
	case slices.Contains(f.holds, i.ID), i.Has(Trait(food)): // "pork" is both
		return Never
	case slices.Contains(f.may, i.ID), i.Label.On == "" && slices.Contains(perhaps[i.ID], Trait(food)), !shipped && !i.Tap():
		return Ask
	}
	return Suits
}
