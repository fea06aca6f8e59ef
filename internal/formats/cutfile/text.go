package cutfile

import (
	"fmt"
	"io"
	"math"
	"strings"

	"freshapron/internal/core/even"
	"freshapron/internal/core/knife"
	"freshapron/internal/core/words"
	"freshapron/internal/formats/jsonout"
)

// mostShown is how many pieces stand in a text.
const mostShown = 12

// WriteCutText writes what came of cutting for people to read, the largest pieces first.
func WriteCutText(to io.Writer, c knife.Result) error {
	var b strings.Builder
	fmt.Fprintf(&b, "%s; %.0f %% of the food is waste.\n%s", words.Plural(len(c.Pieces), "piece", "pieces"), 100*c.Waste, says(c.Evenness))
	list := append([]knife.Piece(nil), c.Pieces...)
	knife.Largest(list)
	for i, p := range list {
		if i == mostShown {
			fmt.Fprintf(&b, "and %d more\n", len(list)-mostShown)
			break
		}
		fmt.Fprintf(&b, "  %.1f × %.1f × %.1f mm, %.0f mm³\n", p.Size[0], p.Size[1], p.Size[2], p.Volume)
	}
	_, err := io.WriteString(to, b.String())
	return err
}

// says says how even pieces are.
func says(e even.Evenness) string {
	if math.IsNaN(e.SD) {
		return fmt.Sprintf("One piece, of %.1f mm: how even cannot be said of one.\n", e.Mean)
	}
	return fmt.Sprintf("On the average %.1f mm (%.1f to %.1f), give or take %.0f %% (%.0f to %.0f); %.0f %% are off the target (%.0f to %.0f).\n",
		e.Mean, e.MeanInterval.Low, e.MeanInterval.High, e.CV, e.CVInterval.Low, e.CVInterval.High, 100*e.Off, 100*e.OffInterval.Low, 100*e.OffInterval.High)
}

// WriteEvenText writes how even pieces are for people to read.
func WriteEvenText(to io.Writer, p Pieces) error {
	text := says(p.Evenness())
	if p.Cook != nil {
		t := p.Cook.Times(p.Pieces)
		text += fmt.Sprintf("The first is done after %.1f min and the last after %.1f, %.1f times as long; by then the first has come to %.0f °C.\n", t.First, t.Last, t.Ratio, t.FirstAtLast)
	}
	_, err := io.WriteString(to, text)
	return err
}

type photoJSON struct {
	MMPerPx  number      `json:"mm_per_px"`
	Pieces   []foundJSON `json:"pieces"`
	Evenness *evenJSON   `json:"evenness"`
}

type foundJSON struct {
	Size     [2]number `json:"size_mm"`
	Centre   [2]number `json:"centre_px"`
	Angle    number    `json:"angle_deg"`
	Doubtful bool      `json:"doubtful"`
}

// WritePhoto writes what was found on a photograph as JSON. Pieces are taken to be as
// thick as they are wide, and the target to be the middle one of them.
func WritePhoto(to io.Writer, p even.Photo) error {
	out := photoJSON{MMPerPx: number(p.MMPerPx), Pieces: []foundJSON{}}
	for _, f := range p.Pieces {
		out.Pieces = append(out.Pieces, foundJSON{[2]number{number(f.Size[0]), number(f.Size[1])}, [2]number{number(f.Centre[0]), number(f.Centre[1])}, number(f.Angle), f.Doubtful})
	}
	if len(p.Pieces) > 0 {
		e := evenness(p.Evenness())
		out.Evenness = &e
	}
	return jsonout.Write(to, out)
}

// WritePhotoText writes it for people to read.
func WritePhotoText(to io.Writer, p even.Photo) error {
	var b strings.Builder
	doubtful := 0
	for _, f := range p.Pieces {
		fmt.Fprintf(&b, "  %.1f × %.1f mm", f.Size[0], f.Size[1])
		if f.Doubtful {
			doubtful++
			b.WriteString("  doubtful: look at it")
		}
		b.WriteString("\n")
	}
	head := words.Plural(len(p.Pieces), "piece", "pieces") + fmt.Sprintf(", %d of them doubtful.\n", doubtful)
	if len(p.Pieces) > 0 {
		head += says(p.Evenness())
	}
	_, err := io.WriteString(to, head+b.String())
	return err
}
