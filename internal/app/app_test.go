package app_test

import (
	"context"
	"strconv"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"freshapron/internal/app"
	"freshapron/internal/core/class"
	"freshapron/internal/core/problem"
	"freshapron/internal/demo/demotest"
	"freshapron/internal/store"
)

// A house is a demonstration school in which somebody acts.
type house struct {
	*app.App
	site *app.Site
	t    *testing.T
}

func open(t *testing.T) house {
	t.Helper()
	t.Parallel()
	site, school, _ := demotest.Open(t, nil)
	return house{site.For(school), site, t}
}

// as returns a context in which one of the demonstration's people acts.
func (h house) as(name string) context.Context {
	h.t.Helper()
	list, err := h.site.Offered(context.Background())
	require.NoError(h.t, err)
	for _, a := range list {
		if a.Name == name {
			return app.As(context.Background(), a)
		}
	}
	h.t.Fatalf("nobody is called %s", name)
	return nil
}

// class returns a class by its name.
func (h house) class(name string) store.Class {
	h.t.Helper()
	all, err := h.School.Classes(context.Background())
	require.NoError(h.t, err)
	for _, c := range all {
		if c.Name == name {
			whole, err := h.School.Class(context.Background(), c.ID)
			require.NoError(h.t, err)
			return whole
		}
	}
	h.t.Fatalf("there is no class %s", name)
	return store.Class{}
}

// trail returns what the newest note of the trail says.
func (h house) trail() store.Note {
	h.t.Helper()
	notes, _, err := h.School.Trail(context.Background(), "", 0, 1)
	require.NoError(h.t, err)
	require.NotEmpty(h.t, notes)
	return notes[0]
}

// says asserts that an error is made of these problems, in any order.
func says(t *testing.T, err error, want ...string) {
	t.Helper()
	var problems problem.List
	require.ErrorAs(t, err, &problems)
	var got []string
	for _, p := range problems {
		got = append(got, p.Path+": "+p.Says)
	}
	assert.ElementsMatch(t, want, got)
}

func id(n int64) string { return strconv.FormatInt(n, 10) }

func TestTodayIsTheSchools(t *testing.T) {
	h := open(t)
	h.Now = func() time.Time { return time.Date(2026, 6, 30, 23, 30, 0, 0, time.UTC) } // half past midnight in summer
	assert.Equal(t, "2026-07-01", h.Today().Format(time.DateOnly))
	h.Now = func() time.Time { return time.Date(2026, 12, 31, 23, 30, 0, 0, time.UTC) }
	assert.Equal(t, "2026-12-31", h.Today().Format(time.DateOnly))
}

// Who belongs to a class sees what its learners need, and that they looked is
// written down; anybody else sees the names only.
func TestNeedsOfAClass(t *testing.T) {
	h := open(t)
	hazel := h.class("8 Hazel")
	needs := func(c app.ClassView) (n int) {
		for _, l := range c.Roster {
			n += len(l.Needs)
		}
		return n
	}
	for _, name := range []string{"Maren Holt", "Idris Bell", "Tomas Finney", "Bea Lindqvist"} {
		before := h.trail()
		ctx := h.as(name)
		v, err := h.Class(ctx, hazel.ID)
		require.NoError(t, err)
		assert.Len(t, v.Roster, 24)
		mine, err := h.Mine(ctx, hazel.ID)
		require.NoError(t, err)
		assert.Equal(t, mine, v.Mine, name)
		_, rows, err := h.Export(ctx, hazel.ID)
		require.NoError(t, err)
		if !mine {
			assert.Zero(t, needs(v), name)
			assert.Equal(t, before, h.trail(), "%s saw nothing that is written down", name)
			for _, row := range rows {
				assert.NotContains(t, row, "milk", name)
			}
			continue
		}
		assert.Equal(t, 6, needs(v), name)
		assert.Equal(t, name, h.trail().Who)
		assert.Equal(t, "took out the list of 8 Hazel", h.trail().Says)
		assert.Len(t, rows, 25)
	}
}

func TestWrongClasses(t *testing.T) {
	h := open(t)
	ctx := h.as("Idris Bell")
	long := "a class whose name goes on and on, longer than any timetable could ever print it anywhere at all"
	for _, c := range []struct {
		in   app.ClassForm
		says []string
	}{
		{app.ClassForm{}, []string{"name: Give the class a name."}},
		{app.ClassForm{Name: long}, []string{"name: The name is longer than 80 letters."}},
		{app.ClassForm{Name: "9 Elm", Age: "2"}, []string{"age: Age: 2 is not between 3 and 99 years."}},
		{app.ClassForm{Name: "9 Elm", Pace: "0"}, []string{"pace: Pace: 0 is not between 0.1 and 5. 1 is as the recipe says, 1.2 a fifth slower."}},
		{app.ClassForm{Name: "9 Elm", Learners: "61"}, []string{"learners: Learners: 61 is not between 0 and 60."}},
		{app.ClassForm{Name: "8 Hazel"}, []string{"name: There is a class with this name already."}},
		{app.ClassForm{Name: "8 hazel"}, []string{"name: There is a class with this name already."}},
		{app.ClassForm{Name: " ", Age: "200", Learners: "-1"}, []string{
			"name: Give the class a name.", "age: Age: 200 is not between 3 and 99 years.", "learners: Learners: -1 is not between 0 and 60.",
		}},
	} {
		_, err := h.AddClass(ctx, c.in)
		says(t, err, c.says...)
	}
	made, err := h.AddClass(ctx, app.ClassForm{Name: " 9 Elm ", Age: "14", Pace: "1,2", Learners: "18"})
	require.NoError(t, err)
	v, err := h.Class(ctx, made)
	require.NoError(t, err)
	assert.Equal(t, "9 Elm", v.Class.Name)
	assert.Equal(t, "1.2", v.Pace.Decimal(2))
	assert.True(t, v.Mine, "who makes a class belongs to it")
}

