package rooms_test

import (
	"strconv"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"freshapron/internal/app/lessons"
	"freshapron/internal/app/rooms"
	"freshapron/internal/app/school"
	"freshapron/internal/core/room"
	"freshapron/internal/demo/demotest"
	"freshapron/internal/store"
)

// roomOf returns a room of the school by its name.
func roomOf(t *testing.T, h demotest.House, name string) store.Room {
	t.Helper()
	all, err := rooms.All(h.Head())
	require.NoError(t, err)
	for _, r := range all {
		if r.Name == name {
			return r
		}
	}
	t.Fatalf("there is no room %s", name)
	return store.Room{}
}

// What the form of a room shows can be saved, and changes nothing.
func TestRoomsThroughTheForm(t *testing.T) {
	h := demotest.Enter(t)
	ctx := h.As("Maren Holt")
	for _, name := range []string{"Food Room", "Junior corner"} {
		r := roomOf(t, h, name)
		require.NoError(t, rooms.ChangeRoom(ctx, r.ID, strconv.Itoa(r.Version), rooms.RoomFormOf(r)))
		after := roomOf(t, h, name)
		assert.Equal(t, r.Version+1, after.Version)
		assert.ErrorIs(t, rooms.ChangeRoom(ctx, r.ID, strconv.Itoa(r.Version), rooms.RoomFormOf(r)), school.ErrChanged)
		after.Version = r.Version
		assert.Equal(t, rooms.RoomFormOf(r), rooms.RoomFormOf(after))
		assert.Equal(t, r.Room, after.Room)
		assert.Equal(t, r.Things, after.Things)
	}
}

func TestWrongRooms(t *testing.T) {
	h := demotest.Enter(t)
	ctx := h.As("Maren Holt")
	good := rooms.RoomFormOf(roomOf(t, h, "Food Room"))
	good.Name = "New room"
	for _, c := range []struct {
		what   string
		change func(*rooms.RoomForm)
		says   []string
	}{
		{"no name", func(f *rooms.RoomForm) { f.Name = " " }, []string{"name: Give the room a name."}},
		{"a name that is taken", func(f *rooms.RoomForm) { f.Name = "Junior corner" }, []string{"name: There is a room with this name already."}},
		{"no benches", func(f *rooms.RoomForm) { f.Benches = "0" }, []string{"benches: Benches: “0” is not a whole number from 1 to 64."}},
		{"half an adult", func(f *rooms.RoomForm) { f.Adults = "1.5" }, []string{"adults: Adults: “1.5” is not a whole number from 0 to 20."}},
		{"an oven twice", func(f *rooms.RoomForm) { f.Ovens = "Big; 2; fan; 0\nbig; 2; fan; 0" }, []string{"ovens: “big” is there twice."}},
		{"an oven of another kind", func(f *rooms.RoomForm) { f.Ovens = "Big; 2; steam; 99" }, []string{
			"ovens: Big: “99” is not how many °C it runs hot, from −60 to 60.", "ovens: Big: “steam” is neither fan nor still.",
		}},
		{"an oven without shelves", func(f *rooms.RoomForm) { f.Ovens = "Big; 0; fan; 0" }, []string{"ovens: Big, shelves: “0” is not a whole number from 1 to 10."}},
		{"a line with too little", func(f *rooms.RoomForm) { f.Ovens = "\nBig; 2; fan" }, []string{"ovens: Ovens, line 2: “Big; 2; fan” has not the 4 parts that it needs, with semicolons between."}},
		{"a shared oven", func(f *rooms.RoomForm) { f.Shared = "oven; Spare; 1" }, []string{"shared: “oven” has its own place on this form."}},
		{"shared rings beside those of the benches", func(f *rooms.RoomForm) { f.Rings, f.Shared = "2", "ring; Hob; 1" }, []string{"shared: “ring” has its own place on this form."}},
		{"a scale that shows nothing", func(f *rooms.RoomForm) { f.Scales = "0; 2" }, []string{"scales: A scale shows: “0” is not a number over 0."}},
		{"a jug in words", func(f *rooms.RoomForm) { f.Jugs = "25; a litre" }, []string{"jugs: A jug holds: “a litre” is not a number over 0."}},
		{"boards that are owed", func(f *rooms.RoomForm) { f.Boards = "Green; salad; -3" }, []string{"boards: Green: “-3” is not a whole number from 0 to 500."}},
		{"a line without a name", func(f *rooms.RoomForm) { f.Sharps = " ; drawer; 3" }, []string{"sharps: Sharp things, line 1: “ ; drawer; 3” has not the 3 parts that it needs, with semicolons between."}},
		{"a line without end", func(f *rooms.RoomForm) { f.Kept = strings.Repeat("whisk ", 60) + "; drawer; 3" }, []string{"kept: Equipment, line 1 is too long."}},
		{"lines without end", func(f *rooms.RoomForm) { f.Kept = strings.Repeat("Whisk; drawer; 3\n", 201) }, []string{"kept: Equipment: more than 200 lines."}},
	} {
		in := good
		c.change(&in)
		_, err := rooms.AddRoom(ctx, in)
		t.Run(c.what, func(t *testing.T) { demotest.Says(t, err, c.says...) })
	}
	all, err := rooms.All(ctx)
	require.NoError(t, err)
	assert.Len(t, all, 2, "nothing was saved")

	good.Ovens = "Left; 2; fan; 5\r\nRight; 3; still; -10\r\n"
	made, err := rooms.AddRoom(ctx, good)
	require.NoError(t, err)
	r, err := h.School.Room(ctx, made)
	require.NoError(t, err)
	ovens := r.OvensOf()
	require.Len(t, ovens, 2)
	assert.Equal(t, []string{"Left", "Right"}, []string{ovens[0].Name, ovens[1].Name})
	assert.Equal(t, "-10", r.Ovens[ovens[1].ID].RunsHot.String())
	assert.True(t, r.Ovens[ovens[0].ID].Fan)
	assert.Nil(t, r.Things.Floor.Check(), "the floor is laid out as is usual")
	assert.Equal(t, r.Things.Floor, rooms.Floor(r))
	r.Things.Floor = room.Floor{}
	assert.Equal(t, room.Usual(r.Benches, ovens), rooms.Floor(r))
}

