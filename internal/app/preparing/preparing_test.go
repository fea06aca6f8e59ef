package preparing_test

import (
	"context"
	"fmt"
	"slices"
	"strings"
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"freshapron/internal/app/preparing"
	"freshapron/internal/app/school"
	"freshapron/internal/core/exact"
	"freshapron/internal/core/measure"
	"freshapron/internal/core/prepare"
	"freshapron/internal/core/recipe"
	"freshapron/internal/core/supply"
	"freshapron/internal/demo/demotest"
	"freshapron/internal/store"
)

func load(t *testing.T, ctx context.Context) *preparing.Stretch {
	t.Helper()
	st, err := preparing.Load(ctx, school.In(ctx).Today())
	require.NoError(t, err)
	return st
}

// of returns the lesson of a class with a dish.
func of(t *testing.T, st *preparing.Stretch, class, dish string) preparing.Lesson {
	t.Helper()
	for _, l := range st.Lessons {
		if l.Class.Name == class && strings.HasPrefix(l.Titles(), dish) {
			return l
		}
	}
	t.Fatalf("%s has no %s", class, dish)
	return preparing.Lesson{}
}

func need(st *preparing.Stretch, day time.Time, item string) string {
	for _, n := range st.Plan.Needs {
		if n.Item.Key == item && n.On == preparing.OrderDay(day) {
			return n.Item.Says(n.Amount)
		}
	}
	return ""
}

// A week by hand: what the scones of one class take, where it comes from, and what
// a change of the class makes of it.
func TestWhatALessonNeeds(t *testing.T) {
	h := demotest.Enter(t)
	ctx := h.Head()
	st := load(t, ctx)
	today := h.Today()
	scones := of(t, st, "7 Alder", "Herb scones")
	// 26 learners: 12 benches, of which two make 12 scones and ten make 8; the recipe's 225 g are for 8. One
	// bench of two takes gluten-free flour. 225 × (9 + 2 × 1.5) g for the others, 225 g for the demonstration and
	// 225 g for a spare.
	assert.Equal(t, "3.15 kg self-raising flour", need(st, today, "self-raising-flour"))
	assert.Equal(t, "225 g gluten-free plain flour", need(st, today, "gluten-free-flour"))
	// 50 g × the same shares for those with butter, 8 of 12 benches … and the tartlets of the other class beside it.
	assert.Equal(t, "1.89 kg butter", need(st, today, "butter"))
	sources := st.Plan.SourcesOf(st.Plan.Needs[slices.IndexFunc(st.Plan.Needs, func(n supply.Need) bool {
		return n.Item.Key == "parsley" && n.On == preparing.OrderDay(today)
	})])
	require.Len(t, sources, 1)
	assert.Equal(t, "bed: herb spiral", sources[0].Batch.Says, "the garden goes before what is bought")

	// Four are away: their flour is not needed, at once.
	row, err := h.Lesson(ctx, scones.ID)
	require.NoError(t, err)
	for _, l := range row.Class.Roster[:2] {
		row.Absent = append(row.Absent, l.ID)
	}
	require.NoError(t, h.ChangeLesson(ctx, row, "two away"))
	assert.Less(t, need(load(t, ctx), today, "self-raising-flour"), "3.15 kg")

	// On another day it is needed then.
	row, err = h.Lesson(ctx, scones.ID)
	require.NoError(t, err)
	row.Date = today.AddDate(0, 0, 4)
	require.NoError(t, h.ChangeLesson(ctx, row, "moved"))
	st = load(t, ctx)
	assert.Empty(t, need(st, today, "self-raising-flour"))
	assert.NotEmpty(t, need(st, today.AddDate(0, 0, 4), "self-raising-flour"))
}

