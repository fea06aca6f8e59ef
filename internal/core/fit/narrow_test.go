package fit_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"freshapron/internal/core/fit"
	"freshapron/internal/core/fit/verify"
)

// Of six ovens the visits at one temperature need a third: one keeps to it and four to the other,
// and one takes both; or three take both, and three keep to the other. What is found so is a plan of
// the lesson.
func TestNarrowings(t *testing.T) {
	l := hard(5, 2)
	uses, p := fit.Narrowed(l)
	assert.Equal(t, []map[int][]int{
		{0: {0, 1}, 1: {1, 2, 3, 4, 5}},
		{0: {0, 1, 2}, 1: {0, 1, 2, 3, 4, 5}},
	}, uses)
	require.NotNil(t, p)
	assert.Empty(t, verify.Plan(l, p))
}

// What temperatures other equipment has changes nothing.
func TestNarrowingsBesideOthers(t *testing.T) {
	l := hard(5, 2)
	warm := ovens(1, 30, 5)
	warm.ID = "drawer"
	l.Equipment = append(l.Equipment, warm)
	first := &l.Dishes[0].Steps[0]
	first.Wait = celsius(1).Add(first.Wait)
	first.Uses = append(first.Uses, fit.Use{Equipment: "drawer", Places: 1, Temperature: celsius(60), During: fit.WaitPart})
	uses, _ := fit.Narrowed(l)
	require.Len(t, uses, 2)
	assert.Equal(t, [][]int{{0, 1}, {1, 2, 3, 4, 5}}, [][]int{uses[0][1], uses[0][2]})
}

// Nothing is kept to some ovens where there are two, where all bake at one temperature, where one
// is out of order, and where the lesson has begun.
func TestNotNarrowed(t *testing.T) {
	two := hard(3, 0)
	one := hard(5, 2)
	for d := range one.Dishes {
		for s := range one.Dishes[d].Steps {
			for u := range one.Dishes[d].Steps[s].Uses {
				if use := &one.Dishes[d].Steps[s].Uses[u]; use.Temperature != nil {
					use.Temperature = celsius(180)
				}
			}
		}
	}
	out := hard(5, 2)
	out.Out = []fit.Outage{{Equipment: "oven", Unit: "Oven 1"}}
	begun := hard(5, 2)
	begun.Now = celsius(12)
	for name, l := range map[string]fit.Lesson{"two ovens": two, "one temperature": one, "out of order": out, "begun": begun} {
		uses, _ := fit.Narrowed(l)
		assert.Empty(t, uses, name)
	}
}
