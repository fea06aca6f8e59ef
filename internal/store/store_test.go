package store_test

import (
	"context"
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"freshapron/internal/core/exact"
	"freshapron/internal/core/fit"
	"freshapron/internal/core/lesson"
	"freshapron/internal/core/pantry"
	"freshapron/internal/core/safety"
	"freshapron/internal/demo"
	"freshapron/internal/store"
	"freshapron/internal/store/storetest"
)

var ctx = context.Background()

var monday = time.Date(2026, 11, 23, 0, 0, 0, 0, time.UTC)

// fill gives a school one of everything and returns a lesson made of it.
func fill(t *testing.T, s *store.School) store.Lesson {
	t.Helper()
	room, class := demo.FoodRoom(), lesson.Class{Name: "8 Hazel", Learners: 24, Pace: exact.Frac(11, 10)}
	dish := demo.Dish("leek-tartlets")
	l := store.Lesson{
		Date: monday, Room: store.Room{Room: room}, Class: store.Class{Class: class}, Menu: []store.Course{{Dish: store.Dish{Recipe: dish}, Each: 4, Demo: 8}},
		Period: store.Period{Name: "Period 2", Start: 605, End: 670},
		Setup: store.Setup{GroupSize: 2, Spare: 1, Phases: append(lesson.UsualPhases(),
			fit.Phase{Name: "Stop", Minutes: exact.Frac(3, 2), Place: fit.AtMinute, Minute: exact.Frac(100, 3)})},
	}
	var err error
	l.Room.ID, err = s.CreateRoom(ctx, store.Room{Room: room})
	require.NoError(t, err)
	l.Class.ID, err = s.CreateClass(ctx, class)
	require.NoError(t, err)
	l.Menu[0].Dish.ID, err = s.CreateDish(ctx, dish, store.Ready, 0, "")
	require.NoError(t, err)
	l.Period.ID, err = s.CreatePeriod(ctx, l.Period)
	require.NoError(t, err)
	return l
}

// tables are those of a school that has changed nothing.
var tables = lesson.Tables{Pantry: pantry.Stock(), Tolerances: pantry.Usual, Safety: safety.Usual()}

func newSchool(t *testing.T, s *store.Store, name string) *store.School {
	t.Helper()
	school, err := s.CreateSchool(ctx, name, "Europe/London")
	require.NoError(t, err)
	return school
}

// same compares lessons by what the planner and the scaler make of them,
// since exact numbers can be equal and stored differently.
func same(t *testing.T, want, got store.Lesson) {
	t.Helper()
	wantFit, gotFit := want.Plan(tables).Fit(), got.Plan(tables).Fit()
	wantPlan, err := fit.Solve(wantFit, fit.Options{Budget: 5, Runs: 10})
	require.NoError(t, err)
	gotPlan, err := fit.Solve(gotFit, fit.Options{Budget: 5, Runs: 10})
	require.NoError(t, err)
	assert.Equal(t, wantPlan, gotPlan)
	for i, in := range want.Menu[0].Dish.Ingredients {
		assert.Zero(t, in.Amount.Cmp(got.Menu[0].Dish.Ingredients[i].Amount), in.Pantry)
		assert.Equal(t, in.Unit.Symbol, got.Menu[0].Dish.Ingredients[i].Unit.Symbol)
	}
	for i, p := range want.Phases {
		assert.Equal(t, p.Place, got.Phases[i].Place)
		assert.Zero(t, p.Minute.Cmp(got.Phases[i].Minute), "a third stays a third")
	}
}

func TestLessonThereAndBack(t *testing.T) {
	school := newSchool(t, storetest.Open(t), "A")
	l := fill(t, school)
	id, err := school.CreateLesson(ctx, l, uuid.NewString())
	require.NoError(t, err)
	got, err := school.Lesson(ctx, id)
	require.NoError(t, err)
	assert.Equal(t, monday, got.Date)
	assert.Equal(t, 1, got.Version)
	assert.Equal(t, l.Menu[0].Dish.Words, got.Menu[0].Dish.Words)
	assert.Equal(t, l.Menu[0].Dish.Questions, got.Menu[0].Dish.Questions)
	same(t, l, got)
}