// When a room gets another oven its floor gets it too, and nothing else moves.
func TestFloorsFollowTheirRooms(t *testing.T) {
	h := demotest.Enter(t)
	ctx := h.As("Maren Holt")
	r := roomOf(t, h, "Junior corner")
	in := rooms.RoomFormOf(r)
	in.Ovens += "Second oven; 1; still; 0\n"
	require.NoError(t, rooms.ChangeRoom(ctx, r.ID, strconv.Itoa(r.Version), in))
	after := roomOf(t, h, "Junior corner")
	was, is := map[string]room.Item{}, map[string]room.Item{}
	for _, i := range r.Things.Floor.Items {
		was[i.Name] = i
	}
	for _, i := range after.Things.Floor.Items {
		is[i.Name] = i
	}
	assert.Contains(t, is, "Second oven")
	assert.Len(t, is, len(was)+1)
	for name, i := range was {
		assert.Equal(t, i, is[name], name)
	}

	moved := after.Things.Floor
	moved.Items[0].X = -50
	err := rooms.MoveFloor(ctx, after.ID, strconv.Itoa(after.Version), moved)
	require.Error(t, err, "out of the room")
	assert.ErrorIs(t, rooms.MoveFloor(ctx, after.ID, "0", after.Things.Floor), school.ErrChanged)
}

