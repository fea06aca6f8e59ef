package judge_test

import (
	"strings"
	"testing"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"freshapron/internal/app/judge"
	"freshapron/internal/app/lessons"
	"freshapron/internal/app/school"
	"freshapron/internal/core/taste"
	"freshapron/internal/demo/demotest"
)

const scones, tartlets = 1, 2

// How a lesson is tasted is read from its form, or what is wrong with it is said and
// nothing is kept.
func TestSettingUpATasting(t *testing.T) {
	h := demotest.Enter(t)
	ctx := h.Head()
	v, err := lessons.One(ctx, tartlets)
	require.NoError(t, err)
	usual, err := judge.TastingOf(ctx, v)
	require.NoError(t, err)
	assert.Zero(t, usual.Version, "nobody has said yet")
	assert.Equal(t, []string{"Leek tartlets"}, usual.Samples)
	assert.NotEmpty(t, usual.Words)
	for want, bad := range map[string]judge.TastingForm{
		"“Plain” is there twice":                          {Samples: "Plain\nPlain", Words: "salty"},
		"What is tasted: from 1 to 8, and there are 9":    {Samples: strings.Join(strings.Split("abcdefghi", ""), "\n"), Words: "salty"},
		"Words: from 1 to 12, and there are 0":            {Samples: "Plain", Words: " , "},
		"“salty” is there twice":                          {Samples: "Plain", Words: "salty, Salty"},
		"is longer than":                                  {Samples: strings.Repeat("x", 500), Words: "salty"},
		"“salty 6” is none of the words with a number":    {Samples: "Plain", Words: "salty", Meant: "salty 6"},
		"“crisp 3” is none of the words with a number":    {Samples: "Plain", Words: "salty", Meant: "crisp 3"},
		"“salty” is none of the words with a number from": {Samples: "Plain", Words: "salty", Meant: "salty"},
	} {
		assert.ErrorContains(t, judge.SaveTasting(ctx, tartlets, "0", bad), want)
	}
	form := judge.TastingForm{Samples: "Plain\n\nWith thyme", Words: "Salty, crisp pastry", Meant: "crisp pastry 4, salty 2"}
	require.ErrorIs(t, judge.SaveTasting(h.As("Nell Carver"), scones, "0", form), school.ErrNotYours)
	require.NoError(t, judge.SaveTasting(ctx, tartlets, "0", form))
	require.ErrorIs(t, judge.SaveTasting(ctx, tartlets, "0", form), school.ErrChanged)
	require.ErrorIs(t, judge.SaveTasting(ctx, tartlets, "the first", form), school.ErrChanged)
	got, err := judge.TastingOf(ctx, v)
	require.NoError(t, err)
	assert.Equal(t, judge.Tasting{Version: 1, Samples: []string{"Plain", "With thyme"}, Words: []string{"salty", "crisp pastry"}, Meant: map[string]int{"salty": 2, "crisp pastry": 4}}, got)
	assert.Equal(t, judge.TastingForm{Samples: "Plain\nWith thyme", Words: "salty, crisp pastry", Meant: "salty 2, crisp pastry 4"}, got.FormOf(), "and back again")
}

// What came of tests is kept as it was counted; counts that can't be are refused.
func TestKeepingTests(t *testing.T) {
	h := demotest.Enter(t)
	ctx := h.Head()
	add := func(version string, x ...string) error {
		return judge.AddTest(ctx, tartlets, version, x[0], x[1], x[2])
	}
	for want, bad := range map[string][]string{
		"Choose a test":                          {"guess", "1", "2"},
		"Nobody has said which is better":        {string(taste.Paired), "0", "0"},
		"13 were right, and there were only 12":  {string(taste.Triangle), "13", "12"},
		"Tasters: “0”":                           {string(taste.DuoTrio), "0", "0"},
		"Who were right: “many”":                 {string(taste.Triangle), "many", "12"},
		"Who liked the second better: “9999999”": {string(taste.Paired), "1", "9999999"},
	} {
		assert.ErrorContains(t, add("0", bad...), want)
	}
	require.NoError(t, add("0", string(taste.Triangle), "9", "12"))
	require.ErrorIs(t, add("0", string(taste.Paired), "3", "9"), school.ErrChanged)
	require.NoError(t, add("1", string(taste.Paired), "3", "9"))
	v, err := lessons.One(ctx, tartlets)
	require.NoError(t, err)
	got, err := judge.TastingOf(ctx, v)
	require.NoError(t, err)
	assert.Equal(t, []judge.TastingTest{{Test: taste.Triangle, Right: 9, Tasters: 12}, {Test: taste.Paired, A: 3, B: 9}}, got.Tests)
	for n := 2; n < 20; n++ {
		require.NoError(t, add(demotest.ID(int64(n)), string(taste.Paired), "3", "9"))
	}
	assert.ErrorContains(t, add("20", string(taste.Paired), "3", "9"), "There are 20 tests of this lesson already")
}

