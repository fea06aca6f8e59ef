package care_test

import (
	"context"
	"errors"
	"slices"
	"strconv"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"freshapron/internal/app/care"
	"freshapron/internal/app/lessons"
	"freshapron/internal/app/rooms"
	"freshapron/internal/app/school"
	"freshapron/internal/core/class"
	"freshapron/internal/core/lesson"
	"freshapron/internal/core/pantry"
	"freshapron/internal/core/safety"
	"freshapron/internal/demo/demotest"
)

// tartlets is the lesson of the demonstration on which most is decided.
const tartlets = 2

func cared(t *testing.T, ctx context.Context, lesson int64) *care.Care {
	t.Helper()
	c, err := care.For(ctx, lesson)
	require.NoError(t, err)
	return c
}

func version(v *lessons.View) string { return strconv.Itoa(v.Version) }

// Whoever is away is in no group, measures nothing and is counted nowhere.
func TestAwayToday(t *testing.T) {
	h := demotest.Enter(t)
	ctx := h.As("Maren Holt")
	c := cared(t, ctx, tartlets)
	everybody := len(c.Class.Roster)
	gone := []int64{c.Class.Roster[0].ID, c.Class.Roster[5].ID}
	require.NoError(t, lessons.SetAbsent(ctx, tartlets, version(c.View), []string{demotest.ID(gone[0]), demotest.ID(gone[1]), "0", "x"}))
	after := cared(t, ctx, tartlets)
	assert.Equal(t, everybody-2, after.Core.Learners())
	cooks, dealt := 0, 0
	for _, b := range after.Core.Benches() {
		cooks += b.Cooks
	}
	was := map[int64]string{}
	for _, b := range c.Benches {
		for _, l := range b.Members {
			was[l.ID] = b.Name
		}
	}
	for _, b := range after.Benches {
		dealt += len(b.Members)
		for _, l := range b.Members {
			assert.NotContains(t, gone, l.ID)
			assert.Equal(t, was[l.ID], b.Name, "nobody else moves")
		}
	}
	assert.Equal(t, everybody-2, cooks)
	assert.Equal(t, everybody-2, dealt)
	for _, e := range after.Eaters() {
		assert.NotContains(t, gone, e.ID)
	}
	assert.ErrorIs(t, lessons.SetAbsent(ctx, tartlets, version(c.View), nil), school.ErrChanged)
	assert.ErrorIs(t, lessons.SetAbsent(h.As("Nell Carver"), tartlets, version(after.View), nil), school.ErrNotYours)
	require.NoError(t, lessons.Undo(ctx, tartlets, version(after.View)))
	back := cared(t, ctx, tartlets)
	assert.Empty(t, back.Absent)
	assert.Equal(t, c.Plan, back.Plan, "the plan is the one that it was")

	var all []string
	for _, l := range c.Class.Roster {
		all = append(all, demotest.ID(l.ID))
	}
	require.Error(t, lessons.SetAbsent(ctx, tartlets, version(back.View), all), "with nobody there is nothing to plan")
	assert.Empty(t, cared(t, ctx, tartlets).Absent)
}

func TestGroupsByHand(t *testing.T) {
	h := demotest.Enter(t)
	ctx := h.As("Maren Holt")
	c := cared(t, ctx, tartlets)
	group := map[int64]string{}
	for i, l := range c.Class.Roster {
		group[l.ID] = strconv.Itoa(i/2 + 1)
	}
	require.NoError(t, lessons.SetTeams(ctx, tartlets, version(c.View), group))
	after := cared(t, ctx, tartlets)
	for i, g := range after.Dealt.Groups {
		require.Len(t, g, 2)
		assert.Equal(t, c.Class.Roster[2*i].ID, g[0].ID)
		assert.Equal(t, c.Class.Roster[2*i+1].ID, g[1].ID)
	}
	first := c.Class.Roster[0]
	for _, wrong := range []string{"", "0", "-1", "61", "one", "1.5"} {
		group[first.ID] = wrong
		demotest.Says(t, lessons.SetTeams(ctx, tartlets, version(after.View), group), "teams: "+first.Name()+": “"+wrong+"” is not the number of a group.")
	}
	require.NoError(t, lessons.SetTeams(ctx, tartlets, version(after.View), nil))
	assert.Equal(t, c.Dealt.Groups, cared(t, ctx, tartlets).Dealt.Groups, "dealt by the rules again")
}

