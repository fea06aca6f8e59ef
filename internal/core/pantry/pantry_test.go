package pantry_test

import (
	"fmt"
	"testing"

	"github.com/stretchr/testify/assert"

	"freshapron/internal/core/measure"
	"freshapron/internal/core/pantry"
)

func ExampleFind() {
	flour, _ := pantry.Find("plain-flour")
	fmt.Println(flour.Name, flour.Density.Decimal(2), "g/ml,", flour.Role.Tolerance())
	// Output: plain flour 0.53 g/ml, 0.05
}

func TestStock(t *testing.T) {
	seen := map[string]bool{}
	for _, i := range pantry.Stock {
		assert.False(t, seen[i.ID], "%s stands twice", i.ID)
		seen[i.ID] = true
		assert.NotEmpty(t, i.Name)
		assert.NotEmpty(t, i.Source, i.ID)
		assert.Equal(t, i.Mass.Sign() > 0, i.Plural != "", "%s: what is counted has a plural", i.ID)
		assert.Contains(t, []pantry.Role{pantry.Agent, pantry.Structure, pantry.Other}, i.Role, i.ID)
		assert.True(t, i.Density.Known() != (i.Mass.Sign() > 0), "%s is either spooned or counted", i.ID)
		if i.Density.Known() {
			assert.InDelta(t, 0.7, i.Density.Float(), 0.65, i.ID)
		}
		if i.Pours {
			assert.InDelta(t, 1, i.Density.Float(), 0.1, "%s flows like water", i.ID)
		}
	}
	leek, _ := pantry.Find("leek")
	assert.Equal(t, "1 leek", leek.Of(measure.Q("1", measure.Each)))
	assert.Equal(t, "14 leeks", leek.Of(measure.Q("14", measure.Each)))
	assert.Equal(t, "½ leek", leek.Of(measure.Q("1/2", measure.Each)))
	_, ok := pantry.Find("plutonium")
	assert.False(t, ok)
}
