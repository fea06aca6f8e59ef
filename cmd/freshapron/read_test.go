package main

import (
	"bytes"
	"encoding/json"
	"os"
	"path/filepath"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

func runRead(t *testing.T, text string, args ...string) (string, error) {
	t.Helper()
	var o bytes.Buffer
	c := readCommand()
	c.SetIn(strings.NewReader(text))
	c.SetOut(&o)
	c.SetErr(&o)
	c.SetArgs(args)
	c.SilenceErrors, c.SilenceUsage = true, true
	err := c.Execute()
	return o.String(), err
}

const twists = `Seed twists
Makes 12 twists

2-3 tbsp plain flour, sifted
l50 g butter

Knead for 10 minutes, then leave to rise for an hour.
Bake in two batches at 190 °C for 12-14 minutes each.
Rest 15
ADULT: serve within 10 minutes.
Source: a neighbour
`

func TestRead(t *testing.T) {
	out, err := runRead(t, twists, "--json", "-")
	require.NoError(t, err)
	valid(t, "read.schema.json", out)
	var got readJSON
	require.NoError(t, json.Unmarshal([]byte(out), &got))
	assert.Equal(t, "Seed twists", got.Title)
	assert.Equal(t, 1, got.TitleLine)
	assert.Equal(t, yieldJSON{12, nil, "twist", 2}, *got.Yield)
	flour := got.Ingredients[0]
	assert.Equal(t, []any{4, 2.0, 3.0, "tbsp", "plain-flour", "sifted"}, []any{flour.Line, *flour.Amount, *flour.Most, flour.Unit, flour.Item, flour.Prepared})
	assert.InDelta(t, 150, *got.Ingredients[1].Amount, 1e-9)
	var steps []string
	for _, s := range got.Steps {
		steps = append(steps, s.Kind)
	}
	require.Equal(t, []string{"mix", "mix", "rest", "bake", "rest", "serve"}, steps, out)
	rise, bake, serve := got.Steps[2], got.Steps[3], got.Steps[5]
	assert.Equal(t, []any{60.0, "said", []int{7}}, []any{rise.Wait, *rise.WaitFrom, rise.Lines})
	assert.InDelta(t, 12, bake.Loads.Minutes, 1e-9)
	assert.InDelta(t, 14, *bake.Loads.Most, 1e-9)
	assert.Equal(t, 6, *bake.Loads.PerLoad)
	assert.InDelta(t, 24, bake.Wait, 1e-9, "two trays, one after the other")
	assert.InDelta(t, 190, *bake.Uses[0].Celsius, 1e-9)
	assert.Equal(t, "does", serve.Adult)
	require.Len(t, serve.After, 1)
	assert.InDelta(t, 10, serve.After[0].(map[string]any)["max_gap"], 1e-9)
	var asked []int
	for _, u := range got.Unread {
		asked = append(asked, u.Line)
	}
	assert.Equal(t, []int{5, 9}, asked)
	assert.Equal(t, []factJSON{{11, "Source: a neighbour"}}, got.Facts)

	text, err := runRead(t, twists, "-")
	require.NoError(t, err)
	for _, part := range []string{"Yield: 12, of twist", "wait 60 min (said)", "loads of 12 min each", "190 °C", "5  not understood: l50 g butter (l50 is read as 150: is that right?)"} {
		assert.Contains(t, text, part)
	}
	text, err = runRead(t, "Rolls\nServes 4-6\n2 cups flour", "--units", "au", "-")
	require.NoError(t, err)
	assert.Contains(t, text, "Units: au (as chosen)\nYield: 4 to 6, of portion")
	text, err = runRead(t, "Salad\nServes 2\n3 cm cucumber\npinch of salt\n3-4 tbsp water\n2 eggs", "-")
	require.NoError(t, err)
	assert.Contains(t, text, "  3  3 cm cucumber [cucumber] \n  4  1 pinch salt [salt] \n  5  3–4 tbsp water [water] \n  6  2 eggs [egg-medium] \n")
}

func TestReadRefuses(t *testing.T) {
	file := filepath.Join(t.TempDir(), "long.txt")
	require.NoError(t, os.WriteFile(file, bytes.Repeat([]byte("stir\n"), 4<<20), 0o600))
	for says, args := range map[string][]string{
		"no such file":            {"none.txt"},
		"there is nothing in it":  {"-"},
		"longer than 16 MB":       {file},
		"give metric, us, au or ": {"--units", "troy", "-"},
		"takes one recipe":        {},
	} {
		out, err := runRead(t, " \n", args...)
		require.Error(t, err, says)
		assert.Contains(t, out+err.Error(), says)
	}
	for text, says := range map[string]string{
		"<!doctype html>\n<h1>Leek tart</h1>\n<p>Bake at 190 C</p>": "source of a web page",
		`{"name": "Leek tart", "recipeYield": 6}`:                   "this is JSON",
	} {
		out, err := runRead(t, text, "-")
		require.Error(t, err, says)
		assert.Contains(t, out+err.Error(), says)
	}
}
