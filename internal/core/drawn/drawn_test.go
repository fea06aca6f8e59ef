package drawn_test

import (
	"fmt"
	"image"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"

	"freshapron/internal/core/drawn"
	"freshapron/internal/golden"
)

// Each picture as a mosaic of the means of its tiles, in red, green and blue, and one row
// of pixels through a piece's edge: any move of what is drawn is seen.
func TestPictures(t *testing.T) {
	var b strings.Builder
	for _, e := range drawn.Examples {
		fmt.Fprintf(&b, "= %s, %v\n", e.Says, e.Target)
		s := e.Scene()
		img := s.Draw()
		mosaic(&b, img, 75)
		first := s.Pieces[0]
		row := int(first.Y / s.MMPerPx)
		for x := int((first.X - first.Length) / s.MMPerPx); x < int((first.X+first.Length)/s.MMPerPx); x += 3 {
			fmt.Fprintf(&b, " %d", img.RGBAAt(x, row).R)
		}
		b.WriteString("\n")
	}
	fmt.Fprintf(&b, "= foods %v, boards %v\n", drawn.Foods, drawn.Boards)
	for seed := range uint64(4) {
		fmt.Fprintf(&b, "= plate %d\n", seed)
		mosaic(&b, drawn.Plate(seed).Draw(), 40)
	}
	golden.Same(t, "pictures.golden", b.String())
}

func mosaic(b *strings.Builder, img *image.RGBA, side int) {
	for y := 0; y < img.Rect.Dy(); y += side {
		for x := 0; x < img.Rect.Dx(); x += side {
			var sum [3]int
			for v := range side {
				for u := range side {
					c := img.RGBAAt(x+u, y+v)
					if !image.Pt(x+u, y+v).In(img.Rect) {
						continue
					}
					if c.A != 255 {
						b.WriteString(" shines through")
					}
					sum[0], sum[1], sum[2] = sum[0]+int(c.R), sum[1]+int(c.G), sum[2]+int(c.B)
				}
			}
			fmt.Fprintf(b, " %02x%02x%02x", sum[0]/side/side, sum[1]/side/side, sum[2]/side/side)
		}
		b.WriteString("\n")
	}
}

func TestEveryPieceIsOfTheSizeThatWasAsked(t *testing.T) {
	s := drawn.Board("carrot", "white", 900, 675, 20, 40, 6, 0, 30, 1)
	assert.Len(t, s.Pieces, 20)
	for _, p := range s.Pieces {
		assert.Equal(t, []float64{40, 6}, []float64{p.Length, p.Wide})
		assert.True(t, 0 < p.X && p.X < 900*s.MMPerPx && 0 < p.Y && p.Y < 675*s.MMPerPx, "lies in the picture")
	}
}