// The swaps that are taken for everybody leave nothing against what a bench
// makes that a swap could have mended, and go into its amounts.
func TestSwapsForEverybody(t *testing.T) {
	h := demotest.Enter(t)
	ctx := h.As("Maren Holt")
	lessons, err := lessons.From(ctx, h.Today(), 14)
	require.NoError(t, err)
	taken := 0
	for _, v := range lessons {
		c, err := care.For(ctx, v.ID)
		if errors.Is(err, school.ErrNotYours) {
			continue
		}
		require.NoError(t, err)
		before := c.Eaters()
		require.NoError(t, care.SwapAll(ctx, v.ID, version(c.View)))
		c = cared(t, ctx, v.ID)
		after := c.Eaters()
		assert.LessOrEqual(t, care.Unsafe(after), care.Unsafe(before), v.Core.Titles())
		taken += len(c.Swaps)
		for _, e := range after {
			for _, d := range e.Dishes {
				if len(d.Best.Swaps) > 0 && safety.Worst(d.Best.Left) != pantry.Never {
					assert.NotEqual(t, pantry.Never, safety.Worst(d.Left), "%s can eat what %s makes", e.Name(), e.Bench)
				}
			}
		}
		for _, s := range c.Sizes {
			var names []string
			for _, a := range s.Amounts {
				names = append(names, a.Name())
			}
			for _, w := range s.Swaps {
				assert.NotContains(t, names, w.For, v.Core.Titles())
			}
		}
	}
	assert.Greater(t, taken, 3)
}

func TestSwapsOfALearner(t *testing.T) {
	h := demotest.Enter(t)
	ctx := h.As("Maren Holt")
	c := cared(t, ctx, tartlets)
	require.NotEmpty(t, c.Menu[0].Dish.Swaps)
	e := c.Eaters()[0]
	of := func() int {
		return len(slices.DeleteFunc(slices.Clone(cared(t, ctx, tartlets).Swaps), func(s lesson.Swap) bool { return s.Learner != e.ID }))
	}
	require.NoError(t, care.SetSwaps(ctx, tartlets, version(c.View), e.ID, "leek-tartlets", []string{"0", "77", "x"}))
	assert.Equal(t, 1, of(), "what is not in the list is not taken")
	again := cared(t, ctx, tartlets).View
	assert.ErrorIs(t, care.SetSwaps(ctx, tartlets, version(again), 99999, "leek-tartlets", []string{"0"}), school.ErrNotFound)
	require.NoError(t, care.SetSwaps(ctx, tartlets, version(again), e.ID, "leek-tartlets", nil))
	assert.Zero(t, of())
}

func TestOtherWaysOfALearner(t *testing.T) {
	h := demotest.Enter(t)
	ctx := h.As("Maren Holt")
	c := cared(t, ctx, tartlets)
	helped := c.Helped()
	require.NotEmpty(t, helped)
	first := helped[0]
	require.True(t, slices.ContainsFunc(first.Needs, func(n class.Need) bool { return n.Kind == class.Access }), "who needs it comes first")
	require.NotEmpty(t, first.Steps)
	dish, step, way := first.Steps[0].Dish, first.Steps[0].ID, first.Steps[0].Ways[0].ID
	require.NoError(t, care.SetWays(ctx, tartlets, version(c.View), first.ID, []lesson.WayTaken{
		{Dish: dish, Step: step, Way: way}, {Dish: dish, Step: "no-step", Way: way}, {Dish: "no-dish", Step: step, Way: way}, {Dish: dish, Step: step, Way: "no-way"}, {},
	}))
	after := cared(t, ctx, tartlets)
	assert.Equal(t, 1, len(slices.DeleteFunc(slices.Clone(after.OtherWays), func(w lesson.WayTaken) bool { return w.Learner != first.ID })), "what is not there is not taken")
	again := after.Helped()[0]
	assert.True(t, again.Steps[0].Ways[0].Chosen)
	for _, w := range again.Steps[0].Ways[1:] {
		assert.False(t, w.Chosen)
	}
	assert.ErrorIs(t, care.SetWays(ctx, tartlets, version(after.View), 99999, nil), school.ErrNotFound)
}

