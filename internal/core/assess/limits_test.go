package assess_test

import (
	"testing"

	"freshapron/internal/core/assess"
	"freshapron/internal/golden"
)

// What of a scheme of marks can't be.
func TestWhatASchemeCanBe(t *testing.T) {
	s := assess.Scheme{
		Criteria: []assess.Criterion{{ID: "x", Most: n("8"), Weight: n("1")}, {ID: "y", Most: n("10"), Weight: n("2")}}, OutOf: n("60"), Round: assess.HalfUp, Places: 1,
		Boundaries: []assess.Boundary{{Grade: "A", From: n("45")}, {Grade: "B", From: n("30")}, {Grade: "C", From: n("12.5")}}, Tolerance: n("4"),
	}
	golden.Same(t, "limits.golden", golden.Limits(&s, func() error { return s.Check() }))
}
