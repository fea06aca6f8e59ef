package classes_test

import (
	"bytes"
	"compress/gzip"
	"context"
	"encoding/json"
	"fmt"
	"io"
	"strings"
	"testing"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"freshapron/internal/app/care"
	"freshapron/internal/app/classes"
	"freshapron/internal/app/school"
	"freshapron/internal/core/class"
	"freshapron/internal/core/skills"
	"freshapron/internal/demo/demotest"
	"freshapron/internal/store"
)

// everything is all that is in the database, as text.
func everything(t *testing.T, h demotest.House) string {
	t.Helper()
	var b bytes.Buffer
	require.NoError(t, h.Site.Store.Backup(context.Background(), &b, ""))
	z, err := gzip.NewReader(&b)
	require.NoError(t, err)
	text, err := io.ReadAll(z)
	require.NoError(t, err)
	return string(text)
}

// A learner who is removed is nowhere any more, by name or by need: not in sheets that
// were signed, in older versions, in rules, lists, notes or the trail. Others stay as they
// were.
func TestForgetting(t *testing.T) {
	h := demotest.Enter(t)
	ctx := h.Head()
	c := h.ClassOf("7 Alder")
	form := classes.LearnerForm{Given: "Quintessa", Family: "Vandermolen", Allergies: "milk", Notes: "Quintessa Vandermolen sits by the window"}
	require.NoError(t, classes.SaveLearner(ctx, c.ID, 0, form))
	find := func() class.Learner {
		for _, l := range h.ClassOf("7 Alder").Roster {
			if l.Given == "Quintessa" {
				return l
			}
		}
		return class.Learner{}
	}
	who := find()
	require.NotZero(t, who.ID)
	other := c.Roster[3]
	const name = "Quintessa Vandermolen"
	require.NoError(t, classes.AddRule(ctx, c.ID, classes.RuleForm{Kind: "together", Learners: []string{fmt.Sprint(who.ID), fmt.Sprint(other.ID)}}))
	require.NoError(t, h.KeepList(ctx, store.List{ID: uuid.NewString(), Account: school.Acting(ctx).ID, Class: c.ID, Cells: [][]string{{"name"}, {name}}, Columns: []string{"name"}, At: h.Now()}))
	require.NoError(t, h.AddEvidence(ctx, uuid.NewString(), []skills.Evidence{{Skill: "dice", At: h.Now(), How: skills.Seen, Level: skills.Can, By: "Kit"}}, who.ID))
	require.NoError(t, h.AddRecords(ctx, store.AboutReview(1), store.Record{Press: "a", At: h.Now(), Who: "Kit", Learner: who.ID, Doc: json.RawMessage(`{"says": "well done"}`)}, store.Record{Press: "b", At: h.Now(), Who: "Kit", Doc: json.RawMessage(`{"says": "` + name + ` helped"}`)}))
	l, err := h.Lesson(ctx, 1)
	require.NoError(t, err)
	require.NoError(t, care.SwapAll(ctx, 1, fmt.Sprint(l.Version)))
	sheet, err := care.For(ctx, 1)
	require.NoError(t, err)
	seen, err := care.SheetOf(ctx, sheet)
	require.NoError(t, err)
	require.NoError(t, care.SignSheet(ctx, sheet, seen.Seen()))
	before := everything(t, h)
	assert.Greater(t, strings.Count(before, "Quintessa"), 4)
	about, err := classes.About(ctx, c.ID, who.ID)
	require.NoError(t, err)
	assert.Contains(t, string(about), "sits by the window")
	assert.Contains(t, string(about), "well done")
	assert.NotContains(t, string(about), other.Family, "and of nobody else")
	_, err = classes.About(h.As("Nell Carver"), c.ID, who.ID)
	assert.ErrorIs(t, err, school.ErrNotYours)

	require.NoError(t, classes.RemoveLearner(ctx, c.ID, who.ID))
	after := everything(t, h)
	assert.NotContains(t, after, "Quintessa")
	assert.NotContains(t, after, "Vandermolen")
	assert.NotContains(t, after, fmt.Sprintf(`"learner": %d`, who.ID), "no need, and no place, of a lesson as it was")
	assert.Contains(t, h.LastNote().Says, fmt.Sprintf("learner %d left 7 Alder", who.ID))
	assert.Contains(t, after, store.Left(who.ID)+" helped", "what was written of others stays")
	for _, o := range c.Roster {
		assert.Equal(t, strings.Count(before, "\t"+o.Given+"\t"+o.Family+"\t"), strings.Count(after, "\t"+o.Given+"\t"+o.Family+"\t"), o.Name())
	}
	assert.ErrorIs(t, classes.RemoveLearner(ctx, c.ID, who.ID), school.ErrNotFound)
	_, err = classes.About(ctx, c.ID, who.ID)
	assert.ErrorIs(t, err, school.ErrNotFound)
}

