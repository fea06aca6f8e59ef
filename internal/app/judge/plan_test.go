package judge_test

import (
	"cmp"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"freshapron/internal/app/judge"
	"freshapron/internal/app/school"
	"freshapron/internal/core/assess"
	"freshapron/internal/core/exact"
	"freshapron/internal/core/fit"
	"freshapron/internal/demo/demotest"
	"freshapron/internal/store"
)

// What a learner is at goes by their own plan, in the order of the clock and not of the
// rows; without one by the school's.
func TestWhatALearnerIsAt(t *testing.T) {
	var own judge.TimePlan
	for _, r := range []struct {
		at          float64
		clock, what string
	}{{30, "9:30", "fold"}, {0, "9:00", "wash hands"}, {30.4, "9:30", "fill the tin"}, {55, "9:55", "wash up"}} {
		own.Rows = append(own.Rows, assess.ReadRow{Row: assess.Row{At: r.at, Clock: r.clock, What: r.what}})
	}
	l := fit.Lesson{Start: 9 * 60, End: 10 * 60, Dishes: []fit.Dish{{ID: "buns", Title: "Buns", Steps: []fit.Step{{ID: "mix", Title: "Mix"}, {ID: "bake", Title: "Bake"}}}}}
	schools := judge.TimePlan{Lesson: l, Plan: &fit.GroupPlan{Steps: []fit.StepPlan{{Dish: "buns", Step: "bake", Start: 20}, {Dish: "buns", Step: "mix", Start: 5}}}}
	for _, c := range []struct {
		of       judge.TimePlan
		minute   float64
		at, next string
	}{
		{own, -1, "", "9:00 wash hands"},
		{own, 0, "wash hands", "9:30 fold"},
		{own, 30, "fold", "9:30 fill the tin"},
		{own, 31, "fill the tin", "9:55 wash up"},
		{own, 90, "wash up", ""},
		{schools, 0, "", "09:05 Mix"},
		{schools, 5, "Mix", "09:20 Bake"},
		{schools, 25, "Bake", ""},
		{judge.TimePlan{Lesson: l}, 25, "", ""},
	} {
		at, next := c.of.Now(c.minute)
		assert.Equal(t, c.at, at, c.minute)
		assert.Equal(t, c.next, next, c.minute)
	}
}

// A plan that can't be kept keeps what was there; one that can is read again as it was
// kept, and what a learner has answered counts.
func TestKeepingATimePlan(t *testing.T) {
	h := demotest.Enter(t)
	ctx := h.Head()
	of := task(t, ctx)
	learner := last(of)
	read := func() store.Entry {
		all, err := school.In(ctx).Entries(ctx, of.ID)
		require.NoError(t, err)
		return all[learner]
	}
	was := read()
	require.NotEmpty(t, was.Plan)
	version := demotest.ID(int64(was.Version))
	for want, bad := range map[string]string{
		"longer than 200 kB": strings.Repeat("9:00,wash hands\n", 13_000),
		"no rows":            "",
	} {
		err := judge.SavePlan(ctx, of, learner, version, []byte(bad), nil)
		if assert.Error(t, err, want) && want != "no rows" {
			assert.ErrorContains(t, err, want)
		}
		assert.Equal(t, was, read())
	}
	require.NoError(t, judge.SavePlan(ctx, of, learner, version, []byte(was.Plan), nil))
	again := read()
	assert.Equal(t, was.Version+1, again.Version)
	before, err := judge.PlanOf(ctx, of, learner, was)
	require.NoError(t, err)
	after, err := judge.PlanOf(ctx, of, learner, again)
	require.NoError(t, err)
	assert.Equal(t, before.Rows, after.Rows)
	assert.Equal(t, before.Findings, after.Findings)
	require.ErrorIs(t, judge.SavePlan(ctx, of, learner, version, []byte(was.Plan), nil), school.ErrChanged)

	late := "clock;dish;what;minutes\n" + after.Lesson.End.String() + ";;wash up;20\n" + after.Lesson.End.String() + ";;wipe down;20\n" + after.Lesson.End.String() + ";;sweep;20\n"
	require.NoError(t, judge.SavePlan(ctx, of, learner, demotest.ID(int64(again.Version)), []byte(late), nil))
	plan, err := judge.PlanOf(ctx, of, learner, read())
	require.NoError(t, err)
	n := 0
	for _, f := range plan.Findings {
		if f.Rule == "late" {
			n++
			assert.Len(t, f.Lines, 3, "one mistake, at all rows that are late")
		}
	}
	assert.Equal(t, 1, n)
}

