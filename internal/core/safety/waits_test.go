package safety_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"freshapron/internal/core/exact"
	"freshapron/internal/core/fit"
	"freshapron/internal/core/lesson"
	"freshapron/internal/core/pantry"
	"freshapron/internal/core/recipe"
	"freshapron/internal/core/safety"
	"freshapron/internal/demo"
)

// What stands too long is found in the plan, with its figure.
func TestWaits(t *testing.T) {
	r := recipe.Recipe{ID: "strips", Title: "Strips", Yield: 2, Piece: "strip", Pieces: "strips", Each: 1, Ingredients: []recipe.Ingredient{take("300 g chicken breast", "")}}
	step := func(id, title string, kind fit.Kind, work, wait int64, after ...fit.After) recipe.Step {
		return recipe.Step{Step: fit.Step{ID: id, Title: title, Kind: kind, Work: exact.Int(work), Wait: exact.Int(wait), Cooks: 1, Adult: fit.NoAdult, After: after}, Text: title}
	}
	r.Steps = []recipe.Step{
		step("cut", "Slice the chicken", fit.Cut, 5, 0), step("rest", "Wash the bench", fit.Clean, 20, 0, fit.After{Step: "cut"}), step("fry", "Cook the chicken", fit.Cook, 10, 0, fit.After{Step: "rest"}),
	}
	l := lesson.Lesson{
		Date: "2026-11-26", Start: 540, End: 660, Menu: []lesson.Course{{Recipe: r, Each: 1}}, Pantry: stock, Tolerances: pantry.Usual, Room: demo.FoodRoom(),
		Class: lesson.Class{Name: "8 Hazel", Learners: 1, Pace: exact.Int(1)}, GroupSize: 1,
	}
	f := l.Fit()
	p, err := fit.Solve(f, fit.Options{Budget: 5, Runs: 10})
	require.NoError(t, err)
	uk := safety.RegionOf("uk")
	// Taken in hand at 0, in the pan at 25, done at 35, and the bell at 120.
	says, bad := uk.Waits(r, stock, f, p)
	assert.Equal(t, []string{"Raw food is out of the cold for 25 min; 240 min is the most by the table.", "Hot food stands until it is tasted for 85 min; 120 min is the most by the table."}, says)
	assert.False(t, bad)
	strict := uk
	strict.ColdOut, strict.HotOut = 20, 60
	says, bad = strict.Waits(r, stock, f, p)
	assert.True(t, bad)
	assert.Contains(t, says[0], "That is too long.")
	assert.Contains(t, says[1], "That is too long.")
	cold, bad := uk.Waits(demo.Dish("rainbow-slaw"), stock, f, p)
	assert.Empty(t, cold)
	assert.False(t, bad)
}