func TestChangingAClass(t *testing.T) {
	h := open(t)
	maren, idris := h.as("Maren Holt"), h.as("Idris Bell")
	made, err := h.AddClass(idris, app.ClassForm{Name: "9 Elm", Learners: "18"})
	require.NoError(t, err)
	form := app.ClassForm{Name: "9 Elms", Learners: "19"}
	assert.ErrorIs(t, h.ChangeClass(maren, made, "1", form), app.ErrNotYours, "not even the head of food")
	assert.ErrorIs(t, h.ChangeClass(idris, made, "7", form), store.ErrChanged)
	says(t, h.ChangeClass(idris, made, "1", app.ClassForm{Name: "8 HAZEL"}), "name: There is a class with this name already.")
	require.NoError(t, h.ChangeClass(idris, made, "1", form))
	assert.ErrorIs(t, h.ChangeClass(idris, made, "1", form), store.ErrChanged, "the version has been used up")
	assert.ErrorIs(t, h.ChangeClass(idris, 9999, "1", form), store.ErrNotFound)

	hazel := h.class("8 Hazel")
	require.NoError(t, h.ChangeClass(maren, hazel.ID, strconv.Itoa(hazel.Version), app.ClassForm{Name: "8 Hazel", Learners: "3"}))
	assert.Equal(t, 24, h.class("8 Hazel").Learners, "learners who are named are counted")

	accounts, err := h.School.Accounts(maren)
	require.NoError(t, err)
	require.NoError(t, h.SetStaff(maren, made, []string{id(accounts[0].ID), "999", "x"}))
	mine, err := h.Mine(idris, made)
	require.NoError(t, err)
	assert.Equal(t, accounts[0].Name == "Idris Bell", mine)
	assert.Equal(t, "9 Elms belongs to: "+accounts[0].Name, h.trail().Says)
}

func TestLearnersOfAClass(t *testing.T) {
	h := open(t)
	ctx := h.as("Maren Holt")
	hazel := h.class("8 Hazel")
	ada := app.LearnerForm{Given: "Ada", Family: "Lomax", Born: "2013-05-04", Level: "sure", Can: "claw, bridge", Allergies: "milk (contact): pen in the office", Diet: "vegetarian"}
	require.NoError(t, h.SaveLearner(ctx, hazel.ID, 0, ada))
	v, err := h.Class(ctx, hazel.ID)
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
	back := app.LearnerFormOf(got)
	assert.Equal(t, "2013-05-04", back.Born)
	require.NoError(t, h.SaveLearner(ctx, hazel.ID, got.ID, back), "what a form shows can be saved")
	again, err := h.Class(ctx, hazel.ID)
	require.NoError(t, err)
	assert.Equal(t, got, again.Roster[at])

	says(t, h.SaveLearner(ctx, hazel.ID, 0, ada), "learner: Ada Lomax is in this class already: give a birthday or the school’s number, so that they can be told apart.")
	says(t, h.SaveLearner(ctx, hazel.ID, 0, app.LearnerForm{}), "learner: There is no name.")
	says(t, h.SaveLearner(ctx, hazel.ID, 0, app.LearnerForm{Given: "Bo", Born: "2031-01-01"}), "learner: The birthday 1 January 2031 is in the future.")
	assert.ErrorIs(t, h.SaveLearner(ctx, hazel.ID, 99999, ada), store.ErrNotFound)
	assert.ErrorIs(t, h.SaveLearner(h.as("Tomas Finney"), hazel.ID, 0, ada), app.ErrNotYours)

	require.NoError(t, h.RemoveLearner(ctx, hazel.ID, got.ID))
	assert.Len(t, h.class("8 Hazel").Roster, 24)
	assert.Equal(t, "Ada Lomax left 8 Hazel", h.trail().Says)
}