func TestOutOfOrder(t *testing.T) {
	h := demotest.Enter(t)
	ctx := h.As("Tomas Finney")
	r := roomOf(t, h, "Food Room")
	for _, c := range []struct {
		in   rooms.OutageForm
		says []string
	}{
		{rooms.OutageForm{}, []string{"unit: Choose what does not work."}},
		{rooms.OutageForm{Unit: "ring-1"}, []string{"unit: Choose what does not work."}},
		{rooms.OutageForm{Unit: "oven-2", Why: strings.Repeat("x", 81)}, []string{"why: The reason is longer than 80 letters."}},
		{rooms.OutageForm{Unit: "oven-2", Until: "yesterday"}, []string{"until: “yesterday” is not a date from today on, such as 2026-11-26."}},
		{rooms.OutageForm{Unit: "oven-2", Until: "2026-11-25"}, []string{"until: “2026-11-25” is not a date from today on, such as 2026-11-26."}},
	} {
		_, err := rooms.AddOutage(ctx, r.ID, c.in)
		demotest.Says(t, err, c.says...)
	}
	made, err := rooms.AddOutage(ctx, r.ID, rooms.OutageForm{Unit: "oven-2", Why: " door hinge ", Until: "2026-11-26"})
	require.NoError(t, err)
	_, err = rooms.AddOutage(ctx, r.ID, rooms.OutageForm{Unit: "oven-2"})
	demotest.Says(t, err, "unit: Oven 2 is marked already.")
	all, err := h.School.Outages(ctx, h.Today(), r.ID)
	require.NoError(t, err)
	var o store.Outage
	for _, x := range all {
		if x.ID == made {
			o = x
		}
	}
	assert.Equal(t, "door hinge", o.Why)
	assert.Equal(t, "Tomas Finney", o.Who)
	assert.Equal(t, "oven", o.Equipment)
	assert.True(t, o.On(h.Today()))
	assert.False(t, o.On(h.Today().AddDate(0, 0, 1)), "it is for today only")

	affected, err := lessons.AffectedBy(ctx, o)
	require.NoError(t, err)
	require.NotEmpty(t, affected)
	for _, a := range affected {
		assert.Equal(t, h.Today(), a.Date)
		used := func(p []string) bool {
			for _, u := range p {
				if u == "Oven 2" {
					return true
				}
			}
			return false
		}
		var before, now []string
		for _, g := range a.Before.Groups {
			for _, s := range g.Steps {
				for _, u := range s.Units {
					before = append(before, u.Unit)
				}
			}
		}
		for _, g := range a.Plan.Groups {
			for _, s := range g.Steps {
				for _, u := range s.Units {
					now = append(now, u.Unit)
				}
			}
		}
		assert.True(t, used(before), "its plan used the oven")
		assert.False(t, used(now), "its plan does without")
	}
}

func TestCountingSharpThings(t *testing.T) {
	h := demotest.Enter(t)
	ctx := h.As("Bea Lindqvist")
	r := roomOf(t, h, "Food Room")
	demotest.Says(t, rooms.CountSharps(ctx, r.ID, "", "away", "a few"), "counted: Counted: “a few” is not a whole number from 0 to 5000.", "way: Choose whether they were counted out or in.")
	assert.ErrorIs(t, rooms.CountSharps(ctx, 999, "", "in", "3"), school.ErrNotFound)
	require.NoError(t, rooms.CountSharps(ctx, r.ID, "", "out", "12"))
	counts, err := h.School.SharpCounts(ctx, r.ID, 1)
	require.NoError(t, err)
	require.Len(t, counts, 1)
	assert.Equal(t, 12, counts[0].Counted)
	assert.True(t, counts[0].Out)
	assert.Equal(t, "Bea Lindqvist", counts[0].Who)
	assert.True(t, counts[0].At.Equal(time.Date(2026, 11, 26, 9, 0, 0, 0, time.UTC)))
	assert.Equal(t, r.Sharps, counts[0].Expected, "beside what should be there")
	assert.Positive(t, r.Sharps)
}

// An oven that is out of order stays out of order when it is renamed, and its
// place on the floor stays its own.
func TestRenamedAndStillOutOfOrder(t *testing.T) {
	h := demotest.Enter(t)
	ctx := h.As("Maren Holt")
	r := roomOf(t, h, "Food Room")
	_, err := rooms.AddOutage(ctx, r.ID, rooms.OutageForm{Unit: "oven-2", Why: "door"})
	require.NoError(t, err)
	in := rooms.RoomFormOf(r)
	in.Ovens = strings.Replace(in.Ovens, "Oven 2;", "Window oven;", 1)
	require.NoError(t, rooms.ChangeRoom(ctx, r.ID, strconv.Itoa(r.Version), in))
	after := roomOf(t, h, "Food Room")
	assert.Equal(t, "Window oven", after.UnitName("oven-2"))
	before, _ := r.Things.Floor.Find("oven-2")
	now, ok := after.Things.Floor.Find("oven-2")
	require.True(t, ok)
	assert.Equal(t, "Window oven", now.Name)
	assert.Equal(t, before.X, now.X)
	v, err := lessons.One(ctx, 1)
	require.NoError(t, err)
	assert.Equal(t, []string{"Window oven: door"}, v.Room.Outages)
	for _, e := range v.Fit.Equipment {
		for _, u := range e.Units {
			assert.NotEqual(t, "Window oven", u.Name)
		}
	}
	in = rooms.RoomFormOf(after)
	in.Ovens += "Oven 2; 2; fan; 0\n"
	require.NoError(t, rooms.ChangeRoom(ctx, r.ID, strconv.Itoa(after.Version), in))
	v, err = lessons.One(ctx, 1)
	require.NoError(t, err)
	assert.Equal(t, []string{"Window oven: door"}, v.Room.Outages, "a new oven with the old name works")
}
