package store_test

import (
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"freshapron/internal/core/class"
	"freshapron/internal/core/exact"
	"freshapron/internal/core/fit"
	"freshapron/internal/core/lesson"
	"freshapron/internal/core/recipe"
	"freshapron/internal/core/safety"
	"freshapron/internal/core/staff"
	"freshapron/internal/core/term"
	"freshapron/internal/demo"
	"freshapron/internal/store"
	"freshapron/internal/store/storetest"
)

func person(t *testing.T, s *store.School, email string) int64 {
	t.Helper()
	id, err := s.CreateAccount(ctx, store.Account{Name: "Kit", Email: email, Role: staff.Teacher, CreatedAt: noon})
	require.NoError(t, err)
	return id
}

func TestAccountsAndLinks(t *testing.T) {
	db := storetest.Open(t)
	s, other := newSchool(t, db, "Quillhaven"), newSchool(t, db, "Thornby")
	id := person(t, s, "kit@quillhaven.example")
	_, err := other.CreateAccount(ctx, store.Account{Name: "Kit", Email: "KIT@quillhaven.example", Role: staff.Head})
	assert.ErrorIs(t, err, store.ErrTaken, "an address is one person's, in every school")
	a, err := db.AccountByEmail(ctx, "Kit@Quillhaven.example")
	require.NoError(t, err)
	assert.Equal(t, id, a.ID)
	assert.Equal(t, s.ID, a.School)
	_, err = other.Account(ctx, id)
	assert.ErrorIs(t, err, store.ErrNotFound)
	offered, err := db.Offered(ctx)
	require.NoError(t, err)
	assert.Empty(t, offered, "only a demonstration offers its accounts")

	require.NoError(t, s.CreateLink(ctx, store.Link{Token: "first", Account: id, Purpose: "invitation", Expires: noon.Add(time.Hour)}))
	require.NoError(t, s.CreateLink(ctx, store.Link{Token: "second", Account: id, Purpose: "reset", Expires: noon.Add(time.Hour)}))
	_, err = db.Link(ctx, "first", noon)
	assert.ErrorIs(t, err, store.ErrNotFound, "a newer link takes the place of an older one")
	_, err = db.Link(ctx, "second", noon.Add(2*time.Hour))
	assert.ErrorIs(t, err, store.ErrNotFound, "too old")
	assert.ErrorIs(t, other.UseLink(ctx, "second", noon), store.ErrNotFound)
	require.NoError(t, s.UseLink(ctx, "second", noon))
	assert.ErrorIs(t, s.UseLink(ctx, "second", noon), store.ErrNotFound, "once")

	attempt := func(at, old time.Time, keys ...string) store.Attempt {
		t.Helper()
		a, err := db.Attempt(ctx, at, old, keys...)
		require.NoError(t, err)
		return a
	}
	assert.Equal(t, []int64{1, 1}, attempt(noon, noon.Add(-time.Hour), "k", "l").Counts)
	second := attempt(noon, noon.Add(-time.Hour), "k", "m")
	assert.Equal(t, []int64{2, 1}, second.Counts)
	require.NoError(t, db.TakeBack(ctx, second))
	assert.Equal(t, []int64{2}, attempt(noon, noon.Add(-time.Hour), "k").Counts, "what was taken back does not count")
	assert.Equal(t, []int64{1}, attempt(noon.Add(2*time.Hour), noon, "k").Counts, "old attempts are forgotten")
	require.NoError(t, db.Forget(ctx, "k"))
	assert.Equal(t, []int64{1}, attempt(noon.Add(2*time.Hour), noon, "k").Counts)
}

