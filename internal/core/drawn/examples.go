package drawn

import "fmt"

// An Example is a drawn photograph to try measuring with.
type Example struct {
	Says   string     // what lies on it
	Target [3]float64 // what the pieces were to be, mm
	Scene  func() Scene
}

// Examples are those to try with: as even and as uneven as learners cut. On the last two
// pieces touch, so that it is doubtful where one ends.
var Examples = func() []Example {
	var out []Example
	add := func(food, board string, count int, length, width, spread, turn float64) {
		seed, shadows := uint64(len(out))+40, len(out)%2 == 0
		says, target := fmt.Sprintf("%d pieces of %s on a %s board", count, food, board), [3]float64{length, width, width}
		out = append(out, Example{says, target, func() Scene {
			s := Board(food, board, 900, 675, count, length, width, spread, turn, seed)
			s.Light, s.Shadows, s.Grain = 0.15, shadows, 4
			return s
		}})
	}
	add("carrot", "white", 12, 10, 10, 0.06, 0)
	add("carrot", "green", 16, 10, 10, 0.22, 12)
	add("potato", "blue", 9, 20, 20, 0.10, 0)
	add("potato", "dark", 14, 20, 20, 0.24, 30)
	add("courgette", "white", 10, 15, 12, 0.08, 75)
	add("courgette", "blue", 12, 15, 12, 0.25, 0)
	add("beetroot", "white", 12, 12, 12, 0.12, 140)
	add("beetroot", "wood", 8, 12, 12, 0.25, 8)
	add("red pepper", "white", 15, 40, 6, 0.10, 0)
	add("aubergine", "green", 9, 25, 25, 0.15, 200)
	add("carrot", "blue", 10, 12, 12, 0.12, 20)
	add("red pepper", "white", 9, 20, 18, 0.12, 0)
	for i, touching := range []int{1, 2} {
		e := &out[len(out)-2+i]
		plain := e.Scene
		e.Says += ", some of them touching"
		e.Scene = func() Scene {
			s := plain()
			for n := range touching {
				to, p := s.Pieces[2*n], &s.Pieces[2*n+1]
				p.Angle = to.Angle
				p.X, p.Y = to.X+0.5*(to.Length+p.Length), to.Y+0.3*to.Wide
			}
			return s
		}
	}
	return out
}()
