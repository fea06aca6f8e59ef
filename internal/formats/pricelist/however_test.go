package pricelist_test

import (
	"fmt"
	"os"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"

	"freshapron/internal/core/pantry"
	"freshapron/internal/formats/pricelist"
	"freshapron/internal/formats/table"
	"freshapron/internal/golden"
)

// A price list is read alike whatever program it comes from.
func TestHoweverListsAreWritten(t *testing.T) {
	var cases []golden.Case
	for _, file := range []string{"testdata/tuned.txt", "testdata/measured.txt"} {
		text, err := os.ReadFile(file)
		require.NoError(t, err)
		for _, block := range strings.Split(string(text), "## ")[1:] {
			title, rest, _ := strings.Cut(block, "\n")
			list, _, _ := strings.Cut(rest, "\n=> ")
			cases = append(cases, golden.Case{Title: title, Text: list})
		}
	}
	golden.Alike(t, cases, 99, func(data []byte) (string, bool) {
		rows, err := table.Read(data)
		if err != nil {
			return err.Error(), true
		}
		products, err := pricelist.Read(rows, pantry.Stock())
		if err != nil {
			return err.Error(), true
		}
		var says []string
		asks := false
		for _, r := range products {
			asks = asks || r.Problems != nil
			says = append(says, fmt.Sprintf("%s %s %d %s", r.Product.Item, r.Product.Size, r.Product.Pence, strings.Join(r.Problems, "; ")))
		}
		return strings.Join(says, "; "), asks
	})
}
