package train_test

import (
	"context"
	"fmt"
	"slices"
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"freshapron/internal/app/lessons"
	"freshapron/internal/app/school"
	"freshapron/internal/app/train"
	"freshapron/internal/core/class"
	"freshapron/internal/core/lesson"
	"freshapron/internal/core/skills"
	core "freshapron/internal/core/train"
	"freshapron/internal/demo/demotest"
	"freshapron/internal/store"
)

const scones, tartlets = 1, 2

// set sets a practice for the class of the scones.
func set(t *testing.T, h demotest.House) store.Practice {
	t.Helper()
	v, err := lessons.One(h.Head(), scones)
	require.NoError(t, err)
	p, err := train.Set(h.Head(), v.Class.ID, scones)
	require.NoError(t, err)
	return p
}

// What is practised is what the lesson measures out, cuts and bakes, and it is practised
// until a week after it.
func TestSettingAPractice(t *testing.T) {
	h := demotest.Enter(t)
	v, err := lessons.One(h.Head(), scones)
	require.NoError(t, err)
	p := set(t, h)
	assert.Regexp(t, `^[a-z0-9]{8}$`, p.Code)
	assert.Equal(t, v.Core.Titles(), p.Title)
	assert.True(t, p.Until.After(v.Date.AddDate(0, 0, 7)))
	_, err = train.Set(h.Head(), v.Class.ID, tartlets)
	assert.ErrorContains(t, err, "of another class")
	h.At(h.Now().AddDate(0, 1, 0))
	late := set(t, h)
	assert.True(t, late.Until.Equal(h.Now().AddDate(0, 0, 8)), "a lesson that is over can be practised, too")
	assert.NotEqual(t, p.Code, late.Code)

	ctx, in, names, err := train.Come(context.Background(), h.Site, late.Code)
	require.NoError(t, err)
	assert.Equal(t, late.ID, in.ID)
	assert.Len(t, names, v.Class.Learners)
	seen := map[string]bool{}
	for _, n := range names {
		assert.False(t, seen[n.Says], "two are called %s", n.Says)
		seen[n.Says] = true
	}
	token, err := train.Choose(ctx, in, train.Choice{Left: true})
	require.NoError(t, err)
	_, s, err := train.Enter(context.Background(), h.Site, token)
	require.NoError(t, err)
	assert.True(t, s.Left)
	assert.Equal(t, v.Period.End, s.Source.Bell)
	named := map[string]bool{}
	for _, a := range s.Source.Amounts {
		named[a.Name] = true
		assert.Positive(t, a.Amount.Sign())
	}
	for _, i := range v.Core.Menu[0].Recipe.Ingredients[:2] {
		assert.True(t, named[i.Name], i.Name)
	}
	assert.NotEmpty(t, s.Source.Ovens)
	assert.NotEmpty(t, s.Source.Waits)
	_, _, err = train.Enter(context.Background(), h.Site, "bcdf")
	assert.ErrorIs(t, err, train.ErrShut)
	_, _, _, err = train.Come(context.Background(), h.Site, "nobody")
	assert.ErrorIs(t, err, train.ErrShut)
}

