package words

import (
	"fmt"
	"strings"
)

// DidYouMean returns a question with the nearest known word, or nothing where
// none is near.
func DidYouMean(word string, known []string) string {
	if near := Nearest(word, known); near != "" {
		return fmt.Sprintf("; did you mean %q?", near)
	}
	return ""
}

// Nearest returns the known word that is at most a third of its letters away
// from word, or "".
func Nearest(word string, known []string) string {
	best, at := "", 0
	for _, k := range known {
		d := distance(strings.ToLower(word), strings.ToLower(k))
		if d <= max(1, len([]rune(k))/3) && (best == "" || d < at) {
			best, at = k, d
		}
	}
	return best
}

// distance counts the letters to insert, delete, replace or swap with a
// neighbour to turn a into b (restricted Damerau–Levenshtein).
func distance(a, b string) int {
	s, t := []rune(a), []rune(b)
	if len(s) > 64 || len(t) > 64 {
		return 64
	}
	rows := make([][]int, len(s)+1)
	for i := range rows {
		rows[i] = make([]int, len(t)+1)
		rows[i][0] = i
	}
	for j := range rows[0] {
		rows[0][j] = j
	}
	for i := 1; i <= len(s); i++ {
		for j := 1; j <= len(t); j++ {
			change := 1
			if s[i-1] == t[j-1] {
				change = 0
			}
			rows[i][j] = min(rows[i-1][j]+1, rows[i][j-1]+1, rows[i-1][j-1]+change)
			if i > 1 && j > 1 && s[i-1] == t[j-2] && s[i-2] == t[j-1] {
				rows[i][j] = min(rows[i][j], rows[i-2][j-2]+1)
			}
		}
	}
	return rows[len(s)][len(t)]
}
