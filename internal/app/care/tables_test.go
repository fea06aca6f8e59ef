package care_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"freshapron/internal/app/care"
	"freshapron/internal/core/recipe"
	"freshapron/internal/core/safety"
	"freshapron/internal/demo/demotest"
)

func book(t *testing.T, h demotest.House) safety.Book {
	t.Helper()
	l, err := h.Larder(h.Head())
	require.NoError(t, err)
	return l.Settings.Book()
}

// Every table that ships can be taken, shown in the form and saved as the
// school's own with the same figures.
func TestTablesThatShip(t *testing.T) {
	h := demotest.Enter(t)
	ctx := h.As("Maren Holt")
	for _, r := range safety.Regions {
		require.NoError(t, care.TakeRegion(ctx, r.ID))
		assert.Equal(t, r, book(t, h).Region, r.ID)
		assert.Contains(t, h.LastNote().Says, r.Name)
		require.NoError(t, care.SaveRegion(ctx, care.RegionFormOf(r)), r.ID)
		own := book(t, h).Region
		assert.Equal(t, "own", own.ID)
		own.ID = r.ID
		assert.Equal(t, r, own)
	}
	demotest.Says(t, care.TakeRegion(ctx, "moon"), "region: Choose a table.")
}

func TestWrongTables(t *testing.T) {
	h := demotest.Enter(t)
	ctx := h.As("Maren Holt")
	good := care.RegionFormOf(safety.Regions[0])
	before := book(t, h)
	for _, c := range []struct {
		what   string
		change func(*care.RegionForm)
		says   []string
	}{
		{"no name", func(f *care.RegionForm) { f.Name = "" }, []string{"name: Give the table a name."}},
		{"no source", func(f *care.RegionForm) { f.Source = " " }, []string{"source: Say where the figures come from: a table without a source is worth nothing."}},
		{"warm", func(f *care.RegionForm) { f.Hot = "warm" }, []string{"hot: Hot: “warm” is no temperature from −30 to 120 °C."}},
		{"no number", func(f *care.RegionForm) { f.CoolTo = "NaN" }, []string{"cool_to: Cooled to: “NaN” is no temperature from −30 to 120 °C."}},
		{"colder than hot", func(f *care.RegionForm) { f.Cold, f.Hot = "70", "63" }, []string{"cold: Cold food can’t be kept at 70 °C and hot food at 63 °C."}},
		{"for ever", func(f *care.RegionForm) { f.HotOut = "1441" }, []string{"hot_out: Hot food may stand: “1441” is not a whole number from 0 to 1440."}},
		{"at once", func(f *care.RegionForm) { f.CoolIn = "0" }, []string{"cool_in: Cooled within: “0” is not a whole number from 1 to 1440."}},
		{"nothing cooked", func(f *care.RegionForm) { f.Core = "\n" }, []string{"core: Give at least one core temperature."}},
		{"cooked to ash", func(f *care.RegionForm) { f.Core = "poultry; 250; 0" }, []string{"core: poultry: “250” is no temperature from −30 to 120 °C."}},
	} {
		in := good
		c.change(&in)
		t.Run(c.what, func(t *testing.T) { demotest.Says(t, care.SaveRegion(ctx, in), c.says...) })
	}
	assert.Equal(t, before, book(t, h), "nothing was saved")
}

func TestWhoMayDoWhat(t *testing.T) {
	h := demotest.Enter(t)
	ctx := h.As("Maren Holt")
	before := book(t, h).Who
	require.NotEmpty(t, before)
	require.NoError(t, care.SaveWho(ctx, care.WhoText(before)), "what the form shows can be saved")
	assert.Equal(t, before, book(t, h).Who)
	for text, want := range map[string]string{
		"juggling; 12; ; watches; school":                        "“juggling” is none of: ",
		string(recipe.Knife) + "; 0; ; watches; school":          "years: “0” is not a whole number from 1 to 99",
		string(recipe.Knife) + "; 12; masterly; watches; school": "“masterly” is no level",
		string(recipe.Knife) + "; 12; ; hovers; school":          "“hovers” is neither watches nor does",
		string(recipe.Knife) + "; 12; does":                      "line 1: “knife; 12; does” has not the 5 parts",
	} {
		err := care.SaveWho(ctx, text)
		require.Error(t, err, text)
		assert.Contains(t, strings.ToLower(err.Error()), strings.ToLower(want))
	}
	assert.Equal(t, before, book(t, h).Who)
	require.NoError(t, care.SaveWho(ctx, ""), "a school may have no rules")
	assert.Empty(t, book(t, h).Who)
}

func TestWaysOfTheSchoolsOwn(t *testing.T) {
	h := demotest.Enter(t)
	ctx := h.As("Maren Holt")
	for _, c := range []struct {
		in   care.WayForm
		says []string
	}{
		{care.WayForm{}, []string{"name: Give it a name of at most 80 letters.", "dangers: Choose what it is for."}},
		{care.WayForm{Name: "Rocker", Dangers: []string{string(recipe.Knife)}, Times: "0"}, []string{"times: “0” is not how many times as long it takes, from 0.05 to 10."}},
		{care.WayForm{Name: "Rocker", Dangers: []string{string(recipe.Knife)}, Times: "NaN"}, []string{"times: “NaN” is not how many times as long it takes, from 0.05 to 10."}},
		{care.WayForm{Name: "Rocker", Dangers: []string{"juggling"}, Adult: "sleeps"}, []string{"adult: Choose what the adult does.", "dangers: Choose what it is for."}},
		{care.WayForm{Name: "Rocker", Dangers: []string{string(recipe.Knife)}, Says: strings.Repeat("x", 301)}, []string{"says: What stands on the sheet is longer than 300 letters."}},
	} {
		demotest.Says(t, care.AddWay(ctx, c.in), c.says...)
	}
	before := len(book(t, h).Ways)
	require.NoError(t, care.AddWay(ctx, care.WayForm{Name: "Rocker", Says: "Rock, don’t press.", Times: "1,5", Dangers: []string{string(recipe.Knife)}, Helps: []string{safety.OneHand}}))
	require.NoError(t, care.AddWay(ctx, care.WayForm{Name: "Slow hands", Dangers: []string{string(recipe.Knife)}}))
	ways := book(t, h).Ways
	require.Len(t, ways, before+2)
	rocker, slow := ways[before], ways[before+1]
	assert.InDelta(t, 1.5, rocker.Times, 1e-9)
	assert.Equal(t, []string{safety.OneHand}, rocker.Helps)
	assert.NotEqual(t, rocker.ID, slow.ID)
	found, ok := book(t, h).Way(rocker.ID)
	require.True(t, ok)
	assert.Equal(t, rocker, found)
	assert.InDelta(t, 1, slow.Times, 1e-9, "as long as ever where nothing is said")
}
