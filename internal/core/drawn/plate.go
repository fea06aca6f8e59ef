package drawn

import (
	"image/color"
	"math"
	"math/rand/v2"
)

// Plate is a photograph of a plate of food, made up: a round plate on a board with pieces
// of some foods.
func Plate(seed uint64) Scene {
	rng := rand.New(rand.NewPCG(seed, 3))
	const across, scale = 220.0, 0.5
	s := Scene{Wide: 480, High: 360, MMPerPx: scale, Board: Boards[[]string{"wood", "green", "blue", "dark"}[rng.IntN(4)]], Light: 0.15, Grain: 3, Seed: seed}
	cx, cy := float64(s.Wide)*scale/2, float64(s.High)*scale/2
	round := func(x, y, d float64, c color.RGBA) {
		s.Pieces = append(s.Pieces, Piece{X: x, Y: y, Length: d, Wide: d, Round: true, Colour: c})
	}
	// What is first among the pieces lies above.
	foods := []string{"carrot", "potato", "beetroot", "courgette", "red pepper", "aubergine"}
	rng.Shuffle(len(foods), func(i, j int) { foods[i], foods[j] = foods[j], foods[i] })
	for k, food := range foods[:3] {
		sin, cos := math.Sincos(2*math.Pi*float64(k)/3 + rng.Float64())
		for range 9 {
			p := Piece{X: cx + 32*cos + 14*rng.NormFloat64(), Y: cy + 32*sin + 12*rng.NormFloat64(), Angle: 180 * rng.Float64(), Length: 14 + 8*rng.Float64(), Wide: 9 + 5*rng.Float64(), Round: rng.IntN(2) == 0, Colour: Foods[food]}
			s.Pieces = append(s.Pieces, p)
		}
	}
	round(cx, cy, across*0.52, color.RGBA{246, 244, 238, 255})
	round(cx, cy, across*0.68, color.RGBA{228, 226, 220, 255})
	return s
}
