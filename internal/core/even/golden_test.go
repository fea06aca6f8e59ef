package even_test

import (
	"fmt"
	"strings"
	"testing"

	"freshapron/internal/core/drawn"
	"freshapron/internal/core/even"
	"freshapron/internal/core/heat"
	"freshapron/internal/golden"
)

// All that is measured on small photographs of each kind, and made of it.
func TestWhatIsMeasured(t *testing.T) {
	var b strings.Builder
	tell := func(says string, s drawn.Scene) {
		p, err := even.Measure(s.Draw(), s.Reference)
		fmt.Fprintf(&b, "= %s: %.4f mm a pixel, %v\n", says, p.MMPerPx, err)
		for _, f := range p.Pieces {
			fmt.Fprintf(&b, "%.2f × %.2f at %.1f %.1f, %.1f°, doubtful %t, %.0f mm³\n", f.Size[0], f.Size[1], f.Centre[0], f.Centre[1], f.Angle, f.Doubtful, f.Volume())
		}
		if err != nil {
			return
		}
		b.WriteString(golden.All(p.Evenness()))
		var pieces []even.Piece
		for _, f := range p.Pieces {
			pieces = append(pieces, even.Piece{f.Size[0], f.Size[1], f.Size[1]})
		}
		for _, c := range []even.Cook{{H: heat.Boiling, Start: 15, Around: 98, To: 85}, {H: heat.StillOven, Start: 5, Around: 200, To: 80}, {H: heat.FanOven, Start: 60, Around: 5, To: 8}} {
			b.WriteString(golden.All(c.Times(pieces)))
		}
	}
	for i, e := range drawn.Examples {
		s := e.Scene()
		s.Wide, s.High, s.MMPerPx = s.Wide*3/5, s.High*3/5, s.MMPerPx*5/3
		if i%2 == 1 {
			s.Light = 0.4
		}
		tell(e.Says, s)
	}
	over := drawn.Board("beetroot", "green", 640, 480, 6, 12, 8, 0.1, 10, 9)
	over.Pieces[0].X, over.Pieces[5].Round = 2, true
	tell("one over the edge and a round one", over)
	over.Pieces[1].Wide = 1
	over.StripX -= 40
	tell("the strip over the edge, and a sliver", over)
	over.StripX, over.StripAngle = over.StripX+40, 90
	over.Pieces[2].X, over.Pieces[2].Y = over.Pieces[3].X+3, over.Pieces[3].Y
	tell("the strip across, and two on one another", over)
	golden.Same(t, "measured.golden", b.String())
}
