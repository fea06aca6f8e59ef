package prepare_test

import (
	"fmt"

	"freshapron/internal/core/prepare"
)

// A technician who is there from eight lays out trays, and takes the butter out in
// between, since it needs an hour to soften before the lesson at ten.
func ExamplePlan() {
	d := prepare.Plan([]prepare.Job{
		{Says: "trays", Kind: prepare.Trays, Hands: 40, From: 480, Due: 600},
		{Says: "butter", Kind: prepare.Soften, Hands: 2, Wait: 60, From: 500, Due: 600},
	}, []prepare.Span{{From: 480, Until: 720}}, 0)
	for _, p := range d.Pieces {
		fmt.Printf("%d:%02d %s, %d min\n", p.From/60, p.From%60, d.Jobs[p.Job].Says, p.Until-p.From)
	}
	// Output:
	// 8:00 trays, 20 min
	// 8:20 butter, 2 min
	// 8:22 trays, 20 min
}
