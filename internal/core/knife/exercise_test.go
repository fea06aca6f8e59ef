package knife_test

import (
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"freshapron/internal/core/knife"
)

func TestFoods(t *testing.T) {
	assert.GreaterOrEqual(t, len(knife.Foods), 25)
	for _, f := range knife.Foods {
		assert.NoError(t, f.Solid.Check(), f.Name)
		list, err := f.Solid.Cut(knife.Cuts{})
		require.NoError(t, err)
		assert.NotEmpty(t, list, f.Name)
		assert.Contains(t, knife.HoldSays, f.Hold, f.Name)
		assert.NotEmpty(t, f.Cuts, f.Name)
	}
	for text, want := range map[string]string{"2 carrots, peeled": "carrot", "a pile of onionskins": "", "peel the carrots now": "carrot", "a sweet potato here": "sweet potato", "3 cherry tomatoes": "cherry tomato", "flour": ""} {
		f, ok := knife.FoodNamed(text)
		assert.Equal(t, want != "", ok, text)
		assert.Equal(t, want, f.Name, text)
	}
}

// The cuts that are laid evenly leave what was asked for and waste at the ends.
func TestEvenCuts(t *testing.T) {
	cheese, _ := knife.FoodNamed("the cheese")
	cuts := cheese.Solid.Even([3]float64{10, 10, 10})
	list, err := cheese.Solid.Cut(cuts)
	require.NoError(t, err)
	assert.Len(t, list, 9*6*5)
	assert.Zero(t, knife.Waste(list, 1000))
	assert.Equal(t, 8+5+4, cuts.Strokes(cheese.Solid))
	potato, _ := knife.FoodNamed("the potato")
	list, err = potato.Solid.Cut(potato.Solid.Even([3]float64{12, 12, 12}))
	require.NoError(t, err)
	waste := knife.Waste(list, 12*12*12)
	assert.Greater(t, waste, 0.05, "what is round leaves ends")
	assert.Less(t, waste, 0.4)
}

func ids(list []knife.Act) []string {
	var out []string
	for _, a := range list {
		out = append(out, a.ID)
	}
	return out
}

// A wrong order is played: the first act that comes before what it stands on goes wrong.
func TestOrders(t *testing.T) {
	carrot, _ := knife.FoodNamed("the carrot")
	right := carrot.Order("dice")
	assert.Equal(t, []string{"board", "flat", "slices", "sticks", "dice"}, ids(right))
	at, _ := knife.Played(right, ids(right))
	assert.Equal(t, -1, at)
	at, wrong := knife.Played(right, []string{"board", "slices", "flat", "sticks", "dice"})
	assert.Equal(t, 1, at)
	assert.Equal(t, "the carrot rolls", wrong.Else)
	assert.Equal(t, knife.Rolls, wrong.Drawn)
	at, wrong = knife.Played(right, []string{"board", "flat"})
	assert.Equal(t, 2, at)
	assert.NotEmpty(t, wrong.Else)
	onion, _ := knife.FoodNamed("the onion")
	assert.Equal(t, []string{"board", "flat", "slices", "dice", "root"}, ids(onion.Order("dice")))
	at, wrong = knife.Played(onion.Order("dice"), []string{"board", "flat", "root", "slices", "dice"})
	assert.Equal(t, 2, at)
	assert.Contains(t, wrong.Else, "fall")
	assert.Equal(t, knife.Apart, wrong.Drawn)
	at, _ = knife.Played(right, []string{"fly"})
	assert.Zero(t, at)
}

func TestExercises(t *testing.T) {
	for _, kind := range knife.ExerciseKinds {
		for n := range 60 {
			e := knife.NewExercise(kind, 4, n, nil)
			assert.NotEmpty(t, e.Ask)
			assert.Equal(t, e, knife.NewExercise(kind, 4, n, nil), "the same seed makes the same")
			switch kind {
			case knife.OrderExercise:
				at, _ := knife.Played(e.Food.Order(e.Cut), ids(e.Acts))
				assert.GreaterOrEqual(t, at, 0, "it is not shown in order")
				assert.ElementsMatch(t, ids(e.Acts), ids(e.Food.Order(e.Cut)))
				for _, a := range e.Acts {
					assert.NotEmpty(t, a.Drawn, "%s of %s can't be played", a.ID, e.Food.Name)
				}
			case knife.CutExercise:
				assert.Positive(t, e.Target[0])
			default:
				assert.Equal(t, 1, len(slices.DeleteFunc(slices.Clone(e.Choices), func(c knife.Choice) bool { return !c.Right })), e.Ask)
				c, ok := e.Chosen("0")
				assert.True(t, ok)
				assert.NotEmpty(t, c.Why)
			}
		}
	}
	leek, _ := knife.FoodNamed("the leek")
	for n := range 20 {
		assert.Equal(t, "leek", knife.NewExercise(knife.HoldExercise, 1, n, []knife.Food{leek}).Food.Name, "of the next lesson")
	}
	_, ok := knife.NewExercise(knife.CareExercise, 1, 1, nil).Chosen("9")
	assert.False(t, ok)
}

// Cutting is judged by what comes of it. Of a block of cheese of 90 × 60 × 50 mm, dice of
// ten come out to the last; of eleven and a half the last rows are too thin.
func TestJudgedCuts(t *testing.T) {
	cheese, _ := knife.FoodNamed("the cheese")
	e := knife.Exercise{Kind: knife.CutExercise, Food: cheese, Cut: "dice", Target: [3]float64{10, 10, 10}}
	good := cheese.Solid.Even(e.Target)
	c, err := e.Judge(good)
	require.NoError(t, err)
	assert.True(t, c.Right)
	assert.Empty(t, c.Instead)
	assert.Equal(t, 17, c.Strokes)
	assert.Len(t, c.Pieces, 270)
	assert.Zero(t, c.Waste)
	assert.InDelta(t, c.First, c.Last, 1e-9, "all are done at once")

	// A cut that is left out makes a fifth of the rows twice as thick: 54 of 216 pieces off.
	fewer := knife.Cuts{good[0], good[1], append([]float64{}, good[2][1:]...)}
	c, err = e.Judge(fewer)
	require.NoError(t, err)
	assert.Len(t, c.Pieces, 9*6*4)
	assert.InDelta(t, 0.25, c.Evenness.Off, 1e-12)
	assert.True(t, c.Right, "under three tenths")
	assert.Greater(t, c.Last, c.First)
	// Another one left out: 9·5·4 pieces, of which one in four is thick and one in five wide.
	c, err = e.Judge(knife.Cuts{good[0], append([]float64{}, good[1][1:]...), fewer[2]})
	require.NoError(t, err)
	assert.InDelta(t, 1-(3.0/4)*(4.0/5), c.Evenness.Off, 1e-12)
	assert.False(t, c.Right)
	assert.Equal(t, "Lay the cuts 10 mm apart in all three directions.", c.Instead)

	// Slices of four millimetres are under half of a dice where they are cut on: all waste.
	var thin []float64
	for x := cheese.Solid.Size[0] - 4; x > 0; x -= 4 {
		thin = append(thin, x)
	}
	c, err = e.Judge(knife.Cuts{thin, good[1], good[2]})
	require.NoError(t, err)
	assert.InDelta(t, 1, c.Waste, 0.05)
	assert.False(t, c.Right)
	assert.Zero(t, c.Last, "none that counts is cooked")

	_, err = e.Judge(knife.Cuts{})
	assert.ErrorContains(t, err, "There is no cut yet")
	_, err = e.Judge(knife.Cuts{make([]float64, 201)})
	assert.ErrorContains(t, err, "more than 200 cuts")
}