// What has been ordered is counted on; a lesson that is moved or taken off leaves
// it over, and that is said.
func TestOrdersAreSentOnceAndCompared(t *testing.T) {
	h := demotest.Enter(t)
	ctx := h.As("Tomas Finney")
	st := load(t, ctx)
	require.NotEmpty(t, st.Plan.Deliveries)
	d := st.Plan.Deliveries[0]
	form := uuid.NewString()
	_, err := preparing.Send(ctx, d.Supplier.ID, d.On.String(), "what was not looked at", form)
	assert.ErrorIs(t, err, school.ErrChanged)
	id, err := preparing.Send(ctx, d.Supplier.ID, d.On.String(), preparing.Stamp(d), form)
	require.NoError(t, err)
	again, err := preparing.Send(ctx, d.Supplier.ID, d.On.String(), preparing.Stamp(d), form)
	require.NoError(t, err)
	assert.Equal(t, id, again, "the same press is one order")
	_, err = preparing.Send(ctx, d.Supplier.ID, d.On.String(), preparing.Stamp(d), "x")
	assert.ErrorContains(t, err, "not complete")

	st = load(t, ctx)
	for _, x := range st.Plan.Deliveries {
		assert.False(t, x.Supplier.ID == d.Supplier.ID && x.On == d.On && preparing.Stamp(x) == preparing.Stamp(d), "it is not ordered twice")
	}
	o, err := h.Order(ctx, id)
	require.NoError(t, err)
	assert.Len(t, o.Lines, len(d.Lines))
	assert.Equal(t, "Tomas Finney", o.Who)

	before := len(st.Plan.Unneeded())
	koftas := of(t, st, "9 Rowan", "Turkey koftas")
	row, err := h.Lesson(ctx, koftas.ID)
	require.NoError(t, err)
	row.Date = row.Date.AddDate(0, 0, 40)
	require.NoError(t, h.ChangeLesson(ctx, row, "moved"))
	st = load(t, ctx)
	assert.Greater(t, len(st.Plan.Unneeded()), before, "what was ordered for it is left over")

	require.NoError(t, preparing.Cancel(ctx, id))
	assert.ErrorIs(t, preparing.Cancel(ctx, id), school.ErrChanged)
	demotest.Says(t, preparing.CheckIn(ctx, id, o.Lines[0].ID, preparing.Arrival{Count: "1"}),
		"count: This order was cancelled. What came all the same is put into the store by hand, or sent back")
	assert.ErrorIs(t, preparing.CheckIn(ctx, 1, o.Lines[0].ID, preparing.Arrival{Count: "1"}), school.ErrNotFound, "a line of another order")
}

// Somebody wants another number of packs: the rest is planned round it, and what it
// costs more is said.
func TestDeciding(t *testing.T) {
	h := demotest.Enter(t)
	ctx := h.Head()
	d := load(t, ctx).Plan.Deliveries[0]
	l := d.Lines[0]
	more, err := preparing.Decide(ctx, l.Product.ID, d.On.String(), fmt.Sprint(l.Count+3))
	require.NoError(t, err)
	assert.Positive(t, more.Sign())
	count := func() int {
		for _, x := range load(t, ctx).Plan.Deliveries {
			for _, k := range x.Lines {
				if k.Product.ID == l.Product.ID && x.On == d.On {
					return k.Count
				}
			}
		}
		return 0
	}
	assert.Equal(t, l.Count+3, count())
	require.NoError(t, preparing.Forget(ctx, d.On.String()))
	assert.Equal(t, l.Count, count())
	_, err = preparing.Decide(ctx, l.Product.ID, d.On.String(), "many")
	demotest.Says(t, err, "count: Packs: “many” is not a whole number from 0 to 10000.")
	_, err = preparing.Decide(ctx, 999_999, d.On.String(), "1")
	assert.ErrorIs(t, err, school.ErrNotFound)
	_, err = preparing.Decide(ctx, l.Product.ID, "2026-02-30", "1")
	assert.ErrorContains(t, err, "2026-02-30")
	_, err = preparing.Decide(ctx, l.Product.ID, "2026-11-29", "1") // a Sunday
	assert.ErrorContains(t, err, "nothing comes from there on that day")
}

