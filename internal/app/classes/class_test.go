package classes_test

import (
	"fmt"
	"strconv"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"freshapron/internal/app/classes"
	"freshapron/internal/app/school"
	"freshapron/internal/core/class"
	"freshapron/internal/demo/demotest"
)

// Who belongs to a class sees what its learners need, and that they looked is
// written down; anybody else sees the names only.
func TestNeedsOfAClass(t *testing.T) {
	h := demotest.Enter(t)
	hazel := h.ClassOf("8 Hazel")
	needs := func(c school.Class) (n int) {
		for _, l := range c.Roster {
			n += len(l.Needs)
		}
		return n
	}
	for _, name := range []string{"Maren Holt", "Idris Bell", "Tomas Finney", "Bea Lindqvist"} {
		before := h.LastNote()
		ctx := h.As(name)
		v, err := classes.One(ctx, hazel.ID)
		require.NoError(t, err)
		assert.Len(t, v.Roster, 24)
		mine, err := school.Mine(ctx, hazel.ID)
		require.NoError(t, err)
		assert.Equal(t, mine, v.Mine, name)
		list, err := classes.Export(ctx, hazel.ID)
		require.NoError(t, err)
		if !mine {
			assert.Zero(t, needs(v), name)
			assert.Equal(t, before, h.LastNote(), "%s saw nothing that is written down", name)
			for _, row := range list.Rows {
				assert.NotContains(t, row, "milk", name)
			}
			continue
		}
		assert.Equal(t, 6, needs(v), name)
		assert.Equal(t, name, h.LastNote().Who)
		assert.Equal(t, "took out the list of 8 Hazel", h.LastNote().Says)
		assert.Len(t, list.Rows, 25)
	}
}

func TestWrongClasses(t *testing.T) {
	h := demotest.Enter(t)
	ctx := h.As("Idris Bell")
	long := "a class whose name goes on and on, longer than any timetable could ever print it anywhere at all"
	for _, c := range []struct {
		in   classes.ClassForm
		says []string
	}{
		{classes.ClassForm{}, []string{"name: Give the class a name."}},
		{classes.ClassForm{Name: long}, []string{"name: The name is longer than 80 letters."}},
		{classes.ClassForm{Name: "9 Elm", Age: "2"}, []string{"age: Age: 2 is not between 3 and 99 years."}},
		{classes.ClassForm{Name: "9 Elm", Pace: "0"}, []string{"pace: Pace: 0 is not between 0.1 and 5. 1 is as the recipe says, 1.2 a fifth slower."}},
		{classes.ClassForm{Name: "9 Elm", Learners: "61"}, []string{"learners: Learners: 61 is not between 0 and 60."}},
		{classes.ClassForm{Name: "8 Hazel"}, []string{"name: There is a class with this name already."}},
		{classes.ClassForm{Name: "8 hazel"}, []string{"name: There is a class with this name already."}},
		{classes.ClassForm{Name: " ", Age: "200", Learners: "-1"}, []string{
			"name: Give the class a name.", "age: Age: 200 is not between 3 and 99 years.", "learners: Learners: -1 is not between 0 and 60.",
		}},
	} {
		_, err := classes.AddClass(ctx, c.in)
		demotest.Says(t, err, c.says...)
	}
	made, err := classes.AddClass(ctx, classes.ClassForm{Name: " 9 Elm ", Age: "14", Pace: "1,2", Learners: "18"})
	require.NoError(t, err)
	v, err := classes.One(ctx, made)
	require.NoError(t, err)
	assert.Equal(t, "9 Elm", v.Class.Name)
	assert.Equal(t, "1.2", v.Pace.Decimal(2))
	assert.True(t, v.Mine, "who makes a class belongs to it")
}

func TestChangingAClass(t *testing.T) {
	h := demotest.Enter(t)
	maren, idris := h.As("Maren Holt"), h.As("Idris Bell")
	made, err := classes.AddClass(idris, classes.ClassForm{Name: "9 Elm", Learners: "18"})
	require.NoError(t, err)
	form := classes.ClassForm{Name: "9 Elms", Learners: "19"}
	assert.ErrorIs(t, classes.ChangeClass(maren, made, "1", form), school.ErrNotYours, "not even the head of food")
	assert.ErrorIs(t, classes.ChangeClass(idris, made, "7", form), school.ErrChanged)
	demotest.Says(t, classes.ChangeClass(idris, made, "1", classes.ClassForm{Name: "8 HAZEL"}), "name: There is a class with this name already.")
	require.NoError(t, classes.ChangeClass(idris, made, "1", form))
	assert.ErrorIs(t, classes.ChangeClass(idris, made, "1", form), school.ErrChanged, "the version has been used up")
	assert.ErrorIs(t, classes.ChangeClass(idris, 9999, "1", form), school.ErrNotFound)

	hazel := h.ClassOf("8 Hazel")
	require.NoError(t, classes.ChangeClass(maren, hazel.ID, strconv.Itoa(hazel.Version), classes.ClassForm{Name: "8 Hazel", Learners: "3"}))
	assert.Equal(t, 24, h.ClassOf("8 Hazel").Learners, "learners who are named are counted")

	accounts, err := h.School.Accounts(maren)
	require.NoError(t, err)
	require.NoError(t, classes.SetStaff(maren, made, []string{demotest.ID(accounts[0].ID), "999", "x"}))
	mine, err := school.Mine(idris, made)
	require.NoError(t, err)
	assert.Equal(t, accounts[0].Name == "Idris Bell", mine)
	assert.Equal(t, "9 Elms belongs to: "+accounts[0].Name, h.LastNote().Says)
}

