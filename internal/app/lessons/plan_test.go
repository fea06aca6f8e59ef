package lessons_test

import (
	"context"
	"slices"
	"strconv"
	"sync"
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"freshapron/internal/app/lessons"
	"freshapron/internal/app/school"
	"freshapron/internal/core/clock"
	"freshapron/internal/core/exact"
	"freshapron/internal/core/fit"
	"freshapron/internal/core/fit/verify"
	"freshapron/internal/core/recipe"
	"freshapron/internal/core/rescue"
	"freshapron/internal/demo/demotest"
	"freshapron/internal/store"
)

// tartlets is the lesson of the demonstration on which most is decided.
const tartlets = 2

func version(v *lessons.View) string { return strconv.Itoa(v.Version) }

func TestChangesInWords(t *testing.T) {
	const door = clock.Time(9 * 60)
	for _, c := range []struct {
		in   lessons.ChangeRequest
		want rescue.Change
		says []string
	}{
		{in: lessons.ChangeRequest{}, says: []string{"change: Choose what to change."}},
		{in: lessons.ChangeRequest{Kind: "sing"}, says: []string{"change: Choose what to change."}},
		{in: lessons.ChangeRequest{Kind: string(rescue.PinAt), Clock: "8.59"}, says: []string{"clock: 08:59 is before the door opens, at 09:00."}},
		{in: lessons.ChangeRequest{Kind: string(rescue.PinAt), Clock: "nine"}, says: []string{"clock: “nine” is no time of day such as 10:05."}},
		{in: lessons.ChangeRequest{Kind: string(rescue.Pace), Minutes: "0"}, says: []string{"minutes: Pace: 0 is not between 0.1 and 5. 1 is as the recipe says, 1.2 a fifth slower."}},
		{in: lessons.ChangeRequest{Kind: string(rescue.Pace), Minutes: "5.01"}, says: []string{"minutes: Pace: 5.01 is not between 0.1 and 5. 1 is as the recipe says, 1.2 a fifth slower."}},
		{in: lessons.ChangeRequest{Kind: string(rescue.Cooks), Number: "9"}, says: []string{"number: Cooks: 9 is not between 1 and 8."}},
		{in: lessons.ChangeRequest{Kind: string(rescue.AdultOut), At: "10"}, says: []string{"minutes: Say for how many minutes the adult is out."}},
		{
			in:   lessons.ChangeRequest{Kind: string(rescue.PinAt), Clock: " 10:05 ", Group: "g1", Dish: "d", Step: "s"},
			want: rescue.Change{Kind: rescue.PinAt, Group: "g1", Dish: "d", Step: "s", At: exact.Int(65)},
		},
		{
			in:   lessons.ChangeRequest{Kind: string(rescue.Work), Dish: "d", Step: "s", Minutes: "2,5"},
			want: rescue.Change{Kind: rescue.Work, Dish: "d", Step: "s", Minutes: exact.Frac(5, 2)},
		},
		{
			in:   lessons.ChangeRequest{Kind: string(rescue.UnitOut), Equipment: "oven", Unit: "Oven 3", At: "0"},
			want: rescue.Change{Kind: rescue.UnitOut, Equipment: "oven", Unit: "Oven 3"},
		},
	} {
		got, err := lessons.ReadChange(door, c.in)
		if c.says != nil {
			demotest.Says(t, err, c.says...)
			continue
		}
		require.NoError(t, err)
		assert.Equal(t, c.want.At.String(), got.At.String())
		assert.Equal(t, c.want.Minutes.String(), got.Minutes.String())
		c.want.At, c.want.Minutes, got.At, got.Minutes = exact.Number{}, exact.Number{}, exact.Number{}, exact.Number{}
		assert.Equal(t, c.want, got)
	}
}