func TestClassesThereAndBack(t *testing.T) {
	s := newSchool(t, storetest.Open(t), "Quillhaven")
	id, err := s.CreateClass(ctx, lesson.Class{Name: "7 Alder", Pace: exact.Frac(11, 10), Age: 11})
	require.NoError(t, err)
	_, err = s.CreateClass(ctx, lesson.Class{Name: "7 Alder", Pace: exact.Int(1)})
	assert.ErrorIs(t, err, store.ErrTaken)
	born := time.Date(2014, 11, 26, 0, 0, 0, 0, time.UTC)
	want := []class.Learner{
		{Code: "0042", Given: "Ada", Family: "Okafor", Born: born, Level: class.Sure, Can: []string{"claw"}, Notes: "'); DROP TABLE learners; --",
			Needs: []class.Need{{Kind: class.Allergy, What: "nuts", Severity: class.Contact, Helps: "pen"}}},
		{Given: "Bo", Family: "Zeller"},
	}
	steps := 0
	require.NoError(t, s.SaveLearners(ctx, id, want, func(int) { steps++ }))
	assert.Equal(t, 1, steps)
	c, err := s.Class(ctx, id)
	require.NoError(t, err)
	require.Len(t, c.Roster, 2)
	assert.Equal(t, 2, c.Learners, "counted")
	assert.Equal(t, 2, c.Version, "plans notice")
	assert.Nil(t, c.Roster[0].Needs, "names are read without needs")
	assert.Empty(t, c.Roster[0].Notes)
	full, err := s.WithNeeds(ctx, c)
	require.NoError(t, err)
	for i := range want {
		want[i].ID = full.Roster[i].ID
		assert.Equal(t, want[i], full.Roster[i])
	}
	assert.ErrorIs(t, s.SaveLearners(ctx, id, []class.Learner{{Given: "New"}, {ID: 9999, Given: "Nobody"}}, nil), store.ErrNotFound)
	again, err := s.Class(ctx, id)
	require.NoError(t, err)
	assert.Len(t, again.Roster, 2, "nothing half written")

	full.Rules = []class.Rule{{Kind: class.AwayFrom, Learners: []int64{want[0].ID, want[1].ID}}, {Kind: class.OneCan, Skill: "claw"}}
	require.NoError(t, s.ChangeClass(ctx, full))
	assert.ErrorIs(t, s.ChangeClass(ctx, full), store.ErrChanged)
	c, err = s.Class(ctx, id)
	require.NoError(t, err)
	assert.Equal(t, full.Rules, c.Rules)
	require.NoError(t, s.RemoveLearner(ctx, id, want[0].ID))
	assert.ErrorIs(t, s.RemoveLearner(ctx, id, want[0].ID), store.ErrNotFound)

	kit := person(t, s, "kit@quillhaven.example")
	require.NoError(t, s.SetStaff(ctx, id, []int64{kit}))
	own, err := s.ClassesOf(ctx, kit)
	require.NoError(t, err)
	assert.Equal(t, []int64{id}, own)
	require.NoError(t, s.SetStaff(ctx, id, nil))
	all, err := s.Staff(ctx)
	require.NoError(t, err)
	assert.Empty(t, all)
}

func TestListsAreForgotten(t *testing.T) {
	s := newSchool(t, storetest.Open(t), "Quillhaven")
	kit := person(t, s, "kit@quillhaven.example")
	l := store.List{ID: uuid.NewString(), Account: kit, Cells: [][]string{{"Ada", "=1+1"}}, Columns: []string{"given", ""}, Head: true, At: noon}
	require.NoError(t, s.KeepList(ctx, l))
	got, err := s.List(ctx, l.ID, kit)
	require.NoError(t, err)
	got.At = l.At
	assert.Equal(t, l, got)
	_, err = s.List(ctx, l.ID, kit+1)
	assert.ErrorIs(t, err, store.ErrNotFound, "a list is whoever's brought it")
	_, err = s.List(ctx, "no id", kit)
	assert.ErrorIs(t, err, store.ErrNotFound)
	require.NoError(t, s.KeepList(ctx, store.List{ID: uuid.NewString(), Account: kit, Cells: [][]string{}, Columns: []string{}, At: noon.Add(25 * time.Hour)}))
	_, err = s.List(ctx, l.ID, kit)
	assert.ErrorIs(t, err, store.ErrNotFound, "after a day it is gone: there are needs in it")
}

func TestRoomsThereAndBack(t *testing.T) {
	s := newSchool(t, storetest.Open(t), "Quillhaven")
	for _, r := range demo.Rooms() {
		id, err := s.CreateRoom(ctx, r)
		require.NoError(t, err)
		got, err := s.Room(ctx, id)
		require.NoError(t, err)
		assert.Equal(t, r.Things, got.Things)
		assert.Equal(t, r.Ovens, got.Ovens)
		assert.Equal(t, r.Equipment, got.Equipment)
		assert.Positive(t, got.Sharps, "counted from what is there")
		_, err = s.CreateRoom(ctx, r)
		assert.ErrorIs(t, err, store.ErrTaken)
		got.Benches++
		require.NoError(t, s.ChangeRoom(ctx, got))
		assert.ErrorIs(t, s.ChangeRoom(ctx, got), store.ErrChanged)
	}
}

