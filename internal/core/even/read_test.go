package even_test

import (
	"math"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"freshapron/internal/core/even"
	"freshapron/internal/core/problem"
)

// Sides as people write them down beside a board.
func TestReadPieces(t *testing.T) {
	for text, want := range map[string]even.Piece{
		"10 11 9": {10, 11, 9}, "14×10×10": {14, 10, 10}, "14x10 X 9": {14, 10, 9}, "12": {12, 12, 12}, "12 8": {12, 8, 8}, "10,5 10 9": {10.5, 10, 9}, "10 mm 9mm 8 mm": {10, 9, 8}, "10;11;9": {10, 11, 9}, "10\t11\t9": {10, 11, 9}, " 7.5 ": {7.5, 7.5, 7.5}, "1000": {1000, 1000, 1000},
	} {
		p, err := even.ReadPiece(text)
		require.NoError(t, err, text)
		assert.Equal(t, want, p, text)
	}
	for text, says := range map[string]string{
		"": "no piece", "10 11 9 8": "such as 10 11 9", "ten": "“ten” is no piece", "0": "over 0", "-5 4 3": "over 0", "1001": "at most 1000 mm", "NaN": "over 0", "Inf": "at most", "10 11 thick": "no piece", "1 cm": "no piece",
	} {
		_, err := even.ReadPiece(text)
		assert.ErrorContains(t, err, says, text)
	}

	list, err := even.ReadPieces("10 11 9\r\n\n14\n")
	require.NoError(t, err)
	assert.Equal(t, []even.Piece{{10, 11, 9}, {14, 14, 14}}, list)
	_, err = even.ReadPieces("10 11 9\nlong\n12\n1 2 3 4")
	assert.Equal(t, []string{"Line 2: “long” is no piece; its sides are over 0 and at most 1000 mm", "Line 4: “1 2 3 4” is no piece; write its sides, such as 10 11 9"}, said(err), "all that is wrong, at once")
	_, err = even.ReadPieces(" \n\n")
	assert.ErrorContains(t, err, "a line each")
	_, err = even.ReadPieces(strings.Repeat("10\n", even.MostPieces))
	assert.NoError(t, err)
	_, err = even.ReadPieces(strings.Repeat("10\n", even.MostPieces+1))
	assert.ErrorContains(t, err, "501 pieces")
}

func said(err error) []string {
	var out []string
	for _, p := range problem.Of(err) {
		out = append(out, p.Says)
	}
	return out
}

// The middle can only come to what lies between where it begins and what is around it.
func TestWhatHeatingCanBe(t *testing.T) {
	for _, c := range []struct {
		cook even.Cook
		at   string // what is wrong; empty where nothing is
	}{
		{even.Cook{H: 500, Start: 15, Around: 98, To: 85}, ""},
		{even.Cook{H: 25, Start: 70, Around: 5, To: 8}, ""},
		{even.Cook{H: 25, Start: -18, Around: 4, To: 0}, ""},
		{even.Cook{H: even.MostTransfer, Start: even.Coldest, Around: even.Hottest, To: 20}, ""},
		{even.Cook{Start: 15, Around: 98, To: 85}, "h"},
		{even.Cook{H: even.MostTransfer + 1, Start: 15, Around: 98, To: 85}, "h"},
		{even.Cook{H: math.NaN(), Start: 15, Around: 98, To: 85}, "h"},
		{even.Cook{H: 500, Start: -61, Around: 98, To: 85}, "start_c"},
		{even.Cook{H: 500, Start: 15, Around: 401, To: 85}, "around_c"},
		{even.Cook{H: 500, Start: 15, Around: 98, To: math.Inf(1)}, "to_c"},
		{even.Cook{H: 500, Start: 15, Around: 98, To: 98}, "to_c"},
		{even.Cook{H: 500, Start: 15, Around: 98, To: 15}, "to_c"},
		{even.Cook{H: 25, Start: 70, Around: 5, To: 80}, "to_c"},
	} {
		var at string
		if err := c.cook.Check(); err != nil {
			at = problem.Of(err)[0].Path
		}
		assert.Equal(t, c.at, at, "%+v", c.cook)
	}
}
