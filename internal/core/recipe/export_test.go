package recipe

import "freshapron/internal/core/pantry"

// UnusualAmounts are what the check says of amounts alone.
func UnusualAmounts(r Recipe, p *pantry.Pantry) []Finding {
	c := &checker{Recipe: r, pantry: p, rule: "unusual-amount"}
	c.unusualAmount()
	return c.found
}