// The tokens of learners: a name and a picture let in for twelve hours, a code until eight
// days after the practical, and neither lets in to another's.
func TestComingInToATask(t *testing.T) {
	h := demotest.Enter(t)
	ctx := h.Head()
	of := task(t, ctx)
	spaced := strings.ToUpper(of.Code[:3] + " " + of.Code[3:6] + "-" + of.Code[6:])
	in, found, err := judge.Come(ctx, h.Site, spaced)
	require.NoError(t, err)
	assert.Equal(t, of.ID, found.ID)
	assert.False(t, found.Mine)
	assert.False(t, found.Marks)
	assert.ErrorIs(t, judge.Shut(in, of.ID, "x", true, ""), school.ErrNotYours)
	for _, code := range []string{"", "nothing", of.Code[1:], of.Code + "a"} {
		_, _, err := judge.Come(ctx, h.Site, code)
		assert.ErrorIs(t, err, judge.ErrClosed, code)
	}

	learner := last(of)
	_, err = judge.LetIn(in, found, 1<<40, school.Pictures[0])
	assert.ErrorContains(t, err, "Choose your name")
	_, err = judge.LetIn(in, found, learner, "unicorn")
	assert.ErrorContains(t, err, "Choose your picture")
	pictures := func(learner int64) (own, another string) {
		own, err := school.In(ctx).Mark(ctx, learner)
		require.NoError(t, err)
		for _, p := range school.Pictures {
			if p != own {
				return cmp.Or(own, school.Pictures[0]), p
			}
		}
		return own, own
	}
	own, another := pictures(learner)
	token, err := judge.LetIn(in, found, learner, own)
	require.NoError(t, err)
	_, err = judge.LetIn(in, found, learner, another)
	assert.ErrorContains(t, err, "not the picture that was chosen")
	first := of.Learners()[0].ID
	own, _ = pictures(first)
	other, err := judge.LetIn(in, found, first, own)
	require.NoError(t, err)
	assert.NotEqual(t, token, other)
	_, at, who, err := judge.Enter(ctx, h.Site, token)
	require.NoError(t, err)
	assert.Equal(t, learner, who)
	assert.Equal(t, of.ID, at.ID)
	_, _, _, err = judge.Enter(ctx, h.Site, token+"a")
	assert.ErrorIs(t, err, judge.ErrClosed)

	h.At(h.Now().Add(13 * time.Hour))
	_, _, _, err = judge.Enter(ctx, h.Site, token)
	assert.ErrorIs(t, err, judge.ErrClosed, "they come in again with the code")
	h.At(of.View.Date.AddDate(0, 0, 9))
	_, _, err = judge.Come(ctx, h.Site, of.Code)
	assert.ErrorIs(t, err, judge.ErrClosed)
}

// Where nobody marks nobody sees marks, and nothing is agreed.
func TestATaskWithoutMarkers(t *testing.T) {
	sheet := &assess.Sheet{Ready: map[int64]bool{1: true}, Marks: map[int64]assess.Marks{1: {"taste": exact.Int(4)}}}
	assert.False(t, sheet.Open(nil))
	assert.True(t, sheet.Open([]int64{1}))
	assert.False(t, sheet.Open([]int64{1, 2}))
	s := assess.Scheme{Criteria: []assess.Criterion{{ID: "taste", Most: exact.Int(5), Weight: exact.Int(1)}}, OutOf: exact.Int(5)}
	assert.Nil(t, s.Outcome(sheet, nil).Final)
	assert.NotNil(t, s.Outcome(sheet, []int64{1}).Final)
}
