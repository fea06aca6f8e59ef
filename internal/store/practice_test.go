package store_test

import (
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"freshapron/internal/core/class"
	"freshapron/internal/core/exact"
	"freshapron/internal/core/lesson"
	"freshapron/internal/core/skills"
	"freshapron/internal/core/train"
	"freshapron/internal/store"
	"freshapron/internal/store/storetest"
)

// classOf makes a class with learners, and returns it.
func classOf(t *testing.T, s *store.School, name string, learners ...string) store.Class {
	t.Helper()
	id, err := s.CreateClass(ctx, lesson.Class{Name: name, Pace: exact.Int(1)})
	require.NoError(t, err)
	var list []class.Learner
	for _, given := range learners {
		list = append(list, class.Learner{Given: given})
	}
	require.NoError(t, s.SaveLearners(ctx, id, list, nil))
	c, err := s.Class(ctx, id)
	require.NoError(t, err)
	return c
}

// A code lets a class in until its practice ends, and to the practice of its own school.
func TestPracticesThereAndBack(t *testing.T) {
	db := storetest.Open(t)
	s, other := newSchool(t, db, "Quillhaven"), newSchool(t, db, "Thornby")
	c := classOf(t, s, "7 Alder", "Ada")
	want := store.Practice{School: s.ID, Class: c.ID, Title: "Leek tartlets", Source: []byte(`{"amounts": null}`), Code: "bcdfghjk", By: "Kit", At: noon, Until: noon.Add(8 * 24 * time.Hour)}
	id, err := s.SetPractice(ctx, want)
	require.NoError(t, err)
	want.ID = id
	list, err := s.Practices(ctx, c.ID)
	require.NoError(t, err)
	require.Len(t, list, 1)
	assert.True(t, want.Until.Equal(list[0].Until) && want.At.Equal(list[0].At))
	assert.JSONEq(t, string(want.Source), string(list[0].Source))
	assert.Equal(t, want.Code, list[0].Code)
	elsewhere := classOf(t, other, "7 Alder", "Ada")
	_, err = other.SetPractice(ctx, store.Practice{Class: elsewhere.ID, Code: "bcdfghjk", Source: []byte("{}"), Until: noon})
	assert.ErrorIs(t, err, store.ErrTaken, "a code opens one practice of all schools")

	in, err := db.PracticeOf(ctx, "bcdfghjk", noon)
	require.NoError(t, err)
	assert.Equal(t, [2]int64{id, s.ID}, [2]int64{in.ID, in.School})
	for _, code := range []string{"bcdfghjl", "", "'", "bcdf%", "\x00", "\xff", "BCDFGHJK"} {
		_, err := db.PracticeOf(ctx, code, noon)
		assert.ErrorIs(t, err, store.ErrNotFound, "%q", code)
	}
	_, err = db.PracticeOf(ctx, "bcdfghjk", want.Until)
	assert.ErrorIs(t, err, store.ErrNotFound, "at its end it is over")
	assert.ErrorIs(t, other.EndPractice(ctx, id, noon), store.ErrNotFound, "another school's")
	require.NoError(t, s.EndPractice(ctx, id, noon))
	_, err = db.PracticeOf(ctx, "bcdfghjk", noon)
	assert.ErrorIs(t, err, store.ErrNotFound)
	assert.ErrorIs(t, s.EndPractice(ctx, id, noon), store.ErrNotFound, "once")
}

