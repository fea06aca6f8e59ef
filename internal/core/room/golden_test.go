package room_test

import (
	"fmt"
	"strings"
	"testing"

	"freshapron/internal/core/room"
	"freshapron/internal/golden"
)

// The floors that are laid out for rooms of every size, and the ways through
// them.
func TestTheUsualFloors(t *testing.T) {
	var b strings.Builder
	tell := func(f room.Floor) {
		for _, i := range f.Items {
			fmt.Fprintf(&b, " %+v", i)
		}
		fmt.Fprintf(&b, " %q\n", f.Check())
	}
	for _, benches := range []int{1, 2, 5, 8, 12, 16, 24} {
		for _, ovens := range []int{0, 1, 6} {
			var named []room.Named
			for n := range ovens {
				named = append(named, room.Named{ID: fmt.Sprint("oven-", n+1), Name: fmt.Sprint("Oven ", n+1)})
			}
			f := room.Usual(benches, named)
			fmt.Fprintf(&b, "%d benches, %d ovens, %d × %d:", benches, ovens, f.W, f.H)
			tell(f)
			for n, from := range f.Items {
				to := f.Items[(n*5+3)%len(f.Items)]
				way, metres, ok := f.Walk(from, to)
				fmt.Fprintf(&b, "  %s to %s: %.3f %t %v\n", from.ID, to.ID, metres, ok, way)
			}
			b.WriteString("  fewer:")
			tell(f.Fitted(benches/2+1, named[:ovens/2]))
			b.WriteString("  more:")
			tell(f.Fitted(benches+2, append(named, room.Named{ID: "oven-9", Name: "Oven 9"})))
		}
	}
	for _, c := range [][2][]string{{{"a", "b"}, {"a", "b"}}, {{"a", "b"}, {"b", "a"}}, {{"a", "b", "c"}, {"a", "x", "c"}}, {{"a"}, {"a", "b"}}, {{"a", "b"}, {"b"}}, {{"a", "b"}, {"x", "y"}}} {
		fmt.Fprintf(&b, "%v to %v: %v\n", c[0], c[1], room.Kept(c[0], c[1]))
	}
	golden.Same(t, "floors.golden", b.String())
}