// What is out of order is out of the rooms of the lessons of its days, and of
// no others.
func TestOutages(t *testing.T) {
	s := newSchool(t, storetest.Open(t), "Quillhaven")
	l := fill(t, s)
	at := func(days int) store.Lesson {
		l.Date = monday.AddDate(0, 0, days)
		id, err := s.CreateLesson(ctx, l, uuid.NewString())
		require.NoError(t, err)
		got, err := s.Lesson(ctx, id)
		require.NoError(t, err)
		return got
	}
	id, err := s.AddOutage(ctx, store.Outage{Room: l.Room.ID, Equipment: "oven", Unit: "oven-3", Why: "door", Who: "Kit", First: monday.AddDate(0, 0, 1), Last: monday.AddDate(0, 0, 2)})
	require.NoError(t, err)
	for days, out := range map[int]bool{0: false, 1: true, 2: true, 3: false} {
		got := at(days)
		assert.Equal(t, out, len(got.Room.Outages) == 1, "day %d", days)
		want := 6
		if out {
			want = 5
		}
		assert.Len(t, got.Room.Equipment[0].Units, want)
	}
	require.NoError(t, s.EndOutage(ctx, id, monday.AddDate(0, 0, 2)))
	assert.Empty(t, at(2).Room.Outages)
	require.NoError(t, s.EndOutage(ctx, id, monday.AddDate(0, 0, 1)))
	assert.ErrorIs(t, s.EndOutage(ctx, id, monday), store.ErrNotFound, "it never was")
}

func TestTimesThereAndBack(t *testing.T) {
	s := newSchool(t, storetest.Open(t), "Quillhaven")
	l := fill(t, s)
	p := store.Period{Name: "Club", Start: 960, End: 1020, Days: 10}
	id, err := s.CreatePeriod(ctx, p)
	require.NoError(t, err)
	p.ID = id
	periods, err := s.Periods(ctx)
	require.NoError(t, err)
	assert.Contains(t, periods, p)
	p.Name = "Evening club"
	require.NoError(t, s.ChangePeriod(ctx, p))
	p.ID = 9999
	assert.ErrorIs(t, s.ChangePeriod(ctx, p), store.ErrNotFound)

	span := term.Span{Name: "Autumn", First: monday, Last: monday.AddDate(0, 2, 0)}
	require.NoError(t, s.AddTerm(ctx, span))
	terms, err := s.Terms(ctx)
	require.NoError(t, err)
	require.Len(t, terms, 1)
	assert.Equal(t, span, terms[0].Span)
	slot := term.Slot{Class: l.Class.ID, Room: l.Room.ID, Period: id, Day: 3}
	require.NoError(t, s.AddSlots(ctx, []term.Slot{slot}))
	slots, err := s.Slots(ctx, l.Class.ID)
	require.NoError(t, err)
	require.Len(t, slots, 1)
	assert.Equal(t, slot, slots[0].Slot)
	require.NoError(t, s.RemoveSlot(ctx, slots[0].ID))
	require.NoError(t, s.AddSlots(ctx, nil))
}

func TestSheetsAndReadings(t *testing.T) {
	s := newSchool(t, storetest.Open(t), "Quillhaven")
	l := fill(t, s)
	id, err := s.CreateLesson(ctx, l, uuid.NewString())
	require.NoError(t, err)
	_, err = s.Signed(ctx, id)
	assert.ErrorIs(t, err, store.ErrNotFound)
	lines := []safety.Line{{Key: "knife", Hazard: "Cuts", Who: "all", Done: "claw", Adult: "walks", Left: "little", Because: "slicing"}}
	require.NoError(t, s.EditSheet(ctx, id, 0, lines))
	assert.ErrorIs(t, s.EditSheet(ctx, id, 0, nil), store.ErrChanged)
	require.NoError(t, s.EditSheet(ctx, id, 1, lines))
	edits, version, err := s.SheetEdits(ctx, id)
	require.NoError(t, err)
	assert.Equal(t, 2, version)
	assert.Equal(t, lines, edits)
	for _, who := range []string{"Kit", "Lo"} {
		require.NoError(t, s.Sign(ctx, store.Signature{Lesson: id, Lines: lines, Basis: who, Who: who, At: noon}))
	}
	signed, err := s.Signed(ctx, id)
	require.NoError(t, err)
	assert.Equal(t, "Lo", signed.Who, "the last")
	assert.Equal(t, lines, signed.Lines)
	for _, c := range []float64{71.5, 76} {
		require.NoError(t, s.AddReading(ctx, store.TempReading{Lesson: id, Bench: "Bench 1", Kind: "core", Food: "everything", Celsius: c, Who: "Kit", At: noon}))
	}
	log, err := s.Readings(ctx, id)
	require.NoError(t, err)
	require.Len(t, log, 2)
	assert.Equal(t, 76.0, log[0].Celsius, "the newest first")
	require.NoError(t, s.CountSharps(ctx, l.Room.ID, store.SharpCount{Counted: 58, Expected: 60, Who: "Kit", At: noon}))
	counts, err := s.SharpCounts(ctx, l.Room.ID, 3)
	require.NoError(t, err)
	assert.Equal(t, "58 of 60 in: 2 are missing", counts[0].Says())
	assert.Equal(t, "61 out, and there should be 60", store.SharpCount{Out: true, Counted: 61, Expected: 60}.Says())
}