// A class sees how far it is by what was tried in this practice, at whatever device; of
// one who is sure it is known that they begin.
func TestHowFarAClassIs(t *testing.T) {
	h := demotest.Enter(t)
	p := set(t, h)
	ctx, _, names, err := train.Come(context.Background(), h.Site, p.Code)
	require.NoError(t, err)
	enter := func(learner int64, again bool) *train.Session {
		t.Helper()
		token, err := train.Choose(ctx, p, train.Choice{Learner: learner, Picture: "leek", Again: again})
		require.NoError(t, err)
		_, s, err := train.Enter(context.Background(), h.Site, token)
		require.NoError(t, err)
		return s
	}
	try := func(s *train.Session, template string, right ...bool) {
		t.Helper()
		for i, r := range right {
			_, s, err := train.Enter(context.Background(), h.Site, s.Token)
			require.NoError(t, err)
			it, ok := s.Item(template, i)
			require.True(t, ok)
			require.NoError(t, train.Try(ctx, s, it, uuid.NewString(), core.Verdict{Right: r}))
		}
	}
	evidence := func(learner int64) int {
		t.Helper()
		known, err := h.Evidence(ctx, p.Class)
		require.NoError(t, err)
		return len(known[learner])
	}
	var fresh []school.Learner
	for _, n := range names {
		mark, err := h.Mark(ctx, n.ID)
		require.NoError(t, err)
		if mark == "" {
			fresh = append(fresh, n)
		}
	}
	first, second := fresh[0], fresh[1]
	before := evidence(first.ID)
	s := enter(first.ID, false)
	try(s, "scale", true)
	assert.Equal(t, before, evidence(first.ID), "once is luck")
	try(s, "scale", true, true, true, true, true, true)
	assert.Greater(t, evidence(first.ID), before)
	assert.Contains(t, known(t, h, ctx, p.Class, first.ID), "scale-read")
	other := enter(first.ID, true)
	assert.Len(t, other.Tries, 7, "what was tried at another device")
	try(other, "time", false, false, false)
	try(enter(second.ID, false), "time", true, false)
	guest := enter(0, false)
	try(guest, "ratio", false)

	r, err := train.ReportOf(ctx, p)
	require.NoError(t, err)
	assert.Equal(t, 1, r.Finished, "ten tries are enough")
	assert.Equal(t, 1, r.Others)
	rows := map[int64]train.Row{}
	for _, row := range r.Rows {
		rows[row.ID] = row
	}
	assert.Len(t, r.Rows, len(names))
	assert.Equal(t, train.Row{Name: first.Says, ID: first.ID, Tries: 10, Right: 7, Stuck: "time"}, rows[first.ID])
	assert.Equal(t, train.Row{Name: second.Says, ID: second.ID, Tries: 2, Right: 1}, rows[second.ID])
	assert.Equal(t, []core.Hard{{Template: "ratio", Wrong: 1, Tries: 1}, {Template: "time", Wrong: 4, Tries: 5}}, r.Hardest)
	assert.Equal(t, fmt.Sprint(p.ID), fmt.Sprint(r.ID))
}

func known(t *testing.T, h demotest.House, ctx context.Context, class, learner int64) []string {
	t.Helper()
	all, err := h.Evidence(ctx, class)
	require.NoError(t, err)
	var out []string
	for _, e := range all[learner] {
		out = append(out, e.Skill)
	}
	return out
}

// A name can be used by one who knows its picture, and at one device at a time.
func TestChoosingAName(t *testing.T) {
	h := demotest.Enter(t)
	p := set(t, h)
	ctx, _, names, err := train.Come(context.Background(), h.Site, p.Code)
	require.NoError(t, err)
	who := names[0].ID
	require.NoError(t, train.Forget(h.Head(), p.Class, who))
	_, err = train.Choose(ctx, p, train.Choice{Learner: who, Picture: "leek"})
	require.NoError(t, err)
	for says, c := range map[string]struct {
		learner int64
		picture string
	}{"Choose your name": {-4, "leek"}, "Choose your picture": {who, "rocket"}, "not the picture": {who, "pan"}, "Somebody is using this name now": {who, "leek"}} {
		_, err := train.Choose(ctx, p, train.Choice{Learner: c.learner, Picture: c.picture})
		assert.ErrorContains(t, err, says)
	}
	_, err = train.Choose(ctx, p, train.Choice{Learner: who, Picture: "pan", Again: true})
	assert.ErrorContains(t, err, "not the picture", "who says that it is they has to know it, too")
	h.At(h.Now().Add(3 * time.Minute))
	_, err = train.Choose(ctx, p, train.Choice{Learner: who, Picture: "leek"})
	assert.NoError(t, err, "who has not tried for three minutes has gone")
	require.NoError(t, train.Forget(h.Head(), p.Class, who))
	_, err = train.Choose(ctx, p, train.Choice{Learner: who, Picture: "pan", Again: true})
	assert.NoError(t, err, "their teacher lets them choose anew")
	assert.ErrorIs(t, train.Forget(h.Head(), p.Class, -4), school.ErrNotFound)
	assert.ErrorIs(t, train.End(h.Head(), p.Class, -4), school.ErrNotFound)
}

