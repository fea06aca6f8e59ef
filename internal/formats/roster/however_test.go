package roster_test

import (
	"strings"
	"testing"

	"freshapron/internal/formats/roster"
	"freshapron/internal/golden"
)

// A class list is read alike whatever program it comes from.
func TestHoweverListsAreWritten(t *testing.T) {
	cases := append(golden.Cases(t, "tuned.txt"), golden.Cases(t, "measured.txt")...)
	golden.Alike(t, cases, 95, func(data []byte) (string, bool) {
		l, err := roster.Open(data)
		if err != nil {
			return err.Error(), true
		}
		l.InOneClass()
		var says []string
		asks := false
		for _, r := range roster.Read(l.Rows, l.Columns, l.Head, "8 Hazel", today) {
			if r.Aside {
				continue
			}
			asks = asks || r.Problems != nil
			says = append(says, understood(r)+strings.Join(r.Problems, ""))
		}
		return strings.Join(says, "; "), asks
	})
}
