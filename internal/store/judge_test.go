package store_test

import (
	"encoding/json"
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"freshapron/internal/core/class"
	"freshapron/internal/store"
	"freshapron/internal/store/storetest"
)

// A task, its entries and its records there and back; two windows, two presses, another
// school.
func TestTasksThereAndBack(t *testing.T) {
	db := storetest.Open(t)
	s, other := newSchool(t, db, "Quillhaven"), newSchool(t, db, "Thornby")
	l := fill(t, s)
	require.NoError(t, s.SaveLearners(ctx, l.Class.ID, []class.Learner{{Given: "Ada"}}, nil))
	lesson, err := s.CreateLesson(ctx, l, uuid.NewString())
	require.NoError(t, err)
	c, err := s.Class(ctx, l.Class.ID)
	require.NoError(t, err)
	ada := c.Roster[0].ID
	want := store.Task{Lesson: lesson, Code: "bcdfghjk", Title: "Harvest table", Brief: "2 dishes", Tags: map[string]string{"3": "hot"}, Markers: []int64{4, 5}, Questions: []string{"Why?"}}
	id, err := s.CreateTask(ctx, want, "form")
	require.NoError(t, err)
	again, err := s.CreateTask(ctx, store.Task{Lesson: lesson, Code: "other", Title: "Again"}, "form")
	require.NoError(t, err)
	assert.Equal(t, id, again, "the same form")
	got, err := s.Task(ctx, id)
	require.NoError(t, err)
	want.ID, want.School, want.Version = id, s.ID, 1
	assert.Equal(t, want, got)
	got.Title = "Harvest"
	require.NoError(t, s.SaveTask(ctx, got))
	assert.ErrorIs(t, s.SaveTask(ctx, got), store.ErrChanged, "a window that was opened before")
	_, err = other.Task(ctx, id)
	assert.ErrorIs(t, err, store.ErrNotFound)
	found, err := db.TaskOf(ctx, "bcdfghjk")
	require.NoError(t, err)
	assert.Equal(t, s.ID, found.School)
	for _, code := range []string{"", "bcdf", "\x00", "'"} {
		_, err = db.TaskOf(ctx, code)
		assert.ErrorIs(t, err, store.ErrNotFound)
	}

	e := store.Entry{Learner: ada, Dishes: []store.EntryDish{{Dish: 3, Side: true, Portions: 4}}, Plan: "clock,dish,what\n", Taken: map[int][]string{2: {"rub"}}}
	require.NoError(t, s.SaveEntry(ctx, id, e))
	assert.ErrorIs(t, s.SaveEntry(ctx, id, e), store.ErrChanged)
	all, err := s.Entries(ctx, id)
	require.NoError(t, err)
	e.Version = 1
	assert.Equal(t, map[int64]store.Entry{ada: e}, all)
	e.Papers = []string{"menu card"}
	require.NoError(t, s.SaveEntry(ctx, id, e))
	assert.ErrorIs(t, s.SaveEntry(ctx, id, e), store.ErrChanged)

	require.NoError(t, s.AddEntrant(ctx, "token", id, ada, noon))
	school, task, learner, err := db.EntrantOf(ctx, "token", noon.Add(-time.Minute))
	require.NoError(t, err)
	assert.Equal(t, [3]int64{s.ID, id, ada}, [3]int64{school, task, learner})
	_, _, _, err = db.EntrantOf(ctx, "token", noon)
	assert.ErrorIs(t, err, store.ErrNotFound, "its time is over")

	r := store.Record{Press: "p1", At: noon, Account: 4, Who: "Kit", Learner: ada, Doc: json.RawMessage(`{"kind": "note"}`)}
	require.NoError(t, s.AddRecords(ctx, store.AboutTask(id), r, r))
	require.NoError(t, s.AddRecords(ctx, store.AboutTask(id), r))
	require.NoError(t, s.AddRecords(ctx, store.AboutTask(id+1), r))
	list, err := s.Records(ctx, store.AboutTask(id))
	require.NoError(t, err)
	require.Len(t, list, 1, "a press counts once")
	assert.Equal(t, []any{r.Press, r.Account, r.Who, r.Learner}, []any{list[0].Press, list[0].Account, list[0].Who, list[0].Learner})
	assert.JSONEq(t, string(r.Doc), string(list[0].Doc))
	list, err = other.Records(ctx, store.AboutTask(id))
	require.NoError(t, err)
	assert.Empty(t, list)

	_, err = s.Plate(ctx, id, ada)
	assert.ErrorIs(t, err, store.ErrNotFound)
	for _, jpeg := range []string{"one", "two"} {
		require.NoError(t, s.SavePlate(ctx, id, ada, noon, []byte(jpeg)))
	}
	jpeg, err := s.Plate(ctx, id, ada)
	require.NoError(t, err)
	assert.Equal(t, "two", string(jpeg))
	who, err := s.Plates(ctx, id)
	require.NoError(t, err)
	assert.Equal(t, []int64{ada}, who)

	doc := map[string]string{}
	version, err := s.ReviewOf(ctx, lesson, store.Tasting, &doc)
	require.NoError(t, err)
	require.NoError(t, s.SaveReview(ctx, lesson, store.Tasting, version, map[string]string{"a": "b"}))
	assert.ErrorIs(t, s.SaveReview(ctx, lesson, store.Tasting, version, doc), store.ErrChanged)
	version, err = s.ReviewOf(ctx, lesson, store.Tasting, &doc)
	require.NoError(t, err)
	assert.Equal(t, "b", doc["a"])
	require.NoError(t, s.SaveReview(ctx, lesson, store.Tasting, version, doc))
	assert.ErrorIs(t, s.SaveReview(ctx, lesson, store.Tasting, version, doc), store.ErrChanged)
	version, err = s.ReviewOf(ctx, lesson, store.Review, &doc)
	require.NoError(t, err)
	assert.Zero(t, version, "another kind")
}

// What is sent again with the same press is not written twice; what failed is not taken
// for written.
func TestOnce(t *testing.T) {
	s := newSchool(t, storetest.Open(t), "Quillhaven")
	press, made := uuid.NewString(), 0
	write := func(press string, err error) error {
		return s.Once(ctx, press, noon, func(*store.School) error { made++; return err })
	}
	assert.ErrorIs(t, write(press, store.ErrBusy), store.ErrBusy)
	require.NoError(t, write(press, nil))
	require.NoError(t, write(press, nil))
	assert.Equal(t, 2, made, "the one that failed, and one more")
	require.NoError(t, write("", nil))
	require.NoError(t, write("no number", nil))
	assert.Equal(t, 4, made, "without a number it is made each time")
	require.NoError(t, s.Once(ctx, uuid.NewString(), noon.AddDate(0, 1, 0), func(*store.School) error { return nil }))
	require.NoError(t, write(press, nil))
	assert.Equal(t, 5, made, "after a month a press is not known any more")
}
