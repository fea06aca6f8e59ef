package store_test

import (
	"sync"
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"freshapron/internal/core/pantry"
	"freshapron/internal/demo"
	"freshapron/internal/store"
	"freshapron/internal/store/storetest"
)

var noon = time.Date(2026, 11, 26, 12, 0, 0, 0, time.UTC)

// Everything that a recipe has comes back as it went in.
func TestDishesThereAndBack(t *testing.T) {
	s := newSchool(t, storetest.Open(t), "Quillhaven")
	for _, r := range append(demo.Dishes(), demo.Drafts()...) {
		id, err := s.CreateDish(ctx, r, store.Ready, 0, "")
		require.NoError(t, err)
		d, err := s.Dish(ctx, id)
		require.NoError(t, err)
		require.Len(t, d.Ingredients, len(r.Ingredients))
		for i := range r.Ingredients {
			assert.Equal(t, r.Ingredients[i], d.Ingredients[i], r.Title)
		}
		for i := range r.Steps {
			assert.Equal(t, r.Steps[i], d.Steps[i], r.Title)
		}
		r.Ingredients, r.Steps, d.Ingredients, d.Steps = nil, nil, nil, nil
		assert.Equal(t, r, d.Recipe)
	}
}

func TestDishVersions(t *testing.T) {
	s := newSchool(t, storetest.Open(t), "Quillhaven")
	id, err := s.CreateDish(ctx, demo.Dish("jam-roll"), store.Draft, 0, "")
	require.NoError(t, err)
	before, err := stampOf(s)
	require.NoError(t, err)
	d, err := s.Dish(ctx, id)
	require.NoError(t, err)
	stale := d
	d.Title, d.Status = "Jam roll", store.Ready
	require.NoError(t, s.ChangeDish(ctx, d, noon))
	after, err := stampOf(s)
	require.NoError(t, err)
	assert.NotEqual(t, before, after, "the shelf notices")
	assert.ErrorIs(t, s.ChangeDish(ctx, stale, noon), store.ErrChanged)
	versions, err := s.Versions(ctx, id)
	require.NoError(t, err)
	require.Len(t, versions, 1)
	assert.Equal(t, "Jam sponge roll", versions[0].Title)
	now, err := s.Dish(ctx, id)
	require.NoError(t, err)
	assert.Equal(t, 2, now.Version)
	assert.Equal(t, store.Ready, now.Status)
	require.NoError(t, s.SetStatus(ctx, id, store.Aside))
	third, err := stampOf(s)
	require.NoError(t, err)
	assert.NotEqual(t, after, third)
	assert.ErrorIs(t, s.SetStatus(ctx, 999_999, store.Aside), store.ErrNotFound)
}

// Of two who save at the same moment one is told.
func TestOneOfTwoWritersWins(t *testing.T) {
	s := newSchool(t, storetest.Open(t), "Quillhaven")
	id, err := s.CreateDish(ctx, demo.Dish("pea-dip"), store.Ready, 0, "")
	require.NoError(t, err)
	d, err := s.Dish(ctx, id)
	require.NoError(t, err)
	errs := make([]error, 8)
	var wait sync.WaitGroup
	for i := range errs {
		wait.Go(func() { errs[i] = s.ChangeDish(ctx, d, noon) })
	}
	wait.Wait()
	won := 0
	for _, err := range errs {
		if err == nil {
			won++
		} else {
			assert.ErrorIs(t, err, store.ErrChanged)
		}
	}
	assert.Equal(t, 1, won)
}

func TestSlugsAndFormsAreOnce(t *testing.T) {
	s := newSchool(t, storetest.Open(t), "Quillhaven")
	form := uuid.NewString()
	first, err := s.CreateDish(ctx, demo.Dish("pea-dip"), store.Ready, 0, form)
	require.NoError(t, err)
	again, err := s.CreateDish(ctx, demo.Dish("pea-dip"), store.Ready, 0, form)
	require.NoError(t, err)
	assert.Equal(t, first, again, "the same form, the same dish")
	second, err := s.CreateDish(ctx, demo.Dish("pea-dip"), store.Ready, first, "")
	require.NoError(t, err)
	d, err := s.Dish(ctx, second)
	require.NoError(t, err)
	assert.Equal(t, "pea-dip-2", d.Recipe.ID)
	assert.Equal(t, first, d.Family)
}

