package even

import (
	"errors"
	"image"
	"image/draw"
	"math"
)

// A Found is a piece on a photograph: its smallest enclosing rectangle.
type Found struct {
	Size     [2]float64 // length and width, mm
	Centre   [2]float64 // pixels of the photograph, from its top left
	Angle    float64    // of the length, degrees from the x axis towards the y axis, from 0 to under 180
	Doubtful bool       // two that touch, one that reaches over the edge, no plain shape
}

// Volume of the piece where it is as thick as it is wide, in cubic millimetres.
func (f Found) Volume() float64 { return f.Size[0] * f.Size[1] * f.Size[1] }

// A Photo is what was found on a photograph.
type Photo struct {
	MMPerPx float64
	Pieces  []Found
}

// ErrNoStrip says that the reference is not on the photograph.
var ErrNoStrip = errors.New("the reference strip is not to be seen: lay it flat beside the pieces, with both its discs in the picture")

// The reference strip, in millimetres: white, with a black border, and two black discs
// whose centres lie the reference apart.
const (
	StripWide   = 20.0
	StripOver   = 40.0 // by how much it is longer than the reference
	StripDisc   = 8.0
	StripBorder = 1.0
)

// How far the discs of a strip can be apart, in millimetres.
const LeastReference, MostReference = 20, 1000

// workPixels is about how many pixels are worked on: more say nothing more of pieces
// of some millimetres.
const workPixels = 1_600_000

// Measure finds the pieces that lie apart on a plain ground, and the reference strip by
// whose length in millimetres they are measured. It returns ErrNoStrip where that is not
// to be seen.
func Measure(img image.Image, reference float64) (Photo, error) {
	p := reduce(img)
	strip, ok := p.strip(reference)
	if !ok {
		return Photo{}, ErrNoStrip
	}
	mm := reference / strip.length
	out := Photo{MMPerPx: mm / p.by}
	p.takeGround(strip, mm)
	blobs := p.blobs(mm)
	for i, b := range blobs {
		for _, n := range b.at {
			p.label[n] = int32(i + 1)
		}
	}
	for i, b := range blobs {
		if f, ok := p.measure(b, int32(i+1), mm); ok {
			out.Pieces = append(out.Pieces, f)
		}
	}
	doubtTheOdd(out.Pieces)
	return out, nil
}

// oddTimes is by how many times the median a piece's area has to be larger to be taken
// for several.
const oddTimes = 2.6

func doubtTheOdd(list []Found) {
	if len(list) < 3 {
		return
	}
	areas := make([]float64, len(list))
	for i, f := range list {
		areas[i] = f.Size[0] * f.Size[1]
	}
	middle := median(areas)
	for i := range list {
		list[i].Doubtful = list[i].Doubtful || list[i].Size[0]*list[i].Size[1] > oddTimes*middle
	}
}

type colour [3]float32

func (c colour) light() float32 { return 0.3*c[0] + 0.59*c[1] + 0.11*c[2] }

func (c colour) chroma() float32 { return max(c[0], c[1], c[2]) - min(c[0], c[1], c[2]) }

// A picture is a photograph made smaller.
type picture struct {
	w, h  int
	by    float64 // pixels of the photograph to one of this
	px    []colour
	far   []float32 // how far each pixel is from the ground
	mask  []bool    // what is no ground
	label []int32   // which blob, from 1 on
}

// reduce averages squares of pixels.
func reduce(img image.Image) *picture {
	b := img.Bounds()
	rgba, ok := img.(*image.RGBA)
	if !ok {
		rgba = image.NewRGBA(image.Rect(0, 0, b.Dx(), b.Dy()))
		draw.Draw(rgba, rgba.Bounds(), img, b.Min, draw.Src)
		b = rgba.Bounds()
	}
	f := max(1, int(math.Ceil(math.Sqrt(float64(b.Dx()*b.Dy())/workPixels))))
	p := &picture{w: b.Dx() / f, h: b.Dy() / f, by: float64(f)}
	p.px, p.label = make([]colour, p.w*p.h), make([]int32, p.w*p.h)
	for y := range p.h {
		for x := range p.w {
			var sum [3]int
			for v := range f {
				at := rgba.PixOffset(b.Min.X+x*f, b.Min.Y+y*f+v)
				for u := range f {
					for c := range 3 {
						sum[c] += int(rgba.Pix[at+4*u+c])
					}
				}
			}
			for c := range 3 {
				p.px[y*p.w+x][c] = float32(sum[c]) / float32(f*f)
			}
		}
	}
	return p
}

// A line is the strip's middle, from disc to disc, in pixels.
type line struct {
	x0, y0, x1, y1 float64
	length         float64
}

// A disc is a dark round blob.
type disc struct{ x, y, d, dark float64 }

const (
	darkest    = 110 // of 255, that a black disc may be lit to
	greyest    = 70  // of chroma
	leastDisc  = 5   // pixels across
	brighter   = 55  // than the discs the white of the strip is
	discsAlike = 0.2
	asReckoned = 0.15 // by which distance to diameter may differ from the strip's
)

