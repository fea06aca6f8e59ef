package recipes_test

import (
	"database/sql"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"freshapron/internal/app/recipes"
	"freshapron/internal/app/school"
	"freshapron/internal/core/recipe"
	"freshapron/internal/core/safety"
	"freshapron/internal/demo/demotest"
	"freshapron/internal/store"
)

// Where forgetting the words fails, as when the program is killed between the
// two, the dish is not there either: the words stay, and saving again saves
// them.
func TestANewDishIsSavedWithItsWordsOrNotAtAll(t *testing.T) {
	h := demotest.Enter(t)
	ctx := h.Head()
	db, err := sql.Open("pgx", h.URL)
	require.NoError(t, err)
	defer db.Close()
	_, err = db.Exec(`CREATE FUNCTION refuse() RETURNS trigger LANGUAGE plpgsql AS $$ BEGIN RAISE EXCEPTION 'killed'; END $$;
		CREATE TRIGGER refuse BEFORE DELETE ON edits FOR EACH ROW EXECUTE FUNCTION refuse()`)
	require.NoError(t, err)

	draft := recipe.Recipe{Title: "Oat bars", Yield: 8, Piece: "bar", Pieces: "bars", Each: 2}
	id, err := recipes.BeginEdit(ctx, 0, &draft)
	require.NoError(t, err)
	before, err := h.Heads(ctx)
	require.NoError(t, err)
	_, err = recipes.Publish(ctx, id, store.Draft, false)
	require.ErrorContains(t, err, "killed")
	after, err := h.Heads(ctx)
	require.NoError(t, err)
	assert.Equal(t, before, after)

	_, err = db.Exec("DROP TRIGGER refuse ON edits")
	require.NoError(t, err)
	w, err := recipes.Open(ctx, id)
	require.NoError(t, err)
	f := w.Form
	f.Why = "written after the accident"
	_, err = recipes.Keep(ctx, w.Edit, f)
	require.NoError(t, err)
	dish, err := recipes.Publish(ctx, id, store.Draft, false)
	require.NoError(t, err)
	d, err := h.Dish(ctx, dish)
	require.NoError(t, err)
	assert.Equal(t, "written after the accident", d.Why)
	_, err = recipes.Open(ctx, id)
	assert.ErrorIs(t, err, school.ErrNotFound)
}

// What is typed is on its way when a button is pressed, and both arrive at once: whatever
// the server had read of the writing before, the button's state stays.
func TestTypingThatArrivesBesideAButton(t *testing.T) {
	h := demotest.Enter(t)
	ctx := h.Head()
	id, err := recipes.BeginEdit(ctx, 0, &recipe.Recipe{Title: "Oat bars"})
	require.NoError(t, err)
	both, err := recipes.Open(ctx, id)
	require.NoError(t, err)
	pressed, typed := both.Form, both.Form
	pressed.Why, typed.Why, typed.Typed = "pressed", "typed", "1"
	kept, err := recipes.Keep(ctx, both.Edit, pressed)
	require.NoError(t, err)
	require.Equal(t, id, kept)
	newest, err := recipes.KeepTyping(ctx, both.Edit, typed)
	require.NoError(t, err)
	assert.False(t, newest)
	w, err := recipes.Open(ctx, id)
	require.NoError(t, err)
	assert.Equal(t, "pressed", w.Form.Why)

	require.NoError(t, recipes.Drop(ctx, id))
	_, err = recipes.KeepTyping(ctx, w.Edit, w.Form)
	assert.ErrorIs(t, err, school.ErrNotFound, "what was thrown away stays away")
	again, err := recipes.Keep(ctx, w.Edit, w.Form)
	require.NoError(t, err)
	assert.NotEqual(t, id, again, "what is pressed in a window that knows nothing of it is kept")
	_, err = recipes.Open(ctx, again)
	assert.NoError(t, err)
}

// How a school measures is saved without touching its tables of safety.
func TestMeasuringLeavesTheTablesAlone(t *testing.T) {
	h := demotest.Enter(t)
	ctx := h.As("Maren Holt")
	was, err := h.School.Settings(ctx)
	require.NoError(t, err)
	us := safety.RegionOf("us")
	require.NoError(t, h.School.SaveSettings(ctx, was.WithRegion(us)))
	require.NoError(t, recipes.SaveSettings(ctx, recipes.Settings{Units: "au", First: "volume", Declare: "nine"}))
	is, err := h.School.Settings(ctx)
	require.NoError(t, err)
	assert.Equal(t, "au", is.Units)
	assert.Equal(t, us, is.Book().Region)
}