// What an adult has seen counts for the lesson's readiness.
func TestReadyForALesson(t *testing.T) {
	h := demotest.Enter(t)
	v, err := lessons.One(h.Head(), tartlets)
	require.NoError(t, err)
	r, err := train.Ready(h.Head(), v)
	require.NoError(t, err)
	require.NotEmpty(t, r.Lacking)
	lacks := r.Lacking[0]
	require.NotEmpty(t, lacks.Who)
	assert.Len(t, r.Names, v.Class.Learners)
	_, in, names, err := train.Come(context.Background(), h.Site, func() string {
		p, err := train.Set(h.Head(), v.Class.ID, tartlets)
		require.NoError(t, err)
		return p.Code
	}())
	require.NoError(t, err)
	who := names[lacks.Who[0]]
	require.NoError(t, train.See(h.Head(), in.Class, who.ID, lacks.Skill.ID, skills.Seen, "2", uuid.NewString()))
	after, err := train.Ready(h.Head(), v)
	require.NoError(t, err)
	still := 0
	for _, l := range after.Lacking {
		if l.Skill.ID == lacks.Skill.ID {
			still = len(l.Who)
			assert.NotContains(t, l.Who, lacks.Who[0])
		}
	}
	assert.Equal(t, len(lacks.Who)-1, still)
	person, err := train.Learner(h.Head(), in.Class, who.ID)
	require.NoError(t, err)
	assert.Equal(t, who.Says, person.Given)
	for i, s := range skills.Shipped.Skills {
		if s.ID == lacks.Skill.ID {
			assert.Equal(t, skills.Can, person.Standings[i].Level)
			assert.Equal(t, "Maren Holt", person.Standings[i].Best.By)
		}
	}
}

// At a bench it is said who can show what a step asks for, or what else does it, and
// never who lacks it.
func TestHelpAtABench(t *testing.T) {
	h := demotest.Enter(t)
	v, err := lessons.One(h.Head(), tartlets)
	require.NoError(t, err)
	b := v.Benches[0]
	require.GreaterOrEqual(t, len(b.Members), 2)
	const slice = "Slice the leeks"
	help := func(words string) []string {
		t.Helper()
		out, err := train.Help(h.Head(), v, b.ID, words)
		require.NoError(t, err)
		return out
	}
	for _, line := range help(slice) {
		for _, m := range b.Members {
			assert.NotContains(t, line, m.Family)
		}
	}
	c, err := h.Class(h.Head(), v.Class.ID)
	require.NoError(t, err)
	first, second := b.Members[0], b.Members[1]
	require.NoError(t, train.See(h.Head(), c.ID, first.ID, "slices", skills.Seen, "3", uuid.NewString()))
	evidence, err := h.Evidence(h.Head(), c.ID)
	require.NoError(t, err)
	lacks := func(id int64) bool { return skills.Of(evidence[id], "slices", h.Now()).Level == 0 }
	require.True(t, lacks(second.ID), "the demonstration has somebody who does not slice yet")
	assert.Contains(t, help(slice), "Even slices: "+first.Given+" can show it.")
	for _, m := range b.Members {
		require.NoError(t, train.See(h.Head(), c.ID, m.ID, "slices", skills.Seen, "2", uuid.NewString()))
	}
	for _, line := range help(slice) {
		assert.NotContains(t, line, "Even slices", "all of them can")
	}
	other := v.Benches[slices.IndexFunc(v.Benches, func(o lesson.Bench) bool {
		return o.ID != b.ID && !slices.ContainsFunc(o.Members, func(m class.Learner) bool { return !lacks(m.ID) })
	})]
	out, err := train.Help(h.Head(), v, other.ID, slice)
	require.NoError(t, err)
	assert.Contains(t, out, "Even slices: it can be done with scissors, too.")
	out, err = train.Help(h.Head(), v, "nowhere", slice)
	assert.NoError(t, err)
	assert.Empty(t, out)
	assert.Empty(t, help("Hum"))
}
