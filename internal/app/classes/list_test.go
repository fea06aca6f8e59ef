package classes_test

import (
	"context"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"freshapron/internal/app/classes"
	"freshapron/internal/app/school"
	"freshapron/internal/core/class"
	"freshapron/internal/demo/demotest"
)

// bring brings a list in as it stands.
func bring(t *testing.T, ctx context.Context, list string, class int64) (classes.Preview, error) {
	t.Helper()
	id, err := classes.BringList(ctx, []byte(list), class)
	require.NoError(t, err)
	return classes.TakeList(ctx, id, func(int, int) {})
}

// A list changes what it has columns for, and nothing else of anybody.
func TestListsChangeTheirColumns(t *testing.T) {
	h := demotest.Enter(t)
	ctx := h.As("Maren Holt")
	p, err := bring(t, ctx, "Class,Number,Given name,Family name,Birthday,Level,Allergies,Notes\n9 Elm,7,Ada,Lomax,2012-05-04,sure,milk (contact),by the window\n9 Elm,8,Bo,Pell,,,,\n", 0)
	require.NoError(t, err)
	assert.Equal(t, 2, p.Added)
	elm := h.ClassOf("9 Elm")
	accounts, err := h.School.Accounts(ctx)
	require.NoError(t, err)
	var all []string
	for _, a := range accounts {
		all = append(all, demotest.ID(a.ID))
	}
	require.NoError(t, classes.SetStaff(ctx, elm.ID, all))
	ada := func() class.Learner {
		v, err := classes.One(ctx, elm.ID)
		require.NoError(t, err)
		for _, l := range v.Roster {
			if l.Code == "7" {
				return l
			}
		}
		t.Fatal("number 7 is gone")
		return class.Learner{}
	}
	before := ada()
	for _, c := range []struct {
		list string
		want func(*class.Learner)
		does func(classes.Preview) int
	}{
		{"Number,Given name\n7,Adela\n", func(l *class.Learner) { l.Given = "Adela" }, func(p classes.Preview) int { return p.Changed }},
		{"Number,Family name\n7,Lomax-Pell\n", func(l *class.Learner) { l.Family = "Lomax-Pell" }, func(p classes.Preview) int { return p.Changed }},
		{"Number,Name,Level\n7,\"Lomax, Ada\",practised\n", func(l *class.Learner) { l.Given, l.Family, l.Level = "Ada", "Lomax", class.Practised }, func(p classes.Preview) int { return p.Changed }},
		{"Number,Name,Diet\n7,Ada Lomax,vegan\n", func(l *class.Learner) { l.Needs = append(l.Needs, class.Need{Kind: class.Diet, What: "vegan"}) }, func(p classes.Preview) int { return p.Changed }},
		{"Number,Name,Allergies\n7,Ada Lomax,none\n", func(l *class.Learner) { l.Needs = l.Needs[1:] }, func(p classes.Preview) int { return p.Changed }},
		{"Name,Birthday\nada lomax,04/05/2012\n", func(l *class.Learner) { l.Given, l.Family = "ada", "lomax" }, func(p classes.Preview) int { return p.Changed }},
		{"Number,Name\n7,ada lomax\n", func(*class.Learner) {}, func(p classes.Preview) int { return p.Same }},
	} {
		p, err := bring(t, ctx, c.list, elm.ID)
		require.NoError(t, err, c.list)
		assert.Equal(t, 1, c.does(p), c.list)
		c.want(&before)
		got := ada()
		assert.ElementsMatch(t, before.Needs, got.Needs, c.list)
		before.Needs, got.Needs = got.Needs, nil
		want := before
		want.Needs = nil
		assert.Equal(t, want, got, c.list)
	}
	// Bo had no birthday: one is added, and the number stays. Another Bo is
	// somebody else.
	p, err = bring(t, ctx, "Name,Birthday\nBo Pell,2012-09-01\n", elm.ID)
	require.NoError(t, err)
	assert.Equal(t, 1, p.Changed)
	p, err = bring(t, ctx, "Number,Name,Birthday\n9,Bo Pell,2012-09-01\n", elm.ID)
	require.NoError(t, err)
	assert.Equal(t, 1, p.Added)
	roster := h.ClassOf("9 Elm").Roster
	assert.Len(t, roster, 3)
}

// Where one row is faulty no row is taken; it can be mended in the list, by
// whoever brought it and by nobody else.
func TestFaultyListsAreMended(t *testing.T) {
	h := demotest.Enter(t)
	ctx := h.As("Idris Bell")
	list, err := classes.BringList(ctx, []byte("First,Last,Born\nAda,Lomax,2012-05-04\nBo,,sometime\n,,2012-01-01\n"), h.ClassOf("8 Hazel").ID)
	require.NoError(t, err)
	require.NoError(t, classes.MendList(ctx, list, []string{"given", "family", "born"}, h.ClassOf("8 Hazel").ID, nil))
	p, err := classes.Look(ctx, list)
	require.NoError(t, err)
	require.Equal(t, 2, p.Faulty)
	_, err = classes.TakeList(ctx, list, func(int, int) {})
	demotest.Says(t, err, "list: 2 rows can’t be taken as they stand.")
	assert.Len(t, h.ClassOf("8 Hazel").Roster, 24)
	_, err = classes.Look(h.As("Maren Holt"), list)
	assert.ErrorIs(t, err, school.ErrNotFound, "a list is whose it is")

	require.NoError(t, classes.MendList(ctx, list, []string{"given", "family", "nonsense"}, h.ClassOf("8 Hazel").ID, map[[2]int]string{{3, 2}: "", {4, 0}: " Cy ", {99, 0}: "x", {0, -1}: "x"}))
	p, err = classes.Look(ctx, list)
	require.NoError(t, err)
	require.Zero(t, p.Faulty, "%v", p.Rows)
	steps := 0
	p, err = classes.TakeList(ctx, list, func(n, of int) { steps++; assert.LessOrEqual(t, n, of) })
	require.NoError(t, err)
	assert.Equal(t, 3, p.Added)
	assert.Positive(t, steps)
	assert.Len(t, h.ClassOf("8 Hazel").Roster, 27)
	_, err = classes.Look(ctx, list)
	assert.ErrorIs(t, err, school.ErrNotFound, "it is forgotten once it is taken")
	for _, l := range h.ClassOf("8 Hazel").Roster {
		if l.Name() == "Ada Lomax" {
			assert.Equal(t, time.Date(2012, 5, 4, 0, 0, 0, 0, time.UTC), l.Born)
		}
	}
	_, err = classes.BringList(h.As("Nell Carver"), []byte("Dee"), h.ClassOf("8 Hazel").ID)
	assert.ErrorIs(t, err, school.ErrNotYours)
	_, err = classes.BringList(ctx, []byte("\x89PNG\r\n\x1a\n"), 0)
	demotest.Says(t, err, "list: This is a picture, not a table: save the list as CSV or XLSX, or paste it.")
}