// What is decided is in the plan, can be taken back one by one or undone, and
// leaves the plan as it was.
func TestDecidingTakingBackAndUndoing(t *testing.T) {
	h := demotest.Enter(t)
	ctx := h.As("Maren Holt")
	load := func() *lessons.View {
		v, err := lessons.One(ctx, tartlets)
		require.NoError(t, err)
		require.Empty(t, verify.Plan(v.Fit, v.Plan))
		return v
	}
	units := func(v *lessons.View) (out []string) {
		for _, g := range v.Plan.Groups {
			for _, s := range g.Steps {
				for _, u := range s.Units {
					out = append(out, u.Unit)
				}
			}
		}
		return out
	}
	first := load()
	require.Contains(t, units(first), "Oven 3")
	out := rescue.Change{Kind: rescue.UnitOut, Equipment: "oven", Unit: "Oven 3"}
	slow := rescue.Change{Kind: rescue.Pace, Minutes: exact.Frac(6, 5)}

	tried, err := lessons.Tried(ctx, first, out)
	require.NoError(t, err)
	assert.NotContains(t, units(tried), "Oven 3")
	assert.Equal(t, first.Plan, load().Plan, "what is tried is not saved")

	require.NoError(t, lessons.Decide(ctx, tartlets, version(first), out))
	without := load()
	assert.NotContains(t, units(without), "Oven 3")
	effect, err := lessons.EffectOf(ctx, without)
	require.NoError(t, err)
	require.NotNil(t, effect)
	assert.Equal(t, first.Plan.Finish, effect.Before.Finish)
	assert.ErrorIs(t, lessons.Decide(ctx, tartlets, version(first), slow), school.ErrChanged, "two windows")
	require.NoError(t, lessons.Decide(ctx, tartlets, version(without), slow))
	both := load()
	require.Len(t, both.Changes, 2)
	assert.Greater(t, both.Plan.Finish, without.Plan.Finish, "a slower class is done later")

	for _, at := range []int{-1, 2} {
		assert.ErrorIs(t, lessons.Withdraw(ctx, tartlets, version(both), at), school.ErrChanged)
	}
	require.NoError(t, lessons.Withdraw(ctx, tartlets, version(both), 0))
	slower := load()
	assert.Contains(t, units(slower), "Oven 3")
	require.Len(t, slower.Changes, 1)
	for v := slower; len(v.Changes) > 0 || v.Plan.Finish != first.Plan.Finish; v = load() {
		require.NoError(t, lessons.Undo(ctx, tartlets, version(v)))
	}
	assert.Equal(t, first.Plan, load().Plan)

	demotest.Says(t, lessons.Decide(ctx, tartlets, version(load()), rescue.Change{Kind: rescue.TwoLessons}), "change: Choose when the second lesson is.")
	require.Error(t, lessons.Decide(ctx, tartlets, version(load()), rescue.Change{Kind: rescue.UnitOut, Equipment: "oven", Unit: "Oven 99"}))
	require.Error(t, lessons.Decide(ctx, tartlets, version(load()), rescue.Change{Kind: rescue.Work, Dish: "none", Step: "none", Minutes: exact.Int(3)}))
}

// A dish that keeps is made in two lessons: the first stops after the step,
// the second goes on from there, and not before the first or too long after.
func TestOneDishInTwoLessons(t *testing.T) {
	h := demotest.Enter(t)
	ctx := h.As("Maren Holt")
	all, err := lessons.From(ctx, h.Today(), 14)
	require.NoError(t, err)
	tried := 0
	for _, v := range all {
		at := slices.IndexFunc(v.Menu[0].Dish.Steps, func(s recipe.Step) bool { return s.Hold != nil })
		if at < 0 || v.Plan == nil {
			continue
		}
		tried++
		step := v.Menu[0].Dish.Steps[at]
		c := rescue.Change{Kind: rescue.TwoLessons, Step: step.ID}
		period := demotest.ID(v.Period.ID)
		for _, date := range []string{"", "soon", "2026-11-31"} {
			demotest.Says(t, lessons.Split(ctx, v.ID, version(v), c, lessons.SecondRequest{Date: date, Period: period}), "date: “"+date+"” is not a date such as 2026-11-26.")
		}
		demotest.Says(t, lessons.Split(ctx, v.ID, version(v), c, lessons.SecondRequest{Date: v.Date.Format("2006-01-02"), Period: period}), "date: The second lesson must come after the first.")
		err := lessons.Split(ctx, v.ID, version(v), c, lessons.SecondRequest{Date: v.Date.AddDate(0, 3, 0).Format("2006-01-02"), Period: period})
		require.Error(t, err, "nothing keeps for three months")
		assert.Contains(t, err.Error(), "date")

		minutes, err := strconv.Atoi(step.Hold.MaxMinutes.String())
		require.NoError(t, err)
		next := lessons.NextDay(v.Date)
		if next.Sub(v.Date).Minutes() > float64(minutes) {
			continue
		}
		require.NoError(t, lessons.Split(ctx, v.ID, version(v), c, lessons.SecondRequest{Date: next.Format("2006-01-02"), Period: period}))
		first, err := lessons.One(ctx, v.ID)
		require.NoError(t, err)
		halves := halvesOf(t, ctx, first)
		assert.Equal(t, 1, halves.Half)
		assert.True(t, halves.Keeps, halves.Says)
		second, err := lessons.One(ctx, halves.Other.ID)
		require.NoError(t, err)
		back := halvesOf(t, ctx, second)
		assert.Equal(t, 2, back.Half)
		assert.Equal(t, v.ID, back.Other.ID)
		assert.Equal(t, next, second.Date)
		done := func(v *lessons.View) map[string]bool {
			out := map[string]bool{}
			for _, d := range v.Fit.Dishes {
				for _, s := range d.Steps {
					out[s.ID] = true
				}
			}
			return out
		}
		one, two := done(first), done(second)
		for _, s := range v.Menu[0].Dish.Steps {
			assert.True(t, one[s.ID] || two[s.ID], "%s is done in one of the two", s.Title)
			assert.False(t, one[s.ID] && two[s.ID], "%s is done once", s.Title)
		}
	}
	assert.Positive(t, tried)
}