// What comes is checked in once; of another product somebody reads the label, and
// the lessons that use it are told until somebody has decided.
func TestCheckingIn(t *testing.T) {
	h := demotest.Enter(t)
	ctx := h.As("Tomas Finney")
	st := load(t, ctx)
	o := st.Orders[slices.IndexFunc(st.Orders, func(o store.Order) bool { return o.On.Equal(h.Today()) })]
	line := o.Lines[slices.IndexFunc(o.Lines, func(l store.OrderLine) bool { return l.Product.Item == "kidney-beans" })]
	demotest.Says(t, preparing.CheckIn(ctx, o.ID, line.ID, preparing.Arrival{Count: "4", Name: "Mixed beans in dressing", Allergens: []string{"mustard"}}),
		"read: Read the label of Mixed beans in dressing and tick what it contains: it may not be what the lessons count on")
	demotest.Says(t, preparing.CheckIn(ctx, o.ID, line.ID, preparing.Arrival{Count: "some", UseBy: "soon"}),
		"count: Packs that came: “some” is not a whole number from 0 to 10000.", "use_by: “soon” is not a date such as 2026-12-03.")
	require.NoError(t, preparing.CheckIn(ctx, o.ID, line.ID, preparing.Arrival{Count: "3", Name: "Mixed beans in dressing", Allergens: []string{"mustard"}, Read: true, UseBy: "2026-12-20"}))
	assert.ErrorIs(t, preparing.CheckIn(ctx, o.ID, line.ID, preparing.Arrival{Count: "3"}), school.ErrChanged)

	st = load(t, ctx)
	at := slices.IndexFunc(st.Replaced(), func(r preparing.Replaced) bool { return r.Line.ID == line.ID })
	require.GreaterOrEqual(t, at, 0)
	r := st.Replaced()[at]
	assert.True(t, r.Line.Open())
	assert.Equal(t, []string{"mustard"}, r.Line.Checked.Unlike)
	assert.Contains(t, r.Lessons, of(t, st, "9 Rowan", "Beef and bean chilli").ID)
	ready := st.Ready(of(t, st, "9 Rowan", "Beef and bean chilli"), 0, nil)
	assert.Positive(t, ready.Undecided)
	b := st.Batches[slices.IndexFunc(st.Batches, func(b store.Batch) bool { return b.Name == "Mixed beans in dressing" })]
	assert.Equal(t, "1.2 kg", b.Amount.String())
	assert.Equal(t, "2026-12-20", b.UseBy.Format(time.DateOnly))

	head := h.Head()
	demotest.Says(t, preparing.DecideLine(head, line.ID, " "), "says: Say what was decided: who may eat it, what is used in its place")
	require.NoError(t, preparing.DecideLine(head, line.ID, "beans from the store instead"))
	assert.ErrorIs(t, preparing.DecideLine(head, line.ID, "again"), school.ErrChanged)
	st = load(t, ctx)
	for _, r := range st.Replaced() {
		assert.False(t, r.Line.ID == line.ID && r.Line.Open())
	}
}

