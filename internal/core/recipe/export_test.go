package recipe

import "freshapron/internal/core/pantry"

// FindingsOf is what one rule of the check says.
func FindingsOf(rule string, r Recipe, p *pantry.Pantry) []Finding {
	for _, k := range rules {
		if k.name == rule {
			c := &checker{Recipe: r, pantry: p, rule: rule}
			k.run(c)
			return c.found
		}
	}
	panic("no rule " + rule)
}
