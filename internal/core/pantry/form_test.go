package pantry_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"freshapron/internal/core/pantry"
	"freshapron/internal/core/problem"
)

// Every ingredient that ships can be opened and saved as it is.
func TestFormsThereAndBack(t *testing.T) {
	for _, i := range pantry.Stock().List() {
		back, err := pantry.FormOf(i).Read(i.ID)
		require.NoError(t, err, i.Name)
		was, is := pantry.FormOf(i), pantry.FormOf(back)
		assert.ElementsMatch(t, was.Allergens, is.Allergens, i.Name)
		assert.ElementsMatch(t, was.From, is.From, i.Name)
		was.Allergens, was.From, is.Allergens, is.From = nil, nil, nil, nil
		assert.Equal(t, was, is, i.Name)
	}
}

// What can be typed has its ends, on both sides.
func TestFormsSayWhatTheyCanNotRead(t *testing.T) {
	for _, c := range []struct {
		in   pantry.Form
		path string
	}{
		{pantry.Form{}, "name"},
		{pantry.Form{Name: strings.Repeat("x", 80)}, ""},
		{pantry.Form{Name: strings.Repeat("x", 81)}, "name"},
		{pantry.Form{Name: "x", One: "20000"}, ""},
		{pantry.Form{Name: "x", One: "20000,1"}, "one"},
		{pantry.Form{Name: "x", One: "0"}, ""},
		{pantry.Form{Name: "x", Bought: "-1"}, "bought"},
		{pantry.Form{Name: "x", Keeps: "5000"}, ""},
		{pantry.Form{Name: "x", Keeps: "5001"}, "keeps"},
		{pantry.Form{Name: "x", Keeps: "0"}, ""},
		{pantry.Form{Name: "x", Keeps: "-1"}, "keeps"},
		{pantry.Form{Name: "x", Season: "13-14"}, "season"},
		{pantry.Form{Name: "x", Packs: "a bag"}, "packs"},
		{pantry.Form{Name: "x", Fillings: "spooned heavy"}, "fillings"},
	} {
		_, err := c.in.Read("x")
		if c.path == "" {
			assert.NoError(t, err, "%+v", c.in)
			continue
		}
		problems := problem.Of(err)
		require.Len(t, problems, 1, "%+v", c.in)
		assert.Equal(t, c.path, problems[0].Path)
		assert.NotEmpty(t, problems[0].Says)
	}
}