// Batches are counted, opened, moved and thrown away, each with who did it and why.
func TestTheStore(t *testing.T) {
	h := demotest.Enter(t)
	ctx := h.As("Tomas Finney")
	find := func(name string) store.Batch {
		st := load(t, ctx)
		at := slices.IndexFunc(st.Batches, func(b store.Batch) bool { return b.Name == name })
		require.GreaterOrEqual(t, at, 0, name)
		return st.Batches[at]
	}
	change := func(b store.Batch, c preparing.Change) error {
		c.Version = fmt.Sprint(b.Version)
		return preparing.ChangeBatch(ctx, b.ID, c)
	}
	require.NoError(t, preparing.AddGoods(ctx, preparing.Goods{What: "2 kg plain flour", UseBy: "2027-03-01", Price: "£1.90", Place: " top  shelf "}))
	b := find("plain flour")
	for _, x := range load(t, ctx).Batches {
		if x.Place == "top shelf" {
			b = x
		}
	}
	assert.Equal(t, []any{"top shelf", 190, "2 kg"}, []any{b.Place, b.Pence, b.Amount.String()})
	demotest.Says(t, change(b, preparing.Change{Do: "throw", Amount: "3 kg"}), "amount: There are only 2 kg of it", "why: Say why it is thrown away: out of date, spoiled, left over")
	demotest.Says(t, change(b, preparing.Change{Do: "count", Amount: "3 cups of eggs"}), "amount: “3 cups of eggs” is no amount in kg")
	require.NoError(t, change(b, preparing.Change{Do: "throw", Amount: "500 g", Why: "weevils"}))
	assert.ErrorIs(t, preparing.ChangeBatch(ctx, b.ID, preparing.Change{Version: fmt.Sprint(b.Version), Do: "open"}), school.ErrChanged)
	m, err := preparing.MoneyOf(h.Head())
	require.NoError(t, err)
	at := slices.IndexFunc(m.Thrown.Movements, func(m store.Movement) bool { return m.Why == "weevils" })
	require.GreaterOrEqual(t, at, 0)
	assert.Equal(t, []any{48, 500, "Tomas Finney"}, []any{m.Thrown.Movements[at].Pence, m.Thrown.Movements[at].Grams, m.Thrown.Movements[at].Who})

	// The list says that milk keeps for three days once it is open.
	milk := find("semi-skimmed milk")
	milk.UseBy = h.Today().AddDate(0, 0, 20)
	require.NoError(t, change(milk, preparing.Change{Do: "move", Place: "fridge 2", UseBy: milk.UseBy.Format(time.DateOnly)}))
	milk = find("semi-skimmed milk")
	assert.Equal(t, "fridge 2", milk.Place)
	require.NoError(t, preparing.AddGoods(ctx, preparing.Goods{What: "1 l semi-skimmed milk", UseBy: "2026-12-20"}))
	require.NoError(t, change(milk, preparing.Change{Do: "count", Amount: "0"}))
	assert.Equal(t, "1 l", find("semi-skimmed milk").Amount.String(), "what is used up is gone")

	demotest.Says(t, preparing.AddGoods(ctx, preparing.Goods{What: "flour", UseBy: "30 February", Price: "-1"}),
		"what: “flour” is no amount of something, such as “1.5 kg plain flour” or “6 eggs”", "use_by: “30 February” is not a date such as 2026-12-03.", "price: “-1” is no price such as 2.05")
}

// A count is shown before it is taken, all of it or nothing; it sets the book right, or comes on top.
func TestCountingTheStore(t *testing.T) {
	h := demotest.Enter(t)
	ctx := h.As("Tomas Finney")
	there := func(item string) (out []string) {
		for _, b := range load(t, ctx).Batches {
			if b.Item == item {
				out = append(out, strings.TrimSpace(fmt.Sprint(supply.Round(b.Amount), " ", b.Place)))
			}
		}
		return out
	}
	for _, what := range []string{"1.5 kg bulgur wheat", "1 kg polenta", "500 g polenta", "2 l coconut milk"} {
		require.NoError(t, preparing.AddGoods(ctx, preparing.Goods{What: what, Place: "Top shelf"}))
	}
	assert.Equal(t, []string{"1.5 kg Top shelf"}, there("bulgur"))

	rows, err := preparing.ReadCount(ctx, []byte("TOP SHELF\nbulgur wheat 900g\npolenta - 2kg (bb 3/27)\nno coconut milk\nbasil some\n2 tins chickpeas\n"))
	require.NoError(t, err)
	var in preparing.Count
	var seen []string
	for _, r := range rows {
		seen = append(seen, strings.Join([]string{r.What, r.Says, r.Guess, r.Has, r.Place, r.UseBy, r.Wrong}, "|"))
		in.What, in.Place, in.UseBy, in.Price = append(in.What, r.What), append(in.Place, r.Place), append(in.UseBy, r.UseBy), append(in.Price, r.Price)
	}
	assert.Equal(t, []string{
		"bulgur wheat 900g|900 g bulgur wheat||1.5 kg|Top shelf||",
		"2kg polenta|2 kg polenta||1 kg and 500 g|Top shelf|2027-03-31|",
		"no coconut milk|||2 l|Top shelf||",
		"basil some||||Top shelf||“basil some” does not say how much there is",
		"2 tins chickpeas|800 g chickpeas, tinned|a usual tin of 400 g||Top shelf||",
	}, seen)

	dated, err := preparing.ReadCount(ctx, []byte("Item,Amount,Unit,Use by\nsalt,1,kg,soon\n,3,kg,\n"))
	require.NoError(t, err)
	assert.Equal(t, []string{"soon", "“soon” is no date such as 2026-12-03"}, []string{dated[0].UseBy, dated[0].Wrong}, "a date that can't be read is not dropped")
	assert.NotEmpty(t, dated[1].Wrong, "nor is an amount of nothing")

	in.All = true
	n, wrong, err := preparing.TakeCount(ctx, in)
	require.NoError(t, err)
	assert.Equal(t, 0, n, "nothing is taken while a row is not clear")
	assert.Len(t, wrong, 5, "and no row is lost")
	in.What[3] = ""
	n, wrong, err = preparing.TakeCount(ctx, in)
	require.NoError(t, err)
	assert.Equal(t, 4, n)
	assert.Empty(t, wrong)
	assert.Equal(t, []string{"900 g Top shelf"}, there("bulgur"))
	assert.Equal(t, []string{"2 kg Top shelf"}, there("polenta"), "in place of both batches")
	assert.Empty(t, there("coconut-milk"))

	_, wrong, err = preparing.TakeCount(ctx, preparing.Count{What: []string{"300 g bulgur wheat"}, UseBy: []string{"soon"}, Price: []string{"-1"}})
	require.NoError(t, err)
	require.Len(t, wrong, 1)
	assert.Equal(t, "“soon” is no date such as 2026-12-03", wrong[0].Wrong)
	n, _, err = preparing.TakeCount(ctx, preparing.Count{What: []string{"300 g bulgur wheat"}, Place: []string{"top SHELF"}})
	require.NoError(t, err)
	assert.Equal(t, 1, n)
	assert.Equal(t, []string{"900 g Top shelf", "300 g Top shelf"}, there("bulgur"), "on top of what was there")
}