func TestRulesOfAClass(t *testing.T) {
	h := open(t)
	ctx := h.as("Maren Holt")
	made, err := h.AddClass(ctx, app.ClassForm{Name: "9 Elm"})
	require.NoError(t, err)
	for _, name := range []string{"Ada", "Bo", "Cy", "Di"} {
		require.NoError(t, h.SaveLearner(ctx, made, 0, app.LearnerForm{Given: name}))
	}
	v, err := h.Class(ctx, made)
	require.NoError(t, err)
	ids := map[string]string{}
	for _, l := range v.Roster {
		ids[l.Given] = id(l.ID)
	}
	for _, c := range []struct {
		in   app.RuleForm
		says string
	}{
		{app.RuleForm{Kind: "nothing"}, "rule: Choose what the rule asks for."},
		{app.RuleForm{Kind: string(class.Together), Learners: []string{ids["Ada"]}}, "rule: Choose two learners or more."},
		{app.RuleForm{Kind: string(class.AwayFrom), Learners: []string{ids["Ada"], "12345"}}, "rule: Choose two learners or more."},
		{app.RuleForm{Kind: string(class.Near)}, "rule: Choose who is to be near the teacher."},
		{app.RuleForm{Kind: string(class.OneCan), Skill: "  "}, "rule: Name a skill that is written beside some learners, such as claw."},
	} {
		says(t, h.AddRule(ctx, made, c.in), c.says)
	}
	together := func(c app.ClassView, a, b string) bool {
		for _, g := range h.Pairs(c).Groups {
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
	require.NoError(t, h.AddRule(ctx, made, app.RuleForm{Kind: string(class.Together), Learners: []string{ids["Ada"], ids["Di"]}}))
	v, err = h.Class(ctx, made)
	require.NoError(t, err)
	assert.True(t, together(v, "Ada", "Di"))
	assert.True(t, together(v, "Bo", "Cy"))
	require.NoError(t, h.RemoveRule(ctx, made, strconv.Itoa(v.Version), "0"))
	require.NoError(t, h.AddRule(ctx, made, app.RuleForm{Kind: string(class.AwayFrom), Learners: []string{ids["Ada"], ids["Di"]}}))
	v, err = h.Class(ctx, made)
	require.NoError(t, err)
	require.Len(t, v.Rules, 1)
	assert.False(t, together(v, "Ada", "Di"))
	for _, at := range []string{"1", "-1", "x", ""} {
		assert.ErrorIs(t, h.RemoveRule(ctx, made, strconv.Itoa(v.Version), at), store.ErrChanged, at)
	}
	assert.ErrorIs(t, h.RemoveRule(ctx, made, "1", "0"), store.ErrChanged)
	for range 39 {
		require.NoError(t, h.AddRule(ctx, made, app.RuleForm{Kind: string(class.SameDiet), Learners: []string{ids["Bo"]}}))
	}
	says(t, h.AddRule(ctx, made, app.RuleForm{Kind: string(class.SameDiet)}), "rule: There are 40 rules; more could hardly be kept. Take one back first.")
}

// Work that may wait is done before its caller goes on, and comes out as it
// would have otherwise.
func TestSearchesBehindPages(t *testing.T) {
	h := open(t)
	ctx := h.as("Maren Holt")
	lessons, err := h.LessonsFrom(ctx, h.Today(), 7)
	require.NoError(t, err)
	var late *app.View
	for _, v := range lessons {
		if v.Plan != nil && !v.Plan.Fits && (late == nil || v.ID < late.ID) {
			late = v
		}
	}
	require.NotNil(t, late, "one lesson of the demonstration is too long")
	trying := h.Rescues(late)
	assert.Same(t, trying, h.Rescues(late), "a search that has begun is not begun again")
	list, ended := trying.Wait(ctx, time.Minute)
	require.True(t, ended)
	require.NotEmpty(t, list)
	done, all := trying.Progress()
	assert.Equal(t, all, done)
	want := late.Core.Try(late.Fit, late.Plan, h.Planning, nil)
	require.Len(t, list, len(want))
	for i := range want {
		assert.Equal(t, want[i].Plan.Finish, list[i].Plan.Finish)
		assert.Equal(t, want[i].Plan.Risk.AllOnTime, list[i].Plan.Risk.AllOnTime)
	}
	gone, cancel := context.WithCancel(ctx)
	cancel()
	_, ended = h.Rescues(&app.View{Lesson: store.Lesson{ID: -1}, Core: late.Core, Fit: late.Fit, Plan: late.Plan}).Wait(gone, 0)
	assert.False(t, ended, "who has gone does not wait")
}

func TestErrorsAreTold(t *testing.T) {
	h := open(t)
	ctx := h.as("Maren Holt")
	_, err := h.Lesson(ctx, 9999)
	assert.ErrorIs(t, err, store.ErrNotFound)
	_, err = h.Care(ctx, 9999)
	assert.ErrorIs(t, err, store.ErrNotFound)
	_, err = h.Class(ctx, 9999)
	assert.ErrorIs(t, err, store.ErrNotFound)
	assert.ErrorIs(t, h.Withdraw(ctx, 1, "1", 0), store.ErrChanged, "nothing was decided")
	assert.ErrorIs(t, h.Undo(ctx, 1, "first"), store.ErrChanged)
}
