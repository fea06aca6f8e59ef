// Package drawn draws photographs of cut pieces on a board with the reference strip,
// from nothing but their description: for demonstrations and tests.
package drawn

import (
	"image"
	"image/color"
	"math"
	"math/rand/v2"
)

// A Piece lies on the board. Lengths are millimetres, angles degrees from the x axis
// towards the y axis.
type Piece struct {
	X, Y, Angle  float64
	Length, Wide float64
	Round        bool // an ellipse
	Colour       color.RGBA

	sin, cos float64 // of the angle, while it is drawn
}

// A Scene is what the camera sees.
type Scene struct {
	Wide, High int     // pixels
	MMPerPx    float64 // of the photograph
	Board      color.RGBA
	Pieces     []Piece
	// Of the strip: its reference, 0 for none, its middle and its angle.
	Reference, StripX, StripY, StripAngle float64
	Light                                 float64 // by what share it is darker at one side
	Shadows                               bool    // each piece throws one
	Grain                                 float64 // of 255, the camera's
	Seed                                  uint64

	sin, cos float64 // of the strip's angle, while it is drawn
}

// grid is how many samples along and down a pixel is averaged of.
const grid = 3

// Draw draws the photograph. The same scene gives the same picture.
func (s Scene) Draw() *image.RGBA {
	img := image.NewRGBA(image.Rect(0, 0, s.Wide, s.High))
	rng := rand.New(rand.NewPCG(s.Seed, 1))
	s.sin, s.cos = math.Sincos(s.StripAngle * math.Pi / 180)
	near := s.near()
	for y := range s.High {
		for x := range s.Wide {
			here := near(x, y)
			sample := func(k int) [3]float64 {
				return s.at((float64(x)+(float64(k%grid)+0.5)/grid)*s.MMPerPx, (float64(y)+(float64(k/grid)+0.5)/grid)*s.MMPerPx, here)
			}
			sum := sample(0)
			if last := sample(grid*grid - 1); last != sum || sample(grid-1) != sum || sample(grid*(grid-1)) != sum { // an edge goes through it
				for k := 1; k < grid*grid; k++ {
					c := sample(k)
					for i := range sum {
						sum[i] += c[i]
					}
				}
				for i := range sum {
					sum[i] /= grid * grid
				}
			}
			light := 1 - s.Light*float64(x+y)/float64(s.Wide+s.High)
			at := img.PixOffset(x, y)
			for i, v := range sum {
				if v *= light; s.Grain > 0 {
					v += s.Grain * rng.NormFloat64()
				}
				img.Pix[at+i] = uint8(math.Round(min(255, max(0, v))))
			}
			img.Pix[at+3] = 255
		}
	}
	return img
}

// cellSize, in pixels, is of the squares by which pieces are looked up.
const cellSize = 32

// near returns which pieces can lie in a pixel.
func (s Scene) near() func(x, y int) []Piece {
	wide, high := s.Wide/cellSize+1, s.High/cellSize+1
	cells := make([][]Piece, wide*high)
	for _, p := range s.Pieces {
		p.sin, p.cos = math.Sincos(p.Angle * math.Pi / 180)
		reach := (math.Hypot(p.Length, p.Wide)/2 + 2*shadow) / s.MMPerPx
		x, y := p.X/s.MMPerPx, p.Y/s.MMPerPx
		for i := max(0, int(x-reach)/cellSize); i <= min(wide-1, int(x+reach)/cellSize); i++ {
			for j := max(0, int(y-reach)/cellSize); j <= min(high-1, int(y+reach)/cellSize); j++ {
				cells[j*wide+i] = append(cells[j*wide+i], p)
			}
		}
	}
	return func(x, y int) []Piece { return cells[y/cellSize*wide+x/cellSize] }
}

// shadow is how far one is thrown, in millimetres, and darkest how dark it is.
const shadow, darkest = 2.5, 0.72

func (s Scene) at(x, y float64, near []Piece) [3]float64 {
	for _, p := range near {
		if p.holds(x, y) {
			return rgb(p.Colour, 1)
		}
	}
	if c, ok := s.strip(x, y); ok {
		return [3]float64{c, c, c}
	}
	light := 1.0
	if s.Shadows {
		for _, p := range near {
			if p.holds(x-shadow, y-shadow) {
				light = darkest
			}
		}
	}
	return rgb(s.Board, light)
}