// What a lesson has used is booked from its plan once it is over, and once.
func TestBooking(t *testing.T) {
	h := demotest.Enter(t)
	ctx := h.As("Tomas Finney")
	scones := of(t, load(t, ctx), "7 Alder", "Herb scones")
	assert.ErrorContains(t, preparing.Book(ctx, scones.ID), "is not over yet")
	flour := func() (sum exact.Number) {
		for _, b := range load(t, ctx).Batches {
			if b.Item == "self-raising-flour" {
				g, _ := b.Amount.In(measure.Gram)
				sum = sum.Add(g.Amount)
			}
		}
		return sum
	}
	before := flour()
	h.At(demotest.Nine.Add(3 * time.Hour)) // the bell rang at ten past eleven
	require.NoError(t, preparing.Book(ctx, scones.ID))
	assert.ErrorIs(t, preparing.Book(ctx, scones.ID), school.ErrChanged)
	assert.Equal(t, "3150", before.Sub(flour()).Decimal(1))
	st := load(t, ctx)
	assert.Empty(t, need(st, h.Today(), "self-raising-flour"), "it is not needed any more")
	pence, _ := of(t, st, "7 Alder", "Herb scones").Costs()
	assert.Positive(t, pence)
}

// Ticks count once, whoever sends them how often, and the last that was made stands.
func TestTicks(t *testing.T) {
	h := demotest.Enter(t)
	ctx, other := h.As("Tomas Finney"), h.As("Bea Lindqvist")
	list := preparing.FetchList(h.Today())
	tick := func(line string, done bool, ago time.Duration) preparing.Ticked {
		return preparing.Ticked{List: list, Line: line, Done: done, Made: h.Now().Add(-ago), Press: uuid.NewString()}
	}
	stands := func(line string) (bool, string) {
		ticks, err := preparing.TicksOf(ctx, list)
		require.NoError(t, err)
		return ticks.Is(list, line), ticks.By(list, line)
	}
	first := tick("eggs", true, time.Minute)
	require.NoError(t, preparing.Tick(ctx, []preparing.Ticked{first, first}))
	require.NoError(t, preparing.Tick(ctx, []preparing.Ticked{first}))
	require.NoError(t, preparing.Tick(other, []preparing.Ticked{tick("eggs", false, 2*time.Minute)}), "it was made before, and arrives late")
	done, by := stands("eggs")
	assert.True(t, done)
	assert.Equal(t, "Tomas Finney", by)
	require.NoError(t, preparing.Tick(other, []preparing.Ticked{tick("eggs", false, 0)}))
	done, _ = stands("eggs")
	assert.False(t, done)
	ahead := tick("milk", true, -time.Hour)
	require.NoError(t, preparing.Tick(ctx, []preparing.Ticked{ahead}))
	require.NoError(t, preparing.Tick(ctx, []preparing.Ticked{tick("milk", false, -time.Hour)}), "a clock that is fast counts as now")
	done, _ = stands("milk")
	assert.False(t, done)

	demotest.Says(t, preparing.Tick(ctx, []preparing.Ticked{{List: "trays/99999", Line: "g1", Press: uuid.NewString()}, {List: list, Press: "1"}, {List: "moon/1", Line: "x", Press: uuid.NewString()}}),
		"ticks[0].list: the lesson of this list is gone", "ticks[1].press: it has no number of its own", "ticks[1].line: it names no line", "ticks[2].list: there is no list “moon/1”")

	// Somebody who looks hears of it, through the database.
	heard, stop := h.Watch(list)
	defer stop()
	require.Empty(t, <-heard, "the beginning")
	require.NoError(t, preparing.Tick(other, []preparing.Ticked{tick("butter", true, 0)}))
	select {
	case about := <-heard:
		assert.Equal(t, list, about)
	case <-time.After(10 * time.Second):
		t.Fatal("nothing was heard")
	}
}

