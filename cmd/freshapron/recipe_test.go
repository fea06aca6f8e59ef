package main

import (
	"bytes"
	"encoding/json"
	"errors"
	"os"
	"path/filepath"
	"strings"
	"testing"

	"github.com/santhosh-tekuri/jsonschema/v6"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

const scones = `Simple scones
Serves 4

Ingredients
150 g plain flour
2 level tsp baking powder
37.5 ml milk
1 large egg
a pinch of salt
some jam

Method
1. Wash your hands. Heat the oven to 220C/gas mark 3.
2. Rub the flour and the baking powder together; stir in milk, egg and salt.
3. Bake for 12 minutes.
`

// runRecipe runs scale or check on a text and returns what it prints and its
// exit status.
func runRecipe(t *testing.T, text string, args ...string) (out, complaint string, status int) {
	t.Helper()
	command := scaleCommand()
	if args[0] == "check" {
		command = checkCommand()
	}
	var o, e bytes.Buffer
	command.SetIn(strings.NewReader(text))
	command.SetOut(&o)
	command.SetErr(&e)
	command.SetArgs(append(args[1:], "-"))
	command.SilenceErrors, command.SilenceUsage = true, true
	err := command.Execute()
	var code exit
	if errors.As(err, &code) {
		status = int(code)
	} else {
		require.NoError(t, err)
	}
	if err != nil && e.Len() == 0 {
		e.WriteString(err.Error())
	}
	return o.String(), e.String(), status
}

func valid(t *testing.T, schema, text string) {
	t.Helper()
	s, err := jsonschema.NewCompiler().Compile("../../docs/formats/" + schema)
	require.NoError(t, err)
	v, err := jsonschema.UnmarshalJSON(strings.NewReader(text))
	require.NoError(t, err)
	require.NoError(t, s.Validate(v))
}

func TestScale(t *testing.T) {
	out, complaint, status := runRecipe(t, scones, "scale", "--json", "--portions", "3")
	require.Zero(t, status, complaint)
	valid(t, "scaled.schema.json", out)
	var got scaledJSON
	require.NoError(t, json.Unmarshal([]byte(out), &got))
	assert.Equal(t, "3/4", got.Factor)
	flour := got.Ingredients[0]
	assert.Equal(t, "150 g plain flour", flour.Line)
	assert.Equal(t, &amountJSON{112.5, "g"}, flour.Exact)
	assert.Equal(t, "113 g", flour.Measure)
	assert.Equal(t, &amountJSON{113, "g"}, flour.Measured)
	assert.InDelta(t, 0.4, flour.ErrorPercent, 1e-9) // ½ g of 112½
	assert.Equal(t, "½ tbsp", got.Ingredients[1].Measure, "1½ tsp with one spoon")
	egg := got.Ingredients[3]
	assert.Equal(t, &amountJSON{0.75, ""}, egg.Exact)
	assert.Equal(t, "1", egg.Measure)
	assert.Contains(t, strings.Join(egg.Alternatives, "|"), "Beat 1 large egg and use 44 g of it") // ¾ · 58 g
	assert.Nil(t, got.Ingredients[5].Exact, "some is no amount")
	assert.Contains(t, got.Ingredients[5].Warnings[0], "“some” is no amount")

	text, _, _ := runRecipe(t, scones, "scale", "--portions", "8", "--first", "volume")
	assert.Contains(t, text, "Portions: 8, 2 times the recipe")
	assert.Contains(t, text, "300 g")
}

func TestScaleInOtherUnits(t *testing.T) {
	recipe := "Serves 2\n1 cup milk\n1 tbsp vanilla extract\n"
	for units, want := range map[string]float64{"metric": 30, "us": 29.573530, "au": 40} {
		out, _, status := runRecipe(t, recipe, "scale", "--json", "--portions", "4", "--first", "volume", "--units", units)
		require.Zero(t, status)
		var got scaledJSON
		require.NoError(t, json.Unmarshal([]byte(out), &got))
		assert.Equal(t, &amountJSON{2, "cup"}, got.Ingredients[0].Exact)
		assert.Equal(t, "2 tbsp", got.Ingredients[1].Measure)
		assert.InDelta(t, want, got.Ingredients[1].Measured.Amount, 1e-5, units)
	}
}

func TestCheckFindings(t *testing.T) {
	out, complaint, status := runRecipe(t, scones, "check", "--json")
	require.Zero(t, status, complaint)
	valid(t, "findings.schema.json", out)
	var got findingsJSON
	require.NoError(t, json.Unmarshal([]byte(out), &got))
	rules := map[string]string{}
	for _, f := range got.Findings {
		rules[f.Rule] = f.Where
	}
	assert.Equal(t, "steps[1]", rules["oven-settings-differ"])
	assert.Equal(t, "ingredients[5]", rules["unused-ingredient"], "the jam")
	assert.Equal(t, "contains", rules["allergen-not-declared"])
	text, _, _ := runRecipe(t, scones, "check")
	assert.Contains(t, text, "steps[1] (oven-settings-differ): 220C and gas mark 3 are not the same")
}

func TestDemonstrationHasNothingToMend(t *testing.T) {
	paths, err := filepath.Glob("../../internal/demo/dishes/*.md")
	require.NoError(t, err)
	require.Len(t, paths, 14)
	for _, path := range paths {
		text, err := os.ReadFile(path)
		require.NoError(t, err)
		out, _, status := runRecipe(t, string(text), "check")
		assert.Zero(t, status)
		assert.Equal(t, "Nothing to mend.\n", out, path)
	}
}

func TestRecipesThatCannotBeUsed(t *testing.T) {
	for _, c := range []struct {
		text, says string
		args       []string
	}{
		{"200 g flour\n", "recipeYield: the recipe does not say how many it serves", []string{"scale", "--portions", "4"}},
		{scones, "--portions 0: give 1 to 10000", []string{"scale"}},
		{scones, "--units troy: give metric, us, au or imperial", []string{"scale", "--portions", "4", "--units", "troy"}},
		{scones, "--first luck: give weight or volume", []string{"check", "--first", "luck"}},
		{"", "$: the file is empty", []string{"check"}},
		{`{"@type": "Recipe", "name": "x", "recipeIngredient": 5}`, "recipeIngredient: is a number; it must be a list of texts", []string{"check"}},
		{`[{"@type": "Recipe", "name": "x"}, {"@type": "Recipe", "name": "y"}]`, "$: the file has 2 recipes", []string{"check"}},
		{`{"id": "d", "steps": [{"id": "a", "work": 5}]}`, "steps[0].work: is no field that is known here", []string{"check"}},
	} {
		_, complaint, status := runRecipe(t, c.text, c.args...)
		assert.Equal(t, exitUnusable, status, c.says)
		assert.Contains(t, complaint, c.says)
	}
}