// A learner is at one device at a time, and what they tried at any of them is theirs.
func TestWhoPractises(t *testing.T) {
	db := storetest.Open(t)
	s := newSchool(t, db, "Quillhaven")
	c := classOf(t, s, "7 Alder", "Ada", "Bo")
	ada, bo := c.Roster[0].ID, c.Roster[1].ID
	until := noon.Add(time.Hour)
	id, err := s.SetPractice(ctx, store.Practice{Class: c.ID, Code: "bcdfghjk", Source: []byte("{}"), At: noon, Until: until})
	require.NoError(t, err)
	seen, err := s.LastSeen(ctx, ada)
	require.NoError(t, err)
	assert.True(t, seen.IsZero())
	for token, learner := range map[string]int64{"first": ada, "bos": bo, "guest": 0} {
		require.NoError(t, s.AddPractiser(ctx, store.Practiser{Token: token, Practice: id, Learner: learner, Seen: noon}))
	}
	try := func(token, press, template string, right bool, learner int64, of ...skills.Evidence) {
		t.Helper()
		require.NoError(t, s.AddTry(ctx, store.Try{Token: token, Press: press, Try: train.Try{Template: template, At: noon.Add(time.Minute), Right: right}, Percent: 1e30}, learner, of))
	}
	tare := skills.Evidence{Skill: "tare", At: noon, How: skills.Practised, Level: skills.Begins, By: "the trainer"}
	for range 2 {
		try("first", "a", "do-scale", true, ada, tare)
	}
	try("guest", "a", "scale", false, 0, tare)
	seen, err = s.LastSeen(ctx, ada)
	require.NoError(t, err)
	assert.True(t, seen.Equal(noon.Add(time.Minute)), "who tries is there")
	require.NoError(t, s.AddPractiser(ctx, store.Practiser{Token: "second", Practice: id, Learner: ada, Seen: noon}))
	_, _, err = db.PractiserOf(ctx, "first", noon)
	assert.ErrorIs(t, err, store.ErrNotFound, "the other device is out")
	who, of, err := db.PractiserOf(ctx, "second", noon)
	require.NoError(t, err)
	assert.Equal(t, ada, who.Learner)
	assert.Equal(t, id, of.ID)
	for _, token := range []string{"bos", "guest"} {
		_, _, err = db.PractiserOf(ctx, token, noon)
		assert.NoError(t, err, token)
		_, _, err = db.PractiserOf(ctx, token, until)
		assert.ErrorIs(t, err, store.ErrNotFound, "the practice is over")
	}
	try("second", "a", "scale", false, ada)
	own, err := s.TriesOf(ctx, who)
	require.NoError(t, err)
	require.Len(t, own, 2, "what arrived twice counts once")
	assert.Equal(t, []string{"do-scale", "scale"}, []string{own[0].Template, own[1].Template})
	guest, err := s.TriesOf(ctx, store.Practiser{Token: "guest"})
	require.NoError(t, err)
	assert.Len(t, guest, 1)
	all, err := s.TriesIn(ctx, id)
	require.NoError(t, err)
	assert.Equal(t, map[string]int{"first": 1, "second": 1, "guest": 1}, map[string]int{"first": len(all["first"]), "second": len(all["second"]), "guest": len(all["guest"])})
	known, err := s.Evidence(ctx, c.ID)
	require.NoError(t, err)
	require.Len(t, known, 1, "of somebody who is not on the list nothing is known")
	require.Len(t, known[ada], 1)
	assert.True(t, known[ada][0].At.Equal(tare.At))
	known[ada][0].At = tare.At
	assert.Equal(t, tare, known[ada][0])
}

// The first picture is a learner's own until it is cleared; another school knows nothing.
func TestPicturesAndEvidence(t *testing.T) {
	db := storetest.Open(t)
	s, other := newSchool(t, db, "Quillhaven"), newSchool(t, db, "Thornby")
	c := classOf(t, s, "7 Alder", "Ada", "Bo")
	ada, bo := c.Roster[0].ID, c.Roster[1].ID
	mark := func(in *store.School) string {
		t.Helper()
		own, err := in.Mark(ctx, ada)
		require.NoError(t, err)
		return own
	}
	assert.Empty(t, mark(s))
	require.NoError(t, s.SetMark(ctx, ada, "leek"))
	require.NoError(t, s.SetMark(ctx, ada, "pan"))
	assert.Equal(t, "leek", mark(s))
	assert.Empty(t, mark(other))
	require.NoError(t, other.ClearMark(ctx, ada))
	assert.Equal(t, "leek", mark(s))
	require.NoError(t, s.ClearMark(ctx, ada))
	assert.Empty(t, mark(s))

	dice := skills.Evidence{Skill: "dice", At: noon, How: skills.Measured, Level: skills.Can, By: "6 pieces"}
	for range 2 {
		require.NoError(t, s.AddEvidence(ctx, "press", []skills.Evidence{dice}, ada, bo))
	}
	require.NoError(t, s.AddEvidence(ctx, "none", nil, ada))
	assert.Error(t, other.AddEvidence(ctx, "press", []skills.Evidence{dice}, ada), "a learner of another school")
	known, err := s.Evidence(ctx, c.ID)
	require.NoError(t, err)
	assert.Len(t, known[ada], 1)
	assert.Len(t, known[bo], 1, "each once")
	strange, err := other.Evidence(ctx, c.ID)
	require.NoError(t, err)
	assert.Empty(t, strange)
	require.NoError(t, s.RemoveLearner(ctx, c.ID, ada))
	known, err = s.Evidence(ctx, c.ID)
	require.NoError(t, err)
	assert.Len(t, known, 1, "what is known of somebody goes with them")
}
