package safety_test

import (
	"encoding/csv"
	"fmt"
	"hash/crc32"
	"os"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"freshapron/internal/core/class"
	"freshapron/internal/core/exact"
	"freshapron/internal/core/fit"
	"freshapron/internal/core/lesson"
	"freshapron/internal/core/pantry"
	"freshapron/internal/core/recipe"
	"freshapron/internal/core/safety"
	"freshapron/internal/demo"
	"freshapron/internal/golden"
)

// Every figure of the tables that ship stands in a file: one that moves is seen
// before anybody cooks by it.
func TestTheTablesThatShip(t *testing.T) {
	var b strings.Builder
	for _, r := range safety.Regions {
		fmt.Fprintf(&b, "%s: %s\n  hot %g, out %d; cold %g, out %d; cool to %g in %d\n", r.ID, r.Name, r.Hot, r.HotOut, r.Cold, r.ColdOut, r.CoolTo, r.CoolIn)
		for _, c := range r.Core {
			fmt.Fprintf(&b, "  %s: %s\n", c.Food, c.Says())
		}
	}
	for _, w := range safety.Usual().Who {
		fmt.Fprintf(&b, "%s under %d, level %d: %s\n", w.Danger, w.Under, w.Level, w.Adult)
	}
	for _, w := range safety.UsualWays() {
		fmt.Fprintf(&b, "%s: %g times, adult %q, instead %t, whole %t\n", w.ID, w.Times, w.Adult, w.Instead, w.Whole)
	}
	golden.Same(t, "tables.golden", b.String())
}

// For every food that hides under other names stands what is kept from who can't have it, and how much has to
// be read.
func TestWhereFoodsHide(t *testing.T) {
	file, err := os.Open("../pantry/foods.csv")
	require.NoError(t, err)
	defer file.Close()
	rows, err := csv.NewReader(file).ReadAll()
	require.NoError(t, err)
	var b strings.Builder
	for _, row := range rows[1:] {
		for _, id := range strings.Fields(row[1] + " " + row[2]) {
			_, ok := stock.Find(id)
			require.True(t, ok, "%s: %s is not in the stock", row[0], id)
		}
		for food := range strings.SplitSeq(row[0], "|") {
			require.Contains(t, class.Understand(food).Needs, "food:"+strings.ReplaceAll(food, " ", "-"), "no class list can say it")
			var never, ask []string
			for _, i := range stock.List() {
				r := recipe.Recipe{Ingredients: []recipe.Ingredient{{Name: i.Name, Pantry: i.ID}}}
				switch safety.Worst(safety.Eats(r, stock, []class.Need{{Kind: class.Allergy, What: food}})) {
				case pantry.Never:
					never = append(never, i.ID)
				case pantry.Ask:
					ask = append(ask, i.ID)
				}
			}
			fmt.Fprintf(&b, "%s: %s; to read %d, %08x\n", food, strings.Join(never, " "), len(ask), crc32.ChecksumIEEE([]byte(strings.Join(ask, " "))))
		}
	}
	golden.Same(t, "foods.golden", b.String())
}

// Between two rules for one food the nearest that it has not reached is named.
func TestWhichRuleIsNamed(t *testing.T) {
	r := safety.Region{Core: []safety.CoreRule{{Food: "x", Celsius: 60, Seconds: 2700}, {Food: "x", Celsius: 70, Seconds: 120}, {Food: "x", Celsius: 75, Seconds: 30}}}
	for _, c := range []struct {
		celsius float64
		seconds int
		ok      bool
		says    string
	}{
		{59, 9999, false, "70 °C for 2 min"}, // of those within two minutes, the lowest
		{60, 2700, true, "60 °C"}, {60, 2699, false, "60 °C for 45 min"}, {69.9, 2699, false, "60 °C for 45 min"},
		{70, 119, false, "70 °C for 2 min"}, {70, 120, true, "70 °C"}, {75, 29, false, "75 °C for 30 s"}, {75, 30, true, "75 °C"},
	} {
		ok, says := r.Cooked("x", c.celsius, c.seconds)
		assert.Equal(t, c.ok, ok, "%+v", c)
		assert.Contains(t, says, c.says, "%+v", c)
	}
}

// What waits exactly as long as the table allows is allowed.
func TestWaitsAtTheirEnds(t *testing.T) {
	step := func(id, title string, kind fit.Kind, work int64, after ...fit.After) recipe.Step {
		return recipe.Step{Step: fit.Step{ID: id, Title: title, Kind: kind, Work: exact.Int(work), Cooks: 1, Adult: fit.NoAdult, After: after}, Text: title}
	}
	r := recipe.Recipe{ID: "strips", Title: "Strips", Yield: 2, Piece: "strip", Pieces: "strips", Each: 1, Ingredients: []recipe.Ingredient{take("300 g chicken breast", "")}}
	r.Steps = []recipe.Step{step("cut", "Slice the chicken", fit.Cut, 5), step("rest", "Wash the bench", fit.Clean, 20, fit.After{Step: "cut"}), step("fry", "Cook the chicken", fit.Cook, 10, fit.After{Step: "rest"})}
	l := lesson.Lesson{
		Date: "2026-11-26", Start: 540, End: 660, Menu: []lesson.Course{{Recipe: r, Each: 1}}, Pantry: stock, Tolerances: pantry.Usual, Room: demo.FoodRoom(),
		Class: lesson.Class{Name: "8 Hazel", Learners: 1, Pace: exact.Int(1)}, GroupSize: 1,
	}
	f := l.Fit()
	p, err := fit.Solve(f, fit.Options{Budget: 5, Runs: 10})
	require.NoError(t, err)
	// 25 minutes raw, 85 hot; see TestWaits.
	for _, c := range []struct {
		cold, hot int
		bad       bool
	}{{25, 85, false}, {24, 85, true}, {25, 84, true}} {
		region := safety.Region{ColdOut: c.cold, HotOut: c.hot}
		_, bad := region.Waits(r, stock, f, p)
		assert.Equal(t, c.bad, bad, "%+v", c)
	}
	other := r
	other.ID = "another"
	says, _ := safety.Region{}.Waits(other, stock, f, p)
	assert.Empty(t, says, "the steps of another dish of the menu are not its own")
}