func rgb(c color.RGBA, light float64) [3]float64 {
	return [3]float64{float64(c.R) * light, float64(c.G) * light, float64(c.B) * light}
}

func (p Piece) holds(x, y float64) bool {
	u, v := turned(x-p.X, y-p.Y, p.sin, p.cos)
	if p.Round {
		return sq(2*u/p.Length)+sq(2*v/p.Wide) <= 1
	}
	return 2*math.Abs(u) <= p.Length && 2*math.Abs(v) <= p.Wide
}

func turned(x, y, sin, cos float64) (u, v float64) {
	return x*cos + y*sin, y*cos - x*sin
}

func sq(v float64) float64 { return v * v }

// The strip: white, 20 mm wide and 40 mm longer than the reference, with a black border
// of 1 mm and two black discs of 8 mm.
func (s Scene) strip(x, y float64) (light float64, ok bool) {
	if s.Reference == 0 {
		return 0, false
	}
	const white, black = 246, 24
	u, v := turned(x-s.StripX, y-s.StripY, s.sin, s.cos)
	u, v = math.Abs(u), math.Abs(v)
	long, wide := s.Reference/2+20, 10.0
	switch {
	case u > long || v > wide:
		return 0, false
	case u > long-1 || v > wide-1, sq(u-s.Reference/2)+sq(v) <= 16:
		return black, true
	}
	return white, true
}

// Foods are the colours of cut foods; typical.
var Foods = map[string]color.RGBA{
	"carrot": {224, 124, 46, 255}, "potato": {232, 212, 150, 255}, "beetroot": {122, 24, 52, 255},
	"courgette": {170, 190, 98, 255}, "red pepper": {190, 40, 34, 255}, "aubergine": {70, 36, 66, 255},
}

// Boards are the colours of boards.
var Boards = map[string]color.RGBA{
	"white": {232, 232, 228, 255}, "green": {96, 150, 108, 255}, "blue": {92, 130, 176, 255}, "wood": {186, 150, 108, 255}, "dark": {52, 56, 60, 255},
}

// Board lays pieces of a food out in rows on a board, at random angles and apart, with
// the strip above them; each is of the target's length and width, times a factor of its
// own with the given spread. It fits a photograph of so many pixels.
func Board(food, board string, wide, high, count int, length, width, spread, turn float64, seed uint64) Scene {
	rng := rand.New(rand.NewPCG(seed, 2))
	const reference = 100.0
	columns := int(math.Ceil(math.Sqrt(float64(count) * float64(wide) / float64(high))))
	rows := (count + columns - 1) / columns
	pitch := 1.45*math.Hypot(length, width)*(1+1.2*spread) + 4
	mmWide, mmHigh := float64(columns)*pitch+20, float64(rows)*pitch+60
	scale := max(mmWide/float64(wide), mmHigh/float64(high), (reference+60)/float64(wide))
	s := Scene{Wide: wide, High: high, MMPerPx: scale, Board: Boards[board], Reference: reference, Seed: seed}
	sin, cos := math.Sincos(turn * math.Pi / 180)
	cx, cy := float64(wide)*scale/2, float64(high)*scale/2
	place := func(x, y float64) (float64, float64) { return cx + x*cos - y*sin, cy + x*sin + y*cos }
	fit := 1.0 // what is turned must still lie in the picture
	if turn != 0 {
		fit = min(float64(wide), float64(high)) / math.Hypot(float64(wide), float64(high))
	}
	s.MMPerPx /= fit
	cx, cy = cx/fit, cy/fit
	s.StripX, s.StripY = place(0, -mmHigh/2+20)
	s.StripAngle = turn
	for i := range count {
		f := math.Exp(spread * rng.NormFloat64())
		x := (float64(i%columns)+0.5)*pitch - float64(columns)*pitch/2
		y := (float64(i/columns)+0.5)*pitch - mmHigh/2 + 50
		p := Piece{Angle: turn + rng.Float64()*180, Length: length * f, Wide: width * f, Colour: Foods[food]}
		p.X, p.Y = place(x, y)
		s.Pieces = append(s.Pieces, p)
	}
	return s
}
