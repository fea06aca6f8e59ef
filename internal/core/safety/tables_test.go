package safety_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"freshapron/internal/core/class"
	"freshapron/internal/core/fit"
	"freshapron/internal/core/recipe"
	"freshapron/internal/core/safety"
	"freshapron/internal/demo"
)

func TestRulesInWords(t *testing.T) {
	for want, rule := range map[string]safety.CoreRule{
		"74 °C reached once":   {"poultry", 74, 0},
		"62.8 °C for 15 s":     {"cuts", 62.8, 15},
		"70 °C for 2 min":      {"everything", 70, 120},
		"65 °C for 2 min 30 s": {"everything", 65, 150},
		"60 °C for 45 min":     {"everything", 60, 2700},
		"75 °C for 119 s":      {"everything", 75, 119},
	} {
		assert.Equal(t, want, rule.Says())
	}
}

// The sheet says of each food by itself when it is done: a temperature for
// whole cuts never stands as another way to do poultry.
func TestTheSheetTellsFoodsApart(t *testing.T) {
	for _, region := range safety.Regions {
		book := safety.Usual()
		book.Region = region
		on := safety.On{Recipes: []recipe.Recipe{demo.Dish("turkey-koftas")}, Pantry: stock, Book: book, Class: "9 Rowan", Learners: 22, Room: "Food Room", Benches: 11}
		done := ""
		for _, l := range safety.Compose(on) {
			if l.Key == "core" {
				done = l.Done
			}
		}
		_, list, ok := strings.Cut(done, "Done by the table is ")
		require.True(t, ok, done)
		parts := strings.Split(list, "; ")
		require.Len(t, parts, len(region.Foods()), region.Name)
		for i, food := range region.Foods() {
			require.True(t, strings.HasPrefix(parts[i], food+": "), parts[i])
			rules := strings.Split(strings.TrimPrefix(parts[i], food+": "), ", or ")
			var want []string
			for _, c := range region.Core {
				if c.Food == food {
					want = append(want, c.Says())
				}
			}
			assert.Equal(t, want, rules, "%s: %s", region.Name, food)
		}
	}
}

// Whatever the table: hotter or longer never makes what is done undone, as far
// as food can be so hot, and what was kept as it should be is never worse for
// having been so for less.
func TestMoreHeatIsNeverWorse(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		r := rapid.SampledFrom(safety.Regions).Draw(t, "region")
		food := rapid.SampledFrom(r.Foods()).Draw(t, "food")
		celsius, seconds := rapid.Float64Range(20, 95).Draw(t, "°C"), rapid.IntRange(0, 5000).Draw(t, "s")
		hotter, longer := rapid.Float64Range(0, 6).Draw(t, "hotter"), rapid.IntRange(0, 600).Draw(t, "longer")
		done, _ := r.Cooked(food, celsius, seconds)
		more, _ := r.Cooked(food, celsius+hotter, seconds+longer)
		require.True(t, !done || more, "%g °C for %d s is done, and %g °C for %d s is not", celsius, seconds, celsius+hotter, seconds+longer)
		minutes := rapid.IntRange(0, 400).Draw(t, "min")
		for _, hot := range []bool{true, false} {
			better := celsius + hotter
			if !hot {
				better = celsius - hotter
			}
			kept, _ := r.Kept(hot, celsius, minutes)
			still, _ := r.Kept(hot, better, max(0, minutes-longer))
			require.True(t, !kept || still)
		}
	})
}

// The younger somebody is, and the less they have practised, the more an adult
// does, by the rules that ship.
func TestNobodyIsAloneSooner(t *testing.T) {
	book := safety.Usual()
	rank := map[fit.Adult]int{fit.NoAdult: 0, fit.Watches: 1, fit.Does: 2}
	for _, d := range recipe.Dangers {
		for _, level := range []class.Level{0, class.Starting, class.Practised, class.Sure} {
			last := rank[fit.Does]
			for age := 3; age <= 18; age++ {
				now := rank[book.Adult(d, age, level)]
				assert.LessOrEqual(t, now, last, "%s at %d", d, age)
				last = now
			}
		}
		for age := 3; age <= 18; age++ {
			assert.GreaterOrEqual(t, rank[book.Adult(d, age, class.Starting)], rank[book.Adult(d, age, class.Sure)], "%s at %d", d, age)
		}
	}
	for _, a := range []fit.Adult{fit.NoAdult, fit.Watches, fit.Does} {
		for _, b := range []fit.Adult{fit.NoAdult, fit.Watches, fit.Does} {
			assert.Equal(t, max(rank[a], rank[b]), rank[safety.Stricter(a, b)])
			assert.Equal(t, safety.Stricter(a, b), safety.Stricter(b, a))
		}
	}
	assert.Equal(t, fit.NoAdult, safety.Book{}.Adult(recipe.Knife, 3, class.Starting), "a school without rules has none")
}

// A bench apart is offered to those for whom contact is enough, and to nobody
// else.
func TestABenchApart(t *testing.T) {
	book := safety.Usual()
	offered := func(n class.Need) bool {
		for _, w := range book.Wholes(class.Learner{Needs: []class.Need{n}}) {
			if w.Apart {
				return true
			}
		}
		return false
	}
	assert.True(t, offered(class.Need{Kind: class.Allergy, What: "nuts", Severity: class.Contact}))
	assert.True(t, offered(class.Need{Kind: class.Allergy, What: "nuts"}), "of what is not said the worst is taken")
	assert.False(t, offered(class.Need{Kind: class.Allergy, What: "nuts", Severity: class.Eaten}))
	assert.False(t, offered(class.Need{Kind: class.Diet, What: "vegan"}))
	assert.False(t, offered(class.Need{Kind: class.Access, What: safety.OneHand}))
}
