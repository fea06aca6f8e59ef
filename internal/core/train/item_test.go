package train_test

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"freshapron/internal/core/knife"
	"freshapron/internal/core/train"
)

// Every exercise can be made, again the same, and says what it asks.
func TestItems(t *testing.T) {
	seen := map[string]bool{}
	for _, template := range train.Templates {
		assert.False(t, seen[template], "%s is there twice", template)
		seen[template] = true
		it, ok := train.NewItem(template, 7, 3, train.Source{}, nil)
		assert.True(t, ok)
		assert.NotEmpty(t, it.Ask())
		kinds := 0
		for _, is := range []bool{it.Task != nil, it.Do != nil, it.Knife != nil} {
			if is {
				kinds++
			}
		}
		assert.Equal(t, 1, kinds, template)
		again, _ := train.NewItem(template, 7, 3, train.Source{}, nil)
		assert.Equal(t, it, again)
		asks := map[string]bool{}
		for n := range 40 {
			it, _ := train.NewItem(template, 7, n, train.Source{}, nil)
			asks[it.Ask()] = true
		}
		assert.Greater(t, len(asks), 1, "%s always asks the same", template)
	}
	for _, none := range []string{"", "do-", "do-convert", "flying"} {
		_, ok := train.NewItem(none, 1, 1, train.Source{}, nil)
		assert.False(t, ok, none)
	}
	onion, _ := knife.FoodNamed("the onion")
	cut, _ := train.NewItem(knife.OrderExercise, 1, 1, train.Source{}, []knife.Food{onion})
	assert.Equal(t, "onion", cut.Knife.Food.Name, "what the next lesson cuts")
	for _, of := range [][]string{train.For(10), train.Together} {
		for _, template := range of {
			assert.True(t, seen[template], template)
		}
	}
}

// The youngest are asked no conversions and cut no solids apart.
func TestExercisesByAge(t *testing.T) {
	assert.Equal(t, train.Templates, train.For(0), "an age that is not known")
	assert.Equal(t, train.Templates, train.For(11))
	young := train.For(10)
	for _, hard := range []string{string(train.Convert), string(train.Ratio), string(train.OvenDial), knife.CutExercise} {
		assert.NotContains(t, young, hard)
	}
	assert.Contains(t, young, knife.CareExercise)
}

func TestWhatGoesWrong(t *testing.T) {
	try := func(template string, right ...bool) []train.Try {
		var out []train.Try
		for _, r := range right {
			out = append(out, train.Try{Template: template, Right: r})
		}
		return out
	}
	join := func(lists ...[]train.Try) []train.Try {
		var out []train.Try
		for _, l := range lists {
			out = append(out, l...)
		}
		return out
	}
	scale, dial, time := string(train.OnScale), string(train.OnDial), string(train.Time)
	assert.Empty(t, train.Stuck(nil))
	assert.Empty(t, train.Stuck(join(try(scale, false, true), try(dial, false))), "once can happen to anybody")
	assert.Equal(t, dial, train.Stuck(join(try(scale, false, false), try(dial, false, false, false, true))), "more often, and not more of the share")
	assert.Equal(t, scale, train.Stuck(join(try(dial, false, false), try(scale, false, false))), "of two the one that is learnt first")
	assert.Equal(t, []train.Hard{{dial, 1, 2}, {scale, 2, 5}}, train.Hardest(join(try(time, true, true), try(scale, false, false, true, true, true), try(dial, true, false))), "half is more than two fifths; none is not hard")
	assert.Empty(t, train.Hardest(nil))
}
