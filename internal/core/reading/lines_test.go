package reading_test

import (
	"fmt"
	"os"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"

	"freshapron/internal/core/fit"
	"freshapron/internal/core/reading"
	"freshapron/internal/core/recipe"
	"freshapron/internal/golden"
)

// Single lines as people write them, each inside a small recipe: of the method, of the list,
// headings, yields and titles.
func TestSingleLines(t *testing.T) {
	data, err := os.ReadFile("testdata/lines.txt")
	require.NoError(t, err)
	var b strings.Builder
	around := ""
	for _, l := range strings.Split(strings.TrimSpace(string(data)), "\n") {
		if kind, ok := strings.CutPrefix(l, "= "); ok {
			around = map[string]string{
				"method":          "Dish\n200 g flour\n1 onion\n1 carrot\nMix to a dough and shape.\n%s",
				"list":            "Dish\nIngredients\n200 g flour\n300 g sugar\n%s\nMethod\nMix.\nBake for 20 minutes at 180 °C.",
				"yield":           "Leek things\n%s\nIngredients\n200 g flour\n300 g leeks\nMethod\nMix.\nBake for 20 minutes at 180 °C.",
				"over the list":   "Leek bake\n%s\n2 leeks\n50 g cheddar\na little butter\nMethod\nSlice the leeks and fry for 5 minutes.",
				"over the method": "Leek bake\nIngredients\n2 leeks\n50 g cheddar\na little butter\n%s\nSlice the leeks and fry for 5 minutes.",
				"title":           "%s\n200 g chicken breast\n1 onion\n1 tbsp curry paste\nFry the onion for 5 minutes.\nAdd the chicken and simmer for 20 minutes.",
			}[kind]
			fmt.Fprintf(&b, "= %s\n", kind)
			continue
		}
		r := read(fmt.Sprintf(around, l))
		at := 1 + strings.Count(around[:strings.Index(around, "%s")], "\n")
		fmt.Fprintf(&b, "%s\n%s", l, saysOf(r, at))
	}
	golden.Same(t, "lines.golden", b.String())
}

// Whole sheets as departments have them, line by line.
func TestSheets(t *testing.T) {
	data, err := os.ReadFile("testdata/sheets.txt")
	require.NoError(t, err)
	var b strings.Builder
	for _, sheet := range strings.Split(strings.TrimPrefix(strings.TrimSpace(string(data)), "=== "), "\n=== ") {
		kind, text, _ := strings.Cut(sheet, "\n")
		r := read(text)
		fmt.Fprintf(&b, "=== %s\n", kind)
		for n, l := range strings.Split(text, "\n") {
			fmt.Fprintf(&b, "%s\n%s", l, saysOf(r, n+1))
		}
		for n, s := range r.Steps {
			var after []int
			for _, a := range s.After {
				after = append(after, a.Step)
			}
			fmt.Fprintf(&b, "%d after %v\n", n, after)
		}
	}
	golden.Same(t, "sheets.golden", b.String())
}

// saysOf is what was read of a line, in short.
func saysOf(r reading.Reading, at int) string {
	var b strings.Builder
	say := func(format string, args ...any) { fmt.Fprintf(&b, "  "+format+"\n", args...) }
	if r.TitleLine == at {
		say("title %s", r.Title)
	}
	if r.Yield.Line == at {
		say("yield %d–%d %s", r.Yield.Count, r.Yield.Most, r.Yield.Piece)
	}
	if slices.Contains(r.Headings, at) {
		say("heading")
	}
	for _, i := range r.Ingredients {
		if i.Line == at {
			t := i.Taking
			amount := "-"
			if t.Reading.Given {
				amount = t.Reading.Low.Decimal(2) + "–" + t.Reading.High.Decimal(2) + " " + t.Reading.Unit.Symbol
			}
			say("%s %q %s; %s; %s; %q", amount, t.Ingredient.Name, t.Ingredient.Pantry, t.Ingredient.Note, i.Prepared, t.Reading.Doubts)
		}
	}
	for _, s := range r.Steps {
		if !slices.Contains(s.Lines, at) {
			continue
		}
		minutes := func(m reading.Minutes) string {
			sign := map[recipe.Origin]string{recipe.Said: "", recipe.Typical: "~"}[m.From]
			return sign + m.Least.Decimal(2) + "–" + m.Most.Decimal(2)
		}
		text := fmt.Sprintf("%s %s", s.Kind, minutes(s.Work))
		if s.Wait.From != "" {
			text += ", waits " + minutes(s.Wait)
		}
		for _, u := range s.Uses {
			text += ", " + u.Equipment
			if u.Celsius != nil {
				text += " " + u.Celsius.Decimal(0)
			}
		}
		if l := s.Loads; l != nil {
			text += fmt.Sprintf(", %d at a time %s", l.PerLoad, minutes(l.Each))
		}
		if s.Adult != fit.NoAdult {
			text += ", adult " + string(s.Adult)
		}
		for _, a := range s.After {
			if a.MinGap.Sign() > 0 {
				text += ", no sooner than " + a.MinGap.Decimal(0)
			}
			if a.MaxGap != nil {
				text += ", within " + a.MaxGap.Decimal(0)
			}
		}
		say("%s: %s %q", text, s.Text, s.Asks)
	}
	for _, f := range r.Facts {
		if f.Line == at {
			say("fact %s", f.Says)
		}
	}
	for _, u := range r.Unread {
		if u.Line == at {
			say("? %s: %s", u.Text, u.Why)
		}
	}
	return b.String()
}
