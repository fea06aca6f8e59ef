package fit_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"freshapron/internal/core/fit"
)

func TestExplain(t *testing.T) {
	l := tartlets(5)
	p := solve(t, l)
	first := stepOf(t, p, "g1", "bake")
	late := stepOf(t, p, "g5", "bake")
	require.Equal(t, first.Units, late.Units)

	e, ok := fit.Explain(l, p, "g1", "tartlets", "bake")
	require.True(t, ok)
	assert.Equal(t, "Bench 1", e.Group.Name)
	assert.Equal(t, "Bake", e.Step.Title)
	assert.Contains(t, e.Reasons, fit.Reason{Why: "rule", Group: "g1", Dish: "tartlets", Step: "fill"})
	assert.Contains(t, e.Waiting, fit.Reason{Why: "oven", Group: "g5", Dish: "tartlets", Step: "bake"}, "the fifth tray waits for its shelf")

	e, ok = fit.Explain(l, p, "g5", "tartlets", "bake")
	require.True(t, ok)
	assert.Contains(t, e.Reasons, fit.Reason{Why: "oven", Group: "g1", Dish: "tartlets", Step: "bake"})

	e, ok = fit.Explain(l, p, "g2", "tartlets", "weigh")
	require.True(t, ok)
	assert.Equal(t, []fit.Reason{{Why: "phase"}}, e.Reasons, "it starts when the demonstration is over")

	_, ok = fit.Explain(l, p, "g9", "tartlets", "weigh")
	assert.False(t, ok)
	_, ok = fit.Explain(l, p, "g1", "tartlets", "ice")
	assert.False(t, ok)
}

func TestExplainPinsAndAdults(t *testing.T) {
	l := tartlets(2)
	l.Adults = 1
	l.Groups[0].Pins = []fit.Pin{{Dish: "tartlets", Step: "rub", NotBefore: gap("21")}}
	p := solve(t, l)
	e, ok := fit.Explain(l, p, "g1", "tartlets", "rub")
	require.True(t, ok)
	assert.Contains(t, e.Reasons, fit.Reason{Why: "pin"})
	// One adult watches both trays go in: whoever is second waits for it, if
	// both are filled at the same moment.
	l.Groups[0].Pins = nil
	p = solve(t, l)
	a, b := stepOf(t, p, "g1", "bake"), stepOf(t, p, "g2", "bake")
	require.InDelta(t, a.WorkEnd, b.Start, 1e-9)
	e, _ = fit.Explain(l, p, "g2", "tartlets", "bake")
	assert.Contains(t, e.Reasons, fit.Reason{Why: "adults", Group: "g1", Dish: "tartlets", Step: "bake"})
}