// The day of the technician: her mornings, the jobs with their windows, and minutes
// of the school's own.
func TestTheDay(t *testing.T) {
	h := demotest.Enter(t)
	ctx := h.As("Tomas Finney")
	d, err := preparing.DayOf(ctx, h.Today(), 0)
	require.NoError(t, err)
	assert.Equal(t, "Tomas Finney", d.Who.Name)
	require.NotEmpty(t, d.Plan.Pieces)
	for _, p := range d.Plan.Pieces {
		assert.GreaterOrEqual(t, int(p.From), 9*60, "hours that are over are gone")
	}
	assert.Len(t, d.Done, 2)
	scones := of(t, load(t, ctx), "7 Alder", "Herb scones").ID
	job := fmt.Sprintf("%d trays", scones)
	demotest.Says(t, preparing.SetJob(ctx, scones, job, "0", "-1", false, false), "hands: Minutes of work: “0” is not a whole number from 1 to 1440.", "wait: Minutes of waiting: “-1” is not a whole number from 0 to 4320.")
	require.NoError(t, preparing.SetJob(ctx, scones, job, "90", "", false, false))
	d, err = preparing.DayOf(ctx, h.Today(), 0)
	require.NoError(t, err)
	late := d.Plan.Late[slices.IndexFunc(d.Plan.Late, func(l prepare.Late) bool { return d.Plan.Jobs[l.Job].ID == job })]
	assert.Equal(t, 25, late.Minutes, "90 minutes from nine are 25 after five past ten")
	assert.Empty(t, late.Ways, "nobody’s free time begins before now")
	require.NoError(t, preparing.SetJob(ctx, scones, job, "", "", false, true))
	assert.ErrorIs(t, preparing.SetJob(ctx, scones, "999 trays", "5", "", false, false), school.ErrNotFound)

	demotest.Says(t, preparing.SetHours(h.Head(), d.Who.ID, [7]string{"8-12:30", "12-8", "early", "8:00-9:00, 8:30-10", ""}),
		"day-1: “12-8” is no time such as 8:00-12:30", "day-2: “early” is no time such as 8:00-12:30", "day-3: “8:00-9:00, 8:30-10” is no time such as 8:00-12:30")
	require.NoError(t, preparing.SetHours(h.Head(), d.Who.ID, [7]string{0: "8-12.30, 13:00–14:00"}))
	people, err := preparing.Workers(ctx)
	require.NoError(t, err)
	require.Len(t, people[0].Hours, 2)
	assert.Equal(t, "13:00-14:00", preparing.SpanSays(people[0].Hours[1]))
	assert.ErrorIs(t, preparing.SetHours(h.Head(), 99_999, [7]string{}), school.ErrNotFound)
}

