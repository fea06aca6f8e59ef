package pattern

import (
	"unicode"
	"unicode/utf8"
)

// pairs is how many kinds of pairs of letters are told apart.
const pairs = 1024

// letters are the single letters of a text and its pairs of neighbours, small letters and capitals
// alike.
type letters struct {
	one [256 / 64]uint64
	two [pairs / 64]uint64
}

// pairOf numbers two neighbours.
func pairOf(a, b byte) uint { return (uint(a)*61 + uint(b)) % pairs }

// look takes a text in. It reports false where capitals of the text are no
// letters of ASCII and yet may stand for such: the long s and the sign of kelvin.
func (l *letters) look(text string) bool {
	var before byte
	for i := range len(text) {
		c := text[i]
		if 'A' <= c && c <= 'Z' {
			c += 'a' - 'A'
		}
		if c == 0xBF && before == 0xC5 || c == 0xAA && before == 0x84 {
			return false
		}
		l.one[c/64] |= 1 << (c % 64)
		if i > 0 {
			k := pairOf(before, c)
			l.two[k/64] |= 1 << (k % 64)
		}
		before = c
	}
	return true
}

// hold reports whether one of the pieces may be in the text.
func (l *letters) hold(any pieces) bool {
	for _, p := range any {
		if l.holds(p) {
			return true
		}
	}
	return false
}

func (l *letters) holds(p piece) bool {
	if p.pairs == nil {
		return l.one[p.first/64]&(1<<(p.first%64)) != 0
	}
	for _, k := range p.pairs {
		if l.two[k/64]&(1<<(k%64)) == 0 {
			return false
		}
	}
	return true
}

// A piece is a piece of text by its pairs of letters.
type piece struct {
	first byte
	pairs []uint16 // none where it is one letter
}

// pieces are such as each match holds at least one of.
type pieces []piece

func piecesOf(texts []string) (out pieces) {
	for _, text := range texts {
		out = append(out, pieceOf(text))
	}
	return out
}

func pieceOf(text string) piece {
	p := piece{first: text[0]}
	for i := 1; i < len(text); i++ {
		p.pairs = append(p.pairs, uint16(pairOf(text[i-1], text[i])))
	}
	return p
}

// small returns a letter as it is looked up, and whether it has one way alone to be written but for
// capitals of ASCII.
func small(r rune, fold bool) (string, bool) {
	switch {
	case 'A' <= r && r <= 'Z':
		return string(r + 'a' - 'A'), true
	case r < utf8.RuneSelf:
		return string(r), true
	case r == utf8.RuneError: // which also stands for bytes that are no letter
	case !fold, unicode.SimpleFold(r) == r:
		return string(r), true
	}
	return "", false
}
