package school

import (
	"crypto/rand"
	"math/big"
	"strings"
)

// letters are those that nobody takes for another, and no vowels, so that they make no
// words: 4.7 bits each.
const letters = "bcdfghjkmnpqrstvwxz2345678"

// NewCode makes a code of so many letters that nobody guesses.
func NewCode(length int) (string, error) {
	var b strings.Builder
	for range length {
		i, err := rand.Int(rand.Reader, big.NewInt(int64(len(letters))))
		if err != nil {
			return "", err
		}
		b.WriteByte(letters[i.Int64()])
	}
	return b.String(), nil
}
