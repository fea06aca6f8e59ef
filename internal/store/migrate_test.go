package store_test

import (
	"compress/gzip"
	"database/sql"
	"io"
	"os"
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"freshapron/internal/core/fit"
	"freshapron/internal/core/fit/verify"
	"freshapron/internal/core/rescue"
	"freshapron/internal/demo"
	"freshapron/internal/store"
	"freshapron/internal/store/storetest"
)

// filled returns a database as the release before set-ups were documents left
// it: the demonstration school, some of its lessons changed.
func filled(t *testing.T) *store.School {
	t.Helper()
	f, err := os.Open("testdata/before-setups.sql.gz")
	require.NoError(t, err)
	t.Cleanup(func() { _ = f.Close() })
	packed, err := gzip.NewReader(f)
	require.NoError(t, err)
	dump, err := io.ReadAll(packed)
	require.NoError(t, err)
	url := storetest.URL(t)
	db, err := sql.Open("pgx", url)
	require.NoError(t, err)
	_, err = db.Exec(string(dump))
	require.NoError(t, err)
	require.NoError(t, db.Close())
	s, err := store.Open(url)
	require.NoError(t, err)
	t.Cleanup(func() { _ = s.Close() })
	require.NoError(t, s.Migrate(ctx))
	school, err := s.SchoolByName(ctx, demo.School)
	require.NoError(t, err)
	return school
}

// Nothing that a school had decided is lost when set-ups become documents:
// lessons, what they were before, what is out of order, and where things stand.
func TestOldLessonsAreTheSame(t *testing.T) {
	school := filled(t)
	l, err := school.Lesson(ctx, 2)
	require.NoError(t, err)
	assert.Equal(t, 9, l.Version)
	require.Len(t, l.Menu, 1)
	assert.Equal(t, "leek-tartlets", l.Menu[0].Dish.Recipe.ID)
	assert.True(t, l.Menu[0].By.Everybody())
	assert.Positive(t, l.Menu[0].Each)
	assert.Equal(t, []int64{28, 50, 39}, l.Absent)
	kinds := map[rescue.Kind]rescue.Change{}
	for _, c := range l.Changes {
		kinds[c.Kind] = c
	}
	assert.Equal(t, "Oven 2", kinds[rescue.UnitOut].Unit, "its id is the name that it had")
	assert.Equal(t, "leek-tartlets", kinds[rescue.NotBefore].Dish)
	assert.Equal(t, "30", kinds[rescue.NotBefore].At.String())
	for _, w := range l.OtherWays {
		assert.Equal(t, "large-print", w.Way)
		assert.Empty(t, w.Dish, "it holds the whole lesson")
	}
	require.NotEmpty(t, l.OtherWays)
	core := l.Plan(tables)
	require.NoError(t, core.Check())
	for _, d := range core.Decisions() {
		if d.Group == "" { // benches are counted with those who are away now
			assert.Empty(t, d.Broken, d.Says)
		}
	}
	f := core.Fit()
	p, err := fit.Solve(f, fit.Options{Budget: 5, Runs: 10})
	require.NoError(t, err)
	assert.Empty(t, verify.Plan(f, p))
	for _, e := range f.Equipment {
		for _, u := range e.Units {
			assert.NotEqual(t, "Oven 2", u.Name)
		}
	}

	other, err := school.Lesson(ctx, 3)
	require.NoError(t, err)
	assert.NotEmpty(t, other.Teams)
	require.NotEmpty(t, other.Swaps)
	for _, s := range other.Swaps {
		assert.Equal(t, other.Menu[0].Dish.Recipe.ID, s.Dish)
	}

	// Undoing goes on from where it was.
	before, err := school.Before(ctx, 2)
	require.NoError(t, err)
	assert.Equal(t, 6, before.Version)
	require.NoError(t, school.UndoLesson(ctx, 2, 9))
	undone, err := school.Lesson(ctx, 2)
	require.NoError(t, err)
	assert.Equal(t, before.Setup, undone.Setup)

	rooms, err := school.Rooms(ctx)
	require.NoError(t, err)
	for _, r := range rooms {
		for _, o := range r.OvensOf() {
			assert.Equal(t, o.Name, o.ID)
			assert.Contains(t, r.Ovens, o.ID)
			item, ok := r.Things.Floor.Find(o.ID)
			assert.True(t, ok, "%s stands on the floor", o.Name)
			assert.Equal(t, o.Name, item.Name)
		}
		_, ok := r.Things.Floor.Find("bench-1")
		assert.True(t, ok)
	}
	outages, err := school.Outages(ctx, l.Date.AddDate(0, 0, -30), rooms[0].ID, rooms[1].ID)
	require.NoError(t, err)
	assert.Len(t, outages, 2)

	all, err := school.LessonsBetween(ctx, l.Date.AddDate(0, -1, 0), l.Date.AddDate(0, 1, 0))
	require.NoError(t, err)
	assert.Greater(t, len(all), 10)
	for _, l := range all {
		assert.NoError(t, l.Plan(tables).Check(), l.Titles())
	}
	_, err = school.CreateLesson(ctx, all[0], uuid.NewString())
	require.NoError(t, err)
	require.NoError(t, school.MoveDemo(ctx, time.Now()))
}