func TestTheSameFormMakesOneLesson(t *testing.T) {
	school := newSchool(t, storetest.Open(t), "A")
	l := fill(t, school)
	form := uuid.NewString()
	first, err := school.CreateLesson(ctx, l, form)
	require.NoError(t, err)
	second, err := school.CreateLesson(ctx, l, form)
	require.NoError(t, err)
	assert.Equal(t, first, second)
	all, err := school.LessonsBetween(ctx, monday, monday)
	require.NoError(t, err)
	assert.Len(t, all, 1)
}

func TestTwoWhoChangeAtOnce(t *testing.T) {
	school := newSchool(t, storetest.Open(t), "A")
	l := fill(t, school)
	id, err := school.CreateLesson(ctx, l, uuid.NewString())
	require.NoError(t, err)
	mine, err := school.Lesson(ctx, id)
	require.NoError(t, err)
	yours := mine
	mine.GroupSize = 4
	require.NoError(t, school.ChangeLesson(ctx, mine, "mine"))
	yours.GroupSize = 1
	assert.ErrorIs(t, school.ChangeLesson(ctx, yours, "yours"), store.ErrChanged)
	now, err := school.Lesson(ctx, id)
	require.NoError(t, err)
	assert.Equal(t, 4, now.GroupSize)
	assert.Equal(t, 2, now.Version)
}

func TestSchoolsAreKeptApart(t *testing.T) {
	s := storetest.Open(t)
	ours, theirs := newSchool(t, s, "Ours"), newSchool(t, s, "Theirs")
	l := fill(t, ours)
	id, err := ours.CreateLesson(ctx, l, uuid.NewString())
	require.NoError(t, err)

	_, err = theirs.Lesson(ctx, id)
	assert.ErrorIs(t, err, store.ErrNotFound)
	l.ID, l.Version = id, 1
	assert.ErrorIs(t, theirs.ChangeLesson(ctx, l, "theirs"), store.ErrNotFound)
	lessons, err := theirs.LessonsBetween(ctx, monday, monday)
	require.NoError(t, err)
	assert.Empty(t, lessons)
	dishes, err := theirs.Heads(ctx)
	require.NoError(t, err)
	assert.Empty(t, dishes)
	_, err = theirs.CreateLesson(ctx, l, uuid.NewString())
	assert.Error(t, err, "a lesson can't be made of another school's class")

	require.NoError(t, theirs.MoveDemo(ctx, monday))
	require.NoError(t, theirs.MoveDemo(ctx, monday.AddDate(0, 0, 7)))
	got, err := ours.Lesson(ctx, id)
	require.NoError(t, err)
	assert.Equal(t, monday, got.Date, "their lessons move, ours stay")
}

func TestAnUnknownSchool(t *testing.T) {
	_, err := storetest.Open(t).SchoolByName(ctx, "Nowhere")
	assert.ErrorIs(t, err, store.ErrNotFound)
}

func TestATransactionIsAllOrNothing(t *testing.T) {
	school := newSchool(t, storetest.Open(t), "A")
	err := school.InTransaction(ctx, func(in *store.School) error {
		if _, err := in.CreateClass(ctx, lesson.Class{Name: "7 Alder", Learners: 26, Pace: exact.Int(1)}); err != nil {
			return err
		}
		_, err := in.CreateClass(ctx, lesson.Class{Name: "7 Alder", Learners: 26, Pace: exact.Int(1)})
		return err
	})
	require.Error(t, err, "two classes of one name")
	classes, err := school.Classes(ctx)
	require.NoError(t, err)
	assert.Empty(t, classes)
}

func TestMigratingAgainChangesNothing(t *testing.T) {
	s := storetest.Open(t)
	newSchool(t, s, "A")
	require.NoError(t, s.Migrate(ctx))
	_, err := s.SchoolByName(ctx, "A")
	assert.NoError(t, err)
}