// The same form makes one lesson, however often it is sent.
func TestAFormMakesOneLesson(t *testing.T) {
	h := demotest.Enter(t)
	ctx := h.As("Idris Bell")
	v, err := lessons.One(ctx, tartlets)
	require.NoError(t, err)
	r := lessons.RequestOf(v.Lesson)
	r.Date = "2027-01-14"
	form := uuid.NewString()
	one, err := lessons.New(ctx, r, form)
	require.NoError(t, err)
	again, err := lessons.New(ctx, r, form)
	require.NoError(t, err)
	assert.Equal(t, one, again)
	other, err := lessons.New(ctx, r, uuid.NewString())
	require.NoError(t, err)
	assert.NotEqual(t, one, other)
	made, err := lessons.One(ctx, one)
	require.NoError(t, err)
	assert.Equal(t, r, lessons.RequestOf(made.Lesson), "the lesson is as the form asked")

	wrong := r
	wrong.GroupSize, wrong.Class, wrong.Date = "two", "0", "2126-01-01"
	_, err = lessons.Change(ctx, one, version(made), wrong)
	require.Error(t, err)
	for _, field := range []string{"group_size", "class", "date"} {
		assert.Contains(t, err.Error(), field)
	}
	after, err := lessons.One(ctx, one)
	require.NoError(t, err)
	assert.Equal(t, made.Version, after.Version, "nothing was saved")
}

// Work that may wait is done before its caller goes on, and comes out as it
// would have otherwise.
func TestSearchesBehindPages(t *testing.T) {
	h := demotest.Enter(t)
	ctx := h.As("Maren Holt")
	found, err := lessons.From(ctx, h.Today(), 7)
	require.NoError(t, err)
	var late *lessons.View
	for _, v := range found {
		if v.Plan != nil && !v.Plan.Fits && (late == nil || v.ID < late.ID) {
			late = v
		}
	}
	require.NotNil(t, late, "one lesson of the demonstration is too long")
	trying := lessons.Help(ctx, late)
	assert.Same(t, trying, lessons.Help(ctx, late), "a search that has begun is not begun again")
	help, ended, err := trying.Wait(ctx, time.Minute)
	require.NoError(t, err)
	require.True(t, ended)
	list := help.Rescues
	require.NotEmpty(t, list)
	done, all := trying.Progress()
	assert.Equal(t, all, done)
	var instead *rescue.Change
	for _, r := range list {
		plan, err := fit.Solve(r.Lesson, h.Site.Planning)
		require.NoError(t, err)
		assert.Equal(t, plan.Finish, r.Plan.Finish)
		assert.Equal(t, plan.Risk.AllOnTime, r.Plan.Risk.AllOnTime)
		if r.Changes[0].Kind == rescue.Instead {
			instead = &r.Changes[0]
		}
	}
	require.NotNil(t, instead, "a dish of the shelf practises some of it and fits")
	require.NoError(t, lessons.Decide(ctx, late.ID, version(late), *instead))
	other, err := lessons.One(ctx, late.ID)
	require.NoError(t, err)
	assert.Equal(t, instead.Other, other.Menu[0].Dish.Recipe.ID)
	instead.Other, instead.Dish = "gone", instead.Other
	assert.ErrorContains(t, lessons.Decide(ctx, late.ID, version(other), *instead), "not on the shelf any more")
	gone, cancel := context.WithCancel(ctx)
	cancel()
	_, ended, _ = lessons.Help(ctx, &lessons.View{Lesson: store.Lesson{ID: -1}, Core: late.Core, Fit: late.Fit, Plan: late.Plan}).Wait(gone, 0)
	assert.False(t, ended, "who has gone does not wait")
}