// A run is as the lesson was when it began, whatever becomes of the set-up, and
// nobody changes it.
func TestRunsStay(t *testing.T) {
	s := newSchool(t, storetest.Open(t), "Quillhaven")
	l := fill(t, s)
	id, err := s.CreateLesson(ctx, l, uuid.NewString())
	require.NoError(t, err)
	began := store.Run{Lesson: id, Version: 1, File: "{}", Plan: "[]", Who: "Kit", Began: noon, Door: noon}
	began.ID, err = s.Begin(ctx, began)
	require.NoError(t, err)
	got, err := s.Lesson(ctx, id)
	require.NoError(t, err)
	require.NoError(t, s.ChangeLesson(ctx, got, "again"))
	runs, err := s.Runs(ctx, id)
	require.NoError(t, err)
	require.Len(t, runs, 1)
	assert.True(t, runs[0].Began.Equal(noon))
	assert.True(t, runs[0].Door.Equal(noon))
	runs[0].Began, runs[0].Door = noon, noon
	assert.Equal(t, began, runs[0])
}

// A second half that somebody has worked on is not taken away by undoing.
func TestUndoKeepsWorkedOnHalves(t *testing.T) {
	s := newSchool(t, storetest.Open(t), "Quillhaven")
	l := fill(t, s)
	for name, work := range map[string]func(second int64) error{
		"changed": func(second int64) error {
			l, err := s.Lesson(ctx, second)
			require.NoError(t, err)
			return s.ChangeLesson(ctx, l, "again")
		},
		"sheet":  func(second int64) error { return s.EditSheet(ctx, second, 0, nil) },
		"signed": func(second int64) error { return s.Sign(ctx, store.Signature{Lesson: second, Who: "Kit", At: noon}) },
		"read": func(second int64) error {
			return s.AddReading(ctx, store.TempReading{Lesson: second, Bench: "1", Kind: "hot", Celsius: 70, Who: "Kit", At: noon})
		},
		"begun": func(second int64) error {
			_, err := s.Begin(ctx, store.Run{Lesson: second, Who: "Kit", Began: noon})
			return err
		},
		"": func(int64) error { return nil },
	} {
		t.Run(name, func(t *testing.T) {
			id, err := s.CreateLesson(ctx, l, uuid.NewString())
			require.NoError(t, err)
			first, err := s.Lesson(ctx, id)
			require.NoError(t, err)
			first.Changes = []rescue.Change{{Kind: rescue.TwoLessons, Dish: "leek-tartlets", Step: "rest", Number: 1}}
			require.NoError(t, s.ChangeLesson(ctx, first, "two lessons"))
			half := l
			half.Follows = id
			second, err := s.CreateLesson(ctx, half, uuid.NewString())
			require.NoError(t, err)
			require.NoError(t, work(second))
			err = s.UndoLesson(ctx, id, 2)
			_, there := s.Lesson(ctx, second)
			if name == "" {
				require.NoError(t, err)
				assert.ErrorIs(t, there, store.ErrNotFound)
				return
			}
			assert.ErrorIs(t, err, store.ErrWorkedOn)
			require.NoError(t, there, "both are as they were")
			now, err := s.Lesson(ctx, id)
			require.NoError(t, err)
			assert.Len(t, now.Changes, 1)
		})
	}
}
