package recipes_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"freshapron/internal/app/recipes"
	"freshapron/internal/app/school"
	"freshapron/internal/core/pantry"
	"freshapron/internal/core/recipe"
)

// What is typed in a field of a step is taken into the step, or named with
// what to do about it; it is never dropped.
func TestTheFieldsOfAStep(t *testing.T) {
	const (
		bake = "bake, ~1 min, wait 30 min, oven 180 °C while waiting"
		two  = "cook, 5 min, ring, blender"
	)
	larder := school.Larder{Pantry: pantry.Stock()}
	for name, c := range map[string]struct {
		short  string
		typed  func(f *recipes.StepForm)
		timing string // afterwards
		says   string // the problem
	}{
		"as it was":       {bake, func(*recipes.StepForm) {}, bake, ""},
		"other minutes":   {bake, func(f *recipes.StepForm) { f.Wait = "25" }, "bake, ~1 min, wait 25 min, oven 180 °C while waiting", ""},
		"a mixed number":  {bake, func(f *recipes.StepForm) { f.Work = "1½" }, "bake, 1.5 min, wait 30 min, oven 180 °C while waiting", ""},
		"a typical one":   {bake, func(f *recipes.StepForm) { f.Sure = "1" }, "bake, 1 min, wait 30 min, oven 180 °C while waiting", ""},
		"words":           {bake, func(f *recipes.StepForm) { f.Heat = "hot" }, bake, "“hot” is not a whole number"},
		"too hot":         {bake, func(f *recipes.StepForm) { f.Heat = "401" }, bake, "from 1 to 400"},
		"no heat":         {bake, func(f *recipes.StepForm) { f.Heat = "" }, bake, "How hot is the oven?"},
		"nothing heated":  {bake, func(f *recipes.StepForm) { f.On, f.Heat = "", "190" }, bake, "“190” °C of what?"},
		"out of the oven": {bake, func(f *recipes.StepForm) { f.On = "" }, "bake, ~1 min, wait 30 min", ""},
		"two things":      {two, func(f *recipes.StepForm) { f.Heat = "190" }, two, "“190” °C of what?"},
		"soon":            {bake, func(f *recipes.StepForm) { f.Wait = "soon" }, bake, "“soon” is not a number of minutes"},
		"half a piece":    {bake, func(f *recipes.StepForm) { f.Pieces = "½" }, bake, "“½”"},
		"in short":        {bake, func(f *recipes.StepForm) { f.Timing, f.Wait = "mix, 4 min", "99" }, "mix, 4 min", ""},
	} {
		t.Run(name, func(t *testing.T) {
			form := recipes.FormOf(recipe.Recipe{Title: "Plum tray", Yield: 4, Each: 1, Steps: []recipe.Step{{Text: "Do it."}}}, larder)
			form.Steps[0] = recipes.StepForm{Title: "Do it", Text: "Do it.", Timing: c.short}
			form.Steps[0] = form.Read(larder).Rows[0]
			require.Equal(t, c.short, form.Steps[0].Timing)
			c.typed(&form.Steps[0])
			w := form.Read(larder)
			assert.Equal(t, c.timing, w.Rows[0].Timing)
			var said string
			for _, p := range w.Problems {
				if recipes.AtItsField(p.Path) {
					said += p.Says
				}
			}
			if c.says == "" {
				assert.Empty(t, said)
			}
			assert.Contains(t, said, c.says)
		})
	}
}
