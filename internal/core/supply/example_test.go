package supply_test

import (
	"fmt"

	"freshapron/internal/core/lesson"
	"freshapron/internal/core/pantry"
	"freshapron/internal/core/supply"
)

// Two lessons take leeks, one by the piece and one trimmed and by weight.
func ExampleMerge() {
	lessons := []supply.Lesson{
		{ID: 1, On: monday, Takes: []lesson.Take{take("Bench 1", "2 leeks")}},
		{ID: 2, On: monday, Takes: []lesson.Take{take("Bench 4", "150 g leek")}},
	}
	for _, n := range supply.Merge(pantry.Stock(), nil, lessons) {
		fmt.Println(n.Item.Says(n.Amount), "for", len(n.Of), "benches")
	}
	// Output: 3 leeks for 2 benches
}