// A signature holds for what was seen: an edit, or a change of the lesson
// under it, makes it stale, and says by what.
func TestSigningASheet(t *testing.T) {
	h := demotest.Enter(t)
	ctx := h.As("Maren Holt")
	sheet := func() care.Sheet {
		s, err := care.SheetOf(ctx, cared(t, ctx, tartlets))
		require.NoError(t, err)
		return s
	}
	s := sheet()
	require.Equal(t, "open", s.State())
	require.NotEmpty(t, s.Lines)
	c := cared(t, ctx, tartlets)
	assert.ErrorIs(t, care.SignSheet(ctx, c, "something else"), school.ErrChanged)

	edit := s.Lines[0]
	edit.Done = "The trays stay on the left."
	own := safety.Line{Key: "own:1", Hazard: "A wet floor by the door", Who: "all", Done: "Mat and sign", Adult: "technician", Left: "low"}
	require.NoError(t, care.EditSheet(ctx, c, strconv.Itoa(s.Version), []safety.Line{edit, own, {Key: "own:2"}}))
	assert.ErrorIs(t, care.EditSheet(ctx, c, strconv.Itoa(s.Version), nil), school.ErrChanged)
	assert.ErrorIs(t, care.EditSheet(ctx, c, "x", nil), school.ErrChanged)
	long := edit
	long.Left = strings.Repeat("low ", 600)
	require.Error(t, care.EditSheet(ctx, c, "1", []safety.Line{long}))
	edited := sheet()
	assert.Equal(t, len(s.Lines)+1, len(edited.Lines), "a line of one's own, and no empty one")
	assert.Equal(t, "The trays stay on the left.", edited.Lines[0].Done)
	assert.Equal(t, s.Lines[0].Hazard, edited.Lines[0].Hazard)
	assert.True(t, edited.Edited[edit.Key])
	assert.False(t, edited.Edited[s.Lines[1].Key])

	require.ErrorIs(t, care.SignSheet(ctx, c, s.Seen()), school.ErrChanged, "that is not how it stands")
	require.NoError(t, care.SignSheet(ctx, c, edited.Seen()))
	assert.Equal(t, "signed", h.LastNote().Did)
	signed := sheet()
	assert.Equal(t, "signed", signed.State())
	assert.Equal(t, "Maren Holt", signed.Signed.Who)

	all, err := rooms.All(ctx)
	require.NoError(t, err)
	room := all[0]
	in := rooms.RoomFormOf(room)
	in.Sharps = ""
	require.NoError(t, rooms.ChangeRoom(ctx, room.ID, strconv.Itoa(room.Version), in))
	stale := sheet()
	assert.Equal(t, "stale", stale.State(), "the knives are gone from the room")
	assert.NotEmpty(t, stale.Stale)
	verdict, err := care.Safe(ctx, cared(t, ctx, tartlets).View, true)
	require.NoError(t, err)
	assert.Equal(t, lesson.Stop, verdict.Light)
	elsewhere, err := care.Safe(h.As("Nell Carver"), cared(t, ctx, tartlets).View, false)
	require.NoError(t, err)
	assert.Nil(t, elsewhere, "not for others")
}

func TestTheLogOfTemperatures(t *testing.T) {
	h := demotest.Enter(t)
	ctx := h.As("Tomas Finney")
	require.NoError(t, care.TakeRegion(h.As("Maren Holt"), "uk"))
	for _, c := range []struct {
		in   care.Probing
		says []string
	}{
		{care.Probing{}, []string{"celsius: “” is no temperature in °C between −60 and 350.", "bench: Say at which bench, or of what.", "kind: Choose what was measured."}},
		{care.Probing{Bench: "Bench 1", Kind: "core", Food: "stone", Celsius: "75"}, []string{"food: Choose what was probed."}},
		{care.Probing{Bench: "Bench 1", Kind: "hot", Celsius: "NaN"}, []string{"celsius: “NaN” is no temperature in °C between −60 and 350."}},
		{care.Probing{Bench: "Bench 1", Kind: "hot", Celsius: "63", Seconds: "-1"}, []string{"seconds: How long: -1 is not between 0 and 86 400."}},
	} {
		_, err := care.WriteDown(ctx, tartlets, c.in)
		demotest.Says(t, err, c.says...)
	}
	// The table of the United Kingdom: 75 °C for 30 s, or 70 °C for 2 minutes;
	// hot food at 63 °C or below that for 2 hours; cold food at 8 °C.
	for _, c := range []struct {
		kind, food, celsius, seconds string
		good                         bool
	}{
		{"core", "everything", "75", "30", true},
		{"core", "everything", "75", "29", false},
		{"core", "everything", "74,9", "119", false},
		{"core", "everything", "70", "120", true},
		{"core", "everything", "92", "6", true},
		{"hot", "", "63", "", true},
		{"hot", "", "62.9", "7260", false},
		{"hot", "", "50", "3600", true},
		{"cold", "", "8", "", true},
		{"cold", "", "9", "14460", false},
	} {
		r, err := care.WriteDown(ctx, tartlets, care.Probing{Bench: "Bench 1", Kind: c.kind, Food: c.food, Celsius: c.celsius, Seconds: c.seconds})
		require.NoError(t, err)
		assert.Equal(t, c.good, r.Good, "%s °C for %s s: %s", c.celsius, c.seconds, r.Says)
		assert.NotEmpty(t, r.Says)
		assert.Equal(t, "Tomas Finney", r.Who)
	}
	list, err := h.School.Readings(ctx, tartlets)
	require.NoError(t, err)
	assert.Len(t, list, 10, "what was refused is not in the log")
	_, err = care.WriteDown(ctx, 9999, care.Probing{})
	assert.ErrorIs(t, err, school.ErrNotFound)
}