func TestLearnersOfAClass(t *testing.T) {
	h := demotest.Enter(t)
	ctx := h.As("Maren Holt")
	hazel := h.ClassOf("8 Hazel")
	ada := classes.LearnerForm{Given: "Ada", Family: "Lomax", Born: "2013-05-04", Level: "sure", Can: "claw, bridge", Allergies: "milk (contact): pen in the office", Diet: "vegetarian"}
	require.NoError(t, classes.SaveLearner(ctx, hazel.ID, 0, ada))
	v, err := classes.One(ctx, hazel.ID)
	require.NoError(t, err)
	require.Len(t, v.Roster, 25)
	at := -1
	for i, l := range v.Roster {
		if l.Name() == "Ada Lomax" {
			at = i
		}
	}
	require.GreaterOrEqual(t, at, 0)
	got := v.Roster[at]
	assert.Equal(t, class.Sure, got.Level)
	assert.Equal(t, []string{"claw", "bridge"}, got.Can)
	require.Len(t, got.Needs, 2)
	back := classes.LearnerFormOf(got)
	assert.Equal(t, "2013-05-04", back.Born)
	require.NoError(t, classes.SaveLearner(ctx, hazel.ID, got.ID, back), "what a form shows can be saved")
	again, err := classes.One(ctx, hazel.ID)
	require.NoError(t, err)
	assert.Equal(t, got, again.Roster[at])

	demotest.Says(t, classes.SaveLearner(ctx, hazel.ID, 0, ada), "learner: Ada Lomax is in this class already: give a birthday or the school’s number, so that they can be told apart.")
	demotest.Says(t, classes.SaveLearner(ctx, hazel.ID, 0, classes.LearnerForm{}), "learner: There is no name.")
	demotest.Says(t, classes.SaveLearner(ctx, hazel.ID, 0, classes.LearnerForm{Given: "Bo", Born: "2031-01-01"}), "learner: The birthday 1 January 2031 is in the future.")
	assert.ErrorIs(t, classes.SaveLearner(ctx, hazel.ID, 99999, ada), school.ErrNotFound)
	assert.ErrorIs(t, classes.SaveLearner(h.As("Tomas Finney"), hazel.ID, 0, ada), school.ErrNotYours)

	require.NoError(t, classes.RemoveLearner(ctx, hazel.ID, got.ID))
	assert.Len(t, h.ClassOf("8 Hazel").Roster, 24)
	assert.Equal(t, fmt.Sprintf("learner %d left 8 Hazel, and is forgotten", got.ID), h.LastNote().Says)
}

func TestRulesOfAClass(t *testing.T) {
	h := demotest.Enter(t)
	ctx := h.As("Maren Holt")
	made, err := classes.AddClass(ctx, classes.ClassForm{Name: "9 Elm"})
	require.NoError(t, err)
	for _, name := range []string{"Ada", "Bo", "Cy", "Di"} {
		require.NoError(t, classes.SaveLearner(ctx, made, 0, classes.LearnerForm{Given: name}))
	}
	v, err := classes.One(ctx, made)
	require.NoError(t, err)
	ids := map[string]string{}
	for _, l := range v.Roster {
		ids[l.Given] = demotest.ID(l.ID)
	}
	for _, c := range []struct {
		in   classes.RuleForm
		says string
	}{
		{classes.RuleForm{Kind: "nothing"}, "rule: Choose what the rule asks for."},
		{classes.RuleForm{Kind: string(class.Together), Learners: []string{ids["Ada"]}}, "rule: Choose two learners or more."},
		{classes.RuleForm{Kind: string(class.AwayFrom), Learners: []string{ids["Ada"], "12345"}}, "rule: Choose two learners or more."},
		{classes.RuleForm{Kind: string(class.Near)}, "rule: Choose who is to be near the teacher."},
		{classes.RuleForm{Kind: string(class.OneCan), Skill: "  "}, "rule: Name a skill that is written beside some learners, such as claw."},
	} {
		demotest.Says(t, classes.AddRule(ctx, made, c.in), c.says)
	}
	together := func(c school.Class, a, b string) bool {
		for _, g := range classes.Pairs(c).Groups {
			names := map[string]bool{}
			for _, l := range g {
				names[l.Given] = true
			}
			if names[a] && names[b] {
				return true
			}
		}
		return false
	}
	require.NoError(t, classes.AddRule(ctx, made, classes.RuleForm{Kind: string(class.Together), Learners: []string{ids["Ada"], ids["Di"]}}))
	v, err = classes.One(ctx, made)
	require.NoError(t, err)
	assert.True(t, together(v, "Ada", "Di"))
	assert.True(t, together(v, "Bo", "Cy"))
	require.NoError(t, classes.RemoveRule(ctx, made, strconv.Itoa(v.Version), "0"))
	require.NoError(t, classes.AddRule(ctx, made, classes.RuleForm{Kind: string(class.AwayFrom), Learners: []string{ids["Ada"], ids["Di"]}}))
	v, err = classes.One(ctx, made)
	require.NoError(t, err)
	require.Len(t, v.Rules, 1)
	assert.False(t, together(v, "Ada", "Di"))
	for _, at := range []string{"1", "-1", "x", ""} {
		assert.ErrorIs(t, classes.RemoveRule(ctx, made, strconv.Itoa(v.Version), at), school.ErrChanged, at)
	}
	assert.ErrorIs(t, classes.RemoveRule(ctx, made, "1", "0"), school.ErrChanged)
	for range 39 {
		require.NoError(t, classes.AddRule(ctx, made, classes.RuleForm{Kind: string(class.SameDiet), Learners: []string{ids["Bo"]}}))
	}
	demotest.Says(t, classes.AddRule(ctx, made, classes.RuleForm{Kind: string(class.SameDiet)}), "rule: There are 40 rules; more could hardly be kept. Take one back first.")
}
