package safety_test

import (
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"

	"freshapron/internal/core/exact"
	"freshapron/internal/core/fit"
	"freshapron/internal/core/recipe"
	"freshapron/internal/core/safety"
	"freshapron/internal/demo"
	"freshapron/internal/golden"
)

// Whole sheets of dishes of the shelf: of a class about which nothing is known, and of
// one with everything that a sheet can speak of.
func TestWholeSheets(t *testing.T) {
	var b strings.Builder
	sheet := func(name string, on safety.On) {
		fmt.Fprintf(&b, "= %s\n", name)
		for _, l := range safety.Compose(on) {
			fmt.Fprintf(&b, "  %s: %s | %s | %s | %s | %s | %s\n", l.Key, l.Hazard, l.Who, l.Done, l.Adult, l.Left, l.Because)
		}
	}
	for _, r := range demo.Dishes()[:8] {
		sheet(r.Title, safety.On{Recipes: []recipe.Recipe{r}, Pantry: stock, Book: safety.Usual(), Class: "8 Hazel", Learners: 1, Room: "F2", Benches: 1})
	}
	full := safety.On{
		Recipes: demo.Dishes()[:2], Pantry: stock, Book: safety.Usual(), Class: "8 Hazel", Learners: 24, Age: 12, Room: "F2", Benches: 12, Sharps: 1, OneBoard: true,
		Needs: []safety.Touched{{What: "nuts, by contact too", In: "Pilau", Learners: 1, Apart: true, Unsafe: true}, {What: "milk", In: "Scones", Learners: 2}},
		Helps: []string{"one hand", "one hand", "a wheelchair"}, Waits: []string{"Raw food is out."}, Hold: "In the fridge", Outages: []string{"Oven 2: the door"},
	}
	sheet("everything", full)
	full.TooLong, full.Age = true, 1
	sheet("everything, and too long", full)
	golden.Same(t, "sheets.golden", b.String())
}

// Whatever is cut raw and cooked in a step that does not name it waits until that step,
// and what is cooked twice stands from the last time; the longest of all benches counts.
func TestWaitsOfOddPlans(t *testing.T) {
	step := func(id, text string, kind fit.Kind) recipe.Step {
		return recipe.Step{Step: fit.Step{ID: id, Title: text, Kind: kind, Work: exact.Int(5), Cooks: 1, Adult: fit.NoAdult}, Text: text}
	}
	r := recipe.Recipe{ID: "strips", Title: "Strips", Yield: 2, Piece: "strip", Pieces: "strips", Each: 1, Ingredients: []recipe.Ingredient{take("300 g chicken breast", ""), take("1 onion", "")}}
	r.Steps = []recipe.Step{
		step("cut", "Slice the chicken", fit.Cut), step("trim", "Trim the chicken", fit.Cut), step("wash", "Wash up", fit.Clean), step("fry", "Fry everything", fit.Cook), step("bake", "Bake it", fit.Bake),
		step("brown", "Brown the chicken", fit.Cook),
	}
	f := fit.Lesson{Dishes: []fit.Dish{{ID: "d", Of: "strips"}, {ID: "strips"}}}
	region := safety.Region{ColdOut: 1000, HotOut: 1000}
	for name, c := range map[string]struct {
		steps []fit.StepPlan // start and end
		says  []string
	}{
		"cooked without its name":   {[]fit.StepPlan{at("d", "cut", 10, 15), at("d", "wash", 15, 20), at("d", "fry", 30, 40)}, []string{"Raw food is out of the cold for 20 min", "Hot food stands until it is tasted for 60 min"}},
		"baked without its name":    {[]fit.StepPlan{at("d", "cut", 0, 15), at("d", "bake", 12, 40)}, []string{"Raw food is out of the cold for 12 min", "Hot food stands until it is tasted for 60 min"}},
		"the first that is cut":     {[]fit.StepPlan{at("d", "trim", 12, 15), at("d", "cut", 10, 12), at("d", "brown", 30, 90)}, []string{"Raw food is out of the cold for 20 min", "Hot food stands until it is tasted for 10 min"}},
		"cooked before it is cut":   {[]fit.StepPlan{at("d", "fry", 0, 9), at("d", "cut", 10, 12)}, []string{"Hot food stands until it is tasted for 91 min"}},
		"cooked as it is cut":       {[]fit.StepPlan{at("d", "cut", 10, 12), at("d", "fry", 10, 20)}, []string{"Hot food stands until it is tasted for 80 min"}},
		"cooked twice":              {[]fit.StepPlan{at("d", "brown", 0, 50), at("d", "bake", 20, 30)}, []string{"Hot food stands until it is tasted for 50 min"}},
		"cut again after it cooked": {[]fit.StepPlan{at("d", "cut", 0, 1), at("d", "brown", 5, 6), at("d", "trim", 10, 11), at("d", "fry", 12, 100)}, []string{"Raw food is out of the cold for 5 min"}},
		"nothing":                   {[]fit.StepPlan{at("d", "wash", 0, 50)}, nil},
		"under its own name":        {[]fit.StepPlan{at("strips", "brown", 0, 99)}, []string{"Hot food stands until it is tasted for 1 min"}},
		"of another dish":           {[]fit.StepPlan{at("other", "brown", 0, 50)}, nil},
	} {
		says, bad := region.Waits(r, stock, f, &fit.Plan{Deadline: 100, Groups: []fit.GroupPlan{{ID: "g", Steps: c.steps}}})
		for n := range says {
			says[n], _, _ = strings.Cut(says[n], ";")
		}
		assert.Equal(t, c.says, says, name)
		assert.False(t, bad, name)
	}
}

func at(dish, step string, start, end float64) fit.StepPlan {
	return fit.StepPlan{Dish: dish, Step: step, Start: start, End: end}
}
