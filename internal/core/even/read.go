package even

import (
	"strconv"
	"strings"

	"freshapron/internal/core/problem"
	"freshapron/internal/core/words"
)

// MostSide is the longest side of a piece, in millimetres, and MostPieces how many are
// counted.
const (
	MostSide   = 1000
	MostPieces = 500
)

var marks = strings.NewReplacer("×", " ", "x", " ", ",", ".", "mm", " ", ";", " ", "\t", " ")

// ReadPiece reads the sides of a piece as they are written down: "10 11 9", "14×10×10"
// or "12"; a side that is missing is taken to be as the last.
func ReadPiece(text string) (Piece, error) {
	var p Piece
	sides := strings.Fields(marks.Replace(strings.ToLower(text)))
	if len(sides) == 0 || len(sides) > len(p) {
		return p, problem.New("piece", "“%s” is no piece; write its sides, such as 10 11 9", words.Short(text))
	}
	for i := range p {
		v, err := strconv.ParseFloat(sides[min(i, len(sides)-1)], 64)
		if err != nil || !(v > 0 && v <= MostSide) {
			return p, problem.New("piece", "“%s” is no piece; its sides are over 0 and at most %d mm", words.Short(text), MostSide)
		}
		p[i] = v
	}
	return p, nil
}

// ReadPieces reads pieces, a line each; what can't be read is a problem at "pieces" with
// its line.
func ReadPieces(text string) ([]Piece, error) {
	var out []Piece
	var problems problem.List
	for i, line := range strings.Split(text, "\n") {
		if strings.TrimSpace(line) == "" {
			continue
		}
		p, err := ReadPiece(line)
		if err != nil {
			problems.Add("pieces", "Line %d: %s", i+1, problem.Of(err)[0].Says)
		}
		out = append(out, p)
	}
	switch {
	case len(out) == 0:
		problems.Add("pieces", "Write down the pieces, a line each, or choose a photograph")
	case len(out) > MostPieces:
		problems.Add("pieces", "These are %d pieces, and at most %d are counted", len(out), MostPieces)
	}
	return out, problems.Err()
}

// What surroundings can be in a kitchen, in °C, and how fast heat can go in, in
// W/(m²·K).
const (
	Coldest, Hottest = -60, 400
	MostTransfer     = 100_000
)

// Check returns what of the heating can't be, with its path: h, start_c, around_c or
// to_c.
func (c Cook) Check() error {
	var out problem.List
	if !(c.H > 0 && c.H <= MostTransfer) {
		out.Add("h", "is %g; it must be above 0 and at most %d W/(m²·K)", c.H, MostTransfer)
	}
	for _, v := range []struct {
		path string
		c    float64
	}{{"start_c", c.Start}, {"around_c", c.Around}, {"to_c", c.To}} {
		if !(v.c >= Coldest && v.c <= Hottest) {
			out.Add(v.path, "is %g; it must be from %d to %d °C", v.c, Coldest, Hottest)
		}
	}
	if out == nil && !(c.To > min(c.Start, c.Around) && c.To < max(c.Start, c.Around)) {
		out.Add("to_c", "is %g; it must lie between start_c, %g, and around_c, %g: the centre never comes to another", c.To, c.Start, c.Around)
	}
	return out.Err()
}