// strip finds the reference.
func (p *picture) strip(reference float64) (line, bool) {
	var best line
	score := 0.0
	discs := p.discs()
	for i, a := range discs {
		for _, b := range discs[:i] {
			d := (a.d + b.d) / 2
			length := math.Hypot(a.x-b.x, a.y-b.y)
			if math.Abs(a.d-b.d) > discsAlike*d || math.Abs(length/d*StripDisc/reference-1) > asReckoned {
				continue
			}
			l := line{a.x, a.y, b.x, b.y, length}
			if s := p.white(l, d/StripDisc) - max(a.dark, b.dark); s > brighter && s > score {
				best, score = l, s
			}
		}
	}
	return best, score > 0
}

// white is how bright the strip is where it must be white: beside the discs and between
// them; 0 where it is coloured there.
func (p *picture) white(l line, mm float64) float64 {
	ux, uy := (l.x1-l.x0)/l.length, (l.y1-l.y0)/l.length
	least := math.Inf(1)
	at := func(along, across float64) {
		x, y := l.x0+ux*along-uy*across, l.y0+uy*along+ux*across
		c, ok := p.at(x, y)
		if !ok || c.chroma() > greyest {
			least = 0
			return
		}
		least = min(least, float64(c.light()))
	}
	for _, end := range []float64{0, l.length} {
		at(end, 6.5*mm)
		at(end, -6.5*mm)
	}
	between := min(6.5*mm, l.length/2)
	at(between, 0)
	at(l.length-between, 0)
	at(-6.5*mm, 0)
	at(l.length+6.5*mm, 0)
	return least
}

func (p *picture) at(x, y float64) (colour, bool) {
	i, j := int(x), int(y)
	if x < 0 || y < 0 || i >= p.w || j >= p.h {
		return colour{}, false
	}
	return p.px[j*p.w+i], true
}

// discs are the dark round blobs.
func (p *picture) discs() []disc {
	dark := make([]bool, len(p.px))
	for i, c := range p.px {
		dark[i] = c.light() < darkest && c.chroma() < greyest
	}
	var out []disc
	for _, b := range components(dark, p.w, p.h) {
		w, h := float64(b.x1-b.x0+1), float64(b.y1-b.y0+1)
		fill := float64(len(b.at)) / (w * h)
		if min(w, h) < leastDisc || max(w, h) > 1.3*min(w, h)+2 || fill < 0.62 || fill > 0.92 || max(w, h) > float64(max(p.w, p.h))/4 {
			continue
		}
		// The centre by how dark it is, round about as well: its edge lies between pixels.
		darkness := 255.0
		for _, at := range b.at {
			darkness = min(darkness, float64(p.px[at].light()))
		}
		var sx, sy, sum float64
		for y := max(0, b.y0-2); y <= min(p.h-1, b.y1+2); y++ {
			for x := max(0, b.x0-2); x <= min(p.w-1, b.x1+2); x++ {
				v := max(0, darkest+40-float64(p.px[y*p.w+x].light()))
				sx, sy, sum = sx+v*(float64(x)+0.5), sy+v*(float64(y)+0.5), sum+v
			}
		}
		out = append(out, disc{sx / sum, sy / sum, 2 * math.Sqrt(float64(len(b.at))/math.Pi), darkness})
	}
	return out
}

// A blob is pixels that hold together.
type blob struct {
	at             []int
	x0, y0, x1, y1 int
	split          bool // off another
}

func components(mask []bool, w, h int) []blob {
	seen := make([]bool, len(mask))
	var out []blob
	var stack []int
	for start, in := range mask {
		if !in || seen[start] {
			continue
		}
		b := blob{x0: w, y0: h, x1: -1, y1: -1}
		stack = append(stack[:0], start)
		seen[start] = true
		for len(stack) > 0 {
			n := stack[len(stack)-1]
			stack = stack[:len(stack)-1]
			b.add(n, w)
			x, y := n%w, n/w
			for _, d := range [4][2]int{{1, 0}, {-1, 0}, {0, 1}, {0, -1}} {
				i, j := x+d[0], y+d[1]
				if i < 0 || j < 0 || i >= w || j >= h {
					continue
				}
				if m := j*w + i; mask[m] && !seen[m] {
					seen[m] = true
					stack = append(stack, m)
				}
			}
		}
		out = append(out, b)
	}
	return out
}

func (b *blob) add(n, w int) {
	x, y := n%w, n/w
	b.at = append(b.at, n)
	b.x0, b.y0, b.x1, b.y1 = min(b.x0, x), min(b.y0, y), max(b.x1, x), max(b.y1, y)
}

// Evenness of the pieces, which are taken to be as thick as they are wide, beside the
// middle one of them. There is at least one.
func (p Photo) Evenness() Evenness {
	volumes := make([]float64, len(p.Pieces))
	for i, f := range p.Pieces {
		volumes[i] = f.Volume()
	}
	return Of(volumes, median(volumes))
}