func TestErrorsAreTold(t *testing.T) {
	h := demotest.Enter(t)
	ctx := h.As("Maren Holt")
	_, err := lessons.One(ctx, 9999)
	assert.ErrorIs(t, err, school.ErrNotFound)
	assert.ErrorIs(t, lessons.Withdraw(ctx, 1, "1", 0), school.ErrChanged, "nothing was decided")
	assert.ErrorIs(t, lessons.Undo(ctx, 1, "first"), school.ErrChanged)
}

func halvesOf(t *testing.T, ctx context.Context, v *lessons.View) *lessons.Halves {
	t.Helper()
	h, err := lessons.HalvesOf(ctx, v.Lesson)
	require.NoError(t, err)
	require.NotNil(t, h)
	return h
}

// The menu is changed with the lesson's form; what a new dish leaves empty is as
// its recipe says, and what is unreadable is said where it stands.
func TestTheMenuThroughTheForm(t *testing.T) {
	h := demotest.Enter(t)
	ctx := h.As("Maren Holt")
	v, err := lessons.One(ctx, tartlets)
	require.NoError(t, err)
	r := lessons.RequestOf(v.Lesson)
	require.Len(t, r.Menu, 1)
	assert.Equal(t, "everybody", r.Menu[0].Who)
	choices, err := lessons.ToChoose(ctx)
	require.NoError(t, err)
	slaw := ""
	for _, d := range choices.Dishes {
		if d.Title == "Rainbow slaw" {
			slaw = demotest.ID(d.ID)
		}
	}
	r.Menu[0].Who = "benches 1-9"
	r.Menu = append(r.Menu, lessons.CourseRequest{Dish: slaw, Who: "bench 10, benches 11 to 12"})
	v, err = lessons.Change(ctx, tartlets, version(v), r)
	require.NoError(t, err)
	assert.Equal(t, "Leek tartlets and Rainbow slaw", v.Core.Titles())
	assert.Equal(t, []string{"g10", "g11", "g12"}, v.Menu[1].By.Groups)
	assert.Equal(t, v.Menu[1].Dish.Each, v.Menu[1].Each)
	again := lessons.RequestOf(v.Lesson)
	assert.Equal(t, "benches 10, 11, 12", again.Menu[1].Who)
	again.Menu[1].Who = "bench 77"
	_, err = lessons.Change(ctx, tartlets, version(v), again)
	require.Error(t, err)
	assert.Contains(t, err.Error(), "menu[1].who: “bench 77” is neither a bench of this lesson")
	again.Menu = nil
	again.Menu = []lessons.CourseRequest{}
	_, err = lessons.Change(ctx, tartlets, version(v), again)
	demotest.Says(t, err, "menu: Choose a dish.")
	effect, err := lessons.EffectOf(ctx, v)
	require.NoError(t, err)
	assert.Equal(t, "Changed: menu", effect.Did)
}

// Twelve screens that open a lesson at the same moment compute it once: all see
// the very same.
func TestAColdLessonIsComputedOnce(t *testing.T) {
	h := demotest.Enter(t)
	ctx := h.As("Maren Holt")
	views := make([]*lessons.View, 12)
	var all sync.WaitGroup
	for i := range views {
		all.Go(func() {
			v, err := lessons.One(ctx, tartlets)
			assert.NoError(t, err)
			views[i] = v
		})
	}
	all.Wait()
	for _, v := range views {
		assert.Same(t, views[0], v)
	}
}

// What would help matters to a lesson that is late, until the bell.
func TestHelpIsForLessonsToCome(t *testing.T) {
	h := demotest.Enter(t)
	ctx := h.Head()
	late, err := lessons.One(ctx, 5)
	require.NoError(t, err)
	bell := late.Date.Add(time.Duration(late.Period.End) * time.Minute)
	h.At(bell)
	assert.True(t, lessons.WantsHelp(ctx, late), "the bell rings")
	h.At(bell.Add(time.Minute))
	assert.False(t, lessons.WantsHelp(ctx, late), "it has rung")
	fits, err := lessons.One(ctx, 1)
	require.NoError(t, err)
	h.At(demotest.Nine)
	assert.Equal(t, rescue.Needed(fits.Plan), lessons.WantsHelp(ctx, fits))
	fits.Plan = nil
	assert.False(t, lessons.WantsHelp(ctx, fits), "it can't be planned")
}
