package main

import (
	"os"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

func TestOrder(t *testing.T) {
	const week = "../../docs/formats/week.order.json"
	out, _, err := run(t, orderCommand(), "", "--json", week)
	require.NoError(t, err)
	valid(t, "order-plan.schema.json", out)
	assert.Contains(t, out, `"total": 9.65`)
	text, err := os.ReadFile(week)
	require.NoError(t, err)
	again, _, err := run(t, orderCommand(), string(text), "--json", "-")
	require.NoError(t, err)
	assert.Equal(t, out, again)

	// Something short stands in the order, and is no failure.
	out, _, err = run(t, orderCommand(), strings.Replace(string(text), `"most": 40`, `"most": 2`, 1), week, "-")
	assert.ErrorIs(t, err, exit(exitUnusable))
	assert.Empty(t, out)
	out, _, err = run(t, orderCommand(), strings.NewReplacer(`"most": 40`, `"most": 2`, `"minimum": 5.0`, `"minimum": 4.00`).Replace(string(text)), "-")
	require.NoError(t, err)
	assert.Contains(t, out, "Missing on 2026-12-01: 150 g butter: all is bought that can come by then and is still good")

	out, complaint, err := run(t, orderCommand(), strings.Replace(string(text), "900", "-900", 1), "-")
	assert.ErrorIs(t, err, exit(exitUnusable))
	assert.Empty(t, out)
	assert.Equal(t, "needs[0].amount: is -900; it must be above 0\n", complaint)
	_, _, err = run(t, orderCommand(), "", "no such file")
	assert.ErrorIs(t, err, exit(exitUnusable))
}
