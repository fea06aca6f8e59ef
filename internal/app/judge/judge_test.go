package judge_test

import (
	"context"
	"errors"
	"strconv"
	"sync"
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"freshapron/internal/app/judge"
	"freshapron/internal/app/school"
	"freshapron/internal/core/assess"
	"freshapron/internal/core/exact"
	"freshapron/internal/demo/demotest"
	"freshapron/internal/store"
)

// task is the demonstration's, as somebody sees it.
func task(t *testing.T, ctx context.Context) *judge.Task {
	t.Helper()
	out, err := judge.Open(ctx, 1)
	require.NoError(t, err)
	return out
}

// marks for all criteria of a task: a part of what each is out of.
func marks(of *judge.Task, part float64) map[string]string {
	out := map[string]string{}
	for _, c := range of.Scheme.Criteria {
		out[c.ID] = strconv.Itoa(int(part * c.Most.Float()))
	}
	return out
}

// last is the learner whom the demonstration leaves to be marked.
func last(of *judge.Task) int64 { return of.Learners()[len(of.Learners())-1].ID }

// pressed does something again where the school is busy, as a screen does.
func pressed(do func() error) error {
	err := do()
	for n := 0; n < 10 && errors.Is(err, school.ErrBusy); n++ {
		err = do()
	}
	return err
}

// Two who press at once, and one who presses twice, lose nothing and count once.
func TestMarksAtOnce(t *testing.T) {
	h := demotest.Enter(t)
	who := []context.Context{h.Head(), h.As("Signe Amsel")}
	first := task(t, who[0])
	before, err := judge.BookOf(who[0], first)
	require.NoError(t, err)
	presses := []string{uuid.NewString(), uuid.NewString()}
	var all sync.WaitGroup
	for i := range 8 {
		all.Go(func() {
			ctx := who[i%2]
			of := task(t, ctx)
			assert.NoError(t, pressed(func() error {
				return judge.Walk(ctx, of, []judge.Said{{Press: presses[i%2], Learner: last(of), Kind: assess.Noted, Says: "folded by hand"}})
			}))
		})
	}
	all.Wait()
	after, err := judge.BookOf(who[0], first)
	require.NoError(t, err)
	assert.Len(t, after.List, len(before.List)+2)

	signe := task(t, who[1])
	press := uuid.NewString()
	for range 4 {
		all.Go(func() {
			assert.NoError(t, pressed(func() error { return judge.Mark(who[1], signe, last(signe), press, marks(signe, 0.5), "", true) }))
		})
	}
	all.Wait()
	done, err := judge.BookOf(who[0], first)
	require.NoError(t, err)
	assert.Len(t, done.List, len(after.List)+len(signe.Scheme.Criteria)+1, "each criterion once, and that she is done")
	sheet := done.Sheet(last(first))
	assert.True(t, sheet.Open(first.Markers))
	for _, c := range signe.Scheme.Criteria {
		got := sheet.Marks[school.Acting(who[1]).ID][c.ID]
		want := exact.MustParse(marks(signe, 0.5)[c.ID])
		assert.Zero(t, got.Cmp(want), c.ID)
	}
}

// What was seen without a network keeps its time, and one bad record keeps all back.
func TestWhatWasSeenBefore(t *testing.T) {
	h := demotest.Enter(t)
	ctx := h.Head()
	of := task(t, ctx)
	said := func(ago time.Duration, says string) judge.Said {
		return judge.Said{Press: uuid.NewString(), Learner: last(of), Kind: assess.Question, Says: says, Ago: ago}
	}
	for _, ago := range []time.Duration{0, 25 * time.Minute, 5 * time.Hour, -time.Hour} {
		s := said(ago, "why does it rest?")
		require.NoError(t, judge.Walk(ctx, of, []judge.Said{s}))
		b, err := judge.BookOf(ctx, of)
		require.NoError(t, err)
		for _, r := range b.List {
			if r.ID != s.Press {
				continue
			}
			want := h.Site.Now()
			if ago == 25*time.Minute {
				want = want.Add(-ago)
			}
			assert.True(t, r.At.Equal(want), "%s: %s", ago, r.At)
		}
	}
	b, err := judge.BookOf(ctx, of)
	require.NoError(t, err)
	nobody := said(0, "x")
	nobody.Learner = 1 << 40
	marked := said(0, "x")
	marked.Kind = assess.Marked
	unnumbered := said(0, "x")
	unnumbered.Press = "1"
	for want, bad := range map[string]judge.Said{
		"Choose whom it is about":                            nobody,
		"“mark” is nothing that is seen while walking round": marked,
		"It has no number of its own":                        unnumbered,
		"Write what was seen":                                said(0, " \x00 "),
	} {
		err := judge.Walk(ctx, of, []judge.Said{said(0, "good"), bad})
		demotest.Says(t, err, "records[1]: "+want)
	}
	now, err := judge.BookOf(ctx, of)
	require.NoError(t, err)
	assert.Len(t, now.List, len(b.List))
}