// A list goes with a learner whom it names, in one cell or in two; one that only has the
// same letters in it, or names a sister, stays, and so does every list where the learner
// has one name alone.
func TestForgettingKeepsTheListsOfOthers(t *testing.T) {
	h := demotest.Enter(t)
	ctx := h.Head()
	c := h.ClassOf("7 Alder")
	keep := func(cells ...string) string {
		id := uuid.NewString()
		require.NoError(t, h.KeepList(ctx, store.List{ID: id, Account: school.Acting(ctx).ID, Cells: [][]string{{"name", "family"}, cells}, Columns: []string{"given", "family"}, At: h.Now()}))
		return id
	}
	gone := []string{keep("Ann Ö. Lee"), keep("Lee", "Ann")}
	stays := []string{keep("Anna", "Leek"), keep("Bo", "Lee"), keep("Joann Lee"), keep("Leeann")}
	for _, form := range []classes.LearnerForm{{Given: "Ann", Family: "Lee"}, {Given: "Bo"}, {Given: "Mary Ann", Family: "Lee"}, {Given: "Ida", Family: "Lee (Jr.)"}, {Given: "Ann", Family: "Lee Park"}, {Given: "Jo Ann", Family: "Lee Ward"}} {
		require.NoError(t, classes.SaveLearner(ctx, c.ID, 0, form))
	}
	require.NoError(t, h.AddRecords(ctx, store.AboutReview(1), store.Record{Press: "a", At: h.Now(), Who: "Kit", Doc: json.RawMessage(`{"says": "Ann Lee, Mary Ann Lee, Ann Lee Park, Jo Ann Lee Ward, Ida Lee (Jr.) and Joann Lee"}`)}))
	remove := func(name string) {
		for _, l := range h.ClassOf("7 Alder").Roster {
			if l.Name() == name {
				require.NoError(t, classes.RemoveLearner(ctx, c.ID, l.ID))
			}
		}
	}
	there := func(id string) bool {
		_, err := h.List(ctx, id, school.Acting(ctx).ID)
		return err == nil
	}
	remove("Bo")
	for _, id := range append(gone, stays...) {
		assert.True(t, there(id), "Bo has no family name")
	}
	remove("Ann Lee")
	for _, id := range gone {
		assert.False(t, there(id))
	}
	for n, id := range stays {
		assert.True(t, there(id), n)
	}
	assert.Regexp(t, `"learner \d+, Mary Ann Lee, Ann Lee Park, Jo Ann Lee Ward, Ida Lee \(Jr\.\) and Joann Lee"`, everything(t, h))
	remove("Ida Lee (Jr.)")
	assert.Regexp(t, `"learner \d+, Mary Ann Lee, Ann Lee Park, Jo Ann Lee Ward, learner \d+ and Joann Lee"`, everything(t, h))
}

// What its day has ended of goes by itself.
func TestSweeping(t *testing.T) {
	h := demotest.Enter(t)
	ctx := h.Head()
	require.NoError(t, h.KeepList(ctx, store.List{ID: uuid.NewString(), Account: school.Acting(ctx).ID, Cells: [][]string{{"Zebedee"}}, Columns: []string{"name"}, At: h.Now()}))
	require.NoError(t, h.Sweep(ctx, h.Now()))
	assert.Contains(t, everything(t, h), "Zebedee")
	require.NoError(t, h.Sweep(ctx, h.Now().AddDate(0, 0, 2)))
	assert.NotContains(t, everything(t, h), "Zebedee")
}