// Slips are counted once, profiles are their means, and what could bring a sample nearer
// to what was meant is said of that one alone. Checked by hand: salty of the plain one is
// (1 + 2) / 2 = 1.5 where 3 was meant.
func TestProfilesOfATasting(t *testing.T) {
	h := demotest.Enter(t)
	ctx := h.Head()
	require.NoError(t, judge.SaveTasting(ctx, tartlets, "0", judge.TastingForm{Samples: "Plain\nWith thyme", Words: "salty, crisp", Meant: "salty 3"}))
	v, err := lessons.One(ctx, tartlets)
	require.NoError(t, err)
	slip := func(press, sample string, marks map[string]string) error {
		return judge.AddTaste(ctx, v, press, sample, marks)
	}
	for want, bad := range map[string]struct {
		press, sample string
		marks         map[string]string
	}{
		"Choose what you have tasted":         {uuid.NewString(), "Stew", map[string]string{"salty": "1"}},
		"salty: “6” is no number from 1 to 5": {uuid.NewString(), "Plain", map[string]string{"salty": "6"}},
		"salty: “very” is no number from 1":   {uuid.NewString(), "Plain", map[string]string{"salty": "very", "crisp": "2"}},
		"Mark at least one word":              {uuid.NewString(), "Plain", map[string]string{"salty": " ", "sour": "3"}},
		"The form has no number of its own":   {"7", "Plain", map[string]string{"salty": "1"}},
	} {
		assert.ErrorContains(t, slip(bad.press, bad.sample, bad.marks), want)
	}
	first := uuid.NewString()
	for range 3 {
		require.NoError(t, slip(first, "Plain", map[string]string{"salty": "1", "crisp": "4"}))
	}
	require.NoError(t, slip(uuid.NewString(), "Plain", map[string]string{"salty": "2"}))
	require.NoError(t, slip(uuid.NewString(), "With thyme", map[string]string{"salty": "3", "crisp": "5"}))
	set, err := judge.TastingOf(ctx, v)
	require.NoError(t, err)
	profiles, tasters, err := judge.Profiles(ctx, tartlets, set)
	require.NoError(t, err)
	assert.Equal(t, map[string]int{"Plain": 2, "With thyme": 1}, tasters)
	plain := profiles["Plain"]
	require.Len(t, plain, 2)
	assert.Equal(t, judge.Profile{Word: "salty", Spread: taste.SpreadOf([]int{1, 2}), Meant: 3}, plain[0])
	assert.Equal(t, judge.Profile{Word: "crisp", Spread: taste.SpreadOf([]int{4})}, plain[1])
	assert.Equal(t, []judge.Balance{{Sample: "Plain", Says: taste.Balance("salty", false, 500)}}, judge.Balances(set, profiles, 500))
}

// A review is kept over its version, and a word for a learner in a press or in words, the
// last of each.
func TestLookingBackOnALesson(t *testing.T) {
	h := demotest.Enter(t)
	ctx := h.Head()
	require.NoError(t, judge.SaveReview(ctx, tartlets, "0", judge.Review{Learn: "rub in", Know: "crumbs", Next: "colder butter"}))
	require.ErrorIs(t, judge.SaveReview(ctx, tartlets, "0", judge.Review{}), school.ErrChanged)
	require.ErrorIs(t, judge.SaveReview(ctx, tartlets, "", judge.Review{}), school.ErrChanged)
	demotest.Says(t, judge.SaveReview(ctx, tartlets, "1", judge.Review{Know: strings.Repeat("é", 2001)}), "know: It is longer than 2000 letters")
	require.NoError(t, judge.SaveReview(ctx, tartlets, "1", judge.Review{Next: strings.Repeat("é", 2000)}))
	v, r, _, err := judge.ReviewOf(ctx, tartlets)
	require.NoError(t, err)
	assert.Equal(t, 2, r.Version)
	assert.Empty(t, r.Learn)

	who := v.Class.Roster[2].ID
	press := uuid.NewString()
	give := func(press, standing, says string) error {
		return judge.GiveWord(ctx, tartlets, who, press, standing, says)
	}
	assert.ErrorIs(t, judge.GiveWord(ctx, tartlets, 1<<40, press, judge.Standings[0], ""), school.ErrNotFound)
	for want, err := range map[string]error{
		"Press a word, or write one": give(press, "", " \n"),
		"Press one of: got there":    give(press, "brilliant", ""),
		"longer than 500 letters":    give(press, "", strings.Repeat("x", 501)),
		"no number of its own":       give("1", judge.Standings[0], ""),
	} {
		assert.ErrorContains(t, err, want)
	}
	require.NoError(t, give(press, judge.Standings[2], ""))
	require.NoError(t, give(press, judge.Standings[0], "the same press again"))
	require.NoError(t, give(uuid.NewString(), "", "roll it thinner"))
	_, _, said, err := judge.ReviewOf(ctx, tartlets)
	require.NoError(t, err)
	assert.Equal(t, judge.Word{Standing: judge.Standings[2], Says: "roll it thinner", Who: "Maren Holt"}, said[who])
	require.NoError(t, give(uuid.NewString(), judge.Standings[1], ""))
	_, _, said, err = judge.ReviewOf(ctx, tartlets)
	require.NoError(t, err)
	assert.Equal(t, judge.Word{Standing: judge.Standings[1], Says: "roll it thinner", Who: "Maren Holt"}, said[who])
	assert.Len(t, said, 1)
}