// A closed task takes nothing more, from nobody, until it is opened with a reason; only
// those of the class close it.
func TestClosing(t *testing.T) {
	h := demotest.Enter(t)
	ctx, signe := h.Head(), h.As("Signe Amsel")
	of := task(t, ctx)
	require.ErrorIs(t, judge.Shut(signe, of.ID, uuid.NewString(), true, ""), school.ErrNotYours)
	require.NoError(t, judge.Shut(ctx, of.ID, uuid.NewString(), true, ""))
	assert.Contains(t, h.LastNote().Says, "closed the task")
	entries, err := school.In(ctx).Entries(ctx, of.ID)
	require.NoError(t, err)
	version := strconv.Itoa(entries[last(of)].Version)
	for what, err := range map[string]error{
		"a mark":       judge.Mark(ctx, of, last(of), uuid.NewString(), marks(of, 1), "", false),
		"an agreement": judge.Agree(ctx, of, last(of), uuid.NewString(), "50", "x"),
		"a record":     judge.Walk(ctx, of, []judge.Said{{Press: uuid.NewString(), Learner: last(of), Kind: assess.OnPlan}}),
		"a choice":     judge.ChooseOwn(ctx, of, last(of), version, nil),
		"a time plan":  judge.SavePlan(ctx, of, last(of), version, []byte("clock,what\n9:00,wash hands\n"), nil),
	} {
		assert.ErrorContains(t, err, "This task is closed", what)
	}
	demotest.Says(t, judge.Shut(ctx, of.ID, uuid.NewString(), false, " "), "why: Say why it is opened again: it is kept")
	require.NoError(t, judge.Shut(ctx, of.ID, uuid.NewString(), false, "one was ill"))
	assert.Contains(t, h.LastNote().Says, "again: one was ill")
	assert.NoError(t, judge.Mark(signe, task(t, signe), last(of), uuid.NewString(), marks(of, 1), "", false))
}

// Who chooses over an older version is told, and loses nothing of the newer.
func TestChoosingOverAnother(t *testing.T) {
	h := demotest.Enter(t)
	ctx := h.Head()
	of := task(t, ctx)
	learner := last(of)
	dishes, err := judge.Shelf(ctx, of)
	require.NoError(t, err)
	read := func() store.Entry {
		all, err := school.In(ctx).Entries(ctx, of.ID)
		require.NoError(t, err)
		return all[learner]
	}
	was := read()
	require.NoError(t, judge.ChooseOwn(ctx, of, learner, strconv.Itoa(was.Version), map[int64]judge.ChoiceForm{dishes[0].ID: {As: "dish", Portions: "3"}, dishes[1].ID: {As: "side"}}))
	now := read()
	assert.Equal(t, []store.EntryDish{{Dish: dishes[0].ID, Portions: 3}, {Dish: dishes[1].ID, Side: true, Portions: 1}}, now.Dishes)
	assert.Equal(t, was.Papers, now.Papers, "which papers were handed in is not a learner's to say")
	require.ErrorIs(t, judge.ChooseOwn(ctx, of, learner, strconv.Itoa(was.Version), nil), school.ErrChanged)
	many := map[int64]judge.ChoiceForm{}
	for _, d := range dishes[:13] {
		many[d.ID] = judge.ChoiceForm{As: "dish"}
	}
	for want, form := range map[string]map[int64]judge.ChoiceForm{
		"13 are chosen": many,
		"Portions of":   {dishes[2].ID: {As: "dish", Portions: "some"}},
	} {
		assert.ErrorContains(t, judge.ChooseOwn(ctx, of, learner, strconv.Itoa(now.Version), form), want)
	}
	assert.Equal(t, now, read())
}

// Sets are looked for once for a shelf, and anew where a dish on it has changed.
func TestLookingForSetsOnce(t *testing.T) {
	h := demotest.Enter(t)
	ctx := h.Head()
	one, err := judge.Propose(ctx, task(t, ctx))
	require.NoError(t, err)
	same, err := judge.Propose(ctx, task(t, ctx))
	require.NoError(t, err)
	assert.Same(t, one, same)
	in := school.In(ctx)
	dishes, err := judge.Shelf(ctx, task(t, ctx))
	require.NoError(t, err)
	dish, err := in.Dish(ctx, dishes[0].ID)
	require.NoError(t, err)
	dish.Recipe.Title += " of the garden"
	require.NoError(t, in.ChangeDish(ctx, dish, h.Site.Now()))
	other, err := judge.Propose(ctx, task(t, ctx))
	require.NoError(t, err)
	assert.NotSame(t, one, other)
	assert.Eventually(t, func() bool {
		_, all, err := other.So(ctx)
		return err == nil && all
	}, time.Minute, 10*time.Millisecond)
}