// What learners bring is not bought, stands on the letter, and is nobody else's to
// see.
func TestFromHome(t *testing.T) {
	h := demotest.Enter(t)
	ctx := h.Head()
	l := of(t, load(t, ctx), "7 Alder", "Herb scones")
	form := preparing.HomeForm{Version: fmt.Sprint(l.Home.Version), Lines: []string{"0.0"}, Not: []string{fmt.Sprint(l.Class.Roster[0].ID)}, Container: "a box", Asks: "0.80", Note: "Bring an apron."}
	assert.ErrorIs(t, preparing.SetHome(h.As("Nell Carver"), l.ID, form), school.ErrNotYours)
	require.NoError(t, preparing.SetHome(ctx, l.ID, form))
	assert.ErrorIs(t, preparing.SetHome(ctx, l.ID, form), school.ErrChanged)
	l, err := preparing.Own(ctx, l.ID)
	require.NoError(t, err)
	for _, b := range l.Bringers() {
		assert.Equal(t, b.Not, len(b.Brings) == 0 && b.ID == l.Class.Roster[0].ID || b.Not, b.Name())
		for _, x := range b.Brings {
			assert.Regexp(t, "flour$", x, "the swap of a bench too")
		}
	}
	// The school still gives half of one bench's, the demonstration's and the spare's.
	flour := need(load(t, ctx), h.Today(), "self-raising-flour")
	assert.Equal(t, "563 g self-raising flour", flour)
	letter, err := preparing.LetterOf(ctx, l)
	require.NoError(t, err)
	for _, says := range []string{"Herb scones", "80p", "a box", "Bring an apron.", "milk"} {
		assert.Contains(t, letter.Text(), says)
	}
	for _, p := range l.Class.Roster {
		assert.NotContains(t, letter.Text(), p.Name())
	}
	form.Version, form.Asks, form.Note = fmt.Sprint(l.Home.Version), "free", strings.Repeat("x", 501)
	demotest.Says(t, preparing.SetHome(ctx, l.ID, form), "note: The note has over 500 letters", "asks: “free” is no price such as 2.05")
	form.Lines = []string{"0.99"}
	assert.ErrorIs(t, preparing.SetHome(ctx, l.ID, form), school.ErrNotFound)
}

// A price list of ten thousand lines, twelve of them faulty: those are named, the
// rest is taken, and the list can be brought in again.
func TestPriceLists(t *testing.T) {
	h := demotest.Enter(t)
	ctx := h.As("Tomas Finney")
	id, err := preparing.SaveSupplier(ctx, 0, preparing.SupplierForm{Name: "Hilltop Wholesale", Days: []string{"1"}, Lead: "2", Least: "20", Charge: "4.50"})
	require.NoError(t, err)
	var b strings.Builder
	b.WriteString("Code,Product,Pack,Price\n")
	for n := range 1_200 {
		price := "1.25"
		if n%900 == 0 {
			price = "0"
		}
		fmt.Fprintf(&b, "H%d,Plain flour no. %d,1 kg,%s\n", n, n, price)
	}
	v, err := preparing.ReadPrices(ctx, id, []byte(b.String()))
	require.NoError(t, err)
	assert.Equal(t, map[string]int{"new": 1198, "faulty": 2, "gone": 0}, v.Count)
	_, err = preparing.TakePrices(ctx, id, v.Text, false)
	require.NoError(t, err)
	v, err = preparing.ReadPrices(ctx, id, []byte("Code,Product,Pack,Price\nH1,Plain flour no. 1,1 kg,1.30\nH2,Plain flour no. 2,2 kg,1.25\nH3,Plain flour no. 3,1 kg,1.25\n=cmd,Salt,1 kg,0.65\n"))
	require.NoError(t, err)
	assert.Equal(t, map[string]int{"price": 1, "other": 1, "same": 1, "new": 1, "gone": 1195}, v.Count)
	_, err = preparing.TakePrices(ctx, id, v.Text, true)
	require.NoError(t, err)
	all, err := h.Products(ctx)
	require.NoError(t, err)
	all = slices.DeleteFunc(all, func(p supply.Product) bool { return p.Supplier != id })
	require.Len(t, all, 4)
	assert.Contains(t, all[3].Code+all[0].Code+all[1].Code+all[2].Code, "=cmd", "a formula stays text both ways")

	demotest.Says(t, preparing.SayItem(ctx, all[0].ID, "moon dust"), "item: The pantry has no “moon dust”. Write it as it stands there, or add it first")
	require.NoError(t, preparing.SayItem(ctx, all[0].ID, "plain flour"))
	assert.ErrorIs(t, preparing.SayItem(ctx, 999_999, "salt"), school.ErrNotFound)
	_, err = preparing.ReadPrices(ctx, 99, []byte("x"))
	demotest.Says(t, err, "supplier: Choose whose list it is.")
	_, err = preparing.SaveSupplier(ctx, 0, preparing.SupplierForm{Name: "hilltop wholesale", Lead: "99", Least: "x"})
	demotest.Says(t, err, "name: Hilltop Wholesale is there already", "lead: Days from ordering to delivery: “99” is not a whole number from 0 to 60.", "least: “x” is no price such as 2.05", "days: Say on which days they deliver")
	_, err = preparing.SaveSupplier(ctx, id, preparing.SupplierForm{Version: "7", Name: "Hilltop", Days: []string{"1"}})
	assert.ErrorIs(t, err, school.ErrChanged)
}

