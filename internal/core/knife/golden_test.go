package knife_test

import (
	"fmt"
	"strings"
	"testing"

	"freshapron/internal/core/even"
	"freshapron/internal/core/knife"
	"freshapron/internal/golden"
)

// Every food with its acts and what a few cuts make of it, and every exercise on it: the
// tests beside this say what is right, and this one sees any move.
func TestFoodsCutsAndExercises(t *testing.T) {
	var b strings.Builder
	for _, f := range knife.Foods {
		fmt.Fprintf(&b, "= %+v\n", f)
		last := f.Cuts[len(f.Cuts)-1] // stands on the others
		fmt.Fprintf(&b, "  %s: %+v\n", last, f.Order(last))
		s := f.Solid
		third := knife.Cuts{{s.Size[0] / 3, s.Size[0] * 0.7, s.Size[0] * 2}, {-s.Size[1] / 5, 0}, {s.Size[2] / 7}}
		for _, cuts := range []knife.Cuts{{}, third, s.Even([3]float64{s.Size[0] / 4, s.Size[1] / 3, 8})} {
			r, err := s.Result(cuts, even.Piece{10, 10, 10})
			pieces := r.Pieces
			knife.Largest(pieces)
			fmt.Fprintf(&b, "  %d strokes, %d pieces, waste %.4f, %.4f, %v\n", cuts.Strokes(s), len(pieces), r.Waste, r.Evenness.CV, err)
			for _, p := range pieces[:min(3, len(pieces))] {
				fmt.Fprintf(&b, "    %.2f mm³ %.2f at %.2f\n", p.Volume, p.Size, p.From)
			}
		}
		for n, kind := range knife.ExerciseKinds {
			e := knife.NewExercise(kind, 4, n+len(f.Name), []knife.Food{f})
			fmt.Fprintf(&b, "  %s: %s %+v %+v %s %.1f\n", kind, e.Ask, e.Choices, e.Acts, e.Cut, e.Target)
			if kind != knife.CutExercise {
				continue
			}
			for _, cuts := range []knife.Cuts{{}, third} {
				c, err := e.Judge(cuts)
				fmt.Fprintf(&b, "    %t %d strokes, %.3f to %.3f min, %q %v\n", c.Right, c.Strokes, c.First, c.Last, c.Instead, err)
			}
		}
	}
	for _, tradition := range knife.Traditions {
		fmt.Fprintf(&b, "= %+v\n", tradition)
	}
	golden.Same(t, "foods.golden", b.String())
}