func TestEditsAreKept(t *testing.T) {
	s := newSchool(t, storetest.Open(t), "Quillhaven")
	e := store.Edit{ID: uuid.NewString(), Title: "Half a dish", Form: map[string][]string{"title": {"Half a dish"}, "ingredients": {"2 eggs\n<b>"}}}
	require.NoError(t, s.SaveEdit(ctx, e))
	e.Title, e.Form["title"] = "A dish", []string{"A dish"}
	require.NoError(t, s.SaveEdit(ctx, e))
	back, err := s.Edit(ctx, e.ID)
	require.NoError(t, err)
	assert.Equal(t, e.Form, back.Form)
	list, err := s.Edits(ctx, 0)
	require.NoError(t, err)
	assert.Len(t, list, 1, "kept over what was kept before")
	require.NoError(t, s.DropEdit(ctx, e.ID))
	_, err = s.Edit(ctx, e.ID)
	assert.ErrorIs(t, err, store.ErrNotFound)
}

func TestPantryItemsAndSettings(t *testing.T) {
	s := newSchool(t, storetest.Open(t), "Quillhaven")
	for _, i := range pantry.Stock().List() {
		require.NoError(t, s.SavePantryItem(ctx, store.Item{Ingredient: i}))
	}
	items, err := s.PantryItems(ctx)
	require.NoError(t, err)
	for _, item := range items {
		stock, ok := pantry.Stock().Find(item.ID)
		require.True(t, ok)
		assert.Equal(t, stock, item.Ingredient, "as it went in")
	}
	before, err := s.Standing(ctx)
	require.NoError(t, err)
	changed := items[0]
	changed.Name = "changed"
	require.NoError(t, s.SavePantryItem(ctx, changed))
	assert.ErrorIs(t, s.SavePantryItem(ctx, changed), store.ErrChanged, "the version is the old one")
	assert.ErrorIs(t, s.SavePantryItem(ctx, store.Item{Ingredient: changed.Ingredient}), store.ErrChanged)
	after, err := s.Standing(ctx)
	require.NoError(t, err)
	assert.NotEqual(t, before.Pantry, after.Pantry)

	want := store.Settings{Units: "au", First: "volume", Agent: 0.2}
	require.NoError(t, s.SaveSettings(ctx, want))
	got, err := s.Settings(ctx)
	require.NoError(t, err)
	assert.Equal(t, want, got)
}

// Another school sees and changes nothing of it.
func TestRecipesBelongToASchool(t *testing.T) {
	db := storetest.Open(t)
	ours, theirs := newSchool(t, db, "Ours"), newSchool(t, db, "Theirs")
	id, err := ours.CreateDish(ctx, demo.Dish("pea-dip"), store.Ready, 0, "")
	require.NoError(t, err)
	edit := store.Edit{ID: uuid.NewString(), Dish: id, Form: map[string][]string{}}
	require.NoError(t, ours.SaveEdit(ctx, edit))
	require.NoError(t, ours.SavePantryItem(ctx, store.Item{Ingredient: pantry.Ingredient{ID: "sumac", Name: "sumac"}}))

	_, err = theirs.Dish(ctx, id)
	assert.ErrorIs(t, err, store.ErrNotFound)
	dishes, err := theirs.DishesByID(ctx, []int64{id})
	require.NoError(t, err)
	assert.Empty(t, dishes)
	heads, err := theirs.Heads(ctx)
	require.NoError(t, err)
	assert.Empty(t, heads)
	assert.ErrorIs(t, theirs.SetStatus(ctx, id, store.Aside), store.ErrNotFound)
	assert.ErrorIs(t, theirs.ChangeDish(ctx, store.Dish{ID: id, Version: 1}, noon), store.ErrNotFound)
	_, err = theirs.Edit(ctx, edit.ID)
	assert.ErrorIs(t, err, store.ErrNotFound)
	require.NoError(t, theirs.DropEdit(ctx, edit.ID))
	_, err = ours.Edit(ctx, edit.ID)
	require.NoError(t, err, "still ours")
	assert.Error(t, theirs.SaveEdit(ctx, store.Edit{ID: uuid.NewString(), Dish: id, Form: map[string][]string{}}), "an edit of another school's dish")
	_, err = theirs.CreateDish(ctx, demo.Dish("pea-dip"), store.Ready, id, "")
	assert.Error(t, err, "a version of another school's dish")
	items, err := theirs.PantryItems(ctx)
	require.NoError(t, err)
	assert.Empty(t, items)
	stamp, err := stampOf(theirs)
	require.NoError(t, err)
	assert.Equal(t, "0 0 0", stamp)
}

func stampOf(s *store.School) (string, error) {
	now, err := s.Standing(ctx)
	return now.Dishes, err
}