// The tables that a school has changed come back as they were written; those
// that it has not are as they ship.
func TestTablesThereAndBack(t *testing.T) {
	s := newSchool(t, storetest.Open(t), "Quillhaven")
	settings, err := s.Settings(ctx)
	require.NoError(t, err)
	assert.Equal(t, safety.Usual(), settings.Book())
	us := safety.RegionOf("us")
	rules := []safety.WhoRule{{Danger: recipe.HotOven, Under: 12, Level: class.Starting, Adult: fit.Does, Source: "ours"}}
	way := safety.Way{ID: "own-1", Name: "a bag", Says: "Press.", Dangers: []recipe.Danger{recipe.Knife}, Kinds: []fit.Kind{fit.Cut}, Helps: []string{"one-handed"}, Times: 1.5, Adult: fit.Watches, Instead: true}
	require.NoError(t, s.SaveSettings(ctx, settings.WithRegion(us).WithWho(rules).WithWay(way)))
	settings, err = s.Settings(ctx)
	require.NoError(t, err)
	book := settings.Book()
	assert.Equal(t, us, book.Region)
	assert.Equal(t, rules, book.Who)
	assert.Equal(t, way, book.Ways[len(book.Ways)-1])
	assert.Len(t, book.Ways, len(safety.UsualWays())+1)
	assert.Empty(t, settings.WithWho(nil).Book().Who, "a school may have no rules at all")
}

// What is decided about learners is kept with the lesson, and undone with it.
func TestLessonsKeepTheirPeople(t *testing.T) {
	s := newSchool(t, storetest.Open(t), "Quillhaven")
	l := fill(t, s)
	id, err := s.CreateLesson(ctx, l, uuid.NewString())
	require.NoError(t, err)
	got, err := s.Lesson(ctx, id)
	require.NoError(t, err)
	got.Absent, got.Teams = []int64{3, 4}, [][]int64{{1, 2}, {5}}
	got.Swaps = []lesson.Swap{{Learner: 1, Dish: "leek-tartlets", For: "butter", Use: "50 g baking spread"}}
	got.OtherWays = []lesson.WayTaken{{Learner: 2, Dish: "leek-tartlets", Step: "cut", Way: "fork"}, {Learner: 2, Way: "large-print"}}
	require.NoError(t, s.ChangeLesson(ctx, got, "2 away"))
	again, err := s.Lesson(ctx, id)
	require.NoError(t, err)
	assert.Equal(t, got.Absent, again.Absent)
	assert.Equal(t, got.Teams, again.Teams)
	assert.Equal(t, got.Swaps, again.Swaps)
	assert.Equal(t, got.OtherWays, again.OtherWays)
	require.NoError(t, s.UndoLesson(ctx, id, again.Version))
	undone, err := s.Lesson(ctx, id)
	require.NoError(t, err)
	assert.Empty(t, undone.Absent)
	assert.Empty(t, undone.Swaps)
	planned, err := s.Planned(ctx, l.Date, l.Date)
	require.NoError(t, err)
	assert.Equal(t, []store.Planned{{Class: l.Class.ID, Period: l.Period.ID, Date: l.Date}}, planned)
}

func TestTheTrail(t *testing.T) {
	s := newSchool(t, storetest.Open(t), "Quillhaven")
	for i := range 5 {
		require.NoError(t, s.Note(ctx, store.Note{Who: "Kit", Did: "saw", About: []string{"needs", "people"}[i%2], Says: string(rune('a' + i)), At: noon}))
	}
	notes, next, err := s.Trail(ctx, "", 0, 2)
	require.NoError(t, err)
	assert.Equal(t, "e", notes[0].Says)
	notes, next, err = s.Trail(ctx, "", next, 2)
	require.NoError(t, err)
	assert.Equal(t, "c", notes[0].Says)
	notes, next, err = s.Trail(ctx, "", next, 2)
	require.NoError(t, err)
	assert.Len(t, notes, 1)
	assert.Zero(t, next)
	notes, _, err = s.Trail(ctx, "people", 0, 9)
	require.NoError(t, err)
	assert.Len(t, notes, 2)
}
