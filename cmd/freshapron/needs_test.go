package main

import (
	"bytes"
	"os"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

func runNeeds(t *testing.T, text string, args ...string) (string, error) {
	t.Helper()
	var o bytes.Buffer
	c := needsCommand()
	c.SetIn(strings.NewReader(text))
	c.SetOut(&o)
	c.SetErr(&o)
	c.SetArgs(args)
	c.SilenceErrors, c.SilenceUsage = true, true
	err := c.Execute()
	return o.String(), err
}

// One entry a line; blank lines are counted and are no entry.
func TestNeeds(t *testing.T) {
	out, err := runNeeds(t, "\uFEFFCMPA, veggie\n\n  none \nquix\n", "--json", "-")
	require.NoError(t, err)
	valid(t, "needs.schema.json", out)
	assert.JSONEq(t, `{"format": "fresh-apron/needs", "version": 1, "entries": [
		{"line": 1, "text": "CMPA, veggie", "needs": ["milk", "vegetarian"], "none": false, "asks": []},
		{"line": 3, "text": "none", "needs": [], "none": true, "asks": []},
		{"line": 4, "text": "quix", "needs": [], "none": false, "asks": ["quix"]}]}`, out)
	out, err = runNeeds(t, "egg, quix\nnone", "-")
	require.NoError(t, err)
	assert.Equal(t, "1: egg, quix: eggs; ask: quix\n2: none: none\n", out)
	out, err = runNeeds(t, "", "--json", "-")
	require.NoError(t, err)
	assert.Contains(t, out, `"entries": []`)
}

// Whatever comes in, each entry means something, or none, or is asked.
func TestEveryEntryIsAnswered(t *testing.T) {
	hard, err := os.ReadFile("needs_test.go") // any text at all
	require.NoError(t, err)
	out, err := runNeeds(t, string(hard)+"\xff\xfe\n\u200b\n...\n((()))\n"+strings.Repeat("nuts ", 200_000), "--json", "-")
	require.NoError(t, err)
	valid(t, "needs.schema.json", out)
	for text, args := range map[string][]string{"": {"no such file"}, "x": nil, strings.Repeat("x\n", 2<<20): {"-"}} {
		_, err := runNeeds(t, text, args...)
		assert.ErrorIs(t, err, exit(exitUnusable))
	}
}