func TestTheGardenAndTheMoney(t *testing.T) {
	h := demotest.Enter(t)
	ctx := h.Head()
	demotest.Says(t, preparing.SaveBed(ctx, preparing.BedForm{What: "kale", First: "2026-12-01", Last: "x"}), "name: Give the bed a name.", "what: “kale” is no amount of something in the pantry, such as “2 kg kale”", "last: “x” is not a date such as 2026-12-18.")
	require.NoError(t, preparing.SaveBed(ctx, preparing.BedForm{Name: "by the gate", What: "2 kg carrots", First: "2026-11-20", Last: "2026-12-20"}))
	st := load(t, ctx)
	bed := st.Beds[slices.IndexFunc(st.Beds, func(b store.Bed) bool { return b.Name == "by the gate" })]
	require.NoError(t, preparing.RemoveBed(ctx, bed.ID))
	assert.ErrorIs(t, preparing.RemoveBed(ctx, bed.ID), school.ErrNotFound)

	alder := h.ClassOf("7 Alder")
	learner := fmt.Sprint(alder.Roster[0].ID)
	assert.ErrorIs(t, preparing.Receive(h.As("Nell Carver"), alder.ID, learner, "1"), school.ErrNotYours)
	demotest.Says(t, preparing.Receive(ctx, alder.ID, learner, "0"), "pounds: Say how much came in")
	require.NoError(t, preparing.Receive(ctx, alder.ID, learner, "1.20"))
	require.NoError(t, preparing.Receive(ctx, alder.ID, learner, "-0.20"))
	_, list, err := preparing.Payings(ctx, alder.ID, h.Today())
	require.NoError(t, err)
	assert.Equal(t, 100, list[0].Received)
	require.NoError(t, preparing.SetLimits(ctx, "1.10", ""))
	m, err := preparing.MoneyOf(ctx)
	require.NoError(t, err)
	assert.Equal(t, []int{110, 0}, []int{m.Limit, m.TermLimit})
	demotest.Says(t, preparing.SetLimits(ctx, "lots", "x"), "lesson: “lots” is no price such as 2.05", "term: “x” is no price such as 2.05")
	demotest.Says(t, preparing.SetPlaces(ctx, "fridge\nfreezer", "blenders; none"), "shared: blenders: “none” is not a whole number from 1 to 10000.")
	require.NoError(t, preparing.SetPlaces(ctx, "fridge\nfreezer", "blenders; 2"))
}

// The takes of a lesson add up to what its plan says that the class needs.
func TestTakesAreTheNeeds(t *testing.T) {
	h := demotest.Enter(t)
	for _, l := range load(t, h.Head()).Lessons {
		for n, needs := range l.Needs {
			for i, need := range needs {
				in := l.Menu[n].Dish.Ingredients[i]
				sum := exact.Number{}
				for _, x := range l.Takes {
					if x.Course == n && x.Line.Line() == in.Line() && x.Line.Name == in.Name && x.For == "" {
						sum = sum.Add(x.Amount.Amount)
					}
				}
				if in.Given() && need.Total.Unit.ID == in.Unit.ID && slices.IndexFunc(l.Menu[n].Dish.Ingredients, func(o recipe.Ingredient) bool { return o.Line() == in.Line() }) == i {
					assert.Equal(t, need.Total.Amount, sum, "%s, %s", l.Says(), in.Line())
				}
			}
		}
	}
}
